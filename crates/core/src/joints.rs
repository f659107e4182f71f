//! Where boards touch and what that asks for: how long a joint is, how many screws of which size hold it, and the
//! list of everything that is bought besides boards.

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

use crate::boards::BoardView;
use crate::furniture::built::{Built, Fasten};
use crate::solids::{Solid, TOUCH};
use crate::units::figure::{Figure, System, Writer};

/// Screws along a joint are no further apart than this, mm, and stand so far off its ends (choices).
const APART: f64 = 150.0;
const OFF_END: f64 = 40.0;
/// So much of a screw holds in the edge of the second board, mm (a choice: about six times its thickness).
const GRIP: f64 = 25.0;
/// Edges of thinner boards split: glue and small nails hold them, mm (a choice).
const THIN: f64 = 12.0;
/// A board lies in another by no more than this where it has a groove, mm.
const GROOVE: f64 = 12.0;
/// So many screws are bought besides, as a share (a choice).
const SPARE: f64 = 0.1;

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

/// A joint of a piece of furniture.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct JointView {
    /// `module/board`: the one that is screwed through, or has the groove.
    pub a: String,
    /// `module/board`.
    pub b: String,
    /// How.
    pub how: Fasten,
    /// How far they touch.
    pub length: Figure,
    /// How many screws.
    pub screws: u32,
    /// What holds it: `3 screws 4 x 40 mm, glue`.
    pub words: String,
    /// It must come apart again.
    pub apart: bool,
    /// Wood on metal, or on wood that it is not held to: it creaks or rattles.
    #[serde(skip)]
    pub loud: bool,
}

/// A line of what is bought.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HardwareLine {
    /// What.
    pub what: String,
    /// Its size.
    pub size: String,
    /// How many are used.
    pub count: u32,
    /// How many more to buy.
    pub spare: u32,
    /// For which pieces.
    pub places: Vec<String>,
}

/// How far two boards touch, mm: along the longer side of the patch where they do. Boards in a groove reach into each
/// other. `None` where they do not touch.
pub fn contact(a: &Solid, b: &Solid) -> Option<f64> {
    /// A shorter touch is none, mm.
    const LEAST: f64 = 5.0;
    let overlap: Vec<f64> = (0..3)
        .map(|k| a.high[k].min(b.high[k]) - a.low[k].max(b.low[k]))
        .collect();
    let (axis, depth) = overlap
        .iter()
        .copied()
        .enumerate()
        .min_by(|p, q| p.1.total_cmp(&q.1))?;
    if !(-TOUCH..=GROOVE).contains(&depth) {
        return None;
    }
    let along = (0..3).filter(|k| *k != axis).map(|k| overlap[k]);
    let longest = along.clone().fold(0.0, f64::max);
    let shortest = along.fold(f64::INFINITY, f64::min);
    (longest >= LEAST && shortest > 0.0).then_some(longest)
}

/// A kind of screw: thickness, mm, and index of its length.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
struct Screw {
    /// Tenths of a millimetre.
    thick: u32,
    length: usize,
    pocket: bool,
}

