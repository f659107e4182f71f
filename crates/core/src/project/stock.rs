//! Sheets to cut from, and the saw.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::cutting::nest::SheetGrain;

/// A kind of sheet that can be had.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Sheet {
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// How many there are; null for as many as needed.
    #[serde(default)]
    pub count: Option<u32>,
    /// Price of one.
    #[serde(default)]
    pub cost: Option<f64>,
    /// Which way its grain runs.
    #[serde(default)]
    pub grain: SheetGrain,
}

/// The saw.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Cutting {
    /// Width of the cut, mm.
    pub kerf: f64,
    /// Taken off every factory edge, mm.
    pub trim: f64,
    /// Cuts that were made, by their key, with the time.
    pub ticked: BTreeMap<String, String>,
}

impl Default for Cutting {
    fn default() -> Self {
        Cutting {
            kerf: 3.0,
            trim: 5.0,
            ticked: BTreeMap::new(),
        }
    }
}
