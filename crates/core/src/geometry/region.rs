//! A region of the plane: one outline, counter-clockwise, and holes, clockwise.

use geo::orient::Direction;
use geo::{Area, BooleanOps, LineString, MultiPolygon, Orient, Polygon, Simplify, Validation};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Point, beside, coord, distance, less, more, sides};
use crate::input::{MAX_LENGTH, count, within};
use crate::problem::Problem;

/// Two vertices closer than this are one, mm: far below any saw, far above the grid of the booleans.
pub const SAME: f64 = 1e-3;
/// A vertex this close to the line between its neighbours is no corner, mm.
pub const STRAIGHT: f64 = 2e-4;

/// A region: `outer` counter-clockwise and not closed, `holes` clockwise. Millimetres.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Region {
    /// The outline.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub outer: Vec<Point>,
    /// The holes.
    #[serde(default)]
    #[schema(value_type = Vec<Vec<Vec<f64>>>)]
    pub holes: Vec<Vec<Point>>,
}

/// The rectangle round something: least `x` and `y`, greatest `x` and `y`.
pub type Bounds = (f64, f64, f64, f64);

/// The rectangle round points.
fn bounds(points: &[Point]) -> Bounds {
    let far = f64::INFINITY;
    let wider = |(x0, y0, x1, y1): Bounds, [x, y]: &Point| {
        (less(*x, x0), less(*y, y0), more(*x, x1), more(*y, y1))
    };
    match points.is_empty() {
        true => (0.0, 0.0, 0.0, 0.0),
        false => points.iter().fold((far, far, -far, -far), wider),
    }
}

/// Area within a ring, mm2 (shoelace formula).
fn ring_area(ring: &[Point]) -> f64 {
    // About its first corner: far from the origin nothing is lost.
    let Some(o) = ring.first() else { return 0.0 };
    let twice =
        sides(ring).map(|(a, b)| (a[0] - o[0]) * (b[1] - o[1]) - (b[0] - o[0]) * (a[1] - o[1]));
    (twice.sum::<f64>() / 2.0).abs()
}

impl Region {
    /// The rectangle from `(x0, y0)` to `(x1, y1)`.
    pub fn rectangle(x0: f64, y0: f64, x1: f64, y1: f64) -> Self {
        Region {
            outer: vec![[x0, y0], [x1, y0], [x1, y1], [x0, y1]],
            holes: vec![],
        }
    }

    /// Checks numbers, sizes and shape; `pointer` is where the region stands in the input.
    ///
    /// # Errors
    /// Names the ring or coordinate: not finite, out of range, fewer than three corners, no area,
    /// an outline that crosses itself, a hole outside.
    pub fn check(&self, pointer: &str) -> Result<(), Problem> {
        for (ring, at) in self.rings(pointer) {
            count(ring.len(), &at, 3, 20_000)?;
            for (i, p) in ring.iter().enumerate() {
                // The pointer is written only where it is needed: outlines are checked again and again.
                // The pointer is written only where it is needed: outlines are checked again and again.
                let good = |v: &f64| v.is_finite() && v.abs() <= MAX_LENGTH;
                if let Some(axis) = p.iter().position(|v| !good(v)) {
                    within(
                        p[axis],
                        &format!("{at}/{i}/{axis}"),
                        -MAX_LENGTH,
                        MAX_LENGTH,
                    )?;
                }
            }
        }
        count(self.holes.len(), &format!("{pointer}/holes"), 0, 500)?;
        let polygon = self.polygon();
        if polygon.unsigned_area() < 1e-6 {
            return Err(Problem::impossible(
                format!("{pointer}/outer"),
                "This outline has no area.",
            ));
        }
        polygon.check_validation().map_err(|e| {
            Problem::impossible(
                format!("{pointer}/outer"),
                format!("This outline crosses itself or its holes: {e}."),
            )
        })
    }

    fn rings(&self, pointer: &str) -> Vec<(&[Point], String)> {
        let mut rings = vec![(self.outer.as_slice(), format!("{pointer}/outer"))];
        for (i, hole) in self.holes.iter().enumerate() {
            rings.push((hole.as_slice(), format!("{pointer}/holes/{i}")));
        }
        rings
    }

