//! The kitchen as it came, and the one door through which its figures go.

use crate::measure::{Clock, Decimal, System, Temperature, Units, WeekStart, Weight, between, millilitres};
use std::collections::BTreeMap;

use serde::{Deserialize, Deserializer, Serialize};

use crate::knead::MixerSize;

use super::{Assumed, EGGS, Hours, HouseOven, Kitchen, MIXERS, MOST_OTHERS, Night, hours};
use crate::input::{Errors, InputErrors, Pointer};

/// Warmth of the places, °C; none where the household has no such place. Pantry and fridge are told either way: who sends less
/// does not lose them by it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct PlacesBody {
    pub room_c: f64,
    #[serde(deserialize_with = "Option::deserialize")]
    pub pantry_c: Option<f64>,
    #[serde(deserialize_with = "Option::deserialize")]
    pub fridge_c: Option<f64>,
    #[serde(default)]
    pub proof_box_c: Option<f64>,
    #[serde(default)]
    pub oven_light_c: Option<f64>,
    /// When it is colder at night, and how cold.
    #[serde(default)]
    pub night: Option<Night>,
}

/// What is told of the kitchen. What is not told stays as it was; `null` takes a figure back.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct KitchenBody {
    pub name: Option<String>,
    pub zone: Option<String>,
    pub locale: Option<String>,
    pub cup: Option<String>,
    #[serde(deserialize_with = "told")]
    pub cup_ml: Option<Option<f64>>,
    pub flour_measure: Option<String>,
    #[serde(deserialize_with = "told")]
    pub egg: Option<Option<String>>,
    #[serde(deserialize_with = "told")]
    pub packet_g: Option<Option<f64>>,
    pub scale_step_g: Option<f64>,
    pub altitude_m: Option<f64>,
    #[serde(deserialize_with = "told")]
    pub latitude: Option<Option<f64>>,
    #[serde(deserialize_with = "told")]
    pub longitude: Option<Option<f64>>,
    pub places: Option<PlacesBody>,
    pub flour_c: Option<f64>,
    pub tap_c: Option<f64>,
    pub oven: Option<HouseOven>,
    pub other_ovens: Option<Vec<HouseOven>>,
    pub mixer: Option<String>,
    pub mixer_size: Option<MixerSize>,
    pub currency: Option<String>,
    pub prices: Option<BTreeMap<String, f64>>,
    pub hours: Option<Vec<Hours>>,
    pub nights_told: Option<bool>,
    /// Lengths and volumes.
    pub units: Option<System>,
    pub temperature: Option<Temperature>,
    pub weight: Option<Weight>,
    /// 24 or 12 hours.
    pub clock: Option<u8>,
    pub decimal: Option<Decimal>,
    pub week_start: Option<WeekStart>,
    /// What nobody has told yet; left out, a figure that changes is told by it.
    pub assumed: Option<Vec<Assumed>>,
}

/// Tells a field that is `null` from one that is not there.
fn told<'de, T: Deserialize<'de>, D: Deserializer<'de>>(from: D) -> Result<Option<Option<T>>, D::Error> {
    Option::deserialize(from).map(Some)
}

impl From<&Kitchen> for KitchenBody {
    fn from(k: &Kitchen) -> Self {
        Self {
            name: Some(k.name.clone()),
            zone: Some(k.zone.clone()),
            locale: Some(k.locale.clone()),
            cup: Some(k.cup.clone()),
            cup_ml: Some(k.cup_ml),
            flour_measure: Some(k.flour_measure.clone()),
            egg: Some(k.egg.clone()),
            packet_g: Some(k.packet_g),
            scale_step_g: Some(k.scale_step_g),
            altitude_m: Some(k.altitude_m),
            latitude: Some(k.latitude),
            longitude: Some(k.longitude),
            places: Some(PlacesBody {
                room_c: k.room_c,
                pantry_c: k.pantry_c,
                fridge_c: k.fridge_c,
                proof_box_c: k.proof_box_c,
                oven_light_c: k.oven_light_c,
                night: k.night.clone(),
            }),
            flour_c: Some(k.flour_c),
            tap_c: Some(k.tap_c),
            oven: Some(k.oven.clone()),
            other_ovens: Some(k.other_ovens.clone()),
            mixer: Some(k.mixer.clone()),
            mixer_size: Some(k.mixer_size),
            currency: Some(k.currency.clone()),
            prices: Some(k.prices.clone()),
            hours: Some(k.hours.clone()),
            nights_told: Some(k.nights_told),
            units: Some(k.units.system),
            temperature: Some(k.units.temperature),
            weight: Some(k.units.weight),
            clock: k.units.clock.word().parse().ok(),
            decimal: Some(k.units.decimal),
            week_start: Some(k.units.week_start),
            assumed: Some(k.assumed.clone()),
        }
    }
}

