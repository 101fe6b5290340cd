//! A recipe from its first line to its last: title, headings, lists, tables, paragraphs, talk.

use super::{
    Choices, Reading, Unread,
    amount::Amount,
    event::{Event, Told, What},
    lexicon::{Act, Head, Role},
    line::{Place, ReadLine, Writing, flour_named},
    parts::{self, Part, PartKind},
    scan::Scan,
    sentence, steps,
    text::{self, Kind, TextLine, Token},
    whole,
};
use crate::{
    Tables,
    formula::{Formula, Stage},
    measure::Band,
    pantry::Family,
};

/// A line longer than this is left unread, bytes.
const LONGEST_LINE: usize = 8000;
/// So many percent signs make a recipe in percent.
const PERCENT_LINES: usize = 3;
/// Words a title has at most.
const LONGEST_TITLE: usize = 12;
/// So many words are asked about with what they could be; beyond that it is no recipe.
const MOST_ASKED: usize = 8;
/// Ingredients offered for a name that is not known.
const MOST_NEAR: usize = 4;

/// Reads a text of a length that may be read.
pub(super) fn read(text: &str, choices: &Choices, tables: &Tables) -> Reading {
    let (tokens, lines) = text::tokens(text, &tables.words.words, tables.pantry.stems());
    let scan = Scan::new(&tokens, &tables.pantry, &tables.words, choices);
    let mut recipe = Recipe {
        scan: &scan,
        text,
        head: Head::Stage(None),
        title: None,
        begun: false,
        table_in_grams: false,
        gluten_free: false,
        total: None,
        list: 0,
        braided: (0..tokens.len()).any(|i| scan.role(i, Role::Braid).is_some()),
        last: None,
        in_percent: tokens.iter().filter(|t| t.is('%')).count() >= PERCENT_LINES,
        found: Found::default(),
        reading: Reading {
            formula: Formula::default(),
            lines: Vec::new(),
            unread: Vec::new(),
            steps: Vec::new(),
            remarks: Vec::new(),
            parts: Vec::new(),
            choices: choices.clone(),
            title_shape: None,
        },
    };
    let last = lines.iter().rposition(|l| l.to > l.from).unwrap_or(0);
    for (i, line) in lines.iter().enumerate() {
        if line.to > line.from {
            recipe.line(line, i == last);
        }
    }
    recipe.done(tables)
}

/// What was found where, to be ordered at the end.
#[derive(Default)]
struct Found {
    parts: Vec<Part>,
    /// Lists whose heading is in no table.
    unknown_lists: Vec<usize>,
}

struct Recipe<'s, 'a, 't> {
    scan: &'s Scan<'a>,
    text: &'t str,
    head: Head,
    title: Option<String>,
    begun: bool,
    table_in_grams: bool,
    gluten_free: bool,
    total: Option<(Band, bool)>,
    list: usize,
    in_percent: bool,
    braided: bool,
    /// The last line of the text's line being read: what a correction is of.
    last: Option<usize>,
    found: Found,
    reading: Reading,
}

/// What became of an ingredient told.
enum Taken {
    /// A line, at this place.
    Line(usize),
    /// Listed before, denied, or only named.
    Passed,
    /// An amount that makes no sense of it.
    Unknown,
}

/// Where a sentence stands.
#[derive(Clone, Copy)]
struct Around {
    line: TextLine,
    head: Head,
    acted: bool,
}

impl<'a> Recipe<'_, 'a, '_> {
    fn span(&self, from: usize, to: usize) -> (usize, usize) {
        let start = self.scan.tok(from).map_or(0, |t| t.start);
        (start, start + self.scan.source(self.text, from, to).len())
    }

    fn remark(&mut self, line: usize, from: usize, to: usize, kind: PartKind) {
        let words = self.scan.source(self.text, from, to);
        if words.is_empty() {
            return;
        }
        self.reading.remarks.push((line, words.to_owned()));
        let span = self.span(from, to);
        self.found.parts.push(Part::new(kind, span));
    }

