use actix_web::web::{Data, Json};
use cerealis_core::{
    formula::{Analysis, FormulaBody, ScaleBody, find},
    input::Pointer,
    measure::Band,
    plan,
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
pub struct Body {
    formula: FormulaBody,
    scale: Option<ScaleBody>,
}

pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let t = &state.tables();
    let root = Pointer::root();
    let mut formula = checked(body.formula, &state)?;
    if let Some(scale) = body.scale {
        let analysis = formula.analyse(&t.pantry, &t.styles);
        let scale = scale.check(&formula, &analysis, t).map_err(|e| e.under(&root.at("scale")))?;
        formula = formula.scaled(&scale, &analysis);
    }
    let analysis = formula.analyse(&t.pantry, &t.styles);
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let mut found = find(&analysis, t);
    found.extend(plan::findings::of_recipe(None, &analysis, &kitchen, t));
    let mut answer = wire(&analysis);
    if let Some(object) = answer.as_object_mut() {
        object.insert("findings".into(), findings(&found));
    }
    Ok(Json(answer))
}

fn wire(a: &Analysis<'_>) -> Value {
    let usual = |r: (f64, f64)| json!([r.0, r.1]);
    let mut ranges = Map::new();
    for (name, band) in [
        ("hydration_pct", a.hydration_pct),
        ("effective_hydration_pct", a.effective_hydration_pct),
        ("salt_pct", a.salt_pct),
        ("sugar_pct", a.sugar_pct),
        ("fat_pct", a.fat_pct),
        ("yeast_instant_pct", a.yeast_instant_pct),
        ("leaven_flour_pct", a.leaven_flour_pct),
        ("fat_added_pct", a.fat_added_pct),
    ] {
        if !Band::is_exact(band) {
            ranges.insert(name.to_owned(), json!([band.low, band.high]));
        }
    }
    let lines: Vec<Value> = a
        .formula
        .lines
        .iter()
        .zip(&a.line_pct)
        .map(|(l, pct)| {
            json!({
                "ingredient": l.ingredient.id, "name": l.ingredient.name, "stage": l.stage, "pct": pct, "grams": l.grams.likely,
            })
        })
        .collect();
    let mut answer = json!({
        "flour_g": a.flour_g.likely, "dough_g": a.dough_g.likely, "hydration_pct": a.hydration_pct.likely, "effective_hydration_pct": a.effective_hydration_pct.likely,
        "salt_pct": a.salt_pct.likely, "sugar_pct": a.sugar_pct.likely, "fat_pct": a.fat_pct.likely, "yeast_instant_pct": a.yeast_instant_pct.likely,
        "prefermented_flour_pct": a.prefermented_flour_pct, "leaven_flour_pct": a.leaven_flour_pct.likely, "fat_added_pct": a.fat_added_pct.likely,
        "egg_pct": a.egg_pct, "milk_pct": a.milk_pct, "fruit_pct": a.fruit_pct, "wholegrain_pct": a.wholegrain_pct, "rye_pct": a.rye_pct,
        "style": a.style.id,
        "usual": {
            "effective_hydration_pct": usual(a.style.hydration), "salt_pct": usual(a.style.salt), "sugar_pct": usual(a.style.sugar), "fat_added_pct": usual(a.style.fat),
            "egg_pct": usual(a.style.egg), "yeast_instant_pct": usual(a.style.yeast_instant), "leaven_flour_pct": usual(a.style.leaven_flour),
        },
        "allergens": a.allergens, "lines": lines, "working": working(&a.working()), "assumed": {},
    });
    if let Some(object) = answer.as_object_mut() {
        if !ranges.is_empty() {
            object.insert("ranges".into(), Value::Object(ranges));
        }
        if let Some(p) = &a.formula.pieces {
            let each = a.piece_g();
            object.insert(
                "pieces".into(),
                json!({ "count": p.count, "piece_g": each, "left_over_g": left_over(a.dough_g.likely - a.formula.further_g(), p.count, each) }),
            );
        }
    }
    answer
}

/// What stays on the bench; a hair of rounding is none.
fn left_over(dough_g: f64, count: u32, each: f64) -> f64 {
    let rest = dough_g - f64::from(count) * each;
    if rest.abs() < 1e-6 { 0.0 } else { rest }
}
