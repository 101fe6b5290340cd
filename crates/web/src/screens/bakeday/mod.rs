//! Bake day: the clock, one act, its sign; everything can be ticked, measured or noted.

mod at_bowl;
mod held_back;
mod rest;
mod spots;
mod view;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    bake::{BakeState, Event, EventBody, EventKind, is_finished},
    formula::{Formula, FormulaDraft},
    input::{number, quoting},
    kitchen::{Kitchen, Place},
    measure::{self, Asked, degrees, show, weight},
    plan::StepKind,
};
use cerealis_store::{StoreError, Unreadable, bakes};
use jiff::Timestamp;
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{Chrome, back_to, kitchen, page, see_other};
use crate::{
    State,
    desk::{self, bakes::GOING_ON},
    edge::{Failure, Form, Lies, Local, PageFailure, on_disk},
};
use view::BakedayPage;

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/bakeday").route(get().to(running)))
        .service(web::resource("/bakeday/{id}").route(get().to(bakeday)))
        .service(web::resource("/bakeday/{id}/back").route(post().to(take_back)))
        .service(
            web::resource("/bakeday/{id}/events")
                .route(post().to(append))
                .route(get().to(|id: Path<String>| async move { see_other(&format!("/bakeday/{id}")) })),
        );
}

/// A bake with its log, checked and worked out.
pub struct Standing {
    pub kept: bakes::Kept,
    pub log: Vec<Event>,
    pub formula: Formula,
    pub state: BakeState,
}

/// Where a kept bake stands at `now`.
pub fn standing(kept: bakes::Kept, log: Vec<Event>, kitchen: &Kitchen, now: Timestamp, state: &State) -> Result<Standing, Failure> {
    let formula = FormulaDraft::from(kept.formula.clone()).check(&state.tables().pantry)?;
    let stands = BakeState::of(&log, &kept.plan, &formula, kitchen, now, &state.tables())?;
    Ok(Standing { kept, log, formula, state: stands })
}

/// Bakes that fit.
pub struct Found {
    /// Newest first, each with its log.
    pub rows: Vec<(bakes::Kept, Vec<Event>)>,
    /// Those among them that cannot be read.
    pub unreadable: Vec<Unreadable>,
}

/// Bakes that fit a search.
pub async fn found(state: &State, search: bakes::Search) -> Result<Found, PageFailure> {
    let all = on_disk(&state.db, move |db| {
        let kept = bakes::list(db, &search)?;
        let ids: Vec<&str> = kept.iter().map(|b| b.id.as_str()).collect();
        let mut logs = bakes::logs(db, &ids)?;
        let with_log = |bake: bakes::Kept| {
            let log = logs.remove(&bake.id).unwrap_or_default();
            (bake, log)
        };
        Ok(Found { rows: kept.rows.into_iter().map(with_log).collect(), unreadable: kept.unreadable })
    })
    .await?;
    Ok(all)
}

/// The bakes that are going on, worked out; one that cannot be is left out.
pub async fn going_on(state: &State, kitchen: &Kitchen, now: Timestamp) -> Result<Vec<Standing>, PageFailure> {
    let rows = found(state, bakes::Search { sliced: Some(false), rows: Some(GOING_ON), ..bakes::Search::default() }).await?.rows;
    let open = rows.into_iter().filter(|(_, log)| !is_finished(log));
    Ok(open.filter_map(|(k, log)| standing(k, log, kitchen, now, state).ok()).collect())
}

#[derive(Template)]
#[template(path = "bakeday/none.html")]
struct NonePage {
    chrome: Chrome,
    running: Vec<(String, String, String)>,
}

async fn running(state: Data<State>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let now = state.clock.now();
    let local = Local::of(&kitchen);
    let open: Vec<(String, String, String)> = going_on(&state, &kitchen, now)
        .await?
        .into_iter()
        .map(|s| {
            (
                s.kept.id.clone(),
                s.kept.name.clone(),
                s.state.act().map_or_else(String::new, |a| format!("{} {}", local.clock_to(a.start, 5.0), a.kind.title())),
            )
        })
        .collect();
    if let [(id, ..)] = open.as_slice() {
        return Ok(see_other(&format!("/bakeday/{id}")));
    }
    page(&NonePage { chrome: Chrome::new("Bake day", &kitchen, now), running: open }, StatusCode::OK)
}

async fn load(state: &State, id: &str) -> Result<(bakes::Kept, Vec<Event>), PageFailure> {
    let id = id.to_owned();
    Ok(on_disk(&state.db, move |db| Ok((bakes::get(db, &id)?, bakes::log(db, &id)?))).await?)
}

/// Where a bake was begun from.
#[derive(Debug, Deserialize, Default)]
struct Begun {
    #[serde(default)]
    from: String,
}

