//! The crossing, the film, sizes, two breads in one oven, before and after. Facts of the trade: common practice, no source.

use cerealis_core::oven::{
    Agreement, Bake, BakeBody, Dial, Glaze, InLoads, SettingFinding, ShareAct, Sharing, SizeKind, Status, advise, after, agreement, before,
    cooling, crossing, done_sign, film, heaviest_within, in_loads, near, setting_limits, share, sizes,
};

use super::bench::tables;

fn bake(edit: impl Fn(&mut BakeBody)) -> Bake {
    let mut body = BakeBody { piece_g: Some(500.0), ..BakeBody::default() };
    edit(&mut body);
    body.check().unwrap()
}

/// A braided egg dough, two to a sheet.
fn plait() -> Bake {
    bake(|b| {
        (b.shape, b.glaze, b.pieces) = (Some("braid".into()), Some("egg".into()), Some(2.0));
        (b.sugar_pct, b.fat_pct, b.egg_pct, b.milk_pct, b.hydration_pct) = (Some(8.0), Some(8.0), Some(12.0), Some(30.0), Some(56.0));
    })
}

fn hearth() -> Bake {
    bake(|b| (b.piece_g, b.shape, b.vessel, b.hydration_pct) = (Some(900.0), Some("batard".into()), Some("stone".into()), Some(70.0)))
}

fn rolls() -> Bake {
    Bake { piece_g: 70.0, pieces: 12, ..plait() }
}

#[test]
fn the_crust_hurries_more_than_the_core_in_a_hotter_oven() {
    let k = &tables().oven;
    for b in [plait(), hearth(), rolls()] {
        let c = crossing(&b, k);
        let (low, high) = setting_limits(&b, k);
        assert!(c.rows.len() >= 6 && c.rows[0].set_c <= low - 10.0 && c.rows.last().unwrap().set_c >= high + 10.0);
        for pair in c.rows.windows(2) {
            let of = |x: Option<(f64, f64, f64)>| x.map_or(f64::INFINITY, |s| s.1);
            let (core, colour) = ((of(pair[0].core), of(pair[1].core)), (of(pair[0].colour), of(pair[1].colour)));
            assert!(core.1 <= core.0 + 1e-9 && colour.1 <= colour.0 + 1e-9, "{pair:?}");
            if core.0.is_finite() && colour.0.is_finite() {
                assert!(colour.0 / colour.1 > core.0 / core.1, "colour falls faster: {pair:?}");
            }
        }
        for row in &c.rows {
            for span in [row.core, row.colour].into_iter().flatten() {
                assert!(span.0 < span.1 && span.1 < span.2, "{row:?}");
            }
        }
    }
    // Where they meet both are done: the core's own minutes at that setting, the colour as wished.
    let (set_c, minutes) = crossing(&plait(), k).meet.expect("a plait meets");
    let a = advise(&Bake { set_c: Some(set_c), ..plait() }, k);
    assert!(
        (a.core_done_min.unwrap() / minutes - 1.0).abs() < 0.03 && (a.colour_min.unwrap() / minutes - 1.0).abs() < 0.05,
        "{set_c} {minutes}"
    );
}

#[test]
fn heat_comes_from_the_crust_inwards_and_the_film_ends_done() {
    let k = &tables().oven;
    for b in [plait(), hearth(), rolls()] {
        let a = advise(&b, k);
        let minutes = a.minutes.unwrap();
        let f = film(&b, a.set_c, minutes, 16, k);
        assert_eq!(f.frames.len(), 16);
        assert!((f.frames[15].min - minutes).abs() < 0.5 && f.frames[0].min == 0.0);
        for pair in f.frames.windows(2) {
            for (before, now) in pair[0].cooler_within.iter().zip(&pair[1].cooler_within) {
                assert!(now <= &(before + 1e-6), "what was warm stays warm: {pair:?}");
            }
        }
        for frame in &f.frames {
            assert!(frame.cooler_within.windows(2).all(|w| w[0] <= w[1] + 1e-9), "cooler lies inside warmer: {frame:?}");
            assert!(frame.cooler_within.iter().all(|s| (0.0..=1.0).contains(s)));
        }
        // The same run as the answer's: its core at the end is the film's.
        assert!((f.frames[15].core_c - a.core_c).abs() < 1.0, "{} against {}", f.frames[15].core_c, a.core_c);
        assert_eq!(f.frames[15].cooler_within[2], 0.0, "no raw dough is left");
    }
}

