//! Every rule that findings are raised by: what the API's document, the page of sources and the tests are made from.

use crate::{bake, ferment, findings::Rule, formula, knead, oven, plan, reader, water};

/// All of them, once each, by their id.
#[must_use]
pub fn rules() -> Vec<&'static Rule> {
    let lists = [
        reader::RULES,
        water::RULES,
        ferment::findings::RULES,
        knead::findings::RULES,
        oven::RULES,
        plan::findings::RULES,
        plan::fed::RULES,
        plan::search::RULES,
        bake::findings::RULES,
    ];
    let mut all: Vec<&Rule> = formula::rules().chain(lists.into_iter().flatten()).collect();
    all.sort_by_key(|r| r.id);
    all.dedup();
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_id_has_one_reason_and_one_source() {
        let all = rules();
        let twice: Vec<_> = all.windows(2).filter(|w| w[0].id == w[1].id).collect();
        assert!(twice.is_empty(), "{twice:#?}");
        for r in all {
            let words = r.id.chars().all(|c| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-');
            assert!(words && !r.why.is_empty() && !r.source.is_empty(), "{r:?}");
        }
    }
}
