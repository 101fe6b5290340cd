use super::*;
use crate::{
    Tables,
    oven::{ProveIn, Shape, Vessel},
};

fn tables() -> Tables {
    Tables::built_in().unwrap()
}

fn formula(text: &str) -> Formula {
    let t = tables();
    let lines = text.split(';').map(|part| {
        let (part, stage) = part.split_once('@').map_or((part, None), |(p, s)| (p, Some(s.trim().to_owned())));
        let (id, grams) = part.trim().rsplit_once(' ').unwrap();
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
    });
    FormulaDraft { lines: lines.collect(), ..FormulaDraft::default() }.check(&t.pantry).unwrap()
}

fn ids(f: &Formula) -> Vec<&'static str> {
    let t = tables();
    let a = f.analyse(&t.pantry, &t.styles);
    find(&a, &t).into_iter().map(|f| f.id).collect()
}

const LEAN: &str = "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3";

#[test]
fn the_example_of_each_style_is_recognised_and_sound() {
    let t = tables();
    for id in StyleId::ALL {
        let style = t.styles.get(id);
        let mut example = formula(&style.example);
        if matches!(id, StyleId::PanSoft) {
            example.pieces = None;
        }
        let a = example.analyse(&t.pantry, &t.styles);
        assert_eq!(a.style.id, id, "{}", style.example);
        let wrong: Vec<_> = find(&a, &t).into_iter().filter(|f| f.id.starts_with("hydration") || f.id.starts_with("salt")).collect();
        assert!(wrong.is_empty(), "{id:?}: {wrong:?}");
        if let Some(near) = style.near_miss_style {
            let miss = formula(&style.near_miss);
            assert_eq!(miss.analyse(&t.pantry, &t.styles).style.id, near, "{}", style.near_miss);
        }
    }
}

