//! The versions of a formula: what changed from one to the next, bringing one back, putting the bread away.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    formula::{Comparison, Formula, FormulaDraft, LineDifference, Portion, compare},
    measure::{show_percent, weight},
};
use cerealis_store::formulas::{self, Kept};
use serde::Deserialize;
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use super::{Chrome, kitchen, page, see_other};
use crate::{
    State, desk,
    edge::{Failure, Form, Local, PageFailure, on_disk},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula/{id}/versions").route(get().to(versions)).route(post().to(deed)));
}

#[derive(Debug, Deserialize, Default)]
struct Query {
    /// The earlier version to compare.
    a: Option<i32>,
    /// The later one.
    b: Option<i32>,
}

/// A version in the list.
struct VersionRow {
    version: i32,
    saved: String,
    about: String,
    note: String,
    newest: bool,
    earlier: bool,
    later: bool,
}

#[derive(Template)]
#[template(path = "versions/page.html")]
struct VersionsPage {
    chrome: Chrome,
    id: String,
    name: String,
    rows: Vec<VersionRow>,
    retired: bool,
    compared: Option<(i32, i32)>,
    lines: Vec<[String; 5]>,
    figures: Vec<[String; 3]>,
    other: Vec<[String; 3]>,
}

fn portion(p: Option<Portion>) -> String {
    p.map_or_else(
        || "—".to_owned(),
        |p| {
            if p.pct > 0.0 { format!("{}, {} %", weight(p.grams), show_percent(p.pct)) } else { weight(p.grams).to_string() }
        },
    )
}

fn check(kept: &Kept, state: &State) -> Result<Formula, Failure> {
    Ok(FormulaDraft::from(kept.body.clone()).check(&state.tables().pantry)?)
}

/// How a line moved, in points of percent.
fn moved(line: &LineDifference) -> String {
    match line.points() {
        Some(points) => format!("{}{}", if points < 0.0 { "−" } else { "+" }, show_percent(points.abs())),
        None => if line.is.is_some() { "new" } else { "gone" }.to_owned(),
    }
}

fn figure(value: f64, unit: &str) -> String {
    if unit == "g" { weight(value).to_string() } else { format!("{} {unit}", show_percent(value)) }
}

async fn versions(state: Data<State>, id: Path<String>, QsQuery(query): QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let id = id.into_inner();
    let known = id.clone();
    let (all, retired) = on_disk(&state.db, move |db| Ok((formulas::versions(db, &known)?, formulas::is_retired(db, &known)?))).await?;
    let at = |version: Option<i32>| version.and_then(|v| all.iter().find(|k| k.version == v));
    let later = at(query.b).or_else(|| all.first());
    let earlier = at(query.a).or_else(|| later.and_then(|l| all.iter().find(|k| k.version < l.version)));
    let t = &state.tables();
    let comparison = match (earlier, later) {
        (Some(a), Some(b)) => {
            let (a, b) = (check(a, &state)?, check(b, &state)?);
            compare(&a.analyse(&t.pantry, &t.styles), &b.analyse(&t.pantry, &t.styles))
        }
        _ => Comparison::default(),
    };
    let local = Local::of(&kitchen);
    let rows = all.iter().enumerate().map(|(i, k)| VersionRow {
        version: k.version,
        saved: local.day_and_clock(k.saved),
        about: format!("{} on {} flour", k.style.replace('-', " "), weight(k.flour_g)),
        note: k.body.note.clone().unwrap_or_default(),
        newest: i == 0,
        earlier: earlier.is_some_and(|e| e.version == k.version),
        later: later.is_some_and(|l| l.version == k.version),
    });
    let view = VersionsPage {
        chrome: Chrome::new("Formula", &kitchen, state.clock.now()),
        name: all.first().and_then(|k| k.body.name.clone()).unwrap_or_else(|| "Unnamed bread".into()),
        rows: rows.collect(),
        retired,
        compared: earlier.zip(later).map(|(a, b)| (a.version, b.version)),
        lines: comparison
            .lines
            .iter()
            .map(|l| [l.name.clone(), l.stage.word().to_owned(), portion(l.was), portion(l.is), moved(l)])
            .collect(),
        figures: comparison.figures.iter().map(|(name, a, b, unit)| [(*name).to_owned(), figure(*a, unit), figure(*b, unit)]).collect(),
        other: comparison.other.into_iter().map(|(name, a, b)| [name.to_owned(), a, b]).collect(),
        id,
    };
    page(&view, StatusCode::OK)
}

#[derive(Debug, Deserialize, Default)]
struct Deed {
    #[serde(default, rename = "do")]
    deed: String,
}

/// Brings a version back as the newest one, copies the bread under a new name, puts it away or takes it out.
async fn deed(state: Data<State>, id: Path<String>, Form(form): Form<Deed>) -> Result<HttpResponse, PageFailure> {
    let id = id.into_inner();
    let (word, rest) = form.deed.split_once(':').unwrap_or((form.deed.as_str(), ""));
    let here = format!("/formula/{id}/versions");
    match (word, rest.parse::<i32>()) {
        ("back", Ok(version)) => {
            let known = id.clone();
            let old = on_disk(&state.db, move |db| formulas::version(db, &known, version)).await?;
            desk::formulas::keep(&state, id, FormulaDraft::from(old.body)).await?;
            Ok(see_other(&here))
        }
        ("copy", _) => {
            let newest = on_disk(&state.db, move |db| formulas::newest(db, &id)).await?;
            let mut draft = FormulaDraft::from(newest.body);
            let name = draft.name.unwrap_or_else(|| "Unnamed bread".into());
            draft.name = Some(format!("{}, another", name.chars().take(180).collect::<String>()));
            let copy = Uuid::now_v7().to_string();
            desk::formulas::keep(&state, copy.clone(), draft).await?;
            Ok(see_other(&format!("/formula/{copy}")))
        }
        ("away" | "out", _) => {
            let at = (word == "away").then(|| state.clock.now());
            on_disk(&state.db, move |db| formulas::retire(db, &id, at)).await?;
            Ok(see_other(if word == "away" { "/formula?away=true" } else { &here }))
        }
        _ => Ok(see_other(&here)),
    }
}
