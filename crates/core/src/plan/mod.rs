//! The acts of a bake with their clock times, from the rise and the oven, and the same acts again
//! from what has happened so far.

mod actual;
mod beside;
mod course;
mod elsewhere;
pub mod fed;
pub mod findings;
mod finish;
mod fitted;
mod foreseen;
mod loads;
mod mixing;
mod oven;
mod own_words;
pub mod replan;
mod rest;
mod rises;
pub mod search;
mod seen;
mod shown;
mod signs;
mod steps;
mod warmth;

pub use actual::Actual;
pub use beside::{Beside, HandsUse, OvenAsk, OvenUse};
pub use course::{Course, Whereabouts, course};
pub use elsewhere::{Elsewhere, elsewhere};
pub use fitted::{FittedPlan, FittedRise, RestPlan};
pub use foreseen::{Foreseen, RiseForeseen};
pub use loads::Load;
use loads::nth;
pub use mixing::{MixAct, Mixing, at_its_best};
pub use oven::{OvenAct, OvenPlan};
pub use seen::{Look, Seen};
pub use shown::check_shown;
pub use signs::{Sign, Signs};

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use crate::{
    Tables,
    ferment::Pace,
    formula::Formula,
    input::{Errors, InputErrors, Pointer},
    kitchen::{Kitchen, Place},
    knead::Folds,
    measure::between,
};

words! {
    /// What is to be done, or waited for.
    StepKind {
        Scald "scald" "Scald the flour", Feed "feed" "Feed the leaven", Leaven "leaven" "The leaven ripens",
        Stir "stir" "Stir the preferment", Preferment "preferment" "The preferment ripens", Bloom "bloom" "Wake the yeast", Mix "mix" "Weigh and mix", Soak "soak" "Let it soak", Knead "knead" "Knead", Butter "butter" "Work the butter in", Move "move" "Carry it over", Finish "finish" "Brush it", Dip "dip" "Dip it", BenchRest "bench-rest" "Let it rest", Fold "fold" "Fold", KnockBack "knock-back" "Knock it back", Bulk "bulk" "First rise", Shape "shape" "Divide and shape", Proof "proof" "Proof",
        OvenOn "oven-on" "Heat the oven", LidOn "lid-on" "Close the lid", Load "load" "Load", SteamOff "steam-off" "Let the steam out", LidOff "lid-off" "Lid off", Turn "turn" "Turn it",
        Dial "dial" "Turn the dial", Dry "dry" "Let it dry in the oven",
        Foil "foil" "Lay foil over it", Check "check" "Look", Out "out" "Take it out", Ready "ready" "Slice from here",
    }
}

impl StepKind {
    /// Whether it is work at the bowl; the last of it leaves the dough to rise.
    #[must_use]
    pub const fn is_at_bowl(self) -> bool {
        matches!(self, Self::Bloom | Self::Mix | Self::Soak | Self::Knead | Self::Butter)
    }

    /// Whether it is done at the oven while the bread is in it, up to its taking out.
    #[must_use]
    pub const fn is_at_oven(self) -> bool {
        matches!(self, Self::SteamOff | Self::LidOff | Self::Dial | Self::Turn | Self::Foil | Self::Check | Self::Dry | Self::Out)
    }

    /// Whether it passes by itself: nothing to do but to look.
    #[must_use]
    pub const fn waits(self) -> bool {
        matches!(self, Self::Bulk | Self::Proof | Self::Leaven | Self::Preferment | Self::BenchRest)
    }
}

/// Where a rise stands and how far it goes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct RisePlan {
    /// Where.
    pub place: Place,
    /// How warm it is there, °C.
    pub place_c: f64,
    /// How far.
    pub pace: Pace,
}

/// What a plan is made from. Kept with the bake, so that it can be worked out again.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct PlanAsk {
    /// When weighing and mixing begin.
    pub start: Timestamp,
    /// Minutes from the first flour weighed to the dough left to rise.
    pub mix_min: f64,
    /// What is done in them; nothing told in a plan from before, and where the minutes were told.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub mixing: Vec<MixAct>,
    /// Dough temperature when mixed, °C.
    pub mix_c: f64,
    /// First rise; none in a style without one.
    pub bulk: Option<RisePlan>,
    /// Second rise.
    pub proof: RisePlan,
    /// Folds during the first rise.
    pub folds: u32,
    /// What the dial is turned to where that is given, °C; else what the oven model recommends.
    pub set_c: Option<f64>,
    /// What it holds besides, where it was fitted to the day.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub laid: Option<Box<FittedPlan>>,
}

/// A step with its times.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct PlanStep {
    /// What.
    pub kind: StepKind,
    /// From.
    pub start: Timestamp,
    /// To.
    pub end: Timestamp,
    /// Early end of the range of its start.
    pub low: Option<Timestamp>,
    /// Late end.
    pub high: Option<Timestamp>,
    /// Minutes of hands.
    pub hands_on_min: f64,
    /// Where.
    pub place: String,
    /// What to look for.
    pub sign: String,
    /// What it looks like too early.
    #[serde(default)]
    pub under: String,
    /// What it looks like too late.
    #[serde(default)]
    pub over: String,
    /// What to do.
    pub instruction: String,
    /// What the recipe says of it, in its own words.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub words: Vec<String>,
}

