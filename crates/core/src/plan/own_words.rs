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
        ToldAct::Brush => &[S::Finish, S::Dip, S::Load],
        ToldAct::Boil => &[S::Dip, S::Load],
        ToldAct::Bake => &[S::Load],
        ToldAct::Dry => &[S::Dry, S::Out],
        ToldAct::Cool => &[S::Out, S::Ready],
        ToldAct::Feed => &[S::Feed, S::Stir, S::Leaven],
    }
}

/// Lays each told step at its act, in its order: one that fits none stands where it came, at the act before it.
pub(super) fn lay(steps: &mut [PlanStep], told: &[ToldStep]) {
    let mut here = steps.iter().position(|s| s.kind == StepKind::Mix).unwrap_or(0);
    for t in told {
        let act = t.act.as_deref().and_then(ToldAct::from_word);
        let before_its_time = act.is_some_and(ToldAct::comes_before_its_time);
        let found = act.and_then(|act| {
            let first = |kind: &StepKind, is_free: bool| {
                let fits =
                    |(i, s): (usize, &PlanStep)| s.kind == *kind && (i >= here || before_its_time) && (s.words.is_empty() || !is_free);
                steps.iter().enumerate().position(fits)
            };
            // A rise told twice is two rises: the next one without words; else one that has some.
            let kinds = acts_of(act);
            kinds.iter().find_map(|k| first(k, true)).or_else(|| kinds.iter().find_map(|k| first(k, false)))
        });
        let at = found.unwrap_or(here);
        if let Some(step) = steps.get_mut(at) {
            step.words.push(t.text.clone());
        }
        if !before_its_time {
            here = at;
        }
    }
}
