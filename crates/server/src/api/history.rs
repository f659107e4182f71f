//! Undo, redo and named versions: named, compared, brought back, forgotten.

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode};
use jigfit_core::compare::{Change, compare};
use jigfit_core::plan::Plan;
use jigfit_store::{Head, Kind, Named, Request, Store, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{EDIT, read};
use super::once::request;
use super::projects::Opened;
use crate::app::{App, now};
use crate::extract::Path;
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
    request: Option<Request>,
    work: impl FnOnce(&mut Store, &str, Option<&Request>) -> Result<Head, StoreError> + Send + 'static,
) -> Result<Opened, ApiError> {
    let which = id.clone();
    let head = app
        .with(move |s| -> Result<Head, StoreError> {
            if s.answered(request.as_ref())?.is_some() {
                return s.head(&which);
            }
            work(s, &which, request.as_ref())
        })
        .await?;
    app.announce(&id, head.revision);
    Opened::new(&app, &id, head).await
}

/// Take the last edit back.
#[utoipa::path(
    post, path = "/api/projects/{id}/undo",
    params(("id" = String, Path), ("Idempotency-Key" = Option<String>, Header)),
    responses((status = 200, body = Opened, headers(("ETag" = String))), (status = 404, body = ProblemBody),
        (status = 409, body = ProblemBody), (status = 507, body = ProblemBody))
)]
pub async fn undo(
    State(app): State<App>,
    Path(id): Path<String>,
    headers: HeaderMap,
) -> Result<Opened, ApiError> {
    let request = request(&headers, &format!("undo {id}"), &[])?;
    step(app, id, request, |s, id, r| {
        s.step(id, Kind::Undo, &now(), r)
    })
    .await
}

/// Do the last undone edit again.
#[utoipa::path(
    post, path = "/api/projects/{id}/redo",
    params(("id" = String, Path), ("Idempotency-Key" = Option<String>, Header)),
    responses((status = 200, body = Opened, headers(("ETag" = String))), (status = 404, body = ProblemBody),
        (status = 409, body = ProblemBody), (status = 507, body = ProblemBody))
)]
pub async fn redo(
    State(app): State<App>,
    Path(id): Path<String>,
    headers: HeaderMap,
) -> Result<Opened, ApiError> {
    let request = request(&headers, &format!("redo {id}"), &[])?;
    step(app, id, request, |s, id, r| {
        s.step(id, Kind::Redo, &now(), r)
    })
    .await
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
    responses((status = 201, body = Version), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody),
        (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
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
    responses((status = 200, body = Opened, headers(("ETag" = String))), (status = 400, body = ProblemBody),
        (status = 404, body = ProblemBody), (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn restore(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Opened, ApiError> {
    let named: NewName = read(body, EDIT).await?;
    step(app, id, None, move |s, id, _| {
        s.restore(id, &named.name, &now())
    })
    .await
}

/// Forget a named version. What was stored stays in the history.
#[utoipa::path(
    delete, path = "/api/projects/{id}/versions/{name}", params(("id" = String, Path), ("name" = String, Path)),
    responses((status = 204), (status = 404, body = ProblemBody))
)]
pub async fn forget(
    State(app): State<App>,
    Path((id, name)): Path<(String, String)>,
) -> Result<StatusCode, ApiError> {
    app.with(move |s| s.forget(&id, &name)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What changed between a named version and now.
#[derive(Serialize, ToSchema)]
pub struct Compared {
    /// The changes in words, those with most consequence first.
    changes: Vec<Change>,
    /// The plan as it was then.
    #[schema(value_type = Plan)]
    then: std::sync::Arc<Plan>,
}

/// What changed since a named version, in words, and the plan as it was then.
#[utoipa::path(
    get, path = "/api/projects/{id}/versions/{name}", params(("id" = String, Path), ("name" = String, Path)),
    responses((status = 200, body = Compared), (status = 404, body = ProblemBody))
)]
pub async fn version(
    State(app): State<App>,
    Path((id, name)): Path<(String, String)>,
) -> Result<Json<Compared>, ApiError> {
    let (before, head) = app
        .with(move |s| -> Result<_, StoreError> {
            Ok((
                jigfit_core::furniture::read(s.named(&id, &name)?)?,
                s.head(&id)?,
            ))
        })
        .await?;
    let then = app.planner.plan(&before).await?;
    let now = app.planner.plan(&head.project).await?;
    let changes = compare((&before, &then), (&head.project, &now));
    Ok(Json(Compared { changes, then }))
}
