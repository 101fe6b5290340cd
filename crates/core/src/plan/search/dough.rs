//! The product's own rise model as the search asks it: needs from runs at 24 °C, once for each dose and
//! past, for a dough's state depends on its dough time alone.

use std::borrow::Cow;

use rustc_hash::FxHashMap;

use jiff::Timestamp;

use super::{
    curve::Ageing,
    curve::RiseNeed,
    hours::{Minute, Span},
    schedule::{RiseOf, Schedule},
    solve::{FED_C, Model, Past, RIPE_PAST},
};
use crate::{
    ferment::{
        Act, Constants, Dough, EventKind, Forecast, Leaven, LeavenState, Pace, Population, Rate, Rise, RiseKind, RiseStage, simulate,
        simulate_leaven, time_constant_min,
    },
    formula::{CHILLED_C, Preferment, Raising, WARM_LIMIT_MIN},
    kitchen::{Nights, Place},
    knead::Folds,
    leaven::{BEST, OVER},
    plan::later,
};

/// What is fixed of a dough while ways to it are looked for.
#[derive(Debug, Clone)]
pub struct DoughFacts {
    /// Style of the rise model.
    pub style: String,
    /// The dough at its usual dose.
    pub dough: Dough,
    /// All of it, g.
    pub dough_g: f64,
    /// One piece, g.
    pub piece_g: f64,
    /// What one piece proves in.
    pub proof_vessel: &'static str,
    /// Whether it holds egg or milk: in the fridge it lies flat on a tray.
    pub perishable: bool,
    /// Whether the fridge makes it cold soon enough.
    pub fridge_chills: bool,
    /// What raises it.
    pub raising: Option<Raising>,
    /// The leaven: class of its flour, its hydration.
    pub leaven: Option<(String, f64)>,
    /// Days the seed has stood in the fridge.
    pub cold_days: f64,
    /// The leaven as it stands in its jar, where a jar is known.
    pub jar: Option<LeavenState>,
    /// Its preferment with baker's yeast: its own, or the one that may be added.
    pub preferment: Preferment,
    /// How cold it can leave the bowl, and how warm, °C.
    pub reach_c: (f64, f64),
    /// Folds over the bulk.
    pub folds: Folds,
    /// How far the bulk goes, and the proof.
    pub paces: (Pace, Pace),
    /// Warmth of the places the household has.
    pub places: Vec<(Place, f64)>,
    /// Nights in which some of them are another.
    pub nights: Option<Nights>,
    /// The instant from which a plan's minutes are counted.
    pub anchor: Timestamp,
    /// How high the kitchen lies, m.
    pub altitude_m: f64,
    /// How fast it runs, times the book.
    pub rate: f64,
    /// Spread of ln(rate), where it is known better than from the book.
    pub log_sigma: Option<f64>,
}

/// A dough comes from the mix at this at the warmest, °C.
const WARMEST_C: f64 = 26.0;

/// Whether the fridge of these places makes a dough cold: one with egg or milk, flat on a tray, within its hours in
/// the warm, by the model's own time constant.
#[must_use]
pub fn fridge_chills(places: &[(Place, f64)], perishable: bool, dough_g: f64, k: &Constants) -> bool {
    let Some((_, c)) = places.iter().find(|(p, _)| *p == Place::Fridge) else { return false };
    if !perishable {
        return true;
    }
    let tau = time_constant_min(dough_g, in_fridge(perishable), "covered", "still", k);
    *c < CHILLED_C && tau * ((WARMEST_C - c) / (CHILLED_C - c)).ln() <= WARM_LIMIT_MIN
}

/// What a dough lies in in the fridge: one with egg or milk flat, so that it is cold soon.
const fn in_fridge(perishable: bool) -> &'static str {
    if perishable { "tray" } else { "bowl" }
}

/// How high a preferment is let rise.
const SPONGE_RATIO: f64 = 2.4;
/// A preferment: share of its dough time, and the R at which it is over.
const SPONGE_AIM: (f64, f64, f64) = (0.90, 1.15, 2.0);
/// Share of its dough time a rise may be taken on at, from and to.
pub(in crate::plan) const BULK_AIM: (f64, f64) = (0.85, 1.15);
pub(in crate::plan) const PROOF_AIM: (f64, f64) = (0.88, 1.12);
/// The upper aim keeps this share of the way to over.
const UPPER_SHARE: f64 = 0.6;

/// Between which shares of its dough time a rise may be taken on that is over at this share.
#[must_use]
pub fn aims(kind: RiseKind, over: f64) -> (f64, f64) {
    let (lower, upper) = if kind == RiseKind::Proof { PROOF_AIM } else { BULK_AIM };
    (lower, upper.min(1.0 + UPPER_SHARE * (over - 1.0)))
}