impl KitchenBody {
    /// The kitchen with what was told.
    ///
    /// # Errors
    /// Each figure that no kitchen has, at its field.
    pub fn over(self, before: Kitchen) -> Result<Kitchen, InputErrors> {
        let (was, assumed) = (before.clone(), self.assumed);
        let places = self.places.unwrap_or(PlacesBody {
            room_c: before.room_c,
            pantry_c: before.pantry_c,
            fridge_c: before.fridge_c,
            proof_box_c: before.proof_box_c,
            oven_light_c: before.oven_light_c,
            night: before.night.clone(),
        });
        let clock = match self.clock {
            None => before.units.clock,
            Some(hours) => Clock::from_word(&hours.to_string())
                .ok_or_else(|| InputErrors::one(Pointer::root().at("clock"), "A clock has 12 hours or 24."))?,
        };
        let units = Units {
            system: self.units.unwrap_or(before.units.system),
            temperature: self.temperature.unwrap_or(before.units.temperature),
            weight: self.weight.unwrap_or(before.units.weight),
            clock,
            decimal: self.decimal.unwrap_or(before.units.decimal),
            week_start: self.week_start.unwrap_or(before.units.week_start),
        };
        let mut kitchen = Kitchen {
            name: self.name.map_or(before.name, |n| n.trim().to_owned()),
            zone: self.zone.unwrap_or(before.zone),
            locale: self.locale.unwrap_or(before.locale),
            cup: self.cup.unwrap_or(before.cup),
            cup_ml: self.cup_ml.unwrap_or(before.cup_ml),
            flour_measure: self.flour_measure.unwrap_or(before.flour_measure),
            egg: self.egg.unwrap_or(before.egg),
            packet_g: self.packet_g.unwrap_or(before.packet_g),
            scale_step_g: self.scale_step_g.unwrap_or(before.scale_step_g),
            altitude_m: self.altitude_m.unwrap_or(before.altitude_m),
            latitude: self.latitude.unwrap_or(before.latitude),
            longitude: self.longitude.unwrap_or(before.longitude),
            room_c: places.room_c,
            pantry_c: places.pantry_c,
            fridge_c: places.fridge_c,
            proof_box_c: places.proof_box_c,
            oven_light_c: places.oven_light_c,
            night: places.night,
            flour_c: self.flour_c.unwrap_or(before.flour_c),
            tap_c: self.tap_c.unwrap_or(before.tap_c),
            oven: self.oven.unwrap_or(before.oven),
            other_ovens: self.other_ovens.unwrap_or(before.other_ovens),
            mixer: self.mixer.unwrap_or(before.mixer),
            mixer_size: self.mixer_size.unwrap_or(before.mixer_size),
            knead_speed: before.knead_speed,
            currency: self.currency.map_or(before.currency, |c| c.trim().to_owned()),
            prices: self.prices.unwrap_or(before.prices),
            hours: self.hours.unwrap_or(before.hours),
            nights_told: self.nights_told.unwrap_or(before.nights_told),
            units,
            assumed: Vec::new(),
        };
        kitchen.assumed = assumed.unwrap_or_else(|| was.still_assumed(&kitchen));
        kitchen.check()?;
        Ok(kitchen)
    }
}

