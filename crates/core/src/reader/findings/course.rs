//! Findings on the course of the steps: what a whole method leaves out, and what stands too long.

use super::{
    Here, RULES, WHOLE_METHOD, at_step, baking_step, finding,
    rises::{by_clock, one_rise_and_cold, out_too_long, told},
    told::{Say, Told},
};
use crate::{
    Tables,
    findings::{
        Change, Finding, Remedy,
        Severity::{Caution, Note, Stop},
        rule,
    },
    formula::{Analysis, StyleId},
    measure::{setting, to_nearest, weighable, weight},
    reader::{Reading, mention},
};

/// A big sweet piece in a hot oven.
const BIG_PIECE_G: f64 = 500.0;
const SWEET_PCT: f64 = 8.0;
const HOT_C: f64 = 200.0;
/// Rolls may be eaten warm; a piece from this weight on is cut cold, grams. Common practice, no source.
const CUT_COLD_G: f64 = 250.0;

/// What a whole method leaves out or lets stand too long.
pub(super) fn find(reading: &Reading, a: &Analysis<'_>, tables: &Tables, found: &mut Vec<Finding>) {
    if a.formula.lines.is_empty() {
        found.extend(only_steps(reading, tables));
        return;
    }
    let steps = told(reading);
    let seen = [by_clock(&steps), out_too_long(&steps, a), salt_on_yeast(&steps)].into_iter().flatten();
    let more = divided(reading, a, tables).into_iter().chain(one_rise_and_cold(&steps, a, tables));
    for (index, f) in seen.chain(more).chain(bake(&steps, reading, a)).chain(lid_and_knife(&steps, a)) {
        let here = found.len();
        found.push(f);
        if let Some(step) = reading.steps.get(index) {
            at_step(found, here, index, step);
        }
    }
}

