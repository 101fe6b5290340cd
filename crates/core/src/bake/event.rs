//! The kinds of events, what each carries, and how an event is checked before it is kept.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use super::reading::{CORE_C, doubt, doubt_within, measured};
use crate::{
    input::{Errors, InputErrors, Pointer},
    kitchen::Place,
    knead::WindowWord,
    measure::{between, grams},
    plan::{RestPlan, StepKind},
};

words! {
    /// What happened.
    EventKind {
        Weighed "weighed", Added "added", Window "window", Mixed "mixed", Temperature "temperature", Fold "fold", KnockBack "knock-back", Moved "moved", Ripe "ripe",
        NotYet "not-yet", Over "over", Divided "divided", Shaped "shaped", OvenOn "oven-on", Loaded "loaded", SteamOff "steam-off",
        Turned "turned", Replanned "replanned", Foil "foil", LidOff "lid-off", Out "out", Core "core", Sliced "sliced", Colour "colour", Rating "rating", Fault "fault", Note "note", Undo "undo"
    }
}

words! {
    /// What is added by feel.
    ByFeel { Flour "flour", Water "water" }
}

/// An event as it came, and as its body is kept.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct EventBody {
    pub kind: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub at: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub value: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub unit: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stage: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub what: Option<String>,
    #[serde(default, deserialize_with = "crate::input::whole_if_told", skip_serializing_if = "Option::is_none")]
    pub line: Option<u32>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seen: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rest: Option<Box<RestPlan>>,
}

/// An event, checked, not yet kept.
#[derive(Debug, Clone, PartialEq)]
pub struct NewEvent {
    /// What.
    pub kind: EventKind,
    /// When.
    pub at: Timestamp,
    /// Everything it carries, as it came.
    pub body: EventBody,
}

/// An event of the log.
#[derive(Debug, Clone, PartialEq)]
pub struct Event {
    /// Its number, from 1.
    pub seq: i32,
    /// What happened.
    pub event: NewEvent,
}

/// Faults a baker can log.
const FAULTS: &[&str] = &[
    "dense",
    "dense-base",
    "gummy",
    "tunnels",
    "hole-under-crust",
    "collapsed",
    "sides-caved",
    "pale",
    "dark-bottom",
    "thick-crust",
    "soft-crust",
    "burst-side",
    "no-ear",
    "flat",
    "sour",
    "bland",
    "yeasty",
    "dry",
    "crumbly",
    "crumbly-gf",
    "gf-sunk",
    "greasy",
    "swirl-gap",
    "uneven",
    "stuck",
    "blisters",
    "streaks",
    "rope-mould",
    "bitter-soap",
    "raw-core",
    "burnt",
    "tight-crumb",
    "low-volume",
    "wrinkled",
    "sticky",
    "salty",
    "slow",
    "over-fast",
    "tears",
    "dull-crust",
];
const COLOURS: &[&str] = &["raw", "pale", "golden", "brown", "dark", "burnt"];
const RISES: &[&str] = &["leaven", "preferment", "bulk", "proof"];
/// How far a phone's clock may run ahead, minutes.
const AHEAD_MIN: f64 = 10.0;

