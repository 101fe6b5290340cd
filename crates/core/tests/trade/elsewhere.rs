//! The running rise in each place of the house. Facts of the trade: common practice, no source.

use cerealis_core::{
    bake::{BakeState, Event, EventBody},
    formula::Formula,
    kitchen::{Kitchen, Minutes, Night, Place, Stay},
    plan::{
        Actual, Elsewhere, Plan, PlanAsk, elsewhere, later, minutes_between,
        search::{answer::fit, ask::FitAsk, schedule::ScheduleFamily},
    },
};
use jiff::Timestamp;

use super::bench::{LEAN, formula, tables};

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 21.0, pantry_c: Some(15.0), fridge_c: Some(4.0), oven_light_c: Some(29.0), scale_step_g: 0.1, ..Kitchen::default() }
}

/// Mixed at nine; an hour later somebody asks.
fn mixed() -> Actual {
    Actual { mixed: Some(at("2026-11-07T09:00:00Z")), ..Actual::default() }
}

fn now() -> Timestamp {
    at("2026-11-07T10:00:00Z")
}

fn usual(f: &Formula, k: &Kitchen) -> PlanAsk {
    PlanAsk::usual(f, k, at("2026-11-07T08:45:00Z"), tables())
}

fn all(actual: &Actual, k: &Kitchen) -> Vec<Elsewhere> {
    let f = formula(LEAN);
    elsewhere(&f, &usual(&f, k), actual, k, now(), tables()).unwrap()
}

fn of(all: &[Elsewhere], place: Place) -> Elsewhere {
    *all.iter().find(|e| e.place == place).unwrap()
}

#[test]
fn warmer_is_sooner_and_the_fridge_holds_longest() {
    let found = all(&mixed(), &kitchen());
    let order = [Place::OvenLight, Place::Room, Place::Pantry, Place::Fridge];
    let ripe: Vec<Timestamp> = order.iter().map(|p| of(&found, *p).ripe.unwrap().1).collect();
    assert!(ripe.windows(2).all(|w| w[0] < w[1]), "{ripe:?}");
    for e in &found {
        let (low, likely, high) = e.ripe.unwrap();
        assert!(low.unwrap() < likely && likely < high.unwrap(), "{e:?}");
        assert!(e.over.is_none_or(|o| o > likely), "{e:?}");
    }
    let room = of(&found, Place::Room);
    assert!(room.here && found.iter().filter(|e| e.here).count() == 1);
    // In the fridge a warm dough ripens on for hours before it is cold through.
    let later_by = minutes_between(room.ripe.unwrap().1, of(&found, Place::Fridge).ripe.unwrap().1);
    assert!((45.0..240.0).contains(&later_by), "{later_by} min");
}

/// Where it stands already, it goes on as the course says.
#[test]
fn left_where_it_is_it_is_ripe_when_the_course_says() {
    let (f, k, t) = (formula(LEAN), kitchen(), tables());
    let ask = usual(&f, &k);
    let course = cerealis_core::plan::course(&f, &ask, None, &mixed(), &k, t).unwrap();
    let ripe = course.forecast.events.iter().find(|e| e.kind == cerealis_core::ferment::EventKind::BulkRipe).unwrap();
    let room = of(&all(&mixed(), &k), Place::Room).ripe.unwrap().1;
    assert!((minutes_between(later(course.mixed, ripe.min), room)).abs() < 1.0);
}

#[test]
fn after_a_move_it_stands_there_and_after_shaping_it_is_the_proof() {
    let k = kitchen();
    let moved = Actual { places: vec![Stay::at((Place::Pantry, 15.0), at("2026-11-07T09:30:00Z"))], ..mixed() };
    let found = all(&moved, &k);
    assert!(of(&found, Place::Pantry).here && !of(&found, Place::Room).here);
    let shaped = Actual { shaped: Some(at("2026-11-07T09:50:00Z")), ..mixed() };
    let proof = of(&all(&shaped, &k), Place::Room);
    assert!(proof.ripe.unwrap().1 > now() && proof.here);
}

