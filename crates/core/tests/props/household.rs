//! What must hold for any kitchen, any own ingredient, any dough divided or dosed.

use cerealis_core::{
    formula::{
        AmountBody, Analysis, Formula, FormulaDraft, HoldBody, Keep, OvenTold, Pieces, PiecesBody, ScaleBody, dilution, dose_for,
        side_by_side,
    },
    kitchen::{HouseOven, Kitchen, KitchenBody},
    pantry::{OwnIngredient, Pantry, Shelf},
    plan::{fed::Fed, findings},
    reader::{Choices, read},
};
use proptest::prelude::*;

use super::{any_formula, config, tables};

/// Dough for each gram of flour.
fn told_per_flour(a: &Analysis<'_>) -> f64 {
    a.dough_g.likely / a.flour_g.likely
}

proptest! {
    #![proptest_config(config(96))]

    /// An own ingredient is as heavy as the sum of its parts, and what is refused names its field.
    #[test]
    fn an_own_ingredient_is_whole_or_refused(like in 0usize..200, protein in -5.0..120.0f64, water in prop::option::of(-5.0..120.0f64), cup in prop::option::of(-10.0..2000.0f64)) {
        let pantry = &tables().pantry;
        let like = &pantry.all()[like % pantry.all().len()];
        let own = OwnIngredient { name: "Skerry find".into(), like: like.id.clone(), protein_pct: Some(protein), water_pct: water, cup_g: cup, ..OwnIngredient::default() };
        match own.check(pantry) {
            Ok(row) => {
                prop_assert_eq!(row.check(), Ok(()));
                prop_assert!(Pantry::is_own(&row) && row.kind == like.id && row.starch_fibre_pct >= 0.0);
                let (with, refused) = tables().with(&Shelf { ingredients: vec![(own.id(), own)], ..Shelf::default() });
                prop_assert!(refused.is_empty() && with.pantry.find("skerry find").is_ok());
            }
            Err(e) => prop_assert!(e.0.iter().all(|e| ["/protein_pct", "/water_pct", "/cup_g"].contains(&e.pointer.as_str())), "{:?}", e),
        }
    }

    /// A kitchen told over itself is itself, and nothing out of range gets in.
    #[test]
    fn a_kitchen_told_again_is_the_same(room in -40.0..90.0f64, tap in -40.0..90.0f64, step in -1.0..20.0f64, hot in prop::option::of(-10.0..90.0f64)) {
        let k = Kitchen { room_c: room, tap_c: tap, scale_step_g: step, oven: HouseOven { hot_k: hot, ..HouseOven::default() }, ..Kitchen::default() };
        let sound = (-20.0..=60.0).contains(&room) && (-20.0..=60.0).contains(&tap) && (0.01..=10.0).contains(&step) && hot.is_none_or(|h| (0.0..=60.0).contains(&h));
        let told = KitchenBody::from(&k).over(Kitchen::default());
        prop_assert_eq!(told.is_ok(), sound);
        if let Ok(again) = told {
            prop_assert_eq!(again, k);
        }
    }

    /// Whatever a recipe sets, on whatever dial it is turned: the heat is the one it means, to half a step of the dial.
    #[test]
    fn a_dial_gives_the_heat_the_recipe_means(told in 120.0..290.0f64, offset in prop::option::of(-40.0..40.0f64), fans in (any::<bool>(), any::<bool>())) {
        let oven = HouseOven { offset_c: offset, fan: fans.1, ..HouseOven::default() };
        let recipe = OvenTold { set_c: Some(told), fan: fans.0, ..OvenTold::default() };
        let dial = recipe.on_dial(&oven).unwrap();
        let heat = |set: f64, fan: bool| set + if fan { 20.0 } else { 0.0 };
        prop_assert!((heat(dial + offset.unwrap_or(0.0), fans.1) - heat(told, fans.0)).abs() <= 2.5 + 1e-9, "{dial}");
        prop_assert_eq!(dial % 5.0, 0.0);
    }

    /// Whatever is weighed of a dilution holds the yeast to a tenth, on steps the scale can show.
    #[test]
    fn a_dilution_holds_the_yeast_it_stands_for(grams in 0.001..20.0f64, step in prop::sample::select(vec![0.1, 0.5, 1.0, 2.0])) {
        match dilution(grams, step) {
            None => prop_assert!(grams >= 5.0 * step || grams < 5.0 * step * (5.0 * step).max(1.0) / 1000.0 + 1e-9),
            Some(d) => {
                let held = d.take_g * d.yeast_g / (d.yeast_g + d.water_g);
                prop_assert!((held / grams - 1.0).abs() <= 0.101, "{} of {}", held, grams);
                prop_assert!(d.take_g >= 5.0 * step - 1e-9 && d.take_g <= d.yeast_g + d.water_g + 1e-9 && d.water_g > 0.0);
            }
        }
    }

    /// Breads divided from one dough come back from their wire form, and scale with it.
    #[test]
    fn divided_and_held_back_survive_and_scale(formula in any_formula(), count in 1u32..20, each in 20.0..400.0f64, strands in prop::sample::select(vec![2.0, 3.0, 4.0, 6.0]), held in 1.0..90.0f64) {
        let t = tables();
        let mut draft = FormulaDraft::from(formula.body());
        let piece = |strands| PiecesBody { piece_g: Some(each), strands, ..PiecesBody::of(f64::from(count)) };
        draft.pieces = Some(piece(Some(strands)));
        draft.further = vec![piece(None)];
        draft.hold = Some(HoldBody { ingredient: "wheat-bread".into(), grams: held });
        let f = draft.check(&t.pantry).unwrap();
        prop_assert_eq!(&FormulaDraft::from(f.body()).check(&t.pantry).unwrap(), &f);
        let told = f.told_g().unwrap();
        prop_assert!((told - 2.0 * f64::from(count) * each).abs() < 1e-6);
        let strand = f.pieces.as_ref().unwrap().strand(each).unwrap();
        prop_assert!((strand.grams * strands - each).abs() < 1e-9 && strand.length_cm * 10.0 > strand.thick_mm);
        let a = f.analyse(&t.pantry, &t.styles);
        let double = ScaleBody { dough_g: Some(2.0 * a.dough_g.likely), ..ScaleBody::default() };
        prop_assume!(2.0 * a.dough_g.likely <= 200_000.0);
        let big = f.scaled(&double.check(&f, &a, t).unwrap(), &a);
        prop_assert!((big.told_g().unwrap() - 2.0 * told).abs() < 1e-6);
        prop_assert!((big.held().unwrap().1 - 2.0 * held).abs() < 1e-9);
        let all = f.went_in(held).analyse(&t.pantry, &t.styles).flour_g.likely;
        prop_assert!((all - a.flour_g.likely).abs() < 1e-6, "all of it went in: nothing changed");
    }

    /// Whatever the sentence of the amount says: what comes of it can be kept as it is, holds what is kept, its pieces, what is
    /// left and what is short make up its dough; and what is offered instead of flour that is short is short of nothing.
    #[test]
    fn an_amount_adds_up_or_is_refused(
        formula in any_formula(),
        keep in prop::sample::select(&Keep::ALL[..3]),
        (count, pieces) in (1u32..40, prop::option::of(1.0..60.0f64)),
        piece_g in prop::option::of(5.0..2000.0f64),
        (flour_g, dough_g) in (prop::option::of(50.0..5000.0f64), prop::option::of(50.0..9000.0f64)),
        further in prop::option::of(20.0..60.0f64),
    ) {
        let t = tables();
        let formula = Formula { pieces: Some(Pieces::of(count)), further: further.map(|g| Pieces { piece_g: Some(g), ..Pieces::of(2) }).into_iter().collect(), ..formula };
        let a = formula.analyse(&t.pantry, &t.styles);
        prop_assume!(a.dough_g.likely > 200.0 && a.piece_g() >= 1.0);
        let body = AmountBody { count: pieces.map(f64::floor), piece_g, flour_g, dough_g, ..AmountBody::keeping(keep) };
        let Ok(amount) = body.of(&formula, &a, t) else { return Ok(()) };
        let b = amount.formula.analyse(&t.pantry, &t.styles);
        match keep {
            Keep::Flour => prop_assert!(flour_g.is_none_or(|g| (b.flour_g.likely / g - 1.0).abs() < 1e-9)),
            Keep::Dough => prop_assert!(dough_g.is_none_or(|g| (b.dough_g.likely / g - 1.0).abs() < 1e-9)),
            _ => prop_assert!(piece_g.is_none_or(|g| (b.piece_g() / g - 1.0).abs() < 1e-9)),
        }
        prop_assert!((b.hydration_pct.likely - a.hydration_pct.likely).abs() < 1e-7, "percentages stay");
        if let Some(told) = amount.formula.told_g() {
            let lacks = if keep == Keep::Pieces { 0.0 } else { amount.short.map_or(0.0, |s| s.missing_g() * told_per_flour(&b)) };
            prop_assert!((told + amount.over_g - lacks - b.dough_g.likely).abs() < 0.51, "{told} {} {lacks} {}", amount.over_g, b.dough_g.likely);
        }
        if let Some(short) = amount.short {
            prop_assert!(short.missing_g() > 0.0);
            for other in std::iter::once(body.smaller(&short)).chain(body.fewer(&short)) {
                match other.of(&formula, &a, t) {
                    Ok(made) => prop_assert!(made.short.is_none(), "{other:?} {:?}", made.short),
                    Err(e) => prop_assert!(e.0.iter().all(|e| e.pointer.as_str() == "/flour_g" || e.pointer.as_str() == "/piece_g")),
                }
            }
        }
        let draft = FormulaDraft::from(amount.formula.body());
        if let Ok(again) = draft.check(&t.pantry) {
            prop_assert_eq!(again, amount.formula);
        }
    }

    /// A formula beside itself, and beside itself made bigger, differs in no line.
    #[test]
    fn side_by_side_only_shares_count(formula in any_formula(), factor in 0.2..5.0f64) {
        let t = tables();
        let a = formula.analyse(&t.pantry, &t.styles);
        let scale = ScaleBody { flour_g: Some(a.flour_g.likely * factor), ..ScaleBody::default() }.check(&formula, &a, t).unwrap();
        let big = formula.scaled(&scale, &a);
        let table = side_by_side(&[formula.analyse(&t.pantry, &t.styles), big.analyse(&t.pantry, &t.styles)]);
        prop_assert!(table.lines.iter().all(|l| !l.3 && l.2.len() == 2 && l.2.iter().all(Option::is_some)));
    }
}