impl EventBody {
    /// Checks an event against the log it is to join.
    ///
    /// `now` is the server's clock: an event may lie before earlier ones, not more than 10 minutes ahead.
    ///
    /// # Errors
    /// Each field that is wrong. An `undo` of an `undo` is told by [`NewEvent::conflict`].
    pub fn check(&self, now: Timestamp) -> Result<NewEvent, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        let kind = errors.keep(
            root.at("kind"),
            EventKind::from_word(&self.kind).ok_or_else(|| {
                let near = crate::did_you_mean(&self.kind, EventKind::words().into_iter());
                format!("“{}” is no event of a bake.{near}", self.kind)
            }),
        );
        let at = match &self.at {
            None => Some(now),
            Some(text) => errors.keep(
                root.at("at"),
                text.parse::<Timestamp>()
                    .map_err(|_| format!("“{text}” is no moment with its offset, for example 2026-11-06T18:31:00+00:00.")),
            ),
        };
        if let Some(at) = at {
            if crate::plan::minutes_between(now, at) > AHEAD_MIN {
                errors.add(root.at("at"), "That lies more than 10 minutes in the future.");
            }
            if at.as_second() < 0 {
                errors.add(root.at("at"), "An event lies after 1970.");
            }
        }
        if self.note.as_ref().is_some_and(|n| n.chars().count() > 4000) {
            errors.add(root.at("note"), "A note has 4000 letters at most.");
        }
        if let Some(kind) = kind {
            self.check_carried(kind, &mut errors);
        }
        let (Some(kind), Some(at)) = (kind, at) else { return Err(errors.finish(()).err().unwrap_or(InputErrors(Vec::new()))) };
        errors.finish(NewEvent { kind, at, body: self.clone() })
    }

    fn check_carried(&self, kind: EventKind, errors: &mut Errors) {
        use EventKind as K;
        let root = Pointer::root();
        let mut value = |low: f64, high: f64, words: &str| match self.value {
            Some(v) => errors.range(root.at("value"), v, low, high, words),
            None => errors.add(root.at("value"), words),
        };
        match kind {
            K::Weighed => value(0.0, 100_000.0, "Say what the scale shows, up to 100 000 g."),
            K::Added => value(0.0, 1000.0, concat!("What goes in by feel weighs up to ", grams!(1000), ".")),
            // From where to where it can lie is looked at below, by what was measured.
            K::Temperature | K::Core => value(f64::MIN, f64::MAX, "Say what the thermometer shows."),
            K::OvenOn | K::Loaded if self.value.is_some() => value(50.0, 320.0, between!("An oven setting", 50, 320, dial)),
            K::Rating => value(1.0, 5.0, "From 1 to 5."),
            K::Undo => value(1.0, 1e9, "Say which event is undone, by its number."),
            _ => {}
        }
        let wanted_unit = match kind {
            K::Temperature | K::Core | K::OvenOn | K::Loaded => Some("C"),
            K::Weighed | K::Added => Some("g"),
            _ => None,
        };
        if let Some(unit) = self.unit.as_deref().filter(|u| Some(*u) != wanted_unit) {
            errors.add(
                root.at("unit"),
                wanted_unit.map_or_else(
                    || format!("This event has no unit; “{unit}” is not needed."),
                    |w| format!("This is in {w}, not in “{unit}”."),
                ),
            );
        }
        let mut word = |field: &str, typed: Option<&str>, list: &[&str], what: &str| match typed {
            Some(w) if list.contains(&w) => {}
            Some(w) => errors.add(root.at(field), format!("“{w}” is no {what}: {}.", list.join(", "))),
            None => errors.add(root.at(field), format!("Say which {what}: {}.", list.join(", "))),
        };
        let places = Place::ALL.map(Place::word);
        match kind {
            K::Temperature => word("stage", self.stage.as_deref(), &measured(), "thing measured"),
            K::Moved => word("what", self.what.as_deref(), &places, "place"),
            K::Added => word("what", self.what.as_deref(), &ByFeel::words(), "thing that goes in by feel"),
            K::Window => word("what", self.what.as_deref(), &WindowWord::words(), "window"),
            K::Ripe | K::NotYet | K::Over => word("stage", self.stage.as_deref(), RISES, "rise"),
            K::Colour => word("what", self.what.as_deref(), COLOURS, "colour"),
            K::Fault => word("what", self.what.as_deref(), FAULTS, "fault"),
            K::Note if self.note.as_ref().is_none_or(|n| n.trim().is_empty()) && self.told_step().is_none() => {
                errors.add(root.at("note"), "There is nothing in this note yet.");
            }
            _ => {}
        }
        let reading = self.value.filter(|_| self.unit.as_deref().is_none_or(|u| Some(u) == wanted_unit));
        let doubted = match (kind, reading, self.stage.as_deref()) {
            (K::Temperature, Some(c), Some(stage)) => doubt(stage, c),
            (K::Core, Some(c), _) => doubt_within("loaf's core", CORE_C, c),
            _ => None,
        };
        if let Some(why) = doubted {
            errors.add(root.at("value"), why);
        }
        match (&self.rest, kind) {
            (Some(rest), K::Replanned) => rest.check(&root.at("rest"), errors),
            (None, K::Replanned) => errors.add(root.at("rest"), "Say how the rest of the bake is laid anew."),
            (Some(_), _) => errors.add(root.at("rest"), "Only “replanned” lays the rest of a bake anew."),
            (None, _) => {}
        }
        if let Some(seen) = self.seen.as_deref().filter(|s| !["now", "already"].contains(s)) {
            errors.add(root.at("seen"), format!("“{seen}” is not known here: now, already."));
        }
    }
}

