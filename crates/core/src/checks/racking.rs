//! Legs that fold forward: screws alone do not keep a right angle. The diagonal that does.

use super::{Ctx, Finding, Severity};

/// Legs up to this keep their angle by their own width, mm (a choice: three times a leg's width).
const STIFF: f64 = 210.0;
/// A diagonal reaches down a leg by no less than this share of it, or it holds only the top (a choice).
const REACHES: f64 = 0.7;
/// It runs along the deck no further than this, mm (a choice).
const ALONG: f64 = 400.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for (module, built) in ctx.built {
        let legs = built.boards.iter().filter(|b| b.role == "leg");
        let tall = legs.map(|b| b.shape.size().0).fold(0.0, f64::max);
        if tall <= STIFF {
            continue;
        }
        let name = ctx.project.modules.get(module);
        let name = name.map_or(module.clone(), |m| m.called());
        let down = tall * REACHES;
        let along = down.min(ALONG);
        let long = down.hypot(along);
        let words = format!(
            "The legs of the {name} are up to {} high and held by screws: braking folds them. A diagonal of {} on each side, from {} down a leg to {} along the underside, makes it stiff.",
            ctx.w.say(tall),
            ctx.w.say(long),
            ctx.w.bare(down),
            ctx.w.say(along)
        );
        out.push(
            Finding::new(format!("racking.{module}"), Severity::Look, "layout", words)
                .rule(
                    format!(
                        "legs over {} need a triangle; length = root of ({}² + {}²)",
                        ctx.w.say(STIFF),
                        ctx.w.bare(down),
                        ctx.w.say(along)
                    ),
                    "geometry; the limit is a choice",
                )
                .show("layout", module.as_str()),
        );
    }
    out
}
