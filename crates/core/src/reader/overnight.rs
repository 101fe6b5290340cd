//! Wholegrain with little yeast that is left for a night in the room: it is meant to go far past doubled.

use super::Reading;
use crate::{Tables, formula::StyleId};

/// Takes it for what it is, where the recipe names no style.
pub(super) fn left_overnight(reading: &mut Reading, tables: &Tables) {
    let rises = reading.told_rises();
    let Some(first) = rises.iter().find(|r| r.is_first && !r.cold).filter(|_| reading.formula.style.is_none()) else { return };
    let a = reading.formula.analyse(&tables.pantry, &tables.styles);
    if a.style.id == StyleId::Wholegrain && a.stands_a_night(first.minutes.likely) {
        reading.formula.style = Some(StyleId::LongNoKnead);
    }
}
