//! The rise under way: how far it has come by now, and what is fixed of the dough.

use super::super::{
    OvenPlan, later, minutes_between,
    rises::{Ran, Rises, running, stands},
    search::{
        curve::{LONGEST_MIN, RiseNeed},
        dough::{DoughFacts, aims, fridge_chills},
        families::{Longest, longest, works_of},
        hours::Minute,
        schedule::{RiseOf, Schedule, ScheduleFamily, Works},
        solve::{Begun, Rules},
    },
    steps::SHAPE_MIN,
};
use super::OnTheDay;
use crate::{
    ferment::{Dough, Pace, RiseKind, Row},
    formula::{Analysis, WARM_LIMIT_MIN, bake_at},
    input::InputErrors,
    kitchen::{Minutes, Place, Stay},
    knead::Folds,
    oven::{Bake, USUAL_DOUGH_C},
    plan::{Mixing, oven::COLD_DOUGH_C, search::dose::added},
};

/// Warmths closer than this are one, K.
const SAME_K: f64 = 0.05;
/// The shortest a rise can be run, minutes.
const MOMENT_MIN: f64 = 0.1;
/// A dough said not to be ripe has at least so much more of its time to go.
const NOT_YET: f64 = 1.02;

/// The places of the household, as warm as they were measured; a move alone measures nothing.
fn places(day: &OnTheDay<'_>) -> Vec<(Place, f64)> {
    let mut places = super::FitAsk::soon(day.now, day.kitchen).places;
    let told = |at, place| day.kitchen.warmth_from(place, at);
    for s in &day.actual.places {
        if told(s.span, s.place).is_some_and(|told| (told - s.celsius).abs() > SAME_K) {
            places.iter_mut().filter(|p| p.0 == s.place).for_each(|p| p.1 = s.celsius);
        }
    }
    places
}

/// The rise that runs, and what is fixed of its dough.
#[derive(Debug, Clone)]
pub(super) struct UnderWay {
    pub(super) begun: Begun,
    /// Where it stood until now, and where it stands.
    pub(super) past: Vec<Stay<Minutes>>,
    pub(super) here: (Place, f64),
    pub(super) dough: Dough,
    pub(super) perishable: bool,
    longest: Longest,
    by_hand: bool,
    bake: Bake,
    rate: f64,
    log_sigma: Option<f64>,
}

