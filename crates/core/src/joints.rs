//! Where boards touch and what that asks for: how long a joint is, how many screws of which size hold it, and the
//! list of everything that is bought besides boards.

mod bill;
mod marked;
mod metal;
mod places;
mod screw;

use std::collections::BTreeMap;

use serde::Serialize;
use utoipa::ToSchema;

pub use self::bill::{Bill, HardwareLine};
pub use self::marked::{Bored, screws};
use self::metal::through_metal;
use self::places::Patch;
use self::screw::{BLOCK, BRACKET, FOUR, Into, THICK, hardware_screw, how_many, screw};
pub use self::screw::{pierced, wood_screw};
use crate::boards::BoardView;
use crate::furniture::built::{Built, Fasten, Joint, Vec3};
use crate::solids::Solid;
use crate::units::figure::{Figure, Writer};

/// A board lies in another by no more than this where it has a groove, mm.
const GROOVE: f64 = 12.0;
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
    /// Where it is bored for them: told of the parts.
    #[serde(skip)]
    pub holes: Vec<Holes>,
}

/// The holes of a joint.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Holes {
    /// Rows of points where the boards touch, in the vehicle, everything shut.
    pub rows: Vec<Vec<Vec3>>,
    /// In which of its boards they are bored: the first, the second.
    pub through: [bool; 2],
    /// How wide, mm: as its screw or bolt passes; a pocket hole is as wide as its jig makes it.
    pub wide: Option<f64>,
    /// What goes in: `wood screw, countersunk 4 x 40 mm, no glue`.
    pub what: String,
    /// The axis of the vehicle along which they run, if not square to the boards.
    pub along: Option<usize>,
    /// Heads stand on the upper side: what lies on it is bored for them.
    pub heads: bool,
    /// How long the screw is, mm, where it runs square through the first board into the second.
    pub long: Option<f64>,
}

/// How far two boards touch, mm: along the longer side of the patch where they do. `None` where they do not touch.
pub fn contact(a: &Solid, b: &Solid) -> Option<f64> {
    Patch::of(a, b).map(|p| p.long())
}

/// In which of two boards a joint is bored: in the metal; in the one with the pocket; else in the one that lies with its face on
/// the other, the first if both do.
fn bored(how: Fasten, a: &Solid, b: &Solid, patch: Option<&Patch>) -> [bool; 2] {
    if a.board.metal || b.board.metal {
        return [a.board.metal, b.board.metal];
    }
    let flat = |s: &Solid| patch.is_some_and(|p| s.axis() == Some(p.axis));
    let second = how == Fasten::Butt && !flat(a) && flat(b);
    [!second, second]
}

