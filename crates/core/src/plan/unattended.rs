//! A rise that would be over before anybody is there to take it on, and where it could wait instead.

use jiff::Timestamp;

use super::{
    Actual, Course, PlanAsk, StepKind,
    elsewhere::{Running, running},
    later, minutes_between,
    search::dough::{BULK_AIM, PROOF_AIM},
};
use crate::{
    Tables,
    ferment::RiseKind,
    formula::Formula,
    input::InputErrors,
    kitchen::{HoursKind, Kitchen, Place, hours::spells},
};

/// How far ahead nobody need be waited for, and how finely the last moment to carry is sought, minutes.
const AHEAD_MIN: f64 = 4.0 * 1440.0;
const STEP_MIN: f64 = 5.0;
/// Longest anybody sits beside a dough to carry it later, minutes.
const LATEST_MIN: f64 = 16.0 * 60.0;

/// A rise nobody is there for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Unattended {
    /// The act that would be due.
    pub act: StepKind,
    /// When it would be.
    pub due: Timestamp,
    /// From when on the dough is over.
    pub over: Timestamp,
    /// When somebody is there again.
    pub back: Timestamp,
    /// Where it could wait; none where nothing in the house holds it so long.
    pub wait: Option<Wait>,
}

/// A place that holds a dough until somebody is there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wait {
    /// Where.
    pub place: Place,
    /// How warm it is there, °C.
    pub place_c: f64,
    /// The last moment to carry it there.
    pub by: Timestamp,
    /// When it can then be taken on.
    pub taken_on: Timestamp,
}

/// The hours in which nobody is there, in order.
struct Absent(Vec<(Timestamp, Timestamp)>);

impl Absent {
    fn of(kitchen: &Kitchen, from: Timestamp) -> Self {
        let gone = spells(&kitchen.hours, &kitchen.time_zone(), from, later(from, AHEAD_MIN));
        Self(gone.into_iter().filter(|s| s.kind != HoursKind::Errand).map(|s| (s.from, s.to)).collect())
    }
    /// The first moment somebody is there, from an instant on.
    fn over(&self, mut at: Timestamp) -> Timestamp {
        for (from, to) in &self.0 {
            if *from <= at && at < *to {
                at = *to;
            }
        }
        at
    }
    /// When the next absence begins.
    fn next(&self, at: Timestamp) -> Option<Timestamp> {
        self.0.iter().map(|s| s.0).find(|from| *from > at)
    }
}

/// Whether the running rise is over, as it goes, before anybody is there, and the least change that mends it: another
/// place before the fridge, and the one that moves the act least.
///
/// # Errors
/// What the rise model refuses of what was logged.
pub fn unattended(
    course: &Course,
    formula: &Formula,
    ask: &PlanAsk,
    actual: &Actual,
    kitchen: &Kitchen,
    now: Timestamp,
    tables: &Tables,
) -> Result<Option<Unattended>, InputErrors> {
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    let Some(rise) = Running::at(now, &analysis, ask, actual, kitchen, tables) else { return Ok(None) };
    let (kind, first_stage) = running(actual, course.proof_stage);
    let (act, soonest_share) = if kind == RiseKind::Bulk { (StepKind::Shape, BULK_AIM.0) } else { (StepKind::Load, PROOF_AIM.0) };
    let step = course.steps.iter().find(|s| s.kind == act);
    let over = course.forecast.event(kind.over()).map(|e| later(course.mixed, e.min));
    let (Some(step), Some(over)) = (step, over) else { return Ok(None) };
    let absent = Absent::of(kitchen, now);
    let soonest =
        course.forecast.on_its_way(first_stage, kind.ripe(), soonest_share).map_or(step.start, |m| later(course.mixed, m)).max(now);
    if actual.ripe.is_some() || over <= now || absent.over(soonest) < over {
        return Ok(None);
    }
    let takes = |place: Place, place_c: f64, at: Timestamp| -> Result<Option<Timestamp>, InputErrors> {
        let Some(c) = rise.carried(place, place_c, at)? else { return Ok(None) };
        let Some(soonest) = c.on_its_way(soonest_share) else { return Ok(None) };
        let there = absent.over(soonest.max(at));
        Ok(c.over().is_none_or(|over| there < over).then_some(there))
    };
    let mut best: Option<(bool, f64, Wait)> = None;
    for place in Place::ALL {
        let Some(place_c) = kitchen.warmth_from(place, now) else { continue };
        let Some(taken_on) = takes(place, place_c, now)? else { continue };
        let moved = minutes_between(step.start, taken_on).abs();
        let rank = (place == Place::Fridge, moved);
        if best.as_ref().is_none_or(|b| rank < (b.0, b.1)) {
            best = Some((rank.0, rank.1, Wait { place, place_c, by: now, taken_on }));
        }
    }
    let wait = match best {
        Some((.., mut wait)) => {
            // Later it is riper and nearer to over: the last moment at which it still holds, while somebody is there.
            let last = absent.next(now).into_iter().chain([over, later(now, LATEST_MIN)]).min().unwrap_or(over);
            let (mut holds, mut not) = (0.0, minutes_between(now, last) / STEP_MIN);
            while not - holds > 1.0 {
                let middle = f64::midpoint(holds, not).floor().max(holds + 1.0);
                let at = later(now, middle * STEP_MIN);
                match takes(wait.place, wait.place_c, at)? {
                    Some(taken_on) => (wait, holds) = (Wait { by: at, taken_on, ..wait }, middle),
                    None => not = middle,
                }
            }
            Some(wait)
        }
        None => None,
    };
    Ok(Some(Unattended { act, due: step.start, over, back: absent.over(over), wait }))
}
