//! The answer to a request: plans that fit, or why there is none and the least that would have to give.

use jiff::Timestamp;

use super::{
    ask::FitAsk,
    bread::Bread,
    day::Day,
    dough::DoughRises,
    hours::{AwayKind, Minute, Need, Span},
    judge::refine_dose,
    offer::Offer,
    placing::PlacedSchedule,
    relax::{Relaxation, relaxations},
    schedule::{RiseOf, ScheduleFamily, Work},
    solve::Search,
    wish::Wish,
};
use crate::{
    Tables,
    findings::{Finding, Severity},
    formula::Formula,
    input::InputErrors,
    kitchen::{Kitchen, Place},
    measure::show_minutes,
};

/// Most plans of an answer.
pub const MOST_OFFERS: usize = 5;

/// Plans, or why there are none.
#[derive(Debug, Clone, Default)]
pub struct Answer {
    /// Plans that fit, best first.
    pub offers: Vec<Offer>,
    /// When it could be ready at the soonest, by the hours alone.
    pub soonest: Option<Timestamp>,
    /// What each wish would gain and cost.
    pub wishes: Vec<Wish>,
    /// The least that would have to give, where nothing fits.
    pub relax: Vec<Relaxation>,
    /// The first of these as a plan.
    pub nearest: Option<Box<Offer>>,
    /// What there is to say of the dough as it is planned; `no-plan` where nothing fits.
    pub findings: Vec<Finding>,
    /// The families of ways there are to this dough, whichever were asked for.
    pub families: Vec<ScheduleFamily>,
}

/// Plans for one dough, or why there are none. `clock` writes an hour as the household does.
///
/// # Errors
/// Each field of the request that is wrong.
pub fn fit(
    formula: &Formula,
    ask: &FitAsk,
    kitchen: &Kitchen,
    tables: &Tables,
    clock: &dyn Fn(Timestamp) -> String,
) -> Result<Answer, InputErrors> {
    Ok(fit_first(formula, std::slice::from_ref(ask), kitchen, tables, clock)?.1)
}

/// Plans for one dough at the first of several hours at which there are any, and which hour that is; why there are none at the
/// first where no hour has any. The requests differ in the hour of the bread and the hours away alone, so that each way is solved
/// once for all of them.
///
/// # Errors
/// Each field of the first request that is wrong.
pub fn fit_first(
    formula: &Formula,
    asks: &[FitAsk],
    kitchen: &Kitchen,
    tables: &Tables,
    clock: &dyn Fn(Timestamp) -> String,
) -> Result<(usize, Answer), InputErrors> {
    let Some(ask) = asks.first() else { return Ok((0, Answer::default())) };
    ask.check()?;
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    let dough = Bread::new(&analysis, kitchen, tables)?;
    let facts = dough.facts(ask);
    let rules = dough.rules(ask, &facts);
    let mut model = DoughRises::new(facts, &tables.ferment);
    let mut search = Search::new(&mut model, rules);
    let mut findings = dough.cut_findings();
    let families = dough.families(ask);
    for (i, ask) in asks.iter().enumerate() {
        let day = dough.day(ask);
        let stand = search.standing(&day);
        let mut laid = search.chosen(&stand, &day, MOST_OFFERS);
        if !laid.is_empty() {
            let soonest = search.least_ready(&Day { ready: None, ..day.clone() }, 0).map(|m| ask.at(m));
            let wishes = search.wishes(&stand, &day, &|m| clock(ask.at(m)));
            refine(&mut search, &day, &mut laid, &dough);
            let offers = dough.offers(ask, &mut search, &laid);
            return Ok((i, Answer { offers, soonest, wishes, findings, families, ..Answer::default() }));
        }
    }
    let day = dough.day(ask);
    let relax = relaxations(&mut search, &day, ask, &dough, clock);
    let nearest = relax.first().and_then(|r| r.nearest(&mut search, &dough));
    let nearest = nearest.map(Box::new);
    findings.insert(0, no_plan(&mut search, &day, ask, &dough, clock));
    Ok((0, Answer { relax, nearest, findings, families, ..Answer::default() }))
}

