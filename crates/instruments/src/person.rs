//! What a person sees in a vehicle before measuring: which things are in the way and of what form,
//! and where walls bend. It looks at the vehicle as a person does, with a straight edge in hand: a
//! crease is a place where the straight edge rocks; a gentle curve is none.

use jigfit_core::geometry::Point;
use jigfit_core::project::survey::{Ends, Form, Level, Side, Station, Thing, ThingKind};
use jigfit_core::survey::obstacle::{Edge, outline};

use crate::vehicle::{Body, Section, Vehicle};

/// Sharper bends are creases whatever is beside them, degrees.
const SHARP: f64 = 12.0;
/// The same upwards: the strakes of a hull.
const STRAKE: f64 = 4.0;
/// The least bend a person sees with a straight edge, degrees.
const SEEN: f64 = 1.2;
/// and the least gap under the straight edge, mm.
const GAP: f64 = 0.8;
/// A bend is part of a curve when one within this distance is about as sharp, mm.
const BESIDE: f64 = 380.0;
/// A mark this near to a wall is on it, mm, and one where it bends by this is a crease, degrees.
const ON_WALL: f64 = 25.0;
const MARKED: f64 = 0.5;
/// Creases are looked for up to this height unless something is wanted higher, mm.
pub const UP_TO: f64 = 480.0;

/// Things in the way, by identifier.
pub fn things(v: &Vehicle) -> Vec<(String, Thing)> {
    let each = v.obstacles.iter().enumerate();
    each.map(|(i, b)| (format!("t{i}"), thing(v, b))).collect()
}

fn thing(v: &Vehicle, b: &Body) -> Thing {
    let foot = &b.sections[0];
    let y = foot.outline.iter().map(|p| p[1]).sum::<f64>() / foot.outline.len() as f64;
    let side = if y >= 0.0 { Side::Left } else { Side::Right };
    let outer = foot.outline.iter().map(|p| p[1] * side.sign());
    let outer = outer.fold(f64::NEG_INFINITY, f64::max);
    let x = foot.outline.iter().map(|p| p[0]).sum::<f64>() / foot.outline.len() as f64;
    let wall = v.wall(side, x, foot.z).unwrap_or(f64::INFINITY);
    let upright = b.sections.iter().all(|s| {
        let moved = s.outline.iter().zip(&foot.outline);
        moved
            .clone()
            .all(|(p, q)| (p[0] - q[0]).abs() < 1.0 && (p[1] - q[1]).abs() < 1.0)
    });
    let form = match (outer < wall - 15.0, upright) {
        (true, _) => Form::Free,
        (false, true) => Form::Box,
        (false, false) => Form::Sloped,
    };
    Thing {
        kind: match b.kind.as_str() {
            "wheel_well" => ThingKind::WheelWell,
            "post" => ThingKind::Post,
            "bolt" => ThingKind::Bolt,
            "hump" => ThingKind::Hump,
            "pipe" => ThingKind::Pipe,
            _ => ThingKind::Other,
        },
        side,
        name: b.name.clone(),
        form,
        ends: ends(b, side),
        heights: if form == Form::Sloped {
            let inner = b.sections.len().saturating_sub(1).max(1);
            b.sections[1..inner].iter().map(|s| s.z).collect()
        } else {
            vec![]
        },
        clearance: 0.0,
        sweep: 0.0,
        slope: 0.0,
        cover: Default::default(),
    }
}

/// The plan of a thing as a person measures it.
#[derive(Debug, Clone, Copy)]
pub struct Corners {
    /// Its ends along the bay.
    pub along: (f64, f64),
    /// Where its inner face begins and ends.
    pub inner: (f64, f64),
    /// The inner face, where the ends begin to run in, the outermost: from the centre line.
    pub out: [f64; 3],
}

impl Corners {
    /// Of an outline at that side.
    pub fn of(ring: &[Point], side: Side) -> Corners {
        /// What is this near to a face is on it, mm.
        const ON: f64 = 1.0;
        let out = |p: &Point| p[1] * side.sign();
        let range = |all: &mut dyn Iterator<Item = f64>| {
            all.fold((f64::INFINITY, f64::NEG_INFINITY), |r, v| {
                (r.0.min(v), r.1.max(v))
            })
        };
        let along = range(&mut ring.iter().map(|p| p[0]));
        let across = range(&mut ring.iter().map(out));
        let on_face = ring.iter().filter(|p| out(p) < across.0 + ON);
        let inner = range(&mut on_face.map(|p| p[0]));
        let at_ends = ring
            .iter()
            .filter(|p| p[0] < along.0 + ON || p[0] > along.1 - ON);
        let (shoulder, _) = range(&mut at_ends.map(out));
        Corners {
            along,
            inner,
            out: [across.0, shoulder, across.1],
        }
    }

    fn outline(&self, ends: Ends, side: Side) -> Vec<Point> {
        let along = [self.along.0, self.inner.0, self.inner.1, self.along.1];
        outline(ends, side, along, self.out)
    }
}

