//! Bakes and their logs. The log only grows: triggers refuse anything else.

use std::collections::HashMap;

use cerealis_core::{
    bake::{Event, EventBody, EventKind, NewEvent},
    formula::FormulaBody,
    plan::Plan,
};
use diesel::{
    dsl::{exists, max},
    prelude::*,
};
use jiff::Timestamp;

use crate::{
    Listed, StoreError, bodies,
    listed::UNREADABLE_ENTRY,
    schema::{bake_events, bakes},
};

/// A bake as it is kept, without its log.
#[derive(Debug, Clone, PartialEq)]
pub struct Kept {
    /// Its id.
    pub id: String,
    /// The bread's name.
    pub name: String,
    /// Style.
    pub style: String,
    /// The formula it used, as it was.
    pub formula: FormulaBody,
    /// The plan as it was made.
    pub plan: Plan,
    /// When it was begun.
    pub made: Timestamp,
    /// The day it shares with other breads, where they were planned together.
    pub day: Option<String>,
}

type Row = (String, String, String, String, String, i64, Option<String>, bool);

fn kept((id, name, style, formula, plan, made_ms, day, _closed): Row) -> Result<Kept, StoreError> {
    Ok(Kept { id, name, style, formula: bodies::read(&formula)?, plan: bodies::read(&plan)?, made: instant(made_ms)?, day })
}

fn listed(rows: Vec<Row>) -> Listed<Kept> {
    Listed::of(rows, |row| row.1.clone(), kept)
}

fn instant(ms: i64) -> Result<Timestamp, StoreError> {
    Timestamp::from_millisecond(ms).map_err(|e| StoreError::Unreadable(e.to_string()))
}

/// Keeps a new bake.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn begin(db: &mut SqliteConnection, bake: &Kept) -> Result<(), StoreError> {
    begin_all(db, std::slice::from_ref(bake))
}

/// Keeps new bakes, all of them or none.
///
/// # Errors
/// [`StoreError::Failed`] if they could not be written.
pub fn begin_all(db: &mut SqliteConnection, all: &[Kept]) -> Result<(), StoreError> {
    db.immediate_transaction(|db| all.iter().try_for_each(|bake| insert(db, bake)))
}

pub(crate) fn insert(db: &mut SqliteConnection, bake: &Kept) -> Result<(), StoreError> {
    let row = (
        bakes::id.eq(&bake.id),
        bakes::name.eq(&bake.name),
        bakes::style.eq(&bake.style),
        bakes::formula.eq(bodies::write(&bake.formula)?),
        bakes::plan.eq(bodies::write(&bake.plan)?),
        bakes::made_ms.eq(bake.made.as_millisecond()),
        bakes::day.eq(&bake.day),
    );
    diesel::insert_into(bakes::table).values(row).execute(db)?;
    Ok(())
}

/// The bakes of a day, in the order they were planned.
///
/// # Errors
/// If the database does not answer.
pub fn of_day(db: &mut SqliteConnection, day: &str) -> Result<Listed<Kept>, StoreError> {
    let rows: Vec<Row> = bakes::table.filter(bakes::day.eq(day)).order(bakes::id.asc()).limit(PAGE).load(db)?;
    Ok(listed(rows))
}

/// Takes back a bake of which nothing was noted yet; whether it was.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn take_back(db: &mut SqliteConnection, id: &str) -> Result<bool, StoreError> {
    db.immediate_transaction(|db| {
        let noted: i64 = bake_events::table.filter(bake_events::bake_id.eq(id)).count().get_result(db)?;
        if noted > 0 {
            return Ok(false);
        }
        if diesel::delete(bakes::table.find(id)).execute(db)? == 0 { Err(StoreError::NotFound) } else { Ok(true) }
    })
}

/// A bake.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn get(db: &mut SqliteConnection, id: &str) -> Result<Kept, StoreError> {
    kept(bakes::table.find(id).first::<Row>(db)?)
}

/// What to look for in the logbook.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Search {
    /// Part of the name.
    pub name: Option<String>,
    /// Style.
    pub style: Option<String>,
    /// Begun from.
    pub from: Option<Timestamp>,
    /// Begun until.
    pub to: Option<Timestamp>,
    /// Only bakes whose log has a slicing, or only those that may still be going on: without one, or
    /// with something taken back.
    pub sliced: Option<bool>,
    /// Page, from 1.
    pub page: i64,
    /// Rows on it; [`PAGE`] if not given.
    pub rows: Option<i64>,
}

/// Rows on a page where no other count is asked for.
pub const PAGE: i64 = 100;

type Query<'q> = bakes::BoxedQuery<'q, diesel::sqlite::Sqlite>;

fn query(search: &Search) -> Query<'static> {
    let mut q = bakes::table.into_boxed();
    if let Some(name) = &search.name {
        let pattern = format!("%{}%", name.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_"));
        q = q.filter(bakes::name.like(pattern).escape('\\'));
    }
    q = match search.sliced {
        Some(true) => q.filter(exists(
            bake_events::table.filter(bake_events::bake_id.eq(bakes::id)).filter(bake_events::kind.eq(EventKind::Sliced.word())),
        )),
        Some(false) => q.filter(bakes::closed.eq(false)),
        None => q,
    };
    if let Some(style) = &search.style {
        q = q.filter(bakes::style.eq(style.clone()));
    }
    if let Some(from) = search.from {
        q = q.filter(bakes::made_ms.ge(from.as_millisecond()));
    }
    if let Some(to) = search.to {
        q = q.filter(bakes::made_ms.le(to.as_millisecond()));
    }
    q
}

