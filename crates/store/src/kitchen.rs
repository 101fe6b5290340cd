//! The kitchen's figures: one row.

use cerealis_core::kitchen::Kitchen;
use diesel::prelude::*;

use crate::{StoreError, bodies, schema::kitchen};

/// The kitchen, or the usual one where nothing was kept.
///
/// # Errors
/// If the row cannot be read.
pub fn get(db: &mut SqliteConnection) -> Result<Kitchen, StoreError> {
    let body: Option<String> = kitchen::table.find(1).select(kitchen::body).first(db).optional()?;
    body.map_or_else(|| Ok(Kitchen::default()), |b| bodies::read(&b))
}

/// Changes the kitchen in one transaction: what another hand writes meanwhile is not lost.
///
/// # Errors
/// If it cannot be read or written; what `change` refuses is the inner error, and nothing is written.
pub fn update<E>(db: &mut SqliteConnection, change: impl FnOnce(Kitchen) -> Result<Kitchen, E>) -> Result<Result<Kitchen, E>, StoreError> {
    db.immediate_transaction(|db| {
        let changed = change(get(db)?);
        if let Ok(kitchen) = &changed {
            put(db, kitchen)?;
        }
        Ok(changed)
    })
}

/// Keeps the kitchen.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put(db: &mut SqliteConnection, k: &Kitchen) -> Result<(), StoreError> {
    let body = bodies::write(k)?;
    diesel::insert_into(kitchen::table)
        .values((kitchen::id.eq(1), kitchen::body.eq(&body)))
        .on_conflict(kitchen::id)
        .do_update()
        .set(kitchen::body.eq(&body))
        .execute(db)?;
    Ok(())
}
