//! Findings on the course of the steps: what a whole method leaves out, and what stands too long.

use super::{at_step, baking_step, finding};
use crate::{
    Tables,
    findings::{
        Change, Finding, Remedy,
        Severity::{Caution, Note, Stop},
    },
    formula::{Analysis, StyleId},
    measure::{show, show_grams, to_nearest, weighable},
    pantry::fold,
    reader::{Reading, Step, mention},
};

/// A method of fewer steps is a hint, not a method: what it leaves out says nothing.
const WHOLE_METHOD: usize = 4;
/// A rest shorter than this is no rise, minutes.
const LEAST_RISE_MIN: f64 = 20.0;
/// Egg or milk dough in the warm: caution and stop, minutes.
const WARM_CAUTION_MIN: f64 = 240.0;
const WARM_STOP_MIN: f64 = 480.0;
/// A big sweet piece in a hot oven.
const BIG_PIECE_G: f64 = 500.0;
const SWEET_PCT: f64 = 8.0;
const HOT_C: f64 = 200.0;

/// Beginnings of words, folded; with a space behind it, a whole word: `ice ` is not in slice, nor `pot ` in potato.
type Words = &'static [&'static str];
const RISES: Words = &["rise ", "rises ", "rising", "proof", "prov", "bulk", "ferment", "gehen", "lever ", "lievit"];
const RESTS: Words = &["stand ", "doubl", "let ", "leave ", "rest ", "cover "];
const NO_RISE: Words = &["cool", "yeast", "autolys"];
const COLD: Words = &["fridge", "refrigerat", "chill", "cold", "kuhlschrank", "frigo"];
const SIGNS: Words = &["until", "till ", "doubl", "puff", "ripe", "risen", "dome", "spring", "by half", "bubbl", "bis ", "jusqu"];
const HEATS: Words = &["preheat", "pre heat", "heat the oven", "heat oven", "oven to ", "oven on ", "hot oven", "vorheiz", "prechauff"];
const STEAMS: Words = &[
    "steam",
    "lid ",
    "lidded",
    "pot ",
    "dutch",
    "cover",
    "cloche",
    "spray",
    "mist ",
    "ice ",
    "tray of water",
    "pan of water",
    "schwaden",
    "dampf",
    "vapeur",
    "tin ",
];
const SHAPES: Words = &[
    "shap", "form ", "roll", "divid", "braid", "plait", "ball", "boule", "batard", "loaf", "loaves", "tin ", "pan ", "stretch", "press",
    "cut ",
];

/// A step with its words, folded once.
struct Told<'a> {
    step: &'a Step,
    words: String,
}

impl Told<'_> {
    fn says(&self, words: Words) -> bool {
        words.iter().any(|w| self.words.match_indices(w).any(|(at, _)| self.words.get(..at).is_some_and(|before| before.ends_with(" "))))
    }
    fn is_cold(&self) -> bool {
        self.says(COLD)
    }
    /// Whether a dough rises in it: long enough, not in the oven, not the yeast in its cup.
    fn is_rise(&self) -> bool {
        (self.says(RISES) || self.says(RESTS))
            && !self.step.bakes()
            && self.step.oven_c.is_none()
            && !self.says(NO_RISE)
            && self.step.minutes.is_some_and(|m| m.high >= LEAST_RISE_MIN)
    }
    fn is_at_the_oven(&self) -> bool {
        self.step.bakes() || self.step.oven_c.is_some() || self.says(&["oven"])
    }
}

/// What a whole method leaves out or lets stand too long.
pub(super) fn find(reading: &Reading, a: &Analysis<'_>, tables: &Tables, found: &mut Vec<Finding>) {
    if a.formula.lines.is_empty() {
        found.extend(only_steps(reading, tables));
        return;
    }
    let steps: Vec<Told<'_>> = reading.steps.iter().map(|step| Told { step, words: format!(" {} ", fold(&step.text)) }).collect();
    let seen = [by_clock(&steps), out_too_long(&steps, a), salt_on_yeast(&steps)].into_iter().flatten();
    for (index, f) in seen.chain(divided(reading, a, tables)).chain(bake(&steps, reading, a)) {
        let here = found.len();
        found.push(f);
        if let Some(step) = reading.steps.get(index) {
            at_step(found, here, index, step);
        }
    }
}

