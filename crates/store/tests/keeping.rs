//! Copies of a household and archives of it: made while it is in use, checked, taken in again.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, clippy::indexing_slicing, reason = "tests")]

use std::{
    path::{Path, PathBuf},
    sync::atomic::{AtomicBool, Ordering},
};

use cerealis_core::bake::{EventBody, EventKind, NewEvent};
use cerealis_store::{
    Database, SqliteConnection, StoreError,
    archive::{self, Archive, What, collect, take_in},
    bakes, copy, formulas, kitchen,
};
use diesel::{Connection, connection::SimpleConnection};
use jiff::Timestamp;
use proptest::prelude::*;

fn released() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/households/0.1.0.db")
}

/// A household with everything in it.
fn full() -> (tempfile::TempDir, PathBuf, Database) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("household.db");
    std::fs::copy(released(), &path).unwrap();
    let db = Database::open(&path).unwrap();
    (folder, path, db)
}

fn empty() -> (tempfile::TempDir, Database) {
    let folder = tempfile::tempdir().unwrap();
    let db = Database::open(&folder.path().join("household.db")).unwrap();
    (folder, db)
}

fn now() -> Timestamp {
    "2026-11-06T16:40:00Z".parse().unwrap()
}

fn all(db: &Database) -> Archive {
    collect(&mut db.connection().unwrap(), now()).unwrap()
}

fn noted(at: Timestamp) -> NewEvent {
    let body = EventBody { kind: "note".into(), note: Some("Fog.".into()), ..EventBody::default() };
    NewEvent { kind: EventKind::Note, at, body }
}

#[test]
fn an_archive_holds_everything_and_gives_it_back() {
    let (_folder, _, db) = full();
    let archive = all(&db);
    assert!(archive.unreadable.is_empty());
    let text = serde_json::to_string(&archive).unwrap();
    let read: Archive = serde_json::from_str(&text).unwrap();
    assert_eq!(read, archive);

    let (_other, new) = empty();
    let looked = take_in(&mut new.connection().unwrap(), &read, true).unwrap();
    assert!(all(&new).bakes.is_empty() && all(&new).kitchen.is_none(), "a dry run keeps nothing");
    let brought = take_in(&mut new.connection().unwrap(), &read, false).unwrap();
    assert_eq!(brought, looked, "it brings what it said it would");
    assert!(brought.left.is_empty() && brought.same == 0);
    let count = |what: What| brought.new.iter().find(|(w, _)| *w == what).map_or(0, |(_, n)| *n);
    assert_eq!((count(What::Kitchen), count(What::Bake), count(What::Entry)), (1, 12, 55));
    assert_eq!(all(&new), archive);

    let again = take_in(&mut new.connection().unwrap(), &read, false).unwrap();
    assert!(again.new.is_empty() && again.left.is_empty(), "{again:?}");
    assert_eq!(again.same, brought.new.iter().map(|(_, n)| n).sum::<usize>());
    assert_eq!(all(&new), archive);
}

#[test]
fn an_archive_is_as_its_schema_says() {
    let (_folder, _, db) = full();
    let schema = serde_json::to_value(archive::schema()).unwrap();
    let valid = jsonschema::validator_for(&schema).unwrap();
    let mut value = serde_json::to_value(all(&db)).unwrap();
    let wrong: Vec<String> = valid.iter_errors(&value).map(|e| format!("{}: {e}", e.instance_path())).collect();
    assert!(wrong.is_empty(), "{wrong:#?}");
    for (pointer, nonsense) in [("/archive", serde_json::json!("soup")), ("/bakes/0/id", serde_json::json!("../../logbook"))] {
        let before = std::mem::replace(value.pointer_mut(pointer).unwrap(), nonsense);
        assert!(!valid.is_valid(&value), "{pointer}");
        *value.pointer_mut(pointer).unwrap() = before;
    }
}

