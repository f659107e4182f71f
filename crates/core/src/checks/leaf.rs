//! A leaf at a bed's front end: does it go there, and does a seat give the way for it?

use super::{Ctx, Finding, Severity};
use crate::furniture::platform::Dial;
use crate::furniture::platform::parting::bounds;

/// Shorter than that is no leaf, mm (a choice).
pub const LEAST: f64 = 80.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = ctx.platforms.iter();
    all.filter_map(|d| {
        let (leaf, worked) = (d.platform.leaf?, d.worked?);
        let wanted = leaf.long;
        let name = &d.platform.name;
        let travels = ctx.project.survey.seats.values();
        let travels = travels.filter_map(|s| Some((s.travel?, &s.name)));
        let mut travels: Vec<_> = travels.collect();
        travels.sort_by(|a, b| b.0.total_cmp(&a.0));
        // Over two seats the one that gives less decides.
        let most = travels.get(leaf.seats.saturating_sub(1)).copied();
        let long = ctx.w.say(wanted);
        let mut shorter = None;
        let (level, sentence) = match (worked.leaf, most) {
            (None, _) => (
                Severity::Look,
                format!(
                    "The {name} gets no leaf: its front end is not straight enough for hinges, or walls or things leave no room where it lies folded back."
                ),
            ),
            (Some(_), None) => (
                Severity::Look,
                format!(
                    "The leaf of the {name} reaches {long} past the front of the bay: measure how far {} forward.",
                    match leaf.seats {
                        1 => "the seat before it slides",
                        _ => "both seats before it slide",
                    }
                ),
            ),
            (Some(_), Some((travel, seat))) if travel < wanted => {
                shorter = Some(travel.floor());
                (
                    Severity::Stop,
                    format!(
                        "The leaf of the {name} wants {long} before it, but the {seat} slides forward by {} only.",
                        ctx.w.say(travel)
                    ),
                )
            }
            (Some(mm), Some((_, seat))) => {
                let (x0, _, x1, _) = bounds(&worked.plan.panels);
                (
                    Severity::Fine,
                    format!(
                        "With {} slid forward by {long} and the leaf out, the {name} is {} long.",
                        match leaf.seats {
                            1 => format!("the {seat}"),
                            _ => "both seats".into(),
                        },
                        ctx.w.say(x1 - x0 + mm)
                    ),
                )
            }
        };
        let mut f = Finding::new(format!("leaf.{}", d.id), level, "layout", sentence)
            .rule(
                "as long as the seat before it slides; hinges along a straight edge, legs under its free end",
                "a choice",
            )
            .show("layout", d.id.to_string());
        if let Some(mm) = shorter.filter(|mm| *mm >= LEAST) {
            f = f.offer(
                format!("A leaf of {}", ctx.w.say(mm)),
                "the bed is shorter by as much".into(),
                d.set(Dial::LeafLength, mm.into()),
            );
        }
        Some(f)
    })
    .collect()
}
