//! Files to take away: project, readings, part cards, sheets, cut list.

use std::sync::Arc;

use axum::extract::State;
use axum::http::{HeaderValue, header};
use axum::response::{IntoResponse, Response};
use jigfit_core::plan::Plan;
use jigfit_core::problem::Problem;
use jigfit_formats::{
    FormatError, csv, dxf, full_size, model_mesh, part_card, pdf, sheet_card, steps_card, svg,
};
use jigfit_store::Head;

use crate::app::App;
use crate::extract::Path;
use crate::problem::{ApiError, Body as ProblemBody};

/// Kinds of export by file name: a new one is one line here and one arm in `write`.
const KINDS: [(&str, Export, &str); 15] = [
    ("project.json", Export::Project, "application/json"),
    ("readings.csv", Export::Readings, "text/csv; charset=utf-8"),
    ("model.ply", Export::Model, "application/octet-stream"),
    ("parts.svg", Export::PartsSvg, "image/svg+xml"),
    ("parts.pdf", Export::PartsPdf, "application/pdf"),
    ("sheets.svg", Export::SheetsSvg, "image/svg+xml"),
    ("sheets.pdf", Export::SheetsPdf, "application/pdf"),
    ("steps.pdf", Export::Steps, "application/pdf"),
    ("cuts.csv", Export::Cuts, "text/csv; charset=utf-8"),
    ("parts.csv", Export::Parts, "text/csv; charset=utf-8"),
    ("hardware.csv", Export::Hardware, "text/csv; charset=utf-8"),
    ("templates.pdf", Export::TemplatesPdf, "application/pdf"),
    ("templates.svg", Export::TemplatesSvg, "image/svg+xml"),
    ("templates.dxf", Export::TemplatesDxf, "image/vnd.dxf"),
    (
        "ordinates.csv",
        Export::Ordinates,
        "text/csv; charset=utf-8",
    ),
];

/// A kind of export.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Export {
    /// The document.
    Project,
    /// The readings.
    Readings,
    /// The vehicle as measured.
    Model,
    /// Part cards.
    PartsSvg,
    /// Part cards.
    PartsPdf,
    /// Sheet layouts.
    SheetsSvg,
    /// Sheet layouts.
    SheetsPdf,
    /// How each piece is put together.
    Steps,
    /// Cut list.
    Cuts,
    /// Part list.
    Parts,
    /// What is bought besides boards.
    Hardware,
    /// Captured curves at full size, in pages.
    TemplatesPdf,
    /// Captured curves, each on one sheet.
    TemplatesSvg,
    /// Captured curves for a cutter.
    TemplatesDxf,
    /// Captured curves as tables.
    Ordinates,
}

impl Export {
    /// The kind of that name.
    ///
    /// # Errors
    /// No such kind; the problem lists those there are.
    pub fn of(name: &str) -> Result<Export, Problem> {
        let found = KINDS.iter().find(|(n, ..)| *n == name);
        found.map(|(_, kind, _)| *kind).ok_or_else(|| {
            Problem::new(
                "not-found",
                "No such export",
                "",
                format!("There is no export \"{name}\"."),
            )
            .allowing(KINDS.map(|(n, ..)| n).join(", "))
        })
    }
}

impl From<FormatError> for ApiError {
    fn from(e: FormatError) -> Self {
        ApiError::internal(e.to_string())
    }
}

/// Writes a stored project in that form.
///
/// # Errors
/// The writer refuses; not with a project that was stored.
pub fn write(kind: Export, head: &Head, plan: &Plan) -> Result<Vec<u8>, String> {
    let project = &head.project;
    if kind == Export::Project {
        let mut text = serde_json::to_vec_pretty(project).map_err(|e| e.to_string())?;
        text.push(b'\n');
        return Ok(text);
    }
    if kind == Export::Model {
        return Ok(model_mesh::write(project));
    }
    let told = |e: FormatError| e.to_string();
    match kind {
        Export::Project | Export::Model => Ok(vec![]),
        Export::Readings => csv::readings(project, plan).map_err(told),
        Export::Parts => csv::parts(plan).map_err(told),
        Export::Hardware => csv::hardware(plan).map_err(told),
        Export::Ordinates => csv::ordinates(plan).map_err(told),
        Export::TemplatesDxf => Ok(dxf::templates(plan)),
        Export::TemplatesSvg => Ok(svg::write(&full_size::sheets(plan)).into_bytes()),
        Export::TemplatesPdf => {
            pdf::write(&full_size::pages(project, plan), &project.name).map_err(told)
        }
        Export::Cuts => csv::cuts(plan).map_err(told),
        Export::PartsSvg => Ok(svg::write(&part_card::pages(project, plan)).into_bytes()),
        Export::PartsPdf => {
            pdf::write(&part_card::pages(project, plan), &project.name).map_err(told)
        }
        Export::SheetsSvg => Ok(svg::write(&sheet_card::pages(project, plan)).into_bytes()),
        Export::SheetsPdf => {
            pdf::write(&sheet_card::pages(project, plan), &project.name).map_err(told)
        }
        Export::Steps => pdf::write(&steps_card::pages(project, plan), &project.name).map_err(told),
    }
}

/// Everything stored of a project, sound or not: to take away when it cannot be read.
#[utoipa::path(
    get, path = "/api/projects/{id}/raw.json", params(("id" = String, Path)),
    responses((status = 200, body = Object), (status = 404, body = ProblemBody))
)]
pub async fn raw(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<axum::Json<serde_json::Value>, ApiError> {
    Ok(axum::Json(app.with(move |s| s.raw(&id)).await?))
}

/// A file of a project.
#[utoipa::path(
    get, path = "/api/projects/{id}/export/{kind}",
    params(("id" = String, Path), ("kind" = String, Path,
        description = "project.json, readings.csv, model.ply, parts.svg, parts.pdf, sheets.svg, sheets.pdf, steps.pdf, cuts.csv, parts.csv, hardware.csv, templates.pdf, templates.svg, templates.dxf, ordinates.csv")),
    responses((status = 200, body = String), (status = 404, body = ProblemBody))
)]
pub async fn export(
    State(app): State<App>,
    Path((id, name)): Path<(String, String)>,
) -> Result<Response, ApiError> {
    let kind =
        Export::of(&name).map_err(|p| ApiError::new(axum::http::StatusCode::NOT_FOUND, p))?;
    let mime = KINDS.iter().find(|(n, ..)| *n == name).map_or("", |k| k.2);
    let asked = id.clone();
    let head = app.with(move |s| s.head(&asked)).await?;
    let plan = match kind {
        Export::Project | Export::Model => Arc::default(),
        _ => app.planner.plan(&head.project).await?,
    };
    let bytes = tokio::task::spawn_blocking(move || write(kind, &head, &plan))
        .await
        .map_err(|e| ApiError::internal(e.to_string()))?
        .map_err(ApiError::internal)?;
    let disposition = HeaderValue::from_str(&format!("attachment; filename=\"{id}-{name}\""))
        .unwrap_or_else(|_| HeaderValue::from_static("attachment"));
    let mut response = ([(header::CONTENT_TYPE, mime)], bytes).into_response();
    response
        .headers_mut()
        .insert(header::CONTENT_DISPOSITION, disposition);
    Ok(response)
}
