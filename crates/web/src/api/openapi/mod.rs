//! The OpenAPI 3.1 document. Closed lists come from the core, so they cannot drift; a test holds
//! paths, methods and real answers against it.

mod household;
mod knead;
mod plan;

use cerealis_core::{
    bake::EventKind,
    catalogue,
    formula::{Stage, StyleId, ToldAct, Used},
    knead::Method,
    oven::{BakeClass, Colour, Crust, Glaze, ProveIn, Shape, THICKNESS_CM, Vessel},
    pantry::Family,
};
use cerealis_exchange::{Format, PlanFormat};
use serde_json::{Map, Value, json};

use household::CUPS;

fn number(low: f64, high: f64, what: &str) -> Value {
    json!({ "type": "number", "minimum": low, "maximum": high, "description": what })
}
fn any_number(what: &str) -> Value {
    json!({ "type": "number", "description": what })
}
fn or_null(schema: Value) -> Value {
    json!({ "oneOf": [schema, { "type": "null" }] })
}
fn one_of(words: &[&str]) -> Value {
    json!({ "type": "string", "enum": words })
}
fn list(of: Value) -> Value {
    json!({ "type": "array", "items": of })
}
fn at(name: &str) -> Value {
    json!({ "$ref": format!("#/components/schemas/{name}") })
}
/// An object: required properties, then optional ones.
fn object(required: &[(&str, Value)], optional: &[(&str, Value)]) -> Value {
    let properties: Map<String, Value> = required.iter().chain(optional).map(|(k, v)| ((*k).to_owned(), v.clone())).collect();
    let names: Vec<&str> = required.iter().map(|r| r.0).collect();
    json!({ "type": "object", "properties": properties, "required": names, "additionalProperties": false })
}
/// A body that is sent: what may be left out may be null as well.
fn sent(required: &[(&str, Value)], optional: &[(&str, Value)]) -> Value {
    let optional: Vec<(&str, Value)> = optional.iter().map(|(k, v)| (*k, or_null(v.clone()))).collect();
    object(required, &optional)
}
fn text() -> Value {
    json!({ "type": "string" })
}

fn formula_schema() -> Value {
    let stages = Stage::ALL.map(Stage::word);
    let line = object(
        &[("ingredient", text()), ("grams", json!({ "type": "number", "exclusiveMinimum": 0, "maximum": 100_000 }))],
        &[
            ("grams_low", any_number("what it may be, at least")),
            ("grams_high", any_number("what it may be, at most")),
            ("stage", one_of(&stages)),
            ("source", text()),
            ("hydration_pct", number(30.0, 300.0, "water on flour of a leaven, %")),
            ("used", one_of(&Used::words())),
        ],
    );
    let pieces = object(
        &[("count", json!({ "type": "number", "minimum": 1, "maximum": 500 }))],
        &[
            ("piece_g", number(1.0, 20_000.0, "g")),
            ("shape", one_of(&Shape::words())),
            ("vessel", one_of(&Vessel::words())),
            ("lid", json!({ "type": "boolean" })),
            ("pan", text()),
            ("strands", json!({ "type": "number", "enum": [2, 3, 4, 6] })),
            ("arrangement", one_of(&["free", "touching"])),
            ("thickness_cm", number(THICKNESS_CM.0, THICKNESS_CM.1, "of a flat bread, cm")),
            ("prove_in", one_of(&ProveIn::words())),
        ],
    );
    let kneading = object(
        &[("method", one_of(&Method::words()))],
        &[
            ("minutes", number(0.0, 60.0, "kneading proper; left out it is planned, min")),
            ("rest_min", number(0.0, 720.0, "a soak before it, min")),
            ("folds", json!({ "type": "integer", "minimum": 0, "maximum": 8 })),
            ("butter_late", json!({ "type": "boolean" })),
        ],
    );
    let phase = object(
        &[],
        &[
            ("set_c", number(30.0, 300.0, "°C")),
            ("minutes_low", number(0.0, 600.0, "min")),
            ("minutes_high", number(0.0, 600.0, "min")),
            ("lid", one_of(&["on", "off"])),
            ("door", one_of(&["ajar"])),
            ("off", json!({ "type": "boolean" })),
        ],
    );
    let phases = json!({ "type": "array", "items": phase, "maxItems": 12 });
    let oven = object(
        &[],
        &[
            ("set_c", number(100.0, 300.0, "°C")),
            ("minutes_low", number(1.0, 600.0, "min")),
            ("minutes_high", number(1.0, 600.0, "min")),
            ("fan", json!({ "type": "boolean" })),
            ("ours", json!({ "type": "boolean" })),
            ("stages", phases),
        ],
    );
    let step = object(
        &[("text", json!({ "type": "string", "maxLength": 2000 }))],
        &[("act", one_of(&ToldAct::words())), ("start", byte()), ("end", byte())],
    );
    let styles = StyleId::ALL.map(StyleId::word);
    object(
        &[("lines", json!({ "type": "array", "items": line, "maxItems": 200 }))],
        &[
            ("name", text()),
            ("variant", json!({ "type": "string", "maxLength": 60 })),
            ("style", one_of(&styles)),
            ("yeast_kind", one_of(&["instant", "osmotolerant", "active-dry", "fresh"])),
            ("gluten_free", json!({ "type": "boolean" })),
            ("accepted", list(text())),
            ("further", json!({ "type": "array", "items": pieces, "maxItems": 8 })),
            ("hold", object(&[("ingredient", text()), ("grams", any_number("g held back"))], &[])),
            ("pieces", pieces),
            ("oven", oven),
            ("kneading", kneading),
            (
                "rises",
                object(&[], &[("bulks", json!({ "type": "number", "enum": [0, 1, 2] })), ("knock_back", json!({ "type": "boolean" }))]),
            ),
            ("coats", json!({ "type": "integer", "minimum": 1, "maximum": 3 })),
            ("steps", json!({ "type": "array", "items": step, "maxItems": 200, "description": "the recipe's own words" })),
            ("text", text()),
            ("note", json!({ "type": "string", "maxLength": 4000 })),
            ("tags", json!({ "type": "array", "items": { "type": "string", "maxLength": 40 }, "maxItems": 20 })),
        ],
    )
}

