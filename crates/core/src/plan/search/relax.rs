//! The least that would have to give, where no plan fits.

use jiff::Timestamp;

use super::{
    ask::FitAsk,
    bread::Bread,
    day::Day,
    dough::DoughRises,
    find::SOONER_MIN,
    hours::{AwayKind, Minute},
    offer::Offer,
    schedule::{Leg, Schedule},
    solve::Search,
};
use crate::{
    Tables,
    formula::Formula,
    kitchen::{Kitchen, Place},
    measure::{celsius, show_minutes},
};

words! {
    /// What may give.
    RelaxKind {
        ServeLater "serve-later", ReadyEarlier "ready-earlier", StartEarlier "start-earlier", BackEarlier "back-earlier",
        LeaveLater "leave-later", WakeEarlier "wake-earlier", BedLater "bed-later", BusyLess "busy-less", BusyLater "busy-later",
        BeWoken "be-woken", ProofBox "proof-box", Fridge "fridge", LiftEggMilkLimit "lift-egg-milk-limit",
    }
}

impl RelaxKind {
    /// Whether it opens ways that were not there before.
    const fn opens_ways(self) -> bool {
        matches!(self, Self::ProofBox | Self::Fridge | Self::LiftEggMilkLimit)
    }

    /// The place in which they are.
    const fn place(self) -> Option<Place> {
        match self {
            Self::ProofBox => Some(Place::ProofBox),
            Self::Fridge => Some(Place::Fridge),
            _ => None,
        }
    }
}

/// Something that gives, and the request that follows.
#[derive(Debug, Clone)]
pub struct Relaxation {
    /// What.
    pub kind: RelaxKind,
    /// By how much.
    pub minutes: Minute,
    /// What has to come with it.
    pub with: Option<RelaxKind>,
    /// Which of the hours away.
    pub window: Option<usize>,
    /// In words: the deed.
    pub message: String,
    /// The request with it.
    pub ask: FitAsk,
}

/// Chains looked at before a relaxation counts.
const TRIES: usize = 40;
/// What is added to an amount that the sets alone allow.
const MORE: [Minute; 8] = [0, 5, 10, 20, 35, 60, 90, 120];
const STEP_MIN: Minute = 5;
/// Warmth of the box that is offered, and of the fridge, °C.
const BOX_C: f64 = 28.0;
const FRIDGE_C: f64 = 4.0;
const MOST: usize = 3;

impl Relaxation {
    /// The plan that follows.
    #[must_use]
    pub fn offer(&self, dough: &Bread<'_>) -> Option<Offer> {
        self.offer_among(dough, |_| true)
    }

    /// The plan that follows, by a search that knows the ways without it: those of them that have no place in the
    /// changed day need not be solved again.
    pub(super) fn nearest(&self, search: &mut Search<'_, DoughRises<'_>>, dough: &Bread<'_>) -> Option<Offer> {
        let opened = [Some(self.kind), self.with].into_iter().flatten().find(|k| k.opens_ways());
        let Some(opened) = opened else { return self.offer_in(search, dough) };
        let hopeful = search.hopeful(&dough.day(&self.ask));
        let known = hopeful.into_iter().filter_map(|i| search.rules.schedules.get(search.solved.get(i)?.schedule));
        let known: Vec<&Schedule> = known.collect();
        self.offer_among(dough, |w| opened.place().is_none_or(|p| w.is_ever_in(p)) || known.contains(&w))
    }

    fn offer_among(&self, dough: &Bread<'_>, keep: impl Fn(&Schedule) -> bool) -> Option<Offer> {
        let facts = dough.facts(&self.ask);
        let mut rules = dough.rules(&self.ask, &facts);
        rules.schedules.retain(keep);
        let mut model = DoughRises::new(facts, &dough.tables.ferment);
        self.offer_in(&mut Search::new(&mut model, rules), dough)
    }

    /// The same from a search that knows its ways: other hours, the same places.
    pub(super) fn offer_in(&self, search: &mut Search<'_, DoughRises<'_>>, dough: &Bread<'_>) -> Option<Offer> {
        let day = dough.day(&self.ask);
        let laid = search.plans(&day, 1).into_iter().next().or_else(|| search.any(&day, TRIES))?;
        dough.offers(&self.ask, search, &[laid]).into_iter().next()
    }

    /// The same for a recipe that is not yet made ready.
    #[must_use]
    pub fn offer_for(&self, formula: &Formula, kitchen: &Kitchen, tables: &Tables) -> Option<Offer> {
        let analysis = formula.analyse(&tables.pantry, &tables.styles);
        self.offer(&Bread::new(&analysis, kitchen, tables).ok()?)
    }

