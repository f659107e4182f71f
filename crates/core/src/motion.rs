//! Bodies followed along their way: how far does a lid or drawer go before it meets something?

mod vehicle;

use std::borrow::Cow;
use std::collections::BTreeMap;
use std::ops::Range;

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
/// No point goes further than this between two looks at other boards, mm: less than any board is thick.
const BOARDS: f64 = 5.0;
/// Where it begins a body touches what it lies on: what it meets within this is not in its way, mm.
const REST: f64 = 1.0;

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

/// Follows a body from one opening to another, both in degrees or mm from shut. `own` are its boards where it is
/// shut, and those that ride on it; `rest` is everything else where that lies meanwhile. The front gives way by `past`, mm.
pub fn follow(
    (project, model, past): (&Project, &Model, f64),
    motion: &Motion,
    (own, rest): (&[Solid], &[&Solid]),
    (from, to): (f64, f64),
) -> Option<Stop> {
    let mut points: Vec<Vec3> = Vec::new();
    let of_each: Vec<Range<usize>> = own
        .iter()
        .map(|s| {
            let from = points.len();
            points.extend(s.points());
            from..points.len()
        })
        .collect();
    let module = own.first().map_or("", |s| s.board.module.as_str());
    let places = |by: f64| {
        let there = motion.to(by);
        points.iter().map(move |p| there(*p))
    };
    let begin: Vec<Vec3> = places(from).collect();
    // What it meets where it has hardly moved it lay on.
    let away = move |now: Vec3, begin: &Vec3| {
        let far = (0..3).map(|k| (now[k] - begin[k]).powi(2)).sum::<f64>();
        (far.sqrt() > REST).then_some(now)
    };
    let step = match motion {
        Motion::Turn { .. } => TURN,
        Motion::Slide { .. } | Motion::Over { .. } => SLIDE,
    };
    let looks = |n: usize| (1..=n).map(move |i| (i, from + (to - from) * i as f64 / n as f64));
    let coarse = ((to - from).abs() / step).ceil() as usize;
    let mut swept = vec![([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]); own.len()];
    for by in looks(coarse).map(|(_, by)| by).chain([from]) {
        let there = motion.to(by);
        for (all, (low, high)) in of_each.iter().zip(&mut swept) {
            for p in points[all.clone()].iter().map(|p| there(*p)) {
                for k in 0..3 {
                    low[k] = low[k].min(p[k]);
                    high[k] = high[k].max(p[k]);
                }
            }
        }
    }
    let (low, high) = around(swept.iter().flat_map(|b| [b.0, b.1]));
    let (low, high) = (low.map(|v| v - SLIDE), high.map(|v| v + SLIDE));
    let vehicle = Vehicle::around(model, low, high, (0.0, past));
    let clear = vehicle.clear(low, high);
    let vehicle = looks(coarse).take_while(|_| !clear).find_map(|(i, by)| {
        let mut now = places(by).zip(&begin).filter_map(|(p, b)| away(p, b));
        let what = now.find_map(|p| vehicle.holds(p))?;
        let by = from + (to - from) * (i - 1) as f64 / coarse as f64;
        Some(Stop {
            by,
            what,
            met: Met::Vehicle,
        })
    });
    // Boards are thin: followed in steps that none slips through, as far as it comes at all. Only those that come by something.
    let beside = match motion {
        Motion::Over { .. } => SLIDE,
        Motion::Turn { .. } | Motion::Slide { .. } => REST,
    };
    let movers: Vec<(&Range<usize>, Vec<&Solid>)> = of_each
        .iter()
        .zip(&swept)
        .filter_map(|(all, (low, high))| {
            let near = |s: &&&Solid| {
                (0..3).all(|k| s.high[k] > low[k] - beside && s.low[k] < high[k] + beside)
            };
            let near: Vec<&Solid> = rest.iter().filter(near).copied().collect();
            (!near.is_empty()).then_some((all, near))
        })
        .collect();
    let furthest = places(from).zip(places(to)).map(|(a, b)| match motion {
        Motion::Slide { .. } | Motion::Over { .. } => (to - from).abs(),
        Motion::Turn { .. } => {
            // A chord and its arc.
            let chord = (0..3).map(|k| (a[k] - b[k]).powi(2)).sum::<f64>().sqrt();
            let half = ((to - from) / 2.0).to_radians().abs();
            chord * half / half.sin().abs().max(1e-3)
        }
    });
    let way = furthest.fold(0.0, f64::max);
    let fine = (way / BOARDS).ceil().clamp(1.0, 4000.0) as usize;
    let board = looks(fine)
        .take_while(|(_, by)| {
            let limit = vehicle
                .as_ref()
                .map_or(f64::INFINITY, |v| (v.by - from).abs());
            !movers.is_empty() && (by - from).abs() <= limit + step
        })
        .find_map(|(i, by)| {
            let there = motion.to(by);
            let met = movers.iter().find_map(|(all, near)| {
                let begun = points[(*all).clone()].iter().zip(&begin[(*all).clone()]);
                let now: Vec<Vec3> = begun.filter_map(|(p, b)| away(there(*p), b)).collect();
                let (low, high) = around(now.iter().copied());
                let close = |s: &&&Solid| (0..3).all(|k| s.high[k] > low[k] && s.low[k] < high[k]);
                let close: Vec<&&Solid> = near.iter().filter(close).collect();
                now.iter()
                    .find_map(|p| close.iter().find(|s| s.holds(*p)).map(|s| **s))
            })?;
            let by = from + (to - from) * (i - 1) as f64 / fine as f64;
            Some(Stop {
                by,
                what: named(project, met, module),
                met: Met::Board,
            })
        });
    match (vehicle, board) {
        (Some(v), Some(b)) if (v.by - from).abs() < (b.by - from).abs() => Some(v),
        (v, b) => b.or(v),
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

/// A board in a sentence.
fn named(project: &Project, s: &Solid, module: &str) -> String {
    let whose = project.modules.get(&s.board.module);
    if s.board.module == module {
        s.board.mark.clone()
    } else {
        let name = whose.map_or(String::new(), |m| m.called());
        format!("the {name} ({})", s.board.mark)
    }
}
