//! What the models foresee of a recipe as it is told: run once, before anything is said of it.

use crate::{
    Tables,
    ferment::Event,
    formula::{Analysis, Formula, StyleId, bake_at, dose_for, over_at, proof_at, ripe_at},
    kitchen::Kitchen,
    oven::{Advice, BakeBody, advise},
    reader::{Reading, ToldRise},
};

/// A told rise beyond the late end of its range by this is past ripe.
const OVER: f64 = 1.3;

/// A rise a recipe tells by the clock, and what becomes of it in this kitchen.
#[derive(Debug, Clone)]
pub struct RiseForeseen {
    /// As it is told.
    pub told: ToldRise,
    /// Where it stands, °C.
    pub place_c: f64,
    /// When it is ripe, minutes from its own start, with its range.
    pub ripe: Event,
    /// When it is over, where a dough like it is meant to stand far past ripe.
    pub over: Option<Event>,
    /// Where it is long past ripe at the time told: how many times the dose would be ripe then.
    pub dose: Option<f64>,
}

impl RiseForeseen {
    /// The late end of its range, where the time told is long past it.
    #[must_use]
    pub fn long_past(&self) -> Option<f64> {
        let late = self.ripe.min_high?;
        let past = self.over.map_or(OVER * late, |over| over.min);
        (self.told.minutes.low > past).then_some(late)
    }
}

/// What the models foresee of a recipe.
#[derive(Debug, Clone, Default)]
pub struct Foreseen {
    /// Its first rise, not in the cold.
    pub bulk: Option<RiseForeseen>,
    /// Its last, not in the cold.
    pub proof: Option<RiseForeseen>,
    /// Its bake at the setting told: weight of a piece in grams, and the oven's answer.
    pub bake: Option<(f64, Advice)>,
}

impl Foreseen {
    /// Runs the rise model over the rises told and the oven model at the setting told, in this kitchen.
    #[must_use]
    pub fn of(reading: Option<&Reading>, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Self {
        if a.flour_g.likely <= 0.0 {
            return Self::default();
        }
        let told = reading.map_or_else(Vec::new, Reading::told_rises);
        let mix_c = f64::midpoint(a.style.dough_c.0, a.style.dough_c.1);
        let place_c = |r: &ToldRise| r.place_c.unwrap_or(kitchen.room_c);
        let bulk = told.iter().find(|r| r.is_first && !r.cold).and_then(|told| {
            let place_c = place_c(told);
            let ripe = ripe_at(a, mix_c, place_c, tables)?;
            // Left for a night with little yeast, any lean dough is good as long as one that is never kneaded.
            let over = if a.stands_a_night(told.minutes.likely) {
                let night = Formula { style: Some(StyleId::LongNoKnead), ..a.formula.clone() };
                over_at(&night.analyse(&tables.pantry, &tables.styles), mix_c, place_c, tables)
            } else {
                over_at(a, mix_c, place_c, tables)
            };
            let bulk = RiseForeseen { told: *told, place_c, ripe, over, dose: None };
            let hours = told.minutes.likely / 60.0;
            let dose = bulk.long_past().and_then(|_| dose_for(a, hours, mix_c, place_c, tables).ok());
            Some(RiseForeseen { dose, ..bulk })
        });
        let proof = told.iter().rev().find(|r| !r.is_first && !r.cold).and_then(|told| {
            let place_c = place_c(told);
            Some(RiseForeseen { told: *told, place_c, ripe: proof_at(a, mix_c, place_c, tables)?, over: None, dose: None })
        });
        Self { bulk, proof, bake: bake(a, kitchen, tables) }
    }
}

/// The bake at the setting told, where weight and minutes are known and the answer is not already taken as meant.
fn bake(a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Option<(f64, Advice)> {
    let told = a.formula.oven?;
    told.set_c.zip(told.minutes)?;
    if a.formula.pieces.is_none() || a.formula.accepted.iter().any(|id| id == "bake-short") {
        return None;
    }
    let bake = bake_at(a, told.on_dial(&kitchen.oven), kitchen, &tables.pantry);
    let bake = BakeBody::default().over(bake).ok()?;
    Some((bake.piece_g, advise(&bake, &tables.oven)))
}
