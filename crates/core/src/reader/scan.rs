//! The tokens of a text with the phrases found at each of them: what every part of the reader looks at.

use std::sync::Arc;

use super::{
    Choices,
    clue::{Clue, Clues},
    lexicon::{Hit, Lexicon, Role},
    spelled::spelled,
    token::Token,
};
use crate::pantry::{Family, Ingredient, Languages, Pantry};

/// Words that may stand between an amount and its name: `500 g of our good old strong flour`.
const BEFORE_NAME: usize = 7;

/// Letters of the shortest number put together that stands in no table.
const SHORTEST_SPELLED: usize = 7;

/// A text being read.
pub(super) struct Scan<'a> {
    /// Its tokens.
    pub tokens: &'a [Token<'a>],
    /// The pantry.
    pub pantry: &'a Pantry,
    /// How the household measures.
    pub choices: &'a Choices,
    /// Languages the text is written in.
    pub languages: Languages,
    /// The household's own, where that is not English.
    home: Languages,
    hits: Vec<Hit>,
    from: Vec<usize>,
}

/// An ingredient named in the text.
#[derive(Debug, Clone)]
pub(super) struct Named {
    /// What.
    pub ingredient: Arc<Ingredient>,
    /// Its first token.
    pub at: usize,
    /// Behind its last token.
    pub end: usize,
    /// Found only by a name one letter off.
    pub guessed: bool,
    /// Words of the name.
    pub words: usize,
    /// Means this only beside an amount.
    pub weak: bool,
}

