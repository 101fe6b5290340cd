//! The search: every way solved for its waits, laid backward from the oven through the baker's hours,
//! placed where the dough is ripe, judged, and the truly different ones kept.

use super::{
    curve::{Ageing, Ages, Curves, age_after, celsius_after, from_here},
    hours::{Away, AwayKind, Joint, Minute, Set, Span, Windows, backward, both, fit, forward, nearest, placed},
    judge::{Judged, p_late, p_spoil},
    way::{Leg, RiseOf, Way, WayFamily, Work, Works},
};
use crate::kitchen::Place;

/// What a rise needs: dough hours until ripe, and shares of these.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RiseNeed {
    /// Dough hours at 24 °C until ripe.
    pub hours: f64,
    /// The least a plan aims at.
    pub lower: f64,
    /// The most.
    pub upper: f64,
    /// Where it is over.
    pub over: f64,
}

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
    fn need(&mut self, rise: RiseOf, way: &Way, past: Past) -> Option<RiseNeed>;
    /// Spread of ln(rate) over a rise.
    fn sigma(&self, rise: RiseOf, cold: bool) -> f64;
    /// How its need falls with the dose: −d ln need / d ln dose.
    fn exponent(&mut self, rise: RiseOf, way: &Way) -> f64;
}

/// What holds for one dough whatever the day.
#[derive(Debug, Clone)]
pub struct Rules {
    /// What its works take.
    pub works: Works,
    /// The ways to it, in a fixed order.
    pub ways: Vec<Way>,
    /// Bands of ripeness a bulk is planned in; the first is the one that is liked best.
    pub bands: Vec<(f64, f64)>,
    /// Whether half the shaping counts as proof.
    pub half_shape: bool,
    /// Longest stay out of the fridge: leaven or preferment, bulk, proof.
    pub longest_warm: (Minute, Minute, Minute),
    /// Longest stay in the fridge: bulk, proof.
    pub longest_cold: (Minute, Minute),
    /// Longest out of the fridge in all, of a dough with egg or milk.
    pub warm_limit: Option<Minute>,
    /// Folds, as shares of the bulk, and how few will do.
    pub folds: (Vec<f64>, usize),
    /// Hours of flavour wanted, 0 to 1.
    pub wanted_flavour: f64,
    /// Share of the flour that ripens in leaven or preferment.
    pub early_share: f64,
    /// Whether the dose counts in the cost of a way of this family.
    pub dose_counts: fn(WayFamily) -> bool,
    /// Whether waiting baked costs more after an hour and a half.
    pub stales: bool,
}

/// The shortest stay in the fridge worth it. Common practice, no source.
pub const SHORTEST_COLD_MIN: Minute = 360;
/// Ripeness may miss its aim by so much.
pub const AIM_SLACK: f64 = 0.05;
/// A fold may be done so much earlier or later.
const FOLD_SLACK_MIN: Minute = 15;
/// Sent on below this share of its lower aim a dough fails.
const LOW_HARD: f64 = 0.8;

/// The day: when now is, when the bread is wanted, and the hours that are not the dough's.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Day {
    /// Nothing begins before.
    pub from: Minute,
    /// When it is to be sliced; none: as soon as it can be.
    pub ready: Option<Minute>,
    /// How long before it may be ready.
    pub early: Minute,
    /// Everything lies inside.
    pub horizon: Span,
    /// The baker's hours.
    pub away: Vec<Away>,
    /// Hands taken by another dough.
    pub hands_taken: Vec<Span>,
    /// Oven taken by another dough.
    pub oven_taken: Vec<Span>,
    /// When the mix may begin, where the leaven stands ready.
    pub mix_within: Option<Span>,
    /// Whether the baker may be woken once, for ten minutes.
    pub woken: bool,
}

impl Day {
    fn windows(&self) -> Windows {
        let horizon = Span::new(self.from.max(self.horizon.from), self.horizon.to);
        Windows::of_hours(horizon, &self.away, &self.hands_taken, &self.oven_taken)
    }
}

/// A way in a band with its waits solved.
#[derive(Debug, Clone)]
pub struct Solved {
    /// Which way.
    pub way: usize,
    /// Which band.
    pub band: usize,
    /// Its works in order.
    pub works: Vec<Work>,
    /// The waits between them.
    pub joints: Vec<Joint>,
    /// For each rise the waits it is made of, and which of them is open.
    pub rises: Vec<RiseSpan>,
    lengths: Vec<Minute>,
    hands_min: Minute,
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

/// A rise as it is placed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RisePlaced {
    /// Which.
    pub rise: RiseOf,
    /// From.
    pub from: Minute,
    /// When the baker acts.
    pub to: Minute,
    /// Minutes of its open leg.
    pub open_min: Minute,
    /// Temperature at its start, °C.
    pub start_c: f64,
    /// What it needs.
    pub need: RiseNeed,
    /// The judgement.
    pub judged: Judged,
    /// How long the act may wait, and how much sooner it may be, other times as they are.
    pub slack: (Minute, Minute),
}

