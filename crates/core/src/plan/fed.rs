//! A leaven by when it was fed: too young, at its best, or past it when the dough is mixed.

use super::{PlanAsk, findings::OfPlan, later};
use crate::{
    Tables,
    ferment::{EventKind, Leaven, simulate_leaven},
    findings::{Rule, Severity, rule},
    formula::{Analysis, Line},
    input::{Errors, InputErrors, Pointer},
    measure::{between, degrees, show_minutes},
    pantry::Fact,
};

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    Rule::new("leaven-young", "A leaven raises best at its peak: domed, full of bubbles, just before it sinks.", "leaven model"),
    Rule::new("leaven-old", "Past its peak it has spent its flour: sour, slack, and weak.", "leaven model"),
];

/// Before this part of the early end of its peak it is young; after that part of the late end, old.
const YOUNG: f64 = 0.75;
const OLD: f64 = 1.5;

/// When and how a leaven was fed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fed {
    /// Hours before the dough is mixed.
    pub hours: f64,
    /// Parts of fresh flour to one part of seed.
    pub parts: f64,
    /// Where it stood, °C.
    pub place_c: f64,
}

/// The ready leaven of a dough, if it holds one.
#[must_use]
pub fn ready_leaven<'a>(a: &'a Analysis<'_>) -> Option<&'a Line> {
    a.formula.lines.iter().find(|l| l.in_dough() && l.ingredient.is(Fact::Leaven))
}

impl Fed {
    /// Checks its figures.
    ///
    /// # Errors
    /// Each one out of range, named as in the plan's form.
    pub fn check(&self) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        errors.range(root.at("fed_h"), self.hours, 0.0, 96.0, "A leaven is fed between 0 and 96 hours before the mix.");
        errors.range(root.at("fed_parts"), self.parts, 0.2, 40.0, "Between 0.2 and 40 parts of flour to one part of seed.");
        errors.range(root.at("fed_c"), self.place_c, 2.0, 40.0, between!("A leaven ripens", 2, 40, celsius));
        errors.finish(())
    }

    /// When it peaks, minutes after feeding: early, likely, late; `None` where it never does.
    fn peak(&self, line: &Line, tables: &Tables) -> Option<(f64, f64, f64)> {
        let (class, hydration) = line.ingredient.leaven_flour();
        let seed = 10.0;
        let leaven = Leaven {
            seed,
            water: seed * self.parts * hydration / 100.0,
            flour: seed * self.parts,
            flour_mix: vec![(class.to_owned(), 100.0)],
            seed_hydration_pct: hydration,
            seed_state: None,
            place_c: self.place_c,
            start_c: None,
            hours: None,
            // A few grams more or less only change how fast the jar takes the room's warmth.
            mass_g: line.grams.likely.clamp(20.0, 5000.0),
            rate: 1.0,
        };
        let forecast = simulate_leaven(&leaven, &tables.ferment).ok()?;
        let peak = forecast.event(EventKind::LeavenPeak)?;
        Some((peak.min_low.unwrap_or(peak.min), peak.min, peak.min_high.unwrap_or(peak.min)))
    }

    /// Whether the leaven is young or old when this plan mixes it, and the plan that waits for it.
    #[must_use]
    pub fn find(&self, ask: &PlanAsk, a: &Analysis<'_>, tables: &Tables) -> Option<OfPlan> {
        let line = ready_leaven(a)?;
        let (low, likely, high) = self.peak(line, tables)?;
        let since = 60.0 * self.hours;
        let of = |rule: &'static Rule, message: String| rule.raised(Severity::Caution, message, Vec::new());
        if since < YOUNG * low {
            let wait = likely - since;
            let sentence = format!(
                "Too young: not yet domed, few bubbles. At {} it is at its best about {} after feeding, {} from the planned mix on.",
                degrees(self.place_c).to(1),
                show_minutes(likely),
                show_minutes(wait)
            );
            let instead = PlanAsk { start: later(ask.start, wait), ..ask.clone() };
            return Some(OfPlan {
                finding: of(rule!("leaven-young"), sentence),
                instead: Some((format!("Mix {} later", show_minutes(wait)), instead)),
            });
        }
        if since > OLD * high {
            let sentence = format!(
                "Past its peak: sunk, with a sharp smell. It was at its best about {} after feeding. It makes a sour, slack dough: feed it again, or use it and give the dough a fifth less of its first rise.",
                show_minutes(likely)
            );
            let instead = PlanAsk { start: later(ask.start, likely), ..ask.clone() };
            let words = format!("Feed it now, mix {} later", show_minutes(likely));
            return Some(OfPlan { finding: of(rule!("leaven-old"), sentence), instead: Some((words, instead)) });
        }
        None
    }
}
