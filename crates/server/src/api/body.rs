//! Reading request bodies: a limit, JSON, and the right words when either is missed.

use axum::body::{Body, to_bytes};
use axum::http::StatusCode;
use jigfit_core::input::from_value;
use jigfit_core::problem::Problem;
use serde::de::DeserializeOwned;
use serde_json::Value;

use crate::problem::ApiError;

/// The largest edit, bytes.
pub const EDIT: usize = 4 << 20;
/// The largest project file and calculator input, bytes.
pub const FILE: usize = 16 << 20;

/// The body, at most `limit` bytes.
///
/// # Errors
/// 413 too large, 400 broken off.
pub async fn bytes(body: Body, limit: usize) -> Result<Vec<u8>, ApiError> {
    let read = to_bytes(body, limit).await;
    read.map(|b| b.to_vec()).map_err(|e| {
        let mut source: Option<&dyn std::error::Error> = Some(&e);
        let mut too_large = false;
        while let Some(s) = source {
            too_large |= s.to_string().contains("length limit exceeded");
            source = s.source();
        }
        if !too_large {
            return ApiError::not_json(format!("The request broke off: {e}."));
        }
        ApiError::new(
            StatusCode::PAYLOAD_TOO_LARGE,
            Problem::new(
                "too-large",
                "Too large",
                "",
                format!("More than {} MB was sent; nothing was stored.", limit >> 20),
            )
            .allowing(format!("at most {} MB", limit >> 20)),
        )
    })
}

/// Bytes as JSON.
///
/// # Errors
/// 400 not JSON, 422 JSON with an impossible number.
pub fn parse(bytes: &[u8]) -> Result<Value, ApiError> {
    serde_json::from_slice(bytes).map_err(|e| {
        if e.to_string().contains("number out of range") {
            return Problem::out_of_range("", format!("{e}."), "finite numbers").into();
        }
        ApiError::not_json(format!("This is not JSON: {e}."))
    })
}

/// The body as JSON, at most `limit` bytes.
///
/// # Errors
/// As `bytes` and `parse`.
pub async fn json(body: Body, limit: usize) -> Result<Value, ApiError> {
    parse(&bytes(body, limit).await?)
}

/// The body as a `T`, strictly.
///
/// # Errors
/// As `json`, and 422 with the field.
pub async fn read<T: DeserializeOwned>(body: Body, limit: usize) -> Result<T, ApiError> {
    Ok(from_value(json(body, limit).await?)?)
}
