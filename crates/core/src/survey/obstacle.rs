//! Things in the way as bodies: their plan at any height.

mod plan;
mod slices;

use geo::{ConvexHull, MultiPoint};

pub use plan::{Edge, outline};
use slices::Slice;

use super::model::Model;
use crate::geometry::region::Region;
use crate::geometry::{Point, coord};
use crate::project::survey::{Cover, Ends, Form, Quantity, Side, Thing, ThingDim};

/// What passes over a thing passes its top by this many standard deviations of it: as an edge passes a wall.
const TOP: f64 = 3.0;
/// How far things at a wall reach behind it, so that no film of bay is left there, mm.
const BEHIND: f64 = 500.0;

/// A thing in the way.
#[derive(Debug, Clone, PartialEq)]
pub struct Obstacle {
    /// Its identifier in the survey.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// At which side it stands.
    pub side: Side,
    /// Along the bay, where it is longest, mm.
    pub x: (f64, f64),
    /// Distance of its inner face from the centre line, where it stands in furthest, mm.
    pub face: f64,
    /// Its outer face, if it stands free.
    pub far: Option<f64>,
    /// Height, mm.
    pub z: (f64, f64),
    /// Largest standard deviation of its faces, mm.
    pub sd: f64,
    /// Standard deviation of its top, mm.
    pub top_sd: f64,
    /// The readings it comes from.
    pub readings: Vec<String>,
    /// Where the face came from.
    pub how: FaceFrom,
    /// Clearance and movement on top of the panel's own clearance, mm.
    pub extra: f64,
    /// Whether a panel may lie over it.
    pub cover: Cover,
    /// A leg or frame may stand on it.
    pub carries: bool,
    form: Form,
    ends: Ends,
    /// The wall behind it, or its outer face: no further out than this it begins.
    behind: f64,
    slices: Vec<Slice>,
}

/// How the inner face of a thing is known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum FaceFrom {
    /// Measured from the centre line.
    Centre,
    /// Wall offset less the width measured: the two numbers.
    Wall(f64, f64),
}

