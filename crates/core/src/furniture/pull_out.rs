//! A table that pulls out of a low stand, with room below it.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{Built, FIXED, Room};
use super::form::Form;
use super::kit::carcass::Carcass;
use super::kit::frame::Opens;
use super::kit::maker::Maker;
use super::kit::slide_board::{STAYS, SlideBoard, takes};
use super::kit::style::Style;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::units::value::Value;

/// Least width and depth, mm.
const LEAST: [f64; 2] = [250.0, 250.0];
/// Play of the board on every side, mm.
const GAP: f64 = 2.0;
/// Below the board at least so much, mm.
const BELOW: f64 = 60.0;

/// The choices about a table that pulls out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct PullOut {
    /// To which side it is pulled.
    pub opens: Opens,
    /// Width, square to the way it is pulled, mm.
    pub width: f64,
    /// Depth along the way it is pulled, mm.
    pub depth: f64,
    /// Height with its top, mm.
    pub height: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of the stand, mm.
    pub thickness: f64,
    /// Thickness of the board that pulls out, mm.
    pub table: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for PullOut {
    fn default() -> Self {
        PullOut {
            opens: Opens::Rear,
            width: 450.0,
            depth: 600.0,
            height: 240.0,
            material: "birch-ply".into(),
            thickness: 15.0,
            table: 15.0,
            clearance: None,
        }
    }
}

/// A table that pulls out.
pub struct PullOutKind;

impl Piece for PullOutKind {
    type Choices = PullOut;

    fn name(&self) -> &'static str {
        "pull_out"
    }

    fn purpose(&self) -> &'static str {
        "To cook, write or put a cup on: a table that pulls out."
    }

    fn stance(&self, c: &PullOut) -> Stance {
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                LEAST[0],
                LEAST[1],
                BELOW + 2.0 * c.thickness + c.table + 2.0 * GAP,
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: c.depth * (1.0 - STAYS),
        }
    }

    fn resize(&self, c: &mut PullOut, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn check(&self, c: &PullOut, _: &Project, _: f64) -> Result<(), Problem> {
        within(c.table, "/choices/table", 6.0, 30.0)?;
        Ok(())
    }

    fn fields(&self, c: &PullOut, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.length("table", "Board that pulls out", Some(c.table))
                .why("two thirds of it come out"),
        ]
    }

    fn built(&self, c: &PullOut, at: &Standing) -> Option<Built> {
        let site = at.site;
        let maker = Maker::new(at, "T", &c.material, c.opens);
        let board = site.choice("thickness", "board", c.thickness);
        let carcass = Carcass {
            size: [
                site.choice("width", "width", c.width),
                site.choice("depth", "depth", c.depth),
                site.choice("height", "height", c.height),
            ],
            before: 0.0,
            board: board.clone(),
            back: Some(board.clone().named("back")),
            style: Style::default(),
            bottom: false,
            top: true,
            columns: 1,
            rows: 1,
            given: vec![],
        };
        let mut out = Built {
            boards: carcass.boards(&maker),
            joints: carcass.joints(),
            ..Built::default()
        };
        let cell = carcass.cells().into_iter().next()?;
        let [w, h, d] = cell.size;
        let table = site.choice("table", "board that pulls out", c.table);
        let gap = Value::rule("table/gap", "gap", GAP);
        let strip = board.named("strip it runs on");
        let taken = takes(&table, &strip, &gap).mm;
        out.rooms.push(Room {
            name: at.name.clone(),
            size: [w.mm - 2.0 * c.thickness, d.mm, h.mm - taken],
            body: FIXED.into(),
            opened_by: FIXED.into(),
        });
        out.take(
            SlideBoard {
                maker: maker.clone(),
                prefix: String::new(),
                body: "table".into(),
                at: [cell.at[0], cell.at[1], cell.at[2] + h.mm],
                opening: [w, d],
                before: Value::zero(),
                board: table,
                strip,
                gap,
                sides: [0, 1].map(|c| carcass.upright_of(c)),
            }
            .made(),
        );
        for b in &mut out.boards {
            b.then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
        Some(out)
    }
}
