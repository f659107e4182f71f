//! What has to go in, who sleeps on it, and the mattress between.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// When a thing must be within reach.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Reach {
    /// Not on the way.
    #[default]
    Never,
    /// From the front seats.
    Driving,
    /// With the bed made.
    Asleep,
    /// From outside, by an open door.
    Outside,
}

/// A bin, case or appliance. Outside sizes with lid and handle.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Gear {
    /// What it is.
    pub name: String,
    /// Width, mm.
    #[serde(default)]
    pub w: Option<f64>,
    /// Depth, mm.
    #[serde(default)]
    pub d: Option<f64>,
    /// Height with lid and handle, mm.
    #[serde(default)]
    pub h: Option<f64>,
    /// How many.
    #[serde(default = "one")]
    pub count: u32,
    /// Free height above it, mm.
    #[serde(default)]
    pub lid_clearance: f64,
    /// For an appliance: height of the slide it stands on, mm.
    #[serde(default)]
    pub slide: f64,
    /// For an appliance: air it needs above, mm.
    #[serde(default)]
    pub air: f64,
    /// When it must be within reach.
    #[serde(default)]
    pub reach: Reach,
    /// Mass of one, kg.
    #[serde(default)]
    pub mass: Option<f64>,
    /// Stands under the deck.
    #[serde(default = "yes")]
    pub under_deck: bool,
}

fn one() -> u32 {
    1
}

fn yes() -> bool {
    true
}

/// Somebody who sleeps and sits in it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Person {
    /// What they are called.
    pub name: String,
    /// Stature, mm.
    #[serde(default)]
    pub stature: Option<f64>,
    /// Seat to crown, mm, if measured.
    #[serde(default)]
    pub sitting_height: Option<f64>,
    /// Body mass, kg; 80 if not given.
    #[serde(default)]
    pub mass: Option<f64>,
}

/// The mattress.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Mattress {
    /// Thickness, mm.
    pub thickness: Option<f64>,
    /// Length, mm.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub length: Option<f64>,
    /// Width, mm.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub width: Option<f64>,
    /// How far it goes down when sat on, mm.
    pub sag: Option<f64>,
    /// Mass, kg.
    pub mass: Option<f64>,
}
