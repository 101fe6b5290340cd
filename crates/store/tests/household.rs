//! The household's book: what is written stays, whatever happens to the program.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, clippy::indexing_slicing, reason = "tests")]

use std::{
    io::{BufRead, BufReader},
    process::{Command, Stdio},
};

use cerealis_core::{
    Tables,
    bake::{EventBody, EventKind},
    formula::{FormulaBody, FormulaDraft, LineBody},
    kitchen::Kitchen,
    pantry::{OwnIngredient, OwnPan},
    plan::{Plan, PlanAsk},
};
use cerealis_store::{Database, SqliteConnection, StoreError, bakes, formulas, kitchen, shelf};
use diesel::{RunQueryDsl, connection::SimpleConnection};
use jiff::Timestamp;

fn now() -> Timestamp {
    "2026-11-06T16:40:00Z".parse().unwrap()
}

fn body() -> FormulaBody {
    let line = |ingredient: &str, grams| LineBody {
        ingredient: ingredient.into(),
        grams,
        grams_low: None,
        grams_high: None,
        stage: None,
        source: None,
        hydration_pct: None,
        used: None,
    };
    FormulaBody {
        name: Some("Skerry loaf".into()),
        lines: vec![line("wheat-bread", 500.0), line("water", 340.0), line("salt-fine", 10.0), line("yeast-instant", 3.0)],
        ..FormulaBody::default()
    }
}

fn bake(id: &str) -> bakes::Kept {
    let t = Tables::built_in().unwrap();
    let formula = FormulaDraft::from(body()).check(&t.pantry).unwrap();
    let k = Kitchen::default();
    let plan = Plan::make(&formula, &PlanAsk::usual(&formula, &k, now(), &t), &k, &t).unwrap();
    bakes::Kept { id: id.into(), name: "Skerry loaf".into(), style: "lean".into(), formula: formula.body(), plan, made: now(), day: None }
}

fn event(kind: &str, value: Option<f64>) -> cerealis_core::bake::NewEvent {
    EventBody { kind: kind.into(), value, ..EventBody::default() }.check(now()).unwrap()
}

#[test]
fn every_connection_is_safe_against_the_loss_of_power() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    let s = db.settings().unwrap();
    assert_eq!((s.journal.as_str(), s.foreign_keys, s.synchronous), ("wal", 1, 2));
}

#[test]
fn every_version_of_a_formula_is_kept() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    let beside = formulas::Beside { style: "lean".into(), flour_g: 500.0, now: now() };
    assert_eq!(formulas::save(&mut c, "a", &body(), &beside).unwrap(), 1);
    let mut second = body();
    second.lines[1].grams = 350.0;
    assert_eq!(formulas::save(&mut c, "a", &second, &beside).unwrap(), 2);
    assert_eq!(formulas::newest(&mut c, "a").unwrap().body, second);
    assert_eq!(formulas::list(&mut c).unwrap().len(), 1);
    assert!(matches!(formulas::newest(&mut c, "b"), Err(StoreError::NotFound)));
}

#[test]
fn the_log_only_grows_and_an_event_sent_twice_is_kept_once() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    bakes::begin(&mut c, &bake("b")).unwrap();
    assert_eq!(bakes::get(&mut c, "b").unwrap(), bake("b"));
    assert_eq!(bakes::append(&mut c, "b", &event("mixed", None), Some("k1")).unwrap(), 1);
    assert_eq!(bakes::append(&mut c, "b", &event("mixed", None), Some("k1")).unwrap(), 1, "the same key");
    assert_eq!(bakes::append(&mut c, "b", &event("undo", Some(1.0)), None).unwrap(), 2);
    assert!(matches!(bakes::append(&mut c, "b", &event("undo", Some(2.0)), None), Err(StoreError::Conflict(_))));
    assert!(matches!(bakes::append(&mut c, "nobody", &event("mixed", None), None), Err(StoreError::NotFound)));
    assert_eq!(bakes::log(&mut c, "b").unwrap().iter().map(|e| e.event.kind).collect::<Vec<_>>(), [EventKind::Mixed, EventKind::Undo]);
    for forbidden in ["UPDATE bake_events SET kind = 'out'", "DELETE FROM bake_events"] {
        assert!(c.batch_execute(forbidden).is_err(), "{forbidden}");
    }
}

#[test]
fn the_logbook_is_searched_by_name_and_signs_of_sql_are_letters() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    for (id, name) in [("1", "Skerry loaf"), ("2", "100 % rye"), ("3", "Watch rolls")] {
        bakes::begin(&mut c, &bakes::Kept { name: name.into(), ..bake(id) }).unwrap();
    }
    let mut find = |name: &str| bakes::count(&mut c, &bakes::Search { name: Some(name.into()), ..bakes::Search::default() }).unwrap();
    assert_eq!((find("loaf"), find("%"), find("_"), find("'; DROP TABLE bakes; --")), (1, 1, 0, 0));
    assert_eq!(bakes::count(&mut c, &bakes::Search::default()).unwrap(), 3);
}

