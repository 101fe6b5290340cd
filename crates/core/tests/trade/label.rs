//! The label against tables of food and plain reckoning.

use cerealis_core::formula::{FormulaDraft, Label, LineDraft};

use super::bench::{line, tables};

/// The label of `ingredient grams[ @stage]` pairs.
fn label(text: &str) -> Label {
    let one = |part: &str| -> LineDraft {
        let (pair, stage) = part.split_once('@').map_or((part, None), |(p, s)| (p, Some(s.trim().to_owned())));
        let (id, grams) = pair.trim().split_once(' ').unwrap();
        LineDraft { stage, ..line(id, grams.trim().parse().unwrap()) }
    };
    let formula = FormulaDraft { lines: text.split(';').map(one).collect(), ..FormulaDraft::default() }.check(&tables().pantry).unwrap();
    formula.analyse(&tables().pantry, &tables().styles).label().unwrap()
}

#[test]
fn white_bread_is_what_the_tables_say_it_is() {
    // USDA FoodData Central, SR Legacy: bread, white, commercially prepared: 266 kcal, 8.9 g protein,
    // 3.3 g fat, 49 g carbohydrate in 100 g; French bread 272 kcal, 10.8 g protein, 2.4 g fat, 52 g. From memory.
    let bread = label("wheat-bread 500; water 340; salt-fine 10; yeast-instant 3");
    let n = bread.per_100g;
    assert!((235.0..285.0).contains(&n.kcal.likely), "{:?}", n.kcal);
    assert!(
        (8.0..11.0).contains(&n.protein.likely) && (0.8..3.0).contains(&n.fat.likely) && (46.0..58.0).contains(&n.carbohydrate.likely),
        "{n:?}"
    );
    assert!((1.1..1.6).contains(&n.salt.likely), "10 g of salt in about 730 g of bread: {:?}", n.salt);
    assert!(n.kcal.low < n.kcal.likely && n.kcal.likely < n.kcal.high);
}

#[test]
fn what_it_holds_is_told_and_what_it_lacks_too() {
    let lean = label("wheat-bread 500; water 340; salt-fine 10; yeast-instant 3");
    assert_eq!((lean.holds, lean.diets), (vec!["gluten".to_owned()], vec!["vegan", "no dairy", "no egg"]));
    let rich =
        label("wheat-bread 500; milk-whole 200; egg-whole 100; butter-unsalted 60; salt-fine 10; yeast-instant 8; sesame-seed 10 @finish");
    assert!(rich.diets.is_empty());
    for allergen in ["gluten", "milk", "eggs", "sesame"] {
        assert!(rich.holds.iter().any(|h| h == allergen), "{allergen}: toppings count, {:?}", rich.holds);
    }
    let free = label("rice-flour-white 400; oats-rolled 50; water 420; salt-fine 8; yeast-instant 8; psyllium 20");
    assert!(!free.diets.contains(&"no gluten") && free.traces.len() == 1, "oats carry traces: {free:?}");
}

#[test]
fn the_heaviest_stands_first_and_one_name_stands_once() {
    let bread = label("water 300; wheat-bread 250; wheat-bread 250 @leaven; salt-fine 10; yeast-instant 3");
    let names: Vec<&str> = bread.ingredients.iter().map(|s| s.ingredient.id.as_str()).collect();
    assert_eq!(names, ["wheat-bread", "water", "salt-fine", "yeast-instant"]);
}

#[test]
fn a_bath_is_poured_away() {
    let plain = label("wheat-bread 500; water 260; butter-unsalted 20; salt-fine 10; yeast-instant 4");
    let dipped = label(
        "wheat-bread 500; water 260; butter-unsalted 20; salt-fine 10; yeast-instant 4; water 1000 @finish; baking-soda-baked 50 @finish",
    );
    assert!((plain.per_100g.salt.likely / dipped.per_100g.salt.likely - 1.0).abs() < 0.03, "only the bake loss of the style differs");
    assert!(!dipped.ingredients.iter().any(|s| s.ingredient.id.starts_with("baking-soda")));
}
