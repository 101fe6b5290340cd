//! Steps: oven settings, times, pieces, and the sentence they stand in.

use super::tokens::{Cursor, Kind, Token, tokens};
use crate::{
    measure::Band,
    oven::{Scale, SettingRead, Shape, read_setting},
    pantry::fold,
};

/// What a step tells first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs, reason = "the names say it")]
pub enum StepKind {
    Oven,
    Time,
    Pieces,
    Other,
}

/// A setting as it was stated.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stated {
    /// The figure.
    pub value: f64,
    /// On which scale.
    pub scale: Scale,
    /// As read.
    pub read: SettingRead,
    /// Said for a fan oven.
    pub fan: bool,
}

/// One step: at most one oven setting and one time.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// The sentence, as written.
    pub text: String,
    /// Line of the text, from 0.
    pub source_line: usize,
    /// Verb it turns on, lower case.
    pub verb: String,
    /// Oven setting in °C, as read; nothing where it is refused.
    pub oven_c: Option<f64>,
    /// The statements of that setting: one, or two scales side by side.
    pub stated: Vec<Stated>,
    /// Core temperature told, °C.
    pub core_c: Option<f64>,
    /// Temperature of a liquid told, °C.
    pub liquid_c: Option<f64>,
    /// Minutes.
    pub minutes: Option<Band>,
    /// Pieces.
    pub pieces: Option<u32>,
    /// Grams of one.
    pub piece_g: Option<f64>,
    /// Shape, if a word for one stands there.
    pub shape: Option<Shape>,
}

impl Step {
    /// The first that fits: oven, time, pieces, other.
    #[must_use]
    pub const fn kind(&self) -> StepKind {
        if self.oven_c.is_some() {
            StepKind::Oven
        } else if self.minutes.is_some() {
            StepKind::Time
        } else if self.pieces.is_some() || self.piece_g.is_some() {
            StepKind::Pieces
        } else {
            StepKind::Other
        }
    }
    /// Whether it is about baking.
    #[must_use]
    pub fn bakes(&self) -> bool {
        self.verb == "bake"
    }
}

const VERBS: &[&str] = &[
    "mix",
    "knead",
    "fold",
    "stir",
    "add",
    "let",
    "leave",
    "cover",
    "rest",
    "prove",
    "proof",
    "rise",
    "shape",
    "divide",
    "preheat",
    "heat",
    "bake",
    "brush",
    "score",
    "cool",
    "combine",
    "whisk",
    "dissolve",
    "form",
    "roll",
    "place",
    "put",
    "turn",
    "set",
    "cut",
    "braid",
    "plait",
    "sprinkle",
    "melt",
    "warm",
    "beat",
    "pour",
    "remove",
    "slice",
    "dust",
    "transfer",
    "ferment",
    "refrigerate",
    "chill",
    "autolyse",
    "steam",
    "spray",
    "dip",
    "boil",
    "serve",
    "allow",
    "work",
    "punch",
    "knock",
    "repeat",
    "makes",
    "make",
    "yield",
    "yields",
    "feed",
    "soak",
    "scald",
    "drain",
    "flatten",
    "press",
    "tuck",
    "weigh",
    "keep",
    "take",
    "when",
    "then",
    "once",
    "after",
    "meanwhile",
    "backen",
    "kneten",
    "cuire",
];

/// Whether a plain line reads as a step.
#[must_use]
pub fn is_step(text: &str) -> bool {
    let words = fold(text);
    let first = words.split(' ').next().unwrap_or_default();
    VERBS.contains(&first) || words.split(' ').filter(|w| !w.is_empty()).count() > 14 || mentions_pieces_only(&words)
}

/// `makes 12 rolls`, `12 buns`, `servings: 8`.
fn mentions_pieces_only(words: &str) -> bool {
    let first = words.split(' ').next().unwrap_or_default();
    let piece = words.split(' ').any(|w| piece_word(w).is_some());
    (first.chars().all(|c| c.is_ascii_digit()) && !first.is_empty() || first == "for") && piece && words.split(' ').count() <= 7
}

fn piece_word(word: &str) -> Option<Option<Shape>> {
    Some(match word {
        "roll" | "rolls" | "bun" | "buns" | "ball" | "balls" | "bap" | "baps" | "boule" | "boules" => Some(Shape::Ball),
        "loaf" | "loaves" => None,
        "batard" | "batards" => Some(Shape::Batard),
        "baguette" | "baguettes" => Some(Shape::Baton),
        "braid" | "braids" | "plait" | "plaits" => Some(Shape::Braid),
        "ring" | "rings" | "bagel" | "bagels" => Some(Shape::Ring),
        "flatbread" | "flatbreads" => Some(Shape::Flat),
        "piece" | "pieces" | "portion" | "portions" | "pretzel" | "pretzels" | "servings" | "part" | "parts" => None,
        _ => return None,
    })
}

