//! Schools of the first rise: folded, knocked back, or none at all; read, planned, noted.

use cerealis_core::{
    formula::{FirstRise, Formula, FormulaBody, FormulaDraft, RisesBody},
    kitchen::Kitchen,
    plan::{
        Plan, PlanAsk, PlanStep, StepKind, minutes_between,
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

fn rolls(rises: Option<FirstRise>, yeast_g: f64) -> Formula {
    let text = format!(
        r#"{{"lines":[{{"ingredient":"wheat-bread","grams":500}},{{"ingredient":"milk-whole","grams":310}},{{"ingredient":"salt-fine","grams":9}},{{"ingredient":"yeast-instant","grams":{yeast_g}}},{{"ingredient":"butter-unsalted","grams":30}}],"pieces":{{"count":8,"piece_g":100,"shape":"ball","vessel":"sheet"}}}}"#
    );
    let body: FormulaBody = serde_json::from_str(&text).unwrap();
    Formula { rises, ..FormulaDraft::from(body).check(&tables().pantry).unwrap() }
}

fn fitted(f: &Formula, room_c: f64) -> Vec<Vec<PlanStep>> {
    let k = Kitchen { room_c, ..Kitchen::default() };
    let ask = FitAsk { ready_at: Some(at("2026-11-07T20:00:00Z")), ..FitAsk::soon(at("2026-11-07T07:00:00Z"), &k) };
    let answer = fit(f, &ask, &k, tables(), &|at: Timestamp| at.strftime("%H:%M").to_string()).unwrap();
    answer.offers.iter().map(|o| Plan::make(&o.formula, &o.ask, &k, tables()).unwrap().steps).collect()
}

fn by_hand(f: &Formula, room_c: f64) -> Vec<PlanStep> {
    let k = Kitchen { room_c, ..Kitchen::default() };
    let ask = PlanAsk::usual(f, &k, at("2026-11-07T08:00:00Z"), tables());
    Plan::make(f, &ask, &k, tables()).unwrap().steps
}

fn of(steps: &[PlanStep], kind: StepKind) -> Vec<&PlanStep> {
    steps.iter().filter(|s| s.kind == kind).collect()
}

/// Knocked back once, half way through the first rise. Common practice, no source.
#[test]
fn knocked_back_is_an_act_half_way() {
    let f = rolls(Some(FirstRise::KnockedBack), 4.0);
    let mut all = fitted(&f, 22.0);
    all.push(by_hand(&f, 22.0));
    for steps in all {
        let bulk = of(&steps, StepKind::Bulk)[0];
        let knocks = of(&steps, StepKind::KnockBack);
        assert!(of(&steps, StepKind::Fold).is_empty(), "one or the other");
        // In a rise over night in the cold nobody need be there.
        let share = knocks.first().map(|k| minutes_between(bulk.start, k.start) / minutes_between(bulk.start, bulk.end));
        assert!(knocks.len() <= 1 && share.is_none_or(|s| (0.05..0.75).contains(&s)), "{share:?}");
    }
    let plain = by_hand(&f, 22.0);
    assert_eq!(of(&plain, StepKind::KnockBack).len(), 1);
    assert!(of(&plain, StepKind::KnockBack)[0].sign.contains("doubled"));
}

#[test]
fn what_is_shaped_at_once_has_one_rise_and_is_ready_sooner() {
    let (once, twice) = (rolls(Some(FirstRise::None), 4.0), rolls(None, 4.0));
    let last = |steps: &[PlanStep]| of(steps, StepKind::Load)[0].start;
    let (a, b) = (by_hand(&once, 22.0), by_hand(&twice, 22.0));
    assert!(last(&a) < last(&b), "one rise is quicker");
    let ways = fitted(&once, 22.0);
    assert!(!ways.is_empty());
    for steps in ways.into_iter().chain([a]) {
        assert!(of(&steps, StepKind::Bulk).is_empty() && of(&steps, StepKind::Fold).is_empty());
        let (shape, proof) = (of(&steps, StepKind::Shape), of(&steps, StepKind::Proof)[0]);
        assert_eq!(shape.len(), 1, "shaped once");
        assert_eq!(shape[0].start, proof.start, "as soon as it is kneaded");
        let bowl = steps.iter().rfind(|s| s.kind.is_at_bowl()).unwrap();
        assert_eq!(bowl.end, shape[0].start);
    }
}

#[test]
fn a_recipe_tells_its_school() {
    let whole = |method: &str| {
        let text = format!(
            "500 g bread flour\n310 g milk\n9 g salt\n4 g instant yeast\n\nMix everything in a bowl. Knead for 10 minutes. {method} Heat the oven to 200 C. Bake for 20 minutes."
        );
        read(&text, &Choices::default(), &[], tables()).unwrap().formula.rises
    };
    for (method, rises) in [
        (
            "Let rise 1 hour. Knock back and let rise again for 45 minutes. Shape into 8 rolls. Prove 40 minutes.",
            Some(FirstRise::KnockedBack),
        ),
        (
            "Leave to rise for 1 hour until doubled. Punch down the dough. Let it rise for another 45 minutes. Divide into 8 rolls and prove for 40 minutes.",
            Some(FirstRise::KnockedBack),
        ),
        ("Let rise 1 hour. Knock back and shape into 8 rolls. Prove 40 minutes.", None),
        ("Let rise 1 hour. Punch down, divide into 8 balls, cover, let rise 30 minutes.", None),
        ("Divide into 8 rolls. Cover and let rise for 1 hour.", Some(FirstRise::None)),
        ("Let rise until doubled. Divide into 8 rolls. Cover and let rise for 45 minutes.", None),
        ("Let rise 1 hour. Divide into 8 rolls. Let rise 45 minutes.", None),
    ] {
        assert_eq!(whole(method), rises, "{method}");
    }
}

#[test]
fn a_school_comes_back_from_its_wire_form_and_nonsense_is_refused() {
    let t = tables();
    for rises in FirstRise::ALL.map(Some).into_iter().chain([None]) {
        let f = rolls(rises, 4.0);
        assert_eq!(FormulaDraft::from(f.body()).check(&t.pantry).unwrap().rises, rises);
    }
    // Two first rises are one that is knocked back.
    let two = FormulaDraft { rises: Some(RisesBody { bulks: Some(2.0), knock_back: None }), ..FormulaDraft::from(rolls(None, 4.0).body()) };
    assert_eq!(two.check(&t.pantry).unwrap().rises, Some(FirstRise::KnockedBack));
    for (body, at) in [
        (RisesBody { bulks: Some(7.0), knock_back: None }, "/rises/bulks"),
        (RisesBody { bulks: Some(0.5), knock_back: None }, "/rises/bulks"),
        (RisesBody { bulks: Some(-1.0), knock_back: None }, "/rises/bulks"),
        (RisesBody { bulks: Some(0.0), knock_back: Some(true) }, "/rises/knock_back"),
    ] {
        let errors =
            FormulaDraft { rises: Some(body.clone()), ..FormulaDraft::from(rolls(None, 4.0).body()) }.check(&t.pantry).unwrap_err();
        assert_eq!(errors.0[0].pointer.as_str(), at, "{body:?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Whatever school, dose and room: the acts stand in order, hands are never in two places, nothing is loaded before it is shaped.
    #[test]
    fn every_school_is_planned_soundly(school in 0..4usize, yeast_g in 1.0..8.0f64, room_c in 17.0..28.0f64) {
        let rises = FirstRise::ALL.get(school).copied();
        for steps in fitted(&rolls(rises, yeast_g), room_c) {
            prop_assert!(steps.windows(2).all(|two| two[0].start <= two[1].start));
            let (shape, load) = (of(&steps, StepKind::Shape)[0], of(&steps, StepKind::Load)[0]);
            prop_assert!(shape.end <= load.start);
            let busy: Vec<_> = steps.iter().filter(|s| s.hands_on_min > 0.0 && (s.kind.is_at_bowl() || matches!(s.kind, StepKind::Fold | StepKind::KnockBack | StepKind::Load))).collect();
            for two in busy.windows(2) {
                prop_assert!(minutes_between(two[0].start, two[1].start) + 1e-6 >= two[0].hands_on_min.min(minutes_between(two[0].start, two[0].end)), "{:?} {:?}", two[0].kind, two[1].kind);
            }
        }
    }
}

/// Half a percent of yeast and less, left for a night in the room, is ripe early and good for hours: nobody is warned of it. With
/// a whole percent it is spent by morning. Common practice, no source.
#[test]
fn a_dough_for_the_night_is_not_called_past_ripe() {
    use cerealis_core::{formula::find, plan::findings};
    let cries = |flour: &str, yeast: f64, rest: &str| {
        let text = format!(
            "500 g {flour}\n375 g water\n10 g salt\n{yeast} g instant yeast\n\nStir everything together in the evening. {rest}\nFold it, shape into a loaf and put it into a tin. Prove 1 hour. Heat the oven to 230 C. Bake 40 minutes."
        );
        let t = tables();
        let reading = read(&text, &Choices::default(), &[], t).unwrap();
        let a = reading.formula.analyse(&t.pantry, &t.styles);
        let k = Kitchen { room_c: 20.0, ..Kitchen::default() };
        assert_ne!(reading.formula.rises, Some(FirstRise::None), "it rises for a night before it is shaped");
        let mut all = find(&a, t);
        all.extend(findings::of_recipe(Some(&reading), &a, &k, t));
        all.iter().any(|f| f.id == "bulk-over")
    };
    for rest in ["Cover and leave on the counter overnight.", "Let it rise for 12 hours.", "Leave at room temperature for 10 to 14 hours."]
    {
        for flour in ["wholemeal flour", "bread flour"] {
            for yeast in [1.0, 1.5, 2.0, 2.5] {
                assert!(!cries(flour, yeast, rest), "{flour}, {yeast} g: {rest}");
            }
            assert!(cries(flour, 7.0, rest), "{flour}, 7 g: {rest}");
        }
    }
}
