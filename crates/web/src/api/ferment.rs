use std::collections::BTreeMap;

use actix_web::web::{Data, Json};
use cerealis_core::{
    ferment::{Dough, Forecast, LeavenState, Population, Rise, RiseKind, RiseStage, YeastDose, findings::find, simulate},
    formula::{FormulaBody, dough_of},
    input::{InputErrors, Pointer},
    measure::Working,
};
use serde::Deserialize;
use serde_json::{Map, Value, json};

use super::{checked, findings, working};
use crate::{
    State,
    edge::{Failure, Sent},
};

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct LeavenBody {
    flour_pct: f64,
    y: Option<f64>,
    b: Option<f64>,
    acid: Option<f64>,
    age: Option<f64>,
    cold_days: Option<f64>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DoughBody {
    flour: BTreeMap<String, f64>,
    water_pct: f64,
    #[serde(default)]
    salt_pct: f64,
    #[serde(default)]
    sugar_pct: f64,
    #[serde(default)]
    fat_pct: f64,
    #[serde(default)]
    solids_pct: f64,
    #[serde(rename = "yeast")]
    yeast: Option<YeastDose>,
    leaven: Option<LeavenBody>,
    #[serde(default)]
    preferment_yeast_pct: f64,
    inhibitor: Option<f64>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: Option<FormulaBody>,
    style: Option<String>,
    dough: Option<DoughBody>,
    start_c: f64,
    stages: Vec<RiseStage>,
    leaven: Option<LeavenState>,
    rate: Option<f64>,
    log_sigma: Option<f64>,
}

impl DoughBody {
    fn dough(self) -> Dough {
        let leaven =
            self.leaven.map(|l| (l.flour_pct, Some(LeavenState { y: l.y, b: l.b, acid: l.acid, age: l.age, cold_days: l.cold_days })));
        Dough {
            flour: self.flour.into_iter().collect(),
            water_pct: self.water_pct,
            salt_pct: self.salt_pct,
            sugar_pct: self.sugar_pct,
            fat_pct: self.fat_pct,
            solids_pct: self.solids_pct,
            yeast: self.yeast,
            leaven,
            preferment_yeast_pct: self.preferment_yeast_pct,
            spice_factor: self.inhibitor.unwrap_or(1.0),
        }
    }
}

pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let t = &state.tables();
    let root = Pointer::root();
    let mut masses = (1000.0, 1000.0);
    let (style, dough) = match (body.formula, body.dough, body.style) {
        (Some(f), None, style) => {
            let formula = checked(f, &state)?;
            let a = formula.analyse(&t.pantry, &t.styles);
            let piece = a.piece_g();
            masses = (a.dough_g.likely.clamp(5.0, 20_000.0), piece.clamp(5.0, 20_000.0));
            (style.unwrap_or_else(|| a.style.id.word().to_owned()), dough_of(&a, &t.pantry, body.leaven))
        }
        (None, Some(d), Some(style)) => (style, d.dough()),
        (Some(_), Some(_), _) => return Err(InputErrors::one(root.at("dough"), "Send a formula or a dough, not both.").into()),
        (None, Some(_), None) => return Err(InputErrors::one(root.at("style"), "Say which style of dough this is.").into()),
        (None, None, _) => return Err(InputErrors::one(root.at("formula"), "Send a formula, or a dough with its style.").into()),
    };
    if let Some(i) = body.stages.iter().position(|s| s.kind == RiseKind::Leaven) {
        return Err(InputErrors::one(
            root.at("stages").at(i).at("kind"),
            "A dough rises in bulk and in proof; a leaven has a call of its own.",
        )
        .into());
    }
    let mut stages = body.stages;
    let given: Vec<_> = stages
        .iter()
        .map(|s| (s.mass_g.is_some(), s.vessel.is_some(), s.cover.is_some(), s.air.is_some(), s.pace.is_some() || s.target_ratio.is_some()))
        .collect();
    for stage in &mut stages {
        stage.mass_g = stage.mass_g.or(Some(if stage.kind == RiseKind::Bulk { masses.0 } else { masses.1 }));
    }
    let rise =
        Rise { style: style.clone(), dough, start_c: body.start_c, stages, rate: body.rate.unwrap_or(1.0), log_sigma: body.log_sigma };
    let rise = rise.assume(masses.0, &t.ferment)?;
    let forecast = simulate(&rise, &t.ferment)?;
    let mut assumed = Map::new();
    let stages_assumed: Vec<Value> = rise
        .stages
        .iter()
        .zip(given)
        .map(|(s, (mass, vessel, cover, air, pace))| {
            let mut m = Map::new();
            for (name, was, value) in [
                ("mass_g", mass, json!(s.mass_g)),
                ("vessel", vessel, json!(s.vessel)),
                ("cover", cover, json!(s.cover)),
                ("air", air, json!(s.air)),
                ("pace", pace, json!("usual")),
            ] {
                if !was {
                    m.insert(name.into(), value);
                }
            }
            Value::Object(m)
        })
        .collect();
    assumed.insert("stages".into(), json!(stages_assumed));
    if body.rate.is_none() {
        assumed.insert("rate".into(), json!(1.0));
    }
    let main = if forecast.main == Population::Bakers { "bakers" } else { "wild" };
    Ok(Json(json!({
        "style": style, "main": main, "events": forecast.events, "curve": forecast.thinned(500), "end": forecast.end,
        "findings": findings(&find(&rise, &forecast)), "working": working(&steps(&rise, &forecast)), "assumed": assumed,
    })))
}

fn steps(rise: &Rise, f: &Forecast) -> Vec<Working> {
    vec![
        Working::given("yeast, as instant", f.body.yeast_instant_pct, "%"),
        Working::given("salt and sugar in the water", f.body.osmolality, "osmol/kg")
            .by("(2 × salt / 58.44 + sugar / 171) / (water / 1000)"),
        Working::given("speed of this formula", f.body.factor_bakers, "×")
            .by("osmotic × stiffness / fat")
            .from("fitted to the trade's facts"),
        Working::given("dough when mixed", rise.start_c, "°C"),
        Working::given("dough at the end", f.end.dough_c, "°C")
            .by("Newton's cooling, place by place")
            .from("engineering estimate, ±35 % of the time constant"),
        Working::given("dough time", f.end.dough_h, "h at 24 °C")
            .by("∫ rate(T) / rate(24 °C) dt")
            .from("cardinal temperature model, Rosso et al. 1993, from memory"),
    ]
}
