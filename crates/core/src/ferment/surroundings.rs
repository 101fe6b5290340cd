//! What a dough stands in: how warm, and how fast its warmth gets through.

use super::{Constants, RiseStage, constants::Numbers, request::time_constant_min};

pub(super) struct Surroundings {
    pub(super) place_c: f64,
    tau: f64,
    full: (f64, f64),
}

impl Surroundings {
    pub(super) fn of(stage: &RiseStage, k: &Constants) -> Self {
        let word = |w: &Option<String>, default: &str| w.clone().unwrap_or_else(|| default.to_owned());
        let tau = time_constant_min(
            stage.mass_g.unwrap_or(1000.0),
            &word(&stage.vessel, "bowl"),
            &word(&stage.cover, "covered"),
            &word(&stage.air, "still"),
            k,
        );
        let h = k.numbers.step_min;
        Self { place_c: stage.place_c, tau, full: ((-h / (2.0 * tau)).exp(), (-h / tau).exp()) }
    }
    pub(super) fn decay(&self, h: f64, n: &Numbers) -> (f64, f64) {
        if h == n.step_min { self.full } else { ((-h / (2.0 * self.tau)).exp(), (-h / self.tau).exp()) }
    }
}
