//! The log of a bake: what may be written, and what is refused and why.

use cerealis_core::{
    bake::{Event, EventBody, EventKind, summary},
    measure::plain,
    plan::later,
};
use jiff::Timestamp;

use super::bench::places;

fn now() -> Timestamp {
    "2026-11-06T18:00:00Z".parse().unwrap()
}

fn body(kind: &str, edit: impl Fn(&mut EventBody)) -> EventBody {
    let mut b = EventBody { kind: kind.into(), ..EventBody::default() };
    edit(&mut b);
    b
}

fn kept(seq: i32, kind: &str, edit: impl Fn(&mut EventBody)) -> Event {
    Event { seq, event: body(kind, edit).check(now()).unwrap() }
}

#[test]
fn acts_need_no_more_than_their_name() {
    for kind in
        ["mixed", "fold", "knock-back", "divided", "shaped", "oven-on", "loaded", "steam-off", "turned", "foil", "lid-off", "out", "sliced"]
    {
        let e = body(kind, |_| {}).check(now()).unwrap();
        assert_eq!((e.kind.word(), e.at), (kind, now()));
    }
}

#[test]
fn words_of_events_come_back() {
    for word in EventKind::words() {
        assert_eq!(EventKind::from_word(word).map(EventKind::word), Some(word));
    }
    assert!(EventKind::from_word("dropped").is_none());
}

#[test]
fn what_is_measured_says_what_and_how_warm() {
    for thing in ["dough", "water", "flour", "room", "pantry", "fridge", "proof-box", "oven-light", "oven", "leaven"] {
        body("temperature", |b| (b.stage, b.value) = (Some(thing.into()), Some(21.5))).check(now()).unwrap();
    }
}

#[test]
fn a_reading_on_the_wrong_scale_is_asked_about() {
    let why = |stage: &str, value: f64| {
        let refused = body("temperature", |b| (b.stage, b.value) = (Some(stage.into()), Some(value))).check(now());
        refused.err().map(|e| plain(&e.0[0].message).into_owned()).unwrap_or_default()
    };
    assert_eq!(why("room", 70.0), "70 °C is no room. Is that Fahrenheit? Then it is 21 °C.");
    assert_eq!(why("dough", 78.0), "78 °C is no dough. Is that Fahrenheit? Then it is 26 °C.");
    assert_eq!(why("oven", 430.0), "430 °C is no oven. Is that Fahrenheit? Then it is 221 °C.");
    assert_eq!(why("fridge", -60.0), "A reading of the fridge lies between −20 and 30 °C.");
    assert_eq!(why("room", 21.0), "");
    let core = body("core", |b| b.value = Some(205.0)).check(now()).unwrap_err();
    assert_eq!(plain(&core.0[0].message), "205 °C is no loaf's core. Is that Fahrenheit? Then it is 96 °C.");
}

/// A kind, a change to it, and the field that is refused.
type Refusal = (&'static str, fn(&mut EventBody), &'static str);

