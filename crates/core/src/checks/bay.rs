//! Is the bay known where furniture is, and is there room for the deck?

use std::collections::BTreeMap;

use super::{Ctx, Finding, Severity};
use crate::project::survey::Side;
use crate::solids::boxes;
use crate::template::fill::SIGMAS;

/// So far past what was read walls still count as read, mm (a choice).
const NEAR_ENOUGH: f64 = 50.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out: Vec<Finding> = heights(ctx)
        .into_iter()
        .filter_map(|(id, z)| unread(ctx, id, z))
        .collect();
    for d in ctx.platforms {
        let Some(worked) = d.worked else {
            if let Some(u) = d.platform.underside
                && ctx.model.bay(0.0).is_some()
            {
                out.push(
                    Finding::new(
                        format!("no-room.{}", d.id),
                        Severity::Stop,
                        "layout",
                        format!("Nothing of the {} is left at {}: walls, wells and clearance take up the whole bay.", d.platform.name, ctx.w.say(u)),
                    )
                    .rule("bay less things in the way, less clearance", "geometry"),
                );
            }
            continue;
        };
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
            if gap >= 0.0 && gap < SIGMAS * o.top_sd {
                out.push(
                    Finding::new(
                        format!("well-top.{}.{}", d.id, o.id),
                        Severity::Look,
                        "heights",
                        format!(
                            "The {} passes {} over the {}: less than the readings are sure of.",
                            d.platform.name,
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

/// The height at which each piece needs the walls: a deck its underside, others their highest edge.
fn heights<'a>(ctx: &Ctx<'a>) -> Vec<(&'a str, f64)> {
    let boxes = boxes(ctx.boards).into_iter();
    let mut tops: BTreeMap<&str, f64> = boxes.map(|(id, b)| (id, b.1[2])).collect();
    for d in ctx.platforms {
        if let (Some(_), Some(underside)) = (d.worked, d.platform.underside) {
            tops.insert(d.id, underside);
        }
    }
    tops.into_iter().collect()
}

/// Were the walls read at the height that a piece needs?
fn unread(ctx: &Ctx, id: &str, z: f64) -> Option<Finding> {
    let highest = ctx.model.highest()?;
    if z <= highest + NEAR_ENOUGH {
        return None;
    }
    let name = ctx
        .project
        .modules
        .get(id)
        .map_or(id.to_string(), |m| m.called());
    let beyond = ctx.model.is_beyond(z);
    let sentence = if beyond {
        format!(
            "The walls were not measured at the height of the {name}: {} is the highest, and the doubt grows with every step past it. Measure there before cutting.",
            ctx.w.say(highest)
        )
    } else {
        format!(
            "The walls were measured up to {}, the {name} is above that. One more row of wall readings at its height makes it sure.",
            ctx.w.say(highest)
        )
    };
    let (check, level) = match beyond {
        true => ("beyond", Severity::Stop),
        false => ("held", Severity::Look),
    };
    Some(
        Finding::new(format!("{check}.{id}"), level, "survey", sentence)
            .rule(
                "past what was read a wall keeps its lean and is doubted by at least 1 in 100",
                "a choice",
            )
            .offer(
                format!("Ask for the walls at {}", ctx.w.say(z)),
                "a row of readings on each side".into(),
                ask_at(z),
            ),
    )
}

/// The edit that asks for the walls at a height.
fn ask_at(z: f64) -> serde_json::Value {
    serde_json::json!([{ "op": "add",
        "path": format!("/survey/levels/l{z:.0}"),
        "value": { "z": z.round(), "name": "furniture" } }])
}
