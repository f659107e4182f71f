//! Does a sleeper get out? What furniture leaves free of the rear opening at night.

use super::bed::beds;
use super::{Ctx, Finding, Severity};
use crate::project::states::asleep;
use crate::project::survey::REAR;
use crate::solids::Solid;

/// A body goes through no less: the shorter side, mm, and the area, mm2 (ISO 9094, escape hatches that are not round; from
/// memory).
const SIDE: f64 = 380.0;
const AREA: f64 = 180_000.0;
/// What stands nearer to an opening is in its way, mm (a choice: less than a body needs to turn aside).
const NEAR: f64 = 350.0;

/// From and to across and up, mm.
type Rectangle = ([f64; 2], [f64; 2]);

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let Some(outline) = ctx.model.opening_outline(REAR) else {
        return vec![];
    };
    if ctx.decks.iter().all(|d| d.worked.is_none()) && beds(ctx).next().is_none() {
        return vec![];
    }
    let (taken, bed) = in_the_way(ctx);
    let (w, h) = largest(&outline, &taken);
    let passes = w.min(h) >= SIDE && w * h >= AREA;
    let (level, sentence) = if passes {
        let over = if bed { " over the bed" } else { "" };
        (
            Severity::Fine,
            format!(
                "At night {} by {} of the rear opening stay free{over}: a sleeper gets out.",
                ctx.w.bare(w),
                ctx.w.say(h)
            ),
        )
    } else {
        let left = if w * h > 0.0 {
            format!("no more than {} by {}", ctx.w.bare(w), ctx.w.say(h))
        } else {
            "nothing".into()
        };
        (
            Severity::Look,
            format!(
                "At night furniture leaves {left} of the rear opening: too little for a body in a hurry. There has to be another way out that opens from inside."
            ),
        )
    };
    vec![
        Finding::new("exits", level, "layout", sentence).rule(
            format!(
                "a body needs the area of {} by {}, and no side shorter; nearer than {} to the opening furniture is in the way",
                ctx.w.bare(SIDE),
                ctx.w.say(AREA / SIDE),
                ctx.w.say(NEAR)
            ),
            "ISO 9094, from memory; the distance is a choice",
        ),
    ]
}

/// What of the opening is taken at night, and whether the bed comes up to it.
fn in_the_way(ctx: &Ctx) -> (Vec<Rectangle>, bool) {
    let state = asleep(&ctx.project.states);
    let solids = ctx.boards.iter().filter_map(|b| Solid::new(b, state));
    let near = solids.filter(|s| s.low[0] < NEAR && s.high[0] > -NEAR);
    let mut out: Vec<Rectangle> = near
        .map(|s| ([s.low[1], s.high[1]], [s.low[2], s.high[2]]))
        .collect();
    let decks = ctx.decks.iter().filter_map(|d| {
        let (underside, stack, worked) = d.whole()?;
        let begins = worked.plan.panels.iter().map(|p| p.bounds().0);
        let begins = begins.fold(f64::INFINITY, f64::min);
        (begins < NEAR).then(|| stack.at(underside).sleep_surface)
    });
    let top = decks.reduce(f64::max);
    // Any other bed takes its own width, up to the mattress's face.
    let thick = ctx.project.mattress.thickness.unwrap_or(0.0);
    let others = beds(ctx).filter(|(_, b)| b.low[0] < NEAR);
    let others: Vec<Rectangle> = others
        .map(|(_, b)| ([b.low[1], b.high[1]], [f64::NEG_INFINITY, b.top + thick]))
        .collect();
    let bed = top.is_some() || !others.is_empty();
    out.extend(others);
    out.extend(top.map(|z| ([f64::NEG_INFINITY, f64::INFINITY], [f64::NEG_INFINITY, z])));
    (out, bed)
}

/// The largest rectangle that is free within an outline `(height, width)`, preferring one that a body passes.
fn largest(outline: &[(f64, f64)], taken: &[Rectangle]) -> (f64, f64) {
    let Some(top) = outline.last().map(|n| n.0) else {
        return (0.0, 0.0);
    };
    let marks = |ends: &mut Vec<f64>, low: f64, high: f64| {
        ends.retain(|z| *z >= low && *z <= high);
        ends.sort_by(f64::total_cmp);
        ends.dedup_by(|a, b| (*a - *b).abs() < 1.0);
    };
    let mut zs: Vec<f64> = taken.iter().flat_map(|t| t.1).collect();
    zs.extend(outline.iter().map(|n| n.0));
    marks(&mut zs, 0.0, top);
    let mut best = (0.0, 0.0);
    for (i, low) in zs.iter().enumerate() {
        for high in &zs[i + 1..] {
            let here = outline.iter().filter(|n| n.0 >= *low && n.0 <= *high);
            let ends = [*low, *high].map(|z| width(outline, z));
            let half = here.map(|n| n.1).chain(ends).fold(f64::INFINITY, f64::min) / 2.0;
            // What stands there leaves gaps from side to side.
            let mut stands: Vec<[f64; 2]> = taken
                .iter()
                .filter(|t| t.1[0] < high - 0.5 && t.1[1] > low + 0.5)
                .map(|t| t.0)
                .collect();
            stands.sort_by(|a, b| a[0].total_cmp(&b[0]));
            let (mut from, mut wide) = (-half, 0.0_f64);
            for [a, b] in stands {
                wide = wide.max(a.min(half) - from);
                from = from.max(b);
            }
            wide = wide.max(half - from);
            let better = |(w, h): (f64, f64), (v, k): (f64, f64)| {
                let good = |w: f64, h: f64| w.min(h) >= SIDE;
                (good(w, h), w * h) > (good(v, k), v * k)
            };
            if wide > 0.0 && better((wide, high - low), best) {
                best = (wide, high - low);
            }
        }
    }
    best
}

/// How wide an outline is at a height, straight between its nodes.
fn width(outline: &[(f64, f64)], z: f64) -> f64 {
    let above = outline.iter().find(|n| n.0 >= z);
    let below = outline.iter().rev().find(|n| n.0 <= z);
    match (below, above) {
        (Some(a), Some(b)) if b.0 - a.0 > 1e-9 => a.1 + (b.1 - a.1) * (z - a.0) / (b.0 - a.0),
        (Some(a), _) => a.1,
        (None, Some(b)) => b.1,
        (None, None) => 0.0,
    }
}
