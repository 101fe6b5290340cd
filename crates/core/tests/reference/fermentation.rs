//! The rise against `cases/fermentation_cases.json`: results of an independent implementation of the
//! same equations (tolerance 1e-6, as that file states), and the trade's facts it was calibrated on.

use cerealis_core::{
    ferment::{
        Body, Constants, Dough, Forecast, Leaven, LeavenState, Population, Rate, Rise, RiseStage, YeastDose, dough_hours_along, free_gas,
        simulate, simulate_leaven, survivors, time_constant_min,
    },
    input::FieldError,
    measure::{Celsius, Grams, Kelvins, plain},
    water,
};
use serde_json::Value;

const CASES: &str = include_str!("../cases/fermentation_cases.json");

/// As the cases write it: with a hyphen for minus.
fn said(e: &FieldError) -> String {
    plain(&e.message).replace('\u{2212}', "-")
}

fn constants() -> Constants {
    Constants::built_in().unwrap()
}

#[track_caller]
fn close(what: &str, got: f64, want: &Value, relative: f64) {
    let want = want.as_f64().unwrap_or_else(|| panic!("{what}: no number wanted: {want}"));
    assert!((got - want).abs() <= 1e-9 + relative * want.abs(), "{what}: {got} instead of {want}");
}

fn f(v: &Value, key: &str) -> Option<f64> {
    v.get(key).and_then(Value::as_f64)
}

fn dough(v: &Value) -> Dough {
    let flour = v["flour"].as_object().unwrap().iter().map(|(k, x)| (k.clone(), x.as_f64().unwrap())).collect();
    let state = |l: &Value| LeavenState { y: f(l, "y"), b: f(l, "b"), acid: f(l, "acid"), age: f(l, "age"), cold_days: f(l, "cold_days") };
    Dough {
        flour,
        water_pct: f(v, "water_pct").unwrap(),
        salt_pct: f(v, "salt_pct").unwrap(),
        sugar_pct: f(v, "sugar_pct").unwrap(),
        fat_pct: f(v, "fat_pct").unwrap(),
        solids_pct: f(v, "solids_pct").unwrap(),
        yeast: v.get("yeast").filter(|y| !y.is_null()).map(|y| YeastDose {
            kind: y["kind"].as_str().unwrap().into(),
            pct: f(y, "pct").unwrap(),
            viable: f(y, "viable").unwrap_or(1.0),
        }),
        leaven: v.get("leaven").filter(|l| !l.is_null()).map(|l| (f(l, "flour_pct").unwrap(), Some(state(l)))),
        preferment_yeast_pct: f(v, "preferment_yeast_pct").unwrap_or(0.0),
        spice_factor: f(v, "inhibitor").unwrap_or(1.0),
    }
}

fn rise(input: &Value) -> Rise {
    let stages: Vec<RiseStage> = serde_json::from_value(input["stages"].clone()).unwrap();
    Rise {
        style: input["style"].as_str().unwrap().into(),
        dough: dough(&input["dough"]),
        start_c: f(input, "start_c").unwrap(),
        stages,
        rate: f(input, "rate").or_else(|| f(&input["dough"], "rate")).unwrap_or(1.0),
        log_sigma: f(input, "log_sigma"),
    }
}

fn leaven(input: &Value) -> Leaven {
    let state = input.get("seed_state").filter(|s| !s.is_null());
    Leaven {
        seed: f(input, "seed").unwrap(),
        water: f(input, "water").unwrap(),
        flour: f(input, "flour").unwrap(),
        flour_mix: input["flour_mix"].as_object().unwrap().iter().map(|(k, x)| (k.clone(), x.as_f64().unwrap())).collect(),
        seed_hydration_pct: f(input, "seed_hydration_pct").unwrap_or(100.0),
        seed_state: state.map(|l| LeavenState {
            y: f(l, "y"),
            b: f(l, "b"),
            acid: f(l, "acid"),
            age: f(l, "age"),
            cold_days: f(l, "cold_days"),
        }),
        place_c: f(input, "place_c").unwrap(),
        start_c: f(input, "start_c"),
        hours: f(input, "hours"),
        mass_g: f(input, "mass_g").unwrap_or(200.0),
        rate: f(input, "rate").unwrap_or(1.0),
    }
}

fn simulate_case(input: &Value) -> Result<Forecast, cerealis_core::input::InputErrors> {
    let k = constants();
    rise(input).assume(1000.0, &k).and_then(|r| simulate(&r, &k))
}

