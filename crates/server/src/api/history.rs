//! Undo, redo and named versions.

use axum::Json;
use axum::body::Body;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use jigfit_store::{Head, Named, Store, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{EDIT, read};
use super::projects::Opened;
use crate::app::{App, now};
use crate::problem::{ApiError, Body as ProblemBody};

/// A named version.
#[derive(Serialize, ToSchema)]
pub struct Version {
    /// Its name.
    name: String,
    /// The revision it names.
    revision: u32,
    /// When it was named.
    at: String,
}

impl From<Named> for Version {
    fn from(n: Named) -> Self {
        Version {
            name: n.name,
            revision: n.revision,
            at: n.at,
        }
    }
}

/// A name for the state as it is.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewName {
    /// The name.
    name: String,
}

async fn step(
    app: App,
    id: String,
    work: impl FnOnce(&mut Store, &str) -> Result<Head, StoreError> + Send + 'static,
) -> Result<Json<Opened>, ApiError> {
    let opened = app
        .with(move |s| -> Result<Opened, StoreError> {
            let head = work(s, &id)?;
            Ok(Opened::new(&id, head))
        })
        .await?;
    // Worked out once, answered here, announced to the other windows.
    app.announce(opened.id(), opened.revision());
    Ok(Json(opened))
}

/// Take the last edit back.
#[utoipa::path(
    post, path = "/api/projects/{id}/undo", params(("id" = String, Path)),
    responses((status = 200, body = Opened), (status = 409, body = ProblemBody))
)]
pub async fn undo(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<Json<Opened>, ApiError> {
    step(app, id, |s, id| s.undo(id, &now())).await
}

/// Do the last undone edit again.
#[utoipa::path(
    post, path = "/api/projects/{id}/redo", params(("id" = String, Path)),
    responses((status = 200, body = Opened), (status = 409, body = ProblemBody))
)]
pub async fn redo(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<Json<Opened>, ApiError> {
    step(app, id, |s, id| s.redo(id, &now())).await
}

/// The named versions, newest first.
#[utoipa::path(
    get, path = "/api/projects/{id}/versions", params(("id" = String, Path)),
    responses((status = 200, body = Vec<Version>), (status = 404, body = ProblemBody))
)]
pub async fn versions(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<Json<Vec<Version>>, ApiError> {
    let all = app.with(move |s| s.versions(&id)).await?;
    Ok(Json(all.into_iter().map(Version::from).collect()))
}

/// Name the state as it is.
#[utoipa::path(
    post, path = "/api/projects/{id}/versions", params(("id" = String, Path)), request_body = NewName,
    responses((status = 201, body = Version), (status = 422, body = ProblemBody))
)]
pub async fn name(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<(StatusCode, Json<Version>), ApiError> {
    let new: NewName = read(body, EDIT).await?;
    let named = app.with(move |s| s.name(&id, &new.name, &now())).await?;
    Ok((StatusCode::CREATED, Json(named.into())))
}

/// Bring a named version back, as an edit that can be undone.
#[utoipa::path(
    post, path = "/api/projects/{id}/restore", params(("id" = String, Path)), request_body = NewName,
    responses((status = 200, body = Opened), (status = 404, body = ProblemBody))
)]
pub async fn restore(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Json<Opened>, ApiError> {
    let named: NewName = read(body, EDIT).await?;
    step(app, id, move |s, id| s.restore(id, &named.name, &now())).await
}
