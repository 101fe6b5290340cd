//! The rules that findings are raised by, and the page of the docs that is made from them.

use std::{collections::BTreeSet, fmt::Write as _, fs, path::Path};

use cerealis_core::{catalogue::rules, formula, measure::plain, pantry::Fact};

use crate::bench::tables;

fn page() -> String {
    let mut page =
        "# Findings\n\nEvery rule, made from the code (`crates/core/src/catalogue.rs`): `WRITE_DOCS=1 cargo test -p cerealis-core \
                    --test trade catalogue` writes it anew.\n\n| id | why | source |\n|---|---|---|\n"
            .to_owned();
    for r in rules() {
        writeln!(page, "| `{}` | {} | {} |", r.id, plain(r.why).replace('|', "\\|"), plain(r.source)).unwrap();
    }
    page
}

#[test]
fn the_docs_name_every_rule() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/findings.md");
    if std::env::var_os("WRITE_DOCS").is_some() {
        fs::write(&path, page()).unwrap();
    }
    assert!(fs::read_to_string(&path).unwrap() == page(), "docs/findings.md is old: WRITE_DOCS=1 writes it");
}

#[test]
fn every_module_that_raises_findings_is_in_the_catalogue() {
    let ids: BTreeSet<&str> = rules().iter().map(|r| r.id).collect();
    // One of each list: a list that is left out is missed here.
    for id in ["yeast-high", "unread-amount", "water-too-hot", "not-ripe", "oven-too-cool", "bulk-over", "leaven-young", "folds-missed"] {
        assert!(ids.contains(id), "{id}");
    }
    assert!(formula::rules().all(|r| ids.contains(r.id)) && ids.contains("preheat-late"));
}

#[test]
fn every_fact_of_the_pantry_is_some_rows_and_none_is_all() {
    let t = tables();
    for fact in Fact::ALL {
        let rows = t.pantry.all().iter().filter(|i| i.is(fact)).count();
        assert!(rows > 0 && rows < t.pantry.all().len() / 2, "{}: {rows}", fact.word());
    }
    let is = |id: &str, fact| t.pantry.get(id).unwrap().is(fact);
    assert!(!is("cream-of-tartar", Fact::Milk) && is("buttermilk", Fact::KeptCold) && !is("buttermilk", Fact::Butter));
}
