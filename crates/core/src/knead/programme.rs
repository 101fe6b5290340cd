//! The phases of a kneading, in their order, each with its minutes and the sign that ends it.

use serde::Serialize;

use super::{
    Method, Work,
    state::{Phase, State},
};
use crate::{formula::StyleId, measure::Band};

words! {
    /// What is done.
    PhaseKind {
        Mix "mix", Soak "soak", Salt "salt", Knead "knead", Butter "butter", Inclusions "inclusions", Fold "fold",
    }

    /// The sign that ends it.
    Until {
        /// Yeast that was woken foams.
        Foam "foam",
        /// No dry flour left.
        Even "even",
        RyePaste "rye-paste",
        GfBatter "gf-batter",
        Smoother "smoother",
        SaltGone "salt-gone",
        Smooth "smooth",
        /// It comes off the bowl.
        ClearsBowl "clears-bowl",
        /// A thin window holds.
        Window "window",
        Glossy "glossy",
        SpreadEvenly "spread-evenly",
        HoldsShape "holds-shape",
    }
}

/// One phase.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct KneadPhase {
    /// What.
    pub kind: PhaseKind,
    /// For how long, minutes.
    pub minutes: Band,
    /// `hand`, `low`, `medium`, `high`, `pulse`; `none` at rest.
    pub speed: String,
    /// The sign that ends it.
    pub until: Until,
    /// Portions, of the butter.
    #[serde(skip)]
    pub portions: f64,
}

impl KneadPhase {
    /// How fast, as a baker says it; nothing by hand or at rest.
    #[must_use]
    pub fn speed_words(&self) -> Option<&'static str> {
        match self.speed.as_str() {
            "low" => Some("on the slow speed"),
            "medium" => Some("on the middle speed"),
            "high" => Some("on the fast speed"),
            "pulse" => Some("in short pulses"),
            _ => None,
        }
    }
}

impl Until {
    /// Whether it is tried by stretching a bit of dough into a window.
    #[must_use]
    pub const fn is_stretched(self) -> bool {
        matches!(self, Self::Window | Self::ClearsBowl | Self::Smooth)
    }
}

/// A kneading as it ran.
pub(super) struct Programme<'w> {
    pub state: State<'w>,
    pub phases: Vec<KneadPhase>,
    /// Kneading proper, minutes.
    pub knead_min: f64,
}

/// How sure the minutes of a phase are.
#[derive(Clone, Copy)]
enum Sure {
    /// Mixing and the like: give or take a share.
    Mixing,
    /// Kneading: by the spread of doughs and hands where it is planned, exact where it is told.
    Kneading,
    /// A rest.
    Exact,
}

impl<'k> Work<'k> {
    /// Spread of planned minutes, as a factor.
    pub(super) fn spread(&self) -> f64 {
        (self.k.numbers.z_interval * self.k.numbers.sigma_min).exp()
    }

    /// Whether it is not kneaded at all: nothing to develop, or left to folds and time, and no minutes told.
    const fn is_unkneaded(&self, target: f64) -> bool {
        let told = matches!(self.ask.minutes, Some(m) if m > 0.0);
        (self.method.is_passive() || target == 0.0) && !told
    }

    fn phase(&self, kind: PhaseKind, likely: f64, speed: &str, until: Until, sure: Sure) -> KneadPhase {
        let give = self.k.numbers.mix_spread;
        let (low, high) = match sure {
            Sure::Mixing => (likely * (1.0 - give), likely * (1.0 + give)),
            Sure::Kneading if self.ask.minutes.is_none() => (likely / self.spread(), likely * self.spread()),
            Sure::Kneading | Sure::Exact => (likely, likely),
        };
        KneadPhase { kind, minutes: Band { low, likely, high }, speed: speed.to_owned(), until, portions: 0.0 }
    }

