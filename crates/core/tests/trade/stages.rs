//! A bake in stages: the recipe's settings, its lid and the dying oven, from its words to the model, the plan and the log.

use cerealis_core::{
    formula::{Formula, bake_in},
    kitchen::Kitchen,
    oven::{Bake, DialTurn, Vessel, advise, air},
    plan::{
        Plan, PlanStep, StepKind, minutes_between,
        search::{answer::fit, ask::FitAsk},
    },
    reader::{Choices, read},
};
use jiff::Timestamp;
use proptest::prelude::*;

use super::bench::tables;

fn at(text: &str) -> Timestamp {
    text.parse().unwrap()
}

fn kitchen() -> Kitchen {
    Kitchen { room_c: 21.0, ..Kitchen::default() }
}

fn recipe(bake: &str) -> Formula {
    let text = format!(
        "500 g bread flour\n350 g water\n10 g salt\n4 g instant yeast\n\nMethod\nKnead 10 min. Shape into 1 ball and let rise. {bake}"
    );
    read(&text, &Choices::default(), &[], tables()).unwrap().formula
}

fn plan(f: &Formula) -> Plan {
    let k = kitchen();
    let ask = FitAsk { ready_at: Some(at("2026-11-08T18:00:00Z")), ..FitAsk::soon(at("2026-11-07T08:00:00Z"), &k) };
    let answer = fit(f, &ask, &k, tables(), &|at: Timestamp| at.strftime("%H:%M").to_string()).unwrap();
    let o = answer.offers.first().unwrap_or_else(|| panic!("no plan: {:?}", answer.findings));
    Plan::make(&o.formula, &o.ask, &k, tables()).unwrap()
}

/// Minutes after loading of each act at the oven.
fn acts(plan: &Plan) -> Vec<(StepKind, f64, &PlanStep)> {
    let load = plan.step(StepKind::Load).unwrap().start;
    plan.steps.iter().filter(|s| s.kind.is_at_oven()).map(|s| (s.kind, minutes_between(load, s.start), s)).collect()
}

#[test]
fn a_pot_loaf_is_baked_in_the_stages_its_recipe_tells() {
    let f = recipe("Heat the oven to 250 C with the pot inside. Bake 20 min with the lid on, then 25 min at 220 C with the lid off.");
    let plan = plan(&f);
    let acts = acts(&plan);
    let of = |kind: StepKind| acts.iter().find(|a| a.0 == kind).unwrap_or_else(|| panic!("{kind:?} in {acts:?}"));
    assert_eq!(plan.oven.set_c, 250.0);
    assert!((20.0..=22.0).contains(&of(StepKind::LidOff).1), "{acts:?}");
    let dial = of(StepKind::Dial);
    assert!((20.0..=22.0).contains(&dial.1) && dial.2.instruction.contains("220"), "{acts:?}");
    assert!((30.0..=60.0).contains(&of(StepKind::Out).1), "{acts:?}");
    assert!(plan.step(StepKind::OvenOn).unwrap().instruction.contains("pot"), "the pot is heated with it");
    // At our setting its own stages fall away, its lid does not.
    let mut ours = f;
    ours.oven = ours.oven.map(|o| cerealis_core::formula::OvenTold { ours: true, ..o });
    let analysis = ours.analyse(&tables().pantry, &tables().styles);
    let bake = bake_in(&analysis, &kitchen(), &tables().pantry);
    assert!(bake.turns.is_empty() && bake.set_c.is_none() && bake.lid_off_min == Some(20.0), "{bake:?}");
}

#[test]
fn what_dries_in_the_dying_oven_comes_after_the_bake() {
    let plain = plan(&recipe("Bake at 230 C for 40 min."));
    let dried = plan(&recipe("Bake at 230 C for 40 min. Turn the oven off and leave it in for 10 min with the door ajar."));
    let (one, other) = (acts(&plain), acts(&dried));
    let out = |acts: &[(StepKind, f64, &PlanStep)]| acts.iter().find(|a| a.0 == StepKind::Out).unwrap().1;
    assert!((out(&other) - out(&one) - 10.0).abs() < 0.01, "{one:?} {other:?}");
    let dry = other.iter().find(|a| a.0 == StepKind::Dry).unwrap();
    assert!((dry.1 - out(&one)).abs() < 0.01, "{} {}", dry.1, out(&one));
    assert!(dry.2.instruction.contains("ajar") && dry.2.instruction.contains("off"), "{}", dry.2.instruction);
    assert!(one.iter().all(|a| a.0 != StepKind::Dry));
    assert!(dry.2.words.iter().any(|w| w.contains("door ajar")), "the recipe's words stand at their act: {:?}", dry.2.words);
}

