//! How a dough rises, where the recipe or the baker says so: one rise only, or a first rise that is knocked back.

use serde::{Deserialize, Serialize};

use super::{Analysis, StyleId};
use crate::{
    ferment,
    input::{Errors, Pointer},
};

/// Said of another number of first rises.
const BULKS: &str = "A dough is shaped at once (0), after one first rise (1), or knocked back and left to rise again (2).";

/// How it rises, as it came.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct RisesBody {
    /// Rises before it is shaped.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bulks: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub knock_back: Option<bool>,
}

words! {
    /// What becomes of the dough before it is shaped. Bakers differ: folding keeps the gas and opens the crumb, knocking back
    /// evens it. Common practice, no source.
    FirstRise {
        None "none" "none: shaped at once",
        Left "left" "one, folded where the dough wants it",
        KnockedBack "knocked-back" "one, knocked back half way",
    }
}

impl FirstRise {
    /// Its wire form.
    #[must_use]
    pub fn body(self) -> RisesBody {
        match self {
            Self::None => RisesBody { bulks: Some(0.0), knock_back: None },
            Self::Left => RisesBody { bulks: Some(1.0), knock_back: None },
            Self::KnockedBack => RisesBody { bulks: None, knock_back: Some(true) },
        }
    }
}

impl RisesBody {
    pub(super) fn check(&self, here: &Pointer, errors: &mut Errors) -> Option<FirstRise> {
        match (self.bulks, self.knock_back) {
            (Some(n), Some(true)) if n.abs() < 1e-9 => {
                errors.add(here.at("knock_back"), "Without a first rise there is nothing to knock back.");
                None
            }
            (Some(n), _) if ![0.0, 1.0, 2.0].iter().any(|known| (n - known).abs() < 1e-9) => {
                errors.add(here.at("bulks"), BULKS);
                None
            }
            (_, Some(true)) => Some(FirstRise::KnockedBack),
            (Some(n), _) if n > 1.5 => Some(FirstRise::KnockedBack),
            (Some(n), _) if n < 0.5 => Some(FirstRise::None),
            (Some(_), _) => Some(FirstRise::Left),
            (None, _) => None,
        }
    }
}

/// Left so long, minutes, with so little instant yeast, percent, a lean dough is one for the night whatever its flour: ripe early,
/// good for hours after. Common practice, no source.
const NIGHT_MIN: f64 = 480.0;
const LITTLE_YEAST_PCT: f64 = 0.55;

impl Analysis<'_> {
    /// Whether it may stand for so many minutes far past ripe, as a dough that is never kneaded does.
    #[must_use]
    pub fn stands_a_night(&self, minutes: f64) -> bool {
        let (yeast, leaven) = (self.yeast_instant_pct.likely, self.leaven_flour_pct.likely);
        let lean = matches!(self.style.id, StyleId::Lean | StyleId::Wholegrain | StyleId::LongNoKnead);
        lean && minutes >= NIGHT_MIN && yeast > 0.0 && yeast <= LITTLE_YEAST_PCT && leaven <= 0.0
    }

    /// Whether it rises before it is shaped: as its style does, unless it is told to be shaped at once.
    #[must_use]
    pub fn has_first_rise(&self, k: &ferment::Constants) -> bool {
        self.formula.rises != Some(FirstRise::None) && k.styles.get(self.style.id.word()).is_some_and(|s| s.bulk_ratio.is_some())
    }

    /// Whether it is shaped as soon as it is kneaded; a batter is never shaped.
    #[must_use]
    pub fn is_shaped_at_once(&self) -> bool {
        self.formula.rises == Some(FirstRise::None) && self.style.id != StyleId::GlutenFree
    }

    /// Whether it is knocked back half way through its first rise.
    #[must_use]
    pub fn is_knocked_back(&self, k: &ferment::Constants) -> bool {
        self.formula.rises == Some(FirstRise::KnockedBack) && self.has_first_rise(k)
    }
}
