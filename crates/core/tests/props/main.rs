//! What must hold for any dough, any recipe, any oven.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::indexing_slicing, clippy::panic, reason = "tests")]

mod household;
mod measure;
mod oven;
mod planning;
mod replan;

use std::sync::OnceLock;

use cerealis_core::{
    Tables,
    bake::{BakeState, Event, EventBody},
    ferment::{Dough, EventKind, Population, Rate, Rise, RiseKind, RiseStage, YeastDose, free_gas, simulate},
    formula::{Formula, FormulaDraft, LineDraft, ScaleBody, Typed, find},
    input::number,
    kitchen::Kitchen,
    measure::{Band, Celsius, Grams, Kelvins, show_grams},
    oven::{Bake, BakeBody, DegreeScale, Dial, Glaze, Meets, Status, advise, read_setting, setting_limits},
    pantry::Pantry,
    plan::{Plan, PlanAsk, later},
    reader::{Choices, read},
    water::{Part, heat_balance, ice},
};
use proptest::{prelude::*, test_runner::FileFailurePersistence};

fn tables() -> &'static Tables {
    static TABLES: OnceLock<Tables> = OnceLock::new();
    TABLES.get_or_init(|| Tables::built_in().unwrap())
}

fn config(cases: u32) -> ProptestConfig {
    ProptestConfig {
        cases,
        failure_persistence: Some(Box::new(FileFailurePersistence::WithSource("regressions"))),
        ..ProptestConfig::default()
    }
}

fn any_formula() -> impl Strategy<Value = Formula> {
    let ids: Vec<String> = tables().pantry.all().iter().map(|i| i.id.clone()).collect();
    let line = (prop::sample::select(ids), 0.5..800.0f64).prop_map(|(ingredient, grams)| LineDraft {
        ingredient,
        grams: Typed::Number(grams),
        grams_low: Some(grams * 0.9),
        grams_high: Some(grams * 1.2),
        stage: None,
        source: None,
        hydration_pct: None,
        used: None,
    });
    (100.0..2000.0f64, prop::collection::vec(line, 1..12)).prop_map(|(flour, mut lines)| {
        lines.insert(
            0,
            LineDraft {
                ingredient: "wheat-bread".into(),
                grams: Typed::Number(flour),
                grams_low: None,
                grams_high: None,
                stage: None,
                source: None,
                hydration_pct: None,
                used: None,
            },
        );
        FormulaDraft { lines, ..FormulaDraft::default() }.check(&tables().pantry).unwrap()
    })
}

fn any_dough() -> impl Strategy<Value = Dough> {
    (60.0..80.0f64, 1.0..2.5f64, 0.0..15.0f64, 0.0..20.0f64, 0.1..2.0f64).prop_map(|(water_pct, salt_pct, sugar_pct, fat_pct, pct)| Dough {
        flour: vec![("strong-white".into(), 80.0), ("plain-white".into(), 20.0)],
        water_pct,
        salt_pct,
        sugar_pct,
        fat_pct,
        solids_pct: 0.0,
        yeast: Some(YeastDose { kind: "instant".into(), pct, viable: 1.0 }),
        leaven: None,
        preferment_yeast_pct: 0.0,
        spice_factor: 1.0,
    })
}

