//! The pantry: what stands on the shelf, what it is made of, what a spoon and a cup of it weigh, who says so.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    measure::{Band, show, show_grams, show_percent},
    pantry::{Added, Family, Gluten, Ingredient},
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{Chrome, kitchen, page};
use crate::{State, edge::PageFailure};

/// Rows shown for a search: more than this and another letter helps.
const MOST_FOUND: usize = 20;

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/pantry").route(get().to(shelf)));
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
}

#[derive(Template)]
#[template(path = "pantry/page.html")]
struct PantryPage {
    chrome: Chrome,
    q: String,
    shelves: Vec<(&'static str, &'static str, bool)>,
    heading: String,
    jars: Vec<Jar>,
}

fn spread(b: Band) -> String {
    if b.is_exact() {
        format!("{} g", show_grams(b.likely))
    } else {
        format!("{} g ({}–{})", show_grams(b.likely), show_grams(b.low), show_grams(b.high))
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

impl Jar {
    fn new(i: &Ingredient) -> Self {
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
        let methods =
            i.measure_methods.iter().map(|(how, g)| (format!("US cup, {}", how.replace('-', " ")), format!("{} g", show_grams(*g))));
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
            also: i.synonyms.join(", "),
            parts: parts.into_iter().filter(|p| p.1 >= 0.05).map(|(what, pct)| (what, format!("{} %", show_percent(pct)))).collect(),
            weights: cup.map(|c| ("US cup".to_owned(), spread(c))).into_iter().chain(methods).chain(pieces).collect(),
            counts: sentence(&counts.join("; ")),
            holds,
            note: i.note.clone(),
            source: i.source.clone(),
        }
    }
}

async fn shelf(state: Data<State>, QsQuery(query): QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let pantry = &state.tables.pantry;
    let q: String = query.q.trim().chars().take(60).collect();
    let family = Family::from_word(&query.shelf).unwrap_or(Family::Flour);
    let (heading, jars): (String, Vec<Jar>) = if q.is_empty() {
        (family.shelf().to_owned(), pantry.all().iter().filter(|i| i.family == family).map(|i| Jar::new(i)).collect())
    } else {
        let found: Vec<Jar> = pantry.search(&q, MOST_FOUND).into_iter().map(|i| Jar::new(i)).collect();
        (if found.is_empty() { format!("Nothing like “{q}” here") } else { format!("Nearest to “{q}”") }, found)
    };
    let shelves = Family::ALL.map(|f| (f.word(), f.shelf(), q.is_empty() && f == family)).to_vec();
    page(&PantryPage { chrome: Chrome::new("Pantry", &kitchen, state.clock.now()), q, shelves, heading, jars }, StatusCode::OK)
}
