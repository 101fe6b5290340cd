//! The household out as one file and in again; households of old open whole.

use super::*;

/// The household that a released version made.
fn of_old() -> Kitchen {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("household.db");
    let made = concat!(env!("CARGO_MANIFEST_DIR"), "/../store/tests/households/0.1.0.db");
    std::fs::copy(made, &path).unwrap();
    let db = Database::open(&path).unwrap();
    let household = Household::open(Tables::built_in().unwrap(), &db).unwrap();
    let clock = Clock::starting("2026-11-06T16:45:00Z".parse().unwrap(), 0);
    Kitchen { state: State::new(household, db, clock), _folder: folder }
}

/// The addresses a page leads to.
fn leads_to(page: &str) -> Vec<String> {
    let links = page.split("href=\"/").skip(1).filter_map(|rest| rest.split('"').next());
    links.map(|l| format!("/{}", l.split('#').next().unwrap_or_default().replace("&amp;", "&").replace("&#38;", "&"))).collect()
}

#[actix_web::test]
async fn every_page_of_a_household_of_old_opens() {
    let k = of_old();
    let mut seen: Vec<String> = vec!["/".into()];
    let mut next = 0;
    // A page of each kind, and some of each: the same page with other figures is the same page.
    let mut kinds: std::collections::HashMap<String, usize> = std::collections::HashMap::new();
    while let Some(path) = seen.get(next).cloned() {
        next += 1;
        let page = get(&k, &path).await;
        if let Some(to) = page.header("location").filter(|to| !seen.iter().any(|s| s == to)) {
            seen.push(to.to_owned());
            continue;
        }
        assert!(page.status == 200 || page.status == 303, "{path}: {}", page.text);
        if !page.kind.starts_with("text/html") {
            continue;
        }
        for link in leads_to(&page.text).into_iter().filter(|l| !l.starts_with("/assets/") && !l.starts_with("/static/")) {
            let kind = link.split('?').next().unwrap_or_default().split('/').take(2).collect::<Vec<_>>().join("/");
            let of_kind = kinds.entry(kind).or_default();
            if !seen.contains(&link) && *of_kind < 30 {
                *of_kind += 1;
                seen.push(link);
            }
        }
    }
    for kind in ["/bakeday", "/formula", "/plan", "/logbook", "/kitchen", "/leaven", "/oven", "/pantry"] {
        assert!(kinds.get(kind).is_some_and(|n| *n > 0), "{kind} is not among {kinds:?}");
    }
    let bakes = get(&k, "/api/v1/bakes").await.json();
    assert_eq!(bakes["total"], 12);
    for bake in bakes["bakes"].as_array().unwrap() {
        let id = bake["id"].as_str().unwrap();
        let page = get(&k, &format!("/bakeday/{id}")).await;
        assert!(page.status == 200 && page.text.contains(bake["name"].as_str().unwrap()), "{id}");
    }
}

