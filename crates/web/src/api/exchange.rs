use actix_web::{
    HttpResponse,
    http::header::{self, ContentDisposition, DispositionParam, DispositionType},
    web::{Data, Json, Path},
};
use cerealis_core::{
    formula::{Formula, FormulaDraft},
    input::{InputErrors, Pointer},
    reader::{self, Choices},
};
use cerealis_exchange::{Format, Opened, open};
use serde::Deserialize;
use serde_json::{Value, json};
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use super::{findings, keep_formula, openapi};
use crate::{
    State,
    edge::{Failure, Written, on_disk},
};

/// A file name that no system stumbles over: letters, digits, hyphens.
fn file_name(name: &str, ending: &str) -> String {
    let plain = cerealis_core::pantry::fold(name);
    let safe: String = plain.chars().filter(|c| c.is_ascii_alphanumeric() || *c == ' ').take(60).collect();
    let safe = safe.split_whitespace().collect::<Vec<_>>().join("-");
    format!("{}.{ending}", if safe.is_empty() { "bread" } else { &safe })
}

/// A kept formula in an open format, as a file.
pub async fn export(state: Data<State>, path: Path<(String, String)>) -> Result<HttpResponse, Failure> {
    let (id, ending) = path.into_inner();
    let Some(format) = Format::from_extension(&ending) else { return Err(Failure::NotFound) };
    let kept = on_disk(&state.db, move |db| cerealis_store::formulas::newest(db, &id)).await?;
    let formula = FormulaDraft::from(kept.body).check(&state.tables().pantry)?;
    let name = file_name(formula.name.as_deref().unwrap_or("bread"), &ending);
    let disposition = ContentDisposition { disposition: DispositionType::Attachment, parameters: vec![DispositionParam::Filename(name)] };
    Ok(HttpResponse::Ok()
        .content_type(format.media_type())
        .insert_header((header::CONTENT_DISPOSITION, disposition))
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

/// Opens a file as other programs write it; with `dry_run` it only says what it would keep.
pub async fn import(state: Data<State>, QsQuery(query): QsQuery<Query>, sent: Written) -> Result<HttpResponse, Failure> {
    let text = sent.of(&KINDS)?;
    let wrong = |sentence: String| Failure::Input(InputErrors::one(Pointer::root(), sentence));
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
    let version = keep_formula(&state, id.clone(), FormulaDraft::from(formula.body())).await?;
    let mut answer = said(&formula);
    if let Some(object) = answer.as_object_mut() {
        object.insert("id".into(), json!(id));
        object.insert("version".into(), json!(version));
    }
    Ok(HttpResponse::Created().insert_header((header::LOCATION, format!("/api/v1/formulas/{id}"))).json(answer))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_file_name_is_plain() {
        assert_eq!(file_name("Crème  brûlée/../bun", "md"), "creme-brulee-bun.md");
        assert_eq!(file_name("麦", "csv"), "bread.csv");
    }
}