/// A place in the text, bytes of UTF-8.
fn byte() -> Value {
    json!({ "type": "integer", "minimum": 0 })
}

fn schemas() -> Value {
    let remedy = json!({ "type": "object", "properties": { "label": text(), "patch": list(json!({ "type": "object" })), "accept": { "type": "boolean" } }, "required": ["label"] });
    let finding = object(
        &[
            ("id", one_of(&catalogue::rules().iter().map(|r| r.id).collect::<Vec<_>>())),
            ("severity", one_of(&["note", "caution", "stop"])),
            ("message", text()),
            ("why", text()),
            ("remedies", list(remedy)),
        ],
        &[("line", json!({ "type": "integer" })), ("step", json!({ "type": "integer" })), ("source_line", json!({ "type": "integer" }))],
    );
    let working =
        object(&[("label", text()), ("value", json!({ "type": "number" })), ("unit", text())], &[("formula", text()), ("source", text())]);
    let problem = json!({
        "type": "object", "required": ["title", "detail"],
        "properties": { "type": text(), "title": text(), "detail": text(), "status": { "type": "integer" },
            "errors": list(object(&[("pointer", text()), ("message", text())], &[])) },
    });
    let row = object(
        &[
            ("min", any_number("from mixing")),
            ("dough_c", any_number("°C")),
            ("dough_h", any_number("h at 24 °C")),
            ("volume_ratio", any_number("×")),
            ("rise_ratio", any_number("×")),
            ("ripeness", any_number("1 is ripe")),
        ],
        &[("ph", any_number("pH")), ("tta", any_number("ml"))],
    );
    let event = object(
        &[
            ("kind", text()),
            ("stage", json!({ "type": "integer" })),
            ("min", any_number("from mixing")),
            ("min_low", or_null(any_number("10 %"))),
            ("min_high", or_null(any_number("90 %"))),
            ("dough_h", any_number("h")),
            ("ahead", json!({ "type": "boolean" })),
        ],
        &[],
    );
    let bake_event = object(
        &[("kind", one_of(&EventKind::words())), ("at", json!({ "type": "string", "format": "date-time" }))],
        &[
            ("value", any_number("")),
            ("unit", text()),
            ("stage", text()),
            ("what", text()),
            ("line", json!({ "type": "integer", "minimum": 0 })),
            ("seen", one_of(&["now", "already"])),
            ("note", json!({ "type": "string", "maxLength": 4000 })),
            ("rest", json!({ "type": "object", "description": "of a replanned event: an option's rest, whole" })),
        ],
    );
    let state = object(
        &[
            ("seq", json!({ "type": "integer" })),
            ("stage", text()),
            ("dough_h", or_null(any_number("h"))),
            ("dough_c", or_null(any_number("°C"))),
            ("ripeness", or_null(any_number(""))),
            ("ready_at", text()),
            ("ready_low", or_null(text())),
            ("ready_high", or_null(text())),
            ("late_min", any_number("min")),
            ("next", list(json!({ "type": "object" }))),
            ("changed", list(json!({ "type": "object" }))),
            ("findings", list(at("Finding"))),
        ],
        &[],
    );
    let mut all = json!({
        "Formula": formula_schema(), "Finding": finding, "Working": working, "Problem": problem, "RiseRow": row, "RiseEvent": event, "BakeEvent": bake_event, "BakeState": state,
        "Kept": object(&[("id", text()), ("version", json!({ "type": "integer" }))], &[("style", text()), ("flour_g", any_number("g")), ("formula", at("Formula"))]),
        "Bake": object(&[("id", text()), ("name", text()), ("formula", at("Formula")), ("plan", json!({ "type": "object" })), ("events", list(json!({ "type": "object" }))), ("state", at("BakeState"))], &[("replan", or_null(plan::replan()))]),
    });
    if let Some(named) = all.as_object_mut() {
        named.insert("PlanOption".to_owned(), plan::option());
        named.extend(household::schemas().map(|(name, schema)| (name.to_owned(), schema)));
    }
    all
}

