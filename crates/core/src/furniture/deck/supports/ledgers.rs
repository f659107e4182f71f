//! Ledger strips along the walls with rails between them.

use super::{BESIDE, Job, LEAST, Support};
use crate::furniture::built::{Axis, Board, Measure, Pose};
use crate::furniture::deck::joint::bounds;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::project::survey::Side;

/// Fixings of a ledger stand no further apart than this, mm: five on 80 in (common practice, no source).
const APART: f64 = 80.0 * 25.4 / 4.0;
/// The outermost so far from its ends, mm (a choice).
const OFF_END: f64 = 50.0;

/// How many fixings hold a ledger so long.
pub(in crate::furniture::deck) fn fixings(long: f64) -> u32 {
    (long / APART - 1e-6).ceil().max(1.0) as u32 + 1
}

impl Job<'_> {
    pub(super) fn ledgers(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        let t = self.thickness();
        let z = (self.underside() - self.rail, self.underside());
        let (x0, _, x1, _) = bounds(self.whole);
        // Where a ledger's inner face lies, by side and stretch.
        let mut inner: Vec<(Side, (f64, f64), f64)> = Vec::new();
        for side in Side::BOTH {
            for (a, b) in self.runs(side, (x0, x1), z) {
                let Some(face) = self.straight(side, (a, b), z) else {
                    continue;
                };
                out.boards.push(self.ledger(side, (a, b), face));
                inner.push((side, (a, b), face - t));
                let (p, q) = (side.sign() * face, side.sign() * (face - t));
                out.plan.push(Region::rectangle(a, p.min(q), b, p.max(q)));
            }
        }
        for (i, x) in lines.iter().enumerate() {
            let heights = self.free.heights(z.0.max(1.0), z.1 - 0.3);
            let Some((y0, y1)) = self.rail_reach(*x, &heights) else {
                out.missing.push((*x, ""));
                out.ways.push(vec![]);
                continue;
            };
            let half = t / 2.0;
            let end = |side: Side, reach: f64| {
                let here = inner
                    .iter()
                    .filter(|(s, (a, b), _)| *s == side && x + half > *a && x - half < *b);
                here.map(|l| l.2).fold(reach, f64::min)
            };
            let ends = (-end(Side::Right, -y0), end(Side::Left, y1));
            for (k, (a, b)) in self.left_of(ends, *x, z).into_iter().enumerate() {
                out.boards.push(self.rail_at((i, k), *x, (a, b), &heights));
                out.plan.push(self.footprint(*x, a, b));
            }
            let high = z.0 - self.floor(*x);
            out.ways.push(vec![(y1 - y0, high.max(0.0))]);
        }
        out
    }

    /// The stretches of a wall along which a ledger can run: not where a well or other furniture comes up to it.
    fn runs(&self, side: Side, (x0, x1): (f64, f64), z: (f64, f64)) -> Vec<(f64, f64)> {
        let things = self.model.things();
        let wells = things.filter(|o| o.side == side && o.z.1 > z.0 && o.z.0 < z.1);
        let mut gaps: Vec<_> = wells
            .map(|o| (o.x.0 - self.clearance, o.x.1 + self.clearance))
            .collect();
        for (_, c) in self
            .site
            .others()
            .filter(|(_, c)| c.z.1 > z.0 && c.z.0 < z.1)
        {
            let (a, y0, b, y1) = c.plan.bounds();
            let wall = self.model.offset(side, (a + b) / 2.0, z.1).unwrap_or(0.0);
            let reach = if side == Side::Left { y1 } else { -y0 };
            if reach > wall - self.clearance - 2.0 * self.thickness() {
                gaps.push((a - BESIDE, b + BESIDE));
            }
        }
        gaps.sort_by(|a, b| a.0.total_cmp(&b.0));
        let mut out = Vec::new();
        let mut from = x0;
        for (a, b) in gaps {
            out.push((from, a.min(x1)));
            from = from.max(b);
        }
        out.push((from, x1));
        // Where the front comes in, the strip ends before it.
        let reach = |x: f64| {
            [z.0, z.1]
                .map(|h| self.reach_at(side, x, h))
                .into_iter()
                .try_fold(f64::INFINITY, |least: f64, r| Some(least.min(r?)))
        };
        for run in &mut out {
            for _ in 0..40 {
                let (end, before) = (reach(run.1 - 0.5), reach(run.1 - 40.0));
                match (end, before) {
                    (Some(e), Some(b)) if e > b - 8.0 => break,
                    _ => run.1 -= 8.0,
                }
            }
        }
        out.retain(|r| r.1 - r.0 >= 2.0 * LEAST);
        out
    }

    /// How far out from the centre line it is free at a place, mm.
    fn reach_at(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        let (right, left) = self.free.across((x - 0.5, x + 0.5), z)?;
        Some(if side == Side::Left { left } else { -right })
    }

    /// How far out a straight strip lies along a wall without going into it, from the centre line.
    fn straight(&self, side: Side, (a, b): (f64, f64), z: (f64, f64)) -> Option<f64> {
        /// The wall is looked at every so often, mm.
        const EVERY: f64 = 40.0;
        let n = ((b - a) / EVERY).ceil().clamp(1.0, 500.0) as usize;
        let places = (0..=n).map(|i| a + (b - a) * i as f64 / n as f64);
        let places = places.map(|x| x.clamp(a + 0.7, (b - 0.7).max(a + 0.7)));
        let walls = places.flat_map(|x| [z.0, z.1].map(|h| self.reach_at(side, x, h)));
        let least = walls.collect::<Option<Vec<f64>>>()?;
        Some(least.into_iter().fold(f64::INFINITY, f64::min))
    }

    fn ledger(&self, side: Side, (a, b): (f64, f64), face: f64) -> Board {
        let mut ledger = self.blank(
            format!("ledger-{}-{a:.0}", side.word()),
            "G",
            &format!("ledger, {}", side.word()),
            Region::rectangle(0.0, 0.0, b - a, self.rail),
        );
        let n = fixings(b - a);
        let end = OFF_END.min((b - a) / 4.0);
        let apart = (b - a - 2.0 * end) / f64::from(n - 1);
        ledger.then.push(format!(
            "{n} holes, {} from each end, {} apart: fix to existing anchors or threaded inserts in ribs near them, never through the skin",
            self.w.say(end),
            self.w.say(apart)
        ));
        let z = self.underside() - self.rail;
        // Seen from the middle of the bay: the left one from rear to front, the right one the other way.
        ledger.pose = match side {
            Side::Left => Pose::along(face).from([a, face, z]),
            Side::Right => Pose {
                origin: [b, -face, z],
                u: [-1.0, 0.0, 0.0],
                v: [0.0, 0.0, 1.0],
            },
        };
        ledger.measures = vec![Measure::whole(Axis::V, "height", self.deep())];
        ledger.way = Way::ledger(side);
        ledger.places = vec![format!("{} in, {} wall", self.w.say(a), side.word())];
        ledger
    }
}
