//! What stays behind a drawer that is shorter than its carcass: how much, and how it is reached.

use super::before::Way;
use super::{Ctx, Finding, Severity};
use crate::furniture::built::{Behind, HAND};
use crate::input::escape;

/// So much has to be free before an opening that one reaches into, mm (a choice: a hand and half a forearm).
const REACHES: f64 = 300.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let all = ctx.built.iter();
    let all = all.flat_map(|(m, b)| b.behind.iter().map(move |p| (m.as_str(), p)));
    all.map(|(module, place)| judged(ctx, module, place))
        .collect()
}

fn judged(ctx: &Ctx, module: &str, place: &Behind) -> Finding {
    let w = ctx.w;
    let [wide, deep, high] = place.size.map(|mm| w.say(mm));
    let way = Way::new(place.bay, place.out).filter(|_| place.window.is_some());
    // A hand finds its way through the window of a frame, too.
    let hands = way.as_ref().map_or(vec![], |way| way.narrowed(HAND));
    let near = way.as_ref().map(|way| way.near(ctx, module, REACHES));
    let near = near.unwrap_or_default();
    let met: Vec<_> = hands
        .iter()
        .map_while(|hand| hand.first(ctx, &near, REACHES))
        .collect();
    let blocked = met.len() == hands.len();
    let met = met.into_iter().next().filter(|_| blocked);
    let free = format!(
        "Behind {} {deep} stay free, {wide} wide and {high} high",
        place.name
    );
    let (level, sentence) = match (&way, place.window, met) {
        (Some(way), Some((a, b)), None) => {
            let from = match (way.axis, way.sign > 0.0) {
                (0, true) => "the front",
                (0, false) => "the rear",
                (_, true) => "the left",
                (_, false) => "the right",
            };
            let hole = [a, b].map(|mm| w.say(mm)).join(" by ");
            (
                Severity::Fine,
                format!("{free}: reached from {from}, through an opening of {hole} in the back."),
            )
        }
        (_, Some(_), Some((off, what))) => (
            Severity::Look,
            format!(
                "{free}, but no hand gets in: before the opening in the back there is {what} after {}. It is reached with the drawer taken out.",
                w.say(off)
            ),
        ),
        _ => (
            Severity::Look,
            format!(
                "{free}, too little for an opening in the back: it is reached with the drawer taken out."
            ),
        ),
    };
    let mut f = Finding::new(
        format!("behind.{module}.{}", place.body),
        level,
        "layout",
        sentence,
    )
    .rule(
        format!(
            "an opening that a hand passes, and {} free before it",
            w.say(REACHES)
        ),
        "a choice",
    )
    .show("layout", module);
    if level == Severity::Look {
        f = f.offer(
            "As long as the others".into(),
            "nothing is left behind it".into(),
            super::set(
                format!("/modules/{}/choices/short", escape(module)),
                serde_json::Value::Null,
            ),
        );
    }
    f
}
