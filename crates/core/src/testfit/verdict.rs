//! What becomes of a board that was cut and held in place: it fits, something comes off, a strip fills a gap, or it is
//! cut anew, and then what the old one is still good for.

use geo::Contains;
use serde::Serialize;
use utoipa::ToSchema;

use super::edge::{CUT_WRONG, Lying, Spot, stretches};
use super::{APART, flat};
use crate::geometry::grid::{nearest, up};
use crate::geometry::pose::Pose;
use crate::geometry::region::Region;
use crate::geometry::{Point, distance};
use crate::mechanics::material::PartGrain;
use crate::parts::Part;
use crate::project::fits::{Fit, FitPlace, Went};
use crate::project::templates::{Face, Plane};
use crate::survey::model::Model;
use crate::survey::witness::plane;
use crate::units::figure::{Figure, Writer};

/// Less air than this and a board does not go in without force, mm (a choice); what comes off leaves twice as much.
const AIR: f64 = 1.0;
/// A gap up to this is hidden by the mattress or the covering; a wider one gets a strip, mm (as for the plan's own cut-outs).
const HIDDEN: f64 = 8.0;
/// A strip wider than this is a board of its own, mm (a choice).
const STRIP: f64 = 30.0;

/// What becomes of a board.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = FitVerdict)]
pub struct Verdict {
    /// In a sentence.
    pub sentence: String,
    /// Where something comes off.
    pub trims: Vec<Stretch>,
    /// Where a strip fills a gap.
    pub strips: Vec<Stretch>,
    /// It is cut anew.
    pub recut: bool,
    /// Marks of parts that can be cut from the old one, one of them at a time.
    pub good_for: Vec<String>,
}

/// A stretch of an edge.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = FitStretch)]
pub struct Stretch {
    /// Along which face.
    pub of: Face,
    /// From where.
    pub from: Figure,
    /// To where.
    pub to: Figure,
    /// How much at the most: to come off, or width of the strip.
    pub most: Figure,
    /// In words.
    pub words: String,
    /// Where it is drawn, mm as it is seen.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub line: Vec<Point>,
}

/// The verdict on the last round, once something was seen in it.
pub fn verdict(
    (id, fit): (&str, &Fit),
    model: &Model,
    parts: &[Part],
    part: &Part,
    (w, step): (&Writer, f64),
) -> Option<Verdict> {
    let plane = plane(&fit.pose)?;
    let seen = fit.places.values().filter(|p| p.gap().is_some()).count();
    if seen == 0 || fit.aside {
        return None;
    }
    let lying = Lying {
        outline: &fit.outline,
        thickness: fit.thickness,
        pose: &fit.pose,
    };
    let mut runs = stretches(lying, CUT_WRONG, model);
    lay(&mut runs, (id, fit), plane, model);
    settle(&mut runs, &fit.pose, plane);
    // Where nobody looked nothing is said.
    let looked = |s: &Spot| {
        let near = |p: &FitPlace| p.of == s.of && distance(p.at, s.at) < APART;
        fit.places.values().any(|p| p.gap().is_some() && near(p))
    };
    let stretch = |of: &[Spot], most: f64, what: &str| -> Stretch {
        let at = |s: &Spot| fit.pose.at(s.at[0], s.at[1], 0.0);
        let k = match (of[0].of, plane) {
            (Face::Front, _) => 1,
            (_, Plane::Level) => 0,
            (_, Plane::Across) => 2,
        };
        let places = of.iter().map(|s| at(s)[k]);
        let (lo, hi) = places.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| {
            (a.min(v), b.max(v))
        });
        // Nobody saws by less than a mark.
        let (lo, hi) = (nearest(lo, step), nearest(hi, step));
        let (from, to, most) = (w.figure(lo), w.figure(hi), w.figure(up(most, step)));
        Stretch {
            words: format!(
                "{}: {what} {}, from {}",
                of[0].of.word(),
                w.say(most.value),
                range(k, (lo, hi), w)
            ),
            of: of[0].of,
            from,
            to,
            most,
            line: of.iter().map(|s| flat(plane, at(s))).collect(),
        }
    };
    let mut trims = Vec::new();
    let mut strips = Vec::new();
    let mut wide = false;
    for run in &runs {
        for own in parted(run, |s| s.gap < AIR && looked(s)) {
            let most = own.iter().map(|s| 2.0 * AIR - s.gap);
            trims.push(stretch(own, most.fold(0.0, f64::max), "take off up to"));
        }
        for own in parted(run, |s| s.gap > HIDDEN && looked(s)) {
            let most = own.iter().map(|s| s.gap).fold(0.0, f64::max);
            wide |= most > STRIP;
            strips.push(stretch(own, most, "a strip of up to"));
        }
    }
    let good_for = match wide {
        true => good_for(&fit.outline, parts, part),
        false => vec![],
    };
    let list = |of: &[Stretch]| {
        let words: Vec<&str> = of.iter().map(|s| s.words.as_str()).collect();
        words.join("; ")
    };
    let mut sentence = match (trims.is_empty(), strips.is_empty(), wide) {
        (_, _, true) => "Cut it anew: a gap is wider than a strip fills.".to_string(),
        (true, true, _) => "It fits: leave it as it is.".to_string(),
        (false, true, _) => format!("{}.", capital(&list(&trims))),
        (true, false, _) => format!("{}.", capital(&list(&strips))),
        (false, false, _) => format!("{}; {}.", capital(&list(&trims)), list(&strips)),
    };
    if wide {
        sentence.push_str(&match good_for.as_slice() {
            [] => " Nothing else of this plan can be cut from the old one.".to_string(),
            marks => format!(" From the old one you can cut {}.", marks.join(" or ")),
        });
    }
    if fit.went == Went::Rocks {
        sentence.push_str(" It rocks: shim the support that it lifts off, or plane the one under its turning point.");
    }
    Some(Verdict {
        sentence,
        trims,
        strips,
        recut: wide,
        good_for,
    })
}

