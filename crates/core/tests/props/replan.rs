//! What holds whenever the rest of a bake is planned anew: hours are kept, the past stays, what is chosen happens, a day
//! later is the same.

use cerealis_core::{
    formula::Formula,
    kitchen::{Hours, HoursKind, Kitchen, Place},
    plan::{
        Actual, Beside, Course, HandsUse, Plan, PlanAsk, RisePlan, StepKind, later, minutes_between,
        replan::{OnTheDay, Replanned, RestChange},
        search::hours::Need,
    },
};
use jiff::Timestamp;
use proptest::prelude::*;

use super::{
    planning::{DOUGHS, formula, minute},
    tables,
};

/// A bake under way, so many minutes after mixing; shaped after so many, if it was.
#[derive(Debug, Clone)]
struct Case {
    dough: usize,
    room_c: f64,
    asleep: (i32, i32),
    mixed: i32,
    dough_c: f64,
    shaped: Option<i32>,
    since: i32,
}

fn case() -> impl Strategy<Value = Case> {
    let rise = (16.0..28.0, 15.0..31.0, prop::option::of(40..200i32), 5..300i32);
    (0..DOUGHS.len(), (18..24i32, 5..9i32), 0..1440i32, rise).prop_map(|(dough, asleep, mixed, (room_c, dough_c, shaped, since))| Case {
        dough,
        room_c,
        asleep,
        mixed,
        dough_c,
        shaped: shaped.filter(|s| *s < since),
        since,
    })
}

struct Bake {
    kitchen: Kitchen,
    formula: Formula,
    plan: Plan,
    actual: Actual,
    now: Timestamp,
}

