//! A jar from its log: the feeds one after the other, the last one as it stands now.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use super::{JarEvent, JarEventKind};
use crate::{
    ferment::{Constants, EventKind, Forecast, Leaven, LeavenState, Rise, RiseKind, RiseStage, course, simulate},
    input::{Errors, InputErrors, Pointer},
    kitchen::{Kitchen, Nights, Place, Stay},
    plan::{later, minutes_between},
};

/// A jar as it is told.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct JarBody {
    /// Its name.
    pub name: String,
    /// Class of flour of the rise model, to its share: `plain-white`, `light-rye`, …
    pub flour_mix: std::collections::BTreeMap<String, f64>,
    /// Water on flour, percent.
    pub hydration_pct: f64,
}

/// A jar, checked.
#[derive(Debug, Clone, PartialEq)]
pub struct Jar {
    /// Its name.
    pub name: String,
    /// Class of flour to its share.
    pub flour_mix: Vec<(String, f64)>,
    /// Water on flour, percent.
    pub hydration_pct: f64,
}

impl JarBody {
    /// Checks a jar.
    ///
    /// # Errors
    /// Each field that is wrong.
    pub fn check(&self, k: &Constants) -> Result<Jar, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        let name = self.name.trim();
        if !(1..=60).contains(&name.chars().count()) {
            errors.add(root.at("name"), "Give the jar a name of 1 to 60 letters.");
        }
        errors.range(root.at("hydration_pct"), self.hydration_pct, 40.0, 200.0, "A leaven holds between 40 and 200 % water on its flour.");
        let known = |c: &String| k.flours.contains_key(c);
        if self.flour_mix.is_empty() || !self.flour_mix.keys().all(known) || self.flour_mix.values().any(|v| !(*v >= 0.0 && v.is_finite()))
        {
            let all: Vec<&str> = k.flours.keys().map(String::as_str).collect();
            errors.add(root.at("flour_mix"), format!("Say which flour it eats: {}.", all.join(", ")));
        } else if self.flour_mix.values().sum::<f64>() <= 0.0 {
            errors.add(root.at("flour_mix"), "There is no flour in this mix.");
        }
        errors.finish(Jar {
            name: name.to_owned(),
            flour_mix: self.flour_mix.iter().map(|(c, v)| (c.clone(), *v)).collect(),
            hydration_pct: self.hydration_pct,
        })
    }
}

/// A feed as it was given.
#[derive(Debug, Clone, PartialEq)]
pub struct Fed {
    /// When.
    pub at: Timestamp,
    /// Grams of leaven kept, water, flour.
    pub grams: (f64, f64, f64),
    /// The places it stood in from then on, with their °C.
    pub places: Vec<Stay<Timestamp>>,
    /// Levels seen, times its height when fed.
    pub levels: Vec<(Timestamp, f64)>,
    /// Temperatures taken.
    pub readings: Vec<(Timestamp, f64)>,
    /// Until the next feed; none: it is the last.
    pub until: Option<Timestamp>,
}

impl Fed {
    /// Parts of seed, water, flour, to one of seed.
    #[must_use]
    pub fn ratio(&self) -> (f64, f64) {
        (self.grams.1 / self.grams.0, self.grams.2 / self.grams.0)
    }
    /// All of it, g.
    #[must_use]
    pub fn total_g(&self) -> f64 {
        self.grams.0 + self.grams.1 + self.grams.2
    }
    /// Hours of it spent below 8 °C, up to an instant.
    #[must_use]
    pub fn cold_h(&self, until: Timestamp) -> f64 {
        let ends = self.places.iter().skip(1).map(|p| p.span).chain([until]);
        self.places
            .iter()
            .zip(ends)
            .filter(|(p, _)| p.celsius < 8.0)
            .map(|(p, end)| minutes_between(p.span, end.min(until)).max(0.0) / 60.0)
            .sum()
    }
}