/// A plan: a way with its clock.
#[derive(Debug, Clone)]
pub struct Laid {
    /// Which way.
    pub way: usize,
    /// Its works.
    pub works: Vec<Work>,
    /// When each begins.
    pub starts: Vec<Minute>,
    /// Its rises.
    pub rises: Vec<RisePlaced>,
    /// Folds that have their minute.
    pub folds: Vec<Minute>,
    /// Folds for which nobody is there.
    pub folds_missed: usize,
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

impl Laid {
    /// When a work begins, if it is part of it.
    #[must_use]
    pub fn start_of(&self, wanted: impl Fn(Work) -> bool) -> Option<Minute> {
        self.works.iter().zip(&self.starts).find(|(w, _)| wanted(**w)).map(|(_, at)| *at)
    }
    /// When it goes into the oven.
    #[must_use]
    pub fn load(&self) -> Minute {
        self.starts.last().copied().unwrap_or(0)
    }
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
}

/// A solved way that has a place in the day: what it seems to cost, which, its sets, the load that is wanted.
type Hope = (f64, usize, Vec<Set>, Minute);

const RIPE_PAST: Past = Past { feed: 0, leaven: 1.0, bulk: 1.0 };

impl<'m, M: Model> Search<'m, M> {
    /// Solves the waits of every way.
    pub fn new(model: &'m mut M, rules: Rules) -> Self {
        let mut search = Self { model, rules, solved: Vec::new(), curves: Curves::default(), hands: Vec::new() };
        let bands = search.rules.bands.len().max(1);
        for way in 0..search.rules.ways.len() {
            for band in 0..bands {
                if let Some(mut solved) = search.solve(way, band) {
                    solved.hands_min = solved.works.iter().map(|w| search.hands_of(*w)).sum();
                    search.solved.push(solved);
                }
                if search.rules.ways.get(way).is_none_or(|w| w.bulk.is_empty() || w.family == WayFamily::Rest) {
                    break;
                }
            }
        }
        search
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
        match (rise, place) {
            (RiseOf::Bulk, Place::Fridge) => (SHORTEST_COLD_MIN, r.longest_cold.0),
            (_, Place::Fridge) => (SHORTEST_COLD_MIN, r.longest_cold.1),
            (RiseOf::Leaven | RiseOf::Preferment, _) => (0, r.longest_warm.0),
            (RiseOf::Bulk, _) => (0, r.longest_warm.1),
            (RiseOf::Proof, _) => (0, r.longest_warm.2),
        }
    }

    fn ages(&self, rise: RiseOf, need: RiseNeed, band: usize) -> Option<Ages> {
        let (mut lower, mut upper) = (need.lower, need.upper);
        if rise == RiseOf::Bulk
            && let Some((a, b)) = self.rules.bands.get(band)
        {
            (lower, upper) = (lower.max(*a), upper.min(*b));
        }
        let nominal = 1.0_f64.clamp(lower, upper.max(lower));
        (lower <= upper).then_some(Ages { lower: lower * need.hours, nominal: nominal * need.hours, upper: upper * need.hours })
    }

    /// Legs as the curve takes them: the half of shaping that counts, then the places.
    fn legs(&self, rise: RiseOf, way: &Way) -> Vec<Leg> {
        let half = (rise == RiseOf::Proof && self.rules.half_shape && !way.bulk.is_empty())
            .then(|| Leg::fixed(Place::Room, self.rules.works.shape_min() / 2));
        half.into_iter().chain(if rise == RiseOf::Proof { &way.proof } else { &way.bulk }.iter().copied()).collect()
    }

