//! Does the deck hold two sleepers and one knee, and do ledger rails hold the deck?

use super::{Ctx, Finding, PlatformCtx, Severity};
use crate::furniture::platform::parting::bounds;
use crate::furniture::platform::span::{KNEE_WIDTH, SLEEPER_WIDTH};
use crate::furniture::platform::{Dial, Manner};
use crate::mechanics::beam::{Beam, Load};
use crate::mechanics::material::Grain;
use crate::project::stock::thicker;

const FORMULA: &str = "continuous beam over its supports, Euler-Bernoulli; limit is a choice";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        out.extend(panel(ctx, d));
        out.extend(rails(ctx, d));
    }
    out
}

fn panel(ctx: &Ctx, d: &PlatformCtx) -> Vec<Finding> {
    let Some(worked) = d.worked else {
        return vec![];
    };
    let Some(sag) = &worked.sag else {
        return vec![];
    };
    let limits = &d.platform.surface.limits;
    let stuff = ctx
        .project
        .material(&d.platform.surface.material)
        .map_or(String::new(), |m| format!("{} ({})", m.name, m.source));
    let offers = |mut f: Finding| {
        let lines = worked.lines.len();
        f = f.offer(
            "Add a support".into(),
            format!("{} lines instead of {lines}", lines + 1),
            d.set(Dial::Lines, (lines + 1).into()),
        );
        let sold = thicker(ctx.w.system, d.platform.surface.thickness);
        let thicker = sold
            .first()
            .copied()
            .unwrap_or(d.platform.surface.thickness + 3.0);
        let times = (thicker / d.platform.surface.thickness).powi(3);
        f.offer(
            format!("{} board", ctx.w.say(thicker)),
            format!(
                "{times:.1} times as stiff, {:.0} % heavier",
                100.0 * (thicker / d.platform.surface.thickness - 1.0)
            ),
            d.set(Dial::Thickness, thicker.into()),
        )
    };
    let over = sag.sleepers.span_over.unwrap_or(f64::INFINITY);
    let lying = Finding::new(
        format!("sag.sleepers.{}", d.id),
        if over < limits.span_over {
            Severity::Stop
        } else {
            Severity::Fine
        },
        "layout",
        format!(
            "Sags {} under the sleepers over {} (span over {over:.0}, limit {:.0}).",
            ctx.w.say(sag.sleepers.max_deflection),
            ctx.w.say(sag.span),
            limits.span_over
        ),
    )
    .rule(
        format!(
            "{:.2} N/mm along each body on {} of board; {stuff}",
            worked.burden.q,
            ctx.w.say(SLEEPER_WIDTH)
        ),
        FORMULA,
    )
    .numbers(vec![
        ctx.w.step("", "longest span", sag.span),
        ctx.w.step("", "sag", sag.sleepers.max_deflection),
    ])
    .show("layout", "spans");
    let knee = Finding::new(
        format!("sag.knee.{}", d.id),
        if sag.knee.max_deflection > limits.knee {
            Severity::Stop
        } else {
            Severity::Fine
        },
        "layout",
        format!(
            "Sags {} under one knee, limit {}.",
            ctx.w.say(sag.knee.max_deflection),
            ctx.w.say(limits.knee)
        ),
    )
    .rule(
        format!(
            "{:.0} N in mid span on {} of board; {stuff}",
            worked.burden.knee,
            ctx.w.say(KNEE_WIDTH)
        ),
        FORMULA,
    )
    .numbers(vec![
        ctx.w.step("", "longest span", sag.span),
        ctx.w.step("", "sag", sag.knee.max_deflection),
    ])
    .show("layout", "spans");
    [lying, knee]
        .into_iter()
        .map(|f| {
            if f.level == Severity::Stop {
                offers(f)
            } else {
                f
            }
        })
        .collect()
}

/// A rail from ledger to ledger carries half a span of deck on each side.
fn rails(ctx: &Ctx, d: &PlatformCtx) -> Vec<Finding> {
    let Some(worked) = d.worked else {
        return vec![];
    };
    let supports = &d.platform.stands;
    if supports.manner != Manner::Ledgers {
        return vec![];
    }
    let e = ctx
        .project
        .material(&supports.material)
        .and_then(|m| m.modulus(supports.thickness, Grain::Along));
    let Some(e) = e else { return vec![] };
    let (_, y0, _, y1) = bounds(&worked.plan.panels);
    let (span, tributary) = (y1 - y0, worked.sag.as_ref().map_or(0.0, |s| s.span));
    let people = ctx.project.people.len().max(1) as f64;
    // All sleepers side by side over the rail.
    let q = worked.burden.q * people * tributary / span;
    let beam = Beam {
        spans: vec![span],
        width: supports.thickness,
        depth: d.platform.stands.deep,
        e,
        loads: vec![Load::Uniform {
            q,
            from: 0.0,
            to: span,
        }],
    };
    let Some(bent) = beam.bend() else {
        return vec![];
    };
    let over = bent.span_over.unwrap_or(f64::INFINITY);
    let bad = over < d.platform.surface.limits.span_over;
    let mut f = Finding::new(
        format!("sag.rail.{}", d.id),
        if bad { Severity::Stop } else { Severity::Fine },
        "layout",
        format!(
            "A rail {} deep from wall to wall sags {} over {} (span over {over:.0}, limit {:.0}).",
            ctx.w.say(d.platform.stands.deep),
            ctx.w.say(bent.max_deflection),
            ctx.w.say(span),
            d.platform.surface.limits.span_over
        ),
    )
    .rule(
        "5 q L^4 / 384 E I on the rail's share of the sleepers",
        FORMULA,
    )
    .numbers(vec![
        ctx.w.step("", "span", span),
        ctx.w.step("", "sag", bent.max_deflection),
    ]);
    if bad {
        f = f
            .offer(
                "Stand it on legs".into(),
                "a leg in the middle halves the span".into(),
                d.set(Dial::Manner, "legs".into()),
            )
            .offer(
                "Frames instead of rails".into(),
                "they divide the room below".into(),
                d.set(Dial::Manner, "frames".into()),
            );
    }
    vec![f]
}
