use serde::Serialize;

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
