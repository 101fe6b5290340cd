//! Words as names are compared: case, accents and plurals do not matter.

use unicode_normalization::{UnicodeNormalization, char::is_combining_mark};

/// Writes a lower case letter, one that has no plain form under its accents by plain letters: `ß` as `ss`.
pub(crate) fn push_plain(folded: &mut String, letter: char) {
    match letter {
        'ß' => folded.push_str("ss"),
        'æ' => folded.push_str("ae"),
        'ø' => folded.push('o'),
        'œ' => folded.push_str("oe"),
        'ł' => folded.push('l'),
        c => folded.push(c),
    }
}

/// Lower case without accents; what is no letter or digit is a space.
#[must_use]
pub fn fold(text: &str) -> String {
    let mut folded = String::with_capacity(text.len());
    if text.is_ascii() {
        // The common case, without looking for accents; a space only between words.
        for c in text.bytes() {
            if c == b'\'' && !elides(&folded) {
                continue;
            }
            if c.is_ascii_alphanumeric() {
                folded.push(char::from(c.to_ascii_lowercase()));
            } else if !folded.is_empty() && !folded.ends_with(' ') {
                folded.push(' ');
            }
        }
        folded.truncate(folded.trim_end().len());
        return folded;
    }
    for c in text.nfd().filter(|c| !is_combining_mark(*c)).flat_map(char::to_lowercase) {
        match c {
            '\'' | '\u{2019}' => {
                if elides(&folded) {
                    folded.push(' ');
                }
            }
            c if c.is_alphanumeric() => push_plain(&mut folded, c),
            _ => folded.push(' '),
        }
    }
    folded.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// Whether the last word is one letter, as before the apostrophe of `d'acqua` or `l'eau`.
fn elides(folded: &str) -> bool {
    folded.rsplit(' ').next().is_some_and(|word| word.len() == 1)
}

/// A word without its plural ending, so that `eggs` finds `egg` and `tomatoes` `tomato`.
#[must_use]
pub fn stem(word: &str) -> &str {
    // `make` is no `mak`, `cakes` no `cak`: of short words only the s goes.
    if word.len() <= 3 || (word.len() == 4 && word.ends_with('e')) {
        return word;
    }
    if word.len() == 5 && word.ends_with("es") {
        return word.strip_suffix('s').unwrap_or(word);
    }
    for ending in ["ies", "es", "s"] {
        if let Some(bare) = word.strip_suffix(ending)
            && bare.len() >= 3
            && !bare.ends_with('s')
        {
            return bare;
        }
    }
    word.strip_suffix(['e', 'y']).filter(|b| b.len() >= 3).unwrap_or(word)
}
