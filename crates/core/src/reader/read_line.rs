//! A line of a recipe as it was read.

use std::sync::Arc;

use super::{clue::Clues, questions::Question};
use crate::{
    formula::{LineDraft, Stage, Typed, Used},
    measure::Band,
    pantry::Ingredient,
};

/// A line as it was read.
#[derive(Debug, Clone)]
pub struct ReadLine {
    /// As written.
    pub source: String,
    /// Line of the text, from 0.
    pub source_line: usize,
    /// First byte in the text, and the one behind the last.
    pub span: (usize, usize),
    /// What it is.
    pub ingredient: Arc<Ingredient>,
    /// How much; `None` for "to taste" and the like.
    pub grams: Option<Band>,
    /// When it goes in.
    pub stage: Stage,
    /// Temperature told for it, °C.
    pub temp_c: Option<f64>,
    /// Whether it may be left out.
    pub optional: bool,
    /// Whether it was measured by volume.
    pub by_volume: bool,
    /// What is asked.
    pub questions: Vec<Question>,
    /// The other ingredient of "A or B", and how much of it where that is told.
    pub alternative: Option<(Arc<Ingredient>, Option<f64>)>,
    /// Percent of flour, for a line in baker's percent.
    pub percent: Option<f64>,
    /// Of a leaven: its water on its flour as told, percent.
    pub hydration_pct: Option<f64>,
    /// Told while something is done, not in a list.
    pub in_step: bool,
    /// Which list of the recipe it stands in, from 0.
    pub list: usize,
    /// Of the finish: filling or icing, where its list says so.
    pub used: Option<Used>,
    /// Its words say what it is for.
    pub purposed: bool,
    /// What its words settle.
    pub(super) clues: Clues,
    /// Of eggs: a size is told, small or large.
    pub sized: bool,
}

impl From<&ReadLine> for LineDraft {
    fn from(l: &ReadLine) -> Self {
        let grams = l.grams.unwrap_or(Band::exact(0.0));
        Self {
            ingredient: l.ingredient.id.clone(),
            grams: Typed::Number(grams.likely),
            grams_low: Some(grams.low).filter(|_| !grams.is_exact()),
            grams_high: Some(grams.high).filter(|_| !grams.is_exact()),
            stage: Some(l.stage.word().to_owned()),
            source: Some(l.source.clone()),
            hydration_pct: l.hydration_pct,
            used: l.used.map(|u| u.word().to_owned()),
        }
    }
}
