//! What the baker wants, when they sleep, what they have, and the leaven they have left: plans that follow.
//! Facts of the trade: common practice, no source.

use cerealis_core::{
    ferment::LeavenState,
    formula::{Formula, OvenTold, bake_in, setting_words},
    kitchen::{Hours, HoursKind, HouseOven, Kitchen, Place},
    measure::plain,
    oven::{Crust, Shape, Vessel},
    plan::{
        StepKind,
        search::{
            answer::{Answer, fit},
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            want::Want,
        },
    },
};
use jiff::Timestamp;

use super::bench::{LEAN, draft, formula, tables};

const SOUR: &[(&str, f64)] = &[("wheat-bread", 450.0), ("water", 330.0), ("leaven-wheat", 100.0), ("salt-fine", 10.0)];

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn ask(kitchen: &Kitchen, ready: &str) -> FitAsk {
    let away = vec![AwayAsk { from: at("2026-11-06T23:00:00Z"), to: at("2026-11-07T07:00:00Z"), kind: AwayKind::Asleep }];
    FitAsk { ready_at: Some(at(ready)), away, ..FitAsk::soon(at("2026-11-06T16:00:00Z"), kitchen) }.with_nights(kitchen)
}

fn plans(f: &Formula, ask: &FitAsk, kitchen: &Kitchen) -> Answer {
    fit(f, ask, kitchen, tables(), &|at| at.strftime("%H:%M").to_string()).unwrap()
}

#[test]
fn each_wish_has_its_plan_and_says_what_it_costs() {
    let k = Kitchen { scale_step_g: 0.1, ..Kitchen::default() };
    let f = formula(LEAN);
    let plain = ask(&k, "2026-11-07T18:00:00Z");
    let of = |want: Option<Want>| plans(&f, &FitAsk { want, ..plain.clone() }, &k).offers.swap_remove(0);
    let usual = of(None);
    assert!(of(Some(Want::Flavour)).rise_h >= usual.rise_h);
    assert!(of(Some(Want::FewActs)).visits <= usual.visits);
    let whole = |o: &cerealis_core::plan::search::offer::Offer| o.course.ready_at.duration_since(o.course.steps[0].start);
    assert!(whole(&of(Some(Want::Soon))) <= whole(&usual));
    let answer = plans(&f, &plain, &k);
    assert_eq!(answer.wishes.iter().map(|w| w.want).collect::<Vec<_>>(), Want::ALL);
    assert!(answer.wishes.iter().all(|w| w.costs.starts_with("costs ") && !w.gains.is_empty()), "{:?}", answer.wishes);
    assert!(answer.soonest.is_some_and(|s| s > plain.from && s < at("2026-11-07T18:00:00Z")));
}

#[test]
fn a_risk_is_told_with_its_reason_and_hour() {
    let k = Kitchen::default();
    for o in plans(&formula(LEAN), &ask(&k, "2026-11-07T09:30:00Z"), &k).offers {
        let words = o.risk_words(&|at| at.strftime("%H:%M").to_string());
        assert!(o.p_spoil >= 0.05 || words == "safe", "{words}");
        assert!(o.p_spoil < 0.05 || (words.contains("past ripe by") && words.contains("1 in ")), "{words}");
    }
}

#[test]
fn a_household_sleeps_from_eleven_to_seven_until_it_says_otherwise() {
    let untold = Kitchen::default();
    assert_eq!(untold.kept_hours().iter().map(|h| (h.from.as_str(), h.to.as_str())).collect::<Vec<_>>(), [("23:00", "07:00")]);
    let own = Hours { from: "22:00".into(), to: "04:30".into(), ..untold.kept_hours()[0].clone() };
    assert_eq!(Kitchen { hours: vec![own.clone()], ..Kitchen::default() }.kept_hours(), std::slice::from_ref(&own));
    let watch = Hours { kind: HoursKind::Busy, name: "on watch".into(), ..own };
    assert_eq!(Kitchen { hours: vec![watch], ..Kitchen::default() }.kept_hours().len(), 2, "a watch says nothing of sleep");
    assert!(Kitchen { nights_told: true, ..Kitchen::default() }.kept_hours().is_empty());
}

