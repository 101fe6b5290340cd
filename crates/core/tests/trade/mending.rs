//! Each remedy is one tap, and after it the slip is gone.

use cerealis_core::formula::{Formula, find};

use super::bench::{formula, tables};

fn ids(f: &Formula) -> Vec<&'static str> {
    find(&f.analyse(&tables().pantry, &tables().styles), tables()).into_iter().map(|x| x.id).collect()
}

/// Takes the remedy of a finding by its number.
fn mended(f: &Formula, id: &str, nth: usize) -> Formula {
    let found = find(&f.analyse(&tables().pantry, &tables().styles), tables());
    let finding = found.iter().find(|x| x.id == id).unwrap_or_else(|| panic!("{id} not among {:?}", ids(f)));
    f.after(&finding.remedies[nth], finding.id, &tables().pantry)
}

/// A slip, and the dough that has it.
const SLIPS: &[(&str, &[(&str, f64)])] = &[
    ("salt-missing", &[("wheat-bread", 500.0), ("water", 340.0), ("yeast-instant", 3.0)]),
    ("salt-low", &[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 3.0), ("yeast-instant", 3.0)]),
    ("salt-high", &[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 30.0), ("yeast-instant", 3.0)]),
    ("yeast-missing", &[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0)]),
    ("yeast-high", &[("wheat-bread", 500.0), ("water", 340.0), ("salt-fine", 10.0), ("yeast-instant", 40.0)]),
    ("liquid-missing", &[("wheat-bread", 500.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)]),
    ("hydration-low", &[("wheat-bread", 500.0), ("water", 200.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)]),
    ("hydration-high", &[("wheat-bread", 500.0), ("water", 560.0), ("salt-fine", 10.0), ("yeast-instant", 3.0)]),
];

#[test]
fn the_first_remedy_mends_the_slip() {
    for (id, lines) in SLIPS {
        let f = formula(lines);
        let after = mended(&f, id, 0);
        assert!(
            !ids(&after).contains(id),
            "{id} still there: {:?}",
            after.lines.iter().map(|l| (&l.ingredient.id, l.grams.likely)).collect::<Vec<_>>()
        );
    }
}

#[test]
fn meant_so_silences_it_and_changes_no_gram() {
    for (id, lines) in SLIPS {
        let f = formula(lines);
        let found = find(&f.analyse(&tables().pantry, &tables().styles), tables());
        let finding = found.iter().find(|x| x.id == *id).unwrap();
        let Some(meant) = finding.remedies.iter().position(|r| r.label.contains("Meant") || r.label.contains("meant")) else { continue };
        let after = mended(&f, id, meant);
        assert!(!ids(&after).contains(id), "{id}");
        assert_eq!(after.lines.len(), f.lines.len());
        for (a, b) in f.lines.iter().zip(&after.lines) {
            assert_eq!(a.grams, b.grams);
        }
    }
}

#[test]
fn every_finding_has_a_reason_and_a_source_and_a_short_message() {
    for (id, lines) in SLIPS {
        for f in find(&formula(lines).analyse(&tables().pantry, &tables().styles), tables()) {
            assert!(!f.why.is_empty() && !f.source.is_empty(), "{id}");
            assert!(f.message.len() < 200, "{}", f.message);
        }
    }
}

#[test]
fn remedies_are_named_by_what_they_do() {
    for (id, lines) in SLIPS {
        for f in find(&formula(lines).analyse(&tables().pantry, &tables().styles), tables()).into_iter().filter(|f| f.id == *id) {
            assert!(!f.remedies.is_empty(), "{id} has no remedy");
            for r in &f.remedies {
                assert!((3..=40).contains(&r.label.chars().count()), "{id}: {}", r.label);
            }
        }
    }
}
