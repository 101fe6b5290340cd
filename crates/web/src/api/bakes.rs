use actix_web::{
    HttpRequest, HttpResponse,
    http::header,
    web::{Data, Json, Path},
};
use cerealis_core::{
    Tables,
    bake::{BakeState, Event, EventBody, summary},
    formula::{FormulaBody, FormulaDraft},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    plan::{
        Beside, PlanAsk, later,
        replan::{Reason, Replanned, RestChange, RestOption},
    },
};
use cerealis_exchange::{Clocks, PlanFile, PlanFormat};
use cerealis_store::bakes::{self, Kept, Search};
use jiff::Timestamp;
use serde::Deserialize;
use serde_json::{Value, json};
use serde_qs::actix::QsQuery;

use super::{checked, log};
use crate::{
    State, desk,
    edge::{Failure, Local, Sent, on_disk},
};

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Begin {
    name: String,
    formula: FormulaBody,
    plan: Option<PlanBody>,
}

/// A plan on offer, sent back whole: what it was made from is all that counts.
#[derive(Debug, Deserialize)]
pub struct PlanBody {
    ask: PlanAsk,
}

pub async fn begin(state: Data<State>, Sent(body): Sent<Begin>) -> Result<HttpResponse, Failure> {
    let root = Pointer::root();
    let name = body.name.trim().to_owned();
    if name.is_empty() || name.chars().count() > 200 {
        return Err(InputErrors::one(root.at("name"), "Give the bread a name of 1 to 200 letters.").into());
    }
    let formula = checked(body.formula, &state)?;
    let under_plan = |f: Failure| match f {
        Failure::Input(e) => Failure::Input(e.under(&root.at("plan").at("ask"))),
        other => other,
    };
    let (bake, kitchen) = desk::bakes::begin(&state, name, formula, body.plan.map(|p| p.ask)).await.map_err(under_plan)?;
    let answer = wire(&bake, &[], &kitchen, (state.clock.now(), &[]), &state.tables())?;
    Ok(HttpResponse::Created().insert_header((header::LOCATION, format!("/api/v1/bakes/{}", bake.id))).json(answer))
}

/// A bake with its log, its plan and where it stands.
fn wire(bake: &Kept, log: &[Event], kitchen: &Kitchen, (now, beside): (Timestamp, &[Beside]), t: &Tables) -> Result<Value, Failure> {
    let formula = FormulaDraft::from(bake.formula.clone()).check(&t.pantry)?;
    let state = BakeState::of(log, &bake.plan, &formula, kitchen, now, t)?;
    let local = Local::for_data(kitchen);
    let anew = desk::bakes::rest_anew(bake, (&formula, &state), kitchen, (now, beside), t).map(|r| replanned(&r, &local, now));
    let events: Vec<Value> = log.iter().map(|e| log::event(e.seq, e.event.at, &e.event.body, &local)).collect();
    Ok(
        json!({ "id": bake.id, "name": bake.name, "formula": bake.formula, "plan": bake.plan, "events": events, "state": state_answer(&state, &local, now), "replan": anew }),
    )
}

/// The rest planned anew: why, and the ways to go on. `rest` is what a `replanned` event carries to choose one.
fn replanned(r: &Replanned, local: &Local, now: Timestamp) -> Value {
    let at = |t: Timestamp| local.rfc3339(t);
    let reason = |r: &Reason| match *r {
        Reason::Off(min) => json!({ "kind": "off", "minutes": min }),
        Reason::OvenCold(hot) => json!({ "kind": "oven-cold", "back": at(hot) }),
        Reason::Nobody { act, due, over, back } => {
            json!({ "kind": "nobody", "act": act, "due": at(due), "over": over.map(at), "back": at(back) })
        }
        Reason::OvenTaken { due, ref bread, back } => json!({ "kind": "oven-taken", "due": at(due), "bread": bread, "back": at(back) }),
        Reason::Over(rise, from) => json!({ "kind": "over", "rise": rise, "over": at(from) }),
        Reason::Warm(min) => json!({ "kind": "warm", "minutes": min }),
    };
    let change = |c: &RestChange| {
        let kind = c.word();
        match *c {
            RestChange::BenchRest(min) | RestChange::LoadSooner(min) | RestChange::ReadyLater(min) => {
                json!({ "kind": kind, "minutes": min })
            }
            RestChange::HandsTaken(min, ref bread) => json!({ "kind": kind, "at": at(later(now, f64::from(min))), "bread": bread }),
            RestChange::OutOfHours(min) => json!({ "kind": kind, "at": at(later(now, f64::from(min))) }),
            RestChange::FoldsSkipped(n) => json!({ "kind": kind, "folds": n }),
            RestChange::Place(rise, place) => json!({ "kind": kind, "rise": rise, "place": place }),
            RestChange::Brake(rise) => json!({ "kind": kind, "rise": rise, "place": Place::Fridge }),
        }
    };
    let way = |o: &RestOption| {
        json!({
            "changes": o.changes.iter().map(change).collect::<Vec<_>>(),
            "carry": o.carry.map(|c| json!({ "place": c.place, "place_c": c.place_c, "at": at(c.at), "by": at(c.by) })),
            "shape_at": o.shape.map(at), "load_at": at(o.load), "ready_at": at(o.ready), "p_spoil": o.p_spoil,
            "ripeness": o.ripeness.iter().map(|(rise, ripeness)| json!({ "rise": rise, "ripeness": ripeness })).collect::<Vec<_>>(),
            "rest": o.rest,
        })
    };
    json!({
        "reasons": r.reasons.iter().map(reason).collect::<Vec<_>>(),
        "options": r.options.iter().map(way).collect::<Vec<_>>(), "other_bread": r.other_bread,
    })
}