    /// As a geo polygon, oriented.
    pub fn polygon(&self) -> Polygon<f64> {
        let ring = |points: &[Point]| LineString::new(points.iter().map(|p| coord(*p)).collect());
        Polygon::new(
            ring(&self.outer),
            self.holes.iter().map(|h| ring(h)).collect(),
        )
        .orient(Direction::Default)
    }

    /// From a geo polygon, without doubled and needless vertices; `None` if nothing is left.
    pub fn from_polygon(polygon: &Polygon<f64>) -> Option<Self> {
        let polygon = polygon.orient(Direction::Default);
        let outer = clean(polygon.exterior());
        if outer.len() < 3 {
            return None;
        }
        let holes = polygon.interiors().iter().map(clean);
        Some(Region {
            outer,
            holes: holes.filter(|h| h.len() >= 3).collect(),
        })
    }

    /// The same with as few vertices as leave its outline by at most `near` mm (Ramer, Douglas and
    /// Peucker).
    pub fn simplified(&self, near: f64) -> Region {
        Region::from_polygon(&self.polygon().simplify(near)).unwrap_or_else(|| self.clone())
    }

    /// Area, mm2.
    pub fn area(&self) -> f64 {
        let holes: f64 = self.holes.iter().map(|h| ring_area(h)).sum();
        ring_area(&self.outer) - holes
    }

    /// Area of what its outline holds, holes and all, mm2.
    pub fn filled(&self) -> f64 {
        ring_area(&self.outer)
    }

    /// With its lowest edge moved down to `z`, if that is lower.
    #[must_use]
    pub fn stretched_down(&self, z: f64) -> Region {
        let lowest = self.bounds().1;
        let outer = self.outer.iter().map(|p| {
            let low = z < lowest && p[1] <= lowest + 0.5;
            [p[0], if low { z } else { p[1] }]
        });
        Region {
            outer: outer.collect(),
            holes: self.holes.clone(),
        }
    }

    /// The rectangle round it.
    pub fn bounds(&self) -> Bounds {
        bounds(&self.outer)
    }

    /// The rectangles round its rings, the outline's first.
    pub fn rectangles(&self) -> Vec<Bounds> {
        self.every().map(|ring| bounds(ring)).collect()
    }

