//! Does a joint of a deck leave a weak tip beside it?

use i_overlay::core::overlay_rule::OverlayRule;

use super::{Ctx, Finding, Offer, PlatformCtx, Severity};
use crate::furniture::platform::parting::{Parting, try_way};
use crate::furniture::platform::{Dial, Split, Worked};
use crate::geometry::labelled::{Labelled, combine};
use crate::geometry::tips::{Cut, NARROW};

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let mut out = Vec::new();
    let solid = ctx
        .platforms
        .iter()
        .filter(|d| d.platform.surface.slats.is_none());
    for d in solid {
        let Some(worked) = d.worked else { continue };
        let tips = worked.parting.tips(&worked.parting.pieces);
        let longest = tips
            .iter()
            .max_by(|a, b| a.2.length().total_cmp(&b.2.length()));
        let Some((cut, at, tip)) = longest else {
            continue;
        };
        let runs = match cut {
            Cut::AtX => "across",
            Cut::AtY => "along",
        };
        let mut f = Finding::new(
            format!("tips.{}", d.id),
            Severity::Look,
            "layout",
            format!(
                "Beside its joint {runs} the {} is only {} wide over {}: such a tongue breaks off. Screw a strip under it, or part it elsewhere.",
                d.platform.name,
                ctx.w.say(tip.width),
                ctx.w.say(tip.length())
            ),
        )
        .rule(
            format!(
                "a board is {0} wide beside a joint, or narrower over less than {0}",
                ctx.w.say(NARROW)
            ),
            "a choice",
        )
        .numbers(vec![ctx.w.step("", "joint", *at)])
        .show("layout", d.id.to_string());
        f.offers = parted_otherwise(d, worked, &|p| p.tips(&p.pieces).is_empty());
        out.push(f);
    }
    out
}

/// Other ways to part a deck in which every piece comes through the opening and out of a sheet, if `good` as well.
pub fn parted_otherwise(
    d: &PlatformCtx,
    worked: &Worked,
    good: &dyn Fn(&Parting) -> bool,
) -> Vec<Offer> {
    // The pieces put together again.
    let pieces: Vec<&Labelled> = worked.parting.edges.iter().collect();
    let whole = combine(&pieces, &[], OverlayRule::Union);
    let ways = [
        (Split::Lengthwise, "two, along"),
        (Split::Across, "two, across"),
        (Split::Quarters, "four"),
    ];
    let mut out = Vec::new();
    for (how, word) in ways {
        let other = try_way(&whole, &worked.lines, how, &worked.demands);
        if other.through && other.on_sheet && how != worked.parting.how && good(&other) {
            let to = serde_json::to_value(how).unwrap_or_default();
            out.extend(d.set(Dial::Split, to).map(|patch| Offer {
                label: format!("Part it in {word}"),
                cost: format!("{} pieces, a joint to carry", other.pieces.len()),
                patch,
            }));
        }
    }
    out
}