fn lean() -> Formula {
    let line =
        |(ingredient, grams): (&str, f64)| LineDraft { ingredient: ingredient.into(), grams: Typed::Number(grams), ..LineDraft::blank() };
    let lines = [("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0), ("yeast-instant", 4.0)].map(line).to_vec();
    FormulaDraft { lines, ..FormulaDraft::default() }.check(&tables().pantry).unwrap()
}

fn rise(dough: &Dough, start_c: f64, stages: Vec<RiseStage>) -> Rise {
    Rise { style: "lean".into(), dough: dough.clone(), start_c, stages, rate: 1.0, log_sigma: None }
}

fn bulk(place_c: f64, minutes: Option<f64>) -> RiseStage {
    RiseStage { minutes, ..RiseStage::until_ripe(RiseKind::Bulk, place_c, 900.0) }
}

proptest! {
    #![proptest_config(config(128))]

    /// What baker's percentages are for: weights change, percentages do not.
    #[test]
    fn scaling_keeps_every_percentage(formula in any_formula(), flour_g in 1.0..10_000.0f64) {
        let t = tables();
        let a = formula.analyse(&t.pantry, &t.styles);
        let scale = ScaleBody { flour_g: Some(flour_g), ..ScaleBody::default() }.check(&formula, &a, t).unwrap();
        let scaled = formula.scaled(&scale, &a);
        let b = scaled.analyse(&t.pantry, &t.styles);
        prop_assert!((b.flour_g.likely / flour_g - 1.0).abs() < 1e-9);
        for (x, y) in [(a.hydration_pct, b.hydration_pct), (a.salt_pct, b.salt_pct), (a.sugar_pct, b.sugar_pct), (a.fat_pct, b.fat_pct), (a.yeast_instant_pct, b.yeast_instant_pct)] {
            prop_assert!((x.likely - y.likely).abs() < 1e-7 * x.likely.max(1.0) && (x.high - y.high).abs() < 1e-7 * x.high.max(1.0));
        }
        prop_assert_eq!(a.style.id, b.style.id);
    }

    /// Percentages of the dough's lines are their weights on the flour; low ≤ likely ≤ high.
    #[test]
    fn percentages_sum_to_the_dough(formula in any_formula()) {
        let t = tables();
        let a = formula.analyse(&t.pantry, &t.styles);
        let sum: f64 = a.line_pct.iter().flatten().sum();
        prop_assert!((sum * a.flour_g.likely / 100.0 - a.dough_g.likely).abs() < 1e-6 * a.dough_g.likely);
        for b in [a.flour_g, a.dough_g, a.hydration_pct, a.effective_hydration_pct, a.salt_pct, a.sugar_pct, a.fat_pct] {
            prop_assert!(b.low <= b.likely + 1e-9 && b.likely <= b.high + 1e-9);
        }
        let found = find(&a, t);
        prop_assert!(found.iter().all(|f| f.line.is_none_or(|l| l < formula.lines.len()) && !f.message.contains("NaN") && !f.message.contains("inf")));
    }

    /// The wire form loses nothing.
    #[test]
    fn a_formula_survives_its_wire_form(formula in any_formula()) {
        let json = serde_json::to_string(&formula.body()).unwrap();
        let body = serde_json::from_str::<cerealis_core::formula::FormulaBody>(&json).unwrap();
        prop_assert_eq!(FormulaDraft::from(body).check(&tables().pantry).unwrap(), formula);
    }

    /// A recipe has no syntax errors: any text is answered, and the same text the same way.
    #[test]
    fn reading_never_panics_on_any_text(text in any::<String>()) {
        if let Ok(r) = read(&text, &Choices::default(), &[], tables()) {
            let again = read(&text, &Choices::default(), &[], tables()).unwrap();
            prop_assert_eq!(&r.formula, &again.formula);
            prop_assert!(r.lines.iter().all(|l| l.grams.is_none_or(|g| g.low >= 0.0 && g.low <= g.likely && g.likely <= g.high && g.high.is_finite())));
            prop_assert!(FormulaDraft::from(r.formula.body()).check(&tables().pantry).is_ok());
            let _ = r.findings(tables());
        }
    }

    /// Text made of the words recipes are made of goes deeper than noise.
    #[test]
    fn reading_never_panics_on_recipe_words(words in prop::collection::vec(prop::sample::select(vec![
        "500", "1/2", "½", "1-3/4", "2,5", "g", "cups", "tbsp", "fl oz", "(", ")", "%", "flour", "salt", "water", "eggs", "and", "plus", "or", "minus", "of", "a", "half", "bake", "at", "C", "°F", "gas mark",
        "minutes", "hour", "makes", "rolls", "each", ":", ";", ",", ".", "-", "/", "x", "\n", "For the glaze", "juice of", "zest", "to taste", "plus more", "soaked in", "1e9", "0", "999999999999", "٣", "🍞",
    ]), 0..40)) {
        let text = words.join(" ");
        if let Ok(r) = read(&text, &Choices { locale: "en-GB".into(), ..Choices::default() }, &[], tables()) {
            prop_assert!(r.formula.lines.iter().all(|l| l.grams.likely > 0.0 && l.grams.likely <= 100_000.0));
            prop_assert!(FormulaDraft::from(r.formula.body()).check(&tables().pantry).is_ok());
        }
    }

    /// Grams through cups and back: what a line weighs by volume, that volume weighs again.
    #[test]
    fn grams_survive_a_trip_through_cups(cups in 1u32..20, which in 0usize..4) {
        let (word, id) = [("water", "water"), ("milk", "milk-whole"), ("sugar", "sugar-white"), ("honey", "honey")][which];
        let r = read(&format!("{cups} cups {word}"), &Choices::default(), &[], tables()).unwrap();
        let grams = r.lines[0].grams.unwrap().likely;
        let cup = tables().pantry.get(id).unwrap().cup_us_g.unwrap();
        prop_assert!((grams / cup - f64::from(cups)).abs() < 1e-6 * f64::from(cups));
        let ounces = read(&format!("{:.3} oz {word}", grams / 28.3495), &Choices::default(), &[], tables()).unwrap().lines[0].grams.unwrap().likely;
        prop_assert!((ounces / grams - 1.0).abs() < 1e-3, "{} {}", ounces, grams);
    }
}

proptest! {
    #![proptest_config(config(96))]

    /// Warmer is never slower below the optimum; above it never faster.
    #[test]
    fn the_rate_rises_to_its_optimum(c in -5.0..60.0f64, step in 0.01..5.0f64) {
        let n = tables().ferment.numbers;
        for (p, opt) in [(Population::Bakers, n.bakers_t_opt_c), (Population::Wild, n.wild_t_opt_c), (Population::Lactic, n.lab_t_opt_c)] {
            let rate = Rate::of(p, &n);
            prop_assert!((rate.at(24.0) - 1.0).abs() < 1e-12 && rate.at(c) >= 0.0);
            if c + step <= opt { prop_assert!(rate.at(c + step) >= rate.at(c)); }
            if c >= opt { prop_assert!(rate.at(c + step) <= rate.at(c)); }
        }
    }

    /// Dough time adds up over stages: a stage cut in two changes nothing.
    #[test]
    fn dough_time_is_additive_over_stages(dough in any_dough(), start in 18.0..30.0f64, place in 4.0..32.0f64, first in 1u32..30, second in 1u32..30) {
        let k = &tables().ferment;
        let (a, b) = (f64::from(first * 5), f64::from(second * 5));
        let whole = simulate(&rise(&dough, start, vec![bulk(place, Some(a + b))]), k).unwrap();
        let cut = simulate(&rise(&dough, start, vec![bulk(place, Some(a)), bulk(place, Some(b))]), k).unwrap();
        prop_assert!((whole.end.dough_h - cut.end.dough_h).abs() < 1e-9 && (whole.end.ripeness - cut.end.ripeness).abs() < 1e-8);
        let times = |f: &cerealis_core::ferment::Forecast| f.events.iter().map(|e| (e.kind, e.min)).collect::<Vec<_>>();
        for (x, y) in times(&whole).iter().zip(times(&cut)) {
            prop_assert!(x.0 == y.0 && (x.1 - y.1).abs() < 1e-6, "{:?} {:?}", x, y);
        }
    }

    /// A degree warmer or a tenth more yeast is never later; ripeness and dough time never fall; low ≤ likely ≤ high.
    #[test]
    fn warmer_or_more_yeast_is_never_slower(dough in any_dough(), c in 12.0..33.0f64) {
        let k = &tables().ferment;
        let ripe = |d: &Dough, c: f64| simulate(&rise(d, c, vec![bulk(c, None)]), k).unwrap();
        let f = ripe(&dough, c);
        let e = *f.event(EventKind::BulkRipe).unwrap();
        prop_assert!(ripe(&dough, c + 1.0).event(EventKind::BulkRipe).unwrap().min <= e.min);
        let mut more = dough.clone();
        more.yeast.as_mut().unwrap().pct *= 1.1;
        prop_assert!(ripe(&more, c).event(EventKind::BulkRipe).unwrap().min <= e.min);
        prop_assert!(e.min_low.unwrap() <= e.min && e.min <= e.min_high.unwrap());
        prop_assert!(f.curve.windows(2).all(|w| w[1].dough_h >= w[0].dough_h && w[1].ripeness >= w[0].ripeness - 1e-12 && w[1].volume_ratio >= 1.0));
        let band = f.band();
        prop_assert!(band.iter().all(|b| b.slow <= b.likely + 1e-9 && b.likely <= b.fast + 1e-9));
    }

    /// Free gas inverts retained gas.
    #[test]
    fn free_gas_is_between_none_and_all(k in 20.0..150.0f64, a in 5.0..40.0f64, v in 0.0..800.0f64) {
        let retained = v + k * v / (v + a);
        let back = free_gas(k, a, retained);
        prop_assert!((back - v).abs() < 1e-7 * v.max(1.0) && back <= retained + 1e-9);
    }

    /// The heat balance gives the target back, and ice grows as the water wanted gets colder.
    #[test]
    fn the_bowl_comes_out_at_its_target(target in 18.0..30.0f64, flour_c in 5.0..30.0f64, water_g in 200.0..900.0f64) {
        let n = &tables().ferment.numbers;
        let part = Part { grams: Grams::new(1000.0).unwrap(), heat: 1.8, at: Celsius::new(flour_c).unwrap() };
        let (water, none) = (Grams::new(water_g).unwrap(), Kelvins::new(0.0).unwrap());
        let w = heat_balance(Celsius::new(target).unwrap(), water, &[part], none, n).unwrap();
        let mixed = (1000.0 * 1.8 * flour_c + water_g * n.c_water * w) / (1000.0 * 1.8 + water_g * n.c_water);
        prop_assert!((mixed - target).abs() < 1e-9);
        let tap = Celsius::new(20.0).unwrap();
        let grams = |c: f64| ice(water, c, tap, -10.0, n).map_or(f64::INFINITY, Grams::get);
        prop_assert!(grams(20.0) == 0.0 && grams(5.0) >= grams(10.0) && grams(10.0) > 0.0);
    }

    /// Any setting is read or refused, and what is read an oven can reach.
    #[test]
    fn a_setting_is_read_or_refused(value in any::<f64>()) {
        for scale in [DegreeScale::Celsius, DegreeScale::Fahrenheit, DegreeScale::Gas, DegreeScale::Unsaid] {
            if let Some(c) = read_setting(value, scale).set_c {
                prop_assert!((90.0..=320.0).contains(&c), "{} {:?} {}", value, scale, c);
            }
        }
    }
}

proptest! {
    #![proptest_config(config(24))]

    /// A heavier piece, a colder oven, a colder dough is never done sooner (no foil: pale is wished late, dark tolerated).
    #[test]
    fn heavier_or_cooler_is_never_done_sooner(piece_g in 60.0..1500.0f64, set_c in 170.0..240.0f64) {
        let k = &tables().oven;
        let done = |g: f64, c: f64| {
            let body = BakeBody { piece_g: Some(g), set_c: Some(c), colour: Some("dark".into()), vessel: Some("pot".into()), ..BakeBody::default() };
            advise(&body.check().unwrap(), k).core_done_min.unwrap_or(f64::INFINITY)
        };
        let here = done(piece_g, set_c);
        prop_assert!(done(piece_g * 1.1, set_c) >= here - 1e-6);
        prop_assert!(done(piece_g, set_c + 5.0) <= here + 1e-6);
        let a = advise(&BakeBody { piece_g: Some(piece_g), ..BakeBody::default() }.check().unwrap(), k);
        prop_assert!((a.set_c / 5.0).fract() == 0.0 && a.minutes_low <= a.minutes && a.minutes <= a.minutes_high && a.check_min <= a.minutes);
    }
}

proptest! {
    #![proptest_config(config(24))]

    /// What holds for every bake at its recommended setting, whatever the bread and the vessel.
    #[test]
    fn any_bake_browns_dries_and_warms_one_way(
        piece_g in 40.0..1500.0f64,
        sugar in 0.0..20.0f64,
        fat in 0.0..25.0f64,
        altitude in 0.0..2500.0f64,
        dough_c in 4.0..28.0f64,
        shape in prop::sample::select(vec!["ball", "batard", "baton", "braid", "pan", "flat"]),
        vessel in prop::sample::select(vec!["sheet", "stone", "pan-metal", "pot"]),
    ) {
        let k = &tables().oven;
        let body = BakeBody {
            piece_g: Some(piece_g), sugar_pct: Some(sugar), fat_pct: Some(fat), altitude_m: Some(altitude), dough_c: Some(dough_c),
            shape: Some(shape.into()), vessel: Some(vessel.into()), ..BakeBody::default()
        };
        let bake = body.check().unwrap();
        let a = advise(&bake, k);
        for pair in a.curve.windows(2) {
            prop_assert!(pair[1].index >= pair[0].index - 1e-12 && pair[1].min > pair[0].min);
            prop_assert!(pair[1].core_c >= pair[0].core_c - 0.31, "the middle does not cool while it bakes: {:?}", pair);
            prop_assert!((0.0..=100.0).contains(&pair[1].loss_pct));
        }
        let (low, high) = setting_limits(&bake, k);
        prop_assert!((a.set_c / 5.0).fract() == 0.0 && (low - 5.0..=high + 5.0).contains(&a.set_c), "{} in {:?}", a.set_c, (low, high));
        if a.meets == Some(Meets::Crosses) {
            prop_assert_eq!(a.status, Status::Together);
        }
        if let (Some(off), Some(minutes)) = (a.lid_off_min, a.minutes) {
            prop_assert!(off < minutes);
        }
        // Higher up water boils cooler and the core is done cooler; at the same setting an egg glaze browns no later.
        let fixed = |b: &Bake| advise(&Bake { set_c: Some(a.set_c), ..b.clone() }, k);
        let higher = fixed(&Bake { altitude_m: altitude + 500.0, ..bake.clone() });
        prop_assert!(higher.boiling_c < a.boiling_c && higher.core_target_c < a.core_target_c);
        let (plain, egg) = (fixed(&bake), fixed(&Bake { glaze: Glaze::Egg, ..bake.clone() }));
        prop_assert!(egg.colour_min.unwrap_or(f64::INFINITY) <= plain.colour_min.unwrap_or(f64::INFINITY) + 1e-9);
        let warmer = fixed(&Bake { dough_c: dough_c + 3.0, ..bake.clone() });
        prop_assert!(warmer.core_done_min.unwrap_or(f64::INFINITY) <= plain.core_done_min.unwrap_or(f64::INFINITY) + 1e-6);
    }

    /// A dial tells what it can be turned to, and reading that again is the same setting to within its steps.
    #[test]
    fn what_a_dial_tells_it_reads(set_c in 140.0..275.0f64, dial in prop::sample::select(Dial::ALL.to_vec())) {
        let read = dial.read(&dial.told(set_c)).unwrap().set_c.unwrap();
        let step = if dial == Dial::Gas { 40.0 } else { 2.6 };
        prop_assert!((read - set_c).abs() <= step, "{} {:?} {}", set_c, dial, read);
    }
}

proptest! {
    #![proptest_config(config(64))]

    /// A figure on the page says what a scale can: whole grams from ten on, tenths below, hundredths below a gram.
    #[test]
    fn shown_grams_are_near_what_they_are(grams in prop_oneof![0.05..30.0f64, 0.05..20_000.0f64]) {
        let shown: f64 = show_grams(grams).replace('\u{2009}', "").parse().unwrap();
        let half_step = if grams >= 9.95 { 0.5 } else if grams >= 0.995 { 0.05 } else { 0.005 };
        prop_assert!((shown - grams).abs() <= half_step + 1e-9, "{} for {}", shown, grams);
    }

    /// An interval stays one through sums and multiples.
    #[test]
    fn bands_keep_their_order(low in 0.0..100.0f64, up in 0.0..50.0f64, more in 0.0..50.0f64, factor in 0.0..20.0f64) {
        let a = Band::new(low, low + up, low + up + more);
        for b in [a.times(factor), a.plus(a), a.plus(Band::exact(3.0)), a.spanning(Band::exact(low)), Band::within(low + 1.0, 0.2)] {
            prop_assert!(b.low <= b.likely && b.likely <= b.high, "{:?}", b);
        }
        prop_assert!((a.times(2.0).half_width() - 2.0 * a.half_width()).abs() < 1e-9);
    }

    /// The oven's minutes are a range round what is likely, whatever the loaf.
    #[test]
    fn the_ovens_range_holds_its_middle(piece_g in 40.0..1500.0f64, sugar in 0.0..20.0f64, fat in 0.0..25.0f64, altitude in 0.0..3000.0f64) {
        let bake = BakeBody { piece_g: Some(piece_g), sugar_pct: Some(sugar), fat_pct: Some(fat), altitude_m: Some(altitude), ..BakeBody::default() };
        let a = advise(&bake.check().unwrap(), &tables().oven);
        if let (Some(low), Some(mid), Some(high)) = (a.minutes_low, a.minutes, a.minutes_high) {
            prop_assert!(low <= mid && mid <= high && low > 0.0 && high.is_finite());
        }
        prop_assert!((120.0..=280.0).contains(&a.set_c), "{}", a.set_c);
        prop_assert!(a.core_target_c < 100.0);
    }

    /// However the acts come in, where the bake stands can be told, and what is done is not ahead as well.
    #[test]
    fn any_log_has_a_standing(kinds in prop::collection::vec(prop::sample::select(vec!["mixed", "fold", "shaped", "oven-on", "loaded", "steam-off", "turned", "out", "sliced"]), 0..12), gaps in prop::collection::vec(0.0..90.0f64, 12)) {
        let start: jiff::Timestamp = "2026-11-06T08:00:00Z".parse().unwrap();
        let kitchen = Kitchen::default();
        let formula = lean();
        let plan = Plan::make(&formula, &PlanAsk::usual(&formula, &kitchen, start, tables()), &kitchen, tables()).unwrap();
        let mut at = start;
        let mut log = Vec::new();
        for (i, (kind, gap)) in kinds.iter().zip(&gaps).enumerate() {
            at = later(at, *gap);
            let body = EventBody { kind: (*kind).into(), at: Some(at.to_string()), ..EventBody::default() };
            log.push(Event { seq: i32::try_from(i).unwrap() + 1, event: body.check(later(start, 10_000.0)).unwrap() });
        }
        let state = BakeState::of(&log, &plan, &formula, &kitchen, at, tables()).unwrap();
        prop_assert_eq!(state.done.len() + state.next.len(), state.course.steps.len());
        prop_assert_eq!(state.finished, kinds.contains(&"sliced"));
        prop_assert!(state.course.steps.windows(2).all(|w| w[0].start <= w[1].end || w[0].start <= w[1].start));
    }

    /// Whatever stands in a log, noted days late or on the wrong scale, its bake can be shown, and what is not reckoned with is
    /// told by its number.
    #[test]
    fn a_log_of_slips_has_a_standing(slips in prop::collection::vec((prop::sample::select(vec!["mixed", "fold", "shaped", "oven-on", "loaded", "out", "dough", "room", "pantry", "fridge", "ripe", "not-yet"]), -20_000.0..20_000.0f64, -100.0..250.0f64), 0..14)) {
        let start: jiff::Timestamp = "2026-11-06T08:00:00Z".parse().unwrap();
        let (kitchen, formula) = (Kitchen::default(), lean());
        let plan = Plan::make(&formula, &PlanAsk::usual(&formula, &kitchen, start, tables()), &kitchen, tables()).unwrap();
        let event = |(seq, (what, at_min, c)): (i32, &(&str, f64, f64))| {
            let at = later(start, *at_min);
            let read = !matches!(*what, "mixed" | "fold" | "shaped" | "oven-on" | "loaded" | "out" | "ripe" | "not-yet");
            let body = EventBody {
                kind: if read { "temperature" } else { what }.into(),
                at: Some(at.to_string()),
                value: read.then_some(*c),
                stage: if read { Some((*what).into()) } else { matches!(*what, "ripe" | "not-yet").then(|| "bulk".into()) },
                ..EventBody::default()
            };
            // As an older program may have let it in.
            let kind = cerealis_core::bake::EventKind::from_word(&body.kind).unwrap();
            Event { seq, event: cerealis_core::bake::NewEvent { kind, at, body } }
        };
        let log: Vec<Event> = (1..).zip(&slips).map(event).collect();
        let now = later(start, 21_000.0);
        let state = BakeState::of(&log, &plan, &formula, &kitchen, now, tables()).unwrap();
        prop_assert_eq!(state.done.len() + state.next.len(), state.course.steps.len());
        prop_assert!(state.set_aside.iter().all(|n| log.iter().any(|e| e.seq == *n)));
        prop_assert_eq!(state.set_aside.is_empty(), !state.findings(now).iter().any(|f| f.id == "event-set-aside"));
        // Taken back, nothing is left that is not reckoned with.
        let good: Vec<Event> = log.into_iter().filter(|e| !state.set_aside.contains(&e.seq)).collect();
        prop_assert!(BakeState::of(&good, &plan, &formula, &kitchen, now, tables()).unwrap().set_aside.is_empty());
    }

    /// More ice for colder water, never more than the water itself.
    #[test]
    fn ice_is_part_of_the_water(water in 50.0..2000.0f64, tap in 1.0..35.0f64, cooler in 0.0..15.0f64) {
        let n = &tables().ferment.numbers;
        let grams = Grams::new(water).unwrap();
        if let Ok(i) = ice(grams, tap - cooler, Celsius::new(tap).unwrap(), -10.0, n) {
            prop_assert!(i.get() >= 0.0 && i.get() <= water);
            let colder = ice(grams, tap - cooler - 1.0, Celsius::new(tap).unwrap(), -10.0, n);
            prop_assert!(colder.is_err() || colder.unwrap().get() >= i.get());
        }
    }

    /// Numbers typed with either mark, with spaces, come out the same.
    #[test]
    fn numbers_are_read_with_either_mark(whole in 0u32..100_000, tenths in 0u32..10) {
        let want = f64::from(whole) + f64::from(tenths) / 10.0;
        for typed in [format!("{whole}.{tenths}"), format!("{whole},{tenths}"), format!(" {whole},{tenths} ")] {
            prop_assert!((number(&typed).unwrap() - want).abs() < 1e-9);
        }
    }

    /// Whatever is typed into a number's field, the answer is a number or a sentence.
    #[test]
    fn any_text_in_a_number_field_is_answered(text in any::<String>()) {
        match number(&text) {
            Ok(v) => prop_assert!(v.is_finite()),
            Err(words) => prop_assert!(words.ends_with('.')),
        }
    }
}

#[test]
fn a_name_is_never_found_twice() {
    let pantry = Pantry::built_in().unwrap();
    for i in pantry.all() {
        assert_eq!(pantry.find(&i.id).unwrap().id, i.id);
    }
}
