//! A straight prismatic beam over any number of supports: Euler-Bernoulli, stiffness method.
//!
//! Nodes stand at supports, point loads and the ends of uniform loads; cubic elements are then exact at the
//! nodes, and within an element the deflection is the cubic plus `q s^2 (l-s)^2 / (24 EI)`.

use nalgebra::{DMatrix, DVector};

/// A load on the beam; positions from its left end, mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Load {
    /// `q` N/mm downwards from `from` to `to`.
    Uniform {
        /// N/mm.
        q: f64,
        /// Start, mm.
        from: f64,
        /// End, mm.
        to: f64,
    },
    /// `n` newtons downwards at `at`.
    Point {
        /// N.
        n: f64,
        /// Place, mm.
        at: f64,
    },
}

/// A beam on supports at both ends and between its spans.
#[derive(Debug, Clone, PartialEq)]
pub struct Beam {
    /// Span lengths, mm.
    pub spans: Vec<f64>,
    /// Width of the strip, mm.
    pub width: f64,
    /// Depth in the direction of the load, mm.
    pub depth: f64,
    /// Modulus of elasticity, N/mm2.
    pub e: f64,
    /// What stands on it.
    pub loads: Vec<Load>,
}

/// How a beam answers.
#[derive(Debug, Clone, PartialEq)]
pub struct Bent {
    /// Largest deflection of either sign, mm, as a positive number.
    pub max_deflection: f64,
    /// Where, mm from the left end.
    pub at: f64,
    /// Span in which that is, divided by the deflection.
    pub span_over: Option<f64>,
    /// Support forces from the left, N, upwards positive.
    pub reactions: Vec<f64>,
    /// Largest bending moment of either sign, N mm, as a positive number.
    pub max_moment: f64,
    /// Bending stress there, N/mm2.
    pub max_stress: f64,
    /// Per span the deflection of largest size, downwards positive: a hogging span is negative.
    pub sag_by_span: Vec<f64>,
}

/// Shorter spans are none, mm.
const SHORTEST: f64 = 1e-3;
/// Points this close along the beam are one node, mm.
const SAME: f64 = 1e-6;

struct Element {
    start: f64,
    length: f64,
    q: f64,
    span: usize,
}

impl Beam {
    /// Solves the beam. `None` if the numbers are such that the system has no solution.
    pub fn bend(&self) -> Option<Bent> {
        // A span of no length is none: its supports would be one.
        if self.spans.iter().any(|s| !s.is_finite() || *s < SHORTEST) {
            return None;
        }
        let ei = self.e * self.width * self.depth.powi(3) / 12.0;
        let (nodes, supports) = self.nodes();
        let elements = self.elements(&nodes, &supports);
        let n = nodes.len();

        let mut k = DMatrix::<f64>::zeros(2 * n, 2 * n);
        let mut f = DVector::<f64>::zeros(2 * n);
        for (i, el) in elements.iter().enumerate() {
            let (l, b) = (el.length, 2 * i);
            let c = ei / l.powi(3);
            let ke = [
                [12.0, 6.0 * l, -12.0, 6.0 * l],
                [6.0 * l, 4.0 * l * l, -6.0 * l, 2.0 * l * l],
                [-12.0, -6.0 * l, 12.0, -6.0 * l],
                [6.0 * l, 2.0 * l * l, -6.0 * l, 4.0 * l * l],
            ];
            let fe = [
                el.q * l / 2.0,
                el.q * l * l / 12.0,
                el.q * l / 2.0,
                -el.q * l * l / 12.0,
            ];
            for r in 0..4 {
                f[b + r] += fe[r];
                for s in 0..4 {
                    k[(b + r, b + s)] += c * ke[r][s];
                }
            }
        }
        for load in &self.loads {
            if let Load::Point { n, at } = load {
                f[2 * nearest(&nodes, *at)] += n;
            }
        }

        // Supports hold the deflection at zero: solve for the rest.
        let held: Vec<usize> = supports.iter().map(|s| 2 * nearest(&nodes, *s)).collect();
        let free: Vec<usize> = (0..2 * n).filter(|d| !held.contains(d)).collect();
        let kff = DMatrix::from_fn(free.len(), free.len(), |r, c| k[(free[r], free[c])]);
        let ff = DVector::from_fn(free.len(), |r, _| f[free[r]]);
        let uf = kff.cholesky()?.solve(&ff);
        let mut u = DVector::<f64>::zeros(2 * n);
        for (r, d) in free.iter().enumerate() {
            u[*d] = uf[r];
        }
        // Downwards is positive, so the force that the support gives is the load less what the
        // beam's stiffness carries away.
        let carried = &k * &u;
        let reactions = held.iter().map(|d| f[*d] - carried[*d]).collect();
        let bent = self.summary(&elements, &u, ei, reactions);
        bent.max_deflection.is_finite().then_some(bent)
    }

    fn nodes(&self) -> (Vec<f64>, Vec<f64>) {
        let mut supports = vec![0.0];
        for s in &self.spans {
            supports.push(supports[supports.len() - 1] + s);
        }
        let total = supports[supports.len() - 1];
        let mut nodes = supports.clone();
        for load in &self.loads {
            match load {
                Load::Uniform { from, to, .. } => nodes.extend([*from, *to]),
                Load::Point { at, .. } => nodes.push(*at),
            }
        }
        nodes.retain(|x| *x >= 0.0 && *x <= total);
        nodes.sort_by(f64::total_cmp);
        // A support stays where it is; what is within a hair of it moves onto it.
        for x in &mut nodes {
            if let Some(s) = supports.iter().find(|s| (**s - *x).abs() < SAME) {
                *x = *s;
            }
        }
        nodes.dedup_by(|a, b| (*a - *b).abs() < SAME);
        (nodes, supports)
    }

