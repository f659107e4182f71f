//! What closes an opening from the front: a door that turns about an upright, a flap that comes down.

use super::carcass::Cell;
use super::grip::{FROM_EDGE, Grip};
use super::hinges::{self, Hinges};
use super::maker::Maker;
use crate::furniture::built::{Body, Bore, Built, Fasten, Item, Joint, Motion, Pose};
use crate::units::value::Value;

/// A flap comes down to level, degrees.
const FLAP: f64 = 90.0;

/// A door or flap before an opening.
pub struct Door<'a> {
    /// Makes its board.
    pub maker: Maker<'a>,
    /// Its body's identifier within the module, and its board's.
    pub body: String,
    /// The opening; it begins behind the door, and the leaf of a flush hinge.
    pub cell: &'a Cell,
    /// How far it laps over the rim of the opening.
    pub overlap: Value,
    /// Thickness.
    pub board: Value,
    /// How it turns.
    pub turns: Turns,
    /// The board on which its hinges sit.
    pub on: String,
    /// What it hangs on.
    pub hinges: Hinges,
    /// By what it is opened.
    pub grip: Grip,
}

/// The bore of a cup hinge: its diameter, how far from the door's edge, and how far its middle is from the door's end:
/// 35 mm, 3 mm, 4 1/2 in (common practice, no source); its depth, and what must be left behind it (from memory), mm.
const CUP: f64 = 35.0;
const CUP_OFF: f64 = 3.0;
const CUP_IN: f64 = 114.3;
const CUP_DEEP: f64 = 12.5;

/// About which edge a door turns.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Turns {
    /// Its right one, seen from the front.
    Right,
    /// Its left one.
    Left,
    /// Its lower one.
    Down,
}

impl Door<'_> {
    /// Worked out.
    pub fn made(self) -> Built {
        let m = &self.maker;
        let [w, h, _] = &self.cell.size;
        let [x, y, z] = self.cell.at;
        let over = self.overlap.clone().named("over the rim") * 2.0;
        let (width, height) = (w + &over, h + over);
        let (y0, z0) = (y - self.overlap.mm, z - self.overlap.mm);
        let off = self.hinges.off().map_or(0.0, |v| v.mm);
        let face = x - off - self.board.mm;
        let flap = self.turns == Turns::Down;
        let words = if flap { "flap" } else { "door" };
        let mut board = m.board(
            (&self.body, words, words),
            self.board.mm,
            Pose::across(face),
            [y0, z0],
            (("width", &width), ("height", &height)),
        );
        board.body.clone_from(&self.body);
        let (middle, edge) = (
            [y0 + width.mm / 2.0, z0 + height.mm / 2.0],
            match self.turns {
                Turns::Right => y0 + width.mm - FROM_EDGE,
                Turns::Left => y0 + FROM_EDGE,
                Turns::Down => z0 + height.mm - FROM_EDGE,
            },
        );
        let at = if flap {
            [middle[0], edge]
        } else {
            [edge, middle[1]]
        };
        let room = self.grip.cut(&mut board, at, flap, m.site);
        board.then.push(match room && self.grip != Grip::Handle {
            true => "a latch for the road".into(),
            false => "a knob or handle; a latch for the road".into(),
        });
        let f = &m.frame;
        // The pin lies on the outer edge, so that nothing is chewed.
        let (at, about, most) = match self.turns {
            Turns::Right => ([face, y0, z0], [0.0, 0.0, 1.0], f64::INFINITY),
            Turns::Left => ([face, y0 + width.mm, z0], [0.0, 0.0, -1.0], f64::INFINITY),
            Turns::Down => ([face, y0, z0], [0.0, -1.0, 0.0], FLAP),
        };
        let long = if flap { width.mm } else { height.mm };
        let count = self.hinges.on_a_door(long);
        let cup = self.hinges == Hinges::Cup;
        let most = most.min(self.hinges.opens());
        let w = &m.site.w;
        if cup {
            board.bores = bores((y0, width.mm), (z0, height.mm), self.turns, count);
            board.then.push(format!(
                "{count} bores {} wide, {} deep in the inner face, their middle {} from the edge it turns on",
                w.say(CUP),
                w.say(CUP_DEEP),
                w.say(CUP_OFF + CUP / 2.0)
            ));
        }
        let mass = width.mm * height.mm * self.board.mm * m.density() * 1e-9;
        let mut hardware = vec![
            self.hinges
                .item(w, count, (long, mass))
                .into_wood(self.board.mm),
            Item::latch(self.body.clone()).into_wood(self.board.mm),
        ];
        if flap {
            hardware.push(hinges::level());
        }
        // Something between the two keeps them apart: they do not touch.
        let hangs = self.hinges.off().is_none();
        let joint = hangs.then(|| Joint::new(Fasten::Lies, self.on, self.body.clone()).apart());
        Built {
            bodies: vec![Body {
                parent: None,
                id: format!("{}/{}", m.site.id, self.body),
                name: format!("{}, {words}", m.name),
                motion: Motion::Turn {
                    at: f.at(at),
                    about: f.turn(about),
                    most,
                },
                eases: vec![],
                change: None,
            }],
            joints: joint.into_iter().collect(),
            boards: vec![board],
            hardware,
            ..Built::default()
        }
    }
}

/// Where the cups go: along the edge the door turns on, one near each end, a third between them.
fn bores((y, wide): (f64, f64), (z, high): (f64, f64), turns: Turns, count: u32) -> Vec<Bore> {
    let off = CUP_OFF + CUP / 2.0;
    let long = if turns == Turns::Down { wide } else { high };
    // On a small door nearer to its ends.
    let end = CUP_IN.min(long / 4.0);
    let step = (long - 2.0 * end) / f64::from(count - 1);
    let along = (0..count).map(|i| end + step * f64::from(i));
    along
        .map(|a| Bore {
            at: match turns {
                Turns::Right => [y + off, z + a],
                Turns::Left => [y + wide - off, z + a],
                Turns::Down => [y + a, z + off],
            },
            diameter: CUP,
            depth: CUP_DEEP,
        })
        .collect()
}
