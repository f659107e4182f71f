//! Bodies followed along their way: how far does a lid or drawer go before it meets something?

mod follow;
mod vehicle;

use std::borrow::Cow;
use std::collections::BTreeMap;

pub use self::follow::follow;
pub use self::vehicle::met;
use self::vehicle::{GROWN, Vehicle};
use crate::boards::BoardView;
use crate::furniture::built::{Body, Built, Met, Motion, Vec3};
use crate::furniture::riding::Bodies;
use crate::geometry::pose::around;
use crate::project::Project;
use crate::side_by_side::each;
use crate::solids::Solid;
use crate::survey::model::Model;

/// Steps in which a motion is held against the vehicle: degrees, mm.
const TURN: f64 = 1.0;
const SLIDE: f64 = 20.0;

/// What ends a motion.
#[derive(Debug, Clone, PartialEq)]
pub struct Stop {
    /// How far it came, degrees or mm from shut.
    pub by: f64,
    /// What it met.
    pub what: String,
    /// Of which sort that is.
    pub met: Met,
    /// The body that it belongs to, if it is a board: `module/body`.
    pub body: Option<String>,
}

/// How far a body goes.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Free {
    /// What stops it, if anything does.
    pub stop: Option<Stop>,
    /// What else has to be opened before, in this order: `module/body`.
    pub first: Vec<String>,
}

/// What lies over what lies over a third: deeper nobody builds.
const DEEP: usize = 3;

/// How far each body goes from shut, everything else shut, by `module/body`. What lies under something else that can be opened,
/// such as a lid under the part of a deck that lifts, is tried with that open.
pub fn stops(
    (project, model): (&Project, &Model),
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
) -> BTreeMap<String, Free> {
    let solids: Vec<Solid> = boards.iter().map(|b| Solid::at(b, b.shut)).collect();
    let moving: Vec<&Body> = built.values().flat_map(|b| &b.bodies).collect();
    let bodies = Bodies::new(moving.iter().copied());
    let known = (project, model, &bodies, &solids[..]);
    let alone = each(&moving, |body| goes(known, body, &[]));
    // As far as it goes itself what lies over another may be opened before.
    let opens = |id: &str| -> Option<(&str, f64)> {
        let at = moving.iter().position(|b| b.id == id)?;
        let (body, stop) = (moving.get(at)?, alone.get(at)?.as_ref());
        let most = body.motion.usual();
        let share = stop.map_or(most, |s| (s.by / body.motion.whole()).min(most));
        gives_access(body, stop).then_some((&body.id, share))
    };
    let further = |s: Option<&Stop>| s.map_or(f64::INFINITY, |s| s.by);
    let all: Vec<(&&Body, &Option<Stop>)> = moving.iter().zip(&alone).collect();
    let free = each(&all, |(body, alone)| {
        let mut best = Free {
            stop: (*alone).clone(),
            first: vec![],
        };
        let mut open: Vec<(&str, f64)> = vec![];
        let mut now = (*alone).clone();
        // What changes the vehicle's use is judged with everything else shut.
        while body.change.is_none() && open.len() < DEEP {
            let over = now.as_ref().and_then(|s| s.body.as_deref());
            let over = over.filter(|o| {
                let related = bodies.goes_with(o, &body.id) || bodies.goes_with(&body.id, o);
                !related && open.iter().all(|(known, _)| known != o)
            });
            let Some(over) = over.and_then(opens) else {
                break;
            };
            open.push(over);
            now = goes(known, body, &open);
            if further(now.as_ref()) > further(best.stop.as_ref()) {
                best = Free {
                    stop: now.clone(),
                    first: open.iter().map(|(id, _)| (*id).to_string()).collect(),
                };
            }
        }
        (body.id.clone(), best)
    });
    free.into_iter().collect()
}

