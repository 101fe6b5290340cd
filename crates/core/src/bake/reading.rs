//! What a thermometer can show in a kitchen, by what it was held to.

use crate::measure::{celsius_of, degrees};

/// What is measured, and from where to where it can be, °C. Engineering estimate: wide enough for a barn in winter.
const READINGS: &[(&str, f64, f64)] = &[
    ("dough", -5.0, 50.0),
    ("water", 0.0, 100.0),
    ("flour", -20.0, 50.0),
    ("room", -20.0, 50.0),
    ("pantry", -20.0, 50.0),
    ("fridge", -20.0, 30.0),
    ("proof-box", 0.0, 60.0),
    ("oven-light", 0.0, 60.0),
    ("oven", 0.0, 350.0),
    ("leaven", -5.0, 50.0),
];
/// Inside a loaf.
pub(super) const CORE_C: (f64, f64) = (0.0, 110.0);

/// The words of what is measured.
pub(super) fn measured() -> Vec<&'static str> {
    READINGS.iter().map(|r| r.0).collect()
}

/// Whether this can be, °C; of what is not in the table anything can.
pub(super) fn is_plausible(what: &str, c: f64) -> bool {
    READINGS.iter().find(|r| r.0 == what).is_none_or(|(_, low, high)| (*low..=*high).contains(&c))
}

/// Why a reading is not taken; it is asked whether it is Fahrenheit where it then could be.
pub(super) fn doubt(what: &str, c: f64) -> Option<String> {
    let (name, low, high) = READINGS.iter().find(|r| r.0 == what)?;
    doubt_within(name, (*low, *high), c)
}

/// The same for any range.
pub(super) fn doubt_within(what: &str, (low, high): (f64, f64), c: f64) -> Option<String> {
    if (low..=high).contains(&c) {
        return None;
    }
    let as_celsius = celsius_of(c);
    let name = what.replace('-', " ");
    Some(if (low..=high).contains(&as_celsius) && c.is_finite() {
        format!("{} is no {name}. Is that Fahrenheit? Then it is {}.", degrees(c).to(0), degrees(as_celsius).to(0))
    } else {
        format!("A reading of the {name} lies between {} and {}.", degrees(low).to(0).bare(), degrees(high).to(0))
    })
}
