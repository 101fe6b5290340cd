//! Shipped files, embedded: compressed when built, addressed by content hash, kept for a year.

use std::{collections::HashMap, sync::OnceLock};

use actix_web::{
    HttpRequest, HttpResponse, Responder,
    http::header::{CACHE_CONTROL, VARY},
    middleware::DefaultHeaders,
    web::{self, ServiceConfig},
};
use actix_web_rust_embed_responder::{EmbedResponse, EmbedableFileResponse, IntoResponse};
use rust_embed_for_web::{EmbedableFile, RustEmbed};

use super::{Failure, PageFailure};

#[derive(RustEmbed)]
#[folder = "static/"]
struct Files;

/// Every file a page names; the table of hashes is made once.
const NAMED: &[&str] = &[
    "vendor/bootstrap/bootstrap.min.css",
    "vendor/besley/wght.css",
    "vendor/besley/wght-italic.css",
    "vendor/atkinson/wght.css",
    "vendor/alpine/alpine-csp.min.js",
    "vendor/alpine-ajax/alpine-ajax.min.js",
    "css/tokens.css",
    "css/page.css",
    "css/formula.css",
    "css/plan.css",
    "css/oven.css",
    "css/bakeday.css",
    "css/logbook.css",
    "css/phone.css",
    "css/print.css",
    "css/pantry.css",
    "css/label.css",
    "css/kitchen.css",
    "css/kneading.css",
    "css/ways.css",
    "css/sheet.css",
    "css/leaven.css",
    "js/theme.js",
    "js/letters.js",
    "js/app.js",
    "icon.svg",
    "cerealis.webmanifest",
];

fn hashes() -> &'static HashMap<&'static str, String> {
    static HASHES: OnceLock<HashMap<&'static str, String>> = OnceLock::new();
    HASHES.get_or_init(|| {
        let hash = |path: &str| {
            Files::get(path).map(|f| f.etag().bytes().map(|b| format!("{b:02x}")).collect::<String>().chars().take(40).collect())
        };
        NAMED.iter().filter_map(|p| hash(p).map(|h: String| (*p, h))).collect()
    })
}

/// Address of a file with its hash.
#[must_use]
pub fn address(path: &str) -> String {
    hashes().get(path).map_or_else(|| format!("/static/{path}"), |h| format!("/static/{path}?v={h}"))
}

/// Whether every file a page names is there.
#[must_use]
pub fn all_there() -> bool {
    NAMED.iter().all(|p| Files::get(p).is_some())
}

/// Routes of the shipped files.
pub fn routes(app: &mut ServiceConfig) {
    // The same address gives packed and plain.
    let varies = DefaultHeaders::new().add((VARY, "accept-encoding"));
    app.service(web::resource("/static/{path:.*}").wrap(varies).route(web::get().to(file)));
}

async fn file(path: web::Path<String>, request: HttpRequest) -> Result<HttpResponse, PageFailure> {
    let Some(found) = Files::get(&path) else { return Err(PageFailure(Failure::NotFound)) };
    let answer: EmbedResponse<EmbedableFileResponse> = Some(found).into_response();
    // Without a hash (the fonts a style sheet names) the browser asks each time and mostly hears 304.
    let versioned = request.query_string().starts_with("v=") && !cfg!(debug_assertions);
    let caching = if versioned { "public, max-age=31536000, immutable" } else { "no-cache" };
    Ok(answer.customize().insert_header((CACHE_CONTROL, caching)).respond_to(&request).map_into_boxed_body())
}
