//! A network of points in the plane adjusted by weighted least squares (Gauss-Newton), with error
//! ellipses, redundancy numbers and data snooping. The observation equations are those of any
//! surveying textbook; weights are `1/sd^2`, the variance factor before adjustment is 1.

mod equation;
mod skyline;
mod snoop;
mod start;

pub use equation::{Kind, Observation};
pub use snoop::{CRITICAL, Snooped, snoop};

use equation::Row;
use skyline::{Factor, Inverse, Skyline};

/// Steps below this end the iteration, mm.
const DONE: f64 = 1e-7;
/// Gauss-Newton steps at most.
const STEPS: usize = 60;

/// A point of the network.
#[derive(Debug, Clone, PartialEq)]
pub struct Node {
    /// What it is called.
    pub name: String,
    /// Where it is, or is guessed to be, mm.
    pub xy: Option<[f64; 2]>,
    /// Whether x and y are held.
    pub fixed: [bool; 2],
}

/// Points and readings.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Network {
    /// The points.
    pub points: Vec<Node>,
    /// The readings.
    pub readings: Vec<Observation>,
}

/// Why a network has no answer.
#[derive(Debug, Clone, PartialEq)]
pub enum Unsolved {
    /// The readings do not determine these points.
    Undetermined(Vec<String>),
    /// The iteration found no rest: readings contradict each other beyond repair.
    Restless,
}

/// An adjusted network.
#[derive(Debug, Clone)]
pub struct Adjusted {
    /// Coordinates of every point, mm.
    pub xy: Vec<[f64; 2]>,
    /// Covariance of each point: variance of x, of y, and their covariance, mm2.
    pub cov: Vec<[f64; 3]>,
    /// Adjusted less measured, mm.
    pub residual: Vec<f64>,
    /// Redundancy number of each reading, 0 (unchecked) to 1.
    pub redundancy: Vec<f64>,
    /// Readings less unknowns.
    pub dof: usize,
    /// Sum of squared weighted residuals over `dof`.
    pub variance_factor: f64,
    /// Gauss-Newton steps.
    pub iterations: usize,
    rows: Vec<Row>,
    inverse: Inverse,
    numbers: Vec<[Option<usize>; 2]>,
}

/// The normal equations of a network: which coordinate is which unknown, and the envelope.
struct Normal {
    numbers: Vec<[Option<usize>; 2]>,
    matrix: Skyline,
}

impl Network {
    /// Adjusts with the readings for which `used` is true.
    ///
    /// # Errors
    /// A point the readings do not determine, or no convergence.
    pub fn adjust(&self, used: &[bool], from: Option<&[[f64; 2]]>) -> Result<Adjusted, Unsolved> {
        let mut xy = match from {
            Some(xy) => xy.to_vec(),
            None => start::values(self).map_err(Unsolved::Undetermined)?,
        };
        let mut normal = self.normal(used);
        let mut iterations = 0;
        let mut factor: Option<Factor> = None;
        let mut before = f64::INFINITY;
        loop {
            let rows = self.rows(&xy);
            // A factor serves for several steps while each is much shorter than the last.
            let kept = match factor.take() {
                Some(f) => f,
                None => self.factor(&mut normal, &rows, used)?,
            };
            let step = kept.solve(&self.right_side(&normal, &rows, used));
            let length = step.iter().fold(0.0_f64, |m, s| m.max(s.abs()));
            if !length.is_finite() || iterations >= STEPS {
                return Err(Unsolved::Restless);
            }
            iterations += 1;
            let share = self.descend(&mut xy, &normal, &step, used);
            if length * share < DONE {
                break;
            }
            if length < before * 0.2 && share == 1.0 {
                factor = Some(kept);
            }
            before = length;
        }
        self.result(xy, normal, used, iterations)
    }

    /// Moves along `step`, halved until the sum of squares does not grow; returns the share taken.
    fn descend(&self, xy: &mut Vec<[f64; 2]>, normal: &Normal, step: &[f64], used: &[bool]) -> f64 {
        let here = self.sum(&self.rows(xy), used);
        let mut share = 1.0;
        loop {
            let mut to = xy.clone();
            for (p, n) in to.iter_mut().zip(&normal.numbers) {
                for axis in 0..2 {
                    if let Some(k) = n[axis] {
                        p[axis] += share * step[k];
                    }
                }
            }
            if self.sum(&self.rows(&to), used) <= here * (1.0 + 1e-9) + 1e-12 || share < 1e-4 {
                *xy = to;
                return share;
            }
            share /= 2.0;
        }
    }

    fn sum(&self, rows: &[Row], used: &[bool]) -> f64 {
        let readings = self.readings.iter().zip(rows).zip(used);
        readings
            .filter(|(_, used)| **used)
            .map(|((o, r), _)| ((r.value - o.value) / o.sd).powi(2))
            .sum()
    }

    fn rows(&self, xy: &[[f64; 2]]) -> Vec<Row> {
        self.readings.iter().map(|o| o.row(xy)).collect()
    }

