//! A plan as it is offered: its clock, its places, its dose, how sure it is, and why one would take it.

use super::{
    ask::FitAsk,
    curve::OpenStay,
    day::Day,
    dose::{Dose, UsualDose},
    dough::DoughRises,
    hours::{AwayKind, Minute},
    judge::{is_risky, risk_word},
    placing::{PlacedRise, PlacedSchedule},
    schedule::{Leg, RiseOf, Schedule, ScheduleFamily, Work},
    solve::Rules,
};
use jiff::Timestamp;

use crate::{
    Tables,
    ferment::{Dough, LeavenState, RiseKind, RiseStage, lay_acts},
    findings::{Finding, Severity},
    formula::{Analysis, Formula, WARM_LIMIT_MIN},
    input::{InputErrors, Pointer},
    kitchen::{Kitchen, Minutes, Place, Stay},
    measure::{celsius, degrees, show},
    plan::{Actual, Course, FittedPlan, FittedRise, Mixing, OvenPlan, PlanAsk, PlanStep, RisePlan, StepKind, course, findings},
    words::capitalized,
};

/// A rise of an offer, as the rise model takes it.
#[derive(Debug, Clone, PartialEq)]
pub struct OfferRise {
    /// Which.
    pub kind: RiseOf,
    /// Its stages with their places.
    pub stages: Vec<(Place, RiseStage)>,
    /// Ripeness at its end as a ratio of dough times.
    pub ripeness: f64,
    /// Where it is over.
    pub over: f64,
    /// Spread of ln(rate) over it.
    pub sigma: f64,
    /// Seed, water, flour, in parts.
    pub feed: Option<(f64, f64, f64)>,
}

/// A plan on offer.
#[derive(Debug, Clone)]
pub struct Offer {
    /// Its family.
    pub family: ScheduleFamily,
    /// What ripens where.
    pub schedule: Schedule,
    /// Its name.
    pub name: String,
    /// What bake day works from.
    pub ask: PlanAsk,
    /// Its clock.
    pub course: Course,
    /// The formula to weigh.
    pub formula: Formula,
    /// Its dose.
    pub dose: Option<Dose>,
    /// The rises.
    pub rises: Vec<OfferRise>,
    /// The leaven when it is mixed in.
    pub leaven: Option<LeavenState>,
    /// Chance that it spoils, and that it is late.
    pub p_spoil: f64,
    /// That it is late.
    pub p_late: f64,
    /// When the rise that is likeliest to go over is acted on, and why not sooner: until when nobody is there.
    pub risk_at: Option<(Timestamp, Option<(AwayKind, Timestamp)>)>,
    /// The least that any act may wait, minutes.
    pub slack_min: f64,
    /// Minutes of hands.
    pub hands_on_min: f64,
    /// Minutes out of the fridge, of a dough with egg or milk.
    pub warm_min: Option<f64>,
    /// Hours of rising.
    pub rise_h: f64,
    /// How often one has to come.
    pub visits: usize,
    /// Minutes ready before the wanted hour.
    pub early_min: f64,
    /// Cautions of this way.
    pub findings: Vec<Finding>,
    /// Why.
    pub reasons: Vec<String>,
    /// Why not.
    pub trade_offs: Vec<String>,
}

impl Offer {
    /// The risk in a word.
    #[must_use]
    pub const fn risk(&self) -> &'static str {
        risk_word(self.p_spoil)
    }

    /// Whether the risk is worth a word.
    #[must_use]
    pub const fn is_risky(&self) -> bool {
        is_risky(self.p_spoil)
    }

    /// The risk with its reason: `risky: 1 in 4 past ripe by 06:30, you are asleep until 06:30`.
    #[must_use]
    pub fn risk_words(&self, clock: &dyn Fn(Timestamp) -> String) -> String {
        if !self.is_risky() {
            return self.risk().to_owned();
        }
        let of = show((1.0 / self.p_spoil).max(2.0), 0);
        let by = self.risk_at.map_or_else(String::new, |(at, gone)| {
            let why = gone.map_or_else(String::new, |(kind, until)| format!(", {} until {}", kind.you_are(), clock(until)));
            format!(" by {}{why}", clock(at))
        });
        format!("{}: 1 in {of} past ripe{by}", self.risk())
    }
}

