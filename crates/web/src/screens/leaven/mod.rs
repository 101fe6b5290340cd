//! The leaven: the jar as it stands, its curve, whether to use it now; what to feed for an hour to come;
//! the feeds behind it.

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, Path, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    input::{InputErrors, number},
    kitchen::{HoursKind, Kitchen, Place, hours::spells},
    leaven::{FeedAsk, FeedPlan, FeedRow, Jar, JarBody, JarEvent, JarEventBody, JarEventKind, JarState, Use, feed_rows, feed_twice},
    measure::{Asked, degrees, show, typed as read_typed, volume, weight},
    plan::{later, minutes_between},
};
use cerealis_store::leavens::{self, KeptJar};
use jiff::Timestamp;
use serde::Deserialize;
use serde_qs::actix::QsQuery;

use super::{Chrome, kitchen, page, see_other};
use crate::{
    State, desk,
    draw::{BarIn, Bars, Curve, Glass, JarFrame, bars, curve, glass},
    edge::{Failure, Form, Lies, Local, PageFailure, on_disk},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/leaven").route(get().to(first)).route(post().to(add)))
        .service(web::resource("/leaven/new").route(get().to(new)))
        .service(web::resource("/leaven/{id}").route(get().to(show_jar)).route(post().to(log)))
        .service(web::resource("/leaven/{id}/away").route(post().to(put_away)));
}

/// What is wanted of it.
#[derive(Debug, Deserialize, Default, Clone)]
struct Query {
    #[serde(default)]
    grams: String,
    #[serde(default)]
    keep: String,
    #[serde(default)]
    at: String,
    #[serde(default)]
    fed: String,
}

/// A new jar as it is typed.
#[derive(Debug, Deserialize, Default, Clone)]
struct NewJar {
    #[serde(default)]
    name: String,
    #[serde(default)]
    flour: String,
    #[serde(default)]
    hydration: String,
}

#[derive(Template)]
#[template(path = "leaven/new.html")]
struct NewPage {
    chrome: Chrome,
    typed: NewJar,
    flours: Vec<(String, String)>,
    errors: Vec<String>,
    any: bool,
}

async fn first(state: Data<State>) -> Result<HttpResponse, PageFailure> {
    match on_disk(&state.db, leavens::list).await?.first() {
        Some(jar) => Ok(see_other(&format!("/leaven/{}", jar.id))),
        None => new(state).await,
    }
}

async fn render_new(state: &State, typed: NewJar, errors: Vec<String>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(state).await?;
    let any = !on_disk(&state.db, leavens::list).await?.is_empty();
    let flours = state.tables().ferment.flours.keys().map(|f| (f.clone(), f.replace('-', " "))).collect();
    let status = if errors.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY };
    page(&NewPage { chrome: Chrome::new("Leaven", &kitchen, state.clock.now()), typed, flours, errors, any }, status)
}

async fn new(state: Data<State>) -> Result<HttpResponse, PageFailure> {
    render_new(&state, NewJar { hydration: "100".into(), flour: "plain-white".into(), ..NewJar::default() }, Vec::new()).await
}

async fn add(state: Data<State>, Form(typed): Form<NewJar>) -> Result<HttpResponse, PageFailure> {
    let hydration_pct = match number(&typed.hydration) {
        Ok(v) => v,
        Err(e) => return render_new(&state, typed, vec![e]).await,
    };
    let flour_mix = std::iter::once((typed.flour.clone(), 100.0)).collect();
    match desk::jars::add(&state, JarBody { name: typed.name.trim().to_owned(), flour_mix, hydration_pct }).await {
        Ok(id) => Ok(see_other(&format!("/leaven/{id}"))),
        Err(Failure::Input(e)) => render_new(&state, typed, e.0.into_iter().map(|e| e.message).collect()).await,
        Err(other) => Err(other.into()),
    }
}

struct Past {
    curve: Curve,
    day: String,
    what: String,
    came: String,
}

struct LogRow {
    seq: i32,
    clock: String,
    words: String,
    can_undo: bool,
}

/// The feed that is advised.
struct Advice {
    deeds: Vec<String>,
    why: String,
    /// Grams of the first feed and its place, for one tap.
    seed: String,
    water: String,
    flour: String,
    place: &'static str,
}

