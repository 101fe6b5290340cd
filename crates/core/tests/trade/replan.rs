//! The rest of a bake planned anew on the day. Facts of the trade: common practice, no source.

use cerealis_core::{
    ferment::RiseKind,
    formula::{Formula, FormulaDraft},
    kitchen::{Hours, HoursKind, Kitchen, Place, Stay},
    plan::{
        Actual, Beside, Course, HandsUse, Look, OvenPlan, OvenUse, Plan, PlanAsk, RisePlan, Seen, StepKind, course, later, minutes_between,
        replan::{OnTheDay, Reason, Replanned, RestChange, RestOption},
        search::{hours::Need, schedule::RiseOf},
    },
};
use jiff::Timestamp;

use super::bench::{LEAN, draft, formula, near, tables};

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 21.0, pantry_c: Some(15.0), fridge_c: Some(4.0), oven_light_c: Some(28.0), scale_step_g: 0.1, ..Kitchen::default() }
}

/// The same where everybody sleeps from eleven to half past six.
fn sleeping() -> Kitchen {
    let night = Hours {
        name: "asleep".into(),
        kind: HoursKind::Asleep,
        days: (0..7).collect(),
        date: None,
        from: "23:00".into(),
        to: "06:30".into(),
    };
    Kitchen { hours: vec![night], ..kitchen() }
}

/// A bake under way, all in the room, mixed at that hour.
struct Bake {
    kitchen: Kitchen,
    formula: Formula,
    plan: Plan,
    actual: Actual,
    beside: Vec<Beside>,
}

impl Bake {
    fn of(formula: Formula, kitchen: Kitchen, mixed: &str) -> Self {
        let (mixed, t) = (at(mixed), tables());
        let usual = PlanAsk::usual(&formula, &kitchen, later(mixed, -20.0), t);
        let room = |r: RisePlan| RisePlan { place: Place::Room, place_c: kitchen.room_c, ..r };
        let ask = PlanAsk {
            start: later(mixed, -20.0),
            mix_min: 20.0,
            mixing: Vec::new(),
            bulk: usual.bulk.map(room),
            proof: room(usual.proof),
            ..usual
        };
        let plan = Plan::make(&formula, &ask, &kitchen, t).unwrap();
        Self { kitchen, formula, plan, actual: Actual { mixed: Some(mixed), ..Actual::default() }, beside: Vec::new() }
    }
    fn lean(kitchen: Kitchen, mixed: &str) -> Self {
        Self::of(formula(LEAN), kitchen, mixed)
    }
    fn with(self, change: impl FnOnce(&mut Actual)) -> Self {
        let mut actual = self.actual.clone();
        change(&mut actual);
        Self { actual, ..self }
    }
    fn shaped(self, hour: &str) -> Self {
        self.with(|a| a.shaped = Some(at(hour)))
    }
    fn course(&self) -> Course {
        self.plan.course(&self.formula, &self.actual, &self.kitchen, tables()).unwrap()
    }
    fn course_at(&self, now: &str) -> Course {
        let actual = Actual { now: Some(at(now)), ..self.actual.clone() };
        self.plan.course(&self.formula, &actual, &self.kitchen, tables()).unwrap()
    }
    fn planned(&self, kind: StepKind) -> Timestamp {
        self.plan.step(kind).unwrap().start
    }
    fn at(&self, now: &str) -> Option<Replanned> {
        let course = self.course_at(now);
        let day = OnTheDay {
            plan: &self.plan,
            course: &course,
            formula: &self.formula,
            actual: &self.actual,
            kitchen: &self.kitchen,
            tables: tables(),
            now: at(now),
            beside: &self.beside,
        };
        day.replan().unwrap()
    }
}

fn has(o: &RestOption, kind: &str) -> bool {
    o.changes.iter().any(|c| c.word() == kind)
}

#[test]
fn what_goes_as_planned_is_left_alone() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z");
    assert!(bake.at("2026-11-07T10:00:00Z").is_none());
    assert!(bake.at("2026-11-07T08:50:00Z").is_none(), "not mixed yet");
    let loaded = bake.shaped("2026-11-07T11:15:00Z").with(|a| a.loads.push(at("2026-11-07T12:33:00Z")));
    assert!(loaded.at("2026-11-07T12:40:00Z").is_none(), "it is in the oven");
}