/// With the clock fixed, the dose that brings both rises nearest to ripe; kept where it really does.
fn refine(search: &mut Search<'_, DoughRises<'_>>, day: &Day, laid: &mut [PlacedSchedule], dough: &Bread<'_>) {
    const WORTH: f64 = 0.02;
    for l in laid.iter_mut() {
        let Some(schedule) = search.rules.schedules.get(l.schedule).cloned() else { continue };
        let off = |l: &PlacedSchedule| -> f64 {
            l.rises.iter().filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof)).map(|r| r.judged.ripeness.ln().abs()).sum()
        };
        if off(l) < 2.0 * WORTH {
            continue;
        }
        let doses: Vec<f64> = search.rules.schedules.iter().filter(|w| w.family == schedule.family).map(|w| w.dose).collect();
        let limits = doses.iter().fold((f64::INFINITY, 0.0_f64), |(lo, hi), d| (lo.min(*d), hi.max(*d)));
        let rises: Vec<(f64, f64)> = l
            .rises
            .iter()
            .filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof))
            .map(|r| (r.judged.ripeness, r.rise))
            .map(|(rho, rise)| (rho, super::solve::Model::exponent(search.model, rise, &schedule)))
            .collect();
        let Some(dose) = refine_dose(schedule.dose, &rises, limits) else { continue };
        let dose = dough.usual.on_scale(dose);
        if (dose / schedule.dose).ln().abs() < WORTH {
            continue;
        }
        if let Some(better) = search.with_dose(l, dose, day).filter(|b| off(b) + WORTH < off(l) && b.p_spoil <= l.p_spoil + 0.02) {
            *l = better;
        }
    }
}

/// Why nothing fits, in a sentence.
fn no_plan(
    search: &mut Search<'_, DoughRises<'_>>,
    day: &Day,
    ask: &FitAsk,
    dough: &Bread<'_>,
    clock: &dyn Fn(Timestamp) -> String,
) -> Finding {
    crate::plan::findings::NO_PLAN.raised(Severity::Stop, why_not(search, day, ask, dough, clock), Vec::new())
}

fn why_not(
    search: &mut Search<'_, DoughRises<'_>>,
    day: &Day,
    ask: &FitAsk,
    dough: &Bread<'_>,
    clock: &dyn Fn(Timestamp) -> String,
) -> String {
    if search.solved.is_empty() {
        return if dough.analysis.is_perishable() && !ask.lift_warm_limit {
            "This dough has egg, milk or cheese, and it takes longer than the 4 h it may stand warm.".to_owned()
        } else {
            "No way of it gets ripe in the places of this kitchen.".to_owned()
        };
    }
    let Some(ready) = day.ready else { return "Nothing of it fits into the next days.".to_owned() };
    let free = Day { away: Vec::new(), hands_taken: Vec::new(), oven_taken: Vec::new(), mix_within: None, ..day.clone() };
    if let Some(least) = search.least_ready(&free, 0).filter(|least| *least > ready) {
        return format!(
            "The shortest way to this bread takes {} from then; you asked for {}.",
            show_minutes(f64::from(least)),
            show_minutes(f64::from(ready))
        );
    }
    for (i, away) in day.away.iter().enumerate() {
        let mut without = day.clone();
        without.away.remove(i);
        let Some(laid) = search.any(&without, 40) else { continue };
        if let Some(words) = conflict(search, &laid, away.span, away.kind, ask, clock) {
            return words;
        }
    }
    // Another bread in the way: the one without which there would be a plan.
    for (i, other) in ask.beside.iter().enumerate() {
        let mut without = ask.clone();
        without.beside.remove(i);
        if search.any(&dough.day(&without), 40).is_none() {
            continue;
        }
        let oven = other.keeps_oven_from(dough.oven.0.asks()).reduce(|a, b| (a.0.min(b.0), a.1.max(b.1)));
        let taken = oven.map_or_else(
            || format!("Your hands are at “{}” then.", other.bread),
            |(from, to)| format!("“{}” has the oven from {} to {}.", other.bread, clock(from), clock(to)),
        );
        return format!("{taken} Without it there would be a plan.");
    }
    "Between your hours away there is no room for all of its work.".to_owned()
}

