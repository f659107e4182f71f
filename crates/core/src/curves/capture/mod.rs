//! Ways to capture a curve: each says which points it saw, with what doubt, and how the curve through them becomes the
//! edge. A new way is one file, and one line in `Method`.

mod offset_block;
mod ordinates;
mod runs;
mod scribe;
mod two_pin;

use geo::{LineString, SimplifyIdx};
use serde::Serialize;

pub use offset_block::OffsetBlock;
pub use ordinates::{Ordinate, Ordinates};
pub use runs::{Run, Runs};
pub use scribe::Scribe;
pub use two_pin::{TwoPin, TwoReadings};

use super::fair::spline::Spline;
use super::fair::{Curve, Mark, fair, misfit};
use crate::geometry::parallel::{Along, Join, crossings};
use crate::geometry::{Point, distance, distance_to_segment};
use crate::input::{MAX_LENGTH, count, within};
use crate::problem::Problem;
pub use crate::project::templates::{Corners, Side};

/// How the gap at a corner is closed.
fn join(corners: Corners) -> Join {
    match corners {
        Corners::Keep => Join::Mitre,
        Corners::Smooth => Join::Round,
    }
}

/// What a way saw.
#[derive(Debug, Clone, PartialEq)]
pub struct Seen {
    /// In order along the curve.
    pub marks: Vec<Mark>,
    /// The direction in which they are exact, if there is one.
    pub along: Option<Point>,
    /// Which reading each is, where they were put in another order.
    pub order: Vec<usize>,
    /// What deserves a look.
    pub warnings: Vec<String>,
}

/// A way of capturing a curve.
pub trait Capture {
    /// The points it saw, in its own frame.
    ///
    /// # Errors
    /// Readings that cannot be; pointers below the input.
    fn observe(&self, sd: f64) -> Result<Seen, Problem>;

    /// The edge, from the fair curve through what was seen.
    ///
    /// # Errors
    /// There is no such edge.
    fn edge(&self, curve: &Curve, corners: Corners) -> Result<Edge, Problem>;
}

/// An edge before it is told.
#[derive(Debug, Clone, PartialEq)]
pub struct Edge {
    /// Chords leave the curve by no more than 0.05 mm.
    pub points: Vec<Point>,
    /// What deserves a look.
    pub warnings: Vec<String>,
}

/// An edge and how well it fits.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Captured {
    /// The edge.
    pub edge: Vec<Point>,
    /// How many readings it goes by.
    pub points_used: usize,
    /// Root mean square of what the curve leaves of the readings, mm.
    pub rms: f64,
    /// The most it leaves, mm.
    pub max_correction: f64,
    /// What deserves a look.
    pub warnings: Vec<String>,
    /// The reading that lies off what the others say, counted from 0.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub misfit: Option<usize>,
    /// What is said of that one: it is not among the warnings.
    #[serde(skip)]
    pub doubted: Option<String>,
    /// By how much it lies off what they say, mm; positive to the left of the way along the curve.
    #[serde(skip)]
    pub astray: f64,
    /// What was seen, in order along the curve.
    #[serde(skip)]
    pub seen: Vec<Mark>,
    /// Which reading each of it is.
    #[serde(skip)]
    pub readings: Vec<usize>,
    /// How far each of it lies off the curve through all of it, mm; positive to the left of the way along it.
    #[serde(skip)]
    pub off: Vec<f64>,
    /// The first and the last of each part between corners that were marked.
    #[serde(skip)]
    pub parts: Vec<(usize, usize)>,
    /// The direction in which they are exact, if there is one.
    #[serde(skip)]
    pub along: Option<Point>,
}

/// Chords leave a curve by no more than this, mm: less than the 0.05 mm that are promised, since the parallel of a curve
/// may bend more than itself.
const NEAR: f64 = 0.01;

/// Captures a curve. The readings `marked`, counted from 0, are corners.
///
/// # Errors
/// Readings that cannot be, or no edge from them.
pub fn capture(
    way: &dyn Capture,
    sd: f64,
    corners: Corners,
    marked: &[usize],
) -> Result<Captured, Problem> {
    let Seen {
        marks,
        along,
        order,
        mut warnings,
    } = way.observe(sd)?;
    let no_curve = || Problem::impossible("", "All readings lie at one place: there is no curve.");
    let reading = |i: usize| order.get(i).copied().unwrap_or(i);
    let parts = parts(marks.len(), |i| marked.contains(&reading(i)));
    let curve = fair(&marks, along, corners == Corners::Keep, &parts).ok_or_else(no_curve)?;
    let edge = way.edge(&curve, corners)?;
    if edge.points.len() < 2 {
        return Err(no_curve());
    }
    let left = residuals(&marks, &curve);
    let rms = (left.iter().map(|r| r * r).sum::<f64>() / left.len().max(1) as f64).sqrt();
    // Over a corner that was marked no reading says anything of the next.
    let astray = |&(a, b): &(usize, usize)| {
        misfit(&marks[a..=b], along).map(|(i, off)| (reading(a + i), off))
    };
    let misfit = if sd > 0.0 {
        let all = parts.iter().filter_map(astray);
        all.max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()))
    } else {
        None
    };
    if misfit.is_none() && curve.loud {
        warnings.push(format!(
            "The readings scatter by much more than the {sd} mm stated: is one of them wrong?"
        ));
    }
    warnings.extend(edge.warnings);
    Ok(Captured {
        edge: edge.points,
        points_used: marks.len(),
        rms,
        max_correction: left.iter().fold(0.0, |m: f64, r| m.max(r.abs())),
        warnings,
        misfit: misfit.map(|m| m.0),
        doubted: misfit.map(|(i, off)| {
            format!(
                "Reading {} lies {:.1} mm off what the others say: read it once more.",
                i + 1,
                off.abs()
            )
        }),
        astray: misfit.map_or(0.0, |m| m.1),
        readings: (0..marks.len()).map(reading).collect(),
        seen: marks,
        off: left,
        parts,
        along,
    })
}