fn read_answer() -> Value {
    let line = object(
        &[
            ("source", text()),
            ("source_line", json!({ "type": "integer" })),
            ("ingredient", text()),
            ("grams", or_null(any_number("g"))),
            ("grams_low", or_null(any_number("g"))),
            ("grams_high", or_null(any_number("g"))),
            ("stage", text()),
            ("line", or_null(json!({ "type": "integer" }))),
            ("questions", list(json!({ "type": "object", "required": ["id", "ask", "answers"] }))),
        ],
        &[
            ("temp_c", any_number("°C")),
            ("optional", json!({ "type": "boolean" })),
            ("hydration_pct", any_number("water on flour of a leaven, %")),
        ],
    );
    let step = object(
        &[("text", text()), ("kind", one_of(&["oven", "time", "pieces", "other"]))],
        &[
            ("oven_c", any_number("°C")),
            ("minutes_low", any_number("min")),
            ("minutes_high", any_number("min")),
            ("pieces", json!({ "type": "integer" })),
            ("piece_g", any_number("g")),
            ("lid", one_of(&["on", "off"])),
        ],
    );
    let kinds = one_of(&["title", "heading", "line", "step", "oven", "remark", "unread"]);
    let part = object(&[("kind", kinds), ("start", byte()), ("end", byte())], &[("index", json!({ "type": "integer" }))]);
    object(
        &[
            ("formula", at("Formula")),
            ("lines", list(line)),
            (
                "unread",
                list(object(
                    &[("source", text()), ("source_line", json!({ "type": "integer" }))],
                    &[("words", text()), ("near", list(text()))],
                )),
            ),
            ("parts", list(part)),
            ("steps", list(step)),
            ("findings", list(at("Finding"))),
            ("assumed", json!({ "type": "object" })),
        ],
        &[],
    )
}

fn formula_answer() -> Value {
    let pct = || any_number("% on flour");
    let names = [
        "hydration_pct",
        "effective_hydration_pct",
        "salt_pct",
        "sugar_pct",
        "fat_pct",
        "yeast_instant_pct",
        "prefermented_flour_pct",
        "leaven_flour_pct",
        "fat_added_pct",
        "egg_pct",
        "milk_pct",
        "fruit_pct",
        "wholegrain_pct",
        "rye_pct",
    ];
    let mut required: Vec<(&str, Value)> = vec![("flour_g", any_number("g")), ("dough_g", any_number("g"))];
    required.extend(names.map(|n| (n, pct())));
    let line =
        object(&[("ingredient", text()), ("name", text()), ("stage", text()), ("pct", or_null(pct())), ("grams", any_number("g"))], &[]);
    required.extend([
        ("style", text()),
        ("usual", json!({ "type": "object" })),
        ("allergens", list(text())),
        ("lines", list(line)),
        ("findings", list(at("Finding"))),
        ("working", list(at("Working"))),
        ("assumed", json!({ "type": "object" })),
    ]);
    object(
        &required,
        &[
            ("ranges", json!({ "type": "object" })),
            (
                "pieces",
                object(&[("count", json!({ "type": "integer" })), ("piece_g", any_number("g")), ("left_over_g", any_number("g"))], &[]),
            ),
        ],
    )
}

