//! Beginning bakes, and what goes on beside them.

use cerealis_core::{
    Tables,
    bake::{BakeState, Event, EventKind, NewEvent},
    formula::{Formula, FormulaDraft},
    kitchen::Kitchen,
    plan::{
        Beside, Plan, PlanAsk,
        replan::{OnTheDay, Replanned},
    },
};
use cerealis_store::{
    StoreError,
    bakes::{self, Kept, Search},
};
use jiff::Timestamp;
use uuid::Uuid;

use super::learned;
use crate::{
    State,
    edge::{Failure, on_disk},
};

/// Begins a bake: checks formula and plan, keeps both as they are now.
///
/// # Errors
/// What the check of formula or plan says; what the store says.
pub async fn begin(state: &State, name: String, formula: Formula, ask: Option<PlanAsk>) -> Result<(Kept, Kitchen), Failure> {
    let t = state.tables();
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let now = state.clock.now();
    let ask = ask.unwrap_or_else(|| PlanAsk::usual(&formula, &kitchen, now, &t));
    let plan = Plan::make(&formula, &ask, &kitchen, &t)?;
    let bake = planned((Uuid::now_v7().to_string(), name), &formula, plan, state);
    let kept = bake.clone();
    on_disk(&state.db, move |db| bakes::begin(db, &kept)).await?;
    Ok((bake, kitchen))
}

/// Notes an event on a bake, and learns from it where it teaches; its number.
///
/// # Errors
/// What the store says; an event that is kept and not learned from is kept.
pub async fn note(state: &State, id: &str, event: NewEvent, key: Option<String>) -> Result<i32, Failure> {
    let (id, kind) = (id.to_owned(), event.kind);
    let seq = on_disk(&state.db, move |db| bakes::append(db, &id, &event, key.as_deref())).await?;
    if matches!(kind, EventKind::Window | EventKind::Undo)
        && let Err(e) = learned::kneading(state, kind == EventKind::Undo).await
    {
        tracing::warn!(?e, "nothing was learned from a window");
    }
    Ok(seq)
}

/// A bake of a plan, as it is kept: under an id and a name.
pub fn planned((id, name): (String, String), formula: &Formula, plan: Plan, state: &State) -> Kept {
    let t = state.tables();
    let style = formula.analyse(&t.pantry, &t.styles).style.id.word().to_owned();
    Kept { id, name, style, formula: formula.body(), plan, made: state.clock.now(), day: None }
}

/// Begins the bakes of plans as they were shown, all on one day, unless they have begun: the same tap twice is one bake.
///
/// # Errors
/// What the store says.
pub async fn take(state: &State, all: Vec<Kept>) -> Result<(), Failure> {
    on_disk(&state.db, move |db| match all.first().map(|first| bakes::get(db, &first.id)) {
        Some(Err(StoreError::NotFound)) => bakes::begin_all(db, &all),
        Some(Err(other)) => Err(other),
        Some(Ok(_)) | None => Ok(()),
    })
    .await
}

/// Most bakes that are looked at as going on: a household has one oven.
pub const GOING_ON: i64 = 12;

/// What the other breads of the house, begun or planned, still take of oven and hands.
///
/// # Errors
/// If the household's bakes cannot be read.
pub async fn beside(state: &State, kitchen: &Kitchen, bake: Option<&str>) -> Result<Vec<Beside>, Failure> {
    let (rows, mut logs) = on_disk(&state.db, move |db| {
        let rows = bakes::list(db, &Search { sliced: Some(false), rows: Some(GOING_ON), ..Search::default() })?;
        let logs = bakes::logs(db, &rows.iter().map(|b| b.id.as_str()).collect::<Vec<_>>())?;
        Ok((rows.rows, logs))
    })
    .await?;
    let (now, t) = (state.clock.now(), state.tables());
    let takes = |other: &Kept, log: &[Event]| {
        let formula = FormulaDraft::from(other.formula.clone()).check(&t.pantry).ok()?;
        let stands = BakeState::of(log, &other.plan, &formula, kitchen, now, &t).ok().filter(|s| !s.finished)?;
        stands.course.beside(&other.name, now)
    };
    let others = rows.iter().filter(|b| Some(b.id.as_str()) != bake);
    Ok(others.filter_map(|b| takes(b, &logs.remove(&b.id).unwrap_or_default())).collect())
}

/// The rest of a bake planned anew; nothing where it goes as planned, or cannot be planned: the bake is told all the same.
pub fn rest_anew(
    bake: &Kept,
    (formula, stands): (&Formula, &BakeState),
    kitchen: &Kitchen,
    (now, beside): (Timestamp, &[Beside]),
    tables: &Tables,
) -> Option<Replanned> {
    OnTheDay { plan: &bake.plan, course: &stands.course, formula, actual: &stands.actual, kitchen, tables, now, beside }
        .replan()
        .ok()
        .flatten()
}
