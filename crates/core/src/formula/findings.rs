//! What is wrong with a formula: one row a rule. A threshold stands here and nowhere else.

use super::{Analysis, Line, StyleId};
use crate::{
    Tables,
    findings::{Change, Finding, Remedy, Severity},
    measure::{Band, show, show_grams, show_percent, to_nearest},
    pantry::{Family, YeastKind},
};
use Severity::{Caution, Note, Stop};

/// What a rule saw.
struct Found {
    severity: Severity,
    message: String,
    line: Option<usize>,
    remedies: Vec<Remedy>,
}

/// A rule on a formula.
pub struct Rule {
    /// Fixed name of its finding.
    pub id: &'static str,
    /// Why it matters.
    pub why: &'static str,
    /// Who says so.
    pub source: &'static str,
    find: fn(&Analysis<'_>, &Tables) -> Vec<Found>,
}

const TRADE: &str = "common practice, no source";
const OUNCE_G: f64 = 28.349_523_125;
/// Below this there is no salt worth the name.
const LEAST_SALT_PCT: f64 = 0.3;
const USUAL_SALT_PCT: f64 = 2.0;

/// All rules on a formula.
pub const RULES: &[Rule] = &[
    Rule { id: "flour-missing", why: "Every percent of the trade is counted on the flour.", source: "arithmetic", find: flour_missing },
    Rule { id: "salt-missing", why: "Without salt bread is bland and its dough rises fast.", source: TRADE, find: salt_missing },
    Rule { id: "salt-low", why: "Coarse salt spooned as if it were fine weighs half.", source: TRADE, find: salt_low },
    Rule { id: "salt-high", why: "Salt draws water from the yeast; above 3 % bread is hard to eat.", source: TRADE, find: salt_high },
    Rule { id: "yeast-missing", why: "Nothing in it makes gas.", source: "arithmetic", find: yeast_missing },
    Rule {
        id: "yeast-high",
        why: "40 g for 4 g is the usual slip; fresh yeast weighs three times instant.",
        source: "styles table, common practice, no source",
        find: yeast_high,
    },
    Rule { id: "yeast-much", why: "Much yeast is quick, tastes of yeast, and the bread is stale sooner.", source: TRADE, find: yeast_much },
    Rule { id: "yeast-tiny", why: "A kitchen scale shows whole or half grams.", source: "scale step of 1 g or 0.1 g", find: yeast_tiny },
    Rule {
        id: "liquid-missing",
        why: "Flour needs about half its weight of water to become a dough.",
        source: "arithmetic",
        find: liquid_missing,
    },
    Rule {
        id: "hydration-low",
        why: "A dry dough tears and stays small.",
        source: "styles and flours tables, common practice, no source",
        find: hydration_low,
    },
    Rule {
        id: "hydration-high",
        why: "A dough this wet cannot be shaped.",
        source: "styles and flours tables, common practice, no source",
        find: hydration_high,
    },
    Rule {
        id: "cups-uncertain",
        why: "A scooped cup of flour holds a quarter more than a spooned one.",
        source: "Adams 1975, cup weights, from memory",
        find: cups_uncertain,
    },
    Rule {
        id: "sugar-slows-yeast",
        why: "Sugar binds the water the yeast needs.",
        source: "osmotic effect; size by the rise model",
        find: sugar_slows,
    },
    Rule {
        id: "leaven-hydration-assumed",
        why: "A stiff leaven brings more flour and less water than a liquid one.",
        source: TRADE,
        find: leaven_assumed,
    },
    Rule { id: "duplicate-ingredient", why: "A line copied twice doubles it.", source: "reader's rule", find: duplicate },
    Rule {
        id: "gluten-in-gf",
        why: "The formula is said to be gluten-free.",
        source: "Reg. (EU) 828/2014 (20 mg/kg), from memory",
        find: gluten_in_gf,
    },
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
        id: "piece-unit",
        why: "1 oz is 28.35 g; a bun weighs 40 to 150 g, a roll 50 to 120 g.",
        source: "NIST Handbook 44, from memory; sizes common practice, no source",
        find: piece_unit,
    },
    Rule { id: "piece-sum-mismatch", why: "Pieces times their weight is the dough.", source: "arithmetic", find: piece_sum },
];

/// Every finding on the formula that was not answered, in the order of [`RULES`].
#[must_use]
pub fn find(a: &Analysis<'_>, tables: &Tables) -> Vec<Finding> {
    if a.formula.lines.is_empty() {
        return Vec::new();
    }
    let open = RULES.iter().filter(|r| !a.formula.accepted.iter().any(|id| id == r.id));
    let finding = |r: &Rule, f: Found| Finding {
        id: r.id,
        why: r.why,
        source: r.source,
        severity: f.severity,
        message: f.message,
        line: f.line,
        step: None,
        source_line: None,
        remedies: f.remedies,
    };
    open.flat_map(|r| (r.find)(a, tables).into_iter().map(move |f| finding(r, f))).collect()
}

