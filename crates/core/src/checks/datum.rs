//! A height that hangs from something soft.

use super::{Ctx, Finding, Severity};
use crate::project::survey::DatumKind;
use crate::survey::known::SOFT_SD;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let Some(roof) = ctx.model.lowest_roof().filter(|k| k.soft) else {
        return vec![];
    };
    // A hard point near by is the better reference.
    let hard = ctx
        .project
        .survey
        .datums
        .values()
        .find(|d| d.hard && d.kind == DatumKind::RoofTube);
    let instead = hard.map_or("to the frame tube behind it".to_string(), |d| {
        format!("from the {}, which is hard", d.name)
    });
    vec![
        Finding::new(
            "soft-roof",
            Severity::Look,
            "survey",
            format!(
                "Headroom hangs from the roof lining, which gives. Measure {} again {instead}.",
                ctx.w.say(roof.mm)
            ),
        )
        .rule(
            "start from a hard reference; a lining is worth its own noise and 3 mm more",
            "common practice, no source",
        )
        .numbers(vec![
            ctx.w.step("", "floor to lining", roof.mm),
            ctx.w.step("", "doubt of a lining", SOFT_SD),
        ])
        .show("survey", roof.quantity.key()),
    ]
}
