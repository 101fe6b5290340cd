//! More or less of it: by pieces, by dough, by flour, by one ingredient.

use cerealis_core::formula::ScaleBody;

use super::bench::{LEAN, formula, near, places, tables};

fn scaled(body: &ScaleBody) -> Vec<f64> {
    let f = formula(LEAN);
    let a = f.analyse(&tables().pantry, &tables().styles);
    let scale = body.check(&f, &a, tables()).unwrap();
    f.scaled(&scale, &a).lines.iter().map(|l| l.grams.likely).collect()
}

fn refused(body: &ScaleBody) -> Vec<String> {
    let f = formula(LEAN);
    let a = f.analyse(&tables().pantry, &tables().styles);
    let e = body.check(&f, &a, tables()).unwrap_err();
    places(&e).into_iter().map(str::to_owned).collect()
}

#[test]
fn flour_left_in_the_sack_is_used_up() {
    let got = scaled(&ScaleBody { flour_g: Some(750.0), ..ScaleBody::default() });
    assert!(near(got[0], 750.0, 1e-6) && near(got[1], 510.0, 1e-6) && near(got[2], 15.0, 1e-6), "{got:?}");
}

#[test]
fn so_much_dough_is_so_much_dough() {
    let got = scaled(&ScaleBody { dough_g: Some(1706.0), ..ScaleBody::default() });
    assert!(near(got.iter().sum(), 1706.0, 1e-6) && near(got[0], 1000.0, 1e-6), "{got:?}");
}

#[test]
fn twelve_rolls_of_seventy_grams_are_eight_hundred_and_forty() {
    let got = scaled(&ScaleBody { pieces: Some(12.0), piece_g: Some(70.0), ..ScaleBody::default() });
    assert!(near(got.iter().sum(), 840.0, 1e-6), "{got:?}");
}

#[test]
fn the_last_of_the_yeast_sets_the_rest() {
    let got = scaled(&ScaleBody { ingredient: Some("yeast-instant".into()), grams: Some(7.0), ..ScaleBody::default() });
    assert!(near(got[3], 7.0, 1e-9) && near(got[0], 500.0 * 7.0 / 3.0, 1e-6), "{got:?}");
}

#[test]
fn there_and_back_is_the_same_dough() {
    let f = formula(LEAN);
    let a = f.analyse(&tables().pantry, &tables().styles);
    let more = ScaleBody { flour_g: Some(1234.0), ..ScaleBody::default() }.check(&f, &a, tables()).unwrap();
    let big = f.scaled(&more, &a);
    let b = big.analyse(&tables().pantry, &tables().styles);
    let less = ScaleBody { flour_g: Some(500.0), ..ScaleBody::default() }.check(&big, &b, tables()).unwrap();
    let again = big.scaled(&less, &b);
    for (x, y) in f.lines.iter().zip(&again.lines) {
        assert!(near(x.grams.likely, y.grams.likely, 1e-9));
    }
}

#[test]
fn what_cannot_be_scaled_by_is_refused_at_its_field() {
    for (body, place) in [
        (ScaleBody { flour_g: Some(-1.0), ..ScaleBody::default() }, "/flour_g"),
        (ScaleBody { flour_g: Some(1e9), ..ScaleBody::default() }, "/flour_g"),
        (ScaleBody { dough_g: Some(0.0), ..ScaleBody::default() }, "/dough_g"),
        (ScaleBody { pieces: Some(0.0), piece_g: Some(70.0), ..ScaleBody::default() }, "/pieces"),
        (ScaleBody { pieces: Some(12.0), piece_g: Some(-70.0), ..ScaleBody::default() }, "/piece_g"),
        (ScaleBody { ingredient: Some("honey".into()), grams: Some(7.0), ..ScaleBody::default() }, "/ingredient"),
        (ScaleBody { ingredient: Some("moonflour".into()), grams: Some(7.0), ..ScaleBody::default() }, "/ingredient"),
    ] {
        let at = refused(&body);
        assert!(at.iter().any(|p| p == place), "{body:?}: {at:?}");
    }
}
