//! Every way solved for its waits: what does not depend on the day.

use std::borrow::Cow;

use super::{
    curve::{Ageing, Ages, Curves, OpenStay, RiseNeed, celsius_after, stays},
    hours::{Minute, Span, WaitRange},
    schedule::{Leg, RiseOf, Schedule, ScheduleFamily, Work, Works},
};
use crate::{kitchen::Place, knead::Folds};

/// How the rises before went.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Past {
    /// Which feed of the leaven, from 0.
    pub feed: usize,
    /// Ripeness of the last leaven or preferment when it was used.
    pub leaven: f64,
    /// Ripeness of the bulk when it was shaped.
    pub bulk: f64,
}

/// A model of the rises: the product's own, or a stand-in.
pub trait Model: Ageing {
    /// What a rise of a way needs after what went before; none where it never ripens.
    fn need(&mut self, rise: RiseOf, schedule: &Schedule, past: Past) -> Option<RiseNeed>;
    /// Spread of ln(rate) over a rise whose coldest place is so warm, °C.
    fn sigma(&self, rise: RiseOf, coldest_c: f64) -> f64;
    /// How its need falls with the dose: −d ln need / d ln dose.
    fn exponent(&mut self, rise: RiseOf, schedule: &Schedule) -> f64;
}

/// What holds for one dough whatever the day.
#[derive(Debug, Clone)]
pub struct Rules {
    /// What its works take.
    pub works: Works,
    /// The ways to it, in a fixed order.
    pub schedules: Vec<Schedule>,
    /// Bands of ripeness a bulk is planned in; the first is the one that is liked best.
    pub bands: Vec<(f64, f64)>,
    /// Whether half the shaping counts as proof.
    pub half_shape: bool,
    /// Longest stay out of the fridge: leaven or preferment, bulk, proof.
    pub longest_warm: (Minute, Minute, Minute),
    /// Longest stay in the fridge: bulk, proof.
    pub longest_cold: (Minute, Minute),
    /// Shortest bulk and proof. Half of the shaping counts as proof.
    pub least: (Minute, Minute),
    /// Longest out of the fridge in all, of a dough with egg or milk.
    pub warm_limit: Option<Minute>,
    /// Folds, as shares of the bulk, and how few will do.
    pub folds: (Folds, usize),
    /// Hours of flavour wanted, 0 to 1.
    pub wanted_flavour: f64,
    /// Share of the flour that ripens in leaven or preferment.
    pub early_share: f64,
    /// The usual dose in parts: what goes in at the mix, and what one percent of yeast on a preferment's own flour is.
    pub dose_parts: (f64, f64),
    /// Whether the dose counts in the cost of a way of this family.
    pub dose_counts: fn(ScheduleFamily) -> bool,
    /// What it costs to carry the dough to another place than the room for a rise of a few hours.
    pub move_cost: f64,
    /// What it costs that a leaven long in the cold is fed only once.
    pub one_feed_cost: f64,
    /// Whether waiting baked costs more after an hour and a half.
    pub stales: bool,
    /// The rise under way, where only the rest is planned.
    pub begun: Option<Begun>,
}

/// A rise under way.
#[derive(Debug, Clone, PartialEq)]
pub struct Begun {
    /// Which.
    pub rise: RiseOf,
    /// What it needs in all.
    pub need: RiseNeed,
    /// Dough hours in it.
    pub age_h: f64,
    /// How warm the dough is, °C.
    pub celsius: f64,
    /// Minutes it has stood.
    pub minutes: Minute,
    /// Minutes out of the fridge since it was mixed.
    pub warm_min: Minute,
    /// Folds planned and not done, minutes from now.
    pub folds: Vec<Minute>,
}

/// The shortest stay in the fridge worth planning. Common practice, no source.
pub const SHORTEST_COLD_MIN: Minute = 360;
/// The shortest proof in the oven worth the carrying. Common practice, no source.
const SHORTEST_IN_OVEN_MIN: Minute = 30;
const DAY_MIN: Minute = 1440;
/// A leaven or preferment is stirred together this warm, °C.
pub const FED_C: f64 = 24.0;

