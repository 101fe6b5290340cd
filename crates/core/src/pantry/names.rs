//! Names and their near misses: case, accents and plurals do not matter, the longest name wins.

use std::{collections::HashMap, sync::Arc};

use unicode_normalization::{UnicodeNormalization, char::is_combining_mark};

use super::Ingredient;

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
            'ß' => folded.push_str("ss"),
            'æ' => folded.push_str("ae"),
            'ø' => folded.push('o'),
            '\'' | '\u{2019}' => {
                if elides(&folded) {
                    folded.push(' ');
                }
            }
            c if c.is_alphanumeric() => folded.push(c),
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
fn stem(word: &str) -> &str {
    if word.len() <= 3 {
        return word;
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

/// A word with each of its letters left out in turn: two words one letter apart share one of these.
fn without_a_letter(word: &str) -> impl Iterator<Item = String> + '_ {
    word.char_indices().map(move |(i, c)| {
        let mut rest = String::with_capacity(word.len());
        rest.push_str(word.get(..i).unwrap_or_default());
        rest.push_str(word.get(i + c.len_utf8()..).unwrap_or_default());
        rest
    })
}

/// Whether two words can reach [`RESEMBLES`] at all: from the letters they share, whatever their order. With m of
/// them Jaro's measure is at most (m/|a| + m/|b| + 1)/3, and Winkler's adds at most 0.4 of what lacks to 1.
fn may_resemble(a: &str, b: &str) -> bool {
    let bit = |c: char| 1_u64 << (u32::from(c) & 63);
    let letters = b.chars().fold(0, |set, c| set | bit(c));
    let (of_a, of_b) = (a.chars().count(), b.chars().count());
    let shared = a.chars().filter(|c| letters & bit(*c) != 0).count().min(of_b);
    #[allow(clippy::cast_precision_loss, reason = "letters of a name")]
    let (m, a, b) = (shared as f64, of_a as f64, of_b as f64);
    let jaro = (m / a + m / b + 1.0) / 3.0;
    jaro + 0.4 * (1.0 - jaro) > RESEMBLES
}

fn stems(text: &str) -> Vec<String> {
    fold(text).split(' ').filter(|w| !w.is_empty()).map(|w| stem(w).to_owned()).collect()
}

/// Near names, for a sentence.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("“{typed}” is not in the pantry.{}", suggestion(.near))]
pub struct Near {
    /// As it was typed.
    pub typed: String,
    /// Names that are close, nearest first.
    pub near: Vec<String>,
}

fn suggestion(near: &[String]) -> String {
    if near.is_empty() { String::new() } else { format!(" Did you mean {}?", near.join(" or ")) }
}

/// An ingredient found inside a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NameMatch {
    /// Its place in the pantry.
    pub ingredient: usize,
    /// Number of words the name had.
    pub words: usize,
    /// First word of the name in the folded text.
    pub at: usize,
    /// Whether it was found only by a name one letter off.
    pub guessed: bool,
}

/// From here on a name resembles what was typed, by Jaro and Winkler's measure; engineering estimate.
const RESEMBLES: f64 = 0.8;
/// A row's own names stand close together.
const SIBLINGS: usize = 4;

#[derive(Debug, Clone, Default)]
pub(super) struct NameIndex {
    /// Stems of a name → ingredient. The first row that claims a name keeps it.
    names: HashMap<String, usize>,
    /// Single words of six letters or more, by themselves and by what is left with one letter out.
    one_off: HashMap<String, Vec<(String, usize)>>,
    /// Whole folded names in table order, for searching.
    folded: Vec<(String, usize)>,
    longest: usize,
}

impl NameIndex {
    /// The names of the rows in `order`; where two claim one name, the earlier keeps it.
    pub(super) fn new(ingredients: &[Arc<Ingredient>], order: impl Iterator<Item = usize>) -> Self {
        let mut index = Self::default();
        let rows: Vec<(usize, &Arc<Ingredient>)> = order.filter_map(|i| ingredients.get(i).map(|row| (i, row))).collect();
        let (own, built_in): (Vec<_>, Vec<_>) = rows.into_iter().partition(|(_, row)| super::Pantry::is_own(row));
        for rows in [own, built_in] {
            // Names first: a synonym must not take another row's name.
            for (i, ingredient) in &rows {
                index.add(&ingredient.name, *i);
                index.add(&ingredient.id.replace('-', " "), *i);
                index.add(ingredient.short_name(), *i);
            }
            for (i, ingredient) in &rows {
                for synonym in &ingredient.synonyms {
                    index.add(synonym, *i);
                }
            }
        }
        // The bare word is read as instant, with a question; the packet's kind is rarely written.
        if let Some(instant) = ingredients.iter().position(|i| i.id == "yeast-instant") {
            index.add("yeast", instant);
        }
        index
    }

