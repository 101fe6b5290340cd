//! Where a dough proves and bakes, from the recipe's words to the act: basket, cloth, closed tin, side by side, coats.

use cerealis_core::{
    formula::{Formula, FormulaBody, FormulaDraft, PiecesBody, oven_of},
    kitchen::Kitchen,
    measure::plain,
    oven::{ProveIn, Shape, Vessel},
    pantry::PanShape,
    plan::{
        Plan, PlanStep, StepKind,
        search::{answer::fit, ask::FitAsk},
    },
    reader::{Choices, read},
};
use jiff::Timestamp;
use proptest::prelude::*;

use super::bench::tables;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

const SOFT: &str = r#"{"ingredient":"wheat-bread","grams":500},{"ingredient":"milk-whole","grams":320},{"ingredient":"butter-unsalted","grams":40},{"ingredient":"sugar-white","grams":30},{"ingredient":"salt-fine","grams":9},{"ingredient":"yeast-instant","grams":5}"#;

fn bread(lines: &str, pieces: PiecesBody) -> Formula {
    let body: FormulaBody = serde_json::from_str(&format!(r#"{{"lines":[{lines}]}}"#)).unwrap();
    FormulaDraft { pieces: Some(pieces), ..FormulaDraft::from(body) }.check(&tables().pantry).unwrap()
}

fn steps(f: &Formula) -> Vec<PlanStep> {
    let k = Kitchen { room_c: 22.0, ..Kitchen::default() };
    let ask = FitAsk { ready_at: Some(at("2026-11-07T20:00:00Z")), ..FitAsk::soon(at("2026-11-07T08:00:00Z"), &k) };
    let answer = fit(f, &ask, &k, tables(), &|at: Timestamp| at.strftime("%H:%M").to_string()).unwrap();
    let o = answer.offers.first().unwrap();
    Plan::make(&o.formula, &o.ask, &k, tables()).unwrap().steps
}

fn of(steps: &[PlanStep], kind: StepKind) -> Vec<&PlanStep> {
    steps.iter().filter(|s| s.kind == kind).collect()
}

/// A closed tin is shut at 80 to 85 % of its depth. Common practice, no source.
#[test]
fn a_closed_tin_is_shut_by_the_height_of_the_dough() {
    let pan = tables().pantry.pan("closed-9x4").unwrap();
    let depth = pan.inside.unwrap().depth_cm;
    assert!((depth - 10.2).abs() < 1e-9);
    let closed = |count: f64| PiecesBody {
        piece_g: Some(680.0),
        pan: Some(pan.id.clone()),
        lid: Some(true),
        shape: Some("pan".into()),
        vessel: Some("pan-metal".into()),
        ..PiecesBody::of(count)
    };
    let all = steps(&bread(SOFT, closed(1.0)));
    let (lid, load) = (of(&all, StepKind::LidOn), of(&all, StepKind::Load));
    assert_eq!((lid.len(), lid[0].end), (1, load[0].start), "shut, then loaded");
    assert!(lid[0].hands_on_min >= 1.0 && lid[0].instruction.contains("lid on"));
    for sign in [&of(&all, StepKind::Proof)[0].sign, &lid[0].sign] {
        assert!(plain(sign).starts_with("8.2–8.7 cm up the tin") && !sign.contains("rim"), "{sign}");
    }
    assert!(plain(&lid[0].over).contains("9 cm"), "past 88 % the lid would press it out: {}", lid[0].over);
    assert!(!load[0].instruction.contains("slash") && !load[0].instruction.contains("cut"), "no cut under a lid: {}", load[0].instruction);
    assert!(of(&all, StepKind::Turn).is_empty() && of(&all, StepKind::LidOff).is_empty());
    // Of a tin nobody measured the share is told.
    let unknown = PiecesBody { pan: None, ..closed(1.0) };
    let sign = &steps(&bread(SOFT, unknown)).into_iter().find(|s| s.kind == StepKind::LidOn).unwrap().sign;
    assert!(sign.contains("80–85 %"), "{sign}");
}

/// A plan by hand has the same acts.
#[test]
fn by_hand_too_the_lid_and_the_brush_have_their_acts() {
    let k = Kitchen::default();
    let f = bread(
        &format!(r#"{SOFT},{{"ingredient":"egg-whole","grams":20,"stage":"finish"}}"#),
        PiecesBody { piece_g: Some(430.0), strands: Some(3.0), ..PiecesBody::of(2.0) },
    );
    let f = Formula { coats: Some(2), ..f };
    let ask = cerealis_core::plan::PlanAsk::usual(&f, &k, at("2026-11-07T08:00:00Z"), tables());
    let plan = Plan::make(&f, &ask, &k, tables()).unwrap();
    assert_eq!(of(&plan.steps, StepKind::Finish).len(), 2);
}

/// The dome over the rim is the sign of a tin; what proves free has no rim.
#[test]
fn a_rim_is_told_only_where_there_is_one() {
    let rolls = PiecesBody { piece_g: Some(75.0), vessel: Some("sheet".into()), ..PiecesBody::of(12.0) };
    let tin = PiecesBody {
        piece_g: Some(900.0),
        pan: Some("loaf-uk-2lb".into()),
        shape: Some("pan".into()),
        vessel: Some("pan-metal".into()),
        ..PiecesBody::of(1.0)
    };
    let sign = |p: PiecesBody| of(&steps(&bread(SOFT, p)), StepKind::Proof)[0].sign.clone();
    assert!(!sign(rolls.clone()).contains("rim"), "{}", sign(rolls));
    assert!(sign(tin.clone()).contains("rim"), "{}", sign(tin));
}

#[test]
fn two_coats_are_two_acts_with_time_to_dry_between() {
    let egg = format!(r#"{SOFT},{{"ingredient":"egg-whole","grams":20,"stage":"finish"}}"#);
    let braid = bread(&egg, PiecesBody { piece_g: Some(860.0), strands: Some(4.0), ..PiecesBody::of(1.0) });
    for coats in [1, 2, 3] {
        let all = steps(&Formula { coats: Some(coats), ..braid.clone() });
        let (brush, load) = (of(&all, StepKind::Finish), of(&all, StepKind::Load)[0]);
        assert_eq!(brush.len(), coats as usize);
        assert_eq!(brush.last().unwrap().end, load.start);
        for two in brush.windows(2) {
            // A coat dries 5 to 10 minutes before the next. Common practice, no source.
            let dries = (two[1].start.as_second() - two[0].end.as_second()) / 60;
            assert!((5..=10).contains(&dries), "{dries}");
        }
        let weighed = brush.iter().filter(|s| s.instruction.contains("Weigh")).count();
        assert_eq!(weighed, 1, "weighed once, at the first");
    }
}

#[test]
fn a_basket_a_cloth_and_how_they_lie_are_told_at_their_act() {
    let lean = r#"{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":350},{"ingredient":"salt-fine","grams":10},{"ingredient":"yeast-instant","grams":2}"#;
    for (prove_in, into, out) in
        [("basket", "floured basket", "Turn it out"), ("cloth", "floured cloth", "off the cloth"), ("bowl", "bowl lined", "Turn it out")]
    {
        let all = steps(&bread(lean, PiecesBody { prove_in: Some(prove_in.into()), piece_g: Some(430.0), ..PiecesBody::of(2.0) }));
        assert!(of(&all, StepKind::Shape)[0].instruction.contains(into));
        assert!(of(&all, StepKind::Load)[0].instruction.contains(out));
    }
    let lie =
        |arrangement: &str| bread(SOFT, PiecesBody { piece_g: Some(75.0), arrangement: Some(arrangement.into()), ..PiecesBody::of(12.0) });
    assert!(of(&steps(&lie("touching")), StepKind::Shape)[0].instruction.contains("grow together"));
    assert!(of(&steps(&lie("free")), StepKind::Shape)[0].instruction.contains("do not touch"));
    let t = tables();
    let bake = |f: &Formula| oven_of(&f.analyse(&t.pantry, &t.styles), &t.pantry);
    assert!(bake(&lie("touching")).touching && !bake(&lie("free")).touching);
    let flat = bread(lean, PiecesBody { shape: Some("flat".into()), thickness_cm: Some(1.5), ..PiecesBody::of(1.0) });
    assert_eq!(bake(&flat).thickness_cm, Some(1.5));
    assert!(plain(&of(&steps(&flat), StepKind::Shape)[0].instruction).contains("1.5 cm thick"));
}

fn told(method: &str) -> Formula {
    let text = format!("500 g bread flour\n330 g water\n10 g salt\n4 g instant yeast\n1 egg, beaten\n\n{method}");
    read(&text, &Choices::default(), &[], tables()).unwrap().formula
}

#[test]
fn what_recipes_say_of_it_is_read() {
    for (words, into) in [
        ("Shape into a round and place in a floured banneton.", Some(ProveIn::Basket)),
        ("Shape the loaf and put it into a well floured proofing basket, seam side up.", Some(ProveIn::Basket)),
        ("Zu einem Laib formen und in ein Gärkörbchen legen.", Some(ProveIn::Basket)),
        ("Shape two batons and lay them on a couche.", Some(ProveIn::Cloth)),
        ("Cover with a floured cloth and leave for 1 hour.", None),
        ("Shape and leave to rise for an hour.", None),
    ] {
        let f = told(&format!("{words} Bake at 230 C for 30 minutes."));
        assert_eq!(f.pieces.and_then(|p| p.prove_in), into, "{words}");
    }
    for (words, touching) in [
        ("Divide into 12 rolls and arrange side by side on a tray.", Some(true)),
        ("Shape 9 buns and place them close together in the tin.", Some(true)),
        ("Divide into 8 rolls. Place on a baking sheet, well apart.", Some(false)),
        ("Divide into 8 rolls and place on a baking sheet.", None),
        ("Divide into 8 rolls and set on a sheet, not touching.", Some(false)),
        ("Shape 1 loaf and fold the sides close together.", None),
    ] {
        let f = told(&format!("{words} Bake at 200 C for 20 minutes."));
        assert_eq!(f.pieces.unwrap().touching, touching, "{words}");
    }
    for (words, coats) in [
        ("Brush with the egg, wait 10 minutes and brush again.", Some(2)),
        ("Brush twice with beaten egg.", Some(2)),
        ("Brush with egg. Leave to rise again for 30 minutes.", None),
        ("Fold twice. Brush with egg.", None),
        ("Brush with egg and leave to rise again for 30 minutes.", None),
        ("Brush with egg three times, 10 minutes apart.", Some(3)),
        ("Knead, rest, knead again. Brush with egg once.", None),
        ("Brush with the egg.", None),
    ] {
        assert_eq!(told(&format!("Divide into 2 loaves. {words} Bake at 190 C for 30 minutes.")).coats, coats, "{words}");
    }
    for (words, lid) in [
        ("Shape, place in a loaf tin, prove for 1 hour. Put the lid on and bake at 200 C for 35 minutes.", true),
        ("Shape and place in a loaf tin. Prove for 1 hour, slide the lid on. Bake at 200 C for 35 minutes.", true),
        ("In eine Kastenform legen, 1 Stunde gehen lassen. Mit Deckel 35 Minuten bei 200 C backen.", true),
        // What is covered lies under a cloth or foil.
        ("Place in a loaf tin and let rise, covered, for 1 hour. Bake at 200 C for 35 minutes.", false),
        ("Place in a loaf tin, cover and prove for 1 hour. Bake at 200 C for 35 minutes, under foil at the end.", false),
        ("Place in a loaf tin, prove 1 hour. Bake at 200 C, covered with foil, for 35 minutes.", false),
        ("Place in a loaf tin. Prove 1 hour. Put the lid on, bake 20 minutes at 220 C, remove the lid, bake 15 minutes more.", false),
    ] {
        let pieces = told(words).pieces.unwrap();
        assert_eq!((pieces.vessel, pieces.lid), (Some(Vessel::PanMetal), lid), "{words}");
    }
}

/// The table's own volume is that of a frustum of its sizes; the level is where that much of it lies below. Geometry.
#[test]
fn the_inside_of_a_tin_is_that_of_its_table() {
    for pan in tables().pantry.pans().filter(|p| p.shape == PanShape::Loaf && !p.is_own) {
        let inside = pan.inside.unwrap_or_else(|| panic!("{} has no sizes", pan.id));
        assert!(inside.taper.0 <= 1.0 && inside.taper.0 > 0.5 && (inside.level_cm(1.0) - inside.depth_cm).abs() < 1e-6, "{}", pan.id);
        // Narrower below: half of what it holds stands higher than half of its depth.
        assert!(inside.level_cm(0.5) >= 0.5 * inside.depth_cm - 1e-9, "{}", pan.id);
    }
}

proptest! {
    #[test]
    fn more_dough_stands_higher(a in 0.0..1.4f64, b in 0.0..1.4f64, l in 0.5..1.0f64, w in 0.5..1.0f64, depth_cm in 2.0..15.0f64) {
        let inside = cerealis_core::pantry::Inside { depth_cm, taper: (l, w) };
        let (low, high) = (a.min(b), a.max(b));
        prop_assert!(inside.level_cm(low) <= inside.level_cm(high) + 1e-9);
        // What lies under a level is what was asked for: by slices.
        let level = inside.level_cm(a.min(1.0)) / depth_cm;
        let area = |t: f64| (l + (1.0 - l) * t) * (w + (1.0 - w) * t);
        let sum = |to: f64| (0..2000).map(|i| area(to * (f64::from(i) + 0.5) / 2000.0)).sum::<f64>() * to / 2000.0;
        prop_assert!((sum(level) / sum(1.0) - a.min(1.0)).abs() < 1e-5);
    }

    /// Whatever is told of a piece comes back from its wire form, and what it bakes is a bake the oven takes.
    #[test]
    fn whatever_is_told_bakes(vessel in 0..10usize, shape in 0..9usize, prove in 0..4usize, lid: bool, touching: bool, count in 1..13u32, cm in 0.3..4.0f64) {
        let pieces = PiecesBody {
            piece_g: Some(80.0), vessel: Some(Vessel::words()[vessel].into()), shape: Some(Shape::words()[shape].into()),
            prove_in: Some(ProveIn::words()[prove].into()), lid: Some(lid), thickness_cm: Some(cm),
            arrangement: Some(if touching { "touching" } else { "free" }.into()), ..PiecesBody::of(f64::from(count))
        };
        let f = bread(SOFT, pieces);
        prop_assert_eq!(&FormulaDraft::from(f.body()).check(&tables().pantry).unwrap(), &f);
        let t = tables();
        let bake = oven_of(&f.analyse(&t.pantry, &t.styles), &t.pantry);
        let refused = cerealis_core::oven::BakeBody::default().over(bake).err();
        prop_assert!(refused.is_none(), "{refused:?}");
    }
}

/// What was told at the oven is the bread's from then on, and nothing else of it changes.
#[test]
fn what_the_oven_was_told_is_kept_with_the_bread() {
    use cerealis_core::{kitchen::Kitchen, oven::BakeBody};
    let t = tables();
    let f = bread(SOFT, PiecesBody { piece_g: Some(75.0), ..PiecesBody::of(12.0) });
    let bake = |f: &Formula| cerealis_core::formula::bake_in(&f.analyse(&t.pantry, &t.styles), &Kitchen::default(), &t.pantry);
    let told = BakeBody { vessel: Some("dish".into()), arrangement: Some("touching".into()), lid: Some(false), ..BakeBody::default() };
    let asked = told.over(bake(&f)).unwrap();
    assert!(asked.stands_otherwise(&bake(&f)));
    let mut body = f.body();
    body.keep_bake(&told);
    let kept = FormulaDraft::from(body).check(&t.pantry).unwrap();
    assert!(!asked.stands_otherwise(&bake(&kept)));
    let besides = |f: &Formula| (f.lines.clone(), f.oven, f.pieces.as_ref().map(|p| (p.count, p.piece_g)));
    assert_eq!(besides(&kept), besides(&f));
}
