//! A leaven from its feed to its fall.

use super::{Constants, Dough, EventKind, Forecast, LeavenState, Rise, RiseKind, RiseStage, simulate};
use crate::input::InputErrors;

/// How far past its fall a leaven is shown, and how far at most, hours.
const AFTER_FALL_H: f64 = 0.5;
const LONGEST_H: f64 = 168.0;

/// A leaven as it is fed: parts by weight, and where it stands.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API")]
pub struct Leaven {
    pub seed: f64,
    pub water: f64,
    pub flour: f64,
    pub flour_mix: Vec<(String, f64)>,
    pub seed_hydration_pct: f64,
    pub seed_state: Option<LeavenState>,
    pub place_c: f64,
    pub start_c: Option<f64>,
    pub hours: Option<f64>,
    pub mass_g: f64,
    pub rate: f64,
}

/// Simulates a fed leaven to its peak and fall.
///
/// # Errors
/// As [`simulate`].
pub fn simulate_leaven(leaven: &Leaven, k: &Constants) -> Result<Forecast, InputErrors> {
    let mut stage = RiseStage::until_ripe(RiseKind::Leaven, leaven.place_c, leaven.mass_g);
    stage.minutes = leaven.hours.map(|h| h * 60.0);
    let rise = Rise {
        style: "leaven".into(),
        dough: leaven.dough(),
        start_c: leaven.start_c.unwrap_or(leaven.place_c),
        stages: vec![stage],
        rate: leaven.rate,
        log_sigma: None,
    };
    simulate(&rise.assume(leaven.mass_g, k)?, k)
}

impl Leaven {
    fn seed_flour(&self) -> f64 {
        self.seed / (1.0 + self.seed_hydration_pct / 100.0)
    }

    /// It as the rise model takes it: a dough without salt, its seed a leaven.
    #[must_use]
    pub fn dough(&self) -> Dough {
        let seed_flour = self.seed_flour();
        let flour = self.flour + seed_flour;
        Dough {
            flour: self.flour_mix.clone(),
            water_pct: 100.0 * (self.water + self.seed - seed_flour) / flour,
            salt_pct: 0.0,
            sugar_pct: 0.0,
            fat_pct: 0.0,
            solids_pct: 0.0,
            yeast: None,
            leaven: Some((100.0 * seed_flour / flour, self.seed_state)),
            preferment_yeast_pct: 0.0,
            spice_factor: 1.0,
        }
    }

    /// Its course for its hours; without them past its peak until it has clearly sunk, a week at most.
    ///
    /// # Errors
    /// As [`simulate`].
    pub fn until_fallen(&self, k: &Constants) -> Result<Forecast, InputErrors> {
        let to_peak = simulate_leaven(self, k)?;
        match to_peak.event(EventKind::LeavenFalls) {
            Some(falls) if self.hours.is_none() => {
                let hours = Some((falls.min / 60.0 + AFTER_FALL_H).min(LONGEST_H));
                simulate_leaven(&Self { hours, ..self.clone() }, k)
            }
            _ => Ok(to_peak),
        }
    }

    /// The state of the leaven at the end of a forecast of it, as a dough takes it: yeast gained is the
    /// share of a ripe one's, for gas made is in proportion to it.
    #[must_use]
    pub fn state_after(&self, f: &Forecast) -> LeavenState {
        let seed_flour = self.seed_flour();
        let y0 = seed_flour / (self.flour + seed_flour) * self.seed_state.and_then(|s| s.y).unwrap_or(1.0);
        let age = f.end.ripeness;
        LeavenState {
            y: Some(y0 + (1.0 - y0) * age.min(1.0)),
            b: Some(f.living.lactic.min(1.0)),
            acid: Some(f.living.acid),
            age: Some(age),
            cold_days: Some(0.0),
        }
    }
}
