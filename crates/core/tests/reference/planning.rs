//! The search for plans against `cases/planning_cases.json`: start sets worked out by brute force,
//! chances by the closed formula, whole plans with a stand-in model of the rise, and whole plans of
//! invented doughs and days with the real one, which must hold what the file says of each.

use std::collections::BTreeSet;

use cerealis_core::{
    Tables,
    ferment::{Leaven, LeavenState, Rise, RiseKind, RiseStage, simulate, simulate_leaven},
    formula::{FormulaBody, FormulaDraft, dough_of},
    kitchen::{Kitchen, Place, Stay},
    knead::Folds,
    plan::{
        StepKind, minutes_between,
        search::{
            answer::{Answer, fit},
            ask::{AwayAsk, FitAsk},
            curve::{self, Ageing, Ages, Curves, RiseNeed, age_after},
            day::Day,
            hours::{Away, AwayKind, Need, Seg, Set, Span, WaitRange, Windows, backward, fit as fits, placed},
            judge::{Judged, p_late, p_spoil, refine_dose},
            many::fit_many,
            offer::Offer,
            placing::PlacedSchedule,
            schedule::{Feed, Leg, RiseOf, Schedule, ScheduleFamily, Sponge, Work, Works},
            solve::{Begun, Model, Past, Rules, Search},
        },
    },
};
use jiff::{Timestamp, tz::TimeZone};
use serde_json::Value;

const CASES: &str = include_str!("../cases/planning_cases.json");

fn cases(kind: &str) -> Vec<Value> {
    let all: Value = serde_json::from_str(CASES).unwrap();
    let found: Vec<Value> = all["cases"].as_array().unwrap().iter().filter(|c| c["type"] == kind).cloned().collect();
    assert!(!found.is_empty(), "no case of type {kind}");
    found
}

fn int(v: &Value) -> i32 {
    i32::try_from(v.as_i64().unwrap()).unwrap()
}

fn spans(v: &Value) -> Vec<Span> {
    v.as_array().map_or_else(Vec::new, |all| all.iter().map(|s| Span::new(int(&s[0]), int(&s[1]))).collect())
}

fn close(id: &str, got: f64, want: &Value, tolerance: f64) {
    let want = want.as_f64().unwrap();
    assert!((got - want).abs() <= tolerance, "{id}: {got} instead of {want}");
}

#[test]
fn start_sets_are_those_of_brute_force() {
    for c in cases("propagate") {
        let g = &c["given"];
        let away = |key: &str, kind| spans(&g[key]).into_iter().map(move |span| Away { span, kind });
        let hours: Vec<Away> =
            away("away", AwayKind::Away).chain(away("sleep", AwayKind::Asleep)).chain(away("busy", AwayKind::Busy)).collect();
        let now = int(&g["now"]);
        let horizon = Span::new(now, int(&g["horizon"]));
        // The file's spans hold the recovery already.
        let oven: Vec<Span> = spans(&g["oven_busy"]).into_iter().map(|s| Span::new(s.from + 15, s.to - 15)).collect();
        let windows = Windows::of_hours(horizon, &hours, &[], &oven);
        let blocks = g["blocks"].as_array().unwrap();
        let sets: Vec<Set> = blocks
            .iter()
            .map(|b| {
                let segs: Vec<Seg> = b["segments"]
                    .as_array()
                    .unwrap()
                    .iter()
                    .map(|s| Seg {
                        offset: int(&s["offset"]),
                        length: int(&s["length"]),
                        need: match s["need"].as_str().unwrap() {
                            "hands" => Need::Hands,
                            "watch" => Need::Watch,
                            _ => Need::Oven,
                        },
                    })
                    .collect();
                fits(&segs, &windows)
            })
            .collect();
        let lengths: Vec<i32> = blocks.iter().map(|b| int(&b["length"])).collect();
        let joints: Vec<WaitRange> =
            g["gaps"].as_array().unwrap().iter().map(|j| WaitRange { lo: int(&j[0]), nominal: int(&j[1]), hi: int(&j[2]) }).collect();
        let mut got = backward(&sets.iter().map(Set::as_slice).collect::<Vec<_>>(), &lengths, &joints, &spans(&g["last"]));
        if let Some(first) = got.first_mut() {
            *first = cerealis_core::plan::search::hours::both(first, &[Span::new(now, i32::MAX / 4)]);
            if first.is_empty() {
                got.clear();
            }
        }
        let e = &c["expect"];
        assert_eq!(!got.is_empty(), e["feasible"].as_bool().unwrap(), "{}", c["id"]);
        if got.is_empty() {
            continue;
        }
        let want: Vec<Set> = e["start_sets"].as_array().unwrap().iter().map(|s| spans(s).into()).collect();
        assert_eq!(got, want, "{}", c["id"]);
        let starts = placed(&got, &lengths, &joints, int(&g["want"])).unwrap();
        let chosen: Vec<i32> = e["chosen"].as_array().unwrap().iter().map(int).collect();
        assert_eq!(starts, chosen, "{}", c["id"]);
    }
}

fn numbers(v: &Value) -> Vec<f64> {
    v.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect()
}

