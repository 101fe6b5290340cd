//! One ingredient line: amount, unit, name, and what the words around them say.

use super::{
    Choices,
    questions::{Answer, Question},
    tokens::{Cursor, Kind, Token, tokens},
};
use crate::{
    formula::Stage,
    measure::Band,
    pantry::{Family, Ingredient, MeasureKind, MeasureWord, Pantry, fold},
};
use std::sync::Arc;

/// A line as it was read.
#[derive(Debug, Clone)]
pub struct ReadLine {
    /// As written.
    pub source: String,
    /// Line of the text, from 0.
    pub source_line: usize,
    /// What it is.
    pub ingredient: Arc<Ingredient>,
    /// How much; `None` for "to taste" and the like.
    pub grams: Option<Band>,
    /// When it goes in.
    pub stage: Stage,
    /// Temperature told for it, °C.
    pub temp_c: Option<f64>,
    /// Whether it may be left out.
    pub optional: bool,
    /// Whether it was measured by volume.
    pub by_volume: bool,
    /// What is asked.
    pub questions: Vec<Question>,
    /// The other ingredient of "A or B".
    pub alternative: Option<(Arc<Ingredient>, f64)>,
    /// Percent of flour, for a line in baker's percent.
    pub percent: Option<f64>,
}

/// An amount before it is grams.
#[derive(Debug, Clone)]
struct Amount {
    value: Band,
    unit: Option<MeasureWord>,
    unit_word: String,
    doubtful: bool,
    level: Option<Band>,
    packed: bool,
    heaped_word: bool,
    approx: bool,
}

const APPROX: &[&str] = &["about", "approx", "approximately", "around", "roughly", "circa", "ca", "environ", "etwa", "some", "maybe"];
const SIZES: &[&str] = &["small", "medium", "large", "big"];

/// What reading one piece of text gave.
pub(super) enum Outcome {
    /// Ingredient lines: one, or two ("1 egg + 2 yolks").
    Lines(Vec<ReadLine>),
    /// Digits or units, but no sense.
    Unread,
    /// No amount and no ingredient.
    Remark,
}

fn has_amount(cursor: &Cursor<'_>) -> bool {
    let mut probe = *cursor;
    probe.range().is_some()
}

/// The unit a word (or two) stands for, by the household's settings.
fn unit_at(cursor: &Cursor<'_>, pantry: &Pantry, choices: &Choices) -> Option<(MeasureWord, String, usize)> {
    let one = cursor.peek(0)?.word()?.to_owned();
    let two = cursor.peek(1).and_then(Token::word).map(|w| format!("{one} {w}"));
    let by_id = |id: &str| pantry.measures.by_id(id).cloned();
    let lower = one.to_lowercase();
    let dot = usize::from(cursor.peek(1).is_some_and(|t| t.is('.')));
    let chosen = |word: &str| -> Option<MeasureWord> {
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
    let wanted = |m: &MeasureWord| matches!(m.kind, MeasureKind::Volume | MeasureKind::Mass | MeasureKind::Piece);
    if let Some(two) = two {
        let lower_two = two.to_lowercase();
        if let Some(m) = chosen(&lower_two).or_else(|| pantry.measures.word(&two).cloned()).filter(wanted) {
            return Some((m, lower_two, 2));
        }
    }
    if lower == "fl" && dot == 1 && cursor.peek(2).and_then(Token::word).is_some_and(|w| w.eq_ignore_ascii_case("oz")) {
        return by_id(if choices.is_british() { "floz-uk" } else { "floz-us" }).map(|m| (m, "fl oz".into(), 3));
    }
    // T and t, C and c are told apart by case; a slice, sheet or sprig only before a name that has pieces of it.
    let measure = match one.as_str() {
        "T" => by_id("tbsp-us"),
        "t" => by_id("tsp-us"),
        "C" | "c" => chosen("cup"),
        _ => chosen(&lower).or_else(|| pantry.measures.word(&one).cloned()),
    };
    measure.filter(wanted).map(|m| (m, lower, 1 + dot))
}

fn level_at(cursor: &Cursor<'_>, pantry: &Pantry) -> Option<(String, Option<Band>)> {
    let word = cursor.word(0)?;
    match word.as_str() {
        "level" | "levelled" | "flat" => Some(("level".into(), None)),
        "heaped" | "heaping" | "rounded" | "scant" | "generous" | "good" | "knapp" | "reichlich" => {
            pantry.measures.word(&word).filter(|m| m.kind == MeasureKind::Factor).map(|m| (word.clone(), Some(m.value)))
        }
        "packed" => Some(("packed".into(), None)),
        "firmly" | "lightly" if cursor.word(1).is_some_and(|w| w == "packed") => Some(("packed2".into(), None)),
        _ => None,
    }
}

fn amount(cursor: &mut Cursor<'_>, pantry: &Pantry, choices: &Choices) -> Option<Amount> {
    let mut probe = *cursor;
    let mut approx = false;
    while probe.word(0).is_some_and(|w| APPROX.contains(&w.as_str())) || probe.peek(0).is_some_and(|t| t.is('~') || t.is('≈')) {
        approx = true;
        probe.at += 1;
        if probe.peek(0).is_some_and(|t| t.is('.')) {
            probe.at += 1;
        }
    }
    let doubtful = matches!(probe.peek(0).map(|t| &t.kind), Some(Kind::Number { doubtful: true, .. }));
    let mut value = probe.range()?;
    // 2 x 7 g
    if probe.word(0).is_some_and(|w| w == "x") {
        let mut after = probe;
        after.at += 1;
        if let Some(each) = after.range() {
            value = Band::new(value.low * each.low, value.likely * each.likely, value.high * each.high);
            probe = after;
        }
    }
    let (mut level, mut packed, mut heaped_word) = (None, false, false);
    let mut take_level = |probe: &mut Cursor<'_>| {
        while let Some((word, factor)) = level_at(probe, pantry) {
            packed |= word.starts_with("packed");
            heaped_word |= matches!(word.as_str(), "heaped" | "heaping" | "rounded");
            level = factor.or(level);
            probe.at += if word == "packed2" { 2 } else { 1 };
        }
    };
    take_level(&mut probe);
    // "half a good teaspoon", "4 of the …"
    let unit = unit_at(&probe, pantry, choices);
    let (unit, unit_word) = match unit {
        Some((m, word, used)) => {
            probe.at += used;
            (Some(m), word)
        }
        None => (None, String::new()),
    };
    take_level(&mut probe);
    // `a teaspoon and a half of salt`
    if unit.is_some()
        && probe.word(0).is_some_and(|w| w == "and")
        && probe.word(1).is_some_and(|w| w == "a")
        && probe.word(2).is_some_and(|w| w == "half")
    {
        value = Band::new(value.low + 0.5, value.likely + 0.5, value.high + 0.5);
        probe.at += 3;
    }
    *cursor = probe;
    Some(Amount { value, unit, unit_word, doubtful, level, packed, heaped_word, approx })
}

