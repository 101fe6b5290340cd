//! A kitchen that cools at night: each wait is reckoned with the warmth of its own hours.

use cerealis_core::{
    Tables,
    ferment::{Dough, EventKind, Rise, RiseKind, RiseStage, simulate},
    formula::dough_of,
    kitchen::{Kitchen, KitchenBody, Night, Place, PlacesBody},
    leaven::{JarBody, JarEvent, JarEventBody},
    plan::{
        Plan, PlanAsk, RisePlan, StepKind, later,
        search::{
            answer::{fit, shifted},
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            offer::Offer,
            schedule::{RiseOf, ScheduleFamily},
        },
    },
};
use jiff::Timestamp;

use super::bench::{LEAN, formula, tables};

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn clock(at: Timestamp) -> String {
    at.strftime("%H:%M").to_string()
}

/// From half past ten to six.
fn night(room_c: f64, pantry_c: f64) -> Option<Night> {
    Some(Night { from: "22:30".into(), to: "06:00".into(), room_c, pantry_c })
}

fn kitchen(night: Option<Night>) -> Kitchen {
    Kitchen { room_c: 21.0, pantry_c: Some(17.0), scale_step_g: 0.1, oven_light_c: None, night, ..Kitchen::default() }
}

/// From Friday evening, asleep from 23 to 6, bread on Saturday at two.
fn ask(k: &Kitchen) -> FitAsk {
    let asleep = AwayAsk { from: at("2026-11-06T23:00:00Z"), to: at("2026-11-07T06:00:00Z"), kind: AwayKind::Asleep };
    let ask = FitAsk { ready_at: Some(at("2026-11-07T14:00:00Z")), away: vec![asleep], ..FitAsk::soon(at("2026-11-06T17:00:00Z"), k) };
    ask.with_nights(k)
}

fn offers(k: &Kitchen, t: &Tables) -> Vec<Offer> {
    fit(&formula(LEAN), &ask(k), k, t, &clock).unwrap().offers
}

fn of(offers: &[Offer], family: ScheduleFamily) -> &Offer {
    offers
        .iter()
        .find(|o| o.family == family)
        .unwrap_or_else(|| panic!("no {family:?} among {:?}", offers.iter().map(|o| &o.name).collect::<Vec<_>>()))
}

/// Yeast a preferment brings, percent.
fn brought(o: &Offer) -> f64 {
    o.ask.laid.as_ref().map_or(0.0, |l| l.preferment_yeast_pct)
}

/// When a bulk begins and ends.
fn bulk(o: &Offer) -> (Timestamp, f64) {
    let mixed = later(o.ask.start, o.ask.mix_min);
    (mixed, o.rises.iter().filter(|r| r.kind == RiseOf::Bulk).flat_map(|r| &r.stages).filter_map(|s| s.1.minutes).sum())
}

#[test]
fn a_night_as_warm_as_the_day_is_none() {
    let k = kitchen(night(21.0, 17.0));
    assert_eq!(ask(&k).night, None);
    let k = kitchen(night(16.0, 17.0));
    let told = ask(&k).night.unwrap();
    assert_eq!(told.places, [(Place::Room, 16.0)]);
    assert!(told.spells.contains(&(at("2026-11-06T22:30:00Z"), at("2026-11-07T06:00:00Z"))), "{:?}", told.spells);
}

/// Nights without a day between them are one cold kitchen.
#[test]
fn a_kitchen_always_in_its_night_is_a_kitchen_so_cold() {
    let t = tables();
    let always = Kitchen { night: Some(Night { from: "00:00".into(), to: "23:59".into(), room_c: 16.0, pantry_c: 13.0 }), ..kitchen(None) };
    let cold = Kitchen { room_c: 16.0, pantry_c: Some(13.0), ..kitchen(None) };
    let (a, b) = (offers(&always, t), offers(&cold, t));
    assert!(!b.is_empty());
    for o in &b {
        let same = of(&a, o.family);
        let (x, y) = (bulk(same), bulk(o));
        assert!((x.1 - y.1).abs() <= 0.1 * y.1 + 20.0, "{}: {} and {} min", o.name, x.1, y.1);
        // The one minute a day that is not night is less than a tenth of a degree.
        assert!(same.rises.iter().flat_map(|r| &r.stages).all(|(p, s)| *p != Place::Room || (s.place_c - 16.0).abs() < 0.11));
    }
}

