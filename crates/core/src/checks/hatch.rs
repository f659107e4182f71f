//! Hatches in a deck: is there room for them, and how are they reached?

use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Dial;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms.iter().filter(|d| d.platform.hatch.wanted) {
        let Some(worked) = d.worked else { continue };
        let name = &d.platform.name;
        let (long, wide) = d.platform.hatch.size;
        let [long, wide] = [long, wide].map(|mm| ctx.w.say(mm));
        let (level, sentence) = match worked.hatches {
            _ if d.platform.surface.slats.is_some() => (
                Severity::Look,
                format!("The {name} is made of slats: it has no hatches, its slats lift out."),
            ),
            0 => (
                Severity::Look,
                format!(
                    "No hatch of {long} by {wide} has room in the {name}: between two supports there is too little, or its boards are too narrow."
                ),
            ),
            n => (
                Severity::Fine,
                format!(
                    "{n} {} of {long} by {wide} in the {name}: reached with the mattress rolled back.",
                    if n == 1 { "hatch" } else { "hatches" }
                ),
            ),
        };
        let mut f = Finding::new(format!("hatch.{}", d.id), level, "layout", sentence)
            .rule(
                "a rim is left round the hole, and the supports are kept clear",
                "a choice",
            )
            .show("layout", d.id.to_string());
        if worked.hatches == 0 && worked.lines.len() > 2 && d.platform.surface.slats.is_none() {
            f = f.offer(
                "One support less".into(),
                "the bays are longer; check the sag".into(),
                d.set(Dial::Lines, (worked.lines.len() - 1).into()),
            );
        }
        out.push(f);
    }
    out
}