/// Reads one line of ingredients.
pub(super) fn read(source: &str, text: &str, source_line: usize, section: Option<Stage>, pantry: &Pantry, choices: &Choices) -> Outcome {
    let tokens = tokens(text);
    if tokens.is_empty() {
        return Outcome::Remark;
    }
    let broken = tokens.iter().any(|t| t.kind == Kind::Broken) || has_bad_fraction(&tokens) || has_odd_number(&tokens);
    let mut cursor = Cursor::new(&tokens);
    // A percent line: `2 % salt`.
    let percent = percent_at(&cursor);
    if let Some((value, used)) = percent {
        cursor.at += used;
        let rest = rest_of(text, &cursor);
        return match pantry.named_in(rest) {
            Some((i, _)) => Outcome::Lines(vec![ReadLine { percent: Some(value), ..line(source, source_line, i, None, section, rest) }]),
            None => Outcome::Unread,
        };
    }
    if broken {
        return Outcome::Unread;
    }
    let lead = amount(&mut cursor, pantry, choices);
    if let Some(first) = lead {
        return amount_line(source, text, source_line, section, pantry, choices, &tokens, cursor, first);
    }
    named_line(source, text, source_line, section, pantry, choices, &tokens)
}

fn percent_at(cursor: &Cursor<'_>) -> Option<(f64, usize)> {
    let mut probe = *cursor;
    let value = probe.number()?;
    probe.peek(0)?.is('%').then_some((value, probe.at + 1 - cursor.at))
}

/// `1/0`, `3//4`: something that looks like a fraction and is none.
fn has_bad_fraction(tokens: &[Token]) -> bool {
    tokens
        .windows(2)
        .any(|w| matches!(w, [a, b] if a.is('/') && (b.is('/') || matches!(b.kind, Kind::Number { value, .. } if value == 0.0))))
}

/// `NaN cups`, `Infinity kg`, `l00 g`.
fn has_odd_number(tokens: &[Token]) -> bool {
    let word = |t: &Token, list: &[&str]| t.word().is_some_and(|w| list.contains(&w.to_lowercase().as_str()));
    tokens.first().is_some_and(|t| word(t, &["nan", "infinity", "inf"]))
        || tokens
            .windows(2)
            .any(|w| matches!(w, [a, b] if word(a, &["l", "o"]) && a.end == b.start && matches!(b.kind, Kind::Number { .. })))
}

fn rest_of<'t>(text: &'t str, cursor: &Cursor<'_>) -> &'t str {
    cursor.peek(0).map_or("", |t| text.get(t.start..).unwrap_or_default())
}

/// Words that say a line goes on at the end and not into the dough.
const FINISHING: &[&str] = &[
    " for brushing ",
    " for the glaze ",
    " for glazing ",
    " glaze ",
    " to serve ",
    " for dusting ",
    " for the top ",
    " for sprinkling ",
    " for topping ",
    " for the pan ",
    " for the tin ",
    " egg wash ",
    " to finish ",
    " on top ",
    " for rolling ",
];

fn line(
    source: &str,
    source_line: usize,
    ingredient: &Arc<Ingredient>,
    grams: Option<Band>,
    section: Option<Stage>,
    words: &str,
) -> ReadLine {
    let folded = format!(" {} ", fold(words));
    let finish = FINISHING.iter().any(|p| folded.contains(p));
    let stage = if finish { Stage::Finish } else { section.filter(|s| *s != Stage::Dough).unwrap_or_else(|| Stage::usual(ingredient)) };
    let stage = match (stage, ingredient.family) {
        // What stands in a leaven's or soaker's list is there, whatever its usual moment.
        (Stage::Dough, Family::Alkali) if folded.contains("bath") || folded.contains("dip") || folded.contains("boil") => Stage::Finish,
        (other, _) => other,
    };
    ReadLine {
        source: source.to_owned(),
        source_line,
        ingredient: ingredient.clone(),
        grams,
        stage,
        temp_c: temperature(words),
        optional: folded.contains(" optional "),
        by_volume: false,
        questions: Vec::new(),
        alternative: None,
        percent: None,
    }
}

