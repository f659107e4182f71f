//! Depths read with a probe from a straight edge.

use serde::{Deserialize, Serialize};

use super::{Capture, Corners, Edge, Seen, Side, along, flat, join};
use crate::curves::fair::{Curve, Mark};
use crate::geometry::parallel::parallel;
use crate::geometry::{Point, distance};
use crate::input::{MAX_LENGTH, count, within};
use crate::problem::Problem;

/// Largest tip, mm.
const LARGEST: f64 = 200.0;
/// A base shorter than this has no direction, mm.
const SHORTEST: f64 = 1.0;

/// One depth.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Ordinate {
    /// Along the base from its first point, mm.
    pub at: f64,
    /// Square to it, to the end of the tip, mm.
    pub depth: f64,
}

/// Depths from a straight edge.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Ordinates {
    /// The straight edge.
    pub base: [Point; 2],
    /// The depths.
    pub readings: Vec<Ordinate>,
    /// On which side of the base the surface lies.
    pub surface: Side,
    /// Radius of the probe's round tip, mm.
    #[serde(default)]
    pub tip_radius: f64,
}

impl Ordinates {
    fn axes(&self) -> (Point, Point) {
        let [a, b] = self.base;
        let l = distance(a, b).max(1e-12);
        let u = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
        let s = self.surface.sign();
        (u, [-s * u[1], s * u[0]])
    }
}

impl Capture for Ordinates {
    fn observe(&self, sd: f64) -> Result<Seen, Problem> {
        for (i, p) in self.base.iter().enumerate() {
            for (k, v) in p.iter().enumerate() {
                within(*v, &format!("/base/{i}/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
        if distance(self.base[0], self.base[1]) < SHORTEST {
            let words = "The two points of the base are one: it has no direction.";
            return Err(Problem::impossible("/base", words));
        }
        within(self.tip_radius, "/tip_radius", 0.0, LARGEST)?;
        count(self.readings.len(), "/readings", 2, 20_000)?;
        for (i, r) in self.readings.iter().enumerate() {
            within(r.at, &format!("/readings/{i}/at"), -MAX_LENGTH, MAX_LENGTH)?;
            within(
                r.depth,
                &format!("/readings/{i}/depth"),
                -MAX_LENGTH,
                MAX_LENGTH,
            )?;
        }
        let mut order: Vec<usize> = (0..self.readings.len()).collect();
        order.sort_by(|a, b| self.readings[*a].at.total_cmp(&self.readings[*b].at));
        let mut warnings = Vec::new();
        if order.windows(2).any(|w| w[0] > w[1]) {
            warnings.push("The readings were put in order along the base.".into());
        }
        let (u, n) = self.axes();
        let [o, _] = self.base;
        // Readings at one place are one, and surer.
        let mut marks: Vec<Mark> = Vec::new();
        let mut firsts: Vec<usize> = Vec::new();
        let mut i = 0;
        while i < order.len() {
            let at = self.readings[order[i]].at;
            let end = (i..order.len())
                .find(|j| self.readings[order[*j]].at - at > 1e-6)
                .unwrap_or(order.len());
            let here = &order[i..end];
            let k = here.len() as f64;
            let depths = || here.iter().map(|j| self.readings[*j].depth);
            let depth = depths().sum::<f64>() / k;
            let spread = depths().fold(0.0_f64, |m, d| m.max((d - depth).abs()));
            if spread > (4.0 * sd).max(1e-6) {
                let second = here[1.min(here.len() - 1)];
                let words = format!("{at} mm along was read twice, with depths that do not agree.");
                return Err(Problem::impossible(format!("/readings/{second}/at"), words));
            }
            // The middle of the tip stays its radius short of what it touches.
            let off = depth - self.tip_radius;
            let var = sd * sd / k;
            firsts.push(order[i]);
            marks.push(Mark {
                p: [o[0] + at * u[0] + off * n[0], o[1] + at * u[1] + off * n[1]],
                cov: [n[0] * n[0] * var, n[0] * n[1] * var, n[1] * n[1] * var],
            });
            i = end;
        }
        if marks.len() < 2 {
            let words = "All readings are at one place: there is no curve.";
            return Err(Problem::impossible("/readings", words));
        }
        Ok(Seen {
            marks,
            along: Some(u),
            order: firsts,
            warnings,
        })
    }

    fn edge(&self, curve: &Curve, corners: Corners) -> Result<Edge, Problem> {
        let points = if self.tip_radius > 0.0 {
            let off = self.surface.sign() * self.tip_radius;
            parallel(&along(curve), off, join(corners))
        } else {
            flat(curve)
        };
        if points.len() < 2 {
            let words = "The tip is larger than the radius of what was read: nothing is left.";
            return Err(Problem::impossible("/tip_radius", words));
        }
        Ok(Edge {
            points,
            warnings: vec![],
        })
    }
}
