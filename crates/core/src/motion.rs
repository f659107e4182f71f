//! Bodies followed along their way: how far does a lid or drawer go before it meets something?

use std::collections::BTreeMap;

use crate::boards::BoardView;
use crate::furniture::built::{Body, Built, Met, Motion, Vec3};
use crate::project::Project;
use crate::project::survey::Side;
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
    let bodies = built.values().flat_map(|b| &b.bodies);
    bodies
        .map(|body| {
            let (own, rest): (Vec<&Solid>, Vec<&Solid>) =
                solids.iter().partition(|s| s.board.body == body.id);
            let own: Vec<Solid> = own.into_iter().cloned().collect();
            let range = (0.0, body.motion.whole());
            let stop = follow((project, model), body, (&own, &rest), range);
            (body.id.clone(), stop)
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
        Motion::Slide { .. } | Motion::Over { .. } => SLIDE,
    };
    let looks = |n: usize| (1..=n).map(move |i| (i, from + (to - from) * i as f64 / n as f64));
    let coarse = ((to - from).abs() / step).ceil() as usize;
    let (low, high) = swept(places, looks(coarse).map(|(_, by)| by).chain([from]));
    let vehicle = Vehicle::around(model, low, high);
    let vehicle = looks(coarse).find_map(|(i, by)| {
        let mut now = places(by).zip(&begin).filter_map(|(p, b)| away(p, b));
        let what = now.find_map(|p| vehicle.holds(p))?;
        let by = from + (to - from) * (i - 1) as f64 / coarse as f64;
        Some(Stop {
            by,
            what,
            met: Met::Vehicle,
        })
    });
    // Boards are thin: followed in steps that none slips through, as far as it comes at all.
    let near = |s: &&&Solid| (0..3).all(|k| s.high[k] > low[k] && s.low[k] < high[k]);
    let near: Vec<&&Solid> = rest.iter().filter(near).collect();
    let furthest = places(from)
        .zip(places(to))
        .map(|(a, b)| match body.motion {
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
            !near.is_empty() && (by - from).abs() <= limit + step
        })
        .find_map(|(i, by)| {
            let mut now = places(by).zip(&begin).filter_map(|(p, b)| away(p, b));
            let met = now.find_map(|p| near.iter().find(|s| s.holds(p)))?;
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

/// The vehicle round a motion. How near walls, front and roof come there is looked up once on a grid: only points
/// beyond that are held against them exactly, which costs a good deal more.
struct Vehicle<'a> {
    model: &'a Model,
    /// No wall on that side comes nearer to the centre line, mm.
    walls: [f64; 2],
    /// No front comes further back.
    front: f64,
    /// No roof comes lower.
    roof: f64,
}

impl<'a> Vehicle<'a> {
    fn around(model: &'a Model, low: Vec3, high: Vec3) -> Vehicle<'a> {
        /// The grid has so many places each way.
        const PLACES: usize = 5;
        /// Between them nothing comes in further than this, mm.
        const BETWEEN: f64 = 25.0;
        let grid = |k: usize| {
            let (a, b) = (low[k], high[k]);
            (0..PLACES).map(move |i| a + (b - a) * i as f64 / (PLACES - 1) as f64)
        };
        let inside = |x: f64| x.max(0.0);
        let least = |of: &dyn Fn(f64, f64) -> Option<f64>, k: usize| {
            let all = grid(k).flat_map(|u| grid(2).map(move |z| (u, z)));
            all.filter_map(|(u, z)| of(u, z))
                .fold(f64::INFINITY, f64::min)
                - BETWEEN
        };
        let roofs = grid(0).filter_map(|x| {
            let x = inside(x);
            Some(model.floor_to_roof(x)? + model.floor(x))
        });
        Vehicle {
            model,
            walls: Side::BOTH.map(|s| least(&|x, z| model.offset(s, inside(x), z), 0)),
            front: least(&|y, z| model.reach(y, z), 1),
            roof: roofs.fold(f64::INFINITY, f64::min) - BETWEEN,
        }
    }

    /// What of the vehicle a point is in, if anything.
    fn holds(&self, [x, y, z]: Vec3) -> Option<String> {
        let model = self.model;
        // Behind the threshold it is outside.
        if x < 0.0 {
            return None;
        }
        let side = if y >= 0.0 { Side::Left } else { Side::Right };
        // The wall of its best place: its doubt is small against what is judged here.
        let far = y.abs() > self.walls[side as usize];
        if far && model.offset(side, x, z).is_some_and(|w| y.abs() > w) {
            return Some(format!("the {} wall", side.word()));
        }
        let roof = || model.floor_to_roof(x).map(|r| r + model.floor(x));
        if z > self.roof && roof().is_some_and(|r| z > r) {
            return Some("the roof".into());
        }
        if x > self.front && model.reach(y, z).is_some_and(|f| x > f) {
            return Some("the front".into());
        }
        let thing = model.things().find(|o| o.holds([x, y, z]));
        thing.map(|o| format!("the {}", o.name))
    }
}
