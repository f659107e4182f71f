//! Points of a scan: placed in the vehicle by three points known in both, cut at a height, and the
//! walls found in the cut in spite of stray points and holes.

use nalgebra::{Matrix3, Vector3};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::input::MAX_LENGTH;
use crate::problem::Problem;
use crate::project::survey::{Quantity, Side};

/// Half the thickness of a cut, mm.
const HALF: f64 = 8.0;
/// Length of wall over which points are put together, mm.
const BIN: f64 = 30.0;
/// Fewer points make no wall.
const LEAST: usize = 6;
/// A point further than this many deviations from its fellows is a stray.
const STRAY: f64 = 3.0;
/// Deviations from the median absolute one, for normal noise (1 / 0.6745).
const NORMAL: f64 = 1.4826;
/// A wall point is never surer than this: the scan was placed by hand (a choice), mm.
const PLACED: f64 = 0.7;

/// A rigid placement of the scan in the vehicle.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Placement {
    turn: Matrix3<f64>,
    shift: Vector3<f64>,
    /// Root mean square of what is left at the points it was found from, mm.
    pub rms: f64,
}

/// A point as the scanner has it and as it is in the vehicle, mm.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Pair {
    /// In the scan.
    #[schema(value_type = Vec<f64>)]
    pub scan: [f64; 3],
    /// In the vehicle.
    #[schema(value_type = Vec<f64>)]
    pub vehicle: [f64; 3],
}

/// A piece of wall or front found in a cut.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Found {
    /// What it is a reading of.
    pub quantity: Quantity,
    /// Its value, mm.
    pub mm: f64,
    /// Its standard deviation, mm.
    pub sd: f64,
    /// Points it comes from.
    pub points: usize,
}

impl Placement {
    /// The scan lies in the vehicle frame already.
    pub fn none() -> Self {
        Placement {
            turn: Matrix3::identity(),
            shift: Vector3::zeros(),
            rms: 0.0,
        }
    }

    /// The turn and shift that bring the scan's points closest to the vehicle's: least squares by
    /// singular values (Arun, Huang, Blostein 1987).
    ///
    /// # Errors
    /// Fewer than three points, or points on one line; a fit that leaves more than 50 mm.
    pub fn from_pairs(pairs: &[Pair]) -> Result<Self, Problem> {
        if pairs.len() < 3 {
            return Err(Problem::impossible(
                "/pairs",
                "Three points are needed to place a scan.",
            ));
        }
        let n = pairs.len() as f64;
        let a: Vec<Vector3<f64>> = pairs.iter().map(|p| Vector3::from(p.scan)).collect();
        let b: Vec<Vector3<f64>> = pairs.iter().map(|p| Vector3::from(p.vehicle)).collect();
        let mean = |v: &[Vector3<f64>]| v.iter().sum::<Vector3<f64>>() / n;
        let (ma, mb) = (mean(&a), mean(&b));
        let mut h = Matrix3::zeros();
        for (p, q) in a.iter().zip(&b) {
            h += (p - ma) * (q - mb).transpose();
        }
        let svd = h.svd(true, true);
        let (Some(u), Some(vt)) = (svd.u, svd.v_t) else {
            return Err(Problem::impossible("/pairs", "These points place nothing."));
        };
        // The second singular value vanishes when the points lie on one line.
        if svd.singular_values[1] < 1e-3 * svd.singular_values[0].max(1.0) {
            return Err(Problem::impossible(
                "/pairs",
                "The three points lie on one line: choose them further apart.",
            ));
        }
        let mut v = vt.transpose();
        if (v * u.transpose()).determinant() < 0.0 {
            v.column_mut(2).neg_mut();
        }
        let turn = v * u.transpose();
        let shift = mb - turn * ma;
        let left: f64 = a
            .iter()
            .zip(&b)
            .map(|(p, q)| (turn * p + shift - q).norm_squared())
            .sum();
        let rms = (left / n).sqrt();
        if rms > 50.0 {
            return Err(Problem::impossible(
                "/pairs",
                format!(
                    "The points do not match: {rms:.0} mm are left between scan and vehicle. Is one of them mistaken?"
                ),
            ));
        }
        Ok(Placement { turn, shift, rms })
    }

    /// A point of the scan in the vehicle.
    pub fn apply(&self, p: [f64; 3]) -> [f64; 3] {
        (self.turn * Vector3::from(p) + self.shift).into()
    }
}

/// Within the largest vehicle there is: what a scan holds beyond is none of it.
fn near(v: f64) -> bool {
    v.abs() <= MAX_LENGTH
}

/// Points of the scan within a cut at height `z`, in plan.
pub fn slice(points: &[[f32; 3]], placed: &Placement, z: f64) -> Vec<[f64; 2]> {
    points
        .iter()
        .filter_map(|p| {
            let [x, y, h] = placed.apply(p.map(f64::from));
            ((h - z).abs() <= HALF && near(x) && near(y)).then_some([x, y])
        })
        .collect()
}

/// Points of the scan within a cut at station `x`, as `(y, z)`.
pub fn slice_across(points: &[[f32; 3]], placed: &Placement, x: f64) -> Vec<[f64; 2]> {
    points
        .iter()
        .filter_map(|p| {
            let [at, y, z] = placed.apply(p.map(f64::from));
            ((at - x).abs() <= HALF && near(y) && near(z)).then_some([y, z])
        })
        .collect()
}

