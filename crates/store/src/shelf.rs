//! What a household adds to the pantry: its own ingredients and pans.

use cerealis_core::pantry::{OwnIngredient, OwnPan, Shelf};
use diesel::prelude::*;

use crate::{
    StoreError, kitchen,
    schema::{household_ingredients, household_pans},
};

/// Everything of the household's own, in the order of their ids.
///
/// # Errors
/// If a row cannot be read.
pub fn get(db: &mut SqliteConnection) -> Result<Shelf, StoreError> {
    use household_ingredients as i;
    use household_pans as p;
    let ingredients: Vec<(String, String)> = i::table.order(i::id).select((i::id, i::body)).load(db)?;
    let pans: Vec<(String, String)> = p::table.order(p::id).select((p::id, p::body)).load(db)?;
    Ok(Shelf {
        ingredients: ingredients.into_iter().map(|(id, b)| Ok((id, serde_json::from_str(&b)?))).collect::<Result<_, StoreError>>()?,
        pans: pans.into_iter().map(|(id, b)| Ok((id, serde_json::from_str(&b)?))).collect::<Result<_, StoreError>>()?,
        cup_ml: kitchen::get(db)?.cup_ml,
    })
}

/// Keeps an ingredient under an id.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put_ingredient(db: &mut SqliteConnection, id: &str, own: &OwnIngredient) -> Result<(), StoreError> {
    use household_ingredients as t;
    let body = serde_json::to_string(own)?;
    db.immediate_transaction(|db| {
        let row = (t::id.eq(id), t::body.eq(&body));
        diesel::insert_into(t::table).values(row).on_conflict(t::id).do_update().set(t::body.eq(&body)).execute(db)
    })?;
    Ok(())
}

/// Keeps a pan under an id.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put_pan(db: &mut SqliteConnection, id: &str, own: &OwnPan) -> Result<(), StoreError> {
    use household_pans as t;
    let body = serde_json::to_string(own)?;
    db.immediate_transaction(|db| {
        let row = (t::id.eq(id), t::body.eq(&body));
        diesel::insert_into(t::table).values(row).on_conflict(t::id).do_update().set(t::body.eq(&body)).execute(db)
    })?;
    Ok(())
}
