//! Captured curves: what is wrong with one, what deserves a look, and whether it lies where the survey has its wall.

use serde_json::json;

use super::{Ctx, Finding, Severity, set};
use crate::curves::place::Placed;
use crate::curves::view::TemplateView;
use crate::geometry::Point;
use crate::input::escape;
use crate::project::templates::Plane;
use crate::survey::witness::{Fault, Origin};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for t in ctx.templates {
        let say = |n: usize, level, words: &str| {
            let sentence = format!("{}: {words}", t.name);
            Finding::new(
                format!("template.{}.{n}", t.id),
                level,
                "templates",
                sentence,
            )
            .rule("readings of one curve agree with each other", "geometry")
            .show("templates", t.id.clone())
        };
        if let Some(wrong) = &t.wrong {
            out.push(say(0, Severity::Stop, wrong));
        }
        for (n, words) in t.warnings.iter().enumerate() {
            out.push(say(n + 1, Severity::Look, words));
        }
        if let (Some(words), Some(reading)) = (&t.doubted, &t.misfit) {
            let at = format!("/templates/{}/stations/{}", escape(&t.id), escape(reading));
            out.push(say(t.warnings.len() + 1, Severity::Look, words).offer(
                "Leave that reading out".into(),
                "the curve goes by the others; the surface may be read there again".into(),
                json!([{ "op": "remove", "path": at }]),
            ));
        }
        let mut judged = ctx.model.judged.bodies.iter();
        // The worst tells: what is wrong with a curve's place shows in more than one number.
        if let Some(b) = judged.find(|b| b.origin == Origin::Curve && b.id == t.id) {
            out.push(misplaced(ctx, t, b));
        }
    }
    out
}

/// A curve that the survey contradicts.
fn misplaced(ctx: &Ctx, t: &TemplateView, b: &Fault) -> Finding {
    /// Further off than this it may lie on the wrong side of its straight edge, mm (a choice).
    const WRONG_SIDE: f64 = 60.0;
    let w = &ctx.w;
    let wall = t.placed.as_ref().map_or("wall", |p| p.of.word());
    let whole = b.mark.is_none();
    let off = match (whole, t.placed.as_ref()) {
        (true, Some(p)) => furthest(ctx, p),
        _ => (b.others - b.says).abs(),
    };
    let sentence = if whole {
        let side = match off > WRONG_SIDE {
            true => " Or does the surface lie on the other side?",
            false => "",
        };
        format!(
            "{}: laid by its landmarks it lies up to {} off the {wall} as surveyed. Find its landmarks once more; until then its shape counts and its place does not.{side}",
            t.name,
            w.say(off)
        )
    } else {
        format!(
            "{}: one place of it lies {} off the {wall} as surveyed; it is left out. Read both there once more.",
            t.name,
            w.say(off)
        )
    };
    let at = format!("/templates/{}/place/aside", escape(&t.id));
    Finding::new(
        format!("template.{}.place", t.id),
        Severity::Look,
        "templates",
        sentence,
    )
    .rule(
        "a captured curve and the survey say the same of one wall, within 3.9 times the noise of their difference",
        "data snooping (Baarda 1968); the critical value is a choice",
    )
    .numbers(vec![
        w.step("", "how far off", off),
        w.note(format!("{:.1} times its noise", b.w.abs())),
    ])
    .offer(
        "Go by the survey alone".into(),
        "the curve is kept, no board goes by it".into(),
        set(at, json!(true)),
    )
    .show("templates", t.id.clone())
}

/// How far a curve as it was laid is off the vehicle as it is known at the most, mm.
fn furthest(ctx: &Ctx, p: &Placed) -> f64 {
    let m = ctx.model;
    let off = |q: &Point| {
        Some(match (p.of.side(), p.plane) {
            (None, _) => q[0] - m.reach(q[1], p.at)?,
            (Some(s), Plane::Level) => s.sign() * q[1] - m.offset(s, q[0], p.at)?,
            (Some(s), Plane::Across) => s.sign() * q[0] - m.offset(s, p.at, q[1])?,
        })
    };
    let each = p.line.iter().filter_map(off);
    each.fold(0.0, |most, o| most.max(o.abs()))
}
