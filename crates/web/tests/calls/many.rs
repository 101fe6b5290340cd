//! Large households, and a household whose file is in trouble.

use cerealis_core::{bake::EventBody, formula::FormulaBody};
use cerealis_store::{
    bakes,
    formulas::{self, Beside},
};
use diesel::connection::SimpleConnection;
use serde_json::json;

use super::{Kitchen, get, kitchen, lean, post};

fn with_formulas(n: usize) -> Kitchen {
    let k = kitchen();
    let mut body: FormulaBody = serde_json::from_value(lean()).unwrap();
    let beside = Beside { style: "lean".into(), flour_g: 500.0, now: k.state.clock.now() };
    let mut db = k.state.db.connection().unwrap();
    db.batch_execute("PRAGMA synchronous = OFF").unwrap();
    for i in 0..n {
        body.name = Some(format!("Loaf {i:05}"));
        formulas::save(&mut db, &format!("loaf-{i:05}"), &body, &beside).unwrap();
    }
    k
}

#[actix_web::test]
async fn more_than_a_thousand_formulas_are_all_reached() {
    let k = with_formulas(1234);
    let list = get(&k, "/api/v1/formulas?page=13").await.json();
    assert_eq!((list["total"].as_i64(), list["formulas"].as_array().unwrap().len()), (Some(1234), 34));
    let sought = get(&k, "/api/v1/formulas?q=01233").await.json();
    assert_eq!((sought["total"].as_i64(), sought["formulas"][0]["id"].as_str()), (Some(1), Some("loaf-01233")));

    let first = get(&k, "/formula").await.text;
    assert!(first.contains("Loaf 00099") && !first.contains("Loaf 00100") && first.contains("The next ones"));
    let last = get(&k, "/formula?page=13").await.text;
    assert!(last.contains("Loaf 01233") && last.contains("The ones before") && !last.contains("The next ones"));
    let past = get(&k, "/formula?page=99").await.text;
    assert!(past.contains("Loaf 01233") && !past.contains("Nothing is put away"), "a page that is not there is the last one");
    assert!(get(&k, "/formula?q=01233").await.text.contains("/formula/loaf-01233"));
    for page in ["/", "/plan"] {
        let text = get(&k, page).await.text;
        assert!(text.contains("And 1134 more") && text.len() < 100_000, "{page}: {}", text.len());
    }
}

#[actix_web::test]
async fn ten_thousand_entries_in_one_bake_are_pages() {
    let k = kitchen();
    let id =
        post(&k, "/api/v1/bakes", &json!({ "name": "Watch rolls", "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned();
    let mut db = k.state.db.connection().unwrap();
    db.batch_execute("PRAGMA synchronous = OFF").unwrap();
    for i in 0..10_000 {
        let body = EventBody { kind: "note".into(), note: Some(format!("turn of the lamp {i}")), ..EventBody::default() };
        let event = body.check(k.state.clock.now()).unwrap();
        bakes::append(&mut db, &id, &event, None).unwrap();
    }
    let day = get(&k, &format!("/bakeday/{id}")).await;
    assert_eq!(day.status, 200);
    assert!(
        day.text.contains("turn of the lamp 9999") && day.text.contains("9900 before these") && day.text.len() < 200_000,
        "{}",
        day.text.len()
    );
    let book = get(&k, &format!("/logbook/{id}")).await.text;
    assert!(book.contains("10000 entries") && book.len() < 200_000, "{}", book.len());
    let last = get(&k, &format!("/logbook/{id}?log=50")).await.text;
    assert!(last.contains("turn of the lamp 9999") && last.contains(">Earlier<") && !last.contains(">Later<"));
    assert!(get(&k, &format!("/logbook/{id}?log=999")).await.text.contains("turn of the lamp 9999"));
}

#[actix_web::test]
async fn a_folder_gone_is_said_by_page_call_and_health_and_nothing_is_pretended() {
    let k = kitchen();
    let folder = k.state.db.path().parent().unwrap().to_owned();
    let away = folder.with_extension("away");
    std::fs::rename(&folder, &away).unwrap();
    for path in ["/", "/logbook", "/kitchen", "/health", "/api/v1/bakes"] {
        let a = get(&k, path).await;
        assert_eq!(a.status, 500, "{path}");
        assert!(a.text.contains("household.db is no longer where it was") && a.text.contains("Nothing more is kept"), "{path}: {}", a.text);
    }
    assert_eq!(post(&k, "/api/v1/bakes", &json!({ "name": "Harbour loaf", "formula": lean() })).await.status, 500);
    std::fs::rename(&away, &folder).unwrap();
    assert_eq!(get(&k, "/health").await.json()["database"], "ok");
    assert_eq!(get(&k, "/api/v1/bakes").await.json()["total"], 0);
}
