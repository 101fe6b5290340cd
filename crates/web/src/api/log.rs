//! What the logs of bakes and of jars share: how an event is written, what a request that appends one must hold.

use actix_web::HttpRequest;
use cerealis_core::input::{InputErrors, Pointer};
use jiff::Timestamp;
use serde::Serialize;
use serde_json::{Value, json};

use crate::edge::Local;

const LONGEST_KEY: usize = 200;

/// An event of a log: what was sent, its number, and its moment with the household's offset.
pub(super) fn event(seq: i32, at: Timestamp, body: &impl Serialize, local: &Local) -> Value {
    let mut event = serde_json::to_value(body).unwrap_or_default();
    if let Some(object) = event.as_object_mut() {
        object.insert("seq".into(), json!(seq));
        object.insert("at".into(), json!(local.rfc3339(at)));
    }
    event
}

/// The key under which an event is appended once, if one is sent.
///
/// # Errors
/// A key that is empty, too long, or has other letters than ASCII.
pub(super) fn idempotency_key(request: &HttpRequest) -> Result<Option<String>, InputErrors> {
    let Some(sent) = request.headers().get("Idempotency-Key") else { return Ok(None) };
    match sent.to_str() {
        Ok(key) if (1..=LONGEST_KEY).contains(&key.len()) => Ok(Some(key.to_owned())),
        _ => Err(InputErrors::one(Pointer::root(), format!("An Idempotency-Key has 1 to {LONGEST_KEY} plain letters (ASCII)."))),
    }
}

/// A call tells when a thing happened; only a page may leave it to the clock.
///
/// # Errors
/// Where no moment is told.
pub(super) fn told(at: Option<&String>) -> Result<(), InputErrors> {
    let words = "Say when it happened, with the offset, for example 2026-11-06T18:31:00+00:00.";
    at.map(|_| ()).ok_or_else(|| InputErrors::one(Pointer::root().at("at"), words))
}
