//! A camera held over a floor, with a lens of its own, and what it photographs. Its lens goes from the true to the bent picture by
//! two terms; the program that reads the photo goes the other way by one.

mod example;
mod scene;

use jigfit_core::geometry::Point;
use jigfit_photo::sheet::SIDE;
use rand::Rng;

pub use example::card;
pub use scene::{Cast, Scene};

/// A camera.
#[derive(Debug, Clone, PartialEq)]
pub struct Camera {
    /// Pixels along and up.
    pub size: [usize; 2],
    /// Focal length, pixels.
    pub focal: f64,
    /// Over which place of the floor, and how high, mm.
    pub over: [f64; 3],
    /// Leant forward, leant sideways, turned: radians.
    pub leant: [f64; 3],
    /// Of the lens, in focal lengths: by the square of the distance from the middle, and by its fourth power.
    pub bend: [f64; 2],
}

impl Camera {
    /// Somebody holds it over the middle of `w` by `h` mm so that all of it is seen.
    pub fn held(rng: &mut impl Rng, size: [usize; 2], w: f64, h: f64) -> Camera {
        let focal = size[0] as f64 * rng.random_range(0.70..0.85);
        let leant = [0, 1].map(|_| rng.random_range(-0.3..0.3f64));
        let far = |span: f64, pixels: usize| span * focal / pixels as f64;
        let high = far(w, size[0]).max(far(h, size[1])) * rng.random_range(1.25..1.45);
        Camera {
            size,
            focal,
            over: [
                -high * leant[1].tan() + rng.random_range(-60.0..60.0),
                high * leant[0].tan() + rng.random_range(-60.0..60.0),
                high,
            ],
            leant: [leant[0], leant[1], rng.random_range(-0.15..0.15)],
            bend: [rng.random_range(-0.06..0.06), rng.random_range(-0.01..0.01)],
        }
    }

    /// The three directions of the camera, in those of the floor: right, up, back.
    fn axes(&self) -> [[f64; 3]; 3] {
        let [a, b, c] = self.leant;
        let turned = |v: [f64; 3]| {
            let (s, k) = c.sin_cos();
            let v = [k * v[0] + s * v[1], k * v[1] - s * v[0], v[2]];
            let (s, k) = a.sin_cos();
            let v = [v[0], k * v[1] - s * v[2], s * v[1] + k * v[2]];
            let (s, k) = b.sin_cos();
            [k * v[0] + s * v[2], v[1], k * v[2] - s * v[0]]
        };
        let [x, y, z] = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]].map(turned);
        [0, 1, 2].map(|k| [x[k], y[k], z[k]])
    }

    /// Where a place of the floor is seen, pixels.
    pub fn sees(&self, at: Point) -> Point {
        let v = [at[0] - self.over[0], at[1] - self.over[1], -self.over[2]];
        let [x, y, z] = self.axes().map(|a| a[0] * v[0] + a[1] * v[1] + a[2] * v[2]);
        let (x, y) = (x / -z, y / -z);
        let r = x * x + y * y;
        let by = 1.0 + self.bend[0] * r + self.bend[1] * r * r;
        [
            self.size[0] as f64 / 2.0 + self.focal * by * x,
            self.size[1] as f64 / 2.0 - self.focal * by * y,
        ]
    }

    /// Which place of the floor is seen there: the other way round, the lens by repetition.
    pub fn floor(&self, pixel: Point) -> Point {
        self.floor_by(&self.axes(), pixel)
    }

    /// The same, for many places.
    fn floor_by(&self, [right, up, back]: &[[f64; 3]; 3], pixel: Point) -> Point {
        let bent = [
            (pixel[0] - self.size[0] as f64 / 2.0) / self.focal,
            (self.size[1] as f64 / 2.0 - pixel[1]) / self.focal,
        ];
        let mut p = bent;
        for _ in 0..6 {
            let r = p[0] * p[0] + p[1] * p[1];
            let by = 1.0 + self.bend[0] * r + self.bend[1] * r * r;
            p = bent.map(|v| v / by);
        }
        let ray = [0, 1, 2].map(|k| p[0] * right[k] + p[1] * up[k] - back[k]);
        let t = -self.over[2] / ray[2];
        [self.over[0] + t * ray[0], self.over[1] + t * ray[1]]
    }
}

/// How a printed sheet lies on the floor.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lies {
    /// Its cross.
    pub at: Point,
    /// By how much it is turned, radians.
    pub turn: f64,
    /// At what size it was printed.
    pub printed: f64,
}

impl Lies {
    /// A place of the sheet, on the floor.
    pub fn at(&self, [u, v]: Point) -> Point {
        let (s, c) = self.turn.sin_cos();
        let (u, v) = (u * self.printed, v * self.printed);
        [self.at[0] + c * u - s * v, self.at[1] + s * u + c * v]
    }

    /// A place of the floor, on the sheet.
    pub fn on(&self, p: Point) -> Point {
        let (s, c) = self.turn.sin_cos();
        let (x, y) = (p[0] - self.at[0], p[1] - self.at[1]);
        [
            (c * x + s * y) / self.printed,
            (c * y - s * x) / self.printed,
        ]
    }

    /// Its black square's corners, from the lower left against the clock.
    pub fn corners(&self) -> [Point; 4] {
        let h = SIDE / 2.0;
        [[-h, -h], [h, -h], [h, h], [-h, h]].map(|p| self.at(p))
    }
}

/// Four sheets laid near the corners of `w` by `h`, in no exact way.
pub fn laid(rng: &mut impl Rng, w: f64, h: f64) -> [Lies; 4] {
    let printed = rng.random_range(0.97..1.01);
    [[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]].map(|[a, b]| Lies {
        at: [
            a * w + rng.random_range(-40.0..40.0),
            b * h + rng.random_range(-40.0..40.0),
        ],
        turn: rng.random_range(-3.1..3.1),
        printed,
    })
}
