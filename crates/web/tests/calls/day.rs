//! Plan, bake day, oven and logbook as a browser without script goes through them.

use super::{Answer, Kitchen, form, get, kitchen, lean, post};

async fn kept(k: &Kitchen) -> String {
    let a = post(k, "/api/v1/formulas", &serde_json::json!({ "formula": lean() })).await;
    if a.status == 201 {
        return a.json()["id"].as_str().unwrap().to_owned();
    }
    let saved = form(
        k,
        "/formula",
        &[
            ("name", "Harbour loaf"),
            ("lines[0][ingredient]", "Bread flour"),
            ("lines[0][grams]", "500"),
            ("lines[1][ingredient]", "Water"),
            ("lines[1][grams]", "340"),
            ("lines[2][ingredient]", "Fine salt"),
            ("lines[2][grams]", "10"),
            ("lines[3][ingredient]", "Instant yeast"),
            ("lines[3][grams]", "3"),
            ("do", "save"),
        ],
    )
    .await;
    saved.header("location").unwrap().trim_start_matches("/formula/").to_owned()
}

async fn begun(k: &Kitchen) -> String {
    let formula = kept(k).await;
    let a = form(k, "/plan/by-hand/use", &[("formula", &formula)]).await;
    assert_eq!(a.status, 303, "{}", a.text);
    a.bake()
}

async fn act(k: &Kitchen, bake: &str, fields: &[(&str, &str)]) -> Answer {
    form(k, &format!("/bakeday/{bake}/events"), fields).await
}

#[actix_web::test]
async fn a_plan_shows_its_acts_its_water_and_its_oven() {
    let k = kitchen();
    let id = kept(&k).await;
    let a = get(&k, &format!("/plan/by-hand?formula={id}")).await;
    assert_eq!(a.status, 200);
    for words in
        ["Weigh and mix", "Knead", "First rise", "Divide and shape", "Load", "Water for the mix", "Sign to look for", "Start this bake"]
    {
        assert!(a.text.contains(words), "{words}");
    }
}

#[actix_web::test]
async fn a_plan_in_the_fridge_is_another_plan() {
    let k = kitchen();
    let id = kept(&k).await;
    let room = get(&k, &format!("/plan/by-hand?formula={id}")).await;
    let fridge = get(&k, &format!("/plan/by-hand?formula={id}&p[proof_place]=fridge")).await;
    assert_eq!(fridge.status, 200);
    let headline = |a: &Answer| a.text.split_once("<h1>").unwrap().1.split("</h1>").next().unwrap().to_owned();
    assert_ne!(headline(&room), headline(&fridge));
}

#[actix_web::test]
async fn figures_no_kitchen_has_stay_in_their_fields() {
    let k = kitchen();
    let id = kept(&k).await;
    for (name, typed) in [("tap_c", "900"), ("room_c", "-200"), ("flour_c", "warm"), ("mix_c", "99")] {
        let a = get(&k, &format!("/plan/by-hand?formula={id}&p[{name}]={typed}")).await;
        assert!(a.status < 500, "{name}");
        assert!(!a.text.contains("panicked"), "{name}");
        if a.text.contains(&format!("name=\"p[{name}]\"")) {
            assert!(a.text.contains(&format!("value=\"{typed}\"")), "{name} lost what was typed");
            assert!(a.text.contains("class=\"wrong\""), "{name}");
        }
    }
}

#[actix_web::test]
async fn lines_are_ticked_and_the_bowl_fills() {
    let k = kitchen();
    let bake = begun(&k).await;
    let page = get(&k, &format!("/bakeday/{bake}")).await;
    assert!(page.text.contains("Weigh out"));
    let a = act(&k, &bake, &[("kind", "weighed"), ("line", "0:500.0")]).await;
    assert_eq!(a.status, 303, "{}", a.text);
    let page = get(&k, &format!("/bakeday/{bake}")).await;
    assert_eq!(page.text.matches("class=\"done").count(), 1, "one line is ticked");
}

