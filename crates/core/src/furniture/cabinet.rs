//! An open box of boards with bays, shelves and doors: what is put in from the front.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{Built, Ease, FIXED, Fasten, Joint, Pose, Room, Span, Under};
use super::form::Form;
use super::kit::carcass::{Carcass, Cell};
use super::kit::door::{CUP_BOARD, Door, Hinges, Turns};
use super::kit::drawer::THINGS;
use super::kit::frame::{Frame, Opens};
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::units::value::Value;

/// Least size of a bay with its boards, mm: width, height.
const BAY: [f64; 2] = [120.0, 100.0];
/// Least depth, mm.
const SHALLOW: f64 = 120.0;
/// Most bays side by side, and above each other.
const MOST: [u32; 2] = [6, 8];

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
                (BAY[1] + c.lip) * n(c.rows, MOST[1]) + 2.0 * c.thickness,
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
            f.choice("hinges", "Doors hang on", &Hinges::WORDS),
            f.length("lip", "Lip", Some(c.lip))
                .why("keeps things in on the road; nothing behind doors"),
            f.length("back", "Back", Some(c.back)),
        ]
    }

    fn built(&self, c: &Cabinet, at: &Standing) -> Option<Built> {
        let site = at.site;
        let maker = Maker {
            site,
            name: at.name.clone(),
            letter: "K",
            material: c.material.clone(),
            frame: Frame::new(&at.spot, c.opens),
        };
        let board = site.choice("thickness", "board", c.thickness);
        let closed = c.front != Front::Open;
        let before = match closed {
            true => board.clone().named("door before it"),
            false => Value::zero(),
        };
        let carcass = Carcass {
            size: [
                site.choice("width", "width", c.width),
                site.choice("depth", "depth", c.depth) - &before,
                site.choice("height", "height", c.height),
            ],
            before: before.mm,
            board: board.clone(),
            back: Some(site.choice("back", "back", c.back)),
            bottom: true,
            top: true,
            columns: c.columns,
            rows: c.rows,
            given: None,
        };
        let mut out = Built {
            boards: carcass.boards(&maker),
            joints: carcass.joints(),
            ..Built::default()
        };
        let cells = carcass.cells();
        let several = cells.len() > 1;
        for (i, cell) in cells.iter().enumerate() {
            let n = i + 1;
            let name = match several {
                true => format!("{}, bay {n}", at.name),
                false => at.name.clone(),
            };
            let opened_by = match c.front {
                Front::Open => FIXED.to_string(),
                Front::Doors => format!("door-{n}"),
                Front::Flaps => format!("flap-{n}"),
            };
            let [w, h, d] = cell.size.clone().map(|v| v.mm);
            let lip = if closed { 0.0 } else { c.lip };
            out.rooms.push(Room {
                name: name.clone(),
                size: [w, d, h - lip],
                body: FIXED.into(),
                opened_by: opened_by.clone(),
            });
            out.spans.push(shelf(
                &carcass,
                cell,
                maker.thicker("thickness", c.thickness),
            ));
            if closed {
                out.take(door(c, cell, &carcass, maker.called(&name, "K"), opened_by));
            } else if c.lip > 0.0 {
                let lip = site.choice("lip", "lip", c.lip);
                let id = format!("lip-{n}");
                out.boards.push(maker.board(
                    (&id, "lip", "lip"),
                    c.thickness,
                    Pose::across(cell.at[0]),
                    [cell.at[1], cell.at[2]],
                    (("length", &cell.size[0]), ("height", &lip)),
                ));
                let under = carcass.floor_of(cell);
                out.joints.push(Joint::new(Fasten::Butt, under, id));
            }
        }
        for b in &mut out.boards {
            b.then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
        Some(out)
    }
}

/// What stands in a bay bends the board below it.
fn shelf(carcass: &Carcass, cell: &Cell, eases: Vec<Ease>) -> Span {
    let [w, _, d] = cell.size.clone().map(|v| v.mm);
    Span {
        board: carcass.floor_of(cell),
        name: "shelf".into(),
        spans: match cell.row {
            // The bottom lies under all bays.
            0 => vec![w; carcass.columns as usize],
            _ => vec![w],
        },
        width: d,
        along: false,
        under: Under::Things(THINGS * w * d * 1e-6),
        eases,
    }
}

fn door(c: &Cabinet, cell: &Cell, carcass: &Carcass, maker: Maker, body: String) -> Built {
    let half = (&carcass.board * 0.5).named("half the board between");
    let gap = Value::rule("drawer/between", "half the gap between faces", 1.5);
    let rightmost = cell.column == 0;
    let leftmost = cell.column + 1 == c.columns;
    // The hinge at the end that is further forward, so that the wind of driving shuts a door; two doors side by side
    // turn away from each other.
    let turns = match (c.front, c.opens) {
        (Front::Flaps, _) => Turns::Down,
        (_, Opens::Right) => Turns::Right,
        (_, Opens::Left) => Turns::Left,
        (_, Opens::Rear) if rightmost && !leftmost => Turns::Right,
        (_, Opens::Rear) => Turns::Left,
    };
    let on = match turns {
        Turns::Down => carcass.floor_of(cell),
        Turns::Right => carcass.upright_of(cell.column),
        Turns::Left => carcass.upright_of(cell.column + 1),
    };
    Door {
        maker,
        body,
        cell,
        overlap: half - gap,
        board: carcass.board.clone(),
        turns,
        on,
        hinges: c.hinges,
    }
    .made()
}
