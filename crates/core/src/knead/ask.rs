//! What is asked of the kneading, and what it refuses.

use serde::{Deserialize, Serialize};

use super::{Constants, Method, MethodRow, MixerSize, StyleRow};
use crate::{
    ferment,
    formula::{StyleId, Styles},
    input::{Errors, InputErrors, Pointer},
    measure::{between, grams},
};

/// A dough and how it is kneaded, as it came. Percent of the flour, grams, °C, minutes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct KneadAsk {
    pub style: String,
    pub method: String,
    /// Water against the flour, adjusted to what the flour takes.
    pub h_adj: f64,
    #[serde(default = "twelve")]
    pub protein: f64,
    #[serde(default)]
    pub wholegrain_pct: f64,
    #[serde(default)]
    pub rye_pct: f64,
    #[serde(default)]
    pub fat_pct: f64,
    #[serde(default)]
    pub butter_late: bool,
    #[serde(default)]
    pub sugar_pct: f64,
    #[serde(default = "two")]
    pub salt_pct: f64,
    #[serde(default)]
    pub inclusions_pct: f64,
    #[serde(default)]
    pub yeast_pct: f64,
    pub flour_g: f64,
    pub dough_g: f64,
    /// The dough as water, flour and the rest give it, before it is worked.
    pub start_c: f64,
    pub room_c: f64,
    #[serde(default)]
    pub rest_min: f64,
    #[serde(default)]
    pub rest_yeast: bool,
    #[serde(default)]
    pub rest_salt: bool,
    pub folds: Option<f64>,
    /// Kneading proper; left out it is planned.
    pub minutes: Option<f64>,
    /// The first rise; left out it is the style's.
    pub bulk_min: Option<f64>,
    #[serde(default = "small")]
    pub mixer_size: String,
    #[serde(default = "five")]
    pub fridge_c: f64,
    /// How fast this household's kneading is, as its window tests taught.
    #[serde(default = "one")]
    pub speed_factor: f64,
    /// What its mixer warms a dough by, K per minute, where that is learned.
    pub friction_k_per_min: Option<f64>,
}

/// What a dough may start at, °C.
pub const START_C: (f64, f64) = (-5.0, 45.0);
/// How fast a household's kneading may be, times the book's.
pub const SPEED: (f64, f64) = (0.25, 4.0);

/// From where to where a figure may lie, and what is said of one that does not.
type Within = (f64, f64, &'static str);
/// Minutes of a rest before it is kneaded, of kneading proper, and folds, as a formula tells them too.
pub(crate) const REST_MIN: Within = (0.0, 720.0, "A rest lasts between 0 and 720 minutes.");
pub(crate) const MINUTES: Within = (0.0, 60.0, "Kneading lasts between 0 and 60 minutes.");
pub(crate) const FOLDS: Within = (0.0, 8.0, "Folds: 0 to 8.");

/// Whether so many folds are within reach and no whole number.
pub(crate) fn is_part_of_a_fold(folds: f64) -> bool {
    (FOLDS.0..=FOLDS.1).contains(&folds) && folds.fract() != 0.0
}

const fn one() -> f64 {
    1.0
}
const fn two() -> f64 {
    2.0
}
const fn five() -> f64 {
    5.0
}
const fn twelve() -> f64 {
    12.0
}
fn small() -> String {
    MixerSize::Small.word().to_owned()
}

impl Default for KneadAsk {
    /// A lean dough by hand, of which nothing more is told.
    fn default() -> Self {
        Self {
            style: StyleId::Lean.word().to_owned(),
            method: Method::Hand.word().to_owned(),
            h_adj: 66.0,
            protein: twelve(),
            wholegrain_pct: 0.0,
            rye_pct: 0.0,
            fat_pct: 0.0,
            butter_late: false,
            sugar_pct: 0.0,
            salt_pct: two(),
            inclusions_pct: 0.0,
            yeast_pct: 0.0,
            flour_g: 500.0,
            dough_g: 840.0,
            start_c: 21.0,
            room_c: 21.0,
            rest_min: 0.0,
            rest_yeast: false,
            rest_salt: false,
            folds: None,
            minutes: None,
            bulk_min: None,
            mixer_size: small(),
            fridge_c: five(),
            speed_factor: one(),
            friction_k_per_min: None,
        }
    }
}

/// What is asked, checked, with the rows it is worked out by.
#[derive(Debug, Clone)]
pub struct Work<'k> {
    pub(super) ask: KneadAsk,
    pub(super) k: &'k Constants,
    /// Friction and cooling, which the rise's constants own.
    pub(super) rise: &'k ferment::Constants,
    pub(super) style: StyleId,
    pub(super) method: Method,
    pub(super) size: MixerSize,
    pub(super) row: &'k MethodRow,
    /// The row it is mixed with.
    pub(super) mix: &'k MethodRow,
    pub(super) of_style: StyleRow,
    /// The style's dough temperature, °C.
    pub(super) dough_c: (f64, f64),
    pub(super) folds: Option<u32>,
}

