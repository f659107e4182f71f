//! Who sits up on the made bed?

use super::{Ctx, Finding, Severity, cost_of_height};
use crate::furniture::platform::{DeckPlan, Dial};
use crate::project::survey::Side;

const SOURCE: &str =
    "sitting height from stature: ratio of published means, from memory; your own number if given";

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    for d in ctx.platforms {
        let (Some(u), Some(stack)) = (d.platform.underside, d.stack.as_ref()) else {
            continue;
        };
        let doubt = super::datum_doubt(ctx);
        for s in &stack.sitters {
            let most = stack.greatest_underside(s);
            let spare = most - u;
            let numbers = vec![
                ctx.w.step("", "floor to roof", stack.floor_to_roof),
                ctx.w.step(
                    "-",
                    "lining and air over the head",
                    stack.finish + stack.head_clearance,
                ),
                ctx.w.step("-", "seat", stack.at(u).seat),
                ctx.w.step("-", "sitting height", s.sitting),
                ctx.w.step("=", "over the head", spare),
            ];
            let finding = |level, sentence| {
                Finding::new(format!("sits.{}", s.id), level, "heights", sentence)
                    .rule("sitting height + air <= roof - lining - seat", SOURCE)
                    .numbers(numbers.clone())
                    .show("heights", s.id.clone())
            };
            if spare < 0.0 {
                let mut f = finding(
                    Severity::Stop,
                    format!(
                        "{} cannot sit up: {} too little.",
                        s.name,
                        ctx.w.say(-spare)
                    ),
                );
                if most >= 0.0 {
                    let to = most.floor();
                    f = f.offer(
                        format!("Lower the {} to {}", d.platform.name, ctx.w.say(to)),
                        cost_of_height(stack, u, to, &ctx.w),
                        d.set(Dial::Underside, to.into()),
                    );
                }
                out.push(f);
            } else if spare < doubt {
                let thinner = d.platform.surface.thickness - 3.0;
                let mut f = finding(
                    Severity::Look,
                    format!(
                        "{} sits up with {} to spare: less than the tape's doubt (±{}).",
                        s.name,
                        ctx.w.say(spare),
                        ctx.w.say(doubt)
                    ),
                );
                if thinner >= 12.0 {
                    f = f.offer(
                        format!(
                            "Deck {} instead of {}",
                            ctx.w.say(thinner),
                            ctx.w.say(d.platform.surface.thickness)
                        ),
                        format!("+{} over the head; more supports", ctx.w.say(3.0)),
                        d.set(Dial::Thickness, thinner.into()),
                    );
                }
                out.push(f);
            } else {
                out.push(finding(
                    Severity::Fine,
                    format!("{} sits up with {} to spare.", s.name, ctx.w.say(spare)),
                ));
            }
        }
        out.extend(length(ctx, d));
    }
    out
}

/// What a front seat slid forward would give to a bed along the vehicle: how long it becomes, and what bridges the gap.
fn bridged(ctx: &Ctx, (long, wanted): (f64, f64), deck: &DeckPlan) -> String {
    let seats = ctx.project.survey.seats.values();
    let travels = seats.filter_map(|s| Some((s.travel.filter(|t| *t > 0.0)?, &s.name)));
    let Some((travel, name)) = travels.max_by(|a, b| a.0.total_cmp(&b.0)) else {
        return String::new();
    };
    let gap = wanted - long;
    let top = deck.underside.value + deck.thickness.value;
    if gap <= travel {
        let slid = ctx.w.say(gap.ceil());
        let own = fills(ctx, gap, top).map_or_else(
            || {
                format!(
                    "something {slid} long and {} high before it, a box or a cooler,",
                    ctx.w.say(top)
                )
            },
            |(thing, size)| format!("{thing}, {size}, stood before it"),
        );
        format!(
            " With the {name} slid forward by {slid} it can be: {own} bridges the gap, and stays locked in until the bed is left."
        )
    } else {
        format!(
            " With the {name} all the way forward it becomes {}, if something {} high bridges the gap.",
            ctx.w.say(long + travel),
            ctx.w.say(top)
        )
    }
}