impl Bake {
    fn of(c: &Case, shift: i32) -> Self {
        let formula = formula(c.dough);
        let clock = |h: i32| format!("{h:02}:00");
        let asleep = Hours {
            name: "asleep".into(),
            kind: HoursKind::Asleep,
            days: (0..7).collect(),
            date: None,
            from: clock(c.asleep.0),
            to: clock(c.asleep.1),
        };
        let kitchen = Kitchen {
            room_c: c.room_c,
            zone: "UTC".into(),
            oven_light_c: None,
            scale_step_g: 0.1,
            hours: vec![asleep],
            ..Kitchen::default()
        };
        let mixed = minute(shift + c.mixed);
        let usual = PlanAsk::usual(&formula, &kitchen, later(mixed, -20.0), tables());
        let room = |r: RisePlan| RisePlan { place: Place::Room, place_c: c.room_c, ..r };
        let ask = PlanAsk {
            start: later(mixed, -20.0),
            mix_min: 20.0,
            mixing: Vec::new(),
            bulk: usual.bulk.map(room),
            proof: room(usual.proof),
            ..usual
        };
        let plan = Plan::make(&formula, &ask, &kitchen, tables()).unwrap();
        let actual = Actual {
            mixed: Some(mixed),
            dough_c: vec![(later(mixed, 1.0), c.dough_c)],
            shaped: c.shaped.map(|s| later(mixed, f64::from(s))),
            ..Actual::default()
        };
        Self { kitchen, formula, plan, actual, now: minute(shift + c.mixed + c.since) }
    }
    fn course(&self, actual: &Actual) -> Course {
        self.plan.course(&self.formula, actual, &self.kitchen, tables()).unwrap()
    }
    fn anew(&self) -> Option<Replanned> {
        self.anew_beside(&[])
    }
    fn anew_beside(&self, beside: &[Beside]) -> Option<Replanned> {
        let course = self.course(&self.actual);
        let day = OnTheDay {
            plan: &self.plan,
            course: &course,
            formula: &self.formula,
            actual: &self.actual,
            kitchen: &self.kitchen,
            tables: tables(),
            now: self.now,
            beside,
        };
        day.replan().unwrap()
    }
    /// Whether everybody sleeps then, beyond the quarter of an hour of whoever looks now.
    fn asleep(&self, at: Timestamp, c: &Case) -> bool {
        let of_day = (at.as_second() - minute(0).as_second()).rem_euclid(86_400) / 60;
        let (from, to) = (i64::from(60 * c.asleep.0), i64::from(60 * c.asleep.1));
        (of_day >= from || of_day < to) && minutes_between(self.now, at) > 15.5
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, ..ProptestConfig::default() })]

    #[test]
    fn no_hand_is_asked_for_in_hours_asleep_and_no_rise_leaves_its_aims(c in case()) {
        let bake = Bake::of(&c, 0);
        let Some(found) = bake.anew() else { return Ok(()) };
        for o in found.options.iter().filter(|o| !o.changes.iter().any(|c| matches!(c, RestChange::OutOfHours(_)))) {
            let acts = o.shape.into_iter().chain([o.load]).chain(o.carry.map(|c| c.at)).chain(o.carry.map(|c| c.by));
            for at in acts {
                prop_assert!(!bake.asleep(at, &c), "{:?} at {at}, now {}", o.changes, bake.now);
                prop_assert!(at >= bake.now);
            }
            // The second rise of an option is always laid afresh, so it keeps its aims.
            if let [_, (_, proof)] = o.ripeness[..] {
                prop_assert!((0.83..1.17).contains(&proof), "{:?}", o.ripeness);
            }
        }
        let worst: Vec<u8> = found.options.iter().map(|o| o.changes.iter().map(RestChange::kind).max().unwrap_or(0)).collect();
        prop_assert!(worst.is_sorted(), "{worst:?}");
    }

    /// However full the hands are with other breads, a dough that had a way has one; and where the two meet it says so.
    #[test]
    fn other_breads_leave_a_way_and_are_named_where_hands_meet(c in case(), others in prop::collection::vec((0..900i32, 5..240i32), 1..6)) {
        let bake = Bake::of(&c, 0);
        let Some(alone) = bake.anew() else { return Ok(()) };
        let hands = |(from, length): &(i32, i32)| {
            let from = later(bake.now, f64::from(*from));
            HandsUse { from, to: later(from, f64::from(*length)), need: Need::Hands }
        };
        let beside = [Beside { bread: "Cove rolls".into(), oven: Vec::new(), hands: others.iter().map(hands).collect() }];
        let found = bake.anew_beside(&beside).unwrap_or_default();
        prop_assert!(alone.options.is_empty() || !found.options.is_empty(), "{others:?}");
        for o in &found.options {
            let met = o.shape.into_iter().chain([o.load]).any(|at| beside[0].hands.iter().any(|h| h.from < at && at < h.to));
            let told = o.changes.iter().any(|c| matches!(c, RestChange::HandsTaken(..)));
            prop_assert!(!met || told, "{:?} {:?}", o.changes, others);
        }
    }

    #[test]
    fn what_is_chosen_happens_and_the_past_stays(c in case()) {
        let bake = Bake::of(&c, 0);
        let Some(found) = bake.anew() else { return Ok(()) };
        let before = bake.course(&bake.actual);
        // Dough hours a little before now, straight between rows.
        let past = |course: &Course| {
            let until = minutes_between(course.mixed, bake.now) - 5.0;
            let rows = &course.forecast.curve;
            let next = rows.partition_point(|r| r.min <= until);
            let (a, b) = (rows[next.max(1) - 1], rows[next.min(rows.len() - 1)]);
            if b.min > a.min { a.dough_h + (b.dough_h - a.dough_h) * (until - a.min) / (b.min - a.min) } else { a.dough_h }
        };
        for o in &found.options {
            let after = bake.course(&Actual { rest: Some(Box::new(o.rest.clone())), ..bake.actual.clone() });
            prop_assert!(minutes_between(o.load, after.load).abs() <= 3.0, "{:?}: {} but {}", o.changes, o.load, after.load);
            // Where an act was due the old course has gone on as if it were done.
            let due = if c.shaped.is_some() { before.load } else { before.steps.iter().find(|s| s.kind == StepKind::Shape).unwrap().start };
            if bake.now < due {
                prop_assert!((past(&before) - past(&after)).abs() < 0.01, "{} and {}", past(&before), past(&after));
            }
        }
    }

    #[test]
    fn a_day_later_is_the_same_and_the_same_twice_is_the_same(c in case()) {
        let (today, tomorrow) = (Bake::of(&c, 0), Bake::of(&c, 1440));
        let told = |r: &Option<Replanned>, from: Timestamp| {
            r.as_ref().map(|r| r.options.iter().map(|o| (o.changes.clone(), minutes_between(from, o.load), minutes_between(from, o.ready))).collect::<Vec<_>>())
        };
        let first = today.anew();
        prop_assert_eq!(told(&first, today.now), told(&tomorrow.anew(), tomorrow.now));
        prop_assert_eq!(format!("{first:?}"), format!("{:?}", today.anew()));
    }
}
