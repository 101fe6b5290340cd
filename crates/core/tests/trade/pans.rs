//! Pans: what they hold against their names and the table's own figures, and what is said when they do not fit.

use cerealis_core::{
    findings::Severity,
    formula::{Formula, FormulaDraft, PiecesBody, ScaleBody, find},
};

use super::bench::{LEAN, draft, formula, near, tables};

fn in_pan(pan: &str, grams: f64) -> Formula {
    let mut d: FormulaDraft = draft(LEAN);
    d.pieces = Some(PiecesBody { piece_g: Some(grams), pan: Some(pan.into()), ..PiecesBody::of(1.0) });
    d.check(&tables().pantry).unwrap()
}

fn found(f: &Formula, id: &str) -> Option<(Severity, Vec<String>)> {
    let a = f.analyse(&tables().pantry, &tables().styles);
    find(&a, tables()).into_iter().find(|x| x.id == id).map(|x| (x.severity, x.remedies.into_iter().map(|r| r.label).collect()))
}

#[test]
fn a_tin_named_by_the_loaf_takes_about_that_loaf() {
    // British tins are named by the dough they take: 1 lb and 2 lb. Common practice, no source.
    let t = tables();
    let lean = formula(LEAN);
    let a = lean.analyse(&t.pantry, &t.styles);
    for (pan, grams) in [("loaf-uk-1lb", 450.0), ("loaf-uk-2lb", 900.0), ("loaf-us-9x5", 850.0), ("loaf-us-1lb", 710.0)] {
        let (count, each) = a.pan_takes(t.pantry.pan(pan).unwrap()).unwrap();
        assert!(count == 1 && each.low <= grams && grams <= each.high, "{pan}: {each:?}");
    }
    assert_eq!(a.pan_takes(t.pantry.pan("muffin-us-12").unwrap()).unwrap().0, 12);
    assert_eq!(a.pan_takes(t.pantry.pan("round-23").unwrap()).unwrap(), (8, cerealis_core::measure::Band::new(60.0, 75.0, 90.0)));
    assert!(a.pan_takes(t.pantry.pan("pot-24").unwrap()).is_none(), "in a pot the loaf stands free");
}

#[test]
fn too_much_for_a_tin_is_said_and_a_bigger_one_named() {
    assert_eq!(found(&in_pan("loaf-uk-1lb", 560.0), "pan-too-small"), None);
    let (severity, remedies) = found(&in_pan("loaf-uk-1lb", 700.0), "pan-too-small").unwrap();
    assert!(severity == Severity::Caution && remedies[0].starts_with("Use the "), "{remedies:?}");
    assert_eq!(found(&in_pan("loaf-uk-1lb", 853.0), "pan-too-small").unwrap().0, Severity::Stop);
    assert_eq!(found(&in_pan("loaf-us-10x5", 853.0), "pan-too-large").unwrap().0, Severity::Note);
    assert_eq!(found(&in_pan("loaf-us-9x5", 853.0), "pan-too-large"), None);
}

#[test]
fn each_remedy_makes_it_fit() {
    let f = in_pan("loaf-uk-1lb", 853.0);
    let a = f.analyse(&tables().pantry, &tables().styles);
    let finding = find(&a, tables()).into_iter().find(|x| x.id == "pan-too-small").unwrap();
    for remedy in &finding.remedies {
        let after = f.after(remedy, finding.id, &tables().pantry);
        assert_eq!(found(&after, "pan-too-small"), None, "after “{}”", remedy.label);
        assert_eq!(found(&after, "pan-too-large"), None, "after “{}”", remedy.label);
    }
}

#[test]
fn filling_two_tins_makes_the_dough_for_two() {
    let t = tables();
    let f = formula(LEAN);
    let a = f.analyse(&t.pantry, &t.styles);
    let body = ScaleBody { pan: Some("loaf-uk-2lb".into()), pans: Some(2.0), ..ScaleBody::default() };
    let scaled = f.scaled(&body.check(&f, &a, t).unwrap(), &a);
    let pieces = scaled.pieces.as_ref().unwrap();
    assert!(pieces.count == 2 && near(pieces.piece_g.unwrap(), 921.0, 1.0) && pieces.pan.as_ref().unwrap().id == "loaf-uk-2lb");
    assert!(near(scaled.analyse(&t.pantry, &t.styles).dough_g.likely, 1842.0, 2.0));
    for wrong in ["nowhere", "pot-24"] {
        assert!(ScaleBody { pan: Some(wrong.into()), ..ScaleBody::default() }.check(&f, &a, t).is_err());
    }
    for pans in [0.0, 1.5, 99.0, f64::NAN] {
        assert!(
            ScaleBody { pan: Some("loaf-uk-2lb".into()), pans: Some(pans), ..ScaleBody::default() }.check(&f, &a, t).is_err(),
            "{pans}"
        );
    }
    let many = ScaleBody { pan: Some("muffin-us-24-mini".into()), pans: Some(24.0), ..ScaleBody::default() }.check(&f, &a, t).unwrap_err();
    assert!(many.0[0].message.contains("576 pieces"), "{many}");
    assert!(ScaleBody { pan: Some("loaf-uk-2lb".into()), pans: Some(99.0), ..ScaleBody::default() }.check(&f, &a, t).is_err());
}

#[test]
fn a_pan_of_no_name_is_refused_at_its_field() {
    let mut d = draft(LEAN);
    d.pieces = Some(PiecesBody { pan: Some("loaf-uk-2bl".into()), ..PiecesBody::of(1.0) });
    let errors = d.check(&tables().pantry).unwrap_err();
    assert_eq!(errors.0[0].pointer.as_str(), "/pieces/pan");
    assert!(errors.0[0].message.contains("loaf-uk-2lb"), "{}", errors.0[0].message);
}
