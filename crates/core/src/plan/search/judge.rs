//! How sure a plan is: one rate of the day behind all its rises, and a baker who comes when free.

use crate::measure::weighable;

/// The standard normal distribution.
#[must_use]
pub fn normal(z: f64) -> f64 {
    0.5 * libm::erfc(-z / std::f64::consts::SQRT_2)
}

/// Its density.
#[must_use]
pub fn density(z: f64) -> f64 {
    (-0.5 * z * z).exp() / (2.0 * std::f64::consts::PI).sqrt()
}

/// A rise as it is judged: ripeness as a ratio of dough times, and the spread of ln(rate) over it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Judged {
    /// Ripeness when the baker acts.
    pub ripeness: f64,
    /// Ripeness at the first moment at which the baker could act.
    pub exposed: f64,
    /// Ripeness at which it is over.
    pub over: f64,
    /// Below this, sent on, it fails.
    pub low_hard: f64,
    /// Spread of ln(rate).
    pub sigma: f64,
}

/// The chance that some rise is over before the baker can act. All rises of a bake share one rate.
#[must_use]
pub fn p_spoil(rises: &[Judged]) -> f64 {
    let margin = |j: &Judged| if j.exposed <= 0.0 { f64::INFINITY } else { (j.over / j.exposed).ln() / j.sigma };
    1.0 - normal(rises.iter().map(margin).fold(f64::INFINITY, f64::min))
}

/// The chance that the baker comes and some rise is not ready.
#[must_use]
pub fn p_late(rises: &[Judged]) -> f64 {
    let margin = |j: &Judged| if j.ripeness <= 0.0 { f64::INFINITY } else { (j.low_hard / j.ripeness).ln() / j.sigma };
    let worst = rises.iter().map(margin).fold(f64::NEG_INFINITY, f64::max);
    if rises.is_empty() { 0.0 } else { normal(worst) }
}

/// Spoilt less often than this is safe.
const SAFE: f64 = 0.05;

/// Whether a chance of spoiling is worth a word.
#[must_use]
pub const fn is_risky(p_spoil: f64) -> bool {
    p_spoil >= SAFE
}

/// The chance of spoiling in words.
#[must_use]
pub const fn risk_word(p_spoil: f64) -> &'static str {
    if !is_risky(p_spoil) {
        "safe"
    } else if p_spoil < 0.15 {
        "some risk"
    } else if p_spoil < 0.30 {
        "risky"
    } else {
        "very risky"
    }
}

/// The dose that brings rises nearest to ripe when their clock times are fixed: least squares over
/// `(ripeness, exponent)`, ripeness rising as dose to the exponent. Kept within `limits`; none where
/// no rise depends on it.
#[must_use]
pub fn refine_dose(dose: f64, rises: &[(f64, f64)], limits: (f64, f64)) -> Option<f64> {
    let (up, down) = rises.iter().fold((0.0, 0.0), |(u, d), (rho, b)| (u + b * rho.ln(), d + b * b));
    (down > 0.0).then(|| (dose * (-up / down).exp()).clamp(limits.0, limits.1))
}

/// Grams to the scale's step; below five steps the exact dose, to be dissolved.
#[must_use]
pub fn on_scale(grams: f64, step_g: f64) -> f64 {
    let steps = (grams / step_g).round();
    if steps < 5.0 { weighable(grams) } else { steps * step_g }
}