/// Bakes that fit, newest first.
///
/// # Errors
/// If the database does not answer.
pub fn list(db: &mut SqliteConnection, search: &Search) -> Result<Listed<Kept>, StoreError> {
    let rows = search.rows.unwrap_or(PAGE);
    let order = (bakes::made_ms.desc(), bakes::id.desc());
    // First which they are: a bake is some kilobytes, its place in the order a few bytes.
    let ids: Vec<String> =
        query(search).order(order).limit(rows).offset((search.page.max(1) - 1).saturating_mul(rows)).select(bakes::id).load(db)?;
    let rows: Vec<Row> = bakes::table.filter(bakes::id.eq_any(ids)).order(order).load(db)?;
    Ok(listed(rows))
}

/// How many bakes fit, on all pages.
///
/// # Errors
/// If the database does not answer.
pub fn count(db: &mut SqliteConnection, search: &Search) -> Result<i64, StoreError> {
    Ok(query(search).count().get_result(db)?)
}

/// The latest bakes on which a kind of event was noted, each with its log; one that cannot be read is left out.
///
/// # Errors
/// If the database does not answer.
pub fn with_event(db: &mut SqliteConnection, kind: EventKind, rows: i64) -> Result<Vec<(Kept, Vec<Event>)>, StoreError> {
    let noted = bake_events::table.filter(bake_events::kind.eq(kind.word())).select(bake_events::bake_id);
    let rows: Vec<Row> = bakes::table.filter(bakes::id.eq_any(noted)).order(bakes::made_ms.desc()).limit(rows).load(db)?;
    let bakes = listed(rows).rows;
    let mut logs = logs(db, &bakes.iter().map(|b| b.id.as_str()).collect::<Vec<_>>())?;
    Ok(bakes.into_iter().filter_map(|bake| logs.remove(&bake.id).map(|log| (bake, log))).collect())
}

/// The log of a bake, in the order it was written.
///
/// # Errors
/// If the database does not answer, or a row cannot be read.
pub fn log(db: &mut SqliteConnection, bake: &str) -> Result<Vec<Event>, StoreError> {
    Ok(logs(db, &[bake])?.remove(bake).unwrap_or_default())
}

/// The logs of several bakes, each in the order it was written, by one query. An entry that cannot be read is a note that
/// says so: the others stand.
///
/// # Errors
/// If the database does not answer, or a row cannot be read.
pub fn logs(db: &mut SqliteConnection, bakes: &[&str]) -> Result<HashMap<String, Vec<Event>>, StoreError> {
    let rows: Vec<(String, i32, i64, String, String)> = bake_events::table
        .filter(bake_events::bake_id.eq_any(bakes))
        .order(bake_events::seq.asc())
        .select((bake_events::bake_id, bake_events::seq, bake_events::at_ms, bake_events::kind, bake_events::body))
        .load(db)?;
    let mut logs: HashMap<String, Vec<Event>> = HashMap::new();
    for (bake, seq, at_ms, kind, body) in rows {
        let at = instant(at_ms)?;
        let known = EventKind::from_word(&kind).ok_or_else(|| StoreError::Unreadable(format!("event {kind}")));
        let event = known.and_then(|kind| Ok(NewEvent { kind, at, body: bodies::read(&body)? }));
        logs.entry(bake).or_default().push(Event { seq, event: event.unwrap_or_else(|_| unreadable(at)) });
    }
    Ok(logs)
}

fn unreadable(at: Timestamp) -> NewEvent {
    let body = EventBody { kind: EventKind::Note.word().to_owned(), note: Some(UNREADABLE_ENTRY.to_owned()), ..EventBody::default() };
    NewEvent { kind: EventKind::Note, at, body }
}

/// Appends one event and gives its number, counted from 1. On `Ok` it is on disk.
///
/// A second call with the same `key` appends nothing and gives the first number: a phone that lost
/// the answer may send again.
///
/// # Errors
/// [`StoreError::NotFound`] if there is no such bake; [`StoreError::Conflict`] for an `undo` the log forbids.
pub fn append(db: &mut SqliteConnection, bake: &str, new: &NewEvent, key: Option<&str>) -> Result<i32, StoreError> {
    db.immediate_transaction(|db| {
        let there: i64 = bakes::table.filter(bakes::id.eq(bake)).count().get_result(db)?;
        if there == 0 {
            return Err(StoreError::NotFound);
        }
        let mine = bake_events::table.filter(bake_events::bake_id.eq(bake));
        if let Some(key) = key {
            let seen = mine.filter(bake_events::idempotency_key.eq(key)).select(bake_events::seq);
            if let Some(seq) = seen.first(db).optional()? {
                return Ok(seq);
            }
        }
        if new.kind == EventKind::Undo
            && let Some(why) = new.conflict(&log(db, bake)?)
        {
            return Err(StoreError::Conflict(why));
        }
        let last: Option<i32> = mine.select(max(bake_events::seq)).first(db)?;
        let seq = last.unwrap_or(0) + 1;
        write_entry(db, bake, seq, new, key)?;
        Ok(seq)
    })
}

/// Writes an entry under its number.
pub(crate) fn write_entry(db: &mut SqliteConnection, bake: &str, seq: i32, new: &NewEvent, key: Option<&str>) -> Result<(), StoreError> {
    let row = (
        bake_events::bake_id.eq(bake),
        bake_events::seq.eq(seq),
        bake_events::at_ms.eq(new.at.as_millisecond()),
        bake_events::kind.eq(new.kind.word()),
        bake_events::body.eq(bodies::write(&new.body)?),
        bake_events::idempotency_key.eq(key),
    );
    diesel::insert_into(bake_events::table).values(row).execute(db)?;
    Ok(())
}
