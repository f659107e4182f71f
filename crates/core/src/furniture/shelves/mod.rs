//! Shelves on posts: nothing is screwed to a wall.

mod boards;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::Built;
use super::form::Form;
use super::kit::frame::Opens;
use super::stands::{Piece, Stance, Standing};
use super::{Amount, Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::optional;

/// Width of a post, and height of a cleat under a shelf, mm (choices).
const POST: f64 = 60.0;
const CLEAT: f64 = 30.0;
/// A shelf is so much smaller than what it lies between, mm: 1/4 in (14 in wide, 13 3/4 in cut: common practice, no
/// source).
const PLAY: f64 = 6.35;
/// Between two shelves at least so much, mm, and most shelves.
const BETWEEN: f64 = 100.0;
const MOST: u32 = 8;
/// Most pieces side by side.
const SIDE_BY_SIDE: u32 = 4;
/// Least and greatest diameter of a pipe that shelves are cut round, mm; so much room is left round it (choices).
const PIPE: [f64; 2] = [10.0, 150.0];
const ROUND: f64 = 5.0;

/// What shelves lie on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum On {
    /// Cleats screwed to the posts: they stay where they are.
    #[default]
    Cleats,
    /// Pins in rows of holes: they go where one wants them.
    Pins,
}

/// The choices about shelves.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Shelves {
    /// To which side they look.
    pub opens: Opens,
    /// Width, square to the way they look, mm.
    pub width: f64,
    /// Depth along the way they look, mm.
    pub depth: f64,
    /// Height of the posts, mm.
    pub height: f64,
    /// How many shelves.
    pub levels: u32,
    /// Height of a lip over each shelf, mm.
    pub lip: f64,
    /// What they lie on.
    pub on: On,
    /// Pieces side by side of which each shelf is made.
    pub pieces: u32,
    /// Width of bins that are screwed down on them, mm; none if null.
    pub bins: Option<f64>,
    /// Diameter of a pipe at the back that they are cut round, mm; none if null.
    pub pipe: Option<f64>,
    /// How far its middle is from their right end, mm.
    pub pipe_at: f64,
    /// Material identifier.
    pub material: String,
    /// Thickness of its boards, mm.
    pub thickness: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Shelves {
    fn default() -> Self {
        Shelves {
            opens: Opens::Rear,
            width: 450.0,
            depth: 300.0,
            height: 700.0,
            levels: 3,
            lip: 40.0,
            on: On::Cleats,
            pieces: 1,
            bins: None,
            pipe: None,
            pipe_at: 200.0,
            material: "birch-ply".into(),
            thickness: 12.0,
            clearance: None,
        }
    }
}

/// Shelves.
pub struct ShelvesKind;

impl Piece for ShelvesKind {
    type Choices = Shelves;

    fn name(&self) -> &'static str {
        "shelves"
    }

    fn purpose(&self) -> &'static str {
        "For light things, on posts: nothing is screwed to a thin wall."
    }

    fn stance(&self, c: &Shelves) -> Stance {
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [
                200.0 * f64::from(c.pieces.clamp(1, SIDE_BY_SIDE)),
                2.0 * POST + 2.0 * c.thickness,
                self.least_height(c),
            ],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: 0.0,
        }
    }

    fn resize(&self, c: &mut Shelves, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn suit(&self, c: &mut Shelves, site: &Site, said: &dyn Fn(&str) -> bool) {
        // As many as there is room for below what was read.
        if said("levels") || said("height") {
            return;
        }
        let read = site.model.highest().unwrap_or(c.height);
        while c.levels > 1 && self.least_height(c) > read {
            c.levels -= 1;
        }
    }

    fn less(&self, c: &mut Shelves, said: &dyn Fn(&str) -> bool) -> bool {
        let fewer = c.levels > 1 && !said("levels");
        c.levels -= u32::from(fewer);
        fewer
    }

    fn amount(&self, c: &Shelves) -> Amount {
        Amount::of(8, c.levels * c.pieces, "/choices/levels")
    }

    fn check(&self, c: &Shelves, _: &Project, _: f64) -> Result<(), Problem> {
        within(f64::from(c.levels), "/choices/levels", 1.0, f64::from(MOST))?;
        within(c.lip, "/choices/lip", 0.0, 200.0)?;
        let pieces = f64::from(c.pieces);
        within(pieces, "/choices/pieces", 1.0, f64::from(SIDE_BY_SIDE))?;
        optional(c.bins, "/choices/bins", 50.0, c.inner().max(50.0))?;
        optional(c.pipe, "/choices/pipe", PIPE[0], PIPE[1])?;
        if let Some(wide) = c.pipe {
            self.passes(c, wide)?;
        }
        Ok(())
    }

    fn fields(&self, c: &Shelves, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.count("levels", "Shelves", Some(c.levels)),
            f.length("lip", "Lip", Some(c.lip))
                .why("keeps things on them on the road"),
            f.choice(
                "on",
                "They lie on",
                &[
                    ("cleats", "cleats, screwed"),
                    ("pins", "pins in rows of holes, to be moved"),
                ],
            ),
            f.count("pieces", "Each in so many pieces", Some(c.pieces))
                .why("where one would not come through the door"),
            f.length("bins", "Bins screwed down, width", c.bins)
                .empty("none"),
            f.length("pipe", "Round a pipe at the back", c.pipe)
                .empty("none"),
            f.length("pipe_at", "Pipe from the right end", Some(c.pipe_at))
                .why("to its middle; nothing without a pipe"),
        ]
    }

    fn built(&self, c: &Shelves, at: &Standing) -> Option<Built> {
        boards::built(c, at)
    }
}

impl ShelvesKind {
    fn least_height(&self, c: &Shelves) -> f64 {
        let n = f64::from(c.levels.clamp(1, MOST));
        n * (BETWEEN + CLEAT + c.thickness + c.lip)
    }
}

impl ShelvesKind {
    /// A pipe passes behind a shelf, clear of posts and cleats, and leaves something of it.
    fn passes(&self, c: &Shelves, wide: f64) -> Result<(), Problem> {
        if c.on == On::Pins {
            return Err(Problem::impossible(
                "/choices/on",
                "Shelves on pins are held square by rails at the back, where the pipe is: cleats hold them too.",
            ));
        }
        if wide + ROUND > c.depth / 2.0 {
            return Err(Problem::impossible(
                "/choices/pipe",
                "Less than half of the shelf's depth would be left before so thick a pipe.",
            ));
        }
        let half = wide / 2.0 + ROUND + 2.0 * c.thickness + PLAY;
        let (t, inner) = (c.thickness, c.inner());
        let free = (0..c.pieces).any(|k| {
            let from = t + f64::from(k) * (inner + t);
            c.pipe_at - half >= from - t && c.pipe_at + half <= from + inner + t
        });
        match free {
            true => Ok(()),
            false => Err(Problem::impossible(
                "/choices/pipe_at",
                "The pipe would go through a post or a cleat there.",
            )),
        }
    }
}

impl Shelves {
    /// Width between the posts of one column of shelves, mm.
    fn inner(&self) -> f64 {
        let n = f64::from(self.pieces.max(1));
        (self.width - (n + 1.0) * self.thickness) / n
    }
}
