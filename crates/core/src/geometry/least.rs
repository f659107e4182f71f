//! The least rectangle round a shape, in the shape's own direction.

use geo::{LineString, MinimumRotatedRect};

use super::Point;

/// The points turned, not mirrored, and moved so that the least rectangle round them lies from 0,0 with its longer side along the
/// first axis; and the size of that rectangle, mm. `None` of fewer than three points or of points in one line.
pub fn laid(points: &[Point]) -> Option<(Vec<Point>, (f64, f64))> {
    let line: LineString = points.iter().map(|p| (p[0], p[1])).collect();
    let rectangle = line.minimum_rotated_rect()?;
    let corners: Vec<_> = rectangle.exterior().coords().collect();
    let [a, b, c] = [0, 1, 2].map(|i| corners.get(i).copied());
    let side = |p: &geo::Coord, q: &geo::Coord| [q.x - p.x, q.y - p.y];
    let (first, second) = (side(a?, b?), side(b?, c?));
    let [l, m] = [first, second].map(|s| s[0].hypot(s[1]));
    let (along, long) = if l >= m { (first, l) } else { (second, m) };
    if l.min(m) <= 0.0 {
        return None;
    }
    // Turned by less than a right angle: what lay to the right stays there.
    let sign = if along[0] < 0.0 { -1.0 } else { 1.0 };
    let (cos, sin) = (sign * along[0] / long, sign * along[1] / long);
    let turn = |p: &Point| [cos * p[0] + sin * p[1], cos * p[1] - sin * p[0]];
    let turned: Vec<Point> = points.iter().map(turn).collect();
    let least = |k: usize| turned.iter().map(|p| p[k]).fold(f64::INFINITY, f64::min);
    let most = |k: usize| {
        turned
            .iter()
            .map(|p| p[k])
            .fold(f64::NEG_INFINITY, f64::max)
    };
    let (x, y) = (least(0), least(1));
    let size = (most(0) - x, most(1) - y);
    let moved = turned.iter().map(|p| [p[0] - x, p[1] - y]);
    Some((moved.collect(), size))
}
