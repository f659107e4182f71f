//! Strips on both faces of a support on which the boards that meet there lie.

use super::{Job, LEAST, RAIL, Support};
use crate::furniture::built::{Axis, Board, Measure, Pose};
use crate::furniture::platform::gaps::around;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::units::value::Value;

/// Height of such a strip, mm (a choice).
const LIP: f64 = 50.0;

impl Job<'_> {
    /// On both faces of the support at a joint: strips that the boards lie on, since half the support's thickness is little to
    /// lie on, and too little to find in the dark for a board that comes off.
    pub(super) fn lips(&self, (n, joint): (usize, f64), stands: usize, out: &mut Support) {
        for (side, x) in [
            ("rear", joint - self.thickness()),
            ("front", joint + self.thickness()),
        ] {
            self.lip((side, n), (joint, x), stands, out);
        }
    }

    fn lip(
        &self,
        (side, n): (&str, usize),
        (joint, x): (f64, f64),
        stands: usize,
        out: &mut Support,
    ) {
        let top = self.underside();
        if top - self.lip_high() < self.floor(x) + LEAST {
            return;
        }
        let half = self.thickness() / 2.0;
        let heights = self
            .free
            .heights((top - self.lip_high()).max(1.0), top - 0.3);
        let free = |(a, b): (f64, f64)| {
            let each = heights
                .iter()
                .map(|z| self.free.across((x - half, x + half), *z));
            each.flatten()
                .fold((a, b), |e, s| (e.0.max(s.0), e.1.min(s.1)))
        };
        // Only against what stands there.
        let at = |b: &&Board| {
            let [bx, by, bz] = b.pose.origin;
            let (y0, _, y1, z1) = b.shape.bounds();
            let reaches = (bz + z1 - top).abs() < 0.5 && b.role != "leg" && b.role != "ledger";
            (reaches && (bx + half - joint).abs() < 1.0).then_some((by + y0, by + y1))
        };
        let stands: Vec<(f64, f64)> = out.boards[..stands].iter().filter_map(|b| at(&b)).collect();
        // A ledger may begin beside the rail.
        let ledgers: Vec<(f64, f64)> = out
            .boards
            .iter()
            .filter(|b| b.role == "ledger")
            .map(around)
            .filter(|(low, high)| x + half > low[0] && x - half < high[0])
            .map(|(low, high)| (low[1], high[1]))
            .collect();
        let beside = |(a, b): (f64, f64)| {
            ledgers.iter().fold((a, b), |e, l| {
                if l.0 + l.1 > e.0 + e.1 {
                    (e.0, e.1.min(l.0))
                } else {
                    (e.0.max(l.1), e.1)
                }
            })
        };
        let each = stands
            .into_iter()
            .map(free)
            .map(beside)
            .filter(|s| s.1 - s.0 >= LEAST)
            .flat_map(|s| self.left_of(s, x, (top - self.lip_high(), top)));
        for (k, (y0, y1)) in each.enumerate() {
            let shape = Region::rectangle(0.0, 0.0, y1 - y0, self.lip_high());
            let id = match n {
                0 => format!("lip-{side}-{}", k + 1),
                n => format!("lip-{}-{side}-{}", n + 1, k + 1),
            };
            let mut lip = self.blank(id, "lip", &format!("lip for the {side} board"), shape);
            lip.pose = Pose::across(0.0).from([x - half, y0, top - self.lip_high()]);
            lip.measures = self.across(x, &heights, (y0, y1)).into_iter().collect();
            let high = match self.rail == RAIL {
                true => Value::rule("deck/lip", "strip", LIP),
                false => self.deep(),
            };
            lip.measures.push(Measure::whole(Axis::V, "height", high));
            lip.way = Way::rail(y0, (y1 - y0, self.lip_high()));
            out.plan.push(self.footprint(x, y0, y1));
            out.boards.push(lip);
        }
    }

    /// How high a lip is: as a strip is cut, or as a bar is.
    fn lip_high(&self) -> f64 {
        if self.rail == RAIL { LIP } else { self.rail }
    }
}
