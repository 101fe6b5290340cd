//! The bread a plan is for: analysed once, its oven advised once.

use super::{
    ask::FitAsk,
    compare::compare,
    day::Day,
    dose::{UsualDose, added},
    dough::{DoughFacts, DoughRises, fridge_chills},
    families::{Fixed, families, rules, works_of},
    hours::Minute,
    offer::{Making, Offer},
    placing::PlacedSchedule,
    schedule::ScheduleFamily,
    solve::Search,
};
use crate::{
    Tables,
    findings::Finding,
    formula::{Analysis, Preferment, Raising, StyleId, bake_in, dough_of},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    oven::{Bake, at_its_setting},
    plan::{Mixing, OvenPlan, fed::ready_leaven, oven::COLD_DOUGH_C},
};

/// How long before the wanted hour the bread may be ready, minutes; rye keeps.
const EARLY_MIN: (Minute, Minute) = (720, 1440);

/// One dough made ready for the search: analysed once, its oven advised once.
pub struct Bread<'a> {
    /// The recipe in figures.
    pub analysis: &'a Analysis<'a>,
    /// The household.
    pub kitchen: &'a Kitchen,
    /// Tables.
    pub tables: &'a Tables,
    /// Its usual dose.
    pub usual: UsualDose,
    /// Its own preferment with baker's yeast.
    preferment: Option<Preferment>,
    /// The oven: warm dough, cold dough.
    pub oven: (OvenPlan, OvenPlan),
    bake: Bake,
    /// The work at the bowl.
    pub mixing: Mixing,
}

impl<'a> Bread<'a> {
    /// Analyses a dough and asks the oven.
    ///
    /// # Errors
    /// No flour; a setting too cool to bake it.
    pub fn new(analysis: &'a Analysis<'a>, kitchen: &'a Kitchen, tables: &'a Tables) -> Result<Self, InputErrors> {
        if analysis.flour_g.likely <= 0.0 {
            return Err(InputErrors::one(Pointer::root().at("formula"), "There is no flour in this formula, so there is nothing to plan."));
        }
        let bake = bake_in(analysis, kitchen, &tables.pantry);
        crate::oven::BakeBody::default().over(bake.clone())?;
        let warm = at_its_setting(&bake, &tables.oven);
        let first = OvenPlan::of(&warm, None, &tables.oven)?;
        // The cold loaf bakes at the same setting, only longer.
        let cold = Bake { dough_c: COLD_DOUGH_C, ..warm.clone() };
        let second = OvenPlan::of(&cold, None, &tables.oven).unwrap_or_else(|_| first.clone());
        let by_yeast = analysis.raising() == Some(Raising::Yeast);
        let preferment = analysis.preferment(&tables.pantry, &tables.styles).filter(|_| by_yeast);
        let usual = UsualDose::of(analysis, preferment.as_ref(), kitchen.scale_step_g);
        let mixing = Mixing::of(analysis, kitchen, tables);
        Ok(Self { analysis, kitchen, tables, usual, preferment, oven: (first, second), bake: warm, mixing })
    }

    /// What the rise model takes of it.
    #[must_use]
    pub fn facts(&self, ask: &FitAsk) -> DoughFacts {
        let a = self.analysis;
        let mut dough = dough_of(a, &self.tables.pantry, None);
        if let Some(by) = self.usual.by {
            dough.dose(by, self.usual.share);
        }
        if self.preferment.is_some() {
            a.leave_preferment_out(&mut dough, &self.tables.pantry);
        }
        let preferment = self.preferment.clone().unwrap_or_else(|| added(&dough));
        let leaven = ready_leaven(a).map_or(("plain-white", 100.0), |line| line.ingredient.leaven_flour());
        let places: Vec<_> = ask.places.iter().copied().filter(|(p, _)| self.is_free(*p, ask)).collect();
        let (dough_g, perishable) = (a.dough_g.likely.clamp(5.0, 20_000.0), a.is_perishable());
        DoughFacts {
            fridge_chills: fridge_chills(&places, perishable, dough_g, &self.tables.ferment),
            style: a.style.id.word().to_owned(),
            dough,
            dough_g,
            piece_g: self.bake.piece_g.clamp(5.0, 20_000.0),
            proof_vessel: self.bake.rises_in(),
            perishable,
            raising: self.usual.by,
            leaven: (self.usual.by == Some(Raising::Leaven)).then(|| (leaven.0.to_owned(), leaven.1)),
            cold_days: ask.cold_days.max(ask.jar.and_then(|j| j.cold_days).unwrap_or(0.0)),
            jar: ask.jar,
            preferment,
            reach_c: self.mixing.reach_c,
            folds: self.mixing.folds,
            paces: ask.paces,
            places,
            nights: ask.night.clone(),
            anchor: ask.at(0),
            altitude_m: self.kitchen.altitude_m,
            rate: 1.0,
            log_sigma: None,
        }
    }