/// A finding at a step.
type Here = (usize, Finding);

fn by_clock(steps: &[Told<'_>]) -> Option<Here> {
    let warmth = |t: &Told<'_>| t.step.liquid_c.is_some() || !t.step.stated.is_empty() || t.is_cold();
    let at = steps.iter().position(|t| t.says(RISES) && t.is_rise() && !t.says(SIGNS) && !warmth(t))?;
    let sentence =
        "This rise tells a time but no warmth. Look for the sign too: up by half to double, full of bubbles, a poke springs back slowly.";
    Some((at, finding("time-by-clock-only", Note, sentence.into(), vec![Remedy::meant("I have read it")])))
}

fn out_too_long(steps: &[Told<'_>], a: &Analysis<'_>) -> Option<Here> {
    if a.egg_pct < 2.0 && a.milk_share < 0.3 {
        return None;
    }
    let warm = |t: &&Told<'_>| t.is_rise() && !t.is_cold();
    let minutes: f64 = steps.iter().filter(warm).filter_map(|t| t.step.minutes).map(|m| m.low).sum();
    let last = steps.iter().rposition(|t| warm(&t)).filter(|_| minutes > WARM_CAUTION_MIN)?;
    let severity = if minutes > WARM_STOP_MIN { Stop } else { Caution };
    let sentence = format!("A dough with egg or milk is out for {} h. Over 4 h, use the fridge: 5 °C or colder.", show(minutes / 60.0, 1));
    Some((last, finding("raw-egg-time", severity, sentence, vec![Remedy::meant("It rises in the cold")])))
}

fn salt_on_yeast(steps: &[Told<'_>]) -> Option<Here> {
    let wet = |t: &Told<'_>| t.says(&["yeast"]) && t.says(&["salt"]) && t.says(&["water", "milk", "liquid"]) && !t.says(&["flour"]);
    let mixed = |t: &Told<'_>| matches!(t.step.verb.as_str(), "mix" | "stir" | "dissolve" | "whisk" | "combine" | "add" | "put");
    let at = steps.iter().position(|t| wet(t) && mixed(t))?;
    let sentence = "Salt straight on yeast in the water: no harm in the minute it takes to mix, but do not let them stand.";
    Some((at, finding("salt-on-yeast", Note, sentence.into(), vec![Remedy::meant("Mixed at once")])))
}

/// A recipe that tells its amounts only in its steps: they are offered as lines, never taken by themselves.
fn only_steps(reading: &Reading, tables: &Tables) -> Option<Finding> {
    let told: Vec<_> = reading.steps.iter().flat_map(|s| mention::amounts(&s.text, &tables.pantry, &reading.choices)).collect();
    if told.len() < 2 {
        return None;
    }
    let adds = told.iter().map(|(i, g)| Change::Add { ingredient: i.id.clone().into(), grams: weighable(g.likely) }).collect();
    let take = Remedy::new(format!("Make lines of the {} amounts", told.len()), adds);
    let sentence = "There is no list of ingredients; the steps tell amounts.";
    Some(finding("flour-missing", Stop, sentence.into(), vec![take, Remedy::meant("It is no recipe")]))
}

/// Lines said to be divided, whose parts in the steps do not make the whole.
fn divided(reading: &Reading, a: &Analysis<'_>, tables: &Tables) -> Vec<Here> {
    let mut found = Vec::new();
    let said = a.formula.lines.iter().enumerate().filter(|(_, l)| l.source.as_deref().is_some_and(|s| s.contains("divided")));
    for (line, l) in said {
        let mut parts = Vec::new();
        for (i, step) in reading.steps.iter().enumerate() {
            let of_it = mention::amounts(&step.text, &tables.pantry, &reading.choices).into_iter().filter(|(x, _)| x.id == l.ingredient.id);
            parts.extend(of_it.map(|(_, g)| (i, g.likely)));
        }
        let sum: f64 = parts.iter().map(|p| p.1).sum();
        if parts.len() < 2 || (sum / l.grams.likely - 1.0).abs() <= 0.03 {
            continue;
        }
        let grams = l.grams.times(sum / l.grams.likely);
        let (list, steps) = (show_grams(l.grams.likely), show_grams(sum));
        let use_steps = Remedy::answering(format!("Use {steps} g"), vec![Change::Grams { line, grams, interval: !l.grams.is_exact() }]);
        let sentence = format!("The list says {list} g, the steps use {steps} g.");
        let mut f = finding("divided-mismatch", Caution, sentence, vec![use_steps, Remedy::meant(format!("Use {list} g"))]);
        f.line = Some(line);
        found.extend(parts.first().map(|(i, _)| (*i, f)));
    }
    found
}

/// What the bake wants and nothing in the method gives.
fn bake(steps: &[Told<'_>], reading: &Reading, a: &Analysis<'_>) -> Vec<Here> {
    let Some((at, step)) = baking_step(&reading.steps) else { return Vec::new() };
    let mut found = Vec::new();
    let mut add = |id, severity, sentence: String, remedies| found.push((at, finding(id, severity, sentence, remedies)));
    let whole = steps.len() >= WHOLE_METHOD;
    if whole && !steps.iter().any(|t| t.says(HEATS)) {
        let sentence = "No word of heating the oven. Light it 20 to 30 min before the bread goes in, 45 with a stone or pot.";
        add("preheat-missing", Caution, sentence.into(), vec![Remedy::meant("I light it in time")]);
    }
    let crisp = matches!(a.style.id, StyleId::Lean | StyleId::LongNoKnead | StyleId::SourdoughLean | StyleId::Rye);
    if whole && crisp && a.flour_g.likely > 0.0 && !steps.iter().any(|t| t.is_at_the_oven() && t.says(STEAMS)) {
        let sentence = "No steam and no lid: the skin sets early and tears. A tray of boiling water on the oven floor helps; stand aside from the steam.";
        add("steam-missing", Note, sentence.into(), vec![Remedy::meant("Meant so")]);
    }
    let pieces = a.formula.pieces.as_ref();
    // Baking a loaf does not shape it; dividing into pieces does.
    let shaped = |t: &Told<'_>| t.says(SHAPES) && !t.step.bakes();
    if whole && pieces.is_some_and(|p| p.count > 1) && !steps.iter().any(shaped) {
        let sentence = "Pieces are told, but no shaping. Divide, shape, and let them rise once more.";
        add("step-shape-missing", Note, sentence.into(), vec![Remedy::meant("Left out on purpose")]);
    }
    let piece_g = pieces.map_or(0.0, |p| p.piece_g.unwrap_or(a.dough_g.likely / f64::from(p.count)));
    let set_c = step.oven_c.or(a.formula.oven.and_then(|o| o.set_c)).unwrap_or(0.0);
    if piece_g >= BIG_PIECE_G && a.sugar_pct.likely >= SWEET_PCT && set_c >= HOT_C {
        let cooler = to_nearest(set_c - 25.0, 5.0);
        let cool = Remedy::answering(format!("Set {} °C, longer", show(cooler, 0)), vec![Change::Oven { set_c: cooler }]);
        let sentence = format!("A big sweet loaf at {} °C goes black before it is done.", show(set_c, 0));
        add("crust-ahead-of-core", Caution, sentence, vec![cool, Remedy::meant("Keep it")]);
    }
    found
}
