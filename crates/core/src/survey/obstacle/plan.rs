//! The plan of a thing at one height.

use crate::geometry::Point;
use crate::project::survey::{Ends, Side};

/// An upright face of a thing in plan; the thing lies to the left of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Edge {
    /// One end.
    pub from: Point,
    /// The other.
    pub to: Point,
}

impl Edge {
    /// How far a point lies outside, mm; less than nothing inside.
    pub fn outside(&self, p: Point) -> f64 {
        let (dx, dy) = (self.to[0] - self.from[0], self.to[1] - self.from[1]);
        let length = dx.hypot(dy).max(1e-9);
        ((p[0] - self.from[0]) * dy - (p[1] - self.from[1]) * dx) / length
    }
}

/// The plan of a thing: `along` the bay its rear end, the beginning and the end of its inner face, its front end;
/// `out` from the centre line its inner face, where its ends begin to run in, and its back. It is convex, and a curve
/// lies inside of it.
pub fn outline(ends: Ends, side: Side, along: [f64; 4], out: [f64; 3]) -> Vec<Point> {
    /// A quarter of a curve is drawn with so many sides.
    const SIDES: usize = 6;
    let [start, from, to, end] = along;
    let [face, shoulder, back] = out;
    let shoulder = shoulder.clamp(face, back);
    let mut ring = match ends {
        Ends::Square => vec![[start, back], [start, face], [end, face], [end, back]],
        Ends::Bevelled => vec![
            [start, back],
            [start, shoulder],
            [from, face],
            [to, face],
            [end, shoulder],
            [end, back],
        ],
        Ends::Rounded => {
            let each = std::f64::consts::FRAC_PI_2 / SIDES as f64;
            // The corners between the tangents at evenly spaced places of the ellipse.
            let corner = |k: usize| {
                let (sin, cos) = ((k as f64 + 0.5) * each).sin_cos();
                let by = 1.0 / (each / 2.0).cos();
                (by * cos, by * sin)
            };
            let curve = |end: f64, inner: f64| {
                (0..SIDES).map(move |k| {
                    let (c, s) = corner(k);
                    [inner + (end - inner) * c, shoulder - (shoulder - face) * s]
                })
            };
            let mut ring = vec![[start, back], [start, shoulder]];
            ring.extend(curve(start, from));
            ring.extend([[from, face], [to, face]]);
            let mut last: Vec<Point> = curve(end, to).collect();
            last.reverse();
            ring.extend(last);
            ring.extend([[end, shoulder], [end, back]]);
            ring
        }
    };
    if side == Side::Right {
        ring.iter_mut().for_each(|p| p[1] = -p[1]);
        ring.reverse();
    }
    ring
}
