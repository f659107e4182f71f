//! What else says where a wall is: captured curves laid into the vehicle, boards held in place. Each is a rigid body
//! whose own place is known only so well, so its points are readings of the wall less three unknowns of the body: two
//! shifts and a turn. The survey's readings and these are then solved together, each with its doubt.

use super::blunder::CRITICAL;
use super::field::{Equation, Field};
use super::observe::Numbers;
use super::signal::{Ridges, Signal, Term};
use crate::curves::place::Placed;
use crate::geometry::pose::Pose;
use crate::geometry::{Point, distance};
use crate::project::Project;
use crate::project::fits::{Fit, Says};
use crate::project::survey::Side;
use crate::project::templates::{Face, Plane};

/// Points of one curve are taken no denser than this, mm, and no more of them than `MOST`.
const APART: f64 = 30.0;
const MOST: usize = 48;
/// More points than this are not taken of all curves together: solving grows with the cube.
const ALL: usize = 240;
/// A point of a curve is never surer than this, mm (a choice).
const SURE: f64 = 0.3;
/// A wall that runs within this of the direction in which it is measured says nothing there.
const SLANT: f64 = 0.25;

/// A body with marks on it that lie on, or so far off, the vehicle's faces.
#[derive(Debug, Clone, PartialEq)]
pub struct Body {
    /// What it is.
    pub origin: Origin,
    /// Its identifier.
    pub id: String,
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
    /// Prefix of the keys of its equations: no reading's key begins so.
    fn key(&self) -> String {
        match self.origin {
            Origin::Curve => format!("curve.{}", self.id),
            Origin::Fit => format!("fit.{}", self.id),
        }
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

/// A mark on a body.
#[derive(Debug, Clone, PartialEq)]
pub struct Sight {
    /// Name among the marks of its body.
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

/// The marks that captured curves make.
pub fn curves(placed: &[(&str, &Placed)]) -> Vec<Body> {
    let counted = placed.iter().filter(|(_, p)| p.counts && p.line.len() >= 2);
    let counted: Vec<_> = counted.collect();
    let each = (ALL / counted.len().max(1)).clamp(4, MOST);
    let bodies = counted.into_iter().map(|(id, p)| Body {
        origin: Origin::Curve,
        id: (*id).into(),
        plane: p.plane,
        middle: p.middle,
        sd: [p.sd, p.sd, p.turn],
        sights: sights(p, each),
    });
    bodies.collect()
}

/// Noise of what is seen at the edge of a board: a gap with a rule, what is proud with a pencil, a touch (choices).
const SEEN: [(Says, f64); 3] = [(Says::Gap, 0.5), (Says::Proud, 1.0), (Says::Touches, 0.5)];
/// A board is shoved across until it suits: so far from where it was to lie, mm, and for each m (a choice).
const SHOVED: f64 = 6.0;
/// It lies flush at the threshold, or stands on what carries it: to so much, mm, and for each m (a choice).
const FLUSH: f64 = 1.0;

/// The marks that boards held in place make. `survey` tells which of a board's two faces a wall meets first.
pub fn fits(project: &Project, survey: &Field) -> Vec<Body> {
    let counted = project.fits.iter().filter(|(_, f)| !f.aside);
    counted.filter_map(|(id, f)| fit(id, f, survey)).collect()
}

fn fit(id: &str, f: &Fit, survey: &Field) -> Option<Body> {
    let plane = plane(&f.pose)?;
    let flat = |p: [f64; 3]| match plane {
        Plane::Level => ([p[0], p[1]], p[2]),
        Plane::Across => ([p[1], p[2]], p[0]),
    };
    let sights = f.places.iter().filter(|(_, p)| !p.aside);
    let sights = sights.filter_map(|(key, p)| {
        let gap = p.gap()?;
        let ends = [0.0, f.thickness].map(|t| flat(f.pose.at(p.at[0], p.at[1], t)));
        // Seen from above, and from behind; a touch is where the face comes first.
        let free = |(at, w): (Point, f64)| survey.value(&[looked_up(p.of, plane, at, w).1]);
        let first = match (p.says, plane) {
            (Says::Touches, _) => free(ends[0]) < free(ends[1]),
            (_, Plane::Level) => ends[0].1 > ends[1].1,
            (_, Plane::Across) => ends[0].1 < ends[1].1,
        };
        let (at, w) = if first { ends[0] } else { ends[1] };
        let along = |k: usize| p.out[0] * f.pose.u[k] + p.out[1] * f.pose.v[k];
        let out = flat([along(0), along(1), along(2)]).0;
        let noise = SEEN.iter().find(|s| s.0 == p.says);
        Some(Sight {
            id: key.clone(),
            face: p.of,
            at,
            plane: w,
            out,
            gap,
            sd: noise.map_or(1.0, |s| s.1),
        })
    });
    let sights: Vec<Sight> = sights.collect();
    let n = sights.len().max(1) as f64;
    let mean = |k: usize| sights.iter().map(|s| s.at[k]).sum::<f64>() / n;
    Some(Body {
        origin: Origin::Fit,
        id: id.into(),
        plane,
        middle: [mean(0), mean(1)],
        sd: match plane {
            Plane::Level => [FLUSH, SHOVED, SHOVED],
            Plane::Across => [SHOVED, FLUSH, FLUSH],
        },
        sights,
    })
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

fn sights(p: &Placed, most: usize) -> Vec<Sight> {
    let mut along = vec![0.0];
    for w in p.line.windows(2) {
        along.push(along[along.len() - 1] + distance(w[0], w[1]));
    }
    let long = along[along.len() - 1];
    // As many points as were read, and no more: their noise says what the readings said together.
    let n = ((long / APART).floor() as usize + 1)
        .min(p.readings.max(2))
        .clamp(2, most);
    let sd = (p.noise * (n as f64 / p.readings.max(1) as f64).sqrt()).max(SURE);
    let point = |s: f64| -> (Point, Point) {
        let i = along.partition_point(|a| *a < s).clamp(1, along.len() - 1);
        let (a, b) = (p.line[i - 1], p.line[i]);
        let step = (along[i] - along[i - 1]).max(1e-9);
        let f = ((s - along[i - 1]) / step).clamp(0.0, 1.0);
        let d = [(b[0] - a[0]) / step, (b[1] - a[1]) / step];
        ([a[0] + f * (b[0] - a[0]), a[1] + f * (b[1] - a[1])], d)
    };
    let each = (0..n).map(|i| {
        let (at, d) = point(long * i as f64 / (n - 1) as f64);
        Sight {
            id: i.to_string(),
            face: p.of,
            at,
            plane: p.at,
            out: outwards(p.of, p.plane, [-d[1], d[0]]),
            gap: 0.0,
            sd,
        }
    });
    each.collect()
}

/// The one of two opposite directions that points out of the vehicle.
fn outwards(face: Face, plane: Plane, n: Point) -> Point {
    let across = match plane {
        Plane::Level => n[1],
        Plane::Across => n[0],
    };
    let out = match face {
        Face::Left => across,
        Face::Right => -across,
        Face::Front => n[0],
    };
    if out < 0.0 { [-n[0], -n[1]] } else { n }
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
        let mut own = equations(body, numbers);
        // Each in turn, the worst first: its place, then its marks.
        for _ in 0..own.len() {
            let mut all = survey.equations().to_vec();
            let before = all.len();
            all.extend(own.iter().cloned());
            let standings = Field::new(all, ridges.clone(), survey.bend()).standings();
            let each = standings.iter().skip(before).enumerate();
            let wrong = each.filter(|(_, s)| s.w.abs() > CRITICAL && s.off.abs() > WORTH);
            let worst = wrong.max_by(|a, b| a.1.w.abs().total_cmp(&b.1.w.abs()));
            let Some((i, s)) = worst else { break };
            let prefix = format!("{}.", body.key());
            let mark = own[i].key.strip_prefix(&prefix).filter(|_| i >= PLACE);
            found.push(Fault {
                origin: body.origin,
                id: body.id.clone(),
                mark: mark.map(String::from),
                says: own[i].value,
                others: own[i].value + s.off,
                w: s.w,
            });
            if i < PLACE {
                own.iter_mut().take(PLACE).for_each(|e| e.sd = FREE);
            } else {
                own.remove(i);
            }
        }
        kept.extend(own);
    }
    (kept, found)
}

/// Unknowns of a body's place.
const PLACE: usize = 3;

/// The equations of a body: three of its place, one for each mark.
fn equations(body: &Body, numbers: &mut Numbers) -> Vec<Equation> {
    let key = |k: usize| format!("{}.place.{k}", body.key());
    let place = [0, 1, 2].map(|k| numbers.of(key(k)));
    let own = place.iter().enumerate().map(|(k, term)| Equation {
        reading: key(k),
        key: key(k),
        value: 0.0,
        sd: body.sd[k].max(1e-3),
        terms: vec![*term],
        of: 1,
        body: true,
    });
    let mut out: Vec<Equation> = own.collect();
    out.extend(body.sights.iter().filter_map(|s| sight(body, s, &place)));
    out
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
        reading: format!("{}.{}", body.key(), s.id),
        key: format!("{}.{}", body.key(), s.id),
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

fn side(face: Face) -> Side {
    match face {
        Face::Right => Side::Right,
        Face::Left | Face::Front => Side::Left,
    }
}

/// Which of a plane's two directions a face is a length in, and the face there as a term.
fn looked_up(face: Face, plane: Plane, at: Point, lies: f64) -> (usize, Term) {
    let (k, signal, u, v) = match (face, plane) {
        (Face::Front, _) => (0, Signal::Front, at[1], lies),
        (_, Plane::Level) => (1, Signal::Wall(side(face)), at[0], lies),
        (_, Plane::Across) => (0, Signal::Wall(side(face)), lies, at[1]),
    };
    (k, Term::new(1.0, signal, u, v))
}

/// Where bodies tell of a wall: along, and how high.
pub fn places(bodies: &[Body], of: Side) -> impl Iterator<Item = (f64, f64)> + '_ {
    bodies.iter().flat_map(move |b| {
        let own = move |s: &&Sight| s.face != Face::Front && side(s.face) == of;
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

/// What captured curves say of where walls bend sharply.
pub fn bends(placed: &[(&str, &Placed)], ridges: &mut Ridges) {
    /// So many corners of a curve count: more is noise.
    const CORNERS: usize = 12;
    for (_, p) in placed.iter().filter(|(_, p)| p.counts) {
        ridges.bowed |= p.of == Face::Front;
        if p.of == Face::Front {
            continue;
        }
        let of = Some(side(p.of));
        for c in p.corners.iter().take(CORNERS) {
            match p.plane {
                Plane::Level => ridges.x.push((of, c[0])),
                Plane::Across => ridges.z.push((of, c[1])),
            }
        }
    }
}
