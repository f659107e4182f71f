//! Is a board thick enough for the screws of what is bought for it?

use super::{Ctx, Finding, Severity};
use crate::joints::pierced;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for (id, built) in ctx.built {
        let screwed = built.hardware.iter().filter(|i| i.screws > 0);
        let through = screwed.filter_map(|i| Some((&i.what, i.wood.filter(|mm| pierced(*mm))?)));
        let through: Vec<(&String, f64)> = through.collect();
        let Some(thin) = through.iter().map(|t| t.1).reduce(f64::min) else {
            continue;
        };
        let mut names: Vec<&str> = through.iter().map(|t| t.0.as_str()).collect();
        names.dedup();
        let name = ctx
            .project
            .modules
            .get(id)
            .map_or(id.clone(), |m| m.called());
        out.push(
            Finding::new(
                format!("pierce.{id}"),
                Severity::Look,
                "parts",
                format!(
                    "The {name} has boards of {} where something is screwed on ({}): the shortest screw comes through. Glue a block behind each such place, bolt it through, or take thicker boards.",
                    ctx.w.say(thin),
                    names.join(", ")
                ),
            )
            .rule(
                "the point of a screw stays inside the board",
                "16 mm screws in boards of 15 to 18: common practice, no source; what is left before the point is a choice",
            )
            .show("layout", id.clone()),
        );
    }
    out
}
