//! Small amounts in spoons, for a kitchen whose scale shows whole grams.

use crate::{measure::show, pantry::Ingredient};

const TEASPOON_ML: f64 = 5.0;
const CUP_ML: f64 = 236.588;

/// Grams of one level teaspoon.
pub(crate) fn teaspoon_g(ingredient: &Ingredient) -> Option<f64> {
    ingredient.piece("teaspoon").map(|b| b.likely).or_else(|| ingredient.cup_us_g.map(|g| g * TEASPOON_ML / CUP_ML))
}

/// The amount in spoons or cups: up to a cup, rounded to what spoons come in; nothing where no
/// spoon fits (below an eighth of a teaspoon, or an ingredient that is not spooned).
#[must_use]
pub fn spoons(ingredient: &Ingredient, grams: f64) -> Option<String> {
    let teaspoons = grams / teaspoon_g(ingredient)?;
    let cups = teaspoons * TEASPOON_ML / CUP_ML;
    if teaspoons < 0.1 || cups > 6.0 {
        return None;
    }
    if teaspoons < 2.9 {
        return Some(format!("{} tsp", quarters(teaspoons, if teaspoons < 0.75 { 8.0 } else { 4.0 })));
    }
    if cups < 0.24 {
        return Some(format!("{} tbsp", quarters(teaspoons / 3.0, 2.0)));
    }
    Some(format!("{} cup{}", quarters(cups, 4.0), if cups > 1.12 { "s" } else { "" }))
}

fn quarters(amount: f64, parts: f64) -> String {
    let steps = (amount * parts).round().max(1.0);
    let whole = (steps / parts).floor();
    let rest = (steps / parts - whole) * 8.0;
    #[allow(clippy::cast_possible_truncation, reason = "eighths, 0 to 7")]
    let fraction = match rest.round() as i32 {
        1 => "⅛",
        2 => "¼",
        3 => "⅜",
        4 => "½",
        5 => "⅝",
        6 => "¾",
        7 => "⅞",
        _ => "",
    };
    match (whole > 0.0, fraction.is_empty()) {
        (true, _) => format!("{}{fraction}", show(whole, 0)),
        (false, false) => fraction.to_owned(),
        (false, true) => "0".to_owned(),
    }
}
