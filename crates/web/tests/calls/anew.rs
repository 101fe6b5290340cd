//! The rest of a bake planned anew, as the page tells it and as the API does. The clock stands at 16:40.

use serde_json::{Value, json};

use super::{Answer, Kitchen, form, get, kitchen, post, put};

/// A lean loaf on a stone, at a setting of its own where one is told.
fn loaf(set_c: Option<f64>) -> Value {
    let mut formula = json!({
        "lines": [
            { "ingredient": "wheat-bread", "grams": 500 }, { "ingredient": "water", "grams": 340 },
            { "ingredient": "salt-fine", "grams": 10 }, { "ingredient": "yeast-instant", "grams": 3 }
        ],
        "pieces": { "count": 1, "shape": "batard", "vessel": "stone" }
    });
    if let Some(c) = set_c {
        formula["oven"] = json!({ "set_c": c });
    }
    formula
}

fn today(clock: &str) -> String {
    format!("2026-11-06T{clock}:00Z")
}

/// A bake with its events: kind and hour, with a reading of the dough where there is one.
async fn bake(k: &Kitchen, formula: Value, events: &[(&str, &str, Option<f64>)]) -> String {
    let begun = post(k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": formula })).await;
    assert_eq!(begun.status, 201, "{}", begun.text);
    let id = begun.json()["id"].as_str().unwrap().to_owned();
    for (kind, clock, value) in events {
        let mut event = json!({ "kind": kind, "at": today(clock) });
        if let Some(c) = value {
            (event["value"], event["stage"]) = (json!(c), json!("dough"));
        }
        let noted = post(k, &format!("/api/v1/bakes/{id}/events"), &event).await;
        assert_eq!(noted.status, 201, "{}", noted.text);
    }
    id
}

/// A household that is asleep or away from one hour to another, every day.
async fn with_hours(kind: &str, from: &str, to: &str) -> Kitchen {
    let k = kitchen();
    let mut house = get(&k, "/api/v1/kitchen").await.json();
    house["zone"] = json!("UTC");
    house["hours"] = json!([{ "name": kind, "kind": kind, "days": [0, 1, 2, 3, 4, 5, 6], "from": from, "to": to }]);
    let kept = put(&k, "/api/v1/kitchen", &house).await;
    assert_eq!(kept.status, 200, "{}", kept.text);
    k
}

async fn page(k: &Kitchen, id: &str) -> Answer {
    let page = get(k, &format!("/bakeday/{id}")).await;
    assert_eq!(page.status, 200);
    page
}

async fn told(k: &Kitchen, id: &str) -> Value {
    get(k, &format!("/api/v1/bakes/{id}")).await.json()["replan"].clone()
}

fn kinds(of: &Value) -> Vec<&str> {
    of.as_array().unwrap().iter().map(|c| c["kind"].as_str().unwrap()).collect()
}

#[actix_web::test]
async fn a_bake_that_goes_as_planned_says_nothing() {
    let k = kitchen();
    let id = bake(&k, loaf(None), &[]).await;
    assert!(told(&k, &id).await.is_null());
    assert!(!page(&k, &id).await.text.contains("id=\"anew\""));
}

#[actix_web::test]
async fn a_dough_nobody_is_there_for_goes_into_the_fridge() {
    let k = with_hours("asleep", "18:00", "23:30").await;
    let id = bake(&k, loaf(None), &[("mixed", "16:30", None)]).await;
    let anew = told(&k, &id).await;
    assert_eq!(anew["reasons"][0]["kind"], "nobody");
    assert_eq!(anew["reasons"][0]["act"], "shape");
    let way = &anew["options"][0];
    assert!(kinds(&way["changes"]).contains(&"fridge"), "{way}");
    assert_eq!(way["carry"]["place"], "fridge");
    assert!(way["shape_at"].as_str().unwrap() >= "2026-11-06T23:30", "{way}");
    let text = page(&k, &id).await.text;
    for words in ["nobody is there until", "Into the fridge", "Do this"] {
        assert!(text.contains(words), "{words}");
    }
}

#[actix_web::test]
async fn what_is_chosen_is_the_next_act_and_stands_in_the_log() {
    let k = with_hours("asleep", "18:00", "23:30").await;
    let id = bake(&k, loaf(None), &[("mixed", "16:30", None)]).await;
    let rest = told(&k, &id).await["options"][0]["rest"].to_string();
    let fields = [("kind", "replanned"), ("rest", rest.as_str()), ("key", "chosen-once")];
    for _ in 0..2 {
        assert_eq!(form(&k, &format!("/bakeday/{id}/events"), &fields).await.status, 303);
    }
    let after = get(&k, &format!("/api/v1/bakes/{id}")).await.json();
    let kept: Vec<&Value> = after["events"].as_array().unwrap().iter().filter(|e| e["kind"] == "replanned").collect();
    assert_eq!(kept.len(), 1, "a second tap counts once");
    assert_eq!(kept[0]["rest"].to_string(), rest, "the log keeps it whole");
    assert!(after["state"]["next"].as_array().unwrap().iter().any(|s| s["kind"] == "move" && s["place"] == "fridge"));
    let text = page(&k, &id).await.text;
    assert!(text.contains("Carry it over") && text.contains("The rest planned anew") && !text.contains("id=\"anew\""));
    // Carried there, the move is done; the table of places knows where it stands.
    form(&k, &format!("/bakeday/{id}/events"), &[("kind", "moved"), ("what", "fridge")]).await;
    let text = page(&k, &id).await.text;
    assert!(!text.contains("<h1>Carry it over") && text.contains("it stands here"));
    let calendar = get(&k, &format!("/api/v1/bakes/{id}/plan.ics")).await;
    assert!(calendar.status == 200 && calendar.text.contains("BEGIN:VEVENT"));
}

#[actix_web::test]
async fn a_loaf_that_is_over_is_told_as_another_bread() {
    let k = kitchen();
    let id = bake(&k, loaf(None), &[("mixed", "08:00", None), ("shaped", "10:30", None)]).await;
    let anew = told(&k, &id).await;
    assert!(anew["other_bread"] == true && kinds(&anew["reasons"]).contains(&"over"), "{anew}");
    let text = page(&k, &id).await.text;
    for words in ["past its best", "flat bread", "More yeast now helps nothing", "As another bread"] {
        assert!(text.contains(words), "{words}");
    }
    assert!(!text.contains("of its time"), "nobody weighs how ripe it is any more");
}

#[actix_web::test]
async fn an_oven_that_is_cold_is_told_once() {
    let k = kitchen();
    let id = bake(&k, loaf(None), &[("mixed", "13:00", None), ("shaped", "15:10", None)]).await;
    let anew = told(&k, &id).await;
    assert!(kinds(&anew["reasons"]).contains(&"oven-cold"), "{anew}");
    let text = page(&k, &id).await.text;
    assert!(text.contains("at the soonest: light it now.") && !text.contains("The oven will not be hot in time"));
}

#[actix_web::test]
async fn an_oven_another_bread_is_in_is_waited_for() {
    let k = kitchen();
    let cool = bake(&k, loaf(Some(180.0)), &[("mixed", "12:00", None), ("shaped", "14:30", None), ("loaded", "16:35", None)]).await;
    let hot = bake(&k, loaf(Some(230.0)), &[("mixed", "13:10", None), ("shaped", "15:30", None), ("oven-on", "15:40", None)]).await;
    let anew = told(&k, &hot).await;
    assert!(kinds(&anew["reasons"]).contains(&"oven-taken"), "{anew}");
    assert!(page(&k, &hot).await.text.contains("has the oven until"));
    // Once that is out, nothing is in the way.
    post(&k, &format!("/api/v1/bakes/{cool}/events"), &json!({ "kind": "out", "at": today("16:39") })).await;
    let after = told(&k, &hot).await;
    assert!(after.is_null() || !kinds(&after["reasons"]).contains(&"oven-taken"), "{after}");
}

#[actix_web::test]
async fn who_would_have_to_be_up_is_told_when() {
    let k = with_hours("asleep", "17:30", "07:00").await;
    let mut house = get(&k, "/api/v1/kitchen").await.json();
    for place in ["room_c", "pantry_c", "fridge_c"] {
        house["places"][place] = json!(26);
    }
    assert_eq!(put(&k, "/api/v1/kitchen", &house).await.status, 200);
    let id = bake(&k, loaf(None), &[("mixed", "16:30", None)]).await;
    let anew = told(&k, &id).await;
    assert_eq!(anew["options"].as_array().unwrap().len(), 1, "{anew}");
    assert!(kinds(&anew["options"][0]["changes"]).contains(&"out-of-hours"), "{anew}");
    let text = page(&k, &id).await.text;
    assert!(text.contains("and be there for it") && text.contains("in hours you gave as taken"), "{text}");
}

#[actix_web::test]
async fn who_works_on_the_dough_in_hours_away_is_at_home() {
    let k = with_hours("away", "16:00", "22:00").await;
    let at_home = bake(&k, loaf(None), &[("mixed", "16:30", None)]).await;
    assert!(!told(&k, &at_home).await["reasons"].to_string().contains("nobody"));
    let before = bake(&k, loaf(None), &[("mixed", "15:00", None)]).await;
    assert!(told(&k, &before).await["reasons"].to_string().contains("nobody"), "nothing was noted since four");
}

#[actix_web::test]
async fn signs_seen_move_the_rest_and_narrow_it() {
    let k = kitchen();
    let proof = async |kind: Option<&str>| {
        let id = bake(&k, loaf(None), &[("mixed", "14:40", None)]).await;
        if let Some(kind) = kind {
            let event = json!({ "kind": kind, "stage": "bulk", "at": today("16:00") });
            assert_eq!(post(&k, &format!("/api/v1/bakes/{id}/events"), &event).await.status, 201);
        }
        post(&k, &format!("/api/v1/bakes/{id}/events"), &json!({ "kind": "shaped", "at": today("16:05") })).await;
        let state = get(&k, &format!("/api/v1/bakes/{id}")).await.json()["state"].clone();
        let at = |name: &str| state[name].as_str().unwrap().parse::<jiff::Timestamp>().unwrap().as_second();
        (at("ready_at"), at("ready_high") - at("ready_low"))
    };
    let (untold, ripe, over) = (proof(None).await, proof(Some("ripe")).await, proof(Some("over")).await);
    assert!(ripe.0 < untold.0 && over.0 < ripe.0, "ripe after eighty minutes is quick, past ripe quicker: {untold:?} {ripe:?} {over:?}");
    assert!(ripe.1 < untold.1, "and what follows is surer");
}
