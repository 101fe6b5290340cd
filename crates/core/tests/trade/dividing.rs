//! One dough divided: strands, several breads; yeast divided too, where the scale cannot weigh it.

use cerealis_core::{
    formula::{Formula, FormulaBody, FormulaDraft, ScaleBody, dilution, find},
    oven::Shape,
};

use super::bench::{places, tables};

fn two_breads(further: &str) -> FormulaBody {
    let text = format!(
        r#"{{"lines":[{{"ingredient":"wheat-bread","grams":800}},{{"ingredient":"water","grams":480}},{{"ingredient":"salt-fine","grams":16}},{{"ingredient":"yeast-instant","grams":8}}],
        "pieces":{{"count":1,"piece_g":549,"shape":"braid","strands":3}},"further":{further}}}"#
    );
    serde_json::from_str(&text).unwrap()
}

fn checked(body: FormulaBody) -> Formula {
    FormulaDraft::from(body).check(&tables().pantry).unwrap()
}

/// Three strands of 183 g: 159 ml, 30 mm thick, 36.5 cm long. Common practice, no source; slenderness an estimate.
#[test]
fn a_plait_of_three_is_rolled_as_bakers_roll_it() {
    let f = checked(two_breads("[]"));
    let strand = f.pieces.as_ref().unwrap().strand(549.0).unwrap();
    assert!((strand.grams - 183.0).abs() < 1e-9);
    assert!((strand.length_cm - 36.5).abs() < 0.5 && (strand.thick_mm - 30.0).abs() < 0.7, "{strand:?}");
    let four = checked(FormulaBody {
        pieces: two_breads("[]").pieces.map(|p| cerealis_core::formula::PiecesBody { strands: Some(4.0), ..p }),
        ..two_breads("[]")
    });
    let thinner = four.pieces.as_ref().unwrap().strand(549.0).unwrap();
    assert!(thinner.grams < strand.grams && thinner.length_cm < strand.length_cm, "four of the same dough are smaller");
}

