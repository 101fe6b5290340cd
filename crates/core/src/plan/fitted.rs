//! A plan that was fitted to the day: the places a dough stands in with their minutes, what goes before
//! the mix, and how long each act may wait.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use super::{OvenPlan, PlanStep, later, search::schedule::ScheduleFamily};
use crate::{
    ferment::LeavenState,
    kitchen::{Minutes, Stay},
};

/// A rise of a fitted plan.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct FittedRise {
    /// Its places in order.
    pub stands: Vec<Stay<Minutes>>,
    /// Ripeness it is planned to end at, as a ratio of dough times.
    pub ripeness: f64,
    /// Minutes by which the act that ends it may come sooner.
    pub early_min: f64,
    /// Minutes by which it may come later.
    pub late_min: f64,
}

impl FittedRise {
    /// Its length in minutes.
    #[must_use]
    pub fn minutes(&self) -> f64 {
        self.stands.iter().map(|s| s.span.minutes).sum()
    }
    /// The places and the instants from which the dough stands in them.
    #[must_use]
    pub fn from(&self, start: Timestamp) -> Vec<Stay<Timestamp>> {
        let mut at = start;
        let mut found = Vec::new();
        for s in &self.stands {
            found.push(s.lasting(at));
            at = later(at, s.span.minutes);
        }
        found
    }
}

/// What a fitted plan holds besides what any plan is made from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct FittedPlan {
    /// Which way to the bread it is.
    pub family: ScheduleFamily,
    /// What goes before the mix: the scald, the feeds, the preferment.
    pub before: Vec<PlanStep>,
    /// The first rise; nothing in a dough without one.
    pub bulk: Option<FittedRise>,
    /// The second.
    pub proof: FittedRise,
    /// Folds, minutes after mixing.
    pub folds_min: Vec<f64>,
    /// Minutes of hands at the mix; the rest of it the machine works alone.
    pub mix_hands_min: f64,
    /// How warm the room is while it is shaped, °C; unknown in old plans.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shape_c: Option<f64>,
    /// Minutes of shaping with its rest, and of hands in it.
    pub shape_min: (f64, f64),
    /// Glazing before the load, and loading, minutes of hands.
    pub glaze_min: f64,
    /// Loading.
    pub load_min: f64,
    /// Oven loads, and minutes from one to the next.
    pub loads: (u32, f64),
    /// The oven as it was planned.
    pub oven: OvenPlan,
    /// The leaven when it is mixed in.
    pub leaven: Option<LeavenState>,
    /// Instant yeast a preferment brings, percent of all flour.
    pub preferment_yeast_pct: f64,
}

/// How the rest of a bake is laid. Kept in the log with the event that chose it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct RestPlan {
    /// The first rise from the mix on, as it went and as it is to go on; none where it is shaped already.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bulk: Option<FittedRise>,
    /// The second from the shaping on.
    pub proof: FittedRise,
    /// Folds, done and to come, minutes after mixing.
    #[serde(default)]
    pub folds_min: Vec<f64>,
    /// Minutes of shaping with its rest, and of hands in it.
    pub shape_min: (f64, f64),
    /// When it is then to go into the oven.
    pub load_at: Timestamp,
}
