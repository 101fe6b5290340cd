//! The oven: what to set, how long, when to look, and what bakers do with like bread.

mod answer;
mod asked;
mod care;
mod kept;
mod line;
mod log;
mod sizes;
mod together;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    formula::setting_words,
    measure::{self, to_nearest, weight},
};
use serde_qs::actix::QsQuery;

use answer::{AnswerView, answer};
use asked::{Asked, Opened, Query, said_of};
pub use line::{OtherSetting, OvenLine};

use super::{Chrome, choose, formula_kept, kitchen, page, shape_called};
use crate::{State, edge::PageFailure};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/oven").route(get().to(show_oven)));
    sizes::routes(app);
    together::routes(app);
    care::routes(app);
    log::routes(app);
    kept::routes(app);
    line::routes(app);
}

/// The pages of the oven: path, name.
const PAGES: [(&str, &str); 5] =
    [("", "This bread"), ("/sizes", "Other sizes"), ("/together", "Two breads"), ("/care", "Before and after"), ("/log", "Oven log")];

/// Links to the pages of the oven with the same question: address, name, whether it is this one.
fn tabs(q: &Query, here: &str) -> Vec<(String, &'static str, bool)> {
    PAGES.iter().map(|(path, name)| (q.address(path), *name, *path == here)).collect()
}

/// The fields of the form as they stand.
struct FormView {
    name: String,
    id: String,
    piece_g: String,
    pieces: String,
    set_c: String,
    /// Whose setting it is.
    setting: String,
    other: Option<OtherSetting>,
    shape: String,
    vessel: String,
    glaze: String,
    colour: String,
    crust: String,
    lid: bool,
    touching: bool,
    dial: &'static str,
    /// Number, name, whether it is taken.
    ovens: Vec<(usize, String, bool)>,
    errors: Vec<(String, String)>,
    said: Option<String>,
    /// The bread in a line: pieces, shape, vessel.
    line: String,
    /// What would be kept with the bread: each field as it was typed; empty where it is as the formula has it.
    keeps: Vec<(String, String)>,
}

#[derive(Template)]
#[template(path = "oven/page.html")]
struct OvenPage {
    chrome: Chrome,
    tabs: Vec<(String, &'static str, bool)>,
    f: FormView,
    answer: Option<AnswerView>,
}

const VESSELS: [(&str, &str); 10] = [
    ("sheet", "baking sheet"),
    ("stone", "stone"),
    ("steel", "steel"),
    ("pan-metal", "metal tin"),
    ("pan-glass", "glass tin"),
    ("pan-silicone", "silicone tin"),
    ("dish", "dish"),
    ("muffin-tin", "muffin tin"),
    ("pot", "lidded pot"),
    ("cover", "under a cover"),
];
const GLAZES: [(&str, &str); 7] = [
    ("none", "none"),
    ("egg", "egg"),
    ("yolk-milk", "yolk and milk"),
    ("milk", "milk"),
    ("syrup", "syrup"),
    ("soda", "soda bath"),
    ("poached", "poached"),
];

fn form(q: &Query, o: &Opened, state: &State) -> FormView {
    let a = &o.asked;
    let (bake, dial) = (a.shown(), a.oven().dial);
    FormView {
        id: q.formula.clone(),
        name: o.name.clone(),
        piece_g: q.typed("piece_g", measure::Asked::Grams.shown(to_nearest(bake.piece_g, 0.1), &a.kitchen.units)),
        pieces: q.typed("pieces", bake.pieces.to_string()),
        set_c: q.typed("set_c", String::new()),
        setting: match (q.text("set_c"), o.formula.oven.and_then(|o| o.minutes)) {
            (Some(_), _) => "The setting is yours, for this look only.".to_owned(),
            (None, Some(m)) => format!("{} It says {} min.", setting_words(o.formula.oven, a.oven()), answer::practised(m)),
            (None, None) => setting_words(o.formula.oven, a.oven()),
        },
        other: OtherSetting::of(&q.formula, &q.address(""), &o.formula, &a.kitchen, state).filter(|_| q.text("set_c").is_none()),
        shape: q.typed("shape", bake.shape.word().into()),
        vessel: q.typed("vessel", bake.vessel.word().into()),
        glaze: q.typed("glaze", bake.glaze.word().into()),
        colour: q.typed("colour", bake.colour().word().into()),
        crust: q.typed("crust", bake.crust().word().into()),
        lid: q.text("lid").map_or(bake.lid, |t| t == "1"),
        touching: q.text("touching").map_or(bake.touching, |t| t == "1"),
        dial: dial.title(),
        // The one chosen stands where the usual one stood.
        ovens: ovens(a),
        errors: a.errors.clone(),
        said: a.read_as.map(|r| said_of(r, dial)),
        line: in_a_line(bake),
        keeps: if a.bake.as_ref().is_some_and(|b| b.stands_otherwise(&a.base)) { q.p.clone().into_iter().collect() } else { Vec::new() },
    }
}

/// `2 × 450 g, braid, baking sheet`.
fn in_a_line(bake: &cerealis_core::oven::Bake) -> String {
    let vessel = VESSELS.iter().find(|v| v.0 == bake.vessel.word()).map_or("", |v| v.1);
    format!("{} × {}, {}, {}", bake.pieces, weight(bake.piece_g), shape_called(bake.shape.word(), bake.piece_g, bake.pieces), vessel)
}

fn ovens(a: &Asked) -> Vec<(usize, String, bool)> {
    let usual = a.kitchen.clone().with_oven(a.nth);
    usual.ovens().enumerate().map(|(i, o)| (i, format!("{}, {}", o.name, o.dial.title()), i == a.nth)).collect()
}

async fn show_oven(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let o = match Opened::of(&q, "/oven", &state).await? {
        Ok(opened) => opened,
        Err(choose) => return Ok(choose),
    };
    let (t, dial) = (state.tables(), o.asked.oven().dial);
    let f = form(&q, &o, &state);
    let answer = o.asked.bake.as_ref().map(|b| answer(b, &q, (dial, o.asked.kitchen.units.temperature, f.other.is_some()), &t));
    let status = if o.asked.errors.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY };
    page(&OvenPage { chrome: o.chrome, tabs: tabs(&q, ""), f, answer }, status)
}

#[cfg(test)]
mod tests {
    use cerealis_core::oven::{Colour, Crust, Glaze, Shape, Vessel};

    use super::*;

    #[test]
    fn the_lists_of_the_page_are_the_cores() {
        assert_eq!(super::super::SHAPES.map(|s| s.0).to_vec(), Shape::words());
        assert_eq!(VESSELS.map(|s| s.0).to_vec(), Vessel::words());
        assert_eq!(GLAZES.map(|s| s.0).to_vec(), Glaze::words());
        assert_eq!((Colour::words().len(), Crust::words().len()), (4, 2));
    }
}
