//! How wide is the bed where wells cut into it?

use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Dial;
use crate::furniture::platform::span::SLEEPER_WIDTH;
use crate::geometry::region::Region;

/// Narrower than this nobody sleeps well, mm (a choice: about shoulder width).
const NARROW: f64 = 480.0;
/// A cut-out matters from this depth on, mm.
const DEEP: f64 = 40.0;
/// The width is looked at in bands of this length, mm.
const BAND: f64 = 50.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    let sleepers = ctx.project.people.len().max(1);
    for d in ctx.platforms {
        let Some(worked) = d.worked.filter(|w| !w.plan.obstacles.is_empty()) else {
            continue;
        };
        let Some((narrow, at, wide)) = narrowest(&worked.parting.pieces) else {
            continue;
        };
        if wide - narrow < DEEP {
            continue;
        }
        let each = narrow / sleepers as f64;
        let level = match each {
            e if e < NARROW => Severity::Stop,
            e if e < SLEEPER_WIDTH => Severity::Look,
            _ => Severity::Fine,
        };
        let each_words = match sleepers {
            1 => String::new(),
            n => format!(", {} for each of {n}", ctx.w.say(each)),
        };
        let mut f = Finding::new(
            format!("sleep.{}", d.id),
            level,
            "layout",
            format!(
                "Between the cut-outs the {} is {} wide, {} from the threshold{each_words}.",
                d.platform.name,
                ctx.w.say(narrow),
                ctx.w.say(at)
            ),
        )
        .rule(
            format!(
                "{} for a sleeper; under {} shoulders have no room",
                ctx.w.say(SLEEPER_WIDTH),
                ctx.w.say(NARROW)
            ),
            "a choice",
        )
        .numbers(vec![
            ctx.w.step("", "width elsewhere", wide),
            ctx.w.step("-", "taken by the cut-outs", wide - narrow),
            ctx.w.step("=", "left", narrow),
        ])
        .show("layout", d.id.to_string());
        let over = ctx.model.things().map(|o| o.up_to()).fold(0.0, f64::max);
        if level != Severity::Fine
            && let (Some(u), Some(stack)) = (d.platform.underside, d.stack.as_ref())
            && over > u
            && over.ceil() < stack.floor_to_roof
        {
            f = f.offer(
                format!(
                    "Raise the {} over them, to {}",
                    d.platform.name,
                    ctx.w.say(over.ceil())
                ),
                super::cost_of_height(stack, u, over.ceil(), &ctx.w),
                d.set(Dial::Underside, over.ceil().into()),
            );
        }
        out.push(f);
    }
    out
}

/// The least width across the bay, where it is, and the greatest.
fn narrowest(pieces: &[Region]) -> Option<(f64, f64, f64)> {
    let (x0, y0, x1, y1) = crate::furniture::platform::parting::bounds(pieces);
    let n = ((x1 - x0) / BAND).floor().clamp(0.0, 400.0) as usize;
    let mut widths = Vec::new();
    for i in 0..n {
        let a = x0 + BAND * i as f64;
        let band = Region::rectangle(a, y0 - 1.0, a + BAND, y1 + 1.0);
        let inside: Vec<_> = pieces.iter().flat_map(|p| p.and(&band)).collect();
        if inside.is_empty() {
            continue;
        }
        let area: f64 = inside.iter().map(Region::area).sum();
        widths.push((area / BAND, a + BAND / 2.0));
    }
    // The ends may be cut slantwise by the front: they are no place to lie.
    let inner = widths.get(2..widths.len().checked_sub(2)?)?;
    let least = inner.iter().min_by(|a, b| a.0.total_cmp(&b.0))?;
    let most = inner.iter().map(|w| w.0).fold(0.0, f64::max);
    Some((least.0, least.1, most))
}