/// Temperature told for a liquid: `(110 °F)`, `lukewarm`, `at 38 C`.
fn temperature(words: &str) -> Option<f64> {
    let tokens = tokens(words);
    for (i, t) in tokens.iter().enumerate() {
        if let Kind::Number { value, .. } = t.kind {
            let mut next = i + 1;
            let degree = tokens.get(next).is_some_and(|t| t.is('°'))
                || tokens.get(next).and_then(Token::word).is_some_and(|w| w.to_lowercase().starts_with("degree"));
            next += usize::from(degree);
            let unit = tokens.get(next).and_then(Token::word).map(str::to_lowercase);
            match unit.as_deref() {
                Some("f" | "fahrenheit") => return Some((value - 32.0) / 1.8),
                Some("c" | "celsius") => return Some(value),
                _ if degree => return Some(if value > 70.0 { (value - 32.0) / 1.8 } else { value }),
                _ => {}
            }
        }
    }
    let folded = format!(" {} ", fold(words));
    [
        ("lukewarm", 36.0),
        ("tepid", 36.0),
        ("tiede", 36.0),
        ("lauwarm", 36.0),
        ("hand warm", 36.0),
        ("boiling", 98.0),
        ("ice cold", 2.0),
        ("just boiled", 98.0),
    ]
    .iter()
    .find(|(w, _)| folded.contains(&format!(" {w} ")))
    .map(|(_, c)| *c)
}

#[allow(clippy::too_many_arguments, reason = "everything one line is read with")]
fn amount_line(
    source: &str,
    text: &str,
    source_line: usize,
    section: Option<Stage>,
    pantry: &Pantry,
    choices: &Choices,
    tokens: &[Token],
    mut cursor: Cursor<'_>,
    first: Amount,
) -> Outcome {
    let mut sum = vec![(1.0, first)];
    // `1 cup plus 2 tablespoons`, `1 lb 2 oz`, `1 cup minus 1 tbsp`
    loop {
        let mut probe = cursor;
        let sign = match probe.word(0).as_deref() {
            Some("plus" | "und" | "et") => 1.0,
            Some("and") if probe.peek(1).is_some() => 1.0,
            Some("minus" | "less") => -1.0,
            _ if probe.peek(0).is_some_and(|t| t.is('+')) => 1.0,
            Some(_) | None => 0.0,
        };
        if sign != 0.0 {
            probe.at += 1;
        }
        let Some(next) = amount(&mut probe, pantry, choices) else { break };
        let joins = next.unit.is_some() && (sign != 0.0 || pound_and_ounces(&sum, &next));
        if !joins {
            break;
        }
        sum.push((if sign < 0.0 { -1.0 } else { 1.0 }, next));
        cursor = probe;
    }
    let mut words = Vec::new();
    while let Some(w) = cursor.word(0).filter(|w| {
        SIZES.contains(&w.as_str()) || matches!(w.as_str(), "of" | "extra" | "free" | "range" | "the" | "level" | "heaped" | "de" | "d")
    }) {
        words.push(w);
        cursor.at += 1;
        if cursor.peek(0).is_some_and(|t| t.is('-')) {
            cursor.at += 1;
        }
    }
    let rest = rest_of(text, &cursor).to_owned();
    let named = name_part(&rest);
    // `1 egg + 2 yolks`, `2 eggs plus 1 yolk`
    if let Some((a, b)) = split_second(&rest) {
        let head = text.get(..text.len() - rest.len()).unwrap_or_default();
        if let (Outcome::Lines(mut one), Outcome::Lines(two)) = (
            read(source, &format!("{head}{a}"), source_line, section, pantry, choices),
            read(source, b, source_line, section, pantry, choices),
        ) {
            one.extend(two);
            return Outcome::Lines(one);
        }
    }
    // `500 g flour (70 % bread, 30 % rye)`
    if let Some(parts) = percent_mix(&rest, pantry)
        && let Some(total) = sum.first().and_then(|(_, a)| mass_of(a))
    {
        let lines = parts.into_iter().map(|(share, i)| line(source, source_line, &i, Some(total.times(share)), section, "")).collect();
        return Outcome::Lines(lines);
    }
    let Some((ingredient, found)) = pantry.named_in(&named).or_else(|| pantry.named_in(&rest)) else {
        return if sum.iter().any(|(_, a)| a.unit.is_some()) { Outcome::Unread } else { unread_or_remark(tokens) };
    };
    let mut ingredient = ingredient.clone();
    let folded = format!(" {} ", fold(&rest));
    refine(&mut ingredient, &folded, pantry);
    let size = words
        .iter()
        .find(|w| SIZES.contains(&w.as_str()))
        .cloned()
        .or_else(|| SIZES.iter().find(|s| folded.contains(&format!(" {s} "))).map(|s| (*s).to_owned()));
    let context = Context { ingredient: &ingredient, pantry, choices, folded: &folded, size, extra: words.iter().any(|w| w == "extra") };
    let mut questions = Vec::new();
    if found.guessed {
        questions.push(Question::new("ingredient-unknown", vec![Answer::kind("yes", format!("Yes, {}", ingredient.name), &ingredient.id)]));
    }
    let mut total: Option<Band> = None;
    let mut by_volume = false;
    for (sign, a) in &sum {
        let Some((grams, volume)) = context.grams(a, &mut questions) else { return Outcome::Unread };
        by_volume |= volume;
        total = Some(match total {
            None => grams,
            Some(t) if *sign < 0.0 => Band::new(t.low - grams.high, t.likely - grams.likely, t.high - grams.low),
            Some(t) => t.plus(grams),
        });
    }
    let Some(mut grams) = total.filter(|g| g.likely > 0.0 && g.likely <= 100_000.0) else { return Outcome::Unread };
    if let Some(alt) = in_parentheses(&rest).and_then(|inner| context.alternative_measure(inner)) {
        grams = context.settle(grams, by_volume, alt, &mut questions, &mut by_volume);
    }
    let mut first_line = ReadLine { by_volume, questions, ..line(source, source_line, &ingredient, Some(grams), section, &rest) };
    ask_about(&mut first_line, &folded);
    if first_line.stage == Stage::Finish
        && ingredient.id == "egg-whole"
        && let Some(wash) = pantry.get("egg-wash")
    {
        first_line.ingredient = wash.clone();
    }
    first_line.alternative = alternative(&rest, pantry, choices, &ingredient);
    if first_line.alternative.is_some() {
        first_line.questions.push(Question::new("alternative", Vec::new()));
    }
    let mut lines = vec![first_line];
    if folded.contains(" plus more ") || folded.contains(" plus extra ") {
        let id = if ingredient.family == Family::Fat { "nonstick-spray" } else { "flour-for-dusting" };
        if let Some(i) = pantry.get(id) {
            lines.push(ReadLine { stage: Stage::Finish, ..line(source, source_line, i, Some(Band::new(5.0, 10.0, 20.0)), section, "") });
        }
    }
    if let Some((amount_text, rum)) = soaked_in(&rest)
        && let Outcome::Lines(more) = read(source, &format!("{amount_text} {rum}"), source_line, section, pantry, choices)
    {
        lines.extend(more);
    }
    Outcome::Lines(lines)
}

