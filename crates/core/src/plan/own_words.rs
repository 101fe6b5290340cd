//! The recipe's own words, each at the act it belongs to: what somebody wrote stands beside what we say.

use super::{PlanStep, StepKind};
use crate::formula::{ToldAct, ToldStep};

/// The acts of a plan that a told one may stand at, the likeliest first.
const fn acts_of(told: ToldAct) -> &'static [StepKind] {
    use StepKind as S;
    match told {
        ToldAct::Mix => &[S::Mix],
        ToldAct::Knead => &[S::Knead, S::Butter, S::Mix],
        ToldAct::Rest => &[S::Soak, S::BenchRest],
        ToldAct::Rise => &[S::Bulk, S::Proof],
        ToldAct::Fold => &[S::Fold, S::Bulk],
        ToldAct::Shape => &[S::Shape],
        ToldAct::Heat => &[S::OvenOn],
        ToldAct::Brush => &[S::Finish, S::Load],
        ToldAct::Boil | ToldAct::Bake => &[S::Load],
        ToldAct::Cool => &[S::Out, S::Ready],
        ToldAct::Feed => &[S::Feed, S::Stir, S::Leaven],
    }
}

/// Lays each told step at its act, in its order: one that fits none stands where it came, at the act before it.
pub(super) fn lay(steps: &mut [PlanStep], told: &[ToldStep]) {
    let mut here = steps.iter().position(|s| s.kind == StepKind::Mix).unwrap_or(0);
    // A rise told twice is two rises; one told once more stands at the one it is told of.
    let mut taken = vec![false; steps.len()];
    for t in told {
        let act = t.act.as_deref().and_then(ToldAct::from_word);
        let found = act.and_then(|act| {
            let at = |kind: &StepKind, free: bool| {
                let fits = |(i, s): (usize, &PlanStep)| {
                    s.kind == *kind && (i >= here || act.comes_before_its_time()) && !(free && taken.get(i).copied().unwrap_or(true))
                };
                steps.iter().enumerate().position(fits)
            };
            let kinds = acts_of(act);
            // The next one that has no words yet; else one that has.
            kinds.iter().find_map(|k| at(k, true)).or_else(|| kinds.iter().find_map(|k| at(k, false)))
        });
        let at = found.unwrap_or(here);
        if let Some(slot) = taken.get_mut(at).filter(|_| found.is_some()) {
            *slot = true;
        }
        if let Some(step) = steps.get_mut(at) {
            step.words.push(t.text.clone());
        }
        if !act.is_some_and(ToldAct::comes_before_its_time) {
            here = at;
        }
    }
}
