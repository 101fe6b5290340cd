//! The dose of a plan: the usual one of a recipe, what a way weighs instead, and the formula that holds it.

use super::{
    judge::on_scale,
    way::{Feed, Way},
};
use crate::{
    Tables,
    formula::{Analysis, Formula, Line, Raising, Stage, dilution},
    measure::{Band, show_grams, weighable},
    pantry::Family,
};

/// Share of the flour in a preferment that is added to a recipe.
pub const SPONGE_SHARE: f64 = 0.30;
/// Leaven kept back for the next bread, g.
const KEPT_G: f64 = 20.0;

/// The dose of a plan: what is weighed instead of the recipe's.
#[derive(Debug, Clone, PartialEq)]
pub struct Dose {
    /// Pantry id.
    pub ingredient: String,
    /// Its name.
    pub name: String,
    /// Grams to weigh.
    pub grams: f64,
    /// Percent instant on flour, or flour in leaven.
    pub pct: f64,
    /// Grams in the recipe.
    pub was_grams: f64,
    /// How to weigh what the scale cannot.
    pub dissolve: Option<String>,
}

/// The usual dose of a recipe: its own, within what its style takes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct UsualDose {
    /// Of what; none where nothing raises it.
    pub by: Option<Raising>,
    /// Percent instant on flour, or flour in leaven.
    pub pct: f64,
    /// The same as a share of what stands in the recipe.
    pub share: f64,
    /// Grams of it.
    pub grams: f64,
    step_g: f64,
}

impl UsualDose {
    /// Of a recipe, on a scale that shows steps of `step_g`.
    #[must_use]
    pub fn of(a: &Analysis<'_>, step_g: f64) -> Self {
        let by = a.raising();
        let own = a.dose_pct();
        let ((low, high), (least, most)) = match by {
            Some(Raising::Leaven) => (a.style.leaven_flour, (0.6, 1.2)),
            _ => (a.style.yeast_instant, (0.5, 1.3)),
        };
        let pct = if high > 0.0 && by.is_some() { own.clamp(least * low, most * high) } else { own };
        let share = if own > 0.0 { pct / own } else { 1.0 };
        Self { by, pct, share, grams: share * a.dose_g(), step_g }
    }

    /// Whether the recipe's own dose lies outside what its style takes.
    #[must_use]
    pub fn is_cut(&self) -> bool {
        (self.share - 1.0).abs() > 1e-9
    }

    /// A share of it, brought to what the scale shows.
    #[must_use]
    pub fn on_scale(&self, share: f64) -> f64 {
        if self.grams > 0.0 { on_scale(share * self.grams, self.step_g) / self.grams } else { share }
    }

    /// The recipe with a way's dose, its preferment taken out of the dough.
    ///
    /// # Errors
    /// A sentence, where flour or water of the dough does not suffice.
    pub fn weigh(&self, a: &Analysis<'_>, way: &Way, tables: &Tables) -> Result<Formula, String> {
        let factor = way.dose * self.share;
        let same = (factor - 1.0).abs() < 1e-6;
        let mut dosed = if same { a.formula.clone() } else { a.dosed(factor)? };
        if self.by == Some(Raising::Yeast) && !same {
            for (line, before) in dosed.lines.iter_mut().zip(&a.formula.lines).filter(|(l, _)| l.raises(Raising::Yeast)) {
                line.grams = Band::exact(on_scale(before.grams.likely * factor, self.step_g));
            }
        }
        if let Some(sponge) = way.sponge {
            self.take_out(&mut dosed, SPONGE_SHARE * a.flour_g.likely, sponge.pct, tables);
        }
        // So little yeast may look like another style; the rises were planned as those of this one.
        if dosed.analyse(&tables.pantry, &tables.styles).style.id != a.style.id {
            dosed.style = Some(a.style.id);
        }
        Ok(dosed)
    }

    /// Takes so much flour and as much water out as a preferment with its own yeast.
    fn take_out(&self, formula: &mut Formula, flour_g: f64, pct: f64, tables: &Tables) {
        for family in [Family::Flour, Family::Liquid] {
            let main = formula.largest(|l| l.stage == Stage::Dough && l.ingredient.family == family);
            let Some(i) = main else { continue };
            let Some(line) = formula.lines.get_mut(i) else { continue };
            let moved = weighable(flour_g.min(line.grams.likely));
            let early = Line { grams: Band::exact(moved), stage: Stage::Preferment, ..line.clone() };
            line.grams = Band::exact(weighable(line.grams.likely - moved));
            formula.lines.push(early);
        }
        let yeast = formula.lines.iter().find(|l| l.in_dough() && l.ingredient.family == Family::Yeast).cloned();
        if let Some(yeast) = yeast {
            let instant = yeast.ingredient.yeast_kind().map_or(1.0, |k| tables.pantry.instant_equivalent(k));
            let grams = on_scale(flour_g * pct / 100.0 / instant, self.step_g);
            formula.lines.push(Line { grams: Band::exact(grams), stage: Stage::Preferment, ..yeast });
        }
    }

    /// What is weighed of it in a way's formula; none where nothing raises the dough.
    #[must_use]
    pub fn told(&self, a: &Analysis<'_>, formula: &Formula, way: &Way) -> Option<Dose> {
        let by = self.by?;
        // Yeast of a preferment is told with the preferment.
        let told = |l: &&Line| l.raises(by) && (by == Raising::Leaven || l.stage != Stage::Preferment);
        let sum = |f: &Formula| f.lines.iter().filter(told).map(|l| l.grams.likely).sum::<f64>();
        let ingredient = &formula.lines.iter().find(told)?.ingredient;
        let grams = sum(formula);
        let thin = if by == Raising::Yeast { dilution(grams, self.step_g) } else { None };
        let dissolve = thin.map(|d| {
            format!(
                "Dissolve {} g in {} g of the water, weigh {} g of that in.",
                show_grams(d.yeast_g),
                show_grams(d.water_g),
                show_grams(d.take_g)
            )
        });
        Some(Dose {
            ingredient: ingredient.id.clone(),
            name: ingredient.name.clone(),
            grams,
            pct: way.dose * self.pct,
            was_grams: sum(a.formula),
            dissolve,
        })
    }

    /// What to stir together at a feed of a way, the leaven of so much water to its flour.
    #[must_use]
    pub fn feed_words(&self, way: &Way, index: usize, feed: Feed, hydration_pct: f64) -> String {
        let hydration = hydration_pct / 100.0;
        let grown = |ratio: f64| 1.0 + ratio * (1.0 + hydration);
        // What the dough takes, and a spoonful to keep; each later feed starts from what this one makes.
        let later: f64 = way.feeds.iter().skip(index + 1).map(|f| grown(f.ratio)).product();
        let wanted = (self.grams * way.dose + KEPT_G) / later;
        let seed = wanted / grown(feed.ratio);
        let kept = if index + 1 == way.feeds.len() { format!(", {} g of it to keep", show_grams(KEPT_G)) } else { String::new() };
        format!(
            "{} g leaven, {} g water, {} g flour, stirred together. Mark the level. It makes {} g{kept}.",
            show_grams(seed),
            show_grams(seed * feed.ratio * hydration),
            show_grams(seed * feed.ratio),
            show_grams(wanted),
        )
    }
}
