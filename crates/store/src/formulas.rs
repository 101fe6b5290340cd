//! Formulas: every version is kept, nothing is overwritten.

use std::collections::HashMap;

use cerealis_core::formula::FormulaBody;
use diesel::{
    alias,
    dsl::{exists, max, not},
    prelude::*,
    sql_types::Text,
    sqlite::Sqlite,
};
use jiff::Timestamp;

use crate::{
    Listed, StoreError, bodies,
    schema::{formula_versions, formulas},
};

/// A version of a formula, as it is kept.
#[derive(Debug, Clone, PartialEq)]
pub struct Kept {
    /// Id of the formula.
    pub id: String,
    /// Version, from 1.
    pub version: i32,
    /// The formula itself.
    pub body: FormulaBody,
    /// When it was saved.
    pub saved: Timestamp,
    /// Its style.
    pub style: String,
    /// Its flour in grams.
    pub flour_g: f64,
}

/// What is saved beside the body, for lists and searching.
#[derive(Debug, Clone, PartialEq)]
pub struct Beside {
    /// Style.
    pub style: String,
    /// Flour in grams.
    pub flour_g: f64,
    /// Now.
    pub now: Timestamp,
}

type Row = (String, i32, String, i64, String, f64);

fn kept((id, version, body, saved_ms, style, flour_g): Row) -> Result<Kept, StoreError> {
    let saved = Timestamp::from_millisecond(saved_ms).map_err(|e| StoreError::Unreadable(e.to_string()))?;
    Ok(Kept { id, version, body: bodies::read(&body)?, saved, style, flour_g })
}

/// The name a formula is listed by.
pub(crate) fn name_of(body: &FormulaBody) -> &str {
    body.name.as_deref().unwrap_or("Unnamed bread")
}

/// Saves a formula: the first version of a new one, or the next of one that is there. Gives the version.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn save(db: &mut SqliteConnection, id: &str, body: &FormulaBody, beside: &Beside) -> Result<i32, StoreError> {
    let name = name_of(body);
    db.immediate_transaction(|db| {
        let there: i64 = formulas::table.filter(formulas::id.eq(id)).count().get_result(db)?;
        if there == 0 {
            diesel::insert_into(formulas::table).values((formulas::id.eq(id), formulas::name.eq(name))).execute(db)?;
        } else {
            diesel::update(formulas::table.find(id)).set(formulas::name.eq(name)).execute(db)?;
        }
        let last: Option<i32> =
            formula_versions::table.filter(formula_versions::formula_id.eq(id)).select(max(formula_versions::version)).first(db)?;
        let version = last.unwrap_or(0) + 1;
        write_version(db, id, version, body, beside)?;
        Ok(version)
    })
}

/// Writes a version under its number.
pub(crate) fn write_version(
    db: &mut SqliteConnection,
    id: &str,
    version: i32,
    body: &FormulaBody,
    beside: &Beside,
) -> Result<(), StoreError> {
    let row = (
        formula_versions::formula_id.eq(id),
        formula_versions::version.eq(version),
        formula_versions::body.eq(bodies::write(body)?),
        formula_versions::saved_ms.eq(beside.now.as_millisecond()),
        formula_versions::style.eq(&beside.style),
        formula_versions::flour_g.eq(beside.flour_g),
    );
    diesel::insert_into(formula_versions::table).values(row).execute(db)?;
    Ok(())
}

/// The newest version of a formula.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn newest(db: &mut SqliteConnection, id: &str) -> Result<Kept, StoreError> {
    let row: Row = formula_versions::table.filter(formula_versions::formula_id.eq(id)).order(formula_versions::version.desc()).first(db)?;
    kept(row)
}

/// One version of a formula.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none.
pub fn version(db: &mut SqliteConnection, id: &str, version: i32) -> Result<Kept, StoreError> {
    let row: Row = formula_versions::table.find((id, version)).first(db)?;
    kept(row)
}

/// Every version of a formula, newest first.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn versions(db: &mut SqliteConnection, id: &str) -> Result<Vec<Kept>, StoreError> {
    let rows: Vec<Row> =
        formula_versions::table.filter(formula_versions::formula_id.eq(id)).order(formula_versions::version.desc()).limit(500).load(db)?;
    if rows.is_empty() { Err(StoreError::NotFound) } else { rows.into_iter().map(kept).collect() }
}