/// A fed jar, g.
const JAR_G: f64 = 200.0;
/// Runs at 24 °C to see how a leaven or preferment falls, hours.
const COARSE: f64 = 2.0;
const LEAVEN_RUN_H: f64 = 36.0;

/// The rises of one dough.
pub struct DoughRises<'a> {
    facts: DoughFacts,
    k: Cow<'a, Constants>,
    /// The same with steps twice as long: at one temperature yeast and gas made are exact over any step.
    coarse: Constants,
    bakers: Rate,
    wild: Rate,
    /// Share of the gas that baker's yeast makes at mixing.
    bakers_share: f64,
    leavens: FxHashMap<(i32, usize, i32), Option<RiseNeed>>,
    /// States of a leaven: ratios of its feeds, which feed, how ripe.
    states: FxHashMap<(i32, i32, usize, i32), Option<LeavenState>>,
    sponges: FxHashMap<i64, Option<(RiseNeed, Forecast)>>,
    needs: FxHashMap<NeedKey, Option<RiseNeed>>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
struct NeedKey {
    proof: bool,
    dose: i64,
    /// What the leaven or preferment was like.
    early: (i32, usize, i32, i64),
    bulk: i32,
}

#[allow(clippy::cast_possible_truncation, reason = "shares of a need, to a thousandth")]
fn fine(x: f64) -> i32 {
    (1000.0 * x).round() as i32
}
/// Ripeness of what went before is told apart to a fiftieth: its need moves by less than half of that.
const NEAR: f64 = 0.02;
#[allow(clippy::cast_possible_truncation, reason = "ripeness of a rise")]
fn near(x: f64) -> i32 {
    (x / NEAR).round() as i32
}
#[allow(clippy::cast_possible_truncation, reason = "percentages, to a millionth")]
fn finest(x: f64) -> i64 {
    (1e6 * x).round() as i64
}

impl<'a> DoughRises<'a> {
    /// The rises of a dough.
    #[must_use]
    pub fn new(facts: DoughFacts, k: &'a Constants) -> Self {
        let k = k.at_altitude(facts.altitude_m);
        let n = &k.numbers;
        let mut coarse = k.as_ref().clone();
        coarse.numbers.step_min *= COARSE;
        let yeast = facts.dough.yeast.as_ref().map_or(0.0, |y| y.pct * k.yeasts.get(&y.kind).map_or(1.0, |row| row.instant_factor));
        let (bakers, wild) = (n.gas_bakers * yeast, n.gas_wild * facts.dough.leaven.as_ref().map_or(0.0, |l| l.0 / 100.0));
        Self {
            bakers: Rate::of(Population::Bakers, n),
            wild: Rate::of(Population::Wild, n),
            bakers_share: if bakers + wild > 0.0 { bakers / (bakers + wild) } else { 1.0 },
            facts,
            k,
            coarse,
            leavens: FxHashMap::default(),
            states: FxHashMap::default(),
            sponges: FxHashMap::default(),
            needs: FxHashMap::default(),
        }
    }

    /// Needs worked out so far.
    #[must_use]
    pub fn runs(&self) -> usize {
        self.needs.len()
    }

    /// What is fixed of it.
    #[must_use]
    pub const fn facts(&self) -> &DoughFacts {
        &self.facts
    }

    /// A feed of its leaven, parts of flour to one of seed.
    #[must_use]
    pub fn leaven(&self, ratio: f64, seed: Option<LeavenState>, place_c: f64, hours: Option<f64>) -> Option<Leaven> {
        let (class, hydration) = self.facts.leaven.as_ref()?;
        Some(Leaven {
            seed: 1.0,
            water: ratio,
            flour: ratio,
            flour_mix: vec![(class.clone(), 100.0)],
            seed_hydration_pct: *hydration,
            seed_state: seed,
            place_c,
            start_c: Some(FED_C),
            hours,
            mass_g: JAR_G,
            rate: 1.0,
        })
    }

    fn seed(&mut self, schedule: &Schedule, feed: usize, ripeness: f64) -> Option<LeavenState> {
        if feed == 0 {
            return self
                .facts
                .jar
                .or((self.facts.cold_days > 0.0).then(|| LeavenState { cold_days: Some(self.facts.cold_days), ..LeavenState::default() }));
        }
        self.leaven_at(schedule, feed - 1, ripeness)
    }