/// A way in a band with its waits solved.
#[derive(Debug, Clone)]
pub struct Solved {
    /// Which way.
    pub schedule: usize,
    /// Which band.
    pub band: usize,
    /// Its works in order.
    pub works: Vec<Work>,
    /// The waits between them.
    pub joints: Vec<WaitRange>,
    /// For each rise the waits it is made of, and which of them is open.
    pub rises: Vec<RiseSpan>,
    /// Minutes from each work's start to where its wait begins.
    pub(super) lengths: Vec<Minute>,
    /// Minutes of hands in all.
    pub(super) hands_min: Minute,
    /// Minutes from the load to when it may be sliced.
    pub(super) after_load: Minute,
    /// Minutes from the first work to the load, every wait at its shortest.
    pub(super) shortest: Minute,
    /// How far each wait is drawn from its likeliest minute to its last (1) or its first (-1).
    pub(super) lean: f64,
}

/// The waits of a rise.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct RiseSpan {
    /// Which rise.
    pub rise: RiseOf,
    /// First wait.
    pub first: usize,
    /// How many.
    pub count: usize,
    /// The open one.
    pub open: usize,
}

/// A dough with everything solved that does not depend on the day.
pub struct Search<'m, M: Model> {
    /// The model.
    pub model: &'m mut M,
    /// The rules.
    pub rules: Rules,
    /// The ways, solved.
    pub solved: Vec<Solved>,
    curves: Curves,
    hands: Vec<(Work, Minute)>,
    /// Every work there is in the ways.
    pub(super) kinds: Vec<Work>,
}

pub(super) const RIPE_PAST: Past = Past { feed: 0, leaven: 1.0, bulk: 1.0 };

impl<'m, M: Model> Search<'m, M> {
    /// Solves the waits of every way.
    pub fn new(model: &'m mut M, rules: Rules) -> Self {
        let mut search = Self { model, rules, solved: Vec::new(), curves: Curves::default(), hands: Vec::new(), kinds: Vec::new() };
        let bands = search.rules.bands.len().max(1);
        for schedule in 0..search.rules.schedules.len() {
            for band in 0..bands {
                let solved = search.solve(schedule, band);
                search.solved.extend(solved);
                if search.rules.schedules.get(schedule).is_none_or(|w| w.bulk.is_empty() || w.family == ScheduleFamily::Rest) {
                    break;
                }
            }
        }
        search
    }

    /// How long its works are, and what they take of hands.
    fn measure(&mut self, s: &mut Solved) {
        s.lengths = s.works.iter().map(|w| self.rules.works.length(*w)).collect();
        s.hands_min = s.works.iter().map(|w| self.hands_of(*w)).sum();
        let bake = s.works.last().map_or(0, |w| self.rules.works.length(*w));
        s.after_load = bake + self.rules.works.cool;
        s.shortest = s.joints.iter().zip(&s.lengths).map(|(j, l)| j.lo + l).sum();
        for work in &s.works {
            if !self.kinds.contains(work) {
                self.kinds.push(*work);
            }
        }
    }

    /// Minutes of hands of a work, looked up rather than added up thousands of times.
    fn hands_of(&mut self, work: Work) -> Minute {
        if let Some((_, hands)) = self.hands.iter().find(|(w, _)| *w == work) {
            return *hands;
        }
        let hands = self.rules.works.hands_min(work);
        self.hands.push((work, hands));
        hands
    }

