//! Curves of known shape, and captures of them with the errors that a hand makes.

use jigfit_core::geometry::{Point, distance_to_segment};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal};
use serde_json::{Value, json};

/// A curve in closed form: place and direction at each share of its way.
pub struct True {
    pub at: Box<dyn Fn(f64) -> Point>,
    pub long: f64,
}

impl True {
    /// Direction by a very short chord.
    pub fn normal(&self, s: f64) -> Point {
        let h = 1e-6;
        let (a, b) = ((self.at)(s - h), (self.at)(s + h));
        let l = (b[0] - a[0]).hypot(b[1] - a[1]);
        [-(b[1] - a[1]) / l, (b[0] - a[0]) / l]
    }

    pub fn fine(&self) -> Vec<Point> {
        let n = (self.long * 2.0) as usize;
        (0..=n).map(|i| (self.at)(i as f64 / n as f64)).collect()
    }
}

/// A wall as vehicles have them: waves whose bends are nowhere tighter than 150 mm, somewhere in the plane.
pub fn body(seed: u64) -> True {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let long = rng.random_range(700.0..2000.0);
    let waves: Vec<(f64, f64, f64)> = (0..3)
        .map(|_| {
            let length: f64 = rng.random_range(350.0..2500.0);
            // y'' of a wave is A (2 pi / length)^2: together no more than 1/150.
            let most = (length / std::f64::consts::TAU).powi(2) / 450.0;
            let a = rng.random_range(0.05..1.0) * most.min(120.0);
            (a, length, rng.random_range(0.0..std::f64::consts::TAU))
        })
        .collect();
    let turn: f64 = rng.random_range(-0.3..0.3);
    True {
        at: Box::new(move |s| {
            let x = s * long;
            let y: f64 = waves
                .iter()
                .map(|(a, l, p)| a * (std::f64::consts::TAU * x / l + p).sin())
                .sum();
            let (sin, cos) = turn.sin_cos();
            [x * cos - y * sin, 400.0 + x * sin + y * cos]
        }),
        long,
    }
}

/// What the way of that name would have recorded, every `step` mm; the surface is the curve.
pub fn capture(way: &str, curve: &True, step: f64, sd: f64, seed: u64) -> Value {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let normal = Normal::new(0.0, sd.max(1e-12)).unwrap();
    let mut noise = move || {
        if sd > 0.0 {
            normal.sample(&mut rng)
        } else {
            0.0
        }
    };
    let n = (curve.long / step).round() as usize;
    let each = |i: usize| i as f64 / n as f64;
    let trace = |off: &dyn Fn(f64) -> Point, noise: &mut dyn FnMut() -> f64| -> Vec<Point> {
        (0..=n)
            .map(|i| {
                let (p, o) = ((curve.at)(each(i)), off(each(i)));
                [p[0] + o[0] + noise(), p[1] + o[1] + noise()]
            })
            .collect()
    };
    match way {
        "offset_block" => {
            let off = 38.0;
            // The surface lies to the left of what is drawn.
            let trace = trace(&|s| curve.normal(s).map(|v| -off * v), &mut noise);
            json!({"method": way, "trace": trace, "offset": off, "surface": "left", "sd": sd})
        }
        "scribe" => {
            let trace = trace(&|_| [0.0, -12.0], &mut noise);
            json!({"method": way, "trace": trace, "direction": [0, 2], "distance": 12, "sd": sd})
        }
        "ordinates" => {
            let (a, b) = ((curve.at)(0.0), (curve.at)(1.0));
            let l = (b[0] - a[0]).hypot(b[1] - a[1]);
            let u = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
            let base = [
                [a[0] + 150.0 * u[1], a[1] - 150.0 * u[0]],
                [b[0] + 150.0 * u[1], b[1] - 150.0 * u[0]],
            ];
            let readings: Vec<Value> = (0..=n)
                .map(|i| {
                    let p = (curve.at)(each(i));
                    let d = [p[0] - base[0][0], p[1] - base[0][1]];
                    json!({"at": d[0] * u[0] + d[1] * u[1], "depth": -d[0] * u[1] + d[1] * u[0] + noise()})
                })
                .collect();
            json!({"method": way, "base": base, "readings": readings, "surface": "left", "sd": sd})
        }
        _ => {
            let (a, b) = ((curve.at)(0.0), (curve.at)(1.0));
            let pins = [[a[0], a[1] - 600.0], [b[0], b[1] - 600.0]];
            let readings: Vec<Value> = (0..=n)
                .map(|i| {
                    let p = (curve.at)(each(i));
                    let d = |q: Point| (p[0] - q[0]).hypot(p[1] - q[1]);
                    json!({"a": d(pins[0]) + noise(), "b": d(pins[1]) + noise()})
                })
                .collect();
            json!({"method": way, "pins": pins, "readings": readings, "surface": "left", "sd": sd})
        }
    }
}

