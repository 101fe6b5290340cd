//! What several of these tests lay on the table.

use std::sync::OnceLock;

use cerealis_core::{
    Tables,
    formula::{Formula, FormulaDraft, LineDraft, Typed},
    input::InputErrors,
};

/// The built-in tables, read once.
pub fn tables() -> &'static Tables {
    static TABLES: OnceLock<Tables> = OnceLock::new();
    TABLES.get_or_init(|| Tables::built_in().unwrap())
}

/// A line of a draft.
pub fn line(ingredient: &str, grams: f64) -> LineDraft {
    LineDraft {
        ingredient: ingredient.into(),
        grams: Typed::Number(grams),
        grams_low: None,
        grams_high: None,
        stage: None,
        source: None,
        hydration_pct: None,
        used: None,
    }
}

/// A draft of `ingredient grams` pairs.
pub fn draft(lines: &[(&str, f64)]) -> FormulaDraft {
    FormulaDraft { lines: lines.iter().map(|(i, g)| line(i, *g)).collect(), ..FormulaDraft::default() }
}

/// A formula of such pairs.
pub fn formula(lines: &[(&str, f64)]) -> Formula {
    draft(lines).check(&tables().pantry).unwrap()
}

/// A lean dough of 500 g flour.
pub const LEAN: &[(&str, f64)] = &[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)];

/// Where errors stand and what they say.
pub fn places(errors: &InputErrors) -> Vec<&str> {
    errors.0.iter().map(|e| e.pointer.as_str()).collect()
}

/// Whether two figures are as near as `by`.
pub fn near(a: f64, b: f64, by: f64) -> bool {
    (a - b).abs() <= by
}
