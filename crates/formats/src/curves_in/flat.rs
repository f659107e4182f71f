//! Arcs and free curves as chords.

use super::Point;

/// An arc about `c`, from one angle by another, radians, and whether it goes on for a whole turn; `near` is how far a
/// chord may leave it.
pub fn arc(c: Point, radii: [Point; 2], (from, by): (f64, f64), near: f64) -> Vec<Point> {
    let [u, v] = radii;
    let r = u[0].hypot(u[1]).max(v[0].hypot(v[1])).max(1e-12);
    // The sagitta of a chord over an angle a is r (1 - cos(a / 2)).
    let step = 2.0 * (1.0 - (near / r).min(0.5)).acos();
    let n = (by.abs() / step.max(1e-4)).ceil().clamp(1.0, 4000.0) as usize;
    let at = |i: usize| {
        let (s, k) = (from + by * i as f64 / n as f64).sin_cos();
        [c[0] + k * u[0] + s * v[0], c[1] + k * u[1] + s * v[1]]
    };
    (0..=n).map(at).collect()
}

/// A curve over a parameter, halved until its middle lies on its chord.
pub fn free(at: &dyn Fn(f64) -> Point, from: f64, to: f64, near: f64) -> Vec<Point> {
    /// A span is halved no more often than this.
    const DEEP: usize = 11;
    fn half(
        at: &dyn Fn(f64) -> Point,
        a: (f64, Point),
        b: (f64, Point),
        (near, deep): (f64, usize),
        out: &mut Vec<Point>,
    ) {
        let t = (a.0 + b.0) / 2.0;
        let p = at(t);
        let middle = [(a.1[0] + b.1[0]) / 2.0, (a.1[1] + b.1[1]) / 2.0];
        let off = (p[0] - middle[0]).hypot(p[1] - middle[1]);
        if deep == 0 || (off < near && deep + 3 < DEEP) {
            out.push(b.1);
            return;
        }
        half(at, a, (t, p), (near, deep - 1), out);
        half(at, (t, p), b, (near, deep - 1), out);
    }
    let (p, q) = (at(from), at(to));
    let mut out = vec![p];
    half(at, (from, p), (to, q), (near, DEEP), &mut out);
    out
}
