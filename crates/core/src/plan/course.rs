//! The course of a bake: from the plan alone, or from what has happened so far.

use jiff::Timestamp;

use super::{
    Actual, FittedRise, Load, OvenPlan, PlanAsk, PlanStep, RisePlan, StepKind, later,
    loads::{loads, nth},
    minutes_between, own_words,
    rises::{ASK_AGAIN_MIN, Ran, Rises, leave_oven, running, stands},
    search::schedule::MOVE_MIN,
    steps::Steps,
};
use crate::{
    Tables,
    ferment::{EventKind, Forecast, RiseKind},
    formula::{CHILLED_C, Formula, WARM_LIMIT_MIN, bake_at},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Period, Place, Stay},
};

/// Where a dough is from an act on, until the next.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Whereabouts {
    /// In the oven.
    Oven,
    /// On the rack, baked.
    Rack,
    /// It rises somewhere.
    Stands(Stay<Period>),
    /// Nowhere in particular: the baker is at it.
    InHand,
}

/// The course: acts, drawing, ranges.
#[derive(Debug, Clone)]
pub struct Course {
    /// When the dough's clock starts.
    pub mixed: Timestamp,
    /// The rises.
    pub forecast: Forecast,
    /// Index of the first stage of the proof in the forecast.
    pub proof_stage: usize,
    /// When it goes into the oven: the first of its loads.
    pub load: Timestamp,
    /// Its oven loads.
    pub loads: Vec<Load>,
    /// Where the dough stands while it rises.
    pub stays: Vec<Stay<Period>>,
    /// Whether the act that ends the running rise is due already.
    pub due: bool,
    /// The acts.
    pub steps: Vec<PlanStep>,
    /// The oven.
    pub oven: OvenPlan,
    /// When it may be sliced.
    pub ready_at: Timestamp,
    /// Early end of its range.
    pub ready_low: Option<Timestamp>,
    /// Late end.
    pub ready_high: Option<Timestamp>,
}

impl Course {
    /// Where the dough is from one of its acts on, until the next.
    #[must_use]
    pub fn whereabouts(&self, act: &PlanStep) -> Whereabouts {
        if matches!(act.kind, StepKind::Out | StepKind::Ready) {
            return Whereabouts::Rack;
        }
        if act.start >= self.load {
            return Whereabouts::Oven;
        }
        self.stays.iter().find(|stay| stay.span.to > act.end).map_or(Whereabouts::InHand, |stay| Whereabouts::Stands(*stay))
    }

    /// Its dough hours at an instant: what it has aged, as if it had stood at 24 °C. None before the mix; as at the load after it.
    #[must_use]
    pub fn dough_h_at(&self, at: Timestamp) -> Option<f64> {
        let min = minutes_between(self.mixed, at);
        self.forecast.at(min).filter(|_| min >= 0.0).map(|r| r.dough_h)
    }

    /// Minutes out of the fridge from the end of mixing to the load. A stay in the fridge that does not make the dough
    /// cold within four hours counts too.
    #[must_use]
    pub fn warm_min(&self) -> f64 {
        self.warm_until(self.load)
    }

    /// The same up to an instant.
    pub(super) fn warm_until(&self, at: Timestamp) -> f64 {
        let cold_min = |s: &Stay<Period>| {
            let Period { from: came, to: went } = s.span;
            let (from, to) = (minutes_between(self.mixed, came), minutes_between(self.mixed, went));
            let last = to.min(from + WARM_LIMIT_MIN);
            let chilled = self.forecast.curve.iter().any(|r| r.min > from && r.min <= last && r.dough_c <= CHILLED_C);
            if chilled { minutes_between(came, went.min(at)) } else { 0.0 }
        };
        let cold: f64 = self.stays.iter().filter(|s| s.place == Place::Fridge && s.span.from < at).map(cold_min).sum();
        (minutes_between(self.mixed, at) - cold).max(0.0)
    }
}

