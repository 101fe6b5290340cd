//! Amounts that stand in a step: `knead in 40 g butter`. They are weighed as a line would be.

use std::sync::Arc;

use super::{Choices, read};
use crate::{Tables, measure::Band, pantry::Ingredient};

/// Every amount with the ingredient it is of.
pub(super) fn amounts(step: &str, tables: &Tables, choices: &Choices) -> Vec<(Arc<Ingredient>, Band)> {
    let read = read(step, choices, &[], tables);
    read.map(|r| r.lines.into_iter().filter_map(|l| l.grams.map(|g| (l.ingredient, g))).collect()).unwrap_or_default()
}