#[actix_web::test]
async fn a_tick_taken_back_is_open_again() {
    let k = kitchen();
    let bake = begun(&k).await;
    act(&k, &bake, &[("kind", "weighed"), ("line", "0:500.0")]).await;
    act(&k, &bake, &[("kind", "undo"), ("value", "1")]).await;
    let page = get(&k, &format!("/bakeday/{bake}")).await;
    assert_eq!(page.text.matches("class=\"done").count(), 0);
    assert!(page.text.contains("taken back"));
}

#[actix_web::test]
async fn acts_follow_each_other_to_the_end() {
    let k = kitchen();
    let bake = begun(&k).await;
    let mut seen = Vec::new();
    for _ in 0..30 {
        let page = get(&k, &format!("/bakeday/{bake}")).await;
        assert_eq!(page.status, 200);
        let Some((bar, _)) = page.text.split_once("data-key=\"main\"") else { break };
        let kind = bar.rsplit_once("name=\"kind\" value=\"").unwrap().1.split('"').next().unwrap().to_owned();
        let value = bar.rsplit_once("name=\"value\" value=\"").unwrap().1.split('"').next().unwrap().to_owned();
        let what = bar.rsplit_once("name=\"what\" value=\"").map(|b| b.1.split('"').next().unwrap().to_owned()).unwrap_or_default();
        let what = if kind == "note" { what } else { String::new() };
        let a = act(&k, &bake, &[("kind", &kind), ("value", &value), ("what", &what)]).await;
        assert_eq!(a.status, 303, "{kind} {what}: {}", a.text);
        seen.push(kind);
    }
    let order: Vec<usize> = ["mixed", "shaped", "loaded", "out", "sliced"]
        .iter()
        .map(|w| seen.iter().position(|s| s == w).unwrap_or_else(|| panic!("{w} not in {seen:?}")))
        .collect();
    assert!(order.windows(2).all(|w| w[0] < w[1]), "{seen:?}");
    let page = get(&k, &format!("/bakeday/{bake}")).await;
    assert!(page.text.contains("It is done") && page.text.contains("How it came out"));
}

#[actix_web::test]
async fn what_was_noted_stands_in_the_logbook() {
    let k = kitchen();
    let bake = begun(&k).await;
    act(&k, &bake, &[("kind", "mixed")]).await;
    act(&k, &bake, &[("kind", "temperature"), ("stage", "dough"), ("other", "24,5")]).await;
    act(&k, &bake, &[("kind", "note"), ("note", "Flour from the new sack")]).await;
    let list = get(&k, "/logbook").await;
    assert!(list.text.contains("Harbour loaf") && list.text.contains("still going"));
    let one = get(&k, &format!("/logbook/{bake}")).await;
    for words in ["24.5", "Flour from the new sack", "not noted"] {
        assert!(one.text.contains(words), "{words}");
    }
}

#[actix_web::test]
async fn nonsense_on_bake_day_is_told_and_kept_in_its_field() {
    let k = kitchen();
    let bake = begun(&k).await;
    for fields in [
        vec![("kind", "temperature"), ("stage", "dough"), ("other", "warmish")],
        vec![("kind", "temperature"), ("stage", "dough"), ("other", "9000")],
        vec![("kind", "dropped")],
        vec![("kind", "note"), ("note", "  ")],
        vec![("kind", "rating"), ("value", "11")],
        vec![("kind", "moved"), ("what", "moon")],
        vec![],
    ] {
        let a = act(&k, &bake, &fields).await;
        assert!((400..500).contains(&a.status), "{fields:?}: {}", a.status);
        assert!(a.text.contains("class=\"wrong\"") || a.kind.contains("json"), "{fields:?}");
        if let Some((_, typed)) = fields.iter().find(|f| f.0 == "other") {
            assert!(a.text.contains(&format!("value=\"{typed}\" aria-invalid")), "what was typed stays: {typed}");
            assert_eq!(a.text.matches("class=\"wrong\"").count(), 1, "told once: {typed}");
        }
    }
    assert!(get(&k, &format!("/bakeday/{bake}")).await.text.contains("Nothing yet."), "nothing wrong was kept");
}

