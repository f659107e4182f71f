//! Has the deck something to stand on everywhere, and do its pieces have something to lie on?

use super::{Ctx, Finding, PlatformCtx, Severity};
use crate::furniture::platform::{Dial, Manner, Overhang, Split};

/// A board may stick out so far beyond its last support, mm (a choice).
const OVERHANG: f64 = 120.0;
/// A board that lies on less than this is likely to slip off, mm (a choice: half of 24).
const LEAST_REST: f64 = 12.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let Some(worked) = d.worked else { continue };
        if let Some((x, _)) = worked.missing.first() {
            let places: Vec<String> = worked
                .missing
                .iter()
                .map(|(x, side)| match *side {
                    "" => format!("{} from the threshold", ctx.w.say(*x)),
                    side => format!("{} from the threshold, {side}", ctx.w.say(*x)),
                })
                .collect();
            let hung = d.platform.stands.manner == Manner::Ledgers;
            let rule = match hung {
                false => "each foot stands whole on floor, hump, step or folded seat",
                true => "a rail lies between two ledgers",
            };
            let mut f = Finding::new(
                format!("stand.{}", d.id),
                Severity::Stop,
                "layout",
                match hung {
                    false => format!(
                        "Nothing to stand on for the {} here: {}. Something is in the way that carries nothing, or there is no height left.",
                        d.platform.name,
                        places.join("; ")
                    ),
                    true => format!(
                        "A rail of the {} has no ledger to hang on here: {}. What comes up to the wall there leaves no room for one.",
                        d.platform.name,
                        places.join("; ")
                    ),
                },
            )
            .rule(rule, "a choice")
            .numbers(vec![ctx.w.step("", "first such place, from the threshold", *x)])
            .show("layout", d.id.to_string());
            if hung {
                f = f.offer(
                    "Carry it on legs".into(),
                    "legs stand on the floor, less room to push things in".into(),
                    d.set(Dial::Manner, "legs".into()),
                );
            } else {
                f = f.offer(
                    "Carry it on ledgers along the walls".into(),
                    "nothing stands on the floor".into(),
                    d.set(Dial::Manner, "ledgers".into()),
                );
            }
            out.push(f);
        }
        if worked.overhang.by > OVERHANG {
            out.push(sticks_out(ctx, d, worked.overhang));
        }
        if worked.left_out > 0 {
            out.push(
                Finding::new(
                    format!("left-out.{}", d.id),
                    Severity::Look,
                    "layout",
                    format!(
                        "{} of the {} would lie on one support only, because what stands below is narrower: left out.",
                        match worked.left_out {
                            1 => "One slat".to_string(),
                            n => format!("{n} slats"),
                        },
                        d.platform.name
                    ),
                )
                .rule("every slat lies on two supports at least", "a choice")
                .show("layout", d.id.to_string()),
            );
        }
        let rest = d.platform.rest.filter(|r| *r < LEAST_REST);
        if let Some(rest) = rest.filter(|_| !worked.parting.xs.is_empty()) {
            let f = Finding::new(
                format!("rest.{}", d.id),
                Severity::Look,
                "layout",
                format!(
                    "The pieces of the {} meet over one edge of {}: each has {} to lie on. Screw a batten along it, or they slip off.",
                    d.platform.name,
                    ctx.w.say(d.platform.stands.thickness),
                    ctx.w.say(rest)
                ),
            )
            .rule(
                format!("at least {} to lie on", ctx.w.say(LEAST_REST)),
                "a choice",
            )
            .show("layout", d.id.to_string())
            .offer(
                "Strips on both faces of that support".into(),
                "two more strips; each piece has their thickness more to lie on".into(),
                d.set(Dial::Rest, "strips".into()),
            )
            .offer(
                "Part it lengthwise instead".into(),
                "the joint runs across the supports; look whether it comes through the door".into(),
                d.set(Dial::Split, serde_json::json!(Split::Lengthwise)),
            );
            out.push(f);
        }
    }
    out
}

/// A board of the deck goes on beyond what carries it.
fn sticks_out(ctx: &Ctx, d: &PlatformCtx, over: Overhang) -> Finding {
    let end = if over.front { "front" } else { "rear" };
    let f = Finding::new(
        format!("overhang.{}", d.id),
        Severity::Look,
        "layout",
        format!(
            "The {} sticks out {} beyond what carries it, at the {end}: who kneels there lifts its other end. Put a leg there, or do not kneel.",
            d.platform.name,
            ctx.w.say(over.by.round())
        ),
    )
    .rule(
        format!("no more than {} past the last support", ctx.w.say(OVERHANG)),
        "a choice",
    )
    .show("layout", d.id.to_string());
    // It may end sooner. Whole millimetres, and no further out than allowed.
    let (dial, at) = if over.front {
        (Dial::To, (over.past + OVERHANG).floor())
    } else {
        (Dial::From, (over.past - OVERHANG).ceil())
    };
    let less = ctx.w.say((over.by - OVERHANG).round());
    f.offer(
        format!("End it {less} sooner at the {end}"),
        format!("{less} less to lie on"),
        d.set(dial, at.into()),
    )
}
