//! A thin layer over `geo`: regions with holes, insets with a clearance for each edge, splits.
//! Booleans are geo's; nothing here decides anything about furniture.

pub mod arcs;
pub mod grid;
pub mod inset;
pub mod labelled;
pub mod least;
pub mod parallel;
pub mod pass;
pub mod pose;
pub mod region;
pub mod relief;
pub mod sawn;
pub mod split;
pub mod tips;

use geo::Coord;

/// A point in the plane, mm.
pub type Point = [f64; 2];

/// The sides of a ring, each from its corner to the next, the last back to the first.
pub fn sides<T: Copy>(ring: &[T]) -> impl Iterator<Item = (T, T)> + Clone + '_ {
    let close = ring.last().copied().zip(ring.first().copied());
    ring.windows(2).map(|w| (w[0], w[1])).chain(close)
}

/// The places before and after `i` in a ring of `n`: what is left of a division takes longer than anything else there.
pub(crate) fn beside(i: usize, n: usize) -> (usize, usize) {
    let before = if i == 0 { n } else { i } - 1;
    (before, if i + 1 < n { i + 1 } else { 0 })
}

/// The lesser and the greater of two numbers. Written out each is one instruction; `min` and `max` also ask for what is no number.
pub(crate) fn less(a: f64, b: f64) -> f64 {
    if a < b { a } else { b }
}

/// See `less`.
pub(crate) fn more(a: f64, b: f64) -> f64 {
    if a > b { a } else { b }
}

/// Distance between two points.
pub fn distance(a: Point, b: Point) -> f64 {
    (a[0] - b[0]).hypot(a[1] - b[1])
}

/// Distance from `p` to the segment `a`-`b`.
pub fn distance_to_segment(p: Point, a: Point, b: Point) -> f64 {
    let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
    let len2 = dx * dx + dy * dy;
    if len2 == 0.0 {
        return distance(p, a);
    }
    let t = (((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / len2).clamp(0.0, 1.0);
    distance(p, [a[0] + t * dx, a[1] + t * dy])
}

/// The value at `x` on a polyline given as ascending `(x, y)` pairs, linear between, held at the ends.
pub fn interpolate(points: &[(f64, f64)], x: f64) -> Option<f64> {
    let (first, last) = (points.first()?, points.last()?);
    if x <= first.0 {
        return Some(first.1);
    }
    if x >= last.0 {
        return Some(last.1);
    }
    points.windows(2).find_map(|w| {
        let ((x0, y0), (x1, y1)) = (w[0], w[1]);
        (x >= x0 && x <= x1 && x1 > x0).then(|| y0 + (y1 - y0) * (x - x0) / (x1 - x0))
    })
}

/// Without corners on a straight line.
pub(crate) fn straight(mut ring: Vec<Point>) -> Vec<Point> {
    let mut i = 0;
    while ring.len() > 3 && i < ring.len() {
        let (before, after) = beside(i, ring.len());
        let (a, p, b) = (ring[before], ring[i], ring[after]);
        let cross = (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
        if cross.abs() < 1e-6 {
            ring.remove(i);
            i = i.saturating_sub(1);
        } else {
            i += 1;
        }
    }
    ring
}

pub(crate) fn coord(p: Point) -> Coord<f64> {
    Coord { x: p[0], y: p[1] }
}