fn pound_and_ounces(sum: &[(f64, Amount)], next: &Amount) -> bool {
    let unit = |a: &Amount| a.unit.as_ref().map(|m| m.id.clone()).unwrap_or_default();
    sum.last().is_some_and(|(_, a)| (unit(a) == "lb" && unit(next) == "oz") || (unit(a) == "kg" && unit(next) == "g"))
}

fn mass_of(a: &Amount) -> Option<Band> {
    let unit = a.unit.as_ref().filter(|u| u.kind == MeasureKind::Mass)?;
    Some(a.value.times(unit.value.likely))
}

fn unread_or_remark(tokens: &[Token]) -> Outcome {
    if tokens.iter().any(|t| matches!(t.kind, Kind::Number { .. } | Kind::Broken)) { Outcome::Unread } else { Outcome::Remark }
}

/// Name before brackets, commas and purposes.
fn name_part(rest: &str) -> String {
    let cut = rest.find(['(', ',', ';']).map_or(rest, |i| rest.get(..i).unwrap_or(rest));
    let lower = cut.to_lowercase();
    let mut end = cut.len();
    for stop in [" for ", " to serve", " plus more", " plus extra", " or ", " optional", " - "] {
        if let Some(i) = lower.find(stop)
            && cut.is_char_boundary(i)
        {
            end = end.min(i);
        }
    }
    cut.get(..end).unwrap_or(cut).to_owned()
}

fn in_parentheses(rest: &str) -> Option<&str> {
    let open = rest.find('(')?;
    let inner = rest.get(open + 1..)?;
    Some(inner.get(..inner.find(')').unwrap_or(inner.len())).unwrap_or(inner))
}

fn split_second(rest: &str) -> Option<(&str, &str)> {
    let (a, b) = rest.split_once(" + ").or_else(|| rest.split_once(" plus ")).or_else(|| rest.split_once(" and "))?;
    b.starts_with(|c: char| c.is_ascii_digit()).then_some((a, b))
}

fn soaked_in(rest: &str) -> Option<(&str, &str)> {
    let (_, after) = rest.split_once("soaked in ")?;
    let name = after.find(|c: char| c.is_alphabetic())?;
    Some((after.get(..name)?, after.get(name..)?))
}

/// `(70 % bread, 30 % rye)` after a flour.
fn percent_mix(rest: &str, pantry: &Pantry) -> Option<Vec<(f64, Arc<Ingredient>)>> {
    let inner = in_parentheses(rest).filter(|i| i.matches('%').count() >= 2)?;
    let parts = inner.split([',', ';', '/']).map(|part| {
        let (percent, name) = part.split_once('%')?;
        let share = percent.trim().parse::<f64>().ok()? / 100.0;
        let flour = pantry.find(&format!("{} flour", name.trim())).or_else(|_| pantry.find(name.trim())).ok()?;
        Some((share, flour.clone()))
    });
    let parts: Vec<_> = parts.collect::<Option<_>>()?;
    let sum: f64 = parts.iter().map(|p| p.0).sum();
    ((sum - 1.0).abs() < 0.02).then_some(parts)
}

fn alternative(rest: &str, pantry: &Pantry, choices: &Choices, first: &Arc<Ingredient>) -> Option<(Arc<Ingredient>, f64)> {
    let (_, after) = rest.split_once(" or ")?;
    let tokens = tokens(after);
    let mut cursor = Cursor::new(&tokens);
    let a = amount(&mut cursor, pantry, choices)?;
    let name = rest_of(after, &cursor);
    let (ingredient, _) = pantry.named_in(name)?;
    if ingredient.id == first.id {
        return None;
    }
    mass_of(&a).map(|g| (ingredient.clone(), g.likely))
}

/// What words beside the name settle: `fresh`, `rye` before a leaven, `salted`.
fn refine(ingredient: &mut Arc<Ingredient>, folded: &str, pantry: &Pantry) {
    let has = |w: &str| folded.contains(&format!(" {w} "));
    let id = match ingredient.id.as_str() {
        "leaven-wheat" if has("rye") => "leaven-rye",
        "leaven-wheat" if has("stiff") => "leaven-stiff",
        "butter-unsalted" if has("salted") && !has("unsalted") => "butter-salted",
        "yeast-instant" if has("fresh") => "yeast-fresh",
        "egg-whole" if has("yolk") || has("yolks") => "egg-yolk",
        "egg-whole" if has("white") || has("whites") => "egg-white",
        _ => return,
    };
    if let Some(i) = pantry.get(id) {
        *ingredient = i.clone();
    }
}

