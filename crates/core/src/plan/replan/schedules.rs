//! The ways a rise under way can go on in: as planned first, then in other places, then with the fridge as a brake.

use super::{
    super::search::{
        dough::DoughFacts,
        families::{may_be_cold, warm_places},
        hours::Minute,
        schedule::{Leg, RiseOf, Schedule, ScheduleFamily},
    },
    OnTheDay,
    begun::UnderWay,
};
use crate::{
    formula::Analysis,
    kitchen::{Period, Place, Stay},
    plan::minutes_between,
};

/// Minutes a dough is left where it is before it goes into the fridge.
const BEFORE_BULK: [Minute; 8] = [0, 30, 60, 90, 120, 180, 240, 300];
const BEFORE_PROOF: [Minute; 6] = [0, 15, 30, 45, 60, 90];
/// Minutes in the room between the fridge and shaping, and between shaping and the fridge.
const AFTER_COLD_MIN: Minute = 60;
const SHAPED_MIN: Minute = 45;

/// All ways, as planned first.
pub(super) fn all(day: &OnTheDay<'_>, under_way: &UnderWay, analysis: &Analysis<'_>, facts: &DoughFacts) -> Vec<Schedule> {
    let here = under_way.here.0;
    let warm = warm_places(analysis, &facts.places, true);
    let cold = may_be_cold(analysis.style.id) && facts.fridge_chills;
    let carried = |after: Minute, place: Place| vec![Leg::fixed(here, after), Leg::open(place)];
    let elsewhere: Vec<Vec<Leg>> = warm.iter().filter(|p| **p != here).map(|p| carried(0, *p)).collect();
    let bulk = under_way.begun.rise == RiseOf::Bulk;
    let mut first = vec![left(&day.course.stays, day, under_way, bulk), vec![Leg::open(here)]];
    // What is over is not carried about any more.
    if !under_way.is_over() {
        first.extend(elsewhere);
    }
    if cold && here != Place::Fridge && !under_way.is_over() {
        let before: &[Minute] = if bulk { &BEFORE_BULK } else { &BEFORE_PROOF };
        for after in before {
            first.push(carried(*after, Place::Fridge));
            if bulk {
                first.push([carried(*after, Place::Fridge), vec![Leg::fixed(Place::Room, AFTER_COLD_MIN)]].concat());
            }
        }
    }
    let schedule = |bulk: Vec<Leg>, proof: Vec<Leg>| Schedule {
        family: ScheduleFamily::SameDay,
        feeds: Vec::new(),
        sponge: None,
        bulk,
        proof,
        dose: 1.0,
        mix_c: under_way.begun.celsius,
    };
    let mut schedules: Vec<Schedule> = Vec::new();
    let mut add = |w: Schedule| {
        if !schedules.contains(&w) {
            schedules.push(w);
        }
    };
    if bulk {
        let mut second = vec![planned_proof(&day.course.stays, day, under_way)];
        second.extend(warm.iter().map(|p| vec![Leg::open(*p)]));
        if cold {
            second.extend([vec![Leg::open(Place::Fridge)], vec![Leg::fixed(Place::Room, SHAPED_MIN), Leg::open(Place::Fridge)]]);
        }
        for b in &first {
            for p in &second {
                add(schedule(b.clone(), p.clone()));
            }
        }
    } else {
        for p in first {
            add(schedule(Vec::new(), p));
        }
    }
    schedules
}

/// Stays as legs: the longest is as long as it takes.
fn legs(stays: &[(Place, f64)]) -> Vec<Leg> {
    let longest = stays.iter().enumerate().max_by(|a, b| a.1.1.total_cmp(&b.1.1)).map_or(0, |s| s.0);
    #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
    let leg = |(i, (place, minutes)): (usize, &(Place, f64))| {
        if i == longest { Leg::open(*place) } else { Leg::fixed(*place, minutes.round() as Minute) }
    };
    stays.iter().enumerate().map(leg).collect()
}

/// What is left of the running rise as it goes.
fn left(stays: &[Stay<Period>], day: &OnTheDay<'_>, under_way: &UnderWay, bulk: bool) -> Vec<Leg> {
    let shaped = day.shaped();
    let own = stays.iter().filter(|s| s.span.to > day.now && (!bulk || s.span.from < shaped));
    let mut coming: Vec<(Place, f64)> = own.map(|s| (s.place, minutes_between(s.span.from.max(day.now), s.span.to))).collect();
    if coming.first().is_none_or(|c| c.0 != under_way.here.0) {
        coming.insert(0, (under_way.here.0, 0.0));
    }
    legs(&coming)
}

/// The proof as it is planned, where it is still to come.
fn planned_proof(stays: &[Stay<Period>], day: &OnTheDay<'_>, under_way: &UnderWay) -> Vec<Leg> {
    let shaped = day.shaped();
    let own: Vec<(Place, f64)> =
        stays.iter().filter(|s| s.span.from >= shaped).map(|s| (s.place, minutes_between(s.span.from, s.span.to))).collect();
    if own.is_empty() { vec![Leg::open(under_way.here.0)] } else { legs(&own) }
}