#[test]
fn one_rate_of_the_day_stands_behind_every_chance() {
    let judged = |ripeness: f64, exposed: f64, over: f64, low_hard: f64, sigma: f64| Judged { ripeness, exposed, over, low_hard, sigma };
    for c in cases("p_spoil") {
        let g = &c["given"];
        let all: Vec<Judged> = numbers(&g["ripeness_exposed"])
            .iter()
            .zip(numbers(&g["over"]))
            .map(|(r, over)| judged(*r, *r, over, 0.5, g["sigma"].as_f64().unwrap()))
            .collect();
        close(c["id"].as_str().unwrap(), p_spoil(&all), &c["expect"]["p"], 1e-6);
    }
    for c in cases("p_late") {
        let g = &c["given"];
        let all: Vec<Judged> = numbers(&g["ripeness"])
            .iter()
            .zip(numbers(&g["low_hard"]))
            .map(|(r, low)| judged(*r, *r, 2.0, low, g["sigma"].as_f64().unwrap()))
            .collect();
        close(c["id"].as_str().unwrap(), p_late(&all), &c["expect"]["p"], 1e-6);
    }
    for c in cases("refine_dose") {
        let g = &c["given"];
        let rises: Vec<(f64, f64)> = numbers(&g["ripeness"]).into_iter().zip(numbers(&g["exponents"])).collect();
        let limits = (g["limits"][0].as_f64().unwrap(), g["limits"][1].as_f64().unwrap());
        close(c["id"].as_str().unwrap(), refine_dose(g["dose"].as_f64().unwrap(), &rises, limits).unwrap(), &c["expect"]["dose"], 1e-6);
    }
}

/// The stand-in of the reference: cardinal temperatures, Newton cooling, powers of the dose.
struct StandIn {
    leaven: bool,
    usual: f64,
    dough_g: f64,
    piece_g: f64,
    places: Vec<(Place, f64)>,
}

impl StandIn {
    fn rate(c: f64) -> f64 {
        let (lo, opt, hi) = (1.5, 34.0, 44.0);
        let at = |t: f64| {
            if t <= lo || t >= hi {
                return 0.0;
            }
            let bottom = (opt - lo) * ((opt - lo) * (t - opt) - (opt - hi) * (opt + lo - 2.0 * t));
            (t - hi) * (t - lo) * (t - lo) / bottom
        };
        at(c) / at(24.0)
    }
    fn of(g: &Value) -> Self {
        let mut places = vec![(Place::Room, g["room_c"].as_f64().unwrap())];
        for (key, place) in [("pantry_c", Place::Pantry), ("fridge_c", Place::Fridge), ("proof_box_c", Place::ProofBox)] {
            places.extend(g[key].as_f64().map(|c| (place, c)));
        }
        let dough_g = g["dough_g"].as_f64().unwrap();
        Self {
            leaven: g["leavening"] == "leaven",
            usual: g["dose_pct"].as_f64().unwrap(),
            dough_g,
            piece_g: dough_g / g["pieces"].as_f64().unwrap(),
            places,
        }
    }
}

impl Ageing for StandIn {
    fn speed(&self, _: RiseOf, celsius: f64) -> f64 {
        Self::rate(celsius)
    }
    fn tau_min(&self, rise: RiseOf, place: Place) -> f64 {
        let kg = match rise {
            RiseOf::Leaven => 0.15,
            RiseOf::Preferment => 0.35 * self.dough_g / 1000.0,
            RiseOf::Bulk => self.dough_g / 1000.0,
            RiseOf::Proof => self.piece_g / 1000.0,
        };
        (if place == Place::Fridge { 120.0 } else { 100.0 }) * f64::powf(kg, 0.6)
    }
    fn place_c(&self, place: Place) -> Option<f64> {
        self.places.iter().find(|p| p.0 == place).map(|p| p.1)
    }
}

impl Model for StandIn {
    fn need(&mut self, rise: RiseOf, schedule: &Schedule, past: Past) -> Option<RiseNeed> {
        let pct = schedule.dose * self.usual;
        let need = |hours: f64, lower: f64, upper: f64, over: f64| Some(RiseNeed { hours, lower, upper, over });
        match rise {
            RiseOf::Leaven => need(1.3 + (1.0 + 2.0 * schedule.feeds[past.feed].ratio).ln() / 0.45, 0.85, 1.25, 1.5),
            RiseOf::Preferment => need(10.0 * (0.1 / schedule.sponge.unwrap().pct).powf(0.8), 0.80, 1.25, 1.6),
            RiseOf::Bulk if self.leaven => need(5.0 * (20.0 / pct).powf(0.55), 0.85, 1.15, 1.4),
            RiseOf::Bulk => need(2.0 * pct.powf(-0.85), 0.85, 1.15, 1.4),
            RiseOf::Proof if self.leaven => need(2.2 * (20.0 / pct).powf(0.2), 0.88, 1.12, 1.3),
            RiseOf::Proof => need(pct.powf(-0.25), 0.88, 1.12, 1.3),
        }
    }
    fn sigma(&self, rise: RiseOf, coldest_c: f64) -> f64 {
        let own: f64 = match (rise, self.leaven) {
            (RiseOf::Leaven, _) => 0.16,
            (_, true) => 0.24,
            (_, false) => 0.20,
        };
        if coldest_c < 12.0 { own.hypot(0.15) } else { own }
    }
    fn exponent(&mut self, rise: RiseOf, _: &Schedule) -> f64 {
        match (rise, self.leaven) {
            (RiseOf::Bulk, true) => 0.55,
            (RiseOf::Bulk, false) => 0.85,
            (_, true) => 0.2,
            (_, false) => 0.25,
        }
    }
}

