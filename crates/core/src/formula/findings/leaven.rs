//! Findings: leaven and rye.

use super::*;
use crate::measure::weight;

pub(super) const CHECKS: &[Check] = &[
    Check {
        rule: Rule::new("leaven-hydration-assumed", "A stiff leaven brings more flour and less water than a liquid one.", TRADE),
        find: leaven_assumed,
    },
    Check { rule: Rule::new("leaven-dose-odd", "The share of flour that is fermented before sets the pace.", TRADE), find: dose_odd },
    Check { rule: Rule::new("preferment-over", "A leaven is part of the dough, not all of it.", "arithmetic"), find: all_prefermented },
    Check {
        rule: Rule::new("leaven-seed-small", "From so little seed a leaven takes a day or two, and no one knows which.", "rise model"),
        find: seed_small,
    },
    Check {
        rule: Rule::new(
            "rye-no-acid",
            "Rye starch breaks down in the oven unless the dough is sour.",
            "rye souring, common practice, no source",
        ),
        find: rye_no_acid,
    },
];

fn leaven_assumed(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let halves = |l: &Line| l.ingredient.is(Fact::Leaven) && l.ingredient.flour_share == l.ingredient.hydration_share;
    let assumed = a.formula.lines.iter().enumerate().filter(|(_, l)| halves(l));
    let told = |l: &Line| l.hydration_pct.is_some() || l.source.as_deref().is_some_and(|s| s.contains('%'));
    assumed
        .filter(|(_, l)| l.source.is_some() && !told(l))
        .map(|(i, _)| Found {
            severity: Note,
            message: "Leaven taken as half flour, half water.".into(),
            line: Some(i),
            remedies: vec![
                Remedy::new("It is stiff, two thirds flour", vec![Change::Ingredient { line: i, ingredient: "leaven-stiff".into() }]),
                Remedy::meant("Half and half"),
            ],
        })
        .collect()
}

fn dose_odd(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let percent = a.leaven_flour_pct.likely;
    let little = percent > 0.0 && percent < 3.0 && a.yeast_instant_pct.likely <= 0.0;
    if !(little || percent > 40.0) {
        return Vec::new();
    }
    let pace = if little { "it rises very slowly" } else { "it is ready very soon and sour" };
    let line = main_line(a, Line::is_leaven).map(|l| l.0);
    one(
        Note,
        format!("{} % of the flour is in the leaven, where 10–25 is usual: {pace}. The plan tells the hours.", show_percent(percent)),
        line,
        vec![Remedy::meant("Meant so")],
    )
}

fn all_prefermented(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    // A leaven by itself is no dough: only where salt or a late line says that bread is meant.
    let dough = dough_lines(a, |l| !l.is_prefermented()).next().is_some();
    if !has_flour(a) || a.prefermented_flour_pct < 99.9 || !dough {
        return Vec::new();
    }
    one(Stop, "All the flour is in the leaven or preferment: none is left for the dough.".into(), None, vec![Remedy::meant("Meant so")])
}

fn rye_no_acid(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let sour = |l: &Line| l.ingredient.is(Fact::Sour);
    let rye = |l: &Line| l.ingredient.is(Fact::Rye) && !l.is_prefermented();
    if a.rye_pct < 50.0 || a.leaven_flour_pct.likely >= 12.0 || share(a, sour) > 0.0 {
        return Vec::new();
    }
    let fix = main_line(a, rye).zip(main_line(a, |l| l.ingredient.is(Fact::Water))).and_then(|((line, now), (water, wet))| {
        let part = to_nearest(now / 3.0, 1.0);
        (wet > part).then(|| {
            Remedy::new(
                format!("Sour a third of the rye, {}", weight(part)),
                vec![
                    set(a, line, now - part),
                    set(a, water, wet - part),
                    Change::Add { ingredient: "leaven-rye".into(), grams: 2.0 * part },
                ],
            )
        })
    });
    one(
        Caution,
        "Much rye with no sour: its starch breaks down and the crumb turns sticky.".into(),
        main_line(a, rye).map(|l| l.0),
        fix.into_iter().chain([Remedy::meant("Meant so")]).collect(),
    )
}

/// Seed under this part of its leaven is a guess.
const LEAST_SEED_PCT: f64 = 3.0;

fn seed_small(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let built = || a.formula.lines.iter().enumerate().filter(|(_, l)| l.stage == Stage::Leaven);
    let all: f64 = built().map(|(_, l)| l.grams.likely).sum();
    let seeds = || built().filter(|(_, l)| l.ingredient.family == Family::Leaven);
    let seed: f64 = seeds().map(|(_, l)| l.grams.likely).sum();
    let Some((line, _)) = seeds().next().filter(|_| 100.0 * seed < LEAST_SEED_PCT * all) else { return Vec::new() };
    let enough = all / 11.0;
    one(
        Caution,
        format!(
            "So little seed, {} in {} of leaven: the time is a guess. Feed 1:5:5, {} of seed.",
            weight(seed),
            weight(all),
            weight(enough)
        ),
        Some(line),
        vec![Remedy::new(format!("Take {}", weight(enough)), vec![set(a, line, enough)]), Remedy::meant("Meant so")],
    )
}
