//! What holds for every plan, whatever the day: hours are kept, a day later is the same plan, what gives
//! takes nothing away, chances follow the spread.

use cerealis_core::{
    formula::{Formula, FormulaBody, FormulaDraft},
    kitchen::{Kitchen, Night, Place},
    measure::Band,
    plan::{
        Beside, HandsUse, OvenUse, StepKind, check_shown, later,
        search::{
            answer::fit,
            ask::{AwayAsk, FitAsk},
            bread::Bread,
            day::Day,
            dough::DoughRises,
            hours::{AwayKind, Need, Set, Span, WaitRange, Windows, backward, both, free, joined, placed},
            judge::{Judged, p_late, p_spoil},
            many::fit_many,
            offer::Offer,
            schedule::{RiseOf, ScheduleFamily},
            solve::{Model, Past, Search},
        },
    },
};
use jiff::{SignedDuration, Timestamp};
use proptest::prelude::*;

use super::tables;

pub const DOUGHS: [&str; 3] = [
    r#"{"lines":[{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":340},{"ingredient":"salt-fine","grams":10},{"ingredient":"yeast-instant","grams":3}],"pieces":{"count":1,"shape":"batard","vessel":"stone"}}"#,
    r#"{"lines":[{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":350},{"ingredient":"leaven-wheat","grams":100},{"ingredient":"salt-fine","grams":10}],"pieces":{"count":1,"shape":"batard","vessel":"pot"}}"#,
    r#"{"lines":[{"ingredient":"wheat-ap","grams":500},{"ingredient":"milk-whole","grams":260},{"ingredient":"egg-whole","grams":50},{"ingredient":"butter-unsalted","grams":70},{"ingredient":"sugar-white","grams":80},{"ingredient":"salt-fine","grams":7},{"ingredient":"yeast-instant","grams":8}],"pieces":{"count":12,"shape":"ball","vessel":"sheet"}}"#,
];

pub fn formula(which: usize) -> Formula {
    let body: FormulaBody = serde_json::from_str(DOUGHS[which]).unwrap();
    FormulaDraft::from(body).check(&tables().pantry).unwrap()
}

/// Minutes from a Monday, 00:00 UTC.
pub fn minute(m: i32) -> Timestamp {
    Timestamp::from_second(1_767_571_200 + 60 * i64::from(m)).unwrap()
}

/// A day of somebody: wanted in hours, and up to three spells of hours away.
fn day() -> impl Strategy<Value = (usize, f64, i32, Vec<(i32, i32, usize)>)> {
    (0..DOUGHS.len(), 17.0..28.0, 10..44i32, prop::collection::vec((0..40i32, 1..8i32, 0..3usize), 0..3))
}

/// The same where the nights, from ten to six, are so much colder.
fn ask_by_night(cooler: f64, room_c: f64, hours: i32, spells: &[(i32, i32, usize)], shift: i32) -> (FitAsk, Kitchen) {
    let (ask, kitchen) = ask(room_c, hours, spells, shift);
    let night =
        Night { from: "22:00".into(), to: "06:00".into(), room_c: room_c - cooler, pantry_c: kitchen.pantry_c.unwrap_or(room_c) - cooler };
    let kitchen = Kitchen { night: Some(night), ..kitchen };
    (ask.with_nights(&kitchen), kitchen)
}

fn ask(room_c: f64, hours: i32, spells: &[(i32, i32, usize)], shift: i32) -> (FitAsk, Kitchen) {
    let kitchen = Kitchen { room_c, scale_step_g: 0.1, oven_light_c: None, ..Kitchen::default() };
    let kinds = [AwayKind::Away, AwayKind::Asleep, AwayKind::Busy];
    let away = spells.iter().map(|(from, length, kind)| AwayAsk {
        from: minute(shift + 60 * from),
        to: minute(shift + 60 * (from + length)),
        kind: kinds[*kind],
    });
    let ask = FitAsk { ready_at: Some(minute(shift + 60 * hours)), away: away.collect(), ..FitAsk::soon(minute(shift), &kitchen) };
    (ask, kitchen)
}

