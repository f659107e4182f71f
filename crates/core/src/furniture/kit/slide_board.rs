//! A board that is pulled out: a table over a drawer or under a deck. It runs on two strips under its edges and is
//! kept down by what lies over it.

use super::maker::Maker;
use crate::furniture::built::{Body, Built, Fasten, Item, Joint, Motion, Pose, Span, Under};
use crate::units::value::Value;

/// Of its length so much stays inside when it is out.
pub const STAYS: f64 = 1.0 / 3.0;
/// Width of a strip it runs on, mm (a choice).
const STRIP: f64 = 30.0;

/// A board that is pulled out.
pub struct SlideBoard<'a> {
    /// Makes its boards.
    pub maker: Maker<'a>,
    /// Before the identifiers of its boards, where there are several.
    pub prefix: String,
    /// Its body's identifier, within the module.
    pub body: String,
    /// The opening's upper right front corner in the piece's own directions, mm.
    pub at: [f64; 3],
    /// Width and depth of the opening.
    pub opening: [Value; 2],
    /// How far before the opening it reaches, so that it is flush with the faces.
    pub before: Value,
    /// Thickness of the board.
    pub board: Value,
    /// Thickness of the strips below it.
    pub strip: Value,
    /// Play on every side.
    pub gap: Value,
    /// The boards at whose sides the strips are held: right and left.
    pub sides: [String; 2],
}

/// Height that such a board takes of an opening.
pub fn takes(board: &Value, strip: &Value, gap: &Value) -> Value {
    (board + strip + gap).named("board above and what it runs on")
}

impl SlideBoard<'_> {
    /// Worked out.
    pub fn made(self) -> Built {
        let [x, y, top] = self.at;
        let [wide, deep] = &self.opening;
        let m = &self.maker;
        let width = wide - &self.gap * 2.0;
        let long = deep + &self.before - self.gap.clone().named("gap behind");
        let z = top - self.gap.mm - self.board.mm;
        let id = |board: &str| format!("{}{board}", self.prefix);
        let mut table = m.board(
            (&id("table"), "table", "board that pulls out"),
            self.board.mm,
            Pose::level(z),
            [x - self.before.mm, y + self.gap.mm],
            (("length", &long), ("width", &width)),
        );
        table.body.clone_from(&self.body);
        table
            .then
            .push("finger notch in its front edge; a stop behind".into());
        let strip = Value::rule("table/strip", "strip", STRIP);
        let mut boards = vec![table];
        for (name, at, side) in [
            ("strip-right", y, "right"),
            ("strip-left", y + wide.mm - STRIP, "left"),
        ] {
            boards.push(m.board(
                (&id(name), "strip", &format!("strip it runs on, {side}")),
                self.strip.mm,
                Pose::level(z - self.strip.mm),
                [x, at],
                (("length", deep), ("width", &strip)),
            ));
        }
        let travel = long.mm * (1.0 - STAYS);
        let joints = [("strip-right", 0), ("strip-left", 1)]
            .map(|(s, i)| Joint::new(Fasten::Butt, self.sides[i].clone(), id(s)));
        Built {
            bodies: vec![Body {
                parent: None,
                id: format!("{}/{}", m.site.id, self.body),
                name: format!("{}, board", m.name),
                motion: Motion::Slide {
                    along: m.frame.turn([-1.0, 0.0, 0.0]),
                    travel,
                },
                eases: vec![],
                change: None,
            }],
            joints: joints.into(),
            hardware: vec![
                Item::new("turn button or latch that locks the board in and out", 1, 2)
                    .shutting(self.body.clone()),
            ],
            spans: vec![Span {
                board: id("table"),
                name: format!("board of the {}, pulled out", m.name),
                spans: vec![travel],
                width: width.mm,
                along: true,
                under: Under::End(long.mm - travel),
                eases: m.thicker("table", self.board.mm),
            }],
            boards,
            ..Built::default()
        }
    }
}
