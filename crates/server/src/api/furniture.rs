//! Kinds of furniture, and what of them would suit a project.

use std::collections::BTreeMap;

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use jigfit_core::evening::Scene;
use jigfit_core::furniture::KINDS;
use jigfit_core::furniture::add::suggest as suit;
use jigfit_core::handles::{Handle, handles as pulled};
use jigfit_core::input::within;
use jigfit_core::problem::Problem;
use jigfit_core::project::module::Module;
use jigfit_core::remedies::{Remedies, remedies as tried};
use jigfit_core::starts::{Measures, StartingPoint, starting_points};
use jigfit_core::sweep::sweep as swept;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

use super::body::{EDIT, read};
use crate::app::App;
use crate::extract::{Path, Query};
use crate::planner::while_asked;
use crate::problem::{ApiError, Body as ProblemBody};

/// A kind of furniture.
#[derive(Serialize, ToSchema)]
pub struct KindView {
    /// Its name in documents.
    kind: &'static str,
    /// What one wants it for.
    purpose: &'static str,
    /// JSON Schema of its choices.
    schema: Value,
}

/// Every kind of furniture.
#[utoipa::path(get, path = "/api/kinds", responses((status = 200, body = Vec<KindView>)))]
pub async fn kinds() -> Json<Vec<KindView>> {
    let all = KINDS.iter().map(|k| KindView {
        kind: k.name(),
        purpose: k.purpose(),
        schema: k.schema(),
    });
    Json(all.collect())
}

/// Whole fit-outs to begin with.
#[derive(Serialize, ToSchema)]
pub struct Starts {
    /// What is there now in the same figures, if there is any furniture.
    now: Option<Measures>,
    /// The starting points.
    all: Vec<StartingPoint>,
}

/// Starting points that are worked out for this vehicle and stow list; nothing is stored.
#[utoipa::path(
    get, path = "/api/projects/{id}/starts", params(("id" = String, Path)),
    responses((status = 200, body = Starts), (status = 404, body = ProblemBody))
)]
pub async fn starts(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<Json<Starts>, ApiError> {
    let head = app.with(move |s| s.head(&id)).await?;
    let project = head.project;
    let plan = app.planner.plan(&project).await?;
    let now = (!project.modules.is_empty()).then(|| Measures::of(&plan));
    let all = while_asked(move |go_on| starting_points(&project, go_on)).await?;
    Ok(Json(Starts { now, all }))
}

/// Ways to furnish the vehicle, in the same figures.
#[derive(Serialize, ToSchema)]
pub struct Variants {
    /// What is worked on.
    now: Measures,
    /// The others, by identifier.
    all: BTreeMap<String, VariantView>,
}

/// A way to furnish the vehicle.
#[derive(Serialize, ToSchema)]
pub struct VariantView {
    /// What it is called.
    name: String,
    /// Its pieces.
    pieces: Vec<VariantPiece>,
    /// It is what is worked on.
    same: bool,
    /// What comes of it.
    measures: Measures,
}

/// A piece of a variant.
#[derive(Serialize, ToSchema)]
pub struct VariantPiece {
    /// Module identifier.
    id: String,
    /// What it is called.
    name: String,
    /// It is there now, just so.
    same: bool,
}

/// The variants of a project, worked out beside what is worked on.
#[utoipa::path(
    get, path = "/api/projects/{id}/variants", params(("id" = String, Path)),
    responses((status = 200, body = Variants), (status = 404, body = ProblemBody))
)]
pub async fn variants(
    State(app): State<App>,
    Path(id): Path<String>,
) -> Result<Json<Variants>, ApiError> {
    let project = app.with(move |s| s.head(&id)).await?.project;
    let now = Measures::of(&*app.planner.plan(&project).await?);
    let mut all = BTreeMap::new();
    for (id, v) in &project.variants {
        let plan = app.planner.plan(&project.furnished(v)).await?;
        let view = VariantView {
            name: v.name.clone(),
            pieces: v
                .modules
                .iter()
                .map(|(id, m)| VariantPiece {
                    id: id.clone(),
                    name: m.called(),
                    same: project.modules.get(id) == Some(m),
                })
                .collect(),
            same: v.modules == project.modules && v.states == project.states,
            measures: Measures::of(&plan),
        };
        all.insert(id.clone(), view);
    }
    Ok(Json(Variants { now, all }))
}

