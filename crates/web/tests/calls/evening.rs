//! The pages of the evening before: what may vary of a plan, the household's hours, several breads, the jars, the
//! places of a running dough. What is typed is kept, what is wrong is told at its field.

use serde_json::json;

use super::{Answer, Kitchen, form, get, kitchen, lean, post, use_shown};

async fn bread(k: &Kitchen) -> String {
    post(k, "/api/v1/formulas", &json!({ "formula": lean() })).await.json()["id"].as_str().unwrap().to_owned()
}

async fn plan(k: &Kitchen, id: &str, more: &str) -> Answer {
    get(k, &format!("/plan?formula={id}&p[ready]=2026-11-07T18:00{more}")).await
}

/// Names of the ways on offer, as the list has them.
fn ways(a: &Answer) -> Vec<String> {
    let list = a.text.split_once("class=\"waylist\"").map_or("", |l| l.1).split("</ul>").next().unwrap_or_default();
    list.split("<b>").skip(1).map(|w| w.split("</b>").next().unwrap_or_default().to_owned()).collect()
}

#[actix_web::test]
async fn a_place_left_out_is_in_no_way() {
    let k = kitchen();
    let id = bread(&k).await;
    let all = plan(&k, &id, "").await;
    assert!(ways(&all).iter().any(|w| w.contains("fridge")), "{:?}", ways(&all));
    let none = plan(&k, &id, "&p[fridge]=off&p[oven-light]=off&p[pantry]=off").await;
    assert_eq!(none.status, 200);
    assert!(!ways(&none).is_empty() && !ways(&none).iter().any(|w| w.contains("fridge") || w.contains("light") || w.contains("pantry")));
    assert_eq!(none.text.matches("value=\"off\" checked").count(), 3, "the boxes stay ticked");
    assert!(none.text.contains("<details class=\"cap\" open>"), "what was changed is in sight");
    assert!(all.text.contains("<details class=\"cap\">"), "and folded away where nothing was");
    let works = all.text.matches(" min of work").count();
    assert!(ways(&all).iter().all(|w| !w.contains("min of work")) && works <= ways(&all).len() + 1, "work is told once for each way");
}

#[actix_web::test]
async fn one_family_alone_and_two_loads() {
    let k = kitchen();
    let id = bread(&k).await;
    let slow = plan(&k, &id, "&p[only]=cold-bulk").await;
    assert!(!ways(&slow).is_empty() && ways(&slow).iter().all(|w| w.starts_with("Dough")), "{:?}", ways(&slow));
    assert!(
        slow.text.contains("value=\"cold-bulk\" selected") && slow.text.contains("only: A preferment first"),
        "the others may still be chosen"
    );
    let two = plan(&k, &id, "&p[loads]=2").await;
    assert!(two.text.contains("Load 2: the tin or tray that waited."), "{}", two.status);
    assert_eq!(two.text.matches("Load 1 out.").count(), 1);
}

#[actix_web::test]
async fn the_recipes_dose_is_kept_on_request() {
    let k = kitchen();
    let id = bread(&k).await;
    let kept = plan(&k, &id, "&p[dose]=kept").await;
    assert!(kept.status == 200 && !ways(&kept).is_empty());
    assert!(!kept.text.contains(", the recipe says"), "no other dose than the recipe's");
    assert!(kept.text.contains("value=\"kept\" checked"));
    let body = json!({ "formula": lean(), "ready_at": "2026-11-07T18:00:00Z", "method": { "keep_dose": true } });
    let options = post(&k, "/api/v1/plan", &body).await.json();
    let doses: Vec<(f64, f64)> = options["options"]
        .as_array()
        .unwrap()
        .iter()
        .map(|o| (o["dose"]["grams"].as_f64().unwrap(), o["dose"]["was_grams"].as_f64().unwrap()))
        .collect();
    assert!(!doses.is_empty() && doses.iter().all(|(is, was)| (is - was).abs() < 1e-6), "{doses:?}");
}

