//! What the models say of a recipe in this kitchen, and the dose they choose.

use cerealis_core::{
    findings::Finding,
    formula::{Formula, ScaleBody, dose_for, ripe_at},
    kitchen::{Kitchen, Place},
    knead::MixerSize,
    plan::{PlanAsk, fed::Fed, findings},
    reader::{Choices, Reading, read},
};

use super::bench::{LEAN, formula, tables};

fn recipe(text: &str) -> Reading {
    read(text, &Choices::default(), &[], tables()).unwrap()
}

fn of(text: &str, kitchen: &Kitchen) -> Vec<Finding> {
    let r = recipe(text);
    findings::of_recipe(Some(&r), &r.formula.analyse(&tables().pantry, &tables().styles), kitchen, tables())
}

fn ids(text: &str, kitchen: &Kitchen) -> Vec<&'static str> {
    of(text, kitchen).into_iter().map(|f| f.id).collect()
}

const DOUGH: &str = "500 g bread flour\n340 g water\n10 g salt\n";

fn method(yeast: &str, rises: &str) -> String {
    format!("{DOUGH}{yeast}\n\n{rises}")
}

#[test]
fn a_rise_told_by_the_clock_is_held_against_the_model() {
    let k = Kitchen::default();
    let usual = method("4 g instant yeast", "Let rise 2 hours until doubled.\nShape into a loaf.\nProve 60 minutes.");
    assert!(ids(&usual, &k).is_empty(), "{:?}", of(&usual, &k));
    let low = method("0.5 g instant yeast", "Let rise 2 hours until doubled.\nShape into a loaf.\nProve 3 hours.");
    assert!(ids(&low, &k).contains(&"yeast-low"), "{:?}", ids(&low, &k));
    let overnight = method("0.5 g instant yeast", "Let rise 12 hours until doubled.\nShape into a loaf.\nProve 3 hours.");
    assert!(!ids(&overnight, &k).contains(&"yeast-low"));
    let over = method("7 g instant yeast", "Let rise 12 hours on the counter.\nShape into a loaf.\nProve 60 minutes.");
    assert!(ids(&over, &k).contains(&"bulk-over"), "{:?}", ids(&over, &k));
    let cold = method("7 g instant yeast", "Let rise 12 hours in the fridge.\nShape into a loaf.\nProve 60 minutes.");
    assert!(!ids(&cold, &k).contains(&"bulk-over"), "the cold is another matter");
    let short = method("2 g instant yeast", "Let rise 4 hours until doubled.\nShape into a loaf.\nProve 20 minutes.");
    assert!(ids(&short, &k).contains(&"proof-very-short"), "{:?}", ids(&short, &k));
    assert!(!ids(&usual, &k).contains(&"proof-very-short"));
}

#[test]
fn the_remedy_for_too_long_a_rise_makes_it_fit() {
    let k = Kitchen::default();
    let text = method("7 g instant yeast", "Let rise 12 hours on the counter.\nShape into a loaf.\nProve 60 minutes.");
    let r = recipe(&text);
    let over = of(&text, &k).into_iter().find(|f| f.id == "bulk-over").unwrap();
    let after = r.formula.after(&over.remedies[0], over.id, &tables().pantry);
    let a = after.analyse(&tables().pantry, &tables().styles);
    let found = findings::of_recipe(Some(&r), &a, &k, tables());
    assert!(found.iter().all(|f| f.id != "bulk-over" && f.id != "yeast-low"), "{found:?}");
}

#[test]
fn a_fridge_that_is_no_fridge_is_named() {
    let text = method("4 g instant yeast", "Let rise 12 hours in the fridge.\nShape into a loaf.\nProve 60 minutes.");
    assert!(ids(&text, &Kitchen { fridge_c: Some(9.0), ..Kitchen::default() }).contains(&"fridge-warm"));
    assert!(!ids(&text, &Kitchen { fridge_c: Some(8.0), ..Kitchen::default() }).contains(&"fridge-warm"));
}

#[test]
fn height_and_mixer_have_their_say() {
    let k = |altitude_m: f64, mixer: &str| Kitchen { altitude_m, mixer: mixer.into(), ..Kitchen::default() };
    let on = |f: &Formula, k: &Kitchen| {
        findings::of_kitchen(&f.analyse(&tables().pantry, &tables().styles), k, tables()).into_iter().map(|f| f.id).collect::<Vec<_>>()
    };
    let f = formula(LEAN);
    assert_eq!(on(&f, &k(1600.0, "hand")), ["altitude"]);
    assert!(on(&f, &k(900.0, "hand")).is_empty());
    let big = formula(&[("wheat-bread", 1100.0), ("water", 740.0), ("salt-fine", 22.0), ("yeast-instant", 6.0)]);
    assert_eq!(on(&big, &k(0.0, "planetary-low")), ["mixer-overload"]);
    assert!(on(&big, &k(0.0, "hand")).is_empty() && on(&f, &k(0.0, "planetary-low")).is_empty());
    let stiff = formula(&[("wheat-bread", 750.0), ("water", 400.0), ("salt-fine", 15.0), ("yeast-instant", 4.0)]);
    assert_eq!(on(&stiff, &k(0.0, "planetary-medium")), ["mixer-overload", "mixer-walks"]);
    let large = Kitchen { mixer_size: MixerSize::Large, ..k(0.0, "planetary-low") };
    assert!(on(&stiff, &large).is_empty(), "a larger bowl takes it at once");
}