impl UnderWay {
    /// The rise that runs now; none before the mix, once it is loaded, and where nothing rises.
    pub(super) fn of(day: &OnTheDay<'_>, analysis: &Analysis<'_>) -> Result<Option<Self>, InputErrors> {
        let OnTheDay { plan, actual, kitchen, tables, now, .. } = *day;
        if actual.mixed.is_none_or(|m| m > now) || analysis.flour_g.likely <= 0.0 {
            return Ok(None);
        }
        // What was left lying for days is no dough any more.
        if actual.shaped.or(actual.mixed).is_some_and(|at| minutes_between(at, now) > f64::from(LONGEST_MIN)) {
            return Ok(None);
        }
        let ask = plan.ask_now(actual).as_done_by(now, actual);
        let bake = bake_at(analysis, ask.set_c, kitchen, &tables.pantry);
        // Held to now: as if it had been seen ripe this minute. What has just begun has begun a moment ago.
        let begun = actual.shaped.or(actual.mixed).map_or(now, |at| later(at, MOMENT_MIN));
        let held = super::Actual { ripe: Some(now.max(begun)), not_yet: None, ..actual.clone() };
        let rises = Rises::of(analysis, &ask, &bake, &held, kitchen, tables)?;
        if rises.loaded.is_some() || rises.rests {
            return Ok(None);
        }
        let Ran { forecast, proof_stage } = rises.run((true, true))?;
        let (kind, first) = running(actual, proof_stage);
        let last = if kind == RiseKind::Bulk { proof_stage } else { usize::MAX };
        let own = |r: &&Row| (first..last).contains(&r.stage);
        let (Some(start), Some(end)) = (forecast.curve.iter().find(own), forecast.curve.iter().rfind(own)) else { return Ok(None) };
        let Some(ripe) = forecast.event(kind.ripe()) else { return Ok(None) };
        let began_at = if kind == RiseKind::Bulk { rises.mixed } else { ask.proof_began(actual).unwrap_or(rises.mixed) };
        let aged = |at: jiff::Timestamp| {
            let min = minutes_between(rises.mixed, at);
            forecast.curve.iter().filter(own).find(|r| r.min >= min).unwrap_or(end).dough_h - start.dough_h
        };
        let book = ripe.dough_h - start.dough_h;
        let over = forecast.event(kind.over()).map_or(2.0, |e| (e.dough_h - start.dough_h) / book);
        // The sign beats the clock.
        let hours = match (actual.ripe, actual.not_yet) {
            (Some(seen), _) if aged(seen) > 0.0 => aged(seen),
            (_, Some(seen)) => book.max(NOT_YET * aged(seen)),
            _ => book,
        };
        let age_h = end.dough_h - start.dough_h;
        let (lower, upper) = aims(kind, over);
        let rise = if kind == RiseKind::Bulk { RiseOf::Bulk } else { RiseOf::Proof };
        let laid = ask.laid.as_deref();
        let (plan, laid_rise) = if rise == RiseOf::Bulk {
            (ask.bulk.unwrap_or(ask.proof), laid.and_then(|l| l.bulk.as_ref()))
        } else {
            (ask.proof, laid.map(|l| &l.proof))
        };
        let stood = stands(kind, plan, laid_rise, began_at, Some(now), actual);
        let ends = stood.iter().skip(1).map(|s| s.span).chain([now]);
        let past = stood.iter().zip(ends).map(|(s, to)| s.lasting(Minutes { minutes: minutes_between(s.span, to).max(0.0) })).collect();
        let here = stood.last().map_or((plan.place, plan.place_c), |s| (s.place, s.celsius));
        let done = actual.folds.len() + actual.knocks.len();
        let folds = ask.fold_minutes(tables).into_iter().skip(done).map(|m| m - minutes_between(rises.mixed, now)).filter(|m| *m > -30.0);
        let begun = Begun {
            rise,
            need: RiseNeed { hours, lower, upper, over },
            age_h,
            celsius: end.dough_c,
            minutes: whole(minutes_between(began_at, now)),
            warm_min: whole(day.course.warm_until(now)),
            folds: if rise == RiseOf::Bulk { folds.map(|m| whole(m.max(0.0))).collect() } else { Vec::new() },
        };
        let (rate, log_sigma) = rises.own_rate();
        let dough = rises.dough().clone();
        let perishable = analysis.is_perishable();
        let longest = longest(analysis, dough.leaven.is_some(), perishable);
        let by_hand = ask.laid.is_none();
        let found = Self { by_hand, begun, past, here, dough, perishable, longest, bake, rate, log_sigma };
        Ok(Some(if found.ripeness() >= upper { found.riper() } else { found }))
    }

    /// How ripe it is now.
    pub(super) fn ripeness(&self) -> f64 {
        self.begun.age_h / self.begun.need.hours
    }

    /// Whether it is over now.
    pub(super) fn is_over(&self) -> bool {
        self.ripeness() >= self.begun.need.over
    }

    /// The same, let go riper than is liked: until it is over, or, if it is, until the act can be done.
    pub(super) fn riper(&self) -> Self {
        let need = self.begun.need;
        let upper = if self.is_over() { f64::INFINITY } else { need.over };
        Self { begun: Begun { need: RiseNeed { upper, ..need }, ..self.begun.clone() }, ..self.clone() }
    }

