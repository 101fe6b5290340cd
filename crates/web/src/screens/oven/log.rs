//! The oven's log: what it was set to, what a thermometer in it showed, how each bread came out.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    bake::{OvenEntry, learned_off_k, mean_off_k, oven_entry},
    input::{InputErrors, Pointer, number},
    kitchen::{Kitchen, KitchenBody},
    measure::{degrees, difference, show},
};
use cerealis_store::bakes;
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{asked::Query, tabs};
use crate::{
    State, desk,
    edge::{Failure, Form, Local, PageFailure},
    screens::{Chrome, bakeday::found, kitchen, page, see_other},
};

pub(super) fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/oven/log").route(get().to(show_log)).route(post().to(learn)));
}

struct Row {
    id: String,
    name: String,
    day: String,
    set: String,
    read: String,
    off: String,
    core: String,
    minutes: String,
    colour: Option<String>,
}

/// One oven with its bakes.
struct OvenView {
    name: String,
    dial: &'static str,
    told: String,
    /// The mean of all readings against the settings, and of how many bakes.
    seen: String,
    /// What its dial could be told to be off by, where it was read otherwise than told: which oven, K, in words.
    learned: Option<(usize, String, String)>,
    rows: Vec<Row>,
}

#[derive(Template)]
#[template(path = "oven/log.html")]
struct LogPage {
    chrome: Chrome,
    tabs: Vec<(String, &'static str, bool)>,
    ovens: Vec<OvenView>,
}

#[derive(Debug, Deserialize, Default)]
struct Learned {
    #[serde(default)]
    oven: usize,
    #[serde(default)]
    offset_c: String,
}

/// Takes what a thermometer showed for how far the dial is off: every setting is turned to it from now on.
async fn learn(state: Data<State>, Form(form): Form<Learned>) -> Result<HttpResponse, PageFailure> {
    let mut kitchen = kitchen(&state).await?;
    let refused = |field: &str, why: &str| Failure::Input(InputErrors::one(Pointer::root().at(field), why));
    let offset = number(&form.offset_c).map_err(|why| refused("offset_c", &why))?;
    let oven = match form.oven.checked_sub(1) {
        None => Some(&mut kitchen.oven),
        Some(other) => kitchen.other_ovens.get_mut(other),
    };
    oven.ok_or_else(|| refused("oven", "This kitchen has no such oven any more."))?.offset_c = Some(offset);
    let body = KitchenBody { oven: Some(kitchen.oven), other_ovens: Some(kitchen.other_ovens), ..KitchenBody::default() };
    desk::kitchen::keep(&state, body).await?;
    Ok(see_other("/oven/log"))
}

/// Bakes looked through.
const BAKES: i64 = 100;

async fn show_log(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Oven", &kitchen, state.clock.now());
    let q = query.into_inner();
    let all = found(&state, bakes::Search { page: 1, rows: Some(BAKES), ..bakes::Search::default() }).await?.rows;
    let local = Local::of(&kitchen);
    let entries: Vec<(bakes::Kept, OvenEntry)> = all.into_iter().filter_map(|(kept, log)| oven_entry(&log).map(|e| (kept, e))).collect();
    let view = LogPage { chrome, tabs: tabs(&q, "/log"), ovens: ovens(&kitchen, &entries, &local) };
    page(&view, StatusCode::OK)
}

/// `15 °C hotter`; nothing where that is less than a thermometer shows.
fn signed(k: f64) -> Option<String> {
    let way = if k > 0.0 { "hotter" } else { "cooler" };
    (k.abs() >= 0.5).then(|| format!("{} {way}", difference(k.abs()).to(0)))
}

fn ovens(kitchen: &Kitchen, entries: &[(bakes::Kept, OvenEntry)], local: &Local) -> Vec<OvenView> {
    kitchen
        .ovens()
        .enumerate()
        .map(|(i, oven)| {
            let mine: Vec<&(bakes::Kept, OvenEntry)> = entries.iter().filter(|(_, e)| e.in_oven(kitchen) == i).collect();
            let mean = mean_off_k(mine.iter().map(|m| &m.1));
            let dial = oven.dial;
            OvenView {
                name: oven.name.clone(),
                dial: dial.title(),
                told: oven.offset_c.map_or_else(
                    || "nobody has measured it".to_owned(),
                    |c| format!("you told us it runs {}", signed(c).unwrap_or_else(|| "true".to_owned())),
                ),
                seen: mean.map_or_else(
                    || "No reading of an oven thermometer yet: on bake day, once it is lit, it is one tap.".to_owned(),
                    |(k, bakes)| {
                        let off = signed(k).map_or_else(|| "true".to_owned(), |off| format!("{off} than its dial"));
                        format!("Read {off} over {bakes} {}.", if bakes == 1 { "bake" } else { "bakes" })
                    },
                ),
                learned: learned_off_k(mine.iter().map(|m| &m.1), oven.offset_c)
                    .map(|k| (i, show(k, 0), format!("Reckon with an oven {}", signed(k).unwrap_or_else(|| "that is true".to_owned())))),
                rows: mine
                    .iter()
                    .map(|(kept, e)| Row {
                        id: kept.id.clone(),
                        name: kept.name.clone(),
                        day: e.at.map_or_else(String::new, |at| local.day(at)),
                        set: e.set_c.map_or_else(String::new, |c| dial.told(c)),
                        read: e.read_c.iter().map(|c| degrees(*c).to(0).short().to_string()).collect::<Vec<_>>().join(", "),
                        off: e.off_k().map_or_else(String::new, |k| signed(k).unwrap_or_else(|| "true".to_owned())),
                        core: e.core_c.map_or_else(String::new, |c| degrees(c).to(0).short().to_string()),
                        minutes: e.minutes.map_or_else(String::new, |m| show(m, 0)),
                        colour: e.colour.clone(),
                    })
                    .collect(),
            }
        })
        .collect()
}
