//! How fast the server answers a page, whole stack but the socket, in a household that has baked a
//! hundred times and has two doughs rising. Budget: 5 ms.

#![expect(clippy::panic, reason = "a benchmark that cannot be set up must stop")]

use std::{
    fmt::Display,
    io::{Read, Write},
    net::{TcpListener, TcpStream},
    path::Path,
    thread,
};

use actix_web::{dev::Service, test};
use cerealis_core::{
    Tables,
    bake::EventBody,
    formula::Formula,
    kitchen::Kitchen,
    plan::{Plan, PlanAsk, StepKind, later},
    reader::{Choices, read},
};
use cerealis_store::{Database, bakes, formulas, kitchen};
use cerealis_web::{
    Serves, State,
    edge::{Clock, Household},
    server,
};
use diesel::connection::SimpleConnection;
use jiff::Timestamp;

#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() {
    divan::main();
}

const ROLLS: &str =
    "500 g bread flour\n280 g milk\n2 tsp salt\n5 g instant yeast\n2 tbsp honey\n40 g butter\nMakes 12 rolls\nBake at 195 C for 15 minutes";
const LOAF: &str = "420 g strong white flour\n60 g wholemeal flour\n330 g water\n100 g ripe leaven (100 % hydration)\n10 g fine salt\nMakes 1 loaf\nBake at 230 C for 40 minutes";
const BAKED: i32 = 100;
const NOW: &str = "2026-11-06T16:40:00Z";

fn set<T, E: Display>(result: Result<T, E>) -> T {
    result.unwrap_or_else(|e| panic!("{e}"))
}

/// One bake, begun so many minutes before now; logged up to the slicing, or only mixed.
fn bake(db: &Database, id: &str, f: &Formula, before_min: f64, over: bool, t: &Tables) {
    let (k, now): (_, Timestamp) = (Kitchen::default(), set(NOW.parse()));
    let mut c = set(db.connection());
    let ask = PlanAsk::usual(f, &k, later(now, -before_min), t);
    let plan = set(Plan::make(f, &ask, &k, t));
    let style = f.analyse(&t.pantry, &t.styles).style.id.word().to_owned();
    let kept = bakes::Kept { id: id.into(), name: id.into(), style, formula: f.body(), plan: plan.clone(), made: ask.start, day: None };
    set(bakes::begin(&mut c, &kept));
    let mut log = |at: Timestamp, kind: &str, value: Option<f64>, stage: Option<&str>, what: Option<&str>| {
        let body = EventBody {
            kind: kind.into(),
            at: Some(at.to_string()),
            value,
            stage: stage.map(Into::into),
            what: what.map(Into::into),
            ..EventBody::default()
        };
        let event = body.check(now).unwrap_or_else(|e| panic!("{e:?}"));
        set(bakes::append(&mut c, id, &event, None));
    };
    let mixed = later(ask.start, ask.mix_min + 3.0);
    log(mixed, "mixed", None, None, None);
    log(later(mixed, 1.0), "temperature", Some(25.0), Some("dough"), None);
    if over {
        let at = |kind: StepKind| plan.step(kind).map_or(ask.start, |s| later(s.start, 8.0));
        for (kind, word) in [(StepKind::Shape, "shaped"), (StepKind::Load, "loaded"), (StepKind::Out, "out"), (StepKind::Ready, "sliced")] {
            log(at(kind), word, None, None, None);
        }
        log(at(StepKind::Ready), "colour", None, None, Some("golden"));
        log(at(StepKind::Ready), "rating", Some(4.0), None, None);
    }
}

fn used(t: &Tables, db: &Database) {
    let mut c = set(db.connection());
    let breads = [ROLLS, LOAF].map(|text| set(read(text, &Choices::default(), &[], t)).formula);
    let now: Timestamp = set(NOW.parse());
    for (f, id) in breads.iter().zip(["rolls", "loaf"]) {
        let a = f.analyse(&t.pantry, &t.styles);
        let beside = formulas::Beside { style: a.style.id.word().into(), flour_g: a.flour_g.likely, now };
        set(formulas::save(&mut c, id, &f.body(), &beside));
        bake(db, &format!("rising-{id}"), f, 100.0, false, t);
    }
    for (n, f) in (1..=BAKED).zip(breads.iter().cycle()) {
        bake(db, &format!("baked-{n}"), f, f64::from(n) * 1440.0, true, t);
    }
    set(kitchen::put(&mut c, &Kitchen::default()));
}

/// The same bakes a hundred times over, each time a hundred days earlier.
fn for_years(db: &Database) {
    let mut c = set(db.connection());
    set(c.batch_execute(
        "CREATE TEMP TABLE times AS WITH RECURSIVE n (x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n WHERE x < 99) SELECT x FROM n;
         INSERT INTO bakes (id, name, style, formula, plan, made_ms)
             SELECT id || '-' || x, name, style, formula, plan, made_ms - x * 8640000000 FROM bakes, times WHERE id LIKE 'baked-%';
         INSERT INTO bake_events (bake_id, seq, at_ms, kind, body)
             SELECT bake_id || '-' || x, seq, at_ms - x * 8640000000, kind, body FROM bake_events, times WHERE bake_id LIKE 'baked-%';",
    ));
}