    fn solve(&mut self, index: usize, band: usize) -> Option<Solved> {
        let way = self.rules.ways.get(index)?.clone();
        let mut s =
            Solved { way: index, band, works: Vec::new(), joints: Vec::new(), rises: Vec::new(), lengths: Vec::new(), hands_min: 0 };
        if way.family == WayFamily::Rest {
            s.works = vec![Work::Mix, Work::Shape, Work::Bake { cold: false }];
            s.joints = vec![Joint { lo: 20, nominal: 30, hi: 180 }, Joint { lo: 0, nominal: 15, hi: 60 }];
            s.lengths = s.works.iter().map(|w| self.rules.works.length(*w)).collect();
            return Some(s);
        }
        for (feed, place) in way.feeds.iter().map(|f| f.place).chain(way.sponge.map(|s| s.place)).enumerate() {
            let rise = if way.sponge.is_some() { RiseOf::Preferment } else { RiseOf::Leaven };
            let need = self.model.need(rise, &way, Past { feed, ..RIPE_PAST })?;
            let ages = self.ages(rise, need, band)?;
            let joint = self.curves.joint(self.model, rise, 24.0, &[Leg::open(place)], ages, self.limits(rise, place))?;
            s.rises.push(RiseSpan { rise, first: s.joints.len(), count: 1, open: s.joints.len() });
            s.works.push(Work::Feed);
            s.joints.push(joint);
        }
        s.works.push(Work::Mix);
        let mut celsius = way.mix_c;
        let mut bulk_at = 1.0;
        if !way.bulk.is_empty() {
            let need = self.model.need(RiseOf::Bulk, &way, RIPE_PAST)?;
            let ages = self.ages(RiseOf::Bulk, need, band)?;
            let legs = self.legs(RiseOf::Bulk, &way);
            let joint = self.open(RiseOf::Bulk, celsius, &legs, ages)?;
            celsius = celsius_after(self.model, RiseOf::Bulk, celsius, &legs, f64::from(joint.nominal));
            bulk_at = self.rules.bands.get(band).map_or(1.0, |(a, b)| f64::midpoint(*a, *b));
            s.push(RiseOf::Bulk, &way.bulk, joint);
            s.works.push(Work::Shape);
        }
        let need = self.model.need(RiseOf::Proof, &way, Past { bulk: bulk_at, ..RIPE_PAST })?;
        let ages = self.ages(RiseOf::Proof, need, band)?;
        let legs = self.legs(RiseOf::Proof, &way);
        let mut joint = self.open(RiseOf::Proof, celsius, &legs, ages)?;
        let cold = way.proof.last().is_some_and(|l| l.place == Place::Fridge);
        if self.rules.works.loads > 1 {
            joint.hi -= (self.rules.works.loads - 1) * self.rules.works.pitch(cold);
            joint.nominal = joint.nominal.min(joint.hi);
            if joint.hi < joint.lo {
                return None;
            }
        }
        s.push(RiseOf::Proof, &way.proof, joint);
        s.works.push(Work::Bake { cold });
        s.lengths = s.works.iter().map(|w| self.rules.works.length(*w)).collect();
        self.rules.warm_limit.is_none_or(|limit| s.keep_warm_below(&way, limit)).then_some(s)
    }

    fn open(&mut self, rise: RiseOf, celsius: f64, legs: &[Leg], ages: Ages) -> Option<Joint> {
        let place = legs.iter().find(|l| l.minutes.is_none())?.place;
        let limits = self.limits(rise, place);
        self.curves.joint(self.model, rise, celsius, legs, ages, limits)
    }

    /// The sets of starts of one solved way on this day; empty where it has no place in it.
    fn sets(&self, s: &Solved, fits: &[(Work, Set)], day: &Day) -> Vec<Set> {
        let cold = s.works.last() == Some(&Work::Bake { cold: true });
        let after = self.rules.works.length(Work::Bake { cold }) + self.rules.works.cool;
        let last = day.ready.map_or(day.horizon, |ready| Span::new(ready - after - day.early, ready - after));
        let mut sets = backward(&fits_of(s, fits), &s.lengths, &s.joints, &[last]);
        if let Some(first) = sets.first_mut() {
            *first = both(first, &[Span::new(day.from, Minute::MAX / 4)]);
            if first.is_empty() {
                return Vec::new();
            }
        }
        sets
    }

    fn fits(&self, day: &Day) -> Vec<(Work, Set)> {
        let mut windows = day.windows();
        if day.woken {
            // Short work of hands fits into the night; what must be watched does not.
            let gone = day.away.iter().filter(|a| a.kind != AwayKind::Asleep).map(|a| a.span).chain(day.hands_taken.iter().copied());
            windows.hands = super::hours::free(Span::new(day.from.max(day.horizon.from), day.horizon.to), gone);
        }
        let mut fits: Vec<(Work, Set)> = Vec::new();
        for work in self.solved.iter().flat_map(|s| &s.works) {
            if !fits.iter().any(|(w, _)| w == work) {
                let mut set = fit(&self.rules.works.segs(*work), &windows);
                if let (Work::Mix, Some(within)) = (work, day.mix_within) {
                    set = both(&set, &[within]);
                }
                fits.push((*work, set));
            }
        }
        fits
    }

