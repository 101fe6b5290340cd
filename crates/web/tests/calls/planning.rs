//! Plans and leavens through the API: what a request says is what an answer keeps.

use serde_json::{Value, json};

use super::{contract::held, form, get, kitchen, lean, post, use_shown};

/// Friday 6 November 2026, 16:40 UTC is now; bread for Saturday at 18:00.
fn ask() -> Value {
    json!({
        "formula": lean(), "ready_at": "2026-11-07T18:00:00Z",
        "kitchen": { "room_c": 21, "pantry_c": 16.5, "fridge_c": 4, "scale_step_g": 0.1 },
        "away": [{ "from": "2026-11-06T23:00:00Z", "to": "2026-11-07T06:30:00Z", "kind": "asleep" }],
    })
}

#[actix_web::test]
async fn plans_keep_to_the_hours_and_can_be_run_again() {
    let k = kitchen();
    let a = post(&k, "/api/v1/plan", &ask()).await;
    assert_eq!(a.status, 200, "{}", a.text);
    let j = a.json();
    held("/api/v1/plan", "post", "200", &j);
    let options = j["options"].as_array().unwrap();
    assert!((3..=5).contains(&options.len()), "{}", options.len());
    for o in options {
        assert!(o["ready_at"].as_str().unwrap() <= "2026-11-07T18:00:00+00:00", "{}", o["ready_at"]);
        for s in o["steps"].as_array().unwrap().iter().filter(|s| s["hands_on_min"].as_f64().unwrap() > 0.0) {
            let (start, end) = (s["start"].as_str().unwrap(), s["end"].as_str().unwrap());
            assert!(end <= "2026-11-06T23:00:00+00:00" || start >= "2026-11-07T06:30:00+00:00", "{}: {s}", o["name"]);
        }
        // Its rises, sent to the rise as they are, ripen as it says.
        let mut stages = Vec::new();
        for r in o["rises"].as_array().unwrap().iter().filter(|r| r["kind"] == "bulk" || r["kind"] == "proof") {
            for s in r["stages"].as_array().unwrap() {
                let mut s = s.clone();
                s.as_object_mut().unwrap().remove("place");
                stages.push(s);
            }
        }
        if o["family"] == "preferment" {
            continue;
        }
        let run = post(&k, "/api/v1/ferment", &json!({ "formula": o["formula"], "start_c": o["mix_c"], "stages": stages })).await;
        assert_eq!(run.status, 200, "{}", run.text);
        let ripeness = run.json()["end"]["ripeness"].as_f64().unwrap();
        assert!((0.7..=1.35).contains(&ripeness), "{}: {ripeness}", o["name"]);
    }
    assert_eq!(post(&k, "/api/v1/plan", &ask()).await.text, a.text, "the same request, the same bytes");
    // An option becomes a bake as it is.
    let o = &options[0];
    let bake = post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": o["formula"], "plan": o })).await;
    assert_eq!(bake.status, 201, "{}", bake.text);
    assert_eq!(bake.json()["state"]["ready_at"], o["ready_at"]);
    assert_eq!(bake.json()["plan"]["steps"].as_array().unwrap().len(), o["steps"].as_array().unwrap().len());
}

#[actix_web::test]
async fn a_night_of_its_own_is_taken_told_and_refused_at_its_field() {
    let k = kitchen();
    let mut body = ask();
    body["kitchen"]["night"] = json!({ "from": "22:30", "to": "06:00", "room_c": 14, "pantry_c": 11 });
    let a = post(&k, "/api/v1/plan", &body).await;
    assert_eq!(a.status, 200, "{}", a.text);
    held("/api/v1/plan", "post", "200", &a.json());
    let temps: Vec<f64> = a.json()["options"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|o| o["rises"].as_array().unwrap().clone())
        .flat_map(|r| r["stages"].as_array().unwrap().clone())
        .filter(|s| s["place"] == "room")
        .map(|s| s["place_c"].as_f64().unwrap())
        .collect();
    assert!(temps.iter().any(|c| *c < 20.0) && temps.iter().all(|c| (14.0..=21.0).contains(c)), "{temps:?}");
    body["kitchen"]["night"] = json!({ "from": "late", "to": "06:00", "room_c": 140, "pantry_c": 11 });
    let wrong = post(&k, "/api/v1/plan", &body).await;
    assert_eq!((wrong.status, wrong.pointers()), (422, vec!["/kitchen/night/from".to_owned(), "/kitchen/night/room_c".to_owned()]));
}

