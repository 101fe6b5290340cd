//! The search for plans over a week: yeast and leaven, with and without a way out.

#![expect(clippy::panic, reason = "a benchmark that cannot be set up must stop")]

use cerealis_core::{
    Tables,
    formula::{FormulaBody, FormulaDraft},
    kitchen::{Hours, HoursKind, Kitchen, Night},
    plan::{
        Actual, Plan, PlanAsk,
        replan::OnTheDay,
        search::{
            answer::fit,
            ask::{AwayAsk, FitAsk},
            hours::AwayKind,
        },
    },
};
use jiff::Timestamp;

#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

const LEAN: &str = r#"{"lines":[{"ingredient":"wheat-bread","grams":500},{"ingredient":"water","grams":340},
  {"ingredient":"salt-fine","grams":10},{"ingredient":"yeast-instant","grams":3}],"pieces":{"count":1,"shape":"batard","vessel":"stone"}}"#;
const SOUR: &str = r#"{"lines":[{"ingredient":"wheat-bread","grams":450},{"ingredient":"wheat-whole","grams":50},{"ingredient":"water","grams":350},
  {"ingredient":"leaven-wheat","grams":100},{"ingredient":"salt-fine","grams":10}],"pieces":{"count":1,"shape":"batard","vessel":"pot"}}"#;

const POOLISH: &str = r#"{"lines":[{"ingredient":"wheat-bread","grams":150,"stage":"preferment"},{"ingredient":"water","grams":150,"stage":"preferment"},
  {"ingredient":"yeast-instant","grams":0.15,"stage":"preferment"},{"ingredient":"wheat-bread","grams":350},{"ingredient":"water","grams":190},
  {"ingredient":"salt-fine","grams":10},{"ingredient":"yeast-instant","grams":2}],"pieces":{"count":1,"shape":"batard","vessel":"stone"}}"#;

fn main() {
    divan::main();
}

fn at(hour: i64) -> Timestamp {
    Timestamp::from_second(1_767_571_200 + 3600 * hour).unwrap_or(Timestamp::UNIX_EPOCH)
}

/// A working week, asleep from 23 to 6, out from 8 to 17.
fn week(kitchen: &Kitchen, ready_h: i64) -> FitAsk {
    let day = |d: i64| {
        let of = |from: i64, to: i64, kind| AwayAsk { from: at(24 * d + from), to: at(24 * d + to), kind };
        [of(-1, 6, AwayKind::Asleep), of(8, 17, AwayKind::Away)]
    };
    FitAsk { ready_at: Some(at(ready_h)), away: (0..8).flat_map(day).collect(), ..FitAsk::soon(at(0), kitchen) }
}

fn search(b: divan::Bencher<'_, '_>, formula: &str, ready_h: i64, night: Option<Night>) {
    let t = Tables::built_in().unwrap_or_else(|e| panic!("{e}"));
    let body: FormulaBody = serde_json::from_str(formula).unwrap_or_else(|e| panic!("{e}"));
    let formula = FormulaDraft::from(body).check(&t.pantry).unwrap_or_else(|e| panic!("{e:?}"));
    let kitchen = Kitchen { scale_step_g: 0.1, night, ..Kitchen::default() };
    let ask = week(&kitchen, ready_h).with_nights(&kitchen);
    b.bench_local(|| fit(divan::black_box(&formula), &ask, &kitchen, &t, &|at| at.to_string()));
}

#[divan::bench]
fn lean_for_the_end_of_a_week(b: divan::Bencher<'_, '_>) {
    search(b, LEAN, 7 * 24 - 4, None);
}

/// Where the nights are five degrees colder each wait is solved for its own hours.
#[divan::bench]
fn lean_in_a_kitchen_that_cools(b: divan::Bencher<'_, '_>) {
    let night = Night { from: "22:30".into(), to: "06:00".into(), room_c: 16.0, pantry_c: 12.0 };
    search(b, LEAN, 7 * 24 - 4, Some(night));
}

#[divan::bench]
fn sourdough_for_the_end_of_a_week(b: divan::Bencher<'_, '_>) {
    search(b, SOUR, 7 * 24 - 4, None);
}

#[divan::bench]
fn poolish_for_the_end_of_a_week(b: divan::Bencher<'_, '_>) {
    search(b, POOLISH, 7 * 24 - 4, None);
}

#[divan::bench]
fn no_plan_and_what_would_have_to_give(b: divan::Bencher<'_, '_>) {
    search(b, LEAN, 5, None);
}

/// A lean dough mixed at half past nine in the evening, over long before anybody is up: the rest planned anew.
#[divan::bench]
fn the_rest_of_a_bake_nobody_is_there_for(b: divan::Bencher<'_, '_>) {
    let t = Tables::built_in().unwrap_or_else(|e| panic!("{e}"));
    let body: FormulaBody = serde_json::from_str(LEAN).unwrap_or_else(|e| panic!("{e}"));
    let formula = FormulaDraft::from(body).check(&t.pantry).unwrap_or_else(|e| panic!("{e:?}"));
    let (from, to) = ("22:30".to_owned(), "06:30".to_owned());
    let asleep = Hours { name: "asleep".into(), kind: HoursKind::Asleep, days: (0..7).collect(), date: None, from, to };
    let kitchen = Kitchen { zone: "UTC".into(), hours: vec![asleep], scale_step_g: 0.1, ..Kitchen::default() };
    let ask = PlanAsk::usual(&formula, &kitchen, at(21), &t);
    let plan = Plan::make(&formula, &ask, &kitchen, &t).unwrap_or_else(|e| panic!("{e:?}"));
    let actual = Actual { mixed: Some(at(21)), ..Actual::default() };
    let course = plan.course(&formula, &actual, &kitchen, &t).unwrap_or_else(|e| panic!("{e:?}"));
    let now = at(22);
    let day =
        OnTheDay { plan: &plan, course: &course, formula: &formula, actual: &actual, kitchen: &kitchen, tables: &t, now, beside: &[] };
    b.bench_local(|| divan::black_box(&day).replan());
}