    /// Plans for the day: the best of each family in order of cost, at most `most`, truly different.
    pub fn plans(&mut self, day: &Day, most: usize) -> Vec<Laid> {
        let mut stand: Vec<Laid> = Vec::new();
        for family in WayFamily::ALL {
            stand.extend(self.stand(day, family, 14, 120));
        }
        stand.sort_by(|a, b| {
            let cost = |l: &Laid| (1e6 * l.cost).round();
            cost(a).total_cmp(&cost(b)).then_with(|| b.starts.first().cmp(&a.starts.first())).then_with(|| a.way.cmp(&b.way))
        });
        let sound = stand.iter().any(|l| l.p_spoil <= 0.30);
        if sound {
            stand.retain(|l| l.p_spoil <= 0.30);
        }
        let family = |l: &Laid| self.rules.ways.get(l.way).map(|w| w.family);
        let mut chosen: Vec<Laid> = Vec::new();
        for l in &stand {
            if !chosen.iter().any(|c| family(c) == family(l)) {
                chosen.push(l.clone());
            }
        }
        let mut rest = stand.iter();
        while chosen.len() < 3 {
            let Some(l) = rest.next() else { break };
            if chosen.iter().all(|c| self.differ(c, l)) {
                chosen.push(l.clone());
            }
        }
        chosen.truncate(most);
        for l in &mut chosen {
            self.slacken_all(l);
        }
        chosen
    }

    fn slacken_all(&self, l: &mut Laid) {
        let Some(way) = self.rules.ways.get(l.way).cloned() else { return };
        for p in &mut l.rises {
            self.slacken(p, &way);
        }
    }

    fn differ(&self, a: &Laid, b: &Laid) -> bool {
        let (Some(x), Some(y)) = (self.rules.ways.get(a.way), self.rules.ways.get(b.way)) else { return false };
        let moved = |work: fn(Work) -> bool| match (a.start_of(work), b.start_of(work)) {
            (Some(p), Some(q)) => (p - q).abs() >= 240,
            _ => false,
        };
        x.family != y.family
            || (x.places() != y.places()
                && (moved(|w| w == Work::Mix) || moved(|w| w == Work::Shape) || moved(|w| matches!(w, Work::Bake { .. }))))
    }

    /// Ways of one family that stand on this day, in order of what they seem to cost.
    pub fn stand(&mut self, day: &Day, family: WayFamily, most: usize, tries: usize) -> Vec<Laid> {
        let fits = self.fits(day);
        let windows = day.windows();
        let mut hopes: Vec<Hope> = Vec::new();
        for (i, s) in self.solved.iter().enumerate().filter(|(_, s)| self.family_of(s) == Some(family)) {
            let sets = self.sets(s, &fits, day);
            let Some(first) = sets.first().and_then(|f| f.first()) else { continue };
            let wanted = self.wanted_load(s, day, first.from);
            if let Some(starts) = placed(&sets, &s.lengths, &s.joints, wanted) {
                hopes.push((self.cost_of(s, &starts, &[], day, 0), i, sets, wanted));
            }
        }
        hopes.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
        let mut stand = Vec::new();
        for (_, i, sets, wanted) in hopes.iter().take(tries) {
            let Some(s) = self.solved.get(*i).cloned() else { continue };
            if let Some(laid) = self.lay(&s, sets, *wanted, day, &windows) {
                stand.push(laid);
                if stand.len() >= most {
                    return stand;
                }
            }
        }
        if stand.is_empty() {
            stand.extend(self.shifted(&hopes, tries, day, &windows));
        }
        stand
    }

    /// What is likeliest may miss an aim by minutes where a little sooner or later does not: an hour given must
    /// never take a plan away.
    fn shifted(&mut self, hopes: &[Hope], tries: usize, day: &Day, windows: &Windows) -> Option<Laid> {
        const STEP: Minute = 10;
        const FARTHEST: Minute = 30;
        const MOVED: usize = 40;
        let beyond = hopes.iter().skip(tries).map(|h| (h, 0));
        let moved = (1..=FARTHEST).flat_map(|n| [-n * STEP, n * STEP]).flat_map(|by| hopes.iter().take(MOVED).map(move |h| (h, by)));
        for ((_, i, sets, wanted), by) in beyond.chain(moved) {
            let Some(s) = self.solved.get(*i).cloned() else { continue };
            if let Some(laid) = self.lay(&s, sets, wanted + by, day, windows) {
                return Some(laid);
            }
        }
        None
    }

