//! The oven against `cases/baking_cases.json`: results of an independent implementation of the same
//! equations (tolerance 1e-4 relative, 1e-6 near zero, as that file states), and the trade's bakes.

use cerealis_core::oven::{
    Bake, BakeBody, Constants, DegreeScale, Fall, Geometry, Goal, Setup, advise, boiling_c, clock, fan_equivalent, lightness, near,
    preheat_lead_min, pressure_pa, read_setting, run, setting_limits, sides, swatch, usual_setting,
};
use serde_json::Value;

const CASES: &str = include_str!("../cases/baking_cases.json");

fn cases() -> Value {
    serde_json::from_str(CASES).unwrap()
}

fn bake(input: &Value) -> Bake {
    serde_json::from_value::<BakeBody>(input.clone()).unwrap().check().unwrap_or_else(|e| panic!("{input}: {e}"))
}

#[track_caller]
fn close(what: &str, got: f64, want: &Value) {
    let want = want.as_f64().unwrap_or_else(|| panic!("{what}: {got} instead of {want}"));
    assert!((got - want).abs() <= 1e-6 + 1e-4 * want.abs(), "{what}: {got} instead of {want}");
}

#[track_caller]
fn maybe(what: &str, got: Option<f64>, want: &Value) {
    match got {
        None => assert!(want.is_null(), "{what}: nothing instead of {want}"),
        Some(got) => close(what, got, want),
    }
}

#[test]
fn the_solver_agrees_with_the_independent_one() {
    for case in cases()["solver"].as_array().unwrap() {
        let a = |key: &str| case["args"][key].as_f64().unwrap();
        let setup = Setup {
            cells: case["args"]["N"].as_u64().unwrap() as usize,
            grade: a("pg"),
            radius: a("R"),
            roundness: a("m"),
            dt: a("dt"),
            end: a("tmax"),
            start_c: a("T0"),
            boiling_c: a("Tb"),
            density: a("rho"),
            water: a("w"),
            lambda: a("lam"),
            c_water: a("cw"),
            c_solid: a("cs"),
            x_res: a("xres"),
            phi: a("phi"),
            d1: a("d1"),
            d2: a("d2"),
            k_cold: a("kc"),
            k_hot: a("kh"),
            k_dry: a("kd"),
            d_tk: a("dTk"),
            h_conv: a("hc"),
            eps: a("eps"),
            air_c: a("set1"),
            drop: a("drop"),
            drop_tau: a("tau"),
            falls: Fall::these(std::iter::once(Fall { at: a("tfall"), to_c: a("set2") })),
            fall_tau: a("tauf"),
            cover_heat: a("Fc"),
            cover_brown: a("bc"),
            cover_until: a("tcov"),
            cover_core_c: a("Tcov"),
            steam_until: a("tst"),
            h_steam: a("hst"),
            dew_below: a("dTdew"),
            foil_at: a("tfoil"),
            foil_heat: a("Ff"),
            foil_brown: a("bf"),
            browning: a("g"),
            k0a: a("k0a"),
            k0b: a("k0b"),
            aa: a("Aa"),
            ab: a("Ab"),
            b: a("B"),
            gel_k0: a("gk0"),
            gel_e: a("gE"),
            goal: Goal {
                core_c: a("Tgoal"),
                ungelatinised: a("ugoal"),
                hold_min: a("hold"),
                finish: a("fin"),
                colour: a("cgoal"),
                loss: a("lgoal"),
                late_cap: a("cap"),
            },
        };
        let (got, want) = (run(&setup), &case["expect"]);
        assert_eq!(got.rows.len() as u64, want["rows"].as_u64().unwrap());
        close("energy", got.energy_in, &want["energy_in"]);
        assert!((got.energy_in / got.enthalpy_rise - 1.0).abs() < 1e-9, "energy is conserved");
        for sample in want["sample"].as_array().unwrap() {
            let row = got.rows[sample[0].as_u64().unwrap() as usize];
            for (i, value) in [row.t, row.core_c, row.surface_c, row.index, row.loss].into_iter().enumerate() {
                close(&format!("row {} column {i}", sample[0]), value, &sample[i + 1]);
            }
        }
    }
}

