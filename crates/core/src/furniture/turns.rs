//! How what moves as one moves, and where it is then.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::geometry::pose::{Pose, Vec3};

/// How a body moves.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Motion {
    /// Along a direction.
    Slide {
        /// Of length one.
        #[schema(value_type = Vec<f64>)]
        along: Vec3,
        /// How far, mm.
        travel: f64,
    },
    /// Lifted straight up, then along a level direction.
    Over {
        /// How far up, mm.
        up: f64,
        /// Of length one.
        #[schema(value_type = Vec<f64>)]
        along: Vec3,
        /// How far then, mm.
        travel: f64,
    },
    /// About an axis.
    Turn {
        /// A point of the axis.
        #[schema(value_type = Vec<f64>)]
        at: Vec3,
        /// Its direction, of length one; it turns counter-clockwise seen against it.
        #[schema(value_type = Vec<f64>)]
        about: Vec3,
        /// The most it turns, degrees.
        most: f64,
    },
}

impl Motion {
    /// The whole of it: degrees or mm.
    pub fn whole(&self) -> f64 {
        match self {
            Motion::Slide { travel, .. } => *travel,
            Motion::Over { up, travel, .. } => up + travel,
            Motion::Turn { most, .. } => *most,
        }
    }

    /// It is lifted out, and not moved along after that.
    pub fn lifts_out(&self) -> bool {
        matches!(self, Motion::Over { travel, .. } if *travel <= 0.0)
    }

    /// It is lifted, not pulled along.
    pub fn is_lifted(&self) -> bool {
        !matches!(self, Motion::Slide { .. })
    }

    /// How far it is opened in use: a lid just short of upright, where its stay holds it; a drawer all the way.
    pub fn usual(&self) -> f64 {
        /// Degrees.
        const STAYS: f64 = 85.0;
        match self {
            Motion::Slide { .. } | Motion::Over { .. } => 1.0,
            Motion::Turn { most, .. } => (STAYS / most).min(1.0),
        }
    }

    /// Where a point of the body is after it has moved by `by`: millimetres or degrees.
    pub fn moved(&self, p: Vec3, by: f64) -> Vec3 {
        self.to(by)(p)
    }

    /// The same for many points: where each is after the body has moved by `by`.
    pub fn to(&self, by: f64) -> impl Fn(Vec3) -> Vec3 + use<> {
        let motion = *self;
        let (s, c) = by.to_radians().sin_cos();
        move |p| match &motion {
            Motion::Slide { along, .. } => std::array::from_fn(|i| p[i] + by * along[i]),
            Motion::Over { up, along, .. } => {
                let (lift, on) = (by.min(*up), (by - up).max(0.0));
                let lifted = [p[0], p[1], p[2] + lift];
                std::array::from_fn(|i| lifted[i] + on * along[i])
            }
            Motion::Turn { at, about, .. } => {
                // Rodrigues' formula.
                let r: Vec3 = std::array::from_fn(|i| p[i] - at[i]);
                let dot: f64 = (0..3).map(|i| about[i] * r[i]).sum();
                let cross = [
                    about[1] * r[2] - about[2] * r[1],
                    about[2] * r[0] - about[0] * r[2],
                    about[0] * r[1] - about[1] * r[0],
                ];
                std::array::from_fn(|i| {
                    at[i] + r[i] * c + cross[i] * s + about[i] * dot * (1.0 - c)
                })
            }
        }
    }

    /// How something moves that rides on the body, after that has moved by `by`.
    #[must_use]
    pub fn carried_motion(&self, other: &Motion, by: f64) -> Motion {
        let origin = self.moved([0.0; 3], by);
        let turned = |v: Vec3| -> Vec3 {
            let end = self.moved(v, by);
            std::array::from_fn(|i| end[i] - origin[i])
        };
        match *other {
            Motion::Slide { along, travel } => Motion::Slide {
                along: turned(along),
                travel,
            },
            Motion::Over { up, along, travel } => Motion::Over {
                up,
                along: turned(along),
                travel,
            },
            Motion::Turn { at, about, most } => Motion::Turn {
                at: self.moved(at, by),
                about: turned(about),
                most,
            },
        }
    }

    /// A pose of the body after it has moved by `by`.
    pub fn carried(&self, pose: &Pose, by: f64) -> Pose {
        let origin = self.moved(pose.origin, by);
        let turned = |v: Vec3| -> Vec3 {
            let end = self.moved(std::array::from_fn(|i| pose.origin[i] + v[i]), by);
            std::array::from_fn(|i| end[i] - origin[i])
        };
        Pose {
            origin,
            u: turned(pose.u),
            v: turned(pose.v),
        }
    }
}
