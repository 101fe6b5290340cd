//! Amounts that stand in a step: `knead in 40 g butter`. They are weighed as a line would be.

use std::sync::Arc;

use super::{
    Choices,
    amount::amount,
    line::{Outcome, Written},
    tokens::{Cursor, tokens},
};
use crate::{
    measure::Band,
    pantry::{Ingredient, MeasureKind, Pantry},
};

/// Words behind which a step says something else.
const ENDS: &[&str] = &["and", "then", "with", "into", "to", "in", "for"];
/// Most words that are taken for the name behind an amount.
const LONGEST_NAME: usize = 5;

/// Every amount by weight or volume with the ingredient behind it.
pub(super) fn amounts(step: &str, pantry: &Pantry, choices: &Choices) -> Vec<(Arc<Ingredient>, Band)> {
    let tokens = tokens(step);
    let line = Written { source: step, source_line: 0, section: None, pantry, choices, before: None };
    let mut found = Vec::new();
    let mut at = 0;
    while at < tokens.len() {
        let start = at;
        let mut cursor = Cursor { tokens: &tokens, at };
        at += 1;
        let measured = amount(&mut cursor, pantry, choices).and_then(|a| a.unit);
        if !measured.is_some_and(|u| matches!(u.kind, MeasureKind::Mass | MeasureKind::Volume)) {
            continue;
        }
        let name = (0..LONGEST_NAME).take_while(|i| cursor.word(*i).is_some_and(|w| !ENDS.contains(&w))).count();
        let Some(text) =
            tokens.get(start).zip(tokens.get(cursor.at + name - usize::from(name > 0))).and_then(|(a, b)| step.get(a.start..b.end))
        else {
            continue;
        };
        if let (true, Outcome::Lines(lines)) = (name > 0, line.read(text)) {
            found.extend(lines.into_iter().filter_map(|l| l.grams.map(|g| (l.ingredient, g))));
            at = cursor.at + name;
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn amounts_in_a_sentence_are_weighed_as_lines_are() {
        let pantry = Pantry::built_in().unwrap();
        let told = |step: &str, cup: &str| {
            let choices = Choices { cup: cup.into(), ..Choices::default() };
            let found = amounts(step, &pantry, &choices);
            found.into_iter().map(|(i, g)| (i.id.clone(), g.likely.round())).collect::<Vec<_>>()
        };
        let both = [("wheat-ap".to_owned(), 500.0), ("water".to_owned(), 325.0)];
        assert_eq!(told("Mix 500 g flour with 325 g warm water and wait", "us"), both);
        assert_eq!(told("Pour in 1 cup of water", "us"), [("water".to_owned(), 236.0)]);
        assert_eq!(told("Pour in 1 cup of water", "metric"), [("water".to_owned(), 249.0)], "by the household's own cup");
        assert!(told("Bake for 20 minutes at 220 C in a 2 lb tin", "us").is_empty());
    }
}
