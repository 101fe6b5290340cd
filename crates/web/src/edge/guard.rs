//! Who may call: the host's names, our own pages for anything that changes something; and the
//! security headers on every answer.

use actix_web::{
    Error,
    body::{EitherBody, MessageBody},
    dev::{ServiceRequest, ServiceResponse},
    http::{Method, StatusCode, header},
    middleware::{DefaultHeaders, Next},
    web,
};

use super::{Failure, problem};

const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; \
    manifest-src 'self'; worker-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

/// Names beside loopback under which the program may be called.
#[derive(Debug, Clone, Default)]
pub struct Guard {
    /// Host names.
    pub hosts: Vec<String>,
}

impl Guard {
    /// Loopback, an address in digits, or one of the names told.
    fn knows(&self, host: &str) -> bool {
        let bare = host.rsplit_once(':').filter(|(_, port)| port.chars().all(|c| c.is_ascii_digit())).map_or(host, |(h, _)| h);
        let bare = bare.trim_matches(['[', ']']);
        bare.eq_ignore_ascii_case("localhost")
            || bare.parse::<std::net::IpAddr>().is_ok()
            || self.hosts.iter().any(|h| h.eq_ignore_ascii_case(bare))
    }
}

/// Headers of every answer that says nothing else: nobody keeps what a household wrote, and the policy allows no inline
/// script or style anywhere.
#[must_use]
pub fn headers() -> DefaultHeaders {
    DefaultHeaders::new()
        .add((header::CONTENT_SECURITY_POLICY, POLICY))
        .add((header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .add((header::REFERRER_POLICY, "same-origin"))
        .add((header::CACHE_CONTROL, "no-store"))
        .add((header::X_FRAME_OPTIONS, "DENY"))
        .add(("Cross-Origin-Opener-Policy", "same-origin"))
        .add(("Cross-Origin-Resource-Policy", "same-origin"))
        .add(("Permissions-Policy", "camera=(), microphone=(), geolocation=()"))
}

/// Lets a request through, or says why not.
///
/// # Errors
/// Never by itself; what the handlers behind it give.
pub async fn guard<B: MessageBody>(request: ServiceRequest, next: Next<B>) -> Result<ServiceResponse<EitherBody<B>>, Error> {
    let text = |name: header::HeaderName| request.headers().get(name).and_then(|v| v.to_str().ok()).map(str::to_owned);
    let host = text(header::HOST).unwrap_or_default();
    let guard = request.app_data::<web::Data<Guard>>().map(|g| g.get_ref().clone()).unwrap_or_default();
    let refuse = |request: ServiceRequest, detail: &str| {
        let failure = Failure::Unreadable { status: StatusCode::FORBIDDEN, detail: detail.to_owned(), pointer: None };
        Ok(request.into_response(problem(&failure)).map_into_right_body())
    };
    if !host.is_empty() && !guard.knows(&host) {
        return refuse(request, "This name is not known here. Start the program with --host and the name.");
    }
    let changes = !matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    if changes {
        // A page of ours always says where it is; `null` is one that hides it.
        let origin = text(header::ORIGIN);
        let site = text(header::HeaderName::from_static("sec-fetch-site"));
        let ours = origin.as_ref().map(|o| o.split_once("://").is_some_and(|(_, h)| h == host));
        let foreign = ours == Some(false) || site.as_deref().is_some_and(|s| s == "cross-site" || s == "same-site");
        if foreign {
            return refuse(request, "This came from another site and changes nothing here.");
        }
    }
    Ok(next.call(request).await?.map_into_left_body())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_known_names_are_answered() {
        let guard = Guard { hosts: vec!["skerry.lan".into()] };
        for good in ["localhost:8080", "127.0.0.1:8080", "[::1]:8080", "192.168.0.7", "skerry.lan:80", "LOCALHOST"] {
            assert!(guard.knows(good), "{good}");
        }
        for bad in ["evil.example", "localhost.evil.example:8080", "127.0.0.1.evil.example"] {
            assert!(!guard.knows(bad), "{bad}");
        }
    }
}