#[actix_web::test]
async fn where_nothing_fits_it_says_what_would_have_to_give() {
    let k = kitchen();
    let mut ask = ask();
    ask["ready_at"] = json!("2026-11-06T18:00:00Z");
    let a = post(&k, "/api/v1/plan", &ask).await.json();
    held("/api/v1/plan", "post", "200", &a);
    assert_eq!(a["options"], json!([]));
    assert_eq!(a["findings"][0]["id"], "no-plan");
    assert!(a["findings"][0]["message"].as_str().unwrap().contains("shortest way"), "{}", a["findings"][0]);
    assert_eq!(a["relax"][0]["kind"], "serve-later");
    assert!(a["relax"][0]["minutes"].as_i64().unwrap() > 60);
    assert!(a["nearest"]["ready_at"].as_str().unwrap() > "2026-11-06T19:00");
}

#[actix_web::test]
async fn two_doughs_share_one_baker_and_one_oven() {
    let k = kitchen();
    let mut body = ask();
    body.as_object_mut().unwrap().remove("formula");
    body["formulas"] = json!([{ "formula": lean() }, { "formula": lean(), "ready_at": "2026-11-07T16:00:00Z" }]);
    let a = post(&k, "/api/v1/plan", &body).await;
    assert_eq!(a.status, 200, "{}", a.text);
    let j = a.json();
    held("/api/v1/plan", "post", "200", &j);
    let option = &j["options"][0];
    assert_eq!(option["parts"].as_array().unwrap().len(), 2);
    let mut hands: Vec<(String, String)> = option["parts"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|p| p["steps"].as_array().unwrap())
        .filter(|s| s["hands_on_min"].as_f64().unwrap() > 0.0 && ["mix", "shape", "load", "feed"].contains(&s["kind"].as_str().unwrap()))
        .map(|s| (s["start"].as_str().unwrap().to_owned(), s["end"].as_str().unwrap().to_owned()))
        .collect();
    hands.sort();
    assert!(hands.windows(2).all(|w| w[0].1 <= w[1].0), "{hands:?}");
}

#[actix_web::test]
async fn what_is_wrong_in_a_request_is_told_at_its_field() {
    let k = kitchen();
    let wrong = |change: &dyn Fn(&mut Value)| {
        let mut body = ask();
        change(&mut body);
        body
    };
    for (body, pointer) in [
        (wrong(&|b| b["ready_at"] = json!("2026-11-05T18:00:00Z")), "/ready_at"),
        (wrong(&|b| b["ready_at"] = json!("tomorrow")), "/ready_at"),
        (wrong(&|b| b["ready_at"] = json!("2026-12-25T18:00:00Z")), "/ready_at"),
        (wrong(&|b| b["away"][0]["to"] = json!("2026-11-06T20:00:00Z")), "/away/0/to"),
        (wrong(&|b| b["away"][0]["kind"] = json!("fishing")), "/away/0/kind"),
        (wrong(&|b| b["method"] = json!({ "families": ["magic"] })), "/method/families/0"),
        (wrong(&|b| b["kitchen"]["room_c"] = json!(90)), "/kitchen/room_c"),
        (wrong(&|b| b["leaven"] = json!({ "cold_days": 900 })), "/leaven/cold_days"),
        (wrong(&|b| b["early_min"] = json!(-5)), "/early_min"),
    ] {
        let a = post(&k, "/api/v1/plan", &body).await;
        assert_eq!((a.status, a.pointers()), (422, vec![pointer.to_owned()]), "{}", a.text);
    }
    let none = post(&k, "/api/v1/plan", &json!({ "formula": lean() })).await;
    assert_eq!(none.pointers(), ["/ready_at"]);
}

#[actix_web::test]
async fn a_fed_leaven_peaks_and_falls() {
    let k = kitchen();
    let a = post(&k, "/api/v1/leaven", &json!({ "seed": 1, "water": 2, "flour": 2, "place_c": 22 })).await;
    assert_eq!(a.status, 200, "{}", a.text);
    let j = a.json();
    held("/api/v1/leaven", "post", "200", &j);
    let kinds: Vec<&str> = j["events"].as_array().unwrap().iter().map(|e| e["kind"].as_str().unwrap()).collect();
    assert!(kinds.contains(&"leaven-peak") && kinds.contains(&"leaven-falls"), "{kinds:?}");
    assert!(j["top"]["volume_ratio"].as_f64().unwrap() > 2.0);
    assert_eq!(post(&k, "/api/v1/leaven", &json!({ "seed": 0, "water": 2, "flour": 2, "place_c": 22 })).await.pointers(), ["/seed"]);
}

