//! A piece of furniture in the document: what kind it is, where it goes, and the choices of its kind.

use serde::{Deserialize, Deserializer, Serialize};
use serde_json::{Map, Value};
use utoipa::ToSchema;

use super::held::Held;
use super::survey::Side;

/// Finish on a face where nothing else is said, mm.
pub const FINISH: f64 = 0.2;

/// A piece of furniture. What the choices may be is known to its kind (`furniture`), not to the document.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Module {
    /// Its kind, for example `deck`.
    pub kind: String,
    /// What it is called; its kind, if nothing.
    #[serde(default)]
    pub name: String,
    /// Where it goes.
    #[serde(default)]
    pub place: ModulePlace,
    /// How it is held to the vehicle.
    #[serde(default)]
    pub held: Held,
    /// Thickness of finish on one face or edge, mm.
    #[serde(default = "finish")]
    pub finish: f64,
    /// What covers its edges along the walls and at the front beside that. A deck has it among its choices.
    #[serde(default)]
    pub covers: Covers,
    /// Anything worth noting.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub notes: String,
    /// The choices of its kind.
    #[serde(default)]
    #[schema(value_type = std::collections::HashMap<String, Value>)]
    pub choices: Map<String, Value>,
}

fn finish() -> f64 {
    FINISH
}

/// Thickness of carpet or foam on the edges of a piece, mm: its boards are cut so much smaller there.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Covers {
    /// On the edge along the left wall.
    pub left: f64,
    /// Along the right wall.
    pub right: f64,
    /// Along the front end.
    pub front: f64,
}

impl Covers {
    /// Nothing covers an edge.
    pub fn none(&self) -> bool {
        *self == Covers::default()
    }

    /// What covers the edge along a wall, mm.
    pub fn at(&self, side: Side) -> f64 {
        match side {
            Side::Left => self.left,
            Side::Right => self.right,
        }
    }
}

/// Where a module goes, by relation: when the survey changes, it moves along.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct ModulePlace {
    /// Forward of the rear threshold, or of the piece it comes after, mm.
    pub along: f64,
    /// So far off, or halfway to the front.
    #[serde(skip_serializing_if = "Lengthwise::is_off")]
    pub lengthwise: Lengthwise,
    /// The module after which it comes, towards the front.
    #[serde(deserialize_with = "named", skip_serializing_if = "Option::is_none")]
    pub after: Option<String>,
    /// The thing of the survey in front of which it begins: along is counted from its front end.
    #[serde(deserialize_with = "named", skip_serializing_if = "Option::is_none")]
    pub against: Option<String>,
    /// Across the bay.
    pub across: Across,
    /// The module beside which it stands: on its left or right where `across` names a wall, else towards the middle.
    #[serde(deserialize_with = "named", skip_serializing_if = "Option::is_none")]
    pub beside: Option<String>,
    /// Off what it stands against or beside, mm.
    pub gap: f64,
    /// Over what it stands on, mm.
    pub up: f64,
    /// The module on which it stands; the floor if none.
    #[serde(deserialize_with = "named", skip_serializing_if = "Option::is_none")]
    pub on: Option<String>,
    /// Where the face of the piece beside which it stands lies, mm to the left of the centre line; worked out, never stored.
    #[serde(skip)]
    #[schema(ignore)]
    pub face: Option<f64>,
}

/// A name, or none where nothing stands.
///
/// # Errors
/// It is no text.
pub fn named<'de, D: Deserializer<'de>>(from: D) -> Result<Option<String>, D::Error> {
    let name = Option::<String>::deserialize(from)?;
    Ok(name.filter(|n| !n.is_empty()))
}

/// Along the bay.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Lengthwise {
    /// As far off as `along` says.
    #[default]
    Off,
    /// Halfway between where it could begin and the front; `along` does not count.
    Middle,
}

impl Lengthwise {
    /// As usual.
    pub fn is_off(&self) -> bool {
        *self == Lengthwise::Off
    }
}

/// Across the bay.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Across {
    /// From wall to wall.
    #[default]
    WallToWall,
    /// Against the left wall.
    LeftWall,
    /// Against the right wall.
    RightWall,
    /// On the centre line.
    Centred,
}

impl Across {
    /// The wall against which it stands, if it is one.
    pub fn side(self) -> Option<Side> {
        match self {
            Across::LeftWall => Some(Side::Left),
            Across::RightWall => Some(Side::Right),
            Across::WallToWall | Across::Centred => None,
        }
    }
}

impl Module {
    /// A module of that kind with nothing chosen.
    pub fn new(kind: &str) -> Module {
        Module {
            kind: kind.into(),
            name: String::new(),
            place: ModulePlace::default(),
            held: Held::default(),
            finish: FINISH,
            covers: Covers::default(),
            notes: String::new(),
            choices: Map::new(),
        }
    }

    /// With these choices; what does not serialise to an object is none.
    #[must_use]
    pub fn with(mut self, choices: &impl Serialize) -> Module {
        self.choices = match serde_json::to_value(choices) {
            Ok(Value::Object(map)) => map,
            _ => Map::new(),
        };
        self
    }

    /// What it is called in a sentence.
    pub fn called(&self) -> String {
        if self.name.trim().is_empty() {
            self.kind.replace('_', " ")
        } else {
            self.name.clone()
        }
    }
}
