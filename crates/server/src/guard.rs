//! Only this machine's own pages, and devices that were paired, may talk to the server; what they send
//! says what it is; and a page may load nothing from elsewhere.

use axum::body::Body;
use axum::extract::{Request, State};
use axum::http::{HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use jigfit_core::problem::Problem;

use crate::app::App;
use crate::lan::{Door, cookie};
use crate::problem::ApiError;

/// Everything from the server itself; no inline script or style, no other address.
const POLICY: &str = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; \
    font-src 'self'; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; \
    frame-ancestors 'none'";

const FETCH_SITE: HeaderName = HeaderName::from_static("sec-fetch-site");

/// Checks where a request comes from and what it carries, and sets the security headers of every answer.
pub async fn guard(State(app): State<App>, request: Request, next: Next) -> Response {
    // A body cannot be shared between threads: what is asked of the store is asked without it.
    let allowed = match check(&request) {
        Ok(Need::Token(token)) => match app.paired(token).await {
            Ok(true) => inside(&request),
            Ok(false) => Err(unauthorised()),
            Err(e) => Err(e),
        },
        Ok(Need::Nothing) => inside(&request),
        Err(e) => Err(e),
    };
    let mut response = match allowed {
        Err(refused) => refused.into_response(),
        Ok(()) => next.run(request).await,
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

/// What a request needs besides coming through a door it may use.
enum Need {
    Nothing,
    /// The token of a paired device; this is the one it brings.
    Token(Option<String>),
}

fn text(request: &Request, name: HeaderName) -> Option<String> {
    let value: Option<&HeaderValue> = request.headers().get(name);
    value.map(|v| v.to_str().unwrap_or("?").to_string())
}

fn host(request: &Request) -> String {
    let host = text(request, header::HOST);
    host.or_else(|| request.uri().authority().map(ToString::to_string))
        .unwrap_or_default()
}

/// The door through which it came: this machine's own, or one to the local network.
fn check(request: &Request) -> Result<Need, ApiError> {
    let host = host(request);
    match request.extensions().get::<Door>() {
        Some(Door::Lan(address)) if host != address.to_string() => Err(unauthorised()),
        Some(Door::Lan(_)) if request.uri().path().starts_with("/pair/") => Ok(Need::Nothing),
        Some(Door::Lan(_)) => Ok(Need::Token(cookie(request.headers()))),
        _ if !local(&host) => Err(stranger("Host")),
        _ => Ok(Need::Nothing),
    }
}

/// What else must be right of a request that may come in.
fn inside(request: &Request) -> Result<(), ApiError> {
    let path = request.uri().path();
    let lan = matches!(request.extensions().get::<Door>(), Some(Door::Lan(_)));
    if lan && (path.starts_with("/api/lan") || path.starts_with("/api/devices")) {
        return Err(ApiError::new(
            StatusCode::FORBIDDEN,
            Problem::new(
                "own-only",
                "Not from here",
                "",
                "Devices are paired and put out on the computer itself.",
            ),
        ));
    }
    let own = format!("http://{}", host(request));
    if text(request, header::ORIGIN).is_some_and(|origin| origin != own) {
        return Err(stranger("Origin"));
    }
    let api = path.starts_with("/api/");
    let write = !matches!(*request.method(), Method::GET | Method::HEAD);
    let site = text(request, FETCH_SITE);
    if (api || write) && site.is_some_and(|s| !matches!(s.as_str(), "same-origin" | "none")) {
        return Err(stranger("Sec-Fetch-Site"));
    }
    if api && write {
        carries(request)?;
    }
    Ok(())
}

/// What an address takes: scans, drawings and photos are bytes, tables CSV, everything else JSON; a request without a body
/// need not say.
fn carries(request: &Request<Body>) -> Result<(), ApiError> {
    let headers = request.headers();
    let empty = headers
        .get(header::CONTENT_LENGTH)
        .is_none_or(|n| n.as_bytes() == b"0")
        && !headers.contains_key(header::TRANSFER_ENCODING);
    let given = headers
        .get(header::CONTENT_TYPE)
        .map(|v| v.to_str().unwrap_or("?"));
    let given = given.map(|v| v.split(';').next().unwrap_or("").trim().to_lowercase());
    let path = request.uri().path();
    let bytes = ["/scan", "/curves", "/photo"];
    let wanted: &[&str] = if bytes.iter().any(|b| path.ends_with(b)) {
        &["application/octet-stream"]
    } else if path.ends_with("/readings") {
        &["text/csv"]
    } else {
        &["application/json", "application/json-patch+json"]
    };
    let empty = empty && request.body().size_hint_is_empty();
    match given {
        None if empty => Ok(()),
        Some(given) if wanted.contains(&given.as_str()) => Ok(()),
        given => Err(ApiError::new(
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            Problem::new(
                "media-type",
                "Not taken here",
                "",
                match given {
                    Some(given) => format!("This address does not take {given}."),
                    None => "The request does not say what it carries.".into(),
                },
            )
            .allowing(wanted.join(", ")),
        )),
    }
}

/// Whether a body is known to hold nothing.
trait Empty {
    fn size_hint_is_empty(&self) -> bool;
}

impl Empty for Body {
    fn size_hint_is_empty(&self) -> bool {
        use axum::body::HttpBody;
        self.size_hint().exact() == Some(0)
    }
}

fn unauthorised() -> ApiError {
    ApiError::new(
        StatusCode::UNAUTHORIZED,
        Problem::new("not-paired", "Not paired", "", "This device is not paired."),
    )
}

fn stranger(what: &str) -> ApiError {
    ApiError::new(
        StatusCode::FORBIDDEN,
        Problem::new(
            "not-local",
            "Not from this machine",
            "",
            format!("The {what} of this request is not this program's own address."),
        ),
    )
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

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("127.0.0.1:4173", true)]
    #[case("localhost", true)]
    #[case("[::1]:80", true)]
    #[case("127.0.0.1.example.org", false)]
    #[case("127.0.0.1:80x", false)]
    #[case("192.168.1.20:4173", false)]
    #[case("", false)]
    fn hosts(#[case] host: &str, #[case] good: bool) {
        assert_eq!(local(host), good);
    }
}
