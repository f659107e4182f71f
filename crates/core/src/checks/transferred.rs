//! Marks of what is fixed in the vehicle: does a hole for each lie on its board?

use super::{Ctx, Finding, Severity};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let wrong = ctx
        .transferred
        .iter()
        .filter_map(|t| Some((t, t.wrong.clone()?)));
    wrong
        .map(|(t, words)| {
            let level = if t.stop {
                Severity::Stop
            } else {
                Severity::Look
            };
            Finding::new(format!("transferred.{}", t.id), level, "parts", words)
                .rule(
                    "bolt + twice what the mark may be off, which 95 of 100 are not; a bolt's diameter of wood beside it",
                    "Rayleigh distribution; the wood beside it is common practice, no source",
                )
                .show("parts", t.board.as_str())
        })
        .collect()
}
