//! Only this machine's own pages may talk to the server, and a page may load nothing from elsewhere.

use axum::extract::Request;
use axum::http::{HeaderValue, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use jigfit_core::problem::Problem;

use crate::problem::ApiError;

/// Everything from the server itself; no inline script or style, no other address.
const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; \
    font-src 'self'; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; \
    frame-ancestors 'none'";

/// Checks Host and Origin, and sets the security headers of every answer.
pub async fn guard(request: Request, next: Next) -> Response {
    let refused = stranger(&request);
    let mut response = match refused {
        Some(what) => ApiError::new(
            StatusCode::FORBIDDEN,
            Problem::new(
                "not-local",
                "Not from this machine",
                "",
                format!("The {what} of this request is not this machine's own address."),
            ),
        )
        .into_response(),
        None => next.run(request).await,
    };
    let headers = response.headers_mut();
    for (name, value) in [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (header::X_FRAME_OPTIONS, "DENY"),
    ] {
        headers.insert(name, HeaderValue::from_static(value));
    }
    response
}

/// The header that shows that a request is not from this machine's own pages.
fn stranger(request: &Request) -> Option<&'static str> {
    let text = |name| {
        request
            .headers()
            .get(name)
            .map(|v: &HeaderValue| v.to_str().unwrap_or("?").to_string())
    };
    let host = text(header::HOST).or_else(|| request.uri().authority().map(ToString::to_string));
    match (host, text(header::ORIGIN)) {
        (Some(host), _) if !local(&host) => Some("Host"),
        (None, _) => Some("Host"),
        (_, Some(origin)) if !local_origin(&origin) => Some("Origin"),
        _ => None,
    }
}

/// `127.0.0.1`, `localhost` or `[::1]`, with or without a port.
fn local(host: &str) -> bool {
    ["127.0.0.1", "localhost", "[::1]"].iter().any(|name| {
        host.strip_prefix(name).is_some_and(|rest| {
            rest.is_empty()
                || rest
                    .strip_prefix(':')
                    .is_some_and(|port| port.parse::<u16>().is_ok())
        })
    })
}

fn local_origin(origin: &str) -> bool {
    origin.strip_prefix("http://").is_some_and(local)
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("127.0.0.1:4173", true)]
    #[case("localhost", true)]
    #[case("[::1]:80", true)]
    #[case("127.0.0.1.example.org", false)]
    #[case("localhost:evil", false)]
    #[case("example.org", false)]
    #[case("", false)]
    fn hosts(#[case] host: &str, #[case] is_local: bool) {
        assert_eq!(local(host), is_local);
    }

    #[test]
    fn origins() {
        assert!(local_origin("http://localhost:4173"));
        assert!(!local_origin("https://example.org"));
        assert!(!local_origin("null"));
    }
}
