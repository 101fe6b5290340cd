//! The day a plan is for: when now is, when the bread is wanted, and the hours that are not the dough's.

use super::{
    hours::{Away, HandsTaken, Minute, Span, Windows},
    want::Want,
};

/// The day: when now is, when the bread is wanted, and the hours that are not the dough's.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Day {
    /// Nothing begins before.
    pub from: Minute,
    /// When it is to be sliced; none: as soon as it can be.
    pub ready: Option<Minute>,
    /// How long before it may be ready.
    pub early: Minute,
    /// Everything lies inside.
    pub horizon: Span,
    /// The baker's hours.
    pub away: Vec<Away>,
    /// Hands taken by another dough.
    pub hands_taken: Vec<HandsTaken>,
    /// Oven taken by another dough.
    pub oven_taken: Vec<Span>,
    /// When the mix may begin, where the leaven stands ready.
    pub mix_within: Option<Span>,
    /// Whether the baker may be woken once, for ten minutes.
    pub woken: bool,
    /// Hours in which one would rather sleep.
    pub nights: Vec<Span>,
    /// What matters most.
    pub want: Option<Want>,
}

impl Day {
    /// All of it that is still to come.
    pub(super) fn whole(&self) -> Span {
        Span::new(self.from.max(self.horizon.from), self.horizon.to)
    }

    /// What it leaves free.
    pub(super) fn windows(&self) -> Windows {
        Windows::of_hours(self.whole(), &self.away, &self.hands_taken, &self.oven_taken)
    }
}
