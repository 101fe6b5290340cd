//! Each format there and back, and files as other programs write them (inventions of our own).
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, clippy::indexing_slicing, reason = "tests")]

use std::sync::OnceLock;

use cerealis_core::{
    Tables,
    formula::{Formula, FormulaDraft, LineDraft, StyleId, Typed},
    measure::Band,
    reader::{self, Choices},
};
use cerealis_exchange::{Format, Opened, open};
use serde_json::Value;

fn tables() -> &'static Tables {
    static TABLES: OnceLock<Tables> = OnceLock::new();
    TABLES.get_or_init(|| Tables::built_in().unwrap())
}

/// A formula of `ingredient grams[ @stage]` pairs.
fn formula(text: &str) -> Formula {
    let line = |part: &str| {
        let (pair, stage) = part.split_once('@').map_or((part, None), |(p, s)| (p, Some(s.trim().to_owned())));
        let (id, grams) = pair.trim().rsplit_once(' ').unwrap();
        LineDraft {
            ingredient: id.trim().into(),
            grams: Typed::Text(grams.into()),
            grams_low: None,
            grams_high: None,
            stage,
            source: None,
            hydration_pct: None,
            used: None,
        }
    };
    let mut f = FormulaDraft { lines: text.split(';').map(line).collect(), ..FormulaDraft::default() }.check(&tables().pantry).unwrap();
    f.name = Some("Harbour loaf".into());
    f
}

/// The formula a written text opens to.
fn back(text: &str) -> Formula {
    match open(text).unwrap() {
        Opened::Recipe(words) => reader::read(&words, &Choices::default(), &[], tables()).unwrap().formula,
        Opened::Formula(draft) => draft.check(&tables().pantry).unwrap(),
    }
}

/// Lines in the order of their stages, as a page lists them: id, hundredths of a gram, stage.
fn lines(f: &Formula) -> Vec<(&str, i64, String)> {
    let mut all: Vec<_> = f
        .lines
        .iter()
        .map(|l| (l.stage as u8, (l.ingredient.id.as_str(), (l.grams.likely * 100.0).round() as i64, l.stage.word().to_owned())))
        .collect();
    all.sort_by_key(|(stage, _)| *stage);
    all.into_iter().map(|(_, l)| l).collect()
}

#[test]
fn the_example_of_each_style_comes_back_from_every_format() {
    for style in StyleId::ALL {
        let f = formula(&tables().styles.get(style).example);
        for format in Format::ALL {
            let written = format.write(&f, tables());
            assert_eq!(lines(&back(&written)), lines(&f), "{} as {format:?}:\n{written}", style.word());
        }
    }
}

#[test]
fn stages_pieces_and_oven_come_back_too() {
    let mut f = formula(
        "rye-medium 100 @leaven; water 100 @leaven; leaven-rye 20 @leaven; wheat-bread 400; water 220; butter-unsalted 30 @dough; salt-fine 9.25; raisin 80; oats-rolled 40 @soaker; water 60 @soaker; egg-wash 30",
    );
    f.pieces = Some(cerealis_core::formula::Pieces { piece_g: Some(450.0), ..cerealis_core::formula::Pieces::of(2) });
    for format in [Format::JsonLd, Format::Json, Format::Csv] {
        assert_eq!(lines(&back(&format.write(&f, tables()))), lines(&f), "{format:?}");
    }
    for format in [Format::JsonLd, Format::Json, Format::Markdown] {
        let again = back(&format.write(&f, tables()));
        let pieces = again.pieces.as_ref().unwrap();
        assert_eq!((pieces.count, pieces.piece_g), (2, Some(450.0)), "{format:?}");
        assert_eq!(again.name.as_deref(), Some("Harbour loaf"), "{format:?}");
    }
    f.oven = Some(cerealis_core::formula::OvenTold { set_c: Some(225.0), minutes: Some((30.0, 35.0)), ..Default::default() });
    assert_eq!(back(&Format::JsonLd.write(&f, tables())).oven, f.oven);
}

/// What is for a filling or an icing is that again, wherever the format has words for it.
#[test]
fn a_filling_and_an_icing_come_back() {
    use cerealis_core::formula::{Stage, Used};
    let mut f = formula(
        "wheat-bread 500; milk-whole 300; salt-fine 9; yeast-instant 6; butter-unsalted 80; sugar-brown-light 120; sugar-icing 100",
    );
    for (i, used) in [(4, Used::Filling), (5, Used::Filling), (6, Used::Icing)] {
        (f.lines[i].stage, f.lines[i].used) = (Stage::Finish, Some(used));
    }
    let used = |f: &Formula| f.lines.iter().map(|l| l.used).collect::<Vec<_>>();
    for format in [Format::JsonLd, Format::Json, Format::Markdown] {
        let written = format.write(&f, tables());
        assert_eq!(used(&back(&written)), used(&f), "{format:?}:\n{written}");
    }
}

#[test]
fn what_is_uncertain_stays_uncertain_where_the_format_can_say_it() {
    let mut f = formula("wheat-bread 400; water 260; salt-fine 8; yeast-instant 3");
    f.lines[0].grams = Band::new(374.0, 400.0, 471.0);
    for format in [Format::Json, Format::Csv] {
        assert_eq!(back(&format.write(&f, tables())).lines[0].grams, f.lines[0].grams, "{format:?}");
    }
}