    fn limits(&self, rise: RiseOf, place: Place) -> (Minute, Minute) {
        let r = &self.rules;
        // As a brake on the day even an hour in the fridge is worth it; what has passed counts.
        let shortest = if r.begun.is_some() { 0 } else { SHORTEST_COLD_MIN };
        let passed = self.begun(rise).map_or(0, |b| b.minutes);
        let (least, most) = match (rise, place) {
            (RiseOf::Bulk, Place::Fridge) => (shortest, r.longest_cold.0),
            (_, Place::Fridge) => (shortest, r.longest_cold.1),
            (RiseOf::Leaven | RiseOf::Preferment, _) => (0, r.longest_warm.0),
            (RiseOf::Bulk, _) => (0, r.longest_warm.1),
            // For less the dough is not carried into the oven and out again.
            (RiseOf::Proof, Place::OvenLight) if r.begun.is_none() => (SHORTEST_IN_OVEN_MIN, r.longest_warm.2),
            (RiseOf::Proof, _) => (0, r.longest_warm.2),
        };
        (least, (most - passed).max(0))
    }

    /// The rise under way, if it is this one.
    pub(super) fn begun(&self, rise: RiseOf) -> Option<&Begun> {
        self.rules.begun.as_ref().filter(|b| b.rise == rise)
    }

    /// Dough hours a rise has in it already.
    pub(super) fn age_so_far(&self, rise: RiseOf) -> f64 {
        self.begun(rise).map_or(0.0, |b| b.age_h)
    }

    pub(super) fn need(&mut self, rise: RiseOf, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        match self.begun(rise) {
            Some(b) => Some(b.need),
            None => self.model.need(rise, schedule, past),
        }
    }

    /// How warm a dough is when its rises begin to be planned.
    pub(super) fn first_c(&self, schedule: &Schedule) -> f64 {
        self.rules.begun.as_ref().map_or(schedule.mix_c, |b| b.celsius)
    }

    pub(super) fn ages(&self, rise: RiseOf, need: RiseNeed, band: usize) -> Option<Ages> {
        let (mut lower, mut upper) = (need.lower, need.upper);
        if rise == RiseOf::Bulk
            && let Some((a, b)) = self.rules.bands.get(band)
        {
            (lower, upper) = (lower.max(*a), upper.min(*b));
        }
        let nominal = 1.0_f64.clamp(lower, upper.max(lower));
        let so_far = self.age_so_far(rise);
        let left = |share: f64| (share * need.hours - so_far).max(0.0);
        (lower <= upper).then(|| Ages { lower: left(lower), nominal: left(nominal), upper: left(upper) })
    }

    /// Legs as the curve takes them: where the leaven or preferment ripens; the half of shaping that counts, then
    /// the places of the proof.
    pub(super) fn legs(&self, rise: RiseOf, schedule: &Schedule, feed: usize) -> Vec<Leg> {
        match rise {
            RiseOf::Leaven => schedule.feeds.get(feed).map(|f| Leg::open(f.place)).into_iter().collect(),
            RiseOf::Preferment => schedule.sponge.map(|s| Leg::open(s.place)).into_iter().collect(),
            RiseOf::Bulk => schedule.bulk.clone(),
            RiseOf::Proof => {
                let half = self.half_shape(schedule);
                (half > 0).then(|| Leg::fixed(Place::Room, half)).into_iter().chain(schedule.proof.iter().copied()).collect()
            }
        }
    }

    /// Minutes of shaping that count as proof.
    pub(super) fn half_shape(&self, schedule: &Schedule) -> Minute {
        if self.rules.half_shape && !schedule.bulk.is_empty() { self.rules.works.shape_min() / 2 } else { 0 }
    }

    /// How long after the first load the last goes in: so long its pieces prove on.
    pub(super) fn last_load(&self, rise: RiseOf, schedule: &Schedule) -> Minute {
        let works = &self.rules.works;
        if rise == RiseOf::Proof { (works.loads - 1) * works.pitch(works.bakes_cold(schedule)) } else { 0 }
    }

