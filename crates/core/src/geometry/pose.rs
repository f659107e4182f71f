//! Planes in space: where a flat thing lies.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{less, more};

/// A point or direction in the vehicle: x forward of the rear threshold, y left, z up, mm.
pub type Vec3 = [f64; 3];

/// Where a board lies: the point (a, b) of its shape, t into its thickness, is at
/// `origin + a u + b v + t w`, with w = u x v.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Pose {
    /// Where the shape's own origin lies.
    #[schema(value_type = Vec<f64>)]
    pub origin: Vec3,
    /// Direction of a, of length one.
    #[schema(value_type = Vec<f64>)]
    pub u: Vec3,
    /// Direction of b, of length one, square to u.
    #[schema(value_type = Vec<f64>)]
    pub v: Vec3,
}

impl Pose {
    /// A level board whose shape is in plan (x, y), its lower face at `z`.
    pub fn level(z: f64) -> Pose {
        Pose {
            origin: [0.0, 0.0, z],
            u: [1.0, 0.0, 0.0],
            v: [0.0, 1.0, 0.0],
        }
    }

    /// An upright board across the bay whose shape is in (y, z), its rear face at `x`.
    pub fn across(x: f64) -> Pose {
        Pose {
            origin: [x, 0.0, 0.0],
            u: [0.0, 1.0, 0.0],
            v: [0.0, 0.0, 1.0],
        }
    }

    /// An upright board along the bay whose shape is in (x, z), its left face at `y`: the thickness goes to
    /// the right of it.
    pub fn along(y: f64) -> Pose {
        Pose {
            origin: [0.0, y, 0.0],
            u: [1.0, 0.0, 0.0],
            v: [0.0, 0.0, 1.0],
        }
    }

    /// The same with its origin at `origin`.
    #[must_use]
    pub fn from(self, origin: Vec3) -> Pose {
        Pose { origin, ..self }
    }

    /// Square to the board, into its thickness.
    pub fn w(&self) -> Vec3 {
        let (u, v) = (self.u, self.v);
        [
            u[1] * v[2] - u[2] * v[1],
            u[2] * v[0] - u[0] * v[2],
            u[0] * v[1] - u[1] * v[0],
        ]
    }

    /// Where the point `a`, `b`, `t` of the board lies.
    pub fn at(&self, a: f64, b: f64, t: f64) -> Vec3 {
        let w = self.w();
        std::array::from_fn(|i| self.origin[i] + a * self.u[i] + b * self.v[i] + t * w[i])
    }

    /// The a, b and t of the board at which a point of the vehicle lies: what `at` undoes.
    pub fn own(&self, p: Vec3) -> Vec3 {
        let d: Vec3 = std::array::from_fn(|k| p[k] - self.origin[k]);
        [self.u, self.v, self.w()].map(|axis| (0..3).map(|k| d[k] * axis[k]).sum())
    }
}

/// The box round points: the least and the greatest of their coordinates.
pub fn around(points: impl Iterator<Item = Vec3>) -> (Vec3, Vec3) {
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for p in points {
        for k in 0..3 {
            low[k] = less(p[k], low[k]);
            high[k] = more(p[k], high[k]);
        }
    }
    (low, high)
}
