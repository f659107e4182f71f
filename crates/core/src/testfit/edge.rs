//! Which stretches of a board's edge run along a face of the vehicle, and how much air there is.

use crate::geometry::pose::Pose;
use crate::geometry::region::Region;
use crate::geometry::{Point, distance, sides};
use crate::project::templates::{Face, Plane};
use crate::survey::model::Model;
use crate::survey::witness::plane;

/// A board in its place: its outline in its own plane.
#[derive(Debug, Clone, Copy)]
pub struct Lying<'a> {
    /// Outline.
    pub outline: &'a Region,
    /// Thickness, mm.
    pub thickness: f64,
    /// Where it lies.
    pub pose: &'a Pose,
}

/// A point on an edge that runs along a face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spot {
    /// Which face.
    pub of: Face,
    /// Where, in the board's own plane.
    pub at: Point,
    /// Square to the edge, outwards, of length one.
    pub out: Point,
    /// From the edge to the face as the vehicle is known, where it comes first, mm.
    pub gap: f64,
    /// The same at the face that is seen: from above, or from behind.
    pub seen: f64,
}

/// An edge further from a face than this does not run along it, mm (a choice).
pub const NEAR: f64 = 60.0;
/// One that was cut wrong may.
pub const CUT_WRONG: f64 = 150.0;
/// Edges are looked at every so many mm.
const STEP: f64 = 10.0;
/// An edge turned more than this from a face does not run along it: the cosine between them.
const TURNED: f64 = 0.35;

/// All spots along the outline that are as `near` to a face, stretch by stretch. Nothing for a board that neither lies level nor stands across.
pub fn stretches(board: Lying, near: f64, model: &Model) -> Vec<Vec<Spot>> {
    let Some(plane) = plane(board.pose) else {
        return vec![];
    };
    let mut out: Vec<Vec<Spot>> = Vec::new();
    let ring = &board.outline.outer;
    let mut open = false;
    for (a, b) in sides(ring) {
        let long = distance(a, b);
        if long < 1e-6 {
            continue;
        }
        let d = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
        let steps = (long / STEP).ceil().clamp(1.0, 2000.0) as usize;
        for k in 0..steps {
            let s = long * (k as f64 + 0.5) / steps as f64;
            let at = [a[0] + s * d[0], a[1] + s * d[1]];
            // The outline runs counter-clockwise: outside is to the right.
            let spot = spot((board, plane), near, at, [d[1], -d[0]], model);
            match (spot, open, out.last_mut()) {
                (Some(s), true, Some(run)) if run.last().is_some_and(|l| l.of == s.of) => {
                    run.push(s);
                }
                (Some(s), ..) => out.push(vec![s]),
                (None, ..) => {}
            }
            open = spot.is_some();
        }
    }
    // The first stretch may be the end of the last.
    if open && out.len() > 1 && out[0][0].of == out[out.len() - 1][0].of {
        let first = distance(out[0][0].at, ring[0]) < 2.0 * STEP;
        if first && let Some(mut last) = out.pop() {
            last.append(&mut out[0]);
            out[0] = last;
        }
    }
    out
}

/// Some of the board's edge runs along a face: looked at in the middle of each straight bit, which is quick.
pub fn runs_along(board: Lying, model: &Model) -> bool {
    let Some(plane) = plane(board.pose) else {
        return false;
    };
    sides(&board.outline.outer).any(|(a, b)| {
        let long = distance(a, b);
        let d = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
        let at = [(a[0] + b[0]) / 2.0, (a[1] + b[1]) / 2.0];
        long > STEP && spot((board, plane), NEAR, at, [d[1], -d[0]], model).is_some()
    })
}

/// Edge that follows a face which is not known well.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Unsure {
    /// The face where it is known least.
    pub of: Face,
    /// Standard deviation of where that lies, mm.
    pub sd: f64,
    /// How much of the edge is that unsure or nearly, mm.
    pub long: f64,
}

