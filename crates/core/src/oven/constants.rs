//! The constants of the oven model, read once from `data/baking.json`, where each has its unit,
//! source and uncertainty.

use std::collections::BTreeMap;

use serde::Deserialize;

use super::{Bake, BakeBody};
use crate::{data::DataFile, pantry::TableError};

const FILE: &str = "baking.json";
const JSON: &str = include_str!("../../data/baking.json");

numbers! {
    cells = "N", grade, dt_per_m, dt_min, hor_per_m, lambda,
    c_water, c_solid, x_res, phi, d1, d2, k_cold,
    k_hot, k_dry, d_tk = "dTk", h_still, h_fan, eps, drop_0,
    drop_kg, drop_max, drop_steam, drop_tau, drop_tau_kg,
    fall_tau, fall_delta, lid_heat, foil_heat,
    foil_brown, foil_at, lid_off_core, steam_per_m,
    h_steam, dew_below, k0a, k0b, aa = "Aa", ab = "Ab", b = "B", gel_k0,
    gel_e = "gel_E", ungel_max, hold_min, finish_crisp, g_lean,
    g_sugar, g_sugar_half, g_milk, g_egg, g_bran,
    flat_spec_vol, flat_core_c, batch_h_w, fruit_vol,
    spec_vol_min, loss_max_soft, loss_max_crisp,
    late_cap_soft, late_cap_crisp, dip_limit,
    sigma_oven_unmeasured, sigma_oven_measured, sigma_model,
    check_at, rotate_at, l_end = "L_end", l_start = "L_start", oven_c = "oven_C", oven_ua = "oven_UA",
    oven_power, body_h_still, body_h_fan, h_cool, slice_c,
    slice_c_small, slice_small_r = "slice_small_R", hold_r = "hold_R", clock_r = "clock_R",
    clock_r_min = "clock_R_min", range_z, near_max, near_count, late_soft,
    late_crisp, falling_min_g, clock_fruit_min,
    clock_fruit_full_g,
}

/// How heat reaches a piece on or in a vessel.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct VesselRow {
    pub w_side: f64,
    pub w_base: f64,
    pub f_cover: f64,
    pub b_cover: f64,
}

/// Proportions of a shape.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct ShapeRow {
    pub l_w: f64,
    pub h_w: f64,
    pub area_x: f64,
}

/// What bakers ask of a class of bread.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct ClassRow {
    pub spec_vol: f64,
    pub core_c: f64,
    pub finish: f64,
    pub k_factor: f64,
    pub slice_min: f64,
}

#[derive(Debug, Clone, Copy, Deserialize)]
struct FactorRow {
    factor: f64,
}

/// A colour on the browning scale.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct ColourRow {
    pub index: f64,
    pub too_dark: f64,
}

/// A heavy thing to heat up.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct HeavyRow {
    pub area: f64,
    pub heat: f64,
}

/// One bake as bakers do it. All: common practice, no source.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct PracticeRow {
    pub id: String,
    pub what: String,
    pub bake: Bake,
    pub minutes: (f64, f64),
}

#[derive(Deserialize)]
struct PracticeJson {
    id: String,
    what: String,
    input: BakeBody,
    minutes_band: (f64, f64),
}

/// Everything of the model that is a number.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "named and documented in data/baking.json")]
pub struct Constants {
    pub numbers: Numbers,
    pub vessels: BTreeMap<String, VesselRow>,
    pub shapes: BTreeMap<String, ShapeRow>,
    pub classes: BTreeMap<String, ClassRow>,
    pub glazes: BTreeMap<String, f64>,
    pub colours: BTreeMap<String, ColourRow>,
    pub limits: BTreeMap<String, BTreeMap<String, (f64, f64)>>,
    pub bodies: BTreeMap<String, HeavyRow>,
    pub clock: BTreeMap<String, f64>,
    pub usual: BTreeMap<String, f64>,
    pub swatches: Vec<[f64; 4]>,
    pub practice: Vec<PracticeRow>,
}

impl Constants {
    /// Reads the built-in table.
    ///
    /// # Errors
    /// [`TableError`] naming the entry that is missing or wrong.
    pub fn built_in() -> Result<Self, TableError> {
        let file = DataFile::read(FILE, JSON)?;
        let mut practice = Vec::new();
        for row in file.part::<Vec<PracticeJson>>("/practice/rows")? {
            let bake = row.input.check().map_err(|e| file.wrong(&row.id, e))?;
            practice.push(PracticeRow { id: row.id, what: row.what, bake, minutes: row.minutes_band });
        }
        let constants = Self {
            numbers: Numbers::read(&file)?,
            vessels: file.part("/vessels/rows")?,
            shapes: file.part("/shapes/rows")?,
            classes: file.part("/styles/rows")?,
            glazes: file.part::<BTreeMap<String, FactorRow>>("/glazes/rows")?.into_iter().map(|(k, v)| (k, v.factor)).collect(),
            colours: file.part("/colours/rows")?,
            limits: file.part("/set_limits/rows")?,
            bodies: file.part("/bodies/rows")?,
            clock: file.part("/clock/rows")?,
            usual: file.part("/usual_set/rows")?,
            swatches: file.part("/constants/swatches/value")?,
            practice,
        };
        constants.complete()
    }

    /// Every word of the closed lists has its row, so the model never looks for one in vain.
    fn complete(self) -> Result<Self, TableError> {
        use super::{BakeClass, Colour, Glaze, Shape, Vessel};
        let missing = |what: &str| TableError { file: FILE, row: what.to_owned(), what: "missing".to_owned() };
        let all = |words: &[&str], has: &dyn Fn(&str) -> bool| words.iter().find(|w| !has(w)).map_or(Ok(()), |w| Err(missing(w)));
        all(&Vessel::words(), &|w| self.vessels.contains_key(w))?;
        all(&Shape::words(), &|w| self.shapes.contains_key(w))?;
        all(&Glaze::words(), &|w| self.glazes.contains_key(w))?;
        all(&Colour::words(), &|w| self.colours.contains_key(w))?;
        all(&BakeClass::words(), &|w| {
            self.classes.contains_key(w) && self.limits.get(w).is_some_and(|l| l.contains_key("soft") && l.contains_key("crisp"))
        })?;
        all(&["base", "R", "bar", "cup", "batch", "box", "fruit", "cover"], &|w| self.clock.contains_key(w))?;
        all(&["base", "ln_weight", "root_rich", "crisp", "brown", "pan", "disc", "lid", "rye", "falling", "fan"], &|w| {
            self.usual.contains_key(w)
        })?;
        Ok(self)
    }

    pub(super) fn vessel(&self, v: super::Vessel) -> VesselRow {
        self.vessels.get(v.word()).copied().unwrap_or(VesselRow { w_side: 0.0, w_base: 0.8, f_cover: 1.0, b_cover: 1.0 })
    }
    pub(super) fn class(&self, c: super::BakeClass) -> ClassRow {
        self.classes.get(c.word()).copied().unwrap_or(ClassRow { spec_vol: 3.4, core_c: 96.0, finish: 1.0, k_factor: 1.0, slice_min: 0.0 })
    }
    pub(super) fn colour(&self, c: super::Colour) -> ColourRow {
        self.colours.get(c.word()).copied().unwrap_or(ColourRow { index: 0.36, too_dark: 0.94 })
    }
    pub(super) fn clock_term(&self, name: &str) -> f64 {
        self.clock.get(name).copied().unwrap_or(0.0)
    }
    pub(super) fn usual_term(&self, name: &str) -> f64 {
        self.usual.get(name).copied().unwrap_or(0.0)
    }
}