#[test]
fn the_same_dough_is_sooner_out_the_smaller_it_is() {
    let k = &tables().oven;
    let all = sizes(&plait(), 1130.0, k);
    assert_eq!(all.iter().map(|s| s.kind).collect::<Vec<_>>(), SizeKind::ALL);
    assert_eq!(all.iter().map(|s| s.pieces).collect::<Vec<_>>(), [16, 10, 2, 2, 2]);
    for s in &all {
        let dough = s.bake.piece_g * f64::from(s.pieces);
        assert!((dough - 1130.0).abs() < 1e-6, "all of the dough, no more: {dough}");
    }
    let minutes = |kind: SizeKind| all.iter().find(|s| s.kind == kind).unwrap().advice.minutes.unwrap();
    assert!(minutes(SizeKind::Rolls) < minutes(SizeKind::Buns) && minutes(SizeKind::Buns) < minutes(SizeKind::Plait));
    assert!(minutes(SizeKind::Plait) < minutes(SizeKind::Tin));
    // Rolls of sweet dough 12-20 min, a loaf of a pound 25-40.
    assert!((11.0..=21.0).contains(&minutes(SizeKind::Rolls)) && (24.0..=40.0).contains(&minutes(SizeKind::Tin)));
}

#[test]
fn in_the_time_one_has_a_piece_may_be_so_heavy() {
    let k = &tables().oven;
    let round = Bake { shape: cerealis_core::oven::Shape::Ball, pieces: 4, ..plait() };
    let (short, long) = (heaviest_within(&round, 20.0, k).unwrap(), heaviest_within(&round, 40.0, k).unwrap());
    assert!(short < long && short % 5.0 == 0.0, "{short} {long}");
    let out = |piece_g: f64| advise(&Bake { piece_g, ..round.clone() }, k).minutes_high.unwrap();
    assert!(out(long) <= 40.0 && out(1.1 * long) > 40.0);
    assert_eq!(heaviest_within(&round, 3.0, k), None, "nothing bakes in three minutes");
}

#[test]
fn rolls_and_a_plait_of_one_dough_go_in_together_and_a_hearth_loaf_goes_first() {
    let k = &tables().oven;
    let Sharing::Together { set_c, each } = share(&rolls(), &plait(), k) else { panic!("one dough, two sizes") };
    assert!(each.0.minutes.unwrap() < each.1.minutes.unwrap(), "the small ones are out first");
    assert!(each.0.status == Status::Together && each.1.status == Status::Together && set_c % 5.0 == 0.0);
    let Sharing::InTurn { second_first, each, between_min } = share(&plait(), &hearth(), k) else {
        panic!("one steamed and hot, one glazed and mild")
    };
    assert!(second_first, "the hotter first, then the oven falls");
    assert!(each.1.set_c - each.0.set_c >= 25.0 && (5.0..40.0).contains(&between_min), "{between_min}");
    // On one clock: lit, the loaf in and out, the oven falls, the plait in and out.
    let acts = share(&plait(), &hearth(), k).acts();
    let kinds: Vec<ShareAct> = acts.iter().map(|a| a.0).collect();
    assert_eq!(kinds, [ShareAct::Heat, ShareAct::Load(true), ShareAct::Out(true), ShareAct::Load(false), ShareAct::Out(false)]);
    assert!(acts[0].1 < 0.0 && acts[3].1 > each.1.minutes.unwrap() && acts.iter().all(|a| a.1 <= a.2), "{acts:?}");
    // Told the other way round it is the same.
    assert!(matches!(share(&hearth(), &plait(), k), Sharing::InTurn { second_first: false, .. }));
}

