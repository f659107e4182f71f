//! What a kind of furniture says it is made of. Everything else (parts, sheets, clash, drawings) is worked out
//! from this by code that has never heard of the kind.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::deck::Worked;
use super::kit::drawer_box::Run;
use super::kit::lid::Lift;
pub use super::turns::Motion;
use super::way::Way;
use crate::geometry::Point;
pub use crate::geometry::pose::{Pose, Vec3};
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
    /// What stays open there if it is sawn square, mm.
    pub open: f64,
}

impl Bevel {
    /// What is to be done, in a sentence.
    pub fn words(&self, w: &Writer) -> String {
        let (larger, drawn) = match self.larger {
            Face::Top => ("upper", "lower"),
            Face::Bottom => ("lower", "upper"),
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

/// The body of everything that does not move.
pub const FIXED: &str = "fixed";

/// What moves as one.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Body {
    /// Identifier, `module/body`.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// How it moves.
    pub motion: Motion,
    /// Changes that may help where it meets something.
    #[serde(skip)]
    pub eases: Vec<Ease>,
    /// It is moved to make another thing of the vehicle, not to reach what is behind it.
    #[serde(skip)]
    pub change: Option<Changing>,
}

/// A body that makes another thing of the vehicle: a bed that gives the seats back.
#[derive(Debug, Clone, PartialEq)]
pub struct Changing {
    /// What has to be done first: `bedding off the front board`.
    pub first: String,
    /// How it is done, and how undone.
    pub words: [String; 2],
    /// What that gives, if it gives floor: how far it is free in front of what stays, mm.
    pub frees: Option<f64>,
    /// It is done for the road.
    pub for_road: bool,
    /// Seconds it takes (a choice).
    pub seconds: u32,
}

/// What a body meets on its way.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Met {
    /// A wall, the front, the roof, a thing of the vehicle.
    Vehicle,
    /// A board.
    Board,
}

/// A change of the module's own choices that may free a motion.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Ease {
    /// It helps only against that, if not against all.
    pub against: Option<Met>,
    /// What is changed.
    pub label: String,
    /// What it costs.
    pub cost: String,
    /// JSON Pointer below the module.
    pub pointer: String,
    /// Its new value.
    pub value: serde_json::Value,
}

/// Room for gear.
#[derive(Debug, Clone, PartialEq)]
pub struct Room {
    /// What it is called.
    pub name: String,
    /// Width, depth, height, mm.
    pub size: Vec3,
    /// The body in which it is, if that moves.
    pub body: String,
    /// The body that has to open before anything goes in or out.
    pub opened_by: String,
}

/// How two boards hold together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Fasten {
    /// Screwed through the face of one into the edge of the other, glued.
    Butt,
    /// Pocket screws from the face of one into the face of the other.
    Pocket,
    /// One held in grooves of the other.
    Groove,
    /// Screwed face to face.
    Face,
    /// It lies on it, held by nothing but what stands beside it.
    Lies,
}

/// Two boards of a module that hold together. Where they touch, and how many screws that asks for, follows from
/// where they lie.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Joint {
    /// Board identifier: the one that is screwed through, or has the groove.
    pub a: String,
    /// The other.
    pub b: String,
    /// How.
    pub how: Fasten,
    /// It must come apart again: no glue.
    pub apart: bool,
}

impl Joint {
    /// Glued for good.
    pub fn new(how: Fasten, a: impl Into<String>, b: impl Into<String>) -> Joint {
        Joint {
            a: a.into(),
            b: b.into(),
            how,
            apart: false,
        }
    }

    /// To be taken apart.
    #[must_use]
    pub fn apart(self) -> Joint {
        Joint {
            apart: true,
            ..self
        }
    }
}

/// What is bought: hinges, slides, stays, latches, strips.
#[derive(Debug, Clone, PartialEq)]
pub struct Item {
    /// What: `butt hinge`, `pair of slides`.
    pub what: String,
    /// Its size in words, empty if there is only one.
    pub size: String,
    /// How many.
    pub count: u32,
    /// Screws of 16 mm that hold each.
    pub screws: u32,
}