#[test]
fn the_kitchen_is_one_row() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    assert_eq!(kitchen::get(&mut c).unwrap(), Kitchen::default());
    let k = Kitchen { name: "Skerry Light".into(), room_c: 19.5, ..Kitchen::default() };
    kitchen::put(&mut c, &k).unwrap();
    kitchen::put(&mut c, &k).unwrap();
    assert_eq!(kitchen::get(&mut c).unwrap(), k);
}

#[test]
fn a_book_of_a_newer_program_is_left_alone() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("household.db");
    let db = Database::open(&path).unwrap();
    let mut c = db.connection().unwrap();
    diesel::sql_query("INSERT INTO __diesel_schema_migrations (version) VALUES ('20991231000001')").execute(&mut *c).unwrap();
    drop((c, db));
    assert!(matches!(Database::open(&path), Err(StoreError::Newer)));
}

#[test]
fn writers_wait_for_each_other() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    bakes::begin(&mut db.connection().unwrap(), &bake("b")).unwrap();
    let write = |db: Database| {
        move || {
            (0..15).for_each(|_| {
                bakes::append(&mut db.connection().unwrap(), "b", &event("fold", None), None).unwrap();
            });
        }
    };
    let hands: Vec<_> = (0..4).map(|_| std::thread::spawn(write(db.clone()))).collect();
    hands.into_iter().for_each(|h| h.join().unwrap());
    let log = bakes::log(&mut db.connection().unwrap(), "b").unwrap();
    assert_eq!(log.iter().map(|e| e.seq).collect::<Vec<_>>(), (1..=60).collect::<Vec<_>>());
}

/// Not a test of its own: the other process of the next test. It appends until it is killed and
/// prints each number once it was acknowledged.
#[test]
fn appends_until_killed() {
    let Ok(path) = std::env::var("CEREALIS_KILLED_BOOK") else { return };
    let db = Database::open(std::path::Path::new(&path)).unwrap();
    let mut c = db.connection().unwrap();
    loop {
        let seq = append_one(&mut c);
        println!("kept {seq}");
    }
}

fn append_one(c: &mut SqliteConnection) -> i32 {
    bakes::append(c, "b", &event("fold", None), None).unwrap()
}

#[test]
fn every_acknowledged_event_survives_kill_9() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("household.db");
    bakes::begin(&mut Database::open(&path).unwrap().connection().unwrap(), &bake("b")).unwrap();
    let mut before = 0;
    for round in 0..5 {
        let mut child = Command::new(std::env::current_exe().unwrap())
            .args(["appends_until_killed", "--exact", "--nocapture"])
            .env("CEREALIS_KILLED_BOOK", &path)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut acknowledged = before;
        for line in BufReader::new(child.stdout.take().unwrap()).lines() {
            if let Some(seq) = line.unwrap().rsplit_once("kept ").and_then(|(_, n)| n.parse::<i32>().ok()) {
                acknowledged = seq;
                if seq >= before + 6 + round {
                    break;
                }
            }
        }
        child.kill().unwrap(); // SIGKILL
        child.wait().unwrap();
        let log = bakes::log(&mut Database::open(&path).unwrap().connection().unwrap(), "b").unwrap();
        let last = log.last().map_or(0, |e| e.seq);
        assert!(acknowledged > before && last >= acknowledged, "{acknowledged} was acknowledged, {last} is there");
        assert_eq!(log.len(), usize::try_from(last).unwrap(), "no gap");
        before = last;
    }
}

fn open() -> (tempfile::TempDir, Database) {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    (dir, db)
}

#[test]
fn the_logbook_stands_newest_first_and_in_pages() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    let one = bake("x");
    for i in 0..105_i64 {
        let made = Timestamp::from_second(now().as_second() + 60 * i).unwrap();
        bakes::begin(&mut c, &bakes::Kept { id: format!("{i:03}"), made, ..one.clone() }).unwrap();
    }
    let (first, total) =
        (bakes::list(&mut c, &bakes::Search::default()).unwrap(), bakes::count(&mut c, &bakes::Search::default()).unwrap());
    assert_eq!((first.len(), total, first[0].id.as_str()), (100, 105, "104"));
    let second = bakes::list(&mut c, &bakes::Search { page: 2, ..bakes::Search::default() }).unwrap();
    assert_eq!((second.len(), second[4].id.as_str()), (5, "000"));
    for page in [0, -5, i64::MAX] {
        assert!(bakes::list(&mut c, &bakes::Search { page, ..bakes::Search::default() }).is_ok(), "{page}");
    }
}

