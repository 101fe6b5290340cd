//! Two to four breads for one day: an hour for each, one baker, one oven, all acts on one list.

use std::collections::BTreeMap;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    formula::Formula,
    input::InputErrors,
    kitchen::Kitchen,
    measure::{show, show_minutes},
    plan::{
        Beside, Course, PlanStep, StepKind, Whereabouts, check_shown,
        fed::ready_leaven,
        minutes_between,
        search::{
            ask::FitAsk,
            many::{MOST_DOUGHS, Together, fit_many},
            offer::Offer,
        },
    },
};
use cerealis_store::bakes;
use jiff::Timestamp;
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{
    super::{Chrome, FindingView, StepRow, course_view::frame_within, formula_kept, kitchen, page, see_other},
    asked::{Asked, asked},
    house::{House, usual_hours},
    jar::Jars,
    query,
    shown::{Shown, bake_id, read_shown},
    whole::spells_of,
};
use crate::{
    State, desk,
    draw::{Tide, tide},
    edge::{Form, Lies, Local, PageFailure, off_loop, on_disk},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan/together").route(get().to(show_together)))
        .service(web::resource("/plan/together/use").route(post().to(use_plans)));
}

/// Which breads, each with its hour, and which of the plans.
#[derive(Debug, Deserialize, Default, Clone)]
struct Query {
    #[serde(default)]
    breads: Vec<String>,
    /// The hour of each, by its id.
    #[serde(default)]
    at: BTreeMap<String, String>,
    /// An hour for all that have none of their own.
    #[serde(default)]
    ready: String,
    #[serde(default)]
    option: usize,
    /// The plans as they were shown, in the order of the breads.
    #[serde(default)]
    ask: Vec<String>,
    #[serde(default)]
    lines: Vec<String>,
    #[serde(default)]
    hash: Vec<String>,
}

impl Query {
    /// The same with hours as they will still be read tomorrow; what cannot be read stays as it was typed.
    fn settled(mut self, local: &Local, now: Timestamp) -> Self {
        for text in self.at.values_mut() {
            if let Some(at) = local.read_when(text, now, Lies::Ahead) {
                *text = local.field(at);
            }
        }
        self
    }
    fn address(&self, option: usize) -> String {
        let breads = self.breads.iter().map(|b| ("breads[]".to_owned(), b.clone()));
        let hours = self.at.iter().map(|(id, at)| (format!("at[{id}]"), at.clone()));
        let rest = [("ready".to_owned(), self.ready.clone()), ("option".to_owned(), option.to_string())];
        let pairs: Vec<(String, String)> = breads.chain(hours).chain(rest).collect();
        format!("/plan/together?{}", serde_urlencoded::to_string(pairs).unwrap_or_default())
    }
}

/// A bread to choose, with its hour.
struct Choice {
    id: String,
    name: String,
    about: String,
    on: bool,
    hour: String,
    /// The same for the hand that moves it.
    hour_at: String,
}

/// A bread in a plan for several.
struct PartView {
    name: String,
    way: String,
    times: String,
    wide: Tide,
    narrow: Tide,
}

/// An act with the bread it is for.
struct ActView {
    row: StepRow,
    bread: String,
    /// Where the dough is then.
    place: String,
    /// What the oven is set to for it.
    oven: String,
    dough_h: String,
}

#[derive(Template)]
#[template(path = "plan/together.html")]
struct TogetherPage {
    chrome: Chrome,
    choices: Vec<Choice>,
    ready: String,
    headline: String,
    sub: String,
    errors: Vec<String>,
    findings: Vec<FindingView>,
    options: Vec<(String, String, bool)>,
    option: usize,
    parts: Vec<PartView>,
    acts: Vec<ActView>,
    /// What the day holds already, while there is no plan to show: when, what, for which bread.
    day: Vec<(String, String, String)>,
    /// For each chosen bread its id, its hour, and the plan as it is shown.
    chosen: Vec<(String, String, Option<Shown>)>,
}

/// What the breads are planned in and for.
struct Kitchens {
    kitchen: Kitchen,
    /// Id, name, recipe, hour.
    breads: Vec<(String, String, Formula, Option<Timestamp>)>,
    beside: Vec<Beside>,
    asked: Asked,
    errors: Vec<String>,
    ready: String,
}

