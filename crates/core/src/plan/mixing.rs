//! The work at the bowl as a plan holds it: weighed and mixed, rested, kneaded, the butter in; what each act takes, and the sign
//! that ends it.

use serde::{Deserialize, Serialize};

use super::StepKind;
use crate::{
    Tables,
    formula::{Analysis, Line, StyleId, kneading_in},
    kitchen::Kitchen,
    knead::{Folds, KneadPhase, Kneading, Method, PhaseKind, START_C, Until, Work},
    measure::{degrees, show, show_half, to_nearest, weight},
    safety,
    water::warmest_c,
    words::capitalized,
};

/// An act at the bowl.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct MixAct {
    /// Mix, soak, knead or butter.
    pub kind: StepKind,
    /// Whole minutes.
    pub minutes: f64,
    /// Between which minutes the sign may come.
    pub low_min: f64,
    /// At the latest.
    pub high_min: f64,
    /// Of these, minutes of hands; the rest a machine works alone, or nobody.
    pub hands_min: f64,
    /// The sign that ends it.
    pub until: Until,
    /// What to do; of the mix the plan says it.
    pub words: String,
}

impl MixAct {
    /// One that takes what it takes.
    fn fixed(kind: StepKind, minutes: f64, hands_min: f64, until: Until, words: &str) -> Self {
        let minutes = whole(minutes);
        Self { kind, minutes, low_min: minutes, high_min: minutes, hands_min: hands_min.min(minutes), until, words: words.to_owned() }
    }

    /// Weighed and mixed, all by hand; what to do the plan says.
    fn mix(minutes: f64, until: Until) -> Self {
        Self::fixed(StepKind::Mix, minutes, f64::INFINITY, until, "")
    }
}

/// What a dough's work at the bowl comes to.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Mixing {
    /// In order.
    pub acts: Vec<MixAct>,
    /// Folds over the first rise.
    pub folds: Folds,
    /// How warm the dough is when it leaves the bowl, °C: as is usual, or as near to that as it comes.
    pub dough_c: f64,
    /// How cold it can be then, and how warm, °C.
    pub reach_c: (f64, f64),
}

/// Weighing and the first mixing: minutes of hands, and more for each kilogram. Common practice, no source.
const WEIGH_MIN: f64 = 15.0;
const WEIGH_MIN_PER_KG: f64 = 5.0;
/// More than this is weighed by more hands, kg.
const MOST_KG: f64 = 50.0;
/// Of these, the mixing of one batch.
const FIRST_MIX_MIN: f64 = 3.0;

impl Mixing {
    /// Of a formula in a household, the dough at its usual temperature when it leaves the bowl. A dough beyond what the kneading
    /// knows (wetter than a batter, a hundredweight of flour) is mixed for its usual minutes.
    #[must_use]
    pub fn of(a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Self {
        let Ok(work) = kneading_in(a, kitchen).check(&tables.knead, &tables.styles, &tables.ferment) else { return Self::usual(a) };
        let reach_c = reach_c(&work, a, kitchen, tables);
        let (work, dough_c) = within_reach(&work, a, reach_c);
        let done = work.kneading();
        let knocks = a.is_knocked_back(&tables.ferment);
        let folds = if knocks { Folds::knock_back() } else { Folds::of(done.folds, &tables.knead.numbers) };
        Self { acts: acts(a, &work, &done), folds, dough_c, reach_c }
    }

    fn usual(a: &Analysis<'_>) -> Self {
        let mix = MixAct::mix(WEIGH_MIN + WEIGH_MIN_PER_KG * (a.dough_g.likely / 1000.0).min(MOST_KG), Until::Even);
        Self {
            acts: bloom(a).into_iter().chain([mix]).collect(),
            folds: Folds::default(),
            dough_c: f64::midpoint(a.style.dough_c.0, a.style.dough_c.1),
            reach_c: (f64::NEG_INFINITY, f64::INFINITY),
        }
    }

    /// Minutes from the first flour weighed to the dough left to rise.
    #[must_use]
    pub fn minutes(&self) -> f64 {
        self.acts.iter().map(|act| act.minutes).sum()
    }
    /// Minutes of hands in it.
    #[must_use]
    pub fn hands_min(&self) -> f64 {
        self.acts.iter().map(|act| act.hands_min).sum()
    }
}

/// How cold a dough can leave the bowl and how warm, °C: from ice, and with water as warm as the yeast bears.
fn reach_c(work: &Work<'_>, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> (f64, f64) {
    (work.starting_at(START_C.0).leaves_at(), warmest_c(work, a, kitchen, tables).unwrap_or(f64::INFINITY))
}

/// A dough that leaves the bowl as warm as is usual, or as near to that as it comes; and how warm that is, °C.
#[must_use]
pub fn at_its_best<'k>(work: &Work<'k>, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> (Work<'k>, f64) {
    within_reach(work, a, reach_c(work, a, kitchen, tables))
}

fn within_reach<'k>(work: &Work<'k>, a: &Analysis<'_>, (coldest, warmest): (f64, f64)) -> (Work<'k>, f64) {
    // Where friction alone makes it warmer than its warmest water would, it is that.
    let dough_c = f64::midpoint(a.style.dough_c.0, a.style.dough_c.1).min(warmest).max(coldest);
    (work.leaving_at(dough_c), dough_c)
}

/// Minutes of the works, whole: hands and doughs differ by more than half of one.
fn whole(minutes: f64) -> f64 {
    if minutes > 0.0 { minutes.round().max(1.0) } else { 0.0 }
}

