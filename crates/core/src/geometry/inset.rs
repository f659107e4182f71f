//! Moving a region's boundary inwards, each edge by its own clearance, with mitred corners.
//!
//! The inset is the region less a strip along every edge, and less, at every corner that points
//! into the region, the wedge between two strips out to their mitre. This is the definition of the
//! mitred offset, taken edge by edge, which a uniform offset cannot give.

use i_overlay::core::overlay_rule::OverlayRule;

use super::labelled::{Label, Labelled, combine};
use super::region::Region;
use super::{Point, distance_to_segment, sides};

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
    label: Label,
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

/// `regions` moved inwards, each edge by the clearance of its label. What bounds the result keeps the label of the
/// edge it was moved in from.
pub fn inset(regions: &[Labelled], clearance: &dyn Fn(Label) -> f64) -> Vec<Labelled> {
    let mut away: Vec<Labelled> = Vec::new();
    for region in regions {
        for ring in &region.rings {
            let n = ring.len();
            let edge = |i: usize| {
                let (a, label) = ring[i % n];
                Edge {
                    a,
                    b: ring[(i + 1) % n].0,
                    clearance: clearance(label),
                    label,
                }
            };
            for i in 0..n {
                let (own, next) = (edge(i), edge(i + 1));
                if own.clearance > 0.0 {
                    away.push(Labelled::new(&own.strip(), own.label));
                }
                away.extend(wedge(own, next));
            }
        }
    }
    let from: Vec<&Labelled> = regions.iter().collect();
    combine(&from, &away, OverlayRule::Difference)
}

/// A region whose edges along `special` segments are labelled by the segment's number, from 1; others get 0.
pub fn marked(region: &Region, special: &[EdgeClearance]) -> Labelled {
    let rings = region.every();
    Labelled {
        rings: rings.map(|ring| edges(ring, special)).collect(),
    }
}

/// The ring's edges with their labels, cut where a special segment begins or ends.
fn edges(ring: &[Point], special: &[EdgeClearance]) -> Vec<(Point, Label)> {
    let mut out = Vec::new();
    for (a, b) in sides(ring) {
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
            // The last that was named counts.
            let own = special.iter().rposition(|s| {
                runs_along(s, a, b) && distance_to_segment(middle, s.a, s.b) <= NEAR
            });
            out.push((at(w[0]), Label::wall(own.map_or(0, |i| i + 1))));
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
fn wedge(a: Edge, b: Edge) -> Option<Labelled> {
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
    let mut ring = vec![(v, a.label), (pa, a.label)];
    if reach <= MITRE_LIMIT * a.clearance.max(b.clearance) {
        ring.push((m, b.label));
    }
    ring.push((pb, b.label));
    // Clockwise as it was gone round; regions lie left of their edges.
    let n = ring.len();
    let back = (0..n).rev().map(|i| (ring[i].0, ring[(i + n - 1) % n].1));
    Some(Labelled {
        rings: vec![back.collect()],
    })
}
