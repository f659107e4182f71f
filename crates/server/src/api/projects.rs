//! Projects: list, start, import, read, edit, and try an edit without storing it.

use axum::Json;
use axum::body::Body;
use axum::extract::{Path, State};
use axum::http::{HeaderMap, StatusCode, header};
use jigfit_core::plan::{Plan, solve};
use jigfit_core::problem::Problem;
use jigfit_core::project::{Project, Units, VehicleKind};
use jigfit_store::{Head, Store, StoreError, Summary};
use json_patch::Patch;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{EDIT, FILE, json, read};
use crate::app::{App, now};
use crate::demo;
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
    plan: Plan,
    /// Something can be undone.
    can_undo: bool,
    /// Something can be redone.
    can_redo: bool,
}

impl Opened {
    /// Identifier.
    pub fn id(&self) -> &str {
        &self.id
    }

    /// Revision of the document.
    pub fn revision(&self) -> u32 {
        self.revision
    }

    /// Works the plan out for a stored state.
    pub fn new(id: &str, head: Head) -> Opened {
        Opened {
            id: id.into(),
            revision: head.revision,
            changed: head.at,
            plan: solve(&head.project),
            project: head.project,
            can_undo: head.can_undo,
            can_redo: head.can_redo,
        }
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
}

impl From<Summary> for Listed {
    fn from(s: Summary) -> Self {
        Listed {
            id: s.id,
            name: s.name,
            kind: s.kind,
            revision: s.revision,
            changed: s.changed,
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
    while store.exists(&id)? {
        id = format!("{base}-{n}");
        n += 1;
    }
    Ok(id)
}

/// All projects, last changed first.
#[utoipa::path(get, path = "/api/projects", responses((status = 200, body = Vec<Listed>)))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<Listed>>, ApiError> {
    let all = app.with(|s| s.list()).await?;
    Ok(Json(all.into_iter().map(Listed::from).collect()))
}

async fn store_new(app: &App, project: Project) -> Result<Opened, ApiError> {
    let opened = app
        .with(move |s| -> Result<Opened, StoreError> {
            let id = free_id(s, &project.name)?;
            let head = s.create(&id, &project, &now())?;
            Ok(Opened::new(&id, head))
        })
        .await?;
    app.announce(&opened.id, opened.revision);
    Ok(opened)
}

/// Start a project.
#[utoipa::path(
    post, path = "/api/projects", request_body = New,
    responses((status = 201, body = Opened), (status = 422, body = ProblemBody))
)]
pub async fn create(
    State(app): State<App>,
    body: Body,
) -> Result<(StatusCode, Json<Opened>), ApiError> {
    let new: New = read(body, EDIT).await?;
    let project = Project::start(new.name.trim(), new.kind, new.units);
    jigfit_core::project::check::check(&project)?;
    Ok((StatusCode::CREATED, Json(store_new(&app, project).await?)))
}

/// Store a project file as a new project.
#[utoipa::path(
    post, path = "/api/projects/import", request_body = Project,
    responses((status = 201, body = Opened), (status = 400, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn import(
    State(app): State<App>,
    body: Body,
) -> Result<(StatusCode, Json<Opened>), ApiError> {
    let project = Project::read(json(body, FILE).await?)?;
    Ok((StatusCode::CREATED, Json(store_new(&app, project).await?)))
}

/// Load the demo projects that are not there yet.
#[utoipa::path(post, path = "/api/demo", responses((status = 200, body = Vec<String>)))]
pub async fn open_demo(State(app): State<App>) -> Result<Json<Vec<String>>, ApiError> {
    Ok(Json(app.with(demo::load).await?))
}

/// A project and its plan.
#[utoipa::path(
    get, path = "/api/projects/{id}", params(("id" = String, Path)),
    responses((status = 200, body = Opened), (status = 404, body = ProblemBody))
)]
pub async fn get(State(app): State<App>, Path(id): Path<String>) -> Result<Json<Opened>, ApiError> {
    let opened = app
        .with(move |s| -> Result<Opened, StoreError> { Ok(Opened::new(&id, s.head(&id)?)) })
        .await?;
    Ok(Json(opened))
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
    params(("id" = String, Path), ("If-Match" = u32, Header)),
    request_body(content = Vec<Object>, content_type = "application/json-patch+json"),
    responses((status = 200, body = Opened), (status = 409, body = ProblemBody),
        (status = 422, body = ProblemBody), (status = 428, body = ProblemBody))
)]
pub async fn edit(
    State(app): State<App>,
    Path(id): Path<String>,
    headers: HeaderMap,
    body: Body,
) -> Result<Json<Opened>, ApiError> {
    let base = base(&headers)?;
    let patch: Patch = read(body, EDIT).await?;
    let opened = app
        .with(move |s| -> Result<Opened, StoreError> {
            let edit = s.edit(&id, base, &patch, &now())?;
            Ok(Opened::new(&id, edit.head))
        })
        .await?;
    app.announce(&opened.id, opened.revision);
    Ok(Json(opened))
}

/// The plan as it would be after a JSON Patch; nothing is stored.
#[utoipa::path(
    post, path = "/api/projects/{id}/preview", params(("id" = String, Path)),
    request_body(content = Vec<Object>, content_type = "application/json-patch+json"),
    responses((status = 200, body = Plan), (status = 422, body = ProblemBody))
)]
pub async fn preview(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Json<Plan>, ApiError> {
    let patch: Patch = read(body, EDIT).await?;
    let head = app.with(move |s| s.head(&id)).await?;
    let solved = tokio::task::spawn_blocking(move || -> Result<Plan, ApiError> {
        let mut document = head.document;
        json_patch::patch(&mut document, &patch)
            .map_err(|e| Problem::shape(e.path.to_string(), format!("{}.", e.kind)))?;
        Ok(solve(&Project::read(document)?))
    });
    Ok(Json(
        solved
            .await
            .map_err(|e| ApiError::internal(e.to_string()))??,
    ))
}
