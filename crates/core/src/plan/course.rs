//! The course of a bake: from the plan alone, or from what has happened so far.

use jiff::Timestamp;

use super::{
    LaidRise, Load, OvenPlan, PlanAsk, PlanStep, RisePlan, StepKind, later,
    loads::{loads, nth},
    minutes_between, oven,
    steps::{SHAPE_MIN, Steps},
};
use crate::{
    Tables,
    ferment::{Act, EventKind, Forecast, Rise, RiseKind, RiseStage, simulate},
    formula::{Formula, dough_of, oven_of},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    oven::Bake,
};

/// What has happened, read from the log.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Actual {
    /// When the dough was mixed.
    pub mixed: Option<Timestamp>,
    /// Dough temperatures taken: when, °C.
    pub dough_c: Vec<(Timestamp, f64)>,
    /// The place the dough stands in from an instant on, and its °C.
    pub places: Vec<(Timestamp, Place, f64)>,
    /// Folds done.
    pub folds: Vec<Timestamp>,
    /// When it was shaped.
    pub shaped: Option<Timestamp>,
    /// When each load went into the oven.
    pub loads: Vec<Timestamp>,
    /// When each came out.
    pub outs: Vec<Timestamp>,
    /// When a rise was last said not to be ripe.
    pub not_yet: Option<Timestamp>,
    /// When a rise was seen ripe.
    pub ripe: Option<Timestamp>,
}

/// A place the dough stands in while it rises.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stay {
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
    /// Where.
    pub place: Place,
    /// How warm it is there, °C.
    pub place_c: f64,
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
    pub stays: Vec<Stay>,
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

/// Where one rise stands between two instants: from when, where, how warm.
fn stands(
    kind: RiseKind,
    plan: RisePlan,
    laid: Option<&LaidRise>,
    from: Timestamp,
    to: Option<Timestamp>,
    actual: &Actual,
) -> Vec<(Timestamp, Place, f64)> {
    let mut breaks: Vec<_> = actual.places.iter().copied().filter(|(at, ..)| *at > from && to.is_none_or(|to| *at < to)).collect();
    // What was planned holds where it comes after the last move that was really made.
    let moved = breaks.iter().map(|b| b.0).max();
    let planned = laid.map_or_else(Vec::new, |l| l.from(from));
    let (plan_place, plan_c) = planned.first().map_or((plan.place, plan.place_c), |f| (f.1, f.2));
    breaks.extend(planned.into_iter().skip(1).filter(|(at, ..)| moved.is_none_or(|m| *at > m) && to.is_none_or(|to| *at < to)));
    breaks.sort_by_key(|b| b.0);
    let before = actual
        .places
        .iter()
        .filter(|(at, ..)| *at <= from && actual.mixed.is_some_and(|m| *at >= m) && kind == RiseKind::Bulk)
        .max_by_key(|p| p.0);
    let first = before.map_or((from, plan_place, plan_c), |p| (from, p.1, p.2));
    std::iter::once(first).chain(breaks).collect()
}

/// Stages of one rise between two instants, split where the place changed; open at the end if `to` is none.
fn segments(
    kind: RiseKind,
    plan: RisePlan,
    laid: Option<&LaidRise>,
    from: Timestamp,
    to: Option<Timestamp>,
    actual: &Actual,
    base: &RiseStage,
) -> Vec<RiseStage> {
    let mut stages = Vec::new();
    let mut push = |start: Timestamp, end: Option<Timestamp>, c: f64| {
        let readings = actual
            .dough_c
            .iter()
            .filter(|(at, _)| *at >= start && end.is_none_or(|e| *at < e))
            .map(|(at, t)| (minutes_between(start, *at), *t))
            .collect();
        stages.push(RiseStage { kind, place_c: c, minutes: end.map(|e| minutes_between(start, e).max(0.1)), readings, ..base.clone() });
    };
    let stands = stands(kind, plan, laid, from, to, actual);
    let ends = stands.iter().skip(1).map(|s| Some(s.0)).chain([to]);
    for ((start, _, c), end) in stands.iter().zip(ends) {
        push(*start, end, *c);
    }
    stages
}

/// Puts folds into the stages of a bulk by their minutes after mixing.
fn fold_in(stages: &mut [RiseStage], folds: Vec<f64>) {
    let mut from = 0.0;
    for stage in stages {
        let length = stage.minutes.unwrap_or(f64::INFINITY);
        let here = folds.iter().map(|m| m - from).filter(|m| *m >= 0.0 && *m < length);
        stage.acts = Some(here.map(|at_min| Act { at_min, act: "fold".into() }).collect());
        from += length;
    }
}

/// Minutes from shaping to where the last place of the proof begins.
fn proof_min_before_last(shaped: Timestamp, actual: &Actual, laid: Option<&LaidRise>) -> f64 {
    let moved = actual.places.iter().map(|p| p.0).filter(|at| *at > shaped).max();
    let planned = laid.and_then(|l| l.from(shaped).last().map(|s| s.0));
    moved.max(planned).map_or(0.0, |at| minutes_between(shaped, at))
}