    fn family_of(&self, s: &Solved) -> Option<WayFamily> {
        self.rules.ways.get(s.way).map(|w| w.family)
    }

    fn wanted_load(&self, s: &Solved, day: &Day, first: Minute) -> Minute {
        let whole: Minute = s.joints.iter().zip(&s.lengths).map(|(j, l)| j.nominal + l).sum();
        let cold = s.works.last() == Some(&Work::Bake { cold: true });
        day.ready.map_or(first + whole, |ready| ready - self.rules.works.length(Work::Bake { cold }) - self.rules.works.cool)
    }

    /// Places a way in truth: each wait solved again from the state the dough really is in then.
    fn lay(&mut self, s: &Solved, sets: &[Set], wanted: Minute, day: &Day, windows: &Windows) -> Option<Laid> {
        let way = self.rules.ways.get(s.way)?.clone();
        let whole: Minute = s.joints.iter().zip(&s.lengths).map(|(j, l)| j.nominal + l).sum();
        let mut at = nearest(sets.first()?, wanted - whole)?;
        let mut starts = vec![at];
        let mut rises: Vec<RisePlaced> = Vec::new();
        let mut past = RIPE_PAST;
        let mut celsius = way.mix_c;
        for (k, (joint, length)) in s.joints.iter().zip(&s.lengths).enumerate() {
            let next = sets.get(k + 1)?;
            let begins = at + length;
            let (mut window, mut truth) = (*joint, None);
            let of_rise = s.rises.iter().find(|r| (r.first..r.first + r.count).contains(&k)).copied();
            if let Some(r) = of_rise.filter(|r| r.open == k) {
                let legs = match r.rise {
                    RiseOf::Leaven | RiseOf::Preferment => {
                        celsius = 24.0;
                        vec![Leg::open(way.feeds.get(past.feed).map(|f| f.place).or(way.sponge.map(|s| s.place))?)]
                    }
                    rise => self.legs(rise, &way),
                };
                if r.rise == RiseOf::Bulk {
                    celsius = way.mix_c;
                }
                let need = self.model.need(r.rise, &way, past)?;
                let ages = self.ages(r.rise, need, s.band)?;
                if let Some(mut w) = self.open(r.rise, celsius, &legs, ages) {
                    // What was cut off for food's sake or for a second load stays cut off.
                    w.hi = w.hi.min(joint.hi.max(w.lo));
                    w.nominal = w.nominal.clamp(w.lo, w.hi);
                    window = w;
                }
                truth = Some((r, legs, need));
            }
            let here = |j: Joint| nearest(&both(next, &[Span::new(begins + j.lo, begins + j.hi)]), begins + window.nominal);
            at = here(window).or_else(|| here(*joint))?;
            starts.push(at);
            if let Some((r, legs, need)) = truth {
                let open_min = at - begins;
                let (age, end_c) = age_after(self.model, r.rise, celsius, &legs, f64::from(open_min));
                let ripeness = age / need.hours;
                if ripeness < need.lower - AIM_SLACK || ripeness > need.upper + AIM_SLACK {
                    return None;
                }
                let from = starts.get(r.first).copied().unwrap_or(begins) + s.lengths.get(r.first).copied().unwrap_or(0);
                rises.push(RisePlaced {
                    rise: r.rise,
                    from,
                    to: at,
                    open_min,
                    start_c: celsius,
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
            self.judge(p, &way, windows);
        }
        let (folds, folds_missed) = self.folds(&way, &rises, windows);
        let mut laid = self.finish(s, starts, rises, day)?;
        (laid.folds, laid.folds_missed) = (folds, folds_missed);
        if laid.folds.len() < self.rules.folds.1 && !way.bulk.is_empty() && !self.rules.folds.0.is_empty() {
            laid.cost += 0.1;
        }
        if let (true, Some(limit)) = (self.rules.warm_limit.is_some(), self.rules.warm_limit)
            && laid.warm_min > limit
        {
            return None;
        }
        Some(laid)
    }

    fn leg_list(&self, p: &RisePlaced, way: &Way) -> Vec<Leg> {
        match p.rise {
            RiseOf::Leaven | RiseOf::Preferment => {
                let place = way.feeds.first().map(|f| f.place).or(way.sponge.map(|s| s.place)).unwrap_or(Place::Room);
                vec![Leg::open(place)]
            }
            rise => self.legs(rise, way),
        }
    }

    /// Exposure and spread of a placed rise.
    fn judge(&self, p: &mut RisePlaced, way: &Way, windows: &Windows) {
        let legs = self.leg_list(p, way);
        let cold = legs.iter().any(|l| self.model.place_c(l.place).is_some_and(|c| c < 12.0));
        p.judged.sigma = self.model.sigma(p.rise, cold);
        let begins = if p.rise == RiseOf::Proof && self.rules.half_shape && !way.bulk.is_empty() {
            p.from - self.rules.works.shape_min() / 2
        } else {
            p.from
        };
        let free_from = windows.hands.iter().rfind(|w| w.from <= p.to && p.to <= w.to).map_or(p.to, |w| w.from);
        let seen = free_from.max(p.from) - begins;
        p.judged.exposed = age_by(self.model, p.rise, p.start_c, &legs, p.open_min, seen) / p.need.hours;
    }

    /// How long the act that ends a placed rise may wait, and how much sooner it may be: the dough stands on in
    /// the last of its places.
    fn slacken(&self, p: &mut RisePlaced, way: &Way) {
        let legs = self.leg_list(p, way);
        let Some((last, before)) = legs.split_last() else { return };
        let length = last.minutes.unwrap_or(p.open_min);
        let fixed: Vec<Leg> = before.iter().map(|l| Leg::fixed(l.place, l.minutes.unwrap_or(p.open_min))).collect();
        let (age, celsius) = age_after(self.model, p.rise, p.start_c, &fixed, 0.0);
        let here = from_here(self.model, p.rise, celsius, last.place, age, p.need);
        #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
        let minutes = |x: Option<f64>, never: Minute| x.map_or(never, |m| m.round() as Minute);
        p.slack = ((length - minutes(here.lo, 0)).max(0), (minutes(here.over, 5040) - length).max(0));
    }

    fn folds(&self, way: &Way, rises: &[RisePlaced], windows: &Windows) -> (Vec<Minute>, usize) {
        let Some(bulk) = rises.iter().find(|r| r.rise == RiseOf::Bulk) else { return (Vec::new(), 0) };
        let mut found = Vec::new();
        let mut missed = 0;
        let whole = f64::from(bulk.to - bulk.from);
        // In the fridge nothing is folded: only the warm hours before it count.
        let before_cold: Minute = way.bulk.iter().take_while(|l| l.place != Place::Fridge).filter_map(|l| l.minutes).sum();
        let span = if way.bulk.iter().any(|l| l.place == Place::Fridge) { f64::from(before_cold) } else { whole };
        for share in &self.rules.folds.0 {
            #[allow(clippy::cast_possible_truncation, reason = "minutes of a rise")]
            let wanted = bulk.from + (share * span).round() as Minute;
            let free: Set = windows.hands.iter().map(|w| Span::new(w.from, w.to - 3)).filter(|w| w.from <= w.to).collect();
            match nearest(&free, wanted).filter(|at| (at - wanted).abs() <= FOLD_SLACK_MIN && *at > bulk.from && *at + 3 <= bulk.to) {
                Some(at) if found.last().is_none_or(|last| at >= last + 10) => found.push(at),
                _ => missed += 1,
            }
        }
        (found, missed)
    }

    fn finish(&self, s: &Solved, starts: Vec<Minute>, rises: Vec<RisePlaced>, day: &Day) -> Option<Laid> {
        let way = self.rules.ways.get(s.way)?;
        let load = *starts.last()?;
        let cold = s.works.last() == Some(&Work::Bake { cold: true });
        let ready = load + self.rules.works.length(Work::Bake { cold }) + self.rules.works.cool;
        let judged: Vec<Judged> = rises.iter().map(|r| r.judged).collect();
        let wakes = starts
            .iter()
            .filter(|at| day.woken && day.away.iter().any(|a| a.kind == AwayKind::Asleep && a.span.from < **at + 1 && **at < a.span.to))
            .count();
        if wakes > 1 {
            return None;
        }
        let mixed = s.works.iter().position(|w| *w == Work::Mix).and_then(|k| Some(starts.get(k)? + s.lengths.get(k)?))?;
        let fridge = self.fridge_min(s, way, &starts);
        let mut laid = Laid {
            way: s.way,
            works: s.works.clone(),
            hands_min: s.hands_min,
            ready,
            p_spoil: p_spoil(&judged),
            p_late: p_late(&judged),
            warm_min: load - mixed - fridge,
            folds: Vec::new(),
            folds_missed: 0,
            cost: 0.0,
            starts,
            rises,
        };
        laid.cost = self.cost_of(s, &laid.starts, &laid.rises, day, wakes);
        Some(laid)
    }

    fn fridge_min(&self, s: &Solved, way: &Way, starts: &[Minute]) -> Minute {
        let mut sum = 0;
        for r in s.rises.iter().filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof)) {
            let legs = if r.rise == RiseOf::Bulk { &way.bulk } else { &way.proof };
            for (i, _) in legs.iter().enumerate().filter(|(_, l)| l.place == Place::Fridge) {
                let k = r.first + i;
                if let (Some(a), Some(b), Some(l)) = (starts.get(k), starts.get(k + 1), s.lengths.get(k)) {
                    sum += b - a - l;
                }
            }
        }
        sum
    }

    fn cost_of(&self, s: &Solved, starts: &[Minute], rises: &[RisePlaced], day: &Day, wakes: usize) -> f64 {
        let r = &self.rules;
        let Some(way) = r.ways.get(s.way) else { return f64::INFINITY };
        let minutes = |wanted: &[RiseOf]| -> f64 {
            s.rises
                .iter()
                .filter(|x| wanted.contains(&x.rise))
                .map(|x| {
                    let from = starts.get(x.first).copied().unwrap_or(0) + s.lengths.get(x.first).copied().unwrap_or(0);
                    f64::from(starts.get(x.first + x.count).copied().unwrap_or(from) - from)
                })
                .sum()
        };
        let hours = (minutes(&[RiseOf::Bulk, RiseOf::Proof]) + r.early_share * minutes(&[RiseOf::Leaven, RiseOf::Preferment])) / 60.0;
        let flavour = ((hours.max(1e-6) / 2.0).ln() / 12.0_f64.ln()).clamp(0.0, 1.0);
        let judged: Vec<Judged> = rises.iter().map(|x| x.judged).collect();
        let off: f64 = rises.iter().filter(|x| matches!(x.rise, RiseOf::Bulk | RiseOf::Proof)).map(|x| x.judged.ripeness.ln().abs()).sum();
        let cold = s.works.last() == Some(&Work::Bake { cold: true });
        let ready = starts.last().copied().unwrap_or(0) + r.works.length(Work::Bake { cold }) + r.works.cool;
        let stale = day.ready.map_or(0.0, |wanted| {
            let e = f64::from((wanted - ready).max(0));
            e / 600.0 + if r.stales { (e - 90.0).max(0.0) / 300.0 } else { 0.0 }
        });
        let sponge = way.sponge.map_or(0.0, |p| p.pct * r.early_share);
        let dose = if (r.dose_counts)(way.family) { 0.15 * (way.dose + sponge).ln().abs() } else { 0.0 };
        let hands = s.hands_min;
        #[allow(clippy::cast_precision_loss, reason = "a handful of works")]
        let (blocks, wakes) = (s.works.len() as f64, wakes as f64);
        let band = if s.band > 0 { 0.1 } else { 0.0 };
        let soon = if day.ready.is_none() { 0.15 * f64::from(ready - day.from) / 60.0 } else { 0.0 };
        4.0 * if judged.is_empty() { 0.0 } else { p_spoil(&judged) }
            + if judged.is_empty() { 0.0 } else { p_late(&judged) }
            + 1.5 * wakes
            + 0.08 * blocks
            + 0.004 * f64::from(hands)
            + 0.5 * (flavour - r.wanted_flavour).abs()
            + off
            + dose
            + stale
            + soon
            + band
    }

    /// The same plan with another dose: its way solved and laid again, at the clock it has.
    pub fn with_dose(&mut self, laid: &Laid, dose: f64, day: &Day) -> Option<Laid> {
        let way = Way { dose, ..self.rules.ways.get(laid.way)?.clone() };
        let index = self.rules.ways.len();
        self.rules.ways.push(way);
        let windows = day.windows();
        let fits = self.fits(day);
        let found = (0..self.rules.bands.len().max(1)).find_map(|band| {
            let mut solved = self.solve(index, band)?;
            solved.hands_min = solved.works.iter().map(|w| self.hands_of(*w)).sum();
            let sets = self.sets(&solved, &fits, day);
            sets.first()?;
            self.lay(&solved, &sets, laid.load(), day, &windows)
        });
        let found = found.map(|mut l| {
            self.slacken_all(&mut l);
            l
        });
        if found.is_none() {
            self.rules.ways.pop();
        }
        found
    }

    /// Whether any way stands on this day: chains nearest to what is likeliest first, at most `tries`.
    pub fn any(&mut self, day: &Day, tries: usize) -> Option<Laid> {
        let fits = self.fits(day);
        let windows = day.windows();
        let mut hopes: Vec<(Minute, usize, Vec<Set>, Minute)> = Vec::new();
        for (i, s) in self.solved.iter().enumerate() {
            let sets = self.sets(s, &fits, day);
            let Some(first) = sets.first().and_then(|f| f.first()) else { continue };
            let wanted = self.wanted_load(s, day, first.from);
            if let Some(starts) = placed(&sets, &s.lengths, &s.joints, wanted) {
                let off: Minute = starts
                    .windows(2)
                    .zip(s.joints.iter().zip(&s.lengths))
                    .filter_map(|(w, (j, l))| Some((w.get(1)? - w.first()? - l - j.nominal).abs()))
                    .sum();
                hopes.push((off, i, sets, wanted));
            }
        }
        hopes.sort_by_key(|h| (h.0, h.1));
        hopes.into_iter().take(tries).find_map(|(_, i, sets, wanted)| {
            let s = self.solved.get(i).cloned()?;
            let mut laid = self.lay(&s, &sets, wanted, day, &windows)?;
            self.slacken_all(&mut laid);
            Some(laid)
        })
    }

    /// The least minute from `from` on at which any way could be loaded, by the sets alone.
    pub fn least_ready(&self, day: &Day, from: Minute) -> Option<Minute> {
        let fits = self.fits(day);
        let least = |s: &Solved| {
            let cold = s.works.last() == Some(&Work::Bake { cold: true });
            let after = self.rules.works.length(Work::Bake { cold }) + self.rules.works.cool;
            let set = forward(&fits_of(s, &fits), &s.lengths, &s.joints, day.from);
            let later = both(&set, &[Span::new(from - after, Minute::MAX / 4)]);
            later.first().map(|f| f.from + after)
        };
        self.solved.iter().filter_map(least).min()
    }

    /// The latest minute at which any way could begin, by the sets alone, with the past open.
    pub fn latest_start(&self, day: &Day) -> Option<Minute> {
        let fits = self.fits(day);
        self.solved.iter().filter_map(|s| self.sets(s, &fits, day).first().and_then(|f| f.last()).map(|x| x.to)).max()
    }
}

fn fits_of<'f>(s: &Solved, fits: &'f [(Work, Set)]) -> Vec<&'f [Span]> {
    s.works.iter().map(|w| fits.iter().find(|(x, _)| x == w).map_or(&[][..], |(_, set)| set.as_slice())).collect()
}

