//! Unit words: what `cup`, `tbsp`, `dl`, `pinch`, `oz` are in millilitres or grams.

use std::collections::HashMap;

use super::{TableError, field_number};
use crate::measure::Band;

const FILE: &str = "measures.csv";

/// What a measure word gives.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MeasureKind {
    /// Millilitres.
    Volume,
    /// Grams.
    Mass,
    /// Pieces whose weight the ingredient knows.
    Piece,
    /// A factor on the amount: heaped, scant, about.
    Factor,
    /// Minutes.
    Time,
}

/// One measure.
#[derive(Debug, Clone, PartialEq)]
pub struct MeasureWord {
    /// Row of the table.
    pub id: String,
    /// What it gives.
    pub kind: MeasureKind,
    /// How much, with its interval.
    pub value: Band,
    /// Who says so.
    pub source: String,
}

/// All measures by word. Case matters only for `T` and `t`, `C` and `c`.
#[derive(Debug, Clone)]
pub struct Measures {
    words: HashMap<String, MeasureWord>,
    by_id: HashMap<String, MeasureWord>,
}

#[derive(serde::Deserialize)]
struct Row {
    id: String,
    kind: String,
    spellings: String,
    value: String,
    low: String,
    high: String,
    source: String,
}

impl Measures {
    pub(super) fn read(csv: &str) -> Result<Self, TableError> {
        let mut measures = Self { words: HashMap::new(), by_id: HashMap::new() };
        for row in csv::Reader::from_reader(csv.as_bytes()).deserialize() {
            let r: Row = row.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
            let kind = match r.kind.as_str() {
                "volume" => MeasureKind::Volume,
                "mass" => MeasureKind::Mass,
                "piece" => MeasureKind::Piece,
                "factor" => MeasureKind::Factor,
                "time" => MeasureKind::Time,
                _ => continue,
            };
            let number = |name: &str, text: &str| field_number(FILE, &r.id, name, text);
            let value = number("value", &r.value)?.unwrap_or(1.0);
            let low = number("low", &r.low)?.unwrap_or(value);
            let high = number("high", &r.high)?.unwrap_or(value);
            let word = MeasureWord { id: r.id.clone(), kind, value: Band::new(low, value, high), source: r.source.clone() };
            for spelling in super::ingredient::list(&r.spellings) {
                // A word read by two rows belongs to the first: US before imperial, as the reader's default.
                measures.words.entry(Self::key(spelling)).or_insert_with(|| word.clone());
            }
            measures.by_id.insert(r.id, word);
        }
        Ok(measures)
    }

    fn key(word: &str) -> String {
        let bare = word.trim_end_matches('.');
        match bare {
            "T" | "t" | "C" | "c" | "TL" | "EL" | "L" => bare.to_owned(),
            _ => bare.to_lowercase(),
        }
    }

    /// A household's own cup, of so many ml.
    pub(super) fn own_cup(&mut self, ml: f64) {
        let id = "cup-own".to_owned();
        let cup = MeasureWord { id: id.clone(), kind: MeasureKind::Volume, value: Band::exact(ml), source: "the household".into() };
        self.by_id.insert(id, cup);
    }

    /// The measure a word stands for.
    #[must_use]
    pub fn word(&self, word: &str) -> Option<&MeasureWord> {
        self.words.get(&Self::key(word))
    }

    /// A measure by its row.
    #[must_use]
    pub fn by_id(&self, id: &str) -> Option<&MeasureWord> {
        self.by_id.get(id)
    }
}