#[test]
fn later_loads_go_in_when_the_one_before_is_out_and_the_oven_is_back() {
    let k = &tables().oven;
    let InLoads { pieces, each, .. } = in_loads(&rolls(), 2, k).unwrap();
    assert_eq!((pieces, each.len(), each[0].0), (6, 2, 0.0));
    let minutes = advise(&Bake { pieces: 6, ..rolls() }, k).minutes.unwrap();
    assert!((each[1].0 - minutes - 10.0).abs() < 1e-9 && each[1].1 < each[1].2);
}

#[test]
fn many_rolls_are_counted_and_as_many_bake_as_go_in_at_once() {
    let many = sizes(&plait(), 7000.0, &tables().oven);
    assert_eq!((many[0].pieces, many[0].bake.pieces), (100, 60));
    assert!((many[0].bake.piece_g - 70.0).abs() < 1e-9, "not sixty bigger ones");
}

#[test]
fn a_dial_is_told_and_read_on_its_own_scale() {
    for (dial, c, told) in [
        (Dial::Celsius, 177.0, "175 °C"),
        (Dial::Fahrenheit, 190.0, "375 °F"),
        (Dial::Fahrenheit, 230.0, "445 °F"),
        (Dial::Gas, 190.0, "gas mark 5"),
        (Dial::Gas, 214.0, "gas mark 7"),
        (Dial::Gas, 112.0, "gas mark ¼"),
    ] {
        assert_eq!(dial.told(c), told);
    }
    let of = |dial: Dial, text: &str| dial.read(text).map(|r| (r.set_c.unwrap().round(), r.finding));
    assert_eq!(of(Dial::Celsius, "190"), Ok((190.0, None)));
    assert_eq!(of(Dial::Celsius, "400"), Ok((204.0, Some(SettingFinding::LooksLikeFahrenheit))));
    assert_eq!(of(Dial::Celsius, "375 F"), Ok((191.0, None)));
    assert_eq!(of(Dial::Celsius, "gas 5"), Ok((190.0, None)));
    assert_eq!(of(Dial::Celsius, "375 f fan"), Ok((191.0, None)));
    assert_eq!(of(Dial::Celsius, "fan 180"), Ok((180.0, None)));
    assert_eq!(of(Dial::Gas, "mark 7"), Ok((220.0, None)));
    assert_eq!(of(Dial::Gas, "½"), Ok((130.0, None)));
    assert_eq!(of(Dial::Gas, "200"), Ok((200.0, Some(SettingFinding::AssumedCelsius))));
    assert_eq!(of(Dial::Fahrenheit, "180"), Ok((180.0, Some(SettingFinding::LooksLikeCelsius))));
    assert_eq!(of(Dial::Fahrenheit, "190 °C"), Ok((190.0, None)));
    for (dial, wrong) in [
        (Dial::Celsius, "hot"),
        (Dial::Celsius, "-3"),
        (Dial::Celsius, "−190"),
        (Dial::Celsius, "20"),
        (Dial::Fahrenheit, "900"),
        (Dial::Gas, "gas 12"),
        (Dial::Celsius, ""),
    ] {
        assert!(dial.read(wrong).is_err(), "{wrong}");
    }
}

