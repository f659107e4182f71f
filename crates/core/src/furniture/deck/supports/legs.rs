//! Rails across the bay on legs.

use super::{Job, LEAST, Support};
use crate::furniture::built::{Axis, Measure, Pose};
use crate::furniture::way::Way;
use crate::geometry::region::Region;

impl Job<'_> {
    pub(super) fn legs(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        for (i, x) in lines.iter().enumerate() {
            let under = self.underside() - self.rail;
            // A hull is narrower at the rail's lower edge than at the deck.
            let half = self.thickness() / 2.0;
            let heights = self.free.heights(under.max(1.0), self.underside() - 0.3);
            let Some((y0, y1)) = self.rail_reach(*x, &heights) else {
                out.missing.push((*x, ""));
                out.ways.push(vec![]);
                continue;
            };
            for (k, (a, b)) in self
                .left_of((y0, y1), *x, (under, self.underside()))
                .into_iter()
                .enumerate()
            {
                out.boards.push(self.rail_at((i, k), *x, (a, b), &heights));
                out.plan.push(self.footprint(*x, a, b));
            }
            if under - self.floor(*x) < LEAST {
                out.ways.push(vec![]);
                continue;
            }
            // A leg stands on the floor, a hump or a folded seat, not on a wheel well, and goes up to the rail.
            let stretches = self
                .free
                .heights(self.floor(*x) + 0.5, under.max(self.floor(*x) + 1.0))
                .into_iter()
                .map(|z| self.free.across((x - half, x + half), z));
            let stretch = stretches.reduce(|e, s| {
                let (e, s) = (e?, s?);
                Some((e.0.max(s.0), e.1.min(s.1)))
            });
            let Some((a, b)) = stretch.flatten() else {
                out.missing.push((*x, ""));
                out.ways.push(vec![]);
                continue;
            };
            let (left, right) = (b.min(y1), (-a).min(-y0));
            let wanted = [
                ("left", left - self.rail),
                ("middle", -self.rail / 2.0),
                ("right", -right),
            ];
            let mut taken = self.taken(*x, (self.floor(*x), under));
            let claimed = taken.len();
            for (j, (place, y)) in wanted.into_iter().enumerate() {
                let half = self.thickness() / 2.0;
                let along = (*x - half, *x + half);
                let found = self
                    .ground()
                    .find(along, y, self.rail, (-right, left), &taken);
                let Some((y, on)) = found.filter(|(_, on)| under - on.z >= LEAST) else {
                    out.missing.push((*x, place));
                    continue;
                };
                taken.push((y, y + self.rail));
                let height = under - on.z;
                let mut leg = self.blank(
                    format!("leg-{}-{}", i + 1, j + 1),
                    "leg",
                    "leg",
                    Region::rectangle(0.0, 0.0, height, self.rail),
                );
                // Its length stands up, its width lies across.
                leg.pose = Pose {
                    origin: [*x - half, y + self.rail, on.z],
                    u: [0.0, 0.0, 1.0],
                    v: [0.0, -1.0, 0.0],
                };
                leg.places = vec![format!(
                    "{} from the threshold, {place}, on the {}",
                    self.w.say(*x),
                    on.what
                )];
                leg.way = Way::leg();
                leg.then.extend(self.planed(&on));
                let long = self.height(&on) - self.deep();
                leg.measures = vec![
                    Measure::whole(Axis::U, "length", long),
                    Measure::whole(
                        Axis::V,
                        "width",
                        self.deep().named("as wide as a rail is deep"),
                    ),
                ];
                out.boards.push(leg);
                out.plan.push(self.footprint(*x, y, y + self.rail));
            }
            taken.drain(..claimed);
            taken.sort_by(|a, b| a.0.total_cmp(&b.0));
            let mut stops = vec![-right];
            stops.extend(taken.iter().flat_map(|t| [t.0, t.1]));
            stops.push(left);
            let gaps = stops.chunks(2).filter_map(|g| Some(g.get(1)? - g[0]));
            let high = under - self.floor(*x);
            out.ways
                .push(gaps.filter(|g| *g > 1.0).map(|g| (g, high)).collect());
        }
        out
    }
}
