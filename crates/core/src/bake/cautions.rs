//! What is to be minded at the act that is due: said where the work is, once.

use super::BakeState;
use crate::{
    oven::{Bake, cautions},
    plan::StepKind,
};

impl BakeState {
    /// The cautions of the act that is due.
    #[must_use]
    pub fn cautions(&self, bake: &Bake) -> Vec<&'static str> {
        let Some(act) = self.act() else { return Vec::new() };
        let own = bake.finish_caution();
        let before = bake.glaze.before_bake();
        match act.kind {
            StepKind::Finish | StepKind::Dip => own.into_iter().collect(),
            // What goes on as it comes out is minded there.
            StepKind::Out if before.is_none() => own.into_iter().collect(),
            StepKind::OvenOn | StepKind::Load | StepKind::SteamOff | StepKind::LidOff => {
                let apart = self.course.steps.iter().any(|s| Some(s.kind) == before);
                cautions(bake, self.course.oven.steam).into_iter().filter(|c| !(apart && Some(*c) == own)).collect()
            }
            _ => Vec::new(),
        }
    }
}
