//! Outlines in marks that a tape has: every corner on a grid, the outline nowhere outside the exact one.

use super::region::Region;
use super::{Point, sides, straight};

/// Slack for numbers that are on the grid already, mm.
const SLACK: f64 = 1e-6;
/// A sharp corner may have to come in by more than one step; by no more than this many.
const FURTHEST: i32 = 8;

/// `value` down to a multiple of `step`.
pub fn down(value: f64, step: f64) -> f64 {
    ((value + SLACK) / step).floor() * step
}

/// `value` up to a multiple of `step`.
pub fn up(value: f64, step: f64) -> f64 {
    ((value - SLACK) / step).ceil() * step
}

/// `value` to the nearest multiple of `step`.
pub fn nearest(value: f64, step: f64) -> f64 {
    (value / step).round() * step
}

/// The region marked from a corner of its blank: that corner's place, and the region from there, every corner a
/// multiple of `step` along and across. It lies inside the exact one, within a step of it an axis where its corners
/// are not sharp. `None` where nothing is left, or nothing simple.
pub fn inside(region: &Region, step: f64) -> Option<(Point, Region)> {
    let (x0, y0, ..) = region.bounds();
    if region.is_box() {
        // Most boards: as wide and as high as the marks go.
        let (w, h) = region.size();
        let (w, h) = (down(w, step), down(h, step));
        if w <= 0.0 || h <= 0.0 {
            return None;
        }
        let corner = |p: &Point| {
            let far = [p[0] - x0 > w / 2.0, p[1] - y0 > h / 2.0];
            [if far[0] { w } else { 0.0 }, if far[1] { h } else { 0.0 }]
        };
        let outer = region.outer.iter().map(corner).collect();
        return Some((
            [x0, y0],
            Region {
                outer,
                holes: vec![],
            },
        ));
    }
    // The corner may lie anywhere within a step: where most of the board is left, and edges that are level within
    // less than a step become level.
    let mut best = Fit::at(region, [x0, y0], step, None);
    for axis in [0, 1] {
        let low = [x0, y0][axis];
        let corners = region.outer.iter().map(|p| p[axis] - low);
        let mut shifts: Vec<f64> = corners.map(|d| d - down(d, step)).collect();
        shifts.sort_by(f64::total_cmp);
        shifts.dedup_by(|a, b| (*a - *b).abs() < 1e-3);
        for shift in shifts {
            let mut from = best.as_ref().map_or([x0, y0], |b| b.from);
            from[axis] = low + shift;
            let least = best.as_ref().map(|b| b.worth + 1e-6);
            best = Fit::at(region, from, step, least).or(best);
        }
    }
    let Fit { from, region, .. } = best?;
    let (dx, dy, ..) = region.bounds();
    Some(([from[0] + dx, from[1] + dy], region.moved(-dx, -dy)))
}

/// A region on the grid that begins at `from`.
struct Fit {
    from: Point,
    region: Region,
    worth: f64,
}

impl Fit {
    /// `None` where nothing simple comes out, or nothing worth more than `least`.
    fn at(region: &Region, from: Point, step: f64, least: Option<f64>) -> Option<Fit> {
        let ring = |points: &Vec<Point>| -> Option<Vec<Point>> {
            let local = |p: Point| [p[0] - from[0], p[1] - from[1]];
            let before = points.last().into_iter().chain(points);
            let mut out: Vec<Point> = before
                .zip(sides(points))
                .map(|(a, (p, b))| snap(local(*a), local(p), local(b), step))
                .collect::<Option<_>>()?;
            out.dedup();
            while out.len() > 1 && out.first() == out.last() {
                out.pop();
            }
            Some(straight(out))
        };
        let marked = Region {
            outer: ring(&region.outer)?,
            holes: region.holes.iter().map(ring).collect::<Option<_>>()?,
        };
        // An edge that leans by one mark is worth marking level, at the cost of one mark along it.
        let leaning: f64 = sides(&marked.outer)
            .map(|(a, b)| {
                let (dx, dy) = ((a[0] - b[0]).abs(), (a[1] - b[1]).abs());
                let least = dx.min(dy);
                if least > SLACK && least < 1.5 * step {
                    dx.max(dy) * step
                } else {
                    0.0
                }
            })
            .sum();
        let worth = marked.area() - leaning;
        // Whether it is simple takes longest to find out.
        if least.is_some_and(|least| worth <= least) {
            return None;
        }
        marked.check("").ok()?;
        Some(Fit {
            from,
            worth,
            region: marked,
        })
    }
}

/// The point of the grid nearest to the corner `p` that lies to the left of both its edges.
fn snap(a: Point, p: Point, b: Point, step: f64) -> Option<Point> {
    let along = |from: Point, to: Point| {
        let (dx, dy) = (to[0] - from[0], to[1] - from[1]);
        let length = dx.hypot(dy).max(1e-9);
        (from, [dx / length, dy / length])
    };
    let (before, after) = (along(a, p), along(p, b));
    let left = |(from, [dx, dy]): (Point, Point), q: Point| {
        dx * (q[1] - from[1]) - dy * (q[0] - from[0]) > -SLACK
    };
    let base = [(p[0] / step).round(), (p[1] / step).round()];
    let mut best: Option<(f64, Point)> = None;
    for reach in 1..=FURTHEST {
        for i in -reach..=reach {
            for j in -reach..=reach {
                let q = [
                    (base[0] + f64::from(i)) * step,
                    (base[1] + f64::from(j)) * step,
                ];
                if !(left(before, q) && left(after, q)) {
                    continue;
                }
                // Within one step an axis first, then by distance.
                let (dx, dy) = ((q[0] - p[0]).abs(), (q[1] - p[1]).abs());
                let far = if dx.max(dy) > step + SLACK { 1e6 } else { 0.0 };
                let cost = far + (dx * dx + dy * dy).sqrt();
                if best.is_none_or(|(least, _)| cost < least - 1e-9) {
                    best = Some((cost, q));
                }
            }
        }
        if best.is_some_and(|(cost, _)| cost < 1e6) {
            break;
        }
    }
    best.map(|(_, q)| q)
}