#[test]
#[allow(clippy::too_many_lines, reason = "a table of cases")]
fn every_rule_is_raised_by_its_slip_and_not_by_a_near_miss() {
    let cases: &[(&str, &str, &str)] = &[
        ("flour-missing", "water 340; salt-fine 10", LEAN),
        ("salt-missing", "wheat-bread 500; water 340; yeast-instant 3", "wheat-bread 500; water 340; salt-fine 1.6; yeast-instant 3"),
        (
            "salt-low",
            "wheat-bread 500; water 340; salt-fine 7; yeast-instant 3",
            "wheat-bread 500; water 340; salt-fine 7.6; yeast-instant 3",
        ),
        (
            "salt-high",
            "wheat-bread 500; water 340; salt-fine 13.5; yeast-instant 3",
            "wheat-bread 500; water 340; salt-fine 12.9; yeast-instant 3",
        ),
        ("yeast-missing", "wheat-bread 500; water 340; salt-fine 10", LEAN),
        (
            "yeast-high",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 40",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 12.4",
        ),
        (
            "yeast-much",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 7",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 6.4",
        ),
        (
            "yeast-tiny",
            "wheat-bread 500; water 380; salt-fine 10; yeast-instant 0.4",
            "wheat-bread 500; water 380; salt-fine 10; yeast-instant 0.6",
        ),
        (
            "liquid-missing",
            "wheat-bread 500; water 100; salt-fine 10; yeast-instant 3",
            "wheat-bread 500; water 130; salt-fine 10; yeast-instant 3",
        ),
        (
            "hydration-low",
            "wheat-bread 500; water 270; salt-fine 10; yeast-instant 3",
            "wheat-bread 500; water 276; salt-fine 10; yeast-instant 3",
        ),
        (
            "hydration-high",
            "wheat-bread 500; water 410; salt-fine 10; yeast-instant 3",
            "wheat-bread 500; water 404; salt-fine 10; yeast-instant 3",
        ),
        (
            "sugar-slows-yeast",
            "wheat-bread 500; water 270; sugar-white 45; salt-fine 8; yeast-instant 6",
            "wheat-bread 500; water 270; sugar-white 39; salt-fine 8; yeast-instant 6",
        ),
        ("duplicate-ingredient", "wheat-bread 500; water 340; salt-fine 5; salt-fine 5; yeast-instant 3", LEAN),
        ("honey-infant", "wheat-bread 500; water 330; honey 10; salt-fine 10; yeast-instant 3", LEAN),
        ("alkali-caution", "wheat-bread 500; water 260; salt-fine 10; yeast-instant 4; lye 20 @finish", LEAN),
        (
            "fibre-unsoaked",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; sunflower-seed 65 @dough",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; sunflower-seed 65 @soaker",
        ),
        (
            "scale-range",
            "wheat-bread 45; water 30; salt-fine 0.9; yeast-instant 0.6",
            "wheat-bread 50; water 34; salt-fine 1; yeast-instant 0.6",
        ),
        (
            "salt-twice",
            "wheat-bread 500; water 300; salt-fine 9; yeast-instant 4; cheese-parmesan 60",
            "wheat-bread 500; water 300; salt-fine 9; yeast-instant 4; cheese-parmesan 20",
        ),
        (
            "yeast-and-leaven",
            "wheat-bread 500; water 300; salt-fine 10; yeast-instant 1; leaven-wheat 100",
            "wheat-bread 500; water 300; salt-fine 10; yeast-instant 1; leaven-wheat 25",
        ),
        (
            "leaven-none-chemical",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; baking-powder 10",
            "wheat-bread 500; water 340; salt-fine 10; baking-powder 10",
        ),
        (
            "self-raising-in-dough",
            "wheat-self-raising 100; wheat-bread 400; water 340; salt-fine 10; yeast-instant 3",
            "wheat-self-raising 40; wheat-bread 460; water 340; salt-fine 10; yeast-instant 3",
        ),
        (
            "osmotolerant-advised",
            "wheat-bread 500; water 270; sugar-white 52; salt-fine 8; yeast-instant 6",
            "wheat-bread 500; water 270; sugar-white 52; salt-fine 8; yeast-osmotolerant 6",
        ),
        (
            "spice-slows-yeast",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; cinnamon 3",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; cinnamon 20 @finish",
        ),
        (
            "allium-slows",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; garlic 6",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; garlic 4",
        ),
        (
            "acid-high",
            "wheat-bread 500; water 310; vinegar 35; salt-fine 10; yeast-instant 3",
            "wheat-bread 500; water 330; vinegar 15; salt-fine 10; yeast-instant 3",
        ),
        (
            "alcohol-high",
            "wheat-bread 500; water 300; rum 60 @dough; salt-fine 10; yeast-instant 3",
            "wheat-bread 500; water 320; rum 20 @dough; salt-fine 10; yeast-instant 3",
        ),
        (
            "malt-high",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; malt-powder 6",
            "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; malt-powder 4",
        ),
        (
            "leaven-dose-odd",
            "wheat-bread 500; water 340; salt-fine 10; leaven-wheat 20",
            "wheat-bread 500; water 340; salt-fine 10; leaven-wheat 60",
        ),
        (
            "preferment-over",
            "wheat-bread 500 @preferment; water 340; salt-fine 10; yeast-instant 1",
            "wheat-bread 250 @preferment; wheat-bread 250; water 340; salt-fine 10; yeast-instant 1",
        ),
        (
            "leaven-seed-small",
            "leaven-wheat 2 @leaven; wheat-bread 50 @leaven; water 50 @leaven; wheat-bread 450; water 300; salt-fine 10",
            "leaven-wheat 5 @leaven; wheat-bread 50 @leaven; water 50 @leaven; wheat-bread 450; water 300; salt-fine 10",
        ),
        (
            "rye-no-acid",
            "rye-medium 300; wheat-bread 200; water 380; salt-fine 10; yeast-instant 4",
            "rye-medium 240; wheat-bread 260; water 380; salt-fine 10; yeast-instant 4",
        ),
        (
            "gf-no-gum",
            "rice-flour-white 400; tapioca-starch 100; water 480; salt-fine 9; yeast-instant 8",
            "rice-flour-white 400; tapioca-starch 100; water 480; salt-fine 9; yeast-instant 8; psyllium 20",
        ),
        (
            "gf-gum-high",
            "rice-flour-white 500; water 480; salt-fine 9; yeast-instant 8; psyllium 50",
            "rice-flour-white 500; water 480; salt-fine 9; yeast-instant 8; psyllium 40",
        ),
        (
            "fat-early",
            "wheat-bread 500; water 280; butter-unsalted 60 @dough; salt-fine 10; yeast-instant 5",
            "wheat-bread 500; water 280; butter-unsalted 60; salt-fine 10; yeast-instant 5",
        ),
        (
            "dough-dense-syrup",
            "wheat-bread 500; water 160; sugar-white 150; salt-fine 10; yeast-osmotolerant 10",
            "wheat-bread 500; water 280; sugar-white 60; salt-fine 10; yeast-osmotolerant 10",
        ),
        ("allergens-present", "wheat-bread 500; milk-whole 340; salt-fine 10; yeast-instant 4", LEAN),
    ];
    for (id, slip, near) in cases {
        assert!(ids(&formula(slip)).contains(id), "{id} is not raised by {slip}: {:?}", ids(&formula(slip)));
        assert!(!ids(&formula(near)).contains(id), "{id} is raised by {near}");
    }
}

