//! Keeping jars and what happens to them.

use cerealis_core::leaven::{JarBody, JarEventBody};
use cerealis_store::leavens;
use uuid::Uuid;

use crate::{
    State,
    edge::{Failure, on_disk},
};

/// Keeps a new jar and gives its id.
///
/// # Errors
/// What is wrong with it; what the store says.
pub async fn add(state: &State, body: JarBody) -> Result<String, Failure> {
    body.check(&state.tables().ferment)?;
    let (id, now) = (Uuid::now_v7().to_string(), state.clock.now());
    let kept = id.clone();
    on_disk(&state.db, move |db| leavens::add(db, &kept, &body, now)).await?;
    Ok(id)
}

/// Appends an event to a jar's log; on `Ok` it is on disk.
///
/// # Errors
/// What is wrong with it; what the store says.
pub async fn append(state: &State, id: &str, body: JarEventBody, key: Option<String>) -> Result<i32, Failure> {
    let event = body.check(state.clock.now())?;
    let id = id.to_owned();
    on_disk(&state.db, move |db| leavens::append(db, &id, &event, key.as_deref())).await
}
