//! Variants: several formulas of one name, side by side.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    formula::{Analysis, Formula, FormulaDraft, Portion, side_by_side},
    input::{FieldError, InputErrors, Pointer},
    measure::{show_percent, weight},
};
use cerealis_store::formulas::{self, Kept};
use uuid::Uuid;

use super::{Chrome, kitchen, page, see_other};
use crate::{
    State, desk,
    edge::{Failure, Fields, PageFailure, on_disk},
};

/// Most columns that can be read side by side.
const MOST: usize = 6;

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula/{id}/variants").route(get().to(show)).route(post().to(make)));
}

/// A variant's head: id, what it is called, whether it is the one one came from.
struct Column {
    id: String,
    variant: String,
    here: bool,
}

/// A row: its words, when it goes in, a cell for each variant, whether they differ.
struct Row {
    name: String,
    stage: &'static str,
    cells: Vec<String>,
    differs: bool,
}

#[derive(Template)]
#[template(path = "variants/page.html")]
struct VariantsPage {
    chrome: Chrome,
    id: String,
    name: String,
    columns: Vec<Column>,
    more: usize,
    lines: Vec<Row>,
    figures: Vec<Row>,
    f: Fields,
}

fn cell(p: Option<Portion>) -> String {
    p.map_or_else(|| "—".to_owned(), |p| format!("{} %, {}", show_percent(p.pct), weight(p.grams)))
}

async fn render(state: &State, id: String, f: Fields, status: StatusCode) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(state).await?;
    let known = id.clone();
    let (here, all) = on_disk(&state.db, move |db| Ok((formulas::newest(db, &known)?, formulas::list(db)?))).await?;
    let others = all.into_iter().filter(|k| k.id != here.id && k.body.is_variant_of(&here.body));
    let kept: Vec<Kept> = std::iter::once(here.clone()).chain(others).collect();
    let t = state.tables();
    let shown: Vec<(&Kept, Formula)> =
        kept.iter().filter_map(|k| Some((k, FormulaDraft::from(k.body.clone()).check(&t.pantry).ok()?))).take(MOST).collect();
    let analyses: Vec<Analysis<'_>> = shown.iter().map(|(_, f)| f.analyse(&t.pantry, &t.styles)).collect();
    let table = side_by_side(&analyses);
    let view = VariantsPage {
        chrome: Chrome::new("Formula", &kitchen, state.clock.now()),
        name: here.body.name.clone().unwrap_or_else(|| "Unnamed bread".into()),
        columns: shown
            .iter()
            .map(|(k, _)| Column {
                here: k.id == id,
                id: k.id.clone(),
                variant: k.body.variant.clone().unwrap_or_else(|| "as it is".into()),
            })
            .collect(),
        more: kept.len() - shown.len(),
        lines: table
            .lines
            .into_iter()
            .map(|(name, stage, portions, differs)| Row {
                name,
                stage: stage.word(),
                cells: portions.into_iter().map(cell).collect(),
                differs,
            })
            .collect(),
        figures: table
            .figures
            .into_iter()
            .map(|(name, unit, values, differs)| Row {
                name: name.to_owned(),
                stage: "",
                cells: values
                    .into_iter()
                    .map(|v| if unit == "g" { weight(v).to_string() } else { format!("{} {unit}", show_percent(v)) })
                    .collect(),
                differs,
            })
            .collect(),
        id,
        f,
    };
    page(&view, status)
}

async fn show(state: Data<State>, id: Path<String>) -> Result<HttpResponse, PageFailure> {
    render(&state, id.into_inner(), Fields::default(), StatusCode::OK).await
}

/// Makes a variant: the same lines under the same name, to be changed.
async fn make(state: Data<State>, id: Path<String>, mut f: Fields) -> Result<HttpResponse, PageFailure> {
    let id = id.into_inner();
    let field = Pointer::root().at("variant");
    let known = id.clone();
    let newest = on_disk(&state.db, move |db| formulas::newest(db, &known)).await?;
    let Some(variant) = f.text(&field) else {
        f.refuse(InputErrors(vec![FieldError {
            pointer: field, message: "Say what is to be different, for example “with rye”.".into()
        }]));
        return render(&state, id, f, StatusCode::UNPROCESSABLE_ENTITY).await;
    };
    let draft = FormulaDraft { variant: Some(variant), ..FormulaDraft::from(newest.body) };
    let copy = Uuid::now_v7().to_string();
    match desk::formulas::keep(&state, copy.clone(), draft).await {
        Ok(_) => Ok(see_other(&format!("/formula/{copy}"))),
        Err(Failure::Input(errors)) => {
            f.refuse(errors);
            render(&state, id, f, StatusCode::UNPROCESSABLE_ENTITY).await
        }
        Err(other) => Err(other.into()),
    }
}
