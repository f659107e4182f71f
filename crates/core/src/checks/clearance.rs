//! Is the clearance worth more than the noise of the readings behind it?

use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Dial;
use crate::template::fill::CLEAR;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let Some(worked) = d.worked else { continue };
        let needed = CLEAR * worked.sd + d.platform.finish;
        let numbers = vec![
            ctx.w.step("", "clearance", worked.clearance),
            ctx.w.step(
                "",
                format!("{CLEAR} x ±{} of the readings", ctx.w.say(worked.sd)),
                CLEAR * worked.sd,
            ),
            ctx.w.step("+", "finish on the edge", d.platform.finish),
        ];
        let rule = "clearance at least 2.3 times the doubt of the edge, and the finish; beside it every edge leans to the small side by 0.7 times the doubt";
        if worked.clearance + 1e-9 < needed {
            out.push(
                Finding::new(
                    format!("clearance.{}", d.id),
                    Severity::Look,
                    "layout",
                    format!(
                        "The {} is cut {} clear, but the readings are only good for {}. Expect to plane it, or measure again.",
                        d.platform.name,
                        ctx.w.say(worked.clearance),
                        ctx.w.say(needed)
                    ),
                )
                .rule(rule, "three standard deviations, a choice")
                .numbers(numbers)
                .offer(
                    "Let the readings choose".into(),
                    format!("{} all round", ctx.w.say(needed)),
                    d.set(Dial::Clearance, serde_json::Value::Null),
                ),
            );
        } else {
            out.push(
                Finding::new(
                    format!("clearance.{}", d.id),
                    Severity::Fine,
                    "layout",
                    format!(
                        "Cut {} clear of the walls: the readings' doubt and the finish.",
                        ctx.w.say(worked.clearance)
                    ),
                )
                .rule(rule, "three standard deviations, a choice")
                .numbers(numbers),
            );
        }
    }
    out
}
