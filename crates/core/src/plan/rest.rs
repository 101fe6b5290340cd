//! The rest of a bake laid anew on the day: what is done stays done, what is to come stands and ends otherwise.

use super::{
    Actual, FittedPlan, FittedRise, OvenPlan, Plan, PlanAsk, RestPlan, RisePlan, search::schedule::ScheduleFamily, steps::LOAD_MIN,
};
use crate::input::{Errors, Pointer};
use crate::measure::between;

const MOST_STANDS: usize = 20;
const WEEK_MIN: f64 = 7.0 * 1440.0;

impl RestPlan {
    /// Checks what came from outside.
    pub(crate) fn check(&self, here: &Pointer, errors: &mut Errors) {
        for (name, rise) in [("bulk", self.bulk.as_ref()), ("proof", Some(&self.proof))] {
            let Some(rise) = rise else { continue };
            let at = here.at(name);
            if rise.stands.is_empty() || rise.stands.len() > MOST_STANDS {
                errors.add(at.at("stands"), "A rise stands in between 1 and 20 places.");
            }
            for (i, s) in rise.stands.iter().take(MOST_STANDS).enumerate() {
                let stand = at.at("stands").at(i);
                errors.range(
                    stand.at("minutes"),
                    s.span.minutes,
                    0.0,
                    WEEK_MIN,
                    "A dough stands between no minute and a week in one place.",
                );
                errors.range(stand.at("place_c"), s.celsius, -20.0, 60.0, between!("A place's temperature lies", -20, 60, celsius));
            }
            errors.range(at.at("ripeness"), rise.ripeness, 0.0, 1000.0, "Ripeness is a ratio of dough times, 1 when ripe.");
            for (name, slack) in [("early_min", rise.early_min), ("late_min", rise.late_min)] {
                errors.range(at.at(name), slack, 0.0, WEEK_MIN, "An act may wait between no minute and a week.");
            }
        }
        if self.folds_min.len() > 12 || self.folds_min.iter().any(|m| !(0.0..=WEEK_MIN).contains(m)) {
            errors.add(here.at("folds_min"), "At most 12 folds, each within a week of mixing.");
        }
        let (whole, hands) = self.shape_min;
        if !(0.0..=240.0).contains(&whole) || !(0.0..=whole).contains(&hands) {
            errors.add(here.at("shape_min"), "Shaping takes between 0 and 240 minutes, its hands no longer than the whole.");
        }
    }

    /// The plan with its rest laid so; `oven` is the one it was planned with.
    pub(super) fn over(&self, ask: &PlanAsk, oven: &OvenPlan) -> PlanAsk {
        let before = ask.laid.as_deref().cloned().unwrap_or_else(|| by_hand(ask, oven));
        // The last place is the one an act comes out of.
        let place = |rise: &FittedRise, plan: RisePlan| {
            rise.stands.last().map_or(plan, |s| RisePlan { place: s.place, place_c: s.celsius, ..plan })
        };
        let laid = FittedPlan {
            bulk: self.bulk.clone().or(before.bulk),
            proof: self.proof.clone(),
            folds_min: self.folds_min.clone(),
            shape_min: self.shape_min,
            ..before
        };
        PlanAsk {
            bulk: ask.bulk.map(|b| laid.bulk.as_ref().map_or(b, |l| place(l, b))),
            proof: place(&laid.proof, ask.proof),
            laid: Some(Box::new(laid)),
            ..ask.clone()
        }
    }
}

impl Plan {
    /// What it asks for, its rest as it was laid anew on the day.
    #[must_use]
    pub fn ask_now(&self, actual: &Actual) -> PlanAsk {
        actual.rest.as_ref().map_or_else(|| self.ask.clone(), |rest| rest.over(&self.ask, &self.oven))
    }
}

/// A plan made by hand as one that is laid out: nothing before the mix, one load, the oven as it is.
fn by_hand(ask: &PlanAsk, oven: &OvenPlan) -> FittedPlan {
    FittedPlan {
        family: ScheduleFamily::SameDay,
        before: Vec::new(),
        bulk: None,
        proof: FittedRise::default(),
        folds_min: Vec::new(),
        mix_hands_min: ask.mix_min,
        shape_c: None,
        shape_min: (0.0, 0.0),
        glaze_min: 0.0,
        load_min: LOAD_MIN,
        loads: (1, 0.0),
        oven: oven.clone(),
        leaven: None,
        preferment_yeast_pct: 0.0,
    }
}
