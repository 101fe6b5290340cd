//! The pages of the oven as a browser without script goes through them.

use super::{Kitchen, form, get, kitchen, lean, post};

async fn kept(k: &Kitchen) -> String {
    post(k, "/api/v1/formulas", &serde_json::json!({ "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned()
}

async fn put(k: &Kitchen, body: serde_json::Value) -> serde_json::Value {
    let a = super::send(k, actix_web::http::Method::PUT, "/api/v1/kitchen", &body).await;
    assert_eq!(a.status, 200, "{}", a.text);
    a.json()
}

#[actix_web::test]
async fn the_answer_stands_on_the_dial_of_the_household() {
    let k = kitchen();
    let id = kept(&k).await;
    let kept = put(
        &k,
        serde_json::json!({ "oven": { "name": "Galley oven", "dial": "fahrenheit" }, "other_ovens": [{ "name": "Range", "dial": "gas" }] }),
    )
    .await;
    assert_eq!((kept["oven"]["dial"].as_str(), kept["other_ovens"][0]["name"].as_str()), (Some("fahrenheit"), Some("Range")));
    let usual = get(&k, &format!("/oven?formula={id}&p[set_c]=230C")).await.text;
    assert!(usual.contains("445<small>°F</small>") && usual.contains("Galley oven, °F"));
    let other = get(&k, &format!("/oven?formula={id}&p[set_c]=230C&p[oven]=1")).await.text;
    assert!(other.contains("Set the dial to gas mark") && other.contains("num-xl crust\">8<small>"));
    // A figure of another scale is read, and asked back.
    let odd = get(&k, &format!("/oven?formula={id}&p[set_c]=200")).await.text;
    assert!(odd.contains("Read as °C, which is 390 °F"), "200 °F is no setting for bread");
}

#[actix_web::test]
async fn the_sizes_of_a_dough_stand_side_by_side_and_those_too_slow_are_marked() {
    let k = kitchen();
    let id = kept(&k).await;
    let all = get(&k, &format!("/oven/sizes?formula={id}")).await;
    assert_eq!((all.status, all.text.matches("class=\"t mins\"").count()), (200, 5));
    assert!(!all.text.contains("too long"));
    let hurried = get(&k, &format!("/oven/sizes?formula={id}&p[have]=20")).await.text;
    assert!(hurried.contains("too long") && hurried.contains("are out within 20 min"));
    for wrong in ["0", "soon"] {
        let a = get(&k, &format!("/oven/sizes?formula={id}&p[have]={wrong}")).await;
        assert!(a.status == 422 && a.text.contains(&format!("value=\"{wrong}\"")), "{wrong}");
    }
}

#[actix_web::test]
async fn two_breads_one_oven_and_what_is_wrong_is_told() {
    let k = kitchen();
    let id = kept(&k).await;
    let same = get(&k, &format!("/oven/together?formula={id}&p[other_g]=90&p[other_pieces]=6&p[loads]=2")).await;
    assert!(same.status == 200 && same.text.contains("in several loads") && same.text.contains("90 g"));
    assert!(same.text.contains("Together, at") || same.text.contains("One after the other"));
    let wrong = get(&k, &format!("/oven/together?formula={id}&p[other_g]=-4&p[loads]=99")).await;
    assert!(wrong.status == 422 && wrong.text.contains("Loads: a whole number") && wrong.text.contains("The other bread:"));
}

#[actix_web::test]
async fn nonsense_is_told_on_every_page_of_the_oven() {
    let k = kitchen();
    let id = kept(&k).await;
    for page in ["", "/sizes", "/together", "/care"] {
        let a = get(&k, &format!("/oven{page}?formula={id}&p[piece_g]=huge")).await;
        assert!(a.status == 422 && a.text.contains("class=\"wrong\""), "{page}");
        assert_eq!(get(&k, &format!("/oven{page}?formula=nobody")).await.status, 404, "{page}");
        assert!(get(&k, &format!("/oven{page}")).await.text.contains("Which bread goes in?"), "{page}");
    }
    let twice = serde_json::json!({ "oven": { "name": "Range" }, "other_ovens": [{ "name": "Range" }] });
    assert_eq!(super::send(&k, actix_web::http::Method::PUT, "/api/v1/kitchen", &twice).await.status, 422, "two of one name");
}

#[actix_web::test]
async fn the_other_oven_stands_on_the_kitchen_page_and_stays_when_it_is_kept() {
    let k = kitchen();
    put(&k, serde_json::json!({ "other_ovens": [{ "name": "Range", "dial": "gas", "offset_c": -7 }] })).await;
    let page = get(&k, "/kitchen").await.text;
    assert!(
        page.contains("name=\"other_ovens[0][name]\" value=\"Range\"") && page.contains("name=\"other_ovens[0][offset_c]\" value=\"-7\"")
    );
    assert!(page.contains("name=\"other_ovens[1][name]\""), "and room for one more");
    let fields = [
        ("name", "Galley"),
        ("zone", "UTC"),
        ("locale", "en-GB"),
        ("places[room_c]", "22"),
        ("places[pantry_c]", "15"),
        ("places[fridge_c]", "4"),
        ("scale_step_g", "1"),
        ("altitude_m", "0"),
        ("flour_c", "20"),
        ("tap_c", "14"),
        ("mixer_size", "small"),
        ("mixer", "hand"),
        ("cup", "us"),
        ("flour_measure", "spooned"),
        ("other_ovens[0][name]", "Range"),
        ("other_ovens[0][dial]", "gas"),
        ("other_ovens[0][offset_c]", "-7"),
        ("other_ovens[1][name]", ""),
    ];
    let kept = form(&k, "/kitchen", &fields).await;
    assert_eq!(kept.status, 303, "{}", kept.text);
    let now = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!((now["places"]["room_c"].as_f64(), now["other_ovens"][0]["dial"].as_str()), (Some(22.0), Some("gas")));
    assert_eq!(now["other_ovens"].as_array().unwrap().len(), 1);
}

#[actix_web::test]
async fn before_and_after_are_told_with_their_cautions() {
    let k = kitchen();
    let id = kept(&k).await;
    let soda = get(&k, &format!("/oven/care?formula={id}&p[glaze]=soda")).await.text;
    assert!(soda.contains("Soda bath") && soda.contains("Lye is another thing") && soda.contains("Warm up"));
    assert!(!get(&k, &format!("/oven/care?formula={id}")).await.text.contains("Soda bath"));
}

#[actix_web::test]
async fn a_thermometer_read_on_bake_day_stands_in_the_ovens_log() {
    let k = kitchen();
    let id = kept(&k).await;
    put(&k, serde_json::json!({ "oven": { "name": "Galley oven" } })).await;
    assert!(get(&k, "/oven/log").await.text.contains("No reading of an oven thermometer yet"));
    let begun = form(&k, "/plan/by-hand/use", &[("formula", &id)]).await;
    let bake = begun.bake();
    let act = async |fields: &[(&str, &str)]| assert_eq!(form(&k, &format!("/bakeday/{bake}/events"), fields).await.status, 303);
    act(&[("kind", "mixed")]).await;
    act(&[("kind", "shaped")]).await;
    act(&[("kind", "oven-on"), ("value", "230"), ("what", "Galley oven")]).await;
    let page = get(&k, &format!("/bakeday/{bake}")).await.text;
    assert!(page.contains("Oven thermometer") && page.contains("name=\"stage\" value=\"oven\""), "one tap, once it is lit");
    // Still heating, and again when it has come to rest: that one counts.
    act(&[("kind", "temperature"), ("stage", "oven"), ("value", "190")]).await;
    act(&[("kind", "temperature"), ("stage", "oven"), ("value", "215")]).await;
    act(&[("kind", "loaded"), ("value", "230")]).await;
    act(&[("kind", "core"), ("value", "95")]).await;
    act(&[("kind", "out")]).await;
    act(&[("kind", "colour"), ("what", "golden")]).await;
    let log = get(&k, "/oven/log").await.text;
    assert!(log.contains("215°") && log.contains("15 °C cooler") && log.contains("95°") && log.contains("golden"), "{log}");
    // One tap, and every setting is turned to what was learned.
    assert!(log.contains("Reckon with an oven 15 °C cooler"), "{log}");
    assert_eq!(form(&k, "/oven/log", &[("oven", "0"), ("offset_c", "-15")]).await.status, 303);
    assert_eq!(get(&k, "/api/v1/kitchen").await.json()["oven"]["offset_c"], -15.0);
    assert!(!get(&k, "/oven/log").await.text.contains("Reckon with"));
}

#[actix_web::test]
async fn what_was_chosen_stays_chosen_when_something_is_refused() {
    let k = kitchen();
    let id = kept(&k).await;
    let a = get(&k, &format!("/oven?formula={id}&p[shape]=pan&p[vessel]=sheet&p[glaze]=egg&p[crust]=crisp&p[touching]=1")).await;
    assert_eq!(a.status, 422);
    assert!(a.text.contains("A tin loaf stands in a tin: choose what it is made of."), "{}", a.text);
    for chosen in
        ["value=\"pan\" selected", "value=\"sheet\" selected", "value=\"egg\" selected", "selected>crisp", "value=\"1\" selected>touching"]
    {
        assert!(a.text.contains(chosen), "{chosen}");
    }
}