#[actix_web::test]
async fn what_cannot_vary_so_is_told_at_its_field() {
    let k = kitchen();
    let id = bread(&k).await;
    for typed in ["lots", "0", "99", "1.5", "-1"] {
        let a = plan(&k, &id, &format!("&p[loads]={typed}")).await;
        assert_eq!(a.status, 422, "{typed}");
        assert!(a.text.contains("Between 1 and 6 oven loads.") && a.text.contains(&format!("value=\"{typed}\"")), "{typed}");
        assert!(a.text.contains("Nothing is planned yet"), "{typed}");
    }
    // The rest of what was chosen stays chosen while one field is wrong.
    let kept = plan(&k, &id, "&p[loads]=lots&p[only]=slow&p[dose]=kept&p[fridge]=off").await.text;
    for mark in ["value=\"slow\" selected", "value=\"kept\" checked", "name=\"p[fridge]\" value=\"off\" checked"] {
        assert!(kept.contains(mark), "{mark}");
    }
    // A sentence with no field on the page stands over the answer.
    for (more, words) in
        [("&p[box]=900", "A place&#39;s temperature lies"), ("&p[early]=soon", "is not a number"), ("&p[cold_days]=900", "A leaven stands")]
    {
        let a = plan(&k, &id, more).await;
        assert!(a.status == 422 && a.text.contains(words), "{more}: {}", a.status);
    }
    let sour = json!({ "lines": [{ "ingredient": "wheat-bread", "grams": 500 }, { "ingredient": "water", "grams": 350 }, { "ingredient": "leaven-wheat", "grams": 100 }, { "ingredient": "salt-fine", "grams": 10 }], "pieces": { "count": 1, "shape": "batard", "vessel": "pot" } });
    let id = post(&k, "/api/v1/formulas", &json!({ "formula": sour })).await.json()["id"].as_str().unwrap().to_owned();
    for (field, typed, words) in [
        ("cold_days", "ages", "is not a number"),
        ("cold_days", "900", "A leaven stands between 0 and 365 days in the fridge."),
        ("ripe", "soon", "Write when the leaven is ripe"),
    ] {
        let a = plan(&k, &id, &format!("&p[{field}]={typed}")).await;
        assert!(
            a.status == 422 && a.text.contains(words) && a.text.contains(&format!("value=\"{typed}\"")),
            "{field} {typed}: {}",
            a.status
        );
    }
    let soft = get(&k, &format!("/plan?formula={id}&p[ready]=tea-time")).await;
    assert!(soft.status == 422 && soft.text.contains("Write day and hour") && soft.text.contains("tea-time"));
    assert_eq!(get(&k, "/plan?formula=no-such-bread").await.status, 404);
}

#[actix_web::test]
async fn hours_are_kept_shown_and_taken_away() {
    let k = kitchen();
    let told = [("name", "night watch"), ("kind", "asleep"), ("days[]", "0"), ("days[]", "4"), ("from", "22:30"), ("to", "04:30")];
    let a = form(&k, "/plan/hours", &told).await;
    assert_eq!(a.status, 303, "{}", a.text);
    let page = get(&k, "/plan/hours").await;
    assert!(page.text.contains("night watch") && page.text.contains("Mon, Fri 22:30\u{2013}04:30"));
    let once = [("name", "ferry"), ("kind", "away"), ("date", "2026-11-07"), ("from", "09:00"), ("to", "12:00")];
    assert_eq!(form(&k, "/plan/hours", &once).await.status, 303);
    let id = bread(&k).await;
    let planned = plan(&k, &id, "").await.text;
    assert!(planned.contains("ferry") && planned.contains("night watch"), "both stand beside the plan");
    assert_eq!(form(&k, "/plan/hours", &[("remove", "0")]).await.status, 303);
    let page = get(&k, "/plan/hours").await.text;
    assert!(!page.contains("night watch") && page.contains("ferry"));
    // What is not there any more is taken away without a word.
    assert_eq!(form(&k, "/plan/hours", &[("remove", "40")]).await.status, 303);
    assert!(get(&k, "/plan/hours").await.text.contains("ferry"));
}

#[actix_web::test]
async fn hours_that_cannot_be_keep_what_was_typed() {
    let k = kitchen();
    let good = [("name", "out"), ("kind", "away"), ("days[]", "2"), ("from", "08:00"), ("to", "09:00")];
    for (field, typed, words) in [
        ("name", "", "Say in 1 to 40 letters"),
        ("from", "eightish", "Write an hour, for example 22:30"),
        ("to", "25:99", "Write an hour, for example 22:30 or 10.30 pm."),
        ("to", "08:00", "These hours end when they begin."),
        ("date", "Someday", "Write a day, for example tomorrow, Sat or 7 Nov."),
    ] {
        let mut fields: Vec<(&str, &str)> = good.iter().copied().filter(|(n, _)| *n != field).collect();
        fields.push((field, typed));
        let a = form(&k, "/plan/hours", &fields).await;
        assert_eq!(a.status, 422, "{field} {typed}");
        assert!(a.text.contains(words), "{field}: no “{words}”");
        assert!(typed.is_empty() || a.text.contains(&format!("value=\"{typed}\"")), "{field} lost “{typed}”");
    }
    let nowhen = [("name", "out"), ("kind", "away"), ("from", "08:00"), ("to", "09:00")];
    assert!(form(&k, "/plan/hours", &nowhen).await.text.contains("Choose the days, or give a date."));
    assert!(get(&k, "/api/v1/kitchen").await.json()["hours"].as_array().unwrap().is_empty(), "nothing of it is kept");
}

