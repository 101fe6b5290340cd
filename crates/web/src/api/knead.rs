use actix_web::web::{Data, Json};
use cerealis_core::{
    formula::{FormulaBody, kneading_of},
    input::{InputErrors, Pointer},
    knead::{KneadAsk, findings::find},
    measure::Band,
};
use serde::Deserialize;
use serde_json::{Value, json};

use super::{checked, findings, working};
use crate::{
    State,
    edge::{Failure, Sent},
};

/// The dough's own fields beside `formula`; spelled out so that an unknown one is refused.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: Option<FormulaBody>,
    style: Option<String>,
    method: Option<String>,
    h_adj: Option<f64>,
    protein: Option<f64>,
    wholegrain_pct: Option<f64>,
    rye_pct: Option<f64>,
    fat_pct: Option<f64>,
    butter_late: Option<bool>,
    sugar_pct: Option<f64>,
    salt_pct: Option<f64>,
    inclusions_pct: Option<f64>,
    yeast_pct: Option<f64>,
    flour_g: Option<f64>,
    dough_g: Option<f64>,
    start_c: Option<f64>,
    room_c: Option<f64>,
    rest_min: Option<f64>,
    rest_yeast: Option<bool>,
    rest_salt: Option<bool>,
    folds: Option<f64>,
    minutes: Option<f64>,
    bulk_min: Option<f64>,
    mixer_size: Option<String>,
    fridge_c: Option<f64>,
    speed_factor: Option<f64>,
    friction_k_per_min: Option<f64>,
}

impl Body {
    /// What is asked: the formula's own figures, and over them what is told.
    fn over(self, of_formula: Option<KneadAsk>) -> Result<KneadAsk, InputErrors> {
        let lacks = |name: &str, words: &str| InputErrors::one(Pointer::root().at(name), words);
        let f = of_formula.as_ref();
        let needed = |told: Option<f64>, own: Option<f64>, name: &str, words: &str| told.or(own).ok_or_else(|| lacks(name, words));
        let plain = KneadAsk::default();
        let own = f.unwrap_or(&plain);
        Ok(KneadAsk {
            style: self.style.or_else(|| f.map(|f| f.style.clone())).ok_or_else(|| lacks("style", "Say which style of dough this is."))?,
            method: self.method.ok_or_else(|| lacks("method", "Say how it is kneaded, for example by hand."))?,
            h_adj: needed(self.h_adj, f.map(|f| f.h_adj), "h_adj", "Send a formula, or say how much water it has.")?,
            protein: self.protein.unwrap_or(own.protein),
            wholegrain_pct: self.wholegrain_pct.unwrap_or(own.wholegrain_pct),
            rye_pct: self.rye_pct.unwrap_or(own.rye_pct),
            fat_pct: self.fat_pct.unwrap_or(own.fat_pct),
            butter_late: self.butter_late.unwrap_or(own.butter_late),
            sugar_pct: self.sugar_pct.unwrap_or(own.sugar_pct),
            salt_pct: self.salt_pct.unwrap_or(own.salt_pct),
            inclusions_pct: self.inclusions_pct.unwrap_or(own.inclusions_pct),
            yeast_pct: self.yeast_pct.unwrap_or(own.yeast_pct),
            flour_g: needed(self.flour_g, f.map(|f| f.flour_g), "flour_g", "Send a formula, or say how much flour there is.")?,
            dough_g: needed(self.dough_g, f.map(|f| f.dough_g), "dough_g", "Send a formula, or say how much dough there is.")?,
            start_c: needed(self.start_c, None, "start_c", "Say how warm the dough is before it is worked.")?,
            room_c: needed(self.room_c, None, "room_c", "Say how warm the room is.")?,
            rest_min: self.rest_min.unwrap_or(own.rest_min),
            rest_yeast: self.rest_yeast.unwrap_or(own.rest_yeast),
            rest_salt: self.rest_salt.unwrap_or(own.rest_salt),
            folds: self.folds,
            minutes: self.minutes,
            bulk_min: self.bulk_min,
            mixer_size: self.mixer_size.unwrap_or_else(|| own.mixer_size.clone()),
            fridge_c: self.fridge_c.unwrap_or(own.fridge_c),
            speed_factor: self.speed_factor.unwrap_or(own.speed_factor),
            friction_k_per_min: self.friction_k_per_min,
        })
    }
}

pub async fn call(state: Data<State>, Sent(mut body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let t = &state.tables();
    let formula = body.formula.take().map(|f| checked(f, &state)).transpose()?;
    let of_formula = formula.as_ref().map(|f| kneading_of(&f.analyse(&t.pantry, &t.styles)));
    let ask = body.over(of_formula)?;
    let work = ask.check(&t.knead, &t.styles, &t.ferment)?;
    let done = work.kneading();
    let ways = ask.other_ways(&t.knead, &t.styles, &t.ferment)?;
    let share = |of: &dyn Fn(Band) -> f64| done.development.map(of);
    Ok(Json(json!({
        "phases": done.phases, "target": done.target, "gluten": done.gluten,
        "development": share(&|d| d.likely), "development_low": share(&|d| d.low), "development_high": share(&|d| d.high),
        "development_at_shaping": done.development_at_shaping, "bulk_min": done.bulk_min, "dough_c": done.dough_c,
        "folds": done.folds, "fold_at_min": done.fold_at_min, "knead_min": done.knead_min, "elapsed_min": done.elapsed_min,
        "hands_on_min": done.hands_on_min, "watch_min": done.watch_min, "batches": done.batches, "fridge_min": done.fridge_min,
        "findings": findings(&find(&work, &done)), "alternatives": ways, "working": working(&done.working(&ask)),
    })))
}
