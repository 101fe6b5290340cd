//! Baker's percentages against worked examples.

use cerealis_core::{
    Tables,
    formula::{FormulaDraft, LineDraft, Typed},
};

fn draft(lines: &[(&str, f64)]) -> FormulaDraft {
    let line = |(id, g): &(&str, f64)| LineDraft {
        ingredient: (*id).into(),
        grams: Typed::Number(*g),
        grams_low: None,
        grams_high: None,
        stage: None,
        source: None,
        hydration_pct: None,
        used: None,
    };
    FormulaDraft { lines: lines.iter().map(line).collect(), ..FormulaDraft::default() }
}

/// The form of the trade's textbooks (flour 100, the rest on it; leaven split into its flour and water):
/// common practice, no source; the figures follow by hand.
#[test]
fn worked_examples_come_out_as_by_hand() {
    let t = Tables::built_in().unwrap();
    // 1000 flour, 660 water, 20 salt, 12 fresh yeast: 66 %, 2 %, fresh 1.2 % = 0.4 % instant.
    let f = draft(&[("wheat-bread", 1000.0), ("water", 660.0), ("salt-fine", 20.0), ("yeast-fresh", 12.0)]).check(&t.pantry).unwrap();
    let a = f.analyse(&t.pantry, &t.styles);
    for (got, want) in
        [(a.hydration_pct.likely, 66.0), (a.salt_pct.likely, 2.0), (a.yeast_instant_pct.likely, 0.4), (a.dough_g.likely, 1692.0)]
    {
        assert!((got - want).abs() < 1e-9, "{got} instead of {want}");
    }
    // 900 flour, 600 water, 200 leaven half and half, 20 salt: all flour 1000, water 700, 10 % prefermented.
    let f = draft(&[("wheat-bread", 900.0), ("water", 600.0), ("leaven-wheat", 200.0), ("salt-fine", 20.0)]).check(&t.pantry).unwrap();
    let a = f.analyse(&t.pantry, &t.styles);
    for (got, want) in [
        (a.flour_g.likely, 1000.0),
        (a.hydration_pct.likely, 70.0),
        (a.effective_hydration_pct.likely, 70.0),
        (a.prefermented_flour_pct, 10.0),
        (a.leaven_flour_pct.likely, 10.0),
        (a.salt_pct.likely, 2.0),
    ] {
        assert!((got - want).abs() < 1e-9, "{got} instead of {want}");
    }
    // Milk counts whole in the plain figure and by its water (88.1 %) in the effective one; eggs only in the latter.
    let f = draft(&[("wheat-ap", 500.0), ("milk-whole", 250.0), ("egg-whole", 100.0), ("salt-fine", 9.0), ("yeast-instant", 5.0)])
        .check(&t.pantry)
        .unwrap();
    let a = f.analyse(&t.pantry, &t.styles);
    assert!((a.hydration_pct.likely - 50.0).abs() < 1e-9);
    assert!((a.effective_hydration_pct.likely - (250.0 * 0.881 + 100.0 * 0.762) / 5.0).abs() < 1e-9);
    assert!((a.egg_pct - 20.0).abs() < 1e-9 && (a.milk_share - 1.0).abs() < 1e-9);
}