#[test]
fn a_dough_two_degrees_colder_goes_to_a_warmer_place_or_is_baked_later() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.dough_c.push((at("2026-11-07T09:02:00Z"), 21.0)));
    let late = minutes_between(bake.planned(StepKind::Load), bake.course().load);
    let found = bake.at("2026-11-07T09:20:00Z").unwrap();
    let off = found.reasons.iter().find_map(|r| if let Reason::Off(min) = r { Some(*min) } else { None }).unwrap();
    assert!(near(off, late, 1e-9) && off > 15.0, "{:?}", found.reasons);
    let [first, second] = &found.options[..] else { panic!("{:?}", found.options) };
    assert_eq!(first.changes, [RestChange::Place(RiseOf::Bulk, Place::OvenLight)]);
    let carry = first.carry.unwrap();
    assert_eq!((carry.place, carry.at), (Place::OvenLight, at("2026-11-07T09:20:00Z")));
    assert!(minutes_between(first.load, bake.planned(StepKind::Load)).abs() < 10.0, "in time after all");
    // Else the load waits about the minutes the course itself is late.
    assert!(matches!(second.changes[..], [RestChange::ReadyLater(min)] if near(f64::from(min), late, 10.0)), "{:?}", second.changes);
    assert!(second.carry.is_none());
}

#[test]
fn a_rise_that_has_just_begun_has_all_of_its_time_to_go() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.dough_c.push((at("2026-11-07T09:00:00Z"), 20.0)));
    let found = bake.at("2026-11-07T09:00:00Z").unwrap();
    assert!(found.options.iter().all(|o| minutes_between(at("2026-11-07T09:00:00Z"), o.shape.unwrap()) > 90.0), "{:?}", found.options);
    let shaped = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").shaped("2026-11-07T12:20:00Z");
    for o in shaped.at("2026-11-07T12:20:00Z").into_iter().flat_map(|r| r.options) {
        assert!(minutes_between(at("2026-11-07T12:20:00Z"), o.load) > 25.0, "{o:?}");
    }
}

#[test]
fn a_dough_too_warm_may_be_used_riper_cooled_or_braked_and_nothing_is_shortened() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.dough_c.push((at("2026-11-07T09:02:00Z"), 29.0)));
    let found = bake.at("2026-11-07T09:20:00Z").unwrap();
    assert!(!found.options.is_empty());
    for o in &found.options {
        let off = minutes_between(bake.planned(StepKind::Load), o.load);
        assert!(off.abs() <= 10.0 || (off < 0.0 && has(o, "load-sooner")), "{:?} {}", o.changes, o.load);
        assert!(o.ripeness.iter().all(|r| (0.85..1.2).contains(&r.1)), "{:?}", o.ripeness);
    }
    let weights: Vec<u8> = found.options.iter().map(|o| o.changes.iter().map(RestChange::kind).max().unwrap_or(0)).collect();
    assert!(weights.is_sorted(), "the least change first: {weights:?}");
}

#[test]
fn a_dough_mixed_late_waits_in_the_fridge_until_morning() {
    let bake = Bake::lean(sleeping(), "2026-11-07T21:30:00Z");
    let found = bake.at("2026-11-07T22:00:00Z").expect("over before half past six");
    let Reason::Nobody { act, due, over, back } = found.reasons[0] else { panic!("{:?}", found.reasons) };
    assert_eq!((act, back), (StepKind::Shape, at("2026-11-08T06:30:00Z")));
    assert!(due > at("2026-11-07T23:00:00Z") && over.unwrap() < back);
    let best = &found.options[0];
    assert!(has(best, "fridge"), "{:?}", best.changes);
    assert!(best.shape.unwrap() >= back && best.load > best.shape.unwrap());
    let carry = best.carry.unwrap();
    assert!(carry.place == Place::Fridge && carry.by >= carry.at && carry.by < at("2026-11-07T23:00:00Z"), "{carry:?}");
}

#[test]
fn nothing_is_said_where_somebody_is_there_in_time() {
    let awake = Kitchen { nights_told: true, ..kitchen() };
    assert!(Bake::lean(awake, "2026-11-07T21:30:00Z").at("2026-11-07T22:00:00Z").is_none(), "nobody sleeps here");
    let untold = Bake::lean(kitchen(), "2026-11-07T21:30:00Z").at("2026-11-07T22:00:00Z");
    assert!(untold.is_some(), "until somebody says otherwise a household sleeps from eleven to seven");
    assert!(Bake::lean(sleeping(), "2026-11-07T09:00:00Z").at("2026-11-07T10:00:00Z").is_none(), "ripe by day");
}

