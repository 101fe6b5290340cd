//! What goes onto the pieces stands at its own act with its weigh-out: before the bake, or after it.

use cerealis_core::{
    formula::{Formula, FormulaBody, FormulaDraft},
    kitchen::Kitchen,
    plan::{
        Plan, PlanStep, StepKind,
        search::{answer::fit, ask::FitAsk},
    },
};
use jiff::Timestamp;

use super::bench::tables;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn rolls(finish: &str) -> Formula {
    let text = format!(
        r#"{{"lines":[{{"ingredient":"wheat-bread","grams":500}},{{"ingredient":"water","grams":280}},{{"ingredient":"salt-fine","grams":9}},{{"ingredient":"yeast-instant","grams":4}},{{"ingredient":"butter-unsalted","grams":30}}{finish}],"pieces":{{"count":8,"piece_g":100,"shape":"ball","vessel":"sheet"}}}}"#
    );
    let body: FormulaBody = serde_json::from_str(&text).unwrap();
    FormulaDraft::from(body).check(&tables().pantry).unwrap()
}

fn steps(finish: &str) -> Vec<PlanStep> {
    let k = Kitchen { room_c: 22.0, ..Kitchen::default() };
    let ask = FitAsk { ready_at: Some(at("2026-11-07T20:00:00Z")), ..FitAsk::soon(at("2026-11-07T08:00:00Z"), &k) };
    let answer = fit(&rolls(finish), &ask, &k, tables(), &|at: Timestamp| at.strftime("%H:%M").to_string()).unwrap();
    let o = answer.offers.first().unwrap();
    Plan::make(&o.formula, &o.ask, &k, tables()).unwrap().steps
}

fn line(ingredient: &str, grams: f64) -> String {
    format!(r#",{{"ingredient":"{ingredient}","grams":{grams},"stage":"finish"}}"#)
}

/// One act before the bake or none, right before the load, and the load does not tell it again.
fn finish_of(finish: &str) -> (Option<PlanStep>, PlanStep, PlanStep) {
    let all = steps(finish);
    let acts: Vec<PlanStep> = all.iter().filter(|s| matches!(s.kind, StepKind::Finish | StepKind::Dip)).cloned().collect();
    let only = |kind: StepKind| all.iter().find(|s| s.kind == kind).unwrap().clone();
    assert!(acts.len() <= 1, "{acts:?}");
    let load = only(StepKind::Load);
    if let Some(act) = acts.first() {
        assert_eq!(act.end, load.start, "it goes in as it is finished");
        assert!(!load.instruction.contains("Weigh"), "told once: {}", load.instruction);
    }
    (acts.first().cloned(), load, only(StepKind::Out))
}

/// A soda bath of 3 to 5 % is common practice, no source: the strength told is that of the recipe's own bath.
#[test]
fn what_goes_on_before_the_bake_has_its_act_and_is_weighed_there() {
    let soda = |water: &str| line("baking-soda", 60.0) + water;
    for (finish, kind, said) in [
        (line("egg-whole", 50.0) + &line("milk-whole", 15.0), StepKind::Finish, ["50 g", "15 g", "thin coat"].as_slice()),
        (soda(&line("water", 1500.0)), StepKind::Dip, &["40 g of soda to the litre", "20–30 s a side"]),
        (soda(""), StepKind::Dip, &["of water for it, 40 g to the litre"]),
    ] {
        let act = finish_of(&finish).0.unwrap();
        let words = cerealis_core::measure::plain(&act.instruction);
        assert!(act.kind == kind && said.iter().all(|s| words.contains(s)), "{:?} {words}", act.kind);
    }
}

/// Lye is dipped cold, and never in our words of a soda bath.
#[test]
fn lye_is_not_told_as_soda() {
    let (act, ..) = finish_of(&(line("lye", 30.0) + &line("water", 1000.0)));
    let act = act.unwrap();
    assert!(act.kind == StepKind::Dip && !act.instruction.contains("soda") && !act.instruction.contains("boil"), "{}", act.instruction);
    assert!(act.instruction.contains("goggles"));
    let f = rolls(&line("lye", 30.0));
    let a = f.analyse(&tables().pantry, &tables().styles);
    let bake = cerealis_core::formula::oven_of(&a, &tables().pantry);
    assert_eq!(bake.finish_caution(), Some(cerealis_core::safety::LYE));
    let told = cerealis_core::oven::before(&bake);
    assert!(told.iter().all(|care| !care.words.contains("80") && !care.words.contains("soda")), "no hot bath of lye: {told:?}");
    let minded = cerealis_core::oven::cautions(&bake, false);
    assert!(minded.contains(&cerealis_core::safety::LYE) && !minded.contains(&cerealis_core::safety::SODA_BATH), "{minded:?}");
}

#[test]
fn syrup_goes_on_after_the_bake() {
    let (act, _, out) = finish_of(&line("honey", 40.0));
    assert!(act.is_none(), "before the bake it would burn: {act:?}");
    assert!(out.instruction.contains("syrup"), "{}", out.instruction);
    let (plain, _, out) = finish_of("");
    assert!(plain.is_none() && !out.instruction.contains("syrup"));
}
