//! A plan as it is written.

use cerealis_core::kitchen::{Minutes, Stay};
use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_with::skip_serializing_none;

use super::{Field, Unread, stored};

stored! {
    /// A plan.
    PlanV1 of cerealis_core::plan::Plan { ask: AskV1, steps: Vec<StepV1>, oven: OvenV1, ready_at: Timestamp }

    /// What it is made from.
    #[with(skip_serializing_none)]
    AskV1 of cerealis_core::plan::PlanAsk {
        start: Timestamp,
        mix_min: f64,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        mixing: Vec<MixActV1>,
        mix_c: f64,
        bulk: Option<RiseV1>,
        proof: RiseV1,
        folds: u32,
        set_c: Option<f64>,
        laid: Option<Box<FittedV1>>,
    }

    /// An act at the bowl.
    MixActV1 of cerealis_core::plan::MixAct {
        kind: String,
        minutes: f64,
        low_min: f64,
        high_min: f64,
        hands_min: f64,
        until: String,
        words: String,
    }

    /// Where a rise stands, and how far it goes.
    RiseV1 of cerealis_core::plan::RisePlan { place: String, place_c: f64, pace: String }

    /// A step with its times.
    #[with(skip_serializing_none)]
    StepV1 of cerealis_core::plan::PlanStep {
        kind: String,
        start: Timestamp,
        end: Timestamp,
        low: Option<Timestamp>,
        high: Option<Timestamp>,
        hands_on_min: f64,
        place: String,
        sign: String,
        #[serde(default)]
        under: String,
        #[serde(default)]
        over: String,
        instruction: String,
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        words: Vec<String>,
    }

    /// The oven as it was planned.
    #[with(skip_serializing_none)]
    OvenV1 of cerealis_core::plan::OvenPlan {
        set_c: f64,
        preheat_min: f64,
        minutes: f64,
        minutes_low: f64,
        minutes_high: f64,
        core_c: f64,
        dough_c: Option<f64>,
        #[serde(default)]
        slice_min: f64,
        crust: Option<String>,
        #[serde(default)]
        steam: bool,
        #[serde(default)]
        acts: Vec<OvenActV1>,
    }

    /// An act at the oven.
    #[with(skip_serializing_none)]
    OvenActV1 of cerealis_core::plan::OvenAct { kind: String, at_min: f64, set_c: Option<f64> }

    /// What a plan fitted to the day holds besides.
    #[with(skip_serializing_none)]
    FittedV1 of cerealis_core::plan::FittedPlan {
        family: String,
        before: Vec<StepV1>,
        bulk: Option<FittedRiseV1>,
        proof: FittedRiseV1,
        folds_min: Vec<f64>,
        mix_hands_min: f64,
        shape_c: Option<f64>,
        shape_min: (f64, f64),
        glaze_min: f64,
        load_min: f64,
        loads: (u32, f64),
        oven: OvenV1,
        leaven: Option<LeavenV1>,
        preferment_yeast_pct: f64,
    }

    /// A rise of it.
    FittedRiseV1 of cerealis_core::plan::FittedRise { stands: Vec<StayV1>, ripeness: f64, early_min: f64, late_min: f64 }

    /// A leaven when it is mixed in.
    #[with(skip_serializing_none)]
    LeavenV1 of cerealis_core::ferment::LeavenState {
        y: Option<f64>,
        b: Option<f64>,
        acid: Option<f64>,
        age: Option<f64>,
        cold_days: Option<f64>,
    }

    /// How the rest of a bake is laid.
    #[with(skip_serializing_none)]
    RestV1 of cerealis_core::plan::RestPlan {
        bulk: Option<FittedRiseV1>,
        proof: FittedRiseV1,
        #[serde(default)]
        folds_min: Vec<f64>,
        shape_min: (f64, f64),
        load_at: Timestamp,
    }
}

/// So long in one place.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[allow(missing_docs, reason = "as in the API")]
pub struct StayV1 {
    pub place: String,
    pub place_c: f64,
    pub minutes: f64,
}

impl Field<Stay<Minutes>> for StayV1 {
    fn keep(core: &Stay<Minutes>) -> Self {
        Self { place: core.place.word().to_owned(), place_c: core.celsius, minutes: core.span.minutes }
    }
    fn lift(self) -> Result<Stay<Minutes>, Unread> {
        Ok(Stay::at((self.place.lift()?, self.place_c), Minutes { minutes: self.minutes }))
    }
}
