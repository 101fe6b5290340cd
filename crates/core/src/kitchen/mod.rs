//! What a household reckons with: its places and their warmth, its oven, its mixer, its measures.

mod assumed;
mod body;
mod country;
pub mod hours;
mod night;
mod oven;
mod stay;
mod sun;

pub use hours::{Hours, HoursKind};

pub use assumed::Assumed;
pub use body::{KitchenBody, PlacesBody};
pub use country::{COUNTRIES, FirstAnswers, Together};
pub use night::{Night, Nights};
pub use oven::{HouseOven, MOST_OTHERS};
pub use stay::{Minutes, Period, Stay};
pub use sun::{Dark, darkness};

use std::collections::BTreeMap;

use jiff::tz::TimeZone;

use crate::{
    knead::{Method, MixerSize},
    measure::Units,
    pantry::Pantry,
};

words! {
    /// Where a dough can stand.
    #[derive(PartialOrd, Ord)]
    Place { Room "room", Pantry "pantry", Fridge "fridge", ProofBox "proof-box", OvenLight "oven-light" }
}

impl Place {
    /// As a baker says it.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::Room => "room",
            Self::Pantry => "pantry",
            Self::Fridge => "fridge",
            Self::ProofBox => "proof box",
            Self::OvenLight => "oven with the light on",
        }
    }
}

/// Ways of mixing the water model knows, and how they are called.
pub const MIXERS: [(&str, &str); 7] = [
    (Method::Hand.word(), Method::Hand.title()),
    (Method::PlanetaryLow.word(), Method::PlanetaryLow.title()),
    (Method::PlanetaryMedium.word(), Method::PlanetaryMedium.title()),
    (Method::SpiralLow.word(), Method::SpiralLow.title()),
    (Method::SpiralHigh.word(), Method::SpiralHigh.title()),
    (Method::Processor.word(), Method::Processor.title()),
    ("none", "no kneading"),
];

/// Sizes of egg by the key of their weight in the pantry, and how they are called.
pub const EGGS: [(&str, &str); 9] = [
    ("us-small", "US small"),
    ("us-medium", "US medium"),
    ("us-large", "US large"),
    ("us-xl", "US extra large"),
    ("us-jumbo", "US jumbo"),
    ("uk-eu-s", "UK, EU small"),
    ("uk-eu-m", "UK, EU medium"),
    ("uk-eu-l", "UK, EU large"),
    ("uk-eu-xl", "UK, EU very large"),
];

/// The household's figures. Temperatures in °C.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API")]
pub struct Kitchen {
    pub name: String,
    /// IANA name of the time zone.
    pub zone: String,
    pub locale: String,
    pub cup: String,
    pub flour_measure: String,
    pub altitude_m: f64,
    /// Its place on the earth, degrees north and east; for when it is dark.
    pub latitude: Option<f64>,
    pub longitude: Option<f64>,
    pub room_c: f64,
    /// None where there is no pantry.
    pub pantry_c: Option<f64>,
    /// None where there is no fridge.
    pub fridge_c: Option<f64>,
    pub proof_box_c: Option<f64>,
    pub oven_light_c: Option<f64>,
    /// A kitchen that cools at night.
    pub night: Option<Night>,
    pub flour_c: f64,
    pub tap_c: f64,
    /// The oven that is usually taken.
    pub oven: HouseOven,
    pub other_ovens: Vec<HouseOven>,
    pub mixer: String,
    /// Of its stand mixer.
    pub mixer_size: MixerSize,
    /// How fast its kneading is, times the book's, as its windows taught; none until one has.
    pub knead_speed: Option<f64>,
    /// The household's own cup, ml; `cup` is then `own`.
    pub cup_ml: Option<f64>,
    /// Key of the egg it buys; none: by the locale.
    pub egg: Option<String>,
    /// Grams of the packet of dry yeast it buys; none: by the locale.
    pub packet_g: Option<f64>,
    /// The least its scale shows, g.
    pub scale_step_g: f64,
    /// The word or sign behind a price.
    pub currency: String,
    /// What a kilogram of an ingredient costs, by its id.
    pub prices: BTreeMap<String, f64>,
    /// The baker's hours, as they were told.
    pub hours: Vec<Hours>,
    /// Whether it was said when the household sleeps, or that it does not keep such hours.
    pub nights_told: bool,
    /// What it reads its figures in.
    pub units: Units,
    /// What nobody has told yet.
    pub assumed: Vec<Assumed>,
}

impl Default for Kitchen {
    fn default() -> Self {
        Self {
            name: "Your kitchen".into(),
            zone: "UTC".into(),
            locale: "en-US".into(),
            cup: "us".into(),
            flour_measure: "spooned".into(),
            altitude_m: 0.0,
            latitude: None,
            longitude: None,
            room_c: 21.0,
            pantry_c: Some(16.5),
            fridge_c: Some(4.0),
            proof_box_c: None,
            oven_light_c: Some(30.0),
            night: None,
            flour_c: 20.0,
            tap_c: 14.0,
            oven: HouseOven::default(),
            other_ovens: Vec::new(),
            mixer: "hand".into(),
            mixer_size: MixerSize::Small,
            knead_speed: None,
            cup_ml: None,
            egg: None,
            packet_g: None,
            scale_step_g: 1.0,
            currency: String::new(),
            prices: BTreeMap::new(),
            hours: Vec::new(),
            nights_told: false,
            units: Units::METRIC,
            assumed: Vec::new(),
        }
    }
}

impl Kitchen {
    /// One of which nobody has told anything yet, in a time zone.
    #[must_use]
    pub fn untold(zone: String) -> Self {
        Self { zone, assumed: Assumed::ALL.to_vec(), ..Self::default() }
    }
    /// Whether anything was told of it, be it only once that all is as it was guessed.
    #[must_use]
    pub fn is_told(&self) -> bool {
        // A household older than these marks has none.
        *self != Self { assumed: self.assumed.clone(), ..Self::untold(self.zone.clone()) }
    }
    /// The zone its clock is in; a name that is unknown here is taken for UTC.
    #[must_use]
    pub fn time_zone(&self) -> TimeZone {
        TimeZone::get(&self.zone).unwrap_or(TimeZone::UTC)
    }

    /// Whether it can knead so: hands every household has, a machine only its own kind.
    #[must_use]
    pub fn kneads(&self, method: Method) -> bool {
        let own = Method::from_word(&self.mixer).and_then(Method::machine);
        method.machine().is_none_or(|machine| own == Some(machine))
    }

    /// Warmth of a place, if the household has it.
    #[must_use]
    pub const fn place_c(&self, place: Place) -> Option<f64> {
        match place {
            Place::Room => Some(self.room_c),
            Place::Pantry => self.pantry_c,
            Place::Fridge => self.fridge_c,
            Place::ProofBox => self.proof_box_c,
            Place::OvenLight => self.oven_light_c,
        }
    }
    /// What one of the household's eggs weighs out of its shell, g: the size it buys, else the usual one where it lives.
    #[must_use]
    pub fn egg_g(&self, pantry: &Pantry) -> f64 {
        let usual = if self.locale.ends_with("-US") { "us-large" } else { "uk-eu-m" };
        let of = |key: &str| pantry.get("egg-whole").and_then(|e| e.piece(key)).map(|b| b.likely);
        self.egg.as_deref().and_then(of).or_else(|| of(usual)).unwrap_or(50.0)
    }
    /// The places the household has.
    #[must_use]
    pub fn places(&self) -> Vec<(Place, f64)> {
        Place::ALL.into_iter().filter_map(|p| self.place_c(p).map(|c| (p, c))).collect()
    }
}
