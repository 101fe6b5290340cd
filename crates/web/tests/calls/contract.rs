use actix_web::http::Method;
use cerealis_web::api::{PATHS, document};
use serde_json::{Value, json};

use super::{Kitchen, get, kitchen, lean, post, raw, send, with_headers};

#[track_caller]
fn close(got: &Value, want: f64) {
    let got = got.as_f64().unwrap_or_else(|| panic!("{got} is no number"));
    assert!((got - want).abs() < 1e-3 * want.abs().max(1.0), "{got} instead of {want}");
}

/// Holds an answer against the schema the document gives for it.
pub(super) fn held(path: &str, method: &str, status: &str, answer: &Value) {
    let document = document();
    let pointer =
        format!("/paths/{}/{method}/responses/{status}/content/application~1json/schema", path.replace('~', "~0").replace('/', "~1"));
    let mut schema = document.pointer(&pointer).unwrap_or_else(|| panic!("{pointer} is not in the document")).clone();
    schema["components"] = document["components"].clone();
    let validator = jsonschema::validator_for(&schema).unwrap();
    let wrong: Vec<String> = validator.iter_errors(answer).map(|e| format!("{}: {e}", e.instance_path())).collect();
    assert!(wrong.is_empty(), "{method} {path}: {wrong:#?}");
}

#[actix_web::test]
async fn the_example_recipe_is_read_as_the_contract_says() {
    let k = kitchen();
    let a = post(
        &k,
        "/api/v1/read",
        &json!({ "text": "500 g bread flour\n340 g water\n2 tsp salt\n4 g instant yeast\nBake at 230 C for 30-35 minutes." }),
    )
    .await;
    assert_eq!(a.status, 200, "{}", a.text);
    let j = a.json();
    assert_eq!(
        j["formula"]["lines"][2],
        json!({ "ingredient": "salt-fine", "grams": 12.0, "grams_low": 5.0, "grams_high": 13.799999999999999, "stage": "dough" })
    );
    assert_eq!(j["lines"][2]["questions"][0]["id"], "salt-kind");
    assert_eq!(j["lines"][2]["questions"][0]["answers"][1], json!({ "answer": "dense-flake", "label": "Dense flake", "grams": 9.6 }));
    assert_eq!(
        j["steps"],
        json!([{ "text": "Bake at 230 C for 30-35 minutes.", "kind": "oven", "oven_c": 230.0, "minutes_low": 30.0, "minutes_high": 35.0 }])
    );
    let ids: Vec<&str> = j["findings"].as_array().unwrap().iter().map(|f| f["id"].as_str().unwrap()).collect();
    assert_eq!(ids, ["salt-kind-unknown"]);
    assert_eq!(j["findings"][0]["remedies"][0]["patch"][0], json!({ "op": "replace", "path": "/formula/lines/2/grams", "value": 12.0 }));
    assert_eq!(j["assumed"], json!({ "cup": "us", "flour_measure": "spooned", "locale": "en-US" }));
    held("/api/v1/read", "post", "200", &j);
    let again = post(&k, "/api/v1/formula", &json!({ "formula": j["formula"] })).await;
    assert_eq!(again.status, 200, "what was read can be posted on: {}", again.text);
    assert_eq!(again.json()["ranges"]["salt_pct"][0], 1.0);
}

