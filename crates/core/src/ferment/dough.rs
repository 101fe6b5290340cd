//! What the model knows of a dough: volumes, gas it can hold, how its formula speeds or slows yeast.

use serde::{Deserialize, Serialize};

use super::{Constants, Numbers};
use crate::input::{Errors, Pointer};

/// A dose of baker's yeast.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct YeastDose {
    /// `instant`, `osmotolerant`, `active-dry`, `active-dry-unbloomed`, `fresh`.
    pub kind: String,
    /// Percent of that kind on flour.
    pub pct: f64,
    /// Share of it alive.
    #[serde(default = "alive")]
    pub viable: f64,
}

const fn alive() -> f64 {
    1.0
}

/// State of a leaven when it goes in; what is left out is that of a ripe one.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "symbols of docs/science.md")]
pub struct LeavenState {
    pub y: Option<f64>,
    pub b: Option<f64>,
    pub acid: Option<f64>,
    pub age: Option<f64>,
    pub cold_days: Option<f64>,
}

/// A dough in percent on all flour.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "as in the API")]
pub struct Dough {
    /// Flour class → parts.
    pub flour: Vec<(String, f64)>,
    pub water_pct: f64,
    pub salt_pct: f64,
    pub sugar_pct: f64,
    pub fat_pct: f64,
    pub solids_pct: f64,
    pub yeast: Option<YeastDose>,
    /// Prefermented flour in leaven, percent, and its state.
    pub leaven: Option<(f64, Option<LeavenState>)>,
    /// Instant equivalent that a preferment brings.
    pub preferment_yeast_pct: f64,
    /// Factor of spices on the yeast.
    pub spice_factor: f64,
}

impl Dough {
    /// Checks the ranges of `docs/science.md`; nothing is clamped.
    pub(crate) fn check(&self, errors: &mut Errors, here: &Pointer, k: &Constants, leaven_call: bool) {
        let sum: f64 = self.flour.iter().map(|f| f.1).sum();
        let known = self.flour.iter().all(|(class, parts)| k.flours.contains_key(class) && *parts >= 0.0 && parts.is_finite());
        if !known || sum.is_nan() || sum <= 0.0 {
            errors.add(here.at("flour"), "Say which flour is in the dough; each amount must be zero or more.");
        }
        for (name, words, value, low, high) in [
            ("water_pct", "Water", self.water_pct, 30.0, 250.0),
            ("salt_pct", "Salt", self.salt_pct, 0.0, 10.0),
            ("sugar_pct", "Sugar", self.sugar_pct, 0.0, 60.0),
            ("fat_pct", "Fat", self.fat_pct, 0.0, 120.0),
            ("solids_pct", "Milk and egg solids", self.solids_pct, 0.0, 100.0),
        ] {
            if !(low..=high).contains(&value) {
                errors.add(here.at(name), format!("{words} must be between {low} and {high} % of the flour."));
            }
        }
        if let Some(yeast) = &self.yeast {
            errors.range(here.at("yeast").at("pct"), yeast.pct, 0.0, 40.0, "Yeast must be between 0 and 40 % of the flour.");
            errors.range(here.at("yeast").at("viable"), yeast.viable, 0.0, 1.0, "The living share of the yeast must be between 0 and 1.");
            if !k.yeasts.contains_key(&yeast.kind) {
                errors.add(here.at("yeast").at("kind"), "This kind of yeast is not known.");
            }
        }
        errors.range(
            here.at("preferment_yeast_pct"),
            self.preferment_yeast_pct,
            0.0,
            40.0,
            "Yeast must be between 0 and 40 % of the flour.",
        );
        if let Some((flour_pct, state)) = &self.leaven {
            if !(*flour_pct > 0.0 && *flour_pct <= 100.0) {
                errors.add(here.at("leaven").at("flour_pct"), "The leaven's flour must be over 0 and at most 100 % of the flour.");
            }
            let s = state.unwrap_or_default();
            let within = |v: Option<f64>, high: f64| v.is_none_or(|v| (0.0..=high).contains(&v));
            if !(within(s.y, 1.5) && within(s.b, 1.0) && within(s.acid, 1000.0) && within(s.age, 1000.0) && within(s.cold_days, 365.0)) {
                errors.add(here.at("leaven"), "The state of the leaven is not possible: check its age and its place.");
            }
        }
        let yeast = self.yeast.as_ref().map_or(0.0, |y| y.pct) + self.preferment_yeast_pct;
        if !leaven_call && yeast <= 0.0 && self.leaven.is_none() {
            errors.add(here.clone(), "There is no yeast and no leaven in this dough, so it will not rise.");
        }
        errors.range(here.at("inhibitor"), self.spice_factor, 0.1, 1.0, "A spice's factor must be between 0.1 and 1.");
    }
}

/// Salt and sugar in the water, osmol per kg.
pub(crate) fn osmolality(salt: f64, sugar: f64, water: f64) -> f64 {
    (2.0 * salt / 58.44 + sugar / 171.0) / (water / 1000.0)
}

fn osmotic(omega: f64, half: f64, n: &Numbers) -> f64 {
    (1.0 + (n.osm_ref / half).powi(2)) / (1.0 + (omega / half).powi(2))
}

