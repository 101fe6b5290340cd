//! Findings: the list itself.

use super::*;
use crate::measure::weight;

pub(super) const CHECKS: &[Check] =
    &[Check { rule: Rule::new("duplicate-ingredient", "A line copied twice doubles it.", "reader's rule"), find: duplicate }];

fn duplicate(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let lines = &a.formula.lines;
    let twice = |(i, l): (usize, &Line)| {
        let first = lines.iter().take(i).position(|f| f.ingredient.id == l.ingredient.id && f.stage == l.stage)?;
        let one = lines.get(first)?;
        let sum = one.grams.plus(l.grams);
        Some(Found {
            severity: Note,
            message: format!(
                "{} stands twice: {} and {}. Both are counted.",
                l.ingredient.name,
                weight(one.grams.likely),
                weight(l.grams.likely)
            ),
            line: Some(i),
            remedies: vec![
                Remedy::new(
                    "Add together",
                    vec![
                        Change::Grams { line: first, grams: sum, interval: !sum.is_exact() || !one.grams.is_exact() },
                        Change::Remove { line: i },
                    ],
                ),
                Remedy::new("Drop this one", vec![Change::Remove { line: i }]),
                Remedy::meant("Meant so"),
            ],
        })
    };
    lines.iter().enumerate().filter(|(_, l)| l.ingredient.id != "water").filter_map(twice).collect()
}