    fn normal(&self, used: &[bool]) -> Normal {
        let mut neighbours = vec![Vec::new(); self.points.len()];
        for (o, _) in self.readings.iter().zip(used).filter(|(_, u)| **u) {
            let points = o.points();
            for a in &points {
                neighbours[*a].extend(points.iter().copied().filter(|b| b != a));
            }
        }
        let mut numbers = vec![[None, None]; self.points.len()];
        let mut count = 0;
        for p in skyline::order(&neighbours) {
            for (number, held) in numbers[p].iter_mut().zip(self.points[p].fixed) {
                if !held {
                    *number = Some(count);
                    count += 1;
                }
            }
        }
        let mut first: Vec<usize> = (0..count).collect();
        for (p, n) in numbers.iter().enumerate() {
            let lowest = neighbours[p]
                .iter()
                .chain([&p])
                .flat_map(|q| numbers[*q].into_iter().flatten())
                .min();
            for k in n.iter().flatten() {
                first[*k] = first[*k].min(lowest.unwrap_or(*k));
            }
        }
        Normal {
            numbers,
            matrix: Skyline::new(first),
        }
    }

    fn factor(&self, normal: &mut Normal, rows: &[Row], used: &[bool]) -> Result<Factor, Unsolved> {
        normal.matrix.clear();
        for ((o, row), _) in self
            .readings
            .iter()
            .zip(rows)
            .zip(used)
            .filter(|(_, u)| **u)
        {
            let weight = o.sd.powi(-2);
            let terms = row.terms(&normal.numbers);
            for (i, a) in &terms {
                for (j, b) in &terms {
                    if j <= i {
                        normal.matrix.add(*i, *j, weight * a * b);
                    }
                }
            }
        }
        let (factor, weak) = normal.matrix.factor();
        if weak.is_empty() {
            return Ok(factor);
        }
        // Whatever moves freely with a vanished pivot is as undetermined as that one: the null
        // vector is the answer to a push at it.
        let mut names = Vec::new();
        for w in weak {
            let mut push = vec![0.0; normal.matrix.len()];
            push[w] = 1e60;
            let moved = factor.solve(&push);
            let most = moved.iter().fold(0.0_f64, |m, v| m.max(v.abs()));
            for (p, n) in self.points.iter().zip(&normal.numbers) {
                let moves = n.iter().flatten().any(|k| moved[*k].abs() > 1e-3 * most);
                if moves && !names.contains(&p.name) {
                    names.push(p.name.clone());
                }
            }
        }
        Err(Unsolved::Undetermined(names))
    }

    fn right_side(&self, normal: &Normal, rows: &[Row], used: &[bool]) -> Vec<f64> {
        let mut b = vec![0.0; normal.matrix.len()];
        for ((o, row), _) in self
            .readings
            .iter()
            .zip(rows)
            .zip(used)
            .filter(|(_, u)| **u)
        {
            let weighted = (o.value - row.value) / (o.sd * o.sd);
            for (i, a) in row.terms(&normal.numbers) {
                b[i] += a * weighted;
            }
        }
        b
    }

    fn result(
        &self,
        xy: Vec<[f64; 2]>,
        mut normal: Normal,
        used: &[bool],
        iterations: usize,
    ) -> Result<Adjusted, Unsolved> {
        let rows = self.rows(&xy);
        let inverse = self.factor(&mut normal, &rows, used)?.inverse();
        let numbers = normal.numbers;
        let entry = |i: Option<usize>, j: Option<usize>| match (i, j) {
            (Some(i), Some(j)) => inverse.at(i, j),
            _ => 0.0,
        };
        let cov = numbers
            .iter()
            .map(|n| [entry(n[0], n[0]), entry(n[1], n[1]), entry(n[0], n[1])]);
        let mut out = Adjusted {
            cov: cov.collect(),
            residual: self
                .readings
                .iter()
                .zip(&rows)
                .map(|(o, r)| r.value - o.value)
                .collect(),
            redundancy: vec![],
            dof: 0,
            variance_factor: 0.0,
            iterations,
            xy,
            rows,
            inverse,
            numbers,
        };
        for (i, o) in self.readings.iter().enumerate() {
            let share = out.variance(i, i) / (o.sd * o.sd);
            // One left out is told with the redundancy it would have.
            let r = if used[i] {
                1.0 - share
            } else {
                1.0 / (1.0 + share)
            };
            out.redundancy.push(r.clamp(0.0, 1.0));
        }
        let count = used.iter().filter(|u| **u).count();
        out.dof = count.saturating_sub(normal.matrix.len());
        if out.dof > 0 {
            out.variance_factor = self.sum(&out.rows, used) / out.dof as f64;
        }
        Ok(out)
    }
}

impl Adjusted {
    /// Covariance of the adjusted values of readings `i` and `j`, mm2.
    fn variance(&self, i: usize, j: usize) -> f64 {
        let (a, b) = (
            self.rows[i].terms(&self.numbers),
            self.rows[j].terms(&self.numbers),
        );
        let mut sum = 0.0;
        for (k, u) in &a {
            for (l, v) in &b {
                sum += u * v * self.inverse.at(*k, *l);
            }
        }
        sum
    }
}
