//! Two oven loads of one dough: the second waits, goes in when the oven is hot again, and the bake is over when it is out.

use cerealis_core::{
    bake::{BakeState, Event, EventBody, summary},
    ferment::EventKind,
    formula::Formula,
    kitchen::Kitchen,
    plan::{
        Plan, StepKind, later, minutes_between,
        search::{answer::fit, ask::FitAsk},
    },
};
use jiff::Timestamp;

use super::bench::tables;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

/// Twenty-four rolls, two trays, one oven shelf.
fn rolls() -> Formula {
    let text = r#"{"lines":[{"ingredient":"wheat-bread","grams":1000},{"ingredient":"water","grams":640},{"ingredient":"salt-fine","grams":20},{"ingredient":"yeast-instant","grams":7}],"pieces":{"count":24,"piece_g":68,"shape":"ball","vessel":"sheet"}}"#;
    let body: cerealis_core::formula::FormulaBody = serde_json::from_str(text).unwrap();
    cerealis_core::formula::FormulaDraft::from(body).check(&tables().pantry).unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 22.0, scale_step_g: 0.1, ..Kitchen::default() }
}

fn plan(loads: u32) -> (Formula, Plan) {
    let (t, k) = (tables(), kitchen());
    let ask = FitAsk { ready_at: Some(at("2026-11-07T18:00:00Z")), loads, ..FitAsk::soon(at("2026-11-07T08:00:00Z"), &k) };
    let answer = fit(&rolls(), &ask, &k, t, &|at: Timestamp| at.strftime("%H:%M").to_string()).unwrap();
    let o = &answer.offers[0];
    (o.formula.clone(), Plan::make(&o.formula, &o.ask, &k, t).unwrap())
}

struct Log(Vec<Event>);

impl Log {
    fn note(&mut self, kind: &str, at: Timestamp) {
        let body = EventBody { kind: kind.into(), at: Some(at.to_string()), ..EventBody::default() };
        let seq = i32::try_from(self.0.len()).unwrap() + 1;
        self.0.push(Event { seq, event: body.check(at).unwrap() });
    }
    fn state(&self, plan: &Plan, f: &Formula, now: Timestamp) -> BakeState {
        BakeState::of(&self.0, plan, f, &kitchen(), now, tables()).unwrap()
    }
}

fn starts(plan: &Plan, kind: StepKind) -> Vec<Timestamp> {
    plan.steps.iter().filter(|s| s.kind == kind).map(|s| s.start).collect()
}

#[test]
fn each_load_has_its_acts_and_the_oven_its_minutes_between() {
    let (_, two) = plan(2);
    let (ins, outs) = (starts(&two, StepKind::Load), starts(&two, StepKind::Out));
    assert_eq!((ins.len(), outs.len()), (2, 2));
    assert!((minutes_between(outs[0], ins[1]) - 10.0).abs() < 1.1, "the oven gets hot again");
    assert!((minutes_between(ins[0], outs[0]) - minutes_between(ins[1], outs[1])).abs() < 0.1, "both bake as long");
    for kind in [StepKind::SteamOff, StepKind::Turn, StepKind::Check] {
        assert_eq!(starts(&two, kind).len() % 2, 0, "{kind:?} once for each load");
    }
    assert_eq!(starts(&two, StepKind::OvenOn).len(), 1, "it is heated once");
    let (_, one) = plan(1);
    assert_eq!(starts(&one, StepKind::Load).len(), 1);
}

