//! Bodies that do not arrive.

use std::{future::Future, io::ErrorKind, pin::Pin, task::Poll, time::Duration};

use actix_web::{
    Error, HttpMessage,
    body::MessageBody,
    dev::{Payload, ServiceRequest, ServiceResponse},
    error::PayloadError,
    http::Method,
    middleware::Next,
    rt::time::sleep,
};
use futures_util::stream::{Stream, poll_fn};

/// A body takes so long at most: the largest archive over a slow line at home.
const LONGEST: Duration = Duration::from_secs(60);

/// Ends a body that takes too long, so that a line left open holds nothing.
///
/// # Errors
/// What the application says.
pub async fn in_time<B: MessageBody>(mut request: ServiceRequest, next: Next<B>) -> Result<ServiceResponse<B>, Error> {
    if !matches!(*request.method(), Method::GET | Method::HEAD) {
        let arriving = request.take_payload();
        request.set_payload(Payload::from(Box::pin(by(arriving, LONGEST)) as Pin<Box<dyn Stream<Item = _>>>));
    }
    next.call(request).await
}

/// What arrives of a body until its time is over, then an error.
fn by<S, T>(mut arriving: S, longest: Duration) -> impl Stream<Item = Result<T, PayloadError>>
where
    S: Stream<Item = Result<T, PayloadError>> + Unpin,
{
    let mut over = Box::pin(sleep(longest));
    poll_fn(move |cx| {
        if over.as_mut().poll(cx).is_ready() {
            return Poll::Ready(Some(Err(PayloadError::Io(ErrorKind::TimedOut.into()))));
        }
        Pin::new(&mut arriving).poll_next(cx)
    })
}

#[cfg(test)]
mod tests {
    use futures_util::{StreamExt, stream};

    use super::*;

    #[actix_web::test]
    async fn a_body_that_stands_still_ends_and_one_that_arrives_is_whole() {
        let stalled = stream::iter([Ok::<_, PayloadError>(1)]).chain(stream::pending());
        let got: Vec<_> = by(stalled, Duration::from_millis(20)).take(2).collect().await;
        assert!(matches!(got.as_slice(), [Ok(1), Err(PayloadError::Io(e))] if e.kind() == ErrorKind::TimedOut), "{got:?}");
        let whole: Vec<_> = by(stream::iter([Ok::<_, PayloadError>(1), Ok(2)]), LONGEST).collect().await;
        assert!(matches!(whole.as_slice(), [Ok(1), Ok(2)]), "{whole:?}");
    }
}
