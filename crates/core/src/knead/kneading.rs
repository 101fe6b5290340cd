//! What a kneading comes to, and the other ways to the same end.

use serde::Serialize;

use super::{
    Constants, Folds, KneadAsk, KneadPhase, Method, PhaseKind, Until, Work,
    ask::START_C,
    fridge_min,
    programme::Programme,
    state::{Moment, Phase, State},
};
use crate::{
    ferment,
    formula::Styles,
    input::InputErrors,
    measure::{Band, Working},
};

/// Another way to the same end.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct OtherWay {
    /// A method, or `long-rest`: by hand after an hour's rest.
    pub method: String,
    /// From the mix to the end of kneading, minutes.
    pub minutes: f64,
    /// Hands at it, folds too, minutes.
    pub hands_on_min: f64,
    /// Folds over the first rise.
    pub folds: u32,
    /// The first rise, minutes.
    pub bulk_min: f64,
    /// The dough when it leaves the bowl, °C.
    pub dough_c: f64,
}

/// What a kneading comes to. Development is a share of the flour's own best; of the target, 1 is done.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "names of the API")]
pub struct Kneading {
    pub phases: Vec<KneadPhase>,
    pub target: f64,
    pub gluten: f64,
    /// Against the target; none where nothing is to develop.
    pub development: Option<Band>,
    pub development_at_shaping: Option<f64>,
    pub bulk_min: f64,
    pub dough_c: Band,
    pub folds: u32,
    pub fold_at_min: Vec<f64>,
    pub knead_min: f64,
    pub elapsed_min: f64,
    pub hands_on_min: f64,
    pub watch_min: f64,
    pub batches: u32,
    pub fridge_min: f64,
    /// Of the development, what work did.
    pub by_work: f64,
}

/// The name of the way by hand after a long rest.
pub const LONG_REST: &str = "long-rest";
/// How long such a rest is at least, minutes.
pub const LONG_REST_MIN: f64 = 60.0;
/// From how much fat on butter that is worked in late is no work for a food processor, percent of the flour.
const PROCESSOR_BUTTER_PCT: f64 = 20.0;

/// As a page says a way.
#[must_use]
pub fn way_title(way: &str) -> &'static str {
    if way == LONG_REST { "an hour’s rest, then by hand" } else { Method::from_word(way).map_or("otherwise", Method::title) }
}

impl KneadAsk {
    /// The name of its way: a method, or `long-rest`.
    #[must_use]
    pub fn way(&self) -> &str {
        let long = self.method == Method::Hand.word() && self.rest_min >= LONG_REST_MIN;
        if long { LONG_REST } else { &self.method }
    }

    /// The ways to the same end, each with its name: a method, or `long-rest`, by hand after an hour's rest. With minutes, folds
    /// and what was learned left to the table.
    ///
    /// # Errors
    /// The first figure that is wrong.
    pub fn ways(&self, k: &Constants, styles: &Styles, rise: &ferment::Constants) -> Result<Vec<(&'static str, Self)>, InputErrors> {
        let own = self.check(k, styles, rise)?;
        let target = own.target();
        if target == 0.0 {
            return Ok(Vec::new());
        }
        let (h, n) = (self.h_adj, &k.numbers);
        let plain = Self { minutes: None, folds: None, friction_k_per_min: None, speed_factor: 1.0, ..self.clone() };
        let by = |method: Method| Self { method: method.word().to_owned(), ..plain.clone() };
        let late_butter = self.butter_late && self.fat_pct >= PROCESSOR_BUTTER_PCT;
        let bulk = self.bulk_min.unwrap_or(own.of_style.bulk_min).max(n.fold_bulk_min);
        let long = self.bulk_min.unwrap_or(0.0).max(n.no_knead_bulk_min);
        let rested = Self { rest_min: self.rest_min.max(LONG_REST_MIN), ..by(Method::Hand) };
        let ways = [
            (Method::Hand.word(), h <= 78.0, by(Method::Hand)),
            (Method::Slap.word(), h >= 65.0, by(Method::Slap)),
            (Method::PlanetaryMedium.word(), true, by(Method::PlanetaryMedium)),
            (Method::SpiralHigh.word(), true, by(Method::SpiralHigh)),
            (Method::Processor.word(), h <= 75.0 && self.flour_g <= 900.0 && !late_butter, by(Method::Processor)),
            (LONG_REST, h <= 78.0, rested),
            (Method::Fold.word(), self.fat_pct < 20.0 && h >= 62.0, Self { bulk_min: Some(bulk), ..by(Method::Fold) }),
            (
                Method::NoKnead.word(),
                self.fat_pct < 10.0 && self.sugar_pct < 10.0 && h >= 65.0,
                Self { bulk_min: Some(long), ..by(Method::NoKnead) },
            ),
        ];
        let reaches_end = |ask: &Self| {
            ask.check(k, styles, rise).is_ok_and(|work| {
                let done = work.kneading();
                let reaches = if work.method.is_passive() {
                    done.development_at_shaping.unwrap_or_default() * target
                } else {
                    done.gluten + work.fold_gain(work.of_style.folds)
                };
                let folded_too_often = work.method == Method::NoKnead && f64::from(done.folds) > n.no_knead_folds_max;
                reaches >= n.short_at * target && !folded_too_often
            })
        };
        Ok(ways.into_iter().filter(|(_, fits, ask)| *fits && reaches_end(ask)).map(|(name, _, ask)| (name, ask)).collect())
    }

