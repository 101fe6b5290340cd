//! The constants of the rise model, read once from `data/fermentation.json`, where each has its
//! unit, range, mark and source.

use std::{borrow::Cow, collections::BTreeMap};

use serde::Deserialize;
use serde_json::Value;

use crate::{
    data::DataFile,
    oven::pressure_pa,
    pantry::{self, TableError},
};

const FILE: &str = "fermentation.json";
const JSON: &str = include_str!("../../data/fermentation.json");

numbers! {
    t_ref_c, step_min, horizon_min, z_interval, bakers_t_min_c, bakers_t_opt_c, bakers_t_max_c, wild_t_min_c,
    wild_t_opt_c, wild_t_max_c, lab_t_min_c, lab_t_opt_c, lab_t_max_c, death_from_c, death_d55_min, death_z_k,
    gas_bakers, bakers_growth, bakers_y_max, osm_ref, osm_half_ordinary, osm_half_tolerant, osm_half_wild,
    stiff_ref, gas_wild, wild_growth, wild_y_max, lab_growth, lab_acid, ripe_z, ph0, ph_floor, ph_stop,
    buffer_white, buffer_ash_slope, tta_flour, leaven_lag_per_age_h, leaven_lag_per_cold_day_h, leaven_lag_max_h,
    leaven_fall_from, leaven_falls_at, collapse, collapse_keep, ahead_steps, fat_slow, need_floor, air_fraction,
    co2_solubility, rho_flour, rho_water, rho_salt, rho_sugar, rho_fat, rho_solids, tau_1kg_min, tau_mass_exp,
    sigma_bakers, sigma_wild, sigma_leaven, sigma_cold, cold_below_c, friction_mass_exp, c_water, c_ice, latent_ice,
}

/// How a flour holds gas.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct FlourClass {
    pub ash_pct: f64,
    pub hold_ml: f64,
    pub leaven_ml: f64,
}

/// Targets at another pace than the usual one.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct PaceRow {
    pub bulk_ratio: Option<f64>,
    pub proof_ratio: f64,
    pub bulk_over_x: Option<f64>,
    pub proof_over_x: Option<f64>,
}

/// When a dough of a style is ripe and when it is over.
#[derive(Debug, Clone, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct RiseStyle {
    pub bulk_ratio: Option<f64>,
    pub proof_ratio: f64,
    pub over: f64,
    pub bulk_over: Option<f64>,
    pub shape_loss: f64,
    pub note: String,
    pub quick: PaceRow,
    pub patient: PaceRow,
}

/// A kind of yeast.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct YeastRow {
    /// Grams of instant yeast that raise as much as one gram: of the kinds that are sold, as `yeasts.csv` has it.
    #[serde(default)]
    pub instant_factor: f64,
    pub lag_h: f64,
    pub tolerant: bool,
}

/// A mixer: what it warms a dough by.
#[derive(Debug, Clone, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct MixerRow {
    pub k_per_min: f64,
    pub ref_g: f64,
    pub by_mass: bool,
    pub note: String,
}

impl MixerRow {
    /// How much faster a batch of so many grams warms than the one the figure is of. Weak evidence; engineering estimate.
    #[must_use]
    pub fn by_mass(&self, grams: f64, n: &Numbers) -> f64 {
        if self.by_mass { (self.ref_g / grams.max(1.0)).powf(n.friction_mass_exp).clamp(0.5, 2.0) } else { 1.0 }
    }
}

#[derive(Debug, Clone, Copy, Deserialize)]
struct FactorRow {
    factor: f64,
}
#[derive(Debug, Clone, Copy, Deserialize)]
struct LossRow {
    loss: f64,
}
#[derive(Debug, Clone, Copy, Deserialize)]
struct HeatRow {
    value: f64,
}

/// Words about a pace.
#[derive(Debug, Clone, Deserialize, Default)]
pub struct PaceWords {
    /// What the baker does.
    pub note: String,
    /// What it gains.
    pub gains: String,
    /// What it loses.
    pub loses: String,
}

/// Everything of the model that is a number.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct Constants {
    pub numbers: Numbers,
    pub flours: BTreeMap<String, FlourClass>,
    pub styles: BTreeMap<String, RiseStyle>,
    pub vessels: BTreeMap<String, f64>,
    pub covers: BTreeMap<String, f64>,
    pub airs: BTreeMap<String, f64>,
    pub acts: BTreeMap<String, f64>,
    pub yeasts: BTreeMap<String, YeastRow>,
    pub mixers: BTreeMap<String, MixerRow>,
    pub heats: BTreeMap<String, f64>,
    pub paces: BTreeMap<String, PaceWords>,
    /// The altitude these hold for, m.
    pub altitude_m: f64,
}

impl Constants {
    /// The same at another altitude. Gas is counted in ml at sea level: in thinner air it fills as much more room,
    /// p₀/p, bubbles and dissolved share alike (Henry's law). Nothing else changes, neither the yeast nor the signs.
    #[must_use]
    pub fn at_altitude(&self, altitude_m: f64) -> Cow<'_, Self> {
        if (altitude_m - self.altitude_m).abs() < 0.5 {
            return Cow::Borrowed(self);
        }
        let more = pressure_pa(self.altitude_m) / pressure_pa(altitude_m);
        let mut here = self.clone();
        here.numbers.gas_bakers *= more;
        here.numbers.gas_wild *= more;
        here.altitude_m = altitude_m;
        Cow::Owned(here)
    }

    /// Reads the built-in table.
    ///
    /// # Errors
    /// [`TableError`] naming the entry that is missing or no number.
    pub fn built_in() -> Result<Self, TableError> {
        let file = DataFile::read(FILE, JSON)?;
        let factors =
            |name: &str| file.part::<BTreeMap<String, FactorRow>>(name).map(|m| m.into_iter().map(|(k, v)| (k, v.factor)).collect());
        let words: BTreeMap<String, Value> = file.part("/paces")?;
        let paces = words
            .into_iter()
            .filter(|(_, v)| v.is_object())
            .map(|(k, v)| serde_json::from_value(v).map(|w| (k.clone(), w)).map_err(|e| file.wrong(&k, e)));
        let mut yeasts: BTreeMap<String, YeastRow> = file.part("/yeasts")?;
        for (kind, factor) in pantry::instant_equivalents()? {
            let row = yeasts.get_mut(kind.word()).ok_or_else(|| file.wrong(kind.word(), "no such yeast"))?;
            row.instant_factor = factor;
        }
        if let Some((kind, _)) = yeasts.iter().find(|(_, row)| row.instant_factor <= 0.0) {
            return Err(file.wrong(kind, "instant_factor is missing"));
        }
        Ok(Self {
            numbers: Numbers::read(&file)?,
            flours: file.part("/flours")?,
            styles: file.part("/styles")?,
            vessels: factors("/vessels")?,
            covers: factors("/covers")?,
            airs: factors("/airs")?,
            acts: file.part::<BTreeMap<String, LossRow>>("/acts")?.into_iter().map(|(k, v)| (k, v.loss)).collect(),
            yeasts,
            mixers: file.part("/mixers")?,
            heats: file.part::<BTreeMap<String, HeatRow>>("/specific_heats_kj_per_kg_k")?.into_iter().map(|(k, v)| (k, v.value)).collect(),
            paces: paces.collect::<Result<_, _>>()?,
            altitude_m: 0.0,
        })
    }
}
