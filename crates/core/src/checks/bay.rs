//! Is the bay known where the deck is?

use super::{Ctx, Finding, Severity};
use crate::furniture::deck::SIGMAS;
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
        if let (true, Some(highest)) = (worked.beyond, ctx.model.highest()) {
            out.push(
                Finding::new(
                    format!("beyond.{}", d.id),
                    Severity::Stop,
                    "survey",
                    format!(
                        "The walls were not measured at the height of the {}: {} is the highest, and the doubt grows with every step past it. Measure there before cutting.",
                        d.deck.name,
                        ctx.w.say(highest)
                    ),
                )
                .rule("past what was read a wall is doubted by at least 1 in 100", "a choice")
                .offer(
                    format!("Ask for the walls at {}", ctx.w.say(worked.plan.underside.value)),
                    "a row of readings on each side".into(),
                    ask_at(worked.plan.underside.value),
                ),
            );
        } else if let Some(highest) = worked.held {
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
                .rule("past what was read a wall keeps its lean and is doubted more", "a choice")
                .offer(
                    format!("Ask for the walls at {}", ctx.w.say(worked.plan.underside.value)),
                    "a few more readings".into(),
                    ask_at(worked.plan.underside.value),
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

/// The edit that asks for the walls at a height.
fn ask_at(z: f64) -> serde_json::Value {
    serde_json::json!([{ "op": "add",
        "path": format!("/survey/levels/l{z:.0}"),
        "value": { "z": z.round(), "name": "deck" } }])
}
