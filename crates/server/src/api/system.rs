//! Is it there, and what it says to a wrong method.

use axum::Json;
use axum::http::StatusCode;
use jigfit_core::problem::Problem;
use serde::Serialize;
use utoipa::ToSchema;

use crate::problem::ApiError;

/// The server answers.
#[derive(Serialize, ToSchema)]
pub struct Health {
    /// Always `ok`.
    status: &'static str,
    /// Version of the program.
    version: &'static str,
}

/// Is the server there?
#[utoipa::path(get, path = "/healthz", responses((status = 200, body = Health)))]
pub async fn health() -> Json<Health> {
    Json(Health {
        status: "ok",
        version: env!("CARGO_PKG_VERSION"),
    })
}

/// A known address, another method.
pub async fn wrong_method() -> ApiError {
    ApiError::new(
        StatusCode::METHOD_NOT_ALLOWED,
        Problem::new(
            "method",
            "Not done here",
            "",
            "This address does not take that method.",
        ),
    )
}
