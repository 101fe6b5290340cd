//! What a household adds to the shelf: read in recipes, held to the rules of the one it is like.

use cerealis_core::{
    Tables,
    formula::{FormulaBody, FormulaDraft, ScaleBody},
    kitchen::{EGGS, Kitchen, KitchenBody, MIXERS},
    pantry::{OwnIngredient, OwnPan, Shelf},
    reader::{Choices, read},
};

use crate::bench::tables;

fn mill() -> OwnIngredient {
    OwnIngredient {
        name: "Harbour mill strong".into(),
        also: vec!["bread flour".into()],
        like: "wheat-bread".into(),
        protein_pct: Some(13.5),
        source: "the bag".into(),
        ..OwnIngredient::default()
    }
}

fn with(shelf: Shelf) -> Tables {
    let (tables, refused) = tables().with(&shelf);
    assert!(refused.is_empty(), "{refused:?}");
    tables
}

fn with_mill() -> Tables {
    with(Shelf { ingredients: vec![(mill().id(), mill())], ..Shelf::default() })
}

#[test]
fn a_recipes_words_are_read_as_the_households_own_flour() {
    let t = with_mill();
    let r = read("500 g bread flour\n325 g water\n10 g salt\n5 g instant yeast", &Choices::default(), &[], &t).unwrap();
    assert_eq!(r.lines[0].ingredient.id, "own-harbour-mill-strong");
    let a = r.formula.analyse(&t.pantry, &t.styles);
    assert!((a.flour_g.likely - 500.0).abs() < 1e-9 && a.gluten_flour_pct > 99.0);
    assert!(a.hydration_adjusted_pct < a.effective_hydration_pct.likely, "it drinks more than a white bread flour");
    assert_eq!(read("500 g strong white flour", &Choices::default(), &[], &t).unwrap().lines[0].ingredient.id, "wheat-bread");
}

#[test]
fn the_rules_of_the_one_it_is_like_hold_for_it() {
    let rye = OwnIngredient { name: "Point rye".into(), like: "rye-medium".into(), ..OwnIngredient::default() };
    let t = with(Shelf { ingredients: vec![(rye.id(), rye)], ..Shelf::default() });
    let r = read("400 g point rye\n100 g bread flour\n380 g water\n10 g salt", &Choices::default(), &[], &t).unwrap();
    let a = r.formula.analyse(&t.pantry, &t.styles);
    assert!((a.rye_pct - 80.0).abs() < 1e-9, "{}", a.rye_pct);
    assert!(a.label().unwrap().holds.contains(&"gluten".to_owned()));
}

/// The white wheat rows of flours.csv (mill specifications, from memory; absorption common practice, no source).
#[test]
fn water_follows_protein_as_in_the_table_of_flours() {
    let rows = [(9.9, -3.5), (10.75, -2.0), (12.45, 0.0), (12.75, 1.0), (14.0, 3.0), (14.25, 3.0)];
    for (protein, points) in rows {
        let own = OwnIngredient { protein_pct: Some(protein), ..mill() };
        let t = with(Shelf { ingredients: vec![("own-x".into(), own)], ..Shelf::default() });
        let found = t.pantry.flour_kind("own-x").unwrap();
        assert!((found.absorption_points - points).abs() <= 1.5, "{protein} %: {} against {points}", found.absorption_points);
        assert_eq!(found.gas_class, if protein >= 11.7 { "strong-white" } else { "plain-white" });
    }
}

#[test]
fn starch_takes_up_what_the_household_tells_otherwise() {
    let own = mill().check(&tables().pantry).unwrap();
    let like = tables().pantry.get("wheat-bread").unwrap();
    let sum = |i: &cerealis_core::pantry::Ingredient| i.starch_fibre_pct + i.protein_pct + i.water_pct + i.fat_pct + i.sugars_pct;
    assert!((sum(&own) - sum(like)).abs() < 1e-9);
    assert!((own.starch_fibre_pct - (like.starch_fibre_pct - (13.5 - like.protein_pct))).abs() < 1e-9);
}

#[test]
fn what_no_ingredient_can_be_is_refused_at_its_field() {
    let pantry = &tables().pantry;
    let wrong =
        |own: OwnIngredient| own.check(pantry).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect::<Vec<_>>();
    assert_eq!(wrong(OwnIngredient { name: " ".into(), ..mill() }), ["/name"]);
    assert_eq!(wrong(OwnIngredient { name: "wheat bread".into(), ..mill() }), ["/name"], "the name of one that is there");
    assert_eq!(wrong(OwnIngredient { like: "moonstone".into(), ..mill() }), ["/like"]);
    assert_eq!(wrong(OwnIngredient { like: "moonstone".into(), protein_pct: Some(120.0), ..mill() }), ["/like", "/protein_pct"]);
    assert_eq!(wrong(OwnIngredient { protein_pct: Some(120.0), ..mill() }), ["/protein_pct"]);
    assert_eq!(wrong(OwnIngredient { water_pct: Some(60.0), fat_pct: Some(70.0), ..mill() }), ["/water_pct"], "more than there is");
    assert_eq!(wrong(OwnIngredient { cup_g: Some(0.0), ..mill() }), ["/cup_g"]);
    assert_eq!(wrong(OwnIngredient { absorption_points: Some(90.0), ..mill() }), ["/absorption_points"]);
    assert_eq!(
        wrong(OwnIngredient { like: "water".into(), protein_pct: None, absorption_points: Some(3.0), ..mill() }),
        ["/absorption_points"]
    );
}

