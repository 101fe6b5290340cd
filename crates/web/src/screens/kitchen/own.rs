//! The household's own ingredients and pans: one form each, to add one or to tell it anew.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    input::Pointer,
    pantry::{OwnIngredient, OwnPan},
};
use cerealis_store::{StoreError, shelf};
use serde::Serialize;

use super::{Chrome, Figure, likenesses};
use crate::{
    State,
    desk::{self, own::Own},
    edge::{Failure, Fields, PageFailure, on_disk},
    screens::{page, see_other},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/kitchen/ingredient").route(get().to(new_ingredient)).route(post().to(add_ingredient)))
        .service(web::resource("/kitchen/ingredient/{id}").route(get().to(an_ingredient)).route(post().to(tell_ingredient)))
        .service(web::resource("/kitchen/pan").route(get().to(new_pan)).route(post().to(add_pan)))
        .service(web::resource("/kitchen/pan/{id}").route(get().to(a_pan)).route(post().to(tell_pan)));
}

const PARTS: [Figure; 6] = [
    ("protein_pct", "Protein", "%"),
    ("water_pct", "Water", "%"),
    ("fat_pct", "Fat", "%"),
    ("sugars_pct", "Sugars", "%"),
    ("salt_pct", "Salt", "%"),
    ("kcal_100g", "Energy of 100 g", "kcal"),
];
const SIZES: [Figure; 3] = [("length_cm", "Length, or across if round", "cm"), ("width_cm", "Width", "cm"), ("height_cm", "Height", "cm")];
const SHAPES: [(&str, &str); 6] = [
    ("loaf", "loaf tin"),
    ("rect", "tray or square tin"),
    ("round", "round tin"),
    ("ring", "ring tin"),
    ("pot", "pot with a lid"),
    ("basket", "proofing basket"),
];

#[derive(Template)]
#[template(path = "kitchen/ingredient.html")]
struct IngredientPage {
    chrome: Chrome,
    f: Fields,
    /// Address the form is sent to.
    to: String,
    new: bool,
    likes: Vec<String>,
}

#[derive(Template)]
#[template(path = "kitchen/pan.html")]
struct PanPage {
    chrome: Chrome,
    f: Fields,
    to: String,
    new: bool,
}

async fn ingredient_page(state: &State, f: Fields, id: Option<&str>, status: StatusCode) -> Result<HttpResponse, PageFailure> {
    let kitchen = crate::screens::kitchen(state).await?;
    let to = id.map_or_else(|| "/kitchen/ingredient".to_owned(), |id| format!("/kitchen/ingredient/{id}"));
    let likes = likenesses(&state.household.built_in().pantry);
    page(&IngredientPage { chrome: Chrome::new("Kitchen", &kitchen, state.clock.now()), f, to, new: id.is_none(), likes }, status)
}

async fn pan_page(state: &State, f: Fields, id: Option<&str>, status: StatusCode) -> Result<HttpResponse, PageFailure> {
    let kitchen = crate::screens::kitchen(state).await?;
    let to = id.map_or_else(|| "/kitchen/pan".to_owned(), |id| format!("/kitchen/pan/{id}"));
    page(&PanPage { chrome: Chrome::new("Kitchen", &kitchen, state.clock.now()), f, to, new: id.is_none() }, status)
}

async fn new_ingredient(state: Data<State>) -> Result<HttpResponse, PageFailure> {
    ingredient_page(&state, Fields::default(), None, StatusCode::OK).await
}

async fn new_pan(state: Data<State>) -> Result<HttpResponse, PageFailure> {
    pan_page(&state, Fields::of(&OwnPan { shape: "loaf".into(), ..OwnPan::default() }, state.household.units()), None, StatusCode::OK).await
}

/// The fields of one kept under an id.
fn kept<T: Serialize>(state: &State, id: &str, all: &[(String, T)]) -> Result<Fields, PageFailure> {
    let found = all.iter().find(|(i, _)| i == id).ok_or(Failure::Store(StoreError::NotFound))?;
    Ok(Fields::of(&found.1, state.household.units()))
}

async fn an_ingredient(state: Data<State>, id: Path<String>) -> Result<HttpResponse, PageFailure> {
    let own = on_disk(&state.db, shelf::get).await?;
    ingredient_page(&state, kept(&state, &id, &own.ingredients)?, Some(&id), StatusCode::OK).await
}

