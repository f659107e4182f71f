//! What a test knows that the program does not.
#![allow(dead_code)]

use jigfit_core::geometry::Point;
use jigfit_instruments::camera::{Camera, Lies};
use jigfit_photo::plane::{Seen, Taped};
use jigfit_photo::sheet::SIDE;
use rand::Rng;
use rand_distr::{Distribution, Normal};

/// A sheet as its edges would be found, with `noise` pixels.
pub fn sheet(camera: &Camera, rng: &mut impl Rng, number: usize, lies: &Lies, noise: f64) -> Seen {
    let off = Normal::new(0.0, noise).unwrap();
    let corners = lies.corners().map(|c| camera.sees(c));
    let h = SIDE / 2.0;
    let mut side = |f: &dyn Fn(f64) -> Point| -> Vec<Point> {
        let along = (2..=18).map(|k| SIDE * (f64::from(k) / 20.0 - 0.5));
        along
            .map(|t| camera.sees(lies.at(f(t))))
            .map(|p| p.map(|v| v + off.sample(rng)))
            .collect()
    };
    let sides = [
        side(&|t| [t, -h]),
        side(&|t| [h, t]),
        side(&|t| [-t, h]),
        side(&|t| [-h, -t]),
    ];
    Seen {
        number,
        sides,
        corners,
    }
}

/// What somebody tapes from cross to cross.
pub fn taped(rng: &mut impl Rng, lies: &[Lies], from: usize, to: usize) -> Taped {
    let (a, b) = (lies[from].at, lies[to].at);
    let tape = Normal::new(0.0, 0.7).unwrap();
    let mm = (a[0] - b[0]).hypot(a[1] - b[1]) + tape.sample(rng);
    Taped { from, to, mm }
}

/// What is left between places and where they truly are, the ones turned and shifted onto the others (Procrustes).
pub fn left(found: &[Point], truth: &[Point]) -> Vec<f64> {
    let onto = onto(found, truth);
    let each = found.iter().zip(truth).map(|(p, q)| {
        let p = onto(*p);
        (p[0] - q[0]).hypot(p[1] - q[1])
    });
    each.collect()
}

/// The turn and shift that brings `found` onto `truth`.
pub fn onto(found: &[Point], truth: &[Point]) -> impl Fn(Point) -> Point + use<> {
    let n = found.len() as f64;
    let mean = |all: &[Point]| [0, 1].map(|k| all.iter().map(|p| p[k]).sum::<f64>() / n);
    let (f, t) = (mean(found), mean(truth));
    let (mut dot, mut cross) = (0.0, 0.0);
    for (p, q) in found.iter().zip(truth) {
        let (a, b) = ([p[0] - f[0], p[1] - f[1]], [q[0] - t[0], q[1] - t[1]]);
        dot += a[0] * b[0] + a[1] * b[1];
        cross += a[0] * b[1] - a[1] * b[0];
    }
    let (s, c) = f64::atan2(cross, dot).sin_cos();
    move |p: Point| {
        let (a, b) = (p[0] - f[0], p[1] - f[1]);
        [c * a - s * b + t[0], s * a + c * b + t[1]]
    }
}

pub fn rms(v: &[f64]) -> f64 {
    (v.iter().map(|v| v * v).sum::<f64>() / v.len() as f64).sqrt()
}