/// A dough this far off its planned ripeness, in ln, goes by its own time.
const DRIFT: f64 = 0.1;

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
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    if analysis.flour_g.likely <= 0.0 {
        return Err(InputErrors::one(Pointer::root().at("formula"), "There is no flour in this formula, so there is nothing to plan."));
    }
    let style = analysis.style.id.word();
    let row = tables.ferment.styles.get(style);
    let mut bake = Bake { set_c: ask.set_c, ..oven_of(&analysis, &tables.pantry).in_kitchen(kitchen) };
    crate::oven::BakeBody::default().over(bake.clone())?;
    let mixed = actual.mixed.unwrap_or_else(|| later(ask.start, ask.mix_min));
    let first_c = actual.dough_c.iter().filter(|(at, _)| minutes_between(mixed, *at).abs() <= 20.0).min_by_key(|r| r.0).map(|r| r.1);
    let dough_g = analysis.dough_g.likely.clamp(5.0, 20_000.0);
    let basis = |kind, mass_g: f64, vessel: &str, pace| RiseStage {
        pace: Some(pace),
        vessel: Some(vessel.to_owned()),
        ..RiseStage::until_ripe(kind, 24.0, mass_g)
    };
    let laid = ask.laid.as_deref();
    let (count, pitch_min) = (ask.loads(), laid.map_or(0.0, |l| l.loads.1));
    let loaded = nth(&actual.loads, 0, count);
    let shape_min = laid.map_or(SHAPE_MIN, |l| l.shape_min.0);
    let (bulk_laid, proof_laid) = (laid.and_then(|l| l.bulk.as_ref()), laid.map(|l| &l.proof));
    // Half the shaping counts as proof where it is planned to the minute.
    let half_min = if ask.bulk.is_some() && bulk_laid.is_some() && actual.shaped.is_none() { 0.5 * shape_min } else { 0.0 };
    let piece_g = bake.piece_g.clamp(5.0, 20_000.0);
    let proof_base = basis(RiseKind::Proof, piece_g, bake.rises_in(), ask.proof.pace);
    let mut dough = dough_of(&analysis, &tables.pantry, laid.and_then(|l| l.leaven));
    if let Some(l) = laid.filter(|l| l.preferment_yeast_pct > 0.0) {
        analysis.leave_preferment_out(&mut dough, &tables.pantry);
        dough.preferment_yeast_pct = l.preferment_yeast_pct;
    }
    let rests = dough.yeast.is_none() && dough.leaven.is_none() && laid.is_some();
    // A fitted rise ends when it was planned to, unless the dough turns out another one: then when it is ripe.
    let mut open = (false, false);
    let (mut forecast, proof_stage, proof_from) = loop {
        let mut stages = Vec::new();
        if let Some(plan) = ask.bulk.filter(|_| row.is_some_and(|r| r.bulk_ratio.is_some())) {
            let base = basis(RiseKind::Bulk, dough_g, "bowl", plan.pace);
            let seen = actual.ripe.filter(|at| actual.shaped.is_none() && loaded.is_none() && *at > mixed);
            let planned = bulk_laid.filter(|_| !open.0).map(|l| later(mixed, l.minutes()));
            let waited = actual.not_yet.filter(|_| actual.shaped.is_none()).map(|at| later(at, 10.0));
            let planned = planned.map(|p| waited.map_or(p, |w| p.max(w)));
            let end = actual.shaped.or(loaded).or(seen).or(planned);
            stages = segments(RiseKind::Bulk, plan, bulk_laid, mixed, end, actual, &base);
            let in_fridge = |c: f64| laid.is_some() && analysis.has_egg_or_milk() && c < 8.0;
            for stage in stages.iter_mut().filter(|s| in_fridge(s.place_c)) {
                stage.vessel = Some("tray".to_owned());
            }
            let done: Vec<f64> = actual.folds.iter().map(|at| minutes_between(mixed, *at)).collect();
            let planned = ask.fold_minutes().into_iter().skip(done.len());
            fold_in(&mut stages, done.iter().copied().chain(planned).collect());
        }
        let proof_stage = stages.len();
        let after_bulk = actual.shaped.or(loaded).unwrap_or(mixed);
        let proof_from = stages.len();
        if half_min > 0.0 && loaded.is_none() {
            stages.push(RiseStage { place_c: kitchen.room_c, minutes: Some(half_min), ..proof_base.clone() });
        }
        let mut proof = if actual.shaped.is_some() || proof_stage == 0 {
            let planned = proof_laid.filter(|_| !open.1).map(|l| later(after_bulk, l.minutes()));
            let waited = actual.not_yet.map(|at| later(at, 10.0));
            let end = loaded.or(planned.map(|p| waited.map_or(p, |w| p.max(w))));
            segments(RiseKind::Proof, ask.proof, proof_laid, after_bulk, end, actual, &proof_base)
        } else if let (Some(l), None) = (proof_laid, loaded) {
            let last = l.stands.len().saturating_sub(1);
            let of = |(i, s): (usize, &super::Stand)| RiseStage {
                place_c: s.place_c,
                minutes: (!open.1 || i < last).then(|| s.minutes.max(0.1)),
                ..proof_base.clone()
            };
            l.stands.iter().enumerate().map(of).collect()
        } else {
            vec![RiseStage { place_c: ask.proof.place_c, minutes: loaded.map(|_| 0.1), ..proof_base.clone() }]
        };
        if let (Some(seen), Some(shaped), Some(last)) =
            (actual.ripe, actual.shaped.or((proof_stage == 0).then_some(mixed)), proof.last_mut())
            && seen > shaped
            && loaded.is_none()
        {
            let before: f64 = proof_min_before_last(shaped, actual, proof_laid);
            last.minutes = Some((minutes_between(shaped, seen) - before).max(0.1));
        }
        if rests && loaded.is_none() {
            // Without yeast nothing rises: it rests, is shaped, rests again.
            let still = |minutes: f64| RiseStage { place_c: kitchen.room_c, minutes: Some(minutes.max(0.1)), ..proof_base.clone() };
            let first = bulk_laid.map_or(0.0, LaidRise::minutes);
            proof = vec![still(first), still(shape_min), still(proof_laid.map_or(15.0, LaidRise::minutes))];
        }
        stages.extend(proof);
        let rise = Rise {
            style: style.to_owned(),
            dough: dough.clone(),
            start_c: first_c.unwrap_or(ask.mix_c),
            stages,
            rate: 1.0,
            log_sigma: None,
        };
        let assumed = rise.assume(dough_g, &tables.ferment)?;
        let forecast = if rests { Forecast::at_rest(&assumed, &tables.ferment) } else { simulate(&assumed, &tables.ferment)? };
        let told = !actual.dough_c.is_empty() || !actual.places.is_empty() || actual.shaped.is_some();
        let drifts = |l: Option<&LaidRise>, first: usize, kind: EventKind| {
            told && l.is_some_and(|l| forecast.ripeness_of_time(first, kind).is_some_and(|r| (r / l.ripeness).ln().abs() > DRIFT))
        };
        if !open.0 && actual.shaped.is_none() && proof_stage > 0 && drifts(bulk_laid, 0, EventKind::BulkRipe) {
            open.0 = true;
        } else if !open.1 && loaded.is_none() && drifts(proof_laid, proof_from, EventKind::ProofRipe) {
            open.1 = true;
        } else {
            break (forecast, proof_stage, proof_from);
        }
    };
    if half_min > 0.0 {
        forecast.wait_before(proof_from, half_min);
    }
    bake.dough_c = forecast.end.dough_c.clamp(-5.0, 45.0);
    let within = if laid.is_some() { oven::LIKE_DOUGH_C } else { oven::SAME_DOUGH_C };
    let oven = OvenPlan::kept_within(within, &bake, oven_before.or(laid.map(|l| &l.oven)), &tables.oven)?;
    let mut load = loaded.unwrap_or_else(|| later(mixed, forecast.end.min));
    if let Some(at) = actual.not_yet.filter(|_| loaded.is_none()) {
        load = load.max(later(at, 10.0));
    }
    // As planned, the oven has some minutes between two loads to get hot again.
    let again_min = laid.map_or(0.0, |l| (pitch_min - l.oven.minutes).max(0.0));
    let all = loads(load, count, (oven.minutes, again_min), &actual.loads, &actual.outs);
    let out = all.last().map_or(load, |l| l.out);
    let is_out = nth(&actual.outs, count - 1, count).is_some();
    let slice = oven.slice_min;
    let ready_at = later(out, slice);
    let all_loads = minutes_between(load, all.last().map_or(load, |l| l.at));
    let ripe = forecast.events.iter().rev().find(|e| e.kind == EventKind::ProofRipe && !e.ahead);
    let (load_low, load_high) = match (loaded, ripe) {
        (Some(at), _) => (Some(at), Some(at)),
        (None, _) if rests => (Some(load), Some(load)),
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
        kitchen,
    };
    let steps = view.all(actual, (ready_at, ready_low, ready_high));
    let shaped = steps.iter().find(|s| s.kind == StepKind::Proof).map_or(load, |s| s.start);
    let bulk_end = view.bulk_end;
    let mut stays = Vec::new();
    let mut stay = |kind: RiseKind, plan: RisePlan, laid: Option<&LaidRise>, from: Timestamp, to: Timestamp, known: bool| {
        let none = Actual::default();
        let stands = stands(kind, plan, laid, from, Some(to), if known { actual } else { &none });
        let ends = stands.iter().skip(1).map(|s| s.0).chain([to]);
        stays.extend(stands.iter().zip(ends).map(|((from, place, place_c), to)| Stay {
            from: *from,
            to,
            place: *place,
            place_c: *place_c,
        }));
    };
    if let Some(bulk) = ask.bulk.filter(|_| proof_stage > 0) {
        stay(RiseKind::Bulk, bulk, bulk_laid, mixed, bulk_end, true);
    }
    stay(RiseKind::Proof, ask.proof, proof_laid, shaped, load, actual.shaped.is_some() || proof_stage == 0);
    Ok(Course { mixed, proof_stage, load, loads: all, stays, steps, oven, ready_at, ready_low, ready_high, forecast })
}