/// The state as the API writes it.
#[must_use]
pub fn state_answer(s: &BakeState, local: &Local, now: Timestamp) -> Value {
    let at = |t: Timestamp| local.rfc3339(t);
    let step = |p: &cerealis_core::plan::PlanStep| {
        json!({
            "kind": p.kind, "start": at(p.start), "end": at(p.end), "hands_on_min": p.hands_on_min, "place": p.place, "sign": p.sign, "instruction": p.instruction,
            "words": p.words,
        })
    };
    json!({
        "seq": s.seq, "stage": s.stage, "dough_h": s.dough.map(|d| d.dough_h), "dough_c": s.dough.map(|d| d.dough_c), "ripeness": s.dough.map(|d| d.ripeness),
        "ready_at": at(s.course.ready_at), "ready_low": s.course.ready_low.map(at), "ready_high": s.course.ready_high.map(at), "late_min": s.late_min,
        "next": s.next.iter().map(step).collect::<Vec<_>>(),
        "changed": s.changed.iter().map(|c| json!({ "kind": c.kind, "was": at(c.was), "now": at(c.now) })).collect::<Vec<_>>(),
        "findings": super::findings(&s.findings(now)),
    })
}

pub async fn get(state: Data<State>, id: Path<String>) -> Result<Json<Value>, Failure> {
    let id = id.into_inner();
    let (bake, log, kitchen) =
        on_disk(&state.db, move |db| Ok((bakes::get(db, &id)?, bakes::log(db, &id)?, cerealis_store::kitchen::get(db)?))).await?;
    let taken = desk::bakes::beside(&state, &kitchen, Some(&bake.id)).await?;
    Ok(Json(wire(&bake, &log, &kitchen, (state.clock.now(), &taken), &state.tables())?))
}

