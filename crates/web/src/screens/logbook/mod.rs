//! The logbook: every bake, plan against what happened.

use std::collections::HashSet;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    bake::summary,
    kitchen::Kitchen,
    measure::{degrees, show, show_gap, show_minutes, show_percent, weight},
    plan::{Actual, Course, Plan, StepKind, minutes_between},
};
use cerealis_store::{Unreadable, bakes};
use jiff::Timestamp;
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{
    Chrome,
    bakeday::{Found, Standing, event_words, found, standing},
    frame, kitchen, mini, page, symbol,
};
use crate::{
    State,
    draw::{Tide, tide},
    edge::{Local, PageFailure, on_disk, to_step},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/logbook").route(get().to(list))).service(web::resource("/logbook/{id}").route(get().to(one)));
}

#[derive(Debug, Deserialize, Default)]
struct Query {
    page: Option<i64>,
}

struct BakeRow {
    id: String,
    name: String,
    day: String,
    tide: Tide,
    against: String,
    colour: Option<String>,
    rating: String,
    faults: String,
    next_time: String,
    running: bool,
}

#[derive(Template)]
#[template(path = "logbook/page.html")]
struct LogbookPage {
    chrome: Chrome,
    rows: Vec<BakeRow>,
    total: i64,
    /// Bakes that cannot be read, and how many cannot be worked out any more.
    unreadable: Vec<Unreadable>,
    stale: usize,
    before: Option<i64>,
    after: Option<i64>,
}

/// The course as it was planned.
fn planned(s: &Standing, kitchen: &Kitchen, state: &State) -> Option<Course> {
    s.kept.plan.course(&s.formula, &Actual::default(), kitchen, &state.tables()).ok()
}

/// How the bake went against its plan, in words; compared at the oven.
pub fn against(plan: &Plan, loaded: Option<Timestamp>) -> String {
    let was = plan.step(StepKind::Load).map(|p| p.start);
    let late = was.zip(loaded).map_or(0.0, |(was, is)| minutes_between(was, is));
    let words = show_minutes(late.abs());
    match late {
        l if l.abs() < 7.5 => "as planned".into(),
        l if l > 0.0 => format!("{words} later"),
        _ => format!("{words} sooner"),
    }
}

/// Bakes on a page: what one looks through; each is drawn, planned and as it went.
const PAGE: i64 = 12;

async fn list(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let (now, local) = (state.clock.now(), Local::of(&kitchen));
    let at = query.page.unwrap_or(1).clamp(1, 1_000_000);
    let search = bakes::Search { page: at, rows: Some(PAGE), ..bakes::Search::default() };
    let Found { rows, unreadable } = found(&state, search.clone()).await?;
    let total = on_disk(&state.db, move |db| bakes::count(db, &search)).await?;
    let count = rows.len();
    let standings: Vec<Standing> = rows.into_iter().filter_map(|(k, log)| standing(k, log, &kitchen, now, &state).ok()).collect();
    let stale = count - standings.len();
    let rows = standings
        .iter()
        .map(|s| {
            let sum = summary(&s.log);
            let plan = planned(s, &kitchen, &state);
            BakeRow {
                id: s.kept.id.clone(),
                name: s.kept.name.clone(),
                day: local.day(s.kept.plan.ask.start),
                tide: mini(&s.state.course, plan.as_ref(), &local, None),
                against: against(&s.kept.plan, Some(s.state.course.load)),
                colour: sum.colour,
                rating: sum.rating.map(|r| format!("{} of 5", show(r, 0))).unwrap_or_default(),
                faults: sum.faults.iter().map(|f| f.replace('-', " ")).collect::<Vec<_>>().join(", "),
                next_time: sum.next_time.unwrap_or_default(),
                running: !s.state.finished,
            }
        })
        .collect();
    page(
        &LogbookPage {
            chrome: Chrome::new("Logbook", &kitchen, now),
            rows,
            total,
            unreadable,
            stale,
            before: (at > 1).then_some(at - 1),
            after: (at * PAGE < total).then_some(at + 1),
        },
        StatusCode::OK,
    )
}

struct PlanRow {
    symbol: &'static str,
    title: &'static str,
    was: String,
    is: Option<String>,
    gap: String,
}

