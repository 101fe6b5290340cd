//! Findings: butter and sugar in plenty.

use super::*;
use crate::ferment::findings::{DENSE_OSMOL, DENSE_SYRUP};
use crate::measure::weight;

pub(super) const CHECKS: &[Check] = &[
    Check {
        rule: Rule::new(
            "fat-early",
            "Butter coats the flour before it can make gluten. Short doughs rub it in on purpose.",
            "common practice, no source; schools differ",
        ),
        find: fat_early,
    },
    Check { rule: DENSE_SYRUP, find: dense_syrup },
];

/// Solid fat at or over this share of the flour hinders the gluten, percent.
const HINDERING_FAT_PCT: f64 = 8.0;

fn fat_early(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let solid = |l: &Line| {
        l.ingredient.family == Family::Fat && l.stage == Stage::Dough && !l.ingredient.is(Fact::Oil) && !says(l, &["melted", "rubbed"])
    };
    let Some((line, _)) = main_line(a, solid).filter(|_| share(a, solid) >= HINDERING_FAT_PCT) else { return Vec::new() };
    one(
        if a.fat_added_pct.likely >= 20.0 { Caution } else { Note },
        "The butter goes in before kneading and coats the flour. Knead first until it stretches, then work it in bit by bit.".into(),
        Some(line),
        vec![Remedy::new("Butter after kneading", vec![Change::Stage { line, stage: Stage::Late }]), Remedy::meant("A short dough")],
    )
}

fn dense_syrup(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let water = a.effective_hydration_pct.likely;
    if !has_flour(a) || water < 25.0 || a.yeast_instant_pct.likely + a.leaven_flour_pct.likely <= 0.0 {
        return Vec::new();
    }
    let omega = crate::ferment::osmolality(a.salt_pct.likely, a.sugar_pct.likely, water);
    if omega <= DENSE_OSMOL {
        return Vec::new();
    }
    let points = water * (omega / DENSE_OSMOL - 1.0);
    let fix = super::wetness::water_by(a, points.max(1.0)).map(|(g, change)| Remedy::new(format!("Add {} water", weight(g)), vec![change]));
    one(
        Caution,
        "So little water for this sugar and salt: it may hardly rise.".into(),
        main_line(a, |l| l.ingredient.family == Family::Sugar).map(|l| l.0),
        fix.into_iter().chain([Remedy::meant("Meant so")]).collect(),
    )
}
