//! What is too long, too much or not of its kind is stopped at the door, in words.

use super::*;
use serde_json::json;

#[actix_web::test]
async fn a_long_word_is_refused_shortly_wherever_it_stands() {
    let k = kitchen();
    let long = "w".repeat(100_000);
    let line = json!({ "ingredient": "wheat-bread", "grams": 500 });
    let formulas = [
        json!({ "lines": [line], "name": long }),
        json!({ "lines": [line], "variant": long }),
        json!({ "lines": [line], "style": long }),
        json!({ "lines": [line], "yeast_kind": long }),
        json!({ "lines": [line], "tags": [long] }),
        json!({ "lines": [line], "note": long }),
        json!({ "lines": [line], "accepted": [long] }),
        json!({ "lines": [line], "accepted": vec!["salt-low"; 20_000] }),
        json!({ "lines": [{ "ingredient": long, "grams": 1 }] }),
        json!({ "lines": [{ "ingredient": "water", "grams": 1, "stage": long }] }),
        json!({ "lines": [line], "pieces": { "count": 1, "shape": long } }),
        json!({ "lines": [line], "pieces": { "count": 1, "vessel": long } }),
        json!({ "lines": [line], "pieces": { "count": 1, "pan": long } }),
        json!({ "lines": [line], "hold": { "ingredient": long, "grams": 1 } }),
        json!({ "lines": [line], "oven": { "stages": [{ "set_c": 200, "lid": long }] } }),
    ];
    for formula in formulas {
        let a = post(&k, "/api/v1/formula", &json!({ "formula": formula })).await;
        assert!(a.status == 422 && a.text.len() < 2000, "{}: {} bytes for {:.200}", a.status, a.text.len(), formula.to_string());
    }
    for (path, body) in [
        ("/api/v1/own/ingredients", json!({ "name": long, "like": "wheat-bread" })),
        ("/api/v1/own/ingredients", json!({ "name": "Holm", "like": long })),
        ("/api/v1/own/ingredients", json!({ "name": "Holm", "like": "wheat-bread", "allergens": [long] })),
        ("/api/v1/own/pans", json!({ "name": long, "shape": "loaf", "volume_ml": 900 })),
        ("/api/v1/own/pans", json!({ "name": "Tin", "shape": long, "volume_ml": 900 })),
        ("/api/v1/own/words", json!({ "word": long, "ingredient": "wheat-bread" })),
        ("/api/v1/own/words", json!({ "word": "holm", "ingredient": long })),
        ("/api/v1/leavens", json!({ "name": long, "flour_mix": { "plain-white": 100 }, "hydration_pct": 100 })),
        ("/api/v1/formula", json!({ long.clone(): 1 })),
    ] {
        let a = post(&k, path, &body).await;
        assert!(a.status == 422 && a.text.len() < 2000, "{path}: {} {} bytes", a.status, a.text.len());
    }
    for field in ["name", "zone", "locale", "cup", "mixer", "currency", "egg"] {
        let a = put(&k, "/api/v1/kitchen", &json!({ field: long })).await;
        assert!(a.status == 422 && a.text.len() < 2000, "{field}: {} {} bytes", a.status, a.text.len());
    }
}

#[actix_web::test]
async fn what_stands_in_one_line_stays_in_one_line() {
    let k = kitchen();
    let line = json!({ "ingredient": "wheat-bread", "grams": 500 });
    for formula in [
        json!({ "lines": [line], "name": "bread\r\nSUMMARY:soup" }),
        json!({ "lines": [line], "name": "bread\u{0}" }),
        json!({ "lines": [line], "tags": ["a\nb"] }),
    ] {
        assert_eq!(post(&k, "/api/v1/formulas", &json!({ "formula": formula })).await.status, 422, "{formula}");
    }
}

#[actix_web::test]
async fn an_allergen_is_one_that_a_label_tells() {
    let k = kitchen();
    let own = |allergen: &str| json!({ "name": "Holm seeds", "like": "wheat-whole", "allergens": [allergen] });
    let a = post(&k, "/api/v1/own/ingredients", &own("glutten")).await;
    assert!(a.status == 422 && a.text.contains("Did you mean “gluten”?"), "{}", a.text);
    assert_eq!(a.pointers(), ["/allergens"]);
    assert_eq!(post(&k, "/api/v1/own/ingredients", &own(" Sesame")).await.status, 201);
}

#[actix_web::test]
async fn a_form_has_no_more_fields_than_ours() {
    let k = kitchen();
    let many: String = (0..15_000).map(|i| format!("&lines[{i}][ingredient]=wheat-bread")).collect();
    let a = raw(&k, "/formula", "application/x-www-form-urlencoded", format!("a=1{many}")).await;
    assert!(a.status == 413 && a.text.len() < 20_000, "{} {} bytes", a.status, a.text.len());
    assert_eq!(raw(&k, "/kitchen", "application/x-www-form-urlencoded", format!("a=1{many}")).await.status, 413);
}

