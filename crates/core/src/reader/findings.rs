//! What is wrong with the steps of a recipe and with what could not be read.

use super::{ReadLine, Step, Unread};
use crate::{
    Tables,
    findings::{Change, Finding, Remedy, Severity},
    formula::{Formula, oven_of},
    measure::{Band, show, show_grams, to_nearest},
    oven::{Scale, SettingFinding, advise},
    pantry::Family,
    water,
};
use Severity::{Caution, Note, Stop};

/// Ids of the findings raised here, with their reason and source, in the order they are raised.
pub const RULES: &[(&str, &str, &str)] = &[
    ("unread-amount", "An amount that is not read is not in the percentages.", "reader's rule"),
    ("salt-kind-unknown", "Flakes pack loosely.", "salt rows of the pantry"),
    ("alternative-open", "The recipe leaves a choice.", "reader's rule"),
    ("water-too-hot", "Yeast dies between 50 and 60 °C.", "common practice, no source"),
    ("oven-setting-unknown", "Bread bakes between 100 and 300 °C.", "common practice, no source"),
    ("oven-unit", "°C = (°F − 32) × 5/9; home ovens end at 250–300 °C.", "definition; dials common practice, no source"),
    ("oven-unit-low", "°C = (°F − 32) × 5/9; 180 °F is no bread setting.", "definition"),
    ("oven-unit-gas", "Gas marks run from 1 to 9.", "common practice, no source"),
    ("oven-unit-none", "300–550 °F and 140–290 °C do not overlap for bread.", "common practice, no source"),
    ("temperature-mismatch", "Two scales for one setting should agree.", "conversion; trade tables round by up to 7 °C"),
    ("cool-for-bread", "Bread bakes between 165 and 250 °C.", "common practice, no source"),
    ("hotter-than-most-home-ovens", "The dial may end before.", "common practice, no source"),
    ("oven-temp-missing", "The setting decides crust and time.", "oven model"),
    ("bake-time-missing", "Without a time one looks too late.", "oven model"),
];

fn finding(id: &'static str, severity: Severity, message: String, remedies: Vec<Remedy>) -> Finding {
    let (_, why, source) = RULES.iter().find(|r| r.0 == id).copied().unwrap_or((id, "", ""));
    Finding { id, severity, message, why, source, line: None, step: None, source_line: None, remedies }
}

/// Findings at the lines as they were read.
#[must_use]
pub fn of_lines(lines: &[ReadLine], unread: &[Unread]) -> Vec<Finding> {
    let mut found = Vec::new();
    for u in unread.iter().filter(|u| u.source.chars().any(char::is_numeric)) {
        let words: String = u.source.chars().take(60).collect();
        let mut f = finding(
            "unread-amount",
            Caution,
            format!("We could not read “{words}”. Write it in grams, or leave it out."),
            vec![Remedy::meant("It is a remark")],
        );
        f.source_line = Some(u.source_line);
        found.push(f);
    }
    let mut index = 0;
    for line in lines {
        let here = line.grams.map(|_| {
            index += 1;
            index - 1
        });
        let mut add = |mut f: Finding| {
            f.line = here;
            f.source_line = Some(line.source_line);
            found.push(f);
        };
        if let (Some(q), Some(at)) = (line.questions.iter().find(|q| q.id == "salt-kind"), here) {
            let remedies = q
                .answers
                .iter()
                .filter_map(|a| {
                    a.grams.map(|g| {
                        Remedy::new(
                            format!("{}, {} g", a.label, show_grams(g)),
                            vec![Change::Grams { line: at, grams: Band::exact(to_nearest(g, 0.1)), interval: true }],
                        )
                    })
                })
                .collect();
            add(finding(
                "salt-kind-unknown",
                Caution,
                "A teaspoon of salt is 2.8 g to 6 g by the kind. Which do you have?".into(),
                remedies,
            ));
        }
        if let (Some((other, grams)), Some(_)) = (&line.alternative, here) {
            add(finding(
                "alternative-open",
                Note,
                format!("{} taken; {} g {} would do as well.", line.ingredient.name, show_grams(*grams), other.name),
                vec![Remedy::meant(format!("Keep {}", line.ingredient.name))],
            ));
        }
        if let Some(c) = line.temp_c.filter(|_| matches!(line.ingredient.family, Family::Liquid))
            && let Some(severity) = water::yeast_caution(c)
        {
            add(water::hot(c, severity));
        }
    }
    found
}

