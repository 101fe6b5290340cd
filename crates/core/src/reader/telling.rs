//! What a sentence tells: ingredients with what corrects or adds to them, steps, remarks.

use super::{
    Unread,
    amount::Amount,
    event::{Event, Told, What},
    lexicon::{Act, Head, Role},
    line::{Place, Writing},
    parts::{Part, PartKind},
    read_line::ReadLine,
    recipe::{Around, Recipe, Taken, stage_of},
    scan::Scan,
    sentence, steps,
    text::TextLine,
    token::Kind,
};
use crate::{formula::Stage, pantry::Family};

impl<'a> Recipe<'_, 'a, '_> {
    /// Reads a sentence; the heading that holds behind it.
    pub(super) fn sentence(&mut self, around: Around, from: usize, to: usize) -> Head {
        let mut events = sentence::events(self.scan, from, to);
        if self.flour_shares(&events, around.line.number, from, to) {
            return around.head;
        }
        self.totals(&mut events, from, to);
        let begins_with = self.deed(&events, from);
        let mut acted = around.acted || begins_with;
        let mut head = around.head;
        let mut lines = 0;
        let mut put_on: Option<usize> = None;
        let listed = !around.acted && !events.iter().any(|e| matches!(e.what, What::Verb(_) | What::Minutes(_) | What::Setting(_)));
        let mut last: Option<usize> = self.last;
        let known = self.reading.lines.len();
        for k in 0..events.len() {
            let Some(e) = events.get(k).cloned() else { break };
            match &e.what {
                What::Head(h) => {
                    acted = *h == Head::Method;
                    head = *h;
                    self.list += 1;
                    self.used_for(e.at, e.end);
                    if *h == Head::Unknown {
                        self.found.unknown_lists.push(self.list);
                    }
                    let span = self.span(e.at, e.end);
                    self.found.parts.push(Part::new(PartKind::Heading, span));
                }
                What::Verb(act) => {
                    acted = true;
                    put_on = (*act == Act::Finish).then_some(e.clause).or(put_on.filter(|_| matches!(act, Act::Finish)));
                }
                What::Line(told) => {
                    let told = self.with_amount_behind(told, &mut events, k);
                    let finish = put_on.is_some_and(|c| e.clause <= c + 2);
                    let place = Place {
                        stage: stage_of(head),
                        put_on: finish,
                        source_line: around.line.number,
                        listed: listed && !acted,
                        list: self.list,
                    };
                    match self.told(&told, &events, k, place, acted, last, to) {
                        Taken::Line(at) => {
                            self.shared_purpose(&events, k, last, at, to);
                            last = Some(at);
                            lines += 1;
                        }
                        Taken::Unknown => lines += usize::from(self.unknown(&e, told.measured, around.line.number, to, acted)),
                        Taken::Passed => {}
                    }
                }
                What::Unreadable => {
                    let source = self.scan.source(self.text, from, to).to_owned();
                    let span = self.span(from, to);
                    self.unread(Unread {
                        source,
                        source_line: around.line.number,
                        words: String::new(),
                        near: Vec::new(),
                        span,
                        grams: None,
                    });
                    lines += 1;
                }
                What::Nameless { sum, corrects } => {
                    lines += usize::from(self.nameless(&events, k, sum, *corrects, last, around.line.number, to, acted));
                }
                _ => {}
            }
        }
        if lines == 0 && !acted && from == around.line.from && to == around.line.to && self.bare_cell(around, from, to) {
            lines += 1;
        }
        self.boiled(&events, known);
        self.last = last;
        self.rest_of_sentence(&events, around.line.number, from, to, lines, head);
        self.whole_source(around.line, lines, from, to);
        if matches!(head, Head::Stage(_) | Head::Bath | Head::Notes)
            && head != around.head
            && events.iter().any(|e| matches!(e.what, What::Head(_)))
            && to < around.line.to
        {
            // `then 450 g flour …` after the levain's sentence is the dough again.
            return self.head;
        }
        around.head
    }