#[test]
fn a_hot_oven_means_each_setting_cooler_on_its_dial() {
    let f = recipe("Bake 15 min at 240 C, then 25 min at 200 C.");
    let analysis = f.analyse(&tables().pantry, &tables().styles);
    let mut k = kitchen();
    k.oven.offset_c = Some(20.0);
    let bake = bake_in(&analysis, &k, &tables().pantry);
    assert_eq!((bake.set_c, bake.turns.as_slice()), (Some(220.0), [DialTurn { after_min: 15.0, to_c: 180.0 }].as_slice()));
}

/// The second load waits until the oven is as hot as for the first.
#[test]
fn an_oven_turned_down_takes_its_time_before_the_next_load() {
    use cerealis_core::oven::between_loads_min;
    assert_eq!(between_loads_min(230.0, None, 0.0), 10.0);
    assert_eq!(between_loads_min(250.0, Some(160.0), 0.0), 15.0);
    assert!(between_loads_min(250.0, Some(160.0), 10.0) > 15.0);
}

/// A big rye falls by itself: now the hands are told so.
#[test]
fn a_big_rye_is_told_to_turn_the_dial_down() {
    let text = "900 g whole rye flour\n750 g water\n18 g salt\n10 g instant yeast\n\nMethod\nMix. Shape into 1 round. Let rise 1 hour. Bake on a sheet.";
    let f = read(text, &Choices::default(), &[], tables()).unwrap().formula;
    let bake = bake_in(&f.analyse(&tables().pantry, &tables().styles), &kitchen(), &tables().pantry);
    let advice = advise(&bake, &tables().oven);
    let [turn] = advice.turns.as_slice() else { panic!("{:?}", advice.turns) };
    assert!(turn.to_c < advice.set_c && (turn.after_min - 15.0).abs() < 0.01, "{turn:?}");
    assert!(advice.events().iter().any(|e| e.kind == "dial"));
    let plan = plan(&f);
    assert!(acts(&plan).iter().any(|a| a.0 == StepKind::Dial), "{:?}", acts(&plan));
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, failure_persistence: None, ..ProptestConfig::default() })]

    /// Whatever the stages: a turn to the setting it has changes nothing, a cooler one never bakes faster, and the air goes
    /// towards each setting without a jump.
    #[test]
    fn the_dial_turned_down_never_bakes_faster(
        set_c in 200.0..260.0f64,
        falls in prop::collection::vec((3.0..20.0f64, 0.0..35.0f64), 1..5),
        piece_g in 200.0..1500.0f64,
    ) {
        let k = &tables().oven;
        // In a pot no foil is laid over it, which slows the hotter of two.
        let plain = Bake { piece_g, set_c: Some(set_c), vessel: Vessel::Pot, ..Bake::default() };
        let (mut at, mut c) = (0.0, set_c);
        let turns: Vec<DialTurn> = falls.iter().map(|(after, by)| {
            (at, c) = (at + after, (c - by).max(150.0));
            DialTurn { after_min: at, to_c: c }
        }).collect();
        let stays = Bake { turns: turns.iter().map(|t| DialTurn { to_c: set_c, ..*t }).collect(), ..plain.clone() };
        let turned = Bake { turns, ..plain.clone() };
        let (one, same, fell) = (advise(&plain, k), advise(&stays, k), advise(&turned, k));
        prop_assert!((one.minutes.unwrap() - same.minutes.unwrap()).abs() < 1e-6, "{:?} {:?}", one.minutes, same.minutes);
        // Steps fall otherwise where the dial is turned: that moves the end by less than a tenth of a second.
        prop_assert!(fell.core_done_min.unwrap_or(f64::INFINITY) >= one.core_done_min.unwrap() - 1e-3);
        for pair in air(&turned, &fell, k).windows(2).filter(|w| w[0].0 > 0.0) {
            prop_assert!((pair[1].1 - pair[0].1).abs() < 30.0, "the air jumps: {:?}", pair);
        }
    }
}