impl Kitchen {
    /// Checks its figures.
    ///
    /// # Errors
    /// Each one that no kitchen has.
    pub fn check(&self) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        for (name, c) in [
            ("room_c", Some(self.room_c)),
            ("pantry_c", self.pantry_c),
            ("fridge_c", self.fridge_c),
            ("proof_box_c", self.proof_box_c),
            ("oven_light_c", self.oven_light_c),
        ] {
            if let Some(c) = c {
                errors.range(root.at("places").at(name), c, -20.0, 60.0, between!("A place's temperature lies", -20, 60, celsius));
            }
        }
        for (name, degrees, most, words) in [
            ("latitude", self.latitude, 90.0, "Degrees north lie between -90 and 90."),
            ("longitude", self.longitude, 180.0, "Degrees east lie between -180 and 180."),
        ] {
            if let Some(degrees) = degrees {
                errors.range(root.at(name), degrees, -most, most, words);
            }
        }
        if self.latitude.is_some() != self.longitude.is_some() {
            let missing = if self.latitude.is_none() { "latitude" } else { "longitude" };
            errors.add(root.at(missing), "Both are needed to know where the sun stands, or neither.");
        }
        if let Some(night) = &self.night {
            night.check(&root.at("places").at("night"), &mut errors);
        }
        let name = self.name.trim().chars().count();
        if !(1..=80).contains(&name) {
            errors.add(root.at("name"), "Give the kitchen a name of 1 to 80 letters.");
        }
        for (at, c) in [("flour_c", self.flour_c), ("tap_c", self.tap_c)] {
            errors.range(root.at(at), c, -20.0, 60.0, between!("Flour and tap water lie", -20, 60, celsius));
        }
        self.oven.check(&root.at("oven"), &mut errors);
        let others = root.at("other_ovens");
        for (i, oven) in self.other_ovens.iter().take(MOST_OTHERS).enumerate() {
            oven.check(&others.at(i), &mut errors);
        }
        for (i, oven) in self.other_ovens.iter().take(MOST_OTHERS).enumerate() {
            if self.ovens().take(i + 1).any(|before| before.name.trim() == oven.name.trim()) {
                errors.add(others.at(i).at("name"), "Another oven has that name: their logs would run into one.");
            }
        }
        if self.other_ovens.len() > MOST_OTHERS {
            errors.add(others, format!("At most {MOST_OTHERS} ovens beside the usual one."));
        }
        if !MIXERS.iter().any(|(word, _)| *word == self.mixer) {
            errors.add(root.at("mixer"), format!("“{}” is no way of mixing: {}.", self.mixer, MIXERS.map(|m| m.0).join(", ")));
        }
        match (self.cup.as_str(), self.cup_ml) {
            ("us" | "metric" | "imperial", None) => {}
            ("own" | "us" | "metric" | "imperial", Some(ml)) => {
                errors.range(
                    root.at("cup_ml"),
                    ml,
                    50.0,
                    600.0,
                    concat!("A cup holds between ", millilitres!(50 bare), " and ", millilitres!(600), "."),
                );
            }
            ("own", None) => errors.add(root.at("cup_ml"), "Say how many ml your own cup holds: weigh the water that fills it."),
            (other, _) => errors.add(root.at("cup"), format!("“{other}” is no kind of cup: us, metric, imperial, own.")),
        }
        if !["spooned", "scooped", "sifted"].contains(&self.flour_measure.as_str()) {
            errors.add(root.at("flour_measure"), format!("“{}” is no way of filling a cup: spooned, scooped, sifted.", self.flour_measure));
        }
        if let Some(egg) = self.egg.as_deref().filter(|e| !EGGS.iter().any(|(word, _)| word == e)) {
            errors.add(root.at("egg"), format!("“{egg}” is no size of egg: {}.", EGGS.map(|e| e.0).join(", ")));
        }
        if let Some(g) = self.packet_g {
            errors.range(root.at("packet_g"), g, 2.0, 60.0, between!("A packet of dry yeast holds", 2, 60, grams));
        }
        errors.range(root.at("scale_step_g"), self.scale_step_g, 0.01, 10.0, "A kitchen scale shows steps between 0.01 and 10 g.");
        hours::check(&self.hours, &mut errors);
        if self.currency.chars().count() > 8 {
            errors.add(root.at("currency"), "8 letters at most.");
        }
        for (id, price) in &self.prices {
            errors.range(root.at("prices").at(id), *price, 0.0, 10_000.0, "A kilogram costs between 0 and 10 000.");
        }
        if self.locale.len() > 35 || self.locale.is_empty() || !self.locale.chars().all(|c| c.is_ascii_alphanumeric() || c == '-') {
            errors.add(root.at("locale"), "A locale is written like en-US or de-DE.");
        }
        errors.range(root.at("altitude_m"), self.altitude_m, -430.0, 5000.0, "Altitude between -430 and 5000 m.");
        if jiff::tz::TimeZone::get(&self.zone).is_err() {
            errors.add(root.at("zone"), format!("“{}” is no time zone, for example Europe/London.", self.zone));
        }
        errors.finish(())
    }
}
