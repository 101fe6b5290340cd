//! Kneading against `cases/kneading_cases.json`: results of an independent implementation of the same equations (tolerance
//! 1e-6, as that file states), and what must hold for any dough.

use std::sync::OnceLock;

use cerealis_core::{
    Tables,
    formula::StyleId,
    knead::{
        KneadAsk, Method, MixerSize, WindowWord, addition, findings::find, friction_k_per_min, friction_seen, fridge_min, sticky, wetness,
        window_seen,
    },
    measure::plain,
};
use proptest::prelude::*;
use serde_json::{Value, json};

const CASES: &str = include_str!("../cases/kneading_cases.json");

fn tables() -> &'static Tables {
    static TABLES: OnceLock<Tables> = OnceLock::new();
    TABLES.get_or_init(|| Tables::built_in().unwrap())
}

fn ask(given: &Value) -> KneadAsk {
    serde_json::from_value(given.clone()).unwrap()
}

/// A dough of the style's usual kind, with what a case says of it.
fn plain_dough(with: &Value) -> KneadAsk {
    let mut all = json!({ "style": "lean", "method": "hand", "h_adj": 66, "flour_g": 500, "dough_g": 840, "start_c": 21, "room_c": 21 });
    for (name, value) in with.as_object().unwrap() {
        all[name] = value.clone();
    }
    ask(&all)
}

#[track_caller]
fn same(what: &str, got: &Value, want: &Value) {
    match (got, want) {
        (Value::Object(got), Value::Object(want)) => {
            for (name, want) in want {
                same(&format!("{what}/{name}"), got.get(name).unwrap_or(&Value::Null), want);
            }
        }
        (Value::Array(got), Value::Array(want)) => {
            assert_eq!(got.len(), want.len(), "{what}: {got:?} {want:?}");
            for (i, (got, want)) in got.iter().zip(want).enumerate() {
                same(&format!("{what}/{i}"), got, want);
            }
        }
        (Value::Number(got), Value::Number(want)) => {
            let (got, want) = (got.as_f64().unwrap(), want.as_f64().unwrap());
            assert!((got - want).abs() <= 1e-6 + 1e-6 * want.abs(), "{what}: {got} instead of {want}");
        }
        _ => assert_eq!(got, want, "{what}"),
    }
}

/// A call as the cases write its answer.
fn knead(given: &Value) -> Value {
    let (t, ask) = (tables(), ask(given));
    let rise = &t.ferment;
    let work = match ask.check(&t.knead, &t.styles, rise) {
        // The cases write a hyphen for minus.
        Err(e) => return json!({ "refused": plain(&e.0[0].message).replace('\u{2212}', "-") }),
        Ok(work) => work,
    };
    let done = work.kneading();
    let d = done.development;
    json!({
        "phases": done.phases, "target": done.target, "gluten": done.gluten, "development": d.map(|d| d.likely),
        "development_low": d.map(|d| d.low), "development_high": d.map(|d| d.high), "development_at_shaping": done.development_at_shaping,
        "bulk_min": done.bulk_min, "dough_c": done.dough_c, "folds": done.folds, "fold_at_min": done.fold_at_min,
        "knead_min": done.knead_min, "elapsed_min": done.elapsed_min, "hands_on_min": done.hands_on_min, "watch_min": done.watch_min,
        "batches": done.batches, "fridge_min": done.fridge_min, "findings": find(&work, &done).iter().map(|f| f.id).collect::<Vec<_>>(),
        "alternatives": ask.other_ways(&t.knead, &t.styles, rise).unwrap(),
    })
}

fn f(v: &Value, name: &str) -> f64 {
    v[name].as_f64().unwrap_or_else(|| panic!("{name} of {v}"))
}