/// Findings at the steps, for a formula; those it has answered are left out.
#[must_use]
pub fn of_steps(steps: &[Step], formula: &Formula, tables: &Tables) -> Vec<Finding> {
    let mut found = Vec::new();
    for (i, step) in steps.iter().enumerate() {
        let mut add = |mut f: Finding| {
            f.step = Some(i);
            f.source_line = Some(step.source_line);
            found.push(f);
        };
        if let Some(severity) = step.liquid_c.and_then(water::yeast_caution) {
            add(water::hot(step.liquid_c.unwrap_or_default(), severity));
        }
        let Some(first) = step.stated.iter().find(|s| !s.fan).or_else(|| step.stated.first()) else { continue };
        let (value, c) = (show(first.value, 0), first.read.set_c.unwrap_or_default());
        let round = to_nearest(c, 5.0);
        let use_it = |c: f64| Remedy::answering(format!("Set {} °C", show(c, 0)), vec![Change::Oven { set_c: c }]);
        let other_scales: Vec<_> = step.stated.iter().filter(|s| !s.fan && s.scale != first.scale && s.read.set_c.is_some()).collect();
        match first.read.finding {
            Some(SettingFinding::NotABreadSetting) => add(finding(
                "oven-setting-unknown",
                Stop,
                format!("{value} is no setting for bread. What stands on the dial?"),
                vec![use_it(200.0), Remedy::meant("Leave it")],
            )),
            Some(SettingFinding::LooksLikeFahrenheit) => add(finding(
                "oven-unit",
                Stop,
                format!("{value} °C is hotter than a kitchen oven. {value} °F is {} °C: is that it?", show(c, 0)),
                vec![use_it(round), Remedy::meant("Keep it")],
            )),
            Some(SettingFinding::AssumedFahrenheit) if other_scales.is_empty() => add(finding(
                "oven-unit-none",
                Note,
                format!("No scale given; {value} must be °F: that is {} °C. No home oven bakes at {value} °C.", show(c, 0)),
                vec![use_it(round)],
            )),
            Some(SettingFinding::LooksLikeCelsius) => add(finding(
                "oven-unit-low",
                Stop,
                format!("{value} °F is only {} °C. {value} °C meant?", show((first.value - 32.0) / 1.8, 0)),
                vec![use_it(c), Remedy::meant("Keep it")],
            )),
            Some(SettingFinding::LooksLikeGasMark) => {
                add(finding("oven-unit-gas", Note, format!("Read as gas mark {value}, {} °C.", show(c, 0)), vec![use_it(c)]));
            }
            Some(SettingFinding::AssumedCelsius | SettingFinding::AssumedGasMark) if other_scales.is_empty() => {
                let scale =
                    if first.read.finding == Some(SettingFinding::AssumedGasMark) { format!("gas mark {value}") } else { "°C".into() };
                add(finding("oven-unit-none", Note, format!("No scale given; read as {scale}."), vec![use_it(c)]));
            }
            Some(SettingFinding::CoolForBread) => add(finding(
                "cool-for-bread",
                Note,
                format!("{} °C is cool for bread: check the figure.", show(c, 0)),
                vec![Remedy::meant("Meant so")],
            )),
            Some(SettingFinding::HotterThanMostHomeOvens) => add(finding(
                "hotter-than-most-home-ovens",
                Note,
                format!("{value} °C: many ovens end at 250–275 °C."),
                vec![Remedy::meant("Mine reaches it")],
            )),
            Some(_) | None => {}
        }
        if let (Some(a), Some(other)) = (first.read.set_c, other_scales.first()) {
            let b = other.read.set_c.unwrap_or(a);
            let gap = (a - b).abs();
            if gap > 8.0 {
                let words = |s: &super::Stated| match s.scale {
                    Scale::Celsius => format!("{} °C", show(s.value, 0)),
                    Scale::Fahrenheit => format!("{} °F", show(s.value, 0)),
                    Scale::Gas => format!("gas mark {}", show(s.value, 0)),
                    Scale::Unsaid => show(s.value, 0),
                };
                add(finding(
                    "temperature-mismatch",
                    if gap > 15.0 { Stop } else { Caution },
                    format!("{} and {} do not agree: the second is {} °C.", words(first), words(other), show(b, 0)),
                    vec![use_it(to_nearest(a, 5.0)), use_it(to_nearest(b, 5.0))],
                ));
            }
        }
    }
    missing(steps, formula, tables, &mut found);
    found.retain(|f| !formula.accepted.iter().any(|a| a == f.id));
    found
}

