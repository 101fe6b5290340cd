//! Findings of the models and of the words that no other test raises: each by its slip, none by a near miss.

use cerealis_core::{
    ferment::{Act, Dough, Rise, RiseKind, RiseStage, YeastDose, findings::find as of_rise, simulate},
    kitchen::{Kitchen, Place},
    oven::{BakeBody, advise, find as of_bake},
    plan::{
        Actual, PlanAsk, RisePlan, course,
        findings::{of_course, of_warm_hours},
    },
    reader::{Choices, read},
};

use super::bench::{LEAN, formula, tables};

fn rise(start_c: f64, place_c: f64, acts: Option<Vec<Act>>) -> Vec<&'static str> {
    let dough = Dough {
        flour: vec![("strong-white".into(), 100.0)],
        water_pct: 68.0,
        salt_pct: 2.0,
        sugar_pct: 0.0,
        fat_pct: 0.0,
        solids_pct: 0.0,
        yeast: Some(YeastDose { kind: "instant".into(), pct: 0.8, viable: 1.0 }),
        leaven: None,
        preferment_yeast_pct: 0.0,
        spice_factor: 1.0,
    };
    let stage = RiseStage { acts, ..RiseStage::until_ripe(RiseKind::Bulk, place_c, 900.0) };
    let rise = Rise { style: "lean".into(), dough, start_c, stages: vec![stage], rate: 1.0, log_sigma: None };
    let rise = rise.assume(900.0, &tables().ferment).unwrap();
    let forecast = simulate(&rise, &tables().ferment).unwrap();
    of_rise(&rise, &forecast).into_iter().map(|f| f.id).collect()
}

#[test]
fn a_rise_too_hot_too_warm_too_cold_or_folded_too_late_says_so() {
    assert!(rise(24.0, 24.0, None).is_empty());
    assert!(rise(24.0, 46.0, None).contains(&"place-hot") && !rise(24.0, 45.0, None).contains(&"place-hot"));
    assert!(rise(31.0, 24.0, None).contains(&"dough-warm") && !rise(30.0, 24.0, None).contains(&"dough-warm"));
    assert!(rise(4.0, -1.0, None).contains(&"not-ripe") && !rise(20.0, 15.0, None).contains(&"not-ripe"));
    let fold = |at_min: f64| Some(vec![Act { at_min, act: "fold".into() }]);
    assert!(rise(24.0, 24.0, fold(900.0)).contains(&"act-after-ripe") && !rise(24.0, 24.0, fold(30.0)).contains(&"act-after-ripe"));
}

#[test]
fn a_dough_kept_too_cold_has_no_plan_and_the_room_is_offered() {
    let t = tables();
    let f = formula(LEAN);
    let k = Kitchen { fridge_c: Some(-1.0), ..Kitchen::default() };
    let usual = PlanAsk::usual(&f, &k, "2026-11-06T16:40:00Z".parse().unwrap(), t);
    let at = |ask: &PlanAsk| course(&f, ask, None, &Actual::default(), &k, t).ok().and_then(|c| of_course(&c, ask, &k));
    assert!(at(&usual).is_none());
    let cold = |r: RisePlan| RisePlan { place: Place::Fridge, place_c: -1.0, ..r };
    let ask = PlanAsk { mix_c: 10.0, bulk: usual.bulk.map(cold), ..usual.clone() };
    let none = at(&ask).expect("a frozen dough rises not");
    assert_eq!(none.finding.id, "no-plan");
    assert!(at(&none.instead.unwrap().1).is_none(), "what is offered gets ripe");
}

#[test]
fn a_bake_frozen_too_long_too_dark_or_lidded_to_the_end_says_so() {
    let k = &tables().oven;
    let ids = |body: BakeBody| {
        let b = BakeBody { piece_g: body.piece_g.or(Some(800.0)), hydration_pct: Some(68.0), ..body }.check().unwrap();
        of_bake(&b, &advise(&b, k), k).into_iter().map(|f| f.id).collect::<Vec<_>>()
    };
    let plain = BakeBody::default;
    assert!(ids(BakeBody { dough_c: Some(-2.0), ..plain() }).contains(&"frozen-dough"));
    assert!(!ids(BakeBody { dough_c: Some(4.0), ..plain() }).contains(&"frozen-dough"));
    let stick = |grams: f64| BakeBody { piece_g: Some(grams), shape: Some("baton".into()), ..plain() };
    assert!(ids(stick(900.0)).contains(&"too-wide-for-oven") && !ids(stick(120.0)).contains(&"too-wide-for-oven"));
    let wished = |colour: &str| BakeBody { colour: Some(colour.into()), ..plain() };
    assert!(ids(wished("dark")).contains(&"very-dark") && !ids(wished("golden")).contains(&"very-dark"));
    let pot = |off: f64| BakeBody { vessel: Some("pot".into()), lid_off_min: Some(off), ..plain() };
    assert!(ids(pot(200.0)).contains(&"lid-never-off") && !ids(pot(20.0)).contains(&"lid-never-off"));
}

#[test]
fn an_open_choice_and_an_untold_leaven_are_asked_about() {
    let ids = |text: &str| {
        let r = read(text, &Choices::default(), &[], tables()).unwrap();
        r.findings(tables()).into_iter().map(|f| f.id).collect::<Vec<_>>()
    };
    let with = |line: &str| format!("500 g bread flour\n300 g water\n10 g salt\n4 g instant yeast\n{line}");
    assert!(ids(&with("30 g butter or 24 g lard")).contains(&"alternative-open"), "{:?}", ids(&with("30 g butter or 24 g lard")));
    assert!(ids(&with("30 g butter or lard")).contains(&"alternative-open"), "as much of the other");
    assert!(!ids(&with("30 g butter")).contains(&"alternative-open"));
    assert!(!ids(&with("10 g salt or to taste")).contains(&"alternative-open"), "no other thing is named");
    assert!(ids(&with("100 g sourdough starter")).contains(&"leaven-hydration-assumed"));
    assert!(!ids(&with("100 g sourdough starter (100 % hydration)")).contains(&"leaven-hydration-assumed"));
}

#[test]
fn egg_and_milk_warm_over_four_hours_are_cautioned_and_the_fridge_is_offered() {
    let t = tables();
    let k = Kitchen { room_c: 18.0, ..Kitchen::default() };
    let warm = |lines: &[(&str, f64)]| {
        let f = formula(lines);
        let a = f.analyse(&t.pantry, &t.styles);
        let ask = PlanAsk::usual(&f, &k, "2026-11-06T16:40:00Z".parse().unwrap(), t);
        let found = course(&f, &ask, None, &Actual::default(), &k, t).unwrap();
        let told = of_warm_hours(&found, &ask, &a, &k);
        (found.warm_min(), told)
    };
    let (slow, told) =
        warm(&[("wheat-bread", 500.0), ("milk-whole", 300.0), ("egg-whole", 50.0), ("salt-fine", 9.0), ("yeast-instant", 1.0)]);
    let told = told.expect("milk and egg for so long");
    assert!(slow > 240.0 && told.finding.id == "raw-egg-time" && told.instead.is_some(), "{slow}");
    let (quick, near) =
        warm(&[("wheat-bread", 500.0), ("milk-whole", 300.0), ("egg-whole", 50.0), ("salt-fine", 9.0), ("yeast-instant", 12.0)]);
    assert!(quick < 240.0 && near.is_none(), "{quick}");
    let (long, lean) = warm(&[("wheat-bread", 500.0), ("water", 330.0), ("salt-fine", 9.0), ("yeast-instant", 1.0)]);
    assert!(long > 240.0 && lean.is_none());
}