#[test]
fn a_kitchen_without_pantry_and_fridge_plans_without_them() {
    let hut = Kitchen { pantry_c: None, fridge_c: None, oven_light_c: None, altitude_m: 1900.0, ..Kitchen::default() };
    for f in [formula(LEAN), formula(SOUR)] {
        let answer = plans(&f, &ask(&hut, "2026-11-07T20:00:00Z"), &hut);
        assert!(!answer.offers.is_empty());
        assert!(answer.offers.iter().flat_map(|o| &o.course.stays).all(|s| s.place == Place::Room));
    }
}

#[test]
fn a_leaven_forgotten_for_a_fortnight_is_fed_twice() {
    let k = Kitchen { room_c: 22.0, ..Kitchen::default() };
    let feeds = |days: f64, ready: &str| {
        let jar = LeavenState { cold_days: Some(days), acid: Some(130.0), age: Some(2.8), b: Some(0.85), ..LeavenState::default() };
        let found = plans(&formula(SOUR), &FitAsk { jar: Some(jar), ..ask(&k, ready) }, &k);
        found.offers.first().map(|o| o.course.steps.iter().filter(|s| s.kind == StepKind::Feed).count())
    };
    assert_eq!(feeds(14.0, "2026-11-08T18:00:00Z"), Some(2));
    assert_eq!(feeds(0.5, "2026-11-08T18:00:00Z"), Some(1));
    // What was at its best a week ago is no leaven to mix with.
    let past = FitAsk { leaven_ripe_at: Some(at("2026-10-30T09:00:00Z")), ..ask(&k, "2026-11-08T18:00:00Z") };
    let refused = fit(&formula(SOUR), &past, &k, tables(), &|at| at.to_string()).unwrap_err();
    assert!(refused.0[0].message.contains("long past it now"), "{refused}");
}

#[test]
fn a_recipes_setting_is_turned_to_the_ovens_own_dial() {
    let on = |offset: f64, fan: bool, told_fan: bool| {
        let oven = HouseOven { offset_c: Some(offset), fan, ..HouseOven::default() };
        let told = OvenTold { set_c: Some(200.0), fan: told_fan, ..OvenTold::default() };
        (told.on_dial(&oven).unwrap(), plain(&setting_words(Some(told), &oven)).into_owned())
    };
    assert_eq!(on(15.0, false, false).0, 185.0, "an oven that runs 15 hotter");
    assert_eq!(on(0.0, true, false).0, 180.0, "20 less with a fan");
    assert_eq!(on(0.0, false, true).0, 220.0, "told with a fan, baked without");
    assert_eq!(on(-10.0, true, true).0, 210.0);
    assert!(on(15.0, true, false).1.contains("200 °C") && on(15.0, true, false).1.contains("15 °C less"));
}

#[test]
fn vessel_and_crust_follow_the_shape() {
    let t = tables();
    let bake = |pieces: &str, extra: &[(&str, f64)]| {
        let mut d = draft(&[LEAN, extra].concat());
        d.pieces = Some(serde_json::from_str(pieces).unwrap());
        let f = d.check(&t.pantry).unwrap();
        bake_in(&f.analyse(&t.pantry, &t.styles), &Kitchen::default(), &t.pantry)
    };
    let tin = bake(r#"{ "count": 1, "shape": "pan" }"#, &[("butter-unsalted", 15.0)]);
    assert_eq!((tin.vessel, tin.crust()), (Vessel::PanMetal, Crust::Soft), "a sandwich loaf in its tin");
    let lean = bake(r#"{ "count": 1, "shape": "pan" }"#, &[]);
    assert_eq!((lean.vessel, lean.crust()), (Vessel::PanMetal, Crust::Crisp));
    let hearth = bake(r#"{ "count": 1, "shape": "ball" }"#, &[("butter-unsalted", 15.0)]);
    assert_eq!((hearth.vessel, hearth.crust()), (Vessel::Sheet, Crust::Crisp));
    let by_pan = bake(r#"{ "count": 1, "pan": "loaf-us-9x5" }"#, &[]);
    assert_eq!((by_pan.shape, by_pan.vessel), (Shape::Pan, Vessel::PanMetal), "the tin says the shape");
    assert_eq!(bake(r#"{ "count": 12, "shape": "muffin" }"#, &[]).vessel, Vessel::MuffinTin);
}