#[test]
fn an_act_that_is_due_moves_what_follows_and_is_spoken_of_once_it_may_wait_no_longer() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z");
    let shape = bake.plan.step(StepKind::Shape).unwrap();
    assert!(shape.high.unwrap() > later(shape.start, 15.0));
    let soon = later(shape.start, 15.0).to_string();
    let course = bake.course_at(&soon);
    assert!(course.due && course.load > later(bake.planned(StepKind::Load), 5.0), "it is not shaped yet");
    let (ripe, now) =
        (course.forecast.event(RiseKind::Bulk.ripe()).unwrap().dough_h, course.forecast.curve.iter().rfind(|r| r.stage == 0).unwrap());
    assert!(now.dough_h > ripe, "the dough has gone on rising");
    assert!(bake.at(&soon).is_none(), "within its range the sign decides");
    let found = bake.at("2026-11-07T12:30:00Z").unwrap();
    assert!(found.reasons.contains(&Reason::Over(RiseOf::Bulk, at("2026-11-07T12:30:00Z"))), "{:?}", found.reasons);
    assert_eq!(found.options[0].shape, Some(at("2026-11-07T12:30:00Z")), "at once");
}

#[test]
fn what_is_not_mixed_yet_is_mixed_later_and_a_loaf_not_out_is_in_the_oven() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z");
    let late = Bake { actual: Actual::default(), ..Bake::lean(kitchen(), "2026-11-07T09:00:00Z") }.course_at("2026-11-07T09:40:00Z");
    assert_eq!(minutes_between(bake.course().mixed, late.mixed).round(), 40.0);
    assert_eq!(minutes_between(bake.course().ready_at, late.ready_at).round(), 40.0);
    let loaded = bake.shaped("2026-11-07T11:15:00Z").with(|a| a.loads.push(at("2026-11-07T12:33:00Z")));
    let due = loaded.course().loads[0].out;
    let left = loaded.course_at(&later(due, 12.0).to_string());
    assert!(near(minutes_between(due, left.loads[0].out), 12.0, 0.1));
}

#[test]
fn an_oven_lit_too_late_is_spoken_of_and_the_fridge_bridges_it() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").shaped("2026-11-07T11:15:00Z");
    let now = later(bake.planned(StepKind::Load), -2.0).to_string();
    let found = bake.at(&now).unwrap();
    let hot = later(at(&now), bake.plan.oven.preheat_min);
    assert!(found.reasons.contains(&Reason::OvenCold(hot)), "{:?}", found.reasons);
    assert!(found.options.iter().all(|o| minutes_between(hot, o.load) >= -1.0), "{:?}", found.options);
    let lit = bake.with(|a| a.lit = Some(at("2026-11-07T12:00:00Z")));
    assert!(lit.at(&now).is_none_or(|r| !r.reasons.iter().any(|r| matches!(r, Reason::OvenCold(_)))));
}

#[test]
fn a_loaf_that_is_over_is_another_bread() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").shaped("2026-11-07T11:20:00Z");
    let found = bake.at("2026-11-07T15:30:00Z").unwrap();
    assert!(found.other_bread);
    assert!(found.reasons.iter().any(|r| matches!(r, Reason::Over(RiseOf::Proof, _))), "{:?}", found.reasons);
    let now = &found.options[0];
    let heated = later(at("2026-11-07T15:30:00Z"), bake.plan.oven.preheat_min);
    assert!(minutes_between(heated, now.load).abs() <= 1.0, "as soon as the oven is hot: {}", now.load);
    // Who chose it is not told again.
    let chosen = Bake {
        actual: Actual { rest: Some(Box::new(now.rest.clone())), ..bake.actual.clone() },
        ..Bake::lean(kitchen(), "2026-11-07T09:00:00Z")
    };
    assert_eq!(chosen.at("2026-11-07T15:32:00Z").map(|r| r.reasons), None);
    // A bulk that is over can still be shaped.
    assert!(!Bake::lean(kitchen(), "2026-11-07T09:00:00Z").at("2026-11-07T15:30:00Z").unwrap().other_bread);
}

