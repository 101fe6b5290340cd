//! What is wrong with a formula: one row a rule. A threshold stands here and nowhere else.

mod care;
mod gluten_free;
mod leaven;
mod list;
mod pieces;
mod rich;
mod salt;
mod slowing;
mod wetness;
mod yeast;

pub(crate) use wetness::FLOUR_MISSING;

use super::{Analysis, Line, Stage, StyleId};
use crate::{
    Tables,
    findings::{Change, Finding, Remedy, Rule, Severity},
    measure::{Band, show, show_percent, to_nearest, weighable},
    pantry::{Fact, Family, Gluten, Pan, YeastKind},
};
use Severity::{Caution, Note, Stop};

/// What a rule saw.
struct Found {
    severity: Severity,
    message: String,
    line: Option<usize>,
    remedies: Vec<Remedy>,
}

/// A rule on a formula, and what looks for it.
struct Check {
    rule: Rule,
    find: fn(&Analysis<'_>, &Tables) -> Vec<Found>,
}

const TRADE: &str = "common practice, no source";
const OUNCE_G: f64 = 28.349_523_125;
/// Below this there is no salt worth the name.
const LEAST_SALT_PCT: f64 = 0.3;
const USUAL_SALT_PCT: f64 = 2.0;

/// All rules on a formula, in the order in which their findings are told.
fn checks() -> impl Iterator<Item = &'static Check> {
    [
        wetness::CHECKS,
        salt::CHECKS,
        yeast::CHECKS,
        slowing::CHECKS,
        rich::CHECKS,
        leaven::CHECKS,
        list::CHECKS,
        gluten_free::CHECKS,
        pieces::CHECKS,
        care::CHECKS,
    ]
    .into_iter()
    .flatten()
}

/// The rules of the findings raised here.
pub fn rules() -> impl Iterator<Item = &'static Rule> {
    checks().map(|c| &c.rule)
}

/// Every finding on the formula that was not answered, in the order of [`rules`].
#[must_use]
pub fn find(a: &Analysis<'_>, tables: &Tables) -> Vec<Finding> {
    if a.formula.lines.is_empty() {
        return Vec::new();
    }
    let open = checks().filter(|c| !a.formula.accepted.iter().any(|id| id == c.rule.id));
    let finding = |rule: &Rule, f: Found| Finding { line: f.line, ..rule.raised(f.severity, f.message, f.remedies) };
    open.flat_map(|c| (c.find)(a, tables).into_iter().map(move |f| finding(&c.rule, f))).collect()
}

fn one(severity: Severity, message: String, line: Option<usize>, remedies: Vec<Remedy>) -> Vec<Found> {
    vec![Found { severity, message, line, remedies }]
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

/// Percent of the flour that the dough lines of a kind weigh.
fn share(a: &Analysis<'_>, is: impl Fn(&Line) -> bool) -> f64 {
    let grams: f64 = a.formula.lines.iter().filter(|l| l.in_dough() && is(l)).map(|l| l.grams.likely).sum();
    if has_flour(a) { 100.0 * grams / a.flour_g.likely } else { 0.0 }
}

/// Whether the line as it was written says one of these words.
fn says(line: &Line, words: &[&str]) -> bool {
    let source = line.source.as_deref().map(str::to_lowercase).unwrap_or_default();
    words.iter().any(|w| source.contains(w))
}

/// Every dough line of a kind, with its place.
fn dough_lines<'a>(a: &'a Analysis<'_>, is: impl Fn(&Line) -> bool + 'a) -> impl Iterator<Item = (usize, &'a Line)> + 'a {
    a.formula.lines.iter().enumerate().filter(move |(_, l)| l.in_dough() && is(l))
}

/// The name of the ingredient on a line.
fn name_of<'a>(a: &'a Analysis<'_>, line: usize) -> &'a str {
    a.formula.lines.get(line).map_or("", |l| &l.ingredient.name)
}
