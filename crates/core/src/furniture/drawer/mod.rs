//! A drawer in a carcass of its own.

mod behind;
mod boards;
mod nested;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::furniture::Amount;
use crate::furniture::built::Built;
use crate::furniture::form::Form;
use crate::furniture::kit::drawer::THICKEST_BOTTOM;
use crate::furniture::kit::drawer_box::{BottomJoint, Face, FaceKind, Making, Run};
use crate::furniture::kit::frame::Opens;
use crate::furniture::kit::grip::Grip;
use crate::furniture::stands::{Piece, Stance, Standing};
use crate::furniture::{Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::optional;
use crate::units::value::Value;

/// Least size of the carcass, mm: width, depth, height.
const LEAST: [f64; 3] = [200.0, 250.0, 110.0];
/// Where nothing is said, each of several drawers gets so much of the width and of the height, mm (a choice).
const EACH: [f64; 2] = [300.0, 150.0];
/// Most drawers side by side, and above each other.
const MOST: [u32; 2] = [4, 6];

/// Most compartments either way, and the least of one, mm (a choice: a hand's fingers).
const CELLS: f64 = 12.0;
const LEAST_CELL: f64 = 40.0;

/// The choices about a drawer.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Drawer {
    /// Width of the carcass, square to the way it opens, mm.
    pub width: f64,
    /// Its depth along the way it opens, with the face, mm.
    pub depth: f64,
    /// Its height, mm.
    pub height: f64,
    /// To which side it opens.
    pub opens: Opens,
    /// Material identifier of the carcass and the box.
    pub material: String,
    /// Thickness of the carcass and of the face, mm.
    pub thickness: f64,
    /// Thickness of the box's sides, front and back, mm.
    pub sides: f64,
    /// Thickness of its bottom, mm.
    pub bottom: f64,
    /// On what it runs.
    pub motion: Run,
    /// How its bottom is held.
    pub joint: BottomJoint,
    /// How the face covers the opening.
    pub face: FaceKind,
    /// What one slide takes of the width, mm.
    pub slide_width: f64,
    /// Drawers side by side.
    pub columns: u32,
    /// Drawers above each other.
    pub rows: u32,
    /// The drawers of the last column, the leftmost seen from their front, are only so long, mm; as long as the others if
    /// null.
    pub short: Option<f64>,
    /// Compartments of each drawer side by side.
    pub cells_across: u32,
    /// Compartments of each drawer one behind the other.
    pub cells_deep: u32,
    /// Thickness of a board that pulls out over the uppermost drawers, mm; none if null.
    pub table: Option<f64>,
    /// A drawer within a drawer, or not.
    pub inner: Inner,
    /// What the faces do.
    pub front: Front,
    /// By what the drawers are pulled.
    pub grip: Grip,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

/// Whether a drawer runs in another one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Inner {
    /// It runs in the carcass.
    #[default]
    Single,
    /// It runs in an open box that comes out by itself, as a worktop.
    Nested,
}

/// What a drawer's face does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Front {
    /// It is screwed to the box.
    #[default]
    Fast,
    /// It drops down on hinges, as a table.
    Drops,
}

impl Default for Drawer {
    fn default() -> Self {
        Drawer {
            width: 450.0,
            depth: 600.0,
            height: 200.0,
            opens: Opens::Rear,
            material: "birch-ply".into(),
            thickness: 15.0,
            sides: 12.0,
            bottom: 9.0,
            motion: Run::SideSlides,
            joint: BottomJoint::GrooveBox,
            face: FaceKind::Overlay,
            slide_width: 12.7,
            columns: 1,
            rows: 1,
            short: None,
            cells_across: 1,
            cells_deep: 1,
            table: None,
            inner: Inner::Single,
            front: Front::Fast,
            grip: Grip::Handle,
            clearance: None,
        }
    }
}

impl Drawer {
    /// The lengths it is made from, for the module at the pointer `at`.
    fn sizes(&self, at: &str) -> Sizes {
        let choice = |field: &str, label: &str, mm| {
            Value::choice(format!("{at}/choices/{field}"), label, mm)
        };
        let board = choice("thickness", "board", self.thickness);
        let before = match self.face {
            FaceKind::Overlay => board.clone().named("face before it"),
            FaceKind::Inset => Value::zero(),
        };
        Sizes {
            outside: [
                choice("width", "width", self.width),
                choice("depth", "depth", self.depth) - &before,
                choice("height", "height", self.height),
            ],
            gap: Value::rule("drawer/gap", "gap", 2.0),
            table: self
                .table
                .map(|mm| choice("table", "board that pulls out", mm)),
            short: self.short.map(|mm| choice("short", "shorter drawer", mm)),
            before,
            board,
        }
    }