/// The plan of a bake as it stands now, as a calendar, a table, a page, or JSON. Ids stay where times move; acts
/// that fell away are sent as cancelled.
pub async fn plan_file(state: Data<State>, path: Path<(String, String)>) -> Result<HttpResponse, Failure> {
    let (id, format) = path.into_inner();
    let Some(format) = PlanFormat::from_extension(&format) else { return Err(Failure::NotFound) };
    let (bake, log, kitchen) =
        on_disk(&state.db, move |db| Ok((bakes::get(db, &id)?, bakes::log(db, &id)?, cerealis_store::kitchen::get(db)?))).await?;
    let t = state.tables();
    let formula = FormulaDraft::from(bake.formula.clone()).check(&t.pantry)?;
    let stands = BakeState::of(&log, &bake.plan, &formula, &kitchen, state.clock.now(), &t)?;
    let local = if format.is_for_people() { Local::of(&kitchen) } else { Local::for_data(&kitchen) };
    let file = PlanFile {
        id: bake.id.clone(),
        name: bake.name.clone(),
        steps: &stands.course.steps,
        dropped: bake.plan.steps.clone(),
        sequence: stands.seq,
        stamp: state.clock.now(),
        about: desk::about::about(&formula, &stands.course, bake.plan.ask.mix_c, None, (&kitchen, &local), &state),
        units: kitchen.units,
    };
    let (first, last) = (bake.plan.ask.start, stands.course.ready_at);
    let asleep: Vec<_> = cerealis_core::kitchen::hours::spells(&kitchen.kept_hours(), local.zone(), first, last)
        .into_iter()
        .filter(|s| s.kind == cerealis_core::kitchen::HoursKind::Asleep)
        .collect();
    let quiet = |at: Timestamp| asleep.iter().any(|s| s.from <= at && at < s.to);
    let text = file.write(format, Clocks { quiet: &quiet, people: &|at| local.day_and_clock(at), data: &|at| local.rfc3339(at) });
    let disposition = format!("attachment; filename=\"plan.{}\"", format.extension());
    Ok(HttpResponse::Ok().content_type(format.media_type()).insert_header((header::CONTENT_DISPOSITION, disposition)).body(text))
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Query {
    q: Option<String>,
    style: Option<String>,
    from: Option<String>,
    to: Option<String>,
    page: Option<i64>,
}

pub async fn list(state: Data<State>, query: QsQuery<Query>) -> Result<Json<Value>, Failure> {
    let query = query.into_inner();
    let root = Pointer::root();
    let mut errors = cerealis_core::input::Errors::default();
    let mut instant = |name: &str, text: Option<String>| {
        text.and_then(|t| {
            errors.keep(
                root.at(name),
                t.parse::<Timestamp>().map_err(|_| format!("“{t}” is no moment with its offset, for example 2026-11-06T00:00:00+00:00.")),
            )
        })
    };
    let (from, to) = (instant("from", query.from), instant("to", query.to));
    let page = query.page.unwrap_or(1);
    if !(1..=1_000_000).contains(&page) {
        errors.add(root.at("page"), "Pages are counted from 1.");
    }
    errors.finish(())?;
    let search = Search { name: query.q.filter(|q| !q.is_empty()), style: query.style, from, to, page, ..Search::default() };
    let (rows, total, kitchen) = on_disk(&state.db, move |db| {
        let (kept, total) = (bakes::list(db, &search)?, bakes::count(db, &search)?);
        let mut logs = bakes::logs(db, &kept.iter().map(|b| b.id.as_str()).collect::<Vec<_>>())?;
        let with_log = |bake: Kept| {
            let log = logs.remove(&bake.id).unwrap_or_default();
            (bake, log)
        };
        let rows: Vec<(Kept, Vec<Event>)> = kept.into_iter().map(with_log).collect();
        Ok((rows, total, cerealis_store::kitchen::get(db)?))
    })
    .await?;
    let (local, now) = (Local::for_data(&kitchen), state.clock.now());
    let row = |(bake, log): &(Kept, Vec<Event>)| {
        let formula = FormulaDraft::from(bake.formula.clone()).check(&state.tables().pantry).ok();
        let stands = formula.and_then(|f| BakeState::of(log, &bake.plan, &f, &kitchen, now, &state.tables()).ok());
        let s = summary(log);
        json!({
            "id": bake.id, "name": bake.name, "style": bake.style, "made_at": local.rfc3339(bake.made), "stage": stands.as_ref().map(|s| s.stage),
            "ready_at": stands.as_ref().map(|s| local.rfc3339(s.course.ready_at)), "late_min": stands.as_ref().map(|s| s.late_min),
            "colour": s.colour, "rating": s.rating, "faults": s.faults, "next_time": s.next_time,
        })
    };
    Ok(Json(json!({ "bakes": rows.iter().map(row).collect::<Vec<_>>(), "total": total })))
}

pub async fn append(
    state: Data<State>,
    id: Path<String>,
    request: HttpRequest,
    Sent(body): Sent<EventBody>,
) -> Result<HttpResponse, Failure> {
    let id = id.into_inner();
    let key = log::idempotency_key(&request)?;
    let now = state.clock.now();
    log::told(body.at.as_ref())?;
    let event = body.check(now)?;
    let seq = desk::bakes::note(&state, &id, event, key).await?;
    let (bake, log, kitchen) =
        on_disk(&state.db, move |db| Ok((bakes::get(db, &id)?, bakes::log(db, &id)?, cerealis_store::kitchen::get(db)?))).await?;
    // The event is kept whatever follows; a course that cannot be worked out is told as such.
    let formula = FormulaDraft::from(bake.formula.clone()).check(&state.tables().pantry)?;
    let stands = BakeState::of(&log, &bake.plan, &formula, &kitchen, now, &state.tables())
        .ok()
        .map(|s| state_answer(&s, &Local::for_data(&kitchen), now));
    Ok(HttpResponse::Created().json(json!({ "seq": seq, "state": stands })))
}
