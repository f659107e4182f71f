//! The search for a good layout of the sheets: a job that says how far it is and ends when nobody listens.

use axum::body::Body;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use jigfit_core::cutting::accepted::{accept, ticks};
use jigfit_core::cutting::sheets::{Keep, SheetGroup, lay_out};
use jigfit_core::input::within;
use jigfit_core::plan::Plan;
use jigfit_core::problem::Problem;
use jigfit_core::project::Project;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use tokio::sync::{Semaphore, mpsc};
use utoipa::ToSchema;

use super::body::{EDIT, read};
use super::lines;
use crate::app::App;
use crate::extract::Path;
use crate::problem::{ApiError, Body as ProblemBody};

/// One search at a time: it takes a whole processor.
static SEARCHES: Semaphore = Semaphore::const_new(1);

/// Least effort, and the most that may be asked for.
const LEAST: f64 = 0.05;
const MOST: f64 = 20.0;

/// How hard to search.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Search {
    /// 0 takes the layout as it is shown; 1 is a search of some seconds.
    effort: f64,
}

/// One line of the answer: how far the search is, or what was found.
#[derive(Serialize, ToSchema)]
#[serde(untagged)]
pub enum Line {
    /// It goes on.
    On {
        /// Layouts looked at.
        done: usize,
        /// Layouts to look at.
        of: usize,
    },
    /// What was found; nothing is stored.
    Found(Found),
}

/// A layout that can be accepted.
#[derive(Serialize, ToSchema)]
pub struct Found {
    /// How many sheets it takes.
    pub sheets: usize,
    /// How many the layout takes that is shown.
    pub before: usize,
    /// The change that accepts it, as JSON Patch.
    #[schema(value_type = Vec<Object>)]
    pub patch: Value,
}

/// The layout of a plan as it would be stored.
pub fn found(project: &Project, plan: &Plan, groups: &[SheetGroup]) -> Found {
    let count = |g: &[SheetGroup]| g.iter().map(|g| g.nest.sheets_used).sum();
    Found {
        sheets: count(groups),
        before: count(&plan.sheets),
        patch: json!([
            { "op": "add", "path": "/cutting/accepted", "value": accept(groups, &plan.parts, project) },
            { "op": "add", "path": "/cutting/ticked", "value": ticks(project, groups) },
        ]),
    }
}

/// Lays the parts out that lie on no sheet that was begun; one JSON object a line, the last with the change that
/// accepts what was found. Closing the connection ends the search.
#[utoipa::path(
    post, path = "/api/projects/{id}/sheets", params(("id" = String, Path)), request_body = Search,
    responses(
        (status = 200, content_type = "application/x-ndjson", body = Line), (status = 404, body = ProblemBody),
        (status = 422, body = ProblemBody), (status = 429, body = ProblemBody)
    )
)]
pub async fn search(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Response, ApiError> {
    let want: Search = read(body, EDIT).await?;
    within(want.effort, "/effort", 0.0, MOST)?;
    let head = app.with(move |s| s.head(&id)).await?;
    let plan = app.planner.plan(&head.project).await?;
    if let Some(p) = plan.sheets.iter().find_map(|g| g.problem.clone()) {
        return Err(Problem::impossible("/cutting", p).into());
    }
    let Ok(turn) = SEARCHES.try_acquire() else {
        return Err(ApiError::new(
            StatusCode::TOO_MANY_REQUESTS,
            Problem::new(
                "busy",
                "Busy",
                "",
                "Another search is running: wait for it or stop it.",
            ),
        ));
    };
    let (to, lines) = mpsc::channel::<Line>(64);
    tokio::task::spawn_blocking(move || {
        let _turn = turn;
        let project = &head.project;
        let as_shown = want.effort == 0.0 && project.cutting.accepted.is_none();
        let groups = if as_shown {
            Some(plan.sheets.clone())
        } else {
            // A line that nobody takes in time is no matter; a closed connection ends the search.
            lay_out(
                project,
                &plan.parts,
                Keep::Begun,
                want.effort.max(LEAST),
                &mut |t| {
                    let on = Line::On {
                        done: t.done,
                        of: t.of,
                    };
                    !matches!(to.try_send(on), Err(mpsc::error::TrySendError::Closed(_)))
                },
            )
        };
        if let Some(groups) = groups {
            let _ = to.blocking_send(Line::Found(found(project, &plan, &groups)));
        }
    });
    Ok(lines::answer(lines))
}