impl KneadAsk {
    /// Checks words first, then figures in the order of the call, then that the dough weighs more than its flour.
    ///
    /// # Errors
    /// The first that is wrong, in a baker's words.
    pub fn check<'k>(&self, k: &'k Constants, styles: &Styles, rise: &'k ferment::Constants) -> Result<Work<'k>, InputErrors> {
        let root = Pointer::root();
        let refuse = |name: &str, words: &str| InputErrors::one(root.at(name), words);
        let style = StyleId::from_word(&self.style).ok_or_else(|| refuse("style", "This style is not known."))?;
        let no_method = || refuse("method", "This way of kneading is not known.");
        let method = Method::from_word(&self.method).ok_or_else(no_method)?;
        let size = MixerSize::from_word(&self.mixer_size).ok_or_else(|| refuse("mixer_size", "The mixer is small or large."))?;
        self.figures()?;
        let row = k.methods.get(method.word()).ok_or_else(no_method)?;
        let mix = k.methods.get(row.mix.word()).ok_or_else(no_method)?;
        let of_style = k.styles.get(style.word()).ok_or_else(|| refuse("style", "This style is not known."))?;
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a whole figure of 0 to 8")]
        let folds = self.folds.map(|n| n as u32);
        let dough_c = styles.get(style).dough_c;
        Ok(Work { ask: self.clone(), k, rise, style, method, size, row, mix, of_style: *of_style, dough_c, folds })
    }

    fn figures(&self) -> Result<(), InputErrors> {
        let flour = concat!("The flour must weigh between ", grams!(20), " and ", grams!(50000), ".");
        let dough = concat!("The dough must weigh between ", grams!(30), " and ", grams!(50000), ".");
        let all = [
            ("h_adj", Some(self.h_adj), 30.0, 130.0, "Effective hydration must be between 30 and 130 %."),
            ("protein", Some(self.protein), 6.0, 18.0, "Protein must be between 6 and 18 %."),
            ("wholegrain_pct", Some(self.wholegrain_pct), 0.0, 100.0, "Wholegrain must be between 0 and 100 %."),
            ("rye_pct", Some(self.rye_pct), 0.0, 100.0, "Rye must be between 0 and 100 %."),
            ("fat_pct", Some(self.fat_pct), 0.0, 120.0, "Fat must be between 0 and 120 %."),
            ("sugar_pct", Some(self.sugar_pct), 0.0, 60.0, "Sugar must be between 0 and 60 %."),
            ("salt_pct", Some(self.salt_pct), 0.0, 6.0, "Salt must be between 0 and 6 %."),
            ("inclusions_pct", Some(self.inclusions_pct), 0.0, 200.0, "Additions must be between 0 and 200 %."),
            ("yeast_pct", Some(self.yeast_pct), 0.0, 10.0, "Yeast must be between 0 and 10 %."),
            ("flour_g", Some(self.flour_g), 20.0, 50_000.0, flour),
            ("dough_g", Some(self.dough_g), 30.0, 50_000.0, dough),
            ("start_c", Some(self.start_c), START_C.0, START_C.1, between!("The dough must start", -5, 45, celsius)),
            ("room_c", Some(self.room_c), 0.0, 45.0, between!("The room must be", 0, 45, celsius)),
            ("rest_min", Some(self.rest_min), REST_MIN.0, REST_MIN.1, REST_MIN.2),
            ("speed_factor", Some(self.speed_factor), SPEED.0, SPEED.1, "The learnt speed must be between 0.25 and 4."),
            ("fridge_c", Some(self.fridge_c), 0.0, 12.0, between!("The fridge must be", 0, 12, celsius)),
            ("folds", self.folds, FOLDS.0, FOLDS.1, FOLDS.2),
            ("minutes", self.minutes, MINUTES.0, MINUTES.1, MINUTES.2),
            ("bulk_min", self.bulk_min, 0.0, 2880.0, "The first rise lasts between 0 and 2880 minutes."),
            ("friction_k_per_min", self.friction_k_per_min, 0.0, 20.0, "Friction must be between 0 and 20 K per minute."),
        ];
        let root = Pointer::root();
        let mut errors = Errors::default();
        for (name, value, low, high, words) in all {
            let Some(value) = value else { continue };
            errors.range(root.at(name), value, low, high, words);
            if name == "folds" && is_part_of_a_fold(value) {
                errors.add(root.at(name), words);
            }
        }
        if self.dough_g <= self.flour_g {
            errors.add(root.at("dough_g"), "The dough must weigh more than its flour.");
        }
        errors.finish(())
    }
}
