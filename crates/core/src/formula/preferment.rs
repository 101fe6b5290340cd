//! A preferment with baker's yeast that stands among the lines of a recipe: poolish, biga, sponge.

use super::{Analysis, Formula, Line, Stage, dough_of};
use crate::{
    ferment::{Dough, YeastDose},
    formula::Styles,
    pantry::{Family, Pantry},
};

/// It as a dough of its own, and its part in the whole.
#[derive(Debug, Clone, PartialEq)]
pub struct Preferment {
    /// As the rise model takes it, its yeast as instant.
    pub dough: Dough,
    /// Instant yeast on its own flour, percent.
    pub yeast_pct: f64,
    /// Its flour of all flour, 0 to 1.
    pub flour_share: f64,
    /// Its weight of the dough's, 0 to 1.
    pub weight_share: f64,
}

impl Line {
    /// Whether it goes into a preferment with baker's yeast.
    #[must_use]
    pub fn is_early(&self) -> bool {
        self.stage == Stage::Preferment && !self.is_leaven()
    }
}

impl Analysis<'_> {
    /// The preferment of this recipe; none where no flour ferments ahead with baker's yeast.
    #[must_use]
    pub fn preferment(&self, pantry: &Pantry, styles: &Styles) -> Option<Preferment> {
        let lines: Vec<Line> = self.formula.lines.iter().filter(|l| l.is_early()).cloned().collect();
        let grams: f64 = lines.iter().map(|l| l.grams.likely).sum();
        let instant: f64 = lines
            .iter()
            .filter(|l| l.ingredient.family == Family::Yeast)
            .filter_map(|l| l.ingredient.yeast_kind().map(|kind| l.grams.likely * pantry.instant_equivalent(kind)))
            .sum();
        let alone = Formula { lines, ..Formula::default() };
        let own = alone.analyse(pantry, styles);
        let flour = own.flour_g.likely;
        if flour <= 0.0 || instant <= 0.0 || self.dough_g.likely <= 0.0 || flour >= self.flour_g.likely {
            return None;
        }
        let yeast_pct = 100.0 * instant / flour;
        let yeast = Some(YeastDose { kind: "instant".to_owned(), pct: yeast_pct, viable: 1.0 });
        Some(Preferment {
            dough: Dough { yeast, ..dough_of(&own, pantry, None) },
            yeast_pct,
            flour_share: flour / self.flour_g.likely,
            weight_share: grams / self.dough_g.likely,
        })
    }
}