/// A bake without its setting or its time: what the oven model would do.
fn missing(steps: &[Step], formula: &Formula, tables: &Tables, found: &mut Vec<Finding>) {
    let Some((at, bake)) = steps
        .iter()
        .enumerate()
        .rev()
        .find(|(_, s)| s.bakes())
        .or_else(|| steps.iter().enumerate().rev().find(|(_, s)| s.oven_c.is_some()))
    else {
        return;
    };
    let told = formula.oven.unwrap_or(crate::formula::OvenTold { set_c: None, minutes: None });
    let analysis = formula.analyse(&tables.pantry, &tables.styles);
    let advice = |set_c: Option<f64>| {
        let mut b = oven_of(&analysis, &tables.pantry);
        b.set_c = set_c;
        let possible = analysis.flour_g.likely > 0.0
            && (5.0..=3000.0).contains(&b.piece_g)
            && (40.0..=200.0).contains(&b.hydration_pct)
            && b.pieces <= 60;
        possible.then(|| advise(&b, &tables.oven))
    };
    let mut add = |mut f: Finding| {
        f.step = Some(at);
        f.source_line = Some(bake.source_line);
        found.push(f);
    };
    let stated = steps.iter().any(|s| !s.stated.is_empty());
    if !stated && told.set_c.is_none() {
        let (message, remedies) = advice(None).map_or_else(
            || ("No oven setting.".to_owned(), vec![Remedy::meant("Leave it open")]),
            |a| {
                (
                    format!("No oven setting. For this dough and size: {} °C.", show(a.set_c, 0)),
                    vec![
                        Remedy::new(format!("Set {} °C", show(a.set_c, 0)), vec![Change::Oven { set_c: a.set_c }]),
                        Remedy::meant("Leave it open"),
                    ],
                )
            },
        );
        add(finding("oven-temp-missing", Caution, message, remedies));
    }
    let timed = steps.iter().any(|s| (s.bakes() || s.oven_c.is_some()) && s.minutes.is_some());
    let by_core = steps.iter().any(|s| s.core_c.is_some());
    if !timed && !by_core && told.minutes.is_none() {
        let times =
            advice(told.set_c).and_then(|a| a.minutes_low.zip(a.minutes_high).map(|(l, h)| (l.round(), h.round(), a.core_target_c)));
        let (message, remedies) = times.map_or_else(
            || ("No baking time.".to_owned(), vec![Remedy::meant("Leave it open")]),
            |(l, h, core)| {
                (
                    format!("No baking time. About {}–{} min; done at {} °C inside.", show(l, 0), show(h, 0), show(core, 0)),
                    vec![
                        Remedy::new(format!("Use {}–{} min", show(l, 0), show(h, 0)), vec![Change::OvenMinutes { low: l, high: h }]),
                        Remedy::meant("Leave it open"),
                    ],
                )
            },
        );
        add(finding("bake-time-missing", Caution, message, remedies));
    }
}
