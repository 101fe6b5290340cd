//! The oven: scales, altitude, colours, and how long bakers bake.

use cerealis_core::{
    findings::Severity,
    oven::{
        Advice, Bake, BakeBody, Colour, Crust, DegreeScale, Glaze, SettingFinding as F, Shape, Vessel, advise, boiling_c, cautions,
        colour_word, find, preheat_lead_min, pressure_pa, read_setting, sides,
    },
};

use super::bench::{near, places, tables};

fn bake(edit: impl Fn(&mut BakeBody)) -> Bake {
    let mut body = BakeBody { piece_g: Some(800.0), ..BakeBody::default() };
    edit(&mut body);
    body.check().unwrap()
}

fn advice(edit: impl Fn(&mut BakeBody)) -> Advice {
    advise(&bake(edit), &tables().oven)
}

/// What stands on a dial or in a recipe, on which scale, what it is in °C, and what is odd about it.
type Setting = (f64, DegreeScale, Option<f64>, Option<F>);

#[test]
fn settings_are_read_on_the_scale_they_must_be_on() {
    let cases: &[Setting] = &[
        (180.0, DegreeScale::Celsius, Some(180.0), None),
        (230.0, DegreeScale::Celsius, Some(230.0), None),
        (350.0, DegreeScale::Fahrenheit, Some(176.7), None),
        (375.0, DegreeScale::Fahrenheit, Some(190.6), None),
        (400.0, DegreeScale::Fahrenheit, Some(204.4), None),
        (425.0, DegreeScale::Fahrenheit, Some(218.3), None),
        (450.0, DegreeScale::Fahrenheit, Some(232.2), None),
        (500.0, DegreeScale::Fahrenheit, Some(260.0), None),
        // A European dial ends before 300.
        (350.0, DegreeScale::Celsius, Some(176.7), Some(F::LooksLikeFahrenheit)),
        (400.0, DegreeScale::Celsius, Some(204.4), Some(F::LooksLikeFahrenheit)),
        (180.0, DegreeScale::Fahrenheit, Some(180.0), Some(F::LooksLikeCelsius)),
        (200.0, DegreeScale::Fahrenheit, Some(200.0), Some(F::LooksLikeCelsius)),
        (250.0, DegreeScale::Fahrenheit, Some(121.1), Some(F::CoolForBread)),
        (120.0, DegreeScale::Celsius, Some(120.0), Some(F::CoolForBread)),
        (290.0, DegreeScale::Celsius, Some(290.0), Some(F::HotterThanMostHomeOvens)),
        (180.0, DegreeScale::Unsaid, Some(180.0), Some(F::AssumedCelsius)),
        (220.0, DegreeScale::Unsaid, Some(220.0), Some(F::AssumedCelsius)),
        (350.0, DegreeScale::Unsaid, Some(176.7), Some(F::AssumedFahrenheit)),
        (425.0, DegreeScale::Unsaid, Some(218.3), Some(F::AssumedFahrenheit)),
        (6.0, DegreeScale::Unsaid, Some(200.0), Some(F::AssumedGasMark)),
        (6.0, DegreeScale::Celsius, Some(200.0), Some(F::LooksLikeGasMark)),
        (900.0, DegreeScale::Celsius, None, Some(F::NotABreadSetting)),
        (900.0, DegreeScale::Fahrenheit, None, Some(F::NotABreadSetting)),
        (20.0, DegreeScale::Unsaid, None, Some(F::NotABreadSetting)),
        (-5.0, DegreeScale::Celsius, None, Some(F::NotABreadSetting)),
        (f64::NAN, DegreeScale::Celsius, None, Some(F::NotABreadSetting)),
        (12.0, DegreeScale::Gas, None, Some(F::NotABreadSetting)),
    ];
    for (value, scale, c, odd) in cases {
        let got = read_setting(*value, *scale);
        assert_eq!(got.finding, *odd, "{value} {scale:?}");
        assert_eq!(got.set_c.is_some(), c.is_some(), "{value} {scale:?}");
        if let (Some(g), Some(c)) = (got.set_c, c) {
            assert!(near(g, *c, 0.06), "{value} {scale:?}: {g}");
        }
    }
}

#[test]
fn gas_marks_are_those_on_british_cookers() {
    for (mark, c) in [
        (0.25, 110.0),
        (0.5, 130.0),
        (1.0, 140.0),
        (2.0, 150.0),
        (3.0, 170.0),
        (4.0, 180.0),
        (5.0, 190.0),
        (6.0, 200.0),
        (7.0, 220.0),
        (8.0, 230.0),
        (9.0, 240.0),
    ] {
        assert_eq!(read_setting(mark, DegreeScale::Gas).set_c, Some(c), "mark {mark}");
    }
}

