//! From points with doubt to a fair curve: smoothed to their noise and not beyond, straight where it is straight,
//! corners kept.

mod chord;
mod corners;
mod gp;
pub mod spline;

use crate::geometry::{Point, distance};
use chord::Chord;
use gp::{Known, Models};
use spline::Spline;

/// A captured point and its covariance, mm2.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mark {
    /// Where.
    pub p: Point,
    /// Its covariance: xx, xy, yy.
    pub cov: [f64; 3],
}

impl Mark {
    /// A point with the same noise every way.
    pub fn round(p: Point, sd: f64) -> Mark {
        Mark {
            p,
            cov: [sd * sd, 0.0, sd * sd],
        }
    }

    /// Standard deviation across the direction `u` of length one.
    pub fn across(&self, u: Point) -> f64 {
        let [xx, xy, yy] = self.cov;
        let n = [-u[1], u[0]];
        (n[0] * n[0] * xx + 2.0 * n[0] * n[1] * xy + n[1] * n[1] * yy)
            .max(0.0)
            .sqrt()
    }
}

/// A fair curve: smooth runs that meet at corners.
#[derive(Debug, Clone)]
pub struct Curve {
    /// From the first reading to the last.
    pub runs: Vec<Spline>,
    /// The readings are explained much better by more noise than was stated.
    pub loud: bool,
}

/// Readings denser than this are averaged before they are smoothed, mm: nothing that a saw follows is smaller.
const DENSE: f64 = 10.0;
/// No more points are smoothed at once: longer captures are averaged more coarsely.
const MOST: usize = 150;
/// A smoothed curve is worked out every so many mm.
const EVERY: f64 = 6.0;

/// The curve. `along` is the direction in which readings are exact, if there is one; `keep` keeps corners that are found
/// within the `parts`, the first and the last reading of each: between parts there always is one.
pub fn fair(
    marks: &[Mark],
    along: Option<Point>,
    keep: bool,
    parts: &[(usize, usize)],
) -> Option<Curve> {
    let sd = marks
        .iter()
        .map(|m| (m.cov[0] + m.cov[2]) / 2.0)
        .sum::<f64>()
        .sqrt()
        / (marks.len() as f64).sqrt();
    let mut fitted = Vec::new();
    let mut loud = false;
    for (a, b) in parts {
        loud |= faired(marks.get(*a..=*b)?, along, (keep, sd), &mut fitted);
    }
    meet(&mut fitted);
    (!fitted.is_empty()).then_some(Curve { runs: fitted, loud })
}

/// Adds the runs of a part; whether its readings scatter.
fn faired(
    marks: &[Mark],
    along: Option<Point>,
    (keep, sd): (bool, f64),
    fitted: &mut Vec<Spline>,
) -> bool {
    let exact = sd <= 0.0;
    let marks = if exact {
        marks.to_vec()
    } else {
        averaged(marks)
    };
    let points: Vec<Point> = marks.iter().map(|m| m.p).collect();
    let runs = if keep {
        corners::runs(&points, sd, &|a, b| exact || is_corner(&marks, (a, b)))
    } else {
        vec![(0..points.len()).collect()]
    };
    let mut loud = false;
    for run in &runs {
        let own: Vec<Mark> = run.iter().map(|i| marks[*i]).collect();
        let points = if exact || own.len() < 3 {
            own.iter().map(|m| m.p).collect()
        } else {
            let (points, scatters) = smoothed(&own, along);
            loud |= scatters;
            points
        };
        // A lone point between two corners is no run.
        if let Some(s) = Spline::through(&points) {
            fitted.push(s);
        }
    }
    loud
}

