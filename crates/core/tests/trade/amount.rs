//! How much of it: what is told is kept, the rest follows, and what is short is told. Arithmetic, and common practice, no source.

use cerealis_core::{
    formula::{Amount, AmountBody, Formula, Keep, Pieces, oven_of},
    input::InputErrors,
    oven::{Shape, Vessel},
};

use super::bench::{LEAN, formula, near, places, tables};

fn of(f: &Formula, body: &AmountBody) -> Result<Amount, InputErrors> {
    body.of(f, &f.analyse(&tables().pantry, &tables().styles), tables())
}

/// 853 g of dough on 500 g of flour in two loaves.
fn loaves() -> Formula {
    Formula { pieces: Some(Pieces { piece_g: Some(426.5), ..Pieces::of(2) }), ..formula(LEAN) }
}

fn flour(f: &Formula) -> f64 {
    f.analyse(&tables().pantry, &tables().styles).flour_g.likely
}

fn pieces(f: &Formula) -> (u32, f64) {
    let p = f.pieces.as_ref().unwrap();
    (p.count, p.piece_g.unwrap())
}

#[test]
fn the_pieces_are_kept_and_the_flour_follows() {
    let a = of(&loaves(), &AmountBody { piece_g: Some(450.0), ..AmountBody::keeping(Keep::Pieces) }).unwrap();
    assert_eq!((pieces(&a.formula), a.short), ((2, 450.0), None));
    assert!(near(flour(&a.formula), 500.0 * 900.0 / 853.0, 1e-9));
}

#[test]
fn the_dough_is_kept_and_divided_otherwise() {
    let four = of(&loaves(), &AmountBody { count: Some(4.0), ..AmountBody::keeping(Keep::Dough) }).unwrap();
    assert!(near(pieces(&four.formula).1, 853.0 / 4.0, 1e-9) && near(flour(&four.formula), 500.0, 1e-9));
    // Rolls of 75 g: eleven, and a lump left over.
    let rolls = of(&loaves(), &AmountBody { piece_g: Some(75.0), ..AmountBody::keeping(Keep::Dough) }).unwrap();
    assert_eq!(pieces(&rolls.formula), (11, 75.0));
    assert!(near(rolls.over_g, 28.0, 1e-9) && rolls.short.is_none());
    // What does not do for one is short, not none.
    let great = of(&loaves(), &AmountBody { piece_g: Some(1000.0), ..AmountBody::keeping(Keep::Dough) }).unwrap();
    let short = great.short.unwrap();
    assert!(pieces(&great.formula).0 == 1 && short.fewer().is_none() && near(short.missing_g(), 147.0 * 500.0 / 853.0, 1e-9));
}

/// Twice the flour is twice the rolls, or rolls twice as heavy: both are offered.
#[test]
fn twice_the_flour_may_be_twice_the_rolls() {
    let body = AmountBody { flour_g: Some(1000.0), ..AmountBody::keeping(Keep::Flour) };
    let a = of(&loaves(), &body).unwrap();
    assert_eq!((pieces(&a.formula), a.alike), ((2, 853.0), Some((4, 426.5))));
    let more = of(&loaves(), &body.as_heavy(a.alike.unwrap())).unwrap();
    assert!(pieces(&more.formula) == (4, 426.5) && more.alike.is_none() && more.short.is_none());
}

/// Two loaves of 450 g want 527.5 g of flour; there are 500.
#[test]
fn flour_that_is_short_is_told_whichever_is_kept() {
    let wish = |keep| AmountBody { count: Some(2.0), piece_g: Some(450.0), flour_g: Some(500.0), ..AmountBody::keeping(keep) };
    for keep in [Keep::Pieces, Keep::Flour] {
        let short = of(&loaves(), &wish(keep)).unwrap().short.unwrap();
        assert!(near(short.wants_g, 500.0 * 900.0 / 853.0, 1e-9) && near(short.has_g, 500.0, 1e-9), "{keep:?} {short:?}");
        assert!(near(short.smaller_g(), 426.5, 1e-9), "{keep:?} {short:?}");
        let (n, over) = short.fewer().unwrap();
        assert!(near(n, 1.0, 1e-9) && near(over, 403.0, 1e-9), "{keep:?}");
        let smaller = of(&loaves(), &wish(keep).smaller(&short)).unwrap();
        assert!(smaller.short.is_none() && near(pieces(&smaller.formula).1, 426.5, 1e-9) && near(flour(&smaller.formula), 500.0, 1e-9));
        let fewer = of(&loaves(), &wish(keep).fewer(&short).unwrap()).unwrap();
        assert!(fewer.short.is_none() && pieces(&fewer.formula) == (1, 450.0) && near(fewer.over_g, 403.0, 1e-9));
    }
    let enough = AmountBody { flour_g: Some(528.0), ..wish(Keep::Pieces) };
    assert_eq!(of(&loaves(), &enough).unwrap().short, None);
}