impl Kitchens {
    async fn of(state: &State, q: &Query) -> Result<Self, PageFailure> {
        let kitchen = kitchen(state).await?;
        let local = Local::of(&kitchen);
        let now = state.clock.now();
        let usual = || usual_hours(now, &local).get(1).map_or_else(String::new, |t| local.field(*t));
        let ready = if q.ready.trim().is_empty() { usual() } else { q.ready.trim().to_owned() };
        let mut errors: Vec<String> = Vec::new();
        let mut breads = Vec::new();
        if q.breads.len() > MOST_DOUGHS {
            errors.push("Four breads at most are planned together.".to_owned());
        }
        for id in q.breads.iter().take(MOST_DOUGHS) {
            let formula = formula_kept(state, id).await?;
            let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
            let typed = q.at.get(id).map(|t| t.trim()).filter(|t| !t.is_empty()).unwrap_or(&ready);
            let at = local.read_when(typed, now, Lies::Ahead);
            if at.is_none() {
                errors.push(format!("{name}: write day and hour, for example tomorrow 07:10."));
            }
            breads.push((id.clone(), name, formula, at));
        }
        // The household's hours reach to the last of the breads.
        let last = breads.iter().filter_map(|b| b.3).max().map_or_else(|| ready.clone(), |t| local.field(t));
        let ask = query::Query { formula: String::new(), p: BTreeMap::from([("ready".to_owned(), last)]) };
        let (mut asked, form) = asked(&ask, &kitchen, now);
        errors.extend(form.err().unwrap_or(InputErrors(Vec::new())).0.into_iter().map(|e| e.message));
        let beside = desk::bakes::beside(state, &kitchen, None).await?;
        asked.ask.beside.clone_from(&beside);
        let t = state.tables();
        if breads.iter().any(|b| ready_leaven(&b.2.analyse(&t.pantry, &t.styles)).is_some()) {
            asked.ask.jar = Jars::of(state, &kitchen, None).await?.spent_seed();
        }
        Ok(Self { kitchen, breads, beside, asked, errors, ready })
    }

    fn search(&self, state: &State) -> Result<Together, InputErrors> {
        let local = Local::of(&self.kitchen);
        let formulas: Vec<_> = self.breads.iter().map(|(_, _, formula, at)| (formula.clone(), *at)).collect();
        fit_many(&formulas, &self.asked.ask, &self.kitchen, &state.tables(), &|at| local.clock_to(at, 5.0))
    }

    /// The house of one of the breads.
    fn house(&self, i: usize) -> Option<House> {
        let (_, _, formula, _) = self.breads.get(i)?;
        Some(House { kitchen: self.kitchen.clone(), formula: formula.clone(), beside: self.beside.clone(), jars: Jars::default() })
    }
}

/// Where a dough is from an act on, until the next, as the list says it.
fn place_words(course: &Course, s: &PlanStep) -> String {
    match course.whereabouts(s) {
        Whereabouts::Oven => "oven".to_owned(),
        Whereabouts::Rack => "rack".to_owned(),
        Whereabouts::Stands(stay) => stay.told(),
        Whereabouts::InHand => s.place.clone(),
    }
}

/// Acts that are told on a list of several breads: those that need the baker.
const fn is_told(kind: StepKind) -> bool {
    !kind.waits() && !matches!(kind, StepKind::Turn | StepKind::Foil | StepKind::Check)
}

