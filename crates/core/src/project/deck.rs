//! The choices about a sleeping platform.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use std::collections::BTreeMap;

use super::module::{Covers, FINISH, Module};

/// The kind of a deck.
pub const DECK: &str = "deck";

/// A platform across the bay.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Deck {
    /// What it is called: the module's name.
    #[serde(skip)]
    pub name: String,
    /// Height of its underside over the load floor, mm; not chosen yet if null.
    pub underside: Option<f64>,
    /// Where it begins, mm forward of the threshold; at the threshold if null.
    pub from: Option<f64>,
    /// Where it ends; at the front end of the bay if null.
    pub to: Option<f64>,
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// Solid or slats.
    pub top: Top,
    /// Width of a slat, mm.
    pub slat_width: f64,
    /// Gap between slats, mm.
    pub slat_gap: f64,
    /// What carries it.
    pub supports: Supports,
    /// How it is parted.
    pub split: Split,
    /// What its pieces lie on where they meet over a support.
    pub rest: Rest,
    /// What of it moves.
    pub change: Change,
    /// A front board that moves is cut as narrow as its way over the rear one is.
    pub pass: Pass,
    /// Where the rear and the front board meet, mm forward of the threshold; over the support nearest the middle if null.
    pub joint: Option<f64>,
    /// Clearance to walls and wells, mm; from the readings' noise and the finish if null.
    pub clearance: Option<f64>,
    /// What is glued or tacked round its edges.
    pub covers: Covers,
    /// Thickness of finish on one face or edge, mm: the module's.
    #[serde(skip)]
    pub finish: f64,
    /// Hatches that lift out.
    pub hatches: Hatches,
    /// Length of their holes along the vehicle, mm.
    pub hatch_length: f64,
    /// Width of their holes, mm.
    pub hatch_width: f64,
    /// Hatches where the person wants them, by identifier; they count where `hatches` is `placed`.
    pub hatch_places: BTreeMap<String, HatchPlace>,
    /// A leaf at its front end, folded out at night over front seats that are slid forward.
    pub leaf: Leaf,
    /// Its length along the vehicle, mm.
    pub leaf_length: f64,
    /// Height of the floor on which its legs stand, mm over the load floor; as the floor under the deck's front end if null.
    pub leaf_floor: Option<f64>,
    /// Radius of internal corners, mm.
    pub internal_radius: f64,
    /// Where the floor below differs from the survey: legs are cut for it.
    pub leg_regions: BTreeMap<String, LegRegion>,
    /// The most it may sag.
    pub limits: Limits,
}

impl Default for Deck {
    fn default() -> Self {
        Deck {
            name: "deck".into(),
            underside: None,
            from: None,
            to: None,
            material: "birch-ply".into(),
            thickness: 15.0,
            top: Top::Solid,
            slat_width: 70.0,
            slat_gap: 40.0,
            supports: Supports::default(),
            split: Split::Auto,
            rest: Rest::Edge,
            change: Change::Fixed,
            pass: Pass::Narrow,
            joint: None,
            clearance: None,
            covers: Covers::default(),
            finish: FINISH,
            hatches: Hatches::None,
            hatch_length: 300.0,
            hatch_width: 400.0,
            hatch_places: BTreeMap::new(),
            leaf: Leaf::None,
            leaf_length: 250.0,
            leaf_floor: None,
            internal_radius: 6.0,
            leg_regions: BTreeMap::new(),
            limits: Limits::default(),
        }
    }
}

impl Deck {
    /// The choices of a module that is a deck, if they can be read.
    pub fn of(module: &Module) -> Option<Deck> {
        if module.kind != DECK {
            return None;
        }
        let choices = serde_json::Value::Object(module.choices.clone());
        let read = crate::input::from_value::<Deck>(choices).ok()?;
        Some(Deck {
            name: module.called(),
            finish: module.finish,
            ..read
        })
    }

    /// The module with these choices.
    pub fn module(&self) -> Module {
        let name = if self.name == DECK { "" } else { &self.name };
        Module {
            name: name.into(),
            finish: self.finish,
            ..Module::new(DECK).with(self)
        }
    }
}

