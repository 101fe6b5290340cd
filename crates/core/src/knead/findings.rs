//! What is odd about a kneading.

use super::{Kneading, Method, Work};
use crate::{
    findings::{
        Finding, Rule,
        Severity::{self, Caution, Note},
        rule,
    },
    measure::{degrees, show, show_minutes},
};

const TRADE: &str = "common practice, no source";
const MODEL: &str = "kneading model, estimate";

/// A dough that leaves the bowl too warm.
pub(crate) const KNEAD_HOT: Rule = Rule::new("knead-hot", "Friction warms a dough; a warm one races and turns sticky.", MODEL);

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    KNEAD_HOT,
    Rule::new("knead-short", "A weak dough spreads and tears; folds and time make it up.", MODEL),
    Rule::new("knead-long", "Worked too long, the gluten breaks down and the dough turns slack and shiny.", MODEL),
    Rule::new("mixer-overload", "The motor stalls or overheats.", TRADE),
    Rule::new("mixer-underload", "So little dough lies under the hook and is not caught.", TRADE),
    Rule::new("mixer-walks", "A stiff or heavy dough makes a stand mixer walk over the edge.", TRADE),
    Rule::new("butter-early", "Butter coats the flour: the window comes late, and the dough is warm by then.", MODEL),
    Rule::new("salt-never", "Bread without salt is flat, rises too fast and tears.", TRADE),
    Rule::new("autolyse-with-fast-yeast", "A soak with yeast in it is a rise.", TRADE),
    Rule::new("window-not-needed", "Folds, time or the flour itself make the strength.", TRADE),
];

fn finding(rule: &'static Rule, severity: Severity, message: impl Into<String>) -> Finding {
    rule.raised(severity, message.into(), Vec::new())
}

/// Findings on a kneading, in their order.
#[must_use]
pub fn find(w: &Work<'_>, done: &Kneading) -> Vec<Finding> {
    let (n, ask, target) = (&w.k.numbers, &w.ask, done.target);
    let machine = w.row.machine;
    let passive = w.method.is_passive();
    let (flour_most, dough_most, dough_least) = w.takes_g();
    let (batches, grams) = w.batches();
    let mut found = Vec::new();
    if done.dough_c.likely > w.stop_c() {
        let fridge =
            if done.fridge_min > 0.0 { format!("{} in the fridge", show_minutes(done.fridge_min)) } else { "a cooler flour".to_owned() };
        let words = format!("The dough leaves the bowl at {}: colder water, or {fridge}.", degrees(done.dough_c.likely).to(0));
        found.push(finding(rule!("knead-hot"), Caution, words));
    }
    let folds = w.folds.unwrap_or(w.of_style.folds);
    let reaches = if passive { done.development_at_shaping.unwrap_or_default() * target } else { done.gluten + w.fold_gain(folds) };
    if target > 0.0 && reaches < n.short_at * target {
        let sets = w.folds_needed(target - done.gluten).max(1);
        let sets = if sets == 1 { "one set of folds".to_owned() } else { format!("{sets} sets of folds") };
        found.push(finding(rule!("knead-short"), Caution, format!("Weak: {sets} over the rise, or knead on.")));
    }
    let most = (n.over_work + n.over_per_protein * (ask.protein - n.protein_ref)).clamp(n.over_min, n.over_max);
    if machine && done.by_work > most {
        found.push(finding(rule!("knead-long"), Caution, "Stop: rest it cold, fold it gently, give it a shorter first rise."));
    }
    if batches > 1 {
        found.push(finding(rule!("mixer-overload"), Note, format!("Too much at once: {} batches.", show(f64::from(batches), 0))));
    }
    if machine && grams < dough_least {
        found.push(finding(rule!("mixer-underload"), Note, "The hook will not catch so little: by hand."));
    }
    let load = (ask.flour_g / f64::from(batches) / flour_most).max(grams / dough_most);
    let heavy = load >= n.walks_load || ask.h_adj < n.stiff_from;
    if matches!(w.method, Method::PlanetaryMedium | Method::SpiralHigh) && target > 0.0 && heavy {
        found.push(finding(
            rule!("mixer-walks"),
            Caution,
            "It walks: stay with it, or knead on the slow speed. Never reach into the bowl.",
        ));
    }
    if ask.fat_pct >= n.butter_early_pct && !ask.butter_late && target >= n.window_target && !passive {
        found.push(finding(rule!("butter-early"), Note, "Butter after the window: spoon by spoon, once it stretches."));
    }
    if ask.salt_pct <= n.salt_never_pct {
        found.push(finding(rule!("salt-never"), Caution, "No salt goes in."));
    }
    if ask.rest_yeast && ask.yeast_pct >= n.fast_yeast_pct && ask.rest_min > n.fast_rest_min {
        found.push(finding(rule!("autolyse-with-fast-yeast"), Note, "This soak counts as rise: add the yeast after it."));
    }
    if target < n.clears_target || passive {
        found.push(finding(rule!("window-not-needed"), Note, "No window to expect from this dough."));
    }
    found
}
