//! One error type for all handlers; it knows its HTTP status and speaks RFC 9457.

use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use jigfit_core::problem::Problem;
use jigfit_store::{Conflict, StoreError};
use serde::Serialize;
use utoipa::ToSchema;

/// A failed request.
#[derive(Debug)]
pub struct ApiError {
    /// HTTP status.
    pub status: StatusCode,
    /// What is wrong.
    pub body: Body,
}

/// The `application/problem+json` document.
#[derive(Debug, Serialize, ToSchema)]
pub struct Body {
    /// The problem.
    #[serde(flatten)]
    pub problem: Problem,
    /// HTTP status.
    pub status: u16,
    /// For 409: the revision now.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub revision: Option<u32>,
    /// For 409: the places with both values.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[schema(value_type = Vec<Object>)]
    pub conflicts: Vec<Conflict>,
}

impl ApiError {
    /// A problem with a status.
    pub fn new(status: StatusCode, problem: Problem) -> Self {
        ApiError {
            status,
            body: Body {
                problem,
                status: status.as_u16(),
                revision: None,
                conflicts: vec![],
            },
        }
    }

    /// Nothing there.
    pub fn not_found(detail: impl Into<String>) -> Self {
        Self::new(
            StatusCode::NOT_FOUND,
            Problem::new("not-found", "Not found", "", detail),
        )
    }

    /// Not JSON at all.
    pub fn not_json(detail: impl Into<String>) -> Self {
        Self::new(
            StatusCode::BAD_REQUEST,
            Problem::new("not-json", "Not JSON", "", detail),
        )
    }

    /// Something of ours broke.
    pub fn internal(detail: impl Into<String>) -> Self {
        Self::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            Problem::new("internal", "The program failed here", "", detail),
        )
    }
}

impl From<Problem> for ApiError {
    fn from(p: Problem) -> Self {
        ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, p)
    }
}

impl From<StoreError> for ApiError {
    fn from(e: StoreError) -> Self {
        let told = e.to_string();
        let store = |status, slug: &str, title: &str| {
            ApiError::new(status, Problem::new(slug, title, "", told.clone()))
        };
        match e {
            StoreError::NotFound(_) => ApiError::not_found(told),
            StoreError::Refused(p) => p.into(),
            StoreError::Conflict {
                revision,
                conflicts,
            } => {
                let mut error = store(StatusCode::CONFLICT, "conflict", "Changed meanwhile");
                error.body.revision = Some(revision);
                if let Some(first) = conflicts.first() {
                    error.body.problem.pointer.clone_from(&first.pointer);
                }
                error.body.conflicts = conflicts;
                error
            }
            StoreError::Nothing(_) => store(StatusCode::CONFLICT, "nothing", "Nothing to do"),
            StoreError::Locked => store(StatusCode::SERVICE_UNAVAILABLE, "locked", "Data in use"),
            StoreError::OtherRequest => store(
                StatusCode::UNPROCESSABLE_ENTITY,
                "other-request",
                "Another request's key",
            ),
            StoreError::Gone => store(
                StatusCode::INSUFFICIENT_STORAGE,
                "gone",
                "The data file is gone",
            ),
            StoreError::ReadOnly => store(
                StatusCode::INSUFFICIENT_STORAGE,
                "read-only",
                "Cannot be written",
            ),
            StoreError::Corrupt(_)
            | StoreError::Foreign
            | StoreError::Newer
            | StoreError::Other(_) => store(
                StatusCode::INTERNAL_SERVER_ERROR,
                "data",
                "The data file cannot be used",
            ),
        }
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        if self.status.is_server_error() {
            tracing::error!(status = %self.status, problem = %self.body.problem, "request failed");
        }
        let text = serde_json::to_string(&self.body).unwrap_or_default();
        (
            self.status,
            [(header::CONTENT_TYPE, "application/problem+json")],
            text,
        )
            .into_response()
    }
}
