//! The rise against the speeds printed in `docs/science/fermentation.md` and the hours bakers count on.

use cerealis_core::{
    ferment::{
        Act, Dough, EventKind, Forecast, Pace, Population, Rate, Rise, RiseKind, RiseStage, YeastDose, simulate, survivors,
        time_constant_min,
    },
    input::InputErrors,
};

use super::bench::{near, places, tables};

fn dough(instant_pct: f64) -> Dough {
    Dough {
        flour: vec![("strong-white".into(), 100.0)],
        water_pct: 67.0,
        salt_pct: 2.0,
        sugar_pct: 0.0,
        fat_pct: 0.0,
        solids_pct: 0.0,
        yeast: (instant_pct > 0.0).then(|| YeastDose { kind: "instant".into(), pct: instant_pct, viable: 1.0 }),
        leaven: None,
        preferment_yeast_pct: 0.0,
        spice_factor: 1.0,
    }
}

fn sourdough(leaven_flour_pct: f64) -> Dough {
    Dough { leaven: Some((leaven_flour_pct, None)), ..dough(0.0) }
}

fn rise(style: &str, dough: Dough, start_c: f64, stages: Vec<RiseStage>) -> Rise {
    Rise { style: style.into(), dough, start_c, stages, rate: 1.0, log_sigma: None }
}

fn bulk(dough: Dough, style: &str, c: f64) -> Forecast {
    simulate(&rise(style, dough, c, vec![RiseStage::until_ripe(RiseKind::Bulk, c, 900.0)]), &tables().ferment).unwrap()
}

fn hours(f: &Forecast) -> f64 {
    f.event(EventKind::BulkRipe).unwrap().min / 60.0
}

/// °C, and speed beside 24 °C of baker's yeast, leaven yeast, lactic bacteria.
const SPEEDS: &[(f64, f64, f64, f64)] = &[
    (4.0, 0.049, 0.019, 0.010),
    (6.0, 0.093, 0.052, 0.040),
    (10.0, 0.22, 0.17, 0.16),
    (14.0, 0.40, 0.34, 0.34),
    (17.0, 0.56, 0.51, 0.52),
    (20.0, 0.74, 0.71, 0.71),
    (22.0, 0.87, 0.85, 0.86),
    (24.0, 1.0, 1.0, 1.0),
    (26.0, 1.14, 1.15, 1.14),
    (28.0, 1.27, 1.29, 1.27),
    (30.0, 1.40, 1.41, 1.37),
    (32.0, 1.52, 1.47, 1.43),
    (34.0, 1.62, 1.43, 1.43),
    (36.0, 1.69, 1.13, 1.33),
    (38.0, 1.72, 0.0, 1.05),
    (42.0, 1.55, 0.0, 0.0),
    (46.0, 0.70, 0.0, 0.0),
];

#[test]
fn speeds_are_those_of_the_table() {
    let n = &tables().ferment.numbers;
    for (c, bakers, wild, lactic) in SPEEDS {
        for (population, want) in [(Population::Bakers, bakers), (Population::Wild, wild), (Population::Lactic, lactic)] {
            let got = Rate::of(population, n).at(*c);
            assert!(near(got, *want, 0.006), "{population:?} at {c}: {got}, printed {want}");
        }
    }
}

#[test]
fn yeast_lives_below_forty_five_and_dies_above_fifty_five() {
    let n = &tables().ferment.numbers;
    assert!(survivors(60.0, 40.0, n) > 0.999);
    assert!(survivors(10.0, 60.0, n) < 0.01, "{}", survivors(10.0, 60.0, n));
    let mut last = 1.0;
    for c in [46.0, 48.0, 50.0, 52.0, 55.0] {
        let left = survivors(5.0, c, n);
        assert!(left < last, "{c}: {left}");
        last = left;
    }
}

