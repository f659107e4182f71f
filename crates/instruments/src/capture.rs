//! A person who captures a wall's curve with a straight edge and a probe, and finds the straight edge's ends in the
//! vehicle with a tape.

use std::collections::BTreeMap;

use jigfit_core::geometry::Point;
use jigfit_core::project::survey::Side;
use jigfit_core::project::templates::{self, Face, Placing, Plane, Station, Template, Tie, Way};

use rand_distr::{Distribution, StandardNormal};

use crate::tape::stream;
use crate::vehicle::Vehicle;

/// How a curve is captured.
#[derive(Debug, Clone, Copy)]
pub struct Probe {
    /// Of which wall.
    pub side: Side,
    /// At which height, mm.
    pub z: f64,
    /// From where to where along the bay, mm.
    pub x: (f64, f64),
    /// A depth every so many mm.
    pub step: f64,
    /// Noise of a depth, mm.
    pub noise: f64,
    /// Noise of the tape that finds the straight edge, mm.
    pub tape: f64,
    /// Seed of all chance.
    pub seed: u64,
}

/// Captures it. `None` where there is no wall.
pub fn probe(v: &Vehicle, p: &Probe) -> Option<Template> {
    /// The straight edge lies so far off the wall at its ends, mm: not parallel to anything.
    const OFF: [f64; 2] = [120.0, 95.0];
    let mut chance = stream(p.seed, 77);
    let mut by = |sd: f64| sd * Distribution::<f64>::sample(&StandardNormal, &mut chance);
    let sign = p.side.sign();
    let wall = |x: f64| Some(sign * v.wall(p.side, x, p.z)?);
    let a = [p.x.0, wall(p.x.0)? - sign * OFF[0]];
    let b = [p.x.1, wall(p.x.1)? - sign * OFF[1]];
    let apart = (b[0] - a[0]).hypot(b[1] - a[1]);
    let u = [(b[0] - a[0]) / apart, (b[1] - a[1]) / apart];
    let n = [-sign * u[1], sign * u[0]];
    let mut stations = BTreeMap::new();
    let count = (apart / p.step).floor() as usize;
    for i in 0..=count {
        let at = apart * i as f64 / count as f64;
        let from = [a[0] + at * u[0], a[1] + at * u[1]];
        let depth = depth(&wall, from, n, sign)?;
        let own = Station {
            a: Some(at),
            b: Some(depth + by(p.noise)),
            ..Station::default()
        };
        stations.insert(format!("s{i:03}"), own);
    }
    let mut tie = |at: f64, there: Point| Tie {
        a: Some(at),
        b: Some(0.0),
        u: Some(there[0] + by(p.tape)),
        v: Some(sign * there[1] + by(p.tape)),
    };
    let landmarks = BTreeMap::from([("1".into(), tie(0.0, a)), ("2".into(), tie(apart, b))]);
    let (of, surface) = match p.side {
        Side::Left => (Face::Left, templates::Side::Left),
        Side::Right => (Face::Right, templates::Side::Right),
    };
    Some(Template {
        way: Way::Ordinates,
        sd: p.noise,
        surface,
        apart,
        stations,
        place: Some(Placing {
            of,
            plane: Plane::Level,
            at: Some(p.z),
            landmarks,
            aside: false,
        }),
        ..Template::default()
    })
}

/// How far the wall is from a point in a direction, by halving.
fn depth(wall: &impl Fn(f64) -> Option<f64>, from: Point, n: Point, sign: f64) -> Option<f64> {
    let beyond = |d: f64| {
        let (x, y) = (from[0] + d * n[0], from[1] + d * n[1]);
        Some(sign * y >= sign * wall(x)?)
    };
    let (mut lo, mut hi) = (0.0, 400.0);
    if beyond(lo)? || !beyond(hi)? {
        return None;
    }
    for _ in 0..60 {
        let mid = (lo + hi) / 2.0;
        match beyond(mid)? {
            true => hi = mid,
            false => lo = mid,
        }
    }
    Some(lo)
}
