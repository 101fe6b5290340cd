//! What is usual where a household bakes: guessed on its first evening, and changed at any time.

use super::{Assumed, HouseOven, Kitchen, KitchenBody, PlacesBody};
use crate::{
    measure::{Clock, System, Temperature, Weight},
    oven::Dial,
};

/// Countries whose packets, eggs and spoons are known: locale and name.
pub const COUNTRIES: [(&str, &str); 9] = [
    ("en-US", "United States"),
    ("en-GB", "Britain"),
    ("en-IE", "Ireland"),
    ("en-AU", "Australia"),
    ("en-CA", "Canada"),
    ("de-DE", "Germany"),
    ("fr-FR", "France"),
    ("it-IT", "Italy"),
    ("sv-SE", "Sweden"),
];

words! {
    /// Weights and degrees that people use together.
    Together { GramsCelsius "g-c" "grams and °C", GramsFahrenheit "g-f" "grams and °F", OuncesFahrenheit "oz-f" "ounces and °F" }
}

/// What a household is asked on its first evening.
#[derive(Debug, Clone, PartialEq)]
pub struct FirstAnswers {
    /// Where it bakes: a locale of [`COUNTRIES`].
    pub country: String,
    /// How it weighs and tells warmth.
    pub together: Together,
    /// Its cup: `us`, `metric`, `imperial`.
    pub cup: String,
    /// How warm it is where dough stands, °C.
    pub room_c: f64,
    /// What stands on its oven's dial.
    pub dial: Dial,
}

impl FirstAnswers {
    /// As they are usual in a country. Common practice, no source.
    #[must_use]
    pub fn usual(country: &str) -> Self {
        let (together, cup, dial) = match country {
            "en-US" => (Together::OuncesFahrenheit, "us", Dial::Fahrenheit),
            "en-CA" => (Together::GramsCelsius, "metric", Dial::Fahrenheit),
            _ => (Together::GramsCelsius, "metric", Dial::Celsius),
        };
        Self { country: country.to_owned(), together, cup: cup.to_owned(), room_c: 20.0, dial }
    }

    /// What they tell of the kitchen. What was not asked, a pantry, a proof box, an oven's light, is not assumed; a fridge is.
    #[must_use]
    pub fn told(self) -> KitchenBody {
        let (weight, temperature) = match self.together {
            Together::GramsCelsius => (Weight::Grams, Temperature::Celsius),
            Together::GramsFahrenheit => (Weight::Grams, Temperature::Fahrenheit),
            Together::OuncesFahrenheit => (Weight::Pounds, Temperature::Fahrenheit),
        };
        let (system, clock) = if self.country == "en-US" { (System::Us, Clock::H12) } else { (System::Metric, Clock::H24) };
        let usual = Kitchen::default();
        KitchenBody {
            name: Some("My kitchen".to_owned()),
            locale: Some(self.country),
            cup: Some(self.cup),
            units: Some(system),
            temperature: Some(temperature),
            weight: Some(weight),
            clock: clock.word().parse().ok(),
            places: Some(PlacesBody {
                room_c: self.room_c,
                pantry_c: None,
                fridge_c: usual.fridge_c,
                proof_box_c: None,
                oven_light_c: None,
                night: None,
            }),
            oven: Some(HouseOven { dial: self.dial, ..HouseOven::default() }),
            assumed: Some(vec![
                Assumed::Fridge,
                Assumed::Tap,
                Assumed::Flour,
                Assumed::OvenOffset,
                Assumed::Mixer,
                Assumed::ScaleStep,
                Assumed::Altitude,
            ]),
            ..KitchenBody::default()
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_country_has_answers_that_a_kitchen_takes_and_is_told_by() {
        for (country, _) in COUNTRIES {
            let kitchen = FirstAnswers::usual(country).told().over(Kitchen::untold("UTC".into())).unwrap();
            assert!(kitchen.is_told() && kitchen.locale == country && kitchen.pantry_c.is_none(), "{country}");
            assert_eq!(kitchen.units.temperature == Temperature::Fahrenheit, country == "en-US", "{country}");
        }
    }
}
