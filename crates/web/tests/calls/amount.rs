//! How much of it, as the page's sentence says it: in any units, with any nonsense, and never taken before it is asked for.

use serde_json::json;

use super::{Answer, Kitchen, form, get, kitchen, put};

/// A sheet of four lines that makes so many pieces.
fn fields<'a>(extra: &[(&'a str, &'a str)]) -> Vec<(&'a str, &'a str)> {
    let mut all = vec![
        ("name", "Harbour rolls"),
        ("lines[0][ingredient]", "Bread flour"),
        ("lines[0][exact]", "500"),
        ("lines[0][grams]", "500"),
        ("lines[0][was]", "500"),
        ("lines[1][ingredient]", "Whole egg"),
        ("lines[1][exact]", "110"),
        ("lines[1][grams]", "110"),
        ("lines[1][was]", "110"),
        ("lines[2][ingredient]", "Water"),
        ("lines[2][exact]", "200"),
        ("lines[2][grams]", "200"),
        ("lines[2][was]", "200"),
        ("lines[3][ingredient]", "Fine salt"),
        ("lines[3][exact]", "10"),
        ("lines[3][grams]", "10"),
        ("lines[3][was]", "10"),
        ("lines[4][ingredient]", "Instant yeast"),
        ("lines[4][exact]", "5"),
        ("lines[4][grams]", "5"),
        ("lines[4][was]", "5"),
        ("pieces[count]", "10"),
        ("pieces[exact_g]", "82.5"),
        ("pieces[shape]", "ball"),
    ];
    all.extend_from_slice(extra);
    all
}

async fn sheet(k: &Kitchen, extra: &[(&str, &str)]) -> Answer {
    form(k, "/formula", &fields(extra)).await
}

/// What stands in a field of the answer, as it was typed or as it follows.
fn value(a: &Answer, name: &str, of: &str) -> String {
    let (_, rest) = a.text.split_once(&format!("name=\"{name}\"")).unwrap_or_else(|| panic!("{name} is not there"));
    let (tag, _) = rest.split_once('>').unwrap();
    tag.split_once(&format!("{of}=\"")).map(|(_, v)| v.split('"').next().unwrap().to_owned()).unwrap_or_default()
}

/// The region in which everything becomes something.
fn becomes(a: &Answer) -> &str {
    let (_, rest) = a.text.split_once("id=\"becomes\"").unwrap();
    rest.split("</section>").next().unwrap()
}

#[actix_web::test]
async fn the_sentence_says_what_there_is_and_follows_what_is_told() {
    let k = kitchen();
    let a = sheet(&k, &[("do", "again")]).await;
    let follows = |a: &Answer, name: &str| value(a, name, "placeholder");
    for (name, stands) in
        [("scale[count]", "10"), ("scale[piece_g]", "83"), ("scale[flour_g]", "500"), ("scale[dough_g]", "825"), ("scale[eggs]", "2")]
    {
        assert_eq!((follows(&a, name).as_str(), value(&a, name, "value").as_str()), (stands, ""), "{name}");
    }
    assert!(a.text.contains(">rolls</option>") && a.text.contains("Touch a number"), "small rounds are rolls");
    // Twice the flour: everything follows, and as many rolls of the old weight are offered.
    let twice = sheet(&k, &[("scale[keep]", "flour"), ("scale[flour_g]", "1000"), ("do", "again")]).await;
    for (name, stands) in [("scale[count]", "10"), ("scale[piece_g]", "165"), ("scale[dough_g]", "1650"), ("scale[eggs]", "4")] {
        assert_eq!(follows(&twice, name), stands, "{name}");
    }
    let says = becomes(&twice);
    assert!(says.contains("10 of 165 g each.") && says.contains("20 of 83 g instead"), "{says}");
    let more = sheet(&k, &[("scale[keep]", "flour"), ("scale[flour_g]", "1000"), ("do", "make:alike")]).await;
    assert_eq!((value(&more, "pieces[count]", "value").as_str(), value(&more, "pieces[exact_g]", "value").as_str()), ("20", "82.5"));
    // Large rounds are loaves.
    let loaves = sheet(&k, &[("scale[count]", "2"), ("scale[keep]", "dough"), ("do", "again")]).await;
    assert!(loaves.text.contains(">round loaves</option>"), "two of 412 g");
    let one = sheet(&k, &[("scale[count]", "1"), ("scale[keep]", "dough"), ("do", "again")]).await;
    assert!(one.text.contains(">round loaf</option>"));
}