#[actix_web::test]
async fn breads_together_are_chosen_planned_and_used() {
    let k = kitchen();
    let (one, two) = (bread(&k).await, bread(&k).await);
    let chosen = get(&k, &format!("/plan/together?breads[]={one}&breads[]={two}&ready=2026-11-07T18:00")).await;
    assert_eq!(chosen.status, 200, "{}", chosen.text);
    let refused = form(&k, "/plan/together/use", &[("breads[]", &one), ("breads[]", &two), ("ready", "2026-11-07T18:00")]).await;
    assert_eq!(refused.status, 422, "nothing was shown, nothing begins");
    let fields = chosen.fields_of("/plan/together/use");
    let fields: Vec<(&str, &str)> = fields.iter().map(|(n, v)| (n.as_str(), v.as_str())).collect();
    let a = form(&k, "/plan/together/use", &fields).await;
    assert_eq!(a.status, 303, "{}", a.text);
    let day = get(&k, a.header("location").unwrap()).await.text;
    assert!(day.contains("The same day:"), "one day with its bakes");
    let bakes = get(&k, "/api/v1/bakes").await.json();
    assert_eq!(bakes["total"].as_i64(), Some(2), "both are under way");
    for query in ["", "?breads[]=no-such-bread&ready=2026-11-07T18:00", "?ready=whenever"] {
        let a = get(&k, &format!("/plan/together{query}")).await;
        assert!(a.status < 500, "{query}: {}", a.status);
    }
    // Before two are chosen the page says what the day holds already: both breads, hands and oven, and when the baker sleeps.
    let day = get(&k, "/plan/together").await.text;
    assert!(day.contains("What the day holds already"), "{day}");
    for words in ["hands at it", "in the oven", "asleep"] {
        assert!(day.contains(words), "{words}");
    }
    assert!(!chosen.text.contains("What the day holds already"), "a plan says it by itself");
    let past = get(&k, &format!("/plan/together?breads[]={one}&breads[]={two}&ready=2026-11-01T18:00")).await;
    assert!(past.text.contains("past"), "{}", past.status);
}

#[actix_web::test]
async fn a_jar_page_keeps_what_was_typed_and_says_why_not() {
    let k = kitchen();
    for (fields, words) in [
        ([("name", ""), ("flour", "plain-white"), ("hydration", "100")], "Give the jar a name"),
        ([("name", "Bell"), ("flour", "plain-white"), ("hydration", "soupy")], "is not a number"),
        ([("name", "Bell"), ("flour", "plain-white"), ("hydration", "9000")], "between"),
    ] {
        let a = form(&k, "/leaven", &fields).await;
        assert_eq!(a.status, 422, "{fields:?}");
        assert!(a.text.contains(words), "{fields:?}: no “{words}”");
        assert!(fields.iter().filter(|f| !f.1.is_empty() && f.0 != "flour").all(|f| a.text.contains(f.1)), "{fields:?}");
    }
    let made = form(&k, "/leaven", &[("name", "Bell"), ("flour", "plain-white"), ("hydration", "100")]).await;
    assert_eq!(made.status, 303, "{}", made.text);
    let jar = made.header("location").unwrap().to_owned();
    let empty = get(&k, &jar).await;
    assert!(empty.status == 200 && !empty.text.contains("NaN"), "a jar never fed");
    for fields in [
        vec![("kind", "fed"), ("seed", "all"), ("water", "50"), ("flour", "50")],
        vec![("kind", "fed"), ("seed", "10"), ("water", "-5"), ("flour", "50")],
        vec![("kind", "level"), ("value", "high")],
        vec![("kind", "moved"), ("what", "moon")],
        vec![("kind", "fly")],
    ] {
        let a = form(&k, &jar, &fields).await;
        assert!(a.status == 422 && a.text.contains("class=\"wrong\""), "{fields:?}: {}", a.status);
    }
    assert_eq!(form(&k, &jar, &[("kind", "fed"), ("seed", "20"), ("water", "60"), ("flour", "60"), ("what", "room")]).await.status, 303);
    for query in ["?grams=lots", "?grams=-5", "?at=never", "?grams=130&at=2026-11-07T07:00", "?keep=NaN"] {
        let a = get(&k, &format!("{jar}{query}")).await;
        assert!(a.status < 500 && !a.text.contains("NaN g"), "{query}: {}", a.status);
    }
}

