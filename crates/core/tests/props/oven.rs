//! What holds for any bread in any oven: both clocks over settings, the film, the sizes, two breads, the oven's air, what
//! is typed of a dial.

use cerealis_core::oven::{
    Bake, BakeBody, Dial, ShareAct, Sharing, advise, after, air, before, boiling_c, cooling, crossing, film, heaviest_within, in_loads,
    share, sizes,
};
use proptest::prelude::*;

use super::{config, tables};

/// Any bread a household bakes, in an oven that may be off its dial.
fn bread() -> impl Strategy<Value = Bake> {
    let dough = (60.0..1200.0f64, 55.0..80.0f64, 0.0..18.0f64, 0.0..20.0f64, 4.0..28.0f64);
    let oven = (0.0..2000.0f64, -25.0..25.0f64, any::<bool>());
    let form = (
        prop::sample::select(vec!["ball", "batard", "baton", "braid", "pan"]),
        prop::sample::select(vec!["sheet", "stone", "pan-metal"]),
        prop::sample::select(vec!["none", "egg", "milk"]),
    );
    (dough, oven, form).prop_map(|((piece_g, water, sugar, fat, dough_c), (altitude, offset, fan), (shape, vessel, glaze))| {
        let body = BakeBody {
            piece_g: Some(piece_g),
            hydration_pct: Some(water),
            sugar_pct: Some(sugar),
            fat_pct: Some(fat),
            dough_c: Some(dough_c),
            altitude_m: Some(altitude),
            oven_offset_c: Some(offset),
            fan: Some(fan),
            shape: Some(shape.into()),
            vessel: Some(vessel.into()),
            glaze: Some(glaze.into()),
            ..BakeBody::default()
        };
        body.check().unwrap()
    })
}

