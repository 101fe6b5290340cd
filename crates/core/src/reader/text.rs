//! The text of a recipe taken apart once: words, numbers and marks, each with its place in the text as it was pasted.
//!
//! One kind of space, dash, fraction and quote; what cannot be seen and what is drawn for ornament falls out. The text
//! itself is never changed: every token is a slice of it.

use std::borrow::Cow;

use unicode_normalization::{UnicodeNormalization, char::is_combining_mark};

use super::{
    clue::Clue,
    lexicon::Lexicon,
    token::{Kind, Token},
};
use crate::{
    input::FRACTIONS,
    pantry::{Vocabulary, push_plain},
};

/// A line of the text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct TextLine {
    /// Number of the line, from 0.
    pub number: usize,
    /// First byte.
    pub start: usize,
    /// Byte after the last.
    pub end: usize,
    /// Its first token.
    pub from: usize,
    /// Behind its last token.
    pub to: usize,
    /// Whether a bullet stood before it.
    pub bullet: bool,
    /// Whether a number of a list stood before it, `2.` or `2)`.
    pub numbered: bool,
}

const fn is_invisible(c: char) -> bool {
    matches!(c, '\u{200B}'..='\u{200F}' | '\u{202A}'..='\u{202E}' | '\u{2066}'..='\u{2069}' | '\u{FEFF}' | '\u{FE0F}' | '\u{00AD}')
}

/// A digit of any of the scripts recipes are pasted in.
fn digit(c: char) -> Option<char> {
    match c {
        '0'..='9' => Some(c),
        '\u{0660}'..='\u{0669}' => char::from_digit(c as u32 - 0x660, 10),
        '\u{06F0}'..='\u{06F9}' => char::from_digit(c as u32 - 0x6F0, 10),
        '\u{FF10}'..='\u{FF19}' => char::from_digit(c as u32 - 0xFF10, 10),
        _ => None,
    }
}

/// Marks as one of their kind; `None` for ornament.
fn mark(c: char) -> Option<char> {
    Some(match c {
        '\u{2010}'..='\u{2015}' | '\u{2212}' => '-',
        'º' | '˚' | '°' => '°',
        '\u{2044}' | '\u{2215}' => '/',
        '\u{201C}' | '\u{201D}' | '″' | '«' | '»' => '"',
        '\u{2018}' | '\u{2019}' | '′' => '\'',
        '•' | '·' | '‣' => '*',
        '≈' => '~',
        '…' => '.',
        '，' => ',',
        '：' => ':',
        '；' => ';',
        c if c.is_ascii() => c,
        _ => return None,
    })
}

/// Lower case without accents or apostrophes, as [`crate::pantry::fold`] does for a name.
fn fold_word(word: &str) -> Cow<'_, str> {
    if word.bytes().all(|b| b.is_ascii_lowercase()) {
        return Cow::Borrowed(word);
    }
    if word.is_ascii() {
        return Cow::Owned(word.bytes().filter(|b| *b != b'\'').map(|b| char::from(b.to_ascii_lowercase())).collect());
    }
    let mut folded = String::with_capacity(word.len());
    for c in word.nfkd().filter(|c| !is_combining_mark(*c)).flat_map(char::to_lowercase) {
        match c {
            '\'' | '\u{2019}' => {}
            c => push_plain(&mut folded, c),
        }
    }
    Cow::Owned(folded)
}

/// Takes the text apart.
pub(super) fn tokens<'t>(text: &'t str, lexicon: &Lexicon, names: &Vocabulary) -> (Vec<Token<'t>>, Vec<TextLine>) {
    let mut out = Tokens { text, words: &lexicon.words, names, tokens: Vec::with_capacity(text.len() / 4 + 4) };
    let mut lines = Vec::new();
    let mut start = 0;
    for (number, raw) in text.split('\n').enumerate() {
        let end = start + raw.len();
        let from = out.tokens.len();
        out.line(start, end);
        let (from, bullet, numbered) = out.without_bullet(from);
        lines.push(TextLine { number, start, end, from, to: out.tokens.len(), bullet, numbered });
        // Nothing reads on from one line into the next.
        if out.tokens.len() > from {
            out.push(Kind::Mark('\n'), end, end, true);
        }
        start = end + 1;
    }
    let mut tokens = out.tokens;
    join_wrapped(&mut tokens, &mut lines, lexicon);
    (tokens, lines)
}

