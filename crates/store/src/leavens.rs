//! The jars of the house and their logs. The log only grows: triggers refuse anything else.

use cerealis_core::leaven::{JarBody, JarEvent, JarEventBody, JarEventKind, NewJarEvent};
use diesel::{dsl::max, prelude::*};
use jiff::Timestamp;

use crate::{
    Listed, StoreError, bodies,
    listed::UNREADABLE_ENTRY,
    schema::{leaven_events, leavens},
};

/// A jar as it is kept.
#[derive(Debug, Clone, PartialEq)]
pub struct KeptJar {
    /// Its id.
    pub id: String,
    /// What it is.
    pub jar: JarBody,
}

/// Keeps a new jar.
///
/// # Errors
/// [`StoreError::Failed`] if it could not be written.
pub fn add(db: &mut SqliteConnection, id: &str, jar: &JarBody, made: Timestamp) -> Result<(), StoreError> {
    db.immediate_transaction(|db| write(db, id, jar, made, None))
}

/// Writes a jar.
pub(crate) fn write(
    db: &mut SqliteConnection,
    id: &str,
    jar: &JarBody,
    made: Timestamp,
    retired: Option<Timestamp>,
) -> Result<(), StoreError> {
    let row = (
        leavens::id.eq(id),
        leavens::body.eq(bodies::write(jar)?),
        leavens::made_ms.eq(made.as_millisecond()),
        leavens::retired_ms.eq(retired.map(Timestamp::as_millisecond)),
    );
    diesel::insert_into(leavens::table).values(row).execute(db)?;
    Ok(())
}

/// The jars in use, oldest first.
///
/// # Errors
/// If a row cannot be read.
pub fn list(db: &mut SqliteConnection) -> Result<Listed<KeptJar>, StoreError> {
    let rows: Vec<(String, String)> = leavens::table
        .filter(leavens::retired_ms.is_null())
        .order((leavens::made_ms.asc(), leavens::id.asc()))
        .select((leavens::id, leavens::body))
        .load(db)?;
    Ok(Listed::of(rows, |(id, _)| id.clone(), |(id, body)| Ok(KeptJar { id, jar: bodies::read(&body)? })))
}

/// A jar.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn get(db: &mut SqliteConnection, id: &str) -> Result<KeptJar, StoreError> {
    let body: String = leavens::table.find(id).select(leavens::body).first(db)?;
    Ok(KeptJar { id: id.to_owned(), jar: bodies::read(&body)? })
}

/// Puts a jar away; its log stays.
///
/// # Errors
/// [`StoreError::NotFound`] if there is none with this id.
pub fn retire(db: &mut SqliteConnection, id: &str, at: Timestamp) -> Result<(), StoreError> {
    let done = db.immediate_transaction(|db| {
        diesel::update(leavens::table.find(id)).set(leavens::retired_ms.eq(Some(at.as_millisecond()))).execute(db)
    })?;
    if done == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// The log of a jar, in the order it was written. An entry that cannot be read is a note that says so.
///
/// # Errors
/// If a row cannot be read.
pub fn log(db: &mut SqliteConnection, id: &str) -> Result<Vec<JarEvent>, StoreError> {
    let rows: Vec<(i32, i64, String, String)> = leaven_events::table
        .filter(leaven_events::leaven_id.eq(id))
        .order(leaven_events::seq.asc())
        .select((leaven_events::seq, leaven_events::at_ms, leaven_events::kind, leaven_events::body))
        .load(db)?;
    rows.into_iter()
        .map(|(seq, at_ms, kind, body)| {
            let known = JarEventKind::from_word(&kind).ok_or_else(|| StoreError::Unreadable(format!("event {kind}")));
            let at = Timestamp::from_millisecond(at_ms).map_err(|e| StoreError::Unreadable(e.to_string()))?;
            let event = known.and_then(|kind| Ok(NewJarEvent { kind, at, body: bodies::read(&body)? }));
            Ok(JarEvent { seq, event: event.unwrap_or_else(|_| unreadable(at)) })
        })
        .collect()
}

fn unreadable(at: Timestamp) -> NewJarEvent {
    let body =
        JarEventBody { kind: JarEventKind::Note.word().to_owned(), note: Some(UNREADABLE_ENTRY.to_owned()), ..JarEventBody::default() };
    NewJarEvent { kind: JarEventKind::Note, at, body }
}

/// Appends one event and gives its number, counted from 1. On `Ok` it is on disk; a second call with the
/// same `key` appends nothing.
///
/// # Errors
/// [`StoreError::NotFound`] if there is no such jar; [`StoreError::Conflict`] for an `undo` of what is not there.
pub fn append(db: &mut SqliteConnection, id: &str, new: &NewJarEvent, key: Option<&str>) -> Result<i32, StoreError> {
    db.immediate_transaction(|db| {
        let there: i64 = leavens::table.filter(leavens::id.eq(id)).count().get_result(db)?;
        if there == 0 {
            return Err(StoreError::NotFound);
        }
        let mine = leaven_events::table.filter(leaven_events::leaven_id.eq(id));
        if let Some(key) = key {
            let seen = mine.filter(leaven_events::idempotency_key.eq(key)).select(leaven_events::seq);
            if let Some(seq) = seen.first(db).optional()? {
                return Ok(seq);
            }
        }
        if new.kind == JarEventKind::Undo {
            let log = log(db, id)?;
            let meant = |e: &&JarEvent| new.body.value.is_some_and(|v| (v - f64::from(e.seq)).abs() < 1e-9);
            if !log.iter().any(|e| meant(&e) && e.event.kind != JarEventKind::Undo) {
                return Err(StoreError::Conflict("There is nothing with this number to take back.".to_owned()));
            }
        }
        let last: Option<i32> = mine.select(max(leaven_events::seq)).first(db)?;
        let seq = last.unwrap_or(0) + 1;
        write_entry(db, id, seq, new, key)?;
        Ok(seq)
    })
}

/// Writes an entry under its number.
pub(crate) fn write_entry(db: &mut SqliteConnection, jar: &str, seq: i32, new: &NewJarEvent, key: Option<&str>) -> Result<(), StoreError> {
    let row = (
        leaven_events::leaven_id.eq(jar),
        leaven_events::seq.eq(seq),
        leaven_events::at_ms.eq(new.at.as_millisecond()),
        leaven_events::kind.eq(new.kind.word()),
        leaven_events::body.eq(bodies::write(&new.body)?),
        leaven_events::idempotency_key.eq(key),
    );
    diesel::insert_into(leaven_events::table).values(row).execute(db)?;
    Ok(())
}