#[test]
fn each_wrong_field_is_named() {
    let cases: &[Refusal] = &[
        ("dropped", |_| {}, "/kind"),
        ("", |_| {}, "/kind"),
        ("mixed", |b| b.at = Some("tea time".into()), "/at"),
        ("mixed", |b| b.at = Some("2026-11-06T19:30:00Z".into()), "/at"),
        ("mixed", |b| b.at = Some("1950-01-01T00:00:00Z".into()), "/at"),
        ("temperature", |b| b.stage = Some("dough".into()), "/value"),
        ("temperature", |b| b.value = Some(21.0), "/stage"),
        ("temperature", |b| (b.stage, b.value) = (Some("cat".into()), Some(38.5)), "/stage"),
        ("temperature", |b| (b.stage, b.value) = (Some("dough".into()), Some(900.0)), "/value"),
        ("temperature", |b| (b.stage, b.value) = (Some("dough".into()), Some(f64::NAN)), "/value"),
        ("temperature", |b| (b.stage, b.value, b.unit) = (Some("dough".into()), Some(75.0), Some("F".into())), "/unit"),
        ("core", |_| {}, "/value"),
        ("core", |b| b.value = Some(200.0), "/value"),
        ("weighed", |_| {}, "/value"),
        ("weighed", |b| b.value = Some(-3.0), "/value"),
        ("weighed", |b| (b.value, b.unit) = (Some(3.0), Some("oz".into())), "/unit"),
        ("loaded", |b| b.value = Some(5.0), "/value"),
        ("oven-on", |b| b.value = Some(900.0), "/value"),
        ("rating", |_| {}, "/value"),
        ("rating", |b| b.value = Some(6.0), "/value"),
        ("moved", |_| {}, "/what"),
        ("moved", |b| b.what = Some("moon".into()), "/what"),
        ("ripe", |_| {}, "/stage"),
        ("not-yet", |b| b.stage = Some("nap".into()), "/stage"),
        ("colour", |b| b.what = Some("blue".into()), "/what"),
        ("fault", |b| b.what = Some("haunted".into()), "/what"),
        ("note", |_| {}, "/note"),
        ("note", |b| b.note = Some("  ".into()), "/note"),
        ("note", |b| b.note = Some("x".repeat(4001)), "/note"),
        ("undo", |_| {}, "/value"),
        ("mixed", |b| b.unit = Some("g".into()), "/unit"),
        ("ripe", |b| (b.stage, b.seen) = (Some("bulk".into()), Some("perhaps".into())), "/seen"),
    ];
    for (kind, edit, place) in cases {
        let e = body(kind, edit).check(now()).unwrap_err();
        assert!(places(&e).contains(place), "{kind} {place}: {e:?}");
        assert!(e.0.iter().all(|x| x.message.ends_with('.') || x.message.ends_with('?')), "{e:?}");
    }
}

#[test]
fn a_wrong_word_is_answered_with_a_near_one() {
    let e = body("mixd", |_| {}).check(now()).unwrap_err();
    assert!(e.0[0].message.contains("Did you mean “mixed”?"), "{e:?}");
}

#[test]
fn a_phone_a_few_minutes_ahead_is_believed() {
    assert!(body("mixed", |b| b.at = Some(later(now(), 9.0).to_string())).check(now()).is_ok());
    assert!(body("mixed", |b| b.at = Some(later(now(), 11.0).to_string())).check(now()).is_err());
}

#[test]
fn an_undo_needs_something_to_undo() {
    let log = [kept(1, "mixed", |_| {}), kept(2, "undo", |b| b.value = Some(1.0))];
    let undo = |seq: f64| body("undo", |b| b.value = Some(seq)).check(now()).unwrap().conflict(&log);
    assert_eq!(undo(1.0), None);
    assert!(undo(7.0).unwrap().contains("no event 7"));
    assert!(undo(2.0).unwrap().contains("cannot be undone"));
}

#[test]
fn the_summary_holds_what_the_logbook_shows() {
    let log = [
        kept(1, "mixed", |_| {}),
        kept(2, "out", |_| {}),
        kept(3, "core", |b| b.value = Some(96.0)),
        kept(4, "colour", |b| b.what = Some("golden".into())),
        kept(5, "rating", |b| b.value = Some(4.0)),
        kept(6, "note", |b| b.note = Some("Good ear".into())),
    ];
    let s = summary(&log);
    assert_eq!((s.core_c, s.colour.as_deref(), s.rating), (Some(96.0), Some("golden"), Some(4.0)));
    assert!(!s.outs.is_empty());
}

#[test]
fn what_was_taken_back_is_not_in_the_summary() {
    let log = [kept(1, "rating", |b| b.value = Some(1.0)), kept(2, "undo", |b| b.value = Some(1.0))];
    assert_eq!(summary(&log).rating, None);
}

#[test]
fn the_later_word_on_the_same_thing_counts() {
    let log = [kept(1, "colour", |b| b.what = Some("pale".into())), kept(2, "colour", |b| b.what = Some("brown".into()))];
    assert_eq!(summary(&log).colour.as_deref(), Some("brown"));
}

#[test]
fn an_event_survives_being_written_down() {
    let b = body("temperature", |b| (b.stage, b.value, b.note) = (Some("dough".into()), Some(24.5), Some("in the middle".into())));
    let text = serde_json::to_string(&b).unwrap();
    assert_eq!(serde_json::from_str::<EventBody>(&text).unwrap(), b);
    assert!(!text.contains("null"), "{text}");
}
