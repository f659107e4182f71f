//! A curve as a table of ordinates from one straight edge, in marks that a tape has, so that it is drawn with a batten:
//! more stations only where the batten would leave the curve.

use super::fair::spline::Spline;
use crate::geometry::{Point, distance};
use crate::units::INCH;
use crate::units::figure::{System, Writer};

/// A batten may leave the true curve by so much, mm (a choice: a pencil line).
const NEAR: f64 = 0.5;
/// More stations make no better curve by hand.
const MOST: usize = 120;

/// A table of ordinates.
#[derive(Debug, Clone, PartialEq)]
pub struct Table {
    /// Along the straight edge and square to it, mm, on the marking step.
    pub rows: Vec<Point>,
    /// How far a batten through them leaves the true curve at the most, mm.
    pub off: f64,
    /// The straight edge: where it begins, and its direction, in the frame of the curve.
    pub edge: (Point, Point),
}

/// The table of a curve, if it is a function over its chord.
pub fn table(curve: &[Point], step: f64, w: &Writer) -> Option<Table> {
    let (first, last) = (*curve.first()?, *curve.last()?);
    let long = distance(first, last);
    if long < 10.0 {
        return None;
    }
    let u = [(last[0] - first[0]) / long, (last[1] - first[1]) / long];
    let local = |p: &Point| {
        let d = [p[0] - first[0], p[1] - first[1]];
        [d[0] * u[0] + d[1] * u[1], -d[0] * u[1] + d[1] * u[0]]
    };
    let mut line: Vec<Point> = curve.iter().map(local).collect();
    if line.windows(2).any(|p| p[1][0] - p[0][0] < -1e-6) {
        return None;
    }
    // The straight edge lies below the whole curve, on a mark.
    let low = line.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
    let down = ((low - step) / step).floor() * step;
    for p in &mut line {
        p[1] -= down;
    }
    let depth = |x: f64| {
        let i = line.partition_point(|p| p[0] <= x).clamp(1, line.len() - 1);
        let (p, q) = (line[i - 1], line[i]);
        let share = if q[0] - p[0] < 1e-9 {
            0.0
        } else {
            (x - p[0]) / (q[0] - p[0])
        };
        p[1] + share.clamp(0.0, 1.0) * (q[1] - p[1])
    };
    let every = match w.system {
        System::Mm => 50.0,
        System::In => 2.0 * INCH,
    };
    let end = line[line.len() - 1][0];
    let mark = |v: f64| (v / step).round() * step;
    let mut xs: Vec<f64> = (0..=(end / every) as usize)
        .map(|i| i as f64 * every)
        .collect();
    let rest = end - xs[xs.len() - 1];
    if rest > step {
        // A last station that lies close to the end gives way to it.
        if rest < every / 4.0 && xs.len() > 2 {
            xs.pop();
        }
        xs.push((end / step).floor() * step);
    }
    loop {
        let rows: Vec<Point> = xs.iter().map(|x| [*x, mark(depth(*x))]).collect();
        let batten = Spline::through(&rows)?;
        let off = |t: f64| {
            let (p, ..) = batten.at(t);
            (p[1] - depth(p[0])).abs()
        };
        let places = batten.places(0.05);
        let worst = places
            .iter()
            .copied()
            .max_by(|a, b| off(*a).total_cmp(&off(*b)))?;
        let most = off(worst);
        let (at, ..) = batten.at(worst);
        let i = xs.partition_point(|x| *x <= at[0]).clamp(1, xs.len() - 1);
        let gap = xs[i] - xs[i - 1];
        // What rounding to marks leaves no station mends.
        if most <= NEAR.max(0.75 * step) || xs.len() >= MOST || gap < 4.0 * step {
            let n = [-u[1], u[0]];
            let edge = [first[0] + down * n[0], first[1] + down * n[1]];
            return Some(Table {
                rows,
                off: most,
                edge: (edge, u),
            });
        }
        xs.insert(i, mark((xs[i] + xs[i - 1]) / 2.0));
    }
}
