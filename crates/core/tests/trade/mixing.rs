//! The work at the bowl: its acts, its warmth and its water agree, over doughs and kitchens by lot; what is added by feel; what a
//! window says. Arithmetic and the kneading model, estimate; usual minutes are common practice, no source.

use cerealis_core::{
    bake::{BakeState, Event, EventBody},
    formula::{Formula, KneadingBody, KneadingTold, kneading_in},
    kitchen::Kitchen,
    knead::{Method, MixerSize, PhaseKind, WindowWord, speed_by},
    plan::{Mixing, Plan, PlanAsk, StepKind, at_its_best, later},
    water::{MixRise, WaterAsk, for_formula, warmest_c},
};
use jiff::Timestamp;
use proptest::prelude::*;

use super::bench::{LEAN, formula, near, tables};

fn told(method: Method) -> KneadingTold {
    KneadingTold { method, minutes: None, rest_min: None, folds: None, butter_late: None }
}

prop_compose! {
    /// A wheat dough, lean to rich, stiff to wet, by any way of kneading.
    fn any_dough()(
        flour in 200.0..2500.0f64, water in 0.5..0.85f64, fat in 0.0..0.4f64, sugar in 0.0..0.15f64, whole in 0.0..0.6f64,
        method in prop::sample::select(Method::ALL.to_vec()), rest in prop::option::of(5.0..90.0f64), own in any::<bool>(),
    ) -> Formula {
        let mut lines = vec![("wheat-bread", flour * (1.0 - whole)), ("water", flour * water), ("salt-fine", flour * 0.02), ("yeast-instant", flour * 0.008)];
        lines.extend([("wheat-whole", flour * whole), ("butter-unsalted", flour * fat), ("sugar-white", flour * sugar)].into_iter().filter(|l| l.1 > 1.0));
        let kneading = own.then(|| KneadingTold { rest_min: rest, ..told(method) });
        Formula { kneading, ..formula(&lines) }
    }
}

