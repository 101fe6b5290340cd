//! The formula's sheet as a browser without script sends it: each deed a button.

use super::{Answer, Kitchen, form, kitchen};

/// The fields of a sheet of four lines.
fn fields<'a>(extra: &[(&'a str, &'a str)]) -> Vec<(&'a str, &'a str)> {
    let mut all = vec![
        ("name", "Harbour loaf"),
        ("lines[0][ingredient]", "Bread flour"),
        ("lines[0][grams]", "500"),
        ("lines[1][ingredient]", "Water"),
        ("lines[1][grams]", "340"),
        ("lines[2][ingredient]", "Fine salt"),
        ("lines[2][grams]", "10"),
        ("lines[3][ingredient]", "Instant yeast"),
        ("lines[3][grams]", "3"),
    ];
    for (name, value) in extra {
        match all.iter_mut().find(|(n, _)| n == name) {
            Some(field) => field.1 = value,
            None => all.push((name, value)),
        }
    }
    all
}

async fn sheet(k: &Kitchen, extra: &[(&str, &str)]) -> Answer {
    form(k, "/formula", &fields(extra)).await
}

/// What stands in a field of the answer.
fn value(a: &Answer, name: &str) -> String {
    let (_, rest) = a.text.split_once(&format!("name=\"{name}\"")).unwrap_or_else(|| panic!("{name} is not there"));
    let (tag, _) = rest.split_once('>').unwrap();
    tag.split_once("value=\"").map(|(_, v)| v.split('"').next().unwrap().to_owned()).unwrap_or_default()
}

fn names(a: &Answer) -> Vec<String> {
    (0..20)
        .map_while(|i| a.text.contains(&format!("name=\"lines[{i}][ingredient]\"")).then(|| value(a, &format!("lines[{i}][ingredient]"))))
        .collect()
}

#[actix_web::test]
async fn figures_are_worked_out() {
    let k = kitchen();
    let a = sheet(&k, &[("do", "again")]).await;
    assert_eq!(a.status, 200);
    assert!(a.text.contains("853 g") && a.text.contains("500 g"), "dough and flour");
    assert!(a.text.contains("Nothing is wrong with it."));
}

#[actix_web::test]
async fn lines_go_up_and_down_and_stay_at_the_ends() {
    let k = kitchen();
    let order = |deed: &'static str| {
        let k = &k;
        async move { names(&sheet(k, &[("do", deed)]).await) }
    };
    let plain = order("again").await;
    assert_eq!(plain.len(), 4);
    let down = order("down:0").await;
    assert_eq!((&down[0], &down[1]), (&plain[1], &plain[0]));
    let up = order("up:3").await;
    assert_eq!((&up[2], &up[3]), (&plain[3], &plain[2]));
    assert_eq!(order("up:0").await, plain);
    assert_eq!(order("down:3").await, plain);
    assert_eq!(order("up:99").await, plain);
    assert_eq!(order("up:x").await, plain);
}

#[actix_web::test]
async fn a_line_is_taken_out() {
    let k = kitchen();
    let a = sheet(&k, &[("do", "remove:2")]).await;
    assert_eq!(names(&a).len(), 3);
    assert!(a.text.contains("No salt."));
}

#[actix_web::test]
async fn a_new_line_is_quiet_until_something_stands_in_it() {
    let k = kitchen();
    let a = sheet(&k, &[("do", "add")]).await;
    assert_eq!((a.status, names(&a).len()), (200, 5));
    assert!(!a.text.contains("class=\"wrong\""));
    let a = sheet(&k, &[("lines[4][ingredient]", ""), ("lines[4][grams]", ""), ("do", "again")]).await;
    assert_eq!((a.status, names(&a).len()), (200, 5));
    let a = sheet(&k, &[("lines[4][ingredient]", ""), ("lines[4][grams]", ""), ("do", "remove:4")]).await;
    assert_eq!((a.status, names(&a).len()), (200, 4));
    let a = sheet(&k, &[("lines[4][ingredient]", "honey"), ("lines[4][grams]", ""), ("do", "again")]).await;
    assert_eq!(a.status, 422);
    assert!(a.text.contains("Write a number here"), "half a line is asked about");
}

