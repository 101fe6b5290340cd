//! A JSON body: its errors have a pointer, a status by the contract and a baker's words.

use std::future::Future;
use std::pin::Pin;

use actix_web::{
    FromRequest, HttpRequest,
    dev::Payload,
    error::PayloadError,
    http::{StatusCode, header},
    web,
};
use cerealis_core::input::{Pointer, quoting};
use serde::de::DeserializeOwned;
use serde_path_to_error::Segment;

use super::{BODY_LIMIT, Failure, PageFailure};

/// Longest name of a field that is said back, letters.
const LONGEST_FIELD: usize = 60;
/// Most fields of a form: the largest sheet has two thousand.
const MOST_FIELDS: usize = 4000;

/// A JSON body, read.
#[derive(Debug)]
pub struct Sent<T>(pub T);

pub(super) fn unreadable(status: StatusCode, detail: impl Into<String>) -> Failure {
    Failure::Unreadable { status, detail: quoting(detail), pointer: None }
}

impl<T: DeserializeOwned + 'static> FromRequest for Sent<T> {
    type Error = Failure;
    type Future = Pin<Box<dyn Future<Output = Result<Self, Failure>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let json = media_type(request) == "application/json";
        let body = web::Bytes::from_request(request, payload);
        Box::pin(async move {
            if !json {
                return Err(unreadable(StatusCode::UNSUPPORTED_MEDIA_TYPE, "Send it as application/json."));
            }
            let bytes = body.await.map_err(|e| broken(&e))?;
            read(&bytes).map(Self)
        })
    }
}

/// The media type of a body, lower case, without its parameters.
fn media_type(request: &HttpRequest) -> String {
    let kind = request.headers().get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
    kind.split(';').next().unwrap_or_default().trim().to_ascii_lowercase()
}

/// UTF-8, or the sentence that it is none.
fn utf8(bytes: &[u8]) -> Result<&str, Failure> {
    std::str::from_utf8(bytes).map_err(|_| unreadable(StatusCode::BAD_REQUEST, "The text is not UTF-8."))
}

/// A body larger than is taken.
#[must_use]
pub fn too_large(limit: usize) -> Failure {
    unreadable(StatusCode::PAYLOAD_TOO_LARGE, format!("That is too much at once: {} KiB at most.", limit / 1024))
}

/// Why a body could not be taken in.
pub(super) fn broken(error: &actix_web::Error) -> Failure {
    let late = matches!(error.as_error(), Some(PayloadError::Io(e)) if e.kind() == std::io::ErrorKind::TimedOut);
    if error.as_response_error().status_code() == StatusCode::PAYLOAD_TOO_LARGE {
        too_large(BODY_LIMIT)
    } else if late {
        unreadable(StatusCode::REQUEST_TIMEOUT, "It took too long to arrive. Send it again.")
    } else {
        unreadable(StatusCode::BAD_REQUEST, "The request broke off.")
    }
}

/// Reads JSON into a body.
fn read<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, Failure> {
    let text = utf8(bytes)?;
    // A list would be taken for an object's fields in their order.
    if text.trim_start().starts_with('[') {
        return Err(unreadable(StatusCode::BAD_REQUEST, "Send an object in { }, not a list."));
    }
    let mut json = serde_json::Deserializer::from_str(text);
    let value = serde_path_to_error::deserialize(&mut json).map_err(|e| told(&e))?;
    json.end().map_err(|_| unreadable(StatusCode::BAD_REQUEST, "Something stands behind the JSON."))?;
    Ok(value)
}

fn unknown_field(field: &str, known: &[&str]) -> String {
    format!("“{field}” is not known here.{}", cerealis_core::did_you_mean(field, known.iter().copied()))
}

