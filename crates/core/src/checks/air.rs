//! Air under the mattress.

use super::{Ctx, Finding, Severity, set};
use crate::furniture::deck::vents::wanted;
use crate::project::deck::Top;

const SOURCE: &str = "twelve holes in a bed of 60 x 80 in: common practice, no source";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.decks {
        let Some(worked) = d.worked else { continue };
        let id = format!("air.{}", d.id);
        if d.deck.top == Top::Slats {
            let share = d.deck.slat_gap / (d.deck.slat_gap + d.deck.slat_width);
            out.push(
                Finding::new(
                    id,
                    Severity::Fine,
                    "layout",
                    format!(
                        "Slats leave {:.0} % open under the mattress.",
                        100.0 * share
                    ),
                )
                .rule(
                    "slats ventilate better than holes",
                    "common practice, no source",
                ),
            );
            continue;
        }
        let (have, want) = (worked.plan.vents.len(), wanted(worked.plan.area));
        let sentence =
            format!("{have} vent holes under the mattress; {want} wanted for this deck.");
        let mut f = Finding::new(
            id,
            if have < want {
                Severity::Look
            } else {
                Severity::Fine
            },
            "layout",
            sentence,
        )
        .rule("one hole of 32 mm for each twelfth of 60 x 80 in", SOURCE);
        if have < want {
            f = f.offer(
                "Slats instead".into(),
                "better air, more parts".into(),
                set(d.at("top"), "slats".into()),
            );
        }
        out.push(f);
    }
    out
}
