//! Your hours: asleep, away, hands full, errands; by weekly habit or once. What the plans keep to.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    input::{InputErrors, Pointer},
    kitchen::{Hours, HoursKind, KitchenBody, hours::DAYS},
    measure::kept_hour,
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::super::{Chrome, back_to, kitchen, page, see_other};
use crate::{
    State, desk,
    edge::{Failure, Form, Local, PageFailure},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan/hours").route(get().to(show)).route(post().to(change)));
}

/// What is typed, and what is to be done.
#[derive(Debug, Deserialize, Default, Clone)]
struct Typed {
    #[serde(default)]
    formula: String,
    /// The plan it was typed on, with its answers.
    #[serde(default)]
    back: String,
    #[serde(default)]
    name: String,
    #[serde(default)]
    kind: String,
    #[serde(default)]
    days: Vec<String>,
    #[serde(default)]
    date: String,
    #[serde(default)]
    from: String,
    #[serde(default)]
    to: String,
    /// Whether the assumed hours of sleep are none of this household's.
    #[serde(default)]
    no_nights: Option<String>,
    /// The number of the hours to take away.
    #[serde(default)]
    remove: Option<usize>,
}

#[derive(Template)]
#[template(path = "plan/hours.html")]
struct HoursPage {
    chrome: Chrome,
    typed: Typed,
    rows: Vec<(usize, String, String, &'static str)>,
    /// The hours of sleep that are assumed.
    assumed: Option<String>,
    kinds: Vec<(&'static str, &'static str)>,
    days: Vec<(String, &'static str, bool)>,
    wrong: Vec<(String, String)>,
}

impl HoursPage {
    fn wrong_at(&self, field: &str) -> Vec<&str> {
        self.wrong.iter().filter(|w| w.0 == field).map(|w| w.1.as_str()).collect()
    }
}

async fn render(state: &State, typed: Typed, errors: Option<InputErrors>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(state).await?;
    let next = kitchen.hours.len();
    let here = Pointer::root().at("hours").at(next);
    let fields = ["name", "days", "date", "from", "to"];
    let wrong: Vec<(String, String)> = errors
        .as_ref()
        .map_or_else(Vec::new, |e| fields.iter().flat_map(|f| e.at(&here.at(f)).into_iter().map(|m| ((*f).to_owned(), m))).collect());
    let status = if wrong.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY };
    let rows = kitchen.hours.iter().enumerate().map(|(i, h)| (i, h.name.clone(), h.words(), h.kind.word())).collect();
    let first = kitchen.units.week_start.weekday();
    let days =
        (0..7).map(|i| (first + i) % 7).filter_map(|i| Some((i.to_string(), *DAYS.get(i)?, typed.days.contains(&i.to_string())))).collect();
    let view = HoursPage {
        chrome: Chrome::new("Plan", &kitchen, state.clock.now()),
        rows,
        assumed: kitchen.assumed_hours().map(|h| h.words()),
        kinds: HoursKind::ALL.map(|k| (k.word(), k.title())).to_vec(),
        days,
        wrong,
        typed,
    };
    page(&view, status)
}

async fn show(state: Data<State>, QsQuery(typed): QsQuery<Typed>) -> Result<HttpResponse, PageFailure> {
    render(&state, typed, None).await
}

async fn change(state: Data<State>, Form(typed): Form<Typed>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let local = Local::of(&kitchen);
    let mut hours = kitchen.hours;
    let mut nights_told = typed.no_nights.is_some().then_some(true);
    if let Some(i) = typed.remove {
        if i < hours.len() {
            // Who takes their sleep away has said that there is none.
            nights_told = (hours.remove(i).kind == HoursKind::Asleep).then_some(true);
        }
    } else if nights_told.is_none() {
        hours.push(Hours {
            name: typed.name.trim().to_owned(),
            kind: HoursKind::from_word(&typed.kind).unwrap_or(HoursKind::Away),
            days: typed.days.iter().filter_map(|d| d.parse().ok()).collect(),
            date: Some(local.read_day(&typed.date, state.clock.now()).map_or_else(|| typed.date.trim().to_owned(), |d| d.to_string()))
                .filter(|d| !d.is_empty()),
            from: kept_hour(&typed.from),
            to: kept_hour(&typed.to),
        });
    }
    match desk::kitchen::keep(&state, KitchenBody { hours: Some(hours), nights_told, ..KitchenBody::default() }).await {
        Ok(_) => {
            let hours = format!("/plan/hours?formula={}", typed.formula);
            Ok(see_other(&back_to(typed.back, &["/plan"]).unwrap_or(hours)))
        }
        Err(Failure::Input(errors)) => render(&state, typed, Some(errors)).await,
        Err(other) => Err(other.into()),
    }
}
