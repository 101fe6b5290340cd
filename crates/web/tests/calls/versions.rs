//! Versions of a formula, notes, tags, putting away.

use serde_json::{Value, json};

use super::{Kitchen, form, get, kitchen, lean, post, send};
use actix_web::http::Method;

async fn two_versions(k: &Kitchen) -> String {
    let id = post(k, "/api/v1/formulas", &json!({ "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let mut wetter = lean();
    wetter["lines"][1]["grams"] = json!(360);
    wetter["note"] = json!("wetter since the new sack");
    wetter["tags"] = json!(["everyday", "boat"]);
    let answer = send(k, Method::PUT, &format!("/api/v1/formulas/{id}"), &json!({ "formula": wetter })).await;
    assert_eq!(answer.json()["version"], 2, "{}", answer.text);
    id
}

#[actix_web::test]
async fn what_changed_is_told_line_by_line() {
    let k = kitchen();
    let id = two_versions(&k).await;
    let page = get(&k, &format!("/formula/{id}/versions")).await;
    for words in ["From version 1 to version 2", "340 g, 68 %", "360 g, 72 %", "+4.0", "wetter since the new sack", "everyday, boat"] {
        assert!(page.text.contains(words), "{words}");
    }
    assert!(!page.text.contains("10 g, 2.0 %"), "the salt did not change");
    let same = get(&k, &format!("/formula/{id}/versions?a=2&b=2")).await;
    assert!(same.text.contains("Nothing differs."));
    assert_eq!(get(&k, "/formula/nobody/versions").await.status, 404);
}

#[actix_web::test]
async fn an_old_version_comes_back_as_the_newest_and_nothing_is_lost() {
    let k = kitchen();
    let id = two_versions(&k).await;
    let back = form(&k, &format!("/formula/{id}/versions"), &[("do", "back:1")]).await;
    assert_eq!(back.status, 303);
    let newest = get(&k, &format!("/api/v1/formulas/{id}")).await.json();
    assert_eq!((newest["version"].clone(), newest["formula"]["lines"][1]["grams"].clone()), (json!(3), json!(340.0)));
    let second = get(&k, &format!("/api/v1/formulas/{id}?version=2")).await.json();
    assert_eq!(second["formula"]["tags"], json!(["everyday", "boat"]));
    assert_eq!(get(&k, &format!("/api/v1/formulas/{id}?version=9")).await.status, 404);
}

#[actix_web::test]
async fn a_bread_is_copied_put_away_found_and_taken_out() {
    let k = kitchen();
    let id = two_versions(&k).await;
    let copy = form(&k, &format!("/formula/{id}/versions"), &[("do", "copy")]).await;
    assert!(get(&k, copy.header("location").unwrap()).await.text.contains("Harbour loaf, another"));
    form(&k, &format!("/formula/{id}/versions"), &[("do", "away")]).await;
    let names =
        |j: Value| j["formulas"].as_array().unwrap().iter().map(|f| f["formula"]["name"].as_str().unwrap().to_owned()).collect::<Vec<_>>();
    assert_eq!(names(get(&k, "/api/v1/formulas").await.json()), ["Harbour loaf, another"]);
    assert!(get(&k, "/formula?away=true").await.text.contains(&format!("/formula/{id}")));
    form(&k, &format!("/formula/{id}/versions"), &[("do", "out")]).await;
    assert_eq!(names(get(&k, "/api/v1/formulas?q=boat").await.json()).len(), 2, "the copy has the tags too");
    assert_eq!(names(get(&k, "/api/v1/formulas?q=nothing%20like%20it").await.json()).len(), 0);
    assert!(get(&k, "/formula?q=boat").await.text.contains("Harbour loaf, another"));
}

#[actix_web::test]
async fn a_note_too_long_is_refused_at_its_field_and_stays() {
    let k = kitchen();
    let long = "wet ".repeat(1100);
    let a =
        form(&k, "/formula", &[("lines[0][ingredient]", "Bread flour"), ("lines[0][grams]", "500"), ("note", &long), ("do", "save")]).await;
    assert!(a.status == 422 && a.text.contains("A note has 4000 letters at most.") && a.text.contains("wet wet wet"));
    let tag = "x".repeat(41);
    let b = form(&k, "/formula", &[("lines[0][ingredient]", "Bread flour"), ("lines[0][grams]", "500"), ("tags", &tag)]).await;
    assert!(b.status == 422 && b.text.contains("A tag has 40 letters at most"));
    assert!(b.text.contains("<b class=\"t\">500 g</b> of dough"), "the dough is worked out all the same");
    let mut f = lean();
    f["tags"] = json!([tag]);
    let b = post(&k, "/api/v1/formulas", &json!({ "formula": f })).await;
    assert!(b.status == 422 && b.text.contains("/formula/tags/0"), "{}", b.text);
}

#[actix_web::test]
async fn variants_of_one_name_stand_side_by_side() {
    let k = kitchen();
    let id = post(&k, "/api/v1/formulas", &serde_json::json!({ "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let page = get(&k, &format!("/formula/{id}/variants")).await;
    assert!(page.status == 200 && page.text.contains("One list so far"));
    let unsaid = form(&k, &format!("/formula/{id}/variants"), &[("variant", " ")]).await;
    assert!(unsaid.status == 422 && unsaid.text.contains("Say what is to be different"));
    let made = form(&k, &format!("/formula/{id}/variants"), &[("variant", "with rye")]).await;
    assert_eq!(made.status, 303);
    let other = made.header("location").unwrap().rsplit('/').next().unwrap().to_owned();
    let mut rye = lean();
    rye["variant"] = "with rye".into();
    rye["lines"][0]["grams"] = 400.into();
    rye["lines"].as_array_mut().unwrap().push(serde_json::json!({ "ingredient": "rye-medium", "grams": 100 }));
    assert_eq!(
        super::send(&k, actix_web::http::Method::PUT, &format!("/api/v1/formulas/{other}"), &serde_json::json!({ "formula": rye }))
            .await
            .status,
        200
    );
    let page = get(&k, &format!("/formula/{id}/variants")).await.text;
    assert!(page.contains("2 lists under one name") && page.contains("with rye") && page.contains("Medium rye flour"));
    assert_eq!(page.matches("class=\"differs\"").count(), 2, "bread flour and rye");
    assert!(get(&k, "/formula").await.text.contains("Harbour loaf, with rye"));
    assert_eq!(get(&k, "/formula/none/variants").await.status, 404);
}