    pub(super) fn solve(&mut self, index: usize, band: usize) -> Option<Solved> {
        let schedule = self.rules.schedules.get(index)?.clone();
        let mut s = Solved {
            schedule: index,
            band,
            works: Vec::new(),
            joints: Vec::new(),
            rises: Vec::new(),
            lengths: Vec::new(),
            hands_min: 0,
            after_load: 0,
            shortest: 0,
            lean: 0.0,
        };
        if schedule.family == ScheduleFamily::Rest {
            s.works = vec![Work::Mix, Work::Shape, Work::Bake { cold: false }];
            s.joints = vec![WaitRange { lo: 20, nominal: 30, hi: 180 }, WaitRange { lo: 0, nominal: 15, hi: 60 }];
            self.measure(&mut s);
            return Some(s);
        }
        let early = schedule.feeds.iter().map(|_| RiseOf::Leaven).chain(schedule.sponge.map(|_| RiseOf::Preferment));
        for (feed, rise) in early.enumerate() {
            let need = self.need(rise, &schedule, Past { feed, ..RIPE_PAST })?;
            let ages = self.ages(rise, need, band)?;
            let legs = self.legs(rise, &schedule, feed);
            let joint = self.open(rise, &schedule, FED_C, &legs, ages)?;
            s.rises.push(RiseSpan { rise, first: s.joints.len(), count: 1, open: s.joints.len() });
            s.works.push(Work::Feed);
            s.joints.push(joint);
        }
        s.works.push(if self.rules.begun.is_some() { Work::Now } else { Work::Mix });
        let mut celsius = self.first_c(&schedule);
        let mut bulk_at = 1.0;
        if !schedule.bulk.is_empty() {
            let need = self.need(RiseOf::Bulk, &schedule, RIPE_PAST)?;
            let ages = self.ages(RiseOf::Bulk, need, band)?;
            let legs = self.legs(RiseOf::Bulk, &schedule, 0);
            let joint = self.open(RiseOf::Bulk, &schedule, celsius, &legs, ages)?;
            celsius = celsius_after(self.model, RiseOf::Bulk, celsius, &self.usual_stays(&legs)?, f64::from(joint.nominal));
            bulk_at = self.rules.bands.get(band).map_or(1.0, |(a, b)| f64::midpoint(*a, *b));
            s.push(RiseOf::Bulk, &schedule.bulk, joint);
            s.works.push(Work::Shape);
        }
        let need = self.need(RiseOf::Proof, &schedule, Past { bulk: bulk_at, ..RIPE_PAST })?;
        let ages = self.ages(RiseOf::Proof, need, band)?;
        let legs = self.legs(RiseOf::Proof, &schedule, 0);
        let mut joint = self.open(RiseOf::Proof, &schedule, celsius, &legs, ages)?;
        let cold = self.rules.works.bakes_cold(&schedule);
        if self.rules.works.loads > 1 {
            joint.hi -= self.last_load(RiseOf::Proof, &schedule);
            joint.nominal = joint.nominal.min(joint.hi);
            if joint.hi < joint.lo {
                return None;
            }
        }
        s.push(RiseOf::Proof, &schedule.proof, joint);
        s.works.push(Work::Bake { cold });
        self.measure(&mut s);
        let so_far = self.rules.begun.as_ref().map_or(0, |b| b.warm_min);
        self.rules.warm_limit.is_none_or(|limit| s.keep_warm_below(&schedule, limit - so_far)).then_some(s)
    }

    /// The wait of a rise on any day. Where places are colder by night it is as short as the warmest hours make it
    /// and as long as the coldest; the plan itself is laid by the hours it falls in.
    fn open(&mut self, rise: RiseOf, schedule: &Schedule, celsius: f64, legs: &[Leg], ages: Ages) -> Option<WaitRange> {
        let usual = self.usual_stays(legs)?;
        let joint = self.joint(rise, schedule, celsius, &usual, ages);
        if !self.model.varies() {
            return joint;
        }
        let at = |pick: fn((f64, f64)) -> f64| stays(legs, |l| self.model.range_c(l.place).map(pick));
        let (coldest, warmest) = (at(|r| r.0)?, at(|r| r.1)?);
        let all = [joint, self.joint(rise, schedule, celsius, &warmest, ages), self.joint(rise, schedule, celsius, &coldest, ages)];
        let (lo, hi) = (all.iter().flatten().map(|j| j.lo).min()?, all.iter().flatten().map(|j| j.hi).max()?);
        let nominal = joint.map_or_else(|| i32::midpoint(lo, hi), |j| j.nominal);
        Some(WaitRange { lo, nominal, hi })
    }