#[actix_web::test]
async fn kneading_is_told_for_a_formula_and_for_bare_figures() {
    let k = kitchen();
    let bare = json!({ "style": "lean", "method": "hand", "h_adj": 66, "flour_g": 500, "dough_g": 840, "start_c": 21, "room_c": 21 });
    let a = post(&k, "/api/v1/knead", &bare).await.json();
    held("/api/v1/knead", "post", "200", &a);
    close(&a["knead_min"], 10.385);
    close(&a["dough_c"]["likely"], 22.606);
    assert_eq!((&a["phases"][1]["until"], &a["alternatives"][0]["method"]), (&json!("clears-bowl"), &json!("slap")));
    let of = |more: Value| {
        let mut all = json!({ "formula": lean(), "method": "planetary-medium", "start_c": 21, "room_c": 21 });
        more.as_object().unwrap().iter().for_each(|(name, value)| all[name] = value.clone());
        all
    };
    let a = post(&k, "/api/v1/knead", &of(json!({}))).await.json();
    held("/api/v1/knead", "post", "200", &a);
    assert!((5.0..8.0).contains(&a["knead_min"].as_f64().unwrap()) && a["dough_c"]["likely"].as_f64().unwrap() > 23.0, "{a}");
    let four = post(&k, "/api/v1/knead", &of(json!({ "minutes": 2, "rest_min": 30, "salt_pct": 0 }))).await.json();
    held("/api/v1/knead", "post", "200", &four);
    let ids: Vec<&str> = four["findings"].as_array().unwrap().iter().map(|f| f["id"].as_str().unwrap()).collect();
    assert_eq!(ids, ["knead-short", "salt-never"]);
    assert!(four["folds"].as_u64().unwrap() >= 1, "folds make it up");
    for (with, place) in [
        (json!({ "minutes": 75 }), "/minutes"),
        (json!({ "method": "whisk" }), "/method"),
        (json!({ "style": "cloud" }), "/style"),
        (json!({ "folds": 2.5 }), "/folds"),
        (json!({ "dough_g": 100 }), "/dough_g"),
        (json!({ "room_c": 60 }), "/room_c"),
    ] {
        let a = post(&k, "/api/v1/knead", &of(with)).await;
        assert_eq!((a.status, a.json()["errors"][0]["pointer"].as_str()), (422, Some(place)), "{}", a.text);
    }
    let nothing = post(&k, "/api/v1/knead", &json!({ "method": "hand" })).await;
    assert_eq!((nothing.status, nothing.json()["errors"][0]["pointer"].as_str()), (422, Some("/style")));
}

#[actix_web::test]
async fn the_example_formula_scales_as_the_contract_says() {
    let k = kitchen();
    let a = post(&k, "/api/v1/formula", &json!({ "formula": lean(), "scale": { "pieces": 2, "piece_g": 450 } })).await;
    let j = a.json();
    for (name, want) in [("flour_g", 525.701), ("dough_g", 900.0), ("hydration_pct", 68.0), ("salt_pct", 2.4), ("yeast_instant_pct", 0.8)] {
        close(&j[name], want);
    }
    assert_eq!((j["style"].as_str(), j["pieces"]["left_over_g"].as_f64()), (Some("lean"), Some(0.0)));
    assert_eq!(j["usual"]["yeast_instant_pct"], json!([0.25, 1.0]));
    close(&j["lines"][3]["grams"], 4.206);
    assert_eq!(j["lines"][0]["name"], "Bread flour (strong white)");
    assert_eq!(j["findings"], json!([]));
    assert_eq!(j["allergens"], json!(["gluten"]));
    held("/api/v1/formula", "post", "200", &j);
}

#[actix_web::test]
async fn rise_oven_and_water_answer_in_the_shape_of_the_document() {
    let k = kitchen();
    let a = post(&k, "/api/v1/ferment", &json!({ "formula": lean(), "start_c": 24, "stages": [{ "kind": "bulk", "place_c": 24 }, { "kind": "proof", "place_c": 24, "pace": "quick" }] })).await.json();
    assert_eq!(
        (a["style"].as_str(), a["main"].as_str(), a["events"][0]["kind"].as_str()),
        (Some("lean"), Some("bakers"), Some("bulk-ripe"))
    );
    let e = &a["events"][0];
    assert!(e["min_low"].as_f64() < e["min"].as_f64() && e["min"].as_f64() < e["min_high"].as_f64());
    assert_eq!(a["assumed"]["stages"][0]["vessel"], "bowl");
    held("/api/v1/ferment", "post", "200", &a);
    let a = post(
        &k,
        "/api/v1/oven",
        &json!({ "piece_g": 450, "pieces": 2, "shape": "batard", "vessel": "sheet", "style": "lean", "compare": true }),
    )
    .await
    .json();
    assert_eq!(
        (a["bake_class"].as_str(), a["meets"].as_str(), a["settings"].as_array().map(Vec::len)),
        (Some("lean"), Some("crosses"), Some(7))
    );
    assert_eq!(a["assumed"]["crust"], "crisp");
    held("/api/v1/oven", "post", "200", &a);
    let a = post(
        &k,
        "/api/v1/water",
        &json!({ "formula": lean(), "target_c": 25, "flour_c": 20, "room_c": 21, "tap_c": 15, "mixer": "planetary-medium", "mix_min": 8 }),
    )
    .await
    .json();
    assert_eq!(a["method"], "factor");
    assert!((a["water_c"].as_f64().unwrap() - 22.0).abs() < 0.8, "{}", a["water_c"]);
    held("/api/v1/water", "post", "200", &a);
    let a = post(
        &k,
        "/api/v1/water",
        &json!({ "formula": lean(), "target_c": 20, "flour_c": 27, "room_c": 30, "tap_c": 24, "mixer": "planetary-medium", "mix_min": 10 }),
    )
    .await
    .json();
    assert!(a["ice_g"].as_f64().unwrap() > 5.0, "a warm tap wants ice: {a}");
    for (path, method) in [
        ("/health", "get"),
        ("/api/v1/formulas", "get"),
        ("/api/v1/bakes", "get"),
        ("/api/v1/kitchen", "get"),
        ("/api/openapi.json", "get"),
    ] {
        held(path, method, "200", &get(&k, path).await.json());
    }
}

