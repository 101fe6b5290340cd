//! What happens to the file itself while a household is open: said at once, nothing pretended.
#![allow(clippy::unwrap_used, reason = "tests")]

use std::{fs, path::Path};

use cerealis_core::kitchen::Kitchen;
use cerealis_store::{Database, StoreError, Trouble, kitchen};
use diesel::connection::SimpleConnection;

fn open(folder: &Path) -> Database {
    let db = Database::open(&folder.join("household.db")).unwrap();
    kitchen::put(&mut db.connection().unwrap(), &Kitchen { name: "Skerry Light".into(), ..Kitchen::default() }).unwrap();
    db
}

/// The trouble a connection is refused for, which names the file and the way on.
fn refused(db: &Database) -> Option<Trouble> {
    match db.connection() {
        Err(e @ StoreError::File { trouble, .. }) => {
            let told = e.to_string();
            assert!(told.contains("household.db") && told.contains("End Cerealis"), "{told}");
            Some(trouble)
        }
        other => other.map(|_| None).unwrap(),
    }
}

#[test]
fn a_folder_gone_a_log_deleted_and_another_file_in_its_place_are_seen_before_anything_is_written() {
    let gone = tempfile::tempdir().unwrap();
    let db = open(gone.path());
    assert_eq!(refused(&db), None);
    fs::rename(gone.path(), gone.path().with_extension("away")).unwrap();
    assert_eq!(refused(&db), Some(Trouble::Gone));
    fs::rename(gone.path().with_extension("away"), gone.path()).unwrap();
    assert_eq!(refused(&db), None, "it is back, and the same");

    fs::remove_file(gone.path().join("household.db-wal")).unwrap();
    assert_eq!(refused(&db), Some(Trouble::Gone));

    let changed = tempfile::tempdir().unwrap();
    let db = open(changed.path());
    let book = changed.path().join("household.db");
    fs::copy(&book, changed.path().join("other.db")).unwrap();
    fs::rename(changed.path().join("other.db"), &book).unwrap();
    assert_eq!(refused(&db), Some(Trouble::Gone));
}

#[test]
fn a_garbled_page_is_damage_wherever_it_is_met() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("household.db");
    let db = open(folder.path());
    db.look_over().unwrap();
    db.connection().unwrap().batch_execute("PRAGMA wal_checkpoint(TRUNCATE)").unwrap();
    drop(db);
    let mut bytes = fs::read(&path).unwrap();
    let whole = bytes.len();
    bytes[4096..whole].fill(0xa5);
    fs::write(&path, &bytes).unwrap();
    let damaged = match Database::open(&path) {
        Ok(db) => db.look_over(),
        Err(e) => Err(e),
    };
    assert!(matches!(&damaged, Err(StoreError::File { trouble: Trouble::Damaged, file }) if *file == path), "{damaged:?}");
    fs::write(&path, "a list for the boat, a long one".repeat(60)).unwrap();
    assert!(matches!(Database::open(&path), Err(StoreError::File { trouble: Trouble::Damaged, .. })));
}

#[test]
fn a_full_disk_and_a_file_that_may_only_be_read_say_so() {
    let folder = tempfile::tempdir().unwrap();
    let db = open(folder.path());
    let mut c = db.connection().unwrap();
    let big = Kitchen { name: "Skerry Light ".repeat(4000), ..Kitchen::default() };
    c.batch_execute("PRAGMA max_page_count = 1").unwrap();
    let full = kitchen::put(&mut c, &big).map_err(|e| e.at(db.path()));
    assert!(matches!(&full, Err(StoreError::File { trouble: Trouble::Full, .. })), "{full:?}");
    assert!(full.unwrap_err().to_string().contains("Make room"));
    c.batch_execute("PRAGMA query_only = ON").unwrap();
    assert!(matches!(kitchen::put(&mut c, &big), Err(StoreError::File { trouble: Trouble::ReadOnly, .. })));
    assert_eq!(kitchen::get(&mut c).unwrap().name, "Skerry Light", "what was kept stays");
}
