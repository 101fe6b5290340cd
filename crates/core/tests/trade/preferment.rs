//! A recipe that tells its own preferment: it is stirred, waited for and used before the dough is mixed.

use cerealis_core::{
    Tables,
    bake::BakeState,
    ferment::{EventKind, simulate},
    formula::{Formula, FormulaBody, FormulaDraft, Stage},
    kitchen::Kitchen,
    plan::{
        Plan, StepKind,
        search::{
            answer::fit,
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            schedule::{RiseOf, ScheduleFamily},
        },
    },
};
use jiff::Timestamp;

fn tables() -> Tables {
    Tables::built_in().unwrap()
}

/// Flour 500 in all, water 350: so much flour, water and yeast of it ahead, so much yeast at the mix.
fn formula(t: &Tables, flour: f64, water: f64, early: f64, mixed: f64) -> Formula {
    let late = if mixed > 0.0 { format!(r#",{{"ingredient":"yeast-instant","grams":{mixed}}}"#) } else { String::new() };
    let body = format!(
        r#"{{"lines":[
            {{"ingredient":"wheat-bread","grams":{flour},"stage":"preferment"}},{{"ingredient":"water","grams":{water},"stage":"preferment"}},
            {{"ingredient":"yeast-instant","grams":{early},"stage":"preferment"}},
            {{"ingredient":"wheat-bread","grams":{}}},{{"ingredient":"water","grams":{}}},{{"ingredient":"salt-fine","grams":10}}{late}],
            "pieces":{{"count":1,"shape":"batard","vessel":"stone"}}}}"#,
        500.0 - flour,
        350.0 - water,
    );
    let body: FormulaBody = serde_json::from_str(&body).unwrap();
    FormulaDraft::from(body).check(&t.pantry).unwrap()
}

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 21.0, scale_step_g: 0.1, ..Kitchen::default() }
}

/// From Friday 16:40, asleep from 23 to half past six, bread on Saturday at 19:00.
fn ask(k: &Kitchen) -> FitAsk {
    let asleep = AwayAsk { from: at("2026-11-06T23:00:00Z"), to: at("2026-11-07T06:30:00Z"), kind: AwayKind::Asleep };
    FitAsk { ready_at: Some(at("2026-11-07T19:00:00Z")), away: vec![asleep], ..FitAsk::soon(at("2026-11-06T16:40:00Z"), k) }
}

fn clock(at: Timestamp) -> String {
    at.strftime("%H:%M").to_string()
}

#[test]
fn the_preferment_is_stirred_ripens_and_goes_into_the_dough() {
    let (t, k) = (tables(), kitchen());
    // Poolish with yeast at the mix, poolish that raises all, a stiff one.
    for (flour, water, early, mixed) in [(150.0, 150.0, 0.15, 2.0), (200.0, 200.0, 0.4, 0.0), (250.0, 125.0, 0.5, 1.5)] {
        let f = formula(&t, flour, water, early, mixed);
        let answer = fit(&f, &ask(&k), &k, &t, &clock).unwrap();
        assert!(!answer.offers.is_empty(), "{flour} {early}: {:?}", answer.findings);
        assert!(answer.offers.iter().any(|o| o.family == ScheduleFamily::Preferment));
        for o in &answer.offers {
            let told = format!("{} with {flour} g ahead", o.name);
            assert_ne!(o.family, ScheduleFamily::SameDay, "{told}: its preferment is not left out");
            let grams = |stage: Stage, id: &str| -> f64 {
                o.formula.lines.iter().filter(|l| l.stage == stage && l.ingredient.id == id).map(|l| l.grams.likely).sum()
            };
            // Flour and water stay as the recipe tells them: only yeast is weighed otherwise.
            assert_eq!((grams(Stage::Preferment, "wheat-bread"), grams(Stage::Preferment, "water")), (flour, water), "{told}");
            assert_eq!(grams(Stage::Dough, "yeast-instant") > 0.0, mixed > 0.0, "{told}");
            let steps = &o.course.steps;
            let stirred = steps.iter().find(|s| s.kind == StepKind::Stir).unwrap();
            let ripens = steps.iter().find(|s| s.kind == StepKind::Preferment).unwrap();
            assert!(stirred.end <= ripens.start && ripens.end <= steps.iter().find(|s| s.kind == StepKind::Mix).unwrap().start, "{told}");
            let words = &stirred.instruction;
            assert!(words.contains(&format!("{flour} g")) && words.contains("yeast"), "{words}");
            // A tenth of a gram is more than this scale shows: it goes in dissolved.
            assert!(words.contains("Dissolve") || grams(Stage::Preferment, "yeast-instant") >= 0.5, "{words}");
            // What bake day follows is the same.
            assert_eq!(Plan::make(&o.formula, &o.ask, &k, &t).unwrap().steps, *steps, "{told}");
        }
    }
}