#[actix_web::test]
async fn the_document_names_the_routes_and_nothing_else() {
    let k = kitchen();
    let document = document();
    let paths = document["paths"].as_object().unwrap();
    let mut named: Vec<(&str, Vec<&str>)> = PATHS.iter().map(|(p, m)| (*p, m.to_vec())).collect();
    named.sort();
    let written: Vec<(&str, Vec<&str>)> = paths
        .iter()
        .map(|(p, item)| (p.as_str(), item.as_object().unwrap().keys().map(String::as_str).filter(|k| *k != "parameters").collect()))
        .collect();
    assert_eq!(written, named);
    for (path, methods) in PATHS {
        let path = path.replace("{id}", "nobody").replace("{format}", "md");
        for method in ["get", "post", "put"] {
            let a = send(&k, Method::from_bytes(method.to_uppercase().as_bytes()).unwrap(), &path, &json!({})).await;
            if methods.contains(&method) {
                assert_ne!(a.status, 405, "{method} {path} is in the document");
            } else {
                assert_eq!(a.status, 405, "{method} {path} is not in the document");
                assert!(a.header("allow").is_some(), "{method} {path} says what is allowed");
            }
        }
    }
}

#[actix_web::test]
async fn bad_input_is_told_at_its_pointer_and_never_breaks_anything() {
    let k = kitchen();
    let cases: Vec<(&str, Value, u16, &[&str])> = vec![
        (
            "/api/v1/formula",
            json!({ "formula": { "lines": [{ "ingredient": "moonflour", "grams": 500 }, { "ingredient": "water", "grams": -3 }] } }),
            422,
            &["/formula/lines/0/ingredient", "/formula/lines/1/grams"],
        ),
        (
            "/api/v1/formula",
            json!({ "formula": { "lines": [{ "ingredient": "water", "grams": "many" }] } }),
            400,
            &["/formula/lines/0/grams"],
        ),
        ("/api/v1/formula", json!({ "formula": lean(), "scael": {} }), 422, &["/scael"]),
        ("/api/v1/formula", json!({ "formula": lean(), "scale": { "dough_g": 0 } }), 422, &["/scale/dough_g"]),
        ("/api/v1/read", json!({ "txet": "500 g flour" }), 422, &["/txet"]),
        ("/api/v1/read", json!({ "text": "x", "cup": "dwarf" }), 422, &["/cup"]),
        ("/api/v1/read", json!({ "text": "x".repeat(70_000) }), 422, &["/text"]),
        ("/api/v1/oven", json!({ "piece_g": 100, "vessel": "water-bath" }), 422, &["/vessel"]),
        ("/api/v1/oven", json!({}), 422, &["/piece_g"]),
        ("/api/v1/ferment", json!({ "formula": lean(), "start_c": 80, "stages": [] }), 422, &["/start_c", "/stages"]),
        (
            "/api/v1/ferment",
            json!({ "formula": lean(), "start_c": 24, "stages": [{ "kind": "bulk", "place_c": 24, "pace": "quick", "target_ratio": 2 }] }),
            422,
            &["/stages/0/pace"],
        ),
        ("/api/v1/water", json!({ "formula": lean(), "target_c": 90, "flour_c": 20, "room_c": 20, "tap_c": 10 }), 422, &["/target_c"]),
        (
            "/api/v1/formulas",
            json!({ "formula": { "lines": [{ "ingredient": "nothing", "grams": 1 }] } }),
            422,
            &["/formula/lines/0/ingredient"],
        ),
    ];
    for (path, body, status, pointers) in cases {
        let a = post(&k, path, &body).await;
        assert_eq!((a.status, a.kind.as_str()), (status, "application/problem+json"), "{path} {body}: {}", a.text);
        assert_eq!(a.pointers(), pointers, "{path} {body}");
        let j = a.json();
        assert!(j["detail"].as_str().is_some_and(|d| d.len() > 8) && j["title"].is_string() && j["status"] == status, "{}", a.text);
    }
    for (kind, body, status) in [
        ("text/plain", "{}", 415),
        ("application/json", "{", 400),
        ("application/json", "nonsense", 400),
        ("application/json", "{\"text\":\"x\"} {}", 400),
    ] {
        assert_eq!(raw(&k, "/api/v1/read", kind, body).await.status, status, "{kind} {body}");
    }
    assert_eq!(raw(&k, "/api/v1/read", "application/json", &b"\xff\xfe"[..]).await.status, 400);
    assert_eq!(raw(&k, "/api/v1/read", "application/json", vec![b' '; 1_100_000]).await.status, 413);
    assert_eq!(get(&k, "/api/v1/nowhere").await.status, 404);
    assert_eq!(get(&k, "/api/v1/formulas/nobody").await.status, 404);
    assert_eq!(get(&k, "/api/v1/bakes?page=0").await.pointers(), ["/page"]);
    assert_eq!(get(&k, "/api/v1/bakes?from=yesterday").await.pointers(), ["/from"]);
}

