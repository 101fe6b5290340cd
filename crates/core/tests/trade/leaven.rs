//! Jars and feeds. Facts of the trade: common practice, no source, unless a line says otherwise.

use cerealis_core::{
    Tables,
    ferment::{EventKind, Leaven},
    kitchen::{Kitchen, Place},
    leaven::{FeedAsk, Jar, JarBody, JarEvent, JarEventBody, NewJarEvent, Use, feed_rows, feed_twice},
    plan::{later, minutes_between},
};
use jiff::Timestamp;

fn tables() -> Tables {
    Tables::built_in().unwrap()
}

fn now() -> Timestamp {
    "2026-11-06T16:40:00Z".parse().unwrap()
}

fn jar(t: &Tables) -> Jar {
    JarBody { name: "Foghorn".into(), flour_mix: std::iter::once(("plain-white".to_owned(), 100.0)).collect(), hydration_pct: 100.0 }
        .check(&t.ferment)
        .unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 22.0, ..Kitchen::default() }
}

fn fed(seed: f64, each: f64, place: &str) -> JarEventBody {
    JarEventBody {
        kind: "fed".into(),
        seed: Some(seed),
        water: Some(each),
        flour: Some(each),
        what: Some(place.into()),
        ..JarEventBody::default()
    }
}

fn value(kind: &str, value: f64) -> JarEventBody {
    JarEventBody { kind: kind.into(), value: Some(value), ..JarEventBody::default() }
}

fn moved(place: &str) -> JarEventBody {
    JarEventBody { kind: "moved".into(), what: Some(place.into()), ..JarEventBody::default() }
}

/// A log from hours before now.
fn log(events: &[(f64, JarEventBody)]) -> Vec<JarEvent> {
    events
        .iter()
        .enumerate()
        .map(|(i, (before, body))| {
            let at = later(now(), -60.0 * before);
            let event = JarEventBody { at: Some(at.to_string()), ..body.clone() }.check(now()).unwrap();
            JarEvent { seq: i32::try_from(i).unwrap() + 1, event: NewJarEvent { at, ..event } }
        })
        .collect()
}

#[test]
fn a_jar_fed_in_the_morning_is_at_its_best_in_the_evening_and_then_sinks() {
    let (t, k) = (tables(), kitchen());
    let jar = jar(&t);
    let stands = |before: f64| jar.state(&log(&[(before, fed(40.0, 80.0, "room"))]), &k, now(), &t.ferment).unwrap();
    assert_eq!(stands(0.5).may_use(), Use::Young);
    let s = stands(0.5);
    let (from, to) = s.best.unwrap();
    let hours = minutes_between(s.fed.at, from) / 60.0;
    // Fed 1 : 2 : 2 at 22 °C a wheat leaven domes after five to eight hours.
    assert!((4.0..=9.0).contains(&hours), "{hours}");
    assert!(from < to && s.falls.unwrap() > from);
    let (low, likely, high) = s.peak.unwrap();
    assert!(low < likely && likely < high);
    assert_eq!(stands(hours + 0.5).may_use(), Use::Best);
    assert_eq!(stands(26.0).may_use(), Use::Feed);
    assert!(jar.state(&[], &k, now(), &t.ferment).is_none(), "a jar never fed stands nowhere");
}

#[test]
fn a_level_seen_bends_the_curve_through_it() {
    let (t, k) = (tables(), kitchen());
    let jar = jar(&t);
    let base = log(&[(4.0, fed(40.0, 80.0, "room"))]);
    let plain = jar.state(&base, &k, now(), &t.ferment).unwrap();
    for (seen, faster) in [(1.15, false), (2.2, true)] {
        let bent = jar.state(&log(&[(4.0, fed(40.0, 80.0, "room")), (0.0, value("level", seen))]), &k, now(), &t.ferment).unwrap();
        assert!((bent.ratio_now - seen).abs() < 0.06, "seen {seen}, drawn {}", bent.ratio_now);
        assert_eq!(bent.rate > plain.rate, faster, "{}", bent.rate);
        assert_eq!(bent.best.unwrap().0 < plain.best.unwrap().0, faster, "the best moves with it");
        let width = |s: &cerealis_core::leaven::JarState| minutes_between(s.peak.unwrap().0, s.peak.unwrap().2);
        assert!(
            width(&bent) / minutes_between(bent.fed.at, bent.peak.unwrap().1)
                < width(&plain) / minutes_between(plain.fed.at, plain.peak.unwrap().1),
            "what was seen leaves less in doubt"
        );
    }
    // A level taken back bends nothing.
    let undone = log(&[(4.0, fed(40.0, 80.0, "room")), (0.1, value("level", 2.2)), (0.0, value("undo", 2.0))]);
    assert!((jar.state(&undone, &k, now(), &t.ferment).unwrap().rate - 1.0).abs() < 1e-9);
}