#[actix_web::test]
async fn the_places_of_a_running_dough_are_told_and_one_tap_moves_it() {
    let k = kitchen();
    let id = bread(&k).await;
    let begun = form(&k, "/plan/by-hand/use", &[("formula", &id)]).await;
    let day = format!("/bakeday/{}", begun.bake());
    let before = get(&k, &day).await.text;
    assert!(!before.contains("Where it could stand") && before.contains("Moved to the"), "nothing rises yet");
    assert_eq!(form(&k, &format!("{day}/events"), &[("kind", "mixed")]).await.status, 303);
    let rising = get(&k, &day).await.text;
    assert!(rising.contains("Where it could stand"));
    let row = |text: &str, place: &str| {
        let table = text.split_once("class=\"spots\"").unwrap().1.split("</table>").next().unwrap().to_owned();
        table.split("<tr").find(|r| r.contains(&format!("<th scope=\"row\">{place} "))).unwrap().to_owned()
    };
    assert!(row(&rising, "room").contains("it stands here"));
    assert_eq!(form(&k, &format!("{day}/events"), &[("kind", "moved"), ("what", "fridge")]).await.status, 303);
    let cold = get(&k, &day).await.text;
    assert!(row(&cold, "fridge").contains("it stands here") && row(&cold, "room").contains("Moved to the room"));
    for kind in ["shaped", "loaded"] {
        assert_eq!(form(&k, &format!("{day}/events"), &[("kind", kind)]).await.status, 303);
    }
    assert!(!get(&k, &day).await.text.contains("Where it could stand"), "in the oven it stands nowhere else");
}

#[actix_web::test]
async fn the_sheet_and_the_files_of_a_plan_refuse_what_is_none() {
    let k = kitchen();
    let id = bread(&k).await;
    for path in ["/plan/sheet", "/plan/file.ics", "/plan/file.json"] {
        let none = get(&k, &format!("{path}?formula={id}&p[ready]=2026-11-06T17:00")).await;
        assert!(none.status < 500, "{path}: {}", none.status);
        assert_eq!(get(&k, &format!("{path}?formula=no-such-bread&p[ready]=2026-11-07T18:00")).await.status, 404, "{path}");
    }
    assert_eq!(get(&k, &format!("/plan/file.exe?formula={id}")).await.status, 404);
    let used = form(&k, "/plan/use", &[("formula", &id), ("p[ready]", "2026-11-01T18:00")]).await;
    assert!(used.status != 303 || !used.header("location").unwrap().starts_with("/bakeday/"), "no bake of an hour that is past");
}

#[actix_web::test]
async fn water_tells_what_no_kitchen_has_at_its_field() {
    let k = kitchen();
    let id = bread(&k).await;
    let good = get(&k, &format!("/water?formula={id}")).await;
    assert!(good.status == 200 && good.text.contains("g from the tap"), "{}", good.status);
    for (field, typed, words) in [
        ("target_c", "99", "The dough&#39;s target must be between 10 and 40 °C."),
        ("room_c", "-200", "This temperature must be between −30 and 60 °C."),
        ("fridge_c", "900", "This temperature must be between −30 and 60 °C."),
        ("flour_c", "cool", "is not a number"),
    ] {
        let a = get(&k, &format!("/water?formula={id}&w[{field}]={typed}")).await;
        assert_eq!(a.status, 422, "{field}");
        assert!(a.text.contains(words) && a.text.contains(&format!("value=\"{typed}\"")), "{field}: no “{words}”");
        assert!(a.text.contains("Mend the marked field."), "{field}: no figure stands beside a wrong one");
    }
}

#[actix_web::test]
async fn a_bake_a_day_early_says_so_in_hours_and_days_and_between_loads_nothing_is_in_the_oven() {
    let k = kitchen();
    let id = bread(&k).await;
    let page = get(&k, &format!("/plan?formula={id}&p[ready]=2026-11-07T18:00&p[loads]=2")).await;
    let bake = use_shown(&k, &page, &[]).await.bake();
    let day = format!("/bakeday/{bake}");
    let note = |kind: &'static str, at: &'static str| {
        let (k, bake) = (&k, &bake);
        async move {
            let a = post(k, &format!("/api/v1/bakes/{bake}/events"), &json!({ "kind": kind, "at": at })).await;
            assert_eq!(a.status, 201, "{kind}: {}", a.text);
        }
    };
    note("mixed", "2026-11-06T14:30:00Z").await;
    note("shaped", "2026-11-06T15:30:00Z").await;
    let early = get(&k, &day).await.text;
    assert!(early.contains(" h early. Ready") && !early.contains("min early"), "no thousand minutes");
    assert!(early.contains("<s>Sat "), "the day it was planned for stands beside the hour");
    note("loaded", "2026-11-06T16:10:00Z").await;
    assert!(get(&k, &day).await.text.contains("Core now"));
    note("out", "2026-11-06T16:35:00Z").await;
    let between = get(&k, &day).await.text;
    assert!(between.contains("Load 2") && !between.contains("Core now") && !between.contains("How it came out"));
}
