//! Shelves on posts: nothing is screwed to a wall.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{Built, FIXED, Fasten, Joint, Pose, Room, Span, Under};
use super::form::Form;
use super::kit::frame::{Frame, Opens};
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::units::value::Value;

/// Width of a post, and height of a cleat under a shelf, mm (choices).
const POST: f64 = 60.0;
const CLEAT: f64 = 30.0;
/// A shelf is so much smaller than what it lies between, mm: 1/4 in (14 in wide, 13 3/4 in cut: common practice, no
/// source).
const PLAY: f64 = 6.35;
/// Between two shelves at least so much, mm, and most shelves.
const BETWEEN: f64 = 100.0;
const MOST: u32 = 8;
/// Light things, kg/m2 (a choice).
const THINGS: f64 = 40.0;

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
            least: [200.0, 2.0 * POST + 2.0 * c.thickness, self.least_height(c)],
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

    fn check(&self, c: &Shelves, _: &Project, _: f64) -> Result<(), Problem> {
        within(f64::from(c.levels), "/choices/levels", 1.0, f64::from(MOST))?;
        within(c.lip, "/choices/lip", 0.0, 200.0)?;
        Ok(())
    }

    fn fields(&self, c: &Shelves, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.count("levels", "Shelves", Some(c.levels)),
            f.length("lip", "Lip", Some(c.lip))
                .why("keeps things on them on the road"),
        ]
    }

    fn built(&self, c: &Shelves, at: &Standing) -> Option<Built> {
        let site = at.site;
        let m = &Maker {
            site,
            name: at.name.clone(),
            letter: "H",
            material: c.material.clone(),
            frame: Frame::new(&at.spot, c.opens),
        };
        let t = c.thickness;
        let board = site.choice("thickness", "board", t);
        let width = site.choice("width", "width", c.width);
        let depth = site.choice("depth", "depth", c.depth);
        let height = site.choice("height", "height", c.height);
        let lip = site.choice("lip", "lip", c.lip);
        let post = Value::rule("shelves/post", "post", POST);
        let cleat = Value::rule("shelves/cleat", "cleat", CLEAT);
        let play = Value::rule("shelves/play", "play", PLAY);
        let inner = width - board.clone().named("post") * 2.0;
        // Before the back rail and behind the lip.
        let deep = &depth - &board * 2.0;
        let wide = &inner - &play;
        let mut out = Built::default();
        for (end, y) in [("right", t), ("left", c.width)] {
            for (side, x) in [("front", 0.0), ("back", c.depth - POST)] {
                let id = format!("post-{side}-{end}");
                let mut made = m.board(
                    (&id, "post", "post"),
                    t,
                    Pose::along(y),
                    [x, 0.0],
                    (("width", &post), ("height", &height)),
                );
                made.places = vec![format!("{side} {end}")];
                out.boards.push(made);
            }
        }
        for (n, z) in self.levels(c).into_iter().enumerate() {
            let n = n + 1;
            let shelf = format!("shelf-{n}");
            for (end, y) in [("right", 2.0 * t), ("left", c.width - t)] {
                let id = format!("cleat-{n}-{end}");
                let mut made = m.board(
                    (&id, "cleat", "cleat under a shelf"),
                    t,
                    Pose::along(y),
                    [t, z - CLEAT],
                    (("length", &deep), ("height", &cleat)),
                );
                made.places = vec![format!("shelf {n}, {end}")];
                out.boards.push(made);
                for side in ["front", "back"] {
                    let post = format!("post-{side}-{end}");
                    out.joints.push(Joint::new(Fasten::Face, post, id.clone()));
                }
                out.joints
                    .push(Joint::new(Fasten::Lies, id, shelf.clone()).apart());
            }
            let mut made = m.board(
                (&shelf, "shelf", "shelf"),
                t,
                Pose::level(z),
                [t, t + PLAY / 2.0],
                (("length", &deep), ("width", &wide)),
            );
            made.places = vec![format!("level {n}")];
            out.boards.push(made);
            // A rail at the back and one in front hold the posts upright: the lip, where there is one.
            let rail = (&cleat + board.clone().named("shelf") + &lip).named("rail with its lip");
            for (side, x) in [("back", c.depth - t), ("front", 0.0)] {
                let id = format!("rail-{n}-{side}");
                let mut made = m.board(
                    (&id, "rail", "rail and lip of a shelf"),
                    t,
                    Pose::across(x),
                    [t, z - CLEAT],
                    (("length", &inner), ("height", &rail)),
                );
                made.places = vec![format!("shelf {n}, {side}")];
                out.boards.push(made);
                for end in ["right", "left"] {
                    let post = format!("post-{side}-{end}");
                    out.joints.push(Joint::new(Fasten::Butt, post, id.clone()));
                }
            }
            let free = self.between(c) - t - c.lip - CLEAT;
            out.rooms.push(Room {
                name: format!("{}, shelf {n}", at.name),
                size: [wide.mm, deep.mm, free],
                body: FIXED.into(),
                opened_by: FIXED.into(),
            });
            out.spans.push(Span {
                board: shelf,
                name: "shelf".into(),
                spans: vec![wide.mm],
                width: deep.mm,
                along: false,
                under: Under::Things(THINGS * wide.mm * deep.mm * 1e-6),
                eases: m.thicker("thickness", c.thickness),
            });
        }
        for b in &mut out.boards {
            b.then.push("pilot every screw into an edge".into());
        }
        Some(out)
    }
}

impl ShelvesKind {
    fn least_height(&self, c: &Shelves) -> f64 {
        let n = f64::from(c.levels.clamp(1, MOST));
        n * (BETWEEN + CLEAT + c.thickness + c.lip)
    }

    /// From shelf to shelf, mm: evenly, the uppermost with as much over it.
    fn between(&self, c: &Shelves) -> f64 {
        (c.height - CLEAT) / f64::from(c.levels.max(1))
    }

    /// Heights of the shelves' lower faces over the foot, mm.
    fn levels(&self, c: &Shelves) -> Vec<f64> {
        let each = self.between(c);
        (0..c.levels).map(|i| CLEAT + each * f64::from(i)).collect()
    }
}
