//! What stands beside a plan's acts wherever it goes: dose, water, places, oven. Sheet and files tell the same.

use cerealis_core::{
    formula::{Formula, oven_of, setting_words},
    kitchen::{Kitchen, Period, Stay},
    measure::{Quantity, degrees, show, weight},
    plan::{Course, OvenPlan, search::dose::Dose},
    water::{WaterAsk, for_formula},
};

use crate::{State, edge::Local};

/// What a plan says of its oven, the same wherever it is told.
#[derive(Debug, Clone)]
pub struct OvenTold {
    /// On the household's dial.
    pub set: String,
    /// Minutes, from and to.
    pub minutes: String,
    /// Degrees inside when done.
    pub core: Quantity,
    /// On or in what.
    pub vessel: &'static str,
    /// Whose setting it is, and why.
    pub words: String,
}

impl OvenTold {
    /// The oven of a plan in a household's kitchen.
    #[must_use]
    pub fn of(oven: &OvenPlan, formula: &Formula, kitchen: &Kitchen, state: &State) -> Self {
        let t = state.tables();
        let bake = oven_of(&formula.analyse(&t.pantry, &t.styles), &t.pantry);
        let (low, high) = (show(oven.minutes_low, 0), show(oven.minutes_high, 0));
        Self {
            set: settings(oven, kitchen),
            minutes: if low == high { format!("{low} min") } else { format!("{low}–{high} min") },
            core: degrees(oven.core_c).to(0),
            vessel: bake.vessel.stands(),
            words: setting_words(formula.oven, &kitchen.oven),
        }
    }
}

/// The lines, each with its name.
#[must_use]
pub fn about(
    formula: &Formula,
    course: &Course,
    mix_c: f64,
    dose: Option<&Dose>,
    (kitchen, local): (&Kitchen, &Local),
    state: &State,
) -> Vec<(&'static str, String)> {
    let t = state.tables();
    let a = formula.analyse(&t.pantry, &t.styles);
    let mut lines = Vec::new();
    if let Some(d) = dose {
        let thin = d.dissolve.as_ref().map_or_else(String::new, |w| format!(". {}", w.trim_end_matches('.')));
        lines.push(("Dose", format!("{} {}{thin}", weight(d.grams), d.name)));
    }
    if let Ok(w) = for_formula(&a, &WaterAsk::usual(&a, kitchen, mix_c, &t), &t.ferment) {
        lines.push((
            "Water",
            format!(
                "{} {} at {}, for a dough of {}",
                weight(w.tap_water_g),
                w.liquid.to_lowercase(),
                degrees(w.water_c).to(0),
                degrees(mix_c).to(0)
            ),
        ));
    }
    let stay = |s: &Stay<Period>| format!("{}, {}", s.told(), local.span(s.span.from, s.span.to));
    let stays: Vec<String> = course.stays.iter().map(stay).collect();
    if !stays.is_empty() {
        lines.push(("Stands", stays.join("; ")));
    }
    let oven = OvenTold::of(&course.oven, formula, kitchen, state);
    lines.push(("Oven", format!("{}, {}, {}; done at {} inside. {}", oven.set, oven.minutes, oven.vessel, oven.core, oven.words)));
    lines
}

/// The settings of a plan's oven on the household's dial: `250 °C, then 220 °C after 20 min`.
fn settings(oven: &OvenPlan, kitchen: &Kitchen) -> String {
    let dial = kitchen.oven.dial;
    let later = oven.acts.iter().filter_map(|act| act.set_c.map(|c| (act.at_min, c)));
    later.fold(dial.told(oven.set_c), |words, (at, c)| format!("{words}, then {} after {} min", dial.told(c), show(at, 0)))
}
