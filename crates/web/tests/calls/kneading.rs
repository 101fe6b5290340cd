//! Kneading from outside: chosen on its page, kept with the bread, told alike by page, plan, water and call; done on the day.

use serde_json::{Value, json};

use super::{Answer, Kitchen, form, get, kitchen, lean, post, put};

/// A rich dough, so that butter may go in early or late.
fn rich() -> Value {
    let line = |id: &str, grams: f64| json!({ "ingredient": id, "grams": grams });
    json!({ "name": "Pier buns", "lines": [
        line("wheat-bread", 500.0), line("milk-whole", 280.0), line("butter-unsalted", 60.0), line("sugar-white", 40.0),
        line("salt-fine", 9.0), line("yeast-instant", 6.0),
    ] })
}

async fn kept(k: &Kitchen, formula: Value) -> String {
    let a = post(k, "/api/v1/formulas", &json!({ "formula": formula })).await;
    assert_eq!(a.status, 201, "{}", a.text);
    a.json()["id"].as_str().unwrap().to_owned()
}

async fn formula(k: &Kitchen, id: &str) -> Value {
    get(k, &format!("/api/v1/formulas/{id}")).await.json()["formula"].clone()
}

fn value(a: &Answer, field: &str) -> String {
    let (_, rest) = a.text.split_once(&format!("name=\"{field}\"")).unwrap_or_else(|| panic!("{field} is not there"));
    rest.split_once("value=\"").unwrap().1.split('"').next().unwrap().to_owned()
}

fn headline(a: &Answer) -> String {
    a.text.split_once("<h1 id=\"knead-h\">").unwrap().1.split('<').next().unwrap().to_owned()
}

#[actix_web::test]
async fn a_way_is_looked_at_and_kept() {
    let k = kitchen();
    let id = kept(&k, rich()).await;
    let page = get(&k, &format!("/formula/{id}/kneading")).await;
    assert_eq!(page.status, 200);
    assert!(headline(&page).ends_with("min by hand"), "{}", headline(&page));
    assert!(!page.text.contains("value=\"planetary-medium\""), "no machine this kitchen does not have");
    // Looking keeps nothing.
    let late = get(&k, &format!("/formula/{id}/kneading?way=long-rest&was=hand&butter=late&minutes=30")).await;
    assert_eq!(
        (late.status, value(&late, "rest_min").as_str(), value(&late, "minutes").as_str()),
        (200, "60", ""),
        "another way's minutes"
    );
    assert!(late.text.contains("Butter in, in 2 pieces"));
    assert!(formula(&k, &id).await.get("kneading").is_none());
    let kept =
        form(&k, &format!("/formula/{id}/kneading"), &[("way", "hand"), ("was", "hand"), ("rest_min", "25"), ("butter", "late")]).await;
    assert_eq!((kept.status, kept.header("location")), (303, Some(format!("/formula/{id}").as_str())));
    assert_eq!(formula(&k, &id).await["kneading"], json!({ "method": "hand", "rest_min": 25.0, "butter_late": true }));
    let sheet = get(&k, &format!("/formula/{id}")).await;
    assert!(sheet.text.contains("after a soak of 25 min"));
    // The sheet carries it through a save.
    let told = sheet.text.split("name=\"told\" value=\"").nth(1).unwrap().split('"').next().unwrap().replace("&#34;", "\"");
    assert!(told.contains("\"kneading\""), "{told}");
}

#[actix_web::test]
async fn what_no_kneading_is_stays_in_its_field_and_the_way_of_nobody_is_told() {
    let k = kitchen();
    let id = kept(&k, lean()).await;
    for (field, typed, words) in [
        ("minutes", "900", "Kneading lasts between 0 and 60 minutes."),
        ("rest_min", "an hour", "is not a number"),
        ("folds", "2.5", "Folds: 0 to 8."),
    ] {
        for a in [
            get(&k, &format!("/formula/{id}/kneading?way=hand&was=hand&{field}={}", typed.replace(' ', "%20"))).await,
            form(&k, &format!("/formula/{id}/kneading"), &[("way", "hand"), ("was", "hand"), (field, typed)]).await,
        ] {
            assert_eq!(a.status, 422, "{field}");
            assert!(a.text.contains(words) && value(&a, field) == typed, "{field}");
        }
    }
    // What cannot be read and what cannot be are told at once.
    let both = get(&k, &format!("/formula/{id}/kneading?way=hand&was=hand&minutes=soon&rest_min=-3")).await;
    assert!(both.text.contains("“soon” is not a number") && both.text.contains("A rest lasts between 0 and 720 minutes."));
    let nobody = get(&k, &format!("/formula/{id}/kneading?way=wishing")).await;
    assert!(nobody.status == 422 && nobody.text.contains("is no way of kneading"), "{}", nobody.status);
    assert_eq!(get(&k, "/formula/nothing/kneading").await.status, 404);
}