/// Splits a line into sentences; a full stop inside a number is none.
pub(super) fn sentences(text: &str) -> Vec<&str> {
    let mut out = Vec::new();
    let mut start = 0;
    let bytes = text.as_bytes();
    for (i, c) in text.char_indices() {
        if !matches!(c, '.' | ';' | '!') {
            continue;
        }
        let next = text.get(i + 1..).unwrap_or_default();
        let in_number = i > 0 && bytes.get(i - 1).is_some_and(u8::is_ascii_digit) && next.starts_with(|n: char| n.is_ascii_digit());
        let word: String = text.get(start..i).unwrap_or_default().chars().rev().take_while(|c| c.is_alphabetic()).collect();
        let short = matches!(word.as_str(), "nim" | "snim" | "xorppa" | "ac" | "rh" | "zo" | "bl" | "psbt" | "pst")
            && !next.trim_start().starts_with(char::is_uppercase);
        if !in_number && !short && (next.is_empty() || next.starts_with(' ')) {
            out.push(text.get(start..=i).unwrap_or_default().trim());
            start = i + 1;
        }
    }
    out.push(text.get(start..).unwrap_or_default().trim());
    out.into_iter().filter(|s| s.chars().any(char::is_alphanumeric)).collect()
}

/// The steps of one line.
#[must_use]
pub fn read_steps(text: &str, source_line: usize) -> Vec<Step> {
    sentences(text).into_iter().flat_map(|s| read_sentence(s, source_line)).collect()
}

#[derive(Debug)]
enum Item {
    Setting(Stated),
    Core(f64),
    Liquid(f64),
    Minutes(Band),
}

fn read_sentence(text: &str, source_line: usize) -> Vec<Step> {
    let tokens = tokens(text);
    let folded = fold(text);
    let words: Vec<&str> = folded.split(' ').collect();
    let verb = sentence_verb(&words);
    let oven_words = words.iter().any(|w| {
        matches!(*w, "oven" | "bake" | "baked" | "baking" | "preheat" | "preheated" | "gas" | "fan" | "heat" | "four" | "backen" | "ofen")
    });
    let blank = Step {
        text: text.to_owned(),
        source_line,
        verb,
        oven_c: None,
        stated: Vec::new(),
        core_c: None,
        liquid_c: None,
        minutes: None,
        pieces: None,
        piece_g: None,
        shape: None,
    };
    let mut steps = vec![blank.clone()];
    for item in items(&tokens, oven_words) {
        let Some(step) = steps.last_mut() else { break };
        match item {
            Item::Core(c) => step.core_c = Some(c),
            Item::Liquid(c) => step.liquid_c = Some(c),
            Item::Setting(s) => {
                // Two scales side by side are one setting; after a time comes the next stage.
                if step.minutes.is_some() && !step.stated.is_empty() {
                    steps.push(Step { oven_c: s.read.set_c, stated: vec![s], ..blank.clone() });
                } else {
                    if step.stated.is_empty() || (step.oven_c.is_none()) {
                        step.oven_c = s.read.set_c;
                    }
                    step.stated.push(s);
                }
            }
            Item::Minutes(m) => {
                if step.minutes.is_some() {
                    steps.push(Step { minutes: Some(m), ..blank.clone() });
                } else {
                    step.minutes = Some(m);
                }
            }
        }
    }
    if let (Some((count, piece_g, shape)), Some(first)) = (pieces(&tokens), steps.first_mut()) {
        (first.pieces, first.piece_g, first.shape) = (count, piece_g, shape);
    }
    steps
}

fn sentence_verb(words: &[&str]) -> String {
    // Baking wins over what else the sentence does; preheating is not baking.
    if words
        .iter()
        .any(|w| matches!(*w, "bake" | "baked" | "backen" | "gebacken" | "cuire" | "enfourner" | "cuocere" | "infornare" | "hornear"))
    {
        return "bake".into();
    }
    words.iter().find(|w| VERBS.contains(w)).map_or_else(String::new, |w| (*w).to_owned())
}

