//! A sentence, from its first word to its last: what it holds, clause by clause. A list, a paragraph and a talk are
//! read alike; the line break says nothing here.

use super::token::Token;
use super::{
    amount::Sum,
    clue::Clue,
    event::{Event, PiecesTold, Told, What},
    lexicon::{Act, Head, Role},
    scan::Scan,
    token::Kind,
};
use crate::measure::Band;

/// A bare number of flour or water from here on is grams.
const LEAST_BARE_GRAMS: f64 = 20.0;
/// Longest time a bare number behind a setting is taken for, minutes.
const LONGEST_BARE: f64 = 180.0;

/// A sentence being read.
pub(super) struct Sentence<'s, 'a> {
    scan: &'s Scan<'a>,
    limit: usize,
    at: usize,
    /// Whether a clause begins here.
    fresh: bool,
    /// Whether the sentence begins here.
    first: bool,
    clause: usize,
    corrects: bool,
    rest: bool,
    events: Vec<Event<'a>>,
}

/// What one sentence holds.
pub(super) fn events<'a>(scan: &Scan<'a>, from: usize, to: usize) -> Vec<Event<'a>> {
    let mut s =
        Sentence { scan, limit: to, at: from, fresh: true, first: true, clause: 0, corrects: false, rest: false, events: Vec::new() };
    while s.at < to {
        let before = s.at;
        s.step();
        if s.at <= before {
            s.at = before + 1;
        }
    }
    settle_bare(scan, &mut s.events);
    s.events
}

