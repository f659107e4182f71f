//! Curves out of other programs' files: what is in a file, and the edits that would take one; nothing is stored until
//! such an edit is sent.

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use jigfit_core::problem::Problem;
use jigfit_core::project::templates::{MOST, Station, Template, Way};
use jigfit_core::units::figure::{Figure, Writer};
use jigfit_formats::curves_in::{FileUnit, LARGEST, read, told};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use utoipa::{IntoParams, ToSchema};

use super::scan::bytes;
use crate::app::App;
use crate::extract::{Path, Query};
use crate::problem::{ApiError, Body as ProblemBody};

/// How a file is to be read.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
pub struct Ways {
    /// The unit of its lengths: `mm`, `cm`, `m`, `in`, `ft`, `px`; as the file says, or as is likely, if not given.
    #[serde(default)]
    unit: Option<String>,
}

/// What a file holds.
#[derive(Serialize, ToSchema)]
pub struct CurveFile {
    /// The unit that its lengths were read in.
    unit: String,
    /// The file says so, or the asker did; else it is a guess.
    sure: bool,
    /// How the unit is known.
    why: String,
    /// Its curves, the longest first.
    curves: Vec<FileCurve>,
    /// What was left out, in words; empty if nothing was.
    left_out: String,
}

/// A curve of a file.
#[derive(Serialize, ToSchema)]
pub struct FileCurve {
    /// What the file calls it.
    name: String,
    /// How long it is.
    length: Figure,
    /// How wide and how high it is.
    size: [Figure; 2],
    /// It ends where it begins: it is taken from there, once round.
    closed: bool,
    /// Why it cannot be taken, if it cannot.
    #[serde(skip_serializing_if = "Option::is_none")]
    cannot: Option<String>,
    /// A captured curve of it, to be added under an identifier.
    #[schema(value_type = Object)]
    template: Value,
}

impl FileCurve {
    /// A curve through points (mm), to be added as `own` with them.
    pub(super) fn of(w: &Writer, points: &[[f64; 2]], closed: bool, own: Template) -> FileCurve {
        let (length, size) = extent(points);
        let name = own.name.clone();
        let made = template(points, own);
        FileCurve {
            name,
            length: w.figure(length),
            size: size.map(|s| w.figure(s)),
            closed,
            cannot: made.as_ref().err().cloned(),
            template: made.map_or(Value::Null, |t| json!(t)),
        }
    }
}

/// Most curves that are told.
const SHOWN: usize = 60;

/// Curves of an SVG, a DXF or a table of points.
#[utoipa::path(
    post, path = "/api/projects/{id}/curves", params(("id" = String, Path), Ways),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = CurveFile), (status = 404, body = ProblemBody),
        (status = 413, body = ProblemBody), (status = 415, body = ProblemBody), (status = 422, body = ProblemBody))
)]
pub async fn curves(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(ways): Query<Ways>,
    body: Body,
) -> Result<Json<CurveFile>, ApiError> {
    let head = app.with(move |s| s.head(&id)).await?;
    let file = bytes(body, LARGEST).await?;
    let work = move || -> Result<CurveFile, Problem> {
        let mut d = read(&file).map_err(|words| Problem::shape("", words))?;
        if let Some(wanted) = ways.unit.filter(|u| !u.is_empty()) {
            let found = FileUnit::ALL.iter().find(|u| u.0 == wanted);
            let names: Vec<&str> = FileUnit::ALL.iter().map(|u| u.0).collect();
            let (_, unit) = found.ok_or_else(|| {
                Problem::shape("/unit", format!("\"{wanted}\" is no unit."))
                    .allowing(names.join(", "))
            })?;
            (d.unit, d.sure, d.why) = (*unit, true, "as you said".into());
        }
        let w = head.project.writer();
        let mm = d.unit.mm();
        let mut curves: Vec<(f64, FileCurve)> = d
            .lines
            .iter()
            .map(|l| {
                let points: Vec<[f64; 2]> = l.points.iter().map(|p| p.map(|v| v * mm)).collect();
                let own = Template {
                    name: l.name.clone(),
                    sd: 0.0,
                    ..Template::default()
                };
                let curve = FileCurve::of(&w, &points, l.closed, own);
                (extent(&points).0, curve)
            })
            .collect();
        curves.sort_by(|a, b| b.0.total_cmp(&a.0));
        curves.truncate(SHOWN);
        Ok(CurveFile {
            unit: d.unit.word().into(),
            sure: d.sure,
            why: d.why,
            curves: curves.into_iter().map(|c| c.1).collect(),
            left_out: told(&d.left_out),
        })
    };
    let done = tokio::task::spawn_blocking(work).await;
    Ok(Json(done.map_err(|e| ApiError::internal(e.to_string()))??))
}

fn extent(points: &[[f64; 2]]) -> (f64, [f64; 2]) {
    let long = points.windows(2);
    let long = long
        .map(|w| (w[1][0] - w[0][0]).hypot(w[1][1] - w[0][1]))
        .sum();
    let size = [0, 1].map(|k| {
        let all = points.iter().map(|p| p[k]);
        let (lo, hi) = all.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| {
            (a.min(v), b.max(v))
        });
        hi - lo
    });
    (long, size)
}

/// A captured curve of the points, from the lower left corner of what they span.
fn template(points: &[[f64; 2]], own: Template) -> Result<Template, String> {
    if points.len() > MOST {
        return Err(format!(
            "It has {} points; at most {MOST} are kept.",
            points.len()
        ));
    }
    let least = [0, 1].map(|k| points.iter().map(|p| p[k]).fold(f64::INFINITY, f64::min));
    let stations = points.iter().enumerate().map(|(i, p)| {
        // Nobody saws by less than a thousandth.
        let [a, b] = [0, 1].map(|k| ((p[k] - least[k]) * 1000.0).round() / 1000.0);
        let own = Station {
            a: Some(a),
            b: Some(b),
            ..Station::default()
        };
        (format!("s{i:04}"), own)
    });
    let name = own.name.chars().filter(|c| !c.is_control());
    Ok(Template {
        name: name.take(80).collect(),
        way: Way::Drawn,
        stations: stations.collect(),
        ..own
    })
}
