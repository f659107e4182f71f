//! Photos of templates: read among marker sheets, kept beside the project, taken as captured curves. Nothing of the document
//! changes until such a curve is sent.

use axum::body::Body;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use jigfit_core::geometry::least::laid;
use jigfit_core::geometry::{Point, distance};
use jigfit_core::input::within;
use jigfit_core::problem::Problem;
use jigfit_core::project::survey;
use jigfit_core::project::templates::{Side, Template};
use jigfit_core::units::figure::{Figure, Writer};
use jigfit_instruments::camera::{Scene, card};
use jigfit_instruments::tape::stream;
use jigfit_photo::picture::LARGEST;
use jigfit_photo::plane::Taped;
use jigfit_photo::sheet::SHEETS;
use jigfit_photo::{Photo, Stage};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use tokio::sync::{Semaphore, mpsc};
use utoipa::{IntoParams, ToSchema};

use super::curves::FileCurve;
use super::laser::vehicle;
use super::lines;
use super::scan::bytes;
use crate::app::{App, now};
use crate::extract::{Path, Query};
use crate::problem::{ApiError, Body as ProblemBody};

/// One photo at a time: it takes a whole processor and some hundred megabytes.
static READING: Semaphore = Semaphore::const_new(1);
/// Most points of a side, and of the whole outline, that become readings of a curve.
const SIDE: usize = 400;
const OUTLINE: usize = 1900;
/// Height of the simulated card, mm.
const HEIGHT: f64 = 300.0;

/// How a photo is to be read.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
pub struct Ways {
    /// What was taped from cross to cross, mm: `1-3:2250,2-4:2240`.
    #[serde(default)]
    taped: String,
    /// A place on the template in the photo, pixels from the upper left: `1200,800`; between the sheets if not given.
    #[serde(default)]
    at: String,
    /// The print of a photo that is kept already: then the request carries none.
    #[serde(default)]
    print: String,
    /// In a project of the demo: the simulated camera takes one, and its tape says the distances.
    #[serde(default)]
    simulated: bool,
}

/// One line of the answer.
#[derive(Serialize, ToSchema)]
#[serde(untagged)]
pub enum PhotoLine {
    /// It goes on.
    On {
        /// What is being done.
        what: &'static str,
        /// Steps done.
        done: usize,
        /// Of how many.
        of: usize,
    },
    /// What was found; the photo is kept.
    Read(Box<PhotoRead>),
    /// It cannot be read.
    Not {
        /// Why, and what to do.
        problem: Problem,
    },
}

/// A photo as it was read.
#[derive(Serialize, ToSchema)]
pub struct PhotoRead {
    /// Its print: SHA-256 in hexadecimal.
    print: String,
    /// Pixels along and up.
    size: [usize; 2],
    /// The sheets: number, and corners in the photo, pixels.
    sheets: Vec<PhotoSheet>,
    /// The outline in the photo, pixels.
    #[schema(value_type = Vec<Vec<f64>>)]
    ring: Vec<Point>,
    /// The middle of each side in the photo, in the order of the curves.
    #[schema(value_type = Vec<Vec<f64>>)]
    middles: Vec<Point>,
    /// How rough the edge was seen.
    rough: Figure,
    /// How unsure the shape is by perspective, lens and tape; usual, and at its worst place.
    unsure: [Figure; 2],
    /// What the tape said, from sheet to sheet.
    taped: Vec<PhotoTaped>,
    /// What deserves a look.
    warnings: Vec<String>,
    /// Its sides, the longest first, then all of the outline.
    curves: Vec<FileCurve>,
}

/// A sheet in the photo.
#[derive(Serialize, ToSchema)]
pub struct PhotoSheet {
    /// Which.
    number: usize,
    /// Its black square's corners, pixels.
    #[schema(value_type = Vec<Vec<f64>>)]
    corners: [Point; 4],
}

/// A distance between two sheets.
#[derive(Serialize, ToSchema)]
pub struct PhotoTaped {
    /// From the cross of this sheet.
    from: usize,
    /// To the cross of this one.
    to: usize,
    /// How far.
    long: Figure,
}