impl<'a> Sentence<'_, 'a> {
    fn push(&mut self, what: What<'a>, at: usize, end: usize) {
        self.events.push(Event { what, at, end: end.min(self.limit), clause: self.clause });
        self.at = end;
        (self.fresh, self.first) = (false, false);
    }

    fn next_clause(&mut self, end: usize) {
        self.clause += 1;
        (self.fresh, self.at) = (true, end);
    }

    fn step(&mut self) {
        let (scan, at) = (self.scan, self.at);
        let Some(t) = scan.tok(at) else { return };
        if let Kind::Mark(m) = t.kind {
            return self.mark(m);
        }
        if self.is_no_number() {
            return self.push(What::Unreadable, at, self.limit);
        }
        let found = (self.fresh && self.begins_clause()) || self.of_listed() || self.figure() || self.phrase();
        if !found {
            self.at += 1;
            (self.fresh, self.first) = (false, false);
        }
    }

    /// `1e999 g`, `NaN cups`, `l00 g`
    fn is_no_number(&self) -> bool {
        let scan = self.scan;
        let Some(t) = scan.tok(self.at) else { return false };
        let measured = |at: usize| scan.unit(at, 1.0).is_some();
        match t.kind {
            Kind::Broken => true,
            Kind::Word if scan.tells(self.at, Clue::NoNumber) => measured(self.at + 1),
            Kind::Word if matches!(t.folded.as_ref(), "l" | "o") => {
                scan.tok(self.at + 1).is_some_and(|n| n.value().is_some() && !n.spaced) && measured(self.at + 2)
            }
            _ => false,
        }
    }

    fn mark(&mut self, m: char) {
        let scan = self.scan;
        match m {
            '(' => {
                let close = scan.closing(self.at, self.limit);
                self.bracket(self.at + 1, close);
                self.at = close + 1;
            }
            // `1 Std. gehen`: the point of a word cut short ends nothing.
            '.' if !scan.ends_sentence(self.at) => self.at += 1,
            ',' | ';' | '+' | '|' | '\t' | ':' | '.' | '!' | '?' | '&' | '@' => self.next_clause(self.at + 1),
            '-' if scan.is_dash(self.at) => self.next_clause(self.at + 1),
            '/' if scan.tok(self.at).is_some_and(|t| t.spaced) => self.next_clause(self.at + 1),
            '-' if self.fresh && scan.tok(self.at + 1).is_some_and(|t| t.value().is_some()) && scan.mark(self.at.wrapping_sub(1), ':') => {
                // `salt: -5 g` is no amount.
                self.push(What::Unreadable, self.at, self.limit);
            }
            _ => self.at += 1,
        }
    }

    /// What a bracket says of pieces: `(makes 10)`, `(8)`, `(2 stk)`.
    fn bracket(&mut self, from: usize, to: usize) {
        let scan = self.scan;
        let lone = scan.number(from).filter(|(n, end)| *end == to && n.fract() == 0.0 && (2.0..=60.0).contains(n));
        let nothing_yet = !self.events.iter().any(|e| matches!(e.what, What::Line(_)));
        if let Some((n, _)) = lone.filter(|_| nothing_yet) {
            #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "2 to 60")]
            let count = Some(n as u32);
            self.events.push(Event {
                what: What::Pieces(PiecesTold { count, ..PiecesTold::default() }),
                at: from,
                end: to,
                clause: self.clause,
            });
            return;
        }
        if scan.number(from).is_some() || scan.role(from, Role::Yield).is_some() || scan.role(from, Role::Fan).is_some() {
            for i in from..to {
                match scan.figure(i, to) {
                    Some((what @ What::Pieces(PiecesTold { count: Some(_), .. }), end))
                        if nothing_yet || scan.role(from, Role::Yield).is_some() =>
                    {
                        self.events.push(Event { what, at: i, end, clause: self.clause });
                        return;
                    }
                    Some((what @ What::Pieces(_), end)) if self.events.iter().any(|e| matches!(e.what, What::Pieces(_))) => {
                        self.events.push(Event { what, at: i, end, clause: self.clause });
                        return;
                    }
                    Some((what @ (What::Setting(_) | What::Core(_)), end)) if nothing_yet => {
                        self.events.push(Event { what, at: i, end, clause: self.clause });
                        return;
                    }
                    Some(_) => return,
                    None => {}
                }
            }
        }
    }

    /// What only begins a clause: a correction, a heading, a name before its amount, something done, a filler.
    fn begins_clause(&mut self) -> bool {
        self.purpose()
            || self.correction()
            || self.same()
            || self.heading()
            || self.counted_for_all()
            || self.verb()
            || self.part_of_listed()
            || self.filler()
            || self.named_first()
            || self.lead()
    }

    /// `, for the glaze`: what the line before is for.
    fn purpose(&mut self) -> bool {
        let said = self.events.iter().any(|e| matches!(e.what, What::Line(_) | What::Nameless { .. }));
        let Some((_, end)) =
            self.scan.pick(self.at, |r| matches!(r, Role::Purpose(_)).then_some(())).filter(|(_, e)| said && !self.scan.mark(*e, ':'))
        else {
            return false;
        };
        self.at = end;
        self.fresh = false;
        true
    }

    /// `no sorry`, `well,` behind something said: what follows stands instead of it.
    fn correction(&mut self) -> bool {
        let scan = self.scan;
        let said = self.events.iter().any(|e| matches!(e.what, What::Line(_)));
        if let Some(end) = scan.role(self.at, Role::Correct) {
            let denies = scan.role(self.at, Role::No).is_some_and(|no| no >= end)
                && !scan.clause_ends(end)
                && !scan.mark(end, '-')
                && scan.number(end).is_none();
            if !denies {
                self.corrects |= said || scan.role(self.at, Role::No).is_some();
                self.at = end;
                return true;
            }
        }
        if let Some(end) = scan
            .role(self.at, Role::No)
            .filter(|e| !scan.clause_ends(*e) && scan.pick(self.at, |r| matches!(r, Role::LidOff).then_some(())).is_none())
        {
            // `no oil`: said not to be there, up to the end of the clause
            let mut to = end;
            while to < self.limit && !scan.clause_ends(to) && scan.role(to, Role::Then).is_none() {
                to += 1;
            }
            self.push(What::Passed, self.at, to);
            return true;
        }
        false
    }

    /// The amount told last.
    fn last_sum(&self) -> Option<Sum<'a>> {
        let told = self.events.iter().rev().find_map(|e| if let What::Line(t) = &e.what { Some(t.sum.clone()) } else { None });
        told.filter(|s| !s.is_empty())
    }

    /// `the same of salt`: as much again of something else.
    fn same(&mut self) -> bool {
        let scan = self.scan;
        let Some(end) = scan.role(self.at, Role::Same) else { return false };
        let end = scan.role(end, Role::Of).unwrap_or(end);
        let (Some(sum), Some(name)) = (self.last_sum(), scan.name_behind(end, self.limit)) else { return false };
        let told = Told { tail: name.end, ..Told::new(sum, name.clone(), name.at, name.end) };
        let end = told.tail;
        self.push(What::Line(Box::new(told)), self.at, end);
        true
    }

    /// A heading inside the line: `Sour: 30 g …`, `for the dough you need …`, `levain 60 g flour …`.
    fn heading(&mut self) -> bool {
        let scan = self.scan;
        let Some((head, end, told)) = head_at(scan, self.at, self.limit).or_else(|| self.unknown_heading()) else { return false };
        // `syrup 20 g` is a line; `levain 60 g flour` is a heading and its list.
        // `poolish (night before) 150 flour`
        let list = if scan.mark(end, '(') { scan.closing(end, self.limit) + 1 } else { end };
        let amount =
            scan.amount(list, self.limit).filter(|(a, _)| a.is_measured() || a.unit.is_none() && a.value.likely >= LEAST_BARE_GRAMS);
        let listed = !told
            && self.first
            && scan.name_first(self.at, self.limit).is_none()
            && amount.is_some_and(|(_, e)| scan.name_behind(e, self.limit).is_some());
        // `bread flour: 500 g` is a line, `levain: 20 g starter` a heading.
        let line = told
            && scan
                .name_first(self.at, self.limit)
                .is_some_and(|(_, e)| scan.name_behind(scan.behind_asides(e, self.limit), self.limit).is_none_or(|n| n.at > e + 2));
        if !(told || listed) || line {
            return false;
        }
        self.push(What::Head(head), self.at, end);
        self.next_clause(end);
        true
    }

    /// `Garlic butter: 50 g butter, 2 cloves garlic`: a few words, a colon, and a list that begins with an amount.
    fn unknown_heading(&self) -> Option<(Head, usize, bool)> {
        let scan = self.scan;
        let colon = (self.at..self.limit.min(self.at + 5)).find(|i| scan.mark(*i, ':')).filter(|c| self.first && *c > self.at)?;
        let plain = (self.at..colon).all(|i| scan.tok(i).is_some_and(Token::is_word) && scan.number(i).is_none());
        let (sum, end) = scan.sum(colon + 1, self.limit)?;
        let listed =
            sum.iter().any(|(_, a)| a.unit.is_some()) && scan.name_behind(scan.behind_asides(end, self.limit), self.limit).is_some();
        (plain && listed).then_some((Head::Unknown, colon + 1, true))
    }

    /// `1/2 teaspoon each cinnamon and nutmeg`
    fn counted_for_all(&mut self) -> bool {
        let scan = self.scan;
        let Some((sum, end)) = scan.sum(self.at, self.limit) else { return false };
        let Some(mut i) = scan.role(end, Role::Each).filter(|e| scan.tok(*e).is_some_and(Token::is_word)) else {
            return false;
        };
        i = scan.role(i, Role::Of).unwrap_or(i);
        let start = self.at;
        let mut any = false;
        while let Some(name) = scan.name_behind(i, self.limit) {
            i = name.end;
            any = true;
            let told = Told::new(sum.clone(), name, end, i);
            self.push(What::Line(Box::new(told)), start, i);
            let joint = scan.mark(i, ',').then_some(i + 1).or_else(|| scan.role(i, Role::And));
            let Some(next) = joint else { break };
            i = scan.role(next, Role::And).unwrap_or(next);
        }
        any
    }

    fn verb(&mut self) -> bool {
        let scan = self.scan;
        let act = scan.pick(self.at, |r| if let Role::Verb(a) = r { Some(a) } else { None });
        let take = scan.role(self.at, Role::Take);
        let rest = scan.role(self.at, Role::Rest);
        // `remove the lid` takes no bread out.
        let of_oven = |r| matches!(r, Role::LidOn | Role::LidOff | Role::DoorAjar | Role::OvenOff).then_some(());
        if scan.pick(self.at, of_oven).is_some_and(|(_, e)| act.is_none_or(|(_, verb)| verb < e)) {
            return false;
        }
        if let Some((act, end)) = act.filter(|(_, e)| rest.is_none_or(|r| r <= *e) && take.is_none_or(|t| t <= *e)) {
            // `cream 200 g`, `butter 250 g`, `ice water`, `oil, 20 g` are lines, not deeds.
            let named = scan.name_at(self.at, self.limit, true).is_some_and(|n| n.end >= end);
            if named && (scan.name_first(self.at, self.limit).is_some() || scan.clause_ends(end)) {
                return false;
            }
            if scan.pick(self.at, |r| matches!(r, Role::Yield).then_some(())).is_some_and(|(_, e)| e >= end) && scan.number(end).is_some() {
                return false;
            }
            self.push(What::Verb(act), self.at, end);
            // `add remaining …`, `brush with …`: what it is done to begins a clause of its own.
            self.fresh = act != Act::Shape;
            return true;
        }
        if let Some(end) = take.filter(|e| rest.is_none_or(|r| r <= *e)) {
            if scan.name_at(self.at, self.limit, true).is_some_and(|n| n.end >= end) {
                return false;
            }
            self.push(What::Take, self.at, end);
            self.fresh = true;
            return true;
        }
        false
    }

    /// `water 510`; a name alone; `zest of 1 lemon`.
    fn named_first(&mut self) -> bool {
        let scan = self.scan;
        if let Some((What::Line(mut told), end)) = scan.fruit_part(self.at, self.limit) {
            told.corrects = std::mem::take(&mut self.corrects);
            self.push(What::Line(told), self.at, end);
            return true;
        }
        if scan.number(self.at).is_some_and(|(_, end)| scan.name_at(self.at, self.limit, true).is_none_or(|n| n.end <= end)) {
            return false;
        }
        // `pinch salt`: the measure counts one, and the name is behind it.
        let measured = scan.amount(self.at, self.limit).is_some_and(|(a, _)| a.unit.is_some());
        if measured && scan.name_at(self.at, self.limit, true).is_none() {
            return false;
        }
        if let Some((what, end)) = scan.name_first(self.at, self.limit) {
            let here = matches!(&what, What::Line(told) if told.name.at == self.at || !told.name.weak);
            if here {
                self.push(what, self.at, end);
                return true;
            }
        }
        let Some(name) = scan.name_at(self.at, self.limit, false) else {
            // `well, bread flour actually`: the name is corrected, not the amount
            return false;
        };
        let mut end = name.end;
        // `Salt: the same`
        let mark = usize::from(scan.mark(end, ':') || scan.mark(end, '-'));
        let same = scan.role(end + mark, Role::Same).and_then(|behind| self.last_sum().map(|sum| (sum, behind)));
        let sum = same.map_or_else(Vec::new, |(sum, behind)| {
            end = behind;
            sum
        });
        let mut told = Told { corrects: std::mem::take(&mut self.corrects), ..Told::new(sum, name, end, end) };
        let end = or_else(scan, &mut told, end, self.limit);
        self.push(What::Line(Box::new(told)), self.at, end);
        true
    }

    /// `the remaining 25 g water`, `all the sour`: listed before.
    fn part_of_listed(&mut self) -> bool {
        let scan = self.scan;
        let Some(end) = scan.role(self.at, Role::Rest) else { return false };
        let end = scan.role(end, Role::Of).unwrap_or(end);
        let half = (self.at..end).any(|i| scan.pick(i, |r| matches!(r, Role::Part(p) if p == 0.5).then_some(())).is_some());
        let other = scan.clues(self.at, end).contains(Clue::Other);
        if half && !other && self.halved(end) {
            return true;
        }
        if scan.amount(end, self.limit).is_some() {
            self.rest = true;
            self.at = end;
            return true;
        }
        let mut to = end;
        while to < self.limit
            && !scan.clause_ends(to)
            && scan.role(to, Role::And).is_none()
            && scan.role(to, Role::Plus).is_none()
            && !scan.mark(to, '+')
        {
            to += 1;
        }
        self.push(What::Passed, self.at, to);
        true
    }

    /// Words for a part of what is listed that begin with a number: `half of it`.
    fn of_listed(&mut self) -> bool {
        let Some(end) = self.scan.role(self.at, Role::Rest) else { return false };
        self.scan.number(self.at).is_some_and(|(_, number)| end > number) && self.part_of_listed()
    }

    /// `only half of it goes in the dough`
    fn halved(&mut self, end: usize) -> bool {
        let into_dough = self.scan.clues(end, self.limit.min(end + 8)).contains(Clue::Dough);
        let last = self.events.iter_mut().rev().find_map(|e| if let What::Line(t) = &mut e.what { Some(t) } else { None });
        let Some(told) = last.filter(|_| into_dough) else { return false };
        told.half = true;
        self.at = end;
        self.fresh = false;
        true
    }

    /// `and butter …`: what joins is no part of the name behind it.
    fn filler(&mut self) -> bool {
        self.scan.name_at(self.at, self.limit, true).is_none()
            && self.scan.pick(self.at, |r| matches!(r, Role::And | Role::Lead).then_some(())).is_some()
            && self.lead()
    }

    fn lead(&mut self) -> bool {
        let end = self
            .scan
            .pick(self.at, |r| matches!(r, Role::Lead | Role::And | Role::Then | Role::Plus | Role::ForThe | Role::Function).then_some(r));
        let Some((role, end)) = end else { return false };
        if self.scan.number(self.at).is_some_and(|(_, number)| number >= end) {
            return false;
        }
        if role == Role::Then || self.scan.role(self.at, Role::Then).is_some() {
            self.events.push(Event { what: What::Then, at: self.at, end, clause: self.clause });
        }
        self.at = end;
        self.first = false;
        true
    }

    /// Anything a number begins.
    fn figure(&mut self) -> bool {
        let scan = self.scan;
        let Some((mut what, end)) = scan.figure(self.at, self.limit) else { return false };
        match &mut what {
            What::Line(told) => {
                carry_unit(scan, told, &self.events);
                told.corrects = std::mem::take(&mut self.corrects);
                told.rest = std::mem::take(&mut self.rest);
                // `the last 50 of the water`, `4 spoons of the butter`
                let of_the = scan
                    .tokens
                    .get(self.at..told.name.at)
                    .is_some_and(|w| w.windows(2).any(|p| matches!(p, [a, b] if a.folded == "of" && b.folded == "the")));
                told.rest |= of_the;
            }
            What::Nameless { corrects, .. } => {
                *corrects = std::mem::take(&mut self.corrects);
                if std::mem::take(&mut self.rest) {
                    what = What::Passed;
                }
            }
            What::Bare(value) => {
                if std::mem::take(&mut self.rest) {
                    what = What::Passed;
                } else if self.corrects
                    && let Some(again) = self.corrected(*value)
                {
                    what = again;
                    self.corrects = false;
                }
            }
            _ => {}
        }
        let end = if let What::Line(told) = &mut what { or_else(scan, told, end, self.limit) } else { end };
        self.push(what, self.at, end);
        // `22 min. glaze: …`: behind an abbreviation's point a clause begins, but `10 Min. kneten` goes on.
        let verb = scan.pick(end, |r| matches!(r, Role::Verb(_)).then_some(())).is_some();
        if !verb && end.checked_sub(1).is_some_and(|i| scan.mark(i, '.')) {
            self.next_clause(end);
        }
        true
    }

    /// A bare number that corrects the last amount: `no, three hundred and twenty`.
    fn corrected(&self, value: Band) -> Option<What<'a>> {
        let last = self.events.iter().rev().find_map(|e| if let What::Line(t) = &e.what { t.sum.first().cloned() } else { None });
        let (_, mut amount) = last?;
        amount.value = value;
        Some(What::Nameless { sum: vec![(1.0, amount)], corrects: true })
    }

    /// Phrases that mean something wherever they stand.
    fn phrase(&mut self) -> bool {
        let scan = self.scan;
        let falls = self.events.last().is_some_and(|e| matches!(e.what, What::Then));
        let found = scan.pick(self.at, |r| match r {
            Role::OvenBand(b) => Some(What::OvenBand(b)),
            Role::LoneBand(b) if falls => Some(What::OvenBand(b)),
            Role::LidOn => Some(What::Lid(true)),
            Role::LidOff => Some(What::Lid(false)),
            Role::DoorAjar => Some(What::Drying { off: false }),
            Role::OvenOff => Some(What::Drying { off: true }),
            Role::Oven | Role::Steam | Role::Fan => Some(What::Oven),
            Role::Holder(_) => Some(What::Holder),
            Role::Then => Some(What::Then),
            Role::Strand => Some(What::Passed),
            _ => None,
        });
        if let Some((what, end)) = found {
            let then = matches!(what, What::Then);
            self.push(what, self.at, end);
            self.fresh = then;
            if then {
                self.clause += 1;
            }
            return true;
        }
        // `at blood heat` is no deed.
        if let Some((_, end)) = scan.pick(self.at, |r| matches!(r, Role::Temp(_)).then_some(())) {
            self.at = end;
            (self.fresh, self.first) = (false, false);
            return true;
        }
        if self.minus() {
            return true;
        }
        // `1 Std. gehen lassen`, `45 min proof`: the verb behind its time.
        let timed = self.events.last().is_some_and(|e| matches!(e.what, What::Minutes(_)) && e.end == self.at);
        let act = scan.pick(self.at, |r| if let Role::Verb(a) = r { Some(a) } else { None });
        if let Some((act, end)) = act.filter(|(a, _)| timed || matches!(a, Act::Bake | Act::Knead | Act::Heat)) {
            self.push(What::Verb(act), self.at, end);
            return true;
        }
        if self.times_x() {
            return true;
        }
        let joint = scan.pick(self.at, |r| matches!(r, Role::And | Role::Plus | Role::Or).then_some(()));
        if let Some((_, end)) = joint {
            self.next_clause(end);
            return true;
        }
        // `oh and …`, `with …` begin anew inside a clause.
        if let Some(end) = scan.role(self.at, Role::Take) {
            self.push(What::Take, self.at, end);
            self.fresh = true;
            return true;
        }
        // `… lol no butter`: what is denied is no correction.
        let denies = scan.role(self.at, Role::No).is_some_and(|end| scan.name_at(end, self.limit, true).is_some());
        if let Some(end) =
            scan.role(self.at, Role::Correct).filter(|_| !denies && self.events.iter().any(|e| matches!(e.what, What::Line(_))))
        {
            self.corrects = true;
            self.at = end;
            self.fresh = true;
            return true;
        }
        if scan.role(self.at, Role::Rest).is_some_and(|e| e > self.at + 1) {
            return self.part_of_listed();
        }
        false
    }

    /// `a cup of milk minus a couple of spoons`
    fn minus(&mut self) -> bool {
        let scan = self.scan;
        let Some(end) = scan.role(self.at, Role::Minus) else { return false };
        let Some((less, behind)) = scan.amount(end, self.limit).filter(|(a, _)| a.unit.is_some()) else { return false };
        let Some(What::Line(told)) = self.events.last_mut().map(|e| &mut e.what) else { return false };
        told.sum.push((-1.0, less));
        if let Some(last) = self.events.last_mut() {
            last.end = behind;
        }
        self.at = behind;
        true
    }

    /// `Teacakes x 8`, `Roosterkoek x 12`
    fn times_x(&mut self) -> bool {
        let scan = self.scan;
        if !scan.word(self.at, "x") || self.events.iter().any(|e| matches!(e.what, What::Line(_) | What::Verb(_))) {
            return false;
        }
        let Some((n, end)) = scan.number(self.at + 1).filter(|(n, _)| n.fract() == 0.0 && (1.0..=200.0).contains(n)) else { return false };
        if end < self.limit && !scan.clause_ends(end) {
            return false;
        }
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 200")]
        let count = Some(n as u32);
        self.push(What::Pieces(PiecesTold { count, ..PiecesTold::default() }), self.at, end);
        true
    }
}