    fn weight(&self) -> f64 {
        let minutes = f64::from(self.minutes);
        match self.kind {
            RelaxKind::ServeLater => minutes,
            RelaxKind::StartEarlier | RelaxKind::ReadyEarlier => 1.2 * minutes,
            RelaxKind::BedLater => 1.3 * minutes,
            RelaxKind::WakeEarlier => 2.0 * minutes,
            RelaxKind::BeWoken => 150.0,
            RelaxKind::LiftEggMilkLimit => 160.0 + minutes,
            RelaxKind::ProofBox | RelaxKind::Fridge => 120.0 + minutes,
            _ => 1.5 * minutes,
        }
    }
}

/// The first of growing amounts under which a plan really stands. `widest` holds the days of all of them: what has no
/// place in it by the sets alone has none in any.
fn first_that_stands(
    search: &mut Search<'_, DoughRises<'_>>,
    widest: &Day,
    amounts: impl IntoIterator<Item = Minute>,
    day_of: impl Fn(Minute) -> Day,
) -> Option<Minute> {
    let among = search.hopeful(widest);
    amounts.into_iter().find(|m| search.any_among(&among, &day_of(*m), TRIES).is_some())
}

fn serve_later(search: &mut Search<'_, DoughRises<'_>>, day: &Day) -> Option<Minute> {
    let ready = day.ready?;
    // To five minutes: nobody asks for bread at 08:39.
    let least = search.least_ready(day, ready)? - ready;
    let least = (least + STEP_MIN - 1) / STEP_MIN * STEP_MIN;
    let amounts = MORE.map(|m| least + m);
    let most = amounts.into_iter().max()?;
    let widest = Day { ready: Some(ready + most), early: day.early + most - least + SOONER_MIN, ..day.clone() };
    first_that_stands(search, &widest, amounts, |m| Day { ready: Some(ready + m), ..day.clone() })
}

/// The least by which an end of some hours must move, in steps of five minutes, if dropping them helps at all.
fn least_shift(search: &mut Search<'_, DoughRises<'_>>, among: &[usize], day: &Day, window: usize, end: bool) -> Option<Minute> {
    let span = day.away.get(window)?.span;
    let with = |by: Minute| {
        let mut d = day.clone();
        if let Some(a) = d.away.get_mut(window) {
            if end { a.span.to -= by } else { a.span.from += by }
        }
        d.away.retain(|a| a.span.from < a.span.to);
        d
    };
    let whole = span.to - span.from;
    let (mut low, mut high) = (0, (whole + STEP_MIN - 1) / STEP_MIN);
    while high - low > 1 {
        let middle = i32::midpoint(low, high);
        if search.any_among(among, &with(middle * STEP_MIN), TRIES).is_some() { high = middle } else { low = middle }
    }
    (high * STEP_MIN < whole || whole <= STEP_MIN).then_some(high * STEP_MIN)
}

/// Whether a way is one that the new place opens: the others are known to have no place in the day. A box is for the
/// sake of speed, so all that rises warm rises in it.
fn is_new(kind: RelaxKind, schedule: &Schedule) -> bool {
    let warm = |legs: &[Leg]| legs.iter().filter(|l| l.minutes.is_none()).all(|l| matches!(l.place, Place::ProofBox | Place::Fridge));
    match kind {
        RelaxKind::ProofBox => {
            warm(&schedule.bulk) && warm(&schedule.proof) && schedule.places().iter().flatten().any(|p| *p == Place::ProofBox)
        }
        RelaxKind::Fridge => schedule.in_fridge(),
        _ => true,
    }
}

