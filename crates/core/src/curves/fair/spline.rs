//! A smooth run through points: a cubic spline over chord length, its ends as its neighbours bend (not-a-knot; de Boor,
//! A Practical Guide to Splines, from memory).

use crate::geometry::{Point, distance};

/// A run.
#[derive(Debug, Clone)]
pub struct Spline {
    /// Places of the knots along it.
    pub t: Vec<f64>,
    /// The knots.
    pub p: Vec<Point>,
    /// Second derivatives at them.
    bend: Vec<Point>,
}

/// Knots closer than this are one, mm.
const SAME: f64 = 1e-6;

impl Spline {
    /// Through at least two points.
    pub fn through(points: &[Point]) -> Option<Spline> {
        let mut p: Vec<Point> = Vec::with_capacity(points.len());
        for q in points {
            if p.last().is_none_or(|l| distance(*l, *q) > SAME) {
                p.push(*q);
            }
        }
        if p.len() < 2 {
            return None;
        }
        let mut t = vec![0.0; p.len()];
        for i in 1..p.len() {
            t[i] = t[i - 1] + distance(p[i - 1], p[i]);
        }
        let axis = |k: usize| second(&t, &p.iter().map(|q| q[k]).collect::<Vec<f64>>());
        let (x, y) = (axis(0), axis(1));
        let bend = x.into_iter().zip(y).map(|(x, y)| [x, y]).collect();
        Some(Spline { t, p, bend })
    }

    /// How long it is by its chords.
    pub fn end(&self) -> f64 {
        self.t[self.t.len() - 1]
    }

    /// Place, direction and second derivative at `t`; beyond its ends it goes on straight.
    pub fn at(&self, t: f64) -> (Point, Point, Point) {
        let n = self.t.len();
        let inside = t.clamp(0.0, self.end());
        let i = self.t.partition_point(|v| *v <= inside).clamp(1, n - 1) - 1;
        let h = self.t[i + 1] - self.t[i];
        let (a, b) = ((self.t[i + 1] - inside) / h, (inside - self.t[i]) / h);
        let axis = |k: usize| {
            let (p, q) = (self.p[i][k], self.p[i + 1][k]);
            let (m, n) = (self.bend[i][k], self.bend[i + 1][k]);
            let value = a * p + b * q + ((a * a * a - a) * m + (b * b * b - b) * n) * h * h / 6.0;
            let slope =
                (q - p) / h - (3.0 * a * a - 1.0) / 6.0 * h * m + (3.0 * b * b - 1.0) / 6.0 * h * n;
            (value + slope * (t - inside), slope, a * m + b * n)
        };
        let (x, y) = (axis(0), axis(1));
        ([x.0, y.0], [x.1, y.1], [x.2, y.2])
    }

    /// Signed curvature at `t`, positive where it turns to the left, 1/mm.
    pub fn curvature(&self, t: f64) -> f64 {
        let (_, d, s) = self.at(t);
        (d[0] * s[1] - d[1] * s[0]) / d[0].hypot(d[1]).powi(3).max(1e-12)
    }

    /// Places along it between which no chord leaves it by more than `near`.
    pub fn places(&self, near: f64) -> Vec<f64> {
        /// More pieces between two knots are never needed.
        const MOST: f64 = 200.0;
        let mut out = vec![0.0];
        for i in 1..self.t.len() {
            let (a, b) = (self.t[i - 1], self.t[i]);
            let h = b - a;
            // A chord over h leaves a curve of second derivative s by s h^2 / 8.
            let s = [i - 1, i].map(|j| self.bend[j][0].hypot(self.bend[j][1]));
            let n = (h * (s[0].max(s[1]) / (8.0 * near)).sqrt())
                .ceil()
                .clamp(1.0, MOST);
            out.extend((1..=n as usize).map(|k| a + h * k as f64 / n));
        }
        out
    }
}

/// Second derivatives of the cubic spline through (t, y).
fn second(t: &[f64], y: &[f64]) -> Vec<f64> {
    let n = t.len();
    if n == 2 {
        return vec![0.0; 2];
    }
    let h: Vec<f64> = t.windows(2).map(|w| w[1] - w[0]).collect();
    let slope: Vec<f64> = (0..n - 1).map(|i| (y[i + 1] - y[i]) / h[i]).collect();
    if n == 3 {
        // One parabola.
        let s = 2.0 * (slope[1] - slope[0]) / (h[0] + h[1]);
        return vec![s; 3];
    }
    // Inner equations; the third derivative goes on through the second and the last but one knot.
    let m = n - 2;
    let mut low: Vec<f64> = (0..m).map(|i| h[i]).collect();
    let mut mid: Vec<f64> = (0..m).map(|i| 2.0 * (h[i] + h[i + 1])).collect();
    let mut up: Vec<f64> = (0..m).map(|i| h[i + 1]).collect();
    let mut rhs: Vec<f64> = (0..m).map(|i| 6.0 * (slope[i + 1] - slope[i])).collect();
    let r = h[0] / h[1];
    mid[0] += h[0] * (1.0 + r);
    up[0] -= h[0] * r;
    let q = h[n - 2] / h[n - 3];
    mid[m - 1] += h[n - 2] * (1.0 + q);
    low[m - 1] -= h[n - 2] * q;
    for i in 1..m {
        let w = low[i] / mid[i - 1];
        mid[i] -= w * up[i - 1];
        rhs[i] -= w * rhs[i - 1];
    }
    let mut inner = vec![0.0; m];
    for i in (0..m).rev() {
        let next = if i + 1 < m { up[i] * inner[i + 1] } else { 0.0 };
        inner[i] = (rhs[i] - next) / mid[i];
    }
    let mut out = Vec::with_capacity(n);
    out.push(inner[0] * (1.0 + r) - inner[1] * r);
    out.extend(&inner);
    out.push(inner[m - 1] * (1.0 + q) - inner[m - 2] * q);
    out
}
