//! How a bread is kneaded: the ways there are in this kitchen side by side, the chosen one minute by minute, and keeping it.

mod view;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use cerealis_core::{
    formula::{Formula, FormulaDraft, KneadingBody},
    input::{Errors, InputErrors, Pointer, number},
    knead::{LONG_REST, LONG_REST_MIN, Method},
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{formula_kept, kitchen, page, see_other};
use crate::{
    State, desk,
    edge::{Form, PageFailure},
};
pub use view::kneaded;
use view::{KneadingPage, Seen};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula/{id}/kneading").route(get().to(show)).route(post().to(keep)));
}

/// What is asked for, as it was typed; a way left out is the bread's own.
#[derive(Debug, Clone, Default, Deserialize)]
pub struct Asked {
    way: Option<String>,
    /// The way the other fields were filled in for: they are not another's.
    #[serde(default)]
    was: String,
    #[serde(default)]
    rest_min: String,
    #[serde(default)]
    minutes: String,
    #[serde(default)]
    folds: String,
    #[serde(default)]
    butter: String,
}

impl Asked {
    /// Without what was filled in for another way.
    fn of_its_way(self) -> Self {
        match &self.way {
            Some(way) if *way != self.was && !self.was.is_empty() => Self { way: self.way, butter: self.butter, ..Self::default() },
            _ => self,
        }
    }

    /// The formula kneaded as asked; as it is where the bread's own way is asked for.
    fn over(&self, formula: &Formula, state: &State) -> Result<Formula, InputErrors> {
        let Some(way) = self.way.as_deref().filter(|w| !w.is_empty()) else { return Ok(formula.clone()) };
        let root = Pointer::root().at("kneading");
        let mut errors = Errors::default();
        let mut figure = |name: &str, typed: &str| match typed.trim() {
            "" => None,
            typed => errors.keep(root.at(name), number(typed)),
        };
        let long = way == LONG_REST;
        let body = KneadingBody {
            method: if long { Method::Hand.word() } else { way }.to_owned(),
            minutes: figure("minutes", &self.minutes),
            rest_min: figure("rest_min", &self.rest_min).or(long.then_some(LONG_REST_MIN)),
            folds: figure("folds", &self.folds),
            butter_late: match self.butter.as_str() {
                "late" => Some(true),
                "early" => Some(false),
                _ => None,
            },
        };
        // What can be read is checked beside what cannot, so that all is told at once.
        let draft = FormulaDraft { kneading: Some(body), ..FormulaDraft::from(formula.body()) };
        match draft.check(&state.tables().pantry) {
            Ok(kneaded) => errors.finish(kneaded),
            Err(e) => {
                errors.take(e);
                errors.finish(formula.clone())
            }
        }
    }
}

async fn show(state: Data<State>, id: Path<String>, QsQuery(asked): QsQuery<Asked>) -> Result<HttpResponse, PageFailure> {
    render(&state, id.into_inner(), &asked.of_its_way()).await
}

async fn render(state: &State, id: String, asked: &Asked) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(state).await?;
    let kept = formula_kept(state, &id).await?;
    let kneaded = asked.over(&kept, state);
    let wrong = kneaded.as_ref().err().cloned();
    let status = if wrong.is_some() { StatusCode::UNPROCESSABLE_ENTITY } else { StatusCode::OK };
    let formula = kneaded.unwrap_or_else(|_| kept.clone());
    page(&KneadingPage::new(&Seen { id, kept: &kept, formula: &formula, kitchen: &kitchen, asked, wrong: wrong.as_ref(), state })?, status)
}

/// Keeps the way with the formula.
async fn keep(state: Data<State>, id: Path<String>, Form(asked): Form<Asked>) -> Result<HttpResponse, PageFailure> {
    let (id, asked) = (id.into_inner(), asked.of_its_way());
    let kept = formula_kept(&state, &id).await?;
    match asked.over(&kept, &state) {
        Err(_) => render(&state, id, &asked).await,
        Ok(formula) => {
            desk::formulas::keep(&state, id.clone(), FormulaDraft::from(formula.body())).await?;
            Ok(see_other(&format!("/formula/{id}")))
        }
    }
}