#[test]
fn one_put_away_is_no_longer_read_but_stays_in_its_formulas() {
    let away = OwnIngredient { away: true, ..mill() };
    let t = with(Shelf { ingredients: vec![(away.id(), away)], ..Shelf::default() });
    let r = read("500 g bread flour", &Choices::default(), &[], &t).unwrap();
    assert_eq!(r.lines[0].ingredient.id, "wheat-bread");
    let body: FormulaBody = serde_json::from_str(r#"{"lines":[{"ingredient":"own-harbour-mill-strong","grams":500}]}"#).unwrap();
    assert!(FormulaDraft::from(body).check(&t.pantry).is_ok());
    assert!(t.pantry.offered().all(|i| i.id != "own-harbour-mill-strong"));
}

#[test]
fn a_dough_is_scaled_to_fill_an_own_pan() {
    let pan = OwnPan {
        name: "Grandmother's tin".into(),
        shape: "loaf".into(),
        length_cm: Some(24.0),
        width_cm: Some(10.0),
        height_cm: Some(6.0),
        ..OwnPan::default()
    };
    let t = with(Shelf { pans: vec![(pan.id(), pan)], ..Shelf::default() });
    let held = t.pantry.pan("own-grandmothers-tin").unwrap();
    assert!((held.volume_ml - 1440.0).abs() < 1e-9);
    let r = read("500 g flour\n320 g water\n10 g salt\n5 g yeast", &Choices::default(), &[], &t).unwrap();
    let a = r.formula.analyse(&t.pantry, &t.styles);
    let fill = ScaleBody { pan: Some(held.id.clone()), ..ScaleBody::default() }.check(&r.formula, &a, &t).unwrap();
    let scaled = r.formula.scaled(&fill, &a);
    let dough = scaled.analyse(&t.pantry, &t.styles).dough_g.likely;
    let (low, high) = (a.pan_fill(false).low * 1440.0, a.pan_fill(false).high * 1440.0);
    assert!((low..=high).contains(&dough), "{dough}");
    let round = OwnPan { name: "Round".into(), shape: "round".into(), length_cm: Some(20.0), height_cm: Some(5.0), ..OwnPan::default() };
    assert!((round.check(&t.pantry).unwrap().volume_ml - 1570.8).abs() < 0.1, "a cylinder");
    let nothing = OwnPan { name: "Nothing".into(), shape: "loaf".into(), ..OwnPan::default() };
    assert_eq!(nothing.check(&t.pantry).unwrap_err().0[0].pointer.as_str(), "/volume_ml");
}

#[test]
fn own_cup_egg_and_packet_are_what_a_recipe_is_weighed_by() {
    let t = with(Shelf { cup_ml: Some(300.0), ..Shelf::default() });
    let grams = |text: &str, c: &Choices| read(text, c, &[], &t).unwrap().lines[0].grams.unwrap();
    let own = Choices { cup: "own".into(), ..Choices::default() };
    assert!((grams("1 cup water", &own).likely / grams("1 cup water", &Choices::default()).likely - 300.0 / 236.588).abs() < 0.005);
    assert!(read("1 cup water", &own, &[], tables()).is_err(), "a kitchen that has told no cup has none");
    let eggs = Choices { egg: Some("uk-eu-l".into()), ..Choices::default() };
    assert!((grams("2 eggs", &eggs).likely - 120.0).abs() < 1e-9);
    assert!((grams("2 small eggs", &eggs).likely - 76.0).abs() < 1e-9, "a size that is told is that size");
    let packet = Choices { packet_g: Some(9.0), ..Choices::default() };
    assert!(grams("1 packet dry yeast", &packet).is_exact());
    assert!((grams("1 packet dry yeast", &packet).likely - 9.0).abs() < 1e-9);
}

#[test]
fn a_kitchen_keeps_what_is_not_told_and_refuses_what_no_kitchen_has() {
    let told = |json: &str| serde_json::from_str::<KitchenBody>(json).unwrap().over(Kitchen::default());
    let k = told(r#"{"tap_c":9,"places":{"room_c":18,"pantry_c":12,"fridge_c":5}}"#).unwrap();
    assert_eq!((k.tap_c, k.room_c, k.oven_light_c, k.mixer.as_str()), (9.0, 18.0, None, "hand"));
    assert_eq!(told(r#"{"packet_g":8}"#).unwrap().packet_g, Some(8.0));
    let wrong = |json: &str| told(json).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect::<Vec<_>>();
    assert_eq!(wrong(r#"{"cup":"own"}"#), ["/cup_ml"]);
    assert_eq!(wrong(r#"{"cup":"thimble","mixer":"spoon"}"#), ["/mixer", "/cup"]);
    assert_eq!(wrong(r#"{"egg":"ostrich","scale_step_g":0}"#), ["/egg", "/scale_step_g"]);
    assert_eq!(
        wrong(r#"{"places":{"room_c":99,"pantry_c":12,"fridge_c":5},"oven":{"offset_c":100}}"#),
        ["/places/room_c", "/oven/offset_c"]
    );
    let there = KitchenBody::from(&k).over(Kitchen::default()).unwrap();
    assert_eq!(there, k, "there and back");
}

#[test]
fn the_words_of_the_kitchen_are_those_of_the_tables() {
    let t = tables();
    let mut known: Vec<&str> = t.ferment.mixers.keys().map(String::as_str).collect();
    let mut ours = MIXERS.map(|m| m.0).to_vec();
    known.sort_unstable();
    ours.sort_unstable();
    assert_eq!(ours, known);
    let egg = t.pantry.get("egg-whole").unwrap();
    assert!(EGGS.iter().all(|(key, _)| egg.piece(key).is_some()));
}
