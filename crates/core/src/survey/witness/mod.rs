//! What else says where a wall is: captured curves laid into the vehicle, boards held in place. Each is a rigid body
//! whose own place is known only so well, so its points are readings of the wall less three unknowns of the body: two
//! shifts and a turn. The survey's readings and these are then solved together, each with its doubt.

mod curves;
mod held;

pub use curves::{bends, curves};
pub use held::fits;

use super::blunder::CRITICAL;
use super::field::{Equation, Field};
use super::observe::Numbers;
use super::signal::{Ridges, Signal, Term};
use crate::geometry::Point;
use crate::geometry::pose::Pose;
use crate::project::survey::Side;
use crate::project::templates::{Face, Plane};

/// A wall that runs within this of the direction in which it is measured says nothing there.
const SLANT: f64 = 0.25;

/// A body with marks on it that lie on, or so far off, the vehicle's faces.
#[derive(Debug, Clone, PartialEq)]
pub struct Body {
    /// What it is.
    pub origin: Origin,
    /// Identifiers of the captured curve, or of the rounds whose boards lay pushed together.
    pub ids: Vec<String>,
    /// In which plane it lies.
    pub plane: Plane,
    /// About this point of the plane it may be turned.
    pub middle: Point,
    /// How sure its place is in the two directions of the plane, mm, and its direction, mm for each m.
    pub sd: [f64; 3],
    /// Its marks.
    pub sights: Vec<Sight>,
}

/// What a body is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Origin {
    /// A captured curve.
    Curve,
    /// A board held in place.
    Fit,
}

impl Body {
    /// Key of an equation: no reading's key begins so.
    fn key(&self, of: &str, what: &str) -> String {
        match self.origin {
            Origin::Curve => format!("curve.{of}.{what}"),
            Origin::Fit => format!("fit.{of}.{what}"),
        }
    }

    /// Key of an unknown of its place.
    fn place(&self, k: usize) -> String {
        self.key(self.ids.first().map_or("", |id| id), &format!("place.{k}"))
    }
}

/// What the survey contradicts: a body's place, or one of its marks.
#[derive(Debug, Clone, PartialEq)]
pub struct Fault {
    /// What the body is.
    pub origin: Origin,
    /// Identifier of the body.
    pub id: String,
    /// The mark; its place if none.
    pub mark: Option<String>,
    /// What it says, mm.
    pub says: f64,
    /// What the others say in its place, mm.
    pub others: f64,
    /// Standardised residual.
    pub w: f64,
}

/// Where a body lay, by all that is known: beside where it was said to.
#[derive(Debug, Clone, PartialEq)]
pub struct Lay {
    /// What the body is.
    pub origin: Origin,
    /// Identifier of the body.
    pub id: String,
    /// Shifted so far in the two directions of its plane, mm.
    pub shift: Point,
    /// Turned so far about its middle, mm for each m.
    pub turn: f64,
    /// That middle.
    pub middle: Point,
}

impl Lay {
    /// How far a point of the plane was from where it was said to be, mm.
    fn at(&self, p: Point) -> Point {
        let lever = [-(p[1] - self.middle[1]), p[0] - self.middle[0]];
        [0, 1].map(|k| self.shift[k] + lever[k] * self.turn / 1000.0)
    }

    /// How much of that is along a direction of the plane, mm.
    pub fn along(&self, p: Point, out: Point) -> f64 {
        let off = self.at(p);
        off[0] * out[0] + off[1] * out[1]
    }
}

/// Where bodies lay.
pub fn lays(bodies: &[Body], field: &Field, numbers: &Numbers) -> Vec<Lay> {
    let one = |b: &Body, id: &String| {
        let number = |k: usize| {
            let signal = numbers.signal(&b.place(k))?;
            Some(field.value(&[Term::new(1.0, signal, 0.0, 0.0)]))
        };
        Some(Lay {
            origin: b.origin,
            id: id.clone(),
            shift: [number(0)?, number(1)?],
            turn: number(2)?,
            middle: b.middle,
        })
    };
    let all = bodies
        .iter()
        .flat_map(|b| b.ids.iter().map(move |id| (b, id)));
    all.filter_map(|(b, id)| one(b, id)).collect()
}

/// A mark on a body.
#[derive(Debug, Clone, PartialEq)]
pub struct Sight {
    /// Which of the identifiers of its body it belongs to.
    pub of: String,
    /// Name among the marks of that.
    pub id: String,
    /// Of which face it tells.
    pub face: Face,
    /// Where it is, in the plane.
    pub at: Point,
    /// Where that plane is: a height, or forward of the threshold, mm.
    pub plane: f64,
    /// Square to the face, outwards, of length one.
    pub out: Point,
    /// So far beyond the mark the face lies, mm.
    pub gap: f64,
    /// Noise of that, mm.
    pub sd: f64,
}

/// The plane of a board that lies level or stands across.
pub fn plane(pose: &Pose) -> Option<Plane> {
    let square = |k: usize| pose.w()[k].abs() > 0.999;
    if square(2) {
        Some(Plane::Level)
    } else {
        square(0).then_some(Plane::Across)
    }
}

