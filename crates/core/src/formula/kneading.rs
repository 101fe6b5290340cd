//! How a bread is kneaded, where the recipe or the baker says so.

use serde::{Deserialize, Serialize};

use crate::{
    input::{Errors, Pointer},
    knead::{FOLDS, MINUTES, Method, REST_MIN, is_part_of_a_fold},
};

/// How it is kneaded, as it came.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs, reason = "names of the API")]
pub struct KneadingBody {
    pub method: String,
    /// Kneading proper.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<f64>,
    /// Flour and water rest before it is kneaded.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rest_min: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub folds: Option<f64>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub butter_late: Option<bool>,
}

/// How it is kneaded.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct KneadingTold {
    /// By hand, in a mixer, by folds.
    pub method: Method,
    /// Minutes of kneading proper; planned where none are told.
    pub minutes: Option<f64>,
    /// Minutes that flour and water rest before it is kneaded.
    pub rest_min: Option<f64>,
    /// Folds over the first rise.
    pub folds: Option<u32>,
    /// Whether the butter goes in once it stretches; else as its lines say.
    pub butter_late: Option<bool>,
}

impl KneadingBody {
    pub(super) fn check(&self, here: &Pointer, errors: &mut Errors) -> Option<KneadingTold> {
        let method = errors.keep(
            here.at("method"),
            Method::from_word(&self.method).ok_or_else(|| {
                let near = crate::did_you_mean(&self.method, Method::ALL.into_iter().map(Method::word));
                format!("“{}” is no way of kneading.{near}", self.method)
            }),
        );
        let told = [("minutes", self.minutes, MINUTES), ("rest_min", self.rest_min, REST_MIN), ("folds", self.folds, FOLDS)];
        for (name, value, (low, high, words)) in told {
            if let Some(value) = value {
                errors.range(here.at(name), value, low, high, words);
            }
        }
        if self.folds.is_some_and(is_part_of_a_fold) {
            errors.add(here.at("folds"), FOLDS.2);
        }
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a whole figure of 0 to 8")]
        let folds = self.folds.map(|n| n as u32);
        Some(KneadingTold { method: method?, minutes: self.minutes, rest_min: self.rest_min, folds, butter_late: self.butter_late })
    }
}

impl KneadingTold {
    /// As it is written.
    #[must_use]
    pub fn body(&self) -> KneadingBody {
        KneadingBody {
            method: self.method.word().to_owned(),
            minutes: self.minutes,
            rest_min: self.rest_min,
            folds: self.folds.map(f64::from),
            butter_late: self.butter_late,
        }
    }
}
