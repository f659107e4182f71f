//! Can every screw be driven as the pieces are put together?

use super::{Ctx, Finding, Severity, set};
use crate::input::escape;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let stuck = ctx.assembly.iter().filter_map(|a| {
        let lines: Vec<&String> = a.steps.iter().flat_map(|s| &s.stuck).collect();
        (!lines.is_empty()).then_some((a, lines))
    });
    stuck
        .map(|(a, lines)| {
            let more = match lines.len() {
                1 => String::new(),
                n => format!(" {} more in its steps.", n - 1),
            };
            let sentence = format!("Putting together the {}: {}.{more}", a.name, lines[0]);
            let mut f = Finding::new(format!("tool.{}", a.module), Severity::Look, "parts", sentence)
                .rule(
                    "before a screw's head 180 mm are free of what is there already, or 70 for an angle driver",
                    "boards as solids, in the order of the steps; the lengths are choices",
                )
                .show("parts", a.module.clone());
            let others = ctx.built.get(&a.module).into_iter().flat_map(|b| &b.joining);
            for ease in others {
                let at = format!("/modules/{}{}", escape(&a.module), ease.pointer);
                f = f.offer(ease.label.clone(), ease.cost.clone(), set(at, ease.value.clone()));
            }
            f
        })
        .collect()
}
