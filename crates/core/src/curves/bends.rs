//! How a captured surface bends along its way: where it is hollow, where it is round, where the bend is tightest, and
//! where there is a corner. A bend is the turn of the line over a short way (curvature, 1/mm); its inverse is the radius.

use serde::Serialize;
use utoipa::ToSchema;

use super::view::MarkView;
use crate::geometry::{Point, distance};
use crate::units::figure::{Figure, Writer};

/// A larger turn at one place is a corner, radians (12 degrees, as where corners are found). An arc in chords that leave
/// it by 0.02 mm turns by less at each of them down to a radius of 4 mm.
const CORNER: f64 = 0.21;
/// The turn is taken over so long a way, mm: a saw follows nothing smaller.
const WINDOW: f64 = 10.0;
/// Gentler than this is called straight, mm of radius: over 600 mm it leaves a straight line by 4.5 mm (a choice).
const STRAIGHT: f64 = 10_000.0;
/// The bend is looked at every so many mm, at no more places than that.
const STEP: f64 = 2.0;
const PLACES: f64 = 4000.0;
/// A hair is drawn every so many mm, and there are no more than that.
const HAIR: f64 = 12.0;
const HAIRS: f64 = 120.0;
/// More readings have no number in the drawing.
const NUMBERED: usize = 80;

/// How a curve bends.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Bends {
    /// Hairs over the surface, as long as the bend is tight there: they stand on the outside of the bend.
    pub hairs: Vec<Hair>,
    /// Where it is hollow and where it is round, the tightest place of each; none where it is straight.
    pub tightest: Vec<Bend>,
    /// Corners: places where it turns at once.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub corners: Vec<Point>,
    /// In sentences.
    pub words: String,
}

/// A hair.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Hair {
    /// Where it stands, mm in the frame of the capture.
    #[schema(value_type = Vec<f64>)]
    pub p: Point,
    /// Where it points; its length is 1 at the tightest place of the curve.
    #[schema(value_type = Vec<f64>)]
    pub to: Point,
}

/// A place where the surface bends.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Bend {
    /// Where, mm in the frame of the capture.
    #[schema(value_type = Vec<f64>)]
    pub p: Point,
    /// Seen from the board it is hollow there; else it is round.
    pub hollow: bool,
    /// Radius of the bend.
    pub radius: Figure,
}

/// A stretch between two corners.
struct Stretch<'a> {
    points: &'a [Point],
    /// How far along each lies.
    way: Vec<f64>,
    /// The direction over the way, radians: it turns about each point, no further to either side than half a chord.
    turned: Vec<(f64, f64)>,
}

impl Stretch<'_> {
    fn new(points: &[Point]) -> Stretch<'_> {
        let mut way = vec![0.0];
        let mut along = 0.0;
        for w in points.windows(2) {
            along += distance(w[0], w[1]);
            way.push(along);
        }
        let mut turned = vec![];
        let mut heading = 0.0;
        for (i, w) in points.windows(3).enumerate() {
            let turn = turn(w);
            let spread = |long: f64| {
                /// Chords leave the curve by no more than this, mm: one that turns much is short.
                const NEAR: f64 = 0.02;
                (long / 2.0).min(4.0 * NEAR / turn.abs().max(1e-9))
            };
            let (before, at, after) = (way[i], way[i + 1], way[i + 2]);
            turned.push((at - spread(at - before), heading));
            heading += turn;
            turned.push((at + spread(after - at), heading));
        }
        Stretch {
            points,
            way,
            turned,
        }
    }

    fn long(&self) -> f64 {
        self.way.last().copied().unwrap_or(0.0)
    }

    /// Curvature at `s` along, 1/mm, positive where it turns to the left.
    fn curvature(&self, s: f64) -> f64 {
        let n = self.way.len();
        let (Some(first), Some(last)) = (self.turned.first(), self.turned.last()) else {
            return 0.0;
        };
        // Nothing is seen to turn within the outer halves of the outer chords: the bend there is that beside them, unless
        // the chord is a straight piece of its own.
        let outer = |chord: f64, still: f64| if still > 0.51 * chord { 0.0 } else { still };
        let long = self.long();
        let a = outer(self.way[1], first.0);
        let b = long - outer(long - self.way[n - 2], long - last.0);
        let half = (WINDOW / 2.0).min((b - a) / 2.0);
        let s = s.clamp(a + half, b - half);
        (self.heading(s + half) - self.heading(s - half)) / (2.0 * half).max(1e-9)
    }

    /// The direction `s` along, radians from that at the beginning.
    fn heading(&self, s: f64) -> f64 {
        let k = self.turned.partition_point(|t| t.0 <= s);
        match (k.checked_sub(1).map(|i| self.turned[i]), self.turned.get(k)) {
            (Some(a), Some(b)) => a.1 + (b.1 - a.1) * (s - a.0) / (b.0 - a.0).max(1e-12),
            (Some(a), None) => a.1,
            (None, Some(b)) => b.1,
            (None, None) => 0.0,
        }
    }

    /// The place `s` along, and the direction there, of length one.
    fn at(&self, s: f64) -> (Point, Point) {
        let n = self.points.len();
        let i = self.way.partition_point(|v| *v <= s).clamp(1, n - 1) - 1;
        let (p, q) = (self.points[i], self.points[i + 1]);
        let long = distance(p, q).max(1e-12);
        let d = [(q[0] - p[0]) / long, (q[1] - p[1]) / long];
        let t = s - self.way[i];
        ([p[0] + t * d[0], p[1] + t * d[1]], d)
    }
}