#[actix_web::test]
async fn a_remedy_can_be_posted_as_the_patch_it_is() {
    let k = kitchen();
    let mut body = json!({ "formula": { "lines": [{ "ingredient": "wheat-bread", "grams": 500 }, { "ingredient": "water", "grams": 350 }, { "ingredient": "yeast-instant", "grams": 3 }] } });
    let a = post(&k, "/api/v1/formula", &body).await.json();
    assert_eq!(a["findings"][0]["id"], "salt-missing");
    let op = &a["findings"][0]["remedies"][0]["patch"][0];
    assert_eq!((op["op"].as_str(), op["path"].as_str()), (Some("add"), Some("/formula/lines/-")));
    body["formula"]["lines"].as_array_mut().unwrap().push(op["value"].clone());
    assert_eq!(post(&k, "/api/v1/formula", &body).await.json()["findings"], json!([]));
    assert_eq!(a["findings"][0]["remedies"][1]["accept"], true);
}

async fn guarded(k: &Kitchen, method: Method, headers: &[(&str, &str)]) -> u16 {
    with_headers(k, method, "/api/v1/read", headers).await.status
}

#[actix_web::test]
async fn strangers_are_kept_out_and_every_answer_carries_its_policy() {
    let k = kitchen();
    assert_eq!(guarded(&k, Method::POST, &[("host", "evil.example")]).await, 403);
    assert_eq!(guarded(&k, Method::POST, &[("host", "localhost:8080"), ("origin", "http://evil.example")]).await, 403);
    assert_eq!(guarded(&k, Method::POST, &[("host", "localhost:8080"), ("sec-fetch-site", "cross-site")]).await, 403);
    assert_eq!(guarded(&k, Method::POST, &[("host", "localhost:8080"), ("origin", "http://localhost:8080")]).await, 415);
    let a = get(&k, "/").await;
    let policy = a.header("content-security-policy").unwrap();
    assert!(policy.starts_with("default-src 'none'; script-src 'self'; style-src 'self';") && !policy.contains("unsafe"), "{policy}");
    assert_eq!((a.header("x-content-type-options"), a.header("referrer-policy")), (Some("nosniff"), Some("same-origin")));
}

#[actix_web::test]
async fn a_swap_can_be_posted_as_the_patch_it_is() {
    let k = kitchen();
    let formula = json!({ "lines": [{ "ingredient": "wheat-bread", "grams": 500 }, { "ingredient": "water", "grams": 290 }, { "ingredient": "butter-unsalted", "grams": 50 }, { "ingredient": "salt-fine", "grams": 9 }, { "ingredient": "yeast-instant", "grams": 6 }] });
    let a = post(&k, "/api/v1/swap", &json!({ "formula": formula, "line": 2 })).await.json();
    held("/api/v1/swap", "post", "200", &a);
    let oil = a["options"].as_array().unwrap().iter().find(|o| o["id"] == "butter-to-oil-neutral").unwrap();
    assert_eq!(oil["add"][0]["ingredient"], "water");
    let ops: Vec<&str> = oil["patch"].as_array().unwrap().iter().map(|p| p["path"].as_str().unwrap()).collect();
    assert_eq!(ops, ["/formula/lines/2/ingredient", "/formula/lines/2/stage", "/formula/lines/2/grams", "/formula/lines/1/grams"]);
    assert_eq!(post(&k, "/api/v1/swap", &json!({ "formula": formula, "line": 9 })).await.status, 422);
}
