//! How the running rise would go on in each place of the house: for a dough that is early or late, or has to wait.

use jiff::Timestamp;

use super::{
    Actual, FittedRise, PlanAsk, later,
    rises::{Ran, Rises, running, stands},
};
use crate::{
    Tables,
    ferment::RiseKind,
    formula::{Formula, bake_at},
    input::InputErrors,
    kitchen::{Kitchen, Place, Stay},
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
    let bake = bake_at(&analysis, ask.set_c, kitchen, &tables.pantry);
    let stays_put = ask.as_done_by(now, actual);
    let mut all = Vec::new();
    for place in Place::ALL {
        let Some(place_c) = kitchen.warmth_from(place, now) else { continue };
        let mut carried = Actual { ripe: None, not_yet: None, ..actual.clone() };
        carried.places.push(Stay::at((place, place_c), now));
        let rises = Rises::of(&analysis, &stays_put, &bake, &carried, kitchen, tables)?;
        if rises.loaded.is_some() || rises.rests {
            return Ok(Vec::new());
        }
        let Ran { forecast, proof_stage } = rises.run((true, true))?;
        let (kind, _) = running(actual, proof_stage);
        let at = |min: f64| later(rises.mixed, min);
        let ripe = forecast.event(kind.ripe()).map(|e| (e.min_low.map(at), at(e.min), e.min_high.map(at)));
        let over = forecast.event(kind.over()).map(|e| at(e.min));
        all.push(Elsewhere { place, place_c, here: here(ask, actual, kind, rises.mixed, now) == place, ripe, over });
    }
    Ok(all)
}

impl PlanAsk {
    /// The same without the moves that are still to come.
    pub(super) fn as_done_by(&self, now: Timestamp, actual: &Actual) -> Self {
        let mut ask = self.clone();
        let shaped = self.proof_began(actual);
        let (Some(l), Some(mixed)) = (&mut ask.laid, actual.mixed) else { return ask };
        let cut = |rise: &mut FittedRise, from: Option<Timestamp>| {
            let begun = from.map_or(1, |from| rise.from(from).iter().filter(|s| s.span <= now).count());
            rise.stands.truncate(begun.max(1));
        };
        if let Some(bulk) = &mut l.bulk {
            cut(bulk, Some(mixed));
        }
        cut(&mut l.proof, shaped);
        ask
    }
}

/// Where the dough stands now.
fn here(ask: &PlanAsk, actual: &Actual, kind: RiseKind, mixed: Timestamp, now: Timestamp) -> Place {
    let laid = ask.laid.as_deref();
    let (plan, laid, from) = match kind {
        RiseKind::Bulk => (ask.bulk.unwrap_or(ask.proof), laid.and_then(|l| l.bulk.as_ref()), mixed),
        _ => (ask.proof, laid.map(|l| &l.proof), ask.proof_began(actual).unwrap_or(mixed)),
    };
    stands(kind, plan, laid, from, None, actual).iter().rfind(|s| s.span <= now).map_or(plan.place, |s| s.place)
}
