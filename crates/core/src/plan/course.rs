//! The course of a bake: from the plan alone, or from what has happened so far.

use jiff::Timestamp;

use super::search::way::WayFamily;
use super::{LaidRise, OvenPlan, PlanAsk, PlanStep, RisePlan, StepKind, later, minutes_between, oven};
use crate::{
    Tables,
    ferment::{Act, EventKind, Forecast, Rise, RiseKind, RiseStage, simulate},
    formula::{Analysis, Formula, Line, dough_of, oven_of},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    measure::{show, show_degrees},
    oven::{Bake, Crust, Vessel},
    pantry::Family,
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
    /// When it went into the oven.
    pub loaded: Option<Timestamp>,
    /// When it came out.
    pub out: Option<Timestamp>,
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
    /// When it goes into the oven.
    pub load: Timestamp,
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

/// Minutes of hands at an act. Common practice, no source.
const SHAPE_MIN: f64 = 15.0;

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
            let seen = actual.ripe.filter(|at| actual.shaped.is_none() && actual.loaded.is_none() && *at > mixed);
            let planned = bulk_laid.filter(|_| !open.0).map(|l| later(mixed, l.minutes()));
            let waited = actual.not_yet.filter(|_| actual.shaped.is_none()).map(|at| later(at, 10.0));
            let planned = planned.map(|p| waited.map_or(p, |w| p.max(w)));
            let end = actual.shaped.or(actual.loaded).or(seen).or(planned);
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
        let after_bulk = actual.shaped.or(actual.loaded).unwrap_or(mixed);
        let proof_from = stages.len();
        if half_min > 0.0 && actual.loaded.is_none() {
            stages.push(RiseStage { place_c: kitchen.room_c, minutes: Some(half_min), ..proof_base.clone() });
        }
        let mut proof = if actual.shaped.is_some() || proof_stage == 0 {
            let planned = proof_laid.filter(|_| !open.1).map(|l| later(after_bulk, l.minutes()));
            let waited = actual.not_yet.map(|at| later(at, 10.0));
            let end = actual.loaded.or(planned.map(|p| waited.map_or(p, |w| p.max(w))));
            segments(RiseKind::Proof, ask.proof, proof_laid, after_bulk, end, actual, &proof_base)
        } else if let (Some(l), None) = (proof_laid, actual.loaded) {
            let last = l.stands.len().saturating_sub(1);
            let of = |(i, s): (usize, &super::Stand)| RiseStage {
                place_c: s.place_c,
                minutes: (!open.1 || i < last).then(|| s.minutes.max(0.1)),
                ..proof_base.clone()
            };
            l.stands.iter().enumerate().map(of).collect()
        } else {
            vec![RiseStage { place_c: ask.proof.place_c, minutes: actual.loaded.map(|_| 0.1), ..proof_base.clone() }]
        };
        if let (Some(seen), Some(shaped), Some(last)) =
            (actual.ripe, actual.shaped.or((proof_stage == 0).then_some(mixed)), proof.last_mut())
            && seen > shaped
            && actual.loaded.is_none()
        {
            let before: f64 = proof_min_before_last(shaped, actual, proof_laid);
            last.minutes = Some((minutes_between(shaped, seen) - before).max(0.1));
        }
        if rests && actual.loaded.is_none() {
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
        } else if !open.1 && actual.loaded.is_none() && drifts(proof_laid, proof_from, EventKind::ProofRipe) {
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
    let mut load = actual.loaded.unwrap_or_else(|| later(mixed, forecast.end.min));
    if let Some(at) = actual.not_yet.filter(|_| actual.loaded.is_none()) {
        load = load.max(later(at, 10.0));
    }
    let (loads, pitch) = laid.map_or((1, 0.0), |l| l.loads);
    let all_loads = f64::from(loads.saturating_sub(1)) * pitch;
    let out = actual.out.unwrap_or_else(|| later(load, all_loads + oven.minutes));
    let slice = oven.slice_min;
    let ready_at = later(out, slice);
    let ripe = forecast.events.iter().rev().find(|e| e.kind == EventKind::ProofRipe && !e.ahead);
    let (load_low, load_high) = match (actual.loaded, ripe) {
        (Some(at), _) => (Some(at), Some(at)),
        (None, _) if rests => (Some(load), Some(load)),
        (None, _) if proof_laid.is_some() && !open.1 => {
            (proof_laid.map(|l| later(load, -l.early_min)), proof_laid.map(|l| later(load, l.late_min)))
        }
        (None, Some(e)) => (e.min_low.map(|m| later(mixed, m)), e.min_high.map(|m| later(mixed, m))),
        (None, None) => (Some(load), Some(load)),
    };
    let through = |at: Option<Timestamp>, m: f64| match actual.out {
        Some(out) => Some(later(out, slice)),
        None => at.map(|at| later(at, all_loads + m + slice)),
    };
    let (ready_low, ready_high) = (through(load_low, oven.minutes_low), through(load_high, oven.minutes_high));
    let view = Steps {
        ask,
        analysis: &analysis,
        bake: &bake,
        oven: &oven,
        forecast: &forecast,
        tables,
        mixed,
        load,
        load_low,
        load_high,
        proof_stage,
        bulk_end: later(mixed, forecast.stage_starts.get(proof_stage).map_or(forecast.end.min, |m| m - half_min)),
        bulk_slack: bulk_laid.filter(|_| !open.0),
        kitchen,
    };
    let steps = view.all(actual, out, ready_at, ready_low, ready_high);
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
    Ok(Course { mixed, proof_stage, load, stays, steps, oven, ready_at, ready_low, ready_high, forecast })
}

struct Steps<'a> {
    ask: &'a PlanAsk,
    analysis: &'a Analysis<'a>,
    bake: &'a Bake,
    oven: &'a OvenPlan,
    forecast: &'a Forecast,
    tables: &'a Tables,
    mixed: Timestamp,
    load: Timestamp,
    load_low: Option<Timestamp>,
    load_high: Option<Timestamp>,
    proof_stage: usize,
    /// When the first rise ends.
    bulk_end: Timestamp,
    /// How long its end may wait, where that is planned.
    bulk_slack: Option<&'a LaidRise>,
    kitchen: &'a Kitchen,
}

