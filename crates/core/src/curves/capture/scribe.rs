//! A pencil held at a fixed distance in a fixed direction, drawn along the surface.

use serde::{Deserialize, Serialize};

use super::{Capture, Corners, Edge, Seen, along, drawn, flat};
use crate::curves::fair::{Curve, Mark};
use crate::geometry::Point;
use crate::input::within;
use crate::problem::Problem;

/// Furthest a pencil is held off, mm.
const FURTHEST: f64 = 1000.0;
/// A wall that runs nearer to the direction than this is drawn badly, as the sine of the angle between (10 degrees; a
/// choice).
const STEEP: f64 = 0.17;

/// A line drawn at a distance in one direction.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Scribe {
    /// What was drawn.
    pub trace: Vec<Point>,
    /// The direction from the line to the surface, of any length but none.
    pub direction: Point,
    /// How far, mm.
    pub distance: f64,
}

impl Scribe {
    fn unit(&self) -> Point {
        let l = self.direction[0].hypot(self.direction[1]).max(1e-300);
        self.direction.map(|v| v / l)
    }
}

impl Capture for Scribe {
    fn observe(&self, sd: f64) -> Result<Seen, Problem> {
        drawn(&self.trace, sd, "/trace")?;
        within(self.distance, "/distance", 0.0, FURTHEST)?;
        for (k, v) in self.direction.iter().enumerate() {
            within(*v, &format!("/direction/{k}"), -1e6, 1e6)?;
        }
        if self.direction[0].hypot(self.direction[1]) < 1e-9 {
            let words = "A direction needs a length.";
            return Err(Problem::impossible("/direction", words));
        }
        Ok(Seen {
            marks: self.trace.iter().map(|p| Mark::round(*p, sd)).collect(),
            along: None,
            order: vec![],
            warnings: vec![],
        })
    }

    fn edge(&self, curve: &Curve, _: Corners) -> Result<Edge, Problem> {
        let by = self.unit().map(|v| v * self.distance);
        Ok(Edge {
            points: flat(curve)
                .into_iter()
                .map(|p| [p[0] + by[0], p[1] + by[1]])
                .collect(),
            warnings: self.under(curve).into_iter().map(String::from).collect(),
        })
    }
}

impl Scribe {
    /// Where the wall runs under itself as seen in the direction, or nearly along it.
    fn under(&self, curve: &Curve) -> Option<&'static str> {
        let u = self.unit();
        // On which side the surface lies of each piece: where that changes the wall runs under itself.
        let runs = along(curve);
        let sides = runs.iter().flatten().map(|a| {
            let [x, y] = a.d;
            (x * u[1] - y * u[0]) / x.hypot(y).max(1e-12)
        });
        let (least, most, steep) = sides
            .fold((f64::INFINITY, f64::NEG_INFINITY, false), |(l, m, s), v| {
                (l.min(v), m.max(v), s || v.abs() < STEEP)
            });
        if least < -STEEP && most > STEEP {
            Some(
                "The wall runs under itself as seen in this direction: scribe that stretch once more in a second direction.",
            )
        } else if steep {
            Some(
                "In places the wall runs nearly along the direction: there a pencil slips. Scribe that stretch in a second direction.",
            )
        } else {
            None
        }
    }
}
