//! The straight line through points, as far from all of them as little as can be (total least squares).

use jigfit_core::geometry::Point;

/// A place on the line, and its direction the way the points run.
pub fn line(p: &[Point]) -> Option<(Point, Point)> {
    let (first, last) = (p.first()?, p.last()?);
    if p.len() < 2 {
        return None;
    }
    let n = p.len() as f64;
    let mid = [0, 1].map(|k| p.iter().map(|q| q[k]).sum::<f64>() / n);
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    for q in p {
        let (x, y) = (q[0] - mid[0], q[1] - mid[1]);
        (xx, xy, yy) = (xx + x * x, xy + x * y, yy + y * y);
    }
    let turn = 0.5 * f64::atan2(2.0 * xy, xx - yy);
    let along = [turn.cos(), turn.sin()];
    let way = (last[0] - first[0]) * along[0] + (last[1] - first[1]) * along[1];
    Some((mid, if way < 0.0 { along.map(|v| -v) } else { along }))
}
