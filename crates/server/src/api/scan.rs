//! Readings from elsewhere: a scan cut at heights, a table of readings. Both answer with what they
//! found and the edit that would add it; nothing is stored until that edit is sent.

use axum::Json;
use axum::body::{Body, to_bytes};
use axum::extract::State;
use axum::http::StatusCode;
use jigfit_core::input::{count, within};
use jigfit_core::problem::Problem;
use jigfit_core::project::survey::{Quantity, Side};
use jigfit_core::project::templates::{Face, Placing, Plane, Side as Lies, Template, Tie};
use jigfit_core::survey::cloud::{
    Found, Pair, Placement, slice, slice_across, walls, walls_across,
};
use jigfit_core::survey::model::Model;
use jigfit_core::units::figure::Writer;
use jigfit_formats::{ply, readings_csv};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use utoipa::{IntoParams, ToSchema};

use super::curves::FileCurve;
use crate::app::{App, now};
use crate::extract::{Path, Query};
use crate::problem::{ApiError, Body as ProblemBody};

/// The largest scan, bytes: a million points and more in binary.
const SCAN: usize = 64 << 20;
/// The largest table, bytes.
const TABLE: usize = 4 << 20;
/// Points shown to choose from.
const SHOWN: usize = 3000;
/// Fewest places of a wall that make a curve.
const SECTION: usize = 5;

/// How a scan is cut.
#[derive(Debug, Deserialize, IntoParams)]
pub struct Cut {
    /// Heights over the load floor, mm, separated by commas.
    #[serde(default)]
    heights: String,
    /// Stations for sections across, mm, separated by commas.
    #[serde(default)]
    across: String,
    /// Every so many mm along a wall.
    #[serde(default = "usual_step")]
    step: f64,
    /// What the file counts in: how many mm one of its units is.
    #[serde(default = "one")]
    scale: f64,
    /// Three or more points as JSON: `[{"scan": [x,y,z], "vehicle": [x,y,z]}, ...]`, scan in mm.
    #[serde(default)]
    pairs: String,
}

fn usual_step() -> f64 {
    120.0
}

fn one() -> f64 {
    1.0
}

/// A scan as cut.
#[derive(Serialize, ToSchema)]
pub struct Cuts {
    /// Points in the file.
    points: usize,
    /// What is left at the points it was placed by, mm.
    rms: f64,
    /// Some of the points, in the vehicle if placed, to choose from.
    #[schema(value_type = Vec<Vec<f64>>)]
    shown: Vec<[f64; 3]>,
    /// What was found.
    found: Vec<Found>,
    /// Sections across, `[y, z]`, thinned.
    #[schema(value_type = Vec<Vec<Vec<f64>>>)]
    across: Vec<Vec<[f64; 2]>>,
    /// Walls at the heights, and at the stations across, as curves that lie in the vehicle: to be taken instead of the readings.
    sections: Vec<FileCurve>,
    /// The edit that adds the readings.
    #[schema(value_type = Vec<Object>)]
    patch: Vec<Value>,
}

/// A table as read.
#[derive(Serialize, ToSchema)]
pub struct Table {
    /// New readings.
    added: usize,
    /// Readings already there.
    known: usize,
    /// Rows that could not be read: line and reason.
    refused: Vec<(u64, String)>,
    /// The edit that adds the new ones.
    #[schema(value_type = Vec<Object>)]
    patch: Vec<Value>,
}

pub(super) async fn bytes(body: Body, limit: usize) -> Result<Vec<u8>, ApiError> {
    let read = to_bytes(body, limit).await;
    read.map(|b| b.to_vec()).map_err(|_| {
        ApiError::new(
            StatusCode::PAYLOAD_TOO_LARGE,
            Problem::new("too-large", "Too large", "", "Nothing was stored.")
                .allowing(format!("at most {} MB", limit >> 20)),
        )
    })
}

fn numbers(list: &str, pointer: &str, hi: f64) -> Result<Vec<f64>, Problem> {
    let words: Vec<&str> = list
        .split(',')
        .map(str::trim)
        .filter(|w| !w.is_empty())
        .collect();
    count(words.len(), pointer, 0, 20)?;
    words
        .iter()
        .map(|w| {
            let v = w
                .parse()
                .map_err(|_| Problem::shape(pointer, format!("\"{w}\" is no number.")))?;
            within(v, pointer, 0.0, hi)
        })
        .collect()
}

