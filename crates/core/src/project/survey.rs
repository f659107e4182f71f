//! Readings: what was measured, how it was typed, by what and when. Never overwritten; a second
//! measurement is a second reading.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::units::Unit;
use std::collections::BTreeMap;

/// Everything measured in the vehicle.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Survey {
    /// Standard deviation of one tape reading, mm.
    pub sd: f64,
    /// Places along the bay wanted in addition to the usual ones.
    pub stations: BTreeMap<String, Station>,
    /// Heights at which the walls are measured.
    pub levels: BTreeMap<String, Level>,
    /// Wheel wells, posts and other things in the way.
    pub things: BTreeMap<String, Thing>,
    /// Readings that cannot be had, by the key of their quantity, with the reason.
    pub skipped: BTreeMap<String, String>,
    /// The readings.
    pub readings: BTreeMap<String, Reading>,
}

impl Default for Survey {
    fn default() -> Self {
        Survey {
            sd: 1.0,
            stations: BTreeMap::new(),
            levels: BTreeMap::new(),
            things: BTreeMap::new(),
            skipped: BTreeMap::new(),
            readings: BTreeMap::new(),
        }
    }
}

/// A place along the bay.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Station {
    /// Distance forward of the rear threshold, mm.
    pub x: f64,
}

/// A height at which walls are measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Level {
    /// Height over the load floor, mm.
    pub z: f64,
    /// What it is called.
    pub name: String,
}

/// Something that takes space from the bay: a box standing at one side.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Thing {
    /// What kind of thing.
    pub kind: ThingKind,
    /// At which side.
    pub side: Side,
    /// What it is called.
    pub name: String,
}

/// Kinds of thing in the way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ThingKind {
    /// Wheel well.
    WheelWell,
    /// Post, pillar, trim.
    Post,
    /// Anything else.
    Other,
}

/// Left or right, looking forward.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Side {
    /// y positive.
    Left,
    /// y negative.
    Right,
}

impl Side {
    /// Both, left first.
    pub const BOTH: [Side; 2] = [Side::Left, Side::Right];

    /// +1 for left, -1 for right: the sign of y.
    pub fn sign(self) -> f64 {
        match self {
            Side::Left => 1.0,
            Side::Right => -1.0,
        }
    }

    /// As it is called in a sentence.
    pub fn word(self) -> &'static str {
        match self {
            Side::Left => "left",
            Side::Right => "right",
        }
    }
}

/// A dimension of a thing in the way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum ThingDim {
    /// From the rear threshold to its rear face.
    Start,
    /// Rear face to front face.
    Length,
    /// How far it stands in from the wall.
    Width,
    /// From the centre line to its inner face: another way to get the width, and a check on it.
    Face,
    /// Its top over the load floor.
    Height,
    /// Its underside over the load floor; on the floor if not measured.
    Bottom,
}

/// A dimension of the rear opening.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum OpeningDim {
    /// Width at the floor.
    WidthFloor,
    /// Width at the top.
    WidthTop,
    /// Height.
    Height,
}

/// What a reading is a reading of. Millimetres, vehicle frame: x forward of the rear threshold,
/// y left of the centre line, z over the load floor (ISO 8855 axes).
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "of", rename_all = "snake_case", deny_unknown_fields)]
pub enum Quantity {
    /// Rear threshold to the front end of the bay.
    Length {
        /// Height.
        z: f64,
    },
    /// Centre line to a wall.
    Wall {
        /// Which.
        side: Side,
        /// Where along the bay.
        x: f64,
        /// At which height.
        z: f64,
    },
    /// Wall to wall: a check on the two walls.
    Width {
        /// Where along the bay.
        x: f64,
        /// At which height.
        z: f64,
    },
    /// Height of the floor over the floor at the threshold.
    Floor {
        /// Where along the bay.
        x: f64,
    },
    /// Floor to roof.
    Roof {
        /// Where along the bay.
        x: f64,
    },
    /// A dimension of a thing in the way.
    Thing {
        /// Which.
        id: String,
        /// Which dimension.
        dim: ThingDim,
    },
    /// A dimension of the rear opening.
    Opening {
        /// Which.
        dim: OpeningDim,
    },
}

impl Quantity {
    /// A key: two readings with the same key are readings of the same thing. Places count as the
    /// same within half a millimetre.
    pub fn key(&self) -> String {
        let mm = |v: &f64| format!("{:.0}", v + 0.0);
        match self {
            Quantity::Length { z } => format!("length.{}", mm(z)),
            Quantity::Wall { side, x, z } => format!("wall.{}.{}.{}", side.word(), mm(x), mm(z)),
            Quantity::Width { x, z } => format!("width.{}.{}", mm(x), mm(z)),
            Quantity::Floor { x } => format!("floor.{}", mm(x)),
            Quantity::Roof { x } => format!("roof.{}", mm(x)),
            Quantity::Thing { id, dim } => {
                format!("thing.{id}.{}", format!("{dim:?}").to_lowercase())
            }
            Quantity::Opening { dim } => format!("opening.{}", format!("{dim:?}").to_lowercase()),
        }
    }
}

/// What a reading was taken with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Instrument {
    /// Tape measure.
    #[default]
    Tape,
    /// Laser distance meter.
    Laser,
    /// Anything else.
    Other,
}

/// One reading as it was taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Reading {
    /// Of what.
    pub quantity: Quantity,
    /// As typed, in the tape language.
    pub typed: String,
    /// The unit of a bare number in `typed`.
    pub unit: Unit,
    /// When, RFC 3339.
    #[serde(default)]
    pub when: String,
    /// With what.
    #[serde(default)]
    pub instrument: Instrument,
    /// Taken against something that gives, such as a ceiling lining.
    #[serde(default)]
    pub soft: bool,
    /// Its own standard deviation, mm, if not the survey's.
    #[serde(default)]
    pub sd: Option<f64>,
    /// Set aside by the user: kept, but not counted.
    #[serde(default)]
    pub aside: bool,
    /// A note.
    #[serde(default)]
    pub note: String,
}
