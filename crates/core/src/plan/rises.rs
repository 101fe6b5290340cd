//! The rises of a bake as the model runs them: as planned, or as they went so far.

use jiff::Timestamp;

use super::{
    Actual, FittedRise, PlanAsk, RisePlan, Seen, later,
    loads::nth,
    minutes_between,
    search::curve::LONGEST_MIN,
    seen::{Aged, OwnRate, own_rate},
    steps::SHAPE_MIN,
};
use crate::{
    Tables,
    ferment::{Dough, EventKind, FOLD, Forecast, KNOCK_BACK, Rise, RiseKind, RiseStage, lay_acts, simulate},
    formula::{Analysis, CHILLED_C, dough_of},
    input::InputErrors,
    kitchen::{Kitchen, Minutes, Place, Stay},
    oven::Bake,
};

/// A dough this far off its planned ripeness, in ln, goes by its own time.
const DRIFT: f64 = 0.1;
/// A dough said not to be ripe is asked for again after so long, minutes.
pub(super) const ASK_AGAIN_MIN: f64 = 10.0;
/// The second rest of a dough without yeast, where nothing is planned, minutes.
const REST_MIN: f64 = 15.0;

/// What the rises of a bake are made from.
pub(super) struct Rises<'a> {
    ask: &'a PlanAsk,
    analysis: &'a Analysis<'a>,
    actual: &'a Actual,
    kitchen: &'a Kitchen,
    tables: &'a Tables,
    dough: Dough,
    first_c: Option<f64>,
    proof_base: RiseStage,
    shape_min: f64,
    /// What its signs tell of its rate.
    own: Option<OwnRate>,
    /// Until when the running rise goes on, where its act is overdue.
    held: Option<Timestamp>,
    /// When the dough's clock starts.
    pub(super) mixed: Timestamp,
    /// When the first load went in.
    pub(super) loaded: Option<Timestamp>,
    /// Half the shaping, where it counts as proof: in a plan to the minute.
    pub(super) half_min: f64,
    /// Whether nothing in it rises.
    pub(super) rests: bool,
    /// Minutes of the proof after which it leaves the oven, which is to be heated.
    pub(super) out_of_oven: Option<f64>,
}

/// Rises as they ran.
pub(super) struct Ran {
    pub(super) forecast: Forecast,
    /// The first stage of the proof.
    pub(super) proof_stage: usize,
}

impl<'a> Rises<'a> {
    pub(super) fn of(
        analysis: &'a Analysis<'a>,
        ask: &'a PlanAsk,
        bake: &Bake,
        actual: &'a Actual,
        kitchen: &'a Kitchen,
        tables: &'a Tables,
    ) -> Result<Self, InputErrors> {
        let laid = ask.laid.as_deref();
        // What is not mixed yet is mixed now at the soonest.
        let planned = ask.mixed_at(&actual.bowl);
        let mixed = actual.mixed.unwrap_or_else(|| actual.now.map_or(planned, |now| planned.max(now)));
        let taken = actual.dough_c.iter().filter(|(at, _)| minutes_between(mixed, *at).abs() <= 20.0).min_by_key(|r| r.0);
        let shape_min = laid.map_or(SHAPE_MIN, |l| l.shape_min.0);
        let to_the_minute = ask.bulk.is_some() && laid.is_some_and(|l| l.bulk.is_some()) && actual.shaped.is_none();
        let mut dough = dough_of(analysis, &tables.pantry, laid.and_then(|l| l.leaven));
        if let Some(l) = laid.filter(|l| l.preferment_yeast_pct > 0.0) {
            analysis.leave_preferment_out(&mut dough, &tables.pantry);
            dough.preferment_yeast_pct = l.preferment_yeast_pct;
        }
        let mut rises = Self {
            own: None,
            held: None,
            out_of_oven: None,
            first_c: taken.map(|r| r.1),
            proof_base: RiseStage {
                pace: Some(ask.proof.pace),
                vessel: Some(bake.rises_in().to_owned()),
                ..RiseStage::until_ripe(RiseKind::Proof, 24.0, bake.piece_g.clamp(5.0, 20_000.0))
            },
            rests: dough.yeast.is_none() && dough.leaven.is_none() && laid.is_some(),
            half_min: if to_the_minute { 0.5 * shape_min } else { 0.0 },
            loaded: nth(&actual.loads, 0, ask.loads()),
            ask,
            analysis,
            actual,
            kitchen,
            tables,
            dough,
            shape_min,
            mixed,
        };
        rises.own = rises.by_its_signs()?;
        Ok(rises)
    }

