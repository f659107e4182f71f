//! One place at which a piece can be held: by what, of which length, and what it is counted for.

use super::bored::{Bolt, clearance, passes};
use crate::furniture::built::Vec3;
use crate::joints::wood_screw;
use crate::mechanics::fixing::{bolt_bears, screw_bears};
use crate::project::fittings::{Fixing, FixingKind};
use crate::solids::Solid;
use crate::units::figure::{System, Writer};
use crate::units::{Unit, tape};

/// A fixing so near to a board, and with wood all round, is bolted through it, mm (a choice).
const THROUGH: f64 = 6.0;
/// A fixing so far beside a piece can still hold it, mm (a choice: a bracket or a short strap).
pub const BESIDE: f64 = 150.0;
/// Washer, and the steel of an angle bracket, mm (choices).
const WASHER: f64 = 2.0;
const BRACKET: f64 = 3.0;
/// Screws of a bracket into a board, mm (16 in 18 mm board: common practice, no source).
const ON_BOARD: f64 = 16.0;
/// What is counted for, N (choices): a bolt in a thread of thin sheet, a blind insert in a rib, a ring of the floor.
const THREAD: f64 = 1500.0;
const INSERT: f64 = 500.0;
const RING: f64 = 1000.0;
/// The eye bolt at which a turnbuckle pulls, mm: M6 (a choice).
const EYE: f64 = 6.0;
/// Screws of a bracket into the floor, and their thickness, mm (choices).
const SCREWS: u32 = 2;
const SCREW: f64 = 5.0;
/// A screw stays so far off what is behind, mm (a choice).
const SHORT_OF: f64 = 1.0;
/// Bolts where a floor lies between (ISO 898-1 and SAE J429, from memory: some 640 N/mm2 before they stretch).
const STRONG: &str = "bolt of class 8.8 with washer, medium thread locker";
const STRONG_INCH: &str = "bolt of grade 5 with washer, medium thread locker";
/// Density of a ply floor that nobody knows more of, kg/m3 (a choice: light plywood).
const FLOOR: f64 = 500.0;
/// A blind insert reaches so many diameters of its thread behind the sheet (from memory: 18 mm for M8).
const INSERT_LONG: f64 = 2.25;
/// An insert where no thread is noted, mm: M8 (common practice, no source).
const INSERT_THREAD: f64 = 8.0;

/// Lengths in which bolts are sold, mm, and in inches as said.
const BOLTS: [f64; 16] = [
    12.0, 16.0, 20.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0, 55.0, 60.0, 70.0, 80.0, 90.0, 100.0,
    120.0,
];
const INCH_BOLTS: [(f64, &str); 14] = [
    (0.5, "1/2"),
    (0.625, "5/8"),
    (0.75, "3/4"),
    (1.0, "1"),
    (1.25, "1 1/4"),
    (1.5, "1 1/2"),
    (1.75, "1 3/4"),
    (2.0, "2"),
    (2.25, "2 1/4"),
    (2.5, "2 1/2"),
    (2.75, "2 3/4"),
    (3.0, "3"),
    (3.5, "3 1/2"),
    (4.0, "4"),
];
/// Lengths of screws for thin floors, mm, and in inches as said.
const SCREW_LENGTHS: [(f64, &str); 8] = [
    (10.0, "3/8"),
    (12.0, "1/2"),
    (16.0, "5/8"),
    (20.0, "3/4"),
    (25.0, "1"),
    (30.0, "1 1/4"),
    (40.0, "1 1/2"),
    (50.0, "2"),
];

