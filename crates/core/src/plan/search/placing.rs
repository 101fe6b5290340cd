//! A way laid in truth: each wait solved again from the state the dough really is in, then judged.

use super::{
    curve::{Ageing, LONGEST_MIN, OpenStay, RiseNeed, age_after, celsius_after, from_here},
    day::Day,
    hours::{AwayKind, Minute, Need, Seg, Set, Span, WaitRange, Windows, both, nearest},
    judge::{Judged, p_late, p_spoil},
    schedule::{FOLD_MIN, RiseOf, Schedule, Work, Works},
    solve::{FED_C, Model, Past, RIPE_PAST, Search, Solved},
};
use crate::{
    formula::{CHILLED_C, WARM_LIMIT_MIN},
    kitchen::Place,
};

/// Ripeness may miss its aim by so much.
pub const AIM_SLACK: f64 = 0.05;
/// Sent on below this share of its lower aim a dough fails.
const LOW_HARD: f64 = 0.8;
/// A fold: how much earlier or later it may be, how far apart two are. Common practice, no source.
const FOLD_SLACK_MIN: Minute = 15;
const FOLDS_APART_MIN: Minute = 10;
/// What it costs that a dough is not folded that should be.
const UNFOLDED: f64 = 0.1;
/// Rounds of solving a wait and asking how warm it then is.
const ROUNDS: usize = 2;

/// A rise as it is placed.
#[derive(Debug, Clone, PartialEq)]
pub struct PlacedRise {
    /// Which.
    pub rise: RiseOf,
    /// Which feed of the leaven, from 0.
    pub feed: usize,
    /// From.
    pub from: Minute,
    /// When the baker acts.
    pub to: Minute,
    /// Minutes of its open leg.
    pub open_min: Minute,
    /// Temperature at its start, °C.
    pub start_c: f64,
    /// Dough hours in it before that, of a rise under way.
    pub age_h: f64,
    /// Its places and how warm they are in the hours it falls in; of a proof the half of shaping that counts first.
    pub stays: Vec<OpenStay>,
    /// What it needs.
    pub need: RiseNeed,
    /// The judgement.
    pub judged: Judged,
    /// How long the act may wait, and how much sooner it may be, other times as they are.
    pub slack: (Minute, Minute),
}

impl PlacedRise {
    /// The last so many of its stays, the open one as long as it is laid.
    #[must_use]
    pub fn own_stays(&self, count: usize) -> Vec<OpenStay> {
        let own = self.stays.iter().skip(self.stays.len().saturating_sub(count));
        own.map(|s| s.lasting(Some(s.span.unwrap_or(self.open_min)))).collect()
    }
}

/// A plan: a way with its clock.
#[derive(Debug, Clone)]
pub struct PlacedSchedule {
    /// Which way.
    pub schedule: usize,
    /// Its works.
    pub works: Vec<Work>,
    /// When each begins.
    pub starts: Vec<Minute>,
    /// Its rises.
    pub rises: Vec<PlacedRise>,
    /// Folds that have their minute.
    pub folds: Vec<Minute>,
    /// When it may be sliced.
    pub ready: Minute,
    /// Chance that it spoils.
    pub p_spoil: f64,
    /// Chance that it is late.
    pub p_late: f64,
    /// Minutes of hands.
    pub hands_min: Minute,
    /// Minutes out of the fridge from the end of mixing to the load.
    pub warm_min: Minute,
    /// Lower is better.
    pub cost: f64,
}

impl PlacedSchedule {
    /// When a work begins, if it is part of it.
    #[must_use]
    pub fn start_of(&self, wanted: impl Fn(Work) -> bool) -> Option<Minute> {
        self.works.iter().zip(&self.starts).find(|(w, _)| wanted(**w)).map(|(_, at)| *at)
    }
    /// All it asks of hands, eyes, bench and oven, and when: its works, part by part, and its folds.
    pub(in crate::plan) fn asks<'p>(&'p self, works: &'p Works) -> impl Iterator<Item = (Span, Need)> + 'p {
        let part = |at: Minute, s: Seg| (Span::new(at + s.offset, at + s.offset + s.length), s.need);
        let parts =
            self.works.iter().zip(&self.starts).flat_map(move |(work, at)| works.segs(*work).into_iter().map(move |s| part(*at, s)));
        parts.chain(self.folds.iter().map(|at| (Span::new(*at, at + FOLD_MIN), Need::Hands)))
    }
    /// When it goes into the oven.
    #[must_use]
    pub fn load(&self) -> Minute {
        self.starts.last().copied().unwrap_or(0)
    }
}