    fn add(&mut self, name: &str, ingredient: usize) {
        let words = stems(name);
        if words.is_empty() {
            return;
        }
        self.longest = self.longest.max(words.len());
        if let [word] = words.as_slice()
            && fold(name).len() >= 6
        {
            for key in without_a_letter(word).chain([word.clone()]) {
                self.one_off.entry(key).or_default().push((word.clone(), ingredient));
            }
        }
        self.names.entry(words.join(" ")).or_insert(ingredient);
        let entry = (fold(name), ingredient);
        // Name, short name and id are often the same.
        if !self.folded.iter().rev().take(SIBLINGS).any(|e| *e == entry) {
            self.folded.push(entry);
        }
    }

    pub(super) fn exact(&self, typed: &str) -> Option<usize> {
        self.names.get(&stems(typed).join(" ")).copied()
    }

    pub(super) fn longest_in(&self, text: &str) -> Option<NameMatch> {
        let words = stems(text);
        for size in (1..=self.longest.min(words.len())).rev() {
            for (at, window) in words.windows(size).enumerate() {
                if let Some(&ingredient) = self.names.get(&window.join(" ")) {
                    return Some(NameMatch { ingredient, words: size, at, guessed: false });
                }
            }
        }
        // One letter off, for words of six letters or more.
        words.iter().enumerate().filter(|(_, w)| w.chars().count() >= 5).take(12).find_map(|(at, word)| {
            let near = without_a_letter(word).chain([word.clone()]).filter_map(|key| self.one_off.get(&key)).flatten();
            let (_, ingredient) = near.filter(|(name, _)| strsim::damerau_levenshtein(name, word) == 1).min_by_key(|(_, i)| *i)?;
            Some(NameMatch { ingredient: *ingredient, words: 1, at, guessed: true })
        })
    }

    /// Ingredients by how near one of their names is: the name itself, a name or a word that begins so; only
    /// where there is none of these, names that resemble it.
    fn ranked(&self, typed: &str) -> Vec<(f64, usize)> {
        let typed = fold(typed);
        let mut best: HashMap<usize, f64> = HashMap::new();
        let mut keep = |score: f64, ingredient: usize| {
            let kept = best.entry(ingredient).or_insert(0.0);
            *kept = kept.max(score);
        };
        let mut begins = false;
        if !typed.is_empty() {
            for (name, ingredient) in &self.folded {
                let score = if *name == typed {
                    1.1
                } else if name.starts_with(&typed) {
                    0.98
                } else if typed.len() >= 2 && name.split(' ').any(|w| w.starts_with(&typed)) {
                    0.95
                } else {
                    continue;
                };
                begins = true;
                keep(score, *ingredient);
            }
        }
        if !begins {
            // A name half as long, or twice as long, resembles nothing.
            let length = typed.len();
            for (name, ingredient) in self.folded.iter().filter(|(n, _)| n.len() * 2 >= length && n.len() <= length * 2) {
                if may_resemble(&typed, name) {
                    keep(strsim::jaro_winkler(&typed, name), *ingredient);
                }
            }
        }
        let mut ranked: Vec<(f64, usize)> = best.into_iter().map(|(i, s)| (s, i)).collect();
        ranked.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.cmp(&b.1)));
        ranked
    }

    pub(super) fn near(&self, typed: &str, ingredients: &[Arc<Ingredient>]) -> Near {
        let near = self.ranked(&typed.chars().take(60).collect::<String>());
        let near = near.into_iter().filter(|(s, _)| *s > RESEMBLES).take(3);
        let near = near.filter_map(|(_, i)| ingredients.get(i)).map(|i| i.id.clone()).collect();
        Near { typed: typed.to_owned(), near }
    }

    pub(super) fn search(&self, typed: &str, most: usize) -> Vec<usize> {
        self.ranked(typed).into_iter().filter(|(s, _)| *s > 0.84).take(most).map(|(_, i)| i).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn case_accents_and_plurals_do_not_matter() {
        assert_eq!(fold("Crème  Brûlée, 3½"), "creme brulee 3½");
        assert_eq!(stems("Eggs"), stems("egg"));
        assert_eq!(stems("raisins"), stems("raisin"));
        assert_eq!(stems("cherries"), stems("cherry"));
        assert_eq!(fold("350 ml d'acqua, baker's flour"), "350 ml d acqua bakers flour");
        assert_eq!(fold("l\u{2019}eau tiède"), "l eau tiede");
        assert_ne!(stems("oats"), stems("oil"));
    }
}