/// Boiling point of a standard atmosphere: 94.8 °C at 1600 m (ICAO atmosphere and steam table, from memory).
#[test]
fn water_boils_sooner_up_there() {
    let f = formula(LEAN);
    let k = Kitchen { altitude_m: 1600.0, ..Kitchen::default() };
    let found = findings::of_kitchen(&f.analyse(&tables().pantry, &tables().styles), &k, tables());
    assert!(found[0].message.contains("95 °C"), "{}", found[0].message);
}

#[test]
fn a_loaf_told_too_few_minutes_is_raw_inside() {
    let k = Kitchen::default();
    let bake = |minutes: u32| format!("{DOUGH}4 g instant yeast\n\nShape into 1 loaf of 850 g.\nBake at 220 C for {minutes} minutes.");
    assert!(ids(&bake(15), &k).contains(&"bake-short"), "{:?}", ids(&bake(15), &k));
    assert!(!ids(&bake(40), &k).contains(&"bake-short"));
}

#[test]
fn what_a_plan_asks_is_held_against_butter_and_cold() {
    let t = tables();
    let k = Kitchen::default();
    let brioche = formula(&[
        ("wheat-bread", 500.0),
        ("egg-whole", 250.0),
        ("milk-whole", 60.0),
        ("butter-unsalted", 225.0),
        ("sugar-white", 60.0),
        ("salt-fine", 10.0),
        ("yeast-instant", 9.0),
    ]);
    let a = brioche.analyse(&t.pantry, &t.styles);
    let ask = PlanAsk::usual(&brioche, &k, "2026-11-06T16:40:00Z".parse().unwrap(), t);
    let on = |ask: &PlanAsk, a| findings::of_ask(ask, a, &k, t).into_iter().map(|f| f.finding.id).collect::<Vec<_>>();
    assert_eq!(on(&PlanAsk { mix_c: 27.0, ..ask.clone() }, &a), ["brioche-warm"]);
    assert!(on(&PlanAsk { mix_c: 25.0, ..ask.clone() }, &a).is_empty());
    let lean = formula(LEAN);
    let b = lean.analyse(&t.pantry, &t.styles);
    let ask = PlanAsk::usual(&lean, &k, "2026-11-06T16:40:00Z".parse().unwrap(), t);
    let cold = PlanAsk { mix_c: 16.0, ..ask.clone() };
    assert_eq!(on(&cold, &b), ["dough-cold"]);
    let instead = findings::of_ask(&cold, &b, &k, t)[0].instead.clone().unwrap().1;
    assert!(on(&instead, &b).is_empty());
    let mut retarded = cold;
    retarded.bulk = retarded.bulk.map(|b| cerealis_core::plan::RisePlan { place: Place::Fridge, place_c: 4.0, ..b });
    assert!(on(&retarded, &b).is_empty(), "cold on purpose");
}

#[test]
fn the_dose_chosen_makes_it_ripe_in_the_hours_asked_for() {
    let t = tables();
    let leaven = formula(&[("wheat-bread", 450.0), ("water", 300.0), ("leaven-wheat", 100.0), ("salt-fine", 10.0)]);
    for f in [formula(LEAN), leaven] {
        let before = f.analyse(&t.pantry, &t.styles);
        for hours in [4.0, 8.0, 12.0] {
            let mix_c = f64::midpoint(before.style.dough_c.0, before.style.dough_c.1);
            let scale = ScaleBody { ripe_h: Some(hours), ..ScaleBody::default() }.check(&f, &before, t).unwrap();
            let after = f.scaled(&scale, &before);
            let a = after.analyse(&t.pantry, &t.styles);
            let min = ripe_at(&a, mix_c, 21.0, t).unwrap().min;
            assert!((min / 60.0 - hours).abs() < 0.06 * hours, "{hours} h asked, {} got", min / 60.0);
            assert_eq!(a.style.id, before.style.id, "the bread stays what it is");
            assert!((a.flour_g.likely - before.flour_g.likely).abs() < 1.5, "the flour stays");
            assert!((a.effective_hydration_pct.likely - before.effective_hydration_pct.likely).abs() < 0.5, "so does the water");
        }
    }
    let flat = formula(&[("wheat-bread", 500.0), ("water", 300.0), ("salt-fine", 10.0)]);
    assert!(dose_for(&flat.analyse(&t.pantry, &t.styles), 5.0, 24.0, 21.0, t).unwrap_err().contains("neither yeast nor leaven"));
    assert!(dose_for(&formula(LEAN).analyse(&t.pantry, &t.styles), 0.1, 24.0, 8.0, t).unwrap_err().contains("no dose"));
}