#[test]
fn the_advice_agrees_with_the_independent_one() {
    let k = Constants::built_in().unwrap();
    for case in cases()["advise"].as_array().unwrap() {
        let (id, want) = (case["id"].as_str().unwrap(), &case["expect"]);
        let b = bake(&case["input"]);
        let a = advise(&b, &k);
        assert_eq!(a.class.word(), want["style"].as_str().unwrap(), "{id}");
        assert_eq!(serde_json::to_value(a.status).unwrap(), want["status"], "{id}");
        assert_eq!(serde_json::to_value(a.meets).unwrap(), want["meets"], "{id}");
        let g = a.geometry;
        for (name, value) in [
            ("set_c", a.set_c),
            ("core_target_c", a.core_target_c),
            ("boiling_c", a.boiling_c),
            ("density", g.density),
            ("water", g.water),
            ("browning", a.browning),
            ("R", g.radius),
            ("m", g.roundness),
            ("A_eff", g.area),
            ("steam_min", a.steam_min),
            ("drop_k", a.drop_k),
        ] {
            close(&format!("{id} {name}"), value, &want[name]);
        }
        for (name, value) in [
            ("fall_to_c", a.turns.first().map(|t| t.to_c)),
            ("minutes", a.minutes),
            ("core_at_min", a.core_at_min),
            ("core_done_min", a.core_done_min),
            ("foil_min", a.foil_min),
        ] {
            maybe(&format!("{id} {name}"), value, &want[name]);
        }
        if a.minutes.is_none() {
            continue;
        }
        for (name, value) in [
            ("lid_off_min", a.lid_off_min),
            ("minutes_low", a.minutes_low),
            ("minutes_high", a.minutes_high),
            ("check_min", a.check_min),
            ("rotate_min", a.turn_min),
            ("preheat_lead_min", a.preheat_lead_min),
            ("slice_from_min", a.slice_min),
        ] {
            maybe(&format!("{id} {name}"), value, &want[name]);
        }
        if !want["colour_min"].is_null() {
            maybe(&format!("{id} colour_min"), a.colour_min, &want["colour_min"]);
        }
        for (name, value) in [
            ("loss_pct", a.loss_pct),
            ("surface_c", a.surface_c),
            ("core_c", a.core_c),
            ("colour_index", a.colour_index),
            ("lightness", lightness(a.colour_index, &k)),
        ] {
            close(&format!("{id} {name}"), value, &want[name]);
        }
    }
}

#[test]
fn clock_usual_setting_preheat_boiling_point_and_swatches_agree() {
    let k = Constants::built_in().unwrap();
    let all = cases();
    let list = |name: &str| all[name].as_array().unwrap().clone();
    for c in list("clock") {
        let b = bake(&c["input"]);
        close(c["id"].as_str().unwrap(), clock(&b, &Geometry::of(&b, &k), &k), &c["expect"]["clock"]);
    }
    for c in list("usual_set") {
        let (id, b) = (c["id"].as_str().unwrap(), bake(&c["input"]));
        close(id, usual_setting(&b, &k), &c["expect"]["usual_c"]);
        close(id, setting_limits(&b, &k).0, &c["expect"]["limit_lo"]);
        close(id, setting_limits(&b, &k).1, &c["expect"]["limit_hi"]);
    }
    for c in list("side_colours") {
        let (id, i) = (c["id"].as_str().unwrap(), &c["input"]);
        let mut b = bake(&i["bake"]);
        b.hot_k = i["hot_k"].as_f64();
        let s = sides(&b, i["set_c"].as_f64().unwrap(), &k).unwrap();
        for (name, got) in [("cool", s.cool), ("hot", s.hot), ("turned", s.turned)] {
            close(&format!("{id} {name}"), got, &c["expect"][name]);
        }
    }
    for c in list("preheat") {
        let i = &c["input"];
        let body = i["body"].as_str().filter(|b| *b != "bare");
        maybe(
            c["id"].as_str().unwrap(),
            preheat_lead_min(i["set_c"].as_f64().unwrap(), body, i["fan"].as_bool().unwrap(), i["room_c"].as_f64().unwrap(), &k),
            &c["expect"]["minutes"],
        );
    }
    for c in list("boiling") {
        let z = c["input"]["altitude_m"].as_f64().unwrap();
        close("pressure", pressure_pa(z), &c["expect"]["pressure_pa"]);
        close("boiling", boiling_c(z), &c["expect"]["boiling_c"]);
    }
    for c in list("colour") {
        let i = c["input"]["index"].as_f64().unwrap();
        close("lightness", lightness(i, &k), &c["expect"]["lightness"]);
        let want: Vec<f64> = c["expect"]["rgb"].as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect();
        assert_eq!(swatch(i, &k).to_vec(), want, "swatch at {i}");
    }
    for c in list("near") {
        let got = near(&bake(&c["input"]), c["set_c"].as_f64().unwrap(), &k);
        let want = c["expect"].as_array().unwrap();
        assert_eq!(
            got.iter().map(|n| n.id.as_str()).collect::<Vec<_>>(),
            want.iter().map(|w| w["id"].as_str().unwrap()).collect::<Vec<_>>(),
            "{}",
            c["id"]
        );
        for (n, w) in got.iter().zip(want) {
            close("distance", n.distance, &w["distance"]);
        }
    }
}

