use actix_web::http::Method;

use super::{form, get, kitchen, lean, post, raw, with_headers};

const RECIPE: &str = "500 g bread flour\n350 g water\n3 g instant yeast\nBake at 425 C";

#[actix_web::test]
async fn every_page_answers_on_an_empty_household() {
    let k = kitchen();
    for path in [
        "/",
        "/formula",
        "/plan",
        "/oven",
        "/bakeday",
        "/logbook",
        "/sources",
        "/static/css/page.css",
        "/static/vendor/besley/files/besley-latin-wght-normal.woff2",
    ] {
        let a = get(&k, path).await;
        assert_eq!(a.status, 200, "{path}: {}", a.text);
    }
    assert!(get(&k, "/").await.text.contains("Three things first"));
    for path in ["/nowhere", "/formula/nobody", "/bakeday/nobody", "/logbook/nobody", "/static/nothing.css", "/plan?formula=nobody"] {
        assert_eq!(get(&k, path).await.status, 404, "{path}");
    }
}

#[actix_web::test]
async fn pages_and_files_travel_packed_for_who_can_unpack_them() {
    let k = kitchen();
    for (path, asked, packed) in [
        ("/", "gzip", "gzip"),
        ("/", "gzip, deflate, br", "br"),
        ("/static/css/page.css", "gzip", "gzip"),
        ("/static/css/page.css", "br", "br"),
    ] {
        let a = with_headers(&k, Method::GET, path, &[("accept-encoding", asked)]).await;
        assert_eq!((a.status, a.header("content-encoding")), (200, Some(packed)), "{path}");
        assert!(a.header("vary").is_some_and(|v| v.to_ascii_lowercase().contains("accept-encoding")), "{path}");
        assert_eq!(get(&k, path).await.header("content-encoding"), None, "{path}");
    }
}

#[actix_web::test]
async fn nobody_on_the_way_keeps_what_a_household_wrote() {
    let k = kitchen();
    for path in ["/", "/api/v1/kitchen", "/api/v1/formulas", "/nowhere"] {
        assert_eq!(get(&k, path).await.header("cache-control"), Some("no-store"), "{path}");
    }
    assert_ne!(get(&k, "/static/css/page.css").await.header("cache-control"), Some("no-store"));
}

#[actix_web::test]
async fn a_page_that_hides_where_it_is_changes_nothing() {
    let k = kitchen();
    let a = with_headers(&k, Method::POST, "/formula/read", &[("origin", "null")]).await;
    assert_eq!(a.status, 403, "{}", a.text);
    assert_eq!(get(&k, "/").await.header("referrer-policy"), Some("same-origin"), "our own pages say where they are");
}

#[actix_web::test]
async fn a_pasted_recipe_comes_back_in_grams_with_its_slips_named() {
    let k = kitchen();
    let a = form(&k, "/formula/read", &[("text", RECIPE)]).await;
    assert_eq!(a.status, 200);
    for words in ["No salt.", "Add 10 g", "425 °C is hotter than a kitchen oven.", "Set 220 °C", "No baking time."] {
        assert!(a.text.contains(words), "{words}");
    }
}

#[actix_web::test]
async fn what_was_typed_stays_when_it_is_wrong() {
    let k = kitchen();
    let long = "flour <b>\n".repeat(8000);
    let a = form(&k, "/formula/read", &[("text", &long)]).await;
    assert_eq!(a.status, 422);
    assert!(a.text.contains("That is too long") && a.text.contains("flour &#60;b&#62;") && !a.text.contains("<b>\n"));
    assert_eq!(form(&k, "/formula/read", &[("text", "  ")]).await.status, 422);
    let a = form(
        &k,
        "/formula",
        &[
            ("lines[0][ingredient]", "moonflour"),
            ("lines[0][grams]", "lots"),
            ("lines[1][ingredient]", "water"),
            ("lines[1][grams]", "-3"),
            ("do", "save"),
        ],
    )
    .await;
    assert_eq!(a.status, 422);
    for words in ["moonflour", "lots", "is not in the pantry", "is not a number", "-3", "A weight is above 0 g"] {
        assert!(a.text.contains(words), "{words}");
    }
    let a = raw(&k, "/formula/read", "application/x-www-form-urlencoded", vec![b'x'; 1_100_000]).await;
    assert_eq!(a.status, 413);
    assert!(a.text.contains("too much at once"));
}

