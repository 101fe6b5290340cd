//! Every page in the household's units: none speaks of another's, and what is typed in either is the same.

use regex::Regex;
use serde_json::{Value, json};

use super::{Kitchen, form, get, kitchen, post, put};

const LOAF: &str = r#"{"name":"Boat loaf","lines":[{"ingredient":"wheat-bread","grams":500},{"ingredient":"milk-whole","grams":340},
  {"ingredient":"butter-unsalted","grams":20},{"ingredient":"salt-fine","grams":10},{"ingredient":"yeast-instant","grams":4}],
  "pieces":{"count":2,"piece_g":437,"shape":"batard","vessel":"stone"},"oven":{"set_c":230,"minutes_low":30,"minutes_high":35}}"#;
const SOUR: &str = r#"{"name":"Tide loaf","lines":[{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":350},
  {"ingredient":"leaven-wheat","grams":100},{"ingredient":"salt-fine","grams":10}],"pieces":{"count":1,"shape":"batard","vessel":"pot"}}"#;

fn us() -> Value {
    json!({ "units": "us", "temperature": "fahrenheit", "weight": "pounds", "clock": 12, "week_start": "sunday",
        "oven": { "name": "range", "dial": "fahrenheit", "offset_c": -5, "hot_k": 12 }, "hours": hours() })
}
fn metric() -> Value {
    json!({ "oven": { "name": "range", "dial": "celsius", "offset_c": -5, "hot_k": 12 }, "hours": hours() })
}
fn hours() -> Value {
    json!([{ "name": "asleep", "kind": "asleep", "days": [0, 1, 2, 3, 4, 5, 6], "from": "22:30", "to": "06:30" }])
}

/// The pages of a household with two breads, a running bake and a jar.
async fn pages(k: &Kitchen) -> Vec<String> {
    let keep = async |body: &str| {
        let a = post(k, "/api/v1/formulas", &json!({ "formula": serde_json::from_str::<Value>(body).unwrap() })).await;
        a.json()["id"].as_str().unwrap_or_else(|| panic!("{}", a.text)).to_owned()
    };
    let (loaf, sour) = (keep(LOAF).await, keep(SOUR).await);
    let jar = post(k, "/api/v1/leavens", &json!({ "name": "Bell", "flour_mix": { "plain-white": 100 }, "hydration_pct": 100 }))
        .await
        .json()["id"]
        .as_str()
        .unwrap()
        .to_owned();
    let fed = [("kind", "fed"), ("seed", "20 g"), ("water", "100 g"), ("flour", "100 g"), ("what", "room")];
    assert_eq!(form(k, &format!("/leaven/{jar}"), &fed).await.status, 303);
    let begun = form(k, "/plan/by-hand/use", &[("formula", &loaf)]).await.bake();
    for act in [&[("kind", "mixed")][..], &[("kind", "temperature"), ("stage", "dough"), ("value", "25")], &[("kind", "fold")]] {
        assert_eq!(form(k, &format!("/bakeday/{begun}/events"), act).await.status, 303);
    }
    let mut all: Vec<String> =
        ["/", "/formula", "/plan", "/oven", "/logbook", "/kitchen", "/kitchen/pan", "/plan/hours"].map(str::to_owned).to_vec();
    for id in [&loaf, &sour] {
        all.extend([format!("/formula/{id}"), format!("/formula/{id}/label"), format!("/formula/{id}/versions")]);
        all.extend(
            ["/plan", "/plan/by-hand", "/plan/sheet", "/water", "/oven", "/oven/sizes", "/oven/care", "/oven/log"]
                .map(|p| format!("{p}?formula={id}")),
        );
    }
    all.push(format!("/oven/together?formula={loaf}&p[with]={sour}"));
    all.push(format!("/plan/together?breads[]={loaf}&breads[]={sour}"));
    all.extend([format!("/bakeday/{begun}"), format!("/logbook/{begun}"), format!("/leaven/{jar}")]);
    all
}

