//! What the household's own bakes teach it, worked out from their logs whenever one of them tells more.

use std::convert::Infallible;

use cerealis_core::{
    bake::{EventKind, last_pull},
    formula::FormulaDraft,
    kitchen::Kitchen,
    knead::{Pull, speed_by},
};
use cerealis_store::{bakes, kitchen};

use crate::{
    State,
    edge::{Failure, on_disk},
};

/// So many of the latest bakes teach: hands and flours change.
const LATEST: i64 = 20;

/// Learns how fast the household's kneading is from the windows of its bakes; after an undo only where it has learned
/// before.
///
/// # Errors
/// What the store says.
pub async fn kneading(state: &State, undone: bool) -> Result<(), Failure> {
    let t = state.tables();
    on_disk(&state.db, move |db| {
        let before = kitchen::get(db)?;
        if undone && before.knead_speed.is_none() {
            return Ok(());
        }
        let bakes = bakes::with_event(db, EventKind::Window, LATEST)?;
        let pulls: Vec<Pull> = bakes
            .iter()
            .rev()
            .filter_map(|(bake, log)| {
                let formula = FormulaDraft::from(bake.formula.clone()).check(&t.pantry).ok()?;
                last_pull(log, &bake.plan, &formula, &before, &t)
            })
            .collect();
        let knead_speed = speed_by(&pulls, &t.knead);
        if knead_speed != before.knead_speed {
            let learned = kitchen::update(db, |k| Ok::<_, Infallible>(Kitchen { knead_speed, ..k }))?;
            let Ok(_) = learned;
        }
        Ok(())
    })
    .await
}
