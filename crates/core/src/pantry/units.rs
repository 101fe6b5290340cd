//! Unit words: what `cup`, `tbsp`, `dl`, `pinch`, `oz` are in millilitres or grams.

use rustc_hash::FxHashMap;

use super::{TableError, field_number, phrases::Languages};
use crate::measure::Band;

const FILE: &str = "measures.csv";
const WORDS_FILE: &str = "measures_words.csv";

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
    /// Oven told in a word, °C.
    OvenWord,
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

/// All measures, with the words they are written by.
#[derive(Debug, Clone)]
pub struct Measures {
    rows: Vec<MeasureWord>,
    by_id: FxHashMap<String, usize>,
    /// Row, spelling, languages.
    spellings: Vec<(usize, String, Languages)>,
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

#[derive(serde::Deserialize)]
struct FurtherWord {
    unit: String,
    word: String,
    language: String,
}

impl Measures {
    pub(super) fn read(csv: &str, further: &str) -> Result<Self, TableError> {
        let mut measures = Self { rows: Vec::new(), by_id: FxHashMap::default(), spellings: Vec::new() };
        for row in csv::Reader::from_reader(csv.as_bytes()).deserialize() {
            let r: Row = row.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
            let kind = match r.kind.as_str() {
                "volume" => MeasureKind::Volume,
                "mass" => MeasureKind::Mass,
                "piece" => MeasureKind::Piece,
                "factor" => MeasureKind::Factor,
                "time" => MeasureKind::Time,
                "temperature-word" if r.id.starts_with("oven-") => MeasureKind::OvenWord,
                _ => continue,
            };
            let number = |name: &str, text: &str| field_number(FILE, &r.id, name, text);
            let value = number("value", &r.value)?.unwrap_or(1.0);
            let low = number("low", &r.low)?.unwrap_or(value);
            let high = number("high", &r.high)?.unwrap_or(value);
            let at = measures.rows.len();
            for spelling in super::ingredient::list(&r.spellings) {
                measures.spellings.push((at, spelling.to_owned(), Languages::ANY));
            }
            measures.rows.push(MeasureWord { id: r.id.clone(), kind, value: Band::new(low, value, high), source: r.source });
            measures.by_id.insert(r.id, at);
        }
        for row in csv::Reader::from_reader(further.as_bytes()).deserialize() {
            let r: FurtherWord = row.map_err(|e| TableError { file: WORDS_FILE, row: "?".into(), what: e.to_string() })?;
            // Numbers, gas marks and temperatures have their own rows elsewhere.
            if let Some(at) = measures.by_id.get(&r.unit) {
                measures.spellings.push((*at, r.word, Languages::of(&r.language)));
            }
        }
        Ok(measures)
    }

    /// A household's own cup, of so many ml.
    pub(super) fn own_cup(&mut self, ml: f64) {
        let id = "cup-own".to_owned();
        let cup = MeasureWord { id: id.clone(), kind: MeasureKind::Volume, value: Band::exact(ml), source: "the household".into() };
        self.by_id.insert(id, self.rows.len());
        self.rows.push(cup);
    }

    /// Every spelling: the row, the words, the languages they are used in.
    pub fn spellings(&self) -> impl Iterator<Item = (usize, &str, Languages)> {
        self.spellings.iter().map(|(at, word, languages)| (*at, word.as_str(), *languages))
    }

    /// A measure by its place.
    #[must_use]
    pub fn at(&self, index: usize) -> Option<&MeasureWord> {
        self.rows.get(index)
    }

    /// A measure by its row.
    #[must_use]
    pub fn by_id(&self, id: &str) -> Option<&MeasureWord> {
        self.by_id.get(id).and_then(|at| self.rows.get(*at))
    }
}