fn compare(id: &str, got: &Forecast, want: &Value) {
    close(&format!("{id} vd"), got.body.vd_ml, &want["vd_ml"], 1e-6);
    let main = if got.main == Population::Bakers { "bakers" } else { "wild" };
    assert_eq!(main, want["main"].as_str().unwrap(), "{id}");
    let events = want["events"].as_array().unwrap();
    let kinds: Vec<_> = got.events.iter().map(|e| serde_json::to_value(e.kind).unwrap()).collect();
    assert_eq!(kinds, events.iter().map(|e| e["kind"].clone()).collect::<Vec<_>>(), "{id}");
    for (e, w) in got.events.iter().zip(events) {
        let at = format!("{id} {:?}", e.kind);
        assert_eq!((e.stage as u64, e.ahead), (w["stage"].as_u64().unwrap(), w["ahead"].as_bool().unwrap()), "{at}");
        close(&at, e.min, &w["min"], 1e-6);
        close(&at, e.dough_h, &w["dough_h"], 1e-6);
        for (name, got) in [("min_low", e.min_low), ("min_high", e.min_high)] {
            match (got, &w[name]) {
                (None, Value::Null) => {}
                (Some(got), want) if !want.is_null() => close(&format!("{at} {name}"), got, want, 1e-6),
                (got, want) => panic!("{at} {name}: {got:?} instead of {want}"),
            }
        }
    }
    assert_eq!(got.curve.len() as u64, want["curve_rows"].as_u64().unwrap(), "{id}: rows");
    let rows = want["curve"].as_array().unwrap().iter().map(|r| (got.curve[usize::try_from(r["row"].as_u64().unwrap()).unwrap()], r));
    for (row, w) in rows.chain([(got.end, &want["end"])]) {
        let at = format!("{id} at {}", row.min);
        for (name, value) in [
            ("min", row.min),
            ("dough_c", row.dough_c),
            ("dough_h", row.dough_h),
            ("gas_ml", row.gas_ml),
            ("volume_ratio", row.volume_ratio),
            ("rise_ratio", row.rise_ratio),
            ("ripeness", row.ripeness),
        ] {
            close(&format!("{at} {name}"), value, &w[name], 1e-6);
        }
        for (name, value) in [("ph", row.ph), ("acid", row.acid), ("tta", row.tta)] {
            if let Some(value) = value {
                close(&format!("{at} {name}"), value, &w[name], 1e-6);
            }
        }
    }
}

