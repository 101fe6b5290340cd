//! What the household tells: its kitchen, its own ingredients and pans.

use cerealis_core::{
    kitchen::{Assumed, EGGS, HoursKind, MIXERS},
    knead::MixerSize,
    measure::{Decimal, System, Temperature, WeekStart, Weight},
};
use serde_json::{Value, json};

use super::{any_number, list, number, object, one_of, or_null, text};

/// Kinds of cup.
pub(super) const CUPS: [&str; 4] = ["us", "metric", "imperial", "own"];

/// When the room and the pantry are another by night, and how warm they are then.
pub(super) fn night() -> Value {
    let warmth = || number(-20.0, 60.0, "°C");
    object(&[("from", text()), ("to", text()), ("room_c", warmth()), ("pantry_c", warmth())], &[])
}

/// The schemas by their names.
pub(super) fn schemas() -> [(&'static str, Value); 4] {
    let warmth = || number(-20.0, 60.0, "°C");
    let places = object(
        &[("room_c", warmth()), ("pantry_c", or_null(warmth())), ("fridge_c", or_null(warmth()))],
        &[("proof_box_c", or_null(warmth())), ("oven_light_c", or_null(warmth())), ("night", or_null(night()))],
    );
    let oven = object(
        &[],
        &[
            ("name", json!({ "type": "string", "maxLength": 40 })),
            ("dial", one_of(&["celsius", "fahrenheit", "gas"])),
            ("offset_c", or_null(number(-60.0, 60.0, "hotter than the dial says, K"))),
            ("hot_k", or_null(number(0.0, 60.0, "between its sides, K"))),
            ("fan", json!({ "type": "boolean" })),
        ],
    );
    let prices = json!({ "type": "object", "additionalProperties": number(0.0, 10_000.0, "of a kilogram") });
    let hours = object(
        &[("name", text()), ("kind", one_of(&HoursKind::words())), ("from", text())],
        &[("to", text()), ("days", list(json!({ "type": "integer", "minimum": 0, "maximum": 6 }))), ("date", text())],
    );
    let kitchen = object(
        &[],
        &[
            ("name", text()),
            ("zone", text()),
            ("locale", text()),
            ("cup", one_of(&CUPS)),
            ("cup_ml", or_null(number(50.0, 600.0, "ml, of the household's own cup"))),
            ("flour_measure", one_of(&["spooned", "scooped", "sifted"])),
            ("egg", or_null(one_of(&EGGS.map(|e| e.0)))),
            ("packet_g", or_null(number(2.0, 60.0, "g of dry yeast"))),
            ("scale_step_g", number(0.01, 10.0, "g")),
            ("altitude_m", number(-430.0, 5000.0, "m")),
            ("latitude", or_null(number(-90.0, 90.0, "degrees north"))),
            ("longitude", or_null(number(-180.0, 180.0, "degrees east"))),
            ("places", places),
            ("flour_c", warmth()),
            ("tap_c", warmth()),
            ("other_ovens", list(oven.clone())),
            ("oven", oven),
            ("mixer", one_of(&MIXERS.map(|m| m.0))),
            ("mixer_size", one_of(&MixerSize::words())),
            ("currency", text()),
            ("prices", prices),
            ("hours", list(hours)),
            ("nights_told", json!({ "type": "boolean" })),
            ("units", one_of(&System::words())),
            ("temperature", one_of(&Temperature::words())),
            ("weight", one_of(&Weight::words())),
            ("clock", json!({ "type": "integer", "enum": [12, 24] })),
            ("decimal", one_of(&Decimal::words())),
            ("week_start", one_of(&WeekStart::words())),
            ("assumed", list(one_of(&Assumed::words()))),
        ],
    );
    let share = || or_null(number(0.0, 100.0, "% of its weight"));
    let flag = || json!({ "type": "boolean" });
    let ingredient = object(
        &[("name", text()), ("like", text())],
        &[
            ("also", list(text())),
            ("protein_pct", share()),
            ("absorption_points", or_null(number(-30.0, 60.0, "points of water against a white bread flour"))),
            ("water_pct", share()),
            ("fat_pct", share()),
            ("sugars_pct", share()),
            ("salt_pct", share()),
            ("kcal_100g", or_null(any_number("kcal in 100 g"))),
            ("cup_g", or_null(any_number("g of a US cup"))),
            ("teaspoon_g", or_null(any_number("g"))),
            ("allergens", list(text())),
            ("source", text()),
            ("away", flag()),
        ],
    );
    let cm = || or_null(number(1.0, 80.0, "cm, inside"));
    let pan = object(
        &[("name", text()), ("shape", one_of(&["loaf", "round", "ring", "rect", "pot", "basket"]))],
        &[
            ("volume_ml", or_null(number(30.0, 20_000.0, "ml to the rim"))),
            ("length_cm", cm()),
            ("width_cm", cm()),
            ("height_cm", cm()),
            ("lid", flag()),
            ("away", flag()),
        ],
    );
    let word = object(&[("word", json!({ "type": "string", "maxLength": 60 })), ("ingredient", text())], &[]);
    [("Kitchen", kitchen), ("OwnIngredient", ingredient), ("OwnPan", pan), ("OwnWord", word)]
}
