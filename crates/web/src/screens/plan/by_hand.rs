//! A plan set by hand: when to begin, where each rise stands and how far it goes; times follow.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    ferment::Pace,
    findings::Severity,
    formula::Formula,
    input::{Errors, InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    measure::{self, Units, degrees, show, to_nearest, typed},
    plan::{
        self, Beside, Course, PlanAsk, RisePlan,
        fed::{Fed, ready_leaven},
    },
    water::{Method, WaterAsk},
};
use serde_qs::actix::QsQuery;

use super::{
    super::{Chrome, Field, FindingView, OtherSetting, OvenLine, StepRow, begun, choose, formula_kept, frame, kitchen, page, see_other},
    query::Query,
    water::WaterView,
};
use crate::{
    State,
    desk::{self, about::OvenTold},
    draw::{Tide, tide},
    edge::{Failure, Form, Lies, Local, PageFailure},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan/by-hand").route(get().to(show_plan)))
        .service(web::resource("/plan/by-hand/use").route(post().to(use_plan)));
}

/// The same answers asking for another plan: what differs from the one asked for.
fn asking(q: &Query, instead: &PlanAsk, ask: &PlanAsk, (local, units): (&Local, &Units)) -> Query {
    let mut changed = q.clone();
    if (instead.mix_c - ask.mix_c).abs() > 1e-9 {
        changed = changed.with("mix_c", &measure::Asked::Degrees.shown(to_nearest(instead.mix_c, 0.1), units));
    }
    for (name, place, before) in [
        ("bulk_place", instead.bulk.map(|b| b.place), ask.bulk.map(|b| b.place)),
        ("proof_place", Some(instead.proof.place), Some(ask.proof.place)),
    ] {
        if let Some(place) = place.filter(|_| place != before) {
            changed = changed.with(name, place.word());
        }
    }
    if instead.start != ask.start {
        // What was told of the leaven's feeding is no longer so.
        changed = changed.with("start", &local.field(plan::round_up(instead.start, 5)));
        changed.p.retain(|name, _| !name.starts_with("fed_"));
    }
    changed
}

struct Asked {
    ask: PlanAsk,
    water: WaterAsk,
    /// When the leaven was fed, if that is told.
    fed: Option<Fed>,
}

/// Reads the form over what is usual.
fn asked(q: &Query, formula: &Formula, kitchen: &Kitchen, state: &State) -> (Asked, Result<(), InputErrors>) {
    let root = Pointer::root();
    let mut errors = Errors::default();
    let local = Local::of(kitchen);
    let t = state.tables();
    let a = formula.analyse(&t.pantry, &t.styles);
    let usual = PlanAsk::usual(formula, kitchen, state.clock.now(), &t);
    let mut figure = |name: &str, usual: f64, low: f64, high: f64, what: &str| match q.get(name) {
        None => usual,
        Some(text) => match typed(text, measure::Asked::by_name(name), &kitchen.units) {
            Ok(v) if (low..=high).contains(&v) => v,
            Ok(_) => {
                let asked = measure::Asked::by_name(name);
                errors.add(root.at(name), format!("{what} between {} and {}.", asked.told(low), asked.told(high)));
                usual
            }
            Err(e) => {
                errors.add(root.at(name), e);
                usual
            }
        },
    };
    let mix_c = figure("mix_c", usual.mix_c, 10.0, 40.0, "The dough's target");
    let flour_c = figure("flour_c", kitchen.flour_c, -30.0, 60.0, "The flour");
    let room_c = figure("room_c", kitchen.room_c, -30.0, 60.0, "The room");
    let tap_c = figure("tap_c", kitchen.tap_c, 0.0, 60.0, "The tap");
    // Their ranges are the leaven's own check.
    let mut any = |name: &str, usual: f64| figure(name, usual, f64::MIN, f64::MAX, "");
    let fed_h = q.get("fed_h").map(|_| any("fed_h", 8.0));
    let fed_parts = any("fed_parts", 5.0);
    let fed_c = any("fed_c", kitchen.room_c);
    let rise = |which: &str, usual: RisePlan| {
        let place = q.get(&format!("{which}_place")).and_then(Place::from_word).unwrap_or(usual.place);
        let here = if place == Place::Room { Some(room_c) } else { kitchen.place_c(place) };
        RisePlan {
            place,
            place_c: here.unwrap_or(usual.place_c),
            pace: q.get(&format!("{which}_pace")).and_then(Pace::from_word).unwrap_or(usual.pace),
        }
    };
    let start = match q.get("start") {
        None => usual.start,
        Some(text) => local.read_when(text, state.clock.now(), Lies::Ahead).unwrap_or_else(|| {
            errors.add(root.at("start"), "Write day and hour, for example today 18:10.");
            usual.start
        }),
    };
    let method = match q.get("method") {
        Some("factor") => Some(Method::Factor),
        Some("heat-balance") => Some(Method::HeatBalance),
        _ => None,
    };
    let ask = PlanAsk { start, mix_c, bulk: usual.bulk.map(|b| rise("bulk", b)), proof: rise("proof", usual.proof), ..usual };
    let water = WaterAsk { flour_c, room_c, tap_c, method, ..WaterAsk::usual(&a, &Kitchen { room_c, ..kitchen.clone() }, mix_c, &t) };
    let fed = fed_h.map(|hours| Fed { hours, parts: fed_parts, place_c: fed_c });
    if let Some(Err(e)) = fed.map(|f| f.check()) {
        errors.take(e);
    }
    (Asked { ask, water, fed }, errors.finish(()))
}

