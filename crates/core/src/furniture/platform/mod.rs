//! A sleeping platform as the judgements see it: what is wanted of it, and how it came out. Any kind may say that it
//! is one (`Kind::platform`, `Built::platform`); what is judged on platforms is then judged on it.

pub mod gaps;
pub mod parting;
pub mod span;
pub mod vents;

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::geometry::region::Region;
pub use crate::project::deck::{Limits, Manner, Split};
use crate::units::figure::{Figure, Why};
use parting::{Demands, Parting};
use span::{Burden, Sag};

/// What is wanted of a platform, as soon as it is chosen.
#[derive(Debug, Clone, PartialEq)]
pub struct Platform {
    /// What it is called.
    pub name: String,
    /// Height of its underside, mm; none while it is not chosen.
    pub underside: Option<f64>,
    /// What is lain on.
    pub surface: Surface,
    /// Thickness of finish on an edge, mm.
    pub finish: f64,
    /// What carries it.
    pub stands: Stands,
    /// Its hatches.
    pub hatch: Hatch,
    /// What each of two pieces has to lie on where they meet over the edge of one support, mm; none where they lie on more.
    pub rest: Option<f64>,
    /// The leaf at its front end, if there is to be one.
    pub leaf: Option<Leaf>,
    /// Choices by which it can be changed.
    pub dials: Dials,
}

/// What is lain on.
#[derive(Debug, Clone, PartialEq)]
pub struct Surface {
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// The slats of which it is made; none where it is solid.
    pub slats: Option<Slats>,
    /// The most it may give.
    pub limits: Limits,
}

/// Slats along the bay.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Slats {
    /// Width of each, mm.
    pub width: f64,
    /// Gap between two, mm.
    pub gap: f64,
}

impl Slats {
    /// The share of the surface that they take.
    pub fn share(&self) -> f64 {
        self.width / (self.width + self.gap)
    }
}

/// What carries a platform.
#[derive(Debug, Clone, PartialEq)]
pub struct Stands {
    /// The manner.
    pub manner: Manner,
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// How deep rails and ledgers are, mm.
    pub deep: f64,
}

/// Hatches that lift out.
#[derive(Debug, Clone, PartialEq)]
pub struct Hatch {
    /// They are wanted.
    pub wanted: bool,
    /// Holes of those that the platform places itself, along the vehicle and across, mm.
    pub size: (f64, f64),
    /// Holes of those that the person placed, the same; empty where the platform places them.
    pub placed: Vec<(f64, f64)>,
}

impl Hatch {
    /// Sizes of all holes that there may be.
    pub fn sizes(&self) -> Vec<(f64, f64)> {
        match self.placed.is_empty() {
            true => vec![self.size],
            false => self.placed.clone(),
        }
    }
}

/// A hatch that the person placed and that cannot be there.
#[derive(Debug, Clone, PartialEq)]
pub struct Refused {
    /// Identifier of the hatch.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// What is in the way.
    pub why: &'static str,
    /// The nearest place along the vehicle where it has room, mm forward of the threshold.
    pub room: Option<f64>,
    /// JSON Pointer of its place along the vehicle.
    pub pointer: String,
}

/// A leaf at a platform's front end.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Leaf {
    /// How long, mm.
    pub long: f64,
    /// Over how many seats that are slid forward.
    pub seats: usize,
}

/// A choice by which a platform can be changed. A kind that has it understands these values.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Dial {
    /// Height of the underside, mm.
    Underside,
    /// Where it begins, mm.
    From,
    /// Where it ends, mm.
    To,
    /// Thickness of the board, mm.
    Thickness,
    /// `solid` or `slats`.
    Top,
    /// Clearance to walls, mm; from the readings if null.
    Clearance,
    /// Number of lines of supports.
    Lines,
    /// `frames`, `legs` or `ledgers`.
    Manner,
    /// `none` or `bays`.
    Hatches,
    /// `auto`, `whole`, `lengthwise`, `across` or `quarters`.
    Split,
    /// Thickness of what carries it, mm.
    Supports,
    /// `edge` or `strips`.
    Rest,
    /// `none`, `left`, `right` or `both`: a leaf at the front end.
    Leaf,
    /// How long that is, mm.
    LeafLength,
}

/// Where the choices of a platform are in the document, as JSON Pointers; what is not there cannot be changed.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Dials(pub BTreeMap<Dial, String>);

/// A platform worked out as far as the numbers allow, to be shown.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DeckPlan {
    /// Module identifier.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// Height of its underside.
    pub underside: Figure,
    /// Its thickness.
    pub thickness: Figure,
    /// Free space in plan at its height.
    pub bay: Region,
    /// Things it is cut out round.
    pub obstacles: Vec<Region>,
    /// Things that stay below it.
    pub below: Vec<Region>,
    /// The pieces in the vehicle frame, reliefs cut.
    pub panels: Vec<Region>,
    /// Clearance to the walls, and how it came about.
    pub clearance: Why,
    /// Support lines across the bay, x in mm.
    pub lines: Vec<f64>,
    /// What stands on the floor, in plan.
    pub supports: Vec<Region>,
    /// Vent holes, in plan.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub vents: Vec<[f64; 2]>,
    /// The longest span.
    pub span: Option<Figure>,
    /// How it is parted.
    pub split: Split,
    /// Area of the deck, mm2.
    pub area: f64,
}

/// How a platform came out.
#[derive(Debug, Clone)]
pub struct Worked {
    /// What is shown.
    pub plan: DeckPlan,
    /// The sag, if the beam could be solved.
    pub sag: Option<Sag>,
    /// Who loads it.
    pub burden: Burden,
    /// The parting.
    pub parting: Parting,
    /// The demands on the pieces.
    pub demands: Demands,
    /// Clearance, mm.
    pub clearance: f64,
    /// Standard deviation behind it, mm.
    pub sd: f64,
    /// Separate pieces of free space.
    pub free_pieces: usize,
    /// Lines at which something could not stand, mm in, and on which side.
    pub missing: Vec<(f64, &'static str)>,
    /// What carries it at each line.
    pub carried: gaps::Lines,
    /// At each support line, from the rear: the openings left in it, width and height, mm.
    pub ways: Vec<Vec<(f64, f64)>>,
    /// Support lines.
    pub lines: Vec<f64>,
    /// Hatches that have room in it, cut or not.
    pub hatches: usize,
    /// Hatches that the person placed and that cannot be there.
    pub refused: Vec<Refused>,
    /// How much longer a leaf at its front end makes it at night, mm; none where there is none.
    pub leaf: Option<f64>,
    /// Slats that would lie on one support only.
    pub left_out: usize,
    /// How far a board of its top sticks out beyond what carries it, at the most, mm.
    pub overhang: Overhang,
}

/// How far a level board sticks out beyond what carries it.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Overhang {
    /// By so much, mm.
    pub by: f64,
    /// Beyond this line, mm in.
    pub past: f64,
    /// At the front; else at the rear.
    pub front: bool,
}