#[actix_web::test]
async fn every_style_has_its_page() {
    let k = kitchen();
    let dough = |flour: &str, water: f64, rest: &[(&str, f64)]| {
        let mut lines = vec![json!({ "ingredient": flour, "grams": 500.0 }), json!({ "ingredient": "water", "grams": water })];
        lines.extend(rest.iter().map(|(id, g)| json!({ "ingredient": id, "grams": g })));
        json!({ "lines": lines })
    };
    for (formula, words) in [
        (dough("rye-dark", 400.0, &[("salt-fine", 9.0), ("leaven-rye", 150.0)]), "mixed, not kneaded"),
        (dough("wheat-bread", 360.0, &[("salt-fine", 10.0), ("leaven-wheat", 100.0)]), "not kneaded, "),
        (
            dough("wheat-bread", 200.0, &[("egg-whole", 100.0), ("butter-unsalted", 220.0), ("salt-fine", 9.0), ("yeast-instant", 8.0)]),
            "min by hand",
        ),
        (dough("wheat-whole", 390.0, &[("salt-fine", 10.0), ("yeast-instant", 4.0)]), "min by hand"),
    ] {
        let id = kept(&k, formula).await;
        let a = get(&k, &format!("/formula/{id}/kneading")).await;
        assert!(a.status == 200 && headline(&a).contains(words), "{words}: {}", headline(&a));
        assert!(!a.text.contains("NaN") && !a.text.contains("inf"), "{words}");
    }
}

/// One figure, one source: the minutes of page, plan and call, and the water of plan and page.
#[actix_web::test]
async fn page_plan_and_call_tell_the_same_minutes() {
    let k = kitchen();
    put(&k, "/api/v1/kitchen", &json!({ "mixer": "planetary-medium", "mixer_size": "large" })).await;
    let id = kept(&k, rich()).await;
    let a = post(&k, "/api/v1/plan", &json!({ "formula": rich(), "ready_at": "2026-11-07T18:00:00Z" })).await;
    assert_eq!(a.status, 200, "{}", a.text);
    let option = &a.json()["options"][0];
    let steps = option["steps"].as_array().unwrap();
    let knead = steps.iter().find(|s| s["kind"] == "knead").unwrap_or_else(|| panic!("{steps:?}"));
    let minutes = |s: &Value| {
        let at = |name: &str| s[name].as_str().unwrap().parse::<jiff::Timestamp>().unwrap();
        (at("end").as_second() - at("start").as_second()) / 60
    };
    let page = get(&k, &format!("/formula/{id}/kneading")).await;
    let told: f64 = headline(&page).split(": ").nth(1).unwrap().split(' ').next().unwrap().replace('½', ".5").parse().unwrap();
    // The butter goes in between two kneadings.
    let planned: i64 = steps.iter().filter(|s| s["kind"] == "knead").map(minutes).sum();
    #[allow(clippy::cast_precision_loss, reason = "minutes")]
    let off = (planned as f64 - told).abs();
    assert!(off <= 1.0, "{planned} {told}");
    assert!(knead["instruction"].as_str().unwrap().contains("Never reach into the moving bowl"), "{knead}");
    let hands: f64 = knead["hands_on_min"].as_f64().unwrap();
    #[allow(clippy::cast_precision_loss, reason = "minutes")]
    let alone = minutes(knead) as f64 - hands;
    assert!(alone > 0.0, "the machine works alone");
    // The bowl ends where the first rise begins.
    let bulk = steps.iter().find(|s| s["kind"] == "bulk").unwrap();
    let last = steps.iter().rfind(|s| ["mix", "soak", "knead", "butter"].contains(&s["kind"].as_str().unwrap())).unwrap();
    assert_eq!(last["end"], bulk["start"]);
}

async fn act(k: &Kitchen, bake: &str, fields: &[(&str, &str)]) -> Answer {
    let a = form(k, &format!("/bakeday/{bake}/events"), fields).await;
    assert_eq!(a.status, 303, "{}", a.text);
    a
}

