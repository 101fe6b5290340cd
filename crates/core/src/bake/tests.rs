use jiff::Timestamp;

use super::*;
use crate::{
    Tables,
    formula::{Formula, FormulaDraft, KneadingBody, LineDraft, Typed},
    kitchen::Kitchen,
    plan::{Plan, PlanAsk, StepKind, later, minutes_between},
};

fn formula(t: &Tables) -> Formula {
    let line = |(id, g): (&str, f64)| LineDraft {
        ingredient: id.into(),
        grams: Typed::Number(g),
        grams_low: None,
        grams_high: None,
        stage: None,
        source: None,
        hydration_pct: None,
        used: None,
    };
    let lines = [("wheat-bread", 500.0), ("water", 350.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)].map(line).to_vec();
    let kneading = Some(KneadingBody { method: "fold".into(), minutes: None, rest_min: None, folds: None, butter_late: None });
    FormulaDraft { lines, kneading, ..FormulaDraft::default() }.check(&t.pantry).unwrap()
}

fn start() -> Timestamp {
    "2026-11-06T16:00:00Z".parse().unwrap()
}

fn event(seq: i32, kind: &str, minutes: f64, edit: impl Fn(&mut EventBody)) -> Event {
    let mut body = EventBody { kind: kind.into(), at: Some(later(start(), minutes).to_string()), ..EventBody::default() };
    edit(&mut body);
    Event { seq, event: body.check(later(start(), 10_000.0)).unwrap() }
}

struct Bench {
    tables: Tables,
    formula: Formula,
    kitchen: Kitchen,
    plan: Plan,
}

fn bench() -> Bench {
    let tables = Tables::built_in().unwrap();
    let (formula, kitchen) = (formula(&tables), Kitchen::default());
    let ask = PlanAsk::usual(&formula, &kitchen, start(), &tables);
    let plan = Plan::make(&formula, &ask, &kitchen, &tables).unwrap();
    Bench { tables, formula, kitchen, plan }
}

impl Bench {
    fn state(&self, log: &[Event], at_min: f64) -> BakeState {
        BakeState::of(log, &self.plan, &self.formula, &self.kitchen, later(start(), at_min), &self.tables).unwrap()
    }
}

#[test]
fn a_plan_has_its_acts_in_order_and_a_sign_beside_each() {
    let b = bench();
    let kinds: Vec<_> = b.plan.steps.iter().map(|s| s.kind).collect();
    for kind in [
        StepKind::Mix,
        StepKind::Bulk,
        StepKind::Fold,
        StepKind::Shape,
        StepKind::Proof,
        StepKind::OvenOn,
        StepKind::Load,
        StepKind::Out,
        StepKind::Ready,
    ] {
        assert!(kinds.contains(&kind), "{kind:?} is missing in {kinds:?}");
    }
    assert!(b.plan.steps.windows(2).all(|w| w[0].start <= w[1].start));
    assert!(b.plan.steps.iter().all(|s| !s.sign.is_empty() && !s.instruction.is_empty()), "every step has its sign");
    let (load, on) = (b.plan.step(StepKind::Load).unwrap(), b.plan.step(StepKind::OvenOn).unwrap());
    assert!((minutes_between(on.start, load.start) - b.plan.oven.preheat_min).abs() < 1e-6, "the oven is hot when the proof ends");
    assert!(load.low.unwrap() < load.start && load.start < load.high.unwrap());
}

#[test]
fn a_late_mix_moves_everything_and_says_so() {
    let b = bench();
    let log = [event(1, "mixed", b.plan.ask.mix_min + 25.0, |_| ())];
    let s = b.state(&log, b.plan.ask.mix_min + 30.0);
    assert!((s.late_min - 25.0).abs() < 1.0, "{}", s.late_min);
    assert_eq!(s.changed.len(), 3);
    assert_eq!(s.act().unwrap().kind, StepKind::Fold);
    assert!(s.dough.unwrap().dough_h > 0.0);
}

