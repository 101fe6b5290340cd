//! What stands on the shelf: ingredients with composition, densities, allergens; flours by kind;
//! kitchen measures. Read once from the project's own tables, each row with its source.

mod allergens;
mod fold;
mod ingredient;
mod names;
mod own;
mod own_word;
mod pans;
mod phrases;
mod units;

pub use allergens::{ALLERGENS, read_allergen};
pub(crate) use fold::push_plain;
pub use fold::{fold, stem};
pub use ingredient::{Added, Fact, Family, Gluten, Ingredient, PieceWeight, YeastKind};
pub use names::{NameOf, Near, Synonym};
pub use own::{OwnIngredient, OwnPan, Shelf, likenesses};
pub use own_word::OwnWord;
pub use pans::{Inside, Pan, PanShape};
pub use phrases::{Languages, Phrases, Vocabulary, words_of};
pub use units::{MeasureKind, MeasureWord, Measures};

use std::{collections::HashMap, sync::Arc};

const INGREDIENTS: &str = include_str!("../../data/ingredients.csv");
const FLOURS: &str = include_str!("../../data/flours.csv");
const YEASTS: &str = include_str!("../../data/yeasts.csv");
const MEASURES: &str = include_str!("../../data/measures.csv");
const MEASURE_WORDS: &str = include_str!("../../data/measures_words.csv");
const SYNONYMS: &str = include_str!("../../data/synonyms.csv");

/// A table that does not hold together: which file, which row, which field.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{file}, row {row}: {what}")]
pub struct TableError {
    /// File name.
    pub file: &'static str,
    /// Row, by its id or number.
    pub row: String,
    /// What is wrong with it.
    pub what: String,
}

/// What the models need to know of a flour beside its composition.
#[derive(Debug, Clone, PartialEq)]
pub struct FlourKind {
    /// Class of `fermentation.json`: `strong-white`, `plain-white`, …
    pub gas_class: &'static str,
    /// Points of water this flour takes more or less than a white bread flour.
    pub absorption_points: f64,
    /// Source of the row.
    pub source: String,
}

/// The pantry: everything that can stand in a formula.
#[derive(Debug, Clone)]
pub struct Pantry {
    ingredients: Vec<Arc<Ingredient>>,
    by_id: HashMap<String, usize>,
    names: names::NameIndex,
    flours: HashMap<String, FlourKind>,
    yeast_equivalents: HashMap<YeastKind, f64>,
    yeast_packs: Vec<YeastPack>,
    pans: Vec<Arc<Pan>>,
    /// Further names, beside those of the rows.
    synonyms: Arc<[Synonym]>,
    /// Own ingredients that are no longer offered, by their place.
    away: Vec<usize>,
    /// Kitchen measures and their words.
    pub measures: Measures,
}

impl Pantry {
    /// Reads the built-in tables.
    ///
    /// # Errors
    /// [`TableError`] naming file, row and field.
    pub fn built_in() -> Result<Self, TableError> {
        let ingredients: Vec<Arc<Ingredient>> = ingredient::read(INGREDIENTS)?.into_iter().map(Arc::new).collect();
        let by_id = ingredients.iter().enumerate().map(|(i, x)| (x.id.clone(), i)).collect();
        let synonyms: Arc<[Synonym]> = read_synonyms(&ingredients)?.into();
        let names = names::NameIndex::new(&ingredients, 0..ingredients.len(), &[], &synonyms);
        let flours = read_flours(&ingredients)?;
        let (yeast_equivalents, yeast_packs) = read_yeasts()?;
        Ok(Self {
            by_id,
            names,
            flours,
            yeast_equivalents,
            yeast_packs,
            pans: pans::read()?.into_iter().map(Arc::new).collect(),
            measures: Measures::read(MEASURES, MEASURE_WORDS)?,
            synonyms,
            away: Vec::new(),
            ingredients,
        })
    }

