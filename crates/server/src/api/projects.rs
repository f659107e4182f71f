//! Projects: list, start, import, read, edit, delete, and try an edit without storing it.

use std::sync::Arc;

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::{HeaderMap, HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jigfit_core::plan::Plan;
use jigfit_core::problem::Problem;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_store::{Head, Request, Store, StoreError, Summary};
use json_patch::Patch;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{EDIT, FILE, bytes, parse};
use super::once::request;
use crate::app::{App, days_ago, now};
use crate::demo;
use crate::extract::Path;
use crate::problem::{ApiError, Body as ProblemBody};

/// A project and its plan.
#[derive(Serialize, ToSchema)]
pub struct Opened {
    /// Identifier.
    id: String,
    /// Revision of the document.
    revision: u32,
    /// When it was made.
    changed: String,
    /// The document.
    project: Project,
    /// What follows from it.
    #[schema(value_type = Plan)]
    plan: Arc<Plan>,
    /// Something can be undone.
    can_undo: bool,
    /// Something can be redone.
    can_redo: bool,
    /// It is the demo's: the simulated instruments stand in its vehicle.
    simulated: bool,
}

impl Opened {
    /// Works the plan out for a stored state, while the store is free for others.
    ///
    /// # Errors
    /// Nobody waits for it any more.
    pub async fn new(app: &App, id: &str, head: Head) -> Result<Opened, ApiError> {
        Ok(Opened {
            id: id.into(),
            revision: head.revision,
            changed: head.at,
            plan: app.planner.plan(&head.project).await?,
            project: head.project,
            can_undo: head.can_undo,
            can_redo: head.can_redo,
            simulated: head.demo.is_some(),
        })
    }
}

/// Answers with the revision as `ETag` beside the project.
impl IntoResponse for Opened {
    fn into_response(self) -> Response {
        let tag = HeaderValue::from_str(&format!("\"{}\"", self.revision));
        let mut response = Json(self).into_response();
        if let Ok(tag) = tag {
            response.headers_mut().insert(header::ETAG, tag);
        }
        response
    }
}

/// A project in the list.
#[derive(Serialize, ToSchema)]
pub struct Listed {
    /// Identifier.
    id: String,
    /// Name.
    name: String,
    /// Kind of vehicle.
    kind: String,
    /// Revision.
    revision: u32,
    /// When it was last changed.
    changed: String,
    /// Why its newest state cannot be read, if so.
    #[serde(skip_serializing_if = "Option::is_none")]
    damaged: Option<String>,
    /// Of a damaged one: the newest revision that can be read.
    #[serde(skip_serializing_if = "Option::is_none")]
    last_good: Option<u32>,
}

impl From<Summary> for Listed {
    fn from(s: Summary) -> Self {
        Listed {
            id: s.id,
            name: s.name,
            kind: s.kind,
            revision: s.revision,
            changed: s.changed,
            damaged: s.damaged,
            last_good: s.last_good,
        }
    }
}

/// A new project.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct New {
    /// Its name.
    name: String,
    /// Kind of vehicle.
    kind: VehicleKind,
    /// How lengths are typed and shown.
    #[serde(default)]
    units: Units,
}

/// Names of addresses beside the projects' own.
const RESERVED: [&str; 1] = ["import"];

/// An identifier for `name` that is not taken: its letters and digits, and a number if need be.
///
/// # Errors
/// Database trouble.
pub fn free_id(store: &Store, name: &str) -> Result<String, StoreError> {
    let mut base: String = name
        .to_lowercase()
        .chars()
        .map(|c| if c.is_ascii_alphanumeric() { c } else { '-' })
        .take(40)
        .collect();
    base = base
        .split('-')
        .filter(|s| !s.is_empty())
        .collect::<Vec<_>>()
        .join("-");
    if base.is_empty() {
        base = "project".into();
    }
    let mut id = base.clone();
    let mut n = 2;
    while RESERVED.contains(&id.as_str()) || store.taken(&id)? {
        id = format!("{base}-{n}");
        n += 1;
    }
    Ok(id)
}

/// All projects, last changed first. One that cannot be read says so and hides no other.
#[utoipa::path(get, path = "/api/projects",
    responses((status = 200, body = Vec<Listed>), (status = 500, body = ProblemBody), (status = 503, body = ProblemBody)))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<Listed>>, ApiError> {
    let all = app.with(|s| s.list()).await?;
    Ok(Json(all.into_iter().map(Listed::from).collect()))
}

