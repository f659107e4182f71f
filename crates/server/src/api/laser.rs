//! The laser's link: messages come in as a phone would pass them on, readings go out to the tape bar of
//! every open window. A simulated meter ships with the program.

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use jigfit_core::problem::Problem;
use jigfit_core::project::survey::Quantity;
use jigfit_instruments::laser::{Message, Received};
use jigfit_instruments::simulate::Truth;
use jigfit_instruments::vehicle::Vehicle;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{EDIT, read};
use crate::app::{App, Shot};
use crate::extract::Path;
use crate::problem::{ApiError, Body as ProblemBody};

/// What became of a message or a press.
#[derive(Debug, Serialize, ToSchema)]
pub struct Heard {
    /// `reading`, `on`, `off`, `duplicate` or `lost`.
    what: &'static str,
    /// The distance, mm.
    mm: Option<f64>,
    /// Messages lost before it.
    lost: u64,
}

fn heard(app: &App, project: &str, message: &Message, simulated: bool) -> Result<Heard, ApiError> {
    let quiet = |what| Heard {
        what,
        mm: None,
        lost: 0,
    };
    Ok(match app.link(|l| l.take(message)) {
        Received::Reading { mm, lost } => {
            app.shoot(Shot {
                project: project.into(),
                device: message.device.clone(),
                seq: message.seq,
                mm,
                lost,
                simulated,
            });
            Heard {
                what: "reading",
                mm: Some(mm),
                lost,
            }
        }
        Received::State(true) => quiet("on"),
        Received::State(false) => quiet("off"),
        Received::Duplicate => quiet("duplicate"),
        Received::Nonsense => {
            return Err(
                Problem::out_of_range("/mm", "This is no distance.", "0 to 30000 mm").into(),
            );
        }
    })
}

/// Take a message of a laser: `{"device", "seq", "kind": "hello|reading|bye", "mm"}`.
#[utoipa::path(
    post, path = "/api/projects/{id}/laser", params(("id" = String, Path)), request_body = Object,
    responses((status = 200, body = Heard), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody),
        (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn message(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Json<Heard>, ApiError> {
    let message: Message = read(body, EDIT).await?;
    let asked = id.clone();
    app.with(move |s| s.head(&asked)).await?;
    Ok(Json(heard(&app, &id, &message, false)?))
}

/// What the simulated meter is pointed at.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Press {
    /// The quantity asked for.
    quantity: Quantity,
}

/// Press the button of the simulated laser. It stands in the vehicle into which the demo put the
/// project, and nowhere else: it never answers from the readings.
#[utoipa::path(
    post, path = "/api/projects/{id}/laser/press", params(("id" = String, Path)), request_body = Press,
    responses((status = 200, body = Heard), (status = 400, body = ProblemBody), (status = 404, body = ProblemBody),
        (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn press(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Json<Heard>, ApiError> {
    let press: Press = read(body, EDIT).await?;
    let asked = id.clone();
    let head = app.with(move |s| s.head(&asked)).await?;
    let Some(vehicle) = head.demo.as_deref().and_then(vehicle) else {
        return Err(Problem::impossible(
            "",
            "The simulated laser stands in the demo's vehicles only. Your own meter posts its messages to this project's laser address.",
        )
        .into());
    };
    let truth = Truth {
        v: &vehicle,
        things: &head.project.survey.things,
    }
    .of(&press.quantity)
    .ok_or_else(|| {
        Problem::impossible(
            "/quantity",
            "The simulated laser has nothing to point at there: measure it with the tape.",
        )
    })?;
    let arrived = app.laser(|l| l.press(truth));
    let mut answer = Heard {
        what: "lost",
        mm: None,
        lost: 0,
    };
    for m in &arrived {
        let one = heard(&app, &id, m, true)?;
        if one.what == "reading" {
            answer = one;
        }
    }
    Ok(Json(answer))
}

/// The virtual vehicle of that name.
pub(super) fn vehicle(name: &str) -> Option<Vehicle> {
    let (_, text) = VEHICLES.iter().find(|(n, _)| *n == name)?;
    Vehicle::read(serde_json::from_str(text).ok()?).ok()
}

/// The demo's vehicles.
const VEHICLES: [(&str, &str); 3] = [
    (
        "moth",
        include_str!("../../../instruments/vehicles/moth.json"),
    ),
    (
        "kingfisher",
        include_str!("../../../instruments/vehicles/kingfisher.json"),
    ),
    (
        "wren",
        include_str!("../../../instruments/vehicles/wren.json"),
    ),
];
