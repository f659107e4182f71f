//! What must not open on the road: how strong its latch has to be.

use super::stowed::in_bodies;
use super::{Ctx, Finding, Severity};
use crate::furniture::built::{Body, Motion};
use crate::joints::Bill;
use crate::mechanics::load::{EN_12195, inertia};
use crate::project::VehicleKind;
use crate::units::GRAVITY;
use crate::weight::of_body;

/// Forces that latches are sold for, N (a choice of round ones).
const SOLD: [f64; 9] = [20.0, 50.0, 100.0, 150.0, 200.0, 300.0, 500.0, 750.0, 1000.0];

/// Tells how strong every latch has to be.
pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let list: Vec<String> = pulls(ctx)
        .iter()
        .map(|(body, n)| format!("{} {}", body.name, ctx.w.force(*n)))
        .collect();
    if list.is_empty() {
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

/// Puts the latches on the list of what is bought, each as strong as what it holds shut asks for.
pub fn buy(ctx: &Ctx, name: &dyn Fn(&str) -> String, bill: &mut Bill) {
    let pulls = pulls(ctx);
    for (module, built) in ctx.built {
        for (item, body) in built
            .hardware
            .iter()
            .filter_map(|i| Some((i, i.shuts.as_ref()?)))
        {
            let id = format!("{module}/{body}");
            let pull = pulls.iter().find(|(b, _)| b.id == id).map(|p| p.1);
            // Several share it.
            let each = pull.map(|n| n / f64::from(item.count.max(1)));
            let size = each.map_or(String::new(), |n| {
                let sold = SOLD.into_iter().find(|s| *s >= n).unwrap_or(n);
                format!("for at least {}", ctx.w.force(sold))
            });
            bill.buy(&item.what, size, item.count, &name(module));
        }
    }
}

/// What wants to open each body on the road, N. On the water nothing is asked of latches.
fn pulls<'a>(ctx: &'a Ctx) -> Vec<(&'a Body, f64)> {
    if ctx.project.vehicle.kind == VehicleKind::Boat {
        return vec![];
    }
    let things = in_bodies(ctx);
    let mut out = Vec::new();
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
                out.push((body, n));
            }
        }
    }
    out
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