/// Takes back a bake of which nothing was noted, and goes back to its plan.
async fn take_back(state: Data<State>, id: Path<String>, Form(form): Form<Begun>) -> Result<HttpResponse, PageFailure> {
    let id = id.into_inner();
    let bake = id.clone();
    let gone = on_disk(&state.db, move |db| bakes::take_back(db, &bake)).await?;
    let plan = back_to(form.from, &["/plan", "/plan/together", "/plan/by-hand"]);
    Ok(see_other(&if gone { plan.unwrap_or_else(|| "/".to_owned()) } else { format!("/bakeday/{id}") }))
}

async fn bakeday(state: Data<State>, id: Path<String>, query: QsQuery<Begun>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let (kept, log) = load(&state, &id).await?;
    let s = standing(kept, log, &kitchen, state.clock.now(), &state)?;
    let taken = desk::bakes::beside(&state, &kitchen, Some(&id)).await?;
    let refused = Refused { from: query.into_inner().from, ..Refused::default() };
    let day = s.kept.day.clone();
    let others = match day {
        Some(day) => on_disk(&state.db, move |db| bakes::of_day(db, &day)).await?.rows,
        None => Vec::new(),
    };
    let others = others.into_iter().filter(|b| b.id != s.kept.id).map(|b| (b.id, b.name)).collect();
    page(&BakedayPage::new(&s, &kitchen, &state, &taken, refused).beside(others), StatusCode::OK)
}

/// What was wrong with what was sent, and what was typed with it: a note, a reading.
#[derive(Default)]
struct Refused {
    /// The plan it was begun from.
    from: String,
    errors: Vec<String>,
    note: String,
    other: String,
}

#[derive(Debug, Deserialize, Default)]
struct EventForm {
    #[serde(default)]
    kind: String,
    #[serde(default)]
    value: String,
    #[serde(default)]
    other: String,
    #[serde(default)]
    stage: String,
    #[serde(default)]
    what: String,
    #[serde(default)]
    line: String,
    #[serde(default)]
    note: String,
    /// How the rest of the bake is laid anew, as JSON.
    #[serde(default)]
    rest: String,
    #[serde(default)]
    key: String,
    #[serde(default)]
    at: String,
    #[serde(default)]
    back: String,
}

async fn append(state: Data<State>, id: Path<String>, Form(form): Form<EventForm>) -> Result<HttpResponse, PageFailure> {
    let id = id.into_inner();
    let kitchen = kitchen(&state).await?;
    let now = state.clock.now();
    let given = |t: &str| Some(t.trim().to_owned()).filter(|t| !t.is_empty());
    // `temperature:dough` and its like: one button carries kind and stage.
    let (kind, stage) =
        form.kind.split_once(':').map_or((form.kind.clone(), given(&form.stage)), |(k, s)| (k.to_owned(), Some(s.to_owned())));
    // A weighed line carries its grams in the same button, and a note for next time is a note.
    let (line, weighed) = form.line.split_once(':').map_or((form.line.clone(), String::new()), |(l, g)| (l.to_owned(), g.to_owned()));
    // What goes in by feel carries its grams in the same way.
    let by_feel = (kind == "added").then(|| line.clone());
    let (kind, what) =
        if kind == "next-time" { ("note".to_owned(), Some("next-time".to_owned())) } else { (kind, by_feel.or_else(|| given(&form.what))) };
    // What a button carries is data; what is typed beside it is in the household's units.
    let asked = if matches!(kind.as_str(), "weighed" | "added") { Asked::Grams } else { Asked::Degrees };
    let typed = given(&form.other).map(|text| measure::typed(&text, asked, &kitchen.units));
    let carried = given(&weighed).or_else(|| given(&form.value));
    let value = given(&weighed).map(|g| number(&g)).or(typed).or_else(|| carried.map(|text| number(&text))).transpose();
    let hour = |t: String| {
        let read = Local::of(&kitchen).read_when(&t, now, Lies::Behind);
        read.map(|at| at.to_string()).ok_or_else(|| quoting(format!("“{t}” is no hour of a day. Write it like 18:31 or yesterday 18:31.")))
    };
    let at = given(&form.at).map(hour).transpose();
    let again = async |errors: Vec<String>| -> Result<HttpResponse, PageFailure> {
        let (kept, log) = load(&state, &id).await?;
        let s = standing(kept, log, &kitchen, now, &state)?;
        let taken = desk::bakes::beside(&state, &kitchen, Some(&id)).await?;
        page(
            &BakedayPage::new(
                &s,
                &kitchen,
                &state,
                &taken,
                Refused { errors, note: form.note.clone(), other: form.other.clone(), ..Refused::default() },
            ),
            StatusCode::UNPROCESSABLE_ENTITY,
        )
    };
    let checked = match (value, at) {
        (Err(e), _) | (_, Err(e)) => Err(vec![e]),
        (Ok(value), Ok(at)) => {
            let line = line.parse().ok();
            let rest = given(&form.rest).and_then(|json| serde_json::from_str(&json).ok());
            let body = EventBody { kind, at, value, stage, what, line, note: given(&form.note), rest, ..EventBody::default() };
            body.check(now).map_err(|e| e.0.into_iter().map(|e| e.message).collect::<Vec<_>>())
        }
    };
    match checked {
        Err(errors) => again(errors).await,
        Ok(event) => match desk::bakes::note(&state, &id, event, given(&form.key)).await {
            Ok(_) if form.back == "logbook" => Ok(see_other(&format!("/logbook/{id}"))),
            Ok(_) => Ok(see_other(&format!("/bakeday/{id}"))),
            Err(Failure::Store(StoreError::Conflict(why))) => again(vec![why]).await,
            Err(other) => Err(other.into()),
        },
    }
}

