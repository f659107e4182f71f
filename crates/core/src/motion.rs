//! Bodies followed along their way: how far does a lid or drawer go before it meets something?

use crate::furniture::built::{Body, Motion, Vec3};
use crate::project::Project;
use crate::project::survey::Side;
use crate::solids::Solid;
use crate::survey::model::{Model, Obstacle};

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
}

/// Follows a body from one opening to another, both in degrees or mm from shut. `own` are its boards where it is
/// shut, `rest` everything else where that lies meanwhile.
pub fn follow(
    (project, model): (&Project, &Model),
    body: &Body,
    (own, rest): (&[Solid], &[&Solid]),
    (from, to): (f64, f64),
) -> Option<Stop> {
    let points: Vec<Vec3> = own.iter().flat_map(Solid::points).collect();
    let module = own.first().map_or("", |s| s.board.module.as_str());
    let places = |by: f64| points.iter().map(move |p| body.motion.moved(*p, by));
    let begin: Vec<Vec3> = places(from).collect();
    // What it meets where it has hardly moved it lay on.
    let away = move |now: Vec3, begin: &Vec3| {
        let far = (0..3).map(|k| (now[k] - begin[k]).powi(2)).sum::<f64>();
        (far.sqrt() > REST).then_some(now)
    };
    let step = match body.motion {
        Motion::Turn { .. } => TURN,
        Motion::Slide { .. } => SLIDE,
    };
    let looks = |n: usize| (1..=n).map(move |i| (i, from + (to - from) * i as f64 / n as f64));
    let coarse = ((to - from).abs() / step).ceil() as usize;
    let vehicle = looks(coarse).find_map(|(i, by)| {
        let mut now = places(by).zip(&begin).filter_map(|(p, b)| away(p, b));
        let what = now.find_map(|p| in_vehicle(model, p))?;
        let by = from + (to - from) * (i - 1) as f64 / coarse as f64;
        Some(Stop { by, what })
    });
    // Boards are thin: followed in steps that none slips through, as far as it comes at all.
    let (low, high) = swept(places, looks(coarse).map(|(_, by)| by).chain([from]));
    let near = |s: &&&Solid| (0..3).all(|k| s.high[k] > low[k] && s.low[k] < high[k]);
    let near: Vec<&&Solid> = rest.iter().filter(near).collect();
    let furthest = places(from)
        .zip(places(to))
        .map(|(a, b)| match body.motion {
            Motion::Slide { .. } => (to - from).abs(),
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
            !near.is_empty() && (by - from).abs() <= limit + step
        })
        .find_map(|(i, by)| {
            let mut now = places(by).zip(&begin).filter_map(|(p, b)| away(p, b));
            let met = now.find_map(|p| near.iter().find(|s| s.holds(p)))?;
            let by = from + (to - from) * (i - 1) as f64 / fine as f64;
            Some(Stop {
                by,
                what: named(project, met, module),
            })
        });
    match (vehicle, board) {
        (Some(v), Some(b)) if (v.by - from).abs() < (b.by - from).abs() => Some(v),
        (v, b) => b.or(v),
    }
}

/// The box round all places of a motion, and a step more.
fn swept<I: Iterator<Item = Vec3>>(
    places: impl Fn(f64) -> I,
    looks: impl Iterator<Item = f64>,
) -> (Vec3, Vec3) {
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for p in looks.flat_map(places) {
        for k in 0..3 {
            low[k] = low[k].min(p[k] - SLIDE);
            high[k] = high[k].max(p[k] + SLIDE);
        }
    }
    (low, high)
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

/// What of the vehicle a point is in, if anything.
fn in_vehicle(model: &Model, p: Vec3) -> Option<String> {
    let [x, y, z] = p;
    // Behind the threshold it is outside.
    if x < 0.0 {
        return None;
    }
    let side = if y >= 0.0 { Side::Left } else { Side::Right };
    // The wall of its best place: its doubt is small against what is judged here.
    if model.offset(side, x, z).is_some_and(|w| y.abs() > w) {
        return Some(format!("the {} wall", side.word()));
    }
    let roof = model.floor_to_roof(x).map(|r| r + model.floor(x));
    if roof.is_some_and(|r| z > r) {
        return Some("the roof".into());
    }
    if model.reach(y, z).is_some_and(|f| x > f) {
        return Some("the front".into());
    }
    let inside = |o: &&Obstacle| {
        let across = side.sign() * y;
        o.side == side && x > o.x.0 && x < o.x.1 && z > o.z.0 && z < o.z.1 && across > o.face
    };
    let thing = model.things().find(inside);
    thing.map(|o| format!("the {}", o.name))
}