fn search<T>(formula: &Formula, ask: &FitAsk, kitchen: &Kitchen, with: impl FnOnce(&mut Search<'_, DoughRises<'_>>, Day) -> T) -> T {
    let t = tables();
    let a = formula.analyse(&t.pantry, &t.styles);
    let dough = Bread::new(&a, kitchen, t).unwrap();
    let facts = dough.facts(ask);
    let rules = dough.rules(ask, &facts);
    let mut model = DoughRises::new(facts, &t.ferment);
    let mut search = Search::new(&mut model, rules);
    let day = dough.day(ask);
    with(&mut search, day)
}

fn alive(search: &mut Search<'_, DoughRises<'_>>, day: &Day) -> Vec<ScheduleFamily> {
    ScheduleFamily::ALL.into_iter().filter(|f| !search.stand(day, *f, 1).is_empty()).collect()
}

fn spans() -> impl Strategy<Value = Vec<Span>> {
    prop::collection::vec((0..300i32, 1..60i32), 0..6).prop_map(|all| all.into_iter().map(|(a, l)| Span::new(a, a + l)).collect())
}

fn holds(set: &[Span], m: i32) -> bool {
    set.iter().any(|s| s.from <= m && m <= s.to)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    #[test]
    fn no_hands_where_nobody_is_and_no_oven_alone((which, room, hours, spells) in day(), cooler in prop_oneof![Just(0.0), 1.0..7.0]) {
        let (a, k) = ask_by_night(cooler, room, hours, &spells, 0);
        prop_assert_eq!(a.night.is_some(), cooler > 0.0);
        search(&formula(which), &a, &k, |search, day| {
            let works = search.rules.works.clone();
            for l in search.plans(&day, 5) {
                let hit = |from: i32, to: i32, busy: bool| day.away.iter()
                    .any(|w| (busy || w.kind != AwayKind::Busy) && from < w.span.to && to > w.span.from);
                let mut end = i32::MIN;
                for (work, start) in l.works.iter().zip(&l.starts) {
                    prop_assert!(*start >= end, "{work:?} begins before the one before it ends");
                    end = start + works.length(*work);
                    for seg in works.segs(*work) {
                        let (from, to) = (start + seg.offset, start + seg.offset + seg.length);
                        prop_assert!(seg.need == Need::Oven || !hit(from, to, seg.need != Need::Watch), "{work:?} at {from}");
                    }
                }
                prop_assert!(l.starts[0] >= 0 && l.ready <= day.ready.unwrap());
                for r in &l.rises {
                    prop_assert!(r.judged.ripeness > r.need.lower - 0.051 && r.judged.ripeness < r.need.upper + 0.051);
                }
                if search.rules.warm_limit.is_some() {
                    prop_assert!(l.warm_min <= 240, "{}", l.warm_min);
                }
            }
            Ok(())
        })?;
    }

    /// One oven: from the minute it is lit until the bread is out no dough stands in it, and somebody is there to its late
    /// end. Doses and waits are those that bakers know.
    #[test]
    fn nothing_proves_in_an_oven_that_heats((which, room, hours, spells) in day(), oven_c in 25.0..32.0f64) {
        let (mut a, mut k) = ask(room, hours, &spells, 0);
        k.oven_light_c = Some(oven_c);
        a.places = FitAsk::soon(minute(0), &k).places;
        let t = tables();
        let answer = fit(&formula(which), &a, &k, t, &|at| at.to_string()).unwrap();
        for o in &answer.offers {
            let on = o.course.steps.iter().find(|s| s.kind == StepKind::OvenOn).unwrap().start;
            let inside = o.course.stays.iter().find(|s| s.place == Place::OvenLight && s.span.to > on && s.span.from < o.course.load);
            prop_assert!(inside.is_none(), "{}: {inside:?}, lit {on}", o.name);
            let last = o.course.loads.last().unwrap().at;
            let late = last.checked_add(SignedDuration::from_secs_f64(60.0 * o.course.oven.minutes_high)).unwrap();
            let alone = a.away.iter().find(|w| w.kind != AwayKind::Busy && w.from < late && w.to > on);
            prop_assert!(alone.is_none(), "{}: {alone:?}, {on} to {late}", o.name);
            let of = o.formula.analyse(&t.pantry, &t.styles);
            let custom = of.style.custom;
            prop_assert!(of.yeast_instant_pct.likely <= custom.dose_most_pct.max(1.7) + 0.02, "{}", of.yeast_instant_pct.likely);
            let proof = o.rises.iter().find(|r| r.kind == RiseOf::Proof).map(|r| r.stages.iter().filter_map(|s| s.1.minutes).sum::<f64>());
            prop_assert!(proof.is_none_or(|m| m >= custom.proof_least_min - 1.0), "{proof:?}");
        }
    }

    /// What is shown can begin as it is, and is refused where the hours, the bowl or the oven changed since.
    #[test]
    fn a_plan_that_is_shown_begins_as_shown((which, room, hours, spells) in day(), offset in -20.0..20.0f64) {
        let (a, mut k) = ask(room, hours, &spells, 0);
        k.oven.offset_c = Some(offset);
        let (recipe, t) = (formula(which), tables());
        for o in fit(&recipe, &a, &k, t, &|at| at.to_string()).unwrap().offers {
            let plan = check_shown(&recipe, &o.formula, &o.ask, &a, &k, t);
            prop_assert!(plan.is_ok(), "{}: {plan:?}", o.name);
            let plan = plan.unwrap();
            prop_assert_eq!((&plan.steps, &plan.oven, plan.ready_at), (&o.course.steps, &o.course.oven, o.course.ready_at));
            let refused = |weighed: &Formula, day: &FitAsk| check_shown(&recipe, weighed, &o.ask, day, &k, t).is_err();
            let gone = |at: Timestamp| AwayAsk { from: at, to: at.checked_add(SignedDuration::from_mins(1)).unwrap(), kind: AwayKind::Away };
            let with = |w: AwayAsk| FitAsk { away: a.away.iter().copied().chain([w]).collect(), ..a.clone() };
            prop_assert!(refused(&o.formula, &with(gone(o.course.load))), "somebody is out when it is loaded");
            let oven = vec![OvenUse { from: o.course.load, to: later(o.course.load, 5.0), set_c: None, steam: None }];
            let beside = vec![Beside { bread: "rye".into(), oven, hands: Vec::new() }];
            prop_assert!(refused(&o.formula, &FitAsk { beside, ..a.clone() }), "another bread is in the oven");
            prop_assert!(refused(&o.formula, &FitAsk { from: later(o.course.mixed, 120.0), ..a.clone() }), "it is past");
            let mut salted = o.formula.clone();
            for line in salted.lines.iter_mut().filter(|l| l.ingredient.id == "salt-fine") {
                line.grams = Band::exact(2.0 * line.grams.likely);
            }
            prop_assert!(refused(&salted, &a), "the salt was doubled");
        }
    }

    /// Another bread's oven and hands are left alone, with a quarter of an hour for the oven to change.
    #[test]
    fn plans_keep_clear_of_other_breads((which, room, hours, spells) in day(), from in 0..40i32, long in 20..120i32) {
        let (a, k) = ask(room, hours, &spells, 0);
        let (at, to) = (minute(60 * from), minute(60 * from + long));
        let beside = Beside { bread: "rye".into(), oven: vec![OvenUse { from: at, to, set_c: None, steam: None }], hands: vec![HandsUse { from: at, to: later(at, 5.0), need: Need::Hands }] };
        let a = FitAsk { beside: vec![beside], ..a };
        for o in fit(&formula(which), &a, &k, tables(), &|at| at.to_string()).unwrap().offers {
            let out = o.course.loads.last().unwrap().out;
            prop_assert!(out <= later(at, -14.0) || o.course.load >= later(to, 14.0), "{}: {} to {out}, taken {at} to {to}", o.name, o.course.load);
            // While a shaped piece rests on the bench hands are free.
            let busy = o.course.steps.iter().find(|s| matches!(s.kind, StepKind::Mix | StepKind::Shape) && s.start < later(at, 5.0) && later(s.start, 5.0) > at);
            prop_assert!(busy.is_none(), "{busy:?}");
        }
    }

    /// One baker, one oven: no two acts of two breads at once, but for a loaf that is taken out while another piece rests on the
    /// bench; at other settings the oven has its quarter of an hour between them.
    #[test]
    fn two_breads_have_one_baker_and_one_oven((which, room, hours, spells) in day(), other in 0..DOUGHS.len(), later_h in 0..8i32) {
        let (mut a, mut k) = ask(room, hours, &spells, 0);
        k.oven_light_c = Some(29.0);
        a.places = FitAsk::soon(minute(0), &k).places;
        let (one, two) = (formula(which), formula(other));
        let both = [(one, Some(minute(60 * hours))), (two, Some(minute(60 * (hours + later_h))))];
        for parts in fit_many(&both, &a, &k, tables(), &|at| at.to_string()).unwrap().offers {
            let [x, y] = parts.as_slice() else { panic!("two breads") };
            let acts = |o: &Offer| o.course.steps.iter().filter(|s| s.hands_on_min > 0.0 && s.kind != StepKind::OvenOn).cloned().collect::<Vec<_>>();
            for p in acts(x) {
                for q in acts(y).iter().filter(|q| q.start < p.end && p.start < q.end) {
                    let (long, brief) = if p.kind == StepKind::Shape { (&p, q) } else { (q, &p) };
                    let inside = long.kind == StepKind::Shape
                        && brief.kind.is_at_oven()
                        && brief.start > long.start
                        && brief.end < long.end;
                    prop_assert!(inside, "{:?} {} to {} and {:?} {} to {}", p.kind, p.start, p.end, q.kind, q.start, q.end);
                }
            }
            prop_assert!(x.course.stays.iter().chain(&y.course.stays).all(|s| s.place != Place::OvenLight), "the oven is for baking");
            let (first, second) = if x.course.load < y.course.load { (&x.course, &y.course) } else { (&y.course, &x.course) };
            if (first.oven.set_c - second.oven.set_c).abs() > 15.0 || first.oven.steam != second.oven.steam {
                prop_assert!(second.load >= later(first.loads.last().unwrap().out, 14.0), "{} after {}", second.load, first.loads[0].out);
            }
        }
    }

    #[test]
    fn a_day_later_is_the_same_plan((which, room, hours, spells) in day(), cooler in prop_oneof![Just(0.0), 1.0..7.0]) {
        let plans = |shift: i32| {
            let (a, k) = ask_by_night(cooler, room, hours, &spells, shift);
            search(&formula(which), &a, &k, |s, day| s.plans(&day, 5).into_iter().map(|l| (l.schedule, l.starts)).collect::<Vec<_>>())
        };
        prop_assert_eq!(plans(0), plans(1440));
        prop_assert_eq!(plans(0), plans(0), "the same request, the same plans");
    }

    #[test]
    fn what_gives_takes_no_family_away((which, room, hours, spells) in day(), cooler in prop_oneof![Just(0.0), 1.0..7.0]) {
        let (a, k) = ask_by_night(cooler, room, hours, &spells, 0);
        search(&formula(which), &a, &k, |search, day| {
            let before = alive(search, &day);
            for i in 0..day.away.len() {
                let mut without = day.clone();
                without.away.remove(i);
                let after = alive(search, &without);
                prop_assert!(before.iter().all(|f| after.contains(f)), "{before:?} but {after:?}");
            }
            let longer = Day { early: day.early + 360, ..day.clone() };
            let after = alive(search, &longer);
            prop_assert!(before.iter().all(|f| after.contains(f)), "{before:?} but {after:?}");
            Ok(())
        })?;
    }

    #[test]
    fn more_yeast_never_needs_longer(which in 0..2usize, share in 0.3..1.5f64, more in 1.05..1.6f64, bulk in 0.86..1.14f64) {
        let (a, k) = ask(22.0, 30, &[], 0);
        search(&formula(which), &a, &k, |search, _| {
            let schedule = search.rules.schedules.iter().find(|w| w.sponge.is_none()).cloned().unwrap();
            let past = Past { feed: 0, leaven: 1.0, bulk };
            // A proof alone also hangs on the gas its bulk left; both together never take longer.
            let mut hours = |dose: f64| {
                let schedule = cerealis_core::plan::search::schedule::Schedule { dose, ..schedule.clone() };
                let mut of = |rise| search.model.need(rise, &schedule, past).unwrap().hours;
                (of(RiseOf::Bulk), of(RiseOf::Proof))
            };
            let (less, more) = (hours(share), hours(share * more));
            prop_assert!(more.0 <= less.0 + 1e-9, "{} after {}", more.0, less.0);
            prop_assert!(bulk * more.0 + more.1 <= bulk * less.0 + less.1 + 1e-9, "{more:?} after {less:?}");
            Ok(())
        })?;
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// However cold the last of its places is, the bread is ready by the hour it is wanted; a house without a fridge cools in
    /// the pantry.
    #[test]
    fn a_cold_pantry_makes_no_bread_late((which, room, hours, spells) in day(), pantry_c in 8.0..14.0f64) {
        let (mut a, mut k) = ask(room, hours, &spells, 0);
        (k.pantry_c, k.fridge_c) = (Some(pantry_c), None);
        a.places = FitAsk::soon(minute(0), &k).places;
        for o in fit(&formula(which), &a, &k, tables(), &|at| at.to_string()).unwrap().offers {
            prop_assert!(o.course.ready_at <= a.ready_at.unwrap(), "{}: {}, {:?}", o.name, o.course.ready_at, o.course.oven.dough_c);
        }
    }
}

proptest! {
    #[test]
    fn windows_hold_just_the_minutes_that_are_free(taken in spans()) {
        let windows = free(Span::new(0, 400), taken.clone());
        for m in 0..400 {
            // A minute is free if nothing is taken in it; edges may be touched.
            let used = taken.iter().any(|t| t.from <= m && m < t.to);
            let inside = windows.iter().any(|w| w.from <= m && m < w.to);
            prop_assert_eq!(inside, !used, "minute {}", m);
        }
    }

    #[test]
    fn the_sets_are_those_of_trying_every_minute(hands in spans(), lo in 5..40i32, more in 0..30i32, len in 3..20i32, last in 120..380i32) {
        let windows = Windows { hands: free(Span::new(0, 400), hands), brief: Set::new(), rest: Set::new(), watch: vec![Span::new(0, 400)].into(), oven: vec![Span::new(0, 400)].into() };
        let fits = |length: i32| -> Set {
            joined(windows.hands.iter().map(|w| Span::new(w.from, w.to - length)).filter(|s| s.from <= s.to).collect())
        };
        let (first, second) = (fits(len), fits(6));
        let joint = WaitRange { lo, nominal: lo + more / 2, hi: lo + more };
        let end = [Span::new(last - 60, last)];
        let sets = backward(&[&first, &second], &[len, 6], &[joint], &end);
        for m in 0..400 {
            let can = holds(&first, m) && (joint.lo..=joint.hi).any(|g| holds(&both(&second, &end), m + len + g));
            prop_assert_eq!(sets.first().is_some_and(|s| holds(s, m)), can, "minute {}", m);
        }
        if let Some(starts) = placed(&sets, &[len, 6], &[joint], last) {
            let gap = starts[1] - starts[0] - len;
            prop_assert!(holds(&first, starts[0]) && holds(&second, starts[1]) && (joint.lo..=joint.hi).contains(&gap));
        } else {
            prop_assert!(sets.is_empty());
        }
    }

    #[test]
    fn more_in_doubt_is_more_at_risk(exposed in 0.3..1.2f64, over in 1.25..2.0f64, ripeness in 0.9..1.1f64, sigma in 0.05..0.4f64, more in 1.05..2.0f64) {
        let judged = |sigma: f64| [Judged { ripeness, exposed, over, low_hard: 0.7, sigma }];
        prop_assert!(p_spoil(&judged(sigma * more)) >= p_spoil(&judged(sigma)) - 1e-12);
        prop_assert!(p_late(&judged(sigma * more)) >= p_late(&judged(sigma)) - 1e-12);
        let p = p_spoil(&judged(sigma));
        prop_assert!((0.0..=1.0).contains(&p));
    }
}
