//! Where a captured curve lies in the vehicle: the frame of the capture laid over the vehicle's by points that were
//! found in both, rigidly, with least squares.

use serde::Serialize;
use utoipa::ToSchema;

use crate::geometry::{Point, distance};
use crate::project::templates::{Face, Placing, Plane, Template, Tie};
use crate::units::figure::Writer;

/// A captured curve in the vehicle. Points are of its plane: level, forward of the threshold and left of the centre
/// line; across, left of the centre line and up.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = PlacedCurve)]
pub struct Placed {
    /// What it is the curve of.
    pub of: Face,
    /// In which plane.
    pub plane: Plane,
    /// Where that plane lies, mm.
    pub at: f64,
    /// The surface, from the first reading to the last, mm.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub line: Vec<Point>,
    /// Where it has corners, mm.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub corners: Vec<Point>,
    /// Middle of the landmarks: about it the curve may be turned, mm.
    #[schema(value_type = Vec<f64>)]
    pub middle: Point,
    /// How sure its place is, one standard deviation, mm.
    pub sd: f64,
    /// How sure its direction is, one standard deviation, mm for each m.
    pub turn: f64,
    /// Noise of one reading of it, one standard deviation, mm.
    pub noise: f64,
    /// How many readings it goes by.
    pub readings: usize,
    /// Readings, landmarks or the user ask for it not to be counted.
    pub counts: bool,
}

/// Landmarks nearer to each other than this give no direction, mm (a choice).
const NEAR: f64 = 100.0;
/// A landmark further off than this many of its standard deviations is told (two-sided 0.001).
const TELLS: f64 = 3.29;

/// A landmark with all its numbers: in the capture, in the vehicle.
type Pair<'a> = (&'a str, Point, Point);

/// A landmark in the plane's own two directions.
fn pair<'a>(id: &'a str, tie: &Tie, p: &Placing) -> Option<Pair<'a>> {
    let (u, off) = (tie.u?, tie.v?);
    let left = if p.of == Face::Right { -off } else { off };
    let there = match p.plane {
        Plane::Level => [u, left],
        Plane::Across => [left, u],
    };
    Some((id, [tie.a?, tie.b?], there))
}

/// The capture laid into the vehicle, and what is to be said of it. `sd` is the noise of a landmark's number.
///
/// # Errors
/// What is missing, in a sentence.
pub fn place(
    (t, p): (&Template, &Placing),
    edge: &[Point],
    sd: f64,
    w: &Writer,
) -> Result<(Placed, Vec<String>), String> {
    let Some(at) = p.at else {
        let what = match p.plane {
            Plane::Level => "at which height it was captured",
            Plane::Across => "how far forward of the threshold it was captured",
        };
        return Err(format!(
            "To lie in the vehicle it needs one more number: {what}."
        ));
    };
    let all = p.landmarks.iter();
    let pairs: Vec<Pair> = all.filter_map(|(id, tie)| pair(id, tie, p)).collect();
    let n = pairs.len() as f64;
    if pairs.len() < 2 {
        let words = match pairs.len() {
            0 => "no point of it was found in the vehicle yet: two are needed",
            _ => {
                "one point was found in the vehicle: the second, far from the first, gives the direction"
            }
        };
        return Err(format!("Where it lies is not known: {words}."));
    }
    let mean = |pick: fn(&Pair) -> Point| {
        let sum = pairs.iter().map(pick);
        let sum = sum.fold([0.0, 0.0], |s, q| [s[0] + q[0], s[1] + q[1]]);
        [sum[0] / n, sum[1] / n]
    };
    let (here, there) = (mean(|q| q.1), mean(|q| q.2));
    // The rotation that brings one set of points nearest to the other (least squares, in closed form).
    let (mut cos, mut sin, mut reach, mut far) = (0.0, 0.0, 0.0, 0.0_f64);
    for (_, a, b) in &pairs {
        let (a, b) = (
            [a[0] - here[0], a[1] - here[1]],
            [b[0] - there[0], b[1] - there[1]],
        );
        cos += a[0] * b[0] + a[1] * b[1];
        sin += a[0] * b[1] - a[1] * b[0];
        reach += b[0] * b[0] + b[1] * b[1];
        far = far.max(2.0 * b[0].hypot(b[1])).max(2.0 * a[0].hypot(a[1]));
    }
    let long = cos.hypot(sin);
    if far < NEAR || long < 1e-6 {
        return Err(format!(
            "Its landmarks lie at one place: two that are at least {} apart give the direction.",
            w.say(NEAR)
        ));
    }
    let (cos, sin) = (cos / long, sin / long);
    let moved = |q: &Point| {
        let d = [q[0] - here[0], q[1] - here[1]];
        [
            there[0] + cos * d[0] - sin * d[1],
            there[1] + sin * d[0] + cos * d[1],
        ]
    };
    // A landmark has two numbers in the capture and two in the vehicle, each with the noise of a tape.
    let own = sd.hypot(t.sd);
    let mut said = Vec::new();
    let mut counts = !p.aside;
    let off = |q: &Pair| distance(moved(&q.1), q.2);
    let worst = pairs.iter().max_by(|a, b| off(a).total_cmp(&off(b)));
    if let Some(q) = worst
        && off(q) > TELLS * own
    {
        counts = false;
        said.push(match pairs.len() {
            2 => {
                let (a, b) = (&pairs[0], &pairs[1]);
                format!(
                    "Its two landmarks lie {} apart on the capture and {} apart in the vehicle: one of the numbers is wrong. Until then no board goes by it.",
                    w.say(distance(a.1, b.1)),
                    w.say(distance(a.2, b.2))
                )
            }
            _ => format!(
                "Landmark {} lies {} off where the others put it: measure it once more. Until then no board goes by it.",
                order(p, q.0),
                w.say(off(q))
            ),
        });
    }
    let placed = Placed {
        of: p.of,
        plane: p.plane,
        at,
        line: edge.iter().map(moved).collect(),
        corners: sharp(edge).iter().map(moved).collect(),
        middle: there,
        sd: own / n.sqrt(),
        turn: 1000.0 * own / reach.sqrt().max(1.0),
        noise: t.sd,
        readings: super::ways::whole(t).len(),
        counts,
    };
    Ok((placed, said))
}

/// The number by which a person knows a landmark: its place in the list.
fn order(p: &Placing, id: &str) -> usize {
    p.landmarks
        .keys()
        .position(|k| k == id)
        .map_or(0, |i| i + 1)
}

/// Vertices at which a line turns sharply: chords of a smooth curve turn by a degree or two.
fn sharp(line: &[Point]) -> Vec<Point> {
    /// From this many degrees on it is a corner (a choice).
    const TURNS: f64 = 12.0;
    /// Turns nearer to each other than this are one corner, mm.
    const TOGETHER: f64 = 15.0;
    let course = |a: Point, b: Point| (b[1] - a[1]).atan2(b[0] - a[0]);
    let turns = |w: &&[Point]| {
        let by = course(w[1], w[2]) - course(w[0], w[1]);
        by.sin().atan2(by.cos()).abs() > TURNS.to_radians()
    };
    let mut corners: Vec<Point> = line.windows(3).filter(turns).map(|w| w[1]).collect();
    // Two runs meet within a few chords.
    corners.dedup_by(|a, b| distance(*a, *b) < TOGETHER);
    corners
}
