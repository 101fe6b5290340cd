use actix_web::{
    HttpResponse,
    http::header,
    web::{Data, Json, Path},
};
use cerealis_core::{
    formula::{FormulaBody, FormulaDraft},
    input::{InputErrors, Pointer},
};
use cerealis_store::formulas::{self, Which};
use serde::Deserialize;
use serde_json::{Value, json};
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use crate::{
    State, desk,
    edge::{Failure, Sent, on_disk},
};

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: FormulaBody,
}

async fn keep_sent(state: &State, id: String, body: FormulaBody) -> Result<i32, Failure> {
    let under = |f: Failure| match f {
        Failure::Input(e) => Failure::Input(e.under(&Pointer::root().at("formula"))),
        other => other,
    };
    desk::formulas::keep(state, id, FormulaDraft::from(body)).await.map_err(under)
}

pub async fn save(state: Data<State>, Sent(body): Sent<Body>) -> Result<HttpResponse, Failure> {
    let id = Uuid::now_v7().to_string();
    let version = keep_sent(&state, id.clone(), body.formula).await?;
    Ok(HttpResponse::Created()
        .insert_header((header::LOCATION, format!("/api/v1/formulas/{id}")))
        .json(json!({ "id": id, "version": version })))
}

pub async fn update(state: Data<State>, id: Path<String>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let id = id.into_inner();
    let known = id.clone();
    on_disk(&state.db, move |db| formulas::newest(db, &known)).await?;
    let version = keep_sent(&state, id.clone(), body.formula).await?;
    Ok(Json(json!({ "id": id, "version": version })))
}

fn wire(k: &formulas::Kept) -> Value {
    json!({ "id": k.id, "version": k.version, "style": k.style, "flour_g": k.flour_g, "formula": k.body })
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct WhichVersion {
    version: Option<i32>,
}

pub async fn get(state: Data<State>, id: Path<String>, QsQuery(query): QsQuery<WhichVersion>) -> Result<Json<Value>, Failure> {
    let id = id.into_inner();
    let kept = on_disk(&state.db, move |db| match query.version {
        Some(version) => formulas::version(db, &id, version),
        None => formulas::newest(db, &id),
    });
    Ok(Json(wire(&kept.await?)))
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Sought {
    q: Option<String>,
    page: Option<i64>,
}

pub async fn list(state: Data<State>, QsQuery(query): QsQuery<Sought>) -> Result<Json<Value>, Failure> {
    let number = query.page.unwrap_or(1);
    if number < 1 {
        return Err(Failure::Input(InputErrors::one(Pointer::root().at("page"), "Pages are counted from 1.")));
    }
    let q = query.q.unwrap_or_default();
    let (found, total) = on_disk(&state.db, move |db| formulas::found(db, Which::InUse, number, &q)).await?;
    let rows: Vec<Value> = found.iter().map(wire).collect();
    Ok(Json(json!({ "formulas": rows, "total": total })))
}
