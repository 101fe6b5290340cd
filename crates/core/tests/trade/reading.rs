//! Lines as people write them, against the weights of the trade.
//!
//! Volumes: US customary, NIST Handbook 44 Appendix C (from memory); weights of a cup: common practice, no source.

use cerealis_core::{
    formula::Stage,
    reader::{Choices, Reading, read},
};

use super::bench::tables;

fn read_it(text: &str) -> Reading {
    read(text, &Choices::default(), &[], tables()).unwrap()
}

/// A line, the ingredient it names, and between what its likely grams lie.
const LINES: &[(&str, &str, f64, f64)] = &[
    // Weights are weights, whatever the spelling.
    ("500 g bread flour", "wheat-bread", 500.0, 500.0),
    ("500g bread flour", "wheat-bread", 500.0, 500.0),
    ("500 grams bread flour", "wheat-bread", 500.0, 500.0),
    ("500 gr. bread flour", "wheat-bread", 500.0, 500.0),
    ("0.5 kg bread flour", "wheat-bread", 500.0, 500.0),
    ("0,5 kg bread flour", "wheat-bread", 500.0, 500.0),
    ("1/2 kg bread flour", "wheat-bread", 500.0, 500.0),
    ("½ kg bread flour", "wheat-bread", 500.0, 500.0),
    ("half a kilo of bread flour", "wheat-bread", 500.0, 500.0),
    ("bread flour 500 g", "wheat-bread", 500.0, 500.0),
    ("bread flour: 500 g", "wheat-bread", 500.0, 500.0),
    ("- 500 g bread flour", "wheat-bread", 500.0, 500.0),
    ("• 500 g bread flour", "wheat-bread", 500.0, 500.0),
    ("* 500 g bread flour", "wheat-bread", 500.0, 500.0),
    ("1 lb bread flour", "wheat-bread", 453.0, 454.0),
    ("1 pound bread flour", "wheat-bread", 453.0, 454.0),
    ("8 oz bread flour", "wheat-bread", 226.0, 227.0),
    ("8 ounces bread flour", "wheat-bread", 226.0, 227.0),
    ("1 1/2 lbs bread flour", "wheat-bread", 680.0, 681.0),
    // Cups, spooned unless said.
    ("1 cup bread flour", "wheat-bread", 115.0, 130.0),
    ("4 cups bread flour", "wheat-bread", 460.0, 520.0),
    ("3 1/2 cups bread flour", "wheat-bread", 405.0, 455.0),
    ("3½ cups bread flour", "wheat-bread", 405.0, 455.0),
    ("3.5 cups bread flour", "wheat-bread", 405.0, 455.0),
    ("three cups bread flour", "wheat-bread", 345.0, 390.0),
    ("1 cup whole wheat flour", "wheat-whole", 108.0, 130.0),
    ("1 cup water", "water", 236.0, 238.0),
    ("1 cup warm water", "water", 236.0, 238.0),
    ("1 1/4 cups lukewarm water", "water", 294.0, 298.0),
    ("1 cup milk", "milk-whole", 240.0, 250.0),
    ("1/2 cup milk", "milk-whole", 120.0, 125.0),
    ("1 cup sugar", "sugar-white", 195.0, 205.0),
    ("1/3 cup sugar", "sugar-white", 64.0, 70.0),
    ("1 cup butter", "butter-unsalted", 224.0, 230.0),
    ("1 stick butter", "butter-unsalted", 112.0, 114.0),
    ("2 sticks butter", "butter-unsalted", 225.0, 228.0),
    ("5 tbsp butter", "butter-unsalted", 69.0, 72.0),
    ("1/4 cup honey", "honey", 80.0, 90.0),
    ("2 tbsp honey", "honey", 40.0, 44.0),
    ("1/4 cup olive oil", "oil-olive", 50.0, 56.0),
    ("2 tbsp olive oil", "oil-olive", 25.0, 28.5),
    // Spoons.
    ("1 tsp salt", "salt-fine", 5.0, 6.5),
    ("1 teaspoon salt", "salt-fine", 5.0, 6.5),
    ("1 tsp. salt", "salt-fine", 5.0, 6.5),
    ("2 tsp salt", "salt-fine", 10.0, 13.0),
    ("1 1/2 tsp fine salt", "salt-fine", 7.5, 9.7),
    ("1 tsp instant yeast", "yeast-instant", 2.8, 3.3),
    ("2 1/4 tsp instant yeast", "yeast-instant", 6.4, 7.4),
    ("1 tbsp instant yeast", "yeast-instant", 8.4, 10.0),
    ("1 tsp sugar", "sugar-white", 3.9, 4.4),
    ("1 tbsp sugar", "sugar-white", 11.8, 13.0),
    ("1 Tbsp sugar", "sugar-white", 11.8, 13.0),
    ("1 tablespoon sugar", "sugar-white", 11.8, 13.0),
    // Metric volumes.
    ("300 ml water", "water", 299.0, 301.0),
    ("3 dl water", "water", 299.0, 301.0),
    ("30 cl water", "water", 299.0, 301.0),
    ("0.3 l water", "water", 299.0, 301.0),
    ("250 ml milk", "milk-whole", 255.0, 260.0),
    ("250ml milk", "milk-whole", 255.0, 260.0),
    // Things counted.
    ("1 egg", "egg-whole", 48.0, 52.0),
    ("2 eggs", "egg-whole", 96.0, 104.0),
    ("2 large eggs", "egg-whole", 98.0, 104.0),
    ("1 egg yolk", "egg-yolk", 16.0, 20.0),
    ("2 egg whites", "egg-white", 60.0, 70.0),
    ("1 packet instant yeast", "yeast-instant", 6.9, 7.1),
    ("1 sachet instant yeast", "yeast-instant", 6.9, 7.1),
    // Names with their notes.
    ("500 g strong white flour", "wheat-bread", 500.0, 500.0),
    ("500 g strong white bread flour, plus extra for dusting", "wheat-bread", 500.0, 500.0),
    ("500 g all-purpose flour", "wheat-ap", 500.0, 500.0),
    ("500 g plain flour", "wheat-ap", 500.0, 500.0),
    ("100 g wholemeal flour", "wheat-whole", 100.0, 100.0),
    ("50 g butter, softened", "butter-unsalted", 50.0, 50.0),
    ("50 g unsalted butter", "butter-unsalted", 50.0, 50.0),
    ("7 g instant yeast", "yeast-instant", 7.0, 7.0),
    ("20 g fresh yeast", "yeast-fresh", 20.0, 20.0),
    ("7 g active dry yeast", "yeast-active-dry", 7.0, 7.0),
    ("100 g ripe sourdough starter", "leaven-wheat", 100.0, 100.0),
    ("10 g fine sea salt", "salt-fine", 10.0, 10.0),
    ("60 g honey", "honey", 60.0, 60.0),
    ("30 g olive oil", "oil-olive", 30.0, 30.0),
];