#[test]
fn bakes_are_found_by_style_and_by_day() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    let later = Timestamp::from_second(now().as_second() + 86_400).unwrap();
    bakes::begin(&mut c, &bake("1")).unwrap();
    bakes::begin(&mut c, &bakes::Kept { style: "rye".into(), made: later, ..bake("2") }).unwrap();
    let mut ids = |search: bakes::Search| bakes::list(&mut c, &search).unwrap().into_iter().map(|b| b.id).collect::<Vec<_>>();
    assert_eq!(ids(bakes::Search { style: Some("rye".into()), ..bakes::Search::default() }), ["2"]);
    assert_eq!(ids(bakes::Search { from: Some(later), ..bakes::Search::default() }), ["2"]);
    assert_eq!(ids(bakes::Search { to: Some(now()), ..bakes::Search::default() }), ["1"]);
    assert!(ids(bakes::Search { style: Some("lean".into()), from: Some(later), ..bakes::Search::default() }).is_empty());
}

#[test]
fn what_is_over_and_what_may_be_going_on_are_told_apart() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    for id in ["mixed", "over", "taken-back"] {
        bakes::begin(&mut c, &bake(id)).unwrap();
        bakes::append(&mut c, id, &event("mixed", None), None).unwrap();
    }
    for id in ["over", "taken-back"] {
        bakes::append(&mut c, id, &event("sliced", None), None).unwrap();
    }
    bakes::append(&mut c, "taken-back", &event("undo", Some(2.0)), None).unwrap();
    let mut ids = |sliced: bool, rows: i64| {
        let search = bakes::Search { sliced: Some(sliced), rows: Some(rows), ..bakes::Search::default() };
        let mut ids: Vec<String> = bakes::list(&mut c, &search).unwrap().into_iter().map(|b| b.id).collect();
        ids.sort();
        ids
    };
    assert_eq!(ids(true, 9), ["over", "taken-back"]);
    assert_eq!(ids(false, 9), ["mixed", "taken-back"], "a slicing that was taken back may be no slicing");
    assert_eq!(ids(true, 1).len(), 1);
}

#[test]
fn a_bake_is_over_by_its_log_in_whatever_order_it_was_noted() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    // Every log of up to four entries.
    let kinds = ["mixed", "sliced", "undo"];
    let mut logs: Vec<Vec<&str>> = vec![vec!["fold"]];
    for _ in 0..3 {
        let longer = logs.iter().flat_map(|l| kinds.map(|k| l.iter().copied().chain([k]).collect::<Vec<_>>()));
        logs.extend(longer.collect::<Vec<_>>());
    }
    logs.sort();
    logs.dedup();
    for (n, log) in logs.iter().enumerate() {
        let id = format!("bake-{n}");
        bakes::begin(&mut c, &bake(&id)).unwrap();
        for kind in log {
            let _ = bakes::append(&mut c, &id, &event(kind, Some(1.0)), None);
        }
        let kept = bakes::log(&mut c, &id).unwrap();
        let has = |kind: EventKind| kept.iter().any(|e| e.event.kind == kind);
        let search = bakes::Search { sliced: Some(false), rows: Some(500), ..bakes::Search::default() };
        let open = bakes::list(&mut c, &search).unwrap().iter().any(|b| b.id == id);
        assert_eq!(open, !has(EventKind::Sliced) || has(EventKind::Undo), "{log:?}");
    }
}

#[test]
fn a_bake_keeps_formula_and_plan_as_they_were() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    let beside = formulas::Beside { style: "lean".into(), flour_g: 500.0, now: now() };
    formulas::save(&mut c, "f", &body(), &beside).unwrap();
    bakes::begin(&mut c, &bake("b")).unwrap();
    let mut changed = body();
    changed.lines[0].grams = 900.0;
    formulas::save(&mut c, "f", &changed, &beside).unwrap();
    assert_eq!(bakes::get(&mut c, "b").unwrap().formula.lines[0].grams, 500.0);
}

#[test]
fn two_bakes_keep_two_logs() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    for id in ["a", "b"] {
        bakes::begin(&mut c, &bake(id)).unwrap();
    }
    assert_eq!(bakes::append(&mut c, "a", &event("mixed", None), Some("k")).unwrap(), 1);
    assert_eq!(bakes::append(&mut c, "b", &event("mixed", None), Some("k")).unwrap(), 1, "a key counts in its own bake");
    assert_eq!(bakes::append(&mut c, "a", &event("fold", None), None).unwrap(), 2);
    assert_eq!((bakes::log(&mut c, "a").unwrap().len(), bakes::log(&mut c, "b").unwrap().len()), (2, 1));
}