fn view(k: &Kitchens, q: &Query, found: Together, choices: Vec<Choice>, refused: Vec<String>, state: &State) -> TogetherPage {
    let (local, now) = (Local::of(&k.kitchen), state.clock.now());
    let dial = k.kitchen.oven.dial;
    let chosen = found.offers.get(q.option).or(found.offers.first());
    let parts: Vec<(&Offer, &str)> = chosen.into_iter().flatten().zip(k.breads.iter().map(|b| b.1.as_str())).collect();
    let mut acts: Vec<(&PlanStep, &str, &Course)> = Vec::new();
    for (o, name) in &parts {
        acts.extend(o.course.steps.iter().filter(|s| is_told(s.kind)).map(|s| (s, *name, &o.course)));
    }
    acts.sort_by_key(|a| a.0.start);
    let steps: Vec<PlanStep> = acts.iter().map(|a| a.0.clone()).collect();
    let rows = StepRow::all(&steps, &local);
    let lit = |kind: StepKind| matches!(kind, StepKind::OvenOn | StepKind::Load);
    let acts = rows.into_iter().zip(&acts).map(|(row, (s, bread, course))| ActView {
        row,
        bread: (*bread).to_owned(),
        place: place_words(course, s),
        oven: if lit(s.kind) { dial.told(course.oven.set_c) } else { String::new() },
        dough_h: course.dough_h_at(s.start).filter(|_| s.start <= course.load).map_or_else(String::new, |h| show(h, 1)),
    });
    let from = steps.first().map_or(now, |s| cerealis_core::plan::later(s.start, -12.0));
    let to = parts.iter().map(|(o, _)| o.course.ready_at).max().map_or(now, |t| cerealis_core::plan::later(t, 20.0));
    let hours = minutes_between(from, to) / 60.0;
    let draw = |o: &Offer, width: u32, every: f64| {
        let mut f = frame_within((from, to), &o.course, None, &local, Some(now), every);
        f.spells = spells_of(&k.asked, &local, from, f.span);
        f.ready = None;
        tide(&f, width, 240, true)
    };
    let part = |(o, name): &(&Offer, &str)| PartView {
        name: (*name).to_owned(),
        way: o.name.clone(),
        times: format!(
            "in {} {}, ready {}; {}",
            local.short_day(o.course.load),
            local.clock_to(o.course.load, 5.0),
            local.clock_to(o.course.ready_at, 5.0),
            o.risk_words(&|at| local.clock_to(at, 5.0))
        ),
        wide: draw(o, 936, if hours > 20.0 { 4.0 } else { 2.0 }),
        narrow: draw(o, 358, if hours > 20.0 { 12.0 } else { 6.0 }),
    };
    let headline = if parts.is_empty() {
        "Breads together".to_owned()
    } else {
        let by: Vec<String> = parts.iter().map(|(o, name)| format!("{name} {}", local.clock_to(o.course.ready_at, 5.0))).collect();
        by.join(", ")
    };
    let options = found.offers.iter().enumerate().map(|(i, parts)| {
        let ways: Vec<&str> = parts.iter().map(|o| o.name.as_str()).collect();
        (q.address(i), ways.join("; "), chosen.is_some_and(|c| std::ptr::eq(c, parts)))
    });
    let shown = |i: usize| chosen.and_then(|c| c.get(i)).zip(k.house(i)).map(|(o, house)| Shown::of(o, &house));
    let hour = |at: Option<Timestamp>| at.map_or_else(String::new, |t| local.field(t));
    TogetherPage {
        day: if parts.is_empty() { day_so_far(k, &local, now) } else { Vec::new() },
        chrome: Chrome::new("Plan", &k.kitchen, now),
        choices,
        ready: k.ready.clone(),
        sub: between(&parts),
        headline,
        errors: refused,
        options: options.collect(),
        option: q.option,
        acts: acts.collect(),
        findings: found.findings.iter().map(FindingView::new).collect(),
        chosen: k.breads.iter().enumerate().map(|(i, b)| (b.0.clone(), hour(b.3), shown(i))).collect(),
        parts: parts.iter().map(part).collect(),
    }
}

/// What the day holds already: the hours of the household, and hands and oven of the breads in it.
fn day_so_far(k: &Kitchens, local: &Local, now: Timestamp) -> Vec<(String, String, String)> {
    let away = k.asked.ask.away.iter().zip(&k.asked.names).map(|(a, name)| (a.from, a.to, name.clone(), String::new()));
    let of = |b: &Beside| {
        let hands = b.hands.iter().map(|h| (h.from, h.to, "hands at it")).filter(|h| minutes_between(h.0, h.1) >= LONG_MIN);
        let all = hands.chain(b.oven.iter().map(|o| (o.from, o.to, "in the oven")));
        all.map(|(from, to, what)| (from, to, what.to_owned(), b.bread.clone())).collect::<Vec<_>>()
    };
    let mut all: Vec<_> = away.chain(k.beside.iter().flat_map(of)).filter(|(_, to, ..)| *to > now).collect();
    all.sort_by_key(|a| a.0);
    let shown = all.into_iter().take(MOST_OF_THE_DAY);
    let when = |from: Timestamp, to: Timestamp| format!("{}–{}", local.when(from, now), local.clock_to(to, 5.0));
    shown.map(|(from, to, what, bread)| (when(from, to), what, bread)).collect()
}

/// Most things of the day that are told before two breads are chosen.
const MOST_OF_THE_DAY: usize = 16;
/// Shorter than this a hand at a dough is in nobody's way, minutes.
const LONG_MIN: f64 = 5.0;

/// How the breads follow each other in the oven, and the work in all.
fn between(parts: &[(&Offer, &str)]) -> String {
    let mut by_load: Vec<&(&Offer, &str)> = parts.iter().collect();
    by_load.sort_by_key(|p| p.0.course.load);
    let gap = |pair: &[&(&Offer, &str)]| {
        let [(a, first), (b, then)] = pair else { return None };
        let out = a.course.loads.last().map_or(a.course.load, |l| l.out);
        let gap = minutes_between(out, b.course.load);
        Some(if gap < 0.0 {
            format!("{then} shares the oven with {first}.")
        } else {
            format!("{then} goes in {} after {first} comes out.", show_minutes(gap))
        })
    };
    let gaps: Vec<String> = by_load.windows(2).filter_map(gap).collect();
    let hands: f64 = parts.iter().map(|p| p.0.hands_on_min).sum();
    if parts.is_empty() { String::new() } else { format!("{} Hands in all: {}.", gaps.join(" "), show_minutes(hands)) }
}