#[test]
fn what_is_done_before_and_after_has_its_caution() {
    let k = &tables().oven;
    let soda = before(&Bake { glaze: Glaze::Soda, ..plait() });
    let bath = soda.iter().find(|c| c.title == "Soda bath").unwrap();
    assert!(bath.caution.is_some_and(|c| c.contains("Lye is another thing")) && bath.words.contains("20–30 s a side"));
    assert!(!soda.iter().any(|c| c.words.to_lowercase().contains("lye")), "lye is never a step");
    assert!(before(&plait()).iter().any(|c| c.title.contains("two coats") && c.caution.is_some()));
    assert!(before(&hearth()).iter().any(|c| c.title == "Cuts"));
    let of = |b: &Bake| after(b, &advise(b, k));
    let words = |b: &Bake, title: &str| of(b).into_iter().find(|c| c.title == title).unwrap().words;
    assert!(words(&hearth(), "Keep").starts_with("1–2 days") && words(&plait(), "Keep").starts_with("3–4 days"));
    assert!(words(&hearth(), "Cool").contains("rack at once") && words(&plait(), "Cool").contains("under a cloth"));
    assert!(words(&rolls(), "Thaw").starts_with("1 h") && words(&plait(), "Thaw").starts_with("3–4 h"));
    let rye = Bake { rye_pct: 90.0, ..hearth() };
    assert!(words(&rye, "Slice").contains("12 h") && words(&rye, "Keep").starts_with("5–7 days"));
}

#[test]
fn a_loaf_cools_to_the_room_and_a_roll_sooner() {
    let k = &tables().oven;
    let at = |b: &Bake, c: f64| cooling(b, k).into_iter().find(|p| p.1 <= c).unwrap().0;
    let loaf = cooling(&hearth(), k);
    assert!(loaf.len() <= 121 && loaf.windows(2).all(|w| w[1].1 <= w[0].1 + 1e-9), "it only cools");
    assert!((60.0..=130.0).contains(&at(&hearth(), 35.0)), "a loaf cools in one to two hours");
    assert!((12.0..=35.0).contains(&at(&rolls(), 45.0)) && at(&rolls(), 45.0) < at(&hearth(), 45.0));
}

#[test]
fn habit_is_preferred_only_where_it_lies_beyond_the_range() {
    let k = &tables().oven;
    let mut seen = Vec::new();
    // Every bread of practice at its own setting, held against the nearest other one.
    for row in &k.practice {
        let (a, others) = (advise(&row.bake, k), near(&row.bake, row.bake.set_c.unwrap(), k));
        let said = agreement(&a, &others);
        if let (Some(n), Some(minutes), Some(low), Some(high)) = (others.first(), a.minutes, a.minutes_low, a.minutes_high) {
            let overlaps = n.minutes.0 <= high && n.minutes.1 >= low;
            let inside = minutes >= 0.85 * n.minutes.0 && minutes <= 1.15 * n.minutes.1;
            assert_eq!(said == Agreement::Beyond, !overlaps, "{}", row.id);
            assert_eq!(said == Agreement::Agrees, overlaps && inside, "{}", row.id);
        } else {
            assert_eq!(said, Agreement::Unknown, "{}", row.id);
        }
        seen.push(said);
    }
    let share = |what: Agreement| {
        f64::from(u32::try_from(seen.iter().filter(|s| **s == what).count()).unwrap()) / f64::from(u32::try_from(seen.len()).unwrap())
    };
    // As it is: most agree, a few stray, a handful lie beyond.
    assert!(
        share(Agreement::Agrees) > 0.75 && share(Agreement::Beyond) < 0.08,
        "{} {}",
        share(Agreement::Agrees),
        share(Agreement::Beyond)
    );
    assert!(share(Agreement::Strays) > 0.0);
}

#[test]
fn the_sign_of_done_fits_the_bread() {
    assert!(done_sign(&hearth()).contains("hollow knock") && done_sign(&plait()).contains("valleys"));
    assert!(done_sign(&Bake { rye_pct: 80.0, ..hearth() }).contains("knock deceives"));
    assert!(
        done_sign(&Bake { vessel: cerealis_core::oven::Vessel::PanMetal, shape: cerealis_core::oven::Shape::Pan, ..plait() })
            .contains("leave the tin")
    );
}
