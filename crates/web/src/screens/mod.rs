//! One folder a screen: routes, view, template. Handlers parse, call the core and render.

mod bakeday;
mod choose;
mod formula;
mod kitchen;
mod kneading;
mod label;
mod leaven;
mod logbook;
mod oven;
mod pantry;
mod plan;
mod sources;
mod today;
mod variants;
mod versions;

mod chrome;
mod course_view;
mod field;
mod finding_view;

use choose::choose;
use chrome::Chrome;
use course_view::{StepRow, frame, mini, symbol};
use field::Field;
use finding_view::{FindingView, worked_out};
use oven::{OtherSetting, OvenLine};

use actix_web::{HttpResponse, http::StatusCode, web::ServiceConfig};
use askama::Template;
use cerealis_core::{
    formula::{Formula, FormulaDraft},
    kitchen::Kitchen,
    oven::ROLL_MOST_G,
};

use cerealis_store::formulas::{self, Which};

use crate::{
    State,
    edge::{Failure, PageFailure, on_disk},
};

/// Routes of all screens.
pub fn routes(app: &mut ServiceConfig) {
    today::routes(app);
    formula::routes(app);
    label::routes(app);
    leaven::routes(app);
    versions::routes(app);
    variants::routes(app);
    plan::routes(app);
    oven::routes(app);
    bakeday::routes(app);
    logbook::routes(app);
    kitchen::routes(app);
    kneading::routes(app);
    pantry::routes(app);
    sources::routes(app);
}

/// Where a form says it was tapped, if that is one of these pages of the house.
fn back_to(address: String, pages: &[&str]) -> Option<String> {
    let here = |page: &&str| address.strip_prefix(*page).is_some_and(|rest| rest.is_empty() || rest.starts_with('?'));
    (pages.iter().any(here) && !address.contains(char::is_control)).then_some(address)
}

/// Shapes, and how the pages name one of them and several.
const SHAPES: [(&str, &str, &str); 9] = [
    ("ball", "round loaf", "round loaves"),
    ("batard", "oval loaf", "oval loaves"),
    ("baton", "stick", "sticks"),
    ("ring", "ring", "rings"),
    ("braid", "braid", "braids"),
    ("flat", "flat bread", "flat breads"),
    ("pan", "tin loaf", "tin loaves"),
    ("muffin", "bun in a cup", "buns in cups"),
    ("tall", "tall tin loaf", "tall tin loaves"),
];

/// The shapes to choose from, where nothing is known of the weight.
fn shapes() -> [(&'static str, &'static str); 9] {
    SHAPES.map(|(word, one, _)| (word, if word == "ball" { "round loaf or roll" } else { one }))
}

/// What so many pieces of a shape and a weight are called: a small round is a roll.
fn shape_called(shape: &str, piece_g: f64, count: u32) -> &'static str {
    let (one, many) = match SHAPES.iter().find(|s| s.0 == shape) {
        Some(("ball", ..)) if piece_g < ROLL_MOST_G => ("roll", "rolls"),
        Some((_, one, many)) => (*one, *many),
        None => ("piece", "pieces"),
    };
    if count == 1 { one } else { many }
}

/// Renders a page.
///
/// # Errors
/// If the template fails, which it does not.
pub fn page(template: &impl Template, status: StatusCode) -> Result<HttpResponse, PageFailure> {
    let body = template.render().map_err(|e| PageFailure(Failure::Store(cerealis_store::StoreError::Failed(e.to_string()))))?;
    Ok(HttpResponse::build(status).content_type("text/html; charset=utf-8").insert_header(("Cache-Control", "no-store")).body(body))
}

/// Sends the browser on to a page.
#[must_use]
pub fn see_other(to: &str) -> HttpResponse {
    HttpResponse::SeeOther().insert_header(("Location", to)).finish()
}

/// The page of a bake that has begun, from where it can be taken back to the plan.
fn begun(bake: &str, plan: &str) -> String {
    format!("/bakeday/{bake}?{}", serde_urlencoded::to_string([("from", plan)]).unwrap_or_default())
}

async fn kitchen(state: &State) -> Result<Kitchen, PageFailure> {
    Ok(on_disk(&state.db, cerealis_store::kitchen::get).await?)
}

/// A kept formula, checked again: a stricter rule later shows an old formula with its errors.
async fn formula_kept(state: &State, id: &str) -> Result<Formula, PageFailure> {
    let id = id.to_owned();
    let kept = on_disk(&state.db, move |db| formulas::newest(db, &id)).await?;
    let formula = FormulaDraft::from(kept.body).check(&state.tables().pantry).map_err(Failure::Input)?;
    Ok(formula)
}

/// The first formulas kept by name, for choosing one: id, name, style, flour in words.
async fn formulas_kept(state: &State) -> Result<Choosing, PageFailure> {
    let (first, all) = on_disk(&state.db, |db| formulas::page(db, Which::InUse, 1)).await?;
    let more = usize::try_from(all).unwrap_or(0).saturating_sub(first.len() + first.unreadable.len());
    Ok(Choosing { kept: first.into_iter().map(FormulaChoice::from).collect(), more })
}

/// Formulas to choose from, and how many more there are.
#[derive(Debug, Clone, Default)]
pub struct Choosing {
    /// The first, by name.
    pub kept: Vec<FormulaChoice>,
    /// Those that are not among them.
    pub more: usize,
}

impl From<formulas::Kept> for FormulaChoice {
    fn from(k: formulas::Kept) -> Self {
        let name = k.body.title();
        let tags = k.body.tags.unwrap_or_default().iter().map(|t| format!(" · {t}")).collect::<String>();
        Self {
            id: k.id,
            name,
            about: format!("{} on {} flour{tags}", k.style.replace('-', " "), cerealis_core::measure::weight(k.flour_g)),
        }
    }
}

/// A formula to choose.
#[derive(Debug, Clone)]
pub struct FormulaChoice {
    /// Id.
    pub id: String,
    /// Name.
    pub name: String,
    /// Style and flour.
    pub about: String,
}