impl<'a> Scan<'a> {
    /// Looks up every phrase once.
    pub fn new(tokens: &'a [Token<'a>], pantry: &'a Pantry, lexicon: &'a Lexicon, choices: &'a Choices) -> Self {
        let languages = lexicon.languages_of(tokens, &choices.locale);
        let mut hits = Vec::with_capacity(tokens.len());
        let mut from = Vec::with_capacity(tokens.len() + 1);
        for (at, t) in tokens.iter().enumerate() {
            from.push(hits.len());
            lexicon.hits_at(tokens, at, languages, &mut hits);
            // A word in no table may be a number put together: `zweihundertfünfzig`.
            if t.is_word()
                && t.word == 0
                && t.folded.len() >= SHORTEST_SPELLED
                && let Some(value) = spelled(&t.folded, lexicon, languages)
            {
                hits.push(Hit { role: Role::Number(value), len: 1 });
            }
        }
        from.push(hits.len());
        let home = Languages::of(choices.locale.split('-').next().unwrap_or("en"));
        let home = if home == Languages::ENGLISH { Languages::default() } else { home };
        Self { tokens, pantry, choices, languages, home, hits, from }
    }

    /// The token at a place.
    pub fn tok(&self, at: usize) -> Option<&'a Token<'a>> {
        self.tokens.get(at)
    }

    /// Whether this mark stands there.
    pub fn mark(&self, at: usize, mark: char) -> bool {
        self.tok(at).is_some_and(|t| t.is(mark))
    }

    /// The tokens before one, nearest first, no further than the beginning of its line.
    pub fn back(&self, at: usize, most: usize) -> impl Iterator<Item = usize> + '_ {
        (1..=most).filter_map(move |d| at.checked_sub(d)).take_while(move |i| !self.mark(*i, '\n'))
    }

    /// Whether this folded word stands there.
    pub fn word(&self, at: usize, word: &str) -> bool {
        self.tok(at).is_some_and(|t| t.is_word() && t.folded == word)
    }

    /// The phrases that begin at a token.
    pub fn hits(&self, at: usize) -> &[Hit] {
        let range = self.from.get(at).copied().unwrap_or(0)..self.from.get(at + 1).copied().unwrap_or(0);
        self.hits.get(range).unwrap_or(&[])
    }

    /// The longest phrase at a token that is picked, and the token behind it.
    pub fn pick<R>(&self, at: usize, pick: impl Fn(Role) -> Option<R>) -> Option<(R, usize)> {
        let mut best: Option<(R, usize)> = None;
        for hit in self.hits(at) {
            if best.as_ref().is_none_or(|(_, end)| at + hit.len > *end)
                && let Some(found) = pick(hit.role)
            {
                best = Some((found, at + hit.len));
            }
        }
        best
    }

    /// Behind the longest phrase of this role.
    pub fn role(&self, at: usize, role: Role) -> Option<usize> {
        // Most hits are of another role: that is seen without comparing what they hold.
        let kind = std::mem::discriminant(&role);
        self.pick(at, |r| (std::mem::discriminant(&r) == kind && r == role).then_some(())).map(|(_, end)| end)
    }

    /// The closing bracket of one that opens at `at`, before `limit`; else the limit.
    pub fn closing(&self, at: usize, limit: usize) -> usize {
        let mut depth = 0_usize;
        for i in at..limit {
            if self.mark(i, '(') {
                depth += 1;
            } else if self.mark(i, ')') {
                depth = depth.saturating_sub(1);
                if depth == 0 {
                    return i;
                }
            }
        }
        limit
    }

    /// The text from one token to another.
    pub fn source<'t>(&self, text: &'t str, from: usize, to: usize) -> &'t str {
        let start = self.tok(from).map_or(0, |t| t.start);
        let end = to.checked_sub(1).and_then(|i| self.tok(i)).map_or(start, |t| t.end);
        text.get(start..end).unwrap_or_default()
    }

    /// The longest name that begins at a token, whatever stands in it of dashes.
    pub fn name_at(&self, at: usize, limit: usize, weak: bool) -> Option<Named> {
        let (mut node, mut i, mut words) = (0, at, 0);
        let mut best = None;
        while i < limit {
            let t = self.tok(i)?;
            if i > at && matches!(t.kind, super::token::Kind::Mark('-' | '.' | '%' | '\'' | '/')) {
                i += 1;
                continue;
            }
            let Some(next) = self.pantry.name_step(node, t.stem) else { break };
            (node, i, words) = (next, i + 1, words + 1);
            let usable = |n: &&crate::pantry::NameOf| n.languages.shares(self.languages) && (weak || !n.weak);
            // The household's own language settles what a word means in several: Germ is yeast in Vienna.
            let at_home = |n: &&crate::pantry::NameOf| !(n.languages != Languages::ANY && n.languages.shares(self.home));
            let found = self.pantry.names_at(node).iter().filter(usable).min_by_key(|n| (at_home(n), n.weak));
            if let Some(n) = found {
                best = Some((n.ingredient, i, words, n.weak));
            }
        }
        let (place, end, words, weak) = best?;
        // `ginger-free`
        if self.mark(end, '-') && self.word(end + 1, "free") {
            return None;
        }
        let ingredient = self.pantry.at(place)?.clone();
        Some(Named { ingredient, at, end, guessed: false, words, weak })
    }

    /// The name behind an amount: the longest before the clause goes on to something else.
    pub fn name_behind(&self, at: usize, limit: usize) -> Option<Named> {
        let mut best: Option<Named> = None;
        let (mut i, mut seen) = (at, 0);
        while i < limit && seen < BEFORE_NAME {
            let Some(t) = self.tok(i) else { break };
            if let super::token::Kind::Mark(m) = t.kind {
                if matches!(m, '-' | '.' | '\'' | '"' | '%' | '*') && !(m == '.' && self.ends_sentence(i)) && !(m == '-' && self.is_dash(i))
                {
                    i += 1;
                    continue;
                }
                break;
            }
            if let Some(found) = self.name_at(i, limit, true) {
                let better = best.as_ref().is_none_or(|b| (b.weak && !found.weak) || (found.words > b.words && found.weak <= b.weak));
                let next = found.end;
                if better {
                    best = Some(found);
                }
                // `milk and water` are two; what follows a strong name belongs to it or to a new clause.
                seen += 1;
                i = if best.as_ref().is_some_and(|b| !b.weak) { next } else { i + 1 };
                if self.ends_name(i) {
                    break;
                }
                continue;
            }
            if (seen > 0 || best.is_some()) && self.ends_name(i) || self.new_amount(i) {
                break;
            }
            seen += 1;
            i += 1;
        }
        best
    }

    /// Whether a number that may be an amount stands there.
    fn new_amount(&self, at: usize) -> bool {
        self.tok(at).is_some_and(|t| matches!(t.kind, super::token::Kind::Number { .. }))
    }

    /// Words behind which no name goes on.
    fn ends_name(&self, at: usize) -> bool {
        let stops = |r: Role| {
            matches!(r, Role::Stop | Role::And | Role::Or | Role::Plus | Role::ForThe | Role::Then | Role::Minus | Role::Purpose(_))
        };
        self.pick(at, |r| stops(r).then_some(())).is_some() && self.role(at, Role::Of).is_none()
    }

    /// A name one letter off, in words of five letters or more.
    pub fn guess(&self, at: usize, limit: usize) -> Option<Named> {
        (at..limit.min(at + BEFORE_NAME)).take_while(|i| !self.mark(*i, ',') && !self.mark(*i, '(')).find_map(|i| {
            let t = self.tok(i).filter(|t| t.is_word() && t.word == 0)?;
            let ingredient = self.pantry.one_letter_off(&t.folded)?.clone();
            Some(Named { ingredient, at: i, end: i + 1, guessed: true, words: 1, weak: false })
        })
    }

    /// Whether a point ends a sentence: a space or nothing behind it, and no short word before it.
    pub fn ends_sentence(&self, at: usize) -> bool {
        let Some(t) = self.tok(at) else { return true };
        match t.kind {
            super::token::Kind::Mark('!' | '?' | ';') => true,
            super::token::Kind::Mark('.') => {
                let before = at.checked_sub(1).and_then(|i| self.tok(i));
                let abbreviates = before.is_some_and(|b| b.is_word() && self.abbreviates(at - 1, b));
                let next = self.tok(at + 1);
                !abbreviates && next.is_none_or(|n| n.spaced)
            }
            _ => false,
        }
    }

    /// `tsp.`, `pkg.`, `min.` before something that goes on in lower case or with a figure.
    fn abbreviates(&self, at: usize, t: &Token<'_>) -> bool {
        let unit = self.pick(at, |r| {
            matches!(r, Role::Unit(_) | Role::Minutes(_) | Role::Approx | Role::Thermostat | Role::Gas | Role::Length).then_some(())
        });
        let short = t.text.chars().count() <= 5
            && (unit.is_some() || self.tells(at, Clue::Shortened) || self.tells(at, Clue::ShortenedBeforeFigure));
        let measure = self.pick(at, |r| matches!(r, Role::Unit(_)).then_some(())).is_some();
        let goes_on = self.tok(at + 2).is_some_and(|n| {
            let near = n.start < t.end + 4;
            let named = measure && self.name_at(at + 2, self.tokens.len(), true).is_some();
            // `ca. 15`, but `two tins. 190 C`
            let counted = n.value().is_some() && self.tells(at, Clue::ShortenedBeforeFigure);
            near && (n.text.starts_with(char::is_lowercase) || counted || named)
        });
        short && goes_on
    }

    /// A dash between spaces, as between a name and what is said of it.
    pub fn is_dash(&self, at: usize) -> bool {
        self.mark(at, '-') && self.tok(at).is_some_and(|t| t.spaced) && self.tok(at + 1).is_none_or(|t| t.spaced)
    }

    /// Whether a family's things are counted: eggs, fruit, packets.
    pub fn is_counted(ingredient: &Ingredient) -> bool {
        matches!(ingredient.family, Family::Egg | Family::Fruit)
            || ["piece", "medium", "clove"].iter().any(|k| ingredient.piece(k).is_some())
    }
}

impl Scan<'_> {
    /// What the words from one token to another settle.
    pub fn clues(&self, from: usize, to: usize) -> Clues {
        (from..to)
            .flat_map(|i| self.hits(i))
            .filter_map(|hit| match hit.role {
                Role::Tells(clue) => Some(clue),
                Role::Hydration => Some(Clue::Hydration),
                _ => None,
            })
            .collect()
    }

    /// Whether this clue begins at a token.
    pub fn tells(&self, at: usize, clue: Clue) -> bool {
        self.role(at, Role::Tells(clue)).is_some()
    }
}
