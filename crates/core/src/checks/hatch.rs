//! Hatches in a deck: is there room for them, and how are they reached?

use super::{Ctx, Finding, PlatformCtx, Severity, set};
use crate::furniture::platform::{Dial, Refused};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms.iter().filter(|d| d.platform.hatch.wanted) {
        let Some(worked) = d.worked else { continue };
        let name = &d.platform.name;
        out.extend(worked.refused.iter().map(|r| refused(ctx, d.id, name, r)));
        if !d.platform.hatch.placed.is_empty() && d.platform.surface.slats.is_none() {
            out.extend(placed(d, worked.hatches));
            continue;
        }
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

/// A hatch that cannot be where it is wanted, and the nearest place where it can.
fn refused(ctx: &Ctx, deck: &str, name: &str, r: &Refused) -> Finding {
    let words = format!("{} of the {name} has no room there: {}.", r.name, r.why);
    let mut f = Finding::new(
        format!("hatch-place.{deck}.{}", r.id),
        Severity::Look,
        "layout",
        words,
    )
    .rule(
        "a rim is left round the hole, and the supports are kept clear",
        "a choice",
    )
    .show("layout", deck.to_string());
    if let Some(x) = r.room {
        f = f.offer(
            format!("Begin it {} from the threshold", ctx.w.say(x)),
            "the nearest place along the vehicle where it has room".into(),
            set(r.pointer.clone(), x.into()),
        );
    }
    f
}

/// Those that are where they were wanted.
fn placed(d: &PlatformCtx, n: usize) -> Option<Finding> {
    let name = &d.platform.name;
    let hatches = if n == 1 { "hatch" } else { "hatches" };
    let words = format!("{n} {hatches} in the {name}: reached with the mattress rolled back.");
    (n > 0).then(|| {
        Finding::new(format!("hatch.{}", d.id), Severity::Fine, "layout", words)
            .rule(
                "a rim is left round the hole, and the supports are kept clear",
                "a choice",
            )
            .show("layout", d.id.to_string())
    })
}