impl Screw {
    /// The longest that is sold and no longer than `mm`; none where each would come out on the other side.
    fn up_to(mm: f64, thick: f64) -> Option<Screw> {
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

    fn size(self, w: &Writer) -> String {
        let (mm, inch) = LENGTHS[self.length.min(LENGTHS.len() - 1)];
        match (w.system, self.thick) {
            (System::Mm, t) if t % 10 == 0 => format!("{} x {mm} mm", t / 10),
            (System::Mm, t) => format!("{}.{} x {mm} mm", t / 10, t % 10),
            // Screw gauges near 3.5 and 4 mm.
            (System::In, t) if t < 40 => format!("#6 x {inch} in"),
            (System::In, _) => format!("#8 x {inch} in"),
        }
    }

    fn what(self) -> &'static str {
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

/// What holds a joint `length` mm long between boards `a` and `b` mm thick: how many of which screw.
fn screws(how: Fasten, length: f64, a: f64, b: f64) -> Option<(u32, Screw)> {
    let count = if length < 2.0 * OFF_END + 20.0 {
        1
    } else {
        ((length - 2.0 * OFF_END) / APART).ceil() as u32 + 1
    };
    match how {
        Fasten::Butt if b < THIN => None,
        Fasten::Butt => {
            let thick = if b < 15.0 { 3.5 } else { 4.0 };
            Some((count, Screw::at_least(a + GRIP, thick)))
        }
        Fasten::Pocket if a < THIN => None,
        // By the thickness of the board that has the pocket: 12 mm 25, up to 16 mm 30, above 35 (from memory).
        Fasten::Pocket => {
            let length = match a {
                a if a < 13.0 => 25.0,
                a if a < 17.0 => 30.0,
                _ => 35.0,
            };
            let screw = Screw::at_least(length, 4.0);
            Some((
                count.max(2),
                Screw {
                    pocket: true,
                    ..screw
                },
            ))
        }
        // Face to face it must not come out on the other side.
        Fasten::Face => Some((count.max(2), Screw::up_to(a + b - 3.0, 3.5)?)),
        // Screwed into both boards from inside the corner.
        Fasten::Brackets => {
            let thin = a.min(b);
            let screw = Screw::up_to(thin + LEAF - LEFT, 3.5)?;
            Some((FOUR * corners(length), screw))
        }
        Fasten::Blocks => {
            let thin = a.min(b);
            let screw = Screw::up_to(BLOCK + thin - 3.0, 3.5)?;
            Some((FOUR * corners(length), screw))
        }
        Fasten::Groove | Fasten::Lies => None,
    }
}

/// A hinge's or bracket's leaf is so thick, and so much wood is left before the point of a screw, mm (choices).
const LEAF: f64 = 2.0;
const LEFT: f64 = 1.0;

/// Where nobody said how thick the board is that something is screwed to, it is so thick, mm: as most are.
const THICK: f64 = 15.0;

/// The screw for what is bought, in a board so thick, mm: 16 mm in boards of 15 to 18 (common practice, no source), shorter in
/// thinner ones; none where each comes out on the other side.
fn hardware_screw(board: f64) -> Option<Screw> {
    Screw::up_to((board + LEAF - LEFT).min(16.0), 3.5)
}

/// Nothing that is bought can be screwed into a board so thick, mm: its point would come through.
pub fn pierced(board: f64) -> bool {
    hardware_screw(board).is_none()
}

/// Brackets or blocks along a joint: two, or one where it is short, no further apart than that, mm (choices).
const CORNERS: f64 = 300.0;
/// Screws in each: two into either board.
const FOUR: u32 = 4;
/// A block is so thick, and it or a bracket so long, mm (choices: an offcut, a usual bracket).
const BLOCK: f64 = 20.0;
const BRACKET: f64 = 40.0;

fn corners(length: f64) -> u32 {
    (length / CORNERS).ceil().max(1.0) as u32 + u32::from(length > 2.0 * OFF_END + 20.0)
}

/// Screws or bolts along metal are no further apart than this, mm: four on a bar (common practice, no source), a little more
/// than 5 ft long.
const BAR_APART: f64 = 510.0;
/// A leg of the metal is so thick, mm.
const LEG: f64 = 4.0;

/// What holds a joint of which one board or both are metal: what, of which size, how many.
fn through_metal(
    j: Fasten,
    length: f64,
    a: &BoardView,
    b: &BoardView,
    w: &Writer,
) -> Option<(&'static str, String, u32)> {
    if j == Fasten::Lies {
        return None;
    }
    let short = length < 2.0 * OFF_END + 20.0;
    let n = if short {
        1
    } else {
        (length / BAR_APART).ceil() as u32 + 1
    };
    if a.metal && b.metal {
        // 5/16 x 1 in with lock nuts (common practice, no source).
        let size = match w.system {
            System::Mm => "M8 x 25 mm",
            System::In => "5/16 x 1 in",
        };
        return Some(("bolt with washers and lock nut", size.into(), n));
    }
    let wood = if a.metal { b } else { a };
    let Some(screw) = Screw::up_to(wood.thickness + LEG - 3.0, 4.0) else {
        let size = match w.system {
            System::Mm => "M6 x 25 mm",
            System::In => "1/4 x 1 in",
        };
        return Some(("bolt with washers and lock nut", size.into(), n));
    };
    let what = "wood screw, through holes drilled in the metal";
    Some((what, screw.size(w), n))
}

/// What is bought, by what it is and its size: equal things are one line.
#[derive(Debug, Default)]
pub struct Bill(BTreeMap<(bool, String, String), HardwareLine>);

impl Bill {
    /// So many more. Screws are lost: of them some are bought besides.
    pub fn buy(&mut self, what: &str, size: String, count: u32, place: &str) {
        let lost = what.contains("screw");
        let line = self
            .0
            .entry((lost, what.into(), size.clone()))
            .or_insert_with(|| HardwareLine {
                what: what.into(),
                size,
                count: 0,
                spare: 0,
                places: vec![],
            });
        line.count += count;
        if lost {
            line.spare = (f64::from(line.count) * SPARE).ceil() as u32;
        }
        if !line.places.iter().any(|p| p == place) {
            line.places.push(place.into());
        }
    }

    /// Its lines.
    pub fn lines(self) -> Vec<HardwareLine> {
        self.0.into_values().collect()
    }
}

/// All joints, and what is bought.
pub fn joints(
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
    name: &dyn Fn(&str) -> String,
    w: &Writer,
) -> (Vec<JointView>, Bill) {
    let solids: BTreeMap<&str, Solid> = boards
        .iter()
        .map(|b| (b.id.as_str(), Solid::at(b, b.shut)))
        .collect();
    let mut out = Vec::new();
    let mut list = Bill::default();
    for (module, b) in built {
        let place = name(module);
        for j in &b.joints {
            let (a, b) = (format!("{module}/{}", j.a), format!("{module}/{}", j.b));
            let (Some(p), Some(q)) = (solids.get(a.as_str()), solids.get(b.as_str())) else {
                continue;
            };
            // Boards that hold together touch; where a kind is wrong about that, the length says so.
            let length = contact(p, q).unwrap_or(0.0);
            let metal = p.board.metal || q.board.metal;
            if metal {
                let by = through_metal(j.how, length, p.board, q.board, w);
                if let Some((what, size, n)) = &by {
                    list.buy(what, size.clone(), *n, &place);
                }
                let words = by.as_ref().map_or("lies loose".into(), |(what, size, n)| {
                    format!("{n} x {what} {size}")
                });
                out.push(JointView {
                    a,
                    b,
                    how: j.how,
                    length: w.figure(length),
                    screws: by.map_or(0, |b| b.2),
                    words,
                    apart: j.apart,
                    loud: !(p.board.metal && q.board.metal),
                });
                continue;
            }
            let held = screws(j.how, length, p.board.thickness, q.board.thickness);
            if let Some((n, screw)) = held {
                list.buy(screw.what(), screw.size(w), n, &place);
            }
            let n = corners(length);
            let by = match j.how {
                Fasten::Brackets => Some(("angle bracket", w.say(BRACKET))),
                Fasten::Blocks => Some((
                    "corner block, from offcuts",
                    format!("{} square, {} long", w.say(BLOCK), w.say(BRACKET)),
                )),
                _ => None,
            };
            let by = by.map_or(String::new(), |(what, size)| {
                let words = format!("{n} x {what} {size}, ");
                list.buy(what, size, n, &place);
                words
            });
            let glue = if j.apart { "no glue" } else { "glue" };
            let words = match (j.how, held) {
                (Fasten::Lies, _) => "lies loose".into(),
                (Fasten::Groove, _) => format!("in its groove, {glue}"),
                (_, None) => format!("{glue} and small nails: too thin for screws"),
                (_, Some((n, screw))) => {
                    format!("{by}{n} x {} {}, {glue}", screw.what(), screw.size(w))
                }
            };
            out.push(JointView {
                a,
                b,
                how: j.how,
                length: w.figure(length),
                screws: held.map_or(0, |h| h.0),
                words,
                apart: j.apart,
                loud: j.how == Fasten::Lies,
            });
        }
        for item in &b.hardware {
            if item.screws > 0
                && let Some(screw) = hardware_screw(item.wood.unwrap_or(THICK))
            {
                let n = item.screws * item.count;
                list.buy(screw.what(), screw.size(w), n, &place);
            }
            // How strong a latch has to be is found when it is known what lies where.
            if item.shuts.is_some() {
                continue;
            }
            list.buy(&item.what, item.size.clone(), item.count, &place);
        }
    }
    (out, list)
}
