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

/// Rolls with a filling and an icing, as recipes write them.
const STICKY: &str = "Keeper's sticky rolls

500 g bread flour
280 g milk
60 g butter
50 g sugar
9 g salt
7 g instant yeast

For the filling
80 g butter
120 g brown sugar
8 g cinnamon

For the icing
120 g icing sugar
25 g milk

Mix everything and knead 8 min. Let rise 90 minutes.
Roll out, spread with the filling, roll up and cut into 12 rolls. Prove 45 minutes.
Heat the oven to 190 C. Bake 22 minutes.
Cool, then drizzle with the icing.";

/// Filling goes in as it is shaped, icing over the baked bread; neither is brushed on before the bake, nor counted in the dough.
#[test]
fn filling_and_icing_are_weighed_at_their_acts() {
    use cerealis_core::{formula::Used, oven::Glaze, reader};
    let t = tables();
    let f = reader::read(STICKY, &reader::Choices::default(), &[], t).unwrap().formula;
    let used = |u| f.lines.iter().filter(|l| l.used == Some(u)).map(|l| l.grams.likely.round()).collect::<Vec<_>>();
    assert_eq!((used(Used::Filling), used(Used::Icing)), (vec![80.0, 120.0, 8.0], vec![120.0, 25.0]));
    assert_eq!(FormulaDraft::from(f.body()).check(&t.pantry).unwrap(), f);
    let a = f.analyse(&t.pantry, &t.styles);
    assert!((a.dough_g.likely - 906.0).abs() < 1.0, "{}", a.dough_g.likely);
    assert_eq!(cerealis_core::formula::oven_of(&a, &t.pantry).glaze, Glaze::None, "milk in an icing is no wash");
    let k = Kitchen { room_c: 22.0, ..Kitchen::default() };
    let ask = cerealis_core::plan::PlanAsk::usual(&f, &k, at("2026-11-07T08:00:00Z"), t);
    let steps = Plan::make(&f, &ask, &k, t).unwrap().steps;
    let words = |kind: StepKind| cerealis_core::measure::plain(&steps.iter().find(|s| s.kind == kind).unwrap().instruction);
    for (kind, said) in [(StepKind::Shape, ["Filling", "80 g", "120 g", "8 g"].as_slice()), (StepKind::Ready, &["Icing", "120 g", "25 g"])]
    {
        assert!(said.iter().all(|s| words(kind).contains(s)), "{}", words(kind));
    }
    for step in steps.iter().filter(|s| !matches!(s.kind, StepKind::Shape | StepKind::Ready)) {
        assert!(!step.instruction.contains("Filling") && !step.instruction.contains("Icing"), "{:?}", step.kind);
    }
    assert!(steps.iter().all(|s| s.kind != StepKind::Finish));
}

/// A line that names its use itself is that too; without a stage what is for the filling is of the finish, never of the dough.
#[test]
fn a_line_says_its_own_use_and_one_of_the_dough_has_none() {
    use cerealis_core::{
        formula::{Stage, Used},
        reader,
    };
    let t = tables();
    let text = "500 g bread flour\n300 g water\n9 g salt\n6 g instant yeast\n80 g butter, for the filling\n120 g brown sugar for the filling\n100 g icing sugar, for the icing\n30 g butter";
    let f = reader::read(text, &reader::Choices::default(), &[], t).unwrap().formula;
    let used: Vec<_> = f.lines.iter().map(|l| l.used).collect();
    assert_eq!(used, [None, None, None, None, Some(Used::Filling), Some(Used::Filling), Some(Used::Icing), None]);
    let line = |more: &str| {
        let text =
            format!(r#"{{"lines":[{{"ingredient":"wheat-bread","grams":500}},{{"ingredient":"butter-unsalted","grams":80{more}}}]}}"#);
        FormulaDraft::from(serde_json::from_str::<FormulaBody>(&text).unwrap()).check(&t.pantry)
    };
    assert_eq!(line(r#","used":"filling""#).unwrap().lines[1].stage, Stage::Finish);
    for wrong in [r#","used":"filling","stage":"dough""#, r#","used":"jam""#] {
        assert_eq!(line(wrong).unwrap_err().0[0].pointer.as_str(), "/lines/1/used", "{wrong}");
    }
}

/// Butter on top is brushed on hot; seeds with nothing under them are strewn on wet.
#[test]
fn butter_and_seeds_on_top_are_told_when_they_go_on() {
    let (act, _, out) = finish_of(&line("butter-unsalted", 20.0));
    assert!(act.is_none() && out.instruction.contains("while it is hot"), "{}", out.instruction);
    let (act, load, _) = finish_of(&line("sesame", 15.0));
    assert!(act.is_none() && load.instruction.contains("strew on"), "{}", load.instruction);
    let (act, load, _) = finish_of(&(line("sesame", 15.0) + &line("egg-whole", 20.0)));
    let act = act.unwrap();
    assert!(
        cerealis_core::measure::plain(&act.instruction).contains("15 g") && !load.instruction.contains("strew"),
        "with the egg: {}",
        act.instruction
    );
}

/// The timer of a bath runs as long as its words say.
#[test]
fn the_seconds_of_a_bath_are_those_of_its_words() {
    use cerealis_core::oven::{Bake, DIP, Glaze, POACH};
    for (glaze, words) in [(Glaze::Soda, DIP), (Glaze::Poached, POACH)] {
        let (from, to) = Bake { glaze, ..Bake::default() }.bath_seconds().unwrap();
        assert!(words.starts_with(&format!("{from}–{to} s a side")), "{words}");
        assert_eq!(Bake { glaze: Glaze::Soda, caustic: true, ..Bake::default() }.bath_seconds(), None, "lye by its recipe");
    }
}