fn told(error: &serde_path_to_error::Error<serde_json::Error>) -> Failure {
    let mut pointer = error.path().iter().fold(Pointer::root(), |p, s| match s {
        Segment::Seq { index } => p.at(index),
        Segment::Map { key } => p.at(key.chars().take(LONGEST_FIELD).collect::<String>()),
        Segment::Enum { variant } => p.at(variant),
        Segment::Unknown => p,
    });
    let words = error.inner().to_string();
    let words = words.split(" at line ").next().unwrap_or(&words).to_owned();
    let quoted: Vec<&str> = words.split('`').skip(1).step_by(2).collect();
    let (status, detail) = if words.starts_with("unknown field") {
        let (field, known) = quoted.split_first().map_or(("", &[][..]), |(f, k)| (*f, k));
        let name: String = field.chars().take(LONGEST_FIELD).collect();
        if !pointer.as_str().ends_with(&format!("/{name}")) {
            pointer = pointer.at(name);
        }
        (StatusCode::UNPROCESSABLE_ENTITY, unknown_field(field, known))
    } else if words.starts_with("missing field") {
        let field = quoted.first().copied().unwrap_or_default();
        pointer = pointer.at(field);
        (StatusCode::UNPROCESSABLE_ENTITY, format!("“{field}” is missing."))
    } else if words.starts_with("unknown variant") {
        let (word, known) = quoted.split_first().map_or(("", &[][..]), |(f, k)| (*f, k));
        (StatusCode::UNPROCESSABLE_ENTITY, format!("“{word}” is not known here: {}.", known.join(", ")))
    } else if error.inner().is_data() {
        let wanted = words.rsplit_once("expected ").map_or("something else", |(_, w)| w);
        let wanted = match wanted {
            "f64" | "f32" => "a number",
            "a string" | "string" => "text in quotes",
            "a boolean" => "true or false",
            "a sequence" => "a list",
            other if other.starts_with("struct") => "an object in { }",
            "u32" | "usize" | "i32" => "a whole number",
            other => other,
        };
        (StatusCode::BAD_REQUEST, format!("This field takes {wanted}."))
    } else {
        return unreadable(StatusCode::BAD_REQUEST, "That is not JSON.");
    };
    Failure::Unreadable { status, detail: quoting(detail), pointer: Some(pointer) }
}

/// A file as text, with its media type; the types that are taken are named by the caller.
#[derive(Debug)]
pub struct Written {
    /// Media type, lower case, without its parameters.
    pub kind: String,
    /// What stands in it.
    pub text: String,
}

impl Written {
    /// The text, if its type is one of these.
    ///
    /// # Errors
    /// 415, naming the types.
    pub fn of(self, kinds: &[&str]) -> Result<String, Failure> {
        if kinds.contains(&self.kind.as_str()) {
            return Ok(self.text);
        }
        Err(unreadable(StatusCode::UNSUPPORTED_MEDIA_TYPE, format!("Send it as one of {}.", kinds.join(", "))))
    }
}

impl FromRequest for Written {
    type Error = Failure;
    type Future = Pin<Box<dyn Future<Output = Result<Self, Failure>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let kind = media_type(request);
        let body = web::Bytes::from_request(request, payload);
        Box::pin(async move {
            let bytes = body.await.map_err(|e| broken(&e))?;
            Ok(Self { kind, text: utf8(&bytes)?.to_owned() })
        })
    }
}

/// A form: `lines[3][grams]`, with the browser's percent signs, within the body limit.
///
/// The extractor of `serde_qs` itself knows no limit and ends the worker when a body breaks off.
#[derive(Debug)]
pub struct Form<T>(pub T);

fn config() -> serde_qs::Config {
    serde_qs::Config::new().max_depth(6).use_form_encoding(true)
}

impl<T: DeserializeOwned + 'static> FromRequest for Form<T> {
    type Error = PageFailure;
    type Future = Pin<Box<dyn Future<Output = Result<Self, PageFailure>>>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let body = web::Bytes::from_request(request, payload);
        Box::pin(async move {
            let bytes = body.await.map_err(|e| PageFailure(broken(&e)))?;
            few_fields(&bytes).map_err(PageFailure)?;
            let value = config().deserialize_bytes(&bytes);
            value.map(Self).map_err(|e| PageFailure(unreadable(StatusCode::BAD_REQUEST, format!("The form could not be read: {e}."))))
        })
    }
}

