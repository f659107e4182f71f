//! A request that is sent again is the same request: `Idempotency-Key`, optional.

use axum::http::HeaderMap;
use jigfit_core::problem::Problem;
use jigfit_store::Request;
use sha2::{Digest, Sha256};

/// The header that carries the key.
pub const KEY: &str = "idempotency-key";

/// The request's key, if it has one, with a fingerprint of what it asks.
///
/// # Errors
/// A key that is none.
pub fn request(headers: &HeaderMap, what: &str, body: &[u8]) -> Result<Option<Request>, Problem> {
    let Some(value) = headers.get(KEY) else {
        return Ok(None);
    };
    let key = value.to_str().unwrap_or("").trim().trim_matches('"');
    let plain = |c: char| c.is_ascii_alphanumeric() || "-_.:".contains(c);
    if key.len() < 8 || key.len() > 100 || !key.chars().all(plain) {
        return Err(Problem::out_of_range(
            "",
            "This Idempotency-Key is none.",
            "8 to 100 letters, digits, - _ . :",
        ));
    }
    let mut hash = Sha256::new();
    hash.update(what.as_bytes());
    hash.update([0]);
    hash.update(body);
    let print = hash.finalize().iter().map(|b| format!("{b:02x}")).collect();
    Ok(Some(Request {
        key: key.into(),
        print,
    }))
}
