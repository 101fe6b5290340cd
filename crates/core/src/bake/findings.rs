//! What to mind while a bake runs: an oven lit too late, a loaf cut too early.

use jiff::Timestamp;

use super::BakeState;
use crate::{
    findings::{Finding, Rule, SLICE_EARLY, Severity, rule},
    knead::findings::KNEAD_HOT,
    measure::{degrees, show_minutes},
    plan::{StepKind, minutes_between},
};

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    Rule::new("preheat-late", "A cold oven bakes a pale, flat loaf.", "oven model; common practice, no source"),
    Rule::new("event-set-aside", "A reading on the wrong scale or an act noted days late would make nonsense of the course.", "rise model"),
    SLICE_EARLY,
    KNEAD_HOT,
];

/// A few minutes do not matter.
const GRACE_MIN: f64 = 5.0;
/// Cut before this part of its cooling, a loaf was still steaming.
const STEAMING: f64 = 0.8;

fn finding(rule: &'static Rule, severity: Severity, message: String) -> Finding {
    rule.raised(severity, message, Vec::new())
}

impl BakeState {
    /// What to mind now.
    #[must_use]
    pub fn findings(&self, now: Timestamp) -> Vec<Finding> {
        let mut found = Vec::new();
        if !self.set_aside.is_empty() {
            found.push(finding(
                rule!("event-set-aside"),
                Severity::Caution,
                "No dough can have gone as it stands in the log. What is not reckoned with is marked there; take back what was a slip, that or what was noted before it.".to_owned(),
            ));
        }
        if let Some((c, fridge)) = self.bowl.too_warm {
            let chill = fridge.map_or_else(|| "somewhere cooler".to_owned(), |minutes| format!("{} in the fridge", show_minutes(minutes)));
            let words =
                format!("{} is too warm for it: {chill}, or a shorter first rise. The hours here go by it.", degrees(c).to(0).short());
            found.push(finding(rule!("knead-hot"), Severity::Caution, words));
        }
        let noted = |kind: StepKind| self.done.iter().find(|d| d.step.kind == kind && d.noted).map(|d| d.at);
        let unlit = self.next.iter().any(|s| s.kind == StepKind::OvenOn);
        let left = minutes_between(now, self.course.load);
        let late = self.course.oven.preheat_min - left;
        if unlit && noted(StepKind::Load).is_none() && late > GRACE_MIN {
            let when = if left <= GRACE_MIN { "now".to_owned() } else { format!("in {}", show_minutes(left)) };
            found.push(finding(
                rule!("preheat-late"),
                Severity::Caution,
                format!(
                    "The oven will not be hot in time. The bread wants it {when}, and it takes {}: light it, and keep the dough cool until then.",
                    show_minutes(self.course.oven.preheat_min)
                ),
            ));
        }
        if let (Some(out), Some(cut)) = (noted(StepKind::Out), noted(StepKind::Ready))
            && minutes_between(out, cut) < STEAMING * self.course.oven.slice_min
        {
            found.push(finding(
                rule!("slice-early"),
                Severity::Note,
                format!(
                    "Cut {} after the oven, still steaming: a gummy crumb comes from that. It wanted {}.",
                    show_minutes(minutes_between(out, cut)),
                    show_minutes(self.course.oven.slice_min)
                ),
            ));
        }
        found
    }
}
