//! Findings on the course of the steps: what a whole method leaves out, and what stands too long.

use super::{at_step, baking_step, finding};
use crate::{
    Tables,
    findings::{
        Change, Finding, Remedy,
        Severity::{Caution, Note, Stop},
    },
    formula::{Analysis, Formula, StyleId},
    measure::{show, show_grams, to_nearest},
    pantry::{MeasureKind, Pantry},
    reader::{
        Choices, Step,
        amount::amount,
        normal,
        tokens::{Cursor, tokens},
    },
};

const CUP_ML: f64 = 236.588;

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

fn says(step: &Step, words: &[&str]) -> bool {
    let text = step.text.to_lowercase();
    words.iter().any(|w| text.contains(w))
}

fn is_rise(step: &Step) -> bool {
    let rising = matches!(
        step.verb.as_str(),
        "rise" | "prove" | "proof" | "rest" | "ferment" | "let" | "leave" | "cover" | "allow" | "set" | "stand"
    );
    let said = says(step, &["rise", "rising", "proof", "prove", "bulk", "ferment", "gehen", "lever", "lievitare", "stand", "double"]);
    (rising || said)
        && !step.bakes()
        && step.oven_c.is_none()
        && !says(step, &["cool", "yeast", "autolyse"])
        && step.minutes.is_some_and(|m| m.high >= LEAST_RISE_MIN)
}

fn is_cold(step: &Step) -> bool {
    says(step, &["fridge", "refrigerat", "chill", "cold", "kuhlschrank", "kühlschrank", "frigo"])
}

/// What a whole method leaves out or lets stand too long.
pub(super) fn find(steps: &[Step], formula: &Formula, tables: &Tables, found: &mut Vec<Finding>) {
    if steps.is_empty() {
        return;
    }
    if formula.lines.is_empty() {
        found.extend(only_steps(steps, &tables.pantry));
        return;
    }
    let a = formula.analyse(&tables.pantry, &tables.styles);
    let mut at = |index: usize, f: Finding| {
        let here = found.len();
        found.push(f);
        if let Some(step) = steps.get(index) {
            at_step(found, here, index, step);
        }
    };
    for (i, f) in rises(steps, &a)
        .into_iter()
        .chain(salt_on_yeast(steps))
        .chain(divided(steps, formula, &tables.pantry))
        .chain(bake(steps, formula, &a))
    {
        at(i, f);
    }
}

fn rises(steps: &[Step], a: &Analysis<'_>) -> Vec<(usize, Finding)> {
    let mut found = Vec::new();
    let by_clock = steps.iter().position(|s| {
        let sign = says(s, &["until", "till", "doubl", "puff", "ripe", "risen", "dome", "spring", "by half", "bubbl", "bis ", "jusqu"]);
        let warmth = s.liquid_c.is_some() || !s.stated.is_empty() || is_cold(s);
        is_rise(s) && !sign && !warmth && says(s, &["rise", "proof", "prove", "bulk", "ferment", "gehen", "lever"])
    });
    if let Some(i) = by_clock {
        let f = finding(
            "time-by-clock-only",
            Note,
            "This rise tells a time but no warmth. Look for the sign too: up by half to double, full of bubbles, a poke springs back slowly.".into(),
            vec![Remedy::meant("I have read it")],
        );
        found.push((i, f));
    }
    if a.egg_pct >= 2.0 || a.milk_share >= 0.3 {
        let warm: f64 =
            steps.iter().filter(|s| is_rise(s) && !is_cold(s) && !says(s, &["overnight"])).filter_map(|s| s.minutes).map(|m| m.low).sum();
        if let Some(last) = steps.iter().rposition(|s| is_rise(s) && !is_cold(s)).filter(|_| warm > WARM_CAUTION_MIN) {
            let f = finding(
                "raw-egg-time",
                if warm > WARM_STOP_MIN { Stop } else { Caution },
                format!("A dough with egg or milk is out for {} h. Over 4 h, use the fridge: 5 °C or colder.", show(warm / 60.0, 1)),
                vec![Remedy::meant("It rises in the cold")],
            );
            found.push((last, f));
        }
    }
    found
}