/// Two smooth runs explain the readings round a place so much better than one that it is a corner, not noise.
fn is_corner(marks: &[Mark], (a, b): (usize, usize)) -> bool {
    /// So many points on either side are looked at.
    const SEEN: usize = 10;
    /// How much more probable it has to be, as a logarithm (a choice: three thousand times).
    const BY: f64 = 8.0;
    let (from, to) = (a.saturating_sub(SEEN), (b + SEEN).min(marks.len() - 1));
    let (p, q) = (marks[from].p, marks[to].p);
    let Some(chord) = Chord::of(&marks[from..=to], None) else {
        return false;
    };
    let explained = |own: &[Mark]| -> Option<f64> {
        let local: Vec<Point> = own.iter().map(|m| chord.local(m.p)).collect();
        let (x0, x1) = (local.first()?[0], local.last()?[0]);
        if local.len() < 2 || local.windows(2).any(|w| w[1][0] - w[0][0] < 1e-6) {
            return None;
        }
        // As long a curve for all, so that all are explained by the same bends.
        let long = distance(p, q).max(x1 - x0);
        let t: Vec<f64> = local.iter().map(|l| (l[0] - x0) / long).collect();
        let y: Vec<f64> = local.iter().map(|l| l[1]).collect();
        let var: Vec<f64> = own
            .iter()
            .map(|m| m.across(chord.u).powi(2).max(1e-8))
            .collect();
        Some(
            Models::new(Known {
                t: &t,
                y: &y,
                var: &var,
            })
            .evidence(),
        )
    };
    // Where it is no function over its chord, it turns by more than noise ever does.
    let whole = explained(&marks[from..=to]);
    let after = if a == b { a + 1 } else { b };
    let parts = [explained(&marks[from..=a]), explained(&marks[after..=to])];
    match (whole, parts) {
        (Some(whole), [Some(p), Some(q)]) => p + q - whole > BY,
        (Some(_), _) => false,
        (None, _) => true,
    }
}

/// Neighbours averaged where they lie closer than a saw can follow. The outer two stay as they are.
fn averaged(marks: &[Mark]) -> Vec<Mark> {
    let long: f64 = marks.windows(2).map(|w| distance(w[0].p, w[1].p)).sum();
    let n = marks.len();
    let apart = DENSE.max(long / MOST as f64);
    if n < 4 || long / (n as f64 - 1.0) > 0.6 * apart {
        return marks.to_vec();
    }
    // How far along without the noise: the straight way between every few points.
    let mut out = vec![marks[0]];
    let mut group: Vec<Mark> = vec![];
    let mean = |g: &[Mark]| {
        let k = g.len() as f64;
        let sum = |f: &dyn Fn(&Mark) -> f64| g.iter().map(f).sum::<f64>();
        Mark {
            p: [sum(&|m| m.p[0]) / k, sum(&|m| m.p[1]) / k],
            cov: [0, 1, 2].map(|i| sum(&|m| m.cov[i]) / (k * k)),
        }
    };
    for m in &marks[1..n - 1] {
        if let Some(first) = group.first()
            && distance(first.p, m.p) > apart
        {
            out.push(mean(&group));
            group.clear();
        }
        group.push(*m);
    }
    if !group.is_empty() {
        out.push(mean(&group));
    }
    out.push(marks[n - 1]);
    out
}

fn unit(d: Point) -> Point {
    let l = d[0].hypot(d[1]).max(1e-12);
    [d[0] / l, d[1] / l]
}

/// Points of the smoothed curve: as a function over its chord where it never turns far from that, else both coordinates
/// over its length.
fn smoothed(marks: &[Mark], along: Option<Point>) -> (Vec<Point>, bool) {
    over_chord(marks, along).unwrap_or_else(|| (over_length(marks), false))
}

/// Steeper than this a curve is no function over its chord.
const STEEP: f64 = 1.5;

