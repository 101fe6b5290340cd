//! What the models and the kitchen have to say of a dough: its told rises, its place, its mixer, its bake.

use jiff::Timestamp;

use super::{Beside, Course, Foreseen, PlanAsk, RisePlan, later, minutes_between, round_up, search::hours::RECOVERY_MIN};
use crate::{
    Tables,
    ferment::EventKind,
    findings::{
        Change, Finding, Remedy, Rule,
        Severity::{self, Caution, Note, Stop},
        rule,
    },
    formula::{Analysis, StyleId, WARM_LIMIT_MIN, kneading_in, ripe_at},
    kitchen::{Kitchen, Place},
    knead,
    measure::{
        between, celsius, degrees, difference, height, kelvins, setting, show, show_minutes, show_percent, to_nearest, weighable, weight,
    },
    oven::{boiling_c, pressure_pa},
    pantry::Family,
    reader::{Reading, ToldRise},
    safety::{EGG_MILK_WARM, authority},
};

/// Why no plan stands.
pub(super) const NO_PLAN: Rule = Rule::new(
    "no-plan",
    "Each wait needs its hours and a place warm enough, each piece of work somebody at home; one baker, one oven.",
    "rise model",
);

/// The rules of the findings raised here.
pub const RULES: &[Rule] = &[
    Rule::new("yeast-low", "A tiny dose is meant for a night, not for an afternoon.", "rise model"),
    Rule::new("bulk-over", "Past ripe a dough slackens, sours and bakes flat.", "rise model"),
    Rule::new("proof-very-short", "A piece loaded too early bursts at the side and has a tight crumb.", "rise model"),
    Rule::new("dough-cold", "A cold dough rises slowly.", "rise model"),
    Rule::new("oven-taken", "One oven bakes at one setting; it takes a quarter of an hour to change.", "common practice, no source"),
    Rule::new("brioche-warm", between!("Butter melts", 28, 35, celsius), "handbook, from memory"),
    Rule::new(
        "altitude",
        concat!("Water boils about ", kelvins!(1), " lower for each 300 m, and gas swells more."),
        "oven model, handbook, from memory",
    ),
    NO_PLAN,
    Rule::new("fridge-warm", concat!("Food keeps at ", celsius!(5), " or colder. ", authority!()), "common practice, no source"),
    EGG_MILK_WARM,
    Rule::new("bake-short", "The middle sets only near its core temperature.", "oven model"),
];

/// Doses this far under the style's usual are for a night, and a told rise under this is none, minutes.
const LOW_DOSE: f64 = 0.5;
const NIGHT_MIN: f64 = 360.0;
/// A told rise under this part of the early end of its range is short.
const SHORT: f64 = 0.5;
const BUTTERY_PCT: f64 = 20.0;
const BUTTER_C: f64 = 26.0;
const COLD_C: f64 = 18.0;
const HIGH_M: f64 = 900.0;
const WARM_FRIDGE_C: f64 = 8.0;
const SHORT_BAKE: f64 = 0.8;

fn finding(rule: &'static Rule, severity: Severity, message: String, remedies: Vec<Remedy>) -> Finding {
    rule.raised(severity, message, remedies)
}

/// The change of the yeast or leaven lines that makes so many times the dose; none where it cannot be.
fn dosed(a: &Analysis<'_>, factor: f64) -> Vec<Change> {
    let Ok(after) = a.dosed(factor) else { return Vec::new() };
    let lines = a.formula.lines.iter().zip(&after.lines).enumerate().filter(|(_, (before, after))| before.grams != after.grams);
    lines.map(|(line, (before, after))| Change::Grams { line, grams: after.grams, interval: !before.grams.is_exact() }).collect()
}

