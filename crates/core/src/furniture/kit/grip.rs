//! By what a hand opens a lid, a door, a flap or a drawer: a handle, or wood taken out for the fingers.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::furniture::Site;
use crate::furniture::built::{Board, Hole};
use crate::geometry::Point;
use crate::geometry::grid::nearest;
use crate::geometry::region::Region;

/// A finger's hole, and each end of a hand slot, mm: 32, two of them joined (common practice, no source).
pub const WIDE: f64 = 32.0;
/// The ends of a slot are so far apart, middle to middle, mm (a choice: four fingers).
const APART: f64 = 70.0;
/// Its middle lies so far from the edge that opens, mm (a choice: clear of the board behind it).
pub const FROM_EDGE: f64 = 50.0;
/// So much wood stays round it, mm (a choice).
const WOOD: f64 = 15.0;

/// What a hand takes hold of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Grip {
    /// A handle or knob that is screwed on, or the board's own edge.
    #[default]
    Handle,
    /// A hole for a finger.
    Hole,
    /// A slot for a hand.
    Slot,
}

impl Grip {
    /// Words for the form.
    pub const WORDS: [(&'static str, &'static str); 3] = [
        ("handle", "a handle or knob, or its edge"),
        ("hole", "a finger hole"),
        ("slot", "a hand slot"),
    ];

    /// Half of how far it reaches along the edge that opens, and square to it, mm.
    fn half(self) -> (f64, f64) {
        match self {
            Grip::Handle => (0.0, 0.0),
            Grip::Hole => (WIDE / 2.0, WIDE / 2.0),
            Grip::Slot => ((APART + WIDE) / 2.0, WIDE / 2.0),
        }
    }

    /// Takes it out of a board round `at`, in the board's own plane, along its first axis or its second; says whether there is wood for
    /// it.
    pub fn cut(self, board: &mut Board, at: Point, along_u: bool, site: &Site) -> bool {
        if self == Grip::Handle {
            return true;
        }
        let (long, short) = self.half();
        let (u, v) = if along_u {
            (long, short)
        } else {
            (short, long)
        };
        let around = |by: f64| {
            Region::rectangle(
                at[0] - u - by,
                at[1] - v - by,
                at[0] + u + by,
                at[1] + v + by,
            )
        };
        if !around(WOOD)
            .minus(std::slice::from_ref(&board.shape))
            .is_empty()
        {
            return false;
        }
        let (x0, y0, ..) = board.shape.bounds();
        let (step, w) = (site.project.units.marks().mm(), site.w);
        let hole = |by: f64| {
            let [x, y] = if along_u {
                [at[0] + by, at[1]]
            } else {
                [at[0], at[1] + by]
            };
            Hole {
                at: [x - x0, y - y0].map(|c| nearest(c, step)),
                diameter: WIDE,
            }
        };
        let words = if self == Grip::Slot {
            board.holes.extend([hole(-APART / 2.0), hole(APART / 2.0)]);
            let (u, v) = if along_u {
                (APART / 2.0, WIDE / 2.0)
            } else {
                (WIDE / 2.0, APART / 2.0)
            };
            board.windows.push(Region::rectangle(
                at[0] - u,
                at[1] - v,
                at[0] + u,
                at[1] + v,
            ));
            format!(
                "hand slot: two holes of {}, the wood between them sawn out, all edges rounded",
                w.say(WIDE)
            )
        } else {
            board.holes.push(hole(0.0));
            format!("finger hole of {}, its edges rounded", w.say(WIDE))
        };
        board.then.push(words);
        true
    }
}
