//! A kitchen that cools at night: when, and how warm the places nobody heats are then.

use crate::measure::between;
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};

use super::{
    Kitchen, Place,
    hours::{Hours, clock, spells},
};
use crate::input::{Errors, Pointer};

/// A dough carried somewhere is reckoned to stand there for so long. Engineering estimate.
const AHEAD: SignedDuration = SignedDuration::from_hours(8);

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
                errors.add(here.at(name), "Write an hour, for example 22:30 or 10.30 pm.");
            }
        }
        if clock(&self.from).is_some() && clock(&self.from) == clock(&self.to) {
            errors.add(here.at("to"), "The night ends when it begins.");
        }
        for (name, c) in [("room_c", self.room_c), ("pantry_c", self.pantry_c)] {
            errors.range(here.at(name), c, -20.0, 60.0, between!("A place's temperature lies", -20, 60, celsius));
        }
    }
}

/// Nights of a kitchen over a span, as instants.
#[derive(Debug, Clone, PartialEq)]
pub struct Nights {
    /// From and to, in order.
    pub spells: Vec<(Timestamp, Timestamp)>,
    /// The places that are another then than by day, and how warm they are, °C.
    pub places: Vec<(Place, f64)>,
}

/// Work between these hours is night work, whenever the household sleeps. Common practice, no source.
const BEDTIME: (&str, &str) = ("22:00", "08:00");

impl Kitchen {
    /// Hours in which one would rather sleep: ten at night to eight in the morning, in the household's zone.
    #[must_use]
    pub fn bedtimes(&self, from: Timestamp, to: Timestamp) -> Vec<(Timestamp, Timestamp)> {
        spells(&[Hours::every_night("night", BEDTIME)], &self.time_zone(), from, to).into_iter().map(|s| (s.from, s.to)).collect()
    }
}

impl Nights {
    /// How warm a place is in them, where it is another than by day, °C.
    #[must_use]
    pub fn place_c(&self, place: Place) -> Option<f64> {
        self.places.iter().find(|(p, _)| *p == place).map(|(_, c)| *c)
    }

    /// Those that are not over at an instant.
    fn from(&self, at: Timestamp) -> impl Iterator<Item = &(Timestamp, Timestamp)> {
        self.spells.iter().skip(self.spells.partition_point(|s| s.1 <= at))
    }

    /// How warm a place of `day_c` is at an instant, and until when.
    #[must_use]
    pub fn at(&self, place: Place, day_c: f64, at: Timestamp) -> (f64, Option<Timestamp>) {
        let Some(by_night) = self.place_c(place) else { return (day_c, None) };
        match self.from(at).next() {
            Some((from, to)) if *from <= at => (by_night, Some(*to)),
            Some((from, _)) => (day_c, Some(*from)),
            None => (day_c, None),
        }
    }

    /// The mean warmth of a place of `day_c` from one instant to another.
    #[must_use]
    pub fn mean(&self, place: Place, day_c: f64, from: Timestamp, to: Timestamp) -> f64 {
        let Some(by_night) = self.place_c(place).filter(|_| from < to) else { return day_c };
        let within = self.from(from).take_while(|s| s.0 < to);
        let dark: f64 = within.map(|s| s.1.min(to).duration_since(s.0.max(from)).as_secs_f64()).sum();
        day_c + (by_night - day_c) * dark / to.duration_since(from).as_secs_f64()
    }
}

impl Kitchen {
    /// How warm a place is on the whole over the hours from an instant on, if the household has it, °C.
    #[must_use]
    pub fn warmth_from(&self, place: Place, at: Timestamp) -> Option<f64> {
        let to = at.checked_add(AHEAD).unwrap_or(at);
        let day_c = self.place_c(place)?;
        Some(self.nights(at, to).map_or(day_c, |n| n.mean(place, day_c, at, to)))
    }

    /// Its nights that touch a span; none where they are as warm as the days.
    #[must_use]
    pub fn nights(&self, from: Timestamp, to: Timestamp) -> Option<Nights> {
        let night = self.night.as_ref()?;
        let zone = self.time_zone();
        let hours = Hours::every_night("night", (&night.from, &night.to));
        let places: Vec<(Place, f64)> = [(Place::Room, night.room_c), (Place::Pantry, night.pantry_c)]
            .into_iter()
            .filter(|(p, by_night)| self.place_c(*p).is_some_and(|by_day| by_night.total_cmp(&by_day).is_ne()))
            .collect();
        let spells = || spells(&[hours], &zone, from, to).into_iter().map(|s| (s.from, s.to)).collect();
        (!places.is_empty()).then(|| Nights { spells: spells(), places })
    }
}