/// Eight times the time wants about an eighth of the yeast and less: common practice, no source.
#[test]
fn more_time_wants_less_yeast() {
    let t = tables();
    let f = formula(LEAN);
    let a = f.analyse(&t.pantry, &t.styles);
    let dose = |hours: f64| dose_for(&a, hours, 24.0, 21.0, t).unwrap();
    assert!(dose(3.0) > dose(6.0) && dose(6.0) > dose(12.0));
    assert!((3.0..20.0).contains(&(dose(2.0) / dose(12.0))), "{}", dose(2.0) / dose(12.0));
}

#[test]
fn a_dough_goes_by_its_whole_eggs_and_by_its_hours() {
    let t = tables();
    let f = formula(&[("wheat-bread", 500.0), ("milk-whole", 250.0), ("egg-whole", 87.0), ("salt-fine", 9.0), ("yeast-instant", 6.0)]);
    let a = f.analyse(&t.pantry, &t.styles);
    let k = Kitchen { egg: Some("uk-eu-l".into()), ..Kitchen::default() };
    assert!((k.egg_g(&t.pantry) - 60.0).abs() < 1e-9);
    let eggs = ScaleBody { eggs: Some(2.0), egg_g: Some(60.0), ..ScaleBody::default() };
    let two = f.scaled(&eggs.check(&f, &a, t).unwrap(), &a);
    assert!((two.lines[2].grams.likely - 120.0).abs() < 1e-9);
    assert!((two.lines[0].grams.likely - 500.0 * 120.0 / 87.0).abs() < 1e-9, "everything goes with the eggs");
    let place = |s: ScaleBody| s.check(&f, &a, t).unwrap_err().0[0].pointer.as_str().to_owned();
    assert_eq!(place(ScaleBody { eggs: Some(1.5), ..ScaleBody::default() }), "/eggs");
    assert_eq!(place(ScaleBody { ripe_h: Some(200.0), ..ScaleBody::default() }), "/ripe_h");
    assert_eq!(place(ScaleBody { ripe_h: Some(6.0), place_c: Some(60.0), ..ScaleBody::default() }), "/place_c");
    let six = ScaleBody { ripe_h: Some(6.0), place_c: Some(20.0), ..ScaleBody::default() }.check(&f, &a, t).unwrap();
    let slow = f.scaled(&six, &a);
    assert!(slow.lines[4].grams.likely < 6.0 && (slow.lines[0].grams.likely - 500.0).abs() < 1e-9);
}

#[test]
fn what_it_costs_is_the_sum_of_what_has_a_price() {
    let f = formula(LEAN);
    let a = f.analyse(&tables().pantry, &tables().styles);
    assert!(a.cost(&std::collections::BTreeMap::new()).is_none());
    let prices = [("wheat-bread".to_owned(), 1.5), ("yeast-instant".to_owned(), 20.0)].into();
    let c = a.cost(&prices).unwrap();
    assert!((c.batch.likely - (0.75 + 0.06)).abs() < 1e-9);
    assert_eq!(c.unpriced, ["Fine salt"], "tap water needs no price");
    assert_eq!(c.shares[0].0, "Bread flour");
}

/// Fed one to five and left at 21 °C, a wheat leaven is at its best after 7 to 13 h: common practice, no source.
#[test]
fn a_leaven_is_young_then_ready_then_old() {
    let t = tables();
    let f = formula(&[("wheat-bread", 450.0), ("water", 300.0), ("leaven-wheat", 100.0), ("salt-fine", 10.0)]);
    let a = f.analyse(&t.pantry, &t.styles);
    let ask = PlanAsk::usual(&f, &Kitchen::default(), "2026-11-06T16:40:00Z".parse().unwrap(), t);
    let at = |hours: f64| Fed { hours, parts: 5.0, place_c: 21.0 }.find(&ask, &a, t);
    let id = |hours: f64| at(hours).map(|f| f.finding.id);
    assert_eq!((id(2.0), id(9.0), id(30.0)), (Some("leaven-young"), None, Some("leaven-old")));
    let waits = at(2.0).unwrap().instead.unwrap().1;
    let hours = cerealis_core::plan::minutes_between(ask.start, waits.start) / 60.0;
    assert!((5.0..=11.0).contains(&hours), "mix {hours} h later");
    assert_eq!(id(2.0 + hours), None, "waited for, it is ready");
    let warm = Fed { hours: 5.0, parts: 1.0, place_c: 27.0 }.find(&ask, &a, t);
    assert!(warm.is_none(), "little fed and warm, five hours will do");
    assert!(
        Fed { hours: 2.0, parts: 5.0, place_c: 21.0 }.find(&ask, &formula(LEAN).analyse(&t.pantry, &t.styles), t).is_none(),
        "no leaven in it"
    );
    let wrong = Fed { hours: 200.0, parts: 0.0, place_c: 50.0 }.check().unwrap_err();
    assert_eq!(super::bench::places(&wrong), ["/fed_h", "/fed_parts", "/fed_c"]);
}
