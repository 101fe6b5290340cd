//! The warmth of a rise's own hours: a place may be another by night.

use super::{Actual, Course, PlanAsk, RisePlan, StepKind, course};
use crate::{Tables, formula::Formula, input::InputErrors, kitchen::Kitchen};

/// Warmths closer than this are one, K: nobody knows a room better.
const SAME_K: f64 = 0.1;
/// A colder rise is longer and so reaches farther into the night; after so many rounds it hardly moves.
const ROUNDS: usize = 6;

impl PlanAsk {
    /// Each rise of a plan by hand at the mean warmth of the hours it takes, where the household's nights are other
    /// than its days. A place whose warmth was typed stays as typed.
    ///
    /// # Errors
    /// As [`course`].
    pub fn by_its_hours(mut self, formula: &Formula, kitchen: &Kitchen, tables: &Tables) -> Result<(Self, Course), InputErrors> {
        let by_day = |r: RisePlan| kitchen.place_c(r.place).filter(|c| (c - r.place_c).abs() < f64::EPSILON);
        let (bulk_day, proof_day) = (self.bulk.and_then(by_day), by_day(self.proof));
        let mut found = course(formula, &self, None, &Actual::default(), kitchen, tables)?;
        for _ in 0..ROUNDS {
            let Some(nights) = kitchen.nights(self.start, found.ready_at) else { break };
            let mean = |kind: StepKind, plan: RisePlan, day_c: Option<f64>| {
                let step = found.steps.iter().find(|s| s.kind == kind);
                step.zip(day_c).map_or(plan.place_c, |(s, day_c)| nights.mean(plan.place, day_c, s.start, s.end))
            };
            let before = (self.bulk.map_or(0.0, |b| b.place_c), self.proof.place_c);
            self.bulk = self.bulk.map(|b| RisePlan { place_c: mean(StepKind::Bulk, b, bulk_day), ..b });
            self.proof = RisePlan { place_c: mean(StepKind::Proof, self.proof, proof_day), ..self.proof };
            found = course(formula, &self, None, &Actual::default(), kitchen, tables)?;
            if (self.bulk.map_or(0.0, |b| b.place_c) - before.0).abs().max((self.proof.place_c - before.1).abs()) < SAME_K {
                break;
            }
        }
        Ok((self, found))
    }
}
