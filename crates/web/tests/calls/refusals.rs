//! Each call of the API against what must not pass: a problem, at its pointer, in a baker's words.

use actix_web::http::Method;
use serde_json::{Value, json};

use super::{get, kitchen, lean, post, raw, send};

/// A base body with one thing changed: the path of the thing, its value, the pointer that must be named.
fn changed(base: &Value, path: &str, value: Value) -> Value {
    let mut body = base.clone();
    let (parent, name) = path.rsplit_once('/').unwrap();
    let place = body.pointer_mut(parent).unwrap_or_else(|| panic!("{path}"));
    match place {
        Value::Array(list) => list[name.parse::<usize>().unwrap()] = value,
        other => other[name] = value,
    }
    body
}

async fn each_refused(path: &str, base: &Value, cases: &[(&str, Value, &str)]) {
    let k = kitchen();
    let sound = post(&k, path, base).await;
    assert!(sound.status < 300, "{path} {}: {}", sound.status, sound.text);
    for (at, value, pointer) in cases {
        let a = post(&k, path, &changed(base, at, value.clone())).await;
        assert!(matches!(a.status, 400 | 422), "{path} {at} = {value}: {} {}", a.status, a.text);
        assert_eq!(a.kind, "application/problem+json", "{path} {at}");
        let j = a.json();
        assert_eq!(j["status"].as_u64(), Some(u64::from(a.status)));
        assert!(a.pointers().iter().any(|p| p == pointer), "{path} {at} = {value}: wanted {pointer} in {j}");
        for e in j["errors"].as_array().unwrap() {
            let words = e["message"].as_str().unwrap();
            assert!(words.len() > 8 && !words.contains("invalid type") && !words.contains("unwrap"), "{words}");
        }
    }
}

#[actix_web::test]
async fn a_formula() {
    let base = json!({ "formula": lean() });
    each_refused(
        "/api/v1/formula",
        &base,
        &[
            ("/formula/lines/0/ingredient", json!("moonflour"), "/formula/lines/0/ingredient"),
            ("/formula/lines/0/ingredient", json!(""), "/formula/lines/0/ingredient"),
            ("/formula/lines/1/grams", json!(-3), "/formula/lines/1/grams"),
            ("/formula/lines/1/grams", json!(0), "/formula/lines/1/grams"),
            ("/formula/lines/1/grams", json!(1e12), "/formula/lines/1/grams"),
            ("/formula/style", json!("moon-bread"), "/formula/style"),
            ("/formula/yeast_kind", json!("magic"), "/formula/yeast_kind"),
            ("/formula/pieces", json!({ "count": 0 }), "/formula/pieces/count"),
            ("/formula/pieces", json!({ "count": 2, "piece_g": -1 }), "/formula/pieces/piece_g"),
            ("/formula/pieces", json!({ "count": 2, "shape": "pyramid" }), "/formula/pieces/shape"),
            ("/scale", json!({ "flour_g": -1 }), "/scale/flour_g"),
            ("/scale", json!({ "ingredient": "honey", "grams": 5 }), "/scale/ingredient"),
        ],
    )
    .await;
}

#[actix_web::test]
async fn water() {
    let base = json!({ "formula": lean(), "target_c": 25, "flour_c": 20, "room_c": 21, "tap_c": 12 });
    each_refused(
        "/api/v1/water",
        &base,
        &[
            ("/target_c", json!(90), "/target_c"),
            ("/flour_c", json!(-90), "/flour_c"),
            ("/room_c", json!(500), "/room_c"),
            ("/tap_c", json!(99), "/tap_c"),
            ("/preferment_c", json!(99), "/preferment_c"),
            ("/mixer", json!("spoon and prayer"), "/mixer"),
            ("/mix_min", json!(900), "/mix_min"),
            ("/line_c", json!([{ "line": 77, "c": 20 }]), "/line_c/0/line"),
            ("/line_c", json!([{ "line": 0, "c": 700 }]), "/line_c/0/c"),
            ("/formula/lines/0/ingredient", json!("moonflour"), "/formula/lines/0/ingredient"),
        ],
    )
    .await;
}

#[actix_web::test]
async fn a_rise() {
    let base = json!({ "formula": lean(), "start_c": 24, "stages": [{ "kind": "bulk", "place_c": 24 }] });
    each_refused(
        "/api/v1/ferment",
        &base,
        &[
            ("/start_c", json!(99), "/start_c"),
            ("/stages", json!([]), "/stages"),
            ("/stages/0/place_c", json!(99), "/stages/0/place_c"),
            ("/stages/0/minutes", json!(-1), "/stages/0/minutes"),
            ("/stages/0/mass_g", json!(0), "/stages/0/mass_g"),
            ("/stages/0/vessel", json!("sock"), "/stages/0/vessel"),
            ("/stages/0/acts", json!([{ "at_min": 5, "act": "juggle" }]), "/stages/0/acts/0/act"),
            ("/rate", json!(0), "/rate"),
            ("/log_sigma", json!(7), "/log_sigma"),
            ("/formula/lines/3/grams", json!(-1), "/formula/lines/3/grams"),
        ],
    )
    .await;
}