    /// The rate of this bake by the looks at its rises.
    fn by_its_signs(&self) -> Result<Option<OwnRate>, InputErrors> {
        if self.actual.seen.is_empty() || self.rests {
            return Ok(None);
        }
        let Ran { forecast, proof_stage } = self.run((true, true))?;
        let sigma = forecast.rises.iter().map(|r| r.1).fold(f64::INFINITY, f64::min);
        let aged = |seen: &Seen| {
            let first = if seen.kind == RiseKind::Proof { proof_stage } else { 0 };
            let start = *forecast.stage_starts.get(first)?;
            let min = minutes_between(self.mixed, seen.at);
            let hours = |at: f64| forecast.curve.iter().find(|r| r.min >= at).or(forecast.curve.last()).map(|r| r.dough_h);
            let from = forecast.curve.iter().find(|r| r.min >= start && r.stage >= first)?.dough_h;
            let of = |kind: EventKind| forecast.event(kind).map(|e| e.dough_h - from);
            let (hours, ripe) = (hours(min)? - from, of(seen.kind.ripe())?);
            Some(Aged { look: seen.look, hours, ripe, over: of(seen.kind.over()).unwrap_or(2.0 * ripe) })
        };
        Ok(own_rate(&self.actual.seen.iter().filter_map(aged).collect::<Vec<_>>(), sigma))
    }

    /// Whether the act of the running rise is overdue.
    pub(super) const fn is_held(&self) -> bool {
        self.held.is_some()
    }

    /// What is mixed, with the leaven and the yeast of a preferment as they were then.
    pub(super) const fn dough(&self) -> &Dough {
        &self.dough
    }

    /// How fast it runs, times the book, and the spread of ln(rate) where its signs tell it better.
    pub(super) fn own_rate(&self) -> (f64, Option<f64>) {
        self.own.map_or((1.0, None), |o| (o.rate, Some(o.log_sigma)))
    }

    fn dough_g(&self) -> f64 {
        self.analysis.dough_g.likely.clamp(5.0, 20_000.0)
    }

    fn laid(&self) -> (Option<&'a FittedRise>, Option<&'a FittedRise>) {
        let ask: &'a PlanAsk = self.ask;
        let laid = ask.laid.as_deref();
        (laid.and_then(|l| l.bulk.as_ref()), laid.map(|l| &l.proof))
    }

    /// The first rise, to where it ended, is planned to end or is ripe; nothing in a dough without one.
    fn bulk(&self, open: bool) -> Vec<RiseStage> {
        let (actual, mixed) = (self.actual, self.mixed);
        let row = self.tables.ferment.styles.get(self.analysis.style.id.word());
        let Some(plan) = self.ask.bulk.filter(|_| row.is_some_and(|r| r.bulk_ratio.is_some())) else { return Vec::new() };
        let base = RiseStage {
            pace: Some(plan.pace),
            vessel: Some("bowl".to_owned()),
            ..RiseStage::until_ripe(RiseKind::Bulk, 24.0, self.dough_g())
        };
        let laid = self.laid().0;
        let seen = actual.ripe.filter(|at| actual.shaped.is_none() && self.loaded.is_none() && *at > mixed);
        let planned = laid.filter(|_| !open).map(|l| later(mixed, l.minutes()));
        let waited = actual.not_yet.filter(|_| actual.shaped.is_none()).map(|at| later(at, ASK_AGAIN_MIN));
        let planned = planned.map(|p| waited.map_or(p, |w| p.max(w)));
        let end = actual.shaped.or(self.loaded).or(self.held).or(seen).or(planned);
        let stands = stands(RiseKind::Bulk, plan, laid, mixed, end, actual);
        let mut stages = segments(&stands, end, &actual.dough_c, &base);
        let in_fridge = |c: f64| self.ask.laid.is_some() && self.analysis.is_perishable() && c < CHILLED_C;
        for stage in stages.iter_mut().filter(|s| in_fridge(s.place_c)) {
            stage.vessel = Some("tray".to_owned());
        }
        let act = if self.analysis.is_knocked_back(&self.tables.ferment) { KNOCK_BACK } else { FOLD };
        let noted = |at: &[Timestamp], act| at.iter().map(|at| (minutes_between(mixed, *at), act)).collect::<Vec<_>>();
        let done = [noted(&actual.folds, FOLD), noted(&actual.knocks, KNOCK_BACK)].concat();
        let planned = self.ask.fold_minutes(self.tables).into_iter().skip(done.len()).map(|m| (m, act));
        lay_acts(stages.iter_mut(), done.iter().copied().chain(planned).collect());
        stages
    }

