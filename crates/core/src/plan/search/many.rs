//! Two to four doughs, one baker, one oven: planned one after the other, in every order.

use jiff::Timestamp;

use super::{
    answer::{Dough, fit},
    ask::FitAsk,
    dough::DoughRises,
    hours::{Need, Span},
    offer::Offer,
    solve::Search,
    way::WayFamily,
};
use crate::{
    Tables,
    findings::{Finding, Severity},
    formula::{Analysis, Formula},
    input::{InputErrors, Pointer},
    kitchen::Kitchen,
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
/// Settings so near share an oven, °C.
pub const SAME_SETTING_C: f64 = 10.0;

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

struct Planner<'a, 'd> {
    doughs: &'d [Dough<'a>],
    asks: Vec<FitAsk>,
    /// How many plans of each dough are followed up.
    kept: usize,
}

#[derive(Clone)]
struct Partial {
    cost: f64,
    offers: Vec<(usize, Offer)>,
    hands: Vec<Span>,
    /// Oven spans with their setting.
    oven: Vec<(Span, f64)>,
}

impl Planner<'_, '_> {
    fn follow(&self, so_far: &Partial, next: usize, cold_only: bool) -> Vec<Partial> {
        let (Some(dough), Some(ask)) = (self.doughs.get(next), self.asks.get(next)) else { return Vec::new() };
        let ask = if cold_only {
            let cold = vec![WayFamily::ColdProof, WayFamily::LeavenColdProof];
            FitAsk { families: Some(cold), ..ask.clone() }
        } else {
            ask.clone()
        };
        let facts = dough.facts(&ask);
        let rules = dough.rules(&ask, &facts);
        let mut model = DoughRises::new(facts, &dough.tables.ferment);
        let mut search = Search::new(&mut model, rules);
        let mut day = dough.day(&ask);
        day.hands_taken.extend(&so_far.hands);
        let set = dough.oven.0.set_c;
        day.oven_taken.extend(so_far.oven.iter().filter(|o| (o.1 - set).abs() > SAME_SETTING_C).map(|o| o.0));
        let laid = search.plans(&day, self.kept);
        let works = search.rules.works.clone();
        let offers = dough.offers(&ask, &mut search, &laid);
        laid.iter()
            .zip(offers)
            .map(|(l, offer)| {
                let mut after = so_far.clone();
                after.cost += l.cost;
                for (work, start) in l.works.iter().zip(&l.starts) {
                    for seg in works.segs(*work) {
                        let span = Span::new(start + seg.offset, start + seg.offset + seg.length);
                        match seg.need {
                            Need::Hands => after.hands.push(span),
                            Need::Oven => after.oven.push((span, set)),
                            Need::Watch => {}
                        }
                    }
                }
                after.hands.extend(l.folds.iter().map(|at| Span::new(*at, at + 3)));
                after.offers.push((next, offer));
                after
            })
            .collect()
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
    let asks: Vec<FitAsk> = formulas.iter().map(|(_, ready)| FitAsk { ready_at: ready.or(ask.ready_at), ..ask.clone() }).collect();
    for (i, ask) in asks.iter().enumerate() {
        ask.check().map_err(|e| e.under(&here.at(i)))?;
    }
    let analyses: Vec<Analysis<'_>> = formulas.iter().map(|(f, _)| f.analyse(&tables.pantry, &tables.styles)).collect();
    let mut doughs = Vec::new();
    for (i, a) in analyses.iter().enumerate() {
        doughs.push(Dough::new(a, kitchen, tables).map_err(|e| e.under(&here.at(i)))?);
    }
    let kept = if formulas.len() == 2 { 3 } else { 1 };
    let planner = Planner { doughs: &doughs, asks, kept };
    let start = Partial { cost: 0.0, offers: Vec::new(), hands: Vec::new(), oven: Vec::new() };
    let mut whole: Vec<Partial> = Vec::new();
    for cold_last in [false, true] {
        for order in orders(formulas.len()) {
            let mut open = vec![start.clone()];
            for (nth, dough) in order.iter().enumerate() {
                let cold = cold_last && nth > 0;
                open = open.iter().flat_map(|p| planner.follow(p, *dough, cold)).collect();
            }
            whole.extend(open);
        }
        if !whole.is_empty() {
            break;
        }
    }
    whole.sort_by(|a, b| a.cost.total_cmp(&b.cost));
    let mut offers: Vec<Vec<Offer>> = Vec::new();
    for mut p in whole {
        p.offers.sort_by_key(|o| o.0);
        let parts: Vec<Offer> = p.offers.into_iter().map(|o| o.1).collect();
        let same = |x: &Vec<Offer>| x.iter().zip(&parts).all(|(a, b)| a.family == b.family);
        if !offers.iter().any(same) {
            offers.push(parts);
        }
        if offers.len() >= MOST {
            break;
        }
    }
    let mut findings = Vec::new();
    if offers.is_empty() {
        // Why: the first dough that does not even stand alone, else that they do not stand together.
        let alone = formulas.iter().zip(&planner.asks).find_map(|((f, _), ask)| {
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
    Finding {
        id: "no-plan",
        severity: Severity::Stop,
        message,
        why: "One baker, one oven.",
        source: "rise model",
        line: None,
        step: None,
        source_line: None,
        remedies: Vec::new(),
    }
}