#[actix_web::test]
async fn a_line_can_be_moved_scaled_mended_and_kept() {
    let k = kitchen();
    let lines = [
        ("lines[0][ingredient]", "bread flour"),
        ("lines[0][grams]", "500"),
        ("lines[1][ingredient]", "water"),
        ("lines[1][grams]", "350"),
        ("lines[2][ingredient]", "instant yeast"),
        ("lines[2][grams]", "3"),
        ("name", "Harbour loaf"),
    ];
    let with = |more: &[(&'static str, &'static str)]| lines.iter().chain(more).copied().collect::<Vec<_>>();
    let a = form(&k, "/formula", &with(&[("do", "up:1")])).await;
    assert!(a.text.find("value=\"Water\"").unwrap() < a.text.find("value=\"Bread flour\"").unwrap());
    let a = form(&k, "/formula", &with(&[("do", "remedy:salt-missing:-:Add 10 g")])).await;
    assert!(a.text.contains("value=\"Fine salt\"") && !a.text.contains("No salt."), "the remedy adds the salt");
    let a = form(&k, "/formula", &with(&[("do", "make"), ("scale[keep]", "flour"), ("scale[flour_g]", "250")])).await;
    assert!(a.text.contains("value=\"175\""), "half the water");
    let a = form(&k, "/formula", &with(&[("do", "make"), ("scale[keep]", "flour"), ("scale[flour_g]", "much")])).await;
    assert_eq!(a.status, 422);
    let a = form(&k, "/formula", &with(&[("do", "save")])).await;
    assert_eq!(a.status, 303);
    let kept = a.header("location").unwrap().to_owned();
    assert!(get(&k, &kept).await.text.contains("Harbour loaf"));
    let id = kept.rsplit('/').next().unwrap();
    let plan = get(&k, &format!("/plan/by-hand?formula={id}")).await;
    assert!(plan.status == 200 && plan.text.contains("Start this bake"));
    let oven = get(&k, &format!("/oven?formula={id}&p[piece_g]=abc")).await;
    assert!(oven.status == 422 && oven.text.contains("abc") && oven.text.contains("is not a number"));
    let wrong = get(&k, &format!("/plan/by-hand?formula={id}&p[mix_c]=99&p[start]=soon")).await;
    assert!(wrong.status == 422 && wrong.text.contains("value=\"99\"") && wrong.text.contains("Write day and hour"));
    let begun = form(&k, "/plan/by-hand/use", &[("formula", id), ("p[start]", "2026-11-06T17:00")]).await;
    assert_eq!(begun.status, 303);
    let day = format!("/bakeday/{}", begun.bake());
    let page = get(&k, &day).await;
    assert!(page.text.contains("Weigh out") && page.text.contains("Mixed"));
    assert_eq!(form(&k, &format!("{day}/events"), &[("kind", "mixed")]).await.status, 303);
    let wrong = form(&k, &format!("{day}/events"), &[("kind", "temperature"), ("stage", "dough"), ("other", "hot")]).await;
    assert!(wrong.status == 422 && wrong.text.contains("is not a number"));
    assert!(get(&k, &day).await.text.contains("First rise") || get(&k, &day).await.text.contains("Fold"));
    assert!(get(&k, "/logbook").await.text.contains("Harbour loaf"));
    assert!(get(&k, &day.replace("bakeday", "logbook")).await.text.contains("planned"));
}

#[actix_web::test]
async fn page_and_api_give_the_same_figures() {
    let k = kitchen();
    let j = post(&k, "/api/v1/formula", &serde_json::json!({ "formula": lean() })).await.json();
    let a = form(
        &k,
        "/formula",
        &[
            ("lines[0][ingredient]", "wheat-bread"),
            ("lines[0][grams]", "500"),
            ("lines[1][ingredient]", "water"),
            ("lines[1][grams]", "340"),
            ("lines[2][ingredient]", "salt-fine"),
            ("lines[2][grams]", "12"),
            ("lines[3][ingredient]", "yeast-instant"),
            ("lines[3][grams]", "4"),
        ],
    )
    .await;
    for (i, line) in j["lines"].as_array().unwrap().iter().enumerate() {
        let percent = cerealis_core::measure::show_percent(line["pct"].as_f64().unwrap());
        assert!(a.text.contains(&format!("id=\"pct-{i}\">{percent}</td>")), "{i}: {percent}");
    }
}