/// Instant yeast in %, the room in °C, and the hours bakers give a lean dough.
const LEAN_HOURS: &[(f64, f64, f64, f64)] = &[
    (2.0, 27.0, 0.4, 1.1),
    (1.0, 27.0, 0.7, 1.6),
    (1.0, 24.0, 1.0, 2.2),
    (0.7, 24.0, 1.2, 2.8),
    (0.5, 24.0, 1.5, 3.6),
    (0.5, 20.0, 2.2, 5.0),
    (0.2, 24.0, 3.0, 7.0),
    (0.2, 20.0, 4.5, 9.5),
    (0.1, 21.0, 6.0, 14.0),
];

#[test]
fn lean_doughs_take_the_hours_bakers_give_them() {
    for (pct, c, low, high) in LEAN_HOURS {
        let h = hours(&bulk(dough(*pct), "lean", *c));
        assert!((*low..=*high).contains(&h), "{pct} % at {c} °C: {h} h, bakers say {low}–{high}");
    }
}

#[test]
fn a_sourdough_with_a_tenth_to_a_fifth_of_its_flour_ripe_takes_half_a_day_or_less() {
    for (leaven, c, low, high) in [(10.0, 24.0, 3.5, 8.0), (10.0, 27.0, 2.5, 6.0), (20.0, 24.0, 2.5, 6.0), (10.0, 20.0, 6.0, 13.0)] {
        let h = hours(&bulk(sourdough(leaven), "sourdough-lean", c));
        assert!((low..=high).contains(&h), "{leaven} % at {c} °C: {h} h");
    }
}

#[test]
fn more_yeast_is_quicker_and_so_is_a_warmer_room() {
    let mut last = f64::INFINITY;
    for pct in [0.1, 0.2, 0.4, 0.8, 1.6] {
        let h = hours(&bulk(dough(pct), "lean", 22.0));
        assert!(h < last, "{pct}: {h}");
        last = h;
    }
    last = f64::INFINITY;
    for c in [14.0, 17.0, 20.0, 24.0, 28.0, 32.0] {
        let h = hours(&bulk(dough(0.5), "lean", c));
        assert!(h < last, "{c}: {h}");
        last = h;
    }
}

#[test]
fn salt_and_sugar_slow_it() {
    let base = hours(&bulk(dough(0.6), "lean", 24.0));
    let salty = hours(&bulk(Dough { salt_pct: 3.0, ..dough(0.6) }, "lean", 24.0));
    let sweet = hours(&bulk(Dough { sugar_pct: 15.0, ..dough(0.6) }, "lean", 24.0));
    assert!(salty > base && sweet > 1.1 * base, "{base} {salty} {sweet}");
}

#[test]
fn dough_time_at_twenty_four_is_clock_time() {
    let f = bulk(dough(0.5), "lean", 24.0);
    for row in &f.curve {
        assert!(near(row.dough_h, row.min / 60.0, 0.02), "{row:?}");
    }
}

#[test]
fn three_hours_at_seventeen_are_a_hundred_minutes_of_dough_time() {
    // Worked example of docs/science/fermentation.md, section 1.
    let stage = RiseStage { minutes: Some(180.0), ..RiseStage::until_ripe(RiseKind::Bulk, 17.0, 900.0) };
    let f = simulate(&rise("lean", dough(0.3), 17.0, vec![stage]), &tables().ferment).unwrap();
    let end = f.curve.iter().rfind(|r| r.min <= 180.0 + 1e-9).unwrap();
    assert!(near(end.dough_h, 1.67, 0.02), "{}", end.dough_h);
}

#[test]
fn nothing_unripens_and_nothing_shrinks_while_it_rises() {
    let f = bulk(dough(0.4), "lean", 22.0);
    let ripe_at = f.event(EventKind::BulkRipe).unwrap().min;
    for pair in f.curve.windows(2).filter(|p| p[1].min <= ripe_at) {
        assert!(pair[1].ripeness >= pair[0].ripeness - 1e-12);
        assert!(pair[1].dough_h >= pair[0].dough_h);
        assert!(pair[1].volume_ratio >= pair[0].volume_ratio - 1e-9);
    }
}

#[test]
fn low_comes_before_likely_and_likely_before_high() {
    for c in [18.0, 24.0, 28.0] {
        for event in &bulk(dough(0.5), "lean", c).events {
            if let (Some(low), Some(high)) = (event.min_low, event.min_high) {
                assert!(low <= event.min && event.min <= high, "{event:?}");
            }
        }
    }
}