/// Cut a scan (PLY) and find walls and front in it.
#[utoipa::path(
    post, path = "/api/projects/{id}/scan", params(("id" = String, Path), Cut),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = Cuts), (status = 404, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn scan(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(cut): Query<Cut>,
    body: Body,
) -> Result<Json<Cuts>, ApiError> {
    let head = app.with(move |s| s.head(&id)).await?;
    let file = bytes(body, SCAN).await?;
    let work = move || -> Result<Cuts, Problem> {
        let heights = numbers(&cut.heights, "/heights", 5000.0)?;
        let across = numbers(&cut.across, "/across", 30_000.0)?;
        within(cut.step, "/step", 30.0, 5000.0)?;
        within(cut.scale, "/scale", 1e-3, 1e4)?;
        let placed = if cut.pairs.trim().is_empty() {
            Placement::none()
        } else {
            let pairs: Vec<Pair> = serde_json::from_str(&cut.pairs)
                .map_err(|e| Problem::shape("/pairs", e.to_string()))?;
            Placement::from_pairs(&pairs)?
        };
        let mut points = ply::read(&file).map_err(|e| Problem::shape("", e.to_string()))?;
        for p in &mut points {
            *p = p.map(|v| v * cut.scale as f32);
        }
        let model = Model::new(&head.project);
        let (mut found, mut sections) = (Vec::new(), Vec::new());
        let w = head.project.writer();
        for z in heights {
            let section = slice(&points, &placed, z);
            let at = |step| {
                let all = walls(&section, z, step);
                all.into_iter()
                    .filter(|f| !behind(&model, f))
                    .collect::<Vec<_>>()
            };
            found.extend(at(cut.step));
            let fine = at(0.0);
            let level = |s: &Side| curve(*s, (Plane::Level, z), &fine, &w);
            sections.extend(Side::BOTH.iter().filter_map(level));
        }
        let mut cuts = Vec::new();
        for x in across {
            let section = slice_across(&points, &placed, x);
            let mut fine = walls_across(&section, x);
            fine.retain(|f| !behind(&model, f));
            let upright = |s: &Side| curve(*s, (Plane::Across, x), &fine, &w);
            sections.extend(Side::BOTH.iter().filter_map(upright));
            cuts.push(section);
        }
        let each = (points.len() / SHOWN).max(1);
        let thin = |cut: Vec<[f64; 2]>| {
            let each = (cut.len() / 500).max(1);
            cut.into_iter().step_by(each).collect()
        };
        Ok(Cuts {
            points: points.len(),
            rms: placed.rms,
            shown: points
                .iter()
                .step_by(each)
                .map(|p| placed.apply(p.map(f64::from)))
                .collect(),
            across: cuts.into_iter().map(thin).collect(),
            sections,
            patch: patch(&found),
            found,
        })
    };
    let done = tokio::task::spawn_blocking(work).await;
    Ok(Json(done.map_err(|e| ApiError::internal(e.to_string()))??))
}

/// A thing stands before the wall there: the scan saw the thing.
fn behind(model: &Model, f: &Found) -> bool {
    let Quantity::Wall { side, x, z } = f.quantity else {
        return false;
    };
    model.things().any(|o| {
        o.side == side
            && x > o.x.0 - 30.0
            && x < o.x.1 + 30.0
            && z > o.z.0 - 10.0
            && z < o.z.1 + 10.0
    })
}

/// A wall in a cut, level or across, as a captured curve: it lies in the vehicle already, so its two ends are its landmarks.
fn curve(side: Side, (plane, at): (Plane, f64), found: &[Found], w: &Writer) -> Option<FileCurve> {
    let mut sds = vec![];
    let points: Vec<[f64; 2]> = found
        .iter()
        .filter_map(|f| match f.quantity {
            Quantity::Wall { side: own, x, z } if own == side => {
                sds.push(f.sd);
                let along = if plane == Plane::Level { x } else { z };
                Some([along, side.sign() * f.mm])
            }
            _ => None,
        })
        .collect();
    if points.len() < SECTION {
        return None;
    }
    sds.sort_by(f64::total_cmp);
    let low = [0, 1].map(|k| points.iter().map(|p| p[k]).fold(f64::INFINITY, f64::min));
    let tie = |p: &[f64; 2]| Tie {
        a: Some(p[0] - low[0]),
        b: Some(p[1] - low[1]),
        u: Some(p[0]),
        v: Some(side.sign() * p[1]),
    };
    let ends = [points.first()?, points.last()?];
    let landmarks = ["first", "last"].into_iter().zip(ends);
    let (of, surface) = match side {
        Side::Left => (Face::Left, Lies::Left),
        Side::Right => (Face::Right, Lies::Right),
    };
    let says = w.say(at);
    let own = Template {
        name: match plane {
            Plane::Level => format!("Scan, {} at {says}", of.word()),
            Plane::Across => format!("Scan, {} {says} in", of.word()),
        },
        sd: (sds[sds.len() / 2] * 100.0).round() / 100.0,
        surface,
        place: Some(Placing {
            of,
            plane,
            at: Some(at),
            landmarks: landmarks.map(|(id, p)| (id.to_string(), tie(p))).collect(),
            aside: false,
        }),
        ..Template::default()
    };
    Some(FileCurve::of(w, &points, false, own))
}

fn patch(found: &[Found]) -> Vec<Value> {
    let when = now();
    let each = found.iter().map(|f| {
        let id = format!("scan.{}", f.quantity.key());
        json!({"op": "add", "path": format!("/survey/readings/{id}"), "value": {
            "quantity": f.quantity, "typed": format!("{:.1}", f.mm), "unit": "mm", "when": when,
            "instrument": "scan", "sd": (f.sd * 100.0).round() / 100.0,
            "note": format!("{} points of a scan", f.points),
        }})
    });
    each.collect()
}

/// Read a table of readings (CSV) against the project.
#[utoipa::path(
    post, path = "/api/projects/{id}/readings", params(("id" = String, Path)),
    request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = Table), (status = 404, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn readings(
    State(app): State<App>,
    Path(id): Path<String>,
    body: Body,
) -> Result<Json<Table>, ApiError> {
    let head = app.with(move |s| s.head(&id)).await?;
    let file = bytes(body, TABLE).await?;
    let read = tokio::task::spawn_blocking(move || readings_csv::read(&file, &head.project)).await;
    let read = read.map_err(|e| ApiError::internal(e.to_string()))?;
    let read = read.map_err(|e| Problem::shape("", e.to_string()))?;
    Ok(Json(Table {
        added: read.new.len(),
        known: read.known,
        patch: read.patch(),
        refused: read.refused,
    }))
}