    /// All ingredients, in the order of the table.
    #[must_use]
    pub fn all(&self) -> &[Arc<Ingredient>] {
        &self.ingredients
    }

    /// Those that are offered: all but what the household has put away.
    pub fn offered(&self) -> impl Iterator<Item = &Arc<Ingredient>> {
        self.ingredients.iter().enumerate().filter(|(i, _)| !self.away.contains(i)).map(|(_, row)| row)
    }

    /// By its id.
    #[must_use]
    pub fn get(&self, id: &str) -> Option<&Arc<Ingredient>> {
        self.by_id.get(id).and_then(|&i| self.ingredients.get(i))
    }

    /// This pantry with one word more for an ingredient.
    #[must_use]
    pub fn with_word(&self, own: &OwnWord) -> Self {
        let mut pantry = self.clone();
        if let Some(at) = self.by_id.get(&own.ingredient) {
            pantry.names.add_own(&own.word, *at);
        }
        pantry
    }

    /// Every further name, with its language.
    #[must_use]
    pub fn synonyms(&self) -> &[Synonym] {
        &self.synonyms
    }

    /// Further names of an ingredient, beside those of its row.
    pub fn further_names<'a>(&'a self, id: &'a str) -> impl Iterator<Item = &'a str> {
        self.synonyms.iter().filter(move |s| s.id == id).map(|s| s.name.as_str())
    }

    /// By id, name or synonym, as someone typed it.
    ///
    /// # Errors
    /// The nearest names, for a sentence.
    pub fn find(&self, typed: &str) -> Result<&Arc<Ingredient>, Near> {
        let typed = typed.trim();
        self.get(typed)
            .or_else(|| self.names.exact(typed).and_then(|i| self.ingredients.get(i)))
            .ok_or_else(|| self.names.near(typed, &self.ingredients))
    }

    /// The numbers of the stems its names are made of.
    #[must_use]
    pub const fn stems(&self) -> &Vocabulary {
        &self.names.stems
    }

    /// One stem further into the names.
    #[must_use]
    pub fn name_step(&self, node: u32, stem: u32) -> Option<u32> {
        self.names.step(node, stem)
    }

    /// What the names that end there stand for.
    #[must_use]
    pub fn names_at(&self, node: u32) -> &[NameOf] {
        self.names.ends(node)
    }

    /// The ingredient whose name is one letter off a folded word.
    #[must_use]
    pub fn one_letter_off(&self, folded: &str) -> Option<&Arc<Ingredient>> {
        self.names.one_letter_off(folded).and_then(|i| self.ingredients.get(i))
    }

    /// The ingredient at a place of the list.
    #[must_use]
    pub fn at(&self, place: usize) -> Option<&Arc<Ingredient>> {
        self.ingredients.get(place)
    }

    /// The rows a search word finds, nearest first.
    #[must_use]
    pub fn search(&self, typed: &str, most: usize) -> Vec<&Arc<Ingredient>> {
        self.names.search(typed, most).into_iter().filter_map(|i| self.ingredients.get(i)).collect()
    }

    /// Pans and tins that are offered: the household's own, then the table's.
    pub fn pans(&self) -> impl Iterator<Item = &Arc<Pan>> {
        let offered = |own: bool| self.pans.iter().filter(move |p| p.is_own == own && !p.away);
        offered(true).chain(offered(false))
    }

    /// A pan by its id.
    #[must_use]
    pub fn pan(&self, id: &str) -> Option<&Arc<Pan>> {
        self.pans.iter().find(|p| p.id == id)
    }

    /// The kind of a flour, if its row says so.
    #[must_use]
    pub fn flour_kind(&self, id: &str) -> Option<&FlourKind> {
        self.flours.get(id)
    }

    /// Grams of the cube or sachet of this yeast as the shops of a country sell it.
    #[must_use]
    pub fn yeast_pack(&self, kind: YeastKind, form: &str, country: &str) -> Option<f64> {
        let sold = |p: &&YeastPack| p.kind == kind && p.form == form && p.countries.iter().any(|c| c == country);
        self.yeast_packs.iter().find(sold).map(|p| p.grams)
    }