async fn choices(state: &State, q: &Query, ready: &str, local: &Local) -> Result<Vec<Choice>, PageFailure> {
    let now = state.clock.now();
    let hour = |id: &str| q.at.get(id).filter(|t| !t.trim().is_empty()).map_or_else(|| ready.to_owned(), |t| t.trim().to_owned());
    let of = |k: super::super::FormulaChoice| {
        let (on, typed) = (q.breads.contains(&k.id), hour(&k.id));
        let at = local.read_when(&typed, now, Lies::Ahead);
        let hour = at.map_or(typed, |t| local.when(t, now));
        Choice { id: k.id, name: k.name, about: k.about, on, hour, hour_at: at.map_or_else(String::new, |t| local.field(t)) }
    };
    let all = on_disk(&state.db, cerealis_store::formulas::list).await?;
    Ok(all.into_iter().map(super::super::FormulaChoice::from).map(of).collect())
}

/// The page for a query; `refused` is why plans that were shown before cannot begin.
async fn render(state: &Data<State>, q: Query, refused: Vec<String>) -> Result<HttpResponse, PageFailure> {
    let k = Kitchens::of(state, &q).await?;
    let q = q.settled(&Local::of(&k.kitchen), state.clock.now());
    let choices = choices(state, &q, &k.ready, &Local::of(&k.kitchen)).await?;
    let state = state.clone();
    let view = off_loop(move || {
        let mut errors: Vec<String> = refused.into_iter().chain(k.errors.iter().cloned()).collect();
        let found = if k.errors.is_empty() && !k.breads.is_empty() { k.search(&state) } else { Ok(Together::default()) };
        let found = found.unwrap_or_else(|e| {
            errors.extend(e.0.into_iter().map(|e| e.message));
            Together::default()
        });
        view(&k, &q, found, choices, errors, &state)
    })
    .await?;
    let status = if view.errors.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY };
    page(&view, status)
}

async fn show_together(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    render(&state, query.into_inner(), Vec::new()).await
}

/// The bakes of the plans that were posted, each checked against the house and the breads before it.
fn checked(k: &Kitchens, q: &Query, state: &State) -> Result<Vec<bakes::Kept>, Vec<String>> {
    let (t, now) = (state.tables(), state.clock.now());
    let mut all: Vec<bakes::Kept> = Vec::new();
    let mut ask = k.asked.ask.clone();
    for (i, (_, name, recipe, at)) in k.breads.iter().enumerate() {
        let posted = q.ask.get(i).zip(q.lines.get(i)).zip(q.hash.get(i));
        let Some((((shown, lines), hash), house)) = posted.zip(k.house(i)) else {
            return Err(vec!["These plans could not be read. Here they are anew.".to_owned()]);
        };
        let (seal, plan_ask, formula) = read_shown((shown, lines, hash), &house, state)?;
        let day = FitAsk { ready_at: *at, ..ask.clone() };
        let plan = check_shown(recipe, &formula, &plan_ask, &day, &k.kitchen, &t)
            .map_err(|e| e.0.into_iter().map(|e| format!("{name}: {}", e.message)).collect::<Vec<_>>())?;
        if let Ok(course) = plan.course(&formula, &cerealis_core::plan::Actual::default(), &k.kitchen, &t) {
            ask.beside.extend(course.beside(name, now));
        }
        all.push(desk::bakes::planned((bake_id(&seal), name.clone()), &formula, plan, state));
    }
    let day = all.first().map(|b| b.id.clone());
    all.iter_mut().for_each(|b| b.day.clone_from(&day));
    Ok(all)
}

/// Begins a bake for each bread as its plan was shown, all on one day; the first to be worked at is shown.
async fn use_plans(state: Data<State>, Form(q): Form<Query>) -> Result<HttpResponse, PageFailure> {
    let k = Kitchens::of(&state, &q).await?;
    if k.breads.is_empty() {
        return Ok(see_other("/plan/together"));
    }
    let all = match checked(&k, &q, &state) {
        Ok(all) => all,
        Err(why) => return render(&state, q, why).await,
    };
    let first = all.iter().min_by_key(|b| b.plan.steps.first().map(|s| s.start)).map(|b| b.id.clone());
    desk::bakes::take(&state, all).await?;
    Ok(see_other(&first.map_or_else(|| "/".to_owned(), |id| super::super::begun(&id, &q.address(q.option)))))
}
