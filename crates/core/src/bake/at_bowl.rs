//! At the bowl on the day: the act under way, what the last window said, what went in by feel, how warm the dough came out.

use jiff::Timestamp;

use super::{ByFeel, Event, EventKind, told::kept, told::told_by};
use crate::{
    Tables,
    formula::{Analysis, Formula, kneading_in},
    kitchen::Kitchen,
    knead::{Pull, WindowTold, Work, fridge_min},
    plan::{Actual, MixAct, Plan, minutes_between},
};

/// How long after it was mixed a dough's warmth is of the bowl, and is asked for, minutes.
const OF_THE_BOWL_MIN: f64 = 20.0;
/// So long a dough that came out too warm can still be cooled, minutes.
const TO_COOL_MIN: f64 = 40.0;

/// At the bowl, as a log tells it.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct AtBowl {
    /// The act under way and since when, once another one there is over.
    pub under_way: Option<(MixAct, Timestamp)>,
    /// What the last window pulled in it says.
    pub window: Option<WindowTold>,
    /// What went in by feel, grams of flour and of water.
    pub by_feel: (f64, f64),
    /// Whether it is to be told how warm the dough came out.
    pub asks_warmth: bool,
    /// A dough that came out too warm: °C, and minutes in the fridge that cool it; no minutes where there is no fridge.
    pub too_warm: Option<(f64, Option<f64>)>,
}

/// What was added by feel, grams of flour and of water.
pub(super) fn by_feel(events: &[&Event]) -> (f64, f64) {
    let of = |what: ByFeel| {
        let added = events.iter().filter(|e| e.event.kind == EventKind::Added && e.event.body.what.as_deref() == Some(what.word()));
        added.filter_map(|e| e.event.body.value).sum()
    };
    (of(ByFeel::Flour), of(ByFeel::Water))
}

/// A bake looked at from the bowl.
pub(super) struct Look<'a> {
    pub(super) plan: &'a Plan,
    pub(super) actual: &'a Actual,
    /// The dough as it became.
    pub(super) formula: &'a Formula,
    pub(super) kitchen: &'a Kitchen,
    pub(super) tables: &'a Tables,
    pub(super) now: Timestamp,
}

impl Look<'_> {
    /// What stands there: the acts at the bowl in order, each with when it was over.
    pub(super) fn at_bowl(&self, acts: &[Option<Timestamp>], by_feel: (f64, f64)) -> AtBowl {
        // A plan that tells its acts has them in its course one by one.
        let next = acts.iter().zip(&self.plan.ask.mixing).find(|(over, _)| over.is_none());
        let under_way = next.and_then(|(_, act)| Some((act.clone(), acts.iter().copied().flatten().max()?)));
        let since = under_way.as_ref().map(|u| u.1);
        let pulled = self.actual.windows.last().filter(|w| since.is_some_and(|since| w.1 >= since));
        let warm = self.actual.mixed.and_then(|mixed| self.came_out(mixed));
        let a = (pulled.is_some() || warm.is_some()).then(|| self.formula.analyse(&self.tables.pantry, &self.tables.styles));
        let fresh = |mixed: Timestamp| (0.0..=OF_THE_BOWL_MIN).contains(&minutes_between(mixed, self.now));
        AtBowl {
            window: pulled.zip(a.as_ref()).and_then(|((word, at), a)| {
                let minutes = self.plan.ask.kneaded_min(&self.actual.bowl, *at);
                work(a, self.plan, self.kitchen, self.tables)?.window_told(*word, minutes)
            }),
            asks_warmth: warm.is_none() && self.actual.shaped.is_none() && self.actual.mixed.is_some_and(fresh),
            too_warm: warm.zip(a.as_ref()).and_then(|(c, a)| self.too_warm(c, a)),
            under_way,
            by_feel,
        }
    }

    /// How warm it came out, by the last thermometer in it.
    fn came_out(&self, mixed: Timestamp) -> Option<f64> {
        self.actual.dough_c.iter().rfind(|(at, _)| minutes_between(mixed, *at).abs() <= OF_THE_BOWL_MIN).map(|r| r.1)
    }

    fn too_warm(&self, c: f64, a: &Analysis<'_>) -> Option<(f64, Option<f64>)> {
        let still = self.actual.mixed.is_some_and(|mixed| minutes_between(mixed, self.now) <= TO_COOL_MIN) && self.actual.shaped.is_none();
        let hot = still && c > work(a, self.plan, self.kitchen, self.tables)?.stop_c();
        let chill = |fridge_c| fridge_min(a.dough_g.likely, c, self.plan.ask.mix_c, fridge_c, &self.tables.ferment);
        hot.then(|| (c, self.kitchen.fridge_c.map(chill).filter(|minutes| *minutes >= 1.0)))
    }
}

/// The kneading of a bake. What a household has learned counts its windows already: they are held against the book.
fn work<'t>(a: &Analysis<'_>, plan: &Plan, kitchen: &Kitchen, tables: &'t Tables) -> Option<Work<'t>> {
    let by_the_book = Kitchen { knead_speed: None, ..kitchen.clone() };
    let work = kneading_in(a, &by_the_book).check(&tables.knead, &tables.styles, &tables.ferment).ok()?;
    Some(work.leaving_at(plan.ask.mix_c))
}

/// The last window of a bake, against the book: earlier ones of the same dough say the same again. None where none was pulled, or
/// nothing tells how long it had been kneaded.
#[must_use]
pub fn last_pull(log: &[Event], plan: &Plan, formula: &Formula, kitchen: &Kitchen, tables: &Tables) -> Option<Pull> {
    let actual = told_by(&kept(log), kitchen);
    let (word, at) = *actual.windows.last()?;
    let minutes = plan.ask.kneaded_min(&actual.bowl, at);
    let a = formula.analyse(&tables.pantry, &tables.styles);
    if minutes > 0.0 { work(&a, plan, kitchen, tables)?.pulled(word, minutes) } else { None }
}
