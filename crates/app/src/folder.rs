//! The folder of a household: its file, and the lock that keeps a second program out.

use std::{
    fs::{File, TryLockError},
    path::Path,
};

use cerealis_store::Database;

use crate::Ending;

/// The household's file in its folder.
pub const BOOK: &str = "household.db";

/// Opens the household in its folder, and holds the folder: a second program that wrote there would not know what the first
/// one keeps in mind. It is let go when the file is, however the program ends.
pub fn open(folder: &Path) -> Result<(Database, File), Ending> {
    let held =
        hold(folder)?.ok_or_else(|| Ending::Usage(format!("{} is open in another Cerealis. End that one first.", folder.display())))?;
    let db = Database::open(&folder.join(BOOK))?;
    // Into a file that is broken nothing more is written.
    db.look_over()?;
    Ok((db, held))
}

/// Holds a folder, made if it is missing; none if another program holds it.
pub fn hold(folder: &Path) -> Result<Option<File>, Ending> {
    let broken = |why: std::io::Error| Ending::Folder { folder: folder.display().to_string(), why };
    std::fs::create_dir_all(folder).map_err(broken)?;
    let held = File::options().create(true).truncate(false).write(true).open(folder.join("household.lock")).map_err(broken)?;
    match held.try_lock() {
        Ok(()) => Ok(Some(held)),
        Err(TryLockError::WouldBlock) => Ok(None),
        Err(TryLockError::Error(e)) => Err(broken(e)),
    }
}
