//! What the fixings of a piece have to hold when the vehicle brakes, sets off or turns.

use crate::furniture::built::Vec3;
use crate::mechanics::load::{EN_12195, inertia};
use crate::project::survey::Side;
use crate::units::GRAVITY;

/// A piece as the road sees it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Load {
    /// With what is in it, kg.
    pub mass: f64,
    /// Where its middle lies.
    pub at: Vec3,
    /// The least of its places.
    pub low: Vec3,
    /// The greatest.
    pub high: Vec3,
    /// Walls that it leans on: nothing has to hold it towards them.
    pub walls: [bool; 2],
}

/// A way in which the piece wants to go: axis, direction, share of gravity.
const WAYS: [(usize, f64, f64); 4] = [
    (0, 1.0, EN_12195.forward),
    (0, -1.0, EN_12195.rear),
    (1, 1.0, EN_12195.side),
    (1, -1.0, EN_12195.side),
];

impl Load {
    /// One with another screwed to it.
    pub fn with(&self, other: &Load) -> Load {
        let mass = self.mass + other.mass;
        Load {
            mass,
            at: std::array::from_fn(|k| {
                (self.mass * self.at[k] + other.mass * other.at[k]) / mass.max(f64::MIN_POSITIVE)
            }),
            low: std::array::from_fn(|k| self.low[k].min(other.low[k])),
            high: std::array::from_fn(|k| self.high[k].max(other.high[k])),
            walls: [
                self.walls[0] || other.walls[0],
                self.walls[1] || other.walls[1],
            ],
        }
    }

    /// With a wall that it leans on.
    #[must_use]
    pub fn leaning(mut self, side: Side) -> Load {
        self.walls[match side {
            Side::Left => 0,
            Side::Right => 1,
        }] = true;
        self
    }

    /// The force forward when braking, N.
    pub fn forward(&self) -> f64 {
        inertia(self.mass, EN_12195.forward)
    }

    /// The force to a side when turning, N.
    pub fn side(&self) -> f64 {
        inertia(self.mass, EN_12195.side)
    }

    /// What each of these places has to hold at worst, N. The force at the middle of the piece is shared evenly; the
    /// moment that wants to tip it over its foremost lower edge, less that of its weight, pulls upwards at each in
    /// proportion to how far it lies behind that edge. Infinite where none lies behind it.
    pub fn takes(&self, places: &[Vec3]) -> Vec<f64> {
        let mut worst = vec![0.0_f64; places.len()];
        for (axis, way, share) in WAYS {
            if axis == 1 && self.walls[usize::from(way < 0.0)] {
                continue;
            }
            let edge = if way > 0.0 {
                self.high[axis]
            } else {
                self.low[axis]
            };
            let force = inertia(self.mass, share);
            let along = force / places.len().max(1) as f64;
            let moment = force * (self.at[2] - self.low[2])
                - self.mass * GRAVITY * (edge - self.at[axis]) * way;
            let behind: Vec<f64> = places
                .iter()
                .map(|p| ((edge - p[axis]) * way).max(0.0))
                .collect();
            let squares: f64 = behind.iter().map(|d| d * d).sum();
            for (w, d) in worst.iter_mut().zip(&behind) {
                let up = match moment {
                    m if m <= 0.0 => 0.0,
                    _ if squares <= 0.0 => f64::INFINITY,
                    m => m * d / squares,
                };
                *w = w.max(along.hypot(up));
            }
        }
        worst
    }
}
