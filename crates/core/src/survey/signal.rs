//! What is known of a vehicle's shapes before anything is measured: each wall, the front, floor and
//! roof is a *signal* whose values at neighbouring places go together. The covariances here say how
//! much. Readings then settle the rest (least-squares collocation: Moritz, Advanced Physical
//! Geodesy; the same as a cubic smoothing spline with a diffuse straight part).

use pulp::{Arch, Simd, WithSimd};

use crate::project::survey::Side;

/// A shape of the vehicle that readings are readings of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Signal {
    /// Offset of a wall from the centre line over (x, z).
    Wall(Side),
    /// Distance of the front end from the threshold over (y, z).
    Front,
    /// Height of the floor over (x, y); nothing at the threshold.
    Floor,
    /// Floor to roof over (x, y).
    Roof,
    /// A single number, such as a dimension of a thing, by its index.
    Number(usize),
}

/// A signal at a place, times a factor. A reading is a sum of such terms.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Term {
    /// The factor.
    pub by: f64,
    /// The signal.
    pub signal: Signal,
    /// First coordinate, mm.
    pub u: f64,
    /// Second coordinate, mm.
    pub v: f64,
}

impl Signal {
    /// What one says may tell something of the other.
    pub fn tells_of(self, other: Signal) -> bool {
        self == other || matches!((self, other), (Signal::Wall(_), Signal::Wall(_)))
    }
}

impl Term {
    /// `by` times `signal` at `(u, v)`.
    pub fn new(by: f64, signal: Signal, u: f64, v: f64) -> Self {
        Term { by, signal, u, v }
    }
}

/// Where walls bend sharply, and whether the front was read in one place only.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Ridges {
    /// The front is taken as square across, for want of readings beside the centre line.
    pub square: bool,
    /// A curve of the front was captured: it may bend across as a wall does.
    pub bowed: bool,
    /// The walls say nothing of each other: a hull bends so strongly that a little difference between its sides is millimetres.
    pub apart: bool,
    /// Across the bay: side (or both) and x.
    pub x: Vec<(Option<Side>, f64)>,
    /// Along the wall: side (or both) and height.
    pub z: Vec<(Option<Side>, f64)>,
}

/// How strongly walls curve and crease, along the bay and upwards, and how much of it is the same at
/// every height.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bend {
    /// Curves along, mm per m^1.5.
    pub along: f64,
    /// Curves up, mm per (0.5 m)^1.5.
    pub up: f64,
    /// Change of course at a crease across the bay, mm per m.
    pub turn: f64,
    /// Change of lean at a crease along the wall, mm per 0.5 m.
    pub strake: f64,
    /// How much the bend along differs from height to height, and the bend up from place to place: 0
    /// if not at all.
    pub differ: f64,
    /// How crooked the front end is, as a multiple of the usual.
    pub front: f64,
    /// How far the two walls bend alike: 0 if what one does says nothing of the other, towards 1 if each is the other's mirror image.
    pub alike: f64,
}

/// How much of what differs is a bulge of its own at one place and height.
const BULGE: f64 = 0.14;
/// How much a crease across fades with height, and one along the wall with the distance.
const FADE: [f64; 2] = [0.1, 0.006];

/// Number of parts of a wall's covariance.
pub const PARTS: usize = 8;
/// Number of scales.
pub const SCALES: usize = 5;

impl Default for Bend {
    fn default() -> Self {
        Bend::USUAL
    }
}

impl Bend {
    /// What is usual in a vehicle (choices; `likely` finds what the readings say).
    pub const USUAL: Bend = Bend {
        along: 25.0,
        up: 15.0,
        turn: 250.0,
        strake: 100.0,
        differ: 0.3,
        front: 1.0,
        alike: 0.6,
    };
    /// So strong that neighbours say nothing of each other: only direct checks remain.
    pub const FREE: Bend = Bend {
        along: 5000.0,
        up: 5000.0,
        turn: 1000.0,
        strake: 1000.0,
        differ: 0.3,
        front: 10.0,
        alike: 0.0,
    };