/// What an amount of one name measures: of which kind, how much, and how many grams if it was weighed.
fn measured(text: &str, at: usize, name: &str, pantry: &Pantry) -> Option<(MeasureKind, f64)> {
    let tokens = tokens(text);
    let mut cursor = Cursor { tokens: &tokens, at };
    let a = amount(&mut cursor, pantry, &Choices::default())?;
    let unit = a.unit.filter(|u| matches!(u.kind, MeasureKind::Mass | MeasureKind::Volume))?;
    let next: Vec<&str> = (0..5).filter_map(|i| cursor.word(i)).take_while(|w| !matches!(*w, "and" | "then" | "with")).collect();
    let (found, _) = pantry.named_in(&next.join(" "))?;
    (found.id == name).then_some((unit.kind, a.value.likely * unit.value.likely))
}

/// A recipe that tells its amounts only in its steps: they are offered as lines, never taken by themselves.
fn only_steps(steps: &[Step], pantry: &Pantry) -> Option<Finding> {
    let mut told: Vec<(String, f64)> = Vec::new();
    for step in steps {
        let tokens = tokens(&step.text);
        let mut at = 0;
        while at < tokens.len() {
            let mut cursor = Cursor { tokens: &tokens, at };
            at += 1;
            let Some(a) = amount(&mut cursor, pantry, &Choices::default()) else { continue };
            let Some(unit) = a.unit else { continue };
            let next: Vec<&str> =
                (0..5).filter_map(|i| cursor.word(i)).take_while(|w| !matches!(*w, "and" | "then" | "with" | "into")).collect();
            let Some((i, _)) = pantry.named_in(&next.join(" ")) else { continue };
            let grams = match unit.kind {
                MeasureKind::Mass => a.value.likely * unit.value.likely,
                MeasureKind::Volume => a.value.likely * unit.value.likely * i.cup_us_g.unwrap_or(CUP_ML) / CUP_ML,
                MeasureKind::Piece | MeasureKind::Factor | MeasureKind::Time => continue,
            };
            if (0.05..=100_000.0).contains(&grams) {
                told.push((i.id.clone(), to_nearest(grams, if grams >= 10.0 { 1.0 } else { 0.1 })));
                at = cursor.at;
            }
        }
    }
    (told.len() >= 2).then(|| {
        let adds = told.iter().map(|(id, grams)| Change::Add { ingredient: id.clone().into(), grams: *grams }).collect();
        finding(
            "flour-missing",
            Stop,
            "There is no list of ingredients; the steps tell amounts.".into(),
            vec![Remedy::new(format!("Make lines of the {} amounts", told.len()), adds), Remedy::meant("It is no recipe")],
        )
    })
}

/// A line said to be divided, whose parts in the steps do not make the whole.
fn divided(steps: &[Step], formula: &Formula, pantry: &Pantry) -> Vec<(usize, Finding)> {
    let mut found = Vec::new();
    for (line, l) in formula.lines.iter().enumerate() {
        let Some(source) = l.source.as_deref().filter(|s| s.contains("divided")) else { continue };
        let plain = normal::plain(source);
        let Some((kind, whole)) = measured(normal::without_bullet(&plain), 0, &l.ingredient.id, pantry) else { continue };
        let mut parts = Vec::new();
        for (i, step) in steps.iter().enumerate() {
            let places = 0..tokens(&step.text).len();
            parts.extend(
                places.filter_map(|at| measured(&step.text, at, &l.ingredient.id, pantry)).filter(|p| p.0 == kind).map(|p| (i, p.1)),
            );
        }
        let sum: f64 = parts.iter().map(|p| p.1).sum();
        if parts.len() < 2 || (sum / whole - 1.0).abs() <= 0.03 {
            continue;
        }
        let grams = l.grams.times(sum / whole);
        let change = Change::Grams { line, grams, interval: !l.grams.is_exact() };
        let mut f = finding(
            "divided-mismatch",
            Caution,
            format!("The list says {} g, the steps use {} g.", show_grams(l.grams.likely), show_grams(grams.likely)),
            vec![
                Remedy::answering(format!("Use {} g", show_grams(grams.likely)), vec![change]),
                Remedy::meant(format!("Use {} g", show_grams(l.grams.likely))),
            ],
        );
        f.line = Some(line);
        found.extend(parts.first().map(|(i, _)| (*i, f)));
    }
    found
}

