//! Opening the household's file: pragmas on every connection, migrations before the pool.

use std::{
    path::{Path, PathBuf},
    sync::Arc,
    time::Duration,
};

use diesel::{
    Connection, RunQueryDsl, SqliteConnection,
    connection::SimpleConnection,
    r2d2::{ConnectionManager, CustomizeConnection, Pool, PooledConnection},
    sql_types::{BigInt, Text},
};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};

use crate::{
    StoreError, Trouble,
    copy::{Holds, copy},
};

const MIGRATIONS: EmbeddedMigrations = embed_migrations!();
/// How long a connection is waited for.
const LONGEST_WAIT: Duration = Duration::from_secs(5);
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
    /// The file and its log of changes, as they were when it was opened.
    opened: Identity,
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
struct CheckRow {
    #[diesel(sql_type = Text)]
    quick_check: String,
}

/// Which file stands under the names of a household's file and its log of changes. Only names are looked at: to open and close
/// the file here would take SQLite's locks away.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Identity([(u64, u64); 2]);

impl Identity {
    fn of(path: &Path) -> Option<Self> {
        let mut log = path.as_os_str().to_owned();
        log.push("-wal");
        Some(Self([stands_at(path)?, stands_at(Path::new(&log))?]))
    }
}

#[cfg(unix)]
fn stands_at(path: &Path) -> Option<(u64, u64)> {
    use std::os::unix::fs::MetadataExt;
    std::fs::metadata(path).ok().map(|m| (m.dev(), m.ino()))
}
#[cfg(not(unix))]
fn stands_at(path: &Path) -> Option<(u64, u64)> {
    path.exists().then_some((0, 0))
}

#[derive(diesel::QueryableByName)]
struct VersionRow {
    #[diesel(sql_type = Text)]
    version: String,
}

/// A connection that waits where another is just closing the file, and changes nothing of it. The file is made if it is missing.
pub(crate) fn connect(path: &Path) -> Result<SqliteConnection, StoreError> {
    let mut db = SqliteConnection::establish(url(path)?).map_err(|e| StoreError::said(&e.to_string()).at(path))?;
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
        Self::brought_up_to_date(path).map_err(|e| e.at(path))?;
        Self::pooled(path)
    }

    fn brought_up_to_date(path: &Path) -> Result<(), StoreError> {
        // WAL and migrations on one connection before the pool exists: the first openers would collide.
        let mut first = connect(path)?;
        let pending = pending(&mut first)?;
        let in_use = !applied(&mut first)?.is_empty();
        first.batch_execute(PRAGMAS)?;
        if let Some(next) = pending.first().filter(|_| in_use) {
            copy(path, &free_name(path, next))?;
        }
        first.run_pending_migrations(MIGRATIONS).map_err(|e| StoreError::said(&e.to_string()))?;
        Ok(())
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
        let built = Pool::builder().max_size(4).min_idle(Some(1)).connection_timeout(LONGEST_WAIT).connection_customizer(Box::new(Pragmas));
        let pool = built.build(manager).map_err(|e| StoreError::said(&e.to_string()).at(path))?;
        // Reading opens the log of changes, which from then on is there as long as the pool is.
        let mut db = pool.get().map_err(|_| StoreError::Busy)?;
        applied(&mut db)?;
        let opened = Identity::of(path).ok_or(StoreError::File { trouble: Trouble::Gone, file: path.to_owned() })?;
        Ok(Self { path: path.into(), opened, pool })
    }

    /// Copies it into a file that is not there yet, while it is in use.
    ///
    /// # Errors
    /// As [`copy`].
    pub fn copy_to(&self, to: &Path) -> Result<Holds, StoreError> {
        copy(&self.path, to)
    }

    /// Where its file is.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// A connection.
    ///
    /// # Errors
    /// [`StoreError::File`] if the file is no longer the one that was opened: what was written then would be lost with it;
    /// [`StoreError::Busy`] if none comes free in time.
    pub fn connection(&self) -> Result<Pooled, StoreError> {
        if Identity::of(&self.path).as_ref() != Some(&self.opened) {
            return Err(StoreError::File { trouble: Trouble::Gone, file: self.path.to_path_buf() });
        }
        self.pool.get().map_err(|_| StoreError::Busy)
    }

    /// Whether the file is whole, as far as SQLite can tell.
    ///
    /// # Errors
    /// [`StoreError::File`] if it is not.
    pub fn look_over(&self) -> Result<(), StoreError> {
        let mut c = self.connection()?;
        let said: Vec<CheckRow> =
            diesel::sql_query("PRAGMA quick_check(1)").load(&mut c).map_err(|e| StoreError::from(e).at(&self.path))?;
        if said.iter().all(|row| row.quick_check == "ok") {
            Ok(())
        } else {
            Err(StoreError::File { trouble: Trouble::Damaged, file: self.path.to_path_buf() })
        }
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
