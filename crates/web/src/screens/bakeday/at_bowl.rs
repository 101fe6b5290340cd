//! At the bowl: the time that runs, when its sign may come, the window, what went in by feel.

use cerealis_core::{
    Tables,
    formula::Formula,
    knead::WindowTold,
    measure::{degrees, show, show_percent, weight},
    plan::{StepKind, minutes_between},
};
use jiff::Timestamp;

use super::Standing;
use crate::draw::{Ruler, ruler};

/// The kneading that is under way.
pub struct AtBowl {
    /// Since when it runs, milliseconds.
    pub since_ms: i64,
    /// Minutes and seconds, as digits.
    pub digits: String,
    pub ruler: Ruler,
    /// The three windows, where its sign is one: word, what it looks like.
    pub windows: &'static [(&'static str, &'static str)],
    /// What the last window said.
    pub told: String,
    /// What went in by feel, and what the dough became.
    pub by_feel: String,
    /// What a tap adds: what, grams, words.
    pub adds: Vec<(&'static str, String, String)>,
}

const WINDOWS: &[(&str, &str)] = &[("tears", "at once, ragged"), ("thin", "then a small hole"), ("strong", "light comes through")];
/// So much of flour or water goes in by a tap, g.
const TAP_G: f64 = 10.0;

impl AtBowl {
    /// Of the act at hand, where it is kneading.
    pub fn of(s: &Standing, now: Timestamp, t: &Tables) -> Option<Self> {
        let (act, since) = s.state.bowl.under_way.as_ref().filter(|u| matches!(u.0.kind, StepKind::Knead | StepKind::Butter))?;
        let gone = minutes_between(*since, now).max(0.0);
        let stretched = act.kind == StepKind::Knead && act.until.is_stretched();
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "minutes of a day")]
        let seconds = (gone * 60.0) as u64;
        Some(Self {
            since_ms: since.as_millisecond(),
            digits: format!("{}:{:02}", seconds / 60, seconds % 60),
            ruler: ruler(gone, (act.low_min, act.minutes, act.high_min)),
            windows: if stretched { WINDOWS } else { &[] },
            told: s.state.bowl.window.as_ref().map_or_else(String::new, WindowTold::words),
            by_feel: by_feel(s, t),
            adds: ["flour", "water"].map(|what| (what, show(TAP_G, 0), format!("+ {} of {what}", weight(TAP_G)))).to_vec(),
        })
    }
}

/// What went in, and how much water the dough has now.
fn by_feel(s: &Standing, t: &Tables) -> String {
    let (flour, water) = s.state.bowl.by_feel;
    let went_in = [(flour, "flour"), (water, "water")].into_iter().filter(|(g, _)| *g > 0.0);
    let parts: Vec<String> = went_in.map(|(g, what)| format!("{} of {what}", weight(g))).collect();
    if parts.is_empty() {
        return String::new();
    }
    let of = |f: &Formula| show_percent(f.analyse(&t.pantry, &t.styles).effective_hydration_pct.likely);
    format!("{} so far. Water {} %, was {} %.", parts.join(" and "), of(&s.formula.by_feel(flour, water)), of(&s.formula))
}

/// How warm the dough is wanted, where it is asked how warm it came out.
pub fn wanted_warmth(s: &Standing) -> Option<String> {
    let wanted = degrees(s.kept.plan.ask.mix_c).short();
    s.state.bowl.asks_warmth.then(|| format!("Probe to the middle. Wanted {wanted}: warmer, it rises sooner."))
}
