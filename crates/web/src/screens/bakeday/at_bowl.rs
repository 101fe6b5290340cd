//! At the bowl: the time that runs, when its sign may come, the window, what went in by feel; and how warm the dough leaves it.

use cerealis_core::{
    Tables,
    bake::added,
    formula::kneading_in,
    kitchen::Kitchen,
    knead::{Until, WindowWord, fridge_min},
    measure::{degrees, show, show_minutes, show_percent, weight},
    plan::{MixAct, StepKind, minutes_between},
};
use jiff::Timestamp;

use super::Standing;
use crate::draw::{PixelScale, px};

/// The work at the bowl that is under way.
pub struct AtBowl {
    /// Since when it runs, milliseconds.
    pub since_ms: i64,
    /// Minutes and seconds, as digits.
    pub digits: String,
    pub ruler: Ruler,
    /// The three windows, where this is the sign: word, what it looks like.
    pub windows: Vec<(&'static str, &'static str)>,
    /// What the last window said.
    pub told: String,
    /// What went in by feel, and what the dough became.
    pub by_feel: String,
    /// What a tap adds: what, grams, words.
    pub adds: Vec<(&'static str, String, String)>,
}

/// Minutes as a ruler: what is gone, and the bracket in which the sign may come.
pub struct Ruler {
    pub width: u32,
    pub height: u32,
    pub gone: String,
    /// Pixels a minute, for the hand of the clock in the browser.
    pub per_min: String,
    pub band: (String, String),
    pub bracket: String,
    pub words: (String, String),
    pub ticks: String,
    pub minutes: Vec<(String, String)>,
}

/// So much of flour or water goes in by a tap, g.
const TAP_G: f64 = 10.0;
/// How long after it was mixed the dough's warmth is asked for, minutes.
const ASKED_MIN: f64 = 20.0;

impl AtBowl {
    /// Of the act at hand, where it is kneading.
    pub fn of(s: &Standing, kitchen: &Kitchen, now: Timestamp, t: &Tables) -> Option<Self> {
        let act = s.state.act().filter(|a| matches!(a.kind, StepKind::Knead | StepKind::Butter))?;
        let since = s.state.done.iter().filter(|d| d.step.kind.is_at_bowl()).map(|d| d.at).max()?;
        let done = s.state.done.iter().filter(|d| d.step.kind.is_at_bowl()).count();
        let own = s.kept.plan.ask.mixing.get(done)?;
        let gone = minutes_between(since, now).max(0.0);
        let sign = act.kind == StepKind::Knead && matches!(own.until, Until::Window | Until::ClearsBowl | Until::Smooth);
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "minutes of a day")]
        let seconds = (gone * 60.0) as u64;
        Some(Self {
            since_ms: since.as_millisecond(),
            digits: format!("{}:{:02}", seconds / 60, seconds % 60),
            ruler: ruler(own, gone),
            windows: if sign {
                [("tears", "at once, ragged"), ("thin", "then a small hole"), ("strong", "light comes through")].to_vec()
            } else {
                Vec::new()
            },
            told: s.state.actual.windows.last().filter(|w| w.1 >= since).map_or_else(String::new, |w| told(w.0, s, kitchen, t, w.1)),
            by_feel: by_feel(s, t),
            adds: ["flour", "water"].map(|what| (what, show(TAP_G, 0), format!("+ {} of {what}", weight(TAP_G)))).to_vec(),
        })
    }
}

/// What a window says: how much longer, or what makes up for it.
fn told(word: WindowWord, s: &Standing, kitchen: &Kitchen, t: &Tables, at: Timestamp) -> String {
    let a = s.formula.analyse(&t.pantry, &t.styles);
    let minutes = s.kept.plan.ask.kneaded_min(&s.state.actual.bowl, at);
    // What was learned counts this window already: it is held against the book.
    let plain = Kitchen { knead_speed: None, ..kitchen.clone() };
    let work = kneading_in(&a, &plain).check(&t.knead, &t.styles, &t.ferment).map(|w| w.leaving_at(s.kept.plan.ask.mix_c));
    let Some(found) = work.ok().and_then(|w| w.window_told(word, minutes)) else { return String::new() };
    let more = found.more_min.round().max(1.0);
    let folds = match found.folds {
        0 => String::new(),
        1 => ", or leave it and fold it once in the rise".to_owned(),
        n => format!(", or leave it and fold it {n} times in the rise"),
    };
    match word {
        WindowWord::Tears => format!("Tears: about {} min more{folds}.", show(more, 0)),
        WindowWord::Thin if found.more_min >= 1.0 && found.development < 0.95 => {
            format!("Thin already: about {} min more, then try again.", show(more, 0))
        }
        WindowWord::Thin => "Thin: that will do.".to_owned(),
        WindowWord::Strong => "Strong: stop here.".to_owned(),
    }
}