#[test]
fn the_stand_in_is_that_of_the_reference() {
    for c in cases("standin_rate") {
        for (t, want) in numbers(&c["given"]["t_c"]).into_iter().zip(c["expect"]["ratio"].as_array().unwrap()) {
            close("P23", StandIn::rate(t), want, 1e-5);
        }
    }
    for c in cases("standin_joint") {
        for (row, want) in c["given"]["rows"].as_array().unwrap().iter().zip(c["expect"]["joints"].as_array().unwrap()) {
            let place = |l: &Value| if l["place_kind"] == "fridge" { Place::Fridge } else { Place::Room };
            let list = row["legs"].as_array().unwrap();
            let mut model = StandIn {
                leaven: false,
                usual: row["dose"].as_f64().unwrap(),
                dough_g: 900.0,
                piece_g: 900.0,
                places: list.iter().map(|l| (place(l), l["place_c"].as_f64().unwrap())).collect(),
            };
            // The reference takes the two minutes of carrying off the place the dough leaves.
            let stays = |l: &Value| l["minutes"].as_i64().map(|m| i32::try_from(m).unwrap() - 2);
            let legs: Vec<Leg> = list.iter().map(|l| Leg { place: place(l), minutes: stays(l) }).collect();
            let rise = if row["kind"] == "bulk" { RiseOf::Bulk } else { RiseOf::Proof };
            let schedule = Schedule {
                family: ScheduleFamily::SameDay,
                feeds: vec![],
                sponge: None,
                bulk: vec![],
                proof: vec![],
                dose: 1.0,
                mix_c: 24.0,
            };
            let n = model.need(rise, &schedule, Past { feed: 0, leaven: 1.0, bulk: 1.0 }).unwrap();
            let ages = Ages { lower: n.lower * n.hours, nominal: n.hours, upper: n.upper * n.hours };
            let limits = (int(&row["min_elastic"]), int(&row["max_elastic"]));
            let legs = curve::stays(&legs, |l| model.place_c(l.place)).unwrap();
            let got = Curves::default().joint(&model, rise, row["t0_c"].as_f64().unwrap(), &legs, ages, limits).unwrap();
            for (got, want) in [got.lo, got.nominal, got.hi].into_iter().zip(want.as_array().unwrap()) {
                let (got, want) = (f64::from(got), want.as_f64().unwrap());
                assert!((got - want).abs() <= 2.0_f64.max(0.002 * want), "{row}: {got} instead of {want}");
            }
        }
    }
}

#[allow(clippy::too_many_lines, reason = "a table of cases")]
fn standin_rules(g: &Value, model: &StandIn) -> Rules {
    let has = |p: Place| model.places.iter().any(|x| x.0 == p);
    let warm: Vec<Place> = model.places.iter().map(|p| p.0).filter(|p| *p != Place::Fridge).collect();
    let rooms: Vec<Place> = warm.iter().copied().filter(|p| *p != Place::ProofBox).collect();
    let perishable = g["perishable"].as_bool().unwrap_or(false);
    let batter = g["style"] == "gluten-free";
    let mut schedules = Vec::new();
    let open = |p: Place| vec![Leg::open(p)];
    let usual = model.usual;
    let mut push = |family, doses: &[f64], feeds: Vec<Vec<Feed>>, sponges: Vec<Option<Sponge>>, rises: Vec<(Vec<Leg>, Vec<Leg>)>| {
        for dose in doses {
            for mix_c in [24.0, 27.0] {
                for f in &feeds {
                    for s in &sponges {
                        for (bulk, proof) in &rises {
                            schedules.push(Schedule {
                                family,
                                feeds: f.clone(),
                                sponge: *s,
                                bulk: bulk.clone(),
                                proof: proof.clone(),
                                dose: *dose,
                                mix_c,
                            });
                        }
                    }
                }
            }
        }
    };
    let pairs: Vec<_> = warm.iter().flat_map(|b| warm.iter().map(move |p| (open(*b), open(*p)))).collect();
    let cold_bulk = |first: &[i32]| -> Vec<(Vec<Leg>, Vec<Leg>)> {
        let mut all = Vec::new();
        for room in first {
            for after in [0, 60] {
                for p in &warm {
                    let legs = [
                        (*room > 0).then_some(Leg::fixed(Place::Room, *room)),
                        Some(Leg::open(Place::Fridge)),
                        (after > 0).then_some(Leg::fixed(Place::Room, after)),
                    ];
                    all.push((legs.into_iter().flatten().collect(), open(*p)));
                }
            }
        }
        all
    };
    let cold_proof: Vec<(Vec<Leg>, Vec<Leg>)> = warm
        .iter()
        .flat_map(|b| {
            [0, 45].map(|room| {
                let first = (room > 0).then_some(Leg::fixed(Place::Room, room));
                (open(*b), first.into_iter().chain([Leg::open(Place::Fridge)]).collect())
            })
        })
        .collect();
    let none = vec![Vec::new()];
    let feeds: Vec<Vec<Feed>> = warm.iter().flat_map(|p| [1.0, 2.0, 5.0, 10.0].map(|ratio| vec![Feed { ratio, place: *p }])).collect();
    if model.leaven {
        let doses = [0.4, 0.7, 1.0, 1.35, 1.7];
        push(ScheduleFamily::LeavenOnce, &doses, feeds.clone(), vec![None], pairs.clone());
        let twice =
            feeds.iter().filter(|f| f[0].ratio >= 5.0).flat_map(|a| feeds.iter().filter(|b| b[0].ratio <= 2.0).map(|b| vec![a[0], b[0]]));
        push(ScheduleFamily::LeavenTwice, &doses, twice.collect(), vec![None], pairs.clone());
        if has(Place::Fridge) {
            push(ScheduleFamily::LeavenColdBulk, &doses, feeds.clone(), vec![None], cold_bulk(&[60, 120, 180, 240, 300]));
            push(ScheduleFamily::LeavenColdProof, &doses, feeds, vec![None], cold_proof);
        }
    } else {
        push(ScheduleFamily::SameDay, &[0.6, 0.75, 1.0, 1.2, 1.4], none.clone(), vec![None], pairs.clone());
        if !batter {
            if !perishable {
                let slow: Vec<f64> = [0.05, 0.07, 0.1, 0.14, 0.2, 0.28, 0.35].iter().map(|p| p / usual).collect();
                push(
                    ScheduleFamily::Slow,
                    &slow,
                    none.clone(),
                    vec![None],
                    rooms.iter().flat_map(|b| rooms.iter().map(move |p| (vec![Leg::open(*b)], vec![Leg::open(*p)]))).collect(),
                );
            }
            let sponges = rooms.iter().map(|p| Some(Sponge { pct: 0.1, place: *p })).collect();
            push(ScheduleFamily::Preferment, &[0.3, 0.5, 0.7, 1.0], none.clone(), sponges, pairs);
            if has(Place::Fridge) {
                let cold = [0.25, 0.35, 0.5, 0.7, 1.0];
                push(ScheduleFamily::ColdBulk, &cold, none.clone(), vec![None], cold_bulk(&[0, 30, 60, 90, 120]));
                push(ScheduleFamily::ColdProof, &cold, none, vec![None], cold_proof);
            }
        }
    }
    Rules {
        works: Works {
            feed: 5,
            scald: None,
            mix: 20,
            soak: 0,
            knead: 0,
            machine: 0,
            shape: (15, 0, 0),
            finish: Vec::new(),
            shaped_at_once: false,
            between_loads: 10,
            load: 5,
            preheat: int(&g["preheat_min"]),
            cold: vec![Place::Fridge],
            bake: (int(&g["bake_min"]), int(&g["bake_min"])),
            bake_late: (0, 0),
            acts: (vec![], vec![]),
            cool: int(&g["cool_min"]),
            loads: g["loads"].as_i64().map_or(1, |l| i32::try_from(l).unwrap()),
        },
        schedules,
        bands: vec![],
        half_shape: false,
        longest_warm: (1080, if model.leaven { 960 } else { 1200 }, if model.leaven { 480 } else { 300 }),
        longest_cold: if perishable {
            (1440, 960)
        } else if model.leaven {
            (2880, 2160)
        } else {
            (4320, 1440)
        },
        least: (0, 0),
        warm_limit: perishable.then_some(240),
        folds: (Folds::default(), 0),
        wanted_flavour: 0.5,
        early_share: if model.leaven { 0.2 } else { 0.3 },
        dose_parts: (1.0, 0.3 / model.usual),
        dose_counts: |f| f != ScheduleFamily::Slow,
        move_cost: 0.0,
        one_feed_cost: 0.0,
        stales: true,
        begun: None,
    }
}

