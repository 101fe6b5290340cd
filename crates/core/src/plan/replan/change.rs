//! What a way to go on changes against the plan, and which change is the least.

use super::{
    super::search::{
        hours::Minute,
        placing::PlacedSchedule,
        schedule::{RiseOf, Schedule},
        solve::Begun,
    },
    WORTH_MIN,
};
use crate::kitchen::Place;

/// A change against the plan, the least first.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum RestChange {
    /// The shaped pieces rest longer or shorter before they are shaped again, minutes in all.
    BenchRest(Minute),
    /// So many folds are left out.
    FoldsSkipped(usize),
    /// A rise goes on in another place.
    Place(RiseOf, Place),
    /// A rise is braked in the fridge.
    Brake(RiseOf),
    /// It goes into the oven so many minutes sooner: the bread is there in time.
    LoadSooner(Minute),
    /// The bread is ready so many minutes later.
    ReadyLater(Minute),
    /// Hands are asked for at this minute while they are at another bread: which.
    HandsTaken(Minute, String),
    /// Hands are asked for at this minute, in hours that are not free.
    OutOfHours(Minute),
}

impl RestChange {
    /// Which kind of change it is, the least first.
    #[must_use]
    pub const fn kind(&self) -> u8 {
        match self {
            Self::BenchRest(_) => 0,
            Self::FoldsSkipped(_) => 1,
            Self::Place(..) => 2,
            Self::Brake(_) => 3,
            Self::LoadSooner(_) => 4,
            Self::ReadyLater(_) => 5,
            Self::HandsTaken(..) => 6,
            Self::OutOfHours(_) => 7,
        }
    }
    /// As the API writes it.
    #[must_use]
    pub const fn word(&self) -> &'static str {
        match self {
            Self::BenchRest(_) => "bench-rest",
            Self::FoldsSkipped(_) => "folds-skipped",
            Self::Place(..) => "place",
            Self::Brake(_) => "fridge",
            Self::LoadSooner(_) => "load-sooner",
            Self::ReadyLater(_) => "ready-later",
            Self::HandsTaken(..) => "hands-taken",
            Self::OutOfHours(_) => "out-of-hours",
        }
    }
}

/// A way as it is laid.
pub(super) struct Measured<'a> {
    pub(super) schedule: &'a Schedule,
    pub(super) laid: &'a PlacedSchedule,
    pub(super) rest_min: Minute,
    pub(super) usual_rest_min: Minute,
}

/// What it changes against the planned way, of which the bread is ready at `ready`.
pub(super) fn changes(planned: &Schedule, m: &Measured<'_>, begun: &Begun, ready: Minute) -> Vec<RestChange> {
    let mut all = Vec::new();
    if m.rest_min != m.usual_rest_min {
        all.push(RestChange::BenchRest(m.rest_min));
    }
    let skipped = begun.folds.len().saturating_sub(m.laid.folds.len());
    if skipped > 0 {
        all.push(RestChange::FoldsSkipped(skipped));
    }
    for (rise, before, after) in [(RiseOf::Bulk, &planned.bulk, &m.schedule.bulk), (RiseOf::Proof, &planned.proof, &m.schedule.proof)] {
        let places = |legs: &[super::super::search::schedule::Leg]| -> Vec<Place> {
            legs.iter().filter(|l| l.minutes != Some(0)).map(|l| l.place).collect()
        };
        let (before, after) = (places(before), places(after));
        if before == after {
            continue;
        }
        let cold = |p: &[Place]| p.contains(&Place::Fridge);
        all.push(if cold(&after) && !cold(&before) {
            RestChange::Brake(rise)
        } else {
            RestChange::Place(rise, after.last().copied().unwrap_or(Place::Room))
        });
    }
    let moved = m.laid.ready - ready;
    if f64::from(moved.abs()) >= WORTH_MIN {
        all.push(if moved > 0 { RestChange::ReadyLater(moved) } else { RestChange::LoadSooner(-moved) });
    }
    all
}

/// What a way's changes weigh: the worst of them first, then how far the bread is off its hour, then how many there are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) struct Weight {
    worst: u8,
    tens: Minute,
    count: usize,
    off_min: Minute,
    /// One bit for each kind.
    kinds: u8,
}

impl Weight {
    pub(super) fn of(changes: &[RestChange], off_min: Minute) -> Self {
        Self {
            worst: changes.iter().map(|c| c.kind() + 1).max().unwrap_or(0),
            tens: off_min.abs() / 10,
            count: changes.len(),
            off_min: off_min.abs(),
            kinds: changes.iter().fold(0, |bits, c| bits | 1 << c.kind()),
        }
    }
    /// Whether every kind of change in it is in the other too.
    pub(super) const fn is_part_of(self, other: Self) -> bool {
        self.kinds & other.kinds == self.kinds
    }
    /// Whether it does nearly as well as the other with fewer changes: a quarter of an hour, or a fifth of how far it is
    /// off.
    pub(super) fn does_without(self, other: Self) -> bool {
        let gain = self.off_min - other.off_min;
        self.is_part_of(other) && self.count < other.count && gain < (self.off_min / 5).max(15)
    }
}
