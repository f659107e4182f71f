//! Screws as they are sold, and which of them a joint takes.

use super::places::OFF_END;
use crate::furniture::built::Fasten;
use crate::units::figure::{System, Writer};

/// Screws along a joint are no further apart than this, mm (a choice).
const APART: f64 = 150.0;
/// So much of a screw grips the edge of the second board, mm (a choice: about six times its thickness).
const GRIP: f64 = 25.0;
/// So much of it grips at the least where the second board is shallower behind the joint, mm (a choice: glue holds such a
/// joint, and the screw presses it together).
pub const FACE_GRIP: f64 = 5.0;
/// So much wood is left before the tip of a screw of a joint, mm (a choice).
pub const INSIDE: f64 = 2.0;
/// So much of a pocket screw enters the second board, as a share of its length (from memory).
const ENTERS: f64 = 0.4;
/// Edges of thinner boards split: glue and small nails hold them, mm (a choice).
const THIN: f64 = 12.0;
/// Lengths that wood screws are sold in: mm, and in inches as said.
const LENGTHS: [(f64, &str); 10] = [
    (12.0, "1/2"),
    (16.0, "5/8"),
    (20.0, "3/4"),
    (25.0, "1"),
    (30.0, "1 1/4"),
    (35.0, "1 3/8"),
    (40.0, "1 5/8"),
    (45.0, "1 3/4"),
    (50.0, "2"),
    (60.0, "2 1/2"),
];

/// A kind of screw: thickness, mm, and index of its length.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Screw {
    /// Tenths of a millimetre.
    thick: u32,
    length: usize,
    pocket: bool,
}

impl Screw {
    /// The longest that is sold and no longer than `mm`; none where each would come out on the other side.
    pub fn up_to(mm: f64, thick: f64) -> Option<Screw> {
        let length = LENGTHS.iter().rposition(|l| l.0 <= mm + 1e-9)?;
        Some(Screw {
            thick: (thick * 10.0) as u32,
            length,
            pocket: false,
        })
    }

    /// The shortest that is sold and at least `mm`.
    fn at_least(mm: f64, thick: f64) -> Screw {
        let length = LENGTHS.iter().position(|l| l.0 >= mm - 1e-9);
        Screw {
            thick: (thick * 10.0) as u32,
            length: length.unwrap_or(LENGTHS.len() - 1),
            pocket: false,
        }
    }

    pub fn size(self, w: &Writer) -> String {
        let (mm, inch) = LENGTHS[self.length.min(LENGTHS.len() - 1)];
        match (w.system, self.thick) {
            (System::Mm, t) if t % 10 == 0 => format!("{} x {mm} mm", t / 10),
            (System::Mm, t) => format!("{}.{} x {mm} mm", t / 10, t % 10),
            // Screw gauges near 3.5 and 4 mm.
            (System::In, t) if t < 40 => format!("#6 x {inch} in"),
            (System::In, _) => format!("#8 x {inch} in"),
        }
    }

    /// How wide a hole lets it pass, mm: half a millimetre wider (from memory). A pocket hole is as wide as its jig makes it.
    pub fn hole(self) -> Option<f64> {
        /// So much wider, mm.
        const PASSES: f64 = 0.5;
        (!self.pocket).then_some(f64::from(self.thick) / 10.0 + PASSES)
    }

    /// Its length, mm.
    pub fn long(self) -> f64 {
        LENGTHS[self.length.min(LENGTHS.len() - 1)].0
    }

    /// Its length, mm, if it runs square to the first board's face.
    pub fn square(self) -> Option<f64> {
        (!self.pocket).then(|| self.long())
    }

    pub fn what(self) -> &'static str {
        if self.pocket {
            "pocket screw"
        } else {
            "wood screw, countersunk"
        }
    }
}

/// Size and length, mm, of the longest wood screw of that thickness that is sold and no longer than `mm`.
pub fn wood_screw(mm: f64, thick: f64, w: &Writer) -> Option<(String, f64)> {
    let screw = Screw::up_to(mm, thick)?;
    Some((screw.size(w), LENGTHS[screw.length].0))
}