#[test]
fn everything_stands_there_after_opening_again() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("household.db");
    {
        let db = Database::open(&path).unwrap();
        let mut c = db.connection().unwrap();
        bakes::begin(&mut c, &bake("b")).unwrap();
        bakes::append(&mut c, "b", &event("mixed", None), None).unwrap();
        kitchen::put(&mut c, &Kitchen { name: "Skerry Light".into(), ..Kitchen::default() }).unwrap();
    }
    let db = Database::open(&path).unwrap();
    let mut c = db.connection().unwrap();
    assert_eq!(bakes::log(&mut c, "b").unwrap().len(), 1);
    assert_eq!(kitchen::get(&mut c).unwrap().name, "Skerry Light");
}

#[test]
fn the_same_bake_cannot_begin_twice() {
    let (_dir, db) = open();
    let mut c = db.connection().unwrap();
    bakes::begin(&mut c, &bake("b")).unwrap();
    assert!(bakes::begin(&mut c, &bake("b")).is_err());
    assert_eq!(bakes::count(&mut c, &bakes::Search::default()).unwrap(), 1);
}

#[test]
fn a_file_that_is_no_book_is_refused_and_left_alone() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("household.db");
    std::fs::write(&path, b"a shopping list, not a database, long enough to have a header of its own").unwrap();
    assert!(Database::open(&path).is_err());
    assert!(std::fs::read_to_string(&path).unwrap().starts_with("a shopping list"));
}

#[test]
fn every_version_stays_and_a_bread_put_away_can_be_taken_out_again() {
    let dir = tempfile::tempdir().unwrap();
    let db = Database::open(&dir.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    let beside =
        |days: i64| formulas::Beside { style: "lean".into(), flour_g: 500.0, now: now() + jiff::SignedDuration::from_hours(24 * days) };
    let mut second = body();
    second.note = Some("wetter".into());
    second.lines[1].grams = 360.0;
    assert_eq!(formulas::save(&mut c, "loaf", &body(), &beside(0)).unwrap(), 1);
    assert_eq!(formulas::save(&mut c, "loaf", &second, &beside(1)).unwrap(), 2);
    let all = formulas::versions(&mut c, "loaf").unwrap();
    assert_eq!(all.iter().map(|k| (k.version, k.body.lines[1].grams)).collect::<Vec<_>>(), [(2, 360.0), (1, 340.0)]);
    assert_eq!(formulas::version(&mut c, "loaf", 1).unwrap().body, body());
    for missing in [
        formulas::version(&mut c, "loaf", 3).map(drop),
        formulas::versions(&mut c, "cake").map(drop),
        formulas::retire(&mut c, "cake", None),
    ] {
        assert!(matches!(missing, Err(StoreError::NotFound)), "{missing:?}");
    }
    formulas::retire(&mut c, "loaf", Some(now())).unwrap();
    assert!(formulas::is_retired(&mut c, "loaf").unwrap() && formulas::list(&mut c).unwrap().is_empty());
    assert_eq!(formulas::listed(&mut c, formulas::Which::Retired).unwrap().len(), 1);
    assert_eq!(formulas::newest(&mut c, "loaf").unwrap().version, 2, "put away is not gone");
    formulas::retire(&mut c, "loaf", None).unwrap();
    assert_eq!(formulas::list(&mut c).unwrap().len(), 1);
}

#[test]
fn a_kitchen_is_changed_whole_or_not_at_all() {
    let folder = tempfile::tempdir().unwrap();
    let db = Database::open(&folder.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    let told = kitchen::update(&mut c, |k| Ok::<_, String>(Kitchen { tap_c: 9.0, ..k })).unwrap().unwrap();
    assert!((told.tap_c - 9.0).abs() < 1e-9);
    let refused = kitchen::update(&mut c, |_| Err("no".to_owned())).unwrap();
    assert_eq!(refused.unwrap_err(), "no");
    assert_eq!(kitchen::get(&mut c).unwrap(), told);
}

#[test]
fn own_things_are_told_anew_under_their_id() {
    let folder = tempfile::tempdir().unwrap();
    let db = Database::open(&folder.path().join("household.db")).unwrap();
    let mut c = db.connection().unwrap();
    let mill = OwnIngredient { name: "Harbour mill".into(), like: "wheat-bread".into(), ..OwnIngredient::default() };
    let tin = OwnPan { name: "Old tin".into(), shape: "loaf".into(), volume_ml: Some(1400.0), ..OwnPan::default() };
    shelf::put_ingredient(&mut c, &mill.id(), &mill).unwrap();
    shelf::put_pan(&mut c, &tin.id(), &tin).unwrap();
    let anew = OwnIngredient { protein_pct: Some(13.0), ..mill.clone() };
    shelf::put_ingredient(&mut c, &mill.id(), &anew).unwrap();
    let all = shelf::get(&mut c).unwrap();
    assert_eq!((all.ingredients, all.pans), (vec![("own-harbour-mill".to_owned(), anew)], vec![("own-old-tin".to_owned(), tin)]));
}