#[test]
fn every_jar_of_the_pantry_has_a_name_that_is_read_back() {
    for i in tables().pantry.all() {
        let f = formula(&format!("wheat-bread 500; {} 10", i.id));
        assert_eq!(lines(&back(&Format::JsonLd.write(&f, tables()))), lines(&f), "{}", i.id);
    }
}

#[test]
fn a_recipe_of_another_program_is_found_in_its_page() {
    let page = r#"<!DOCTYPE html><html><head><script type="application/ld+json">{"@type":"WebSite","name":"x"}</script>
<script type="application/ld+json">{"@context":"https://schema.org","@graph":[{"@type":"Organization"},{"@type":["Recipe","NewsArticle"],"name":"Tide rolls &amp; butter",
"recipeIngredient":["500 g bread flour","1 &frac12; cups warm water","2 tsp fine salt","7 g instant yeast"],
"recipeInstructions":[{"@type":"HowToSection","name":"Dough","itemListElement":[{"@type":"HowToStep","text":"<p>Knead 10 minutes.</p><p>Let rise 1 hour until doubled.</p>"}]},{"@type":"HowToStep","text":"Bake at 220 C for 18 minutes."}],
"recipeYield":["12","12 rolls"]}]}</script></head><body></body></html>"#;
    let f = back(page);
    assert_eq!(f.name.as_deref(), Some("Tide rolls & butter"));
    assert_eq!(
        f.lines.iter().map(|l| l.ingredient.id.as_str()).collect::<Vec<_>>(),
        ["wheat-bread", "water", "salt-fine", "yeast-instant"]
    );
    assert!((f.lines[1].grams.likely - 354.0).abs() < 1.0);
    assert_eq!(f.pieces.as_ref().map(|p| p.count), Some(12));
    assert_eq!(f.oven.unwrap().set_c, Some(220.0));
}

#[test]
fn a_number_of_pieces_and_a_text_of_steps_will_do() {
    let f = back(
        r#"[{"@type":"http://schema.org/Recipe","name":"Bap","ingredients":["400 g flour","250 g water","8 g salt","4 g instant yeast"],"recipeYield":6,"recipeInstructions":"Knead.\nBake at 210 C for 15 minutes."}]"#,
    );
    assert_eq!((f.lines.len(), f.pieces.unwrap().count, f.oven.unwrap().minutes), (4, 6, Some((15.0, 15.0))));
}

#[test]
fn a_table_of_a_spreadsheet_is_read_with_its_own_marks() {
    let f = back("Ingredient;Grams\nstrong white flour;500\nwater;\"340\"\nfine salt;10,5\ninstant yeast;3\n");
    assert_eq!(
        f.lines.iter().map(|l| (l.ingredient.id.as_str(), l.grams.likely)).collect::<Vec<_>>(),
        [("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.5), ("yeast-instant", 3.0)]
    );
    let mut f = formula("wheat-bread 500; water 300");
    f.lines[0].source = Some("=HYPERLINK(\"x\")".into());
    let csv = Format::Csv.write(&f, tables());
    assert!(csv.contains("'=HYPERLINK") && csv.starts_with("ingredient,name,weight_g,"), "{csv}");
    assert_eq!(back(&csv).lines[0].source.as_deref(), Some("=HYPERLINK(\"x\")"));
}

#[test]
fn what_cannot_be_opened_is_told_in_a_sentence() {
    for (text, words) in [
        ("{\"@type\": \"Recipe\", ", "breaks off at line 1"),
        ("{\"a\": 1}", "holds no recipe"),
        ("<!doctype html><html><body>Bread</body></html>", "no recipe a program can read"),
        ("ingredient,grams\n", "no lines"),
        ("{\"format\":\"cerealis-formula\",\"version\":99,\"formula\":{\"lines\":[]}}", "newer version"),
        ("{\"format\":\"cerealis-formula\",\"version\":1,\"formula\":{\"lines\":[{\"ingredient\":7}]}}", "names itself a formula"),
    ] {
        let error = open(text).unwrap_err();
        assert!(error.contains(words), "{text}: {error}");
    }
    assert_eq!(open("500 g flour").unwrap(), Opened::Recipe("500 g flour".into()));
}

#[test]
fn the_nutrition_of_the_recipe_is_that_of_the_label() {
    let f = formula("wheat-bread 500; water 340; salt-fine 10; yeast-instant 3");
    let value: Value = serde_json::from_str(&Format::JsonLd.write(&f, tables())).unwrap();
    let label = f.analyse(&tables().pantry, &tables().styles).label().unwrap();
    assert_eq!(value["nutrition"]["calories"], format!("{:.0} kcal", label.per_100g.kcal.likely));
    assert_eq!(value["suitableForDiet"][0], "https://schema.org/VeganDiet");
}

proptest::proptest! {
    #[test]
    fn opening_never_panics(text in "\\PC{0,200}", lead in proptest::sample::select(vec!["", "{", "[", "<html>", "ingredient,grams\n", "<script type=\"application/ld+json\">"])) {
        let _ = open(&format!("{lead}{text}"));
    }
}