    fn line(&mut self, line: &TextLine, is_last: bool) {
        if line.end - line.start > LONGEST_LINE {
            let source = self.text.get(line.start..line.end).unwrap_or_default().to_owned();
            self.unread(Unread {
                source,
                source_line: line.number,
                words: String::new(),
                near: Vec::new(),
                span: (line.start, line.end),
                grams: None,
            });
            return;
        }
        self.gluten_free |=
            (line.from..line.to).any(|i| self.scan.role(i, Role::GlutenFree).is_some() && self.scan.number(line.from).is_none());
        let first = !std::mem::replace(&mut self.begun, true);
        self.last = None;
        if self.is_rule(line) || self.table_head(line, first) {
            return;
        }
        if first && !is_last && !self.scan.mark(line.to - 1, ',') && self.title_line(line) {
            return;
        }
        // `My dear girl,`: what greets is no title; the next line may be one.
        if first && self.scan.mark(line.to - 1, ',') && line.to - line.from < LONGEST_TITLE && !is_last {
            self.begun = false;
            self.remark(line.number, line.from, line.to, PartKind::Remark);
            return;
        }
        if self.heading(line, first) {
            return;
        }
        let mut from = line.from;
        if first {
            from = self.title_before_list(line);
        }
        self.sentences(line, from);
    }

    /// `---|---`: the rule of a table.
    fn is_rule(&self, line: &TextLine) -> bool {
        (line.from..line.to)
            .all(|i| self.scan.tok(i).is_some_and(|t| matches!(t.kind, Kind::Mark('|' | '-' | ':' | '=' | '_' | '*' | '#'))))
    }

    /// `Ingredient | grams | %`: the first row of a table, or its title.
    fn table_head(&mut self, line: &TextLine, first: bool) -> bool {
        let cells: Vec<usize> = (line.from..line.to).filter(|i| ['|', '\t', ';'].iter().any(|m| self.scan.mark(*i, *m))).collect();
        let numbers = (line.from..line.to).any(|i| self.scan.tok(i).is_some_and(|t| t.value().is_some()));
        if cells.is_empty() || numbers || (self.scan.name_first(line.from, line.to).is_some()) {
            return false;
        }
        let words = self.scan.folded(line.from, line.to);
        let headed = [
            "ingredient",
            "ingredients",
            "item",
            "amount",
            "grams",
            "gram",
            "weight",
            "g",
            "zutat",
            "menge",
            "ingrediente",
            "what",
            "how much",
            "percent",
            "qty",
            "quantity",
        ]
        .iter()
        .any(|w| words.contains(&format!(" {w} ")));
        if !headed {
            return false;
        }
        self.table_in_grams = [" g ", " grams ", " gram "].iter().any(|w| words.contains(w));
        let lead = line.from + usize::from(self.scan.mark(line.from, '|'));
        let end = cells.iter().copied().find(|c| *c > lead).unwrap_or(line.to);
        let named = self.scan.folded(lead, end);
        let is_title = first && !["ingredient", "item", "zutat", "what"].iter().any(|w| named.contains(w));
        if is_title {
            self.title = Some(as_title(self.scan.source(self.text, lead, end)));
        }
        self.remark(line.number, line.from, line.to, if is_title { PartKind::Title } else { PartKind::Heading });
        true
    }

