//! Plans that fit the day, as a page: the ways on the left, the chosen one drawn and told; nothing fits:
//! what would have to give.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    formula::Formula,
    input::{InputErrors, Pointer},
    measure::{show, show_minutes},
    plan::{
        Beside, PlanAsk, StepKind, minutes_between,
        search::{answer::Answer, ask::FitAsk, offer::Offer, relax::RelaxKind, want::Want},
    },
    water::WaterAsk,
};
use cerealis_exchange::PlanFormat;
use jiff::Timestamp;
use serde_qs::actix::QsQuery;

use super::{
    super::{Chrome, FindingView, OtherSetting, choose, kitchen, page},
    asked::Asked,
    compromise::{Compromise, compromise},
    house::{House, Searched, id_of},
    query::Query,
    shown::Shown,
    vary::Vary,
    water::WaterView,
    whole::{Whole, drawn, whole},
};
use crate::{
    State,
    draw::{Tide, tide},
    edge::{Local, PageFailure, off_loop},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan").route(get().to(show_plan)));
}

/// A way among those on offer.
struct WayView {
    href: String,
    name: String,
    chosen: bool,
    mini: Tide,
    times: String,
    why: String,
    risky: Option<String>,
}

/// A wish to choose.
struct WantView {
    word: &'static str,
    title: &'static str,
    /// What it gains and costs.
    about: String,
    on: bool,
}

/// What may matter most, each with what it gains and costs on this day.
fn wants(answer: &Answer, q: &Query, ask: &FitAsk, local: &Local, now: Timestamp) -> Vec<WantView> {
    let chosen = if q.soon() { Some(Want::Soon) } else { ask.want };
    let about = |want: Want| {
        let wish = answer.wishes.iter().find(|w| w.want == want);
        match (want, answer.soonest) {
            // An hour of its own, not a way to the hour that is wanted.
            (Want::Soon, Some(at)) if ask.ready_at.is_some() => {
                format!("{} at the soonest; costs flavour", local.clock_seen(crate::edge::to_step(at, 5.0), now))
            }
            (Want::Soon, _) if ask.ready_at.is_some() => "whatever the hour; costs flavour".to_owned(),
            (_, _) => wish.map_or_else(String::new, |w| format!("{}; {}", w.gains, w.costs)),
        }
    };
    let view = |want: Want| WantView { word: want.word(), title: want.title(), about: about(want), on: chosen == Some(want) };
    let known = |want: &Want| *want == Want::Soon || chosen == Some(*want) || answer.wishes.iter().any(|w| w.want == *want);
    let nothing = WantView { word: "", title: "nothing special", about: "the plan we would choose".to_owned(), on: chosen.is_none() };
    Want::ALL.into_iter().filter(known).map(view).chain([nothing]).collect()
}

