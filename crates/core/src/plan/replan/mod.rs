//! The rest of a bake planned anew while it runs: dose and past are fixed; places, a stay in the fridge, folds, the
//! rest on the bench and the oven's hour are open. What changes least comes first.

mod begun;
mod change;
mod reason;
mod schedules;

pub use change::RestChange;
pub use reason::Reason;

use jiff::Timestamp;

use super::{
    Actual, Beside, Course, FittedRise, Plan, RestPlan, StepKind, later, minutes_between,
    search::{
        ask::FitAsk,
        curve::{LONGEST_MIN, OpenStay},
        day::Day,
        dough::DoughRises,
        hours::{Away, AwayKind, Minute, Need, Span},
        placing::PlacedSchedule,
        schedule::{RiseOf, Schedule, Work, Works},
        solve::Search,
    },
};
use crate::{
    Tables,
    formula::{Analysis, Formula},
    input::InputErrors,
    kitchen::{
        HoursKind, Kitchen, Minutes, Place, Stay,
        hours::{Spell, spells},
    },
};
use begun::UnderWay;
use change::{Measured, Weight, changes};

/// A bake as it stands, to have its rest planned.
#[derive(Debug, Clone, Copy)]
pub struct OnTheDay<'a> {
    /// Its plan.
    pub plan: &'a Plan,
    /// Its course as it goes.
    pub course: &'a Course,
    /// What is in the dough.
    pub formula: &'a Formula,
    /// What happened.
    pub actual: &'a Actual,
    /// The household.
    pub kitchen: &'a Kitchen,
    /// Tables.
    pub tables: &'a Tables,
    /// Now.
    pub now: Timestamp,
    /// The other breads of the household.
    pub beside: &'a [Beside],
}

/// Why the rest should be planned anew, and how it could be.
#[derive(Debug, Clone, Default)]
pub struct Replanned {
    /// Why.
    pub reasons: Vec<Reason>,
    /// Ways to go on, the least change first.
    pub options: Vec<RestOption>,
    /// Whether the dough is over: what is left is another bread.
    pub other_bread: bool,
}

/// The dough carried to another place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Carry {
    /// Where.
    pub place: Place,
    /// How warm it is there, °C.
    pub place_c: f64,
    /// When.
    pub at: Timestamp,
    /// The last moment at which it still does.
    pub by: Timestamp,
}

/// A way to go on.
#[derive(Debug, Clone)]
pub struct RestOption {
    /// What is changed against the plan; nothing where the bread only has to be used a little more or less ripe.
    pub changes: Vec<RestChange>,
    /// Where the dough is carried first, if anywhere.
    pub carry: Option<Carry>,
    /// When it is shaped, where it is not yet.
    pub shape: Option<Timestamp>,
    /// When it goes into the oven.
    pub load: Timestamp,
    /// When it may be sliced.
    pub ready: Timestamp,
    /// How ripe each rise then is when it is taken on, 1 for ripe.
    pub ripeness: Vec<(RiseOf, f64)>,
    /// Chance that it spoils.
    pub p_spoil: f64,
    /// What the log keeps if it is chosen.
    pub rest: RestPlan,
}

/// A way that stands.
struct Found {
    rest: Minute,
    schedule: Schedule,
    laid: PlacedSchedule,
    changes: Vec<RestChange>,
    weight: Weight,
}

/// What of the day is given up, where nothing stands with it.
#[derive(Clone, Copy, Default)]
struct Given<'a> {
    /// Hands are at another bread now and then.
    hands: bool,
    /// Hours that are worked in all the same.
    not_free: &'a [Away],
}

impl Given<'_> {
    fn up(self, day: &Day) -> Day {
        let mut left = day.clone();
        if self.hands {
            left.hands_taken.clear();
        }
        left.away.retain(|a| !self.not_free.contains(a));
        left
    }
}

