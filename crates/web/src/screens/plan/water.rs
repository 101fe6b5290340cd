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
    input::{Pointer, number},
    kitchen::MIXERS,
    measure::{show, show_degrees, show_grams},
    water::{Method, WaterAsk, for_formula},
};
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::super::{Chrome, FindingView, choose, formula_kept, kitchen, page};
use crate::{State, desk::about::usual_water, edge::PageFailure};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/water").route(get().to(show_water)));
}

/// The water for the mix, in words.
pub struct WaterView {
    pub liquid: String,
    pub is_water: bool,
    pub degrees: String,
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
            degrees: show(w.water_c, 0),
            grams: show_grams(w.tap_water_g),
            ice: (w.ice_g >= 1.0).then(|| show_grams(w.ice_g)),
            method: if factor { "factor" } else { "heat balance" },
            other: format!("{} by {}", show(w.other_c, 0), if factor { "heat balance" } else { "factor" }),
            reason: w.reason,
            findings: w.findings.iter().map(FindingView::new).collect(),
            working: w
                .working
                .iter()
                .map(|s| {
                    let how = [s.formula.clone().unwrap_or_default(), s.source.map(|s| format!("({s})")).unwrap_or_default()].join(" ");
                    (s.label.clone(), format!("{} {}", show(s.value, 1), s.unit), how)
                })
                .collect(),
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

/// A figure that may be told: name, words, where it goes, unit.
type Figure<'a> = (&'static str, &'static str, &'a mut f64, &'static str);
/// A field: name, words, value, unit, what is wrong.
type Field = (&'static str, &'static str, String, &'static str, Option<String>);

#[derive(Template)]
#[template(path = "plan/water_page.html")]
struct WaterPage {
    chrome: Chrome,
    id: String,
    name: String,
    fields: Vec<Field>,
    mixers: Vec<(&'static str, &'static str)>,
    mixer: String,
    method: String,
    water: Result<WaterView, Vec<String>>,
    by: (f64, String),
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
    let target = f64::midpoint(a.style.dough_c.0, a.style.dough_c.1);
    let mut ask = usual_water(&kitchen, target);
    let typed = |name: &str| q.w.get(name).map(|v| v.trim()).filter(|v| !v.is_empty());
    let mut fields: Vec<Field> = Vec::new();
    let all: [Figure<'_>; 6] = [
        ("target_c", "Dough wanted", &mut ask.target_c, "°C"),
        ("flour_c", "Flour", &mut ask.flour_c, "°C"),
        ("room_c", "Room", &mut ask.room_c, "°C"),
        ("tap_c", "Tap", &mut ask.tap_c, "°C"),
        ("fridge_c", "Fridge", &mut ask.fridge_c, "°C"),
        ("mix_min", "Mixing", &mut ask.mix_min, "min"),
    ];
    for (name, label, value, unit) in all {
        let read = typed(name).map(number);
        if let Some(Ok(v)) = &read {
            *value = *v;
        }
        let shown = typed(name).map_or_else(|| show_degrees(*value), str::to_owned);
        fields.push((name, label, shown, unit, read.and_then(Result::err)));
    }
    if let Some(mixer) = typed("mixer").filter(|m| MIXERS.iter().any(|x| x.0 == *m)) {
        mixer.clone_into(&mut ask.mixer);
    }
    let method = typed("method").unwrap_or_default().to_owned();
    ask.method = match method.as_str() {
        "factor" => Some(Method::Factor),
        "heat-balance" => Some(Method::HeatBalance),
        _ => None,
    };
    // What no kitchen has is told by the same check that guards the answer.
    if let Err(errors) = for_formula(&a, &ask, &t.ferment) {
        for (name, .., wrong) in fields.iter_mut().filter(|f| f.4.is_none()) {
            *wrong = errors.at(&Pointer::root().at(name)).into_iter().next();
        }
    }
    let wrong = fields.iter().any(|f| f.4.is_some());
    let view = WaterPage {
        chrome,
        id: q.formula,
        name: formula.name.clone().unwrap_or_else(|| "Unnamed bread".into()),
        water: if wrong { Err(vec!["Mend the marked field.".to_owned()]) } else { WaterView::of(&a, &ask, &t.ferment) },
        by: (ask.target_c, show(ask.target_c, 1)),
        fields,
        mixers: MIXERS.to_vec(),
        mixer: ask.mixer.clone(),
        method,
    };
    page(&view, if wrong { StatusCode::UNPROCESSABLE_ENTITY } else { StatusCode::OK })
}
