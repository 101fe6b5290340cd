//! Keeping the household's own ingredients, pans and words.

use cerealis_core::{
    input::{InputErrors, Pointer},
    pantry::{OwnIngredient, OwnPan, OwnWord, Pantry, Shelf},
};
use cerealis_store::{SqliteConnection, StoreError, shelf};

use crate::{
    State,
    edge::{Failure, on_disk},
};

fn name_taken() -> InputErrors {
    InputErrors::one(Pointer::root().at("name"), "There is one of that name already.")
}

/// Something of the household's own: an ingredient, a pan.
pub trait Own: Send + Sized + 'static {
    /// The id of its name.
    fn id(&self) -> String;
    /// Checks it beside the built-in ones.
    ///
    /// # Errors
    /// Every field that is wrong.
    fn check(&self, built_in: &Pantry) -> Result<(), InputErrors>;
    /// Ids of those that are kept.
    fn kept(shelf: &Shelf) -> Vec<&str>;
    /// Writes it down.
    ///
    /// # Errors
    /// If it could not be written.
    fn put(&self, db: &mut SqliteConnection, id: &str) -> Result<(), StoreError>;
}

impl Own for OwnIngredient {
    fn id(&self) -> String {
        self.id()
    }
    fn check(&self, built_in: &Pantry) -> Result<(), InputErrors> {
        self.check_allergens()?;
        self.check(built_in).map(drop)
    }
    fn kept(shelf: &Shelf) -> Vec<&str> {
        shelf.ingredients.iter().map(|(id, _)| id.as_str()).collect()
    }
    fn put(&self, db: &mut SqliteConnection, id: &str) -> Result<(), StoreError> {
        shelf::put_ingredient(db, id, self)
    }
}

impl Own for OwnPan {
    fn id(&self) -> String {
        self.id()
    }
    fn check(&self, built_in: &Pantry) -> Result<(), InputErrors> {
        self.check(built_in).map(drop)
    }
    fn kept(shelf: &Shelf) -> Vec<&str> {
        shelf.pans.iter().map(|(id, _)| id.as_str()).collect()
    }
    fn put(&self, db: &mut SqliteConnection, id: &str) -> Result<(), StoreError> {
        shelf::put_pan(db, id, self)
    }
}

/// Checks an own thing and keeps it: under `id`, or as a new one under the id of its name.
///
/// # Errors
/// What its check says; a name that is taken; an id that is not there.
pub async fn keep<T: Own>(state: &State, id: Option<String>, own: T) -> Result<String, Failure> {
    own.check(&state.household.built_in().pantry)?;
    let household = state.household.clone();
    let kept = on_disk(&state.db, move |db| {
        let all = shelf::get(db)?;
        let there = |id: &str| T::kept(&all).contains(&id);
        let id = match id {
            Some(id) if there(&id) => id,
            Some(_) => return Err(StoreError::NotFound),
            None if there(&own.id()) => return Ok(Err(name_taken())),
            None => own.id(),
        };
        own.put(db, &id)?;
        household.renew(db)?;
        Ok(Ok(id))
    });
    kept.await?.map_err(Failure::Input)
}

/// Checks a word and keeps it for its ingredient, which it then finds in every recipe.
///
/// # Errors
/// What its check says.
pub async fn keep_word(state: &State, own: OwnWord) -> Result<OwnWord, Failure> {
    let pantry = &state.tables().pantry;
    own.check(pantry)?;
    let ingredient = pantry.find(&own.ingredient).map_or_else(|_| own.ingredient.clone(), |i| i.id.clone());
    let own = OwnWord { word: own.word.trim().to_owned(), ingredient };
    let (household, kept) = (state.household.clone(), own.clone());
    on_disk(&state.db, move |db| {
        shelf::put_word(db, &kept)?;
        household.renew(db)
    })
    .await?;
    Ok(own)
}

/// Takes a word back: from now on it means what the tables say.
///
/// # Errors
/// If it was not kept.
pub async fn drop_word(state: &State, word: String) -> Result<(), Failure> {
    let household = state.household.clone();
    on_disk(&state.db, move |db| {
        shelf::drop_word(db, &word)?;
        household.renew(db)
    })
    .await
}
