//! The pantry: what stands on the shelf, what it is made of, what a spoon and a cup of it weigh, who says so.

use std::collections::BTreeMap;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    input::Pointer,
    measure::{Band, show, show_percent, weight},
    pantry::{Added, Family, Gluten, Ingredient, Pantry},
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{Chrome, kitchen, page, see_other};
use crate::{
    State, desk,
    edge::{Failure, Fields, PageFailure, on_disk},
};

/// Further names shown at a jar; the reader knows more.
const MOST_NAMES: usize = 12;
/// Rows shown for a search: more than this and another letter helps.
const MOST_FOUND: usize = 20;

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/pantry").route(get().to(shelf)))
        .service(web::resource("/pantry/word/back").route(post().to(word_back)))
        .service(web::resource("/pantry/price").route(post().to(price)));
}

#[derive(Debug, Deserialize, Default)]
struct Query {
    #[serde(default)]
    q: String,
    #[serde(default)]
    shelf: String,
}

/// One ingredient as it stands on its shelf.
struct Jar {
    id: String,
    name: String,
    also: String,
    parts: Vec<(&'static str, String)>,
    weights: Vec<(String, String)>,
    counts: String,
    holds: String,
    note: String,
    source: String,
    is_own: bool,
    /// What a kilogram costs, as it stands in the field.
    price: String,
    wrong: Vec<String>,
}

#[derive(Template)]
#[template(path = "pantry/page.html")]
struct PantryPage {
    chrome: Chrome,
    q: String,
    shelves: Vec<(&'static str, &'static str, bool)>,
    shelf: &'static str,
    heading: String,
    jars: Vec<Jar>,
    currency: String,
    words: Vec<WordRow>,
}

/// A word of the household's own.
struct WordRow {
    word: String,
    /// What it means.
    name: String,
}

fn spread(b: Band) -> String {
    if b.is_exact() {
        weight(b.likely).to_string()
    } else {
        format!("{} ({}–{})", weight(b.likely), weight(b.low).bare(), weight(b.high).bare())
    }
}

/// `packet-fr` as it is said: packet (FR).
fn piece_words(key: &str) -> String {
    let country = |part: &&str| matches!(*part, "us" | "uk" | "eu" | "de" | "fr" | "it" | "se" | "au");
    let parts: Vec<&str> = key.split('-').collect();
    let words: Vec<&str> = parts.iter().copied().filter(|p| !country(p)).collect();
    let countries: Vec<String> = parts.iter().filter(|p| country(p)).map(|p| p.to_uppercase()).collect();
    if countries.is_empty() { words.join(" ") } else { format!("{} ({})", words.join(" "), countries.join(", ")) }
}

/// With a capital and a full stop.
fn sentence(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| format!("{}{}.", first.to_uppercase(), letters.as_str()))
}

/// Prices as they are kept, and the one that was just typed wrong.
struct Prices<'a> {
    kept: &'a BTreeMap<String, f64>,
    refused: Option<&'a Refused>,
}

/// A price that could not be kept: of what, as typed, why.
struct Refused {
    id: String,
    typed: String,
    why: Vec<String>,
}

impl Prices<'_> {
    fn of(&self, i: &Ingredient) -> String {
        let typed = self.refused.filter(|r| r.id == i.id).map(|r| r.typed.clone());
        typed.or_else(|| self.kept.get(&i.id).map(f64::to_string)).unwrap_or_default()
    }
    fn wrong(&self, i: &Ingredient) -> Vec<String> {
        self.refused.filter(|r| r.id == i.id).map(|r| r.why.clone()).unwrap_or_default()
    }
}

