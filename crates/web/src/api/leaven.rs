use std::collections::BTreeMap;

use actix_web::web::{Data, Json};
use cerealis_core::{
    ferment::{Leaven, LeavenState},
    input::{Errors, Pointer},
};
use serde::Deserialize;
use serde_json::{Value, json};

use crate::{
    State,
    edge::{Failure, Sent},
};

/// A leaven as it is fed: parts by weight.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    seed: f64,
    water: f64,
    flour: f64,
    flour_mix: Option<BTreeMap<String, f64>>,
    seed_hydration_pct: Option<f64>,
    seed_state: Option<LeavenState>,
    place_c: f64,
    start_c: Option<f64>,
    hours: Option<f64>,
    mass_g: Option<f64>,
    rate: Option<f64>,
}

pub async fn call(state: Data<State>, Sent(b): Sent<Body>) -> Result<Json<Value>, Failure> {
    let root = Pointer::root();
    let mut errors = Errors::default();
    for (name, value) in [("seed", b.seed), ("water", b.water), ("flour", b.flour)] {
        if !(value > 0.0 && value.is_finite()) {
            errors.add(root.at(name), "Seed, water and flour are parts by weight, each more than nothing.");
        }
    }
    let hydration = b.seed_hydration_pct.unwrap_or(100.0);
    errors.range(root.at("seed_hydration_pct"), hydration, 30.0, 250.0, "The seed's water lies between 30 and 250 % of its flour.");
    if let Some(h) = b.hours
        && !(h > 0.0 && h <= 168.0)
    {
        errors.add(root.at("hours"), "More than 0 hours and at most 168.");
    }
    errors.finish(())?;
    let t = state.tables();
    let leaven = Leaven {
        seed: b.seed,
        water: b.water,
        flour: b.flour,
        flour_mix: b.flour_mix.map_or_else(|| vec![("plain-white".to_owned(), 100.0)], |m| m.into_iter().collect()),
        seed_hydration_pct: hydration,
        seed_state: b.seed_state,
        place_c: b.place_c,
        start_c: b.start_c,
        hours: b.hours,
        mass_g: b.mass_g.unwrap_or(200.0),
        rate: b.rate.unwrap_or(1.0),
    };
    let forecast = leaven.until_fallen(&t.ferment)?;
    let top = forecast.curve.iter().max_by(|x, y| x.volume_ratio.total_cmp(&y.volume_ratio));
    let after = leaven.state_after(&forecast);
    Ok(Json(json!({
        "events": forecast.events, "curve": forecast.thinned(500), "end": forecast.end,
        "top": top.map(|r| json!({ "min": r.min, "volume_ratio": r.volume_ratio })), "state": after, "findings": [],
    })))
}