/// A dough said to be ripe may still be carried into the cold. That is a weak brake: warm as it is it ripens on while
/// it cools.
#[test]
fn what_is_ripe_is_ripe_and_the_cold_puts_off_its_end() {
    let k = kitchen();
    let late = at("2026-11-07T11:20:00Z");
    let f = formula(LEAN);
    let found = elsewhere(&f, &usual(&f, &k), &Actual { ripe: Some(late), ..mixed() }, &k, late, tables()).unwrap();
    let (room, fridge) = (of(&found, Place::Room), of(&found, Place::Fridge));
    assert!(room.ripe.unwrap().1 < late, "{room:?}");
    assert_eq!(room.ripe.unwrap().1, fridge.ripe.unwrap().1, "the past is the same wherever it goes");
    assert!(fridge.over.is_none_or(|o| o > later(room.over.unwrap(), 10.0)), "{room:?} {fridge:?}");
}

#[test]
fn nothing_is_told_where_nothing_rises() {
    let k = kitchen();
    assert!(all(&Actual::default(), &k).is_empty(), "before the mix");
    assert!(all(&Actual { mixed: Some(later(now(), 30.0)), ..Actual::default() }, &k).is_empty(), "mixed later than now");
    assert!(all(&Actual { loads: vec![now()], ..mixed() }, &k).is_empty(), "in the oven");
    let flat = formula(&[("wheat-ap", 300.0), ("water", 170.0), ("salt-fine", 5.0)]);
    let ask = FitAsk::soon(now(), &k);
    let offer = &fit(&flat, &ask, &k, tables(), &|_| String::new()).unwrap().offers[0];
    assert_eq!(offer.family, ScheduleFamily::Rest);
    let found = elsewhere(&flat, &offer.ask, &mixed(), &k, now(), tables()).unwrap();
    assert!(found.is_empty(), "a dough without yeast");
}

/// What the table says of a place is what the course reckons with once the dough is carried there.
#[test]
fn a_place_is_as_warm_in_the_table_as_in_the_log() {
    let night = Night { from: "22:00".into(), to: "06:00".into(), room_c: 15.0, pantry_c: 11.0 };
    let k = Kitchen { night: Some(night), ..kitchen() };
    let late = at("2026-11-07T21:00:00Z");
    let moved = EventBody { kind: "moved".into(), at: Some(late.to_string()), what: Some("room".into()), ..EventBody::default() };
    let log = [Event { seq: 1, event: moved.check(late).unwrap() }];
    let f = formula(LEAN);
    let plan = Plan::make(&f, &usual(&f, &k), &k, tables()).unwrap();
    let told = BakeState::of(&log, &plan, &f, &k, late, tables()).unwrap().actual;
    let Stay { place, celsius: c, .. } = told.places[0];
    let since = Actual { mixed: Some(later(late, -60.0)), ..Actual::default() };
    let found = elsewhere(&f, &usual(&f, &k), &since, &k, late, tables()).unwrap();
    // An hour of 21 and seven of 15.
    assert!(place == Place::Room && (c - (21.0 + 7.0 * 15.0) / 8.0).abs() < 1e-9, "{c}");
    assert_eq!(of(&found, Place::Room).place_c, c);
    assert_eq!(of(&found, Place::Fridge).place_c, 4.0);
}

/// A plan that carries it into the fridge later says nothing of how it would do if it stayed.
#[test]
fn a_move_still_to_come_is_left_out() {
    let (f, k) = (formula(LEAN), kitchen());
    let ask = FitAsk {
        ready_at: Some(at("2026-11-08T09:00:00Z")),
        families: Some(vec![ScheduleFamily::ColdBulk]),
        ..FitAsk::soon(at("2026-11-07T08:00:00Z"), &k)
    };
    let offer = fit(&f, &ask, &k, tables(), &|_| String::new()).unwrap().offers.remove(0);
    let stands: &[Stay<Minutes>] = &offer.ask.laid.as_ref().unwrap().bulk.as_ref().unwrap().stands;
    assert!(stands.iter().any(|s| s.place == Place::Fridge));
    let actual = Actual { mixed: Some(later(offer.ask.start, offer.ask.mix_min)), ..Actual::default() };
    let soon = later(actual.mixed.unwrap(), 5.0);
    let found = elsewhere(&offer.formula, &offer.ask, &actual, &k, soon, tables()).unwrap();
    let (room, fridge) = (of(&found, Place::Room).ripe.unwrap().1, of(&found, Place::Fridge).ripe.unwrap().1);
    assert!(room < later(soon, 600.0) && fridge > room, "{room} {fridge}");
}