fn over_chord(marks: &[Mark], along: Option<Point>) -> Option<(Vec<Point>, bool)> {
    let chord = Chord::of(marks, along)?;
    let (u, exact) = (chord.u, along.is_some());
    let (t, y, long) = chord.spread(marks)?;
    let steps = t.windows(2).zip(y.windows(2));
    let steep = |(t, y): (&[f64], &[f64])| (y[1] - y[0]).abs() >= STEEP * (t[1] - t[0]) * long;
    if steps.into_iter().any(steep) {
        return None;
    }
    let n = ((long / EVERY).ceil() as usize).clamp(8, 1200);
    let fine: Vec<f64> = (0..=n).map(|i| i as f64 / n as f64).collect();
    // Noise along the chord counts by the slope, which the first pass finds.
    let mut slope = vec![0.0; t.len()];
    let mut out = vec![];
    let mut loud = false;
    for pass in 0..2 {
        let across = |m: &Mark, s: f64| {
            let [xx, xy, yy] = m.cov;
            let turn = |v: Point, w: Point| {
                v[0] * w[0] * xx + (v[0] * w[1] + v[1] * w[0]) * xy + v[1] * w[1] * yy
            };
            let n = [-u[1] - s * u[0], u[0] - s * u[1]];
            turn(n, n).max(1e-8)
        };
        let var: Vec<f64> = marks
            .iter()
            .zip(&slope)
            .map(|(m, s)| across(m, *s))
            .collect();
        let known = Known {
            t: &t,
            y: &y,
            var: &var,
        };
        let models = Models::new(known);
        out = models.smooth(&fine);
        // Where the other coordinate is exact its slope says nothing.
        let last = pass == 1 || exact;
        if last && models.len() >= FEW {
            loud = scatters(&models, known);
        }
        if last {
            break;
        }
        slope = t
            .iter()
            .map(|t| {
                let i = ((t * n as f64) as usize).clamp(1, n - 1);
                (out[i + 1] - out[i - 1]) / (2.0 * long / n as f64)
            })
            .collect();
    }
    let points = fine.iter().zip(out);
    let points = points.map(|(t, y)| chord.world([t * long, y])).collect();
    Some((points, loud))
}

/// Fewer readings say nothing of their noise.
const FEW: usize = 8;

/// The reading that lies off what the others say, and by how much, mm: where the curve is a function over its chord.
pub fn misfit(marks: &[Mark], along: Option<Point>) -> Option<(usize, f64)> {
    /// Of fewer nobody knows which is wrong; of more each tells little, and they are averaged.
    const MANY: std::ops::RangeInclusive<usize> = 6..=60;
    let n = marks.len();
    if !MANY.contains(&n) {
        return None;
    }
    let chord = Chord::of(marks, along)?;
    let (t, y, _) = chord.spread(marks)?;
    let var: Vec<f64> = marks
        .iter()
        .map(|m| m.across(chord.u).powi(2).max(1e-8))
        .collect();
    let known = Known {
        t: &t,
        y: &y,
        var: &var,
    };
    let i = Models::new(known).misfit()?;
    let others = |v: &[f64]| -> Vec<f64> {
        let rest = v.iter().enumerate().filter(|(k, _)| *k != i);
        rest.map(|(_, v)| *v).collect()
    };
    let (ty, yy, vy) = (others(&t), others(&y), others(&var));
    let (a, b) = (ty[0], ty[ty.len() - 1]);
    let scaled: Vec<f64> = ty.iter().map(|v| (v - a) / (b - a)).collect();
    let rest = Known {
        t: &scaled,
        y: &yy,
        var: &vy,
    };
    let there = Models::new(rest).smooth(&[(t[i] - a) / (b - a)]);
    Some((i, y[i] - there[0]))
}

/// How sure the curve through a part is at `n` + 1 places from its first to its last reading: where on it, and one standard
/// deviation across it, mm. None of fewer than three readings, and where they do not go on along their chord.
pub fn sureness(marks: &[Mark], along: Option<Point>, n: usize) -> Option<Vec<(Point, f64)>> {
    /// Readings are no surer than this, mm.
    const LEAST: f64 = 0.1;
    let chord = Chord::of(marks, along)?;
    let (t, y, long) = chord.spread(marks)?;
    if marks.len() < 3 || marks.len() > MOST || long < 1.0 {
        return None;
    }
    let across = |m: &Mark| m.across(chord.u).powi(2).max(LEAST * LEAST);
    let var: Vec<f64> = marks.iter().map(across).collect();
    let known = Known {
        t: &t,
        y: &y,
        var: &var,
    };
    let models = Models::new(known);
    let at: Vec<f64> = (0..=n).map(|i| i as f64 / n.max(1) as f64).collect();
    let place = |(t, y): (&f64, f64)| chord.world([t * long, y]);
    let places = at.iter().zip(models.smooth(&at)).map(place);
    Some(places.zip(models.doubt(&at)).collect())
}