    fn elements(&self, nodes: &[f64], supports: &[f64]) -> Vec<Element> {
        nodes
            .windows(2)
            .map(|w| {
                let middle = (w[0] + w[1]) / 2.0;
                let q = self.loads.iter().map(|l| match l {
                    Load::Uniform { q, from, to } if middle > *from && middle < *to => *q,
                    _ => 0.0,
                });
                Element {
                    start: w[0],
                    length: w[1] - w[0],
                    q: q.sum(),
                    span: supports.iter().filter(|s| **s < middle).count() - 1,
                }
            })
            .collect()
    }

    fn summary(
        &self,
        elements: &[Element],
        u: &DVector<f64>,
        ei: f64,
        reactions: Vec<f64>,
    ) -> Bent {
        let mut sag_by_span = vec![0.0_f64; self.spans.len()];
        let (mut worst, mut at, mut span, mut max_moment) = (0.0_f64, 0.0, 0, 0.0_f64);
        for (i, el) in elements.iter().enumerate() {
            let curve = Curve::new(el, [u[2 * i], u[2 * i + 1], u[2 * i + 2], u[2 * i + 3]], ei);
            for s in curve.flats() {
                let w = curve.deflection(s);
                if w.abs() > sag_by_span[el.span].abs() {
                    sag_by_span[el.span] = w;
                }
                if w.abs() > worst.abs() {
                    (worst, at, span) = (w, el.start + s, el.span);
                }
            }
            max_moment = max_moment.max(curve.largest_moment());
        }
        let max_deflection = worst.abs();
        Bent {
            max_deflection,
            at,
            span_over: (max_deflection > 0.0).then(|| self.spans[span] / max_deflection),
            reactions,
            max_moment,
            max_stress: 6.0 * max_moment / (self.width * self.depth.powi(2)),
            sag_by_span,
        }
    }
}

fn nearest(nodes: &[f64], x: f64) -> usize {
    let mut best = 0;
    for (i, n) in nodes.iter().enumerate() {
        if (n - x).abs() < (nodes[best] - x).abs() {
            best = i;
        }
    }
    best
}

/// The deflection within one element as a quartic in `s`.
struct Curve {
    c: [f64; 5],
    length: f64,
    ei: f64,
}

impl Curve {
    fn new(el: &Element, u: [f64; 4], ei: f64) -> Self {
        let (l, [w1, t1, w2, t2]) = (el.length, u);
        let k = el.q / (24.0 * ei);
        Curve {
            c: [
                w1,
                t1,
                3.0 * (w2 - w1) / l.powi(2) - (2.0 * t1 + t2) / l + k * l * l,
                2.0 * (w1 - w2) / l.powi(3) + (t1 + t2) / l.powi(2) - 2.0 * k * l,
                k,
            ],
            length: l,
            ei,
        }
    }

    fn deflection(&self, s: f64) -> f64 {
        self.c.iter().rev().fold(0.0, |acc, c| acc * s + c)
    }

    fn slope(&self, s: f64) -> f64 {
        let c = self.c;
        c[1] + s * (2.0 * c[2] + s * (3.0 * c[3] + s * 4.0 * c[4]))
    }

    fn moment(&self, s: f64) -> f64 {
        let c = self.c;
        -self.ei * (2.0 * c[2] + s * (6.0 * c[3] + s * 12.0 * c[4]))
    }

    /// The ends, and everywhere between where the slope changes sign (a quartic has three at most).
    fn flats(&self) -> Vec<f64> {
        const STEPS: usize = 24;
        let mut out = vec![0.0, self.length];
        for i in 0..STEPS {
            let at = |j: usize| self.length * j as f64 / STEPS as f64;
            let (mut a, mut b) = (at(i), at(i + 1));
            if self.slope(a) * self.slope(b) > 0.0 {
                continue;
            }
            for _ in 0..60 {
                let m = (a + b) / 2.0;
                if self.slope(a) * self.slope(m) <= 0.0 {
                    b = m;
                } else {
                    a = m;
                }
            }
            out.push((a + b) / 2.0);
        }
        out
    }

    fn largest_moment(&self) -> f64 {
        let mut places = vec![0.0, self.length];
        if self.c[4] != 0.0 {
            // Shear is zero where the third derivative is.
            let s = -self.c[3] / (4.0 * self.c[4]);
            if s > 0.0 && s < self.length {
                places.push(s);
            }
        }
        places
            .iter()
            .map(|s| self.moment(*s).abs())
            .fold(0.0, f64::max)
    }
}

/// Deflection at the free end of a board that lies on two supports `held` mm apart and reaches `out` mm beyond one of
/// them, `n` newtons at its end: P a^2 (L + a) / 3 E I (handbook beam diagrams, from memory). `width` and `depth` in mm, `e` in
/// N/mm2.
pub fn overhang(n: f64, (held, out): (f64, f64), (width, depth): (f64, f64), e: f64) -> f64 {
    let i = width * depth.powi(3) / 12.0;
    n * out * out * (held + out) / (3.0 * e * i)
}