/// How much of a board's edge runs along faces whose standard deviation is over `sd`, mm: looked at in the middle of each
/// bit that is long enough to matter.
pub fn unsure(board: Lying, sd: f64, model: &Model) -> Option<Unsure> {
    /// Shorter bits say no more than their neighbours, mm.
    const LONG: f64 = 60.0;
    let plane = plane(board.pose)?;
    let mut found: Option<Unsure> = None;
    for (a, b) in sides(&board.outline.outer) {
        let long = distance(a, b);
        if long < LONG {
            continue;
        }
        let at = [0, 1].map(|k| f64::midpoint(a[k], b[k]));
        let out = [(b[1] - a[1]) / long, (a[0] - b[0]) / long];
        let Some(spot) = spot((board, plane), NEAR, at, out, model) else {
            continue;
        };
        let p = board.pose.at(at[0], at[1], board.thickness / 2.0);
        let known = match spot.of.side() {
            Some(side) => model.wall(side, p[0], p[2]),
            None => model.front(p[1], p[2]),
        };
        let Some(own) = known.map(|k| k.1).filter(|own| *own > sd) else {
            continue;
        };
        let worst = found.map_or((spot.of, own), |f| {
            if own > f.sd {
                (spot.of, own)
            } else {
                (f.of, f.sd)
            }
        });
        found = Some(Unsure {
            of: worst.0,
            sd: worst.1,
            long: long + found.map_or(0.0, |f| f.long),
        });
    }
    found
}

/// A point of a board's edge, if that runs along a face.
fn spot(
    (board, plane): (Lying, Plane),
    reach: f64,
    at: Point,
    out: Point,
    model: &Model,
) -> Option<Spot> {
    let pose = board.pose;
    let way: [f64; 3] = std::array::from_fn(|i| out[0] * pose.u[i] + out[1] * pose.v[i]);
    let gaps = |of: Face| {
        let each = [0.0, board.thickness].map(|t| {
            let p = pose.at(at[0], at[1], t);
            air(of, p, way, model).map(|g| (g, p))
        });
        let [Some(a), Some(b)] = each else {
            return None;
        };
        Some(Spot {
            of,
            at,
            out,
            gap: a.0.min(b.0),
            seen: [a.0, b.0][plane.seen([a.1, b.1])],
        })
    };
    let of = [
        (Face::Left, way[1] > TURNED),
        (Face::Right, -way[1] > TURNED),
        (Face::Front, way[0] > TURNED && plane == Plane::Level),
    ];
    if behind_thing(board, at, model) {
        return None;
    }
    let near = of.into_iter().filter(|o| o.1).filter_map(|o| gaps(o.0));
    let near = near.filter(|s| s.gap.abs() < reach);
    near.min_by(|a, b| a.gap.abs().total_cmp(&b.gap.abs()))
}

/// The edge runs along a thing that stands before the wall: a wheel well, a post. How it fits there says nothing of the
/// wall.
fn behind_thing(board: Lying, at: Point, model: &Model) -> bool {
    /// So far past the ends of a thing its cut-out reaches, mm.
    const ROUND: f64 = 25.0;
    let ends = [0.0, board.thickness].map(|t| board.pose.at(at[0], at[1], t));
    let (low, high) = (ends[0][2].min(ends[1][2]), ends[0][2].max(ends[1][2]));
    model.things().any(|o| {
        let beside = ends[0][0] > o.x.0 - ROUND && ends[0][0] < o.x.1 + ROUND;
        beside && o.z.0 < high && o.up_to() > low && o.side.sign() * ends[0][1] > 0.0
    })
}

/// From a point to a face of the vehicle, square to an edge that points `way`, mm: straight on from there.
pub fn air(of: Face, p: [f64; 3], way: [f64; 3], model: &Model) -> Option<f64> {
    Some(match of.side() {
        Some(s) => (model.offset(s, p[0], p[2])? - s.sign() * p[1]) * s.sign() * way[1],
        None => (model.reach(p[1], p[2])? - p[0]) * way[0],
    })
}