    /// The first line, where it is a title: no amount, few words; it may tell pieces.
    fn title_line(&mut self, line: &TextLine) -> bool {
        if self.is_heading(line, true).is_some() {
            return false;
        }
        let events = sentence::events(self.scan, line.from, line.to);
        let amounts = events.iter().any(|e| match &e.what {
            What::Line(t) => {
                t.sum.iter().any(|(_, a)| a.unit.is_some() || a.value.likely >= 20.0 || Scan::is_counted(&t.name.ingredient))
                    || (t.percent.is_some() && self.in_percent)
            }
            What::Nameless { .. } | What::Unreadable | What::Minutes(_) | What::Setting(_) | What::Total => true,
            _ => false,
        });
        let words = self.scan.tokens.get(line.from..line.to).map_or(0, |w| w.iter().filter(|t| t.is_word()).count());
        let ends = (line.from..line.to - 1).filter(|i| self.scan.ends_sentence(*i)).count();
        let open =
            (line.from..line.to).any(|i| self.scan.pick(i, |r| matches!(r, Role::Vague(_) | Role::Purpose(_)).then_some(())).is_some());
        let clause = (line.from..line.to).find(|i| self.scan.mark(*i, ',')).unwrap_or(line.to);
        // A full stop makes a sentence of it, unless it names the bread: `Morag's boat bread, as she tells it.`
        let stop = self.scan.mark(line.to - 1, '.');
        let deed = events.iter().any(|e| matches!(e.what, What::Verb(_) | What::Take));
        if amounts || words > LONGEST_TITLE || ends > 0 || words == 0 || open || (stop && (deed || !self.names_bread(line.from, clause))) {
            return false;
        }
        let pieces: Vec<Event<'a>> = events.into_iter().filter(|e| matches!(e.what, What::Pieces(_))).collect();
        if !pieces.is_empty() {
            let told = steps::steps(self.scan, self.text, &pieces, line.from, line.to, line.number);
            self.reading.steps.extend(told);
        }
        self.title_shape(line.from, line.to);
        let from = self.behind_subject(line.from);
        let told = line.from..line.to;
        let pieces_at = told.clone().find(|i| self.scan.role(*i, Role::Yield).is_some() && self.scan.number(i + 1).is_some());
        let end = pieces_at.filter(|i| *i > from + 1).unwrap_or(if stop { clause } else { line.to });
        let end = (from + 1..=end)
            .rev()
            .find(|i| !self.scan.tok(i - 1).is_some_and(|t| matches!(t.kind, Kind::Mark('-' | ',' | '.' | '('))))
            .unwrap_or(end);
        self.title = Some(as_title(self.scan.source(self.text, from, end)));
        self.remark(line.number, line.from, end, PartKind::Title);
        if end < line.to && pieces_at.is_none() {
            let rest = (end..line.to).find(|i| !self.is_joint(*i)).unwrap_or(line.to);
            self.remark(line.number, rest, line.to, PartKind::Remark);
        }
        true
    }

    /// Whether some words name a bread: a word for pieces of it, or bread itself.
    fn names_bread(&self, from: usize, to: usize) -> bool {
        (from..to).any(|i| {
            let word = self.scan.tok(i).is_some_and(|t| {
                matches!(t.folded.as_ref(), "bread" | "brot" | "dough" | "cake" | "pain" | "pan" | "pane" | "brod" | "chleb")
            });
            word || self.scan.pick(i, |r| matches!(r, Role::Piece(_) | Role::Braid).then_some(())).is_some()
        })
    }

    /// Behind what only leads to the name: `ok so the recipe for the flatbreads`.
    fn behind_greeting(&self, from: usize, to: usize) -> usize {
        let leads = |i: usize| {
            let plain =
                ["recipe", "for", "the", "that", "heres", "this", "my", "a"].iter().any(|w| self.scan.word(i, w)) || self.scan.mark(i, ',');
            if plain { Some(i + 1) } else { self.scan.role(i, Role::Lead) }
        };
        let mut at = from;
        while let Some(next) = leads(at).filter(|n| *n < to) {
            at = next;
        }
        at
    }

    fn title_shape(&mut self, from: usize, to: usize) {
        let shape = |i: usize| self.scan.pick(i, |r| if let Role::Piece(s) = r { s } else { None }).map(|(s, _)| s);
        self.reading.title_shape = (from..to).find_map(shape);
    }

    /// Behind `Subject: Re:`.
    fn behind_subject(&self, from: usize) -> usize {
        let mut at = from;
        while ["subject", "re", "fw", "fwd", "betreff", "title", "recipe"].iter().any(|w| self.scan.word(at, w))
            && self.scan.mark(at + 1, ':')
        {
            at += 2;
        }
        at
    }

