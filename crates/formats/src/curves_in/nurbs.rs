//! Rational B-splines (de Boor's algorithm, from memory of its textbook form).

use super::Point;
use super::flat::free;

/// A spline of a file.
#[derive(Debug, Clone, Default)]
pub struct Nurbs {
    /// Degree.
    pub degree: usize,
    /// Knots, ascending.
    pub knots: Vec<f64>,
    /// Control points.
    pub points: Vec<Point>,
    /// Weights; all alike if empty.
    pub weights: Vec<f64>,
}

/// Highest degree.
const DEGREE: usize = 12;

impl Nurbs {
    /// As chords, span by span. `None` if its numbers do not go together.
    pub fn flat(&self, near: f64) -> Option<Vec<Point>> {
        let (p, n) = (self.degree, self.points.len());
        let sound = (1..=DEGREE).contains(&p)
            && n > p
            && self.knots.len() == n + p + 1
            && self.knots.windows(2).all(|w| w[0] <= w[1])
            && (self.weights.is_empty() || self.weights.len() == n)
            && self.weights.iter().all(|w| *w > 0.0);
        if !sound {
            return None;
        }
        let mut out: Vec<Point> = Vec::new();
        for k in p..n {
            let (a, b) = (self.knots[k], self.knots[k + 1]);
            if b - a > 1e-12 {
                let span = free(&|t| self.at(k, t), a, b, near);
                let skip = usize::from(!out.is_empty());
                out.extend(span.into_iter().skip(skip));
            }
        }
        Some(out)
    }

    /// The point of span `k` at parameter `t`.
    fn at(&self, k: usize, t: f64) -> Point {
        let p = self.degree;
        let weight = |i: usize| self.weights.get(i).copied().unwrap_or(1.0);
        let mut d: Vec<[f64; 3]> = (0..=p)
            .map(|j| {
                let i = k - p + j;
                let w = weight(i);
                [w * self.points[i][0], w * self.points[i][1], w]
            })
            .collect();
        for r in 1..=p {
            for j in (r..=p).rev() {
                let i = k - p + j;
                let (lo, hi) = (self.knots[i], self.knots[i + p + 1 - r]);
                let a = if hi - lo > 1e-15 {
                    (t - lo) / (hi - lo)
                } else {
                    0.0
                };
                d[j] = std::array::from_fn(|c| (1.0 - a) * d[j - 1][c] + a * d[j][c]);
            }
        }
        let [x, y, w] = d[p];
        [x / w, y / w]
    }
}
