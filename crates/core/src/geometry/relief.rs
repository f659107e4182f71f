//! Relieving internal corners: a round hole through each, so that a blade or bit of that radius can
//! turn there and the square corner of the thing behind still fits. Only ever takes material away.

use super::Point;
use super::region::Region;

/// A corner turning by less than this is part of a curve, degrees.
const CORNER_DEG: f64 = 20.0;
const SEGMENTS: usize = 32;

/// The internal corners of `region` that need a relief.
pub fn internal_corners(region: &Region) -> Vec<Point> {
    corners(region).into_iter().map(|(v, _)| v).collect()
}

/// Internal corners and the unit bisector pointing out of the material.
fn corners(region: &Region) -> Vec<(Point, Point)> {
    let mut out = Vec::new();
    for ring in std::iter::once(&region.outer).chain(&region.holes) {
        let n = ring.len();
        for i in 0..n {
            let (a, v, b) = (ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]);
            let unit = |p: Point, q: Point| {
                let (dx, dy) = (q[0] - p[0], q[1] - p[1]);
                let l = dx.hypot(dy);
                [dx / l, dy / l]
            };
            let (u, w) = (unit(a, v), unit(v, b));
            let cross = u[0] * w[1] - u[1] * w[0];
            let dot = u[0] * w[0] + u[1] * w[1];
            if cross.atan2(dot).to_degrees() > -CORNER_DEG {
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
    let holes: Vec<_> = corners(region)
        .into_iter()
        .map(|(v, b)| disc([v[0] + b[0] * radius, v[1] + b[1] * radius], radius))
        .collect();
    if holes.is_empty() {
        return vec![region.clone()];
    }
    region.minus(&holes)
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
