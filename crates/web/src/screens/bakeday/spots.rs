//! Where the running dough could stand instead, and what would become of it there.

use cerealis_core::{
    kitchen::Kitchen,
    measure::{Quantity, degrees},
    plan::{Elsewhere, elsewhere},
};
use jiff::Timestamp;

use super::Standing;
use crate::{State, edge::Local};

/// A place the dough could stand in.
pub(super) struct Spot {
    pub(super) word: &'static str,
    pub(super) name: &'static str,
    pub(super) degrees: Quantity,
    pub(super) here: bool,
    pub(super) ripe: String,
    pub(super) over: String,
}

/// The places of the house with what the running rise would do there.
pub(super) fn spots(s: &Standing, kitchen: &Kitchen, now: Timestamp, state: &State) -> Vec<Spot> {
    let local = Local::of(kitchen);
    let hour = |at: Timestamp| local.clock_seen(at, now);
    let told = &s.state.actual;
    let found = elsewhere(&s.formula, &s.kept.plan.ask_now(told), told, kitchen, now, &state.tables()).unwrap_or_default();
    let spot = |e: Elsewhere| Spot {
        word: e.place.word(),
        name: e.place.name(),
        degrees: degrees(e.place_c).short(),
        here: e.here,
        ripe: match e.ripe {
            Some((_, at, _)) if at <= now => "now".to_owned(),
            Some((_, at, _)) => hour(at),
            None => "not in a week".to_owned(),
        },
        over: e.over.map_or_else(|| "not in a day".to_owned(), |at| if at <= now { "already".to_owned() } else { hour(at) }),
    };
    found.into_iter().map(spot).collect()
}
