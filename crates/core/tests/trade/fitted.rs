//! Plans fitted to the day: what is offered is what bake day follows, and the hours are the household's.

use cerealis_core::{
    Tables,
    formula::{Formula, FormulaBody, FormulaDraft},
    kitchen::{Hours, HoursKind, Kitchen, KitchenBody, Place, hours::spells},
    measure::plain,
    plan::{
        Actual, Plan, StepKind, later, minutes_between,
        search::{
            answer::{fit, shifted},
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            schedule::ScheduleFamily,
        },
    },
};
use jiff::{Timestamp, tz::TimeZone};

fn tables() -> Tables {
    Tables::built_in().unwrap()
}

fn formula(t: &Tables, lines: &str, pieces: &str) -> Formula {
    let body: FormulaBody = serde_json::from_str(&format!(r#"{{"lines":{lines},"pieces":{pieces}}}"#)).unwrap();
    FormulaDraft::from(body).check(&t.pantry).unwrap()
}

fn lean(t: &Tables) -> Formula {
    formula(
        t,
        r#"[{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":340},{"ingredient":"salt-fine","grams":10},{"ingredient":"yeast-instant","grams":3}]"#,
        r#"{"count":1,"shape":"batard","vessel":"stone"}"#,
    )
}

fn sour(t: &Tables) -> Formula {
    formula(
        t,
        r#"[{"ingredient":"wheat-bread","grams":450},{"ingredient":"wheat-whole","grams":50},{"ingredient":"water","grams":350},{"ingredient":"leaven-wheat","grams":100},{"ingredient":"salt-fine","grams":10}]"#,
        r#"{"count":1,"shape":"batard","vessel":"pot"}"#,
    )
}

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 22.0, scale_step_g: 0.1, ..Kitchen::default() }
}

/// From Friday 16:40, asleep from 23 to half past six, bread on Saturday at 18:00.
fn ask(k: &Kitchen) -> FitAsk {
    let asleep = AwayAsk { from: at("2026-11-06T23:00:00Z"), to: at("2026-11-07T06:30:00Z"), kind: AwayKind::Asleep };
    FitAsk { ready_at: Some(at("2026-11-07T18:00:00Z")), away: vec![asleep], ..FitAsk::soon(at("2026-11-06T16:40:00Z"), k) }
}

fn clock(at: Timestamp) -> String {
    at.strftime("%H:%M").to_string()
}

#[test]
fn what_is_offered_is_what_bake_day_follows() {
    let (t, k) = (tables(), kitchen());
    for f in [lean(&t), sour(&t)] {
        let answer = fit(&f, &ask(&k), &k, &t, &clock).unwrap();
        assert!(answer.offers.len() >= 2);
        for o in &answer.offers {
            let plan = Plan::make(&o.formula, &o.ask, &k, &t).unwrap();
            assert_eq!(plan.steps, o.course.steps, "{}", o.name);
            assert_eq!(plan.ready_at, o.course.ready_at);
            // Kept and read again it is the same.
            let kept: Plan = serde_json::from_str(&serde_json::to_string(&plan).unwrap()).unwrap();
            assert_eq!(kept, plan);
            // Mixed twenty minutes late everything after it is twenty minutes late.
            let mixed = later(o.course.mixed, 20.0);
            let late = kept.course(&o.formula, &Actual { mixed: Some(mixed), ..Actual::default() }, &k, &t).unwrap();
            assert!((minutes_between(o.course.ready_at, late.ready_at) - 20.0).abs() < 1.0, "{}", o.name);
        }
        let families: Vec<ScheduleFamily> = answer.offers.iter().map(|o| o.family).collect();
        let mut once = families.clone();
        once.dedup();
        assert_eq!(once, families, "no family twice while there are three");
    }
}

#[test]
fn a_dough_that_comes_colder_goes_by_its_own_time() {
    let (t, k) = (tables(), kitchen());
    let answer = fit(&lean(&t), &ask(&k), &k, &t, &clock).unwrap();
    let o = answer.offers.iter().find(|o| o.family == ScheduleFamily::SameDay).unwrap();
    let plan = Plan::make(&o.formula, &o.ask, &k, &t).unwrap();
    let mixed = o.course.mixed;
    let with = |c: f64| {
        let actual = Actual { mixed: Some(mixed), dough_c: vec![(later(mixed, 1.0), c)], ..Actual::default() };
        plan.course(&o.formula, &actual, &k, &t).unwrap()
    };
    let as_planned = with(o.ask.mix_c);
    assert!(minutes_between(o.course.load, as_planned.load).abs() < 3.0);
    let cold = with(o.ask.mix_c - 7.0);
    assert!(minutes_between(o.course.load, cold.load) > 15.0, "a dough seven degrees colder is later");
}