impl Jar {
    fn new(i: &Ingredient, prices: &Prices<'_>, pantry: &Pantry) -> Self {
        let further = pantry.further_names(&i.id).take(MOST_NAMES);
        let parts = [
            ("water", i.water_pct),
            ("fat", i.fat_pct),
            ("sugars", i.sugars_pct),
            ("starch, fibre", i.starch_fibre_pct),
            ("protein", i.protein_pct),
            ("salt", i.salt_pct),
            ("alcohol", i.alcohol_pct),
        ];
        let cup = i.cup_us_g.map(|g| Band::new(i.cup_us_low_g.unwrap_or(g).min(g), g, i.cup_us_high_g.unwrap_or(g).max(g)));
        let methods = i.measure_methods.iter().map(|(how, g)| (format!("US cup, {}", how.replace('-', " ")), weight(*g).to_string()));
        let pieces = i.pieces.iter().map(|p| (piece_words(&p.key), spread(p.grams)));
        let mut counts = Vec::new();
        if i.flour_share > 0.0 {
            counts.push(format!("{} % of it counts as flour", show(100.0 * i.flour_share, 0)));
        }
        if i.hydration_share > 0.0 {
            counts.push(format!("{} % of it counts as water", show(100.0 * i.hydration_share, 0)));
        }
        counts.push(
            match i.added {
                Added::WithFlour => "goes in with the flour",
                Added::InLiquid => "goes into the liquid",
                Added::AfterGluten => "goes in once the dough stretches",
                Added::LastMinute => "goes in at the end of kneading",
                Added::Soaker => "is soaked first",
                Added::OnTop => "goes on top",
                Added::Filling => "goes into the filling",
                Added::Dip => "is a dip",
            }
            .to_owned(),
        );
        let gluten = match i.gluten {
            Gluten::CrossContact => Some("traces of gluten unless the pack says otherwise"),
            Gluten::Yes | Gluten::No => None,
        };
        let holds = i.allergens.iter().map(String::as_str).chain(gluten).collect::<Vec<_>>().join(", ");
        Self {
            id: i.id.clone(),
            name: i.name.clone(),
            also: i.synonyms.iter().map(String::as_str).chain(further).collect::<Vec<_>>().join(", "),
            parts: parts.into_iter().filter(|p| p.1 >= 0.05).map(|(what, pct)| (what, format!("{} %", show_percent(pct)))).collect(),
            weights: cup.map(|c| ("US cup".to_owned(), spread(c))).into_iter().chain(methods).chain(pieces).collect(),
            counts: sentence(&counts.join("; ")),
            holds,
            note: i.note.clone(),
            source: i.source.clone(),
            is_own: Pantry::is_own(i),
            price: prices.of(i),
            wrong: prices.wrong(i),
        }
    }
}

async fn shelf(state: Data<State>, QsQuery(query): QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    stock(&state, &query, None, StatusCode::OK).await
}

async fn stock(state: &State, query: &Query, refused: Option<&Refused>, status: StatusCode) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(state).await?;
    let t = state.tables();
    let pantry = &t.pantry;
    let prices = Prices { kept: &kitchen.prices, refused };
    let q: String = query.q.trim().chars().take(60).collect();
    let family = Family::from_word(&query.shelf).unwrap_or(Family::Flour);
    let (heading, jars): (String, Vec<Jar>) = if q.is_empty() {
        (family.title().to_owned(), pantry.offered().filter(|i| i.family == family).map(|i| Jar::new(i, &prices, pantry)).collect())
    } else {
        let found: Vec<Jar> = pantry.search(&q, MOST_FOUND).into_iter().map(|i| Jar::new(i, &prices, pantry)).collect();
        (if found.is_empty() { format!("Nothing like “{q}” here") } else { format!("Nearest to “{q}”") }, found)
    };
    let own = on_disk(&state.db, cerealis_store::shelf::get).await?.words;
    let meant = |id: &str| pantry.get(id).map_or_else(|| id.to_owned(), |i| i.short_name().to_owned());
    let words = own.into_iter().map(|w| WordRow { name: meant(&w.ingredient), word: w.word }).collect();
    let shelves = Family::ALL.map(|f| (f.word(), f.title(), q.is_empty() && f == family)).to_vec();
    let chrome = Chrome::new("Pantry", &kitchen, state.clock.now());
    page(&PantryPage { chrome, q, shelves, shelf: family.word(), heading, jars, currency: kitchen.currency, words }, status)
}

/// Takes a word of the household's own back.
async fn word_back(state: Data<State>, f: Fields) -> Result<HttpResponse, PageFailure> {
    let word = f.text(&Pointer::root().at("word")).unwrap_or_default();
    match desk::own::drop_word(&state, word).await {
        // Taken back already, in another window: the page says what there is.
        Ok(()) | Err(Failure::NotFound) => Ok(see_other("/pantry#ours")),
        Err(other) => Err(other.into()),
    }
}

/// What a kilogram costs, as the form at a jar sends it.
async fn price(state: Data<State>, mut f: Fields) -> Result<HttpResponse, PageFailure> {
    let root = Pointer::root();
    let field = root.at("price");
    let text = |name: &str| f.text(&root.at(name)).unwrap_or_default();
    let (id, query) = (text("id"), Query { q: text("q"), shelf: text("shelf") });
    let typed = text("price");
    let price = f.number(&field);
    let mut why: Vec<String> = f.wrong("price").into_iter().map(str::to_owned).collect();
    if why.is_empty() {
        match desk::kitchen::keep_price(&state, id.clone(), price).await {
            Ok(_) => {
                let place = serde_urlencoded::to_string([("q", &query.q), ("shelf", &query.shelf)]).unwrap_or_default();
                return Ok(see_other(&format!("/pantry?{place}#{id}")));
            }
            Err(Failure::Input(e)) => why = e.0.into_iter().map(|e| e.message).collect(),
            Err(other) => return Err(other.into()),
        }
    }
    stock(&state, &query, Some(&Refused { id, typed, why }), StatusCode::UNPROCESSABLE_ENTITY).await
}
