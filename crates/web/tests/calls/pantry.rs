//! The pantry, by page and by call.

use super::{get, kitchen};

#[actix_web::test]
async fn a_word_in_any_language_finds_its_jar_with_weights_and_source() {
    let k = kitchen();
    for (word, name) in [("kanel", "Cinnamon, ground"), ("Brotmehl", "Bread flour (strong white)"), ("levure%20chimique", "Baking powder")]
    {
        let a = get(&k, &format!("/pantry?q={word}")).await;
        assert_eq!(a.status, 200);
        let first = a.text.split("<h3>").nth(1).unwrap();
        assert!(first.starts_with(name), "{word}: {}", &first[..40]);
        assert!(first.contains("<cite>"), "{word} names no source");
    }
    let a = get(&k, "/pantry?q=zzzzzz").await;
    assert!(a.status == 200 && a.text.contains("Nothing like “zzzzzz” here"));
    assert!(get(&k, "/pantry?q=%3Cscript%3E").await.text.contains("&#60;script&#62;"));
}

#[actix_web::test]
async fn every_shelf_holds_something_and_the_first_is_flour() {
    let k = kitchen();
    assert!(get(&k, "/pantry").await.text.contains("<h3>Bread flour (strong white)</h3>"));
    for family in cerealis_core::pantry::Family::ALL {
        let a = get(&k, &format!("/pantry?shelf={}", family.word())).await;
        assert!(a.status == 200 && a.text.contains("class=\"jar\""), "{}", family.word());
    }
}

#[actix_web::test]
async fn the_call_gives_the_nearest_name_first() {
    let k = kitchen();
    let first = |j: serde_json::Value| j["ingredients"][0]["id"].as_str().unwrap().to_owned();
    assert_eq!(first(get(&k, "/api/v1/pantry?q=wholemeal").await.json()), "wheat-whole");
    let all = get(&k, "/api/v1/pantry").await.json();
    assert_eq!(all["ingredients"].as_array().unwrap().len(), 100);
    assert_eq!(get(&k, &format!("/api/v1/pantry?q={}", "x".repeat(201))).await.status, 422);
    assert_eq!(get(&k, "/api/v1/pantry?w=flour").await.status, 400);
}

#[actix_web::test]
async fn the_label_names_the_allergens_and_the_energy() {
    let k = kitchen();
    let formula = serde_json::json!({ "formula": { "name": "Plait", "lines": [
        { "ingredient": "wheat-bread", "grams": 500 }, { "ingredient": "milk-whole", "grams": 280 }, { "ingredient": "salt-fine", "grams": 9 },
        { "ingredient": "yeast-instant", "grams": 6 }, { "ingredient": "sesame-seed", "grams": 10, "stage": "finish" }
    ], "pieces": { "count": 2 } } });
    let id = super::post(&k, "/api/v1/formulas", &formula).await.json()["id"].as_str().unwrap().to_owned();
    let a = get(&k, &format!("/formula/{id}/label")).await;
    assert_eq!(a.status, 200);
    for words in ["<h1>Plait</h1>", "<b>bread flour</b>", "gluten, milk, sesame", "kcal", "2 pieces of"] {
        assert!(a.text.contains(words), "{words}");
    }
    assert!(get(&k, &format!("/formula/{id}")).await.text.contains(&format!("/formula/{id}/label")));
    assert_eq!(get(&k, "/formula/nothing/label").await.status, 404);
}