#[test]
fn warm_is_sooner_more_seed_is_sooner_and_the_fridge_keeps() {
    let (t, k) = (tables(), kitchen());
    let jar = jar(&t);
    let best =
        |events: &[(f64, JarEventBody)]| jar.state(&log(events), &k, now(), &t.ferment).unwrap().best.map(|b| minutes_between(now(), b.0));
    let room = best(&[(0.0, fed(40.0, 80.0, "room"))]).unwrap();
    assert!(best(&[(0.0, fed(40.0, 80.0, "oven-light"))]).unwrap() < room, "30 °C before 22 °C");
    assert!(best(&[(0.0, fed(40.0, 80.0, "pantry"))]).unwrap() > room);
    assert!(best(&[(0.0, fed(80.0, 80.0, "room"))]).unwrap() < room && best(&[(0.0, fed(10.0, 100.0, "room"))]).unwrap() > room);
    let cold = best(&[(2.0, fed(40.0, 80.0, "room")), (1.0, moved("fridge"))]);
    assert!(cold.is_none_or(|c| c > 2.0 * room), "{cold:?}");
    let weeks =
        jar.state(&log(&[(24.0 * 12.0, fed(40.0, 80.0, "room")), (24.0 * 12.0 - 2.0, moved("fridge"))]), &k, now(), &t.ferment).unwrap();
    assert_eq!(weeks.may_use(), Use::Feed);
    assert!((11.0..=12.0).contains(&weeks.cold_days) && weeks.after_the_cold().unwrap().contains("Weeks"));
    let months = jar.state(&log(&[(24.0 * 70.0, fed(40.0, 80.0, "fridge"))]), &k, now(), &t.ferment).unwrap();
    assert!(months.after_the_cold().unwrap().contains("month") && months.may_use() == Use::Feed);
}

#[test]
fn what_is_used_is_gone_and_a_feed_counts_what_is_in_the_jar() {
    let (t, k) = (tables(), kitchen());
    let jar = jar(&t);
    let s = jar.state(&log(&[(6.0, fed(40.0, 80.0, "room")), (1.0, value("used", 130.0))]), &k, now(), &t.ferment).unwrap();
    assert!((s.left_g - 70.0).abs() < 1e-9);
    let again = jar.state(&log(&[(30.0, fed(40.0, 80.0, "room")), (6.0, fed(20.0, 40.0, "room"))]), &k, now(), &t.ferment).unwrap();
    assert_eq!((again.left_g, again.before.len()), (100.0, 1));
    assert_eq!(jar.history(&again, &kitchen(), &t.ferment, 6).len(), 1);
}

#[test]
fn what_to_feed_for_an_hour_gives_the_grams_and_is_ripe_then() {
    let (t, k) = (tables(), kitchen());
    let jar = jar(&t);
    let ask = FeedAsk { at: now(), grams: 130.0, keep_g: 20.0, wanted: "2026-11-07T05:00:00Z".parse().unwrap() };
    let rows = feed_rows(&jar, None, &ask, &k, &t.ferment);
    assert!(rows.iter().all(|r| r.place != Place::Fridge), "the fridge keeps, it does not ripen");
    for r in &rows {
        let (seed, water, flour) = r.grams;
        assert!((seed + water + flour - 150.0).abs() < 1e-6 && (water - flour).abs() < 1e-9);
        // A jar of twice the volume at least: a wheat leaven more than doubles.
        assert!(r.jar_ml >= 300.0 && r.jar_ml < 800.0, "{}", r.jar_ml);
        assert_eq!(r.meets, r.best.0 <= ask.wanted && ask.wanted <= r.best.1);
    }
    let later_with_more = |place: Place| {
        let of: Vec<_> = rows.iter().filter(|r| r.place == place).map(|r| r.best.0).collect();
        assert!(of.windows(2).all(|w| w[0] < w[1]), "more flour, later: {of:?}");
    };
    later_with_more(Place::Room);
    let plan = feed_twice(&jar, None, &ask, &k, &t.ferment, &|_| false).unwrap();
    assert!(plan.second.is_none() && plan.first.meets);
    // A day ahead two feeds are built, the second from what the first has become, never in the night.
    let far = FeedAsk { wanted: "2026-11-07T17:00:00Z".parse().unwrap(), ..ask };
    let night = |at: Timestamp| (22..24).chain(0..6).any(|h| at.strftime("%H").to_string() == format!("{h:02}"));
    let twice = feed_twice(&jar, None, &far, &Kitchen { pantry_c: Some(22.0), ..k }, &t.ferment, &night).unwrap();
    let (at, second) = twice.second.unwrap();
    assert!(!night(at) && at > now() && second.meets);
    let first: f64 = twice.first.grams.0 + twice.first.grams.1 + twice.first.grams.2;
    assert!((first - second.grams.0).abs() < 1e-6, "the first makes the seed of the second");
}

