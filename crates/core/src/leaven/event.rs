//! What happens to a jar, and how it is checked before it is kept.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use crate::{
    input::{Errors, InputErrors, Pointer},
    kitchen::Place,
    measure::between,
};

words! {
    /// What happened to a jar.
    JarEventKind {
        Fed "fed", Level "level", Moved "moved", Temperature "temperature", Used "used", Note "note", Undo "undo"
    }
}

/// An event as it came, and as it is kept.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct JarEventBody {
    pub kind: String,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub at: Option<String>,
    /// Grams.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seed: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub water: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub flour: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub value: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub unit: Option<String>,
    /// A place, where it is moved or fed into one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub what: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<String>,
}

/// An event, checked, not yet kept.
#[derive(Debug, Clone, PartialEq)]
pub struct NewJarEvent {
    /// What.
    pub kind: JarEventKind,
    /// When.
    pub at: Timestamp,
    /// Everything it carries.
    pub body: JarEventBody,
}

/// An event of a jar's log.
#[derive(Debug, Clone, PartialEq)]
pub struct JarEvent {
    /// Its number, from 1.
    pub seq: i32,
    /// What happened.
    pub event: NewJarEvent,
}

/// How far a phone's clock may run ahead, minutes.
const AHEAD_MIN: f64 = 10.0;

impl JarEventBody {
    /// Checks an event. `now` is the server's clock: not more than 10 minutes ahead of it.
    ///
    /// # Errors
    /// Each field that is wrong.
    pub fn check(self, now: Timestamp) -> Result<NewJarEvent, InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        let kind = JarEventKind::from_word(&self.kind);
        if kind.is_none() {
            let known = JarEventKind::words();
            errors.add(root.at("kind"), format!("“{}” is nothing that happens to a jar: {}.", self.kind, known.join(", ")));
        }
        let at = match self.at.as_deref().map(str::parse::<Timestamp>) {
            Some(Ok(at)) => Some(at),
            Some(Err(_)) => {
                errors.add(root.at("at"), "Say when, with the offset, for example 2026-11-06T18:31:00+00:00.");
                None
            }
            None => Some(now),
        };
        if at.is_some_and(|at| crate::plan::minutes_between(now, at) > AHEAD_MIN) {
            errors.add(root.at("at"), "This lies ahead of the clock: it has not happened yet.");
        }
        let mut figure = |name: &str, value: Option<f64>, low: f64, high: f64, words: &str| match value {
            Some(v) => errors.range(root.at(name), v, low, high, words),
            None => errors.add(root.at(name), words),
        };
        match kind {
            Some(JarEventKind::Fed) => {
                figure("seed", self.seed, 0.1, 5000.0, between!("How much leaven was kept,", 0.1, 5000, grams));
                figure("water", self.water, 0.1, 5000.0, between!("How much water,", 0.1, 5000, grams));
                figure("flour", self.flour, 0.1, 5000.0, between!("How much flour,", 0.1, 5000, grams));
            }
            Some(JarEventKind::Level) => {
                figure("value", self.value, 0.5, 6.0, "How high it stands, between 0.5 and 6 times its height when fed.");
            }
            Some(JarEventKind::Temperature) => {
                figure("value", self.value, -5.0, 60.0, between!("A leaven's temperature lies", -5, 60, celsius));
            }
            Some(JarEventKind::Used) => figure("value", self.value, 0.1, 10_000.0, between!("How much was taken,", 0.1, 10000, grams)),
            Some(JarEventKind::Undo) => figure("value", self.value, 1.0, 1e6, "Say the number of what is taken back."),
            Some(JarEventKind::Moved | JarEventKind::Note) | None => {}
        }
        let place = self.what.as_deref();
        if (kind == Some(JarEventKind::Moved) && place.is_none()) || place.is_some_and(|p| Place::from_word(p).is_none()) {
            errors.add(root.at("what"), format!("Say where it stands now: {}.", Place::ALL.map(Place::word).join(", ")));
        }
        if self.note.as_ref().is_some_and(|n| n.chars().count() > 4000) {
            errors.add(root.at("note"), "A note of 4,000 letters at most.");
        }
        match (kind, at) {
            (Some(kind), Some(at)) => errors.finish(NewJarEvent { kind, at, body: self }),
            _ => Err(errors.finish(()).err().unwrap_or(InputErrors(Vec::new()))),
        }
    }
}