    /// The proof from the shaping on, or from the mix in a dough without a first rise.
    fn proof(&self, has_bulk: bool, open: bool) -> Vec<RiseStage> {
        let (actual, loaded) = (self.actual, self.loaded);
        let laid = self.laid().1;
        // Shaped at once it proves from the mix on.
        let began = if has_bulk { actual.shaped } else { Some(self.mixed) };
        let after_bulk = began.or(loaded).unwrap_or(self.mixed);
        let mut proof = if began.is_some() {
            let planned = laid.filter(|_| !open).map(|l| later(after_bulk, l.minutes()));
            let waited = actual.not_yet.map(|at| later(at, ASK_AGAIN_MIN));
            let end = loaded.or(self.held).or(planned.map(|p| waited.map_or(p, |w| p.max(w))));
            let mut stands = stands(RiseKind::Proof, self.ask.proof, laid, after_bulk, end, actual);
            if let Some(m) = self.out_of_oven {
                leave_oven(&mut stands, later(after_bulk, m), end, self.kitchen.room_c);
            }
            segments(&stands, end, &actual.dough_c, &self.proof_base)
        } else if let (Some(l), None) = (laid, loaded) {
            let last = l.stands.len().saturating_sub(1);
            let of = |(i, s): (usize, &Stay<Minutes>)| RiseStage {
                place_c: s.celsius,
                minutes: (!open || i < last).then(|| s.span.minutes.max(0.1)),
                ..self.proof_base.clone()
            };
            l.stands.iter().enumerate().map(of).collect()
        } else if let (Some(minutes), None) = (self.out_of_oven, loaded) {
            let inside = RiseStage { place_c: self.ask.proof.place_c, minutes: Some(minutes.max(0.1)), ..self.proof_base.clone() };
            vec![inside, RiseStage { place_c: self.kitchen.room_c, minutes: None, ..self.proof_base.clone() }]
        } else {
            vec![RiseStage { place_c: self.ask.proof.place_c, minutes: loaded.map(|_| 0.1), ..self.proof_base.clone() }]
        };
        if let (Some(seen), Some(shaped), Some(last)) = (actual.ripe, began, proof.last_mut())
            && seen > shaped
            && loaded.is_none()
            && self.held.is_none()
        {
            let before: f64 = proof_min_before_last(shaped, actual, laid);
            last.minutes = Some((minutes_between(shaped, seen) - before).max(0.1));
        }
        proof
    }

    /// Without yeast nothing rises: it rests, is shaped, rests again.
    fn rest(&self) -> Vec<RiseStage> {
        let (first, second) = self.laid();
        let still = |minutes: f64| RiseStage { place_c: self.kitchen.room_c, minutes: Some(minutes.max(0.1)), ..self.proof_base.clone() };
        let first = still(first.map_or(0.0, FittedRise::minutes));
        vec![first, still(self.shape_min), still(second.map_or(REST_MIN, FittedRise::minutes))]
    }

    /// Runs them; an open rise goes on until it is ripe, whatever was planned.
    pub(super) fn run(&self, open: (bool, bool)) -> Result<Ran, InputErrors> {
        let mut stages = self.bulk(open.0);
        let proof_stage = stages.len();
        if self.half_min > 0.0 && self.loaded.is_none() {
            let place_c = self.ask.laid.as_deref().and_then(|l| l.shape_c).unwrap_or(self.kitchen.room_c);
            stages.push(RiseStage { place_c, minutes: Some(self.half_min), ..self.proof_base.clone() });
        }
        let rests = self.rests && self.loaded.is_none();
        stages.extend(if rests { self.rest() } else { self.proof(proof_stage > 0, open.1) });
        let rise = Rise {
            style: self.analysis.style.id.word().to_owned(),
            dough: self.dough.clone(),
            start_c: self.first_c.unwrap_or(self.ask.mix_c),
            stages,
            rate: self.own.map_or(1.0, |o| o.rate),
            log_sigma: self.own.map(|o| o.log_sigma),
        };
        let k = self.tables.ferment.at_altitude(self.kitchen.altitude_m);
        let k = k.as_ref();
        let assumed = rise.assume(self.dough_g(), k)?;
        let forecast = if self.rests { Forecast::at_rest(&assumed, k) } else { simulate(&assumed, k)? };
        Ok(Ran { forecast, proof_stage })
    }

    /// When the running rise is over and its act not done: then it stands on until now.
    fn overdue(&self, ran: &Ran) -> Option<Timestamp> {
        const MOMENT_MIN: f64 = 0.5;
        let now = self.actual.now.filter(|now| self.actual.mixed.is_some_and(|m| m < *now))?;
        let bulk = running(self.actual, ran.proof_stage).0 == RiseKind::Bulk;
        let end = if bulk { ran.forecast.stage_starts.get(ran.proof_stage).copied() } else { None };
        let due = later(self.mixed, end.unwrap_or(ran.forecast.end.min));
        // A bake that was left lying is not followed for ever.
        let until = now.min(later(due, f64::from(LONGEST_MIN)));
        (self.loaded.is_none() && !self.rests && minutes_between(due, until) > MOMENT_MIN).then_some(until)
    }

