use serde::Serialize;

use super::{degrees, difference, show, small_length, to_nearest, weight};

/// One step behind a figure: what it is, its value unformatted, how it was reached, who says so.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Working {
    /// What the figure is, in words.
    pub label: String,
    /// The figure, uncut.
    pub value: f64,
    /// Its unit.
    pub unit: &'static str,
    /// How it follows from others, written out.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub formula: Option<String>,
    /// Where the rule or the constant comes from.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub source: Option<&'static str>,
}

impl Working {
    /// A step that is given.
    #[must_use]
    pub fn given(label: impl Into<String>, value: f64, unit: &'static str) -> Self {
        Self { label: label.into(), value, unit, formula: None, source: None }
    }
    /// The figure with its unit, in words.
    #[must_use]
    pub fn told(&self) -> String {
        match self.unit {
            "°C" => degrees(to_nearest(self.value, 0.1)).to_string(),
            "K" => difference(to_nearest(self.value, 0.1)).to_string(),
            "g" => weight(self.value).to_string(),
            "mm" => small_length(self.value).to_string(),
            unit => format!("{} {unit}", show(self.value, usize::from(self.value < 20.0))),
        }
    }
    /// How it was reached.
    #[must_use]
    pub fn by(mut self, formula: impl Into<String>) -> Self {
        self.formula = Some(formula.into());
        self
    }
    /// Who says so.
    #[must_use]
    pub const fn from(mut self, source: &'static str) -> Self {
        self.source = Some(source);
        self
    }
}
