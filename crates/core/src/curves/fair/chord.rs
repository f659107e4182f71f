//! Readings as a function over their chord, or over the direction in which they are exact.

use super::{Mark, unit};
use crate::geometry::Point;

/// The direction over which readings are looked at, from the first of them.
#[derive(Debug, Clone, Copy)]
pub struct Chord {
    from: Point,
    /// Of length one.
    pub u: Point,
}

impl Chord {
    /// From the first reading to the last, or `along`; none of no reading.
    pub fn of(marks: &[Mark], along: Option<Point>) -> Option<Chord> {
        let (from, to) = (marks.first()?.p, marks.last()?.p);
        let u = along.unwrap_or_else(|| unit([to[0] - from[0], to[1] - from[1]]));
        Some(Chord { from, u })
    }

    /// Along it, and to its left.
    pub fn local(&self, p: Point) -> Point {
        let (d, u) = ([p[0] - self.from[0], p[1] - self.from[1]], self.u);
        [d[0] * u[0] + d[1] * u[1], -d[0] * u[1] + d[1] * u[0]]
    }

    /// Where that lies.
    pub fn world(&self, [x, y]: Point) -> Point {
        let (from, u) = (self.from, self.u);
        [from[0] + x * u[0] - y * u[1], from[1] + x * u[1] + y * u[0]]
    }

    /// Each place along from 0 to 1 and each distance to the left, and how long all of it is, mm; none where the readings do
    /// not go on along it.
    pub fn spread(&self, marks: &[Mark]) -> Option<(Vec<f64>, Vec<f64>, f64)> {
        let p: Vec<Point> = marks.iter().map(|m| self.local(m.p)).collect();
        if p.windows(2).any(|w| w[1][0] - w[0][0] < 1e-6) {
            return None;
        }
        let (a, b) = (p.first()?[0], p.last()?[0]);
        let t = p.iter().map(|q| (q[0] - a) / (b - a)).collect();
        Some((t, p.iter().map(|q| q[1]).collect(), b - a))
    }
}