/// Whether it may be used now.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Use {
    /// Too young.
    Young,
    /// Nearly: a little young.
    Soon,
    /// At its best.
    Best,
    /// Sunk, sourer, still raises bread.
    Late,
    /// To be fed first.
    Feed,
}

impl Use {
    /// From how ripe it is.
    #[must_use]
    pub const fn of(ripeness: f64) -> Self {
        if ripeness < YOUNG {
            Self::Young
        } else if ripeness < BEST.0 {
            Self::Soon
        } else if ripeness <= BEST.1 {
            Self::Best
        } else if ripeness <= OVER {
            Self::Late
        } else {
            Self::Feed
        }
    }
    /// In words.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::Young => "Not yet: few bubbles, still firm. Using it young makes the first rise a fifth longer.",
            Self::Soon => "Soon. It may be used a little young; the first rise takes longer.",
            Self::Best => "Yes, now: domed, full of bubbles, a spoonful floats.",
            Self::Late => "Still raises bread: sunk a little, sourer, and it starts late.",
            Self::Feed => "Feed it first: sunken, streaks down the glass, sharp.",
        }
    }
}

/// How a jar stands.
#[derive(Debug, Clone)]
pub struct JarState {
    /// The last feed.
    pub fed: Fed,
    /// The feeds before, newest first.
    pub before: Vec<Fed>,
    /// The course since the last feed, past now until it has fallen.
    pub forecast: Forecast,
    /// Its speed against the model's, from the levels seen.
    pub rate: f64,
    /// Minutes since the feed.
    pub now_min: f64,
    /// Height now, times that when fed.
    pub ratio_now: f64,
    /// Ripeness now.
    pub ripeness: f64,
    /// From and to of its best.
    pub best: Option<(Timestamp, Timestamp)>,
    /// Lowest and highest it stands at its best, times that when fed.
    pub best_height: Option<(f64, f64)>,
    /// Peak: early, likely, late.
    pub peak: Option<(Timestamp, Timestamp, Timestamp)>,
    /// When it is clearly sunken.
    pub falls: Option<Timestamp>,
    /// Grams left.
    pub left_g: f64,
    /// As a dough takes it now.
    pub seed: LeavenState,
    /// Days in the fridge since the feed.
    pub cold_days: f64,
}

/// Below this R it is young; from, to: at its best, at the end sunk a little; then it still raises until it is over.
/// Engineering estimate.
const YOUNG: f64 = 0.70;
pub(crate) const BEST: (f64, f64) = (0.90, 1.60);
pub(crate) const OVER: f64 = 3.0;
/// A level seen moves the speed by this much at most.
const RATE: (f64, f64) = (0.4, 2.5);
/// Once a level is seen, the spread left in the curve, ln units.
const READ_SIGMA: f64 = 0.08;
/// How far a curve is looked at beyond now.
const AHEAD_H: f64 = 48.0;
/// A jar is followed for so long, h; after that it is only known to be old.
const LONGEST_H: f64 = 40.0 * 24.0;
/// Nights are told apart for so long after a feed: what stands warm longer is spent, and a rise has twenty stages.
const NIGHTS_H: f64 = 96.0;
/// A stage of the rise model lasts a week at most; a longer stay is told as several.
const CHUNK_MIN: f64 = 9000.0;
/// So many days in the cold and it is fed before bread. Common practice, no source.
const COLD_DAYS: f64 = 3.0;
/// From so many days in the cold on, a second feed is worth its time.
pub(crate) const TWO_FEEDS_DAYS: f64 = 2.0;
/// A leaven so long in the cold is fed twice before it raises bread. Common practice, no source.
pub(crate) const LONG_COLD_DAYS: f64 = 7.0;

/// The events that count: undone ones out, in order of time.
fn kept(log: &[JarEvent]) -> Vec<&JarEvent> {
    #[allow(clippy::cast_possible_truncation, reason = "numbers of events")]
    let undone: Vec<i32> =
        log.iter().filter(|e| e.event.kind == JarEventKind::Undo).filter_map(|e| e.event.body.value.map(|v| v as i32)).collect();
    let mut kept: Vec<&JarEvent> = log.iter().filter(|e| e.event.kind != JarEventKind::Undo && !undone.contains(&e.seq)).collect();
    kept.sort_by_key(|e| (e.event.at, e.seq));
    kept
}

