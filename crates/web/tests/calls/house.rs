//! House rules that a reader of the code may rely on.

use std::{fs, path::Path};

fn files(dir: &Path, ending: &str, found: &mut Vec<(String, String)>) {
    for entry in fs::read_dir(dir).unwrap().map(Result::unwrap) {
        let path = entry.path();
        if path.is_dir() {
            files(&path, ending, found);
        } else if path.to_string_lossy().ends_with(ending) {
            found.push((path.display().to_string(), fs::read_to_string(&path).unwrap()));
        }
    }
}

#[test]
fn templates_hold_no_arithmetic_no_styles_and_trust_nothing() {
    let mut found = Vec::new();
    files(Path::new("src"), ".html", &mut found);
    assert!(found.len() > 15);
    for (name, text) in &found {
        assert!(!text.contains("style="), "{name} holds a style");
        assert!(!text.contains("|safe") && !text.contains("| safe"), "{name} trusts something");
        let long = text.lines().find(|l| l.chars().count() > 140);
        assert!(long.is_none(), "{name}: a line of over 140 letters: {}", long.unwrap_or_default());
        assert!(!text.contains("onclick") && !text.contains("<script>"), "{name} holds a script");
        for part in text.split("{{").skip(1).filter_map(|p| p.split("}}").next()) {
            // Line numbers are counted from 1 for people; nothing else is reckoned here.
            let part = part.replace("row.index + 1", "");
            assert!(![" * ", " / ", " + ", " - "].iter().any(|sign| part.contains(sign)), "{name}: {{{{{part}}}}}");
        }
    }
}

/// What the program does for pages and calls alike stands in `desk`: neither takes it from the other.
#[test]
fn pages_take_nothing_from_calls_nor_calls_from_pages() {
    for (part, other) in [("src/screens", "api"), ("src/api", "screens"), ("src/desk", "api"), ("src/desk", "screens")] {
        let mut found = Vec::new();
        files(Path::new(part), ".rs", &mut found);
        assert!(found.len() > 3, "{part}");
        for (name, text) in &found {
            assert!(!text.contains(&format!("crate::{other}")) && !text.contains(&format!("    {other}::")), "{name} takes from {other}");
        }
    }
}

#[test]
fn every_shipped_folder_holds_its_licence() {
    for entry in fs::read_dir("static/vendor").unwrap().map(Result::unwrap) {
        assert!(entry.path().join("LICENSE").exists(), "{}", entry.path().display());
    }
    assert!(cerealis_web::edge::assets::all_there());
}

#[test]
fn the_core_knows_no_interface_and_no_files() {
    let manifest = fs::read_to_string("../core/Cargo.toml").unwrap();
    let (_, rest) = manifest.split_once("[dependencies]").unwrap();
    let (own, _) = rest.split_once("[dev-dependencies]").unwrap();
    let names: Vec<&str> = own.lines().filter_map(|l| l.split(['.', ' ']).next()).filter(|n| !n.is_empty()).collect();
    assert_eq!(
        names,
        [
            "csv",
            "jiff",
            "serde",
            "serde_json",
            "aho-corasick",
            "strsim",
            "libm",
            "thiserror",
            "unicode-normalization",
            "chrono",
            "sunrise",
            "rustc-hash",
            "enumset",
            "strum",
            "smallvec",
        ]
    );
    let mut found = Vec::new();
    files(Path::new("../core/src"), ".rs", &mut found);
    for (name, text) in &found {
        for outside in ["std::fs", "std::net", "std::env", "Timestamp::now", "SystemTime", "Instant::now", "rand::"] {
            assert!(!text.contains(outside), "{name} uses {outside}");
        }
    }
}