fn acts(a: &Analysis<'_>, work: &Work<'_>, done: &Kneading) -> Vec<MixAct> {
    let kg = a.dough_g.likely / 1000.0;
    let times = f64::from(done.batches);
    // A batter goes straight into its tin.
    let pieces = a.formula.all_pieces();
    let fills = if a.style.id == StyleId::GlutenFree { 8.0 + 2.0 * kg + 2.5 * f64::from(pieces) } else { 0.0 };
    let mut acts: Vec<MixAct> = Vec::new();
    let mut open: Vec<&KneadPhase> = Vec::new();
    for phase in &done.phases {
        match phase.kind {
            PhaseKind::Mix => {
                acts.extend(bloom(a));
                let longer = (phase.minutes.likely * times - FIRST_MIX_MIN).max(0.0);
                acts.push(MixAct::mix(WEIGH_MIN + WEIGH_MIN_PER_KG * kg + longer + fills, phase.until));
            }
            PhaseKind::Soak => {
                let words = "Cover it. The flour drinks, and the dough tightens by itself.";
                acts.push(MixAct::fixed(StepKind::Soak, phase.minutes.likely, 0.0, phase.until, words));
            }
            PhaseKind::Butter => {
                acts.extend(kneaded(work, done, &open));
                open.clear();
                let (minutes, hands) = (phase.minutes.likely * times, 0.5 * phase.portions * times);
                acts.push(MixAct {
                    kind: StepKind::Butter,
                    minutes: whole(minutes),
                    low_min: times * phase.minutes.low,
                    high_min: times * phase.minutes.high,
                    hands_min: if work.is_machine() { whole(hands.min(minutes)) } else { whole(minutes) },
                    until: phase.until,
                    words: format!("In {} pieces, each worked in before the next.", show(phase.portions, 0)),
                });
            }
            PhaseKind::Salt | PhaseKind::Knead | PhaseKind::Inclusions => open.push(phase),
            PhaseKind::Fold => {}
        }
    }
    acts.extend(kneaded(work, done, &open));
    acts
}

/// Minutes to stir dry yeast into its water; water for it, times its weight. Common practice, no source.
const BLOOM_MIN: f64 = 3.0;
const BLOOM_WATER: f64 = 4.5;

/// How active dry yeast of the dough itself is woken: it foams while the rest is weighed, or it is dead. None without it.
pub(super) fn bloom_words(a: &Analysis<'_>) -> Option<String> {
    let dry = |l: &&Line| l.in_dough() && !l.is_prefermented() && l.ingredient.kind == "yeast-active-dry";
    let grams: f64 = a.formula.lines.iter().filter(dry).map(|l| l.grams.likely).sum();
    (grams > 0.0).then(|| {
        let (yeast, liquid) = (weight(grams), weight(to_nearest(BLOOM_WATER * grams, 5.0).max(5.0)));
        let (from, to) = (degrees(38.0).bare(), degrees(43.0));
        format!("Stir {yeast} of dry yeast into {liquid} of the liquid at {from}–{to}. It foams while you weigh the rest.")
    })
}

/// That as an act.
fn bloom(a: &Analysis<'_>) -> Option<MixAct> {
    bloom_words(a).map(|words| MixAct::fixed(StepKind::Bloom, BLOOM_MIN, BLOOM_MIN, Until::Foam, &words))
}

/// What is kneaded in one go as an act: the salt first, what is folded in last.
fn kneaded(work: &Work<'_>, done: &Kneading, phases: &[&KneadPhase]) -> Option<MixAct> {
    let times = f64::from(done.batches);
    let minutes = whole(times * phases.iter().map(|p| p.minutes.likely).sum::<f64>());
    let until = phases.iter().rfind(|p| p.kind == PhaseKind::Knead).or(phases.last())?.until;
    let machine = work.is_machine();
    #[allow(clippy::cast_precision_loss, reason = "three at most")]
    let hands = if machine { (times * phases.len() as f64 + 1.0).min(minutes) } else { minutes };
    let mut words = Vec::new();
    for phase in phases {
        let long = show_half(phase.minutes.likely);
        words.push(match phase.kind {
            PhaseKind::Salt => format!("First the salt and what raises it, {long} min."),
            PhaseKind::Inclusions => format!("What is folded in last, gently, {long} min."),
            _ => how(work.method(), phase),
        });
    }
    if done.batches > 1 {
        words.push(format!("In {} batches, one after the other.", done.batches));
    }
    if machine {
        words.push(safety::MIXER.to_owned());
    }
    let sum = |of: fn(&KneadPhase) -> f64| times * phases.iter().map(|p| of(p)).sum::<f64>();
    (minutes > 0.0).then(|| MixAct {
        kind: StepKind::Knead,
        minutes,
        low_min: sum(|p| p.minutes.low),
        high_min: sum(|p| p.minutes.high),
        hands_min: whole(hands),
        until,
        words: words.join(" "),
    })
}

/// How it is kneaded, in a baker's words.
fn how(method: Method, phase: &KneadPhase) -> String {
    match (phase.speed_words(), method) {
        (Some(speed), Method::Processor) => format!("{}: it warms fast.", capitalized(speed)),
        (Some(speed), _) => format!("{}.", capitalized(speed)),
        (None, Method::Slap) => "Slap it down, stretch it towards you, fold it over.".to_owned(),
        (None, _) => "Push it away with the heel of the hand, fold it back, turn it.".to_owned(),
    }
}
