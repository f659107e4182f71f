//! Lids and drawers: how far do they go, and what stops them?

use super::{Ctx, Finding, Severity};
use crate::boards::STATES;
use crate::furniture::built::{Body, Motion, Vec3};
use crate::project::survey::{REAR, Side};
use crate::solids::{Solid, moved};

/// A lid that opens less than this gives no access, degrees; one that opens less than the other does not stay
/// open against anything (choices).
const SHUT: f64 = 45.0;
const LEANS: f64 = 85.0;
/// A drawer that comes out less than this share of its travel is of little use (a choice).
const STUCK: f64 = 0.5;
/// Steps in which a motion is followed.
const TURN: f64 = 1.0;
const SLIDE: f64 = 20.0;
/// At rest a body touches what it lies on: what it meets within this is not in its way, mm.
const REST: f64 = 1.0;

pub fn check(ctx: &Ctx) -> Vec<Finding> {
    let solids: Vec<Solid> = ctx
        .boards
        .iter()
        .filter_map(|b| Solid::new(b, STATES[0]))
        .collect();
    let bodies = ctx
        .built
        .iter()
        .flat_map(|(m, b)| b.bodies.iter().map(move |b| (m, b)));
    bodies
        .filter_map(|(module, body)| judge(ctx, &solids, module, body))
        .collect()
}

/// What ends a motion.
struct Stop {
    by: f64,
    what: String,
}

fn judge(ctx: &Ctx, solids: &[Solid], module: &str, body: &Body) -> Option<Finding> {
    let (own, rest): (Vec<&Solid>, Vec<&Solid>) =
        solids.iter().partition(|s| s.board.body == body.id);
    let points: Vec<Vec3> = own.iter().flat_map(|s| s.points()).collect();
    if points.is_empty() {
        return None;
    }
    let (most, step) = match body.motion {
        Motion::Turn { most, .. } => (most, TURN),
        Motion::Slide { travel, .. } => (travel, SLIDE),
    };
    let n = (most / step).ceil() as usize;
    let mut stop = None;
    for i in 1..=n {
        let by = (i as f64 * step).min(most);
        let met = points.iter().find_map(|p| {
            let at = moved(*p, &body.motion, by);
            let far = (0..3).map(|i| (at[i] - p[i]).powi(2)).sum::<f64>().sqrt();
            (far > REST)
                .then(|| meets(ctx, &rest, module, at))
                .flatten()
        });
        if let Some(what) = met {
            let by = (i as f64 - 1.0) * step;
            stop = Some(Stop { by, what });
            break;
        }
    }
    Some(match body.motion {
        Motion::Turn { .. } => lid(module, body, stop, most),
        Motion::Slide { along, .. } => drawer(ctx, module, body, stop, most, (&points, along)),
    })
}

/// What a point is in, if anything.
fn meets(ctx: &Ctx, rest: &[&Solid], module: &str, p: Vec3) -> Option<String> {
    if let Some(s) = rest.iter().find(|s| s.holds(p)) {
        let whose = ctx.project.modules.get(&s.board.module);
        return Some(if s.board.module == module {
            s.board.mark.clone()
        } else {
            format!(
                "the {} ({})",
                whose.map_or(String::new(), |m| m.called()),
                s.board.mark
            )
        });
    }
    let [x, y, z] = p;
    // Behind the threshold it is outside.
    if x < 0.0 {
        return None;
    }
    let side = if y >= 0.0 { Side::Left } else { Side::Right };
    // The wall of its best place: its doubt is small against what is judged here.
    if ctx.model.offset(side, x, z).is_some_and(|w| y.abs() > w) {
        return Some(format!("the {} wall", side.word()));
    }
    let roof = ctx.model.floor_to_roof(x).map(|r| r + ctx.model.floor(x));
    if roof.is_some_and(|r| z > r) {
        return Some("the roof".into());
    }
    if ctx.model.reach(y, z).is_some_and(|f| x > f) {
        return Some("the front".into());
    }
    let inside = |o: &&crate::survey::model::Obstacle| {
        let across = side.sign() * y;
        o.side == side && x > o.x.0 && x < o.x.1 && z > o.z.0 && z < o.z.1 && across > o.face
    };
    ctx.model
        .things()
        .find(inside)
        .map(|o| format!("the {}", o.name))
}

fn finding(module: &str, body: &Body, level: Severity, sentence: String) -> Finding {
    let mut f = Finding::new(format!("moves.{}", body.id), level, "layout", sentence)
        .rule("followed along its way in small steps", "geometry")
        .show("layout", module);
    if level != Severity::Fine {
        let at = format!("/modules/{}", crate::input::escape(module));
        for e in &body.eases {
            f = f.offer(
                e.label.clone(),
                e.cost.clone(),
                super::set(format!("{at}{}", e.pointer), e.value.clone()),
            );
        }
    }
    f
}

fn lid(module: &str, body: &Body, stop: Option<Stop>, most: f64) -> Finding {
    let deg = stop.as_ref().map_or(most, |s| s.by);
    let level = match deg {
        d if d < SHUT => Severity::Stop,
        d if d < LEANS => Severity::Look,
        _ => Severity::Fine,
    };
    let sentence = match stop {
        Some(s) if s.by < 1.0 => format!("The {} does not open: it meets {}.", body.name, s.what),
        Some(s) => format!(
            "The {} opens to {:.0}°: then it meets {}.",
            body.name, s.by, s.what
        ),
        None => format!("The {} opens right over.", body.name),
    };
    finding(module, body, level, sentence)
}

fn drawer(
    ctx: &Ctx,
    module: &str,
    body: &Body,
    stop: Option<Stop>,
    most: f64,
    (points, along): (&[Vec3], Vec3),
) -> Finding {
    // Out through the rear opening it has to pass its frame.
    let ways = ctx.model.ways_through(REAR, 0.0);
    let reach = points.iter().map(|p| p[0] + along[0] * most);
    let leaves = along[0] < -0.5 && reach.fold(f64::INFINITY, f64::min) < 0.0;
    if leaves && !ways.is_empty() {
        let passes =
            |(w, h): &(f64, f64)| points.iter().all(|p| p[1].abs() <= w / 2.0 && p[2] <= *h);
        if !ways.iter().any(passes) {
            let words = format!(
                "The {} does not pass the frame of the rear opening.",
                body.name
            );
            return finding(module, body, Severity::Stop, words);
        }
    }
    let out = stop.as_ref().map_or(most, |s| s.by);
    let level = match out / most {
        s if s < STUCK => Severity::Stop,
        s if s < 0.99 => Severity::Look,
        _ => Severity::Fine,
    };
    let sentence = match stop {
        Some(s) if s.by < 1.0 => {
            format!("The {} does not come out: it meets {}.", body.name, s.what)
        }
        Some(s) => format!(
            "The {} comes out {} of {}: then it meets {}.",
            body.name,
            ctx.w.bare(s.by),
            ctx.w.say(most),
            s.what
        ),
        None => format!("The {} comes out all its {}.", body.name, ctx.w.say(most)),
    };
    finding(module, body, level, sentence)
}
