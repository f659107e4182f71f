//! A table by day that is lowered onto its frame by night: the middle of a bed, or a low shelf.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::built::{
    Body, Built, Changing, Ease, FIXED, Fasten, Item, Joint, Motion, Pose, Room, Span, Under,
};
use super::form::Form;
use super::kit::frame::Opens;
use super::kit::maker::Maker;
use super::stands::{Piece, Stance, Standing};
use super::{Field, Site};
use crate::input::within;
use crate::problem::Problem;
use crate::project::Project;
use crate::units::value::Value;

/// Least width and depth, mm.
const LEAST: [f64; 2] = [300.0, 300.0];
/// Under the lowered top at least so much, and it is lowered by at least so much, mm (choices).
const BELOW: f64 = 100.0;
const DROP: f64 = 60.0;
/// Height of the rails that keep the frame square, mm (a choice).
const RAIL: f64 = 80.0;
/// Where nothing is said the top is lowered to this share of its height (a choice).
const LOW: f64 = 0.5;
/// Two legs from this width on, mm (a choice).
const TWO_LEGS: f64 = 700.0;
/// Everything off, legs out, lowered, bolts in: seconds (a choice).
const SECONDS: u32 = 60;

/// The choices about a table that is lowered.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Table {
    /// To which side its front looks.
    pub opens: Opens,
    /// Width, square to that, mm.
    pub width: f64,
    /// Depth, mm.
    pub depth: f64,
    /// Height of the top's upper face by day, mm.
    pub height: f64,
    /// The same by night, mm: what one lies on next to it; half the height if null.
    pub low: Option<f64>,
    /// Material identifier.
    pub material: String,
    /// Thickness of the frame, mm.
    pub thickness: f64,
    /// Thickness of the top, mm.
    pub top: f64,
    /// Clearance to walls and wells, mm; from the readings and the finish if null.
    pub clearance: Option<f64>,
}

impl Default for Table {
    fn default() -> Self {
        Table {
            opens: Opens::Rear,
            width: 600.0,
            depth: 500.0,
            height: 600.0,
            low: None,
            material: "birch-ply".into(),
            thickness: 15.0,
            top: 18.0,
            clearance: None,
        }
    }
}

impl Table {
    /// Height of the lowered top, mm.
    fn low(&self) -> f64 {
        self.low
            .unwrap_or((self.height * LOW).max(BELOW + self.top))
    }
}

/// A table that is lowered.
pub struct TableKind;

impl Piece for TableKind {
    type Choices = Table;