    /// What the works that are left take.
    pub(super) fn works(&self, day: &OnTheDay<'_>, analysis: &Analysis<'_>) -> Works {
        let planned = &day.course.oven;
        // A cold loaf bakes at the same setting, only longer.
        let from = |dough_c| {
            let bake = Bake { dough_c, ..self.bake.clone() };
            OvenPlan::of(&bake, Some(planned), &day.tables.oven).unwrap_or_else(|_| planned.clone())
        };
        let (warm, cold) = (from(USUAL_DOUGH_C), from(COLD_DOUGH_C));
        let loads = u32::try_from(day.plan.loads()).unwrap_or(1);
        let places = places(day);
        let works = works_of(analysis, &Mixing::default(), &places, (&warm, &cold), &self.bake, loads);
        // A plan by hand shapes for as long as its course has it.
        let shape = if self.by_hand { (whole(SHAPE_MIN), 0, 0) } else { works.shape };
        // An oven that is lit has come so far.
        let lit = day.actual.lit.map_or(0, |at| whole(minutes_between(at, day.now)));
        Works { shape, preheat: (works.preheat - lit).max(0), ..works }
    }

    /// What is fixed of the dough while the rest is looked for.
    pub(super) fn facts(&self, day: &OnTheDay<'_>, analysis: &Analysis<'_>) -> DoughFacts {
        let ask = super::FitAsk::soon(day.now, day.kitchen).with_nights(day.kitchen);
        let pace = |r: Option<crate::plan::RisePlan>| r.map_or(Pace::Usual, |r| r.pace);
        let places = places(day);
        let dough_g = analysis.dough_g.likely.clamp(5.0, 20_000.0);
        DoughFacts {
            fridge_chills: fridge_chills(&places, self.perishable, dough_g, &day.tables.ferment),
            jar: None,
            style: analysis.style.id.word().to_owned(),
            preferment: added(&self.dough),
            dough: self.dough.clone(),
            dough_g,
            piece_g: self.bake.piece_g.clamp(5.0, 20_000.0),
            proof_vessel: self.bake.rises_in(),
            perishable: self.perishable,
            // What raises it is in it: nothing is dosed any more.
            raising: None,
            leaven: None,
            cold_days: 0.0,
            reach_c: (f64::NEG_INFINITY, f64::INFINITY),
            folds: Folds::default(),
            paces: (pace(day.plan.ask.bulk), pace(Some(day.plan.ask.proof))),
            places,
            nights: ask.night,
            anchor: day.now,
            altitude_m: day.kitchen.altitude_m,
            rate: self.rate,
            log_sigma: self.log_sigma,
        }
    }

    /// What the search holds to.
    pub(super) fn rules(&self, schedules: Vec<Schedule>, works: Works) -> Rules {
        let (mut longest_warm, longest_cold) = self.longest;
        if self.is_over() {
            // Nothing is lost by waiting for the oven any more.
            longest_warm = (LONGEST_MIN, LONGEST_MIN + self.begun.minutes, LONGEST_MIN + self.begun.minutes);
        }
        Rules {
            schedules: schedules.into_iter().map(|w| w.out_before_heating(works.preheat)).collect(),
            works,
            least: (0, 0),
            bands: Vec::new(),
            half_shape: true,
            longest_warm,
            longest_cold,
            warm_limit: self.perishable.then_some(whole(WARM_LIMIT_MIN)).filter(|limit| *limit > self.begun.warm_min),
            folds: (Folds::default(), 0),
            wanted_flavour: 0.5,
            early_share: 0.0,
            dose_parts: (1.0, 0.0),
            dose_counts: |_: ScheduleFamily| false,
            move_cost: 0.0,
            one_feed_cost: 0.0,
            stales: false,
            begun: Some(self.begun.clone()),
        }
    }
}

fn whole(minutes: f64) -> Minute {
    #[allow(clippy::cast_possible_truncation, reason = "minutes of a bake")]
    let whole = minutes.round() as Minute;
    whole
}
