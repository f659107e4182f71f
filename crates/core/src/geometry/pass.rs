//! Will it go through the opening? A rectangle through a rectangle.
//!
//! One dimension of the thing leads; the other two are its cross-section `p x q` (p >= q), which has
//! to fit the opening `a x b` (a >= b). It fits upright if `p <= a` and `q <= b`; turned, with
//! `p > a`, if and only if `q <= b` and
//! `b >= (2 p q a + (p^2 - q^2) sqrt(p^2 + q^2 - a^2)) / (p^2 + q^2)`
//! (Carver 1957; the need for `q <= b` is Wetzel 2000).

use super::{Point, sides};

/// How one cross-section goes through.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Through {
    /// Turned, not upright.
    pub tilted: bool,
    /// Angle of the longer side against the opening's longer side, degrees.
    pub angle_deg: f64,
    /// How much the cross-section's longer side could grow and still pass in this manner, mm.
    pub spare: f64,
}

/// Rounding slack, mm.
const SLACK: f64 = 1e-9;

fn passes_turned(p: f64, q: f64, a: f64, b: f64) -> bool {
    if q > b + SLACK {
        return false;
    }
    let d2 = p * p + q * q;
    let needed = (2.0 * p * q * a + (p * p - q * q) * (d2 - a * a).max(0.0).sqrt()) / d2;
    b + SLACK >= needed
}

/// The cross-section `p x q` through the opening `a x b`, in any order of each pair.
pub fn through(cross: (f64, f64), opening: (f64, f64)) -> Option<Through> {
    let (p, q) = (cross.0.max(cross.1), cross.0.min(cross.1));
    let (a, b) = (opening.0.max(opening.1), opening.0.min(opening.1));
    if b <= 0.0 {
        return None;
    }
    if p <= a + SLACK && q <= b + SLACK {
        return Some(Through {
            tilted: false,
            angle_deg: 0.0,
            spare: (a - p).max(0.0),
        });
    }
    if p <= a || !passes_turned(p, q, a, b) {
        return None;
    }
    // The longest p that passes: the condition is monotone in p.
    let (mut lo, mut hi) = (p, a.hypot(b));
    if hi < lo {
        hi = lo;
    }
    for _ in 0..80 {
        let mid = (lo + hi) / 2.0;
        if passes_turned(mid, q, a, b) {
            lo = mid;
        } else {
            hi = mid;
        }
    }
    // There p cos t + q sin t = a and p sin t + q cos t = b, two equations for t.
    let sin = (lo * b - q * a) / (lo * lo - q * q);
    let cos = (lo * a - q * b) / (lo * lo - q * q);
    Some(Through {
        tilted: true,
        angle_deg: sin.atan2(cos).to_degrees(),
        spare: lo - p,
    })
}

/// The angle, degrees from level, at which a rectangle `p x q` fits inside a convex outline, counter-clockwise: the middle of the
/// first range of angles that is found in steps of half a degree. `None` where it fits at none, or where the outline is not convex.
///
/// Turned by an angle, the rectangle fits where its middle lies inside every side moved in by what the rectangle reaches
/// towards that side: an intersection of half-planes, clipped one by one (Sutherland and Hodgman).
pub fn turned_in(cross: (f64, f64), outline: &[Point]) -> Option<f64> {
    const STEPS: u32 = 360;
    const LARGE: f64 = 1e5;
    let convex = || {
        let turn = |i: usize| {
            let n = outline.len();
            let [a, b, c] = [0, 1, 2].map(|k| outline[(i + k) % n]);
            (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
        };
        outline.len() >= 3 && (0..outline.len()).all(|i| turn(i) >= -SLACK)
    };
    if !convex() {
        return None;
    }
    let (p, q) = cross;
    let fits = |deg: f64| {
        let (sin, cos) = deg.to_radians().sin_cos();
        let mut left = vec![
            [-LARGE, -LARGE],
            [LARGE, -LARGE],
            [LARGE, LARGE],
            [-LARGE, LARGE],
        ];
        for (a, b) in sides(outline) {
            let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
            let long = dx.hypot(dy);
            if long < SLACK {
                continue;
            }
            // Square to the side, outwards.
            let n = [dy / long, -dx / long];
            let reach =
                (p * (n[0] * cos + n[1] * sin).abs() + q * (n[1] * cos - n[0] * sin).abs()) / 2.0;
            let most = n[0] * a[0] + n[1] * a[1] - reach;
            let out = |c: Point| n[0] * c[0] + n[1] * c[1] - most;
            let mut kept = Vec::new();
            for (c, d) in sides(&left) {
                let (u, v) = (out(c), out(d));
                if u <= 0.0 {
                    kept.push(c);
                }
                if (u < 0.0) != (v < 0.0) && (u - v).abs() > SLACK {
                    let s = u / (u - v);
                    kept.push([c[0] + s * (d[0] - c[0]), c[1] + s * (d[1] - c[1])]);
                }
            }
            if kept.is_empty() {
                return false;
            }
            left = kept;
        }
        true
    };
    (0..STEPS)
        .map(|i| f64::from(i) / 2.0)
        .find(|deg| fits(*deg))
}

/// The best way in for a box.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WayIn {
    /// Index of the dimension that goes first.
    pub leads: usize,
    /// How the cross-section goes through.
    pub through: Through,
}

/// The best way through any of several rectangles, and which.
pub fn best_way(
    dims: [f64; 3],
    openings: &[(f64, f64)],
    depth: Option<f64>,
) -> Option<(WayIn, (f64, f64))> {
    let ways = openings
        .iter()
        .filter_map(|o| Some((way_in(dims, *o, depth)?, *o)));
    ways.reduce(|a, b| {
        let worth = |w: &WayIn| (!w.through.tilted, w.through.spare);
        if worth(&b.0) > worth(&a.0) { b } else { a }
    })
}

/// The best way for a box of `dims` through `opening`: upright if possible, then with most to
/// spare. The leading dimension may not exceed `depth` if there is one.
pub fn way_in(dims: [f64; 3], opening: (f64, f64), depth: Option<f64>) -> Option<WayIn> {
    let mut best: Option<WayIn> = None;
    for leads in 0..3 {
        if depth.is_some_and(|d| dims[leads] > d + SLACK) {
            continue;
        }
        let cross = (dims[(leads + 1) % 3], dims[(leads + 2) % 3]);
        let Some(t) = through(cross, opening) else {
            continue;
        };
        let better = best.is_none_or(|b| {
            (!t.tilted, t.spare + 0.0) > (!b.through.tilted, b.through.spare + SLACK)
        });
        if better {
            best = Some(WayIn { leads, through: t });
        }
    }
    best
}