    /// The leaven of a feed when it has come so far, as a dough or the next feed takes it.
    #[must_use]
    pub fn leaven_at(&mut self, schedule: &Schedule, feed: usize, ripeness: f64) -> Option<LeavenState> {
        let ratio = schedule.feeds.get(feed)?.ratio;
        let ripeness = f64::from(near(ripeness)) * NEAR;
        let key = (fine(ratio), schedule.feeds.first().map_or(0, |f| fine(f.ratio)), feed, near(ripeness));
        if let Some(known) = self.states.get(&key) {
            return *known;
        }
        let found = self.fresh_leaven(schedule, feed, ratio, ripeness);
        self.states.insert(key, found);
        found
    }

    fn fresh_leaven(&mut self, schedule: &Schedule, feed: usize, ratio: f64, ripeness: f64) -> Option<LeavenState> {
        let seed = self.seed(schedule, feed, 1.0);
        let hours = self.need(RiseOf::Leaven, schedule, Past { feed, ..RIPE_PAST })?.hours * ripeness;
        let leaven = self.leaven(ratio, seed, 24.0, Some(hours))?;
        let run = simulate_leaven(&leaven, &self.k).ok()?;
        Some(leaven.state_after(&run))
    }

    fn leaven_need(&mut self, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        let ratio = schedule.feeds.get(past.feed)?.ratio;
        let key = (fine(ratio), past.feed, if past.feed == 0 { 0 } else { near(past.leaven) });
        if let Some(known) = self.leavens.get(&key) {
            return *known;
        }
        let seed = self.seed(schedule, past.feed, past.leaven);
        let found =
            self.leaven(ratio, seed, 24.0, Some(LEAVEN_RUN_H)).and_then(|l| simulate_leaven(&l, &self.coarse).ok()).and_then(|run| {
                let hours = run.reaches(1.0)?.dough_h;
                let at = |r: f64| run.reaches(r).map(|m| m.dough_h / hours);
                let over = at(OVER).unwrap_or(2.0);
                let upper = at(BEST.1)?.min(1.0 + UPPER_SHARE * (over - 1.0));
                Some(RiseNeed { hours, lower: at(BEST.0)?, upper, over })
            });
        self.leavens.insert(key, found);
        found
    }

    /// The preferment of a way as its own dough.
    #[must_use]
    pub fn sponge(&self, pct: f64, start_c: f64, place_c: f64, minutes: Option<f64>) -> Rise {
        let yeast = Some(crate::ferment::YeastDose { kind: "instant".into(), pct, viable: 1.0 });
        let dough = Dough { yeast, ..self.facts.preferment.dough.clone() };
        let stage =
            RiseStage { target_ratio: Some(SPONGE_RATIO), minutes, ..RiseStage::until_ripe(RiseKind::Bulk, place_c, self.sponge_g()) };
        Rise { style: "long-no-knead".into(), dough, start_c, stages: vec![stage], rate: 1.0, log_sigma: None }
    }

    fn sponge_g(&self) -> f64 {
        (self.facts.preferment.weight_share * self.facts.dough_g).clamp(5.0, 20_000.0)
    }

    /// A preferment at 24 °C, once for each dose: what it needs, and how it goes on from there.
    fn sponge_at_24(&mut self, pct: f64) -> Option<&(RiseNeed, Forecast)> {
        let key = finest(pct);
        if !self.sponges.contains_key(&key) {
            let found = self.fresh_sponge(pct);
            self.sponges.insert(key, found);
        }
        self.sponges.get(&key)?.as_ref()
    }

    fn fresh_sponge(&self, pct: f64) -> Option<(RiseNeed, Forecast)> {
        let rise = self.sponge(pct, 24.0, 24.0, Some(60.0 * LEAVEN_RUN_H));
        let run = simulate(&rise.assume(self.sponge_g(), &self.coarse).ok()?, &self.coarse).ok()?;
        let hours = run.reaches(1.0)?.dough_h;
        let over = run.reaches(SPONGE_AIM.2).map_or(1.6, |m| m.dough_h / hours);
        Some((RiseNeed { hours, lower: SPONGE_AIM.0, upper: SPONGE_AIM.1.min(1.0 + UPPER_SHARE * (over - 1.0)), over }, run))
    }

    /// Yeast a preferment has grown to, percent of its own flour: gas made is in proportion to it.
    fn sponge_yeast(&mut self, pct: f64, ripeness: f64) -> f64 {
        let growth = self.k.numbers.bakers_growth / self.k.numbers.gas_bakers;
        self.sponge_at_24(pct).map_or(0.0, |(need, run)| {
            let after = run.curve.partition_point(|r| r.dough_h < need.hours * ripeness);
            let made = run.curve.get(after).map_or(run.end.gas_ml, |r| r.gas_ml);
            // Exact where growth is far from its end, as it is in a preferment: ΔY = (μ/k) ΔM.
            pct + growth * made
        })
    }

