//! What the address of a plan says: the formula, and answers by their names; all text, nothing lost.

use std::collections::BTreeMap;

use cerealis_core::plan::search::want::Want;
use jiff::Timestamp;
use serde::Deserialize;

use crate::edge::{Lies, Local};

/// A formula and answers.
#[derive(Debug, Deserialize, Default, Clone)]
pub struct Query {
    #[serde(default)]
    pub(super) formula: String,
    #[serde(default)]
    pub(super) p: BTreeMap<String, String>,
}

impl Query {
    /// An answer, where something stands there.
    pub(super) fn get(&self, name: &str) -> Option<&str> {
        self.p.get(name).map(|v| v.trim()).filter(|v| !v.is_empty())
    }
    /// The same with days and hours as they will still be read tomorrow; what cannot be read stays as it was typed.
    pub(super) fn settled(mut self, local: &Local, now: Timestamp) -> Self {
        for name in ["ready", "from", "ripe", "start"] {
            if let Some(at) = self.get(name).and_then(|text| local.read_when(text, now, Lies::Ahead)) {
                self.p.insert(name.to_owned(), local.field(at));
            }
        }
        self
    }
    /// An hour as a field shows it: in words, or as it was typed where that cannot be read.
    pub(super) fn hour(&self, name: &str, local: &Local, now: Timestamp) -> String {
        let text = self.get(name).unwrap_or_default();
        local.read_when(text, now, Lies::Ahead).map_or_else(|| text.to_owned(), |t| local.when(t, now))
    }
    /// Whether the bread is wanted as soon as it can be.
    pub(super) fn soon(&self) -> bool {
        self.get("soon").is_some() || self.get("want") == Some(Want::Soon.word())
    }
    /// The same with one answer changed.
    pub(super) fn with(&self, name: &str, value: &str) -> Self {
        let mut changed = self.clone();
        changed.p.insert(name.to_owned(), value.to_owned());
        changed
    }
    /// The same with one answer taken back.
    pub(super) fn without(&self, name: &str) -> Self {
        let mut changed = self.clone();
        changed.p.remove(name);
        changed
    }
    /// The fields of a form that sends the same answers.
    pub(super) fn fields(&self) -> Vec<(String, String)> {
        self.p.iter().map(|(name, value)| (format!("p[{name}]"), value.clone())).collect()
    }
    /// Where the page with these answers is.
    pub(super) fn address(&self, path: &str) -> String {
        let all: Vec<(String, String)> = std::iter::once(("formula".to_owned(), self.formula.clone())).chain(self.fields()).collect();
        format!("{path}?{}", serde_urlencoded::to_string(all).unwrap_or_default())
    }
    /// Where it goes on once a formula is chosen.
    pub(super) fn unchosen(&self, path: &str) -> String {
        let answers = self.fields();
        if answers.is_empty() { path.to_owned() } else { format!("{path}?{}", serde_urlencoded::to_string(answers).unwrap_or_default()) }
    }
}