    /// Whether a dough may stand there: the fridge if it is allowed, the oven if no other bread has it.
    fn is_free(&self, place: Place, ask: &FitAsk) -> bool {
        match place {
            Place::Fridge => ask.fridge,
            Place::OvenLight => ask.beside.iter().all(|b| b.oven.is_empty()),
            Place::Room | Place::Pantry | Place::ProofBox => true,
        }
    }

    fn fixed(&self, ask: &FitAsk) -> Fixed {
        Fixed {
            families: ask.families.clone(),
            lift_warm_limit: ask.lift_warm_limit,
            keep_dose: ask.keep_dose,
            leaven_ready: ask.leaven_ripe_at.is_some(),
            at_once: self.analysis.is_shaped_at_once(),
            loads: ask.loads,
        }
    }

    /// The families of ways there are to it, whichever are asked for.
    #[must_use]
    pub fn families(&self, ask: &FitAsk) -> Vec<ScheduleFamily> {
        families(self.analysis, &self.facts(ask), &self.usual, &Fixed { families: None, ..self.fixed(ask) })
    }

    /// Its rules under a request.
    #[must_use]
    pub fn rules(&self, ask: &FitAsk, facts: &DoughFacts) -> super::solve::Rules {
        let (warm, cold) = &self.oven;
        let works = works_of(self.analysis, &self.mixing, &ask.places, (warm, cold), &self.bake, ask.loads);
        rules(self.analysis, facts, works, &self.usual, &self.fixed(ask))
    }

    /// How long before the wanted hour it may be ready.
    #[must_use]
    pub fn early(&self) -> Minute {
        if self.analysis.style.id == StyleId::Rye { EARLY_MIN.1 } else { EARLY_MIN.0 }
    }

    /// The request in minutes, for this bread.
    #[must_use]
    pub fn day(&self, ask: &FitAsk) -> Day {
        ask.day(self.early(), self.oven.0.asks())
    }

    /// The offers of laid ways.
    pub fn offers(&self, ask: &FitAsk, search: &mut Search<'_, DoughRises<'_>>, laid: &[PlacedSchedule]) -> Vec<Offer> {
        let rules = search.rules.clone();
        let mut making = Making {
            analysis: self.analysis,
            ask,
            day: self.day(ask),
            kitchen: self.kitchen,
            tables: self.tables,
            rules: &rules,
            rises: search.model,
            oven: &self.oven,
            usual: &self.usual,
            mixing: &self.mixing,
        };
        let mut offers: Vec<Offer> = laid.iter().filter_map(|l| making.offer(l).ok()).collect();
        compare(&mut offers, self.usual.mixed_share * self.usual.pct);
        offers
    }

    /// What the formula's own check says of a dose that was cut.
    pub(super) fn cut_findings(&self) -> Vec<Finding> {
        let all = if self.usual.is_cut() { crate::formula::find(self.analysis, self.tables) } else { Vec::new() };
        all.into_iter().filter(|f| matches!(f.id, "yeast-high" | "yeast-much" | "yeast-low" | "leaven-much" | "leaven-high")).collect()
    }
}