/// A bread this many minutes off its load is worth a word.
pub(super) const WORTH_MIN: f64 = 10.0;
/// Most ways that are told.
const MOST: usize = 3;
/// Whoever looks at the sheet in hours away or asleep has so long to do a thing, minutes.
const LOOKING_MIN: Minute = 15;
/// Above this chance of spoiling a way is told only where nothing else stands.
const RISKY: f64 = 0.30;
/// How finely the last moment to carry a dough is sought, minutes.
const CARRY_STEP_MIN: Minute = 5;
/// Nobody sits beside a dough for longer to carry it, minutes.
const CARRY_MOST_MIN: Minute = 16 * 60;

impl OnTheDay<'_> {
    /// Why the rest of the bake should be planned anew, and the ways to do it; nothing where it goes as planned, before
    /// the mix, and once it is in the oven.
    ///
    /// # Errors
    /// What the rise model or the oven refuses of what was logged.
    pub fn replan(&self) -> Result<Option<Replanned>, InputErrors> {
        let analysis = self.formula.analyse(&self.tables.pantry, &self.tables.styles);
        let Some(under_way) = UnderWay::of(self, &analysis)? else { return Ok(None) };
        let reasons = self.reasons(&under_way);
        if reasons.is_empty() {
            return Ok(None);
        }
        let other_bread = under_way.begun.rise == RiseOf::Proof && under_way.is_over();
        // Within the aims; else riper than is liked; else between two breads; else in hours that are not free.
        let (works, riper) = (under_way.works(self, &analysis), under_way.riper());
        let (day, free) = (self.day(), Given::default());
        let hands = Given { hands: true, not_free: &[] };
        let hours = Given { hands: true, not_free: &day.away };
        let tries = [(&under_way, free, usize::MAX), (&riper, free, usize::MAX), (&riper, hands, 1), (&riper, hours, 1)];
        let mut options = tries.into_iter().map(|(dough, given, most)| {
            let mut found = self.options(dough, &works, &given.up(&day), given, &analysis);
            found.truncate(most);
            found
        });
        let options = options.find(|o| !o.is_empty()).unwrap_or_default();
        Ok(Some(Replanned { reasons, options, other_bread }))
    }

    /// Minutes counted from the whole minute that is now.
    fn minute(&self, at: Timestamp) -> Minute {
        #[allow(clippy::cast_possible_truncation, reason = "minutes of a bake")]
        let whole = minutes_between(self.now, at).round() as Minute;
        whole
    }

    fn at(&self, minute: Minute) -> Timestamp {
        later(self.now, f64::from(minute))
    }

    /// When it was last meant to go into the oven.
    fn meant(&self) -> Option<Timestamp> {
        self.actual.rest.as_ref().map(|r| r.load_at).or_else(|| self.plan.step(StepKind::Load).map(|s| s.start))
    }

    /// Whether something was done or noted between two instants: then somebody was there.
    fn noted_between(&self, from: Timestamp, to: Timestamp) -> bool {
        let a = self.actual;
        let once = [a.mixed, a.shaped, a.lit, a.ripe, a.not_yet].into_iter().flatten();
        let often = a
            .folds
            .iter()
            .copied()
            .chain(a.dough_c.iter().map(|r| r.0))
            .chain(a.places.iter().map(|p| p.span))
            .chain(a.seen.iter().map(|s| s.at));
        once.chain(often).any(|at| from <= at && at < to)
    }

    /// The household's hours from now on. Who looks at the sheet is there for a while, whatever the habit says; who
    /// worked on the dough in hours away is at home today.
    fn away(&self) -> Vec<Away> {
        let until = self.at(LONGEST_MIN);
        let kind = |k: HoursKind| match k {
            HoursKind::Asleep => Some(AwayKind::Asleep),
            HoursKind::Away => Some(AwayKind::Away),
            HoursKind::Busy => Some(AwayKind::Busy),
            HoursKind::Errand => None,
        };
        let gone = spells(&self.kitchen.kept_hours(), &self.kitchen.time_zone(), self.now, until);
        let from = |m: Minute| if m <= 0 { LOOKING_MIN } else { m };
        let at_home = |s: &Spell| s.kind != HoursKind::Asleep && s.from <= self.now && self.noted_between(s.from, self.now);
        gone.into_iter()
            .filter(|s| !at_home(s))
            .filter_map(|s| Some(Away { span: Span::new(from(self.minute(s.from)), self.minute(s.to)), kind: kind(s.kind)? }))
            .filter(|a| a.span.from < a.span.to)
            .collect()
    }

    fn day(&self) -> Day {
        let span = |from: Timestamp, to: Timestamp| Span::new(self.minute(from), self.minute(to));
        let asks = self.course.oven.asks();
        Day {
            from: 0,
            ready: None,
            early: 0,
            horizon: Span::new(0, LONGEST_MIN),
            away: self.away(),
            hands_taken: self.beside.iter().flat_map(|b| &b.hands).map(|h| (span(h.from, h.to), h.need)).collect(),
            oven_taken: self.beside.iter().flat_map(|b| b.keeps_oven_from(asks)).map(|(from, to)| span(from, to)).collect(),
            mix_within: None,
            nights: Vec::new(),
            want: None,
            woken: false,
        }
    }

    /// The ways that stand, least change first, each another kind of change.
    fn options(&self, under_way: &UnderWay, works: &Works, day: &Day, given: Given<'_>, analysis: &Analysis<'_>) -> Vec<RestOption> {
        // Whoever has to be up for it wants it behind them; else it is drawn toward its hour.
        let meant = self.meant().filter(|_| given.not_free.is_empty());
        let wanted = self.minute(meant.unwrap_or(self.course.load));
        let ready = wanted + works.length(Work::Bake { cold: false }) + works.cool;
        let mut model = DoughRises::new(under_way.facts(self, analysis), &self.tables.ferment);
        let schedules = schedules::all(self, under_way, analysis, model.facts());
        let Some(planned) = schedules.first().cloned() else { return Vec::new() };
        let resting = |rest: Minute| Works { shape: (works.shape.0, rest, works.shape.2), ..works.clone() };
        let mut found: Vec<Found> = Vec::new();
        for (rest, schedules) in bench_rests(works.shape.1, under_way, schedules) {
            let mut search = Search::new(&mut model, under_way.rules(schedules, resting(rest)));
            for laid in search.toward(wanted, day) {
                let Some(schedule) = search.rules.schedules.get(laid.schedule).cloned() else { continue };
                let measured = Measured { schedule: &schedule, laid: &laid, rest_min: rest, usual_rest_min: works.shape.1 };
                let mut changes = changes(&planned, &measured, &under_way.begun, ready);
                let asked: Vec<(Span, Need)> = laid.asks(&search.rules.works).filter(|a| a.1 != Need::Oven).collect();
                changes.extend(self.hands_at_both(&asked).filter(|_| given.hands));
                changes.extend(out_of_hours(&asked, given.not_free));
                let weight = Weight::of(&changes, laid.ready - ready);
                found.push(Found { rest, schedule, changes, weight, laid: PlacedSchedule { schedule: 0, ..laid } });
            }
        }
        if found.iter().any(|f| f.laid.p_spoil <= RISKY) {
            found.retain(|f| f.laid.p_spoil <= RISKY);
        }
        found.sort_by(|a, b| a.weight.cmp(&b.weight).then(a.laid.cost.total_cmp(&b.laid.cost)));
        let options = least(found).into_iter().map(|f| {
            let mut search = Search::new(&mut model, under_way.rules(vec![f.schedule.clone()], resting(f.rest)));
            self.option(under_way, &mut search, day, f)
        });
        options.collect()
    }

    fn option(&self, under_way: &UnderWay, search: &mut Search<'_, DoughRises<'_>>, day: &Day, found: Found) -> RestOption {
        let mut laid = found.laid;
        search.slacken(&mut laid);
        let carry = carried(&laid).map(|(at, place)| {
            let place_c = search.model.facts().places.iter().find(|p| p.0 == place).map_or(self.kitchen.room_c, |p| p.1);
            Carry { place, place_c, at: self.at(at), by: self.at(self.latest(search, day, &laid, at)) }
        });
        // As the course has it from the load on; a cold loaf bakes longer.
        let works = &search.rules.works;
        let longer = f64::from(works.bake_min(works.bakes_cold(&found.schedule))) - self.course.oven.minutes;
        let after_load = minutes_between(self.course.load, self.course.ready_at) + longer * f64::from(works.loads);
        RestOption {
            carry,
            shape: laid.start_of(|w| w == Work::Shape).map(|m| self.at(m)),
            load: self.at(laid.load()),
            ready: later(self.at(laid.load()), after_load),
            ripeness: laid.rises.iter().map(|r| (r.rise, r.judged.ripeness)).collect(),
            p_spoil: laid.p_spoil,
            rest: self.rest(under_way, search, &laid),
            changes: found.changes,
        }
    }

    /// The first minute at which hands, or a bench to rest on, are asked for while another bread has them.
    fn hands_at_both(&self, asked: &[(Span, Need)]) -> Option<RestChange> {
        let met = asked.iter().flat_map(|(a, need)| {
            let theirs = self.beside.iter().flat_map(|b| b.hands.iter().map(move |h| (h, &b.bread)));
            theirs.filter(|(h, _)| need.is_kept_by(h.need)).filter_map(|(h, bread)| {
                let span = Span::new(self.minute(h.from), self.minute(h.to));
                Some((a.meets(span)?, bread))
            })
        });
        met.min().map(|(minute, bread)| RestChange::HandsTaken(minute, bread.clone()))
    }

    /// The last minute at which the dough may still be carried, everything after as it is.
    fn latest(&self, search: &mut Search<'_, DoughRises<'_>>, day: &Day, laid: &PlacedSchedule, at: Minute) -> Minute {
        let Some(schedule) = search.rules.schedules.get(laid.schedule).cloned() else { return at };
        let rise = search.rules.begun.as_ref().map_or(RiseOf::Proof, |b| b.rise);
        let mut holds = |minute: Minute| {
            let mut later = schedule.clone();
            let legs = if rise == RiseOf::Bulk { &mut later.bulk } else { &mut later.proof };
            let Some(first) = legs.first_mut() else { return false };
            first.minutes = Some(minute);
            let found = search.with_way(later, laid.load(), day);
            found.is_some_and(|l| f64::from((l.load() - laid.load()).abs()) <= WORTH_MIN && l.p_spoil <= RISKY.max(laid.p_spoil))
        };
        let ends = laid.rises.first().map_or(at, |r| r.to);
        let (mut yes, mut no) = (0, CARRY_MOST_MIN.min(ends - at) / CARRY_STEP_MIN + 1);
        while no - yes > 1 {
            let middle = i32::midpoint(yes, no);
            if holds(at + middle * CARRY_STEP_MIN) { yes = middle } else { no = middle }
        }
        at + yes * CARRY_STEP_MIN
    }

    /// What the log keeps of a way: the past as it went, the rest as it is laid.
    fn rest(&self, under_way: &UnderWay, search: &Search<'_, DoughRises<'_>>, laid: &PlacedSchedule) -> RestPlan {
        let schedule = search.rules.schedules.get(laid.schedule);
        let of = |rise: RiseOf, legs: usize| {
            let placed = laid.rises.iter().find(|r| r.rise == rise)?;
            let own = placed.own_stays(legs);
            let past = if under_way.begun.rise == rise { under_way.past.as_slice() } else { &[] };
            Some(FittedRise {
                stands: joined(past.iter().copied().chain(own.iter().map(stand))),
                ripeness: placed.judged.ripeness,
                early_min: f64::from(placed.slack.0),
                late_min: f64::from(placed.slack.1),
            })
        };
        let since_mix = minutes_between(self.course.mixed, self.now);
        let works = &search.rules.works;
        let (first, _, second) = works.shape;
        RestPlan {
            bulk: schedule.and_then(|w| of(RiseOf::Bulk, w.bulk.len())),
            proof: schedule.and_then(|w| of(RiseOf::Proof, w.proof.len())).unwrap_or_default(),
            folds_min: self
                .actual
                .folds
                .iter()
                .chain(&self.actual.knocks)
                .map(|at| minutes_between(self.course.mixed, *at).max(0.0))
                .chain(laid.folds.iter().map(|m| since_mix + f64::from(*m)))
                .collect(),
            shape_min: (f64::from(works.shape_min()), f64::from(first + second)),
            load_at: self.at(laid.load()),
        }
    }
}