#[test]
fn the_preferment_is_used_when_the_rise_model_calls_it_ripe() {
    let (t, k) = (tables(), kitchen());
    let f = formula(&t, 200.0, 200.0, 0.4, 0.0);
    let answer = fit(&f, &ask(&k), &k, &t, &clock).unwrap();
    for o in &answer.offers {
        let rise = o.rises.iter().find(|r| r.kind == RiseOf::Preferment).unwrap();
        let (_, stage) = rise.stages.first().unwrap();
        // Its own dough, run by itself: flour and water alike, the yeast the plan weighs, from 24 °C.
        let sum = |family: &str| -> f64 {
            let early = o.formula.lines.iter().filter(|l| l.stage == Stage::Preferment && l.ingredient.id == family);
            early.map(|l| l.grams.likely).sum()
        };
        let body = serde_json::json!({"lines": [
            {"ingredient": "wheat-bread", "grams": sum("wheat-bread")}, {"ingredient": "water", "grams": sum("water")},
            {"ingredient": "yeast-instant", "grams": sum("yeast-instant")}]});
        let alone: FormulaBody = serde_json::from_value(body).unwrap();
        let alone = FormulaDraft::from(alone).check(&t.pantry).unwrap();
        let a = alone.analyse(&t.pantry, &t.styles);
        let dough = cerealis_core::formula::dough_of(&a, &t.pantry, None);
        let until = cerealis_core::ferment::RiseStage { minutes: None, ..stage.clone() };
        let rise_of = cerealis_core::ferment::Rise {
            style: "long-no-knead".into(),
            dough,
            start_c: 24.0,
            stages: vec![until],
            rate: 1.0,
            log_sigma: None,
        };
        let ripe = simulate(&rise_of.assume(400.4, &t.ferment).unwrap(), &t.ferment).unwrap().event(EventKind::BulkRipe).unwrap().min;
        let waited = stage.minutes.unwrap();
        assert!((0.85..=1.25).contains(&(waited / ripe)), "{}: {waited} min where it is ripe after {ripe}", o.name);
    }
}

#[test]
fn on_bake_day_the_preferment_is_weighed_first_and_then_the_rest() {
    let (t, k) = (tables(), kitchen());
    let f = formula(&t, 150.0, 150.0, 0.15, 2.0);
    let offer = fit(&f, &ask(&k), &k, &t, &clock).unwrap().offers.remove(0);
    let plan = Plan::make(&offer.formula, &offer.ask, &k, &t).unwrap();
    let weighed = |now: Timestamp| -> Vec<bool> {
        let state = BakeState::of(&[], &plan, &offer.formula, &k, now, &t).unwrap();
        offer.formula.lines.iter().filter(|l| state.weighs(l)).map(cerealis_core::formula::Line::is_early).collect()
    };
    let stirred = offer.course.steps.iter().find(|s| s.kind == StepKind::Stir).unwrap();
    assert_eq!(weighed(stirred.start), [true; 3], "flour, water, yeast of the preferment");
    assert_eq!(weighed(cerealis_core::plan::later(stirred.end, 60.0)), [false; 4], "flour, water, salt, yeast of the dough");
}

#[test]
fn the_recipes_yeast_may_be_kept() {
    let (t, k) = (tables(), kitchen());
    let f = formula(&t, 150.0, 150.0, 0.15, 2.0);
    let answer = fit(&f, &FitAsk { keep_dose: true, ..ask(&k) }, &k, &t, &clock).unwrap();
    assert!(!answer.offers.is_empty());
    let yeast =
        |f: &Formula| -> Vec<f64> { f.lines.iter().filter(|l| l.ingredient.id == "yeast-instant").map(|l| l.grams.likely).collect() };
    for o in &answer.offers {
        assert_eq!(yeast(&o.formula), [0.15, 2.0], "{}", o.name);
    }
}
