//! What stands on the bag: ingredients by weight, allergens, energy and nutrients of the baked bread.
//!
//! Reckoned from the pantry's table, not measured. What the oven takes is water: the nutrients stay
//! and stand in fewer grams. Alcohol is counted as if it stayed, though most of it bakes off.

use std::sync::Arc;

use super::{Analysis, Line, Stage};
use crate::{
    measure::Band,
    pantry::{Fact, Family, Gluten, Ingredient},
};

/// Grams of salt for a gram of sodium, as the law reckons (Regulation (EU) 1169/2011, Annex I, from memory).
const SALT_PER_SODIUM: f64 = 2.5;
/// Kilojoules of a kilocalorie (Regulation (EU) 1169/2011, Annex XIV uses 4.2; this is the physical figure, SI).
const KJ_PER_KCAL: f64 = 4.184;

/// Nutrients of 100 g or of one piece, as baked. Grams, but for energy.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs, reason = "the names say it")]
pub struct Nutrients {
    pub kcal: Band,
    pub kj: Band,
    pub fat: Band,
    /// With the sugars and the fibre: the table does not part them.
    pub carbohydrate: Band,
    pub sugars: Band,
    pub protein: Band,
    pub salt: Band,
}

/// One ingredient of the whole batch, and what it brings.
#[derive(Debug, Clone, PartialEq)]
pub struct Share {
    /// What.
    pub ingredient: Arc<Ingredient>,
    /// Grams.
    pub grams: f64,
    /// Energy, kcal.
    pub kcal: f64,
    /// Protein, grams.
    pub protein_g: f64,
}

/// What a bread's label says.
#[derive(Debug, Clone, PartialEq)]
pub struct Label {
    /// Ingredients, heaviest first.
    pub ingredients: Vec<Share>,
    /// Grams of the whole batch, baked; the interval is what the oven may take.
    pub baked_g: Band,
    /// Allergens it holds.
    pub holds: Vec<String>,
    /// Ingredients that may carry traces of gluten.
    pub traces: Vec<String>,
    /// `vegan`, `no dairy`, `no egg`, `no gluten`, as far as the table knows.
    pub diets: Vec<&'static str>,
    /// Grams of one piece, baked; the interval is what the oven may take.
    pub piece_g: Option<Band>,
    /// Per 100 g of the baked bread.
    pub per_100g: Nutrients,
}

/// Lines whose matter is eaten: a bath and its soda are poured away.
fn is_eaten(l: &Line) -> bool {
    l.in_dough() || !(l.ingredient.family == Family::Alkali || l.ingredient.is(Fact::Water))
}

impl Analysis<'_> {
    /// The label of the bread this dough becomes; none without flour.
    #[must_use]
    pub fn label(&self) -> Option<Label> {
        if self.flour_g.likely <= 0.0 {
            return None;
        }
        let eaten: Vec<&Line> = self.formula.lines.iter().filter(|l| is_eaten(l)).collect();
        let sum = |part: &dyn Fn(&Ingredient) -> f64| eaten.iter().map(|l| l.grams.likely * part(&l.ingredient) / 100.0).sum::<f64>();
        let topping: f64 = eaten.iter().filter(|l| l.stage == Stage::Finish).map(|l| l.grams.likely).sum();
        let (least, most) = self.style.bake_loss;
        let baked = |loss: f64| self.dough_g.likely * (1.0 - loss / 100.0) + topping;
        let weight = Band::new(baked(most), baked(f64::midpoint(least, most)), baked(least));
        let per_100 = |grams: f64| Band::new(100.0 * grams / weight.high, 100.0 * grams / weight.likely, 100.0 * grams / weight.low);
        let sugars = sum(&|i| i.sugars_pct);
        let kcal = per_100(sum(&|i| i.kcal_100g));
        let mut by_weight: Vec<(Arc<Ingredient>, f64)> = Vec::new();
        for l in &eaten {
            match by_weight.iter_mut().find(|(i, _)| i.id == l.ingredient.id) {
                Some(entry) => entry.1 += l.grams.likely,
                None => by_weight.push((l.ingredient.clone(), l.grams.likely)),
            }
        }
        by_weight.sort_by(|a, b| b.1.total_cmp(&a.1));
        let none = |is: &dyn Fn(&Ingredient) -> bool| !eaten.iter().any(|l| is(&l.ingredient));
        let diets = [
            ("vegan", none(&|i| !i.vegan)),
            ("no dairy", none(&|i| i.allergens.iter().any(|a| a == "milk"))),
            ("no egg", none(&|i| i.allergens.iter().any(|a| a == "eggs"))),
            ("no gluten", none(&|i| i.gluten != Gluten::No)),
        ];
        Some(Label {
            holds: self.allergens.clone(),
            traces: eaten.iter().filter(|l| l.ingredient.gluten == Gluten::CrossContact).map(|l| l.ingredient.name.clone()).collect(),
            diets: diets.into_iter().filter(|d| d.1).map(|d| d.0).collect(),
            piece_g: self.formula.pieces.as_ref().map(|_| weight.times(self.piece_g() / self.dough_g.likely.max(1e-9))),
            per_100g: Nutrients {
                kcal,
                kj: kcal.times(KJ_PER_KCAL),
                fat: per_100(sum(&|i| i.fat_pct)),
                carbohydrate: per_100(sugars + sum(&|i| i.starch_fibre_pct)),
                sugars: per_100(sugars),
                protein: per_100(sum(&|i| i.protein_pct)),
                salt: per_100(sum(&|i| i.sodium_mg_100g * SALT_PER_SODIUM / 1000.0)),
            },
            ingredients: by_weight
                .into_iter()
                .map(|(i, grams)| Share {
                    kcal: grams * i.kcal_100g / 100.0,
                    protein_g: grams * i.protein_pct / 100.0,
                    ingredient: i,
                    grams,
                })
                .collect(),
            baked_g: weight,
        })
    }
}

impl Nutrients {
    /// Of so many grams of the bread.
    #[must_use]
    pub fn of(&self, grams: f64) -> Self {
        let part = |b: Band| b.times(grams / 100.0);
        Self {
            kcal: part(self.kcal),
            kj: part(self.kj),
            fat: part(self.fat),
            carbohydrate: part(self.carbohydrate),
            sugars: part(self.sugars),
            protein: part(self.protein),
            salt: part(self.salt),
        }
    }
}
