//! Whole recipes as people write, paste and tell them: inventions of our own in five languages. The
//! grams follow from the pantry's table; what each line is was settled by reading it as a baker.

use cerealis_core::{Tables, reader};

const RECIPES: &str = include_str!("../cases/recipes.txt");

/// What a line should be, as the case file writes it.
fn told(reading: &reader::Reading) -> Vec<String> {
    let figure = |g: Option<f64>| g.map_or_else(|| "none".to_owned(), |g| format!("{g:.1}"));
    let mut told: Vec<String> = Vec::new();
    for l in &reading.lines {
        let asked: Vec<&str> = l.questions.iter().map(|q| q.id).collect();
        told.push(format!(
            "{} {} {} {} {} {}",
            l.ingredient.id,
            figure(l.grams.map(|g| g.likely)),
            figure(l.grams.map(|g| g.low)),
            figure(l.grams.map(|g| g.high)),
            l.stage.word(),
            if asked.is_empty() { "none".to_owned() } else { asked.join(",") }
        ));
    }
    let formula = &reading.formula;
    let pieces = formula.pieces.as_ref().map_or_else(|| "none".to_owned(), |p| p.count.to_string());
    let oven = formula.oven.and_then(|o| o.set_c).map_or_else(|| "none".to_owned(), |c| format!("{c:.0}"));
    let minutes = formula.oven.and_then(|o| o.minutes).map_or_else(|| "none".to_owned(), |(l, h)| format!("{l:.0}-{h:.0}"));
    told.push(format!("pieces {pieces} oven {oven} minutes {minutes} unread {}", reading.unread.len()));
    told
}

#[test]
fn whole_recipes_are_read_line_by_line() {
    let tables = Tables::built_in().unwrap();
    let recipes: Vec<&str> = RECIPES.split("\n===\n").collect();
    assert!(recipes.len() >= 18);
    for recipe in recipes {
        let (text, wanted) = recipe.split_once("\n---\n").unwrap();
        let mut wanted = wanted.trim_end().lines();
        let locale = wanted.next().and_then(|l| l.strip_prefix("locale ")).unwrap();
        let choices = reader::Choices { locale: locale.to_owned(), ..reader::Choices::default() };
        let reading = reader::read(text, &choices, &[], &tables).unwrap();
        assert_eq!(told(&reading), wanted.collect::<Vec<_>>(), "\n{text}\n{:?}", reading.unread);
    }
}

#[test]
fn a_sound_recipe_raises_no_alarm() {
    let tables = Tables::built_in().unwrap();
    for text in [
        "500 g bread flour\n340 g water\n10 g salt\n3 g instant yeast\nBake at 230 °C for 35 minutes.",
        "Everyday sourdough\n\nLeaven (8 hours ahead):\n25 g ripe starter, 100 %\n50 g water\n50 g flour\n\nDough:\n450 g bread flour\n50 g rye flour\n340 g water at 30 °C\n10 g salt\nAll the leaven\n\nShape into 1 boule. Bake 40 minutes at 240 °C.",
        "500 g di farina tipo 0\n350 ml d'acqua\n12 g di lievito di birra fresco\n10 g di sale\nCuocere a 220 °C per 35-40 minuti",
    ] {
        let reading = reader::read(text, &reader::Choices::default(), &[], &tables).unwrap();
        let loud: Vec<_> =
            reading.findings(&tables).into_iter().filter(|f| f.severity != cerealis_core::findings::Severity::Note).collect();
        assert!(loud.is_empty(), "{text}: {loud:?}");
    }
}

#[test]
fn a_recipe_in_percent_waits_for_one_weight() {
    let tables = Tables::built_in().unwrap();
    let text = "90% bread flour\n10% rye flour\n65% water\n2% salt\n1% instant yeast";
    let open = reader::read(text, &reader::Choices::default(), &[], &tables).unwrap();
    assert!(open.formula.lines.is_empty() && open.lines[0].questions.iter().any(|q| q.id == "vague-amount"));
    let answer = reader::Answered { source_line: 0, id: "vague-amount".into(), answer: "1000".into() };
    let weighed = reader::read(text, &reader::Choices::default(), &[answer], &tables).unwrap();
    let grams: Vec<f64> = weighed.formula.lines.iter().map(|l| l.grams.likely.round()).collect();
    assert_eq!(grams, [900.0, 100.0, 650.0, 20.0, 10.0]);
}

#[test]
fn a_leaven_built_and_named_again_is_counted_once() {
    let tables = Tables::built_in().unwrap();
    let read = |taken: &str| {
        let text = format!("levain: 40 g starter, 80 g water, 80 g flour\n500 g bread flour\n350 g water\n10 g salt\n{taken}");
        reader::read(&text, &reader::Choices::default(), &[], &tables)
            .unwrap()
            .formula
            .analyse(&tables.pantry, &tables.styles)
            .dough_g
            .likely
    };
    assert!((read("200 g levain") - 1060.0).abs() < 1e-9);
    assert!((read("all of the levain") - 1060.0).abs() < 1e-9);
    assert!((read("150 g levain") - 1010.0).abs() < 1e-9, "a part of it is taken, the rest kept back");
}

/// What the models and the kitchen say on top: nothing louder than a note on any of the whole recipes.
#[test]
fn the_models_raise_no_alarm_on_whole_recipes() {
    let tables = Tables::built_in().unwrap();
    let kitchen = cerealis_core::kitchen::Kitchen::default();
    for recipe in RECIPES.split("\n===\n") {
        let (text, wanted) = recipe.split_once("\n---\n").unwrap();
        let locale = wanted.lines().next().and_then(|l| l.strip_prefix("locale ")).unwrap();
        let choices = reader::Choices { locale: locale.to_owned(), ..reader::Choices::default() };
        let reading = reader::read(text, &choices, &[], &tables).unwrap();
        let analysis = reading.formula.analyse(&tables.pantry, &tables.styles);
        let models = cerealis_core::plan::findings::of_recipe(Some(&reading), &analysis, &kitchen, &tables);
        let of_course = ["no-bulk", "retard-long", "lid-late", "slice-early"];
        let course = reading.findings(&tables).into_iter().filter(|f| of_course.contains(&f.id));
        let told: Vec<_> = models.into_iter().chain(course).map(|f| (f.id, f.message)).collect();
        assert!(told.is_empty(), "{text}: {told:?}");
    }
}