/// Everything an offer is made from.
pub struct Making<'a, 'm> {
    /// The recipe.
    pub analysis: &'a Analysis<'a>,
    /// The request.
    pub ask: &'a FitAsk,
    /// The same in minutes.
    pub day: Day,
    /// The household with the places asked for.
    pub kitchen: &'a Kitchen,
    /// Tables.
    pub tables: &'a Tables,
    /// Rules of the search.
    pub rules: &'a Rules,
    /// The rises.
    pub rises: &'a mut DoughRises<'m>,
    /// The oven: warm dough, cold dough.
    pub oven: &'a (OvenPlan, OvenPlan),
    /// The usual dose of the recipe.
    pub usual: &'a UsualDose,
    /// The work at the bowl.
    pub mixing: &'a Mixing,
}

impl Making<'_, '_> {
    /// The offer of a laid way.
    ///
    /// # Errors
    /// What the course refuses.
    pub fn offer(&mut self, laid: &PlacedSchedule) -> Result<Offer, InputErrors> {
        let Some(schedule) = self.rules.schedules.get(laid.schedule).cloned() else { return Err(InputErrors(Vec::new())) };
        let formula =
            self.usual.weigh(self.analysis, &schedule, self.tables).map_err(|why| InputErrors::one(Pointer::root().at("formula"), why))?;
        let at_mix = laid.rises.iter().rfind(|r| matches!(r.rise, RiseOf::Leaven | RiseOf::Preferment)).map_or(1.0, |r| r.judged.ripeness);
        let dough = self.rises.dough(&schedule, at_mix);
        let leaven = dough.leaven.as_ref().and_then(|l| l.1);
        let ask = self.plan_ask(laid, &schedule, &formula, &dough);
        let course = course(&formula, &ask, None, &Actual::default(), self.kitchen, self.tables)?;
        let dose = self.usual.told(self.analysis, &formula, &schedule);
        let slack = laid.rises.iter().map(|r| r.slack.1).min().unwrap_or(240);
        let minutes = |kinds: &[RiseOf]| -> Minute { laid.rises.iter().filter(|r| kinds.contains(&r.rise)).map(|r| r.to - r.from).sum() };
        Ok(Offer {
            family: schedule.family,
            schedule: schedule.clone(),
            name: self.name(&schedule, laid),
            rises: self.rise_list(laid, &schedule),
            leaven,
            p_spoil: laid.p_spoil,
            p_late: laid.p_late,
            risk_at: self.risk_at(laid),
            slack_min: f64::from(slack),
            hands_on_min: f64::from(laid.hands_min),
            warm_min: self.rises.facts().perishable.then(|| f64::from(laid.warm_min)),
            rise_h: f64::from(minutes(&[RiseOf::Bulk, RiseOf::Proof])) / 60.0,
            visits: laid.works.len() + laid.folds.len(),
            early_min: self.day.ready.map_or(0.0, |wanted| f64::from(wanted - laid.ready)),
            findings: self.cautions(laid, &schedule),
            reasons: Vec::new(),
            trade_offs: Vec::new(),
            ask,
            course,
            formula,
            dose,
        })
    }

    /// The rise with the least margin: when it is acted on, and who is not there just before.
    fn risk_at(&self, laid: &PlacedSchedule) -> Option<(Timestamp, Option<(AwayKind, Timestamp)>)> {
        let margin = |r: &PlacedRise| (r.judged.over / r.judged.exposed.max(1e-9)).ln() / r.judged.sigma.max(1e-9);
        let worst = laid.rises.iter().min_by(|a, b| margin(a).total_cmp(&margin(b)))?;
        let before = self.day.away.iter().filter(|a| a.span.from < worst.to && a.span.to > worst.from && a.span.to <= worst.to);
        Some((self.ask.at(worst.to), before.max_by_key(|a| a.span.to).map(|a| (a.kind, self.ask.at(a.span.to)))))
    }