#[test]
fn pieces_are_held_against_the_dough() {
    let mut f = formula(LEAN);
    let mut with = |count, piece_g: f64, text: &str| {
        f.pieces = Some(Pieces { piece_g: Some(piece_g), ..Pieces::of(count) });
        f.text = Some(text.into());
        ids(&f)
    };
    assert!(with(6, 130.0 * 28.349_523_125, "6 baps of 130 oz").contains(&"piece-unit"));
    assert!(!with(6, 141.0, "6 baps of 141 g").contains(&"piece-unit"));
    assert!(with(12, 120.0, "").contains(&"piece-sum-mismatch"));
    assert!(!with(12, 71.0, "").contains(&"piece-sum-mismatch"));
    assert!(with(1, 5500.0, "").contains(&"piece-unit"));
    assert!(with(12, 73.0, "").contains(&"piece-loss"), "876 g of 853 g");
    assert!(!with(12, 71.0, "").contains(&"piece-loss"));
}

#[test]
fn a_claim_of_no_gluten_is_held_against_every_line() {
    let mut f = formula("rice-flour-white 400; oats-rolled 40; water 480; salt-fine 9; yeast-instant 8; psyllium 20");
    assert!(!ids(&f).contains(&"gf-cross-contact"));
    f.gluten_free = true;
    assert!(ids(&f).contains(&"gf-cross-contact") && !ids(&f).contains(&"gluten-in-gf"));
    f.lines.push(formula("wheat-bread 20").lines.remove(0));
    assert!(ids(&f).contains(&"gluten-in-gf"));
}

#[test]
fn a_remedy_silences_its_finding() {
    let t = tables();
    for slip in [
        "wheat-bread 500; water 340; yeast-instant 3",
        "wheat-bread 500; water 340; salt-fine 10; yeast-instant 40",
        "wheat-bread 500; water 100; salt-fine 10; yeast-instant 3",
        "wheat-bread 500; water 430; salt-fine 10; yeast-instant 3",
        "wheat-bread 500; water 340; salt-fine 18; yeast-instant 3",
        "water 340; salt-fine 10",
        "wheat-bread 500; water 340; salt-fine 10",
        "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; baking-powder 10",
        "wheat-self-raising 100; wheat-bread 400; water 340; salt-fine 10; yeast-instant 3",
        "wheat-bread 500; water 340; salt-fine 10; yeast-instant 3; malt-powder 8",
        "rye-medium 400; wheat-bread 100; water 390; salt-fine 10; yeast-instant 3",
        "rice-flour-white 400; tapioca-starch 100; water 480; salt-fine 9; yeast-instant 8",
        "wheat-bread 500; water 280; butter-unsalted 130 @dough; salt-fine 10; yeast-instant 5",
        "wheat-bread 500; water 160; sugar-white 150; salt-fine 10; yeast-osmotolerant 10",
    ] {
        let f = formula(slip);
        let a = f.analyse(&t.pantry, &t.styles);
        for finding in find(&a, &t).iter().filter(|f| f.severity > Severity::Note) {
            for remedy in &finding.remedies {
                let after = f.after(remedy, finding.id, &t.pantry);
                let again = find(&after.analyse(&t.pantry, &t.styles), &t);
                assert!(!again.iter().any(|g| g.id == finding.id), "{} after “{}” on {slip}", finding.id, remedy.label);
            }
        }
    }
}
use crate::{findings::Severity, kitchen::Kitchen, measure::plain};

#[test]
fn the_salt_remedy_adds_two_percent() {
    let t = tables();
    let f = formula("wheat-bread 500; water 350; yeast-instant 3");
    let a = f.analyse(&t.pantry, &t.styles);
    let finding = &find(&a, &t)[0];
    assert_eq!((finding.id, plain(&finding.remedies[0].label).as_ref()), ("salt-missing", "Add 10 g"));
    let after = f.after(&finding.remedies[0], finding.id, &t.pantry);
    assert!((after.analyse(&t.pantry, &t.styles).salt_pct.likely - 2.0).abs() < 1e-9);
}

#[test]
fn a_formula_survives_its_wire_form() {
    let t = tables();
    let mut f = formula("wheat-bread 500; milk-whole 200; water 120; butter-unsalted 40; salt-fine 10; yeast-instant 5; egg-wash 20");
    f.lines[1].grams = Band::new(190.0, 200.0, 210.0);
    f.pieces = Some(Pieces {
        piece_g: Some(430.0),
        shape: Some(Shape::Pan),
        vessel: Some(Vessel::PanMetal),
        lid: true,
        touching: Some(false),
        thickness_cm: Some(1.5),
        prove_in: Some(ProveIn::Cloth),
        ..Pieces::of(2)
    });
    f.coats = Some(2);
    f.oven = Some(OvenTold { set_c: Some(190.0), minutes: Some((30.0, 35.0)), ..OvenTold::default() });
    assert_eq!(FormulaDraft::from(f.body()).check(&t.pantry).unwrap(), f);
    assert_eq!(f.lines[3].stage, Stage::Late);
    assert_eq!(f.lines[6].stage, Stage::Finish);
}

