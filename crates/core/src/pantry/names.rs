//! Names and their near misses: case, accents and plurals do not matter, the longest name wins.

use std::{collections::HashMap, sync::Arc};

use super::{
    Ingredient,
    fold::{fold, stem},
    phrases::{Languages, Phrases, Vocabulary, stems_of},
};

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

/// What a name stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NameOf {
    /// Its place in the pantry.
    pub ingredient: usize,
    /// Languages in which it is used.
    pub languages: Languages,
    /// A word that means this only beside an amount: `strong`, `plain`, `rye`.
    pub weak: bool,
}

/// From here on a name resembles what was typed, by Jaro and Winkler's measure; engineering estimate.
const RESEMBLES: f64 = 0.8;
/// A row's own names stand close together.
const SIBLINGS: usize = 4;

/// A further name of an ingredient, from the table of synonyms.
#[derive(Debug, Clone)]
pub struct Synonym {
    /// Row of the pantry.
    pub id: String,
    /// The name.
    pub name: String,
    /// Where it is used.
    pub languages: Languages,
    /// Only beside an amount.
    pub weak: bool,
}

#[derive(Debug, Clone, Default)]
pub(super) struct NameIndex {
    /// Stems by number.
    pub(super) stems: Vocabulary,
    /// Stems of a name → ingredient. The first row that claims a name keeps it.
    names: Phrases<NameOf>,
    /// Single words of six letters or more, by themselves and by what is left with one letter out.
    one_off: HashMap<String, Vec<(String, usize)>>,
    /// Whole folded names in table order, for searching.
    folded: Vec<(String, usize)>,
}

impl NameIndex {
    /// The names of the rows in `order`; where two claim one name, the earlier keeps it.
    pub(super) fn new(
        ingredients: &[Arc<Ingredient>],
        order: impl Iterator<Item = usize>,
        own_words: &[super::OwnWord],
        synonyms: &[Synonym],
    ) -> Self {
        let mut index = Self::default();
        let place: HashMap<&str, usize> = ingredients.iter().enumerate().map(|(i, x)| (x.id.as_str(), i)).collect();
        let rows: Vec<(usize, &Arc<Ingredient>)> = order.filter_map(|i| ingredients.get(i).map(|row| (i, row))).collect();
        let (own, built_in): (Vec<_>, Vec<_>) = rows.into_iter().partition(|(_, row)| super::Pantry::is_own(row));
        let strong = |ingredient| NameOf { ingredient, languages: Languages::ANY, weak: false };
        // What the household calls a thing goes before any table.
        for own in own_words {
            if let Some(ingredient) = place.get(own.ingredient.as_str()) {
                index.add(&own.word, strong(*ingredient));
            }
        }
        for rows in [own, built_in] {
            // Names first: a synonym must not take another row's name.
            for (i, ingredient) in &rows {
                index.add(&ingredient.name, strong(*i));
                index.add(&ingredient.id.replace('-', " "), strong(*i));
                index.add(ingredient.short_name(), strong(*i));
            }
            for (i, ingredient) in &rows {
                for synonym in &ingredient.synonyms {
                    index.add(synonym, strong(*i));
                }
            }
        }
        for s in synonyms {
            if let Some(&ingredient) = place.get(s.id.as_str()) {
                index.add(&s.name, NameOf { ingredient, languages: s.languages, weak: s.weak });
            }
        }
        // The bare word is read as instant, with a question; the packet's kind is rarely written.
        if let Some(instant) = place.get("yeast-instant") {
            index.add("yeast", strong(*instant));
        }
        index
    }

    fn add(&mut self, name: &str, of: NameOf) {
        let words: Vec<String> = stems_of(name).collect();
        if words.is_empty() {
            return;
        }
        if let [word] = words.as_slice()
            && fold(name).len() >= 6
            && !of.weak
        {
            for key in without_a_letter(word).chain([word.clone()]) {
                self.one_off.entry(key).or_default().push((word.clone(), of.ingredient));
            }
        }
        let ids: Vec<u32> = words.iter().map(|w| self.stems.intern(w)).collect();
        self.names.add(ids.into_iter(), of);
        let entry = (fold(name), of.ingredient);
        // Name, short name and id are often the same.
        if !of.weak && !self.folded.iter().rev().take(SIBLINGS).any(|e| *e == entry) {
            self.folded.push(entry);
        }
    }

    /// A household's own word goes before what any table means by it.
    pub(super) fn add_own(&mut self, word: &str, ingredient: usize) {
        let ids: Vec<u32> = stems_of(word).map(|w| self.stems.intern(&w)).collect();
        self.names.add_first(ids.into_iter(), NameOf { ingredient, languages: Languages::ANY, weak: false });
    }

    pub(super) fn exact(&self, typed: &str) -> Option<usize> {
        let mut node = 0;
        for word in stems_of(typed) {
            node = self.names.step(node, self.stems.id(&word))?;
        }
        self.names.ends(node).iter().min_by_key(|n| n.weak).map(|n| n.ingredient)
    }

    /// The names that end at a node of the index.
    pub(super) fn ends(&self, node: u32) -> &[NameOf] {
        self.names.ends(node)
    }

    /// The node one stem on.
    pub(super) fn step(&self, node: u32, stem: u32) -> Option<u32> {
        self.names.step(node, stem)
    }

    /// The ingredient whose name is one letter off a folded word of five letters or more.
    pub(super) fn one_letter_off(&self, folded: &str) -> Option<usize> {
        let word = stem(folded);
        if word.chars().count() < 5 {
            return None;
        }
        let near = without_a_letter(word).chain([word.to_owned()]);
        let near = near.filter_map(|key| self.one_off.get(&key)).flatten();
        near.filter(|(name, _)| strsim::damerau_levenshtein(name, word) == 1).min_by_key(|(_, i)| *i).map(|(_, i)| *i)
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
        let stems = |text: &str| stems_of(text).collect::<Vec<_>>();
        assert_eq!(fold("Crème  Brûlée, 3½"), "creme brulee 3½");
        assert_eq!(stems("Eggs"), stems("egg"));
        assert_eq!(stems("raisins"), stems("raisin"));
        assert_eq!(stems("cherries"), stems("cherry"));
        assert_eq!(stems("farine T65"), stems("Farine t 65"));
        assert_eq!(fold("350 ml d'acqua, baker's flour"), "350 ml d acqua bakers flour");
        assert_eq!(fold("l\u{2019}eau tiède"), "l eau tiede");
        assert_ne!(stems("oats"), stems("oil"));
    }
}
