//! An open box of boards with bays, shelves and doors: what is put in from the front.

mod boards;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::Built;
use super::form::Form;
use super::kit::face_frame::RIM;
use super::kit::foot::Foot;
use super::kit::frame::Opens;
use super::kit::grip::Grip;
use super::kit::hinges::{CUP_BOARD, Hinges};
use super::kit::style::{Closed, Join, Style};
use super::stands::{Piece, Stance, Standing};
use super::{Amount, Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::optional;

/// Least size of a bay with its boards, mm: width, height.
const BAY: [f64; 2] = [120.0, 100.0];
/// Least depth, mm.
const SHALLOW: f64 = 120.0;
/// Most bays side by side, and above each other.
const MOST: [u32; 2] = [6, 8];

/// Round a hole to reach through so much of the back is left, mm (a choice).
const WOOD: f64 = 40.0;

/// What is before the bays.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Front {
    /// Nothing, or a lip.
    #[default]
    Open,
    /// A door for each bay.
    Doors,
    /// A flap for each bay, that comes down.
    Flaps,
}

/// What is before its edges.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Rim {
    /// The edges of its boards are seen.
    #[default]
    Edges,
    /// A frame before them.
    Frame,
}

/// The choices about a cabinet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Cabinet {
    /// To which side its front looks.
    pub opens: Opens,
    /// Width, square to the way it opens, mm.
    pub width: f64,
    /// Depth along the way it opens, with its doors, mm.
    pub depth: f64,
    /// Height, mm.
    pub height: f64,
    /// Bays side by side.
    pub columns: u32,
    /// Bays above each other.
    pub rows: u32,
    /// What is before them.
    pub front: Front,
    /// What doors and flaps hang on.
    pub hinges: Hinges,
    /// By what they are opened.
    pub grip: Grip,
    /// What is before its edges.
    pub rim: Rim,
    /// What it stands on.
    pub foot: Foot,
    /// How high plinth or feet are, mm.
    pub lift: f64,
    /// Its bottom.
    pub bottom: Closed,
    /// Its top.
    pub top: Closed,
    /// What holds its boards together.
    pub join: Join,
    /// Diameter of a hole to reach through the back of each bay, mm; none if null.
    pub reach: Option<f64>,
    /// Height of a lip before an open bay, mm.
    pub lip: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of its boards, mm.
    pub thickness: f64,
    /// Thickness of its back, mm.
    pub back: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Cabinet {
    fn default() -> Self {
        Cabinet {
            opens: Opens::Rear,
            width: 600.0,
            depth: 350.0,
            height: 450.0,
            columns: 1,
            rows: 2,
            front: Front::Open,
            hinges: Hinges::Butt,
            grip: Grip::Handle,
            rim: Rim::Edges,
            foot: Foot::Floor,
            lift: 60.0,
            bottom: Closed::Board,
            top: Closed::Board,
            join: Join::Butt,
            reach: None,
            lip: 40.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            back: 9.0,
            clearance: None,
        }
    }
}

/// A cabinet.
pub struct CabinetKind;

impl Piece for CabinetKind {
    type Choices = Cabinet;

    fn name(&self) -> &'static str {
        "cabinet"
    }

    fn purpose(&self) -> &'static str {
        "To put things in from the front, open or behind doors."
    }

    fn stance(&self, c: &Cabinet) -> Stance {
        let n = |k: u32, most: u32| f64::from(k.clamp(1, most));
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                BAY[0] * n(c.columns, MOST[0]) + 2.0 * c.thickness,
                SHALLOW,
                (BAY[1] + c.lip) * n(c.rows, MOST[1]) + 2.0 * c.thickness + c.foot.lifts(c.lift),
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: match c.front {
                Front::Open => 0.0,
                Front::Doors => c.width / n(c.columns, MOST[0]),
                Front::Flaps => c.height / n(c.rows, MOST[1]),
            },
        }
    }

    fn resize(&self, c: &mut Cabinet, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn less(&self, c: &mut Cabinet, said: &dyn Fn(&str) -> bool) -> bool {
        let fewer = c.rows > 1 && !said("rows");
        c.rows -= u32::from(fewer);
        fewer
    }

    fn amount(&self, c: &Cabinet) -> Amount {
        Amount::of(4, c.columns * c.rows, "/choices/rows")
    }

    fn check(&self, c: &Cabinet, _: &Project, _: f64) -> Result<(), Problem> {
        within(
            f64::from(c.columns),
            "/choices/columns",
            1.0,
            f64::from(MOST[0]),
        )?;
        within(f64::from(c.rows), "/choices/rows", 1.0, f64::from(MOST[1]))?;
        within(c.lip, "/choices/lip", 0.0, 300.0)?;
        within(c.back, "/choices/back", 3.0, 30.0)?;
        within(c.lift, "/choices/lift", 20.0, 400.0)?;
        let bay = (c.width - c.thickness) / f64::from(c.columns.max(1)) - c.thickness;
        let hole = (bay - 2.0 * WOOD).min(c.height / f64::from(c.rows.max(1)) - 2.0 * WOOD);
        optional(c.reach, "/choices/reach", 60.0, hole.max(60.0))?;
        if c.rim == Rim::Frame && c.thickness > RIM / 2.0 {
            return Err(Problem::impossible(
                "/choices/rim",
                format!(
                    "A frame of {RIM:.0} mm hides boards of no more than {:.0} mm.",
                    RIM / 2.0
                ),
            ));
        }
        if c.bottom == Closed::Rails {
            return Err(Problem::impossible(
                "/choices/bottom",
                "Things fall through between two rails: a bottom is a board or slats.",
            ));
        }
        let bored = c.front != Front::Open && c.hinges == Hinges::Cup;
        if bored && c.thickness < CUP_BOARD {
            return Err(Problem::impossible(
                "/choices/hinges",
                format!("A cup is bored too deep for a door of less than {CUP_BOARD:.0} mm."),
            ));
        }
        Ok(())
    }

    fn fields(&self, c: &Cabinet, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.count("columns", "Bays side by side", Some(c.columns)),
            f.count("rows", "Above each other", Some(c.rows)),
            f.choice(
                "front",
                "Front",
                &[
                    ("open", "open, with a lip"),
                    ("doors", "doors"),
                    ("flaps", "flaps that come down"),
                ],
            ),
            f.choice("hinges", "Doors hang on", &Hinges::DOORS),
            f.choice("grip", "Doors opened by", &Grip::WORDS),
            f.length("lip", "Lip", Some(c.lip))
                .why("keeps things in on the road; nothing behind doors"),
            f.length("back", "Back", Some(c.back)),
            f.choice(
                "rim",
                "Edges in front",
                &[("edges", "as they are"), ("frame", "a frame before them")],
            ),
            f.choice("foot", "Stands on", &Foot::WORDS),
            f.length("lift", "Plinth or feet", Some(c.lift))
                .why("room for toes, or for what lies on the floor"),
            f.choice("bottom", "Bottom", &Closed::WORDS),
            f.choice("top", "Top", &Closed::ABOVE),
            f.choice("join", "Held together by", &Join::WORDS),
            f.length("reach", "Hole in the back", c.reach)
                .empty("none")
                .why("to reach through, for a plug or a pipe"),
        ]
    }

    fn built(&self, c: &Cabinet, at: &Standing) -> Option<Built> {
        boards::built(c, at)
    }
}

impl Cabinet {
    fn style(&self) -> Style {
        Style {
            join: self.join,
            bottom: self.bottom,
            top: self.top,
        }
    }
}