/// What is bought for one place: what, size, how many.
pub type Bought = (&'static str, String, u32);

/// A place that can hold a piece.
#[derive(Debug, Clone, PartialEq)]
pub struct Place {
    /// Identifier of the fixing; empty for a screw into the floor.
    pub fixing: String,
    /// What it is called.
    pub name: String,
    /// Where.
    pub at: Vec3,
    /// How far it lies off that board, mm.
    pub far: f64,
    /// `module/board` that it holds.
    pub board: String,
    /// What is done there.
    pub words: String,
    /// What it is counted for, N.
    pub bears: f64,
    /// What is bought.
    pub bought: Vec<Bought>,
    /// What goes through the board itself, if anything does.
    pub bolt: Option<Bolt>,
    /// The better, the lower: what is there already, then what is set in, then what is screwed.
    pub rank: u8,
    /// Seconds to undo it (choices).
    pub seconds: u32,
}

/// A thread as it is written on a bolt: its diameter, mm, and whether it is one in inches.
pub fn thread(text: &str) -> Option<(f64, bool)> {
    let text = text.trim();
    let number = text.strip_prefix(['M', 'm']);
    let (digits, inches) = match number {
        Some(rest) => (rest.split(['x', 'X', ' ']).next().unwrap_or(""), false),
        None => (text.split(['-', 'U', ' ', '"']).next().unwrap_or(""), true),
    };
    let unit = if inches { Unit::In } else { Unit::Mm };
    let mm = tape::parse(digits, unit).ok()?;
    (3.0..=16.0).contains(&mm).then_some((mm, inches))
}

/// The shortest bolt that is sold and reaches from `least` to at most `most`, mm, in words.
fn bolt(d: f64, inches: bool, (least, most): (f64, f64)) -> Option<String> {
    if inches {
        let fits = |l: &&(f64, &str)| (least..=most).contains(&(l.0 * 25.4));
        let found = INCH_BOLTS.iter().find(fits)?;
        let sixteenths = (d / 25.4 * 16.0).round();
        let (n, of) = if sixteenths % 4.0 == 0.0 {
            (sixteenths / 4.0, 4)
        } else if sixteenths % 2.0 == 0.0 {
            (sixteenths / 2.0, 8)
        } else {
            (sixteenths, 16)
        };
        return Some(format!("{n}/{of} x {} in", found.1));
    }
    let found = BOLTS.iter().find(|l| (least..=most).contains(*l))?;
    Some(format!("M{d} x {found} mm"))
}

/// How far a point lies outside the box of a board, mm.
fn off(p: Vec3, s: &Solid) -> f64 {
    let out = |k: usize| (s.low[k] - p[k]).max(p[k] - s.high[k]).max(0.0);
    (0..3).map(|k| out(k).powi(2)).sum::<f64>().sqrt()
}

/// The board of a piece that is nearest to a point, and how far off it is.
pub fn nearest<'a, 's>(p: Vec3, boards: &'s [Solid<'a>]) -> Option<(&'s Solid<'a>, f64)> {
    let all = boards.iter().map(|s| (s, off(p, s)));
    all.min_by(|a, b| a.1.total_cmp(&b.1))
}

impl Place {
    /// One that holds nothing.
    fn nothing((id, f): (&str, &Fixing), (board, far): (&Solid, f64)) -> Place {
        Place {
            fixing: id.into(),
            name: f.name.clone(),
            at: f.at,
            far,
            board: board.board.id.clone(),
            words: String::new(),
            bears: 0.0,
            bought: vec![],
            bolt: None,
            rank: 2,
            seconds: 30,
        }
    }
}

/// How much floor lies over a fixing, mm: a bolt that stands in it bends as well.
fn under(f: &Fixing) -> f64 {
    (-f.at[2]).max(0.0)
}

/// Where a fixing is reached: under a floor that was laid over it, on that.
pub fn reached(f: &Fixing) -> Vec3 {
    [f.at[0], f.at[1], f.at[2].max(0.0)]
}

/// A strap over what is bought, which nobody bores: to a ring that is there, or to an eye bolt in a thread that is there. Nothing
/// where there is neither.
fn strapped((id, f): (&str, &Fixing), (board, far): (&Solid, f64), w: &Writer) -> Option<Place> {
    let mut bought: Vec<Bought> = vec![("strap with a buckle", String::new(), 1)];
    let (words, bears) = match f.kind {
        FixingKind::TieDown => ("a strap over it to the ring".to_string(), RING),
        FixingKind::ThreadedHole | FixingKind::CargoBolt => {
            let (d, inches) = thread(&f.thread)?;
            let size = match inches {
                true => w.say(d),
                false => format!("M{d}"),
            };
            bought.push(("eye bolt with nut and washer", size.clone(), 1));
            (
                format!("a strap over it to an eye bolt {size}"),
                RING.min(THREAD),
            )
        }
        FixingKind::SeatBolt | FixingKind::Rib | FixingKind::FloorPly => return None,
    };
    Some(Place {
        words,
        bears,
        bought,
        rank: 1,
        seconds: 20,
        ..Place::nothing((id, f), (board, far))
    })
}

