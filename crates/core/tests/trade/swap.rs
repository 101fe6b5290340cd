//! Swaps: what stays the same, what a baker would expect.

use cerealis_core::{
    findings::Remedy,
    formula::{Formula, Stage},
    pantry::Family,
    swap::Swap,
};

use super::bench::{formula, near, tables};

/// A dough with a line of everything a gap is filled from.
fn rich(first: &str, grams: f64) -> Formula {
    formula(&[
        (first, grams),
        ("wheat-bread", 500.0),
        ("water", 300.0),
        ("oil-neutral", 40.0),
        ("sugar-white", 60.0),
        ("salt-fine", 10.0),
        ("yeast-osmotolerant", 5.0),
    ])
}

fn swaps(f: &Formula, line: usize) -> Vec<Swap> {
    tables().swaps.of(f, line, tables())
}

fn after(f: &Formula, swap: &Swap) -> Formula {
    f.after(&Remedy::new("swap", swap.changes.clone()), "", &tables().pantry)
}

/// Water, fat and sugars of the whole, grams.
fn parts(f: &Formula) -> [f64; 3] {
    let sum = |part: &dyn Fn(&cerealis_core::pantry::Ingredient) -> f64| {
        f.lines.iter().map(|l| l.grams.likely * part(&l.ingredient)).sum::<f64>()
    };
    [sum(&|i| i.hydration_share), sum(&|i| i.fat_pct / 100.0), sum(&|i| i.sugars_pct / 100.0)]
}

fn one(f: &Formula, line: usize, id: &str) -> Swap {
    swaps(f, line).into_iter().find(|s| s.id == id).unwrap_or_else(|| panic!("{id} is not offered"))
}

#[test]
fn water_fat_and_sugar_stay_what_they_were() {
    let mut tried = 0;
    for i in tables().pantry.all() {
        // Flours change their thirst on purpose; a leaven is a new formula.
        if matches!(i.family, Family::Flour | Family::Leaven | Family::Yeast | Family::Spice) || i.id == "egg-wash" {
            continue;
        }
        let f = rich(&i.id, 60.0);
        for swap in swaps(&f, 0) {
            // An apple for a pear: these rows keep taste or lift, not water.
            if swap.with.is_empty() {
                continue;
            }
            tried += 1;
            let (was, is) = (parts(&f), parts(&after(&f, &swap)));
            for (what, (a, b)) in ["water", "fat", "sugars"].iter().zip(was.iter().zip(is)) {
                assert!(near(*a, b, 5.0), "{}: {what} was {a:.1} g, is {b:.1} g: {:?}", swap.id, swap.with);
            }
        }
    }
    assert!(tried > 35, "{tried}");
}

#[test]
fn honey_for_sugar_is_more_grams_and_less_water() {
    let f = formula(&[("sugar-white", 50.0), ("wheat-bread", 500.0), ("water", 290.0), ("salt-fine", 9.0), ("yeast-instant", 6.0)]);
    let swap = one(&f, 0, "sugar-to-honey");
    assert!(near(swap.grams, 61.0, 0.5), "{}", swap.grams);
    assert!(near(swap.with[0].1, -10.4, 0.2) && swap.with[0].0.id == "water");
    assert!(near(after(&f, &swap).lines[2].grams.likely, 280.0, 0.5));
}

#[test]
fn butter_for_oil_goes_in_at_another_moment() {
    let f = formula(&[("butter-unsalted", 50.0), ("wheat-bread", 500.0), ("water", 290.0), ("salt-fine", 9.0), ("yeast-instant", 6.0)]);
    assert_eq!(f.lines[0].stage, Stage::Late);
    let oil = after(&f, &one(&f, 0, "butter-to-oil-neutral"));
    assert_eq!((oil.lines[0].ingredient.id.as_str(), oil.lines[0].stage), ("oil-neutral", Stage::Dough));
    assert!(near(oil.lines[0].grams.likely, 41.0, 0.6) && near(oil.lines[2].grams.likely, 299.0, 0.6));
}

#[test]
fn a_yeast_dough_becomes_a_leaven_dough_of_the_same_flour_and_water_and_back() {
    let t = tables();
    let f = formula(&[("yeast-instant", 4.0), ("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0)]);
    let leaven = after(&f, &one(&f, 0, "yeast-to-leaven"));
    let (was, is) = (f.analyse(&t.pantry, &t.styles), leaven.analyse(&t.pantry, &t.styles));
    assert!(
        near(was.flour_g.likely, is.flour_g.likely, 1.0)
            && near(was.effective_hydration_pct.likely, is.effective_hydration_pct.likely, 0.3)
    );
    assert!(near(is.leaven_flour_pct.likely, 10.0, 0.5), "100 g of leaven on 500 g: {}", is.leaven_flour_pct.likely);
    let back = after(&leaven, &one(&leaven, 0, "leaven-to-yeast"));
    let b = back.analyse(&t.pantry, &t.styles);
    assert!(
        near(b.flour_g.likely, 500.0, 1.5)
            && near(b.effective_hydration_pct.likely, 68.0, 0.5)
            && near(back.lines[0].grams.likely, 4.0, 0.05)
    );
}

#[test]
fn wholemeal_for_white_is_swapped_in_part_and_drinks_more() {
    let t = tables();
    let f = formula(&[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0), ("yeast-instant", 4.0)]);
    let swap = one(&f, 0, "bread-to-whole");
    assert!(near(swap.stays_g, 350.0, 0.5) && near(swap.grams, 150.0, 0.5));
    let g = after(&f, &swap);
    let a = g.analyse(&t.pantry, &t.styles);
    assert!(near(a.wholegrain_pct, 30.0, 0.5) && a.effective_hydration_pct.likely > 68.5, "{}", a.effective_hydration_pct.likely);
    assert!(
        near(a.hydration_adjusted_pct, f.analyse(&t.pantry, &t.styles).hydration_adjusted_pct, 0.7),
        "as soft under the hand as before"
    );
}

#[test]
fn every_swap_names_its_source_and_every_yeast_keeps_its_force() {
    let t = tables();
    for i in t.pantry.all() {
        let f = formula(&[("wheat-bread", 500.0), (&i.id, 12.0), ("water", 300.0), ("salt-fine", 10.0)]);
        for s in swaps(&f, 1) {
            assert!(!s.source.is_empty() && s.grams > 0.0, "{}", s.id);
            if let (Some(a), Some(b)) = (i.yeast_kind(), s.ingredient.yeast_kind()) {
                let force = t.pantry.instant_equivalent(b) * s.grams / (12.0 * t.pantry.instant_equivalent(a));
                assert!(near(force, 1.0, 0.02), "{}: {force}", s.id);
            }
        }
    }
}