#[actix_web::test]
async fn the_pages_of_a_plan_hold_its_words_and_lose_nothing() {
    let k = kitchen();
    let id = post(&k, "/api/v1/formulas", &json!({ "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let page = get(&k, &format!("/plan?formula={id}&p[ready]=2026-11-07T18:00")).await;
    assert_eq!(page.status, 200, "{}", page.text);
    for words in ["ways to get there", "Use this plan", "Still good", "Where good bakers disagree", "Water for the mix"] {
        assert!(page.text.contains(words), "no “{words}”");
    }
    let past = get(&k, &format!("/plan?formula={id}&p[ready]=2026-11-01T18:00")).await;
    assert!(past.status == 422 && past.text.contains("past") && past.text.contains("Sun 1 Nov 18:00"), "{}", past.status);
    let none = get(&k, &format!("/plan?formula={id}&p[ready]=2026-11-06T18:00")).await.text;
    assert!(none.contains("No plan gives this bread at 18:00") && none.contains("The least that would have to give"));
    for (format, mark) in [("ics", "BEGIN:VCALENDAR"), ("csv", "kind,start"), ("md", "| When |"), ("json", "cerealis-plan")] {
        let file = get(&k, &format!("/plan/file.{format}?formula={id}&p[ready]=2026-11-07T18:00")).await;
        assert!(file.text.contains(mark), "{format}: {}", file.text);
    }
    assert!(get(&k, &format!("/plan/sheet?formula={id}&p[ready]=2026-11-07T18:00")).await.text.contains("Next time:"));
    let bake = use_shown(&k, &page, &[]).await.bake();
    let calendar = get(&k, &format!("/api/v1/bakes/{bake}/plan.ics")).await;
    assert!(
        calendar.header("content-type").unwrap().starts_with("text/calendar") && calendar.text.contains(&format!("UID:{bake}-mix-1@")),
        "{}",
        calendar.text
    );
    let both = get(&k, &format!("/plan/together?breads[]={id}&breads[]={id}&ready=2026-11-07T18:00")).await;
    assert!(both.status == 200 && both.text.contains("Use these plans"), "{}", both.status);
}

#[actix_web::test]
async fn a_jar_is_kept_with_its_log() {
    let k = kitchen();
    let jar = serde_json::json!({ "name": "Foghorn", "flour_mix": { "plain-white": 100 }, "hydration_pct": 100 });
    let id = post(&k, "/api/v1/leavens", &jar).await.json()["id"].as_str().unwrap().to_owned();
    let events = format!("/api/v1/leavens/{id}/events");
    let fed = serde_json::json!({ "kind": "fed", "at": "2026-11-06T11:20:00Z", "seed": 40, "water": 80, "flour": 80, "what": "room" });
    let a = post(&k, &events, &fed).await;
    assert_eq!((a.status, a.json()["seq"].as_i64()), (201, Some(1)), "{}", a.text);
    held("/api/v1/leavens/{id}/events", "post", "201", &a.json());
    let level = post(&k, &events, &serde_json::json!({ "kind": "level", "at": "2026-11-06T16:30:00Z", "value": 2.0 })).await.json();
    assert!((level["state"]["ratio_now"].as_f64().unwrap() - 2.0).abs() < 0.2, "{level}");
    let whole = get(&k, &format!("/api/v1/leavens/{id}")).await.json();
    held("/api/v1/leavens/{id}", "get", "200", &whole);
    assert_eq!(whole["events"].as_array().unwrap().len(), 2);
    held("/api/v1/leavens", "get", "200", &get(&k, "/api/v1/leavens").await.json());
    assert_eq!(post(&k, &events, &serde_json::json!({ "kind": "undo", "at": "2026-11-06T16:35:00Z", "value": 9 })).await.status, 409);
    assert_eq!(post(&k, &events, &serde_json::json!({ "kind": "level", "value": 2.0 })).await.pointers(), ["/at"]);
    assert_eq!(get(&k, "/api/v1/leavens/nobody").await.status, 404);
    let page = get(&k, &format!("/leaven/{id}")).await;
    assert!(page.status == 200 && page.text.contains("What to feed") && page.text.contains("Do this"), "{}", page.status);
    let wrong = form(&k, &format!("/leaven/{id}"), &[("kind", "used"), ("value", "lots")]).await;
    assert_eq!(wrong.status, 422);
}
