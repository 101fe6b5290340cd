//! Methods: HEAD is answered as GET, and a method that a path does not know is told so in words.

use actix_web::{
    Error,
    body::{BoxBody, MessageBody},
    dev::{ServiceRequest, ServiceResponse},
    http::{Method, StatusCode, header},
    middleware::Next,
};

use super::{Failure, answer_at};

/// Answers HEAD as GET (the server sends no body for it), and gives a body to a 405.
///
/// # Errors
/// What the handler says.
pub async fn methods<B: MessageBody + 'static>(mut request: ServiceRequest, next: Next<B>) -> Result<ServiceResponse<BoxBody>, Error> {
    if request.method() == Method::HEAD {
        request.head_mut().method = Method::GET;
    }
    let answer = next.call(request).await?;
    if answer.status() != StatusCode::METHOD_NOT_ALLOWED {
        return Ok(answer.map_into_boxed_body());
    }
    let allow = answer.headers().get(header::ALLOW).cloned();
    let known = allow.as_ref().and_then(|a| a.to_str().ok()).unwrap_or("another");
    let failure = Failure::Unreadable {
        status: StatusCode::METHOD_NOT_ALLOWED,
        detail: format!("This address takes {known}, not {}.", answer.request().method()),
        pointer: None,
    };
    let mut told = answer_at(answer.request().path(), failure);
    if let Some(allow) = allow {
        told.headers_mut().insert(header::ALLOW, allow);
    }
    Ok(answer.into_response(told))
}
