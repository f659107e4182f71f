//! A height that hangs from something soft.

use super::{Ctx, Finding, Severity};
use crate::survey::known::SOFT_SD;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let Some(roof) = ctx.model.lowest_roof().filter(|k| k.soft) else {
        return vec![];
    };
    vec![
        Finding::new(
            "soft-roof",
            Severity::Look,
            "survey",
            format!(
                "Headroom hangs from the roof lining, which gives. Measure {} again to the frame tube behind it.",
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
