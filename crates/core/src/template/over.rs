//! May a captured curve be turned over for the other side? Only where the survey says that both sides are the same.

use serde::Serialize;
use utoipa::ToSchema;

use crate::curves::mirror::mirrored;
use crate::curves::place::Placed;
use crate::curves::view::TemplateView;
use crate::geometry::Point;
use crate::project::Project;
use crate::project::survey::Side;
use crate::project::templates::{Face, Plane, Template};
use crate::survey::model::Model;
use crate::units::figure::Figure;

/// Sides that differ by less are the same, mm: as much as a board may be too big (a choice).
const SAME: f64 = 2.0;
/// Both walls have to be known this well for that to mean something, one standard deviation of the difference, mm.
const KNOWN: f64 = 2.0;
/// The walls are compared every so many mm.
const STEP: f64 = 25.0;

/// The other side of a captured curve.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = TurnedOver)]
pub struct Over {
    /// The curve.
    pub curve: String,
    /// In a sentence: whether it may be turned over, and by how much the sides differ.
    pub words: String,
    /// The other wall turned over, mm in the frame of the capture.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub line: Vec<Point>,
    /// Where the two differ most: on the curve and on the other, in that frame.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub worst: [Point; 2],
    /// By how much.
    pub differs: Figure,
    /// The turned curve, ready to be stored, where it may be.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub template: Option<Template>,
}

/// All curves of side walls that lie in the vehicle.
pub fn over(project: &Project, model: &Model, curves: &[TemplateView]) -> Vec<Over> {
    let one = |t: &TemplateView| {
        let p = t.placed.as_ref().filter(|p| p.of != Face::Front)?;
        let other = match p.of {
            Face::Left => "right wall",
            _ => "left wall",
        };
        let w = project.writer();
        let c = compared(p, model)?;
        let (most, at, sd) = (c.most, c.at, c.sd);
        let back = back(&t.edge, &p.line)?;
        let along = match p.plane {
            Plane::Level => "forward",
            Plane::Across => "up",
        };
        let (words, may) = if sd > KNOWN {
            (
                format!(
                    "Whether the {other} is the same nobody can say yet: it is known to {} only.",
                    w.say(sd)
                ),
                false,
            )
        } else if most > SAME {
            (
                format!(
                    "The {other} differs by up to {}, most {} {along}: capture it by itself.",
                    w.say(most),
                    w.say(at.round())
                ),
                false,
            )
        } else {
            (
                format!(
                    "The {other} is the same within {}: the curve may be turned over.",
                    w.say(most)
                ),
                true,
            )
        };
        Some(Over {
            curve: t.id.clone(),
            words,
            line: c.other.iter().map(|q| back(*q)).collect(),
            worst: c.worst.map(&back),
            differs: w.figure(most),
            template: may
                .then(|| project.templates.get(&t.id).and_then(mirrored))
                .flatten(),
        })
    };
    curves.iter().filter_map(one).collect()
}

/// From the vehicle back into the frame of the capture: the way in which its edge was laid in, undone.
fn back(edge: &[Point], line: &[Point]) -> Option<impl Fn(Point) -> Point> {
    let ends = |l: &[Point]| Some((*l.first()?, *l.last()?));
    let ((a, b), (p, q)) = (ends(edge)?, ends(line)?);
    let course = |a: Point, b: Point| (b[1] - a[1]).atan2(b[0] - a[0]);
    let (s, c) = (course(a, b) - course(p, q)).sin_cos();
    Some(move |v: Point| {
        let d = [v[0] - p[0], v[1] - p[1]];
        [a[0] + c * d[0] - s * d[1], a[1] + s * d[0] + c * d[1]]
    })
}

/// The two walls along a curve.
struct Compared {
    /// The largest difference, mm, and where along it is.
    most: f64,
    at: f64,
    /// The largest doubt of a difference, mm.
    sd: f64,
    /// The other wall turned over to this side.
    other: Vec<Point>,
    /// Where they differ most: on this wall, and on the other.
    worst: [Point; 2],
}

fn compared(p: &Placed, model: &Model) -> Option<Compared> {
    let k = match p.plane {
        Plane::Level => 0,
        Plane::Across => 1,
    };
    let all = p.line.iter().map(|q| q[k]);
    let (lo, hi) = all.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| {
        (a.min(v), b.max(v))
    });
    let n = ((hi - lo) / STEP).ceil().clamp(1.0, 400.0);
    let sign = match p.of {
        Face::Right => -1.0,
        _ => 1.0,
    };
    let mut out = Compared {
        most: 0.0,
        at: lo,
        sd: 0.0,
        other: vec![],
        worst: [[0.0; 2]; 2],
    };
    for i in 0..=n as usize {
        let v = lo + (hi - lo) * i as f64 / n;
        let (x, z) = match p.plane {
            Plane::Level => (v, p.at),
            Plane::Across => (p.at, v),
        };
        let (l, r) = (
            model.wall(Side::Left, x, z)?,
            model.wall(Side::Right, x, z)?,
        );
        let (own, other) = match p.of {
            Face::Right => (r.0, l.0),
            _ => (l.0, r.0),
        };
        let place = |off: f64| match p.plane {
            Plane::Level => [v, sign * off],
            Plane::Across => [sign * off, v],
        };
        out.other.push(place(other));
        let off = (own - other).abs();
        if off > out.most || i == 0 {
            (out.most, out.at) = (off, v);
            out.worst = [place(own), place(other)];
        }
        out.sd = out.sd.max(l.1.hypot(r.1));
    }
    Some(out)
}