fn oven_body() -> Value {
    let pct = |high: f64| number(0.0, high, "% on flour");
    sent(
        &[],
        &[
            ("formula", at("Formula")),
            ("style", one_of(&StyleId::ALL.map(StyleId::word))),
            ("compare", json!({ "type": "boolean" })),
            ("piece_g", number(5.0, 3000.0, "g")),
            ("pieces", json!({ "type": "integer", "minimum": 1, "maximum": 60 })),
            ("arrangement", one_of(&["free", "touching"])),
            ("shape", one_of(&Shape::words())),
            ("vessel", one_of(&Vessel::words())),
            ("lid", json!({ "type": "boolean" })),
            ("hydration_pct", number(40.0, 200.0, "all water, % on flour")),
            ("sugar_pct", pct(1000.0)),
            ("fat_pct", pct(1000.0)),
            ("egg_pct", pct(1000.0)),
            ("milk_pct", pct(1000.0)),
            ("fruit_pct", pct(1000.0)),
            ("wholegrain_pct", pct(100.0)),
            ("rye_pct", pct(100.0)),
            ("gluten_free", json!({ "type": "boolean" })),
            ("glaze", one_of(&Glaze::words())),
            ("dough_c", number(-5.0, 45.0, "°C")),
            ("fan", json!({ "type": "boolean" })),
            ("oven_offset_c", number(-60.0, 60.0, "true minus set, K")),
            ("altitude_m", number(-430.0, 5000.0, "m")),
            ("colour", one_of(&Colour::words())),
            ("crust", one_of(&Crust::words())),
            ("set_c", number(100.0, 300.0, "°C")),
            ("thickness_cm", number(0.2, 25.0, "cm")),
            ("steam_min", number(0.0, 60.0, "min")),
            ("lid_off_min", number(0.0, 240.0, "min")),
            ("fall_to_c", number(100.0, 300.0, "°C")),
            ("fall_after_min", number(0.0, 240.0, "min")),
            ("room_c", number(-10.0, 45.0, "°C")),
            ("hot_k", number(0.0, 60.0, "K")),
        ],
    )
}

fn oven_answer() -> Value {
    let minutes = || or_null(any_number("min"));
    let colours = one_of(&["raw", "pale", "golden", "brown", "dark", "burnt"]);
    object(
        &[
            ("bake_class", one_of(&BakeClass::words())),
            ("set_c", any_number("°C")),
            ("status", one_of(&["together", "core-first", "colour-first", "stays-pale", "not-done"])),
            ("minutes", minutes()),
            ("minutes_low", minutes()),
            ("minutes_high", minutes()),
            ("core_target_c", any_number("°C")),
            ("bake_loss_pct", any_number("% of the dough")),
            ("events", list(object(&[("kind", text()), ("at_min", any_number("from loading"))], &[("set_c", any_number("°C"))]))),
            (
                "curve",
                json!({ "type": "array", "maxItems": 300, "items": object(&[("min", any_number("min")), ("core_c", any_number("°C")), ("surface_c", any_number("°C")), ("index", any_number("browning")), ("colour", colours)], &[]) }),
            ),
            ("findings", list(at("Finding"))),
            ("working", list(at("Working"))),
            ("practice", list(json!({ "type": "object" }))),
            ("assumed", json!({ "type": "object" })),
        ],
        &[
            ("style", text()),
            ("meets", text()),
            ("fall_to_c", any_number("°C")),
            (
                "sides",
                object(
                    &[
                        ("cool", any_number("browning index")),
                        ("hot", any_number("browning index")),
                        ("turned", any_number("browning index")),
                    ],
                    &[],
                ),
            ),
            ("settings", list(json!({ "type": "object" }))),
            ("fan_c", any_number("°C with the fan for the same minutes")),
        ],
    )
}

fn water_body() -> Value {
    let c = || number(-30.0, 60.0, "°C");
    object(
        &[("formula", at("Formula")), ("target_c", number(10.0, 40.0, "°C")), ("flour_c", c()), ("room_c", c()), ("tap_c", c())],
        &[
            ("preferment_c", c()),
            ("line_c", list(object(&[("line", json!({ "type": "integer", "minimum": 0 })), ("c", c())], &[]))),
            ("mixer", one_of(&["none", "hand", "planetary-low", "planetary-medium", "spiral-low", "spiral-high", "processor"])),
            ("mix_min", number(0.0, 60.0, "min")),
            ("method", one_of(&["factor", "heat-balance"])),
        ],
    )
}

