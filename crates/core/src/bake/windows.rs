//! What the windows pulled on a bake teach of the household's kneading.

use super::{
    Event,
    told::{kept, told_by},
};
use crate::{
    Tables,
    formula::{Formula, kneading_in},
    kitchen::Kitchen,
    knead::Pull,
    plan::Plan,
};

/// The last window of a bake, against the book: earlier ones of the same dough say the same again. None where none was pulled, or
/// nothing tells how long it had been kneaded.
#[must_use]
pub fn last_pull(log: &[Event], plan: &Plan, formula: &Formula, kitchen: &Kitchen, tables: &Tables) -> Option<Pull> {
    let actual = told_by(&kept(log), kitchen);
    let (word, at) = *actual.windows.last()?;
    let minutes = plan.ask.kneaded_min(&actual.bowl, at);
    let a = formula.analyse(&tables.pantry, &tables.styles);
    let work = kneading_in(&a, kitchen).check(&tables.knead, &tables.styles, &tables.ferment).ok()?;
    (minutes > 0.0).then(|| work.leaving_at(plan.ask.mix_c).pulled(word, minutes)).flatten()
}
