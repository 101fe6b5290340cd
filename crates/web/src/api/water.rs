use actix_web::web::{Data, Json};
use cerealis_core::{
    formula::{FormulaBody, kneading_in},
    kitchen::Kitchen,
    water::{Method, MixRise, WaterAsk, for_formula},
};
use serde::Deserialize;
use serde_json::{Map, Value, json};

use super::{checked, findings, working};
use crate::{
    State,
    edge::{Failure, Sent, on_disk},
};

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct LineC {
    #[serde(deserialize_with = "cerealis_core::input::whole")]
    line: usize,
    c: f64,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: FormulaBody,
    target_c: f64,
    flour_c: f64,
    room_c: f64,
    tap_c: f64,
    preferment_c: Option<f64>,
    line_c: Option<Vec<LineC>>,
    mixer: Option<String>,
    mix_min: Option<f64>,
    method: Option<Method>,
}

pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let t = &state.tables();
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let formula = checked(body.formula, &state)?;
    let analysis = formula.analyse(&t.pantry, &t.styles);
    let mut assumed = Map::new();
    // Where neither is told the bread is kneaded as the formula or the household does.
    let mixing = match (body.mixer, body.mix_min) {
        (None, None) => {
            let mixing = MixRise::of(&analysis, &Kitchen { room_c: body.room_c, ..kitchen.clone() }, body.target_c, t);
            if let MixRise::Kneaded { words, .. } = &mixing {
                assumed.insert("mixing".into(), json!(words));
            }
            mixing
        }
        (mixer, minutes) => {
            let mixer = mixer.unwrap_or_else(|| {
                assumed.insert("mixer".into(), json!(kitchen.mixer));
                kitchen.mixer.clone()
            });
            let minutes = minutes.unwrap_or_else(|| {
                let of_kitchen = kneading_in(&analysis, &kitchen).check(&t.knead, &t.styles, &t.ferment);
                let minutes = of_kitchen.map_or(0.0, |work| work.kneading().knead_min);
                assumed.insert("mix_min".into(), json!(minutes));
                minutes
            });
            MixRise::Friction(mixer, minutes)
        }
    };
    let ask = WaterAsk {
        target_c: body.target_c,
        flour_c: body.flour_c,
        room_c: body.room_c,
        tap_c: body.tap_c,
        fridge_c: kitchen.fridge_c.unwrap_or(kitchen.room_c),
        preferment_c: body.preferment_c,
        line_c: body.line_c.unwrap_or_default().into_iter().map(|l| (l.line, l.c)).collect(),
        mixing,
        method: body.method,
    };
    let a = for_formula(&analysis, &ask, &t.ferment)?;
    if body.method.is_none() {
        assumed.insert("method".into(), json!(a.method));
    }
    Ok(Json(json!({
        "method": a.method, "water_c": a.water_c, "tap_water_g": a.tap_water_g, "ice_g": a.ice_g, "friction_c": a.friction_k,
        "working": working(&a.working), "findings": findings(&a.findings), "assumed": assumed,
    })))
}
