//! A plan as it was shown: posted whole, checked, and begun as it was seen.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, post},
};
use cerealis_core::{
    formula::{Formula, FormulaBody, FormulaDraft, LineBody},
    kitchen::KitchenBody,
    plan::{PlanAsk, check_shown, search::offer::Offer},
};
use cerealis_store::bakes;
use serde::Deserialize;
use sha2::{Digest, Sha256};

use super::{
    super::{begun, page, see_other},
    fitted::plan_page,
    house::House,
    query::Query,
};
use crate::{
    State, desk,
    edge::{Form, PageFailure, carried, off_loop},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan/use").route(post().to(use_plan)));
}

/// What the form carries.
#[derive(Debug, Clone)]
pub struct Shown {
    /// What bake day works from, as JSON.
    pub(super) ask: String,
    /// What is weighed, as JSON.
    pub(super) lines: String,
    /// Over both, the recipe and the kitchen: another recipe or another kitchen is another plan.
    pub(super) hash: String,
}

impl Shown {
    /// A plan on offer in a house.
    pub(super) fn of(o: &Offer, house: &House) -> Self {
        let (ask, lines) = (carried(&o.ask), carried(&o.formula.body().lines));
        let hash = hex(&sealed(&ask, &lines, house));
        Self { ask, lines, hash }
    }
}

/// The content hash of a plan with what it was made from.
fn sealed(ask: &str, lines: &str, house: &House) -> [u8; 32] {
    let mut hash = Sha256::new();
    let recipe = serde_json::to_string(&house.formula.body()).unwrap_or_default();
    let kitchen = serde_json::to_string(&KitchenBody::from(&house.kitchen)).unwrap_or_default();
    for part in [ask, lines, &recipe, &kitchen] {
        hash.update(part.len().to_le_bytes());
        hash.update(part);
    }
    hash.finalize().into()
}

#[derive(Debug, Deserialize, Default)]
struct Posted {
    #[serde(flatten)]
    query: Query,
    #[serde(default)]
    ask: String,
    #[serde(default)]
    lines: String,
    #[serde(default)]
    hash: String,
}

/// The recipe with what the plan weighs in place of its own lines.
fn weighed(lines: &str, house: &House, state: &State) -> Option<Formula> {
    let lines: Vec<LineBody> = serde_json::from_str(lines).ok()?;
    let body = FormulaBody { lines, ..house.formula.body() };
    FormulaDraft::from(body).check(&state.tables().pantry).ok()
}

/// A plan as it was posted, read: its seal, what bake day works from, what is weighed. Why not, in words.
pub(super) fn read_shown(
    (ask, lines, hash): (&str, &str, &str),
    house: &House,
    state: &State,
) -> Result<([u8; 32], PlanAsk, Formula), Vec<String>> {
    let seal = sealed(ask, lines, house);
    if hex(&seal) != hash {
        return Err(vec!["The recipe or the kitchen was changed since this plan was drawn. Here is what fits now.".to_owned()]);
    }
    let read = serde_json::from_str::<PlanAsk>(ask).ok().zip(weighed(lines, house, state));
    let (ask, formula) = read.ok_or_else(|| vec!["This plan could not be read. Here it is anew.".to_owned()])?;
    Ok((seal, ask, formula))
}

/// The same plan tapped twice is one bake: its id is its content.
pub(super) fn bake_id(seal: &[u8; 32]) -> String {
    let mut id = [0; 16];
    id.copy_from_slice(&seal[..16]);
    uuid::Builder::from_custom_bytes(id).into_uuid().to_string()
}

fn hex(seal: &[u8]) -> String {
    seal.iter().map(|b| format!("{b:02x}")).collect()
}

/// Checks what was posted; why it cannot begin, in words.
fn checked(posted: &Posted, house: &House, state: &State) -> Result<bakes::Kept, Vec<String>> {
    let (seal, ask, formula) = read_shown((&posted.ask, &posted.lines, &posted.hash), house, state)?;
    let now = state.clock.now();
    let (asked, form) = house.asked(&posted.query, now);
    let t = state.tables();
    let plan = form
        .and_then(|()| check_shown(&house.formula, &formula, &ask, &asked.ask, &house.kitchen, &t))
        .map_err(|e| e.0.into_iter().map(|e| e.message).collect::<Vec<_>>())?;
    let name = house.formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    Ok(desk::bakes::planned((bake_id(&seal), name), &formula, plan, state))
}

/// Makes the bake from the plan that was shown.
async fn use_plan(state: Data<State>, Form(posted): Form<Posted>) -> Result<HttpResponse, PageFailure> {
    let house = House::of(&state, &posted.query).await?;
    match checked(&posted, &house, &state) {
        Ok(bake) => {
            let id = bake.id.clone();
            desk::bakes::take(&state, vec![bake]).await?;
            Ok(see_other(&begun(&id, &posted.query.address("/plan"))))
        }
        Err(why) => {
            let query = posted.query;
            let (view, _) = off_loop(move || plan_page(&house, &house.search(query, &state), &state, why)).await?;
            page(&view, StatusCode::UNPROCESSABLE_ENTITY)
        }
    }
}