fn standin_day(g: &Value) -> Day {
    let of = |key: &str, kind| spans(&g[key]).into_iter().map(move |span| Away { span, kind });
    let ready = int(&g["ready_at"]);
    Day {
        from: int(&g["now"]),
        ready: Some(ready),
        early: int(&g["early_min"]),
        horizon: Span::new(-2880, ready + 2880),
        away: of("away", AwayKind::Away).chain(of("sleep", AwayKind::Asleep)).collect(),
        hands_taken: vec![],
        oven_taken: vec![],
        mix_within: None,
        nights: vec![],
        want: None,
        woken: false,
    }
}

fn families(search: &Search<'_, StandIn>, plans: &[PlacedSchedule]) -> BTreeSet<&'static str> {
    plans.iter().map(|l| search.rules.schedules[l.schedule].family.word()).collect()
}

/// No work in hours that are not free, in order, inside the wanted hours, ripe where it is used.
fn sound(id: &str, l: &PlacedSchedule, works: &Works, day: &Day) {
    let hit =
        |from: i32, to: i32, kinds: &[AwayKind]| day.away.iter().any(|a| kinds.contains(&a.kind) && from < a.span.to && to > a.span.from);
    let mut end = i32::MIN;
    for (work, start) in l.works.iter().zip(&l.starts) {
        assert!(*start >= end, "{id}: {work:?} begins before the one before it ends");
        end = start + works.length(*work);
        for seg in works.segs(*work) {
            let (from, to) = (start + seg.offset, start + seg.offset + seg.length);
            match seg.need {
                Need::Hands | Need::Brief | Need::Rest => {
                    assert!(!hit(from, to, &[AwayKind::Away, AwayKind::Asleep, AwayKind::Busy]), "{id}: hands at {from}");
                }
                Need::Watch => assert!(!hit(from, to, &[AwayKind::Away, AwayKind::Asleep]), "{id}: watch at {from}"),
                Need::Oven => {}
            }
        }
    }
    let ready = day.ready.unwrap();
    assert!(l.ready <= ready && l.ready >= ready - day.early, "{id}: ready {} for {ready}", l.ready);
    assert!(l.starts[0] >= day.from, "{id}");
    for r in &l.rises {
        let rho = r.judged.ripeness;
        assert!(rho >= r.need.lower - 0.05 - 1e-9 && rho <= r.need.upper + 0.05 + 1e-9, "{id}: {:?} {rho}", r.rise);
    }
}

#[test]
fn whole_plans_with_the_stand_in() {
    for c in cases("whole") {
        let id = c["id"].as_str().unwrap();
        let (g, e) = (&c["given"], &c["expect"]);
        let mut model = StandIn::of(g);
        let rules = standin_rules(g, &model);
        let works = rules.works.clone();
        let mut search = Search::new(&mut model, rules);
        let day = standin_day(g);
        let plans = search.plans(&day, 5);
        for l in &plans {
            sound(id, l, &works, &day);
        }
        let (low, high) = (e["count"][0].as_u64(), e["count"][1].as_u64());
        let count = u64::try_from(plans.len()).unwrap();
        assert!(low.is_none_or(|l| count >= l) && high.is_none_or(|h| count <= h), "{id}: {count} plans");
        let got = families(&search, &plans);
        for f in e["families_include"].as_array().into_iter().flatten() {
            assert!(got.contains(f.as_str().unwrap()), "{id}: no {f} among {got:?}");
        }
        for f in e["families_exclude"].as_array().into_iter().flatten() {
            assert!(!got.contains(f.as_str().unwrap()), "{id}: {f}");
        }
        if let Some(most) = e["p_spoil_max"].as_f64() {
            assert!(plans[0].p_spoil <= most, "{id}: {}", plans[0].p_spoil);
        }
        if let Some(most) = e["warm_min_max"].as_i64() {
            assert!(plans.iter().all(|l| i64::from(l.warm_min) <= most), "{id}");
        }
        let starts = |plans: &[PlacedSchedule]| plans.iter().map(|l| (l.schedule, l.starts.clone())).collect::<Vec<_>>();
        assert_eq!(starts(&search.plans(&day, 5)), starts(&plans), "{id}: the same request, another answer");
        let shifted: Vec<_> = search
            .plans(&shift(&day, 1440), 5)
            .into_iter()
            .map(|l| (l.schedule, l.starts.iter().map(|s| s - 1440).collect::<Vec<_>>()))
            .collect();
        assert_eq!(shifted, starts(&plans), "{id}: another plan a day later");
    }
}

fn shift(day: &Day, by: i32) -> Day {
    let span = |s: Span| Span::new(s.from + by, s.to + by);
    Day {
        from: day.from + by,
        ready: day.ready.map(|r| r + by),
        horizon: span(day.horizon),
        away: day.away.iter().map(|a| Away { span: span(a.span), kind: a.kind }).collect(),
        ..day.clone()
    }
}

#[test]
fn dropping_hours_away_never_removes_a_family() {
    for c in cases("superset") {
        let g = &c["given"];
        let mut model = StandIn::of(g);
        let rules = standin_rules(g, &model);
        let mut search = Search::new(&mut model, rules);
        let day = standin_day(g);
        let alive = |search: &mut Search<'_, StandIn>, day: &Day| -> BTreeSet<ScheduleFamily> {
            ScheduleFamily::ALL.into_iter().filter(|f| !search.stand(day, *f, 1).is_empty()).collect()
        };
        let before = alive(&mut search, &day);
        for i in 0..day.away.len() {
            let mut without = day.clone();
            without.away.remove(i);
            let after = alive(&mut search, &without);
            assert!(after.is_superset(&before), "window {i}: {before:?} but {after:?}");
        }
    }
}

