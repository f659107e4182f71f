//! A board: its shape, what is cut into it, where it lies, and why it is as long as it is.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::FIXED;
use super::way::Way;
use crate::geometry::Point;
use crate::geometry::pose::Pose;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::units::figure::Writer;
use crate::units::value::Value;

/// A groove or rabbet, taken out of a board from one face.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Pocket {
    /// Where, in the board's own plane.
    pub outline: Region,
    /// How deep, mm.
    pub depth: f64,
    /// From which face: `bottom` is at t = 0, `top` at the board's thickness.
    pub face: Face,
}

/// A face of a board.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Face {
    /// At its thickness.
    Top,
    /// At t = 0.
    Bottom,
}

/// A board: a shape with a thickness and a place.
#[derive(Debug, Clone, PartialEq)]
pub struct Board {
    /// Identifier within the module.
    pub id: String,
    /// Prefix of the mark: D for deck, F for frame...
    pub letter: &'static str,
    /// What it is for: `panel`, `frame`, `side`, `lid`...
    pub role: &'static str,
    /// What it is.
    pub name: String,
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// Shape with square internal corners, in its own plane.
    pub shape: Region,
    /// Radius to which internal corners are relieved, mm.
    pub relief: f64,
    /// Round holes: centre and diameter, in its own plane.
    pub vents: Vec<([f64; 2], f64)>,
    /// Rectangular holes.
    pub windows: Vec<Region>,
    /// Grooves and rabbets.
    pub pockets: Vec<Pocket>,
    /// Blind holes, such as those of cup hinges.
    pub bores: Vec<Bore>,
    /// Holes for what is fixed in the vehicle.
    pub holes: Vec<Hole>,
    /// Edges along something that leans.
    pub bevels: Vec<Bevel>,
    /// Grain.
    pub grain: PartGrain,
    /// After cutting.
    pub then: Vec<String>,
    /// Why the numbers are so.
    pub measures: Vec<Measure>,
    /// Which way round it goes.
    pub way: Way,
    /// Where it goes, if there may be several alike.
    pub places: Vec<String>,
    /// Where it lies, everything shut.
    pub pose: Pose,
    /// The body it belongs to: what moves as one.
    pub body: String,
}

impl Board {
    /// The same board where its grain is neither seen nor bears: it may be cut either way round. A board that a `Span`
    /// names keeps the grain that its span was worked out with (`furniture::work`).
    #[must_use]
    pub fn any_grain(mut self) -> Board {
        self.grain = PartGrain::Free;
        self
    }

    /// A fixed board of 15 mm birch ply without holes and grooves, its grain along its first axis.
    pub fn new(
        id: impl Into<String>,
        role: &'static str,
        letter: &'static str,
        shape: Region,
        pose: Pose,
    ) -> Board {
        Board {
            id: id.into(),
            letter,
            role,
            name: String::new(),
            material: "birch-ply".into(),
            thickness: 15.0,
            shape,
            relief: 0.0,
            vents: vec![],
            windows: vec![],
            pockets: vec![],
            bores: vec![],
            holes: vec![],
            bevels: vec![],
            grain: PartGrain::Along,
            then: vec![],
            measures: vec![],
            way: Way::seen("either face"),
            places: vec![],
            pose,
            body: FIXED.into(),
        }
    }
}

/// A round hole that does not go through.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bore {
    /// Its middle, in the board's own plane.
    pub at: Point,
    /// Its diameter, mm.
    pub diameter: f64,
    /// How deep, mm.
    pub depth: f64,
}

/// A hole through a board.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hole {
    /// Its middle, mm from the lower left corner of the blank.
    pub at: Point,
    /// Its diameter, mm.
    pub diameter: f64,
}

/// A stretch of edge along something that leans. As drawn it is sawn square, and open at its larger face.
#[derive(Debug, Clone, PartialEq)]
pub struct Bevel {
    /// What it follows.
    pub of: String,
    /// The edge itself, in the board's shape.
    pub along: Vec<Point>,
    /// How far the saw is tilted from square to close it, degrees.
    pub deg: f64,
    /// The face that is larger then; the line is drawn on the other.
    pub larger: Face,
    /// What its faces are called: the one at t = 0, and the one at its thickness.
    pub faces: [&'static str; 2],
    /// What stays open there if it is sawn square, mm.
    pub open: f64,
}

impl Bevel {
    /// What is to be done, in a sentence.
    pub fn words(&self, w: &Writer) -> String {
        let [bottom, top] = self.faces;
        let (larger, drawn) = match self.larger {
            Face::Top => (top, bottom),
            Face::Bottom => (bottom, top),
        };
        format!(
            "edge at the {}: it leans, and sawn square {} stay open at the {larger} face; to close that draw the line on the {drawn} face and tilt the saw {:.0}°, the {larger} face larger",
            self.of,
            w.say(self.open),
            self.deg
        )
    }
}

/// A number of a board and how it was made.
#[derive(Debug, Clone, PartialEq)]
pub struct Measure {
    /// Which number.
    pub about: String,
    /// The number.
    pub value: Value,
    /// It is the board's whole extent along that axis of its shape.
    pub axis: Option<Axis>,
}

/// An axis of a board's shape.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Axis {
    /// The first.
    U,
    /// The second.
    V,
}

impl Measure {
    /// A number that is no whole extent.
    pub fn of(about: impl Into<String>, value: Value) -> Measure {
        Measure {
            about: about.into(),
            value,
            axis: None,
        }
    }

    /// The board's whole extent along an axis.
    pub fn whole(axis: Axis, about: impl Into<String>, value: Value) -> Measure {
        Measure {
            about: about.into(),
            value,
            axis: Some(axis),
        }
    }
}
