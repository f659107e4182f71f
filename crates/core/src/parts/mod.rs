//! The part: what is marked on a board, cut, and written on it.

mod drawn;
pub mod marking;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::units::figure::{Figure, Why};

/// A piece of sheet to be cut.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Part {
    /// Identifier, stable while the choices stay.
    pub id: String,
    /// The boards that are cut like this, by identifier.
    pub boards: Vec<String>,
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
    /// Where it is bored for the screws and bolts of its joints.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub screws: Vec<ScrewRow>,
    /// Edges along something that leans: how the saw would be tilted.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub bevels: Vec<EdgeBevel>,
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
    /// Where its lower left corner lies in the vehicle, mm.
    #[schema(value_type = Vec<f64>)]
    pub at: [f64; 3],
}

/// A stretch of edge along something that leans.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct EdgeBevel {
    /// The edge, mm from the lower left corner of the blank.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub along: Vec<[f64; 2]>,
    /// Tilt of the saw from square, degrees.
    pub deg: f64,
    /// The face that is larger then, `upper` or `lower`, of a board on edge `front`, `rear`, `left` or `right`: the line is drawn on the other.
    pub larger: String,
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
    /// `vent`, `hole`, `bore` (it does not go through), `relief`, `window` or `groove`.
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

/// A row of screws or bolts, evenly spaced: where the part is bored for them on the face that is marked, or at its edge for
/// those that go in there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ScrewRow {
    /// Marks of what is held to it.
    pub to: String,
    /// Which of the boards that are cut like this have it; empty if all do.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub which: String,
    /// What goes in, glued or not: `wood screw, countersunk 4 x 40 mm, no glue`.
    pub what: String,
    /// How wide a hole lets it pass; none for pocket holes, which are as wide as their jig makes them, and for brackets.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub diameter: Option<Figure>,
    /// Centres from the lower left corner of the blank, mm, to the nearest mark.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub at: Vec<[f64; 2]>,
    /// In a sentence: how many, how wide, from where to where, how far apart, for what.
    pub words: String,
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