#[test]
#[allow(clippy::too_many_lines, reason = "a table of cases")]
fn every_case_of_the_independent_implementation_is_met() {
    let file: Value = serde_json::from_str(CASES).unwrap();
    let k = constants();
    let n = &k.numbers;
    let mut seen = 0;
    for case in file["cases"].as_array().unwrap() {
        let (id, input, want) = (case["id"].as_str().unwrap(), &case["input"], &case["expect"]);
        let refused = want.get("refused").and_then(Value::as_str);
        let list = |v: &Value| v.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect::<Vec<_>>();
        let population = |v: &Value| match v.as_str().unwrap() {
            "bakers" => Population::Bakers,
            "wild" => Population::Wild,
            _ => Population::Lactic,
        };
        seen += 1;
        match case["call"].as_str().unwrap() {
            "gamma" => {
                let rate = Rate::of(population(&input["pop"]), n);
                for (t, w) in list(&input["temps_c"]).into_iter().zip(want.as_array().unwrap()) {
                    close(&format!("{id} at {t}"), rate.at(t), w, 1e-9);
                }
            }
            "survivors" => {
                for (t, w) in list(&input["temps_c"]).into_iter().zip(want.as_array().unwrap()) {
                    close(&format!("{id} at {t}"), survivors(f(input, "minutes").unwrap(), t, n), w, 1e-6);
                }
            }
            "tau" => {
                for (m, w) in list(&input["masses_g"]).into_iter().zip(want.as_array().unwrap()) {
                    let word = |key: &str| input[key].as_str().unwrap();
                    close(id, time_constant_min(m, word("vessel"), word("cover"), word("air"), &k), w, 1e-9);
                }
            }
            "free_gas" => {
                for (g, w) in list(&input["gas_ml"]).into_iter().zip(want.as_array().unwrap()) {
                    close(id, free_gas(f(input, "k").unwrap(), f(input, "a").unwrap(), g), w, 1e-9);
                }
            }
            "dough" => {
                let b = Body::of(&dough(&input["dough"]), f(&input["dough"], "rate").unwrap_or(1.0), &k);
                for (name, value) in [
                    ("vd_ml", b.vd_ml),
                    ("air_ml", b.air_ml),
                    ("dissolved_ml", b.dissolved_ml),
                    ("hold_ml", b.hold_ml),
                    ("buffer", b.buffer),
                    ("factor_bakers", b.factor_bakers),
                    ("factor_wild", b.factor_wild),
                    ("osmolality", b.osmolality),
                    ("yeast_instant_pct", b.yeast_instant_pct),
                ] {
                    close(&format!("{id} {name}"), value, &want[name], 1e-9);
                }
            }
            "dough_time" => {
                let stages: Vec<RiseStage> = input["stages"]
                    .as_array()
                    .unwrap()
                    .iter()
                    .map(|s| {
                        let mut s = s.clone();
                        s["kind"] = "bulk".into();
                        serde_json::from_value(s).unwrap()
                    })
                    .collect();
                let got = dough_hours_along(population(&input["pop"]), f(input, "start_c").unwrap(), &stages, &k);
                for ((c, h), w) in got.into_iter().zip(want.as_array().unwrap()) {
                    close(id, c, &w["dough_c"], 1e-6);
                    close(id, h, &w["dough_h"], 1e-6);
                }
            }
            "simulate" => match (simulate_case(input), refused) {
                (Ok(got), None) => compare(id, &got, want),
                (Err(e), Some(words)) => assert!(e.0.iter().any(|e| said(e) == words), "{id}: {e:?} instead of {words}"),
                (got, _) => panic!("{id}: {got:?} instead of {want}"),
            },
            "leaven" => match (simulate_leaven(&leaven(input), &k), refused) {
                (Ok(got), None) => compare(id, &got, want),
                (Err(e), Some(words)) => assert!(e.0.iter().any(|e| said(e) == words), "{id}: {e:?}"),
                (got, _) => panic!("{id}: {got:?}"),
            },
            "friction" => close(
                id,
                water::friction(
                    input["mixer"].as_str().unwrap(),
                    f(input, "minutes").unwrap(),
                    Grams::new(f(input, "mass_g").unwrap()).unwrap(),
                    &k,
                )
                .unwrap()
                .get(),
                want,
                1e-9,
            ),
            "water_factor" if refused.is_none() => {
                let c = |key: &str| f(input, key).map(|c| Celsius::new(c).unwrap());
                let got = water::factor_method(
                    c("target_c").unwrap(),
                    c("flour_c").unwrap(),
                    c("room_c").unwrap(),
                    c("preferment_c"),
                    Kelvins::new(f(input, "friction_k").unwrap()).unwrap(),
                );
                close(id, got, want, 1e-9);
            }
            "water_balance" => {
                let parts: Vec<_> = input["items"]
                    .as_array()
                    .unwrap()
                    .iter()
                    .map(|i| water::Part {
                        grams: Grams::new(f(i, "grams").unwrap()).unwrap(),
                        heat: f(i, "c").unwrap(),
                        at: Celsius::new(f(i, "temp_c").unwrap()).unwrap(),
                    })
                    .collect();
                let got = water::heat_balance(
                    Celsius::new(f(input, "target_c").unwrap()).unwrap(),
                    Grams::new(f(input, "water_g").unwrap()).unwrap(),
                    &parts,
                    Kelvins::new(f(input, "friction_k").unwrap()).unwrap(),
                    n,
                );
                close(id, got.unwrap(), want, 1e-9);
            }
            "ice" => {
                let got = water::ice(
                    Grams::new(f(input, "water_g").unwrap()).unwrap(),
                    f(input, "water_c").unwrap(),
                    Celsius::new(f(input, "tap_c").unwrap()).unwrap(),
                    f(input, "ice_c").unwrap_or(-10.0),
                    n,
                );
                match (got, refused) {
                    (Ok(g), None) => close(id, g.get(), want, 1e-9),
                    (Err(words), Some(wanted)) => assert_eq!(words, wanted),
                    (got, _) => panic!("{id}: {got:?}"),
                }
            }
            "water_finding" => {
                for (t, w) in list(&input["temps_c"]).into_iter().zip(want.as_array().unwrap()) {
                    assert_eq!(water::yeast_caution(t).map(cerealis_core::findings::Severity::word), w.as_str(), "{id} at {t}");
                }
            }
            // Learning from the log and the refusal of a target belong to calls that are not in the core yet, or are tested with it.
            _ => seen -= 1,
        }
    }
    assert!(seen >= 75, "only {seen} cases were run");
}

/// Facts of the trade: common practice, no source, or a book from memory as each row's mark says. Most
/// were used to fit the constants: the share inside is a state, not a forecast.
#[test]
fn the_rise_stays_within_what_the_trade_says() {
    let file: Value = serde_json::from_str(CASES).unwrap();
    let k = constants();
    let (mut inside, mut all) = (0, 0);
    for fact in file["facts"].as_array().unwrap() {
        let (case, take) = (&fact["case"], fact["take"].as_str().unwrap());
        let (low, high) = (f(fact, "low").unwrap(), f(fact, "high").unwrap());
        let forecast = match case["call"].as_str().unwrap() {
            "simulate" => simulate_case(case),
            "leaven" => simulate_leaven(&leaven(case), &k),
            _ => continue,
        };
        let Ok(got) = forecast else { continue };
        let event = |kind: &str| got.events.iter().find(|e| serde_json::to_value(e.kind).unwrap() == kind).map(|e| e.min);
        let value = match take {
            "bulk-ripe" | "doubled" | "leaven-peak" | "proof-ripe" | "over-ripe" => event(take),
            _ => continue,
        };
        let Some(value) = value else { continue };
        close(fact["id"].as_str().unwrap(), value, &fact["model"], 1e-6);
        all += 1;
        inside += i32::from(value >= low * 0.9 && value <= high * 1.1);
    }
    assert!(all > 100, "only {all} facts");
    assert!(f64::from(inside) / f64::from(all) > 0.75, "{inside} of {all} within a tenth of the trade's range");
}
