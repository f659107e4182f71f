//! How far across the bay is free at a place: the rule of every board, worked out for single lines, which is a
//! good deal cheaper than a whole plan of the bay (`free`).

use std::collections::BTreeMap;
use std::sync::{Mutex, OnceLock};

use super::Site;
use crate::geometry::grid::{down, up};
use crate::project::module::Covers;
use crate::project::survey::Side;
use crate::template::fill::{CLEAR, FOOT, LEAN};

/// Doubt is looked up in cells of this size, mm: it changes slowly.
const CELL: f64 = 120.0;
/// Past the heights that were read it grows: there it is looked up this often, mm.
const PAST: f64 = 10.0;
/// Walls steeper than this to the line across count as so steep.
const STEEPEST: f64 = 2.5;
/// The slope of a wall is taken over this, mm.
const SLOPE: f64 = 20.0;
/// The share of edges whose doubt the clearance covers; the others keep their own.
const SHARED: f64 = 0.75;

/// Free stretches across the bay.
pub struct Cross<'a> {
    pub(super) site: &'a Site<'a>,
    pub(super) clearance: Option<f64>,
    pub(super) finish: f64,
    pub(super) covers: Covers,
    stands: bool,
    /// The height that the furniture is mostly at: its clearance is that of the walls there.
    height: f64,
    shared: OnceLock<(f64, (Side, f64, f64))>,
    near_front: OnceLock<f64>,
    doubts: Mutex<BTreeMap<(u8, i64, i64), f64>>,
}

/// A place of a wall that decides where a board ends.
pub(super) struct Nearest {
    /// From the centre line, mm.
    pub mm: f64,
    /// How far in, mm.
    pub at: f64,
    /// How far in its doubt is looked up, mm.
    pub doubt: f64,
    /// What slants makes longer across than square to the wall.
    pub slant: f64,
}

