//! The label of a bread, to print and stick on the bag.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    formula::{Cost, Label, Nutrients, Share},
    measure::{Band, show_money, show_rough, show_rough_range, weight},
};

use super::{Chrome, formula_kept, kitchen, page, see_other};
use crate::{
    State,
    edge::{Local, PageFailure},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/formula/{id}/label").route(get().to(label)));
}

/// A row of the table: what, in 100 g, in one piece.
struct Row {
    what: &'static str,
    indent: bool,
    per_100g: String,
    per_piece: String,
}

#[derive(Template)]
#[template(path = "label/page.html")]
struct LabelPage {
    chrome: Chrome,
    id: String,
    name: String,
    day: String,
    pieces: String,
    piece_heading: String,
    ingredients: Vec<(String, bool)>,
    holds: String,
    traces: String,
    diets: String,
    rows: Vec<Row>,
    baked: String,
    shares: Vec<[String; 4]>,
    cost: Option<CostView>,
}

/// What it costs.
struct CostView {
    batch: String,
    piece: String,
    shares: Vec<(String, String)>,
    unpriced: String,
}

impl CostView {
    fn new(c: &Cost, currency: &str) -> Self {
        let money = |v: f64| show_money(v, currency);
        Self {
            batch: money(c.batch.likely),
            piece: c.piece.map(|p| money(p.likely)).unwrap_or_default(),
            shares: c.shares.iter().map(|(name, v)| (name.to_lowercase(), money(*v))).collect(),
            unpriced: c.unpriced.join("; ").to_lowercase(),
        }
    }
}

fn rows(label: &Label) -> Vec<Row> {
    let piece = label.piece_g.map(|g| label.per_100g.of(g.likely));
    type Pick = fn(&Nutrients) -> Band;
    let row = |what: &'static str, indent: bool, decimals: usize, unit: &str, pick: Pick| Row {
        what,
        indent,
        per_100g: format!("{} {unit}", show_rough_range(pick(&label.per_100g), decimals)),
        per_piece: piece.as_ref().map(|p| format!("{} {unit}", show_rough(pick(p).likely, decimals))).unwrap_or_default(),
    };
    vec![
        row("energy", false, 0, "kJ", |n| n.kj),
        row("that is", true, 0, "kcal", |n| n.kcal),
        row("fat", false, 1, "g", |n| n.fat),
        row("carbohydrate, with fibre", false, 1, "g", |n| n.carbohydrate),
        row("of which sugars", true, 1, "g", |n| n.sugars),
        row("protein", false, 1, "g", |n| n.protein),
        row("salt", false, 1, "g", |n| n.salt),
    ]
}

/// Where it comes from: name, grams, kcal, protein of each ingredient in the whole batch.
fn shares(label: &Label) -> Vec<[String; 4]> {
    let row = |s: &Share| [name(s), weight(s.grams).bare().to_string(), show_rough(s.kcal, 0), show_rough(s.protein_g, 0)];
    label.ingredients.iter().map(row).collect()
}

fn name(s: &Share) -> String {
    s.ingredient.short_name().to_lowercase()
}

async fn label(state: Data<State>, id: Path<String>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let id = id.into_inner();
    let formula = formula_kept(&state, &id).await?;
    let t = state.tables();
    let analysis = formula.analyse(&t.pantry, &t.styles);
    let Some(label) = analysis.label() else { return Ok(see_other(&format!("/formula/{id}"))) };
    let now = state.clock.now();
    let count = formula.pieces.as_ref().map_or(1, |p| p.count);
    let view = LabelPage {
        chrome: Chrome::new("Formula", &kitchen, now),
        name: formula.name.clone().unwrap_or_else(|| "Unnamed bread".into()),
        day: Local::of(&kitchen).day(now),
        pieces: label.piece_g.map_or_else(String::new, |g| {
            let each = format!("{}–{} baked", weight(g.low).bare(), weight(g.high));
            if count == 1 { each } else { format!("{count} pieces of {each}") }
        }),
        piece_heading: label.piece_g.map(|g| format!("one piece, {}", weight(g.likely))).unwrap_or_default(),
        ingredients: label.ingredients.iter().map(|s| (name(s), !s.ingredient.allergens.is_empty())).collect(),
        baked: format!("{}–{}", weight(label.baked_g.low).bare(), weight(label.baked_g.high)),
        shares: shares(&label),
        holds: label.holds.join(", "),
        traces: label.traces.join(", ").to_lowercase(),
        diets: label.diets.join(", "),
        rows: rows(&label),
        cost: analysis.cost(&kitchen.prices).map(|c| CostView::new(&c, &kitchen.currency)),
        id,
    };
    page(&view, StatusCode::OK)
}
