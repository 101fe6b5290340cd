//! A plan that was shown, checked again before it begins: it is begun as it was seen, or not at all.

use jiff::Timestamp;

use super::{
    Actual, Course, Plan, PlanAsk, PlanStep, StepKind, course, minutes_between,
    search::{
        ask::{AwayAsk, FitAsk},
        hours::AwayKind,
    },
};
use crate::{
    Tables,
    formula::{Analysis, Formula, Raising},
    input::{Errors, InputErrors, Pointer},
    kitchen::Kitchen,
    measure::{show_minutes, weight},
    pantry::Family,
};

/// A plan whose first act is no longer ago is still begun: it was read, and thought about. Minutes.
const STILL_MIN: f64 = 20.0;
/// One act at night that was agreed to, minutes.
const WOKEN_MIN: f64 = 10.5;
/// What is weighed for a plan holds the recipe's flour and water, within so much of them.
const SAME_SHARE: f64 = 0.02;
/// A dose may lie over the most its style takes by so much: scales round.
const DOSE_SLACK: f64 = 1.05;

/// Checks a plan that was shown for a recipe: its hours are still to come, everything in the bowl but the dose is the recipe's,
/// the dose is one bakers take, no hand is needed where nobody is free, no hot oven is alone, and no other bread has the oven.
///
/// # Errors
/// What no longer holds, in a baker's words.
pub fn check_shown(
    recipe: &Formula,
    weighed: &Formula,
    ask: &PlanAsk,
    day: &FitAsk,
    kitchen: &Kitchen,
    tables: &Tables,
) -> Result<Plan, InputErrors> {
    let root = Pointer::root();
    let mut errors = Errors::default();
    let (was, is) = (recipe.analyse(&tables.pantry, &tables.styles), weighed.analyse(&tables.pantry, &tables.styles));
    if let Err(why) = same_bowl(&was, &is) {
        errors.add(root.at("formula"), why);
    }
    if let Err(why) = dose(&was, &is) {
        errors.add(root.at("formula"), why);
    }
    let made = course(weighed, ask, None, &Actual::default(), kitchen, tables)?;
    let first = made.steps.iter().filter(|s| !s.kind.waits()).map(|s| s.start).min().unwrap_or(ask.start);
    let gone = minutes_between(first, day.from);
    if gone > STILL_MIN {
        errors.add(root.at("start"), format!("This plan would have begun {} ago.", show_minutes(gone)));
    }
    if let Some(why) = unfree(&made, day) {
        errors.add(root.at("hours"), why);
    }
    if let Some((bread, _)) = made.oven_clash(&day.beside, 0.0) {
        errors.add(root.at("oven"), format!("“{bread}” has the oven then."));
    }
    errors.finish(Plan { ask: ask.clone(), oven: made.oven.clone(), ready_at: made.ready_at, steps: made.steps })
}

/// Whether all that is weighed but the yeast, the leaven, and their flour and water is what the recipe has.
fn same_bowl(was: &Analysis<'_>, is: &Analysis<'_>) -> Result<(), String> {
    let near = |a: f64, b: f64| (a - b).abs() <= SAME_SHARE * a.abs().max(1.0);
    if !near(was.flour_g.likely, is.flour_g.likely) {
        return Err(format!("The recipe has {} flour, this plan {}.", weight(was.flour_g.likely), weight(is.flour_g.likely)));
    }
    if (was.effective_hydration_pct.likely - is.effective_hydration_pct.likely).abs() > 100.0 * SAME_SHARE {
        return Err("This plan has another share of water than the recipe.".to_owned());
    }
    let varies = |f: Family| matches!(f, Family::Flour | Family::Liquid | Family::Yeast | Family::Leaven);
    let total =
        |a: &Analysis<'_>, id: &str| -> f64 { a.formula.lines.iter().filter(|l| l.ingredient.id == id).map(|l| l.grams.likely).sum() };
    for line in was.formula.lines.iter().chain(&is.formula.lines).filter(|l| !varies(l.ingredient.family)) {
        let (a, b) = (total(was, &line.ingredient.id), total(is, &line.ingredient.id));
        if !near(a, b) {
            return Err(format!("The recipe has {} {}, this plan {}.", weight(a), line.ingredient.name, weight(b)));
        }
    }
    Ok(())
}

/// Whether the dose is one that bakers take for this style, or the recipe's own.
fn dose(was: &Analysis<'_>, is: &Analysis<'_>) -> Result<(), String> {
    let most = was.style.custom.dose_most_pct.max(was.yeast_instant_pct.likely);
    let taken = is.yeast_instant_pct.likely;
    if was.raising() == Some(Raising::Yeast) && taken > most * DOSE_SLACK {
        return Err(format!("This plan takes more yeast than bakers do: {taken:.1} % of the flour, as instant yeast."));
    }
    Ok(())
}

/// The first act for which nobody is free, or the oven that would be hot alone.
fn unfree(made: &Course, day: &FitAsk) -> Option<String> {
    let meets = |a: &&AwayAsk, from: Timestamp, to: Timestamp| a.from < to && from < a.to;
    let mut woken = day.woken;
    for s in made.steps.iter().filter(|s| has_hands(s)) {
        let Some(gone) = day.away.iter().find(|a| meets(a, s.start, s.end)) else { continue };
        if gone.kind == AwayKind::Asleep && woken && minutes_between(s.start, s.end) <= WOKEN_MIN {
            woken = false;
            continue;
        }
        return Some(format!("“{}” would fall when {}.", s.kind.title(), gone.kind.you_are()));
    }
    let lit = made.steps.iter().find(|s| s.kind == StepKind::OvenOn)?.start;
    let out = made.steps.iter().rfind(|s| s.kind == StepKind::Out)?.end;
    let alone = day.away.iter().filter(|a| a.kind != AwayKind::Busy).find(|a| meets(a, lit, out))?;
    Some(format!("The oven would be hot while {}. No plan leaves a hot oven alone.", alone.kind.you_are()))
}

/// Acts a hand is at from beginning to end. Lighting the oven is a turn of a dial.
const fn has_hands(s: &PlanStep) -> bool {
    !s.kind.waits() && !matches!(s.kind, StepKind::OvenOn | StepKind::Ready | StepKind::Check | StepKind::Foil)
}
