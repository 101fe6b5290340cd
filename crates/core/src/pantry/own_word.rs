//! A household's own word for an ingredient.

use serde::{Deserialize, Serialize};

use super::{Pantry, fold};
use crate::input::{Errors, InputErrors, Pointer};

/// A household's own word for an ingredient: `the Holm flour`.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct OwnWord {
    /// As it is written.
    pub word: String,
    /// Id of the ingredient it means.
    pub ingredient: String,
}

/// Longest word of a household's own, letters.
const LONGEST_WORD: usize = 60;

impl OwnWord {
    /// What it is found by: its words without case and accents.
    #[must_use]
    pub fn key(&self) -> String {
        fold(&self.word)
    }

    /// Checks the word and what it means.
    ///
    /// # Errors
    /// Each field that is wrong.
    pub fn check(&self, pantry: &Pantry) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        let letters = self.word.chars().count();
        if letters > LONGEST_WORD || !self.key().chars().any(char::is_alphabetic) {
            errors.add(root.at("word"), format!("A word of your own has letters, {LONGEST_WORD} at most."));
        }
        if super::words_of(&self.word).count() > 6 {
            errors.add(root.at("word"), "That is a sentence: give the name alone, six words at most.");
        }
        errors.keep(root.at("ingredient"), pantry.find(&self.ingredient).map(drop));
        errors.finish(())
    }
}
