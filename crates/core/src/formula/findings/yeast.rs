//! Findings: what makes it rise: too much, too little, none.

use super::*;
use crate::measure::{grams, weight};

pub(super) const CHECKS: &[Check] = &[
    Check { rule: Rule::new("yeast-missing", "Nothing in it makes gas.", "arithmetic"), find: yeast_missing },
    Check {
        rule: Rule::new(
            "yeast-high",
            concat!("A slipped point (", grams!(60), " for ", grams!(6), ") is the usual cause; fresh yeast weighs three times instant."),
            "styles table, common practice, no source",
        ),
        find: yeast_high,
    },
    Check {
        rule: Rule::new("yeast-much", "Much yeast is quick, tastes of yeast, and the bread is stale sooner.", TRADE),
        find: yeast_much,
    },
    Check { rule: Rule::new("yeast-tiny", "A kitchen scale shows whole or half grams.", "scale step of 1 g or 0.1 g"), find: yeast_tiny },
    Check { rule: Rule::new("yeast-and-leaven", "Two clocks in one dough: the faster one rules.", TRADE), find: yeast_and_leaven },
    Check {
        rule: Rule::new(
            "leaven-none-chemical",
            "In French and German, baking powder is called chemical yeast or baking yeast powder.",
            "names in the pantry",
        ),
        find: chemical,
    },
    Check {
        rule: Rule::new("self-raising-in-dough", "It holds baking powder and, in some countries, salt.", "pack labels, from memory"),
        find: self_raising,
    },
    Check { rule: Rule::new("osmotolerant-advised", "Such a yeast bears sugar better.", TRADE), find: osmotolerant },
];

fn yeast_missing(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let chemical = a.formula.lines.iter().any(|l| {
        l.ingredient.family == Family::LeavenChemical || l.ingredient.is(Fact::SelfRaising) || (l.in_dough() && l.ingredient.is(Fact::Soda))
    });
    let shaped_flat = a.formula.pieces.as_ref().and_then(|p| p.shape) == Some(crate::oven::Shape::Flat);
    if !has_flour(a)
        || a.yeast_instant_pct.likely > 0.0
        || a.leaven_flour_pct.likely > 0.0
        || chemical
        || shaped_flat
        || a.formula.style == Some(StyleId::Flat)
    {
        return Vec::new();
    }
    let kind = a.formula.yeast_kind.unwrap_or(YeastKind::Instant);
    let grams = weighable(a.grams_at(1.0) / tables.pantry.instant_equivalent(kind));
    one(
        Stop,
        "Nothing here makes it rise: no yeast and no leaven.".into(),
        None,
        vec![
            Remedy::new(
                format!("Add {} {}", weight(grams), kind_words(kind)),
                vec![Change::Add { ingredient: kind.ingredient().into(), grams }],
            ),
            Remedy::meant("It is a flat bread"),
        ],
    )
}

const fn kind_words(kind: YeastKind) -> &'static str {
    match kind {
        YeastKind::Instant => "instant yeast",
        YeastKind::Osmotolerant => "sugar-tolerant instant yeast",
        YeastKind::ActiveDry => "active dry yeast",
        YeastKind::Fresh => "fresh yeast",
    }
}

/// The yeast that is too much.
struct Excess {
    line: usize,
    kind: YeastKind,
    grams: f64,
    /// As instant yeast, % of the flour.
    percent: f64,
    /// What this dough takes, % of the flour.
    usual: (f64, f64),
}

fn excess(a: &Analysis<'_>) -> Option<Excess> {
    let (line, grams) = main_line(a, |l| l.ingredient.yeast_kind().is_some())?;
    let kind = a.formula.lines.get(line)?.ingredient.yeast_kind()?;
    let (low, high) = a.style.yeast_instant;
    Some(Excess { line, kind, grams, percent: a.yeast_instant_pct.likely, usual: (low, high.max(0.25)) })
}

fn yeast_high(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let Some(Excess { line, kind, grams, percent, usual: (low, high) }) = excess(a) else { return Vec::new() };
    if percent <= 2.5 * high || !has_flour(a) {
        return Vec::new();
    }
    let fits = |p: f64| p >= low * 0.8 && p <= high * 1.2;
    let mut message = format!(
        "{} of {} is {} % as instant yeast. This dough takes {}–{} %.",
        weight(grams),
        kind_words(kind),
        show_percent(percent),
        show_percent(low),
        show_percent(high)
    );
    let mut remedies = Vec::new();
    if fits(percent / 10.0) {
        message += &format!(" Ten times less, {}, would fit: was a point lost?", weight(grams / 10.0));
        remedies.push(Remedy::new(format!("Use {}", weight(weighable(grams / 10.0))), vec![set(a, line, grams / 10.0)]));
    }
    let force = |kind| tables.pantry.instant_equivalent(kind);
    if kind != YeastKind::Fresh && fits(percent * force(YeastKind::Fresh) / force(kind)) {
        message += " Or was fresh yeast meant?";
        remedies.push(Remedy::new("It is fresh yeast", vec![Change::Ingredient { line, ingredient: "yeast-fresh".into() }]));
    }
    if remedies.is_empty() {
        let usual = grams * high / percent;
        remedies.push(Remedy::new(format!("Make it {}", weight(weighable(usual))), vec![set(a, line, usual)]));
    }
    remedies.push(Remedy::meant("Meant so"));
    one(Stop, message, Some(line), remedies)
}

