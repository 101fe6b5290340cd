//! Styles of dough: how each is recognised and what is usual in it.

use crate::pantry::{TableError, field_number};

const FILE: &str = "styles.csv";
const STYLES: &str = include_str!("../../data/styles.csv");

words! {
    /// The closed list of styles.
    StyleId {
        Lean "lean", LongNoKnead "long-no-knead", PanSoft "pan-soft", Milk "milk", Enriched "enriched",
        Brioche "brioche", BraidedEgg "braided-egg", SweetBun "sweet-bun", SodaDipped "soda-dipped",
        SourdoughLean "sourdough-lean", SourdoughSoft "sourdough-soft", Wholegrain "wholegrain", Rye "rye",
        GlutenFree "gluten-free", Flat "flat", Fruit "fruit",
    }
}

/// From and to.
pub type Range = (f64, f64);

/// One style: usual ranges in percent on flour. All ranges: common practice, no source.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs, reason = "columns of the table, named alike")]
pub struct Style {
    pub id: StyleId,
    pub name: String,
    pub hydration: Range,
    pub salt: Range,
    pub sugar: Range,
    pub fat: Range,
    pub egg: Range,
    pub yeast_instant: Range,
    pub leaven_flour: Range,
    pub dough_c: Range,
    pub bake_loss: Range,
    /// What bakers hold to: most instant yeast, percent of flour; shortest bulk and proof, minutes; the coldest place
    /// outside the fridge in which a dough of one day is left, °C. Common practice, no source.
    pub custom: Custom,
    pub example: String,
    pub near_miss: String,
    pub near_miss_style: Option<StyleId>,
}

/// Bounds that a plan keeps because bakers do, whatever the models allow.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs, reason = "the names say it")]
pub struct Custom {
    pub dose_most_pct: f64,
    pub bulk_least_min: f64,
    pub proof_least_min: f64,
    pub coldest_place_c: f64,
}

/// The table of styles.
#[derive(Debug, Clone)]
pub struct Styles {
    rows: Vec<Style>,
}

impl Styles {
    /// Reads the built-in table.
    ///
    /// # Errors
    /// [`TableError`] naming row and field, or the style that is missing.
    pub fn built_in() -> Result<Self, TableError> {
        let mut rows = Vec::new();
        for record in csv::Reader::from_reader(STYLES.as_bytes()).deserialize::<std::collections::HashMap<String, String>>() {
            let r = record.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
            let text = |name: &str| r.get(name).cloned().unwrap_or_default();
            let row = text("id");
            let bad = |what: String| TableError { file: FILE, row: row.clone(), what };
            let range = |name: &str| -> Result<Range, TableError> {
                let end = |which: &str| {
                    let column = format!("{name}_{which}");
                    field_number(FILE, &row, &column, &text(&column))?.ok_or_else(|| bad(format!("{column} is empty")))
                };
                Ok((end("low")?, end("high")?))
            };
            let number = |column: &str| field_number(FILE, &row, column, &text(column))?.ok_or_else(|| bad(format!("{column} is empty")));
            rows.push(Style {
                id: StyleId::from_word(&row).ok_or_else(|| bad("unknown style".into()))?,
                name: text("name"),
                hydration: range("hydration")?,
                salt: range("salt")?,
                sugar: range("sugar")?,
                fat: range("fat")?,
                egg: range("egg")?,
                yeast_instant: range("yeast_instant")?,
                leaven_flour: range("leaven_flour")?,
                dough_c: range("dough_c")?,
                bake_loss: range("bake_loss")?,
                custom: Custom {
                    dose_most_pct: number("dose_most_pct")?,
                    bulk_least_min: number("bulk_least_min")?,
                    proof_least_min: number("proof_least_min")?,
                    coldest_place_c: number("coldest_place_c")?,
                },
                example: text("example_formula"),
                near_miss: text("near_miss_formula"),
                near_miss_style: StyleId::from_word(&text("near_miss_style")),
            });
        }
        for id in StyleId::ALL {
            if !rows.iter().any(|r| r.id == id) {
                return Err(TableError { file: FILE, row: id.word().into(), what: "missing".into() });
            }
        }
        // `get` finds a style by its place in the closed list.
        rows.sort_by_key(|r| StyleId::ALL.iter().position(|id| *id == r.id));
        Ok(Self { rows })
    }

    /// The row of a style.
    #[must_use]
    #[allow(clippy::indexing_slicing, reason = "built_in holds one row for each of the closed list, in its order")]
    pub fn get(&self, id: StyleId) -> &Style {
        &self.rows[id as usize]
    }
}
