//! Kneading: from a dough and a way of kneading its phases with their minutes and the sign that ends each, how far the gluten
//! is, how warm the dough leaves the bowl, folds, hands at it, what is odd, and other ways to the same end.
//!
//! Development is reckoned as work plus time; see `docs/science.md`. Figures: common practice, estimates and fits, each with
//! its mark in `data/kneading.json`.

mod ask;
mod constants;
pub mod findings;
mod kneading;
mod method;
mod programme;
mod seen;
mod state;
mod trace;

pub(crate) use ask::{FOLDS, MINUTES, REST_MIN, is_part_of_a_fold};
pub use ask::{KneadAsk, SPEED, START_C, Work};
pub use constants::{Constants, MethodRow, Numbers, StyleRow};
pub use kneading::{Kneading, LONG_REST, LONG_REST_MIN, OtherWay, way_title};
pub use method::{Machine, Method, MixerSize};
pub use programme::{KneadPhase, PhaseKind, Until};
pub use seen::{
    Added, FrictionSeen, Pull, Sticky, WindowSeen, WindowTold, WindowWord, addition, friction_seen, speed_by, sticky, window_seen,
};
pub use state::wetness;
pub use trace::{Point, Way};

use crate::ferment;

/// What a mixer warms so much dough by, K per minute; the learned figure in place of the table's where there is one.
#[must_use]
pub fn friction_k_per_min(mixer: &str, grams: f64, learned: Option<f64>, rise: &ferment::Constants) -> f64 {
    let row = rise.mixers.get(mixer);
    row.map_or(0.0, |row| learned.unwrap_or(row.k_per_min) * row.by_mass(grams, &rise.numbers))
}

/// Time constant of so much dough in a bowl against the room, minutes: as where it rises.
#[must_use]
pub fn tau_min(grams: f64, rise: &ferment::Constants) -> f64 {
    ferment::time_constant_min(grams, "bowl", "covered", "still", rise)
}

/// Minutes in a fridge until so much dough has come down to a temperature; none where it is that cool, or never will be.
#[must_use]
pub fn fridge_min(grams: f64, dough_c: f64, want_c: f64, fridge_c: f64, rise: &ferment::Constants) -> f64 {
    if dough_c <= want_c || want_c <= fridge_c {
        return 0.0;
    }
    tau_min(grams, rise) * ((dough_c - fridge_c) / (want_c - fridge_c)).ln()
}

/// Folds over a first rise, and when they come.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Folds {
    /// How many.
    pub count: u32,
    /// Minutes from one to the next, where there is time for it.
    every_min: f64,
    /// The share of the rise they fall in.
    within: f64,
    /// Whether it is knocked back in their place, once, half way.
    knocks: bool,
}

impl Folds {
    pub(crate) const fn of(count: u32, n: &Numbers) -> Self {
        Self { count, every_min: n.fold_every_min, within: n.fold_within, knocks: false }
    }
    /// Knocked back once, half way through the rise.
    pub(crate) const fn knock_back() -> Self {
        Self { count: 1, every_min: f64::INFINITY, within: 0.5, knocks: true }
    }
    /// What the rise model calls one of them.
    #[must_use]
    pub const fn act(self) -> &'static str {
        if self.knocks { ferment::KNOCK_BACK } else { ferment::FOLD }
    }
    /// When they come, minutes into a rise of so many: evenly, within its first part.
    pub fn times(self, bulk_min: f64) -> impl Iterator<Item = f64> {
        let n = f64::from(self.count);
        let apart = if n * self.every_min > self.within * bulk_min { self.within * bulk_min / n } else { self.every_min };
        (1..=self.count).map(move |i| f64::from(i) * apart)
    }
}

/// Development that so many folds give; each gives less than the one before. `bran` slows it.
fn fold_gain(folds: u32, bran: f64, n: &Numbers) -> f64 {
    n.fold_gain * (1.0 - n.fold_fade.powf(f64::from(folds))) / (1.0 - n.fold_fade) * bran
}

/// The fewest folds that close a gap; the most there are where none do.
fn folds_needed(gap: f64, bran: f64, n: &Numbers) -> u32 {
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a whole figure below ten")]
    let most = n.fold_max as u32;
    (0..=most).find(|folds| fold_gain(*folds, bran, n) >= gap - 1e-9).unwrap_or(most)
}

impl Work<'_> {
    /// Which way it is kneaded.
    #[must_use]
    pub const fn method(&self) -> Method {
        self.method
    }

    /// Whether a machine kneads it.
    #[must_use]
    pub const fn is_machine(&self) -> bool {
        self.row.machine
    }

    /// What is asked, as it is worked out.
    #[must_use]
    pub const fn ask(&self) -> &KneadAsk {
        &self.ask
    }

    /// Development at which this style's dough is done; 0 where there is no gluten to develop.
    #[must_use]
    pub fn target(&self) -> f64 {
        let n = &self.k.numbers;
        let bran = 1.0 - n.target_wholegrain * self.ask.wholegrain_pct / 100.0;
        self.of_style.target * bran * (1.0 - n.target_rye * self.ask.rye_pct / 100.0)
    }

    /// How much bran and rye slow what work and folds do.
    fn bran_factor(&self) -> f64 {
        let n = &self.k.numbers;
        (1.0 - n.wholegrain_slow * self.ask.wholegrain_pct / 100.0) * (1.0 - n.rye_slow * self.ask.rye_pct / 100.0)
    }

    /// Development that so many folds give this dough.
    #[must_use]
    pub fn fold_gain(&self, folds: u32) -> f64 {
        fold_gain(folds, self.bran_factor(), &self.k.numbers)
    }

    /// The fewest folds that close a gap in it.
    #[must_use]
    pub fn folds_needed(&self, gap: f64) -> u32 {
        folds_needed(gap, self.bran_factor(), &self.k.numbers)
    }

    /// Most flour, most dough and least dough of one batch, grams.
    #[must_use]
    pub fn takes_g(&self) -> (f64, f64, f64) {
        let (n, row) = (&self.k.numbers, self.row);
        let large =
            if self.method.machine() == Some(Machine::StandMixer) && self.size == MixerSize::Large { self.k.large_mixer } else { 1.0 };
        let stiff = if row.machine { (1.0 - n.stiff_per_point * (n.stiff_from - self.ask.h_adj)).clamp(n.stiff_floor, 1.0) } else { 1.0 };
        (row.flour_max_g * large * stiff, row.dough_max_g * large * stiff, row.dough_min_g * large)
    }

    /// In how many batches it is kneaded, and the dough of one, grams.
    #[must_use]
    pub fn batches(&self) -> (u32, f64) {
        let (flour, dough, _) = self.takes_g();
        let of = |all: f64, most: f64| (all / most - 1e-9).ceil();
        let n = of(self.ask.flour_g, flour).max(of(self.ask.dough_g, dough)).max(1.0);
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "at most 50 kg by 200 g")]
        (n as u32, self.ask.dough_g / n)
    }

    /// From how warm on the dough is too warm when it leaves the bowl, °C.
    #[must_use]
    pub fn stop_c(&self) -> f64 {
        use crate::formula::StyleId;
        let n = &self.k.numbers;
        let high = self.dough_c.1 + n.hot_over_high_k;
        match self.style {
            StyleId::Brioche => n.hot_brioche_c,
            StyleId::Rye | StyleId::GlutenFree => high,
            _ => high.min(n.hot_cap_wheat_c),
        }
    }
}
