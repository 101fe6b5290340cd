//! Headings: which part of the bread the lines below belong to, and which line is the title.

use super::amount;
use crate::{formula::Stage, pantry::fold};

/// A section of the text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Section {
    /// A list of ingredients, of one stage or of the dough.
    Ingredients(Option<Stage>),
    /// What is to be done.
    Method,
}

/// Words of headings; a heading that holds one of them is of that section.
const SECTIONS: &[(Section, &[&str])] = &[
    (Section::Method, &["method", "directions", "instructions", "steps", "zubereitung", "preparation", "anleitung", "preparazione"]),
    (Section::Ingredients(Some(Stage::Leaven)), &["leaven", "levain", "starter", "sauerteig", "rye sour"]),
    (Section::Ingredients(Some(Stage::Preferment)), &["poolish", "sponge", "biga", "preferment", "vorteig"]),
    (Section::Ingredients(Some(Stage::Soaker)), &["soaker", "quellstuck"]),
    (Section::Ingredients(Some(Stage::Scald)), &["scald", "tangzhong", "roux", "kochstuck", "bruhstuck"]),
    (Section::Ingredients(Some(Stage::Late)), &["late"]),
    (Section::Ingredients(Some(Stage::Inclusion)), &["inclusion", "inclusions"]),
    (
        Section::Ingredients(Some(Stage::Finish)),
        &[
            "filling",
            "boiling",
            "poaching",
            "glaze",
            "wash",
            "topping",
            "icing",
            "frosting",
            "finish",
            "coating",
            "decoration",
            "fullung",
            "garniture",
            "bath",
            "dip",
            "lye",
            "crumble",
            "streusel",
            "tin",
            "belag",
        ],
    ),
    (
        Section::Ingredients(None),
        &["dough", "hauptteig", "teig", "bread", "ingredients", "zutaten", "main", "pate", "impasto", "ingredienti"],
    ),
];

pub(super) fn section_of(words: &str) -> Option<Section> {
    let has = |list: &[&str]| list.iter().any(|w| words.split(' ').any(|x| x == *w));
    SECTIONS.iter().find(|(_, list)| has(list)).map(|(section, _)| *section)
}

/// A heading: no digits, ends in a colon, or `For the X`, or Markdown, or all capitals, or such a word by itself.
pub(super) fn heading(text: &str) -> Option<(Section, String)> {
    // `Poolish (the night before)`
    let unbracketed =
        text.split_once('(').filter(|(_, rest)| rest.trim_end().trim_end_matches(':').ends_with(')')).map_or(text, |(head, _)| head);
    let bare = unbracketed.trim_start_matches('#').trim().trim_matches('*').trim_end_matches(':').trim();
    if bare.is_empty() || bare.chars().any(|c| c.is_ascii_digit()) || bare.chars().count() > 60 {
        return None;
    }
    let marked = text.starts_with('#') || text.ends_with(':') || text.ends_with(":**") || (text.starts_with("**") && text.ends_with("**"));
    let lower = bare.to_lowercase();
    let for_the = ["for the ", "pour le ", "pour la ", "für den ", "für die ", "für das ", "per il ", "per la ", "per l'"]
        .iter()
        .find_map(|p| lower.strip_prefix(p));
    let capitals = bare.chars().count() < 40 && bare.chars().any(char::is_alphabetic) && !bare.chars().any(char::is_lowercase);
    let words = fold(for_the.unwrap_or(bare));
    let named = marked || for_the.is_some_and(|r| r.split(' ').count() <= 3) || capitals;
    // A sentence is no heading: most lines end here.
    if !named && words.split(' ').count() > 2 {
        return None;
    }
    let known = section_of(&words);
    // A lone word that names a part, with nothing but `main`, `the`, `final` beside it.
    let own = |w: &str| section_of(w).is_some() || matches!(w, "the" | "final" | "sour" | "rye" | "hot");
    let lone = known.is_some() && words.split(' ').all(own) && words != "bread";
    if !(named || lone) {
        return None;
    }
    Some((known.unwrap_or(Section::Ingredients(None)), bare.to_owned()))
}

/// A part and its list in one line: `levain: 40 g starter, 80 g water`. The part, its words, the list.
pub(super) fn inline(text: &str) -> Option<(Section, &str, &str)> {
    let (words, list) = text.split_once(':')?;
    let list = list.trim_start();
    let section = section_of(&fold(words)).filter(|s| *s != Section::Method)?;
    (words.split(' ').count() <= 3
        && !words.chars().any(|c| c.is_ascii_digit())
        && amount::starts_with_amount(list)
        && (list.contains([',', '+']) || matches!(section, Section::Ingredients(Some(Stage::Finish | Stage::Scald | Stage::Soaker)))))
    .then_some((section, words, list))
}

/// Whether the first line of a recipe is its title: no amount, nothing that says "as much as you like".
pub(super) fn is_title(bare: &str) -> bool {
    let words = fold(bare);
    let count = words.split(' ').count();
    let open = ["to taste", "as needed", "for dusting", "nach bedarf", "for the", "optional"].iter().any(|p| words.contains(p));
    let digits = bare.split('(').next().unwrap_or(bare).chars().any(|c| c.is_ascii_digit());
    (2..=9).contains(&count) && !open && !digits && !amount::starts_with_amount(bare) && !bare.ends_with(['.', ':', ','])
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn headings_are_told_from_lines() {
        for (text, section) in [
            ("For the filling", Section::Ingredients(Some(Stage::Finish))),
            ("Sauerteig", Section::Ingredients(Some(Stage::Leaven))),
            ("Main dough", Section::Ingredients(None)),
            ("METHOD", Section::Method),
            ("Poolish (the night before)", Section::Ingredients(Some(Stage::Preferment))),
            ("## Poolish", Section::Ingredients(Some(Stage::Preferment))),
            ("Odds and ends:", Section::Ingredients(None)),
        ] {
            assert_eq!(heading(text).map(|h| h.0), Some(section), "{text}");
        }
        for line in ["500 g flour", "Bread flour", "sesame seeds for the top", "Knead the dough well"] {
            assert_eq!(heading(line), None, "{line}");
        }
        assert!(inline("levain: 40g starter, 80g water").is_some());
        assert!(inline("flour: 500g").is_none());
        assert!(is_title("Cinnamon swirl buns") && is_title("Dinner rolls (makes 24)"));
        assert!(!is_title("salt to taste") && !is_title("500 g flour"));
    }
}