fn ferment_body() -> Value {
    let stage = object(
        &[("kind", one_of(&["bulk", "proof"])), ("place_c", number(-20.0, 60.0, "°C"))],
        &[
            ("minutes", json!({ "type": "number", "exclusiveMinimum": 0, "maximum": 10_080 })),
            ("mass_g", number(5.0, 20_000.0, "g of one piece")),
            ("vessel", one_of(&["bowl", "crock", "glass-jar", "tin", "tray", "basket", "cool-box"])),
            ("cover", one_of(&["covered", "open"])),
            ("air", one_of(&["still", "fan"])),
            (
                "acts",
                list(object(
                    &[
                        ("at_min", any_number("from the stage's start")),
                        ("act", one_of(&["fold", "knock-back", "divide", "pre-shape", "shape-gentle", "shape-firm", "roll-out"])),
                    ],
                    &[],
                )),
            ),
            ("pace", one_of(&["quick", "usual", "patient"])),
            ("target_ratio", number(1.05, 5.0, "×")),
            ("over_x", number(1.0, 4.0, "×")),
            ("new_rise", json!({ "type": "boolean" })),
            ("no_shape", json!({ "type": "boolean" })),
        ],
    );
    object(
        &[("start_c", number(-5.0, 60.0, "°C")), ("stages", json!({ "type": "array", "items": stage, "minItems": 1, "maxItems": 20 }))],
        &[
            ("formula", at("Formula")),
            ("style", text()),
            ("dough", json!({ "type": "object" })),
            ("leaven", json!({ "type": "object" })),
            ("rate", number(0.1, 10.0, "×")),
            ("log_sigma", number(0.0, 1.5, "")),
        ],
    )
}

fn ferment_answer() -> Value {
    object(
        &[
            ("style", text()),
            ("main", one_of(&["bakers", "wild"])),
            ("events", list(at("RiseEvent"))),
            ("curve", json!({ "type": "array", "items": at("RiseRow"), "maxItems": 500 })),
            ("end", at("RiseRow")),
            ("findings", list(at("Finding"))),
            ("working", list(at("Working"))),
            ("assumed", json!({ "type": "object" })),
        ],
        &[],
    )
}

fn operation(summary: &str, body: Option<Value>, status: &str, answer: Value) -> Value {
    // Nothing is answered where nothing is left to say.
    let asked = match status {
        "204" => json!({ "description": "done" }),
        _ => json!({ "description": "as asked", "content": { "application/json": { "schema": answer } } }),
    };
    let mut op = json!({
        "summary": summary,
        "responses": {
            status: asked,
            "4XX": { "description": "what is wrong, at its field", "content": { "application/problem+json": { "schema": at("Problem") } } },
        },
    });
    if let (Some(object), Some(body)) = (op.as_object_mut(), body) {
        object.insert("requestBody".into(), json!({ "required": true, "content": { "application/json": { "schema": body } } }));
    }
    op
}

/// An answer that is a file of one of these types.
fn answers_with(paths: &mut Value, path: &str, media_types: &[&str]) {
    let content: Map<String, Value> = media_types.iter().map(|t| ((*t).to_owned(), json!({}))).collect();
    if let Some(answer) = paths.get_mut(path).and_then(|p| p.pointer_mut("/get/responses/200")) {
        *answer = json!({ "description": "the file", "content": content });
    }
}

/// The schema of the program's own JSON file (JSON Schema 2020-12).
#[must_use]
pub fn formula_file_schema() -> Value {
    let mut schema = object(
        &[
            ("format", json!({ "const": "cerealis-formula" })),
            ("version", json!({ "type": "integer", "minimum": 1, "maximum": 1 })),
            ("formula", formula_schema()),
        ],
        &[],
    );
    if let Some(object) = schema.as_object_mut() {
        object.insert("$schema".into(), json!("https://json-schema.org/draft/2020-12/schema"));
        object.insert("title".into(), json!("A formula of Cerealis"));
    }
    schema
}

fn ingredient() -> Value {
    let shelves = Family::ALL.map(Family::word);
    object(&[("id", text()), ("name", text()), ("family", one_of(&shelves)), ("allergens", list(text()))], &[])
}