    /// Water to flour in the leaven, percent.
    fn hydration_pct(&self) -> f64 {
        self.rises.facts().leaven.as_ref().map_or(100.0, |l| l.1)
    }

    fn place_c(&self, place: Place) -> f64 {
        self.rises.facts().places.iter().find(|(p, _)| *p == place).map_or(21.0, |p| p.1)
    }

    /// How warm the room is in the half of shaping that counts as proof.
    fn shape_c(&self, laid: &PlacedSchedule, schedule: &Schedule) -> Option<f64> {
        let proof = laid.rises.iter().find(|r| r.rise == RiseOf::Proof)?;
        proof.stays.first().filter(|_| proof.stays.len() > schedule.proof.len()).map(|s| s.celsius)
    }

    fn stands(&self, laid: &PlacedSchedule, rise: RiseOf, legs: &[Leg]) -> FittedRise {
        let placed = laid.rises.iter().find(|r| r.rise == rise);
        let stays = placed.map(|p| p.own_stays(legs.len())).unwrap_or_default();
        let stand = |s: &OpenStay| s.lasting(Minutes { minutes: s.span.map_or(0.0, f64::from) });
        FittedRise {
            stands: stays.iter().map(stand).collect(),
            ripeness: placed.map_or(1.0, |p| p.judged.ripeness),
            early_min: placed.map_or(0.0, |p| f64::from(p.slack.0)),
            late_min: placed.map_or(0.0, |p| f64::from(p.slack.1)),
        }
    }

    fn plan_ask(&self, laid: &PlacedSchedule, schedule: &Schedule, formula: &Formula, dough: &Dough) -> PlanAsk {
        let w = &self.rules.works;
        let mix = laid.start_of(|x| x == Work::Mix).unwrap_or(0);
        let mixed = mix + w.length(Work::Mix);
        let rest = schedule.family == ScheduleFamily::Rest;
        let gap = |i: usize| {
            let at = |k: usize| laid.starts.get(k).copied().unwrap_or(0);
            f64::from(at(i + 1) - at(i) - laid.works.get(i).map_or(0, |x| w.length(*x)))
        };
        let room = |minutes: f64| FittedRise {
            stands: vec![Stay::at((Place::Room, self.place_c(Place::Room)), Minutes { minutes })],
            ripeness: 1.0,
            early_min: 0.0,
            late_min: 120.0,
        };
        let bulk =
            if rest { Some(room(gap(0))) } else { (!schedule.bulk.is_empty()).then(|| self.stands(laid, RiseOf::Bulk, &schedule.bulk)) };
        let proof = if rest { room(gap(1)) } else { self.stands(laid, RiseOf::Proof, &schedule.proof) };
        let plan_of = |l: &FittedRise, pace| {
            // The place it is in longest is the one it is called by.
            let longest = l.stands.iter().max_by(|a, b| a.span.minutes.total_cmp(&b.span.minutes));
            RisePlan { place: longest.map_or(Place::Room, |s| s.place), place_c: longest.map_or(21.0, |s| s.celsius), pace }
        };
        let cold = w.bakes_cold(schedule);
        let (first, _, second) = w.shape;
        PlanAsk {
            start: self.ask.at(mix),
            mix_min: f64::from(mixed - mix),
            mixing: self.mixing.acts.clone(),
            mix_c: schedule.mix_c,
            bulk: bulk.as_ref().filter(|_| !rest).map(|b| plan_of(b, self.ask.paces.0)),
            proof: plan_of(&proof, self.ask.paces.1),
            folds: u32::try_from(laid.folds.len()).unwrap_or(0),
            set_c: self.analysis.formula.own_setting(&self.kitchen.oven),
            laid: Some(Box::new(FittedPlan {
                family: schedule.family,
                before: self.before(laid, schedule, formula),
                bulk,
                proof,
                folds_min: laid.folds.iter().map(|at| f64::from(at - mixed)).collect(),
                mix_hands_min: f64::from(w.mix + w.knead),
                shape_c: self.shape_c(laid, schedule),
                shape_min: (f64::from(w.shape_min()), f64::from(first + second)),
                glaze_min: w.finish.first().map_or(0.0, |f| f64::from(f.1)),
                load_min: f64::from(w.load),
                loads: (u32::try_from(w.loads).unwrap_or(1), f64::from(w.pitch(cold))),
                oven: if cold { self.oven.1.clone() } else { self.oven.0.clone() },
                leaven: dough.leaven.as_ref().and_then(|l| l.1),
                preferment_yeast_pct: dough.preferment_yeast_pct,
            })),
        }
    }

