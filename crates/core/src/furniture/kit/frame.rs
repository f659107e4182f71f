//! A piece's own directions: x into its depth from the front, y to the left of that, z up.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::furniture::built::{Pose, Vec3};
use crate::furniture::spot::Spot;
use crate::project::module::Across;

/// To which side a front looks, and what is behind it comes out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Opens {
    /// Towards the rear.
    #[default]
    Rear,
    /// To the left.
    Left,
    /// To the right.
    Right,
}

impl Opens {
    /// Value and words of all.
    pub const WORDS: [(&'static str, &'static str); 3] = [
        ("rear", "to the rear"),
        ("left", "to the left"),
        ("right", "to the right"),
    ];

    /// Its own width, depth and height as along the vehicle, across and up; and back, for they change places.
    pub fn across<T>(self, [w, d, h]: [T; 3]) -> [T; 3] {
        match self {
            Opens::Rear => [d, w, h],
            Opens::Left | Opens::Right => [w, d, h],
        }
    }

    /// Where such a piece is put, best first: with its back to the wall it does not open to.
    pub fn walls(self) -> Vec<Across> {
        match self {
            Opens::Rear => vec![Across::LeftWall, Across::RightWall, Across::Centred],
            Opens::Left => vec![Across::RightWall, Across::Centred],
            Opens::Right => vec![Across::LeftWall, Across::Centred],
        }
    }
}

/// A piece's own directions in the vehicle.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Frame {
    /// Its lower right front corner.
    pub origin: Vec3,
    x: Vec3,
    y: Vec3,
}

impl Frame {
    /// Of a piece at a spot.
    pub fn new(spot: &Spot, opens: Opens) -> Frame {
        let z = spot.z.0;
        let (origin, x, y) = match opens {
            Opens::Rear => ([spot.x.0, spot.y.0, z], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]),
            Opens::Left => ([spot.x.0, spot.y.1, z], [0.0, -1.0, 0.0], [1.0, 0.0, 0.0]),
            Opens::Right => ([spot.x.1, spot.y.0, z], [0.0, 1.0, 0.0], [-1.0, 0.0, 0.0]),
        };
        Frame { origin, x, y }
    }

    /// The same directions from another corner.
    #[must_use]
    pub fn moved(&self, by: Vec3) -> Frame {
        Frame {
            origin: self.at(by),
            ..*self
        }
    }

    /// A direction of the piece in the vehicle.
    pub fn turn(&self, v: Vec3) -> Vec3 {
        std::array::from_fn(|i| {
            v[0] * self.x[i] + v[1] * self.y[i] + if i == 2 { v[2] } else { 0.0 }
        })
    }

    /// A point of the piece in the vehicle.
    pub fn at(&self, p: Vec3) -> Vec3 {
        let o = self.turn(p);
        std::array::from_fn(|i| self.origin[i] + o[i])
    }

    /// A pose of the piece in the vehicle.
    pub fn pose(&self, p: Pose) -> Pose {
        Pose {
            origin: self.at(p.origin),
            u: self.turn(p.u),
            v: self.turn(p.v),
        }
    }
}
