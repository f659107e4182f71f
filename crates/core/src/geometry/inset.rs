//! Moving a region's boundary inwards, each edge by its own clearance, with mitred corners.
//!
//! The inset is the region less a strip along every edge, and less, at every corner that points
//! into the region, the wedge between two strips out to their mitre. This is the definition of the
//! mitred offset, taken edge by edge, which a uniform offset cannot give.

use geo::{BooleanOps, MultiPolygon, Polygon};

use super::region::Region;
use super::{Point, distance_to_segment};

/// A mitre longer than this many clearances is cut off square, as usual for offsets.
const MITRE_LIMIT: f64 = 5.0;
/// Strips reach this far outside, so that no film of material stays on the boundary, mm.
const OUTSIDE: f64 = 0.01;
/// How far off a `near` segment an edge may lie, mm, and at what angle (sine).
const NEAR: f64 = 10.0;
const NEAR_SINE: f64 = 0.18;

/// Edges along the segment `near` get `clearance` instead of the general one.
#[derive(Debug, Clone, PartialEq)]
pub struct EdgeClearance {
    /// Start of the segment.
    pub a: Point,
    /// End of the segment.
    pub b: Point,
    /// Clearance along it, mm.
    pub clearance: f64,
}

#[derive(Debug, Clone, Copy)]
struct Edge {
    a: Point,
    b: Point,
    clearance: f64,
}

impl Edge {
    /// Unit normal into the region (regions lie left of their edges).
    fn normal(&self) -> Point {
        let (dx, dy) = (self.b[0] - self.a[0], self.b[1] - self.a[1]);
        let l = dx.hypot(dy);
        [-dy / l, dx / l]
    }

    fn strip(&self) -> Region {
        let n = self.normal();
        let shift = |p: Point, d: f64| [p[0] + n[0] * d, p[1] + n[1] * d];
        Region {
            outer: vec![
                shift(self.a, -OUTSIDE),
                shift(self.b, -OUTSIDE),
                shift(self.b, self.clearance),
                shift(self.a, self.clearance),
            ],
            holes: vec![],
        }
    }
}

/// `multi` moved inwards by `clearance`, by the clearance of `special` along those segments.
pub fn inset(
    multi: &MultiPolygon<f64>,
    clearance: f64,
    special: &[EdgeClearance],
) -> MultiPolygon<f64> {
    let mut away: Vec<Polygon<f64>> = Vec::new();
    for polygon in multi {
        let Some(region) = Region::from_polygon(polygon) else {
            continue;
        };
        for ring in std::iter::once(&region.outer).chain(&region.holes) {
            let edges = edges(ring, clearance, special);
            for (i, edge) in edges.iter().enumerate() {
                if edge.clearance > 0.0 {
                    away.push(edge.strip().polygon());
                }
                let next = edges[(i + 1) % edges.len()];
                if let Some(wedge) = wedge(*edge, next) {
                    away.push(wedge.polygon());
                }
            }
        }
    }
    if away.is_empty() {
        return multi.clone();
    }
    multi.difference(&geo::unary_union(&away))
}

/// The ring's edges with their clearances, cut where a special segment begins or ends.
fn edges(ring: &[Point], clearance: f64, special: &[EdgeClearance]) -> Vec<Edge> {
    let mut out = Vec::new();
    for i in 0..ring.len() {
        let (a, b) = (ring[i], ring[(i + 1) % ring.len()]);
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        let length = dx.hypot(dy);
        let along: Vec<_> = special.iter().filter(|s| runs_along(s, a, b)).collect();
        let mut stops = vec![0.0, 1.0];
        for s in &along {
            for p in [s.a, s.b] {
                let t = ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (length * length);
                if t > 1e-6 && t < 1.0 - 1e-6 {
                    stops.push(t);
                }
            }
        }
        stops.sort_by(f64::total_cmp);
        // Two special segments may meet at one corner.
        stops.dedup_by(|a, b| (*a - *b).abs() < 1e-6);
        for w in stops.windows(2) {
            let at = |t: f64| [a[0] + t * dx, a[1] + t * dy];
            let middle = at((w[0] + w[1]) / 2.0);
            let own = along
                .iter()
                .rev()
                .find(|s| distance_to_segment(middle, s.a, s.b) <= NEAR);
            out.push(Edge {
                a: at(w[0]),
                b: at(w[1]),
                clearance: own.map_or(clearance, |s| s.clearance),
            });
        }
    }
    out
}

fn runs_along(s: &EdgeClearance, a: Point, b: Point) -> bool {
    let (sx, sy) = (s.b[0] - s.a[0], s.b[1] - s.a[1]);
    let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
    let lengths = sx.hypot(sy) * dx.hypot(dy);
    lengths > 0.0 && ((sx * dy - sy * dx) / lengths).abs() <= NEAR_SINE
}

/// At a corner that points into the region: the gap between the strips of `a` and `b`.
fn wedge(a: Edge, b: Edge) -> Option<Region> {
    let v = a.b;
    let (na, nb) = (a.normal(), b.normal());
    let turn = na[0] * nb[1] - na[1] * nb[0];
    if turn >= -1e-9 || (a.clearance <= 0.0 && b.clearance <= 0.0) {
        return None;
    }
    let pa = [v[0] + na[0] * a.clearance, v[1] + na[1] * a.clearance];
    let pb = [v[0] + nb[0] * b.clearance, v[1] + nb[1] * b.clearance];
    // Mitre m: na.(m-v) = ca and nb.(m-v) = cb.
    let m = [
        v[0] + (a.clearance * nb[1] - b.clearance * na[1]) / turn,
        v[1] + (b.clearance * na[0] - a.clearance * nb[0]) / turn,
    ];
    let reach = (m[0] - v[0]).hypot(m[1] - v[1]);
    let mut outer = vec![v, pa];
    if reach <= MITRE_LIMIT * a.clearance.max(b.clearance) {
        outer.push(m);
    }
    outer.push(pb);
    Some(Region {
        outer,
        holes: vec![],
    })
}
