use actix_web::web;
use cerealis_store::{Database, SqliteConnection, StoreError};

use super::Failure;

/// Runs a long reckoning off the event loop.
///
/// # Errors
/// If it could not be run to its end.
pub async fn off_loop<T: Send + 'static>(task: impl FnOnce() -> T + Send + 'static) -> Result<T, Failure> {
    web::block(task).await.map_err(|e| Failure::Store(StoreError::Failed(e.to_string())))
}

/// Runs a task of the store off the event loop, on a connection of the pool.
///
/// # Errors
/// What the store says.
pub async fn on_disk<T, F>(db: &Database, task: F) -> Result<T, Failure>
where
    T: Send + 'static,
    F: FnOnce(&mut SqliteConnection) -> Result<T, StoreError> + Send + 'static,
{
    let db = db.clone();
    let done = web::block(move || task(&mut *db.connection()?).map_err(|e| e.at(db.path()))).await;
    done.map_err(|e| Failure::Store(StoreError::Failed(e.to_string())))?.map_err(Failure::Store)
}