/// How far three points turn at the second, radians, left positive.
fn turn(w: &[Point]) -> f64 {
    let a = [w[1][0] - w[0][0], w[1][1] - w[0][1]];
    let b = [w[2][0] - w[1][0], w[2][1] - w[1][1]];
    (a[0] * b[1] - a[1] * b[0]).atan2(a[0] * b[0] + a[1] * b[1])
}

/// How the surface bends. `surface` is 1 where it lies to the left of the edge as its points run, else -1: the board
/// lies on the other side. Nothing of fewer than two points.
pub fn bends(edge: &[Point], surface: f64, marks: &[MarkView], w: &Writer) -> Option<Bends> {
    if edge.len() < 2 {
        return None;
    }
    let corner: Vec<usize> = (1..edge.len() - 1)
        .filter(|i| turn(&edge[i - 1..=i + 1]).abs() > CORNER)
        .collect();
    let mut ends = vec![0];
    ends.extend(&corner);
    ends.push(edge.len() - 1);
    let stretches: Vec<Stretch> = ends
        .windows(2)
        .map(|e| Stretch::new(&edge[e[0]..=e[1]]))
        .collect();
    let long: f64 = stretches.iter().map(Stretch::long).sum();
    // The tightest places, hollow and round, and how often one becomes the other.
    let mut tightest: [Option<(f64, Point)>; 2] = [None, None];
    let mut changes = 0;
    let mut before: Option<usize> = None;
    let every = STEP.max(long / PLACES);
    for part in &stretches {
        let n = (part.long() / every).ceil().max(1.0);
        for i in 0..=n as usize {
            let s = part.long() * i as f64 / n;
            let k = part.curvature(s);
            if k.abs() < 1.0 / STRAIGHT {
                continue;
            }
            // With the surface at the left a turn to the left is about a middle in the wall: it bulges to the board.
            let kind = usize::from(surface * k > 0.0);
            if before.is_some_and(|b| b != kind) {
                changes += 1;
            }
            before = Some(kind);
            if tightest[kind].is_none_or(|(most, _)| k.abs() > most) {
                tightest[kind] = Some((k.abs(), part.at(s).0));
            }
        }
    }
    let most = tightest.iter().flatten().map(|t| t.0).fold(0.0, f64::max);
    let mut hairs = vec![];
    if most > 0.0 {
        let every = HAIR.max(long / HAIRS);
        for part in &stretches {
            let n = (part.long() / every).ceil().max(1.0);
            hairs.extend((0..=n as usize).map(|i| {
                let s = part.long() * i as f64 / n;
                let (p, d) = part.at(s);
                let k = part.curvature(s) / most;
                let to = [k * d[1], -k * d[0]];
                Hair { p, to }
            }));
        }
    }
    let corners: Vec<Point> = corner.into_iter().map(|i| edge[i]).collect();
    let words = words(tightest, changes, corners.len(), marks, w);
    let bend = |(kind, t): (usize, Option<(f64, Point)>)| {
        t.map(|(k, p)| Bend {
            p,
            hollow: kind == 0,
            radius: w.figure(rounded(1.0 / k)),
        })
    };
    Some(Bends {
        hairs,
        tightest: tightest.into_iter().enumerate().filter_map(bend).collect(),
        corners,
        words,
    })
}

/// A radius to two figures: it is not known better.
fn rounded(radius: f64) -> f64 {
    let unit = 10_f64.powf(radius.max(1.0).log10().floor() - 1.0);
    (radius / unit).round() * unit
}

fn words(
    [hollow, round]: [Option<(f64, Point)>; 2],
    changes: usize,
    corners: usize,
    marks: &[MarkView],
    w: &Writer,
) -> String {
    let place = |p: Point| {
        let off = |m: &MarkView| distance(m.p, p);
        let near = (0..marks.len()).min_by(|a, b| off(&marks[*a]).total_cmp(&off(&marks[*b])));
        match near.filter(|_| marks.len() <= NUMBERED) {
            Some(i) => format!("by reading {}", i + 1),
            None => "where it is marked".into(),
        }
    };
    let one = |name: &str, (k, p): (f64, Point)| {
        format!(
            "{name}, to a radius of {} at the tightest, {}",
            w.say(rounded(1.0 / k)),
            place(p)
        )
    };
    let mut out = match (hollow, round) {
        (None, None) if corners > 0 => "Straight between its corners".into(),
        (None, None) => format!(
            "Straight, or nearly: nowhere tighter than a radius of {}",
            w.say(STRAIGHT)
        ),
        (Some(t), None) => one("Hollow", t),
        (None, Some(t)) => one("Round", t),
        (Some(h), Some(r)) => {
            let times = match changes {
                1 => "once".into(),
                2 => "twice".into(),
                n => format!("{n} times"),
            };
            format!(
                "{}; {}. It changes from one to the other {times}",
                one("Hollow", h),
                one("round", r)
            )
        }
    };
    match corners {
        0 => {}
        1 => out += ". One corner",
        n => out += &format!(". {n} corners"),
    }
    out + "."
}
