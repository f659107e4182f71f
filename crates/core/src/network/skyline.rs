//! A symmetric positive matrix kept as its envelope (each row from its first entry to the diagonal),
//! its Cholesky factor, and the inverse of that factor. Numbering the unknowns by reverse
//! Cuthill-McKee keeps the rows of a network short.

/// Pivots below this share of their diagonal count as nothing: the unknown is not determined.
const PIVOT: f64 = 1e-10;

/// Lower triangle by rows, each from its first entry.
#[derive(Debug, Clone)]
pub struct Skyline {
    first: Vec<usize>,
    rows: Vec<Vec<f64>>,
}

impl Skyline {
    /// All zero, row `i` reaching back to `first[i]`.
    pub fn new(first: Vec<usize>) -> Self {
        let rows = first.iter().enumerate().map(|(i, f)| vec![0.0; i + 1 - f]);
        Skyline {
            rows: rows.collect(),
            first,
        }
    }

    /// Number of unknowns.
    pub fn len(&self) -> usize {
        self.rows.len()
    }

    /// Sets every entry to zero.
    pub fn clear(&mut self) {
        self.rows.iter_mut().for_each(|r| r.fill(0.0));
    }

    /// Adds to the entry at `(i, j)` with `j <= i`; it must lie in the envelope.
    pub fn add(&mut self, i: usize, j: usize, v: f64) {
        self.rows[i][j - self.first[i]] += v;
    }

    /// The Cholesky factor `L` with `N = L L'`, and the unknowns whose pivot vanished: the readings
    /// do not determine them.
    pub fn factor(&self) -> (Factor, Vec<usize>) {
        let mut l = self.clone();
        let mut weak = Vec::new();
        for i in 0..l.len() {
            let (done, rest) = l.rows.split_at_mut(i);
            let (row, fi) = (&mut rest[0], l.first[i]);
            for j in fi..i {
                let (other, fj) = (&done[j], l.first[j]);
                let from = fi.max(fj);
                let sum = dot(&row[from - fi..j - fi], &other[from - fj..j - fj]);
                row[j - fi] = (row[j - fi] - sum) / other[j - fj];
            }
            let whole = row[i - fi];
            let pivot = whole - dot(&row[..i - fi], &row[..i - fi]);
            if pivot > PIVOT * whole && pivot > 0.0 {
                row[i - fi] = pivot.sqrt();
            } else {
                weak.push(i);
                // Held where it is, so that the rest can be told.
                row[i - fi] = 1e30;
            }
        }
        (Factor(l), weak)
    }
}

/// A Cholesky factor.
#[derive(Debug, Clone)]
pub struct Factor(Skyline);

impl Factor {
    /// Solves `N x = b`.
    pub fn solve(&self, b: &[f64]) -> Vec<f64> {
        let mut x = b.to_vec();
        let l = &self.0;
        for i in 0..x.len() {
            let f = l.first[i];
            let n = i - f;
            x[i] = (x[i] - dot(&l.rows[i][..n], &x[f..i])) / l.rows[i][n];
        }
        for i in (0..x.len()).rev() {
            let f = l.first[i];
            x[i] /= l.rows[i][i - f];
            let (head, v) = (&mut x[f..=i], l.rows[i][..i - f].iter());
            let xi = head[i - f];
            head.iter_mut().zip(v).for_each(|(h, lij)| *h -= lij * xi);
        }
        x
    }

    /// The inverse of `N`, by the columns of the inverse of `L`.
    pub fn inverse(&self) -> Inverse {
        let l = &self.0;
        let n = l.len();
        let columns = (0..n).map(|j| {
            let mut m = vec![0.0; n - j];
            m[0] = 1.0 / l.rows[j][j - l.first[j]];
            for i in j + 1..n {
                let from = l.first[i].max(j);
                if from < i {
                    let f = l.first[i];
                    let sum = dot(&l.rows[i][from - f..i - f], &m[from - j..i - j]);
                    m[i - j] = -sum / l.rows[i][i - f];
                }
            }
            m
        });
        Inverse {
            columns: columns.collect(),
        }
    }
}

/// The inverse matrix, entry by entry on demand.
#[derive(Debug, Clone)]
pub struct Inverse {
    columns: Vec<Vec<f64>>,
}

impl Inverse {
    /// The entry at `(i, j)`.
    pub fn at(&self, i: usize, j: usize) -> f64 {
        let (lo, hi) = (i.min(j), i.max(j));
        dot(&self.columns[lo][hi - lo..], &self.columns[hi])
    }
}

/// Scalar product with eight running sums, which the compiler can keep in vector registers.
fn dot(a: &[f64], b: &[f64]) -> f64 {
    let mut sums = [0.0; 8];
    let (ca, cb) = (a.chunks_exact(8), b.chunks_exact(8));
    let tail: f64 = ca
        .remainder()
        .iter()
        .zip(cb.remainder())
        .map(|(x, y)| x * y)
        .sum();
    for (x, y) in ca.zip(cb) {
        for k in 0..8 {
            sums[k] += x[k] * y[k];
        }
    }
    sums.iter().sum::<f64>() + tail
}

/// Reverse Cuthill-McKee: an order of the nodes of a graph in which neighbours stay close.
pub fn order(neighbours: &[Vec<usize>]) -> Vec<usize> {
    let n = neighbours.len();
    let mut seen = vec![false; n];
    let mut out = Vec::with_capacity(n);
    let mut starts: Vec<usize> = (0..n).collect();
    starts.sort_by_key(|i| neighbours[*i].len());
    for s in starts {
        if seen[s] {
            continue;
        }
        // Start at the far end of the part: a second sweep from the last node reached.
        let far = *sweep(neighbours, s, &mut vec![false; n])
            .last()
            .unwrap_or(&s);
        out.extend(sweep(neighbours, far, &mut seen));
    }
    out.reverse();
    out
}

fn sweep(neighbours: &[Vec<usize>], from: usize, seen: &mut [bool]) -> Vec<usize> {
    let mut out = vec![from];
    seen[from] = true;
    let mut at = 0;
    while at < out.len() {
        let mut next: Vec<usize> = neighbours[out[at]]
            .iter()
            .copied()
            .filter(|k| !seen[*k])
            .collect();
        next.sort_by_key(|k| (neighbours[*k].len(), *k));
        next.dedup();
        for k in next {
            seen[k] = true;
            out.push(k);
        }
        at += 1;
    }
    out
}
