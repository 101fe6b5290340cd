//! The constants of kneading, read once from `data/kneading.json`, where each has its unit, range, mark and source.

use std::collections::BTreeMap;

use serde::Deserialize;

use super::Method;
use crate::{data::DataFile, formula::StyleId, pantry::TableError};

const FILE: &str = "kneading.json";
const JSON: &str = include_str!("../../data/kneading.json");

numbers! {
    step_mix_min, step_rest_min, z_interval, protein_ref, protein_exp, wholegrain_slow, rye_slow, fat_slow_early, fat_slow_late,
    sugar_slow, salt_slow, salt_ref, wet_floor, wet_tau_min, temp_slope, temp_ref_c, temp_floor, temp_ceil, rest_fast,
    rest_fast_tau_min, rest_slow, rest_slow_tau_min, rest_salt, rest_rye, fold_gain, fold_fade, fold_max, fold_every_min,
    fold_within, fold_bulk_min, no_knead_bulk_min, no_knead_folds_max, fold_hands_min, target_wholegrain, target_rye, over_work,
    over_per_protein, over_min, over_max, goal_floor, butter_at, butter_pct_per_portion, butter_portions_min, butter_portions_max,
    butter_min_hand, butter_min_machine, butter_work, after_butter_min, salt_min, processor_salt_min, processor_part_min,
    no_gluten_mix_extra_min, inclusion_min, sigma_min, mix_spread, friction_spread, friction_spread_learnt, start_spread_k, c_dough,
    hot_over_high_k, hot_cap_wheat_c, hot_brioche_c, short_at, butter_early_pct, salt_never_pct, fast_yeast_pct, fast_rest_min,
    window_target, clears_target, stiff_from, stiff_per_point, stiff_floor, walks_load, obs_tears, obs_thin, obs_strong, obs_sd,
    obs_day_var, obs_clip, sticky_wait_min,
}

/// What a way of kneading does, and how much it takes.
#[derive(Debug, Clone, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/kneading.json")]
pub struct MethodRow {
    pub k: f64,
    pub h_best: f64,
    pub h_width: f64,
    pub mix: Method,
    pub mix_min: f64,
    pub friction: String,
    pub tau_x: f64,
    pub bowl_kj_k: f64,
    pub max_min: f64,
    pub flour_max_g: f64,
    pub dough_max_g: f64,
    pub dough_min_g: f64,
    pub machine: bool,
    pub speed: String,
}

/// How far a style is developed, with how many folds, and how long its first rise is.
#[derive(Debug, Clone, Copy, Deserialize)]
#[allow(missing_docs, reason = "named and documented in data/kneading.json")]
pub struct StyleRow {
    pub target: f64,
    pub folds: u32,
    pub bulk_min: f64,
}

/// Everything of kneading that is a number.
#[derive(Debug, Clone)]
#[allow(missing_docs, reason = "named and documented in data/kneading.json")]
pub struct Constants {
    pub numbers: Numbers,
    /// How much more a large mixer takes than a small one.
    pub large_mixer: f64,
    /// By their words; every one of [`Method`] is there.
    pub methods: BTreeMap<String, MethodRow>,
    /// By their words; every one of [`StyleId`] is there.
    pub styles: BTreeMap<String, StyleRow>,
}

impl Constants {
    /// Reads the built-in table.
    ///
    /// # Errors
    /// [`TableError`] naming the entry that is missing or no number.
    pub fn built_in() -> Result<Self, TableError> {
        let file = DataFile::read(FILE, JSON)?;
        let read = Self {
            numbers: Numbers::read(&file)?,
            large_mixer: file.part("/mixer_sizes/large")?,
            methods: file.part("/methods")?,
            styles: file.part("/styles")?,
        };
        if let Some(method) = Method::ALL.iter().find(|m| !read.methods.contains_key(m.word())) {
            return Err(file.wrong(method.word(), "no such method"));
        }
        if let Some(style) = StyleId::ALL.iter().find(|s| !read.styles.contains_key(s.word())) {
            return Err(file.wrong(style.word(), "no such style"));
        }
        Ok(read)
    }
}
