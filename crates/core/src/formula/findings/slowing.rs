//! Findings: what holds yeast back or weakens the dough.

use crate::measure::weight;
use std::collections::BTreeSet;

use super::*;

pub(super) const CHECKS: &[Check] = &[
    Check {
        rule: Rule::new("sugar-slows-yeast", "Sugar binds the water the yeast needs.", "osmotic effect; size by the rise model"),
        find: sugar_slows,
    },
    Check {
        rule: Rule::new(
            "spice-slows-yeast",
            "Their oils hold yeast back; in a filling they do not touch it.",
            "Wright, Bice and Fogelberg 1954, Cereal Chemistry 31:100, from memory (direction only); limits common practice",
        ),
        find: spice_slows,
    },
    Check { rule: Rule::new("allium-slows", "Raw garlic weakens gluten and yeast alike.", TRADE), find: allium_slows },
    Check { rule: Rule::new("acid-high", "Much acid slows the yeast.", TRADE), find: acid_high },
    Check { rule: Rule::new("alcohol-high", "Alcohol slows the yeast.", TRADE), find: alcohol_high },
    Check { rule: Rule::new("malt-high", "Its enzymes turn starch to sugar faster than the oven can set it.", TRADE), find: malt_high },
];

fn sugar_slows(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let tolerant = a.formula.lines.iter().any(|l| l.ingredient.yeast_kind() == Some(YeastKind::Osmotolerant));
    if a.sugar_pct.likely < 8.0 || tolerant || a.yeast_instant_pct.likely <= 0.0 {
        return Vec::new();
    }
    let n = &tables.ferment.numbers;
    let factor = crate::ferment::osmotic_factor(a.salt_pct.likely, a.sugar_pct.likely, a.effective_hydration_pct.likely, n).unwrap_or(1.0);
    let longer = to_nearest(100.0 * (1.0 / factor.max(0.05) - 1.0), 10.0);
    let size =
        if longer >= 10.0 { format!("allow about {} % longer", show(longer, 0)) } else { "a little only, with so much water".to_owned() };
    one(
        if a.sugar_pct.likely > 15.0 { Caution } else { Note },
        format!("{} % sugar slows the yeast: {size}. The times on the plan count it in.", show_percent(a.sugar_pct.likely)),
        main_line(a, |l| l.ingredient.family == Family::Sugar).map(|l| l.0),
        Vec::new(),
    )
}

/// What holds yeast back from a share of the flour on: the heaviest line of each kind that has more, with the share
/// in % and its limit.
fn holding_back<'a>(a: &'a Analysis<'_>, is: impl Fn(&Line) -> bool + Copy + 'a) -> impl Iterator<Item = (usize, &'a Line, f64, f64)> {
    let kinds: BTreeSet<&str> = dough_lines(a, is).map(|(_, l)| l.ingredient.kind.as_str()).collect();
    kinds.into_iter().filter_map(move |kind| {
        let same = |l: &Line| l.ingredient.kind == kind && is(l);
        let (at, _) = main_line(a, same)?;
        let line = a.formula.lines.get(at)?;
        let (percent, limit) = (share(a, same), line.ingredient.slows_yeast_from_pct?);
        (percent >= limit).then_some((at, line, percent, limit))
    })
}

fn spice_slows(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if a.yeast_instant_pct.likely <= 0.0 && a.leaven_flour_pct.likely <= 0.0 {
        return Vec::new();
    }
    let over = holding_back(a, |l| !l.ingredient.is(Fact::Allium)).map(|(line, _, percent, limit)| Found {
        severity: if percent >= 2.0 * limit { Caution } else { Note },
        message: format!("{} in the dough holds the yeast back. In the filling it does not.", name_of(a, line)),
        line: Some(line),
        remedies: vec![
            Remedy::new("Move it to the filling", vec![Change::Stage { line, stage: Stage::Finish }]),
            Remedy::meant("Meant so"),
        ],
    });
    over.collect()
}

fn allium_slows(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let raw = |l: &Line| {
        l.ingredient.is(Fact::Allium) && !says(l, &["roast", "cooked", "fried", "confit", "caramel", "saut", "powder", "granul"])
    };
    let over = holding_back(a, raw).map(|(line, l, _, _)| Found {
        severity: Note,
        message: format!("Raw {} slows yeast and slackens the dough. Cook it first.", l.ingredient.kind),
        line: Some(line),
        remedies: vec![Remedy::meant("It is cooked")],
    });
    over.collect()
}

/// Acetic acid, or what acts like it, in percent of the flour.
fn acid_pct(a: &Analysis<'_>) -> f64 {
    let grams: f64 = dough_lines(a, |_| true).map(|(_, l)| l.grams.likely * l.ingredient.acid_pct / 100.0).sum();
    if a.flour_g.likely > 0.0 { 100.0 * grams / a.flour_g.likely } else { 0.0 }
}

fn acid_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let sour = |l: &Line| l.ingredient.acid_pct > 0.0;
    let Some((line, now)) = main_line(a, sour).filter(|_| acid_pct(a) > 0.3) else { return Vec::new() };
    let name = name_of(a, line);
    one(
        Note,
        format!("So much acid slows the yeast: {} of {}.", weight(now), name.to_lowercase()),
        Some(line),
        vec![Remedy::new("Halve it", vec![set(a, line, now / 2.0)]), Remedy::meant("Meant so")],
    )
}

fn alcohol_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let grams: f64 = dough_lines(a, |_| true).map(|(_, l)| l.grams.likely * l.ingredient.alcohol_pct / 100.0).sum();
    if !has_flour(a) || grams <= a.grams_at(3.0) {
        return Vec::new();
    }
    let line = main_line(a, |l| l.ingredient.alcohol_pct > 0.0).map(|l| l.0);
    one(Note, "Spirits slow the rise. Soak the fruit in them and drain it.".into(), line, vec![Remedy::meant("It is drained")])
}

fn malt_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let is = |l: &Line| l.ingredient.is(Fact::MaltEnzymes) && !says(l, &["non-diastatic", "non diastatic", "roasted"]);
    let Some((line, _)) = main_line(a, is).filter(|_| share(a, is) > 1.0) else { return Vec::new() };
    let half = a.grams_at(0.5);
    one(
        Caution,
        "Over 1 % malt that still works turns the crumb gummy.".into(),
        Some(line),
        vec![
            Remedy::new(format!("Set 0.5 %, {}", weight(weighable(half))), vec![set(a, line, half)]),
            Remedy::meant("It is non-diastatic"),
        ],
    )
}