#[actix_web::test]
async fn an_oven() {
    let base = json!({ "piece_g": 800, "pieces": 1, "shape": "ball", "vessel": "sheet" });
    each_refused(
        "/api/v1/oven",
        &base,
        &[
            ("/piece_g", json!(0), "/piece_g"),
            ("/piece_g", json!(1e9), "/piece_g"),
            ("/pieces", json!(0), "/pieces"),
            ("/shape", json!("pyramid"), "/shape"),
            ("/vessel", json!("sock"), "/vessel"),
            ("/glaze", json!("paint"), "/glaze"),
            ("/colour", json!("blue"), "/colour"),
            ("/crust", json!("wet"), "/crust"),
            ("/set_c", json!(20), "/set_c"),
            ("/set_c", json!(2000), "/set_c"),
            ("/sugar_pct", json!(-4), "/sugar_pct"),
            ("/altitude_m", json!(99_999), "/altitude_m"),
            ("/dough_c", json!(200), "/dough_c"),
            ("/style", json!("moon-bread"), "/style"),
        ],
    )
    .await;
}

#[actix_web::test]
async fn an_event() {
    let k = kitchen();
    let begun = post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": lean() })).await;
    let path = format!("/api/v1/bakes/{}/events", begun.json()["id"].as_str().unwrap());
    for (body, pointer) in [
        (json!({ "kind": "dropped" }), "/kind"),
        (json!({ "kind": "mixed", "at": "tea time" }), "/at"),
        (json!({ "kind": "mixed", "at": "2030-01-01T00:00:00+00:00" }), "/at"),
        (json!({ "kind": "temperature", "stage": "dough" }), "/value"),
        (json!({ "kind": "temperature", "stage": "cat", "value": 38 }), "/stage"),
        (json!({ "kind": "temperature", "stage": "dough", "value": 75, "unit": "F" }), "/unit"),
        (json!({ "kind": "rating", "value": 11 }), "/value"),
        (json!({ "kind": "colour", "what": "blue" }), "/what"),
        (json!({ "kind": "note", "note": "" }), "/note"),
        (json!({ "kind": "moved", "what": "moon" }), "/what"),
    ] {
        let mut body = body;
        if body.get("at").is_none() {
            body["at"] = json!("2026-11-06T16:30:00+00:00");
        }
        let a = post(&k, &path, &body).await;
        assert_eq!(a.status, 422, "{body}: {}", a.text);
        assert!(a.pointers().iter().any(|p| p == pointer), "{body}: {}", a.text);
    }
    let whole = get(&k, path.trim_end_matches("/events")).await.json();
    assert_eq!(whole["events"], json!([]), "nothing wrong was kept");
}

#[actix_web::test]
async fn what_is_no_json_is_told_so_everywhere() {
    let k = kitchen();
    for path in ["/api/v1/read", "/api/v1/formula", "/api/v1/water", "/api/v1/ferment", "/api/v1/oven", "/api/v1/bakes", "/api/v1/formulas"]
    {
        for body in ["", "{", "[1,2", "nonsense", "\u{0}\u{1}", "[]", "7", "null"] {
            let a = raw(&k, path, "application/json", body.to_owned()).await;
            assert!((400..500).contains(&a.status), "{path} {body:?}: {}", a.status);
            assert_eq!(a.kind, "application/problem+json", "{path} {body:?}");
        }
        let a = raw(&k, path, "text/plain", "hello").await;
        assert!((400..500).contains(&a.status), "{path}: {}", a.status);
        let a = raw(&k, path, "application/json", vec![b' '; 3_000_000]).await;
        assert!(matches!(a.status, 400 | 413), "{path}: {}", a.status);
    }
}

#[actix_web::test]
async fn a_field_nobody_knows_is_named() {
    let k = kitchen();
    for (path, body) in [
        ("/api/v1/read", json!({ "text": "500 g flour", "tone": "cheerful" })),
        ("/api/v1/formula", json!({ "formula": lean(), "tone": "cheerful" })),
        ("/api/v1/oven", json!({ "piece_g": 800, "tone": "cheerful" })),
    ] {
        let a = post(&k, path, &body).await;
        assert!(matches!(a.status, 400 | 422) && a.text.contains("tone"), "{path}: {}", a.text);
    }
}

#[actix_web::test]
async fn what_is_not_there_is_not_found() {
    let k = kitchen();
    for path in ["/api/v1/bakes/nobody", "/api/v1/formulas/nobody", "/api/v1/nothing", "/api/v2/read"] {
        let a = get(&k, path).await;
        assert_eq!(a.status, 404, "{path}");
        assert!(!a.text.contains("panicked"), "{path}");
    }
    let a = post(&k, "/api/v1/bakes/nobody/events", &json!({ "kind": "mixed", "at": "2026-11-06T16:30:00+00:00" })).await;
    assert_eq!(a.status, 404, "{}", a.text);
}

#[actix_web::test]
async fn the_wrong_verb_changes_nothing() {
    let k = kitchen();
    for path in ["/api/v1/read", "/api/v1/water", "/api/v1/oven", "/api/v1/ferment"] {
        for method in [Method::GET, Method::DELETE, Method::PUT] {
            let a = send(&k, method.clone(), path, &json!({})).await;
            assert!((400..500).contains(&a.status), "{method} {path}: {}", a.status);
        }
    }
}