    /// Grams of instant yeast that raise as much as one gram of this kind.
    #[must_use]
    pub fn instant_equivalent(&self, kind: YeastKind) -> f64 {
        self.yeast_equivalents.get(&kind).copied().unwrap_or(0.0)
    }
}

/// Reads a number of a table; an empty field is nothing.
pub(crate) fn field_number(file: &'static str, row: &str, name: &str, text: &str) -> Result<Option<f64>, TableError> {
    if text.is_empty() {
        return Ok(None);
    }
    match text.parse::<f64>() {
        Ok(value) if value.is_finite() => Ok(Some(value)),
        _ => Err(TableError { file, row: row.to_owned(), what: format!("{name} is “{text}”, no number") }),
    }
}

#[derive(serde::Deserialize)]
struct SynonymRow {
    id: String,
    synonym: String,
    language: String,
    note: String,
}

fn read_synonyms(ingredients: &[Arc<Ingredient>]) -> Result<Vec<Synonym>, TableError> {
    const FILE: &str = "synonyms.csv";
    let mut synonyms = Vec::new();
    for row in csv::Reader::from_reader(SYNONYMS.as_bytes()).deserialize() {
        let r: SynonymRow = row.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
        if !ingredients.iter().any(|i| i.id == r.id) {
            return Err(TableError { file: FILE, row: r.synonym, what: format!("no ingredient {}", r.id) });
        }
        // `all of the tangzhong` names what is listed already; the reader's own words say so.
        if r.note.contains("add nothing") {
            continue;
        }
        let weak = r.note.starts_with("ambiguous") || r.note.contains("only beside") || r.note.contains("only after");
        synonyms.push(Synonym { id: r.id, name: r.synonym, languages: Languages::of(&r.language), weak });
    }
    Ok(synonyms)
}

#[derive(serde::Deserialize)]
struct FlourRow {
    id: String,
    ingredient_id: String,
    ash_low_pct: String,
    ash_high_pct: String,
    absorption_points: String,
    gluten_class: String,
    gas_retention_class: String,
    source_behaviour: String,
}

/// The gas class of a flour row, by the rule of `docs/science.md` (the rise): retention high →
/// strong, good or medium → plain, lower → spelt; whole wheat and rye by their ash.
fn gas_class(row: &FlourRow, ash: Option<f64>) -> &'static str {
    let ash = ash.unwrap_or(0.55);
    let whole = ash > 1.2;
    if row.ingredient_id.starts_with("rye") {
        return if whole { "wholegrain-rye" } else { "light-rye" };
    }
    if row.gluten_class == "none-gf" {
        return "gluten-free";
    }
    if whole && row.ingredient_id.starts_with("wheat") {
        return "wholegrain-wheat";
    }
    match row.gas_retention_class.as_str() {
        "high" => "strong-white",
        "good" | "medium" => "plain-white",
        "needs-gum" | "starch" => "gluten-free",
        _ => "spelt",
    }
}

fn read_flours(ingredients: &[Arc<Ingredient>]) -> Result<HashMap<String, FlourKind>, TableError> {
    const FILE: &str = "flours.csv";
    let mut kinds = HashMap::new();
    for row in csv::Reader::from_reader(FLOURS.as_bytes()).deserialize() {
        let row: FlourRow = row.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
        if !ingredients.iter().any(|i| i.id == row.ingredient_id) {
            return Err(TableError { file: FILE, row: row.id, what: format!("no ingredient {}", row.ingredient_id) });
        }
        let low = field_number(FILE, &row.id, "ash_low_pct", &row.ash_low_pct)?;
        let high = field_number(FILE, &row.id, "ash_high_pct", &row.ash_high_pct)?;
        let points = field_number(FILE, &row.id, "absorption_points", &row.absorption_points)?.unwrap_or(0.0);
        let ash = low.zip(high).map(|(l, h)| f64::midpoint(l, h));
        let kind = FlourKind { gas_class: gas_class(&row, ash), absorption_points: points, source: row.source_behaviour };
        kinds.entry(row.ingredient_id).or_insert(kind);
    }
    Ok(kinds)
}

