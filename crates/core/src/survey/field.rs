//! Readings and signals put together: best values and their uncertainty at any place, each reading
//! against what the others say, and its redundancy number.

use nalgebra::{Cholesky, DMatrix, DVector, Dyn};
use pulp::{Arch, Simd, WithSimd};

use super::likely::likely;
use super::memo::Memo;
use super::signal::{Bend, Places, Ridges, Signal, Term, covariance};

/// One reading as an equation: its terms add up to its value.
#[derive(Debug, Clone, PartialEq)]
pub struct Equation {
    /// The reading.
    pub reading: String,
    /// Key of its quantity.
    pub key: String,
    /// What it says, mm.
    pub value: f64,
    /// Its standard deviation, mm.
    pub sd: f64,
    /// What it is a reading of.
    pub terms: Vec<Term>,
    /// How many readings it stands for.
    pub of: usize,
    /// It is of a body whose own place is unknown too: a captured curve, a board held in place.
    pub body: bool,
}

/// Solved equations.
#[derive(Debug, Clone, Default)]
pub struct Field {
    equations: Vec<Equation>,
    bend: Bend,
    ridges: Ridges,
    factor: Option<Cholesky<f64, Dyn>>,
    weights: DVector<f64>,
    /// The terms of all equations by signal: a value needs only those that tell of its own signal.
    known: Vec<Known>,
    values: Memo<f64>,
    doubted: Memo<(f64, f64)>,
}

/// All terms of one signal.
#[derive(Debug, Clone)]
struct Known {
    signal: Signal,
    /// Each with the number of its equation.
    terms: Vec<(Term, usize)>,
    /// Where they are, if it is a wall.
    places: Places,
}

/// A reading against all the others.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Standing {
    /// What the others say less what it says, over the standard deviation of that difference.
    pub w: f64,
    /// The others' value less its own, mm.
    pub off: f64,
    /// Redundancy number: 0 when nothing checks it, towards 1 when the rest is surer than it.
    pub redundancy: f64,
}

impl Field {
    /// Solves with a known bend.
    pub fn new(equations: Vec<Equation>, ridges: Ridges, bend: Bend) -> Field {
        let n = equations.len();
        let mut k = DMatrix::zeros(n, n);
        for i in 0..n {
            for j in 0..=i {
                let mut sum = if i == j { equations[i].sd.powi(2) } else { 0.0 };
                for a in &equations[i].terms {
                    for b in &equations[j].terms {
                        sum += covariance(a, b, bend, &ridges);
                    }
                }
                k[(i, j)] = sum;
                k[(j, i)] = sum;
            }
        }
        let values = DVector::from_iterator(n, equations.iter().map(|e| e.value));
        let factor = (n > 0).then(|| k.cholesky()).flatten();
        let weights = match &factor {
            Some(f) => f.solve(&values),
            None => DVector::zeros(n),
        };
        let mut known: Vec<Known> = Vec::new();
        for (i, e) in equations.iter().enumerate() {
            for term in &e.terms {
                let at = known.iter().position(|k| k.signal == term.signal);
                let at = at.unwrap_or_else(|| {
                    known.push(Known {
                        signal: term.signal,
                        terms: vec![],
                        places: Places::default(),
                    });
                    known.len() - 1
                });
                known[at].terms.push((*term, i));
                known[at].places.push(term);
            }
        }
        Field {
            equations,
            bend,
            ridges,
            factor,
            weights,
            known,
            values: Memo::default(),
            doubted: Memo::default(),
        }
    }

    /// Solves with the bend that makes the wall readings most likely, leaning to the usual.
    pub fn fitted(equations: Vec<Equation>, ridges: Ridges) -> Field {
        let bend = likely(&equations, &ridges);
        Field::new(equations, ridges, bend)
    }

    /// The bend it was solved with.
    pub fn bend(&self) -> Bend {
        self.bend
    }

    /// The equations.
    pub fn equations(&self) -> &[Equation] {
        &self.equations
    }

    fn cov(&self, a: &[Term], b: &[Term]) -> f64 {
        let mut sum = 0.0;
        for s in a {
            for t in b {
                sum += covariance(s, t, self.bend, &self.ridges);
            }
        }
        sum
    }

    /// What each equation's terms tell of a term: number of the equation, covariance.
    fn each(&self, t: &Term, mut told: impl FnMut(usize, f64)) {
        for k in self.known.iter().filter(|k| k.signal.tells_of(t.signal)) {
            if let (Signal::Wall(side), Signal::Wall(other)) = (k.signal, t.signal) {
                let all = k.places.with(side, (other, t), self.bend, &self.ridges);
                for ((own, i), one) in k.terms.iter().zip(all) {
                    told(*i, own.by * t.by * one);
                }
            } else {
                for (own, i) in &k.terms {
                    told(*i, covariance(own, t, self.bend, &self.ridges));
                }
            }
        }
    }