    /// A drawer of it in an opening.
    fn making(&self, at: &str, finish: f64, opening: [Value; 3], above: Value) -> Making {
        let choice = |field: &str, label: &str, mm| {
            Value::choice(format!("{at}/choices/{field}"), label, mm)
        };
        let sizes = self.sizes(at);
        let t = &sizes.board;
        let sides = choice("sides", "side of the box", self.sides);
        let groove = (&sides * 0.5).named("half a side");
        let deepest = Value::rule("drawer/groove", "groove", 5.0);
        // The face ends 2 mm inside the carcass: neighbours pass. Two faces share the board between them.
        let alone = self.columns == 1 && self.rows == 1;
        let (free, rim) = if alone {
            (Value::rule("drawer/rim", "rim left free", 2.0), t.clone())
        } else {
            let half = (t * 0.5).named("half the board between");
            (
                Value::rule("drawer/between", "half the gap between faces", 1.5),
                half,
            )
        };
        let least = Value::rule("drawer/least-overlap", "overlap", 1.0);
        Making {
            opening,
            motion: self.motion,
            slide_width: choice("slide_width", "slide", self.slide_width),
            strip: Value::rule("drawer/strip", "strip below it", 6.0),
            gap: sizes.gap.clone(),
            back_gap: Value::rule("drawer/back-gap", "air behind", 10.0),
            sides,
            bottom: choice("bottom", "bottom", self.bottom),
            joint: self.joint,
            groove: if groove.mm < deepest.mm {
                groove
            } else {
                deepest
            },
            face: Some(Face {
                kind: self.face,
                overlap: (rim - free).max(least).named("over the rim"),
                gap: sizes.gap,
                thickness: t.clone().named("face"),
            }),
            above,
            finish: Value::choice(format!("{at}/finish"), "finish on a face", finish),
        }
    }
}

/// The lengths that a drawer and its carcass are made from.
struct Sizes {
    /// Width, depth, height of the carcass.
    outside: [Value; 3],
    /// Thickness of its boards.
    board: Value,
    /// What stands before it: the face, or nothing.
    before: Value,
    /// Play round what moves.
    gap: Value,
    /// Thickness of a board that pulls out over the uppermost drawers.
    table: Option<Value>,
    /// Length of a drawer that is shorter than the others.
    short: Option<Value>,
}

/// Drawers in a carcass.
pub struct DrawerKind;

impl Piece for DrawerKind {
    type Choices = Drawer;