#[test]
fn what_is_here_stays_as_it_is_and_is_told() {
    let (_folder, _, db) = full();
    let (_other, new) = empty();
    let mut archive = all(&db);
    take_in(&mut new.connection().unwrap(), &archive, false).unwrap();
    let before = all(&new);
    archive.kitchen.as_mut().unwrap().body.room_c = 27.5;
    archive.words[0].ingredient = "rye-dark".into();
    archive.formulas[0].versions[0].body.note = Some("another".into());
    let id = archive.bakes[0].id.clone();
    archive.bakes[0].plan.ask.mix_c = 20.0;
    archive.bakes[1].id = "../../logbook".into();
    archive.bakes[2].log[0].body.note = Some("another".into());
    let brought = take_in(&mut new.connection().unwrap(), &archive, false).unwrap();
    assert!(brought.new.is_empty(), "{:?}", brought.new);
    let left: Vec<What> = brought.left.iter().map(|l| l.what).collect();
    assert_eq!(left, [What::Kitchen, What::Word, What::Version, What::Bake, What::Bake, What::Bake]);
    assert!(brought.left.iter().any(|l| l.id == id) && brought.left[5].why.contains("from entry 1 on"), "{:?}", brought.left);
    assert_eq!(all(&new), before);
    archive.v = 2;
    assert!(matches!(take_in(&mut new.connection().unwrap(), &archive, false), Err(StoreError::Newer)));
}

#[test]
fn a_kitchen_nobody_has_told_anything_takes_the_one_that_comes() {
    let (_folder, _, db) = full();
    let (_other, new) = empty();
    let untold = cerealis_core::kitchen::Kitchen { zone: "Atlantic/Faroe".into(), ..cerealis_core::kitchen::Kitchen::default() };
    kitchen::put(&mut new.connection().unwrap(), &untold).unwrap();
    take_in(&mut new.connection().unwrap(), &all(&db), false).unwrap();
    assert_eq!(all(&new).kitchen, all(&db).kitchen);
}

#[test]
fn one_row_that_cannot_be_read_takes_nothing_with_it() {
    let (_folder, path, db) = full();
    let whole = all(&db);
    let mut c = SqliteConnection::establish(path.to_str().unwrap()).unwrap();
    c.batch_execute("UPDATE leavens SET body = '{\"v\":1}' WHERE rowid = 1; UPDATE formula_versions SET body = json_set(body, '$.v', 9) WHERE rowid = 1;")
        .unwrap();
    let archive = all(&db);
    assert_eq!(archive.unreadable.len(), 2, "{:?}", archive.unreadable);
    assert!(archive.unreadable.iter().any(|u| u.text == "{\"v\":1}" && u.of.starts_with("jar ")));
    assert_eq!((archive.jars.len() + 1, archive.bakes.len()), (whole.jars.len(), whole.bakes.len()));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    /// However much of the logs is here already, and in however many helpings the rest comes: in the end it is all here.
    #[test]
    fn logs_come_in_helpings(cuts in proptest::collection::vec(0.0..1.0_f64, 1..4), formulas_too in any::<bool>()) {
        let (_folder, _, db) = full();
        let whole = all(&db);
        let (_other, new) = empty();
        let mut cuts = cuts;
        cuts.sort_by(f64::total_cmp);
        for cut in cuts.into_iter().chain([1.0]) {
            let mut part = whole.clone();
            #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, clippy::cast_precision_loss, reason = "a share of a log")]
            let of = |n: usize| (n as f64 * cut).round() as usize;
            part.bakes.iter_mut().for_each(|b| b.log.truncate(of(b.log.len())));
            part.jars.iter_mut().for_each(|j| j.log.truncate(of(j.log.len())));
            if formulas_too {
                part.formulas.iter_mut().for_each(|f| f.versions.truncate(of(f.versions.len()).max(1)));
            }
            let brought = take_in(&mut new.connection().unwrap(), &part, false).unwrap();
            prop_assert!(brought.left.is_empty(), "{:?}", brought.left);
        }
        prop_assert_eq!(all(&new), whole);
    }
}

#[test]
fn a_copy_is_made_while_the_household_is_written_to() {
    let (folder, path, db) = full();
    let bake = all(&db).bakes[0].id.clone();
    let ended = AtomicBool::new(false);
    std::thread::scope(|s| {
        s.spawn(|| {
            let mut c = db.connection().unwrap();
            while !ended.load(Ordering::Relaxed) {
                bakes::append(&mut c, &bake, &noted(now()), None).unwrap();
            }
        });
        for n in 0..6 {
            let to = folder.path().join(format!("copy-{n}.db"));
            let holds = copy::copy(&path, &to).unwrap();
            assert_eq!(copy::look_through(&to).unwrap(), holds);
            let copied = Database::open(&to).unwrap();
            let log = bakes::log(&mut copied.connection().unwrap(), &bake).unwrap();
            assert_eq!(log.last().map(|e| e.seq), i32::try_from(log.len()).ok(), "no entry is half there");
        }
        ended.store(true, Ordering::Relaxed);
    });
    let names = std::fs::read_dir(folder.path()).unwrap().map(|f| f.unwrap().file_name().into_string().unwrap());
    assert!(names.into_iter().all(|n| !n.starts_with('.')), "nothing unfinished is left");
}

