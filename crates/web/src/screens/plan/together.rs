//! Two to four breads for one day: one baker, one oven, all acts on one list.

use std::collections::BTreeMap;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    formula::Formula,
    input::InputErrors,
    kitchen::Kitchen,
    plan::{
        PlanStep, minutes_between,
        search::many::{MOST_DOUGHS, Together, fit_many},
    },
};
use jiff::Timestamp;
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{
    super::{Chrome, FindingView, StepRow, formula_kept, formulas_kept, kitchen, page, see_other},
    asked::{Asked, asked},
    fitted::{drawn, usual_hours},
    query,
};
use crate::{
    State,
    api::begin_bake,
    draw::{Tide, tide},
    edge::{Form, Local, PageFailure},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan/together").route(get().to(show)))
        .service(web::resource("/plan/together/use").route(post().to(use_plan)));
}

/// Which breads, when, and which of the plans.
#[derive(Debug, Deserialize, Default, Clone)]
struct Query {
    #[serde(default)]
    breads: Vec<String>,
    #[serde(default)]
    ready: String,
    #[serde(default)]
    option: usize,
}

/// A bread in a plan for several.
struct PartView {
    name: String,
    way: String,
    times: String,
    mini: Tide,
}

/// An act with the bread it is for.
struct ActView {
    row: StepRow,
    bread: String,
}

#[derive(Template)]
#[template(path = "plan/together.html")]
struct TogetherPage {
    chrome: Chrome,
    kept: Vec<(String, String, String, bool)>,
    ready: String,
    errors: Vec<String>,
    findings: Vec<FindingView>,
    options: Vec<(String, String, bool)>,
    option: usize,
    parts: Vec<PartView>,
    acts: Vec<ActView>,
    chosen: Vec<String>,
}

struct Found {
    kitchen: Kitchen,
    names: Vec<String>,
    asked: Asked,
    together: Together,
    errors: Vec<String>,
    ready: String,
}

/// Reads the breads and looks for plans of all of them.
async fn found(state: &State, q: &Query) -> Result<Found, PageFailure> {
    let kitchen = kitchen(state).await?;
    let local = Local::of(&kitchen);
    let now = state.clock.now();
    let ready = if q.ready.trim().is_empty() {
        usual_hours(now, &local).get(1).map_or_else(String::new, |t| local.field(*t))
    } else {
        q.ready.trim().to_owned()
    };
    let ask = query::Query { formula: String::new(), p: BTreeMap::from([("ready".to_owned(), ready.clone())]) };
    let (asked, form) = asked(&ask, &kitchen, now);
    let mut errors: Vec<String> = form.err().unwrap_or(InputErrors(Vec::new())).0.into_iter().map(|e| e.message).collect();
    let mut formulas: Vec<(Formula, Option<Timestamp>)> = Vec::new();
    let mut names = Vec::new();
    if q.breads.len() > MOST_DOUGHS {
        errors.push("Four breads at most are planned together.".to_owned());
    }
    for id in q.breads.iter().take(MOST_DOUGHS) {
        let formula = formula_kept(state, id).await?;
        names.push(formula.name.clone().unwrap_or_else(|| "Unnamed bread".into()));
        formulas.push((formula, None));
    }
    let mut together = Together::default();
    if errors.is_empty() && !formulas.is_empty() {
        match fit_many(&formulas, &asked.ask, &kitchen, &state.tables(), &|at| local.clock_to(at, 5.0)) {
            Ok(all) => together = all,
            Err(e) => errors.extend(e.0.into_iter().map(|e| e.message)),
        }
    }
    Ok(Found { kitchen, names, asked, together, errors, ready })
}

async fn show(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let f = found(&state, &q).await?;
    let local = Local::of(&f.kitchen);
    let now = state.clock.now();
    let chosen = f.together.offers.get(q.option).or(f.together.offers.first());
    let mut acts: Vec<(&PlanStep, &str)> = Vec::new();
    for (o, name) in chosen.into_iter().flatten().zip(&f.names) {
        acts.extend(o.course.steps.iter().filter(|s| !s.kind.waits()).map(|s| (s, name.as_str())));
    }
    acts.sort_by_key(|a| a.0.start);
    let steps: Vec<PlanStep> = acts.iter().map(|a| a.0.clone()).collect();
    let rows = StepRow::all(&steps, &local);
    let view = TogetherPage {
        chrome: Chrome::new("Plan", &f.kitchen, now),
        kept: formulas_kept(&state)
            .await?
            .into_iter()
            .map(|k| (q.breads.contains(&k.id), k))
            .map(|(on, k)| (k.id, k.name, k.about, on))
            .collect(),
        options: f
            .together
            .offers
            .iter()
            .enumerate()
            .map(|(i, parts)| {
                let ways: Vec<&str> = parts.iter().map(|o| o.name.as_str()).collect();
                let pairs: Vec<(&str, String)> = q
                    .breads
                    .iter()
                    .map(|b| ("breads[]", b.clone()))
                    .chain([("ready", f.ready.clone()), ("option", i.to_string())])
                    .collect();
                let href = format!("/plan/together?{}", serde_urlencoded::to_string(pairs).unwrap_or_default());
                (href, ways.join("; "), chosen.is_some_and(|c| std::ptr::eq(c, parts)))
            })
            .collect(),
        parts: chosen
            .into_iter()
            .flatten()
            .zip(&f.names)
            .map(|(o, name)| {
                let mut frame = drawn(o, &f.asked, &local, now, 24.0);
                frame.marks.retain(|m| m.symbol == "bake");
                PartView {
                    name: name.clone(),
                    way: o.name.clone(),
                    times: format!(
                        "bake {} {}, ready {}, {}",
                        local.short_day(o.course.load),
                        local.clock_to(o.course.load, 5.0),
                        local.clock_to(o.course.ready_at, 5.0),
                        o.risk()
                    ),
                    mini: tide(&frame, 420, 64, false),
                }
            })
            .collect(),
        acts: rows.into_iter().zip(&acts).map(|(row, (_, bread))| ActView { row, bread: (*bread).to_owned() }).collect(),
        findings: f.together.findings.iter().enumerate().map(|(i, x)| FindingView::new(i, x)).collect(),
        option: q.option,
        ready: f.ready,
        errors: f.errors,
        chosen: q.breads,
    };
    let status = if view.errors.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY };
    page(&view, status)
}

/// Begins a bake for each bread of the chosen plan; the first to be worked at is shown.
async fn use_plan(state: Data<State>, Form(q): Form<Query>) -> Result<HttpResponse, PageFailure> {
    let f = found(&state, &q).await?;
    let mut offers = f.together.offers;
    if q.option >= offers.len() {
        return Ok(see_other("/plan/together"));
    }
    let mut first: Option<(f64, String)> = None;
    let now = state.clock.now();
    for (o, name) in offers.swap_remove(q.option).into_iter().zip(f.names) {
        let starts = o.course.steps.first().map_or(0.0, |s| minutes_between(now, s.start));
        let (bake, _) = begin_bake(&state, name, o.formula, Some(o.ask)).await?;
        if first.as_ref().is_none_or(|(at, _)| starts < *at) {
            first = Some((starts, bake.id));
        }
    }
    Ok(see_other(&first.map_or_else(|| "/".to_owned(), |(_, id)| format!("/bakeday/{id}"))))
}