    /// Whether a sentence begins with something done: what it names is then told in a step.
    pub(super) fn deed(&self, events: &[Event<'_>], from: usize) -> bool {
        let first = events.iter().find(|e| !matches!(e.what, What::Then | What::Passed));
        matches!(first.map(|e| &e.what), Some(What::Verb(_) | What::Take)) && first.is_some_and(|e| e.at <= from + 6)
    }

    /// A name, and its amount in the next clause: `a bit of water, maybe quarter cup`.
    pub(super) fn with_amount_behind(&self, told: &Told<'a>, events: &mut [Event<'a>], k: usize) -> Told<'a> {
        let mut told = told.clone();
        if !told.sum.is_empty() || told.percent.is_some() || told.corrects {
            return told;
        }
        let behind = told.tail;
        if let Some(next) = events.get_mut(k + 1)
            && let What::Nameless { sum, .. } = &next.what
            && next.at <= behind + 4
        {
            told.sum.clone_from(sum);
            (told.measured, told.tail) = (next.end, next.end);
            next.what = What::Passed;
        }
        told
    }

    /// Where what is said of the event `k` ends.
    pub(super) fn tail_end(&self, events: &[Event<'_>], k: usize, to: usize) -> usize {
        let Some(e) = events.get(k) else { return to };
        let cuts = |n: &&Event<'_>| match n.what {
            What::Line(_)
            | What::Nameless { .. }
            | What::Unreadable
            | What::Head(_)
            | What::Take
            | What::Minutes(_)
            | What::Setting(_)
            | What::Pieces(_)
            | What::Total
            | What::OvenBand(_) => true,
            What::Verb(_) => n.clause != e.clause,
            What::Passed => n.clause != e.clause && n.end > n.at,
            _ => false,
        };
        let mut end = events.iter().skip(k + 1).find(cuts).map_or(to, |n| n.at.max(e.end));
        while end > e.end && self.is_joint(end - 1) {
            end -= 1;
        }
        end
    }

    /// An ingredient told: a line, a correction, or a part of what is listed.
    #[allow(clippy::too_many_arguments, reason = "where it stands and what is around it")]
    pub(super) fn told(
        &mut self,
        told: &Told<'a>,
        events: &[Event<'a>],
        k: usize,
        place: Place,
        acted: bool,
        last: Option<usize>,
        to: usize,
    ) -> Taken {
        let Some(e) = events.get(k) else { return Taken::Passed };
        let end = self.tail_end(events, k, to);
        if self.denied(told, end) {
            return Taken::Passed;
        }
        let alone = told.sum.is_empty() && told.percent.is_none();
        if alone && events.iter().any(|e| matches!(e.what, What::Unreadable)) {
            return Taken::Passed;
        }
        let listed = |l: &ReadLine| l.ingredient.id == told.name.ingredient.id || l.ingredient.kind == told.name.ingredient.kind;
        if alone && told.corrects {
            // `plain, well, bread flour actually`
            let was = last.and_then(|at| self.reading.lines.get_mut(at));
            if let Some(line) = was.filter(|l| l.ingredient.family == told.name.ingredient.family) {
                line.ingredient = told.name.ingredient.clone();
            }
            return Taken::Passed;
        }
        if told.rest && self.reading.lines.iter().any(listed) {
            return Taken::Passed;
        }
        let deeds = events.iter().any(|e| matches!(e.what, What::Verb(_) | What::Take));
        if alone && (acted || deeds || self.reading.lines.iter().any(listed)) {
            return Taken::Passed;
        }
        let mut told = told.clone();
        if self.table_in_grams {
            for (_, a) in &mut told.sum {
                if a.unit.is_none() && !Scan::is_counted(&told.name.ingredient) {
                    a.unit = self.scan.pantry.measures.by_id("g");
                }
            }
        }
        let place = self.soaked(e, place, last);
        let writing = Writing { scan: self.scan, text: self.text, at: e.at, end, place, beside: Vec::new() };
        let Some(mut read) = writing.read(&told) else { return if alone { Taken::Passed } else { Taken::Unknown } };
        for l in &mut read {
            l.in_step = acted;
        }
        if told.corrects
            && let Some((at, was)) = last
                .and_then(|at| self.reading.lines.get(at).map(|l| (at, l)))
                .filter(|(_, l)| l.ingredient.family == told.name.ingredient.family)
        {
            let start = was.span.0;
            self.reading.lines.truncate(at);
            if let Some(l) = read.first_mut() {
                l.span.0 = start.min(l.span.0);
            }
        }
        self.beaten(e, last, &mut read);
        let at = self.reading.lines.len();
        self.reading.lines.extend(read);
        Taken::Line(at)
    }

    /// `1 egg beaten with 1 tsp water` is brushed on.
    pub(super) fn beaten(&mut self, e: &Event<'_>, last: Option<usize>, read: &mut [ReadLine]) {
        let beaten = self.scan.back(e.at, 3).any(|i| self.scan.role(i, Role::Beaten).is_some_and(|end| end >= e.at));
        let egg = last.and_then(|at| self.reading.lines.get_mut(at)).filter(|l| beaten && l.ingredient.family == Family::Egg);
        let Some(egg) = egg else { return };
        egg.stage = Stage::Finish;
        if let Some(wash) = self.scan.pantry.get("egg-wash").filter(|_| egg.ingredient.kind == "egg-whole") {
            egg.ingredient = wash.clone();
        }
        for l in read {
            l.stage = Stage::Finish;
        }
    }

    /// `boil in water with a spoon of malt and a teaspoon of bicarb`: what the lye is made of is in no dough.
    fn boiled(&mut self, events: &[Event<'_>], known: usize) {
        let boils = events.iter().any(|e| matches!(e.what, What::Verb(Act::Boil)));
        let here = self.reading.lines.get_mut(known..).unwrap_or_default();
        if boils && here.iter().any(|l| l.ingredient.family == Family::Alkali) {
            here.iter_mut().for_each(|l| l.stage = Stage::Finish);
        }
    }

    /// `large knob of ginger-free butter lol no butter`
    pub(super) fn denied(&self, told: &Told<'_>, end: usize) -> bool {
        let same = |at: usize| self.scan.name_at(at, end, true).is_some_and(|x| x.ingredient.id == told.name.ingredient.id);
        (told.tail..end).any(|i| self.scan.role(i, Role::No).is_some_and(same))
    }

    /// `1 egg yolk + 1 tbsp milk, for glazing`: the purpose behind both is the purpose of both.
    pub(super) fn shared_purpose(&mut self, events: &[Event<'a>], k: usize, last: Option<usize>, at: usize, to: usize) {
        let Some(e) = events.get(k) else { return };
        let joined = self.scan.back(e.at, 1).any(|i| self.scan.mark(i, '+'));
        let end = self.tail_end(events, k, to);
        let purposed = (e.end..end).any(|i| self.scan.pick(i, |r| matches!(r, Role::Purpose(_)).then_some(())).is_some());
        let stage = self.reading.lines.get(at).map(|l| l.stage);
        let before = last.and_then(|l| self.reading.lines.get_mut(l)).filter(|_| joined && purposed && k > 0);
        if let (Some(l), Some(Stage::Finish)) = (before, stage) {
            l.stage = Stage::Finish;
        }
    }

    /// What something is soaked in goes with it: `120 g seeds, soaked in 120 g water`.
    pub(super) fn soaked(&self, e: &Event<'_>, place: Place, last: Option<usize>) -> Place {
        let soaks = self.scan.back(e.at, 3).any(|i| self.scan.role(i, Role::Soaked).is_some_and(|end| end >= e.at));
        let Some(main) = last.and_then(|at| self.reading.lines.get(at)).filter(|_| soaks) else { return place };
        let stage = match main.stage {
            Stage::Soaker | Stage::Scald | Stage::Finish => Some(main.stage),
            _ => place.stage,
        };
        Place { stage, ..place }
    }

    /// An amount without a name: a correction, another measure of what was said, the rest of it, or not understood.
    #[allow(clippy::too_many_arguments, reason = "where it stands and what is around it")]
    pub(super) fn nameless(
        &mut self,
        events: &[Event<'a>],
        k: usize,
        sum: &[(f64, Amount<'a>)],
        corrects: bool,
        last: Option<usize>,
        line: usize,
        to: usize,
        acted: bool,
    ) -> bool {
        let Some(e) = events.get(k) else { return false };
        let earlier = events.get(..k).unwrap_or(&[]);
        let said = earlier
            .iter()
            .rev()
            .find(|x| !(matches!(x.what, What::Passed | What::Then | What::Oven) || corrects && matches!(x.what, What::Verb(_))));
        let of_line = match said.map(|x| &x.what) {
            Some(What::Line(told)) => Some(told),
            _ => None,
        };
        let content = self.candidate(e.end, to);
        // `1/3 cup butter, plus 2 tbsp for brushing`: more of the same, for something else.
        let more = self.scan.back(e.at, 1).any(|i| self.scan.mark(i, '+') || self.scan.role(i, Role::Plus).is_some());
        let end = self.tail_end(events, k, to);
        let purposed = (e.end..end).any(|i| self.scan.pick(i, |r| matches!(r, Role::Purpose(_)).then_some(())).is_some());
        if let (Some(told), true) = (of_line, more && purposed) {
            let told = Told { tail: e.end, measured: e.end, ..Told::new(sum.to_vec(), told.name.clone(), e.end, e.end) };
            let place = Place { stage: None, put_on: false, source_line: line, listed: false, list: self.list };
            let writing = Writing { scan: self.scan, text: self.text, at: e.at, end, place, beside: Vec::new() };
            if let Some(read) = writing.read(&told) {
                self.reading.lines.extend(read);
                return true;
            }
        }
        if let (Some(told), Some(at), true) = (of_line, last, content.is_none() || corrects) {
            let was = said.map_or(e.at, |x| x.at);
            let beside: Vec<Amount<'a>> = if corrects { Vec::new() } else { sum.iter().map(|(_, a)| a.clone()).collect() };
            let told = if corrects { Told { sum: sum.to_vec(), measured: e.end, ..(**told).clone() } } else { (**told).clone() };
            let old = self.reading.lines.get(at).cloned();
            let place = Place { stage: old.as_ref().map(|l| l.stage), put_on: false, source_line: line, listed: false, list: self.list };
            let end = self.tail_end(events, k, to);
            let writing = Writing { scan: self.scan, text: self.text, at: was, end, place, beside };
            if let Some(mut read) = writing.read(&told) {
                if let (Some(l), Some(old)) = (read.first_mut(), &old) {
                    l.in_step = old.in_step;
                    l.stage = old.stage;
                    if l.ingredient.family == old.ingredient.family && corrects {
                        l.ingredient = old.ingredient.clone();
                    }
                }
                self.reading.lines.truncate(at);
                self.reading.lines.extend(read);
            }
            return true;
        }
        self.unknown(e, e.end, line, to, acted)
    }

    /// What of a sentence is no ingredient: steps, or a remark.
    pub(super) fn rest_of_sentence(&mut self, events: &[Event<'a>], line: usize, from: usize, to: usize, lines: usize, head: Head) {
        let tells = |e: &&Event<'a>| {
            matches!(
                e.what,
                What::Verb(_) | What::Minutes(_) | What::Setting(_) | What::OvenBand(_) | What::Pieces(_) | What::Core(_) | What::Lid(_)
            )
        };
        let first = events.iter().find(tells);
        let any_lines_before = self.reading.lines.iter().any(|l| l.grams.is_some() || l.percent.is_some());
        let meta = !any_lines_before
            && self.scan.pick(from, |r| matches!(r, Role::Verb(Act::Bake)).then_some(())).is_some()
            && !events.iter().any(|e| matches!(e.what, What::Setting(_)));
        if head == Head::Notes && lines == 0 || meta || first.is_none() && lines == 0 {
            self.remark(line, from, self.trimmed(from, to), PartKind::Remark);
            return;
        }
        let Some(first) = first else { return };
        let spoken: Vec<Event<'a>> = events.iter().filter(|e| !matches!(e.what, What::Line(_) | What::Nameless { .. })).cloned().collect();
        // A heading told in the line is no word of the step behind it.
        let from = events.iter().take_while(|e| matches!(e.what, What::Head(_))).last().map_or(from, |e| e.end.min(to.saturating_sub(1)));
        let begin = if lines > 0 && events.iter().any(|e| matches!(e.what, What::Line(_)) && e.end <= first.at) { first.at } else { from };
        let joins = |i: &usize| {
            self.scan.tok(*i).is_none_or(|t| matches!(t.kind, Kind::Mark(_)) && !t.is('('))
                || self.scan.pick(*i, |r| matches!(r, Role::And | Role::Plus).then_some(())).is_some_and(|(_, e)| e == i + 1)
        };
        let begin = (begin..to).find(|i| !joins(i)).unwrap_or(begin);
        let told = steps::steps(self.scan, self.text, &spoken, begin, to, line);
        for step in &told {
            let kind = if step.tells_oven() { PartKind::Oven } else { PartKind::Step };
            self.found.parts.push(Part::new(kind, step.span));
        }
        self.reading.steps.extend(told);
    }

    pub(super) fn trimmed(&self, from: usize, to: usize) -> usize {
        let mut end = to;
        while end > from + 1 && self.scan.tok(end - 1).is_some_and(|t| matches!(t.kind, Kind::Mark(',' | ';' | '-'))) {
            end -= 1;
        }
        end
    }

    /// A line of a list that holds one ingredient and nothing else is shown whole.
    pub(super) fn whole_source(&mut self, line: TextLine, lines: usize, from: usize, to: usize) {
        if lines != 1 || from != line.from || to != line.to {
            return;
        }
        let whole = self.text.get(line.start..line.end).unwrap_or_default().trim();
        let here = |l: &&mut ReadLine| l.source_line == line.number;
        let steps = self.reading.steps.iter().any(|s| s.source_line == line.number);
        if !steps {
            for l in self.reading.lines.iter_mut().filter(here) {
                whole.clone_into(&mut l.source);
            }
        }
    }
}
