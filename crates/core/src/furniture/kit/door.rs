//! What closes an opening from the front: a door that turns about an upright, a flap that comes down.

use super::carcass::Cell;
use super::maker::Maker;
use crate::furniture::built::{Body, Built, Fasten, Item, Joint, Motion, Pose};
use crate::units::value::Value;

/// A door opens so far, a flap comes down to level, degrees.
const DOOR: f64 = 170.0;
const FLAP: f64 = 90.0;

/// A door or flap before an opening.
pub struct Door<'a> {
    /// Makes its board.
    pub maker: Maker<'a>,
    /// Its body's identifier within the module, and its board's.
    pub body: String,
    /// The opening; it begins behind the door.
    pub cell: &'a Cell,
    /// How far it laps over the rim of the opening.
    pub overlap: Value,
    /// Thickness.
    pub board: Value,
    /// How it turns.
    pub turns: Turns,
    /// The board on which its hinges sit.
    pub on: String,
}

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
        let face = x - self.board.mm;
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
        board
            .then
            .push("finger hole or knob; a latch for the road".into());
        let f = &m.frame;
        // The pin lies on the outer edge, so that nothing is chewed.
        let (at, about, most) = match self.turns {
            Turns::Right => ([face, y0, z0], [0.0, 0.0, 1.0], DOOR),
            Turns::Left => ([face, y0 + width.mm, z0], [0.0, 0.0, -1.0], DOOR),
            Turns::Down => ([face, y0, z0], [0.0, -1.0, 0.0], FLAP),
        };
        let long = if flap { width.mm } else { height.mm };
        let item = |what: &str, count, screws| Item {
            what: what.into(),
            size: String::new(),
            count,
            screws,
        };
        let mut hardware = vec![
            item("butt hinge", 2 + u32::from(long > 900.0), 6),
            item("latch that holds it shut on the road", 1, 4),
        ];
        if flap {
            hardware.push(item("strap or chain that holds a flap level", 2, 2));
        }
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
            joints: vec![Joint::new(Fasten::Lies, self.on, self.body).apart()],
            boards: vec![board],
            hardware,
            ..Built::default()
        }
    }
}
