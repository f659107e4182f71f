//! What must not open on the road: how strong its latch has to be.

use super::stowed::in_bodies;
use super::{Ctx, Finding, Severity};
use crate::furniture::built::{Body, Motion};
use crate::mechanics::load::{EN_12195, inertia};
use crate::project::VehicleKind;
use crate::units::GRAVITY;
use crate::weight::of_body;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let water = ctx.project.vehicle.kind == VehicleKind::Boat;
    let things = in_bodies(ctx);
    let mut list = Vec::new();
    for built in ctx.built.values() {
        for body in built.bodies.iter().filter(|b| b.change.is_none()) {
            let inside = things.get(&body.id).into_iter().flatten();
            let load: f64 = inside.filter_map(|t| ctx.project.gear.get(*t)?.mass).sum();
            let glide = built
                .glides
                .iter()
                .find(|g| body.id.ends_with(&format!("/{}", g.body)));
            // A drawer of which nothing is known is full.
            let load = if load > 0.0 {
                load
            } else {
                glide.map_or(0.0, |g| g.made_for)
            };
            let Some(own) = of_body(ctx.boards, ctx.bodies, &body.id) else {
                continue;
            };
            if let Some(n) = opens_with(body, own.mass + load) {
                list.push(format!("{} {}", body.name, ctx.w.force(n)));
            }
        }
    }
    if list.is_empty() || water {
        return vec![];
    }
    let sentence = format!(
        "On the road a latch has to hold: {}. Magnets and friction do not.",
        list.join("; ")
    );
    vec![
        Finding::new("latch", Severity::Fine, "parts", sentence).rule(
            "its mass with what is in it x 0.8 g where it opens forward, 0.5 g to the sides and back; a lid, half of whose weight lies at its hinge, on a bump of 1.5 g; half of a door's pull is its hinge's",
            "EN 12195-1, from memory; statics; the bump is a choice",
        ),
    ]
}

/// What wants to open it, N; nothing where its own weight keeps it shut.
fn opens_with(body: &Body, mass: f64) -> Option<f64> {
    /// A bump lifts with so much of gravity (a choice).
    const BUMP: f64 = 1.5;
    match body.motion {
        // It lies in its hole, under a mattress.
        motion if motion.lifts_out() => None,
        Motion::Slide { along, .. } | Motion::Over { along, .. } => {
            let share = if along[0] > 0.5 {
                EN_12195.forward
            } else if along[0] < -0.5 {
                EN_12195.rear
            } else {
                EN_12195.side
            };
            Some(inertia(mass, share))
        }
        // About a level axis a bump lifts it; half its weight lies at the hinge.
        Motion::Turn { about, .. } if about[2].abs() < 0.5 => {
            Some(mass * GRAVITY * (BUMP - 1.0) / 2.0)
        }
        // A door beside its hinge: half of it pulls at the latch.
        Motion::Turn { .. } => Some(inertia(mass, EN_12195.forward) / 2.0),
    }
}