/// How the ends of a thing run into its inner face: what a person calls square, cut off or rounded.
fn ends(b: &Body, side: Side) -> Ends {
    /// Less is not seen as a bevel, mm.
    const SEEN: f64 = 15.0;
    /// It may stand out of the form that it is called by so much, mm.
    const NEAR: f64 = 2.0;
    let is = |ends: Ends| {
        b.sections.iter().all(|s| {
            let c = Corners::of(&s.outline, side);
            let cut = c.inner.0 - c.along.0 + c.along.1 - c.inner.1;
            let form = c.outline(ends, side);
            let inside = |p: &Point| {
                (0..form.len()).all(|i| {
                    let (from, to) = (form[i], form[(i + 1) % form.len()]);
                    Edge { from, to }.outside(*p) < NEAR
                })
            };
            cut > SEEN && c.out[1] - c.out[0] > SEEN && s.outline.iter().all(inside)
        })
    };
    let named = [Ends::Bevelled, Ends::Rounded];
    named.into_iter().find(|e| is(*e)).unwrap_or_default()
}

/// Creases across the bay, per side, as stations.
pub fn stations(v: &Vehicle, up_to: f64) -> Vec<Station> {
    let mut out: Vec<Station> = Vec::new();
    let heights: Vec<f64> = v
        .sections
        .iter()
        .map(|s| s.z)
        .filter(|z| *z <= up_to)
        .collect();
    for z in heights {
        let ring = v.outline(z).outer;
        let length = ring.iter().map(|p| p[0]).fold(0.0, f64::max);
        for side in Side::BOTH {
            let chain = chain(&ring, side);
            let mut seen = creases(&chain, SHARP);
            seen.extend(marked(v, side, &chain));
            for x in seen {
                let near = |s: &Station| s.side == Some(side) && (s.x - x).abs() < 25.0;
                if x > 30.0 && x < length - 40.0 && !out.iter().any(near) {
                    out.push(Station {
                        x: x.round(),
                        side: Some(side),
                        ridge: true,
                    });
                }
            }
        }
    }
    out
}

/// Where the vehicle itself has a mark on a wall, and the wall bends there at all.
fn marked(v: &Vehicle, side: Side, chain: &[Point]) -> Vec<f64> {
    let on_wall = |at: &[f64; 3]| {
        let y = at[1] * side.sign();
        v.wall(side, at[0], at[2])
            .is_some_and(|wall| (wall - y).abs() < ON_WALL)
    };
    let bends = |x: f64| bends(chain).any(|(at, deg, _)| (at - x).abs() < ON_WALL && deg > MARKED);
    let marks = v.marks.iter().map(|m| &m.at);
    marks
        .filter(|at| on_wall(at) && bends(at[0]))
        .map(|at| at[0])
        .collect()
}

/// Creases along the walls, as levels.
pub fn levels(v: &Vehicle, up_to: f64) -> Vec<Level> {
    let list = &v.sections;
    let mut found: Vec<f64> = Vec::new();
    for corner in 0..list[0].outline.len() {
        let line: Vec<Point> = list
            .iter()
            .map(|s: &Section| {
                let p = s.outline[corner];
                [s.z, p[1]]
            })
            .collect();
        for z in creases(&line, STRAKE) {
            if z > 30.0 && z < up_to && !found.iter().any(|f| (f - z).abs() < 20.0) {
                found.push(z);
            }
        }
    }
    found
        .into_iter()
        .map(|z| Level {
            z,
            name: format!("crease {z:.0} up"),
            side: None,
            ridge: true,
        })
        .collect()
}

/// The outline's own points on one side, from the threshold forward.
fn chain(ring: &[Point], side: Side) -> Vec<Point> {
    let mut own: Vec<Point> = ring
        .iter()
        .copied()
        .filter(|p| p[1] * side.sign() > 1.0)
        .collect();
    // On the left the outline runs back towards the threshold.
    own.sort_by(|a, b| a[0].total_cmp(&b[0]));
    own.iter_mut().for_each(|p| p[1] *= side.sign());
    own
}

/// The bends of a chain of points: where, by how many degrees, and the gap under a straight edge, mm.
fn bends(line: &[Point]) -> impl Iterator<Item = (f64, f64, f64)> {
    let slope = |p: Point, q: Point| ((q[1] - p[1]) / (q[0] - p[0])).atan();
    line.windows(3).filter_map(move |w| {
        let (a, b) = (w[1][0] - w[0][0], w[2][0] - w[1][0]);
        if a < 1.0 || b < 1.0 {
            return None;
        }
        let bend = (slope(w[1], w[2]) - slope(w[0], w[1])).abs();
        Some((w[1][0], bend.to_degrees(), bend * a.min(b).min(800.0) / 8.0))
    })
}

/// Where a chain of points bends so that a person sees a crease.
fn creases(line: &[Point], sharp: f64) -> Vec<f64> {
    let bends: Vec<(f64, f64, f64)> = bends(line).collect();
    // A bend with one like it close by is part of a curve.
    let curve = |i: usize| {
        bends.iter().enumerate().any(|(j, b)| {
            let near = j != i && (b.0 - bends[i].0).abs() < BESIDE;
            near && b.1 > 0.4 * bends[i].1 && b.1 < 2.5 * bends[i].1
        })
    };
    (0..bends.len())
        .filter(|i| {
            let (_, bend, gap) = bends[*i];
            bend > sharp || (bend > SEEN && gap > GAP && !curve(*i))
        })
        .map(|i| bends[i].0)
        .collect()
}
