//! An amount as it stands before a name: number, unit, how full the spoon was.

use super::{
    Choices,
    tokens::{Cursor, Kind, tokens},
};
use crate::{
    measure::Band,
    pantry::{MeasureKind, MeasureWord, Pantry},
};

/// An amount before it is grams.
#[derive(Debug, Clone)]
pub(super) struct Amount<'a> {
    /// How many.
    pub value: Band,
    /// Of what; nothing for a bare number.
    pub unit: Option<&'a MeasureWord>,
    /// The first word of the unit, lower case.
    pub unit_word: &'a str,
    /// `1.000` read as a thousand.
    pub doubtful: bool,
    /// How full: a factor for heaped, scant and their like.
    pub level: Option<Band>,
    /// Pressed into the measure.
    pub packed: bool,
    /// Heaped, which a liquid cannot be.
    pub heaped: bool,
    /// Said to be about so much.
    pub approx: bool,
}

const APPROX: &[&str] = &["about", "approx", "approximately", "around", "roughly", "circa", "ca", "environ", "etwa", "some", "maybe"];
/// The unit the next word (or two) stands for, by the household's settings, and the tokens it takes.
fn unit_at<'a>(cursor: &Cursor<'a>, pantry: &'a Pantry, choices: &Choices) -> Option<(&'a MeasureWord, usize)> {
    let one = cursor.word(0)?;
    let by_id = |id: &str| pantry.measures.by_id(id);
    let dot = usize::from(cursor.peek(1).is_some_and(|t| t.is('.')));
    let chosen = |word: &str| -> Option<&'a MeasureWord> {
        let british = choices.is_british();
        match word {
            "cup" | "cups" | "c" => by_id(match choices.cup.as_str() {
                "metric" => "cup-metric",
                "imperial" => "cup-imperial",
                _ => "cup-us",
            }),
            "tbsp" | "tablespoon" | "tablespoons" | "tbs" if choices.locale.starts_with("en-AU") => by_id("tbsp-au"),
            "tbsp" | "tablespoon" | "tablespoons" | "tbs" | "tbsps" if !choices.is_american() => by_id("tbsp-metric"),
            "tsp" | "teaspoon" | "teaspoons" if !choices.is_american() => by_id("tsp-metric"),
            "pint" | "pints" | "pt" if british => by_id("pint-uk"),
            "quart" | "quarts" if british => by_id("quart-uk"),
            "fl oz" | "fluid ounce" | "fluid ounces" if british => by_id("floz-uk"),
            _ => None,
        }
    };
    let wanted = |m: &&MeasureWord| matches!(m.kind, MeasureKind::Volume | MeasureKind::Mass | MeasureKind::Piece);
    if let Some(next) = cursor.word(1) {
        let two = format!("{one} {next}");
        if let Some(m) = chosen(&two).or_else(|| pantry.measures.word(&two)).filter(wanted) {
            return Some((m, 2));
        }
    }
    if one == "fl" && dot == 1 && cursor.word(2) == Some("oz") {
        return by_id(if choices.is_british() { "floz-uk" } else { "floz-us" }).map(|m| (m, 3));
    }
    // T and t, C and c are told apart by case; a slice, sheet or sprig only before a name that has pieces of it.
    let written = cursor.peek(0)?.text;
    let measure = match written {
        "T" => by_id("tbsp-us"),
        "t" => by_id("tsp-us"),
        "C" | "c" => chosen("cup"),
        _ => chosen(one).or_else(|| pantry.measures.word(written)),
    };
    measure.filter(wanted).map(|m| (m, 1 + dot))
}

/// How full the spoon or cup was: the word, its factor, the tokens it takes.
fn level_at<'a>(cursor: &Cursor<'a>, pantry: &Pantry) -> Option<(&'a str, Option<Band>, usize)> {
    let word = cursor.word(0)?;
    match word {
        "level" | "levelled" | "flat" | "packed" => Some((word, None, 1)),
        "heaped" | "heaping" | "rounded" | "scant" | "generous" | "good" | "knapp" | "reichlich" => {
            pantry.measures.word(word).filter(|m| m.kind == MeasureKind::Factor).map(|m| (word, Some(m.value), 1))
        }
        "firmly" | "lightly" => cursor.word(1).filter(|w| *w == "packed").map(|w| (w, None, 2)),
        _ => None,
    }
}

/// Reads an amount; the cursor stands behind it.
pub(super) fn amount<'a>(cursor: &mut Cursor<'a>, pantry: &'a Pantry, choices: &Choices) -> Option<Amount<'a>> {
    let mut probe = *cursor;
    let mut approx = false;
    while probe.word(0).is_some_and(|w| APPROX.contains(&w)) || probe.peek(0).is_some_and(|t| t.is('~') || t.is('≈')) {
        approx = true;
        probe.at += 1;
        if probe.peek(0).is_some_and(|t| t.is('.')) {
            probe.at += 1;
        }
    }
    let doubtful = matches!(probe.peek(0).map(|t| &t.kind), Some(Kind::Number { doubtful: true, .. }));
    let mut value = probe.range()?;
    // 2 x 7 g
    if probe.word(0) == Some("x") {
        let mut after = probe;
        after.at += 1;
        if let Some(each) = after.range() {
            value = Band::new(value.low * each.low, value.likely * each.likely, value.high * each.high);
            probe = after;
        }
    }
    let (mut level, mut packed, mut heaped) = (None, false, false);
    let mut take_level = |probe: &mut Cursor<'a>| {
        while let Some((word, factor, used)) = level_at(probe, pantry) {
            packed |= word == "packed";
            heaped |= matches!(word, "heaped" | "heaping" | "rounded");
            level = factor.or(level);
            probe.at += used;
        }
    };
    take_level(&mut probe);
    // "half a good teaspoon", "4 of the …"
    let unit_word = probe.word(0).unwrap_or_default();
    let unit = unit_at(&probe, pantry, choices).map(|(m, used)| {
        probe.at += used;
        m
    });
    take_level(&mut probe);
    // `a teaspoon and a half of salt`
    if unit.is_some() && (0..3).map(|i| probe.word(i)).eq([Some("and"), Some("a"), Some("half")]) {
        value = Band::new(value.low + 0.5, value.likely + 0.5, value.high + 0.5);
        probe.at += 3;
    }
    *cursor = probe;
    Some(Amount { value, unit, unit_word, doubtful, level, packed, heaped, approx })
}

/// A number with a percent sign, and the tokens it takes.
pub(super) fn percent_at(cursor: &Cursor<'_>) -> Option<(f64, usize)> {
    let mut probe = *cursor;
    let value = probe.number()?;
    probe.peek(0)?.is('%').then_some((value, probe.at + 1 - cursor.at))
}

/// Grams of an amount by mass.
pub(super) fn mass_of(a: &Amount<'_>) -> Option<Band> {
    let unit = a.unit.filter(|u| u.kind == MeasureKind::Mass)?;
    Some(a.value.times(unit.value.likely))
}

/// Whether a line has an amount anywhere before its name.
pub(super) fn starts_with_amount(text: &str) -> bool {
    let tokens = tokens(text);
    Cursor::new(&tokens).range().is_some()
}
