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
}

/// How far each body goes from shut, everything else shut, by `module/body`: what stops it, if anything does.
pub fn stops(
    (project, model): (&Project, &Model),
    built: &BTreeMap<String, Built>,
    boards: &[BoardView],
) -> BTreeMap<String, Option<Stop>> {
    let solids: Vec<Solid> = boards.iter().map(|b| Solid::at(b, b.shut)).collect();
    let moving = built.iter().flat_map(|(module, b)| {
        let one = b.bodies.iter().map(move |body| (module, b, body));
        one.collect::<Vec<_>>()
    });
    each(&moving.collect::<Vec<_>>(), |(module, b, body)| {
        let bodies = Bodies::new(&b.bodies);
        let chain = bodies.chain(&body.id);
        let carriers: Vec<&str> = chain.iter().skip(1).map(|b| b.id.as_str()).collect();
        // What rides on another may be opened with that shut or all the way out: where it goes further counts.
        let open = [0.0, 1.0]
            .into_iter()
            .take(1 + usize::from(!carriers.is_empty()));
        let mut tries = open.map(|share| {
            let open = |id: &str| if carriers.contains(&id) { share } else { 0.0 };
            let moved: &[&str] = if share > 0.0 { &carriers } else { &[] };
            let there = carried(&solids, (module, moved), &bodies, &open);
            let (own, rest): (Vec<&Solid>, Vec<&Solid>) = there
                .iter()
                .map(AsRef::as_ref)
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
        let stop = first.and_then(|first| match tries.next() {
            Some(Some(second)) if second.by > first.by => Some(second),
            Some(None) => None,
            _ => Some(first),
        });
        (body.id.clone(), stop)
    })
    .into_iter()
    .collect()
}

/// All boards with some bodies of a module open: only what those carry lies elsewhere.
fn carried<'s, 'a>(
    shut: &'s [Solid<'a>],
    (module, moved): (&str, &[&str]),
    bodies: &Bodies,
    open: &dyn Fn(&str) -> f64,
) -> Vec<Cow<'s, Solid<'a>>> {
    let all = shut.iter();
    all.map(|s| {
        let goes = |m: &&&str| bodies.goes_with(&s.board.body, m);
        if s.board.module != module || !moved.iter().any(|m| goes(&m)) {
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
        let met = Met::Vehicle;
        Some(Stop { by, what, met })
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
