//! A kitchen that cools at night: when, and how warm the places nobody heats are then.

use jiff::{Timestamp, tz::TimeZone};
use serde::{Deserialize, Serialize};

use super::{
    Kitchen, Place,
    hours::{Hours, HoursKind, clock, spells},
};
use crate::input::{Errors, Pointer};

/// From one hour to another, every night.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Night {
    /// From: `22:30`.
    pub from: String,
    /// To: `06:00`.
    pub to: String,
    /// How warm the room is then, °C.
    pub room_c: f64,
    /// And the pantry.
    pub pantry_c: f64,
}

impl Night {
    /// Checks its hours and its figures.
    pub fn check(&self, here: &Pointer, errors: &mut Errors) {
        for (name, hour) in [("from", &self.from), ("to", &self.to)] {
            if clock(hour).is_none() {
                errors.add(here.at(name), "Write the hour like 22:30.");
            }
        }
        if clock(&self.from).is_some() && clock(&self.from) == clock(&self.to) {
            errors.add(here.at("to"), "The night ends when it begins.");
        }
        for (name, c) in [("room_c", self.room_c), ("pantry_c", self.pantry_c)] {
            errors.range(here.at(name), c, -20.0, 60.0, "A place's temperature lies between -20 and 60 °C.");
        }
    }

    /// The places that are another then, by what they are by day, and how warm they are.
    #[must_use]
    pub fn places(&self, day: &Kitchen) -> Vec<(Place, f64)> {
        [(Place::Room, self.room_c, day.room_c), (Place::Pantry, self.pantry_c, day.pantry_c)]
            .into_iter()
            .filter(|(_, by_night, by_day)| by_night.total_cmp(by_day).is_ne())
            .map(|(p, c, _)| (p, c))
            .collect()
    }

    /// Its nights that touch a span, in the household's zone.
    #[must_use]
    pub fn spells(&self, zone: &TimeZone, from: Timestamp, to: Timestamp) -> Vec<(Timestamp, Timestamp)> {
        let hours = Hours {
            name: "night".to_owned(),
            kind: HoursKind::Asleep,
            days: (0..7).collect(),
            date: None,
            from: self.from.clone(),
            to: self.to.clone(),
        };
        spells(&[hours], zone, from, to).into_iter().map(|s| (s.from, s.to)).collect()
    }
}