#[test]
fn a_lit_oven_is_hot_the_sooner() {
    let bake = || Bake::lean(kitchen(), "2026-11-07T09:00:00Z").shaped("2026-11-07T11:20:00Z");
    let load = |b: Bake| b.at("2026-11-07T15:30:00Z").unwrap().options[0].load;
    let (cold, hot) = (load(bake()), load(bake().with(|a| a.lit = Some(at("2026-11-07T15:20:00Z")))));
    assert!(near(minutes_between(hot, cold), 10.0, 1.0), "{hot} {cold}");
}

#[test]
fn a_proof_ripe_before_the_oven_is_hot_goes_into_the_fridge() {
    let seen = Seen { at: at("2026-11-07T12:00:00Z"), kind: RiseKind::Proof, look: Look::Ripe };
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").shaped("2026-11-07T11:20:00Z").with(|a| {
        a.ripe = Some(seen.at);
        a.seen.push(seen);
    });
    let found = bake.at("2026-11-07T12:01:00Z").unwrap();
    let brake = found.options.iter().find(|o| has(o, "fridge")).expect("the oven takes a quarter of an hour");
    assert!(brake.carry.unwrap().by <= at("2026-11-07T12:10:00Z"), "soon: {:?}", brake.carry);
    assert!(brake.load < bake.planned(StepKind::Load));
}

#[test]
fn an_oven_another_bread_is_in_is_waited_for() {
    let taken = (at("2026-11-07T12:20:00Z"), at("2026-11-07T13:20:00Z"));
    let oven = vec![OvenUse { from: taken.0, to: taken.1, set_c: None, steam: None }];
    let other = Beside { bread: "Harbour rye".into(), oven, hands: Vec::new() };
    let bake = Bake { beside: vec![other], ..Bake::lean(kitchen(), "2026-11-07T09:00:00Z").shaped("2026-11-07T11:15:00Z") };
    let found = bake.at("2026-11-07T11:45:00Z").unwrap();
    assert!(
        found.reasons.iter().any(|r| matches!(r, Reason::OvenTaken { bread, back, .. } if *back == taken.1 && bread == "Harbour rye")),
        "{:?}",
        found.reasons
    );
    assert!(!found.options.is_empty());
    for o in &found.options {
        assert!(o.load > taken.1 || later(o.load, bake.plan.oven.minutes) < taken.0, "{:?} {}", o.changes, o.load);
    }
    // The pantry and the fridge hold it so long.
    assert!(found.options.iter().any(|o| has(o, "fridge") || has(o, "place")), "{:?}", found.options);
}

#[test]
fn hands_that_are_at_another_bread_are_waited_for() {
    let bake = |beside| Bake {
        beside,
        ..Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.dough_c.push((at("2026-11-07T09:02:00Z"), 21.0)))
    };
    let load = bake(Vec::new()).at("2026-11-07T09:20:00Z").unwrap().options[0].load;
    let (from, to) = (later(load, -10.0), later(load, 20.0));
    let hands = vec![HandsUse { from, to, need: Need::Hands }];
    let other = Beside { bread: "Harbour rye".into(), oven: Vec::new(), hands };
    let found = bake(vec![other]).at("2026-11-07T09:20:00Z").unwrap();
    assert!(!found.options.is_empty());
    for o in &found.options {
        assert!(o.load >= to || o.load < from, "{:?} {}", o.changes, o.load);
    }
}

#[test]
fn hands_that_are_never_free_are_named_and_the_dough_is_still_told_a_way() {
    let mixed = at("2026-11-07T09:00:00Z");
    let busy = |h: i32| {
        let from = later(mixed, 60.0 * f64::from(h));
        let hands = vec![HandsUse { from, to: later(from, 60.0), need: Need::Hands }];
        Beside { bread: if h % 2 == 0 { "Harbour rye" } else { "Cove rolls" }.into(), oven: Vec::new(), hands }
    };
    let others: Vec<Beside> = (0..30).map(busy).collect();
    let bake = Bake {
        beside: others,
        ..Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.dough_c.push((at("2026-11-07T09:02:00Z"), 21.0)))
    };
    let found = bake.at("2026-11-07T09:20:00Z").unwrap();
    let [only] = found.options.as_slice() else { panic!("{:?}", found.options) };
    assert!(
        only.changes.iter().any(|c| matches!(c, RestChange::HandsTaken(_, bread) if bread == "Harbour rye" || bread == "Cove rolls")),
        "{:?}",
        only.changes
    );
}

