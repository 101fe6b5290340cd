//! The constants of the rise model, read once from `data/fermentation.json`, where each has its
//! unit, range, mark and source.

use std::{borrow::Cow, collections::BTreeMap};

use serde::Deserialize;
use serde_json::Value;

use crate::{
    oven::pressure_pa,
    pantry::{self, TableError},
};

const FILE: &str = "fermentation.json";
const JSON: &str = include_str!("../../data/fermentation.json");

macro_rules! constants {
    ($($name:ident),* $(,)?) => {
        /// Single numbers of the model.
        #[derive(Debug, Clone, Copy)]
        #[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
        pub struct Numbers { $(pub $name: f64),* }
        impl Numbers {
            fn read(json: &Value) -> Result<Self, TableError> {
                let number = |name: &str| json.get(name).and_then(|c| c.get("value")).and_then(Value::as_f64)
                    .ok_or_else(|| TableError { file: FILE, row: name.to_owned(), what: "no value".to_owned() });
                Ok(Self { $($name: number(stringify!($name))?),* })
            }
        }
    };
}
constants! {
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

/// A mixer.
#[derive(Debug, Clone, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/fermentation.json")]
pub struct MixerRow {
    pub k_per_min: f64,
    pub ref_g: f64,
    pub by_mass: bool,
    pub note: String,
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
        let bad = |row: &str, what: String| TableError { file: FILE, row: row.to_owned(), what };
        let json: Value = serde_json::from_str(JSON).map_err(|e| bad("?", e.to_string()))?;
        fn part<T: serde::de::DeserializeOwned>(json: &Value, name: &str) -> Result<BTreeMap<String, T>, TableError> {
            let part = json.get(name).cloned().unwrap_or(Value::Null);
            serde_json::from_value(part).map_err(|e| TableError { file: FILE, row: name.to_owned(), what: e.to_string() })
        }
        let factors = |name: &str| part::<FactorRow>(&json, name).map(|m| m.into_iter().map(|(k, v)| (k, v.factor)).collect());
        let words = json.get("paces").and_then(Value::as_object).cloned().unwrap_or_default();
        let paces = words
            .into_iter()
            .filter(|(_, v)| v.is_object())
            .map(|(k, v)| serde_json::from_value(v).map(|w| (k.clone(), w)).map_err(|e| bad(&k, e.to_string())));
        let mut yeasts: BTreeMap<String, YeastRow> = part(&json, "yeasts")?;
        for (kind, factor) in pantry::instant_equivalents()? {
            let row = yeasts.get_mut(kind.word()).ok_or_else(|| bad(kind.word(), "no such yeast".to_owned()))?;
            row.instant_factor = factor;
        }
        if let Some((kind, _)) = yeasts.iter().find(|(_, row)| row.instant_factor <= 0.0) {
            return Err(bad(kind, "instant_factor is missing".to_owned()));
        }
        Ok(Self {
            numbers: Numbers::read(json.get("constants").unwrap_or(&Value::Null))?,
            flours: part(&json, "flours")?,
            styles: part(&json, "styles")?,
            vessels: factors("vessels")?,
            covers: factors("covers")?,
            airs: factors("airs")?,
            acts: part::<LossRow>(&json, "acts")?.into_iter().map(|(k, v)| (k, v.loss)).collect(),
            yeasts,
            mixers: part(&json, "mixers")?,
            heats: part::<HeatRow>(&json, "specific_heats_kj_per_kg_k")?.into_iter().map(|(k, v)| (k, v.value)).collect(),
            paces: paces.collect::<Result<_, _>>()?,
            altitude_m: 0.0,
        })
    }
}