    fn column(&self, terms: &[Term]) -> DVector<f64> {
        let mut out = DVector::zeros(self.equations.len());
        for t in terms {
            self.each(t, |i, one| out[i] += one);
        }
        out
    }

    /// Best value of a sum of terms, mm.
    pub fn value(&self, terms: &[Term]) -> f64 {
        self.values.of(terms, || self.value_of(terms))
    }

    fn value_of(&self, terms: &[Term]) -> f64 {
        let one = |t: &Term| {
            let mut sum = 0.0;
            self.each(t, |i, one| sum += self.weights[i] * one);
            sum
        };
        terms.iter().map(one).sum()
    }

    /// Best value and its standard deviation, mm.
    pub fn at(&self, terms: &[Term]) -> (f64, f64) {
        self.doubted.of(terms, || self.doubted_of(terms))
    }

    fn doubted_of(&self, terms: &[Term]) -> (f64, f64) {
        let column = self.column(terms);
        let value = column.dot(&self.weights);
        let settled = self.factor.as_ref().map_or(0.0, |f| {
            let mut half = [column];
            half_solve(f, &mut half);
            half[0].norm_squared()
        });
        let variance = (self.cov(terms, terms) - settled).max(0.0);
        (value, variance.sqrt())
    }

    /// The same at many places.
    pub fn at_all(&self, places: &[Term]) -> Vec<(f64, f64)> {
        /// So many are solved together: they and a column of the factor stay at hand.
        const TOGETHER: usize = 8;
        let one = |i: usize| std::slice::from_ref(&places[i]);
        let known: Vec<Option<(f64, f64)>> = (0..places.len())
            .map(|i| self.doubted.get(one(i)))
            .collect();
        let missing = (0..places.len()).filter(|i| known[*i].is_none());
        let missing: Vec<usize> = missing.collect();
        let mut new = missing.chunks(TOGETHER).flat_map(|block| {
            let mut columns: Vec<DVector<f64>> =
                block.iter().map(|i| self.column(one(*i))).collect();
            let values: Vec<f64> = columns.iter().map(|c| c.dot(&self.weights)).collect();
            if let Some(f) = &self.factor {
                half_solve(f, &mut columns);
            }
            let all = block.iter().zip(values).zip(columns);
            let all = all.map(|((i, value), half)| {
                let settled = self.factor.as_ref().map_or(0.0, |_| half.norm_squared());
                let variance = (self.cov(one(*i), one(*i)) - settled).max(0.0);
                let answer = (value, variance.sqrt());
                self.doubted.put(one(*i), answer);
                answer
            });
            all.collect::<Vec<_>>()
        });
        known
            .into_iter()
            .map(|k| k.or_else(|| new.next()).unwrap_or_default())
            .collect()
    }

    /// Every reading against the others, in order.
    pub fn standings(&self) -> Vec<Standing> {
        let Some(f) = &self.factor else {
            return vec![];
        };
        let inverse = f.inverse();
        self.equations
            .iter()
            .enumerate()
            .map(|(i, e)| {
                let q = inverse[(i, i)];
                Standing {
                    w: -self.weights[i] / q.sqrt(),
                    off: -self.weights[i] / q,
                    redundancy: (q * e.sd * e.sd).clamp(0.0, 1.0),
                }
            })
            .collect()
    }

    /// Correlation of the standings of two readings.
    pub fn alike(&self, i: usize) -> Vec<f64> {
        let Some(f) = &self.factor else {
            return vec![];
        };
        let inverse = f.inverse();
        let n = self.equations.len();
        (0..n)
            .map(|j| inverse[(i, j)] / (inverse[(i, i)] * inverse[(j, j)]).sqrt())
            .collect()
    }
}

/// Forward substitution, in place: the half of solving that a variance needs. As the library's, column by column, but for what is
/// nought, and that is much: readings of the roof tell nothing of a wall. Several at once take each column while it is at hand.
fn half_solve(factor: &Cholesky<f64, Dyn>, all: &mut [DVector<f64>]) {
    Arch::new().dispatch(Half(factor, all));
}

/// Run with wider registers where the machine has them: the same sums, more of them at a time.
struct Half<'a>(&'a Cholesky<f64, Dyn>, &'a mut [DVector<f64>]);

