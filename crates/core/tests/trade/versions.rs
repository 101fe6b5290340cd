//! What differs between two versions of a bread.

use cerealis_core::{
    formula::{Comparison, Formula, FormulaBody, Scale, compare, side_by_side},
    measure::plain,
};

use super::bench::{LEAN, formula, near, tables};

fn between(a: &Formula, b: &Formula) -> Comparison {
    let t = tables();
    compare(&a.analyse(&t.pantry, &t.styles), &b.analyse(&t.pantry, &t.styles))
}

#[test]
fn variants_stand_side_by_side_and_what_differs_is_told() {
    let t = tables();
    let white = formula(&[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)]);
    let rye = formula(&[("wheat-bread", 400.0), ("rye-medium", 100.0), ("water", 350.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)]);
    let big = formula(&[("wheat-bread", 1000.0), ("water", 680.0), ("salt-fine", 20.0), ("yeast-instant", 6.0)]);
    let all = [&white, &rye, &big].map(|f| f.analyse(&t.pantry, &t.styles));
    let table = side_by_side(&all);
    let differ: Vec<&str> = table.lines.iter().filter(|l| l.3).map(|l| l.0.as_str()).collect();
    assert_eq!(differ, ["Bread flour (strong white)", "Water", "Medium rye flour"], "the same dough made bigger differs in nothing");
    assert_eq!(table.lines.last().unwrap().2.iter().map(Option::is_some).collect::<Vec<_>>(), [false, true, false]);
    let figures: Vec<&str> = table.figures.iter().filter(|f| f.3).map(|f| f.0).collect();
    assert_eq!(figures, ["dough", "water on flour"]);
    assert!(side_by_side(&[]).lines.is_empty());
}

#[test]
fn the_same_dough_differs_in_nothing_and_made_bigger_only_in_its_size() {
    let f = formula(LEAN);
    assert!(between(&f, &f).is_empty());
    let a = f.analyse(&tables().pantry, &tables().styles);
    let twice = f.scaled(&Scale::Dough(2.0 * a.dough_g.likely), &a);
    let c = between(&f, &twice);
    assert!(c.lines.is_empty() && c.figures.len() == 1 && c.figures[0].0 == "dough", "{c:?}");
}

#[test]
fn a_line_that_moved_came_or_went_is_told() {
    let f = formula(LEAN);
    let g = formula(&[("wheat-bread", 500.0), ("water", 350.0), ("salt-fine", 10.0), ("leaven-wheat", 100.0)]);
    let c = between(&f, &g);
    let told: Vec<_> = c.lines.iter().map(|l| (l.name.split(' ').next().unwrap(), l.was.is_some(), l.is.is_some())).collect();
    assert_eq!(
        told,
        [("Bread", true, true), ("Water", true, true), ("Fine", true, true), ("Sourdough", false, true), ("Instant", true, false)]
    );
    assert!(c.figures.iter().any(|f| f.0 == "flour in the leaven" && near(f.2, 9.1, 0.1)));
    assert!(c.other.iter().any(|o| o.0 == "style"));
}

#[test]
fn name_note_tags_pieces_and_oven_are_compared_in_words() {
    let mut f = formula(LEAN);
    let mut g = f.clone();
    f.name = Some("Loaf".into());
    g.name = Some("Boat loaf".into());
    g.note = Some("hotter next time".into());
    g.tags = vec!["boat".into()];
    g.oven = Some(cerealis_core::formula::OvenTold { set_c: Some(230.0), minutes: Some((30.0, 35.0)), ..Default::default() });
    let told: Vec<_> = between(&f, &g).other.into_iter().map(|o| (o.0, plain(&o.2).into_owned())).collect();
    assert_eq!(
        told,
        [
            ("name", "Boat loaf".into()),
            ("oven", "230 °C 30–35 min".into()),
            ("tags", "boat".into()),
            ("note", "hotter next time".to_owned())
        ]
    );
}

#[test]
fn a_bread_is_found_by_name_tag_note_or_style_whatever_the_accents() {
    let body = FormulaBody {
        name: Some("Brioche fine".into()),
        tags: Some(vec!["Fête".into()]),
        note: Some("for the harbour".into()),
        ..FormulaBody::default()
    };
    for word in ["brio", "fete", "HARBOUR", "sweet", "brioche fete", ""] {
        assert!(body.answers_to(word, "sweet-bun"), "{word}");
    }
    assert!(!body.answers_to("rye", "sweet-bun") && !body.answers_to("brioche rye", "sweet-bun"));
}