#[test]
fn feeds_and_carrying_are_steps_of_their_own() {
    let (t, k) = (tables(), kitchen());
    let far = FitAsk { ready_at: Some(at("2026-11-08T12:30:00Z")), ..ask(&k) };
    let answer = fit(&sour(&t), &far, &k, &t, &clock).unwrap();
    for o in &answer.offers {
        let kinds: Vec<StepKind> = o.course.steps.iter().map(|s| s.kind).collect();
        assert!(kinds.contains(&StepKind::Feed) && kinds.contains(&StepKind::Leaven), "{}", o.name);
        let feed = o.course.steps.iter().find(|s| s.kind == StepKind::Feed).unwrap();
        assert!(plain(&feed.instruction).contains("g leaven") && feed.start < o.course.mixed);
        let in_two_places = |l: &cerealis_core::plan::FittedRise| l.stands.len() > 1;
        let laid = o.ask.laid.as_ref().unwrap();
        let moves = usize::from(laid.bulk.as_ref().is_some_and(in_two_places)) + usize::from(in_two_places(&laid.proof));
        assert_eq!(kinds.iter().filter(|k| **k == StepKind::Move).count() >= moves, moves > 0 || !kinds.contains(&StepKind::Move));
        assert!(o.leaven.is_some_and(|l| l.age.is_some_and(|a| (0.85..=1.7).contains(&a))), "{:?}", o.leaven);
    }
    let ready = FitAsk { leaven_ripe_at: Some(at("2026-11-07T08:00:00Z")), ready_at: Some(at("2026-11-07T19:00:00Z")), ..ask(&k) };
    let answer = fit(&sour(&t), &ready, &k, &t, &clock).unwrap();
    assert!(!answer.offers.is_empty() && answer.offers.iter().all(|o| !o.course.steps.iter().any(|s| s.kind == StepKind::Feed)));
}

#[test]
fn egg_and_milk_are_not_out_of_the_fridge_for_more_than_four_hours() {
    let (t, k) = (tables(), kitchen());
    let f = formula(
        &t,
        r#"[{"ingredient":"wheat-ap","grams":500},{"ingredient":"milk-whole","grams":260},{"ingredient":"egg-whole","grams":50},{"ingredient":"butter-unsalted","grams":70},{"ingredient":"sugar-white","grams":80},{"ingredient":"salt-fine","grams":7},{"ingredient":"yeast-instant","grams":8}]"#,
        r#"{"count":12,"shape":"ball","vessel":"sheet"}"#,
    );
    let kept = fit(&f, &ask(&k), &k, &t, &clock).unwrap();
    // FDA Food Code 2017 3-501.19(B): four hours without temperature control; from memory.
    assert!(!kept.offers.is_empty() && kept.offers.iter().all(|o| o.warm_min.unwrap() <= 245.0 && o.findings.is_empty()));
    let soft = formula(
        &t,
        r#"[{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":225},{"ingredient":"milk-whole","grams":75},{"ingredient":"leaven-wheat","grams":150},{"ingredient":"sugar-white","grams":35},{"ingredient":"butter-unsalted","grams":50},{"ingredient":"salt-fine","grams":10}]"#,
        r#"{"count":1,"shape":"pan","vessel":"pan-metal"}"#,
    );
    let k = Kitchen { room_c: 20.0, oven_light_c: None, ..k };
    let places = vec![(Place::Room, 20.0), (Place::Fridge, 4.0)];
    let far = FitAsk { ready_at: Some(at("2026-11-08T18:00:00Z")), places, ..ask(&k) };
    let strict = fit(&soft, &far, &k, &t, &clock).unwrap();
    assert!(strict.offers.iter().all(|o| o.warm_min.unwrap() <= 245.0));
    let lifted = fit(&soft, &FitAsk { lift_warm_limit: true, ..far }, &k, &t, &clock).unwrap();
    let long = lifted.offers.iter().filter(|o| o.warm_min.unwrap() > 240.0);
    assert!(long.clone().count() > 0 && long.clone().all(|o| o.findings.iter().any(|x| x.id == "raw-egg-time")));
}

