//! The document's part on kneading.

use cerealis_core::{
    formula::StyleId,
    knead::{Method, MixerSize, PhaseKind, Until},
};
use serde_json::{Value, json};

use super::{any_number, at, list, number, object, one_of, or_null};

fn flag() -> Value {
    json!({ "type": "boolean" })
}

fn range(unit: &str) -> Value {
    object(&[("low", any_number(unit)), ("likely", any_number(unit)), ("high", any_number(unit))], &[])
}

/// What is asked: a formula, or the dough's own figures; either way how it is kneaded, and how warm dough and room are.
pub(super) fn body() -> Value {
    object(
        &[
            ("method", one_of(&Method::words())),
            ("start_c", number(-5.0, 45.0, "°C, the dough before it is worked")),
            ("room_c", number(0.0, 45.0, "°C")),
        ],
        &[
            ("formula", at("Formula")),
            ("style", one_of(&StyleId::words())),
            ("h_adj", number(30.0, 130.0, "% of the flour, adjusted to what the flour takes")),
            ("protein", number(6.0, 18.0, "% of the flour")),
            ("wholegrain_pct", number(0.0, 100.0, "%")),
            ("rye_pct", number(0.0, 100.0, "%")),
            ("fat_pct", number(0.0, 120.0, "%")),
            ("butter_late", flag()),
            ("sugar_pct", number(0.0, 60.0, "%")),
            ("salt_pct", number(0.0, 6.0, "%")),
            ("inclusions_pct", number(0.0, 200.0, "%")),
            ("yeast_pct", number(0.0, 10.0, "% as instant")),
            ("flour_g", number(20.0, 50_000.0, "g")),
            ("dough_g", number(30.0, 50_000.0, "g, more than the flour")),
            ("rest_min", number(0.0, 720.0, "min of soaking before it is kneaded")),
            ("rest_yeast", flag()),
            ("rest_salt", flag()),
            ("folds", number(0.0, 8.0, "whole")),
            ("minutes", number(0.0, 60.0, "min of kneading proper; left out it is planned")),
            ("bulk_min", number(0.0, 2880.0, "min; left out it is the style's")),
            ("mixer_size", one_of(&MixerSize::words())),
            ("fridge_c", number(0.0, 12.0, "°C")),
            ("speed_factor", number(0.25, 4.0, "×, learned")),
            ("friction_k_per_min", number(0.0, 20.0, "K a minute, learned")),
        ],
    )
}

/// What it comes to.
pub(super) fn answer() -> Value {
    let phase = object(
        &[
            ("kind", one_of(&PhaseKind::words())),
            ("minutes", range("min")),
            ("speed", one_of(&["hand", "low", "medium", "high", "pulse", "none"])),
            ("until", one_of(&Until::words())),
        ],
        &[],
    );
    let way = object(
        &[
            ("method", one_of(&[&Method::words()[..], &["long-rest"]].concat())),
            ("minutes", any_number("min")),
            ("hands_on_min", any_number("min")),
            ("folds", json!({ "type": "integer", "minimum": 0 })),
            ("bulk_min", any_number("min")),
            ("dough_c", any_number("°C")),
        ],
        &[],
    );
    let share = || or_null(any_number("of the target; null where nothing is to develop"));
    object(
        &[
            ("phases", list(phase)),
            ("target", any_number("of this flour's best")),
            ("gluten", any_number("of this flour's best")),
            ("development", share()),
            ("development_low", share()),
            ("development_high", share()),
            ("development_at_shaping", share()),
            ("bulk_min", any_number("min")),
            ("dough_c", range("°C, out of the bowl")),
            ("folds", json!({ "type": "integer", "minimum": 0 })),
            ("fold_at_min", list(any_number("min into the first rise"))),
            ("knead_min", any_number("min")),
            ("elapsed_min", any_number("min")),
            ("hands_on_min", any_number("min")),
            ("watch_min", any_number("min beside a running machine")),
            ("batches", json!({ "type": "integer", "minimum": 1 })),
            ("fridge_min", any_number("min until it is as cool as its kind likes")),
            ("findings", list(at("Finding"))),
            ("alternatives", list(way)),
            ("working", list(at("Working"))),
        ],
        &[],
    )
}
