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

/// Before its bay: as wide as the thing, in the middle; as high as it is with what opens above it.
fn way(place: &MadeFor, g: &Gear) -> Option<Way> {
    let mut way = Way::new(place.bay, place.out)?;
    let (other, w) = (1 - way.axis, g.w?);
    let middle = f64::midpoint(way.low[other], way.high[other]);
    (way.low[other], way.high[other]) = (middle - w / 2.0, middle + w / 2.0);
    way.high[2] = way.low[2] + g.slide + g.h? + g.lid_clearance;
    Some(way)
}

fn judged(ctx: &Ctx, module: &str, place: &MadeFor) -> Option<Finding> {
    let g = ctx.project.gear.get(&place.gear)?;
    let (way, need) = (way(place, g)?, g.d?);
    let called = |id: &str| {
        let m = ctx.project.modules.get(id);
        m.map_or(String::new(), |m| m.called())
    };
    let near = way.near(ctx, module, need);
    let first = way.first(ctx, &near, need);
    let (name, thing) = (called(module), &g.name);
    let [needs, high] = [need, way.high[2] - way.low[2]].map(|mm| ctx.w.say(mm));
    let (level, sentence) = match first {
        None => (
            Severity::Fine,
            format!(
                "{thing} comes all out of its bay of the {name}: {needs} are free before it, {high} high."
            ),
        ),
        Some((free, what)) => (
            Severity::Look,
            format!(
                "{thing} does not come all out of its bay of the {name}: it needs {needs} before it, {high} high, and after {} there is {what}. It is not lifted out there, and its door or lid opens no further.",
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
        .numbers(vec![ctx.w.step("", "wanted before the bay", need)])
        .show("layout", module),
    )
}