#[test]
fn from_here_a_warm_place_is_sooner_and_the_fridge_holds_longest() {
    for c in cases("replan") {
        let (g, e) = (&c["given"], &c["expect"]);
        let mut model = StandIn::of(&g["request"]);
        let rise = if g["kind"] == "bulk" { RiseOf::Bulk } else { RiseOf::Proof };
        let schedule =
            Schedule { family: ScheduleFamily::SameDay, feeds: vec![], sponge: None, bulk: vec![], proof: vec![], dose: 1.0, mix_c: 24.0 };
        let need = model.need(rise, &schedule, Past { feed: 0, leaven: 1.0, bulk: 1.0 }).unwrap();
        let (age, celsius) = (g["age_h"].as_f64().unwrap(), g["dough_c"].as_f64().unwrap());
        for (key, place) in [("room", Place::Room), ("pantry", Place::Pantry), ("fridge", Place::Fridge), ("proof_box", Place::ProofBox)] {
            let from_here =
                cerealis_core::plan::search::curve::from_here(&model, rise, celsius, (place, model.place_c(place).unwrap()), age, need);
            for (what, got) in [("lo", from_here.lo), ("nominal", from_here.nominal), ("hi", from_here.hi), ("over", from_here.over)] {
                let want = e["reference_with_standin"][key][what].as_f64().unwrap();
                let got = got.unwrap();
                // The reference sums by trapezium on five minutes.
                assert!((got - want).abs() <= 3.0_f64.max(0.005 * want), "{} {key} {what}: {got} instead of {want}", c["id"]);
            }
        }
    }
}

#[test]
fn the_rest_of_a_rise_under_way_is_the_wait_the_reference_gives() {
    for c in cases("replan") {
        let (g, e) = (&c["given"], &c["expect"]["reference_with_standin"]);
        let bulk = g["kind"] == "bulk";
        let mut model = StandIn::of(&g["request"]);
        let rise = if bulk { RiseOf::Bulk } else { RiseOf::Proof };
        let schedule = |place: Place| {
            let open = vec![Leg { place, minutes: None }];
            let (first, second) = if bulk { (open, vec![Leg { place: Place::Room, minutes: None }]) } else { (vec![], open) };
            Schedule { family: ScheduleFamily::SameDay, feeds: vec![], sponge: None, bulk: first, proof: second, dose: 1.0, mix_c: 24.0 }
        };
        let need = model.need(rise, &schedule(Place::Room), Past { feed: 0, leaven: 1.0, bulk: 1.0 }).unwrap();
        let begun = Begun {
            rise,
            need,
            age_h: g["age_h"].as_f64().unwrap(),
            celsius: g["dough_c"].as_f64().unwrap(),
            minutes: 0,
            warm_min: 0,
            folds: vec![],
        };
        for (key, place) in [("room", Place::Room), ("pantry", Place::Pantry), ("fridge", Place::Fridge), ("proof_box", Place::ProofBox)] {
            let rules = Rules { schedules: vec![schedule(place)], begun: Some(begun.clone()), ..standin_rules(&g["request"], &model) };
            let search = Search::new(&mut model, rules);
            let joint = search.solved[0].joints[0];
            for (what, got) in [("lo", joint.lo), ("nominal", joint.nominal), ("hi", joint.hi)] {
                let (got, want) = (f64::from(got), e[key][what].as_f64().unwrap());
                assert!((got - want).abs() <= 3.0_f64.max(0.005 * want), "{} {key} {what}: {got} instead of {want}", c["id"]);
            }
        }
    }
}

#[test]
fn a_change_of_clocks_does_not_lengthen_a_rise() {
    for c in cases("dst") {
        let g = &c["given"];
        let start: Timestamp = g["start"].as_str().unwrap().parse().unwrap();
        let end = cerealis_core::plan::later(start, g["elapsed_min"].as_f64().unwrap());
        let zone = TimeZone::get(g["zone"].as_str().unwrap()).unwrap();
        assert_eq!(end.display_with_offset(zone.to_offset(end)).to_string(), c["expect"]["end"].as_str().unwrap());
    }
}