#[test]
fn a_quick_pace_ends_first_and_a_patient_one_last() {
    let at = |pace: Pace| {
        let stage = RiseStage { pace: Some(pace), ..RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0) };
        hours(&simulate(&rise("lean", dough(0.5), 24.0, vec![stage]), &tables().ferment).unwrap())
    };
    assert!(at(Pace::Quick) <= at(Pace::Usual) && at(Pace::Usual) <= at(Pace::Patient));
    for pace in [Pace::Quick, Pace::Usual, Pace::Patient] {
        assert_eq!(Pace::from_word(pace.word()), Some(pace));
    }
}

#[test]
fn a_kitchen_that_runs_twice_as_fast_is_ready_in_less_time() {
    let at = |rate: f64| {
        let stage = RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0);
        hours(&simulate(&Rise { rate, ..rise("lean", dough(0.5), 24.0, vec![stage]) }, &tables().ferment).unwrap())
    };
    assert!(at(2.0) < 0.75 * at(1.0) && at(0.5) > 1.3 * at(1.0));
}

#[test]
fn a_small_piece_in_the_fridge_cools_sooner_than_a_tub() {
    let k = &tables().ferment;
    let vessel = k.vessels.keys().next().unwrap();
    let (cover, air) = (k.covers.keys().next().unwrap(), k.airs.keys().next().unwrap());
    let mut last = 0.0;
    for mass in [60.0, 250.0, 900.0, 2000.0, 5000.0] {
        let minutes = time_constant_min(mass, vessel, cover, air, k);
        assert!(minutes > last, "{mass} g: {minutes} min");
        last = minutes;
    }
}

#[test]
fn a_dough_put_in_the_cold_comes_to_its_temperature_and_slows() {
    let warm = RiseStage { minutes: Some(60.0), ..RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0) };
    let cold = RiseStage { minutes: Some(720.0), ..RiseStage::until_ripe(RiseKind::Bulk, 4.0, 900.0) };
    let f = simulate(&rise("lean", dough(0.4), 24.0, vec![warm, cold]), &tables().ferment).unwrap();
    let last = f.curve.iter().rfind(|r| r.min <= 780.0).unwrap();
    assert!(last.dough_c < 6.0, "{}", last.dough_c);
    assert!(last.dough_h < 5.0, "thirteen hours, mostly in the cold: {} h of dough time", last.dough_h);
    for pair in f.curve.windows(2).filter(|p| p[0].min >= 60.0 && p[1].min <= 780.0) {
        assert!(pair[1].dough_c <= pair[0].dough_c + 1e-9);
    }
}

#[test]
fn folding_costs_no_ripeness() {
    let plain = RiseStage { minutes: Some(120.0), ..RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0) };
    let fold = tables().ferment.acts.keys().find(|a| a.as_str() == "fold").unwrap().clone();
    let folded = RiseStage { acts: Some(vec![Act { at_min: 30.0, act: fold.clone() }, Act { at_min: 60.0, act: fold }]), ..plain.clone() };
    let end = |s: RiseStage| {
        let f = simulate(&rise("lean", dough(0.5), 24.0, vec![s]), &tables().ferment).unwrap();
        *f.curve.iter().rfind(|r| r.min <= 120.0 + 1e-9).unwrap()
    };
    let (a, b) = (end(plain), end(folded));
    assert!(near(a.ripeness, b.ripeness, 1e-6), "{} {}", a.ripeness, b.ripeness);
    assert!(b.volume_ratio <= a.volume_ratio + 1e-9);
}

#[test]
fn the_proof_begins_lower_than_the_bulk_ended() {
    let stages = vec![RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0), RiseStage::until_ripe(RiseKind::Proof, 24.0, 900.0)];
    let f = simulate(&rise("lean", dough(0.5), 24.0, stages), &tables().ferment).unwrap();
    let bulk = f.event(EventKind::BulkRipe).unwrap().min;
    let proof = f.event(EventKind::ProofRipe).unwrap().min;
    assert!(proof > bulk + 10.0, "{bulk} {proof}");
    let first = f.curve.iter().find(|r| r.stage == 1).unwrap();
    let before = f.curve.iter().rfind(|r| r.stage == 0).unwrap();
    assert!(first.volume_ratio < before.volume_ratio);
}

