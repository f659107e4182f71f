//! Captured curves as bodies with marks.

use super::{ALL, BODIES, Body, Origin, Sight};
use crate::curves::place::Placed;
use crate::geometry::{Point, distance};
use crate::project::templates::{Face, Plane};
use crate::survey::signal::Ridges;

/// Points of one curve are taken no denser than this, mm, and no more of them than `MOST`.
const APART: f64 = 30.0;
const MOST: usize = 48;
/// A point of a curve is never surer than this, mm (a choice).
const SURE: f64 = 0.3;
/// The marks that captured curves make.
pub fn curves(placed: &[(&str, &Placed)]) -> Vec<Body> {
    let counted = placed.iter().filter(|(_, p)| p.counts && p.line.len() >= 2);
    let counted: Vec<_> = counted.take(BODIES).collect();
    let each = (ALL / counted.len().max(1)).clamp(4, MOST);
    let bodies = counted.into_iter().map(|(id, p)| Body {
        origin: Origin::Curve,
        ids: vec![(*id).into()],
        plane: p.plane,
        middle: p.middle,
        sd: [p.sd, p.sd, p.turn],
        sights: sights(id, p, each),
    });
    bodies.collect()
}

fn sights(id: &str, p: &Placed, most: usize) -> Vec<Sight> {
    let mut along = vec![0.0];
    for w in p.line.windows(2) {
        along.push(along[along.len() - 1] + distance(w[0], w[1]));
    }
    let long = along[along.len() - 1];
    // As many points as were read, and no more: their noise says what the readings said together.
    let n = ((long / APART).floor() as usize + 1)
        .min(p.readings.max(2))
        .clamp(2, most);
    let sd = (p.noise * (n as f64 / p.readings.max(1) as f64).sqrt()).max(SURE);
    let point = |s: f64| -> (Point, Point) {
        let i = along.partition_point(|a| *a < s).clamp(1, along.len() - 1);
        let (a, b) = (p.line[i - 1], p.line[i]);
        let step = (along[i] - along[i - 1]).max(1e-9);
        let f = ((s - along[i - 1]) / step).clamp(0.0, 1.0);
        let d = [(b[0] - a[0]) / step, (b[1] - a[1]) / step];
        ([a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1])], d)
    };
    let each = (0..n).map(|i| {
        let (at, d) = point(long * i as f64 / (n - 1) as f64);
        Sight {
            of: id.into(),
            id: i.to_string(),
            face: p.of,
            at,
            plane: p.at,
            out: outwards(p.of, p.plane, [-d[1], d[0]]),
            gap: 0.0,
            sd,
        }
    });
    each.collect()
}

/// The one of two opposite directions that points out of the vehicle.
fn outwards(face: Face, plane: Plane, n: Point) -> Point {
    let across = match plane {
        Plane::Level => n[1],
        Plane::Across => n[0],
    };
    let out = match face {
        Face::Left => across,
        Face::Right => -across,
        Face::Front => n[0],
    };
    if out < 0.0 { [-n[0], -n[1]] } else { n }
}

/// What captured curves say of where walls bend sharply.
pub fn bends(placed: &[(&str, &Placed)], ridges: &mut Ridges) {
    /// So many corners of a curve count: more is noise.
    const CORNERS: usize = 12;
    for (_, p) in placed.iter().filter(|(_, p)| p.counts) {
        ridges.bowed |= p.of == Face::Front;
        let of = p.of.side();
        if of.is_none() {
            continue;
        }
        for c in p.corners.iter().take(CORNERS) {
            match p.plane {
                Plane::Level => ridges.x.push((of, c[0])),
                Plane::Across => ridges.z.push((of, c[1])),
            }
        }
    }
}
