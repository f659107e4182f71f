//! What moves and comes nearer to the vehicle than its readings are sure of.

use super::{Ctx, Finding, Severity};
use crate::furniture::built::Motion;
use crate::motion::doubt;
use crate::solids::Solid;

/// So many are named.
const NAMED: usize = 4;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let bodies = ctx.built.values().flat_map(|b| &b.bodies);
    let goes = bodies.filter(|b| ctx.stops.get(&b.id).is_some_and(|f| f.stop.is_none()));
    let near: Vec<String> = goes
        .filter_map(|body| {
            let with = |b: &&crate::boards::BoardView| ctx.bodies.goes_with(&b.body, &body.id);
            let own: Vec<Solid> = ctx
                .boards
                .iter()
                .filter(with)
                .map(|b| Solid::at(b, b.shut))
                .collect();
            let met = doubt(ctx.model, body, &own)?;
            let at = match body.motion {
                Motion::Turn { .. } => format!("at {:.0}°", met.by),
                _ => format!("after {}", ctx.w.say(met.by)),
            };
            Some(format!("{} to {} {at}", body.name, met.what))
        })
        .collect();
    if near.is_empty() {
        return vec![];
    }
    let more = near.len().saturating_sub(NAMED);
    let mut list = near[..near.len() - more].join("; ");
    if more > 0 {
        list.push_str(&format!(", and {more} more"));
    }
    let sentence = format!(
        "On their way these come nearer than the readings are sure of: {list}. Read there once more, or try it before the finish."
    );
    vec![
        Finding::new("near", Severity::Look, "survey", sentence).rule(
            "what moves keeps two standard deviations off the vehicle's best surfaces, boards at rest three",
            "a choice; a normal error is larger than two of them once in twenty",
        ),
    ]
}
