//! Holes for what is fixed in the vehicle already: as large as they have to be so that a board goes on all of them.

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

use crate::furniture::built::{Built, Hole};
use crate::geometry::relief::disc;
use crate::project::Project;
use crate::project::transfers::Transfer;
use crate::units::figure::{Figure, System, Writer};

/// In 95 of 100 cases a mark lies no further off than so many of its standard deviations: the Rayleigh distribution of two
/// equal errors at right angles, root of -2 ln 0.05.
const OFF: f64 = 2.447_7;
/// Drills come in steps of half a millimetre, or of a sixteenth of an inch (a choice).
fn drills(system: System) -> f64 {
    match system {
        System::Mm => 0.5,
        System::In => 25.4 / 16.0,
    }
}

/// A mark, and the hole that follows from it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = FixingHole)]
pub struct Transferred {
    /// Its identifier.
    pub id: String,
    /// The board's identifier.
    pub board: String,
    /// How far the mark may be off.
    pub off: Figure,
    /// Diameter of the hole that works all the same.
    pub hole: Figure,
    /// Why there is no hole, if there is none, or what is wrong with it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub wrong: Option<String>,
    /// It cannot be: the board is not there, or the hole lies off it.
    pub stop: bool,
}

/// How far a mark may be off, and the hole for it, mm.
fn hole(t: &Transfer, step: f64) -> (f64, f64) {
    let off = OFF * t.sd;
    let wide = t.bolt + 2.0 * off;
    (off, ((wide / step) - 1e-9).ceil() * step)
}

/// Puts the holes into the boards.
pub fn transfer(
    project: &Project,
    built: &mut BTreeMap<String, Built>,
    w: &Writer,
) -> Vec<Transferred> {
    let mut out = Vec::new();
    for (id, t) in &project.transfers {
        let (off, wide) = hole(t, drills(w.system));
        let mut said = Transferred {
            id: id.clone(),
            board: t.board.clone(),
            off: w.figure(off),
            hole: w.figure(wide),
            wrong: None,
            stop: false,
        };
        let name = if t.name.trim().is_empty() {
            "bolt"
        } else {
            t.name.trim()
        };
        let board = t.board.split_once('/').and_then(|(module, own)| {
            let boards = &mut built.get_mut(module)?.boards;
            boards.iter_mut().find(|b| b.id == own)
        });
        let Some(board) = board else {
            said.wrong = Some(format!(
                "The board with the mark of the {name} is no longer there."
            ));
            said.stop = true;
            out.push(said);
            continue;
        };
        let (Some(x), Some(y)) = (t.left, t.low) else {
            said.wrong = Some(format!(
                "The mark of the {name} is measured from two edges: one is missing."
            ));
            out.push(said);
            continue;
        };
        let (x0, y0, ..) = board.shape.bounds();
        let at = [x0 + x, y0 + y];
        let shape = std::slice::from_ref(&board.shape);
        let inside = |radius: f64| disc(at, radius).minus(shape).is_empty();
        if !inside(wide / 2.0) {
            said.wrong = Some(format!(
                "The hole for the {name} does not lie on its board."
            ));
            said.stop = true;
            out.push(said);
            continue;
        }
        // One diameter of wood beside the hole (common practice, no source).
        if !inside(wide / 2.0 + t.bolt) {
            said.wrong = Some(format!(
                "Beside the hole for the {name} less than {} of wood is left.",
                w.say(t.bolt)
            ));
        }
        board.holes.push(Hole {
            at: [x, y],
            diameter: wide,
        });
        board.then.push(format!(
            "hole of {} for the {name} ({}), {} from the left and {} up: its mark may be off by {}; a washer wider than the hole",
            w.say(wide),
            w.say(t.bolt),
            w.say(x),
            w.say(y),
            w.say(off)
        ));
        out.push(said);
    }
    out
}