#[test]
fn everything_wrong_is_told_at_once_each_at_its_field() {
    let t = tables();
    let line = |ingredient: &str, grams: &str| LineDraft {
        ingredient: ingredient.into(),
        grams: Typed::Text(grams.into()),
        grams_low: None,
        grams_high: None,
        stage: None,
        source: None,
        hydration_pct: None,
        used: None,
    };
    let draft = FormulaDraft {
        lines: vec![line("moonflour", "500"), line("water", "lots"), line("salt-fine", "-3"), line("water", "999999999")],
        ..FormulaDraft::default()
    };
    let errors = draft.check(&t.pantry).unwrap_err();
    let at: Vec<_> = errors.0.iter().map(|e| e.pointer.as_str()).collect();
    assert_eq!(at, ["/lines/0/ingredient", "/lines/1/grams", "/lines/2/grams", "/lines/3/grams"]);
    assert!(errors.0[1].message.contains("is not a number"));
}

#[test]
fn scaling_by_pieces_gives_exactly_that_dough() {
    let t = tables();
    let f = formula("wheat-bread 500; water 340; salt-fine 12; yeast-instant 4");
    let a = f.analyse(&t.pantry, &t.styles);
    let body = ScaleBody { pieces: Some(2.0), piece_g: Some(450.0), ..ScaleBody::default() };
    let scaled = f.scaled(&body.check(&f, &a, &t).unwrap(), &a);
    let b = scaled.analyse(&t.pantry, &t.styles);
    assert!((b.dough_g.likely - 900.0).abs() < 1e-9 && (b.flour_g.likely - 525.701).abs() < 1e-3 && (b.salt_pct.likely - 2.4).abs() < 1e-9);
    for wrong in [
        ScaleBody::default(),
        ScaleBody { dough_g: Some(0.0), ..ScaleBody::default() },
        ScaleBody { pieces: Some(2.5), piece_g: Some(100.0), ..ScaleBody::default() },
        ScaleBody { ingredient: Some("honey".into()), grams: Some(5.0), ..ScaleBody::default() },
        ScaleBody { dough_g: Some(900.0), flour_g: Some(500.0), ..ScaleBody::default() },
    ] {
        assert!(wrong.check(&f, &a, &t).is_err(), "{wrong:?}");
    }
}

#[test]
fn a_cup_of_flour_makes_every_percentage_a_range() {
    let t = tables();
    let mut f = formula("wheat-ap 500; water 325; salt-fine 10; yeast-instant 3");
    f.lines[0].grams = Band::new(452.0, 500.0, 560.0);
    let a = f.analyse(&t.pantry, &t.styles);
    assert!((a.hydration_pct.low - 100.0 * 325.0 / 560.0).abs() < 1e-9 && (a.hydration_pct.high - 100.0 * 325.0 / 452.0).abs() < 1e-9);
    assert!(ids(&f).contains(&"cups-uncertain"));
    f.lines[0].grams = Band::within(500.0, 0.04);
    assert!(!ids(&f).contains(&"cups-uncertain"));
}

#[test]
fn small_amounts_come_in_spoons() {
    let t = tables();
    let kitchen = Kitchen { locale: "en-US".into(), ..Kitchen::default() };
    let in_spoons = |id: &str, g: f64| spoons(t.pantry.get(id).unwrap(), g, Spoons::of(&kitchen, &t.pantry));
    assert_eq!(in_spoons("salt-fine", 12.0).as_deref(), Some("2 tsp"));
    assert_eq!(in_spoons("salt-fine", 10.5).as_deref(), Some("1¾ tsp"));
    assert_eq!(in_spoons("yeast-instant", 1.55).as_deref(), Some("½ tsp"));
    assert_eq!(in_spoons("butter-unsalted", 71.0).as_deref(), Some("⅓ cup"));
    assert_eq!(in_spoons("egg-whole", 102.0).as_deref(), Some("about 2"));
    assert_eq!(in_spoons("honey", 43.0).as_deref(), Some("2 tbsp"));
    assert_eq!(in_spoons("wheat-bread", 1625.0), None);
    assert_eq!(in_spoons("egg-yolk", 34.0).as_deref(), Some("about 2"), "a yolk weighs less than an egg");
    let mug = Kitchen { cup: "own".into(), cup_ml: Some(355.0), egg: Some("uk-eu-l".into()), ..Kitchen::default() };
    let by_mug = |id: &str, g: f64| spoons(t.pantry.get(id).unwrap(), g, Spoons::of(&mug, &t.pantry));
    assert_eq!(by_mug("water", 355.0).as_deref(), Some("1 cup"));
    assert_eq!(by_mug("egg-whole", 120.0).as_deref(), Some("about 2"));
}