/// More noise explains the readings much better.
fn scatters(models: &Models, known: Known) -> bool {
    /// So many times the noise that was stated.
    const MORE: f64 = 2.5;
    /// As a logarithm: a hundred and fifty times more probable (a choice).
    const BY: f64 = 5.0;
    let more: Vec<f64> = known.var.iter().map(|v| v * MORE * MORE).collect();
    let noisier = Known {
        var: &more,
        ..known
    };
    Models::new(noisier).evidence() - models.evidence() > BY
}

fn over_length(marks: &[Mark]) -> Vec<Point> {
    let mut t = vec![0.0; marks.len()];
    for i in 1..marks.len() {
        t[i] = t[i - 1] + distance(marks[i - 1].p, marks[i].p).max(1e-6);
    }
    let long = t[t.len() - 1];
    let t: Vec<f64> = t.iter().map(|v| v / long).collect();
    let n = ((long / EVERY).ceil() as usize).clamp(8, 1200);
    let fine: Vec<f64> = (0..=n).map(|i| i as f64 / n as f64).collect();
    let axis = |k: usize| {
        let y: Vec<f64> = marks.iter().map(|m| m.p[k]).collect();
        let var: Vec<f64> = marks.iter().map(|m| m.cov[2 * k].max(1e-8)).collect();
        let known = Known {
            t: &t,
            y: &y,
            var: &var,
        };
        Models::new(known).smooth(&fine)
    };
    axis(0)
        .into_iter()
        .zip(axis(1))
        .map(|(x, y)| [x, y])
        .collect()
}

/// Lengthens or shortens runs so that they meet where they would cross.
fn meet(runs: &mut [Spline]) {
    for i in 1..runs.len() {
        let (a, b) = (&runs[i - 1], &runs[i]);
        let ((p, d, _), (q, e, _)) = (a.at(a.end()), b.at(0.0));
        if distance(p, q) < 1e-6 {
            continue;
        }
        let cross = d[0] * e[1] - d[1] * e[0];
        if cross.abs() < 1e-6 * d[0].hypot(d[1]) * e[0].hypot(e[1]) {
            continue;
        }
        let r = [q[0] - p[0], q[1] - p[1]];
        let s = (r[0] * e[1] - r[1] * e[0]) / cross;
        let t = (r[0] * d[1] - r[1] * d[0]) / cross;
        // No further than the gap between them is wide, and a bit.
        let far = 3.0 * distance(p, q) + 1.0;
        if s * d[0].hypot(d[1]) < -far || t * e[0].hypot(e[1]) > far {
            continue;
        }
        let at = [p[0] + s * d[0], p[1] + s * d[1]];
        if distance(at, p) > far || distance(at, q) > far {
            continue;
        }
        if let Some(longer) = ending(&runs[i - 1], at, false) {
            runs[i - 1] = longer;
        }
        if let Some(longer) = ending(&runs[i], at, true) {
            runs[i] = longer;
        }
    }
}

/// The run with one end at `at`: knots past that place go.
fn ending(run: &Spline, at: Point, front: bool) -> Option<Spline> {
    let mut p = run.p.clone();
    if front {
        p.reverse();
    }
    let end = p[p.len() - 1];
    let before = p[p.len().checked_sub(2)?];
    let d = unit([end[0] - before[0], end[1] - before[1]]);
    let past = |q: Point| (q[0] - at[0]) * d[0] + (q[1] - at[1]) * d[1] > -1e-6;
    while p.len() > 1 && past(p[p.len() - 1]) {
        p.pop();
    }
    p.push(at);
    if front {
        p.reverse();
    }
    Spline::through(&p)
}
