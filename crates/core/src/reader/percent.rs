//! Recipes in percent: shares of the flour, and the weight that scales them.

use super::{
    clue::Clue,
    event::{Event, What},
    lexicon::Role,
    line::flour_named,
    read_line::ReadLine,
    recipe::Recipe,
    token::Token,
};
use crate::{formula::Stage, pantry::Family};

impl<'a> Recipe<'_, 'a, '_> {
    /// `flour: bread 80%, wholemeal 15%, rye 5%`
    pub(super) fn flour_shares(&mut self, events: &[Event<'a>], line: usize, from: usize, to: usize) -> bool {
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
                    used: None,
                    purposed: false,
                    clues: self.scan.clues(clause, at + 1),
                    sized: false,
                });
            }
            clause = (at..to).find(|i| self.scan.mark(*i, ',')).map_or(to, |i| i + 1);
        }
        true
    }

    /// `Sandwich loaf, 900 g dough: flour 100 %, …`
    fn dough_weighed(&mut self, events: &mut [Event<'a>], from: usize, to: usize) -> bool {
        let weighed = (from..to).find_map(|i| {
            let (a, end) = self.scan.amount(i, to)?;
            a.mass().filter(|_| self.scan.tells(end, Clue::Dough)).map(|m| (m, i))
        });
        let Some((grams, at)) = weighed.filter(|_| self.total.is_none()) else { return false };
        let Some(e) = events.iter_mut().find(|e| e.at == at && matches!(e.what, What::Nameless { .. })) else { return false };
        e.what = What::Total;
        self.total = Some((grams, false));
        true
    }

    /// `total flour 900 g`, `Make 850 g dough`: the scale of a recipe in percent.
    pub(super) fn totals(&mut self, events: &mut Vec<Event<'a>>, from: usize, to: usize) {
        if self.in_percent && self.dough_weighed(events, from, to) {
            return;
        }
        let begins = (from..to).find(|i| self.scan.pick(*i, |r| matches!(r, Role::Total | Role::Yield).then_some(())).is_some());
        let Some((end, total)) = begins.filter(|i| *i <= from + 3).and_then(|i| {
            let total = self.scan.role(i, Role::Total);
            total.or_else(|| self.scan.role(i, Role::Yield)).map(|end| (end, total.is_some()))
        }) else {
            return;
        };
        // `Total | 174.8% | 1748 g`: the share says nothing of the weight.
        let is_figure = |i: &usize| self.scan.tok(*i).is_some_and(|t| t.value().is_some()) && !self.scan.mark(i + 1, '%');
        let figure = (end..to.min(end + 8)).find(is_figure);
        let Some((a, behind)) = figure.and_then(|i| self.scan.amount(i, to)) else { return };
        let grams = a.mass().or_else(|| (total && a.unit.is_none() && a.value.likely >= 100.0).then_some(a.value));
        let Some(grams) = grams else { return };
        let is_flour = |i: usize| self.scan.name_at(i, to, true).is_some_and(|n| n.ingredient.family == Family::Flour);
        let flour = (from..to).any(is_flour);
        let dough = self.scan.clues(from, to).contains(Clue::Dough) || (total && !flour);
        if !(flour || dough) {
            return;
        }
        self.total = self.total.or(Some((grams, flour)));
        events.retain(|e| e.at >= behind || e.end <= from);
        events.insert(0, Event { what: What::Total, at: from, end: behind, clause: 0 });
    }
}