#[derive(Template)]
#[template(path = "logbook/one.html")]
struct OnePage {
    chrome: Chrome,
    id: String,
    name: String,
    day: String,
    against: String,
    finished: bool,
    wide: Tide,
    narrow: Tide,
    rows: Vec<PlanRow>,
    /// Entries of its log, and those of the page of it that is shown.
    entries: usize,
    events: Vec<(String, String, bool)>,
    before: Option<usize>,
    after: Option<usize>,
    open: bool,
    lines: Vec<(String, String)>,
    facts: Vec<(&'static str, String)>,
    next_time: Option<String>,
    /// What there is to mind.
    noted: Vec<String>,
    notes: Vec<String>,
}

/// Entries of a page of a log.
const ENTRIES: usize = 200;
/// Notes that are shown beside the record; all of them stand in the log.
const NOTES: usize = 50;

/// Which page of its log is asked for.
#[derive(Debug, Deserialize)]
struct Asked {
    log: Option<usize>,
}

async fn one(state: Data<State>, id: Path<String>, QsQuery(asked): QsQuery<Asked>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let (now, local) = (state.clock.now(), Local::of(&kitchen));
    let id = id.into_inner();
    let (kept, log) = on_disk(&state.db, move |db| Ok((bakes::get(db, &id)?, bakes::log(db, &id)?))).await?;
    let s = standing(kept, log, &kitchen, now, &state)?;
    // A page that is not there is the last one.
    let at = asked.log.unwrap_or(1).clamp(1, s.log.len().div_ceil(ENTRIES).max(1));
    let sum = summary(&s.log);
    let plan = planned(&s, &kitchen, &state);
    let running = (!s.state.finished).then_some(now);
    let draw = |w: u32, h: u32| tide(&frame(&s.state.course, plan.as_ref(), &local, running, if w > 500 { 1.0 } else { 3.0 }), w, h, true);
    let rows = s
        .kept
        .plan
        .steps
        .iter()
        .filter(|p| p.kind.event().is_some())
        .map(|p| (p, s.kept.plan.steps.iter().filter(|o| o.kind == p.kind && o.start < p.start).count()))
        .map(|(p, nth)| {
            let done = s.state.done.iter().filter(|d| d.step.kind == p.kind).nth(nth).filter(|d| d.noted);
            let was = if p.kind.is_at_bowl() { p.end } else { p.start };
            // Against the planned time as it stands there, to five minutes.
            let gap = done.map(|d| minutes_between(to_step(was, 5.0), d.at));
            PlanRow {
                symbol: symbol(p.kind),
                title: p.kind.title(),
                was: local.clock_to(was, 5.0),
                is: done.map(|d| local.clock(d.at)),
                gap: gap.map_or_else(String::new, |g| {
                    if g.abs() < 2.5 { "on time".into() } else { format!("{} {}", show_gap(g), if g > 0.0 { "later" } else { "sooner" }) }
                }),
            }
        })
        .collect();
    let undone: HashSet<i32> = s.log.iter().filter_map(|e| e.event.undoes()).collect();
    let mut facts = vec![(
        "Oven",
        format!(
            "{}, {}–{} min planned",
            kitchen.oven.dial.told(s.kept.plan.oven.set_c),
            show(s.kept.plan.oven.minutes_low, 0),
            show(s.kept.plan.oven.minutes_high, 0)
        ),
    )];
    if let (Some((line, held)), Some(went_in)) = (s.formula.held(), sum.went_in) {
        let t = state.tables();
        let became = s.formula.went_in(went_in);
        let water = became.analyse(&t.pantry, &t.styles).effective_hydration_pct.likely;
        let name = s.formula.lines.get(line).map_or("", |l| l.ingredient.short_name()).to_lowercase();
        facts.push((
            "Held back",
            format!("{} of {} {name} went in: water {} % of the flour", weight(went_in).bare(), weight(held), show_percent(water)),
        ));
    }
    if let Some(c) = sum.core_c {
        facts.push(("Core", format!("{}; {} was the mark", degrees(c).to(0), degrees(s.kept.plan.oven.core_c).to(0))));
    }
    if let Some(c) = &sum.colour {
        facts.push(("Colour", c.clone()));
    }
    if let Some(r) = sum.rating {
        facts.push(("Out of five", show(r, 0)));
    }
    facts.push(("Dough hours at the oven", show(s.state.course.forecast.end.dough_h, 1)));
    let view = OnePage {
        chrome: Chrome::new("Logbook", &kitchen, now),
        id: s.kept.id.clone(),
        name: s.kept.name.clone(),
        day: local.day(s.kept.plan.ask.start),
        against: against(&s.kept.plan, Some(s.state.course.load)),
        finished: s.state.finished,
        wide: draw(936, 340),
        narrow: draw(358, 300),
        rows,
        entries: s.log.len(),
        before: (at > 1).then(|| at - 1),
        after: (at * ENTRIES < s.log.len()).then_some(at + 1),
        open: asked.log.is_some(),
        events: s
            .log
            .iter()
            .skip((at - 1) * ENTRIES)
            .take(ENTRIES)
            .map(|e| (local.day_and_clock(e.event.at), event_words(e, &s.formula, &s.log), undone.contains(&e.seq)))
            .collect(),
        lines: s.formula.lines.iter().map(|l| (l.ingredient.name.clone(), weight(l.grams.likely).to_string())).collect(),
        facts,
        next_time: sum.next_time,
        noted: s.state.findings(now).into_iter().map(|f| f.message).collect(),
        notes: sum.notes.into_iter().rev().take(NOTES).rev().collect(),
    };
    page(&view, StatusCode::OK)
}