#[actix_web::test]
async fn on_the_day_the_bowl_is_walked_act_by_act() {
    let k = kitchen();
    let formula_id = kept(&k, lean()).await;
    let bake = form(&k, "/plan/by-hand/use", &[("formula", &formula_id)]).await.bake();
    let page = async || get(&k, &format!("/bakeday/{bake}")).await.text;
    assert!(page().await.contains("Weigh out: tick each line"));
    act(&k, &bake, &[("kind", "note"), ("what", "mix")]).await;
    let kneading = page().await;
    assert!(kneading.contains("class=\"clock runs\"") && kneading.contains("the sign at"), "its time runs");
    assert!(!kneading.contains("Weigh out: tick each line"), "it is in the bowl");
    act(&k, &bake, &[("kind", "window"), ("what", "tears")]).await;
    assert!(page().await.contains("Tears: about"));
    // By feel: the water, the weight and the log follow; taken back it is as it was.
    let state = async || get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    act(&k, &bake, &[("kind", "added"), ("line", "water:10")]).await;
    act(&k, &bake, &[("kind", "added"), ("line", "water:10")]).await;
    assert!(page().await.contains("20 g of water so far. Water 72 %, was 68 %."), "{}", page().await);
    let seq = state().await["state"]["seq"].to_string();
    act(&k, &bake, &[("kind", "undo"), ("value", &seq)]).await;
    assert!(page().await.contains("10 g of water so far. Water 70 %, was 68 %."));
    // The last act leaves the dough to rise, and its warmth is asked until a thermometer has told.
    act(&k, &bake, &[("kind", "mixed")]).await;
    let mixed = page().await;
    assert!(mixed.contains("How warm is it?") && !mixed.contains("class=\"clock runs\""));
    act(&k, &bake, &[("kind", "temperature"), ("stage", "dough"), ("value", "26")]).await;
    assert!(!page().await.contains("How warm is it?") && !page().await.contains("too warm for it"));
    act(&k, &bake, &[("kind", "temperature"), ("stage", "dough"), ("value", "31")]).await;
    assert!(page().await.contains("31° is too warm for it: ") && page().await.contains("in the fridge, or a shorter first rise"));
    let log = get(&k, &format!("/logbook/{bake}")).await.text;
    for words in ["A window pulled: tears", "10 g more, water", "Left to rise"] {
        assert!(log.contains(words), "{words}");
    }
    for wrong in [json!({ "kind": "added", "what": "milk", "value": 10 }), json!({ "kind": "window", "what": "wide" })] {
        assert_eq!(post(&k, &format!("/api/v1/bakes/{bake}/events"), &wrong).await.status, 422, "{wrong}");
    }
}

/// A late start moves the whole bowl: what is left to do there still takes its minutes.
#[actix_web::test]
async fn what_is_over_at_the_bowl_moves_what_is_left() {
    let k = kitchen();
    let formula_id = kept(&k, lean()).await;
    let bake = form(&k, "/plan/by-hand/use", &[("formula", &formula_id)]).await.bake();
    let shape = async || {
        let told = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
        let next = told["state"]["next"].as_array().unwrap().clone();
        next.iter().find(|s| s["kind"] == "shape").unwrap()["start"].as_str().unwrap().parse::<jiff::Timestamp>().unwrap()
    };
    let planned = shape().await;
    act(&k, &bake, &[("kind", "note"), ("what", "mix")]).await;
    let sooner = planned.as_second() - shape().await.as_second();
    assert!((15 * 60..=25 * 60).contains(&sooner), "mixed twenty minutes before its hour: {sooner}");
}

/// Kneaded, the butter in, kneaded again: each stands in the logbook at its own time.
#[actix_web::test]
async fn two_kneadings_are_two_rows_of_the_logbook() {
    let k = kitchen();
    let id = kept(&k, rich()).await;
    let bake = form(&k, "/plan/by-hand/use", &[("formula", &id)]).await.bake();
    let rows = async || {
        let page = get(&k, &format!("/logbook/{bake}")).await.text;
        let (bowl, _) = page.split_once("Divide and shape").unwrap();
        (bowl.matches("#g-knead").count(), bowl.matches("not noted").count())
    };
    assert_eq!(rows().await, (2, 4));
    for (done, left) in [("mix", 3), ("knead", 2), ("butter", 1)] {
        act(&k, &bake, &[("kind", "note"), ("what", done)]).await;
        assert_eq!(rows().await, (2, left), "{done}");
    }
    act(&k, &bake, &[("kind", "mixed")]).await;
    assert_eq!(rows().await, (2, 0));
}