prop_compose! {
    fn any_kitchen()(
        room_c in 12.0..30.0f64, flour_c in 10.0..28.0f64, tap_c in 5.0..25.0f64,
        mixer in prop::sample::select(vec!["none", "hand", "planetary-low", "planetary-medium", "spiral-high", "processor"]), large in any::<bool>(),
    ) -> Kitchen {
        let mixer_size = if large { MixerSize::Large } else { MixerSize::Small };
        Kitchen { room_c, flour_c, tap_c, mixer: mixer.into(), mixer_size, ..Kitchen::default() }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]

    #[test]
    fn the_acts_add_up_and_hands_are_part_of_them(f in any_dough(), k in any_kitchen()) {
        let a = f.analyse(&tables().pantry, &tables().styles);
        let m = Mixing::of(&a, &k, tables());
        prop_assert_eq!(m.acts[0].kind, StepKind::Mix);
        for act in &m.acts {
            prop_assert!(act.minutes >= 1.0 && act.minutes.fract() == 0.0, "{:?}", act);
            prop_assert!(act.hands_min <= act.minutes && act.low_min <= act.high_min, "{:?}", act);
        }
        prop_assert!(m.hands_min() <= m.minutes());
        let ask = PlanAsk::usual(&f, &k, Timestamp::UNIX_EPOCH, tables());
        prop_assert!(near(ask.mix_min, m.minutes(), 1e-9) && ask.mixing == m.acts && ask.check().is_ok());
        // Tapped as planned nothing moves; each act tapped late moves what is left, and one tapped twice or out of turn does not.
        let (mut at, mut over) = (ask.start, Vec::new());
        for act in &ask.mixing {
            at = later(at, act.minutes);
            over.extend([(act.kind, at), (act.kind, later(at, 1.0))]);
            prop_assert_eq!(ask.mixed_at(&over), later(ask.start, ask.mix_min));
        }
        prop_assert_eq!(ask.mixed_at(&[(StepKind::Mix, later(ask.start, 90.0))]), later(ask.start, 90.0 + ask.mix_min - ask.mixing[0].minutes));
    }

    /// The dough leaves the bowl as warm as the plan starts its rise: the water is what brings it there.
    #[test]
    fn plan_water_and_kneading_tell_one_temperature(f in any_dough(), k in any_kitchen()) {
        let a = f.analyse(&tables().pantry, &tables().styles);
        let ask = PlanAsk::usual(&f, &k, Timestamp::UNIX_EPOCH, tables());
        let work = kneading_in(&a, &k).check(&tables().knead, &tables().styles, &tables().ferment).unwrap();
        let (best, dough_c) = at_its_best(&work, &a, &k, tables());
        prop_assert!(near(ask.mix_c, dough_c.clamp(10.0, 40.0), 1e-9));
        prop_assert!(near(best.kneading().dough_c.likely, dough_c, 0.02), "{} {}", best.kneading().dough_c.likely, dough_c);
        let MixRise::Kneaded { rise_k, friction_k, .. } = MixRise::of(&a, &k, dough_c, tables()) else { panic!("it is kneaded") };
        prop_assert!(near(best.starting_at(dough_c - rise_k).leaves_at(), dough_c, 0.02));
        prop_assert!(friction_k >= 0.0);
        // With the water told, heat for heat, the bowl starts as warm as the kneading takes it for.
        let by_heat = WaterAsk { method: Some(cerealis_core::water::Method::HeatBalance), ..WaterAsk::usual(&a, &k, dough_c, tables()) };
        if let Ok(w) = for_formula(&a, &by_heat, &tables().ferment) {
            let warmest = warmest_c(&best, &a, &k, tables()).unwrap();
            prop_assert!(w.water_c <= 44.1 || dough_c > warmest - 0.1, "water at {} for {dough_c}, at most {warmest}", w.water_c);
        }
    }

    #[test]
    fn the_way_ends_where_the_kneading_does(f in any_dough(), k in any_kitchen()) {
        let a = f.analyse(&tables().pantry, &tables().styles);
        let work = kneading_in(&a, &k).check(&tables().knead, &tables().styles, &tables().ferment).unwrap();
        let done = work.kneading();
        let way = work.way(&done);
        prop_assert!(way.points.windows(2).all(|w| w[0].min <= w[1].min && w[0].gluten.likely <= w[1].gluten.likely + 1e-9));
        let out = way.points.iter().find(|p| p.min >= way.out_min - 1e-6).unwrap();
        prop_assert!(near(out.gluten.likely, done.gluten, 1e-6) && near(out.celsius.likely, done.dough_c.likely, 1e-6));
        prop_assert!(near(out.celsius.low, done.dough_c.low, 1e-6), "the same band");
        let soaks = way.phases.iter().filter(|p| p.0 == PhaseKind::Soak).map(|p| p.2 - p.1).sum::<f64>();
        prop_assert!(near((way.out_min - soaks) * f64::from(done.batches) + soaks, done.elapsed_min, 1e-6));
        prop_assert_eq!(way.phases.iter().filter(|p| p.0 == PhaseKind::Fold).count(), usize::try_from(done.folds).unwrap());
    }

    #[test]
    fn by_feel_adds_just_what_it_adds(f in any_dough(), flour in 0.0..200.0f64, water in 0.0..200.0f64) {
        let of = |f: &Formula| {
            let a = f.analyse(&tables().pantry, &tables().styles);
            (a.flour_g.likely, a.dough_g.likely, a.hydration_pct.likely)
        };
        let (before, after) = (of(&f), of(&f.by_feel(flour, water)));
        prop_assert!(near(after.0 - before.0, flour, 1e-6) && near(after.1 - before.1, flour + water, 1e-6));
        prop_assert!(water <= 0.0 || flour > 0.0 || after.2 > before.2);
        prop_assert!(near(of(&f.by_feel(flour, 0.0).by_feel(0.0, water)).2, after.2, 1e-9), "in one go or two");
    }
}