impl StepKind {
    /// The event a tap on this step logs; nothing for a rise, which ends with the next act, and for work that a note tells of.
    #[must_use]
    pub const fn event(self) -> Option<EventKind> {
        match self {
            Self::Bloom | Self::Mix | Self::Soak | Self::Knead | Self::Butter => Some(EventKind::Mixed),
            Self::Fold => Some(EventKind::Fold),
            Self::KnockBack => Some(EventKind::KnockBack),
            Self::Shape => Some(EventKind::Shaped),
            Self::OvenOn => Some(EventKind::OvenOn),
            Self::Load => Some(EventKind::Loaded),
            Self::SteamOff => Some(EventKind::SteamOff),
            Self::LidOff => Some(EventKind::LidOff),
            Self::Turn => Some(EventKind::Turned),
            Self::Foil => Some(EventKind::Foil),
            Self::Check => Some(EventKind::Core),
            Self::Out => Some(EventKind::Out),
            Self::Ready => Some(EventKind::Sliced),
            Self::Move => Some(EventKind::Moved),
            Self::Bulk
            | Self::Proof
            | Self::Scald
            | Self::Feed
            | Self::Stir
            | Self::Leaven
            | Self::Preferment
            | Self::Finish
            | Self::Dip
            | Self::LidOn
            | Self::Dial
            | Self::Dry
            | Self::BenchRest => None,
        }
    }

    /// Whether a note tells that it is done: work that has no event of its own, and each at the bowl, of which the last has one.
    const fn is_told_by_note(self) -> bool {
        let rises = matches!(self, Self::Bulk | Self::Proof | Self::Leaven | Self::Preferment);
        self.is_at_bowl() || (self.event().is_none() && !rises)
    }
}

impl EventBody {
    /// The step a note tells is done.
    #[must_use]
    pub fn told_step(&self) -> Option<StepKind> {
        let what = self.what.as_deref().filter(|_| self.kind == EventKind::Note.word())?;
        StepKind::from_word(what).filter(|step| step.is_told_by_note())
    }
}

/// What a weighing says of that was held back.
const HELD_BACK: &str = "held-back";

impl NewEvent {
    /// Whether it tells how much of what was held back went in.
    #[must_use]
    pub fn is_held_back(&self) -> bool {
        self.kind == EventKind::Weighed && self.body.what.as_deref() == Some(HELD_BACK)
    }

    /// What an `undo` undoes.
    #[must_use]
    pub fn undoes(&self) -> Option<i32> {
        #[allow(clippy::cast_possible_truncation, reason = "1 to 1e9 was checked")]
        (self.kind == EventKind::Undo).then(|| self.body.value.map(|v| v as i32)).flatten()
    }

    /// Why the log forbids this event: an `undo` of an `undo`, or of nothing.
    #[must_use]
    pub fn conflict(&self, log: &[Event]) -> Option<String> {
        let target = self.undoes()?;
        match log.iter().find(|e| e.seq == target) {
            None => Some(format!("There is no event {target} to undo.")),
            Some(e) if e.event.kind == EventKind::Undo => Some("An undo cannot be undone: tap the act again.".to_owned()),
            Some(_) => None,
        }
    }
}
