//! The dose of a planned dough: what is a dose of what, and that what is told is what is weighed.

use cerealis_core::{
    Tables,
    ferment::EventKind,
    formula::{Formula, FormulaBody, FormulaDraft, Raising},
    kitchen::{Kitchen, Place},
    measure::plain,
    plan::search::{
        answer::fit,
        ask::{AwayAsk, FitAsk},
        dose::UsualDose,
        hours::AwayKind,
        schedule::{Feed, RiseOf, Schedule, ScheduleFamily},
    },
};
use jiff::Timestamp;

fn tables() -> Tables {
    Tables::built_in().unwrap()
}

/// Bread flour 500, water, salt 10, and what raises it.
fn dough(t: &Tables, water_g: f64, raised: &[(&str, f64)]) -> Formula {
    let line = |id: &str, grams: f64| serde_json::json!({"ingredient": id, "grams": grams});
    let mut lines = vec![line("wheat-bread", 500.0), line("water", water_g), line("salt-fine", 10.0)];
    lines.extend(raised.iter().map(|(id, grams)| line(id, *grams)));
    let body: FormulaBody = serde_json::from_value(serde_json::json!({"lines": lines})).unwrap();
    FormulaDraft::from(body).check(&t.pantry).unwrap()
}

fn grams(f: &Formula, id: &str) -> f64 {
    f.lines.iter().filter(|l| l.ingredient.id == id).map(|l| l.grams.likely).sum()
}

fn raising(t: &Tables, raised: &[(&str, f64)]) -> Option<Raising> {
    dough(t, 350.0, raised).analyse(&t.pantry, &t.styles).raising()
}

/// A spoonful of leaven in a yeast dough is for flavour, a pinch of yeast beside a leaven is for safety.
/// Common practice, no source.
#[test]
fn what_sets_the_pace_is_what_is_dosed() {
    let t = tables();
    assert_eq!(raising(&t, &[("yeast-instant", 3.0)]), Some(Raising::Yeast));
    assert_eq!(raising(&t, &[("leaven-wheat", 100.0)]), Some(Raising::Leaven));
    assert_eq!(raising(&t, &[("leaven-wheat", 100.0), ("yeast-instant", 0.3)]), Some(Raising::Leaven));
    assert_eq!(raising(&t, &[("leaven-wheat", 100.0), ("yeast-instant", 2.0)]), Some(Raising::Yeast));
    assert_eq!(raising(&t, &[("leaven-wheat", 20.0), ("yeast-instant", 0.3)]), Some(Raising::Yeast));
    assert_eq!(raising(&t, &[]), None);
}

#[test]
fn half_the_leaven_leaves_the_pinch_of_yeast_and_every_percentage() {
    let t = tables();
    let f = dough(&t, 350.0, &[("leaven-wheat", 100.0), ("yeast-instant", 0.3)]);
    let before = f.analyse(&t.pantry, &t.styles);
    let half = before.dosed(0.5).unwrap();
    assert!((grams(&half, "leaven-wheat") - 50.0).abs() < 1e-9);
    assert!((grams(&half, "yeast-instant") - 0.3).abs() < 1e-9);
    // Its flour and water go back into the dough.
    assert!((grams(&half, "wheat-bread") - 525.0).abs() < 1e-9);
    assert!((grams(&half, "water") - 375.0).abs() < 1e-9);
    let after = half.analyse(&t.pantry, &t.styles);
    assert!((after.flour_g.likely - before.flour_g.likely).abs() < 0.01);
    assert!((after.effective_hydration_pct.likely - before.effective_hydration_pct.likely).abs() < 0.05);
    assert!((after.dose_pct() - before.dose_pct() / 2.0).abs() < 0.01);
}

#[test]
fn leaven_that_would_take_more_water_than_there_is_is_refused() {
    let t = tables();
    let f = dough(&t, 60.0, &[("leaven-wheat", 300.0)]);
    let said = f.analyse(&t.pantry, &t.styles).dosed(1.5).unwrap_err();
    assert_eq!(said, "So much leaven would take more water than the dough has.");
}

