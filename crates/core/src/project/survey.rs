//! Readings: what was measured, how it was typed, by what and when. Never overwritten; a second
//! measurement is a second reading.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

pub use super::fittings::{Datum, DatumKind, Fixing, Landmark, Opening, Seat};
pub use super::things::{Cover, Ends, Form, Thing, ThingDim, ThingKind};
use crate::units::Unit;

/// Everything measured in the vehicle.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Survey {
    /// Standard deviation of one tape reading, mm.
    pub sd: f64,
    /// How thoroughly to measure.
    pub protocol: Thoroughness,
    /// What will be built: tells how high up the walls are asked for.
    pub build: Build,
    /// Heights at which panels are wanted, mm over the load floor; as `build` says if empty.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub heights: Vec<f64>,
    /// Places along the bay wanted in addition to the usual ones, and ridges.
    pub stations: BTreeMap<String, Station>,
    /// Heights at which the walls are measured, and creases along the walls.
    pub levels: BTreeMap<String, Level>,
    /// Wheel wells, posts and other things in the way.
    pub things: BTreeMap<String, Thing>,
    /// Places to fix to, and how deep a screw may go.
    pub fixings: BTreeMap<String, Fixing>,
    /// Doors and hatches; `rear` is the one everything comes through.
    pub openings: BTreeMap<String, Opening>,
    /// Seats that travel and fold.
    pub seats: BTreeMap<String, Seat>,
    /// Points that heights hang from.
    pub datums: BTreeMap<String, Datum>,
    /// Points seen from inside and from outside.
    pub landmarks: BTreeMap<String, Landmark>,
    /// Readings that cannot be had, by the key of their quantity, with the reason.
    pub skipped: BTreeMap<String, String>,
    /// The readings.
    pub readings: BTreeMap<String, Reading>,
}

impl Default for Survey {
    fn default() -> Self {
        Survey {
            sd: 1.0,
            protocol: Thoroughness::Full,
            build: Build::Bed,
            heights: vec![],
            stations: BTreeMap::new(),
            levels: BTreeMap::new(),
            things: BTreeMap::new(),
            fixings: BTreeMap::new(),
            openings: BTreeMap::new(),
            seats: BTreeMap::new(),
            datums: BTreeMap::new(),
            landmarks: BTreeMap::new(),
            skipped: BTreeMap::new(),
            readings: BTreeMap::new(),
        }
    }
}

/// How thoroughly to measure.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Thoroughness {
    /// The corners and the wells, to see whether the idea fits.
    Quick,
    /// Each checked by another: to cut by.
    #[default]
    Full,
}

/// What will be built.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Build {
    /// Up to the bed.
    #[default]
    Bed,
    /// Also cabinets, shelves or a console up high.
    High,
}

/// A place along the bay.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Station {
    /// Distance forward of the rear threshold, mm.
    pub x: f64,
    /// Only on this side.
    #[serde(default)]
    pub side: Option<Side>,
    /// The wall bends or steps sharply here: straight runs meet, nothing is rounded over it.
    #[serde(default)]
    pub ridge: bool,
}

/// A height at which walls are measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Level {
    /// Height over the load floor, mm.
    pub z: f64,
    /// What it is called.
    pub name: String,
    /// Only on this side.
    #[serde(default)]
    pub side: Option<Side>,
    /// A crease runs along the wall at this height.
    #[serde(default)]
    pub ridge: bool,
}

