//! How a carcass is made: what holds its boards together, what its bottom and top are, what it stands on.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::furniture::built::{Ease, Fasten, Joint};
use crate::units::value::Value;

/// What holds the boards of a carcass together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Join {
    /// Screwed through the face of one into the edge of the other.
    #[default]
    Butt,
    /// Pocket screws.
    Pocket,
    /// Shelves in grooves of the uprights, the rest screwed.
    Groove,
    /// Corner blocks, glued and screwed.
    Blocks,
    /// Angle brackets.
    Brackets,
}

impl Join {
    /// Value and words of all.
    pub const WORDS: [(&'static str, &'static str); 5] = [
        ("butt", "screws through the face"),
        ("pocket", "pocket screws"),
        ("groove", "grooves for the shelves"),
        ("blocks", "corner blocks"),
        ("brackets", "angle brackets"),
    ];

    /// What else might hold its shelves where no screw can be driven: changes of the choice `join`.
    pub fn others(now: Join) -> Vec<Ease> {
        let to = |join: Join, label: &str, cost: &str| {
            (now != join).then(|| Ease {
                against: None,
                label: label.into(),
                cost: cost.into(),
                pointer: "/choices/join".into(),
                value: serde_json::to_value(join).unwrap_or_default(),
            })
        };
        let all = [
            to(
                Join::Groove,
                "Shelves in grooves",
                "grooves in the uprights; longer shelves",
            ),
            to(Join::Pocket, "Pocket screws", "pockets are seen from below"),
        ];
        all.into_iter().flatten().collect()
    }

    /// Board `b` stands with its edge on the face of `a`.
    pub fn joint(self, a: String, b: String) -> Joint {
        match self {
            Join::Butt | Join::Groove => Joint::new(Fasten::Butt, a, b),
            // The pocket is in the board whose edge it is.
            Join::Pocket => Joint::new(Fasten::Pocket, b, a),
            Join::Blocks => Joint::new(Fasten::Blocks, a, b),
            Join::Brackets => Joint::new(Fasten::Brackets, a, b).apart(),
        }
    }
}

/// How deep grooves for shelves are in a board, mm: a third of it, so that a third is left between two of them, and
/// whole millimetres, as a fence is set (a choice; 5 mm in 15 mm, common practice, no source).
pub fn groove(board: f64) -> Value {
    Value::rule("carcass/groove", "groove", (board / 3.0).floor())
}

/// What closes a carcass below or above.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Closed {
    /// A whole board.
    #[default]
    Board,
    /// Slats: lighter.
    Slats,
    /// A rail in front and one behind: what lies over it closes it, a worktop or a bed. Only above.
    Rails,
}

impl Closed {
    /// Value and words for a bottom.
    pub const WORDS: [(&'static str, &'static str); 2] =
        [("board", "a whole board"), ("slats", "slats, lighter")];
    /// Value and words for a top.
    pub const ABOVE: [(&'static str, &'static str); 3] = [
        ("board", "a whole board"),
        ("slats", "slats, lighter"),
        ("rails", "two rails: something lies over it"),
    ];

    /// Where its strips begin over a depth, mm; none of a whole board.
    pub fn strips(self, depth: f64) -> Vec<f64> {
        match self {
            Closed::Board => vec![],
            Closed::Slats => slats(depth),
            Closed::Rails if depth < 2.0 * SLAT => vec![0.0],
            Closed::Rails => vec![0.0, depth - SLAT],
        }
    }

    /// What one of its strips is called.
    pub fn strip(self) -> &'static str {
        match self {
            Closed::Rails => "rail",
            _ => "slat",
        }
    }
}

/// How a carcass is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Style {
    /// What holds it together.
    pub join: Join,
    /// Its bottom.
    pub bottom: Closed,
    /// Its top.
    pub top: Closed,
}

/// A slat is so wide, mm, and between two at the most so much (choices).
pub const SLAT: f64 = 60.0;
const GAP: f64 = 80.0;

/// Where slats begin over a depth, mm.
fn slats(depth: f64) -> Vec<f64> {
    let most = ((depth - SLAT) / (SLAT + GAP)).ceil().clamp(1.0, 100.0);
    // None lies over its neighbour, however shallow it is.
    let n = most.min((depth / SLAT).floor() - 1.0).max(0.0);
    match n {
        0.0 => vec![0.0],
        n => (0..=n as u32)
            .map(|i| (depth - SLAT) * f64::from(i) / n)
            .collect(),
    }
}
