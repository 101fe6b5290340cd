//! Findings: too little salt, too much, and salt that comes in with something else.

use super::*;
use crate::measure::weight;

pub(super) const CHECKS: &[Check] = &[
    Check { rule: Rule::new("salt-missing", "Without salt bread is bland and its dough rises fast.", TRADE), find: salt_missing },
    Check { rule: Rule::new("salt-low", "Coarse salt spooned as if it were fine weighs half.", TRADE), find: salt_low },
    Check { rule: Rule::new("salt-high", "Salt draws water from the yeast; above 3 % bread is hard to eat.", TRADE), find: salt_high },
    Check {
        rule: Rule::new("salt-twice", "Butter, cheese and olives bring salt of their own.", "salt column of the pantry"),
        find: salt_twice,
    },
];

fn salt_missing(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if !has_flour(a) || a.salt_pct.likely >= LEAST_SALT_PCT {
        return Vec::new();
    }
    let grams = weighable(a.grams_at(USUAL_SALT_PCT));
    let message = format!("No salt. Most doughs take about 2 %: {} here. Without it the bread is bland and rises fast.", weight(grams));
    let line = main_line(a, |l| l.ingredient.family == Family::Salt);
    let label = format!("Add {}", weight(grams));
    let change = line.map_or(Change::Add { ingredient: "salt-fine".into(), grams }, |(i, _)| set(a, i, grams));
    one(Stop, message, line.map(|l| l.0), vec![Remedy::new(label, vec![change]), Remedy::meant("Meant so")])
}

fn salt_to(a: &Analysis<'_>, percent: f64) -> (Option<usize>, Vec<Remedy>) {
    let Some((line, now)) = main_line(a, |l| l.ingredient.family == Family::Salt) else {
        return (None, vec![Remedy::meant("Meant so")]);
    };
    let grams = weighable(now + a.grams_at(percent - a.salt_pct.likely));
    if grams <= 0.0 {
        return (Some(line), vec![Remedy::meant("Meant so")]);
    }
    let label = format!("Make it {} %, {}", show_percent(percent), weight(grams));
    (Some(line), vec![Remedy::new(label, vec![set(a, line, grams)]), Remedy::meant("Meant so")])
}

fn salt_low(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let (salt, (low, high)) = (a.salt_pct.likely, a.style.salt);
    if salt < LEAST_SALT_PCT || salt >= low - 0.3 {
        return Vec::new();
    }
    let (line, remedies) = salt_to(a, low);
    one(
        Caution,
        format!(
            "Only {} % salt. A dough of this kind has {}–{} %. Was it spooned as coarse salt?",
            show_percent(salt),
            show_percent(low),
            show_percent(high)
        ),
        line,
        remedies,
    )
}

fn salt_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let (salt, high) = (a.salt_pct.likely, a.style.salt.1);
    if !has_flour(a) || salt <= high + 0.4 {
        return Vec::new();
    }
    let (line, remedies) = salt_to(a, high);
    one(
        if salt > 3.5 { Stop } else { Caution },
        format!("{} % salt will taste salty and hold the yeast back. Tablespoons for teaspoons?", show_percent(salt)),
        line,
        remedies,
    )
}

fn salt_twice(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let brings = |l: &Line| l.ingredient.is(Fact::BringsSalt);
    let grams: f64 = dough_lines(a, brings).map(|(_, l)| l.grams.likely * l.ingredient.salt_pct / 100.0).sum();
    let Some((salt, now)) = main_line(a, |l| l.ingredient.family == Family::Salt) else { return Vec::new() };
    let Some((from, _)) = main_line(a, brings) else { return Vec::new() };
    if grams <= a.grams_at(LEAST_SALT_PCT) || share(a, |l| l.ingredient.family == Family::Salt) < a.style.salt.0 || grams >= now {
        return Vec::new();
    }
    let name = name_of(a, from);
    one(
        Note,
        format!("{name} brings {} more salt.", weight(weighable(grams))),
        Some(from),
        vec![
            Remedy::answering(format!("Take {} off the salt", weight(weighable(grams))), vec![set(a, salt, now - grams)]),
            Remedy::meant("Meant so"),
        ],
    )
}
