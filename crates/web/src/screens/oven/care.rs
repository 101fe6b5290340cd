//! Before and after: dips, glazes, cuts; how it cools, keeps, freezes and is warmed up again.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::oven::{Care, advise, after, before, cooling};
use serde_qs::actix::QsQuery;

use super::{
    asked::{Opened, Query},
    tabs,
};
use crate::{
    State,
    draw::{CoolingChart, cooling_chart},
    edge::PageFailure,
    screens::{Chrome, page},
};

pub(super) fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/oven/care").route(get().to(show_care)));
}

#[derive(Template)]
#[template(path = "oven/care.html")]
struct CarePage {
    chrome: Chrome,
    tabs: Vec<(String, &'static str, bool)>,
    name: String,
    errors: Vec<String>,
    before: Vec<Care>,
    after: Vec<Care>,
    cooling: CoolingChart,
}

async fn show_care(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let o = match Opened::of(&q, "/oven/care", &state).await? {
        Ok(opened) => opened,
        Err(choose) => return Ok(choose),
    };
    let t = state.tables();
    let bake = o.asked.shown();
    let advice = advise(bake, &t.oven);
    let view = CarePage {
        chrome: o.chrome,
        tabs: tabs(&q, "/care"),
        name: o.name,
        errors: o.asked.errors.iter().map(|e| e.1.clone()).collect(),
        before: before(bake),
        after: after(bake, &advice),
        cooling: cooling_chart(&cooling(bake, &t.oven), advice.slice_min, bake.room_c, o.asked.kitchen.units.temperature),
    };
    page(&view, if view.errors.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}