#[test]
fn shape_weave_and_tin_change_no_weight() {
    let one = Formula { pieces: Some(Pieces { piece_g: Some(600.0), ..Pieces::of(1) }), ..formula(LEAN) };
    let wish = AmountBody { shape: Some("braid".into()), strands: Some(4.0), ..AmountBody::keeping(Keep::Pieces) };
    let woven = of(&one, &wish).unwrap().formula;
    assert_eq!(woven.lines, one.lines);
    assert_eq!((pieces(&woven), woven.pieces.as_ref().unwrap().strands), ((1, 600.0), Some(4)));
    let tin = of(&one, &AmountBody { pan: Some("loaf-uk-2lb".into()), ..AmountBody::keeping(Keep::Pieces) }).unwrap().formula;
    let told = tin.pieces.as_ref().unwrap();
    assert_eq!((told.shape, told.vessel, tin.lines.clone()), (Some(Shape::Pan), Some(Vessel::PanMetal), one.lines.clone()));
    // Out of the tin again: it stands on its own.
    let out = of(&tin, &AmountBody { pan: Some(String::new()), ..AmountBody::keeping(Keep::Pieces) }).unwrap().formula;
    assert_eq!(out.pieces, one.pieces);
}

#[test]
fn a_tin_is_filled_and_twelve_cups_are_one_tin() {
    let fill = |pan: &str, n| AmountBody { pan: Some(pan.into()), count: Some(n), ..AmountBody::keeping(Keep::Tin) };
    let two = of(&loaves(), &fill("loaf-uk-2lb", 2.0)).unwrap().formula;
    assert_eq!(pieces(&two), (2, 921.0), "as the table of pans fills them");
    let cups = of(&loaves(), &fill("muffin-us-24-mini", 24.0)).unwrap().formula;
    assert_eq!(pieces(&cups).0, 24);
    let none = of(&loaves(), &AmountBody::keeping(Keep::Tin)).unwrap_err();
    assert_eq!(places(&none), ["/pan"]);
}

#[test]
fn what_cannot_be_is_refused_at_its_field() {
    for (body, place) in [
        (AmountBody { count: Some(1.5), ..AmountBody::keeping(Keep::Pieces) }, "/count"),
        (AmountBody { count: Some(501.0), ..AmountBody::keeping(Keep::Dough) }, "/count"),
        (AmountBody { piece_g: Some(0.0), ..AmountBody::keeping(Keep::Dough) }, "/piece_g"),
        (AmountBody { piece_g: Some(f64::NAN), ..AmountBody::keeping(Keep::Flour) }, "/piece_g"),
        (AmountBody { flour_g: Some(-1.0), ..AmountBody::keeping(Keep::Pieces) }, "/flour_g"),
        (AmountBody { count: Some(2.0), ..AmountBody::keeping(Keep::Ripe) }, "/ripe_h"),
        (AmountBody { count: Some(2.0), ..AmountBody::keeping(Keep::Ingredient) }, "/grams"),
        (AmountBody { strands: Some(5.0), ..AmountBody::keeping(Keep::Pieces) }, "/strands"),
        (AmountBody { shape: Some("cloud".into()), ..AmountBody::keeping(Keep::Pieces) }, "/shape"),
        (AmountBody { pan: Some("bucket".into()), ..AmountBody::keeping(Keep::Pieces) }, "/pan"),
    ] {
        let e = of(&loaves(), &body).unwrap_err();
        assert_eq!(places(&e), [place], "{body:?}");
    }
}

/// A braid of four is understood by the oven and by the words at the bench, with or without the word braid.
#[test]
fn strands_are_a_braid_to_the_oven_too() {
    let woven =
        |shape| Formula { pieces: Some(Pieces { strands: Some(4), piece_g: Some(783.0), shape, ..Pieces::of(1) }), ..formula(LEAN) };
    for shape in [None, Some(Shape::Ball), Some(Shape::Batard), Some(Shape::Braid)] {
        let f = woven(shape);
        let bake = oven_of(&f.analyse(&tables().pantry, &tables().styles), &tables().pantry);
        assert_eq!(bake.shape, Shape::Braid, "{shape:?}");
    }
    let ring = woven(Some(Shape::Ring));
    assert_eq!(oven_of(&ring.analyse(&tables().pantry, &tables().styles), &tables().pantry).shape, Shape::Ring);
    let words = |g| cerealis_core::measure::plain(&ring.pieces.as_ref().unwrap().woven(g).unwrap()).into_owned();
    assert!(words(784.0).starts_with("4 strands of 196 g, rolled ") && !words(784.0).contains("what is left"), "{}", words(784.0));
    assert!(words(783.0).ends_with("; the last takes what is left"), "{}", words(783.0));
}

