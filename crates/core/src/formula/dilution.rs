//! Yeast too little for the scale: stirred into water, and a part of that weighed.

use crate::measure::to_nearest;

/// A scale guesses below so many of its steps. Common practice, no source.
const STEPS: f64 = 5.0;
/// Grams of the mixture, the least first.
const MIXTURES: [f64; 4] = [100.0, 200.0, 500.0, 1000.0];

/// So much yeast in so much water, of which so much is taken.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Dilution {
    /// Grams of yeast to weigh.
    pub yeast_g: f64,
    /// Grams of water it is stirred into.
    pub water_g: f64,
    /// Grams of the mixture that hold the yeast of the formula, as the scale can show them.
    pub take_g: f64,
    /// Grams of water it brings, to be left out of the dough.
    pub less_water_g: f64,
}

/// The dilution for so many grams on a scale that shows steps of `step_g`; none where the scale can weigh them,
/// or where even a litre would not do.
#[must_use]
pub fn dilution(grams: f64, step_g: f64) -> Option<Dilution> {
    if grams <= 0.0 || step_g <= 0.0 || grams >= STEPS * step_g {
        return None;
    }
    let yeast_g = (STEPS * step_g).max(1.0);
    let take = |mixture: f64| grams / yeast_g * mixture;
    let mixture = MIXTURES.into_iter().find(|m| take(*m) >= STEPS * step_g)?;
    let take_g = to_nearest(take(mixture), step_g);
    Some(Dilution { yeast_g, water_g: mixture - yeast_g, take_g, less_water_g: to_nearest(take_g - grams, step_g) })
}
