use actix_web::{
    HttpRequest, HttpResponse,
    http::header,
    web::{Data, Json, Path},
};
use cerealis_core::{
    Tables,
    kitchen::Kitchen,
    leaven::{Jar, JarBody, JarEvent, JarEventBody, JarState},
};
use cerealis_store::leavens::{self, KeptJar};
use jiff::Timestamp;
use serde_json::{Value, json};

use super::log;
use crate::{
    State,
    desk::jars,
    edge::{Failure, Local, Sent, on_disk},
};

pub async fn add(state: Data<State>, Sent(body): Sent<JarBody>) -> Result<HttpResponse, Failure> {
    let id = jars::add(&state, body).await?;
    Ok(HttpResponse::Created().insert_header((header::LOCATION, format!("/api/v1/leavens/{id}"))).json(json!({ "id": id })))
}

pub async fn list(state: Data<State>) -> Result<Json<Value>, Failure> {
    let jars = on_disk(&state.db, leavens::list).await?;
    let rows: Vec<Value> = jars
        .iter()
        .map(|j| json!({ "id": j.id, "name": j.jar.name, "hydration_pct": j.jar.hydration_pct, "flour_mix": j.jar.flour_mix }))
        .collect();
    Ok(Json(json!({ "leavens": rows })))
}

/// The state of a jar as the API writes it.
fn state_answer(s: &JarState, local: &Local) -> Value {
    let at = |t: Timestamp| local.rfc3339(t);
    let place = s.fed.places.last().map(|s| s.place.word());
    json!({
        "fed_at": at(s.fed.at), "place": place, "ratio_now": s.ratio_now, "ripeness": s.ripeness, "may_use": s.may_use(),
        "best_from": s.best.map(|b| at(b.0)), "best_to": s.best.map(|b| at(b.1)), "falls_at": s.falls.map(at),
        "peak_low": s.peak.map(|p| at(p.0)), "peak_at": s.peak.map(|p| at(p.1)), "peak_high": s.peak.map(|p| at(p.2)),
        "rate": s.rate, "left_g": s.left_g, "cold_days": s.cold_days, "seed": s.seed,
    })
}

fn wire(kept: &KeptJar, jar: &Jar, log: &[JarEvent], kitchen: &Kitchen, now: Timestamp, t: &Tables) -> Value {
    let local = Local::for_data(kitchen);
    let stands = jar.state(log, kitchen, now, &t.ferment);
    let events: Vec<Value> = log.iter().map(|e| log::event(e.seq, e.event.at, &e.event.body, &local)).collect();
    json!({
        "id": kept.id, "name": kept.jar.name, "hydration_pct": kept.jar.hydration_pct, "flour_mix": kept.jar.flour_mix, "events": events,
        "state": stands.as_ref().map(|s| state_answer(s, &local)), "curve": stands.map_or_else(Vec::new, |s| s.forecast.thinned(300)),
    })
}

pub async fn get(state: Data<State>, id: Path<String>) -> Result<Json<Value>, Failure> {
    let id = id.into_inner();
    let (kept, log, kitchen) =
        on_disk(&state.db, move |db| Ok((leavens::get(db, &id)?, leavens::log(db, &id)?, cerealis_store::kitchen::get(db)?))).await?;
    let t = state.tables();
    let jar = kept.jar.check(&t.ferment)?;
    Ok(Json(wire(&kept, &jar, &log, &kitchen, state.clock.now(), &t)))
}

pub async fn append(
    state: Data<State>,
    id: Path<String>,
    request: HttpRequest,
    Sent(body): Sent<JarEventBody>,
) -> Result<HttpResponse, Failure> {
    let id = id.into_inner();
    let key = log::idempotency_key(&request)?;
    log::told(body.at.as_ref())?;
    let seq = jars::append(&state, &id, body, key).await?;
    let (kept, log, kitchen) =
        on_disk(&state.db, move |db| Ok((leavens::get(db, &id)?, leavens::log(db, &id)?, cerealis_store::kitchen::get(db)?))).await?;
    let t = state.tables();
    let jar = kept.jar.check(&t.ferment)?;
    let stands = jar.state(&log, &kitchen, state.clock.now(), &t.ferment);
    Ok(HttpResponse::Created().json(json!({ "seq": seq, "state": stands.map(|s| state_answer(&s, &Local::for_data(&kitchen))) })))
}