#[test]
fn the_same_dough_overnight_takes_longer_where_the_night_is_colder() {
    let t = tables();
    let (even, cool) = (offers(&kitchen(None), t), offers(&kitchen(night(15.0, 12.0)), t));
    let (a, b) = (of(&even, ScheduleFamily::Slow), of(&cool, ScheduleFamily::Slow));
    // More yeast, or more hours: what it takes at one speed is more of both together.
    let (dose_a, dose_b) = (a.dose.as_ref().unwrap().pct, b.dose.as_ref().unwrap().pct);
    assert!(dose_b * bulk(b).1 > 1.1 * dose_a * bulk(a).1, "{dose_a} % for {} min, {dose_b} % for {} min", bulk(a).1, bulk(b).1);
    let warmth = |o: &Offer| o.rises.iter().find(|r| r.kind == RiseOf::Bulk).unwrap().stages[0].1.place_c;
    assert!(warmth(b) < warmth(a) - 1.0 && warmth(b) > 11.9, "{} and {}", warmth(a), warmth(b));
}

/// Each plan run again by the whole rise model, its places now cut where night begins and ends: the mean of the hours
/// does for them, within 5 % of dough time for nights 6 K colder; a thermometer's half degree is as much.
#[test]
fn the_mean_of_the_hours_is_near_the_true_course_of_the_night() {
    let t = tables();
    let k = kitchen(night(15.0, 12.0));
    let spells = ask(&k).night.unwrap().spells;
    let mut crossed = 0;
    for o in offers(&k, t).iter().filter(|o| o.rises.iter().any(|r| r.kind == RiseOf::Bulk)) {
        let (mixed, _) = bulk(o);
        let mut stages: Vec<RiseStage> = Vec::new();
        let mut from = mixed;
        for (place, s) in &o.rises.iter().find(|r| r.kind == RiseOf::Bulk).unwrap().stages {
            let mut left = s.minutes.unwrap();
            while left > 0.0 {
                let dark = spells.iter().find(|(a, b)| *a <= from && from < *b);
                let next = dark.map(|d| d.1).or_else(|| spells.iter().map(|s| s.0).find(|a| *a > from));
                let here = next.map_or(left, |n| (n.duration_since(from).as_secs_f64() / 60.0).min(left));
                let (day, by_night) = (
                    k.place_c(*place).unwrap(),
                    match place {
                        Place::Room => 15.0,
                        Place::Pantry => 12.0,
                        _ => k.place_c(*place).unwrap(),
                    },
                );
                crossed += usize::from(here < left && day != by_night);
                let place_c = if dark.is_some() { by_night } else { day };
                stages.push(RiseStage { minutes: Some(here), place_c, acts: None, ..s.clone() });
                from = later(from, here);
                left -= here;
            }
        }
        assert!(stages.iter().all(|s| s.kind == RiseKind::Bulk));
        let a = o.formula.analyse(&t.pantry, &t.styles);
        let dough = Dough { preferment_yeast_pct: brought(o), ..dough_of(&a, &t.pantry, o.leaven) };
        let ripeness = |stages: Vec<RiseStage>| {
            let rise =
                Rise { style: a.style.id.word().into(), dough: dough.clone(), start_c: o.ask.mix_c, stages, rate: 1.0, log_sigma: None };
            let run = simulate(&rise.assume(a.dough_g.likely, &t.ferment).unwrap(), &t.ferment).unwrap();
            run.ripeness_of_time(0, EventKind::BulkRipe).unwrap()
        };
        let as_planned =
            o.rises.iter().find(|r| r.kind == RiseOf::Bulk).unwrap().stages.iter().map(|s| RiseStage { acts: None, ..s.1.clone() });
        let (planned, in_truth) = (ripeness(as_planned.collect()), ripeness(stages));
        assert!((in_truth / planned - 1.0).abs() < 0.05, "{}: {in_truth:.3} by the true night, {planned:.3} planned", o.name);
    }
    assert!(crossed > 0, "some wait lies over the edge of the night");
}

