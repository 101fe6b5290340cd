//! The words of a step, looked for once: an automaton finds every list of words in one pass.

use std::sync::LazyLock;

use aho_corasick::{AhoCorasick, MatchKind};

use crate::{pantry::fold, reader::Step};

/// A rest shorter than this is no rise, minutes.
const LEAST_RISE_MIN: f64 = 20.0;

macro_rules! lists {
    ($($(#[$doc:meta])* $name:ident [$($word:literal),* $(,)?])*) => {
        /// What a step can say.
        #[derive(Debug, Clone, Copy, PartialEq, Eq)]
        pub(super) enum Say { $($(#[$doc])* $name),* }
        /// Beginnings of words, folded; with a space behind it, a whole word: `ice ` is not in slice, nor `pot ` in potato.
        const LISTS: &[(Say, &[&str])] = &[$((Say::$name, &[$($word),*])),*];
    };
}
lists! {
    Rise ["rise ", "rises ", "rising", "proof", "prov", "bulk", "ferment", "gehen", "lever ", "lievit"]
    Rest ["stand ", "doubl", "let ", "leave ", "rest ", "cover "]
    NoRise ["cool", "yeast", "autolys"]
    Cold ["fridge", "refrigerat", "chill", "cold", "kuhlschrank", "frigo"]
    Warm [
        "warm place", "warm spot", "somewhere warm", "warm corner", "warmen ort", "endroit chaud", "endroit tiede", "luogo tiepido",
        "proof box", "oven light", "light on",
    ]
    Sign ["until", "till ", "doubl", "puff", "ripe", "risen", "dome", "spring", "by half", "bubbl", "bis ", "jusqu"]
    Heat ["preheat", "pre heat", "heat the oven", "heat oven", "oven to ", "oven on ", "hot oven", "vorheiz", "prechauff"]
    Steam [
        "steam", "lid ", "lidded", "pot ", "dutch", "cover", "cloche", "spray", "mist ", "ice ", "tray of water", "pan of water",
        "schwaden", "dampf", "vapeur", "tin ",
    ]
    Shape [
        "shap", "form ", "roll", "divid", "braid", "plait", "ball", "boule", "batard", "loaf", "loaves", "tin ", "pan ", "stretch",
        "press", "cut ",
    ]
    /// What parts a first rise from a second; a title's rolls do not.
    Part [
        "shap", "form into", "divid", "braid", "plait", "balls ", "boule", "batard", "roll out", "roll up", "roll into", "roll each",
        "formen ", "faconn", "formare",
    ]
    Oven ["oven"]
    Yeast ["yeast"]
    Salt ["salt"]
    Wet ["water", "milk", "liquid"]
    Flour ["flour"]
    Lid ["lid ", "lids ", "cover "]
    Rim ["to the rim", "reaches the rim", "at the rim", "level with the", "to the top", "reaches the top", "brim"]
    Tin ["tin ", "pan ", "slide"]
    Knife ["slice", "cut ", "serve", "eat "]
    Hot ["while hot", "still hot", "hot from the oven", "straight from the oven", "while warm", "still warm", "immediately"]
}

/// The automaton, and for each of its patterns the list it belongs to.
static WORDS: LazyLock<Option<(AhoCorasick, Vec<Say>)>> = LazyLock::new(|| {
    let patterns = || LISTS.iter().flat_map(|(say, words)| words.iter().map(move |w| (*say, format!(" {w}"))));
    let automaton = AhoCorasick::builder().match_kind(MatchKind::Standard).build(patterns().map(|p| p.1)).ok()?;
    Some((automaton, patterns().map(|p| p.0).collect()))
});

/// A step with what it says.
pub(super) struct Told<'a> {
    pub(super) step: &'a Step,
    /// A bit for each list of which a word stands there.
    says: u32,
}

impl<'a> Told<'a> {
    pub(super) fn new(step: &'a Step) -> Self {
        let text = format!(" {} ", fold(&step.text));
        let says = WORDS.as_ref().map_or(0, |(automaton, of)| {
            automaton.find_overlapping_iter(&text).filter_map(|m| of.get(m.pattern().as_usize())).fold(0, |bits, say| bits | bit(*say))
        });
        Self { step, says }
    }
    pub(super) const fn says(&self, say: Say) -> bool {
        self.says & bit(say) != 0
    }
    pub(super) const fn is_cold(&self) -> bool {
        self.says(Say::Cold)
    }
    /// Whether a dough rises in it: long enough, not in the oven, not the yeast in its cup.
    pub(super) fn is_rise(&self) -> bool {
        (self.says(Say::Rise) || self.says(Say::Rest))
            && !self.step.bakes()
            && self.step.oven_c.is_none()
            && !self.says(Say::NoRise)
            && self.step.minutes.is_some_and(|m| m.high >= LEAST_RISE_MIN)
    }
    pub(super) fn is_at_the_oven(&self) -> bool {
        self.step.bakes() || self.step.oven_c.is_some() || self.says(Say::Oven)
    }
    /// Whether the dough is divided or shaped in it.
    pub(super) fn shapes(&self) -> bool {
        self.says(Say::Part) && !self.step.bakes() && !self.is_rise()
    }
}

const fn bit(say: Say) -> u32 {
    1 << say as u32
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_list_has_its_bit_and_its_automaton() {
        assert!(LISTS.len() <= 32 && WORDS.is_some());
    }
}
