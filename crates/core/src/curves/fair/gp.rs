//! Smoothing to a stated noise: the mean of Gaussian processes over one coordinate, averaged by how well each explains
//! the readings (Bayesian model averaging; Rasmussen and Williams, Gaussian Processes for Machine Learning, 2006,
//! chapters 2, 5 and 6, from memory). Among them are the cubic and the quintic smoothing spline, as integrated Wiener
//! processes, and two stationary ones; how strongly the curve bends is found from the readings, the noise is given.

use nalgebra::{Cholesky, DMatrix, DVector, Dyn};

/// A kind of curve, for an amplitude of one.
#[derive(Debug, Clone, Copy)]
enum Shape {
    /// Twice integrated white noise: the cubic smoothing spline.
    Cubic,
    /// Three times: the quintic one.
    Quintic,
    /// Squared exponential of that length.
    Smooth(f64),
    /// Matern 5/2 of that length.
    Matern(f64),
}

impl Shape {
    fn at(self, s: f64, t: f64) -> f64 {
        let d = (s - t).abs();
        let u = s.min(t);
        match self {
            Shape::Cubic => u * u * (3.0 * s.max(t) - u) / 6.0,
            Shape::Quintic => {
                let cube = u * u * u;
                cube * (u * u / 20.0 + d * u / 8.0 + d * d / 12.0)
            }
            Shape::Smooth(l) => (-0.5 * (d / l) * (d / l)).exp(),
            Shape::Matern(l) => {
                let r = 5.0_f64.sqrt() * d / l;
                (1.0 + r + r * r / 3.0) * (-r).exp()
            }
        }
    }

    /// What is free beside it: powers of t below the second, or the third.
    fn free(self, s: f64, t: f64) -> f64 {
        let st = s * t;
        match self {
            Shape::Quintic => 1.0 + st + st * st,
            _ => 1.0 + st,
        }
    }

    /// Amplitudes in mm for a curve one unit long, each as likely beforehand.
    fn amplitudes(self) -> Vec<f64> {
        const STEPS: usize = 9;
        /// From a bend that nobody sees to one tighter than any body of a vehicle has.
        const BENDS: (f64, f64) = (3.0, 3e4);
        let bends = |by: f64| {
            let each = (0..STEPS).map(|i| i as f64 / (STEPS - 1) as f64);
            each.map(|k| by * BENDS.0 * (BENDS.1 / BENDS.0).powf(k))
                .collect()
        };
        match self {
            Shape::Cubic => bends(1.0),
            Shape::Quintic => bends(10.0),
            _ => vec![1.0, 5.0, 25.0, 100.0, 400.0],
        }
    }
}

/// Lengths of the stationary ones, as shares of the curve.
const LENGTHS: [f64; 6] = [0.12, 0.18, 0.27, 0.4, 0.6, 1.0];

/// Every kind is as likely beforehand, and every length of it.
fn shapes() -> Vec<(Shape, f64)> {
    let n = LENGTHS.len() as f64;
    let mut out = vec![(Shape::Cubic, 1.0), (Shape::Quintic, 1.0)];
    out.extend(LENGTHS.map(|l| (Shape::Smooth(l), 1.0 / n)));
    out.extend(LENGTHS.map(|l| (Shape::Matern(l), 1.0 / n)));
    out
}

/// What is known of one coordinate: places along the curve from 0 to 1, ascending, readings, their variances.
#[derive(Debug, Clone, Copy)]
pub struct Known<'a> {
    /// Places.
    pub t: &'a [f64],
    /// Readings, mm.
    pub y: &'a [f64],
    /// Variances, mm2.
    pub var: &'a [f64],
}

/// Free powers of t may be as large as this times what the readings span.
const WIDE: f64 = 10.0;

/// A model's explanation of the readings.
struct Model {
    shape: Shape,
    amplitude: f64,
    factor: Cholesky<f64, Dyn>,
    weights: DVector<f64>,
    /// The logarithm of how probable the readings are, what is likely beforehand in it.
    evidence: f64,
}

/// All models' explanations.
pub struct Models<'a> {
    known: Known<'a>,
    y: DVector<f64>,
    wide: f64,
    all: Vec<Model>,
    best: f64,
}