#[test]
fn a_line_is_read_as_the_trade_weighs_it() {
    let mut wrong = Vec::new();
    for (text, id, low, high) in LINES {
        let r = read_it(text);
        let got = r.lines.first().map(|l| (l.ingredient.id.clone(), l.grams.map(|g| g.likely)));
        let fits = matches!(&got, Some((i, Some(g))) if i == id && *g >= *low - 1e-9 && *g <= *high + 1e-9);
        if !fits {
            wrong.push(format!("{text}: wanted {id} {low}–{high} g, got {got:?}"));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

#[test]
fn what_is_weighed_is_exact_and_what_is_scooped_is_not() {
    for (text, exact) in [("500 g bread flour", true), ("1 lb bread flour", true), ("4 cups bread flour", false), ("2 tsp salt", false)] {
        let grams = read_it(text).lines[0].grams.unwrap();
        assert_eq!(grams.is_exact(), exact, "{text}: {grams:?}");
    }
}

#[test]
fn a_cup_of_flour_may_hold_a_quarter_more_than_one_thinks() {
    let g = read_it("4 cups bread flour").lines[0].grams.unwrap();
    assert!(g.low < g.likely && g.likely < g.high);
    assert!(g.high / g.low > 1.15 && g.high / g.low < 1.5, "{g:?}");
}

#[test]
fn the_kitchens_own_cup_counts() {
    let grams = |cup: &str| {
        let choices = Choices { cup: cup.into(), ..Choices::default() };
        read("1 cup water", &choices, &[], tables()).unwrap().lines[0].grams.unwrap().likely
    };
    assert!((grams("us") - 236.6).abs() < 1.0);
    assert!((grams("metric") - 250.0).abs() < 1.0);
    assert!((grams("imperial") - 284.1).abs() < 1.0);
}

#[test]
fn scooped_flour_weighs_more_than_spooned() {
    let grams = |way: &str| {
        let choices = Choices { flour_measure: way.into(), ..Choices::default() };
        read("4 cups bread flour", &choices, &[], tables()).unwrap().lines[0].grams.unwrap().likely
    };
    assert!(grams("scooped") > 1.08 * grams("spooned"), "{} {}", grams("scooped"), grams("spooned"));
}

#[test]
fn what_goes_on_top_is_no_part_of_the_dough() {
    let r = read_it("500 g bread flour\n300 g water\n\nFor the glaze:\n1 egg, beaten\n1 tbsp milk");
    let stages: Vec<Stage> = r.lines.iter().map(|l| l.stage).collect();
    assert_eq!(stages, [Stage::Dough, Stage::Dough, Stage::Finish, Stage::Finish]);
}

#[test]
fn no_line_is_dropped_in_silence() {
    let text = "500 g bread flour\na pinch of moon dust\n300 g water\nsome love";
    let r = read_it(text);
    assert_eq!(r.lines.len(), 2);
    let unread: Vec<&str> = r.unread.iter().map(|u| u.source.as_str()).collect();
    assert!(unread.contains(&"a pinch of moon dust"), "{unread:?}");
    let kept = r.lines.len() + r.unread.len() + r.remarks.len() + r.steps.len();
    assert_eq!(kept, 4, "{r:?}");
}

/// A step, its setting in °C, its minutes (low, high), its pieces.
type StepCase = (&'static str, Option<f64>, Option<(f64, f64)>, Option<u32>);

#[test]
fn steps_give_setting_minutes_and_pieces() {
    let cases: &[StepCase] = &[
        ("Bake at 180 C for 30 minutes.", Some(180.0), Some((30.0, 30.0)), None),
        ("Bake at 180°C for 30-35 minutes.", Some(180.0), Some((30.0, 35.0)), None),
        ("Bake at 180 °C for 30 to 35 min.", Some(180.0), Some((30.0, 35.0)), None),
        ("Bake at 350 F for 30 minutes.", Some(176.7), Some((30.0, 30.0)), None),
        ("Bake at 350°F for 30 minutes.", Some(176.7), Some((30.0, 30.0)), None),
        ("Bake at gas mark 6 for 20 minutes.", Some(200.0), Some((20.0, 20.0)), None),
        ("Bake at 425 F for 25 minutes.", Some(218.3), Some((25.0, 25.0)), None),
        ("Let rise 1 hour.", None, Some((60.0, 60.0)), None),
        ("Let rise 1 1/2 hours until doubled.", None, Some((90.0, 90.0)), None),
        ("Let rise 1-2 hours.", None, Some((60.0, 120.0)), None),
        ("Knead 10 minutes.", None, Some((10.0, 10.0)), None),
        ("Divide into 12 pieces.", None, None, Some(12)),
        ("Shape into 2 loaves.", None, None, Some(2)),
    ];
    let mut wrong = Vec::new();
    for (text, c, minutes, pieces) in cases {
        let r = read_it(&format!("500 g bread flour\n300 g water\n\nMethod\n{text}"));
        let Some(step) = r.steps.first() else {
            wrong.push(format!("{text}: no step"));
            continue;
        };
        let c_ok = match (c, step.oven_c) {
            (Some(want), Some(got)) => (want - got).abs() < 0.6,
            (None, None) => true,
            _ => false,
        };
        let got = step.minutes.map(|m| (m.low, m.high));
        if !c_ok || got != *minutes || step.pieces != *pieces {
            wrong.push(format!("{text}: {:?} {got:?} {:?}", step.oven_c, step.pieces));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// A slip in a recipe, and the finding that names it.
const SLIPS: &[(&str, &str)] = &[
    ("500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast\nMakes 1 loaf\nBake at 400 for 30 minutes", "oven-unit-none"),
    ("500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast\nMakes 1 loaf\nBake at 180 C", "bake-time-missing"),
    ("500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast\nBake at 180 C / 450 F for 30 minutes", "temperature-mismatch"),
    ("500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast\nMakes 6 baps of 130 oz", "piece-unit"),
    ("500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast\nMakes 12 rolls of 200 g", "piece-sum-mismatch"),
    ("4 cups bread flour\n1 1/2 cups water\n10 g salt\n5 g instant yeast", "cups-uncertain"),
    ("500 g bread flour\n300 g water\n5 g instant yeast", "salt-missing"),
    ("500 g bread flour\n300 g water\n10 g salt", "yeast-missing"),
    ("500 g bread flour\n10 g salt\n5 g instant yeast", "liquid-missing"),
    ("500 g bread flour\n300 g water\n10 g salt\n60 g instant yeast", "yeast-high"),
    ("500 g bread flour\n300 g water\n30 g salt\n5 g instant yeast", "salt-high"),
    ("500 g bread flour\n300 g water\n2 g salt\n5 g instant yeast", "salt-low"),
    ("500 g bread flour\n170 g water\n10 g salt\n5 g instant yeast", "hydration-low"),
    ("500 g bread flour\n600 g water\n10 g salt\n5 g instant yeast", "hydration-high"),
    ("500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast\n3//4 cup nonsense", "unread-amount"),
];

#[test]
fn each_slip_is_named() {
    let wrong: Vec<String> = SLIPS
        .iter()
        .filter_map(|(text, id)| {
            let ids: Vec<&str> = read_it(text).findings(tables()).into_iter().map(|f| f.id).collect();
            (!ids.contains(id)).then(|| format!("{id} not among {ids:?} of\n{text}\n"))
        })
        .collect();
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

#[test]
fn a_sound_recipe_raises_nothing_worse_than_a_note() {
    let text = "500 g bread flour\n340 g water\n10 g salt\n3 g instant yeast\nMakes 1 loaf of 850 g\nBake at 220 C for 35 minutes";
    let bad: Vec<_> =
        read_it(text).findings(tables()).into_iter().filter(|f| f.severity != cerealis_core::findings::Severity::Note).collect();
    assert!(bad.is_empty(), "{bad:?}");
}
