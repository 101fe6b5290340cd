use cerealis_core::{
    kitchen::Kitchen,
    measure::{show_degrees, to_nearest},
};
use jiff::Timestamp;

use crate::edge::Local;

/// What stands round every page.
#[derive(Debug, Clone)]
pub struct Chrome {
    here: &'static str,
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
        let degrees = |c: f64| {
            let half = to_nearest(c, 0.5);
            show_degrees(half)
        };
        Self {
            here,
            kitchen: kitchen.name.clone(),
            warmth: format!(
                "Room {}°{}",
                degrees(kitchen.room_c),
                kitchen.pantry_c.map_or_else(String::new, |c| format!(", pantry {}°", degrees(c)))
            ),
            now: Local::of(kitchen).day_and_clock(now),
        }
    }
    /// Word, address, whether it is this page.
    #[must_use]
    pub fn nav(&self) -> Vec<(&'static str, &'static str, bool)> {
        NAV.iter().map(|(word, href)| (*word, *href, *word == self.here)).collect()
    }
}
