//! Straight runs and the corners between them: lengths of walls, and at each corner the angle or the third side of the
//! triangle.

use super::{Capture, Corners, Edge, Seen, Side};
use crate::curves::fair::{Curve, Mark};
use crate::geometry::Point;
use crate::geometry::parallel::{Along, parallel};
use crate::input::{MAX_LENGTH, count, within};
use crate::problem::Problem;

/// Marks are put along a run no further apart than this, mm.
const EVERY: f64 = 50.0;
/// Chords of a rounded corner leave its arc by no more than this, mm.
const NEAR: f64 = 0.02;
/// A corner turns by no more than this, degrees.
const TURN: f64 = 170.0;

/// One run, and the corner at its end.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Run {
    /// Its length, mm.
    pub long: f64,
    /// From its beginning straight to the end of the next run, mm; negative where the corner stands out into the room.
    pub across: Option<f64>,
    /// How far the corner turns in, degrees; negative where it stands out. Goes before `across`.
    pub angle: Option<f64>,
    /// Radius of the corner, mm.
    pub radius: f64,
}

/// Runs, one after the other.
#[derive(Debug, Clone, PartialEq)]
pub struct Runs {
    /// In order; what is said of the corner after the last does not count.
    pub runs: Vec<Run>,
    /// On which side of them, as they are walked, the surface lies.
    pub surface: Side,
    /// The surface lies so far behind what was measured, mm: a shell behind its lining.
    pub behind: f64,
}

/// Corners of the runs, and how far each turns, radians to the left.
struct Walked {
    corners: Vec<Point>,
    turns: Vec<f64>,
}

impl Runs {
    fn walked(&self) -> Result<Walked, Problem> {
        count(self.runs.len(), "/readings", 1, 2000)?;
        // With the surface at the left a corner of the room turns to the right.
        let inwards = -self.surface.sign();
        let (mut at, mut heading): (Point, f64) = ([0.0, 0.0], 0.0);
        let mut corners = vec![at];
        let mut turns = Vec::new();
        for (i, run) in self.runs.iter().enumerate() {
            let long = within(run.long, &format!("/readings/{i}"), 1.0, MAX_LENGTH)?;
            at = [at[0] + long * heading.cos(), at[1] + long * heading.sin()];
            corners.push(at);
            if let Some(next) = self.runs.get(i + 1) {
                let turn = inwards * self.turn(i, run, next.long)?;
                turns.push(turn);
                heading += turn;
            }
        }
        Ok(Walked { corners, turns })
    }

    /// Where the runs end; nothing where they are wrong.
    pub fn ends(&self) -> Vec<Point> {
        let walked = self.walked();
        walked.map_or(vec![], |w| w.corners.into_iter().skip(1).collect())
    }

    /// How far the corner after a run turns inwards, radians.
    fn turn(&self, i: usize, run: &Run, next: f64) -> Result<f64, Problem> {
        let at = format!("/readings/{i}");
        if let Some(deg) = run.angle {
            return Ok(within(deg, &at, -TURN, TURN)?.to_radians());
        }
        let Some(across) = run.across else {
            let words = "Its corner is missing: the angle, or the distance from where it begins to where the next run ends.";
            return Err(Problem::impossible(at, words));
        };
        let (a, b, c) = (run.long, next, across.abs());
        if c > a + b || c < (a - b).abs() {
            let words = format!(
                "{a:.0} mm, {b:.0} mm and {c:.0} mm make no triangle: the third side lies between {:.0} mm and {:.0} mm.",
                (a - b).abs(),
                a + b
            );
            return Err(Problem::impossible(at, words));
        }
        // The law of cosines gives the angle between the runs; what it lacks to straight on is the turn.
        let between = ((a * a + b * b - c * c) / (2.0 * a * b)).clamp(-1.0, 1.0);
        Ok((std::f64::consts::PI - between.acos()) * across.signum())
    }