/// Reads a photo (JPEG, PNG) of a template among the four marker sheets. One JSON object a line; the last is what was found, or
/// why it cannot be read.
#[utoipa::path(
    post, path = "/api/projects/{id}/photo", params(("id" = String, Path), Ways),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, content_type = "application/x-ndjson", body = PhotoLine),
        (status = 404, body = ProblemBody), (status = 413, body = ProblemBody), (status = 415, body = ProblemBody),
        (status = 422, body = ProblemBody))
)]
pub async fn read(
    State(app): State<App>,
    Path(id): Path<String>,
    Query(ways): Query<Ways>,
    body: Body,
) -> Result<Response, ApiError> {
    let asked = id.clone();
    let head = app.with(move |s| s.head(&asked)).await?;
    let mut taped = distances(&ways.taped)?;
    let seed = place(&ways.at)?;
    let camera = match ways.simulated {
        true => Some(head.demo.as_deref().and_then(vehicle).ok_or_else(|| {
            Problem::impossible(
                "/simulated",
                "The simulated camera stands in the demo's workshop only.",
            )
        })?),
        false => None,
    };
    // Whoever waits has sent nothing yet that would have to be held.
    let turn = READING
        .acquire()
        .await
        .map_err(|e| ApiError::internal(e.to_string()))?;
    let file = match (ways.print.is_empty(), &camera) {
        (false, _) => {
            let (of, print) = (id.clone(), ways.print.clone());
            app.with(move |s| s.photo(&of, &print)).await?
        }
        (true, Some(_)) => vec![],
        (true, None) => bytes(body, LARGEST).await?,
    };
    let w = head.project.writer();
    let (to, lines) = mpsc::channel::<PhotoLine>(8);
    let store = app.clone();
    tokio::spawn(async move {
        let _turn = turn;
        let told = to.clone();
        let work = move || -> Result<(Vec<u8>, Photo, Vec<Taped>), String> {
            let file = match &camera {
                Some(v) if file.is_empty() => {
                    let (photo, own) =
                        simulated(v).ok_or("This vehicle has no wall to cut a card to.")?;
                    taped = own;
                    photo
                }
                _ => file,
            };
            let photo = jigfit_photo::read(&file, &taped, seed, &w, |stage| {
                let done = Stage::ALL.iter().position(|s| *s == stage).unwrap_or(0);
                // A line that nobody takes is no matter.
                let _ = told.try_send(PhotoLine::On {
                    what: said(stage),
                    done,
                    of: Stage::ALL.len(),
                });
            })?;
            Ok((file, photo, taped))
        };
        let done = tokio::task::spawn_blocking(work).await;
        let line = match done {
            Ok(Ok((file, photo, taped))) => {
                let print: String = Sha256::digest(&file)
                    .iter()
                    .map(|b| format!("{b:02x}"))
                    .collect();
                let (of, own) = (id, print.clone());
                let kept = store
                    .with(move |s| s.keep_photo(&of, &own, &file, &now()))
                    .await;
                match kept {
                    Ok(()) => PhotoLine::Read(Box::new(PhotoRead::of(&photo, print, &taped, &w))),
                    Err(e) => PhotoLine::Not {
                        problem: e.body.problem,
                    },
                }
            }
            Ok(Err(words)) => PhotoLine::Not {
                problem: Problem::impossible("", words),
            },
            Err(e) => {
                tracing::error!(error = %e, "reading a photo broke");
                PhotoLine::Not {
                    problem: Problem::impossible("", "This photo cannot be read."),
                }
            }
        };
        let _ = to.send(line).await;
    });
    Ok(lines::answer(lines))
}

/// A photo that is kept beside the project.
#[utoipa::path(
    get, path = "/api/projects/{id}/photos/{print}", params(("id" = String, Path), ("print" = String, Path)),
    responses((status = 200, content_type = "image/*", body = Vec<u8>), (status = 404, body = ProblemBody))
)]
pub async fn kept(
    State(app): State<App>,
    Path((id, print)): Path<(String, String)>,
) -> Result<Response, ApiError> {
    let bytes = app.with(move |s| s.photo(&id, &print)).await?;
    // Only these two were kept; by content, since nobody is believed what a file is.
    let kind = match bytes.starts_with(b"\x89PNG") {
        true => "image/png",
        false => "image/jpeg",
    };
    let headers = [
        (header::CONTENT_TYPE, kind),
        (
            header::CACHE_CONTROL,
            "private, max-age=31536000, immutable",
        ),
    ];
    Ok((headers, bytes).into_response())
}

fn said(stage: Stage) -> &'static str {
    match stage {
        Stage::Unpack => "The photo is unpacked",
        Stage::Sheets => "The marker sheets are looked for",
        Stage::Template => "The template is told from the floor",
        Stage::Edge => "Its edge is followed",
    }
}

/// `1-3:2250,2-4:2240`.
fn distances(list: &str) -> Result<Vec<Taped>, Problem> {
    let words: Vec<&str> = list.split(',').filter(|w| !w.is_empty()).collect();
    jigfit_core::input::count(words.len(), "/taped", 0, SHEETS * (SHEETS - 1) / 2)?;
    let each = words.iter().map(|word| {
        let not = || {
            Problem::shape(
                "/taped",
                format!("\"{word}\" is no distance between two sheets."),
            )
            .allowing("1-3:2250")
        };
        let (pair, mm) = word.split_once(':').ok_or_else(not)?;
        let (from, to) = pair.split_once('-').ok_or_else(not)?;
        let sheet = |word: &str| {
            let n: usize = word.trim().parse().map_err(|_| not())?;
            (1..=SHEETS).contains(&n).then(|| n - 1).ok_or_else(not)
        };
        let (from, to) = (sheet(from)?, sheet(to)?);
        if from == to {
            return Err(not());
        }
        let mm = within(
            mm.trim().parse().map_err(|_| not())?,
            "/taped",
            100.0,
            20_000.0,
        )?;
        Ok(Taped { from, to, mm })
    });
    each.collect()
}