/// The feeds of a log, oldest first, with where the jar stood and what was seen of it.
fn feeds(log: &[JarEvent], kitchen: &Kitchen) -> (Vec<Fed>, f64) {
    let mut feeds: Vec<Fed> = Vec::new();
    let mut place = Place::Room;
    let mut left = 0.0;
    for e in kept(log) {
        let (at, body) = (e.event.at, &e.event.body);
        let told = body.what.as_deref().and_then(Place::from_word);
        let warmth = |p: Place| kitchen.place_c(p).unwrap_or(kitchen.room_c);
        match e.event.kind {
            JarEventKind::Fed => {
                place = told.unwrap_or(if place == Place::Fridge { Place::Room } else { place });
                if let Some(last) = feeds.last_mut() {
                    last.until = Some(at);
                }
                let grams = (body.seed.unwrap_or(1.0), body.water.unwrap_or(1.0), body.flour.unwrap_or(1.0));
                left = grams.0 + grams.1 + grams.2;
                feeds.push(Fed {
                    at,
                    grams,
                    places: vec![Stay::at((place, warmth(place)), at)],
                    levels: Vec::new(),
                    readings: Vec::new(),
                    until: None,
                });
            }
            JarEventKind::Moved => {
                place = told.unwrap_or(place);
                if let Some(last) = feeds.last_mut() {
                    last.places.push(Stay::at((place, warmth(place)), at));
                }
            }
            JarEventKind::Level => {
                if let (Some(last), Some(v)) = (feeds.last_mut(), body.value) {
                    last.levels.push((at, v));
                }
            }
            JarEventKind::Temperature => {
                if let (Some(last), Some(v)) = (feeds.last_mut(), body.value) {
                    last.readings.push((at, v));
                }
            }
            JarEventKind::Used => left = (left - body.value.unwrap_or(0.0)).max(0.0),
            JarEventKind::Note | JarEventKind::Undo => {}
        }
    }
    (feeds, left)
}

/// A feed as the rise model follows it: what it was seeded with, the nights it stands through.
struct Followed<'a> {
    jar: &'a Jar,
    fed: &'a Fed,
    seed: Option<LeavenState>,
    nights: Option<Nights>,
    k: &'a Constants,
}