#[test]
fn settings_are_read_and_impossible_bakes_refused() {
    for c in cases()["setting"].as_array().unwrap() {
        let value = c["value"].as_f64().unwrap_or(0.5);
        let scale = match c["unit"].as_str().unwrap() {
            "c" => DegreeScale::Celsius,
            "f" => DegreeScale::Fahrenheit,
            "gas" => DegreeScale::Gas,
            _ => DegreeScale::Unsaid,
        };
        let got = read_setting(value, scale);
        maybe(c["id"].as_str().unwrap(), got.set_c, &c["expect"]["set_c"]);
        assert_eq!(got.finding.map(cerealis_core::oven::SettingFinding::word), c["expect"]["finding"].as_str(), "{}", c["id"]);
    }
    for c in cases()["errors"].as_array().unwrap() {
        let body: BakeBody = serde_json::from_value(c["input"].clone()).unwrap();
        assert!(body.check().is_err(), "{} is accepted", c["id"]);
    }
}

/// Bakes of the trade: common practice, no source; all fitted, so this states how well, not what it foretells.
#[test]
fn most_bakes_of_the_trade_lie_near_the_answer() {
    let k = Constants::built_in().unwrap();
    let (mut hits, mut all, mut home_hits, mut home) = (0, 0, 0, 0);
    for row in cases()["practice"].as_array().unwrap() {
        let (low, high) = (row["minutes_band"][0].as_f64().unwrap(), row["minutes_band"][1].as_f64().unwrap());
        let middle = f64::midpoint(low, high);
        let minutes = advise(&bake(&row["input"]), &k).minutes.unwrap_or(f64::INFINITY);
        let hit = (low..=high).contains(&minutes) || (minutes / middle - 1.0).abs() <= 0.15;
        let single = row["id"].as_str().unwrap().starts_with("home-");
        if single {
            home += 1;
            home_hits += i32::from(hit);
        } else {
            all += 1;
            hits += i32::from(hit);
        }
    }
    assert!(f64::from(hits) >= 0.8 * f64::from(all), "{hits} of {all} recalled facts");
    assert!(home_hits >= 14, "{home_hits} of {home} home bakes");
}

/// Against an independent steam table: IAPWS Industrial Formulation 1997, package `seuif97`. Saturation at the pressure
/// of the standard atmosphere; Antoine's equation strays by less than a tenth of a degree up to 5000 m.
#[test]
fn water_boils_where_the_steam_table_says() {
    for metres in (-4..=50).map(|h| 100.0 * f64::from(h)) {
        let steam = seuif97::px(pressure_pa(metres) / 1e6, 0.0, seuif97::OT);
        let ours = boiling_c(metres);
        assert!((ours - steam).abs() < 0.1, "{metres} m: {ours} against {steam}");
    }
    // The table itself, at one place everybody knows: 1 atm, 99.97 °C.
    assert!((seuif97::px(0.101_325, 0.0, seuif97::OT) - 99.974).abs() < 0.002);
}

#[test]
fn the_fan_setting_of_equal_minutes_agrees() {
    for c in cases()["fan_equivalent"].as_array().unwrap() {
        let (input, expect) = (&c["input"], &c["expect"]);
        let (minutes, core) =
            fan_equivalent(&bake(&input["bake"]), input["still_c"].as_f64().unwrap(), &Constants::built_in().unwrap()).unwrap();
        close("minutes", minutes, &expect["minutes"]);
        close("core", core, &expect["core_at_min"]);
    }
}

/// Loss of weight at the settings of practice, bands common practice, no source: none is farther out than a point.
#[test]
fn bread_loses_about_as_much_weight_as_bakers_find() {
    let (all, k) = (cases(), Constants::built_in().unwrap());
    let (mut inside, mut told) = (0, Vec::new());
    for row in all["practice_loss"].as_array().unwrap() {
        let bake_of = all["practice"].as_array().unwrap().iter().find(|p| p["id"] == row["practice_id"]).unwrap();
        let loss = advise(&bake(&bake_of["input"]), &k).loss_pct;
        let (low, high) = (row["loss_band_pct"][0].as_f64().unwrap(), row["loss_band_pct"][1].as_f64().unwrap());
        inside += usize::from((low..=high).contains(&loss));
        told.push((row["practice_id"].to_string(), low, loss, high));
        assert!((low - 1.0..=high + 1.0).contains(&loss), "{}: {loss} % for {low} to {high}", row["id"]);
    }
    assert!(inside >= 7, "{inside} of 10 inside the band: {told:?}");
}
