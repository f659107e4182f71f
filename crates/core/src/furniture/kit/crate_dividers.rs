//! Dividers of a drawer, slotted into each other half and half like an egg crate: they lift out as one.

use super::maker::Maker;
use crate::furniture::built::{Board, Fasten, Joint, Pose};
use crate::furniture::way::Way;
use crate::geometry::Point;
use crate::geometry::region::Region;
use crate::units::value::Value;

/// A slot is so much wider than the board that goes into it, mm (a choice: it is to come apart).
const LOOSE: f64 = 0.5;
/// Dividers end so far below the rim, mm (a choice: fingers).
const BELOW: f64 = 10.0;

/// What a drawer is divided into.
pub struct Dividers<'a> {
    /// Inside width, height and depth of the box.
    pub inside: [&'a Value; 3],
    /// The inside's lower right front corner in the piece's own directions, mm.
    pub at: [f64; 3],
    /// Height over which nothing stands, mm: what a groove takes below.
    pub lip: f64,
    /// Compartments side by side, and one behind the other.
    pub cells: [u32; 2],
    /// Their board.
    pub board: Value,
}

impl Dividers<'_> {
    /// Width and depth of a compartment, and the height of the dividers, mm.
    pub fn cell(&self) -> [f64; 3] {
        let [w, h, d] = self.inside.map(|v| v.mm);
        let each = |whole: f64, n: u32| {
            let n = f64::from(n.max(1));
            (whole - (n - 1.0) * self.board.mm) / n
        };
        [
            each(w, self.cells[0]),
            each(d, self.cells[1]),
            h - self.lip - BELOW,
        ]
    }

    /// Where the dividers of a row begin, from the inner face, mm.
    fn begin(&self, which: usize) -> Vec<f64> {
        let each = self.cell()[which];
        let t = self.board.mm;
        (1..self.cells[which])
            .map(|i| f64::from(i) * each + f64::from(i - 1) * t)
            .collect()
    }

    /// The boards, and what holds them: each other.
    pub fn made(&self, maker: &Maker, on: &str) -> (Vec<Board>, Vec<Joint>) {
        let play = Value::rule("drawer/play", "play at each end", 1.0);
        let [w, h, d] = self.inside;
        let high = h - Value::rule("drawer/below", "below the rim", BELOW + self.lip);
        let wide = w - &play * 2.0;
        let deep = d - &play * 2.0;
        let [x, y, z] = self.at;
        let (along, across) = (self.begin(0), self.begin(1));
        let t = self.board.mm;
        let half = high.mm / 2.0;
        // Half a slot from above in those that run into the depth, from below in those across.
        let slotted = |board: &mut Board, at: &[f64], from: f64, up: bool| {
            let slots: Vec<Region> = at
                .iter()
                .map(|s| {
                    let (a, b) = (from + s - LOOSE / 2.0, from + s + t + LOOSE / 2.0);
                    let (low, top) = if up {
                        (z + half, z + high.mm + 1.0)
                    } else {
                        (z - 1.0, z + half)
                    };
                    Region::rectangle(a, low, b, top)
                })
                .collect();
            if let Some(cut) = board.shape.minus(&slots).into_iter().next() {
                board.shape = cut;
            }
            if !slots.is_empty() {
                board
                    .then
                    .push("slots half its height: saw both cheeks, chisel the end".into());
            }
        };
        let corner = |a: f64| -> Point { [a + play.mm, z] };
        let mut boards = Vec::new();
        for (i, s) in along.iter().enumerate() {
            let mut board = maker.board(
                (
                    &format!("divider-{}", i + 1),
                    "divider",
                    "divider, front to back",
                ),
                t,
                Pose::along(y + s + t),
                corner(x),
                (("length", &deep), ("height", &high)),
            );
            slotted(&mut board, &across, x, true);
            board.way = Way::seen("either face, slots up");
            boards.push(board);
        }
        for (i, s) in across.iter().enumerate() {
            let mut board = maker.board(
                (
                    &format!("cross-{}", i + 1),
                    "divider",
                    "divider, side to side",
                ),
                t,
                Pose::across(x + s),
                corner(y),
                (("length", &wide), ("height", &high)),
            );
            slotted(&mut board, &along, y, false);
            board.way = Way::seen("either face, slots down");
            boards.push(board);
        }
        let joints = boards
            .iter()
            .map(|b| Joint::new(Fasten::Lies, b.id.clone(), on).apart())
            .collect();
        (boards, joints)
    }
}
