//! What is wrong with the steps of a recipe and with what could not be read.

mod baking;
mod course;
mod lines;
mod rises;
mod setting;
mod told;

pub use lines::of_lines;
pub use rises::ToldRise;

use super::{Reading, Step, steps::StepKind};
use crate::{
    Tables,
    findings::{Finding, Remedy, Rule, SLICE_EARLY, Severity},
    formula::{Analysis, FLOUR_MISSING},
    measure::{between, grams, kelvins},
    oven,
    safety::EGG_MILK_WARM,
};

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    Rule::new("unread-amount", "An amount that is not read is not in the percentages.", "reader's rule"),
    Rule::new("salt-kind-unknown", "Flakes pack loosely.", "salt rows of the pantry"),
    Rule::new("alternative-open", "The recipe leaves a choice.", "reader's rule"),
    Rule::new("oven-setting-unknown", between!("Bread bakes", 100, 300, dial), "common practice, no source"),
    Rule::new("oven-unit", "°C = (°F − 32) × 5/9; home ovens end at 250–300 °C.", "definition; dials common practice, no source"),
    Rule::new("oven-unit-low", "°C = (°F − 32) × 5/9; 180 °F is no bread setting.", "definition"),
    Rule::new("oven-unit-gas", "Gas marks run from 1 to 9.", "common practice, no source"),
    Rule::new("oven-in-words", "A word for an oven is a band of settings.", "common practice, no source"),
    Rule::new("oven-unit-none", "300–550 °F and 140–290 °C do not overlap for bread.", "common practice, no source"),
    Rule::new(
        "temperature-mismatch",
        "Two scales for one setting should agree.",
        concat!("conversion; trade tables round by up to ", kelvins!(7)),
    ),
    *Rule::of(oven::RULES, "cool-for-bread"),
    *Rule::of(oven::RULES, "hotter-than-most-home-ovens"),
    Rule::new(
        "fan-unclear",
        concat!("A fan oven bakes like one ", kelvins!(15 bare), " to ", kelvins!(20), " hotter without."),
        "common practice, no source",
    ),
    *Rule::of(oven::RULES, "paper-limit"),
    *Rule::of(oven::RULES, "crust-ahead-of-core"),
    Rule::new("oven-temp-missing", "The setting decides crust and time.", "oven model"),
    Rule::new("bake-time-missing", "Without a time one looks too late.", "oven model"),
    FLOUR_MISSING,
    Rule::new("preheat-missing", "An oven takes 15 to 45 minutes to be hot right through.", "common practice, no source"),
    Rule::new("steam-missing", "Without steam the skin sets early and tears.", "common practice, no source"),
    Rule::new("step-shape-missing", "Pieces are told, their shaping is not.", "reader's rule"),
    Rule::new("no-bulk", "The first rise brings flavour and an even crumb.", "common practice; schools differ"),
    Rule::new("retard-long", "Acid and enzymes work on in the cold.", "common practice, no source"),
    Rule::new("lid-late", "The dough rises on in the oven.", "common practice, no source"),
    SLICE_EARLY,
    Rule::new("time-by-clock-only", "A cool kitchen takes twice as long as a warm one.", "rise model"),
    Rule::new("salt-on-yeast", "A minute does no harm, an hour wet together does.", "common practice, no source; schools differ"),
    EGG_MILK_WARM,
    Rule::new("divided-mismatch", "The parts of a divided line should make the whole.", "arithmetic"),
    Rule::new(
        "leaven-in-cups",
        concat!("A cup of leaven is ", grams!(150), " risen or ", grams!(240), " stirred down."),
        "common practice, no source",
    ),
    Rule::new("flours-not-100", "In baker's percent all the flour is 100.", "baker's percent"),
];

/// A method of fewer steps is a hint, not a method: what it leaves out says nothing.
const WHOLE_METHOD: usize = 4;

/// A finding at a step.
type Here = (usize, Finding);

fn finding(rule: &'static Rule, severity: Severity, message: String, remedies: Vec<Remedy>) -> Finding {
    rule.raised(severity, message, remedies)
}

/// Findings at the steps of a recipe, for the formula as it stands now; those it has answered are left out.
#[must_use]
pub fn of_steps(reading: &Reading, a: &Analysis<'_>, tables: &Tables) -> Vec<Finding> {
    let mut found = Vec::new();
    for (i, step) in reading.steps.iter().enumerate() {
        let here = found.len();
        setting::find(step, &mut found);
        at_step(&mut found, here, i, step);
    }
    baking::find(&reading.steps, a, tables, &mut found);
    course::find(reading, a, tables, &mut found);
    found.retain(|f| !a.formula.accepted.iter().any(|id| id == f.id));
    found
}

/// Ties the findings from `from` on to a step.
fn at_step(found: &mut [Finding], from: usize, index: usize, step: &Step) {
    for f in found.iter_mut().skip(from) {
        f.step = Some(index);
        f.source_line = Some(step.source_line);
    }
}

impl Reading {
    /// The step that bakes, with its place.
    #[must_use]
    pub fn baking_step(&self) -> Option<(usize, &Step)> {
        baking_step(&self.steps)
    }
}

/// The step that bakes: the last that says so, else the last with a setting.
fn baking_step(steps: &[Step]) -> Option<(usize, &Step)> {
    let last = |is: &dyn Fn(&Step) -> bool| steps.iter().enumerate().rev().find(|(_, s)| is(s));
    last(&Step::bakes).or_else(|| last(&|s| s.kind() == StepKind::Oven))
}