    /// `naan — 2 cups maida, …`: the words before the list are the bread's name.
    fn title_before_list(&mut self, line: &TextLine) -> usize {
        let events = sentence::events(self.scan, line.from, line.to);
        let Some(first) = events.iter().find(|e| matches!(&e.what, What::Line(t) if !t.sum.is_empty())) else { return line.from };
        let parting = (line.from..first.at).rev().find(|i| self.scan.mark(*i, ':') || self.scan.is_dash(*i) || self.scan.mark(*i, '!'));
        let Some(mut end) = parting else { return line.from };
        let parts = end;
        while end > line.from && self.scan.tok(end - 1).is_some_and(|t| matches!(t.kind, Kind::Mark('!' | ':'))) {
            end -= 1;
        }
        // Of a greeting and a name the name is the title: `hiya, here's that focaccia you wanted:`
        let words = self.scan.tokens.get(line.from..end).map_or(0, |w| w.iter().filter(|t| t.is_word()).count());
        let known = self.is_part_of_bread(line.from, end);
        if words == 0 || words > LONGEST_TITLE || known && self.reading.lines.is_empty() && words == 1 {
            return line.from;
        }
        let from = self.behind_greeting(line.from, end);
        // `For 2 loaves:`, `Gran says:` name no bread.
        let speaks = ["says", "said", "tells", "writes", "wrote"].iter().any(|w| self.scan.word(end - 1, w));
        if self.scan.number(from).is_some() || speaks {
            return line.from;
        }
        self.title = Some(as_title(self.scan.source(self.text, from, end)));
        self.title_shape(line.from, end);
        self.remark(line.number, line.from, end, PartKind::Title);
        let pieces: Vec<Event<'a>> = events.iter().filter(|e| e.end <= parts && matches!(e.what, What::Pieces(_))).cloned().collect();
        self.reading
            .steps
            .extend(steps::steps(self.scan, self.text, &pieces, line.from, end, line.number).into_iter().filter(|s| s.pieces.is_some()));
        parts + 1
    }

    fn is_part_of_bread(&self, from: usize, to: usize) -> bool {
        self.scan.pick(from, |r| if let Role::Head(h) = r { Some(h) } else { None }).is_some_and(|(_, e)| e == to)
    }

    /// A heading, if the whole line is one: what it says, and whether a table knows it.
    fn is_heading(&self, line: &TextLine, first: bool) -> Option<(Option<Head>, bool)> {
        let scan = self.scan;
        let mut from = line.from;
        while scan.mark(from, '#') || scan.mark(from, '*') || scan.mark(from, '_') {
            from += 1;
        }
        let mut to = line.to;
        while to > from && (scan.mark(to - 1, '*') || scan.mark(to - 1, '_')) {
            to -= 1;
        }
        let colon = to > from && scan.mark(to - 1, ':');
        let hashed = from > line.from && (scan.mark(line.from, '#') || to < line.to);
        to -= usize::from(colon);
        let outside = (from..to).scan(0_i32, |depth, i| {
            *depth += i32::from(scan.mark(i, '(')) - i32::from(scan.mark(i, ')'));
            Some((i, *depth > 0 || scan.mark(i, ')')))
        });
        let bare: Vec<usize> = outside.filter(|(_, inside)| !inside).map(|(i, _)| i).collect();
        // `Day 1` is a heading's own number.
        let numbers = bare.iter().any(|i| {
            let own = scan.pick(i.saturating_sub(1), |r| matches!(r, Role::Head(_)).then_some(())).is_some_and(|(_, end)| end > *i);
            scan.tok(*i).is_some_and(|t| t.value().is_some()) && !own
        });
        let words: Vec<&Token<'_>> = bare.iter().filter_map(|i| scan.tok(*i)).filter(|t| t.is_word()).collect();
        if words.is_empty() || numbers || words.len() > LONGEST_TITLE {
            return None;
        }
        let sentence = (from..to).any(|i| scan.ends_sentence(i));
        let capitals = words.iter().all(|t| t.text.chars().all(|c| !c.is_lowercase())) && words.iter().any(|t| t.text.chars().count() > 2);
        let for_the = scan.role(from, Role::ForThe).is_some() && words.len() <= 5;
        // The part that is named: each word of the line one of a heading's, or the last known in a line that is marked.
        let mut heads: Vec<Head> = Vec::new();
        let (mut i, mut all) = (from, true);
        while i < to {
            if scan.mark(i, '(') {
                i = scan.closing(i, to) + 1;
                continue;
            }
            if let Some((h, end)) = scan.pick(i, |r| if let Role::Head(h) = r { Some(h) } else { None }) {
                heads.push(h);
                i = end;
                continue;
            }
            let small = scan.pick(i, |r| matches!(r, Role::ForThe | Role::Lead | Role::And | Role::Of).then_some(())).is_some();
            let kind = scan.tok(i).is_some_and(|t| {
                matches!(
                    t.folded.as_ref(),
                    "rye"
                        | "hot"
                        | "wheat"
                        | "white"
                        | "sweet"
                        | "seed"
                        | "seeds"
                        | "cinnamon"
                        | "butter"
                        | "cheese"
                        | "nut"
                        | "sugar"
                        | "whole"
                        | "wholemeal"
                )
            });
            all &= small || kind || !scan.tok(i).is_some_and(Token::is_word);
            i += 1;
        }
        // In many words only what "for the" begins, or the first line's own, names a part.
        let few = words.len() <= 4 || scan.role(from, Role::ForThe).is_some();
        let known = heads.last().copied().filter(|_| if first { all } else { few || all });
        let lone = all
            && known.is_some()
            && !sentence
            && !(words.len() == 1
                && words.iter().any(|w| {
                    matches!(w.folded.as_ref(), "bread" | "paste" | "cross" | "mash" | "gel" | "syrup" | "porridge" | "base" | "sourdough")
                }));
        if lone || (colon || hashed || for_the || (capitals && !first)) && !sentence {
            // What is marked but has an ingredient's name and nothing else is the beginning of a line.
            return Some((known, lone || colon || hashed || for_the || capitals));
        }
        None
    }