/// What a plan would do in hours that are not free.
fn conflict(
    search: &Search<'_, DoughRises<'_>>,
    laid: &PlacedSchedule,
    span: Span,
    kind: AwayKind,
    ask: &FitAsk,
    clock: &dyn Fn(Timestamp) -> String,
) -> Option<String> {
    let at = |m: Minute| clock(ask.at(m));
    let gone = match kind {
        AwayKind::Away => format!("you are out until {}", at(span.to)),
        AwayKind::Asleep => format!("you sleep until {}", at(span.to)),
        AwayKind::Busy => format!("your hands are full until {}", at(span.to)),
    };
    for (work, start) in laid.works.iter().zip(&laid.starts).rev() {
        for seg in search.rules.works.segs(*work) {
            let (from, to) = (start + seg.offset, start + seg.offset + seg.length);
            let meets = from < span.to && to > span.from;
            if !meets || seg.need == Need::Oven || (kind == AwayKind::Busy && seg.need == Need::Watch) {
                continue;
            }
            return Some(match (seg.need, work) {
                (Need::Watch, Work::Bake { .. }) => {
                    let (from, to) = (start - search.rules.works.preheat, start + search.rules.works.length(*work));
                    format!(
                        "The oven would have to be watched from {} to {}, but {gone}. No plan leaves a hot oven alone.",
                        at(from),
                        at(to)
                    )
                }
                (_, Work::Bake { .. }) => format!("It would go into the oven at {}, but {gone}.", at(*start)),
                (_, Work::Shape) => format!("It would be shaped at {}, but {gone}.", at(*start)),
                (_, Work::Mix) => format!("It would be mixed at {}, but {gone}.", at(*start)),
                (_, Work::Now) => continue,
                (_, Work::Feed) => format!("The leaven would be fed at {}, but {gone}.", at(*start)),
                (_, Work::Move(place)) => format!("It would be carried into the {} at {}, but {gone}.", place.name(), at(*start)),
            });
        }
    }
    None
}

/// How a plan bears a kitchen some degrees colder or warmer: minutes later or sooner, and whether it still fits.
#[must_use]
pub fn shifted(formula: &Formula, ask: &FitAsk, offer: &Offer, by_c: f64, kitchen: &Kitchen, tables: &Tables) -> Option<(Minute, bool)> {
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    let dough = Bread::new(&analysis, kitchen, tables).ok()?;
    let warmer = |by: f64| {
        let mut facts = dough.facts(ask);
        for (p, c) in facts.places.iter_mut().chain(facts.nights.iter_mut().flat_map(|n| &mut n.places)) {
            *c += if matches!(p, Place::Room | Place::Pantry) { by } else { 0.0 };
        }
        facts
    };
    let schedule = offer.schedule.clone();
    let solved = |by: f64| {
        let facts = warmer(by);
        let mut rules = dough.rules(ask, &facts);
        rules.schedules = vec![schedule.clone()];
        let mut model = DoughRises::new(facts, &tables.ferment);
        let mut search = Search::new(&mut model, rules);
        let sum: Option<Minute> = search.solved.first().map(|s| s.joints.iter().map(|j| j.nominal).sum());
        let stands = !search.stand(&dough.day(ask), schedule.family, 1).is_empty();
        sum.map(|s| (s, stands))
    };
    let (now, _) = solved(0.0)?;
    let (then, stands) = solved(by_c)?;
    Some((then - now, stands))
}