/// A line this long, bytes, may have been broken by the program it was written in.
const WRAPPED_FROM: usize = 60;
/// So many points in a row lead from a name to its figure.
const LEADER: usize = 4;

/// A paragraph that was broken at the edge of a page is one line again: a long line that stops in the middle, and a next
/// one that goes on in small letters and is no row of a list.
fn join_wrapped(tokens: &mut Vec<Token<'_>>, lines: &mut Vec<TextLine>, lexicon: &Lexicon) {
    let mut joined: Vec<TextLine> = Vec::with_capacity(lines.len());
    let mut dropped: Vec<usize> = Vec::new();
    for line in lines.iter() {
        let goes_on = joined.last().is_some_and(|last| {
            let end = last.to.checked_sub(1).filter(|i| *i >= last.from).and_then(|i| tokens.get(i));
            let open = end.is_some_and(|t| t.is_word() && lexicon.tells(t.word, Clue::OpenEnd));
            let first = tokens.get(line.from).filter(|_| line.to > line.from);
            let plain = first.is_some() && !line.bullet && !line.numbered && last.to > last.from;
            let small = first.is_some_and(|t| t.is_word() && t.text.starts_with(char::is_lowercase));
            let row = tokens.get(line.from..line.to.min(line.from + 3)).is_some_and(|w| w.iter().any(|t| t.value().is_some()));
            let cut = end.is_some_and(Token::is_word) && last.end - last.start >= WRAPPED_FROM && small && !row;
            plain && (open || cut)
        });
        match joined.last_mut().filter(|_| goes_on) {
            Some(last) => {
                // The mark between them falls out.
                dropped.push(last.to);
                (last.to, last.end) = (line.to, line.end);
            }
            None => joined.push(*line),
        }
    }
    if dropped.is_empty() {
        return;
    }
    let before = |at: usize| dropped.partition_point(|d| *d < at);
    for line in &mut joined {
        (line.from, line.to) = (line.from - before(line.from), line.to - before(line.to));
    }
    let mut at = 0;
    tokens.retain(|_| {
        at += 1;
        dropped.binary_search(&(at - 1)).is_err()
    });
    *lines = joined;
}

struct Tokens<'t, 'v> {
    text: &'t str,
    words: &'v Vocabulary,
    names: &'v Vocabulary,
    tokens: Vec<Token<'t>>,
}

