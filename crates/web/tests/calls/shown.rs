//! What is shown is what begins: plans as they were seen, and one setting wherever it is told.

use serde_json::{Value, json};

use super::{Answer, Kitchen, form, get, kitchen, lean, post, put, use_shown};

const READY: &str = "p[ready]=2026-11-07T18:00";

async fn kept(k: &Kitchen, formula: &Value) -> String {
    post(k, "/api/v1/formulas", &json!({ "formula": formula })).await.json()["id"].as_str().unwrap().to_owned()
}

async fn told(k: &Kitchen, kitchen: Value) {
    let a = put(k, "/api/v1/kitchen", &kitchen).await;
    assert_eq!(a.status, 200, "{}", a.text);
}

/// The hours of the acts in a page's list.
fn hours(page: &Answer) -> Vec<String> {
    let list = page.text.split("class=\"alm acts\"").nth(1).unwrap_or_default().split("</table>").next().unwrap_or_default();
    list.split("<td class=\"t when\">").skip(1).map(|c| c.split("</td>").next().unwrap().rsplit('>').next().unwrap().to_owned()).collect()
}

#[actix_web::test]
async fn the_plan_that_is_used_is_the_plan_that_was_shown() {
    let k = kitchen();
    let id = kept(&k, &lean()).await;
    let page = get(&k, &format!("/plan?formula={id}&{READY}")).await;
    let used = use_shown(&k, &page, &[]).await;
    assert_eq!(used.status, 303, "{}", used.text);
    let bake = get(&k, &format!("/api/v1/bakes/{}", used.bake())).await.json();
    let begun: Vec<&str> = bake["plan"]["steps"].as_array().unwrap().iter().map(|s| s["kind"].as_str().unwrap()).collect();
    assert_eq!(begun.len(), hours(&page).len(), "{begun:?}");
    let shown: Value = serde_json::from_str(&page.fields_of("/plan/use").iter().find(|f| f.0 == "ask").unwrap().1).unwrap();
    assert_eq!(bake["plan"]["ask"], shown, "not searched again");
    // Tapped twice it is one bake; taken back there is none, and the plan stands as it was.
    assert_eq!(use_shown(&k, &page, &[]).await.bake(), used.bake());
    let day = get(&k, used.header("location").unwrap()).await;
    assert!(used.header("location").unwrap().contains("2026-11-07T18"), "{:?}", used.header("location"));
    let from = day.fields_of(&format!("/bakeday/{}/back", used.bake()));
    let back = form(&k, &format!("/bakeday/{}/back", used.bake()), &[("from", &from[0].1)]).await;
    let plan = get(&k, back.header("location").unwrap()).await;
    assert_eq!((plan.status, hours(&plan)), (200, hours(&page)));
    assert_eq!(get(&k, &format!("/bakeday/{}", used.bake())).await.status, 404);
    // Once something is noted it is no longer taken back.
    let again = use_shown(&k, &page, &[]).await.bake();
    form(&k, &format!("/bakeday/{again}/events"), &[("kind", "mixed")]).await;
    assert_eq!(form(&k, &format!("/bakeday/{again}/back"), &[]).await.header("location"), Some(format!("/bakeday/{again}").as_str()));
    assert_eq!(get(&k, &format!("/bakeday/{again}")).await.status, 200);
}

#[actix_web::test]
async fn a_plan_that_no_longer_holds_is_shown_anew_with_its_reason() {
    let k = kitchen();
    let id = kept(&k, &lean()).await;
    let page = get(&k, &format!("/plan?formula={id}&{READY}")).await;
    for changed in [[("ask", "{}")], [("lines", "[]")], [("hash", "00")]] {
        let refused = use_shown(&k, &page, &changed).await;
        assert_eq!(refused.status, 422, "{changed:?}");
        assert!(refused.text.contains("was changed since this plan was drawn") && refused.text.contains("Use this plan"));
    }
    let bare = form(&k, "/plan/use", &[("formula", &id), ("p[ready]", "2026-11-07T18:00")]).await;
    assert_eq!(bare.status, 422);
    told(&k, json!({ "places": { "room_c": 25, "pantry_c": 16, "fridge_c": 5 } })).await;
    assert_eq!(use_shown(&k, &page, &[]).await.status, 422, "the kitchen is another");
    assert!(get(&k, "/api/v1/bakes").await.json()["bakes"].as_array().unwrap().is_empty());
}

