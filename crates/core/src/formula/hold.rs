//! Some of the water or flour held back, to be added by the feel of the dough; and what then went in.

use serde::{Deserialize, Serialize};

use super::{Formula, Line};
use crate::{
    input::{Errors, Pointer},
    measure::Band,
    pantry::{Fact, Family, Pantry},
};

/// What is held back, as it came.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct HoldBody {
    /// Of what: an ingredient of the dough.
    pub ingredient: String,
    /// How much of it, grams.
    pub grams: f64,
}

/// What is held back. The percentages count it: they are those of the recipe as written.
#[derive(Debug, Clone, PartialEq)]
pub struct Hold {
    /// Id of the ingredient.
    pub ingredient: String,
    /// Grams.
    pub grams: f64,
}

/// The line that weighs most.
fn heaviest<'a>(lines: impl Iterator<Item = (usize, &'a Line)>) -> Option<(usize, &'a Line)> {
    lines.max_by(|a, b| a.1.grams.likely.total_cmp(&b.1.grams.likely))
}

/// The dough line of an ingredient that weighs most.
fn main_of<'a>(lines: &'a [Line], id: &str) -> Option<(usize, &'a Line)> {
    heaviest(lines.iter().enumerate().filter(|(_, l)| l.in_dough() && l.ingredient.id == id))
}

impl HoldBody {
    pub(super) fn check(&self, lines: &[Line], here: &Pointer, pantry: &Pantry, errors: &mut Errors) -> Option<Hold> {
        let id = errors.keep(here.at("ingredient"), pantry.find(&self.ingredient))?.id.clone();
        let Some((_, line)) = main_of(lines, &id) else {
            errors.add(here.at("ingredient"), format!("There is no {} in this dough to hold back.", self.ingredient));
            return None;
        };
        if !(self.grams > 0.0 && self.grams < line.grams.likely) {
            errors.add(
                here.at("grams"),
                format!("Hold back something, and less than the {} there are.", crate::measure::weight(line.grams.likely)),
            );
        }
        Some(Hold { ingredient: id, grams: self.grams })
    }
}

impl Formula {
    /// The line of which some is held back, and how much.
    #[must_use]
    pub fn held(&self) -> Option<(usize, f64)> {
        let hold = self.hold.as_ref()?;
        main_of(&self.lines, &hold.ingredient).map(|(at, _)| (at, hold.grams))
    }

    /// The dough as it became when so many of the grams held back went in.
    #[must_use]
    pub fn went_in(&self, grams: f64) -> Self {
        let mut became = self.clone();
        if let Some((at, held)) = self.held()
            && let Some(line) = became.lines.get_mut(at)
        {
            line.grams = Band::exact(line.grams.likely - held + grams);
        }
        became.hold = None;
        became
    }

    /// The lines of its liquid with their places: water outside leaven and preferment; of a dough mixed with milk alone, the milk.
    #[must_use]
    pub fn liquids(&self) -> Vec<(usize, &Line)> {
        let plain = || self.lines.iter().enumerate().filter(|(_, l)| l.in_dough() && !l.is_prefermented());
        let water: Vec<_> = plain().filter(|(_, l)| l.ingredient.is(Fact::Water)).collect();
        if water.is_empty() { plain().filter(|(_, l)| l.ingredient.family == Family::Liquid).collect() } else { water }
    }

    /// Its main liquid.
    #[must_use]
    pub fn main_liquid(&self) -> Option<(usize, &Line)> {
        heaviest(self.liquids().into_iter())
    }

    /// The dough as it became with so much flour and water more, grams: they go to its main flour and its main liquid.
    #[must_use]
    pub fn by_feel(&self, flour_g: f64, water_g: f64) -> Self {
        let flours = self.lines.iter().enumerate().filter(|(_, l)| l.in_dough() && !l.is_prefermented());
        let flour = heaviest(flours.filter(|(_, l)| l.ingredient.family == Family::Flour));
        let mut became = self.clone();
        for (main, more) in [(flour, flour_g), (self.main_liquid(), water_g)] {
            if let Some(line) = main.and_then(|(at, _)| became.lines.get_mut(at)) {
                line.grams = line.grams.plus(Band::exact(more));
            }
        }
        became
    }
}
