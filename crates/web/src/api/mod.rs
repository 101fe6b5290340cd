//! The HTTP API: thin shells round the core. Document and routes are held together by a test.

mod bakes;
mod exchange;
mod ferment;
mod formula;
mod formulas;
mod kitchen;
mod knead;
mod leaven;
mod leavens;
mod log;
mod openapi;
mod oven;
mod own;
mod pantry;
mod plan;
mod read;
mod swap;
mod water;

pub use openapi::document;

use actix_web::{
    HttpResponse, Resource,
    web::{self, Json, ServiceConfig, delete, get, post, put},
};
use cerealis_core::{
    formula::{Formula, FormulaBody, FormulaDraft},
    input::Pointer,
};
use serde_json::{Value, json};

use crate::{
    State,
    edge::{ARCHIVE_LIMIT, Failure},
};

/// Every path of the API with its methods; the document names the same.
pub const PATHS: &[(&str, &[&str])] = &[
    ("/health", &["get"]),
    ("/api/openapi.json", &["get"]),
    ("/api/v1/read", &["post"]),
    ("/api/v1/formula", &["post"]),
    ("/api/v1/water", &["post"]),
    ("/api/v1/ferment", &["post"]),
    ("/api/v1/knead", &["post"]),
    ("/api/v1/leaven", &["post"]),
    ("/api/v1/leavens", &["get", "post"]),
    ("/api/v1/leavens/{id}", &["get"]),
    ("/api/v1/leavens/{id}/events", &["post"]),
    ("/api/v1/bakes/{id}/plan.{format}", &["get"]),
    ("/api/v1/plan", &["post"]),
    ("/api/v1/oven", &["post"]),
    ("/api/v1/bakes", &["get", "post"]),
    ("/api/v1/bakes/{id}", &["get"]),
    ("/api/v1/bakes/{id}/events", &["post"]),
    ("/api/v1/formulas", &["get", "post"]),
    ("/api/v1/formulas/{id}", &["get", "put"]),
    ("/api/v1/formulas/{id}.{format}", &["get"]),
    ("/api/v1/formula.schema.json", &["get"]),
    ("/api/v1/import", &["post"]),
    ("/api/v1/export", &["get"]),
    ("/api/v1/backup", &["get"]),
    ("/api/v1/archive.schema.json", &["get"]),
    ("/api/v1/kitchen", &["get", "put"]),
    ("/api/v1/own", &["get"]),
    ("/api/v1/own/ingredients", &["post"]),
    ("/api/v1/own/ingredients/{id}", &["put"]),
    ("/api/v1/own/words", &["post"]),
    ("/api/v1/own/words/{word}", &["delete"]),
    ("/api/v1/own/pans", &["post"]),
    ("/api/v1/own/pans/{id}", &["put"]),
    ("/api/v1/pantry", &["get"]),
    ("/api/v1/swap", &["post"]),
];

/// A path of the API. Not a macro route: those answer a wrong method with 404, these with 405.
fn at(path: &'static str) -> Resource {
    web::resource(path)
}

/// The calls that need no household: any number of copies of the program answer them alike.
pub fn stateless(app: &mut ServiceConfig) {
    app.service(at("/health").route(get().to(health)))
        .service(at("/api/openapi.json").route(get().to(openapi_json)))
        .service(at("/api/v1/read").route(post().to(read::call)))
        .service(at("/api/v1/formula").route(post().to(formula::call)))
        .service(at("/api/v1/water").route(post().to(water::call)))
        .service(at("/api/v1/ferment").route(post().to(ferment::call)))
        .service(at("/api/v1/knead").route(post().to(knead::call)))
        .service(at("/api/v1/leaven").route(post().to(leaven::call)))
        .service(at("/api/v1/plan").route(post().to(plan::call)))
        .service(at("/api/v1/oven").route(post().to(oven::call)))
        .service(at("/api/v1/swap").route(post().to(swap::call)))
        .service(at("/api/v1/pantry").route(get().to(pantry::search)))
        .service(at("/api/v1/formula.schema.json").route(get().to(exchange::schema)))
        .service(at("/api/v1/archive.schema.json").route(get().to(exchange::archive_schema)));
}

/// Routes of the API.
pub fn routes(app: &mut ServiceConfig) {
    stateless(app);
    app.service(at("/api/v1/leavens").route(get().to(leavens::list)).route(post().to(leavens::add)))
        .service(at("/api/v1/leavens/{id}").route(get().to(leavens::get)))
        .service(at("/api/v1/leavens/{id}/events").route(post().to(leavens::append)))
        .service(at("/api/v1/bakes/{id}/plan.{format:ics|json|csv|md}").route(get().to(bakes::plan_file)))
        .service(at("/api/v1/bakes").route(get().to(bakes::list)).route(post().to(bakes::begin)))
        .service(at("/api/v1/bakes/{id}").route(get().to(bakes::get)))
        .service(at("/api/v1/bakes/{id}/events").route(post().to(bakes::append)))
        .service(at("/api/v1/formulas").route(get().to(formulas::list)).route(post().to(formulas::save)))
        .service(at("/api/v1/formulas/{id}.{format:jsonld|json|csv|md}").route(get().to(exchange::export)))
        .service(at("/api/v1/import").app_data(web::PayloadConfig::new(ARCHIVE_LIMIT)).route(post().to(exchange::import)))
        .service(at("/api/v1/export").route(get().to(exchange::export_all)))
        .service(at("/api/v1/backup").route(get().to(exchange::copy)))
        .service(at("/api/v1/formulas/{id}").route(get().to(formulas::get)).route(put().to(formulas::update)))
        .service(at("/api/v1/kitchen").route(get().to(kitchen::get)).route(put().to(kitchen::put)))
        .service(at("/api/v1/own").route(get().to(own::list)))
        .service(at("/api/v1/own/ingredients").route(post().to(own::add_ingredient)))
        .service(at("/api/v1/own/ingredients/{id}").route(put().to(own::put_ingredient)))
        .service(at("/api/v1/own/words").route(post().to(own::add_word)))
        .service(at("/api/v1/own/words/{word}").route(delete().to(own::take_word_back)))
        .service(at("/api/v1/own/pans").route(post().to(own::add_pan)))
        .service(at("/api/v1/own/pans/{id}").route(put().to(own::put_pan)));
}

/// The formula of a request, checked; its errors point into `/formula`.
fn checked(formula: FormulaBody, state: &State) -> Result<Formula, Failure> {
    let root = Pointer::root().at("formula");
    FormulaDraft::from(formula).check(&state.tables().pantry).map_err(|e| Failure::Input(e.under(&root)))
}

async fn health(state: web::Data<State>) -> Result<Json<Value>, Failure> {
    let db = state.db.clone();
    crate::edge::on_disk(&state.db, move |_| db.look_over()).await?;
    Ok(Json(json!({ "status": "ok", "version": env!("CARGO_PKG_VERSION"), "database": "ok" })))
}

async fn openapi_json() -> HttpResponse {
    HttpResponse::Ok().json(document())
}

fn working(steps: &[cerealis_core::measure::Working]) -> Value {
    serde_json::to_value(steps).unwrap_or(Value::Null)
}

fn findings(found: &[cerealis_core::findings::Finding]) -> Value {
    found.iter().map(cerealis_core::findings::Finding::wire).collect()
}
