//! The sign that stands beside every time: bakers go by signs. All: common practice, no source.

use serde::Deserialize;

use super::StepKind;
use crate::{ferment::Pace, knead::Until, measure::marked, pantry::TableError};

const FILE: &str = "signs.csv";
const CSV: &str = include_str!("../../data/signs.csv");

#[derive(Debug, Clone, Deserialize)]
struct Row {
    step: String,
    /// `tin` where it is the sign of a dough that stands in one.
    holder: String,
    styles: String,
    pace: String,
    ratio_low: Option<f64>,
    ratio_high: Option<f64>,
    sign: String,
    under: String,
    over: String,
}

/// What to look for, and what it looks like too early and too late.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Sign {
    /// Right.
    pub right: String,
    /// Too early, and what to do.
    pub under: String,
    /// Too late, and what to do.
    pub over: String,
}

impl From<&Row> for Sign {
    fn from(r: &Row) -> Self {
        Self { right: r.sign.clone(), under: r.under.clone(), over: r.over.clone() }
    }
}

/// The table of signs.
#[derive(Debug, Clone)]
pub struct Signs {
    rows: Vec<Row>,
}

impl Signs {
    /// Reads the built-in table.
    ///
    /// # Errors
    /// A row that cannot be read.
    pub fn built_in() -> Result<Self, TableError> {
        let rows = csv::Reader::from_reader(CSV.as_bytes()).deserialize().collect::<Result<Vec<Row>, _>>();
        let said = |r: Row| Row { sign: marked(&r.sign), under: marked(&r.under), over: marked(&r.over), ..r };
        rows.map(|rows| Self { rows: rows.into_iter().map(said).collect() }).map_err(|e| TableError {
            file: FILE,
            row: "?".into(),
            what: e.to_string(),
        })
    }

    /// The sign that ends an act at the bowl.
    #[must_use]
    pub fn kneaded(&self, until: Until) -> Sign {
        self.rows.iter().find(|r| r.step == until.word()).map_or_else(Sign::default, Sign::from)
    }

    /// The sign of a step: the first row that fits style, pace, how far the dough is to rise, and whether it stands in a tin.
    #[must_use]
    pub fn of(&self, step: StepKind, style: &str, pace: Pace, ratio: f64, in_tin: bool) -> Sign {
        let fits = |r: &&Row| {
            r.step == step.word()
                && (r.holder.is_empty() || in_tin)
                && (r.styles.is_empty() || r.styles.split(';').any(|s| s == style))
                && (r.pace.is_empty() || r.pace == pace.word())
                && r.ratio_low.is_none_or(|low| ratio >= low)
                && r.ratio_high.is_none_or(|high| ratio < high)
        };
        self.rows.iter().find(fits).map_or_else(Sign::default, Sign::from)
    }
}
