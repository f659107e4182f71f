//! Do doors stay flat?

use super::{Ctx, Finding, Severity, set};
use crate::input::escape;

/// Thinner doors of ply warp, mm (3/8 in does, 1/2 in and more does not: common practice, no source).
const LEAST: f64 = 12.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for (module, built) in ctx.built {
        let thin = |b: &&crate::furniture::built::Board| {
            matches!(b.role, "door" | "flap") && b.thickness < LEAST - 1e-6
        };
        let doors: Vec<_> = built.boards.iter().filter(thin).collect();
        let (Some(first), Some(m)) = (doors.first(), ctx.project.modules.get(module)) else {
            continue;
        };
        let what = if doors.len() == 1 { "door" } else { "doors" };
        let mut f = Finding::new(
            format!("warp.{module}"),
            Severity::Look,
            "layout",
            format!(
                "The {what} of the {} will warp: {} is thin for a board that is held on one side only.",
                m.called(),
                ctx.w.say(first.thickness)
            ),
        )
        .rule(
            format!("doors of ply at least {} thick", ctx.w.say(LEAST)),
            "common practice, no source",
        )
        .show("layout", module.clone());
        let own = m
            .choices
            .get("thickness")
            .and_then(serde_json::Value::as_f64);
        if own.is_some_and(|t| (t - first.thickness).abs() < 1.0) {
            f = f.offer(
                format!("{} board", ctx.w.say(LEAST)),
                "stiffer, heavier".into(),
                set(
                    format!("/modules/{}/choices/thickness", escape(module)),
                    LEAST.into(),
                ),
            );
        }
        out.push(f);
    }
    out
}