/// Which piece.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Piece {
    /// Module identifier.
    piece: String,
}

/// All the way of what moves of a piece, in the three views.
#[utoipa::path(
    get, path = "/api/projects/{id}/sweep", params(("id" = String, Path), Piece),
    responses((status = 200, body = Scene), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn sweep(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(asked): Query<Piece>,
) -> Result<Json<Scene>, ApiError> {
    let project = app.with(move |s| s.head(&id)).await?.project;
    let plan = app.planner.plan(&project).await?;
    let module = plan.modules.iter().find(|m| m.id == asked.piece);
    let module = module.ok_or_else(|| {
        Problem::missing("/piece", format!("There is no piece \"{}\".", asked.piece))
    })?;
    Ok(Json(swept(&plan.boards, module)))
}

/// What of a piece can be pulled at in the drawing, and which number that changes.
#[utoipa::path(
    get, path = "/api/projects/{id}/handles", params(("id" = String, Path), Piece),
    responses((status = 200, body = Vec<Handle>), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn handles(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(asked): Query<Piece>,
) -> Result<Json<Vec<Handle>>, ApiError> {
    let project = app.with(move |s| s.head(&id)).await?.project;
    let planner = app.planner.clone();
    let found = while_asked(move |go_on| {
        let (model, _) = planner.known(&project, go_on)?;
        Some(pulled(&project, &model, KINDS, &asked.piece))
    });
    Ok(Json(found.await??))
}

/// Which finding.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Against {
    /// Its identifier in the plan.
    finding: String,
    /// For how long changes are tried, seconds; what was found until then is the answer.
    #[serde(default = "soon")]
    seconds: f64,
}

/// Somebody who asks what helps waits so long, s (a choice), and no longer than that.
const SOON: f64 = 1.7;
const LONGEST: f64 = 30.0;

fn soon() -> f64 {
    SOON
}

/// What can be done about a finding, tried over the whole plan: its own changes with what each does, what helps most first; against
/// a stop that none of them settles, changes of the pieces it concerns.
#[utoipa::path(
    get, path = "/api/projects/{id}/remedies", params(("id" = String, Path), Against),
    responses((status = 200, body = Remedies), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn remedies(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(asked): Query<Against>,
) -> Result<Json<Remedies>, ApiError> {
    let seconds = within(asked.seconds, "/seconds", 0.0, LONGEST)?;
    let project = app.with(move |s| s.head(&id)).await?.project;
    let planner = app.planner.clone();
    let begun = std::time::Instant::now();
    let found = while_asked(move |go_on| {
        tried(
            &project,
            &|p| planner.known(p, go_on),
            &asked.finding,
            go_on,
            &|| begun.elapsed().as_secs_f64() < seconds,
        )
    });
    Ok(Json(found.await?))
}

/// What is wanted.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Want {
    /// Its kind.
    kind: String,
    /// Choices as typed: field and value.
    #[serde(default)]
    #[schema(value_type = Vec<Vec<String>>)]
    set: Vec<(String, String)>,
}

/// A piece of furniture that suits, not stored yet.
#[derive(Serialize, ToSchema)]
pub struct Suggestion {
    /// The identifier it would get.
    id: String,
    /// The module.
    module: Module,
}

/// A piece of furniture of that kind that suits the vehicle and what is there; nothing is stored.
#[utoipa::path(
    post, path = "/api/projects/{id}/suggest", params(("id" = String, Path)), request_body = Want,
    responses((status = 200, body = Suggestion), (status = 404, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn suggest(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Json<Suggestion>, ApiError> {
    let want: Want = read(body, EDIT).await?;
    let project = app.with(move |s| s.head(&id)).await?.project;
    let planner = app.planner.clone();
    let found = while_asked(move |go_on| {
        let (model, _) = planner.known(&project, go_on)?;
        Some(suit(&project, &model, KINDS, &want.kind, None, &want.set))
    });
    let (id, module) = found.await??;
    Ok(Json(Suggestion { id, module }))
}
