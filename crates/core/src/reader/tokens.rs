//! Words, numbers and marks of a plain line, and numbers as people write them.

use std::borrow::Cow;

use crate::measure::Band;

/// A token with where it stands in the plain line.
#[derive(Debug, Clone, PartialEq)]
pub struct Token<'a> {
    /// What it is.
    pub kind: Kind<'a>,
    /// As it is written.
    pub text: &'a str,
    /// First byte.
    pub start: usize,
    /// Byte after the last.
    pub end: usize,
}

/// What a token is.
#[derive(Debug, Clone, PartialEq)]
pub enum Kind<'a> {
    /// A number; thousands read with a point are in doubt.
    Number {
        /// Its value.
        value: f64,
        /// Whether `1.000` was read as a thousand.
        doubtful: bool,
    },
    /// Digits that are no number: `1.5.2`, `1/0`, too long.
    Broken,
    /// Letters, in lower case.
    Word(Cow<'a, str>),
    /// Anything else.
    Mark(char),
}

/// Lower case; a word that is in lower case already is not copied.
fn lower(word: &str) -> Cow<'_, str> {
    if word.bytes().all(|b| b.is_ascii_lowercase() || b == b'\'') { Cow::Borrowed(word) } else { Cow::Owned(word.to_lowercase()) }
}

impl Token<'_> {
    /// The word in lower case, if it is one.
    #[must_use]
    pub fn word(&self) -> Option<&str> {
        match &self.kind {
            Kind::Word(w) => Some(w),
            Kind::Number { .. } | Kind::Broken | Kind::Mark(_) => None,
        }
    }
    /// Whether it is this mark.
    #[must_use]
    pub fn is(&self, mark: char) -> bool {
        self.kind == Kind::Mark(mark)
    }
}

/// Splits a plain line.
#[must_use]
pub fn tokens(line: &str) -> Vec<Token<'_>> {
    let mut out: Vec<Token<'_>> = Vec::with_capacity(line.len() / 4 + 2);
    let mut chars = line.char_indices().peekable();
    while let Some(&(start, c)) = chars.peek() {
        let mut end = start;
        if c.is_ascii_digit() {
            let digits =
                |c: char, next: Option<char>| c.is_ascii_digit() || (matches!(c, '.' | ',') && next.is_some_and(|n| n.is_ascii_digit()));
            while let Some(&(i, d)) = chars.peek() {
                let next = line.get(i + d.len_utf8()..).and_then(|r| r.chars().next());
                if !digits(d, next) {
                    break;
                }
                end = i + d.len_utf8();
                chars.next();
            }
            // 1e3 is never read as a thousand.
            let exponent = line.get(end..).is_some_and(|r| r.starts_with(['e', 'E']) && r[1..].starts_with(|c: char| c.is_ascii_digit()));
            if exponent {
                while let Some(&(i, d)) = chars.peek() {
                    if !d.is_ascii_alphanumeric() {
                        break;
                    }
                    end = i + d.len_utf8();
                    chars.next();
                }
            }
            let text = line.get(start..end).unwrap_or_default();
            out.push(Token { kind: if exponent { Kind::Broken } else { number(text) }, text, start, end });
        } else if c.is_alphabetic() {
            while let Some(&(i, d)) = chars.peek() {
                let joins = d == '\'' && line.get(i + 1..).and_then(|r| r.chars().next()).is_some_and(char::is_alphabetic);
                if !(d.is_alphabetic() || joins) {
                    break;
                }
                end = i + d.len_utf8();
                chars.next();
            }
            let text = line.get(start..end).unwrap_or_default();
            out.push(Token { kind: Kind::Word(lower(text)), text, start, end });
        } else {
            chars.next();
            if !c.is_whitespace() {
                let end = start + c.len_utf8();
                out.push(Token { kind: Kind::Mark(c), text: line.get(start..end).unwrap_or_default(), start, end });
            }
        }
    }
    out
}

fn number(text: &str) -> Kind<'static> {
    let separators = text.matches([',', '.']).count();
    let significant = text.trim_start_matches(['0', '.', ',']).chars().filter(char::is_ascii_digit).count();
    if significant > 9 {
        return Kind::Broken;
    }
    let good =
        |t: &str, doubtful| t.parse::<f64>().ok().filter(|v| v.is_finite()).map_or(Kind::Broken, |value| Kind::Number { value, doubtful });
    if separators == 0 {
        return good(text, false);
    }
    let (whole, rest) = text.split_once([',', '.']).unwrap_or((text, ""));
    if separators > 1 {
        // 1,234,567: groups of three behind one kind of mark; else no number.
        let groups: Vec<&str> = text.split(',').collect();
        let grouped = !text.contains('.') && groups.iter().skip(1).all(|g| g.len() == 3);
        return if grouped { good(&groups.concat(), false) } else { Kind::Broken };
    }
    let three = rest.len() == 3 && !whole.starts_with('0') && whole.len() <= 3;
    if three && text.contains(',') {
        return good(&format!("{whole}{rest}"), false);
    }
    if three && rest == "000" {
        return good(&format!("{whole}{rest}"), true);
    }
    good(&format!("{whole}.{rest}"), false)
}