#[test]
fn water_boils_cooler_on_the_mountain() {
    // Textbook figures for the standard atmosphere, from memory.
    for (altitude, c) in [(0.0, 100.0), (500.0, 98.3), (1000.0, 96.7), (1500.0, 95.0), (2000.0, 93.3), (3000.0, 89.9), (4000.0, 86.5)] {
        assert!(near(boiling_c(altitude), c, 0.4), "{altitude} m: {}", boiling_c(altitude));
    }
    assert!(near(pressure_pa(0.0), 101_325.0, 1e-6));
    assert!(near(pressure_pa(5500.0) / 101_325.0, 0.498, 0.005), "half an atmosphere at 5500 m");
}

#[test]
fn colours_go_one_way() {
    let order = ["raw", "pale", "golden", "brown", "dark", "burnt"];
    let mut last = 0;
    for step in 0..300 {
        let at = order.iter().position(|w| *w == colour_word(f64::from(step) * 0.01)).unwrap();
        assert!(at >= last);
        last = at;
    }
    assert_eq!(last, 5);
}

/// One of the trade's bakes: grams, shape, vessel, fat, sugar, milk, setting °C, minutes low, high.
type Usual = (f64, &'static str, &'static str, f64, f64, f64, f64, f64, f64);

#[test]
fn loaves_and_rolls_take_the_minutes_bakers_give_them() {
    let cases: &[Usual] = &[
        (60.0, "ball", "sheet", 8.0, 8.0, 45.0, 190.0, 11.0, 22.0),
        (80.0, "ball", "sheet", 5.0, 4.0, 45.0, 200.0, 12.0, 24.0),
        (100.0, "ball", "sheet", 0.0, 0.0, 0.0, 220.0, 13.0, 26.0),
        (350.0, "baton", "stone", 0.0, 0.0, 0.0, 230.0, 16.0, 32.0),
        (500.0, "batard", "sheet", 0.0, 0.0, 0.0, 220.0, 23.0, 42.0),
        (500.0, "braid", "sheet", 9.0, 10.0, 0.0, 180.0, 21.0, 38.0),
        (800.0, "pan", "pan-metal", 4.0, 3.0, 30.0, 190.0, 28.0, 48.0),
        (900.0, "ball", "stone", 0.0, 0.0, 0.0, 220.0, 30.0, 52.0),
        (1000.0, "batard", "stone", 0.0, 0.0, 0.0, 220.0, 30.0, 54.0),
    ];
    for (piece_g, shape, vessel, fat, sugar, milk, set_c, low, high) in cases {
        let a = advice(|b| {
            (b.piece_g, b.shape, b.vessel) = (Some(*piece_g), Some((*shape).into()), Some((*vessel).into()));
            (b.fat_pct, b.sugar_pct, b.milk_pct, b.set_c) = (Some(*fat), Some(*sugar), Some(*milk), Some(*set_c));
        });
        let minutes = a.minutes.unwrap();
        assert!((*low..=*high).contains(&minutes), "{piece_g} g {shape} at {set_c}: {minutes} min, bakers say {low}–{high}");
    }
}

#[test]
fn a_bigger_piece_takes_longer_at_the_same_setting() {
    let mut last = 0.0;
    for grams in [60.0, 120.0, 250.0, 500.0, 900.0, 1400.0] {
        let minutes = advice(|b| (b.piece_g, b.set_c) = (Some(grams), Some(200.0))).minutes.unwrap();
        assert!(minutes > last, "{grams} g: {minutes}");
        last = minutes;
    }
}

#[test]
fn a_big_sweet_loaf_is_set_cooler_than_a_small_lean_one() {
    let big = advice(|b| {
        (b.piece_g, b.sugar_pct, b.fat_pct, b.egg_pct) = (Some(1200.0), Some(18.0), Some(18.0), Some(20.0));
        b.glaze = Some("egg".into());
    });
    let small = advice(|b| b.piece_g = Some(80.0));
    assert!(big.set_c < small.set_c, "{} {}", big.set_c, small.set_c);
}

#[test]
fn a_fan_is_set_lower() {
    let still = advice(|b| b.piece_g = Some(800.0));
    let fan = advice(|b| b.fan = Some(true));
    assert!(fan.set_c <= still.set_c - 5.0, "{} {}", fan.set_c, still.set_c);
}

#[test]
fn a_range_holds_its_likely_minute_and_the_look_comes_before() {
    for grams in [60.0, 400.0, 1000.0] {
        let a = advice(|b| b.piece_g = Some(grams));
        let (low, mid, high) = (a.minutes_low.unwrap(), a.minutes.unwrap(), a.minutes_high.unwrap());
        assert!(low <= mid && mid <= high, "{low} {mid} {high}");
        let times: Vec<f64> = a.events().iter().map(|e| e.at_min).collect();
        assert!(times.windows(2).all(|w| w[0] <= w[1]), "{times:?}");
    }
}

