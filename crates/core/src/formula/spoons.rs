//! Small amounts in spoons, for a kitchen whose scale shows whole grams.

use crate::{
    kitchen::Kitchen,
    measure::{CUP_US_ML, show},
    pantry::{Family, Ingredient, Pantry},
};

const TEASPOON_ML: f64 = 5.0;

/// Grams of one level teaspoon.
pub(crate) fn teaspoon_g(ingredient: &Ingredient) -> Option<f64> {
    let spooned = ingredient.measure_methods.iter().find(|(m, _)| m == "spooned").map(|(_, g)| *g);
    ingredient.piece("teaspoon").map(|b| b.likely).or_else(|| spooned.or(ingredient.cup_us_g).map(|g| g * TEASPOON_ML / CUP_US_ML))
}

/// The measures a household spoons with.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spoons {
    /// Its cup, ml.
    pub cup_ml: f64,
    /// Its egg, g.
    pub egg_g: f64,
}

impl Spoons {
    /// Those of a kitchen.
    #[must_use]
    pub fn of(k: &Kitchen, pantry: &Pantry) -> Self {
        let id = format!("cup-{}", k.cup);
        let cup_ml = k.cup_ml.filter(|_| k.cup == "own").or_else(|| pantry.measures.by_id(&id).map(|m| m.value.likely));
        Self { cup_ml: cup_ml.unwrap_or(CUP_US_ML), egg_g: k.egg_g(pantry) }
    }
}

/// The amount in spoons or cups: up to a cup, rounded to what spoons come in; nothing where no
/// spoon fits (below an eighth of a teaspoon, or an ingredient that is not spooned).
#[must_use]
pub fn spoons(ingredient: &Ingredient, grams: f64, with: Spoons) -> Option<String> {
    if ingredient.family == Family::Egg {
        // A yolk or a white has a weight of its own.
        let part = ingredient.piece("us-large").filter(|_| ingredient.kind != "egg-whole").map(|e| e.likely);
        let eggs = (2.0 * grams / part.unwrap_or(with.egg_g)).round() / 2.0;
        return (0.5..=20.0).contains(&eggs).then(|| {
            if eggs == 0.5 {
                "half an egg".to_owned()
            } else {
                format!("about {}{}", show(eggs.floor(), 0), if eggs.fract() > 0.0 { "½" } else { "" })
            }
        });
    }
    let teaspoons = grams / teaspoon_g(ingredient)?;
    let cups = teaspoons * TEASPOON_ML / with.cup_ml;
    if teaspoons < 0.1 || cups > 6.0 {
        return None;
    }
    if teaspoons < 2.9 {
        return Some(format!("{} tsp", nearest(teaspoons, if teaspoons < 0.75 { EIGHTHS } else { QUARTERS })));
    }
    if cups < 0.24 {
        return Some(format!("{} tbsp", nearest(teaspoons / 3.0, HALVES)));
    }
    Some(format!("{} cup{}", nearest(cups, CUP_PARTS), if cups > 1.12 { "s" } else { "" }))
}

type Parts = &'static [(f64, &'static str)];
const HALVES: Parts = &[(0.0, ""), (0.5, "½"), (1.0, "")];
const QUARTERS: Parts = &[(0.0, ""), (0.25, "¼"), (0.5, "½"), (0.75, "¾"), (1.0, "")];
const EIGHTHS: Parts = &[(0.125, "⅛"), (0.25, "¼"), (0.375, "⅜"), (0.5, "½"), (0.625, "⅝"), (0.75, "¾")];
const CUP_PARTS: Parts = &[(0.0, ""), (0.25, "¼"), (1.0 / 3.0, "⅓"), (0.5, "½"), (2.0 / 3.0, "⅔"), (0.75, "¾"), (1.0, "")];

/// The amount as whole spoons and the nearest part a spoon or cup comes in.
fn nearest(amount: f64, parts: Parts) -> String {
    let whole = amount.floor();
    let rest = amount - whole;
    let part = parts.iter().min_by(|a, b| (a.0 - rest).abs().total_cmp(&(b.0 - rest).abs())).copied().unwrap_or((0.0, ""));
    let whole = if part.0 >= 1.0 { whole + 1.0 } else { whole };
    if whole > 0.0 { format!("{}{}", show(whole, 0), part.1) } else { part.1.to_owned() }
}
