//! Free space in plan at any height: what a board there must lie inside. The bay as measured, less what stands
//! in it, less the clearance, each edge leaning in by its own doubt: the rule of every board.

use std::cell::RefCell;
use std::collections::BTreeMap;

use crate::furniture::Site;
use crate::furniture::deck::{CLEAR, shared};
use crate::geometry::region::Region;
use crate::survey::model::Obstacle;
use crate::template::fill::{LEAN, fill_round};

/// Heights closer than this are one, mm.
const CLOSE: f64 = 0.25;
/// How much of a rectangle may stick out by rounding, mm2.
const CRUMB: f64 = 1.0;

/// The free space of a site, worked out at each height once.
pub struct Free<'a> {
    site: &'a Site<'a>,
    clearance: Option<f64>,
    finish: f64,
    /// Things that carry are stood on, not in the way.
    stands: bool,
    at: RefCell<BTreeMap<i64, Vec<Region>>>,
}

impl<'a> Free<'a> {
    /// With the user's clearance, or what the readings at each height need, and the finish.
    pub fn new(site: &'a Site<'a>, clearance: Option<f64>, finish: f64) -> Free<'a> {
        Free {
            site,
            clearance,
            finish,
            stands: false,
            at: RefCell::default(),
        }
    }

    /// For what stands on humps, steps and folded seats: they are not in its way.
    #[must_use]
    pub fn standing(self) -> Free<'a> {
        Free {
            stands: true,
            ..self
        }
    }

    /// The stretch across the bay that is free over the whole thickness of an upright board, from `x.0` to
    /// `x.1`: right end and left end, the widest there is.
    pub fn across(&self, x: (f64, f64), z: f64) -> Option<(f64, f64)> {
        /// A board is looked at a little inside its faces, mm.
        const IN: f64 = 0.2;
        const FAR: f64 = 9000.0;
        let pieces = self.at(z);
        let stretches = |x: f64| -> Vec<(f64, f64)> {
            let band = Region::rectangle(x - IN / 2.0, -FAR, x + IN / 2.0, FAR);
            let here = pieces.iter().flat_map(|r| r.and(&band));
            here.map(|r| (r.bounds().1, r.bounds().3)).collect()
        };
        let mut left = stretches((x.0 + x.1) / 2.0);
        for at in [x.0 + IN, x.1 - IN] {
            let other = stretches(at);
            let common = left.iter().flat_map(|a| {
                let both = other.iter().map(|b| (a.0.max(b.0), a.1.min(b.1)));
                both.filter(|s| s.1 > s.0)
            });
            left = common.collect();
        }
        left.into_iter()
            .max_by(|a, b| (a.1 - a.0).total_cmp(&(b.1 - b.0)))
    }

    /// The doubt that most of the edge at a height does not exceed, mm.
    fn shared(&self, z: f64) -> f64 {
        self.site.model.bay(z).map_or(0.0, |b| shared(&b, &b))
    }

    /// The free pieces at a height, largest first; none where nothing is known.
    pub fn at(&self, z: f64) -> Vec<Region> {
        let key = (z / CLOSE).round() as i64;
        if let Some(known) = self.at.borrow().get(&key) {
            return known.clone();
        }
        let roof = self
            .site
            .model
            .lowest_roof()
            .map_or(f64::INFINITY, |r| r.mm - 3.0 * r.sd);
        let round = |o: &Obstacle| !(self.stands && o.carries);
        let sd = self.shared(z);
        let clearance = self.clearance.unwrap_or(CLEAR * sd + self.finish);
        // Where the doubt is larger than most of the edge's, the edge keeps its own.
        let held_off = |own: f64| LEAN * own + CLEAR * (own - sd).max(0.0);
        let fill = || fill_round(self.site.model, z, clearance, &held_off, &round);
        let filled = (z <= roof).then(fill);
        let panels = filled.flatten().map_or(vec![], |f| f.panels);
        self.at.borrow_mut().insert(key, panels.clone());
        panels
    }

    /// The heights at which a thing between `low` and `high` is looked at: its ends, and where walls or things
    /// change between.
    pub fn heights(&self, low: f64, high: f64) -> Vec<f64> {
        /// Between them at least every so often, mm.
        const EVERY: f64 = 150.0;
        let model = self.site.model;
        let n = ((high - low) / EVERY).ceil().clamp(1.0, 40.0) as usize;
        let mut out: Vec<f64> = (0..=n)
            .map(|i| low + (high - low) * i as f64 / n as f64)
            .collect();
        for side in crate::project::survey::Side::BOTH {
            out.extend(model.levels(side));
        }
        out.extend(model.things().flat_map(|o| [o.z.0, o.z.1 + 2.0 * o.sd]));
        out.retain(|z| *z >= low && *z <= high);
        out.sort_by(f64::total_cmp);
        out.dedup_by(|a, b| (*a - *b).abs() < CLOSE);
        out
    }

    /// A rectangle in plan is free at all these heights.
    pub fn holds(&self, plan: &Region, heights: &[f64]) -> bool {
        let area = plan.area();
        heights.iter().all(|z| {
            let inside = self.at(*z);
            let inside: f64 = inside
                .iter()
                .flat_map(|r| r.and(plan))
                .map(|r| r.area())
                .sum();
            inside >= area - CRUMB
        })
    }

    /// What of a shape in plan is free at all these heights: the largest piece.
    pub fn within(&self, plan: &Region, heights: &[f64]) -> Option<Region> {
        let mut left = plan.clone();
        for z in heights {
            let pieces = self
                .at(*z)
                .iter()
                .flat_map(|r| r.and(&left))
                .collect::<Vec<_>>();
            left = pieces
                .into_iter()
                .max_by(|a, b| a.area().total_cmp(&b.area()))?;
        }
        Some(left)
    }

    /// Height of the floor under a rectangle: its highest place.
    pub fn floor(&self, plan: &Region) -> f64 {
        let (x0, y0, x1, y1) = plan.bounds();
        let xs = [x0, (x0 + x1) / 2.0, x1];
        let ys = [y0, (y0 + y1) / 2.0, y1];
        let all = xs
            .iter()
            .flat_map(|x| ys.map(|y| self.site.model.floor_at(*x, y)));
        all.fold(f64::NEG_INFINITY, f64::max)
    }
}
