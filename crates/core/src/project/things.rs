//! Things in the way: what they are, what shape they have, and what may be done over them.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::survey::Side;

/// Something that takes space from the bay.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Thing {
    /// What kind of thing.
    pub kind: ThingKind,
    /// At which side it stands, or which side of the centre line it is measured on.
    pub side: Side,
    /// What it is called.
    pub name: String,
    /// Its shape.
    #[serde(default)]
    pub form: Form,
    /// How its ends run into its inner face, seen from above.
    #[serde(default, skip_serializing_if = "Ends::are_square")]
    pub ends: Ends,
    /// Heights between foot and top at which its sides change their slope, mm.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub heights: Vec<f64>,
    /// Clearance it wants beyond the panel's own, mm.
    #[serde(default)]
    pub clearance: f64,
    /// How far it moves to every side when used, mm: a lever's sweep, a seat's slide.
    #[serde(default)]
    pub sweep: f64,
    /// What may be done over it.
    #[serde(default)]
    pub cover: Cover,
    /// How much its top rises forward, degrees; less than nothing where it falls. Its height is read where it is highest. Counts where the thing is
    /// stood on: a folded seat's back.
    #[serde(default, skip_serializing_if = "level")]
    pub slope: f64,
}

fn level(slope: &f64) -> bool {
    *slope == 0.0
}

/// The steepest top that anything is said to stand on, degrees: on more than that a foot slips.
pub const STEEPEST: f64 = 30.0;

/// Kinds of thing in the way: a new one is one line here and one in each of the two lists below.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ThingKind {
    /// Wheel well.
    WheelWell,
    /// Post, pillar, trim.
    Post,
    /// Seat base, with the travel of its slide as sweep.
    SeatBase,
    /// Belt or its anchor.
    Belt,
    /// Bolt or bracket.
    Bolt,
    /// Hump in the floor.
    Hump,
    /// Step in the floor.
    Step,
    /// Back of a folded seat.
    FoldedSeat,
    /// Pipe.
    Pipe,
    /// Fuse or power box.
    PowerBox,
    /// Gear lever, with its travel as sweep.
    GearLever,
    /// Inner face of a shut door or tailgate.
    Door,
    /// Latch or striker.
    Latch,
    /// Anything else.
    Other,
}

impl ThingKind {
    /// A leg or frame may stand on it.
    pub fn carries(self) -> bool {
        matches!(
            self,
            ThingKind::Hump | ThingKind::Step | ThingKind::FoldedSeat
        )
    }

    /// What may usually be done over such a thing, and why, deferring where it is a safety part.
    pub fn caution(self) -> Option<&'static str> {
        match self {
            ThingKind::Belt => Some(
                "Belts and their anchors are safety parts: keep them clear and follow the vehicle maker.",
            ),
            ThingKind::PowerBox => Some(
                "Keep it reachable, and leave its wiring to licensed work where that is required.",
            ),
            ThingKind::Pipe => Some("Find out what it carries before anything is screwed near it."),
            _ => None,
        }
    }
}

/// What may be done over a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Cover {
    /// A panel may lie over it.
    #[default]
    May,
    /// It must stay reachable: a hatch or a gap.
    Reach,
    /// Nothing may touch or cover it.
    Keep,
}

/// The shape of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Form {
    /// Upright sides.
    #[default]
    Box,
    /// Sides that slope: measured at the foot and at the top, straight between.
    Sloped,
    /// Arched like a wheel: as long as measured at the foot, rounded to nothing at the top.
    Rounded,
    /// Standing free: its far side is measured too.
    Free,
}

/// How the ends of a thing run into its inner face, seen from above.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Ends {
    /// At a right angle.
    #[default]
    Square,
    /// Cut off straight.
    Bevelled,
    /// In a curve.
    Rounded,
}

impl Ends {
    /// Nothing more is to be measured.
    pub fn are_square(&self) -> bool {
        *self == Ends::Square
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
    /// From the rear threshold to its front face: another way to get the length.
    End,
    /// How far it stands in from the wall.
    Width,
    /// From the centre line to its inner face, minus when across the line.
    Face,
    /// From the rear threshold to where its inner face begins, if its ends are not square.
    FaceStart,
    /// From the rear threshold to where its inner face ends.
    FaceEnd,
    /// From the centre line to where the bevel or curve of its ends begins.
    Shoulder,
    /// From the centre line to its outer face, if it stands free of the wall.
    Far,
    /// Its top over the load floor.
    Height,
    /// Its underside over the load floor; on the floor if not measured.
    Bottom,
}
