//! Everything out of the household's file.

use std::collections::HashMap;

use cerealis_core::kitchen::Kitchen;
use diesel::prelude::*;
use jiff::Timestamp;

use super::{
    Archive, BakeRecord, EventRecord, FormulaRecord, IngredientRecord, JarEventRecord, JarRecord, Kind, KitchenRecord, PanRecord,
    UnreadableRecord, VERSION, VersionRecord, WordRecord,
};
use crate::{
    StoreError,
    bodies::{self, Kept},
    schema::{
        bake_events, bakes, formula_versions, formulas, household_ingredients, household_pans, household_words, kitchen, leaven_events,
        leavens,
    },
};

/// What cannot be read on the way.
#[derive(Default)]
struct Unreadable(Vec<UnreadableRecord>);

impl Unreadable {
    fn read<T: Kept>(&mut self, of: impl FnOnce() -> String, text: &str) -> Option<T> {
        bodies::read(text).map_err(|e| self.0.push(UnreadableRecord { of: of(), text: text.to_owned(), why: e.to_string() })).ok()
    }
    fn at(&mut self, of: impl FnOnce() -> String, ms: i64) -> Option<Timestamp> {
        Timestamp::from_millisecond(ms)
            .map_err(|e| self.0.push(UnreadableRecord { of: of(), text: ms.to_string(), why: e.to_string() }))
            .ok()
    }
}

/// Everything a household keeps, as it is at one moment. What cannot be read is told, and takes nothing else with it.
///
/// # Errors
/// If the database does not answer.
pub fn collect(db: &mut SqliteConnection, now: Timestamp) -> Result<Archive, StoreError> {
    db.transaction(|db| {
        let mut unreadable = Unreadable::default();
        let kitchen: Option<String> = kitchen::table.find(1).select(kitchen::body).first(db).optional()?;
        let kitchen = kitchen.and_then(|b| unreadable.read::<Kitchen>(|| "kitchen".into(), &b)).map(|body| KitchenRecord { body });
        let formulas = formulas_of(db, &mut unreadable)?;
        let bakes = bakes_of(db, &mut unreadable)?;
        let jars = jars_of(db, &mut unreadable)?;
        let own: Vec<(String, String)> = household_ingredients::table.order(household_ingredients::id).load(db)?;
        let ingredient = |(id, body): (String, String)| {
            let body = unreadable.read(|| format!("ingredient {id}"), &body)?;
            Some(IngredientRecord { id, body })
        };
        let ingredients = own.into_iter().filter_map(ingredient).collect();
        let own: Vec<(String, String)> = household_pans::table.order(household_pans::id).load(db)?;
        let pan = |(id, body): (String, String)| {
            let body = unreadable.read(|| format!("pan {id}"), &body)?;
            Some(PanRecord { id, body })
        };
        let pans = own.into_iter().filter_map(pan).collect();
        let words: Vec<(String, String)> =
            household_words::table.order(household_words::word).select((household_words::said, household_words::ingredient)).load(db)?;
        let words = words.into_iter().map(|(said, ingredient)| WordRecord { said, ingredient }).collect();
        Ok(Archive {
            archive: Kind::Household,
            v: VERSION,
            written: now,
            kitchen,
            ingredients,
            pans,
            words,
            formulas,
            bakes,
            jars,
            unreadable: unreadable.0,
        })
    })
}

/// An entry of a log as it stands in its row.
type Entry = (i32, i64, String, Option<String>);

/// Rows of many things, by the thing they are of, in their order.
fn by_id<T>(rows: Vec<(String, T)>) -> HashMap<String, Vec<T>> {
    let mut found: HashMap<String, Vec<T>> = HashMap::new();
    for (id, row) in rows {
        found.entry(id).or_default().push(row);
    }
    found
}

