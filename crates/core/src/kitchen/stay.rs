//! A dough, or a jar, stands somewhere for a while.

use crate::measure::degrees;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use super::Place;

/// It stands in one place for a while. The span is what is known of it: a [`Period`] of the clock, [`Minutes`], the instant
/// it came there, or minutes that may still be open.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Stay<S> {
    /// Where.
    pub place: Place,
    /// How warm it is there, °C.
    #[serde(rename = "place_c")]
    pub celsius: f64,
    /// When, or how long.
    #[serde(flatten)]
    pub span: S,
}

impl<S> Stay<S> {
    /// In a place of that warmth, °C.
    #[must_use]
    pub const fn at((place, celsius): (Place, f64), span: S) -> Self {
        Self { place, celsius, span }
    }
    /// `pantry 14°`.
    #[must_use]
    pub fn told(&self) -> String {
        format!("{} {}", self.place.name(), degrees(self.celsius).short())
    }
    /// The same for another while.
    #[must_use]
    pub fn lasting<T>(&self, span: T) -> Stay<T> {
        Stay { place: self.place, celsius: self.celsius, span }
    }
}

/// From one instant to another.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct Period {
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
}

/// So long.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Minutes {
    /// Minutes.
    pub minutes: f64,
}
