//! What is not understood, with the ingredients it resembles: nothing told is dropped.

use super::{
    Unread,
    amount::Amount,
    event::{Event, Told, What},
    lexicon::{Head, Role},
    line::{Place, Writing},
    parts::{Part, PartKind},
    recipe::{Around, Recipe, stage_of},
    token::{Kind, Token},
};

/// So many words are asked about with what they could be; beyond that it is no recipe.
const MOST_ASKED: usize = 8;
/// Ingredients offered for a name that is not known.
const MOST_NEAR: usize = 4;

impl<'a> Recipe<'_, 'a, '_> {
    /// Words behind an amount that could be a name: some that mean nothing else to us.
    pub(super) fn candidate(&self, from: usize, to: usize) -> Option<(usize, usize)> {
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
    pub(super) fn bare_cell(&mut self, around: Around, from: usize, to: usize) -> bool {
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
    pub(super) fn named_before(&self, at: usize) -> Option<(usize, usize)> {
        let plain = |i: &usize| self.scan.tok(*i).is_some_and(|t| t.is_word() || t.is('/')) && self.scan.number(*i).is_none();
        let mark = self.scan.back(at, 1).find(|i| [':', '-', '|', '\t', '='].iter().any(|m| self.scan.mark(*i, *m)));
        let end = mark.unwrap_or(at);
        let start = self.scan.back(end, 5).take_while(plain).last()?;
        Some((start, end))
    }

    /// An amount of something we do not know.
    pub(super) fn unknown(&mut self, e: &Event<'a>, from: usize, line: usize, to: usize, acted: bool) -> bool {
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
    pub(super) fn nearest(&self, words: &str) -> Vec<String> {
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

    pub(super) fn unread(&mut self, unread: Unread) {
        self.found.parts.push(Part::new(PartKind::Unread(self.reading.unread.len()), unread.span));
        self.reading.unread.push(unread);
    }
}