// Real doughs, real models.

fn tables() -> &'static Tables {
    static TABLES: std::sync::OnceLock<Tables> = std::sync::OnceLock::new();
    TABLES.get_or_init(|| Tables::built_in().unwrap())
}

/// A Monday, 00:00 UTC.
fn instant(minute: i64) -> Timestamp {
    Timestamp::from_second(1_767_571_200 + 60 * minute).unwrap()
}

struct Asked {
    formulas: Vec<(cerealis_core::formula::Formula, Option<Timestamp>)>,
    ask: FitAsk,
    kitchen: Kitchen,
}

fn asked(g: &Value) -> Asked {
    let read = |f: &Value| {
        let body: FormulaBody = serde_json::from_value(f.clone()).unwrap();
        FormulaDraft::from(body).check(&tables().pantry).unwrap()
    };
    let at = |v: &Value| v.as_i64().map(instant);
    let formulas = match g["formulas"].as_array() {
        Some(all) => all.iter().map(|f| (read(&f["formula"]), at(&f["ready_at"]))).collect(),
        None => vec![(read(&g["formula"]), at(&g["ready_at"]))],
    };
    let k = &g["kitchen"];
    let kitchen =
        Kitchen { room_c: k["room_c"].as_f64().unwrap(), scale_step_g: k["scale_step_g"].as_f64().unwrap_or(0.1), ..Kitchen::default() };
    let fridge = match k.get("fridge_c") {
        None => Some(4.0),
        Some(c) => c.as_f64(),
    };
    let mut places = vec![(Place::Room, kitchen.room_c)];
    places.extend(k["pantry_c"].as_f64().map(|c| (Place::Pantry, c)));
    places.extend(fridge.map(|c| (Place::Fridge, c)));
    places.extend(k["proof_box_c"].as_f64().map(|c| (Place::ProofBox, c)));
    let away = g["away"].as_array().unwrap().iter().map(|a| AwayAsk {
        from: at(&a["from"]).unwrap(),
        to: at(&a["to"]).unwrap(),
        kind: AwayKind::from_word(a["kind"].as_str().unwrap()).unwrap(),
    });
    let method = &g["method"];
    let families =
        method["families"].as_array().map(|all| all.iter().map(|f| ScheduleFamily::from_word(f.as_str().unwrap()).unwrap()).collect());
    let ask = FitAsk {
        ready_at: at(&g["ready_at"]),
        early_min: g["early_min"].as_f64(),
        away: away.collect(),
        places,
        families,
        cold_days: g["leaven"]["cold_days"].as_f64().unwrap_or(0.0),
        leaven_ripe_at: at(&g["leaven"]["ripe_at"]),
        ..FitAsk::soon(at(&g["start_at"]).unwrap(), &kitchen)
    };
    Asked { formulas, ask, kitchen }
}

fn clock(at: Timestamp) -> String {
    at.to_string()
}

fn minute(at: Timestamp) -> f64 {
    minutes_between(instant(0), at)
}

/// What holds for every plan on offer.
fn holds(id: &str, o: &Offer, a: &Asked) {
    let hit = |from: Timestamp, to: Timestamp, kinds: &[AwayKind]| {
        a.ask.away.iter().any(|w| kinds.contains(&w.kind) && from < w.to && to > w.from)
    };
    let mut hands: Vec<(Timestamp, Timestamp, StepKind)> = Vec::new();
    for s in &o.course.steps {
        if s.hands_on_min > 0.0 && s.kind != StepKind::OvenOn && (s.hands_on_min - minutes_between(s.start, s.end)).abs() < 1e-6 {
            assert!(
                !hit(s.start, s.end, &[AwayKind::Away, AwayKind::Asleep, AwayKind::Busy]),
                "{id} {}: {:?} at {}",
                o.name,
                s.kind,
                s.start
            );
            hands.push((s.start, s.end, s.kind));
        }
        if s.kind == StepKind::OvenOn {
            assert!(!hit(s.start, s.end, &[AwayKind::Away, AwayKind::Asleep]), "{id} {}: the oven heats alone", o.name);
        }
    }
    hands.sort_by_key(|h| (h.0, h.1));
    for w in hands.windows(2) {
        assert!(w[0].1 <= w[1].0, "{id} {}: two acts at once: {w:?}", o.name);
    }
    if let Some(ready) = a.ask.ready_at {
        assert!(o.course.ready_at <= ready, "{id} {}: ready {} for {ready}", o.name, o.course.ready_at);
    }
    assert!(o.course.steps[0].start >= a.ask.from, "{id} {}: begins before it may", o.name);
    if let Some(warm) = o.warm_min.filter(|_| !a.ask.lift_warm_limit) {
        assert!(warm <= 245.0, "{id} {}: {warm} min warm", o.name);
    }
    runs(id, o, a.ask.cold_days);
}