/// What a reader is told: words and labels, without what the baker wrote, names of tins, and what is chosen from a list of units.
fn told(html: &str) -> String {
    let cut = |text: &str, pattern: &str| Regex::new(pattern).unwrap().replace_all(text, " ").into_owned();
    let labels: Vec<String> =
        Regex::new(r#"(?:aria-label|title)="([^"]*)""#).unwrap().captures_iter(html).map(|c| c[1].to_owned()).collect();
    let text = cut(html, r"(?s)<(textarea|script|style|option|kbd)[^>]*>.*?</(textarea|script|style|option|kbd)>");
    let text = cut(&text, r#"(?s)<td class="src".*?</td>"#);
    format!("{} {}", cut(&text, r"<[^>]*>"), labels.join(" "))
}

async fn none_of(k: &Kitchen, foreign: &[&str], allowed: &[&str]) {
    let mut found = Vec::new();
    for page in pages(k).await {
        let a = get(k, &page).await;
        assert!(a.status == 200, "{page}: {}", a.status);
        assert!(!a.text.contains(['\u{FFF9}', '\u{FFFA}', '\u{FFFB}']), "{page}: a quantity is not said");
        let mut text = told(&a.text);
        // What a label says of 100 g is in grams by law.
        let of_label: &[&str] = if page.ends_with("/label") { &[r"[\d.–\x{2009}]+ g\b"] } else { &[] };
        for fine in allowed.iter().chain(of_label) {
            text = Regex::new(fine).unwrap().replace_all(&text, " ").into_owned();
        }
        for pattern in foreign {
            found.extend(Regex::new(pattern).unwrap().find_iter(&text).map(|hit| {
                let near: String = text[..hit.end()].chars().rev().take(60).collect::<Vec<_>>().into_iter().rev().collect();
                format!("{page}: …{}", near.split_whitespace().collect::<Vec<_>>().join(" "))
            }));
        }
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
}

#[actix_web::test]
async fn a_household_of_pounds_and_fahrenheit_reads_no_metric() {
    let k = kitchen();
    assert_eq!(put(&k, "/api/v1/kitchen", &us()).await.status, 200);
    let foreign = [r"°C", r"\d K\b", r"\b\d{1,2}:\d\d\b", r"\d ?(?:g|kg)\b", r"\d ?(?:ml|cl|l)\b", r"\d ?(?:cm|mm)\b"];
    // Physics, what is read in a recipe, the cups of countries, the other dial; what a label must say of 100 g.
    let allowed = [
        r"\d+ g × [\d.]+ kJ/\(kg K\)",
        r"°C, °F, gas marks",
        r"(?:US, 237|metric, 250|imperial, 284) ml",
        r"\d+ °C on another dial",
        r"100 g\b",
        r"\d{1,2}:\d\d(?:–\d{1,2}:\d\d)? [ap]m",
        r"24 hours: 19:40",
        r"100 °C = .*",
    ];
    none_of(&k, &foreign, &allowed).await;
}

#[actix_web::test]
async fn a_metric_household_reads_no_other() {
    let k = kitchen();
    assert_eq!(put(&k, "/api/v1/kitchen", &metric()).await.status, 200);
    let foreign = [r"°F", r"\d ?(?:oz|lb|fl oz|qt)\b", r"\d ?[ap]m\b", r"\d in\b", r"\d K\b"];
    let allowed = [
        r"°C, °F, gas marks",
        r"\d+ °F on another dial",
        r"12 hours: 7:40 pm",
        r"78 F, 1 lb 2 oz, 9 in",
        r"kJ/\(kg K\)",
        r"1 lb [a-z]+",
        r"\d in (?:the|a|an|all|it|100|bed|7|\d+ past)\b",
    ];
    none_of(&k, &foreign, &allowed).await;
}

#[actix_web::test]
async fn the_first_evening_asks_three_things_and_reads_a_bread() {
    let k = kitchen();
    let page = get(&k, "/").await;
    assert!(page.text.contains("Three things first") && page.text.contains("Then a bread you know"), "{}", page.text);
    let answers =
        [("country", "en-US"), ("system", "oz-f"), ("cup", "us"), ("room", "23"), ("dial", "fahrenheit"), ("text", "500 g bread flour")];
    let a = form(&k, "/first", &answers).await;
    assert_eq!((a.status, a.header("location")), (307, Some("/formula/read")), "the same form goes on to the reading");
    let kept = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!((&kept["places"]["room_c"], &kept["temperature"], &kept["clock"]), (&json!(23.0), &json!("fahrenheit"), &json!(12)));
    assert!(kept["places"]["pantry_c"].is_null() && kept["places"]["oven_light_c"].is_null(), "what was not asked is not assumed");
    assert!(get(&k, "/").await.text.contains("Nothing is rising."), "it is asked once");
    // Sent once more, by the way back: nothing of what was told since is taken back.
    put(&k, "/api/v1/kitchen", &json!({ "name": "Harbour", "places": { "room_c": 19, "pantry_c": 14, "fridge_c": 4 } })).await;
    assert_eq!(form(&k, "/first", &answers).await.status, 307);
    let kept = get(&k, "/api/v1/kitchen").await.json();
    assert_eq!((&kept["name"], &kept["places"]["pantry_c"]), (&json!("Harbour"), &json!(14.0)));
    // What cannot be read is asked again, and the bread is not lost.
    let a = form(&k, "/first", &[("country", "xx-XX"), ("dial", "moon"), ("text", "500 g rye")]).await;
    assert!(a.status == 422 && a.text.contains("500 g rye") && a.text.contains("choose again"), "{}", a.text);
}

#[actix_web::test]
async fn a_field_takes_what_people_type_and_shows_it_in_their_units() {
    let k = kitchen();
    assert_eq!(put(&k, "/api/v1/kitchen", &us()).await.status, 200);
    let id = post(&k, "/api/v1/formulas", &json!({ "formula": serde_json::from_str::<Value>(LOAF).unwrap() })).await.json()["id"]
        .as_str()
        .unwrap()
        .to_owned();
    let warm = async |typed: &str| get(&k, &format!("/water?formula={id}&w[target_c]={typed}")).await;
    let read = |text: &str| Regex::new(r"bring[s]? the dough to (\S+?)°?[.<]").unwrap().captures(text).map(|c| c[1].to_owned());
    let told = [warm("78").await, warm("78F").await, warm("25.56C").await];
    assert!(told.iter().all(|a| a.status == 200));
    assert_eq!(told.map(|a| read(&a.text)), [Some("78".to_owned()), Some("78".to_owned()), Some("78".to_owned())]);
    let sheet = get(&k, &format!("/formula/{id}")).await;
    assert!(
        sheet.text.contains("value=\"1 lb 1⅝ oz\"") && sheet.text.contains("[exact]\" value=\"500\""),
        "shown in eighths, kept to the gram"
    );
}

#[actix_web::test]
async fn a_comma_stands_before_the_tenths_where_it_is_told() {
    let k = kitchen();
    assert_eq!(
        put(&k, "/api/v1/kitchen", &json!({ "decimal": "comma", "places": { "room_c": 19.5, "pantry_c": 14.5, "fridge_c": 4 } }))
            .await
            .status,
        200
    );
    let page = get(&k, "/kitchen").await;
    assert!(page.text.contains("Room 19,5°") && page.text.contains("value=\"19,5\""), "{}", page.text);
    assert_eq!(get(&k, "/api/v1/kitchen").await.json()["places"]["room_c"], 19.5);
}
