//! Where a captured curve has a corner: the turn of its polyline is gathered at one point, or between two, instead of
//! being spread as a bend spreads it.

use crate::geometry::{Point, distance_to_segment};

/// A smaller turn is no corner, radians (a choice: 12 degrees).
const LEAST: f64 = 0.21;
/// Nor one that does not stand out over its neighbours by so much.
const OUT: f64 = 2.5;
/// So many standard deviations of the turn that noise alone makes are no corner.
const SIGMAS: f64 = 4.0;

/// The turn at each inner point, radians, left positive.
fn turns(p: &[Point]) -> Vec<f64> {
    let turn = |w: &[Point]| {
        let (a, b) = (
            [w[1][0] - w[0][0], w[1][1] - w[0][1]],
            [w[2][0] - w[1][0], w[2][1] - w[1][1]],
        );
        (a[0] * b[1] - a[1] * b[0]).atan2(a[0] * b[0] + a[1] * b[1])
    };
    let mut out = vec![0.0];
    out.extend(p.windows(3).map(turn));
    out.push(0.0);
    out
}

/// Cuts the points at their corners into runs; a point that lies on both of its runs is in both. `sd` is the noise of a
/// point; `stands` has the last word on a corner at or between two points.
pub fn runs(p: &[Point], sd: f64, stands: &dyn Fn(usize, usize) -> bool) -> Vec<Vec<usize>> {
    let n = p.len();
    if n < 4 {
        return vec![(0..n).collect()];
    }
    let turn = turns(p);
    let step = |i: usize| {
        let (a, b) = (i.saturating_sub(1), (i + 1).min(n - 1));
        let d = |u: usize, v: usize| (p[u][0] - p[v][0]).hypot(p[u][1] - p[v][1]);
        d(a, i).min(d(i, b)).max(1e-9)
    };
    let noise = |i: usize| SIGMAS * 6.0_f64.sqrt() * sd / step(i);
    let of = |i: isize| {
        usize::try_from(i)
            .ok()
            .and_then(|i| turn.get(i))
            .copied()
            .unwrap_or(0.0)
    };
    // A corner lies at a point, or between it and the next: (strength, first, last).
    let mut found: Vec<(f64, usize, usize)> = Vec::new();
    for i in 1..n - 1 {
        let k = i as isize;
        let beside = of(k - 1).abs().max(of(k + 1).abs());
        if of(k).abs() > LEAST.max(noise(i)) && of(k).abs() > OUT * beside {
            found.push((of(k).abs(), i, i));
        }
        if i + 1 < n - 1 {
            let both = of(k) + of(k + 1);
            let beside = of(k - 1).abs().max(of(k + 2).abs());
            let alike = of(k) * of(k + 1) > 0.0;
            let limit = LEAST.max(noise(i).max(noise(i + 1)));
            if alike && both.abs() > limit && both.abs() > 2.0 * OUT * beside {
                found.push((both.abs() * 0.999, i, i + 1));
            }
        }
    }
    found.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut corners: Vec<(usize, usize)> = Vec::new();
    for (_, a, b) in found {
        if corners.iter().all(|c| a > c.1 + 1 || b + 1 < c.0) && stands(a, b) {
            corners.push((a, b));
        }
    }
    corners.sort_unstable();
    let mut out: Vec<Vec<usize>> = Vec::new();
    let mut from = 0;
    for (a, b) in corners {
        if a != b {
            out.push((from..=a).collect());
            from = b;
            continue;
        }
        // The point lies on the run before it, on the one after it, or on both.
        let off = |u: Option<usize>, v: Option<usize>| match (u, v) {
            (Some(u), Some(v)) if u < n && v < n => {
                let (s, t) = (p[u], p[v]);
                let far = [t[0] + 50.0 * (t[0] - s[0]), t[1] + 50.0 * (t[1] - s[1])];
                distance_to_segment(p[a], t, far)
            }
            _ => 0.0,
        };
        let before = off(a.checked_sub(2).filter(|u| *u >= from), a.checked_sub(1));
        let after = off(Some(a + 2), Some(a + 1));
        let near = 0.1 + 3.0 * sd;
        if before > near && after < before && a - from >= 2 {
            out.push((from..a).collect());
            from = a;
        } else if after > near && n - 1 - a >= 2 {
            out.push((from..=a).collect());
            from = a + 1;
        } else {
            out.push((from..=a).collect());
            from = a;
        }
    }
    out.push((from..n).collect());
    out
}
