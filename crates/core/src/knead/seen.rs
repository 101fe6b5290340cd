//! What hands and a thermometer teach: a window pulled, a temperature taken, flour or water added by feel, a dough that sticks.

use super::{Constants, KneadAsk, Work, folds_needed};
use crate::{ferment, measure::show};

words! {
    /// A piece of dough stretched between the fingers.
    WindowWord { Tears "tears", Thin "thin", Strong "strong" }

    /// What a dough that sticks wants first.
    Sticky { Chill "chill", Wait "wait", KneadOn "knead-on", AddFlour "add-flour", Leave "leave" }
}

/// What a window teaches.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WindowSeen {
    /// Mean and spread of the logarithm of the speed.
    pub mean: f64,
    /// Its spread.
    pub sd: f64,
    /// How fast this household's kneading is.
    pub speed_factor: f64,
    /// Development by it, and against the target.
    pub gluten: f64,
    /// Against the target.
    pub development: f64,
    /// Folds that close what is missing.
    pub folds: u32,
}

/// What a window pulled after so much development by rest and by work (at speed 1) teaches, against a target; white flour.
#[must_use]
pub fn window_seen(word: WindowWord, by_rest: f64, by_work: f64, target: f64, before: (f64, f64), k: &Constants) -> WindowSeen {
    let (n, (mean, sd)) = (&k.numbers, before);
    let seen = match word {
        WindowWord::Tears => n.obs_tears,
        WindowWord::Thin => n.obs_thin,
        WindowWord::Strong => n.obs_strong,
    };
    let thought = by_rest + by_work * mean.exp();
    let says_nothing = by_work <= 0.0
        || match word {
            WindowWord::Tears => thought <= seen,
            WindowWord::Strong => thought >= seen,
            WindowWord::Thin => false,
        };
    let (mean, sd) = if says_nothing {
        (mean, sd)
    } else {
        let net = (seen - by_rest).max(0.05);
        let y = (net / by_work).ln().clamp(-n.obs_clip, n.obs_clip);
        let v = (n.obs_sd / net).powi(2) + n.obs_day_var;
        let precision = 1.0 / (sd * sd) + 1.0 / v;
        ((mean / (sd * sd) + y / v) / precision, precision.sqrt().recip())
    };
    let gluten = by_rest + by_work * mean.exp();
    WindowSeen { mean, sd, speed_factor: mean.exp(), gluten, development: gluten / target, folds: folds_needed(target - gluten, 1.0, n) }
}

/// A window pulled, and how far the dough was at the book's speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pull {
    /// What it did.
    pub word: WindowWord,
    /// Development by rest, and by work.
    pub by_rest: f64,
    /// By work.
    pub by_work: f64,
    /// What was wanted.
    pub target: f64,
}

/// How fast a household's kneading is by its windows, times the book's; none where there are none. In any order the same but for
/// what is clipped.
#[must_use]
pub fn speed_by(pulls: &[Pull], k: &Constants) -> Option<f64> {
    let first = (0.0, k.numbers.sigma_min);
    let learned = pulls.iter().fold(first, |before, p| {
        let seen = window_seen(p.word, p.by_rest, p.by_work, p.target, before, k);
        (seen.mean, seen.sd)
    });
    (!pulls.is_empty()).then(|| learned.0.exp())
}

/// What a window says of a dough kneaded for some minutes: how much longer, or how many folds instead.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WindowTold {
    /// What it did.
    pub word: WindowWord,
    /// How far it is, against what is wanted.
    pub development: f64,
    /// Minutes more, as it is being kneaded.
    pub more_min: f64,
    /// Folds that would make it up.
    pub folds: u32,
}

/// So near to what is wanted a thin window will do.
const NEAR_ENOUGH: f64 = 0.95;

