//! A lean dough with little yeast that is left for a night in the room: it is meant to go far past doubled.

use super::Reading;
use crate::{Tables, formula::StyleId, measure::Band};

/// Left so long, minutes, with so little instant yeast, percent, it is a dough for the night whatever its flour: ripe early,
/// good for hours after. Common practice, no source.
const NIGHT_MIN: f64 = 480.0;
const LITTLE_YEAST_PCT: f64 = 0.55;

/// Takes it for what it is, where the recipe names no style.
pub(super) fn left_overnight(reading: &mut Reading, tables: &Tables) {
    let night = |m: Band| m.likely >= NIGHT_MIN;
    if reading.formula.style.is_some() || !reading.told_rises().iter().any(|r| r.is_first && !r.cold && night(r.minutes)) {
        return;
    }
    let a = reading.formula.analyse(&tables.pantry, &tables.styles);
    let (yeast, leaven) = (a.yeast_instant_pct.likely, a.leaven_flour_pct.likely);
    let lean = matches!(a.style.id, StyleId::Lean | StyleId::Wholegrain);
    if lean && yeast > 0.0 && yeast <= LITTLE_YEAST_PCT && leaven <= 0.0 {
        reading.formula.style = Some(StyleId::LongNoKnead);
    }
}
