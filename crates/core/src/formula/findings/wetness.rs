//! Findings: flour, water and how sure both are.

use super::*;
use crate::measure::weight;

/// No flour to count on: said of a formula as of a recipe.
pub(crate) const FLOUR_MISSING: Rule =
    Rule::new("flour-missing", "Every percent of the trade is counted on the flour; it may stand in the steps.", "arithmetic");

pub(super) const CHECKS: &[Check] = &[
    Check { rule: FLOUR_MISSING, find: flour_missing },
    Check {
        rule: Rule::new("liquid-missing", "Flour needs about half its weight of water to become a dough.", "arithmetic"),
        find: liquid_missing,
    },
    Check {
        rule: Rule::new("hydration-low", "A dry dough tears and stays small.", "styles and flours tables, common practice, no source"),
        find: hydration_low,
    },
    Check {
        rule: Rule::new("hydration-high", "A dough this wet cannot be shaped.", "styles and flours tables, common practice, no source"),
        find: hydration_high,
    },
    Check {
        rule: Rule::new(
            "cups-uncertain",
            "A scooped cup of flour holds a quarter more than a spooned one.",
            "Adams 1975, cup weights, from memory",
        ),
        find: cups_uncertain,
    },
    Check { rule: Rule::new("fibre-unsoaked", "They drink later and dry the dough from within.", TRADE), find: fibre_unsoaked },
    Check { rule: Rule::new("scale-range", "The models were fitted to kitchen sizes.", "range of the models"), find: scale_range },
];

fn flour_missing(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if has_flour(a) {
        return Vec::new();
    }
    let liquid = a.formula.lines.iter().filter(|l| l.in_dough()).map(|l| l.grams.likely * l.ingredient.hydration_share).sum::<f64>();
    let grams = if liquid > 20.0 { to_nearest(liquid / 0.65, 10.0).clamp(50.0, 50_000.0) } else { 500.0 };
    one(
        Stop,
        "No flour in this list, so no percent can be worked out.".into(),
        None,
        vec![Remedy::new(format!("Add {} bread flour", weight(grams)), vec![Change::Add { ingredient: "wheat-bread".into(), grams }])],
    )
}

/// Water to pour in or take out so that the dough's wetness moves by `points`.
pub(super) fn water_by(a: &Analysis<'_>, points: f64) -> Option<(f64, Change)> {
    let grams = to_nearest(a.grams_at(points.abs()).max(1.0), if a.grams_at(points.abs()) >= 20.0 { 5.0 } else { 1.0 });
    match main_line(a, |l| l.ingredient.is(Fact::Water)).or_else(|| main_line(a, |l| l.ingredient.family == Family::Liquid)) {
        Some((line, now)) => {
            let share = a.formula.lines.get(line).map_or(1.0, |l| l.ingredient.hydration_share).max(0.3);
            let next = now + points.signum() * grams / share;
            (next > 0.0).then(|| (grams, set(a, line, next)))
        }
        None => (points > 0.0).then_some((grams, Change::Add { ingredient: "water".into(), grams })),
    }
}

fn wetter(a: &Analysis<'_>, wanted: f64) -> Vec<Remedy> {
    let points = wanted - compared(a);
    let fix = water_by(a, points).map(|(g, change)| {
        let label = if points > 0.0 { format!("Add {} water", weight(g)) } else { format!("Take {} off", weight(g)) };
        Remedy::new(label, vec![change])
    });
    fix.into_iter().chain([Remedy::meant("Meant so")]).collect()
}

fn liquid_missing(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let wet = a.effective_hydration_pct.likely;
    if !has_flour(a) || wet >= 25.0 || a.formula.style == Some(StyleId::Flat) {
        return Vec::new();
    }
    one(Stop, format!("Hardly any liquid: {} %. Is a line missing?", show_percent(wet)), None, wetter(a, a.style.hydration.0))
}

/// What the style's range of wetness is held against: these styles' ranges already hold the flour's thirst.
fn compared(a: &Analysis<'_>) -> f64 {
    match a.style.id {
        StyleId::Wholegrain | StyleId::Rye | StyleId::GlutenFree => a.effective_hydration_pct.likely,
        _ => a.hydration_adjusted_pct,
    }
}

