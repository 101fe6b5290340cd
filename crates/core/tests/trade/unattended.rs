//! A rise that would be over while nobody is there. Facts of the trade: common practice, no source.

use cerealis_core::{
    kitchen::{Hours, HoursKind, Kitchen, Place},
    plan::{Actual, PlanAsk, RisePlan, StepKind, Unattended, course, unattended},
};
use jiff::Timestamp;

use super::bench::{LEAN, formula, tables};

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn kitchen(sleeps: bool) -> Kitchen {
    let night = Hours {
        name: "asleep".into(),
        kind: HoursKind::Asleep,
        days: (0..7).collect(),
        date: None,
        from: "23:00".into(),
        to: "06:30".into(),
    };
    let hours = if sleeps { vec![night] } else { Vec::new() };
    Kitchen { room_c: 22.0, pantry_c: 15.0, fridge_c: 4.0, oven_light_c: None, scale_step_g: 0.1, hours, ..Kitchen::default() }
}

/// A lean dough mixed at that hour, looked at at that hour.
fn looked_at(k: &Kitchen, mixed: &str, now: &str, actual: Actual) -> Option<Unattended> {
    let (t, f) = (tables(), formula(LEAN));
    let usual = PlanAsk::usual(&f, k, at(mixed), t);
    let room = RisePlan { place: Place::Room, place_c: k.room_c, pace: usual.proof.pace };
    let ask = PlanAsk { bulk: usual.bulk.map(|_| room), proof: room, ..usual };
    let actual = Actual { mixed: Some(at(mixed)), ..actual };
    let found = course(&f, &ask, None, &actual, k, t).unwrap();
    unattended(&found, &f, &ask, &actual, k, at(now), t).unwrap()
}

#[test]
fn a_dough_mixed_late_waits_in_the_fridge_until_morning() {
    let told =
        looked_at(&kitchen(true), "2026-11-06T21:30:00Z", "2026-11-06T22:00:00Z", Actual::default()).expect("over before half past six");
    assert_eq!(told.act, StepKind::Shape);
    assert!(told.due > at("2026-11-06T23:00:00Z") && told.over < told.back, "{told:?}");
    assert_eq!(told.back, at("2026-11-07T06:30:00Z"));
    let wait = told.wait.expect("the fridge holds it");
    assert!(wait.taken_on >= told.back && [Place::Fridge, Place::Pantry].contains(&wait.place), "{wait:?}");
    // It may be carried until the household goes to bed, and no later.
    assert!(wait.by >= at("2026-11-06T22:00:00Z") && wait.by < at("2026-11-06T23:00:00Z"), "{wait:?}");
    // Carried there then, nothing is left to be said.
    let carried = Actual { places: vec![(wait.by, wait.place, wait.place_c)], ..Actual::default() };
    assert_eq!(looked_at(&kitchen(true), "2026-11-06T21:30:00Z", "2026-11-06T22:59:00Z", carried), None);
}

#[test]
fn nothing_is_said_where_somebody_is_there_in_time() {
    let none = Actual::default;
    assert_eq!(looked_at(&kitchen(false), "2026-11-06T21:30:00Z", "2026-11-06T22:00:00Z", none()), None, "nobody sleeps here");
    assert_eq!(looked_at(&kitchen(true), "2026-11-06T09:00:00Z", "2026-11-06T10:00:00Z", none()), None, "ripe by day");
    let seen = Actual { ripe: Some(at("2026-11-06T22:00:00Z")), ..none() };
    assert_eq!(looked_at(&kitchen(true), "2026-11-06T21:30:00Z", "2026-11-06T22:00:00Z", seen), None, "the sign beats the clock");
    let loaded = Actual { shaped: Some(at("2026-11-06T22:10:00Z")), loads: vec![at("2026-11-06T22:40:00Z")], ..none() };
    assert_eq!(looked_at(&kitchen(true), "2026-11-06T20:30:00Z", "2026-11-06T22:45:00Z", loaded), None, "it is in the oven");
}

#[test]
fn where_nothing_holds_it_that_is_said_too() {
    // No fridge, no cooler room: a quick dough in a warm house.
    let k = Kitchen { fridge_c: 24.0, pantry_c: 24.0, room_c: 26.0, ..kitchen(true) };
    let told = looked_at(&k, "2026-11-06T21:30:00Z", "2026-11-06T22:00:00Z", Actual::default()).unwrap();
    assert_eq!(told.wait, None);
}