    /// The wait of a rise in these stays.
    pub(super) fn joint(&mut self, rise: RiseOf, schedule: &Schedule, celsius: f64, stays: &[OpenStay], ages: Ages) -> Option<WaitRange> {
        let place = stays.iter().find(|s| s.span.is_none())?.place;
        let (least, most) = self.limits(rise, place);
        let set: Minute = stays.iter().filter_map(|s| s.span).sum();
        let least = least.max(self.least_of(rise, schedule) - set);
        self.curves.joint(self.model, rise, celsius, stays, ages, (least, most))
    }

    /// The shortest a rise may be in all: by custom, and a proof behind a bulk in the oven as long as that takes to heat.
    fn least_of(&self, rise: RiseOf, schedule: &Schedule) -> Minute {
        let r = &self.rules;
        if r.begun.as_ref().is_some_and(|b| b.rise == rise) {
            return 0;
        }
        let in_oven = schedule.bulk.last().is_some_and(|l| l.place == Place::OvenLight);
        match rise {
            RiseOf::Leaven | RiseOf::Preferment => 0,
            RiseOf::Bulk => r.least.0,
            // Half of the shaping is counted in the proof, the whole of it passes before the load.
            RiseOf::Proof if in_oven => r.least.1.max(r.works.preheat - r.works.shape_min() + self.half_shape(schedule)),
            RiseOf::Proof => r.least.1,
        }
    }

    /// Legs at the mean warmth of a whole day.
    fn usual_stays(&self, legs: &[Leg]) -> Option<Vec<OpenStay>> {
        stays(legs, |l| self.model.mean_c(l.place, Span::new(0, DAY_MIN)))
    }

    /// Legs at the warmth of the hours they fall in, the open one `open_min` long.
    pub(super) fn stays_from(&self, legs: &[Leg], from: Minute, open_min: Minute) -> Option<Vec<OpenStay>> {
        let mut at = from;
        stays(legs, |l| {
            let span = Span::new(at, at + l.minutes.unwrap_or(open_min).max(1));
            at = span.to;
            self.model.mean_c(l.place, span)
        })
    }

    /// The waits of a way that is to be loaded at an hour, each as long as the hours it then falls in make it.
    pub(super) fn timed<'s>(&self, s: &'s Solved, load: Minute) -> Cow<'s, [WaitRange]> {
        let Some(schedule) = self.rules.schedules.get(s.schedule).filter(|_| self.model.varies()) else { return Cow::Borrowed(&s.joints) };
        let mut joints = s.joints.clone();
        let mut end = load;
        for (k, joint) in joints.iter_mut().enumerate().rev() {
            if let Some(place) = s.rises.iter().find(|r| r.open == k).and_then(|r| Some((r.rise, s.open_place(schedule, *r)?))) {
                joint.nominal = self.nominal_until(place, *joint, end);
            }
            end -= joint.nominal + s.lengths.get(k).copied().unwrap_or(0);
        }
        Cow::Owned(joints)
    }

    /// About how long an open wait is that ends then: as much shorter or longer as its place is faster or slower.
    fn nominal_until(&self, (rise, place): (RiseOf, Place), joint: WaitRange, end: Minute) -> Minute {
        const ROUNDS: usize = 3;
        let speed = |span: Span| self.model.mean_c(place, span).map_or(0.0, |c| self.model.speed(rise, c));
        let usual = speed(Span::new(0, DAY_MIN));
        let mut nominal = joint.nominal;
        for _ in 0..ROUNDS {
            let there = speed(Span::new(end - nominal.max(1), end));
            if there > 0.0 && usual > 0.0 {
                #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
                let scaled = (f64::from(joint.nominal) * usual / there).round() as Minute;
                nominal = scaled.clamp(joint.lo, joint.hi);
            }
        }
        nominal
    }
}