/// The plan's rises, run by the whole model: ripe where the plan says so.
fn runs(id: &str, o: &Offer, cold_days: f64) {
    let t = tables();
    let analysis = o.formula.analyse(&t.pantry, &t.styles);
    let stages: Vec<RiseStage> = o
        .rises
        .iter()
        .filter(|r| matches!(r.kind, RiseOf::Bulk | RiseOf::Proof))
        .flat_map(|r| r.stages.iter().map(|s| s.1.clone()))
        .collect();
    if stages.is_empty() {
        return;
    }
    let mut dough = dough_of(&analysis, &t.pantry, o.leaven);
    let laid = o.ask.laid.as_ref().unwrap();
    if laid.preferment_yeast_pct > 0.0 {
        analysis.leave_preferment_out(&mut dough, &t.pantry);
        dough.preferment_yeast_pct = laid.preferment_yeast_pct;
    }
    let bulks = stages.iter().filter(|s| s.kind == RiseKind::Bulk).count();
    let rise = Rise { style: analysis.style.id.word().into(), dough, start_c: o.ask.mix_c, stages, rate: 1.0, log_sigma: None };
    let run = simulate(&rise.assume(analysis.dough_g.likely, &t.ferment).unwrap(), &t.ferment).unwrap();
    let mut feeds = 0;
    for r in &o.rises {
        let (first, ripe, aims) = match r.kind {
            RiseOf::Bulk => (0, cerealis_core::ferment::EventKind::BulkRipe, (0.85, 1.15)),
            RiseOf::Proof => (bulks, cerealis_core::ferment::EventKind::ProofRipe, (0.88, 1.12)),
            RiseOf::Leaven => {
                let (seed, water, flour) = r.feed.unwrap();
                let stage = &r.stages[0].1;
                let leaven = Leaven {
                    seed,
                    water,
                    flour,
                    flour_mix: vec![(if analysis.style.id.word() == "rye" { "light-rye" } else { "plain-white" }.into(), 100.0)],
                    seed_hydration_pct: 100.0 * water / flour,
                    seed_state: (feeds == 0).then_some(LeavenState { cold_days: Some(cold_days), ..LeavenState::default() }),
                    place_c: stage.place_c,
                    start_c: Some(24.0),
                    hours: stage.minutes.map(|m| m / 60.0),
                    mass_g: 200.0,
                    rate: 1.0,
                };
                let end = simulate_leaven(&leaven, &t.ferment).unwrap().end.ripeness;
                feeds += 1;
                assert!((0.80..=1.75).contains(&end), "{id} {}: leaven at {end}", o.name);
                continue;
            }
            RiseOf::Preferment => continue,
        };
        let rho = run.ripeness_of_time(first, ripe).unwrap_or_else(|| panic!("{id} {}: {:?} never ripens", o.name, r.kind));
        assert!(rho >= aims.0 - 0.05 && rho <= aims.1 + 0.05, "{id} {}: {:?} ripe at {rho}, planned {}", o.name, r.kind, r.ripeness);
    }
}

fn within(id: &str, what: &str, value: f64, range: &Value) {
    let (low, high) = (range[0].as_f64().unwrap(), range[1].as_f64().unwrap());
    assert!((low - 1e-9..=high + 1e-9).contains(&value), "{id}: {what} {value}, not in {low} to {high}");
}

fn hours(o: &Offer, kind: StepKind) -> f64 {
    o.course.steps.iter().filter(|s| s.kind == kind).map(|s| minutes_between(s.start, s.end)).sum::<f64>() / 60.0
}

fn fridge_hours(o: &Offer) -> f64 {
    let legs = o.rises.iter().flat_map(|r| &r.stages).filter(|s| s.0 == Place::Fridge);
    legs.filter_map(|s| s.1.minutes).sum::<f64>() / 60.0
}

#[expect(clippy::cognitive_complexity, reason = "one line for each key of the cases")]
fn expected(id: &str, e: &Value, answer: &Answer, a: &Asked) {
    let names: BTreeSet<&str> = answer.offers.iter().map(|o| o.family.word()).collect();
    let words = |v: &Value| -> Vec<String> {
        v.as_array().map_or_else(Vec::new, |all| all.iter().map(|w| w.as_str().unwrap().to_owned()).collect())
    };
    for o in &answer.offers {
        holds(id, o, a);
    }
    if e["none"] == true {
        assert!(answer.offers.is_empty(), "{id}: {names:?}");
        assert!(answer.findings.iter().any(|f| f.id == "no-plan" && !f.message.is_empty()), "{id}");
        assert!(answer.relax.iter().all(|r| !r.message.is_empty()), "{id}");
        let kinds: BTreeSet<&str> = answer
            .relax
            .iter()
            .flat_map(|r| [Some(r.kind.word()), r.with.map(cerealis_core::plan::search::relax::RelaxKind::word)])
            .flatten()
            .collect();
        for k in words(&e["relax"]) {
            assert!(kinds.contains(k.as_str()), "{id}: no {k} among {kinds:?}");
        }
        for any in e["relax_any"].as_array().into_iter().flatten() {
            assert!(words(any).iter().any(|k| kinds.contains(k.as_str())), "{id}: none of {any} among {kinds:?}");
        }
        for (kind, range) in e["relax_min"].as_object().into_iter().flatten() {
            let r = answer.relax.iter().find(|r| r.kind.word() == kind).unwrap();
            within(id, kind, f64::from(r.minutes), range);
        }
        // Each way out is one: the request with it has a plan.
        for r in &answer.relax {
            let again = r.offer_for(&a.formulas[0].0, &a.kitchen, tables());
            assert!(again.is_some(), "{id}: {} leads nowhere", r.message);
        }
        // The first of them is shown beforehand as it will be.
        let again = answer.relax.first().and_then(|r| r.offer_for(&a.formulas[0].0, &a.kitchen, tables()));
        let steps = |o: &Offer| o.course.steps.iter().map(|s| format!("{:?} {}", s.kind, s.start)).collect::<Vec<_>>();
        assert_eq!(answer.nearest.as_deref().map(steps), again.as_ref().map(steps), "{id}: the nearest");
        return;
    }
    let count = u64::try_from(answer.offers.len()).unwrap();
    let why = answer.findings.iter().map(|f| f.message.clone()).collect::<Vec<_>>();
    assert!(count >= e["count"][0].as_u64().unwrap_or(0) && count <= e["count"][1].as_u64().unwrap_or(5), "{id}: {names:?} {why:?}");
    for f in words(&e["include"]) {
        assert!(names.contains(f.as_str()), "{id}: no {f} among {names:?}");
    }
    for any in e["include_any"].as_array().into_iter().flatten() {
        assert!(words(any).iter().any(|f| names.contains(f.as_str())), "{id}: none of {any} among {names:?}");
    }
    for f in words(&e["exclude"]) {
        assert!(!names.contains(f.as_str()), "{id}: {f}");
    }
    let only = words(&e["only"]);
    assert!(only.is_empty() || names.iter().all(|n| only.iter().any(|o| o == n)), "{id}: {names:?}");
    let first = words(&e["first"]);
    assert!(first.is_empty() || first.iter().any(|f| f == answer.offers[0].family.word()), "{id}: {:?}", answer.offers[0].family);
    for o in &answer.offers {
        let family = o.family.word();
        for (key, value) in [
            ("dose", o.dose.as_ref().map_or(0.0, |d| d.pct)),
            ("bulk_h", hours(o, StepKind::Bulk)),
            ("proof_h", hours(o, StepKind::Proof)),
            ("fridge_h", fridge_hours(o)),
        ] {
            if let Some(range) = e[key].get(family) {
                within(id, &format!("{family} {key}"), value, range);
            }
        }
        for kind in words(&e["needs"]) {
            assert!(o.course.steps.iter().any(|s| s.kind.word() == kind), "{id}: no step {kind}");
        }
        for kind in words(&e["no_step"]) {
            assert!(!o.course.steps.iter().any(|s| s.kind.word() == kind), "{id}: step {kind}");
        }
        for (kind, range) in e["step_between"].as_object().into_iter().flatten() {
            let step = o.course.steps.iter().find(|s| s.kind.word() == kind).unwrap();
            within(id, kind, minute(step.start), range);
        }
        if let Some(least) = e["rest_h"].as_f64() {
            let out = o.course.steps.iter().find(|s| s.kind == StepKind::Out).unwrap();
            assert!(minutes_between(out.start, o.course.ready_at) >= 60.0 * least, "{id}");
        }
        if let (Some(step), Some(dose)) = (e["scale_step"].as_f64(), &o.dose) {
            let whole = (dose.grams / step).round() * step;
            assert!((dose.grams - whole).abs() < 1e-6 || dose.dissolve.is_some(), "{id}: {} g", dose.grams);
        }
        if let Some(most) = e["warm_max"].as_f64() {
            assert!(o.warm_min.is_some_and(|w| w <= most), "{id}: {:?}", o.warm_min);
        }
    }
    if let Some(most) = e["ready_within"].as_f64() {
        assert!(minutes_between(a.ask.from, answer.offers[0].course.ready_at) <= most, "{id}");
    }
    for f in words(&e["finding"]) {
        assert!(answer.findings.iter().any(|x| x.id == f), "{id}: no {f}");
    }
}

