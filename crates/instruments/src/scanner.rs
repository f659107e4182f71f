//! A line-scan profiler: sweeps the bay from the threshold forward and yields noisy points in its own
//! frame, with strays and with holes where something was in the way.

use jigfit_core::project::survey::Side;
use rand::Rng;
use rand_distr::{Distribution, Normal};

use crate::tape::stream;
use crate::vehicle::Vehicle;

/// How the profiler works.
#[derive(Debug, Clone, Copy)]
pub struct Scan {
    /// Points wanted.
    pub points: usize,
    /// Standard deviation of a point, mm.
    pub noise: f64,
    /// Share of strays.
    pub strays: f64,
    /// Height up to which it sees, mm.
    pub up_to: f64,
    /// Turn about the vertical of its own frame, degrees, and where its origin is in the vehicle.
    pub deg: f64,
    /// Origin of its frame in the vehicle.
    pub origin: [f64; 3],
    /// Seed of all chance.
    pub seed: u64,
}

/// The points, in the scanner's frame.
pub fn scan(v: &Vehicle, s: &Scan) -> Vec<[f32; 3]> {
    let mut rng = stream(s.seed, 1);
    let Ok(normal) = Normal::new(0.0, s.noise.max(0.0)) else {
        return vec![];
    };
    let length = v
        .front(0.0, 0.0)
        .or_else(|| v.front(0.0, s.up_to))
        .unwrap_or(0.0);
    let (c, sn) = (s.deg.to_radians().cos(), s.deg.to_radians().sin());
    let mut out = Vec::with_capacity(s.points);
    for _ in 0..s.points {
        let z = rng.random::<f64>() * s.up_to;
        let p = if rng.random::<f64>() < s.strays {
            [
                rng.random::<f64>() * length,
                (rng.random::<f64>() - 0.5) * 1000.0,
                z,
            ]
        } else if rng.random::<f64>() < 0.2 {
            // The front.
            let y = (rng.random::<f64>() - 0.5) * 1200.0;
            match v.front(y, z) {
                Some(x) => [x + normal.sample(&mut rng), y, z],
                None => continue,
            }
        } else {
            let side = if rng.random::<bool>() {
                Side::Left
            } else {
                Side::Right
            };
            let x = rng.random::<f64>() * length;
            // A hole: a coat hung over the left wall.
            if side == Side::Left && (900.0..1000.0).contains(&x) {
                continue;
            }
            let Some(wall) = v.wall(side, x.max(0.5), z) else {
                continue;
            };
            let near = v
                .blocked([x, 0.0], [0.0, side.sign()], z)
                .unwrap_or(wall)
                .min(wall);
            [x, side.sign() * (near + normal.sample(&mut rng)), z]
        };
        let d = [p[0] - s.origin[0], p[1] - s.origin[1], p[2] - s.origin[2]];
        out.push([
            (c * d[0] + sn * d[1]) as f32,
            (-sn * d[0] + c * d[1]) as f32,
            d[2] as f32,
        ]);
    }
    out
}
