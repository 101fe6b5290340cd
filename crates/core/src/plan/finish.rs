//! What goes onto the pieces and when: coats before the bake, a bath, syrup after it; each with its own weigh-out.

use super::StepKind;
use crate::{
    formula::{Analysis, Stage},
    measure::weight,
    oven::{Bake, CAUSTIC, COAT, DIP, Glaze, POACH, SYRUP},
    pantry::Family,
};

/// Grams of soda to a litre of bath where the recipe does not tell it, and litres in a pot half full. Common practice, no source.
const SODA_G_PER_L: f64 = 40.0;
const BATH_L: f64 = 2.0;

impl Glaze {
    /// The work just before the bake; none for what goes on after it.
    #[must_use]
    pub const fn before_bake(self) -> Option<StepKind> {
        match self {
            Self::Egg | Self::YolkMilk | Self::Milk => Some(StepKind::Finish),
            Self::Soda | Self::Poached => Some(StepKind::Dip),
            // Before the bake syrup would burn.
            Self::None | Self::Syrup => None,
        }
    }
}

/// What is weighed for the finish: `55 g Whole egg, 20 g Whole milk`; empty where nothing is.
fn weigh_out(a: &Analysis<'_>) -> String {
    let lines = a.formula.lines.iter().filter(|l| l.stage == Stage::Finish);
    lines.map(|l| format!("{} {}", weight(l.grams.likely), l.ingredient.name)).collect::<Vec<_>>().join(", ")
}

/// How it is done: words for the act before the bake.
pub(super) fn words(a: &Analysis<'_>, bake: &Bake) -> String {
    let weighed = weigh_out(a);
    let start = if weighed.is_empty() { String::new() } else { format!("Weigh {weighed}. ") };
    let how = match bake.glaze {
        Glaze::Egg | Glaze::YolkMilk => format!("Beat it with a pinch of salt. {COAT} A second one when the first is dry."),
        Glaze::Milk => COAT.to_owned(),
        Glaze::Soda if bake.caustic => CAUSTIC.to_owned(),
        Glaze::Soda => bath(a),
        Glaze::Poached => POACH.to_owned(),
        Glaze::None | Glaze::Syrup => String::new(),
    };
    format!("{start}{how}")
}

/// `40 g of soda to the litre, just under the boil. 20–30 s a side, drain, salt while it is wet.`
fn bath(a: &Analysis<'_>) -> String {
    let told = |family: Family| -> f64 {
        let lines = a.formula.lines.iter().filter(|l| l.stage == Stage::Finish && l.ingredient.family == family);
        lines.map(|l| l.grams.likely).sum()
    };
    let (soda, water) = (told(Family::Alkali), told(Family::Liquid));
    let strength = if soda > 0.0 && water > 0.0 {
        format!("{} of soda to the litre", weight(1000.0 * soda / water))
    } else if soda > 0.0 {
        format!("{} of water for it, {} to the litre", weight(1000.0 * soda / SODA_G_PER_L), weight(SODA_G_PER_L))
    } else {
        format!("{} of water, {} of soda to the litre", weight(1000.0 * BATH_L), weight(SODA_G_PER_L))
    };
    format!("{strength}, just under the boil. {DIP}")
}

/// What is done to it as it comes out of the oven.
pub(super) const fn after_bake(glaze: Glaze) -> Option<&'static str> {
    match glaze {
        Glaze::Syrup => Some(SYRUP),
        Glaze::None | Glaze::Egg | Glaze::YolkMilk | Glaze::Milk | Glaze::Soda | Glaze::Poached => None,
    }
}
