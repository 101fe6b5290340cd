//! What egg, milk and cheese ask of a dough's hours, warm and cold.

use super::{Analysis, StyleId};
use crate::pantry::Fact;

/// So cold, a dough with egg or milk is out of the hours that count as warm, °C: a fridge of 5 °C never brings a
/// dough to the 5 °C of FDA Food Code 2017 3-501.14(B), from memory; engineering estimate.
pub const CHILLED_C: f64 = 8.0;

/// Out of the fridge from the end of mixing to the load, dough with egg or milk: 4 h without temperature
/// control, FDA Food Code 2017 3-501.19(B), from memory.
pub const WARM_LIMIT_MIN: f64 = 240.0;

impl Analysis<'_> {
    /// Whether a plan keeps it under four hours warm: any egg, milk or cheese that counts at all. Stricter than
    /// [`Self::has_egg_or_milk`], for a plan may choose its hours and a recipe that is only read may not.
    #[must_use]
    pub fn is_perishable(&self) -> bool {
        let cheese = self.formula.lines.iter().any(|l| l.in_dough() && l.ingredient.is(Fact::Cheese));
        self.egg_pct > 0.5 || self.milk_pct > 0.5 || cheese
    }

    /// Whether so much egg or milk is in it that a recipe's hours in the warm are remarked on.
    #[must_use]
    pub fn has_egg_or_milk(&self) -> bool {
        self.egg_pct >= 2.0 || self.milk_share >= 0.3
    }

    /// Longest stay in a fridge, hours, in bulk or shaped: lean, with leaven, with egg or milk.
    /// Common practice, no source.
    #[must_use]
    pub fn longest_cold_h(&self, shaped: bool) -> f64 {
        let (bulk, proof) = if self.has_egg_or_milk() || self.style.id == StyleId::Brioche {
            (24.0, 16.0)
        } else if self.leaven_flour_pct.likely > 0.0 {
            (48.0, 36.0)
        } else {
            (72.0, 24.0)
        };
        if shaped { proof } else { bulk }
    }
}