async fn a_pan(state: Data<State>, id: Path<String>) -> Result<HttpResponse, PageFailure> {
    let own = on_disk(&state.db, shelf::get).await?;
    pan_page(&state, kept(&state, &id, &own.pans)?, Some(&id), StatusCode::OK).await
}

fn ingredient_of(f: &mut Fields) -> OwnIngredient {
    let at = |name: &str| Pointer::root().at(name);
    OwnIngredient {
        name: f.text(&at("name")).unwrap_or_default(),
        also: f.list(&at("also")),
        like: f.text(&at("like")).unwrap_or_default(),
        protein_pct: f.number(&at("protein_pct")),
        absorption_points: f.number(&at("absorption_points")),
        water_pct: f.number(&at("water_pct")),
        fat_pct: f.number(&at("fat_pct")),
        sugars_pct: f.number(&at("sugars_pct")),
        salt_pct: f.number(&at("salt_pct")),
        kcal_100g: f.number(&at("kcal_100g")),
        cup_g: f.number(&at("cup_g")),
        teaspoon_g: f.number(&at("teaspoon_g")),
        allergens: f.list(&at("allergens")),
        source: f.text(&at("source")).unwrap_or_default(),
        away: f.text(&at("away")).is_some(),
    }
}

fn pan_of(f: &mut Fields) -> OwnPan {
    let at = |name: &str| Pointer::root().at(name);
    OwnPan {
        name: f.text(&at("name")).unwrap_or_default(),
        shape: f.text(&at("shape")).unwrap_or_default(),
        volume_ml: f.number(&at("volume_ml")),
        length_cm: f.number(&at("length_cm")),
        width_cm: f.number(&at("width_cm")),
        height_cm: f.number(&at("height_cm")),
        lid: f.text(&at("lid")).is_some(),
        away: f.text(&at("away")).is_some(),
    }
}

/// Keeps what the form tells, or gives the fields back with what is wrong in them.
async fn kept_as_told<T: Own>(state: &State, id: Option<String>, mut f: Fields, own: T) -> Result<Option<Fields>, PageFailure> {
    // With a field that cannot be read the rest is checked too, so that all is told at once; nothing is kept.
    let refused = if f.is_wrong() { own.check(&state.household.built_in().pantry).err() } else { None };
    if f.is_wrong() {
        refused.into_iter().for_each(|errors| f.refuse(errors));
        return Ok(Some(f));
    }
    match desk::own::keep(state, id, own).await {
        Ok(_) => Ok(None),
        Err(Failure::Input(errors)) => {
            f.refuse(errors);
            Ok(Some(f))
        }
        Err(other) => Err(other.into()),
    }
}

async fn keep_told_ingredient(state: &State, id: Option<String>, mut f: Fields) -> Result<HttpResponse, PageFailure> {
    let own = ingredient_of(&mut f);
    match kept_as_told(state, id.clone(), f, own).await? {
        None => Ok(see_other("/kitchen#own")),
        Some(again) => ingredient_page(state, again, id.as_deref(), StatusCode::UNPROCESSABLE_ENTITY).await,
    }
}

async fn keep_told_pan(state: &State, id: Option<String>, mut f: Fields) -> Result<HttpResponse, PageFailure> {
    let own = pan_of(&mut f);
    match kept_as_told(state, id.clone(), f, own).await? {
        None => Ok(see_other("/kitchen#own")),
        Some(again) => pan_page(state, again, id.as_deref(), StatusCode::UNPROCESSABLE_ENTITY).await,
    }
}

async fn add_ingredient(state: Data<State>, f: Fields) -> Result<HttpResponse, PageFailure> {
    keep_told_ingredient(&state, None, f).await
}

async fn tell_ingredient(state: Data<State>, id: Path<String>, f: Fields) -> Result<HttpResponse, PageFailure> {
    keep_told_ingredient(&state, Some(id.into_inner()), f).await
}

async fn add_pan(state: Data<State>, f: Fields) -> Result<HttpResponse, PageFailure> {
    keep_told_pan(&state, None, f).await
}

async fn tell_pan(state: Data<State>, id: Path<String>, f: Fields) -> Result<HttpResponse, PageFailure> {
    keep_told_pan(&state, Some(id.into_inner()), f).await
}