fn answer(call: &str, i: &Value) -> Value {
    let t = tables();
    let (k, rise) = (&t.knead, &t.ferment);
    let row = |name: &str| &k.methods[i[name].as_str().unwrap()];
    let check = |ask: &KneadAsk| ask.check(k, &t.styles, rise).map(|w| (w.target(), w.takes_g(), w.fold_gain(0), w.stop_c())).unwrap();
    match call {
        "knead" => knead(i),
        "target" => json!(check(&plain_dough(i)).0),
        "hydration_factor" => json!(wetness(row("method"), f(i, "h"))),
        "fold_gain" => {
            let dough = plain_dough(&json!({ "wholegrain_pct": i["wholegrain_pct"] }));
            let folds = u32::try_from(i["n"].as_u64().unwrap()).unwrap();
            json!(dough.check(k, &t.styles, rise).unwrap().fold_gain(folds))
        }
        "capacity" => {
            let of = plain_dough(&json!({ "method": i["method"], "mixer_size": i["size"], "h_adj": i["h"] }));
            let (flour, dough, least) = check(&of).1;
            json!([flour, dough, least])
        }
        "friction_rate" => json!(friction_k_per_min(&row("method").friction, f(i, "mass_g"), None, rise)),
        "fridge_minutes" => json!(fridge_min(f(i, "mass_g"), f(i, "temp_c"), f(i, "want_c"), f(i, "fridge_c"), rise)),
        "start_for" => {
            let phases: Vec<(Option<Method>, f64)> = i["minutes"]
                .as_array()
                .unwrap()
                .iter()
                .map(|p| (p[0].as_str().and_then(Method::from_word), p[1].as_f64().unwrap()))
                .collect();
            json!(ask(&i["request"]).check(k, &t.styles, rise).unwrap().start_for(f(i, "target_c"), &phases))
        }
        "window_seen" => {
            let word = WindowWord::from_word(i["word"].as_str().unwrap()).unwrap();
            let seen = window_seen(word, f(i, "d_rest"), f(i, "d_work"), f(i, "tgt"), (0.0, k.numbers.sigma_min), k);
            json!({ "mean": seen.mean, "sd": seen.sd, "speed_factor": seen.speed_factor, "gluten": seen.gluten,
                "development": seen.development, "folds": seen.folds })
        }
        "friction_seen" => {
            let of = (row("method").friction.as_str(), f(i, "mass_g"));
            let seen = friction_seen(f(i, "temp_end_c"), f(i, "base_end_c"), f(i, "minutes"), of, rise);
            json!({ "h": seen.h, "rise": seen.rise, "k": seen.k })
        }
        "addition" => {
            let after = addition(f(i, "h_adj"), f(i, "gluten"), f(i, "flour_g"), f(i, "flour_add_g"), f(i, "water_add_g"));
            json!({ "h_adj": after.h_adj, "gluten": after.gluten })
        }
        "sticky" => {
            let stop_c = check(&plain_dough(&json!({ "style": i["style"] }))).3;
            let water = (f(i, "h_adj"), f(i, "h_high"));
            json!(sticky(f(i, "development"), f(i, "minutes_wet"), water, f(i, "dough_c"), stop_c, k).word())
        }
        other => panic!("no such call: {other}"),
    }
}

