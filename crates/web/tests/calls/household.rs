//! The kitchen and the household's own things, by page and by call.

use actix_web::http::Method;
use serde_json::json;

use super::{form, get, kitchen, post, put, send};

#[actix_web::test]
async fn the_kitchen_is_told_by_call_and_what_is_not_said_stays() {
    let k = kitchen();
    let before = get(&k, "/api/v1/kitchen").await.json();
    let a = send(&k, Method::PUT, "/api/v1/kitchen", &json!({ "tap_c": 7.5, "packet_g": 8, "prices": { "wheat-bread": 1.4 } })).await;
    assert_eq!((a.status, a.json()["tap_c"].as_f64()), (200, Some(7.5)));
    let after = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!((&after["places"], &after["name"]), (&before["places"], &before["name"]));
    assert_eq!(send(&k, Method::PUT, "/api/v1/kitchen", &json!({ "packet_g": null })).await.json()["packet_g"], json!(null));
    let wrong = send(&k, Method::PUT, "/api/v1/kitchen", &json!({ "tap_c": 70, "mixer": "spoon", "zone": "Atlantis" })).await;
    assert_eq!(wrong.status, 422);
    assert_eq!(wrong.pointers(), ["/tap_c", "/mixer", "/zone"]);
    let unknown = send(&k, Method::PUT, "/api/v1/kitchen", &json!({ "prices": { "moonstone": 1 } })).await;
    assert_eq!((unknown.status, unknown.pointers()), (422, vec!["/prices/moonstone".to_owned()]));
    assert_eq!(get(&k, "/api/v1/kitchen").await.json()["tap_c"], json!(7.5), "nothing of a refused kitchen is kept");
}

#[actix_web::test]
async fn an_own_flour_is_read_at_once_and_by_the_next_start() {
    let k = kitchen();
    let mill = json!({ "name": "Harbour mill", "like": "wheat-bread", "also": ["bread flour"], "protein_pct": 13 });
    let a = post(&k, "/api/v1/own/ingredients", &mill).await;
    assert_eq!((a.status, a.json()["id"].as_str()), (201, Some("own-harbour-mill")));
    let read = post(&k, "/api/v1/read", &json!({ "text": "500 g bread flour\n330 g water\n10 g salt" })).await.json();
    assert_eq!(read["formula"]["lines"][0]["ingredient"], "own-harbour-mill");
    let kept = post(&k, "/api/v1/formulas", &json!({ "formula": read["formula"] })).await;
    assert_eq!(kept.status, 201);
    assert_eq!(post(&k, "/api/v1/own/ingredients", &mill).await.pointers(), ["/name"], "no second of that name");
    let away = json!({ "name": "Harbour mill", "like": "wheat-bread", "away": true });
    assert_eq!(send(&k, Method::PUT, "/api/v1/own/ingredients/own-harbour-mill", &away).await.status, 200);
    let page = get(&k, &format!("/formula/{}", kept.json()["id"].as_str().unwrap())).await;
    assert!(page.status == 200 && page.text.contains("Harbour mill"), "a formula keeps what is put away");
    assert!(!get(&k, "/pantry?shelf=flour").await.text.contains("Harbour mill"));
    assert_eq!(send(&k, Method::PUT, "/api/v1/own/ingredients/own-nothing", &mill).await.status, 404);
    let again = cerealis_web::edge::Household::open(cerealis_core::Tables::built_in().unwrap(), &k.state.db).unwrap();
    assert!(again.tables().pantry.get("own-harbour-mill").is_some());
}

