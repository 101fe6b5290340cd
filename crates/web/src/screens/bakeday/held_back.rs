//! Flour or water held back at the mix: asked for until it is answered.

use cerealis_core::{measure::weight, plan::StepKind};

use super::Standing;

/// What was held back, and how much of it may have gone in.
pub(super) struct HeldBack {
    pub(super) line: usize,
    pub(super) name: String,
    pub(super) grams: String,
    /// Words and grams of each button.
    pub(super) parts: Vec<(&'static str, String)>,
}

impl HeldBack {
    /// Asked until it is answered, or the bread is in the oven.
    pub(super) fn asked(s: &Standing, answered: Option<f64>) -> Option<Self> {
        let (line, held) = s.formula.held()?;
        let loaded = s.state.done.iter().any(|d| d.step.kind == StepKind::Load);
        if answered.is_some() || loaded {
            return None;
        }
        let parts = [("none", 0.0), ("a quarter", 0.25), ("half", 0.5), ("three quarters", 0.75), ("all", 1.0)];
        Some(Self {
            line,
            name: s.formula.lines.get(line)?.ingredient.short_name().to_lowercase(),
            grams: weight(held).to_string(),
            parts: parts.map(|(words, part)| (words, format!("{:.1}", held * part))).to_vec(),
        })
    }
}