#[test]
fn nonsense_is_told_at_its_field() {
    let pointers = |body: JarEventBody| -> Vec<String> {
        body.check(now()).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect()
    };
    assert_eq!(pointers(JarEventBody { kind: "sung-to".into(), ..JarEventBody::default() }), ["/kind"]);
    assert_eq!(pointers(JarEventBody { water: None, ..fed(20.0, 40.0, "room") }), ["/water"]);
    assert_eq!(pointers(fed(20.0, 40.0, "cellar")), ["/what"]);
    assert_eq!(pointers(value("level", 40.0)), ["/value"]);
    assert_eq!(pointers(JarEventBody { kind: "moved".into(), ..JarEventBody::default() }), ["/what"]);
    let ahead = JarEventBody { at: Some("2026-11-07T16:40:00Z".into()), ..value("level", 2.0) };
    assert_eq!(pointers(ahead), ["/at"]);
    let t = tables();
    let jar = JarBody { name: " ".into(), flour_mix: std::collections::BTreeMap::new(), hydration_pct: 10.0 };
    let wrong: Vec<String> = jar.check(&t.ferment).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect();
    assert_eq!(wrong, ["/name", "/hydration_pct", "/flour_mix"]);
}

/// What is read off a course lies on it: when it comes to a ripeness, and how high it stands there.
#[test]
fn a_ripeness_is_found_where_the_course_passes_it() {
    let t = tables();
    let leaven = Leaven {
        seed: 1.0,
        water: 2.0,
        flour: 2.0,
        flour_mix: vec![("plain-white".into(), 100.0)],
        seed_hydration_pct: 100.0,
        seed_state: None,
        place_c: 24.0,
        start_c: None,
        hours: None,
        mass_g: 200.0,
        rate: 1.0,
    };
    let f = leaven.until_fallen(&t.ferment).unwrap();
    assert!(f.end.ripeness > 1.0, "it is followed past its peak");
    let peak = f.event(EventKind::LeavenPeak).unwrap();
    let ripe = f.reaches(1.0).unwrap();
    assert!((ripe.min - peak.min).abs() < 1e-6 && (ripe.dough_h - peak.dough_h).abs() < 1e-6);
    let mut before = 0.0;
    for r in [0.2, 0.5, 0.9, 1.0, 1.2] {
        let here = f.reaches(r).unwrap();
        assert!(here.min > before, "riper is later");
        assert!((f.height_at(r) - here.rise_ratio).abs() < 1e-12);
        before = here.min;
    }
    assert_eq!(f.reaches(f.end.ripeness + 0.1), None);
    assert!((f.height_at(f.end.ripeness + 0.1) - f.end.rise_ratio).abs() < 1e-12);
    assert!((f.height_at(-1.0) - 1.0).abs() < 1e-12, "it begins at its own height");
}

/// With hours told, it is followed so long and no longer.
#[test]
fn a_leaven_with_hours_told_is_followed_so_long() {
    let t = tables();
    let mut leaven = jar(&t).leaven((50.0, 50.0, 50.0), None, 22.0, Some(3.0));
    assert!((leaven.until_fallen(&t.ferment).unwrap().end.min - 180.0).abs() < 1e-6);
    leaven.hours = None;
    let fallen = leaven.until_fallen(&t.ferment).unwrap();
    let falls = fallen.event(EventKind::LeavenFalls).unwrap();
    assert!(fallen.end.min > falls.min && fallen.end.min < falls.min + 60.0);
}