#[actix_web::test]
async fn a_second_tap_of_the_same_button_counts_once() {
    let k = kitchen();
    let bake = begun(&k).await;
    for _ in 0..3 {
        act(&k, &bake, &[("kind", "mixed"), ("key", "tap-1")]).await;
    }
    let whole = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    assert_eq!(whole["events"].as_array().unwrap().len(), 1);
}

#[actix_web::test]
async fn the_oven_page_answers_for_other_sizes_and_keeps_what_is_wrong() {
    let k = kitchen();
    let id = kept(&k).await;
    let minutes = |a: &Answer| {
        let (_, rest) = a.text.split_once("num num-l\">").unwrap();
        rest.chars().take_while(char::is_ascii_digit).collect::<String>().parse::<u32>().unwrap()
    };
    let small = get(&k, &format!("/oven?formula={id}&p[pieces]=10&p[piece_g]=80")).await;
    let big = get(&k, &format!("/oven?formula={id}&p[pieces]=1&p[piece_g]=1200")).await;
    assert!(minutes(&small) < minutes(&big));
    for (name, typed) in [("piece_g", "huge"), ("piece_g", "-5"), ("pieces", "0"), ("set_c", "20"), ("set_c", "hot")] {
        let a = get(&k, &format!("/oven?formula={id}&p[{name}]={typed}")).await;
        assert_eq!(a.status, 422, "{name} {typed}");
        assert!(a.text.contains(&format!("value=\"{typed}\"")) && a.text.contains("class=\"wrong\""), "{name} {typed}");
    }
}

#[actix_web::test]
async fn today_knows_what_is_rising() {
    let k = kitchen();
    assert!(get(&k, "/").await.text.contains("Three things first"));
    let bake = begun(&k).await;
    let page = get(&k, "/").await;
    assert!(page.text.contains(&format!("/bakeday/{bake}")) && page.text.contains("Harbour loaf"));
}

