//! The household's own ingredients and pans.

use actix_web::{
    HttpResponse,
    http::header,
    web::{Data, Json, Path},
};
use cerealis_core::{
    input::{InputErrors, Pointer},
    pantry::{OwnIngredient, OwnPan},
};
use cerealis_store::{StoreError, shelf};
use serde_json::{Value, json};

use crate::{
    State,
    edge::{Failure, Sent, on_disk},
};

fn name_taken() -> InputErrors {
    InputErrors::one(Pointer::root().at("name"), "There is one of that name already.")
}

/// Checks an ingredient and keeps it: under `id`, or as a new one under the id of its name.
///
/// # Errors
/// What its check says; a name that is taken; an id that is not there.
pub async fn keep_ingredient(state: &State, id: Option<String>, own: OwnIngredient) -> Result<String, Failure> {
    own.check(&state.household.built_in().pantry)?;
    let household = state.household.clone();
    let kept = on_disk(&state.db, move |db| {
        let there = |id: &str, all: &[(String, OwnIngredient)]| all.iter().any(|(i, _)| i == id);
        let all = shelf::get(db)?.ingredients;
        let id = match id {
            Some(id) if there(&id, &all) => id,
            Some(_) => return Err(StoreError::NotFound),
            None if there(&own.id(), &all) => return Ok(Err(name_taken())),
            None => own.id(),
        };
        shelf::put_ingredient(db, &id, &own)?;
        household.renew(db)?;
        Ok(Ok(id))
    });
    kept.await?.map_err(Failure::Input)
}

/// Checks a pan and keeps it: under `id`, or as a new one under the id of its name.
///
/// # Errors
/// As for an ingredient.
pub async fn keep_pan(state: &State, id: Option<String>, own: OwnPan) -> Result<String, Failure> {
    own.check(&state.household.built_in().pantry)?;
    let household = state.household.clone();
    let kept = on_disk(&state.db, move |db| {
        let there = |id: &str, all: &[(String, OwnPan)]| all.iter().any(|(i, _)| i == id);
        let all = shelf::get(db)?.pans;
        let id = match id {
            Some(id) if there(&id, &all) => id,
            Some(_) => return Err(StoreError::NotFound),
            None if there(&own.id(), &all) => return Ok(Err(name_taken())),
            None => own.id(),
        };
        shelf::put_pan(db, &id, &own)?;
        household.renew(db)?;
        Ok(Ok(id))
    });
    kept.await?.map_err(Failure::Input)
}

/// The household's own things.
pub async fn list(state: Data<State>) -> Result<Json<Value>, Failure> {
    let own = on_disk(&state.db, shelf::get).await?;
    let ingredients: Vec<Value> = own.ingredients.iter().map(|(id, i)| json!({ "id": id, "ingredient": i })).collect();
    let pans: Vec<Value> = own.pans.iter().map(|(id, p)| json!({ "id": id, "pan": p })).collect();
    Ok(Json(json!({ "ingredients": ingredients, "pans": pans })))
}

fn created(path: &str, id: &str) -> HttpResponse {
    HttpResponse::Created().insert_header((header::LOCATION, format!("{path}/{id}"))).json(json!({ "id": id }))
}

pub async fn add_ingredient(state: Data<State>, Sent(own): Sent<OwnIngredient>) -> Result<HttpResponse, Failure> {
    Ok(created("/api/v1/own/ingredients", &keep_ingredient(&state, None, own).await?))
}

pub async fn put_ingredient(state: Data<State>, id: Path<String>, Sent(own): Sent<OwnIngredient>) -> Result<Json<Value>, Failure> {
    Ok(Json(json!({ "id": keep_ingredient(&state, Some(id.into_inner()), own).await? })))
}

pub async fn add_pan(state: Data<State>, Sent(own): Sent<OwnPan>) -> Result<HttpResponse, Failure> {
    Ok(created("/api/v1/own/pans", &keep_pan(&state, None, own).await?))
}

pub async fn put_pan(state: Data<State>, id: Path<String>, Sent(own): Sent<OwnPan>) -> Result<Json<Value>, Failure> {
    Ok(Json(json!({ "id": keep_pan(&state, Some(id.into_inner()), own).await? })))
}
