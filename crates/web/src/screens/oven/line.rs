//! The oven in a line, the same wherever it is told: setting on the dial, minutes, core, whose setting it is and the tap for the
//! other.

use actix_web::{
    HttpResponse,
    web::{self, Data, Path, ServiceConfig, post},
};
use cerealis_core::{
    formula::{Formula, FormulaDraft, other_setting, oven_of},
    kitchen::Kitchen,
};
use cerealis_store::formulas;
use serde::Deserialize;

use crate::{
    State,
    desk::{self, about::OvenTold},
    edge::{Form, PageFailure, on_disk},
    screens::{back_to, see_other},
};

pub(super) fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula/{id}/setting").route(post().to(choose)));
}

/// The tap for the other setting.
#[derive(Debug, Clone)]
pub struct OtherSetting {
    /// Id of the formula.
    pub id: String,
    /// The word that chooses it.
    pub by: &'static str,
    /// What the button says.
    pub words: String,
    /// Where to go on.
    pub back: String,
}

impl OtherSetting {
    /// The tap that takes the setting of the oven model, or the recipe's again; none where the recipe tells no setting.
    pub fn of(id: &str, back: &str, formula: &Formula, kitchen: &Kitchen, state: &State) -> Option<Self> {
        let t = state.tables();
        let a = formula.analyse(&t.pantry, &t.styles);
        let bread = oven_of(&a, &t.pantry).in_kitchen(kitchen);
        let figure = kitchen.oven.dial.told(other_setting(formula.oven, &bread, &kitchen.oven, &t.oven)?);
        let (by, words) = if formula.oven.is_some_and(|o| o.ours) {
            ("recipe", format!("Go by the recipe, {figure}"))
        } else {
            ("ours", format!("Take ours, {figure}"))
        };
        Some(Self { id: id.to_owned(), by, words, back: back.to_owned() })
    }
}

/// What a plan says of its oven, and the tap for the other setting; none on paper.
#[derive(Debug, Clone)]
pub struct OvenLine {
    pub told: OvenTold,
    pub other: Option<OtherSetting>,
}

#[derive(Debug, Deserialize, Default)]
struct Choice {
    #[serde(default)]
    by: String,
    #[serde(default)]
    back: String,
}

/// Keeps whose setting a bread is baked at, and goes back to where that was tapped.
async fn choose(state: Data<State>, id: Path<String>, Form(form): Form<Choice>) -> Result<HttpResponse, PageFailure> {
    let id = id.into_inner();
    let known = id.clone();
    let kept = on_disk(&state.db, move |db| formulas::newest(db, &known)).await?;
    let mut body = kept.body;
    if let Some(oven) = &mut body.oven {
        oven.ours = (form.by == "ours").then_some(true);
    }
    desk::formulas::keep(&state, id.clone(), FormulaDraft::from(body)).await?;
    let back = back_to(form.back, &["/plan", "/plan/by-hand", "/oven"]);
    Ok(see_other(&back.unwrap_or_else(|| format!("/oven?formula={id}"))))
}