#[actix_web::test]
async fn rolls_from_the_dough_there_is_leave_a_lump_over() {
    let k = kitchen();
    let a = sheet(&k, &[("scale[keep]", "dough"), ("scale[piece_g]", "90"), ("do", "again")]).await;
    assert!(becomes(&a).contains("15 g of dough left over"), "{}", becomes(&a));
    assert_eq!(value(&a, "scale[count]", "placeholder"), "9");
    let kept = sheet(&k, &[("scale[keep]", "dough"), ("scale[piece_g]", "90"), ("do", "make")]).await;
    assert_eq!((value(&kept, "pieces[count]", "value").as_str(), value(&kept, "pieces[exact_g]", "value").as_str()), ("9", "90"));
    assert_eq!(value(&kept, "lines[0][exact]", "value"), "500", "the dough stays as it is");
}

#[actix_web::test]
async fn whole_eggs_and_the_hours_of_the_rise_are_kept() {
    let k = kitchen();
    let eggs = sheet(&k, &[("scale[keep]", "eggs"), ("scale[eggs]", "3"), ("do", "make")]).await;
    let grams: f64 = value(&eggs, "lines[1][exact]", "value").parse().unwrap();
    assert!((150.0..165.0).contains(&grams), "three eggs out of their shells: {grams}");
    let nearest = sheet(&k, &[("scale[keep]", "eggs"), ("do", "again")]).await;
    assert!(becomes(&nearest).contains("becomes"), "whole eggs are a wish of their own");
    let half = sheet(&k, &[("scale[keep]", "eggs"), ("scale[eggs]", "2.5"), ("do", "make")]).await;
    assert!(half.status == 422 && half.text.contains("Whole eggs"), "{}", half.status);
    let slow = sheet(&k, &[("scale[keep]", "ripe"), ("scale[ripe_h]", "10"), ("scale[place_c]", "19"), ("do", "make")]).await;
    let yeast: f64 = value(&slow, "lines[4][exact]", "value").parse().unwrap();
    assert!(yeast < 3.0 && value(&slow, "lines[0][exact]", "value") == "500", "{yeast}");
}

#[actix_web::test]
async fn what_would_be_wrong_with_it_is_told_before_it_is_taken() {
    let k = kitchen();
    let tin = [("pieces[count]", "1"), ("scale[pan]", "loaf-uk-2lb"), ("scale[keep]", "pieces")];
    let small =
        form(&k, "/formula", &[&fields(&[])[..21], &tin, &[("scale[count]", "1"), ("scale[piece_g]", "300"), ("do", "again")]].concat())
            .await;
    assert!(becomes(&small).contains("stay below the rim"), "{}", becomes(&small));
    let large =
        form(&k, "/formula", &[&fields(&[])[..21], &tin, &[("scale[count]", "1"), ("scale[piece_g]", "1900"), ("do", "again")]].concat())
            .await;
    assert!(becomes(&large).contains("class=\"wrong\""), "{}", becomes(&large));
}

