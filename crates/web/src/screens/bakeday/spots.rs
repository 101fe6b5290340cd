//! Where the running dough could stand instead, and what would become of it there.

use cerealis_core::{
    bake::actual,
    kitchen::Kitchen,
    measure::show_degrees,
    plan::{Elsewhere, StepKind, elsewhere, unattended},
};
use jiff::Timestamp;

use super::Standing;
use crate::{State, edge::Local};

/// A place the dough could stand in.
pub(super) struct Spot {
    pub(super) word: &'static str,
    pub(super) name: &'static str,
    pub(super) degrees: String,
    pub(super) here: bool,
    pub(super) ripe: String,
    pub(super) over: String,
}

/// A rise that is over before anybody is there: what is said, and the place to carry it to with one tap.
pub(super) struct NobodyThere {
    pub(super) words: String,
    pub(super) place: Option<(&'static str, &'static str)>,
}

/// Whether the running rise would be over before anybody is there, and what helps.
pub(super) fn nobody_there(s: &Standing, kitchen: &Kitchen, now: Timestamp, state: &State) -> Option<NobodyThere> {
    let local = Local::of(kitchen);
    let hour = |at: Timestamp| local.clock_seen(at, now);
    let told = actual(&s.log, kitchen);
    let u = unattended(&s.state.course, &s.formula, &s.kept.plan.ask, &told, kitchen, now, &state.tables()).ok().flatten()?;
    let due = format!("Ripe about {}, over from {}: nobody is there until {}.", hour(u.due), hour(u.over), hour(u.back));
    let act = if u.act == StepKind::Shape { "shaped" } else { "baked" };
    let helps = u.wait.map_or_else(
        || "No place in the house holds it so long: set an alarm, or make it flat bread before you go.".to_owned(),
        |w| format!("Carried to the {} by {} it can wait and be {act} from {}.", w.place.name(), hour(w.by), hour(w.taken_on)),
    );
    Some(NobodyThere { words: format!("{due} {helps}"), place: u.wait.map(|w| (w.place.word(), w.place.name())) })
}

/// The places of the house with what the running rise would do there.
pub(super) fn spots(s: &Standing, kitchen: &Kitchen, now: Timestamp, state: &State) -> Vec<Spot> {
    let local = Local::of(kitchen);
    let hour = |at: Timestamp| local.clock_seen(at, now);
    let found = elsewhere(&s.formula, &s.kept.plan.ask, &actual(&s.log, kitchen), kitchen, now, &state.tables()).unwrap_or_default();
    let spot = |e: Elsewhere| Spot {
        word: e.place.word(),
        name: e.place.name(),
        degrees: show_degrees(e.place_c),
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
