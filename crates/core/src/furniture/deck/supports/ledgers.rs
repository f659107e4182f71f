//! Ledger strips along the walls with rails between them.

use super::lines::beside_wall;
use super::{Job, LEAST, Support};
use crate::furniture::built::{Axis, Board, Measure, Pose};
use crate::furniture::platform::parting::bounds;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::project::survey::Side;
use crate::units::value::{Source, Value};

/// Fixings of a ledger stand no further apart than this, mm: five on 80 in (common practice, no source).
const APART: f64 = 80.0 * 25.4 / 4.0;
/// A place of the wall is a stretch so far to both sides, mm.
const LOOK: f64 = 0.5;
/// The outermost so far from its ends, mm (a choice).
const OFF_END: f64 = 50.0;

/// Where something ends, mm, and why, if that can be said.
#[derive(Clone)]
struct End {
    mm: f64,
    why: Option<Value>,
}

impl End {
    fn at(mm: f64) -> End {
        End { mm, why: None }
    }

    /// With the arithmetic that comes to the same.
    fn why(mm: f64, why: Option<Value>) -> End {
        /// An end lies where its explanation says, mm.
        const SAME: f64 = 1e-3;
        let why = why.filter(|v| (v.mm - mm).abs() < SAME);
        End { mm, why }
    }
}

/// A ledger that stands: the stretch it runs along, and its inner face from the centre line.
struct Stands {
    side: Side,
    along: (f64, f64),
    inner: End,
}

/// How many fixings hold a ledger so long.
pub(in crate::furniture::deck) fn fixings(long: f64) -> u32 {
    (long / APART - 1e-6).ceil().max(1.0) as u32 + 1
}