impl Steps<'_> {
    fn step(&self, kind: StepKind, start: Timestamp, minutes: f64, place: &str, instruction: String) -> PlanStep {
        let style = self.analysis.style.id.word();
        let rise = if kind == StepKind::Bulk { self.ask.bulk.unwrap_or(self.ask.proof) } else { self.ask.proof };
        let row = self.tables.ferment.styles.get(style);
        let ratio = row.and_then(|r| match (kind, rise.pace) {
            (StepKind::Bulk, crate::ferment::Pace::Quick) => r.quick.bulk_ratio,
            (StepKind::Bulk, crate::ferment::Pace::Patient) => r.patient.bulk_ratio,
            (StepKind::Bulk, crate::ferment::Pace::Usual) => r.bulk_ratio,
            _ => Some(r.proof_ratio),
        });
        let sign = self.tables.signs.of(kind, style, rise.pace, ratio.unwrap_or(2.0));
        let hands = if kind.waits() { 0.0 } else { minutes };
        PlanStep {
            kind,
            start,
            end: later(start, minutes),
            low: None,
            high: None,
            hands_on_min: hands,
            place: place.to_owned(),
            sign: sign.right,
            under: sign.under,
            over: sign.over,
            instruction,
        }
    }

    fn all(
        &self,
        actual: &Actual,
        out: Timestamp,
        ready_at: Timestamp,
        ready_low: Option<Timestamp>,
        ready_high: Option<Timestamp>,
    ) -> Vec<PlanStep> {
        let mut steps = Vec::new();
        let start = actual.mixed.map_or(self.ask.start, |m| later(m, -self.ask.mix_min));
        let laid = self.ask.laid.as_deref();
        if let Some(l) = laid {
            steps.extend(l.before.iter().cloned());
        }
        let mut mix = self.step(StepKind::Mix, start, self.ask.mix_min, "bench", self.mixing());
        mix.hands_on_min = laid.map_or(self.ask.mix_min, |l| l.mix_hands_min);
        steps.push(mix);
        let shape_min = laid.map_or(SHAPE_MIN, |l| l.shape_min.0);
        let shape_step = |at: Timestamp| {
            let mut shape = self.step(StepKind::Shape, at, shape_min, "bench", self.shaping());
            shape.hands_on_min = laid.map_or(shape_min, |l| l.shape_min.1);
            shape
        };
        let proof_start = if laid.is_some_and(|l| l.family == WayFamily::Rest) {
            self.rests(&mut steps)
        } else if self.proof_stage > 0 {
            let bulk = self.ask.bulk.unwrap_or(self.ask.proof);
            let end = self.bulk_end;
            let end_min = minutes_between(self.mixed, end);
            let planned = self.ask.fold_minutes().into_iter().skip(actual.folds.len()).map(|m| later(self.mixed, m));
            let folds = actual.folds.iter().copied().chain(planned).filter(|at| *at < end);
            let mut wait = self.step(
                StepKind::Bulk,
                self.mixed,
                end_min,
                bulk.place.name(),
                format!("Cover it and leave it in the {}, {}°.", bulk.place.name(), show_degrees(bulk.place_c)),
            );
            let ripe = self.forecast.events.iter().find(|e| e.kind == EventKind::BulkRipe && !e.ahead);
            let mut shape = shape_step(end);
            if let (Some(l), None) = (self.bulk_slack, actual.shaped) {
                (shape.low, shape.high) = (Some(later(end, -l.early_min)), Some(later(end, l.late_min)));
            } else if actual.shaped.is_none() {
                shape.low = ripe.and_then(|e| e.min_low).map(|m| later(self.mixed, m));
                shape.high = ripe.and_then(|e| e.min_high).map(|m| later(self.mixed, m));
            }
            (wait.low, wait.high) = (shape.low, shape.high);
            steps.push(wait);
            for (i, at) in folds.enumerate() {
                steps.push(self.step(
                    StepKind::Fold,
                    at,
                    3.0,
                    bulk.place.name(),
                    format!(
                        "{} time. Wet hand under the far edge, lift till it resists, lay it over; quarter turn, four times.",
                        ordinal(i)
                    ),
                ));
            }
            steps.push(shape);
            if let Some(l) = laid.and_then(|l| l.bulk.as_ref()) {
                self.moves(l, self.mixed, &mut steps);
            }
            // A fitted proof begins when the last piece is shaped.
            if laid.is_some() && actual.shaped.is_none() { later(end, shape_min) } else { end }
        } else {
            if laid.is_none() {
                steps.push(shape_step(self.mixed));
            }
            self.mixed
        };
        let place = self.ask.proof.place;
        if let Some(l) = laid.filter(|l| l.family != WayFamily::Rest) {
            self.moves(&l.proof, proof_start, &mut steps);
        }
        let mut proof = self.step(
            StepKind::Proof,
            proof_start,
            minutes_between(proof_start, self.load).max(0.0),
            place.name(),
            format!("Cover it; in the {}, {}°.", place.name(), show_degrees(self.ask.proof.place_c)),
        );
        (proof.low, proof.high) = (self.load_low, self.load_high);
        if laid.is_some_and(|l| l.family == WayFamily::Rest) {
            proof.kind = StepKind::BenchRest;
        }
        steps.push(proof);
        let lead = self.oven.preheat_min;
        let thing = match self.bake.vessel {
            Vessel::Pot => " with the pot inside",
            Vessel::Stone => " with the stone inside",
            Vessel::Steel => " with the steel inside",
            Vessel::Cover => " with stone and cover inside",
            Vessel::Sheet | Vessel::PanMetal | Vessel::PanGlass | Vessel::PanSilicone | Vessel::Dish | Vessel::MuffinTin => "",
        };
        let mut on = self.step(
            StepKind::OvenOn,
            later(self.load, -lead),
            lead,
            "oven",
            format!("Set {} °C{}{thing}.", show(self.oven.set_c, 0), if self.kitchen.oven_fan { ", fan" } else { "" }),
        );
        on.hands_on_min = 1.0;
        (on.low, on.high) = (self.load_low.map(|l| later(l, -lead)), None);
        steps.push(on);
        let mut load = self.step(StepKind::Load, self.load, 3.0, "oven", self.loading());
        (load.low, load.high) = (self.load_low, self.load_high);
        if let Some(l) = laid {
            load.hands_on_min = l.load_min;
            load.end = later(self.load, l.load_min);
            if l.glaze_min > 0.0 {
                steps.push(self.step(
                    StepKind::Finish,
                    later(self.load, -l.glaze_min),
                    l.glaze_min,
                    "bench",
                    "A thin coat, none on the tray.".into(),
                ));
            }
            for n in 1..l.loads.0 {
                let at = later(self.load, f64::from(n) * l.loads.1);
                let mut next = self.step(StepKind::Load, at, l.load_min, "oven", format!("Load {}: the tin or tray that waited.", n + 1));
                next.hands_on_min = l.load_min;
                steps.push(self.step(StepKind::Out, later(at, -10.0), 2.0, "rack", format!("Load {n} out. The oven heats up again.")));
                steps.push(next);
            }
        }
        steps.push(load);
        let mut busy_until = laid.map_or(0.0, |l| l.load_min);
        for e in &self.oven.acts {
            // While the last tray is still being loaded nothing is turned.
            let at_min = e.at_min.max(busy_until).min(e.at_min.max(self.oven.minutes - 1.0));
            if at_min < busy_until {
                continue;
            }
            busy_until = at_min + if laid.is_some() { 1.0 } else { 0.0 };
            let words = match e.kind {
                StepKind::SteamOff => "Open the door at arm's length, take the water out.".to_owned(),
                StepKind::LidOff => "Lid away from you, two dry mitts; leave a mitt on it.".to_owned(),
                StepKind::Turn => "Back to front.".to_owned(),
                StepKind::Foil => "Only if it is golden already.".to_owned(),
                _ => format!("Probe the thickest place: {} °C is done.", show(self.oven.core_c, 0)),
            };
            let mut step = self.step(e.kind, later(self.load, at_min), 1.0, "oven", words);
            if self.load_low != self.load_high {
                (step.low, step.high) = (self.load_low.map(|l| later(l, at_min)), self.load_high.map(|h| later(h, at_min)));
            }
            steps.push(step);
        }
        let mut done = self.step(StepKind::Out, out, 2.0, "rack", self.cooling());
        if actual.out.is_none() {
            done.low = self.load_low.map(|l| later(l, self.oven.minutes_low));
            done.high = self.load_high.map(|h| later(h, self.oven.minutes_high));
        }
        steps.push(done);
        let mut ready = self.step(StepKind::Ready, ready_at, 0.0, "rack", "Cut with a long blade, no pressure.".into());
        (ready.low, ready.high) = (ready_low, ready_high);
        steps.push(ready);
        steps.sort_by_key(|s| s.start);
        steps
    }

    /// Carrying the dough from one planned place to the next.
    fn moves(&self, rise: &LaidRise, from: Timestamp, steps: &mut Vec<PlanStep>) {
        for (at, place, c) in rise.from(from).into_iter().skip(1) {
            let words = format!("Into the {}, {}°.", place.name(), show_degrees(c));
            steps.push(self.step(StepKind::Move, at, f64::from(super::search::way::MOVE_MIN), place.name(), words));
        }
    }

    /// A dough without yeast: it rests, is shaped, and rests again.
    fn rests(&self, steps: &mut Vec<PlanStep>) -> Timestamp {
        let Some(l) = self.ask.laid.as_deref() else { return self.mixed };
        let first = l.bulk.as_ref().map_or(0.0, LaidRise::minutes);
        let at = later(self.mixed, first);
        steps.push(self.step(StepKind::BenchRest, self.mixed, first, "bench", "Cover it, so that it does not dry.".into()));
        let mut shape = self.step(StepKind::Shape, at, l.shape_min.0, "bench", self.shaping());
        shape.hands_on_min = l.shape_min.1;
        steps.push(shape);
        later(at, l.shape_min.0)
    }

    fn has(&self, test: impl Fn(&Line) -> bool) -> bool {
        self.analysis.formula.lines.iter().any(|l| l.in_dough() && test(l))
    }

    fn mixing(&self) -> String {
        let mut words = vec!["Weigh out, tick each line, the salt above all."];
        if self.has(|l| l.ingredient.kind == "yeast-active-dry") {
            words.push("Wake the yeast in a little of the water at 38–43° until it foams.");
        }
        if self.has(|l| l.ingredient.family == Family::Fat && l.stage == crate::formula::Stage::Late)
            && self.analysis.fat_added_pct.likely >= 8.0
        {
            words.push("Butter late, spoon by spoon, once it stretches.");
        }
        words.push("Flour is raw: do not taste the dough, wash hands and bowls.");
        words.join(" ")
    }

    fn shaping(&self) -> String {
        let (n, g) = (self.bake.pieces, show(self.bake.piece_g, 0));
        let shape = match self.bake.shape {
            crate::oven::Shape::Ball if self.bake.piece_g < 200.0 => "Roll under a cupped hand.",
            crate::oven::Shape::Ball => "Round it, rest 15 min, round it tight.",
            crate::oven::Shape::Batard => "Round it, rest, fold and roll to an oval, seam down.",
            crate::oven::Shape::Baton => "Roll out long from the middle.",
            crate::oven::Shape::Ring => "Roll a strand, close the ring with a wet finger.",
            crate::oven::Shape::Braid => "Roll even strands, braid from the middle, tuck the ends.",
            crate::oven::Shape::Flat => "Press out with wet fingers.",
            crate::oven::Shape::Pan | crate::oven::Shape::Tall => "Press out, roll up no wider than the tin, seam down.",
            crate::oven::Shape::Muffin => "Round pieces into the cups.",
        };
        if n > 1 { format!("{n} × {g} g. {shape}") } else { format!("One piece, {g} g. {shape}") }
    }

    fn loading(&self) -> String {
        let mut words = Vec::new();
        let glaze = self.bake.glaze;
        if glaze != crate::oven::Glaze::None {
            words.push(match glaze {
                crate::oven::Glaze::Soda => "Dip 20–30 s, drain, salt.",
                _ => "Brush it.",
            });
        }
        if self.oven.crust == Some(Crust::Crisp) {
            words.push("Cut it with a sharp blade.");
        }
        words.push(if self.bake.vessel.covers() {
            "Lower it in on paper, lid on; the pot looks cold and is not."
        } else if self.oven.steam {
            "Load, water into a hot metal tray, stand aside from the steam."
        } else {
            "Load, middle shelf."
        });
        words.join(" ")
    }

    fn cooling(&self) -> String {
        if self.oven.crust == Some(Crust::Soft) {
            "Turn out, under a cloth for a soft crust.".into()
        } else {
            "Onto a rack at once for a crisp crust.".into()
        }
    }
}

const fn ordinal(i: usize) -> &'static str {
    match i {
        0 => "First",
        1 => "Second",
        2 => "Third",
        3 => "Fourth",
        _ => "Another",
    }
}