#[test]
fn a_stone_is_lit_long_before_a_sheet() {
    let k = &tables().oven;
    let lead = |body: Option<&str>| preheat_lead_min(230.0, body, false, 20.0, k).unwrap();
    assert!(lead(None) < lead(Some("steel")) && lead(None) < lead(Some("stone")) && lead(None) < lead(Some("pot")));
    assert!((8.0..=30.0).contains(&lead(None)), "{}", lead(None));
    assert!((25.0..=75.0).contains(&lead(Some("stone"))), "{}", lead(Some("stone")));
    let mut last = 0.0;
    for c in [150.0, 180.0, 210.0, 240.0] {
        let minutes = preheat_lead_min(c, None, false, 20.0, k).unwrap();
        assert!(minutes > last);
        last = minutes;
    }
}

#[test]
fn bread_is_done_between_eighty_eight_and_ninety_nine_inside() {
    for edit in [
        (|_: &mut BakeBody| {}) as fn(&mut BakeBody),
        |b| (b.sugar_pct, b.fat_pct, b.egg_pct) = (Some(10.0), Some(10.0), Some(15.0)),
        |b| b.rye_pct = Some(100.0),
        |b| b.wholegrain_pct = Some(100.0),
        |b| b.gluten_free = Some(true),
    ] {
        let core = advice(edit).core_target_c;
        assert!((86.0..=99.5).contains(&core), "{core}");
    }
}

#[test]
fn soft_bread_is_out_cooler_inside_than_lean_bread() {
    let lean = advice(|_| {}).core_target_c;
    let rich = advice(|b| (b.sugar_pct, b.fat_pct, b.egg_pct) = (Some(12.0), Some(15.0), Some(20.0))).core_target_c;
    assert!(rich < lean, "{rich} {lean}");
}

#[test]
fn the_usual_wish_is_brown_and_crisp_for_lean_and_golden_and_soft_for_rich() {
    let lean = bake(|_| {});
    assert_eq!((lean.crust(), lean.colour()), (Crust::Crisp, Colour::Brown));
    let rich = bake(|b| (b.sugar_pct, b.fat_pct, b.milk_pct) = (Some(10.0), Some(10.0), Some(40.0)));
    assert_eq!((rich.crust(), rich.colour()), (Crust::Soft, Colour::Golden));
}

#[test]
fn too_cool_and_too_hot_are_said() {
    let ids = |set: f64| {
        let b = bake(|b| b.set_c = Some(set));
        find(&b, &advise(&b, &tables().oven), &tables().oven).into_iter().map(|f| f.id).collect::<Vec<_>>()
    };
    assert!(ids(110.0).contains(&"oven-too-cool"), "{:?}", ids(110.0));
    assert!(ids(145.0).contains(&"cool-for-bread") || ids(145.0).contains(&"oven-too-cool"), "{:?}", ids(145.0));
    assert!(ids(290.0).contains(&"hotter-than-most-home-ovens"), "{:?}", ids(290.0));
}

#[test]
fn black_outside_and_raw_within_is_foreseen() {
    let b = bake(|b| {
        (b.piece_g, b.sugar_pct, b.fat_pct, b.egg_pct, b.set_c) = (Some(1200.0), Some(20.0), Some(20.0), Some(25.0), Some(230.0));
        (b.glaze, b.shape) = (Some("egg".into()), Some("braid".into()));
    });
    let found = find(&b, &advise(&b, &tables().oven), &tables().oven);
    let ahead = found.iter().find(|f| f.id == "crust-ahead-of-core").unwrap();
    assert_eq!(ahead.severity, Severity::Caution);
    assert!(!ahead.remedies.is_empty());
}

#[test]
fn where_work_can_hurt_the_page_says_so() {
    let said = |edit: fn(&mut BakeBody)| {
        let b = bake(edit);
        cautions(&b, advise(&b, &tables().oven).steam_min > 0.0).join(" ")
    };
    assert!(said(|_| {}).contains("Steam"));
    assert!(said(|b| b.vessel = Some("pot".into())).contains("pot looks cold"));
    assert!(said(|b| (b.vessel, b.shape) = (Some("pan-glass".into()), Some("pan".into()))).contains("cold glass"));
    assert!(said(|b| b.glaze = Some("soda".into())).contains("boils over"));
    assert!(said(|b| b.glaze = Some("egg".into())).contains("Raw egg"));
    assert!(said(|b| b.glaze = Some("egg".into())).contains("follow your local authority"));
}

