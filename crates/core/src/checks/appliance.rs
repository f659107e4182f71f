//! Does a thing come out of the bay that was made for it, and can its door and lid open?

use super::before::Way;
use super::{Ctx, Finding, Severity};
use crate::furniture::built::MadeFor;
use crate::project::gear::Gear;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = ctx.built.iter();
    let all = all.flat_map(|(m, b)| b.made_for.iter().map(move |p| (m.as_str(), p)));
    all.filter_map(|(module, place)| judged(ctx, module, place))
        .collect()
}

/// Before its bay: as wide as the thing, in the middle; as high as it is with what opens above it. Over a bay that is open
/// above: all of the bay.
fn way(place: &MadeFor, g: &Gear) -> Option<Way> {
    let mut way = Way::new(place.bay, place.out)?;
    if way.axis == 2 {
        return Some(way);
    }
    let (other, w) = (1 - way.axis, g.w?);
    let middle = f64::midpoint(way.low[other], way.high[other]);
    (way.low[other], way.high[other]) = (middle - w / 2.0, middle + w / 2.0);
    way.high[2] = way.low[2] + g.slide + g.h? + g.lid_clearance;
    Some(way)
}

fn judged(ctx: &Ctx, module: &str, place: &MadeFor) -> Option<Finding> {
    let g = ctx.project.gear.get(&place.gear)?;
    let way = way(place, g)?;
    let up = way.axis == 2;
    let bay = way.high[2] - way.low[2];
    // Lifted out it rises by its own height; in place its lid opens so far over the bay.
    let need = match up {
        true => g.h?.max(g.slide + g.h? + g.lid_clearance - bay),
        false => g.d?,
    };
    let called = |id: &str| {
        let m = ctx.project.modules.get(id);
        m.map_or(String::new(), |m| m.called())
    };
    let near = way.near(ctx, module, need);
    let first = way.first(ctx, &near, need);
    let (name, thing) = (called(module), &g.name);
    let needs = ctx.w.say(need);
    let room = match up {
        true => format!("{needs} are free over it"),
        false => format!("{needs} are free before it, {} high", ctx.w.say(bay)),
    };
    let wants = match up {
        true => format!("{needs} over it"),
        false => format!("{needs} before it, {} high", ctx.w.say(bay)),
    };
    let (level, sentence) = match first {
        None => (
            Severity::Fine,
            format!("{thing} comes all out of its bay of the {name}: {room}."),
        ),
        Some((free, what)) => (
            Severity::Look,
            format!(
                "{thing} does not come all out of its bay of the {name}: it needs {wants}, and after {} there is {what}. It is not lifted out there, and its door or lid opens no further.",
                ctx.w.say(free)
            ),
        ),
    };
    let f = Finding::new(
        format!("comes-out.{module}.{}", place.gear),
        level,
        "layout",
        sentence,
    );
    Some(
        f.rule(
            "its own depth before the bay, as high as it is on its slide and what opens above it",
            "a choice: so it can be filled, and lifted out",
        )
        .numbers(vec![ctx.w.step(
            "",
            if up {
                "wanted over the bay"
            } else {
                "wanted before the bay"
            },
            need,
        )])
        .show("layout", module),
    )
}
