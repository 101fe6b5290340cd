//! The ovens of a household: their dials, and how far from it they are.

use serde::{Deserialize, Serialize};

use crate::{
    input::{Errors, Pointer},
    measure::kelvins,
    oven::Dial,
};

/// Most ovens beside the usual one.
pub const MOST_OTHERS: usize = 3;

/// An oven of the household.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct HouseOven {
    /// What it is called.
    #[serde(default = "usual_name")]
    pub name: String,
    /// The scale of its dial.
    #[serde(default)]
    pub dial: Dial,
    /// How much hotter it is than its dial says, K; none where nobody measured.
    #[serde(default)]
    pub offset_c: Option<f64>,
    /// How much hotter one side is than the other, K.
    #[serde(default)]
    pub hot_k: Option<f64>,
    /// Whether it is used with its fan.
    #[serde(default)]
    pub fan: bool,
}

fn usual_name() -> String {
    "oven".to_owned()
}

impl Default for HouseOven {
    fn default() -> Self {
        Self { name: usual_name(), dial: Dial::Celsius, offset_c: None, hot_k: None, fan: false }
    }
}

impl HouseOven {
    pub(super) fn check(&self, here: &Pointer, errors: &mut Errors) {
        if !(1..=40).contains(&self.name.trim().chars().count()) {
            errors.add(here.at("name"), "Give the oven a name of 1 to 40 letters.");
        }
        if let Some(c) = self.offset_c {
            let words = concat!("An oven is at most ", kelvins!(60), " off its dial; beyond that the dial is on another scale.");
            errors.range(here.at("offset_c"), c, -60.0, 60.0, words);
        }
        if let Some(k) = self.hot_k {
            errors.range(
                here.at("hot_k"),
                k,
                0.0,
                60.0,
                concat!("The sides of an oven differ by ", kelvins!(0 bare), " to ", kelvins!(60), "."),
            );
        }
    }
}

impl super::Kitchen {
    /// All its ovens, the usual one first.
    pub fn ovens(&self) -> impl Iterator<Item = &HouseOven> {
        std::iter::once(&self.oven).chain(&self.other_ovens)
    }
    /// The same kitchen with the oven of that number as the usual one; as it is where there is none.
    #[must_use]
    pub fn with_oven(mut self, nth: usize) -> Self {
        if let Some(other) = nth.checked_sub(1).and_then(|n| self.other_ovens.get_mut(n)) {
            std::mem::swap(&mut self.oven, other);
        }
        self
    }
}