#[test]
fn two_degrees_colder_is_later_and_warmer_is_sooner() {
    let (t, k) = (tables(), kitchen());
    let f = lean(&t);
    let a = ask(&k);
    let answer = fit(&f, &a, &k, &t, &clock).unwrap();
    let o = answer.offers.iter().find(|o| o.family == ScheduleFamily::SameDay).unwrap();
    let (colder, _) = shifted(&f, &a, o, -2.0, &k, &t).unwrap();
    let (warmer, _) = shifted(&f, &a, o, 2.0, &k, &t).unwrap();
    assert!(colder > 5 && warmer < -5, "{colder} {warmer}");
}

#[test]
fn nobody_is_told_nonsense_and_nothing_is_planned_into_the_past() {
    let (t, k) = (tables(), kitchen());
    let pointers = |a: FitAsk| -> Vec<String> {
        fit(&lean(&t), &a, &k, &t, &clock).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect()
    };
    assert_eq!(pointers(FitAsk { ready_at: Some(at("2026-11-06T16:00:00Z")), ..ask(&k) }), ["/ready_at"]);
    assert_eq!(pointers(FitAsk { loads: 0, ..ask(&k) }), ["/method/loads"]);
    assert_eq!(pointers(FitAsk { cold_days: -1.0, ..ask(&k) }), ["/leaven/cold_days"]);
    let soon = fit(&lean(&t), &FitAsk::soon(at("2026-11-06T16:40:00Z"), &k), &k, &t, &clock).unwrap();
    assert!(soon.offers.iter().all(|o| o.course.steps[0].start >= at("2026-11-06T16:40:00Z")));
    assert_eq!(soon.offers[0].family, ScheduleFamily::SameDay, "as soon as it can be");
}

#[test]
fn a_household_keeps_its_hours_by_its_own_clock() {
    let zone = TimeZone::get("Europe/London").unwrap();
    let asleep = Hours {
        name: "asleep".into(),
        kind: HoursKind::Asleep,
        days: (0..7).collect(),
        date: None,
        from: "22:30".into(),
        to: "04:30".into(),
    };
    let watch =
        Hours { name: "on watch".into(), kind: HoursKind::Away, days: vec![4], date: None, from: "16:00".into(), to: "18:00".into() };
    let once = Hours {
        name: "visitors".into(),
        kind: HoursKind::Busy,
        days: vec![],
        date: Some("2026-11-07".into()),
        from: "10:00".into(),
        to: "12:00".into(),
    };
    let all = [asleep.clone(), watch, once];
    let found = spells(&all, &zone, at("2026-11-06T12:00:00Z"), at("2026-11-07T12:00:00Z"));
    let names: Vec<&str> = found.iter().map(|s| s.name.as_str()).collect();
    assert_eq!(names, ["on watch", "asleep", "visitors"]);
    assert_eq!((found[1].from, found[1].to), (at("2026-11-06T22:30:00Z"), at("2026-11-07T04:30:00Z")));
    // The night the clocks go forward (29 March 2026, 01:00) is an hour shorter; the hours of the day stay.
    let spring = spells(&[asleep], &zone, at("2026-03-28T20:00:00Z"), at("2026-03-29T20:00:00Z"));
    assert_eq!((spring[0].from, spring[0].to), (at("2026-03-28T22:30:00Z"), at("2026-03-29T03:30:00Z")));
    let wrong = |h: Hours| -> Vec<String> {
        let body = KitchenBody { hours: Some(vec![h]), ..KitchenBody::default() };
        body.over(Kitchen::default()).unwrap_err().0.into_iter().map(|e| e.pointer.as_str().to_owned()).collect()
    };
    let plain = Hours { name: "x".into(), kind: HoursKind::Away, days: vec![1], date: None, from: "10:00".into(), to: "12:00".into() };
    assert_eq!(wrong(Hours { days: vec![], ..plain.clone() }), ["/hours/0/days"]);
    assert_eq!(wrong(Hours { from: "ten".into(), ..plain.clone() }), ["/hours/0/from"]);
    assert_eq!(wrong(Hours { to: "10:00".into(), ..plain.clone() }), ["/hours/0/to"]);
    assert_eq!(wrong(Hours { name: String::new(), date: Some("soon".into()), ..plain }), ["/hours/0/name", "/hours/0/date"]);
}
