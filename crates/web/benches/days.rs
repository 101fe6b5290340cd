//! How long the plan page takes on days and for breads drawn by lot, whole stack but the socket: the median and the worst of
//! five hundred. Aims: median 12 ms, worst 60 ms and five times the median, on a quiet machine.

#![expect(clippy::panic, reason = "a benchmark that cannot be set up must stop")]
#![expect(clippy::print_stdout, reason = "it tells what it measured")]

use std::{fmt::Display, time::Instant};

use actix_web::{dev::Service, test};
use cerealis_core::{
    Tables,
    kitchen::{Hours, HoursKind, Kitchen},
    plan::later,
    reader::{Choices, read},
};
use cerealis_store::{Database, formulas, kitchen};
use cerealis_web::{
    State,
    edge::{Clock, Household},
};
use jiff::{Timestamp, tz::TimeZone};

#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

const DAYS: usize = 500;
const NOW: &str = "2026-11-06T16:40:00Z";
const BREADS: [(&str, &str); 7] = [
    ("rolls", "500 g bread flour\n280 g milk\n9 g salt\n5 g instant yeast\n40 g butter\n30 g sugar\nMakes 12 rolls"),
    ("loaf", "500 g strong white flour\n340 g water\n10 g salt\n3 g instant yeast\nMakes 1 loaf"),
    (
        "sourdough",
        "420 g strong white flour\n60 g wholemeal flour\n330 g water\n100 g ripe leaven (100 % hydration)\n10 g salt\nMakes 1 loaf",
    ),
    ("rye", "400 g rye flour\n330 g water\n200 g ripe rye leaven (100 % hydration)\n10 g salt\nMakes 1 loaf"),
    ("plait", "500 g bread flour\n2 eggs\n180 g water\n60 g sugar\n50 g oil\n9 g salt\n6 g instant yeast\nMakes 1 plait"),
    ("brioche", "500 g bread flour\n5 eggs\n200 g butter\n60 g sugar\n10 g salt\n8 g instant yeast\nMakes 2 loaves"),
    ("flat", "500 g plain flour\n250 g water\n8 g salt\nMakes 8 flatbreads"),
];
const WANTS: [&str; 5] = ["", "sleep", "few-acts", "flavour", "soon"];

fn set<T, E: Display>(result: Result<T, E>) -> T {
    result.unwrap_or_else(|e| panic!("{e}"))
}

/// A household with hours of sleep and of work, a pantry and a fridge or not.
fn house(by: &mut fastrand::Rng) -> Kitchen {
    let hours = |name: &str, kind, days: Vec<u8>, from: u32, to: u32| Hours {
        name: name.to_owned(),
        kind,
        days,
        date: None,
        from: format!("{from:02}:00"),
        to: format!("{to:02}:30"),
    };
    let asleep = hours("sleep", HoursKind::Asleep, Vec::new(), by.u32(21..24), by.u32(5..8));
    let out = hours("work", HoursKind::Away, vec![1, 2, 3, 4, 5], by.u32(7..10), by.u32(14..18));
    Kitchen {
        room_c: f64::from(by.u32(16..27)),
        pantry_c: by.bool().then(|| f64::from(by.u32(8..16))),
        fridge_c: (by.u32(0..5) > 0).then_some(5.0),
        altitude_m: if by.u32(0..5) == 0 { 1900.0 } else { 0.0 },
        hours: if by.bool() { vec![asleep, out] } else { vec![asleep] },
        ..Kitchen::default()
    }
}

fn main() {
    let folder = set(tempfile::tempdir());
    let runtime = actix_web::rt::System::new();
    let db = set(Database::open(&folder.path().join("household.db")));
    let (tables, now): (_, Timestamp) = (set(Tables::built_in()), set(NOW.parse()));
    let mut c = set(db.connection());
    for (id, text) in BREADS {
        let formula = set(read(text, &Choices::default(), &[], &tables)).formula;
        let a = formula.analyse(&tables.pantry, &tables.styles);
        let beside = formulas::Beside { style: a.style.id.word().into(), flour_g: a.flour_g.likely, now };
        set(formulas::save(&mut c, id, &formula.body(), &beside));
    }
    let state = State::new(set(Household::open(tables, &db)), db, Clock::starting(now, 0));
    let app = runtime.block_on(test::init_service(cerealis_web::app(state)));
    let mut by = fastrand::Rng::with_seed(7);
    let ask = |path: &str| {
        runtime.block_on(async {
            let from = Instant::now();
            let response = app.call(test::TestRequest::get().uri(path).to_request()).await.unwrap_or_else(|e| panic!("{e}"));
            let body = test::read_body(response).await;
            assert!(!body.is_empty());
            1000.0 * from.elapsed().as_secs_f64()
        })
    };
    ask("/plan?formula=loaf");
    let mut all: Vec<(f64, String)> = (0..DAYS)
        .map(|_| {
            set(kitchen::put(&mut c, &house(&mut by)));
            let ready = later(now, f64::from(by.u32(2..60)) * 60.0).to_zoned(TimeZone::UTC).strftime("%Y-%m-%dT%H:%M").to_string();
            let bread = by.choice(BREADS).map_or("loaf", |b| b.0);
            let want = by.choice(WANTS).unwrap_or_default();
            let path = format!("/plan?formula={bread}&p[ready]={ready}&p[want]={want}");
            (ask(&path), path)
        })
        .collect();
    all.sort_by(|a, b| a.0.total_cmp(&b.0));
    let at = |share: usize| all.get((all.len() - 1) * share / 100).map_or(f64::NAN, |a| a.0);
    println!(
        "{DAYS} plan pages: median {:.1} ms, 95 in 100 within {:.1} ms, worst {:.1} ms = {:.1} times the median",
        at(50),
        at(95),
        at(100),
        at(100) / at(50)
    );
    for (ms, path) in all.iter().rev().take(5) {
        println!("  {ms:6.1} ms  {path}");
    }
}
