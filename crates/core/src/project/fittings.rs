//! What furniture hangs on and comes through: fixings, openings, seats, datums, landmarks.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::survey::Side;

/// A place to fix to. Lengths in mm, vehicle frame.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Fixing {
    /// What it is called.
    pub name: String,
    /// What it is.
    pub kind: FixingKind,
    /// Where, `[x, y, z]`.
    #[schema(value_type = Vec<f64>)]
    pub at: [f64; 3],
    /// Thread, as on the bolt.
    #[serde(default)]
    pub thread: String,
    /// How deep a screw may go before it comes to the skin or to what is behind.
    #[serde(default)]
    pub depth: Option<f64>,
}

/// Kinds of fixing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FixingKind {
    /// Existing threaded hole.
    ThreadedHole,
    /// Tie-down ring.
    TieDown,
    /// Seat bolt.
    SeatBolt,
    /// Cargo bolt.
    CargoBolt,
    /// Rib that can take an insert.
    Rib,
    /// Floor ply that takes a screw.
    FloorPly,
}

impl FixingKind {
    /// It takes a bolt, not a wood screw.
    pub fn has_thread(self) -> bool {
        !matches!(self, FixingKind::FloorPly)
    }
}

/// A door or hatch: its measurements are readings.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Opening {
    /// What it is called.
    pub name: String,
    /// Heights over its sill at which its width is measured besides foot and top, mm: its outline.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub heights: Vec<f64>,
    /// Free depth behind it to turn a panel in, mm.
    #[serde(default)]
    pub depth: Option<f64>,
    /// A seat has to be moved first.
    #[serde(default)]
    pub seat_first: bool,
    /// The wall in which it is; the rear opening needs none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<Side>,
    /// From the threshold to its rear edge at the sill, mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<f64>,
    /// Height of its sill over the load floor, mm.
    #[serde(default)]
    pub sill: f64,
}

/// A seat that travels and folds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Seat {
    /// What it is called.
    pub name: String,
    /// How far it slides, mm.
    #[serde(default)]
    pub travel: Option<f64>,
    /// Height of its back when folded, mm over the load floor. Kept from older files, read by nothing: a folded seat is a thing in the way.
    #[serde(default)]
    pub folded_height: Option<f64>,
    /// Slope of its back when folded, degrees. As above: the thing has a slope of its own.
    #[serde(default)]
    pub folded_slope: Option<f64>,
}

/// A point that heights hang from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Datum {
    /// What it is called.
    pub name: String,
    /// What it is.
    pub kind: DatumKind,
    /// Its height over the load floor at the threshold, mm.
    pub z: f64,
    /// Does not give when pushed.
    #[serde(default = "yes")]
    pub hard: bool,
}

fn yes() -> bool {
    true
}

/// Kinds of datum.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum DatumKind {
    /// The load floor.
    Floor,
    /// The rear threshold.
    Threshold,
    /// A frame tube under the roof: heights are measured down from it.
    RoofTube,
    /// A sill.
    Sill,
}

/// A point seen from inside and from outside: a bolt through the floor.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Landmark {
    /// What it is called.
    pub name: String,
    /// Inside, `[x, y]` in the vehicle frame, mm.
    #[schema(value_type = Vec<f64>)]
    pub inside: [f64; 2],
    /// Outside, `[u, v]` as measured there, u forward, v left, from any point, mm.
    #[schema(value_type = Vec<f64>)]
    pub outside: [f64; 2],
}