/// A place that was made for a thing of the stow list.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeFor {
    /// Its identifier.
    pub gear: String,
    /// Width, depth and height that are there for it, air and slide included, mm.
    pub size: Vec3,
}

/// A drawer on what it runs.
#[derive(Debug, Clone, PartialEq)]
pub struct Glide {
    /// The body, within the module.
    pub body: String,
    /// On what.
    pub run: Run,
    /// How long it is guided, mm.
    pub guided: f64,
    /// How wide it is, mm.
    pub wide: f64,
    /// What lies in it when nothing is known of that, kg.
    pub made_for: f64,
    /// Changes that let it run on something else.
    pub eases: Vec<Ease>,
}

/// A stretch of board between what carries it.
#[derive(Debug, Clone, PartialEq)]
pub struct Span {
    /// Board identifier.
    pub board: String,
    /// What it is called in a sentence.
    pub name: String,
    /// Free stretches between supports, mm: continuous over them.
    pub spans: Vec<f64>,
    /// Width of board that carries, mm.
    pub width: f64,
    /// The board's grain runs along the span.
    pub along: bool,
    /// What it carries.
    pub under: Under,
    /// Changes that make it stiffer.
    pub eases: Vec<Ease>,
}

/// What a board carries.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Under {
    /// Somebody sits on it, or kneels.
    Seat,
    /// Things: kg spread over the whole.
    Things(f64),
    /// A hand or a plate at the free end of a board that is held at its other end by this much, mm.
    End(f64),
}

/// A module worked out.
#[derive(Debug, Clone, Default)]
pub struct Built {
    /// Its boards.
    pub boards: Vec<Board>,
    /// What of it moves.
    pub bodies: Vec<Body>,
    /// What it offers to gear.
    pub rooms: Vec<Room>,
    /// What holds its boards together.
    pub joints: Vec<Joint>,
    /// What is bought for it besides boards and screws.
    pub hardware: Vec<Item>,
    /// What bends under what.
    pub spans: Vec<Span>,
    /// Its drawers, and on what they run.
    pub glides: Vec<Glide>,
    /// Its lids, as a hand finds them.
    pub lifts: Vec<Lift>,
    /// What it has a place of its own for.
    pub made_for: Vec<MadeFor>,
    /// A deck's own facts, for the judgements on sleeping platforms.
    pub deck: Option<Box<Worked>>,
}

impl Built {
    /// With a piece of the kit.
    pub fn take(&mut self, made: Built) {
        self.boards.extend(made.boards);
        self.bodies.extend(made.bodies);
        self.rooms.extend(made.rooms);
        self.joints.extend(made.joints);
        self.hardware.extend(made.hardware);
        self.spans.extend(made.spans);
        self.glides.extend(made.glides);
        self.lifts.extend(made.lifts);
        self.made_for.extend(made.made_for);
    }
}

/// The space a module wants, before it is worked out.
#[derive(Debug, Clone, PartialEq)]
pub struct Claim {
    /// In plan.
    pub plan: Region,
    /// From and to, mm over the load floor.
    pub z: (f64, f64),
    /// In plan, at the same heights: what must stay free so that it can be used, such as the way of a drawer. Nothing
    /// is built there that can be built elsewhere.
    pub keeps: Vec<Region>,
}

impl Claim {
    /// Two claims share space, by more than a touch.
    pub fn meets(&self, other: &Claim) -> bool {
        /// Less common area than this is a touch, mm2.
        const TOUCH: f64 = 1.0;
        let high = self.z.0 < other.z.1 - 0.1 && other.z.0 < self.z.1 - 0.1;
        high && self
            .plan
            .and(&other.plan)
            .iter()
            .map(Region::area)
            .sum::<f64>()
            > TOUCH
    }
}
