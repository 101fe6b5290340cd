//! What differs between two formulas: two versions of one bread, or two breads.
//!
//! Lines are compared by their share of the flour, so that the same dough made bigger differs in nothing
//! but its size.

use super::{Analysis, Stage};
use crate::measure::{setting, weight};

/// Shares nearer than this are the same, points of percent.
const SAME_PCT: f64 = 0.05;

/// A line in one formula: grams, and percent of its flour.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Portion {
    /// Grams.
    pub grams: f64,
    /// Percent of all flour; 0 where there is none.
    pub pct: f64,
}

/// A line that differs; nothing on the side where it is not there.
#[derive(Debug, Clone, PartialEq)]
pub struct LineDifference {
    /// Name of the ingredient.
    pub name: String,
    /// When it goes in.
    pub stage: Stage,
    /// Before.
    pub was: Option<Portion>,
    /// After.
    pub is: Option<Portion>,
}

impl LineDifference {
    /// How far the line moved, in points of percent; nothing where it came or went.
    #[must_use]
    pub fn points(&self) -> Option<f64> {
        self.was.zip(self.is).map(|(was, is)| is.pct - was.pct)
    }
}

/// All that differs.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Comparison {
    /// Lines, in the order of the later formula, then those that went.
    pub lines: Vec<LineDifference>,
    /// Figures of the dough that differ: name, before, after, unit.
    pub figures: Vec<(&'static str, f64, f64, &'static str)>,
    /// What else: name, before, after, in words.
    pub other: Vec<(&'static str, String, String)>,
}

impl Comparison {
    /// Whether nothing differs.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.lines.is_empty() && self.figures.is_empty() && self.other.is_empty()
    }
}

/// A figure of the dough that is compared.
struct Figure {
    name: &'static str,
    unit: &'static str,
    /// Nearer than this is the same.
    same: f64,
    of: fn(&Analysis<'_>) -> f64,
}

impl Figure {
    fn differs(&self, a: &Analysis<'_>, b: &Analysis<'_>) -> bool {
        ((self.of)(a) - (self.of)(b)).abs() >= self.same
    }
}

const FIGURES: [Figure; 6] = [
    Figure { name: "dough", unit: "g", same: 0.5, of: |a| a.dough_g.likely },
    Figure { name: "water on flour", unit: "%", same: 0.3, of: |a| a.effective_hydration_pct.likely },
    Figure { name: "salt", unit: "%", same: SAME_PCT, of: |a| a.salt_pct.likely },
    Figure { name: "yeast as instant", unit: "%", same: 0.02, of: |a| a.yeast_instant_pct.likely },
    Figure { name: "flour in the leaven", unit: "%", same: 0.3, of: |a| a.leaven_flour_pct.likely },
    Figure { name: "wholegrain", unit: "%", same: 0.3, of: |a| a.wholegrain_pct },
];

/// Several formulas side by side, the first as the measure.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct SideBySide {
    /// Each line that stands in any of them: name, moment, its portion in each, whether they differ.
    pub lines: Vec<(String, Stage, Vec<Option<Portion>>, bool)>,
    /// Each figure: name, unit, its value in each, whether they differ.
    pub figures: Vec<(&'static str, &'static str, Vec<f64>, bool)>,
}