    fn name(&self) -> &'static str {
        "drawer"
    }

    fn purpose(&self) -> &'static str {
        "For what you want to pull out without lifting anything."
    }

    fn stance(&self, d: &Drawer) -> Stance {
        let [w, dp, h] = LEAST;
        let n = |k: u32, most: u32| f64::from(k.clamp(1, most));
        Stance {
            opens: d.opens,
            size: [d.width, d.depth, d.height],
            least: [
                w * n(d.columns, MOST[0]),
                dp.max(d.short.unwrap_or(0.0)),
                h * n(d.rows, MOST[1]) + over(d),
            ],
            clearance: d.clearance,
            material: d.material.clone(),
            thickness: d.thickness,
            reach: d.depth,
        }
    }

    fn resize(&self, d: &mut Drawer, size: [f64; 3]) {
        [d.width, d.depth, d.height] = size;
    }

    fn suit(&self, d: &mut Drawer, _: &Site, said: &dyn Fn(&str) -> bool) {
        // Several want more room.
        let n = |k: u32, most: u32| f64::from(k.clamp(1, most));
        if !said("width") {
            d.width = d.width.max(EACH[0] * n(d.columns, MOST[0]));
        }
        if !said("height") {
            d.height = d.height.max(EACH[1] * n(d.rows, MOST[1])) + over(d);
        }
    }

    fn amount(&self, d: &Drawer) -> Amount {
        let inside = d.cells_across.saturating_sub(1) + d.cells_deep.saturating_sub(1);
        Amount::of(8 + inside as usize, d.columns * d.rows, "/choices/rows")
    }

    fn check(&self, d: &Drawer, _: &Project, finish: f64) -> Result<(), Problem> {
        within(d.sides, "/choices/sides", 6.0, 25.0)?;
        within(d.bottom, "/choices/bottom", 3.0, THICKEST_BOTTOM)?;
        within(d.slide_width, "/choices/slide_width", 5.0, 40.0)?;
        within(
            f64::from(d.columns),
            "/choices/columns",
            1.0,
            f64::from(MOST[0]),
        )?;
        within(f64::from(d.rows), "/choices/rows", 1.0, f64::from(MOST[1]))?;
        within(
            f64::from(d.cells_across),
            "/choices/cells_across",
            1.0,
            CELLS,
        )?;
        within(f64::from(d.cells_deep), "/choices/cells_deep", 1.0, CELLS)?;
        optional(d.table, "/choices/table", 6.0, 30.0)?;
        optional(d.short, "/choices/short", LEAST[1], d.depth)?;
        if d.inner == Inner::Nested {
            nested::check(d)?;
        }
        for making in boards::makings(d, finish) {
            let [w, _, deep] = making.inside().map(|v| v.mm);
            let parts = [
                ("cells_across", d.cells_across, w),
                ("cells_deep", d.cells_deep, deep),
            ];
            for (field, n, whole) in parts.into_iter().filter(|p| p.1 > 1) {
                let n = f64::from(n);
                if (whole - (n - 1.0) * d.bottom) / n < LEAST_CELL {
                    return Err(Problem::out_of_range(
                        format!("/choices/{field}"),
                        "In so small a compartment nothing has room.",
                        "fewer, or a larger drawer",
                    ));
                }
            }
            for (v, at) in making.inside().iter().zip(["width", "height", "depth"]) {
                if v.mm < 20.0 {
                    return Err(Problem::impossible(
                        format!("/choices/{at}"),
                        "Nothing is left inside the drawer.",
                    ));
                }
            }
        }
        Ok(())
    }

    fn fields(&self, d: &Drawer, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.count("columns", "Side by side", Some(d.columns)),
            f.count("rows", "Above each other", Some(d.rows)),
            f.choice(
                "motion",
                "Runs on",
                &[
                    ("side_slides", "slides at its sides"),
                    ("locking_slides", "slides that lock"),
                    ("strips", "slippery strips"),
                    ("bare", "wood, waxed"),
                ],
            ),
            f.choice(
                "joint",
                "Bottom",
                &[
                    ("groove_box", "in grooves"),
                    ("pocket", "under the sides"),
                    ("rabbet", "in rabbets"),
                ],
            ),
            f.choice(
                "face",
                "Face",
                &[
                    ("overlay", "before the opening"),
                    ("inset", "in the opening"),
                ],
            ),
            f.length("sides", "Sides of the box", Some(d.sides)),
            f.length("bottom", "Its bottom", Some(d.bottom)),
            f.count(
                "cells_across",
                "Compartments side by side",
                Some(d.cells_across),
            )
            .why("slotted into each other, they lift out"),
            f.count(
                "cells_deep",
                "Compartments behind each other",
                Some(d.cells_deep),
            ),
            f.length("table", "Board that pulls out over them", d.table)
                .empty("none"),
            f.choice(
                "inner",
                "A drawer within a drawer",
                &[
                    ("single", "no"),
                    ("nested", "yes: the outer one comes out as a worktop"),
                ],
            )
            .why("two pairs of slides: the width of slides and sides comes off twice"),
            f.choice(
                "front",
                "Its face",
                &[
                    ("fast", "is screwed to the box"),
                    ("drops", "drops down as a table"),
                ],
            ),
            f.choice("grip", "Pulled by", &Grip::WORDS)
                .why("a hand reaches through face and front"),
            f.length("short", "Length of the leftmost drawers", d.short)
                .empty("as the others")
                .why("what lies behind a shorter one is reached through the back"),
        ]
    }

    fn built(&self, d: &Drawer, at: &Standing) -> Option<Built> {
        Some(boards::built(d, at))
    }
}

/// Height that a board over the drawers takes, mm.
fn over(d: &Drawer) -> f64 {
    d.table.map_or(0.0, |t| t + d.thickness + 4.0)
}