const WORDS: &[(&str, f64)] = &[
    ("one", 1.0),
    ("two", 2.0),
    ("three", 3.0),
    ("four", 4.0),
    ("five", 5.0),
    ("six", 6.0),
    ("seven", 7.0),
    ("eight", 8.0),
    ("nine", 9.0),
    ("ten", 10.0),
    ("eleven", 11.0),
    ("twelve", 12.0),
    ("fifteen", 15.0),
    ("twenty", 20.0),
    ("thirty", 30.0),
    ("forty", 40.0),
    ("fifty", 50.0),
    ("sixty", 60.0),
    ("ein", 1.0),
    ("eine", 1.0),
    ("einen", 1.0),
    ("zwei", 2.0),
    ("drei", 3.0),
    ("vier", 4.0),
    ("fünf", 5.0),
    ("sechs", 6.0),
    ("un", 1.0),
    ("une", 1.0),
    ("deux", 2.0),
    ("trois", 3.0),
    ("quatre", 4.0),
    ("due", 2.0),
    ("tre", 3.0),
    ("anderthalb", 1.5),
    ("eineinhalb", 1.5),
    ("dozen", 12.0),
];
const TENS: &[(&str, f64)] = &[("hundred", 100.0), ("thousand", 1000.0)];
const PARTS: &[(&str, f64)] = &[
    ("half", 0.5),
    ("quarter", 0.25),
    ("third", 1.0 / 3.0),
    ("eighth", 0.125),
    ("quarters", 0.25),
    ("thirds", 1.0 / 3.0),
    ("demi", 0.5),
    ("halbe", 0.5),
    ("halber", 0.5),
    ("halbes", 0.5),
    ("mezzo", 0.5),
    ("viertel", 0.25),
];

/// The value of a lower-case word.
fn lookup(table: &[(&str, f64)], word: &str) -> Option<f64> {
    table.iter().find(|(w, _)| *w == word).map(|(_, v)| *v)
}

/// Whether a lower-case word counts: `three`, `hundred`, `half`.
#[must_use]
pub fn is_number_word(word: &str) -> bool {
    [WORDS, TENS, PARTS].iter().any(|table| lookup(table, word).is_some())
}

/// A reader over tokens.
#[derive(Debug, Clone, Copy)]
pub struct Cursor<'a> {
    /// The tokens.
    pub tokens: &'a [Token<'a>],
    /// Next to read.
    pub at: usize,
}

