//! An amount as it stands before a name: number, unit, how full the spoon was.

use super::{
    Choices,
    tokens::{Cursor, Kind, tokens},
};
use crate::{
    measure::Band,
    pantry::{MeasureKind, MeasureWord, Pantry, fold},
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

impl Amount<'_> {
    /// Whether it goes on where the other stops: `1 lb 2 oz`, `1 kg 200 g`.
    pub fn goes_on(&self, first: &Amount<'_>) -> bool {
        let is = |a: &Amount<'_>, id: &str| a.unit.is_some_and(|m| m.id == id);
        (is(first, "lb") && is(self, "oz")) || (is(first, "kg") && is(self, "g"))
    }
}

const APPROX: &[&str] = &["about", "approx", "approximately", "around", "roughly", "circa", "ca", "environ", "etwa", "some", "maybe"];
/// Measures that count one when no number stands before them: `pinch of salt`, `knob of butter`.
const LONE: &[&str] = &["pinch", "dash", "knob", "splash", "glug", "handful", "drizzle", "prise", "schuss", "pincee"];
/// Hotter than any cup is full: `26 C` is a temperature, `2 C` two cups.
const MOST_CUPS: f64 = 20.0;

/// The unit the next word (or two) stands for, by the household's settings, and the tokens it takes.
fn unit_at<'a>(cursor: &Cursor<'a>, value: f64, pantry: &'a Pantry, choices: &Choices) -> Option<(&'a MeasureWord, usize)> {
    let one = cursor.word(0)?;
    let by_id = |id: &str| pantry.measures.by_id(id);
    let dot = usize::from(cursor.peek(1).is_some_and(|t| t.is('.')));
    let chosen = |word: &str| -> Option<&'a MeasureWord> {
        let british = choices.is_british();
        match word {
            "cup" | "cups" | "c" => by_id(match choices.cup.as_str() {
                "metric" => "cup-metric",
                "imperial" => "cup-imperial",
                "own" => "cup-own",
                _ => "cup-us",
            }),
            "tbsp" | "tablespoon" | "tablespoons" | "tbs" if choices.locale.starts_with("en-AU") => by_id("tbsp-au"),
            "tbsp" | "tablespoon" | "tablespoons" | "tbs" | "tbsps" if !choices.is_american() => by_id("tbsp-metric"),
            "tsp" | "teaspoon" | "teaspoons" if !choices.is_american() => by_id("tsp-metric"),
            "pint" | "pints" | "pt" if british => by_id("pint-uk"),
            "quart" | "quarts" if british => by_id("quart-uk"),
            "fl oz" | "fluid ounce" | "fluid ounces" => by_id(if british { "floz-uk" } else { "floz-us" }),
            _ => None,
        }
    };
    // `c. à soupe`, `cuillère à café`, `c. à s.`
    if matches!(one, "c" | "cuillère" | "cuillere" | "cuil" | "cs" | "cc") && matches!(cursor.word(1 + dot), Some("à" | "a")) {
        let size = cursor.word(2 + dot).map(fold).unwrap_or_default();
        let id = match size.as_str() {
            "soupe" | "s" => "tbsp-metric",
            "cafe" | "c" | "the" => "tsp-metric",
            _ => return None,
        };
        let end = usize::from(cursor.peek(3 + dot).is_some_and(|t| t.is('.')));
        return by_id(id).map(|m| (m, 3 + dot + end));
    }
    // `two teaspoonfuls`
    if let Some(spoon) = one.strip_suffix("fuls").or_else(|| one.strip_suffix("sful")).or_else(|| one.strip_suffix("ful"))
        && let Some(m) = chosen(spoon).or_else(|| pantry.measures.word(spoon))
    {
        return Some((m, 1));
    }
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
        "C" | "c" => chosen("cup").filter(|_| value <= MOST_CUPS),
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
    let lone = probe.word(0).is_some_and(|w| LONE.contains(&fold(w).as_str())) && unit_at(&probe, 1.0, pantry, choices).is_some();
    let mut value = if lone { Band::exact(1.0) } else { probe.range()? };
    // 2 x 7 g
    if probe.word(0) == Some("x") {
        let mut after = probe;
        after.at += 1;
        if let Some(each) = after.range() {
            value = Band::new(value.low * each.low, value.likely * each.likely, value.high * each.high);
            probe = after;
        }
    }
    // `2 (1/4 ounce) packages`, `1 12-oz bottle`: so many of a measured pack
    if let Some((each, unit, end)) = pack(&probe, pantry, choices) {
        *cursor = Cursor { at: end, ..probe };
        let value = Band::new(value.low * each, value.likely * each, value.high * each);
        return Some(Amount { value, unit: Some(unit), unit_word: "", doubtful, level: None, packed: false, heaped: false, approx });
    }
    // `three quarters of a pint`
    if value.likely < 1.0 && probe.word(0) == Some("of") && matches!(probe.word(1), Some("a" | "an")) {
        let unit = Cursor { at: probe.at + 2, ..probe };
        if unit_at(&unit, value.likely, pantry, choices).is_some() {
            probe = unit;
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
    let unit = unit_at(&probe, value.likely, pantry, choices).map(|(m, used)| {
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

/// A pack of a told size behind a count: what one holds, its unit, and the token behind the pack's word.
fn pack<'a>(cursor: &Cursor<'a>, pantry: &'a Pantry, choices: &Choices) -> Option<(f64, &'a MeasureWord, usize)> {
    const PACKS: &[&str] =
        &["can", "tin", "bottle", "jar", "package", "packet", "pack", "sachet", "envelope", "box", "bag", "tub", "carton", "block"];
    let mut inner = *cursor;
    let bracket = inner.peek(0).is_some_and(|t| t.is('('));
    inner.at += usize::from(bracket);
    let each = inner.number()?;
    inner.at += usize::from(inner.peek(0).is_some_and(|t| t.is('-')));
    let (unit, used) = unit_at(&inner, each, pantry, choices).filter(|(m, _)| matches!(m.kind, MeasureKind::Mass | MeasureKind::Volume))?;
    inner.at += used;
    if bracket {
        inner.peek(0).filter(|t| t.is(')'))?;
        inner.at += 1;
    }
    let word = inner.word(0)?;
    PACKS.iter().any(|p| word.strip_prefix(p).is_some_and(|rest| matches!(rest, "" | "s" | "es"))).then_some((each, unit, inner.at + 1))
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

/// Whether another line begins here: `12 % protein` only says more of the flour before it.
pub(super) fn starts_a_line(text: &str) -> bool {
    let tokens = tokens(text);
    starts_with_amount(text) && percent_at(&Cursor::new(&tokens)).is_none()
}

/// Whether a line has an amount anywhere before its name.
pub(super) fn starts_with_amount(text: &str) -> bool {
    let tokens = tokens(text);
    let mut cursor = Cursor::new(&tokens);
    while cursor.word(0).is_some_and(|w| APPROX.contains(&w)) || cursor.peek(0).is_some_and(|t| t.is('~') || t.is('≈')) {
        cursor.at += 1;
    }
    cursor.range().is_some()
}