/// The least changes of ways in order, each of another kind; a change that gains nothing is left out. To leave the dough
/// where it is is always one of them, if it stands.
fn least(found: Vec<Found>) -> Vec<Found> {
    let all: Vec<Weight> = found.iter().map(|f| f.weight).collect();
    let mut told: Vec<Weight> = Vec::new();
    let (mut chosen, mut others) = (Vec::new(), Vec::new());
    for f in found {
        if all.iter().any(|w| w.does_without(f.weight)) || told.iter().any(|t| t.is_part_of(f.weight)) {
            continue;
        }
        told.push(f.weight);
        if chosen.len() < MOST { chosen.push(f) } else { others.push(f) }
    }
    let stays = |f: &Found| !f.changes.iter().any(|c| matches!(c, RestChange::Place(..) | RestChange::Brake(_)));
    if !chosen.iter().any(stays)
        && let (Some(stay), Some(last)) = (others.into_iter().find(stays), chosen.last_mut())
    {
        *last = stay;
    }
    chosen
}

/// The first minute at which something is asked in hours that are not free.
fn out_of_hours(asked: &[(Span, Need)], away: &[Away]) -> Option<RestChange> {
    let met = asked.iter().flat_map(|(a, _)| away.iter().filter_map(|w| a.meets(w.span)));
    met.min().map(RestChange::OutOfHours)
}

