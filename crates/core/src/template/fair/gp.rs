//! Smoothing to a stated noise: the mean of Gaussian processes over one coordinate, averaged by how well each explains
//! the readings (Bayesian model averaging; Rasmussen and Williams, Gaussian Processes for Machine Learning, 2006,
//! chapters 2, 5 and 6, from memory). Among them are the cubic and the quintic smoothing spline, as integrated Wiener
//! processes, and two stationary ones; how strongly the curve bends is found from the readings, the noise is given.

use nalgebra::{Cholesky, DMatrix, DVector, Dyn};

/// One kind of curve.
#[derive(Debug, Clone, Copy)]
enum Kernel {
    /// Twice integrated white noise: the cubic smoothing spline.
    Cubic(f64),
    /// Three times: the quintic one.
    Quintic(f64),
    /// Squared exponential: amplitude and length.
    Smooth(f64, f64),
    /// Matern 5/2.
    Matern(f64, f64),
}

impl Kernel {
    fn at(self, s: f64, t: f64) -> f64 {
        let d = (s - t).abs();
        match self {
            Kernel::Cubic(a) => {
                let (u, v) = (s.min(t), s.max(t));
                a * a * u * u * (3.0 * v - u) / 6.0
            }
            Kernel::Quintic(a) => {
                let u = s.min(t);
                a * a * (u.powi(5) / 20.0 + d * u.powi(4) / 8.0 + d * d * u.powi(3) / 12.0)
            }
            Kernel::Smooth(a, l) => a * a * (-0.5 * (d / l).powi(2)).exp(),
            Kernel::Matern(a, l) => {
                let r = 5.0_f64.sqrt() * d / l;
                a * a * (1.0 + r + r * r / 3.0) * (-r).exp()
            }
        }
    }

    /// Powers of t that are free beside it.
    fn free(self) -> i32 {
        match self {
            Kernel::Quintic(_) => 3,
            _ => 2,
        }
    }
}