/// From where to where along an axis of the vehicle.
fn range(axis: usize, (lo, hi): (f64, f64), w: &Writer) -> String {
    let (a, b) = (w.say(lo.abs()), w.say(hi.abs()));
    match axis {
        0 => format!("{a} to {b} forward"),
        2 => format!("{a} to {b} up"),
        _ if lo >= 0.0 => format!("{a} to {b} left of the middle"),
        _ if hi <= 0.0 => format!("{b} to {a} right of the middle"),
        _ => format!("{a} right to {b} left of the middle"),
    }
}

fn capital(words: &str) -> String {
    let mut c = words.chars();
    c.next()
        .map_or(String::new(), |f| f.to_uppercase().chain(c).collect())
}

/// Stretches of a run in which something holds, a bit of it at least.
fn parted(run: &[Spot], holds: impl Fn(&Spot) -> bool) -> Vec<&[Spot]> {
    let mut out = Vec::new();
    let mut from = None;
    for i in 0..=run.len() {
        match (run.get(i).is_some_and(&holds), from) {
            (true, None) => from = Some(i),
            (false, Some(f)) => {
                out.push(&run[f..i]);
                from = None;
            }
            _ => {}
        }
    }
    out
}

/// The air there was as the board lay when it was looked at.
fn lay(runs: &mut [Vec<Spot>], (id, fit): (&str, &Fit), plane: Plane, model: &Model) {
    let Some(lay) = model.lay(id) else {
        return;
    };
    for s in runs.iter_mut().flatten() {
        let way = [0, 1, 2].map(|k| s.out[0] * fit.pose.u[k] + s.out[1] * fit.pose.v[k]);
        let p = fit.pose.at(s.at[0], s.at[1], 0.0);
        s.gap -= lay.along(plane.flat(p).0, plane.flat(way).0);
    }
}

/// Shoves the board to where it goes best, as a person does: the air shared evenly between the walls. It is shifted
/// across and, if it lies level, turned; forward it has its place at the threshold, upwards it stands on something.
fn settle(runs: &mut [Vec<Spot>], pose: &Pose, plane: Plane) {
    let walls: Vec<Spot> = runs
        .iter()
        .flatten()
        .filter(|s| s.of != Face::Front)
        .copied()
        .collect();
    let both = [Face::Left, Face::Right].map(|f| walls.iter().any(|s| s.of == f));
    if both.contains(&false) {
        return;
    }
    let n = walls.len() as f64;
    let middle = [0, 1].map(|k| walls.iter().map(|s| s.at[k]).sum::<f64>() / n);
    let row = |s: &Spot| {
        let r = [s.at[0] - middle[0], s.at[1] - middle[1]];
        let turn = match plane {
            Plane::Level => (s.out[1] * r[0] - s.out[0] * r[1]) / 1000.0,
            Plane::Across => 0.0,
        };
        nalgebra::Vector2::new(s.out[0] * pose.u[1] + s.out[1] * pose.v[1], turn)
    };
    let mean = walls.iter().map(|s| s.gap).sum::<f64>() / n;
    // What the gaps say nothing of stays as it is.
    let mut m = nalgebra::Matrix2::identity() * (0.01 * n);
    let mut b = nalgebra::Vector2::zeros();
    for s in &walls {
        let a = row(s);
        m += a * a.transpose();
        b += a * (s.gap - mean);
    }
    let Some(x) = m.cholesky().map(|c| c.solve(&b)) else {
        return;
    };
    for s in runs.iter_mut().flatten() {
        s.gap -= row(s).dot(&x);
    }
}

/// Parts of the plan that lie within the old board, as marks: of the same stuff, by trying places.
fn good_for(old: &Region, parts: &[Part], own: &Part) -> Vec<String> {
    /// So many places are tried each way, and so many parts are named.
    const TRIES: usize = 8;
    const NAMED: usize = 3;
    let body = old.polygon();
    let (x0, y0, x1, y1) = old.bounds();
    let lies = |w: f64, h: f64| {
        (0..=TRIES).any(|i| {
            (0..=TRIES).any(|k| {
                let part = |n: usize, lo: f64, room: f64| lo + room * n as f64 / TRIES as f64;
                let (rx, ry) = (x1 - x0 - w, y1 - y0 - h);
                if rx < 0.0 || ry < 0.0 {
                    return false;
                }
                let (x, y) = (part(i, x0, rx), part(k, y0, ry));
                body.contains(&Region::rectangle(x, y, x + w, y + h).polygon())
            })
        })
    };
    let mut other: Vec<&Part> = parts
        .iter()
        .filter(|p| p.id != own.id && p.material == own.material && p.thickness == own.thickness)
        .collect();
    other.sort_by(|a, b| (b.w.value * b.h.value).total_cmp(&(a.w.value * a.h.value)));
    let goes = |p: &&&Part| {
        let (w, h) = (p.w.value, p.h.value);
        let free = p.grain == PartGrain::Free || own.grain == PartGrain::Free;
        let along = free || p.grain == own.grain;
        let turned = free || p.grain != own.grain;
        (along && lies(w, h)) || (turned && lies(h, w))
    };
    let named = other.iter().filter(goes).take(NAMED);
    named.map(|p| p.mark.clone()).collect()
}
