//! Path and query of a request, refused in our own words.

use axum::extract::{FromRequestParts, Path as AxumPath, Query as AxumQuery};
use axum::http::StatusCode;
use axum::http::request::Parts;
use jigfit_core::problem::Problem;
use serde::de::DeserializeOwned;

use crate::problem::ApiError;

/// What stands in the path.
pub struct Path<T>(pub T);

/// What stands behind the question mark.
pub struct Query<T>(pub T);

fn refused(what: &str, why: &str) -> ApiError {
    let detail = format!("The {what} of this address cannot be read: {why}");
    ApiError::new(
        StatusCode::BAD_REQUEST,
        Problem::new("address", "Not an address here", "", detail),
    )
}

impl<S: Send + Sync, T: DeserializeOwned + Send> FromRequestParts<S> for Path<T> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, ApiError> {
        match AxumPath::from_request_parts(parts, state).await {
            Ok(AxumPath(value)) => Ok(Path(value)),
            Err(e) => Err(refused("path", &e.body_text())),
        }
    }
}

impl<S: Send + Sync, T: DeserializeOwned + Send> FromRequestParts<S> for Query<T> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, ApiError> {
        match AxumQuery::from_request_parts(parts, state).await {
            Ok(AxumQuery(value)) => Ok(Query(value)),
            Err(e) => Err(refused("query", &e.body_text())),
        }
    }
}