    fn heading(&mut self, line: &TextLine, first: bool) -> bool {
        let Some((known, _)) = self.is_heading(line, first) else { return false };
        let head = known.unwrap_or(Head::Stage(None));
        self.list += 1;
        // Under its own heading a leaven is built; named again below, the whole of it goes in.
        let again =
            head == Head::Stage(Some(Stage::Leaven)) && self.reading.lines.iter().any(|l| l.stage == Stage::Leaven) && known.is_some();
        if known.is_some() || self.head == Head::Method {
            if !again {
                self.head = head;
            }
        } else if !first {
            self.head = Head::Stage(None);
            self.found.unknown_lists.push(self.list);
        }
        if first && head == Head::Stage(None) {
            let source = self.scan.source(self.text, line.from, line.to);
            self.title = Some(as_title(source)).filter(|_| known.is_none());
        }
        let pieces: Vec<Event<'a>> =
            sentence::events(self.scan, line.from, line.to).into_iter().filter(|e| matches!(e.what, What::Pieces(_))).collect();
        self.reading.steps.extend(
            steps::steps(self.scan, self.text, &pieces, line.from, line.to, line.number).into_iter().filter(|s| s.pieces.is_some()),
        );
        self.remark(line.number, line.from, line.to, PartKind::Heading);
        true
    }

    fn sentences(&mut self, line: &TextLine, from: usize) {
        let mut at = from;
        let mut head = self.head;
        let mut depth = 0_i32;
        let mut from = from;
        while at < line.to {
            depth += i32::from(self.scan.mark(at, '(')) - i32::from(self.scan.mark(at, ')'));
            let ends = depth <= 0 && self.scan.ends_sentence(at) && !self.is_cell_edge(line, at);
            if ends || at + 1 == line.to {
                let to = at + 1;
                // A heading told inside the line holds to its end, or to the next.
                let around = Around { line: *line, head, acted: head == Head::Method };
                head = self.sentence(around, from, to);
                from = to;
            }
            at += 1;
        }
    }

    /// `Salt;9`: a semicolon between a name and its figure parts cells, not sentences.
    fn is_cell_edge(&self, line: &TextLine, at: usize) -> bool {
        self.scan.mark(at, ';')
            && self.scan.tok(at + 1).is_some_and(|t| t.value().is_some())
            && self.scan.name_at(line.from, at, true).is_some()
            && self.scan.number(line.from).is_none()
    }