/// The equations of bodies as far as the survey does not contradict them, and what it contradicts: a body that does
/// not lie where it is said to keeps its shape and may be shifted and turned freely; a mark that is wrong is left out.
pub fn judge(
    survey: &Field,
    bodies: &[Body],
    numbers: &mut Numbers,
    ridges: &Ridges,
) -> (Vec<Equation>, Vec<Fault>) {
    /// Less than this is no contradiction worth naming, mm, or mm for each m (a choice).
    const WORTH: f64 = 3.0;
    /// A body whose place is wrong may be shifted and turned by as much, mm, and mm for each m.
    const FREE: f64 = 100.0;
    let mut kept = Vec::new();
    let mut found = Vec::new();
    for body in bodies {
        let (mut own, mut marks) = equations(body, numbers);
        // A body may show a bend of which the survey saw nothing.
        let mut all = survey.equations().to_vec();
        all.extend(own.iter().cloned());
        let bend = Field::fitted(all, ridges.clone()).bend();
        // Each in turn, the worst first: its place, then its marks.
        for _ in 0..own.len() {
            let mut all = survey.equations().to_vec();
            let before = all.len();
            all.extend(own.iter().cloned());
            let standings = Field::new(all, ridges.clone(), bend).standings();
            let each = standings.iter().skip(before).enumerate();
            let wrong = each.filter(|(_, s)| s.w.abs() > CRITICAL && s.off.abs() > WORTH);
            let worst = wrong.max_by(|a, b| a.1.w.abs().total_cmp(&b.1.w.abs()));
            let Some((i, s)) = worst else { break };
            let mark = marks.get(i).copied().flatten();
            let id = mark.map_or(body.ids.first(), |m| Some(&m.of));
            found.push(Fault {
                origin: body.origin,
                id: id.cloned().unwrap_or_default(),
                mark: mark.map(|m| m.id.clone()),
                says: own[i].value,
                others: own[i].value + s.off,
                w: s.w,
            });
            if i < PLACE {
                own.iter_mut().take(PLACE).for_each(|e| e.sd = FREE);
            } else {
                own.remove(i);
                marks.remove(i);
            }
        }
        kept.extend(own);
    }
    (kept, found)
}

/// No more bodies of a kind are counted, and no more marks of them together: solving grows with the cube.
const BODIES: usize = 24;
const ALL: usize = 240;

/// Unknowns of a body's place.
const PLACE: usize = 3;

/// The equations of a body, three of its place and one for each mark, and which mark each is of.
fn equations<'a>(body: &'a Body, numbers: &mut Numbers) -> (Vec<Equation>, Vec<Option<&'a Sight>>) {
    let place = [0, 1, 2].map(|k| numbers.of(body.place(k)));
    let own = place.iter().enumerate().map(|(k, term)| Equation {
        reading: body.place(k),
        key: body.place(k),
        value: 0.0,
        sd: body.sd[k].max(1e-3),
        terms: vec![*term],
        of: 1,
        body: true,
    });
    let marks = body
        .sights
        .iter()
        .filter_map(|s| Some((sight(body, s, &place)?, Some(s))));
    own.map(|e| (e, None)).chain(marks).unzip()
}

fn sight(body: &Body, s: &Sight, place: &[Term; 3]) -> Option<Equation> {
    // Which of the plane's two directions the signal is a length in, and where it is looked up.
    let (k, of) = looked_up(s.face, body.plane, s.at, s.plane);
    let sign = if s.face == Face::Right { -1.0 } else { 1.0 };
    let (n, other) = (s.out[k], s.out[1 - k]);
    if n.abs() < SLANT {
        return None;
    }
    // The face lies where `out . W = out . (P + shift + turn x (P - middle)) + gap`; along `k` that is a length.
    let lever = [-(s.at[1] - body.middle[1]), s.at[0] - body.middle[0]];
    let by_turn = (s.out[0] * lever[0] + s.out[1] * lever[1]) / n / 1000.0;
    let mut shifts = [0.0; 2];
    shifts[k] = 1.0;
    shifts[1 - k] = other / n;
    let minus = |t: &Term, by: f64| Term {
        by: -by * sign,
        ..*t
    };
    Some(Equation {
        reading: body.key(&s.of, &s.id),
        key: body.key(&s.of, &s.id),
        value: sign * (s.at[k] + s.gap / n),
        sd: s.sd / n.abs(),
        terms: vec![
            of,
            minus(&place[0], shifts[0]),
            minus(&place[1], shifts[1]),
            minus(&place[2], by_turn),
        ],
        of: 1,
        body: true,
    })
}

/// Which of a plane's two directions a face is a length in, and the face there as a term.
fn looked_up(face: Face, plane: Plane, at: Point, lies: f64) -> (usize, Term) {
    let (k, signal, u, v) = match (face.side(), plane) {
        (None, _) => (0, Signal::Front, at[1], lies),
        (Some(s), Plane::Level) => (1, Signal::Wall(s), at[0], lies),
        (Some(s), Plane::Across) => (0, Signal::Wall(s), lies, at[1]),
    };
    (k, Term::new(1.0, signal, u, v))
}

/// Where bodies tell of a wall: along, and how high.
pub fn places(bodies: &[Body], of: Side) -> impl Iterator<Item = (f64, f64)> + '_ {
    bodies.iter().flat_map(move |b| {
        let own = move |s: &&Sight| s.face.side() == Some(of);
        b.sights.iter().filter(own).map(move |s| match b.plane {
            Plane::Level => (s.at[0], s.plane),
            Plane::Across => (s.plane, s.at[1]),
        })
    })
}

/// Where a wall is followed closely: a saw follows a curve that is known so well.
pub fn fine(bodies: &[Body], of: Side) -> Vec<f64> {
    /// As close as this, mm.
    const STEP: f64 = 20.0;
    let mut out = Vec::new();
    for b in bodies.iter().filter(|b| b.plane == Plane::Level) {
        let one = std::slice::from_ref(b);
        let at = || places(one, of).map(|p| p.0);
        let (lo, hi) = (
            at().fold(f64::INFINITY, f64::min),
            at().fold(f64::NEG_INFINITY, f64::max),
        );
        if lo < hi {
            let n = ((hi - lo) / STEP).ceil().clamp(1.0, 400.0);
            out.extend((0..=n as usize).map(|i| lo + (hi - lo) * i as f64 / n));
        }
    }
    out
}