/// Age so many minutes after the start of a rise whose open leg is `open_min` long; past its end it stands on.
fn age_by(m: &impl Ageing, rise: RiseOf, start_c: f64, legs: &[Leg], open_min: Minute, minutes: Minute) -> f64 {
    let mut left = minutes;
    let mut cut: Vec<Leg> = Vec::with_capacity(legs.len());
    for (i, leg) in legs.iter().enumerate() {
        let length = if i + 1 == legs.len() { left } else { leg.minutes.unwrap_or(open_min).min(left) };
        cut.push(Leg::fixed(leg.place, length.max(0)));
        left -= length;
        if left <= 0 {
            break;
        }
    }
    age_after(m, rise, start_c, &cut, 0.0).0
}

impl Solved {
    fn push(&mut self, rise: RiseOf, legs: &[Leg], open: Joint) {
        let first = self.joints.len();
        let at = legs.iter().position(|l| l.minutes.is_none()).unwrap_or(0);
        for (i, leg) in legs.iter().enumerate() {
            if i > 0 {
                self.works.push(Work::Move(leg.place));
            }
            self.joints.push(leg.minutes.map_or(open, Joint::fixed));
        }
        self.rises.push(RiseSpan { rise, first, count: legs.len(), open: first + at });
    }

    /// Cuts the warm waits so that every point of them keeps the limit from mixing to load; whether any is left.
    fn keep_warm_below(&mut self, way: &Way, limit: Minute) -> bool {
        let mut warm: Vec<usize> = Vec::new();
        for r in self.rises.iter().filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof)) {
            let legs = if r.rise == RiseOf::Bulk { &way.bulk } else { &way.proof };
            warm.extend(legs.iter().enumerate().filter(|(_, l)| l.place != Place::Fridge).map(|(i, _)| r.first + i));
        }
        let mix = self.works.iter().position(|w| *w == Work::Mix).unwrap_or(0);
        let shaping: Minute = self.lengths.iter().skip(mix + 1).take(self.lengths.len().saturating_sub(mix + 2)).sum();
        let sum = |pick: fn(&Joint) -> Minute| warm.iter().filter_map(|i| self.joints.get(*i)).map(pick).sum::<Minute>();
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
