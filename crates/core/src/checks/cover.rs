//! Things a panel lies over though they must stay reachable, and things that want caution.

use super::{Ctx, Finding, Severity, set};
use crate::input::escape;
use crate::project::survey::Cover;
use crate::survey::drawing::capital;

const RULE: &str = "what must be reached is left open, what must not be touched is kept clear";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let Some(worked) = d.worked else { continue };
        for o in ctx.model.things().filter(|o| o.cover == Cover::Reach) {
            let plan = o.plan();
            let over = worked.plan.panels.iter().any(|p| !p.and(&plan).is_empty());
            if !over || o.z.1 > worked.plan.underside.value {
                continue;
            }
            out.push(
                Finding::new(
                    format!("cover.{}.{}", d.id, o.id),
                    Severity::Look,
                    "layout",
                    format!(
                        "The {} lies over the {}, which must stay reachable. Plan a hatch there.",
                        d.platform.name, o.name
                    ),
                )
                .rule(RULE, "your own mark on the thing")
                .numbers(vec![
                    ctx.w
                        .step("", "underside of the deck", worked.plan.underside.value),
                    ctx.w.step("", format!("top of the {}", o.name), o.z.1),
                ])
                .show("layout", o.id.clone())
                .offer(
                    "Keep the deck off it".into(),
                    "it is cut out round it".into(),
                    set(
                        format!("/survey/things/{}/cover", escape(&o.id)),
                        "keep".into(),
                    ),
                ),
            );
        }
    }
    for (id, t) in &ctx.project.survey.things {
        if let Some(words) = t.kind.caution() {
            out.push(
                Finding::new(
                    format!("thing-caution.{id}"),
                    Severity::Look,
                    "survey",
                    format!("{}: {words}", capital(&t.name)),
                )
                .rule(
                    "usual caution",
                    "defer to the vehicle maker and local rules",
                )
                .show("survey", id.clone()),
            );
        }
    }
    out
}