/// A plan: what was asked, and what follows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Plan {
    /// What it is made from.
    pub ask: PlanAsk,
    /// The acts in order.
    pub steps: Vec<PlanStep>,
    /// The oven.
    pub oven: OvenPlan,
    /// When it may be sliced.
    pub ready_at: Timestamp,
}

/// Most acts at the bowl, and the longest words of one, letters.
const MOST_MIX_ACTS: usize = 12;
const LONGEST_MIX_WORDS: usize = 1000;
/// Longest work at the bowl, with its soak, minutes.
const LONGEST_MIX_MIN: f64 = 960.0;
impl PlanAsk {
    /// What the page offers when nothing is said: now, the room, the usual pace.
    #[must_use]
    pub fn usual(formula: &Formula, kitchen: &Kitchen, now: Timestamp, tables: &Tables) -> Self {
        let a = formula.analyse(&tables.pantry, &tables.styles);
        let at = |place: Place| RisePlan { place, place_c: kitchen.place_c(place).unwrap_or(21.0), pace: Pace::Usual };
        let has_bulk = a.has_first_rise(&tables.ferment);
        let mixing = Mixing::of(&a, kitchen, tables);
        Self {
            start: crate::plan::round_up(now, 5),
            mix_c: mixing.dough_c.clamp(10.0, 40.0),
            mix_min: mixing.minutes(),
            folds: if has_bulk { mixing.folds.count } else { 0 },
            mixing: mixing.acts,
            bulk: has_bulk.then(|| at(Place::Room)),
            proof: at(Place::Room),
            set_c: formula.own_setting(&kitchen.oven),
            laid: None,
        }
    }

    /// When the dough is left to rise: as planned, or so long after the acts at the bowl that are over as the others take.
    #[must_use]
    pub fn mixed_at(&self, over: &[(StepKind, Timestamp)]) -> Timestamp {
        let (mut left, mut from) = (self.mix_min, self.start);
        let mut acts = self.mixing.iter().peekable();
        // What was tapped twice, or of an act that is not next, moves nothing.
        for (kind, at) in over {
            if let Some(act) = acts.next_if(|act| act.kind == *kind) {
                (left, from) = (left - act.minutes, *at);
            }
        }
        later(from, left)
    }

    /// Minutes of kneading proper until a moment, by the acts at the bowl that are over.
    #[must_use]
    pub fn kneaded_min(&self, over: &[(StepKind, Timestamp)], until: Timestamp) -> f64 {
        let (mut minutes, mut from) = (0.0, None);
        let mut acts = self.mixing.iter().peekable();
        for (kind, at) in over.iter().filter(|o| o.1 <= until) {
            if let Some(act) = acts.next_if(|act| act.kind == *kind) {
                minutes += if act.kind == StepKind::Knead { from.map_or(act.minutes, |from| minutes_between(from, *at)) } else { 0.0 };
                from = Some(*at);
            }
        }
        let runs = acts.peek().is_some_and(|act| act.kind == StepKind::Knead);
        minutes + from.filter(|_| runs).map_or(0.0, |from| minutes_between(from, until))
    }

    /// Folds planned, minutes after mixing: where a fitted plan has a free minute, else as a rise with time for them has them.
    #[must_use]
    pub fn fold_minutes(&self, tables: &Tables) -> Vec<f64> {
        let by_hand = || Folds::of(self.folds, &tables.knead.numbers).times(f64::INFINITY).collect();
        self.laid.as_ref().map_or_else(by_hand, |l| l.folds_min.clone())
    }

    /// Whether it rises, or rests, before it is shaped; else its one rise begins with the mix, and it is shaped in its first minutes.
    #[must_use]
    pub fn rises_before_shaping(&self) -> bool {
        self.bulk.is_some() || self.laid.as_ref().is_some_and(|l| l.bulk.is_some())
    }

    /// When the proof began, as far as it was noted: at the shaping, or at the mix of what is shaped at once.
    #[must_use]
    pub fn proof_began(&self, actual: &Actual) -> Option<Timestamp> {
        if self.rises_before_shaping() { actual.shaped } else { actual.mixed }
    }

    /// Oven loads, one at least.
    #[must_use]
    pub fn loads(&self) -> usize {
        self.laid.as_ref().map_or(1, |l| usize::try_from(l.loads.0.max(1)).unwrap_or(1))
    }