#[test]
fn nothing_is_ever_copied_over_something() {
    let (folder, path, _db) = full();
    let to = folder.path().join("copy.db");
    std::fs::write(&to, "a list for the boat").unwrap();
    assert!(matches!(copy::copy(&path, &to), Err(StoreError::Conflict(why)) if why.contains("copy.db")));
    assert!(matches!(copy::restore(&path, &to), Err(StoreError::Conflict(_))));
    assert_eq!(std::fs::read_to_string(&to).unwrap(), "a list for the boat");
}

#[test]
fn only_a_sound_household_is_restored() {
    let (folder, path, db) = full();
    let made = folder.path().join("copy.db");
    copy::copy(&path, &made).unwrap();
    let there = |name: &str| folder.path().join(name);
    let holds = copy::restore(&made, &there("again.db")).unwrap();
    assert_eq!(holds.told(), "5 formulas, 12 bakes with 55 entries, 2 jars");
    assert_eq!(all(&Database::open(&there("again.db")).unwrap()), all(&db));

    assert!(matches!(copy::restore(&there("nowhere.db"), &there("a.db")), Err(StoreError::NotFound)));
    assert!(!there("nowhere.db").exists(), "looking for it does not make it");
    std::fs::write(there("list.db"), "a list for the boat, a long one".repeat(60)).unwrap();
    assert!(matches!(copy::restore(&there("list.db"), &there("a.db")), Err(StoreError::Foreign)));
    let mut other = SqliteConnection::establish(there("other.db").to_str().unwrap()).unwrap();
    other.batch_execute("CREATE TABLE boats (name TEXT)").unwrap();
    assert!(matches!(copy::restore(&there("other.db"), &there("a.db")), Err(StoreError::Foreign)));
    let mut garbled = std::fs::read(&made).unwrap();
    let half = garbled.len() / 2;
    garbled[half..half + 9000].fill(0xa5);
    std::fs::write(there("garbled.db"), &garbled).unwrap();
    assert!(matches!(copy::restore(&there("garbled.db"), &there("a.db")), Err(StoreError::Failed(_))));
    std::fs::write(there("cut.db"), &garbled[..half]).unwrap();
    assert!(copy::restore(&there("cut.db"), &there("a.db")).is_err());
    let mut newer = SqliteConnection::establish(made.to_str().unwrap()).unwrap();
    newer.batch_execute("INSERT INTO __diesel_schema_migrations (version) VALUES ('29990101000001')").unwrap();
    assert!(matches!(copy::restore(&made, &there("a.db")), Err(StoreError::Newer)));
    assert!(!there("a.db").exists());
}

#[test]
fn a_copy_is_kept_before_a_household_is_changed() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("household.db");
    std::fs::copy(released(), &path).unwrap();
    let mut c = SqliteConnection::establish(path.to_str().unwrap()).unwrap();
    c.batch_execute("DROP INDEX bakes_by_day; ALTER TABLE bakes DROP COLUMN day; DELETE FROM __diesel_schema_migrations WHERE version = '20261130000005';")
        .unwrap();
    drop(c);
    let before = copy::look_through(&path).unwrap();
    let db = Database::open(&path).unwrap();
    assert_eq!(formulas::list(&mut db.connection().unwrap()).unwrap().len(), 5);
    let kept = folder.path().join("household-before-20261130000005.db");
    assert_eq!(copy::look_through(&kept).unwrap(), before);
    drop(db);
    Database::open(&path).unwrap();
    let copies = std::fs::read_dir(folder.path()).unwrap().filter(|f| f.as_ref().unwrap().file_name().to_string_lossy().contains("before"));
    assert_eq!(copies.count(), 1, "one that is up to date is not copied");
}
