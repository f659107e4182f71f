//! What would rattle on the road: wood that lies on wood and is held by nothing.

use std::collections::BTreeMap;

use super::{Ctx, Finding, Severity};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut by: BTreeMap<String, f64> = BTreeMap::new();
    for j in ctx.joints.iter().filter(|j| j.loud) {
        let module = j.a.split('/').next().unwrap_or_default();
        let name = ctx
            .project
            .modules
            .get(module)
            .map_or(module.to_string(), |m| m.called());
        *by.entry(name).or_default() += j.length.value;
    }
    by.retain(|_, mm| *mm > 0.0);
    if by.is_empty() {
        return vec![];
    }
    let list: Vec<String> = by
        .iter()
        .map(|(name, mm)| format!("{name} {}", ctx.w.say(mm.round())))
        .collect();
    vec![
        Finding::new(
            "rattle",
            Severity::Fine,
            "parts",
            format!(
                "Wood lies loose on wood, or on metal, and rattles or creaks on the road. Felt or foam strip between: {}.",
                list.join(", ")
            ),
        )
        .rule(
            "as long as lids, doors and loose boards touch what they lie on",
            "strip or felt where wood meets wood: common practice, no source",
        ),
    ]
}
