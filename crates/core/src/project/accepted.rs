//! The sheet layout that a person has accepted and may have begun to cut. It is kept as it was: nothing moves it
//! but a new acceptance.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::check::text;
use crate::input::{MAX_LENGTH, count, escape, positive, within};
use crate::mechanics::material::SheetGrain;
use crate::problem::Problem;

/// Most sheets, and most pieces and cuts on one.
const MOST: usize = 300;

/// An accepted layout.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Accepted {
    /// The parts as they were then, by identifier.
    pub parts: BTreeMap<String, AcceptedPart>,
    /// The sheets, by name: `S1`.
    pub sheets: BTreeMap<String, AcceptedSheet>,
}

/// A part as it was accepted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AcceptedPart {
    /// What is written on it.
    pub mark: String,
    /// Width of its blank, mm.
    pub w: f64,
    /// Height of its blank, mm.
    pub h: f64,
    /// Its marked corners, mm.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub corners: Vec<[f64; 2]>,
}

/// A sheet as it was accepted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AcceptedSheet {
    /// Its place in the order of cutting.
    pub order: u32,
    /// Identifier in the stock.
    pub stock: String,
    /// Material identifier.
    pub material: String,
    /// Thickness, mm.
    pub thickness: f64,
    /// Width, mm.
    pub w: f64,
    /// Height, mm.
    pub h: f64,
    /// Grain.
    pub grain: SheetGrain,
    /// Width of the cut, mm.
    pub kerf: f64,
    /// Taken off every factory edge, mm.
    pub trim: f64,
    /// Parts on it.
    pub parts: Vec<AcceptedPlace>,
    /// Cuts in order.
    pub cuts: Vec<AcceptedCut>,
    /// What is left: lower left corner, width, height, mm.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub offcuts: Vec<[f64; 4]>,
}

/// A part on an accepted sheet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AcceptedPlace {
    /// Part identifier.
    pub part: String,
    /// Under which name the part as it was then is kept, where that is not the part's own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub like: Option<String>,
    /// Lower left corner, width and height as it lies, mm.
    #[schema(value_type = Vec<f64>)]
    pub at: [f64; 4],
    /// Turned by 90 degrees.
    #[serde(default)]
    pub rotated: bool,
}

/// A cut of an accepted sheet; its number is its place in the list, from 1.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AcceptedCut {
    /// `x` or `y`.
    pub axis: Axis,
    /// Where the kerf begins, mm.
    pub at: f64,
    /// Start of the run, mm.
    pub from: f64,
    /// End of the run, mm.
    pub to: f64,
}

/// The axis along which the place of a cut is measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Axis {
    /// The saw runs along y.
    X,
    /// The saw runs along x.
    Y,
}

impl AcceptedPlace {
    /// The name under which the part as it was then is kept.
    pub fn kept(&self) -> &str {
        self.like.as_deref().unwrap_or(&self.part)
    }
}

impl Accepted {
    /// Checks numbers and sizes.
    ///
    /// # Errors
    /// The first that is wrong.
    pub fn check(&self, at: &str) -> Result<(), Problem> {
        count(self.parts.len(), &format!("{at}/parts"), 0, 2000)?;
        count(self.sheets.len(), &format!("{at}/sheets"), 0, MOST)?;
        for (id, p) in &self.parts {
            let at = format!("{at}/parts/{}", escape(id));
            text(id, &at)?;
            text(&p.mark, &format!("{at}/mark"))?;
            positive(p.w, &format!("{at}/w"), MAX_LENGTH)?;
            positive(p.h, &format!("{at}/h"), MAX_LENGTH)?;
            count(p.corners.len(), &format!("{at}/corners"), 3, 2000)?;
            for (i, v) in p.corners.iter().flatten().enumerate() {
                let at = format!("{at}/corners/{}/{}", i / 2, i % 2);
                within(*v, &at, -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
        for (id, s) in &self.sheets {
            let at = format!("{at}/sheets/{}", escape(id));
            text(id, &at)?;
            text(&s.stock, &format!("{at}/stock"))?;
            text(&s.material, &format!("{at}/material"))?;
            positive(s.thickness, &format!("{at}/thickness"), 100.0)?;
            positive(s.w, &format!("{at}/w"), MAX_LENGTH)?;
            positive(s.h, &format!("{at}/h"), MAX_LENGTH)?;
            within(s.kerf, &format!("{at}/kerf"), 0.0, 50.0)?;
            within(s.trim, &format!("{at}/trim"), 0.0, 500.0)?;
            count(s.parts.len(), &format!("{at}/parts"), 0, MOST)?;
            count(s.cuts.len(), &format!("{at}/cuts"), 0, MOST)?;
            count(s.offcuts.len(), &format!("{at}/offcuts"), 0, MOST)?;
            for (i, p) in s.parts.iter().enumerate() {
                let at = format!("{at}/parts/{i}");
                if !self.parts.contains_key(p.kept()) {
                    let words = format!("There is no accepted part \"{}\".", p.kept());
                    return Err(Problem::missing(format!("{at}/part"), words));
                }
                for (k, v) in p.at.iter().enumerate() {
                    within(*v, &format!("{at}/at/{k}"), 0.0, MAX_LENGTH)?;
                }
            }
            for (i, c) in s.cuts.iter().enumerate() {
                for (v, field) in [(c.at, "at"), (c.from, "from"), (c.to, "to")] {
                    within(v, &format!("{at}/cuts/{i}/{field}"), 0.0, MAX_LENGTH)?;
                }
            }
            for (i, v) in s.offcuts.iter().flatten().enumerate() {
                let at = format!("{at}/offcuts/{}/{}", i / 4, i % 4);
                within(*v, &at, 0.0, MAX_LENGTH)?;
            }
        }
        Ok(())
    }
}