/// Left or right, looking forward.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema,
)]
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

    /// The one opposite.
    pub fn other(self) -> Side {
        match self {
            Side::Left => Side::Right,
            Side::Right => Side::Left,
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
    /// Width at a height between.
    Width,
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
        /// How far left of the centre line.
        #[serde(default)]
        y: f64,
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
    /// From the corner of the other wall at the threshold to this wall: another check on both.
    Diagonal {
        /// The wall at its far end.
        side: Side,
        /// Where along the bay that end is.
        x: f64,
        /// At which height.
        z: f64,
    },
    /// Height of the floor over the floor at the threshold.
    Floor {
        /// Where along the bay.
        x: f64,
        /// How far left of the centre line.
        #[serde(default)]
        y: f64,
    },
    /// Floor to roof.
    Roof {
        /// Where along the bay.
        x: f64,
        /// How far left of the centre line.
        #[serde(default)]
        y: f64,
    },
    /// What a level says, as the rise forward in one metre: on the floor at a place, or, without a
    /// place, on the vehicle's own datum, the threshold. Only the difference of the two counts.
    Slope {
        /// Where along the bay; on the threshold's sill if not given.
        #[serde(default)]
        x: Option<f64>,
    },
    /// A dimension of a thing in the way.
    Thing {
        /// Which.
        id: String,
        /// Which dimension.
        dim: ThingDim,
        /// At which height over the floor; at its foot if not given.
        #[serde(default)]
        z: Option<f64>,
    },
    /// A dimension of an opening.
    Opening {
        /// Which dimension.
        dim: OpeningDim,
        /// Which opening.
        #[serde(default = "rear")]
        id: String,
        /// Of a width: at which height over the sill.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        z: Option<f64>,
    },
}

impl Quantity {
    /// A key: two readings with the same key are readings of the same thing. Places count as the
    /// same within half a millimetre.
    pub fn key(&self) -> String {
        // Whole millimetres as an integer: keys are made often, and decimals are slow to write.
        let mm = |v: &f64| v.round_ties_even() as i64;
        // Places on the centre line and at the foot are the usual ones and are left out.
        let aside = |y: &f64| {
            if *y == 0.0 {
                String::new()
            } else {
                format!(".{}", mm(y))
            }
        };
        match self {
            Quantity::Length { z, y } => format!("length.{}{}", mm(z), aside(y)),
            Quantity::Wall { side, x, z } => format!("wall.{}.{}.{}", side.word(), mm(x), mm(z)),
            Quantity::Width { x, z } => format!("width.{}.{}", mm(x), mm(z)),
            Quantity::Diagonal { side, x, z } => {
                format!("diagonal.{}.{}.{}", side.word(), mm(x), mm(z))
            }
            Quantity::Floor { x, y } => format!("floor.{}{}", mm(x), aside(y)),
            Quantity::Roof { x, y } => format!("roof.{}{}", mm(x), aside(y)),
            Quantity::Slope { x: None } => "slope.datum".into(),
            Quantity::Slope { x: Some(x) } => format!("slope.{}", mm(x)),
            Quantity::Thing { id, dim, z } => {
                let dim = format!("{dim:?}").to_lowercase();
                match z {
                    None => format!("thing.{id}.{dim}"),
                    Some(z) => format!("thing.{id}.{dim}.{}", mm(z)),
                }
            }
            Quantity::Opening { dim, id, z } => {
                let dim = format!("{dim:?}").to_lowercase();
                let up = z.map_or(String::new(), |z| format!(".{}", mm(&z)));
                if id == REAR {
                    format!("opening.{dim}{up}")
                } else {
                    format!("opening.{id}.{dim}{up}")
                }
            }
        }
    }

    /// The dimension of a thing at its foot.
    pub fn thing(id: &str, dim: ThingDim) -> Quantity {
        Quantity::Thing {
            id: id.into(),
            dim,
            z: None,
        }
    }

    /// A dimension of the rear opening.
    pub fn rear(dim: OpeningDim) -> Quantity {
        Quantity::opening(&rear(), dim)
    }

    /// A dimension of an opening.
    pub fn opening(id: &str, dim: OpeningDim) -> Quantity {
        Quantity::Opening {
            dim,
            id: id.into(),
            z: None,
        }
    }
}

/// The opening everything comes through.
pub const REAR: &str = "rear";

fn rear() -> String {
    REAR.into()
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
    /// The simulated meter of the demo.
    Simulated,
    /// Digital or spirit level.
    Level,
    /// A section of a scan.
    Scan,
    /// Anything else.
    Other,
}

impl Instrument {
    /// All of them.
    pub const ALL: [Instrument; 6] = [
        Instrument::Tape,
        Instrument::Laser,
        Instrument::Simulated,
        Instrument::Level,
        Instrument::Scan,
        Instrument::Other,
    ];

    /// As it is written.
    pub fn word(self) -> &'static str {
        match self {
            Instrument::Tape => "tape",
            Instrument::Laser => "laser",
            Instrument::Simulated => "simulated",
            Instrument::Level => "level",
            Instrument::Scan => "scan",
            Instrument::Other => "other",
        }
    }
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
    /// Measured from this datum: down from a roof tube, up from any other.
    #[serde(default)]
    pub datum: Option<String>,
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