    /// The dough of a way, its leaven or preferment used at that ripeness.
    #[must_use]
    pub fn dough(&mut self, schedule: &Schedule, leaven: f64) -> Dough {
        let state = schedule.feeds.len().checked_sub(1).and_then(|last| self.leaven_at(schedule, last, leaven));
        let brought =
            schedule.sponge.map_or(0.0, |s| self.facts.preferment.flour_share * self.sponge_yeast(s.pct, f64::from(near(leaven)) * NEAR));
        let mut dough = self.facts.dough.clone();
        if let Some(by) = self.facts.raising {
            dough.dose(by, schedule.dose);
        }
        if let (Some(l), true) = (&mut dough.leaven, state.is_some()) {
            l.1 = state;
        }
        dough.preferment_yeast_pct += brought;
        dough
    }

    /// The stages of bulk and proof as the rise model takes them, at a place so warm or, without one, at 24 °C.
    #[must_use]
    pub fn stage(&self, kind: RiseKind, place: Option<(Place, f64)>, minutes: Option<f64>) -> RiseStage {
        let f = &self.facts;
        let (mass_g, pace) = if kind == RiseKind::Proof { (f.piece_g, f.paces.1) } else { (f.dough_g, f.paces.0) };
        RiseStage {
            minutes,
            vessel: Some(self.vessel(kind, place.map(|p| p.0)).to_owned()),
            pace: (pace != Pace::Usual).then_some(pace),
            ..RiseStage::until_ripe(kind, place.map_or(24.0, |p| p.1), mass_g)
        }
    }

    fn vessel(&self, kind: RiseKind, place: Option<Place>) -> &'static str {
        match kind {
            RiseKind::Proof => self.facts.proof_vessel,
            _ if place == Some(Place::Fridge) => in_fridge(self.facts.perishable),
            _ => "bowl",
        }
    }

    fn at_24(&self, dough: Dough, stages: Vec<RiseStage>) -> Option<Forecast> {
        let rise = Rise { style: self.facts.style.clone(), dough, start_c: 24.0, stages, rate: self.facts.rate, log_sigma: None };
        simulate(&rise.assume(self.facts.dough_g, &self.coarse).ok()?, &self.coarse).ok()
    }

    /// The proof needs less the riper the bulk was: run at every twentieth of its ripeness, straight between.
    fn proof_need(&mut self, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        const EVERY: f64 = 0.05;
        let below = (past.bulk / EVERY + 1e-6).floor() * EVERY;
        let share = (past.bulk - below) / EVERY;
        let low = self.rise_need(RiseOf::Proof, schedule, Past { bulk: below, ..past })?;
        if schedule.bulk.is_empty() || share < 1e-3 {
            return Some(low);
        }
        let high = self.rise_need(RiseOf::Proof, schedule, Past { bulk: below + EVERY, ..past })?;
        let between = |a: f64, b: f64| a + share * (b - a);
        Some(RiseNeed {
            hours: between(low.hours, high.hours),
            lower: low.lower,
            upper: between(low.upper, high.upper),
            over: between(low.over, high.over),
        })
    }

    fn rise_need(&mut self, rise: RiseOf, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        let proof = rise == RiseOf::Proof;
        let early = schedule.feeds.last().map_or((0, 0, 0, 0), |f| (fine(f.ratio), schedule.feeds.len(), near(past.leaven), 0));
        let early = schedule.sponge.map_or(early, |s| (-1, 0, near(past.leaven), finest(s.pct)));
        let key = NeedKey { proof, dose: finest(schedule.dose), early, bulk: if proof { fine(past.bulk) } else { 0 } };
        if let Some(known) = self.needs.get(&key) {
            return *known;
        }
        let found = self.fresh_need(proof, schedule, past);
        self.needs.insert(key, found);
        found
    }

    fn fresh_need(&mut self, proof: bool, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        let dough = self.dough(schedule, past.leaven);
        let mut stages = Vec::new();
        if proof && !schedule.bulk.is_empty() {
            let hours = self.need(RiseOf::Bulk, schedule, past)?.hours * past.bulk;
            let mut bulk = self.stage(RiseKind::Bulk, None, Some(60.0 * hours));
            bulk.acts =
                Some(self.facts.folds.times(60.0 * hours).map(|at_min| Act { at_min, act: self.facts.folds.act().into() }).collect());
            stages.push(bulk);
        }
        stages.push(self.stage(if proof { RiseKind::Proof } else { RiseKind::Bulk }, None, None));
        let run = self.at_24(dough, stages)?;
        let start =
            run.stage_starts.last().and_then(|s| run.curve.iter().find(|r| r.min >= *s && r.stage + 1 == run.stage_starts.len()))?;
        let kind = if proof { RiseKind::Proof } else { RiseKind::Bulk };
        let (ripe, over) = (kind.ripe(), kind.over());
        let of = |kind: EventKind| run.events.iter().find(|e| e.kind == kind).map(|e| e.dough_h - start.dough_h);
        let hours = of(ripe).filter(|h| *h > 0.0)?;
        let over = of(over).map_or(2.0, |h| h / hours);
        let (lower, upper) = aims(kind, over);
        Some(RiseNeed { hours, lower, upper, over })
    }
}