#[actix_web::test]
async fn an_empty_line_is_not_kept() {
    let k = kitchen();
    let a = sheet(&k, &[("lines[4][ingredient]", ""), ("lines[4][grams]", ""), ("do", "save")]).await;
    assert_eq!(a.status, 303);
    let kept = super::get(&k, a.header("location").unwrap()).await;
    assert_eq!(names(&kept).len(), 4);
}

#[actix_web::test]
async fn the_sentence_makes_more_of_it_by_each_thing_that_is_kept() {
    let k = kitchen();
    for (keep, extra) in [
        ("flour", vec![("scale[flour_g]", "1000")]),
        ("dough", vec![("scale[dough_g]", "1706")]),
        ("pieces", vec![("scale[count]", "2"), ("scale[piece_g]", "853")]),
        ("ingredient", vec![("scale[ingredient]", "Fine salt"), ("scale[grams]", "20")]),
    ] {
        let seen = sheet(&k, &[&extra[..], &[("scale[keep]", keep), ("do", "again")]].concat()).await;
        assert_eq!((seen.status, value(&seen, "lines[0][grams]").as_str()), (200, "500"), "{keep}: looking changes nothing");
        assert!(seen.text.contains("becomes") && seen.text.contains("1\u{2009}706 g") && seen.text.contains("twice as much"), "{keep}");
        let a = sheet(&k, &[&extra[..], &[("scale[keep]", keep), ("do", "make")]].concat()).await;
        assert_eq!((a.status, value(&a, "lines[0][grams]").as_str()), (200, "1000"), "{keep}");
        assert!(!a.text.contains("twice as much"), "{keep}: it is taken");
        // What was seen is not lost by saving before it was taken.
        let saved = sheet(&k, &[&extra[..], &[("scale[keep]", keep), ("do", "save")]].concat()).await;
        let kept = super::get(&k, saved.header("location").unwrap()).await;
        assert_eq!(value(&kept, "lines[1][grams]"), "680", "{keep}");
    }
}

#[actix_web::test]
async fn flour_that_is_short_is_told_with_what_can_be_made_instead() {
    let k = kitchen();
    let wish = [("scale[keep]", "pieces"), ("scale[count]", "2"), ("scale[piece_g]", "450"), ("scale[flour_g]", "500")];
    let seen = sheet(&k, &[&wish[..], &[("do", "again")]].concat()).await;
    assert!(seen.text.contains("28 g of flour short.") && seen.text.contains("2 of 450 g want 528 g."), "{}", seen.text);
    assert!(seen.text.contains("2 of 427 g instead") && seen.text.contains("1 of 450 g, 403 g over"));
    let smaller = sheet(&k, &[&wish[..], &[("do", "make:smaller")]].concat()).await;
    assert_eq!((value(&smaller, "lines[0][grams]").as_str(), value(&smaller, "pieces[exact_g]").as_str()), ("500", "426.5"));
    let fewer = sheet(&k, &[&wish[..], &[("do", "make:fewer")]].concat()).await;
    assert_eq!((value(&fewer, "pieces[count]").as_str(), value(&fewer, "pieces[exact_g]").as_str()), ("1", "450"));
    // Enough flour: nothing is short, however it is asked.
    for deed in ["again", "make:smaller", "make:fewer"] {
        let enough = sheet(&k, &[&wish[..3], &[("scale[flour_g]", "900"), ("do", deed)]].concat()).await;
        assert!(enough.status == 200 && !enough.text.contains("of flour short"), "{deed}");
    }
}

