//! Is the bay known where the deck is?

use super::{Ctx, Finding, Severity};
use crate::build::deck::SIGMAS;
use crate::project::survey::Side;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.decks {
        let Some(worked) = d.worked else {
            if let Some(u) = d.deck.underside
                && ctx.model.bay(0.0).is_some()
            {
                out.push(
                    Finding::new(
                        format!("no-room.{}", d.id),
                        Severity::Stop,
                        "layout",
                        format!("Nothing of the {} is left at {}: walls, wells and clearance take up the whole bay.", d.deck.name, ctx.w.say(u)),
                    )
                    .rule("bay less things in the way, less clearance", "geometry"),
                );
            }
            continue;
        };
        if let Some(highest) = worked.held {
            out.push(
                Finding::new(
                    format!("held.{}", d.id),
                    Severity::Look,
                    "survey",
                    format!(
                        "The walls were measured up to {}, the {} is above that. One more row of wall readings at its height makes it sure.",
                        ctx.w.say(highest),
                        d.deck.name
                    ),
                )
                .rule("walls are held as they are beyond the last reading", "a choice")
                .offer(
                    format!("Ask for the walls at {}", worked.plan.underside.mm),
                    "a few more readings".into(),
                    serde_json::json!([{ "op": "add",
                        "path": format!("/survey/levels/l{:.0}", worked.plan.underside.value),
                        "value": { "z": worked.plan.underside.value.round(), "name": "deck" } }]),
                ),
            );
        }
        if worked.free_pieces > 1 {
            out.push(Finding::new(
                format!("pieces.{}", d.id),
                Severity::Look,
                "layout",
                format!(
                    "At this height the free space falls into {} separate pieces.",
                    worked.free_pieces
                ),
            ));
        }
        // A well whose top is within the doubt of the underside.
        for o in ctx.model.things() {
            let gap = worked.plan.underside.value - o.z.1;
            if gap >= 0.0 && gap < SIGMAS * o.sd {
                out.push(
                    Finding::new(
                        format!("well-top.{}.{}", d.id, o.id),
                        Severity::Look,
                        "heights",
                        format!(
                            "The {} passes {} over the {}: less than the readings are sure of.",
                            d.deck.name,
                            ctx.w.say(gap),
                            o.name
                        ),
                    )
                    .rule("clear by three times the noise", "a choice")
                    .show("layout", o.id.clone()),
                );
            }
        }
    }
    let counts = Side::BOTH.map(|s| ctx.model.stations(s).len());
    if counts.contains(&1) {
        out.push(
            Finding::new(
                "one-station",
                Severity::Look,
                "survey",
                "One wall has a single station: it is taken as straight and parallel.".into(),
            )
            .rule(
                "walls are smooth between stations, straight between ridges",
                "a choice",
            ),
        );
    }
    out
}
