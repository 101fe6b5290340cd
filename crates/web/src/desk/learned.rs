//! What the household's own bakes teach it, worked out from their logs whenever one of them tells more.

use cerealis_core::{
    bake::{EventKind, last_pull},
    formula::FormulaDraft,
    kitchen::Kitchen,
    knead::speed_by,
};
use cerealis_store::{bakes, kitchen};

use crate::{
    State,
    edge::{Failure, on_disk},
};

/// So many of the latest bakes teach: hands and flours change.
const LATEST: i64 = 20;

/// Learns how fast the household's kneading is, after a window was pulled or something was taken back.
///
/// # Errors
/// What the store says.
pub async fn kneading(state: &State, noted: EventKind) -> Result<(), Failure> {
    if !matches!(noted, EventKind::Window | EventKind::Undo) {
        return Ok(());
    }
    let t = state.tables();
    on_disk(&state.db, move |db| {
        let before = kitchen::get(db)?;
        // The book's own speed is what a window is held against.
        let plain = Kitchen { knead_speed: None, ..before.clone() };
        let mut pulls = Vec::new();
        for (bake, log) in bakes::with_event(db, EventKind::Window, LATEST)?.into_iter().rev() {
            let formula = FormulaDraft::from(bake.formula.clone()).check(&t.pantry);
            pulls.extend(formula.ok().and_then(|f| last_pull(&log, &bake.plan, &f, &plain, &t)));
        }
        let knead_speed = speed_by(&pulls, &t.knead);
        if knead_speed != before.knead_speed {
            let learned = kitchen::update(db, |k| Ok::<_, std::convert::Infallible>(Kitchen { knead_speed, ..k }))?;
            let Ok(_) = learned;
        }
        Ok(())
    })
    .await
}
