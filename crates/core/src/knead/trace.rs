//! The way of a dough through its work: how far and how warm it is, minute by minute, on into the first rise with its folds.

use super::{
    Kneading, PhaseKind, Work,
    programme::Programme,
    state::{Moment, Phase},
};
use crate::measure::Band;

/// A moment of the way. Development is a share of this flour's own best.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Point {
    /// Since water met flour, minutes.
    pub min: f64,
    /// Development, and between what it may lie.
    pub gluten: Band,
    /// The dough, °C.
    pub celsius: Band,
}

/// The way of one batch.
#[derive(Debug, Clone, PartialEq)]
pub struct Way {
    /// In order of time.
    pub points: Vec<Point>,
    /// Its phases, each with the minutes from and to which it lasts; a fold's are the same.
    pub phases: Vec<(PhaseKind, f64, f64)>,
    /// When it leaves the bowl.
    pub out_min: f64,
}

/// So long it is followed into the rise where nothing is folded, and after the last fold, minutes.
const ON_MIN: f64 = 15.0;

impl Work<'_> {
    /// The way of a kneading.
    #[must_use]
    pub fn way(&self, done: &Kneading) -> Way {
        let Programme { mut state, phases, knead_min } = self.programme(true);
        let mut at = 0.0;
        let mut spans: Vec<(PhaseKind, f64, f64)> = Vec::new();
        for phase in &phases {
            spans.push((phase.kind, at, at + phase.minutes.likely));
            at += phase.minutes.likely;
        }
        let (out_min, mut folds) = (at, 0);
        for fold in &done.fold_at_min {
            state.run(Phase::Rest, out_min + fold - state.moment().min);
            // What hands do counts as work: it is as unsure.
            state.by_work += self.fold_gain(folds + 1) - self.fold_gain(folds);
            folds += 1;
            let here = state.moment();
            state.trace.get_or_insert_default().push(here);
            spans.push((PhaseKind::Fold, here.min, here.min));
        }
        state.run(Phase::Rest, ON_MIN.min(done.bulk_min));
        let spread = self.spread();
        let point = |m: &Moment| Point {
            min: m.min,
            gluten: Band { low: m.by_rest + m.by_work / spread, likely: m.by_rest + m.by_work, high: m.by_rest + m.by_work * spread },
            celsius: self.warmth(*m, knead_min > 0.0),
        };
        Way { points: state.trace.iter().flatten().map(point).collect(), phases: spans, out_min }
    }
}
