//! What the signs of a bake tell of its own rate: a dough ripe sooner than the book, or not ripe when it should be.

use jiff::Timestamp;

use super::search::judge::{density, normal};
use crate::ferment::RiseKind;

/// How a dough was found when it was looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Look {
    /// It was seen to become ripe.
    Ripe,
    /// It was ripe already.
    Already,
    /// It was not ripe yet.
    NotYet,
    /// It was past ripe.
    Over,
}

/// A look at a rise.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Seen {
    /// When.
    pub at: Timestamp,
    /// Which rise.
    pub kind: RiseKind,
    /// How it was found.
    pub look: Look,
}

/// Dough hours of a rise when it was looked at, and those the book gives it until ripe and until over.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Aged {
    pub(super) look: Look,
    pub(super) hours: f64,
    pub(super) ripe: f64,
    pub(super) over: f64,
}

/// How fast a bake runs, times the book, and the spread of ln(rate) that is left.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct OwnRate {
    pub(super) rate: f64,
    pub(super) log_sigma: f64,
}

/// How surely a baker reads a sign, as a spread of ln(time). Common practice, no source: `learning` of docs/science.
const READING: f64 = 0.15;
/// One time tells no more than this, in ln.
const MOST: f64 = 0.7;
/// A bound this unlikely contradicts what was believed: it then counts as a time.
const UNLIKELY: f64 = 1e-9;

/// A belief about ln(rate) of this bake.
#[derive(Debug, Clone, Copy)]
struct Belief {
    mean: f64,
    variance: f64,
}

impl Belief {
    /// ln(rate) was `y`, give or take the reading.
    fn told(self, y: f64) -> Self {
        let y = y.clamp(-MOST, MOST);
        let gain = self.variance / (self.variance + READING * READING);
        Self { mean: self.mean + gain * (y - self.mean), variance: self.variance * (1.0 - gain) }
    }
    /// ln(rate) is at least `y` (`sign` 1) or at most (−1), give or take the reading: the normal with the moments of the
    /// truncated one.
    fn bounded(self, y: f64, sign: f64) -> Self {
        let spread = self.variance + READING * READING;
        let z = sign * (self.mean - y) / spread.sqrt();
        let chance = normal(z);
        if chance < UNLIKELY {
            return self.told(y);
        }
        let hazard = density(z) / chance;
        let gain = self.variance / spread;
        Self {
            mean: self.mean + sign * gain * spread.sqrt() * hazard,
            variance: self.variance - gain * self.variance * hazard * (hazard + z),
        }
    }
}

/// The rate of a bake after these looks; before them ln(rate) is spread by `sigma`. The day's own share of the spread
/// is part of the rate here: all rises of one bake share it.
pub(super) fn own_rate(looks: &[Aged], sigma: f64) -> Option<OwnRate> {
    if looks.is_empty() || sigma <= 0.0 {
        return None;
    }
    let mut belief = Belief { mean: 0.0, variance: sigma * sigma };
    for l in looks.iter().filter(|l| l.hours > 0.0 && l.ripe > 0.0) {
        let faster = |hours: f64| (hours / l.hours).ln();
        belief = match l.look {
            Look::Ripe => belief.told(faster(l.ripe)),
            Look::Already => belief.bounded(faster(l.ripe), 1.0),
            Look::NotYet => belief.bounded(faster(l.ripe), -1.0),
            Look::Over => belief.bounded(faster(l.over), 1.0),
        };
    }
    Some(OwnRate { rate: belief.mean.exp(), log_sigma: belief.variance.sqrt() })
}

#[cfg(test)]
mod tests {
    use super::*;

    const SIGMA: f64 = 0.29;

    fn after(look: Look, hours: f64) -> OwnRate {
        own_rate(&[Aged { look, hours, ripe: 2.0, over: 3.0 }], SIGMA).unwrap()
    }

    /// Mean and variance of the belief, by adding up prior times what a look is worth on a fine grid.
    fn by_sum(worth: impl Fn(f64) -> f64) -> (f64, f64) {
        let points = (-4000..=4000).map(|i| f64::from(i) * 0.0005);
        let (mut n, mut m, mut v) = (0.0, 0.0, 0.0);
        for x in points {
            let w = (-0.5 * (x / SIGMA).powi(2)).exp() * worth(x);
            (n, m, v) = (n + w, m + w * x, v + w * x * x);
        }
        (m / n, v / n - (m / n).powi(2))
    }

    #[test]
    fn a_look_moves_the_rate_as_bayes_does() {
        let y = (2.0_f64 / 1.5).ln();
        let cases = [
            (Look::Ripe, by_sum(|x| (-0.5 * ((y - x) / READING).powi(2)).exp())),
            (Look::Already, by_sum(|x| normal((x - y) / READING))),
            (Look::NotYet, by_sum(|x| normal((y - x) / READING))),
        ];
        for (look, (mean, variance)) in cases {
            let found = after(look, 1.5);
            assert!((found.rate.ln() - mean).abs() < 1e-4, "{look:?}: {} instead of {mean}", found.rate.ln());
            assert!((found.log_sigma - variance.sqrt()).abs() < 1e-4, "{look:?}: {} instead of {}", found.log_sigma, variance.sqrt());
        }
    }

    #[test]
    fn early_is_fast_late_is_slow_and_every_look_makes_surer() {
        assert!(after(Look::Ripe, 1.5).rate > 1.1 && after(Look::Ripe, 2.7).rate < 0.9);
        assert!((after(Look::Ripe, 2.0).rate - 1.0).abs() < 1e-12);
        assert!(after(Look::NotYet, 2.4).rate < 0.95 && after(Look::NotYet, 0.5).rate > 0.999, "early, not yet tells nothing");
        assert!(after(Look::Over, 2.0).rate > 1.15);
        for look in [Look::Ripe, Look::Already, Look::NotYet, Look::Over] {
            assert!(after(look, 1.7).log_sigma <= SIGMA + 1e-12, "{look:?}");
        }
        assert!(after(Look::Ripe, 1e-3).rate < 2.0_f64, "one look tells no more than twice the book");
        assert_eq!(own_rate(&[], SIGMA), None);
    }
}
