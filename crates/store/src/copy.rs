//! Copies of the household's file, made while it is in use: by SQLite itself, checked before they count as made.

use std::{
    fs::File,
    path::{Path, PathBuf},
};

use diesel::{
    RunQueryDsl, SqliteConnection,
    sql_types::{BigInt, Text},
};

use crate::{
    StoreError,
    open::{connect, pending},
};

/// What a copy holds, by table: told after it was checked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Holds(pub Vec<(String, i64)>);

impl Holds {
    /// Rows of a table.
    #[must_use]
    pub fn rows(&self, table: &str) -> i64 {
        self.0.iter().find(|(t, _)| t == table).map_or(0, |(_, n)| *n)
    }
    /// What a baker asks first: `5 formulas, 12 bakes with 55 entries, 2 jars`.
    #[must_use]
    pub fn told(&self) -> String {
        let of = |n: i64, one: &str, many: &str| format!("{n} {}", if n == 1 { one } else { many });
        format!(
            "{}, {} with {}, {}",
            of(self.rows("formulas"), "formula", "formulas"),
            of(self.rows("bakes"), "bake", "bakes"),
            of(self.rows("bake_events"), "entry", "entries"),
            of(self.rows("leavens"), "jar", "jars"),
        )
    }
}

#[derive(diesel::QueryableByName)]
struct Named {
    #[diesel(sql_type = Text)]
    name: String,
}
#[derive(diesel::QueryableByName)]
struct Counted {
    #[diesel(sql_type = BigInt)]
    n: i64,
}
#[derive(diesel::QueryableByName)]
struct Said {
    #[diesel(sql_type = Text)]
    integrity_check: String,
}

fn failed(e: &dyn std::fmt::Display) -> StoreError {
    StoreError::Failed(e.to_string())
}

/// The tables there are, and how many rows each has.
fn holds(db: &mut SqliteConnection) -> Result<Holds, StoreError> {
    let tables: Vec<Named> = diesel::sql_query("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND name NOT LIKE '\\_\\_%' ESCAPE '\\' ORDER BY name").load(db)?;
    let count = |Named { name }: Named| {
        let n: Counted = diesel::sql_query(format!("SELECT count(*) AS n FROM \"{name}\"")).get_result(db)?;
        Ok((name, n.n))
    };
    Ok(Holds(tables.into_iter().map(count).collect::<Result<_, StoreError>>()?))
}

/// Looks through a whole file: whether every page of it is sound, and what it holds.
///
/// # Errors
/// [`StoreError::Failed`] with what is wrong with it; [`StoreError::Foreign`] if it is no household.
pub fn look_through(path: &Path) -> Result<Holds, StoreError> {
    let mut db = connect(path)?;
    let said: Vec<Said> = diesel::sql_query("PRAGMA integrity_check").load(&mut db).map_err(|e| match e.to_string() {
        e if e.contains("not a database") => StoreError::Foreign,
        e => StoreError::Failed(e),
    })?;
    if let Some(wrong) = said.iter().find(|s| s.integrity_check != "ok") {
        return Err(StoreError::Failed(wrong.integrity_check.clone()));
    }
    let holds = holds(&mut db)?;
    if holds.0.iter().any(|(t, _)| t == "bakes") { Ok(holds) } else { Err(StoreError::Foreign) }
}

/// Copies the household `from` one file `to` another, which must not be there yet. It may be written to meanwhile: the copy is
/// as it was at one moment. It has its name only once it is whole, looked through and on the disk.
///
/// # Errors
/// [`StoreError::Conflict`] if there is a file of that name; [`StoreError::Failed`] if it could not be made.
pub fn copy(from: &Path, to: &Path) -> Result<Holds, StoreError> {
    nothing_there(to)?;
    let unfinished = Unfinished::beside(to);
    let mut db = connect(from)?;
    let before = holds(&mut db)?;
    diesel::sql_query("VACUUM INTO ?").bind::<Text, _>(unfinished.0.to_string_lossy()).execute(&mut db)?;
    let after = holds(&mut db)?;
    let copied = look_through(&unfinished.0)?;
    for ((table, n), ((_, a), (_, b))) in copied.0.iter().zip(before.0.iter().zip(&after.0)) {
        if !(*a.min(b)..=*a.max(b)).contains(n) {
            return Err(StoreError::Failed(format!("{table} has {n} rows in the copy and {a} in the household")));
        }
    }
    unfinished.finish(to)?;
    Ok(copied)
}

/// Makes a household of a copy: `to` must not be there yet.
///
/// # Errors
/// [`StoreError::NotFound`] if there is no such file; [`StoreError::Foreign`] if it is no household; [`StoreError::Newer`] if a
/// newer program made it; [`StoreError::Conflict`] if there is a household already; [`StoreError::Failed`] if it is not sound.
pub fn restore(from: &Path, to: &Path) -> Result<Holds, StoreError> {
    if !from.is_file() {
        return Err(StoreError::NotFound);
    }
    look_through(from)?;
    pending(&mut connect(from)?)?;
    copy(from, to)
}

/// Writes a file that must not be there yet; it has its name only once it is whole and on the disk.
///
/// # Errors
/// [`StoreError::Conflict`] if there is a file of that name; [`StoreError::Failed`] if it could not be written.
pub fn write_new(to: &Path, bytes: &[u8]) -> Result<(), StoreError> {
    nothing_there(to)?;
    let unfinished = Unfinished::beside(to);
    std::fs::write(&unfinished.0, bytes).map_err(|e| failed(&e))?;
    unfinished.finish(to)
}

fn nothing_there(to: &Path) -> Result<(), StoreError> {
    if to.exists() {
        return Err(StoreError::Conflict(format!("There is a file {} already; it is left as it is.", to.display())));
    }
    Ok(())
}

/// A file that is being written under a name of its own; gone again if it does not get done.
pub(crate) struct Unfinished(pub PathBuf);

impl Unfinished {
    /// Beside the file it will be.
    pub fn beside(to: &Path) -> Self {
        let name = to.file_name().map_or_else(Default::default, |n| n.to_string_lossy().into_owned());
        let here = to.with_file_name(format!(".{name}.{}", std::process::id()));
        // What a program of that number left behind when it was ended.
        std::fs::remove_file(&here).ok();
        Self(here)
    }

    /// Gives it its name, once all of it is on the disk.
    pub fn finish(self, to: &Path) -> Result<(), StoreError> {
        let write = || -> std::io::Result<()> {
            File::open(&self.0)?.sync_all()?;
            // Unlike a rename this fails where another made the file meanwhile.
            std::fs::hard_link(&self.0, to).or_else(|e| if to.exists() { Err(e) } else { std::fs::rename(&self.0, to) })?;
            let folder = to.parent().filter(|p| !p.as_os_str().is_empty()).unwrap_or(Path::new("."));
            File::open(folder)?.sync_all()
        };
        write().map_err(|e| StoreError::Failed(format!("{}: {e}", to.display())))
    }
}

impl Drop for Unfinished {
    fn drop(&mut self) {
        // It may have its name already, or not have been begun.
        std::fs::remove_file(&self.0).ok();
    }
}