    /// What goes before the mix.
    fn before(&self, laid: &PlacedSchedule, schedule: &Schedule, formula: &Formula) -> Vec<PlanStep> {
        let step =
            |kind: StepKind, from: Minute, to: Minute, hands: Minute, place: &str, words: String, slack: Option<(Minute, Minute)>| {
                let sign = self.tables.signs.of(kind, self.analysis.style.id.word(), crate::ferment::Pace::Usual, 2.0, false);
                PlanStep {
                    kind,
                    start: self.ask.at(from),
                    end: self.ask.at(to),
                    low: slack.map(|s| self.ask.at(to - s.0)),
                    high: slack.map(|s| self.ask.at(to + s.1)),
                    hands_on_min: f64::from(hands),
                    place: place.to_owned(),
                    sign: sign.right,
                    under: sign.under,
                    over: sign.over,
                    instruction: words,
                    words: Vec::new(),
                }
            };
        let mut before = Vec::new();
        let early: Vec<_> = laid.rises.iter().filter(|r| matches!(r.rise, RiseOf::Leaven | RiseOf::Preferment)).collect();
        for (i, r) in early.iter().enumerate() {
            let begins = r.from - self.rules.works.feed;
            let place = schedule.feeds.get(i).map(|f| f.place).or(schedule.sponge.map(|s| s.place)).unwrap_or(Place::Room);
            let (stirred, kind, words) = match schedule.feeds.get(i) {
                Some(feed) => (StepKind::Feed, StepKind::Leaven, self.usual.feed_words(schedule, i, *feed, self.hydration_pct())),
                None => (StepKind::Stir, StepKind::Preferment, self.usual.sponge_words(formula)),
            };
            before.push(step(stirred, begins, r.from, self.rules.works.feed, "bench", words, None));
            let here = r.stays.first().map_or_else(|| self.place_c(place), |s| s.celsius);
            let where_to = format!("In the {}, {}.", place.name(), degrees(here).short());
            before.push(step(kind, r.from, r.to, 0, place.name(), where_to, Some(r.slack)));
        }
        if let (Some((work, cools)), Some(mix)) = (self.rules.works.scald, laid.start_of(|x| x == Work::Mix)) {
            let words = concat!(
                "Pour boiling liquid over the flour, stir smooth, cover. Let it cool below ",
                celsius!(35 short),
                ". Mind the steam."
            )
            .to_owned();
            before.push(step(StepKind::Scald, mix - work - cools, mix - cools, work, "bench", words, None));
        }
        before
    }