fn yeast_much(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let Some(Excess { line, kind, grams, percent, usual: (_, high) }) = excess(a) else { return Vec::new() };
    if percent <= 1.3 * high || percent > 2.5 * high {
        return Vec::new();
    }
    let usual = grams * high / percent;
    one(
        Caution,
        format!(
            "Much yeast: {} of {} is {} % as instant. It will be quick and taste of yeast.",
            weight(grams),
            kind_words(kind),
            show_percent(percent)
        ),
        Some(line),
        vec![Remedy::new(format!("Make it {}", weight(weighable(usual))), vec![set(a, line, usual)]), Remedy::meant("Meant so")],
    )
}

fn yeast_tiny(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let tiny = a.formula.lines.iter().enumerate().filter(|(_, l)| l.ingredient.yeast_kind().is_some() && l.grams.likely < 0.5);
    tiny.map(|(i, l)| Found {
        severity: Note,
        message: format!("A kitchen scale cannot weigh {}: dissolve more than you need and use a part of it.", weight(l.grams.likely)),
        line: Some(i),
        remedies: Vec::new(),
    })
    .collect()
}

/// Yeast below this share of the flour, as instant, sets no clock beside a leaven.
const SOME_YEAST_PCT: f64 = 0.1;
/// Leaven with less of the flour than this only flavours.
const SOME_LEAVEN_PCT: f64 = 3.0;

fn yeast_and_leaven(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if a.yeast_instant_pct.likely < SOME_YEAST_PCT || a.leaven_flour_pct.likely < SOME_LEAVEN_PCT {
        return Vec::new();
    }
    let line = main_line(a, |l| l.ingredient.yeast_kind().is_some()).map(|l| l.0);
    one(Note, "Yeast sets the clock here; the leaven gives taste.".into(), line, vec![Remedy::meant("Meant so")])
}

fn chemical(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let is = |l: &Line| l.ingredient.family == Family::LeavenChemical || l.ingredient.is(Fact::Soda);
    let Some((line, _)) = main_line(a, is) else { return Vec::new() };
    if a.yeast_instant_pct.likely <= 0.0 || a.style.id == StyleId::GlutenFree {
        return Vec::new();
    }
    let name = name_of(a, line);
    one(
        Caution,
        format!("{name} beside yeast? “Levure chimique” and “Backpulver” are baking powder."),
        Some(line),
        vec![Remedy::new("It is yeast", vec![Change::Ingredient { line, ingredient: "yeast-instant".into() }]), Remedy::meant("Keep both")],
    )
}

fn self_raising(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let is = |l: &Line| l.ingredient.is(Fact::SelfRaising);
    let risen = a.yeast_instant_pct.likely > 0.0 || a.leaven_flour_pct.likely > 0.0;
    let Some((line, _)) = main_line(a, is).filter(|_| risen && share(a, is) > 10.0) else { return Vec::new() };
    one(
        Caution,
        "Self-raising flour holds baking powder and, in some countries, salt.".into(),
        Some(line),
        vec![Remedy::new("Use plain flour", vec![Change::Ingredient { line, ingredient: "wheat-ap".into() }]), Remedy::meant("Keep it")],
    )
}

fn osmotolerant(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let ordinary = |l: &Line| matches!(l.ingredient.yeast_kind(), Some(YeastKind::Instant | YeastKind::ActiveDry));
    let Some((line, now)) = main_line(a, ordinary).filter(|_| a.sugar_pct.likely >= 10.0) else { return Vec::new() };
    let much = weighable(now * a.style.yeast_instant.1 / a.yeast_instant_pct.likely.max(0.01));
    let instead = if much > now * 1.05 { format!(" With ordinary yeast use {}.", weight(much)) } else { String::new() };
    one(
        if a.sugar_pct.likely > 20.0 { Caution } else { Note },
        format!("Over 10 % sugar, a sugar-tolerant yeast rises sooner.{instead}"),
        Some(line),
        vec![
            Remedy::new("Sugar-tolerant yeast", vec![Change::Ingredient { line, ingredient: "yeast-osmotolerant".into() }]),
            Remedy::meant("Keep the ordinary"),
        ],
    )
}