    /// Runs the phases on the dough of one batch; where it is asked for, keeps where the dough was on the way.
    pub(super) fn programme(&'k self, traced: bool) -> Programme<'k> {
        let (n, ask, target) = (&self.k.numbers, &self.ask, self.target());
        let processor = self.method == Method::Processor;
        let late = ask.butter_late && ask.fat_pct > 0.0 && !self.method.is_passive() && !self.is_unkneaded(target);
        let mut s = State::begin(self, self.batches().1, ask.start_c);
        s.trace = traced.then(|| vec![s.moment()]);
        let mixing = Phase::Worked(self.mix, self.row.mix == self.method);
        let mut phases = Vec::new();
        if !late {
            s.fat_early = ask.fat_pct;
        }
        if ask.rest_min <= 0.0 || ask.rest_salt {
            s.salt = ask.salt_pct;
        }
        let longer = if target == 0.0 && !processor { n.no_gluten_mix_extra_min } else { 0.0 };
        let until = match self.style {
            StyleId::Rye => Until::RyePaste,
            StyleId::GlutenFree => Until::GfBatter,
            _ => Until::Even,
        };
        let mix = |s: &mut State<'k>, kind, minutes, until| {
            s.run(mixing, minutes);
            self.phase(kind, minutes, &self.mix.speed, until, Sure::Mixing)
        };
        phases.push(mix(&mut s, PhaseKind::Mix, self.row.mix_min + longer, until));
        if ask.rest_min > 0.0 {
            s.run(Phase::Rest, ask.rest_min);
            phases.push(self.phase(PhaseKind::Soak, ask.rest_min, "none", Until::Smoother, Sure::Exact));
            if !ask.rest_salt && ask.salt_pct > 0.0 {
                s.salt = ask.salt_pct;
                let minutes = if processor { n.processor_salt_min } else { n.salt_min };
                phases.push(mix(&mut s, PhaseKind::Salt, minutes, Until::SaltGone));
            }
        }
        let knead_min = if self.is_unkneaded(target) {
            0.0
        } else if late {
            self.knead_with_butter(&mut s, &mut phases, target)
        } else {
            self.knead(&mut s, &mut phases, target)
        };
        if ask.inclusions_pct > 0.0 {
            let minutes = if processor { n.processor_part_min } else { n.inclusion_min };
            phases.push(mix(&mut s, PhaseKind::Inclusions, minutes, Until::SpreadEvenly));
        }
        Programme { state: s, phases, knead_min }
    }

    /// The row it is kneaded with: its own, or the one it is mixed with where it does no work of its own.
    const fn worked(&self) -> (Phase<'k>, &'k super::MethodRow) {
        if self.row.k > 0.0 { (Phase::Worked(self.row, true), self.row) } else { (Phase::Worked(self.mix, false), self.mix) }
    }

    /// Development the kneading goes for: what the folds do not do.
    fn goal(&self, target: f64) -> f64 {
        let folds = self.folds.unwrap_or(self.of_style.folds);
        (target - self.fold_gain(folds)).max(self.k.numbers.goal_floor * target)
    }

    const fn ends_with(&self, target: f64) -> Until {
        if target >= self.k.numbers.window_target {
            Until::Window
        } else if target >= self.k.numbers.clears_target {
            Until::ClearsBowl
        } else {
            Until::Smooth
        }
    }

    fn knead(&self, s: &mut State<'k>, phases: &mut Vec<KneadPhase>, target: f64) -> f64 {
        let (worked, row) = self.worked();
        let minutes = match self.ask.minutes {
            None => s.run_to(worked, self.goal(target), row.max_min),
            Some(minutes) => {
                s.run(worked, minutes);
                minutes
            }
        };
        phases.push(self.phase(PhaseKind::Knead, minutes, &row.speed, self.ends_with(target), Sure::Kneading));
        minutes
    }

    /// Kneaded until it comes off the bowl, the butter in portions, then to the goal.
    fn knead_with_butter(&self, s: &mut State<'k>, phases: &mut Vec<KneadPhase>, target: f64) -> f64 {
        let (n, ask, (worked, row)) = (&self.k.numbers, &self.ask, self.worked());
        let processor = self.method == Method::Processor;
        let first = s.run_to(worked, n.butter_at * target, ask.minutes.unwrap_or(row.max_min));
        phases.push(self.phase(PhaseKind::Knead, first, &row.speed, Until::ClearsBowl, Sure::Kneading));
        let portions = (ask.fat_pct / n.butter_pct_per_portion - 1e-9).ceil().clamp(n.butter_portions_min, n.butter_portions_max);
        let each = if processor {
            n.processor_part_min
        } else if self.row.machine {
            n.butter_min_machine
        } else {
            n.butter_min_hand
        };
        s.grip = n.butter_work;
        let mut portion = 1.0;
        while portion <= portions {
            s.fat_late = ask.fat_pct * portion / portions;
            s.run(worked, each);
            portion += 1.0;
        }
        s.grip = 1.0;
        let butter = self.phase(PhaseKind::Butter, portions * each, &row.speed, Until::Glossy, Sure::Mixing);
        phases.push(KneadPhase { portions, ..butter });
        let rest = match ask.minutes {
            Some(minutes) => minutes - first,
            None => {
                let least = if processor { n.processor_part_min } else { n.after_butter_min };
                s.clone().run_to(worked, self.goal(target), row.max_min).max(least)
            }
        };
        s.run(worked, rest);
        phases.push(self.phase(PhaseKind::Knead, rest, &row.speed, self.ends_with(target), Sure::Kneading));
        first + rest
    }
}
