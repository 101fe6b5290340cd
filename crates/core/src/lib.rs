//! Cerealis, the core: rules and computation for bread, without interface, clock or files.
//!
//! The order of the modules is the baker's: measure → pantry → formula → reader → water → rise →
//! oven → plan → bake. A module uses only those before it.

#[macro_use]
mod words;
#[macro_use]
mod data;

pub mod bake;
pub mod catalogue;
pub mod ferment;
pub mod findings;
pub mod formula;
pub mod input;
pub mod kitchen;
pub mod knead;
pub mod leaven;
pub mod measure;
pub mod oven;
pub mod pantry;
pub mod plan;
pub mod reader;
pub mod safety;
pub mod swap;
pub mod water;

/// The tables the core works with, read once at start and passed by reference.
#[derive(Debug, Clone)]
pub struct Tables {
    /// Ingredients, flours, measures.
    pub pantry: pantry::Pantry,
    /// Styles of dough.
    pub styles: formula::Styles,
    /// Constants of the rise.
    pub ferment: ferment::Constants,
    /// Constants of kneading.
    pub knead: knead::Constants,
    /// Constants of the oven.
    pub oven: oven::Constants,
    /// One ingredient for another.
    pub swaps: swap::Swaps,
    /// The sign beside each step.
    pub signs: plan::Signs,
    /// The words recipes are written in.
    pub words: std::sync::Arc<reader::Lexicon>,
}

impl Tables {
    /// Reads the built-in tables.
    ///
    /// # Errors
    /// The first table that does not hold together: file, row, field.
    pub fn built_in() -> Result<Self, pantry::TableError> {
        let pantry = pantry::Pantry::built_in()?;
        Ok(Self {
            swaps: swap::Swaps::built_in(&pantry)?,
            words: std::sync::Arc::new(reader::Lexicon::built_in(&pantry.measures)?),
            pantry,
            styles: formula::Styles::built_in()?,
            ferment: ferment::Constants::built_in()?,
            knead: knead::Constants::built_in()?,
            oven: oven::Constants::built_in()?,
            signs: plan::Signs::built_in()?,
        })
    }
}

impl Tables {
    /// These tables with a household's own things in the pantry, and those that no longer can be, with the reason.
    #[must_use]
    pub fn with(&self, shelf: &pantry::Shelf) -> (Self, Vec<(String, input::InputErrors)>) {
        let (pantry, refused) = self.pantry.with(shelf);
        (Self { pantry, ..self.clone() }, refused)
    }
}

/// The question which of some words was meant, to stand behind a sentence; nothing where there are none, or what was typed is
/// longer than any word.
#[must_use]
pub fn did_you_mean<'a>(typed: &str, words: impl Iterator<Item = &'a str>) -> String {
    const LONGEST: usize = 100;
    let near =
        words.filter(|_| typed.len() <= LONGEST).max_by(|a, b| strsim::jaro_winkler(typed, a).total_cmp(&strsim::jaro_winkler(typed, b)));
    near.map_or_else(String::new, |word| format!(" Did you mean “{word}”?"))
}
