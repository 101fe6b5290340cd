//! Keeping a formula.

use cerealis_core::formula::FormulaDraft;
use cerealis_store::formulas::{self, Beside};

use crate::{
    State,
    edge::{Failure, on_disk},
};

/// Checks a formula and keeps it under an id; nothing is stored unchecked, nothing overwritten.
///
/// # Errors
/// What the formula's check or the store says.
pub async fn keep(state: &State, id: String, draft: FormulaDraft) -> Result<i32, Failure> {
    let t = &state.tables();
    let formula = draft.check(&t.pantry)?;
    let a = formula.analyse(&t.pantry, &t.styles);
    let beside = Beside { style: a.style.id.word().to_owned(), flour_g: a.flour_g.likely, now: state.clock.now() };
    let body = formula.body();
    on_disk(&state.db, move |db| formulas::save(db, &id, &body, &beside)).await
}
