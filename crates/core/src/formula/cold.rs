//! How long a dough bears the cold.

use super::{Analysis, StyleId};

impl Analysis<'_> {
    /// Whether egg or milk makes it a dough that must not stand warm for long.
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