/// A jar that was fed.
struct Standing {
    headline: String,
    sign: &'static str,
    fed: String,
    glass: Glass,
    wide: Curve,
    narrow: Curve,
    falls: String,
    cold: Option<&'static str>,
    levels: Vec<(String, String, bool)>,
    past: Vec<Past>,
    plan_href: String,
    left: String,
    facts: Vec<(&'static str, String, String)>,
}

#[derive(Template)]
#[template(path = "leaven/page.html")]
struct LeavenPage {
    chrome: Chrome,
    /// Now, for the hand that moves an hour.
    now_at: String,
    id: String,
    name: String,
    about: String,
    jars: Vec<(String, String, bool)>,
    standing: Option<Standing>,
    bars: Option<Bars>,
    narrow_bars: Option<Bars>,
    rows: Vec<(String, String, String, String, bool)>,
    advice: Option<Advice>,
    no_advice: String,
    q: Query,
    places: Vec<(&'static str, String)>,
    log: Vec<LogRow>,
    errors: Vec<String>,
    key: String,
}

async fn kept(state: &State, id: &str) -> Result<(KeptJar, Vec<JarEvent>, Vec<KeptJar>), PageFailure> {
    let id = id.to_owned();
    Ok(on_disk(&state.db, move |db| Ok((leavens::get(db, &id)?, leavens::log(db, &id)?, leavens::list(db)?.rows))).await?)
}

async fn show_jar(state: Data<State>, id: Path<String>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    render(&state, &id, query.into_inner(), Vec::new()).await
}

fn ratio_words(grams: (f64, f64, f64)) -> String {
    let part = |g: f64| {
        let r = g / grams.0;
        show(r, usize::from((r - r.round()).abs() > 0.05))
    };
    format!("1 : {} : {}", part(grams.1), part(grams.2))
}

/// Slow, likely and fast height along a forecast.
fn frame_of(s: &JarState, local: &Local, now: Timestamp) -> JarFrame {
    let band = s.forecast.band();
    let end_min =
        s.falls.map_or(s.forecast.end.min, |f| minutes_between(s.fed.at, f) + 240.0).max(s.now_min + 60.0).min(s.forecast.end.min);
    let from = (s.now_min - 24.0 * 60.0).max(0.0);
    // The curve's own heights, where the slow and the fast course are as ripe.
    let height = |r: f64| s.forecast.height_at(r);
    let points = band
        .iter()
        .filter(|b| b.min >= from && b.min <= end_min)
        .map(|b| {
            let (a, z) = (height(b.slow), height(b.fast));
            let likely = height(b.likely);
            (b.min - from, a.min(z).min(likely), likely, a.max(z).max(likely))
        })
        .collect();
    let start = later(s.fed.at, from);
    let hours = local.hours(start, later(s.fed.at, end_min));
    let every = if hours.len() > 26 { 6 } else { 2 };
    JarFrame {
        points,
        seen: s.fed.levels.iter().map(|(at, v)| (minutes_between(start, *at), *v)).filter(|p| p.0 >= 0.0).collect(),
        best: s.best.map(|(a, b)| (minutes_between(start, a), minutes_between(start, b), format!("best {}", local.span(a, b)))),
        clock: hours
            .iter()
            .map(|(t, h)| (minutes_between(start, *t), if i32::from(*h) % every == 0 { local.whole_hour(*h) } else { String::new() }))
            .collect(),
        moves: s
            .fed
            .places
            .iter()
            .enumerate()
            .map(|(i, s)| (minutes_between(start, s.span), if i == 0 { "fed".to_owned() } else { s.place.name().to_owned() }))
            .filter(|m| m.0 >= 0.0)
            .collect(),
        now: minutes_between(start, now),
        span: end_min - from,
        words: format!(
            "Height of the leaven over the clock: now {} times, at its best {}, clearly sunken {}.",
            show(s.ratio_now, 1),
            s.best.map_or_else(|| "not within two days".to_owned(), |(a, b)| local.span(a, b)),
            s.falls.map_or_else(|| "later".to_owned(), |f| local.clock_to(f, 15.0))
        ),
    }
}

fn standing(id: &str, jar: &Jar, s: &JarState, kitchen: &Kitchen, state: &State) -> Standing {
    let local = Local::of(kitchen);
    let now = state.clock.now();
    let f = frame_of(s, &local, now);
    let place = s.fed.places.last();
    let when = if local.same_day(s.fed.at, now) { local.clock(s.fed.at) } else { local.day_and_clock(s.fed.at) };
    let use_now = s.may_use();
    let ready =
        |t: Timestamp| if local.same_day(t, now) { local.clock_to(t, 5.0) } else { local.day_and_clock(crate::edge::to_step(t, 5.0)) };
    let headline = match (use_now, s.best) {
        (Use::Young | Use::Soon, Some((from, _))) => format!("Not ready yet. At its best from {} on", ready(from)),
        (Use::Young | Use::Soon, None) => "So cold it hardly ripens".to_owned(),
        (Use::Best, Some((_, to))) => format!("Ready now, until {}", ready(to)),
        (Use::Best, None) => "Ready now".to_owned(),
        (Use::Late, _) => "Past its best: use it now, or feed it".to_owned(),
        (Use::Feed, _) => "Feed it before you bake".to_owned(),
    };
    let past = jar
        .history(s, kitchen, &state.tables().ferment, 6)
        .into_iter()
        .map(|(fed, run)| {
            let points = run.curve.iter().map(|r| (r.min, r.rise_ratio, r.rise_ratio, r.rise_ratio)).collect();
            let top = run.curve.iter().map(|r| r.rise_ratio).fold(1.0, f64::max);
            let peak = run.event(cerealis_core::ferment::EventKind::LeavenPeak).filter(|e| !e.ahead);
            let place = fed.places.last().map_or("", |s| s.place.name());
            Past {
                curve: curve(&JarFrame { points, span: run.end.min, words: String::new(), ..JarFrame::default() }, 96, 28, false),
                day: local.day(fed.at),
                what: format!("{} {place}", ratio_words(fed.grams).replace(' ', "")),
                came: peak.map_or_else(
                    || "kept".to_owned(),
                    |e| format!("{}×, {} h", show(top, 1), show(e.min / 60.0, usize::from(e.min < 600.0))),
                ),
            }
        })
        .collect();
    // While it is at its best, or will be, it is planned with as it is; else the plan feeds it.
    let answer = match s.best.filter(|(_, to)| *to > now) {
        Some((from, _)) => [("p[ripe]", local.field(from.max(now)))],
        None => [("p[jar]", id.to_owned())],
    };
    let plan_href = format!("/plan?{}", serde_urlencoded::to_string(answer).unwrap_or_default());
    Standing {
        headline,
        sign: use_now.words(),
        fed: format!(
            "Fed {} at {when}, {}.",
            ratio_words(s.fed.grams).replace(' ', ""),
            place.map_or_else(String::new, cerealis_core::kitchen::Stay::told)
        ),
        glass: glass(s.ratio_now, s.best_height, format!("The jar stands at {} times its height when fed.", show(s.ratio_now, 1))),
        wide: curve(&f, 900, 300, true),
        narrow: curve(&f, 358, 250, true),
        falls: s.falls.filter(|f| *f > now).map_or_else(String::new, |f| format!("Still raises bread to about {}.", ready(f))),
        cold: s.after_the_cold(),
        levels: [1.5, 2.0, 2.5, 3.0]
            .iter()
            .map(|v| (format!("{v}"), show(*v, usize::from(v.fract() > 0.0)), (s.ratio_now - v).abs() < 0.25))
            .collect(),
        past,
        plan_href,
        left: format!("{} in the jar", weight(s.left_g)),
        facts: vec![
            ("now", format!("{} % ripe", show(100.0 * s.ripeness, 0)), "1 is its peak: free gas as much as its flour holds".to_owned()),
            ("speed of this jar", format!("× {}", show(s.rate, 2)), "from the last level seen while it rose; 1 where none was".to_owned()),
            (
                "peak",
                s.peak.map_or_else(String::new, |(a, p, b)| format!("{}, between {}", local.clock_to(p, 5.0), local.span(a, b))),
                "four leavens in five; spread of ln(rate) 0.16, 0.08 once a level was seen; leaven model".to_owned(),
            ),
            ("days in the fridge", show(s.cold_days, 1), "since the last feed: 0.15 h of late start for each".to_owned()),
        ],
    }
}

/// The number of the event that this one takes back.
fn undoes(e: &JarEvent) -> Option<i32> {
    #[allow(clippy::cast_possible_truncation, reason = "numbers of events")]
    e.event.body.value.filter(|_| e.event.kind == JarEventKind::Undo).map(|v| v as i32)
}

fn event_words(e: &JarEvent, log: &[JarEvent]) -> String {
    let b = &e.event.body;
    let g = |v: Option<f64>| weight(v.unwrap_or_default());
    let place = b.what.as_deref().and_then(Place::from_word).map_or("", Place::name);
    let words = match e.event.kind {
        JarEventKind::Fed => format!(
            "Fed: {} kept, {} water, {} flour{}",
            g(b.seed),
            g(b.water),
            g(b.flour),
            if place.is_empty() { String::new() } else { format!(", {place}") }
        ),
        JarEventKind::Level => format!("Stands at {}×", b.value.map(|v| show(v, 2)).unwrap_or_default()),
        JarEventKind::Moved => format!("Moved to the {place}"),
        JarEventKind::Temperature => format!("Leaven {}", b.value.map(|v| degrees(v).to(1).short().to_string()).unwrap_or_default()),
        JarEventKind::Used => format!("{} used", g(b.value)),
        JarEventKind::Note => String::new(),
        JarEventKind::Undo => {
            let undone = undoes(e).and_then(|seq| log.iter().find(|x| x.seq == seq && x.event.kind != JarEventKind::Undo));
            undone.map_or_else(|| "Took one back".into(), |x| format!("Took back: {}", event_words(x, log)))
        }
    };
    match &b.note {
        Some(note) if words.is_empty() => note.clone(),
        Some(note) => format!("{words}: {note}"),
        None => words,
    }
}

/// The request of the feed planner, each figure over what is usual.
fn feed_ask(q: &mut Query, local: &Local, now: Timestamp, errors: &mut Vec<String>) -> FeedAsk {
    let units = local.units();
    let mut figure = |text: &mut String, usual: f64, low: f64, high: f64, what: &str| match read_typed(text, Asked::Grams, units) {
        _ if text.trim().is_empty() => {
            *text = Asked::Grams.shown(usual, units);
            usual
        }
        Ok(v) if (low..=high).contains(&v) => v,
        _ => {
            errors.push(format!("{what} between {} and {}.", weight(low).bare(), weight(high)));
            usual
        }
    };
    let grams = figure(&mut q.grams, 130.0, 1.0, 5000.0, "Leaven wanted:");
    let keep_g = figure(&mut q.keep, 20.0, 0.0, 1000.0, "Leaven kept:");
    let morning = || {
        let day = local.field(later(now, 1440.0));
        local.read_field(&format!("{}T07:00", day.split('T').next().unwrap_or_default())).unwrap_or_else(|| later(now, 840.0))
    };
    let mut instant = |text: &mut String, usual: Timestamp, lies: Lies| {
        if text.trim().is_empty() {
            *text = local.when(usual, now);
            return usual;
        }
        let Some(at) = local.read_when(text, now, lies) else {
            errors.push("Write day and hour, for example tomorrow 07:00.".to_owned());
            return usual;
        };
        *text = local.when(at, now);
        at
    };
    let at = instant(&mut q.fed, cerealis_core::plan::round_up(now, 5), Lies::Ahead);
    let wanted = instant(&mut q.at, morning(), Lies::Ahead);
    if minutes_between(at, wanted) < 30.0 || minutes_between(at, wanted) > 5.0 * 1440.0 {
        errors.push("The hour it is wanted lies half an hour to five days after the feed.".to_owned());
    }
    FeedAsk { at, grams, keep_g, wanted }
}

fn deed(r: &FeedRow, when: Option<String>) -> String {
    let (seed, water, flour) = r.grams;
    let grams = format!("Keep {}. Add {} water, {} flour.", weight(seed), weight(water), weight(flour));
    format!("{}{grams} Into the {}.", when.map_or_else(String::new, |w| format!("{w}: ")), r.place.name())
}

fn place_words(r: &FeedRow) -> String {
    let name = match r.place {
        Place::OvenLight => "Oven light",
        Place::ProofBox => "Proof box",
        Place::Pantry => "Pantry",
        Place::Fridge => "Fridge",
        Place::Room => "Room",
    };
    format!("{name} {}", degrees(r.place_c).short())
}

impl Advice {
    /// What to do for a plan of one feed or two that is asked for at an hour.
    fn of(p: &FeedPlan, at: Timestamp, local: &Local) -> Self {
        let (seed, water, flour) = p.first.grams;
        let deeds = match &p.second {
            None => vec![deed(&p.first, None)],
            Some((then, second)) => vec![
                deed(&p.first, Some(local.day_and_clock(at))),
                deed(second, Some(local.day_and_clock(crate::edge::to_step(*then, 5.0)))),
            ],
        };
        let last = p.second.as_ref().map_or(&p.first, |s| &s.1);
        Self {
            deeds,
            why: format!(
                "At its best {}; a jar of {} holds it. What is left over of the old goes into pancakes or flat bread, or is thrown away.",
                local.span(last.best.0, last.best.1),
                volume(last.jar_ml)
            ),
            seed: format!("{seed:.1}"),
            water: format!("{water:.1}"),
            flour: format!("{flour:.1}"),
            place: p.first.place.word(),
        }
    }
}

/// The latest entries of a jar, newest first.
fn log_rows(log: &[JarEvent], local: &Local) -> Vec<LogRow> {
    const LATEST: usize = 12;
    let undone: Vec<i32> = log.iter().filter_map(undoes).collect();
    let row = |e: &JarEvent| LogRow {
        seq: e.seq,
        clock: local.day_and_clock(e.event.at),
        words: event_words(e, log) + if undone.contains(&e.seq) { " (taken back)" } else { "" },
        can_undo: e.event.kind != JarEventKind::Undo && !undone.contains(&e.seq),
    };
    log.iter().rev().take(LATEST).map(row).collect()
}

async fn render(state: &State, id: &str, mut q: Query, mut errors: Vec<String>) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(state).await?;
    let (kept, log, all) = kept(state, id).await?;
    let t = state.tables();
    let jar = kept.jar.check(&t.ferment).map_err(Failure::from)?;
    let local = Local::of(&kitchen);
    let now = state.clock.now();
    let stands = jar.state(&log, &kitchen, now, &t.ferment);
    let before = errors.len();
    let ask = feed_ask(&mut q, &local, now, &mut errors);
    let asked = errors.len() == before;
    // The seed as it will be when it is fed; now is near enough.
    let seed = stands.as_ref().map(|s| s.seed);
    let found = if asked { feed_rows(&jar, seed, &ask, &kitchen, &t.ferment) } else { Vec::new() };
    let nights = spells(&kitchen.kept_hours(), local.zone(), now, later(ask.wanted, 60.0));
    let asleep = |at: Timestamp| nights.iter().any(|s| s.kind == HoursKind::Asleep && s.from <= at && at < s.to);
    let plan = if asked { feed_twice(&jar, seed, &ask, &kitchen, &t.ferment, &asleep) } else { None };
    let chosen = plan.as_ref().filter(|p| p.second.is_none()).map(|p| (p.first.place, p.first.ratio));
    let is_chosen = |r: &FeedRow| chosen.is_some_and(|c| c.0 == r.place && (c.1 - r.ratio).abs() < 1e-9);
    let span = found
        .iter()
        .map(|r| minutes_between(ask.at, r.best.1))
        .fold(minutes_between(ask.at, ask.wanted) + 120.0, f64::max)
        .min(36.0 * 60.0);
    let inputs: Vec<BarIn> = found
        .iter()
        .map(|r| (place_words(r), ratio_words(r.grams), minutes_between(ask.at, r.best.0), minutes_between(ask.at, r.best.1), is_chosen(r)))
        .collect();
    let every = if span > 24.0 * 60.0 { 6.0 } else { 3.0 };
    let clock: Vec<(f64, String)> = (0..20)
        .map(|i| f64::from(i) * every * 60.0)
        .take_while(|m| *m <= span)
        .map(|m| (m, local.clock_to(later(ask.at, m), 5.0)))
        .collect();
    let words = format!("When each feed would be at its best; wanted {}. The table gives the same.", local.clock(ask.wanted));
    let wanted = minutes_between(ask.at, ask.wanted);
    let draw = |width: u32| {
        let label = format!("wanted {}", local.clock(ask.wanted));
        (!inputs.is_empty()).then(|| bars(&inputs, &clock, (wanted, label), span, words.clone(), width))
    };
    let view = LeavenPage {
        now_at: local.field(now),
        chrome: Chrome::new("Leaven", &kitchen, now),
        name: jar.name.clone(),
        about: {
            let flours: Vec<String> = jar.flour_mix.iter().map(|(c, _)| c.replace('-', " ")).collect();
            format!("Leaven of {}, {} % water.", flours.join(" and "), show(jar.hydration_pct, 0))
        },
        jars: all.iter().map(|j| (j.id.clone(), j.jar.name.clone(), j.id == kept.id)).collect(),
        standing: stands.as_ref().map(|s| standing(&kept.id, &jar, s, &kitchen, state)),
        bars: draw(860),
        narrow_bars: draw(358),
        rows: found
            .iter()
            .map(|r| {
                (
                    place_words(r),
                    ratio_words(r.grams),
                    local.span(r.best.0, r.best.1),
                    format!(
                        "{} + {} + {}, jar of {}",
                        weight(r.grams.0).bare(),
                        weight(r.grams.1).bare(),
                        weight(r.grams.2),
                        volume(r.jar_ml)
                    ),
                    r.meets,
                )
            })
            .collect(),
        advice: plan.as_ref().map(|p| Advice::of(p, ask.at, &local)),
        no_advice: if asked && plan.is_none() {
            "No feed of these places is at its best then: another hour, or keep it in the fridge in between.".to_owned()
        } else {
            String::new()
        },
        q,
        places: kitchen.places().into_iter().map(|(p, c)| (p.word(), format!("{}, {}", p.name(), degrees(c).short()))).collect(),
        log: log_rows(&log, &local),
        id: kept.id,
        key: uuid::Uuid::now_v7().to_string(),
        errors,
    };
    let status = if view.errors.is_empty() { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY };
    page(&view, status)
}

/// What is logged from the page; figures as they are typed.
#[derive(Debug, Deserialize, Default)]
struct Typed {
    #[serde(default)]
    kind: String,
    #[serde(default)]
    seed: String,
    #[serde(default)]
    water: String,
    #[serde(default)]
    flour: String,
    #[serde(default)]
    value: String,
    #[serde(default)]
    what: String,
    #[serde(default)]
    note: String,
    /// When it was, where not now.
    #[serde(default)]
    at: String,
    #[serde(default)]
    key: String,
}

async fn log(state: Data<State>, id: Path<String>, Form(typed): Form<Typed>) -> Result<HttpResponse, PageFailure> {
    let mut errors = Vec::new();
    let kitchen = kitchen(&state).await?;
    let at = Some(typed.at.trim()).filter(|t| !t.is_empty()).and_then(|t| {
        let read = Local::of(&kitchen).read_when(t, state.clock.now(), Lies::Behind);
        if read.is_none() {
            errors.push("Write day and hour, for example today 07:10 or yesterday 9.30 pm.".to_owned());
        }
        read.map(|t| t.to_string())
    });
    let mut figure = |text: &str, asked: Asked| {
        let text = text.trim();
        if text.is_empty() {
            return None;
        }
        read_typed(text, asked, &kitchen.units).map_err(|e| errors.push(e)).ok()
    };
    let of_value = match typed.kind.as_str() {
        "temperature" => Asked::Degrees,
        "used" => Asked::Grams,
        _ => Asked::Number,
    };
    let body = JarEventBody {
        kind: typed.kind.clone(),
        at,
        seed: figure(&typed.seed, Asked::Grams),
        water: figure(&typed.water, Asked::Grams),
        flour: figure(&typed.flour, Asked::Grams),
        value: figure(&typed.value, of_value),
        unit: None,
        what: Some(typed.what.trim().to_owned()).filter(|w| !w.is_empty()),
        note: Some(typed.note.trim().to_owned()).filter(|n| !n.is_empty()),
    };
    if errors.is_empty() {
        let key = Some(typed.key).filter(|k| !k.is_empty() && k.len() <= 200);
        match desk::jars::append(&state, &id, body, key).await {
            Ok(_) => return Ok(see_other(&format!("/leaven/{}", *id))),
            Err(Failure::Input(InputErrors(list))) => errors.extend(list.into_iter().map(|e| e.message)),
            Err(other) => return Err(other.into()),
        }
    }
    render(&state, &id, Query::default(), errors).await
}

async fn put_away(state: Data<State>, id: Path<String>) -> Result<HttpResponse, PageFailure> {
    let (id, now) = (id.into_inner(), state.clock.now());
    on_disk(&state.db, move |db| leavens::retire(db, &id, now)).await?;
    Ok(see_other("/leaven"))
}
