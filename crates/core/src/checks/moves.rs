//! Lids and drawers: how far do they go, and what stops them?

use super::{Ctx, Finding, Severity};
use crate::furniture::built::{Body, Ease, Met, Motion, Vec3};
use crate::motion::{ACCESS, Free, OUT};
use crate::project::survey::REAR;
use crate::solids::Solid;

/// A lid that opens less than this does not stay open against anything, degrees (a choice).
const LEANS: f64 = 85.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let bodies = ctx
        .built
        .iter()
        .flat_map(|(m, b)| b.bodies.iter().map(move |b| (m, b)));
    // What makes another thing of the vehicle is judged by what that gives (`change`).
    bodies
        .filter(|(_, b)| b.change.is_none())
        .map(|(module, body)| judge(ctx, module, body))
        .collect()
}

fn judge(ctx: &Ctx, module: &str, body: &Body) -> Finding {
    let most = body.motion.whole();
    let free = ctx.stops.get(&body.id).cloned().unwrap_or_default();
    match body.motion {
        Motion::Turn { .. } => lid(ctx, module, body, free, most),
        Motion::Slide { .. } | Motion::Over { .. } => drawer(ctx, module, body, free, most),
    }
}

fn finding(
    module: &str,
    body: &Body,
    met: Option<Met>,
    (level, sentence): (Severity, String),
) -> Finding {
    let mut f = Finding::new(format!("moves.{}", body.id), level, "layout", sentence)
        .rule("followed along its way in small steps", "geometry")
        .show("layout", module);
    if level != Severity::Fine {
        f = eased(f, module, body, met);
    }
    f
}

/// With the changes that may help the body on its way, against what it meets there.
pub(super) fn eased(mut f: Finding, module: &str, body: &Body, met: Option<Met>) -> Finding {
    let at = format!("/modules/{}", crate::input::escape(module));
    let helps = |e: &&Ease| e.against.is_none() || met.is_none() || e.against == met;
    for e in body.eases.iter().filter(helps) {
        f = f.offer(
            e.label.clone(),
            e.cost.clone(),
            super::set(format!("{at}{}", e.pointer), e.value.clone()),
        );
    }
    f
}

/// Under what it lies, in words that go on with what it does then: nothing if it is free by itself.
fn under(ctx: &Ctx, first: &[String]) -> String {
    let names = first.iter().filter_map(|id| ctx.bodies.get(id));
    let names: Vec<&str> = names.map(|b| b.name.as_str()).collect();
    match names.is_empty() {
        true => String::new(),
        false => format!(", with the {} open", names.join(" and the ")),
    }
}

fn lid(ctx: &Ctx, module: &str, body: &Body, free: Free, most: f64) -> Finding {
    let (stop, under) = (free.stop, under(ctx, &free.first));
    let deg = stop.as_ref().map_or(most, |s| s.by);
    let met = stop.as_ref().map(|s| s.met);
    let level = match deg {
        d if d < ACCESS => Severity::Stop,
        d if d < LEANS => Severity::Look,
        _ => Severity::Fine,
    };
    let sentence = match stop {
        Some(s) if s.by < 1.0 => format!("The {} does not open: it meets {}.", body.name, s.what),
        Some(s) => format!(
            "The {} opens to {:.0}°{under}: then it meets {}.",
            body.name, s.by, s.what
        ),
        None => format!("The {} opens right over{under}.", body.name),
    };
    finding(module, body, met, (level, sentence))
}

/// What comes out through the rear opening has to pass its frame, once that is measured.
pub(super) fn passes_rear(ctx: &Ctx, body: &Body) -> bool {
    let Motion::Slide { along, travel } = body.motion else {
        return true;
    };
    let ways = ctx.model.ways_through(REAR, 0.0);
    let own = ctx
        .boards
        .iter()
        .filter(|b| ctx.bodies.goes_with(&b.body, &body.id));
    let points: Vec<Vec3> = own.flat_map(|b| Solid::at(b, b.shut).points()).collect();
    let reach = points.iter().map(|p| p[0] + along[0] * travel);
    let leaves = along[0] < -0.5 && reach.fold(f64::INFINITY, f64::min) < 0.0;
    let passes = |(w, h): &(f64, f64)| points.iter().all(|p| p[1].abs() <= w / 2.0 && p[2] <= *h);
    !leaves || ways.is_empty() || ways.iter().any(passes)
}

fn drawer(ctx: &Ctx, module: &str, body: &Body, free: Free, most: f64) -> Finding {
    let (stop, under) = (free.stop, under(ctx, &free.first));
    if !passes_rear(ctx, body) {
        let words = format!(
            "The {} does not pass the frame of the rear opening.",
            body.name
        );
        return finding(module, body, None, (Severity::Stop, words));
    }
    let out = stop.as_ref().map_or(most, |s| s.by);
    let met = stop.as_ref().map(|s| s.met);
    let level = match out / most {
        s if s < OUT => Severity::Stop,
        s if s < 0.99 => Severity::Look,
        _ => Severity::Fine,
    };
    let sentence = match stop {
        Some(s) if s.by < 1.0 => {
            format!("The {} does not come out: it meets {}.", body.name, s.what)
        }
        Some(s) => format!(
            "The {} comes out {} of {}{under}: then it meets {}.",
            body.name,
            ctx.w.bare(s.by),
            ctx.w.say(most),
            s.what
        ),
        None if body.motion.lifts_out() => format!("The {} lifts out{under}.", body.name),
        None => format!(
            "The {} comes out all its {}{under}.",
            body.name,
            ctx.w.say(most)
        ),
    };
    finding(module, body, met, (level, sentence))
}
