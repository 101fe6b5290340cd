//! Households made by every released version, kept beside this file: each opens whole, and nothing it held is lost.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, clippy::indexing_slicing, reason = "tests")]

use std::path::{Path, PathBuf};

use cerealis_core::{
    bake::EventBody,
    formula::FormulaBody,
    kitchen::Kitchen,
    leaven::{JarBody, JarEventBody},
    pantry::{OwnIngredient, OwnPan},
    plan::Plan,
};
use cerealis_store::{
    Database, StoreError,
    bodies::{self, Kept},
};
use diesel::{RunQueryDsl, connection::SimpleConnection, sql_types::Text};
use serde_json::Value;

/// The households, and copies of them to open.
fn households() -> Vec<(String, PathBuf, tempfile::TempDir)> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/households");
    let files = std::fs::read_dir(folder).unwrap().map(|f| f.unwrap().path());
    let all: Vec<_> = files
        .map(|made| {
            let here = tempfile::tempdir().unwrap();
            let copy = here.path().join("household.db");
            std::fs::copy(&made, &copy).unwrap();
            (made.file_name().unwrap().to_string_lossy().into_owned(), copy, here)
        })
        .collect();
    assert!(!all.is_empty());
    all
}

#[derive(diesel::QueryableByName)]
struct Row {
    #[diesel(sql_type = Text)]
    body: String,
}

/// A body without its version and without what is not said.
fn said(text: &str) -> Value {
    fn strip(value: &mut Value) {
        match value {
            Value::Object(map) => {
                map.retain(|_, v| !v.is_null());
                map.values_mut().for_each(strip);
            }
            Value::Array(list) => list.iter_mut().for_each(strip),
            _ => {}
        }
    }
    let mut value: Value = serde_json::from_str(text).unwrap();
    value.as_object_mut().unwrap().remove("v");
    strip(&mut value);
    value
}

/// Of what is written today what was written then: fields that came later are left out.
fn known(now: &Value, then: &Value) -> Value {
    match (now, then) {
        (Value::Object(now), Value::Object(then)) => {
            now.iter().filter_map(|(k, v)| Some((k.clone(), known(v, then.get(k)?)))).collect::<serde_json::Map<_, _>>().into()
        }
        (Value::Array(now), Value::Array(then)) if now.len() == then.len() => now.iter().zip(then).map(|(n, t)| known(n, t)).collect(),
        (now, _) => now.clone(),
    }
}

/// What a household no longer tells, and why.
/// `mix_min`: how long a dough is kneaded follows from the dough.
const NO_LONGER: &[(&str, &str)] = &[("kitchen", "mix_min")];

fn nothing_is_lost<T: Kept>(db: &Database, table: &str, column: &str) {
    let mut c = db.connection().unwrap();
    let rows: Vec<Row> = diesel::sql_query(format!("SELECT {column} AS body FROM {table}")).load(&mut c).unwrap();
    assert!(!rows.is_empty(), "{table} holds nothing to look at");
    for Row { body } in rows {
        let again = bodies::write(&bodies::read::<T>(&body).unwrap_or_else(|e| panic!("{table}: {e}: {body}"))).unwrap();
        // What a later version adds stands beside it.
        let mut then = said(&body);
        for (_, field) in NO_LONGER.iter().filter(|(of, _)| *of == table) {
            then.as_object_mut().unwrap().remove(*field);
        }
        assert_eq!(known(&said(&again), &then), then, "{table}");
    }
}

#[test]
fn every_figure_of_every_released_version_is_still_there() {
    for (version, path, _here) in households() {
        let db = Database::open(&path).unwrap_or_else(|e| panic!("{version}: {e}"));
        nothing_is_lost::<FormulaBody>(&db, "formula_versions", "body");
        nothing_is_lost::<FormulaBody>(&db, "bakes", "formula");
        nothing_is_lost::<Plan>(&db, "bakes", "plan");
        nothing_is_lost::<EventBody>(&db, "bake_events", "body");
        nothing_is_lost::<JarBody>(&db, "leavens", "body");
        nothing_is_lost::<JarEventBody>(&db, "leaven_events", "body");
        nothing_is_lost::<Kitchen>(&db, "kitchen", "body");
        nothing_is_lost::<OwnIngredient>(&db, "household_ingredients", "body");
        nothing_is_lost::<OwnPan>(&db, "household_pans", "body");
    }
}

#[test]
fn a_household_of_a_newer_program_is_left_untouched() {
    for (_, path, here) in households() {
        let mut c = <diesel::SqliteConnection as diesel::Connection>::establish(path.to_str().unwrap()).unwrap();
        c.batch_execute("INSERT INTO __diesel_schema_migrations (version) VALUES ('29990101000001')").unwrap();
        drop(c);
        let before = std::fs::read(&path).unwrap();
        let Err(e) = Database::open(&path) else { panic!("it was opened") };
        assert!(matches!(e, StoreError::Newer), "{e}");
        assert!(e.to_string().contains("newer Cerealis"), "{e}");
        assert!(std::fs::read(&path).unwrap() == before, "the file was changed");
        let files: Vec<_> = std::fs::read_dir(here.path()).unwrap().map(|f| f.unwrap().file_name()).collect();
        assert_eq!(files.len(), 1, "nothing is left beside it: {files:?}");
    }
}

#[test]
fn a_household_that_another_holds_for_a_moment_is_waited_for() {
    for (version, path, _here) in households() {
        let mut other = <diesel::SqliteConnection as diesel::Connection>::establish(path.to_str().unwrap()).unwrap();
        other.batch_execute("BEGIN EXCLUSIVE").unwrap();
        std::thread::scope(|s| {
            s.spawn(move || {
                std::thread::sleep(std::time::Duration::from_millis(300));
                other.batch_execute("COMMIT").unwrap();
            });
            Database::open(&path).unwrap_or_else(|e| panic!("{version}: {e}"));
        });
    }
}
