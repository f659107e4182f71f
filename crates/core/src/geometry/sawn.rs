//! Shapes that can be sawn: horns and steps smaller than a saw or an eye can follow are taken off.

use super::labelled::{Label, Labelled};
use super::region::Region;
use super::{Point, beside, distance, distance_to_segment, sides, straight};

/// No edge along is shorter than this, mm: a jigsaw's blade is about as wide.
pub const ALONG: f64 = 8.0;
/// No step is lower than this, mm: a pencil's line.
pub const ACROSS: f64 = 1.0;
/// Most features taken off one shape.
const MOST: usize = 64;

/// The shape without steps and strips lower than `ACROSS` and horns narrower than `ALONG`, however far they stand out.
/// It only ever loses material.
pub fn sawable(region: &Region) -> Region {
    let mut ring = region.outer.clone();
    for _ in 0..MOST {
        let n = ring.len();
        if n <= 4 {
            break;
        }
        let treads = (0..n).flat_map(|i| [tread(&ring, i, true), tread(&ring, i, false)]);
        let spikes = (0..n).map(|i| spike(&ring, i));
        // What loses least comes first: a strip that stands out goes before the long edge that it is level with.
        let mut next: Vec<(f64, Vec<Point>)> = treads
            .chain(spikes)
            .flatten()
            .map(|r| (area(&r), r))
            .collect();
        next.sort_by(|a, b| b.0.total_cmp(&a.0));
        let kinks = (0..n).filter_map(|i| kink(&ring, i));
        let mut next = next.into_iter().map(|n| n.1).chain(kinks);
        let Some(lower) = next.find(|r| simple(r)) else {
            break;
        };
        ring = straight(lower);
    }
    let out = Region {
        outer: ring,
        holes: region.holes.clone(),
    };
    // What the holes left of it stays.
    if out.holes.is_empty() || out.outer == region.outer {
        return out;
    }
    let plain = |r: &Region| Labelled::new(r, Label::default());
    let both = plain(region).and(&plain(&out));
    both.first()
        .map_or_else(|| region.clone(), Labelled::region)
}

/// Of what a ring goes round, either way.
fn area(ring: &[Point]) -> f64 {
    let twice: f64 = sides(ring).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum();
    twice.abs() / 2.0
}

/// Positive where the outline turns left at `b`: a corner of the material.
fn turn(a: Point, b: Point, c: Point) -> f64 {
    (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
}

/// At the riser from corner `i` to the next: the ring with the tread behind its outer corner moved in to its inner
/// one, if the riser is low or the tread narrow.
fn tread(ring: &[Point], i: usize, forward: bool) -> Option<Vec<Point>> {
    let n = ring.len();
    // A triangle has no step.
    if n < 4 {
        return None;
    }
    let at = |k: usize| {
        // Going round the other way is the same shape in a mirror.
        let j = if forward { i + k } else { i + n - k };
        ring[if j < n { j } else { j - n }]
    };
    let hand = if forward { 1.0 } else { -1.0 };
    // In, inner corner, outer corner, end of the tread, and what comes then.
    let (before, inner, outer, end, then) = (at(n - 1), at(0), at(1), at(2), at(3));
    let riser = distance(inner, outer);
    let along = distance(outer, end);
    let small = riser < ACROSS || along < ALONG;
    // A step turns a corner: an edge that is hardly bent there is none.
    let bends = turn(before, inner, outer) / (distance(before, inner) * riser).max(1e-12);
    let concave = hand * bends < -0.2;
    let convex = hand * turn(inner, outer, end) > 1e-9 && hand * turn(outer, end, then) > 1e-9;
    if !small || !concave || !convex || along < 1e-6 {
        return None;
    }
    // Through the inner corner, along the tread, to the edge after it.
    let d = [end[0] - outer[0], end[1] - outer[1]];
    let e = [then[0] - end[0], then[1] - end[1]];
    let cross = d[0] * e[1] - d[1] * e[0];
    if cross.abs() < 1e-9 {
        return None;
    }
    let s = ((inner[0] - end[0]) * d[1] - (inner[1] - end[1]) * d[0]) / (e[0] * d[1] - e[1] * d[0]);
    // It has to meet that edge, not run past it.
    if !(0.0..=1.0).contains(&s) {
        return None;
    }
    let meet = [end[0] + s * e[0], end[1] + s * e[1]];
    let mut out = vec![meet];
    out.extend((3..=n).map(at));
    // Corner 0 came again as n: the inner one, from which the new edge runs.
    if !forward {
        out.reverse();
    }
    out.dedup_by(|a, b| distance(*a, *b) < 1e-6);
    Some(out)
}

/// Without corner `i`, if an edge there is short, the corner points out of the material and hardly does so.
fn kink(ring: &[Point], i: usize) -> Option<Vec<Point>> {
    let (before, after) = beside(i, ring.len());
    let (a, p, b) = (ring[before], ring[i], ring[after]);
    let short = distance(a, p).min(distance(p, b)) < ALONG;
    // Nearly straight on: the corner of a low step is none, however near it lies to the line past it.
    let (d, e) = ([p[0] - a[0], p[1] - a[1]], [b[0] - p[0], b[1] - p[1]]);
    let on = d[0] * e[0] + d[1] * e[1] > 0.3 * distance(a, p) * distance(p, b);
    let hardly = on && distance_to_segment(p, a, b) < ACROSS;
    if !short || !hardly || turn(a, p, b) <= 0.0 {
        return None;
    }
    let mut out = ring.to_vec();
    out.remove(i);
    Some(out)
}

/// Without the strip that ends in corner `i`, if it is lower than a step all along: what is left over a well that ends right below an edge.
fn spike(ring: &[Point], i: usize) -> Option<Vec<Point>> {
    let n = ring.len();
    let (a, p, b) = (ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]);
    // From its root, which is nearer, square to the edge that goes on.
    let (root, far, below) = if distance(a, p) <= distance(p, b) {
        (a, b, ring[(i + n - 2) % n])
    } else {
        (b, a, ring[(i + 2) % n])
    };
    let (d, e) = (
        [far[0] - p[0], far[1] - p[1]],
        [root[0] - p[0], root[1] - p[1]],
    );
    let dot = d[0] * e[0] + d[1] * e[1];
    if turn(a, p, b) <= 0.0 || dot <= 0.0 || distance_to_segment(root, p, far) >= ACROSS {
        return None;
    }
    let foot = dot / (d[0] * d[0] + d[1] * d[1]);
    // Or straight on from the edge below the root, where that ends further in: no corner is left there.
    let f = [root[0] - below[0], root[1] - below[1]];
    let cross = |u: Point, v: Point| u[0] * v[1] - u[1] * v[0];
    let on = cross(e, f) / cross(d, f);
    let s = if on > foot && on < 1.0 { on } else { foot };
    let mut out = ring.to_vec();
    out[i] = [p[0] + s * d[0], p[1] + s * d[1]];
    Some(out)
}

fn simple(ring: &[Point]) -> bool {
    let region = Region {
        outer: ring.to_vec(),
        holes: vec![],
    };
    ring.len() >= 3 && region.check("").is_ok()
}
