//! Two to four doughs, one baker, one oven: planned one after the other, in every order.

use jiff::Timestamp;

use super::{
    answer::fit,
    ask::FitAsk,
    bread::Bread,
    dough::DoughRises,
    hours::{HandsTaken, Need, Span},
    offer::Offer,
    placing::PlacedSchedule,
    schedule::ScheduleFamily,
    solve::Search,
};
use crate::{
    Tables,
    findings::{Finding, Severity},
    formula::{Analysis, Formula},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    plan::OvenAsk,
};

/// Plans for all doughs together.
#[derive(Debug, Clone, Default)]
pub struct Together {
    /// Each a plan for every dough, in the order given.
    pub offers: Vec<Vec<Offer>>,
    /// Which dough goes into the oven first, in words.
    pub findings: Vec<Finding>,
}

/// Doughs planned together, at most.
pub const MOST_DOUGHS: usize = 4;
const MOST: usize = 3;

/// The orders in which so many doughs can be planned.
fn orders(n: usize) -> Vec<Vec<usize>> {
    if n == 0 {
        return vec![Vec::new()];
    }
    let mut all = Vec::new();
    for order in orders(n - 1) {
        for at in 0..=order.len() {
            let mut next = order.clone();
            next.insert(at, n - 1);
            all.push(next);
        }
    }
    all.sort();
    all
}

/// Doughs planned one after the other, each way of each solved once.
struct Planner<'p, 'a> {
    doughs: &'p [Bread<'a>],
    asks: &'p [FitAsk],
    /// How many plans of each dough are followed up.
    kept: usize,
}

/// Some of the doughs, laid: what they take of hands and oven, and what it costs.
#[derive(Clone, Default)]
struct Partial {
    cost: f64,
    /// Which dough, whether it waits in the fridge, how it is laid.
    laid: Vec<(usize, bool, PlacedSchedule)>,
    hands: Vec<HandsTaken>,
    /// Oven spans with what is asked of it then.
    oven: Vec<(Span, OvenAsk)>,
}

type Searches<'m, 'a> = Vec<Search<'m, DoughRises<'a>>>;

impl<'a> Planner<'_, 'a> {
    fn models(&self) -> Vec<DoughRises<'a>> {
        self.doughs.iter().zip(self.asks).map(|(d, ask)| DoughRises::new(d.facts(ask), &d.tables.ferment)).collect()
    }

    fn searches<'m>(&self, models: &'m mut [DoughRises<'a>]) -> Searches<'m, 'a> {
        let with_rules = |(model, (d, ask)): (&'m mut DoughRises<'a>, (&Bread<'a>, &FitAsk))| {
            let rules = d.rules(ask, model.facts());
            Search::new(model, rules)
        };
        models.iter_mut().zip(self.doughs.iter().zip(self.asks)).map(with_rules).collect()
    }

    /// The next dough laid round those that are.
    fn follow(&self, so_far: &Partial, (next, waits): (usize, bool), search: &mut Search<'_, DoughRises<'_>>) -> Vec<Partial> {
        let (Some(dough), Some(ask)) = (self.doughs.get(next), self.asks.get(next)) else { return Vec::new() };
        let mut day = dough.day(ask);
        day.hands_taken.extend(&so_far.hands);
        let asks = dough.oven.0.asks();
        day.oven_taken.extend(so_far.oven.iter().filter(|o| !o.1.shares_with(asks)).map(|o| o.0));
        let plans = search.plans(&day, self.kept);
        let with = |l: PlacedSchedule| {
            let mut after = so_far.clone();
            after.cost += l.cost;
            for (span, need) in l.asks(&search.rules.works) {
                match need {
                    Need::Hands | Need::Brief | Need::Rest => after.hands.push((span, need)),
                    Need::Oven => after.oven.push((span, asks)),
                    Need::Watch => {}
                }
            }
            after.laid.push((next, waits, l));
            after
        };
        plans.into_iter().map(with).collect()
    }

    /// Every order of the doughs, the best together first; with `later`, all but the first of an order are taken from there.
    fn orders(&self, searches: &mut Searches<'_, '_>, mut later: Option<&mut Searches<'_, '_>>) -> Vec<Partial> {
        let mut whole: Vec<Partial> = Vec::new();
        for order in orders(self.doughs.len()) {
            let mut open = vec![Partial::default()];
            for (nth, dough) in order.iter().enumerate() {
                let waits = nth > 0 && later.is_some();
                let next = |p: &Partial| match (&mut later, waits) {
                    (Some(later), true) => later.get_mut(*dough).map(|s| self.follow(p, (*dough, true), s)),
                    _ => searches.get_mut(*dough).map(|s| self.follow(p, (*dough, false), s)),
                };
                open = open.iter().filter_map(next).flatten().collect();
            }
            whole.extend(open);
        }
        whole.sort_by(|a, b| a.cost.total_cmp(&b.cost));
        whole
    }

    /// The best of those laid together, each another choice of ways, as plans to read.
    fn offers(&self, whole: Vec<Partial>, searches: &mut Searches<'_, '_>, mut later: Option<&mut Searches<'_, '_>>) -> Vec<Vec<Offer>> {
        let mut offers: Vec<Vec<Offer>> = Vec::new();
        for mut p in whole {
            p.laid.sort_by_key(|l| l.0);
            let mut parts: Vec<Offer> = Vec::new();
            for (i, waits, laid) in &p.laid {
                let (Some(dough), Some(ask), laid) = (self.doughs.get(*i), self.asks.get(*i), std::slice::from_ref(laid)) else { continue };
                let found = match (&mut later, waits) {
                    (Some(later), true) => later.get_mut(*i).map(|s| dough.offers(ask, s, laid)),
                    _ => searches.get_mut(*i).map(|s| dough.offers(ask, s, laid)),
                };
                parts.extend(found.into_iter().flatten());
            }
            let same = |x: &Vec<Offer>| x.iter().zip(&parts).all(|(a, b)| a.family == b.family);
            if parts.len() == self.doughs.len() && !offers.iter().any(same) {
                offers.push(parts);
            }
            if offers.len() >= MOST {
                break;
            }
        }
        offers
    }
}