/// What a note says was done.
const fn told_words(step: StepKind) -> &'static str {
    match step {
        StepKind::Feed => "Fed",
        StepKind::Stir => "Preferment stirred",
        StepKind::Scald => "Scalded",
        StepKind::Finish => "Brushed",
        StepKind::Dip => "Dipped",
        StepKind::LidOn => "Lid on",
        StepKind::Bloom => "Yeast woken",
        StepKind::Mix => "Mixed",
        StepKind::Soak => "Soaked",
        StepKind::Knead => "Kneaded",
        StepKind::Butter => "Butter in",
        StepKind::Dial => "Dial turned",
        StepKind::Dry => "Drying in the oven",
        _ => "Rested",
    }
}

/// What an event says, for the list of what happened; one that takes another back says which.
pub fn event_words(e: &Event, formula: &Formula, log: &[Event]) -> String {
    let b = &e.event.body;
    let c = |v: Option<f64>| v.map(|v| degrees(v).short().to_string()).unwrap_or_default();
    let words = match e.event.kind {
        EventKind::Weighed => {
            let line = b.line.and_then(|l| formula.lines.get(usize::try_from(l).unwrap_or(usize::MAX)));
            let of = if e.event.is_held_back() { ", of what was held back" } else { "" };
            format!("{}{of}, {}", line.map_or("Weighed", |l| l.ingredient.name.as_str()), weight(b.value.unwrap_or_default()))
        }
        EventKind::Added => format!("{} more, {}", weight(b.value.unwrap_or_default()), b.what.as_deref().unwrap_or_default()),
        EventKind::Window => format!("A window pulled: {}", b.what.as_deref().unwrap_or_default()),
        EventKind::Mixed => "Left to rise".into(),
        EventKind::Temperature => format!("{} {}", b.stage.as_deref().unwrap_or_default(), c(b.value)),
        EventKind::Fold => "Folded".into(),
        EventKind::KnockBack => "Knocked back".into(),
        EventKind::Moved => format!("Moved to the {}", b.what.as_deref().and_then(Place::from_word).map_or("place", Place::name)),
        EventKind::Ripe => format!("{} ripe", b.stage.as_deref().unwrap_or_default()),
        EventKind::NotYet => format!("{} not ripe yet", b.stage.as_deref().unwrap_or_default()),
        EventKind::Over => format!("{} past ripe", b.stage.as_deref().unwrap_or_default()),
        EventKind::Divided => "Divided".into(),
        EventKind::Shaped => "Shaped".into(),
        EventKind::OvenOn => format!("Oven on {}", c(b.value)),
        EventKind::Loaded => format!("Into the oven {}", c(b.value)),
        EventKind::SteamOff => "Steam out".into(),
        EventKind::Turned => "Turned".into(),
        EventKind::Replanned => "The rest planned anew".into(),
        EventKind::Foil => "Foil on".into(),
        EventKind::LidOff => "Lid off".into(),
        EventKind::Out => "Out of the oven".into(),
        EventKind::Core => format!("Core {}", c(b.value)),
        EventKind::Sliced => "Sliced".into(),
        EventKind::Colour => format!("Came out {}", b.what.as_deref().unwrap_or_default()),
        EventKind::Rating => format!("Rated {} of 5", b.value.map(|v| show(v, 0)).unwrap_or_default()),
        EventKind::Fault => b.what.clone().unwrap_or_default().replace('-', " "),
        EventKind::Note => b.told_step().map_or("", told_words).to_owned(),
        EventKind::Undo => {
            let undone = e.event.undoes().and_then(|seq| log.iter().find(|x| x.seq == seq && x.event.kind != EventKind::Undo));
            undone.map_or_else(|| "Took one back".into(), |x| format!("Took back: {}", event_words(x, formula, log)))
        }
    };
    match (&b.note, words.is_empty()) {
        (Some(n), true) => n.clone(),
        (Some(n), false) => format!("{words}: {n}"),
        (None, _) => words,
    }
}
