//! What the program does for pages and API alike.

pub mod about;
pub mod bakes;
pub mod formulas;
pub mod jars;
pub mod keeping;
pub mod kitchen;
pub mod learned;
pub mod own;
pub mod visits;

/// A file name that no system stumbles over: letters, digits, hyphens; `otherwise` where there is nothing of that.
#[must_use]
pub fn plain_name(name: &str, otherwise: &str) -> String {
    let plain = cerealis_core::pantry::fold(name);
    let safe: String = plain.chars().filter(|c| c.is_ascii_alphanumeric() || *c == ' ').take(60).collect();
    let safe = safe.split_whitespace().collect::<Vec<_>>().join("-");
    if safe.is_empty() { otherwise.to_owned() } else { safe }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_file_name_is_plain() {
        assert_eq!(plain_name("Crème  brûlée/../bun", "bread"), "creme-brulee-bun");
        assert_eq!(plain_name("麦", "bread"), "bread");
    }
}