/// A dough beyond what the kneading knows is planned all the same.
#[test]
fn a_batter_wetter_than_any_and_a_hundredweight_are_planned_with_usual_minutes() {
    for lines in [
        vec![("wheat-bread", 300.0), ("water", 480.0), ("salt-fine", 6.0), ("yeast-instant", 3.0)],
        vec![("wheat-bread", 60_000.0), ("water", 39_000.0), ("salt-fine", 1200.0), ("yeast-instant", 300.0)],
    ] {
        let f = formula(&lines);
        let ask = PlanAsk::usual(&f, &Kitchen::default(), Timestamp::UNIX_EPOCH, tables());
        assert!(ask.check().is_ok() && ask.mixing.len() == 1 && ask.mix_min >= 15.0, "{ask:?}");
        let a = f.analyse(&tables().pantry, &tables().styles);
        assert!(kneading_in(&a, &Kitchen::default()).check(&tables().knead, &tables().styles, &tables().ferment).is_err());
        // No oven takes the hundredweight in one piece.
        let plan = Plan::make(&f, &ask, &Kitchen::default(), tables());
        assert!(plan.is_ok() || a.flour_g.likely > 50_000.0, "{plan:?}");
    }
}

/// Ten grams of water on 500 g of flour are two points of water. Arithmetic.
#[test]
fn ten_grams_of_water_are_two_points_and_an_undo_takes_them_back() {
    let pct = |f: &Formula| f.analyse(&tables().pantry, &tables().styles).hydration_pct.likely;
    let f = formula(LEAN);
    assert!(near(pct(&f.by_feel(0.0, 10.0)) - pct(&f), 2.0, 1e-9));
    let now: Timestamp = "2026-11-06T18:00:00Z".parse().unwrap();
    let event = |seq, kind: &str, value, what: Option<&str>| {
        let body = EventBody { kind: kind.into(), value: Some(value), what: what.map(Into::into), ..EventBody::default() };
        Event { seq, event: body.check(now).unwrap() }
    };
    let k = Kitchen::default();
    let plan = Plan::make(&f, &PlanAsk::usual(&f, &k, now, tables()), &k, tables()).unwrap();
    let added = |log: &[Event]| BakeState::of(log, &plan, &f, &k, now, tables()).unwrap().bowl.by_feel;
    let mut log =
        vec![event(1, "added", 10.0, Some("water")), event(2, "added", 10.0, Some("water")), event(3, "added", 15.0, Some("flour"))];
    assert!(near(added(&log).0, 15.0, 1e-9) && near(added(&log).1, 20.0, 1e-9));
    log.push(event(4, "undo", 2.0, None));
    assert!(near(added(&log).0, 15.0, 1e-9) && near(added(&log).1, 10.0, 1e-9));
    for (body, place) in [
        (EventBody { kind: "added".into(), value: Some(10.0), what: Some("milk".into()), ..EventBody::default() }, "/what"),
        (EventBody { kind: "added".into(), what: Some("water".into()), ..EventBody::default() }, "/value"),
        (EventBody { kind: "added".into(), value: Some(9000.0), what: Some("water".into()), ..EventBody::default() }, "/value"),
        (EventBody { kind: "window".into(), what: Some("wide".into()), ..EventBody::default() }, "/what"),
        (EventBody { kind: "window".into(), ..EventBody::default() }, "/what"),
    ] {
        assert!(super::bench::places(&body.check(now).unwrap_err()).contains(&place), "{place}");
    }
}

