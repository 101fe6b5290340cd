//! The first evening: three things are asked, each guessed already, and the first recipe is read.

use actix_web::{
    HttpRequest, HttpResponse,
    http::{StatusCode, header},
    web::Data,
};
use askama::Template;
use cerealis_core::{
    input::Pointer,
    kitchen::{COUNTRIES, FirstAnswers, Kitchen, Together},
    measure::{Temperature, Units, degrees},
    oven::Dial,
};

use super::super::{Chrome, kitchen, page, see_other};
use crate::{
    State, desk,
    edge::{Failure, Fields, PageFailure},
};

/// How warm a kitchen is, °C, and how one is dressed in it. Common practice, no source.
const WARMTHS: [(i32, &str); 5] = [(16, "coat"), (18, "jumper"), (20, "sleeves"), (23, "windows"), (26, "melting")];
const CUPS: [(&str, &str); 3] = [("us", "US cup, 237 ml"), ("metric", "metric cup, 250 ml"), ("imperial", "imperial cup, 284 ml")];

/// One of a list: its word, its words, whether it stands there.
struct Choice {
    word: &'static str,
    words: &'static str,
    on: bool,
}

/// A warmth to choose, said on both scales: which one is the baker's is only asked here.
struct Warmth {
    c: i32,
    celsius: String,
    fahrenheit: String,
    dress: &'static str,
    on: bool,
}

#[derive(Template)]
#[template(path = "today/first.html")]
struct FirstEvening {
    chrome: Chrome,
    countries: Vec<Choice>,
    together: Vec<Choice>,
    cups: Vec<Choice>,
    dials: Vec<Choice>,
    warmths: Vec<Warmth>,
    text: String,
    errors: Vec<String>,
}

impl FirstEvening {
    fn of(answers: &FirstAnswers, text: String, errors: Vec<String>, kitchen: &Kitchen, state: &State) -> Self {
        let choose = |all: &[(&'static str, &'static str)], now: &str| {
            all.iter().map(|(word, words)| Choice { word, words, on: *word == now }).collect()
        };
        let said = |c: i32, temperature| degrees(f64::from(c)).short().said(&Units { temperature, ..Units::METRIC });
        let warmth = |(c, dress): (i32, &'static str)| Warmth {
            c,
            celsius: said(c, Temperature::Celsius),
            fahrenheit: said(c, Temperature::Fahrenheit),
            dress,
            on: (f64::from(c) - answers.room_c).abs() < 0.5,
        };
        Self {
            chrome: Chrome::new("Today", kitchen, state.clock.now()).of_nobody_yet(),
            countries: choose(&COUNTRIES, &answers.country),
            together: choose(&Together::choices(), answers.together.word()),
            cups: choose(&CUPS, &answers.cup),
            dials: choose(&Dial::choices(), answers.dial.word()),
            warmths: WARMTHS.into_iter().map(warmth).collect(),
            text,
            errors,
        }
    }
}

/// The country the browser speaks for, if it is one of ours.
fn guessed(request: &HttpRequest) -> &'static str {
    let asks = request.headers().get(header::ACCEPT_LANGUAGE).and_then(|h| h.to_str().ok()).unwrap_or_default();
    let mut tags = asks.split(',').map(|t| t.split(';').next().unwrap_or_default().trim());
    tags.find_map(|tag| COUNTRIES.iter().find(|(l, _)| l.eq_ignore_ascii_case(tag))).map_or("en-GB", |(l, _)| l)
}

/// The page that asks.
pub(super) fn ask(request: &HttpRequest, kitchen: &Kitchen, state: &State) -> Result<HttpResponse, PageFailure> {
    let answers = FirstAnswers::usual(guessed(request));
    page(&FirstEvening::of(&answers, String::new(), Vec::new(), kitchen, state), StatusCode::OK)
}

/// Keeps the answers, and goes on to the recipe.
pub(super) async fn keep(state: Data<State>, mut f: Fields) -> Result<HttpResponse, PageFailure> {
    let at = |name: &str| Pointer::root().at(name);
    let one_of = |all: &'static [(&'static str, &'static str)]| {
        move |w: &str| all.iter().find(|(word, _)| *word == w).map(|(word, _)| (*word).to_owned())
    };
    let country = f.choice(&at("country"), one_of(&COUNTRIES)).unwrap_or_else(|| "en-GB".to_owned());
    let usual = FirstAnswers::usual(&country);
    let answers = FirstAnswers {
        together: f.choice(&at("system"), Together::from_word).unwrap_or(usual.together),
        cup: f.choice(&at("cup"), one_of(&CUPS)).unwrap_or(usual.cup),
        room_c: f.number(&at("room")).unwrap_or(usual.room_c),
        dial: f.choice(&at("dial"), Dial::from_word).unwrap_or(usual.dial),
        country,
    };
    let text = f.text(&at("text"));
    let refused = if f.is_wrong() {
        vec!["One of these answers cannot be read: choose again.".to_owned()]
    } else {
        match desk::kitchen::first_evening(&state, answers.clone()).await {
            Ok(_) => Vec::new(),
            Err(Failure::Input(errors)) => errors.0.into_iter().map(|e| e.message).collect(),
            Err(other) => return Err(other.into()),
        }
    };
    match text {
        _ if !refused.is_empty() => {
            let view = FirstEvening::of(&answers, text.unwrap_or_default(), refused, &kitchen(&state).await?, &state);
            page(&view, StatusCode::UNPROCESSABLE_ENTITY)
        }
        None => Ok(see_other("/formula")),
        // The same form goes on to where recipes are read.
        Some(_) => Ok(HttpResponse::TemporaryRedirect().insert_header((header::LOCATION, "/formula/read")).finish()),
    }
}
