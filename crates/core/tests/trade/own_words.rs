//! The recipe's own words, each at the act it belongs to. Common practice, no source.

use cerealis_core::{
    formula::{Formula, FormulaDraft, ToldAct, ToldStep},
    kitchen::Kitchen,
    plan::{Plan, PlanAsk, PlanStep, StepKind},
    reader::{Choices, read},
};
use jiff::Timestamp;
use proptest::prelude::*;

use super::bench::{LEAN, formula, places, tables};

fn planned(f: &Formula) -> Vec<PlanStep> {
    let k = Kitchen::default();
    let ask = PlanAsk::usual(f, &k, Timestamp::UNIX_EPOCH, tables());
    Plan::make(f, &ask, &k, tables()).unwrap().steps
}

fn at(steps: &[PlanStep], words: &str) -> StepKind {
    steps.iter().find(|s| s.words.iter().any(|w| w.contains(words))).unwrap_or_else(|| panic!("{words} stands nowhere")).kind
}

#[test]
fn each_sentence_stands_at_its_act() {
    let text = "500 g bread flour\n330 g water\n10 g salt\n4 g instant yeast\n\nPreheat the oven to 230 C.\nMix everything in the big bowl.\n\
        Knead for 10 minutes, singing.\nLet rise 1 hour till doubled.\nShape into a loaf.\nLet rise again 40 minutes.\nBrush with water.\n\
        Bake at 230 C for 35 minutes.\nCool on a rack.";
    let read = read(text, &Choices::from(&Kitchen::default()), &[], tables()).unwrap();
    let steps = planned(&read.formula);
    for (words, kind) in [
        ("Preheat", StepKind::OvenOn),
        ("big bowl", StepKind::Mix),
        ("singing", StepKind::Knead),
        ("till doubled", StepKind::Bulk),
        ("Shape into", StepKind::Shape),
        ("rise again", StepKind::Proof),
        ("Bake at", StepKind::Load),
        ("rack", StepKind::Out),
    ] {
        assert_eq!(at(&steps, words), kind, "{words}");
    }
    // Kept and read again they stand where they stood.
    let again = FormulaDraft::from(read.formula.body()).check(&tables().pantry).unwrap();
    assert_eq!(planned(&again), steps);
}

#[test]
fn what_fits_no_act_stands_where_it_came() {
    let told = |text: &str, act: Option<ToldAct>| ToldStep { text: text.into(), act: act.map(|a| a.word().into()), start: 0, end: 0 };
    let steps = vec![
        told("Find your apron.", None),
        told("Shape it.", Some(ToldAct::Shape)),
        told("Grandmother hummed here.", None),
        told("Feed the cat.", Some(ToldAct::Feed)),
    ];
    let laid = planned(&Formula { steps, ..formula(LEAN) });
    assert_eq!(at(&laid, "apron"), StepKind::Mix);
    assert_eq!(at(&laid, "hummed"), StepKind::Shape);
    assert_eq!(at(&laid, "cat"), StepKind::Shape, "no leaven is fed here: it stands where it was told");
}

#[test]
fn an_act_of_nobody_is_refused_at_its_field() {
    let step = ToldStep { text: "Whistle.".into(), act: Some("whistle".into()), start: 0, end: 0 };
    let draft = FormulaDraft { steps: vec![step], ..FormulaDraft::from(formula(LEAN).body()) };
    assert!(places(&draft.check(&tables().pantry).unwrap_err()).contains(&"/steps/0/act"));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(100))]

    /// Whatever a recipe tells, in whatever order: each sentence stands once, none is lost, none is changed.
    #[test]
    fn every_sentence_stands_once(acts in prop::collection::vec(prop::option::of(prop::sample::select(ToldAct::ALL.to_vec())), 0..25)) {
        let told: Vec<ToldStep> = acts
            .iter()
            .enumerate()
            .map(|(i, a)| ToldStep { text: format!("sentence {i}."), act: a.map(|a| a.word().to_owned()), start: 0, end: 0 })
            .collect();
        let laid = planned(&Formula { steps: told.clone(), ..formula(LEAN) });
        let mut all: Vec<&String> = laid.iter().flat_map(|s| &s.words).collect();
        prop_assert_eq!(all.len(), told.len());
        all.sort();
        let mut wanted: Vec<&String> = told.iter().map(|t| &t.text).collect();
        wanted.sort();
        prop_assert_eq!(all, wanted);
        // A plan without them is the same plan.
        let plain = planned(&formula(LEAN));
        prop_assert!(laid.iter().zip(&plain).all(|(a, b)| (a.kind, a.start, &a.instruction) == (b.kind, b.start, &b.instruction)));
    }
}