/// Ten times the yeast is brought to what the style takes; the dose of a good recipe is its own.
#[test]
fn the_usual_dose_is_the_recipes_own_within_its_style() {
    let t = tables();
    for (grams, cut) in [(3.0, false), (5.0, false), (50.0, true), (0.02, true)] {
        let f = dough(&t, 340.0, &[("yeast-instant", grams)]);
        let a = f.analyse(&t.pantry, &t.styles);
        let usual = UsualDose::of(&a, None, 0.1);
        assert_eq!(usual.is_cut(), cut, "{grams} g");
        let (low, high) = a.style.yeast_instant;
        assert!((0.5 * low..=1.3 * high).contains(&usual.pct), "{} %", usual.pct);
        assert!((usual.grams / 5.0 - usual.pct).abs() < 0.01, "percent and grams are one dose");
    }
}

#[test]
fn a_share_of_the_dose_is_what_the_scale_can_show() {
    let t = tables();
    let f = dough(&t, 340.0, &[("yeast-instant", 6.0)]);
    let a = f.analyse(&t.pantry, &t.styles);
    for step_g in [0.1, 0.5, 1.0] {
        let usual = UsualDose::of(&a, None, step_g);
        let grams = usual.on_scale(0.93) * usual.grams;
        let steps = grams / step_g;
        assert!(steps < 5.0 || (steps - steps.round()).abs() < 1e-9, "{grams} g in steps of {step_g} g");
    }
}

fn instant(text: &str) -> Timestamp {
    text.parse().unwrap()
}

/// Whatever plan is offered, the dose it tells is the dose of the formula it gives to weigh.
#[test]
fn the_dose_told_is_the_dose_weighed() {
    let t = tables();
    let k = Kitchen { room_c: 22.0, scale_step_g: 0.1, ..Kitchen::default() };
    let asleep = AwayAsk { from: instant("2026-11-06T23:00:00Z"), to: instant("2026-11-07T06:30:00Z"), kind: AwayKind::Asleep };
    let ask =
        FitAsk { ready_at: Some(instant("2026-11-07T18:00:00Z")), away: vec![asleep], ..FitAsk::soon(instant("2026-11-06T16:40:00Z"), &k) };
    let doughs: [&[(&str, f64)]; 4] = [
        &[("yeast-instant", 3.0)],
        &[("yeast-fresh", 9.0)],
        &[("leaven-wheat", 100.0)],
        &[("leaven-wheat", 100.0), ("yeast-instant", 0.3)],
    ];
    for raised in doughs {
        let f = dough(&t, 350.0, raised);
        let answer = fit(&f, &ask, &k, &t, &|at| at.to_string()).unwrap();
        assert!(!answer.offers.is_empty(), "{raised:?}");
        for o in &answer.offers {
            let dose = o.dose.as_ref().unwrap();
            assert_eq!(dose.ingredient, raised[0].0, "{}", o.name);
            let in_dough: f64 = o
                .formula
                .lines
                .iter()
                .filter(|l| l.ingredient.id == dose.ingredient && l.stage != cerealis_core::formula::Stage::Preferment)
                .map(|l| l.grams.likely)
                .sum();
            assert!((in_dough - dose.grams).abs() < 1e-9, "{}: {in_dough} g weighed, {} g told", o.name, dose.grams);
            assert!((dose.was_grams - raised[0].1).abs() < 1e-9);
            let told = dose.grams / dose.was_grams;
            let analysis = f.analyse(&t.pantry, &t.styles);
            assert!((dose.pct / analysis.dose_pct() / told - 1.0).abs() < 0.03, "{}: percent and grams are one dose", o.name);
        }
    }
}

