//! The plan as it would be: whole, or only what is shown while something is dragged.

use std::sync::Arc;

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use jigfit_core::plan::Plan;
use jigfit_core::problem::Problem;
use jigfit_store::{apply, reaching};
use json_patch::Patch;
use serde::ser::SerializeMap;
use serde::{Deserialize, Serialize, Serializer};
use utoipa::IntoParams;

use super::body::{EDIT, read};
use crate::app::App;
use crate::extract::{Path, Query};
use crate::problem::{ApiError, Body as ProblemBody};

/// How much of the plan is wanted.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Fields of the plan, with commas between; all of them if nothing is said.
    only: Option<String>,
}

/// Some fields of a plan.
struct PartOf {
    plan: Arc<Plan>,
    only: Vec<String>,
}

/// Names and writes the fields of a plan, each where it is wanted.
macro_rules! fields {
    ($($field:ident),* $(,)?) => {
        const FIELDS: &[&str] = &[$(stringify!($field)),*];

        impl Serialize for PartOf {
            fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
                let mut map = to.serialize_map(None)?;
                $(if self.only.iter().any(|f| f == stringify!($field)) {
                    map.serialize_entry(stringify!($field), &self.plan.$field)?;
                })*
                map.end()
            }
        }
    };
}

fields!(
    stages,
    asks,
    progress,
    survey,
    ladder,
    decks,
    modules,
    boards,
    bought,
    views,
    evening,
    joints,
    holds,
    out,
    stowed,
    hardware,
    parts,
    sheets,
    findings,
    cost,
    unpriced,
    mass,
    weighs,
    templates,
    over,
    fits,
    transferred,
    assembly,
    materials,
);

/// The fields wanted; nothing for the whole plan.
fn named(only: Option<&str>) -> Result<Option<Vec<String>>, ApiError> {
    let Some(only) = only else { return Ok(None) };
    let all: Vec<String> = only.split(',').map(str::to_string).collect();
    match all.iter().find(|f| !FIELDS.contains(&f.as_str())) {
        None => Ok(Some(all)),
        Some(odd) => {
            let words = format!("A plan has no field {odd:?}.");
            let mut problem = Problem::new("address", "Not an address here", "", words);
            problem.allowed = Some(FIELDS.join(", "));
            Err(ApiError::new(StatusCode::BAD_REQUEST, problem))
        }
    }
}

/// The plan as it would be after a JSON Patch; nothing is stored. With `only` the answer has only those of its fields: a
/// drag asks for what it shows.
#[utoipa::path(
    post, path = "/api/projects/{id}/preview", params(("id" = String, Path), Wanted),
    request_body(content = Vec<Object>, content_type = "application/json-patch+json"),
    responses((status = 200, body = Plan), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn preview(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(wanted): Query<Wanted>,
    body: Body,
) -> Result<Response, ApiError> {
    let only = named(wanted.only.as_deref())?;
    let patch: Patch = read(body, EDIT).await?;
    let mut document = app.with(move |s| s.newest(&id)).await?;
    let patch = reaching(&patch, &document);
    apply(&mut document, &patch)?;
    let project = jigfit_core::furniture::read(document)?;
    let plan = app.planner.plan(&project).await?;
    Ok(match only {
        None => Json(&*plan).into_response(),
        Some(only) => Json(PartOf { plan, only }).into_response(),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A field that is added to the plan can be asked for.
    #[test]
    fn every_field_has_its_name() {
        let plan = serde_json::to_value(Plan::default()).unwrap_or_default();
        let keys: Vec<&str> = plan
            .as_object()
            .into_iter()
            .flat_map(|o| o.keys())
            .map(String::as_str)
            .collect();
        assert_eq!(keys, FIELDS);
    }
}
