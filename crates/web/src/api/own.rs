//! The household's own ingredients, pans and words.

use actix_web::{
    HttpResponse,
    http::header,
    web::{Data, Json, Path},
};
use cerealis_core::pantry::{OwnIngredient, OwnPan, OwnWord};
use cerealis_store::shelf;
use serde_json::{Value, json};

use crate::{
    State,
    desk::own,
    edge::{Failure, Sent, on_disk},
};

/// The household's own things.
pub async fn list(state: Data<State>) -> Result<Json<Value>, Failure> {
    let all = on_disk(&state.db, shelf::get).await?;
    let ingredients: Vec<Value> = all.ingredients.iter().map(|(id, i)| json!({ "id": id, "ingredient": i })).collect();
    let pans: Vec<Value> = all.pans.iter().map(|(id, p)| json!({ "id": id, "pan": p })).collect();
    Ok(Json(json!({ "ingredients": ingredients, "pans": pans, "words": all.words })))
}

fn created(path: &str, id: &str) -> HttpResponse {
    HttpResponse::Created().insert_header((header::LOCATION, format!("{path}/{id}"))).json(json!({ "id": id }))
}

pub async fn add_ingredient(state: Data<State>, Sent(own): Sent<OwnIngredient>) -> Result<HttpResponse, Failure> {
    Ok(created("/api/v1/own/ingredients", &own::keep(&state, None, own).await?))
}

pub async fn put_ingredient(state: Data<State>, id: Path<String>, Sent(own): Sent<OwnIngredient>) -> Result<Json<Value>, Failure> {
    Ok(Json(json!({ "id": own::keep(&state, Some(id.into_inner()), own).await? })))
}

pub async fn add_pan(state: Data<State>, Sent(own): Sent<OwnPan>) -> Result<HttpResponse, Failure> {
    Ok(created("/api/v1/own/pans", &own::keep(&state, None, own).await?))
}

pub async fn put_pan(state: Data<State>, id: Path<String>, Sent(own): Sent<OwnPan>) -> Result<Json<Value>, Failure> {
    Ok(Json(json!({ "id": own::keep(&state, Some(id.into_inner()), own).await? })))
}

pub async fn add_word(state: Data<State>, Sent(own): Sent<OwnWord>) -> Result<HttpResponse, Failure> {
    Ok(HttpResponse::Created().json(own::keep_word(&state, own).await?))
}

pub async fn take_word_back(state: Data<State>, word: Path<String>) -> Result<HttpResponse, Failure> {
    own::drop_word(&state, word.into_inner()).await?;
    Ok(HttpResponse::NoContent().finish())
}
