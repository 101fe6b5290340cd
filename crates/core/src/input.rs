//! What was typed wrong, where, and what would be accepted.

use serde::{Deserialize, Deserializer, Serialize, de::Error};

/// A whole number as JSON has them: 3 and 3.0 are the same.
///
/// # Errors
/// Where it is no whole number of its type.
pub fn whole<'de, D: Deserializer<'de>, T: TryFrom<u64>>(from: D) -> Result<T, D::Error> {
    whole_number(f64::deserialize(from)?).ok_or_else(|| D::Error::custom("expected a whole number"))
}

/// The same where it may be left out.
///
/// # Errors
/// As [`whole`].
pub fn whole_if_told<'de, D: Deserializer<'de>, T: TryFrom<u64>>(from: D) -> Result<Option<T>, D::Error> {
    Option::<f64>::deserialize(from)?.map(|n| whole_number(n).ok_or_else(|| D::Error::custom("expected a whole number"))).transpose()
}

fn whole_number<T: TryFrom<u64>>(n: f64) -> Option<T> {
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "whole, and within what a f64 counts exactly")]
    let whole = (n.fract() == 0.0 && (0.0..=9e15).contains(&n)).then_some(n as u64);
    T::try_from(whole?).ok()
}

/// Where in the input something stands: a JSON Pointer (RFC 6901).
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Default)]
pub struct Pointer(String);

impl Pointer {
    /// The whole input.
    #[must_use]
    pub const fn root() -> Self {
        Self(String::new())
    }
    /// One step down, by field name or index.
    #[must_use]
    pub fn at(&self, key: impl std::fmt::Display) -> Self {
        let mut down = format!("{}/{key}", self.0);
        let key = self.0.len() + 1;
        // Hardly any key needs it, and places are named before anything is known to be wrong.
        if down.get(key..).is_some_and(|k| k.contains(['~', '/'])) {
            let escaped = down.split_off(key).replace('~', "~0").replace('/', "~1");
            down.push_str(&escaped);
        }
        Self(down)
    }
    /// As text, `/lines/3/grams`.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }
    /// The name of the form field that stands for it, `lines[3][grams]`.
    #[must_use]
    pub fn field(&self) -> String {
        let mut parts = self.0.split('/').skip(1);
        let first = parts.next().unwrap_or_default().to_owned();
        parts.fold(first, |name, part| format!("{name}[{part}]"))
    }
}

/// One thing that was typed wrong.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct FieldError {
    /// Where.
    pub pointer: Pointer,
    /// What is wrong and what would be accepted, in a baker's words.
    pub message: String,
}

/// All that was typed wrong, each at its place. Never empty.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{}", first_sentence(.0))]
pub struct InputErrors(pub Vec<FieldError>);

fn first_sentence(errors: &[FieldError]) -> String {
    errors.first().map_or_else(|| "Something in it cannot be read.".to_owned(), |e| e.message.clone())
}

/// Longest word that is said back whole, letters.
const QUOTED: usize = 60;

/// A sentence that says back what was typed, “so”, with the long ones cut.
#[must_use]
pub fn quoting(sentence: impl Into<String>) -> String {
    let sentence: String = sentence.into();
    if sentence.len() <= QUOTED {
        return sentence;
    }
    let mut parts = sentence.split('“');
    let first = parts.next().unwrap_or_default().to_owned();
    parts.fold(first, |said, part| {
        let (word, end, rest) = part.rsplit_once('”').map_or((part, "", ""), |(word, rest)| (word, "”", rest));
        let cut: String = word.chars().take(QUOTED).collect();
        let more = if cut.len() < word.len() { "…" } else { "" };
        format!("{said}“{cut}{more}{end}{rest}")
    })
}

impl FieldError {
    fn new(pointer: Pointer, message: impl Into<String>) -> Self {
        Self { pointer, message: quoting(message) }
    }
}

impl InputErrors {
    /// A single error.
    #[must_use]
    pub fn one(pointer: Pointer, message: impl Into<String>) -> Self {
        Self(vec![FieldError::new(pointer, message)])
    }
    /// The sentences that belong to one place.
    #[must_use]
    pub fn at(&self, pointer: &Pointer) -> Vec<String> {
        self.0.iter().filter(|e| e.pointer == *pointer).map(|e| e.message.clone()).collect()
    }
    /// The same errors, their places one step further down.
    #[must_use]
    pub fn under(self, prefix: &Pointer) -> Self {
        let moved =
            |e: FieldError| FieldError { pointer: Pointer(format!("{}{}", prefix.as_str(), e.pointer.as_str())), message: e.message };
        Self(self.0.into_iter().map(moved).collect())
    }
}

/// Gathers errors so that all are told at once.
#[derive(Debug, Default)]
pub struct Errors(Vec<FieldError>);