    /// The other ways to the same end and what each comes to; without the own one.
    ///
    /// # Errors
    /// The first figure that is wrong.
    pub fn other_ways(&self, k: &Constants, styles: &Styles, rise: &ferment::Constants) -> Result<Vec<OtherWay>, InputErrors> {
        let others = self.ways(k, styles, rise)?.into_iter().filter(|(name, _)| *name != self.method);
        let way = |(name, ask): (&str, Self)| {
            let done = ask.check(k, styles, rise).ok()?.kneading();
            Some(OtherWay {
                method: name.to_owned(),
                minutes: done.elapsed_min,
                hands_on_min: done.hands_on_min,
                folds: done.folds,
                bulk_min: done.bulk_min,
                dough_c: done.dough_c.likely,
            })
        };
        Ok(others.filter_map(way).collect())
    }
}

impl Work<'_> {
    /// What it comes to.
    #[must_use]
    pub fn kneading(&self) -> Kneading {
        let (n, ask, target) = (&self.k.numbers, &self.ask, self.target());
        let Programme { state, mut phases, knead_min } = self.programme(false);
        let (batches, _) = self.batches();
        let bulk_min = ask.bulk_min.unwrap_or(self.of_style.bulk_min);
        let slow = rested(&state, bulk_min);
        let folds = self.folds_out(target - state.gluten() - slow, target);
        let at_shaping = state.gluten() + self.fold_gain(folds) + slow;
        let of_target = |d: f64| (target > 0.0).then(|| d / target);
        let (work_min, soak_min) = phases.iter().fold((0.0, 0.0), |(work, soak), p| match p.kind {
            PhaseKind::Soak => (work, soak + p.minutes.likely),
            _ => (work + p.minutes.likely, soak),
        });
        let times = f64::from(batches);
        let once = if self.row.machine { tended(&phases) } else { work_min };
        let dough_c = self.warmth(state.moment(), knead_min > 0.0);
        let hot = dough_c.likely > self.stop_c();
        let want_c = f64::midpoint(self.dough_c.0, self.dough_c.1);
        let fold = KneadPhase {
            kind: PhaseKind::Fold,
            minutes: Band { low: n.fold_hands_min, likely: n.fold_hands_min, high: n.fold_hands_min },
            speed: "hand".to_owned(),
            until: Until::HoldsShape,
            portions: 0.0,
        };
        phases.extend((0..folds).map(|_| fold.clone()));
        let spread = self.spread();
        Kneading {
            phases,
            target,
            gluten: state.gluten(),
            development: of_target(state.gluten()).map(|likely| Band {
                low: (state.by_rest + state.by_work / spread) / target,
                likely,
                high: (state.by_rest + state.by_work * spread) / target,
            }),
            development_at_shaping: of_target(at_shaping),
            bulk_min,
            dough_c,
            folds,
            fold_at_min: Folds::of(folds, n).times(bulk_min).collect(),
            knead_min,
            elapsed_min: work_min * times + soak_min,
            hands_on_min: once * times + n.fold_hands_min * f64::from(folds),
            watch_min: if self.row.machine { work_min * times } else { 0.0 },
            batches,
            fridge_min: if hot { fridge_min(state.grams, dough_c.likely, want_c, ask.fridge_c, self.rise) } else { 0.0 },
            by_work: state.by_work,
        }
    }

    /// The temperature before it is worked with which it leaves the bowl at another one, °C, where it is worked and rested as
    /// these phases say: the method and its minutes, or a rest.
    #[must_use]
    pub fn start_for(&self, target_c: f64, phases: &[(Option<Method>, f64)]) -> f64 {
        let end = |start_c: f64| {
            let mut s = State::begin(self, self.batches().1, start_c);
            for (method, minutes) in phases {
                let row = method.and_then(|m| self.k.methods.get(m.word()).map(|row| (row, m == self.method)));
                s.run(row.map_or(Phase::Rest, |(row, own)| Phase::Worked(row, own)), *minutes);
            }
            s.celsius()
        };
        // It is linear in the start.
        let (at_0, at_10) = (end(0.0), end(10.0));
        10.0 * (target_c - at_0) / (at_10 - at_0)
    }

    /// The same dough, started so that it leaves the bowl at a temperature, °C; as near as a start between -5 and 45 °C comes.
    #[must_use]
    pub fn leaving_at(&self, target_c: f64) -> Self {
        const ROUNDS: usize = 4;
        const NEAR_K: f64 = 1e-3;
        let within = |start_c: f64| start_c.clamp(START_C.0, START_C.1);
        let ends = |start_c: f64| self.starting_at(start_c).leaves_at();
        let mut before = within(target_c);
        let mut ended = ends(before);
        let mut at = within(before + target_c - ended);
        // All but linear: minutes hang on the start a little, and a long soak forgets most of it.
        for _ in 0..ROUNDS {
            let end = ends(at);
            let slope = (end - ended) / (at - before);
            if (end - target_c).abs() < NEAR_K || !slope.is_normal() {
                break;
            }
            (before, ended) = (at, end);
            at = within(at + (target_c - end) / slope);
        }
        self.starting_at(at)
    }

    /// The same dough from another start, °C.
    #[must_use]
    pub fn starting_at(&self, start_c: f64) -> Self {
        Self { ask: KneadAsk { start_c, ..self.ask.clone() }, ..self.clone() }
    }

    /// How warm it leaves the bowl, °C.
    #[must_use]
    pub fn leaves_at(&self) -> f64 {
        self.programme(false).state.celsius()
    }

    /// K by which friction, bowl and room together warm it from its start to the end of kneading, below 0 where they cool it;
    /// and K of friction alone.
    #[must_use]
    pub fn warms_k(&self) -> (f64, f64) {
        let state = self.programme(false).state;
        (state.celsius() - self.ask.start_c, state.friction_k)
    }

    /// How warm it is, and how sure: by friction, by the spread of planned minutes, by thermometers.
    pub(super) fn warmth(&self, at: Moment, kneaded: bool) -> Band {
        let n = &self.k.numbers;
        let friction = if self.ask.friction_k_per_min.is_some() { n.friction_spread_learnt } else { n.friction_spread };
        let planned = if kneaded && self.ask.minutes.is_none() { self.spread() - 1.0 } else { 0.0 };
        let half = (friction.hypot(planned) * at.friction_k).hypot(n.start_spread_k);
        Band { low: at.celsius - half, likely: at.celsius, high: at.celsius + half }
    }

    /// Folds over the first rise: as asked, else as the style has them, or as many as close the gap.
    fn folds_out(&self, gap: f64, target: f64) -> u32 {
        let usual = self.of_style.folds;
        match (self.folds, self.ask.minutes) {
            (Some(asked), _) => asked,
            _ if target == 0.0 => 0,
            _ if self.method.is_passive() => self.folds_needed(gap),
            (None, Some(_)) => usual.max(self.folds_needed(gap)),
            (None, None) => usual,
        }
    }
}