/// Questions that hang on the ingredient, whatever the unit.
fn ask_about(line: &mut ReadLine, folded: &str) {
    let has = |w: &str| folded.contains(&format!(" {w} "));
    let grams = line.grams.map_or(0.0, |g| g.likely);
    let bare_yeast = line.ingredient.family == Family::Yeast
        && !["instant", "dry", "dried", "active", "fresh", "fast", "quick", "rapid", "sachet", "sachets", "easy", "hefe", "compressed"]
            .iter()
            .any(|w| has(w));
    if bare_yeast && line.ingredient.yeast_kind().is_some() && grams > 0.0 {
        line.questions.push(Question::new(
            "yeast-kind",
            vec![
                Answer::kind("instant", "Instant", "yeast-instant"),
                Answer::kind("active-dry", "Active dry", "yeast-active-dry"),
                Answer::kind("fresh", "Fresh", "yeast-fresh"),
            ],
        ));
    }
    if line.ingredient.id.starts_with("leaven-") && !folded.contains('%') && !has("hydration") {
        line.questions.push(Question::new(
            "leaven-hydration",
            vec![
                Answer::kind("100", "Half water", if line.ingredient.id == "leaven-rye" { "leaven-rye" } else { "leaven-wheat" }),
                Answer::kind("50", "Stiff, one third water", "leaven-stiff"),
            ],
        ));
    }
}

/// A line that begins with its name: `flour 500`, `salt: 10 g`, `salt to taste`.
fn named_line(
    source: &str,
    text: &str,
    source_line: usize,
    section: Option<Stage>,
    pantry: &Pantry,
    choices: &Choices,
    tokens: &[Token],
) -> Outcome {
    let first_number = tokens.iter().position(|t| matches!(t.kind, Kind::Number { .. }));
    if let Some(at) = first_number {
        if tokens.get(at.wrapping_sub(1)).is_some_and(|t| t.is('-')) && tokens.get(at.wrapping_sub(2)).is_some_and(|t| t.is(':')) {
            return Outcome::Unread;
        }
        let name = tokens.get(at).map_or(text, |t| text.get(..t.start).unwrap_or(text));
        let mut cursor = Cursor { tokens, at };
        if name.split_whitespace().count() > 5 {
            return Outcome::Remark;
        }
        let Some((ingredient, found)) = pantry.named_in(name) else {
            // `juice of 2 lemons`, `zest of one orange`
            return whole_fruit(source, text, source_line, section, pantry, tokens, at);
        };
        if fold(name).starts_with("juice of") || fold(name).starts_with("zest of") || fold(name).starts_with("grated rind of") {
            return whole_fruit(source, text, source_line, section, pantry, tokens, at);
        }
        let Some(a) = amount(&mut cursor, pantry, choices) else { return Outcome::Unread };
        let rest = format!("{name} {}", rest_of(text, &cursor));
        let folded = format!(" {} ", fold(&rest));
        let mut ingredient = ingredient.clone();
        refine(&mut ingredient, &folded, pantry);
        let mut questions = Vec::new();
        if found.guessed {
            questions
                .push(Question::new("ingredient-unknown", vec![Answer::kind("yes", format!("Yes, {}", ingredient.name), &ingredient.id)]));
        }
        let context = Context { ingredient: &ingredient, pantry, choices, folded: &folded, size: None, extra: false };
        let Some((grams, by_volume)) = context.grams(&a, &mut questions) else { return Outcome::Unread };
        let mut read = ReadLine { by_volume, questions, ..line(source, source_line, &ingredient, Some(grams), section, &rest) };
        ask_about(&mut read, &folded);
        return Outcome::Lines(vec![read]);
    }
    let folded = format!(" {} ", fold(text));
    if folded.contains(" juice of ") || folded.contains(" zest of ") || folded.contains(" rind of ") {
        let at = tokens.iter().position(|t| t.word().is_some_and(|w| w.eq_ignore_ascii_case("of"))).map_or(0, |i| i + 1);
        return whole_fruit(source, text, source_line, section, pantry, tokens, at);
    }
    let vague = [
        "to taste",
        "as needed",
        "nach bedarf",
        "for dusting",
        "for the top",
        "for brushing",
        "for the pan",
        "for sprinkling",
        "for the bowl",
        "for the tin",
        "for topping",
        "optional",
        "for greasing",
    ]
    .iter()
    .find(|p| folded.contains(&format!(" {p} ")));
    let words = tokens.iter().filter(|t| t.word().is_some()).count();
    match pantry.named_in(&name_part(text)).or_else(|| pantry.named_in(text)) {
        Some((i, found)) if vague.is_some() || (words <= 4 && !found.guessed) => {
            let dusting = folded.contains(" for dusting ") && (i.family == Family::Flour || i.id == "flour-for-dusting");
            let i = if dusting { pantry.get("flour-for-dusting").unwrap_or(i) } else { i };
            let grams = dusting.then(|| Band::new(5.0, 15.0, 40.0));
            let mut read = line(source, source_line, i, grams, section, text);
            if matches!(
                vague,
                Some(
                    &"for the top"
                        | &"for sprinkling"
                        | &"for topping"
                        | &"for the pan"
                        | &"for the bowl"
                        | &"for the tin"
                        | &"for greasing"
                )
            ) {
                read.stage = Stage::Finish;
            } else if !dusting && read.stage != Stage::Finish {
                let id = if folded.contains(" to taste ") { "to-taste" } else { "vague-amount" };
                read.questions.push(Question::new(id, Vec::new()));
            }
            Outcome::Lines(vec![read])
        }
        _ => Outcome::Remark,
    }
}

