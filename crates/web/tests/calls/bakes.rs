use serde_json::json;

use super::{get, kitchen, lean, post, raw};

#[actix_web::test]
async fn a_bake_is_begun_logged_and_found_in_the_logbook() {
    let k = kitchen();
    let begun = post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": lean() })).await;
    assert_eq!(begun.status, 201, "{}", begun.text);
    let id = begun.json()["id"].as_str().unwrap().to_owned();
    assert_eq!(begun.header("location"), Some(format!("/api/v1/bakes/{id}").as_str()));
    let events = format!("/api/v1/bakes/{id}/events");
    let at = |t: &str| format!("2026-11-06T{t}:00+00:00");
    let mixed = post(&k, &events, &json!({ "kind": "mixed", "at": at("16:30") })).await;
    assert_eq!((mixed.status, mixed.json()["seq"].as_i64()), (201, Some(1)), "{}", mixed.text);
    let warm =
        post(&k, &events, &json!({ "kind": "temperature", "at": at("16:32"), "value": 27.5, "unit": "C", "stage": "dough" })).await.json();
    assert_eq!(warm["state"]["stage"], "bulk");
    assert!(
        warm["state"]["ready_at"].as_str().unwrap() < mixed.json()["state"]["ready_at"].as_str().unwrap(),
        "a warm dough is sooner ready"
    );
    let undo = post(&k, &events, &json!({ "kind": "undo", "at": at("16:33"), "value": 2 })).await.json();
    assert_eq!(undo["state"]["ready_at"], mixed.json()["state"]["ready_at"]);
    assert_eq!(post(&k, &events, &json!({ "kind": "undo", "at": at("16:34"), "value": 3 })).await.status, 409);
    let list = get(&k, "/api/v1/bakes?q=harbour").await.json();
    assert_eq!((list["total"].as_i64(), list["bakes"][0]["id"].as_str()), (Some(1), Some(id.as_str())));
    let whole = get(&k, &format!("/api/v1/bakes/{id}")).await.json();
    assert_eq!(whole["events"].as_array().unwrap().len(), 3);
    assert_eq!(whole["events"][1]["value"], 27.5);
}

/// Noted days late, or on the wrong scale: the bake is shown on every page, with its log and the way back.
#[actix_web::test]
async fn whatever_was_noted_the_bake_can_be_seen() {
    let k = kitchen();
    let id =
        post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let path = format!("/api/v1/bakes/{id}/events");
    let now = "2026-11-06T16:30:00+00:00";
    let hot = post(&k, &path, &json!({ "kind": "temperature", "at": now, "value": 70, "stage": "room" })).await;
    assert_eq!(hot.status, 422);
    assert!(hot.text.contains("Is that Fahrenheit? Then it is 21 °C."), "{}", hot.text);
    assert_eq!(post(&k, &path, &json!({ "kind": "mixed", "at": "2026-10-20T08:00:00+00:00" })).await.status, 201);
    assert_eq!(post(&k, &path, &json!({ "kind": "shaped", "at": now })).await.status, 201);
    for page in [format!("/bakeday/{id}"), format!("/logbook/{id}"), "/".to_owned(), "/logbook".to_owned(), format!("/api/v1/bakes/{id}")] {
        let a = get(&k, &page).await;
        assert_eq!(a.status, 200, "{page}: {}", a.text);
        assert!(a.text.contains("Harbour loaf"), "{page}");
    }
    let day = get(&k, &format!("/bakeday/{id}")).await.text;
    assert!(day.contains("not reckoned with") && day.contains("Take back Shaped"), "{day}");
    assert!(get(&k, &format!("/logbook/{id}")).await.text.contains("not reckoned with"));
    assert_eq!(post(&k, &path, &json!({ "kind": "undo", "at": now, "value": 2 })).await.status, 201);
    assert!(!get(&k, &format!("/bakeday/{id}")).await.text.contains("not reckoned with"));
}

#[actix_web::test]
async fn an_event_sent_twice_is_kept_once() {
    let k = kitchen();
    let id =
        post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let path = format!("/api/v1/bakes/{id}/events");
    let body = json!({ "kind": "mixed", "at": "2026-11-06T16:30:00+00:00" }).to_string();
    for _ in 0..2 {
        let request = actix_web::test::TestRequest::post()
            .uri(&path)
            .insert_header(("content-type", "application/json"))
            .insert_header(("idempotency-key", "one"))
            .set_payload(body.clone());
        let a = super::call(&k, request).await;
        assert_eq!((a.status, a.json()["seq"].as_i64()), (201, Some(1)));
    }
}

#[actix_web::test]
async fn wrong_events_and_bakes_are_refused_in_words() {
    let k = kitchen();
    assert_eq!(post(&k, "/api/v1/bakes", &json!({ "name": " ", "formula": lean() })).await.pointers(), ["/name"]);
    assert_eq!(post(&k, "/api/v1/bakes", &json!({ "name": "x", "formula": { "lines": [] } })).await.status, 422);
    let id =
        post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let path = format!("/api/v1/bakes/{id}/events");
    for (body, pointer) in [
        (json!({ "kind": "danced", "at": "2026-11-06T16:30:00+00:00" }), "/kind"),
        (json!({ "kind": "mixed" }), "/at"),
        (json!({ "kind": "mixed", "at": "2026-11-06T16:30:00" }), "/at"),
        (json!({ "kind": "mixed", "at": "2026-11-07T16:30:00+00:00" }), "/at"),
        (json!({ "kind": "rating", "at": "2026-11-06T16:30:00+00:00", "value": 11 }), "/value"),
    ] {
        let a = post(&k, &path, &body).await;
        assert_eq!((a.status, a.pointers()), (422, vec![pointer.to_owned()]), "{body}");
    }
    assert_eq!(post(&k, "/api/v1/bakes/nobody/events", &json!({ "kind": "mixed", "at": "2026-11-06T16:30:00+00:00" })).await.status, 404);
    assert_eq!(raw(&k, &path, "application/json", "[]").await.status, 400);
}