fn one(severity: Severity, message: String, line: Option<usize>, remedies: Vec<Remedy>) -> Vec<Found> {
    vec![Found { severity, message, line, remedies }]
}

/// Grams as a scale shows them, so that the button and the weight it sets agree.
fn weighable(grams: f64) -> f64 {
    to_nearest(grams, if grams >= 10.0 { 1.0 } else { 0.1 })
}

fn set(a: &Analysis<'_>, line: usize, grams: f64) -> Change {
    let interval = a.formula.lines.get(line).is_some_and(|l| !l.grams.is_exact());
    Change::Grams { line, grams: Band::exact(weighable(grams)), interval }
}

/// The heaviest dough line of a kind: the one a remedy changes.
fn main_line(a: &Analysis<'_>, is: impl Fn(&Line) -> bool) -> Option<(usize, f64)> {
    let weights = a.formula.lines.iter().enumerate().filter(|(_, l)| l.in_dough() && is(l));
    weights.map(|(i, l)| (i, l.grams.likely)).max_by(|x, y| x.1.total_cmp(&y.1))
}

fn has_flour(a: &Analysis<'_>) -> bool {
    a.flour_g.likely > 0.0
}

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
        vec![Remedy::new(format!("Add {} g bread flour", show_grams(grams)), vec![Change::Add { ingredient: "wheat-bread", grams }])],
    )
}

