//! The moments of a rise, with what they may be.

use serde::Serialize;

/// What happens.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum EventKind {
    BulkRipe,
    ProofRipe,
    LeavenPeak,
    Doubled,
    Tripled,
    OverRipe,
    OverProofed,
    LeavenFalls,
    NotRipe,
}

impl EventKind {
    /// Whether it is the moment the rise is waited for.
    #[must_use]
    pub const fn is_ripe(self) -> bool {
        matches!(self, Self::BulkRipe | Self::ProofRipe | Self::LeavenPeak)
    }
}

/// A moment: minutes from mixing, dough time, and its 80 % range. `None`: may not get there.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Event {
    /// What happens.
    pub kind: EventKind,
    /// In which stage, from 0.
    pub stage: usize,
    /// Minutes from mixing.
    pub min: f64,
    /// Early end of the range.
    pub min_low: Option<f64>,
    /// Late end of the range.
    pub min_high: Option<f64>,
    /// Dough hours at that moment.
    pub dough_h: f64,
    /// Only if left standing beyond what was asked.
    pub ahead: bool,
}

/// The path of one rise over the clock, for turning dough time back into minutes.
#[derive(Debug, Default)]
pub(super) struct Path {
    points: Vec<(f64, f64)>,
}

impl Path {
    pub(super) fn start(&mut self, min: f64, theta: f64) {
        self.points.clear();
        self.points.push((min, theta));
    }
    pub(super) fn push(&mut self, min: f64, theta: f64) {
        self.points.push((min, theta));
    }

    /// Minutes at which the dough time is reached; past the end with the last step's speed.
    fn minutes_at(&self, theta: f64, farthest_min: f64) -> Option<f64> {
        let after = self.points.partition_point(|p| p.1 < theta);
        if after == 0 {
            return self.points.first().map(|p| p.0);
        }
        if let (Some(a), Some(b)) = (self.points.get(after - 1), self.points.get(after)) {
            return Some(a.0 + (b.0 - a.0) * (theta - a.1) / (b.1 - a.1));
        }
        let last = self.points.last()?;
        let speed =
            self.points.iter().rev().skip(1).map(|p| ((last.1 - p.1), (last.0 - p.0))).find(|(_, dt)| *dt > 0.0).map(|(d, dt)| d / dt)?;
        if speed <= 0.0 {
            return None;
        }
        let min = last.0 + (theta - last.1) / speed;
        (min <= last.0 + farthest_min).then_some(min)
    }

    /// The clock span from the rise's start to where dough time, stretched by `factor`, is reached.
    pub(super) fn stretched(&self, theta: f64, factor: f64) -> Option<f64> {
        let (t0, theta0) = *self.points.first()?;
        self.minutes_at(theta0 + (theta - theta0) * factor, 14.0 * 1440.0).map(|min| min - t0)
    }
}
