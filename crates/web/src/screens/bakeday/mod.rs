//! Bake day: the clock, one act, its sign; everything can be ticked, measured or noted.

mod held_back;
mod rest;
mod spots;

use std::collections::HashSet;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    bake::{BakeState, Event, EventBody, EventKind, is_finished, summary},
    formula::{Formula, FormulaDraft, Spoons, spoons},
    input::{number, quoting},
    kitchen::{Kitchen, Place},
    measure::{show, show_degrees, show_grams, show_minutes},
    plan::{Actual, Beside, PlanStep, StepKind, minutes_between},
};
use cerealis_store::{StoreError, Unreadable, bakes};
use jiff::Timestamp;
use serde::Deserialize;
use serde_qs::actix::QsQuery;
use uuid::Uuid;

use super::{Chrome, back_to, frame, kitchen, page, see_other, symbol};
use crate::{
    State,
    desk::{self, bakes::GOING_ON},
    draw::{Tide, tide},
    edge::{Failure, Form, Local, PageFailure, in_words, on_disk},
};
use held_back::HeldBack;
use rest::{Rest, rest};
use spots::{Spot, spots};

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

/// Entries of a log that bake day shows; all of them stand in the logbook.
const LATEST: usize = 100;

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

struct NextRow {
    clock: String,
    symbol: &'static str,
    title: &'static str,
    sign: String,
    span: String,
}

struct Weigh {
    index: usize,
    name: String,
    grams: String,
    spoons: String,
    bowl: String,
    done: bool,
    salt: bool,
    value: String,
}

struct LogRow {
    seq: i32,
    clock: String,
    words: String,
    undone: bool,
    can_undo: bool,
    /// Whether the course is worked out without it.
    aside: bool,
}

