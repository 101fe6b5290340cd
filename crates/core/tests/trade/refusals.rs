//! Formulas no baker means, each refused at the field it stands in, with nothing lost.

use cerealis_core::{
    formula::{FormulaDraft, PiecesBody, Typed},
    measure::plain,
};

use super::bench::{LEAN, draft, line, places, tables};

fn pieces() -> PiecesBody {
    PiecesBody { piece_g: Some(400.0), shape: Some("ball".into()), ..PiecesBody::of(2.0) }
}

fn errors(edit: impl Fn(&mut FormulaDraft)) -> (Vec<String>, String) {
    let mut d = draft(LEAN);
    edit(&mut d);
    let e = d.check(&tables().pantry).unwrap_err();
    (places(&e).into_iter().map(str::to_owned).collect(), e.0.iter().map(|x| plain(&x.message).into_owned()).collect::<Vec<_>>().join(" "))
}

#[test]
fn each_wrong_field_is_named() {
    type Edit = fn(&mut FormulaDraft);
    let cases: &[(Edit, &str, &str)] = &[
        (|d| d.lines[0].ingredient = "moonflour".into(), "/lines/0/ingredient", "moonflour"),
        (|d| d.lines[0].ingredient = String::new(), "/lines/0/ingredient", "Name the ingredient"),
        (|d| d.lines[1].grams = Typed::Text("lots".into()), "/lines/1/grams", "lots"),
        (|d| d.lines[1].grams = Typed::Text(String::new()), "/lines/1/grams", "number"),
        (|d| d.lines[1].grams = Typed::Text("-3".into()), "/lines/1/grams", "above 0 g"),
        (|d| d.lines[1].grams = Typed::Number(0.0), "/lines/1/grams", "above 0 g"),
        (|d| d.lines[1].grams = Typed::Number(1e9), "/lines/1/grams", "100 kg"),
        (|d| d.lines[1].grams = Typed::Number(f64::NAN), "/lines/1/grams", "g"),
        (|d| d.lines[2].stage = Some("picnic".into()), "/lines/2/stage", "picnic"),
        (|d| d.lines[2].grams_low = Some(50.0), "/lines/2/grams_low", "low"),
        (|d| d.lines[2].grams_high = Some(1.0), "/lines/2/grams_high", "high"),
        (|d| d.name = Some("n".repeat(201)), "/name", "200"),
        (|d| d.style = Some("moon-bread".into()), "/style", "moon-bread"),
        (|d| d.yeast_kind = Some("magic".into()), "/yeast_kind", "magic"),
        (|d| d.lines = vec![line("water", 1.0); 201], "/lines", "200"),
        (|d| d.pieces = Some(PiecesBody { count: 0.0, ..pieces() }), "/pieces/count", ""),
        (|d| d.pieces = Some(PiecesBody { count: 2.5, ..pieces() }), "/pieces/count", ""),
        (|d| d.pieces = Some(PiecesBody { piece_g: Some(-1.0), ..pieces() }), "/pieces/piece_g", ""),
        (|d| d.pieces = Some(PiecesBody { shape: Some("pyramid".into()), ..pieces() }), "/pieces/shape", "pyramid"),
        (|d| d.pieces = Some(PiecesBody { vessel: Some("sock".into()), ..pieces() }), "/pieces/vessel", "sock"),
    ];
    for (edit, place, words) in cases {
        let (at, said) = errors(edit);
        assert!(at.iter().any(|p| p == place), "{place}: {at:?}");
        assert!(said.contains(words), "{place}: {said}");
    }
}

#[test]
fn all_that_is_wrong_is_said_at_once() {
    let (at, _) = errors(|d| {
        d.lines[0].ingredient = "moonflour".into();
        d.lines[1].grams = Typed::Text("lots".into());
        d.lines[2].stage = Some("picnic".into());
        d.name = Some("n".repeat(300));
    });
    assert_eq!(at.len(), 4, "{at:?}");
}

#[test]
fn weights_are_read_as_bakers_type_them() {
    for (typed, grams) in [("340", 340.0), (" 340 ", 340.0), ("340,5", 340.5), ("1 000", 1000.0), ("0.5", 0.5)] {
        let mut d = draft(LEAN);
        d.lines[1].grams = Typed::Text(typed.into());
        assert_eq!(d.check(&tables().pantry).unwrap().lines[1].grams.likely, grams, "{typed}");
    }
}

#[test]
fn an_empty_formula_is_a_formula_with_nothing_in_it() {
    let f = FormulaDraft::default().check(&tables().pantry).unwrap();
    assert!(f.lines.is_empty());
    assert_eq!(f.analyse(&tables().pantry, &tables().styles).flour_g.likely, 0.0);
}

#[test]
fn a_formula_comes_back_from_its_written_form() {
    let mut d = draft(LEAN);
    (d.name, d.pieces) = (Some("Storm loaf".into()), Some(pieces()));
    let f = d.check(&tables().pantry).unwrap();
    let text = serde_json::to_string(&f.body()).unwrap();
    let again =
        FormulaDraft::from(serde_json::from_str::<cerealis_core::formula::FormulaBody>(&text).unwrap()).check(&tables().pantry).unwrap();
    assert_eq!(again, f);
}
