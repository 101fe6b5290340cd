//! What an oven was seen to do in a bake: set, read, how the bread came out. The record is kept; what it teaches is later.

use jiff::Timestamp;

use super::{Event, EventKind, told::kept};
use crate::{kitchen::Kitchen, plan::minutes_between};

/// One bake in an oven.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct OvenEntry {
    /// When the bread went in, or when the oven was lit.
    pub at: Option<Timestamp>,
    /// Which oven, where it was told.
    pub oven: Option<String>,
    /// What it was set to, °C.
    pub set_c: Option<f64>,
    /// What an oven thermometer showed, in order, °C.
    pub read_c: Vec<f64>,
    /// The last of them before the door was opened to load: by then it had come to rest.
    pub settled_c: Option<f64>,
    /// The core temperature last read, °C.
    pub core_c: Option<f64>,
    /// Minutes in the oven.
    pub minutes: Option<f64>,
    /// The colour it came out.
    pub colour: Option<String>,
}

impl OvenEntry {
    /// How much hotter than its setting it was read when it had come to rest, K; none where nobody read or set it.
    #[must_use]
    pub fn off_k(&self) -> Option<f64> {
        Some(self.settled_c? - self.set_c?)
    }

    /// The number of the household's oven it was; a bake that does not say, or names one that is gone, was in the usual.
    #[must_use]
    pub fn in_oven(&self, kitchen: &Kitchen) -> usize {
        kitchen.ovens().position(|o| self.oven.as_deref() == Some(o.name.as_str())).unwrap_or(0)
    }
}

/// How much hotter than set an oven was read on the mean, K, and in how many bakes; none where it never was.
#[must_use]
pub fn mean_off_k<'a>(entries: impl Iterator<Item = &'a OvenEntry>) -> Option<(f64, usize)> {
    let read: Vec<f64> = entries.filter_map(OvenEntry::off_k).collect();
    #[allow(clippy::cast_precision_loss, reason = "bakes of a household")]
    let mean = read.iter().sum::<f64>() / read.len() as f64;
    (!read.is_empty()).then_some((mean, read.len()))
}

/// A dial that is off by less from what is told is as told, K: a thermometer is no better. Engineering estimate.
const WORTH_K: f64 = 4.0;

/// What an oven's dial should be told to be off by, K, as it was read; none where it was never read, or is as told.
#[must_use]
pub fn learned_off_k<'a>(entries: impl Iterator<Item = &'a OvenEntry>, told_k: Option<f64>) -> Option<f64> {
    mean_off_k(entries).map(|(k, _)| k.round()).filter(|k| (k - told_k.unwrap_or(0.0)).abs() >= WORTH_K)
}

/// Reads it off a bake's log; none where no oven was lit.
#[must_use]
pub fn oven_entry(log: &[Event]) -> Option<OvenEntry> {
    let mut entry = OvenEntry::default();
    let mut loaded = None;
    for e in kept(log) {
        let body = &e.event.body;
        match e.event.kind {
            EventKind::OvenOn | EventKind::Loaded => {
                entry.at.get_or_insert(e.event.at);
                if body.value.is_some() {
                    entry.set_c = body.value;
                }
                if e.event.kind == EventKind::OvenOn && body.what.is_some() {
                    entry.oven.clone_from(&body.what);
                }
                if e.event.kind == EventKind::Loaded && loaded.is_none() {
                    (loaded, entry.at) = (Some(e.event.at), Some(e.event.at));
                }
            }
            EventKind::Temperature if body.stage.as_deref() == Some("oven") => {
                entry.read_c.extend(body.value);
                if loaded.is_none() {
                    entry.settled_c = body.value;
                }
            }
            EventKind::Core => entry.core_c = body.value,
            EventKind::Colour => entry.colour.clone_from(&body.what),
            EventKind::Out if entry.minutes.is_none() => entry.minutes = loaded.map(|from| minutes_between(from, e.event.at)),
            _ => {}
        }
    }
    entry.at.map(|_| entry)
}