impl<'a> Cursor<'a> {
    /// From the first token.
    #[must_use]
    pub const fn new(tokens: &'a [Token<'a>]) -> Self {
        Self { tokens, at: 0 }
    }
    /// The token `ahead` of the next one.
    #[must_use]
    pub fn peek(&self, ahead: usize) -> Option<&'a Token<'a>> {
        self.tokens.get(self.at + ahead)
    }
    /// The word there, lower case.
    #[must_use]
    pub fn word(&self, ahead: usize) -> Option<&'a str> {
        self.peek(ahead).and_then(Token::word)
    }
    fn mark(&self, ahead: usize, mark: char) -> bool {
        self.peek(ahead).is_some_and(|t| t.is(mark))
    }
    fn plain_number(&self, ahead: usize) -> Option<f64> {
        match self.peek(ahead)?.kind {
            Kind::Number { value, .. } => Some(value),
            Kind::Broken | Kind::Word(_) | Kind::Mark(_) => None,
        }
    }
    fn fraction(&self, ahead: usize) -> Option<f64> {
        let (over, under) = (self.plain_number(ahead)?, self.plain_number(ahead + 2)?);
        (self.mark(ahead + 1, '/') && under > 0.0 && under <= 16.0 && over < under).then_some(over / under)
    }

    /// One number: digits, mixed fractions, words (`one and a half`, `three quarters`, `five hundred`).
    pub fn number(&mut self) -> Option<f64> {
        if let Some(f) = self.fraction(0) {
            self.at += 3;
            return Some(f);
        }
        if let Some(mut value) = self.plain_number(0) {
            self.at += 1;
            // `1 000 g`: a thin group of exactly three digits.
            while let (Some(next), Some(a), Some(b)) = (self.plain_number(0), self.tokens.get(self.at - 1), self.peek(0)) {
                if b.end - b.start == 3
                    && a.end - a.start <= 3
                    && b.start == a.end + 1
                    && self.fraction(0).is_none()
                    && value >= 1.0
                    && value.fract() == 0.0
                {
                    value = value * 1000.0 + next;
                    self.at += 1;
                } else {
                    break;
                }
            }
            if let Some(f) = self.fraction(0) {
                self.at += 3;
                return Some(value + f);
            }
            if self.mark(0, '-')
                && let Some(f) = self.fraction(1).filter(|_| value.fract() == 0.0)
            {
                self.at += 4;
                return Some(value + f);
            }
            return Some(self.and_part(value));
        }
        let word = self.word(0)?;
        let (mut value, used) = if let Some(part) = lookup(PARTS, word) {
            // `half a kilo`, `half an orange`, `half a dozen`
            let article = usize::from(self.word(1).is_some_and(|w| w == "a" || w == "an"));
            let dozen = self.word(1 + article).is_some_and(|w| w == "dozen");
            (if dozen { part * 12.0 } else { part }, 1 + article + usize::from(dozen))
        } else if word == "a" || word == "an" {
            match self.word(1) {
                Some("dozen") => (12.0, 2),
                Some("couple") => (2.0, if self.word(2).is_some_and(|o| o == "of") { 3 } else { 2 }),
                Some("few") => (3.0, 2),
                Some(w) if lookup(PARTS, w).is_some() => (lookup(PARTS, w).unwrap_or(1.0), 2),
                _ => (1.0, 1),
            }
        } else {
            let value = lookup(WORDS, word)?;
            match self.word(1).and_then(|w| lookup(PARTS, w)) {
                Some(part) if (1.0..8.0).contains(&value) => (value * part, 2),
                _ => (value, 1),
            }
        };
        self.at += used;
        while let Some(tens) = self.word(0).and_then(|w| lookup(TENS, w)) {
            value *= tens;
            self.at += 1;
            let joined = usize::from(self.word(0).is_some_and(|w| w == "and"));
            if let Some(rest) = self.word(joined).and_then(|w| lookup(WORDS, w)) {
                value += rest;
                self.at += 1 + joined;
            }
        }
        // `twenty five`
        if (20.0..100.0).contains(&value) && value % 10.0 == 0.0 {
            let dash = usize::from(self.mark(0, '-'));
            if let Some(unit) = self.word(dash).and_then(|w| lookup(WORDS, w)).filter(|u| *u < 10.0) {
                value += unit;
                self.at += 1 + dash;
            }
        }
        Some(self.and_part(value))
    }

    /// `… and a half`, `… and three quarters`.
    fn and_part(&mut self, value: f64) -> f64 {
        if !self.word(0).is_some_and(|w| w == "and" || w == "et" || w == "und") {
            return value;
        }
        // `1 and 1/2`
        if let Some(part) = self.fraction(1).filter(|_| value.fract() == 0.0) {
            self.at += 4;
            return value + part;
        }
        let article = usize::from(self.word(1).is_some_and(|w| w == "a"));
        if let Some(part) = self.word(1 + article).and_then(|w| lookup(PARTS, w)) {
            self.at += 2 + article;
            return value + part;
        }
        let counted = self.word(1).and_then(|w| lookup(WORDS, w)).filter(|n| *n < 8.0);
        if let (Some(n), Some(part)) = (counted, self.word(2).and_then(|w| lookup(PARTS, w))) {
            self.at += 3;
            return value + n * part;
        }
        value
    }

    /// A number or a range of two (`20-25`, `2 to 3`, `between 2 and 3`).
    pub fn range(&mut self) -> Option<Band> {
        let between = self.word(0).is_some_and(|w| w == "between");
        let mut probe = Self { at: self.at + usize::from(between), ..*self };
        let first = probe.number()?;
        let after_first = probe.at;
        let joins = probe.mark(0, '-')
            || probe.mark(0, '~')
            || probe.word(0).is_some_and(|w| matches!(w, "to" | "or" | "bis" | "à") || (between && w == "and"));
        if joins {
            probe.at += 1;
            if let Some(second) = probe.number().filter(|s| *s > first) {
                self.at = probe.at;
                return Some(Band::new(first, f64::midpoint(first, second), second));
            }
        }
        self.at = after_first;
        Some(Band::exact(first))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: &str) -> Option<f64> {
        let plain = super::super::normal::plain(text);
        let tokens = tokens(&plain);
        Cursor::new(&tokens).number()
    }

    #[test]
    fn numbers_as_people_write_them() {
        for (text, value) in [
            ("1 3/4", 1.75),
            ("1-3/4", 1.75),
            ("1¾", 1.75),
            ("½", 0.5),
            ("2,5", 2.5),
            ("1.5", 1.5),
            ("1,000", 1000.0),
            ("1.000", 1000.0),
            ("1 000 g", 1000.0),
            ("1 & 1/2", 1.5),
            ("one and a half", 1.5),
            ("half a kilo", 0.5),
            ("three quarters", 0.75),
            ("a quarter", 0.25),
            ("five hundred grams", 500.0),
            ("two hundred and fifty", 250.0),
            ("twenty-five", 25.0),
            ("a dozen", 12.0),
            ("two and three quarters", 2.75),
            ("0.125", 0.125),
        ] {
            let got = read(text);
            assert!(got.is_some_and(|g| (g - value).abs() < 1e-9), "{text}: {got:?}");
        }
        for nonsense in ["1.5.2", "1e999", "999999999999", "flour", "1e3"] {
            assert_eq!(read(nonsense), None, "{nonsense}");
        }
    }
}