impl Obstacle {
    /// From the readings of the thing, once they make a body.
    pub fn new(model: &Model, id: &str, thing: &Thing) -> Option<Obstacle> {
        let height = model.number(id, ThingDim::Height, None)?;
        let bottom = model.number(id, ThingDim::Bottom, None);
        let foot = bottom.map_or(0.0, |b| b.0);
        let (slices, sd) = slices::read(model, (id, thing), foot, height.0)?;
        let first = slices.first()?;
        let least = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::INFINITY, f64::min);
        let most = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::NEG_INFINITY, f64::max);
        let far = most(|s| s.far);
        let get = |dim| model.get(&Quantity::thing(id, dim));
        let how = match (get(ThingDim::Face), get(ThingDim::Width)) {
            (None, Some(w)) => FaceFrom::Wall(first.face + w.mm, w.mm),
            _ => FaceFrom::Centre,
        };
        let own = model
            .known
            .values()
            .filter(|k| matches!(&k.quantity, Quantity::Thing { id: of, .. } if of == id));
        Some(Obstacle {
            id: id.into(),
            name: thing.name.clone(),
            side: thing.side,
            x: (least(|s| s.start), most(|s| s.end)),
            face: least(|s| s.face),
            far: (far.is_finite() && thing.form == Form::Free).then_some(far),
            z: (foot, height.0.max(foot)),
            sd,
            top_sd: height.1,
            readings: own.flat_map(|k| k.readings.clone()).collect(),
            how,
            extra: thing.clearance + thing.sweep,
            cover: thing.cover,
            carries: thing.kind.carries(),
            form: thing.form,
            ends: thing.ends,
            behind: model
                .offset(
                    thing.side,
                    (least(|s| s.start) + most(|s| s.end)) / 2.0,
                    foot,
                )
                .unwrap_or(first.face),
            slices,
        })
    }

    /// The height up to which it is in the way of what is wanted over it: its top and this many standard deviations.
    pub fn up_to(&self) -> f64 {
        self.z.1 + TOP * self.top_sd
    }

    /// At height `z`.
    fn slice(&self, z: f64) -> Slice {
        let next = self.slices.partition_point(|s| s.z < z);
        let last = self.slices.len().saturating_sub(1);
        let (a, b) = (
            &self.slices[next.saturating_sub(1).min(last)],
            &self.slices[next.min(last)],
        );
        let t = if b.z > a.z {
            ((z - a.z) / (b.z - a.z)).clamp(0.0, 1.0)
        } else {
            0.0
        };
        let at = |f: fn(&Slice) -> f64| {
            if t == 0.0 {
                f(a)
            } else {
                f(a) + (f(b) - f(a)) * t
            }
        };
        let mut s = Slice {
            z,
            start: at(|s| s.start),
            end: at(|s| s.end),
            face: at(|s| s.face),
            far: at(|s| s.far),
            inner: (at(|s| s.inner.0), at(|s| s.inner.1)),
            shoulder: at(|s| s.shoulder),
        };
        if self.form == Form::Rounded {
            // An ellipse from the foot to the top.
            let share = (1.0 - self.up(z).powi(2)).max(0.0).sqrt();
            let middle = (s.start + s.end) / 2.0;
            let drawn_in = |x: f64| middle + (x - middle) * share;
            (s.start, s.end) = (drawn_in(s.start), drawn_in(s.end));
            s.inner = (drawn_in(s.inner.0), drawn_in(s.inner.1));
        }
        s
    }

    /// How high its top is above a place along the bay: of a folded seat that slopes, or an arch, not everywhere as high as it is.
    /// `None` where it does not reach.
    pub fn top_at(&self, x: f64) -> Option<f64> {
        /// The top is found to less than a thousandth of a millimetre.
        const HALVINGS: usize = 24;
        let under = |z: f64| {
            let s = self.slice(z);
            x >= s.start && x <= s.end
        };
        if x < self.x.0 || x > self.x.1 {
            return None;
        }
        let (mut low, mut high) = self.z;
        if under(high) {
            return Some(high);
        }
        for _ in 0..HALVINGS {
            let middle = (low + high) / 2.0;
            if under(middle) {
                low = middle;
            } else {
                high = middle;
            }
        }
        Some(low)
    }

    /// The same over a stretch along the bay: where it is highest in it, and by how much it is lower elsewhere.
    pub fn top_over(&self, x: (f64, f64)) -> Option<(f64, f64)> {
        let inside = (x.0.max(self.x.0), x.1.min(self.x.1));
        let (a, b) = (self.top_at(inside.0)?, self.top_at(inside.1)?);
        Some((a.max(b), (a - b).abs()))
    }

    /// How far up it is, from 0 to 1.
    fn up(&self, z: f64) -> f64 {
        if self.z.1 > self.z.0 {
            ((z - self.z.0) / (self.z.1 - self.z.0)).clamp(0.0, 1.0)
        } else {
            0.0
        }
    }

    /// Its plan where it is largest, reaching behind the wall unless it stands free.
    pub fn plan(&self) -> Region {
        self.between(self.z.0, self.z.1)
    }

    /// Its plan over the heights from `low` to `high`.
    pub fn between(&self, low: f64, high: f64) -> Region {
        let (low, high) = (
            low.clamp(self.z.0, self.z.1),
            high.clamp(self.z.0, self.z.1),
        );
        let mut zs = vec![low, high];
        zs.extend(
            self.slices
                .iter()
                .map(|s| s.z)
                .filter(|z| *z > low && *z < high),
        );
        let slices: Vec<Slice> = zs.into_iter().map(|z| self.slice(z)).collect();
        if self.ends.are_square() {
            let least = |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::INFINITY, f64::min);
            let most =
                |f: fn(&Slice) -> f64| slices.iter().map(f).fold(f64::NEG_INFINITY, f64::max);
            let (a, b, face) = (least(|s| s.start), most(|s| s.end), least(|s| s.face));
            let far = slices.iter().map(|s| self.back(s));
            let far = far.fold(f64::NEG_INFINITY, f64::max);
            return match self.side {
                Side::Left => Region::rectangle(a, face, b, far),
                Side::Right => Region::rectangle(a, -far, b, -face),
            };
        }
        let all: MultiPoint<f64> = slices
            .iter()
            .flat_map(|s| self.ring(s))
            .map(coord)
            .collect();
        Region::from_polygon(&all.convex_hull()).unwrap_or_default()
    }

    /// How far out it reaches: its outer face, or behind the wall.
    fn back(&self, s: &Slice) -> f64 {
        match self.far {
            Some(_) => s.far,
            None => self.behind.max(s.face) + BEHIND,
        }
    }

    fn ring(&self, s: &Slice) -> Vec<Point> {
        let along = [s.start, s.inner.0, s.inner.1, s.end];
        outline(
            self.ends,
            self.side,
            along,
            [s.face, s.shoulder, self.back(s)],
        )
    }

    /// Between two places along the bay at a height: from where to where it stands across, left positive.
    pub fn across(&self, x: (f64, f64), z: f64) -> Option<(f64, f64)> {
        let s = self.slice(z.clamp(self.z.0, self.z.1));
        if x.1 <= s.start || x.0 >= s.end {
            return None;
        }
        let mut face = s.face;
        if !self.ends.are_square() {
            let band = Region::rectangle(x.0, -1e5, x.1, 1e5);
            let ring = Region {
                outer: self.ring(&s),
                holes: vec![],
            };
            let seen = ring.and(&band);
            let sign = self.side.sign();
            let nearest = seen.iter().flat_map(|r| &r.outer).map(|p| sign * p[1]);
            face = nearest.reduce(f64::min)?;
        }
        let back = self.back(&s);
        Some(match self.side {
            Side::Left => (face, back),
            Side::Right => (-back, -face),
        })
    }

    /// The point lies in it.
    pub fn holds(&self, [x, y, z]: [f64; 3]) -> bool {
        if x <= self.x.0 || x >= self.x.1 || z <= self.z.0 || z >= self.z.1 {
            return false;
        }
        let s = self.slice(z);
        let out = self.side.sign() * y;
        if out <= s.face || x <= s.start || x >= s.end || out >= self.back(&s) {
            return false;
        }
        self.ends.are_square() || self.faces(z).iter().all(|f| f.outside([x, y]) < 0.0)
    }

    /// Its upright faces at a height: it lies inside all of them. They are as many at every height and follow
    /// each other in the same order.
    pub fn faces(&self, z: f64) -> Vec<Edge> {
        let ring = self.ring(&self.slice(z));
        let n = ring.len();
        (0..n)
            .map(|i| Edge {
                from: ring[i],
                to: ring[(i + 1) % n],
            })
            .collect()
    }

    /// Seen from the side it is arched: how far outside its arch a place along the bay is, in mm near the arch,
    /// less than nothing inside. `None` where its ends are straight.
    pub fn arch(&self, x: f64, z: f64) -> Option<f64> {
        let s = self.slices.first().filter(|_| self.form == Form::Rounded)?;
        let half = ((s.end - s.start) / 2.0).max(1.0);
        let along = (x - (s.start + s.end) / 2.0) / half;
        let high = (self.z.1 - self.z.0).max(1.0);
        let up = ((z - self.z.0) / high).max(0.0);
        Some((along * along + up * up - 1.0) * half.min(high) / 2.0)
    }
}
