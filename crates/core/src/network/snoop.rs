//! Data snooping (Baarda 1968): the reading with the largest standardised residual beyond the
//! critical value is taken out, the network adjusted again, until none is left.

use super::{Adjusted, Network, Unsolved};

/// Critical value of a standardised residual: two-sided normal test at 0.001 (Baarda).
pub const CRITICAL: f64 = 3.29;
/// Standardised residuals correlated beyond this cannot be told apart.
const SAME: f64 = 0.999;
/// Redundancy below this is no check at all.
const UNCHECKED: f64 = 1e-6;

/// A network without its blunders.
#[derive(Debug, Clone)]
pub struct Snooped {
    /// Adjusted without the suspects that could be spared.
    pub adjusted: Adjusted,
    /// Standardised residual of every reading.
    pub standardized: Vec<f64>,
    /// Readings taken for blunders, the most suspect first.
    pub suspects: Vec<usize>,
    /// Suspects that had to stay: without them a point is not determined.
    pub kept: Vec<usize>,
    /// Suspects that cannot be told from each other: reading any of them again decides.
    pub alike: Vec<Vec<usize>>,
}

/// Adjusts and takes out blunders.
///
/// # Errors
/// As `Network::adjust`, for the network with all its readings.
pub fn snoop(net: &Network) -> Result<Snooped, Unsolved> {
    let mut used = vec![true; net.readings.len()];
    let mut now = net.adjust(&used, None)?;
    let (mut suspects, mut kept, mut alike) = (Vec::new(), Vec::new(), Vec::new());
    loop {
        let w = standardized(net, &now, &used);
        let worst = (0..used.len())
            .filter(|i| used[*i] && !kept.contains(i) && w[*i].abs() > CRITICAL)
            .max_by(|a, b| {
                let order = w[*a].abs().total_cmp(&w[*b].abs());
                // Ties go to the earlier reading.
                if (w[*a].abs() - w[*b].abs()).abs() < 1e-6 {
                    b.cmp(a)
                } else {
                    order
                }
            });
        let Some(i) = worst else {
            return Ok(Snooped {
                standardized: w,
                adjusted: now,
                suspects,
                kept,
                alike,
            });
        };
        let twins: Vec<usize> = (0..used.len())
            .filter(|j| *j != i && used[*j] && now.redundancy[*j] > UNCHECKED)
            .filter(|j| correlation(net, &now, i, *j).abs() > SAME)
            .collect();
        suspects.push(i);
        used[i] = false;
        match net.adjust(&used, Some(&now.xy)) {
            Ok(next) => now = next,
            Err(_) => {
                used[i] = true;
                kept.push(i);
            }
        }
        if !twins.is_empty() {
            // With the first out, nothing checks the others: they are as suspect, and stay.
            let mut group = vec![i];
            for j in twins {
                if !suspects.contains(&j) {
                    suspects.push(j);
                    kept.push(j);
                }
                group.push(j);
            }
            alike.push(group);
        }
    }
}

/// `v / (sd sqrt(r))`; for a reading left out, against its prediction.
fn standardized(net: &Network, a: &Adjusted, used: &[bool]) -> Vec<f64> {
    let each = net.readings.iter().enumerate();
    each.map(|(i, o)| {
        let r = a.redundancy[i];
        if !used[i] {
            return a.residual[i] / (o.sd * r.max(1e-12).sqrt().recip());
        }
        if r <= UNCHECKED {
            return 0.0;
        }
        a.residual[i] / (o.sd * r.sqrt())
    })
    .collect()
}

/// Correlation of the residuals of two readings.
fn correlation(net: &Network, a: &Adjusted, i: usize, j: usize) -> f64 {
    let scale =
        net.readings[i].sd * net.readings[j].sd * (a.redundancy[i] * a.redundancy[j]).sqrt();
    -a.variance(i, j) / scale
}