#[actix_web::test]
async fn what_was_held_back_is_asked_for_once_and_stands_in_the_logbook() {
    let k = kitchen();
    let mut held = lean();
    held["hold"] = serde_json::json!({ "ingredient": "water", "grams": 40 });
    let id = post(&k, "/api/v1/formulas", &serde_json::json!({ "formula": held })).await.json()["id"].as_str().unwrap().to_owned();
    let sheet = get(&k, &format!("/formula/{id}")).await.text;
    assert!(sheet.contains(r#"name="hold[grams]" value="40""#));
    let begun = form(&k, "/plan/by-hand/use", &[("formula", &id)]).await;
    let bake = begun.bake();
    let page = get(&k, &format!("/bakeday/{bake}")).await.text;
    assert!(page.contains("300 g") && page.contains("40 g held back"), "it is weighed without what is held back");
    assert!(page.contains("Of the 40 g water held back, what went in?"));
    act(&k, &bake, &[("kind", "mixed")]).await;
    let told = act(&k, &bake, &[("kind", "weighed"), ("what", "held-back"), ("line", "1"), ("value", "20.0")]).await;
    assert_eq!(told.status, 303);
    assert!(!get(&k, &format!("/bakeday/{bake}")).await.text.contains("what went in?"));
    let one = get(&k, &format!("/logbook/{bake}")).await.text;
    assert!(one.contains("20 of 40 g water went in: water 64 % of the flour"), "320 g on 500 g");
}

#[actix_web::test]
async fn an_oven_not_lit_in_time_is_told_on_the_day_and_by_call() {
    let k = kitchen();
    let bake = begun(&k).await;
    let late = |minutes: i64| {
        let at = k.state.clock.now() - jiff::SignedDuration::from_mins(minutes);
        at.to_string()
    };
    for (kind, minutes) in [("mixed", 400), ("shaped", 180)] {
        let a = post(&k, &format!("/api/v1/bakes/{bake}/events"), &serde_json::json!({ "kind": kind, "at": late(minutes) })).await;
        assert_eq!(a.status, 201, "{}", a.text);
    }
    let state = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    assert_eq!(state["state"]["findings"][0]["id"], "preheat-late", "{}", state["state"]);
    assert!(get(&k, &format!("/bakeday/{bake}")).await.text.contains("at the soonest: light it now."), "told once, with its ways");
    let lit =
        post(&k, &format!("/api/v1/bakes/{bake}/events"), &serde_json::json!({ "kind": "oven-on", "value": 230, "at": late(70) })).await;
    assert_eq!(lit.status, 201, "{}", lit.text);
    let state = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    assert_eq!(state["state"]["findings"], serde_json::json!([]));
    for (kind, minutes) in [("loaded", 60), ("out", 20), ("sliced", 10)] {
        post(&k, &format!("/api/v1/bakes/{bake}/events"), &serde_json::json!({ "kind": kind, "at": late(minutes) })).await;
    }
    let state = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    assert_eq!(state["state"]["findings"][0]["id"], "slice-early", "cut after ten minutes");
}

#[actix_web::test]
async fn a_leaven_fed_too_late_is_told_on_the_plan_with_a_later_start() {
    let k = kitchen();
    let leaven = serde_json::json!({ "name": "Leaven loaf", "lines": [
        { "ingredient": "wheat-bread", "grams": 450 }, { "ingredient": "water", "grams": 300 },
        { "ingredient": "leaven-wheat", "grams": 100 }, { "ingredient": "salt-fine", "grams": 10 } ] });
    let id = post(&k, "/api/v1/formulas", &serde_json::json!({ "formula": leaven })).await.json()["id"].as_str().unwrap().to_owned();
    let page = get(&k, &format!("/plan/by-hand?formula={id}")).await.text;
    assert!(page.contains("Fed, before the mix") && !page.contains("Too young"), "nothing told, nothing said");
    let young = get(&k, &format!("/plan/by-hand?formula={id}&p[fed_h]=2")).await;
    assert!(young.status == 200 && young.text.contains("Too young") && young.text.contains("p%5Bstart%5D="));
    assert!(get(&k, &format!("/plan/by-hand?formula={id}&p[fed_h]=48")).await.text.contains("Past its peak"));
    let wrong = get(&k, &format!("/plan/by-hand?formula={id}&p[fed_h]=500&p[fed_parts]=lots")).await;
    assert!(wrong.status == 422 && wrong.text.contains("A leaven is fed between 0 and 96 hours") && wrong.text.contains(r#"value="lots""#));
    let plain = kept(&k).await;
    assert!(!get(&k, &format!("/plan/by-hand?formula={plain}")).await.text.contains("Fed, before the mix"), "no leaven, no question");
}

#[actix_web::test]
async fn an_oven_hotter_on_one_side_is_told_once_and_reckoned_with() {
    let k = kitchen();
    let told = super::put(&k, "/api/v1/kitchen", &serde_json::json!({ "oven": { "hot_k": 25, "fan": false } })).await;
    assert_eq!(told.json()["oven"]["hot_k"], 25.0);
    let plait = serde_json::json!({ "piece_g": 700, "shape": "braid", "glaze": "egg", "sugar_pct": 15, "egg_pct": 15, "set_c": 180 });
    let a = post(&k, "/api/v1/oven", &plait).await.json();
    assert!(a["sides"]["cool"].as_f64().unwrap() < a["sides"]["hot"].as_f64().unwrap());
    assert!(a["findings"].as_array().unwrap().iter().any(|f| f["id"] == "sides-differ"));
    super::put(&k, "/api/v1/kitchen", &serde_json::json!({ "oven": { "fan": false } })).await;
    assert!(post(&k, "/api/v1/oven", &plait).await.json()["sides"].is_null());
}

#[actix_web::test]
async fn a_plan_that_never_gets_ripe_stops_and_offers_the_room() {
    let k = kitchen();
    let places = serde_json::json!({ "places": { "room_c": 20, "pantry_c": 14, "fridge_c": -2 } });
    assert_eq!(super::put(&k, "/api/v1/kitchen", &places).await.status, 200);
    // Half of the places is refused: what is not told would be gone.
    let half = serde_json::json!({ "places": { "room_c": 20 } });
    assert!((400..500).contains(&super::put(&k, "/api/v1/kitchen", &half).await.status));
    let none = serde_json::json!({ "places": { "room_c": 20, "pantry_c": null, "fridge_c": -2 } });
    assert!(super::put(&k, "/api/v1/kitchen", &none).await.json()["places"]["pantry_c"].is_null());
    let id = kept(&k).await;
    let frozen = get(&k, &format!("/plan/by-hand?formula={id}&p[bulk_place]=fridge&p[mix_c]=10")).await.text;
    assert!(frozen.contains("No plan fits") && frozen.contains("p%5Bbulk_place%5D=room"), "the room is one tap away");
    assert!(frozen.contains("disabled>Start this bake"), "nothing starts before it is answered");
    assert!(get(&k, &format!("/plan/by-hand?formula={id}")).await.text.contains(r#"btn-act">Start this bake"#));
}

/// A bake with a dough two degrees colder than planned: it is late.
async fn late() -> (Kitchen, String) {
    let k = kitchen();
    let bake = begun(&k).await;
    act(&k, &bake, &[("kind", "mixed")]).await;
    act(&k, &bake, &[("kind", "temperature"), ("stage", "dough"), ("value", "15")]).await;
    (k, bake)
}

#[actix_web::test]
async fn a_late_dough_is_told_its_ways_and_one_is_chosen_with_a_tap() {
    let (k, bake) = late().await;
    let page = get(&k, &format!("/bakeday/{bake}")).await;
    assert!(page.text.contains("later than planned.") && page.text.contains("href=\"#anew\""), "{}", page.text);
    let told = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    let anew = &told["replan"];
    assert_eq!(anew["reasons"][0]["kind"], "off");
    let option = &anew["options"][0];
    let rest = option["rest"].to_string();
    let chosen = act(&k, &bake, &[("kind", "replanned"), ("rest", &rest)]).await;
    assert_eq!(chosen.status, 303, "{}", chosen.text);
    let after = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    assert!(after["replan"].is_null(), "nothing left to say: {}", after["replan"]);
    let load = |v: &serde_json::Value| {
        let next = v["state"]["next"].as_array().unwrap();
        next.iter().find(|s| s["kind"] == "load").unwrap()["start"].as_str().unwrap().parse::<jiff::Timestamp>().unwrap()
    };
    let wanted: jiff::Timestamp = option["load_at"].as_str().unwrap().parse().unwrap();
    assert!((load(&after).as_second() - wanted.as_second()).abs() <= 120);
    // Taken back, all is as before.
    let seq = after["state"]["seq"].to_string();
    act(&k, &bake, &[("kind", "undo"), ("value", &seq)]).await;
    assert_eq!(load(&get(&k, &format!("/api/v1/bakes/{bake}")).await.json()), load(&told));
}

#[actix_web::test]
async fn a_rest_that_is_none_is_refused_at_its_field() {
    let (k, bake) = late().await;
    let events = format!("/api/v1/bakes/{bake}/events");
    let good = get(&k, &format!("/api/v1/bakes/{bake}")).await.json()["replan"]["options"][0]["rest"].clone();
    let mut cold = good.clone();
    cold["proof"]["stands"][0]["place_c"] = serde_json::json!(400);
    let mut empty = good.clone();
    empty["proof"]["stands"] = serde_json::json!([]);
    for (rest, pointer) in [(cold, "/rest/proof/stands/0/place_c"), (empty, "/rest/proof/stands"), (serde_json::Value::Null, "/rest")] {
        let a = post(&k, &events, &serde_json::json!({ "kind": "replanned", "at": "2026-11-06T16:40:00Z", "rest": rest })).await;
        assert_eq!(a.status, 422, "{}", a.text);
        assert!(a.text.contains(&format!("\"{pointer}\"")), "{}", a.text);
    }
    let a = post(&k, &events, &serde_json::json!({ "kind": "mixed", "at": "2026-11-06T16:40:00Z", "rest": good })).await;
    assert!(a.status == 422 && a.text.contains("\"/rest\""), "{}", a.text);
    let nonsense = act(&k, &bake, &[("kind", "replanned"), ("rest", "{")]).await;
    assert!(nonsense.status == 422 && nonsense.text.contains("laid anew"), "{}", nonsense.text);
}
