//! Plans that fit the day, as a page: the ways on the left, the chosen one drawn and told; nothing fits:
//! what would have to give.

use actix_web::{
    HttpResponse,
    http::{StatusCode, header},
    web::{self, Data, Path, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    ferment::LeavenState,
    formula::Formula,
    input::{InputErrors, Pointer},
    kitchen::Kitchen,
    leaven::{JarEvent, JarState},
    measure::{show, show_grams, show_minutes},
    plan::{
        Beside, PlanStep, StepKind,
        fed::ready_leaven,
        later, minutes_between,
        search::{
            answer::{Answer, fit_first, shifted},
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
            offer::Offer,
            relax::RelaxKind,
            wish::Want,
        },
    },
};
use cerealis_exchange::{Clocks, PlanFile, PlanFormat};
use cerealis_store::leavens::{self, KeptJar};
use jiff::Timestamp;
use serde_qs::actix::QsQuery;

use super::{
    super::{Chrome, FindingView, OtherSetting, OvenLine, StepRow, choose, course_view, formula_kept, frame, kitchen, page, see_other},
    asked::{Asked, asked},
    query::Query,
    sheet,
    shown::Shown,
    vary::Vary,
    water::WaterView,
};
use crate::{
    State,
    api::{about, breads_beside, usual_water},
    draw::{Spell, Tide, Upright, tide, upright},
    edge::{Local, PageFailure, off_loop, on_disk},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan").route(get().to(show_plan)))
        .service(web::resource("/plan/sheet").route(get().to(show_sheet)))
        .service(web::resource("/plan/file.{format:ics|json|csv|md}").route(get().to(file)));
}

/// Hours at which bread is usually wanted, far enough ahead.
pub(super) fn usual_hours(now: Timestamp, local: &Local) -> Vec<Timestamp> {
    const HOURS: [&str; 3] = ["08:00", "12:30", "18:30"];
    const AHEAD_MIN: f64 = 600.0;
    let day = |plus: f64| local.field(later(now, 1440.0 * plus)).split('T').next().unwrap_or_default().to_owned();
    let at = |d: String, h: &str| local.read_field(&format!("{d}T{h}"));
    let all = [0.0, 1.0, 2.0].into_iter().flat_map(|d| HOURS.map(|h| (d, h)));
    all.filter_map(|(d, h)| at(day(d), h)).filter(|t| minutes_between(now, *t) >= AHEAD_MIN).collect()
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
    let title = |want: Want| if want == Want::Soon { "as soon as it can be" } else { want.title() };
    let view = |want: Want| WantView { word: want.word(), title: title(want), about: about(want), on: chosen == Some(want) };
    let known = |want: &Want| *want == Want::Soon || chosen == Some(*want) || answer.wishes.iter().any(|w| w.want == *want);
    let nothing = WantView { word: "", title: "nothing special", about: "the plan we would choose".to_owned(), on: chosen.is_none() };
    Want::ALL.into_iter().filter(known).map(view).chain([nothing]).collect()
}

/// Something that would have to give.
struct Give {
    big: String,
    unit: &'static str,
    words: String,
    deed: String,
    href: String,
}

/// The plan that is shown whole.
struct Whole {
    wide: Tide,
    narrow: Upright,
    rows: Vec<StepRow>,
    dose: Option<(String, String, String)>,
    facts: Vec<(&'static str, String, String)>,
    findings: Vec<FindingView>,
    /// Colder and warmer, where it was asked.
    shifts: Vec<String>,
    oven: OvenLine,
    /// The risk with its reason, where there is any worth a word.
    risk: Option<String>,
    reasons: Vec<String>,
    trade_offs: Vec<String>,
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
    ready_errors: Vec<String>,
    wants: Vec<WantView>,
    ways: Vec<WayView>,
    count: String,
    whole: Option<Whole>,
    nearest: bool,
    why_not: String,
    gives: Vec<Give>,
    noted: Vec<FindingView>,
    water: Result<WaterView, Vec<String>>,
    hours: Vec<(String, String, &'static str)>,
    /// The hours of sleep that are assumed.
    assumed: Option<String>,
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

async fn show_plan(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    if q.formula.is_empty() {
        let chrome = Chrome::new("Plan", &kitchen(&state).await?, state.clock.now());
        let words = "A plan starts from a formula: choose one, or read a new one.";
        return choose(&state, chrome, "Which bread?", words, &q.unchosen("/plan")).await;
    }
    let house = House::of(&state, &q).await?;
    let (view, ok) = off_loop(move || plan_page(&house, &house.search(q, &state), &state, Vec::new())).await?;
    page(&view, if ok { StatusCode::OK } else { StatusCode::UNPROCESSABLE_ENTITY })
}

fn id_of(o: &Offer, index: usize) -> String {
    format!("{}-{}", o.family.word(), index + 1)
}

/// What a plan is made for: the bread, the kitchen, and the other breads in it.
pub(super) struct House {
    pub(super) kitchen: Kitchen,
    pub(super) formula: Formula,
    pub(super) beside: Vec<Beside>,
    /// The jar its leaven comes from: name, how it stands.
    pub(super) jar: Option<(String, JarState)>,
    /// The jars there are, where the bread needs a leaven: id, name, whether it is the one.
    pub(super) jars: Vec<(String, String, bool)>,
}

/// The jars of the household; of them the one that is named, else the first, is meant.
async fn jars(state: &State, named: Option<&str>) -> Result<Vec<(String, String, bool)>, PageFailure> {
    let all = on_disk(&state.db, leavens::list).await?;
    let meant = all.iter().position(|j| Some(j.id.as_str()) == named).unwrap_or(0);
    Ok(all.into_iter().enumerate().map(|(i, j)| (j.id, j.jar.name, i == meant)).collect())
}

/// The jar a leaven is taken from: the one named, else the first of the household, if it was ever fed.
pub(super) async fn first_jar(state: &State, kitchen: &Kitchen, named: Option<&str>) -> Result<Option<(String, JarState)>, PageFailure> {
    let named = named.map(str::to_owned);
    let found = on_disk(&state.db, move |db| {
        let all = leavens::list(db)?;
        let jar = all.iter().find(|j| Some(&j.id) == named.as_ref()).or(all.first()).cloned();
        jar.map(|jar| Ok((leavens::log(db, &jar.id)?, jar))).transpose()
    })
    .await?;
    let t = state.tables();
    let standing = |(log, kept): (Vec<JarEvent>, KeptJar)| {
        let jar = kept.jar.check(&t.ferment).ok()?;
        Some((jar.name.clone(), jar.state(&log, kitchen, state.clock.now(), &t.ferment)?))
    };
    Ok(found.and_then(standing))
}

/// What a feed to come is seeded with where that is not a ripe leaven: one that is past its best. One that still rises will be ripe
/// when it is fed.
pub(super) fn seed_of(jar: &JarState) -> Option<LeavenState> {
    (jar.ripeness >= 1.0).then_some(jar.seed)
}

/// `From “Foghorn”, 14 days in the fridge: two feeds, strong by Tue 21:40.`
fn jar_words(house: &House, o: &Offer, local: &Local) -> Option<String> {
    let (name, jar) = house.jar.as_ref()?;
    o.ask.laid.as_ref()?;
    let feeds = o.course.steps.iter().filter(|s| s.kind == StepKind::Feed).count();
    let ripe = o.course.steps.iter().rfind(|s| s.kind == StepKind::Leaven)?.end;
    let days = jar.cold_days.round();
    let stood =
        if days >= 2.0 { format!("{} days in the fridge", show(days, 0)) } else { format!("fed {}", local.day_and_clock(jar.fed.at)) };
    let feeds = match feeds {
        1 if days >= 7.0 => "one feed is all there is time for; baked later it is fed twice, and stronger".to_owned(),
        1 => "one feed".to_owned(),
        2 => "two feeds".to_owned(),
        n => format!("{n} feeds"),
    };
    let strong =
        if days >= 2.0 { " It is strong again when it doubles after a feed; if it does not, feed it once more first." } else { "" };
    Some(format!(
        "The leaven is from “{name}”, {stood}: {feeds}, at its best {} {}.{strong}",
        local.short_day(ripe),
        local.clock_to(ripe, 5.0)
    ))
}

/// What was asked, and what the search found, once for a request.
pub(super) struct Searched {
    /// The query, with the hour that was taken where none was told.
    q: Query,
    asked: Asked,
    form: Result<(), InputErrors>,
    found: Result<Answer, InputErrors>,
    /// Which of the offers is meant: the one named, else one of its family, else the first.
    chosen: usize,
}

impl House {
    pub(super) async fn of(state: &State, q: &Query) -> Result<Self, PageFailure> {
        let kitchen = kitchen(state).await?;
        let formula = formula_kept(state, &q.formula).await?;
        let beside = breads_beside(state, &kitchen, None).await?;
        let t = state.tables();
        let needs = ready_leaven(&formula.analyse(&t.pantry, &t.styles)).is_some();
        let jar = if needs { first_jar(state, &kitchen, q.get("jar")).await? } else { None };
        let jars = if needs { jars(state, q.get("jar")).await? } else { Vec::new() };
        Ok(Self { kitchen, formula, beside, jar, jars })
    }

    /// What a query asks, in this house.
    pub(super) fn asked(&self, q: &Query, now: Timestamp) -> (Asked, Result<(), InputErrors>) {
        let (mut asked, form) = asked(q, &self.kitchen, now);
        asked.ask.beside.clone_from(&self.beside);
        // What is told of the leaven goes before what its jar says.
        if q.get("ripe").is_none() && q.get("cold_days").is_none() {
            asked.ask.jar = self.jar.as_ref().and_then(|(_, jar)| seed_of(jar));
        }
        (asked, form)
    }

    /// Looks for plans: at the hour that is told, else at the first usual one for which there are any.
    pub(super) fn search(&self, q: Query, state: &State) -> Searched {
        const TRIED: usize = 4;
        let (local, now) = (Local::of(&self.kitchen), state.clock.now());
        let hours = if q.get("ready").is_some() || q.soon() { Vec::new() } else { usual_hours(now, &local) };
        let mut queries: Vec<Query> = hours.into_iter().take(TRIED).map(|h| q.with("ready", &local.field(h))).collect();
        if queries.is_empty() {
            queries.push(q);
        }
        let mut all: Vec<_> = queries.into_iter().map(|q| (self.asked(&q, now), q)).collect();
        let clock = |at: Timestamp| local.clock_to(at, 5.0);
        let asks: Vec<_> = all.iter().filter(|((_, form), _)| form.is_ok()).map(|((asked, _), _)| asked.ask.clone()).collect();
        let found = fit_first(&self.formula, &asks, &self.kitchen, &state.tables(), &clock);
        let nth = found.as_ref().map_or(0, |f| f.0).min(all.len().saturating_sub(1));
        let ((asked, form), q) = all.swap_remove(nth);
        let found = found.map(|f| f.1);
        let chosen = found.as_ref().map_or(0, |answer| {
            let meant = q.get("way").unwrap_or_default();
            let by_id = answer.offers.iter().enumerate().position(|(i, o)| id_of(o, i) == meant);
            let family = meant.rsplit_once('-').map_or("", |f| f.0);
            by_id.or_else(|| answer.offers.iter().position(|o| o.family.word() == family)).unwrap_or(0)
        });
        Searched { q, asked, form, found, chosen }
    }
}

/// The hours that are not the dough's, in minutes of a drawing that begins at `from`.
pub(super) fn spells_of(asked: &Asked, local: &Local, from: Timestamp, span: f64) -> Vec<Spell> {
    let at = |t: Timestamp| minutes_between(from, t);
    let spell = |(a, name): (&AwayAsk, &String)| Spell {
        from: at(a.from),
        to: at(a.to),
        kind: a.kind.word(),
        label: format!("{name} to {}", local.clock(a.to)),
    };
    asked.ask.away.iter().zip(&asked.names).map(spell).filter(|s| s.to > 0.0 && s.from < span).collect()
}

/// The drawing's values: the course, the hours that are not the dough's, errands, the wanted hour.
pub(super) fn drawn(o: &Offer, asked: &Asked, local: &Local, now: Timestamp, every: f64) -> crate::draw::Frame {
    let mut f = frame(&o.course, None, local, Some(now), every);
    let from = course_view::drawn_from(&o.course);
    let at = |t: Timestamp| minutes_between(from, t);
    f.spells = spells_of(asked, local, from, f.span);
    f.errands = asked.errands.iter().map(|(t, name)| (at(*t), format!("{name} {}", local.clock(*t)))).collect();
    f.ready = Some((at(o.course.ready_at), local.clock_to(o.course.ready_at, 5.0)));
    f
}

fn span_hours(o: &Offer) -> f64 {
    let first = o.course.steps.first().map_or(o.course.mixed, |s| s.start);
    minutes_between(first, o.course.ready_at) / 60.0
}

fn label_every(hours: f64) -> f64 {
    match hours {
        h if h > 60.0 => 12.0,
        h if h > 30.0 => 6.0,
        h if h > 12.0 => 2.0,
        _ => 1.0,
    }
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
        risky: (o.p_spoil >= 0.05).then(|| o.risk_words(&|at| local.clock_to(at, 5.0))),
    }
}

fn whole(
    o: &Offer,
    asked: &Asked,
    formula: &Formula,
    kitchen: &Kitchen,
    state: &State,
    (shift, other): (bool, Option<OtherSetting>),
) -> Whole {
    let local = Local::of(kitchen);
    let now = state.clock.now();
    let hours = span_hours(o);
    let t = state.tables();
    let shifts = if shift {
        [(-2.0, "colder"), (2.0, "warmer")]
            .into_iter()
            .filter_map(|(by, word)| {
                let (minutes, stands) = shifted(formula, &asked.ask, o, by, kitchen, &t)?;
                let when = if minutes >= 0 { "later" } else { "sooner" };
                let still = if stands { "the plan still works" } else { "this plan would not" };
                Some(format!("Room and pantry 2° {word}: about {} {when}, {still}.", show_minutes(f64::from(minutes.abs()))))
            })
            .collect()
    } else {
        Vec::new()
    };
    let mut facts = vec![
        ("rising", show_minutes(60.0 * o.rise_h), "bulk and proof, on the clock".to_owned()),
        (
            "dough time",
            format!("{} h", show(o.course.forecast.end.dough_h, 1)),
            "the same at 24 °C: rate(T) / rate(24 °C), summed up".to_owned(),
        ),
        (
            "risk",
            o.risk_words(&|at| local.clock_to(at, 5.0)),
            format!(
                "{} in 100 past ripe before you can act; one rate of the day behind all rises, spread {} %",
                show(100.0 * o.p_spoil, 0),
                show(100.0 * o.rises.iter().map(|r| r.sigma).fold(0.0, f64::max), 0)
            ),
        ),
        ("not ready", format!("{} in 100", show(100.0 * o.p_late, 0)), "you come, and it has to wait".to_owned()),
        ("an act may wait", show_minutes(o.slack_min), "the tightest of them, other times as they are".to_owned()),
    ];
    if let Some(warm) = o.warm_min {
        facts.push((
            "out of the fridge",
            show_minutes(warm),
            "egg or milk: 4 h at most, FDA Food Code 2017, from memory; your local authority may ask for more".to_owned(),
        ));
    }
    for r in &o.rises {
        let name = match r.kind {
            cerealis_core::plan::search::way::RiseOf::Leaven => "leaven when used",
            cerealis_core::plan::search::way::RiseOf::Preferment => "preferment when used",
            cerealis_core::plan::search::way::RiseOf::Bulk => "bulk when shaped",
            cerealis_core::plan::search::way::RiseOf::Proof => "proof when loaded",
        };
        facts.push((
            name,
            format!("{} % ripe", show(100.0 * r.ripeness, 0)),
            format!("of its dough time; over at {} %", show(100.0 * r.over, 0)),
        ));
    }
    Whole {
        wide: tide(&drawn(o, asked, &local, now, label_every(hours)), 936, 372, true),
        narrow: upright(&drawn(o, asked, &local, now, label_every(hours).max(2.0)), &course_view::upright_rows(&o.course, &local)),
        rows: StepRow::all(&o.course.steps, &local),
        dose: o.dose.as_ref().map(|d| {
            let was = if (d.grams - d.was_grams).abs() > 0.04 * d.was_grams {
                format!("the recipe says {} g", show_grams(d.was_grams))
            } else {
                String::new()
            };
            (format!("{} g {}", show_grams(d.grams), d.name), was, d.dissolve.clone().unwrap_or_default())
        }),
        facts,
        findings: o.findings.iter().enumerate().map(|(i, f)| FindingView::new(i, f)).collect(),
        shifts,
        risk: (o.p_spoil >= 0.05).then(|| o.risk_words(&|at| local.clock_to(at, 5.0))),
        oven: OvenLine::of(&o.course.oven, &o.formula, kitchen, state).with_other(other),
        reasons: o.reasons.clone(),
        trade_offs: o.trade_offs.clone(),
    }
}

fn give(r: &cerealis_core::plan::search::relax::Relaxation, q: &Query, local: &Local) -> Give {
    let mut to = q.without("way").without("shift");
    if let Some(ready) = r.ask.ready_at {
        to = to.with("ready", &local.field(ready));
    }
    let minutes = f64::from(r.minutes);
    let (big, unit) = if r.minutes >= 120 {
        let halves = (minutes / 30.0).round() / 2.0;
        (show(halves, usize::from(halves.fract() > 0.0)), "h")
    } else {
        (show(minutes, 0), "min")
    };
    let (unit, words) = match (r.kind, unit) {
        (RelaxKind::ServeLater, "h") => ("h later", "The same bread, later."),
        (RelaxKind::ServeLater, _) => ("min later", "The same bread, later."),
        (RelaxKind::StartEarlier, "h") => ("h sooner", "It would have to begin before now."),
        (RelaxKind::StartEarlier, _) => ("min sooner", "It would have to begin before now."),
        (RelaxKind::ReadyEarlier, _) => ("earlier", "Baked well before, and kept."),
        (RelaxKind::WakeEarlier, "h") => ("h less sleep", "You get up for it."),
        (RelaxKind::WakeEarlier, _) => ("min less sleep", "You get up for it."),
        (RelaxKind::BedLater, "h") => ("h later to bed", "The evening is longer."),
        (RelaxKind::BedLater, _) => ("min later to bed", "The evening is longer."),
        (RelaxKind::BackEarlier, "h") => ("h sooner home", "Somebody has to be there."),
        (RelaxKind::BackEarlier, _) => ("min sooner home", "Somebody has to be there."),
        (RelaxKind::LeaveLater, "h") => ("h later out", "Somebody has to be there."),
        (RelaxKind::LeaveLater, _) => ("min later out", "Somebody has to be there."),
        (RelaxKind::BusyLess | RelaxKind::BusyLater, "h") => ("h with free hands", "Your hands are full then."),
        (RelaxKind::BusyLess | RelaxKind::BusyLater, _) => ("min with free hands", "Your hands are full then."),
        (RelaxKind::BeWoken, _) => ("min, once, at night", "One act in the night, ten minutes at most."),
        (RelaxKind::ProofBox, _) => ("a warm box", "A box or a cool oven with a bottle of hot water, 28°."),
        (RelaxKind::Fridge, _) => ("the fridge", "The dough waits in the cold."),
        (RelaxKind::LiftEggMilkLimit, _) => {
            ("more than 4 h warm", "Egg and milk left warm grow bacteria. Follow your local food safety authority.")
        }
    };
    let big = if matches!(r.kind, RelaxKind::ProofBox | RelaxKind::Fridge | RelaxKind::LiftEggMilkLimit) { String::new() } else { big };
    match (r.kind, r.with) {
        (RelaxKind::StartEarlier, _) => to = to.with("from", &local.field(r.ask.from)),
        (RelaxKind::ReadyEarlier, _) => to = to.with("early", &show(r.ask.early_min.unwrap_or(720.0), 0)),
        (RelaxKind::BeWoken, _) => to = to.with("woken", "on"),
        (RelaxKind::ProofBox, _) | (_, Some(RelaxKind::ProofBox)) => to = to.with("box", "28"),
        (RelaxKind::Fridge, _) | (_, Some(RelaxKind::Fridge)) => to = to.without("fridge"),
        (RelaxKind::LiftEggMilkLimit, _) | (_, Some(RelaxKind::LiftEggMilkLimit)) => to = to.with("lift", "on"),
        _ => {}
    }
    if let Some((i, a)) = r.window.and_then(|i| r.ask.away.get(i).map(|a| (i, a))) {
        to = to.with("ease", &format!("{i}|{}|{}", local.field(a.from), local.field(a.to)));
    }
    Give { big, unit, words: words.to_owned(), deed: r.message.clone(), href: to.address("/plan") }
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
    let vary = Vary::new(q, &asked.ask, &answer.families, &analysis, kitchen, wrong, t);
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
    let water_ask = shown.map_or(f64::midpoint(analysis.style.dough_c.0, analysis.style.dough_c.1), |o| o.ask.mix_c);
    let water_of = |f: &Formula| WaterView::of(&f.analyse(&t.pantry, &t.styles), &usual_water(kitchen, water_ask), &t.ferment);
    let q_plan = q.without("on").without("shift");
    let q_chosen = shown.map_or_else(|| q_plan.clone(), |o| q_plan.with("way", &id_of(o, chosen)));
    let q_chosen = wanted.map_or_else(|| q_chosen.clone(), |w| q_chosen.with("ready", &local.field(w)));
    let kept = q.get("ready").map_or_else(|| wanted.map_or_else(String::new, |w| local.field(w)), str::to_owned);
    let view = PlanPage {
        chrome: Chrome::new("Plan", kitchen, now),
        id: q.formula.clone(),
        name,
        headline,
        sub,
        errors,
        ready: kept,
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
            .map(|r| give(r, &q_plan, &local))
            .collect(),
        noted: answer.findings.iter().filter(|f| f.id != "no-plan").enumerate().map(|(i, f)| FindingView::new(i, f)).collect(),
        water: water_of(shown.map_or(formula, |o| &o.formula)),
        hours: kitchen.hours.iter().map(|h| (h.name.clone(), h.words(), h.kind.word())).collect(),
        assumed: kitchen.assumed_hours().map(|h| h.words()),
        here: q_plan.address("/plan"),
        day: local.field(wanted.unwrap_or(now)).split('T').next().unwrap_or_default().to_owned(),
        vary,
        is_wrong,
        query: q_chosen.p.iter().map(|(k, v)| (k.clone(), v.clone())).collect(),
        shown: shown.filter(|_| no_plan.is_none()).map(|o| Shown::of(o, house)),
        jars: house.jars.clone(),
        jar: shown.and_then(|o| jar_words(house, o, &local)),
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

/// The plan a query means, if it still stands.
async fn meant(state: &Data<State>, q: Query) -> Result<(House, Asked, Option<Offer>), PageFailure> {
    let house = House::of(state, &q).await?;
    let state = state.clone();
    let (house, searched) = off_loop(move || {
        let searched = house.search(q, &state);
        (house, searched)
    })
    .await?;
    let offer = searched.found.ok().and_then(|mut a| (searched.chosen < a.offers.len()).then(|| a.offers.swap_remove(searched.chosen)));
    Ok((house, searched.asked, offer))
}

async fn show_sheet(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let (House { kitchen, formula, .. }, asked, offer) = meant(&state, q.clone()).await?;
    let Some(offer) = offer else { return Ok(see_other(&q.address("/plan"))) };
    let local = Local::of(&kitchen);
    let drawing = tide(
        &crate::draw::Frame { now: None, ..drawn(&offer, &asked, &local, offer.course.mixed, label_every(span_hours(&offer))) },
        936,
        300,
        true,
    );
    let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    page(&sheet::SheetPage::of(name, &offer, drawing, &kitchen, &state), StatusCode::OK)
}

async fn file(state: Data<State>, format: Path<String>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let (House { kitchen, formula, .. }, asked, offer) = meant(&state, q.clone()).await?;
    let Some(offer) = offer else { return Ok(see_other(&q.address("/plan"))) };
    let Some(format) = PlanFormat::from_extension(&format) else { return Ok(see_other(&q.address("/plan"))) };
    let local = Local::of(&kitchen);
    let steps: &[PlanStep] = &offer.course.steps;
    let file = PlanFile {
        id: format!("{}-{}", q.formula, offer.family.word()),
        name: formula.name.unwrap_or_else(|| "Bread".into()),
        steps,
        dropped: Vec::new(),
        sequence: 0,
        stamp: state.clock.now(),
        about: about(&offer.formula, &offer.course, offer.ask.mix_c, offer.dose.as_ref(), &kitchen, &state),
    };
    let asleep = |t: Timestamp| asked.ask.away.iter().any(|a| a.kind == AwayKind::Asleep && a.from <= t && t < a.to);
    let text = file.write(format, Clocks { quiet: &asleep, people: &|t| local.day_and_clock(t), data: &|t| local.rfc3339(t) });
    Ok(HttpResponse::Ok()
        .content_type(format.media_type())
        .insert_header((header::CONTENT_DISPOSITION, format!("attachment; filename=\"plan.{}\"", format.extension())))
        .body(text))
}