/// When the dough is first carried, and where to.
fn carried(laid: &PlacedSchedule) -> Option<(Minute, Place)> {
    let moves = laid.works.iter().zip(&laid.starts).take_while(|(w, _)| !matches!(w, Work::Shape | Work::Bake { .. }));
    moves.into_iter().find_map(|(w, at)| if let Work::Move(place) = w { Some((*at, *place)) } else { None })
}

fn stand(s: &OpenStay) -> Stay<Minutes> {
    s.lasting(Minutes { minutes: s.span.map_or(0.0, f64::from) })
}

/// Stands one after the other, those in one place as one; a place nothing was spent in is left out.
fn joined(stands: impl Iterator<Item = Stay<Minutes>>) -> Vec<Stay<Minutes>> {
    let mut all: Vec<Stay<Minutes>> = Vec::new();
    for s in stands.filter(|s| s.span.minutes > 0.0) {
        match all.last_mut() {
            Some(last) if last.place == s.place => {
                let (before, more) = (last.span.minutes, s.span.minutes);
                last.celsius = (last.celsius * before + s.celsius * more) / (before + more);
                last.span.minutes = before + more;
            }
            _ => all.push(s),
        }
    }
    all
}

/// The rest of shaping as it is usual with every way, then as short and as long as it may be with the planned one.
fn bench_rests(usual: Minute, under_way: &UnderWay, schedules: Vec<Schedule>) -> Vec<(Minute, Vec<Schedule>)> {
    const SHORTEST_MIN: Minute = 10;
    const LONGEST_MIN: Minute = 30;
    let planned: Vec<Schedule> = schedules.first().cloned().into_iter().collect();
    let mut all = vec![(usual, schedules)];
    if usual > 0 && under_way.begun.rise == RiseOf::Bulk {
        all.extend([SHORTEST_MIN, LONGEST_MIN].into_iter().filter(|r| *r != usual).map(|r| (r, planned.clone())));
    }
    all
}