#[actix_web::test]
async fn a_list_is_no_object_and_no_key_is_passed_over() {
    let k = kitchen();
    assert_eq!(put(&k, "/api/v1/kitchen", &json!(["x"])).await.status, 400);
    let id = post(&k, "/api/v1/bakes", &json!({ "name": "Loaf", "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let path = format!("/api/v1/bakes/{id}/events");
    let note = json!({ "kind": "note", "note": "x", "at": "2026-11-06T16:30:00+00:00" }).to_string();
    for key in ["caf\u{e9}".as_bytes().to_vec(), Vec::new(), vec![b'k'; 201]] {
        let value = actix_web::http::header::HeaderValue::from_bytes(&key).unwrap();
        let request = TestRequest::post().uri(&path).insert_header(("content-type", "application/json"));
        let a = call(&k, request.insert_header(("Idempotency-Key", value)).set_payload(note.clone())).await;
        assert_eq!(a.status, 422, "{key:?}");
    }
}

#[actix_web::test]
async fn an_hour_that_is_none_is_never_now() {
    let k = kitchen();
    let id = post(&k, "/api/v1/bakes", &json!({ "name": "Loaf", "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let a = form(&k, &format!("/bakeday/{id}/events"), &[("kind", "note"), ("note", "Fog."), ("at", "yesterday")]).await;
    assert!(a.status == 422 && a.text.contains("“yesterday” is no hour of a day.") && a.text.contains("Fog."), "{}", a.text);
    assert!(get(&k, &format!("/api/v1/bakes/{id}")).await.json()["events"].as_array().unwrap().is_empty());
}

#[actix_web::test]
async fn a_query_is_refused_in_words_at_its_field() {
    let k = kitchen();
    for (path, pointer, words) in [
        ("/api/v1/bakes?pgae=1", "/pgae", "Did you mean “page”?"),
        ("/api/v1/bakes?page=x", "/page", "“x” cannot be read; it should be a whole number."),
        ("/api/v1/formulas?q=a&page=1.5", "/page", "whole number"),
    ] {
        let a = get(&k, path).await;
        assert!(a.status == 400 && a.text.contains(words), "{path}: {}", a.text);
        assert_eq!(a.pointers(), [pointer], "{path}");
    }
}

#[actix_web::test]
async fn head_is_answered_as_get_and_a_wrong_method_is_told_so() {
    let k = kitchen();
    for path in ["/", "/logbook", "/kitchen", "/api/v1/kitchen", "/api/v1/bakes", "/health"] {
        assert_eq!(with_headers(&k, Method::HEAD, path, &[]).await.status, 200, "{path}");
    }
    assert_eq!(with_headers(&k, Method::HEAD, "/nowhere", &[]).await.status, 404);
    let a = with_headers(&k, Method::DELETE, "/api/v1/kitchen", &[]).await;
    assert_eq!((a.status, a.kind.as_str()), (405, "application/problem+json"));
    let allow = a.header("allow").unwrap().to_owned();
    assert!(allow.contains("GET") && allow.contains("PUT") && a.text.contains("not DELETE"), "{allow}: {}", a.text);
    let page = with_headers(&k, Method::DELETE, "/logbook", &[]).await;
    assert!(page.status == 405 && page.kind.starts_with("text/html") && page.header("allow").is_some(), "{}", page.text);
}

#[actix_web::test]
async fn ids_are_the_programs_own() {
    let k = kitchen();
    let sheet = [("lines[0][ingredient]", "wheat-bread"), ("lines[0][grams]", "500"), ("name", "Loaf"), ("do", "save")];
    for id in ["../../logbook", "a\r\nSet-Cookie: x=1", "nobody", ""] {
        let fields: Vec<(&str, &str)> = sheet.into_iter().chain([("id", id)]).collect();
        let kept = form(&k, "/formula", &fields).await;
        let to = kept.header("location").unwrap_or_else(|| panic!("{id}: {}", kept.text)).to_owned();
        let own = to.trim_start_matches("/formula/");
        assert!(kept.status == 303 && own.len() == 36 && own.chars().all(|c| c.is_ascii_hexdigit() || c == '-'), "{id}: {to}");
        let again: Vec<(&str, &str)> = sheet.into_iter().chain([("id", own)]).collect();
        assert_eq!(form(&k, "/formula", &again).await.header("location"), Some(to.as_str()), "the next version of the same");
    }
    assert_eq!(put(&k, "/api/v1/formulas/..%2F..%2Flogbook", &json!({ "formula": lean() })).await.status, 404);
}
