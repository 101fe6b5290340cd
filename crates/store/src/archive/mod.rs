//! Everything a household keeps as one file of JSON, and taking such a file in again.

mod collect;
mod take_in;

use cerealis_core::{
    bake::EventBody,
    formula::FormulaBody,
    kitchen::Kitchen,
    leaven::{JarBody, JarEventBody},
    measure::plain,
    pantry::{OwnIngredient, OwnPan},
    plan::Plan,
};
use jiff::Timestamp;
pub use schemars::Schema;
use schemars::{JsonSchema, SchemaGenerator};
use serde::{Deserialize, Serialize};

pub use collect::collect;
pub use take_in::{Brought, Left, What, take_in};

use crate::{
    StoreError,
    bodies::{EventV1, FormulaV1, JarEventV1, JarV1, KitchenV1, OwnIngredientV1, OwnPanV1, PlanV1, Versioned, said},
};

/// Version of the archive: of what lies round the bodies, which have versions of their own.
pub const VERSION: u32 = 1;

/// What the file says it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub enum Kind {
    /// All that a household keeps.
    #[serde(rename = "cerealis-household")]
    Household,
}

/// All that a household keeps. Instants are RFC 3339, weights grams, temperatures °C.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Archive {
    /// What the file is.
    pub archive: Kind,
    /// Version of the archive.
    pub v: u32,
    /// When it was written.
    pub written: Timestamp,
    /// The kitchen's figures.
    pub kitchen: Option<KitchenRecord>,
    /// Ingredients of the household's own.
    pub ingredients: Vec<IngredientRecord>,
    /// Pans of its own.
    pub pans: Vec<PanRecord>,
    /// Its words for ingredients.
    pub words: Vec<WordRecord>,
    /// Formulas with all their versions.
    pub formulas: Vec<FormulaRecord>,
    /// Bakes with their logs.
    pub bakes: Vec<BakeRecord>,
    /// Jars with theirs.
    pub jars: Vec<JarRecord>,
    /// What stands in the household and cannot be read, as it stands there; it is not taken in.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub unreadable: Vec<UnreadableRecord>,
}

#[derive(Deserialize)]
struct OnlyVersion {
    archive: Kind,
    v: u32,
}

impl Archive {
    /// Reads an archive.
    ///
    /// # Errors
    /// [`StoreError::Foreign`] if it is none; [`StoreError::Newer`] if a newer program wrote it; [`StoreError::Unreadable`] with
    /// the place where it is not as it should be.
    pub fn read(text: &str) -> Result<Self, StoreError> {
        let OnlyVersion { archive: Kind::Household, v } = serde_json::from_str(text).map_err(|_| StoreError::Foreign)?;
        if v > VERSION {
            return Err(StoreError::Newer);
        }
        Ok(serde_json::from_str(text)?)
    }

    /// As it is handed out: sentences in °C and g.
    ///
    /// # Errors
    /// If a figure of it is no number JSON knows.
    pub fn text(&self) -> Result<String, StoreError> {
        Ok(plain(&serde_json::to_string_pretty(self)?).into_owned())
    }
}

/// The kitchen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct KitchenRecord {
    /// Its figures.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<KitchenV1>")]
    pub body: Kitchen,
}

/// An ingredient of the household's own.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct IngredientRecord {
    /// Its id, as formulas name it.
    #[schemars(regex(pattern = ID))]
    pub id: String,
    /// What is told of it.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<OwnIngredientV1>")]
    pub body: OwnIngredient,
}

/// A pan of the household's own.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PanRecord {
    /// Its id.
    #[schemars(regex(pattern = ID))]
    pub id: String,
    /// What is told of it.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<OwnPanV1>")]
    pub body: OwnPan,
}

/// A word of the household's own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WordRecord {
    /// The word as it is said.
    #[schemars(length(min = 1, max = 60))]
    pub said: String,
    /// The ingredient it means.
    #[schemars(regex(pattern = ID))]
    pub ingredient: String,
}

/// A formula.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FormulaRecord {
    /// Its id.
    #[schemars(regex(pattern = ID))]
    pub id: String,
    /// When it was put away.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub retired: Option<Timestamp>,
    /// Its versions, oldest first.
    pub versions: Vec<VersionRecord>,
}

/// A version of a formula.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct VersionRecord {
    /// Its number, from 1.
    #[schemars(range(min = 1))]
    pub version: i32,
    /// When it was saved.
    pub saved: Timestamp,
    /// Its style.
    pub style: String,
    /// Its flour in grams.
    pub flour_g: f64,
    /// The formula.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<FormulaV1>")]
    pub body: FormulaBody,
}

/// A bake.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct BakeRecord {
    /// Its id.
    #[schemars(regex(pattern = ID))]
    pub id: String,
    /// The bread's name.
    pub name: String,
    /// Its style.
    pub style: String,
    /// When it was begun.
    pub made: Timestamp,
    /// The day it shares with other breads.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub day: Option<String>,
    /// The formula as it was.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<FormulaV1>")]
    pub formula: FormulaBody,
    /// The plan as it was.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<PlanV1>")]
    pub plan: Plan,
    /// Its log.
    pub log: Vec<EventRecord>,
}

/// An entry in the log of a bake.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct EventRecord {
    /// Its number, from 1.
    #[schemars(range(min = 1))]
    pub seq: i32,
    /// When it happened.
    pub at: Timestamp,
    /// What happened, and what it carries.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<EventV1>")]
    pub body: EventBody,
    /// The key it was sent with.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(length(max = 200))]
    pub key: Option<String>,
}

/// A jar.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct JarRecord {
    /// Its id.
    #[schemars(regex(pattern = ID))]
    pub id: String,
    /// Since when it is kept.
    pub made: Timestamp,
    /// When it was put away.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub retired: Option<Timestamp>,
    /// What it is.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<JarV1>")]
    pub body: JarBody,
    /// Its log.
    pub log: Vec<JarEventRecord>,
}

/// An entry in the log of a jar.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct JarEventRecord {
    /// Its number, from 1.
    #[schemars(range(min = 1))]
    pub seq: i32,
    /// When it happened.
    pub at: Timestamp,
    /// What happened.
    #[serde(with = "said")]
    #[schemars(with = "Versioned<JarEventV1>")]
    pub body: JarEventBody,
    /// The key it was sent with.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(length(max = 200))]
    pub key: Option<String>,
}

/// A row that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct UnreadableRecord {
    /// Table and row.
    pub of: String,
    /// As it stands there.
    pub text: String,
    /// What is wrong with it.
    pub why: String,
}

/// Ids are the program's own: words of small letters, digits and hyphens. The longest are those of the household's own things, whose
/// names may have eighty letters of any script.
pub const ID: &str = "^[a-z0-9](?:[a-z0-9-]{0,499})$";
const LONGEST_ID: usize = 500;

/// Whether a word can be an id.
#[must_use]
pub fn is_id(word: &str) -> bool {
    let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit();
    word.len() <= LONGEST_ID && word.starts_with(plain) && word.chars().all(|c| plain(c) || c == '-')
}

/// The schema of an archive (JSON Schema 2020-12).
#[must_use]
pub fn schema() -> Schema {
    SchemaGenerator::default().into_root_schema_for::<Archive>()
}
