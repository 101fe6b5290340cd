//! Findings: what the eater or the baker must know.

use super::*;
use crate::safety::{self, authority};

pub(super) const CHECKS: &[Check] = &[
    Check {
        rule: Rule::new(
            "honey-infant",
            concat!("Spores in honey survive the loaf. ", authority!()),
            "public health advice (infant botulism), from memory",
        ),
        find: honey_infant,
    },
    Check {
        rule: Rule::new(
            "alkali-caution",
            "Alkali burns skin and eyes. Rinse, then call your local emergency or poison number.",
            "CLP H314 for sodium hydroxide, from memory",
        ),
        find: alkali,
    },
    Check {
        rule: Rule::new("allergens-present", "Whoever eats it may need to know.", "Reg. (EU) 1169/2011 Annex II, from memory"),
        find: allergens,
    },
];

fn honey_infant(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let honey = a.formula.lines.iter().position(|l| l.ingredient.kind == "honey");
    honey.map_or_else(Vec::new, |i| {
        one(
            Note,
            "Honey: not for babies under 12 months, baked or not.".into(),
            Some(i),
            vec![
                Remedy::new("Maple syrup instead", vec![Change::Ingredient { line: i, ingredient: "maple-syrup".into() }]),
                Remedy::meant("I have read it"),
            ],
        )
    })
}

fn alkali(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let dips = a.formula.lines.iter().enumerate().filter(|(_, l)| l.stage == Stage::Finish && l.ingredient.family == Family::Alkali);
    dips.map(|(i, l)| {
        let caustic = l.ingredient.is_caustic();
        let message = if caustic { safety::LYE } else { safety::SODA_BATH };
        let swap = caustic.then(|| Remedy::new("Use baking soda", vec![Change::Ingredient { line: i, ingredient: "baking-soda".into() }]));
        Found {
            severity: if caustic { Stop } else { Caution },
            message: message.into(),
            line: Some(i),
            remedies: [Some(Remedy::meant("I have read it")), swap].into_iter().flatten().collect(),
        }
    })
    .collect()
}

fn allergens(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    // That bread holds gluten is no news.
    if a.allergens.iter().all(|allergen| allergen == "gluten") {
        return Vec::new();
    }
    let message = format!("Holds: {}. Dusting, glaze and toppings counted; read the packs too.", a.allergens.join(", "));
    one(Note, message, None, vec![Remedy::meant("I have read it")])
}