/// What a fixing that lies `far` from `board` does for it; nothing where it cannot hold furniture.
pub fn place(
    (id, f): (&str, &Fixing),
    (board, far): (&Solid, f64),
    density: f64,
    w: &Writer,
) -> Option<Place> {
    if board.board.bought {
        return strapped((id, f), (board, far), w);
    }
    let thickness = board.board.thickness;
    let mark = &board.board.mark;
    // Beside the board, or in a window of it, no bolt goes through it.
    let direct = far <= THROUGH && passes(board, reached(f));
    // Through the board itself, or through an angle bracket that is screwed to it; and through a floor that was laid over it.
    let between = under(f);
    let through = if direct { thickness } else { BRACKET } + WASHER + between;
    let how = if direct {
        format!("through {mark}")
    } else {
        format!("through an angle bracket on {mark}")
    };
    let bracket = |bought: &mut Vec<Bought>| {
        if !direct {
            bought.push(("angle bracket", String::new(), 1));
            let (what, size, _) = on_board(thickness, w);
            bought.push((what, size, 4));
        }
    };
    let in_board = |d: f64| {
        if direct {
            bolt_bears(density, thickness, d)
        } else {
            4.0 * screw_bears(density, on_board(thickness, w).2, 4.0)
        }
    };
    let mut bought: Vec<Bought> = vec![];
    let mut bolted = None;
    let through_it = |what: &str, size: &str, d: f64| {
        direct.then(|| Bolt {
            what: format!("{what} {size}"),
            wide: clearance(d),
            loose: false,
        })
    };
    let (words, bears, rank, seconds) = match f.kind {
        // Belts and child restraints hang on them: not for furniture.
        FixingKind::SeatBolt => return None,
        FixingKind::TieDown => {
            bought.push(("turnbuckle with hook and eye", String::new(), 1));
            let size = match w.system {
                System::Mm => "M6",
                System::In => "1/4 in",
            };
            bought.push(("eye bolt with nut and washer", size.into(), 1));
            bolted = Some(Bolt {
                what: format!("eye bolt {size} for a turnbuckle"),
                wide: clearance(EYE),
                loose: true,
            });
            let words = format!("turnbuckle to an eye bolt through {mark}");
            (words, RING.min(bolt_bears(density, thickness, EYE)), 0, 20)
        }
        FixingKind::ThreadedHole | FixingKind::CargoBolt => match thread(&f.thread) {
            None => ("note its thread: then it can be bolted".into(), 0.0, 0, 30),
            Some((d, inches)) => {
                // It holds with one diameter of thread (a rule of thumb, from memory); one and a half where that is there.
                let deep = f.depth.unwrap_or(1.5 * d);
                let reach = (through + d, through + deep.max(0.0));
                match bolt(d, inches, reach) {
                    None => (
                        format!(
                            "too shallow: only {} of thread for a bolt of {}",
                            w.say(deep),
                            w.say(d)
                        ),
                        0.0,
                        0,
                        30,
                    ),
                    Some(size) => {
                        let (what, class) = match (between > 0.0, inches) {
                            (false, _) => ("bolt with washer, medium thread locker", ""),
                            (true, false) => (STRONG, " of class 8.8 or better"),
                            (true, true) => (STRONG_INCH, " of grade 5 or better"),
                        };
                        bought.push((what, size.clone(), 1));
                        bolted = through_it("bolt", &size, d);
                        bracket(&mut bought);
                        let over = match between > 0.0 {
                            true => format!(" and {} of floor over it", w.say(between)),
                            false => String::new(),
                        };
                        let look = if f.depth.is_none() {
                            "; look first how deep the thread goes"
                        } else {
                            ""
                        };
                        let words = format!("bolt {size}{class} {how}{over}{look}");
                        (words, THREAD.min(in_board(d)), 0, 30)
                    }
                }
            }
        },
        FixingKind::Rib => {
            let (d, inches) = thread(&f.thread).unwrap_or((INSERT_THREAD, false));
            // Behind a rib's inner sheet lies the outer skin.
            let behind = f.depth.map(|free| free - SHORT_OF);
            let most = (2.5 * d).min(behind.unwrap_or(f64::INFINITY));
            let size = bolt(d, inches, (through + d, through + most));
            let deep_enough = behind.is_none_or(|free| free >= INSERT_LONG * d);
            let Some(size) = size.filter(|_| deep_enough) else {
                return Some(Place {
                    words: format!(
                        "only {} behind it to the skin: an insert for a bolt of {} is {} long",
                        w.say(f.depth.unwrap_or(0.0)),
                        w.say(d),
                        w.say((INSERT_LONG * d).round())
                    ),
                    ..Place::nothing((id, f), (board, far))
                });
            };
            bought.push((
                "blind threaded insert",
                size.split(' ').next().unwrap_or("").into(),
                1,
            ));
            bought.push(("bolt with washer, medium thread locker", size.clone(), 1));
            bolted = through_it("bolt", &size, d);
            bracket(&mut bought);
            let words = format!(
                "blind insert, bolt {size} {how}; {} prime the bare edge",
                match f.depth {
                    Some(free) => format!("{} to the skin behind;", w.say(free)),
                    None => "look behind before drilling,".into(),
                }
            );
            (words, INSERT.min(in_board(d)), 1, 30)
        }
        FixingKind::FloorPly => match f.depth {
            None => (
                "note how deep a screw may go: then it can be screwed".into(),
                0.0,
                2,
                25,
            ),
            Some(depth) => floor_screws((mark, thickness), depth, &mut bought, w),
        },
    };
    Some(Place {
        fixing: id.into(),
        name: f.name.clone(),
        at: f.at,
        far,
        board: board.board.id.clone(),
        words,
        bears,
        bought,
        bolt: bolted,
        rank,
        seconds,
    })
}

