//! How the running rise would go on in each place of the house: for a dough that is early or late, or has to wait.

use jiff::Timestamp;

use super::{
    Actual, PlanAsk, later,
    rises::{Rises, stands},
};
use crate::{
    Tables,
    ferment::{Forecast, RiseKind},
    formula::{Analysis, Formula, oven_of},
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

/// Which rise runs, and its first stage in the forecast of a course whose proof begins at that stage.
pub(super) const fn running(actual: &Actual, proof_stage: usize) -> (RiseKind, usize) {
    if actual.shaped.is_none() && proof_stage > 0 { (RiseKind::Bulk, 0) } else { (RiseKind::Proof, proof_stage) }
}

/// The running rise of a bake, to be carried about the house.
pub(super) struct Running<'a> {
    analysis: &'a Analysis<'a>,
    /// The plan without the moves that are still to come.
    stays_put: PlanAsk,
    actual: &'a Actual,
    bake: Bake,
    kitchen: &'a Kitchen,
    tables: &'a Tables,
}

/// The rise carried to one place and left there.
pub(super) struct Carried {
    mixed: Timestamp,
    /// Which rise it is.
    kind: RiseKind,
    forecast: Forecast,
    first_stage: usize,
}

impl<'a> Running<'a> {
    /// The rise that runs at `now`; none before the mix, or where nothing can rise.
    pub(super) fn at(
        now: Timestamp,
        analysis: &'a Analysis<'a>,
        ask: &PlanAsk,
        actual: &'a Actual,
        kitchen: &'a Kitchen,
        tables: &'a Tables,
    ) -> Option<Self> {
        if actual.mixed.is_none_or(|m| m > now) || analysis.flour_g.likely <= 0.0 {
            return None;
        }
        let bake = Bake { set_c: ask.set_c, ..oven_of(analysis, &tables.pantry).in_kitchen(kitchen) };
        Some(Self { analysis, stays_put: left_there(ask), actual, bake, kitchen, tables })
    }

    /// Carried to a place at an instant. None after the load, or where it only rests.
    pub(super) fn carried(&self, place: Place, place_c: f64, at: Timestamp) -> Result<Option<Carried>, InputErrors> {
        let mut carried = Actual { ripe: None, not_yet: None, ..self.actual.clone() };
        carried.places.push((at, place, place_c));
        let rises = Rises::of(self.analysis, &self.stays_put, &self.bake, &carried, self.kitchen, self.tables);
        if rises.loaded.is_some() || rises.rests {
            return Ok(None);
        }
        let mixed = rises.mixed;
        let ran = rises.run((true, true))?;
        let (kind, first_stage) = running(self.actual, ran.proof_stage);
        Ok(Some(Carried { mixed, kind, forecast: ran.forecast, first_stage }))
    }
}

impl Carried {
    fn at(&self, min: f64) -> Timestamp {
        later(self.mixed, min)
    }
    /// When it is over.
    pub(super) fn over(&self) -> Option<Timestamp> {
        self.forecast.event(self.kind.over()).map(|e| self.at(e.min))
    }
    /// When it has gone so far of the dough time it takes to be ripe.
    pub(super) fn on_its_way(&self, share: f64) -> Option<Timestamp> {
        self.forecast.on_its_way(self.first_stage, self.kind.ripe(), share).map(|min| self.at(min))
    }
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
    let Some(rise) = Running::at(now, &analysis, ask, actual, kitchen, tables) else { return Ok(Vec::new()) };
    let mut all = Vec::new();
    for place in Place::ALL {
        let Some(place_c) = kitchen.warmth_from(place, now) else { continue };
        let Some(c) = rise.carried(place, place_c, now)? else { return Ok(Vec::new()) };
        let here = here(ask, actual, c.kind, c.mixed, now);
        let ripe = c.forecast.event(c.kind.ripe()).map(|e| (e.min_low.map(|m| c.at(m)), c.at(e.min), e.min_high.map(|m| c.at(m))));
        all.push(Elsewhere { place, place_c, here: here == place, ripe, over: c.over() });
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