#[actix_web::test]
async fn a_shape_a_weave_and_a_tin_change_no_weight() {
    let k = kitchen();
    let told = [("pieces[count]", "1"), ("pieces[exact_g]", "600")];
    let woven = sheet(&k, &[&told[..], &[("scale[strands]", "4"), ("scale[shape]", ""), ("do", "make")]].concat()).await;
    assert_eq!((value(&woven, "lines[0][grams]").as_str(), value(&woven, "pieces[strands]").as_str()), ("500", "4"));
    assert!(woven.text.contains("4 strands of 150 g"));
    let tin = sheet(&k, &[&told[..], &[("scale[pan]", "loaf-uk-2lb"), ("do", "make")]].concat()).await;
    assert_eq!((value(&tin, "lines[0][grams]").as_str(), value(&tin, "pieces[pan]").as_str()), ("500", "loaf-uk-2lb"));
    assert_eq!((value(&tin, "pieces[shape]").as_str(), chosen(&tin, "pieces[vessel]").as_str()), ("pan", "pan-metal"));
    let out = [("pieces[count]", "1"), ("pieces[pan]", "loaf-uk-2lb"), ("pieces[shape]", "pan"), ("pieces[vessel]", "pan-metal")];
    let out = sheet(&k, &[&out[..], &[("scale[pan]", ""), ("scale[shape]", "pan"), ("do", "make")]].concat()).await;
    assert_eq!((value(&out, "pieces[pan]"), chosen(&out, "pieces[vessel]"), value(&out, "pieces[shape]")), Default::default());
}

/// The option of a select that is taken.
fn chosen(a: &Answer, field: &str) -> String {
    let (_, rest) = a.text.split_once(&format!("name=\"{field}\"")).unwrap_or_else(|| panic!("{field} is not there"));
    let options = rest.split("</select>").next().unwrap();
    let taken = options.split("<option ").find(|o| o.contains(" selected")).unwrap_or_default();
    taken.split_once("value=\"").map(|(_, v)| v.split('"').next().unwrap().to_owned()).unwrap_or_default()
}

#[actix_web::test]
async fn a_bake_is_told_in_stages_and_plainly_again() {
    let k = kitchen();
    let plain = [("oven[set_c]", "250"), ("oven[low]", "20"), ("oven[high]", "20"), ("pieces[vessel]", "pot")];
    let two = sheet(&k, &[&plain[..], &[("do", "stage")]].concat()).await;
    assert_eq!((value(&two, "stages[0][set_c]").as_str(), value(&two, "stages[1][set_c]").as_str()), ("250", ""));
    assert_eq!((chosen(&two, "pieces[vessel]").as_str(), chosen(&two, "stages[0][how]").as_str()), ("pot", "bakes"));
    let told = [
        ("pieces[vessel]", "pot"),
        ("stages[0][how]", "lid-on"),
        ("stages[0][set_c]", "250"),
        ("stages[0][minutes_low]", "20"),
        ("stages[1][how]", "lid-off"),
        ("stages[1][set_c]", "220"),
        ("stages[1][minutes_low]", "20"),
        ("stages[1][minutes_high]", "25"),
        ("stages[2][how]", "off-ajar"),
        ("stages[2][minutes_low]", "10"),
    ];
    // Saved and opened again it is the same.
    let saved = sheet(&k, &[&told[..], &[("do", "save")]].concat()).await;
    let kept = super::get(&k, saved.header("location").unwrap()).await;
    let ways: Vec<String> = (0..3).map(|i| chosen(&kept, &format!("stages[{i}][how]"))).collect();
    assert_eq!(ways, ["lid-on", "lid-off", "off-ajar"]);
    assert_eq!((value(&kept, "stages[1][set_c]").as_str(), value(&kept, "stages[1][minutes_high]").as_str()), ("220", "25"));
    assert_eq!(chosen(&kept, "pieces[vessel]"), "pot");
    // What is no setting stays as typed and is told.
    let wrong = sheet(&k, &[&told[..2], &[("stages[0][set_c]", "hot"), ("do", "again")]].concat()).await;
    assert_eq!(value(&wrong, "stages[0][set_c]"), "hot");
    let said =
        |a: &Answer, i: usize| a.text.split(&format!("id=\"wrong-stage-{i}\"")).nth(1).unwrap().split("</div>").next().unwrap().to_owned();
    let long = sheet(&k, &[&told[..], &[("stages[1][minutes_high]", "6000"), ("do", "again")]].concat()).await;
    assert!(said(&long, 1).contains("between 0 and 600 minutes") && !said(&long, 0).contains("minutes"), "told at its stage");
    // The focus goes on: to the new stage, and after one is out to the button below them.
    assert!(two.text.split("name=\"stages[1][how]\"").nth(1).unwrap().split('>').next().unwrap().contains("autofocus"));
    // Twelve are enough.
    let many: Vec<(String, String)> = (0..12).map(|i| (format!("stages[{i}][minutes_low]"), "3".to_owned())).collect();
    let many: Vec<(&str, &str)> = many.iter().map(|(a, b)| (a.as_str(), b.as_str())).chain([("do", "again")]).collect();
    assert!(!sheet(&k, &many).await.text.contains("Another stage"));
    // One stage that says nothing of lid or door is told plainly.
    let one = [("stages[0][set_c]", "230"), ("stages[0][minutes_low]", "35"), ("stages[1][set_c]", "200"), ("do", "stage:1")];
    let one = sheet(&k, &one).await;
    assert_eq!((value(&one, "oven[set_c]").as_str(), value(&one, "oven[low]").as_str()), ("230", "35"));
}