    /// The usual of walls times `scales`, in the order of the fields.
    pub fn scaled([along, up, turn, strake, differ]: &[f64; SCALES]) -> Bend {
        let b = Bend::USUAL;
        Bend {
            along: b.along * along,
            up: b.up * up,
            turn: b.turn * turn,
            strake: b.strake * strake,
            differ: b.differ * differ,
            ..b
        }
    }

    /// What the parts of `wall` are multiplied by.
    pub fn weights(self) -> [f64; PARTS] {
        [
            1.0,
            self.along.powi(2),
            self.differ * self.along.powi(2),
            self.up.powi(2),
            self.differ * self.up.powi(2),
            BULGE * self.differ * self.along * self.up,
            self.turn.powi(2),
            self.strake.powi(2),
        ]
    }
}

/// The parts of a wall's covariance: straight, curves along, the same changing with height, curves up,
/// the same changing along, both together, creases across, creases along the wall; to be multiplied
/// by `Bend::weights`.
///
/// Where one place is on the left wall and the other on the right only what bends counts, and of the creases those of both
/// walls: each wall has its own position and lean. It is to be multiplied by `Bend::alike` too.
pub fn wall(a: (Side, &Term), b: (Side, &Term), ridges: &Ridges) -> [f64; PARTS] {
    let ((side, a), (other, b)) = (a, b);
    if side != other && ridges.apart {
        return [0.0; PARTS];
    }
    let (x, y) = (a.u / 1000.0, b.u / 1000.0);
    let (v, w) = (a.v / 500.0, b.v / 500.0);
    // A plane of any position and lean, and a little twist: variances in mm2, wide on purpose.
    let plain = match side == other {
        true => 1e6 + 9e4 * x * y + 9e4 * v * w + 2.5e3 * x * y * v * w,
        false => 0.0,
    };
    let (along, up) = (spline(x, y), spline(v, w));
    let own = |list: &[(Option<Side>, f64)], unit: f64, a: f64, b: f64| -> f64 {
        let on = |s: &Option<Side>| s.is_none_or(|s| s == side && s == other);
        let mine = list.iter().filter(|(s, _)| on(s));
        mine.map(|(_, c)| past(a, c / unit) * past(b, c / unit))
            .sum()
    };
    [
        plain,
        along,
        along * v * w,
        up,
        up * x * y,
        along * up,
        own(&ridges.x, 1000.0, x, y) * (1.0 + FADE[0] * v * w),
        own(&ridges.z, 500.0, v, w) * (1.0 + FADE[1] * x * y),
    ]
}

/// Places on one wall, in the units of its covariance.
#[derive(Debug, Clone, Default)]
pub struct Places {
    x: Vec<f64>,
    v: Vec<f64>,
}

impl Places {
    /// One more.
    pub fn push(&mut self, t: &Term) {
        self.x.push(t.u / 1000.0);
        self.v.push(t.v / 500.0);
    }

    /// What `covariance` says of each of these places on the wall `side` and of `t` on the wall `other`, but for the factors of the
    /// terms: the same sums, one part after the other for all of them, for it is asked thousands of times in a plan.
    pub fn with(
        &self,
        side: Side,
        (other, t): (Side, &Term),
        bend: Bend,
        ridges: &Ridges,
    ) -> Vec<f64> {
        let same = side == other;
        if !same && (ridges.apart || bend.alike == 0.0) {
            return vec![0.0; self.x.len()];
        }
        let to = To {
            places: self,
            same,
            at: (t.u / 1000.0, t.v / 500.0),
            bend,
            ridges,
            on: side,
        };
        Arch::new().dispatch(to)
    }
}

/// What a place has to do with all of `places`: run with wider registers where the machine has them, the
/// same sums, more of them at a time.
struct To<'a> {
    places: &'a Places,
    same: bool,
    at: (f64, f64),
    bend: Bend,
    ridges: &'a Ridges,
    on: Side,
}