impl<'a> Cross<'a> {
    /// With the user's clearance, or what the readings at `height` need, and the finish.
    pub fn new(site: &'a Site<'a>, clearance: Option<f64>, finish: f64, height: f64) -> Cross<'a> {
        Cross {
            site,
            clearance,
            finish,
            covers: Covers::default(),
            stands: false,
            height,
            shared: OnceLock::new(),
            near_front: OnceLock::new(),
            doubts: Mutex::default(),
        }
    }

    /// With what covers its edges.
    #[must_use]
    pub fn covered(self, covers: Covers) -> Cross<'a> {
        Cross { covers, ..self }
    }

    /// For what stands on humps, steps and folded seats: they are not in its way.
    #[must_use]
    pub fn standing(self) -> Cross<'a> {
        Cross {
            stands: true,
            ..self
        }
    }

    /// The doubt that most of the walls at the height do not exceed, mm, and at which wall, how far in, how high that is.
    pub(super) fn shared(&self) -> (f64, (Side, f64, f64)) {
        // Worked out before it is put down: nobody waits for another's sums.
        if let Some(known) = self.shared.get() {
            return *known;
        }
        let length = self.site.model.length(self.height).unwrap_or(0.0);
        let places = (0..=8).map(|i| length * f64::from(i) / 8.0);
        let mut sds: Vec<(f64, (Side, f64, f64))> = places
            .flat_map(|x| Side::BOTH.map(|s| (s, x)))
            .map(|(s, x)| {
                let [x0, z0] = self.looked_up(x, self.height);
                (self.doubt(s, x, self.height), (s, x0, z0))
            })
            .collect();
        sds.sort_by(|a, b| a.0.total_cmp(&b.0));
        let at = ((sds.len() as f64 - 1.0) * SHARED).max(0.0) as usize;
        let none = (0.0, (Side::Left, 0.0, self.height));
        let shared = sds.get(at).copied().unwrap_or(none);
        *self.shared.get_or_init(|| shared)
    }

    fn clearance(&self) -> f64 {
        self.clearance
            .unwrap_or_else(|| CLEAR * self.shared().0 + self.finish)
    }

    /// How far an edge of that doubt lies off: clearance and lean; where the doubt is larger than most, its own.
    fn off(&self, sd: f64) -> f64 {
        self.clearance() + LEAN * sd + CLEAR * (sd - self.shared().0).max(0.0)
    }

    pub(super) fn doubt(&self, side: Side, x: f64, z: f64) -> f64 {
        let [x, z] = self.looked_up(x, z);
        let key = (side as u8, x.round() as i64, z.round() as i64);
        self.doubt_of(key, || {
            self.site.model.wall(side, x, z).map_or(0.0, |w| w.1)
        })
    }

    /// Where the doubt of a wall is looked up: the middle of its cell. Past the heights that were read it grows with each of them, and is
    /// looked up there.
    pub(super) fn looked_up(&self, x: f64, z: f64) -> [f64; 2] {
        let middle = |v: f64| (((v / CELL).floor() + 0.5) * CELL).max(0.0);
        let z = match self.site.model.read() {
            Some((_, high)) if z > high => up(z, PAST),
            Some((low, _)) if z < low => down(z, PAST).max(0.0),
            _ => middle(z),
        };
        [middle(x), z]
    }

    fn front_doubt(&self, y: f64, z: f64) -> f64 {
        let cell = |v: f64| (v / CELL).floor() as i64;
        let key = (2, cell(y), cell(z));
        self.doubt_of(key, || {
            let middle = |c: i64| (c as f64 + 0.5) * CELL;
            let at = (middle(key.1), middle(key.2).max(0.0));
            self.site.model.front(at.0, at.1).map_or(0.0, |f| f.1)
        })
    }

    /// The doubt of a cell that was asked for before, or what `work` gives: not under the lock.
    fn doubt_of(&self, key: (u8, i64, i64), work: impl FnOnce() -> f64) -> f64 {
        let known = self.doubts.lock().ok();
        if let Some(sd) = known.and_then(|all| all.get(&key).copied()) {
            return sd;
        }
        let sd = work();
        if let Ok(mut all) = self.doubts.lock() {
            all.insert(key, sd);
        }
        sd
    }

    /// How far a board may come to a wall, from the centre line, mm.
    pub fn wall(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        let model = self.site.model;
        let mm = model.offset(side, x, z)?;
        let beside = |d: f64| model.offset(side, (x + d).max(0.0), z).unwrap_or(mm);
        let slope = (beside(SLOPE) - beside(-SLOPE)) / (2.0 * SLOPE);
        let slant = slope.hypot(1.0).min(STEEPEST);
        Some(mm - (self.off(self.doubt(side, x, z)) + self.covers.at(side)) * slant)
    }

    /// How far a board from `x.0` to `x.1` may come to a wall: the narrower of its faces, and over a long
    /// stretch the places between.
    pub(super) fn narrowest(&self, side: Side, x: (f64, f64), z: f64) -> Option<f64> {
        let n = self.nearest(side, x, z)?;
        Some(n.mm - (self.off(self.doubt(side, n.doubt, z)) + self.covers.at(side)) * n.slant)
    }

    /// The place of a wall that decides how far a board from `x.0` to `x.1` may come to it.
    pub(super) fn nearest(&self, side: Side, x: (f64, f64), z: f64) -> Option<Nearest> {
        /// A stretch up to this is taken as straight, mm.
        const SHORT: f64 = 40.0;
        let model = self.site.model;
        let (a, b) = (x.0.max(0.0), x.1.max(0.0));
        let (p, q) = (model.offset(side, a, z)?, model.offset(side, b, z)?);
        let slope = if b - a > 5.0 { (q - p) / (b - a) } else { 0.0 };
        let slant = slope.hypot(1.0).min(STEEPEST);
        let (mut mm, mut at) = if p <= q { (p, a) } else { (q, b) };
        let doubt = (a + b) / 2.0;
        if b - a > SHORT {
            let between = model.offset(side, doubt, z)?;
            if between < mm {
                (mm, at) = (between, doubt);
            }
        }
        Some(Nearest {
            mm,
            at,
            doubt,
            slant,
        })
    }

    /// Behind this no board comes near the front, mm.
    fn nearest_front(&self) -> f64 {
        /// A front comes in no further than this between the places that are looked at, mm.
        const BETWEEN: f64 = 60.0;
        if let Some(known) = self.near_front.get() {
            return *known;
        }
        let model = self.site.model;
        let half = |side| model.offset(side, 0.0, self.height).unwrap_or(500.0);
        let (right, left) = (-half(Side::Right), half(Side::Left));
        let heights = heights(self.site, 0.5, self.height.max(1.0));
        let ys = [right, right / 2.0, 0.0, left / 2.0, left];
        let all = heights
            .iter()
            .flat_map(|z| ys.map(|y| model.reach(y, *z)))
            .flatten();
        let near = all.fold(f64::INFINITY, f64::min)
            - BETWEEN
            - 2.0 * (self.clearance() + self.covers.front);
        *self.near_front.get_or_init(|| near)
    }

    /// How far forward a board may come, mm.
    pub fn front(&self, y: f64, z: f64) -> Option<f64> {
        let model = self.site.model;
        let mm = model.reach(y, z)?;
        let beside = |d: f64| model.reach(y + d, z).unwrap_or(mm);
        let slope = (beside(SLOPE) - beside(-SLOPE)) / (2.0 * SLOPE);
        let slant = slope.hypot(1.0).min(STEEPEST);
        Some(mm - (self.off(self.front_doubt(y, z)) + self.covers.front) * slant)
    }

    /// The stretch that is free over the whole thickness of an upright board from `x.0` to `x.1`: right end and
    /// left end, the widest there is.
    pub fn across(&self, x: (f64, f64), z: f64) -> Option<(f64, f64)> {
        let (mut right, mut left) = (
            -self.narrowest(Side::Right, x, z)?,
            self.narrowest(Side::Left, x, z)?,
        );
        // Before a front that comes in at its sides, or leans, the board ends sooner.
        let far = x.1 < self.nearest_front();
        let ahead = |y: f64| far || self.front(y, z).is_none_or(|f| f >= x.1);
        if !ahead(0.0) {
            return None;
        }
        for end in [&mut right, &mut left] {
            if ahead(*end) {
                continue;
            }
            let (mut good, mut bad) = (0.0, *end);
            for _ in 0..14 {
                let middle = (good + bad) / 2.0;
                if ahead(middle) {
                    good = middle;
                } else {
                    bad = middle;
                }
            }
            *end = good;
        }
        let mut stretches = vec![(right, left)];
        for o in self.site.model.things() {
            let carries = self.stands && o.carries;
            if carries || o.z.0 > z.max(FOOT) || o.up_to() < z {
                continue;
            }
            let own = self.off(o.sd) + o.extra;
            // The same in words: `reaches`.
            // Of a bevel or curve only what is beside the board counts.
            let beside = (x.0 - own, x.1 + own);
            let Some((y0, y1)) = o.across(beside, z) else {
                continue;
            };
            stretches = stretches
                .into_iter()
                .flat_map(|s| [(s.0, s.1.min(y0 - own)), (s.0.max(y1 + own), s.1)])
                .filter(|s| s.1 > s.0)
                .collect();
        }
        stretches
            .into_iter()
            .max_by(|a, b| (a.1 - a.0).total_cmp(&(b.1 - b.0)))
    }

    /// The heights at which a thing between `low` and `high` is looked at: its ends, and where walls or things
    /// change between.
    pub fn heights(&self, low: f64, high: f64) -> Vec<f64> {
        heights(self.site, low, high)
    }
}

