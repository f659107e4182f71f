//! How strongly the walls of this vehicle bend and crease: the scales that make its readings most
//! likely (empirical covariance function, as in collocation), leaning to the usual ones.

use nalgebra::{DMatrix, DVector};

use super::field::Equation;
use super::signal::{Bend, PARTS, Ridges, SCALES, Signal, covariance, wall};

/// Scales tried one after the other, as multiples of the usual (a choice of grid, not of values).
const TRIES: [f64; 7] = [0.06, 0.16, 0.4, 1.0, 2.4, 6.0, 16.0];
/// How far from the usual is still usual: a factor of e^1.2.
const SPREAD: f64 = 1.2;
/// How far the two walls may differ in what they bend, of what each of them bends (one less `Bend::alike`): as widely apart as the scales.
const APART: [f64; 6] = [1.0, 0.4, 0.16, 0.06, 0.024, 0.01];
/// The same for the front, where straight is as usual as crooked.
const FRONT: [f64; 5] = [0.03, 0.1, 0.3, 1.0, 3.0];
const FRONT_SPREAD: f64 = 2.0;
/// Fewer readings of walls say nothing of how they bend.
const FEW: usize = 5;
/// More than so many tell no more of it; of a fine scan an even share is looked at.
const MANY: usize = 120;

/// The likeliest bend for the readings.
pub fn likely(equations: &[Equation], ridges: &Ridges) -> Bend {
    Bend {
        front: front(equations, ridges),
        ..walls(equations, ridges)
    }
}

/// Equations that are of nothing but signals of a kind.
fn only(equations: &[Equation], kind: fn(Signal) -> bool) -> Vec<&Equation> {
    let own = |e: &&Equation| e.terms.iter().all(|t| kind(t.signal));
    equations.iter().filter(own).collect()
}

/// Minus the logarithm of how likely `values` are with covariance `k`.
fn unlikely(k: DMatrix<f64>, values: &DVector<f64>) -> f64 {
    let Some(f) = k.cholesky() else {
        return f64::INFINITY;
    };
    let half = f.l_dirty().solve_lower_triangular(values);
    let fit = half.map_or(f64::INFINITY, |h| h.norm_squared());
    let size: f64 = f.l_dirty().diagonal().iter().map(|d| d.ln()).sum();
    fit / 2.0 + size
}

fn values(of: &[&Equation]) -> DVector<f64> {
    DVector::from_iterator(of.len(), of.iter().map(|e| e.value))
}

/// How crooked the front is.
fn front(equations: &[Equation], ridges: &Ridges) -> f64 {
    let own = only(equations, |s| s == Signal::Front);
    if own.len() < 3 {
        return 1.0;
    }
    let values = values(&own);
    let score = |front: f64| {
        let bend = Bend {
            front,
            ..Bend::USUAL
        };
        let k = DMatrix::from_fn(own.len(), own.len(), |i, j| {
            let noise = if i == j { own[i].sd.powi(2) } else { 0.0 };
            let pairs = own[i].terms.iter();
            let pairs = pairs.flat_map(|a| own[j].terms.iter().map(move |b| (a, b)));
            noise
                + pairs
                    .map(|(a, b)| covariance(a, b, bend, ridges))
                    .sum::<f64>()
        });
        unlikely(k, &values) + (front.ln() / FRONT_SPREAD).powi(2) / 2.0
    };
    let tries = FRONT.into_iter().map(|f| (score(f), f));
    let best = tries.min_by(|a, b| a.0.total_cmp(&b.0));
    best.map_or(1.0, |b| b.1)
}

fn walls(equations: &[Equation], ridges: &Ridges) -> Bend {
    let mut all = only(equations, |s| matches!(s, Signal::Wall(_)));
    // What bodies say counts with the unknowns of their place.
    let own = |e: &&Equation| {
        let front = e.terms.iter().any(|t| t.signal == Signal::Front);
        e.body && !front
    };
    all.extend(equations.iter().filter(own));
    if all.len() < FEW {
        return Bend::USUAL;
    }
    let every = all.len().div_ceil(MANY);
    let walls: Vec<&Equation> = all.into_iter().step_by(every).collect();
    let values = values(&walls);
    let [own, across] = parts(&walls, ridges);
    let usual = 1.0 - Bend::USUAL.alike;
    let score = |scales: &[f64; SCALES], apart: f64| -> f64 {
        let weights = Bend::scaled(scales).weights();
        let mut k = DMatrix::zeros(walls.len(), walls.len());
        for (part, weight) in own.iter().zip(weights) {
            k.zip_apply(part, |sum, p| *sum += weight * p);
        }
        for (part, weight) in across.iter().zip(weights) {
            let weight = weight * (1.0 - apart);
            k.zip_apply(part, |sum, p| *sum += weight * p);
        }
        let mut unusual: f64 = scales.iter().map(|s| (s.ln() / SPREAD).powi(2)).sum();
        unusual += ((apart / usual).ln() / SPREAD).powi(2);
        unlikely(k, &values) + unusual / 2.0
    };
    // Without creases their scale is nothing to look for.
    let open = [true, true, !ridges.x.is_empty(), !ridges.z.is_empty(), true];
    let (mut scales, mut apart) = ([1.0; SCALES], usual);
    let mut best = score(&scales, apart);
    for _ in 0..2 {
        let before = (scales, apart);
        for i in (0..SCALES).filter(|i| open[*i]) {
            let now = scales[i];
            for scale in TRIES.into_iter().filter(|t| *t != now) {
                let mut next = scales;
                next[i] = scale;
                let s = score(&next, apart);
                if s < best - 1e-9 {
                    (best, scales) = (s, next);
                }
            }
        }
        let now = apart;
        for next in APART.into_iter().filter(|a| *a != now) {
            let s = score(&scales, next);
            if s < best - 1e-9 {
                (best, apart) = (s, next);
            }
        }
        if (scales, apart) == before {
            break;
        }
    }
    Bend {
        alike: 1.0 - apart,
        ..Bend::scaled(&scales)
    }
}

/// The covariances of the readings, part by part: of a wall with itself, and of one wall with the other. Their noise is with the first.
fn parts(walls: &[&Equation], ridges: &Ridges) -> [[DMatrix<f64>; PARTS]; 2] {
    let n = walls.len();
    let none = || std::array::from_fn(|_| DMatrix::zeros(n, n));
    let mut both: [[DMatrix<f64>; PARTS]; 2] = [none(), none()];
    for i in 0..n {
        for j in 0..=i {
            let mut sums = [[0.0; PARTS]; 2];
            for a in &walls[i].terms {
                for b in &walls[j].terms {
                    match (a.signal, b.signal) {
                        (Signal::Wall(s), Signal::Wall(t)) => {
                            let sums = &mut sums[usize::from(s != t)];
                            for (sum, v) in sums.iter_mut().zip(wall((s, a), (t, b), ridges)) {
                                *sum += a.by * b.by * v;
                            }
                        }
                        // The place of a body: the same whatever the walls do.
                        _ => sums[0][0] += covariance(a, b, Bend::USUAL, ridges),
                    }
                }
            }
            if i == j {
                sums[0][0] += walls[i].sd.powi(2);
            }
            for (parts, sums) in both.iter_mut().zip(sums) {
                for (part, v) in parts.iter_mut().zip(sums) {
                    part[(i, j)] = v;
                    part[(j, i)] = v;
                }
            }
        }
    }
    both
}