fn hydration_low(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let (wet, (low, high)) = (compared(a), a.style.hydration);
    if !has_flour(a) || wet >= low - 5.0 || a.effective_hydration_pct.likely < 25.0 {
        return Vec::new();
    }
    let line = main_line(a, |l| l.ingredient.family == Family::Liquid).map(|l| l.0);
    one(
        if wet < 40.0 { Stop } else { Caution },
        format!("Stiff for this flour: {} % water, where {}–{} is usual.", show_percent(wet), show(low, 0), show(high, 0)),
        line,
        wetter(a, low),
    )
}

fn hydration_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let (wet, (low, high)) = (compared(a), a.style.hydration);
    // Measured in cups it is too wet only where the most flour they may hold would still be.
    let doubt = a.effective_hydration_pct.likely - a.effective_hydration_pct.low;
    if !has_flour(a) || wet - doubt <= high + 6.0 {
        return Vec::new();
    }
    let line = main_line(a, |l| l.ingredient.family == Family::Liquid).map(|l| l.0);
    one(
        if wet > 110.0 && a.style.id != StyleId::GlutenFree { Stop } else { Caution },
        format!(
            "Very wet: {} % water, where {}–{} is usual. It will pour, not shape. A cup too many?",
            show_percent(wet),
            show(low, 0),
            show(high, 0)
        ),
        line,
        wetter(a, high),
    )
}

fn cups_uncertain(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let (flour, wet) = (a.flour_g, a.effective_hydration_pct);
    let flour_doubt = (flour.high - flour.low) / flour.likely.max(1.0);
    if !has_flour(a) || (flour_doubt <= 0.10 && wet.high - wet.low <= 8.0) {
        return Vec::new();
    }
    let line = main_line(a, |l| l.ingredient.flour_share > 0.0 && !l.grams.is_exact()).map(|l| l.0);
    let settle = |label: &str, method: &str| {
        let changes: Vec<Change> = a
            .formula
            .lines
            .iter()
            .enumerate()
            .filter(|(_, l)| l.ingredient.family == Family::Flour && !l.grams.is_exact())
            .filter_map(|(i, l)| {
                let spooned = method_g(l, "spooned")?;
                let told = method_g(l, method)?;
                Some(Change::Grams { line: i, grams: Band::within(to_nearest(l.grams.likely * told / spooned, 1.0), 0.03), interval: true })
            })
            .collect();
        (!changes.is_empty()).then(|| Remedy::new(label, changes))
    };
    let remedies =
        [settle("Spooned", "spooned"), settle("Scooped", "scooped"), Some(Remedy::meant("I weighed it"))].into_iter().flatten().collect();
    one(
        Caution,
        format!(
            "By cups all the flour could weigh {}–{}, so the dough {}–{} % wet. How was the cup filled?",
            weight(flour.low).bare(),
            weight(flour.high),
            show(wet.low, 0),
            show(wet.high, 0)
        ),
        line,
        remedies,
    )
}

fn method_g(line: &Line, method: &str) -> Option<f64> {
    line.ingredient.measure_methods.iter().find(|(m, _)| m == method).map(|(_, g)| *g)
}

/// Seeds, oats, bran and coconut that go in dry.
fn is_dry_fibre(l: &Line) -> bool {
    (l.ingredient.is(Fact::Fibre) || l.ingredient.family == Family::Seed) && !matches!(l.stage, Stage::Soaker | Stage::Scald)
}

fn fibre_unsoaked(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let dry = share(a, is_dry_fibre);
    if dry <= 12.0 {
        return Vec::new();
    }
    let soak = dough_lines(a, is_dry_fibre).map(|(line, _)| Change::Stage { line, stage: Stage::Soaker }).collect();
    one(
        Note,
        format!("{} % seeds, oats or bran go in dry. Soak them in their own weight of water first.", show_percent(dry)),
        main_line(a, is_dry_fibre).map(|l| l.0),
        vec![Remedy::new("Soak them", soak), Remedy::meant("They are soaked already")],
    )
}

/// Less flour and more dough than this no model was fitted to, grams.
const LEAST_FLOUR_G: f64 = 50.0;
const MOST_DOUGH_G: f64 = 20_000.0;

fn scale_range(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if !has_flour(a) || (a.flour_g.likely >= LEAST_FLOUR_G && a.dough_g.likely <= MOST_DOUGH_G) {
        return Vec::new();
    }
    one(Note, format!("{} of dough is outside kitchen sizes: the times are less sure.", weight(a.dough_g.likely)), None, Vec::new())
}
