//! Where other furniture leaves no room for a support: does the deck bridge that?

use super::{Ctx, DeckCtx, Finding, Severity, set};
use crate::furniture::deck::gaps::Bridge;
use crate::input::escape;

/// Boards of a deck come in steps of this, mm, and are made no thicker than so many of them (a choice).
const STEP: f64 = 3.0;
const STEPS: usize = 5;
/// Nothing is made lower than this to let a frame pass, mm (a choice).
const LOWEST: f64 = 120.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    ctx.decks.iter().filter_map(|d| worst(ctx, d)).collect()
}

fn worst(ctx: &Ctx, d: &DeckCtx) -> Option<Finding> {
    let all = d.worked?.bridges.iter();
    let bends = |b: &Bridge| b.sag.knee.max_deflection;
    let (bridge, over) = all.max_by(|a, b| bends(&a.0).total_cmp(&bends(&b.0)))?;
    let limits = &d.deck.limits;
    let way = if bridge.across { "across" } else { "along" };
    let ok = bridge.sag.ok(d.deck);
    let level = if ok { Severity::Fine } else { Severity::Stop };
    let knee = bends(bridge);
    let sentence = format!(
        "Over the {} no support carries the {}, {} in: it bridges {} {way} the bay and sags {} under one knee there, limit {}.",
        over.name,
        d.deck.name,
        ctx.w.say(bridge.gap.x),
        ctx.w.say(bridge.sag.span.round()),
        ctx.w.say(knee),
        ctx.w.say(limits.knee),
    );
    let mut f = Finding::new(format!("bridge.{}", d.id), level, "layout", sentence)
        .rule(
            format!(
                "{:.0} N on the board between what carries it; an end that is free counts as 2.5 times as long (16^(1/3)); span over {:.0} at the least under sleepers",
                d.worked?.burden.knee, limits.span_over
            ),
            "beam on two ends and cantilever, Euler-Bernoulli; limit is a choice",
        )
        .numbers(vec![
            ctx.w.step("", format!("bridged, {way}"), bridge.sag.span),
            ctx.w.step("", "sag under a knee", knee),
        ])
        .show("layout", "spans");
    if ok {
        return Some(f);
    }
    // Lower, and a frame passes over it.
    let of = ctx.project.modules.get(&over.id);
    let height = of.and_then(|m| m.choices.get("height")?.as_f64());
    let lower = height.filter(|_| over.lower > 0.0);
    let lower = lower.map(|h| (h - over.lower - 1.0).floor());
    if let (Some(new), Some(old)) = (lower.filter(|h| *h >= LOWEST), height) {
        let pointer = format!("/modules/{}/choices/height", escape(&over.id));
        f = f.offer(
            format!("{} {} lower", over.name, ctx.w.say(old - new)),
            "a frame of the deck passes over it; it holds less".into(),
            set(pointer, new.into()),
        );
    }
    // The sag goes with the third power of the thickness.
    let holds = |t: f64| {
        let less = (d.deck.thickness / t).powi(3);
        let over = bridge.sag.sleepers.span_over.map(|s| s / less);
        knee * less <= limits.knee && over.is_none_or(|s| s >= limits.span_over)
    };
    let mut thicker = (1..=STEPS).map(|n| d.deck.thickness + STEP * n as f64);
    if let Some(t) = thicker.find(|t| holds(*t)) {
        f = f.offer(
            format!("{} board", ctx.w.say(t)),
            format!(
                "{:.0} % heavier; what stands under it has less height",
                100.0 * (t / d.deck.thickness - 1.0)
            ),
            set(d.at("thickness"), t.into()),
        );
    }
    Some(f)
}
