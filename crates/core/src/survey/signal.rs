//! What is known of a vehicle's shapes before anything is measured: each wall, the front, floor and
//! roof is a *signal* whose values at neighbouring places go together. The covariances here say how
//! much. Readings then settle the rest (least-squares collocation: Moritz, Advanced Physical
//! Geodesy; the same as a cubic smoothing spline with a diffuse straight part).

use crate::project::survey::Side;

/// A shape of the vehicle that readings are readings of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Signal {
    /// Offset of a wall from the centre line over (x, z).
    Wall(Side),
    /// Distance of the front end from the threshold over (y, z).
    Front,
    /// Height of the floor over (x, y); nothing at the threshold.
    Floor,
    /// Floor to roof over (x, y).
    Roof,
    /// A single number, such as a dimension of a thing, by its index.
    Number(usize),
}

/// A signal at a place, times a factor. A reading is a sum of such terms.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Term {
    /// The factor.
    pub by: f64,
    /// The signal.
    pub signal: Signal,
    /// First coordinate, mm.
    pub u: f64,
    /// Second coordinate, mm.
    pub v: f64,
}

impl Term {
    /// `by` times `signal` at `(u, v)`.
    pub fn new(by: f64, signal: Signal, u: f64, v: f64) -> Self {
        Term { by, signal, u, v }
    }
}

/// Where walls bend sharply, and whether the front was read in one place only.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Ridges {
    /// The front is taken as square across, for want of readings beside the centre line.
    pub square: bool,
    /// Across the bay: side (or both) and x.
    pub x: Vec<(Option<Side>, f64)>,
    /// Along the wall: side (or both) and height.
    pub z: Vec<(Option<Side>, f64)>,
}

/// How strongly walls curve: along the bay and upwards.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bend {
    /// Along, mm per m^1.5.
    pub along: f64,
    /// Up, mm per (0.5 m)^1.5.
    pub up: f64,
}

/// How much of the bends is their interplay: a bulge of its own at one place and height.
const BULGE: f64 = 0.04;

impl Bend {
    /// What the parts of `wall` are multiplied by.
    pub fn weights(self) -> [f64; 4] {
        [
            1.0,
            self.along.powi(2),
            self.up.powi(2),
            BULGE * self.along * self.up,
        ]
    }
}

/// The parts of a wall's covariance: straight and ridges, curvature along, curvature up, and both
/// together; to be multiplied by `Bend::weights`.
pub fn wall(a: &Term, b: &Term, side: Side, ridges: &Ridges) -> [f64; 4] {
    let (x, y) = (a.u / 1000.0, b.u / 1000.0);
    let (v, w) = (a.v / 500.0, b.v / 500.0);
    // A plane of any position and lean, and a little twist: variances in mm2, wide on purpose.
    let mut plain = 1e6 + 9e4 * x * y + 9e4 * v * w + 2.5e3 * x * y * v * w;
    let own = |s: &Option<Side>| s.is_none_or(|s| s == side);
    for (_, c) in ridges.x.iter().filter(|(s, _)| own(s)) {
        let c = c / 1000.0;
        plain += 4e5 * past(x, c) * past(y, c) * (1.0 + 0.1 * v * w);
    }
    for (_, c) in ridges.z.iter().filter(|(s, _)| own(s)) {
        let c = c / 500.0;
        plain += 6e4 * past(v, c) * past(w, c) * (1.0 + 0.006 * x * y);
    }
    [
        plain,
        spline(x, y) * (1.0 + 0.3 * v * w),
        spline(v, w) * (1.0 + 0.3 * x * y),
        spline(x, y) * spline(v, w),
    ]
}

fn past(x: f64, c: f64) -> f64 {
    (x - c).max(0.0)
}

/// Covariance of a curve whose bend wanders at random: the posterior mean is a cubic spline.
fn spline(a: f64, b: f64) -> f64 {
    let (m, n) = (a.min(b).max(0.0), a.max(b).max(0.0));
    m * m * (3.0 * n - m) / 6.0
}

/// Covariance of two terms.
pub fn covariance(a: &Term, b: &Term, bend: Bend, ridges: &Ridges) -> f64 {
    if a.signal != b.signal {
        return 0.0;
    }
    let (u, w) = (a.u / 1000.0, b.u / 1000.0);
    let (v, z) = (a.v / 1000.0, b.v / 1000.0);
    let value = match a.signal {
        Signal::Wall(side) => {
            let parts = wall(a, b, side, ridges);
            parts.iter().zip(bend.weights()).map(|(p, w)| p * w).sum()
        }
        // Square across unless read otherwise (80 mm per m), a bulge (100 mm per m2), a lean that
        // may change at a crease.
        Signal::Front => {
            let across = if ridges.square {
                9.0 * u * w
            } else {
                6400.0 * u * w + 1e4 * u * u * w * w
            };
            let mut sum = 1e8 + across + 1.2e5 * v * z;
            for (_, c) in &ridges.z {
                sum += 2e5 * past(v, c / 1000.0) * past(z, c / 1000.0);
            }
            sum + 4e3 * spline(v, z)
        }
        Signal::Floor => {
            2500.0 * u * w + 900.0 * spline(u, w) + 900.0 * v * z + 1e3 * (v * z).powi(2)
        }
        Signal::Roof => {
            4e6 + 1e4 * u * w + 900.0 * spline(u, w) + 900.0 * v * z + 4e3 * (v * z).powi(2)
        }
        Signal::Number(_) => 1e8,
    };
    a.by * b.by * value
}