#[test]
fn a_reading_bends_the_course_toward_what_was_measured() {
    let plain = RiseStage { minutes: Some(240.0), ..RiseStage::until_ripe(RiseKind::Bulk, 20.0, 900.0) };
    let measured = RiseStage { readings: vec![(60.0, 27.0)], ..plain.clone() };
    let end = |s: RiseStage| simulate(&rise("lean", dough(0.4), 22.0, vec![s]), &tables().ferment).unwrap().curve.last().unwrap().dough_h;
    assert!(end(measured) > end(plain) + 0.2);
}

fn refused(r: &Rise) -> InputErrors {
    simulate(r, &tables().ferment).unwrap_err()
}

#[test]
fn what_no_dough_is_gets_refused_where_it_stands() {
    let stage = || RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0);
    let with = |d: Dough| rise("lean", d, 24.0, vec![stage()]);
    let staged = |s: RiseStage| rise("lean", dough(0.5), 24.0, vec![s]);
    let cases: Vec<(Rise, &str)> = vec![
        (with(Dough { water_pct: 5.0, ..dough(0.5) }), "/dough/water_pct"),
        (with(Dough { water_pct: f64::NAN, ..dough(0.5) }), "/dough/water_pct"),
        (with(Dough { salt_pct: 40.0, ..dough(0.5) }), "/dough/salt_pct"),
        (with(Dough { sugar_pct: -1.0, ..dough(0.5) }), "/dough/sugar_pct"),
        (with(Dough { fat_pct: 400.0, ..dough(0.5) }), "/dough/fat_pct"),
        (rise("moon-bread", dough(0.5), 24.0, vec![stage()]), "/style"),
        (rise("lean", dough(0.5), 90.0, vec![stage()]), "/start_c"),
        (rise("lean", dough(0.5), 24.0, vec![]), "/stages"),
        (rise("lean", dough(0.5), 24.0, vec![stage(); 21]), "/stages"),
        (Rise { rate: 0.0, ..with(dough(0.5)) }, "/rate"),
        (Rise { log_sigma: Some(9.0), ..with(dough(0.5)) }, "/log_sigma"),
        (staged(RiseStage { place_c: 90.0, ..stage() }), "/stages/0/place_c"),
        (staged(RiseStage { mass_g: Some(0.0), ..stage() }), "/stages/0/mass_g"),
        (staged(RiseStage { minutes: Some(-5.0), ..stage() }), "/stages/0/minutes"),
        (staged(RiseStage { minutes: Some(1e7), ..stage() }), "/stages/0/minutes"),
        (staged(RiseStage { target_ratio: Some(0.5), ..stage() }), "/stages/0/target_ratio"),
        (staged(RiseStage { over_x: Some(9.0), ..stage() }), "/stages/0/over_x"),
        (staged(RiseStage { vessel: Some("sock".into()), ..stage() }), "/stages/0/vessel"),
        (staged(RiseStage { cover: Some("sock".into()), ..stage() }), "/stages/0/cover"),
        (staged(RiseStage { air: Some("thin".into()), ..stage() }), "/stages/0/air"),
        (staged(RiseStage { acts: Some(vec![Act { at_min: 10.0, act: "juggle".into() }]), ..stage() }), "/stages/0/acts/0/act"),
    ];
    for (wrong, place) in cases {
        let e = refused(&wrong);
        assert!(places(&e).contains(&place), "{place}: {e:?}");
    }
}

#[test]
fn no_yeast_and_no_leaven_is_told_in_words() {
    let e = refused(&rise("lean", dough(0.0), 24.0, vec![RiseStage::until_ripe(RiseKind::Bulk, 24.0, 900.0)]));
    assert!(e.0.iter().any(|x| x.message.contains("no yeast and no leaven")), "{e:?}");
}