/// The recipe's own words, at their act wherever the plan goes.
#[actix_web::test]
async fn the_recipes_words_stand_at_their_act_on_page_sheet_call_and_file() {
    let k = kitchen();
    let mut told = lean();
    told["steps"] = json!([{ "text": "Knead till your arms ache.", "act": "knead" }, { "text": "Rise till doubled.", "act": "rise" }]);
    let id = kept(&k, told.clone()).await;
    let own = |words: &str| format!("<q class=\"own\">{words}</q>");
    let (knead, rise) = (own("Knead till your arms ache."), own("Rise till doubled."));
    let page = get(&k, &format!("/formula/{id}/kneading")).await.text;
    assert!(page.contains(&knead) && !page.contains(&rise), "of kneading alone");
    let ready = "p[ready]=2026-11-08T12:30";
    for path in [format!("/plan?formula={id}&{ready}"), format!("/plan/by-hand?formula={id}"), format!("/plan/sheet?formula={id}&{ready}")]
    {
        let page = get(&k, &path).await.text;
        assert!(page.contains(&knead) && page.contains(&rise), "{path}");
    }
    let a = post(&k, "/api/v1/plan", &json!({ "formula": told, "ready_at": "2026-11-08T12:30:00Z" })).await.json();
    let words = |kind: &str| a["options"][0]["steps"].as_array().unwrap().iter().find(|s| s["kind"] == kind).unwrap()["words"].clone();
    assert_eq!((words("knead"), words("bulk")), (json!(["Knead till your arms ache."]), json!(["Rise till doubled."])));
    let bake = form(&k, "/plan/by-hand/use", &[("formula", &id)]).await.bake();
    act(&k, &bake, &[("kind", "note"), ("what", "mix")]).await;
    assert!(get(&k, &format!("/bakeday/{bake}")).await.text.contains(&knead));
    for (ending, mark) in
        [("ics", "Knead till your arms ache."), ("md", "“Knead till your arms ache.”"), ("json", "Knead till your arms ache.")]
    {
        let file = get(&k, &format!("/api/v1/bakes/{bake}/plan.{ending}")).await;
        let text = file.text.replace("\r\n ", "").replace("\\,", ",");
        assert!(file.status == 200 && text.contains(mark), "{ending}: {}", file.status);
    }
}

/// A window teaches how fast this household kneads; taken back it has taught nothing.
#[actix_web::test]
async fn a_window_teaches_and_taken_back_it_does_not() {
    let k = kitchen();
    let id = kept(&k, lean()).await;
    let bake = form(&k, "/plan/by-hand/use", &[("formula", &id)]).await.bake();
    let page = async || get(&k, &format!("/formula/{id}/kneading")).await;
    let note = async |event: Value| {
        let a = post(&k, &format!("/api/v1/bakes/{bake}/events"), &event).await;
        assert_eq!(a.status, 201, "{}", a.text);
        a.json()["seq"].as_i64().unwrap()
    };
    let before = headline(&page().await);
    note(json!({ "kind": "note", "what": "mix", "at": "2026-11-06T16:10:00Z" })).await;
    let seq = note(json!({ "kind": "window", "what": "tears", "at": "2026-11-06T16:25:00Z" })).await;
    let taught = page().await;
    assert!(taught.text.contains("your kneading goes 0.") && taught.text.contains("times as fast as the book"));
    assert_ne!(headline(&taught), before, "so it is kneaded longer");
    // Told anew, a kitchen keeps what was learned.
    put(&k, "/api/v1/kitchen", &json!({ "tap_c": 9 })).await;
    assert_eq!(headline(&page().await), headline(&taught));
    note(json!({ "kind": "undo", "value": seq, "at": "2026-11-06T16:30:00Z" })).await;
    assert_eq!(headline(&page().await), before);
    assert!(!page().await.text.contains("times as fast as the book"));
    // Pulled before anything was kneaded it says nothing.
    note(json!({ "kind": "window", "what": "tears", "at": "2026-11-06T16:10:00Z" })).await;
    assert_eq!(headline(&page().await), before);
}
