//! Phrases of words and the languages they are used in: how names, measures and the words of a recipe are found.

use rustc_hash::FxHashMap;

use super::fold::{fold, stem};

/// The words of a phrase, folded; letters and digits part, so that `T65` and `T 65` are one name.
pub fn words_of(phrase: &str) -> impl Iterator<Item = String> {
    let folded = fold(phrase);
    let mut words: Vec<String> = Vec::new();
    let mut last = None;
    for c in folded.chars() {
        let kind = if c.is_alphabetic() {
            1
        } else if c.is_numeric() {
            2
        } else {
            0
        };
        if kind == 0 {
            last = None;
            continue;
        }
        if last != Some(kind) {
            words.push(String::new());
        }
        last = Some(kind);
        if let Some(word) = words.last_mut() {
            word.push(c);
        }
    }
    words.into_iter()
}

/// The stems of a name's words.
pub fn stems_of(name: &str) -> impl Iterator<Item = String> {
    words_of(name).map(|w| stem(&w).to_owned())
}

/// Words by number; 0 stands for a word that is in no phrase.
#[derive(Debug, Clone, Default)]
pub struct Vocabulary {
    ids: FxHashMap<Box<str>, u32>,
}

impl Vocabulary {
    /// The number of a folded word.
    #[must_use]
    pub fn id(&self, word: &str) -> u32 {
        self.ids.get(word).copied().unwrap_or(0)
    }
    /// The number of a word, given now if it has none.
    pub fn intern(&mut self, word: &str) -> u32 {
        if let Some(id) = self.ids.get(word) {
            return *id;
        }
        let id = u32::try_from(self.ids.len()).unwrap_or(u32::MAX - 1) + 1;
        self.ids.insert(word.into(), id);
        id
    }
}

/// Phrases of words, each with what it stands for.
#[derive(Debug, Clone)]
pub struct Phrases<T> {
    next: FxHashMap<(u32, u32), u32>,
    ends: Vec<Vec<T>>,
}

impl<T> Default for Phrases<T> {
    fn default() -> Self {
        Self { next: FxHashMap::default(), ends: vec![Vec::new()] }
    }
}

impl<T> Phrases<T> {
    /// Adds a phrase behind what it stands for already.
    pub fn add(&mut self, words: impl Iterator<Item = u32>, value: T) {
        let node = self.node(words);
        if let Some(end) = self.ends.get_mut(node as usize).filter(|_| node != 0) {
            end.push(value);
        }
    }
    /// Adds a phrase before what it stands for already.
    pub fn add_first(&mut self, words: impl Iterator<Item = u32>, value: T) {
        let node = self.node(words);
        if let Some(end) = self.ends.get_mut(node as usize).filter(|_| node != 0) {
            end.insert(0, value);
        }
    }
    fn node(&mut self, words: impl Iterator<Item = u32>) -> u32 {
        let mut node = 0;
        for word in words {
            let fresh = u32::try_from(self.ends.len()).unwrap_or(u32::MAX);
            let next = *self.next.entry((node, word)).or_insert(fresh);
            if next == fresh {
                self.ends.push(Vec::new());
            }
            node = next;
        }
        node
    }
    /// The node one word on.
    #[must_use]
    pub fn step(&self, node: u32, word: u32) -> Option<u32> {
        if word == 0 { None } else { self.next.get(&(node, word)).copied() }
    }
    /// What the phrase that ends at a node stands for.
    #[must_use]
    pub fn ends(&self, node: u32) -> &[T] {
        self.ends.get(node as usize).map_or(&[], Vec::as_slice)
    }
}

/// Languages, a bit each.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Languages(u16);

impl Languages {
    const ALL: [&'static str; 10] = ["en", "de", "fr", "it", "es", "nl", "sv", "da", "no", "pl"];
    /// Any language.
    pub const ANY: Self = Self(u16::MAX);
    /// English.
    pub const ENGLISH: Self = Self(1);

    /// How many there are.
    pub const COUNT: usize = Self::ALL.len();

    /// The language of a place in the list.
    #[must_use]
    pub const fn nth(i: usize) -> Self {
        Self(1 << i)
    }
    /// One language by its code; `nb` and `nn` are Norwegian.
    #[must_use]
    pub fn of(code: &str) -> Self {
        let code = if matches!(code, "nb" | "nn") { "no" } else { code };
        Self::ALL.iter().position(|l| *l == code).map_or(Self(0), |i| Self(1 << i))
    }
    /// Both.
    #[must_use]
    pub const fn with(self, other: Self) -> Self {
        Self(self.0 | other.0)
    }
    /// Whether they share a language.
    #[must_use]
    pub const fn shares(self, other: Self) -> bool {
        self.0 & other.0 != 0
    }
}
