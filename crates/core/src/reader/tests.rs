use super::*;
use crate::formula::Stage;

fn tables() -> Tables {
    Tables::built_in().unwrap()
}

fn reading(text: &str) -> Reading {
    read(text, &Choices::default(), &[], &tables()).unwrap()
}

fn found(text: &str) -> Vec<&'static str> {
    reading(text).findings(&tables()).into_iter().map(|f| f.id).collect()
}

/// Inventions of our own, with the grams that follow from the pantry's table.
const EXAMPLES: &str = include_str!("../../tests/cases/reader.csv");

#[test]
fn lines_as_people_write_them_are_read() {
    let t = tables();
    let mut wrong = Vec::new();
    for record in csv::Reader::from_reader(EXAMPLES.as_bytes()).records() {
        let r = record.unwrap();
        let (n, input, id, g, low, high) = (&r[0], &r[1], &r[2], &r[3], &r[4], &r[5]);
        let british = input.contains("UK");
        let choices = Choices { locale: if british { "en-GB".into() } else { "en-US".into() }, ..Choices::default() };
        let got = read(input, &choices, &[], &t).unwrap();
        let line = got.lines.first();
        let near = |want: &str, got: Option<f64>| match want.parse::<f64>() {
            Err(_) => got.is_none(),
            Ok(w) => got.is_some_and(|g| (g - w).abs() <= 0.06 * w + 0.06),
        };
        let bands = line.and_then(|l| l.grams);
        let id_ok = if id == "none" { line.is_none() } else { line.is_some_and(|l| l.ingredient.id == id) };
        let grams_ok =
            id == "none" || (near(g, bands.map(|b| b.likely)) && near(low, bands.map(|b| b.low)) && near(high, bands.map(|b| b.high)));
        let mut asked: Vec<&str> = got.lines.iter().flat_map(|l| &l.questions).map(|q| q.id).collect();
        let mut wanted: Vec<&str> = r[6].split(';').map(str::trim).filter(|q| *q != "none").collect();
        asked.sort_unstable();
        wanted.sort_unstable();
        if asked != wanted {
            wrong.push(format!("{n}. {input}: should ask {wanted:?}, asks {asked:?}"));
        }
        if !(id_ok && grams_ok) {
            wrong.push(format!("{n}. {input}: wanted {id} {g} ({low}–{high}), got {:?} {bands:?}", line.map(|l| l.ingredient.id.clone())));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

#[test]
fn a_whole_recipe_is_read_with_its_sections_steps_and_slips() {
    let text = "Harbour loaf\n\nFor the dough:\n4 cups bread flour\n1 1/2 cups warm water\n2 tbsp yeast\n1 tbsp honey\n\nFor the glaze:\n1 egg, beaten\n\nMethod\nKnead 10 minutes. Let rise 1 hour until doubled.\nShape into 2 loaves.\nBake at 425 C till golden.";
    let r = reading(text);
    assert_eq!(
        r.lines.iter().map(|l| l.ingredient.id.as_str()).collect::<Vec<_>>(),
        ["wheat-bread", "water", "yeast-instant", "honey", "egg-wash"]
    );
    assert_eq!(r.lines[4].stage, Stage::Finish);
    assert_eq!(r.steps.len(), 4);
    assert_eq!(r.formula.pieces.as_ref().map(|p| p.count), Some(2));
    assert_eq!(r.formula.oven.and_then(|o| o.set_c).map(f64::round), Some(218.0));
    assert!(r.unread.is_empty(), "{:?}", r.unread);
    let ids = r.findings(&tables()).into_iter().map(|f| f.id).collect::<Vec<_>>();
    for id in ["salt-missing", "yeast-high", "oven-unit", "bake-time-missing", "cups-uncertain"] {
        assert!(ids.contains(&id), "{id} is missing in {ids:?}");
    }
}

#[test]
fn a_spoken_list_is_read_too() {
    let r = reading(
        "five hundred grams of flour, and then a good teaspoon and a half of salt, three hundred and twenty grams of water, and a sachet of instant yeast",
    );
    assert_eq!(r.lines.iter().map(|l| l.ingredient.id.as_str()).collect::<Vec<_>>(), ["wheat-ap", "salt-fine", "water", "yeast-instant"]);
    assert!((r.lines[2].grams.unwrap().likely - 320.0).abs() < 1e-9);
}

#[test]
fn a_line_is_parted_only_where_another_begins() {
    let ids =
        |text: &str| reading(text).lines.iter().map(|l| (l.ingredient.id.clone(), l.grams.map(|g| g.likely.round()))).collect::<Vec<_>>();
    let both = [("wheat-bread".to_owned(), Some(500.0)), ("water".to_owned(), Some(300.0))];
    assert_eq!(ids("500 g bread flour (strong); 300 g water"), both);
    assert_eq!(ids("500 g bread flour and 300 g water"), both);
    assert_eq!(ids("1/2 cup (1 stick; 113 g) butter"), [("butter-unsalted".to_owned(), Some(113.0))]);
    assert_eq!(ids("500 g bread flour, 12 % protein").len(), 1);
    assert_eq!(ids("noix hachées").first().and_then(|l| l.1), None, "the French nuts are no knob");
}

#[test]
fn the_slips_of_a_recipe_are_named_and_their_near_misses_are_not() {
    let lean = "500 g bread flour\n340 g water\n10 g fine salt\n4 g instant yeast\n";
    let with = |step: &str| found(&format!("{lean}{step}"));
    for (id, slip, near) in [
        ("oven-unit", "Bake at 425 C for 35 minutes", "Bake at 225 C for 35 minutes"),
        ("oven-unit-none", "bake at 350 for 30 min", "bake at 350 F for 30 min"),
        ("oven-unit-low", "Bake at 180 F for 30 minutes", "Bake at 350 F for 30 minutes"),
        ("oven-unit-none", "Bake at 220 for 30 minutes", "Bake at 220 C for 30 minutes"),
        ("oven-unit-gas", "Bake at 6 C for 30 minutes", "Bake at gas mark 6 for 30 minutes"),
        ("temperature-mismatch", "Bake at 180 C / 400 F for 30 minutes", "Bake at 180 C / 350 F for 30 minutes"),
        ("bake-time-missing", "Bake at 220 C till golden", "Bake at 220 C till golden, 96 C inside"),
        ("oven-temp-missing", "Bake for 30 minutes", "Bake at 220 C for 30 minutes"),
        ("oven-setting-unknown", "Bake at 700 C for 30 minutes", "Bake at 250 C for 30 minutes"),
        ("unread-amount", "3//4 cup nonsense", "a remark about the weather"),
        ("piece-unit", "Makes 6 baps of 130 oz", "Makes 6 baps of 142 g"),
        ("piece-sum-mismatch", "Makes 12 rolls of 120 g", "Makes 12 rolls of 70 g"),
        ("fan-unclear", "Bake at 200 C fan for 30 minutes", "Bake at 220 C for 30 minutes"),
        ("paper-limit", "Bake on baking paper at 250 C for 20 minutes", "Bake on baking paper at 220 C for 30 minutes"),
        ("paper-limit", "Bake in a glass dish at 240 C for 30 minutes", "Bake at 240 C for 30 minutes, a glass of water beside it"),
        ("salt-on-yeast", "Dissolve yeast and salt in the water", "Dissolve the yeast in the water"),
        ("time-by-clock-only", "Let rise 2 hours", "Let rise 2 hours until doubled"),
        ("time-by-clock-only", "Prove 1 hour", "Prove 1 hour at 26 C"),
        ("leaven-in-cups", "1/2 cup bubbly starter", "100 g bubbly starter"),
        (
            "preheat-missing",
            "Mix well.\nKnead 10 minutes.\nShape.\nBake at 230 C for 35 minutes",
            "Mix well.\nKnead 10 minutes.\nPreheat the oven.\nBake at 230 C for 35 minutes",
        ),
        (
            "steam-missing",
            "Mix well.\nKnead 10 minutes.\nPreheat the oven.\nBake at 230 C for 35 minutes",
            "Mix well.\nKnead 10 minutes.\nPreheat the oven.\nBake at 230 C with steam for 35 minutes",
        ),
        (
            "steam-missing",
            "Mix well.\nKnead 10 minutes.\nPreheat the oven.\nBake at 230 C for 35 minutes, slice it cold",
            "Mix well.\nKnead 10 minutes.\nPreheat the oven.\nBake at 230 C over ice for 35 minutes",
        ),
        (
            "step-shape-missing",
            "Mix well.\nKnead 10 minutes.\nMakes 12\nBake at 230 C for 15 minutes",
            "Mix well.\nKnead 10 minutes.\nShape into 12 balls\nBake at 230 C for 15 minutes",
        ),
        ("retard-long", "Let rise in the fridge for 4 days", "Let rise in the fridge for 2 days"),
        (
            "no-bulk",
            "Knead 10 minutes.\nShape into a loaf.\nLet rise 1 hour.\nBake at 230 C for 35 minutes",
            "Knead 10 minutes.\nLet rise 1 hour.\nShape into a loaf.\nLet rise 1 hour.\nBake at 230 C for 35 minutes",
        ),
        (
            "lid-late",
            "When the dough reaches the rim, slide the lid on the tin",
            "When it is a finger below the rim, slide the lid on the tin",
        ),
        ("slice-early", "Bake at 230 C for 35 minutes.\nCut it while still warm", "Bake at 230 C for 35 minutes.\nCut it when cold"),
        ("water-too-hot", "Dissolve the yeast in water at 60 C", "Dissolve the yeast in water at 38 C"),
    ] {
        assert!(with(slip).contains(&id), "{id} is not raised by “{slip}”: {:?}", with(slip));
        assert!(!with(near).contains(&id), "{id} is raised by “{near}”");
    }
    let percent = |rye: u32| found(&format!("80 % bread flour\n{rye} % rye flour\n65 % water\n2 % salt\n1 % instant yeast"));
    assert!(percent(30).contains(&"flours-not-100") && !percent(20).contains(&"flours-not-100"));
    let rich = |flour: u32, step: &str| {
        found(&format!("{flour} g flour\n200 g milk\n2 eggs\n70 g butter, divided\n80 g sugar\n10 g salt\n7 g instant yeast\n{step}"))
    };
    for (id, slip, near) in [
        ("raw-egg-time", "Let rise 5 hours at 22 C", "Let rise 5 hours in the fridge"),
        ("divided-mismatch", "Knead in 40 g butter.\nMelt 20 g of the butter", "Knead in 40 g butter.\nMelt 30 g of the butter"),
        ("crust-ahead-of-core", "Makes 1 loaf\nBake at 220 C for 40 minutes", "Makes 1 loaf\nBake at 180 C for 40 minutes"),
    ] {
        assert!(rich(500, slip).contains(&id), "{id} is not raised by “{slip}”: {:?}", rich(500, slip));
        assert!(!rich(500, near).contains(&id), "{id} is raised by “{near}”");
    }
    assert!(found("500 g bread flour\n340 g water\n2 tsp salt\n4 g instant yeast").contains(&"salt-kind-unknown"));
}

#[test]
fn a_paragraph_broken_at_the_edge_of_a_page_is_one() {
    let whole = "You will want a pound and a half of strong white flour and three quarters of a pint of tepid water with two teaspoons of salt. Knead it well, then leave it until it has doubled and bake in a hot oven.";
    let wrapped = "You will want a pound and a half of strong white flour and\nthree quarters of a pint of tepid water with two teaspoons\nof salt. Knead it well, then leave it until it has doubled\nand bake in a hot oven.";
    let lines = |text: &str| reading(text).lines.iter().map(|l| (l.ingredient.id.clone(), l.grams)).collect::<Vec<_>>();
    assert_eq!(lines(whole).len(), 3);
    assert_eq!(lines(wrapped), lines(whole));
    let list = "500 g of the very best strong white bread flour in the shop\nwater 300\nsalt 10";
    assert_eq!(lines(list).len(), 3, "rows of a list stay rows");
}

#[test]
fn a_recipe_told_only_in_its_steps_is_read() {
    let text =
        "Mix 500 g flour with 325 g water and leave it an hour\nAdd 10 g salt and knead in 5 g instant yeast\nBake at 220 C for 35 minutes";
    let r = reading(text);
    let told: Vec<_> = r.formula.lines.iter().map(|l| (l.ingredient.id.as_str(), l.grams.likely)).collect();
    assert_eq!(told, [("wheat-ap", 500.0), ("water", 325.0), ("salt-fine", 10.0), ("yeast-instant", 5.0)]);
    assert!(!self::found("Knead 10 minutes\nBake at 220 C").contains(&"flour-missing"));
}

#[test]
fn answering_a_question_only_narrows() {
    let t = tables();
    let text = "500 g bread flour\n340 g water\n2 tsp salt\n4 g instant yeast";
    let open = reading(text).lines[2].grams.unwrap();
    let answer = |a: &str| read(text, &Choices::default(), &[Answered { source_line: 2, id: "salt-kind".into(), answer: a.into() }], &t);
    for word in ["fine", "dense-flake", "light-flake"] {
        let line = &answer(word).unwrap().lines[2];
        let band = line.grams.unwrap();
        assert!(band.low >= open.low - 1e-9 && band.high <= open.high + 1e-9 && line.questions.is_empty(), "{word}: {band:?}");
    }
    assert!(answer("purple").is_err());
}

#[test]
fn nasty_input_is_answered_without_harm() {
    let t = tables();
    let id = |text: &str| reading(text).lines.first().map(|l| (l.ingredient.id.clone(), l.grams.map(|g| g.likely)));
    assert!(reading("  \n ").lines.is_empty() && found(" ").is_empty());
    assert_eq!(id("🍞 500 g flour 🔥"), Some(("wheat-ap".into(), Some(500.0))));
    assert_eq!(id("-5 g salt"), Some(("salt-fine".into(), Some(5.0))));
    assert_eq!(id("500\tg\tflour\r\n"), Some(("wheat-ap".into(), Some(500.0))));
    assert_eq!(id("<script>alert(1)</script> 2 cups flour").map(|l| l.0), Some("wheat-ap".into()));
    assert_eq!(id("1,000 g flour"), Some(("wheat-ap".into(), Some(1000.0))));
    for unread in [
        "salt: -5 g",
        "1e999 g flour",
        "NaN cups flour",
        "Infinity kg flour",
        "1/0 cup milk",
        "0 g flour",
        "3//4 cup milk",
        "1.5.2 g salt",
        "water 999999999 kg",
        "l00 g flour",
    ] {
        let r = reading(unread);
        assert!(
            r.lines.is_empty() && r.unread.len() == 1,
            "{unread}: {:?} {:?}",
            r.lines.first().map(|l| (l.ingredient.id.clone(), l.grams)),
            r.unread
        );
    }
    assert!(reading("'; DROP TABLE bakes; --").lines.is_empty());
    assert!(read(&"x".repeat(MOST_BYTES + 1), &Choices::default(), &[], &t).is_err());
    assert!(read(&"1 g salt\n".repeat(401), &Choices::default(), &[], &t).is_err());
    for long in ["1".repeat(60_000), "(".repeat(60_000), "1 cup and ".repeat(99), "½".repeat(900), "1-".repeat(450), "a ".repeat(480)] {
        let _ = reading(&long);
    }
}

/// Turns of phrase that once lost something, as ingredients in grams (rounded) and steps (verb, minutes). Texts written
/// for this test.
#[test]
fn turns_of_phrase_lose_nothing() {
    type Turn<'a> = (&'a str, &'a [(&'a str, f64)], &'a [(&'a str, f64)]);
    let turns: &[Turn<'_>] = &[
        ("420g very strong canadian white\n300 g water", &[("wheat-bread", 420.0), ("water", 300.0)], &[]),
        (
            "Dough: all of the above plus 300 g rye flour, 150 g bread flour, 15 salt",
            &[("rye-medium", 300.0), ("wheat-bread", 150.0), ("salt-fine", 15.0)],
            &[],
        ),
        (
            "| | % | Weight |\n|---|---|---|\n| Rye T130 | 10% | 100g |\n| Water | 72% | 720g |\n| Total | 82% | 820g |",
            &[("rye-medium", 100.0), ("water", 720.0)],
            &[],
        ),
        ("Flour (00)..... 1kg\nWater.......... 620g", &[("wheat-00", 1000.0), ("water", 620.0)], &[]),
        (
            "flour 100, water 68, salt 2, yeast (instant) .8\nFlour weight 500g.",
            &[("wheat-ap", 500.0), ("water", 340.0), ("salt-fine", 10.0), ("yeast-instant", 4.0)],
            &[],
        ),
        ("500 g Mehl\nTeig 10 Min. kneten, 1 Std. gehen lassen.", &[("wheat-ap", 500.0)], &[("knead", 10.0), ("rise", 60.0)]),
        ("500 g flour\nKnead 5 min slow, 3 min fast", &[("wheat-ap", 500.0)], &[("knead", 5.0), ("knead", 3.0)]),
        (
            "500 g flour, 2 eggs, pinch salt. Knead 10 min",
            &[("wheat-ap", 500.0), ("egg-whole", 100.0), ("salt-fine", 0.4)],
            &[("knead", 10.0)],
        ),
    ];
    for (text, lines, steps) in turns {
        let r = reading(text);
        let got: Vec<(&str, f64)> =
            r.lines.iter().map(|l| (l.ingredient.id.as_str(), l.grams.map_or(0.0, |g| (g.likely * 10.0).round() / 10.0))).collect();
        assert_eq!(&got, lines, "{text}");
        assert!(r.unread.is_empty(), "{text}: {:?}", r.unread);
        let got: Vec<(&str, f64)> = r.steps.iter().filter_map(|s| Some((s.verb.as_str(), s.minutes?.likely))).collect();
        assert_eq!(&got, steps, "{text}");
    }
    let of = |text: &str| reading(text).steps.iter().find_map(|s| s.pieces.or(s.piece_g.map(|g| g as u32)));
    assert_eq!(of("500 g flour\nroll up, cut 12, prove 45 min"), Some(12));
    assert_eq!(of("1 kg flour\nScale at 350."), Some(350));
    assert_eq!(of("Buns - 75g x 10. 500 g flour"), Some(10));
    let lye = reading("500 g flour\nBoil a minute in water with a teaspoon of bicarb.");
    assert_eq!(lye.lines.iter().find(|l| l.ingredient.id == "baking-soda").map(|l| l.stage), Some(crate::formula::Stage::Finish));
    let poolish = reading("poolish (night before) 150 flour / 150 water\nnext day\n350 flour\n200 water");
    let stages: Vec<&str> = poolish.lines.iter().map(|l| l.stage.word()).collect();
    assert_eq!(stages, ["preferment", "preferment", "dough", "dough"]);
}

#[test]
fn good_before_the_spoon_is_much_and_behind_it_is_praise() {
    let grams = |line: &str| reading(&format!("500 g bread flour\n{line}")).lines[1].grams.map(|g| g.likely.round());
    assert_eq!(grams("1/2 cup good olive oil"), grams("1/2 cup olive oil"));
    assert_eq!(grams("2 tbsp good honey"), grams("2 tbsp honey"));
    assert!(grams("1 good tbsp honey") > grams("1 tbsp honey"));
    assert!(grams("1 tbsp heaped sugar") > grams("1 tbsp sugar"), "heaped it is either way");
}