fn salt_on_yeast(steps: &[Step]) -> Vec<(usize, Finding)> {
    let wet = |s: &Step| says(s, &["yeast"]) && says(s, &["salt"]) && says(s, &["water", "milk", "liquid"]) && !says(s, &["flour"]);
    let together = |s: &Step| wet(s) && matches!(s.verb.as_str(), "mix" | "stir" | "dissolve" | "whisk" | "combine" | "add" | "put");
    let f = finding(
        "salt-on-yeast",
        Note,
        "Salt straight on yeast in the water: no harm in the minute it takes to mix, but do not let them stand.".into(),
        vec![Remedy::meant("Mixed at once")],
    );
    steps.iter().position(together).map(|i| (i, f)).into_iter().collect()
}

fn bake(steps: &[Step], formula: &Formula, a: &Analysis<'_>) -> Vec<(usize, Finding)> {
    let Some((at, step)) = baking_step(steps) else { return Vec::new() };
    let whole = steps.len() >= WHOLE_METHOD;
    let anywhere = |words: &[&str]| steps.iter().any(|s| says(s, words));
    let mut found = Vec::new();
    if whole
        && !anywhere(&[
            "preheat",
            "pre-heat",
            "heat the oven",
            "heat oven",
            "oven to",
            "oven on",
            "vorheiz",
            "préchauff",
            "prechauff",
            "hot oven",
        ])
    {
        let f = finding(
            "preheat-missing",
            Caution,
            "No word of heating the oven. Light it 20 to 30 min before the bread goes in, 45 with a stone or pot.".into(),
            vec![Remedy::meant("I light it in time")],
        );
        found.push((at, f));
    }
    let crisp = matches!(a.style.id, StyleId::Lean | StyleId::LongNoKnead | StyleId::SourdoughLean | StyleId::Rye);
    let covered = [
        "steam",
        "lid",
        "pot",
        "dutch",
        "cover",
        "cloche",
        "spray",
        "mist",
        "ice",
        "tray of water",
        "pan of water",
        "schwaden",
        "dampf",
        "vapeur",
        "tin",
    ];
    if whole
        && crisp
        && a.flour_g.likely > 0.0
        && !steps.iter().any(|s| (s.bakes() || s.oven_c.is_some() || says(s, &["oven"])) && says(s, &covered))
    {
        let f = finding("steam-missing", Note, "No steam and no lid: the skin sets early and tears. A tray of boiling water in the oven floor helps; stand aside from the steam.".into(), vec![Remedy::meant("Meant so")]);
        found.push((at, f));
    }
    let shaped = [
        "shap",
        "form",
        "roll",
        "divid",
        "braid",
        "plait",
        "ball",
        "boule",
        "batard",
        "fold into",
        "loaf",
        "loaves",
        "tin",
        "pan",
        "stretch",
        "press",
        "cut",
    ];
    if whole
        && formula.pieces.as_ref().is_some_and(|p| p.count > 1)
        && !steps.iter().any(|s| !s.bakes() && s.pieces.is_none() && says(s, &shaped))
        && !steps.iter().any(|s| s.pieces.is_some() && says(s, &shaped))
    {
        found.push((
            at,
            finding(
                "step-shape-missing",
                Note,
                "Pieces are told, but no shaping. Divide, shape, and let them rise once more.".into(),
                vec![Remedy::meant("Left out on purpose")],
            ),
        ));
    }
    let piece_g = formula.pieces.as_ref().map(|p| p.piece_g.unwrap_or(a.dough_g.likely / f64::from(p.count)));
    if let (Some(c), Some(g)) = (step.oven_c.or(formula.oven.and_then(|o| o.set_c)), piece_g)
        && g >= BIG_PIECE_G
        && a.sugar_pct.likely >= SWEET_PCT
        && c >= HOT_C
    {
        let cooler = to_nearest(c - 25.0, 5.0);
        let f = finding(
            "crust-ahead-of-core",
            Caution,
            format!("A big sweet loaf at {} °C goes black before it is done.", show(c, 0)),
            vec![
                Remedy::answering(format!("Set {} °C, longer", show(cooler, 0)), vec![Change::Oven { set_c: cooler }]),
                Remedy::meant("Keep it"),
            ],
        );
        found.push((at, f));
    }
    found
}