#[actix_web::test]
async fn a_wrong_figure_in_the_sentence_stays_and_is_told() {
    let k = kitchen();
    for (keep, field, typed) in [
        ("flour", "scale[flour_g]", "some"),
        ("flour", "scale[flour_g]", "-4"),
        ("pieces", "scale[flour_g]", "-4"),
        ("dough", "scale[dough_g]", "a bucket"),
        ("pieces", "scale[count]", "many"),
        ("pieces", "scale[count]", "1.5"),
        ("dough", "scale[piece_g]", "0"),
        ("ingredient", "scale[grams]", "a pinch"),
        ("ripe", "scale[ripe_h]", "200"),
        ("ripe", "scale[count]", "3"),
        ("tin", "scale[count]", "600"),
        ("pieces", "scale[shape]", "cloud"),
        ("pieces", "scale[strands]", "5"),
        ("pieces", "scale[pan]", "bucket"),
    ] {
        for deed in ["again", "make", "save", "plan"] {
            let a = sheet(&k, &[("scale[ingredient]", "Fine salt"), ("scale[keep]", keep), (field, typed), ("do", deed)]).await;
            assert_eq!(a.status, 422, "{deed} {field} {typed}");
            assert!(a.text.contains("class=\"wrong\""), "{deed} {field}");
            assert_eq!(value(&a, "lines[0][grams]"), "500", "{deed} {field}: nothing was scaled");
            if !["scale[shape]", "scale[strands]", "scale[pan]"].contains(&field) {
                assert_eq!(value(&a, field), typed, "{deed}");
            }
        }
    }
}

#[actix_web::test]
async fn what_cannot_be_read_of_the_oven_stays_and_is_told() {
    let k = kitchen();
    for (field, typed) in [("oven[set_c]", "hot"), ("oven[low]", "soon"), ("oven[high]", "later")] {
        let a = sheet(&k, &[(field, typed), ("do", "save")]).await;
        assert_eq!(a.status, 422, "{field}");
        assert!(a.text.contains(&format!("“{typed}” is not a number")), "{field}");
        assert_eq!(value(&a, field), typed, "{field}");
    }
}

#[actix_web::test]
async fn remedies_are_taken_by_their_name() {
    let k = kitchen();
    let a = sheet(&k, &[("do", "remove:2")]).await;
    let (_, rest) = a.text.split_once("value=\"remedy:").unwrap();
    let deed = format!("remedy:{}", rest.split('"').next().unwrap());
    let mended = form(
        &k,
        "/formula",
        &[
            ("lines[0][ingredient]", "Bread flour"),
            ("lines[0][grams]", "500"),
            ("lines[1][ingredient]", "Water"),
            ("lines[1][grams]", "340"),
            ("lines[2][ingredient]", "Instant yeast"),
            ("lines[2][grams]", "3"),
            ("do", &deed),
        ],
    )
    .await;
    assert_eq!(mended.status, 200);
    assert!(!mended.text.contains("No salt."));
    assert!(names(&mended).iter().any(|n| n.contains("salt")), "{:?}", names(&mended));
    for nonsense in
        ["remedy:no-such:0:Add 10 g", "remedy:salt-missing:7:Add 10 g", "remedy:", "remedy:x:y", "ask:0:no:no", "ask:", "scale:", "juggle"]
    {
        assert!(sheet(&k, &[("do", nonsense)]).await.status < 500, "{nonsense}");
    }
}