    /// Reads a sentence; the heading that holds behind it.
    fn sentence(&mut self, around: Around, from: usize, to: usize) -> Head {
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
        for k in 0..events.len() {
            let Some(e) = events.get(k).cloned() else { break };
            match &e.what {
                What::Head(h) => {
                    acted = *h == Head::Method;
                    head = *h;
                    self.list += 1;
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
    fn deed(&self, events: &[Event<'_>], from: usize) -> bool {
        let first = events.iter().find(|e| !matches!(e.what, What::Then | What::Passed));
        matches!(first.map(|e| &e.what), Some(What::Verb(_) | What::Take)) && first.is_some_and(|e| e.at <= from + 6)
    }

    /// A name, and its amount in the next clause: `a bit of water, maybe quarter cup`.
    fn with_amount_behind(&self, told: &Told<'a>, events: &mut [Event<'a>], k: usize) -> Told<'a> {
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
    fn tail_end(&self, events: &[Event<'_>], k: usize, to: usize) -> usize {
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

    /// What joins two things and belongs to neither.
    fn is_joint(&self, at: usize) -> bool {
        let Some(t) = self.scan.tok(at) else { return true };
        match t.kind {
            Kind::Mark(m) => !matches!(m, ')' | '%' | '°' | '"'),
            Kind::Word => {
                self.scan
                    .pick(at, |r| {
                        matches!(r, Role::And | Role::Plus | Role::Then | Role::Lead | Role::Approx | Role::Article).then_some(())
                    })
                    .is_some_and(|(_, end)| end == at + 1)
                    && self.scan.name_at(at, at + 1, true).is_none()
                    && self.scan.pick(at, |r| matches!(r, Role::Vague(_)).then_some(())).is_none()
            }
            Kind::Number { .. } | Kind::Broken => false,
        }
    }

    /// An ingredient told: a line, a correction, or a part of what is listed.
    #[allow(clippy::too_many_arguments, reason = "where it stands and what is around it")]
    fn told(
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
    fn beaten(&mut self, e: &Event<'_>, last: Option<usize>, read: &mut [ReadLine]) {
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

    /// `large knob of ginger-free butter lol no butter`
    fn denied(&self, told: &Told<'_>, end: usize) -> bool {
        let same = |at: usize| self.scan.name_at(at, end, true).is_some_and(|x| x.ingredient.id == told.name.ingredient.id);
        (told.tail..end).any(|i| self.scan.role(i, Role::No).is_some_and(same))
    }

    /// `1 egg yolk + 1 tbsp milk, for glazing`: the purpose behind both is the purpose of both.
    fn shared_purpose(&mut self, events: &[Event<'a>], k: usize, last: Option<usize>, at: usize, to: usize) {
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
    fn soaked(&self, e: &Event<'_>, place: Place, last: Option<usize>) -> Place {
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
    fn nameless(
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

    /// Words behind an amount that could be a name: some that mean nothing else to us.
    fn candidate(&self, from: usize, to: usize) -> Option<(usize, usize)> {
        let mut at = self.scan.behind_asides(from, to);
        at = self.scan.role(at, Role::Of).unwrap_or(at);
        let mut end = at;
        while end < to && self.scan.tok(end).is_some_and(|t| t.is_word() || t.is('-')) && end < at + 6 {
            let stops = self.scan.pick(end, |r| {
                matches!(
                    r,
                    Role::Stop
                        | Role::And
                        | Role::Or
                        | Role::Then
                        | Role::ForThe
                        | Role::Purpose(_)
                        | Role::Approx
                        | Role::Correct
                        | Role::Each
                        | Role::Lead
                )
                .then_some(())
            });
            if stops.is_some() {
                break;
            }
            end += 1;
        }
        (end > at).then_some((at, end))
    }

    /// A row of a list in bare figures whose name we do not know: `Skerryweed | 40`.
    fn bare_cell(&mut self, around: Around, from: usize, to: usize) -> bool {
        let bare = self.table_in_grams || self.reading.lines.iter().any(|l| l.questions.iter().any(|q| q.id == "bare-number"));
        let total =
            (from..to).any(|i| self.scan.pick(i, |r| matches!(r, Role::Total | Role::Yield | Role::Serves).then_some(())).is_some());
        if !bare || total || matches!(around.head, Head::Method | Head::Notes) {
            return false;
        }
        let Some(at) = (from..to).find(|i| self.scan.tok(*i).is_some_and(|t| t.value().is_some())) else { return false };
        let rest_plain =
            (at..to).all(|i| self.scan.tok(i).is_some_and(|t| t.value().is_some() || matches!(t.kind, Kind::Mark('|' | '%' | '\t' | ';'))));
        let Some((a, b)) = self.named_before(at).filter(|_| rest_plain && at > from) else { return false };
        let words = self.scan.source(self.text, a, b).to_owned();
        let near = self.nearest(&words);
        let grams = self.scan.tok(at).and_then(Token::value);
        let span = self.span(a, at + 1);
        let source = self.scan.source(self.text, a, at + 1).to_owned();
        self.unread(Unread { source, source_line: around.line.number, words, near, span, grams });
        true
    }

    /// Words before an amount that could be its name: `glimmer flour 500 g`.
    fn named_before(&self, at: usize) -> Option<(usize, usize)> {
        let plain = |i: &usize| self.scan.tok(*i).is_some_and(|t| t.is_word() || t.is('/')) && self.scan.number(*i).is_none();
        let mark = self.scan.back(at, 1).find(|i| [':', '-', '|', '\t', '='].iter().any(|m| self.scan.mark(*i, *m)));
        let end = mark.unwrap_or(at);
        let start = self.scan.back(end, 5).take_while(plain).last()?;
        Some((start, end))
    }

    /// An amount of something we do not know.
    fn unknown(&mut self, e: &Event<'a>, from: usize, line: usize, to: usize, acted: bool) -> bool {
        let behind = self.candidate(from, to);
        let before = if behind.is_none() { self.named_before(e.at) } else { None };
        let candidate = behind.or(before);
        let alone = candidate.is_none();
        let known = candidate.is_some_and(|(a, b)| (a..b).all(|i| !self.scan.hits(i).is_empty()));
        // In the middle of the work a measure without a name is a size or a part.
        if acted && (alone || known) {
            return false;
        }
        let sum = match &e.what {
            What::Nameless { sum, .. } => sum.first().map(|(_, a)| a),
            What::Line(told) => told.sum.first().map(|(_, a)| a),
            _ => None,
        };
        let end = behind.map_or(e.end.max(from), |(_, b)| b);
        let start = before.map_or(e.at, |(a, _)| a);
        let words = candidate.map_or("", |(a, b)| self.scan.source(self.text, a, b)).to_owned();
        // One letter off is read as what it resembles, and asked.
        if let (Some((x, y)), What::Nameless { sum, .. }) = (candidate, &e.what)
            && let Some(name) = self.scan.guess(x, y)
        {
            let told = Told::new(sum.clone(), name, e.end, y);
            let place = Place { stage: stage_of(self.head), put_on: false, source_line: line, listed: false, list: self.list };
            let writing = Writing { scan: self.scan, text: self.text, at: e.at, end: y, place, beside: Vec::new() };
            if let Some(read) = writing.read(&told) {
                self.reading.lines.extend(read);
                return true;
            }
        }
        let near = self.nearest(&words);
        let source = self.scan.source(self.text, start, end).to_owned();
        let grams = sum.and_then(Amount::about_grams);
        let span = self.span(start, end);
        self.unread(Unread { source, source_line: line, words, near, span, grams });
        true
    }

    /// Ingredients a word could be: by all of it, then by its words, the last first.
    fn nearest(&self, words: &str) -> Vec<String> {
        if self.reading.unread.len() >= MOST_ASKED {
            return Vec::new();
        }
        let mut near: Vec<String> = Vec::new();
        let parts = std::iter::once(words).chain(words.rsplit(' ').filter(|w| w.chars().count() >= 4));
        for part in parts {
            near.extend(self.scan.pantry.search(part, MOST_NEAR).into_iter().map(|i| i.id.clone()));
        }
        let mut seen = Vec::new();
        near.retain(|id| {
            !seen.contains(id) && {
                seen.push(id.clone());
                true
            }
        });
        near.truncate(MOST_NEAR);
        near
    }

    fn unread(&mut self, unread: Unread) {
        self.found.parts.push(Part::new(PartKind::Unread(self.reading.unread.len()), unread.span));
        self.reading.unread.push(unread);
    }

    /// `flour: bread 80%, wholemeal 15%, rye 5%`
    fn flour_shares(&mut self, events: &[Event<'a>], line: usize, from: usize, to: usize) -> bool {
        let Some(What::Line(told)) = events.first().map(|e| &e.what) else { return false };
        let opens = told.sum.is_empty() && told.name.ingredient.family == Family::Flour && self.scan.mark(told.name.end, ':');
        let marks: Vec<usize> = (from..to).filter(|i| self.scan.mark(*i, '%')).collect();
        if !opens || marks.is_empty() {
            return false;
        }
        let mut clause = told.name.end + 1;
        for at in marks {
            let Some(value) = at.checked_sub(1).and_then(|i| self.scan.tok(i)).and_then(Token::value) else { continue };
            let flour = flour_named(self.scan, clause, at - 1).or_else(|| flour_named(self.scan, at + 1, to));
            if let Some(ingredient) = flour {
                let span = self.span(clause, at + 1);
                self.reading.lines.push(ReadLine {
                    source: self.scan.source(self.text, clause, at + 1).to_owned(),
                    source_line: line,
                    span,
                    stage: Stage::usual(&ingredient),
                    ingredient,
                    grams: None,
                    temp_c: None,
                    optional: false,
                    by_volume: false,
                    questions: Vec::new(),
                    alternative: None,
                    percent: Some(value),
                    hydration_pct: None,
                    in_step: false,
                    list: self.list,
                    purposed: false,
                });
            }
            clause = (at..to).find(|i| self.scan.mark(*i, ',')).map_or(to, |i| i + 1);
        }
        true
    }

    /// `total flour 900 g`, `Make 850 g dough`: the scale of a recipe in percent.
    fn totals(&mut self, events: &mut Vec<Event<'a>>, from: usize, to: usize) {
        let begins = (from..to).find(|i| self.scan.pick(*i, |r| matches!(r, Role::Total | Role::Yield).then_some(())).is_some());
        let Some((end, total)) = begins.filter(|i| *i <= from + 3).and_then(|i| {
            let total = self.scan.role(i, Role::Total);
            total.or_else(|| self.scan.role(i, Role::Yield)).map(|end| (end, total.is_some()))
        }) else {
            return;
        };
        let figure = (end..to.min(end + 5)).find(|i| self.scan.tok(*i).is_some_and(|t| t.value().is_some()));
        let Some((a, behind)) = figure.and_then(|i| self.scan.amount(i, to)) else { return };
        let words = self.scan.folded(from, to);
        let grams = a.mass().or_else(|| (total && a.unit.is_none() && a.value.likely >= 100.0).then_some(a.value));
        let Some(grams) = grams else { return };
        let flour = words.contains(" flour ") || words.contains("mehl") || words.contains(" farine ");
        let dough = words.contains(" dough ") || words.contains(" teig ") || (total && !flour);
        if !(flour || dough) {
            return;
        }
        self.total = self.total.or(Some((grams, flour)));
        events.retain(|e| e.at >= behind || e.end <= from);
        events.insert(0, Event { what: What::Total, at: from, end: behind, clause: 0 });
    }

    /// What of a sentence is no ingredient: steps, or a remark.
    fn rest_of_sentence(&mut self, events: &[Event<'a>], line: usize, from: usize, to: usize, lines: usize, head: Head) {
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

    fn trimmed(&self, from: usize, to: usize) -> usize {
        let mut end = to;
        while end > from + 1 && self.scan.tok(end - 1).is_some_and(|t| matches!(t.kind, Kind::Mark(',' | ';' | '-'))) {
            end -= 1;
        }
        end
    }

    /// A line of a list that holds one ingredient and nothing else is shown whole.
    fn whole_source(&mut self, line: TextLine, lines: usize, from: usize, to: usize) {
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

    fn done(mut self, tables: &Tables) -> Reading {
        let mut parts = std::mem::take(&mut self.found.parts);
        if !self.braided {
            for step in &mut self.reading.steps {
                step.strands = None;
            }
        }
        whole::resolve(&mut self.reading, &tables.pantry, self.total, &self.found.unknown_lists);
        parts.extend(self.reading.lines.iter().enumerate().map(|(i, l)| Part::new(PartKind::Line(i), l.span)));
        self.reading.parts = parts::in_order(parts);
        self.reading.formula.name = self.title.filter(|t| !t.is_empty() && t.chars().count() <= 200);
        self.reading.formula.gluten_free = self.gluten_free;
        self.reading
    }
}

/// The stage of lines below a heading.
const fn stage_of(head: Head) -> Option<Stage> {
    match head {
        Head::Stage(s) => s,
        Head::Bath => Some(Stage::Finish),
        Head::Method | Head::Notes | Head::Unknown => None,
    }
}

/// A title as it was written, without its marks and what stands in brackets behind it.
fn as_title(source: &str) -> String {
    source
        .split('(')
        .next()
        .unwrap_or(source)
        .trim_matches(|c: char| c.is_whitespace() || matches!(c, '#' | '*' | ':' | '|' | '"'))
        .to_owned()
}