/// What would have to give, least first, three at most.
pub fn relaxations(
    search: &mut Search<'_, DoughRises<'_>>,
    day: &Day,
    ask: &FitAsk,
    dough: &Bread<'_>,
    clock: &dyn Fn(Timestamp) -> String,
) -> Vec<Relaxation> {
    let mut found: Vec<Relaxation> = Vec::new();
    let at = |m: Minute| clock(ask.at(m));
    let one = |kind, minutes, window, message, ask| Relaxation { kind, minutes, with: None, window, message, ask };
    if let (Some(minutes), Some(ready)) = (serve_later(search, day), day.ready) {
        let changed = FitAsk { ready_at: Some(ask.at(ready + minutes)), ..ask.clone() };
        found.push(one(RelaxKind::ServeLater, minutes, None, format!("Bread at {}", at(ready + minutes)), changed));
    }
    let open = Day { from: -2 * 1440, ..day.clone() };
    if let Some(latest) = search.latest_start(&open).filter(|l| *l < 0) {
        let amounts = MORE.map(|m| m - latest);
        let widest = Day { from: amounts.into_iter().map(|m| -m).min().unwrap_or(0), ..day.clone() };
        let minutes = first_that_stands(search, &widest, amounts, |m| Day { from: -m, ..day.clone() });
        if let Some(minutes) = minutes.filter(|m| *m <= 2 * 1440) {
            let changed = FitAsk { from: ask.at(-minutes), ..ask.clone() };
            found.push(one(RelaxKind::StartEarlier, minutes, None, format!("Begin at {}", at(-minutes)), changed));
        }
    }
    let early = || [30, 60, 120, 240, 480, 720, 1440].into_iter().filter(|m| day.early + m <= 2880);
    let widest = Day { early: day.early + early().max().unwrap_or(0), ..day.clone() };
    if let Some(more) = first_that_stands(search, &widest, early(), |m| Day { early: day.early + m, ..day.clone() }) {
        let changed = FitAsk { early_min: Some(f64::from(day.early + more)), ..ask.clone() };
        let minutes = day.early + more;
        let words = format!("Bake before: ready up to {} sooner", show_minutes(f64::from(minutes)));
        found.push(one(RelaxKind::ReadyEarlier, more, None, words, changed));
    }
    let touches = |i: usize| day.away.get(i).is_some_and(|a| a.span.to > day.from && day.ready.is_none_or(|r| a.span.from < r));
    for i in (0..day.away.len()).filter(|i| touches(*i)) {
        let mut without = day.clone();
        let away = without.away.remove(i);
        // What has no place without these hours has none with a part of them.
        let among = search.hopeful(&without);
        if search.any_among(&among, &without, TRIES).is_none() {
            continue;
        }
        let (ends, begins) = match away.kind {
            AwayKind::Away => (RelaxKind::BackEarlier, RelaxKind::LeaveLater),
            AwayKind::Asleep => (RelaxKind::WakeEarlier, RelaxKind::BedLater),
            AwayKind::Busy => (RelaxKind::BusyLess, RelaxKind::BusyLater),
        };
        for (end, kind) in [(true, ends), (false, begins)] {
            let Some(minutes) = least_shift(search, &among, day, i, end) else { continue };
            let mut changed = ask.clone();
            let to = if end { away.span.to - minutes } else { away.span.from + minutes };
            if let Some(a) = changed.away.get_mut(i) {
                if end { a.to = ask.at(to) } else { a.from = ask.at(to) }
            }
            let words = match kind {
                RelaxKind::BackEarlier => format!("Back by {}", at(to)),
                RelaxKind::LeaveLater => format!("Leave at {}", at(to)),
                RelaxKind::WakeEarlier => format!("Get up at {}", at(to)),
                RelaxKind::BedLater => format!("To bed at {}", at(to)),
                RelaxKind::BusyLess => format!("Hands free at {}", at(to)),
                _ => format!("Hands free until {}", at(to)),
            };
            found.push(one(kind, minutes, Some(i), words, changed));
        }
    }
    if day.away.iter().any(|a| a.kind == AwayKind::Asleep) && search.any(&Day { woken: true, ..day.clone() }, TRIES).is_some() {
        let changed = FitAsk { woken: true, ..ask.clone() };
        found.push(one(RelaxKind::BeWoken, 10, None, "Be woken once, for ten minutes".to_owned(), changed));
    }
    let has = |place: Place| ask.places.iter().any(|(p, _)| *p == place);
    let more = [
        (RelaxKind::ProofBox, !has(Place::ProofBox), concat!("Use a proof box at ", celsius!(28 short))),
        (RelaxKind::Fridge, !has(Place::Fridge) || !ask.fridge, "Use the fridge"),
        (RelaxKind::LiftEggMilkLimit, !ask.lift_warm_limit && dough.analysis.is_perishable(), "Let it stand warm for more than 4 h"),
    ];
    let alone = found.iter().find(|r| r.kind == RelaxKind::ServeLater).map(|r| r.minutes);
    for (kind, _, words) in more.into_iter().filter(|m| m.1) {
        let mut changed = ask.clone();
        match kind {
            RelaxKind::ProofBox => changed.places.push((Place::ProofBox, BOX_C)),
            RelaxKind::Fridge => {
                changed.fridge = true;
                if !has(Place::Fridge) {
                    changed.places.push((Place::Fridge, FRIDGE_C));
                }
            }
            _ => changed.lift_warm_limit = true,
        }
        let facts = dough.facts(&changed);
        let mut rules = dough.rules(&changed, &facts);
        rules.schedules.retain(|w| is_new(kind, w));
        let mut model = DoughRises::new(facts, &dough.tables.ferment);
        let mut other = Search::new(&mut model, rules);
        if other.any(day, TRIES).is_some() {
            found.push(one(kind, 0, None, words.to_owned(), changed));
        } else if let (Some(minutes), Some(ready)) = (serve_later(&mut other, day), day.ready) {
            // Half an hour must be won by it, else it is not worth the trouble.
            if alone.is_none_or(|a| minutes + 30 <= a) {
                changed.ready_at = Some(ask.at(ready + minutes));
                let message = format!("{words}, bread at {}", at(ready + minutes));
                found.push(Relaxation { with: Some(kind), ..one(RelaxKind::ServeLater, minutes, None, message, changed) });
            }
        }
    }
    found.sort_by(|a, b| a.weight().total_cmp(&b.weight()));
    found.truncate(MOST);
    found
}
