//! The part: what is marked on a board, cut, and written on it.

pub mod marking;
pub mod way;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use way::Way;

use crate::cutting::nest::PartGrain;
use crate::geometry::region::Region;
use crate::units::figure::{Figure, Step};

/// A piece of sheet to be cut.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Part {
    /// Identifier, stable while the choices stay.
    pub id: String,
    /// What to write on it.
    pub mark: String,
    /// What it is.
    pub name: String,
    /// The module it belongs to.
    pub module: String,
    /// How many of it.
    pub count: u32,
    /// Material identifier.
    pub material: String,
    /// Material and thickness in words.
    pub stuff: String,
    /// Thickness.
    pub thickness: Figure,
    /// The shape to cut, in the blank's frame: from its lower left corner, u right, v up, good face up.
    pub outline: Region,
    /// Width of the blank.
    pub w: Figure,
    /// Height of the blank.
    pub h: Figure,
    /// Grain: `along` runs with the width.
    pub grain: PartGrain,
    /// Corners to mark, counter-clockwise from the lower left.
    pub corners: Vec<Corner>,
    /// Holes and reliefs.
    pub features: Vec<Feature>,
    /// Dimension lines.
    pub dims: Vec<Dim>,
    /// What is done after cutting.
    pub then: Vec<String>,
    /// How the numbers came about.
    pub why: Vec<Why>,
    /// Mass of one, kg.
    pub mass: f64,
    /// The same in the project's units.
    pub weighs: String,
    /// Which way round it goes.
    pub way: Way,
    /// Where each of them goes, if there are several alike.
    pub places: Vec<String>,
    /// Where its lower left corner lies: in plan for a deck, across the bay for a frame.
    #[schema(value_type = Vec<f64>)]
    pub at: [f64; 3],
}

/// A corner to be marked, from the lower left corner of the blank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Corner {
    /// Its letter.
    pub letter: String,
    /// To the right.
    pub u: Figure,
    /// Up.
    pub v: Figure,
}

/// A hole or relief.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Feature {
    /// `vent`, `relief` or `window`.
    pub kind: String,
    /// Centre from the lower left corner, mm.
    #[schema(value_type = Vec<f64>)]
    pub at: [f64; 2],
    /// The same to be shown: across, up.
    pub centre: (Figure, Figure),
    /// Diameter of a round one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub diameter: Option<Figure>,
    /// Size of a rectangular one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub size: Option<(Figure, Figure)>,
}

/// A dimension line.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Dim {
    /// Start, mm in the blank's frame.
    #[schema(value_type = Vec<f64>)]
    pub from: [f64; 2],
    /// End.
    #[schema(value_type = Vec<f64>)]
    pub to: [f64; 2],
    /// What it says.
    pub figure: Figure,
    /// `top`, `bottom`, `left`, `right`.
    pub side: String,
}

/// The arithmetic behind one number.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Why {
    /// Which number.
    pub about: String,
    /// Its value.
    pub total: Figure,
    /// The lines.
    pub steps: Vec<Step>,
}

/// A length of board on its way to being a part.
#[derive(Debug, Clone, PartialEq)]
pub struct Blank {
    /// Identifier.
    pub id: String,
    /// Prefix of the mark: D for deck, F for frame...
    pub letter: &'static str,
    /// What it is.
    pub name: String,
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// Shape with square internal corners, in its own plane.
    pub marked: Region,
    /// Radius to which internal corners are relieved, mm.
    pub relief: f64,
    /// Round holes: centre and diameter, in its own plane.
    pub vents: Vec<([f64; 2], f64)>,
    /// Rectangular holes.
    pub windows: Vec<Region>,
    /// Grain.
    pub grain: PartGrain,
    /// After cutting.
    pub then: Vec<String>,
    /// Why the numbers are so.
    pub why: Vec<Why>,
    /// Third coordinate of its plane, mm: height of a deck, station of a frame.
    pub plane: f64,
    /// Which way round it goes.
    pub way: Way,
    /// Where it goes, if there may be several alike.
    pub places: Vec<String>,
}