/// What of the stow list stands as high as the deck and is as long as the gap, standing as it should: its name and size.
fn fills(ctx: &Ctx, gap: f64, top: f64) -> Option<(String, String)> {
    /// So much lower than the deck it may be: the mattress is soft. Higher it may be by a touch (a choice).
    const LOWER: f64 = 25.0;
    const HIGHER: f64 = 5.0;
    /// A mattress bridges what then stays open, mm (a choice), as between two pieces.
    const OPEN: f64 = 60.0;
    let off = |h: f64| (top - h).abs();
    let all = ctx.project.gear.values().filter_map(|g| {
        let (w, d, h) = (g.w?, g.d?, g.h?);
        let level = (-HIGHER..=LOWER).contains(&(top - h));
        let turned = [w, d]
            .into_iter()
            .filter(|long| (gap - OPEN..=gap).contains(long));
        let long = turned.reduce(f64::max).filter(|_| level)?;
        Some((g, long, h))
    });
    let (g, long, h) = all.min_by(|a, b| off(a.2).total_cmp(&off(b.2)))?;
    let size = format!("{} long and {} high", ctx.w.say(long), ctx.w.say(h));
    Some((g.name.clone(), size))
}

/// Bed length: stature and about 12 cm (common practice, no source), along the bay.
fn length(ctx: &Ctx, d: &super::PlatformCtx) -> Vec<Finding> {
    const SPARE: f64 = 120.0;
    let Some(worked) = d.worked.filter(|_| !super::bed::is_part(ctx, d.id)) else {
        return vec![];
    };
    let (x0, _, x1, _) = crate::furniture::platform::parting::bounds(&worked.plan.panels);
    let across = ctx
        .model
        .wall(Side::Left, (x0 + x1) / 2.0, worked.plan.underside.value)
        .zip(
            ctx.model
                .wall(Side::Right, (x0 + x1) / 2.0, worked.plan.underside.value),
        )
        .map_or(0.0, |(l, r)| l.0 + r.0);
    // Whether it is folded out is asked elsewhere.
    let bed = (x1 - x0 + worked.leaf.unwrap_or(0.0)).max(across);
    let mut out = Vec::new();
    for (id, p) in &ctx.project.people {
        let Some(stature) = p.stature else { continue };
        if bed >= stature + SPARE {
            continue;
        }
        let level = if bed < stature {
            Severity::Stop
        } else {
            Severity::Look
        };
        let wanted = stature + SPARE;
        let told = match worked.leaf {
            Some(_) => String::new(),
            None => bridged(ctx, (x1 - x0, wanted), &worked.plan),
        };
        let f = Finding::new(
            format!("bed.{id}"),
            level,
            "layout",
            format!(
                "The bed is {} long, {} wants {}.{}",
                ctx.w.say(bed),
                p.name,
                ctx.w.say(wanted),
                told
            ),
        )
        .rule(
            "stature and about 12 cm, less in a pinch",
            "common practice, no source",
        )
        .numbers(vec![
            ctx.w.step("", "stature", stature),
            ctx.w.step("+", "pillow and toes", SPARE),
        ]);
        out.push(leaves(ctx, d, f, wanted - (x1 - x0)));
    }
    out
}

/// With the offers of a leaf as long as what is missing, if front seats give that way.
fn leaves(ctx: &Ctx, d: &super::PlatformCtx, mut f: Finding, missing: f64) -> Finding {
    /// A leaf is cut in steps of this, mm (a choice).
    const STEP: f64 = 10.0;
    // So much of the deck may go for a straight edge to hinge it on, mm.
    const CUT: f64 = 20.0;
    if d.platform.leaf.is_some() {
        return f;
    }
    let long = (((missing + CUT) / STEP).ceil() * STEP).max(super::leaf::LEAST);
    let seats = ctx.project.survey.seats.values();
    let give = seats.filter(|s| s.travel.is_some_and(|t| t >= long));
    let sides: &[(&str, &str)] = match give.count() {
        0 => &[],
        // On which side it is nobody asked.
        1 => &[("left", ", on the left"), ("right", ", on the right")],
        _ => &[("both", "")],
    };
    for (side, words) in sides {
        let dials = [
            (Dial::Leaf, (*side).into()),
            (Dial::LeafLength, long.into()),
        ];
        let label = format!("A leaf of {} at its front end{words}", ctx.w.say(long));
        let cost = "it is folded out at night over a seat that is slid forward".into();
        f = f.offer(label, cost, d.turn(&dials));
    }
    f
}
