//! Bodies followed along their way: how far does a lid or drawer go before it meets something?

use std::borrow::Cow;
use std::collections::BTreeMap;
use std::ops::Range;

use crate::boards::BoardView;
use crate::furniture::built::{Body, Built, Met, Motion, Vec3};
use crate::furniture::riding::Bodies;
use crate::geometry::pose::around;
use crate::project::Project;
use crate::project::survey::Side;
use crate::side_by_side::each;
use crate::solids::Solid;
use crate::survey::model::Model;
use crate::survey::obstacle::Obstacle;

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

/// What moves should keep so many standard deviations off the vehicle's best surfaces: boards at rest keep three.
const GROWN: f64 = 2.0;
/// No doubt is larger than this where it matters, mm.
const UNSURE: f64 = 15.0;

/// What of the vehicle a point is in, as it was read.
pub fn met(model: &Model, p: Vec3) -> Option<String> {
    let as_read = Vehicle {
        model,
        grown: 0.0,
        past: 0.0,
        walls: [f64::NEG_INFINITY; 2],
        front: f64::NEG_INFINITY,
        roof: f64::NEG_INFINITY,
        roof_sd: 0.0,
    };
    as_read.holds(p)
}

/// The vehicle round a motion. How near walls, front and roof come there is looked up once on a grid: only points
/// beyond that are held against them exactly, which costs a good deal more.
struct Vehicle<'a> {
    model: &'a Model,
    /// By so many standard deviations everything of it is nearer.
    grown: f64,
    /// The front gives way so far, mm.
    past: f64,
    /// No wall on that side comes nearer to the centre line, mm.
    walls: [f64; 2],
    /// No front comes further back.
    front: f64,
    /// No roof comes lower.
    roof: f64,
    /// Its doubt where it is lowest, one standard deviation.
    roof_sd: f64,
}

impl<'a> Vehicle<'a> {
    fn around(model: &'a Model, low: Vec3, high: Vec3, (grown, past): (f64, f64)) -> Vehicle<'a> {
        /// The grid has so many places each way.
        const PLACES: usize = 5;
        /// Between them nothing comes in further than this, mm, doubt and all.
        const BETWEEN: f64 = 25.0 + GROWN * UNSURE;
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
            grown,
            past,
            walls: Side::BOTH.map(|s| least(&|x, z| model.offset(s, inside(x), z), 0)),
            front: least(&|y, z| model.reach(y, z), 1),
            roof: roofs.fold(f64::INFINITY, f64::min) - BETWEEN,
            roof_sd: model.lowest_roof().map_or(0.0, |r| r.sd),
        }
    }

    /// Nothing of it comes near a box.
    fn clear(&self, low: Vec3, high: Vec3) -> bool {
        let [left, right] = Side::BOTH.map(|s| self.walls[s as usize]);
        let within = high[1] < left && -low[1] < right && high[2] < self.roof;
        let apart = |o: &Obstacle| {
            let top = o.z.1 + self.grown * UNSURE;
            o.x.0 > high[0] || o.x.1 < low[0] || o.z.0 > high[2] || top < low[2]
        };
        within && high[0] - self.past < self.front && self.model.things().all(apart)
    }

    /// What of the vehicle a point is in, if anything.
    fn holds(&self, [x, y, z]: Vec3) -> Option<String> {
        let model = self.model;
        // Behind the threshold it is outside.
        if x < 0.0 {
            return None;
        }
        // Where seats were slid away nobody read walls.
        if self.past > 0.0
            && self
                .model
                .reach(y, z)
                .is_some_and(|r| x > r && x < r + self.past)
        {
            return None;
        }
        let k = self.grown;
        let side = if y >= 0.0 { Side::Left } else { Side::Right };
        let out = y.abs();
        let near = |best: Option<f64>, at: f64| best.is_some_and(|b| at > b - k * UNSURE);
        // The best value first: with its doubt it costs a good deal more.
        let wall = || k == 0.0 || model.wall(side, x, z).is_some_and(|w| out > w.0 - k * w.1);
        if out > self.walls[side as usize] && near(model.offset(side, x, z), out) && wall() {
            return Some(format!("the {} wall", side.word()));
        }
        let roof = || {
            model
                .floor_to_roof(x)
                .map(|r| r + model.floor(x) - k * self.roof_sd)
        };
        if z > self.roof && roof().is_some_and(|r| z > r) {
            return Some("the roof".into());
        }
        let far = x - self.past;
        let front = || k == 0.0 || model.front(y, z).is_some_and(|f| far > f.0 - k * f.1);
        if far > self.front && near(model.reach(y, z), far) && front() {
            return Some("the front".into());
        }
        let mut things = model.things();
        let thing = things.find(|o| {
            let grown = [
                [x, y + o.side.sign() * k * o.sd, z],
                [x, y, z - k * o.top_sd],
            ];
            o.holds([x, y, z]) || k > 0.0 && grown.into_iter().any(|p| o.holds(p))
        });
        thing.map(|o| format!("the {}", o.name))
    }
}
