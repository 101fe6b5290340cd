//! The oven in a line, the same wherever it is told: setting on the dial, minutes, core, whose setting it is and the tap for the
//! other.

use actix_web::{
    HttpResponse,
    web::{self, Data, Path, ServiceConfig, post},
};
use cerealis_core::{
    formula::{Formula, FormulaDraft, other_setting, oven_of, setting_words},
    kitchen::Kitchen,
    measure::show,
    plan::OvenPlan,
};
use cerealis_store::formulas;
use serde::Deserialize;

use super::answer::span;
use crate::{
    State,
    api::keep_formula,
    edge::{Form, PageFailure, on_disk},
    screens::see_other,
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

/// What a plan says of its oven.
#[derive(Debug, Clone)]
pub struct OvenLine {
    /// On the dial.
    pub set: String,
    /// Minutes, from and to.
    pub minutes: String,
    /// Degrees inside when done.
    pub core: String,
    /// On or in what.
    pub vessel: &'static str,
    /// Whose setting it is, and why.
    pub words: String,
    /// The tap for the other; none on paper.
    pub other: Option<OtherSetting>,
}

impl OvenLine {
    /// The oven of a plan in a household's kitchen.
    pub fn of(oven: &OvenPlan, formula: &Formula, kitchen: &Kitchen, state: &State) -> Self {
        let t = state.tables();
        let bake = oven_of(&formula.analyse(&t.pantry, &t.styles), &t.pantry);
        Self {
            set: kitchen.oven.dial.told(oven.set_c),
            minutes: span(Some(oven.minutes_low), Some(oven.minutes_high)),
            core: show(oven.core_c, 0),
            vessel: bake.vessel.stands(),
            words: setting_words(formula.oven, &kitchen.oven),
            other: None,
        }
    }

    /// The same with the tap for the other setting.
    #[must_use]
    pub fn with_other(self, other: Option<OtherSetting>) -> Self {
        Self { other, ..self }
    }
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
    keep_formula(&state, id.clone(), FormulaDraft::from(body)).await?;
    // Only to pages of this house that are known to tell it.
    let here = ["/plan?", "/plan/by-hand?", "/oven?"].iter().any(|p| form.back.starts_with(p)) && !form.back.contains(char::is_control);
    Ok(see_other(&if here { form.back } else { format!("/oven?formula={id}") }))
}