#[test]
fn words_of_shapes_vessels_and_glazes_come_back() {
    for w in Shape::words() {
        assert_eq!(Shape::from_word(w).map(Shape::word), Some(w));
    }
    for w in Vessel::words() {
        assert_eq!(Vessel::from_word(w).map(Vessel::word), Some(w));
    }
    for w in Glaze::words() {
        assert_eq!(Glaze::from_word(w).map(Glaze::word), Some(w));
    }
    assert!(Shape::from_word("pyramid").is_none() && Vessel::from_word("sock").is_none() && Glaze::from_word("paint").is_none());
}

#[test]
fn what_no_oven_bakes_is_refused_where_it_stands() {
    type Edit = fn(&mut BakeBody);
    let cases: &[(Edit, &str)] = &[
        (|b| b.piece_g = None, "/piece_g"),
        (|b| b.piece_g = Some(0.0), "/piece_g"),
        (|b| b.piece_g = Some(1e6), "/piece_g"),
        (|b| b.piece_g = Some(f64::NAN), "/piece_g"),
        (|b| b.pieces = Some(0.0), "/pieces"),
        (|b| b.pieces = Some(1000.0), "/pieces"),
        (|b| b.shape = Some("pyramid".into()), "/shape"),
        (|b| b.vessel = Some("sock".into()), "/vessel"),
        (|b| b.glaze = Some("paint".into()), "/glaze"),
        (|b| b.colour = Some("blue".into()), "/colour"),
        (|b| b.crust = Some("wet".into()), "/crust"),
        (|b| b.arrangement = Some("piled".into()), "/arrangement"),
        (|b| b.set_c = Some(20.0), "/set_c"),
        (|b| b.set_c = Some(900.0), "/set_c"),
        (|b| b.hydration_pct = Some(5.0), "/hydration_pct"),
        (|b| b.sugar_pct = Some(-3.0), "/sugar_pct"),
        (|b| b.rye_pct = Some(130.0), "/rye_pct"),
        (|b| b.dough_c = Some(90.0), "/dough_c"),
        (|b| b.altitude_m = Some(9000.0), "/altitude_m"),
        (|b| b.thickness_cm = Some(80.0), "/thickness_cm"),
    ];
    for (edit, place) in cases {
        let mut body = BakeBody { piece_g: Some(800.0), ..BakeBody::default() };
        edit(&mut body);
        let e = body.check().unwrap_err();
        assert!(places(&e).contains(place), "{place}: {e:?}");
        assert!(e.0.iter().all(|x| x.message.len() > 10), "{e:?}");
    }
}

#[test]
fn an_oven_hotter_on_one_side_wants_the_bread_turned() {
    let k = &tables().oven;
    let plait = |hot_k: f64| {
        BakeBody {
            piece_g: Some(700.0),
            shape: Some("braid".into()),
            glaze: Some("egg".into()),
            sugar_pct: Some(15.0),
            egg_pct: Some(15.0),
            set_c: Some(180.0),
            hot_k: Some(hot_k),
            ..BakeBody::default()
        }
        .check()
        .unwrap()
    };
    let ids = |b: &Bake| find(b, &advise(b, k), k).into_iter().map(|f| f.id).collect::<Vec<_>>();
    assert!(ids(&plait(25.0)).contains(&"sides-differ"), "{:?}", ids(&plait(25.0)));
    assert!(!ids(&plait(0.0)).contains(&"sides-differ") && !ids(&plait(1.0)).contains(&"sides-differ"));
    let s = sides(&plait(25.0), 180.0, k).unwrap();
    assert!(s.cool < s.turned && s.turned < s.hot);
}

#[test]
fn a_thin_sheet_is_dried_and_a_pale_pot_keeps_its_lid() {
    let k = &tables().oven;
    let ids = |b: &Bake| find(b, &advise(b, k), k).into_iter().map(|f| f.id).collect::<Vec<_>>();
    let sheet = |cm: f64| bake(|b| (b.piece_g, b.shape, b.thickness_cm) = (Some(200.0), Some("flat".into()), Some(cm)));
    assert!(ids(&sheet(0.3)).contains(&"crisp-sheet") && !ids(&sheet(0.8)).contains(&"crisp-sheet"));
    let pot = |colour: &str, sugar: f64| {
        bake(|b| {
            (b.piece_g, b.vessel, b.colour) = (Some(2500.0), Some("pot".into()), Some(colour.into()));
            (b.sugar_pct, b.milk_pct, b.crust, b.glaze) = (Some(sugar), Some(3.0 * sugar), Some("crisp".into()), Some("egg".into()));
        })
    };
    let plain = bake(|b| (b.piece_g, b.vessel) = (Some(900.0), Some("pot".into())));
    assert!(ids(&pot("pale", 20.0)).contains(&"lid-on-longer") && !ids(&plain).contains(&"lid-on-longer"));
}
