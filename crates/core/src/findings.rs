//! What the program has noticed, and what one tap can do about it. A finding never changes
//! an amount by itself.

use std::borrow::Cow;

use serde_json::{Value, json};

use crate::measure::{Band, plain};

words! {
    /// How loud a finding is.
    #[derive(PartialOrd, Ord)]
    Severity {
        /// Shown quietly.
        Note "note",
        /// Shown at its line with a remedy.
        Caution "caution",
        /// Must be answered before a bake starts.
        Stop "stop",
    }
}

/// A rule that findings are raised by: its fixed name, why it matters, who says so.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Rule {
    /// Fixed name of its findings.
    pub id: &'static str,
    /// Why it matters.
    pub why: &'static str,
    /// Who says so.
    pub source: &'static str,
}

impl Rule {
    pub(crate) const fn new(id: &'static str, why: &'static str, source: &'static str) -> Self {
        Self { id, why, source }
    }

    /// A finding of this rule on nothing in particular.
    #[must_use]
    pub fn raised(&self, severity: Severity, message: String, remedies: Vec<Remedy>) -> Finding {
        let Self { id, why, source } = *self;
        Finding { id, severity, message, why, source, line: None, step: None, source_line: None, remedies }
    }

    /// The rule of a list by its id: see [`rule`]. Asked in a constant, an id that is not there does not compile.
    #[allow(clippy::panic, reason = "only the compiler meets it")]
    pub(crate) const fn of<'r>(rules: &'r [Self], id: &str) -> &'r Self {
        let mut rules = rules;
        while let [rule, rest @ ..] = rules {
            if same(rule.id.as_bytes(), id.as_bytes()) {
                return rule;
            }
            rules = rest;
        }
        panic!("no such rule")
    }
}

const fn same(mut a: &[u8], mut b: &[u8]) -> bool {
    loop {
        match (a, b) {
            ([], []) => return true,
            ([x, more_a @ ..], [y, more_b @ ..]) if *x == *y => (a, b) = (more_a, more_b),
            _ => return false,
        }
    }
}

/// The rule of the module's own list `RULES` by its id, looked up by the compiler.
macro_rules! rule {
    ($id:literal) => {
        const { crate::findings::Rule::of(RULES, $id) }
    };
}
pub(crate) use rule;

/// Cut too soon: said of a recipe as of a bake.
pub(crate) const SLICE_EARLY: Rule = Rule::new("slice-early", "The crumb sets while it cools.", "common practice, no source");

/// One change to a formula.
#[derive(Debug, Clone, PartialEq)]
pub enum Change {
    /// Another weight for a line.
    Grams {
        /// Index of the line.
        line: usize,
        /// New weight in grams, with what it may be.
        grams: Band,
        /// Whether the line carries an interval that must be rewritten too.
        interval: bool,
    },
    /// Another ingredient in a line.
    Ingredient {
        /// Index of the line.
        line: usize,
        /// Its id.
        ingredient: Cow<'static, str>,
    },
    /// A new line at the end.
    Add {
        /// Its id.
        ingredient: Cow<'static, str>,
        /// Grams.
        grams: f64,
    },
    /// Another moment for a line.
    Stage {
        /// Index of the line.
        line: usize,
        /// When it goes in.
        stage: crate::formula::Stage,
    },
    /// A line less.
    Remove {
        /// Index of the line.
        line: usize,
    },
    /// Pieces and their weight.
    Pieces {
        /// How many.
        count: u32,
        /// Grams of one.
        piece_g: f64,
    },
    /// What becomes of the dough before it is shaped.
    Rises {
        /// That.
        rises: crate::formula::FirstRise,
    },
    /// The pan the pieces bake in.
    Pan {
        /// Its id.
        pan: String,
    },
    /// The oven setting in °C.
    Oven {
        /// Setting.
        set_c: f64,
        /// Whether it is meant for a fan.
        fan: bool,
    },
    /// Minutes in the oven.
    OvenMinutes {
        /// From.
        low: f64,
        /// To.
        high: f64,
    },
}

/// A remedy: a button's words and what it does.
#[derive(Debug, Clone, PartialEq)]
pub struct Remedy {
    /// The deed, as the button says it.
    pub label: String,
    /// What changes.
    pub changes: Vec<Change>,
    /// Whether the finding is thereby answered and stays silent for this version.
    pub accept: bool,
}

impl Remedy {
    /// A remedy that changes something.
    #[must_use]
    pub fn new(label: impl Into<String>, changes: Vec<Change>) -> Self {
        Self { label: label.into(), changes, accept: false }
    }
    /// A remedy that changes something and answers the finding, which would else stay.
    #[must_use]
    pub fn answering(label: impl Into<String>, changes: Vec<Change>) -> Self {
        Self { label: label.into(), changes, accept: true }
    }
    /// "Meant so": nothing changes.
    #[must_use]
    pub fn meant(label: impl Into<String>) -> Self {
        Self::answering(label, Vec::new())
    }

    /// The remedy on the wire: a JSON Patch (RFC 6902) on `{formula}`, or `accept`.
    #[must_use]
    pub fn wire(&self, id: &str) -> Value {
        if self.changes.is_empty() {
            return json!({ "label": self.label, "accept": true });
        }
        let mut patch: Vec<Value> = self.changes.iter().flat_map(patch).collect();
        if self.accept {
            patch.push(json!({ "op": "add", "path": "/formula/accepted/-", "value": id }));
        }
        json!({ "label": self.label, "patch": patch })
    }
}