#[test]
fn every_case_comes_out_as_the_other_implementation_has_it() {
    let cases: Value = serde_json::from_str(CASES).unwrap();
    let cases = cases["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 96);
    for case in cases {
        let id = case["id"].as_str().unwrap();
        same(id, &answer(case["call"].as_str().unwrap(), &case["input"]), &case["expect"]);
    }
}

/// Minutes of bakers, recalled: common practice, no source. What the model says lies within them.
#[test]
fn minutes_are_those_of_bakers() {
    let t = tables();
    for (with, low, high) in [
        (json!({}), 8.0, 14.0),
        (json!({ "style": "braided-egg", "h_adj": 58, "fat_pct": 10, "sugar_pct": 8, "protein": 12.5 }), 8.0, 15.0),
        (json!({ "method": "planetary-medium" }), 5.0, 8.0),
        (json!({ "method": "spiral-high" }), 3.0, 6.0),
        (json!({ "method": "processor" }), 0.5, 1.2),
        (json!({ "method": "slap", "h_adj": 75, "dough_g": 880 }), 8.0, 15.0),
    ] {
        let done = plain_dough(&with).check(&t.knead, &t.styles, &t.ferment).unwrap().kneading();
        assert!((low..=high).contains(&done.knead_min), "{with}: {}", done.knead_min);
    }
}

/// Every finding is raised by its slip, and none by a plain dough.
#[test]
fn every_finding_is_raised_by_its_slip_and_none_by_a_plain_dough() {
    let t = tables();
    let found = |with: &Value| {
        let ask = plain_dough(with);
        let work = ask.check(&t.knead, &t.styles, &t.ferment).unwrap();
        find(&work, &work.kneading()).iter().map(|f| f.id).collect::<Vec<_>>()
    };
    assert_eq!(found(&json!({})), Vec::<&str>::new());
    for (with, id) in [
        (json!({ "method": "planetary-medium", "start_c": 28, "room_c": 28 }), "knead-hot"),
        (json!({ "minutes": 1 }), "knead-short"),
        (json!({ "method": "spiral-high", "minutes": 30, "protein": 9, "flour_g": 2000, "dough_g": 3300 }), "knead-long"),
        (json!({ "method": "planetary-low", "flour_g": 1500, "dough_g": 2500 }), "mixer-overload"),
        (json!({ "method": "planetary-low", "flour_g": 150, "dough_g": 250 }), "mixer-underload"),
        (json!({ "method": "planetary-medium", "flour_g": 690, "dough_g": 1150 }), "mixer-walks"),
        (json!({ "method": "planetary-medium", "h_adj": 52, "flour_g": 400, "dough_g": 620 }), "mixer-walks"),
        (json!({ "style": "brioche", "fat_pct": 40, "dough_g": 1000 }), "butter-early"),
        (json!({ "salt_pct": 0 }), "salt-never"),
        (json!({ "rest_min": 60, "rest_yeast": true, "yeast_pct": 1.5 }), "autolyse-with-fast-yeast"),
        (json!({ "method": "no-knead", "h_adj": 77, "dough_g": 895 }), "window-not-needed"),
        (json!({ "style": "rye", "rye_pct": 80 }), "window-not-needed"),
    ] {
        assert!(found(&with).contains(&id), "{id} by {with}: {:?}", found(&with));
    }
    // Near misses.
    for (with, id) in [
        (json!({ "method": "planetary-medium", "start_c": 18 }), "knead-hot"),
        (json!({ "minutes": 9 }), "knead-short"),
        (json!({ "style": "brioche", "fat_pct": 40, "butter_late": true, "dough_g": 1000 }), "butter-early"),
        (json!({ "rest_min": 60, "rest_yeast": true, "yeast_pct": 0.3 }), "autolyse-with-fast-yeast"),
        (json!({ "method": "planetary-low", "flour_g": 690, "dough_g": 1150 }), "mixer-walks"),
    ] {
        assert!(!found(&with).contains(&id), "{id} by {with}");
    }
}

/// Every way of kneading warms a dough by a mixer that the rise's constants know; a style has its dough temperature there too.
#[test]
fn friction_and_warmth_are_the_rises_own() {
    let t = tables();
    for method in Method::ALL {
        let row = &t.knead.methods[method.word()];
        assert!(t.ferment.mixers.contains_key(&row.friction), "{method:?}");
        let of = friction_k_per_min(&row.friction, 800.0, None, &t.ferment);
        let water = cerealis_core::water::friction(&row.friction, 10.0, cerealis_core::measure::Grams::new(800.0).unwrap(), &t.ferment);
        assert!((10.0 * of - water.unwrap().get()).abs() < 1e-9, "{method:?}: the water is told the same");
        assert!((friction_k_per_min(&row.friction, 1000.0, Some(0.3), &t.ferment) - 0.3 * of_mass(&row.friction)).abs() < 1e-9);
    }
}

/// How a batch of a kilogram counts.
fn of_mass(mixer: &str) -> f64 {
    let t = tables();
    t.ferment.mixers[mixer].by_mass(1000.0, &t.ferment.numbers)
}

/// A window is believed, and never makes one less sure.
#[test]
fn a_window_teaches_towards_what_was_seen() {
    let k = &tables().knead;
    for word in WindowWord::ALL {
        for (rest, work) in [(0.0, 0.3), (0.1, 0.6), (0.2, 0.9), (0.3, 1.4)] {
            let seen = window_seen(word, rest, work, 0.8, (0.0, k.numbers.sigma_min), k);
            assert!(seen.sd <= k.numbers.sigma_min + 1e-12 && (0.4..2.5).contains(&seen.speed_factor), "{word:?} {seen:?}");
            match word {
                WindowWord::Tears => assert!(seen.mean <= 0.0),
                WindowWord::Strong => assert!(seen.mean >= 0.0),
                WindowWord::Thin => {}
            }
        }
        let nothing = window_seen(word, 0.5, 0.0, 0.8, (0.1, 0.2), k);
        assert!((nothing.mean, nothing.sd) == (0.1, 0.2), "without work nothing is learned");
    }
}

fn any_ask() -> impl Strategy<Value = KneadAsk> {
    let words =
        (prop::sample::select(&StyleId::ALL[..]), prop::sample::select(&Method::ALL[..]), prop::sample::select(&MixerSize::ALL[..]));
    let dough = (45.0..95.0f64, 8.0..16.0f64, 0.0..100.0f64, 0.0..40.0f64, 0.0..50.0f64, 0.0..25.0f64, 0.0..3.0f64);
    let day = (120.0..3000.0f64, 4.0..32.0f64, 12.0..32.0f64, 0.0..90.0f64, prop::option::of(0.0..25.0f64), prop::option::of(0u32..8));
    (words, dough, day, any::<bool>()).prop_map(|((style, method, size), (h, protein, whole, rye, fat, sugar, salt), day, late)| {
        let (flour_g, start_c, room_c, rest_min, minutes, folds) = day;
        KneadAsk {
            style: style.word().into(),
            method: method.word().into(),
            h_adj: h,
            protein,
            wholegrain_pct: whole,
            rye_pct: rye,
            fat_pct: fat,
            butter_late: late,
            sugar_pct: sugar,
            salt_pct: salt,
            inclusions_pct: 0.0,
            yeast_pct: 1.0,
            flour_g,
            dough_g: flour_g * (1.0 + (h + fat + sugar) / 100.0),
            start_c,
            room_c,
            rest_min,
            rest_yeast: false,
            rest_salt: false,
            folds: folds.map(f64::from),
            minutes,
            bulk_min: None,
            mixer_size: size.word().into(),
            fridge_c: 5.0,
            speed_factor: 1.0,
            friction_k_per_min: None,
        }
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, ..ProptestConfig::default() })]

    /// More minutes, more development and a warmer dough; each fold adds, less than the one before; bounds are in order.
    #[test]
    fn more_work_is_more_and_bounds_are_in_order(ask in any_ask()) {
        let t = tables();
        let knead = |ask: &KneadAsk| ask.check(&t.knead, &t.styles, &t.ferment).unwrap().kneading();
        let done = knead(&ask);
        for r in done.phases.iter().map(|p| p.minutes).chain([done.dough_c]).chain(done.development) {
            prop_assert!(r.low <= r.likely && r.likely <= r.high && r.likely.is_finite(), "{r:?}");
        }
        prop_assert!(done.hands_on_min >= 0.0 && done.elapsed_min > 0.0 && done.batches >= 1);
        prop_assert!(done.fold_at_min.len() == done.folds as usize && done.fold_at_min.iter().all(|at| *at <= done.bulk_min));
        let few = knead(&KneadAsk { minutes: Some(4.0), butter_late: false, ..ask.clone() });
        let more = knead(&KneadAsk { minutes: Some(9.0), butter_late: false, ..ask.clone() });
        prop_assert!(more.gluten > few.gluten);
        let work = ask.check(&t.knead, &t.styles, &t.ferment).unwrap();
        let gains: Vec<f64> = (0..8).map(|n| work.fold_gain(n + 1) - work.fold_gain(n)).collect();
        prop_assert!(gains.windows(2).all(|g| g[0] >= g[1]) && gains.iter().all(|g| *g >= 0.0));
    }

    /// A colder start is a colder dough, never a more developed one; rest and kneading are no less than kneading; planned
    /// minutes told are the same kneading; faster hands never take longer; a batch fits its mixer.
    #[test]
    fn what_holds_for_any_dough(ask in any_ask(), colder in 1.0..10.0f64, whole in 0.0..50.0f64) {
        let t = tables();
        let work = |ask: &KneadAsk| ask.check(&t.knead, &t.styles, &t.ferment).unwrap().kneading();
        let told = KneadAsk { minutes: Some(8.0), butter_late: false, rest_min: 0.0, ..ask.clone() };
        let cold = KneadAsk { start_c: (told.start_c - colder).max(-5.0), ..told.clone() };
        let (a, b) = (work(&told), work(&cold));
        prop_assert!(b.dough_c.likely < a.dough_c.likely && b.gluten <= a.gluten + 1e-12);
        let rested = KneadAsk { rest_min: 40.0, rest_salt: true, ..told.clone() };
        prop_assert!(work(&rested).gluten >= a.gluten - 1e-9, "{} {}", work(&rested).gluten, a.gluten);
        let planned = KneadAsk { minutes: None, folds: Some(0.0), butter_late: false, ..ask.clone() };
        let done = work(&planned);
        if done.knead_min > 0.0 {
            let again = work(&KneadAsk { minutes: Some(done.knead_min), ..planned.clone() });
            prop_assert!((again.gluten - done.gluten).abs() < 1e-9);
            prop_assert!((again.dough_c.likely - done.dough_c.likely).abs() < 1e-9);
        }
        let fast = work(&KneadAsk { speed_factor: 2.0, ..planned.clone() });
        prop_assert!(fast.knead_min <= done.knead_min + 1e-9);
        let check = |ask: &KneadAsk| ask.check(&t.knead, &t.styles, &t.ferment).map(|w| (w.target(), w.batches(), w.takes_g())).unwrap();
        let (target, (batches, grams), (flour, dough, _)) = check(&ask);
        prop_assert!(grams <= dough + 1e-6 && ask.flour_g / f64::from(batches) <= flour + 1e-6);
        let bran = KneadAsk { wholegrain_pct: (ask.wholegrain_pct + whole).min(100.0), ..ask.clone() };
        prop_assert!(check(&bran).0 <= target + 1e-12);
        // Other ways reach what they are offered for, and none is the own one.
        for way in ask.other_ways(&t.knead, &t.styles, &t.ferment).unwrap() {
            prop_assert!(way.method != ask.method && way.minutes > 0.0 && way.hands_on_min > 0.0 && way.hands_on_min.is_finite());
        }
    }

    /// In a room as warm as the dough the rise is friction and nothing else; and what start ends at a warmth, does.
    #[test]
    fn friction_is_all_that_warms_a_dough_in_its_own_warmth(ask in any_ask(), minutes in 0.5..20.0f64) {
        let t = tables();
            let ask = KneadAsk { room_c: ask.start_c, rest_min: 0.0, butter_late: false, minutes: Some(minutes), ..ask };
        let done = ask.check(&t.knead, &t.styles, &t.ferment).unwrap().kneading();
        let work = ask.check(&t.knead, &t.styles, &t.ferment).unwrap();
        let grams = work.batches().1;
        let row = |m: Method| &t.knead.methods[m.word()];
        let method = Method::from_word(&ask.method).unwrap();
        let rub = |m: Method, min: f64| min * friction_k_per_min(&row(m).friction, grams, None, &t.ferment);
        let mix = done.phases[0].minutes.likely;
        let kneads = if row(method).k > 0.0 { method } else { row(method).mix };
        let all = rub(row(method).mix, mix) + rub(kneads, done.knead_min);
        prop_assert!((done.dough_c.likely - ask.start_c - all).abs() < 1e-9, "{} {all}", done.dough_c.likely - ask.start_c);
        let phases = [(Some(row(method).mix), mix), (Some(kneads), minutes)];
        let start_c = work.start_for(24.0, &phases);
        if (-5.0..45.0).contains(&start_c) {
            let ends = KneadAsk { start_c, ..ask }.check(&t.knead, &t.styles, &t.ferment).unwrap().kneading();
            prop_assert!((ends.dough_c.likely - 24.0).abs() < 1e-6 || done.knead_min == 0.0);
        }
    }
}