/// What went in, and how much water the dough has now.
fn by_feel(s: &Standing, t: &Tables) -> String {
    let (flour, water) = added(&s.log);
    let parts: Vec<String> = [(flour, "flour"), (water, "water")]
        .into_iter()
        .filter(|(g, _)| *g > 0.0)
        .map(|(g, what)| format!("{} of {what}", weight(g)))
        .collect();
    if parts.is_empty() {
        return String::new();
    }
    let became = s.formula.by_feel(flour, water);
    let of = |f: &cerealis_core::formula::Formula| show_percent(f.analyse(&t.pantry, &t.styles).effective_hydration_pct.likely);
    format!("{} so far. Water {} %, was {} %.", parts.join(" and "), of(&became), of(&s.formula))
}

/// How warm the dough came out, asked once it is mixed and until a thermometer has told: what was wanted, in words.
pub fn asks_warmth(s: &Standing, now: Timestamp) -> Option<String> {
    let mixed = s.state.actual.mixed?;
    let taken = s.state.actual.dough_c.iter().any(|(at, _)| *at >= mixed);
    let asked = (0.0..=ASKED_MIN).contains(&minutes_between(mixed, now)) && !taken && s.state.actual.shaped.is_none();
    asked.then(|| format!("Probe to the middle. Wanted {}: warmer, it rises sooner.", degrees(s.kept.plan.ask.mix_c).to(0).short()))
}

/// What to do with a dough that a thermometer says came out too warm; nothing where it did not.
pub fn too_warm(s: &Standing, kitchen: &Kitchen, now: Timestamp, t: &Tables) -> Option<String> {
    let mixed = s.state.actual.mixed.filter(|m| (0.0..=2.0 * ASKED_MIN).contains(&minutes_between(*m, now)))?;
    let (_, c) = s.state.actual.dough_c.iter().rfind(|(at, _)| minutes_between(mixed, *at).abs() <= ASKED_MIN)?;
    let a = s.formula.analyse(&t.pantry, &t.styles);
    let work = kneading_in(&a, kitchen).check(&t.knead, &t.styles, &t.ferment).ok()?;
    let wanted = s.kept.plan.ask.mix_c;
    let fridge = kitchen.fridge_c.map(|fridge| fridge_min(a.dough_g.likely, *c, wanted, fridge, &t.ferment)).filter(|m| *m >= 1.0);
    (*c > work.stop_c()).then(|| {
        let chill = fridge.map_or_else(|| "somewhere cooler".to_owned(), |m| format!("{} in the fridge", show_minutes(m)));
        format!("{} is too warm for it: {chill}, or a shorter first rise. The hours here go by it already.", degrees(*c).to(0).short())
    })
}

fn ruler(act: &MixAct, gone: f64) -> Ruler {
    let (width, height) = (358_u32, 62_u32);
    let span = (act.high_min * 1.2).max(act.minutes * 1.5).max(gone * 1.05).max(4.0);
    let x = PixelScale::new(0.0, span, 1.0, f64::from(width) - 2.0);
    let every = [1.0, 2.0, 4.0, 5.0, 10.0, 20.0].into_iter().find(|e| span / e <= 6.0).unwrap_or(60.0);
    let (mut ticks, mut minutes, mut at) = (String::new(), Vec::new(), 0.0);
    while at <= span {
        ticks.push_str(&format!("M{} 44v5", px(x.at(at))));
        minutes.push((px(x.at(at).clamp(4.0, f64::from(width) - 8.0)), show(at, 0)));
        at += every;
    }
    let (a, b) = (x.at(act.low_min), x.at(act.high_min));
    let middle = f64::midpoint(a, b).clamp(60.0, f64::from(width) - 60.0);
    Ruler {
        width,
        height,
        gone: px(x.at(gone) - x.at(0.0)),
        per_min: format!("{:.3}", x.at(1.0) - x.at(0.0)),
        band: (px(a), px((b - a).max(1.0))),
        bracket: format!("M{} 21v-5H{}v5", px(a), px(b)),
        words: (px(middle), format!("the sign at {}–{} min", show(act.low_min, 0), show(act.high_min, 0))),
        ticks,
        minutes,
    }
}
