//! Do coats on the faces that pass each other leave room between them, or does what moves stick?

use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::Vec3;
use crate::geometry::{Point, distance_to_segment, sides};
use crate::input::escape;
use crate::solids::Solid;

/// Gaps this wide are no fit: nobody minds a coat there, mm (a choice).
const FIT: f64 = 5.0;
/// What touches has no gap, mm.
const TOUCH: f64 = 0.2;
/// Less than this between two coats sticks in damp weather, mm (a choice).
const LEAST: f64 = 0.5;
/// A coat is offered in steps of this, mm.
const STEP: f64 = 0.1;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = ctx.project.modules.keys();
    all.filter_map(|module| judged(ctx, module)).collect()
}

/// It lies square to the vehicle: the box round it says where its faces are.
fn square(s: &Solid) -> bool {
    let straight = |v: Vec3| v.iter().any(|c| c.abs() > 0.9999);
    straight(s.pose.u) && straight(s.pose.v)
}

/// The gap between two boards that face each other over more than a touch, mm.
fn gap(a: &Solid, b: &Solid) -> Option<f64> {
    // Further apart than that, whichever way: most are.
    let apart = |k: usize| (a.low[k] - b.high[k]).max(b.low[k] - a.high[k]);
    if (0..3).any(|k| apart(k) > FIT) {
        return None;
    }
    if let Some(mm) = in_plane(a, b).or_else(|| in_plane(b, a)) {
        return Some(mm);
    }
    let over = |k: usize| apart(k) < -1.0;
    let axis = (0..3).find(|k| (TOUCH..=FIT).contains(&apart(*k)))?;
    (0..3).filter(|k| *k != axis).all(over).then(|| apart(axis))
}

/// The gap round a board that lies in a window of another, in its plane.
fn in_plane(a: &Solid, b: &Solid) -> Option<f64> {
    let dot = |p: Vec3, q: Vec3| (0..3).map(|k| p[k] * q[k]).sum::<f64>();
    let (own, other) = (&a.pose, &b.pose);
    if dot(own.w(), other.w()).abs() < 0.9999 {
        return None;
    }
    let corners = a.board.outline.outer.iter();
    let corners: Vec<Point> = corners
        .map(|p| {
            let [u, v, off] = other.own(own.at(p[0], p[1], 0.0));
            let level = off.abs() < b.board.thickness.max(a.board.thickness) - 1.0;
            level.then_some([u, v])
        })
        .collect::<Option<_>>()?;
    let around = |ring: &Vec<Point>| {
        let near = |p: &Point| {
            let off = sides(ring).map(|(a, b)| distance_to_segment(*p, a, b));
            off.fold(f64::INFINITY, f64::min)
        };
        corners.iter().map(near).fold(f64::INFINITY, f64::min)
    };
    let holes = b.board.outline.holes.iter().map(around);
    holes
        .reduce(f64::min)
        .filter(|mm| (TOUCH..=FIT).contains(mm))
}

/// The tightest fit of a piece, if its coats make it too tight.
fn judged(ctx: &Ctx, module: &str) -> Option<Finding> {
    let m = ctx.project.modules.get(module)?;
    if m.finish <= 0.0 {
        return None;
    }
    let own = ctx
        .boards
        .iter()
        .filter(|b| b.module == module && !b.metal && !b.bought);
    let own: Vec<Solid> = own.map(|b| Solid::at(b, b.shut)).filter(square).collect();
    let pairs = own
        .iter()
        .enumerate()
        .flat_map(|(i, a)| own[i + 1..].iter().map(move |b| (a, b)));
    let passing = pairs.filter(|(a, b)| a.board.body != b.board.body);
    let fits = passing.filter_map(|(a, b)| Some((gap(a, b)?, a, b)));
    let (mm, a, b) = fits.min_by(|a, b| a.0.total_cmp(&b.0))?;
    let left = mm - 2.0 * m.finish;
    if left >= LEAST {
        return None;
    }
    let left = match left {
        l if l <= 0.0 => "nothing".into(),
        l => ctx.w.say(l),
    };
    let sentence = format!(
        "Coats of {} on both faces leave {left} of the {} between {} and {} of the {}: it sticks. Leave these faces bare or wax them, or coat thinner.",
        ctx.w.say(m.finish),
        ctx.w.say(mm),
        a.board.mark,
        b.board.mark,
        m.called()
    );
    let id = format!("tight.{module}");
    let mut f = Finding::new(id, Severity::Look, "layout", sentence)
        .rule(
            format!("{} stay free between two coats", ctx.w.say(LEAST)),
            "a choice",
        )
        .numbers(vec![
            ctx.w.step("", "gap as it is cut", mm),
            ctx.w.step("-", "coats, one on each face", 2.0 * m.finish),
        ])
        .show("layout", module);
    let thinner = ((mm - LEAST) / 2.0 / STEP).floor() * STEP;
    if thinner >= STEP {
        f = f.offer(
            format!("Coats of {}", ctx.w.say(thinner)),
            "less is worn off before wood shows".into(),
            set(
                format!("/modules/{}/finish", escape(module)),
                ((thinner / STEP).round() * STEP).into(),
            ),
        );
    }
    Some(f)
}
