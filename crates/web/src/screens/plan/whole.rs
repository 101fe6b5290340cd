//! The plan that is shown whole: drawn, its acts, its figures.

use cerealis_core::{
    formula::Formula,
    kitchen::Kitchen,
    measure::{degrees, difference, show, show_minutes, weight},
    plan::{
        minutes_between,
        search::{answer::shifted, ask::AwayAsk, dose::Dose, offer::Offer, schedule::RiseOf},
    },
};
use jiff::Timestamp;

use super::{
    super::{FindingView, OtherSetting, OvenLine, StepRow, course_view, frame},
    asked::Asked,
};
use crate::{
    State,
    desk::about::OvenTold,
    draw::{Spell, Tide, Upright, tide, upright},
    edge::Local,
};

/// The plan that is shown whole.
pub(super) struct Whole {
    pub(super) wide: Tide,
    pub(super) narrow: Upright,
    pub(super) rows: Vec<StepRow>,
    pub(super) dose: Option<(String, String, String)>,
    pub(super) facts: Vec<(&'static str, String, String)>,
    pub(super) findings: Vec<FindingView>,
    /// Colder and warmer, where it was asked.
    pub(super) shifts: Vec<String>,
    pub(super) oven: OvenLine,
    /// The risk with its reason, where there is any worth a word.
    pub(super) risk: Option<String>,
    pub(super) reasons: Vec<String>,
    pub(super) trade_offs: Vec<String>,
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

pub(super) fn span_hours(o: &Offer) -> f64 {
    let first = o.course.steps.first().map_or(o.course.mixed, |s| s.start);
    minutes_between(first, o.course.ready_at) / 60.0
}

pub(super) fn label_every(hours: f64) -> f64 {
    match hours {
        h if h > 60.0 => 12.0,
        h if h > 30.0 => 6.0,
        h if h > 12.0 => 2.0,
        _ => 1.0,
    }
}

/// Colder and warmer by two degrees: what becomes of the plan.
fn shifts(o: &Offer, asked: &Asked, formula: &Formula, kitchen: &Kitchen, state: &State) -> Vec<String> {
    let words = |(by, word): (f64, &str)| {
        let (minutes, stands) = shifted(formula, &asked.ask, o, by, kitchen, &state.tables())?;
        let when = if minutes >= 0 { "later" } else { "sooner" };
        let still = if stands { "the plan still works" } else { "this plan no longer works" };
        Some(format!(
            "Room and pantry {} {word}: about {} {when}, {still}.",
            difference(2.0).short(),
            show_minutes(f64::from(minutes.abs()))
        ))
    };
    [(-2.0, "colder"), (2.0, "warmer")].into_iter().filter_map(words).collect()
}

/// The figures of a plan, each with its working: what, how much, how it came about.
fn facts(o: &Offer, local: &Local) -> Vec<(&'static str, String, String)> {
    let percent = |share: f64| show(100.0 * share, 0);
    let dough_h = show(o.course.forecast.end.dough_h, 1);
    let spread = o.rises.iter().map(|r| r.sigma).fold(0.0, f64::max);
    let risk = format!(
        "{} in 100 past ripe before you can act; one rate of the day behind all rises, spread {} %",
        percent(o.p_spoil),
        percent(spread)
    );
    let warm = o.warm_min.map(|warm| {
        let limit = "egg or milk: 4 h at most, FDA Food Code 2017, from memory; your local authority may ask for more";
        ("out of the fridge", show_minutes(warm), limit.to_owned())
    });
    let ripe = o.rises.iter().map(|r| {
        let name = match r.kind {
            RiseOf::Leaven => "leaven when used",
            RiseOf::Preferment => "preferment when used",
            RiseOf::Bulk => "bulk when shaped",
            RiseOf::Proof => "proof when loaded",
        };
        (name, format!("{} % ripe", percent(r.ripeness)), format!("of its dough time; over at {} %", percent(r.over)))
    });
    [
        ("rising", show_minutes(60.0 * o.rise_h), "bulk and proof, on the clock".to_owned()),
        ("dough time", format!("{dough_h} h"), format!("the same at {0}: rate(T) / rate({0}), summed up", degrees(24.0))),
        ("risk", o.risk_words(&|at| local.clock_to(at, 5.0)), risk),
        ("not ready", format!("{} in 100", percent(o.p_late)), "you come, and it has to wait".to_owned()),
        ("an act may wait", show_minutes(o.slack_min), "the tightest of them, other times as they are".to_owned()),
    ]
    .into_iter()
    .chain(warm)
    .chain(ripe)
    .collect()
}

/// What is weighed of the yeast, what the recipe says, and how so little is weighed.
fn dose_words(d: &Dose) -> (String, String, String) {
    let moved = (d.grams - d.was_grams).abs() > 0.04 * d.was_grams;
    let was = if moved { format!("the recipe says {}", weight(d.was_grams)) } else { String::new() };
    (format!("{} {}", weight(d.grams), d.name), was, d.dissolve.clone().unwrap_or_default())
}

/// The offer, whole; with what two degrees do to it where that was asked.
pub(super) fn whole(
    o: &Offer,
    asked: &Asked,
    formula: &Formula,
    kitchen: &Kitchen,
    state: &State,
    (shift, other): (bool, Option<OtherSetting>),
) -> Whole {
    let local = Local::of(kitchen);
    let now = state.clock.now();
    let every = label_every(span_hours(o));
    Whole {
        wide: tide(&drawn(o, asked, &local, now, every), 936, 372, true),
        narrow: upright(&drawn(o, asked, &local, now, every.max(2.0)), &course_view::upright_rows(&o.course, &local)),
        rows: StepRow::all(&o.course.steps, &local),
        dose: o.dose.as_ref().map(dose_words),
        facts: facts(o, &local),
        findings: o.findings.iter().map(FindingView::new).collect(),
        shifts: if shift { shifts(o, asked, formula, kitchen, state) } else { Vec::new() },
        risk: o.is_risky().then(|| o.risk_words(&|at| local.clock_to(at, 5.0))),
        oven: OvenLine { told: OvenTold::of(&o.course.oven, &o.formula, kitchen, state), other },
        reasons: o.reasons.clone(),
        trade_offs: o.trade_offs.clone(),
    }
}
