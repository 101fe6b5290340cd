//! Formulas in open formats: schema.org Recipe as JSON-LD (by itself or inside a page), CSV, Markdown,
//! and the program's own JSON. Text in, text out; nothing is fetched and nothing is written to disk.

mod html;
mod jsonld;
mod markdown;
mod own;
mod plan;
mod sheet;
mod words;

pub use plan::{Clocks, PlanFile, PlanFormat};

use cerealis_core::{
    Tables,
    formula::{Formula, FormulaDraft},
};

/// A format a formula can be written in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Format {
    /// schema.org Recipe as JSON-LD.
    JsonLd,
    /// The program's own JSON, whole and exact.
    Json,
    /// A table of the lines (RFC 4180).
    Csv,
    /// A page to read, in Markdown.
    Markdown,
}

impl Format {
    /// All of them.
    pub const ALL: [Self; 4] = [Self::JsonLd, Self::Json, Self::Csv, Self::Markdown];

    /// The ending of a file.
    #[must_use]
    pub const fn extension(self) -> &'static str {
        match self {
            Self::JsonLd => "jsonld",
            Self::Json => "json",
            Self::Csv => "csv",
            Self::Markdown => "md",
        }
    }

    /// From that ending.
    #[must_use]
    pub fn from_extension(ending: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|f| f.extension() == ending)
    }

    /// Its media type.
    #[must_use]
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::JsonLd => "application/ld+json",
            Self::Json => "application/json",
            Self::Csv => "text/csv; charset=utf-8; header=present",
            Self::Markdown => "text/markdown; charset=utf-8",
        }
    }

    /// What it is good for, in a few words.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::JsonLd => "for other recipe programs",
            Self::Json => "whole and exact, to read back here",
            Self::Csv => "for a spreadsheet",
            Self::Markdown => "to read and to print",
        }
    }

    /// The formula in this format.
    #[must_use]
    pub fn write(self, formula: &Formula, tables: &Tables) -> String {
        match self {
            Self::JsonLd => pretty(&jsonld::write(formula, tables)),
            Self::Json => pretty(&own::write(formula)),
            Self::Csv => sheet::write(formula, tables),
            Self::Markdown => markdown::write(formula, tables),
        }
    }
}

fn pretty(value: &serde_json::Value) -> String {
    format!("{value:#}\n")
}

/// What a text turned out to hold.
#[derive(Debug, Clone, PartialEq)]
pub enum Opened {
    /// A recipe in words, for the reader.
    Recipe(String),
    /// A formula, line by line, still to be checked.
    Formula(Box<FormulaDraft>),
}

/// Opens what was pasted or dropped: JSON-LD, a page that holds it, CSV, the program's own JSON; anything
/// else is a recipe in words.
///
/// # Errors
/// A sentence: JSON that breaks off, a page without a recipe, a table without weights.
pub fn open(text: &str) -> Result<Opened, String> {
    let text = text.trim_start_matches('\u{feff}').trim();
    if text.starts_with(['{', '[']) {
        let value = serde_json::from_str(text)
            .map_err(|e| format!("This begins like JSON but breaks off at line {}. Copy the whole of it.", e.line()))?;
        if let Some(own) = own::read(&value) {
            return own.map(|draft| Opened::Formula(Box::new(draft)));
        }
        return jsonld::recipe_in(&value)
            .map(|r| Opened::Recipe(jsonld::words(r)))
            .ok_or_else(|| "This JSON holds no recipe (schema.org Recipe) and no formula of this program.".to_owned());
    }
    if html::is_page(text) {
        return html::recipe_in(text).map(Opened::Recipe).ok_or_else(|| {
            "This page holds no recipe a program can read (schema.org Recipe). Copy the words of the recipe and paste those.".to_owned()
        });
    }
    if sheet::is_table(text) {
        return sheet::read(text).map(|draft| Opened::Formula(Box::new(draft)));
    }
    Ok(Opened::Recipe(text.to_owned()))
}