impl Solved {
    /// Where the open wait of a rise is spent.
    pub(super) fn open_place(&self, schedule: &Schedule, r: RiseSpan) -> Option<Place> {
        match r.rise {
            RiseOf::Leaven => schedule.feeds.get(r.open).map(|f| f.place),
            RiseOf::Preferment => schedule.sponge.map(|s| s.place),
            RiseOf::Bulk => schedule.bulk.get(r.open - r.first).map(|l| l.place),
            RiseOf::Proof => schedule.proof.get(r.open - r.first).map(|l| l.place),
        }
    }

    /// Its length from the first work to the load, the waits as likely.
    pub(super) fn nominal(&self, joints: &[WaitRange]) -> Minute {
        joints.iter().zip(&self.lengths).map(|(j, l)| j.nominal + l).sum()
    }

    /// The likeliest minute of a wait, or so far toward its first or its last.
    pub(super) fn leaning(&self, joint: WaitRange) -> Minute {
        let room = if self.lean < 0.0 { joint.nominal - joint.lo } else { joint.hi - joint.nominal };
        #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
        let by = (self.lean.clamp(-1.0, 1.0) * f64::from(room)).round() as Minute;
        joint.nominal + by
    }

    /// How far starts lie off what is likeliest, minutes in all.
    pub(super) fn off_nominal(&self, starts: &[Minute]) -> Minute {
        let gaps = starts.windows(2).zip(self.joints.iter().zip(&self.lengths));
        gaps.filter_map(|(w, (j, l))| Some((w.get(1)? - w.first()? - l - j.nominal).abs())).sum()
    }

    fn push(&mut self, rise: RiseOf, legs: &[Leg], open: WaitRange) {
        let first = self.joints.len();
        let at = legs.iter().position(|l| l.minutes.is_none()).unwrap_or(0);
        for (i, leg) in legs.iter().enumerate() {
            if i > 0 {
                self.works.push(Work::Move(leg.place));
            }
            self.joints.push(leg.minutes.map_or(open, WaitRange::fixed));
        }
        self.rises.push(RiseSpan { rise, first, count: legs.len(), open: first + at });
    }

    /// Cuts the warm waits so that every point of them keeps the limit from mixing to load; whether any is left.
    fn keep_warm_below(&mut self, schedule: &Schedule, limit: Minute) -> bool {
        let mut warm: Vec<usize> = Vec::new();
        for r in self.rises.iter().filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof)) {
            let legs = if r.rise == RiseOf::Bulk { &schedule.bulk } else { &schedule.proof };
            warm.extend(legs.iter().enumerate().filter(|(_, l)| l.place != Place::Fridge).map(|(i, _)| r.first + i));
        }
        let mix = self.works.iter().position(|w| *w == Work::Mix).unwrap_or(0);
        let shaping: Minute = self.lengths.iter().skip(mix + 1).take(self.lengths.len().saturating_sub(mix + 2)).sum();
        let sum = |pick: fn(&WaitRange) -> Minute| warm.iter().filter_map(|i| self.joints.get(*i)).map(pick).sum::<Minute>();
        let (lo, nominal, hi) = (sum(|j| j.lo) + shaping, sum(|j| j.nominal) + shaping, sum(|j| j.hi) + shaping);
        if lo > limit {
            return false;
        }
        let part = |share: f64, span: Minute| -> Minute {
            #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
            let cut = (share * f64::from(span)).floor() as Minute;
            cut
        };
        if nominal > limit {
            let share = f64::from(limit - lo) / f64::from((nominal - lo).max(1));
            for i in warm {
                if let Some(j) = self.joints.get_mut(i) {
                    j.nominal = j.lo + part(share, j.nominal - j.lo);
                    j.hi = j.nominal;
                }
            }
        } else if hi > limit {
            let share = f64::from(limit - nominal) / f64::from((hi - nominal).max(1));
            for i in warm {
                if let Some(j) = self.joints.get_mut(i) {
                    j.hi = j.nominal + part(share, j.hi - j.nominal);
                }
            }
        }
        true
    }
}