/// `three hundred grams of water, then ten of salt`: the unit goes on through the sentence.
fn carry_unit<'a>(scan: &Scan<'a>, told: &mut Told<'a>, events: &[Event<'a>]) {
    let of = scan.role(told.measured, Role::Of).is_some();
    let before = events.iter().rev().find_map(|e| if let What::Line(t) = &e.what { t.sum.first().and_then(|(_, a)| a.unit) } else { None });
    let Some(unit) = before.filter(|_| of && !Scan::is_counted(&told.name.ingredient)) else { return };
    // Behind a kilo or a litre the next figure is grams or millilitres.
    let unit = match unit.id.as_str() {
        "kg" => scan.pantry.measures.by_id("g"),
        "l" => scan.pantry.measures.by_id("ml"),
        _ => Some(unit),
    };
    if let [(_, a)] = told.sum.as_mut_slice()
        && a.unit.is_none()
        && !a.article
        && !a.container
    {
        a.unit = unit;
    }
}

/// "A or B" behind a line: the second, and how much of it.
fn or_else<'a>(scan: &Scan<'a>, told: &mut Told<'a>, end: usize, limit: usize) -> usize {
    let Some(behind) = scan.role(end, Role::Or) else { return end };
    let (sum, from) = scan.sum(behind, limit).unwrap_or((Vec::new(), behind));
    let from = scan.role(from, Role::Of).unwrap_or(from);
    let Some(name) = scan.name_behind(from, limit) else { return end };
    if name.ingredient.id == told.name.ingredient.id {
        return end;
    }
    // As much of something of the same kind; of another kind it is no choice but a remark.
    let same = name.ingredient.family == told.name.ingredient.family;
    let last = name.end;
    if same || !sum.is_empty() {
        told.or = Some((name, sum));
    }
    last
}