#[test]
fn the_bake_goes_on_to_the_last_load() {
    let (f, plan) = plan(2);
    let first = |kind: StepKind| plan.step(kind).unwrap().start;
    let (ins, outs) = (starts(&plan, StepKind::Load), starts(&plan, StepKind::Out));
    let mut log = Log(Vec::new());
    log.note("mixed", later(first(StepKind::Mix), plan.ask.mix_min));
    log.note("shaped", plan.step(StepKind::Shape).unwrap().end);
    log.note("oven-on", first(StepKind::OvenOn));
    log.note("loaded", ins[0]);
    log.note("out", outs[0]);
    let s = log.state(&plan, &f, later(outs[0], 1.0));
    assert_eq!(s.act().unwrap().kind, StepKind::Load, "the second tray is next");
    assert!(s.next.iter().any(|n| n.kind == StepKind::Out));
    assert!(!s.done.iter().any(|d| d.step.kind == StepKind::Load && d.step.start >= outs[0]));
    assert!(minutes_between(plan.ready_at, s.course.ready_at).abs() < 3.0, "one load out does not make it ready");
    assert_eq!(plan.taken_out(&summary(&log.0).outs), None);
    // The second goes in ten minutes late: what follows it moves by ten.
    let late = later(ins[1], 10.0);
    log.note("loaded", late);
    let s = log.state(&plan, &f, late);
    assert_eq!(s.course.loads[1].at, late);
    assert!((minutes_between(plan.ready_at, s.course.ready_at) - 10.0).abs() < 3.0);
    assert_eq!(s.course.load, ins[0], "the first went in when it did");
    let out = s.course.loads[1].out;
    log.note("out", out);
    let s = log.state(&plan, &f, out);
    assert_eq!(s.act().unwrap().kind, StepKind::Ready);
    assert_eq!(plan.taken_out(&summary(&log.0).outs), Some(out));
    assert_eq!(plan.loaded(&summary(&log.0).loads), Some(ins[0]));
}

/// The last load waits for the others: however late the first goes in, the last is in before it is over.
#[test]
fn what_may_wait_is_counted_to_the_last_load() {
    for loads in [1, 2] {
        let (f, plan) = plan(loads);
        let laid = plan.ask.laid.as_ref().unwrap();
        let course = plan.course(&f, &Default::default(), &kitchen(), tables()).unwrap();
        let over = course.forecast.events.iter().find(|e| e.kind == EventKind::OverProofed).unwrap();
        let until_over = over.min - course.forecast.end.min;
        let last = laid.proof.late_min + f64::from(loads - 1) * laid.loads.1;
        assert!(last < until_over + 10.0 && last > until_over - 25.0, "{loads}: {last} of {until_over} min");
    }
}

/// Whoever forgot to note the first load out and loads the second has taken the first out.
#[test]
fn the_next_load_tells_that_the_one_before_is_out() {
    let (f, plan) = plan(2);
    let ins = starts(&plan, StepKind::Load);
    let mut log = Log(Vec::new());
    log.note("mixed", later(plan.ask.start, plan.ask.mix_min));
    // On time, and some minutes before the first was due: the second oven shelf was hot enough.
    for second in [ins[1], later(ins[1], -14.0)] {
        let mut log = Log(log.0.clone());
        log.note("loaded", ins[0]);
        log.note("loaded", second);
        let s = log.state(&plan, &f, second);
        let out: Vec<_> = s.done.iter().filter(|d| d.step.kind == StepKind::Out).collect();
        assert!(out.len() == 1 && !out[0].noted && out[0].at == second, "{out:?}");
        assert_eq!(s.next.iter().filter(|n| n.kind == StepKind::Out).count(), 1);
        assert_eq!(s.course.loads[0].out.min(second), s.course.loads[0].out, "the first was out by then");
    }
}

/// With one load a second note of it puts the first right.
#[test]
fn one_load_noted_twice_was_noted_wrong_at_first() {
    let (f, plan) = plan(1);
    let load = plan.step(StepKind::Load).unwrap().start;
    let mut log = Log(Vec::new());
    log.note("mixed", later(plan.ask.start, plan.ask.mix_min));
    log.note("loaded", load);
    log.note("loaded", later(load, 12.0));
    let s = log.state(&plan, &f, later(load, 13.0));
    assert_eq!(s.course.load, later(load, 12.0));
    assert!(s.next.iter().any(|n| n.kind == StepKind::Out));
}
