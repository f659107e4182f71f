//! What stands before an opening, so that nothing comes out of it or no hand in.

use super::Ctx;
use crate::furniture::built::Vec3;
use crate::motion::met;
use crate::solids::Solid;

/// What only touches the way is not in it, mm.
pub const TOUCH: f64 = 0.5;
/// The vehicle is looked at every so many mm of the way.
const EVERY: f64 = 10.0;
/// Whether there is wood in the way is looked at so often each way.
const LOOKS: u32 = 7;

/// What has to stay free before an opening.
pub struct Way {
    /// The axis along which it leads out.
    pub axis: usize,
    /// Which way along that.
    pub sign: f64,
    /// Where it begins, mm.
    pub from: f64,
    /// Across it: the least of its places.
    pub low: Vec3,
    /// The greatest.
    pub high: Vec3,
}

impl Way {
    /// Out of the box between two corners, that way; `None` where that is along none of the vehicle's axes.
    pub fn new(corners: [Vec3; 2], out: Vec3) -> Option<Way> {
        let axis = (0..3).find(|k| out[*k].abs() > 0.9)?;
        let sign = out[axis].signum();
        let ends = |pick: fn(f64, f64) -> f64| -> Vec3 {
            std::array::from_fn(|k| pick(corners[0][k], corners[1][k]))
        };
        let (low, high) = (ends(f64::min), ends(f64::max));
        Some(Way {
            axis,
            sign,
            from: if sign > 0.0 { high[axis] } else { low[axis] },
            low,
            high,
        })
    }

    /// The two axes across it.
    pub fn across(&self) -> [usize; 2] {
        match self.axis {
            0 => [1, 2],
            1 => [0, 2],
            _ => [0, 1],
        }
    }

    /// Boards of other pieces that may be in the way within so many mm. What is before it in its own piece is opened first: a door.
    pub fn near<'a>(&self, ctx: &'a Ctx, module: &str, most: f64) -> Vec<Solid<'a>> {
        let others = ctx.boards.iter().filter(|b| b.module != module);
        let others = others.map(|b| Solid::at(b, b.shut));
        let (mut low, mut high) = (self.low, self.high);
        let far = self.from + self.sign * most;
        (low[self.axis], high[self.axis]) = (self.from.min(far), self.from.max(far));
        let meets = |s: &Solid| (0..3).all(|k| s.low[k] < high[k] && s.high[k] > low[k]);
        others.filter(meets).collect()
    }

    /// What is met first within so many mm, and how far before the opening: one of those boards, or the vehicle.
    pub fn first(&self, ctx: &Ctx, near: &[Solid], most: f64) -> Option<(f64, String)> {
        let offs = near.iter().filter_map(|s| Some((self.before(s)?, s)));
        let offs = offs.filter(|m| m.0 < most - TOUCH);
        let board = offs.min_by(|a, b| a.0.total_cmp(&b.0)).map(|(off, s)| {
            let m = ctx.project.modules.get(&s.board.module);
            let name = m.map_or(String::new(), |m| m.called());
            (off, format!("the {name} ({})", s.board.mark))
        });
        // Behind the first board nobody has to look.
        let most = board.as_ref().map_or(most, |b| b.0);
        let vehicle = self.vehicle(ctx, most).filter(|m| m.0 < most - TOUCH);
        vehicle.or(board)
    }

    /// How far before the opening a board begins that is in the way: it may have a window there.
    fn before(&self, s: &Solid) -> Option<f64> {
        let off = |low: f64, high: f64| match self.sign > 0.0 {
            true => low - self.from,
            false => self.from - high,
        };
        let whole = off(s.low[self.axis], s.high[self.axis]);
        let [a, b] = self.across();
        let shared = [a, b].map(|k| (s.low[k].max(self.low[k]), s.high[k].min(self.high[k])));
        let beside = shared.iter().any(|(low, high)| high - low <= TOUCH);
        if beside || whole <= -TOUCH {
            return None;
        }
        let looked = |(low, high): (f64, f64)| {
            (0..LOOKS).map(move |i| low + (high - low) * (f64::from(i) + 0.5) / f64::from(LOOKS))
        };
        let places = looked(shared[0]).flat_map(|u| looked(shared[1]).map(move |v| (u, v)));
        // Where there is wood along the way; of a board that leans, all of the box round it.
        let wood = places.filter_map(|(u, v)| {
            let mut p = [0.0; 3];
            (p[a], p[b]) = (u, v);
            match s.line(p, self.axis) {
                Some(wood) => wood.iter().map(|w| off(w.0, w.1)).reduce(f64::min),
                None => Some(whole),
            }
        });
        wood.reduce(f64::min).map(|off| off.max(0.0))
    }

    /// The same no wider and higher than that, at several places of it: the middle first.
    pub fn narrowed(&self, size: f64) -> Vec<Way> {
        let [a, b] = self.across();
        let at = |k: usize, share: f64| {
            let room = (self.high[k] - self.low[k] - size).max(0.0);
            let low = self.low[k] + room * share;
            (low, (low + size).min(self.high[k]))
        };
        let shares = [0.5, 0.0, 1.0, 0.25, 0.75];
        let each = shares.iter().flat_map(|u| shares.map(|v| (*u, v)));
        each.map(|(u, v)| {
            let (mut low, mut high) = (self.low, self.high);
            (low[a], high[a]) = at(a, u);
            (low[b], high[b]) = at(b, v);
            Way { low, high, ..*self }
        })
        .collect()
    }

    /// What of the vehicle is met within so many mm, and how far before the bay.
    fn vehicle(&self, ctx: &Ctx, most: f64) -> Option<(f64, String)> {
        let n = (most / EVERY).ceil().clamp(1.0, 400.0) as usize;
        let [a, b] = self.across();
        (1..=n).find_map(|i| {
            let by = most * i as f64 / n as f64;
            let ends = |k: usize| [self.low[k] + TOUCH, self.high[k] - TOUCH];
            let mut corners = ends(a).into_iter().flat_map(|u| ends(b).map(|v| (u, v)));
            let what = corners.find_map(|(u, v)| {
                let mut p = [0.0; 3];
                p[self.axis] = self.from + self.sign * by;
                (p[a], p[b]) = (u, v);
                met(ctx.model, p)
            })?;
            Some((most * (i - 1) as f64 / n as f64, what))
        })
    }
}
