//! Air under the mattress.

use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Dial;
use crate::furniture::platform::vents::wanted;

const SOURCE: &str = "twelve holes in a bed of 60 x 80 in: common practice, no source";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let Some(worked) = d.worked else { continue };
        let id = format!("air.{}", d.id);
        if let Some(slats) = d.platform.surface.slats {
            out.push(
                Finding::new(
                    id,
                    Severity::Fine,
                    "layout",
                    format!(
                        "Slats leave {:.0} % open under the mattress.",
                        100.0 * (1.0 - slats.share())
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
        let sentence = format!(
            "{have} vent holes under the mattress; {want} wanted for the {}.",
            d.platform.name
        );
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
                d.set(Dial::Top, "slats".into()),
            );
        }
        out.push(f);
    }
    out
}