impl WithSimd for To<'_> {
    type Output = Vec<f64>;

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> Vec<f64> {
        let (same, weights) = (self.same, self.bend.weights());
        let (y, w) = self.at;
        let (xs, vs) = (&self.places.x, &self.places.v);
        let by = if same { 1.0 } else { self.bend.alike };
        let on = |s: &Option<Side>| s.is_none_or(|s| same && s == self.on);
        // Creases first, one after the other for all places.
        let creased = |list: &[(Option<Side>, f64)], unit: f64, from: &[f64], to: f64| {
            let mut sums = vec![0.0; from.len()];
            for (_, c) in list.iter().filter(|(s, _)| on(s)) {
                let c = c / unit;
                let far = past(to, c);
                for (sum, a) in sums.iter_mut().zip(from) {
                    *sum += past(*a, c) * far;
                }
            }
            sums
        };
        let across = creased(&self.ridges.x, 1000.0, xs, y);
        let along = creased(&self.ridges.z, 500.0, vs, w);
        // The sum goes from left to right as in `covariance`, so that both are the same to the last bit.
        let mut out = vec![0.0; xs.len()];
        let places = xs.iter().zip(vs).zip(across.iter().zip(&along));
        for (out, ((x, v), (across, along))) in out.iter_mut().zip(places) {
            let plain = match same {
                true => 1e6 + 9e4 * x * y + 9e4 * v * w + 2.5e3 * x * y * v * w,
                false => 0.0,
            };
            let (a, up) = (spline(*x, y), spline(*v, w));
            let sum = plain * weights[0]
                + a * weights[1]
                + a * v * w * weights[2]
                + up * weights[3]
                + up * x * y * weights[4]
                + a * up * weights[5]
                + across * (1.0 + FADE[0] * v * w) * weights[6]
                + along * (1.0 + FADE[1] * x * y) * weights[7];
            *out = by * sum;
        }
        out
    }
}

#[inline(always)]
fn past(x: f64, c: f64) -> f64 {
    // Written out, it is one instruction; `max` also asks for what is no number.
    let far = x - c;
    if far > 0.0 { far } else { 0.0 }
}

/// Covariance of a curve whose bend wanders at random: the posterior mean is a cubic spline.
#[inline(always)]
fn spline(a: f64, b: f64) -> f64 {
    let (a, b) = (past(a, 0.0), past(b, 0.0));
    let (m, n) = if a < b { (a, b) } else { (b, a) };
    m * m * (3.0 * n - m) / 6.0
}

/// Covariance of two terms.
pub fn covariance(a: &Term, b: &Term, bend: Bend, ridges: &Ridges) -> f64 {
    let between = |a, b, by: f64| {
        let parts = wall(a, b, ridges);
        let each = parts.iter().zip(bend.weights()).map(|(p, w)| p * w);
        by * each.sum::<f64>()
    };
    if a.signal != b.signal {
        return match (a.signal, b.signal) {
            (Signal::Wall(s), Signal::Wall(t)) if bend.alike != 0.0 => {
                a.by * b.by * between((s, a), (t, b), bend.alike)
            }
            _ => 0.0,
        };
    }
    let (u, w) = (a.u / 1000.0, b.u / 1000.0);
    let (v, z) = (a.v / 1000.0, b.v / 1000.0);
    let value = match a.signal {
        Signal::Wall(side) => between((side, a), (side, b), 1.0),
        // Square across unless read otherwise (80 mm per m), leaning; as crooked as its readings say: a
        // bulge (100 mm per m2), a lean that changes smoothly or at a crease.
        Signal::Front => {
            let crooked = bend.front.powi(2);
            let across = if ridges.square {
                9.0 * u * w
            } else {
                6400.0 * u * w + 1e4 * crooked * (u * w).powi(2)
            };
            let creases = ridges.z.iter().map(|(_, c)| c / 1000.0);
            let creases: f64 = creases.map(|c| past(v, c) * past(z, c)).sum();
            // From well beside the bay on, so that it bends alike on both sides of the middle.
            let bows = match ridges.bowed {
                true => 1e4 * spline(u + 2.0, w + 2.0),
                false => 0.0,
            };
            1e8 + across + bows + 1.2e5 * v * z + crooked * (2e5 * creases + 4e3 * spline(v, z))
        }
        Signal::Floor => {
            2500.0 * u * w + 900.0 * spline(u, w) + 900.0 * v * z + 1e3 * (v * z).powi(2)
        }
        Signal::Roof => {
            4e6 + 1e4 * u * w + 900.0 * spline(u, w) + 900.0 * v * z + 4e3 * (v * z).powi(2)
        }
        Signal::Number(_) => 1e8,
    };
    a.by * b.by * value
}
