//! Where other furniture leaves no room for a support: does the deck bridge that?

use super::{Ctx, Finding, PlatformCtx, Severity, set};
use crate::furniture::platform::Dial;
use crate::furniture::platform::gaps::{Bridge, Gap, Under};
use crate::geometry::region::Region;
use crate::input::escape;
use crate::mechanics::material::Grain;
use crate::project::stock::thicker;
use crate::solids::Solid;

/// Nothing is made lower than this to let a frame pass, mm (a choice).
const LOWEST: f64 = 120.0;

/// Furniture whose top is no further below the deck than this carries it, mm: the deck comes down on it when it is lain on (a choice).
const CARRIES: f64 = 2.0;

/// What carries a deck within a hand's breadth of where a support would stand takes its place, mm (a choice).
const HAND: f64 = 100.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    ctx.platforms
        .iter()
        .flat_map(|d| judged(ctx, d).unwrap_or_default())
        .collect()
}

/// The boards of other pieces that reach up to the deck, in plan: four posts carry it at four places.
fn tops(ctx: &Ctx, d: &PlatformCtx, underside: f64) -> Vec<Region> {
    let others = ctx.boards.iter().filter(|b| b.module != d.id);
    let boxes = others.map(|b| Solid::at(b, b.shut));
    let up = boxes.filter(|s| (-0.1..=CARRIES).contains(&(underside - s.high[2])));
    up.map(|s| Region::rectangle(s.low[0], s.low[1], s.high[0], s.high[1]))
        .collect()
}

/// The worst place that it bridges, and the first that nothing bridges.
fn judged(ctx: &Ctx, d: &PlatformCtx) -> Option<Vec<Finding>> {
    let worked = d.worked?;
    let material = ctx.project.material(&d.platform.surface.material)?;
    let e =
        [Grain::Along, Grain::Across].map(|g| material.modulus(d.platform.surface.thickness, g));
    let e = (e[0]?, e[1]?);
    let lines = worked
        .carried
        .with(&tops(ctx, d, d.platform.underside?), HAND);
    let mut bridged: Vec<(Bridge, &Under)> = Vec::new();
    let mut open: Vec<(Gap, &Under)> = Vec::new();
    for gap in lines.gaps() {
        let Some(over) = lines.under(gap) else {
            continue;
        };
        match lines.bridge(&d.platform.surface, gap, e, &worked.burden) {
            Some(bridge) => bridged.push((bridge, over)),
            None => open.push((gap, over)),
        }
    }
    let bends = |b: &Bridge| b.sag.knee.max_deflection;
    let worst = bridged.iter();
    let worst = worst.max_by(|a, b| bends(&a.0).total_cmp(&bends(&b.0)));
    let worst = worst.map(|(bridge, over)| bends_at(ctx, d, bridge, over));
    let open = open.first().map(|(gap, over)| hangs(ctx, d, *gap, over));
    Some(worst.into_iter().chain(open).collect())
}

/// No board goes through there from one support to the next.
fn hangs(ctx: &Ctx, d: &PlatformCtx, gap: Gap, over: &Under) -> Finding {
    let sentence = format!(
        "Over the {} no support carries the {}, {} from the threshold, and no board of it goes through there from one support to the next: {} of it hang in the air.",
        over.name,
        d.platform.name,
        ctx.w.say(gap.x),
        ctx.w.say((gap.y.1 - gap.y.0).round()),
    );
    let f = Finding::new(
        format!("bridge.hangs.{}", d.id),
        Severity::Stop,
        "layout",
        sentence,
    );
    let f = f
        .rule("a board lies on two supports at least", "a choice")
        .show("layout", "spans");
    lower(ctx, f, over)
}

/// With the offer to make the furniture lower, so that a frame passes over it.
fn lower(ctx: &Ctx, f: Finding, over: &Under) -> Finding {
    let of = ctx.project.modules.get(&over.id);
    let height = of.and_then(|m| m.choices.get("height")?.as_f64());
    let Some(old) = height.filter(|_| over.lower > 0.0) else {
        return f;
    };
    let new = (old - over.lower - 1.0).floor();
    if new < LOWEST {
        return f;
    }
    f.offer(
        format!("{} {} lower", over.name, ctx.w.say(old - new)),
        "a frame of the deck passes over it; it holds less".into(),
        set(
            format!("/modules/{}/choices/height", escape(&over.id)),
            new.into(),
        ),
    )
}

/// How it bends where it bridges.
fn bends_at(ctx: &Ctx, d: &PlatformCtx, bridge: &Bridge, over: &Under) -> Finding {
    let limits = &d.platform.surface.limits;
    let way = if bridge.across { "across" } else { "along" };
    let ok = bridge.sag.ok(limits);
    let level = if ok { Severity::Fine } else { Severity::Stop };
    let knee = bridge.sag.knee.max_deflection;
    let force = d.worked.map_or(0.0, |w| w.burden.knee);
    let sentence = format!(
        "Over the {} no support carries the {}, {} from the threshold: it bridges {} {way} the bay and sags {} under one knee there, limit {}.",
        over.name,
        d.platform.name,
        ctx.w.say(bridge.gap.x),
        ctx.w.say(bridge.sag.span.round()),
        ctx.w.say(knee),
        ctx.w.say(limits.knee),
    );
    let mut f = Finding::new(format!("bridge.{}", d.id), level, "layout", sentence)
        .rule(
            format!(
                "{:.0} N on the board between what carries it; an end that is free counts as 2.5 times as long (16^(1/3)); span over {:.0} at the least under sleepers",
                force, limits.span_over
            ),
            "beam on two ends and cantilever, Euler-Bernoulli; limit is a choice",
        )
        .numbers(vec![
            ctx.w.step("", format!("bridged, {way}"), bridge.sag.span),
            ctx.w.step("", "sag under a knee", knee),
        ])
        .show("layout", "spans");
    if ok {
        return f;
    }
    f = lower(ctx, f, over);
    // The sag goes with the third power of the thickness.
    let holds = |t: f64| {
        let less = (d.platform.surface.thickness / t).powi(3);
        let over = bridge.sag.sleepers.span_over.map(|s| s / less);
        knee * less <= limits.knee && over.is_none_or(|s| s >= limits.span_over)
    };
    let sold = thicker(ctx.w.system, d.platform.surface.thickness);
    if let Some(t) = sold.into_iter().find(|t| holds(*t)) {
        f = f.offer(
            format!("{} board", ctx.w.say(t)),
            format!(
                "{:.0} % heavier; what stands under it has less height",
                100.0 * (t / d.platform.surface.thickness - 1.0)
            ),
            d.set(Dial::Thickness, t.into()),
        );
    }
    f
}
