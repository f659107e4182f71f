//! Something that is bought and slid in: a cabinet, a chest of drawers, a cool box. Its size is given; a deck may lie on it.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{Board, Bought, Built, FIXED, Item, Pose, Room};
use super::form::Form;
use super::kit::frame::Opens;
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::geometry::region::Region;
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::project::check::optional;

/// Least width, depth and height of it, mm.
const LEAST: f64 = 60.0;
/// What comes out of it comes no further than this, mm.
const FURTHEST: f64 = 3000.0;
/// Heavier things are not slid in by hand, kg.
const HEAVIEST: f64 = 500.0;
/// Brackets that hold it on its board, and screws of each (choices).
const BRACKETS: u32 = 4;
const SCREWS: u32 = 2;

/// What it stands on.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Base {
    /// A board of its own, on which brackets hold it and which is held to the floor.
    #[default]
    Board,
    /// Nothing: it stands as it is, held by straps.
    Bare,
}

/// The choices about something that is bought.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Choices {
    /// To which side its front looks.
    pub opens: Opens,
    /// Its width, square to that, mm.
    pub width: f64,
    /// Its depth, mm.
    pub depth: f64,
    /// Its height, the board below it included, mm.
    pub height: f64,
    /// What it weighs with nothing in it, kg.
    pub mass: f64,
    /// Its drawers or its door come out so far, mm: the way before it stays free.
    pub reach: f64,
    /// Width of the room in it, mm.
    pub inside_width: Option<f64>,
    /// Depth of the room in it, mm.
    pub inside_depth: Option<f64>,
    /// Height of the room in it, mm.
    pub inside_height: Option<f64>,
    /// What it stands on.
    pub base: Base,
    /// Material identifier of the board below it.
    pub material: String,
    /// Thickness of the board below it, mm.
    pub thickness: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Choices {
    fn default() -> Self {
        Choices {
            opens: Opens::Rear,
            width: 400.0,
            depth: 450.0,
            height: 350.0,
            mass: 10.0,
            reach: 0.0,
            inside_width: None,
            inside_depth: None,
            inside_height: None,
            base: Base::Board,
            material: "birch-ply".into(),
            thickness: 12.0,
            clearance: None,
        }
    }
}

impl Choices {
    /// What the board below it takes, mm.
    fn below(&self) -> f64 {
        match self.base {
            Base::Board => self.thickness,
            Base::Bare => 0.0,
        }
    }

    fn inside(&self) -> [(&'static str, Option<f64>, f64); 3] {
        [
            ("inside_width", self.inside_width, self.width),
            ("inside_depth", self.inside_depth, self.depth),
            (
                "inside_height",
                self.inside_height,
                self.height - self.below(),
            ),
        ]
    }
}

/// Something that is bought.
pub struct BoughtKind;

impl Piece for BoughtKind {
    type Choices = Choices;

    fn name(&self) -> &'static str {
        "bought"
    }

    fn purpose(&self) -> &'static str {
        "For what is bought and slid in: a cabinet, a chest of drawers, a cool box. A deck may lie on it."
    }

    fn called(&self) -> Option<&'static str> {
        Some("bought cabinet")
    }

    fn stance(&self, c: &Choices) -> Stance {
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [LEAST, LEAST, LEAST + c.below()],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: c.reach,
        }
    }

    fn resize(&self, c: &mut Choices, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn check(&self, c: &Choices, _: &Project, _: f64) -> Result<(), Problem> {
        within(c.mass, "/choices/mass", 0.0, HEAVIEST)?;
        within(c.reach, "/choices/reach", 0.0, FURTHEST)?;
        for (field, inside, outside) in c.inside() {
            optional(inside, &format!("/choices/{field}"), 1.0, outside.max(1.0))?;
        }
        Ok(())
    }

    fn fields(&self, c: &Choices, f: &Form, _: &Site) -> Vec<Field> {
        let inside = |path, label, now| f.length(path, label, now).empty("not told");
        vec![
            f.mass("mass", "Weighs", c.mass).why("with nothing in it"),
            f.length("reach", "Comes out by", Some(c.reach))
                .why("its drawers or its door: the way before it stays free"),
            inside("inside_width", "Inside, width", c.inside_width)
                .why("with all three, gear is stowed in it"),
            inside("inside_depth", "Inside, depth", c.inside_depth),
            inside("inside_height", "Inside, height", c.inside_height),
            f.choice(
                "base",
                "Base",
                &[
                    ("board", "a board held to the floor"),
                    ("bare", "none: it is strapped down"),
                ],
            ),
        ]
    }

    fn built(&self, c: &Choices, at: &Standing) -> Option<Built> {
        let site = at.site;
        let m = &Maker::new(at, "U", &c.material, c.opens);
        let mut out = Built::default();
        let below = c.below();
        if c.base == Base::Board {
            let depth = site.choice("depth", "depth", c.depth);
            let width = site.choice("width", "width", c.width);
            let mut base = m.board(
                ("base", "base", "board below it"),
                c.thickness,
                Pose::level(0.0),
                [0.0, 0.0],
                (("length", &depth), ("width", &width)),
            );
            base.then
                .push("screw the brackets to it before it goes in".into());
            out.boards.push(base);
            out.hardware.push(Item::new(
                "angle bracket that holds it on its board",
                BRACKETS,
                SCREWS,
            ));
        }
        let high = c.height - below;
        let shape = Region::rectangle(0.0, 0.0, c.depth, c.width);
        let mut body = Board::new(
            "unit",
            "bought",
            "U",
            shape,
            m.frame.pose(Pose::level(below)),
        );
        body.name.clone_from(&at.name);
        body.thickness = high;
        out.bought.push(Bought { body, mass: c.mass });
        let size = [c.width, c.depth, high].map(|mm| site.w.say(mm));
        let bought = Item::new(&at.name, 1, 0);
        out.hardware.push(bought.sized(size.join(" x ")));
        if let [(_, Some(w), _), (_, Some(d), _), (_, Some(h), _)] = c.inside() {
            out.rooms.push(Room {
                name: at.name.clone(),
                size: [w, d, h],
                body: FIXED.into(),
                opened_by: FIXED.into(),
            });
        }
        Some(out)
    }
}
