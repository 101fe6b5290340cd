//! Findings at one step: its water, its oven setting and the scale it stands on.

use super::{RULES, finding};
use crate::{
    findings::{
        Change, Finding, Remedy,
        Severity::{Caution, Note, Stop},
        rule,
    },
    measure::{celsius_of, setting, show, to_nearest},
    oven::{DegreeScale, SettingFinding},
    reader::{Stated, Step},
    water,
};

/// Hotter than baking paper and glass, and than silicone and coatings, are made for, °C.
const PAPER_C: f64 = 220.0;
const COATING_C: f64 = 230.0;

/// What a step says of water and oven, and what is odd about it.
pub(super) fn find(step: &Step, found: &mut Vec<Finding>) {
    if let Some(severity) = step.liquid_c.and_then(water::yeast_caution) {
        found.push(water::hot(step.liquid_c.unwrap_or_default(), severity));
    }
    if let Some(band) = step.oven_band {
        let (low, high) = (to_nearest(band.low, 5.0), to_nearest(band.high, 5.0));
        let set = |c: f64| Remedy::answering(format!("Set {}", setting(c)), vec![Change::Oven { set_c: c, fan: false }]);
        let likely = to_nearest(band.likely, 5.0);
        let sentence = format!("The oven is told in a word: between {} and {}. Which is it?", setting(low).bare(), setting(high));
        found.push(finding(rule!("oven-in-words"), Note, sentence, vec![set(likely), set(low), set(high)]));
    }
    let mut add = |f: Finding| found.push(f);
    let Some(first) = step.stated.iter().find(|s| !s.fan).or_else(|| step.stated.first()) else { return };
    let (value, c) = (show(first.value, 0), first.read.set_c.unwrap_or_default());
    let round = to_nearest(c, 5.0);
    let use_it = |c: f64| Remedy::answering(format!("Set {}", setting(c)), vec![Change::Oven { set_c: c, fan: false }]);
    let other_scales: Vec<_> = step.stated.iter().filter(|s| !s.fan && s.scale != first.scale && s.read.set_c.is_some()).collect();
    match first.read.finding {
        Some(SettingFinding::NotABreadSetting) => add(finding(
            rule!("oven-setting-unknown"),
            Stop,
            format!("{value} is no setting for bread. What stands on the dial?"),
            vec![use_it(200.0), Remedy::meant("Leave it")],
        )),
        Some(SettingFinding::LooksLikeFahrenheit) => add(finding(
            rule!("oven-unit"),
            Stop,
            format!("{value} °C is hotter than a kitchen oven. {value} °F is {} °C: is that it?", show(c, 0)),
            vec![use_it(round), Remedy::meant("Keep it")],
        )),
        Some(SettingFinding::AssumedFahrenheit) if other_scales.is_empty() => add(finding(
            rule!("oven-unit-none"),
            Note,
            format!("No scale given; {value} must be °F: that is {} °C. No home oven bakes at {value} °C.", show(c, 0)),
            vec![use_it(round)],
        )),
        Some(SettingFinding::LooksLikeCelsius) => add(finding(
            rule!("oven-unit-low"),
            Stop,
            format!("{value} °F is only {} °C. {value} °C meant?", show(celsius_of(first.value), 0)),
            vec![use_it(c), Remedy::meant("Keep it")],
        )),
        Some(SettingFinding::LooksLikeGasMark) => {
            add(finding(rule!("oven-unit-gas"), Note, format!("Read as gas mark {value}, {}.", setting(c)), vec![use_it(c)]));
        }
        Some(SettingFinding::AssumedCelsius | SettingFinding::AssumedGasMark) if other_scales.is_empty() => {
            let scale = if first.read.finding == Some(SettingFinding::AssumedGasMark) { format!("gas mark {value}") } else { "°C".into() };
            add(finding(rule!("oven-unit-none"), Note, format!("No scale given; read as {scale}."), vec![use_it(c)]));
        }
        Some(SettingFinding::CoolForBread) => add(finding(
            rule!("cool-for-bread"),
            Note,
            format!("{} is cool for bread: check the figure.", setting(c)),
            vec![Remedy::meant("Meant so")],
        )),
        Some(SettingFinding::HotterThanMostHomeOvens) => add(finding(
            rule!("hotter-than-most-home-ovens"),
            Note,
            format!("{}: many ovens end at {}–{}.", setting(c), setting(250.0).bare(), setting(275.0)),
            vec![Remedy::meant("Mine reaches it")],
        )),
        Some(_) | None => {}
    }
    if let (Some(a), Some(other)) = (first.read.set_c, other_scales.first()) {
        let b = other.read.set_c.unwrap_or(a);
        let gap = (a - b).abs();
        if gap > 8.0 {
            let words = |s: &Stated| match s.scale {
                DegreeScale::Celsius => format!("{} °C", show(s.value, 0)),
                DegreeScale::Fahrenheit => format!("{} °F", show(s.value, 0)),
                DegreeScale::Gas => format!("gas mark {}", show(s.value, 0)),
                DegreeScale::Unsaid => show(s.value, 0),
            };
            add(finding(
                rule!("temperature-mismatch"),
                if gap > 15.0 { Stop } else { Caution },
                format!("{} and {} do not agree: the second is {} °C.", words(first), words(other), show(b, 0)),
                vec![use_it(to_nearest(a, 5.0)), use_it(to_nearest(b, 5.0))],
            ));
        }
    }
    let words = step.text.to_lowercase();
    let says = |list: &[&str]| list.iter().any(|w| words.contains(w));
    let bears = ["paper", "parchment", "papier", "glass dish", "glass pan", "glass tin", "glass loaf", "glass mould"];
    if (c > PAPER_C && says(&bears)) || (c > COATING_C && says(&["silicone", "non-stick", "nonstick"])) {
        add(finding(
            rule!("paper-limit"),
            Caution,
            format!("{} is beyond what baking paper, glass or a coating is made for; read the pack.", setting(c)),
            vec![Remedy::meant("Mine bears it")],
        ));
    }
    // Said for a fan, with or without the figure for an oven that has none.
    if let Some(fan) = step.stated.iter().find(|s| s.fan).and_then(|s| s.read.set_c) {
        let plain = other_c(step, fan).unwrap_or(fan + 20.0);
        add(finding(
            rule!("fan-unclear"),
            Note,
            format!("{} with the fan is about {} without.", setting(fan), setting(plain)),
            vec![
                Remedy::answering(format!("No fan, {}", setting(plain)), vec![Change::Oven { set_c: to_nearest(plain, 5.0), fan: false }]),
                Remedy::answering(format!("Fan, {}", setting(fan)), vec![Change::Oven { set_c: to_nearest(fan, 5.0), fan: true }]),
            ],
        ));
    }
}

/// The figure beside the fan's, 15 to 25 °C higher.
fn other_c(step: &Step, fan: f64) -> Option<f64> {
    step.stated.iter().filter(|s| !s.fan).filter_map(|s| s.read.set_c).find(|c| (14.0..=26.0).contains(&(c - fan)))
}