#[test]
fn a_window_that_tears_wants_more_and_a_strong_one_nothing() {
    let f = Formula { kneading: Some(told(Method::Hand)), ..formula(LEAN) };
    let a = f.analyse(&tables().pantry, &tables().styles);
    let work = kneading_in(&a, &Kitchen::default()).check(&tables().knead, &tables().styles, &tables().ferment).unwrap();
    let minutes = work.kneading().knead_min;
    let tears = work.window_told(WindowWord::Tears, minutes).unwrap();
    assert!(tears.more_min > 0.5 && tears.folds >= 1, "{tears:?}: slower than we thought");
    let strong = work.window_told(WindowWord::Strong, minutes).unwrap();
    assert!(strong.more_min < 1e-9 && strong.development > tears.development && strong.folds == 0, "{strong:?}");
    let early = work.window_told(WindowWord::Tears, 1.0).unwrap();
    assert!(early.more_min > tears.more_min, "the sooner it is pulled, the more there is to do");
    let rye = formula(&[("rye-dark", 500.0), ("water", 400.0), ("salt-fine", 10.0), ("yeast-instant", 4.0)]);
    let rye = rye.analyse(&tables().pantry, &tables().styles);
    let work = kneading_in(&rye, &Kitchen::default()).check(&tables().knead, &tables().styles, &tables().ferment).unwrap();
    assert!(work.window_told(WindowWord::Tears, 5.0).is_none(), "rye has no window");
}

#[test]
fn the_household_kneads_as_its_kitchen_and_the_dough_say() {
    let by = |f: &Formula, mixer: &str| {
        let k = Kitchen { mixer: mixer.into(), ..Kitchen::default() };
        kneading_in(&f.analyse(&tables().pantry, &tables().styles), &k).method
    };
    let sourdough = formula(&[("wheat-bread", 450.0), ("water", 330.0), ("leaven-wheat", 100.0), ("salt-fine", 10.0)]);
    assert_eq!(by(&formula(LEAN), "hand"), "hand");
    assert_eq!(by(&formula(LEAN), "spiral-high"), "spiral-high");
    assert_eq!(by(&formula(LEAN), "none"), "fold", "wet enough to be folded to strength");
    assert_eq!(by(&sourdough, "planetary-medium"), "fold", "by custom");
    assert_eq!(by(&Formula { kneading: Some(told(Method::Slap)), ..sourdough }, "hand"), "slap", "what is told goes before");
}

#[test]
fn what_is_told_of_the_kneading_is_checked_where_it_stands_and_kept() {
    use cerealis_core::formula::FormulaDraft;
    let with = |kneading: KneadingBody| FormulaDraft { kneading: Some(kneading), ..FormulaDraft::from(formula(LEAN).body()) };
    let good =
        KneadingBody { method: "hand".into(), minutes: Some(12.0), rest_min: Some(20.0), folds: Some(1.0), butter_late: Some(false) };
    let f = with(good.clone()).check(&tables().pantry).unwrap();
    assert_eq!(f.body().kneading, Some(good.clone()));
    for (wrong, place) in [
        (KneadingBody { method: "wishing".into(), ..good.clone() }, "/kneading/method"),
        (KneadingBody { minutes: Some(61.0), ..good.clone() }, "/kneading/minutes"),
        (KneadingBody { minutes: Some(f64::NAN), ..good.clone() }, "/kneading/minutes"),
        (KneadingBody { rest_min: Some(-1.0), ..good.clone() }, "/kneading/rest_min"),
        (KneadingBody { folds: Some(2.5), ..good.clone() }, "/kneading/folds"),
        (KneadingBody { folds: Some(9.0), ..good }, "/kneading/folds"),
    ] {
        let e = with(wrong).check(&tables().pantry).unwrap_err();
        assert!(super::bench::places(&e).contains(&place), "{place}: {e:?}");
    }
}

