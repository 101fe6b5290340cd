//! How warm the water, against worked examples.

use cerealis_core::{
    findings::Severity,
    formula::Formula,
    measure::{Celsius, Grams, Kelvins},
    water::{Method, MixRise, Part, WaterAnswer, WaterAsk, factor_method, for_formula, friction, heat_balance, ice, yeast_caution},
};

use super::bench::{LEAN, formula, near, places, tables};

fn c(v: f64) -> Celsius {
    Celsius::new(v).unwrap()
}

fn ask() -> WaterAsk {
    WaterAsk {
        target_c: 25.0,
        flour_c: 20.0,
        room_c: 21.0,
        tap_c: 14.0,
        fridge_c: 4.0,
        preferment_c: None,
        line_c: Vec::new(),
        mixing: MixRise::Friction("hand".into(), 10.0),
        method: None,
    }
}

fn answer(f: &Formula, ask: &WaterAsk) -> WaterAnswer {
    for_formula(&f.analyse(&tables().pantry, &tables().styles), ask, &tables().ferment).unwrap()
}

#[test]
fn the_factor_method_is_three_times_the_target_less_the_rest() {
    // The trade's rule, common practice: three temperatures, four with a preferment.
    for (target, flour, room, pref, rub, water) in [
        (24.0, 20.0, 21.0, None, 0.0, 31.0),
        (24.0, 20.0, 21.0, None, 2.0, 25.0),
        (26.0, 18.0, 18.0, None, 1.0, 39.0),
        (25.0, 25.0, 25.0, None, 0.0, 25.0),
        (24.0, 24.0, 24.0, Some(24.0), 0.0, 24.0),
        (25.0, 20.0, 21.0, Some(22.0), 0.0, 37.0),
        (25.0, 20.0, 21.0, Some(22.0), 1.0, 33.0),
    ] {
        let got = factor_method(c(target), c(flour), c(room), pref.map(c), Kelvins::new(rub).unwrap());
        assert!(near(got, water, 1e-9), "{target} {flour} {room} {pref:?} {rub}: {got}");
    }
}

#[test]
fn twelve_kelvin_is_the_trades_twenty_two_fahrenheit() {
    // A stand mixer, 8 min on medium: friction factor 22–24 °F in three temperatures, common practice.
    let rub = friction("planetary-medium", 8.0, Grams::new(1000.0).unwrap(), &tables().ferment)
        .or_else(|| {
            let k = &tables().ferment;
            let name = k.mixers.keys().find(|m| m.contains("planetary") || m.contains("stand"))?;
            friction(name, 8.0, Grams::new(1000.0).unwrap(), k)
        })
        .unwrap();
    assert!((0.5..=6.0).contains(&rub.get()), "{rub:?}");
}

#[test]
fn when_everything_stands_at_the_target_the_water_does_too() {
    let n = &tables().ferment.numbers;
    let parts = [Part { grams: Grams::new(500.0).unwrap(), heat: 1.8, at: c(24.0) }];
    let got = heat_balance(c(24.0), Grams::new(325.0).unwrap(), &parts, Kelvins::new(0.0).unwrap(), n).unwrap();
    assert!(near(got, 24.0, 1e-9));
}

#[test]
fn the_balance_put_back_gives_the_target() {
    let n = &tables().ferment.numbers;
    let parts = [
        Part { grams: Grams::new(500.0).unwrap(), heat: 1.8, at: c(17.0) },
        Part { grams: Grams::new(60.0).unwrap(), heat: 2.3, at: c(5.0) },
    ];
    let water = Grams::new(300.0).unwrap();
    let w = heat_balance(c(26.0), water, &parts, Kelvins::new(0.0).unwrap(), n).unwrap();
    let heat: f64 = parts.iter().map(|p| p.grams.get() * p.heat).sum::<f64>() + water.get() * n.c_water;
    let sum: f64 = parts.iter().map(|p| p.grams.get() * p.heat * p.at.get()).sum::<f64>() + water.get() * n.c_water * w;
    assert!(near(sum / heat, 26.0, 1e-9));
}

#[test]
fn no_water_no_answer() {
    let n = &tables().ferment.numbers;
    assert_eq!(heat_balance(c(24.0), Grams::new(0.0).unwrap(), &[], Kelvins::new(0.0).unwrap(), n), None);
}

#[test]
fn ice_takes_the_heat_the_tap_brings_too_much() {
    // Latent heat of ice 334 kJ/kg, water 4.18 kJ/(kg K): textbook figures, from memory.
    let n = &tables().ferment.numbers;
    let water = Grams::new(500.0).unwrap();
    let got = ice(water, 10.0, c(25.0), 0.0, n).unwrap().get();
    assert!(near(got, 500.0 * 4.18 * 15.0 / (334.0 + 4.18 * 25.0), 0.5), "{got}");
    assert!(near(ice(water, 25.0, c(25.0), -10.0, n).unwrap().get(), 0.0, 1e-9));
    assert!(near(ice(water, 30.0, c(25.0), -10.0, n).unwrap().get(), 0.0, 1e-9));
    let mut last = 0.0;
    for wanted in [20.0, 15.0, 10.0, 5.0, 0.0] {
        let grams = ice(water, wanted, c(25.0), -10.0, n).unwrap().get();
        assert!(grams > last, "{wanted}: {grams}");
        last = grams;
    }
    assert!(ice(water, -120.0, c(30.0), -10.0, n).unwrap_err().contains("chill the flour"));
}

