//! Titles and headings: the first line, what a list is headed with, the head of a table.

use super::{
    clue::Clue,
    event::{Event, What},
    lexicon::{Head, Role},
    parts::PartKind,
    recipe::{LONGEST_TITLE, Recipe, as_title},
    scan::Scan,
    sentence, steps,
    text::TextLine,
    token::{Kind, Token},
};
use crate::formula::Stage;

impl<'a> Recipe<'_, 'a, '_> {
    /// `---|---`: the rule of a table.
    pub(super) fn is_rule(&self, line: &TextLine) -> bool {
        (line.from..line.to)
            .all(|i| self.scan.tok(i).is_some_and(|t| matches!(t.kind, Kind::Mark('|' | '-' | ':' | '=' | '_' | '*' | '#'))))
    }

    /// `Ingredient | grams | %`: the first row of a table, or its title.
    pub(super) fn table_head(&mut self, line: &TextLine, first: bool) -> bool {
        let cells: Vec<usize> = (line.from..line.to).filter(|i| ['|', '\t', ';'].iter().any(|m| self.scan.mark(*i, *m))).collect();
        let numbers = (line.from..line.to).any(|i| self.scan.tok(i).is_some_and(|t| t.value().is_some()));
        if cells.is_empty() || numbers || (self.scan.name_first(line.from, line.to).is_some()) {
            return false;
        }
        // `g` alone heads the column of weights.
        let grams = (line.from..line.to).any(|i| self.scan.unit(i, 1.0).is_some_and(|(m, _)| m.id == "g"));
        if !grams && !self.scan.clues(line.from, line.to).contains(Clue::Column) {
            return false;
        }
        self.table_in_grams = grams;
        let lead = line.from + usize::from(self.scan.mark(line.from, '|'));
        let end = cells.iter().copied().find(|c| *c >= lead).unwrap_or(line.to);
        let is_title = first && end > lead && !self.scan.clues(lead, end).contains(Clue::NameColumn);
        if is_title {
            self.title = Some(as_title(self.scan.source(self.text, lead, end)));
        }
        self.remark(line.number, line.from, line.to, if is_title { PartKind::Title } else { PartKind::Heading });
        true
    }

    /// The first line, where it is a title: no amount, few words; it may tell pieces.
    pub(super) fn title_line(&mut self, line: &TextLine) -> bool {
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
    pub(super) fn names_bread(&self, from: usize, to: usize) -> bool {
        (from..to).any(|i| {
            self.scan.tells(i, Clue::Bread) || self.scan.pick(i, |r| matches!(r, Role::Piece(_) | Role::Braid).then_some(())).is_some()
        })
    }

    /// Behind what only leads to the name: `ok so the recipe for the flatbreads`.
    pub(super) fn behind_greeting(&self, from: usize, to: usize) -> usize {
        let leads = |i: usize| {
            let plain = self.scan.tells(i, Clue::Introduces) || self.scan.mark(i, ',');
            if plain { Some(i + 1) } else { self.scan.role(i, Role::Lead) }
        };
        let mut at = from;
        while let Some(next) = leads(at).filter(|n| *n < to) {
            at = next;
        }
        at
    }

    pub(super) fn title_shape(&mut self, from: usize, to: usize) {
        let shape = |i: usize| self.scan.pick(i, |r| if let Role::Piece(s) = r { s } else { None }).map(|(s, _)| s);
        self.reading.title_shape = (from..to).find_map(shape);
    }

    /// Behind `Subject: Re:`.
    pub(super) fn behind_subject(&self, from: usize) -> usize {
        let mut at = from;
        while self.scan.tells(at, Clue::Subject) && self.scan.mark(at + 1, ':') {
            at += 2;
        }
        at
    }

    /// `naan — 2 cups maida, …`: the words before the list are the bread's name.
    pub(super) fn title_before_list(&mut self, line: &TextLine) -> usize {
        let events = sentence::events(self.scan, line.from, line.to);
        let Some(first) = events.iter().find(|e| matches!(&e.what, What::Line(t) if !t.sum.is_empty())) else { return line.from };
        // `Hot cross buns. 625 g flour, …`
        let stop = |i: usize| self.scan.mark(i, '.') && self.scan.ends_sentence(i) && self.names_bread(line.from, i);
        let parting =
            (line.from..first.at).rev().find(|i| self.scan.mark(*i, ':') || self.scan.is_dash(*i) || self.scan.mark(*i, '!') || stop(*i));
        let Some(mut end) = parting else { return line.from };
        let parts = end;
        while end > line.from && self.scan.tok(end - 1).is_some_and(|t| matches!(t.kind, Kind::Mark('!' | ':' | '.'))) {
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
        let speaks = self.scan.tells(end - 1, Clue::Speaks);
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

    pub(super) fn is_part_of_bread(&self, from: usize, to: usize) -> bool {
        self.scan.pick(from, |r| if let Role::Head(h) = r { Some(h) } else { None }).is_some_and(|(_, e)| e == to)
    }

    /// A heading, if the whole line is one: what it says, and whether a table knows it.
    pub(super) fn is_heading(&self, line: &TextLine, first: bool) -> Option<(Option<Head>, bool)> {
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
            let kind = scan.tells(i, Clue::KindOfList);
            all &= small || kind || !scan.tok(i).is_some_and(Token::is_word);
            i += 1;
        }
        // In many words only what "for the" begins, or the first line's own, names a part.
        let few = words.len() <= 4 || scan.role(from, Role::ForThe).is_some();
        let known = heads.last().copied().filter(|_| if first { all } else { few || all });
        let lone = all && known.is_some() && !sentence && !(words.len() == 1 && scan.clues(from, to).contains(Clue::NoHeadingAlone));
        if lone || (colon || hashed || for_the || (capitals && !first)) && !sentence {
            // What is marked but has an ingredient's name and nothing else is the beginning of a line.
            return Some((known, lone || colon || hashed || for_the || capitals));
        }
        None
    }

    /// What the list that begins here is for, where its heading says so.
    pub(super) fn used_for(&mut self, from: usize, to: usize) {
        let said = (from..to).find_map(|i| self.scan.pick(i, |r| if let Role::Used(u) = r { Some(u) } else { None }));
        if let Some((used, _)) = said {
            self.found.uses.insert(self.list, used);
        }
    }

    pub(super) fn heading(&mut self, line: &TextLine, first: bool) -> bool {
        let Some((known, _)) = self.is_heading(line, first) else { return false };
        let head = known.unwrap_or(Head::Stage(None));
        self.list += 1;
        self.used_for(line.from, line.to);
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
}
