//! How a piece of furniture is held to the vehicle.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::module::named;

/// How a piece is held to the vehicle.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Held {
    /// By what.
    pub by: HeldBy,
    /// The piece to which it is screwed, where it is held by another one.
    #[serde(deserialize_with = "named")]
    pub to: Option<String>,
    /// Thickness of the floor that takes screws, where it is screwed to the floor, mm.
    pub floor: Option<f64>,
}

/// By what a piece is held.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum HeldBy {
    /// The fixings that the survey notes: what is there already first.
    #[default]
    Anchors,
    /// Screws into the floor wherever it stands.
    Floor,
    /// Adhesive strips wherever it stands on the floor.
    Strips,
    /// Another piece, to which it is screwed.
    Piece,
    /// Nothing but its weight and friction.
    Weight,
}
