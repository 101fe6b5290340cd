//! What a plan is made for: the bread, the kitchen, the other breads and the jars in it; and the search in it, once a request.

use actix_web::web::Data;
use cerealis_core::{
    formula::Formula,
    input::InputErrors,
    kitchen::Kitchen,
    plan::{
        Beside,
        fed::ready_leaven,
        later, minutes_between,
        search::{
            answer::{Answer, fit_first},
            offer::Offer,
        },
    },
};
use jiff::Timestamp;

use super::{
    super::{formula_kept, kitchen},
    asked::{Asked, asked},
    jar::Jars,
    query::Query,
};
use crate::{
    State, desk,
    edge::{Local, PageFailure, off_loop},
};

/// What a plan is made for.
pub(super) struct House {
    pub(super) kitchen: Kitchen,
    pub(super) formula: Formula,
    /// The other breads.
    pub(super) beside: Vec<Beside>,
    /// The jars, where the bread needs a leaven.
    pub(super) jars: Jars,
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

/// The name of an offer in an address.
pub(super) fn id_of(o: &Offer, index: usize) -> String {
    format!("{}-{}", o.family.word(), index + 1)
}

/// What was asked, and what the search found, once for a request.
pub(super) struct Searched {
    /// The query, with the hour that was taken where none was told.
    pub(super) q: Query,
    pub(super) asked: Asked,
    pub(super) form: Result<(), InputErrors>,
    pub(super) found: Result<Answer, InputErrors>,
    /// Which of the offers is meant: the one named, else one of its family, else the first.
    pub(super) chosen: usize,
}

impl House {
    pub(super) async fn of(state: &State, q: &Query) -> Result<Self, PageFailure> {
        let kitchen = kitchen(state).await?;
        let formula = formula_kept(state, &q.formula).await?;
        let beside = desk::bakes::beside(state, &kitchen, None).await?;
        let t = state.tables();
        let needs = ready_leaven(&formula.analyse(&t.pantry, &t.styles)).is_some();
        let jars = if needs { Jars::of(state, &kitchen, q.get("jar")).await? } else { Jars::default() };
        Ok(Self { kitchen, formula, beside, jars })
    }

    /// What a query asks, in this house.
    pub(super) fn asked(&self, q: &Query, now: Timestamp) -> (Asked, Result<(), InputErrors>) {
        let (mut asked, form) = asked(q, &self.kitchen, now);
        asked.ask.beside.clone_from(&self.beside);
        // What is told of the leaven goes before what its jar says.
        if q.get("ripe").is_none() && q.get("cold_days").is_none() {
            asked.ask.jar = self.jars.spent_seed();
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

/// The plan a query means, if it still stands.
pub(super) async fn meant(state: &Data<State>, q: Query) -> Result<(House, Asked, Option<Offer>), PageFailure> {
    let house = House::of(state, &q).await?;
    let q = q.settled(&Local::of(&house.kitchen), state.clock.now());
    let state = state.clone();
    let (house, searched) = off_loop(move || {
        let searched = house.search(q, &state);
        (house, searched)
    })
    .await?;
    let offer = searched.found.ok().and_then(|mut a| (searched.chosen < a.offers.len()).then(|| a.offers.swap_remove(searched.chosen)));
    Ok((house, searched.asked, offer))
}
