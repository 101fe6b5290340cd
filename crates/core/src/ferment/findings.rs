//! What is odd about a rise: too warm, too cold, too little water for its sugar.

use super::{EventKind, Forecast, Rise};
use crate::{
    findings::{
        Finding, Rule,
        Severity::{self, Caution, Stop},
        rule,
    },
    measure::{celsius, degrees},
};

/// So much sugar and salt in so little water that the yeast starves.
pub(crate) const DENSE_SYRUP: Rule = Rule::new(
    "dough-dense-syrup",
    "Sugar and salt hold the water: what is left is a syrup in which yeast starves.",
    "rise model, estimate",
);

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    Rule::new("not-ripe", "Yeast hardly works in the cold.", "rise model, estimate"),
    Rule::new("place-hot", concat!("Above ", celsius!(45), " yeast dies in minutes."), "rise model, estimate"),
    Rule::new("dough-warm", "Yeast and bacteria run ahead of the gluten.", "rise model, estimate"),
    DENSE_SYRUP,
    Rule::new("act-after-ripe", "A ripe dough is shaped, not folded.", "rise model, estimate"),
];

const HOT_PLACE_C: f64 = 45.0;
/// A dough this warm races; from the second on it may die. °C.
const WARM_DOUGH_C: (f64, f64) = (30.0, 38.0);
/// More dissolved matter than this, osmol per kg of water, and a dough hardly rises.
pub(crate) const DENSE_OSMOL: f64 = 3.5;

fn finding(rule: &'static Rule, severity: Severity, message: String) -> Finding {
    rule.raised(severity, message, Vec::new())
}

/// Findings on a rise and what comes of it.
#[must_use]
pub fn find(rise: &Rise, f: &Forecast) -> Vec<Finding> {
    let mut found = Vec::new();
    if f.event(EventKind::NotRipe).is_some() {
        found.push(finding(rule!("not-ripe"), Caution, "Not ripe within 7 days: it may not get there. Warmer, or more yeast.".into()));
    }
    for s in rise.stages.iter().filter(|s| s.place_c > HOT_PLACE_C) {
        found.push(finding(rule!("place-hot"), Stop, format!("Yeast dies at {}.", degrees(s.place_c).to(0))));
    }
    if rise.start_c > WARM_DOUGH_C.0 {
        let severity = if rise.start_c > WARM_DOUGH_C.1 { Stop } else { Caution };
        found.push(finding(rule!("dough-warm"), severity, concat!("Warm doughs race and turn sour. Aim for ", celsius!(25), ".").into()));
    }
    if f.body.osmolality > DENSE_OSMOL {
        found.push(finding(rule!("dough-dense-syrup"), Caution, "So little water for this sugar and salt: it may hardly rise.".into()));
    }
    if !f.skipped_acts.is_empty() {
        found.push(finding(rule!("act-after-ripe"), Caution, "Some folds would come after it is ripe: they are left out.".into()));
    }
    found
}