#[test]
fn a_warm_dough_is_ripe_sooner_and_a_sign_beats_the_clock() {
    let b = bench();
    let mixed = event(1, "mixed", 10.0, |_| ());
    let plain = b.state(std::slice::from_ref(&mixed), 12.0);
    let warm = b.state(&[mixed.clone(), event(2, "temperature", 12.0, |e| (e.value, e.stage) = (Some(29.0), Some("dough".into())))], 12.0);
    assert!(warm.course.ready_at < plain.course.ready_at);
    let later_reading =
        b.state(&[mixed.clone(), event(2, "temperature", 60.0, |e| (e.value, e.stage) = (Some(28.0), Some("dough".into())))], 61.0);
    assert!(later_reading.course.ready_at < plain.course.ready_at);
    assert!((later_reading.dough.unwrap().dough_c - 28.0).abs() < 0.3);
    let ripe = b.state(&[mixed.clone(), event(2, "ripe", 80.0, |e| e.stage = Some("bulk".into()))], 81.0);
    // A minute has passed since: it is due now.
    assert!(minutes_between(later(start(), 81.0), ripe.next.iter().find(|s| s.kind == StepKind::Shape).unwrap().start).abs() < 0.01);
    let cold = b.state(&[mixed, event(2, "moved", 30.0, |e| e.what = Some("fridge".into()))], 31.0);
    assert!(cold.course.ready_at > plain.course.ready_at);
}

#[test]
fn the_order_of_arrival_does_not_matter_and_an_undo_takes_back() {
    let b = bench();
    let log = [event(1, "mixed", 10.0, |_| ()), event(2, "shaped", 150.0, |_| ()), event(3, "fold", 45.0, |_| ())];
    let mut turned = log.clone();
    turned.reverse();
    assert_eq!(b.state(&log, 160.0).next, b.state(&turned, 160.0).next);
    let undone = [log[0].clone(), log[1].clone(), event(3, "undo", 151.0, |e| e.value = Some(2.0))];
    assert!(b.state(&undone, 160.0).next.iter().any(|s| s.kind == StepKind::Shape));
    let again = event(4, "undo", 152.0, |e| e.value = Some(3.0));
    assert!(again.event.conflict(&undone).is_some(), "an undo cannot be undone");
    assert!(event(4, "undo", 152.0, |e| e.value = Some(9.0)).event.conflict(&undone).is_some());
}

#[test]
fn a_finished_bake_has_its_outcome() {
    let b = bench();
    let log = [
        event(1, "mixed", 10.0, |_| ()),
        event(2, "shaped", 140.0, |_| ()),
        event(3, "loaded", 200.0, |e| e.value = Some(230.0)),
        event(4, "out", 235.0, |_| ()),
        event(5, "colour", 236.0, |e| e.what = Some("brown".into())),
        event(6, "rating", 300.0, |e| e.value = Some(4.0)),
        event(7, "sliced", 310.0, |_| ()),
        event(8, "note", 320.0, |e| (e.note, e.what) = (Some("A little more salt".into()), Some("next-time".into()))),
    ];
    let s = b.state(&log, 330.0);
    assert!(s.finished && s.next.is_empty(), "{:?}", s.next.iter().map(|n| n.kind).collect::<Vec<_>>());
    let sum = summary(&log);
    assert_eq!((sum.colour.as_deref(), sum.rating, sum.next_time.as_deref()), (Some("brown"), Some(4.0), Some("A little more salt")));
}

#[test]
fn wrong_events_are_told_at_their_field() {
    let now = start();
    let at = |body: EventBody| body.check(now).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect::<Vec<_>>();
    let body = |kind: &str| EventBody { kind: kind.into(), ..EventBody::default() };
    assert_eq!(at(body("danced")), ["/kind"]);
    assert_eq!(at(body("temperature")), ["/value", "/stage"]);
    assert_eq!(at(EventBody { value: Some(9.0), ..body("rating") }), ["/value"]);
    assert_eq!(at(EventBody { at: Some("2026-11-06T18:31:00".into()), ..body("mixed") }), ["/at"], "no offset");
    assert_eq!(at(EventBody { at: Some("2026-11-06T17:31:00+00:00".into()), ..body("mixed") }), ["/at"], "too far ahead");
    assert_eq!(at(EventBody { unit: Some("F".into()), value: Some(90.0), stage: Some("dough".into()), ..body("temperature") }), ["/unit"]);
    assert_eq!(at(EventBody { what: Some("attic".into()), ..body("moved") }), ["/what"]);
}
