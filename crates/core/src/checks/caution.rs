//! Calm reminders where the work touches safety.

use super::bed::beds;
use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Manner;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    if ctx.platforms.iter().all(|d| d.worked.is_none()) && beds(ctx).is_empty() {
        return vec![];
    }
    let mut out = vec![
        Finding::new(
            "caution.travel",
            Severity::Look,
            "layout",
            "Nobody travels on the bed. Belts, the anchors of seats and child seats, and load restraint stay as the vehicle maker and local rules have them.".into(),
        )
        .rule("safety parts are not altered; ask a licensed shop", "usual caution; local rules decide"),
    ];
    let drilled = ctx
        .platforms
        .iter()
        .any(|d| d.platform.stands.manner == Manner::Ledgers);
    if drilled {
        out.push(
            Finding::new(
                "caution.drill",
                Severity::Look,
                "layout",
                "Before a hole goes into the body: look behind it for tanks, lines, wires and airbags, and rust-proof it.".into(),
            )
            .rule("existing anchors and bolts first, drilling last", "common practice, no source"),
        );
    }
    out
}
