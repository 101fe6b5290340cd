//! Baker's percentages worked out by hand.

use cerealis_core::formula::Stage;

use super::bench::{LEAN, draft, formula, near, tables};

/// Lines; then hydration, salt, sugar, fat, prefermented flour and yeast as instant, % of all flour, by hand.
type Worked = (&'static [(&'static str, f64)], [f64; 6]);

#[test]
fn percentages_are_those_of_the_pencil() {
    let cases: &[Worked] = &[
        // 340/500, 10/500, 3/500.
        (LEAN, [68.0, 2.0, 0.0, 0.0, 0.0, 0.6]),
        (&[("wheat-bread", 1000.0), ("water", 650.0), ("salt-fine", 20.0), ("yeast-fresh", 15.0)], [65.0, 2.0, 0.0, 0.0, 0.0, 0.5]),
        (&[("wheat-bread", 400.0), ("wheat-whole", 100.0), ("water", 375.0), ("salt-fine", 9.0)], [75.0, 1.8, 0.0, 0.0, 0.0, 0.0]),
        // 100 g of leaven at 100 % is 50 g flour and 50 g water: 325 + 50 of 450 + 50.
        (&[("wheat-bread", 450.0), ("water", 325.0), ("leaven-wheat", 100.0), ("salt-fine", 10.0)], [75.0, 2.0, 0.0, 0.0, 10.0, 0.0]),
        (&[("wheat-bread", 400.0), ("water", 250.0), ("leaven-wheat", 200.0), ("salt-fine", 10.0)], [70.0, 2.0, 0.0, 0.0, 20.0, 0.0]),
        (
            &[("wheat-bread", 500.0), ("water", 300.0), ("sugar-white", 50.0), ("salt-fine", 10.0), ("yeast-instant", 5.0)],
            [60.0, 2.0, 10.0, 0.0, 0.0, 1.0],
        ),
        (
            &[("wheat-bread", 500.0), ("water", 300.0), ("oil-olive", 25.0), ("salt-fine", 10.0), ("yeast-instant", 5.0)],
            [60.0, 2.0, 0.0, 5.0, 0.0, 1.0],
        ),
        (&[("wheat-bread", 250.0), ("water", 160.0), ("salt-fine", 5.0), ("yeast-active-dry", 2.5)], [64.0, 2.0, 0.0, 0.0, 0.0, 0.8]),
        (&[("rye-dark", 500.0), ("water", 400.0), ("salt-fine", 9.0)], [80.0, 1.8, 0.0, 0.0, 0.0, 0.0]),
        (&[("spelt-white", 600.0), ("water", 360.0), ("salt-fine", 12.0), ("yeast-fresh", 6.0)], [60.0, 2.0, 0.0, 0.0, 0.0, 0.333]),
    ];
    for (lines, want) in cases {
        let f = formula(lines);
        let a = f.analyse(&tables().pantry, &tables().styles);
        let got = [
            a.hydration_pct.likely,
            a.salt_pct.likely,
            a.sugar_pct.likely,
            a.fat_pct.likely,
            a.prefermented_flour_pct,
            a.yeast_instant_pct.likely,
        ];
        for (i, (g, w)) in got.iter().zip(want).enumerate() {
            // The pantry counts the last tenth of fat and the half percent of moisture in salt.
            assert!(near(*g, *w, 0.35), "{lines:?}: figure {i} is {g}, by hand {w}");
        }
    }
}

#[test]
fn flour_is_a_hundred_and_the_lines_add_up_to_the_dough() {
    for lines in [LEAN, &[("wheat-bread", 300.0), ("wheat-whole", 200.0), ("water", 350.0), ("butter-unsalted", 40.0), ("salt-fine", 9.0)]]
    {
        let f = formula(lines);
        let a = f.analyse(&tables().pantry, &tables().styles);
        let sum: f64 = a.line_pct.iter().flatten().sum();
        assert!(near(sum, 100.0 * a.dough_g.likely / a.flour_g.likely, 1e-6));
        assert!(near(a.flour_g.likely, 500.0, 1e-9));
    }
}