/// The recipe was changed while a hand was on its way to a button: the button's own deed is done, or none.
#[actix_web::test]
async fn a_button_drawn_before_the_last_key_does_its_own_deed_or_none() {
    let k = kitchen();
    let bread = |flour: &'static str, salt: Option<&'static str>, deed: &str| {
        let mut all = vec![
            ("lines[0][ingredient]", "Bread flour".to_owned()),
            ("lines[0][grams]", flour.to_owned()),
            ("lines[1][ingredient]", "Water".to_owned()),
            ("lines[1][grams]", "340".to_owned()),
            ("lines[2][ingredient]", "Instant yeast".to_owned()),
            ("lines[2][grams]", "50".to_owned()),
        ];
        if let Some(salt) = salt {
            all.extend([("lines[3][ingredient]", "Fine salt".to_owned()), ("lines[3][grams]", salt.to_owned())]);
        }
        all.push(("do", deed.to_owned()));
        all
    };
    let send = async |body: Vec<(&'static str, String)>| {
        let pairs: Vec<(&str, &str)> = body.iter().map(|(k, v)| (*k, v.as_str())).collect();
        form(&k, "/formula", &pairs).await
    };
    let drawn = send(bread("500", None, "again")).await;
    let deeds: Vec<String> = drawn.text.split("value=\"remedy:").skip(1).map(|r| r.split('"').next().unwrap().to_owned()).collect();
    let salt = deeds.iter().find(|d| d.starts_with("salt-missing")).unwrap();
    // Meanwhile the salt was typed in: its finding is gone, and no other finding's remedy is taken in its place.
    let after = send(bread("500", Some("10"), &format!("remedy:{salt}"))).await;
    assert_eq!(names(&after).iter().filter(|n| n.contains("salt")).count(), 1, "{:?}", names(&after));
    assert!(after.text.contains("value=\"50\""), "the yeast stays as it was typed");
    // Meanwhile the flour was doubled: the salt is that of the flour that stands there.
    let after = send(bread("1000", None, &format!("remedy:{salt}"))).await;
    assert!(after.text.contains("value=\"20\"") && after.text.contains("value=\"50\""), "{:?}", names(&after));
}

#[actix_web::test]
async fn saving_leads_where_the_button_says() {
    let k = kitchen();
    for (deed, to) in [("save", "/formula/"), ("plan", "/plan?formula="), ("oven", "/oven?formula=")] {
        let a = sheet(&k, &[("do", deed)]).await;
        assert_eq!(a.status, 303, "{deed}");
        let place = a.header("location").unwrap();
        assert!(place.starts_with(to), "{deed}: {place}");
        assert_eq!(super::get(&k, place).await.status, 200, "{place}");
    }
}

#[actix_web::test]
async fn saving_again_keeps_the_same_bread() {
    let k = kitchen();
    let first = sheet(&k, &[("do", "save")]).await;
    let id = first.header("location").unwrap().trim_start_matches("/formula/").to_owned();
    let second = sheet(&k, &[("id", &id), ("lines[1][grams]", "360"), ("do", "save")]).await;
    assert_eq!(second.header("location"), Some(format!("/formula/{id}").as_str()));
    let kept = super::get(&k, &format!("/formula/{id}")).await;
    assert_eq!(value(&kept, "lines[1][grams]"), "360");
}

#[actix_web::test]
async fn what_a_baker_names_a_bread_is_never_taken_for_markup() {
    let k = kitchen();
    let a = sheet(&k, &[("name", "<script>alert(1)</script> & \"loaf\""), ("do", "save")]).await;
    for page in [a.header("location").unwrap(), "/", "/plan"] {
        let text = super::get(&k, page).await.text;
        assert!(!text.contains("<script>alert"), "{page}");
    }
}

