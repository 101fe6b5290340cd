//! The rest of the bake planned anew: why, and the ways to go on, the least change first.

use cerealis_core::{
    kitchen::{Kitchen, Place},
    measure::{show, show_minutes},
    plan::{
        Beside, StepKind, later, minutes_between,
        replan::{Reason, RestChange, RestOption},
        search::{judge::risk_word, schedule::RiseOf},
    },
};
use jiff::Timestamp;

use super::Standing;
use crate::{
    State, desk,
    edge::{Local, carried},
};

/// Why the rest is planned anew, and the ways.
pub(super) struct Rest {
    /// How many there are.
    pub(super) link: String,
    pub(super) reasons: Vec<String>,
    pub(super) other_bread: bool,
    /// Whether they tell of an oven that is not lit.
    pub(super) oven_cold: bool,
    pub(super) ways: Vec<Onward>,
}

/// A way to go on.
pub(super) struct Onward {
    pub(super) title: String,
    pub(super) detail: String,
    /// Acts and their hours.
    pub(super) hours: Vec<(&'static str, String)>,
    pub(super) off: String,
    pub(super) risk: String,
    /// What the log keeps of it, as it is sent.
    pub(super) rest: String,
}

/// The rest of a bake planned anew, in words; nothing where it goes as planned.
pub(super) fn rest(s: &Standing, kitchen: &Kitchen, (now, taken): (Timestamp, &[Beside]), state: &State) -> Option<Rest> {
    let found = desk::bakes::rest_anew(&s.kept, (&s.formula, &s.state), kitchen, (now, taken), &state.tables())?;
    let words = Words { local: Local::of(kitchen), now };
    let link = match found.options.len() {
        0 => "Read this first".to_owned(),
        1 => "One way to go on".to_owned(),
        n => format!("{n} ways to go on"),
    };
    Some(Rest {
        oven_cold: found.reasons.iter().any(|r| matches!(r, Reason::OvenCold(_))),
        link,
        reasons: found.reasons.iter().map(|r| words.reason(r)).collect(),
        other_bread: found.other_bread,
        ways: found.options.iter().map(|o| words.onward(o, s.kept.plan.ready_at, found.other_bread)).collect(),
    })
}

/// Beyond this nobody weighs how ripe it is: it is over.
const FAR_PAST: f64 = 1.4;

struct Words {
    local: Local,
    now: Timestamp,
}

const fn rise_name(rise: RiseOf) -> &'static str {
    match rise {
        RiseOf::Leaven => "leaven",
        RiseOf::Preferment => "preferment",
        RiseOf::Bulk => "first rise",
        RiseOf::Proof => "proof",
    }
}

const fn act_name(act: StepKind) -> &'static str {
    match act {
        StepKind::Shape => "shaped",
        StepKind::Load => "loaded",
        _ => "taken out",
    }
}

fn in_the(place: Place) -> String {
    format!("in the {}", place.name())
}

impl Words {
    fn hour(&self, at: Timestamp) -> String {
        self.local.clock_seen(at, self.now)
    }

    fn reason(&self, reason: &Reason) -> String {
        match *reason {
            Reason::Off(min) if min > 0.0 => format!("It goes {} later than planned.", show_minutes(min)),
            Reason::Off(min) => format!("It goes {} sooner than planned.", show_minutes(-min)),
            Reason::OvenCold(hot) => format!("The oven is hot at {} at the soonest: light it now.", self.hour(hot)),
            Reason::Nobody { act, due, over: Some(over), back } => format!(
                "To be {} about {}, over from {}: nobody is there until {}.",
                act_name(act),
                self.hour(due),
                self.hour(over),
                self.hour(back)
            ),
            Reason::Nobody { act, due, over: None, back } => {
                format!("To be {} about {}: nobody is there until {}.", act_name(act), self.hour(due), self.hour(back))
            }
            Reason::OvenTaken { due, ref bread, back } => {
                format!("It would go in at {}, and “{bread}” has the oven until {}.", self.hour(due), self.hour(back))
            }
            Reason::Over(rise, from) if from <= self.now => format!("The {} is past its best.", rise_name(rise)),
            Reason::Over(rise, from) => format!("The {} is over from {}, before anything is done.", rise_name(rise), self.hour(from)),
            Reason::Warm(min) => format!("It would stand warm for {}; a dough with egg, milk or cheese may for 4 h.", show_minutes(min)),
        }
    }

