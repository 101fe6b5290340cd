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
    findings::{Finding, Remedy, Severity},
    formula::Analysis,
};

/// Ids of the findings raised here, with their reason and source, in the order they are raised.
pub const RULES: &[(&str, &str, &str)] = &[
    ("unread-amount", "An amount that is not read is not in the percentages.", "reader's rule"),
    ("salt-kind-unknown", "Flakes pack loosely.", "salt rows of the pantry"),
    ("alternative-open", "The recipe leaves a choice.", "reader's rule"),
    ("water-too-hot", "Yeast dies between 50 and 60 °C.", "common practice, no source"),
    ("oven-setting-unknown", "Bread bakes between 100 and 300 °C.", "common practice, no source"),
    ("oven-unit", "°C = (°F − 32) × 5/9; home ovens end at 250–300 °C.", "definition; dials common practice, no source"),
    ("oven-unit-low", "°C = (°F − 32) × 5/9; 180 °F is no bread setting.", "definition"),
    ("oven-unit-gas", "Gas marks run from 1 to 9.", "common practice, no source"),
    ("oven-in-words", "A word for an oven is a band of settings.", "common practice, no source"),
    ("oven-unit-none", "300–550 °F and 140–290 °C do not overlap for bread.", "common practice, no source"),
    ("temperature-mismatch", "Two scales for one setting should agree.", "conversion; trade tables round by up to 7 °C"),
    ("cool-for-bread", "Bread bakes between 165 and 250 °C.", "common practice, no source"),
    ("hotter-than-most-home-ovens", "The dial may end before.", "common practice, no source"),
    ("fan-unclear", "A fan oven bakes like one 15 to 20 °C hotter without.", "common practice, no source"),
    ("paper-limit", "Paper chars above its printed limit; coatings and silicone end at 230 °C.", "pack labels"),
    ("crust-ahead-of-core", "Sugar browns early; a big piece takes long.", "oven model; common practice, no source"),
    ("oven-temp-missing", "The setting decides crust and time.", "oven model"),
    ("bake-time-missing", "Without a time one looks too late.", "oven model"),
    ("flour-missing", "The amounts stand in the steps, not in a list.", "reader's rule"),
    ("preheat-missing", "An oven takes 15 to 45 minutes to be hot right through.", "common practice, no source"),
    ("steam-missing", "Without steam the skin sets early and tears.", "common practice, no source"),
    ("step-shape-missing", "Pieces are told, their shaping is not.", "reader's rule"),
    ("no-bulk", "The first rise brings flavour and an even crumb.", "common practice; schools differ"),
    ("retard-long", "Acid and enzymes work on in the cold.", "common practice, no source"),
    ("lid-late", "The dough rises on in the oven.", "common practice, no source"),
    ("slice-early", "The crumb sets while it cools.", "common practice, no source"),
    ("time-by-clock-only", "A cool kitchen takes twice as long as a warm one.", "rise model"),
    ("salt-on-yeast", "A minute does no harm, an hour wet together does.", "common practice, no source; schools differ"),
    (
        "raw-egg-time",
        "Egg and milk spoil in the warm. Follow your local food safety authority; it may ask for more.",
        "two-hour/four-hour rule (FSANZ), from memory",
    ),
    ("divided-mismatch", "The parts of a divided line should make the whole.", "arithmetic"),
    ("leaven-in-cups", "A cup of leaven is 150 g risen or 240 g stirred down.", "common practice, no source"),
    ("flours-not-100", "In baker's percent all the flour is 100.", "baker's percent"),
];

/// A method of fewer steps is a hint, not a method: what it leaves out says nothing.
const WHOLE_METHOD: usize = 4;

/// A finding at a step.
type Here = (usize, Finding);

fn finding(id: &'static str, severity: Severity, message: String, remedies: Vec<Remedy>) -> Finding {
    let (_, why, source) = RULES.iter().find(|r| r.0 == id).copied().unwrap_or((id, "", ""));
    Finding { id, severity, message, why, source, line: None, step: None, source_line: None, remedies }
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