/// Speed of ordinary baker's yeast in this dough against a lean one with 2 % salt and 65 % water;
/// nothing where there is no water. Constants as in the rise model.
#[must_use]
pub fn osmotic_factor(salt_pct: f64, sugar_pct: f64, water_pct: f64, n: &Numbers) -> Option<f64> {
    (water_pct > 0.0).then(|| osmotic(osmolality(salt_pct, sugar_pct, water_pct), n.osm_half_ordinary, n))
}

/// Everything about a dough that stays the same while it rises.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "symbols of docs/science.md")]
pub struct Body {
    pub vd_ml: f64,
    pub air_ml: f64,
    pub dissolved_ml: f64,
    pub hold_ml: f64,
    pub leaven_ml: f64,
    pub buffer: f64,
    pub factor_bakers: f64,
    pub factor_wild: f64,
    pub osmolality: f64,
    pub yeast_instant_pct: f64,
    pub wild_y: f64,
    pub lactic_b: f64,
    pub acid: f64,
    pub lag_bakers_h: f64,
    pub lag_wild_h: f64,
    pub flour_share: f64,
    /// Whether baker's yeast makes more gas than the leaven at mixing.
    pub bakers_lead: bool,
}

impl Body {
    /// Works it out. The dough must have passed its check.
    #[must_use]
    pub fn of(dough: &Dough, rate: f64, k: &Constants) -> Self {
        let n = &k.numbers;
        let parts: f64 = dough.flour.iter().map(|f| f.1).sum();
        let mix = |pick: &dyn Fn(&super::FlourClass) -> f64| {
            dough.flour.iter().filter_map(|(class, part)| k.flours.get(class).map(|f| part * pick(f))).sum::<f64>() / parts
        };
        let vd = 100.0 / n.rho_flour
            + dough.water_pct / n.rho_water
            + dough.salt_pct / n.rho_salt
            + dough.sugar_pct / n.rho_sugar
            + dough.fat_pct / n.rho_fat
            + dough.solids_pct / n.rho_solids;
        let buffer = n.buffer_white * (1.0 + n.buffer_ash_slope * (mix(&|f| f.ash_pct) - 0.55));
        let yeast = dough.yeast.as_ref().and_then(|y| k.yeasts.get(&y.kind).map(|row| (y, row)));
        let tolerant = yeast.is_some_and(|(_, row)| row.tolerant);
        let omega = osmolality(dough.salt_pct, dough.sugar_pct, dough.water_pct);
        let factor = |half: f64| {
            rate * dough.spice_factor * osmotic(omega, half, n) * ((dough.water_pct + dough.fat_pct / 2.0) / n.stiff_ref).min(1.0)
                / (1.0 + n.fat_slow * dough.fat_pct)
        };
        let instant = yeast.map_or(0.0, |(y, row)| y.pct * row.instant_factor * y.viable) + dough.preferment_yeast_pct;
        let state = dough.leaven.as_ref().map(|(p, s)| (p / 100.0, s.unwrap_or_default()));
        let (wild_y, lactic_b, acid, lag) = state.map_or((0.0, 0.0, 0.0, 0.0), |(p, s)| {
            let late =
                n.leaven_lag_per_age_h * (s.age.unwrap_or(1.0) - 1.2).max(0.0) + n.leaven_lag_per_cold_day_h * s.cold_days.unwrap_or(0.0);
            (p * s.y.unwrap_or(1.0), p * s.b.unwrap_or(1.0), p * s.acid.unwrap_or(n.ripe_z * buffer), late.min(n.leaven_lag_max_h))
        });
        let total = 100.0 + dough.water_pct + dough.salt_pct + dough.sugar_pct + dough.fat_pct + dough.solids_pct;
        Self {
            vd_ml: vd,
            air_ml: n.air_fraction * vd,
            dissolved_ml: n.co2_solubility * dough.water_pct,
            hold_ml: mix(&|f| f.hold_ml),
            leaven_ml: mix(&|f| f.leaven_ml),
            buffer,
            factor_bakers: factor(if tolerant { n.osm_half_tolerant } else { n.osm_half_ordinary }),
            factor_wild: factor(n.osm_half_wild),
            osmolality: omega,
            yeast_instant_pct: instant,
            wild_y,
            lactic_b,
            acid,
            lag_bakers_h: yeast.map_or(0.0, |(_, row)| row.lag_h),
            lag_wild_h: lag,
            flour_share: 100.0 / total,
            bakers_lead: n.gas_bakers * instant >= n.gas_wild * wild_y,
        }
    }

    /// Free gas for retained gas, ml per 100 g flour: the dissolved part taken off.
    #[must_use]
    pub fn free_gas(&self, retained: f64) -> f64 {
        free_gas(self.dissolved_ml, self.air_ml, retained)
    }
    /// Retained gas for free gas.
    #[must_use]
    pub fn retained(&self, free: f64) -> f64 {
        free + self.dissolved_ml * free / (free + self.air_ml)
    }
    /// Volume against the freshly mixed dough.
    #[must_use]
    pub fn volume_ratio(&self, free: f64) -> f64 {
        let fresh = self.vd_ml + self.air_ml;
        (fresh + free) / fresh
    }
}

/// Solves `G = v + K v/(v+a)` for v.
#[must_use]
pub fn free_gas(k: f64, a: f64, retained: f64) -> f64 {
    let b = a + k - retained;
    let d = (b * b + 4.0 * a * retained).sqrt();
    if b > 0.0 { 2.0 * a * retained / (b + d) } else { (d - b) / 2.0 }
}
