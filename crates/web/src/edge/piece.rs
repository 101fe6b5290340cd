//! Answers in one piece.

use actix_web::{
    Error,
    body::{self, BoxBody, MessageBody},
    dev::{ServiceRequest, ServiceResponse},
    error::ErrorInternalServerError,
    middleware::Next,
};

/// Gives an answer's body in one piece with its length. Packed it would go out in several, and a browser that acknowledges
/// only every other packet would hold the last of them back for forty milliseconds.
///
/// # Errors
/// If the body cannot be packed.
pub async fn in_one_piece<B: MessageBody + 'static>(request: ServiceRequest, next: Next<B>) -> Result<ServiceResponse<BoxBody>, Error> {
    let (request, answer) = next.call(request).await?.into_parts();
    let (head, body) = answer.into_parts();
    let bytes = body::to_bytes(body).await.map_err(|_| ErrorInternalServerError("the answer could not be packed"))?;
    Ok(ServiceResponse::new(request, head.set_body(bytes).map_into_boxed_body()))
}
