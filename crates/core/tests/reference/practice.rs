//! Facts of the trade about the dough-time idea. All: common practice, no source.

use cerealis_core::{
    ferment::{Constants, Dough, EventKind, Rise, RiseKind, RiseStage, YeastDose, simulate},
    oven::{BakeBody, Constants as OvenConstants, advise},
};

fn lean(instant_pct: f64, c: f64, k: &Constants) -> f64 {
    let dough = Dough {
        flour: vec![("strong-white".into(), 100.0)],
        water_pct: 65.0,
        salt_pct: 2.0,
        sugar_pct: 0.0,
        fat_pct: 0.0,
        solids_pct: 0.0,
        yeast: Some(YeastDose { kind: "instant".into(), pct: instant_pct, viable: 1.0 }),
        leaven: None,
        preferment_yeast_pct: 0.0,
        spice_factor: 1.0,
    };
    let rise = Rise {
        style: "lean".into(),
        dough,
        start_c: c,
        stages: vec![RiseStage::until_ripe(RiseKind::Bulk, c, 1000.0)],
        rate: 1.0,
        log_sigma: None,
    };
    simulate(&rise, k).unwrap().event(EventKind::BulkRipe).unwrap().min
}

#[test]
fn a_lean_dough_with_one_percent_doubles_in_one_to_two_hours_at_a_warm_room() {
    let minutes = lean(1.0, 24.0, &Constants::built_in().unwrap());
    assert!((60.0..=120.0).contains(&minutes), "{minutes}");
}

#[test]
fn ten_degrees_colder_takes_two_to_three_times_as_long() {
    let k = Constants::built_in().unwrap();
    let ratio = lean(0.5, 17.0, &k) / lean(0.5, 27.0, &k);
    assert!((1.8..=3.5).contains(&ratio), "{ratio}");
}

#[test]
fn rolls_bake_in_twelve_to_twenty_minutes_and_loaves_in_twenty_five_to_forty() {
    let k = OvenConstants::built_in().unwrap();
    let minutes = |body: BakeBody| advise(&body.check().unwrap(), &k).minutes.unwrap();
    let roll = minutes(BakeBody {
        piece_g: Some(65.0),
        pieces: Some(12.0),
        fat_pct: Some(6.0),
        sugar_pct: Some(5.0),
        milk_pct: Some(40.0),
        hydration_pct: Some(62.0),
        ..BakeBody::default()
    });
    assert!((12.0..=22.0).contains(&roll), "{roll}");
    let loaf = minutes(BakeBody {
        piece_g: Some(800.0),
        shape: Some("pan".into()),
        vessel: Some("pan-metal".into()),
        fat_pct: Some(4.0),
        sugar_pct: Some(3.0),
        ..BakeBody::default()
    });
    assert!((25.0..=42.0).contains(&loaf), "{loaf}");
}