/// A pack of yeast as a country's shops sell it.
#[derive(Debug, Clone, PartialEq)]
struct YeastPack {
    kind: YeastKind,
    /// `cube` or `sachet`.
    form: &'static str,
    countries: Vec<String>,
    grams: f64,
}

#[derive(serde::Deserialize)]
struct YeastRow {
    id: String,
    kind: String,
    country: String,
    pack_g: String,
    instant_equivalent_per_g: String,
}

/// Grams of instant yeast that raise as much as one gram of each kind.
pub(crate) fn instant_equivalents() -> Result<HashMap<YeastKind, f64>, TableError> {
    Ok(read_yeasts()?.0)
}

fn read_yeasts() -> Result<(HashMap<YeastKind, f64>, Vec<YeastPack>), TableError> {
    const FILE: &str = "yeasts.csv";
    let mut equivalents: HashMap<YeastKind, f64> = HashMap::new();
    let mut packs = Vec::new();
    for row in csv::Reader::from_reader(YEASTS.as_bytes()).deserialize() {
        let row: YeastRow = row.map_err(|e| TableError { file: FILE, row: "?".into(), what: e.to_string() })?;
        let value = field_number(FILE, &row.id, "instant_equivalent_per_g", &row.instant_equivalent_per_g)?;
        if let (Some(kind), Some(value)) = (YeastKind::from_word(&row.kind), value)
            && equivalents.insert(kind, value).is_some_and(|told| told != value)
        {
            return Err(TableError { file: FILE, row: row.id, what: format!("{} raises otherwise in another row", row.kind) });
        }
        if let (Some(kind), Some(grams)) = (YeastKind::from_word(&row.kind), field_number(FILE, &row.id, "pack_g", &row.pack_g)?) {
            let form = if row.id.contains("cube") || row.id.contains("cake") { "cube" } else { "sachet" };
            packs.push(YeastPack { kind, form, countries: row.country.split(", ").map(str::to_owned).collect(), grams });
        }
    }
    Ok((equivalents, packs))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_row_of_the_tables_holds_together() {
        let pantry = Pantry::built_in().unwrap();
        assert!(pantry.all().len() >= 70, "{}", pantry.all().len());
        for i in pantry.all() {
            assert_eq!(i.check(), Ok(()), "{}", i.id);
            assert_eq!(i.kind, i.id);
            assert_eq!(pantry.find(&i.name).unwrap().id, i.id, "its own name must find it");
        }
    }

    #[test]
    fn flours_know_how_they_hold_gas() {
        let pantry = Pantry::built_in().unwrap();
        let class = |id: &str| pantry.flour_kind(id).unwrap().gas_class;
        assert_eq!(class("wheat-ap"), "plain-white");
        assert_eq!(class("wheat-whole"), "wholegrain-wheat");
        assert_eq!(class("rye-light"), "light-rye");
        assert_eq!(class("rye-dark"), "wholegrain-rye");
        assert_eq!(class("rice-flour-white"), "gluten-free");
        assert_eq!(class("wheat-bread"), "strong-white");
    }

    #[test]
    fn a_misspelt_name_is_answered_with_near_ones() {
        let pantry = Pantry::built_in().unwrap();
        let near = pantry.find("whaet-bread").unwrap_err();
        assert!(near.to_string().contains("Did you mean"), "{near}");
        assert_eq!(pantry.find("Plain Flour").unwrap().id, "wheat-ap");
        assert_eq!(pantry.find("farine de blé").unwrap().id, "wheat-ap");
    }
}
