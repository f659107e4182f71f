//! What a kind of furniture says it is made of. Everything else (parts, sheets, clash, drawings) is worked out
//! from this by code that has never heard of the kind.

use serde::Serialize;
use utoipa::ToSchema;

pub use super::board::{Axis, Bevel, Board, Bore, Face, Hole, Measure, Pocket};
pub use super::body::{Body, Changing, Ease, FIXED, Met};
use super::kit::drawer_box::Run;
use super::kit::lid::Lift;
use super::platform::Worked;
pub use super::turns::Motion;
pub use crate::geometry::pose::{Pose, Vec3};
use crate::geometry::region::Region;

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
    /// Corner blocks glued and screwed into the corner.
    Blocks,
    /// Angle brackets screwed into the corner.
    Brackets,
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
    /// How thick the thinnest board is into which its screws go, mm, where that is known.
    pub wood: Option<f64>,
    /// It is a latch that holds this body shut on the road, within the module: how strong it has to be is found later.
    pub shuts: Option<String>,
}

impl Item {
    /// So many, each held by so many screws.
    pub fn new(what: &str, count: u32, screws: u32) -> Item {
        Item {
            what: what.into(),
            size: String::new(),
            count,
            screws,
            wood: None,
            shuts: None,
        }
    }

    /// Of a size.
    #[must_use]
    pub fn sized(self, size: impl Into<String>) -> Item {
        Item {
            size: size.into(),
            ..self
        }
    }

    /// Its screws go into a board so thick, mm.
    #[must_use]
    pub fn into_wood(self, mm: f64) -> Item {
        Item {
            wood: Some(mm),
            ..self
        }
    }

    /// It holds this body shut on the road.
    #[must_use]
    pub fn shutting(self, body: impl Into<String>) -> Item {
        Item {
            shuts: Some(body.into()),
            ..self
        }
    }

    /// A latch for a body.
    pub fn latch(body: impl Into<String>) -> Item {
        Item::new("latch that holds it shut on the road", 1, 4).shutting(body)
    }
}

/// A place that was made for a thing of the stow list.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeFor {
    /// Its identifier.
    pub gear: String,
    /// Width, depth and height that are there for it, air and slide included, mm.
    pub size: Vec3,
    /// A corner of its bay at the piece's front, and the one opposite.
    pub bay: [Vec3; 2],
    /// Which way it comes out.
    pub out: Vec3,
}

/// A hand with something in it passes an opening so wide and high, mm (a choice).
pub const HAND: f64 = 90.0;

/// What stays free behind a drawer that is shorter than its carcass.
#[derive(Debug, Clone, PartialEq)]
pub struct Behind {
    /// The drawer's body, within the module.
    pub body: String,
    /// What the drawer is called.
    pub name: String,
    /// Width, depth and height, mm.
    pub size: Vec3,
    /// Width and height of the opening in the back through which it is reached, mm; none where there is no room for one.
    pub window: Option<(f64, f64)>,
    /// A corner of that opening, and the one opposite, at the far face of the back.
    pub bay: [Vec3; 2],
    /// Which way it leads out.
    pub out: Vec3,
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

/// Something that is bought and stands in it as it is: nobody cuts it, but it is in the way, weighs, and may carry.
#[derive(Debug, Clone, PartialEq)]
pub struct Bought {
    /// The box round it, as if it were a thick board.
    pub body: Board,
    /// kg.
    pub mass: f64,
}

/// What has to stay free, as a box along the vehicle's axes.
#[derive(Debug, Clone, PartialEq)]
pub struct Keep {
    /// Identifier within the module.
    pub id: &'static str,
    /// A corner, and the one opposite.
    pub a: Vec3,
    /// See `a`.
    pub b: Vec3,
    /// Above what, in a sentence.
    pub why: String,
    /// There is a flame below it.
    pub flame: bool,
}

impl Keep {
    /// Its least and greatest corner.
    pub fn ends(&self) -> (Vec3, Vec3) {
        let of = |pick: fn(f64, f64) -> f64| std::array::from_fn(|i| pick(self.a[i], self.b[i]));
        (of(f64::min), of(f64::max))
    }
}

/// A bed that is no deck, made up for the night.
#[derive(Debug, Clone, PartialEq)]
pub struct Bed {
    /// What it is called.
    pub name: String,
    /// The body that is moved for it, within the module, if there is one.
    pub body: Option<&'static str>,
    /// Its least and greatest corner in plan, mm.
    pub low: [f64; 2],
    /// See `low`.
    pub high: [f64; 2],
    /// Height of what the mattress lies on, mm.
    pub top: f64,
    /// How wide it is on average, where its sides run together, mm.
    pub mean: Option<f64>,
    /// How it is sat on by day, if it is.
    pub sat: Option<Sat>,
}

/// A bed that is a seat by day: its mattress is cut for it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sat {
    /// How deep what is sat on is by day, mm.
    pub seat: f64,
    /// How wide the bed is the same way when it is made up, mm.
    pub whole: f64,
    /// The height that was chosen, mm.
    pub height: f64,
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
    /// The same on the edge of an upright board so high, mm.
    Edge(f64),
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
    /// What of it is bought and stands in it as it is.
    pub bought: Vec<Bought>,
    /// What of it moves.
    pub bodies: Vec<Body>,
    /// What it offers to gear.
    pub rooms: Vec<Room>,
    /// What holds its boards together.
    pub joints: Vec<Joint>,
    /// Other ways to hold its boards together.
    pub joining: Vec<Ease>,
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
    /// What stays free behind short drawers.
    pub behind: Vec<Behind>,
    /// What has to stay free.
    pub keeps: Vec<Keep>,
    /// Beds that are no decks.
    pub beds: Vec<Bed>,
    /// It said itself which of its edges are sawn at an angle, by what each was held off.
    pub bevelled: bool,
    /// How it came out as a sleeping platform, if it is one.
    pub platform: Option<Box<Worked>>,
}

impl Built {
    /// With a piece of the kit.
    pub fn take(&mut self, made: Built) {
        self.boards.extend(made.boards);
        self.bought.extend(made.bought);
        self.bodies.extend(made.bodies);
        self.rooms.extend(made.rooms);
        self.joints.extend(made.joints);
        self.joining.extend(made.joining);
        self.hardware.extend(made.hardware);
        self.spans.extend(made.spans);
        self.glides.extend(made.glides);
        self.lifts.extend(made.lifts);
        self.made_for.extend(made.made_for);
        self.behind.extend(made.behind);
        self.keeps.extend(made.keeps);
        self.beds.extend(made.beds);
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