    /// A fitted rise ends when it was planned to, unless the dough turns out another one: then when it is ripe. Tells
    /// which of them did.
    pub(super) fn as_it_goes(&mut self) -> Result<(Ran, (bool, bool)), InputErrors> {
        let (bulk, proof) = self.laid();
        let a = self.actual;
        let told = !a.dough_c.is_empty() || !a.places.is_empty() || a.shaped.is_some() || !a.seen.is_empty();
        let mut open = (false, false);
        loop {
            let ran = self.run(open)?;
            let drifts = |l: Option<&FittedRise>, first: usize, kind: EventKind| {
                told && l.is_some_and(|l| ran.forecast.ripeness_of_time(first, kind).is_some_and(|r| (r / l.ripeness).ln().abs() > DRIFT))
            };
            if !open.0 && self.actual.shaped.is_none() && ran.proof_stage > 0 && drifts(bulk, 0, EventKind::BulkRipe) {
                open.0 = true;
            } else if !open.1 && self.loaded.is_none() && drifts(proof, ran.proof_stage, EventKind::ProofRipe) {
                open.1 = true;
            } else if let (Some(now), None) = (self.overdue(&ran), self.held) {
                self.held = Some(now);
            } else {
                return Ok((ran, open));
            }
        }
    }
}

/// Which rise runs, and its first stage in the forecast of a course whose proof begins at that stage.
pub(super) const fn running(actual: &Actual, proof_stage: usize) -> (RiseKind, usize) {
    if actual.shaped.is_none() && proof_stage > 0 { (RiseKind::Bulk, 0) } else { (RiseKind::Proof, proof_stage) }
}

/// Where one rise stands between two instants: from when, where, how warm.
pub(super) fn stands(
    kind: RiseKind,
    plan: RisePlan,
    laid: Option<&FittedRise>,
    from: Timestamp,
    to: Option<Timestamp>,
    actual: &Actual,
) -> Vec<Stay<Timestamp>> {
    let mut breaks: Vec<_> = actual.places.iter().copied().filter(|s| s.span > from && to.is_none_or(|to| s.span < to)).collect();
    // What was planned holds where it comes after the last move that was really made.
    let moved = breaks.iter().map(|b| b.span).max();
    let planned = laid.map_or_else(Vec::new, |l| l.from(from));
    let (plan_place, plan_c) = planned.first().map_or((plan.place, plan.place_c), |f| (f.place, f.celsius));
    breaks.extend(planned.into_iter().skip(1).filter(|s| moved.is_none_or(|m| s.span > m) && to.is_none_or(|to| s.span < to)));
    breaks.sort_by_key(|b| b.span);
    let before = actual
        .places
        .iter()
        .filter(|s| s.span <= from && actual.mixed.is_some_and(|m| s.span >= m) && kind == RiseKind::Bulk)
        .max_by_key(|s| s.span);
    let first = before.map_or(Stay::at((plan_place, plan_c), from), |s| s.lasting(from));
    std::iter::once(first).chain(breaks).collect()
}

/// Out of the oven before it is heated, and into the room.
pub(super) fn leave_oven(stands: &mut Vec<Stay<Timestamp>>, out: Timestamp, end: Option<Timestamp>, room_c: f64) {
    if let Some(last) = stands.last().copied().filter(|last| last.place == Place::OvenLight && end.is_none_or(|e| out < e)) {
        stands.push(Stay::at((Place::Room, room_c), out.max(last.span)));
    }
}

/// The stages of a rise through its stands, open at the end if `to` is none, with the temperatures taken in each.
fn segments(stands: &[Stay<Timestamp>], to: Option<Timestamp>, dough_c: &[(Timestamp, f64)], base: &RiseStage) -> Vec<RiseStage> {
    let ends = stands.iter().skip(1).map(|s| Some(s.span)).chain([to]);
    let stage = |(s, end): (&Stay<Timestamp>, Option<Timestamp>)| {
        let start = s.span;
        let here = dough_c.iter().filter(|(at, _)| *at >= start && end.is_none_or(|e| *at < e));
        RiseStage {
            place_c: s.celsius,
            minutes: end.map(|e| minutes_between(start, e).max(0.1)),
            readings: here.map(|(at, c)| (minutes_between(start, *at), *c)).collect(),
            ..base.clone()
        }
    };
    stands.iter().zip(ends).map(stage).collect()
}

/// Minutes from shaping to where the last place of the proof begins.
fn proof_min_before_last(shaped: Timestamp, actual: &Actual, laid: Option<&FittedRise>) -> f64 {
    let moved = actual.places.iter().map(|p| p.span).filter(|at| *at > shaped).max();
    let planned = laid.and_then(|l| l.from(shaped).last().map(|s| s.span));
    moved.max(planned).map_or(0.0, |at| minutes_between(shaped, at))
}