/// The screws that hold pieces: some are lost, so some are bought besides.
const WOOD_SCREW: &str = "wood screw, countersunk";
const PAN_SCREW: &str = "pan-head screw, thread to the head";

/// One of the two sorts of screws that hold pieces.
pub(super) fn is_screw(what: &str) -> bool {
    what == WOOD_SCREW || what == PAN_SCREW
}

/// What fastens a bracket to a board so thick, its size, and how deep it holds, mm: screws whose points stay inside, else small bolts.
fn on_board(thickness: f64, w: &Writer) -> (&'static str, String, f64) {
    let most = (thickness + BRACKET - SHORT_OF).min(ON_BOARD);
    match wood_screw(most, 4.0, w) {
        Some((size, length)) => (WOOD_SCREW, size, length - BRACKET),
        None => {
            let size = match w.system {
                System::Mm => "M5 x 20 mm",
                System::In => "#10 x 3/4 in",
            };
            ("bolt with washers and lock nut", size.into(), thickness)
        }
    }
}

/// An angle bracket on a board so thick, screwed so deep into the floor.
pub fn floor_screws(
    (mark, thickness): (&str, f64),
    depth: f64,
    bought: &mut Vec<Bought>,
    w: &Writer,
) -> (String, f64, u8, u32) {
    let most = BRACKET + depth - SHORT_OF;
    let Some((length, inch)) = SCREW_LENGTHS.iter().rev().find(|l| l.0 <= most) else {
        let words = format!("too thin for screws: {} at most", w.say(depth.max(0.0)));
        return (words, 0.0, 2, 25);
    };
    let size = match w.system {
        System::Mm => format!("{SCREW} x {length} mm"),
        System::In => format!("#10 x {inch} in"),
    };
    bought.push(("angle bracket", String::new(), 1));
    bought.push((PAN_SCREW, size.clone(), SCREWS));
    let (what, on, _) = on_board(thickness, w);
    bought.push((what, on, SCREWS));
    let words = format!("angle bracket on {mark}, {SCREWS} screws {size} into the floor");
    let bears = f64::from(SCREWS) * screw_bears(FLOOR, length - BRACKET, SCREW);
    (words, bears, 2, 25)
}
