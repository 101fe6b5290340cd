//! The course of a bake: from the plan alone, or from what has happened so far.

use jiff::Timestamp;

use super::{OvenPlan, PlanAsk, PlanStep, RisePlan, StepKind, later, minutes_between};
use crate::{
    Tables,
    ferment::{Act, EventKind, Forecast, Rise, RiseKind, RiseStage, simulate},
    formula::{Analysis, Formula, Line, dough_of, oven_of},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    measure::show,
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
const FOLD_EVERY_MIN: f64 = 30.0;

/// Where one rise stands between two instants: from when, where, how warm.
fn stands(kind: RiseKind, plan: RisePlan, from: Timestamp, to: Option<Timestamp>, actual: &Actual) -> Vec<(Timestamp, Place, f64)> {
    let mut breaks: Vec<_> = actual.places.iter().copied().filter(|(at, ..)| *at > from && to.is_none_or(|to| *at < to)).collect();
    breaks.sort_by_key(|b| b.0);
    let before = actual
        .places
        .iter()
        .filter(|(at, ..)| *at <= from && actual.mixed.is_some_and(|m| *at >= m) && kind == RiseKind::Bulk)
        .max_by_key(|p| p.0);
    let first = before.map_or((from, plan.place, plan.place_c), |p| (from, p.1, p.2));
    std::iter::once(first).chain(breaks).collect()
}

/// Stages of one rise between two instants, split where the place changed; open at the end if `to` is none.
fn segments(kind: RiseKind, plan: RisePlan, from: Timestamp, to: Option<Timestamp>, actual: &Actual, base: &RiseStage) -> Vec<RiseStage> {
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
    let stands = stands(kind, plan, from, to, actual);
    let ends = stands.iter().skip(1).map(|s| Some(s.0)).chain([to]);
    for ((start, _, c), end) in stands.iter().zip(ends) {
        push(*start, end, *c);
    }
    stages
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
    let mut stages = Vec::new();
    if let Some(plan) = ask.bulk.filter(|_| row.is_some_and(|r| r.bulk_ratio.is_some())) {
        let base = basis(RiseKind::Bulk, dough_g, "bowl", plan.pace);
        let seen = actual.ripe.filter(|at| actual.shaped.is_none() && actual.loaded.is_none() && *at > mixed);
        let end = actual.shaped.or(actual.loaded).or(seen);
        stages = segments(RiseKind::Bulk, plan, mixed, end, actual, &base);
        if let Some(first) = stages.first_mut() {
            let done: Vec<f64> = actual.folds.iter().map(|at| minutes_between(mixed, *at)).collect();
            let planned = (0..ask.folds).map(|i| FOLD_EVERY_MIN * f64::from(i + 1)).skip(done.len());
            let limit = first.minutes.unwrap_or(f64::INFINITY);
            let acts: Vec<Act> = done
                .iter()
                .copied()
                .chain(planned)
                .filter(|m| *m >= 0.0 && *m < limit)
                .map(|at_min| Act { at_min, act: "fold".into() })
                .collect();
            first.acts = Some(acts);
        }
    }
    let proof_stage = stages.len();
    let after_bulk = actual.shaped.or(actual.loaded).unwrap_or(mixed);
    let piece_g = bake.piece_g.clamp(5.0, 20_000.0);
    let rising_in = if bake.vessel.is_pan() {
        "tin"
    } else if piece_g < 200.0 {
        "tray"
    } else {
        "basket"
    };
    let proof_base = basis(RiseKind::Proof, piece_g, rising_in, ask.proof.pace);
    let mut proof = if actual.shaped.is_some() || proof_stage == 0 {
        segments(RiseKind::Proof, ask.proof, after_bulk, actual.loaded, actual, &proof_base)
    } else {
        vec![RiseStage { place_c: ask.proof.place_c, minutes: actual.loaded.map(|_| 0.1), ..proof_base }]
    };
    if let (Some(seen), Some(shaped), Some(last)) = (actual.ripe, actual.shaped.or((proof_stage == 0).then_some(mixed)), proof.last_mut())
        && seen > shaped
        && actual.loaded.is_none()
        && last.minutes.is_none()
    {
        last.minutes = Some(minutes_between(shaped, seen).max(0.1));
    }
    stages.extend(proof);
    let rise = Rise {
        style: style.to_owned(),
        dough: dough_of(&analysis, &tables.pantry, None),
        start_c: first_c.unwrap_or(ask.mix_c),
        stages,
        rate: 1.0,
        log_sigma: None,
    };
    let forecast = simulate(&rise.assume(dough_g, &tables.ferment)?, &tables.ferment)?;
    bake.dough_c = forecast.end.dough_c.clamp(-5.0, 45.0);
    let oven = OvenPlan::of(&bake, oven_before, &tables.oven)?;
    let mut load = actual.loaded.unwrap_or_else(|| later(mixed, forecast.end.min));
    if let Some(at) = actual.not_yet.filter(|_| actual.loaded.is_none()) {
        load = load.max(later(at, 10.0));
    }
    let out = actual.out.unwrap_or_else(|| later(load, oven.minutes));
    let slice = oven.slice_min;
    let ready_at = later(out, slice);
    let ripe = forecast.events.iter().rev().find(|e| e.kind == EventKind::ProofRipe && !e.ahead);
    let (load_low, load_high) = match (actual.loaded, ripe) {
        (Some(at), _) => (Some(at), Some(at)),
        (None, Some(e)) => (e.min_low.map(|m| later(mixed, m)), e.min_high.map(|m| later(mixed, m))),
        (None, None) => (Some(load), Some(load)),
    };
    let through = |at: Option<Timestamp>, m: f64| match actual.out {
        Some(out) => Some(later(out, slice)),
        None => at.map(|at| later(at, m + slice)),
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
        kitchen,
    };
    let steps = view.all(actual, out, ready_at, ready_low, ready_high);
    let shaped = steps.iter().find(|s| s.kind == StepKind::Proof).map_or(load, |s| s.start);
    let mut stays = Vec::new();
    let mut stay = |kind: RiseKind, plan: RisePlan, from: Timestamp, to: Timestamp, known: bool| {
        let none = Actual::default();
        let stands = stands(kind, plan, from, Some(to), if known { actual } else { &none });
        let ends = stands.iter().skip(1).map(|s| s.0).chain([to]);
        stays.extend(stands.iter().zip(ends).map(|((from, place, place_c), to)| Stay {
            from: *from,
            to,
            place: *place,
            place_c: *place_c,
        }));
    };
    if let Some(bulk) = ask.bulk.filter(|_| proof_stage > 0) {
        stay(RiseKind::Bulk, bulk, mixed, shaped, true);
    }
    stay(RiseKind::Proof, ask.proof, shaped, load, actual.shaped.is_some() || proof_stage == 0);
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
        steps.push(self.step(StepKind::Mix, start, self.ask.mix_min, "bench", self.mixing()));
        let bulk_end = if self.proof_stage > 0 {
            let bulk = self.ask.bulk.unwrap_or(self.ask.proof);
            let end_min = self.forecast.stage_starts.get(self.proof_stage).copied().unwrap_or(self.forecast.end.min);
            let end = later(self.mixed, end_min);
            let folds = actual
                .folds
                .iter()
                .copied()
                .chain((0..self.ask.folds).skip(actual.folds.len()).map(|i| later(self.mixed, FOLD_EVERY_MIN * f64::from(i + 1))))
                .filter(|at| *at < end);
            let mut wait = self.step(
                StepKind::Bulk,
                self.mixed,
                end_min,
                bulk.place.name(),
                format!("Cover it and leave it in the {}, {}°.", bulk.place.name(), show(bulk.place_c, 0)),
            );
            let ripe = self.forecast.events.iter().find(|e| e.kind == EventKind::BulkRipe && !e.ahead);
            let mut shape = self.step(StepKind::Shape, end, SHAPE_MIN, "bench", self.shaping());
            if actual.shaped.is_none() {
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
            end
        } else {
            steps.push(self.step(StepKind::Shape, self.mixed, SHAPE_MIN, "bench", self.shaping()));
            self.mixed
        };
        let place = self.ask.proof.place;
        let mut proof = self.step(
            StepKind::Proof,
            bulk_end,
            minutes_between(bulk_end, self.load).max(0.0),
            place.name(),
            format!("Cover it; in the {}, {}°.", place.name(), show(self.ask.proof.place_c, 0)),
        );
        (proof.low, proof.high) = (self.load_low, self.load_high);
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
        steps.push(load);
        for e in &self.oven.acts {
            let words = match e.kind {
                StepKind::SteamOff => "Open the door at arm's length, take the water out.".to_owned(),
                StepKind::LidOff => "Lid away from you, two dry mitts; leave a mitt on it.".to_owned(),
                StepKind::Turn => "Back to front.".to_owned(),
                StepKind::Foil => "Only if it is golden already.".to_owned(),
                _ => format!("Probe the thickest place: {} °C is done.", show(self.oven.core_c, 0)),
            };
            let mut step = self.step(e.kind, later(self.load, e.at_min), 1.0, "oven", words);
            if self.load_low != self.load_high {
                (step.low, step.high) = (self.load_low.map(|l| later(l, e.at_min)), self.load_high.map(|h| later(h, e.at_min)));
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
