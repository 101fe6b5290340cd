//! Findings: what the eater or the baker must know.

use super::*;

pub(super) const RULES: &[Rule] = &[
    Rule {
        id: "honey-infant",
        why: "Spores in honey survive the loaf. Follow your local food safety authority; it may ask for more.",
        source: "public health advice (infant botulism), from memory",
        find: honey_infant,
    },
    Rule {
        id: "alkali-caution",
        why: "Alkali burns skin and eyes. Rinse, then call your local emergency or poison number.",
        source: "CLP H314 for sodium hydroxide, from memory",
        find: alkali,
    },
    Rule {
        id: "allergens-present",
        why: "Whoever eats it may need to know.",
        source: "Reg. (EU) 1169/2011 Annex II, from memory",
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
        let mild = l.ingredient.kind == "baking-soda";
        let message = if mild {
            "A soda bath boils over and is alkaline: spoon the soda in off the heat, no aluminium."
        } else {
            "Lye burns skin and eyes. Goggles, gloves, long sleeves; lye into cold water, never water onto lye; never aluminium."
        };
        let swap = (!mild).then(|| Remedy::new("Use baking soda", vec![Change::Ingredient { line: i, ingredient: "baking-soda".into() }]));
        Found {
            severity: if mild { Caution } else { Stop },
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