fn salt_missing(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if !has_flour(a) || a.salt_pct.likely >= LEAST_SALT_PCT {
        return Vec::new();
    }
    let grams = weighable(a.grams_at(USUAL_SALT_PCT));
    let message =
        format!("No salt. Most doughs take about 2 %: {} g here. Without it the bread is bland and rises fast.", show_grams(grams));
    let line = main_line(a, |l| l.ingredient.family == Family::Salt);
    let label = format!("Add {} g", show_grams(grams));
    let change = line.map_or(Change::Add { ingredient: "salt-fine", grams }, |(i, _)| set(a, i, grams));
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
    let label = format!("Make it {} %, {} g", show_percent(percent), show_grams(grams));
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

fn yeast_missing(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let chemical = a.formula.lines.iter().any(|l| {
        l.ingredient.family == Family::LeavenChemical
            || l.ingredient.id == "wheat-self-raising"
            || (l.in_dough() && l.ingredient.id.starts_with("baking-soda"))
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
    let grams = weighable(a.grams_at(1.0) * instant_grams(kind));
    one(
        Stop,
        "Nothing here makes it rise: no yeast and no leaven.".into(),
        None,
        vec![
            Remedy::new(
                format!("Add {} g {}", show_grams(grams), kind_words(kind)),
                vec![Change::Add { ingredient: kind.ingredient(), grams }],
            ),
            Remedy::meant("It is a flat bread"),
        ],
    )
}

/// Grams of a kind that raise as much as one gram of instant yeast.
const fn instant_grams(kind: YeastKind) -> f64 {
    match kind {
        YeastKind::Instant | YeastKind::Osmotolerant => 1.0,
        YeastKind::ActiveDry => 1.25,
        YeastKind::Fresh => 3.0,
    }
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

fn yeast_high(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let Some(Excess { line, kind, grams, percent, usual: (low, high) }) = excess(a) else { return Vec::new() };
    if percent <= 2.5 * high || !has_flour(a) {
        return Vec::new();
    }
    let fits = |p: f64| p >= low * 0.8 && p <= high * 1.2;
    let mut message = format!(
        "{} g of {} is {} % as instant yeast. This dough takes {}–{} %.",
        show_grams(grams),
        kind_words(kind),
        show_percent(percent),
        show_percent(low),
        show_percent(high)
    );
    let mut remedies = Vec::new();
    if fits(percent / 10.0) {
        message += &format!(" Ten times less, {} g, would fit: was a point lost?", show_grams(grams / 10.0));
        remedies.push(Remedy::new(format!("Use {} g", show_grams(weighable(grams / 10.0))), vec![set(a, line, grams / 10.0)]));
    }
    if kind != YeastKind::Fresh && fits(percent / (3.0 * if kind == YeastKind::ActiveDry { 0.8 } else { 1.0 })) {
        message += " Or was fresh yeast meant?";
        remedies.push(Remedy::new("It is fresh yeast", vec![Change::Ingredient { line, ingredient: "yeast-fresh" }]));
    }
    if remedies.is_empty() {
        let usual = grams * high / percent;
        remedies.push(Remedy::new(format!("Make it {} g", show_grams(weighable(usual))), vec![set(a, line, usual)]));
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
            "Much yeast: {} g of {} is {} % as instant. It will be quick and taste of yeast.",
            show_grams(grams),
            kind_words(kind),
            show_percent(percent)
        ),
        Some(line),
        vec![Remedy::new(format!("Make it {} g", show_grams(weighable(usual))), vec![set(a, line, usual)]), Remedy::meant("Meant so")],
    )
}

fn yeast_tiny(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let tiny = a.formula.lines.iter().enumerate().filter(|(_, l)| l.ingredient.yeast_kind().is_some() && l.grams.likely < 0.5);
    tiny.map(|(i, l)| Found {
        severity: Note,
        message: format!(
            "A kitchen scale cannot weigh {} g. Stir 1 g into 100 g of the water and use {} g of that.",
            show_grams(l.grams.likely),
            show_grams(l.grams.likely * 101.0)
        ),
        line: Some(i),
        remedies: Vec::new(),
    })
    .collect()
}

/// Water to pour in or take out so that the dough's wetness moves by `points`.
fn water_by(a: &Analysis<'_>, points: f64) -> Option<(f64, Change)> {
    let grams = to_nearest(a.grams_at(points.abs()).max(1.0), if a.grams_at(points.abs()) >= 20.0 { 5.0 } else { 1.0 });
    match main_line(a, |l| l.ingredient.id == "water").or_else(|| main_line(a, |l| l.ingredient.family == Family::Liquid)) {
        Some((line, now)) => {
            let share = a.formula.lines.get(line).map_or(1.0, |l| l.ingredient.hydration_share).max(0.3);
            let next = now + points.signum() * grams / share;
            (next > 0.0).then(|| (grams, set(a, line, next)))
        }
        None => (points > 0.0).then_some((grams, Change::Add { ingredient: "water", grams })),
    }
}

fn wetter(a: &Analysis<'_>, wanted: f64) -> Vec<Remedy> {
    let points = wanted - compared(a);
    let fix = water_by(a, points).map(|(g, change)| {
        let label = if points > 0.0 { format!("Add {} g water", show_grams(g)) } else { format!("Take {} g off", show_grams(g)) };
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
    if !has_flour(a) || wet <= high + 6.0 {
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
            "By cups all the flour could weigh {}–{} g, so the dough {}–{} % wet. How was the cup filled?",
            show_grams(flour.low),
            show_grams(flour.high),
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

fn sugar_slows(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let tolerant = a.formula.lines.iter().any(|l| l.ingredient.id == "yeast-osmotolerant");
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

fn leaven_assumed(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let assumed = a.formula.lines.iter().enumerate().filter(|(_, l)| l.ingredient.id == "leaven-wheat" || l.ingredient.id == "leaven-rye");
    let told = |l: &Line| l.source.as_deref().is_some_and(|s| s.contains('%'));
    assumed
        .filter(|(_, l)| l.source.is_some() && !told(l))
        .map(|(i, _)| Found {
            severity: Note,
            message: "Leaven taken as half flour, half water.".into(),
            line: Some(i),
            remedies: vec![
                Remedy::new("It is stiff, two thirds flour", vec![Change::Ingredient { line: i, ingredient: "leaven-stiff" }]),
                Remedy::meant("Half and half"),
            ],
        })
        .collect()
}

fn duplicate(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let lines = &a.formula.lines;
    let twice = |(i, l): (usize, &Line)| {
        let first = lines.iter().take(i).position(|f| f.ingredient.id == l.ingredient.id && f.stage == l.stage)?;
        let one = lines.get(first)?;
        let sum = one.grams.plus(l.grams);
        Some(Found {
            severity: Note,
            message: format!(
                "{} stands twice: {} g and {} g. Both are counted.",
                l.ingredient.name,
                show_grams(one.grams.likely),
                show_grams(l.grams.likely)
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

fn gluten_in_gf(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    if !a.formula.gluten_free {
        return Vec::new();
    }
    let holds = a.formula.lines.iter().enumerate().filter(|(_, l)| l.ingredient.gluten == crate::pantry::Gluten::Yes);
    holds
        .map(|(i, l)| Found {
            severity: Stop,
            message: format!("{} holds gluten.", l.ingredient.name),
            line: Some(i),
            remedies: vec![Remedy::new("Take it out", vec![Change::Remove { line: i }])],
        })
        .collect()
}

fn honey_infant(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let honey = a.formula.lines.iter().position(|l| l.ingredient.id == "honey");
    honey.map_or_else(Vec::new, |i| {
        one(
            Note,
            "Honey: not for babies under 12 months, baked or not.".into(),
            Some(i),
            vec![
                Remedy::new("Maple syrup instead", vec![Change::Ingredient { line: i, ingredient: "maple-syrup" }]),
                Remedy::meant("I have read it"),
            ],
        )
    })
}

fn alkali(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let dips = a.formula.lines.iter().enumerate().filter(|(_, l)| l.stage == super::Stage::Finish && l.ingredient.family == Family::Alkali);
    dips.map(|(i, l)| {
        let mild = l.ingredient.id == "baking-soda";
        let message = if mild {
            "A soda bath boils over and is alkaline: spoon the soda in off the heat, no aluminium."
        } else {
            "Lye burns skin and eyes. Goggles, gloves, long sleeves; lye into cold water, never water onto lye; never aluminium."
        };
        let swap = (!mild).then(|| Remedy::new("Use baking soda", vec![Change::Ingredient { line: i, ingredient: "baking-soda" }]));
        Found {
            severity: if mild { Caution } else { Stop },
            message: message.into(),
            line: Some(i),
            remedies: [Some(Remedy::meant("I have read it")), swap].into_iter().flatten().collect(),
        }
    })
    .collect()
}

fn piece_unit(a: &Analysis<'_>, _: &Tables) -> Vec<Found> {
    let Some((count, piece_g)) = a.formula.pieces.as_ref().and_then(|p| p.piece_g.map(|g| (p.count, g))) else { return Vec::new() };
    let text = a.formula.text.as_deref().map(crate::pantry::fold).unwrap_or_default();
    let small = ["bun", "buns", "roll", "rolls"].iter().any(|w| text.split(' ').any(|t| t == *w));
    let ounces = piece_g / OUNCE_G;
    let as_ounces = (ounces - ounces.round()).abs() < 0.01 && (10.0..=400.0).contains(&ounces);
    let odd = (piece_g > 400.0 && count >= 4) || (small && piece_g > 300.0) || !(10.0..=5000.0).contains(&piece_g);
    // Four loaves of 800 g are four loaves, if the dough is there.
    let fits = a.dough_g.likely > 0.0 && (f64::from(count) * piece_g / a.dough_g.likely - 1.0).abs() < 0.05;
    if !odd || (fits && (400.0..=1500.0).contains(&piece_g) && !small) {
        return Vec::new();
    }
    let share = a.dough_g.likely / f64::from(count);
    let (message, grams) = if as_ounces {
        (format!("{} oz is {} g for one piece. {} g meant?", show(ounces, 0), show_grams(piece_g), show(ounces, 0)), ounces.round())
    } else {
        (
            format!(
                "{} g for one of {count} pieces is out of the usual. This dough makes {count} × {} g.",
                show_grams(piece_g),
                show_grams(share)
            ),
            share.round().max(1.0),
        )
    };
    one(
        Stop,
        message,
        None,
        vec![
            Remedy::new(format!("Read as {} g", show_grams(grams)), vec![Change::Pieces { count, piece_g: grams }]),
            Remedy::meant("Keep it"),
        ],
    )
}

fn piece_sum(a: &Analysis<'_>, tables: &Tables) -> Vec<Found> {
    let Some((count, piece_g)) = a.formula.pieces.as_ref().and_then(|p| p.piece_g.map(|g| (p.count, g))) else { return Vec::new() };
    let (needs, dough) = (f64::from(count) * piece_g, a.dough_g.likely);
    if dough <= 0.0 || (needs - dough).abs() <= (0.05 * dough).max(0.4 * piece_g) || !piece_unit(a, tables).is_empty() {
        return Vec::new();
    }
    let each = (dough / f64::from(count)).floor().max(1.0);
    let mut remedies = vec![Remedy::new(format!("{count} × {} g", show_grams(each)), vec![Change::Pieces { count, piece_g: each }])];
    let whole = (dough / piece_g).floor();
    if (1.0..=500.0).contains(&whole) && (whole - f64::from(count)).abs() > 0.5 {
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500")]
        let n = whole as u32;
        remedies.push(Remedy::new(
            format!("{n} × {} g, {} g over", show_grams(piece_g), show_grams(dough - whole * piece_g)),
            vec![Change::Pieces { count: n, piece_g }],
        ));
    }
    let all = a.formula.lines.iter().enumerate().map(|(line, l)| Change::Grams {
        line,
        grams: l.grams.times(needs / dough),
        interval: !l.grams.is_exact(),
    });
    remedies.push(Remedy::new(format!("Make {} g of dough", show_grams(needs)), all.collect()));
    remedies.push(Remedy::meant("Keep it"));
    one(
        Caution,
        format!("{count} × {} g needs {} g; this makes {} g.", show_grams(piece_g), show_grams(needs), show_grams(dough)),
        None,
        remedies,
    )
}
