//! What is odd about a rise: too warm, too cold, too little water for its sugar.

use super::{EventKind, Forecast, Rise};
use crate::{
    findings::{
        Finding,
        Severity::{self, Caution, Stop},
    },
    measure::show,
};

/// Ids of the findings raised here, with their reason.
pub const RULES: &[(&str, &str)] = &[
    ("not-ripe", "Yeast hardly works in the cold."),
    ("place-hot", "Above 45 °C yeast dies in minutes."),
    ("dough-warm", "Yeast and bacteria run ahead of the gluten."),
    ("dough-dense-syrup", "Sugar and salt bind the water the yeast needs."),
    ("act-after-ripe", "A ripe dough is shaped, not folded."),
];

const HOT_PLACE_C: f64 = 45.0;
/// A dough this warm races; from the second on it may die. °C.
const WARM_DOUGH_C: (f64, f64) = (30.0, 38.0);
const DENSE_OSMOL: f64 = 3.5;

fn finding(id: &'static str, severity: Severity, message: String) -> Finding {
    let (_, why) = RULES.iter().find(|r| r.0 == id).copied().unwrap_or((id, ""));
    Finding { id, severity, message, why, source: "docs/science.md", line: None, step: None, source_line: None, remedies: Vec::new() }
}

/// Findings on a rise and what comes of it.
#[must_use]
pub fn find(rise: &Rise, f: &Forecast) -> Vec<Finding> {
    let mut found = Vec::new();
    if f.event(EventKind::NotRipe).is_some() {
        found.push(finding("not-ripe", Caution, "Not ripe within 7 days: it may not get there. Warmer, or more yeast.".into()));
    }
    for s in rise.stages.iter().filter(|s| s.place_c > HOT_PLACE_C) {
        found.push(finding("place-hot", Stop, format!("Yeast dies at {} °C.", show(s.place_c, 0))));
    }
    if rise.start_c > WARM_DOUGH_C.0 {
        let severity = if rise.start_c > WARM_DOUGH_C.1 { Stop } else { Caution };
        found.push(finding("dough-warm", severity, "Warm doughs race and turn sour. Aim for 25 °C.".into()));
    }
    if f.body.osmolality > DENSE_OSMOL {
        found.push(finding("dough-dense-syrup", Caution, "So little water for this sugar and salt: it may hardly rise.".into()));
    }
    if !f.skipped_acts.is_empty() {
        found.push(finding("act-after-ripe", Caution, "Some folds would come after it is ripe: they are left out.".into()));
    }
    found
}