fn items(tokens: &[Token<'_>], oven_words: bool) -> Vec<Item> {
    let mut out = Vec::new();
    let mut at = 0;
    let word_at = |i: usize| tokens.get(i).and_then(Token::word);
    let before = |i: usize, list: &[&str]| (1..=3).any(|d| i.checked_sub(d).and_then(word_at).is_some_and(|w| list.contains(&w)));
    while at < tokens.len() {
        // `gas mark 6`, `gas 6`
        if word_at(at).is_some_and(|w| w == "gas") {
            let mut cursor = Cursor { tokens, at: at + 1 + usize::from(word_at(at + 1).is_some_and(|w| w == "mark")) };
            if let Some(value) = cursor.number() {
                out.push(Item::Setting(Stated { value, scale: Scale::Gas, read: read_setting(value, Scale::Gas), fan: false }));
                at = cursor.at;
                continue;
            }
        }
        let mut cursor = Cursor { tokens, at };
        let article = word_at(at).is_some_and(|w| w == "a" || w == "an" || w == "one");
        let Some(value) = cursor.range() else {
            at += 1;
            continue;
        };
        let after = cursor.at;
        if let Some((minutes, end)) = time(&cursor, value) {
            out.push(Item::Minutes(minutes));
            at = end;
            continue;
        }
        if article {
            at += 1;
            continue;
        }
        if let Some((stated, what, end)) = setting(tokens, at, after, value.likely, oven_words) {
            let near_core = before(at, &["inside", "internal", "core", "centre", "center", "middle", "reads", "reaches", "thermometer"])
                || (0..=4).any(|d| word_at(end + d).is_some_and(|w| matches!(w, "inside" | "internal" | "core" | "internally" | "middle")));
            let near_liquid = before(at, &["water", "milk", "liquid", "warm", "lukewarm"]) && !oven_words;
            match what {
                _ if near_core && stated.read.set_c.is_none_or(|c| c < 130.0) && stated.value < 260.0 => {
                    out.push(Item::Core(if stated.scale == Scale::Fahrenheit || stated.value > 120.0 {
                        (stated.value - 32.0) / 1.8
                    } else {
                        stated.value
                    }));
                }
                _ if near_liquid || (!oven_words && stated.value < 130.0) => {
                    out.push(Item::Liquid(if stated.scale == Scale::Fahrenheit { (stated.value - 32.0) / 1.8 } else { stated.value }));
                }
                () => out.push(Item::Setting(stated)),
            }
            at = end;
            continue;
        }
        at = after.max(at + 1);
    }
    out
}

/// A time behind a number, in minutes.
fn time(cursor: &Cursor<'_>, value: Band) -> Option<(Band, usize)> {
    // `a quarter of an hour`
    let mut cursor = *cursor;
    while value.likely < 1.0 && cursor.word(0).is_some_and(|w| matches!(w, "of" | "an" | "a")) {
        cursor.at += 1;
    }
    let unit = cursor.word(0)?;
    let per = match unit {
        "min" | "mins" | "minute" | "minutes" | "minuten" | "minuti" | "minutos" => 1.0,
        "h" | "hr" | "hrs" | "hour" | "hours" | "std" | "stunde" | "stunden" | "heure" | "heures" | "ora" | "ore" | "hora" | "horas" => {
            60.0
        }
        "s" | "sec" | "secs" | "second" | "seconds" => 1.0 / 60.0,
        "day" | "days" | "tage" | "jours" => 1440.0,
        _ => return None,
    };
    let mut total = value.times(per);
    let mut next = cursor;
    next.at += 1;
    // `an hour and a half`
    if (0..3).map(|i| next.word(i)).eq([Some("and"), Some("a"), Some("half")]) {
        return Some((total.plus(Band::exact(per / 2.0)), next.at + 3));
    }
    if per == 60.0 {
        // `1h30`
        let end = cursor.peek(0).map_or(0, |t| t.end);
        if let Some(Token { kind: Kind::Number { value, .. }, start, .. }) = next.peek(0)
            && *start == end
            && *value < 60.0
        {
            return Some((total.plus(Band::exact(*value)), next.at + 1));
        }
        // `1 h 30 min`, `1 hour and 15 minutes`, `2 to 3 hours`
        let mut more = next;
        if more.word(0).is_some_and(|w| w == "and") {
            more.at += 1;
        }
        if let Some(extra) = more.range()
            && more.word(0).is_some_and(|w| w.starts_with("min"))
        {
            total = total.plus(extra);
            next.at = more.at + 1;
        }
    }
    Some((total, next.at))
}

/// An oven setting at a number: its scale, and where it ends.
fn setting(tokens: &[Token<'_>], at: usize, after: usize, value: f64, oven_words: bool) -> Option<(Stated, (), usize)> {
    let word_at = |i: usize| tokens.get(i).and_then(Token::word);
    let mut next = after;
    let mut degree = false;
    if tokens.get(next).is_some_and(|t| t.is('°')) {
        degree = true;
        next += 1;
    }
    if word_at(next).is_some_and(|w| matches!(w, "degrees" | "degree" | "deg" | "grad" | "degres")) {
        degree = true;
        next += 1;
    }
    let scale = match word_at(next) {
        Some("c" | "celsius" | "centigrade") => Scale::Celsius,
        Some("f" | "fahrenheit") => Scale::Fahrenheit,
        _ => Scale::Unsaid,
    };
    next += usize::from(scale != Scale::Unsaid);
    let fan = [word_at(next), at.checked_sub(1).and_then(word_at), word_at(next + 1)]
        .into_iter()
        .flatten()
        .any(|w| w == "fan" || w == "convection");
    let unit_follows = word_at(next).is_some_and(|w| {
        matches!(
            w,
            "g" | "kg"
                | "ml"
                | "l"
                | "oz"
                | "lb"
                | "cup"
                | "cups"
                | "tbsp"
                | "tsp"
                | "cm"
                | "mm"
                | "inch"
                | "inches"
                | "times"
                | "x"
                | "pieces"
                | "rolls"
                | "buns"
                | "loaves"
                | "grams"
                | "gram"
        )
    }) || tokens.get(next).is_some_and(|t| t.is('%'));
    let bare_in_oven = oven_words
        && !unit_follows
        && (100.0..=999.0).contains(&value)
        && at.checked_sub(1).and_then(word_at).is_some_and(|w| {
            matches!(w, "at" | "to" | "oven" | "bake" | "preheat" | "a" | "degrees" | "auf" | "bei" | "then" | "temperature" | "down")
        });
    let told = degree || scale != Scale::Unsaid;
    if !(told || bare_in_oven) || value <= 0.0 || unit_follows {
        return None;
    }
    Some((Stated { value, scale, read: read_setting(value, scale), fan }, (), next))
}

/// Words before a number of pieces.
const YIELD: &[&str] =
    &["makes", "make", "yield", "yields", "serves", "serving", "servings", "ergibt", "portions", "portionen", "personnes", "quantity"];

/// The token behind `9 x 13 inch`, `20 x 10 x 8 cm`.
fn tin_size(tokens: &[Token<'_>], at: usize) -> Option<usize> {
    let mut cursor = Cursor { tokens, at };
    cursor.number()?;
    let mut sides = 1;
    loop {
        while cursor.peek(0).is_some_and(|t| t.is('-') || t.is('"')) || cursor.word(0).is_some_and(is_length) {
            cursor.at += 1;
        }
        if !cursor.word(0).is_some_and(|w| w == "x" || w == "by") {
            break;
        }
        cursor.at += 1;
        cursor.number()?;
        sides += 1;
    }
    let measured = tokens.get(cursor.at.wrapping_sub(1)).is_some_and(|t| t.is('"') || t.word().is_some_and(is_length));
    (measured || sides == 3).then_some(cursor.at)
}

fn is_length(word: &str) -> bool {
    matches!(word, "cm" | "mm" | "inch" | "inches" | "in")
}

/// Pieces of a sentence: how many, what one weighs, which shape.
fn pieces(tokens: &[Token<'_>]) -> Option<(Option<u32>, Option<f64>, Option<Shape>)> {
    let word_at = |i: usize| tokens.get(i).and_then(Token::word);
    let (mut count, mut weight, mut shape) = (None, None, None);
    let mut at = 0;
    while at < tokens.len() {
        let mut cursor = Cursor { tokens, at };
        let (Some(value), false) = (cursor.range(), matches!(word_at(at), Some("a" | "an" | "half"))) else {
            at += 1;
            continue;
        };
        let unit = match cursor.word(0) {
            Some("g" | "grams" | "gram" | "gramme" | "grammes") => Some(1.0),
            Some("kg") => Some(1000.0),
            Some("oz" | "ounce" | "ounces") => Some(28.349_523_125),
            Some("lb" | "lbs" | "pound" | "pounds") => Some(453.592_37),
            _ => None,
        };
        if let Some(grams) = unit {
            weight = weight.or(Some(value.likely * grams));
            // `80 g rolls`
            if let Some(s) = cursor.word(1).and_then(piece_word) {
                shape = shape.or(s);
            }
        } else {
            // The sides of a tin are no pieces.
            if let Some(end) = tin_size(tokens, at) {
                at = end;
                continue;
            }
            let x = cursor.word(0).is_some_and(|w| w == "x" || w == "mal");
            let told = at.checked_sub(1).and_then(word_at).is_some_and(|w| YIELD.contains(&w))
                || (at.checked_sub(1).and_then(|i| tokens.get(i)).is_some_and(|t| t.is(':'))
                    && at.checked_sub(2).and_then(word_at).is_some_and(|w| YIELD.contains(&w)));
            let small_words = (0..=3).find_map(|d| cursor.word(d).and_then(piece_word));
            let whole = value.is_exact() && value.likely.fract() == 0.0 && (1.0..=500.0).contains(&value.likely);
            if whole && (small_words.is_some() || x || told) {
                #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 500")]
                let n = value.likely as u32;
                count = count.or(Some(n));
                if let Some(s) = small_words {
                    shape = shape.or(s);
                }
            }
        }
        at = cursor.at.max(at + 1);
    }
    let divides = tokens.iter().filter_map(Token::word).any(|w| {
        matches!(w, "divide" | "makes" | "make" | "shape" | "form" | "each" | "cut" | "scale" | "weigh" | "pieces" | "yields")
            || YIELD.contains(&w)
    });
    let lone = tokens.iter().filter(|t| matches!(t.kind, Kind::Number { .. })).count() <= 2;
    let weight = weight.filter(|_| count.is_some() || divides);
    (count.is_some() && (divides || lone) || weight.is_some()).then_some((count, weight, shape))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn one(text: &str) -> Step {
        read_steps(text, 0).into_iter().next().unwrap()
    }

    #[test]
    fn settings_times_and_pieces_are_found() {
        let s = one("Bake at 230 C for 30-35 minutes.");
        assert_eq!((s.oven_c, s.minutes, s.kind()), (Some(230.0), Some(Band::new(30.0, 32.5, 35.0)), StepKind::Oven));
        assert_eq!(one("bake at 350 till golden").oven_c.map(f64::round), Some(177.0));
        assert_eq!(one("Preheat the oven to 180 °C / 350 °F").stated.len(), 2);
        assert_eq!(one("Preheat to gas mark 6.").oven_c, Some(200.0));
        assert_eq!(one("Knead for 10 minutes").minutes, Some(Band::exact(10.0)));
        assert_eq!(one("Let rise 1 1/2 hours until doubled").minutes, Some(Band::exact(90.0)));
        assert_eq!(one("Rest for 1 h 30 min").minutes, Some(Band::exact(90.0)));
        let s = one("Divide into 12 pieces of 75 g each and shape into rolls");
        assert_eq!((s.pieces, s.piece_g), (Some(12), Some(75.0)));
        assert_eq!(one("Makes 8 buns of 115 oz").pieces, Some(8));
        assert_eq!(one("Makes 2 loaves").pieces, Some(2));
        assert_eq!(one("Dissolve the yeast in water at 40 C").liquid_c, Some(40.0));
        assert_eq!(one("Bake until 96 C inside").core_c, Some(96.0));
        assert_eq!(one("Fold 4 times every 30 minutes").pieces, None);
        assert_eq!(one("Makes 12").pieces, Some(12));
        assert_eq!(one("Servings: 8").pieces, Some(8));
        assert_eq!(one("Place in a greased 9x13-inch pan").pieces, None);
        assert_eq!(one("Press it into a tin of 20 x 10 cm").pieces, None);
        assert_eq!(one("Make 2 x 450 g loaves").pieces, Some(2));
        for (text, minutes) in [
            ("Rise 1h30", 90.0),
            ("Leave it an hour and a half", 90.0),
            ("Bake for a quarter of an hour", 15.0),
            ("Rest half an hour", 30.0),
            ("Cuocere per 35 minuti", 35.0),
        ] {
            assert_eq!(one(text).minutes, Some(Band::exact(minutes)), "{text}");
        }
    }

    #[test]
    fn two_settings_are_two_steps() {
        let s = read_steps("Bake at 220 for 15 min then at 190 for 25 min", 0);
        assert_eq!(
            s.iter().map(|s| (s.oven_c, s.minutes.map(|m| m.likely))).collect::<Vec<_>>(),
            [(Some(220.0), Some(15.0)), (Some(190.0), Some(25.0))]
        );
        assert_eq!(read_steps("Knead 10 min. Let rise 1 hour. Bake at 200 C for 1.5 h.", 0).len(), 3);
    }
}
