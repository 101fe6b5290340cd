//! The allergens that are told on a label.

/// The fourteen that must be told, in one word each: Regulation (EU) No 1169/2011, Annex II.
pub const ALLERGENS: [&str; 14] = [
    "celery",
    "crustaceans",
    "eggs",
    "fish",
    "gluten",
    "lupin",
    "milk",
    "molluscs",
    "mustard",
    "nuts",
    "peanuts",
    "sesame",
    "soya",
    "sulphites",
];

/// Reads an allergen as it was typed.
///
/// # Errors
/// A sentence, if it is none of these.
pub fn read_allergen(typed: &str) -> Result<&'static str, String> {
    let word = typed.trim().to_lowercase();
    ALLERGENS.into_iter().find(|a| *a == word).ok_or_else(|| {
        let near = crate::did_you_mean(&word, ALLERGENS.into_iter());
        format!("“{typed}” is no allergen of the label.{near} They are {}.", ALLERGENS.join(", "))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_allergen_is_one_of_the_list() {
        assert_eq!(read_allergen(" Gluten "), Ok("gluten"));
        assert!(read_allergen("glutten").is_err_and(|e| e.contains("Did you mean “gluten”?")));
    }
}