fn formulas_of(db: &mut SqliteConnection, unreadable: &mut Unreadable) -> Result<Vec<FormulaRecord>, StoreError> {
    let all: Vec<(String, Option<i64>)> = formulas::table.order(formulas::id).select((formulas::id, formulas::retired_ms)).load(db)?;
    use formula_versions as v;
    type Row = (i32, String, i64, String, f64);
    let rows =
        v::table.order((v::formula_id, v::version)).select((v::formula_id, (v::version, v::body, v::saved_ms, v::style, v::flour_g)));
    let mut rows = by_id::<Row>(rows.load(db)?);
    let mut found = Vec::with_capacity(all.len());
    for (id, retired) in all {
        let version = |(version, body, saved, style, flour_g): Row| {
            let of = || format!("formula {id}, version {version}");
            Some(VersionRecord { version, saved: unreadable.at(of, saved)?, style, flour_g, body: unreadable.read(of, &body)? })
        };
        let versions = rows.remove(&id).unwrap_or_default().into_iter().filter_map(version).collect();
        let retired = retired.and_then(|ms| unreadable.at(|| format!("formula {id}"), ms));
        found.push(FormulaRecord { id, retired, versions });
    }
    Ok(found)
}

fn bakes_of(db: &mut SqliteConnection, unreadable: &mut Unreadable) -> Result<Vec<BakeRecord>, StoreError> {
    type Row = (String, String, String, String, String, i64, Option<String>);
    let columns = (bakes::id, bakes::name, bakes::style, bakes::formula, bakes::plan, bakes::made_ms, bakes::day);
    let all: Vec<Row> = bakes::table.order((bakes::made_ms, bakes::id)).select(columns).load(db)?;
    use bake_events as e;
    let mut logs =
        by_id(e::table.order((e::bake_id, e::seq)).select((e::bake_id, (e::seq, e::at_ms, e::body, e::idempotency_key))).load(db)?);
    let mut found = Vec::with_capacity(all.len());
    for (id, name, style, formula, plan, made, day) in all {
        let event = |(seq, at, body, key): Entry| {
            let of = || format!("bake {id}, entry {seq}");
            Some(EventRecord { seq, at: unreadable.at(of, at)?, body: unreadable.read(of, &body)?, key })
        };
        let log = logs.remove(&id).unwrap_or_default().into_iter().filter_map(event).collect();
        let of = || format!("bake {id}");
        let (formula, plan, made) = (unreadable.read(of, &formula), unreadable.read(of, &plan), unreadable.at(of, made));
        if let (Some(formula), Some(plan), Some(made)) = (formula, plan, made) {
            found.push(BakeRecord { id, name, style, made, day, formula, plan, log });
        }
    }
    Ok(found)
}

fn jars_of(db: &mut SqliteConnection, unreadable: &mut Unreadable) -> Result<Vec<JarRecord>, StoreError> {
    type Row = (String, String, i64, Option<i64>);
    let all: Vec<Row> = leavens::table.order((leavens::made_ms, leavens::id)).load(db)?;
    use leaven_events as e;
    let mut logs =
        by_id(e::table.order((e::leaven_id, e::seq)).select((e::leaven_id, (e::seq, e::at_ms, e::body, e::idempotency_key))).load(db)?);
    let mut found = Vec::with_capacity(all.len());
    for (id, body, made, retired) in all {
        let event = |(seq, at, body, key): Entry| {
            let of = || format!("jar {id}, entry {seq}");
            Some(JarEventRecord { seq, at: unreadable.at(of, at)?, body: unreadable.read(of, &body)?, key })
        };
        let log = logs.remove(&id).unwrap_or_default().into_iter().filter_map(event).collect();
        let of = || format!("jar {id}");
        let retired = retired.and_then(|ms| unreadable.at(of, ms));
        if let (Some(body), Some(made)) = (unreadable.read(of, &body), unreadable.at(of, made)) {
            found.push(JarRecord { id, made, retired, body, log });
        }
    }
    Ok(found)
}
