//! Can it be got at with the bed made, or from the seats?

use super::{Ctx, Finding, Severity, set};
use crate::project::gear::Reach;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms.iter().filter(|d| d.worked.is_some()) {
        for (id, g) in ctx.project.gear.iter().filter(|(_, g)| g.under_deck) {
            let when = match g.reach {
                Reach::Never => continue,
                Reach::Driving => "while driving",
                Reach::Asleep => "with the bed made",
            };
            out.push(
                Finding::new(
                    format!("reach.{id}"),
                    Severity::Look,
                    "stow",
                    format!(
                        "{} must be in reach {when}, but stands under the {}: from behind only. Put it beside the bed or nearest to you.",
                        g.name, d.platform.name
                    ),
                )
                .rule("what stands under a closed deck is reached from its ends", "common practice, no source")
                .show("stow", id.clone())
                .offer(
                    format!("Keep {} beside the bed", g.name),
                    "it no longer takes room under the deck".into(),
                    set(format!("/gear/{}/under_deck", crate::input::escape(id)), false.into()),
                ),
            );
        }
    }
    out
}