/// Stores a project under a free identifier, once for a request with a key, and announces it.
async fn store_new(
    app: &App,
    project: Project,
    request: Option<Request>,
) -> Result<(StatusCode, Opened), ApiError> {
    let (id, head) = app
        .with(move |s| -> Result<(String, Head), StoreError> {
            if let Some(id) = s.answered(request.as_ref())? {
                return Ok((id.clone(), s.head(&id)?));
            }
            let id = free_id(s, &project.name)?;
            let head = s.create_once(&id, &project, &now(), request.as_ref())?;
            Ok((id, head))
        })
        .await?;
    app.announce(&id, head.revision);
    Ok((StatusCode::CREATED, Opened::new(app, &id, head).await?))
}

/// Start a project.
#[utoipa::path(
    post, path = "/api/projects", request_body = New,
    params(("Idempotency-Key" = Option<String>, Header, description = "The same key again is the same request")),
    responses((status = 201, body = Opened, headers(("ETag" = String))), (status = 400, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn create(
    State(app): State<App>,
    headers: HeaderMap,
    body: Body,
) -> Result<(StatusCode, Opened), ApiError> {
    let bytes = bytes(body, EDIT).await?;
    let request = request(&headers, "POST /api/projects", &bytes)?;
    let new: New = jigfit_core::input::from_value(parse(&bytes)?)?;
    let project = Project::start(new.name.trim(), new.kind, new.units);
    jigfit_core::project::check::check(&project)?;
    jigfit_core::furniture::check(&project, jigfit_core::furniture::KINDS)?;
    store_new(&app, project, request).await
}

/// Store a project file as a new project.
#[utoipa::path(
    post, path = "/api/projects/import", request_body = Project,
    params(("Idempotency-Key" = Option<String>, Header, description = "The same key again is the same request")),
    responses((status = 201, body = Opened, headers(("ETag" = String))), (status = 400, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn import(
    State(app): State<App>,
    headers: HeaderMap,
    body: Body,
) -> Result<(StatusCode, Opened), ApiError> {
    let bytes = bytes(body, FILE).await?;
    let request = request(&headers, "POST /api/projects/import", &bytes)?;
    let project = jigfit_core::furniture::read(parse(&bytes)?)?;
    store_new(&app, project, request).await
}

/// Copy a project as it is now into a new one, with its name and "copy".
#[utoipa::path(
    post, path = "/api/projects/{id}/duplicate",
    params(("id" = String, Path), ("Idempotency-Key" = Option<String>, Header)),
    responses((status = 201, body = Opened, headers(("ETag" = String))), (status = 404, body = ProblemBody))
)]
pub async fn duplicate(
    State(app): State<App>,
    Path(id): Path<String>,
    headers: HeaderMap,
) -> Result<(StatusCode, Opened), ApiError> {
    let request = request(&headers, &format!("duplicate {id}"), &[])?;
    let from = id.clone();
    let mut project = app.with(move |s| s.head(&from)).await?.project;
    project.name = format!(
        "{} copy",
        project.name.chars().take(1900).collect::<String>()
    );
    let (status, opened) = store_new(&app, project, request).await?;
    let to = opened.id.clone();
    app.with(move |s| s.copy_photos(&id, &to)).await?;
    Ok((status, opened))
}

/// Make a new project of the newest state of a damaged one that can still be read.
#[utoipa::path(
    post, path = "/api/projects/{id}/rescue",
    params(("id" = String, Path), ("Idempotency-Key" = Option<String>, Header)),
    responses((status = 201, body = Opened, headers(("ETag" = String))), (status = 404, body = ProblemBody))
)]
pub async fn rescue(
    State(app): State<App>,
    Path(id): Path<String>,
    headers: HeaderMap,
) -> Result<(StatusCode, Opened), ApiError> {
    let request = request(&headers, &format!("rescue {id}"), &[])?;
    let project = app.with(move |s| s.rescue(&id)).await?;
    store_new(&app, project, request).await
}

/// Load the demo projects that are not there yet.
#[utoipa::path(post, path = "/api/demo",
    responses((status = 200, body = Vec<String>), (status = 507, body = ProblemBody)))]
pub async fn open_demo(State(app): State<App>) -> Result<Json<Vec<String>>, ApiError> {
    Ok(Json(app.with(demo::open).await?))
}