/// What is offered is what bake day follows, the half of shaping that counts as proof included: in the room of its hour.
#[test]
fn bake_day_reckons_with_the_same_warmth() {
    let t = tables();
    let k = kitchen(night(13.0, 10.0));
    for o in &offers(&k, t) {
        let proof = o.rises.iter().find(|r| r.kind == RiseOf::Proof).unwrap();
        let half = proof.stages.first().unwrap().1.place_c;
        assert_eq!(o.ask.laid.as_ref().unwrap().shape_c, Some(half), "{}", o.name);
        let plan = Plan::make(&o.formula, &o.ask, &k, t).unwrap();
        assert_eq!(plan.steps, o.course.steps, "{}", o.name);
        let rho = o.course.forecast.ripeness_of_time(o.course.proof_stage, EventKind::ProofRipe).unwrap();
        assert!((rho / proof.ripeness - 1.0).abs() < 0.05, "{}: {rho:.3} by the course, {:.3} planned", o.name, proof.ripeness);
    }
}

#[test]
fn two_degrees_less_are_told_for_the_night_too() {
    let t = tables();
    let k = kitchen(night(15.0, 12.0));
    let asked = ask(&k);
    let o = of(&fit(&formula(LEAN), &asked, &k, t, &clock).unwrap().offers, ScheduleFamily::Slow).clone();
    let (later_by, _) = shifted(&formula(LEAN), &asked, &o, -2.0, &k, t).unwrap();
    let (sooner_by, _) = shifted(&formula(LEAN), &asked, &o, 2.0, &k, t).unwrap();
    assert!(later_by > 30 && sooner_by < -30, "{later_by} and {sooner_by} min");
}

#[test]
fn a_night_that_cannot_be_is_refused_at_its_fields() {
    let places = |night: Night| PlacesBody {
        room_c: 20.0,
        pantry_c: Some(15.0),
        fridge_c: Some(4.0),
        proof_box_c: None,
        oven_light_c: None,
        night: Some(night),
    };
    let wrong = |n: Night| {
        let body = KitchenBody { places: Some(places(n)), ..KitchenBody::default() };
        body.over(Kitchen::default()).map_or_else(|e| e.0.iter().map(|f| f.pointer.as_str().to_owned()).collect(), |_| Vec::<String>::new())
    };
    let good = night(16.0, 12.0).unwrap();
    assert!(wrong(good.clone()).is_empty());
    assert_eq!(wrong(Night { from: "late".into(), ..good.clone() }), ["/places/night/from"]);
    assert_eq!(wrong(Night { to: "22:30".into(), ..good.clone() }), ["/places/night/to"]);
    assert_eq!(wrong(Night { room_c: 99.0, pantry_c: f64::NAN, ..good }), ["/places/night/room_c", "/places/night/pantry_c"]);
}

