//! The rises of a recipe: those it tells by the clock, and what is odd about them.

use super::{
    Here, RULES, WHOLE_METHOD, finding,
    told::{Say, Told},
};
use crate::{
    Tables,
    findings::{
        Change, Remedy,
        Severity::{Caution, Note, Stop},
        rule,
    },
    formula::{Analysis, FirstRise},
    measure::{Band, degrees, show},
    reader::Reading,
};

/// Egg or milk dough in the warm: caution and stop, minutes.
const WARM_CAUTION_MIN: f64 = 240.0;
const WARM_STOP_MIN: f64 = 480.0;

/// A rise a recipe tells by the clock.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ToldRise {
    /// Its step.
    pub step: usize,
    /// Line of the text.
    pub source_line: usize,
    /// How long.
    pub minutes: Band,
    /// Whether it stands in the cold.
    pub cold: bool,
    /// How warm it stands, if that is told, °C.
    pub place_c: Option<f64>,
    /// Whether it comes before the shaping.
    pub is_first: bool,
}

/// From so long on a rest is a rise, and may be one, minutes. Common practice, no source.
const REST_RISES_MIN: f64 = 120.0;
const REST_MAY_RISE_MIN: f64 = 40.0;

/// A place a dough rises at; hotter is water, or an oven. °C.
const PLACE_C: std::ops::RangeInclusive<f64> = 1.0..=45.0;

/// `a warm place`: airing cupboard, oven with its light on. °C. Common practice, no source.
const WARM_PLACE_C: f64 = 27.0;

impl Reading {
    /// The rises its steps tell by the clock, in their order.
    #[must_use]
    pub fn told_rises(&self) -> Vec<ToldRise> {
        rises(&told(self))
    }
}

pub(super) fn told(reading: &Reading) -> Vec<Told<'_>> {
    reading.steps.iter().map(Told::new).collect()
}

fn rises(steps: &[Told<'_>]) -> Vec<ToldRise> {
    let shaped = steps.iter().position(Told::shapes);
    // `Leave it on the counter for 12 hours`: so long a rest is a rise, whatever it is called.
    let long = |t: &Told<'_>| t.step.minutes.is_some_and(|m| m.low >= REST_RISES_MIN);
    let all = steps.iter().enumerate().filter(|(_, t)| t.is_rise() && (t.says(Say::Rise) || long(t)));
    let rise = |(nth, (at, t)): (usize, (usize, &Told<'_>))| {
        Some(ToldRise {
            step: at,
            source_line: t.step.source_line,
            minutes: t.step.minutes?,
            cold: t.is_cold(),
            place_c: t.step.liquid_c.filter(|c| PLACE_C.contains(c)).or_else(|| t.says(Say::Warm).then_some(WARM_PLACE_C)),
            is_first: shaped.map_or(nth == 0, |s| at < s),
        })
    };
    all.enumerate().filter_map(rise).collect()
}

/// The step of the only rise of a whole method, where the dough is shaped before it.
fn only_rise(steps: &[Told<'_>]) -> Option<usize> {
    let only = rises(steps).first().filter(|r| !r.is_first && steps.len() >= WHOLE_METHOD).copied()?;
    let shaped = steps.iter().position(Told::shapes)?;
    // A rise that is told by its sign alone is a rise, and so is a rest of an hour.
    let rests = |t: &Told<'_>| t.is_rise() && t.step.minutes.is_some_and(|m| m.high >= REST_MAY_RISE_MIN);
    let before = steps.iter().take(shaped).any(|t| (t.says(Say::Rise) && !t.says(Say::NoRise)) || rests(t));
    (!before).then_some(only.step)
}

impl Reading {
    /// What the method tells of the rise before shaping: none, or knocked back where it rises again after that.
    pub(in crate::reader) fn first_rise(&self) -> Option<FirstRise> {
        let steps = told(self);
        let shaped = steps.iter().position(Told::shapes).unwrap_or(steps.len());
        let before = steps.get(..shaped).unwrap_or_default();
        let again = |from: usize| before.iter().skip(from + 1).any(|t| t.says(Say::Rise) || t.is_rise());
        let knocked = before.iter().position(|t| t.step.knocked_back).filter(|at| again(*at) || before.get(*at).is_some_and(Told::is_rise));
        match (knocked, only_rise(&steps)) {
            (Some(_), _) => Some(FirstRise::KnockedBack),
            (None, Some(_)) => Some(FirstRise::None),
            (None, None) => None,
        }
    }
}

/// One rise only, and rises in the cold that are too long for such a dough.
pub(super) fn one_rise_and_cold(steps: &[Told<'_>], a: &Analysis<'_>, tables: &Tables) -> Vec<Here> {
    let rises = rises(steps);
    let mut found = Vec::new();
    let has_bulk = tables.ferment.styles.get(a.style.id.word()).is_some_and(|s| s.bulk_ratio.is_some());
    let told_so = a.formula.rises == Some(FirstRise::None);
    let raised = a.yeast_instant_pct.likely > 0.0 || a.leaven_flour_pct.likely > 0.0;
    if told_so
        && has_bulk
        && raised
        && let Some(only) = only_rise(steps)
    {
        let sentence = "One rise only: shape at once and prove until it has well risen. Quick and plainer in taste; it fits gluten-free and tin bread. A first rise before shaping brings flavour.";
        let give = Remedy::new("Give it a first rise", vec![Change::Rises { rises: FirstRise::Left }]);
        found.push((only, finding(rule!("no-bulk"), Note, sentence.into(), vec![give, Remedy::meant("Meant so")])));
    }
    for r in rises.iter().filter(|r| r.cold) {
        let longest = a.longest_cold_h(!r.is_first);
        if r.minutes.low > 60.0 * longest {
            let sentence = format!("Longer than {} h cold turns such a dough sour and slack.", show(longest, 0));
            found.push((r.step, finding(rule!("retard-long"), Note, sentence, vec![Remedy::meant("I look at it in between")])));
        }
    }
    found
}

pub(super) fn by_clock(steps: &[Told<'_>]) -> Option<Here> {
    let warmth = |t: &Told<'_>| t.step.liquid_c.is_some() || !t.step.stated.is_empty() || t.is_cold();
    let at = steps.iter().position(|t| t.says(Say::Rise) && t.is_rise() && !t.says(Say::Sign) && !warmth(t))?;
    let sentence =
        "This rise tells a time but no warmth. Look for the sign too: up by half to double, full of bubbles, a poke springs back slowly.";
    Some((at, finding(rule!("time-by-clock-only"), Note, sentence.into(), vec![Remedy::meant("I have read it")])))
}

pub(super) fn out_too_long(steps: &[Told<'_>], a: &Analysis<'_>) -> Option<Here> {
    if !a.has_egg_or_milk() {
        return None;
    }
    let warm = |t: &&Told<'_>| t.is_rise() && !t.is_cold();
    let minutes: f64 = steps.iter().filter(warm).filter_map(|t| t.step.minutes).map(|m| m.low).sum();
    let last = steps.iter().rposition(|t| warm(&t)).filter(|_| minutes > WARM_CAUTION_MIN)?;
    let severity = if minutes > WARM_STOP_MIN { Stop } else { Caution };
    let sentence =
        format!("A dough with egg or milk is out for {} h. Over 4 h, use the fridge: {} or colder.", show(minutes / 60.0, 1), degrees(5.0));
    Some((last, finding(rule!("raw-egg-time"), severity, sentence, vec![Remedy::meant("It rises in the cold")])))
}