/// Walls and front in a cut at height `z`, every `step` mm.
pub fn walls(cut: &[[f64; 2]], z: f64, step: f64) -> Vec<Found> {
    let step = step.max(BIN);
    let length = spread(cut.iter().map(|p| p[0]), 0.995).min(MAX_LENGTH);
    let mut out = Vec::new();
    let mut half: f64 = 0.0;
    for side in Side::BOTH {
        let own: Vec<[f64; 2]> = cut
            .iter()
            .map(|p| [p[0], p[1] * side.sign()])
            .filter(|p| p[1] > 0.0)
            .collect();
        let mut x = BIN / 2.0;
        while x < length - BIN / 2.0 {
            let near = own.iter().filter(|p| (p[0] - x).abs() <= BIN / 2.0);
            if let Some((x, mm, sd, points)) = line(near.copied(), x) {
                half = half.max(mm);
                let quantity = Quantity::Wall {
                    side,
                    x: x.round(),
                    z,
                };
                out.push(Found {
                    quantity,
                    mm,
                    sd,
                    points,
                });
            }
            x += step;
        }
    }
    for share in [-0.6, 0.0, 0.6] {
        let y = (share * half / 10.0).round() * 10.0;
        let near = cut
            .iter()
            .filter(|p| (p[1] - y).abs() <= BIN / 2.0 && p[0] > length / 2.0);
        if let Some((_, mm, sd, points)) = line(near.map(|p| [p[1], p[0]]), y) {
            let quantity = Quantity::Length { z, y };
            out.push(Found {
                quantity,
                mm,
                sd,
                points,
            });
        }
    }
    out
}

/// Walls in a cut across the vehicle at `x`, `(y, z)`, every few centimetres up; not right over the floor, nor right under the roof, where a
/// bin holds those too.
pub fn walls_across(cut: &[[f64; 2]], x: f64) -> Vec<Found> {
    let low = spread(cut.iter().map(|p| p[1]), 0.005);
    let high = spread(cut.iter().map(|p| p[1]), 0.995).min(MAX_LENGTH);
    let mut out = Vec::new();
    for side in Side::BOTH {
        let own: Vec<[f64; 2]> = cut
            .iter()
            .map(|p| [p[1], p[0] * side.sign()])
            .filter(|p| p[1] > 0.0)
            .collect();
        let mut z = ((low + BIN) / BIN).ceil().max(1.0) * BIN;
        while z <= high - BIN {
            let near = own.iter().filter(|p| (p[0] - z).abs() <= BIN / 2.0);
            if let Some((z, mm, sd, points)) = line(near.copied(), z) {
                let quantity = Quantity::Wall { side, x, z };
                out.push(Found {
                    quantity,
                    mm,
                    sd,
                    points,
                });
            }
            z += BIN;
        }
    }
    out
}

/// Robust straight piece through points around `at`: `(at, value, sd, points)`. Strays are taken off
/// by the median deviation, the rest fitted by least squares.
fn line(points: impl Iterator<Item = [f64; 2]>, at: f64) -> Option<(f64, f64, f64, usize)> {
    let mut all: Vec<[f64; 2]> = points.collect();
    if all.len() < LEAST {
        return None;
    }
    let mut slope = 0.0;
    for _ in 0..4 {
        let off = |p: &[f64; 2], s: f64| p[1] - s * (p[0] - at);
        let middle = median(all.iter().map(|p| off(p, slope)).collect());
        let mad = median(all.iter().map(|p| (off(p, slope) - middle).abs()).collect());
        let limit = (STRAY * NORMAL * mad).max(0.5);
        let before = all.len();
        all.retain(|p| (off(p, slope) - middle).abs() <= limit);
        if all.len() < LEAST {
            return None;
        }
        let n = all.len() as f64;
        let (mx, my) = (
            all.iter().map(|p| p[0]).sum::<f64>() / n,
            all.iter().map(|p| p[1]).sum::<f64>() / n,
        );
        let xx: f64 = all.iter().map(|p| (p[0] - mx).powi(2)).sum();
        let xy: f64 = all.iter().map(|p| (p[0] - mx) * (p[1] - my)).sum();
        slope = if xx > 1.0 { xy / xx } else { 0.0 };
        if all.len() == before {
            break;
        }
    }
    let n = all.len() as f64;
    let value = all.iter().map(|p| p[1] - slope * (p[0] - at)).sum::<f64>() / n;
    let left: f64 = all
        .iter()
        .map(|p| (p[1] - slope * (p[0] - at) - value).powi(2))
        .sum();
    let sd = (left / (n - 2.0) / n).sqrt().hypot(PLACED);
    Some((at, value, sd, all.len()))
}

fn median(mut v: Vec<f64>) -> f64 {
    let middle = v.len() / 2;
    let (_, m, _) = v.select_nth_unstable_by(middle, f64::total_cmp);
    *m
}

/// The value below which a share of all values lies.
fn spread(values: impl Iterator<Item = f64>, share: f64) -> f64 {
    let mut all: Vec<f64> = values.collect();
    if all.is_empty() {
        return 0.0;
    }
    let at = ((all.len() - 1) as f64 * share) as usize;
    let (_, v, _) = all.select_nth_unstable_by(at, f64::total_cmp);
    *v
}