/// Works out the course of a bake. An oven plan made before is kept while the dough comes to the oven
/// as warm as it was made for.
///
/// # Errors
/// What the ask, the rise or the oven refuses, each at its field.
pub fn course(
    formula: &Formula,
    ask: &PlanAsk,
    oven_before: Option<&OvenPlan>,
    actual: &Actual,
    kitchen: &Kitchen,
    tables: &Tables,
) -> Result<Course, InputErrors> {
    ask.check()?;
    let laid_anew = actual.rest.as_deref().zip(oven_before).map(|(rest, oven)| rest.over(ask, oven));
    let ask = laid_anew.as_ref().unwrap_or(ask);
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    if analysis.flour_g.likely <= 0.0 {
        return Err(InputErrors::one(Pointer::root().at("formula"), "There is no flour in this formula, so there is nothing to plan."));
    }
    let mut bake = bake_at(&analysis, ask.set_c, kitchen, &tables.pantry);
    crate::oven::BakeBody::default().over(bake.clone())?;
    let mut rises = Rises::of(&analysis, ask, &bake, actual, kitchen, tables)?;
    let laid = ask.laid.as_deref();
    let mut to_load = |rises: &mut Rises<'_>| -> Result<_, InputErrors> {
        let (Ran { mut forecast, proof_stage }, open) = rises.as_it_goes()?;
        if rises.half_min > 0.0 {
            forecast.wait_before(proof_stage, rises.half_min);
        }
        bake.dough_c = forecast.end.dough_c.clamp(-5.0, 45.0);
        let oven = OvenPlan::of(&bake, oven_before.or(laid.map(|l| &l.oven)), &tables.oven)?;
        let mut load = rises.loaded.unwrap_or_else(|| later(rises.mixed, forecast.end.min));
        if let Some(at) = actual.not_yet.filter(|_| rises.loaded.is_none()) {
            load = load.max(later(at, ASK_AGAIN_MIN));
        }
        Ok((forecast, proof_stage, open, oven, load))
    };
    let mut run = to_load(&mut rises)?;
    // A proof by hand in the oven ends there when the oven is lit, and goes on in the room.
    if laid.is_none() && ask.proof.place == Place::OvenLight && rises.loaded.is_none() {
        let start = ask.proof_began(actual).unwrap_or_else(|| later(rises.mixed, run.0.stage_starts.get(run.1).copied().unwrap_or(0.0)));
        let carried = actual.places.iter().filter(|p| p.span > start).max_by_key(|p| p.span).is_some_and(|p| p.place != Place::OvenLight);
        let lit = actual.lit.unwrap_or_else(|| later(run.4, -run.3.preheat_min));
        if !carried {
            rises.out_of_oven = Some(minutes_between(start, later(lit, -f64::from(MOVE_MIN))).max(0.0));
            run = to_load(&mut rises)?;
        }
    }
    let (forecast, proof_stage, open, oven, load) = run;
    let due = rises.is_held();
    let out_min = rises.out_of_oven;
    let Rises { mixed, loaded, half_min, rests, .. } = rises;
    let (bulk_laid, proof_laid) = (laid.and_then(|l| l.bulk.as_ref()), laid.map(|l| &l.proof));
    let (count, pitch_min) = (ask.loads(), laid.map_or(0.0, |l| l.loads.1));
    // As planned, the oven has some minutes between two loads to get hot again.
    let again_min = laid.map_or(0.0, |l| (pitch_min - l.oven.minutes).max(0.0));
    let all = loads(load, count, (oven.minutes, again_min), actual);
    let out = all.last().map_or(load, |l| l.out);
    let is_out = nth(&actual.outs, count - 1, count).is_some();
    let slice = oven.slice_min;
    let ready_at = later(out, slice);
    let all_loads = minutes_between(load, all.last().map_or(load, |l| l.at));
    let ripe = forecast.events.iter().rev().find(|e| e.kind == EventKind::ProofRipe && !e.ahead);
    let (load_low, load_high) = match (loaded, ripe) {
        (Some(at), _) => (Some(at), Some(at)),
        (None, _) if rests || (due && running(actual, proof_stage).0 == RiseKind::Proof) => (Some(load), Some(load)),
        (None, _) if proof_laid.is_some() && !open.1 => {
            (proof_laid.map(|l| later(load, -l.early_min)), proof_laid.map(|l| later(load, l.late_min)))
        }
        (None, Some(e)) => (e.min_low.map(|m| later(mixed, m)), e.min_high.map(|m| later(mixed, m))),
        (None, None) => (Some(load), Some(load)),
    };
    let through = |at: Option<Timestamp>, m: f64| if is_out { Some(ready_at) } else { at.map(|at| later(at, all_loads + m + slice)) };
    let (ready_low, ready_high) = (through(load_low, oven.minutes_low), through(load_high, oven.minutes_high));
    let view = Steps {
        ask,
        analysis: &analysis,
        bake: &bake,
        oven: &oven,
        forecast: &forecast,
        tables,
        mixed,
        loads: &all,
        load_low,
        load_high,
        proof_stage,
        bulk_end: later(mixed, forecast.stage_starts.get(proof_stage).map_or(forecast.end.min, |m| m - half_min)),
        bulk_slack: bulk_laid.filter(|_| !open.0),
        due,
        out_min,
        kitchen,
    };
    let mut steps = view.all(actual, (ready_at, ready_low, ready_high));
    own_words::lay(&mut steps, &formula.steps);
    let shaped = steps.iter().find(|s| s.kind == StepKind::Proof).map_or(load, |s| s.start);
    let bulk_end = view.bulk_end;
    let mut stays = Vec::new();
    let mut stay = |kind: RiseKind, plan: RisePlan, laid: Option<&FittedRise>, from: Timestamp, to: Timestamp, known: bool| {
        let none = Actual::default();
        let mut stands = stands(kind, plan, laid, from, Some(to), if known { actual } else { &none });
        if let Some(m) = out_min.filter(|_| kind == RiseKind::Proof) {
            leave_oven(&mut stands, later(from, m), Some(to), kitchen.room_c);
        }
        let ends = stands.iter().skip(1).map(|s| s.span).chain([to]);
        stays.extend(stands.iter().zip(ends).map(|(s, to)| s.lasting(Period { from: s.span, to })));
    };
    if let Some(bulk) = ask.bulk.filter(|_| proof_stage > 0) {
        stay(RiseKind::Bulk, bulk, bulk_laid, mixed, bulk_end, true);
    }
    stay(RiseKind::Proof, ask.proof, proof_laid, shaped, load, actual.shaped.is_some() || proof_stage == 0);
    Ok(Course { mixed, proof_stage, load, loads: all, stays, due, steps, oven, ready_at, ready_low, ready_high, forecast })
}