proptest! {
    #![proptest_config(config(24))]

    /// A hotter oven does neither clock later, and each range holds its middle.
    #[test]
    fn core_and_crust_are_done_no_later_in_a_hotter_oven(bake in bread()) {
        let found = crossing(&bake, &tables().oven);
        prop_assert!(found.rows.len() >= 3 && found.rows.windows(2).all(|w| w[0].set_c < w[1].set_c));
        for row in &found.rows {
            for (low, likely, high) in row.core.iter().chain(&row.colour) {
                prop_assert!(low <= likely && likely <= high && *low > 0.0, "{row:?}");
            }
        }
        let later = |of: fn(&cerealis_core::oven::CrossRow) -> Option<(f64, f64, f64)>| {
            let minutes: Vec<f64> = found.rows.iter().map(|r| of(r).map_or(f64::INFINITY, |s| s.1)).collect();
            minutes.windows(2).all(|w| w[1] <= w[0] + 0.05)
        };
        prop_assert!(later(|r| r.core), "{:?}", found.rows);
        prop_assert!(later(|r| r.colour), "{:?}", found.rows);
        if let Some((set_c, minutes)) = found.meet {
            let ends = (found.rows[0].set_c, found.rows[found.rows.len() - 1].set_c);
            prop_assert!((ends.0..=ends.1).contains(&set_c) && minutes > 0.0);
        }
    }

    /// Heat comes from outside: the middle is the coolest, and each warmth only ever comes nearer to it.
    #[test]
    fn warmth_only_comes_inwards(bake in bread()) {
        let k = &tables().oven;
        let a = advise(&bake, k);
        let Some(minutes) = a.minutes else { return Ok(()) };
        let seen = film(&bake, a.set_c, minutes, 12, k);
        prop_assert!(seen.frames.len() >= 12);
        for pair in seen.frames.windows(2) {
            prop_assert!(pair[1].min > pair[0].min);
            for (before, after) in pair[0].cooler_within.iter().zip(&pair[1].cooler_within) {
                prop_assert!((0.0..=1.0).contains(after) && after <= &(before + 0.02), "{before} {after}");
            }
        }
        for frame in &seen.frames {
            prop_assert!(frame.surface_c >= frame.core_c - 0.5, "{frame:?}");
            prop_assert!(frame.cooler_within.windows(2).all(|w| w[0] <= w[1] + 1e-9), "the hotter the nearer to the crust: {frame:?}");
            prop_assert!(frame.core_c <= boiling_c(bake.altitude_m) + 0.5);
        }
        let last = seen.frames.last().unwrap();
        prop_assert!((last.core_c - a.core_target_c).abs() < 3.0 || last.core_c > a.core_target_c, "{} for {}", last.core_c, a.core_target_c);
    }

    /// Every size of a dough is whole pieces that together weigh no more than it, and the small ones are out first.
    #[test]
    fn a_dough_is_divided_into_whole_pieces(bake in bread(), dough_g in 300.0..2500.0f64) {
        for s in sizes(&bake, dough_g, &tables().oven) {
            prop_assert!(s.pieces >= 1 && f64::from(s.pieces) * s.bake.piece_g <= dough_g * 1.001, "{} × {}", s.pieces, s.bake.piece_g);
            prop_assert!(s.bake.pieces <= s.pieces, "no more in the oven than there are");
        }
    }

    /// The heaviest piece for a time is done in it, and more time allows no lighter one.
    #[test]
    fn more_time_bakes_a_heavier_piece(bake in bread(), minutes in 20.0..50.0f64) {
        let k = &tables().oven;
        let within = |m: f64| heaviest_within(&bake, m, k);
        let Some(grams) = within(minutes) else { return Ok(()) };
        let late = advise(&Bake { piece_g: grams, ..bake.clone() }, k).minutes_high;
        prop_assert!(late.is_some_and(|l| l <= minutes + 0.5), "{late:?} in {minutes}");
        prop_assert!(within(minutes + 10.0).is_some_and(|more| more >= grams - 1.0));
    }

    /// Two breads are told the same whichever is named first, and nothing comes out before it went in.
    #[test]
    fn two_breads_share_an_oven_whichever_is_named_first(one in bread(), other in bread()) {
        let k = &tables().oven;
        let (there, back) = (share(&one, &other, k), share(&other, &one, k));
        match (&there, &back) {
            (Sharing::Together { set_c: a, .. }, Sharing::Together { set_c: b, .. }) => prop_assert_eq!(a, b),
            (Sharing::InTurn { second_first: a, each, between_min: m }, Sharing::InTurn { second_first: b, between_min: n, .. }) => {
                prop_assert!(a != b || each.0.set_c.total_cmp(&each.1.set_c).is_eq(), "{a} {b}");
                prop_assert!((m - n).abs() < 1e-9 && *m >= 5.0);
            }
            _ => prop_assert!(false, "once together, once in turn"),
        }
        let acts = there.acts();
        prop_assert!(acts.windows(2).all(|w| w[0].1 <= w[1].1) && acts.iter().all(|a| a.1 <= a.2));
        for second in [false, true] {
            let out = acts.iter().find(|a| a.0 == ShareAct::Out(second));
            let load = acts.iter().find(|a| a.0 == ShareAct::Load(second) || a.0 == ShareAct::LoadBoth);
            if let (Some(out), Some(load)) = (out, load) {
                prop_assert!(load.1 < out.1);
            }
        }
    }

    /// Loads follow each other and hold all pieces.
    #[test]
    fn loads_follow_each_other(bake in bread(), pieces in 1u32..24, loads in 1u32..4) {
        let bake = Bake { pieces, ..bake };
        let Some(found) = in_loads(&bake, loads, &tables().oven) else { return Ok(()) };
        prop_assert!(found.pieces * loads >= pieces && found.each.len() == loads as usize);
        for pair in found.each.windows(2) {
            prop_assert!(pair[1].0 > pair[0].1, "the next goes in when the one before is out: {:?}", found.each);
        }
    }

    /// The oven's air is never hotter than it is set, is hot when the bread goes in, and falls as the door is opened.
    #[test]
    fn the_air_is_hot_when_the_bread_goes_in(bake in bread()) {
        let k = &tables().oven;
        let a = advise(&bake, k);
        let line = air(&bake, &a, k);
        let held = a.set_c + bake.oven_offset_c.unwrap_or(0.0);
        prop_assert!(line.windows(2).all(|w| w[1].0 >= w[0].0));
        prop_assert!(line.iter().all(|p| p.1 <= held + 1.0), "{held} {line:?}");
        let at = |wanted: f64| line.iter().rfind(|p| p.0 <= wanted).map(|p| p.1);
        if let Some(loaded) = at(-0.01) {
            prop_assert!(loaded > held - 15.0, "{loaded} for {held}");
            let lowest = line.iter().filter(|p| p.0 >= 0.0).map(|p| p.1).fold(f64::INFINITY, f64::min);
            prop_assert!(lowest < loaded);
        }
    }

    /// A loaf only cools, and not below its room.
    #[test]
    fn a_loaf_only_cools(bake in bread()) {
        let line = cooling(&bake, &tables().oven);
        prop_assert!(line.windows(2).all(|w| w[1].0 > w[0].0 && w[1].1 <= w[0].1 + 0.3), "{line:?}");
        prop_assert!(line.iter().all(|p| p.1 >= bake.room_c - 0.5));
    }

    /// What is done before and after is told in words, and raw egg has its caution.
    #[test]
    fn what_is_done_with_a_bread_is_told_with_its_cautions(bake in bread()) {
        let a = advise(&bake, &tables().oven);
        let (first, then) = (before(&bake), after(&bake, &a));
        for care in first.iter().chain(&then) {
            prop_assert!(!care.title.is_empty() && care.words.len() > 20, "{care:?}");
            prop_assert!(!care.words.contains("NaN") && !care.words.contains("inf"), "{care:?}");
        }
        let egg = bake.glaze == cerealis_core::oven::Glaze::Egg;
        prop_assert_eq!(egg, first.iter().any(|c| c.caution.is_some_and(|c| c.starts_with("Raw egg"))));
        prop_assert!(then.iter().any(|c| c.title == "Slice") && then.iter().any(|c| c.title == "Keep"));
    }

    /// Whatever is typed of a dial is read or answered in a sentence, and what is read is a setting for bread.
    #[test]
    fn whatever_is_typed_of_a_dial_is_answered(text in any::<String>(), figure in -50.0..900.0f64, dial in prop::sample::select(Dial::ALL.to_vec())) {
        for typed in [text, format!("{figure:.0}"), format!("{figure:.0} F"), format!("gas {figure:.0}"), format!("fan {figure:.1} C")] {
            match dial.read(&typed) {
                Ok(read) => prop_assert!(read.set_c.is_none_or(|c| (100.0..=320.0).contains(&c)), "{typed}: {read:?}"),
                Err(words) => prop_assert!(words.ends_with('.') && words.len() > 15, "{typed}: {words}"),
            }
        }
    }
}