/// Seed, water and flour of every feed make what the next feed, or the dough and the jar, take.
#[test]
fn each_feed_makes_what_the_next_one_takes() {
    let t = tables();
    let f = dough(&t, 350.0, &[("leaven-wheat", 100.0)]);
    let a = f.analyse(&t.pantry, &t.styles);
    let usual = UsualDose::of(&a, None, 0.1);
    let feeds = vec![Feed { ratio: 5.0, place: Place::Room }, Feed { ratio: 2.0, place: Place::Room }];
    let schedule = Schedule {
        family: ScheduleFamily::LeavenTwice,
        feeds: feeds.clone(),
        sponge: None,
        bulk: vec![],
        proof: vec![],
        dose: 1.0,
        mix_c: 25.0,
    };
    let first = plain(&usual.feed_words(&schedule, 0, feeds[0], 100.0)).into_owned();
    let last = plain(&usual.feed_words(&schedule, 1, feeds[1], 100.0)).into_owned();
    // 120 g in 1 + 2 + 2 parts: 24 g of seed; 24 g in 1 + 5 + 5 parts: 2.2 g of seed.
    assert_eq!(last, "24 g leaven, 48 g water, 48 g flour, stirred together. Mark the level. It makes 120 g, 20 g of it to keep.");
    assert!(first.ends_with("It makes 24 g."), "{first}");
    assert!(first.starts_with("2.2 g leaven, 11 g water, 11 g flour"), "{first}");
}

/// Who keeps the recipe's dose gets it to the gram in every plan, even where the search would call it unusual; only
/// places, warmth and hours vary.
#[test]
fn a_dose_that_is_kept_is_the_recipes() {
    let t = tables();
    let k = Kitchen { room_c: 22.0, scale_step_g: 1.0, ..Kitchen::default() };
    let soon = FitAsk { ready_at: Some(instant("2026-11-07T18:00:00Z")), ..FitAsk::soon(instant("2026-11-06T16:40:00Z"), &k) };
    for raised in [[("yeast-instant", 3.0)], [("yeast-instant", 14.0)], [("leaven-wheat", 100.0)]] {
        let f = dough(&t, 350.0, &raised);
        let free = fit(&f, &soon, &k, &t, &|at| at.to_string()).unwrap();
        let kept = fit(&f, &FitAsk { keep_dose: true, ..soon.clone() }, &k, &t, &|at| at.to_string()).unwrap();
        assert!(!kept.offers.is_empty(), "{raised:?}");
        for o in &kept.offers {
            let dose = o.dose.as_ref().unwrap();
            assert!((dose.grams - raised[0].1).abs() < 1e-6, "{}: {} g", o.name, dose.grams);
            assert_ne!(o.family, ScheduleFamily::Preferment, "a preferment brings yeast of its own");
        }
        assert!(free.offers.iter().any(|o| (o.dose.as_ref().unwrap().grams - raised[0].1).abs() > 0.05), "{raised:?}: else it varies");
    }
}

/// A lean dough raised overnight by a trace of yeast is a lean dough still: bake day waits for what was planned.
#[test]
fn a_trace_of_yeast_makes_no_other_bread_of_it() {
    let t = tables();
    let k = Kitchen { room_c: 21.0, scale_step_g: 0.1, oven_light_c: None, ..Kitchen::default() };
    let asleep = AwayAsk { from: instant("2026-11-06T23:00:00Z"), to: instant("2026-11-07T06:00:00Z"), kind: AwayKind::Asleep };
    let from = instant("2026-11-06T17:00:00Z");
    let ask = FitAsk { ready_at: Some(instant("2026-11-07T14:00:00Z")), away: vec![asleep], ..FitAsk::soon(from, &k) };
    let f = dough(&t, 340.0, &[("yeast-instant", 3.0)]);
    let answer = fit(&f, &ask, &k, &t, &|at| at.to_string()).unwrap();
    assert!(answer.offers.iter().any(|o| o.family == ScheduleFamily::Slow), "one of them is slow");
    for o in &answer.offers {
        let course = &o.course;
        for (kind, first, ripe) in [(RiseOf::Bulk, 0, EventKind::BulkRipe), (RiseOf::Proof, course.proof_stage, EventKind::ProofRipe)] {
            let planned = o.rises.iter().find(|r| r.kind == kind).unwrap().ripeness;
            let rho = course.forecast.ripeness_of_time(first, ripe).unwrap();
            assert!((rho / planned - 1.0).abs() < 0.04, "{}, {kind:?}: {rho:.3} on bake day, {planned:.3} planned", o.name);
        }
    }
}
