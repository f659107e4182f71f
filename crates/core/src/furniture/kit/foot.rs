//! What a piece stands on: the floor itself, a plinth that leaves room for toes, or feet.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::maker::Maker;
use crate::furniture::built::{Built, Fasten, Joint, Pose};
use crate::units::value::Value;

/// What a piece stands on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Foot {
    /// The floor.
    #[default]
    Floor,
    /// A plinth all round, its front set back.
    Plinth,
    /// A foot at each corner.
    Feet,
}

impl Foot {
    /// Value and words of all.
    pub const WORDS: [(&'static str, &'static str); 3] = [
        ("floor", "the floor"),
        ("plinth", "a plinth"),
        ("feet", "feet"),
    ];

    /// How high it lifts a piece, if `high` is chosen.
    pub fn lifts(self, high: f64) -> f64 {
        if self == Foot::Floor { 0.0 } else { high }
    }
}

/// A plinth's front stands so far back from the carcass, mm (a choice: room for toes).
pub const TOES: f64 = 40.0;
/// Width of a foot, mm, and how far from front and back it stands (choices).
const WIDE: f64 = 60.0;
const IN: f64 = 20.0;

/// A board, and from where to where it lies from front to back, mm.
pub type Lies = (String, (f64, f64));

/// A foot being made.
pub struct Under<'a> {
    /// Makes its boards; its origin is the lower right front corner of the piece.
    pub maker: &'a Maker<'a>,
    /// What it is.
    pub foot: Foot,
    /// How high it is.
    pub high: Value,
    /// Width and depth of the carcass over it.
    pub size: [&'a Value; 2],
    /// How far behind the front of the piece the carcass begins, mm.
    pub before: f64,
    /// Its boards.
    pub board: Value,
}

impl Under<'_> {
    /// Its boards, and between where each lies, from front to back, mm.
    pub fn made(&self) -> (Built, Vec<Lies>) {
        match self.foot {
            Foot::Floor => (Built::default(), vec![]),
            Foot::Plinth => self.plinth(),
            Foot::Feet => self.feet(),
        }
    }

    fn plinth(&self) -> (Built, Vec<Lies>) {
        let (m, t) = (self.maker, self.board.mm);
        let [width, depth] = self.size;
        let toes = Value::rule("plinth/toes", "room for toes", TOES);
        let from = self.before + TOES;
        let deep = depth - toes;
        let inner = width - self.board.clone().named("end of the plinth") * 2.0;
        let mut out = Built::default();
        let mut at = Vec::new();
        for (end, y) in [("right", t), ("left", width.mm)] {
            let id = format!("plinth-{end}");
            let mut made = m.board(
                (&id, "plinth", "plinth, end"),
                t,
                Pose::along(y),
                [from, 0.0],
                (("length", &deep), ("height", &self.high)),
            );
            made.places = vec![end.into()];
            out.boards.push(made);
            at.push((id, (from, from + deep.mm)));
        }
        for (side, x) in [("front", from), ("back", from + deep.mm - t)] {
            let id = format!("plinth-{side}");
            let mut made = m.board(
                (&id, "plinth", "plinth, front and back"),
                t,
                Pose::across(x),
                [t, 0.0],
                (("length", &inner), ("height", &self.high)),
            );
            made.places = vec![side.into()];
            out.boards.push(made);
            for end in ["right", "left"] {
                out.joints.push(Joint::new(
                    Fasten::Butt,
                    format!("plinth-{end}"),
                    id.clone(),
                ));
            }
            at.push((id, (x, x + t)));
        }
        (out, at)
    }

    fn feet(&self) -> (Built, Vec<Lies>) {
        let (m, t) = (self.maker, self.board.mm);
        let [width, depth] = self.size;
        let wide = Value::rule("foot/width", "width of a foot", WIDE);
        let mut out = Built::default();
        let mut at = Vec::new();
        let ends = [
            ("front", self.before + IN),
            ("back", self.before + depth.mm - IN - t),
        ];
        for (side, x) in ends {
            for (end, y) in [("right", 0.0), ("left", width.mm - WIDE)] {
                let id = format!("foot-{side}-{end}");
                let mut made = m.board(
                    (&id, "foot", "foot"),
                    t,
                    Pose::across(x),
                    [y, 0.0],
                    (("width", &wide), ("height", &self.high)),
                );
                made.places = vec![format!("{side} {end}")];
                out.boards.push(made);
                at.push((id, (x, x + t)));
            }
        }
        (out, at)
    }
}