proptest! {
    #![proptest_config(config(24))]

    /// More hours or more warmth never want more yeast, and the models never panic at what a recipe says.
    #[test]
    fn more_hours_and_more_warmth_want_less(hours in 3.0..14.0f64, more in 0.3..4.0f64, place_c in 16.0..26.0f64, warmer in 0.5..4.0f64) {
        let t = tables();
        let text = "500 g bread flour\n335 g water\n10 g salt\n3 g instant yeast\n\nLet rise 3 hours.\nShape into a loaf.\nProve 20 minutes.\nBake at 220 C for 12 minutes.";
        let r = read(text, &Choices::default(), &[], t).unwrap();
        let a = r.formula.analyse(&t.pantry, &t.styles);
        let dose = |h: f64, c: f64| dose_for(&a, h, 24.0, c, t).ok();
        if let (Some(base), Some(later)) = (dose(hours, place_c), dose(hours + more, place_c)) {
            prop_assert!(later <= base * 1.001, "{} h {} and {} more {}", hours, base, more, later);
        }
        if let (Some(base), Some(warm)) = (dose(hours, place_c), dose(hours, place_c + warmer)) {
            prop_assert!(warm <= base * 1.001);
        }
        let kitchen = Kitchen { room_c: place_c, ..Kitchen::default() };
        let found = findings::of_recipe(Some(&r), &a, &kitchen, t);
        prop_assert!(found.iter().all(|f| f.step.is_none_or(|s| s < r.steps.len()) && !f.why.is_empty() && !f.source.is_empty()));
        let fed = Fed { hours, parts: more, place_c };
        prop_assert!(fed.check().is_ok());
    }
}
