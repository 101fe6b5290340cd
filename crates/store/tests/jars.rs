//! The jars' book: a log only grows, an event is kept once, and what was acknowledged survives the loss of the process.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, clippy::indexing_slicing, reason = "tests")]

use std::{
    io::{BufRead, BufReader},
    process::{Command, Stdio},
};

use cerealis_core::leaven::{JarBody, JarEventBody, JarEventKind, NewJarEvent};
use cerealis_store::{Database, SqliteConnection, StoreError, leavens};
use diesel::{RunQueryDsl, connection::SimpleConnection};
use jiff::Timestamp;

fn now() -> Timestamp {
    "2026-11-06T16:40:00Z".parse().unwrap()
}

fn jar(name: &str) -> JarBody {
    JarBody { name: name.into(), flour_mix: std::iter::once(("plain-white".to_owned(), 100.0)).collect(), hydration_pct: 100.0 }
}

fn fed(grams: f64) -> NewJarEvent {
    JarEventBody { kind: "fed".into(), seed: Some(grams), water: Some(50.0), flour: Some(50.0), ..JarEventBody::default() }
        .check(now())
        .unwrap()
}

fn undo(seq: f64) -> NewJarEvent {
    JarEventBody { kind: "undo".into(), value: Some(seq), ..JarEventBody::default() }.check(now()).unwrap()
}

/// A book with one jar, in a folder that goes with it.
struct Book {
    _dir: tempfile::TempDir,
    book: Database,
}

fn book() -> Book {
    let dir = tempfile::tempdir().unwrap();
    let book = Database::open(&dir.path().join("household.db")).unwrap();
    leavens::add(&mut book.connection().unwrap(), "bell", &jar("Bell"), now()).unwrap();
    Book { _dir: dir, book }
}

impl Book {
    fn with<T>(&self, act: impl FnOnce(&mut SqliteConnection) -> T) -> T {
        act(&mut self.book.connection().unwrap())
    }
}

#[test]
fn events_are_numbered_in_the_order_they_came() {
    let b = book();
    b.with(|db| {
        for n in 1..=5 {
            assert_eq!(leavens::append(db, "bell", &fed(f64::from(n)), None).unwrap(), n);
        }
        let log = leavens::log(db, "bell").unwrap();
        assert_eq!(log.iter().map(|e| e.seq).collect::<Vec<_>>(), [1, 2, 3, 4, 5]);
        assert_eq!(log[2].event.body.seed, Some(3.0), "what was sent comes back");
        assert!(log.iter().all(|e| e.event.kind == JarEventKind::Fed && e.event.at == now()));
    });
}

#[test]
fn a_key_seen_before_appends_nothing() {
    let b = book();
    b.with(|db| {
        assert_eq!(leavens::append(db, "bell", &fed(1.0), Some("tap-1")).unwrap(), 1);
        assert_eq!(leavens::append(db, "bell", &fed(9.0), Some("tap-1")).unwrap(), 1, "the same tap, sent again");
        assert_eq!(leavens::append(db, "bell", &fed(2.0), Some("tap-2")).unwrap(), 2);
        leavens::add(db, "horn", &jar("Horn"), now()).unwrap();
        assert_eq!(leavens::append(db, "horn", &fed(3.0), Some("tap-1")).unwrap(), 1, "another jar's tap");
        let log = leavens::log(db, "bell").unwrap();
        assert_eq!(log.iter().map(|e| e.event.body.seed.unwrap()).collect::<Vec<_>>(), [1.0, 2.0]);
    });
}

#[test]
fn only_what_is_there_is_taken_back_and_taking_back_is_an_event() {
    let b = book();
    b.with(|db| {
        leavens::append(db, "bell", &fed(1.0), None).unwrap();
        for nothing in [2.0, 7.0, 4000.0] {
            assert!(matches!(leavens::append(db, "bell", &undo(nothing), None), Err(StoreError::Conflict(_))), "{nothing}");
        }
        assert_eq!(leavens::append(db, "bell", &undo(1.0), None).unwrap(), 2);
        assert!(matches!(leavens::append(db, "bell", &undo(2.0), None), Err(StoreError::Conflict(_))), "taking back is not taken back");
        assert_eq!(leavens::log(db, "bell").unwrap().len(), 2, "a refused event leaves no trace");
    });
}

