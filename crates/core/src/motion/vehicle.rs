//! The vehicle as what moves meets it: walls, roof, front and what stands in the way.

use crate::geometry::grid::{down, up};
use crate::geometry::pose::Vec3;
use crate::project::survey::Side;
use crate::survey::model::Model;
use crate::survey::obstacle::Obstacle;

/// What moves should keep so many standard deviations off the vehicle's best surfaces: boards at rest keep three.
pub(super) const GROWN: f64 = 2.0;
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
pub(super) struct Vehicle<'a> {
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
    pub(super) fn around(
        model: &'a Model,
        low: Vec3,
        high: Vec3,
        (grown, past): (f64, f64),
    ) -> Vehicle<'a> {
        /// The grid has so many places each way.
        const PLACES: usize = 5;
        /// Between them nothing comes in further than this, mm, doubt and all.
        const BETWEEN: f64 = 25.0 + GROWN * UNSURE;
        /// It lies on such marks, mm: what moves a little is looked at in the places that are known already.
        const MARKS: f64 = 20.0;
        let grid = |k: usize| {
            let (a, b) = (down(low[k], MARKS), up(high[k], MARKS));
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
    pub(super) fn clear(&self, low: Vec3, high: Vec3) -> bool {
        let [left, right] = Side::BOTH.map(|s| self.walls[s as usize]);
        let within = high[1] < left && -low[1] < right && high[2] < self.roof;
        let apart = |o: &Obstacle| {
            let top = o.z.1 + self.grown * UNSURE;
            o.x.0 > high[0] || o.x.1 < low[0] || o.z.0 > high[2] || top < low[2]
        };
        within && high[0] - self.past < self.front && self.model.things().all(apart)
    }

    /// What of the vehicle a point is in, if anything.
    pub(super) fn holds(&self, [x, y, z]: Vec3) -> Option<String> {
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
