//! Things in the way as bodies: their plan at any height.

use geo::{ConvexHull, MultiPoint};

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

/// A thing at one height: along the bay, and from the centre line outwards.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Slice {
    z: f64,
    start: f64,
    end: f64,
    face: f64,
    far: f64,
    /// Of a thing whose ends are not square: where its inner face begins and ends, and where its ends begin to
    /// run in.
    inner: (f64, f64),
    shoulder: f64,
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
        let mut heights = vec![None];
        heights.extend(model.thing_heights(id).into_iter().map(Some));
        let mut slices = Vec::new();
        let mut sd: f64 = 0.0;
        for z in heights {
            // What was not read at a height is as it is at the foot; one end that was not, leans
            // like the other.
            let own = |dim| model.number(id, dim, z);
            let get = |dim| own(dim).or_else(|| model.number(id, dim, None));
            let (mut start, mut end) = (get(ThingDim::Start)?, get(ThingDim::End)?);
            if let (Some(a), Some(b), Some(_)) = (
                model.number(id, ThingDim::Start, None),
                model.number(id, ThingDim::End, None),
                z,
            ) {
                match (own(ThingDim::Start), own(ThingDim::End)) {
                    (Some(s), None) => end.0 = b.0 - (s.0 - a.0),
                    (None, Some(e)) => start.0 = a.0 + (b.0 - e.0),
                    _ => {}
                }
            }
            let (end, end_sd) = (end.0.max(start.0 + 1.0), end.1);
            let face = get(ThingDim::Face)?;
            let far = get(ThingDim::Far);
            sd = [start.1, end_sd, face.1, far.map_or(0.0, |f| f.1)]
                .into_iter()
                .fold(sd, f64::max);
            // Bevels and curves are as large at every height as at the foot.
            let (mut inner, mut shoulder) = ((start.0, end), face.0);
            if !thing.ends.are_square() {
                let mut beside = |dim, of, now: f64| {
                    let foot_of = |dim| model.number(id, dim, None);
                    let (a, b) = (foot_of(dim)?, foot_of(of)?);
                    sd = sd.max(a.1);
                    Some(now + a.0 - b.0)
                };
                let from = beside(ThingDim::FaceStart, ThingDim::Start, start.0);
                let to = beside(ThingDim::FaceEnd, ThingDim::End, end);
                shoulder = beside(ThingDim::Shoulder, ThingDim::Face, face.0).unwrap_or(face.0);
                inner.0 = from.unwrap_or(start.0).clamp(start.0, end);
                inner.1 = to.unwrap_or(end).clamp(inner.0, end);
            }
            slices.push(Slice {
                z: z.unwrap_or(foot),
                start: start.0,
                end,
                face: face.0,
                far: far.map_or(f64::NAN, |f| f.0.max(face.0 + 1.0)),
                inner,
                shoulder: shoulder.max(face.0),
            });
        }
        slices.sort_by(|a, b| a.z.total_cmp(&b.z));
        if thing.slope != 0.0 && thing.kind.carries() {
            let last = *slices.last()?;
            slices.extend(wedge(last, height.0, thing.slope));
        }
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

/// What a thing becomes above `last` when its top rises by `slope` degrees to its highest: the end away from that runs in.
fn wedge(last: Slice, top: f64, slope: f64) -> Vec<Slice> {
    /// The highest end keeps this much, mm: a body has no edge of nothing.
    const EDGE: f64 = 0.1;
    if top <= last.z + EDGE {
        return vec![];
    }
    let tangent = slope.abs().to_radians().tan().max(1e-6);
    let long = last.end - last.start;
    // Where it begins to run in, no lower than what was read; and how long it is there at the top.
    let from = (top - long * tangent).max(last.z);
    let left = (long - (top - from) / tangent).max(EDGE.min(long));
    let mut high = Slice { z: top, ..last };
    if slope > 0.0 {
        high.start = last.end - left;
    } else {
        high.end = last.start + left;
    }
    let run_in = |x: f64| x.clamp(high.start, high.end);
    high.inner = (run_in(last.inner.0), run_in(last.inner.1));
    vec![Slice { z: from, ..last }, high]
}

/// An upright face of a thing in plan; the thing lies to the left of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Edge {
    /// One end.
    pub from: Point,
    /// The other.
    pub to: Point,
}

impl Edge {
    /// How far a point lies outside, mm; less than nothing inside.
    pub fn outside(&self, p: Point) -> f64 {
        let (dx, dy) = (self.to[0] - self.from[0], self.to[1] - self.from[1]);
        let length = dx.hypot(dy).max(1e-9);
        ((p[0] - self.from[0]) * dy - (p[1] - self.from[1]) * dx) / length
    }
}

/// The plan of a thing: `along` the bay its rear end, the beginning and the end of its inner face, its front end;
/// `out` from the centre line its inner face, where its ends begin to run in, and its back. It is convex, and a curve
/// lies inside of it.
pub fn outline(ends: Ends, side: Side, along: [f64; 4], out: [f64; 3]) -> Vec<Point> {
    /// A quarter of a curve is drawn with so many sides.
    const SIDES: usize = 6;
    let [start, from, to, end] = along;
    let [face, shoulder, back] = out;
    let shoulder = shoulder.clamp(face, back);
    let mut ring = match ends {
        Ends::Square => vec![[start, back], [start, face], [end, face], [end, back]],
        Ends::Bevelled => vec![
            [start, back],
            [start, shoulder],
            [from, face],
            [to, face],
            [end, shoulder],
            [end, back],
        ],
        Ends::Rounded => {
            let each = std::f64::consts::FRAC_PI_2 / SIDES as f64;
            // The corners between the tangents at evenly spaced places of the ellipse.
            let corner = |k: usize| {
                let (sin, cos) = ((k as f64 + 0.5) * each).sin_cos();
                let by = 1.0 / (each / 2.0).cos();
                (by * cos, by * sin)
            };
            let curve = |end: f64, inner: f64| {
                (0..SIDES).map(move |k| {
                    let (c, s) = corner(k);
                    [inner + (end - inner) * c, shoulder - (shoulder - face) * s]
                })
            };
            let mut ring = vec![[start, back], [start, shoulder]];
            ring.extend(curve(start, from));
            ring.extend([[from, face], [to, face]]);
            let mut last: Vec<Point> = curve(end, to).collect();
            last.reverse();
            ring.extend(last);
            ring.extend([[end, shoulder], [end, back]]);
            ring
        }
    };
    if side == Side::Right {
        ring.iter_mut().for_each(|p| p[1] = -p[1]);
        ring.reverse();
    }
    ring
}