#[test]
fn a_jar_that_is_not_there_is_none() {
    let b = book();
    b.with(|db| {
        assert!(matches!(leavens::get(db, "nobody"), Err(StoreError::NotFound)));
        assert!(matches!(leavens::append(db, "nobody", &fed(1.0), None), Err(StoreError::NotFound)));
        assert!(matches!(leavens::retire(db, "nobody", now()), Err(StoreError::NotFound)));
        assert!(leavens::log(db, "nobody").unwrap().is_empty());
    });
}

#[test]
fn a_jar_put_away_is_out_of_the_list_and_keeps_its_log() {
    let b = book();
    b.with(|db| {
        leavens::add(db, "horn", &jar("Horn"), now()).unwrap();
        leavens::append(db, "bell", &fed(1.0), None).unwrap();
        assert_eq!(leavens::list(db).unwrap().iter().map(|j| j.id.as_str()).collect::<Vec<_>>(), ["bell", "horn"]);
        leavens::retire(db, "bell", now()).unwrap();
        assert_eq!(leavens::list(db).unwrap().iter().map(|j| j.id.as_str()).collect::<Vec<_>>(), ["horn"]);
        assert_eq!(leavens::get(db, "bell").unwrap().jar, jar("Bell"));
        assert_eq!(leavens::log(db, "bell").unwrap().len(), 1);
    });
}

/// Whoever goes round the program meets the triggers.
#[test]
fn the_log_of_a_jar_only_grows() {
    let b = book();
    b.with(|db| {
        leavens::append(db, "bell", &fed(1.0), None).unwrap();
        for sql in ["UPDATE leaven_events SET at_ms = 0", "DELETE FROM leaven_events"] {
            assert!(diesel::sql_query(sql).execute(db).is_err(), "{sql}");
        }
        assert_eq!(leavens::log(db, "bell").unwrap()[0].event.at, now());
    });
}

#[test]
fn an_event_no_version_knows_is_told_as_a_note() {
    let b = book();
    b.with(|db| {
        db.batch_execute("INSERT INTO leaven_events (leaven_id, seq, at_ms, kind, body) VALUES ('bell', 1, 0, 'sang', '{}')").unwrap();
        let log = leavens::log(db, "bell").unwrap();
        let note = log.last().and_then(|e| e.event.body.note.as_deref()).unwrap();
        assert!(note.contains("cannot be read"), "{note}");
    });
}

/// Not a test of its own: the other process of the next one. It appends until it is killed and says each number it has
/// been given.
#[test]
fn feeds_until_killed() {
    let Ok(path) = std::env::var("CEREALIS_KILLED_JARS") else { return };
    let book = Database::open(std::path::Path::new(&path)).unwrap();
    let mut db = book.connection().unwrap();
    loop {
        let seq = leavens::append(&mut db, "bell", &fed(1.0), None).unwrap();
        println!("kept {seq}");
    }
}

#[test]
fn every_acknowledged_feed_survives_kill_9() {
    for after in [3, 17, 60] {
        let dir = tempfile::tempdir().unwrap();
        leavens::add(&mut Database::open(&dir.path().join("household.db")).unwrap().connection().unwrap(), "bell", &jar("Bell"), now())
            .unwrap();
        let mut child = Command::new(std::env::current_exe().unwrap())
            .args(["feeds_until_killed", "--exact", "--nocapture"])
            .env("CEREALIS_KILLED_JARS", dir.path().join("household.db"))
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let lines = BufReader::new(child.stdout.take().unwrap()).lines();
        let said = lines.map_while(Result::ok).filter_map(|l| l.split("kept ").nth(1).and_then(|n| n.trim().parse::<usize>().ok()));
        let acknowledged = said.take(after).last().unwrap();
        child.kill().unwrap(); // SIGKILL
        child.wait().unwrap();
        let log = leavens::log(&mut Database::open(&dir.path().join("household.db")).unwrap().connection().unwrap(), "bell").unwrap();
        assert!(log.len() >= acknowledged, "{acknowledged} were acknowledged, {} are there", log.len());
        assert!(log.iter().enumerate().all(|(i, e)| usize::try_from(e.seq).unwrap() == i + 1), "without a gap");
    }
}