fn answer(b: divan::Bencher<'_, '_>, request: impl Fn() -> test::TestRequest) {
    answer_after(b, request, |_| {});
}

/// A household that is in use.
fn household(folder: &Path, more: impl Fn(&Database)) -> State {
    let db = set(Database::open(&folder.join("household.db")));
    let tables = set(Tables::built_in());
    used(&tables, &db);
    more(&db);
    State::new(set(Household::open(tables, &db)), db, Clock::starting(set(NOW.parse()), 0))
}

fn answer_after(b: divan::Bencher<'_, '_>, request: impl Fn() -> test::TestRequest, more: impl Fn(&Database)) {
    let folder = set(tempfile::tempdir());
    let runtime = actix_web::rt::System::new();
    let state = household(folder.path(), more);
    let app = runtime.block_on(test::init_service(cerealis_web::app(state)));
    b.bench_local(|| {
        runtime.block_on(async {
            let response = app.call(request().to_request()).await.unwrap_or_else(|e| panic!("{e}"));
            assert!(response.status().is_success(), "{}", response.status());
            test::read_body(response).await
        })
    });
}

#[divan::bench(args = ["/", "/formula", "/formula/loaf", "/plan?formula=loaf", "/bakeday/rising-loaf", "/oven?formula=loaf", "/logbook", "/logbook/baked-7", "/sources"])]
fn page(b: divan::Bencher<'_, '_>, path: &str) {
    answer(b, || test::TestRequest::get().uri(path));
}

/// A page as a browser gets it: packed, over a socket that stays open. Were its pieces held back, it would take the forty
/// milliseconds for which acknowledgements wait.
#[divan::bench(args = ["/", "/formula/loaf", "/bakeday/rising-loaf"])]
fn page_over_a_socket(b: divan::Bencher<'_, '_>, path: &str) {
    let folder = set(tempfile::tempdir());
    let state = household(folder.path(), |_| {});
    let listener = set(TcpListener::bind("127.0.0.1:0"));
    let at = set(listener.local_addr());
    thread::spawn(move || {
        set(actix_web::rt::System::new().block_on(async { set(server(vec![listener], state, Serves::Household)).await }));
    });
    let mut line = set(TcpStream::connect(at));
    let request = format!("GET {path} HTTP/1.1\r\nHost: {at}\r\nAccept-Encoding: gzip\r\n\r\n");
    b.bench_local(|| {
        set(line.write_all(request.as_bytes()));
        whole_answer(&mut line)
    });
}

/// Reads one answer to its end, by the length it tells.
fn whole_answer(line: &mut TcpStream) -> usize {
    let (mut got, mut piece) = (Vec::new(), [0; 65_536]);
    loop {
        let head = got.windows(4).position(|w| w == b"\r\n\r\n");
        if let Some(head) = head {
            let told = String::from_utf8_lossy(got.split_at(head).0).to_ascii_lowercase();
            let length = told.split("content-length: ").nth(1).and_then(|l| l.split('\r').next()).unwrap_or_default();
            let whole = head + 4 + set(length.trim().parse::<usize>());
            if got.len() >= whole {
                return whole;
            }
        }
        let read = set(line.read(&mut piece));
        got.extend_from_slice(piece.split_at(read).0);
    }
}

/// After ten thousand bakes, thirty years of daily bread: within twice what the same page takes after a hundred.
#[divan::bench(args = ["/", "/formula", "/plan?formula=loaf", "/bakeday", "/bakeday/rising-loaf", "/oven?formula=loaf", "/logbook", "/logbook?page=800", "/api/v1/bakes?q=baked"])]
fn page_after_ten_thousand_bakes(b: divan::Bencher<'_, '_>, path: &str) {
    answer_after(b, || test::TestRequest::get().uri(path), for_years);
}

fn read_page(b: divan::Bencher<'_, '_>, text: &str) {
    let text = text.replace(' ', "+").replace('%', "%25").replace('\n', "%0A");
    answer(b, || {
        test::TestRequest::post()
            .uri("/formula/read")
            .insert_header(("content-type", "application/x-www-form-urlencoded"))
            .set_payload(format!("text={text}"))
    });
}

#[divan::bench]
fn formula_read(b: divan::Bencher<'_, '_>) {
    read_page(b, ROLLS);
}

/// The longest recipe one meets: sixty lines, with rises, a bake and spices without end.
#[divan::bench]
fn formula_read_sixty_lines(b: divan::Bencher<'_, '_>) {
    let spices = ["cinnamon", "nutmeg", "raisins", "walnuts", "honey", "sesame seeds", "rye flour", "milk", "butter"];
    let lines: String = spices.iter().cycle().take(48).enumerate().map(|(i, what)| format!("{} g {what}\n", 3 + i)).collect();
    let steps = "Mix.\nKnead 10 minutes.\nLet rise 2 hours.\nShape into 2 loaves of 700 g.\nProve 1 hour.\nHeat the oven.\nBake at 190 C for 50 minutes.\nCool on a rack.";
    read_page(b, &format!("900 g bread flour\n500 g water\n18 g salt\n9 g instant yeast\n{lines}\n{steps}"));
}
