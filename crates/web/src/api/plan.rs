use actix_web::web::{Data, Json};
use cerealis_core::{
    Tables,
    ferment::Pace,
    formula::{Formula, FormulaBody},
    input::{Errors, InputErrors, Pointer},
    kitchen::{Kitchen, Night, Place},
    plan::{
        Beside, OvenUse,
        search::{
            answer::fit,
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            many::fit_many,
            offer::Offer,
            schedule::ScheduleFamily,
            want::Want,
        },
    },
};
use jiff::Timestamp;
use serde::{Deserialize, Deserializer};
use serde_json::{Map, Value, json};

use super::{checked, findings};
use crate::{
    State,
    edge::{Failure, Local, Sent, off_loop, on_disk},
};

/// Told as nothing is another thing than not told: there is no fridge.
fn told<'de, D: Deserializer<'de>>(d: D) -> Result<Option<Option<f64>>, D::Error> {
    Option::deserialize(d).map(Some)
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct PlacesBody {
    room_c: f64,
    pantry_c: Option<f64>,
    #[serde(default, deserialize_with = "told")]
    fridge_c: Option<Option<f64>>,
    proof_box_c: Option<f64>,
    oven_light_c: Option<f64>,
    night: Option<Night>,
    scale_step_g: Option<f64>,
    altitude_m: Option<f64>,
}

/// A while in which the oven is taken by another bread.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct OvenTakenBody {
    from: String,
    to: String,
    set_c: Option<f64>,
    steam: Option<bool>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct AwayBody {
    from: String,
    to: String,
    kind: Option<String>,
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct LeavenBody {
    cold_days: Option<f64>,
    ripe_at: Option<String>,
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct MethodBody {
    families: Option<Vec<String>>,
    fridge: Option<bool>,
    egg_milk_limit: Option<String>,
    #[serde(default, deserialize_with = "cerealis_core::input::whole_if_told")]
    loads: Option<u32>,
    keep_dose: Option<bool>,
    bulk_pace: Option<Pace>,
    proof_pace: Option<Pace>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct PartBody {
    formula: FormulaBody,
    ready_at: Option<String>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: Option<FormulaBody>,
    formulas: Option<Vec<PartBody>>,
    ready_at: Option<String>,
    start_at: Option<String>,
    kitchen: Option<PlacesBody>,
    #[serde(default)]
    away: Vec<AwayBody>,
    #[serde(default)]
    oven_taken: Vec<OvenTakenBody>,
    want: Option<String>,
    early_min: Option<f64>,
    #[serde(default)]
    leaven: LeavenBody,
    #[serde(default)]
    method: MethodBody,
}

fn instant(errors: &mut Errors, here: Pointer, text: Option<&str>) -> Option<Timestamp> {
    text.and_then(|t| {
        errors.keep(
            here,
            t.parse::<Timestamp>().map_err(|_| format!("“{t}” is no moment with its offset, for example 2026-11-07T07:10:00+00:00.")),
        )
    })
}

/// The kitchen a request tells, over the household's; and its places.
fn places(errors: &mut Errors, kitchen: Kitchen, body: Option<PlacesBody>) -> (Kitchen, Vec<(Place, f64)>) {
    let Some(b) = body else {
        let places = kitchen.places();
        return (kitchen, places);
    };
    let here = Pointer::root().at("kitchen");
    let all = [
        (Place::Room, Some(b.room_c)),
        (Place::Pantry, b.pantry_c),
        (Place::Fridge, b.fridge_c.unwrap_or(Some(4.0))),
        (Place::ProofBox, b.proof_box_c),
        (Place::OvenLight, b.oven_light_c),
    ];
    let places = all.into_iter().filter_map(|(place, c)| c.map(|c| (place, c))).collect();
    let step = b.scale_step_g.unwrap_or(0.1);
    errors.range(here.at("scale_step_g"), step, 0.001, 100.0, "The scale's step lies between 0.001 and 100 g.");
    let pantry_c = b.pantry_c.or(kitchen.pantry_c);
    if let Some(night) = &b.night {
        night.check(&here.at("night"), errors);
    }
    let altitude_m = b.altitude_m.unwrap_or(kitchen.altitude_m);
    errors.range(here.at("altitude_m"), altitude_m, -430.0, 5000.0, "A kitchen lies between -430 and 5000 m.");
    (Kitchen { room_c: b.room_c, pantry_c, night: b.night, scale_step_g: step, altitude_m, ..kitchen }, places)
}

pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let root = Pointer::root();
    let household = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let now = state.clock.now();
    let mut errors = Errors::default();
    let (kitchen, places) = places(&mut errors, household, body.kitchen);
    let ready_at = instant(&mut errors, root.at("ready_at"), body.ready_at.as_deref());
    let start_at = instant(&mut errors, root.at("start_at"), body.start_at.as_deref());
    let mut away = Vec::new();
    for (i, a) in body.away.iter().enumerate().take(101) {
        let here = root.at("away").at(i);
        let (from, to) = (instant(&mut errors, here.at("from"), Some(&a.from)), instant(&mut errors, here.at("to"), Some(&a.to)));
        let kind = a.kind.as_deref().map_or(Some(AwayKind::Away), AwayKind::from_word);
        if kind.is_none() {
            errors.add(here.at("kind"), "Away, asleep or busy.");
        }
        if let (Some(from), Some(to), Some(kind)) = (from, to, kind) {
            away.push(AwayAsk { from, to, kind });
        }
    }
    let mut beside = Vec::new();
    for (i, o) in body.oven_taken.iter().enumerate().take(101) {
        let here = root.at("oven_taken").at(i);
        let (from, to) = (instant(&mut errors, here.at("from"), Some(&o.from)), instant(&mut errors, here.at("to"), Some(&o.to)));
        if let Some(c) = o.set_c {
            errors.range(here.at("set_c"), c, 100.0, 300.0, "An oven setting for bread lies between 100 and 300 °C.");
        }
        if let (Some(from), Some(to)) = (from, to) {
            if from >= to {
                errors.add(here.at("to"), "The oven is free again before it is taken.");
            }
            let oven = vec![OvenUse { from, to, set_c: o.set_c, steam: o.steam }];
            beside.push(Beside { bread: "another bread".to_owned(), oven, hands: Vec::new() });
        }
    }
    if body.oven_taken.len() > 100 {
        errors.add(root.at("oven_taken"), "At most 100 spans in which the oven is taken.");
    }
    let want = body.want.as_deref().and_then(|word| {
        let known = || format!("“{word}” is no wish: {}.", Want::words().join(", "));
        errors.keep(root.at("want"), Want::from_word(word).ok_or_else(known))
    });
    let families = body.method.families.as_ref().map(|all| {
        let mut found = Vec::new();
        for (i, word) in all.iter().enumerate() {
            match ScheduleFamily::from_word(word) {
                Some(f) => found.push(f),
                None => {
                    let known: Vec<&str> = ScheduleFamily::ALL.into_iter().map(ScheduleFamily::word).collect();
                    let here = root.at("method").at("families").at(i);
                    errors.add(here, format!("“{word}” is no way to plan a bread: {}.", known.join(", ")));
                }
            }
        }
        found
    });
    let limit = body.method.egg_milk_limit.as_deref();
    if limit.is_some_and(|l| !matches!(l, "keep" | "lift")) {
        errors.add(root.at("method").at("egg_milk_limit"), "Keep or lift.");
    }
    let leaven_ripe_at = instant(&mut errors, root.at("leaven").at("ripe_at"), body.leaven.ripe_at.as_deref());
    let parts: Vec<(Formula, Option<Timestamp>)> = match (body.formula, body.formulas) {
        (Some(f), None) => vec![(checked(f, &state)?, None)],
        (None, Some(all)) => {
            let mut parts = Vec::new();
            for (i, part) in all.into_iter().enumerate() {
                let here = root.at("formulas").at(i);
                let ready = instant(&mut errors, here.at("ready_at"), part.ready_at.as_deref());
                match checked(part.formula, &state) {
                    Ok(f) => parts.push((f, ready)),
                    Err(Failure::Input(e)) => return Err(Failure::Input(e.under(&here))),
                    Err(other) => return Err(other),
                }
            }
            parts
        }
        _ => return Err(InputErrors::one(root.at("formula"), "Send one formula, or formulas of two to four doughs.").into()),
    };
    if ready_at.is_none() && start_at.is_none() && parts.iter().all(|p| p.1.is_none()) && body.ready_at.is_none() && body.start_at.is_none()
    {
        errors.add(root.at("ready_at"), "Say when the bread is to be ready, or when to start.");
    }
    errors.finish(())?;
    let ask = FitAsk {
        ready_at,
        early_min: body.early_min,
        away,
        beside,
        want,
        places,
        families,
        fridge: body.method.fridge.unwrap_or(true),
        lift_warm_limit: limit == Some("lift"),
        keep_dose: body.method.keep_dose.unwrap_or(false),
        loads: body.method.loads.unwrap_or(1),
        cold_days: body.leaven.cold_days.unwrap_or(0.0),
        leaven_ripe_at,
        paces: (body.method.bulk_pace.unwrap_or_default(), body.method.proof_pace.unwrap_or_default()),
        ..FitAsk::soon(start_at.unwrap_or(now), &kitchen)
    };
    let t = state.tables();
    Ok(Json(off_loop(move || found(&parts, ask, &kitchen, &t)).await??))
}

/// Looks for the plans and writes them.
fn found(parts: &[(Formula, Option<Timestamp>)], ask: FitAsk, kitchen: &Kitchen, t: &Tables) -> Result<Value, Failure> {
    let local = Local::for_data(kitchen);
    let ask = ask.with_nights(kitchen);
    let clock = |at: Timestamp| local.clock_to(at, 5.0);
    if let [(formula, ready)] = parts {
        let ask = FitAsk { ready_at: ready.or(ask.ready_at), ..ask };
        let answer = fit(formula, &ask, kitchen, t, &clock)?;
        let options: Vec<Value> = answer.offers.iter().enumerate().map(|(i, o)| option(o, i, &local)).collect();
        let mut out = Map::new();
        out.insert("options".into(), json!(options));
        out.insert("findings".into(), findings(&answer.findings));
        let wishes: Vec<Value> =
            answer.wishes.iter().map(|w| json!({ "want": w.want.word(), "gains": w.gains, "costs": w.costs })).collect();
        out.insert("wishes".into(), json!(wishes));
        if answer.offers.is_empty() {
            let relax: Vec<Value> = answer
                .relax
                .iter()
                .map(|r| {
                    let mut row = json!({ "kind": r.kind.word(), "minutes": r.minutes, "message": r.message });
                    if let Some(object) = row.as_object_mut() {
                        object.extend(r.with.map(|w| ("with".to_owned(), json!(w.word()))));
                        object.extend(r.window.map(|w| ("window".to_owned(), json!(w))));
                    }
                    row
                })
                .collect();
            out.insert("relax".into(), json!(relax));
            out.extend(answer.nearest.as_ref().map(|o| ("nearest".to_owned(), option(o, 0, &local))));
        }
        return Ok(Value::Object(out));
    }
    let together = fit_many(parts, &ask, kitchen, t, &clock)?;
    let options: Vec<Value> = together
        .offers
        .iter()
        .enumerate()
        .map(|(i, parts)| {
            let ready = parts.iter().map(|o| o.course.ready_at).max().map(|r| local.rfc3339(r));
            let all: Vec<Value> = parts.iter().enumerate().map(|(k, o)| option(o, k, &local)).collect();
            json!({ "id": format!("together-{}", i + 1), "parts": all, "ready_at": ready })
        })
        .collect();
    Ok(json!({ "options": options, "findings": findings(&together.findings) }))
}

/// A plan on offer as the API writes it.
#[must_use]
pub fn option(o: &Offer, index: usize, local: &Local) -> Value {
    let at = |t: Timestamp| local.rfc3339(t);
    let steps: Vec<Value> = o
        .course
        .steps
        .iter()
        .map(|s| {
            let mut step = json!({
                "kind": s.kind, "start": at(s.start), "end": at(s.end), "hands_on_min": s.hands_on_min,
                "place": s.place, "sign": s.sign, "instruction": s.instruction, "words": s.words,
            });
            if let (Some(object), Some(low), Some(high)) = (step.as_object_mut(), s.low, s.high) {
                object.insert("from".into(), json!(at(low)));
                object.insert("until".into(), json!(at(high)));
            }
            step
        })
        .collect();
    let rises: Vec<Value> = o
        .rises
        .iter()
        .map(|r| {
            let stages: Vec<Value> = r
                .stages
                .iter()
                .map(|(place, s)| {
                    let mut stage = serde_json::to_value(s).unwrap_or_default();
                    if let Some(object) = stage.as_object_mut() {
                        object.insert("place".into(), json!(place.word()));
                    }
                    stage
                })
                .collect();
            let mut rise = json!({ "kind": r.kind, "stages": stages, "ripeness": r.ripeness, "over": r.over });
            if let (Some(object), Some((seed, water, flour))) = (rise.as_object_mut(), r.feed) {
                object.insert("feed".into(), json!({ "seed": seed, "water": water, "flour": flour }));
            }
            rise
        })
        .collect();
    let mut out = json!({
        "id": format!("{}-{}", o.family.word(), index + 1), "name": o.name, "family": o.family, "steps": steps,
        "ready_at": at(o.course.ready_at), "formula": o.formula.body(), "mix_c": o.ask.mix_c,
        "oven": { "set_c": o.course.oven.set_c, "preheat_min": o.course.oven.preheat_min, "minutes": o.course.oven.minutes },
        "rises": rises, "p_spoil": o.p_spoil, "p_late": o.p_late, "risk": o.risk(), "slack_min": o.slack_min,
        "hands_on_min": o.hands_on_min, "findings": findings(&o.findings), "reasons": o.reasons, "trade_offs": o.trade_offs, "ask": o.ask,
    });
    if let Some(object) = out.as_object_mut() {
        object.extend(o.dose.as_ref().map(|d| {
            let mut dose = json!({ "ingredient": d.ingredient, "grams": d.grams, "pct": d.pct, "was_grams": d.was_grams });
            if let (Some(inner), Some(words)) = (dose.as_object_mut(), &d.dissolve) {
                inner.insert("dissolve".into(), json!(words));
            }
            ("dose".to_owned(), dose)
        }));
        object.extend(o.leaven.map(|l| ("leaven".to_owned(), json!(l))));
        object.extend(o.warm_min.map(|w| ("warm_min".to_owned(), json!(w))));
    }
    out
}
