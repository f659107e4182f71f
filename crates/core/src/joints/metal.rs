//! Joints of which one board or both are metal: bolted, or screwed through the metal into the wood.

use super::Holes;
use super::places::{OFF_END, Patch};
use super::screw::Screw;
use crate::boards::BoardView;
use crate::furniture::built::Fasten;
use crate::solids::Solid;
use crate::units::figure::{System, Writer};

/// Screws or bolts along metal are no further apart than this, mm: four on a bar (common practice, no source), a little more
/// than 5 ft long.
const BAR_APART: f64 = 510.0;
/// A leg of the metal is so thick, mm.
const LEG: f64 = 4.0;

/// Bars that meet end to side lie level with each other: a plate across the joint takes a bolt in each, so long, wide and thick, mm
/// (a choice: as wide as the bar).
pub const PLATE: [f64; 3] = [80.0, 40.0, LEG];
/// Its bolts stand so far off the joint, mm.
const OFF_JOINT: f64 = PLATE[0] / 4.0;
/// What lies on a bolt's head is bored so wide and so deep, mm: a washer of 16 and the head's 5.3 with the washer's 1.6 (M8 by ISO
/// 7089 and ISO 4017, from memory), with room.
pub const HEAD: [f64; 2] = [20.0, 8.0];

/// What holds a joint with metal: what, of which size, in which hole.
pub struct Bolted {
    /// What.
    pub what: &'static str,
    /// Its size.
    pub size: String,
    /// How wide a hole lets it pass, mm (bolts by ISO 273, medium, from memory).
    pub hole: f64,
}

/// How many hold a stretch so long, mm.
pub fn how_many(length: f64) -> u32 {
    if length < 2.0 * OFF_END + 20.0 {
        1
    } else {
        (length / BAR_APART).ceil() as u32 + 1
    }
}

/// What holds a joint of which one board or both are metal.
pub fn through_metal(j: Fasten, a: &BoardView, b: &BoardView, w: &Writer) -> Option<Bolted> {
    if j == Fasten::Lies {
        return None;
    }
    let bolt = |mm: &str, inch: &str, hole: f64| Bolted {
        what: "bolt with washers and lock nut",
        size: match w.system {
            System::Mm => mm.into(),
            System::In => inch.into(),
        },
        hole,
    };
    if a.metal && b.metal {
        // 5/16 x 1 in with lock nuts (common practice, no source).
        return Some(bolt("M8 x 25 mm", "5/16 x 1 in", 9.0));
    }
    let wood = if a.metal { b } else { a };
    let Some(screw) = Screw::up_to(wood.thickness + LEG - 3.0, 4.0) else {
        return Some(bolt("M6 x 25 mm", "1/4 x 1 in", 6.6));
    };
    Some(Bolted {
        what: "wood screw, through holes drilled in the metal",
        size: screw.size(w),
        hole: screw.hole().unwrap_or(LEG),
    })
}

/// The two bolts of a plate across a joint, each in its own bar: down through the legs that lie level, or, where a post stands under a
/// bar, square to the faces that stand upright.
pub fn plated(patch: &Patch, a: &Solid, b: &Solid, (wide, what): (f64, String)) -> Vec<Holes> {
    let axis = patch.axis;
    let upright = axis == 2;
    let mut middle = patch.middle();
    if !upright {
        middle[2] = patch.top();
    }
    let centre = |s: &Solid| s.low[axis] + s.high[axis];
    let into_a = if centre(a) < centre(b) { -1.0 } else { 1.0 };
    let bolt = |first: bool| {
        let mut at = middle;
        at[axis] += OFF_JOINT * if first { into_a } else { -into_a };
        Holes {
            rows: vec![vec![at]],
            through: [first, !first],
            wide: Some(wide),
            what: what.clone(),
            along: (!upright).then_some(2),
            heads: !upright,
            long: None,
        }
    };
    vec![bolt(true), bolt(false)]
}
