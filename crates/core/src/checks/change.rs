//! What makes another thing of the vehicle: does it go all the way, what does that give, and is it so on the road?

use super::moves::eased;
use super::{Ctx, Finding, Severity, set};
use crate::furniture::built::{Body, Changing, Motion};
use crate::input::escape;
use crate::project::states::DRIVE;
use crate::solids::Solid;

/// The body makes another thing of the vehicle.
pub(super) fn changes(ctx: &Ctx, id: &str) -> bool {
    let mut bodies = ctx.built.values().flat_map(|b| &b.bodies);
    bodies.any(|b| b.id == id && b.change.is_some())
}

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let bodies = ctx
        .built
        .iter()
        .flat_map(|(m, b)| b.bodies.iter().map(move |b| (m, b)));
    bodies
        .filter_map(|(module, body)| Some((module, body, body.change.as_ref()?)))
        .flat_map(|(module, body, change)| {
            let mut out = vec![way(ctx, module, body, change)];
            if change.for_road {
                out.extend(road(ctx, module, body));
            }
            out.extend(past_the_rear(ctx, module, body));
            out
        })
        .collect()
}

fn way(ctx: &Ctx, module: &str, body: &Body, change: &Changing) -> Finding {
    let stop = ctx.stops.get(&body.id).and_then(|f| f.stop.clone());
    let (level, sentence) = match &stop {
        None => (
            Severity::Fine,
            match change.frees {
                Some(mm) => format!(
                    "With the {} back, the foremost {} are free.",
                    body.name,
                    ctx.w.say(mm)
                ),
                None => format!("The {} goes all its way: {}.", body.name, change.words[0]),
            },
        ),
        Some(s) => {
            let where_to = match body.motion {
                Motion::Turn { .. } => format!("at {:.0}°", s.by),
                _ => format!("after {}", ctx.w.say(s.by)),
            };
            let back = if change.for_road { " back" } else { "" };
            let words = format!(
                "The {} does not go{back}: {where_to} it meets {}.",
                body.name, s.what
            );
            (Severity::Stop, words)
        }
    };
    let id = format!("change.{}", body.id);
    let mut f = Finding::new(id, level, "layout", sentence)
        .rule("followed along its way in small steps", "geometry")
        .show("layout", module);
    if stop.is_some() {
        f = eased(f, module, body, stop.as_ref().map(|s| s.met));
    }
    f
}

/// A bed that can give the seats back and does not on the road.
fn road(ctx: &Ctx, module: &str, body: &Body) -> Option<Finding> {
    let drive = ctx.project.states.get(DRIVE)?;
    if drive.open(&body.id) > 0.0 {
        return None;
    }
    let at = format!("/states/{DRIVE}/open/{}", escape(&body.id));
    let sentence = format!("On the road the {} still lies in its place.", body.name);
    let mut f = Finding::new(
        format!("change.road.{}", body.id),
        Severity::Look,
        "layout",
        sentence,
    )
    .rule("what makes room for the road is moved for it", "a choice")
    .show("layout", module)
    .offer(
        "Move it back for the road".into(),
        String::new(),
        set(at, 1.0.into()),
    );
    f.state = Some(DRIVE.into());
    Some(f)
}

/// What lies past the threshold keeps the door from shutting.
fn past_the_rear(ctx: &Ctx, module: &str, body: &Body) -> Option<Finding> {
    /// Less is the readings' doubt, mm.
    const PLAY: f64 = 0.5;
    let own = ctx
        .boards
        .iter()
        .filter(|b| ctx.bodies.goes_with(&b.body, &body.id));
    let moved = own.map(|b| Solid::at(b, body.motion.carried(&b.shut, body.motion.whole())));
    let least = moved.map(|s| s.low[0]).fold(f64::INFINITY, f64::min);
    if least >= -PLAY {
        return None;
    }
    let sentence = format!(
        "The {} moved back reaches {} past the threshold: the door does not shut.",
        body.name,
        ctx.w.say(-least)
    );
    let id = format!("change.rear.{}", body.id);
    let f = Finding::new(id, Severity::Stop, "layout", sentence)
        .rule("nothing lies past the threshold on the road", "geometry")
        .show("layout", module);
    Some(eased(f, module, body, None))
}