    fn onward(&self, o: &RestOption, ready_planned: Timestamp, other_bread: bool) -> Onward {
        let mut hours = Vec::new();
        hours.extend(o.shape.map(|at| ("shape", self.hour(at))));
        hours.extend([("oven", self.hour(o.load)), ("slice", self.hour(o.ready))]);
        let off = minutes_between(ready_planned, o.ready);
        let off = match off {
            l if l >= 10.0 => format!("{} later", show_minutes(l)),
            l if l <= -10.0 => format!("{} sooner", show_minutes(-l)),
            _ => "in time".to_owned(),
        };
        let risk = risk_word(o.p_spoil);
        Onward {
            title: if other_bread { "As another bread".to_owned() } else { self.title(o) },
            detail: self.details(o).join(". "),
            hours,
            off,
            risk: if risk == "safe" { String::new() } else { risk.to_owned() },
            rest: carried(&o.rest),
        }
    }

    /// What is done, in a few words.
    fn title(&self, o: &RestOption) -> String {
        if let Some(c) = o.carry {
            let when = if minutes_between(self.now, c.at) < 3.0 { "now".to_owned() } else { format!("at {}", self.hour(c.at)) };
            return format!("Into the {} {when}", c.place.name());
        }
        let place = o.changes.iter().find_map(|c| match *c {
            RestChange::Place(rise, place) => Some((rise, place)),
            RestChange::Brake(rise) => Some((rise, Place::Fridge)),
            _ => None,
        });
        match (place, o.changes.as_slice()) {
            (Some((RiseOf::Proof, place)), _) => format!("Once shaped, {}", in_the(place)),
            (Some((_, place)), _) => format!("Leave it {}", in_the(place)),
            (None, []) => "Leave it as it is".to_owned(),
            (None, [RestChange::BenchRest(min), ..]) => format!("Rest it {min} min on the bench"),
            (None, changes) if changes.iter().any(|c| matches!(c, RestChange::OutOfHours(_))) => {
                "Leave it as it is, and be there for it".to_owned()
            }
            (None, [RestChange::FoldsSkipped(_), ..]) => "Leave it, and fold less".to_owned(),
            (None, changes) if changes.iter().any(|c| matches!(c, RestChange::LoadSooner(_))) => "Bake it sooner".to_owned(),
            _ => "Leave it where it is".to_owned(),
        }
    }

    /// What else there is to say of it.
    fn details(&self, o: &RestOption) -> Vec<String> {
        let mut said = Vec::new();
        if let Some(c) = o.carry.filter(|c| minutes_between(c.at, c.by) >= 5.0) {
            said.push(format!("By {} at the latest", self.hour(c.by)));
        }
        for c in &o.changes {
            match *c {
                RestChange::HandsTaken(min, ref bread) => {
                    let at = self.hour(later(self.now, f64::from(min)));
                    said.push(format!("At {at} your hands are at {bread} too: one of the two waits, or somebody helps"));
                }
                RestChange::OutOfHours(min) => {
                    said.push(format!("It wants somebody at {}, in hours you gave as taken", self.hour(later(self.now, f64::from(min)))));
                }
                RestChange::FoldsSkipped(1) => said.push("One fold less".to_owned()),
                RestChange::FoldsSkipped(n) => said.push(format!("{n} folds fewer")),
                RestChange::BenchRest(min) if o.carry.is_some() => said.push(format!("{min} min on the bench")),
                RestChange::Place(RiseOf::Proof, place) if o.carry.is_some() && o.shape.is_some() => {
                    said.push(format!("Once shaped, {}", in_the(place)));
                }
                RestChange::Brake(RiseOf::Proof) if o.carry.is_some() && o.shape.is_some() => {
                    said.push(format!("Once shaped, {}", in_the(Place::Fridge)));
                }
                _ => {}
            }
        }
        // A tenth more or less is seen by nobody.
        for (rise, ripeness) in o.ripeness.iter().filter(|r| (r.1 - 1.0).abs() > 0.07 && r.1 < FAR_PAST) {
            let rise = if *rise == RiseOf::Bulk { "First rise" } else { "Proof" };
            let how = if *ripeness > 1.0 { "past ripe" } else { "short of ripe" };
            said.push(format!("{rise} a little {how}: {} of its time", show(*ripeness, 2)));
        }
        said
    }
}