#[derive(Template)]
#[template(path = "plan/page.html")]
pub(super) struct PlanPage {
    chrome: Chrome,
    id: String,
    name: String,
    headline: String,
    sub: String,
    errors: Vec<String>,
    ready: String,
    /// The same for the hand that moves it, and now.
    ready_at: String,
    now_at: String,
    ready_errors: Vec<String>,
    wants: Vec<WantView>,
    ways: Vec<WayView>,
    count: String,
    whole: Option<Whole>,
    nearest: bool,
    why_not: String,
    gives: Vec<Compromise>,
    noted: Vec<FindingView>,
    water: Result<WaterView, Vec<String>>,
    hours: Vec<(String, String, &'static str)>,
    /// The hours of sleep that are assumed.
    assumed: Option<String>,
    /// What of the kitchen nobody has told yet, in one sentence.
    untold: Option<String>,
    /// This page with its answers.
    here: String,
    /// The day the bread is wanted.
    day: String,
    vary: Vary,
    is_wrong: bool,
    query: Vec<(String, String)>,
    /// The plan as it is shown, for beginning it.
    shown: Option<Shown>,
    /// Other breads of the house that have the oven.
    beside: Vec<String>,
    /// Of the jar the leaven is from.
    jar: Option<String>,
    jars: Vec<(String, String, bool)>,
    links: Vec<(&'static str, String)>,
    sheet: String,
    shift: String,
    by_hand: String,
    back: String,
    minute_of_day: i32,
}

/// What of the kitchen is assumed for this plan, as it is said.
fn untold(kitchen: &cerealis_core::kitchen::Kitchen) -> Option<String> {
    let told: Vec<&str> = kitchen.assumed.iter().map(|a| a.title()).collect();
    let (last, rest) = told.split_last()?;
    Some(if rest.is_empty() { (*last).to_owned() } else { format!("{} and {last}", rest.join(", ")) })
}

async fn show_plan(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    if q.formula.is_empty() {
        let chrome = Chrome::new("Plan", &kitchen(&state).await?, state.clock.now());
        let words = "A plan starts from a formula: choose one, or read a new one.";
        return choose(&state, chrome, "Which bread?", words, &q.unchosen("/plan")).await;
    }
    let house = House::of(&state, &q).await?;
    let q = q.settled(&Local::of(&house.kitchen), state.clock.now());
    let (view, ok) = off_loop(move || plan_page(&house, &house.search(q, &state), &state, Vec::new())).await?;
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}

fn way_view(o: &Offer, index: usize, chosen: bool, q: &Query, asked: &Asked, local: &Local, now: Timestamp) -> WayView {
    let mut f = drawn(o, asked, local, now, 24.0);
    f.marks.retain(|m| m.symbol == "bake");
    let start = o.course.steps.first().map_or(o.course.mixed, |s| s.start);
    let first = match o.course.steps.first().map(|s| s.kind) {
        Some(StepKind::Feed) => "feed",
        Some(StepKind::Stir) => "stir",
        _ => "mix",
    };
    let id = id_of(o, index);
    WayView {
        href: q.with("way", &id).without("shift").address("/plan"),
        name: o.name.clone(),
        chosen,
        mini: tide(&f, 232, 44, false),
        times: format!(
            "{first} {} {}, bake {} {}",
            local.short_day(start),
            local.clock_to(start, 5.0),
            local.short_day(o.course.load),
            local.clock_to(o.course.load, 5.0)
        ),
        why: {
            let work = format!("{} min of work", show(o.hands_on_min, 0));
            // What sets it apart, but for what stands there anyhow.
            let reason = o.reasons.iter().chain(&o.trade_offs).find(|r| *r != "safe" && !r.ends_with(&work));
            reason.map_or_else(|| work.clone(), |r| format!("{work}; {r}"))
        },
        risky: o.is_risky().then(|| o.risk_words(&|at| local.clock_to(at, 5.0))),
    }
}

const fn in_numbers(n: usize) -> &'static str {
    match n {
        1 => "One way to get there",
        2 => "Two ways to get there",
        3 => "Three ways to get there",
        4 => "Four ways to get there",
        _ => "Five ways to get there",
    }
}

/// The page of what was found; `refused` is why a plan that was shown before cannot begin.
pub(super) fn plan_page(house: &House, searched: &Searched, state: &State, refused: Vec<String>) -> (PlanPage, bool) {
    let House { kitchen, formula, .. } = house;
    let Searched { q, asked, form, found, chosen } = searched;
    let chosen = *chosen;
    let t = &state.tables();
    let local = Local::of(kitchen);
    let now = state.clock.now();
    let analysis = formula.analyse(&t.pantry, &t.styles);
    let none = InputErrors(Vec::new());
    let wrong = form.as_ref().err().unwrap_or(&none);
    let mut errors = refused;
    let nothing = Answer::default();
    let answer = found.as_ref().unwrap_or_else(|e| {
        errors.extend(e.0.iter().map(|e| e.message.clone()));
        &nothing
    });
    let vary = Vary::new(q, &asked.ask, &answer.families, &analysis, kitchen, wrong, (t, now));
    let ready = ["ready", "ready_at"].map(|name| Pointer::root().at(name));
    let (of_ready, others): (Vec<_>, Vec<_>) = vary.elsewhere.iter().cloned().partition(|(at, _)| ready.contains(at));
    let ready_errors: Vec<String> = of_ready.into_iter().map(|e| e.1).collect();
    errors.extend(others.into_iter().map(|e| e.1));
    let is_wrong = form.is_err() || !errors.is_empty();
    let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    let wanted = asked.ask.ready_at;
    let shown = answer.offers.get(chosen).or(answer.nearest.as_deref());
    let no_plan = answer.findings.iter().find(|f| f.id == "no-plan");
    let headline = match (shown.filter(|_| no_plan.is_none()), no_plan, wanted) {
        (Some(o), _, _) => format!("{name}, ready {} {}", local.weekday(o.course.ready_at), local.clock_to(o.course.ready_at, 5.0)),
        (None, Some(_), Some(w)) => format!("No plan gives this bread at {}", local.clock_to(w, 5.0)),
        _ => name.clone(),
    };
    let sub = shown.filter(|_| no_plan.is_none()).map_or_else(String::new, |o| {
        let errand =
            asked.errands.iter().map(|(at, what)| (minutes_between(o.course.ready_at, *at), what)).find(|(m, _)| (0.0..240.0).contains(m));
        let before = errand.map_or_else(String::new, |(m, what)| format!("{} before the {what}. ", show_minutes(m)));
        let load = o.course.steps.iter().find(|s| s.kind == StepKind::Load).and_then(|s| s.low.zip(s.high));
        let range = load.map_or_else(String::new, |(l, h)| format!("Good for the oven {}.", local.span(l, h)));
        format!("{}. {before}{range}", o.name)
    });
    let water_ask = shown.map_or_else(|| PlanAsk::usual(formula, kitchen, now, t).mix_c, |o| o.ask.mix_c);
    let water_of = |f: &Formula| {
        let a = f.analyse(&t.pantry, &t.styles);
        WaterView::of(&a, &WaterAsk::usual(&a, kitchen, water_ask, t), &t.ferment)
    };
    let q_plan = q.without("on").without("shift");
    let q_chosen = shown.map_or_else(|| q_plan.clone(), |o| q_plan.with("way", &id_of(o, chosen)));
    let q_chosen = wanted.map_or_else(|| q_chosen.clone(), |w| q_chosen.with("ready", &local.field(w)));
    let wrong_hour = !ready_errors.is_empty();
    let kept = wanted.filter(|_| !wrong_hour).map_or_else(|| q.hour("ready", &local, now), |w| local.when(w, now));
    let view = PlanPage {
        chrome: Chrome::new("Plan", kitchen, now),
        id: q.formula.clone(),
        name,
        headline,
        sub,
        errors,
        ready: kept,
        ready_at: wanted.filter(|_| !wrong_hour).map_or_else(String::new, |w| local.field(w)),
        now_at: local.field(now),
        ready_errors,
        wants: wants(answer, q, &asked.ask, &local, now),
        ways: answer.offers.iter().enumerate().map(|(i, o)| way_view(o, i, i == chosen, &q_plan, asked, &local, now)).collect(),
        count: in_numbers(answer.offers.len()).to_owned(),
        whole: shown.map(|o| {
            let other = OtherSetting::of(&q.formula, &q_plan.address("/plan"), formula, kitchen, state);
            whole(o, asked, formula, kitchen, state, (q.get("shift").is_some(), other))
        }),
        nearest: no_plan.is_some(),
        why_not: no_plan.map_or_else(String::new, |f| f.message.clone()),
        // Nobody can begin before now: that way out is one only where a later start was asked for.
        gives: answer
            .relax
            .iter()
            .filter(|r| r.kind != RelaxKind::StartEarlier || asked.ask.from > now)
            .map(|r| compromise(r, &q_plan, &local))
            .collect(),
        noted: answer.findings.iter().filter(|f| f.id != "no-plan").map(FindingView::new).collect(),
        water: water_of(shown.map_or(formula, |o| &o.formula)),
        hours: kitchen.hours.iter().map(|h| (h.name.clone(), h.words(), h.kind.word())).collect(),
        assumed: kitchen.assumed_hours().map(|h| h.words()),
        untold: untold(kitchen),
        here: q_plan.address("/plan"),
        day: local.day(wanted.unwrap_or(now)),
        vary,
        is_wrong,
        query: q_chosen.p.iter().map(|(k, v)| (k.clone(), v.clone())).collect(),
        shown: shown.filter(|_| no_plan.is_none()).map(|o| Shown::of(o, house)),
        jars: house.jars.choices.clone(),
        jar: shown.and_then(|o| house.jars.words(o, &local)),
        beside: house.beside.iter().filter_map(|b| beside_words(b, &local, now)).collect(),
        links: PlanFormat::ALL
            .into_iter()
            .map(|f| {
                let words = match f {
                    PlanFormat::Calendar => "Calendar",
                    PlanFormat::Json => "JSON",
                    PlanFormat::Csv => "Table",
                    PlanFormat::Markdown => "Markdown",
                };
                (words, q_chosen.address(&format!("/plan/file.{}", f.extension())))
            })
            .collect(),
        sheet: q_chosen.address("/plan/sheet"),
        shift: q_chosen.with("shift", "on").address("/plan"),
        by_hand: format!("/plan/by-hand?formula={}", q.formula),
        back: format!("/formula/{}", q.formula),
        minute_of_day: wanted.map_or(0, |w| local.minute_of_day(w)),
    };
    (view, !is_wrong)
}

/// Of another bread of the house: when it has the oven.
fn beside_words(b: &Beside, local: &Local, now: Timestamp) -> Option<String> {
    let (from, to) = b.oven.iter().filter(|o| o.set_c.is_some()).map(|o| (o.from, o.to)).reduce(|a, c| (a.0.min(c.0), a.1.max(c.1)))?;
    Some(format!("“{}” has the oven {}–{}", b.bread, local.clock_seen(from, now), local.clock(to)))
}
