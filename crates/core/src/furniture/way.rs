//! Which way round a part goes: which face is seen, what lies along its edges, where the centre line is.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::geometry::region::Region;
use crate::project::survey::Side;

/// Which way round a part goes, as it lies on its card.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Way {
    /// Which face is seen on the card.
    pub face: String,
    /// What lies along the lower edge.
    pub bottom: String,
    /// What lies along the right edge.
    pub right: String,
    /// What lies along the upper edge.
    pub top: String,
    /// What lies along the left edge.
    pub left: String,
    /// The vehicle's centre line, from and to, mm in the blank's frame.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<Vec<Vec<f64>>>)]
    pub centre: Option<[[f64; 2]; 2]>,
}

impl Way {
    fn new(face: &str, [bottom, right, top, left]: [&str; 4]) -> Way {
        Way {
            face: face.into(),
            bottom: bottom.into(),
            right: right.into(),
            top: top.into(),
            left: left.into(),
            centre: None,
        }
    }

    /// A piece of a deck: drawn from above, front to the right. `xs` and `ys` are the joints across and along.
    pub fn deck(piece: &Region, whole: (f64, f64, f64, f64), xs: &[f64], ys: &[f64]) -> Way {
        let (x0, y0, x1, y1) = piece.bounds();
        let near = |list: &[f64], v: f64| list.iter().any(|j| (j - v).abs() < 1.0);
        let edge = |at: f64, outer: f64, joints: &[f64], joint: &str, end: &str| {
            if near(joints, at) {
                joint.to_string()
            } else if (at - outer).abs() < 30.0 {
                end.to_string()
            } else {
                String::new()
            }
        };
        let mut way = Way::new("top face, seen from above", [""; 4]);
        way.left = edge(
            x0,
            whole.0,
            xs,
            "joint to the rear piece",
            "rear: threshold",
        );
        way.right = edge(x1, whole.2, xs, "joint to the front piece", "front");
        way.bottom = edge(y0, whole.1, ys, "joint to the right piece", "right wall");
        way.top = edge(y1, whole.3, ys, "joint to the left piece", "left wall");
        if y0 <= 0.0 && y1 >= 0.0 {
            way.centre = Some([[0.0, -y0], [x1 - x0, -y0]]);
        }
        way
    }

    /// A frame across the bay: seen from the front, so that the left wall is on the right.
    pub fn frame(y0: f64, (w, h): (f64, f64), line: usize, lines: usize) -> Way {
        let face = match line {
            0 => "front face of the rearmost frame, seen from the front",
            i if i + 1 == lines => "front face of the foremost frame, seen from the front",
            _ => "front face, seen from the front",
        };
        Way {
            centre: (y0 < 0.0 && y0 + w > 0.0).then_some([[-y0, 0.0], [-y0, h]]),
            ..Way::new(face, ["floor", "left wall", "under the deck", "right wall"])
        }
    }

    /// A rail under the deck.
    pub fn rail(y0: f64, (w, h): (f64, f64)) -> Way {
        Way {
            centre: (y0 < 0.0 && y0 + w > 0.0).then_some([[-y0, 0.0], [-y0, h]]),
            ..Way::new(
                "front face, seen from the front",
                ["below", "left wall", "under the deck", "right wall"],
            )
        }
    }

    /// Nothing but the face that is seen.
    pub fn seen(face: &str) -> Way {
        Way::new(face, [""; 4])
    }

    /// A leg: its length lies along the card.
    pub fn leg() -> Way {
        Way::new("either face", ["", "up: under the rail", "", "down: foot"])
    }

    /// A strip along a wall, seen from the middle of the bay.
    pub fn ledger(side: Side) -> Way {
        let (left, right) = match side {
            Side::Left => ("rear", "front"),
            Side::Right => ("front", "rear"),
        };
        Way::new(
            "face to the bay, seen from the middle",
            ["below", right, "under the deck", left],
        )
    }

    /// What to write on the board, so that it cannot be turned round.
    pub fn to_write(&self, mark: &str) -> Option<String> {
        let named = [
            ("left", &self.left),
            ("right", &self.right),
            ("upper", &self.top),
            ("lower", &self.bottom),
        ];
        let first = named.into_iter().find(|(_, words)| !words.is_empty())?;
        Some(format!(
            "write \"{mark}\" on this face ({}) and \"{}\" along its {} edge",
            self.face, first.1, first.0
        ))
    }
}