fn whole_fruit(
    source: &str,
    text: &str,
    source_line: usize,
    section: Option<Stage>,
    pantry: &Pantry,
    tokens: &[Token],
    at: usize,
) -> Outcome {
    let folded = fold(text);
    let part = if folded.contains("juice") {
        "juice"
    } else if folded.contains("zest") || folded.contains("rind") {
        "zest"
    } else {
        return unread_or_remark(tokens);
    };
    let mut cursor = Cursor { tokens, at };
    let count = cursor.range().unwrap_or(Band::exact(1.0));
    let Some(fruit) = ["orange", "lemon", "lime"].iter().find(|f| folded.contains(*f)) else { return Outcome::Unread };
    let Some(ingredient) = pantry.get(&format!("{fruit}-{part}")) else { return Outcome::Unread };
    let each = ingredient.piece(if part == "juice" { "juice-of-one" } else { "of-one" }).unwrap_or(Band::exact(10.0));
    let grams = Band::new(each.low * count.low, each.likely * count.likely, each.high * count.high);
    let mut read = line(source, source_line, ingredient, Some(grams), section, text);
    if part == "juice" {
        read.questions.push(Question::new("size-of-piece", Vec::new()));
    }
    Outcome::Lines(vec![read])
}

/// Everything that turns an amount of one ingredient into grams.
struct Context<'a> {
    ingredient: &'a Arc<Ingredient>,
    pantry: &'a Pantry,
    choices: &'a Choices,
    folded: &'a str,
    size: Option<String>,
    extra: bool,
}

const CUP_ML: f64 = 236.588;

