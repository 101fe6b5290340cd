//! Opening the household's file: pragmas on every connection, migrations before the pool.

use std::{
    path::{Path, PathBuf},
    sync::Arc,
};

use diesel::{
    Connection, RunQueryDsl, SqliteConnection,
    connection::SimpleConnection,
    r2d2::{ConnectionManager, CustomizeConnection, Pool, PooledConnection},
    sql_types::{BigInt, Text},
};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};

use crate::{
    StoreError,
    copy::{Holds, copy},
};

const MIGRATIONS: EmbeddedMigrations = embed_migrations!();
const WAITING: &str = "PRAGMA busy_timeout=5000;";
const PRAGMAS: &str =
    "PRAGMA busy_timeout=5000; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON; PRAGMA trusted_schema=OFF;";

/// A connection of the pool.
pub type Pooled = PooledConnection<ConnectionManager<SqliteConnection>>;

#[derive(Debug)]
struct Pragmas;

impl CustomizeConnection<SqliteConnection, diesel::r2d2::Error> for Pragmas {
    fn on_acquire(&self, c: &mut SqliteConnection) -> Result<(), diesel::r2d2::Error> {
        c.batch_execute(PRAGMAS).map_err(diesel::r2d2::Error::QueryError)
    }
}

/// The household's database.
#[derive(Clone)]
pub struct Database {
    path: Arc<Path>,
    pool: Pool<ConnectionManager<SqliteConnection>>,
}

impl std::fmt::Debug for Database {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str("Database")
    }
}

/// The pragmas as they stand on a connection.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Settings {
    /// `wal`.
    pub journal: String,
    /// 1.
    pub foreign_keys: i64,
    /// 2 is FULL.
    pub synchronous: i64,
}

#[derive(diesel::QueryableByName)]
struct TextRow {
    #[diesel(sql_type = Text)]
    journal_mode: String,
}
#[derive(diesel::QueryableByName)]
struct KeysRow {
    #[diesel(sql_type = BigInt)]
    foreign_keys: i64,
}
#[derive(diesel::QueryableByName)]
struct SyncRow {
    #[diesel(sql_type = BigInt)]
    synchronous: i64,
}

#[derive(diesel::QueryableByName)]
struct VersionRow {
    #[diesel(sql_type = Text)]
    version: String,
}

/// A connection that waits where another is just closing the file, and changes nothing of it. The file is made if it is missing.
pub(crate) fn connect(path: &Path) -> Result<SqliteConnection, StoreError> {
    let mut db = SqliteConnection::establish(url(path)?).map_err(|e| StoreError::Failed(e.to_string()))?;
    db.batch_execute(WAITING)?;
    Ok(db)
}

fn url(path: &Path) -> Result<&str, StoreError> {
    path.to_str().ok_or_else(|| StoreError::Failed(format!("{} is no text", path.display())))
}

/// The versions of migrations a file has seen; nothing is written to it.
fn applied(db: &mut SqliteConnection) -> Result<Vec<String>, StoreError> {
    let there = "SELECT name AS version FROM sqlite_master WHERE type = 'table' AND name = '__diesel_schema_migrations'";
    if diesel::sql_query(there).load::<VersionRow>(db)?.is_empty() {
        return Ok(Vec::new());
    }
    let rows: Vec<VersionRow> = diesel::sql_query("SELECT version FROM __diesel_schema_migrations ORDER BY version").load(db)?;
    Ok(rows.into_iter().map(|r| r.version).collect())
}

/// The versions a file has yet to see.
pub(crate) fn pending(db: &mut SqliteConnection) -> Result<Vec<String>, StoreError> {
    let applied = applied(db)?;
    let known = diesel::migration::MigrationSource::<diesel::sqlite::Sqlite>::migrations(&MIGRATIONS);
    let known: Vec<String> = known.map_err(|e| StoreError::Failed(e.to_string()))?.iter().map(|m| m.name().version().to_string()).collect();
    if !applied.iter().all(|v| known.contains(v)) {
        return Err(StoreError::Newer);
    }
    Ok(known.into_iter().filter(|v| !applied.contains(v)).collect())
}

/// Where the copy goes that is kept before a file is changed: `household-before-20261130000005.db`.
fn free_name(path: &Path, next: &str) -> PathBuf {
    let name = |n: u32| if n == 1 { format!("household-before-{next}.db") } else { format!("household-before-{next}-{n}.db") };
    (1..).map(|n| path.with_file_name(name(n))).find(|p| !p.exists()).unwrap_or_default()
}

impl Database {
    /// Opens the file, makes it if it is missing, and brings it up to date.
    ///
    /// # Errors
    /// [`StoreError::Newer`] for a file of a newer program, which is left as it is; [`StoreError::Failed`] if it cannot be opened,
    /// or cannot be copied before it is changed.
    pub fn open(path: &Path) -> Result<Self, StoreError> {
        // WAL and migrations on one connection before the pool exists: the first openers would collide.
        let mut first = connect(path)?;
        let pending = pending(&mut first)?;
        let in_use = !applied(&mut first)?.is_empty();
        first.batch_execute(PRAGMAS)?;
        if let Some(next) = pending.first().filter(|_| in_use) {
            copy(path, &free_name(path, next))?;
        }
        first.run_pending_migrations(MIGRATIONS).map_err(|e| StoreError::Failed(e.to_string()))?;
        drop(first);
        Self::pooled(path)
    }

    /// Opens the file beside the program that serves it, to read it.
    ///
    /// # Errors
    /// [`StoreError::Newer`] for a file of a newer program; [`StoreError::Conflict`] for one of an older program.
    pub fn beside(path: &Path) -> Result<Self, StoreError> {
        if !pending(&mut connect(path)?)?.is_empty() {
            return Err(StoreError::Conflict("The program that serves this household is an older one. End it first.".to_owned()));
        }
        Self::pooled(path)
    }

    fn pooled(path: &Path) -> Result<Self, StoreError> {
        let manager = ConnectionManager::new(url(path)?);
        let pool = Pool::builder().max_size(4).min_idle(Some(1)).connection_customizer(Box::new(Pragmas)).build(manager);
        pool.map(|pool| Self { path: path.into(), pool }).map_err(|e| StoreError::Failed(e.to_string()))
    }

    /// Copies it into a file that is not there yet, while it is in use.
    ///
    /// # Errors
    /// As [`copy`].
    pub fn copy_to(&self, to: &Path) -> Result<Holds, StoreError> {
        copy(&self.path, to)
    }

    /// A connection.
    ///
    /// # Errors
    /// [`StoreError::Busy`] if none comes free in time.
    pub fn connection(&self) -> Result<Pooled, StoreError> {
        self.pool.get().map_err(|_| StoreError::Busy)
    }

    /// What the pragmas are.
    ///
    /// # Errors
    /// If the database does not answer.
    pub fn settings(&self) -> Result<Settings, StoreError> {
        let mut c = self.connection()?;
        let journal: TextRow = diesel::sql_query("PRAGMA journal_mode").get_result(&mut c)?;
        let keys: KeysRow = diesel::sql_query("PRAGMA foreign_keys").get_result(&mut c)?;
        let sync: SyncRow = diesel::sql_query("PRAGMA synchronous").get_result(&mut c)?;
        Ok(Settings { journal: journal.journal_mode, foreign_keys: keys.foreign_keys, synchronous: sync.synchronous })
    }
}