#[actix_web::test]
async fn another_bread_of_the_house_is_kept_clear_of_and_named() {
    let k = kitchen();
    let (id, other) = (kept(&k, &lean()).await, {
        let mut rolls = lean();
        rolls["name"] = json!("Watch rolls");
        rolls["pieces"] = json!({ "count": 12, "shape": "ball", "vessel": "sheet" });
        rolls["oven"] = json!({ "set_c": 190 });
        kept(&k, &rolls).await
    });
    let first = get(&k, &format!("/plan?formula={other}&{READY}")).await;
    let bake = use_shown(&k, &first, &[]).await.bake();
    let page = get(&k, &format!("/plan?formula={id}&{READY}")).await;
    assert!(page.text.contains("Watch rolls”") && page.text.contains("keeps clear of it"), "{}", page.text);
    let steps = get(&k, &format!("/api/v1/bakes/{bake}")).await.json()["plan"]["steps"].clone();
    let load = steps.as_array().unwrap().iter().find(|s| s["kind"] == "load").unwrap()["start"].as_str().unwrap().to_owned();
    // By hand into the same oven: told with bread and hour, and a later beginning offered.
    let by_hand = get(&k, &format!("/plan/by-hand?formula={id}&p[start]={}", &load[..16])).await;
    assert!(!by_hand.text.contains("Watch rolls"), "hours later there is no clash");
    let begin = get(&k, &format!("/plan/by-hand?formula={other}")).await;
    assert_eq!(begin.status, 200);
}

#[actix_web::test]
async fn the_setting_is_one_wherever_it_is_told() {
    let k = kitchen();
    told(&k, json!({ "oven": { "offset_c": 15 } })).await;
    let mut tin = lean();
    tin["pieces"] = json!({ "count": 1, "shape": "pan" });
    tin["oven"] = json!({ "set_c": 200, "minutes_low": 35, "minutes_high": 40 });
    let id = kept(&k, &tin).await;
    let plan = get(&k, &format!("/plan?formula={id}&{READY}")).await;
    let line = |page: &Answer| {
        let at = page.text.split("class=\"ovenline\"").nth(1).expect("the oven in a line").split("</div>").next().unwrap().to_owned();
        at.split("<p>").nth(1).unwrap().split("<span").next().unwrap().to_owned()
    };
    let of_plan = line(&plan);
    assert!(of_plan.contains("185 °C") && of_plan.contains("in a metal tin"), "{of_plan}");
    assert!(plan.text.contains("The recipe’s own 200 °C, 15 °C less, for your oven runs hotter than its dial."), "the reason");
    // The plan, the plan by hand, the oven's own page, the sheet, the call and the bake say the same.
    let by_hand = line(&get(&k, &format!("/plan/by-hand?formula={id}&p[start]=2026-11-07T10:00")).await);
    assert_eq!(of_plan.split("min").next(), by_hand.split("min").next());
    let minutes = of_plan.split(", ").nth(1).unwrap().trim_end_matches(" min").to_owned();
    let oven = get(&k, &format!("/oven?formula={id}")).await.text;
    assert!(oven.contains("185<small>°C") && oven.contains(&format!("{minutes}<small>min")), "{minutes}");
    let sheet = get(&k, &format!("/plan/sheet?formula={id}&{READY}")).await.text;
    assert!(sheet.contains("185 °C") && sheet.contains(&minutes), "{minutes}: {sheet}");
    let call = post(&k, "/api/v1/plan", &json!({ "formula": tin, "ready_at": "2026-11-07T18:00:00Z" })).await.json();
    assert_eq!(call["options"][0]["oven"]["set_c"], 185.0);
    let call = post(&k, "/api/v1/oven", &json!({ "formula": tin, "piece_g": 850 })).await.json();
    assert_eq!(call["set_c"], 185.0);
    let bake = use_shown(&k, &plan, &[]).await.bake();
    let kept = get(&k, &format!("/api/v1/bakes/{bake}")).await.json();
    assert_eq!(kept["plan"]["oven"]["set_c"], 185.0);
    let lit = kept["plan"]["steps"].as_array().unwrap().iter().find(|s| s["kind"] == "oven-on").unwrap()["instruction"].to_string();
    assert!(lit.contains("Set 185 °C") && lit.contains("200 °C"), "{lit}");
    // One tap takes ours, everywhere; another takes the recipe's again.
    let tap = |page: &Answer| page.fields_of(&format!("/formula/{id}/setting"));
    let to = tap(&plan)[0].1.clone();
    let took = form(&k, &format!("/formula/{id}/setting"), &[("by", "ours"), ("back", &to)]).await;
    assert_eq!(took.header("location"), Some(to.as_str()));
    let (plan, oven) = (get(&k, &to).await, get(&k, &format!("/oven?formula={id}")).await.text);
    let ours = line(&plan);
    let set = ours.split("</b>").next().unwrap().rsplit('>').next().unwrap().split(' ').next().unwrap().to_owned();
    assert!(set != "185" && oven.contains(&format!("{set}<small>°C")), "{ours}");
    assert!(plan.text.contains("Go by the recipe, 185 °C") && plan.text.contains("Ours, in place of the recipe’s"));
    assert_eq!(
        form(&k, &format!("/formula/{id}/setting"), &[("by", "recipe"), ("back", "https://elsewhere")]).await.header("location"),
        Some(format!("/oven?formula={id}").as_str())
    );
    assert!(line(&get(&k, &to).await).contains("185 °C"));
}