/// Sets formulas side by side, in the order of the first one's lines.
#[must_use]
pub fn side_by_side(all: &[Analysis<'_>]) -> SideBySide {
    let sums: Vec<Vec<Sum>> = all.iter().map(sums).collect();
    let mut lines: Vec<(String, Stage, Vec<Option<Portion>>, bool)> = Vec::new();
    let mut seen: Vec<(&str, Stage)> = Vec::new();
    for (id, name, stage, _) in sums.iter().flatten() {
        if seen.contains(&(id, *stage)) {
            continue;
        }
        seen.push((id, *stage));
        let portions: Vec<Option<Portion>> = sums.iter().map(|of| of.iter().find(|s| s.0 == *id && s.2 == *stage).map(|s| s.3)).collect();
        let shares = || portions.iter().map(|p| p.map_or(0.0, |p| p.pct));
        let spread = shares().fold(0.0, f64::max) - shares().fold(f64::INFINITY, f64::min);
        lines.push((name.clone(), *stage, portions, spread >= SAME_PCT));
    }
    let figure = |f: &Figure| {
        let differ = all.first().is_some_and(|first| all.iter().any(|a| f.differs(first, a)));
        (f.name, f.unit, all.iter().map(f.of).collect(), differ)
    };
    SideBySide { lines, figures: FIGURES.iter().map(figure).collect() }
}

type Sum = (String, String, Stage, Portion);

/// Lines of one ingredient at one stage are one.
fn sums(a: &Analysis<'_>) -> Vec<Sum> {
    let flour = a.flour_g.likely;
    let mut all: Vec<Sum> = Vec::new();
    for l in &a.formula.lines {
        let grams = l.grams.likely;
        let pct = if flour > 0.0 { 100.0 * grams / flour } else { 0.0 };
        match all.iter_mut().find(|(id, _, stage, _)| *id == l.ingredient.id && *stage == l.stage) {
            Some((_, _, _, p)) => *p = Portion { grams: p.grams + grams, pct: p.pct + pct },
            None => all.push((l.ingredient.id.clone(), l.ingredient.name.clone(), l.stage, Portion { grams, pct })),
        }
    }
    all
}

/// What differs from `was` to `is`.
#[must_use]
pub fn compare(was: &Analysis<'_>, is: &Analysis<'_>) -> Comparison {
    let (before, after) = (sums(was), sums(is));
    let find = |all: &[Sum], id: &str, stage: Stage| all.iter().find(|s| s.0 == id && s.2 == stage).map(|s| s.3);
    let mut lines = Vec::new();
    for (id, name, stage, p) in &after {
        let old = find(&before, id, *stage);
        if old.is_none_or(|o| (o.pct - p.pct).abs() >= SAME_PCT || (p.pct == 0.0 && (o.grams - p.grams).abs() > 0.05)) {
            lines.push(LineDifference { name: name.clone(), stage: *stage, was: old, is: Some(*p) });
        }
    }
    for (id, name, stage, p) in &before {
        if find(&after, id, *stage).is_none() {
            lines.push(LineDifference { name: name.clone(), stage: *stage, was: Some(*p), is: None });
        }
    }
    let (f, g) = (was.formula, is.formula);
    let pieces = |f: &super::Formula| {
        f.pieces.as_ref().map_or_else(String::new, |p| {
            let each = p.piece_g.map(|g| format!(" of {}", weight(g))).unwrap_or_default();
            let pan = p.pan.as_ref().map(|p| format!(" in the {}", p.name)).unwrap_or_default();
            let woven = p.strands.map(|n| format!(" of {n} strands")).unwrap_or_default();
            let further = |p: &super::Pieces| format!(" and {} of {}", p.count, weight(p.piece_g.unwrap_or_default()));
            format!("{}{each}{woven}{pan}{}", p.count, f.further.iter().map(further).collect::<String>())
        })
    };
    let oven = |f: &super::Formula| {
        f.oven.map_or_else(String::new, |o| {
            let at = o.set_c.map(|c| setting(c).to_string()).unwrap_or_default();
            let long =
                o.minutes.map(|(l, h)| if l < h { format!(" {l:.0}–{h:.0} min") } else { format!(" {l:.0} min") }).unwrap_or_default();
            format!("{at}{long}").trim().to_owned()
        })
    };
    let held = |f: &super::Formula| {
        let line = f.held().and_then(|(at, g)| f.lines.get(at).map(|l| (l, g)));
        line.map_or_else(String::new, |(l, g)| format!("{} {}", weight(g), l.ingredient.short_name().to_lowercase()))
    };
    let words = |o: &Option<String>| o.clone().unwrap_or_default();
    let other = [
        ("name", words(&f.name), words(&g.name)),
        ("variant", words(&f.variant), words(&g.variant)),
        ("style", was.style.name.clone(), is.style.name.clone()),
        ("pieces", pieces(f), pieces(g)),
        ("held back", held(f), held(g)),
        ("oven", oven(f), oven(g)),
        ("tags", f.tags.join(", "), g.tags.join(", ")),
        ("note", words(&f.note), words(&g.note)),
    ];
    Comparison {
        lines,
        figures: FIGURES.iter().filter(|f| f.differs(was, is)).map(|f| (f.name, (f.of)(was), (f.of)(is), f.unit)).collect(),
        other: other.into_iter().filter(|x| x.1 != x.2).collect(),
    }
}