impl<'a> Models<'a> {
    /// Of the readings.
    pub fn new(known: Known<'a>) -> Models<'a> {
        let n = known.t.len();
        // Off the straight line through the ends: what is free keeps its scale.
        let y = DVector::from_fn(n, |i, _| known.y[i] - line(known, known.t[i]));
        let wide = WIDE * y.amax().max(1.0);
        let mut all = Vec::new();
        for (shape, prior) in shapes() {
            let one = DMatrix::from_fn(n, n, |i, j| shape.at(known.t[i], known.t[j]));
            let free = DMatrix::from_fn(n, n, |i, j| {
                wide * wide * shape.free(known.t[i], known.t[j])
            });
            let amplitudes = shape.amplitudes();
            let prior = (prior / amplitudes.len() as f64).ln();
            for a in amplitudes {
                let mut k = &one * (a * a) + &free;
                for i in 0..n {
                    k[(i, i)] += known.var[i];
                }
                let Some(factor) = k.cholesky() else {
                    continue;
                };
                let weights = factor.solve(&y);
                let l = factor.l_dirty();
                let half_log: f64 = (0..n).map(|i| l[(i, i)].ln()).sum();
                all.push(Model {
                    shape,
                    amplitude: a,
                    evidence: prior - 0.5 * y.dot(&weights) - half_log,
                    factor,
                    weights,
                });
            }
        }
        let best = all
            .iter()
            .map(|m| m.evidence)
            .fold(f64::NEG_INFINITY, f64::max);
        Models {
            known,
            y,
            wide,
            all,
            best,
        }
    }

    fn covariance(&self, m: &Model, s: f64, t: f64) -> f64 {
        m.amplitude * m.amplitude * m.shape.at(s, t) + self.wide * self.wide * m.shape.free(s, t)
    }

    /// How well one smooth curve explains the readings: the logarithm of their probability.
    pub fn evidence(&self) -> f64 {
        let each = self.all.iter().map(|m| m.evidence);
        log_sum(each) - 0.5 * self.known.t.len() as f64 * std::f64::consts::TAU.ln()
    }

    /// The most probable value at each of `at`, places from 0 to 1.
    pub fn smooth(&self, at: &[f64]) -> Vec<f64> {
        /// What explains the readings so much worse than the best is left out.
        const LEAST: f64 = 1e-3;
        let mut total = 0.0;
        let mut out = vec![0.0; at.len()];
        for m in &self.all {
            let share = (m.evidence - self.best).exp();
            if share < LEAST {
                continue;
            }
            total += share;
            for (o, s) in out.iter_mut().zip(at) {
                let own = self.known.t.iter().zip(m.weights.iter());
                *o += share
                    * own
                        .map(|(t, w)| self.covariance(m, *s, *t) * w)
                        .sum::<f64>();
            }
        }
        out.iter()
            .zip(at)
            .map(|(o, s)| line(self.known, *s) + if total > 0.0 { o / total } else { 0.0 })
            .collect()
    }

    /// How sure the most probable model is at each of `at`: one standard deviation, mm.
    pub fn doubt(&self, at: &[f64]) -> Vec<f64> {
        let best = self
            .all
            .iter()
            .max_by(|a, b| a.evidence.total_cmp(&b.evidence));
        let Some(m) = best else {
            return vec![0.0; at.len()];
        };
        let n = self.known.t.len();
        at.iter()
            .map(|s| {
                let own = DVector::from_fn(n, |i, _| self.covariance(m, *s, self.known.t[i]));
                let told = own.dot(&m.factor.solve(&own));
                (self.covariance(m, *s, *s) - told).max(0.0).sqrt()
            })
            .collect()
    }

    /// The reading that fits the others worst, if all are explained much better where it says next to nothing.
    pub fn misfit(&self) -> Option<usize> {
        /// As a logarithm, beside one for every reading that might have been it (a choice: fifty times).
        const BY: f64 = 4.0;
        /// A reading that says next to nothing has this variance more, mm2.
        const NOTHING: f64 = 1e4;
        let n = self.known.t.len();
        let whole = log_sum(self.all.iter().map(|m| m.evidence));
        // Another variance of one reading changes the inverse by one product (Sherman and Morrison).
        let mut without: Vec<Vec<f64>> = vec![Vec::with_capacity(self.all.len()); n];
        for m in &self.all {
            let inverse = m.factor.inverse();
            for (i, list) in without.iter_mut().enumerate() {
                let more = 1.0 + NOTHING * inverse[(i, i)];
                let less = NOTHING * m.weights[i] * m.weights[i] / more;
                list.push(m.evidence - 0.5 * more.ln() + 0.5 * less);
            }
        }
        let gains = without
            .into_iter()
            .map(|list| log_sum(list.into_iter()) - whole);
        let (i, gain) = gains.enumerate().max_by(|a, b| a.1.total_cmp(&b.1))?;
        (gain > BY + (n as f64).ln()).then_some(i)
    }

    /// How many readings there are.
    pub fn len(&self) -> usize {
        self.y.len()
    }
}

/// The straight line through the first and the last reading.
fn line(known: Known, t: f64) -> f64 {
    let (a, b) = (known.y[0], known.y[known.y.len() - 1]);
    a + (b - a) * t
}

/// The logarithm of a sum of what is given as logarithms.
fn log_sum(each: impl Iterator<Item = f64> + Clone) -> f64 {
    let most = each.clone().fold(f64::NEG_INFINITY, f64::max);
    if most.is_finite() {
        most + each.map(|e| (e - most).exp()).sum::<f64>().ln()
    } else {
        most
    }
}
