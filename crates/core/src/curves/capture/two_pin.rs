//! Distances from two pins: each reading is where two arcs cross (trilateration).

use serde::{Deserialize, Serialize};

use super::{Capture, Corners, Edge, Seen, Side, flat};
use crate::curves::fair::{Curve, Mark};
use crate::geometry::{Point, distance};
use crate::input::{MAX_LENGTH, count, within};
use crate::problem::Problem;

/// Pins nearer to each other than this tell nothing, mm.
const APART: f64 = 10.0;
/// Arcs that cross under less than this angle place a point badly, as its sine (15 degrees; a choice).
const FLAT: f64 = 0.26;
/// Arcs that miss each other by no more than this many standard deviations touch.
const MISS: f64 = 4.0;

/// Three arcs that miss each other by more than this many standard deviations do not go together (alpha 0.001).
const SLIP: f64 = 3.29;

/// The point whose distances to three pins fit best, with its doubt, and by how much the arcs miss each other there: least
/// squares, from `at`.
fn nearest(pins: [Point; 3], read: [f64; 3], at: Point, sd: f64) -> (Mark, f64) {
    /// Steps of the solution, and where it stops, mm.
    const STEPS: usize = 20;
    const STILL: f64 = 1e-9;
    let mut p = at;
    let mut normal = [0.0; 3];
    for _ in 0..STEPS {
        let (mut n, mut right) = ([0.0; 3], [0.0; 2]);
        for (pin, d) in pins.iter().zip(read) {
            let long = distance(p, *pin).max(1e-9);
            let u = [(p[0] - pin[0]) / long, (p[1] - pin[1]) / long];
            n[0] += u[0] * u[0];
            n[1] += u[0] * u[1];
            n[2] += u[1] * u[1];
            right[0] += u[0] * (d - long);
            right[1] += u[1] * (d - long);
        }
        normal = n;
        let det = n[0] * n[2] - n[1] * n[1];
        if det < 1e-6 {
            break;
        }
        let step = [
            (n[2] * right[0] - n[1] * right[1]) / det,
            (n[0] * right[1] - n[1] * right[0]) / det,
        ];
        p = [p[0] + step[0], p[1] + step[1]];
        if step[0].hypot(step[1]) < STILL {
            break;
        }
    }
    let det = (normal[0] * normal[2] - normal[1] * normal[1]).max(1e-6);
    let var = sd * sd / det;
    let left = pins.iter().zip(read);
    let left: f64 = left.map(|(pin, d)| (d - distance(p, *pin)).powi(2)).sum();
    let cov = [var * normal[2], -var * normal[1], var * normal[0]];
    (Mark { p, cov }, left.sqrt())
}

/// Two distances to one point.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct TwoReadings {
    /// From the first pin, mm.
    pub a: f64,
    /// From the second, mm.
    pub b: f64,
    /// From a third, mm.
    #[serde(default)]
    pub c: Option<f64>,
}

/// Distances from two pins.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct TwoPin {
    /// Where they are.
    pub pins: [Point; 2],
    /// A third one: then each point is where three arcs come nearest to each other.
    #[serde(default)]
    pub third: Option<Point>,
    /// The distances.
    pub readings: Vec<TwoReadings>,
    /// On which side of the line from the first to the second pin the surface lies.
    pub surface: Side,
}

impl Capture for TwoPin {
    fn observe(&self, sd: f64) -> Result<Seen, Problem> {
        for (i, p) in self.pins.iter().enumerate() {
            for (k, v) in p.iter().enumerate() {
                within(*v, &format!("/pins/{i}/{k}"), -MAX_LENGTH, MAX_LENGTH)?;
            }
        }
        let [p, q] = self.pins;
        let apart = distance(p, q);
        if apart < APART {
            let words =
                format!("The pins are {apart:.1} mm apart: put them further from each other.");
            return Err(Problem::impossible("/pins", words));
        }
        count(self.readings.len(), "/readings", 2, 20_000)?;
        let u = [(q[0] - p[0]) / apart, (q[1] - p[1]) / apart];
        let s = self.surface.sign();
        let mut marks = Vec::with_capacity(self.readings.len());
        let mut flat = 0;
        let mut missed = Vec::new();
        for (i, r) in self.readings.iter().enumerate() {
            let a = within(r.a, &format!("/readings/{i}/a"), 0.01, MAX_LENGTH)?;
            let b = within(r.b, &format!("/readings/{i}/b"), 0.01, MAX_LENGTH)?;
            let x = (a * a - b * b + apart * apart) / (2.0 * apart);
            let square = a * a - x * x;
            let slack = MISS * sd * 2.0 + 1e-6;
            let miss = (apart - a - b).max((a - b).abs() - apart);
            if square < 0.0 && miss > slack {
                let words = format!(
                    "The arcs of {a} mm and {b} mm do not meet: the pins are {apart:.1} mm apart."
                );
                return Err(Problem::impossible(format!("/readings/{i}"), words));
            }
            let y = s * square.max(0.0).sqrt();
            let at = [p[0] + x * u[0] - y * u[1], p[1] + x * u[1] + y * u[0]];
            // The point moves along the inverse of the two directions to it.
            let to = |pin: Point, d: f64| [(at[0] - pin[0]) / d, (at[1] - pin[1]) / d];
            let (e, f) = (to(p, a), to(q, b));
            let sine = e[0] * f[1] - e[1] * f[0];
            if sine.abs() < FLAT {
                flat += 1;
            }
            let det = sine
                .abs()
                .max(0.02)
                .copysign(if sine == 0.0 { 1.0 } else { sine });
            let cols = [[f[1] / det, -f[0] / det], [-e[1] / det, e[0] / det]];
            let var = |i: usize, j: usize| sd * sd * cols.iter().map(|c| c[i] * c[j]).sum::<f64>();
            let two = Mark {
                p: at,
                cov: [var(0, 0), var(0, 1), var(1, 1)],
            };
            let Some((third, c)) = self.third.zip(r.c) else {
                marks.push(two);
                continue;
            };
            let c = within(c, &format!("/readings/{i}/c"), 0.01, MAX_LENGTH)?;
            let (mark, off) = nearest([p, q, third], [a, b, c], at, sd);
            if off > SLIP * sd.max(0.3) {
                missed.push((i + 1, off));
            }
            marks.push(mark);
        }
        if let Some(i) = (1..marks.len()).find(|i| distance(marks[*i].p, marks[*i - 1].p) < 1e-6) {
            let words = "This reading is the same as the one before it.";
            return Err(Problem::impossible(format!("/readings/{i}"), words));
        }
        let mut warnings: Vec<String> = missed
            .into_iter()
            .map(|(n, off)| {
                format!("At reading {n} the three arcs miss each other by {off:.1} mm: one of its distances is wrong.")
            })
            .collect();
        if flat > 0 && self.third.is_none() {
            warnings.push(format!(
                "At {flat} of {} points the arcs cross flat: the doubt along them is large. Put the pins further apart, or further from the curve.",
                marks.len()
            ));
        }
        Ok(Seen {
            marks,
            along: None,
            order: vec![],
            warnings,
        })
    }

    fn edge(&self, curve: &Curve, _: Corners) -> Result<Edge, Problem> {
        Ok(Edge {
            points: flat(curve),
            warnings: vec![],
        })
    }
}