impl Followed<'_> {
    /// Its dough and stages up to so many hours, at a speed.
    fn rise(&self, hours: f64, rate: f64, sigma: Option<f64>) -> Rise {
        let fed = self.fed;
        let dough = self.jar.leaven(fed.grams, self.seed, 24.0, None).dough();
        let end = later(fed.at, 60.0 * hours);
        let ends = fed.places.iter().skip(1).map(|p| p.span).chain([end]);
        let mut stages = Vec::new();
        for (stay, to) in fed.places.iter().zip(ends) {
            let mut at = stay.span;
            let last = to.min(end);
            while minutes_between(at, last) >= 0.5 {
                let (c, until) = self.nights.as_ref().map_or((stay.celsius, None), |n| n.at(stay.place, stay.celsius, at));
                let next = later(at, CHUNK_MIN).min(last).min(until.unwrap_or(last));
                let here = fed.readings.iter().filter(|(t, _)| *t >= at && *t < next);
                stages.push(RiseStage {
                    minutes: Some(minutes_between(at, next)),
                    readings: here.map(|(t, c)| (minutes_between(at, *t), *c)).collect(),
                    vessel: Some("glass-jar".to_owned()),
                    ..RiseStage::until_ripe(RiseKind::Leaven, c, self.mass_g())
                });
                at = next;
            }
        }
        let start_c = fed.places.first().map_or(24.0, |p| p.celsius.max(18.0));
        Rise { style: "leaven".into(), dough, start_c, stages, rate, log_sigma: sigma }
    }

    fn mass_g(&self) -> f64 {
        self.fed.total_g().clamp(5.0, 20_000.0)
    }

    fn run(&self, hours: f64, rate: f64, sigma: Option<f64>) -> Option<Forecast> {
        let rise = self.rise(hours, rate, sigma);
        simulate(&rise.assume(self.mass_g(), self.k).ok()?, self.k).ok()
    }

    /// The speed at which the curve goes through the last level seen while it rose; 1 where none was.
    fn rate(&self) -> (f64, bool) {
        let fed = self.fed;
        let Some((at, level)) = fed.levels.iter().rev().find(|l| l.1 > 1.05 && minutes_between(fed.at, l.0) > 20.0) else {
            return (1.0, false);
        };
        let hours = minutes_between(fed.at, *at) / 60.0;
        let at_rate = |rate: f64| {
            let rise = self.rise(hours, rate, None).assume(self.mass_g(), self.k).ok();
            let end = rise.and_then(|rise| course(&rise, self.k).ok()).map(|c| *c.end());
            end.map_or((0.0, 0.0), |end| (end.rise_ratio, end.ripeness))
        };
        // A level past the peak says nothing sure of speed: the curve is asked only while it rises.
        let (mut low, mut high) = RATE;
        if at_rate(low).0 >= *level {
            return (low, true);
        }
        for _ in 0..14 {
            let middle = (low * high).sqrt();
            let (ratio, ripe) = at_rate(middle);
            if ratio >= *level || ripe > 1.0 { high = middle } else { low = middle }
        }
        ((low * high).sqrt(), true)
    }
}

impl Jar {
    fn follow<'a>(&'a self, fed: &'a Fed, seed: Option<LeavenState>, kitchen: &Kitchen, k: &'a Constants) -> Followed<'a> {
        Followed { jar: self, fed, seed, nights: kitchen.nights(fed.at, later(fed.at, 60.0 * NIGHTS_H)), k }
    }

    /// How the jar stands at `now`; none before it was ever fed.
    #[must_use]
    pub fn state(&self, log: &[JarEvent], kitchen: &Kitchen, now: Timestamp, k: &Constants) -> Option<JarState> {
        let (mut all, left_g) = feeds(log, kitchen);
        let fed = all.pop()?;
        // What it was seeded with: the feed before, as it stood then; further back everything was ripe.
        let seed = all.last().and_then(|before| {
            let hours = minutes_between(before.at, fed.at) / 60.0;
            let cold_days = before.cold_h(fed.at) / 24.0;
            if hours > LONGEST_H {
                return Some(LeavenState { cold_days: Some(cold_days), ..LeavenState::default() });
            }
            let followed = self.follow(before, None, kitchen, k);
            let run = followed.run(hours.max(0.2), followed.rate().0, None)?;
            Some(LeavenState { cold_days: Some(cold_days), ..self.after(before, None, &run) })
        });
        let followed = self.follow(&fed, seed, kitchen, k);
        let (rate, read) = followed.rate();
        let now_min = minutes_between(fed.at, now).max(0.0);
        let hours = (now_min / 60.0 + AHEAD_H).min(LONGEST_H);
        let sigma = read.then_some(READ_SIGMA);
        let forecast = followed.run(hours, rate, sigma)?;
        let row = forecast.curve.iter().rev().find(|r| r.min <= now_min).copied().unwrap_or(forecast.end);
        let at = |min: f64| later(fed.at, min);
        let reach = |r: f64| forecast.reaches(r).map(|m| m.min);
        let peak = forecast.event(EventKind::LeavenPeak).filter(|e| !e.ahead);
        let cold_days = fed.cold_h(now) / 24.0;
        let living = followed.run((now_min / 60.0).clamp(0.1, LONGEST_H), rate, None);
        Some(JarState {
            before: all.into_iter().rev().collect(),
            rate,
            now_min,
            ratio_now: row.rise_ratio,
            ripeness: row.ripeness,
            best: reach(BEST.0).map(|from| (at(from), at(reach(BEST.1).unwrap_or(forecast.end.min)))),
            best_height: forecast.reaches(BEST.0).map(|from| {
                let (peak, sunk) = (forecast.height_at(1.0), forecast.height_at(BEST.1));
                (from.rise_ratio.min(sunk), peak.max(sunk))
            }),
            peak: peak.map(|e| (at(e.min_low.unwrap_or(e.min)), at(e.min), at(e.min_high.unwrap_or(e.min)))),
            falls: forecast.event(EventKind::LeavenFalls).map(|e| at(e.min)),
            left_g,
            seed: living.map_or_else(LeavenState::default, |f| LeavenState { cold_days: Some(cold_days), ..self.after(&fed, seed, &f) }),
            cold_days,
            forecast,
            fed,
        })
    }

    fn after(&self, fed: &Fed, seed: Option<LeavenState>, run: &Forecast) -> LeavenState {
        self.leaven(fed.grams, seed, 24.0, None).state_after(run)
    }

    /// A feed of it as the rise model takes it.
    #[must_use]
    pub fn leaven(&self, grams: (f64, f64, f64), seed: Option<LeavenState>, place_c: f64, hours: Option<f64>) -> Leaven {
        Leaven {
            seed: grams.0,
            water: grams.1,
            flour: grams.2,
            flour_mix: self.flour_mix.clone(),
            seed_hydration_pct: self.hydration_pct,
            seed_state: seed,
            place_c,
            start_c: Some(place_c.max(18.0)),
            hours,
            mass_g: (grams.0 + grams.1 + grams.2).clamp(5.0, 20_000.0),
            rate: 1.0,
        }
    }

    /// Curves of the feeds before, newest first, each until the next feed: for a history in small.
    #[must_use]
    pub fn history(&self, state: &JarState, kitchen: &Kitchen, k: &Constants, most: usize) -> Vec<(Fed, Forecast)> {
        state
            .before
            .iter()
            .take(most)
            .filter_map(|fed| {
                let hours = fed.until.map_or(24.0, |u| minutes_between(fed.at, u) / 60.0).clamp(0.5, 30.0);
                let followed = self.follow(fed, None, kitchen, k);
                followed.run(hours, followed.rate().0, None).map(|f| (fed.clone(), f))
            })
            .collect()
    }
}