/// Whatever stands in the sentence, the page answers, keeps what was typed, and takes nothing that it has not understood.
#[actix_web::test]
async fn no_word_breaks_the_sentence_and_none_is_lost() {
    let k = kitchen();
    let words = [
        "",
        " ",
        "0",
        "-1",
        "1e9",
        "NaN",
        "inf",
        "½",
        "1/2",
        "2,5",
        "a dozen",
        "12 rolls",
        "<b>",
        "\u{202e}7",
        "9999999999999999999999",
        "450 g",
    ];
    let names = ["count", "piece_g", "flour_g", "dough_g", "grams", "eggs", "ripe_h", "place_c"].map(|n| format!("scale[{n}]"));
    for keep in ["pieces", "dough", "flour", "ingredient", "tin", "ripe", "eggs", "", "moon"] {
        for (i, word) in words.iter().enumerate() {
            // Two fields at a time, the second shifted, so that figures meet each other.
            let (first, second) = (&names[i % names.len()], &names[(i * 3 + 1) % names.len()]);
            let wish = [("scale[keep]", keep), (first.as_str(), *word), (second.as_str(), words[(i + 5) % words.len()])];
            for deed in ["again", "make", "make:smaller", "make:fewer", "make:alike", "make:moon"] {
                let a = sheet(&k, &[&wish[..], &[("do", deed)]].concat()).await;
                assert!(matches!(a.status, 200 | 422), "{wish:?} {deed}: {}", a.status);
                if a.status == 422 {
                    assert_eq!(value(&a, "lines[0][exact]", "value"), "500", "{wish:?} {deed}: nothing is taken");
                    assert!(a.text.contains("class=\"wrong\""), "{wish:?} {deed}");
                    let typed = super::laid_out(&value(&a, first, "value").replace("&#60;", "<").replace("&#62;", ">"));
                    assert_eq!(typed, word.trim(), "{wish:?} {deed}");
                }
            }
        }
    }
}

/// In pounds and ounces the same wish makes the same dough, and nothing of it is told in grams.
#[actix_web::test]
async fn in_ounces_the_sentence_is_the_same_sentence() {
    let k = kitchen();
    let metric = sheet(&k, &[("scale[keep]", "pieces"), ("scale[piece_g]", "453.59237"), ("scale[flour_g]", "500"), ("do", "again")]).await;
    assert!(becomes(&metric).contains("of flour short"));
    put(&k, "/api/v1/kitchen", &json!({ "units": "us", "weight": "pounds", "temperature": "fahrenheit" })).await;
    let wish = [("scale[keep]", "pieces"), ("scale[piece_g]", "1 lb"), ("scale[flour_g]", "500 g")];
    let pounds = sheet(&k, &[&wish[..], &[("do", "again")]].concat()).await;
    assert_eq!(pounds.status, 200, "{}", pounds.text);
    let says = becomes(&pounds);
    assert!(says.contains("of flour short") && says.contains("10 of 1 lb want"), "{says}");
    assert!(!says.contains(" g<") && !says.contains(" g "), "{says}");
    let made = sheet(&k, &[&wish[..2], &[("do", "make")]].concat()).await;
    let each: f64 = value(&made, "pieces[exact_g]", "value").parse().unwrap();
    assert!((each - 453.592_37).abs() < 1e-6, "{each}");
}

/// What is kept by saving is what was seen; the plan and the label are of that dough too.
#[actix_web::test]
async fn one_figure_from_the_sentence_to_the_sheet() {
    let k = kitchen();
    let wish = [("scale[keep]", "flour"), ("scale[flour_g]", "750")];
    let seen = sheet(&k, &[&wish[..], &[("do", "again")]].concat()).await;
    assert!(becomes(&seen).contains("1\u{2009}238 g"), "{}", becomes(&seen));
    let saved = sheet(&k, &[&wish[..], &[("do", "save")]].concat()).await;
    let at = saved.header("location").unwrap().to_owned();
    let id = at.trim_start_matches("/formula/").to_owned();
    assert!(get(&k, &at).await.text.contains("1\u{2009}238 g"));
    let sheet = get(&k, &format!("/plan/sheet?formula={id}&p[ready]=2026-11-08T12:30")).await.text;
    assert!(sheet.contains("750 g") && sheet.contains("300 g"), "flour and water of the kitchen sheet");
    let body = get(&k, &format!("/api/v1/formulas/{id}")).await.json();
    assert_eq!((body["formula"]["lines"][0]["grams"].as_f64(), body["formula"]["pieces"]["piece_g"].as_f64()), (Some(750.0), Some(123.75)));
}
