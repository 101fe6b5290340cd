//! How the running rise would go on in each place of the house: for a dough that is early or late, or has to wait.

use jiff::Timestamp;

use super::{
    Actual, PlanAsk, later,
    rises::{Rises, stands},
};
use crate::{
    Tables,
    ferment::{EventKind, RiseKind},
    formula::{Formula, oven_of},
    input::InputErrors,
    kitchen::{Kitchen, Place},
    oven::Bake,
};

/// The running rise, carried to a place now and left there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Elsewhere {
    /// Where.
    pub place: Place,
    /// How warm it is there, °C.
    pub place_c: f64,
    /// Whether it stands there now.
    pub here: bool,
    /// When it is ripe: early, likely, late; none where it is not within a week.
    pub ripe: Option<(Option<Timestamp>, Timestamp, Option<Timestamp>)>,
    /// From when on it is over.
    pub over: Option<Timestamp>,
}

/// How the rise that runs at `now` would go on in each place; nothing before the mix, after the load, or in a dough
/// that does not rise.
///
/// # Errors
/// What the rise model refuses of what was logged.
pub fn elsewhere(
    formula: &Formula,
    ask: &PlanAsk,
    actual: &Actual,
    kitchen: &Kitchen,
    now: Timestamp,
    tables: &Tables,
) -> Result<Vec<Elsewhere>, InputErrors> {
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    if actual.mixed.is_none_or(|m| m > now) || analysis.flour_g.likely <= 0.0 {
        return Ok(Vec::new());
    }
    let bake = Bake { set_c: ask.set_c, ..oven_of(&analysis, &tables.pantry).in_kitchen(kitchen) };
    let stays_put = left_there(ask);
    let mut all = Vec::new();
    for place in Place::ALL {
        let Some(place_c) = kitchen.warmth_from(place, now) else { continue };
        let mut carried = Actual { ripe: None, not_yet: None, ..actual.clone() };
        carried.places.push((now, place, place_c));
        let rises = Rises::of(&analysis, &stays_put, &bake, &carried, kitchen, tables);
        if rises.loaded.is_some() || rises.rests {
            return Ok(Vec::new());
        }
        let mixed = rises.mixed;
        let ran = rises.run((true, true))?;
        let in_bulk = actual.shaped.is_none() && ran.proof_stage > 0;
        let (ripe, over) =
            if in_bulk { (EventKind::BulkRipe, EventKind::OverRipe) } else { (EventKind::ProofRipe, EventKind::OverProofed) };
        let at = |min: f64| later(mixed, min);
        let here = here(ask, actual, if in_bulk { RiseKind::Bulk } else { RiseKind::Proof }, mixed, now);
        all.push(Elsewhere {
            place,
            place_c,
            here: here == place,
            ripe: ran.forecast.event(ripe).map(|e| (e.min_low.map(at), at(e.min), e.min_high.map(at))),
            over: ran.forecast.event(over).map(|e| at(e.min)),
        });
    }
    Ok(all)
}

/// The same plan without the moves that are still to come.
fn left_there(ask: &PlanAsk) -> PlanAsk {
    let mut ask = ask.clone();
    if let Some(l) = &mut ask.laid {
        l.proof.stands.truncate(1);
        if let Some(bulk) = &mut l.bulk {
            bulk.stands.truncate(1);
        }
    }
    ask
}

/// Where the dough stands now.
fn here(ask: &PlanAsk, actual: &Actual, kind: RiseKind, mixed: Timestamp, now: Timestamp) -> Place {
    let laid = ask.laid.as_deref();
    let (plan, laid, from) = match kind {
        RiseKind::Bulk => (ask.bulk.unwrap_or(ask.proof), laid.and_then(|l| l.bulk.as_ref()), mixed),
        _ => (ask.proof, laid.map(|l| &l.proof), actual.shaped.unwrap_or(mixed)),
    };
    stands(kind, plan, laid, from, None, actual).iter().rfind(|s| s.0 <= now).map_or(plan.place, |s| s.1)
}