/// Words about a pace.
pub struct PaceView {
    word: &'static str,
    label: &'static str,
}

const PACES: [PaceView; 3] = [
    PaceView { word: "quick", label: "quick" },
    PaceView { word: "usual", label: "usual" },
    PaceView { word: "patient", label: "patient" },
];

#[derive(Template)]
#[template(path = "plan/by_hand.html")]
struct PlanPage {
    chrome: Chrome,
    id: String,
    name: String,
    headline: String,
    sub: String,
    wide: Option<Tide>,
    narrow: Option<Tide>,
    rows: Vec<StepRow>,
    water: Result<WaterView, Vec<String>>,
    errors: Vec<String>,
    fields: Vec<Field>,
    /// The leaven's feeding, where the dough holds one.
    fed_fields: Vec<Field>,
    start: String,
    start_at: String,
    now_at: String,
    start_errors: Vec<String>,
    places: Vec<(&'static str, String)>,
    bulk: Option<(String, String)>,
    proof: (String, String),
    paces: &'static [PaceView; 3],
    pace_words: Vec<(String, String, String)>,
    kneaded: String,
    method: String,
    oven: Option<OvenLine>,
    noted: Vec<FindingView>,
    /// Whether something must be answered before a bake begins.
    stopped: bool,
    working: Vec<(String, String, String)>,
    query: Vec<(String, String)>,
}

async fn show_plan(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let chrome = Chrome::new("Plan", &kitchen, state.clock.now());
    let q = query.into_inner();
    if q.formula.is_empty() {
        return choose(&state, chrome, "Which bread?", "A plan starts from a formula: choose one, or read a new one.", "/plan/by-hand")
            .await;
    }
    let q = q.settled(&Local::of(&kitchen), state.clock.now());
    let formula = formula_kept(&state, &q.formula).await?;
    let beside = desk::bakes::beside(&state, &kitchen, None).await?;
    let (view, ok) = plan_page(chrome, &q, (&formula, &beside), &kitchen, &state);
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}

fn plan_page(chrome: Chrome, q: &Query, (formula, beside): (&Formula, &[Beside]), kitchen: &Kitchen, state: &State) -> (PlanPage, bool) {
    let t = &state.tables();
    let local = Local::of(kitchen);
    let (Asked { ask, water, fed }, form) = asked(q, formula, kitchen, state);
    let none = InputErrors(Vec::new());
    let wrong = form.as_ref().err().unwrap_or(&none);
    let analysis = formula.analyse(&t.pantry, &t.styles);
    let at = |name: &str| wrong.at(&Pointer::root().at(name));
    let (ask, found) = match ask.clone().by_its_hours(formula, kitchen, t) {
        Ok((ask, course)) => (ask, Ok(course)),
        Err(e) => (ask, Err(e)),
    };
    let mut errors: Vec<String> = Vec::new();
    if let Err(e) = &found {
        errors.extend(e.0.iter().map(|e| e.message.clone()));
    }
    let water_view = WaterView::of(&analysis, &water, &t.ferment);
    let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    let course = found.ok();
    let ready = course.as_ref().map(|c| c.ready_at);
    let headline = ready.map_or_else(|| name.clone(), |r| format!("{name}, ready {} {}", local.weekday(r), local.clock_to(r, 5.0)));
    let ripe = course
        .as_ref()
        .and_then(|c| c.steps.iter().find(|s| s.kind == cerealis_core::plan::StepKind::Load))
        .and_then(|s| s.low.zip(s.high));
    let sub = ripe.map_or_else(String::new, |(l, h)| format!("Ripe for the oven {}, four times out of five.", local.span(l, h)));
    let now = state.clock.now();
    let draw =
        |width: u32, height: u32, every: f64| course.as_ref().map(|c| tide(&frame(c, None, &local, Some(now), every), width, height, true));
    let hours = course.as_ref().map_or(6.0, |c| cerealis_core::plan::minutes_between(ask.start, c.ready_at) / 60.0);
    let every = if hours > 30.0 {
        6.0
    } else if hours > 14.0 {
        2.0
    } else {
        1.0
    };
    let found = course.as_ref().map(|c| {
        let oven = plan::findings::of_oven(c, &ask, beside, &|at| local.clock_seen(at, now));
        [plan::findings::of_course(c, &ask, kitchen), oven, plan::findings::of_warm_hours(c, &ask, &analysis, kitchen)]
    });
    let leaven = fed.and_then(|fed| fed.find(&ask, &analysis, t));
    let all = leaven.into_iter().chain(found.into_iter().flatten().flatten()).chain(plan::findings::of_ask(&ask, &analysis, kitchen, t));
    let noted: Vec<FindingView> = all
        .map(|n| {
            let link =
                n.instead.map(|(label, instead)| (label, asking(q, &instead, &ask, (&local, &kitchen.units)).address("/plan/by-hand")));
            FindingView { link, ..FindingView::new(&n.finding) }
        })
        .collect();
    let style = analysis.style.id.word();
    let pace_words = Pace::ALL
        .iter()
        .filter_map(|p| t.ferment.paces.get(p.word()).map(|w| (p.word().to_owned(), w.gains.clone(), w.loses.clone())))
        .collect();
    let ok = form.is_ok() && errors.is_empty();
    let field = |name: &'static str, label: &'static str, value: f64, unit: &'static str| {
        Field::figure((name, label, unit), q.get(name), value, &kitchen.units).wrong(at(name))
    };
    let working = course.as_ref().map_or_else(Vec::new, |c| working(c, t.ferment.styles.get(style).and_then(|r| r.bulk_ratio)));
    let view = PlanPage {
        chrome,
        id: q.formula.clone(),
        name,
        headline,
        sub,
        wide: draw(936, 372, every),
        narrow: draw(358, 318, if hours > 7.0 { every.max(2.0) * 2.0 } else { 2.0 }),
        rows: course.as_ref().map_or_else(Vec::new, |c| StepRow::all(&c.steps, &local)),
        water: water_view,
        errors,
        fed_fields: ready_leaven(&analysis).map_or_else(Vec::new, |_| {
            vec![
                Field { value: q.get("fed_h").unwrap_or_default().to_owned(), ..field("fed_h", "Fed, before the mix", 0.0, "h") },
                field("fed_parts", "Flour to 1 of seed", 5.0, "×"),
                field("fed_c", "It stood at", kitchen.room_c, "°C"),
            ]
        }),
        fields: vec![
            field("mix_c", "Dough wanted", ask.mix_c, "°C"),
            field("flour_c", "Flour", water.flour_c, "°C"),
            field("room_c", "Room", water.room_c, "°C"),
            field("tap_c", "Tap", water.tap_c, "°C"),
        ],
        start: if at("start").is_empty() { local.when(ask.start, now) } else { q.get("start").unwrap_or_default().to_owned() },
        start_at: local.field(ask.start),
        now_at: local.field(now),
        start_errors: at("start"),
        places: kitchen
            .places()
            .into_iter()
            .map(|(p, c)| (p.word(), format!("{}, {}", p.name(), degrees(if p == Place::Room { water.room_c } else { c }).short())))
            .collect(),
        bulk: ask.bulk.map(|b| (b.place.word().to_owned(), b.pace.word().to_owned())),
        proof: (ask.proof.place.word().to_owned(), ask.proof.pace.word().to_owned()),
        paces: &PACES,
        pace_words,
        kneaded: water.mixing.words(),
        method: q.get("method").unwrap_or_default().to_owned(),
        oven: course.as_ref().map(|c| {
            let other = OtherSetting::of(&q.formula, &q.address("/plan/by-hand"), formula, kitchen, state);
            OvenLine { told: OvenTold::of(&c.oven, formula, kitchen, state), other }
        }),
        stopped: noted.iter().any(|f: &FindingView| f.severity == Severity::Stop.word()),
        noted,
        working,
        query: q.p.iter().filter(|(k, _)| *k != "start").map(|(k, v)| (k.clone(), v.clone())).collect(),
    };
    (view, ok)
}