    fn rise_list(&self, laid: &PlacedSchedule, schedule: &Schedule) -> Vec<OfferRise> {
        laid.rises
            .iter()
            .map(|r| {
                let stages = |kind| -> Vec<(Place, RiseStage)> {
                    let stage =
                        |s: &OpenStay| (s.place, self.rises.stage(kind, Some((s.place, s.celsius)), s.span.map(|m| f64::from(m.max(1)))));
                    r.own_stays(r.stays.len()).iter().map(stage).collect()
                };
                let (open, here) = (f64::from(r.open_min), r.stays.first().copied());
                let (place, place_c) = here.map_or((Place::Room, 21.0), |s| (s.place, s.celsius));
                let mut feed = None;
                let stages = match r.rise {
                    RiseOf::Leaven => {
                        let ratio = schedule.feeds.get(r.feed).map_or(1.0, |f| f.ratio);
                        feed = Some((1.0, ratio * self.hydration_pct() / 100.0, ratio));
                        vec![(place, RiseStage { minutes: Some(open), ..RiseStage::until_ripe(RiseKind::Leaven, place_c, 200.0) })]
                    }
                    RiseOf::Preferment => {
                        let pct = schedule.sponge.map_or(0.1, |s| s.pct);
                        self.rises.sponge(pct, 24.0, place_c, Some(open)).stages.into_iter().map(|s| (place, s)).collect()
                    }
                    RiseOf::Bulk => {
                        let mut stages = stages(RiseKind::Bulk);
                        let acts = laid.folds.iter().map(|at| (f64::from(at - r.from), self.rules.folds.0.act())).collect();
                        lay_acts(stages.iter_mut().map(|(_, stage)| stage), acts);
                        stages
                    }
                    RiseOf::Proof => stages(RiseKind::Proof),
                };
                OfferRise { kind: r.rise, stages, ripeness: r.judged.ripeness, over: r.need.over, sigma: r.judged.sigma, feed }
            })
            .collect()
    }

    fn name(&self, schedule: &Schedule, laid: &PlacedSchedule) -> String {
        let asleep =
            |from: Minute, to: Minute| self.day.away.iter().any(|a| a.kind == AwayKind::Asleep && a.span.from < to && a.span.to > from);
        let longest = laid.rises.iter().filter(|r| matches!(r.rise, RiseOf::Bulk | RiseOf::Proof)).max_by_key(|r| r.to - r.from);
        let night = longest.is_some_and(|r| asleep(r.from, r.to) && r.to - r.from >= 300);
        let place = longest.map(|r| {
            let legs = if r.rise == RiseOf::Bulk { &schedule.bulk } else { &schedule.proof };
            legs.iter().find(|l| l.minutes.is_none()).map_or(Place::Room, |l| l.place)
        });
        let over = if night { "overnight " } else { "" };
        let counter = |p: Option<Place>| match p {
            Some(Place::Pantry) => "in the pantry",
            Some(Place::ProofBox) => "in the box",
            Some(Place::OvenLight) => "in the oven with the light on",
            Some(Place::Fridge) => "in the fridge",
            _ => "on the counter",
        };
        let words = match schedule.family {
            ScheduleFamily::SameDay if night => format!("{over}{}", counter(place)),
            ScheduleFamily::SameDay => "All in a day".to_owned(),
            ScheduleFamily::Slow => format!("{}{}", if night { "overnight " } else { "slowly " }, counter(place)),
            // What is added is as much water as flour: a poolish.
            ScheduleFamily::Preferment if self.usual.early_pct.is_none() => "A poolish first".to_owned(),
            ScheduleFamily::Preferment => "Its preferment first".to_owned(),
            ScheduleFamily::ColdBulk | ScheduleFamily::LeavenColdBulk => format!("Dough {over}in the fridge"),
            ScheduleFamily::ColdProof | ScheduleFamily::LeavenColdProof => format!("Shaped, {over}in the fridge"),
            ScheduleFamily::LeavenOnce if night => format!("{over}{}", counter(place)),
            ScheduleFamily::LeavenOnce => "All warm, in a day".to_owned(),
            ScheduleFamily::LeavenTwice => "Leaven fed twice".to_owned(),
            ScheduleFamily::Rest => "Mixed, rested, baked".to_owned(),
        };
        capitalized(&words)
    }

    fn cautions(&self, laid: &PlacedSchedule, schedule: &Schedule) -> Vec<Finding> {
        let mut found = Vec::new();
        let warm_min = f64::from(laid.warm_min);
        if self.rises.facts().perishable && warm_min > WARM_LIMIT_MIN {
            found.push(findings::left_warm(warm_min));
        }
        if laid.folds.len() < self.rules.folds.1 && !schedule.bulk.is_empty() {
            let words = "Nobody is there to fold it: knead 4 min more at the start instead.";
            found.push(super::FOLDS_MISSED.raised(Severity::Note, words.to_owned(), Vec::new()));
        }
        found
    }
}
