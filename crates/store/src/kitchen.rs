//! The kitchen's figures: one row.

use cerealis_core::kitchen::Kitchen;
use diesel::prelude::*;

use crate::{StoreError, bodies, schema::kitchen};

/// What a kitchen is called whose figures cannot be read: every page says so.
const UNREADABLE: &str = "Kitchen whose figures cannot be read";

/// The kitchen, or the usual one where nothing was kept. Where its figures cannot be read it has the usual ones, and a name that
/// says so: the bakes and formulas are still there, and it can be told anew.
///
/// # Errors
/// If the database does not answer; [`StoreError::Newer`] if a newer program wrote it.
pub fn get(db: &mut SqliteConnection) -> Result<Kitchen, StoreError> {
    let body: Option<String> = kitchen::table.find(1).select(kitchen::body).first(db).optional()?;
    match body.map(|b| bodies::read(&b)) {
        None => Ok(Kitchen::default()),
        Some(Err(StoreError::Unreadable(_))) => Ok(Kitchen { name: UNREADABLE.to_owned(), ..Kitchen::default() }),
        Some(read) => read,
    }
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
