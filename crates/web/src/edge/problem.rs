//! One failure from core to edge: a problem document on the API (RFC 9457), a page for people.

use actix_web::{
    HttpRequest, HttpResponse, ResponseError,
    http::{StatusCode, header},
};
use askama::Template;
use cerealis_core::input::{InputErrors, Pointer};
use cerealis_store::StoreError;
use problem_details::ProblemDetails;
use serde::Serialize;

/// Why a request cannot be answered.
#[derive(Debug, thiserror::Error)]
pub enum Failure {
    /// Understood, not acceptable: each field with its sentence.
    #[error("{0}")]
    Input(InputErrors),
    /// Not understood.
    #[error("{detail}")]
    Unreadable {
        /// 400, 413 or 415.
        status: StatusCode,
        /// In a baker's words.
        detail: String,
        /// Where, if it is known.
        pointer: Option<Pointer>,
    },
    /// The store.
    #[error(transparent)]
    Store(StoreError),
    /// Nothing under this path.
    #[error("There is nothing here under that name.")]
    NotFound,
}

impl From<InputErrors> for Failure {
    fn from(errors: InputErrors) -> Self {
        Self::Input(errors)
    }
}

#[derive(Debug, Clone, Serialize, Default)]
struct Fields {
    errors: Vec<cerealis_core::input::FieldError>,
}

impl Failure {
    /// Something about the whole of what was sent, in a baker's words.
    #[must_use]
    pub fn wrong(sentence: impl Into<String>) -> Self {
        Self::Input(InputErrors::one(cerealis_core::input::Pointer::root(), sentence.into()))
    }
    fn status(&self) -> StatusCode {
        match self {
            Self::Input(_) | Self::Store(StoreError::Foreign) => StatusCode::UNPROCESSABLE_ENTITY,
            Self::Unreadable { status, .. } => *status,
            Self::NotFound | Self::Store(StoreError::NotFound) => StatusCode::NOT_FOUND,
            Self::Store(StoreError::Conflict(_) | StoreError::Newer) => StatusCode::CONFLICT,
            Self::Store(StoreError::Busy) => StatusCode::SERVICE_UNAVAILABLE,
            Self::Store(StoreError::Unreadable(_) | StoreError::Failed(_) | StoreError::File { .. }) => StatusCode::INTERNAL_SERVER_ERROR,
        }
    }
    fn title(&self) -> &'static str {
        if matches!(self, Self::Store(StoreError::File { .. })) {
            return "The kitchen's file needs a hand";
        }
        match self.status() {
            StatusCode::UNPROCESSABLE_ENTITY => "Some of it cannot be used as it is",
            StatusCode::NOT_FOUND => "Nothing here",
            StatusCode::CONFLICT => "That does not fit what is kept",
            StatusCode::SERVICE_UNAVAILABLE => "Busy for a moment",
            StatusCode::REQUEST_TIMEOUT => "Too slow to arrive",
            StatusCode::PAYLOAD_TOO_LARGE => "Too much at once",
            StatusCode::METHOD_NOT_ALLOWED => "Not in this way",
            StatusCode::INTERNAL_SERVER_ERROR => "Something broke here",
            _ => "That could not be read",
        }
    }
    fn detail(&self) -> String {
        match self {
            Self::Store(e @ (StoreError::Unreadable(_) | StoreError::Failed(_))) => {
                let incident = uuid::Uuid::now_v7();
                tracing::error!(%incident, error = %e, "the store failed");
                let told = match e {
                    StoreError::Unreadable(_) => {
                        "This cannot be read. The rest of the kitchen is as it was; a copy made before may hold this whole."
                    }
                    _ => "The kitchen's book did not answer as it should. What you sent is not kept.",
                };
                format!("{told} Incident {incident}.")
            }
            Self::Store(e @ StoreError::File { .. }) => {
                tracing::error!(error = %e, "the household's file is in trouble");
                e.to_string()
            }
            other => other.to_string(),
        }
    }
    fn fields(&self) -> Fields {
        match self {
            Self::Input(e) => Fields { errors: e.0.clone() },
            Self::Unreadable { pointer: Some(p), detail, .. } => Fields { errors: InputErrors::one(p.clone(), detail.clone()).0 },
            Self::Unreadable { .. } | Self::Store(_) | Self::NotFound => Fields::default(),
        }
    }
}

/// A problem document.
#[must_use]
pub fn problem(failure: &Failure) -> HttpResponse {
    let status = failure.status();
    let code = http::StatusCode::from_u16(status.as_u16()).unwrap_or(http::StatusCode::INTERNAL_SERVER_ERROR);
    let document =
        ProblemDetails::from_status_code(code).with_title(failure.title()).with_detail(failure.detail()).with_extensions(failure.fields());
    let mut answer = HttpResponse::build(status);
    if status == StatusCode::SERVICE_UNAVAILABLE {
        answer.insert_header((header::RETRY_AFTER, "1"));
    }
    answer.content_type("application/problem+json").body(serde_json::to_string(&document).unwrap_or_default())
}

impl ResponseError for Failure {
    fn status_code(&self) -> StatusCode {
        self.status()
    }
    fn error_response(&self) -> HttpResponse {
        problem(self)
    }
}

/// A failure on a page: the same sentence, in words and with a way on.
#[derive(Debug, thiserror::Error)]
#[error(transparent)]
pub struct PageFailure(#[from] pub Failure);

#[derive(Template)]
#[template(path = "failure.html")]
struct FailurePage {
    title: &'static str,
    detail: String,
    sentences: Vec<String>,
}

impl ResponseError for PageFailure {
    fn status_code(&self) -> StatusCode {
        self.0.status()
    }
    fn error_response(&self) -> HttpResponse {
        let sentences = self.0.fields().errors.into_iter().map(|e| e.message).collect();
        let page = FailurePage { title: self.0.title(), detail: self.0.detail(), sentences };
        HttpResponse::build(self.0.status())
            .content_type("text/html; charset=utf-8")
            .body(page.render().unwrap_or_else(|_| self.0.title().to_owned()))
    }
}

/// What answers an unknown path.
pub async fn nothing_here(request: HttpRequest) -> HttpResponse {
    answer_at(request.path(), Failure::NotFound)
}

/// A failure as who asked reads it: a problem document for a call, a page for a browser.
#[must_use]
pub fn answer_at(path: &str, failure: Failure) -> HttpResponse {
    if path.starts_with("/api/") { failure.error_response() } else { PageFailure(failure).error_response() }
}
