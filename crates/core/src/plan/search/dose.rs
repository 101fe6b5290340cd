//! The dose of a plan: the usual one of a recipe, what a way weighs instead, and the formula that holds it.

use super::{
    judge::on_scale,
    schedule::{Feed, Schedule},
};
use crate::{
    Tables,
    ferment::Dough,
    formula::{Analysis, Formula, Line, Preferment, Raising, Stage, dilution},
    measure::{Band, weighable, weight},
    pantry::Family,
};

/// A preferment that is added to a recipe: share of the flour, of the dough's weight, water in percent.
const ADDED_SHARE: (f64, f64) = (0.30, 0.35);
const ADDED_WATER_PCT: f64 = 100.0;
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
    /// Grams of it; beside a preferment of the recipe's own those that go into the dough at the mix.
    pub grams: f64,
    /// Instant yeast on its own flour in the recipe's own preferment, percent.
    pub early_pct: Option<f64>,
    /// What the yeast of the mix is of the usual dose; 1 without a preferment of its own.
    pub mixed_share: f64,
    step_g: f64,
}

/// A preferment of flour, water and yeast alone, as it may be added to a dough.
#[must_use]
pub fn added(dough: &Dough) -> Preferment {
    Preferment {
        dough: Dough {
            water_pct: ADDED_WATER_PCT,
            salt_pct: 0.0,
            sugar_pct: 0.0,
            fat_pct: 0.0,
            solids_pct: 0.0,
            leaven: None,
            spice_factor: 1.0,
            ..dough.clone()
        },
        yeast_pct: 0.0,
        flour_share: ADDED_SHARE.0,
        weight_share: ADDED_SHARE.1,
    }
}