#[actix_web::test]
async fn an_archive_goes_out_and_comes_in() {
    let k = of_old();
    let long = serde_json::json!({ "name": "мука ржаная ".repeat(6), "like": "rye-medium" });
    assert_eq!(post(&k, "/api/v1/own/ingredients", &long).await.status, 201);
    let out = get(&k, "/api/v1/export").await;
    assert!(out.header("content-disposition").unwrap().contains("skerry-light-2026-11-06.json"));
    let schema = get(&k, "/api/v1/archive.schema.json").await.json();
    assert!(jsonschema::validator_for(&schema).unwrap().is_valid(&out.json()));

    let new = kitchen();
    let looked = raw(&new, "/api/v1/import?dry_run=true", "application/json", out.text.clone()).await;
    assert_eq!((looked.status, looked.json()["same"].as_u64()), (200, Some(0)));
    assert!(get(&new, "/logbook").await.text.contains("No bakes yet."), "looking keeps nothing");
    let brought = raw(&new, "/api/v1/import", "application/json", out.text.clone()).await;
    assert_eq!(brought.status, 201);
    assert!(brought.json()["words"].as_str().unwrap().starts_with("It brought the kitchen’s figures"), "{}", brought.text);
    // What the household calls its own is known at once.
    let read = post(&new, "/api/v1/read", &serde_json::json!({ "text": "500 g the Holm flour\n300 g water" })).await.json();
    assert_eq!(read["formula"]["lines"][0]["ingredient"], "own-grey-holm-flour");
    let strip = |mut v: Value| {
        v.as_object_mut().unwrap().remove("written");
        v
    };
    assert_eq!(strip(get(&new, "/api/v1/export").await.json()), strip(out.json()));
    let again = raw(&new, "/api/v1/import", "application/json", out.text).await.json();
    assert!(again["new"].as_array().unwrap().is_empty() && again["left"].as_array().unwrap().is_empty());

    let newer = raw(&new, "/api/v1/import", "application/json", r#"{"archive":"cerealis-household","v":2}"#).await;
    assert_eq!(newer.status, 409);
    let broken = raw(&new, "/api/v1/import", "application/json", r#"{"archive":"cerealis-household","v":1,"bakes":7}"#).await;
    assert_eq!(broken.status, 422, "{}", broken.text);
}

#[actix_web::test]
async fn only_an_archive_may_be_large() {
    let k = kitchen();
    let long = "500 g bread flour\n".repeat(80_000);
    assert_eq!(raw(&k, "/api/v1/import", "text/plain", long).await.status, 413);
    assert_eq!(raw(&k, "/api/v1/import", "application/json", vec![b' '; 65 * 1024 * 1024]).await.status, 413);
}

#[actix_web::test]
async fn a_copy_is_a_household() {
    let k = of_old();
    let request = TestRequest::get().uri("/api/v1/backup").insert_header(("accept-encoding", "gzip, br"));
    let app = test::init_service(cerealis_web::app(k.state.clone())).await;
    let response = app.call(request.to_request()).await.unwrap();
    assert!(response.headers().get("content-encoding").is_none_or(|e| e == "identity"), "it goes out as it is");
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("copy.db");
    std::fs::write(&path, test::read_body(response).await).unwrap();
    assert!(cerealis_store::copy::look_through(&path).unwrap().told().starts_with("5 formulas, 12 bakes"));
}

async fn chosen(k: &Kitchen, file: Option<&str>, dry: bool) -> Answer {
    let file = file.map_or_else(String::new, |text| {
        format!("--cut\r\ncontent-disposition: form-data; name=\"archive\"; filename=\"a.json\"\r\ncontent-type: application/json\r\n\r\n{text}\r\n")
    });
    let body = format!("{file}--cut\r\ncontent-disposition: form-data; name=\"dry\"\r\n\r\n{dry}\r\n--cut--\r\n");
    raw(k, "/kitchen/import", "multipart/form-data; boundary=cut", body).await
}

#[actix_web::test]
async fn a_file_is_looked_at_and_taken_in_on_the_kitchens_page() {
    let archive = get(&of_old(), "/api/v1/export").await.text;
    let k = kitchen();
    let looked = chosen(&k, Some(&archive), true).await;
    assert!(looked.status == 200 && looked.text.contains("It would bring the kitchen’s figures"), "{}", looked.text);
    assert_eq!(get(&k, "/api/v1/bakes").await.json()["total"], 0);
    let taken = chosen(&k, Some(&archive), false).await;
    assert!(taken.text.contains("It brought the kitchen’s figures") && taken.text.contains("Skerry Light"), "the page shows what came");
    assert_eq!(get(&k, "/api/v1/bakes").await.json()["total"], 12);
    put(&k, "/api/v1/kitchen", &serde_json::json!({ "flour_c": 21.5 })).await;
    let again = chosen(&k, Some(&archive), false).await;
    assert!(again.text.contains("the kitchen’s figures") && again.text.contains("stays as it is here"), "{}", again.text);

    for (file, why) in [
        (None, "Choose a file first."),
        (Some("500 g flour"), "no archive of Cerealis"),
        (Some("{\"archive\":\"cerealis-household\",\"v\":7}"), "newer Cerealis"),
    ] {
        let refused = chosen(&k, file, false).await;
        assert!(refused.status == 422 && refused.text.contains(why), "{file:?}: {}", refused.text);
    }
    assert_eq!(get(&k, "/kitchen/import").await.status, 303);
}

#[actix_web::test]
async fn one_row_that_cannot_be_read_spoils_itself_alone() {
    use diesel::connection::SimpleConnection;
    let k = of_old();
    let ids: Vec<String> =
        get(&k, "/api/v1/bakes").await.json()["bakes"].as_array().unwrap().iter().map(|b| b["id"].as_str().unwrap().to_owned()).collect();
    let (broken, with_log) = (&ids[0], "demo-4");
    {
        let mut c = k.state.db.connection().unwrap();
        c.batch_execute(&format!(
            "UPDATE bakes SET plan = '{{\"v\":1}}' WHERE id = '{broken}';
             UPDATE formula_versions SET body = '{{}}' WHERE formula_id = 'watch-rolls';
             UPDATE leavens SET body = '[]' WHERE id = 'foghorn';
             UPDATE household_pans SET body = '7';
             DROP TRIGGER bake_events_stay;
             UPDATE bake_events SET body = '{{}}' WHERE bake_id = '{with_log}' AND seq = 2;"
        ))
        .unwrap();
    }
    let logbook = get(&k, "/logbook").await;
    assert!(logbook.status == 200 && logbook.text.contains("cannot be read") && logbook.text.contains("Skerry loaf"), "{}", logbook.text);
    let formulas = get(&k, "/formula").await;
    assert!(formulas.text.contains("“Watch rolls” cannot be read") && formulas.text.contains("Lantern plait"), "{}", formulas.text);
    assert!(get(&k, "/kitchen").await.text.contains("own-lamp-room-tin” cannot be read"));
    let bake = get(&k, &format!("/bakeday/{with_log}")).await;
    assert!(bake.status == 200 && bake.text.contains("cannot be read"), "{}", bake.text);
    for path in [
        "/",
        "/bakeday",
        "/leaven",
        "/plan?formula=skerry-loaf",
        "/oven",
        "/pantry",
        "/api/v1/bakes",
        "/api/v1/formulas",
        "/api/v1/leavens",
        "/api/v1/own",
    ] {
        let a = get(&k, path).await;
        assert!(a.status == 200 || a.status == 303, "{path}: {}", a.text);
    }
    let alone = get(&k, &format!("/bakeday/{broken}")).await;
    assert!(alone.status == 500 && alone.text.contains("The rest of the kitchen is as it was"), "{}", alone.text);
    k.state.db.connection().unwrap().batch_execute("UPDATE kitchen SET body = '{\"zone\":7}'").unwrap();
    let today = get(&k, "/").await;
    assert!(today.status == 200 && today.text.contains("Kitchen whose figures cannot be read"), "{}", today.text);
}