/// Whether a form has no more fields than any of ours.
pub(super) fn few_fields(form: &[u8]) -> Result<(), Failure> {
    let fields = form.iter().filter(|b| **b == b'&').count() + 1;
    if fields > MOST_FIELDS {
        return Err(unreadable(StatusCode::PAYLOAD_TOO_LARGE, format!("That form has {fields} fields; {MOST_FIELDS} are taken at most.")));
    }
    Ok(())
}

/// What is wrong with a query, in a baker's words, at its field.
fn told_query(error: &serde_qs::Error, query: &str) -> Failure {
    let words = error.to_string();
    let quoted: Vec<&str> = words.split('`').skip(1).step_by(2).collect();
    let value = words.split('"').nth(1);
    let of_value = |value: &str| {
        let pairs: Vec<(String, String)> = serde_urlencoded::from_str(query).unwrap_or_default();
        pairs.into_iter().find(|(_, v)| v == value).map(|(name, _)| name)
    };
    let (name, detail) = match (words.as_str(), quoted.as_slice()) {
        (w, [field, known @ ..]) if w.contains("unknown field") => (Some((*field).to_owned()), unknown_field(field, known)),
        (w, [word, known @ ..]) if w.contains("unknown variant") => {
            (of_value(word), format!("“{word}” is not known here: {}.", known.join(", ")))
        }
        (w, _) => {
            let wanted = w.rsplit_once("expected ").map_or(w, |(_, x)| x);
            let wanted = match wanted {
                w if w.contains("invalid digit") => "a whole number",
                w if w.contains("invalid float") => "a number",
                "usize" => "a whole number",
                w if w.starts_with(['i', 'u']) && w.chars().skip(1).all(|c| c.is_ascii_digit()) => "a whole number",
                w if w.starts_with('f') && w.chars().skip(1).all(|c| c.is_ascii_digit()) => "a number",
                w if w.contains("bool") => "true or false",
                _ => "something else",
            };
            let typed = value.map_or_else(|| "The address".to_owned(), |v| format!("“{v}”"));
            (value.and_then(of_value), format!("{typed} cannot be read; it should be {wanted}."))
        }
    };
    let clipped = |name: String| Pointer::root().at(name.chars().take(LONGEST_FIELD).collect::<String>());
    Failure::Unreadable { status: StatusCode::BAD_REQUEST, detail: quoting(detail), pointer: name.map(clipped) }
}

/// Queries, the same way.
#[must_use]
pub fn query_config() -> serde_qs::actix::QsQueryConfig {
    serde_qs::actix::QsQueryConfig::default().qs_config(config()).error_handler(|e, request| {
        let failure = told_query(&e, request.query_string());
        if request.path().starts_with("/api/") { failure.into() } else { PageFailure(failure).into() }
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::ResponseError;

    #[derive(Debug, serde::Deserialize)]
    #[serde(deny_unknown_fields)]
    #[allow(dead_code, reason = "only read")]
    struct Body {
        text: String,
        lines: Option<Vec<f64>>,
    }

    #[test]
    fn what_cannot_be_read_is_told_with_its_place() {
        let told = |json: &str| match read::<Body>(json.as_bytes()).unwrap_err() {
            e @ Failure::Unreadable { .. } => {
                let status = e.status_code().as_u16();
                let Failure::Unreadable { detail, pointer, .. } = e else { unreachable!() };
                (status, pointer.map(|p| p.as_str().to_owned()), detail)
            }
            other => panic!("{other}"),
        };
        assert_eq!(
            told(r#"{"text":"a","linse":[]}"#),
            (422, Some("/linse".into()), "“linse” is not known here. Did you mean “lines”?".into())
        );
        assert_eq!(told(r#"{"text":"a","lines":[1,"two"]}"#), (400, Some("/lines/1".into()), "This field takes a number.".into()));
        assert_eq!(told("{}").0, 422);
        assert_eq!(told("[").0, 400);
        assert_eq!(told(r#"{"text":"a"} x"#).0, 400);
    }
}
