//! The kitchen's figures: one row.

use cerealis_core::kitchen::Kitchen;
use diesel::prelude::*;

use crate::{StoreError, schema::kitchen};

/// The kitchen, or the usual one where nothing was kept.
///
/// # Errors
/// If the row cannot be read.
pub fn get(db: &mut SqliteConnection) -> Result<Kitchen, StoreError> {
    let body: Option<String> = kitchen::table.find(1).select(kitchen::body).first(db).optional()?;
    body.map_or_else(|| Ok(Kitchen::default()), |b| Ok(serde_json::from_str(&b)?))
}

/// Keeps the kitchen.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put(db: &mut SqliteConnection, k: &Kitchen) -> Result<(), StoreError> {
    let body = serde_json::to_string(k)?;
    db.immediate_transaction(|db| {
        diesel::insert_into(kitchen::table)
            .values((kitchen::id.eq(1), kitchen::body.eq(&body)))
            .on_conflict(kitchen::id)
            .do_update()
            .set(kitchen::body.eq(&body))
            .execute(db)
    })?;
    Ok(())
}