    fn name(&self) -> &'static str {
        "table"
    }

    fn purpose(&self) -> &'static str {
        "To eat at by day and lie on by night: a table that is lowered."
    }

    fn stance(&self, c: &Table) -> Stance {
        Stance {
            opens: c.opens,
            size: [c.width, c.depth, c.height],
            least: [LEAST[0], LEAST[1], c.low.unwrap_or(BELOW + c.top) + DROP],
            clearance: c.clearance,
            material: c.material.clone(),
            thickness: c.thickness,
            reach: 0.0,
        }
    }

    fn resize(&self, c: &mut Table, size: [f64; 3]) {
        [c.width, c.depth, c.height] = size;
    }

    fn check(&self, c: &Table, _: &Project, _: f64) -> Result<(), Problem> {
        within(c.top, "/choices/top", 6.0, 30.0)?;
        if let Some(low) = c.low {
            within(low, "/choices/low", BELOW + c.top, 3000.0)?;
        }
        Ok(())
    }

    fn fields(&self, c: &Table, f: &Form, _: &Site) -> Vec<Field> {
        vec![
            f.length("low", "Lowered to", c.low)
                .empty("half its height")
                .why("the height of what one lies on next to it"),
            f.length("top", "Top", Some(c.top))
                .why("thickness; it is lain and knelt on"),
        ]
    }

    fn built(&self, c: &Table, at: &Standing) -> Option<Built> {
        let site = at.site;
        let m = &Maker::new(at, "T", &c.material, c.opens);
        let t = c.thickness;
        let board = site.choice("thickness", "board", t);
        let width = site.choice("width", "width", c.width);
        let depth = site.choice("depth", "depth", c.depth);
        let top = site.choice("top", "top", c.top);
        let height = site.choice("height", "height", c.height);
        let low = match c.low {
            Some(mm) => site.choice("low", "lowered to", mm),
            None if c.height * LOW >= BELOW + c.top => height * LOW,
            None => Value::rule("table/low", "lowered to", c.low()),
        };
        let side = (low - top.clone()).named("side of the frame");
        let inner =
            (width.clone() - board.named("side of the frame") * 2.0).named("between the sides");
        let rail = Value::rule("table/rail", "rail", RAIL.min(side.mm / 2.0));
        let mut out = Built::default();
        for (end, y) in [("right", t), ("left", c.width)] {
            let mut made = m.board(
                (&format!("side-{end}"), "side", "side of its frame"),
                t,
                Pose::along(y),
                [0.0, 0.0],
                (("length", &depth), ("height", &side)),
            );
            made.places = vec![end.into()];
            out.boards.push(made);
        }
        for (end, x) in [("front", 0.0), ("back", c.depth - t)] {
            let id = format!("rail-{end}");
            let mut made = m.board(
                (&id, "rail", "rail of its frame"),
                t,
                Pose::across(x),
                [t, side.mm - rail.mm],
                (("length", &inner), ("height", &rail)),
            );
            made.places = vec![end.into()];
            out.boards.push(made);
            for s in ["side-right", "side-left"] {
                out.joints.push(Joint::new(Fasten::Butt, s, id.clone()));
            }
        }
        let mut leaf = m.board(
            ("top", "table", "top that is lowered"),
            c.top,
            Pose::level(c.height - c.top),
            [0.0, 0.0],
            (("length", &depth), ("width", &width)),
        );
        leaf.body = "top".into();
        leaf.then.push("sockets of the legs below it; two bolts or pins through it into the frame for the night".into());
        out.boards.push(leaf);
        out.bodies.push(Body {
            parent: None,
            id: format!("{}/top", site.id),
            name: format!("top of the {}", at.name),
            motion: Motion::Slide {
                along: [0.0, 0.0, -1.0],
                travel: c.height - c.low(),
            },
            eases: c.low.map_or(vec![], |low| {
                let higher = low + 20.0;
                let helps = (higher <= c.height - DROP).then(|| Ease {
                    label: format!("Lower it to {} only", site.w.say(higher)),
                    cost: "no longer level with what is next to it".into(),
                    pointer: "/choices/low".into(),
                    value: higher.into(),
                    ..Ease::default()
                });
                helps.into_iter().collect()
            }),
            change: Some(Changing {
                first: "everything off the table".into(),
                stays: String::new(),
                words: [
                    "its legs out, lowered onto its frame, bolts in".into(),
                    "bolts out, lifted, its legs in".into(),
                ],
                moved: "lowered".into(),
                frees: None,
                for_road: false,
                past_front: 0.0,
                seconds: SECONDS,
            }),
        });
        out.rooms.push(Room {
            name: at.name.clone(),
            size: [inner.mm, c.depth - 2.0 * t, side.mm],
            body: FIXED.into(),
            opened_by: FIXED.into(),
        });
        out.spans.push(Span {
            board: "top".into(),
            name: format!("top of the {}, lowered", at.name),
            spans: vec![inner.mm],
            width: c.depth,
            along: false,
            under: Under::Seat,
            eases: m.thicker("top", c.top),
        });
        let legs = if c.width >= TWO_LEGS { 2 } else { 1 };
        out.hardware = vec![
            Item::new("table leg that comes out, with two sockets", legs, 8)
                .sized(site.w.say(c.height - c.top)),
            Item::new("bolt or pin that holds the lowered top", 2, 0),
        ];
        for b in &mut out.boards {
            b.then
                .push("pilot every screw into an edge; dry fit before glue".into());
        }
        Some(out)
    }
}
