//! Lids by hand: what lifts one, what keeps it up, and which strut would.

use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::Body;
use crate::furniture::kit::lid::{Lift, Stay};
use crate::input::escape;
use crate::mechanics::strut::HAND;

/// One hand lifts so much at a lid's edge while the other finds the prop, N (a choice: 10 kg).
const HEAVY: f64 = 100.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    let mut easy = Vec::new();
    for (module, built) in ctx.built {
        for lift in &built.lifts {
            let id = format!("{module}/{}", lift.body);
            let Some(body) = built.bodies.iter().find(|b| b.id == id) else {
                continue;
            };
            match judge(ctx, module, body, lift) {
                Ok(words) => easy.push(words),
                Err(finding) => out.push(*finding),
            }
        }
    }
    if !easy.is_empty() {
        let words = format!("Lids by hand, at their edge: {}.", easy.join("; "));
        out.push(Finding::new("lift", Severity::Fine, "layout", words).rule(
            format!("moments about the hinge; one hand lifts up to {HEAVY:.0} N, with struts {HAND:.0} N"),
            "statics; the limits are choices",
        ));
    }
    out
}

/// What it takes, in words; a finding where that is too much, or where nothing holds it.
fn judge(ctx: &Ctx, module: &str, body: &Body, lift: &Lift) -> Result<String, Box<Finding>> {
    let w = ctx.w;
    let name = &body.name;
    if let Some(c) = lift.strut {
        let how = if lift.pair { "two struts" } else { "a strut" };
        return Ok(format!(
            "{name} {}, {how} of {}, {} to shut it",
            w.force(c.lift.max(0.0)),
            w.force(c.strut.force),
            w.force(c.pull)
        ));
    }
    let hand = lift.lid.hand_force(0.0);
    let finding = |what: String| {
        let mut f = Finding::new(format!("lift.{}", body.id), Severity::Look, "layout", what)
            .rule(
                format!("moments about the hinge; one hand lifts up to {HEAVY:.0} N"),
                "statics; the limit is a choice",
            )
            .show("layout", module);
        let at = || format!("/modules/{}{}", escape(module), lift.pointer);
        if lift.pointer.is_empty() {
            return f;
        }
        f = match lift.stay {
            Stay::Strut => f.offer(
                "A prop instead".into(),
                "a hand has to put it in".into(),
                set(at(), "prop".into()),
            ),
            _ => f.offer(
                "Gas struts".into(),
                "chosen to suit the lid; cost more than a prop".into(),
                set(at(), "strut".into()),
            ),
        };
        f
    };
    if lift.stay == Stay::Strut {
        let words = format!(
            "No gas strut of the usual sizes suits the {name}: it has to lie in the box when shut, open the lid far enough, and leave a hand at most {} of work. It gets a prop.",
            w.force(HAND)
        );
        return Err(Box::new(finding(words)));
    }
    if hand > HEAVY {
        let words = format!(
            "The {name} weighs {}: {} at its edge lift it, with one hand while the other finds what holds it.",
            w.mass(lift.lid.mass),
            w.force(hand)
        );
        return Err(Box::new(finding(words)));
    }
    let by = match lift.stay {
        Stay::Strap => "a strap",
        _ => "a prop",
    };
    Ok(format!("{name} {}, {by}", w.force(hand)))
}
