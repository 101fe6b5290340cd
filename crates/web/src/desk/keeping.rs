//! Keeping the household safe: all of it out as one file, and in again.

use std::sync::Arc;

use cerealis_store::{
    StoreError,
    archive::{Archive, Brought, collect, take_in},
};
use jiff::Timestamp;

use super::learned;
use crate::{
    State,
    edge::{Failure, off_loop, on_disk},
};

/// A file to hand out.
#[derive(Debug)]
pub struct Handed {
    /// Its name: `skerry-light-2026-11-06.json`.
    pub name: String,
    /// Its bytes.
    pub bytes: Vec<u8>,
}

/// The kitchen's name and the day, as a file's name.
async fn file_name(state: &State, ending: &str) -> Result<String, Failure> {
    let kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    let day = state.clock.now().to_zoned(kitchen.time_zone()).date();
    Ok(format!("{}-{day}.{ending}", super::plain_name(&kitchen.name, "household")))
}

/// Everything the household keeps, as an archive.
///
/// # Errors
/// If the store does not answer.
pub async fn export(state: &State) -> Result<Handed, Failure> {
    let name = file_name(state, "json").await?;
    let now: Timestamp = state.clock.now();
    let bytes = on_disk(&state.db, move |db| Ok(collect(db, now)?.text()?.into_bytes())).await?;
    Ok(Handed { name, bytes })
}

/// A copy of the household's own file, made and checked while it is in use.
///
/// # Errors
/// If it could not be made, or is not sound.
pub async fn copy(state: &State) -> Result<Handed, Failure> {
    let name = file_name(state, "db").await?;
    let db = state.db.clone();
    let copied = off_loop(move || {
        let failed = |e: std::io::Error| StoreError::Failed(e.to_string());
        let folder = tempfile::tempdir().map_err(failed)?;
        let to = folder.path().join("copy.db");
        db.copy_to(&to)?;
        std::fs::read(&to).map_err(failed)
    });
    Ok(Handed { name, bytes: copied.await?.map_err(Failure::Store)? })
}

/// Takes an archive in, or tells what it would bring.
///
/// # Errors
/// If it is no archive, is of a newer program, or cannot be kept.
pub async fn bring(state: &State, text: Arc<str>, dry: bool) -> Result<Brought, Failure> {
    let household = state.household.clone();
    let bring = move |db: &mut cerealis_store::SqliteConnection| {
        let brought = take_in(db, &Archive::read(&text)?, dry)?;
        if !dry {
            household.renew(db)?;
        }
        Ok(brought)
    };
    let brought = on_disk(&state.db, bring).await.map_err(|e| match e {
        // What cannot be read here came with the request.
        Failure::Store(StoreError::Unreadable(why)) => Failure::wrong(format!("That archive cannot be read: {why}")),
        other => other,
    })?;
    if !dry {
        learned::kneading(state, false).await?;
    }
    Ok(brought)
}
