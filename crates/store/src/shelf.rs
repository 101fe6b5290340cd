//! What a household adds to the pantry: its own ingredients and pans, and its own words for things.

use cerealis_core::pantry::{OwnIngredient, OwnPan, OwnWord, Shelf};
use diesel::prelude::*;

use crate::{
    Listed, StoreError, Unreadable, bodies, kitchen,
    schema::{household_ingredients, household_pans, household_words},
};

/// What of the household's own cannot be read.
///
/// # Errors
/// If the database does not answer.
pub fn unreadable(db: &mut SqliteConnection) -> Result<Vec<Unreadable>, StoreError> {
    let (ingredients, pans) = own(db)?;
    Ok(ingredients.unreadable.into_iter().chain(pans.unreadable).collect())
}

type Own<T> = Listed<(String, T)>;

fn own(db: &mut SqliteConnection) -> Result<(Own<OwnIngredient>, Own<OwnPan>), StoreError> {
    use household_ingredients as i;
    use household_pans as p;
    let ingredients: Vec<(String, String)> = i::table.order(i::id).select((i::id, i::body)).load(db)?;
    let pans: Vec<(String, String)> = p::table.order(p::id).select((p::id, p::body)).load(db)?;
    Ok((read(ingredients), read(pans)))
}

fn read<T: bodies::Kept>(rows: Vec<(String, String)>) -> Own<T> {
    Listed::of(rows, |(id, _)| id.clone(), |(id, body)| Ok((id, bodies::read(&body)?)))
}

/// Everything of the household's own that can be read, in the order of their ids.
///
/// # Errors
/// If the database does not answer.
pub fn get(db: &mut SqliteConnection) -> Result<Shelf, StoreError> {
    use household_words as w;
    let (ingredients, pans) = own(db)?;
    let words: Vec<(String, String)> = w::table.order(w::word).select((w::said, w::ingredient)).load(db)?;
    Ok(Shelf {
        words: words.into_iter().map(|(word, ingredient)| OwnWord { word, ingredient }).collect(),
        ingredients: ingredients.rows,
        pans: pans.rows,
        cup_ml: kitchen::get(db)?.cup_ml,
    })
}

/// Keeps an ingredient under an id.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put_ingredient(db: &mut SqliteConnection, id: &str, own: &OwnIngredient) -> Result<(), StoreError> {
    db.immediate_transaction(|db| put_ingredient_row(db, id, own))
}

pub(crate) fn put_ingredient_row(db: &mut SqliteConnection, id: &str, own: &OwnIngredient) -> Result<(), StoreError> {
    use household_ingredients as t;
    let body = bodies::write(own)?;
    let row = (t::id.eq(id), t::body.eq(&body));
    diesel::insert_into(t::table).values(row).on_conflict(t::id).do_update().set(t::body.eq(&body)).execute(db)?;
    Ok(())
}

/// Keeps a pan under an id.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put_pan(db: &mut SqliteConnection, id: &str, own: &OwnPan) -> Result<(), StoreError> {
    db.immediate_transaction(|db| put_pan_row(db, id, own))
}

pub(crate) fn put_pan_row(db: &mut SqliteConnection, id: &str, own: &OwnPan) -> Result<(), StoreError> {
    use household_pans as t;
    let body = bodies::write(own)?;
    let row = (t::id.eq(id), t::body.eq(&body));
    diesel::insert_into(t::table).values(row).on_conflict(t::id).do_update().set(t::body.eq(&body)).execute(db)?;
    Ok(())
}

/// Keeps a word for an ingredient; said again it means the new one.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn put_word(db: &mut SqliteConnection, own: &OwnWord) -> Result<(), StoreError> {
    db.immediate_transaction(|db| put_word_row(db, own))
}

pub(crate) fn put_word_row(db: &mut SqliteConnection, own: &OwnWord) -> Result<(), StoreError> {
    use household_words as t;
    let row = (t::word.eq(own.key()), t::said.eq(&own.word), t::ingredient.eq(&own.ingredient));
    let again = (t::said.eq(&own.word), t::ingredient.eq(&own.ingredient));
    diesel::insert_into(t::table).values(row).on_conflict(t::word).do_update().set(again).execute(db)?;
    Ok(())
}

/// Takes a word back.
///
/// # Errors
/// [`StoreError::NotFound`] if it was not kept.
pub fn drop_word(db: &mut SqliteConnection, word: &str) -> Result<(), StoreError> {
    use household_words as t;
    let key = OwnWord { word: word.to_owned(), ingredient: String::new() }.key();
    let gone = db.immediate_transaction(|db| diesel::delete(t::table.filter(t::word.eq(key))).execute(db))?;
    if gone == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}
