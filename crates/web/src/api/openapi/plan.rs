//! What is asked and answered where plans are looked for, and where a leaven is fed.

use cerealis_core::{
    leaven::JarEventKind,
    plan::search::{schedule::ScheduleFamily, want::Want},
};
use serde_json::{Value, json};

use super::{any_number, at, list, number, object, one_of, or_null, sent, text};

fn moment() -> Value {
    json!({ "type": "string", "format": "date-time" })
}

fn families() -> Value {
    one_of(&ScheduleFamily::ALL.map(ScheduleFamily::word))
}

/// The rest of a running bake planned anew.
pub(super) fn replan() -> Value {
    let any = || json!({ "type": "object" });
    let option = object(
        &[
            ("changes", list(any())),
            ("carry", or_null(any())),
            ("shape_at", or_null(moment())),
            ("load_at", moment()),
            ("ready_at", moment()),
            ("p_spoil", number(0.0, 1.0, "chance")),
            ("ripeness", list(any())),
            ("rest", any()),
        ],
        &[],
    );
    object(&[("reasons", list(any())), ("options", list(option)), ("other_bread", json!({ "type": "boolean" }))], &[])
}

/// The request.
pub(super) fn body() -> Value {
    let warmth = || number(-20.0, 60.0, "°C");
    let kitchen = object(
        &[("room_c", warmth())],
        &[
            ("pantry_c", or_null(warmth())),
            ("fridge_c", or_null(warmth())),
            ("proof_box_c", or_null(warmth())),
            ("oven_light_c", or_null(warmth())),
            ("night", or_null(super::household::night())),
            ("scale_step_g", number(0.001, 100.0, "g")),
            ("altitude_m", number(-430.0, 5000.0, "m")),
        ],
    );
    let away = object(&[("from", moment()), ("to", moment())], &[("kind", one_of(&["away", "asleep", "busy"]))]);
    let set_c = ("set_c", number(100.0, 300.0, "°C"));
    let taken = object(&[("from", moment()), ("to", moment())], &[set_c, ("steam", json!({ "type": "boolean" }))]);
    let pace = || one_of(&["quick", "usual", "patient"]);
    let method = object(
        &[],
        &[
            ("families", list(families())),
            ("fridge", json!({ "type": "boolean" })),
            ("keep_dose", json!({ "type": "boolean" })),
            ("egg_milk_limit", one_of(&["keep", "lift"])),
            ("loads", json!({ "type": "integer", "minimum": 1, "maximum": 6 })),
            ("bulk_pace", pace()),
            ("proof_pace", pace()),
        ],
    );
    let part = object(&[("formula", at("Formula"))], &[("ready_at", moment())]);
    object(
        &[],
        &[
            ("formula", at("Formula")),
            ("formulas", json!({ "type": "array", "items": part, "minItems": 1, "maxItems": 4 })),
            ("ready_at", moment()),
            ("start_at", moment()),
            ("kitchen", kitchen),
            ("away", json!({ "type": "array", "items": away, "maxItems": 100 })),
            ("oven_taken", json!({ "type": "array", "items": taken, "maxItems": 100 })),
            ("want", one_of(&Want::words())),
            ("early_min", number(0.0, 2880.0, "min")),
            ("leaven", object(&[], &[("cold_days", number(0.0, 365.0, "days")), ("ripe_at", moment())])),
            ("method", method),
        ],
    )
}

/// A plan on offer.
pub(super) fn option() -> Value {
    let step = object(
        &[
            ("kind", text()),
            ("start", moment()),
            ("end", moment()),
            ("hands_on_min", any_number("min")),
            ("place", text()),
            ("sign", text()),
            ("instruction", text()),
            ("words", list(text())),
        ],
        &[("from", moment()), ("until", moment())],
    );
    let feed = object(&[("seed", any_number("parts")), ("water", any_number("parts")), ("flour", any_number("parts"))], &[]);
    let rise = object(
        &[
            ("kind", one_of(&["leaven", "preferment", "bulk", "proof"])),
            ("stages", list(json!({ "type": "object", "required": ["place", "place_c", "minutes"] }))),
            ("ripeness", any_number("of its dough time")),
            ("over", any_number("of its dough time")),
        ],
        &[("feed", feed)],
    );
    let dose = object(
        &[("ingredient", text()), ("grams", any_number("g")), ("pct", any_number("% of the flour")), ("was_grams", any_number("g"))],
        &[("dissolve", text())],
    );
    let oven = object(&[("set_c", any_number("°C")), ("preheat_min", any_number("min")), ("minutes", any_number("min"))], &[]);
    object(
        &[
            ("id", text()),
            ("name", text()),
            ("family", families()),
            ("steps", list(step)),
            ("ready_at", moment()),
            ("formula", at("Formula")),
            ("mix_c", any_number("°C")),
            ("oven", oven),
            ("rises", list(rise)),
            ("p_spoil", number(0.0, 1.0, "")),
            ("p_late", number(0.0, 1.0, "")),
            ("risk", text()),
            ("slack_min", any_number("min")),
            ("hands_on_min", any_number("min")),
            ("findings", list(at("Finding"))),
            ("reasons", list(text())),
            ("trade_offs", list(text())),
            ("ask", json!({ "type": "object" })),
        ],
        &[("dose", dose), ("leaven", json!({ "type": "object" })), ("warm_min", any_number("min"))],
    )
}