    /// The line in chords, corners rounded by their radii.
    fn line(&self) -> Result<Vec<Vec<Along>>, Problem> {
        let Walked { corners, turns } = self.walked()?;
        let mut out: Vec<Vec<Along>> = Vec::new();
        let mut heading: f64 = 0.0;
        // How much of a run its corners' arcs take.
        let takes = |k: usize| -> f64 {
            let turn = turns.get(k).copied().unwrap_or(0.0);
            self.runs[k].radius * (turn.abs() / 2.0).tan()
        };
        let mut arc: Vec<Along> = vec![];
        for (i, run) in self.runs.iter().enumerate() {
            let before = if i > 0 { takes(i - 1) } else { 0.0 };
            let after = if i < turns.len() { takes(i) } else { 0.0 };
            if before + after > run.long + 1e-9 {
                let words = format!(
                    "The corners at its ends take {:.0} mm of it, it is {:.0} mm long.",
                    before + after,
                    run.long
                );
                return Err(Problem::impossible(format!("/readings/{i}"), words));
            }
            let d = [heading.cos(), heading.sin()];
            let from = corners[i];
            let along = |t: f64| Along {
                p: [from[0] + t * d[0], from[1] + t * d[1]],
                d,
            };
            let mut own = std::mem::take(&mut arc);
            own.extend([along(before), along(run.long - after)]);
            let Some(turn) = turns.get(i).copied() else {
                out.push(own);
                break;
            };
            if after > 0.0 && turn.abs() > 1e-9 {
                let r = run.radius;
                let side = turn.signum();
                let begin = along(run.long - after).p;
                let middle = [begin[0] - side * r * d[1], begin[1] + side * r * d[0]];
                let step = 2.0 * (2.0 * NEAR / r).min(1.0).sqrt();
                let n = (turn.abs() / step).ceil().clamp(2.0, 400.0) as usize;
                own.extend((1..=n).map(|k| {
                    let h = heading + turn * k as f64 / n as f64;
                    Along {
                        p: [
                            middle[0] + side * r * h.sin(),
                            middle[1] - side * r * h.cos(),
                        ],
                        d: [h.cos(), h.sin()],
                    }
                }));
                arc = own;
            } else {
                out.push(own);
            }
            heading += turn;
        }
        Ok(out)
    }
}

impl Capture for Runs {
    fn observe(&self, sd: f64) -> Result<Seen, Problem> {
        for (i, r) in self.runs.iter().enumerate() {
            within(r.radius, &format!("/readings/{i}"), 0.0, MAX_LENGTH)?;
        }
        within(self.behind, "/behind", 0.0, 1000.0)?;
        let line = self.line()?;
        let mut marks: Vec<Mark> = Vec::new();
        let var = sd * sd;
        for pair in line.iter().flat_map(|run| run.windows(2)) {
            let [p, q] = [pair[0].p, pair[1].p];
            let n = (crate::geometry::distance(p, q) / EVERY)
                .ceil()
                .clamp(1.0, 1000.0) as usize;
            marks.extend((0..n).map(|k| {
                let t = k as f64 / n as f64;
                Mark {
                    p: [p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])],
                    cov: [var, 0.0, var],
                }
            }));
        }
        marks.extend(line.last().and_then(|r| r.last()).map(|a| Mark {
            p: a.p,
            cov: [var, 0.0, var],
        }));
        marks.dedup_by(|a, b| crate::geometry::distance(a.p, b.p) < 1e-6);
        let mut warnings = Vec::new();
        let walked = self.walked()?;
        // A slip in the third side turns everything behind the corner.
        for (i, turn) in walked.turns.iter().enumerate() {
            let run = &self.runs[i];
            let (Some(c), None) = (run.across, run.angle) else {
                continue;
            };
            let (a, b) = (run.long, self.runs[i + 1].long);
            let slope = c.abs() / (a * b * turn.sin().abs()).max(1e-9);
            /// A corner known worse than this, degrees, is worth another triangle (a choice).
            const POOR: f64 = 0.5;
            let doubt = (sd * slope).to_degrees();
            if doubt > POOR && sd > 0.0 {
                warnings.push(format!(
                    "Corner {} is known to {doubt:.1} degrees only: its runs are short, or nearly in line. Measure the angle with a template.",
                    i + 1
                ));
            }
        }
        Ok(Seen {
            marks,
            along: None,
            order: vec![],
            warnings,
        })
    }

    /// The runs themselves: they are straight, nothing is faired.
    fn edge(&self, _: &Curve, corners: Corners) -> Result<Edge, Problem> {
        let line = self.line()?;
        let points = if self.behind > 0.0 {
            parallel(
                &line,
                self.surface.sign() * self.behind,
                super::join(corners),
            )
        } else {
            let mut all: Vec<Point> = line.iter().flatten().map(|a| a.p).collect();
            all.dedup_by(|a, b| crate::geometry::distance(*a, *b) < 1e-9);
            all
        };
        Ok(Edge {
            points,
            warnings: vec![],
        })
    }
}