impl Job<'_> {
    pub(super) fn ledgers(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        let t = self.thickness();
        let z = (self.underside() - self.rail, self.underside());
        let mut stand: Vec<Stands> = Vec::new();
        for side in Side::BOTH {
            for (from, to) in self.runs(side, z) {
                let along = (from.mm, to.mm);
                let Some(face) = self.straight(side, along, z) else {
                    continue;
                };
                let thick = self.thick();
                let inner = End {
                    mm: face.mm - t,
                    why: face.why.map(|v| v.named("ledger lies") - thick),
                };
                out.boards.push(self.ledger(side, (&from, &to), face.mm));
                let (p, q) = (side.sign() * face.mm, side.sign() * inner.mm);
                out.plan
                    .push(Region::rectangle(along.0, p.min(q), along.1, p.max(q)));
                stand.push(Stands { side, along, inner });
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
            let beside = |side: Side| {
                let here = stand.iter().filter(move |l| {
                    l.side == side && x + half > l.along.0 && x - half < l.along.1
                });
                here.min_by(|a, b| a.inner.mm.total_cmp(&b.inner.mm))
            };
            let end =
                |side: Side, reach: f64| beside(side).map_or(reach, |l| l.inner.mm.min(reach));
            let ends = (-end(Side::Right, -y0), end(Side::Left, y1));
            // Without a ledger at its end a rail hangs on nothing.
            let hangs = Side::BOTH.into_iter().filter(|s| beside(*s).is_none());
            out.missing.extend(hangs.map(|s| (*x, s.word())));
            for (k, (a, b)) in self.left_of(ends, *x, z).into_iter().enumerate() {
                let mut rail = self.rail_at((i, k), *x, (a, b), &heights);
                let why = |side: Side, out: f64| {
                    let on = beside(side)?;
                    End::why(out, on.inner.why.clone()).why
                };
                if !rail.measures.iter().any(|m| m.about == "length") {
                    rail.measures
                        .extend(self.across_to(*x, &heights, (a, b), &why));
                }
                out.boards.push(rail);
                out.plan.push(self.footprint(*x, a, b));
            }
            let high = z.0 - self.floor(*x);
            out.ways.push(vec![(y1 - y0, high.max(0.0))]);
        }
        out
    }

    /// The stretches of a wall along which a ledger can run: not where a well or other furniture comes up to it.
    fn runs(&self, side: Side, z: (f64, f64)) -> Vec<(End, End)> {
        let (x0, _, x1, _) = bounds(self.whole);
        let (x0, x1) = (
            End::why(x0, (self.ends.along)(false)),
            End::why(x1, (self.ends.along)(true)),
        );
        let things = self.model.things();
        let wells = things.filter(|o| o.side == side && o.z.1 > z.0 && o.z.0 < z.1);
        let off = || self.ends.clearance + self.ends.doubt.clone();
        let mut gaps: Vec<(End, End)> = wells
            .map(|o| {
                let leaf = |words: &str, mm| {
                    let id = o.id.clone();
                    let label = format!("{} {words}", o.name);
                    Value::leaf(Source::Thing { id, doubt: false }, label, mm)
                };
                let begins = leaf("begins, from the threshold", o.x.0) - off();
                let ends = leaf("ends, from the threshold", o.x.1) + off();
                let at = |mm, why| End::why(mm, Some(why));
                (
                    at(o.x.0 - self.clearance, begins),
                    at(o.x.1 + self.clearance, ends),
                )
            })
            .collect();
        let near = self.clearance + 2.0 * self.thickness();
        let taken = beside_wall(self.site, side, z, near).into_iter();
        gaps.extend(taken.map(|(a, b)| (End::at(a), End::at(b))));
        gaps.sort_by(|a, b| a.0.mm.total_cmp(&b.0.mm));
        let mut out = Vec::new();
        let mut from = x0;
        let nearer = |a: End, b: &End, more: bool| {
            let other = (b.mm > a.mm) == more;
            if other { b.clone() } else { a }
        };
        for (a, b) in gaps {
            let next = nearer(from.clone(), &b, true);
            out.push((from, nearer(a, &x1, false)));
            from = next;
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
                let end = run.1.mm;
                match (reach(end - 0.5), reach(end - 40.0)) {
                    (Some(e), Some(b)) if e > b - 8.0 => break,
                    _ => run.1 = End::at(end - 8.0),
                }
            }
        }
        out.retain(|r| r.1.mm - r.0.mm >= 2.0 * LEAST);
        out
    }

    /// How far out from the centre line it is free at a place, mm.
    fn reach_at(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        let (right, left) = self.free.across((x - LOOK, x + LOOK), z)?;
        Some(if side == Side::Left { left } else { -right })
    }

    /// How far out a straight strip lies along a wall without going into it, from the centre line.
    fn straight(&self, side: Side, (a, b): (f64, f64), z: (f64, f64)) -> Option<End> {
        /// The wall is looked at every so often, mm.
        const EVERY: f64 = 40.0;
        let n = ((b - a) / EVERY).ceil().clamp(1.0, 500.0) as usize;
        let places = (0..=n).map(|i| a + (b - a) * i as f64 / n as f64);
        let places = places.map(|x| x.clamp(a + 0.7, (b - 0.7).max(a + 0.7)));
        let places = places.flat_map(|x| [z.0, z.1].map(|h| (x, h)));
        let walls = places.map(|(x, h)| Some((self.reach_at(side, x, h)?, x, h)));
        let walls = walls.collect::<Option<Vec<_>>>()?;
        let (mm, x, h) = walls.into_iter().min_by(|a, b| a.0.total_cmp(&b.0))?;
        let at = (x - LOOK, x + LOOK);
        Some(End::why(
            mm,
            self.free.why(side, at, h, mm, self.ends.clearance),
        ))
    }

    fn ledger(&self, side: Side, (from, to): (&End, &End), face: f64) -> Board {
        let (a, b) = (from.mm, to.mm);
        let mut ledger = self.blank(
            format!("ledger-{}-{a:.0}", side.word()),
            "ledger",
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
        let long = from.why.clone().zip(to.why.clone()).map(|(from, to)| {
            let front = to.named("front end from the threshold");
            Measure::whole(Axis::U, "length", front - from.named("rear end from it"))
        });
        ledger.measures = long.into_iter().collect();
        ledger
            .measures
            .push(Measure::whole(Axis::V, "height", self.deep()));
        ledger.way = Way::ledger(side);
        ledger.places = vec![format!(
            "{} from the threshold, {} wall",
            self.w.say(a),
            side.word()
        )];
        ledger
    }
}