/// From hour to hour a place is as warm as it is by night or by day.
#[test]
fn a_place_is_told_at_each_instant_and_on_the_whole() {
    let k = kitchen(night(15.0, 17.0));
    let n = k.nights(at("2026-11-06T12:00:00Z"), at("2026-11-08T12:00:00Z")).unwrap();
    assert_eq!(n.at(Place::Room, 21.0, at("2026-11-06T20:00:00Z")), (21.0, Some(at("2026-11-06T22:30:00Z"))));
    assert_eq!(n.at(Place::Room, 21.0, at("2026-11-06T22:30:00Z")), (15.0, Some(at("2026-11-07T06:00:00Z"))));
    assert_eq!(n.at(Place::Pantry, 17.0, at("2026-11-06T23:00:00Z")), (17.0, None), "as warm by night as by day");
    // Seven hours and a half of fifteen, six degrees colder: three on the whole.
    let mean = n.mean(Place::Room, 21.0, at("2026-11-06T15:00:00Z"), at("2026-11-07T06:00:00Z"));
    assert!((mean - 18.0).abs() < 1e-9, "{mean}");
    assert!((n.mean(Place::Fridge, 4.0, at("2026-11-06T15:00:00Z"), at("2026-11-07T06:00:00Z")) - 4.0).abs() < 1e-12);
    assert_eq!(n.mean(Place::Room, 21.0, at("2026-11-07T06:00:00Z"), at("2026-11-07T06:00:00Z")), 21.0, "no time at all");
}

/// A jar fed in the evening is later at its best where the night is cold, and no later by day.
#[test]
fn a_jar_waits_for_the_morning_in_a_cold_kitchen() {
    let t = tables();
    let flour = std::iter::once(("plain-white".to_owned(), 100.0)).collect();
    let jar = JarBody { name: "Bell".into(), flour_mix: flour, hydration_pct: 100.0 }.check(&t.ferment).unwrap();
    let fed = |hour: &str| {
        let grams = (Some(20.0), Some(60.0), Some(60.0));
        let body = JarEventBody {
            kind: "fed".into(),
            at: Some(hour.into()),
            seed: grams.0,
            water: grams.1,
            flour: grams.2,
            what: Some("room".into()),
            ..JarEventBody::default()
        };
        JarEvent { seq: 1, event: body.check(at(hour)).unwrap() }
    };
    let best = |k: &Kitchen, hour: &str| jar.state(&[fed(hour)], k, at(hour), &t.ferment).unwrap().best.unwrap().0;
    let (even, cool) = (kitchen(None), kitchen(night(14.0, 12.0)));
    let (by_night, by_day) = ("2026-11-06T22:30:00Z", "2026-11-07T06:00:00Z");
    assert!(best(&cool, by_night).duration_since(best(&even, by_night)).as_secs_f64() > 3600.0);
    assert_eq!(best(&cool, by_day), best(&even, by_day), "ripe before the next night");
}

/// By hand too: a rise through the night is as warm as its own hours on the whole, and a warmth that was taken stays.
#[test]
fn a_plan_by_hand_goes_by_the_hours_of_each_rise() {
    let t = tables();
    let f = formula(LEAN);
    let (even, cool) = (kitchen(None), kitchen(night(15.0, 12.0)));
    let evening = |k: &Kitchen| {
        let usual = PlanAsk::usual(&f, k, at("2026-11-06T21:30:00Z"), t);
        PlanAsk { bulk: usual.bulk.map(|b| RisePlan { place: Place::Room, place_c: k.room_c, ..b }), ..usual }
    };
    let (by_day, alike) = evening(&even).by_its_hours(&f, &even, t).unwrap();
    assert_eq!(by_day, evening(&even), "no night, nothing moves");
    let (asked, late) = evening(&cool).by_its_hours(&f, &cool, t).unwrap();
    assert!(late.ready_at > alike.ready_at, "colder hours take longer");
    let bulk = late.steps.iter().find(|s| s.kind == StepKind::Bulk).unwrap();
    let nights = cool.nights(bulk.start, bulk.end).unwrap();
    let own = nights.mean(Place::Room, cool.room_c, bulk.start, bulk.end);
    let told = asked.bulk.unwrap().place_c;
    assert!((told - own).abs() < 0.15 && told < cool.room_c - 1.0, "{told} for hours of {own}");
    let typed = PlanAsk { bulk: asked.bulk.map(|b| RisePlan { place_c: 23.5, ..b }), ..evening(&cool) };
    assert_eq!(typed.by_its_hours(&f, &cool, t).unwrap().0.bulk.unwrap().place_c, 23.5);
}
