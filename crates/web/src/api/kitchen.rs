use actix_web::web::{Data, Json};
use cerealis_core::kitchen::KitchenBody;

use crate::{
    State, desk,
    edge::{Failure, Sent, on_disk},
};

pub async fn get(state: Data<State>) -> Result<Json<KitchenBody>, Failure> {
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    Ok(Json(KitchenBody::from(&kitchen)))
}

pub async fn put(state: Data<State>, Sent(body): Sent<KitchenBody>) -> Result<Json<KitchenBody>, Failure> {
    Ok(Json(KitchenBody::from(&desk::kitchen::keep(&state, body).await?)))
}
