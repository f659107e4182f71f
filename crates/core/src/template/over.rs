//! May a captured curve be turned over for the other side? Only where the survey says that both sides are the same.

use serde::Serialize;
use utoipa::ToSchema;

use crate::curves::mirror::mirrored;
use crate::curves::place::Placed;
use crate::curves::view::TemplateView;
use crate::project::Project;
use crate::project::survey::Side;
use crate::project::templates::{Face, Plane, Template};
use crate::survey::model::Model;

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
        let (most, at, sd) = worst(p, model)?;
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
            template: may
                .then(|| project.templates.get(&t.id).and_then(mirrored))
                .flatten(),
        })
    };
    curves.iter().filter_map(one).collect()
}

/// The largest difference of the two walls along a curve, where, and the largest doubt of it.
fn worst(p: &Placed, model: &Model) -> Option<(f64, f64, f64)> {
    let k = match p.plane {
        Plane::Level => 0,
        Plane::Across => 1,
    };
    let all = p.line.iter().map(|q| q[k]);
    let (lo, hi) = all.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| {
        (a.min(v), b.max(v))
    });
    let n = ((hi - lo) / STEP).ceil().clamp(1.0, 400.0);
    let mut out = (0.0, lo, 0.0_f64);
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
        let off = (l.0 - r.0).abs();
        if off > out.0 {
            (out.0, out.1) = (off, v);
        }
        out.2 = out.2.max(l.1.hypot(r.1));
    }
    Some(out)
}