impl WithSimd for Half<'_> {
    type Output = ();

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) {
        let Half(factor, all) = self;
        let l = factor.l_dirty();
        let n = l.nrows();
        for (i, column) in l.as_slice().chunks_exact(n.max(1)).enumerate() {
            for b in all.iter_mut() {
                let Some((first, rest)) = b.as_mut_slice()[i..].split_first_mut() else {
                    continue;
                };
                if *first == 0.0 {
                    continue;
                }
                *first /= column[i];
                let by = *first;
                for (v, l) in rest.iter_mut().zip(&column[i + 1..]) {
                    *v -= by * l;
                }
            }
        }
    }
}

/// What further readings would do to the doubt at some places, before any is taken.
#[derive(Debug, Clone)]
pub struct Outlook<'a> {
    field: &'a Field,
    points: &'a [Vec<Term>],
    /// Half-solved column of each point.
    halves: Vec<DVector<f64>>,
    /// For each point taken so far, its covariance with every point over its own deviation.
    taken: Vec<Vec<f64>>,
    cross: DMatrix<f64>,
    target_var: Vec<f64>,
    point_var: Vec<f64>,
}

impl Field {
    /// Doubt at `targets`, and what readings of `points` would do to it.
    pub fn outlook<'a>(&'a self, targets: &[Vec<Term>], points: &'a [Vec<Term>]) -> Outlook<'a> {
        let half = |terms: &Vec<Term>| {
            let mut column = [self.column(terms)];
            if let Some(f) = &self.factor {
                half_solve(f, &mut column);
            }
            let [half] = column;
            half
        };
        let t: Vec<_> = targets.iter().map(half).collect();
        let halves: Vec<_> = points.iter().map(half).collect();
        let left = |a: &Vec<Term>, h: &DVector<f64>| (self.cov(a, a) - h.norm_squared()).max(0.0);
        Outlook {
            field: self,
            points,
            target_var: targets.iter().zip(&t).map(|(a, h)| left(a, h)).collect(),
            point_var: points
                .iter()
                .zip(&halves)
                .map(|(a, h)| left(a, h))
                .collect(),
            cross: DMatrix::from_fn(t.len(), halves.len(), |i, j| {
                self.cov(&targets[i], &points[j]) - t[i].dot(&halves[j])
            }),
            halves,
            taken: vec![],
        }
    }
}

impl Outlook<'_> {
    /// Largest standard deviation at the targets.
    pub fn worst(&self) -> f64 {
        self.target_var.iter().copied().fold(0.0, f64::max).sqrt()
    }

    /// By how much the summed variance above `goal` squared falls when point `c` is read.
    pub fn gain(&self, c: usize, noise: f64, goal: f64) -> f64 {
        let spread = self.point_var[c] + noise * noise;
        let floor = goal * goal;
        let each = self.target_var.iter().enumerate().map(|(t, var)| {
            let after = var - self.cross[(t, c)].powi(2) / spread;
            (var.max(floor) - after.max(floor)).max(0.0)
        });
        each.sum()
    }

    /// The standard deviation before and after at the target that reading point `c` helps most.
    pub fn helped(&self, c: usize, noise: f64) -> (f64, f64) {
        let spread = self.point_var[c] + noise * noise;
        let each = self.target_var.iter().enumerate().map(|(t, var)| {
            let after = (var - self.cross[(t, c)].powi(2) / spread).max(0.0);
            (var.sqrt(), after.sqrt())
        });
        each.max_by(|a, b| (a.0 - a.1).total_cmp(&(b.0 - b.1)))
            .unwrap_or((0.0, 0.0))
    }

    /// Takes point `c` as read.
    pub fn take(&mut self, c: usize, noise: f64) {
        let deviation = (self.point_var[c] + noise * noise).sqrt();
        // The covariances of one point with all others are only worked out when it is taken.
        let among: Vec<f64> = (0..self.points.len())
            .map(|q| {
                let before: f64 = self.taken.iter().map(|s| s[q] * s[c]).sum();
                let own = self.field.cov(&self.points[q], &self.points[c]);
                (own - self.halves[q].dot(&self.halves[c]) - before) / deviation
            })
            .collect();
        for (t, var) in self.target_var.iter_mut().enumerate() {
            let to = self.cross[(t, c)] / deviation;
            *var = (*var - to * to).max(0.0);
            for (q, a) in among.iter().enumerate() {
                self.cross[(t, q)] -= to * a;
            }
        }
        for (var, a) in self.point_var.iter_mut().zip(&among) {
            *var = (*var - a * a).max(0.0);
        }
        self.taken.push(among);
    }
}
