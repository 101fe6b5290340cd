use std::sync::Arc;

use actix_web::{
    HttpResponse,
    http::header::{self, ContentDisposition, ContentEncoding, ContentType},
    web::{Data, Json, Path},
};
use cerealis_core::{
    formula::{Formula, FormulaDraft},
    reader::{self, Choices},
};
use cerealis_exchange::{Format, Opened, open};
use cerealis_store::StoreError;
use serde::Deserialize;
use serde_json::{Value, json};
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use super::{findings, openapi};
use crate::{
    State, desk,
    desk::{
        keeping::{self, Handed},
        plain_name,
    },
    edge::{BODY_LIMIT, Failure, Written, on_disk, too_large},
};

/// A kept formula in an open format, as a file.
pub async fn export(state: Data<State>, path: Path<(String, String)>) -> Result<HttpResponse, Failure> {
    let (id, ending) = path.into_inner();
    let Some(format) = Format::from_extension(&ending) else { return Err(Failure::NotFound) };
    let kept = on_disk(&state.db, move |db| cerealis_store::formulas::newest(db, &id)).await?;
    let formula = FormulaDraft::from(kept.body).check(&state.tables().pantry)?;
    let name = format!("{}.{ending}", plain_name(formula.name.as_deref().unwrap_or("bread"), "bread"));
    Ok(HttpResponse::Ok()
        .content_type(format.media_type())
        .insert_header(ContentDisposition::attachment(name))
        .body(format.write(&formula, &state.tables())))
}

/// The schema of the program's own JSON (JSON Schema 2020-12).
pub async fn schema() -> Json<Value> {
    Json(openapi::formula_file_schema())
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Query {
    dry_run: Option<bool>,
}

/// Kinds of file that are opened; what it is is told by its text.
const KINDS: [&str; 6] = ["application/ld+json", "application/json", "text/html", "text/csv", "text/markdown", "text/plain"];

/// Everything the household keeps, as an archive.
pub async fn export_all(state: Data<State>) -> Result<HttpResponse, Failure> {
    let Handed { name, bytes } = keeping::export(&state).await?;
    Ok(HttpResponse::Ok().insert_header(ContentType::json()).insert_header(ContentDisposition::attachment(name)).body(bytes))
}

/// A copy of the household's own file. It is compact as it is: packing would only take long.
pub async fn copy(state: Data<State>) -> Result<HttpResponse, Failure> {
    let Handed { name, bytes } = keeping::copy(&state).await?;
    let mut answer = HttpResponse::Ok();
    answer.content_type("application/vnd.sqlite3").insert_header(ContentEncoding::Identity);
    Ok(answer.insert_header(ContentDisposition::attachment(name)).body(bytes))
}

/// The schema of an archive (JSON Schema 2020-12).
pub async fn archive_schema() -> Json<cerealis_store::archive::Schema> {
    Json(cerealis_store::archive::schema())
}

async fn bring(state: &State, text: Arc<str>, dry: bool) -> Result<HttpResponse, Failure> {
    let brought = keeping::bring(state, text, dry).await?;
    let new: Vec<Value> = brought.new.iter().map(|(what, n)| json!({ "what": what.word(), "count": n })).collect();
    let left: Vec<Value> = brought.left.iter().map(|l| json!({ "what": l.what.word(), "id": l.id, "why": l.why })).collect();
    let answer = json!({ "new": new, "same": brought.same, "left": left, "words": brought.told(dry) });
    Ok(if dry { HttpResponse::Ok().json(answer) } else { HttpResponse::Created().json(answer) })
}

/// Opens a file as other programs write it, or an archive; with `dry_run` it only says what it would keep.
pub async fn import(state: Data<State>, QsQuery(query): QsQuery<Query>, sent: Written) -> Result<HttpResponse, Failure> {
    let text: Arc<str> = sent.of(&KINDS)?.into();
    match bring(&state, text.clone(), query.dry_run.unwrap_or(false)).await {
        Err(Failure::Store(StoreError::Foreign)) => {}
        archive => return archive,
    }
    if text.len() > BODY_LIMIT {
        return Err(too_large(BODY_LIMIT));
    }
    let wrong = |sentence: String| Failure::wrong(sentence);
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let t = &state.tables();
    let choices = Choices::from(&kitchen);
    let (formula, found, unread) = match open(&text).map_err(wrong)? {
        Opened::Formula(draft) => {
            let formula = draft.check(&t.pantry)?;
            let found = cerealis_core::formula::find(&formula.analyse(&t.pantry, &t.styles), t);
            (formula, found, Vec::new())
        }
        Opened::Recipe(words) => {
            let reading = reader::read(&words, &choices, &[], t)?;
            if let Some(sentence) = reading.lacks_a_weight() {
                return Err(wrong(sentence.into()));
            }
            let found = reading.findings(t);
            (reading.formula, found, reading.unread)
        }
    };
    if formula.lines.is_empty() {
        return Err(wrong("There is no ingredient with a weight in this file.".into()));
    }
    let said = |formula: &Formula| json!({ "formula": formula.body(), "unread": unread, "findings": findings(&found) });
    if query.dry_run.unwrap_or(false) {
        return Ok(HttpResponse::Ok().json(said(&formula)));
    }
    let id = Uuid::now_v7().to_string();
    let version = desk::formulas::keep(&state, id.clone(), FormulaDraft::from(formula.body())).await?;
    let mut answer = said(&formula);
    if let Some(object) = answer.as_object_mut() {
        object.insert("id".into(), json!(id));
        object.insert("version".into(), json!(version));
    }
    Ok(HttpResponse::Created().insert_header((header::LOCATION, format!("/api/v1/formulas/{id}"))).json(answer))
}