/// The answer: plans for one dough, or for several together.
pub(super) fn answer() -> Value {
    let together = object(&[("id", text()), ("parts", list(at("PlanOption"))), ("ready_at", or_null(moment()))], &[]);
    let relax = object(
        &[("kind", text()), ("minutes", json!({ "type": "integer" })), ("message", text())],
        &[("with", text()), ("window", json!({ "type": "integer", "minimum": 0 }))],
    );
    let wish = object(&[("want", one_of(&Want::words())), ("gains", text()), ("costs", text())], &[]);
    object(
        &[("options", list(json!({ "anyOf": [at("PlanOption"), together] }))), ("findings", list(at("Finding")))],
        &[("relax", list(relax)), ("nearest", at("PlanOption")), ("wishes", list(wish))],
    )
}

/// A leaven as it is fed.
pub(super) fn leaven_body() -> Value {
    let part = || json!({ "type": "number", "exclusiveMinimum": 0, "description": "parts by weight" });
    sent(
        &[("seed", part()), ("water", part()), ("flour", part()), ("place_c", number(-20.0, 60.0, "°C"))],
        &[
            ("flour_mix", json!({ "type": "object", "additionalProperties": { "type": "number", "minimum": 0 } })),
            ("seed_hydration_pct", number(30.0, 250.0, "% of its flour")),
            ("seed_state", json!({ "type": "object" })),
            ("start_c", number(-5.0, 60.0, "°C")),
            ("hours", json!({ "type": "number", "exclusiveMinimum": 0, "maximum": 168 })),
            ("mass_g", number(5.0, 20_000.0, "g")),
            ("rate", number(0.1, 10.0, "×")),
        ],
    )
}

/// How it ripens and falls.
pub(super) fn leaven_answer() -> Value {
    object(
        &[
            ("events", list(at("RiseEvent"))),
            ("curve", json!({ "type": "array", "items": at("RiseRow"), "maxItems": 500 })),
            ("end", at("RiseRow")),
            ("top", object(&[("min", any_number("min")), ("volume_ratio", any_number("×"))], &[])),
            ("state", json!({ "type": "object" })),
            ("findings", list(at("Finding"))),
        ],
        &[],
    )
}

/// A jar as it is told.
pub(super) fn jar_body() -> Value {
    let mix = json!({ "type": "object", "additionalProperties": { "type": "number", "minimum": 0 } });
    object(
        &[
            ("name", json!({ "type": "string", "maxLength": 60 })),
            ("flour_mix", mix),
            ("hydration_pct", number(40.0, 200.0, "% of its flour")),
        ],
        &[],
    )
}

/// What happens to a jar.
pub(super) fn jar_event() -> Value {
    let grams = || number(0.1, 5000.0, "g");
    sent(
        &[("kind", one_of(&JarEventKind::words())), ("at", moment())],
        &[
            ("seed", grams()),
            ("water", grams()),
            ("flour", grams()),
            ("value", any_number("times its height when fed, °C, or g")),
            ("unit", text()),
            ("what", text()),
            ("note", json!({ "type": "string", "maxLength": 4000 })),
        ],
    )
}

/// A jar with its log.
pub(super) fn jar_answer() -> Value {
    object(
        &[
            ("id", text()),
            ("name", text()),
            ("hydration_pct", any_number("%")),
            ("flour_mix", json!({ "type": "object" })),
            ("events", list(json!({ "type": "object", "required": ["seq", "at", "kind"] }))),
            (
                "state",
                or_null(json!({ "type": "object", "required": ["fed_at", "place", "ratio_now", "best_from", "best_to", "falls_at"] })),
            ),
            ("curve", list(at("RiseRow"))),
        ],
        &[],
    )
}
