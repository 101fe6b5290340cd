//! A word, a number or a mark of the text, with its place in it.

use std::borrow::Cow;

/// What a token is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum Kind {
    /// A number.
    Number {
        /// Its value.
        value: f64,
        /// Whether `1.000` was read as a thousand.
        doubtful: bool,
        /// Whether it is one sign, as ½ is.
        vulgar: bool,
    },
    /// Digits that are no number: `1.5.2`, `1e9`, too long.
    Broken,
    /// Letters.
    Word,
    /// Anything else that parts or joins.
    Mark(char),
}

/// A token with where it stands.
#[derive(Debug, Clone)]
pub(super) struct Token<'t> {
    /// What it is.
    pub kind: Kind,
    /// As it is written.
    pub text: &'t str,
    /// Lower case, without accents.
    pub folded: Cow<'t, str>,
    /// First byte in the text.
    pub start: usize,
    /// Byte after the last.
    pub end: usize,
    /// Whether a space or the line's beginning stands before it.
    pub spaced: bool,
    /// The word in the table of phrases; 0: in none.
    pub word: u32,
    /// Its stem in the pantry's names; 0: in none.
    pub stem: u32,
}

impl Token<'_> {
    /// Whether it is this mark.
    pub fn is(&self, mark: char) -> bool {
        self.kind == Kind::Mark(mark)
    }
    /// Whether it is a word.
    pub fn is_word(&self) -> bool {
        self.kind == Kind::Word
    }
    /// Its value, if it is a number.
    pub const fn value(&self) -> Option<f64> {
        match self.kind {
            Kind::Number { value, .. } => Some(value),
            Kind::Broken | Kind::Word | Kind::Mark(_) => None,
        }
    }
}
