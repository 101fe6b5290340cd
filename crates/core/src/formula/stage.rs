use serde::{Deserialize, Serialize};

use crate::pantry::{Added, Ingredient};

/// Where in the making a line goes in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum Stage {
    Leaven,
    Preferment,
    Soaker,
    Scald,
    Dough,
    Late,
    Inclusion,
    Finish,
}

impl Stage {
    /// All of them, in the order of the work.
    pub const ALL: [Self; 8] =
        [Self::Leaven, Self::Preferment, Self::Soaker, Self::Scald, Self::Dough, Self::Late, Self::Inclusion, Self::Finish];
    /// As the API writes it.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Leaven => "leaven",
            Self::Preferment => "preferment",
            Self::Soaker => "soaker",
            Self::Scald => "scald",
            Self::Dough => "dough",
            Self::Late => "late",
            Self::Inclusion => "inclusion",
            Self::Finish => "finish",
        }
    }
    /// From that word.
    #[must_use]
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|s| s.word() == word)
    }
    /// Where an ingredient goes in when nothing else is said.
    #[must_use]
    pub const fn usual(ingredient: &Ingredient) -> Self {
        match ingredient.added {
            Added::WithFlour | Added::InLiquid => Self::Dough,
            Added::AfterGluten => Self::Late,
            Added::LastMinute => Self::Inclusion,
            Added::Soaker => Self::Soaker,
            Added::OnTop | Added::Filling | Added::Dip => Self::Finish,
        }
    }
}