/// What holds one joint.
struct Held {
    view: JointView,
    /// What is bought for it: whether it is a screw, what, size, how many.
    bought: Vec<(bool, &'static str, String, u32)>,
}

fn held(j: &Joint, a: &Solid, b: &Solid, w: &Writer) -> Held {
    let patch = Patch::of(a, b);
    // Boards that hold together touch; where a kind is wrong about that, the length says so.
    let length = patch.map_or(0.0, |p| p.long());
    let through = bored(j.how, a, b, patch.as_ref());
    let metal = a.board.metal || b.board.metal;
    let many = |long: f64| match metal {
        true => metal::how_many(long),
        false => how_many(j.how, long),
    };
    let rows = |count: &dyn Fn(f64) -> u32| patch.map_or(vec![], |p| p.rows(a, b, count));
    // Where there is nowhere wood on both sides, as many as the touch is long for: it is judged elsewhere.
    let counted = |rows: &[Vec<Vec3>]| match rows.iter().map(Vec::len).sum::<usize>() {
        0 => many(length),
        n => n as u32,
    };
    let glue = if j.apart { "no glue" } else { "glue" };
    let view = |screws: u32, words: String, loud: bool, holes: Vec<Holes>| JointView {
        a: a.board.id.clone(),
        b: b.board.id.clone(),
        how: j.how,
        length: w.figure(length),
        screws,
        words,
        apart: j.apart,
        loud,
        holes,
    };
    let bored = |rows, wide, what| {
        vec![Holes {
            rows,
            through,
            wide,
            what,
            along: patch.map(|p| p.axis).filter(|_| metal),
            heads: false,
            long: None,
        }]
    };
    let bare = |words: String, loud: bool| Held {
        view: view(0, words, loud, vec![]),
        bought: vec![],
    };
    if metal {
        let loud = !(a.board.metal && b.board.metal);
        let Some(by) = through_metal(j.how, a.board, b.board, w) else {
            return bare("lies loose".into(), loud);
        };
        let what = format!("{} {}", by.what, by.size);
        let plated = patch.filter(|_| j.how == Fasten::Pocket && !loud);
        if let Some(patch) = plated {
            let plate = metal::PLATE.map(|mm| w.say(mm)).join(" x ");
            let words = format!("2 x {what}, through a plate {plate}");
            return Held {
                view: view(
                    2,
                    words,
                    false,
                    metal::plated(&patch, a, b, (by.hole, what)),
                ),
                bought: vec![
                    (false, by.what, by.size, 2),
                    (false, "steel plate, for two bolts", plate, 1),
                ],
            };
        }
        let rows = rows(&many);
        let n = counted(&rows);
        let words = format!("{n} x {what}");
        let holes = bored(rows, Some(by.hole), what);
        return Held {
            view: view(n, words, loud, holes),
            bought: vec![(false, by.what, by.size, n)],
        };
    }
    let (one, other) = match through {
        [_, true] => (b, a),
        _ => (a, b),
    };
    let rows = rows(&many);
    let into = Into {
        thickness: other.board.thickness,
        deep: patch.map_or(other.board.thickness, |p| p.deep(one, other, &rows)),
    };
    let Some(screw) = screw(j.how, one.board.thickness, into) else {
        return match j.how {
            Fasten::Lies => bare("lies loose".into(), true),
            Fasten::Groove => bare(format!("in its groove, {glue}"), false),
            _ => bare(
                format!("{glue} and small nails: too thin for screws"),
                false,
            ),
        };
    };
    let size = screw.size(w);
    let corner = match j.how {
        Fasten::Brackets => Some(("angle bracket", w.say(BRACKET))),
        Fasten::Blocks => Some((
            "corner block, from offcuts",
            format!("{} square, {} long", w.say(BLOCK), w.say(BRACKET)),
        )),
        _ => None,
    };
    let Some((what, its)) = corner else {
        let n = counted(&rows);
        let what = format!("{} {size}, {glue}", screw.what());
        let words = format!("{n} x {what}");
        let mut holes = bored(rows, screw.hole(), what);
        for h in &mut holes {
            h.long = screw.square();
        }
        return Held {
            view: view(n, words, false, holes),
            bought: vec![(true, screw.what(), size, n)],
        };
    };
    let n = counted(&rows);
    let screws = FOUR * n;
    let words = format!(
        "{n} x {what} {its}, {screws} x {} {size}, {glue}",
        screw.what()
    );
    let holes = bored(rows, None, format!("{what} {its}, {glue}"));
    Held {
        view: view(screws, words, false, holes),
        bought: vec![(true, screw.what(), size, screws), (false, what, its, n)],
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
            let held = held(j, p, q, w);
            for (screws, what, size, n) in held.bought {
                match screws {
                    true => list.screws(what, size, n, &place),
                    false => list.buy(what, size, n, &place),
                }
            }
            out.push(held.view);
        }
        for item in &b.hardware {
            if item.screws > 0
                && let Some(screw) = hardware_screw(item.wood.unwrap_or(THICK))
            {
                let n = item.screws * item.count;
                list.screws(screw.what(), screw.size(w), n, &place);
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
