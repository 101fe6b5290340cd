//! Where the figures come from, and under which licences the program is made.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{catalogue, findings::Rule};

use super::{Chrome, kitchen, page};
use crate::{State, edge::PageFailure};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/sources").route(get().to(sources)));
}

#[derive(Template)]
#[template(path = "sources/page.html")]
struct SourcesPage {
    chrome: Chrome,
    rules: Vec<&'static Rule>,
    ingredients: Vec<(String, String)>,
}

async fn sources(state: Data<State>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let ingredients = state.tables().pantry.all().iter().map(|i| (i.name.clone(), i.source.clone())).collect();
    page(
        &SourcesPage { chrome: Chrome::new("Sources", &kitchen, state.clock.now()), rules: catalogue::rules(), ingredients },
        StatusCode::OK,
    )
}