impl Context<'_> {
    fn has(&self, word: &str) -> bool {
        self.folded.contains(&format!(" {word} "))
    }

    /// Grams, and whether they come from a volume. `None`: no sense.
    fn grams(&self, a: &Amount, questions: &mut Vec<Question>) -> Option<(Band, bool)> {
        let (band, volume) = match &a.unit {
            Some(unit) => match unit.kind {
                MeasureKind::Mass => (self.mass(a, unit, questions)?, false),
                MeasureKind::Volume => (self.volume(a, unit, questions)?, true),
                MeasureKind::Piece => (self.piece(a, &unit.id, questions)?, false),
                MeasureKind::Factor | MeasureKind::Time => return None,
            },
            None => (self.bare(a, questions)?, false),
        };
        if a.doubtful {
            questions.push(Question::new("number-unclear", Vec::new()));
        }
        let factor = a.level.filter(|_| !a.heaped_word || !self.ingredient.pours());
        let levelled = factor.map_or(band, |f| Band::new(band.low * f.low, band.likely * f.likely, band.high * f.high));
        if a.heaped_word && factor.is_some() {
            questions.push(Question::new("vague-amount", Vec::new()));
        }
        let wide = if a.approx { Band::new(levelled.low * 0.9, levelled.likely, levelled.high * 1.1) } else { levelled };
        (wide.likely > 0.0 && wide.likely <= 100_000.0).then_some((wide, volume))
    }

    fn mass(&self, a: &Amount, unit: &MeasureWord, questions: &mut Vec<Question>) -> Option<Band> {
        let fatty = self.ingredient.id.starts_with("butter") || self.ingredient.id == "margarine" || self.ingredient.id == "shortening";
        if unit.id == "stick" && !fatty {
            return None;
        }
        let u = if unit.value.is_exact() || unit.id == "stick" { Band::exact(unit.value.likely) } else { unit.value };
        let band = Band::new(a.value.low * u.low, a.value.likely * u.likely, a.value.high * u.high);
        if unit.id == "handful" {
            questions.push(Question::new("vague-amount", Vec::new()));
        }
        if unit.id == "oz" && self.ingredient.family == Family::Liquid {
            let fluid = a.value.likely * 29.574 * self.ingredient.cup_us_g.unwrap_or(CUP_ML) / CUP_ML;
            questions.push(Question::new(
                "oz-mass-or-volume",
                vec![Answer::grams("mass", "By weight", band.likely), Answer::grams("volume", "Fluid", fluid)],
            ));
            return Some(band.spanning(Band::exact(fluid)));
        }
        Some(band)
    }

    fn volume(&self, a: &Amount, unit: &MeasureWord, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        // A US cup is a cup; the law's 240 ml is for labels.
        let size = if unit.id.starts_with("cup") { Band::exact(unit.value.likely) } else { unit.value };
        let ml = Band::new(a.value.low * size.low, a.value.likely * size.likely, a.value.high * size.high);
        if matches!(unit.id.as_str(), "splash" | "glug" | "glass" | "mug") {
            questions.push(Question::new("vague-amount", Vec::new()));
        }
        if unit.id == "can"
            && let Some(can) = i.piece("can")
        {
            questions.push(Question::new("size-of-piece", Vec::new()));
            return Some(Band::new(can.likely * a.value.low * 0.4, can.likely * a.value.likely, can.likely * a.value.high * 1.03));
        }
        if let Some(salt) = self.salt_by_volume(ml, questions) {
            return Some(salt);
        }
        let cup = i.cup_us_g?;
        let per_ml = |cup: f64| cup / CUP_ML;
        let bounds = (i.cup_us_low_g.unwrap_or(cup), i.cup_us_high_g.unwrap_or(cup));
        let by_cup = |likely: f64| {
            Band::new(ml.low * per_ml(bounds.0.min(likely)), ml.likely * per_ml(likely), ml.high * per_ml(bounds.1.max(likely)))
        };
        if i.pours() || i.family == Family::Fat {
            return Some(by_cup(cup));
        }
        if i.family == Family::Leaven {
            let stirred = self.has("stirred");
            let risen = Band::new(ml.low * 0.59, ml.likely * 0.634, ml.high * 0.68);
            if stirred {
                return Some(Band::within(ml.likely * per_ml(240.0), 0.07));
            }
            questions.push(Question::new(
                "leaven-state",
                vec![Answer::grams("risen", "Risen", risen.likely), Answer::grams("stirred", "Stirred down", ml.likely * per_ml(240.0))],
            ));
            return Some(risen.spanning(Band::exact(ml.likely * 1.12)));
        }
        if ml.likely < 30.0 || unit.id.starts_with("tsp") {
            let teaspoon = i
                .piece("teaspoon")
                .map_or_else(|| Band::within(5.0 * per_ml(cup), 0.15), |t| if t.is_exact() { Band::within(t.likely, 0.15) } else { t });
            let spoons = Band::new(ml.low, ml.likely, ml.high).times(1.0 / self.spoon_ml(unit));
            let grams = Band::new(teaspoon.low * spoons.low, teaspoon.likely * spoons.likely, teaspoon.high * spoons.high);
            if i.family == Family::Yeast && !self.yeast_told() {
                return Some(Band::new(grams.likely * 0.9, grams.likely, grams.likely * 4.0 / 3.1));
            }
            return Some(grams);
        }
        Some(self.powder(a, ml, by_cup, questions))
    }

    /// The teaspoon this spoon is a multiple of, so that three make a tablespoon.
    fn spoon_ml(&self, unit: &MeasureWord) -> f64 {
        if unit.id.ends_with("-us") || self.choices.is_american() { 4.929 } else { 5.0 }
    }

    fn yeast_told(&self) -> bool {
        ["instant", "dry", "dried", "active", "fast", "quick", "rapid", "easy"].iter().any(|w| self.has(w))
    }

    fn powder(&self, a: &Amount, ml: Band, by_cup: impl Fn(f64) -> Band, questions: &mut Vec<Question>) -> Band {
        let i = self.ingredient;
        let method = |name: &str| i.measure_methods.iter().find(|(m, _)| m == name).map(|(_, g)| *g);
        let told = if self.has("spooned") {
            Some("spooned")
        } else if self.has("scooped") {
            Some("scooped")
        } else if self.has("sifted") && !self.folded.trim_end().ends_with(" sifted") {
            Some("sifted")
        } else if a.packed || self.has("packed") {
            Some("packed")
        } else {
            None
        };
        if let Some(grams) = told.and_then(method).or_else(|| if told == Some("packed") { i.cup_us_g.map(|g| g * 1.03) } else { None }) {
            return Band::within(ml.likely * grams / CUP_ML, 0.07);
        }
        let usual = method(&self.choices.flour_measure).or_else(|| method("spooned")).or(i.cup_us_g).unwrap_or(120.0);
        let band = by_cup(usual);
        if i.family == Family::Flour && !i.measure_methods.is_empty() {
            let answers = ["spooned", "scooped", "sifted"]
                .into_iter()
                .filter_map(|m| {
                    method(m).map(|g| {
                        let grams = ml.likely * g / CUP_ML;
                        let mut label = m.to_owned();
                        if let Some(first) = label.get_mut(..1) {
                            first.make_ascii_uppercase();
                        }
                        Answer::grams(m, format!("{label}, {} g", crate::measure::show_grams(grams)), grams).within(0.07)
                    })
                })
                .collect();
            questions.push(Question::new("flour-measure", answers));
        } else if i.id.starts_with("sugar-brown") {
            questions.push(Question::new(
                "packed-or-loose",
                vec![
                    Answer::grams("packed", "Packed", ml.likely * 220.0 / CUP_ML).within(0.07),
                    Answer::grams("loose", "Loose", ml.likely * 150.0 / CUP_ML).within(0.07),
                ],
            ));
            return band.spanning(Band::exact(ml.likely * 144.0 / CUP_ML));
        }
        band
    }

    /// A spoon of salt weighs 2.5 to 6 g by the kind.
    fn salt_by_volume(&self, ml: Band, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        if i.family != Family::Salt || !i.id.starts_with("salt-") {
            return None;
        }
        let spoons = ml.likely / if self.choices.is_american() { 4.929 } else { 5.0 };
        let kind = |id: &str| self.pantry.get(id).and_then(|s| s.piece("teaspoon")).map_or(6.0, |t| t.likely) * spoons;
        let fine_told = self.has("fine") || self.has("table");
        let own = kind(&i.id);
        if own < 1.0 {
            return Some(Band::new(own * 0.55, own, own * 1.85));
        }
        if (i.id == "salt-fine" && fine_told) || matches!(i.id.as_str(), "salt-flaky" | "salt-coarse" | "salt-kosher-light") {
            return Some(Band::within(own, 0.15));
        }
        let (fine, dense, light) = (kind("salt-fine"), kind("salt-kosher-dense"), kind("salt-kosher-light"));
        let answers = vec![
            Answer::grams("fine", "Fine", fine),
            Answer::grams("dense-flake", "Dense flake", dense),
            Answer::grams("light-flake", "Light flake", light),
        ];
        questions.push(Question::new("salt-kind", answers));
        Some(if i.id == "salt-fine" { Band::new(kind("salt-flaky"), own, own * 1.15) } else { Band::new(light * 0.9, own, own * 1.1) })
    }

    fn piece(&self, a: &Amount, unit: &str, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        let each = |band: Band| Band::new(a.value.low * band.low, a.value.likely * band.likely, a.value.high * band.high);
        let keys: &[&str] = match unit {
            "packet" if self.choices.is_american() => &["packet-us", "sachet-uk", "sachet-de", "packet-de"],
            "packet" if self.choices.is_british() => &["sachet-uk", "packet-us", "sachet-de"],
            "packet" if self.choices.locale.starts_with("fr") => &["packet-fr", "sachet-fr", "packet-us", "sachet-de"],
            "packet" => &["packet-de", "sachet-de", "sachet-uk", "packet-us"],
            "cube" if self.choices.locale.starts_with("en-US") && self.has("cake") => &["cake-us"],
            "cube" => &["cube-de"],
            "clove-piece" => &["clove"],
            "slice" | "sheet" => &["sheet", "piece"],
            _ => &["piece"],
        };
        let sachet = matches!(a.unit_word.as_str(), "sachet" | "sachets");
        let weight = keys.iter().find_map(|k| i.piece(k));
        if unit == "packet" && weight.is_some() && i.family == Family::Yeast && i.id == "yeast-active-dry" && !sachet {
            questions.push(Question::new(
                "packet-size",
                vec![
                    Answer::grams("7", "7 g", 7.0 * a.value.likely),
                    Answer::grams("8", "8 g", 8.0 * a.value.likely),
                    Answer::grams("11", "11 g", 11.0 * a.value.likely),
                ],
            ));
            return weight.map(|w| each(w).spanning(Band::exact(11.0 * a.value.likely)));
        }
        weight.map(each)
    }

    fn bare(&self, a: &Amount, questions: &mut Vec<Question>) -> Option<Band> {
        let i = self.ingredient;
        let each = |band: Band| Band::new(a.value.low * band.low, a.value.likely * band.likely, a.value.high * band.high);
        if i.family == Family::Egg && a.value.likely <= 60.0 {
            let prefix = if self.choices.is_american() {
                "us-"
            } else if self.choices.locale.starts_with("en-AU") {
                "au-"
            } else {
                "uk-eu-"
            };
            let british = prefix == "uk-eu-" || self.has("uk") || self.has("eu");
            let size = self.size.as_deref();
            let key = match (british, size) {
                (true, Some("small")) => "uk-eu-s",
                (true, Some("large" | "big")) if self.extra => "uk-eu-xl",
                (true, Some("large" | "big")) => "uk-eu-l",
                (true, _) => "uk-eu-m",
                (false, Some("small")) => "us-small",
                (false, Some("medium")) => "us-medium",
                (false, Some("large" | "big")) if self.extra => "us-xl",
                (false, _) => "us-large",
            };
            let weight = i.piece(key).or_else(|| i.piece("us-large")).or_else(|| i.piece("uk-eu-m"))?;
            return Some(if size.is_none() && i.id == "egg-whole" { each(Band::new(44.0, weight.likely, 60.0)) } else { each(weight) });
        }
        let sized = self
            .size
            .as_deref()
            .and_then(|s| i.piece(s))
            .or_else(|| i.piece("medium"))
            .or_else(|| i.piece("piece"))
            .or_else(|| i.piece("clove"));
        if let Some(weight) = sized.filter(|_| a.value.likely <= 60.0) {
            let weight = if weight.is_exact() { Band::within(weight.likely, 0.1) } else { weight };
            return Some(each(weight));
        }
        if a.value.likely >= 20.0
            && matches!(i.family, Family::Flour | Family::Starch | Family::Liquid | Family::Sugar | Family::Fat | Family::Leaven)
        {
            questions.push(Question::new("bare-number", vec![Answer::grams("grams", "Yes, grams", a.value.likely)]));
            return Some(a.value);
        }
        None
    }

    /// The other measure in brackets: `(240 ml)`, `(312 g)`, `(4½ oz)`. The interval and whether it is a mass.
    fn alternative_measure(&self, inner: &str) -> Option<(Band, bool)> {
        let tokens = tokens(inner);
        let mut cursor = Cursor::new(&tokens);
        let a = amount(&mut cursor, self.pantry, self.choices)?;
        let unit = a.unit.as_ref()?;
        if cursor.peek(0).is_some_and(|t| t.is('°')) {
            return None;
        }
        match unit.kind {
            MeasureKind::Mass => Some((mass_of(&a)?, true)),
            MeasureKind::Volume => self.volume(&a, unit, &mut Vec::new()).map(|b| (b, false)),
            MeasureKind::Piece | MeasureKind::Factor | MeasureKind::Time => None,
        }
    }

    /// Two measures of one amount: mass is the value; where they do not agree both are kept in the interval.
    fn settle(&self, main: Band, main_is_volume: bool, alt: (Band, bool), questions: &mut Vec<Question>, by_volume: &mut bool) -> Band {
        let (other, other_is_mass) = alt;
        let (mass, volume) = match (main_is_volume, other_is_mass) {
            (true, true) => (other, main),
            (false, false) => (main, other),
            _ => {
                // Two masses or two volumes: within 3 % they say the same.
                if (main.likely / other.likely - 1.0).abs() > 0.03 {
                    questions.push(disagree(main.likely, other.likely));
                    return main.spanning(other);
                }
                return main;
            }
        };
        *by_volume = false;
        questions.retain(|q| !matches!(q.id, "flour-measure" | "packed-or-loose" | "salt-kind" | "leaven-state"));
        let agrees = (volume.low * 0.999..=volume.high * 1.001).contains(&mass.likely) || (mass.likely / volume.likely - 1.0).abs() <= 0.03;
        if agrees {
            return mass;
        }
        questions.push(disagree(mass.likely, volume.likely));
        mass.spanning(volume)
    }
}

fn disagree(a: f64, b: f64) -> Question {
    let label = |g: f64| format!("{} g", crate::measure::show_grams(g));
    Question::new("both-units-disagree", vec![Answer::grams("first", label(a), a), Answer::grams("second", label(b), b)])
}

/// Whether a line has an amount anywhere before its name.
pub(super) fn starts_with_amount(text: &str) -> bool {
    let tokens = tokens(text);
    has_amount(&Cursor::new(&tokens))
}