#[derive(Template)]
#[template(path = "bakeday/page.html")]
struct BakedayPage {
    id: String,
    name: String,
    digits: Vec<(String, bool)>,
    act: String,
    act_kind: &'static str,
    when: String,
    instruction: String,
    sign: String,
    under: String,
    over: String,
    number: String,
    lateness: String,
    next: Vec<NextRow>,
    changed: Vec<(&'static str, String, String)>,
    deed: String,
    deed_kind: String,
    deed_value: String,
    /// What the deed is about: a place, or a step that has no event of its own.
    deed_what: String,
    wait: Option<&'static str>,
    poke: bool,
    readings: Vec<(String, String, bool)>,
    /// The household's other ovens, and the setting, while the oven is lit and empty.
    in_other_oven: Option<(Vec<String>, String)>,
    reading_of: &'static str,
    reading_stage: String,
    reading_kind: &'static str,
    places: Vec<(&'static str, String)>,
    /// How the running rise would go on in each place.
    spots: Vec<Spot>,
    /// The rest planned anew.
    rest: Option<Rest>,
    weigh: Vec<Weigh>,
    held_back: Option<HeldBack>,
    wide: Tide,
    narrow: Tide,
    dough: String,
    log: Vec<LogRow>,
    /// Entries before these.
    older: usize,
    key: String,
    errors: Vec<String>,
    /// The other breads of its day: id, name.
    others: Vec<(String, String)>,
    /// The plan it was begun from, while nothing is noted and it can be taken back.
    fresh: Option<String>,
    note: String,
    /// A reading as it was typed.
    other: String,
    finished: bool,
    baked: bool,
    colours: Vec<(&'static str, bool)>,
    rating: Vec<(u8, bool)>,
    now_ms: i64,
    zone_minutes: i64,
    cautions: Vec<&'static str>,
    noted: Vec<String>,
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
    page(&BakedayPage { others, ..view(&s, &kitchen, &state, &taken, refused) }, StatusCode::OK)
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
    let (kind, what) = if kind == "next-time" { ("note".to_owned(), Some("next-time".to_owned())) } else { (kind, given(&form.what)) };
    let text = given(&weighed).or_else(|| given(&form.other)).or_else(|| given(&form.value));
    let value = text.as_deref().map(number).transpose();
    let hour = |t: String| {
        let read = Local::of(&kitchen).read_field(&t);
        read.map(|at| at.to_string()).ok_or_else(|| quoting(format!("“{t}” is no hour of a day. Write it like 2026-11-06T18:31.")))
    };
    let at = given(&form.at).map(hour).transpose();
    let again = async |errors: Vec<String>| -> Result<HttpResponse, PageFailure> {
        let (kept, log) = load(&state, &id).await?;
        let s = standing(kept, log, &kitchen, now, &state)?;
        let taken = desk::bakes::beside(&state, &kitchen, Some(&id)).await?;
        page(
            &view(
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
        Ok(event) => {
            let (bake, key) = (id.clone(), given(&form.key));
            match on_disk(&state.db, move |db| bakes::append(db, &bake, &event, key.as_deref())).await {
                Ok(_) if form.back == "logbook" => Ok(see_other(&format!("/logbook/{id}"))),
                Ok(_) => Ok(see_other(&format!("/bakeday/{id}"))),
                Err(Failure::Store(StoreError::Conflict(why))) => again(vec![why]).await,
                Err(other) => Err(other.into()),
            }
        }
    }
}

/// What an event says, for the list of what happened.
pub fn event_words(e: &Event, formula: &Formula) -> String {
    let b = &e.event.body;
    let c = |v: Option<f64>| v.map(|v| format!("{}°", show_degrees(v))).unwrap_or_default();
    let words = match e.event.kind {
        EventKind::Weighed => {
            let line = b.line.and_then(|l| formula.lines.get(usize::try_from(l).unwrap_or(usize::MAX)));
            let of = if e.event.is_held_back() { ", of what was held back" } else { "" };
            format!("{}{of}, {} g", line.map_or("Weighed", |l| l.ingredient.name.as_str()), b.value.map(show_grams).unwrap_or_default())
        }
        EventKind::Mixed => "Mixed".into(),
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
        EventKind::Note if b.tells_a_step() => match b.what.as_deref() {
            Some("feed") => "Fed".to_owned(),
            Some("stir") => "Preferment stirred".to_owned(),
            Some("scald") => "Scalded".to_owned(),
            Some("finish") => "Brushed".to_owned(),
            _ => "Rested".to_owned(),
        },
        EventKind::Note => String::new(),
        EventKind::Undo => format!("Took back no. {}", b.value.map(|v| show(v, 0)).unwrap_or_default()),
    };
    match (&b.note, words.is_empty()) {
        (Some(n), true) => n.clone(),
        (Some(n), false) => format!("{words}: {n}"),
        (None, _) => words,
    }
}

fn deed(step: Option<&PlanStep>, oven_c: f64) -> (String, String, String) {
    let Some(step) = step else { return ("Done".into(), "note".into(), String::new()) };
    // Who looks and finds it done takes it out; a core temperature is noted beside, with its figure.
    let looking = step.kind == StepKind::Check;
    let kind = if looking { EventKind::Out.word() } else { step.kind.event().map_or("note", EventKind::word) }.to_owned();
    let (label, value) = match step.kind {
        StepKind::Mix => ("Mixed", String::new()),
        StepKind::Fold => ("Folded", String::new()),
        StepKind::Shape => ("Shaped", String::new()),
        StepKind::OvenOn => ("Oven is on", show(oven_c, 0)),
        StepKind::Load => ("It is in", show(oven_c, 0)),
        StepKind::SteamOff => ("Steam is out", String::new()),
        StepKind::LidOff => ("Lid is off", String::new()),
        StepKind::Turn => ("Turned", String::new()),
        StepKind::Foil => ("Foil is on", String::new()),
        StepKind::Check | StepKind::Out => ("It is out", String::new()),
        StepKind::Ready => ("Sliced", String::new()),
        StepKind::Bulk | StepKind::Proof => ("Ripe now", String::new()),
        StepKind::Move => ("It is there", String::new()),
        StepKind::Feed => ("Fed", String::new()),
        StepKind::Stir => ("Stirred", String::new()),
        StepKind::Scald => ("Scalded", String::new()),
        StepKind::Finish => ("Brushed", String::new()),
        StepKind::Leaven | StepKind::Preferment | StepKind::BenchRest => ("Ready", String::new()),
    };
    (label.into(), kind, value)
}

fn lateness(late: f64, ready: &str) -> String {
    match late {
        l if l >= 5.0 => format!("{} late. Ready {ready}.", show_minutes(l)),
        l if l <= -5.0 => format!("{} early. Ready {ready}.", show_minutes(-l)),
        _ => format!("On time. Ready {ready}."),
    }
}

fn view(s: &Standing, kitchen: &Kitchen, state: &State, taken: &[Beside], refused: Refused) -> BakedayPage {
    let Refused { from, errors, note, other } = refused;
    let now = state.clock.now();
    let local = Local::of(kitchen);
    let t = &state.tables();
    let plan = &s.kept.plan;
    let act = s.state.act();
    let waiting = s.state.waiting();
    let planned = plan.course(&s.formula, &Actual::default(), kitchen, t).ok();
    let draw = |w: u32, h: u32, every: f64| tide(&frame(&s.state.course, planned.as_ref(), &local, Some(now), every), w, h, true);
    let hours = minutes_between(plan.ask.start, s.state.course.ready_at) / 60.0;
    let every = if hours > 14.0 { 2.0 } else { 1.0 };
    let mixed = s.state.dough.is_some();
    let undone: HashSet<i32> = s.log.iter().filter_map(|e| e.event.undoes()).collect();
    let weighed: Vec<u32> = s
        .log
        .iter()
        .filter(|e| e.event.kind == EventKind::Weighed && !e.event.is_held_back() && !undone.contains(&e.seq))
        .filter_map(|e| e.event.body.line)
        .collect();
    let held = s.formula.held();
    let with = Spoons::of(kitchen, &t.pantry);
    let mut bowl = 0.0;
    let weigh = if mixed {
        Vec::new()
    } else {
        s.formula
            .lines
            .iter()
            .enumerate()
            .filter(|(_, l)| s.state.weighs(l))
            .map(|(i, l)| {
                let held_g = held.filter(|(at, _)| *at == i).map_or(0.0, |(_, g)| g);
                let grams = l.grams.likely - held_g;
                bowl += grams;
                let index = u32::try_from(i).unwrap_or(0);
                Weigh {
                    index: i,
                    name: l.ingredient.name.clone(),
                    grams: show_grams(grams),
                    spoons: if held_g > 0.0 {
                        format!("{} g held back", show_grams(held_g))
                    } else {
                        spoons(&l.ingredient, grams, with).unwrap_or_default()
                    },
                    bowl: show_grams(bowl),
                    done: weighed.contains(&index),
                    salt: l.ingredient.family == cerealis_core::pantry::Family::Salt,
                    value: format!("{grams:.2}"),
                }
            })
            .collect()
    };
    let log = s
        .log
        .iter()
        .rev()
        .take(LATEST)
        .map(|e| LogRow {
            seq: e.seq,
            clock: local.clock(e.event.at),
            words: event_words(e, &s.formula),
            undone: undone.contains(&e.seq),
            can_undo: e.event.kind != EventKind::Undo && !undone.contains(&e.seq),
            aside: s.state.set_aside.contains(&e.seq),
        })
        .collect();
    let times = |kind: StepKind| s.state.done.iter().filter(|d| d.step.kind == kind).count();
    // Between two loads nothing is in it.
    let (loaded, in_oven) = (times(StepKind::Load) > 0, times(StepKind::Load) > times(StepKind::Out));
    let sum = summary(&s.log);
    let baked = plan.taken_out(&sum.outs).is_some();
    let lit = times(StepKind::OvenOn) > 0 && !loaded;
    let (reading_of, reading_stage, reading_kind, likely) = if in_oven {
        ("Core now", String::new(), "core", plan.oven.core_c.round())
    } else if lit {
        ("Oven thermometer", "oven".to_owned(), "temperature", plan.oven.set_c + kitchen.oven.offset_c.unwrap_or(0.0).round())
    } else if mixed && !loaded {
        ("Dough now", "dough".to_owned(), "temperature", s.state.dough.map_or(24.0, |d| d.dough_c.round()))
    } else {
        ("Room now", "room".to_owned(), "temperature", kitchen.room_c.round())
    };
    let readings = (-2..=2)
        .map(|i| {
            let c = likely + if lit { 10.0 } else { 1.0 } * f64::from(i);
            (show(c, 0), format!("{c}"), i == 0)
        })
        .collect();
    let (deed, deed_kind, deed_value) = deed(act, plan.oven.set_c);
    let ready = local.clock_to(s.state.course.ready_at, 5.0);
    let step = waiting.or(act);
    let span = |p: &PlanStep| p.low.zip(p.high).filter(|(l, h)| l < h).map_or_else(String::new, |(l, h)| local.span(l, h));
    let total = s.state.course.steps.iter().filter(|p| !p.kind.waits()).count();
    let done = s.state.done.iter().filter(|d| !d.step.kind.waits()).count();
    let when = step.map_or_else(String::new, |p| {
        let at = if p.kind.waits() { act.map_or(p.start, |a| a.start) } else { p.start };
        let words = in_words(minutes_between(now, at));
        let range = if p.kind.waits() { span(p) } else { String::new() };
        if range.is_empty() {
            format!("{}, {words}", local.clock_to(at, 5.0))
        } else {
            format!("Likeliest {}, {words}; between {range}", local.clock_to(at, 5.0))
        }
    });
    let title = match (waiting.map(|w| w.kind), act) {
        (Some(StepKind::Bulk), _) => "Is the dough ripe?".to_owned(),
        (Some(StepKind::Proof), _) => "Poke the loaf".to_owned(),
        (_, Some(a)) => a.kind.title().to_owned(),
        (_, None) => "It is done".to_owned(),
    };
    let rise = waiting.map(|w| if w.kind == StepKind::Bulk { "bulk" } else { "proof" });
    let rest = rest(s, kitchen, (now, taken), state);
    BakedayPage {
        id: s.kept.id.clone(),
        name: s.kept.name.clone(),
        digits: local.clock(now).chars().map(|c| (c.to_string(), c == ':')).collect(),
        act: title,
        act_kind: step.map_or("slice", |p| symbol(p.kind)),
        when,
        instruction: act.map_or_else(String::new, |a| a.instruction.clone()),
        sign: step.map_or_else(String::new, |p| p.sign.clone()),
        under: step.map_or_else(String::new, |p| p.under.clone()),
        over: step.map_or_else(String::new, |p| p.over.clone()),
        number: format!("act {} of {total}", (done + 1).min(total)),
        lateness: if s.state.finished { String::new() } else { lateness(s.state.late_min, &ready) },
        next: s
            .state
            .next
            .iter()
            .filter(|p| act.is_none_or(|a| a != *p) && !p.kind.waits())
            .take(3)
            .map(|p| NextRow {
                clock: local.clock_to(p.start, 5.0),
                symbol: symbol(p.kind),
                title: p.kind.title(),
                sign: p.sign.clone(),
                span: span(p),
            })
            .collect(),
        changed: s.state.changed.iter().map(|c| (c.kind.title(), local.clock_seen(c.was, c.now), local.clock_to(c.now, 5.0))).collect(),
        deed,
        deed_kind,
        deed_value,
        deed_what: act.map_or_else(String::new, |a| match a.kind {
            StepKind::Move => Place::ALL.into_iter().find(|p| p.name() == a.place).map_or("", Place::word).to_owned(),
            StepKind::OvenOn => kitchen.oven.name.clone(),
            kind if kind.event().is_none() && !kind.waits() => kind.word().to_owned(),
            _ => String::new(),
        }),
        wait: rise,
        poke: waiting.is_some_and(|w| w.kind == StepKind::Proof),
        readings,
        in_other_oven: (lit && !kitchen.other_ovens.is_empty())
            .then(|| (kitchen.other_ovens.iter().map(|o| o.name.clone()).collect(), show(plan.oven.set_c, 0))),
        reading_of,
        reading_stage,
        reading_kind,
        places: kitchen.places().into_iter().map(|(p, c)| (p.word(), format!("{}, {}°", p.name(), show_degrees(c)))).collect(),
        spots: spots(s, kitchen, now, state),
        noted: s
            .state
            .findings(now)
            .into_iter()
            .filter(|f| f.id != "preheat-late" || !rest.as_ref().is_some_and(|r| r.oven_cold))
            .map(|f| f.message)
            .collect(),
        rest,
        held_back: HeldBack::asked(s, sum.went_in),
        weigh,
        wide: draw(1216, 300, every),
        narrow: draw(358, 262, if hours > 7.0 { every.max(2.0) * 2.0 } else { 2.0 }),
        dough: s.state.dough.map_or_else(String::new, |d| {
            format!("Dough {}°, {} dough hours, {} times its volume", show(d.dough_c, 0), show(d.dough_h, 1), show(d.volume_ratio, 1))
        }),
        log,
        older: s.log.len().saturating_sub(LATEST),
        key: Uuid::now_v7().to_string(),
        errors,
        others: Vec::new(),
        fresh: s.log.is_empty().then_some(from),
        note,
        other,
        finished: s.state.finished,
        baked,
        colours: ["pale", "golden", "brown", "dark", "burnt"].map(|c| (c, sum.colour.as_deref() == Some(c))).to_vec(),
        rating: (1..=5).map(|r| (r, sum.rating.is_some_and(|x| (x - f64::from(r)).abs() < 0.5))).collect(),
        now_ms: now.as_millisecond(),
        zone_minutes: i64::from(kitchen.time_zone().to_offset(now).seconds() / 60),
        cautions: if act.is_some_and(|a| matches!(a.kind, StepKind::OvenOn | StepKind::Load | StepKind::SteamOff | StepKind::LidOff)) {
            cerealis_core::oven::cautions(
                &cerealis_core::formula::oven_of(&s.formula.analyse(&t.pantry, &t.styles), &t.pantry),
                s.state.course.oven.steam,
            )
        } else {
            Vec::new()
        },
    }
}