impl<'t> Tokens<'t, '_> {
    fn char_at(&self, at: usize) -> Option<char> {
        self.text.get(at..)?.chars().next()
    }

    fn push(&mut self, kind: Kind, start: usize, end: usize, spaced: bool) {
        let text = self.text.get(start..end).unwrap_or_default();
        let (folded, word, stem) = match kind {
            Kind::Word | Kind::Number { .. } => {
                let folded = if kind == Kind::Word { fold_word(text) } else { Cow::Borrowed(text) };
                let (word, stem) = (self.words.id(&folded), self.names.id(crate::pantry::stem(&folded)));
                (folded, word, stem)
            }
            Kind::Broken | Kind::Mark(_) => (Cow::Borrowed(text), 0, 0),
        };
        self.tokens.push(Token { kind, text, folded, start, end, spaced, word, stem });
    }

    fn line(&mut self, from: usize, to: usize) {
        let (mut at, mut spaced) = (from, true);
        while at < to {
            let Some(c) = self.char_at(at) else { break };
            let next = at + c.len_utf8();
            if c.is_whitespace() || c.is_control() || is_invisible(c) {
                // A tab parts cells; between a figure and its unit it is a space.
                let of_unit =
                    self.tokens.last().is_some_and(|t| t.value().is_some()) && self.char_at(next).is_some_and(char::is_alphabetic);
                if c == '\t' && !spaced && !of_unit {
                    self.push(Kind::Mark('\t'), at, next, true);
                }
                spaced |= c.is_whitespace();
                at = next;
                continue;
            }
            // `Flour ........ 500 g`: a row of points parts cells.
            let points = self.text.get(at..to).map_or(0, |rest| rest.len() - rest.trim_start_matches('.').len());
            let end = if points >= LEADER {
                self.push(Kind::Mark('\t'), at, at + points, true);
                at + points
            } else if digit(c).is_some() || (c == '.' && spaced && self.char_at(next).and_then(digit).is_some()) {
                self.number(at, to, spaced)
            } else if let Some((_, value)) = FRACTIONS.iter().find(|(f, _)| *f == c) {
                self.push(Kind::Number { value: *value, doubtful: false, vulgar: true }, at, next, spaced);
                next
            } else if c.is_alphabetic() {
                self.word(at, to, spaced)
            } else if c == '×' {
                self.push(Kind::Word, at, next, spaced);
                if let Some(last) = self.tokens.last_mut() {
                    last.folded = Cow::Borrowed("x");
                    last.word = self.words.id("x");
                }
                next
            } else if let Some(after) = self.tag(at, to) {
                spaced = true;
                at = after;
                continue;
            } else {
                if let Some(m) = mark(c) {
                    self.push(Kind::Mark(m), at, next, spaced);
                }
                next
            };
            spaced = false;
            at = end;
        }
    }

    /// Behind a tag of markup, and behind what stands in a script or style.
    fn tag(&self, at: usize, to: usize) -> Option<usize> {
        let after = self.text.get(at..to)?.strip_prefix('<')?;
        if !after.starts_with(|c: char| c.is_ascii_alphabetic() || c == '/') {
            return None;
        }
        let close = at + 1 + after.find('>')? + 1;
        for name in ["script", "style"] {
            if after.starts_with(name) {
                let end = self.text.get(close..to)?.find(&format!("</{name}>"));
                return Some(end.map_or(close, |e| close + e + name.len() + 3));
            }
        }
        Some(close)
    }

    fn number(&mut self, start: usize, to: usize, spaced: bool) -> usize {
        let mut end = start;
        let mut plain = String::new();
        while end < to {
            let Some(c) = self.char_at(end) else { break };
            let next = end + c.len_utf8();
            if let Some(d) = digit(c) {
                plain.push(d);
            } else if matches!(c, '.' | ',') && next < to && self.char_at(next).and_then(digit).is_some() {
                plain.push(c);
            } else {
                break;
            }
            end = next;
        }
        // 1e3 is never read as a thousand.
        let rest = self.text.get(end..to).unwrap_or_default();
        if rest.starts_with(['e', 'E']) && rest.get(1..).is_some_and(|r| r.starts_with(|c: char| c.is_ascii_digit())) {
            let run = rest.find(|c: char| !c.is_ascii_alphanumeric()).unwrap_or(rest.len());
            self.push(Kind::Broken, start, end + run, spaced);
            return end + run;
        }
        // `3//4`, `1/0`
        if rest.starts_with("//") || rest.starts_with("/0") {
            let run = rest.find(|c: char| !c.is_ascii_digit() && c != '/').unwrap_or(rest.len());
            self.push(Kind::Broken, start, end + run, spaced);
            return end + run;
        }
        self.push(number(&plain), start, end, spaced);
        end
    }

    fn word(&mut self, start: usize, to: usize, spaced: bool) -> usize {
        let mut end = start;
        let mut letters = 0;
        while end < to {
            let Some(c) = self.char_at(end) else { break };
            let next = end + c.len_utf8();
            let letter_follows = next < to && self.char_at(next).is_some_and(char::is_alphabetic);
            // `d'eau` is two words, `baker's` one.
            let joins = matches!(c, '\'' | '\u{2019}') && letters > 1 && letter_follows;
            if !(c.is_alphabetic() || is_combining_mark(c) || joins) {
                break;
            }
            letters += usize::from(c.is_alphabetic());
            end = next;
        }
        self.push(Kind::Word, start, end, spaced);
        end
    }

    /// Where the line begins behind its bullet, box or list number, and which of them it had.
    fn without_bullet(&self, from: usize) -> (usize, bool, bool) {
        let (mut at, mut bullet, mut numbered) = (from, false, false);
        loop {
            let Some(t) = self.tokens.get(at) else { return (at, bullet, numbered) };
            let next = self.tokens.get(at + 1);
            if t.is('-') || t.is('*') {
                bullet = true;
                at += 1;
                continue;
            }
            let listed = !numbered && t.value().is_some_and(|v| v.fract() == 0.0 && v < 100.0) && t.end - t.start <= 2;
            let closed = next.is_some_and(|n| (n.is('.') || n.is(')')) && !n.spaced);
            let content = self.tokens.get(at + 2).is_some_and(|c| c.spaced);
            if listed && closed && content {
                numbered = true;
                at += 2;
                continue;
            }
            return (at, bullet, numbered);
        }
    }
}

