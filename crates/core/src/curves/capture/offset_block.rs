//! A marker taped to a block, or a finger: slid along the surface it draws at a constant distance from it.

use serde::{Deserialize, Serialize};

use super::{Capture, Corners, Edge, Seen, Side, along, drawn, join};
use crate::curves::fair::{Curve, Mark};
use crate::geometry::parallel::{Along, parallel};
use crate::geometry::{Point, distance};
use crate::input::within;
use crate::problem::Problem;

/// Largest block, mm.
const LARGEST: f64 = 1000.0;
/// Less that a block cannot see is not worth a word, mm.
const UNSEEN: f64 = 0.3;

/// A line drawn at a constant distance.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct OffsetBlock {
    /// What was drawn.
    pub trace: Vec<Point>,
    /// The distance, mm.
    pub offset: f64,
    /// On which side of the line the surface lies.
    pub surface: Side,
    /// Width of the block's flat face, mm: it bridges hollows.
    #[serde(default)]
    pub contact_width: f64,
}

impl Capture for OffsetBlock {
    fn observe(&self, sd: f64) -> Result<Seen, Problem> {
        drawn(&self.trace, sd, "/trace")?;
        within(self.offset, "/offset", 0.0, LARGEST)?;
        within(self.contact_width, "/contact_width", 0.0, LARGEST)?;
        Ok(Seen {
            marks: self.trace.iter().map(|p| Mark::round(*p, sd)).collect(),
            along: None,
            order: vec![],
            warnings: vec![],
        })
    }

    fn edge(&self, curve: &Curve, corners: Corners) -> Result<Edge, Problem> {
        let runs = along(curve);
        let off = self.surface.sign() * self.offset;
        let mut warnings = Vec::new();
        let points = if self.offset < 1e-9 {
            runs.iter().flatten().map(|a| a.p).collect()
        } else {
            parallel(&runs, off, join(corners))
        };
        let long = |p: &[Point]| p.windows(2).map(|w| distance(w[0], w[1])).sum::<f64>();
        if points.len() < 2 || long(&points) < 1e-6 {
            let words = "The distance is larger than the radius of what was drawn: nothing is left. Is the surface on the other side?";
            return Err(Problem::impossible("/offset", words));
        }
        let tight = curve.runs.iter().any(|r| {
            let inner = r
                .places(0.05)
                .into_iter()
                .filter(|t| *t > 0.0 && *t < r.end());
            let mut bends = inner.map(|t| self.surface.sign() * r.curvature(t));
            bends.any(|k| k * self.offset > 1.0 + 1e-3)
        });
        if tight {
            warnings.push(
                "In places the distance is larger than the radius of what was drawn: there the edge has a corner, or the surface lies on the other side.".into(),
            );
        }
        let points = if self.contact_width > 0.0 {
            let (points, unseen) = self.hollows(curve, points);
            if unseen > UNSEEN {
                warnings.push(format!(
                    "A flat face {} mm wide bridges hollows: up to {unseen:.1} mm were added for that where the surface is hollow (w2/8R). Narrower hollows it cannot see.",
                    self.contact_width
                ));
            }
            points
        } else {
            points
        };
        Ok(Edge { points, warnings })
    }
}

impl OffsetBlock {
    /// In a hollow of radius R the face of the block rests on its two ends: its middle stays off the surface by
    /// R - sqrt(R2 - w2/4), about w2/8R. What was drawn is an arc of radius r = sqrt(R2 - w2/4) - offset about the same
    /// middle, so that R = sqrt((r + offset)2 + w2/4).
    fn hollows(&self, curve: &Curve, plain: Vec<Point>) -> (Vec<Point>, f64) {
        let side = self.surface.sign();
        let half = self.contact_width / 2.0;
        let mut most: f64 = 0.0;
        let mut moved: Vec<Vec<Along>> = Vec::new();
        for r in &curve.runs {
            let run = r.places(0.005).into_iter().map(|t| {
                let (p, d, _) = r.at(t);
                // Hollow, seen from the block: what was drawn turns away from the surface.
                let k = -side * r.curvature(t);
                let deeper = if k > 1e-7 {
                    let middle = 1.0 / k + self.offset;
                    middle.hypot(half) - middle
                } else {
                    0.0
                };
                most = most.max(deeper);
                let l = d[0].hypot(d[1]).max(1e-12);
                let off = side * (self.offset + deeper) / l;
                Along {
                    p: [p[0] - off * d[1], p[1] + off * d[0]],
                    d,
                }
            });
            moved.push(run.collect());
        }
        if most < 1e-6 {
            return (plain, 0.0);
        }
        let points = moved.into_iter().flatten().map(|a| a.p).collect();
        (points, most)
    }
}
