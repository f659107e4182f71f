//! Free space in plan at any height: what a board there must lie inside. The bay as measured, less what stands
//! in it, less the clearance, each edge leaning in by its own doubt: the rule of every board.

use std::cell::RefCell;
use std::collections::BTreeMap;

use crate::furniture::Site;
use crate::furniture::cross::{Cross, heights};
use crate::geometry::region::Region;
use crate::project::module::Covers;
use crate::template::fill::{CLEAR, LEAN, fill_with};

/// Heights closer than this are one, mm.
const CLOSE: f64 = 0.25;
/// A rectangle may stick out by so much along a side on average, mm: less than the doubt differs from place to place.
const SLIVER: f64 = 0.6;
/// and nowhere by more than this, mm.
const MOST: f64 = 2.0;

/// The free space of a site, worked out at each height once.
pub struct Free<'a> {
    site: &'a Site<'a>,
    clearance: Option<f64>,
    finish: f64,
    covers: Covers,
    at: RefCell<BTreeMap<(i64, u64), Vec<Region>>>,
}

impl<'a> Free<'a> {
    /// With the user's clearance, or what the readings need, and the finish.
    pub fn new(site: &'a Site<'a>, clearance: Option<f64>, finish: f64) -> Free<'a> {
        Free {
            site,
            clearance,
            finish,
            covers: Covers::default(),
            at: RefCell::default(),
        }
    }

    /// With what covers the edges along the walls and at the front.
    #[must_use]
    pub fn covered(self, covers: Covers) -> Free<'a> {
        Free { covers, ..self }
    }

    /// The free pieces at a height, largest first; none where nothing is known. For a piece whose clearance is that of walls known
    /// to `sd`, mm (one standard deviation).
    fn at(&self, z: f64, sd: f64) -> Vec<Region> {
        let key = ((z / CLOSE).round() as i64, sd.to_bits());
        if let Some(known) = self.at.borrow().get(&key) {
            return known.clone();
        }
        let roof = self.site.model.roof().map_or(f64::INFINITY, |z| {
            z - 3.0 * self.site.model.lowest_roof().map_or(0.0, |r| r.sd)
        });
        let clearance = self.clearance.unwrap_or(CLEAR * sd + self.finish);
        // Where the doubt is larger than most of the edge's, the edge keeps its own.
        let held_off = |own: f64| LEAN * own + CLEAR * (own - sd).max(0.0);
        let fill = || fill_with(self.site.model, z, clearance, &held_off);
        let filled = (z <= roof).then(fill);
        let mut panels = filled.flatten().map_or(vec![], |f| f.panels);
        let Covers { left, right, front } = self.covers;
        for (dx, dy) in [(0.0, -left), (0.0, right), (-front, 0.0)] {
            if dx != 0.0 || dy != 0.0 {
                let kept = |p: &Region| p.and(&p.map(|q| [q[0] + dx, q[1] + dy]));
                panels = panels.iter().flat_map(kept).collect();
            }
        }
        self.at.borrow_mut().insert(key, panels.clone());
        panels
    }

    /// The heights at which a thing between `low` and `high` is looked at.
    pub fn heights(&self, low: f64, high: f64) -> Vec<f64> {
        heights(self.site, low, high)
    }

    /// A rectangle in plan is free at all these heights, for the piece whose place `cross` gives: it keeps the same off walls.
    pub fn holds(&self, cross: &Cross, plan: &Region, heights: &[f64]) -> bool {
        let sd = cross.shared().0;
        heights.iter().all(|z| {
            let outside = plan.minus(&self.at(*z, sd));
            outside.iter().all(|r| {
                let (w, h) = r.size();
                w.min(h) <= MOST && r.area() <= SLIVER * w.max(h)
            })
        })
    }
}