/// Puts a formula away, or takes it out again: it leaves the list, its versions and its bakes stay.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn retire(db: &mut SqliteConnection, id: &str, at: Option<Timestamp>) -> Result<(), StoreError> {
    let changed = diesel::update(formulas::table.find(id)).set(formulas::retired_ms.eq(at.map(Timestamp::as_millisecond))).execute(db)?;
    if changed == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// Whether a formula is put away.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn is_retired(db: &mut SqliteConnection, id: &str) -> Result<bool, StoreError> {
    let at: Option<i64> = formulas::table.find(id).select(formulas::retired_ms).first(db)?;
    Ok(at.is_some())
}

/// Whether there is a formula with this id.
///
/// # Errors
/// If the database does not answer.
pub fn is_there(db: &mut SqliteConnection, id: &str) -> Result<bool, StoreError> {
    Ok(diesel::select(exists(formulas::table.find(id))).get_result(db)?)
}

/// Which formulas are listed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Which {
    /// Those in use.
    InUse,
    /// Those put away.
    Retired,
}

const MOST_VALUES: usize = 10_000;

/// Formulas of one page.
pub const PAGE: i64 = 100;

/// The newest version of every formula in use, by name.
///
/// # Errors
/// If the database does not answer.
pub fn list(db: &mut SqliteConnection) -> Result<Listed<Kept>, StoreError> {
    listed(db, Which::InUse)
}

/// The newest version of every formula of a kind, by name.
///
/// # Errors
/// If the database does not answer.
pub fn listed(db: &mut SqliteConnection, which: Which) -> Result<Listed<Kept>, StoreError> {
    let named = by_name(which).load(db)?;
    newest_of(db, named)
}

/// One page of them, counted from 1, and how many there are on all pages.
///
/// # Errors
/// If the database does not answer.
pub fn page(db: &mut SqliteConnection, which: Which, number: i64) -> Result<(Listed<Kept>, i64), StoreError> {
    let all = match which {
        Which::InUse => formulas::table.filter(formulas::retired_ms.is_null()).count().get_result(db)?,
        Which::Retired => formulas::table.filter(formulas::retired_ms.is_not_null()).count().get_result(db)?,
    };
    // First which they are: a version is some kilobytes, a name a few bytes.
    let named = by_name(which).limit(PAGE).offset((number.max(1) - 1).saturating_mul(PAGE)).load(db)?;
    Ok((newest_of(db, named)?, all))
}

/// One page of those that answer to a word, by name, and how many do.
///
/// # Errors
/// If the database does not answer.
pub fn found(db: &mut SqliteConnection, which: Which, number: i64, word: &str) -> Result<(Listed<Kept>, i64), StoreError> {
    if word.trim().is_empty() {
        return page(db, which, number);
    }
    let mut listed = listed(db, which)?;
    listed.rows.retain(|k| k.body.answers_to(word, &k.style));
    let all = i64::try_from(listed.rows.len()).unwrap_or(i64::MAX);
    let (skip, most) = ((number.max(1) - 1).saturating_mul(PAGE), usize::try_from(PAGE).unwrap_or(0));
    listed.rows = listed.rows.into_iter().skip(usize::try_from(skip).unwrap_or(usize::MAX)).take(most).collect();
    Ok((listed, all))
}

type ByName = formulas::BoxedQuery<'static, Sqlite, (Text, Text)>;

fn by_name(which: Which) -> ByName {
    let named = formulas::table.select((formulas::id, formulas::name)).order((formulas::name.asc(), formulas::id.asc())).into_boxed();
    match which {
        Which::InUse => named.filter(formulas::retired_ms.is_null()),
        Which::Retired => named.filter(formulas::retired_ms.is_not_null()),
    }
}

/// The newest versions of formulas, in their order.
fn newest_of(db: &mut SqliteConnection, named: Vec<(String, String)>) -> Result<Listed<Kept>, StoreError> {
    let newer = alias!(formula_versions as newer);
    let is_newer = newer
        .filter(newer.field(formula_versions::formula_id).eq(formula_versions::formula_id))
        .filter(newer.field(formula_versions::version).gt(formula_versions::version));
    let mut rows = HashMap::with_capacity(named.len());
    // A query takes some thousand values at most.
    for some in named.chunks(MOST_VALUES) {
        let of_these = formula_versions::table.filter(formula_versions::formula_id.eq_any(some.iter().map(|(id, _)| id)));
        let newest: Vec<Row> = of_these.filter(not(exists(is_newer))).load(db)?;
        rows.extend(newest.into_iter().map(|row| (row.0.clone(), row)));
    }
    let newest = named.into_iter().filter_map(|(id, name)| Some((name, rows.remove(&id)?))).collect();
    Ok(Listed::of(newest, |(name, _)| name.clone(), |(_, row)| kept(row)))
}