impl JarState {
    /// Whether it may be used now.
    #[must_use]
    pub fn may_use(&self) -> Use {
        if self.cold_days >= COLD_DAYS || self.now_min > 60.0 * LONGEST_H { Use::Feed } else { Use::of(self.ripeness) }
    }

    /// What a feed to come is seeded with where that is not a ripe leaven: one that is past its best. One that still rises will be
    /// ripe when it is fed.
    #[must_use]
    pub fn spent_seed(&self) -> Option<LeavenState> {
        (self.ripeness >= 1.0).then_some(self.seed)
    }

    /// Whether it stood in the cold for long enough to have to show that it is strong again.
    #[must_use]
    pub fn is_rested(&self) -> bool {
        self.cold_days >= TWO_FEEDS_DAYS
    }

    /// Whether it wants two feeds before it raises bread.
    #[must_use]
    pub fn wants_two_feeds(&self) -> bool {
        self.cold_days >= LONG_COLD_DAYS
    }

    /// What weeks in the cold ask for. Common practice, no source.
    #[must_use]
    pub fn after_the_cold(&self) -> Option<&'static str> {
        let days = self.cold_days;
        if days < TWO_FEEDS_DAYS {
            None
        } else if days < 8.0 {
            Some("Some days in the fridge: feed it twice before bread, or once and give the dough longer.")
        } else if days < 28.0 {
            Some(
                "Weeks in the fridge: pour off the grey liquid, keep a spoonful from the middle, feed it two or three times in the warm until it doubles within six hours.",
            )
        } else {
            Some(
                "A month and more in the fridge: feed a spoonful twice a day for three days. Throw it away if it is pink, orange or furry, or smells of anything but sour fruit.",
            )
        }
    }
}