#[test]
fn a_kept_plan_keeps_its_setting_though_the_dough_comes_from_the_fridge() {
    let (t, k) = (tables(), kitchen());
    let f = formula(LEAN);
    let bread = cerealis_core::formula::oven_of(&f.analyse(&t.pantry, &t.styles), &t.pantry).in_kitchen(&k);
    let warm = OvenPlan::of(&bread, None, &t.oven).unwrap();
    // An oven that was found since to be ten degrees off: what was planned is turned to as it was planned.
    let cold = cerealis_core::oven::Bake { dough_c: 6.0, oven_offset_c: Some(10.0), ..bread };
    let kept = OvenPlan::of(&cold, Some(&warm), &t.oven).unwrap();
    assert_eq!((kept.set_c, kept.dough_c), (warm.set_c, Some(6.0)));
    assert!(near(OvenPlan::of(&cold, None, &t.oven).unwrap().set_c, warm.set_c - 10.0, 5.1));
}

#[test]
fn what_is_chosen_is_what_happens_then_and_the_past_stays() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| {
        a.dough_c.push((at("2026-11-07T09:02:00Z"), 21.0));
        a.folds.push(at("2026-11-07T09:30:00Z"));
    });
    let now = "2026-11-07T09:40:00Z";
    for option in bake.at(now).unwrap().options {
        let before = bake.course();
        let chosen = Bake {
            actual: Actual { rest: Some(Box::new(option.rest.clone())), ..bake.actual.clone() },
            ..Bake::lean(kitchen(), "2026-11-07T09:00:00Z")
        };
        let after = chosen.course();
        assert!(minutes_between(option.load, after.load).abs() <= 2.0, "{:?}: {} and {}", option.changes, option.load, after.load);
        assert!(minutes_between(option.ready, after.ready_at).abs() <= 4.0, "{:?}", option.changes);
        let by_now = |c: &Course| {
            let min = minutes_between(c.mixed, at(now));
            c.forecast.curve.iter().rfind(|r| r.min <= min - 5.0).map(|r| (r.min, r.dough_h, r.dough_c)).unwrap()
        };
        assert_eq!(by_now(&before), by_now(&after), "the past");
        assert_eq!(chosen.at("2026-11-07T09:41:00Z").map(|r| r.reasons), None, "{:?}: nothing left to say", option.changes);
    }
}

#[test]
fn a_bulk_ripe_early_tells_of_a_quick_proof() {
    let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z");
    let early = later(bake.planned(StepKind::Shape), -35.0);
    let seen = |look| move |a: &mut Actual| a.seen.push(Seen { at: early, kind: RiseKind::Bulk, look });
    let proof = |b: &Bake| {
        let course = b.course();
        let load = course.steps.iter().find(|s| s.kind == StepKind::Load).unwrap();
        (minutes_between(early, load.start), minutes_between(load.low.unwrap(), load.high.unwrap()))
    };
    let shaped = |b: Bake| b.with(|a| a.shaped = Some(early));
    let untold = proof(&shaped(Bake::lean(kitchen(), "2026-11-07T09:00:00Z")));
    let ripe = proof(&shaped(Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(seen(Look::Ripe))));
    assert!(ripe.0 < 0.9 * untold.0, "{ripe:?} {untold:?}");
    assert!(ripe.1 < 0.6 * untold.1, "one sign narrows the range of the next: {ripe:?} {untold:?}");
    // Not ripe when it should be: slower from there on.
    let late = later(bake.planned(StepKind::Shape), 10.0);
    let waits = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| {
        a.not_yet = Some(late);
        a.seen.push(Seen { at: late, kind: RiseKind::Bulk, look: Look::NotYet });
    });
    assert!(waits.course().load > later(bake.planned(StepKind::Load), 10.0));
}

