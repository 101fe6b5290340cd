//! How fast the server answers a page, whole stack but the socket. Budget: 5 ms.

#![expect(clippy::panic, reason = "a benchmark that cannot be set up must stop")]

use std::sync::Arc;

use actix_web::{dev::Service, test};
use cerealis_core::Tables;
use cerealis_store::Database;
use cerealis_web::{
    State,
    edge::{Clock, Guard},
};

fn main() {
    divan::main();
}

const RECIPE: &str = "text=500+g+bread+flour%0A340+g+water%0A2+tsp+salt%0A4+g+instant+yeast%0A2+tbsp+honey%0A30+g+butter%0AMakes+12+rolls%0ABake+at+200+C+for+15+minutes";

fn answer(b: divan::Bencher<'_, '_>, request: impl Fn() -> test::TestRequest) {
    let folder = tempfile::tempdir().unwrap_or_else(|e| panic!("{e}"));
    let runtime = actix_web::rt::System::new();
    let db = Database::open(&folder.path().join("household.db")).unwrap_or_else(|e| panic!("{e}"));
    let state = State {
        tables: Arc::new(Tables::built_in().unwrap_or_else(|e| panic!("{e}"))),
        db,
        clock: Clock::system(),
        guard: Guard::default(),
    };
    let app = runtime.block_on(test::init_service(cerealis_web::app(state)));
    b.bench_local(|| {
        runtime.block_on(async {
            let response = app.call(request().to_request()).await.unwrap_or_else(|e| panic!("{e}"));
            assert!(response.status().is_success());
            test::read_body(response).await
        })
    });
}

#[divan::bench]
fn today(b: divan::Bencher<'_, '_>) {
    answer(b, || test::TestRequest::get().uri("/"));
}

#[divan::bench]
fn formula_read(b: divan::Bencher<'_, '_>) {
    answer(b, || {
        test::TestRequest::post()
            .uri("/formula/read")
            .insert_header(("content-type", "application/x-www-form-urlencoded"))
            .set_payload(RECIPE)
    });
}
