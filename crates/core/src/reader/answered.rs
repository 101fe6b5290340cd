//! What the baker has said of the words that were not read, kept among the answers of the formula: a word's meaning for
//! this recipe alone, or that a piece of it is to be left out.

use super::{Part, PartKind, Reading};
use crate::pantry::{OwnWord, fold};

const WORD: &str = "word:";
const LEFT: &str = "left:";

/// The answer that a word means an ingredient in this recipe.
#[must_use]
pub fn word_means(word: &str, ingredient: &str) -> String {
    format!("{WORD}{ingredient}:{word}")
}

/// The answer that a piece of the text is no ingredient.
#[must_use]
pub fn left_out(source: &str) -> String {
    format!("{LEFT}{source}")
}

/// The words this recipe's answers give a meaning.
#[must_use]
pub fn words_told(accepted: &[String]) -> Vec<OwnWord> {
    let told = accepted.iter().filter_map(|a| a.strip_prefix(WORD)?.split_once(':'));
    told.map(|(ingredient, word)| OwnWord { word: word.to_owned(), ingredient: ingredient.to_owned() }).collect()
}

impl Reading {
    /// This reading without what was said to be left out: such a piece is a remark.
    #[must_use]
    pub fn without_left_out(mut self, accepted: &[String]) -> Self {
        let left: Vec<String> = accepted.iter().filter_map(|a| a.strip_prefix(LEFT)).map(fold).collect();
        if left.is_empty() {
            return self;
        }
        let mut place = Vec::new();
        let mut kept = 0;
        for u in &self.unread {
            let stays = !left.contains(&fold(&u.source));
            place.push(stays.then_some(kept));
            kept += usize::from(stays);
        }
        for part in &mut self.parts {
            if let PartKind::Unread(i) = part.kind {
                let kind = place.get(i).copied().flatten().map_or(PartKind::Remark, PartKind::Unread);
                *part = Part { kind, ..*part };
            }
        }
        self.unread.retain(|u| !left.contains(&fold(&u.source)));
        self
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{
        Tables,
        reader::{Choices, read},
    };

    #[test]
    fn a_word_told_once_is_read_and_a_piece_left_out_is_a_remark() {
        let tables = Tables::built_in().unwrap();
        let text = "500 g glimmerflour\n300 g water\n10 g salt\n5 g instant yeast";
        let open = read(text, &Choices::default(), &[], &tables).unwrap();
        assert_eq!(open.unread.iter().map(|u| u.words.as_str()).collect::<Vec<_>>(), ["glimmerflour"]);
        assert!(open.is_half());
        let told = words_told(&[word_means("glimmerflour", "wheat-bread")]);
        let pantry = told.iter().fold(tables.pantry.clone(), |p, w| p.with_word(w));
        let read_now = read(text, &Choices::default(), &[], &Tables { pantry, ..tables.clone() }).unwrap();
        assert_eq!(read_now.lines[0].ingredient.id, "wheat-bread");
        assert!(read_now.unread.is_empty());
        let left = open.without_left_out(&[left_out("500 g glimmerflour")]);
        assert!(left.unread.is_empty() && !left.is_half());
        assert!(left.parts.iter().all(|p| !matches!(p.kind, PartKind::Unread(_))));
    }
}