/// The document.
#[must_use]
#[allow(clippy::too_many_lines, reason = "a table: a row for each path")]
pub fn document() -> Value {
    let named = json!({ "name": "id", "in": "path", "required": true, "schema": text() });
    let id = json!([named]);
    let formula = || object(&[("formula", at("Formula"))], &[]);
    let scale = object(
        &[],
        &[
            ("pieces", number(1.0, 500.0, "")),
            ("piece_g", number(1.0, 20_000.0, "g")),
            ("dough_g", number(1.0, 200_000.0, "g")),
            ("flour_g", number(1.0, 200_000.0, "g")),
            ("ingredient", text()),
            ("grams", any_number("g")),
            ("pan_ml", number(50.0, 20_000.0, "ml")),
            ("fill", number(0.1, 1.0, "g of dough per ml")),
            ("pan", text()),
            ("pans", number(1.0, 24.0, "how many of that pan")),
            ("eggs", number(1.0, 200.0, "whole eggs")),
            ("egg_g", number(5.0, 200.0, "g of one egg")),
            ("ripe_h", number(0.5, 72.0, "h after mixing in which it shall be ripe; the dose follows")),
            ("place_c", number(2.0, 40.0, "°C, where it rises")),
        ],
    );
    let answered = object(&[("source_line", json!({ "type": "integer", "minimum": 0 })), ("id", text()), ("answer", text())], &[]);
    let read_body = sent(
        &[("text", json!({ "type": "string", "maxLength": 65_536 }))],
        &[
            ("cup", one_of(&CUPS)),
            ("flour_measure", one_of(&["spooned", "scooped", "sifted"])),
            ("locale", text()),
            ("answers", list(answered)),
        ],
    );
    let begin = object(
        &[("name", json!({ "type": "string", "maxLength": 200 })), ("formula", at("Formula"))],
        &[("plan", object(&[("ask", json!({ "type": "object" }))], &[]))],
    );
    let mut paths = json!({
        "/health": { "get": operation("Whether the program and its book answer", None, "200", object(&[("status", text()), ("version", text()), ("database", text())], &[])) },
        "/api/openapi.json": { "get": operation("This document", None, "200", json!({ "type": "object" })) },
        "/api/v1/read": { "post": operation("A recipe as people write it", Some(read_body), "200", read_answer()) },
        "/api/v1/formula": { "post": operation("Baker's percentages, the dough's character, findings, scaling", Some(object(&[("formula", at("Formula"))], &[("scale", scale)])), "200", formula_answer()) },
        "/api/v1/water": { "post": operation("Water temperature for a dough temperature", Some(water_body()), "200", object(
            &[("method", one_of(&["factor", "heat-balance"])), ("water_c", any_number("°C")), ("tap_water_g", any_number("g")), ("ice_g", any_number("g")), ("friction_c", any_number("K")), ("working", list(at("Working"))), ("findings", list(at("Finding"))), ("assumed", json!({ "type": "object" }))], &[])) },
        "/api/v1/ferment": { "post": operation("The rise of a dough through its places", Some(ferment_body()), "200", ferment_answer()) },
        "/api/v1/knead": { "post": operation("Kneading: phases with minutes and signs, dough temperature, folds, other ways", Some(knead::body()), "200", knead::answer()) },
        "/api/v1/leaven": { "post": operation("A leaven as it is fed: its peak, its fall, its curve", Some(plan::leaven_body()), "200", plan::leaven_answer()) },
        "/api/v1/leavens": {
            "get": operation("The jars of the house", None, "200", object(&[("leavens", list(json!({ "type": "object", "required": ["id", "name"] })))], &[])),
            "post": operation("A new jar", Some(plan::jar_body()), "201", object(&[("id", text())], &[])),
        },
        "/api/v1/leavens/{id}": { "get": operation("A jar with its log, how it stands, its curve", None, "200", plan::jar_answer()) },
        "/api/v1/leavens/{id}/events": { "post": operation("Log what happened to a jar; once 201 is sent it is on disk", Some(plan::jar_event()), "201", object(&[("seq", json!({ "type": "integer", "minimum": 1 })), ("state", or_null(json!({ "type": "object" })))], &[])) },
        "/api/v1/bakes/{id}/plan.{format}": { "get": operation("The plan of a bake as it stands: calendar (RFC 5545), JSON, CSV, Markdown", None, "200", json!({})) },
        "/api/v1/plan": { "post": operation("Plans that fit the day, or why there are none", Some(plan::body()), "200", plan::answer()) },
        "/api/v1/oven": { "post": operation("Setting, minutes, what to do when", Some(oven_body()), "200", oven_answer()) },
        "/api/v1/bakes": {
            "get": operation("The logbook, newest first", None, "200", object(&[("bakes", list(json!({ "type": "object", "required": ["id", "name", "style", "made_at", "faults"] }))), ("total", json!({ "type": "integer" }))], &[])),
            "post": operation("Begin a bake", Some(begin), "201", at("Bake")),
        },
        "/api/v1/bakes/{id}": { "get": operation("A bake with its log and where it stands", None, "200", at("Bake")) },
        "/api/v1/bakes/{id}/events": { "post": operation("Log an event; once 201 is sent it is on disk", Some(at("BakeEvent")), "201", object(&[("seq", json!({ "type": "integer", "minimum": 1 })), ("state", or_null(at("BakeState")))], &[])) },
        "/api/v1/formulas": {
            "get": operation("The formulas kept", None, "200", object(&[("formulas", list(at("Kept"))), ("total", json!({ "type": "integer" }))], &[])),
            "post": operation("Keep a formula", Some(formula()), "201", at("Kept")),
        },
        "/api/v1/formulas/{id}": { "get": operation("A formula", None, "200", at("Kept")), "put": operation("A new version", Some(formula()), "200", at("Kept")) },
        "/api/v1/formulas/{id}.{format}": { "get": operation("A formula in an open format: schema.org Recipe, JSON, CSV, Markdown", None, "200", json!({})) },
        "/api/v1/formula.schema.json": { "get": operation("The schema of a formula's JSON file", None, "200", json!({ "type": "object" })) },
        "/api/v1/import": { "post": operation("Opens a recipe or formula as other programs write it, or takes an archive in; with dry_run nothing is kept", Some(json!({})), "201", json!({ "oneOf": [
            object(&[("formula", at("Formula")), ("unread", list(json!({ "type": "object" }))), ("findings", list(at("Finding")))], &[("id", text()), ("version", json!({ "type": "integer" }))]),
            object(&[
                ("new", list(object(&[("what", text()), ("count", json!({ "type": "integer", "minimum": 1 }))], &[]))),
                ("same", json!({ "type": "integer", "minimum": 0 })),
                ("left", list(object(&[("what", text()), ("id", text()), ("why", text())], &[]))),
                ("words", text()),
            ], &[]),
        ] })) },
        "/api/v1/export": { "get": operation("Everything the household keeps, as one archive; its schema is /api/v1/archive.schema.json", None, "200", json!({ "type": "object", "required": ["archive", "v", "written", "kitchen", "ingredients", "pans", "words", "formulas", "bakes", "jars"] })) },
        "/api/v1/backup": { "get": operation("A copy of the household's own file (SQLite), made while it is in use and checked", None, "200", json!({})) },
        "/api/v1/archive.schema.json": { "get": operation("The schema of an archive", None, "200", json!({ "type": "object" })) },
        "/api/v1/kitchen": {
            "get": operation("What the kitchen reckons with", None, "200", at("Kitchen")),
            "put": operation("Tells the kitchen; what is not said stays", Some(at("Kitchen")), "200", at("Kitchen")),
        },
        "/api/v1/own": { "get": operation("The household's own ingredients and pans", None, "200", object(
            &[("ingredients", list(object(&[("id", text()), ("ingredient", at("OwnIngredient"))], &[]))), ("pans", list(object(&[("id", text()), ("pan", at("OwnPan"))], &[]))), ("words", list(at("OwnWord")))], &[])) },
        "/api/v1/own/ingredients": { "post": operation("An own ingredient, like a built-in one but for what is told", Some(at("OwnIngredient")), "201", object(&[("id", text())], &[])) },
        "/api/v1/own/ingredients/{id}": { "put": operation("Tells an own ingredient anew", Some(at("OwnIngredient")), "200", object(&[("id", text())], &[])) },
        "/api/v1/own/words": { "post": operation("A word of the household's own for an ingredient: from now on read as it", Some(at("OwnWord")), "201", at("OwnWord")) },
        "/api/v1/own/words/{word}": { "delete": operation("Takes a word back", None, "204", json!({})) },
        "/api/v1/own/pans": { "post": operation("An own pan", Some(at("OwnPan")), "201", object(&[("id", text())], &[])) },
        "/api/v1/own/pans/{id}": { "put": operation("Tells an own pan anew", Some(at("OwnPan")), "200", object(&[("id", text())], &[])) },
        "/api/v1/swap": { "post": operation("What can stand in for a line, so that water, fat, sugar and salt stay", Some(object(&[("formula", at("Formula")), ("line", json!({ "type": "integer", "minimum": 0 }))], &[])), "200", object(
            &[("options", list(object(&[("id", text()), ("ingredient", text()), ("grams", any_number("g")), ("add", list(object(&[("ingredient", text()), ("grams", any_number("g; less than 0 is taken out"))], &[]))), ("changes", text()), ("source", text()), ("patch", list(json!({ "type": "object" })))], &[])))], &[])) },
        "/api/v1/pantry": { "get": operation("The pantry, nearest name first", None, "200", object(&[("ingredients", list(ingredient()))], &[])) },
    });
    let query = |name: &str, schema: Value| json!({ "name": name, "in": "query", "schema": schema });
    if let Some(get) = paths.pointer_mut("/~1api~1v1~1formulas/get").and_then(Value::as_object_mut) {
        get.insert("parameters".into(), json!([query("q", text()), query("page", json!({ "type": "integer", "minimum": 1 }))]));
    }
    if let Some(get) = paths.pointer_mut("/~1api~1v1~1formulas~1{id}/get").and_then(Value::as_object_mut) {
        get.insert("parameters".into(), json!([query("version", json!({ "type": "integer", "minimum": 1 }))]));
    }
    answers_with(&mut paths, "/api/v1/formulas/{id}.{format}", &Format::ALL.map(Format::media_type));
    answers_with(&mut paths, "/api/v1/bakes/{id}/plan.{format}", &PlanFormat::ALL.map(PlanFormat::media_type));
    answers_with(&mut paths, "/api/v1/backup", &["application/vnd.sqlite3"]);
    let format = json!({ "name": "format", "in": "path", "required": true, "schema": one_of(&Format::ALL.map(Format::extension)) });
    if let Some(item) = paths.get_mut("/api/v1/formulas/{id}.{format}").and_then(Value::as_object_mut) {
        item.insert("parameters".into(), json!([named, format]));
    }
    if let Some(post) = paths.pointer_mut("/~1api~1v1~1import/post").and_then(Value::as_object_mut) {
        post.insert("parameters".into(), json!([{ "name": "dry_run", "in": "query", "schema": { "type": "boolean" } }]));
    }
    let format = json!({ "name": "format", "in": "path", "required": true, "schema": one_of(&PlanFormat::ALL.map(PlanFormat::extension)) });
    if let Some(item) = paths.get_mut("/api/v1/bakes/{id}/plan.{format}").and_then(Value::as_object_mut) {
        item.insert("parameters".into(), json!([named, format]));
    }
    for path in [
        "/api/v1/leavens/{id}",
        "/api/v1/leavens/{id}/events",
        "/api/v1/bakes/{id}",
        "/api/v1/bakes/{id}/events",
        "/api/v1/formulas/{id}",
        "/api/v1/own/ingredients/{id}",
        "/api/v1/own/pans/{id}",
    ] {
        if let Some(item) = paths.get_mut(path).and_then(Value::as_object_mut) {
            item.insert("parameters".into(), id.clone());
        }
    }
    let word = json!({ "name": "word", "in": "path", "required": true, "schema": { "type": "string", "maxLength": 200 } });
    if let Some(item) = paths.get_mut("/api/v1/own/words/{word}").and_then(Value::as_object_mut) {
        item.insert("parameters".into(), json!([word]));
    }
    if let Some(get) = paths.pointer_mut("/~1api~1v1~1pantry/get").and_then(Value::as_object_mut) {
        get.insert("parameters".into(), json!([{ "name": "q", "in": "query", "schema": { "type": "string", "maxLength": 200 } }]));
    }
    if let Some(get) = paths.pointer_mut("/~1api~1v1~1bakes/get").and_then(Value::as_object_mut) {
        let query = ["q", "style", "from", "to"].map(|n| json!({ "name": n, "in": "query", "schema": text() }));
        let mut all = query.to_vec();
        all.push(json!({ "name": "page", "in": "query", "schema": { "type": "integer", "minimum": 1 } }));
        get.insert("parameters".into(), json!(all));
    }
    json!({
        "openapi": "3.1.0",
        "info": { "title": "Cerealis", "version": env!("CARGO_PKG_VERSION"), "description": "Dough time against clock time. Numbers carry their unit in the name; bad input is told at its pointer." },
        "paths": paths, "components": { "schemas": schemas() },
    })
}
