//! Two combs of slats that lie between each other: those of a frame, and those of what is pulled out of it.

use super::maker::Maker;
use crate::furniture::built::{Built, Fasten, Joint, Pose};
use crate::units::value::Value;

/// Between two slats that slide past each other, mm (a choice: wood swells).
pub const GAP: f64 = 3.0;

/// Two combs, their slats along the depth of a piece.
pub struct Comb<'a> {
    /// Makes their boards.
    pub maker: Maker<'a>,
    /// Over how much of the width they go.
    pub wide: Value,
    /// Slats of the frame; one fewer moves.
    pub count: u32,
    /// Thickness of a slat, mm.
    pub thickness: f64,
    /// Height of their lower face, mm.
    pub z: f64,
    /// Where those of the frame begin, mm, and how long they are.
    pub fixed: (f64, Value),
    /// The same of those that move.
    pub moving: (f64, Value),
    /// The body of those that move, within the module.
    pub body: &'static str,
    /// On what boards they are held.
    pub on: ([&'static str; 2], &'static str),
}

impl Comb<'_> {
    /// Width of a slat: what is left after the gaps, shared evenly.
    pub fn each(&self) -> Value {
        let all = f64::from(2 * self.count - 1);
        let gap = Value::rule("comb/gap", "gap between slats", GAP);
        ((self.wide.clone() - gap * (all - 1.0)) * (1.0 / all)).named("slat")
    }

    /// Worked out.
    pub fn made(&self) -> Built {
        let each = self.each();
        let mut out = Built::default();
        for k in 0..2 * self.count - 1 {
            let moves = k % 2 == 1;
            let (id, words, (x, long)) = if moves {
                let id = format!("slat-moving-{}", k / 2 + 1);
                (id, "slat that is pulled out", &self.moving)
            } else {
                (
                    format!("slat-{}", k / 2 + 1),
                    "slat of the frame",
                    &self.fixed,
                )
            };
            let y = f64::from(k) * (each.mm + GAP);
            let mut slat = self.maker.board(
                (&id, "slat", words),
                self.thickness,
                Pose::level(self.z),
                [*x, y],
                (("length", long), ("width", &each)),
            );
            if moves {
                slat.body = self.body.into();
                out.joints.push(Joint::new(Fasten::Butt, id, self.on.1));
            } else {
                for rail in self.on.0 {
                    out.joints.push(Joint::new(Fasten::Butt, id.clone(), rail));
                }
            }
            out.boards.push(slat);
        }
        out
    }
}