/// From corner to corner: the first and the last of each part.
fn parts(n: usize, corner: impl Fn(usize) -> bool) -> Vec<(usize, usize)> {
    let mut ends: Vec<usize> = vec![0];
    ends.extend((1..n.saturating_sub(1)).filter(|i| corner(*i)));
    ends.push(n.saturating_sub(1));
    ends.windows(2).map(|e| (e[0], e[1])).collect()
}

/// How far each reading lies off the curve, mm; positive to its left.
fn residuals(marks: &[Mark], curve: &Curve) -> Vec<f64> {
    // The curve goes through readings that are exact.
    if marks.iter().all(|m| m.cov == [0.0; 3]) {
        return vec![0.0; marks.len()];
    }
    let line = flat(curve);
    let m = line.len();
    let mut at = 0usize;
    let off = |p: Point, i: usize| distance_to_segment(p, line[i], line[i + 1]);
    marks
        .iter()
        .map(|mark| {
            /// The curve is followed from reading to reading, looking so many chords ahead.
            const AHEAD: usize = 400;
            let (lo, hi) = (at.saturating_sub(20), (at + AHEAD).min(m - 1));
            let best = (lo..hi).min_by(|a, b| off(mark.p, *a).total_cmp(&off(mark.p, *b)));
            at = best.unwrap_or(at);
            best.map_or(0.0, |i| {
                let (a, b) = (line[i], line[i + 1]);
                let d = [b[0] - a[0], b[1] - a[1]];
                let left = d[0] * (mark.p[1] - a[1]) - d[1] * (mark.p[0] - a[0]);
                off(mark.p, i).copysign(left)
            })
        })
        .collect()
}

/// The curve in chords.
pub(crate) fn flat(curve: &Curve) -> Vec<Point> {
    let mut out: Vec<Point> = along(curve).iter().flatten().map(|a| a.p).collect();
    out.dedup_by(|a, b| distance(*a, *b) < 1e-9);
    out
}

/// The curve in chords, with directions.
pub(crate) fn along(curve: &Curve) -> Vec<Vec<Along>> {
    let run = |r: &Spline| {
        let at = |t: f64| {
            let (p, d, _) = r.at(t);
            Along { p, d }
        };
        thinned(r.places(NEAR / 2.0).into_iter().map(at).collect())
    };
    curve.runs.iter().map(run).collect()
}

/// Without points that lie on the chord between others: dense captures have many.
fn thinned(run: Vec<Along>) -> Vec<Along> {
    let line: LineString<f64> = run.iter().map(|a| (a.p[0], a.p[1])).collect();
    let kept = line.simplify_idx(NEAR / 2.0);
    kept.into_iter()
        .filter_map(|i| run.get(i).copied())
        .collect()
}

/// Most points of a trace.
const MOST: usize = 20_000;

/// A drawn line: at least two points, none far away, none twice in a row, not closed, not crossing itself.
pub(crate) fn drawn(trace: &[Point], sd: f64, at: &str) -> Result<(), Problem> {
    count(trace.len(), at, 2, MOST)?;
    for (i, p) in trace.iter().enumerate() {
        for (k, v) in p.iter().enumerate() {
            within(*v, &format!("{at}/{i}/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
        }
    }
    if let Some(i) = (1..trace.len()).find(|i| distance(trace[*i], trace[*i - 1]) < 1e-9) {
        let words = "This point is the same as the one before it.";
        return Err(Problem::impossible(format!("{at}/{i}"), words));
    }
    if trace.len() > 2 && distance(trace[0], trace[trace.len() - 1]) < 1e-6 {
        let words = "The line is closed: an edge has two ends. Leave out a stretch.";
        return Err(Problem::impossible(at, words));
    }
    // Where points lie denser than their noise the line may go back and cross itself within that.
    /// Such a loop is no longer than so many standard deviations.
    const LOOP: f64 = 25.0;
    let long = |i: usize, j: usize| -> f64 {
        let own = trace[i..=j + 1].windows(2);
        own.map(|w| distance(w[0], w[1])).sum()
    };
    let all = crossings(trace);
    let mut real = all
        .iter()
        .filter(|((i, _), (j, _))| long(*i, *j) > LOOP * sd);
    if let Some(((i, _), (j, _))) = real.next() {
        let words = format!(
            "The line crosses itself between points {} and {} and between {} and {}: are the points in order?",
            i + 1,
            i + 2,
            j + 1,
            j + 2
        );
        return Err(Problem::impossible(format!("{at}/{j}"), words));
    }
    Ok(())
}