/// How many screws hold a stretch of wood so long, mm.
pub fn how_many(how: Fasten, length: f64) -> u32 {
    let count = if length < 2.0 * OFF_END + 20.0 {
        1
    } else {
        ((length - 2.0 * OFF_END) / APART).ceil() as u32 + 1
    };
    match how {
        Fasten::Butt => count,
        Fasten::Pocket | Fasten::Face => count.max(2),
        Fasten::Brackets | Fasten::Blocks => corners(length),
        Fasten::Groove | Fasten::Lies => 0,
    }
}

/// The second board of a joint, as its screw finds it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Into {
    /// Its thickness, mm.
    pub thickness: f64,
    /// How deep its wood is behind the touch, mm: its thickness where the screw enters its face, much more at its edge.
    pub deep: f64,
}

/// Which screw holds a joint whose first board, `a` mm thick, is screwed through or has the pocket: its tip ends at least
/// `INSIDE` inside the second board, and it grips that one by `GRIP` where there is so much wood, else by `FACE_GRIP` at
/// the least. None where no screw does both.
pub fn screw(how: Fasten, a: f64, b: Into) -> Option<Screw> {
    let thin = a.min(b.thickness);
    let room = b.deep - INSIDE;
    // The longest that stays inside, if it grips.
    let within =
        |thick: f64| Screw::up_to(a + room, thick).filter(|s| s.long() - a >= FACE_GRIP - 1e-9);
    match how {
        // The edge of a thin board splits.
        Fasten::Butt if b.thickness < THIN && b.deep > b.thickness + INSIDE => None,
        Fasten::Butt => {
            let thick = if b.thickness < 15.0 { 3.5 } else { 4.0 };
            let usual = Screw::at_least(a + GRIP, thick);
            let inside = usual.long() <= a + room + 1e-9;
            match inside && usual.long() - a >= GRIP - 1e-9 {
                true => Some(usual),
                false => within(thick),
            }
        }
        Fasten::Pocket if a < THIN => None,
        // By the thickness of the board that has the pocket: 12 mm 25, up to 16 mm 30, above 35 (from memory); a shorter one
        // where the other board is thin.
        Fasten::Pocket => {
            let usual = match a {
                a if a < 13.0 => 25.0,
                a if a < 17.0 => 30.0,
                _ => 35.0,
            };
            let least = Screw::at_least(25.0, 4.0).length;
            let short = Screw::up_to((room / ENTERS).min(usual), 4.0);
            let screw = short.filter(|s| s.length >= least)?;
            Some(Screw {
                pocket: true,
                ..screw
            })
        }
        Fasten::Face => within(3.5),
        // Screwed into both boards from inside the corner.
        Fasten::Brackets => Screw::up_to(thin + LEAF - INSIDE, 3.5),
        Fasten::Blocks => Screw::up_to(BLOCK + thin - INSIDE, 3.5),
        Fasten::Groove | Fasten::Lies => None,
    }
}

/// A hinge's or bracket's leaf is so thick, and so much wood is left before the point of a screw, mm (choices).
const LEAF: f64 = 2.0;
const LEFT: f64 = 1.0;

/// Where nobody said how thick the board is that something is screwed to, it is so thick, mm: as most are.
pub const THICK: f64 = 15.0;

/// The screw for what is bought, in a board so thick, mm: 16 mm in boards of 15 to 18 (common practice, no source), shorter in
/// thinner ones; none where each comes out on the other side.
pub fn hardware_screw(board: f64) -> Option<Screw> {
    Screw::up_to((board + LEAF - LEFT).min(16.0), 3.5)
}

/// Nothing that is bought can be screwed into a board so thick, mm: its point would come through.
pub fn pierced(board: f64) -> bool {
    hardware_screw(board).is_none()
}

/// Brackets or blocks along a joint: two, or one where it is short, no further apart than that, mm (choices).
const CORNERS: f64 = 300.0;
/// Screws in each: two into either board.
pub const FOUR: u32 = 4;
/// A block is so thick, and it or a bracket so long, mm (choices: an offcut, a usual bracket).
pub const BLOCK: f64 = 20.0;
pub const BRACKET: f64 = 40.0;

pub fn corners(length: f64) -> u32 {
    (length / CORNERS).ceil().max(1.0) as u32 + u32::from(length > 2.0 * OFF_END + 20.0)
}