#[test]
fn windows_of_many_bakes_teach_how_fast_a_household_kneads() {
    let f = Formula { kneading: Some(told(Method::Hand)), ..formula(LEAN) };
    let a = f.analyse(&tables().pantry, &tables().styles);
    let work = kneading_in(&a, &Kitchen::default()).check(&tables().knead, &tables().styles, &tables().ferment).unwrap();
    let minutes = work.kneading().knead_min;
    let speed = |words: &[WindowWord]| {
        let pulls: Vec<_> = words.iter().map(|w| work.pulled(*w, minutes).unwrap()).collect();
        speed_by(&pulls, &tables().knead)
    };
    use WindowWord::{Strong, Tears};
    assert_eq!(speed(&[]), None);
    let (one, many) = (speed(&[Tears]).unwrap(), speed(&[Tears; 6]).unwrap());
    assert!(many < one && one < 1.0, "each says it again: {one} {many}");
    assert!(speed(&[Strong]).unwrap() > 1.0 && speed(&[Strong, Tears]).unwrap() < speed(&[Strong]).unwrap());
    assert!((0.25..=4.0).contains(&many), "no figure that a kneading refuses");
    // A slow household kneads longer.
    let slow = kneading_in(&a, &Kitchen { knead_speed: Some(many), ..Kitchen::default() });
    let slow = slow.check(&tables().knead, &tables().styles, &tables().ferment).unwrap().kneading();
    assert!(slow.knead_min > minutes);
}

#[test]
fn minutes_of_kneading_are_counted_by_what_was_tapped() {
    let lines = [("wheat-bread", 500.0), ("milk-whole", 290.0), ("butter-unsalted", 60.0), ("salt-fine", 9.0), ("yeast-instant", 5.0)];
    let f = Formula { kneading: Some(KneadingTold { butter_late: Some(true), ..told(Method::Hand) }), ..formula(&lines) };
    let ask = PlanAsk::usual(&f, &Kitchen::default(), Timestamp::UNIX_EPOCH, tables());
    let at = |min: f64| later(Timestamp::UNIX_EPOCH, min);
    let over = [(StepKind::Mix, at(20.0)), (StepKind::Knead, at(27.0)), (StepKind::Butter, at(31.0))];
    let until = |n: usize, min: f64| ask.kneaded_min(&over[..n], at(min));
    assert!(near(until(0, 15.0), 0.0, 1e-9), "nothing is mixed yet");
    assert!(near(until(1, 24.0), 4.0, 1e-9));
    assert!(near(until(2, 30.0), 7.0, 1e-9), "the butter is no kneading");
    assert!(near(until(3, 33.0), 9.0, 1e-9));
    assert!(near(until(3, 24.0), 4.0, 1e-9), "as it was then");
}

/// Active dry yeast is stirred into four to five times its weight of warm liquid, 38 to 43 °C, and foams within ten minutes.
/// Common practice, no source.
#[test]
fn dry_yeast_is_woken_first_and_other_yeast_is_not() {
    use cerealis_core::plan::{Plan, PlanAsk, StepKind};
    let t = tables();
    let k = Kitchen::default();
    for (yeast, wakes) in [(("yeast-active-dry", 8.0), true), (("yeast-instant", 6.0), false), (("yeast-fresh", 20.0), false)] {
        let f = formula(&[("wheat-bread", 500.0), ("water", 330.0), ("salt-fine", 10.0), yeast]);
        let ask = PlanAsk::usual(&f, &k, "2026-11-07T08:00:00Z".parse().unwrap(), t);
        let plan = Plan::make(&f, &ask, &k, t).unwrap();
        let woken: Vec<_> = plan.steps.iter().filter(|s| s.kind == StepKind::Bloom).collect();
        assert_eq!(woken.len(), usize::from(wakes), "{yeast:?}");
        if let Some(step) = woken.first() {
            let mix = plan.step(StepKind::Mix).unwrap();
            assert_eq!(step.end, mix.start, "then the rest is weighed");
            let words = cerealis_core::measure::plain(&step.instruction);
            assert!(words.contains("8 g") && words.contains("35 g") && words.contains("38–43"), "{words}");
            assert!(step.sign.contains("foam") && step.under.contains("more") && step.over.contains("new yeast"));
            assert!(mix.instruction.contains("foam"), "{}", mix.instruction);
        }
    }
}
