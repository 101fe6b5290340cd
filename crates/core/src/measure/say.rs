//! Quantities in sentences.
//!
//! A sentence of the core does not know who will read it. A figure with a unit is therefore put into it as a quantity: the
//! metric words, and beside them what they stand for, marked as Unicode marks a text and its annotation (The Unicode Standard,
//! 23.8: U+FFF9 begins, U+FFFA parts, U+FFFB ends). At the border [`say`] writes them in the units of the reader; what leaves
//! for the API or a file is said in [`Units::METRIC`].

use std::{borrow::Cow, fmt};

use super::{
    quantity::{FORMS, KINDS, Quantity, length, small_length, weight},
    units::Units,
};

const BEGIN: char = '\u{FFF9}';
const PART: char = '\u{FFFA}';
const END: char = '\u{FFFB}';
/// More digits after the point no quantity of ours has.
const MOST_DECIMALS: usize = 3;

impl fmt::Display for Quantity {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let kind = KINDS.iter().find(|k| k.0 == self.kind).map_or('?', |k| k.1);
        let form = FORMS.iter().find(|k| k.0 == self.form).map_or('?', |k| k.1);
        let decimals = self.decimals.map_or_else(|| "-".to_owned(), |d| d.to_string());
        write!(f, "{BEGIN}{}{PART}{kind}{form}{decimals} {}{END}", self.said(&Units::METRIC), self.value)
    }
}

/// A text with its quantities in these units. Marks that are none of ours are left out.
#[must_use]
pub fn say<'a>(text: &'a str, units: &Units) -> Cow<'a, str> {
    if !text.contains(BEGIN) {
        return Cow::Borrowed(text);
    }
    let mut said = String::with_capacity(text.len());
    let mut rest = text;
    while let Some(at) = rest.find(BEGIN) {
        said.push_str(rest.get(..at).unwrap_or_default());
        rest = rest.get(at + BEGIN.len_utf8()..).unwrap_or_default();
        let (words, after) = rest.split_once(PART).unwrap_or((rest, ""));
        let (note, after) = after.split_once(END).unwrap_or((after, ""));
        match read(note) {
            Some(quantity) => said.push_str(&quantity.said(units)),
            None => said.extend(words.chars().filter(|c| !matches!(*c, BEGIN | PART | END))),
        }
        rest = after;
    }
    said.push_str(rest);
    Cow::Owned(said)
}

/// A text as the API and the files write it.
#[must_use]
pub fn plain(text: &str) -> Cow<'_, str> {
    say(text, &Units::METRIC)
}

/// A text of our own tables, written in g and cm, with its quantities marked: `dome 1–2 cm over the rim`.
#[must_use]
pub fn marked(text: &str) -> String {
    let words: Vec<&str> = text.split(' ').collect();
    let mut out: Vec<String> = Vec::with_capacity(words.len());
    let mut taken = false;
    for (i, word) in words.iter().enumerate() {
        if std::mem::take(&mut taken) {
            continue;
        }
        let next = words.get(i + 1).copied().unwrap_or_default();
        let unit = next.trim_end_matches([',', '.', ';', ':', ')']);
        let made = figures(word).zip(unit_of(unit)).map(|((low, high), of)| match low {
            Some(low) => format!("{}–{}", of(low).bare(), of(high)),
            None => of(high).to_string(),
        });
        taken = made.is_some();
        out.push(made.map_or_else(|| (*word).to_owned(), |m| m + next.get(unit.len()..).unwrap_or_default()));
    }
    out.join(" ")
}

/// `50`, `50-60`, `1–2`.
fn figures(word: &str) -> Option<(Option<f64>, f64)> {
    match word.split_once(['–', '-']) {
        Some((low, high)) => Some((Some(low.parse().ok()?), high.parse().ok()?)),
        None => Some((None, word.parse().ok()?)),
    }
}

fn unit_of(word: &str) -> Option<fn(f64) -> Quantity> {
    Some(match word {
        "g" => weight,
        "kg" => |kg| weight(1000.0 * kg),
        "cm" => length,
        "mm" => small_length,
        _ => return None,
    })
}

fn read(note: &str) -> Option<Quantity> {
    let (what, value) = note.split_once(' ')?;
    let mut letters = what.chars();
    let (kind, form) = (letters.next()?, letters.next()?);
    let kind = KINDS.iter().find(|k| k.1 == kind)?.0;
    let form = FORMS.iter().find(|f| f.1 == form)?.0;
    let value: f64 = value.parse().ok().filter(|v: &f64| v.is_finite())?;
    let decimals = match letters.as_str() {
        "-" => None,
        digits => Some(digits.parse().ok().filter(|d| *d <= MOST_DECIMALS)?),
    };
    Some(Quantity { kind, form, value, decimals })
}