impl<M: Model> Search<'_, M> {
    /// Places a way in truth: each wait solved again from the state the dough really is in then.
    pub(super) fn lay(&mut self, s: &Solved, sets: &[Set], wanted: Minute, day: &Day, windows: &Windows) -> Option<PlacedSchedule> {
        let schedule = self.rules.schedules.get(s.schedule)?.clone();
        let timed = self.timed(s, wanted);
        let mut at = nearest(sets.first()?, wanted - s.nominal(&timed))?;
        let mut starts = vec![at];
        let mut rises: Vec<PlacedRise> = Vec::new();
        let mut past = RIPE_PAST;
        let mut celsius = self.first_c(&schedule);
        for (k, (joint, length)) in timed.iter().zip(&s.lengths).enumerate() {
            let next = sets.get(k + 1)?;
            let begins = at + length;
            let (mut window, mut truth) = (*joint, None);
            let of_rise = s.rises.iter().find(|r| (r.first..r.first + r.count).contains(&k)).copied();
            if let Some(r) = of_rise.filter(|r| r.open == k) {
                celsius = match r.rise {
                    RiseOf::Leaven | RiseOf::Preferment => FED_C,
                    RiseOf::Bulk => self.first_c(&schedule),
                    RiseOf::Proof => celsius,
                };
                let legs = self.legs(r.rise, &schedule, past.feed);
                let need = self.need(r.rise, &schedule, past)?;
                let ages = self.ages(r.rise, need, s.band)?;
                let before: Minute = legs.iter().map_while(|l| l.minutes).sum();
                let from = begins - before;
                // How long it takes and how warm it is meanwhile hang together: twice round is near enough.
                let rounds = if self.model.varies() { ROUNDS } else { 1 };
                for _ in 0..rounds {
                    let stays = self.stays_from(&legs, from, window.nominal)?;
                    if let Some(mut w) = self.joint(r.rise, &schedule, celsius, &stays, ages) {
                        // What was cut off for food's sake or for a second load stays cut off.
                        w.hi = w.hi.min(joint.hi.max(w.lo));
                        w.nominal = w.nominal.clamp(w.lo, w.hi);
                        window = w;
                    }
                }
                truth = Some((r, legs, from, need));
            }
            let here = |j: WaitRange| nearest(&both(next, &[Span::new(begins + j.lo, begins + j.hi)]), begins + s.leaning(window));
            at = here(window).or_else(|| here(*joint))?;
            starts.push(at);
            if let Some((r, legs, from, need)) = truth {
                let open_min = at - begins;
                let stays = self.stays_from(&legs, from, open_min)?;
                let (age, end_c) = age_after(self.model, r.rise, celsius, &stays, f64::from(open_min));
                let so_far = self.age_so_far(r.rise);
                let ripeness = (so_far + age) / need.hours;
                if ripeness < need.lower - AIM_SLACK || ripeness > need.upper + AIM_SLACK {
                    return None;
                }
                let from = starts.get(r.first).copied().unwrap_or(begins) + s.lengths.get(r.first).copied().unwrap_or(0);
                rises.push(PlacedRise {
                    rise: r.rise,
                    feed: past.feed,
                    from,
                    to: at,
                    open_min,
                    start_c: celsius,
                    age_h: so_far,
                    stays,
                    need,
                    judged: Judged { ripeness, exposed: ripeness, over: need.over, low_hard: LOW_HARD * need.lower, sigma: 0.0 },
                    slack: (0, 0),
                });
                match r.rise {
                    RiseOf::Leaven | RiseOf::Preferment => past = Past { feed: past.feed + 1, leaven: ripeness, ..past },
                    RiseOf::Bulk => (past.bulk, celsius) = (ripeness, end_c),
                    RiseOf::Proof => {}
                }
            }
        }
        // A rise ends with the last of its places.
        for (r, p) in s.rises.iter().zip(rises.iter_mut()) {
            p.to = starts.get(r.first + r.count).copied().unwrap_or(p.to);
        }
        for p in &mut rises {
            self.judge(p, &schedule, windows);
        }
        let folds = self.folds(&schedule, &rises, windows);
        let laid = self.finish(s, starts, rises, folds, day)?;
        self.rules.warm_limit.is_none_or(|limit| laid.warm_min <= limit).then_some(laid)
    }

    /// Exposure and spread of a placed rise.
    fn judge(&self, p: &mut PlacedRise, schedule: &Schedule, windows: &Windows) {
        let coldest = p.stays.iter().map(|s| s.celsius).fold(f64::INFINITY, f64::min);
        p.judged.sigma = self.model.sigma(p.rise, coldest);
        let begins = p.from - if p.rise == RiseOf::Proof { self.half_shape(schedule) } else { 0 };
        let free_from = windows.hands.iter().rfind(|w| w.from <= p.to && p.to <= w.to).map_or(p.to, |w| w.from);
        let seen = free_from.max(p.from) - begins + self.last_load(p.rise, schedule);
        p.judged.exposed = (p.age_h + age_by(self.model, p.rise, p.start_c, &p.stays, p.open_min, seen)) / p.need.hours;
    }

    /// How long each act that ends a rise may wait, and how much sooner it may be.
    pub(in crate::plan) fn slacken(&self, l: &mut PlacedSchedule) {
        let Some(schedule) = self.rules.schedules.get(l.schedule) else { return };
        for p in &mut l.rises {
            self.slacken_rise(p);
            p.slack.1 = (p.slack.1 - self.last_load(p.rise, schedule)).max(0);
        }
    }

    /// The dough stands on in the last of its places.
    fn slacken_rise(&self, p: &mut PlacedRise) {
        let Some((last, before)) = p.stays.split_last() else { return };
        let length = last.span.unwrap_or(p.open_min);
        let fixed: Vec<OpenStay> = before.iter().map(|s| s.lasting(Some(s.span.unwrap_or(p.open_min)))).collect();
        let (age, celsius) = age_after(self.model, p.rise, p.start_c, &fixed, 0.0);
        let here = from_here(self.model, p.rise, celsius, (last.place, last.celsius), p.age_h + age, p.need);
        #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
        let minutes = |x: Option<f64>, never: Minute| x.map_or(never, |m| m.round() as Minute);
        p.slack = ((length - minutes(here.lo, 0)).max(0), (minutes(here.over, LONGEST_MIN) - length).max(0));
    }

    /// Folds that have their minute: each as near its time as somebody is there.
    fn folds(&self, schedule: &Schedule, rises: &[PlacedRise], windows: &Windows) -> Vec<Minute> {
        let Some(bulk) = rises.iter().find(|r| r.rise == RiseOf::Bulk) else { return Vec::new() };
        // In the fridge nothing is folded: only the warm hours before it count.
        let cold_from = schedule.bulk.iter().position(|l| l.place == Place::Fridge);
        let warm = |n: usize| schedule.bulk.iter().take(n).filter_map(|l| l.minutes).sum::<Minute>();
        let span = cold_from.map_or(bulk.to - bulk.from, warm);
        #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
        let at = |minutes: f64| minutes.round() as Minute;
        let planned = self.begun(RiseOf::Bulk).map(|b| b.folds.iter().copied().filter(|m| *m <= span).collect());
        let planned: Vec<Minute> = planned.unwrap_or_else(|| self.rules.folds.0.times(f64::from(span)).map(at).collect());
        let free: Set = windows.hands.iter().map(|w| Span::new(w.from, w.to - FOLD_MIN)).filter(|w| w.from <= w.to).collect();
        // A rise under way may be folded at once.
        let first = if self.begun(RiseOf::Bulk).is_some() { bulk.from } else { bulk.from + 1 };
        let mut found: Vec<Minute> = Vec::new();
        for after in planned {
            let wanted = bulk.from + after;
            let here = nearest(&free, wanted).filter(|at| (at - wanted).abs() <= FOLD_SLACK_MIN);
            let inside = here.filter(|at| *at >= first && *at + FOLD_MIN <= bulk.to);
            found.extend(inside.filter(|at| found.last().is_none_or(|last| *at >= last + FOLDS_APART_MIN)));
        }
        found
    }

    fn finish(&self, s: &Solved, starts: Vec<Minute>, rises: Vec<PlacedRise>, folds: Vec<Minute>, day: &Day) -> Option<PlacedSchedule> {
        let schedule = self.rules.schedules.get(s.schedule)?;
        let load = *starts.last()?;
        let judged: Vec<Judged> = rises.iter().map(|r| r.judged).collect();
        let asleep = |at: Minute| day.away.iter().any(|a| a.kind == AwayKind::Asleep && a.span.from <= at && at < a.span.to);
        let wakes = starts.iter().filter(|at| asleep(**at)).count();
        if wakes > usize::from(day.woken) {
            return None;
        }
        let mixed =
            s.works.iter().position(|w| matches!(w, Work::Mix | Work::Now)).and_then(|k| Some(starts.get(k)? + s.lengths.get(k)?))?;
        let fridge = self.fridge_min(s, schedule, &starts, &rises);
        let mut laid = PlacedSchedule {
            schedule: s.schedule,
            works: s.works.clone(),
            hands_min: s.hands_min + FOLD_MIN * Minute::try_from(folds.len()).unwrap_or(0),
            ready: load + s.after_load,
            p_spoil: p_spoil(&judged),
            p_late: p_late(&judged),
            warm_min: load - mixed - fridge + self.rules.begun.as_ref().map_or(0, |b| b.warm_min),
            folds,
            cost: 0.0,
            starts,
            rises,
        };
        laid.cost = self.cost_of(s, &laid.starts, &laid.rises, day, wakes);
        if laid.folds.len() < self.rules.folds.1 && !schedule.bulk.is_empty() {
            laid.cost += UNFOLDED;
        }
        Some(laid)
    }

    fn fridge_min(&self, s: &Solved, schedule: &Schedule, starts: &[Minute], rises: &[PlacedRise]) -> Minute {
        let mut sum = 0;
        for (r, placed) in s.rises.iter().zip(rises).filter(|(r, _)| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof)) {
            let legs = if r.rise == RiseOf::Bulk { &schedule.bulk } else { &schedule.proof };
            for (i, _) in legs.iter().enumerate().filter(|(i, l)| l.place == Place::Fridge && self.gets_cold(placed, legs.len() - i)) {
                let k = r.first + i;
                if let (Some(a), Some(b), Some(l)) = (starts.get(k), starts.get(k + 1), s.lengths.get(k)) {
                    sum += b - a - l;
                }
            }
        }
        sum
    }

    /// Whether the dough gets cold within four hours in the stay that is so many from the last. A plan from the mix on
    /// has no stay in the fridge that is short.
    fn gets_cold(&self, placed: &PlacedRise, from_last: usize) -> bool {
        if self.rules.begun.is_none() {
            return true;
        }
        let mut stays = placed.own_stays(placed.stays.len());
        stays.truncate((stays.len() + 1).saturating_sub(from_last));
        #[allow(clippy::cast_possible_truncation, reason = "four hours")]
        let most = WARM_LIMIT_MIN as Minute;
        if let Some(last) = stays.last_mut() {
            *last = last.lasting(Some(last.span.map_or(most, |m| m.min(most))));
        }
        celsius_after(self.model, placed.rise, placed.start_c, &stays, 0.0) <= CHILLED_C
    }
}

/// Age so many minutes after the start of a rise whose open stay is `open_min` long; past its end it stands on.
fn age_by(m: &impl Ageing, rise: RiseOf, start_c: f64, stays: &[OpenStay], open_min: Minute, minutes: Minute) -> f64 {
    let mut left = minutes;
    let mut cut: Vec<OpenStay> = Vec::with_capacity(stays.len());
    for (i, stay) in stays.iter().enumerate() {
        let length = if i + 1 == stays.len() { left } else { stay.span.unwrap_or(open_min).min(left) };
        cut.push(stay.lasting(Some(length.max(0))));
        left -= length;
        if left <= 0 {
            break;
        }
    }
    age_after(m, rise, start_c, &cut, 0.0).0
}