#[test]
fn water_that_would_hurt_the_yeast_is_said_to() {
    for (warm, severity) in [
        (20.0, None),
        (38.0, None),
        (45.0, None),
        (46.0, Some(Severity::Caution)),
        (50.0, Some(Severity::Caution)),
        (51.0, Some(Severity::Stop)),
        (60.0, Some(Severity::Stop)),
    ] {
        assert_eq!(yeast_caution(warm), severity, "{warm}");
    }
}

#[test]
fn a_lean_dough_goes_by_the_factor_and_a_cold_bowl_by_the_balance() {
    let lean = formula(&[("wheat-bread", 500.0), ("water", 325.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)]);
    assert_eq!(answer(&lean, &ask()).method, Method::Factor);
    let rich = formula(&[
        ("wheat-bread", 500.0),
        ("water", 150.0),
        ("egg-whole", 150.0),
        ("butter-unsalted", 100.0),
        ("salt-fine", 10.0),
        ("yeast-instant", 6.0),
    ]);
    assert_eq!(answer(&rich, &ask()).method, Method::HeatBalance);
}

#[test]
fn a_colder_room_wants_warmer_water() {
    let f = formula(LEAN);
    let at = |room: f64| answer(&f, &WaterAsk { room_c: room, flour_c: room, ..ask() }).water_c;
    assert!(at(16.0) > at(20.0) && at(20.0) > at(26.0));
}

#[test]
fn more_kneading_wants_cooler_water() {
    let f = formula(LEAN);
    let at = |minutes: f64| answer(&f, &WaterAsk { mixing: MixRise::Friction("hand".into(), minutes), ..ask() }).water_c;
    assert!(at(0.0) > at(10.0) && at(10.0) > at(20.0));
}

#[test]
fn a_warm_tap_in_summer_asks_for_ice_and_the_water_adds_up() {
    let a = answer(&formula(LEAN), &WaterAsk { room_c: 32.0, flour_c: 32.0, tap_c: 28.0, target_c: 23.0, ..ask() });
    assert!(a.ice_g > 0.0 && near(a.ice_g + a.tap_water_g, a.water_g, 1e-6), "{a:?}");
    assert!(near(a.water_g, 340.0, 1e-6));
}

#[test]
fn a_stone_cold_kitchen_is_warned_before_the_yeast_is_scalded() {
    let a = answer(&formula(LEAN), &WaterAsk { room_c: 4.0, flour_c: 4.0, target_c: 33.0, ..ask() });
    assert!(a.findings.iter().any(|f| f.severity != Severity::Note), "{a:?}");
}

#[test]
fn a_dough_of_milk_warms_its_milk() {
    let a = answer(&formula(&[("wheat-bread", 500.0), ("milk-whole", 320.0), ("salt-fine", 9.0), ("yeast-instant", 6.0)]), &ask());
    assert!(a.liquid.to_lowercase().contains("milk") && near(a.water_g, 320.0, 1e-6), "{a:?}");
}

#[test]
fn the_working_names_target_and_friction() {
    let a = answer(&formula(LEAN), &ask());
    let labels: Vec<&str> = a.working.iter().map(|w| w.label.as_str()).collect();
    assert!(labels.contains(&"dough wanted") && labels.contains(&"rise by mixing"), "{labels:?}");
}

#[test]
fn impossible_temperatures_are_refused_where_they_stand() {
    let f = formula(LEAN);
    let a = f.analyse(&tables().pantry, &tables().styles);
    for (wrong, place) in [
        (WaterAsk { target_c: 60.0, ..ask() }, "/target_c"),
        (WaterAsk { target_c: f64::NAN, ..ask() }, "/target_c"),
        (WaterAsk { flour_c: -80.0, ..ask() }, "/flour_c"),
        (WaterAsk { room_c: 200.0, ..ask() }, "/room_c"),
        (WaterAsk { tap_c: 99.0, ..ask() }, "/tap_c"),
        (WaterAsk { mixing: MixRise::Friction("hand".into(), -1.0), ..ask() }, "/mix_min"),
        (WaterAsk { mixing: MixRise::Friction("hand".into(), 600.0), ..ask() }, "/mix_min"),
        (WaterAsk { mixing: MixRise::Friction("spoon and prayer".into(), 5.0), ..ask() }, "/mixer"),
        (WaterAsk { line_c: vec![(99, 20.0)], ..ask() }, "/line_c/0/line"),
        (WaterAsk { line_c: vec![(0, 400.0)], ..ask() }, "/line_c/0/c"),
    ] {
        let e = for_formula(&a, &wrong, &tables().ferment).unwrap_err();
        assert!(places(&e).contains(&place), "{place}: {e:?}");
    }
    let dry = formula(&[("wheat-bread", 500.0), ("salt-fine", 10.0)]);
    let e = for_formula(&dry.analyse(&tables().pantry, &tables().styles), &ask(), &tables().ferment).unwrap_err();
    assert!(e.0[0].message.contains("no water"), "{e:?}");
}
