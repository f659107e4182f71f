//! Captured curves as a plan shows them.

use serde::Serialize;
use utoipa::ToSchema;

use super::bends::{Bends, bends};
use super::capture::{Captured, capture};
use super::ordinate_table::table;
use super::place::{self, Placed};
use super::sure::{Sure, band, sure};
use super::ways::{self, More};
use crate::geometry::Point;
use crate::geometry::parallel::{Along, Join, parallel};
use crate::problem::Problem;
use crate::project::Project;
use crate::project::templates::{Side, Station, Template, Way};
use crate::units::figure::Figure;

/// A captured curve.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TemplateView {
    /// Identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// What the two numbers of a reading are called.
    pub asks: [String; 2],
    /// What else a reading may say.
    pub more: Vec<More>,
    /// The surface, mm in the frame of the capture.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub edge: Vec<Point>,
    /// The board's edge: the surface less the clearance.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub cut: Vec<Point>,
    /// What was read, as points in that frame.
    pub marks: Vec<MarkView>,
    /// The straight edge or the pins, as a line.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub base: Vec<Point>,
    /// Numbers still missing.
    pub missing: usize,
    /// Why there is no edge, if there is none.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub wrong: Option<String>,
    /// What deserves a look.
    pub warnings: Vec<String>,
    /// What the curve leaves of the readings, one standard deviation.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rms: Option<Figure>,
    /// How sure it is along its way.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sure: Option<Sure>,
    /// How the surface bends.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub bends: Option<Bends>,
    /// The reading that lies off what the others say.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub misfit: Option<String>,
    /// What is said of it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub doubted: Option<String>,
    /// Where one more reading would tell most.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub next: Option<Next>,
    /// The board's edge as a table from a straight edge.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub table: Option<TableView>,
    /// Where it lies in the vehicle, once that is known.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub placed: Option<Placed>,
    /// What is missing to know that.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub unplaced: Option<String>,
}

/// A reading as a point.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MarkView {
    /// Identifier of the reading.
    pub id: String,
    /// Where.
    #[schema(value_type = Vec<f64>)]
    pub p: Point,
    /// It is marked as a corner.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub corner: bool,
}

/// The next reading.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Next {
    /// Where, along the straight edge.
    pub at: Figure,
    /// How sure the curve is there, one standard deviation.
    pub doubt: Figure,
}

/// A table of ordinates in marks.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TableView {
    /// Along the straight edge, and square to it.
    pub rows: Vec<[Figure; 2]>,
    /// How far a batten through them leaves the curve at the most.
    pub off: Figure,
    /// The straight edge in the frame of the capture: where it begins and ends.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub edge: [Point; 2],
}

/// All captured curves.
pub fn templates(project: &Project) -> Vec<TemplateView> {
    let all = project.templates.iter();
    all.map(|(id, t)| view(project, id, t)).collect()
}