#[test]
fn several_breads_share_one_dough() {
    let f = checked(two_breads(r#"[{"count":9,"piece_g":80,"shape":"ball"}]"#));
    let t = tables();
    let a = f.analyse(&t.pantry, &t.styles);
    assert!((f.told_g().unwrap() - (549.0 + 720.0)).abs() < 1e-9);
    let mismatch = |f: &Formula| find(&f.analyse(&t.pantry, &t.styles), t).iter().any(|x| x.id == "piece-sum-mismatch");
    assert!(!mismatch(&f), "549 and 720 of 1304 g");
    assert!(mismatch(&checked(two_breads(r#"[{"count":2,"piece_g":80}]"#))), "549 and 160 of 1304 g");
    let scale = ScaleBody { pieces: Some(2.0), piece_g: Some(549.0), ..ScaleBody::default() }.check(&f, &a, t).unwrap();
    let more = f.scaled(&scale, &a);
    let dough = more.analyse(&t.pantry, &t.styles).dough_g.likely;
    assert!((dough - (1098.0 + 720.0)).abs() < 0.5, "two plaits and the rolls: {dough}");
    let half = ScaleBody { dough_g: Some(a.dough_g.likely / 2.0), ..ScaleBody::default() }.check(&f, &a, t).unwrap();
    let half = f.scaled(&half, &a);
    assert!((half.further[0].piece_g.unwrap() - 40.0).abs() < 1e-9, "half the dough, half each piece");
    assert_eq!(f.further[0].shape, Some(Shape::Ball));
    assert_eq!(checked(f.body()), f, "there and back");
}

#[test]
fn the_main_piece_is_what_the_others_leave() {
    let mut body = two_breads(r#"[{"count":5,"piece_g":80}]"#);
    body.pieces = body.pieces.map(|p| cerealis_core::formula::PiecesBody { piece_g: None, ..p });
    let f = checked(body);
    let a = f.analyse(&tables().pantry, &tables().styles);
    assert!((a.piece_g() - (1304.0 - 400.0)).abs() < 1e-9);
    let next = a.next_bread();
    assert!((next.count - 1.0).abs() < 1e-9, "nothing is known to be left over: one roll to begin with");
}

#[test]
fn what_cannot_be_divided_is_refused_at_its_field() {
    let wrong = |body: FormulaBody| FormulaDraft::from(body).check(&tables().pantry).unwrap_err();
    let of = |further: &str| places(&wrong(two_breads(further))).into_iter().map(str::to_owned).collect::<Vec<_>>();
    assert_eq!(of(r#"[{"count":3}]"#), ["/further/0/piece_g"]);
    assert_eq!(of(r#"[{"count":3,"piece_g":80},{"count":0,"piece_g":80,"strands":5}]"#), ["/further/1/count", "/further/1/strands"]);
    let many = format!("[{}]", [r#"{"count":1,"piece_g":50}"#; 9].join(","));
    assert_eq!(of(&many), ["/further"]);
}

#[test]
fn yeast_the_scale_cannot_weigh_is_stirred_into_water() {
    assert_eq!(dilution(5.0, 1.0), None, "five steps can be weighed");
    let d = dilution(0.6, 1.0).unwrap();
    assert!((d.yeast_g - 5.0).abs() < 1e-9 && (d.water_g - 95.0).abs() < 1e-9 && (d.take_g - 12.0).abs() < 1e-9);
    assert!((d.less_water_g - 11.0).abs() < 1.0);
    for (grams, step) in [(0.05, 1.0), (0.3, 0.1), (2.0, 1.0), (4.9, 1.0), (0.02, 0.1)] {
        let d = dilution(grams, step).unwrap();
        let taken = d.take_g * d.yeast_g / (d.yeast_g + d.water_g);
        assert!((taken / grams - 1.0).abs() <= 0.1, "{grams} g on {step} g steps: {taken}");
        assert!(d.take_g >= 5.0 * step - 1e-9);
    }
    assert_eq!(dilution(0.001, 1.0), None, "no litre of water is stirred for a trace");
}

#[test]
fn what_is_held_back_and_what_went_in_make_the_dough() {
    let t = tables();
    let body = |hold: &str| -> FormulaBody {
        serde_json::from_str(&format!(
            r#"{{"lines":[{{"ingredient":"wheat-bread","grams":500}},{{"ingredient":"water","grams":350}},{{"ingredient":"salt-fine","grams":10}}],"hold":{hold}}}"#
        ))
        .unwrap()
    };
    let f = checked(body(r#"{"ingredient":"water","grams":30}"#));
    assert_eq!(f.held(), Some((1, 30.0)));
    let water = |f: &Formula| f.analyse(&t.pantry, &t.styles).effective_hydration_pct.likely;
    assert!((water(&f) - 70.0).abs() < 1e-9, "the recipe counts it");
    assert!((water(&f.went_in(10.0)) - 66.0).abs() < 1e-9 && (water(&f.went_in(0.0)) - 64.0).abs() < 1e-9);
    assert!((water(&f.went_in(45.0)) - 73.0).abs() < 1e-9, "a thirsty flour took more");
    let a = f.analyse(&t.pantry, &t.styles);
    let twice = f.scaled(&ScaleBody { flour_g: Some(1000.0), ..ScaleBody::default() }.check(&f, &a, t).unwrap(), &a);
    assert_eq!(twice.held(), Some((1, 60.0)));
    assert_eq!(checked(f.body()), f, "there and back");
    let wrong = |hold: &str| {
        places(&FormulaDraft::from(body(hold)).check(&t.pantry).unwrap_err()).into_iter().map(str::to_owned).collect::<Vec<_>>()
    };
    assert_eq!(wrong(r#"{"ingredient":"milk-whole","grams":30}"#), ["/hold/ingredient"]);
    assert_eq!(wrong(r#"{"ingredient":"water","grams":350}"#), ["/hold/grams"]);
}