impl Errors {
    /// Notes an error.
    pub fn add(&mut self, pointer: Pointer, message: impl Into<String>) {
        self.0.push(FieldError::new(pointer, message));
    }
    /// Keeps a good value, or notes why there is none.
    pub fn keep<T, E: std::fmt::Display>(&mut self, pointer: Pointer, result: Result<T, E>) -> Option<T> {
        result.map_err(|e| self.add(pointer, e.to_string())).ok()
    }
    /// Takes over the errors of a part.
    pub fn take(&mut self, errors: InputErrors) {
        self.0.extend(errors.0);
    }
    /// Checks a number against a range and says so in words.
    pub fn range(&mut self, pointer: Pointer, value: f64, low: f64, high: f64, message: &str) {
        if !(low..=high).contains(&value) {
            self.add(pointer, message);
        }
    }
    /// Checks what stands in one line: no longer than so many letters, without line breaks and other signs that steer.
    pub fn line(&mut self, pointer: Pointer, what: &str, text: &str, most: usize) {
        if text.chars().count() > most {
            self.add(pointer, format!("{what} has {most} letters at most."));
        } else if text.chars().any(char::is_control) {
            self.add(pointer, format!("{what} stands in one line, without line breaks."));
        }
    }
    /// Whether nothing is wrong so far.
    #[must_use]
    pub const fn is_empty(&self) -> bool {
        self.0.is_empty()
    }
    /// The value, if nothing was wrong.
    ///
    /// # Errors
    /// All that was gathered.
    pub fn finish<T>(self, value: T) -> Result<T, InputErrors> {
        if self.0.is_empty() { Ok(value) } else { Err(InputErrors(self.0)) }
    }
}

/// Reads a number as it is typed in a field: comma or point, thin or plain spaces between thousands.
///
/// # Errors
/// A sentence, if it is no finite number.
pub fn number(typed: &str) -> Result<f64, String> {
    let bare: String = typed.chars().filter(|c| !c.is_whitespace() && *c != '\u{2009}' && *c != '\u{202f}').collect();
    let pointed = bare.replace('\u{2212}', "-").replace(',', ".");
    if pointed.is_empty() {
        return Err("Write a number here, for example 350 or 7.5.".to_owned());
    }
    let plain = |text: &str| text.chars().all(|c| c.is_ascii_digit() || c == '.' || c == '-');
    match pointed.parse::<f64>() {
        Ok(value) if plain(&pointed) && value.is_finite() => Ok(value),
        _ => with_fraction(typed).ok_or_else(|| format!("“{typed}” is not a number. Write digits, for example 350 or 7.5.")),
    }
}

/// Fractions that are one sign.
pub(crate) const FRACTIONS: &[(char, f64)] = &[
    ('½', 0.5),
    ('⅓', 1.0 / 3.0),
    ('⅔', 2.0 / 3.0),
    ('¼', 0.25),
    ('¾', 0.75),
    ('⅕', 0.2),
    ('⅖', 0.4),
    ('⅗', 0.6),
    ('⅘', 0.8),
    ('⅙', 1.0 / 6.0),
    ('⅚', 5.0 / 6.0),
    ('⅐', 1.0 / 7.0),
    ('⅛', 0.125),
    ('⅜', 0.375),
    ('⅝', 0.625),
    ('⅞', 0.875),
    ('⅑', 1.0 / 9.0),
    ('⅒', 0.1),
];

/// A half, a quarter or an eighth as it is typed: `1/2`, `1 1/2`, `2½`.
fn with_fraction(typed: &str) -> Option<f64> {
    let whole = |text: &str| if text.trim().is_empty() { Some(0.0) } else { text.trim().parse::<u16>().ok().map(f64::from) };
    let typed = typed.trim();
    if let Some((sign, part)) = FRACTIONS.iter().find(|(sign, _)| typed.ends_with(*sign)) {
        return Some(whole(typed.trim_end_matches(*sign))? + part);
    }
    let (above, below) = typed.split_once('/')?;
    let (first, above) = above.trim().rsplit_once(' ').unwrap_or(("", above.trim()));
    let (above, below) = (whole(above)?, whole(below).filter(|b| *b > 0.0)?);
    Some(whole(first)? + above / below)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_pointer_names_the_form_field_too() {
        let here = Pointer::root().at("lines").at(3).at("grams");
        assert_eq!((here.as_str(), here.field().as_str()), ("/lines/3/grams", "lines[3][grams]"));
        assert_eq!(Pointer::root().at("a/b~c").as_str(), "/a~1b~0c");
    }

    #[test]
    fn a_long_word_is_not_said_back_whole() {
        let long = "w".repeat(100_000);
        let mut errors = Errors::default();
        errors.add(Pointer::root(), format!("“{long}” is no shape. Did you mean “ball”?"));
        let InputErrors(all) = errors.finish(()).unwrap_err();
        assert!(
            all[0].message.chars().count() < 120 && all[0].message.ends_with("…” is no shape. Did you mean “ball”?"),
            "{}",
            all[0].message
        );
        let short = "It was said “so” and “so”, and it goes on like that for quite a while.";
        assert_eq!(quoting(short), short);
        assert!(quoting(format!("“{long}")).chars().count() < 70, "a quote that is never closed");
    }

    #[test]
    fn numbers_are_read_as_bakers_type_them() {
        assert_eq!(number(" 7,5 "), Ok(7.5));
        assert_eq!(number("1 000"), Ok(1000.0));
        assert_eq!(number("\u{2212}3"), Ok(-3.0));
        assert_eq!([number("1/2"), number("1 1/2"), number("2½"), number(" ¼ ")], [Ok(0.5), Ok(1.5), Ok(2.5), Ok(0.25)]);
        for nonsense in ["", "lots", "1e999", "NaN", "inf", "1.5.2", "1e3", "1/0", "/", "1/2/3", "x½"] {
            assert!(number(nonsense).is_err(), "{nonsense}");
        }
    }

    #[test]
    fn errors_of_a_part_move_with_it() {
        let part = InputErrors::one(Pointer::root().at("grams"), "no");
        let whole = part.under(&Pointer::root().at("formula"));
        assert_eq!(whole.at(&Pointer::root().at("formula").at("grams")), ["no"]);
    }
}
