//! What may vary of a plan: places, ways, loads, the leaven, how far each rise goes; with what is wrong at its field.

use cerealis_core::{
    Tables,
    ferment::Pace,
    formula::{Analysis, Raising},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    plan::search::{ask::FitAsk, schedule::ScheduleFamily},
};

use jiff::Timestamp;

use super::query::Query;
use crate::edge::Local;

/// A choice: its word, its words, whether it is taken.
type Choice = (&'static str, &'static str, bool);

/// The answers as they stand.
pub struct Vary {
    /// Whether anything but the usual is asked.
    pub(super) open: bool,
    /// Places that may be left out.
    pub(super) places: Vec<Choice>,
    /// The families of ways there are.
    pub(super) ways: Vec<Choice>,
    pub(super) loads: String,
    pub(super) perishable: bool,
    pub(super) lift: bool,
    pub(super) keep_dose: bool,
    pub(super) leaven: bool,
    pub(super) cold_days: String,
    pub(super) ripe: String,
    /// How far the bulk goes, and the proof.
    pub(super) bulk: Vec<Choice>,
    pub(super) proof: Vec<Choice>,
    /// Each pace with what it gains and loses.
    pub(super) paces: Vec<(&'static str, String, String)>,
    pub(super) wrong: Vec<(&'static str, String)>,
    /// What is wrong that has no field here.
    pub(super) elsewhere: Vec<(Pointer, String)>,
}

/// Fields of the form, and where a request tells what is wrong in them.
fn fields(leaven: bool) -> Vec<(&'static str, Pointer)> {
    let root = Pointer::root();
    let loads = ("loads", root.at("method").at("loads"));
    let fed = [("cold_days", root.at("leaven").at("cold_days")), ("ripe", root.at("ripe"))];
    std::iter::once(loads).chain(fed.into_iter().filter(|_| leaven)).collect()
}

impl Vary {
    /// From the answers, what they ask, and what was wrong.
    pub fn new(
        q: &Query,
        ask: &FitAsk,
        families: &[ScheduleFamily],
        analysis: &Analysis<'_>,
        kitchen: &Kitchen,
        wrong: &InputErrors,
        (t, now): (&Tables, Timestamp),
    ) -> Self {
        let local = Local::of(kitchen);
        let off = |p: Place| q.get(p.word()) == Some("off");
        let others = kitchen.places().into_iter().map(|(p, _)| p).filter(|p| *p != Place::Room);
        let only = ask.families.as_ref().and_then(|f| f.first().copied());
        // Where nothing could be looked for, the one that was chosen stays chosen; one alone is no choice.
        let ways = match families {
            [] => only.as_slice(),
            [_] if only.is_none() => &[],
            all => all,
        };
        let pace = |taken: Pace| Pace::ALL.iter().map(|p| (p.word(), p.word(), *p == taken)).collect::<Vec<_>>();
        let leaven = analysis.raising() == Some(Raising::Leaven);
        let told = fields(leaven);
        let at_field = |(field, at): &(&'static str, Pointer)| wrong.at(at).into_iter().map(|m| (*field, m)).collect::<Vec<_>>();
        let said = |name: &str| q.get(name).unwrap_or_default().to_owned();
        let asked = ["lift", "dose", "cold_days", "ripe", "loads", "only"].iter().any(|name| q.get(name).is_some());
        Self {
            open: asked || kitchen.places().iter().any(|(p, _)| off(*p)) || ask.paces != (Pace::Usual, Pace::Usual),
            places: others.map(|p| (p.word(), p.name(), off(p))).collect(),
            ways: ways.iter().map(|f| (f.word(), f.title(), only == Some(*f))).collect(),
            loads: q.get("loads").unwrap_or("1").to_owned(),
            perishable: analysis.is_perishable(),
            lift: ask.lift_warm_limit,
            keep_dose: ask.keep_dose,
            leaven,
            cold_days: said("cold_days"),
            ripe: q.hour("ripe", &local, now),
            bulk: pace(ask.paces.0),
            proof: pace(ask.paces.1),
            paces: Pace::ALL
                .iter()
                .filter_map(|p| t.ferment.paces.get(p.word()).map(|w| (p.word(), w.gains.clone(), w.loses.clone())))
                .collect(),
            wrong: told.iter().flat_map(at_field).collect(),
            elsewhere: wrong
                .0
                .iter()
                .filter(|e| told.iter().all(|(_, at)| *at != e.pointer))
                .map(|e| (e.pointer.clone(), e.message.clone()))
                .collect(),
        }
    }

    /// What is wrong at a field.
    pub(super) fn wrong_at(&self, field: &str) -> Vec<&str> {
        self.wrong.iter().filter(|w| w.0 == field).map(|w| w.1.as_str()).collect()
    }
}
