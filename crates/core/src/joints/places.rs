//! Where along a joint its screws stand: in the middle of the thinner touch, off both its ends, evenly, and only where there is
//! wood on both sides.

use super::GROOVE;
use crate::furniture::built::Vec3;
use crate::solids::{Solid, TOUCH};

/// Screws stand so far off the ends of a joint, mm (a choice).
pub const OFF_END: f64 = 40.0;
/// A shorter stretch of wood takes no screw, mm.
const LEAST: f64 = 10.0;
/// In a board that leans it is looked every so often whether there is wood, mm, but no more often than that.
const EVERY: f64 = 10.0;
const MOST: usize = 400;
/// So deep in either board it is looked, mm.
const DEEP: f64 = 1.0;

/// Where two boards touch, as the box of it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Patch {
    /// The axis square to it.
    pub axis: usize,
    /// The longer of the other two.
    pub along: usize,
    low: Vec3,
    high: Vec3,
}

impl Patch {
    /// Where two boards touch; boards in a groove reach into each other. `None` where they do not.
    pub fn of(a: &Solid, b: &Solid) -> Option<Patch> {
        /// A shorter touch is none, mm.
        const LEAST: f64 = 5.0;
        let low: Vec3 = std::array::from_fn(|k| a.low[k].max(b.low[k]));
        let high: Vec3 = std::array::from_fn(|k| a.high[k].min(b.high[k]));
        let deep = |k: &usize| high[*k] - low[*k];
        let axis = (0..3).min_by(|p, q| deep(p).total_cmp(&deep(q)))?;
        if !(-TOUCH..=GROOVE).contains(&deep(&axis)) {
            return None;
        }
        let others = || (0..3).filter(|k| *k != axis);
        let along = others().max_by(|p, q| deep(p).total_cmp(&deep(q)))?;
        let short = others().map(|k| deep(&k)).fold(f64::INFINITY, f64::min);
        (deep(&along) >= LEAST && short > 0.0).then_some(Patch {
            axis,
            along,
            low,
            high,
        })
    }

    /// How long it is, mm.
    pub fn long(&self) -> f64 {
        self.high[self.along] - self.low[self.along]
    }

    /// Its middle.
    pub fn middle(&self) -> Vec3 {
        std::array::from_fn(|k| (self.low[k] + self.high[k]) / 2.0)
    }

    /// Its upper end, mm.
    pub fn top(&self) -> f64 {
        self.high[2]
    }

    /// The point of its middle line at `at` along it.
    fn point(&self, at: f64) -> Vec3 {
        let mut p = self.middle();
        p[self.along] = at;
        p
    }

    /// The stretches of its middle line along which there is wood on both sides.
    fn stretches(&self, a: &Solid, b: &Solid) -> Vec<(f64, f64)> {
        let (from, to) = (self.low[self.along], self.high[self.along]);
        let middle = |s: &Solid| s.low[self.axis] + s.high[self.axis];
        let into = if middle(b) >= middle(a) { DEEP } else { -DEEP };
        let beside = |by: f64| {
            let mut p = self.point(from);
            p[self.axis] += by;
            p
        };
        let mut out = vec![(from, to)];
        for (board, by) in [(a, -into), (b, into)] {
            let wood = board.line(beside(by), self.along);
            let wood = wood.unwrap_or_else(|| self.looked_at(board, by));
            out = both(&out, &wood);
        }
        out.retain(|s| s.1 - s.0 >= LEAST);
        out
    }

    /// The same of a board that leans, as closely as it is looked at.
    fn looked_at(&self, board: &Solid, by: f64) -> Vec<(f64, f64)> {
        let (from, to) = (self.low[self.along], self.high[self.along]);
        let n = (((to - from) / EVERY).ceil() as usize).clamp(1, MOST);
        let step = (to - from) / n as f64;
        let wood = |i: &usize| {
            let mut p = self.point(from + (*i as f64 + 0.5) * step);
            p[self.axis] += by;
            board.holds(p)
        };
        let mut out: Vec<(f64, f64)> = Vec::new();
        for i in (0..n).filter(wood) {
            let (low, high) = (from + i as f64 * step, from + (i + 1) as f64 * step);
            match out.last_mut() {
                Some(last) if low - last.1 < step / 2.0 => last.1 = high,
                _ => out.push((low, high)),
            }
        }
        out
    }

    /// Rows of points, each evenly spaced: `count` says how many a stretch of that length takes.
    pub fn rows(&self, a: &Solid, b: &Solid, count: &dyn Fn(f64) -> u32) -> Vec<Vec<Vec3>> {
        let rows = self.stretches(a, b).into_iter().map(|(from, to)| {
            let long = to - from;
            let n = count(long);
            let off = OFF_END.min(long / 4.0);
            let at = |i: u32| match n {
                1 => (from + to) / 2.0,
                n => from + off + (long - 2.0 * off) * f64::from(i) / f64::from(n - 1),
            };
            (0..n).map(|i| self.point(at(i))).collect::<Vec<_>>()
        });
        rows.filter(|r| !r.is_empty()).collect()
    }
}

impl Patch {
    /// How deep the wood of `other` is behind this touch at the shallowest of the places in `rows`, mm, seen from `one`; at its
    /// middle where there are none. No deeper than the longest screw needs to be looked at.
    pub fn deep(&self, one: &Solid, other: &Solid, rows: &[Vec<Vec3>]) -> f64 {
        /// Longer than any screw, mm, and how finely a board that leans is looked at.
        const MOST: f64 = 80.0;
        const STEP: f64 = 1.0;
        let middle = |s: &Solid| s.low[self.axis] + s.high[self.axis];
        let sign = if middle(other) >= middle(one) {
            1.0
        } else {
            -1.0
        };
        let inside = |p: &Vec3, by: f64| {
            let mut q = *p;
            q[self.axis] += sign * by;
            q
        };
        let own = |p: &Vec3| {
            let start = inside(p, DEEP);
            let at = start[self.axis];
            if let Some(wood) = other.line(start, self.axis) {
                let here = wood.iter().find(|w| w.0 <= at && at <= w.1);
                let end = here.map(|w| if sign > 0.0 { w.1 } else { w.0 });
                return end.map_or(0.0, |end| (end - p[self.axis]).abs());
            }
            let steps = (1..).map(|i| STEP * f64::from(i));
            let mut wood = steps.take_while(|by| *by <= MOST && other.holds(inside(p, *by)));
            wood.by_ref().last().unwrap_or(0.0)
        };
        let all = rows.iter().flatten().map(own).reduce(f64::min);
        all.unwrap_or_else(|| own(&self.middle())).min(MOST)
    }
}

/// What two lists of stretches share.
fn both(a: &[(f64, f64)], b: &[(f64, f64)]) -> Vec<(f64, f64)> {
    let each = a.iter().flat_map(|p| {
        let shared = b.iter().map(|q| (p.0.max(q.0), p.1.min(q.1)));
        shared.filter(|s| s.1 > s.0)
    });
    each.collect()
}
