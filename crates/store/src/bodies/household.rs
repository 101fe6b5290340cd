//! The kitchen and the household's own things as they are written. Here `null` is said: it is an answer, no omission.

use std::collections::BTreeMap;

use cerealis_core::{
    kitchen::Kitchen,
    pantry::{OwnIngredient, OwnPan},
};
use serde_with::skip_serializing_none;

use super::{Field, stored};

stored! {
    /// The kitchen.
    #[serde(default)]
    KitchenV1 of cerealis_core::kitchen::Kitchen {
        name: String,
        zone: String,
        locale: String,
        cup: String,
        flour_measure: String,
        altitude_m: f64,
        latitude: Option<f64>,
        longitude: Option<f64>,
        room_c: f64,
        pantry_c: Option<f64>,
        fridge_c: Option<f64>,
        proof_box_c: Option<f64>,
        oven_light_c: Option<f64>,
        night: Option<NightV1>,
        flour_c: f64,
        tap_c: f64,
        oven: OvenV1,
        other_ovens: Vec<OvenV1>,
        mixer: String,
        mixer_size: String,
        knead_speed: Option<f64>,
        cup_ml: Option<f64>,
        egg: Option<String>,
        packet_g: Option<f64>,
        scale_step_g: f64,
        currency: String,
        prices: BTreeMap<String, f64>,
        hours: Vec<HoursV1>,
        nights_told: bool,
        units: UnitsV1,
        assumed: Vec<String>,
    }

    /// What a household reads its figures in.
    #[serde(default)]
    UnitsV1 of cerealis_core::measure::Units {
        system: String,
        temperature: String,
        weight: String,
        clock: String,
        decimal: String,
        week_start: String,
    }

    /// A kitchen that cools at night.
    NightV1 of cerealis_core::kitchen::Night { from: String, to: String, room_c: f64, pantry_c: f64 }

    /// An oven.
    #[serde(default)]
    OvenV1 of cerealis_core::kitchen::HouseOven { name: String, dial: String, offset_c: Option<f64>, hot_k: Option<f64>, fan: bool }

    /// Hours of the baker's.
    #[with(skip_serializing_none)]
    HoursV1 of cerealis_core::kitchen::Hours {
        name: String,
        kind: String,
        #[serde(default)]
        days: Vec<u8>,
        date: Option<String>,
        from: String,
        #[serde(default)]
        to: String,
    }

    /// An ingredient of the household's own.
    #[serde(default)]
    OwnIngredientV1 of cerealis_core::pantry::OwnIngredient {
        name: String,
        also: Vec<String>,
        like: String,
        protein_pct: Option<f64>,
        absorption_points: Option<f64>,
        water_pct: Option<f64>,
        fat_pct: Option<f64>,
        sugars_pct: Option<f64>,
        salt_pct: Option<f64>,
        kcal_100g: Option<f64>,
        cup_g: Option<f64>,
        teaspoon_g: Option<f64>,
        allergens: Vec<String>,
        source: String,
        away: bool,
    }

    /// A pan of its own.
    #[serde(default)]
    OwnPanV1 of cerealis_core::pantry::OwnPan {
        name: String,
        shape: String,
        volume_ml: Option<f64>,
        length_cm: Option<f64>,
        width_cm: Option<f64>,
        height_cm: Option<f64>,
        lid: bool,
        away: bool,
    }
}

/// A field that an old body does not have is as in a new one.
macro_rules! default {
    ($($body:ty => $core:ty),* $(,)?) => { $(
        impl Default for $body {
            fn default() -> Self { Self::keep(&<$core>::default()) }
        }
    )* };
}
default! {
    KitchenV1 => Kitchen,
    UnitsV1 => cerealis_core::measure::Units,
    OvenV1 => cerealis_core::kitchen::HouseOven,
    OwnIngredientV1 => OwnIngredient,
    OwnPanV1 => OwnPan,
}