/// The heights at which a thing between `low` and `high` is looked at: its ends, and where walls or things change
/// between.
pub fn heights(site: &Site, low: f64, high: f64) -> Vec<f64> {
    /// Between them at marks so far apart, mm: what is a little higher or lower than before is looked at where the wall is known already.
    const EVERY: f64 = 150.0;
    /// Levels nearer to each other are not both looked at, mm.
    const APART: f64 = 30.0;
    /// No more marks than this.
    const MOST: u32 = 40;
    /// Heights closer than this are one, mm.
    const CLOSE: f64 = 0.25;
    let first = ((low + APART) / EVERY).ceil();
    let marks = (0..MOST).map(|i| (first + f64::from(i)) * EVERY);
    let mut out = vec![low, high];
    out.extend(marks.take_while(|z| *z <= high - APART));
    // A scan has a level for every point: an even share of them tells as much.
    for side in Side::BOTH {
        let mut last = f64::NEG_INFINITY;
        for z in site.model.levels(side) {
            if z - last >= APART {
                out.push(*z);
                last = *z;
            }
        }
    }
    let things = site.model.things();
    out.extend(things.flat_map(|o| [o.z.0, o.up_to()]));
    out.retain(|z| *z >= low && *z <= high);
    out.sort_by(f64::total_cmp);
    out.dedup_by(|a, b| (*a - *b).abs() < CLOSE);
    out
}
