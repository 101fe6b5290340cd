use actix_web::web::{Data, Json};
use cerealis_core::{
    findings::Remedy,
    formula::FormulaBody,
    input::{InputErrors, Pointer},
    swap::Swap,
};
use serde::Deserialize;
use serde_json::{Value, json};

use super::checked;
use crate::{
    State,
    edge::{Failure, Sent},
};

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: FormulaBody,
    #[serde(deserialize_with = "cerealis_core::input::whole")]
    line: usize,
}

fn wire(swap: Swap) -> Value {
    let patch = Remedy::new("", swap.changes).wire("").get("patch").cloned();
    json!({
        "id": swap.id, "ingredient": swap.ingredient.id, "grams": swap.grams,
        "add": swap.with.iter().map(|(i, g)| json!({ "ingredient": i.id, "grams": g })).collect::<Vec<_>>(),
        "changes": swap.words, "source": swap.source, "patch": patch,
    })
}

/// What can stand in for a line, each with the patch that does it.
pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let t = &state.tables();
    let root = Pointer::root();
    let formula = checked(body.formula, &state)?;
    if body.line >= formula.lines.len() {
        return Err(Failure::Input(InputErrors::one(
            root.at("line"),
            format!("This formula has {} lines, counted from 0.", formula.lines.len()),
        )));
    }
    let options: Vec<Value> = t.swaps.of(&formula, body.line, t).into_iter().map(wire).collect();
    Ok(Json(json!({ "options": options })))
}