#[actix_web::test]
async fn another_ingredient_is_offered_and_taken_with_what_it_needs() {
    let k = kitchen();
    let lines: Vec<(String, String)> =
        [("Bread flour", "500"), ("Water", "290"), ("White sugar", "50"), ("Fine salt", "9"), ("Instant yeast", "6")]
            .iter()
            .enumerate()
            .flat_map(|(i, (name, g))| {
                [(format!("lines[{i}][ingredient]"), (*name).to_owned()), (format!("lines[{i}][grams]"), (*g).to_owned())]
            })
            .collect();
    let with = |more: &[(&str, &str)]| {
        let mut all: Vec<(String, String)> = lines.clone();
        all.extend(more.iter().map(|(n, v)| ((*n).to_owned(), (*v).to_owned())));
        all
    };
    let sent = async |fields: Vec<(String, String)>| {
        let fields: Vec<(&str, &str)> = fields.iter().map(|(n, v)| (n.as_str(), v.as_str())).collect();
        form(&k, "/formula", &fields).await
    };
    let offered = sent(with(&[("instead", "2"), ("do", "swaps")])).await;
    for words in ["Instead of 50 g white sugar", "61 g honey", "10 g water less", "swap:2:sugar-to-honey"] {
        assert!(offered.text.contains(words), "{words}");
    }
    let taken = sent(with(&[("do", "swap:2:sugar-to-honey")])).await;
    assert!(taken.text.contains("value=\"Honey\"") && taken.text.contains("value=\"280\""));
    assert_eq!(sent(with(&[("do", "swap:99:nothing")])).await.status, 200, "a stale button changes nothing");
    let tins = sent(with(&[("scale[keep]", "tin"), ("scale[count]", "2"), ("scale[pan]", "loaf-uk-2lb"), ("do", "again")])).await;
    assert!(tins.text.contains("value=\"loaf-uk-2lb\" selected"), "two tins, filled");
}

#[actix_web::test]
async fn every_step_of_a_visit_is_undone_and_done_again() {
    let k = kitchen();
    let flour = |a: &Answer| value(a, "lines[0][grams]");
    let first = sheet(&k, &[("do", "again")]).await;
    let visit = value(&first, "visit");
    let send = async |lines: [&str; 4], more: &[(&str, &str)]| {
        let names = ["lines[0][grams]", "lines[1][grams]", "lines[2][grams]", "lines[3][grams]"];
        let grown: Vec<(&str, &str)> = names.into_iter().zip(lines).collect();
        sheet(&k, &[&grown[..], &[("visit", visit.as_str())], more].concat()).await
    };
    let (was, twice, four) = (["500", "340", "10", "3"], ["1000", "680", "20", "6"], ["2000", "1360", "40", "12"]);
    send(was, &[("do", "make"), ("scale[keep]", "flour"), ("scale[flour_g]", "1000")]).await;
    send(twice, &[("do", "make"), ("scale[keep]", "flour"), ("scale[flour_g]", "2000")]).await;
    // Typing on in one field is one step.
    for typed in ["1", "13", "1300"] {
        send(["2000", typed, "40", "12"], &[("do", ""), ("field", "lines[1][grams]")]).await;
    }
    let back = send(["2000", "1300", "40", "12"], &[("do", "undo")]).await;
    assert_eq!((flour(&back).as_str(), value(&back, "lines[1][grams]").as_str()), ("2000", "1360"));
    assert_eq!(flour(&send(four, &[("do", "undo")]).await), "1000");
    let start = send(twice, &[("do", "undo")]).await;
    assert!(flour(&start) == "500" && value(&start, "lines[3][grams]") == "3");
    assert_eq!(flour(&send(was, &[("do", "undo")]).await), "500", "there is nothing before it");
    for _ in 0..2 {
        send(was, &[("do", "redo")]).await;
    }
    let last = send(four, &[("do", "redo")]).await;
    assert_eq!(value(&last, "lines[1][grams]"), "1300");
    // The visit goes on behind a save.
    let saved = send(["2000", "1300", "40", "12"], &[("do", "save")]).await;
    let kept = super::get(&k, saved.header("location").unwrap()).await;
    assert_eq!(value(&kept, "visit"), visit);
    assert_eq!(value(&send(["2000", "1300", "40", "12"], &[("do", "undo")]).await, "lines[1][grams]"), "1360");
    // A visit nobody knows is a new one, and no word stands in the way.
    for stranger in ["", "nonsense", "0191d0e2-0000-7000-8000-000000000000"] {
        let a = sheet(&k, &[("visit", stranger), ("do", "undo")]).await;
        assert_eq!((a.status, flour(&a).as_str()), (200, "500"), "{stranger}");
    }
}