#[test]
fn milk_and_eggs_wet_the_dough_too() {
    let f = formula(&[("wheat-bread", 500.0), ("milk-whole", 250.0), ("egg-whole", 50.0), ("salt-fine", 9.0), ("yeast-instant", 5.0)]);
    let a = f.analyse(&tables().pantry, &tables().styles);
    // 250 g milk of 87–88 % water and 50 g egg of 75–76 %: 257 g on 500.
    assert!(near(a.effective_hydration_pct.likely, 51.4, 1.0), "{}", a.effective_hydration_pct.likely);
    assert!(near(a.egg_pct, 10.0, 0.1) && near(a.milk_pct, 50.0, 0.1));
}

#[test]
fn what_is_brushed_on_counts_in_nothing() {
    let plain = formula(LEAN);
    let mut with_wash = draft(LEAN);
    let mut wash = super::bench::line("egg-wash", 50.0);
    wash.stage = Some(Stage::Finish.word().into());
    with_wash.lines.push(wash);
    let washed = with_wash.check(&tables().pantry).unwrap();
    let (a, b) = (plain.analyse(&tables().pantry, &tables().styles), washed.analyse(&tables().pantry, &tables().styles));
    assert!(near(a.dough_g.likely, b.dough_g.likely, 1e-9));
    assert!(near(a.effective_hydration_pct.likely, b.effective_hydration_pct.likely, 1e-9));
    assert_eq!(b.line_pct.last(), Some(&None));
}

#[test]
fn the_salt_of_salted_butter_is_salt() {
    let with = |butter| {
        let f = formula(&[("wheat-bread", 500.0), ("water", 300.0), (butter, 100.0), ("salt-fine", 5.0)]);
        f.analyse(&tables().pantry, &tables().styles).salt_pct.likely
    };
    assert!(with("butter-salted") > with("butter-unsalted") + 0.2);
}

/// Doughs everyone knows, and the style they are.
const STYLES: &[(&str, &[(&str, f64)])] = &[
    ("lean", LEAN),
    ("sourdough-lean", &[("wheat-bread", 450.0), ("water", 330.0), ("leaven-wheat", 100.0), ("salt-fine", 10.0)]),
    ("rye", &[("rye-dark", 400.0), ("wheat-bread", 100.0), ("water", 400.0), ("salt-fine", 9.0), ("yeast-instant", 3.0)]),
    ("wholegrain", &[("wheat-whole", 500.0), ("water", 380.0), ("salt-fine", 10.0), ("yeast-instant", 4.0)]),
    (
        "brioche",
        &[
            ("wheat-bread", 500.0),
            ("egg-whole", 250.0),
            ("butter-unsalted", 250.0),
            ("sugar-white", 60.0),
            ("salt-fine", 10.0),
            ("yeast-instant", 8.0),
        ],
    ),
    (
        "gluten-free",
        &[
            ("rice-flour-brown", 300.0),
            ("tapioca-starch", 100.0),
            ("water", 400.0),
            ("psyllium", 20.0),
            ("salt-fine", 8.0),
            ("yeast-instant", 6.0),
        ],
    ),
];

#[test]
fn doughs_are_known_by_what_is_in_them() {
    for (style, lines) in STYLES {
        let f = formula(lines);
        assert_eq!(f.analyse(&tables().pantry, &tables().styles).style.id.word(), *style, "{lines:?}");
    }
}

#[test]
fn wheat_milk_and_egg_are_named_as_allergens() {
    let f = formula(&[("wheat-bread", 500.0), ("milk-whole", 250.0), ("egg-whole", 50.0), ("walnut", 80.0), ("salt-fine", 9.0)]);
    let allergens = f.analyse(&tables().pantry, &tables().styles).allergens.join(" ");
    for word in ["gluten", "milk", "egg", "nut"] {
        assert!(allergens.contains(word), "{word} not in {allergens}");
    }
}