/// Hatches in the deck's boards.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Hatches {
    /// None.
    #[default]
    None,
    /// One over each bay between two supports, in each board, where there is room.
    Bays,
    /// Where the person says.
    Placed,
}

/// A hatch where the person wants it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct HatchPlace {
    /// What it is called; by its number if empty.
    pub name: String,
    /// Rear edge of its hole, mm forward of the threshold.
    pub along: f64,
    /// Middle of its hole, mm left of the centre line.
    pub across: f64,
    /// Length of its hole along the vehicle, mm.
    pub length: f64,
    /// Width of its hole, mm.
    pub width: f64,
    /// How it opens.
    pub opens: HatchOpens,
}

impl Default for HatchPlace {
    fn default() -> Self {
        HatchPlace {
            name: String::new(),
            along: 300.0,
            across: 0.0,
            length: 300.0,
            width: 400.0,
            opens: HatchOpens::Out,
        }
    }
}

/// How a hatch opens.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum HatchOpens {
    /// It lifts out.
    #[default]
    Out,
    /// On hinges at its front edge.
    Front,
    /// On hinges at its rear edge.
    Rear,
    /// On hinges at its left edge.
    Left,
    /// On hinges at its right edge.
    Right,
}

/// A leaf at the deck's front end.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Leaf {
    /// None.
    #[default]
    None,
    /// On the left half: before it one seat is slid forward.
    Left,
    /// On the right half.
    Right,
    /// Over the whole width.
    Both,
}

/// Solid or slats.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Top {
    /// Solid with vent holes.
    #[default]
    Solid,
    /// Slats along the bay.
    Slats,
}

/// What carries the deck.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Supports {
    /// The manner.
    pub manner: Manner,
    /// Number of support lines across the bay; as few as the sag allows if null.
    pub lines: Option<u32>,
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
}

impl Default for Supports {
    fn default() -> Self {
        Supports {
            manner: Manner::Frames,
            lines: None,
            material: "birch-ply".into(),
            thickness: 15.0,
        }
    }
}

/// Manners of support.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Manner {
    /// Frames of ply on edge across the bay, with windows to reach through.
    #[default]
    Frames,
    /// Rails on legs.
    Legs,
    /// Ledger strips along the walls with rails between them.
    Ledgers,
}

/// What pieces of a deck lie on where they meet over a support.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Rest {
    /// Each on half of its upper edge.
    #[default]
    Edge,
    /// On strips on both its faces too.
    Strips,
}

/// How the deck is parted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Split {
    /// In as few pieces as lie on a sheet and come through the opening.
    #[default]
    Auto,
    /// Not at all.
    Whole,
    /// In two along the centre line.
    Lengthwise,
    /// In two across, over a support.
    Across,
    /// In four.
    Quarters,
}

/// How a bed of a rear and a front board makes room for the road, or gives access to what is below.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Change {
    /// It stays.
    #[default]
    Fixed,
    /// The front board is lifted onto the rear one and slid back.
    Slide,
    /// The front board folds back onto the rear one on hinges.
    Fold,
    /// The front board is turned over onto the rear one by hand: loose, with pins instead of hinges.
    Flip,
    /// It stays for the road; the rear board lifts up on hinges at the joint, to what lies below.
    Lift,
}

impl Change {
    /// The front board is turned over about the joint.
    pub fn turns(self) -> bool {
        matches!(self, Change::Fold | Change::Flip)
    }
}

/// How wide a front board that moves is cut.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Pass {
    /// No wider than its way over the rear board.
    #[default]
    Narrow,
    /// As wide as the bay where it lies.
    Full,
}

/// A stretch of the bay with a floor of its own height.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LegRegion {
    /// Start, mm forward of the threshold.
    pub from: f64,
    /// End, mm.
    pub to: f64,
    /// Height of the floor there over the load floor, mm.
    pub floor: f64,
}

/// The most a deck may give. Both are choices, not rules of any standard.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Limits {
    /// Under sleepers: span over sag at least this.
    pub span_over: f64,
    /// Under one knee, mm.
    pub knee: f64,
}

impl Default for Limits {
    fn default() -> Self {
        Limits {
            span_over: 250.0,
            knee: 5.0,
        }
    }
}
