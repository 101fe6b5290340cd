//! What the oven is to do, as a plan keeps it.

use serde::{Deserialize, Serialize};

use super::StepKind;
use crate::{
    input::{InputErrors, Pointer},
    measure::setting,
    oven::{Advice, Bake, Constants, Crust, USUAL_DOUGH_C, advise, at_known_setting, between_loads_min},
};

/// An act at the oven, minutes after loading.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct OvenAct {
    /// Which.
    pub kind: StepKind,
    /// Minutes after loading.
    pub at_min: f64,
    /// To what the dial is turned, °C.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub set_c: Option<f64>,
}

/// What the oven is to do. Kept with the plan: the same dough is not reckoned through the oven at every look.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct OvenPlan {
    /// Setting, °C.
    pub set_c: f64,
    /// Minutes before loading.
    pub preheat_min: f64,
    /// Minutes in the oven.
    pub minutes: f64,
    /// From.
    pub minutes_low: f64,
    /// To.
    pub minutes_high: f64,
    /// Core temperature when done, °C.
    pub core_c: f64,
    /// Temperature of the dough when loaded that this was worked out for, °C; unknown in old plans.
    #[serde(default)]
    pub dough_c: Option<f64>,
    /// Minutes of cooling until it may be cut.
    #[serde(default)]
    pub slice_min: f64,
    /// Soft or crisp; unknown in old plans.
    #[serde(default)]
    pub crust: Option<Crust>,
    /// Whether it is steamed.
    #[serde(default)]
    pub steam: bool,
    /// What hands do between loading and taking out.
    #[serde(default)]
    pub acts: Vec<OvenAct>,
}

/// The oven knows two doughs, one from the bench and one from the fridge, °C: a few degrees shift the minutes by far less than
/// their range, and so every page tells the same.
pub(super) const COLD_DOUGH_C: f64 = 6.0;
/// An oven plan is kept for a dough within so much of what it was worked out for, °C: what was laid for a dough from the bench
/// holds for one that is a little cool.
const LIKE_DOUGH_C: f64 = 14.0;

impl OvenPlan {
    /// Whether a dough of so many °C is baked as a cold one.
    #[must_use]
    pub fn is_cold(dough_c: f64) -> bool {
        dough_c < USUAL_DOUGH_C - LIKE_DOUGH_C
    }

    /// The plan for a bake; the one given is kept if it was worked out for such a dough, and its setting for another too.
    ///
    /// # Errors
    /// If the setting is too cool to bake the middle.
    pub fn of(bake: &Bake, before: Option<&Self>, k: &Constants) -> Result<Self, InputErrors> {
        let dough_c = if Self::is_cold(bake.dough_c) { COLD_DOUGH_C } else { USUAL_DOUGH_C };
        let near = |o: &&Self| o.dough_c.is_some_and(|c| (c - bake.dough_c).abs() <= LIKE_DOUGH_C);
        let anew = || {
            let bake = at_known_setting(&Bake { dough_c, ..bake.clone() }, before.map(|o| o.set_c), k);
            Self::from_advice(&advise(&bake, k), dough_c)
        };
        before.filter(near).map_or_else(anew, |o| Ok(o.clone()))
    }

    /// What hands do while it bakes, when loading takes so many minutes and an act at the door so many: while the last tray is
    /// still being loaded nothing is turned.
    #[must_use]
    pub fn acts_after(&self, load_min: f64, door_min: f64) -> Vec<OvenAct> {
        let mut busy_until = load_min;
        let mut acts = Vec::new();
        for act in &self.acts {
            let at_min = act.at_min.max(busy_until).min(act.at_min.max(self.minutes - 1.0));
            if at_min >= busy_until {
                busy_until = at_min + door_min;
                acts.push(OvenAct { at_min, ..*act });
            }
        }
        acts
    }

    /// Minutes from one load out to the next one in.
    #[must_use]
    pub fn between_loads_min(&self) -> f64 {
        let last = self.acts.iter().filter_map(|act| act.set_c).next_back();
        let dries = self.acts.iter().find(|act| act.kind == StepKind::Dry).map_or(0.0, |act| self.minutes - act.at_min);
        between_loads_min(self.set_c, last, dries)
    }

    fn from_advice(a: &Advice, dough_c: f64) -> Result<Self, InputErrors> {
        let Some(minutes) = a.out_min() else {
            return Err(InputErrors::one(
                Pointer::root().at("set_c"),
                format!("At {} the middle will not be done. Set {} or more.", setting(a.set_c), setting(160.0)),
            ));
        };
        let acts = a.events().into_iter().filter_map(|e| {
            let kind = match e.kind {
                "dial" => StepKind::Dial,
                "dry" => StepKind::Dry,
                "steam-off" => StepKind::SteamOff,
                "lid-off" => StepKind::LidOff,
                "turn" => StepKind::Turn,
                "foil" => StepKind::Foil,
                "check" => StepKind::Check,
                _ => return None,
            };
            Some(OvenAct { kind, at_min: e.at_min.round(), set_c: e.set_c })
        });
        // A plan is in whole minutes.
        let minutes = minutes.round();
        let (minutes_low, minutes_high) = a.out_range().map_or((minutes, minutes), |(low, high)| (low.round(), high.round()));
        // Two acts at one minute are done one after the other.
        let mut acts: Vec<OvenAct> = acts.collect();
        for i in 1..acts.len() {
            let before = acts.get(i - 1).map_or(0.0, |act| act.at_min);
            if let Some(act) = acts.get_mut(i) {
                act.at_min = act.at_min.max(before + 1.0).min(act.at_min.max(minutes - 1.0));
            }
        }
        Ok(Self {
            set_c: a.set_c,
            preheat_min: a.preheat_lead_min.map_or(60.0, |m| 5.0 * (m / 5.0).ceil()),
            minutes,
            minutes_low,
            minutes_high,
            core_c: a.core_target_c,
            dough_c: Some(dough_c),
            slice_min: a.slice_min.map_or(60.0, f64::round),
            crust: Some(a.crust),
            steam: a.steam_min > 0.0,
            acts,
        })
    }
}