/// Root mean square and largest distance of an edge from the curve, every 2 mm along the edge.
pub fn error(edge: &[Point], curve: &True) -> (f64, f64) {
    let truth = curve.fine();
    let near = |p: Point| {
        truth
            .windows(2)
            .map(|w| distance_to_segment(p, w[0], w[1]))
            .fold(f64::INFINITY, f64::min)
    };
    let mut all = vec![];
    for w in edge.windows(2) {
        let l = (w[1][0] - w[0][0]).hypot(w[1][1] - w[0][1]);
        let k = (l / 4.0).ceil().max(1.0);
        all.extend((0..k as usize).map(|i| {
            let s = i as f64 / k;
            (
                near([
                    w[0][0] + s * (w[1][0] - w[0][0]),
                    w[0][1] + s * (w[1][1] - w[0][1]),
                ]),
                l / k,
            )
        }));
    }
    let long: f64 = all.iter().map(|a| a.1).sum();
    let square: f64 = all.iter().map(|a| a.0 * a.0 * a.1).sum();
    (
        (square / long).sqrt(),
        all.iter().map(|a| a.0).fold(0.0, f64::max),
    )
}

/// An arc of that radius about the origin, in degrees.
pub fn arc(radius: f64, deg: f64) -> True {
    True {
        at: Box::new(move |s| {
            let a = f64::to_radians(s * deg);
            [radius * a.cos(), radius * a.sin()]
        }),
        long: radius * f64::to_radians(deg),
    }
}

/// Most of an ellipse.
pub fn ellipse(a: f64, b: f64) -> True {
    True {
        at: Box::new(move |s| {
            let t = f64::to_radians(s * 330.0);
            [a * t.cos(), b * t.sin()]
        }),
        long: 2.9 * (a + b),
    }
}

/// Two straight legs that meet at the origin, turning left.
pub fn bent(leg: f64, deg: f64) -> True {
    let (s, c) = f64::to_radians(deg / 2.0).sin_cos();
    True {
        // Evenly about the upright, so that neither leg is along a pencil held upright.
        at: Box::new(move |t| {
            let x = (2.0 * t - 1.0) * leg;
            [x * c, x.abs() * s]
        }),
        long: 2.0 * leg,
    }
}

/// The same curve, read at places that lie `by` mm further along; its ends are shorter by that.
pub fn shifted(curve: &True, by: f64) -> True {
    let long = curve.long;
    let deg = 90.0;
    let l = bent(long / 2.0, deg);
    True {
        at: Box::new(move |t| (l.at)((by / long + t * (1.0 - by / long)).clamp(0.0, 1.0))),
        long: long - by,
    }
}

/// How near a point comes to a polyline.
pub fn near(p: Point, line: &[Point]) -> f64 {
    line.windows(2)
        .map(|w| distance_to_segment(p, w[0], w[1]))
        .fold(f64::INFINITY, f64::min)
}