/// A project and its plan.
#[utoipa::path(
    get, path = "/api/projects/{id}", params(("id" = String, Path)),
    responses((status = 200, body = Opened, headers(("ETag" = String))), (status = 404, body = ProblemBody),
        (status = 422, body = ProblemBody, description = "It cannot be read: it is listed as damaged"))
)]
pub async fn get(State(app): State<App>, Path(id): Path<String>) -> Result<Opened, ApiError> {
    let asked = id.clone();
    let head = app.with(move |s| s.head(&asked)).await?;
    Opened::new(&app, &id, head).await
}

/// Delete a project. It is kept for 30 days and can be brought back.
#[utoipa::path(
    delete, path = "/api/projects/{id}", params(("id" = String, Path)),
    responses((status = 204), (status = 404, body = ProblemBody), (status = 507, body = ProblemBody))
)]
pub async fn delete(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<StatusCode, ApiError> {
    let gone = id.clone();
    app.with(move |s| s.delete(&gone, &now())).await?;
    app.announce(&id, 0);
    Ok(StatusCode::NO_CONTENT)
}

/// How long deleted projects are kept, days.
const KEPT_DAYS: i64 = 30;

/// Deleted projects that can still be brought back.
#[utoipa::path(get, path = "/api/deleted", responses((status = 200, body = Vec<Listed>)))]
pub async fn deleted(State(app): State<App>) -> Result<Json<Vec<Listed>>, ApiError> {
    let all = app
        .with(|s| -> Result<Vec<Summary>, StoreError> {
            if !s.is_read_only() {
                s.purge(&days_ago(KEPT_DAYS))?;
            }
            s.deleted()
        })
        .await?;
    Ok(Json(all.into_iter().map(Listed::from).collect()))
}

/// Bring a deleted project back.
#[utoipa::path(
    post, path = "/api/deleted/{id}", params(("id" = String, Path)),
    responses((status = 204), (status = 404, body = ProblemBody))
)]
pub async fn undelete(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<StatusCode, ApiError> {
    app.with(move |s| s.undelete(&id)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The revision named by `If-Match`.
fn base(headers: &HeaderMap) -> Result<u32, ApiError> {
    let text = headers
        .get(header::IF_MATCH)
        .and_then(|v| v.to_str().ok())
        .map(|v| v.trim().trim_matches('"'));
    text.and_then(|t| t.parse().ok()).ok_or_else(|| {
        ApiError::new(
            StatusCode::PRECONDITION_REQUIRED,
            Problem::missing(
                "",
                "Say with If-Match which revision this edit was made against.",
            ),
        )
    })
}

/// Edit a project with a JSON Patch against the revision in `If-Match`. Edits of other places made
/// since then are merged; edits of the same place give 409 with both values.
#[utoipa::path(
    patch, path = "/api/projects/{id}",
    params(("id" = String, Path), ("If-Match" = u32, Header),
        ("Idempotency-Key" = Option<String>, Header, description = "The same key again is the same request")),
    request_body(content = Vec<Object>, content_type = "application/json-patch+json"),
    responses((status = 200, body = Opened, headers(("ETag" = String))), (status = 400, body = ProblemBody),
        (status = 404, body = ProblemBody), (status = 409, body = ProblemBody), (status = 413, body = ProblemBody),
        (status = 415, body = ProblemBody), (status = 422, body = ProblemBody), (status = 428, body = ProblemBody),
        (status = 507, body = ProblemBody))
)]
pub async fn edit(
    State(app): State<App>,
    Path(id): Path<String>,
    headers: HeaderMap,
    body: Body,
) -> Result<Opened, ApiError> {
    let base = base(&headers)?;
    let bytes = bytes(body, EDIT).await?;
    let request = request(&headers, &format!("PATCH {id} {base}"), &bytes)?;
    let patch: Patch = jigfit_core::input::from_value(parse(&bytes)?)?;
    let which = id.clone();
    let head = app
        .with(move |s| -> Result<Head, StoreError> {
            if s.answered(request.as_ref())?.is_some() {
                return s.head(&which);
            }
            let edit = s.edit_once(&which, base, &patch, &now(), request.as_ref())?;
            Ok(edit.head)
        })
        .await?;
    app.announce(&id, head.revision);
    Opened::new(&app, &id, head).await
}