fn salt_on_yeast(steps: &[Told<'_>]) -> Option<Here> {
    let wet = |t: &Told<'_>| t.says(Say::Yeast) && t.says(Say::Salt) && t.says(Say::Wet) && !t.says(Say::Flour);
    let mixed = |t: &Told<'_>| matches!(t.step.verb.as_str(), "mix" | "stir" | "dissolve" | "whisk" | "combine" | "add" | "put");
    let at = steps.iter().position(|t| wet(t) && mixed(t))?;
    let sentence = "Salt straight on yeast in the water: no harm in the minute it takes to mix, but do not let them stand.";
    Some((at, finding(rule!("salt-on-yeast"), Note, sentence.into(), vec![Remedy::meant("Mixed at once")])))
}

/// A recipe that tells its amounts only in its steps: they are offered as lines, never taken by themselves.
fn only_steps(reading: &Reading, tables: &Tables) -> Option<Finding> {
    let told: Vec<_> = reading.steps.iter().flat_map(|s| mention::amounts(&s.text, tables, &reading.choices)).collect();
    if told.len() < 2 {
        return None;
    }
    let adds = told.iter().map(|(i, g)| Change::Add { ingredient: i.id.clone().into(), grams: weighable(g.likely) }).collect();
    let take = Remedy::new(format!("Make lines of the {} amounts", told.len()), adds);
    let sentence = "There is no list of ingredients; the steps tell amounts.";
    Some(finding(rule!("flour-missing"), Stop, sentence.into(), vec![take, Remedy::meant("It is no recipe")]))
}

/// Lines said to be divided, whose parts in the steps do not make the whole.
fn divided(reading: &Reading, a: &Analysis<'_>, tables: &Tables) -> Vec<Here> {
    let mut found = Vec::new();
    let said = a.formula.lines.iter().enumerate().filter(|(_, l)| l.source.as_deref().is_some_and(|s| s.contains("divided")));
    for (line, l) in said {
        let mut parts = Vec::new();
        for (i, step) in reading.steps.iter().enumerate() {
            let of_it = mention::amounts(&step.text, tables, &reading.choices).into_iter().filter(|(x, _)| x.id == l.ingredient.id);
            parts.extend(of_it.map(|(_, g)| (i, g.likely)));
        }
        let sum: f64 = parts.iter().map(|p| p.1).sum();
        if parts.len() < 2 || (sum / l.grams.likely - 1.0).abs() <= 0.03 {
            continue;
        }
        let grams = l.grams.times(sum / l.grams.likely);
        let (list, steps) = (weight(l.grams.likely), weight(sum));
        let use_steps = Remedy::answering(format!("Use {steps}"), vec![Change::Grams { line, grams, interval: !l.grams.is_exact() }]);
        let sentence = format!("The list says {list}, the steps use {steps}.");
        let mut f = finding(rule!("divided-mismatch"), Caution, sentence, vec![use_steps, Remedy::meant(format!("Use {list}"))]);
        f.line = Some(line);
        found.extend(parts.first().map(|(i, _)| (*i, f)));
    }
    found
}

/// A lid closed when the dough is at the rim; a loaf cut hot.
fn lid_and_knife(steps: &[Told<'_>], a: &Analysis<'_>) -> Vec<Here> {
    let mut found = Vec::new();
    let closed = a.formula.pieces.as_ref().is_some_and(|p| p.lid);
    if let Some(at) = steps.iter().position(|t| t.says(Say::Lid) && t.says(Say::Rim) && (closed || t.says(Say::Tin))) {
        let sentence = "Close the lid at 80–85 %, a good finger below the rim. Beyond that the dough presses out.";
        found.push((at, finding(rule!("lid-late"), Caution, sentence.into(), vec![Remedy::meant("Mine has room")])));
    }
    let hot = |t: &Told<'_>| t.says(Say::Knife) && t.says(Say::Hot);
    let is_big = a.piece_g() >= CUT_COLD_G;
    if let Some(at) = steps.iter().rposition(hot).filter(|_| is_big && !matches!(a.style.id, StyleId::Flat)) {
        let sentence = "Still steaming inside a loaf is gummy under the knife. Let it cool for an hour or two; the plan tells when.";
        found.push((at, finding(rule!("slice-early"), Note, sentence.into(), vec![Remedy::meant("We like it so")])));
    }
    found
}

/// What the bake wants and nothing in the method gives.
fn bake(steps: &[Told<'_>], reading: &Reading, a: &Analysis<'_>) -> Vec<Here> {
    let Some((at, step)) = baking_step(&reading.steps) else { return Vec::new() };
    let mut found = Vec::new();
    let mut add = |id, severity, sentence: String, remedies| found.push((at, finding(id, severity, sentence, remedies)));
    let whole = steps.len() >= WHOLE_METHOD;
    if whole && !steps.iter().any(|t| t.says(Say::Heat)) {
        let sentence = "No word of heating the oven. Light it 20 to 30 min before the bread goes in, 45 with a stone or pot.";
        add(rule!("preheat-missing"), Caution, sentence.into(), vec![Remedy::meant("I light it in time")]);
    }
    let crisp = matches!(a.style.id, StyleId::Lean | StyleId::LongNoKnead | StyleId::SourdoughLean | StyleId::Rye);
    if whole && crisp && a.flour_g.likely > 0.0 && !steps.iter().any(|t| t.is_at_the_oven() && t.says(Say::Steam)) {
        let sentence = "No steam and no lid: the skin sets early and tears. A tray of boiling water on the oven floor helps; stand aside from the steam.";
        add(rule!("steam-missing"), Note, sentence.into(), vec![Remedy::meant("Meant so")]);
    }
    let pieces = a.formula.pieces.as_ref();
    if whole && pieces.is_some_and(|p| p.count > 1) && !steps.iter().any(|t| t.says(Say::Shape) && !t.step.bakes()) {
        let sentence = "Pieces are told, but no shaping. Divide, shape, and let them rise once more.";
        add(rule!("step-shape-missing"), Note, sentence.into(), vec![Remedy::meant("Left out on purpose")]);
    }
    let piece_g = pieces.map_or(0.0, |_| a.piece_g());
    let set_c = step.oven_c.or(a.formula.oven.and_then(|o| o.set_c)).unwrap_or(0.0);
    if piece_g >= BIG_PIECE_G && a.sugar_pct.likely >= SWEET_PCT && set_c >= HOT_C {
        let cooler = to_nearest(set_c - 25.0, 5.0);
        let cool = Remedy::answering(format!("Set {}, longer", setting(cooler)), vec![Change::Oven { set_c: cooler, fan: false }]);
        let sentence = format!("A big sweet loaf at {} goes black before it is done.", setting(set_c));
        add(rule!("crust-ahead-of-core"), Caution, sentence, vec![cool, Remedy::meant("Keep it")]);
    }
    found
}
