use actix_web::web::{Data, Json};
use cerealis_core::{
    input::{InputErrors, Pointer},
    pantry::Ingredient,
};
use serde::Deserialize;
use serde_json::{Value, json};
use serde_qs::actix::QsQuery;

use crate::{State, edge::Failure};

/// Most rows in an answer.
const MOST: usize = 100;

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Query {
    q: Option<String>,
}

fn wire(i: &Ingredient) -> Value {
    json!({ "id": i.id, "name": i.name, "family": i.family.word(), "allergens": i.allergens })
}

/// The pantry's rows, nearest first; without a word, the first of the table.
pub async fn search(state: Data<State>, QsQuery(query): QsQuery<Query>) -> Result<Json<Value>, Failure> {
    let t = state.tables();
    let pantry = &t.pantry;
    let typed = query.q.unwrap_or_default();
    if typed.chars().count() > 200 {
        return Err(Failure::Input(InputErrors::one(Pointer::root().at("q"), "A name has at most 200 letters.")));
    }
    let rows: Vec<Value> = if typed.trim().is_empty() {
        pantry.offered().take(MOST).map(|i| wire(i)).collect()
    } else {
        pantry.search(&typed, MOST).into_iter().map(|i| wire(i)).collect()
    };
    Ok(Json(json!({ "ingredients": rows })))
}