    /// Checks its figures.
    ///
    /// # Errors
    /// Each field out of range.
    pub fn check(&self) -> Result<(), InputErrors> {
        let root = Pointer::root();
        let mut errors = Errors::default();
        errors.range(root.at("mix_min"), self.mix_min, 0.0, LONGEST_MIX_MIN, "Mixing, soaking and kneading take 16 hours at most.");
        for (i, act) in self.mixing.iter().take(MOST_MIX_ACTS).enumerate() {
            let here = root.at("mixing").at(i);
            if !act.kind.is_at_bowl() {
                errors.add(here.at("kind"), "At the bowl yeast is woken, a dough mixed, soaked, kneaded, or its butter worked in.");
            }
            errors.range(here.at("minutes"), act.minutes, 0.0, LONGEST_MIX_MIN, "An act at the bowl takes 16 hours at most.");
            errors.line(here.at("words"), "What to do", &act.words, LONGEST_MIX_WORDS);
        }
        if self.mixing.len() > MOST_MIX_ACTS {
            errors.add(root.at("mixing"), "At most 12 acts at the bowl.");
        }
        let acts: f64 = self.mixing.iter().map(|act| act.minutes).sum();
        if !self.mixing.is_empty() && (acts - self.mix_min).abs() > 0.5 {
            errors.add(root.at("mixing"), "The acts at the bowl must add up to the minutes of mixing.");
        }
        errors.range(root.at("mix_c"), self.mix_c, 10.0, 40.0, between!("The dough's target must be", 10, 40, celsius));
        for (name, rise) in [("bulk", self.bulk), ("proof", Some(self.proof))] {
            if let Some(rise) = rise {
                errors.range(
                    root.at(name).at("place_c"),
                    rise.place_c,
                    -20.0,
                    60.0,
                    between!("A place's temperature lies", -20, 60, celsius),
                );
            }
        }
        errors.range(root.at("folds"), f64::from(self.folds), 0.0, 12.0, "Between 0 and 12 folds.");
        if let Some(c) = self.set_c {
            errors.range(root.at("set_c"), c, 100.0, 300.0, between!("An oven setting for bread lies", 100, 300, dial));
        }
        let year = self.start.as_second();
        if !(0..7_258_118_400).contains(&year) {
            errors.add(root.at("start"), "A plan lies between the years 1970 and 2199.");
        }
        errors.finish(())
    }
}

impl Plan {
    /// Works the plan out.
    ///
    /// # Errors
    /// What the ask, the rise or the oven refuses, each at its field.
    pub fn make(formula: &Formula, ask: &PlanAsk, kitchen: &Kitchen, tables: &Tables) -> Result<Self, InputErrors> {
        let found = course(formula, ask, None, &Actual::default(), kitchen, tables)?;
        Ok(Self { ask: ask.clone(), steps: found.steps, oven: found.oven, ready_at: found.ready_at })
    }

    /// The course of a bake under this plan: as planned if nothing happened yet, else as it goes.
    ///
    /// # Errors
    /// If what happened does not fit the model; the log itself stays.
    pub fn course(&self, formula: &Formula, actual: &Actual, kitchen: &Kitchen, tables: &Tables) -> Result<Course, InputErrors> {
        course(formula, &self.ask, Some(&self.oven), actual, kitchen, tables)
    }

    /// How many oven loads it has.
    #[must_use]
    pub fn loads(&self) -> usize {
        self.ask.loads()
    }

    /// When the first load went in, by what was noted.
    #[must_use]
    pub fn loaded(&self, noted: &[Timestamp]) -> Option<Timestamp> {
        nth(noted, 0, self.loads())
    }

    /// When the last load came out, by what was noted.
    #[must_use]
    pub fn taken_out(&self, noted: &[Timestamp]) -> Option<Timestamp> {
        nth(noted, self.loads() - 1, self.loads())
    }

    /// The step of a kind.
    #[must_use]
    pub fn step(&self, kind: StepKind) -> Option<&PlanStep> {
        self.steps.iter().find(|s| s.kind == kind)
    }
}

/// The instant rounded up to whole steps of minutes.
#[must_use]
pub fn round_up(at: Timestamp, minutes: i64) -> Timestamp {
    let step = minutes * 60;
    let seconds = at.as_second().div_euclid(step) * step + if at.as_millisecond().rem_euclid(step * 1000) == 0 { 0 } else { step };
    Timestamp::from_second(seconds).unwrap_or(at)
}

/// The instant so many minutes later.
#[must_use]
pub fn later(at: Timestamp, minutes: f64) -> Timestamp {
    #[allow(clippy::cast_possible_truncation, reason = "minutes of a plan, far inside the range")]
    let ms = (minutes * 60_000.0).round() as i64;
    Timestamp::from_millisecond(at.as_millisecond().saturating_add(ms)).unwrap_or(at)
}

/// Minutes from one instant to another.
#[must_use]
pub fn minutes_between(from: Timestamp, to: Timestamp) -> f64 {
    #[allow(clippy::cast_precision_loss, reason = "milliseconds of a plan")]
    let ms = (to.as_millisecond() - from.as_millisecond()) as f64;
    ms / 60_000.0
}
