//! Relieving internal corners: a round hole through each, so that a blade or bit of that radius can
//! turn there and the square corner of the thing behind still fits. Only ever takes material away.

use super::region::Region;
use super::{Point, distance};

/// A corner turning by less than this is part of a curve, degrees.
const CORNER_DEG: f64 = 20.0;
/// A saw follows a kink of less than this without a hole, degrees.
const KINK_DEG: f64 = 50.0;
const SEGMENTS: usize = 32;

/// Internal corners between edges of at least that length that turn by more than `kink` degrees, and the unit bisector
/// pointing out of the material.
fn corners(region: &Region, least: f64, kink: f64) -> Vec<(Point, Point)> {
    let mut out = Vec::new();
    for ring in region.every() {
        let n = ring.len();
        for i in 0..n {
            let (a, v, b) = (ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]);
            let unit = |p: Point, q: Point| {
                let (dx, dy) = (q[0] - p[0], q[1] - p[1]);
                let l = dx.hypot(dy);
                [dx / l, dy / l]
            };
            if distance(a, v).min(distance(v, b)) < least {
                continue;
            }
            let (u, w) = (unit(a, v), unit(v, b));
            let cross = u[0] * w[1] - u[1] * w[0];
            let dot = u[0] * w[0] + u[1] * w[1];
            if cross.atan2(dot).to_degrees() > -kink {
                continue;
            }
            // Between the way back and the way on lies the notch.
            let (bx, by) = (w[0] - u[0], w[1] - u[1]);
            let l = bx.hypot(by);
            out.push((v, [bx / l, by / l]));
        }
    }
    out
}

/// `region` with every internal corner relieved to `radius`; the corner lies on the hole's rim.
pub fn relieve(region: &Region, radius: f64) -> Vec<Region> {
    if radius <= 0.0 {
        return vec![region.clone()];
    }
    let holes: Vec<_> = corners(region, 0.0, CORNER_DEG)
        .into_iter()
        .map(|(corner, out)| Relief { corner, out }.hole(radius))
        .collect();
    if holes.is_empty() {
        return vec![region.clone()];
    }
    region.minus(&holes)
}

/// A relief: the internal corner it is for, and the direction from there out of the material.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Relief {
    /// The corner.
    pub corner: Point,
    out: Point,
}

impl Relief {
    /// The hole: the corner lies on its rim.
    pub fn hole(&self, radius: f64) -> Region {
        let [x, y] = self.corner;
        disc([x + self.out[0] * radius, y + self.out[1] * radius], radius)
    }

    /// For the same corner where that is marked: the nearest of the corners of `marked`.
    #[must_use]
    pub fn on(self, marked: &Region) -> Relief {
        let rings = marked.every();
        let corners = rings.flatten().copied();
        let apart = |p: &Point| distance(*p, self.corner);
        let nearest = corners.min_by(|a, b| apart(a).total_cmp(&apart(b)));
        Relief {
            corner: nearest.unwrap_or(self.corner),
            ..self
        }
    }
}

/// The reliefs that a board needs: internal corners between edges of at least that length that are no kinks.
pub fn reliefs(region: &Region, least: f64) -> Vec<Relief> {
    let all = corners(region, least, KINK_DEG).into_iter();
    all.map(|(corner, out)| Relief { corner, out }).collect()
}

/// A round hole as a polygon.
pub fn disc(centre: Point, radius: f64) -> Region {
    let outer = (0..SEGMENTS)
        .map(|i| {
            let t = std::f64::consts::TAU * i as f64 / SEGMENTS as f64;
            [centre[0] + radius * t.cos(), centre[1] + radius * t.sin()]
        })
        .collect();
    Region {
        outer,
        holes: vec![],
    }
}