impl Ageing for DoughRises<'_> {
    fn speed(&self, rise: RiseOf, celsius: f64) -> f64 {
        match rise {
            RiseOf::Leaven => self.wild.at(celsius),
            RiseOf::Preferment => self.bakers.at(celsius),
            _ if self.bakers_share >= 1.0 => self.bakers.at(celsius),
            _ if self.bakers_share <= 0.0 => self.wild.at(celsius),
            _ => self.bakers_share * self.bakers.at(celsius) + (1.0 - self.bakers_share) * self.wild.at(celsius),
        }
    }
    fn tau_min(&self, rise: RiseOf, place: Place) -> f64 {
        let f = &self.facts;
        let (mass, vessel) = match rise {
            RiseOf::Leaven => (JAR_G, "glass-jar"),
            RiseOf::Preferment => (self.sponge_g(), "bowl"),
            RiseOf::Bulk => (f.dough_g, self.vessel(RiseKind::Bulk, Some(place))),
            RiseOf::Proof => (f.piece_g, self.vessel(RiseKind::Proof, Some(place))),
        };
        time_constant_min(mass, vessel, "covered", "still", &self.k)
    }
    fn place_c(&self, place: Place) -> Option<f64> {
        self.facts.places.iter().find(|(p, _)| *p == place).map(|(_, c)| *c)
    }
    fn mean_c(&self, place: Place, span: Span) -> Option<f64> {
        let day = self.place_c(place)?;
        let at = |minute: Minute| later(self.facts.anchor, f64::from(minute));
        // To a tenth of a degree: nobody knows a room better, and curves are kept by it.
        let mean = |n: &Nights| (10.0 * n.mean(place, day, at(span.from), at(span.to))).round() / 10.0;
        Some(self.facts.nights.as_ref().map_or(day, mean))
    }
    fn range_c(&self, place: Place) -> Option<(f64, f64)> {
        let day = self.place_c(place)?;
        let night = self.facts.nights.as_ref().and_then(|n| n.place_c(place)).unwrap_or(day);
        Some((day.min(night), day.max(night)))
    }
    fn varies(&self) -> bool {
        self.facts.nights.is_some()
    }
}

impl Model for DoughRises<'_> {
    fn need(&mut self, rise: RiseOf, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        match rise {
            RiseOf::Leaven => self.leaven_need(schedule, past),
            RiseOf::Preferment => self.sponge_at_24(schedule.sponge?.pct).map(|s| s.0),
            RiseOf::Bulk => self.rise_need(rise, schedule, past),
            RiseOf::Proof => self.proof_need(schedule, past),
        }
    }
    fn sigma(&self, rise: RiseOf, coldest_c: f64) -> f64 {
        let n = &self.k.numbers;
        let own = match rise {
            RiseOf::Leaven => n.sigma_leaven,
            RiseOf::Preferment => n.sigma_bakers,
            RiseOf::Bulk | RiseOf::Proof if self.bakers_share >= 0.5 => n.sigma_bakers,
            RiseOf::Bulk | RiseOf::Proof => n.sigma_wild,
        };
        let own = self.facts.log_sigma.unwrap_or(own);
        if coldest_c < n.cold_below_c { own.hypot(n.sigma_cold) } else { own }
    }
    fn exponent(&mut self, rise: RiseOf, schedule: &Schedule) -> f64 {
        const APART: f64 = 1.02;
        let past = RIPE_PAST;
        let mut at = |factor: f64| self.need(rise, &Schedule { dose: schedule.dose * factor, ..schedule.clone() }, past).map(|n| n.hours);
        match (at(1.0 / APART), at(APART)) {
            (Some(less), Some(more)) if more > 0.0 => (less / more).ln() / (2.0 * APART.ln()),
            _ => 0.0,
        }
    }
}