/// How far one goes with some others open; what is lifted out is put away.
fn goes(
    (project, model, bodies, solids): (&Project, &Model, &Bodies, &[Solid]),
    body: &Body,
    others: &[(&str, f64)],
) -> Option<Stop> {
    let chain = bodies.chain(&body.id);
    let carriers: Vec<&str> = chain.iter().skip(1).map(|b| b.id.as_str()).collect();
    // What rides on another may be opened with that shut or all the way out: where it goes further counts.
    let open = [0.0, 1.0]
        .into_iter()
        .take(1 + usize::from(!carriers.is_empty()));
    let mut tries = open.map(|share| {
        let open = |id: &str| match carriers.contains(&id) {
            true => share,
            false => others.iter().find(|o| o.0 == id).map_or(0.0, |o| o.1),
        };
        let mut moved: Vec<&str> = others.iter().map(|o| o.0).collect();
        if share > 0.0 {
            moved.extend(&carriers);
        }
        let there = carried(solids, &moved, bodies, &open);
        let away = |s: &&Solid| {
            let mut chain = bodies.chain(&s.board.body).into_iter();
            chain.any(|b| b.motion.lifts_out() && others.iter().any(|o| o.0 == b.id))
        };
        let (own, rest): (Vec<&Solid>, Vec<&Solid>) = there
            .iter()
            .map(AsRef::as_ref)
            .filter(|s| !away(s))
            .partition(|s| bodies.goes_with(&s.board.body, &body.id));
        let own: Vec<Solid> = own.into_iter().cloned().collect();
        let motion = bodies.carriers(&body.id, &open).motion(body.motion);
        follow(
            (project, model, body.past_front()),
            &motion,
            (&own, &rest),
            (0.0, motion.whole()),
        )
    });
    let first = tries.next().flatten();
    first.and_then(|first| match tries.next() {
        Some(Some(second)) if second.by > first.by => Some(second),
        Some(None) => None,
        _ => Some(first),
    })
}

/// All boards with some bodies open: only what those carry lies elsewhere.
fn carried<'s, 'a>(
    shut: &'s [Solid<'a>],
    moved: &[&str],
    bodies: &Bodies,
    open: &dyn Fn(&str) -> f64,
) -> Vec<Cow<'s, Solid<'a>>> {
    let all = shut.iter();
    all.map(|s| {
        if !moved.iter().any(|m| bodies.goes_with(&s.board.body, m)) {
            return Cow::Borrowed(s);
        }
        let pose = bodies.lies(&s.board.body, s.board.shut, open);
        Cow::Owned(Solid::at(s.board, pose))
    })
    .collect()
}

/// So much of a motion is of use: a lid that opens less gives no access, degrees; of a drawer that comes out less
/// than this share little can be taken (choices).
pub const ACCESS: f64 = 45.0;
/// See `ACCESS`.
pub const OUT: f64 = 0.5;

/// What lies behind a body can be reached with it opened as far as it goes.
pub fn gives_access(body: &Body, stop: Option<&Stop>) -> bool {
    let by = stop.map_or(body.motion.whole(), |s| s.by);
    match body.motion {
        Motion::Turn { .. } => by >= ACCESS,
        Motion::Slide { .. } | Motion::Over { .. } => by >= OUT * body.motion.whole(),
    }
}

/// What of the vehicle a body that goes all its way comes nearer to than the readings are sure of, and how far it is then.
pub fn doubt(model: &Model, body: &Body, own: &[Solid]) -> Option<Stop> {
    let motion = &body.motion;
    let points: Vec<Vec3> = own.iter().flat_map(Solid::points).collect();
    let whole = motion.whole();
    let step = match motion {
        Motion::Turn { .. } => TURN * 3.0,
        Motion::Slide { .. } | Motion::Over { .. } => SLIDE * 2.0,
    };
    let n = (whole / step).ceil().max(1.0) as usize;
    let looks = (1..=n).map(|i| whole * i as f64 / n as f64);
    let places = |by: f64| {
        let there = motion.to(by);
        points.iter().map(move |p| there(*p))
    };
    let (low, high) = swept(places, looks.clone());
    let vehicle = Vehicle::around(model, low, high, (GROWN, body.past_front()));
    if vehicle.clear(low, high) {
        return None;
    }
    // Where it lies it lies: that is judged at rest.
    let near: Vec<bool> = places(0.0).map(|p| vehicle.holds(p).is_some()).collect();
    looks.into_iter().find_map(|by| {
        let mut free = places(by).zip(&near).filter(|(_, near)| !**near);
        let what = free.find_map(|(p, _)| vehicle.holds(p))?;
        Some(Stop {
            by,
            what,
            met: Met::Vehicle,
            body: None,
        })
    })
}

/// The box round all places of a motion, and a step more.
fn swept<I: Iterator<Item = Vec3>>(
    places: impl Fn(f64) -> I,
    looks: impl Iterator<Item = f64>,
) -> (Vec3, Vec3) {
    let (low, high) = around(looks.flat_map(places));
    (low.map(|v| v - SLIDE), high.map(|v| v + SLIDE))
}
