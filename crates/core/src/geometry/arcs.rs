//! A chain of short lines as few lines and arcs: for cutters, and for people who read a drawing.

use super::Point;

/// A corner of a chain, and how the way on from it bulges: the tangent of a quarter of its angle, more than nothing to
/// the right of the way (the DXF rule: an arc that runs counter-clockwise), 0 for a straight line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Vertex {
    /// Where.
    pub at: Point,
    /// How the way to the next one bulges.
    pub bulge: f64,
}

/// An arc turns no further than this, as a bulge: a half circle.
const MOST: f64 = 1.0;

/// `points` as lines and arcs that pass within `tol` mm of every point and of the middle between any two: each as far
/// as it goes. A closed chain gives its first corner once.
pub fn fit(points: &[Point], closed: bool, tol: f64) -> Vec<Vertex> {
    let mut chain: Vec<Point> = Vec::with_capacity(points.len() + 1);
    for p in points {
        if chain.last().is_none_or(|q| apart(*p, *q) > 1e-9) {
            chain.push(*p);
        }
    }
    if closed
        && chain.len() > 1
        && chain
            .first()
            .zip(chain.last())
            .is_some_and(|(a, b)| apart(*a, *b) > 1e-9)
    {
        chain.extend(chain.first().copied());
    }
    let mut out = Vec::new();
    let mut i = 0;
    while i + 1 < chain.len() {
        // The first step that fails is found by doubling, then by halving.
        let (mut good, mut best) = (i + 1, 0.0);
        let (mut step, last) = (1, chain.len() - 1);
        let mut bad = last + 1;
        while good < last {
            let next = (good + step).min(last);
            match bulge(&chain[i..=next], tol) {
                Some(b) => {
                    (good, best) = (next, b);
                    step *= 2;
                }
                None => {
                    bad = next;
                    break;
                }
            }
        }
        while bad - good > 1 && bad <= last {
            let middle = (good + bad) / 2;
            match bulge(&chain[i..=middle], tol) {
                Some(b) => (good, best) = (middle, b),
                None => bad = middle,
            }
        }
        out.push(Vertex {
            at: chain[i],
            bulge: best,
        });
        i = good;
    }
    if !closed {
        out.extend(chain.last().map(|p| Vertex { at: *p, bulge: 0.0 }));
    }
    out
}

fn apart(a: Point, b: Point) -> f64 {
    (a[0] - b[0]).hypot(a[1] - b[1])
}

/// The bulge of the line or arc that follows these points, if one does.
fn bulge(run: &[Point], tol: f64) -> Option<f64> {
    let (a, b) = (*run.first()?, *run.last()?);
    let long = apart(a, b);
    if long < 1e-9 {
        return None;
    }
    let u = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
    // Along and to the left of the chord, from its middle.
    let local = |p: Point| {
        let d = [p[0] - (a[0] + b[0]) / 2.0, p[1] - (a[1] + b[1]) / 2.0];
        [d[0] * u[0] + d[1] * u[1], d[1] * u[0] - d[0] * u[1]]
    };
    let middles = run
        .windows(2)
        .map(|w| [(w[0][0] + w[1][0]) / 2.0, (w[0][1] + w[1][1]) / 2.0]);
    let all: Vec<Point> = run.iter().copied().chain(middles).map(local).collect();
    if all.iter().all(|p| p[1].abs() <= tol) {
        // Straight, and never back over itself.
        let onward = run
            .windows(2)
            .all(|w| (w[1][0] - w[0][0]) * u[0] + (w[1][1] - w[0][1]) * u[1] >= 0.0);
        return onward.then_some(0.0);
    }
    // A corner or two of their own are no arc.
    if run.len() < 4 {
        return None;
    }
    // Height of the arc over the chord, from the point nearest to its middle: h + r(1 - cos) solved for h.
    let half = long / 2.0;
    let top = run
        .iter()
        .copied()
        .map(local)
        .min_by(|p, q| p[0].abs().total_cmp(&q[0].abs()))?;
    // The circle through both ends and that point: its centre (0, c).
    if top[1].abs() < 1e-12 {
        return None;
    }
    let c = (top[0] * top[0] + top[1] * top[1] - half * half) / (2.0 * top[1]);
    let r = half.hypot(c);
    let height = if top[1] > 0.0 { c + r } else { c - r };
    let way = height / half;
    if way.abs() > MOST {
        return None;
    }
    let inside = |p: &Point| (p[0].hypot(p[1] - c) - r).abs() <= tol && p[0].abs() <= half + tol;
    let onward = run.windows(2).map(|w| (local(w[0]), local(w[1])));
    let mut onward = onward.map(|(p, q)| q[0] - p[0]);
    // Over the chord to its left the way turns clockwise: less than nothing.
    (all.iter().all(inside) && onward.all(|d| d >= -tol)).then_some(-way)
}

/// Points along what `fit` gave, no further from it than `tol` mm: the check, and the way back.
pub fn unfold(vertices: &[Vertex], closed: bool, tol: f64) -> Vec<Point> {
    let mut out = Vec::new();
    let n = vertices.len();
    for (i, v) in vertices.iter().enumerate() {
        out.push(v.at);
        let next = match (i + 1 < n, closed) {
            (true, _) => vertices[i + 1].at,
            (false, true) => vertices[0].at,
            (false, false) => break,
        };
        if v.bulge == 0.0 {
            continue;
        }
        let long = apart(v.at, next);
        let angle = 4.0 * v.bulge.atan();
        let r = long / (2.0 * (angle / 2.0).sin());
        // An arc that is nearly straight turns little and is long: its steps are as short as the others, however little they turn.
        let step = 2.0 * (1.0 - tol / r.abs()).clamp(-1.0, 1.0).acos();
        let steps = (angle.abs() / step.max(1e-9)).ceil() as usize;
        let u = [(next[0] - v.at[0]) / long, (next[1] - v.at[1]) / long];
        let h = r * (angle / 2.0).cos();
        let centre = [
            (v.at[0] + next[0]) / 2.0 - h * u[1],
            (v.at[1] + next[1]) / 2.0 + h * u[0],
        ];
        let start = (v.at[1] - centre[1]).atan2(v.at[0] - centre[0]);
        for k in 1..steps.clamp(1, 4000) {
            let t = start + angle * k as f64 / steps as f64;
            out.push([centre[0] + r.abs() * t.cos(), centre[1] + r.abs() * t.sin()]);
        }
    }
    if closed {
        out.extend(vertices.first().map(|v| v.at));
    }
    out
}