#[actix_web::test]
async fn the_kitchen_page_keeps_what_was_typed_with_its_sentence() {
    let k = kitchen();
    let told = [
        ("name", "Skerry"),
        ("zone", "UTC"),
        ("locale", "en-GB"),
        ("cup", "own"),
        ("flour_measure", "scooped"),
        ("mixer", "hand"),
        ("mixer_size", "small"),
        ("scale_step_g", "0,1"),
        ("altitude_m", "12"),
        ("tap_c", "11"),
        ("flour_c", "cold"),
        ("places[room_c]", "19.5"),
        ("places[pantry_c]", "14"),
        ("places[fridge_c]", "99"),
        ("places[night][from]", "22:30"),
        ("places[night][to]", "soon"),
        ("places[night][room_c]", "16,5"),
        ("places[night][pantry_c]", ""),
    ];
    let a = form(&k, "/kitchen", &told).await;
    assert_eq!(a.status, 422);
    for sentence in [
        "“cold” is not a number",
        "Write an hour, for example 22:30",
        "Write a number here",
        "A place&#39;s temperature lies",
        "Say how many ml your own cup holds",
    ] {
        assert!(a.text.contains(sentence), "{sentence}");
    }
    assert!(
        a.text.contains(r#"value="cold""#) && a.text.contains(r#"value="19.5""#) && a.text.contains(r#"value="soon""#),
        "nothing typed is lost"
    );
    let mended: Vec<(&str, &str)> = told
        .into_iter()
        .map(|(n, v)| match n {
            "flour_c" => (n, "17"),
            "places[fridge_c]" => (n, "5"),
            "cup" => (n, "metric"),
            "places[night][to]" => (n, "05:30"),
            "places[night][pantry_c]" => (n, "12"),
            _ => (n, v),
        })
        .collect();
    let a = form(&k, "/kitchen", &mended).await;
    assert_eq!((a.status, a.header("location")), (303, Some("/kitchen?saved=true")));
    let kept = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!((kept["scale_step_g"].as_f64(), kept["places"]["oven_light_c"].as_f64()), (Some(0.1), None));
    assert_eq!(kept["places"]["night"], json!({ "from": "22:30", "to": "05:30", "room_c": 16.5, "pantry_c": 12.0 }));
    // A night taken out again is none.
    let without: Vec<(&str, &str)> = mended.into_iter().filter(|(n, _)| !n.starts_with("places[night]")).collect();
    assert_eq!(form(&k, "/kitchen", &without).await.status, 303);
    assert_eq!(get(&k, "/api/v1/kitchen").await.json()["places"]["night"], json!(null));
}

#[actix_web::test]
async fn pans_are_told_by_page_and_a_dough_fills_them() {
    let k = kitchen();
    let a = form(&k, "/kitchen/pan", &[("name", "Old tin"), ("shape", "loaf"), ("length_cm", "24")]).await;
    assert!(a.status == 422 && a.text.contains("Say what it holds") && a.text.contains(r#"value="24""#));
    let a = form(&k, "/kitchen/pan", &[("name", "Old tin"), ("shape", "loaf"), ("volume_ml", "1400")]).await;
    assert_eq!(a.status, 303);
    let scaled = post(&k, "/api/v1/formula", &json!({ "formula": super::lean(), "scale": { "pan": "own-old-tin" } })).await;
    assert_eq!(scaled.status, 200);
    assert!(get(&k, "/kitchen").await.text.contains("loaf tin, 1\u{2009}400 ml"));
    assert_eq!(get(&k, "/kitchen/pan/own-none").await.status, 404);
}

#[actix_web::test]
async fn a_name_in_any_script_has_an_address() {
    let k = kitchen();
    let a = post(&k, "/api/v1/own/ingredients", &json!({ "name": "Мука ржаная", "like": "rye-medium" })).await;
    assert_eq!(a.status, 201, "{}", a.text);
    let id = a.json()["id"].as_str().unwrap().to_owned();
    assert!(id.is_ascii() && a.header("location").unwrap().ends_with(&id));
    assert_eq!(get(&k, &format!("/kitchen/ingredient/{id}")).await.status, 200);
    let priced = form(&k, "/pantry/price", &[("id", &id), ("price", "2"), ("q", "мука")]).await;
    assert_eq!(priced.status, 303);
    assert_eq!(get(&k, priced.header("location").unwrap().split('#').next().unwrap()).await.status, 200);
    let read = post(&k, "/api/v1/read", &json!({ "text": "500 g мука ржаная" })).await.json();
    assert_eq!(read["formula"]["lines"][0]["ingredient"], id.as_str());
}

#[actix_web::test]
async fn a_price_at_the_jar_makes_the_cost_on_the_label() {
    let k = kitchen();
    let id = post(&k, "/api/v1/formulas", &json!({ "formula": super::lean() })).await.json()["id"].as_str().unwrap().to_owned();
    assert!(get(&k, &format!("/formula/{id}/label")).await.text.contains("No ingredient has a price yet"));
    let a = form(&k, "/pantry/price", &[("id", "wheat-bread"), ("price", "dear"), ("shelf", "flour")]).await;
    assert!(a.status == 422 && a.text.contains(r#"value="dear""#) && a.text.contains("“dear” is not a number"));
    assert_eq!(form(&k, "/pantry/price", &[("id", "wheat-bread"), ("price", "1,60"), ("shelf", "flour")]).await.status, 303);
    let label = get(&k, &format!("/formula/{id}/label")).await.text;
    assert!(label.contains("0.80") && label.contains("not in the sum: fine salt"), "500 g at 1.60 a kilogram");
    assert_eq!(form(&k, "/pantry/price", &[("id", "wheat-bread"), ("price", ""), ("shelf", "flour")]).await.status, 303);
    assert!(get(&k, &format!("/formula/{id}/label")).await.text.contains("No ingredient has a price yet"));
}

/// What nobody has told is marked on the page and named on the plan, until it is told one by one, or all at once.
#[actix_web::test]
async fn what_is_assumed_is_marked_until_it_is_told() {
    let k = kitchen();
    let marks = async || get(&k, "/kitchen").await.text.matches("<span class=\"assumed\">assumed</span>").count();
    assert_eq!(marks().await, 0, "a household older than the marks has none");
    let assumed = json!(["fridge", "tap", "flour", "oven-offset", "mixer", "scale-step", "altitude"]);
    let told = put(&k, "/api/v1/kitchen", &json!({ "assumed": assumed })).await;
    assert_eq!((told.status, &told.json()["assumed"]), (200, &assumed));
    // One for each, and one in the sentence that says what they mean.
    assert_eq!(marks().await, 8);
    let bread = post(&k, "/api/v1/formulas", &json!({ "formula": super::lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let plan = get(&k, &format!("/plan?formula={bread}&p[ready]=2026-11-08T12:30")).await.text;
    assert!(plan.contains("how cold the fridge is") && plan.contains("and how high above the sea it is"));
    // A figure that changes is told by it, whoever tells it; one that is sent as it was is not.
    put(&k, "/api/v1/kitchen", &json!({ "tap_c": 9, "flour_c": 20 })).await;
    let kept = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!(kept["assumed"], json!(["fridge", "flour", "oven-offset", "mixer", "scale-step", "altitude"]));
    // From the page: every figure is sent, the fridge is another one.
    let page = get(&k, "/kitchen").await;
    let value = |name: &str| {
        let rest = page.text.split(&format!("name=\"{name}\"")).nth(1).unwrap();
        rest.split('>').next().unwrap().split("value=\"").nth(1).unwrap().split('"').next().unwrap().to_owned()
    };
    let names = ["places[room_c]", "places[pantry_c]", "tap_c", "flour_c", "scale_step_g", "altitude_m", "name", "zone"];
    let mut all: Vec<(&str, String)> = names.map(|n| (n, value(n))).to_vec();
    all.extend([("places[fridge_c]", "6".to_owned()), ("locale", "en-GB".to_owned()), ("mixer", "hand".to_owned())]);
    let sent: Vec<(&str, &str)> = all.iter().map(|(n, v)| (*n, v.as_str())).collect();
    assert_eq!(form(&k, "/kitchen", &sent).await.status, 303);
    let kept = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!(kept["assumed"], json!(["flour", "oven-offset", "mixer", "scale-step", "altitude"]));
    let all_told = [&sent[..], &[("all_told", "1")]].concat();
    assert_eq!(form(&k, "/kitchen", &all_told).await.status, 303);
    assert_eq!(get(&k, "/api/v1/kitchen").await.json()["assumed"], json!([]));
    assert_eq!(marks().await, 0);
    let plan = get(&k, &format!("/plan?formula={bread}&p[ready]=2026-11-08T12:30")).await.text;
    assert!(!plan.contains("Until you tell the kitchen"));
    let wrong = put(&k, "/api/v1/kitchen", &json!({ "assumed": ["moon"] })).await;
    assert!(matches!(wrong.status, 400 | 422), "{}", wrong.status);
}