/// Further breads take their share: rolls from what a braid leaves, and less flour makes both smaller.
#[test]
fn further_breads_take_their_share() {
    let mut f = loaves();
    f.further = vec![Pieces { piece_g: Some(70.0), ..Pieces::of(6) }];
    let more = of(&f, &AmountBody { piece_g: Some(450.0), ..AmountBody::keeping(Keep::Pieces) }).unwrap();
    let dough = more.formula.analyse(&tables().pantry, &tables().styles).dough_g.likely;
    assert!(near(dough, 900.0 + 420.0, 1e-9) && more.formula.further == f.further, "{dough}");
    let half = of(&f, &AmountBody { dough_g: Some(426.5), ..AmountBody::keeping(Keep::Dough) }).unwrap();
    assert!(near(half.formula.further[0].piece_g.unwrap(), 35.0, 1e-9));
    let limit = AmountBody { flour_g: Some(500.0), ..AmountBody { piece_g: Some(450.0), ..AmountBody::keeping(Keep::Pieces) } };
    let short = of(&f, &limit).unwrap().short.unwrap();
    let smaller = of(&f, &limit.smaller(&short)).unwrap();
    assert!(smaller.short.is_none() && near(smaller.formula.told_g().unwrap(), 853.0, 1e-6), "{:?}", smaller.formula.told_g());
}

/// Eggs, one ingredient and the hours of the rise are kept as they are told.
#[test]
fn eggs_an_ingredient_and_hours_are_kept() {
    let rich = formula(&[("wheat-bread", 500.0), ("water", 200.0), ("egg-whole", 90.0), ("salt-fine", 10.0), ("yeast-instant", 5.0)]);
    let line = |f: &Formula, id: &str| f.lines.iter().find(|l| l.ingredient.id == id).unwrap().grams.likely;
    let eggs = of(&rich, &AmountBody { eggs: Some(3.0), egg_g: Some(50.0), ..AmountBody::keeping(Keep::Eggs) }).unwrap().formula;
    assert!(near(line(&eggs, "egg-whole"), 150.0, 1e-9) && near(line(&eggs, "wheat-bread"), 500.0 * 150.0 / 90.0, 1e-6));
    let salt = AmountBody { ingredient: Some("salt-fine".into()), grams: Some(20.0), ..AmountBody::keeping(Keep::Ingredient) };
    assert!(near(line(&of(&rich, &salt).unwrap().formula, "water"), 400.0, 1e-9));
    let slow = AmountBody { ripe_h: Some(10.0), place_c: Some(20.0), count: Some(4.0), ..AmountBody::keeping(Keep::Ripe) };
    let slow = of(&loaves(), &slow).unwrap().formula;
    assert!(line(&slow, "yeast-instant") < 3.0 && near(line(&slow, "wheat-bread"), 500.0, 1e-9));
    assert_eq!(slow.pieces.as_ref().unwrap().count, 4);
}

/// There and back, by whatever is kept, is the same dough to the last digit that a scale could show.
#[test]
fn there_and_back_through_the_sentence_is_the_same() {
    let f = loaves();
    for there in [
        AmountBody { flour_g: Some(777.0), ..AmountBody::keeping(Keep::Flour) },
        AmountBody { dough_g: Some(1234.5), ..AmountBody::keeping(Keep::Dough) },
        AmountBody { count: Some(7.0), piece_g: Some(91.0), ..AmountBody::keeping(Keep::Pieces) },
        AmountBody { ingredient: Some("salt-fine".into()), grams: Some(3.3), ..AmountBody::keeping(Keep::Ingredient) },
    ] {
        let away = of(&f, &there).unwrap().formula;
        let back = AmountBody { count: Some(2.0), piece_g: Some(426.5), ..AmountBody::keeping(Keep::Pieces) };
        let home = of(&away, &back).unwrap().formula;
        for (a, b) in f.lines.iter().zip(&home.lines) {
            assert!(near(a.grams.likely, b.grams.likely, 1e-9), "{there:?}");
        }
        assert_eq!(pieces(&home), (2, 426.5));
    }
}

/// A sentence in which nothing is told asks for nothing; one of which the tin is to be filled does.
#[test]
fn a_sentence_asks_only_where_something_is_told() {
    for keep in Keep::ALL {
        assert_eq!(AmountBody::keeping(keep).asks(), matches!(keep, Keep::Tin | Keep::Eggs), "{keep:?}");
    }
    assert!(AmountBody { pan: Some(String::new()), ..AmountBody::default() }.asks());
    assert!(AmountBody { strands: Some(0.0), ..AmountBody::default() }.asks());
}
