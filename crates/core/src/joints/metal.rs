//! Joints of which one board or both are metal: bolted, or screwed through the metal into the wood.

use super::places::OFF_END;
use super::screw::Screw;
use crate::boards::BoardView;
use crate::furniture::built::Fasten;
use crate::units::figure::{System, Writer};

/// Screws or bolts along metal are no further apart than this, mm: four on a bar (common practice, no source), a little more
/// than 5 ft long.
const BAR_APART: f64 = 510.0;
/// A leg of the metal is so thick, mm.
const LEG: f64 = 4.0;

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
