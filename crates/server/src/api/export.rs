//! Files to take away: project, readings, part cards, sheets, cut list.

use std::sync::Arc;

use axum::extract::State;
use axum::http::{HeaderValue, header};
use axum::response::{IntoResponse, Response};
use jigfit_core::plan::Plan;
use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use jigfit_formats::drawing::{self, Drawing};
use jigfit_formats::dxf::Release;
use jigfit_formats::full_size::Sheet;
use jigfit_formats::{
    FormatError, csv, dxf, full_size, marker_sheets, model_mesh, part_card, pdf, sheet_card,
    steps_card, svg,
};
use jigfit_store::Head;

use crate::app::App;
use crate::extract::{Path, Query};
use crate::problem::{ApiError, Body as ProblemBody};

/// Kinds of export by file name: a new one is one line here and one arm in `write`.
const KINDS: [(&str, Export, &str); 19] = [
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
    ("boards.pdf", Export::BoardsPdf, "application/pdf"),
    ("boards.svg", Export::BoardsSvg, "image/svg+xml"),
    ("boards.dxf", Export::BoardsDxf, "image/vnd.dxf"),
    ("templates.pdf", Export::TemplatesPdf, "application/pdf"),
    ("templates.svg", Export::TemplatesSvg, "image/svg+xml"),
    ("templates.dxf", Export::TemplatesDxf, "image/vnd.dxf"),
    ("markers.pdf", Export::Markers, "application/pdf"),
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
    /// Boards at full size, in pages.
    BoardsPdf,
    /// Boards, each on one sheet.
    BoardsSvg,
    /// Boards for a cutter.
    BoardsDxf,
    /// Captured curves at full size, in pages.
    TemplatesPdf,
    /// Captured curves, each on one sheet.
    TemplatesSvg,
    /// Captured curves for a cutter.
    TemplatesDxf,
    /// Captured curves as tables.
    Ordinates,
    /// The sheets that lie beside a template in a photo of it.
    Markers,
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

/// What is wanted of an export beside its kind.
#[derive(Debug, Clone, Default, serde::Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Wanted {
    /// Of boards: only the one of that mark.
    pub part: Option<String>,
    /// Of pages at full size: the paper; the project's own if nothing is said.
    pub paper: Option<String>,
    /// Of DXF: `12`, or `2000`.
    pub release: Option<String>,
}

impl Wanted {
    fn sheet(&self, project: &Project) -> Result<Sheet, Problem> {
        let Some(name) = &self.paper else {
            return Ok(Sheet::of(project));
        };
        Sheet::named(name).ok_or_else(|| {
            let words = format!("There is no paper \"{name}\".");
            Problem::new("paper", "No such paper", "/paper", words).allowing(full_size::SHEETS)
        })
    }

    fn release(&self) -> Result<Release, Problem> {
        match self.release.as_deref() {
            None | Some("12") => Ok(Release::R12),
            Some("2000") => Ok(Release::R2000),
            Some(other) => {
                let words = format!("There is no release \"{other}\" to write.");
                Err(
                    Problem::new("release", "No such release", "/release", words)
                        .allowing("12, 2000"),
                )
            }
        }
    }

