//! What the bread costs, from what a kilogram of each ingredient costs in this household. Baking heat is not counted.

use std::collections::BTreeMap;

use super::Analysis;
use crate::{measure::Band, pantry::Fact};

/// What the batch costs, in the household's own money.
#[derive(Debug, Clone, PartialEq)]
pub struct Cost {
    /// The whole batch, as far as its ingredients have a price.
    pub batch: Band,
    /// One piece of it.
    pub piece: Option<Band>,
    /// Cost of each priced ingredient, dearest first: name, amount.
    pub shares: Vec<(String, f64)>,
    /// Names of ingredients without a price. Tap water needs none.
    pub unpriced: Vec<String>,
}

impl Analysis<'_> {
    /// The cost by prices of a kilogram, by ingredient id; nothing where no ingredient has a price.
    #[must_use]
    pub fn cost(&self, prices: &BTreeMap<String, f64>) -> Option<Cost> {
        let mut cost = Cost { batch: Band::exact(0.0), piece: None, shares: Vec::new(), unpriced: Vec::new() };
        for line in &self.formula.lines {
            let name = line.ingredient.short_name();
            match prices.get(&line.ingredient.id) {
                Some(per_kg) => {
                    let share = line.grams.times(per_kg / 1000.0);
                    cost.batch = cost.batch.plus(share);
                    match cost.shares.iter_mut().find(|(n, _)| n == name) {
                        Some(same) => same.1 += share.likely,
                        None => cost.shares.push((name.to_owned(), share.likely)),
                    }
                }
                None if line.ingredient.is(Fact::Water) => {}
                None if cost.unpriced.iter().any(|n| n == name) => {}
                None => cost.unpriced.push(name.to_owned()),
            }
        }
        cost.shares.sort_by(|a, b| b.1.total_cmp(&a.1));
        cost.piece = self.formula.pieces.as_ref().map(|_| cost.batch.times(self.piece_g() / self.dough_g.likely.max(1e-9)));
        (!cost.shares.is_empty()).then_some(cost)
    }
}