fn number(text: &str) -> Kind {
    let separators = text.matches([',', '.']).count();
    let significant = text.trim_start_matches(['0', '.', ',']).chars().filter(char::is_ascii_digit).count();
    if significant > 9 {
        return Kind::Broken;
    }
    let good = |t: &str, doubtful| {
        let value = t.parse::<f64>().ok().filter(|v| v.is_finite());
        value.map_or(Kind::Broken, |value| Kind::Number { value, doubtful, vulgar: false })
    };
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
    let three = rest.len() == 3 && !whole.starts_with('0') && (1..=3).contains(&whole.len());
    if three && text.contains(',') {
        return good(&format!("{whole}{rest}"), false);
    }
    if three && rest == "000" {
        return good(&format!("{whole}{rest}"), true);
    }
    good(&format!("{whole}.{rest}"), false)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn words(text: &str) -> Vec<String> {
        let none = Vocabulary::default();
        tokens(text, &Lexicon::default(), &none).0.iter().filter(|t| !t.is('\n')).map(|t| t.folded.to_string()).collect()
    }

    #[test]
    fn every_kind_of_space_dash_and_quote_becomes_one() {
        assert_eq!(words("1¾ cups\u{a0}flour"), ["1", "¾", "cups", "flour"]);
        assert_eq!(words("500\tg\u{200b} d\u{2019}eau"), ["500", "g", "d", "\u{2019}", "eau"]);
        assert_eq!(words("Bäcker's Öl, łyżka"), ["backers", "ol", ",", "lyzka"]);
        assert_eq!(words("<script>alert(1)</script> 2 <b>cups</b>"), ["2", "cups"]);
        assert_eq!(words("🍞 w/meal 2×7"), ["w", "/", "meal", "2", "x", "7"]);
    }

    #[test]
    fn bullets_and_list_numbers_fall_off() {
        let none = Vocabulary::default();
        let first = |text: &'static str| {
            let (t, lines) = tokens(text, &Lexicon::default(), &none);
            lines.first().and_then(|l| t.get(l.from)).map(|t| t.text)
        };
        assert_eq!(first("- 5 g salt"), Some("5"));
        assert_eq!(first("2. Knead well"), Some("Knead"));
        assert_eq!(first("▢ 1) 500 g flour"), Some("500"));
        assert_eq!(first("1.5 kg flour"), Some("1.5"));
    }

    #[test]
    fn numbers_that_are_none_stay_apart() {
        let none = Vocabulary::default();
        let kind = |text| tokens(text, &Lexicon::default(), &none).0.first().map(|t| t.kind);
        for (text, value) in [("1,5", 1.5), ("1.000", 1000.0), ("1,000", 1000.0), (".5", 0.5), ("٥٠٠", 500.0)] {
            assert!(matches!(kind(text), Some(Kind::Number { value: v, .. }) if (v - value).abs() < 1e-9), "{text}: {:?}", kind(text));
        }
        for text in ["1.5.2", "1e999", "9999999999"] {
            assert_eq!(kind(text), Some(Kind::Broken), "{text}");
        }
    }
}