fn patch(change: &Change) -> Vec<Value> {
    let line_at = |line: usize, field: &str| format!("/formula/lines/{line}/{field}");
    match change {
        Change::Grams { line, grams, interval } => {
            let mut ops = vec![json!({ "op": "replace", "path": line_at(*line, "grams"), "value": grams.likely })];
            if *interval {
                ops.push(json!({ "op": "add", "path": line_at(*line, "grams_low"), "value": grams.low }));
                ops.push(json!({ "op": "add", "path": line_at(*line, "grams_high"), "value": grams.high }));
            }
            ops
        }
        Change::Ingredient { line, ingredient } => {
            vec![json!({ "op": "replace", "path": line_at(*line, "ingredient"), "value": ingredient })]
        }
        Change::Add { ingredient, grams } => {
            vec![json!({ "op": "add", "path": "/formula/lines/-", "value": { "ingredient": ingredient, "grams": grams } })]
        }
        Change::Stage { line, stage } => vec![json!({ "op": "add", "path": line_at(*line, "stage"), "value": stage.word() })],
        Change::Remove { line } => vec![json!({ "op": "remove", "path": format!("/formula/lines/{line}") })],
        Change::Pieces { count, piece_g } => vec![
            json!({ "op": "add", "path": "/formula/pieces/count", "value": count }),
            json!({ "op": "add", "path": "/formula/pieces/piece_g", "value": piece_g }),
        ],
        Change::Pan { pan } => vec![json!({ "op": "add", "path": "/formula/pieces/pan", "value": pan })],
        Change::Rises { rises } => vec![json!({ "op": "add", "path": "/formula/rises", "value": rises.body() })],
        Change::Oven { set_c, fan } => {
            let set = json!({ "op": "add", "path": "/formula/oven/set_c", "value": set_c });
            std::iter::once(set).chain(fan.then(|| json!({ "op": "add", "path": "/formula/oven/fan", "value": true }))).collect()
        }
        Change::OvenMinutes { low, high } => vec![
            json!({ "op": "add", "path": "/formula/oven/minutes_low", "value": low }),
            json!({ "op": "add", "path": "/formula/oven/minutes_high", "value": high }),
        ],
    }
}

/// What was noticed.
#[derive(Debug, Clone, PartialEq)]
pub struct Finding {
    /// Fixed name.
    pub id: &'static str,
    /// How loud.
    pub severity: Severity,
    /// What is wrong, its first words first.
    pub message: String,
    /// Why it matters.
    pub why: &'static str,
    /// Who says so.
    pub source: &'static str,
    /// Index of the formula line it concerns.
    pub line: Option<usize>,
    /// Index of the step it concerns.
    pub step: Option<usize>,
    /// Line of the pasted text it concerns.
    pub source_line: Option<usize>,
    /// What one tap can do.
    pub remedies: Vec<Remedy>,
}

impl Finding {
    /// What names one of its remedies wherever it is sent: the finding's id, its line, and the words of the button.
    #[must_use]
    pub fn key(&self, remedy: &Remedy) -> String {
        let line = self.line.map_or_else(|| "-".to_owned(), |l| l.to_string());
        format!("{}:{line}:{}", self.id, plain(&remedy.label))
    }

    /// The remedy a key names among findings that were looked for anew. Where the figures moved since the button was drawn it
    /// is the one of the same finding and line that changes the same: never another finding's, and nothing where that one is
    /// answered.
    #[must_use]
    pub fn named<'f>(key: &str, found: &'f [Self]) -> Option<(&'f Self, &'f Remedy)> {
        let mut parts = key.splitn(3, ':');
        let (id, line, label) = (parts.next()?, parts.next()?, parts.next()?);
        let line = if line == "-" { None } else { Some(line.parse().ok()?) };
        let mine = || found.iter().filter(|f| f.id == id && f.line == line).flat_map(|f| f.remedies.iter().map(move |r| (f, r)));
        let without_figures = |label: &str| label.chars().filter(|c| !c.is_ascii_digit() && !matches!(c, '.' | ',')).collect::<String>();
        let labels = || mine().map(|(f, r)| (plain(&r.label), (f, r)));
        let found = |same: &dyn Fn(&str) -> bool| labels().find(|(l, _)| same(l)).map(|(_, found)| found);
        found(&|l| l == label).or_else(|| found(&|l| without_figures(l) == without_figures(label)))
    }

    /// As the API writes it.
    #[must_use]
    pub fn wire(&self) -> Value {
        let mut wire = json!({
            "id": self.id, "severity": self.severity, "message": self.message, "why": self.why,
            "remedies": self.remedies.iter().map(|r| r.wire(self.id)).collect::<Vec<_>>(),
        });
        if let Some(object) = wire.as_object_mut() {
            for (key, at) in [("line", self.line), ("step", self.step), ("source_line", self.source_line)] {
                if let Some(at) = at {
                    object.insert(key.to_owned(), json!(at));
                }
            }
        }
        wire
    }
}