/// Plans for two to four doughs, or why there are none. The fridge is the buffer: where no order works, the
/// later dough goes into it.
///
/// # Errors
/// Each field of the request that is wrong.
pub fn fit_many(
    formulas: &[(Formula, Option<Timestamp>)],
    ask: &FitAsk,
    kitchen: &Kitchen,
    tables: &Tables,
    clock: &dyn Fn(Timestamp) -> String,
) -> Result<Together, InputErrors> {
    let here = Pointer::root().at("formulas");
    if formulas.is_empty() || formulas.len() > MOST_DOUGHS {
        return Err(InputErrors::one(here, "Between one and four doughs are planned together."));
    }
    let mut ask = ask.clone();
    // With several breads the oven is for baking: no dough rises where another one is about to bake.
    if formulas.len() > 1 {
        ask.places.retain(|(place, _)| *place != Place::OvenLight);
    }
    let asks: Vec<FitAsk> = formulas.iter().map(|(_, ready)| FitAsk { ready_at: ready.or(ask.ready_at), ..ask.clone() }).collect();
    for (i, ask) in asks.iter().enumerate() {
        ask.check().map_err(|e| e.under(&here.at(i)))?;
    }
    let analyses: Vec<Analysis<'_>> = formulas.iter().map(|(f, _)| f.analyse(&tables.pantry, &tables.styles)).collect();
    let mut doughs = Vec::new();
    for (i, a) in analyses.iter().enumerate() {
        doughs.push(Bread::new(a, kitchen, tables).map_err(|e| e.under(&here.at(i)))?);
    }
    let kept = if formulas.len() == 2 { 3 } else { 1 };
    let planner = Planner { doughs: &doughs, asks: &asks, kept };
    let mut models = planner.models();
    let mut searches = planner.searches(&mut models);
    let whole = planner.orders(&mut searches, None);
    let mut offers = planner.offers(whole, &mut searches, None);
    if offers.is_empty() {
        // The fridge is the buffer: all but the first of an order wait in it.
        let cold = Some(vec![ScheduleFamily::ColdProof, ScheduleFamily::LeavenColdProof]);
        let colder: Vec<FitAsk> = asks.iter().map(|ask| FitAsk { families: cold.clone(), ..ask.clone() }).collect();
        let buffered = Planner { asks: &colder, ..planner };
        let mut models = buffered.models();
        let mut later = buffered.searches(&mut models);
        let whole = buffered.orders(&mut searches, Some(&mut later));
        offers = buffered.offers(whole, &mut searches, Some(&mut later));
    }
    let mut findings = Vec::new();
    if offers.is_empty() {
        // Why: the first dough that does not even stand alone, else that they do not stand together.
        let alone = formulas.iter().zip(&asks).find_map(|((f, _), ask)| {
            let answer = fit(f, ask, kitchen, tables, clock).ok()?;
            answer.offers.is_empty().then(|| answer.findings.into_iter().find(|x| x.id == "no-plan")).flatten()
        });
        findings.push(alone.unwrap_or_else(|| {
            together_not(
                "Each of these doughs has a plan, but not all of them together: one hour later for one of them, or one oven load less."
                    .to_owned(),
            )
        }));
    }
    Ok(Together { offers, findings })
}

fn together_not(message: String) -> Finding {
    crate::plan::findings::NO_PLAN.raised(Severity::Stop, message, Vec::new())
}