/// One of them.
fn view(project: &Project, id: &str, t: &Template) -> TemplateView {
    let w = project.writer();
    let read = ways::whole(t);
    let spots = ways::spots(t, &read);
    let marked = ways::corners(t, &read);
    let mut out = TemplateView {
        id: id.into(),
        name: if t.name.is_empty() {
            "curve".into()
        } else {
            t.name.clone()
        },
        asks: ways::asks(t.way).map(String::from),
        more: ways::more(t),
        edge: vec![],
        cut: vec![],
        marks: read
            .iter()
            .zip(spots)
            .enumerate()
            .map(|(i, ((id, _), p))| MarkView {
                id: (*id).clone(),
                p,
                corner: marked.contains(&i),
            })
            .collect(),
        base: ways::base(t),
        missing: ways::missing(t),
        wrong: None,
        warnings: vec![],
        rms: None,
        sure: None,
        bends: None,
        next: None,
        misfit: None,
        doubted: None,
        table: None,
        placed: None,
        unplaced: None,
    };
    // A single run is a line already.
    if read.len() < 2 && (t.way != Way::Runs || read.is_empty()) {
        return out;
    }
    match capture(ways::way(t, &read).as_ref(), t.sd, t.corners, &marked) {
        Ok(c) => {
            let side = side(t, &c.edge);
            out.cut = cut(t, &c, side);
            out.bends = bends(&c.edge, side, &out.marks, &w);
            out.table = table(&out.cut, project.units.marks().mm(), &w).map(|table| {
                let row = |p: &Point| p.map(|v| w.figure(v));
                let ([x, y], u) = table.edge;
                let end = table.rows.last().map_or(0.0, |r| r[0]);
                TableView {
                    rows: table.rows.iter().map(row).collect(),
                    off: w.figure(table.off),
                    edge: [[x, y], [x + end * u[0], y + end * u[1]]],
                }
            });
            let band = band(&c).unwrap_or_default();
            out.next = next(t, &band).map(|(at, doubt)| Next {
                at: w.figure(at),
                doubt: w.figure(doubt),
            });
            if t.way != Way::Runs && t.sd > 0.0 && !band.is_empty() {
                out.sure = sure(&c, &band, &out.marks, &w);
            }
            out.misfit = c.misfit.and_then(|i| Some((*read.get(i)?.0).clone()));
            // Runs are straight: nothing is left between.
            out.rms = (t.way != Way::Runs).then(|| w.figure(c.rms));
            out.edge = c.edge;
            out.warnings = c.warnings.iter().map(|t| w.converted(t)).collect();
            out.doubted = c.doubted.as_ref().map(|t| w.converted(t));
            if let Some(p) = &t.place {
                match place::place((t, p), &out.edge, project.survey.sd, &w) {
                    Ok((mut placed, said)) => {
                        // A reading in doubt is settled first: a board would follow it.
                        placed.counts &= out.misfit.is_none();
                        out.warnings.extend(said);
                        out.placed = Some(placed);
                    }
                    Err(words) => out.unplaced = Some(words),
                }
            }
        }
        Err(p) => out.wrong = Some(w.converted(&told(&p, &read))),
    }
    out
}

/// A problem in a sentence that names the reading.
fn told(p: &Problem, read: &[(&String, Station)]) -> String {
    let mut parts = p.pointer.split('/').skip(1);
    let index = match parts.next() {
        Some("trace" | "readings") => parts.next().and_then(|i| i.parse::<usize>().ok()),
        _ => None,
    };
    match index.filter(|i| *i < read.len()) {
        Some(i) => format!("reading {}: {}", i + 1, p.detail),
        None => p.detail.clone(),
    }
}

/// Where the surface lies of the edge as its points run: 1 to the left, -1 to the right. The board lies on the other
/// side.
fn side(t: &Template, p: &[Point]) -> f64 {
    // Two pins and a straight edge see the surface as it lies of their own line, whichever way the readings run.
    let forward = match t.way {
        Way::Ordinates | Way::TwoPin => p[p.len() - 1][0] >= p[0][0],
        Way::Runs | Way::OffsetBlock | Way::Scribe | Way::Drawn => true,
    };
    match t.way {
        Way::Scribe => scribe_side(t, p),
        _ if forward => t.surface.sign(),
        _ => -t.surface.sign(),
    }
}

/// The board's edge: on the side from which the curve was captured.
fn cut(t: &Template, c: &Captured, side: f64) -> Vec<Point> {
    if t.clearance < 1e-9 {
        return c.edge.clone();
    }
    let p = &c.edge;
    let n = p.len();
    let run: Vec<Along> = (0..n)
        .map(|i| {
            let (a, b) = (p[i.saturating_sub(1)], p[(i + 1).min(n - 1)]);
            Along {
                p: p[i],
                d: [b[0] - a[0], b[1] - a[1]],
            }
        })
        .collect();
    parallel(&[run], -side * t.clearance, Join::Mitre)
}

/// A pencil held to the left of its line sees the surface there.
fn scribe_side(t: &Template, p: &[Point]) -> f64 {
    let (s, c) = t.direction.to_radians().sin_cos();
    let (a, b) = (p[0], p[p.len() - 1]);
    if (b[0] - a[0]) * s - (b[1] - a[1]) * c >= 0.0 {
        Side::Left.sign()
    } else {
        Side::Right.sign()
    }
}

/// Where the curve is least sure, if a reading more tells much: only where depths are read over a straight edge.
fn next(t: &Template, band: &[Vec<(f64, f64)>]) -> Option<(f64, f64)> {
    /// Surer than this many times the noise of a reading the curve is sure enough.
    const ENOUGH: f64 = 1.2;
    if t.way != Way::Ordinates {
        return None;
    }
    let all = band.iter().flatten();
    let (x, d) = all.max_by(|p, q| p.1.total_cmp(&q.1))?;
    (*d > ENOUGH * t.sd.max(0.3)).then_some(((x / 5.0).round() * 5.0, *d))
}
