//! What a household reads its figures in.

use serde::{Deserialize, Serialize};

words! {
    /// Lengths and volumes.
    #[derive(Default)]
    System {
        #[default]
        Metric "metric" "metric: cm, ml, litres",
        Us "us" "US customary: inches, cups, fluid ounces",
        Uk "uk" "UK: inches, ml, pints",
    }
    /// Temperatures.
    #[derive(Default)]
    Temperature {
        #[default]
        Celsius "celsius" "°C",
        Fahrenheit "fahrenheit" "°F",
    }
    /// Weights.
    #[derive(Default)]
    Weight {
        #[default]
        Grams "grams" "grams",
        Pounds "pounds" "pounds and ounces",
    }
    /// Hours of the day.
    #[derive(Default)]
    Clock {
        #[default]
        H24 "24" "24 hours: 19:40",
        H12 "12" "12 hours: 7:40 pm",
    }
    /// What stands before the tenths.
    #[derive(Default)]
    Decimal {
        #[default]
        Point "point" "point: 2.5",
        Comma "comma" "comma: 2,5",
    }
    /// The day a week begins with.
    #[derive(Default)]
    WeekStart {
        #[default]
        Monday "monday" "Monday",
        Sunday "sunday" "Sunday",
        Saturday "saturday" "Saturday",
    }
}

impl WeekStart {
    /// The day's number, 0 for Monday.
    #[must_use]
    pub const fn weekday(self) -> usize {
        match self {
            Self::Monday => 0,
            Self::Saturday => 5,
            Self::Sunday => 6,
        }
    }
}

/// The units and ways of writing of a household.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[allow(missing_docs, reason = "each is a choice that says it")]
pub struct Units {
    pub system: System,
    pub temperature: Temperature,
    pub weight: Weight,
    pub clock: Clock,
    pub decimal: Decimal,
    pub week_start: WeekStart,
}

impl Units {
    /// As the API, the files and the tables write: °C, g, ml, cm, 24 hours, a point.
    pub const METRIC: Self = Self {
        system: System::Metric,
        temperature: Temperature::Celsius,
        weight: Weight::Grams,
        clock: Clock::H24,
        decimal: Decimal::Point,
        week_start: WeekStart::Monday,
    };
}