/// A heading at a token: what it says, the token behind it and its mark, and whether a mark or "for the" tells it.
pub(super) fn head_at(scan: &Scan<'_>, at: usize, limit: usize) -> Option<(Head, usize, bool)> {
    let for_the = scan.role(at, Role::ForThe);
    let mut i = for_the.unwrap_or(at);
    let mut head: Option<(Head, usize)> = None;
    let mut words = 0;
    // Up to four words, of which the last that names a part decides: `rye sour`, `crumble topping`.
    while i < limit && words < 5 {
        if let Some((h, end)) = scan.pick(i, |r| if let Role::Head(h) = r { Some(h) } else { None }) {
            head = Some((h, end));
            i = end;
            words += 1;
            continue;
        }
        if scan.mark(i, '(') && head.is_some() {
            i = scan.closing(i, limit) + 1;
            if scan.mark(i, ':') || i >= limit {
                head = head.map(|(h, _)| (h, i));
            }
            break;
        }
        let plain = scan.tok(i).is_some_and(Token::is_word) && scan.number(i).is_none();
        if !plain || scan.mark(i, ':') {
            break;
        }
        i += 1;
        words += 1;
    }
    let (head, end) = head?;
    if scan.mark(i, ':') && i >= end {
        return Some((head, i + 1, true));
    }
    // `Lye bath | 30 g lye in 1 litre water`
    if scan.mark(i, '|') && scan.sum(i + 1, limit).is_some_and(|(_, e)| scan.name_behind(e, limit).is_some()) {
        return Some((head, i + 1, true));
    }
    // `glaze - 1 tbsp syrup`
    if scan.is_dash(end) {
        return Some((head, end + 1, true));
    }
    // `for the dough you need …`
    let named = for_the.filter(|_| !scan.word(at, "to")).and_then(|f| scan.pick(f, |r| if let Role::Head(h) = r { Some(h) } else { None }));
    Some(named.map_or((head, end, false), |(h, e)| (h, e, true)))
}