#[test]
fn a_sweet_dough_is_not_left_warm_for_longer_than_it_may() {
    let sweet: FormulaDraft = draft(&[
        ("wheat-ap", 500.0),
        ("milk-whole", 260.0),
        ("egg-whole", 50.0),
        ("butter-unsalted", 70.0),
        ("sugar-white", 80.0),
        ("salt-fine", 7.0),
        ("yeast-instant", 8.0),
    ]);
    let bake = Bake::of(sweet.check(&tables().pantry).unwrap(), kitchen(), "2026-11-07T09:00:00Z")
        .with(|a| a.dough_c.push((at("2026-11-07T09:02:00Z"), 19.0)));
    let found = bake.at("2026-11-07T09:10:00Z").unwrap();
    assert!(!found.options.is_empty());
    for o in &found.options {
        let warm = course(
            &bake.formula,
            &bake.plan.ask,
            Some(&bake.plan.oven),
            &Actual { rest: Some(Box::new(o.rest.clone())), ..bake.actual.clone() },
            &bake.kitchen,
            tables(),
        )
        .unwrap()
        .warm_min();
        assert!(warm <= 245.0, "{:?} stands warm for {warm} min", o.changes);
    }
}

#[test]
fn where_nothing_holds_it_it_is_told_when_somebody_would_have_to_be_up() {
    // A warm dough at bedtime, in a house without a fridge to speak of.
    let k = Kitchen { fridge_c: Some(24.0), pantry_c: Some(24.0), room_c: 26.0, oven_light_c: None, ..sleeping() };
    let bake = Bake::lean(k, "2026-11-07T21:30:00Z");
    let found = bake.at("2026-11-07T22:00:00Z").unwrap();
    assert!(matches!(found.reasons[0], Reason::Nobody { .. }));
    assert!(found.options.iter().all(|o| !has(o, "fridge") && has(o, "out-of-hours")), "{:?}", found.options);
    let best = &found.options[0];
    assert!(best.changes.iter().any(|c| matches!(c, RestChange::OutOfHours(min) if *min >= 60)), "{:?}", best.changes);
    assert!(best.p_spoil < 0.3, "ripe, at its own hour");
    assert!(!has(best, "folds-skipped"), "the fold that is due can be done now: {:?}", best.changes);
    // Who chose it knows: nothing more is said.
    let chosen = bake.with(|a| a.rest = Some(Box::new(best.rest.clone())));
    assert_eq!(chosen.at("2026-11-07T22:05:00Z").map(|r| r.reasons), None);
}

#[test]
fn a_bake_left_lying_for_weeks_can_still_be_looked_at() {
    for shaped in [None, Some("2026-11-07T11:15:00Z")] {
        let bake = Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.shaped = shaped.map(at));
        for now in ["2026-11-08T09:00:00Z", "2026-11-14T08:00:00Z", "2026-12-20T09:00:00Z"] {
            assert!(bake.course_at(now).due, "{now}");
            let told = bake.at(now);
            assert_eq!(told.is_some(), now.starts_with("2026-11-08"), "{now}");
        }
    }
}

#[test]
fn a_room_that_was_measured_colder_is_reckoned_as_cold_from_there_on() {
    let colder = |c: f64| {
        let bake =
            Bake::lean(kitchen(), "2026-11-07T09:00:00Z").with(|a| a.places.push(Stay::at((Place::Room, c), at("2026-11-07T09:20:00Z"))));
        let found = bake.at("2026-11-07T09:25:00Z").unwrap();
        let stays = found.options.iter().find(|o| o.carry.is_none() && !has(o, "place") && !has(o, "fridge")).unwrap();
        (minutes_between(stays.load, bake.course().load).abs(), stays.load)
    };
    let (off, sixteen) = colder(16.0);
    assert!(off < 20.0, "as the course itself has it: {off}");
    assert!(colder(14.0).1 > sixteen);
}

#[test]
fn what_was_planned_to_stand_warm_for_long_is_not_told_again_on_the_day() {
    let milk = formula(&[("wheat-bread", 500.0), ("milk-whole", 300.0), ("egg-whole", 50.0), ("salt-fine", 9.0), ("yeast-instant", 1.0)]);
    let bake = Bake::of(milk, kitchen(), "2026-11-07T09:00:00Z");
    assert!(bake.course().warm_min() > 240.0);
    assert!(bake.at("2026-11-07T09:30:00Z").is_none(), "it goes as planned");
    let colder = bake.with(|a| a.dough_c.push((at("2026-11-07T09:01:00Z"), 18.0)));
    let found = colder.at("2026-11-07T09:30:00Z").unwrap();
    assert!(matches!(found.reasons[..], [Reason::Warm(min)] if min > 240.0), "{:?}", found.reasons);
}