    /// The boards that are wanted.
    fn boards(&self, plan: &Plan) -> Result<Vec<Drawing>, Problem> {
        let found = drawing::boards(plan, self.part.as_deref());
        match &self.part {
            Some(mark) if found.is_empty() => {
                let words = format!("There is no board \"{mark}\".");
                Err(Problem::new("not-found", "No such board", "/part", words))
            }
            _ => Ok(found),
        }
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
/// What is wanted is not there; the writer refuses, not with a project that was stored.
pub fn write(kind: Export, head: &Head, plan: &Plan, wanted: &Wanted) -> Result<Vec<u8>, ApiError> {
    let project = &head.project;
    let failed = |e: String| ApiError::internal(e);
    if kind == Export::Project {
        let mut text = serde_json::to_vec_pretty(project).map_err(|e| failed(e.to_string()))?;
        text.push(b'\n');
        return Ok(text);
    }
    if kind == Export::Model {
        return Ok(model_mesh::write(project));
    }
    let told = |e: FormatError| failed(e.to_string());
    let not = |p: Problem| ApiError::new(axum::http::StatusCode::NOT_FOUND, p);
    match kind {
        Export::Project | Export::Model => Ok(vec![]),
        Export::Readings => csv::readings(project, plan).map_err(told),
        Export::Parts => csv::parts(plan).map_err(told),
        Export::Hardware => csv::hardware(plan).map_err(told),
        Export::Markers => {
            let pages = marker_sheets::pages(project.units.paper);
            pdf::write(&pages, "Marker sheets").map_err(told)
        }
        Export::Ordinates => csv::ordinates(plan).map_err(told),
        Export::BoardsDxf | Export::TemplatesDxf => {
            let release = wanted.release().map_err(not)?;
            Ok(dxf::write(
                &drawings(kind, plan, wanted).map_err(not)?,
                release,
            ))
        }
        Export::BoardsSvg | Export::TemplatesSvg => {
            let drawings = drawings(kind, plan, wanted).map_err(not)?;
            Ok(svg::write(&full_size::sheets(&drawings)).into_bytes())
        }
        Export::BoardsPdf | Export::TemplatesPdf => {
            let sheet = wanted.sheet(project).map_err(not)?;
            let drawings = drawings(kind, plan, wanted).map_err(not)?;
            let pages = full_size::pages(project, &drawings, sheet);
            pdf::write(&pages, &project.name).map_err(told)
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

fn drawings(kind: Export, plan: &Plan, wanted: &Wanted) -> Result<Vec<Drawing>, Problem> {
    match kind {
        Export::BoardsDxf | Export::BoardsSvg | Export::BoardsPdf => wanted.boards(plan),
        _ => Ok(drawing::curves(plan)),
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
    params(("id" = String, Path),
        ("part" = Option<String>, Query, description = "of boards: only the one of that mark"),
        ("paper" = Option<String>, Query, description = "of pages at full size: a4, letter, a3, roll-594, roll-610, roll-914"),
        ("release" = Option<String>, Query, description = "of DXF: 12 or 2000"),
        ("kind" = String, Path,
        description = "project.json, readings.csv, model.ply, parts.svg, parts.pdf, sheets.svg, sheets.pdf, steps.pdf, cuts.csv, parts.csv, hardware.csv, boards.pdf, boards.svg, boards.dxf, templates.pdf, templates.svg, templates.dxf, ordinates.csv")),
    responses((status = 200, body = String), (status = 404, body = ProblemBody))
)]
pub async fn export(
    State(app): State<App>,
    Path((id, name)): Path<(String, String)>,
    Query(wanted): Query<Wanted>,
) -> Result<Response, ApiError> {
    let kind =
        Export::of(&name).map_err(|p| ApiError::new(axum::http::StatusCode::NOT_FOUND, p))?;
    let mime = KINDS.iter().find(|(n, ..)| *n == name).map_or("", |k| k.2);
    let asked = id.clone();
    let part = wanted.part.clone();
    let head = app.with(move |s| s.head(&asked)).await?;
    let plan = match kind {
        Export::Project | Export::Model => Arc::default(),
        _ => app.planner.plan(&head.project).await?,
    };
    let bytes = tokio::task::spawn_blocking(move || write(kind, &head, &plan, &wanted))
        .await
        .map_err(|e| ApiError::internal(e.to_string()))??;
    let of = part.map_or(String::new(), |p| format!("{p}-"));
    let disposition = HeaderValue::from_str(&format!("attachment; filename=\"{id}-{of}{name}\""))
        .unwrap_or_else(|_| HeaderValue::from_static("attachment"));
    let mut response = ([(header::CONTENT_TYPE, mime)], bytes).into_response();
    response
        .headers_mut()
        .insert(header::CONTENT_DISPOSITION, disposition);
    Ok(response)
}
