//! What to feed so that enough of it is at its best at an hour.

use jiff::Timestamp;

use super::{Jar, jar::BEST};
use crate::{
    ferment::{Constants, Forecast, LeavenState, simulate_leaven},
    kitchen::{Kitchen, Place},
    plan::{later, minutes_between},
};

/// What is wanted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FeedAsk {
    /// When it is fed.
    pub at: Timestamp,
    /// Grams wanted.
    pub grams: f64,
    /// Grams kept for the next time.
    pub keep_g: f64,
    /// When it is wanted.
    pub wanted: Timestamp,
}

/// One way to feed it.
#[derive(Debug, Clone, PartialEq)]
pub struct FeedRow {
    /// Where it stands.
    pub place: Place,
    /// How warm it is there.
    pub place_c: f64,
    /// Parts of water and flour to one of seed; water by the jar's own wetness.
    pub ratio: f64,
    /// At its best from, to.
    pub best: (Timestamp, Timestamp),
    /// Grams of seed, water, flour.
    pub grams: (f64, f64, f64),
    /// Whether it is at its best at the wanted hour.
    pub meets: bool,
    /// Volume of the jar it needs, ml.
    pub jar_ml: f64,
}

/// One feed, or two.
#[derive(Debug, Clone, PartialEq)]
pub struct FeedPlan {
    /// The first.
    pub first: FeedRow,
    /// The second, and when it is given.
    pub second: Option<(Timestamp, FeedRow)>,
}

/// Parts of flour to one of seed that are offered. Common practice, no source.
pub(crate) const RATIOS: [f64; 4] = [1.0, 2.0, 5.0, 10.0];
/// How long a fed leaven is looked at, h.
const LOOK_H: f64 = 60.0;
/// Space over the highest it gets.
const SPARE: f64 = 1.25;

/// Volume of the jar for a feed of so many grams that rises as forecast, ml, to 50.
#[must_use]
pub fn jar_ml(grams: f64, f: &Forecast) -> f64 {
    let b = &f.body;
    let fresh = grams * (b.vd_ml + b.air_ml) * b.flour_share / 100.0;
    let top = f.curve.iter().map(|r| r.volume_ratio).fold(1.0, f64::max);
    50.0 * (SPARE * fresh * top / 50.0).ceil()
}

fn row(jar: &Jar, ask: &FeedAsk, place: (Place, f64), ratio: f64, seed: Option<LeavenState>, k: &Constants) -> Option<FeedRow> {
    let (at, total) = (ask.at, ask.grams + ask.keep_g);
    let water = ratio * jar.hydration_pct / 100.0;
    let part = total / (1.0 + ratio + water);
    let grams = (part, part * water, part * ratio);
    let f = simulate_leaven(&jar.leaven(grams, seed, place.1, Some(LOOK_H)), k).ok()?;
    let reach = |r: f64| f.reaches(r).map(|m| later(at, m.min));
    let best = (reach(BEST.0)?, reach(BEST.1).unwrap_or_else(|| later(at, 60.0 * LOOK_H)));
    Some(FeedRow {
        place: place.0,
        place_c: place.1,
        ratio,
        meets: best.0 <= ask.wanted && ask.wanted <= best.1,
        best,
        jar_ml: jar_ml(total, &f),
        grams,
    })
}

/// Every place and ratio: when it would be at its best. The fridge is left out: it keeps, it does not ripen.
#[must_use]
pub fn feed_rows(jar: &Jar, seed: Option<LeavenState>, ask: &FeedAsk, kitchen: &Kitchen, k: &Constants) -> Vec<FeedRow> {
    // A place is taken as warm as the hours from the feed to the wanted one are on the whole.
    let nights = kitchen.nights(ask.at, ask.wanted);
    let warmth = |(p, c): (Place, f64)| (p, nights.as_ref().map_or(c, |n| n.mean(p, c, ask.at, ask.wanted)));
    let places = kitchen.places().into_iter().filter(|(p, _)| *p != Place::Fridge).map(warmth);
    let mut all: Vec<FeedRow> = places.flat_map(|p| RATIOS.map(|r| row(jar, ask, p, r, seed, k))).flatten().collect();
    all.sort_by(|a, b| b.place_c.total_cmp(&a.place_c).then(a.ratio.total_cmp(&b.ratio)));
    all
}

/// The row whose best is nearest round the wanted hour.
fn nearest(rows: &[FeedRow], wanted: Timestamp) -> Option<&FeedRow> {
    let off = |r: &FeedRow| {
        let middle = minutes_between(r.best.0, r.best.1) / 2.0;
        minutes_between(later(r.best.0, middle), wanted).abs()
    };
    rows.iter().filter(|r| r.meets).min_by(|a, b| off(a).total_cmp(&off(b)))
}

/// The best feed: one where one will do, else two, the second when the first is at its best and nobody sleeps.
#[must_use]
pub fn feed_twice(
    jar: &Jar,
    seed: Option<LeavenState>,
    ask: &FeedAsk,
    kitchen: &Kitchen,
    k: &Constants,
    asleep: &dyn Fn(Timestamp) -> bool,
) -> Option<FeedPlan> {
    let rows = feed_rows(jar, seed, ask, kitchen, k);
    if let Some(first) = nearest(&rows, ask.wanted) {
        return Some(FeedPlan { first: first.clone(), second: None });
    }
    let mut found: Option<(f64, FeedPlan)> = None;
    for first in &rows {
        // The second feed is given while the first is at its best and somebody is up, as near its middle as can be.
        let half = minutes_between(first.best.0, first.best.1) / 2.0;
        let steps = [0.0, 0.25, -0.25, 0.5, -0.5, 0.75, -0.75, 1.0, -1.0];
        let awake = steps.iter().map(|s| later(first.best.0, half + s * half)).find(|at| !asleep(*at) && *at < ask.wanted);
        let Some(middle) = awake else { continue };
        let next = FeedAsk { at: middle, ..*ask };
        let seconds = feed_rows(jar, None, &next, kitchen, k);
        let Some(second) = nearest(&seconds, ask.wanted) else { continue };
        let centre = later(second.best.0, minutes_between(second.best.0, second.best.1) / 2.0);
        let off = minutes_between(centre, ask.wanted).abs();
        if found.as_ref().is_none_or(|(best, _)| off < *best) {
            let total = second.grams.0;
            let scale = total / (first.grams.0 + first.grams.1 + first.grams.2);
            let small = FeedRow { grams: (first.grams.0 * scale, first.grams.1 * scale, first.grams.2 * scale), ..first.clone() };
            found = Some((off, FeedPlan { first: small, second: Some((middle, second.clone())) }));
        }
    }
    found.map(|f| f.1)
}