/// Every kind is as likely beforehand, and every strength of it: amplitudes in mm for a curve one unit long.
fn kernels() -> Vec<(Kernel, f64)> {
    const STEPS: usize = 9;
    /// From a bend that nobody sees to one tighter than any body of a vehicle has.
    const BENDS: (f64, f64) = (3.0, 3e4);
    const LENGTHS: [f64; 6] = [0.12, 0.18, 0.27, 0.4, 0.6, 1.0];
    const AMPLITUDES: [f64; 5] = [1.0, 5.0, 25.0, 100.0, 400.0];
    let between = |i: usize| BENDS.0 * (BENDS.1 / BENDS.0).powf(i as f64 / (STEPS - 1) as f64);
    let mut out = Vec::new();
    for i in 0..STEPS {
        out.push((Kernel::Cubic(between(i)), 1.0 / STEPS as f64));
        out.push((Kernel::Quintic(10.0 * between(i)), 1.0 / STEPS as f64));
    }
    let n = (LENGTHS.len() * AMPLITUDES.len()) as f64;
    for l in LENGTHS {
        for a in AMPLITUDES {
            out.push((Kernel::Smooth(a, l), 1.0 / n));
            out.push((Kernel::Matern(a, l), 1.0 / n));
        }
    }
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

/// A model's explanation of the readings.
struct Explained {
    kernel: Kernel,
    weights: DVector<f64>,
    evidence: f64,
}

/// Free powers of t may be as large as this times what the readings span.
const WIDE: f64 = 10.0;

fn covariance(kernel: Kernel, wide: f64, s: f64, t: f64) -> f64 {
    let free: f64 = (0..kernel.free()).map(|p| (s * t).powi(p)).sum();
    kernel.at(s, t) + wide * wide * free
}

fn explain(known: Known, y: &DVector<f64>, kernel: Kernel, wide: f64) -> Option<Explained> {
    let n = known.t.len();
    let mut k = DMatrix::from_fn(n, n, |i, j| {
        covariance(kernel, wide, known.t[i], known.t[j])
    });
    for i in 0..n {
        k[(i, i)] += known.var[i];
    }
    let factor: Cholesky<f64, Dyn> = k.cholesky()?;
    let weights = factor.solve(y);
    let l = factor.l_dirty();
    let half_log: f64 = (0..n).map(|i| l[(i, i)].ln()).sum();
    Some(Explained {
        kernel,
        evidence: -0.5 * y.dot(&weights) - half_log,
        weights,
    })
}

/// How well one smooth curve explains the readings: the logarithm of their probability, up to what is the same for all.
pub fn evidence(known: Known) -> f64 {
    let Models { all, best, .. } = models(known);
    let sum: f64 = all
        .iter()
        .map(|(e, prior)| (e.evidence + prior.ln() - best).exp())
        .sum();
    best + sum.ln() - 0.5 * known.t.len() as f64 * std::f64::consts::TAU.ln()
}

/// All models and the evidence of the best.
struct Models {
    all: Vec<(Explained, f64)>,
    best: f64,
    wide: f64,
}

fn line(known: Known, t: f64) -> f64 {
    let (a, b) = (known.y[0], known.y[known.y.len() - 1]);
    a + (b - a) * t
}

fn models(known: Known) -> Models {
    let n = known.t.len();
    // Off the straight line through the ends: what is free keeps its scale.
    let y = DVector::from_fn(n, |i, _| known.y[i] - line(known, known.t[i]));
    let span = y.amax().max(1.0);
    let wide = WIDE * span;
    let all: Vec<(Explained, f64)> = kernels()
        .into_iter()
        .filter_map(|(k, prior)| Some((explain(known, &y, k, wide)?, prior)))
        .collect();
    let best = all
        .iter()
        .map(|(e, p)| e.evidence + p.ln())
        .fold(f64::NEG_INFINITY, f64::max);
    Models { all, best, wide }
}

/// The most probable value at each of `at`, places from 0 to 1.
pub fn smooth(known: Known, at: &[f64]) -> Vec<f64> {
    let Models { all, best, wide } = models(known);
    /// What explains the readings so much worse than the best is left out.
    const LEAST: f64 = 1e-3;
    let mut total = 0.0;
    let mut out = vec![0.0; at.len()];
    for (e, prior) in &all {
        let share = (e.evidence + prior.ln() - best).exp();
        if share < LEAST {
            continue;
        }
        total += share;
        for (o, s) in out.iter_mut().zip(at) {
            let own = known.t.iter().zip(e.weights.iter());
            let mean: f64 = own
                .map(|(t, w)| covariance(e.kernel, wide, *s, *t) * w)
                .sum();
            *o += share * mean;
        }
    }
    out.iter()
        .zip(at)
        .map(|(o, s)| line(known, *s) + if total > 0.0 { o / total } else { 0.0 })
        .collect()
}

/// How sure the most probable model is at each of `at`: one standard deviation, mm.
pub fn doubt(known: Known, at: &[f64]) -> Vec<f64> {
    let Models { all, wide, .. } = models(known);
    let best = all
        .iter()
        .max_by(|a, b| (a.0.evidence + a.1.ln()).total_cmp(&(b.0.evidence + b.1.ln())));
    let Some((e, _)) = best else {
        return vec![0.0; at.len()];
    };
    let n = known.t.len();
    let cov = |s: f64, t: f64| covariance(e.kernel, wide, s, t);
    let mut k = DMatrix::from_fn(n, n, |i, j| cov(known.t[i], known.t[j]));
    for i in 0..n {
        k[(i, i)] += known.var[i];
    }
    let Some(factor) = k.cholesky() else {
        return vec![0.0; at.len()];
    };
    at.iter()
        .map(|s| {
            let own = DVector::from_fn(n, |i, _| cov(*s, known.t[i]));
            let told = own.dot(&factor.solve(&own));
            (cov(*s, *s) - told).max(0.0).sqrt()
        })
        .collect()
}

/// The reading that fits the others worst, if all are explained much better without it.
pub fn misfit(known: Known) -> Option<usize> {
    /// Readings looked at closely.
    const CLOSE: usize = 8;
    /// As a logarithm, beside one for every reading that might have been it (a choice: fifty times).
    const BY: f64 = 4.0;
    let n = known.t.len();
    let y = DVector::from_fn(n, |i, _| known.y[i] - line(known, known.t[i]));
    let wide = WIDE * y.amax().max(1.0);
    // In the eyes of every model: the one that lies most standard deviations off what the others say.
    let mut worst = vec![0usize; n];
    for (kernel, _) in kernels() {
        let mut k = DMatrix::from_fn(n, n, |i, j| {
            covariance(kernel, wide, known.t[i], known.t[j])
        });
        for i in 0..n {
            k[(i, i)] += known.var[i];
        }
        let Some(factor) = k.cholesky() else {
            continue;
        };
        let inverse = factor.inverse();
        let weights = &inverse * &y;
        let off = |i: &usize| (weights[*i] / inverse[(*i, *i)].max(1e-300).sqrt()).abs();
        if let Some(i) = (0..n).max_by(|a, b| off(a).total_cmp(&off(b))) {
            worst[i] += 1;
        }
    }
    let mut order: Vec<usize> = (0..n).filter(|i| worst[*i] > 0).collect();
    order.sort_by_key(|i| usize::MAX - worst[*i]);
    let all = evidence(known);
    let gain = |i: usize| {
        let mut var = known.var.to_vec();
        var[i] += 1e4 * var[i] + 1e2;
        evidence(Known { var: &var, ..known }) - all
    };
    let best = order.into_iter().take(CLOSE).map(|i| (i, gain(i)));
    let (i, gain) = best.max_by(|a, b| a.1.total_cmp(&b.1))?;
    (gain > BY + (n as f64).ln()).then_some(i)
}