/// Numbers that stand alone are what their neighbours make of them: `230/20 then 210/25`, `Knead 10`, `lid on 20`.
fn settle_bare(scan: &Scan<'_>, events: &mut Vec<Event<'_>>) {
    let near_oven = events
        .iter()
        .any(|e| matches!(e.what, What::Setting(_) | What::OvenBand(_) | What::Oven | What::Lid(_) | What::Verb(Act::Bake | Act::Heat)));
    for k in 0..events.len() {
        let Some(e) = events.get(k) else { break };
        let What::Bare(value) = e.what else { continue };
        let (at, end) = (e.at, e.end);
        let next = events.get(k + 1);
        let time_follows = next.is_some_and(|n| match n.what {
            What::Minutes(m) => m.likely <= LONGEST_BARE && n.at <= end + 4,
            What::Bare(b) => (3.0..=LONGEST_BARE).contains(&b.likely) && n.at <= end + 3,
            What::Oven | What::Lid(_) => n.at <= end + 1,
            What::Setting(_) => n.at <= end + 2 && scan.mark(end, '/'),
            _ => false,
        });
        let before = k.checked_sub(1).and_then(|i| events.get(i));
        let led = at.checked_sub(1).is_some_and(|i| {
            scan.pick(i, |r| matches!(r, Role::At | Role::Then | Role::Oven | Role::Verb(Act::Bake | Act::Heat)).then_some(())).is_some()
        });
        // `gas seven …, and down to five`
        let led_down = before.is_some_and(|b| matches!(b.what, What::Then) && b.end + 1 >= at);
        let by_gas = led_down && (1.0..=9.0).contains(&value.likely) && value.likely.fract() == 0.0;
        let gas =
            events.get(..k).unwrap_or(&[]).iter().rev().find_map(|e| if let What::Setting(s) = &e.what { Some(s.scale) } else { None });
        let what = if let Some(mark) = scan.gas_mark(value.likely).filter(|_| by_gas && gas == Some(crate::oven::DegreeScale::Gas)) {
            What::Setting(mark)
        } else if let Some(c) = scan.bare_core(value.likely, at, end) {
            What::Core(c)
        } else if let Some(stated) =
            scan.bare_setting(value.likely, at, end).filter(|_| value.is_exact() && (time_follows || near_oven || led))
        {
            What::Setting(stated)
        } else if is_bare_time(scan, value, at, before, events.get(..k).unwrap_or(&[])) {
            What::Minutes(value)
        } else {
            What::Passed
        };
        if let Some(e) = events.get_mut(k) {
            e.what = what;
        }
    }
    events.retain(|e| !matches!(e.what, What::Passed) || e.end > e.at);
}

/// `lid on 20`, `230/20`, `240 for 15`, `Knead 10`.
fn is_bare_time(scan: &Scan<'_>, value: Band, at: usize, before: Option<&Event<'_>>, earlier: &[Event<'_>]) -> bool {
    if !(3.0..=LONGEST_BARE).contains(&value.likely) {
        return false;
    }
    let Some(before) = before else { return false };
    let close = at <= before.end + 3;
    match before.what {
        What::Setting(_) | What::OvenBand(_) => close,
        What::Lid(_) | What::Drying { .. } | What::Oven | What::Then | What::Holder => {
            close && earlier.iter().rev().take(4).any(|e| matches!(e.what, What::Setting(_)))
        }
        What::Verb(Act::Knead | Act::Rest | Act::Rise | Act::Bake) => {
            at == before.end
                || at == before.end + 1 && scan.pick(before.end, |r| matches!(r, Role::At | Role::Approx).then_some(())).is_some()
        }
        _ => false,
    }
}
