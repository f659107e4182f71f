//! Boards as convex prisms of another library (`parry3d`), cut apart by code that the program does not use.

use jigfit_core::boards::BoardView;
use jigfit_core::furniture::built::{Face, Pocket, Pose};
use jigfit_core::geometry::Point;
use parry3d_f64::math::{Pose as Still, Vector};
use parry3d_f64::query::contact;
use parry3d_f64::shape::ConvexPolyhedron;

/// Boards may touch: deeper than this is an overlap, mm.
pub const TOUCH: f64 = 0.2;

/// The rings cut into trapezoids by level lines through every corner: each is convex.
fn trapezoids(rings: &[Vec<Point>]) -> Vec<[Point; 4]> {
    let mut levels: Vec<f64> = rings.iter().flatten().map(|p| p[1]).collect();
    levels.sort_by(f64::total_cmp);
    levels.dedup_by(|a, b| (*a - *b).abs() < 1e-7);
    let mut out = Vec::new();
    for w in levels.windows(2) {
        let middle = (w[0] + w[1]) / 2.0;
        let mut crossing: Vec<(f64, f64, f64)> = Vec::new();
        for ring in rings {
            for i in 0..ring.len() {
                let (a, b) = (ring[i], ring[(i + 1) % ring.len()]);
                if (a[1] - middle) * (b[1] - middle) < 0.0 {
                    let at = |y: f64| a[0] + (b[0] - a[0]) * (y - a[1]) / (b[1] - a[1]);
                    crossing.push((at(middle), at(w[0]), at(w[1])));
                }
            }
        }
        crossing.sort_by(|a, b| a.0.total_cmp(&b.0));
        for pair in crossing.chunks(2) {
            if let [l, r] = pair
                && r.0 - l.0 > 1e-6
            {
                out.push([[l.1, w[0]], [r.1, w[0]], [r.2, w[1]], [l.2, w[1]]]);
            }
        }
    }
    out
}

/// A board as convex prisms, with the box round it.
pub struct Solid {
    pub id: String,
    pub low: [f64; 3],
    pub high: [f64; 3],
    pub pieces: Vec<ConvexPolyhedron>,
}

fn prism(base: &[Point; 4], t: (f64, f64), pose: &Pose) -> Option<ConvexPolyhedron> {
    let corners = base
        .iter()
        .flat_map(|p| [t.0, t.1].map(|t| pose.at(p[0], p[1], t)));
    let points: Vec<Vector> = corners.map(|c| Vector::new(c[0], c[1], c[2])).collect();
    ConvexPolyhedron::from_convex_hull(&points)
}

/// A board where it lies on the road.
pub fn solid(b: &BoardView) -> Solid {
    let pose = b.poses["drive"];
    let mut rings = vec![b.outline.outer.clone()];
    // Vents are no matter: nothing passes through them.
    rings.extend(b.outline.holes.iter().filter(|h| h.len() < 12).cloned());
    let mut pieces = Vec::new();
    for (i, p) in b.pockets.iter().enumerate() {
        // Grooves from both faces may lie over each other: what is left is between them.
        let same = |q: &&Pocket| q.outline.outer == p.outline.outer;
        if b.pockets[..i].iter().any(|q| same(&q)) {
            continue;
        }
        let deep = |face: Face| {
            let own = b.pockets.iter().filter(same).filter(|q| q.face == face);
            own.map(|q| q.depth).fold(0.0, f64::max)
        };
        let left = (deep(Face::Bottom), b.thickness - deep(Face::Top));
        let cut = trapezoids(std::slice::from_ref(&p.outline.outer));
        pieces.extend(cut.iter().filter_map(|t| prism(t, left, &pose)));
        rings.push(p.outline.outer.clone());
    }
    let whole = trapezoids(&rings);
    pieces.extend(
        whole
            .iter()
            .filter_map(|t| prism(t, (0.0, b.thickness), &pose)),
    );
    let corners = b
        .outline
        .outer
        .iter()
        .flat_map(|p| [0.0, b.thickness].map(|t| pose.at(p[0], p[1], t)));
    let corners: Vec<[f64; 3]> = corners.collect();
    let least = |i: usize| corners.iter().map(|c| c[i]).fold(f64::INFINITY, f64::min);
    let most = |i: usize| {
        corners
            .iter()
            .map(|c| c[i])
            .fold(f64::NEG_INFINITY, f64::max)
    };
    Solid {
        id: b.id.clone(),
        low: std::array::from_fn(least),
        high: std::array::from_fn(most),
        pieces,
    }
}

/// How deep two boards are in each other.
pub fn depth(a: &Solid, b: &Solid) -> f64 {
    let apart = (0..3).any(|i| a.high[i] < b.low[i] + TOUCH || b.high[i] < a.low[i] + TOUCH);
    if apart {
        return 0.0;
    }
    let mut deepest: f64 = 0.0;
    for p in &a.pieces {
        for q in &b.pieces {
            let still = Still::IDENTITY;
            if let Ok(Some(c)) = contact(&still, p, &still, q, 0.0) {
                deepest = deepest.max(-c.dist);
            }
        }
    }
    deepest
}