impl UsualDose {
    /// Of a recipe with its own preferment, if it has one, on a scale that shows steps of `step_g`.
    #[must_use]
    pub fn of(a: &Analysis<'_>, preferment: Option<&Preferment>, step_g: f64) -> Self {
        let by = a.raising();
        let own = a.dose_pct();
        if let Some(p) = preferment {
            // What a style takes is said of yeast that goes in at the mix: nothing is cut.
            let early = if own > 0.0 { p.yeast_pct * p.flour_share / own } else { 0.0 };
            let mixed_share = if early > 1.0 - 1e-6 { 0.0 } else { 1.0 - early };
            return Self { by, pct: own, share: 1.0, grams: mixed_share * a.dose_g(), early_pct: Some(p.yeast_pct), mixed_share, step_g };
        }
        let ((low, high), (least, most)) = match by {
            Some(Raising::Leaven) => (a.style.leaven_flour, (0.6, 1.2)),
            _ => (a.style.yeast_instant, (0.5, 1.3)),
        };
        let pct = if high > 0.0 && by.is_some() { own.clamp(least * low, most * high) } else { own };
        let share = if own > 0.0 { pct / own } else { 1.0 };
        Self { by, pct, share, grams: share * a.dose_g(), early_pct: None, mixed_share: 1.0, step_g }
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
    pub fn weigh(&self, a: &Analysis<'_>, schedule: &Schedule, tables: &Tables) -> Result<Formula, String> {
        let mut dosed = match (self.early_pct, schedule.sponge) {
            (Some(own), Some(sponge)) => self.weigh_early(a, schedule.dose, sponge.pct / own),
            _ => self.weigh_mixed(a, schedule, tables)?,
        };
        // So little yeast may look like another style; the rises were planned as those of this one.
        if dosed.analyse(&tables.pantry, &tables.styles).style.id != a.style.id {
            dosed.style = Some(a.style.id);
        }
        Ok(dosed)
    }

    /// The recipe with a way's dose at the mix, a preferment that is added taken out of it.
    fn weigh_mixed(&self, a: &Analysis<'_>, schedule: &Schedule, tables: &Tables) -> Result<Formula, String> {
        let factor = schedule.dose * self.share;
        let same = (factor - 1.0).abs() < 1e-6;
        let mut dosed = if same { a.formula.clone() } else { a.dosed(factor)? };
        if self.by == Some(Raising::Yeast) && !same {
            for (line, before) in dosed.lines.iter_mut().zip(&a.formula.lines).filter(|(l, _)| l.raises(Raising::Yeast)) {
                line.grams = Band::exact(on_scale(before.grams.likely * factor, self.step_g));
            }
        }
        if let Some(sponge) = schedule.sponge {
            self.take_out(&mut dosed, ADDED_SHARE.0 * a.flour_g.likely, sponge.pct, tables);
        }
        Ok(dosed)
    }

    /// The recipe with so many times the yeast of the mix, and so many times that of its own preferment.
    fn weigh_early(&self, a: &Analysis<'_>, mixed: f64, early: f64) -> Formula {
        let mut dosed = a.formula.clone();
        for line in dosed.lines.iter_mut().filter(|l| l.raises(Raising::Yeast)) {
            let factor = if line.is_early() { early } else { mixed };
            if (factor - 1.0).abs() > 1e-6 {
                line.grams = Band::exact(on_scale(line.grams.likely * factor, self.step_g));
            }
        }
        dosed
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
    pub fn told(&self, a: &Analysis<'_>, formula: &Formula, schedule: &Schedule) -> Option<Dose> {
        let by = self.by?;
        // Yeast of a preferment is told with the preferment.
        let told = |l: &&Line| l.raises(by) && (by == Raising::Leaven || l.stage != Stage::Preferment);
        let sum = |f: &Formula| f.lines.iter().filter(told).map(|l| l.grams.likely).sum::<f64>();
        let ingredient = &formula.lines.iter().find(told)?.ingredient;
        let grams = sum(formula);
        let dissolve = if by == Raising::Yeast { self.dissolve_words(grams) } else { None };
        Some(Dose {
            ingredient: ingredient.id.clone(),
            name: ingredient.name.clone(),
            grams,
            pct: schedule.dose * self.mixed_share * self.pct,
            was_grams: sum(a.formula),
            dissolve,
        })
    }

    /// How to weigh so little yeast that the scale does not show it; none where it does.
    fn dissolve_words(&self, grams: f64) -> Option<String> {
        dilution(grams, self.step_g).map(|d| {
            let (yeast, water, take) = (weight(d.yeast_g), weight(d.water_g), weight(d.take_g));
            format!("Dissolve {yeast} in {water} of the water, weigh {take} of that in.")
        })
    }

    /// What to stir together for the preferment of a formula.
    #[must_use]
    pub fn sponge_words(&self, formula: &Formula) -> String {
        let lines: Vec<String> = formula
            .lines
            .iter()
            .filter(|l| l.is_early())
            .map(|l| format!("{} {}", weight(l.grams.likely), l.ingredient.name.to_lowercase()))
            .collect();
        let yeast: f64 = formula.lines.iter().filter(|l| l.is_early() && l.raises(Raising::Yeast)).map(|l| l.grams.likely).sum();
        let dissolve = self.dissolve_words(yeast).map(|d| format!(" The yeast is too little to weigh. {d}")).unwrap_or_default();
        format!("{}, stirred together for the preferment. Cover it.{dissolve}", lines.join(", "))
    }

    /// What to stir together at a feed of a way, the leaven of so much water to its flour.
    #[must_use]
    pub fn feed_words(&self, schedule: &Schedule, index: usize, feed: Feed, hydration_pct: f64) -> String {
        let hydration = hydration_pct / 100.0;
        let grown = |ratio: f64| 1.0 + ratio * (1.0 + hydration);
        // What the dough takes, and a spoonful to keep; each later feed starts from what this one makes.
        let later: f64 = schedule.feeds.iter().skip(index + 1).map(|f| grown(f.ratio)).product();
        let wanted = (self.grams * schedule.dose + KEPT_G) / later;
        let seed = wanted / grown(feed.ratio);
        let kept = if index + 1 == schedule.feeds.len() { format!(", {} of it to keep", weight(KEPT_G)) } else { String::new() };
        format!(
            "{} leaven, {} water, {} flour, stirred together. Mark the level. It makes {}{kept}.",
            weight(seed),
            weight(seed * feed.ratio * hydration),
            weight(seed * feed.ratio),
            weight(wanted)
        )
    }
}
