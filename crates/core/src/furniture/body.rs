//! What moves as one, and what may help it on its way.

use serde::Serialize;
use utoipa::ToSchema;

use super::turns::Motion;

/// The body of everything that does not move.
pub const FIXED: &str = "fixed";

/// What moves as one.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Body {
    /// Identifier, `module/body`.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// The body it rides on, `module/body`, if it is not the vehicle that carries it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub parent: Option<String>,
    /// How it moves where that one is shut.
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
    /// What may stay where it lies meanwhile: `what lies on the front board, up to 300 mm high`.
    pub stays: String,
    /// How it is done, and how undone.
    pub words: [String; 2],
    /// How it lies then: `back`, `lowered`, `out 440 mm`.
    pub moved: String,
    /// What that gives, if it gives floor: how far it is free in front of what stays, mm.
    pub frees: Option<f64>,
    /// It is done for the road.
    pub for_road: bool,
    /// Seconds it takes (a choice).
    pub seconds: u32,
    /// How far the front of the bay gives way before it is moved, mm: seats are slid forward.
    pub past_front: f64,
}

impl Body {
    /// How far the front of the bay gives way before it is moved, mm.
    pub fn past_front(&self) -> f64 {
        self.change.as_ref().map_or(0.0, |c| c.past_front)
    }
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
