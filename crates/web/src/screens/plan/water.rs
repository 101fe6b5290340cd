//! Water for the mix: how warm, how much of it as ice, by which method, with the working; on the plan and
//! as a page of its own.

use std::collections::BTreeMap;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    ferment::Constants,
    formula::Analysis,
    input::Pointer,
    kitchen::Kitchen,
    measure::{self, Asked, Quantity, degrees, weight},
    plan::Mixing,
    water::{Method, MixRise, WaterAsk, for_formula},
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::super::{Chrome, Field, FindingView, choose, formula_kept, kitchen, page, worked_out};
use crate::{State, edge::PageFailure};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/water").route(get().to(show_water)));
}

/// The water for the mix, in words.
pub struct WaterView {
    pub liquid: String,
    pub is_water: bool,
    pub degrees: Quantity,
    pub grams: String,
    pub ice: Option<String>,
    pub method: &'static str,
    pub other: String,
    pub reason: &'static str,
    pub findings: Vec<FindingView>,
    pub working: Vec<(String, String, String)>,
}

impl WaterView {
    /// For a dough.
    pub fn of(a: &Analysis<'_>, ask: &WaterAsk, k: &Constants) -> Result<Self, Vec<String>> {
        let w = for_formula(a, ask, k).map_err(|e| e.0.into_iter().map(|e| e.message).collect::<Vec<_>>())?;
        let factor = w.method == Method::Factor;
        Ok(Self {
            is_water: w.liquid == "Water",
            liquid: w.liquid.clone(),
            degrees: degrees(w.water_c).to(0),
            grams: weight(w.tap_water_g).to_string(),
            ice: (w.ice_g >= 1.0).then(|| weight(w.ice_g).to_string()),
            method: if factor { "the trade’s sum of temperatures" } else { "the heat of each part, added up" },
            other: format!(
                "{} gives {}",
                if factor { "adding up the heat of each part" } else { "the trade’s sum" },
                degrees(w.other_c).to(0).short()
            ),
            reason: w.reason,
            findings: w.findings.iter().map(FindingView::new).collect(),
            working: worked_out(&w.working),
        })
    }
}

#[derive(Debug, Deserialize, Default)]
struct Query {
    #[serde(default)]
    formula: String,
    #[serde(default)]
    w: BTreeMap<String, String>,
}

/// Name, words, unit of a field, and the figure it is for.
type Figure<'a> = ((&'static str, &'static str, &'static str), &'a mut f64);

#[derive(Template)]
#[template(path = "plan/water_page.html")]
struct WaterPage {
    chrome: Chrome,
    id: String,
    name: String,
    fields: Vec<Field>,
    /// How it is kneaded.
    kneaded: String,
    method: String,
    water: Result<WaterView, Vec<String>>,
    by: Quantity,
}

async fn show_water(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Plan", &kitchen, state.clock.now());
    let q = query.into_inner();
    if q.formula.is_empty() {
        return choose(&state, chrome, "Water for which dough?", "How warm the water must be hangs on the dough: choose one.", "/water")
            .await;
    }
    let formula = formula_kept(&state, &q.formula).await?;
    let t = state.tables();
    let a = formula.analyse(&t.pantry, &t.styles);
    let target = Mixing::of(&a, &kitchen, &t).dough_c;
    let mut ask = WaterAsk::usual(&a, &kitchen, target, &t);
    let typed = |name: &str| q.w.get(name).map(|v| v.trim()).filter(|v| !v.is_empty());
    let mut fields: Vec<Field> = Vec::new();
    let all: [Figure<'_>; 5] = [
        (("target_c", "Dough wanted", "°C"), &mut ask.target_c),
        (("flour_c", "Flour", "°C"), &mut ask.flour_c),
        (("room_c", "Room", "°C"), &mut ask.room_c),
        (("tap_c", "Tap", "°C"), &mut ask.tap_c),
        (("fridge_c", "Fridge", "°C"), &mut ask.fridge_c),
    ];
    for (told, value) in all {
        let read = typed(told.0).map(|text| measure::typed(text, Asked::by_name(told.0), &kitchen.units));
        if let Some(Ok(v)) = &read {
            *value = *v;
        }
        let wrong = read.and_then(Result::err).into_iter().collect();
        fields.push(Field::figure(told, typed(told.0), *value, &kitchen.units).wrong(wrong));
    }
    // As warm as the room is told to be, and the dough wanted: friction, bowl and room go by both.
    ask.mixing = MixRise::of(&a, &Kitchen { room_c: ask.room_c, ..kitchen.clone() }, ask.target_c, &t);
    let kneaded = ask.mixing.words();
    let method = typed("method").unwrap_or_default().to_owned();
    ask.method = match method.as_str() {
        "factor" => Some(Method::Factor),
        "heat-balance" => Some(Method::HeatBalance),
        _ => None,
    };
    // What no kitchen has is told by the same check that guards the answer.
    if let Err(errors) = for_formula(&a, &ask, &t.ferment) {
        for field in fields.iter_mut().filter(|f| f.wrong.is_empty()) {
            field.wrong = errors.at(&Pointer::root().at(field.name));
        }
    }
    let wrong = fields.iter().any(|f| !f.wrong.is_empty());
    let view = WaterPage {
        chrome,
        id: q.formula,
        name: formula.name.clone().unwrap_or_else(|| "Unnamed bread".into()),
        water: if wrong { Err(vec!["Mend the marked field.".to_owned()]) } else { WaterView::of(&a, &ask, &t.ferment) },
        by: degrees(ask.target_c).short(),
        fields,
        kneaded,
        method,
    };
    page(&view, if wrong { StatusCode::UNPROCESSABLE_ENTITY } else { StatusCode::OK })
}
