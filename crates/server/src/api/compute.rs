//! The calculators of the compute contract over HTTP.

use axum::Json;
use axum::body::Body;
use jigfit_core::compute;
use serde_json::Value;

use super::body::{FILE, json};
use crate::extract::Path;
use crate::problem::{ApiError, Body as ProblemBody};

/// Run a calculator. An array is a batch.
#[utoipa::path(
    post,
    path = "/api/compute/{name}",
    params(("name" = String, Path, description = "any name of the compute contract")),
    request_body = Object,
    responses(
        (status = 200, body = Object, description = "As the compute contract says"),
        (status = 400, body = ProblemBody), (status = 404, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 422, body = ProblemBody),
    )
)]
pub async fn compute(Path(name): Path<String>, body: Body) -> Result<Json<Value>, ApiError> {
    if !compute::names().any(|n| n == name) {
        return Err(ApiError::not_found(format!(
            "There is no calculator \"{name}\"."
        )));
    }
    let input = json(body, FILE).await?;
    let answer = tokio::task::spawn_blocking(move || compute::run(&name, input))
        .await
        .map_err(|e| ApiError::internal(e.to_string()))?;
    match answer {
        Some(answer) => Ok(Json(answer?)),
        None => Err(ApiError::not_found("There is no such calculator.")),
    }
}
