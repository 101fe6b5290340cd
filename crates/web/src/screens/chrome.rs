use cerealis_core::{
    kitchen::Kitchen,
    measure::{degrees, to_nearest},
};
use jiff::Timestamp;

use crate::edge::Local;

/// What stands round every page.
#[derive(Debug, Clone)]
pub struct Chrome {
    here: &'static str,
    /// In what weights are: pounds and ounces are wider than grams.
    pub weights: &'static str,
    /// Of how many hours its clock is.
    pub clock: &'static str,
    /// The kitchen's name.
    pub kitchen: String,
    /// `Room 19.5°, pantry 16.5°`.
    pub warmth: String,
    /// `Fri 6 Nov, 16:40`.
    pub now: String,
}

const NAV: [(&str, &str); 8] = [
    ("Today", "/"),
    ("Formula", "/formula"),
    ("Leaven", "/leaven"),
    ("Plan", "/plan"),
    ("Bake day", "/bakeday"),
    ("Oven", "/oven"),
    ("Logbook", "/logbook"),
    ("Kitchen", "/kitchen"),
];

impl Chrome {
    /// For a page named in the navigation.
    #[must_use]
    pub fn new(here: &'static str, kitchen: &Kitchen, now: Timestamp) -> Self {
        let here_c = |c: f64| degrees(to_nearest(c, 0.5)).short();
        Self {
            here,
            weights: kitchen.units.weight.word(),
            clock: kitchen.units.clock.word(),
            kitchen: kitchen.name.clone(),
            warmth: format!(
                "Room {}{}",
                here_c(kitchen.room_c),
                kitchen.pantry_c.map_or_else(String::new, |c| format!(", pantry {}", here_c(c)))
            ),
            now: Local::of(kitchen).day_and_clock(now),
        }
    }
    /// For a kitchen of which nothing is known yet: nothing is said of it.
    #[must_use]
    pub fn of_nobody_yet(self) -> Self {
        Self { kitchen: String::new(), warmth: String::new(), ..self }
    }
    /// Word, address, whether it is this page.
    #[must_use]
    pub fn nav(&self) -> Vec<(&'static str, &'static str, bool)> {
        NAV.iter().map(|(word, href)| (*word, *href, *word == self.here)).collect()
    }
}