impl Kneading {
    /// How warm it leaves the bowl and how far it is, worked out.
    #[must_use]
    pub fn working(&self, ask: &KneadAsk) -> Vec<Working> {
        vec![
            Working::given("dough before it is worked", ask.start_c, "°C"),
            Working::given("warmed by friction, cooled by bowl and room", self.dough_c.likely - ask.start_c, "K")
                .by("friction a minute × minutes × (reference mass / mass)^0.3, less Newton's cooling")
                .from("common practice, ±40 % of the friction"),
            Working::given("dough out of the bowl", self.dough_c.likely, "°C"),
            Working::given("development wanted", self.target, "of this flour's best")
                .by("of the style × (1 − 0.3 wholegrain) × (1 − 0.8 rye)")
                .from("estimates and fits, ±0.15"),
            Working::given("development reached", self.gluten, "of this flour's best")
                .by("Σ speed × water × flour, fat, sugar, salt × warmth × minutes, and what rest gives")
                .from("kneading model, fitted to bakers' minutes, ±25 %"),
        ]
    }
}

/// What a rest gives.
fn rested(state: &State<'_>, minutes: f64) -> f64 {
    let mut later = state.clone();
    later.run(Phase::Rest, minutes);
    later.by_rest - state.by_rest
}

/// Minutes at a machine that kneads by itself: one a phase, half a minute a portion of butter, one to empty the bowl.
fn tended(phases: &[KneadPhase]) -> f64 {
    let each = phases.iter().map(|p| match p.kind {
        PhaseKind::Soak => 0.0,
        PhaseKind::Butter => 0.5 * p.portions,
        _ => 1.0,
    });
    each.sum::<f64>() + 1.0
}