#[test]
fn whole_plans_of_real_doughs() {
    for c in cases("real") {
        let id = c["id"].as_str().unwrap();
        let (g, e) = (&c["given"], &c["expect"]);
        let a = asked(g);
        if let [(formula, _)] = a.formulas.as_slice() {
            let answer = fit(formula, &a.ask, &a.kitchen, tables(), &clock).unwrap();
            expected(id, e, &answer, &a);
        } else {
            let plans = fit_many(&a.formulas, &a.ask, &a.kitchen, tables(), &clock).unwrap();
            let count = u64::try_from(plans.offers.len()).unwrap();
            assert!(count >= e["count"][0].as_u64().unwrap() && count <= e["count"][1].as_u64().unwrap(), "{id}: {count}");
            for parts in &plans.offers {
                assert_eq!(u64::try_from(parts.len()).unwrap(), e["parts"].as_u64().unwrap(), "{id}");
                for (o, (_, ready)) in parts.iter().zip(&a.formulas) {
                    holds(id, o, &asked(g));
                    assert!(ready.is_none_or(|r| o.course.ready_at <= r), "{id}");
                }
                let mut ovens: Vec<(f64, f64)> = parts.iter().map(in_oven).collect();
                ovens.sort_by(|x, y| x.0.total_cmp(&y.0));
                let apart = ovens.windows(2).all(|w| w[0].1 + 15.0 <= w[1].0 + 1e-6);
                let same = parts.windows(2).all(|w| (w[0].course.oven.set_c - w[1].course.oven.set_c).abs() <= 10.0);
                assert!(apart || same, "{id}: {ovens:?}");
            }
        }
    }
}

fn in_oven(o: &Offer) -> (f64, f64) {
    let at = |kind| o.course.steps.iter().find(|s| s.kind == kind).map(|s| minute(s.start)).unwrap();
    (at(StepKind::Load), at(StepKind::Out))
}

/// The conversion from places and clock to dough hours: a run of the whole model along places and the
/// search's own curve give the same age.
#[test]
fn the_curve_ages_as_the_model_does() {
    let c = cases("real").into_iter().find(|c| c["id"] == "RS10").unwrap();
    let a = asked(&c["given"]);
    let answer = fit(&a.formulas[0].0, &a.ask, &a.kitchen, tables(), &clock).unwrap();
    for o in &answer.offers {
        for r in o.rises.iter().filter(|r| matches!(r.kind, RiseOf::Bulk)) {
            let f = &o.course.forecast;
            let rho = f.ripeness_of_time(0, cerealis_core::ferment::EventKind::BulkRipe).unwrap();
            assert!((rho - r.ripeness).abs() < 0.01, "{}: {rho} by the model, {} by the curve", o.name, r.ripeness);
        }
    }
    let model = StandIn { leaven: false, usual: 1.0, dough_g: 900.0, piece_g: 900.0, places: vec![(Place::Room, 24.0)] };
    let (age, c) = age_after(&model, RiseOf::Bulk, 24.0, &[Stay::at((Place::Room, 24.0), Some(90))], 0.0);
    assert!((age - 1.5).abs() < 1e-9 && (c - 24.0).abs() < 1e-9, "at 24 °C an hour is an hour");
    assert!(matches!(Work::Mix, Work::Mix));
}
