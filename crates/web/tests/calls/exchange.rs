//! Formulas out of the house and into it.

use actix_web::http::Method;
use serde_json::{Value, json};

use super::{form, get, kitchen, lean, post, raw, send};

async fn keep(k: &super::Kitchen) -> String {
    post(k, "/api/v1/formulas", &json!({ "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned()
}

#[actix_web::test]
async fn a_kept_formula_goes_out_in_every_format_and_comes_back_the_same() {
    let k = kitchen();
    let id = keep(&k).await;
    for (ending, kind) in [("jsonld", "application/ld+json"), ("json", "application/json"), ("csv", "text/csv"), ("md", "text/markdown")] {
        let out = get(&k, &format!("/api/v1/formulas/{id}.{ending}")).await;
        assert!(out.status == 200 && out.kind.starts_with(kind), "{ending}: {} {}", out.status, out.kind);
        assert_eq!(out.header("content-disposition"), Some(format!("attachment; filename=\"harbour-loaf.{ending}\"").as_str()));
        let dry = raw(&k, "/api/v1/import?dry_run=true", kind, out.text.clone()).await;
        assert_eq!(dry.status, 200, "{ending}: {}", dry.text);
        assert!(dry.json().get("id").is_none());
        let back = raw(&k, "/api/v1/import", kind, out.text).await;
        assert_eq!(back.status, 201, "{ending}: {}", back.text);
        let kept = get(&k, back.header("location").unwrap()).await.json();
        let pairs = |f: &Value| {
            f["lines"]
                .as_array()
                .unwrap()
                .iter()
                .map(|l| (l["ingredient"].as_str().unwrap().to_owned(), l["grams"].as_f64().unwrap()))
                .collect::<Vec<_>>()
        };
        assert_eq!(pairs(&kept["formula"]), pairs(&lean()), "{ending}");
    }
    assert_eq!(get(&k, &format!("/api/v1/formulas/{id}.pdf")).await.status, 404);
    assert_eq!(get(&k, "/api/v1/formulas/nobody.md").await.status, 404);
}

#[actix_web::test]
async fn the_programs_own_json_keeps_its_published_schema() {
    let k = kitchen();
    let id = keep(&k).await;
    let schema = get(&k, "/api/v1/formula.schema.json").await.json();
    let validator = jsonschema::validator_for(&schema).unwrap();
    let file = get(&k, &format!("/api/v1/formulas/{id}.json")).await.json();
    assert!(validator.is_valid(&file), "{:?}", validator.iter_errors(&file).map(|e| e.to_string()).collect::<Vec<_>>());
    assert!(!validator.is_valid(&json!({ "format": "another", "version": 1, "formula": lean() })));
}

#[actix_web::test]
async fn a_file_that_cannot_be_used_is_refused_with_its_reason() {
    let k = kitchen();
    for (kind, body, status, words) in [
        ("application/pdf", "x", 415, "Send it as one of"),
        ("text/html", "<!doctype html><p>Bread</p>", 422, "no recipe a program can read"),
        ("application/ld+json", "{", 422, "breaks off"),
        ("text/plain", "A poem about the sea", 422, "no ingredient with a weight"),
        ("text/csv", "ingredient,grams\nmoonflour,500\n", 422, "moonflour"),
    ] {
        let a = raw(&k, "/api/v1/import", kind, body).await;
        assert_eq!(a.status, status, "{kind}: {}", a.text);
        assert!(a.text.contains(words), "{kind}: {}", a.text);
    }
    assert_eq!(raw(&k, "/api/v1/import", "text/plain", vec![0xff_u8, 0xfe]).await.status, 400);
    assert_eq!(raw(&k, "/api/v1/import", "text/plain", vec![b'a'; 1 << 21]).await.status, 413);
    assert_eq!(send(&k, Method::GET, "/api/v1/import", &json!({})).await.status, 405);
}

#[actix_web::test]
async fn what_is_pasted_may_be_any_of_these_too() {
    let k = kitchen();
    let ld = r#"{"@context":"https://schema.org","@type":"Recipe","name":"Tide bap","recipeIngredient":["500 g bread flour","320 g water","10 g salt","4 g instant yeast"]}"#;
    for (text, name) in [(ld, "Tide bap"), ("ingredient,grams\nwheat-bread,500\nwater,320\n", "Bread flour")] {
        let a = form(&k, "/formula/read", &[("text", text)]).await;
        assert!(a.status == 200 && a.text.contains(name) && a.text.contains("id=\"sheet\""), "{text}");
    }
    let a = form(&k, "/formula/read", &[("text", "{\"@type\":\"Recipe\"")]).await;
    assert!(a.status == 422 && a.text.contains("breaks off") && a.text.contains("&#34;@type&#34;"), "what was pasted stays");
}