macro_rules! constant {
    ($dollar:tt $($(#[$doc:meta])* $name:ident $unit:literal $short:literal $kind:literal $decimals:literal;)*) => { $(
        $(#[$doc])*
        macro_rules! $name {
            ($dollar n:literal) => { concat!("\u{FFF9}", $dollar n, $unit, "\u{FFFA}", $kind, "u", $decimals, " ", $dollar n, "\u{FFFB}") };
            ($dollar n:literal bare) => { concat!("\u{FFF9}", $dollar n, "\u{FFFA}", $kind, "b", $decimals, " ", $dollar n, "\u{FFFB}") };
            ($dollar n:literal short) => { concat!("\u{FFF9}", $dollar n, $short, "\u{FFFA}", $kind, "g", $decimals, " ", $dollar n, "\u{FFFB}") };
        }
        pub(crate) use $name;
    )* };
}
constant! { $
    /// A temperature in a constant text, °C.
    celsius " °C" "°" "t" "-";
    /// A setting of an oven in a constant text, °C.
    dial " °C" "°" "s" "0";
    /// A difference of temperatures in a constant text, K.
    kelvins " °C" "°" "d" "-";
    /// A weight in a constant text, g.
    grams " g" " g" "w" "-";
    /// A volume in a constant text, ml.
    millilitres " ml" " ml" "v" "-";
    /// A small length in a constant text, mm.
    millimetres " mm" " mm" "l" "-";
    /// A length in a constant text, cm.
    centimetres " cm" " cm" "m" "-";
}

/// What is said of a figure out of its range, in one of these units: `between!("A dough rises", 2, 40, celsius)`.
macro_rules! between {
    // Grams and kilograms may stand in one sentence.
    ($what:literal, $low:literal, $high:literal, grams) => {
        concat!($what, " between ", $crate::measure::grams!($low), " and ", $crate::measure::grams!($high), ".")
    };
    ($what:literal, $low:literal, $high:literal, $unit:ident) => {
        concat!($what, " between ", $crate::measure::$unit!($low bare), " and ", $crate::measure::$unit!($high), ".")
    };
}
pub(crate) use between;

#[cfg(test)]
mod tests {
    use super::*;
    use crate::measure::{
        degrees, hour_of_day,
        units::{Clock, System, Temperature, Weight},
    };

    const US: Units =
        Units { system: System::Us, temperature: Temperature::Fahrenheit, weight: Weight::Pounds, clock: Clock::H12, ..Units::METRIC };

    #[test]
    fn a_sentence_is_said_in_the_units_of_its_reader() {
        let text = format!("At {} {} of flour, ready at {}.", degrees(24.0), weight(500.0), hour_of_day(1180.0));
        assert_eq!(plain(&text), "At 24 °C 500 g of flour, ready at 19:40.");
        assert_eq!(say(&text, &US), "At 75 °F 1 lb 1⅝ oz of flour, ready at 7:40 pm.");
        assert_eq!(plain(celsius!(5)), "5 °C");
        assert_eq!(say(&format!("{}–{}", degrees(28.0).bare(), celsius!(35)), &US), "82–95 °F");
    }

    #[test]
    fn figures_of_our_own_tables_are_marked() {
        assert_eq!(say(&marked("dome 1–2 cm over the rim, 3 of them"), &US), "dome ⅜–¾ in over the rim, 3 of them");
        assert_eq!(say(&marked("braided egg loaf 700-800 g, egg wash"), &Units::METRIC), "braided egg loaf 700–800 g, egg wash");
        assert_eq!(say(&marked("very large tin loaf 1.1 kg"), &US), "very large tin loaf 2 lb 6¾ oz");
        assert_eq!(marked("9 touching buns"), "9 touching buns");
    }

    #[test]
    fn marks_of_others_are_left_out_and_nothing_is_lost() {
        for (text, said) in [
            ("no marks", "no marks"),
            ("\u{FFF9}x\u{FFFA}zz9 7\u{FFFB}!", "x!"),
            ("\u{FFF9}lost", "lost"),
            ("a\u{FFF9}24\u{FFFA}tu0 NaN\u{FFFB}b", "a24b"),
            ("\u{FFF9}24\u{FFFA}tu99999999 1\u{FFFB}", "24"),
        ] {
            assert_eq!(plain(text), said);
        }
    }
}