impl WindowTold {
    /// To a baker at the bowl.
    #[must_use]
    pub fn words(&self) -> String {
        let more = show(self.more_min.round().max(1.0), 0);
        let folds = match self.folds {
            0 => String::new(),
            1 => ", or leave it and fold it once in the rise".to_owned(),
            n => format!(", or leave it and fold it {n} times in the rise"),
        };
        match self.word {
            WindowWord::Tears => format!("Tears: about {more} min more{folds}."),
            WindowWord::Thin if self.development < NEAR_ENOUGH => format!("Thin already: about {more} min more, then try again."),
            WindowWord::Thin => "Thin: that will do.".to_owned(),
            WindowWord::Strong => "Strong: stop here.".to_owned(),
        }
    }
}

impl Work<'_> {
    /// A window pulled after so many minutes of kneading proper, against the book; none where no gluten is to develop.
    #[must_use]
    pub fn pulled(&self, word: WindowWord, minutes: f64) -> Option<Pull> {
        let ask = KneadAsk { speed_factor: 1.0, minutes: Some(minutes), ..self.ask.clone() };
        let here = Self { ask, ..self.clone() }.kneading();
        (here.target > 0.0).then_some(Pull { word, by_rest: here.gluten - here.by_work, by_work: here.by_work, target: here.target })
    }

    /// A window pulled after so many minutes of kneading proper; none where no gluten is to develop.
    #[must_use]
    pub fn window_told(&self, word: WindowWord, minutes: f64) -> Option<WindowTold> {
        let here = self.pulled(word, minutes)?;
        let before = (self.ask.speed_factor.ln(), self.k.numbers.sigma_min);
        let seen = window_seen(word, here.by_rest, here.by_work, here.target, before, self.k);
        let ask = KneadAsk { speed_factor: seen.speed_factor, minutes: None, ..self.ask.clone() };
        let planned = Self { ask, ..self.clone() }.kneading().knead_min;
        Some(WindowTold { word, development: seen.development, more_min: (planned - minutes).max(0.0), folds: seen.folds })
    }
}

/// What a temperature taken at the end of kneading says of the mixer.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FrictionSeen {
    /// Minutes times how much a batch of this mass counts.
    pub h: f64,
    /// K above the dough without friction.
    pub rise: f64,
    /// K per minute; a mixer never cools a dough.
    pub k: f64,
}

/// The pair from which a mixer's friction is learned: a dough of so many grams at the end, against its base.
#[must_use]
pub fn friction_seen(end_c: f64, base_c: f64, minutes: f64, (mixer, grams): (&str, f64), rise_k: &ferment::Constants) -> FrictionSeen {
    let h = minutes * rise_k.mixers.get(mixer).map_or(1.0, |row| row.by_mass(grams, &rise_k.numbers));
    let rise = end_c - base_c;
    FrictionSeen { h, rise, k: (rise / h).max(0.02) }
}

/// A dough after flour or water was added by feel.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Added {
    /// Its water.
    pub h_adj: f64,
    /// Its development: new flour is not developed.
    pub gluten: f64,
}

/// Flour or water added to a dough on so much flour, grams.
#[must_use]
pub fn addition(h_adj: f64, gluten: f64, flour_g: f64, added_flour_g: f64, added_water_g: f64) -> Added {
    let flour = flour_g + added_flour_g;
    Added { h_adj: (h_adj * flour_g + 100.0 * added_water_g) / flour, gluten: gluten * flour_g / flour }
}

/// What a dough that sticks wants first: against how far it is, how long it is wet, its water against its kind's, its warmth.
#[must_use]
pub fn sticky(development: f64, minutes_wet: f64, (h_adj, h_high): (f64, f64), dough_c: f64, stop_c: f64, k: &Constants) -> Sticky {
    if dough_c > stop_c {
        Sticky::Chill
    } else if minutes_wet < k.numbers.sticky_wait_min {
        Sticky::Wait
    } else if development < k.numbers.short_at {
        Sticky::KneadOn
    } else if h_adj > h_high {
        Sticky::AddFlour
    } else {
        Sticky::Leave
    }
}