    /// All its rings, the outline first.
    pub fn every(&self) -> impl Iterator<Item = &Vec<Point>> + '_ {
        std::iter::once(&self.outer).chain(&self.holes)
    }

    /// Width and height of the bounding box.
    pub fn size(&self) -> (f64, f64) {
        let (x0, y0, x1, y1) = self.bounds();
        (x1 - x0, y1 - y0)
    }

    /// A rectangle along the axes lies in it whole: no edge runs through the rectangle, and its middle lies in the region.
    pub fn holds_box(&self, (x0, y0, x1, y1): (f64, f64, f64, f64)) -> bool {
        /// What only touches does not run through, mm.
        const TOUCH: f64 = 1e-3;
        let low = [x0 + TOUCH, y0 + TOUCH];
        let high = [x1 - TOUCH, y1 - TOUCH];
        let through = |a: Point, b: Point| {
            // The stretch of the edge that lies within, as shares of it (Liang and Barsky).
            let (mut from, mut to) = (0.0_f64, 1.0_f64);
            for k in 0..2 {
                let d = b[k] - a[k];
                if d == 0.0 {
                    if a[k] < low[k] || a[k] > high[k] {
                        return false;
                    }
                    continue;
                }
                let ends = [(low[k] - a[k]) / d, (high[k] - a[k]) / d];
                from = from.max(ends[0].min(ends[1]));
                to = to.min(ends[0].max(ends[1]));
            }
            from < to
        };
        let mut edges = self.every().flat_map(|ring| sides(ring));
        let crossed = edges.any(|(a, b)| through(a, b));
        let middle = [f64::midpoint(x0, x1), f64::midpoint(y0, y1)];
        let stretches = self.line(middle[0]);
        !crossed && stretches.iter().any(|s| s.0 < middle[1] && middle[1] < s.1)
    }

    /// It is a rectangle along the axes, with nothing taken out of it.
    pub fn is_box(&self) -> bool {
        let (x0, y0, x1, y1) = self.bounds();
        let corner = |p: &Point| {
            let on = |v: f64, a: f64, b: f64| (v - a).abs() < 1e-9 || (v - b).abs() < 1e-9;
            on(p[0], x0, x1) && on(p[1], y0, y1)
        };
        self.outer.len() == 4
            && self.holes.is_empty()
            && self.outer.iter().all(corner)
            && self.area() > 0.5 * (x1 - x0) * (y1 - y0)
    }

    /// Moved by `(dx, dy)`.
    #[must_use]
    pub fn moved(&self, dx: f64, dy: f64) -> Self {
        self.map(|[x, y]| [x + dx, y + dy])
    }

    /// Every vertex through `f`, which must not turn the plane over.
    #[must_use]
    pub fn map(&self, f: impl Fn(Point) -> Point) -> Self {
        Region {
            outer: self.outer.iter().map(|p| f(*p)).collect(),
            holes: self
                .holes
                .iter()
                .map(|h| h.iter().map(|p| f(*p)).collect())
                .collect(),
        }
    }

    /// The stretches of the line at `x` across the plane that lie in the region, from the least to the greatest; a line along an
    /// edge counts with what lies beyond it.
    pub fn line(&self, x: f64) -> Vec<(f64, f64)> {
        self.crossed(0, x)
    }

    /// The same of the line along the plane at `y`.
    pub fn level(&self, y: f64) -> Vec<(f64, f64)> {
        self.crossed(1, y)
    }

    /// The stretches, along the other axis, of the line on which the coordinate `axis` is `at`.
    fn crossed(&self, axis: usize, at: f64) -> Vec<(f64, f64)> {
        let (k, o) = (axis, 1 - axis);
        let edges = self.every().flat_map(|ring| sides(ring));
        let crossing = edges.filter(|(a, b)| (a[k] <= at) != (b[k] <= at));
        let mut ends: Vec<f64> = crossing
            .map(|(a, b)| a[o] + (b[o] - a[o]) * (at - a[k]) / (b[k] - a[k]))
            .collect();
        ends.sort_by(f64::total_cmp);
        ends.chunks_exact(2).map(|c| (c[0], c[1])).collect()
    }

    /// The parts of this region not in `others`.
    pub fn minus(&self, others: &[Region]) -> Vec<Region> {
        regions(&subtract(&self.polygon().into(), others))
    }

    /// The parts of this region also in `other`.
    pub fn and(&self, other: &Region) -> Vec<Region> {
        regions(&self.polygon().intersection(&other.polygon()))
    }
}

/// `from` less all of `others`.
fn subtract(from: &MultiPolygon<f64>, others: &[Region]) -> MultiPolygon<f64> {
    if others.is_empty() {
        return from.clone();
    }
    let polygons: Vec<_> = others.iter().map(Region::polygon).collect();
    from.difference(&geo::unary_union(&polygons))
}

/// The cleaned regions of a multipolygon, largest first, ties from the lower left.
fn regions(multi: &MultiPolygon<f64>) -> Vec<Region> {
    let mut all: Vec<_> = multi.iter().filter_map(Region::from_polygon).collect();
    all.sort_by(|a, b| {
        let (ba, bb) = (a.bounds(), b.bounds());
        b.area()
            .total_cmp(&a.area())
            .then(ba.0.total_cmp(&bb.0))
            .then(ba.1.total_cmp(&bb.1))
    });
    all
}

fn clean(ring: &LineString<f64>) -> Vec<Point> {
    let mut points: Vec<Point> = Vec::new();
    for c in ring.coords() {
        let p = [c.x, c.y];
        if points.last().is_none_or(|q| distance(*q, p) > SAME) {
            points.push(p);
        }
    }
    while points.len() > 1 && distance(points[0], points[points.len() - 1]) <= SAME {
        points.pop();
    }
    // Drop vertices on the straight line between their neighbours.
    let mut i = 0;
    while points.len() > 3 && i < points.len() {
        let (before, after) = beside(i, points.len());
        let (a, p, b) = (points[before], points[i], points[after]);
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        let length = dx.hypot(dy);
        let off = ((p[0] - a[0]) * dy - (p[1] - a[1]) * dx).abs();
        if length > SAME && off / length < STRAIGHT {
            points.remove(i);
        } else {
            i += 1;
        }
    }
    points
}