/// What the kitchen itself has to say of a dough: its height, its mixer.
#[must_use]
pub fn of_kitchen(a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Vec<Finding> {
    let mut found = Vec::new();
    if a.flour_g.likely <= 0.0 {
        return found;
    }
    if kitchen.altitude_m > HIGH_M {
        let boils = boiling_c(kitchen.altitude_m);
        // As much less yeast as the air presses less makes it ripe at the hour it would be by the sea.
        let air = pressure_pa(kitchen.altitude_m) / pressure_pa(0.0);
        let yeasts = a.formula.lines.iter().enumerate().filter(|(_, l)| l.in_dough() && l.ingredient.family == Family::Yeast);
        let less: Vec<Change> = yeasts
            .map(|(line, l)| Change::Grams {
                line,
                grams: crate::measure::Band::exact(weighable(air * l.grams.likely)),
                interval: !l.grams.is_exact(),
            })
            .collect();
        let sentence = format!(
            "At {} the same gas swells to {} times what it fills by the sea: the dough is ripe sooner, at the same sign. Water \
             boils at {}, so the core is done {} lower. Plans and oven reckon with both.",
            height(kitchen.altitude_m),
            show(1.0 / air, 2),
            degrees(boils).to(0),
            difference(100.0 - boils).to(0)
        );
        let remedies = if less.is_empty() {
            vec![Remedy::meant("I know")]
        } else {
            vec![
                Remedy::answering(format!("{} % less yeast, and the hour stays", show(100.0 * (1.0 - air), 0)), less),
                Remedy::meant("I know"),
            ]
        };
        found.push(finding(rule!("altitude"), Note, sentence, remedies));
    }
    if let Ok(work) = kneading_in(a, kitchen).check(&tables.knead, &tables.styles, &tables.ferment) {
        let of_mixer = knead::findings::find(&work, &work.kneading()).into_iter().filter(|f| f.id.starts_with("mixer-"));
        found.extend(of_mixer.map(|f| {
            let words = if f.id == "mixer-overload" { "Mine takes it" } else { "I know" };
            Finding { remedies: vec![Remedy::meant(words)], ..f }
        }));
    }
    found.retain(|f| !a.formula.accepted.iter().any(|id| id == f.id));
    found
}

/// Everything the kitchen and the models have to say of a recipe as it is read.
#[must_use]
pub fn of_recipe(reading: Option<&Reading>, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Vec<Finding> {
    of_foreseen(&Foreseen::of(reading, a, kitchen, tables), reading, a, kitchen, tables)
}

/// The same, once the models have been run.
#[must_use]
pub fn of_foreseen(foreseen: &Foreseen, reading: Option<&Reading>, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Vec<Finding> {
    let rises = of_told_rises(foreseen, reading, a, kitchen, tables);
    of_kitchen(a, kitchen, tables).into_iter().chain(rises).chain(of_told_bake(foreseen, reading, a)).collect()
}

/// What is to be said of the rises a recipe tells by the clock, in this kitchen.
fn of_told_rises(foreseen: &Foreseen, reading: Option<&Reading>, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Vec<Finding> {
    let mut found = Vec::new();
    let mut at = |r: &ToldRise, f: Finding| found.push(Finding { step: Some(r.step), source_line: Some(r.source_line), ..f });
    if let Some(bulk) = &foreseen.bulk {
        let (told, ripe) = (&bulk.told, &bulk.ripe);
        let here = degrees(bulk.place_c).to(1);
        let yeast = a.yeast_instant_pct.likely;
        // So little yeast makes a no-knead dough of it; told for hours, it is an ordinary one with too little.
        let usual = if a.style.id == StyleId::LongNoKnead { tables.styles.get(StyleId::Lean) } else { a.style };
        let low_dose = yeast > 0.0 && yeast < LOW_DOSE * usual.yeast_instant.0 && a.leaven_flour_pct.likely < 3.0;
        if low_dose && told.minutes.high < NIGHT_MIN && told.minutes.high < ripe.min_low.unwrap_or(ripe.min) {
            let more = dosed(a, usual.yeast_instant.0 / yeast);
            let mut remedies = vec![Remedy::meant("I plan it overnight")];
            if !more.is_empty() {
                remedies.insert(0, Remedy::new(format!("Use {} %", show_percent(usual.yeast_instant.0)), more));
            }
            let sentence = format!(
                "So little yeast needs about {} at {here}. Enough for a night, not for the {} told.",
                show_minutes(ripe.min),
                show_minutes(told.minutes.high)
            );
            at(told, finding(rule!("yeast-low"), Caution, sentence, remedies));
        }
        if let Some(late) = bulk.long_past() {
            let mut remedies = vec![Remedy::meant("I stop at the sign")];
            if let Some(factor) = bulk.dose {
                let less = dosed(a, factor);
                if !less.is_empty() {
                    remedies.insert(0, Remedy::new(format!("{} of the yeast or leaven", times(factor)), less));
                }
            }
            let sentence = format!(
                "At {here} it is ripe in about {} and past ripe long before {}. Less yeast, a cooler place, or the fridge.",
                show_minutes(ripe.min),
                show_minutes(late.max(told.minutes.low))
            );
            at(told, finding(rule!("bulk-over"), Caution, sentence, remedies));
        }
    }
    if let Some(proof) = &foreseen.proof
        && let Some(early) = proof.ripe.min_low
        && proof.told.minutes.high < SHORT * early
    {
        let sentence = format!(
            "{} is short for {} at {}: expect a tight crumb and a burst side. Ripe from about {} on; look for the sign.",
            show_minutes(proof.told.minutes.high),
            a.style.name,
            degrees(proof.place_c).to(1),
            show_minutes(early)
        );
        at(&proof.told, finding(rule!("proof-very-short"), Caution, sentence, vec![Remedy::meant("I go by the sign")]));
    }
    if let Some(warm) = kitchen.fridge_c.filter(|c| *c > WARM_FRIDGE_C)
        && a.flour_g.likely > 0.0
        && let Some(cold) = reading.map_or_else(Vec::new, Reading::told_rises).iter().find(|r| r.cold)
    {
        at(cold, fridge_warm(warm));
    }
    found.retain(|f| !a.formula.accepted.iter().any(|id| id == f.id));
    found
}

fn fridge_warm(fridge_c: f64) -> Finding {
    let sentence = format!("Your fridge stands at {}. Food wants {} or colder.", degrees(fridge_c).to(1), degrees(5.0));
    finding(rule!("fridge-warm"), Caution, sentence, vec![Remedy::meant("I watch it")])
}

/// `a third`, `½`, `1.4 times`: a factor in words.
fn times(factor: f64) -> String {
    if factor < 1.0 {
        format!("{} %", show(to_nearest(100.0 * factor, if factor < 0.1 { 1.0 } else { 5.0 }), 0))
    } else {
        format!("{} times", show(factor, 1))
    }
}

/// Whether the minutes a recipe tells for its oven leave the middle raw, by the oven model at that setting.
fn of_told_bake(foreseen: &Foreseen, reading: Option<&Reading>, a: &Analysis<'_>) -> Option<Finding> {
    let told = a.formula.oven?;
    let (set_c, (_, most)) = (told.set_c?, told.minutes?);
    let (piece_g, advice) = foreseen.bake.as_ref()?;
    let (low, likely, high) = (advice.minutes_low?, advice.minutes?, advice.minutes_high?);
    if most >= SHORT_BAKE * low {
        return None;
    }
    let range = Change::OvenMinutes { low: low.round(), high: high.round() };
    let sentence = format!(
        "Raw inside at {} min: at {} a piece of {} takes about {} min. Check {} in the middle.",
        show(most, 0),
        setting(set_c),
        weight(*piece_g),
        show(likely, 0),
        degrees(advice.core_target_c).to(0)
    );
    let remedies = vec![Remedy::new(format!("Bake {}–{} min", show(low, 0), show(high, 0)), vec![range]), Remedy::meant("Meant so")];
    let (step, source_line) = reading.and_then(Reading::baking_step).map(|(at, s)| (at, s.source_line)).unzip();
    Some(Finding { step, source_line, ..finding(rule!("bake-short"), Caution, sentence, remedies) })
}

/// A finding on a plan, and the plan asked for instead.
#[derive(Debug, Clone)]
pub struct OfPlan {
    /// What was noticed.
    pub finding: Finding,
    /// The deed's words, and what would be asked then.
    pub instead: Option<(String, PlanAsk)>,
}

/// Whether what a plan asks for never gets ripe, and the least that would have to give: the room instead of the cold.
#[must_use]
pub fn of_course(course: &Course, ask: &PlanAsk, kitchen: &Kitchen) -> Option<OfPlan> {
    course.forecast.event(EventKind::NotRipe)?;
    let warm = |r: RisePlan| RisePlan { place: Place::Room, place_c: kitchen.room_c, ..r };
    let first = ask.bulk.filter(|b| b.place != Place::Room);
    let (which, instead) = match first {
        Some(_) => ("first rise", PlanAsk { bulk: ask.bulk.map(warm), ..ask.clone() }),
        None => ("proof", PlanAsk { proof: warm(ask.proof), ..ask.clone() }),
    };
    let sentence = format!(
        "No plan fits: so cold it is not ripe within a week. With the {which} in the room, at {}, it would be.",
        degrees(kitchen.room_c).to(1)
    );
    Some(OfPlan {
        finding: finding(rule!("no-plan"), Stop, sentence, Vec::new()),
        instead: Some((format!("Let the {which} stand in the room"), instead)),
    })
}

/// What is said of a dough with egg or milk that is warm for too long.
pub(super) fn left_warm(minutes: f64) -> Finding {
    let sentence = format!(concat!("Egg or milk dough out of the fridge for {}. Not over 4 h. ", authority!()), show_minutes(minutes));
    finding(rule!("raw-egg-time"), Caution, sentence, Vec::new())
}

/// Whether a plan by hand leaves a dough with egg or milk warm for over four hours.
#[must_use]
pub fn of_warm_hours(course: &Course, ask: &PlanAsk, a: &Analysis<'_>, kitchen: &Kitchen) -> Option<OfPlan> {
    let minutes = course.warm_min();
    let cold = |r: RisePlan| kitchen.fridge_c.map(|c| RisePlan { place: Place::Fridge, place_c: c, ..r });
    let instead = ask.bulk.filter(|b| b.place != Place::Fridge).and_then(cold).map(|bulk| PlanAsk { bulk: Some(bulk), ..ask.clone() });
    (a.is_perishable() && minutes > WARM_LIMIT_MIN)
        .then(|| OfPlan { finding: left_warm(minutes), instead: instead.map(|i| ("Let the first rise stand in the fridge".into(), i)) })
}

/// Whether another bread has the oven when a plan by hand would bake, and how much later it could begin.
#[must_use]
pub fn of_oven(course: &Course, ask: &PlanAsk, beside: &[Beside], clock: &dyn Fn(Timestamp) -> String) -> Option<OfPlan> {
    let recovery = f64::from(RECOVERY_MIN);
    let (bread, (from, to)) = course.oven_clash(beside, recovery)?;
    let sentence =
        format!("“{bread}” has the oven from {} to {}: this bread would be in it at {}.", clock(from), clock(to), clock(course.load));
    let wait = minutes_between(course.load, later(to, recovery)).max(0.0);
    let start = round_up(later(ask.start, wait), 5);
    Some(OfPlan {
        finding: finding(rule!("oven-taken"), Caution, sentence, Vec::new()),
        instead: Some((format!("Begin {} later", show_minutes(minutes_between(ask.start, start))), PlanAsk { start, ..ask.clone() })),
    })
}

/// What is odd about what a plan asks: the dough's warmth, the fridge.
#[must_use]
pub fn of_ask(ask: &PlanAsk, a: &Analysis<'_>, kitchen: &Kitchen, tables: &Tables) -> Vec<OfPlan> {
    let mut found = Vec::new();
    if a.fat_added_pct.likely >= BUTTERY_PCT && ask.mix_c > BUTTER_C {
        found.push(OfPlan {
            finding: finding(
                rule!("brioche-warm"),
                Caution,
                concat!("Butter melts out over ", celsius!(26), ". Aim for ", celsius!(24 bare), " and chill the dough if it shines.")
                    .into(),
                Vec::new(),
            ),
            instead: Some((concat!("Set ", celsius!(24)).into(), PlanAsk { mix_c: 24.0, ..ask.clone() })),
        });
    }
    let first = ask.bulk.unwrap_or(ask.proof);
    if ask.mix_c < COLD_C && first.place != Place::Fridge {
        let usual = f64::midpoint(a.style.dough_c.0, a.style.dough_c.1);
        let ripe = ripe_at(a, ask.mix_c, first.place_c, tables);
        let sentence = ripe.map_or_else(
            || format!("At {} it may not rise at all.", degrees(ask.mix_c).to(0)),
            |e| format!("At {} it needs about {} to be ripe.", degrees(ask.mix_c).to(0), show_minutes(e.min)),
        );
        found.push(OfPlan {
            finding: finding(rule!("dough-cold"), Note, sentence, Vec::new()),
            instead: Some((format!("Set {}", degrees(usual).to(0)), PlanAsk { mix_c: usual, ..ask.clone() })),
        });
    }
    let chilled = ask.proof.place == Place::Fridge || ask.bulk.is_some_and(|b| b.place == Place::Fridge);
    if let Some(warm) = kitchen.fridge_c.filter(|c| chilled && *c > WARM_FRIDGE_C) {
        found.push(OfPlan { finding: fridge_warm(warm), instead: None });
    }
    found.extend(
        of_kitchen(a, kitchen, tables).into_iter().map(|f| OfPlan { finding: Finding { remedies: Vec::new(), ..f }, instead: None }),
    );
    found
}