fn place(at: &str) -> Result<Option<Point>, Problem> {
    if at.is_empty() {
        return Ok(None);
    }
    let not =
        || Problem::shape("/at", format!("\"{at}\" is no place of a photo.")).allowing("1200,800");
    let (x, y) = at.split_once(',').ok_or_else(not)?;
    let number = |word: &str| {
        within(
            word.trim().parse().map_err(|_| not())?,
            "/at",
            0.0,
            20_000.0,
        )
    };
    Ok(Some([number(x)?, number(y)?]))
}

/// What the simulated camera sees of a card that was cut to the left wall, and what its tape says.
fn simulated(v: &jigfit_instruments::vehicle::Vehicle) -> Option<(Vec<u8>, Vec<Taped>)> {
    let card = card(v, survey::Side::Left, HEIGHT)?;
    let span = |k: usize| {
        let all = card.iter().map(|p| p[k]);
        all.clone().fold(f64::NEG_INFINITY, f64::max) - all.fold(f64::INFINITY, f64::min)
    };
    let (w, h) = (span(0), span(1));
    let mut rng = stream(7, 1);
    let (scene, camera) = Scene::workshop(&mut rng, [2000, 1500], w, h, card);
    let photo = scene.photo(&camera, &mut rng).png().ok()?;
    let taped = [(0, 2), (1, 3)].map(|(from, to)| {
        let mm = scene.apart(from, to).round();
        Taped { from, to, mm }
    });
    Some((photo, taped.to_vec()))
}

impl PhotoRead {
    fn of(photo: &Photo, print: String, taped: &[Taped], w: &Writer) -> PhotoRead {
        let sd = photo.outline.noise.hypot(photo.shape[0]);
        // Whoever goes round a template against the clock has it on the left: what it was cut to lies on the right.
        let own = |name: String| Template {
            name,
            sd: (sd * 100.0).round() / 100.0,
            surface: Side::Right,
            photo: Some(print.clone()),
            ..Template::default()
        };
        let sides = || photo.outline.sides.iter().filter(|s| !s.closed);
        let middle = |s: &jigfit_photo::outline::Side| s.points.get(s.points.len() / 2).copied();
        let mut curves: Vec<FileCurve> = sides()
            .enumerate()
            .map(|(i, s)| {
                let points = level(&thinned(&s.points, SIDE));
                FileCurve::of(
                    w,
                    &points,
                    false,
                    own(format!("Side {} of the photo", i + 1)),
                )
            })
            .collect();
        let ring = thinned(&photo.outline.ring, OUTLINE);
        // In its own direction: its size is that of the card, not of the rectangle that stands square in the photo.
        let own_way = laid(&ring).map_or_else(|| ring.clone(), |(points, _)| points);
        curves.push(FileCurve::of(
            w,
            &own_way,
            true,
            own("Outline of the photo".into()),
        ));
        PhotoRead {
            size: photo.size,
            sheets: photo
                .sheets
                .iter()
                .map(|s| PhotoSheet {
                    number: s.number + 1,
                    corners: s.corners,
                })
                .collect(),
            ring: ring
                .iter()
                .map(|p| photo.plane.pixel_from(*p, None))
                .collect(),
            middles: sides()
                .filter_map(middle)
                .map(|p| photo.plane.pixel_from(p, None))
                .collect(),
            rough: w.figure(photo.outline.noise),
            unsure: photo.shape.map(|v| w.figure(v)),
            taped: taped
                .iter()
                .map(|t| PhotoTaped {
                    from: t.from + 1,
                    to: t.to + 1,
                    long: w.figure(t.mm),
                })
                .collect(),
            warnings: photo.warnings.clone(),
            curves,
            print,
        }
    }
}

/// At most so many of the points, the first and the last among them.
fn thinned(points: &[Point], most: usize) -> Vec<Point> {
    let each = points.len().div_ceil(most).max(1);
    let mut out: Vec<Point> = points.iter().copied().step_by(each).collect();
    if let (Some(last), Some(end)) = (points.last(), out.last())
        && last != end
    {
        out.push(*last);
    }
    out
}

/// Turned so that the chord from the first to the last lies along the first axis.
fn level(points: &[Point]) -> Vec<Point> {
    let (Some(a), Some(b)) = (points.first(), points.last()) else {
        return vec![];
    };
    let long = distance(*a, *b).max(1e-9);
    let (c, s) = ((b[0] - a[0]) / long, (b[1] - a[1]) / long);
    let each = points.iter().map(|p| {
        let (x, y) = (p[0] - a[0], p[1] - a[1]);
        [c * x + s * y, c * y - s * x]
    });
    each.collect()
}