/// How the hours came about: what, how much, by which rule.
fn working(c: &Course, bulk_ratio: Option<f64>) -> Vec<(String, String, String)> {
    let b = &c.forecast.body;
    let speed = show(if b.bakers_lead { b.factor_bakers } else { b.factor_wild }, 2);
    let ratio = bulk_ratio.map_or_else(|| "one rise".into(), |x| format!("{} times", show(x, 2)));
    let dough_time = format!(
        "as if it had stood at {}: ∫ rate(T) / rate({}) dt, cardinal temperature model (Rosso et al. 1993, from memory)",
        degrees(24.0),
        degrees(24.0).short()
    );
    let rows = [
        ("yeast, as instant", format!("{} %", cerealis_core::measure::show_percent(b.yeast_instant_pct)), "of the flour"),
        ("speed of this formula", format!("× {speed}"), "salt, sugar, fat and water against a lean dough; fitted to the trade's facts"),
        ("ripe when", ratio, "its fresh volume at the usual pace; common practice, no source"),
        ("dough hours in all", format!("{} h", show(c.forecast.end.dough_h, 1)), dough_time.as_str()),
        ("range", "80 %".to_owned(), "no log of this kitchen yet: the spread of the trade's own times"),
    ];
    rows.map(|(what, figure, how)| (what.to_owned(), figure, how.to_owned())).to_vec()
}

/// Makes the bake from the plan as it stands.
async fn use_plan(state: Data<State>, Form(form): Form<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let q = form;
    let formula = formula_kept(&state, &q.formula).await?;
    let (Asked { ask, .. }, checked) = asked(&q, &formula, &kitchen, &state);
    let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    let beside = desk::bakes::beside(&state, &kitchen, None).await?;
    let again = |state: &State| {
        let (view, _) = plan_page(Chrome::new("Plan", &kitchen, state.clock.now()), &q, (&formula, &beside), &kitchen, state);
        page(&view, StatusCode::UNPROCESSABLE_ENTITY)
    };
    if checked.is_err() {
        return again(&state);
    }
    let ask = ask.clone().by_its_hours(&formula, &kitchen, &state.tables()).map_or(ask, |(ask, _)| ask);
    match desk::bakes::begin(&state, name, formula.clone(), Some(ask)).await {
        Ok((bake, _)) => Ok(see_other(&begun(&bake.id, &q.address("/plan/by-hand")))),
        Err(Failure::Input(_)) => again(&state),
        Err(other) => Err(other.into()),
    }
}
