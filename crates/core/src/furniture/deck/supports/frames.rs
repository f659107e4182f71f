//! Frames of ply on edge across the bay, with windows to reach through.

use super::{BESIDE, BORDER, Job, LEAST, LEAST_WINDOW, NEAR, Support};
use crate::furniture::bevels::{self, Lean};
use crate::furniture::built::{Axis, Bevel, Measure, Pose};
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::geometry::sawn::{ACROSS, sawable};
use crate::geometry::{Point, distance, sides};
use crate::project::survey::Side;
use crate::side_by_side::each;

/// A piece beside other furniture that ends higher over what is below it stands on nothing, mm.
const HANGS: f64 = 5.0;

impl Job<'_> {
    /// How far in the floor is free at `x`, from the centre line, on one side.
    fn free(&self, side: Side, x: f64, z: f64) -> Option<f64> {
        let wall = self.model.offset(side, x, z)?;
        let faces = self
            .model
            .things()
            .filter(|o| o.side == side && !o.carries && self.crosses(o.x, x))
            .filter(|o| o.z.0 <= z && o.z.1 > z)
            .map(|o| o.face);
        Some(faces.fold(wall, f64::min) - self.clearance)
    }

    fn crosses(&self, range: (f64, f64), x: f64) -> bool {
        let reach = self.clearance + self.thickness() / 2.0;
        x > range.0 - reach && x < range.1 + reach
    }

    pub(super) fn frames(&self, lines: &[f64]) -> Support {
        let each_line: Vec<(usize, f64)> = lines.iter().copied().enumerate().collect();
        let mut out = Support::default();
        for own in each(&each_line, |(i, x)| self.frames_at((*i, lines.len()), *x)) {
            out.boards.extend(own.boards);
            out.plan.extend(own.plan);
            out.missing.extend(own.missing);
            out.ways.extend(own.ways);
        }
        out
    }

    /// What stands on the line `i` of `n`.
    fn frames_at(&self, (i, n): (usize, usize), x: f64) -> Support {
        let mut out = Support::default();
        let (frames, heights) = self.frame(x);
        if frames.is_empty() {
            out.missing.push((x, ""));
        }
        let mut ways = Vec::new();
        let several = frames.len() > 1;
        for (k, region) in frames.iter().map(sawable).enumerate() {
            let (y0, z0, y1, _) = region.bounds();
            let width = self.across(x, &heights, (y0, y1));
            out.plan.push(self.footprint(x, y0, y1));
            let mut blank = self.blank(
                if several {
                    format!("frame-{}-{}", i + 1, k + 1)
                } else {
                    format!("frame-{}", i + 1)
                },
                "frame",
                &format!("frame, {} from the threshold", self.w.say(x)),
                region,
            );
            blank.windows = self.windows(x, &blank.shape);
            // Beside other furniture a window may not lie in the piece at all.
            blank.windows.retain(|w| {
                let inside: f64 = blank.shape.and(w).iter().map(Region::area).sum();
                inside > w.area() - 1.0
            });
            ways.extend(blank.windows.iter().map(Region::size));
            blank.relief = self.deck.internal_radius;
            blank.pose = Pose::across(x - self.thickness() / 2.0);
            let foot = blank.shape.outer.iter().find(|p| p[1] < z0 + 1e-6);
            let on = self.ground().named((x, foot.map_or(y0, |p| p[0])), z0);
            blank
                .then
                .extend(on.as_ref().and_then(|on| self.planed(on)));
            // Beside other furniture a piece may hang clear of the floor.
            let height = on.map(|on| Measure::whole(Axis::V, "height", self.height(&on)));
            blank.measures = width.into_iter().chain(height).collect();
            blank.bevels = self.bevels(x, &blank.shape, &heights);
            let words: Vec<String> = blank.bevels.iter().map(|b| b.words(self.w)).collect();
            blank.then.extend(words);
            blank.way = Way::frame(y0, blank.shape.size(), i, n);
            blank.then.insert(
                0,
                if blank.windows.is_empty() {
                    "too low for a window: reach in from behind".into()
                } else {
                    "windows to reach through: drill the corners, saw between".into()
                },
            );
            out.boards.push(blank);
        }
        out.ways.push(ways);
        out
    }

    /// The section of the bay at `x` under the deck: clear of walls, front and wells over its whole thickness,
    /// but not of floor and deck, which it touches; and the heights at which that was looked at.
    fn frame(&self, x: f64) -> (Vec<Region>, Vec<f64>) {
        let (floor, top) = (self.floor(x), self.underside());
        if top - floor < LEAST {
            return (vec![], vec![]);
        }
        let half = self.thickness() / 2.0;
        let mut heights = self.free.heights(floor + 0.5, top - 0.3);
        // A well ends at once: right below its top and right above.
        heights.extend(heights.clone().iter().map(|z| z + 0.5));
        heights.retain(|z| *z < top);
        heights.sort_by(f64::total_cmp);
        let all = self.stretches((x - half, x + half), &heights);
        let (Some(first), Some(last)) = (all.first(), all.last()) else {
            return (vec![], vec![]);
        };
        // It has to come down to the floor.
        if first.0 > floor + LEAST.max(0.2 * (top - floor)) {
            return (vec![], vec![]);
        }
        let ends = all
            .iter()
            .fold((0.0_f64, 0.0_f64), |e, (_, s)| (e.0.min(s.0), e.1.max(s.1)));
        let ends = (ends.0 - 50.0, ends.1 + 50.0);
        // From what the frame stands on, left and right each, up to the deck.
        let profile = self.ground().profile(x, ends);
        let lowest = profile.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
        let mut own = vec![[ends.1, top], [ends.0, top]];
        own.extend(profile.iter().copied());
        own.reverse();
        let own = Region {
            outer: own,
            holes: vec![],
        };
        let (first, last) = (first.1, last.1);
        let mut outer: Vec<Point> = vec![[first.1, lowest]];
        outer.extend(all.iter().map(|(z, s)| [s.1, *z]));
        outer.extend([[last.1, top], [last.0, top]]);
        outer.extend(all.iter().rev().map(|(z, s)| [s.0, *z]));
        outer.push([first.0, lowest]);
        let mut section = Region {
            outer,
            holes: vec![],
        }
        .simplified(NEAR);
        // A front that leans in under the deck may nick the upper edge by less than is seen: the deck lies on all of it.
        for p in section.outer.iter_mut().filter(|p| p[1] > top - ACROSS) {
            p[1] = top;
        }
        let claimed: Vec<Region> = self
            .claimed(x)
            .iter()
            .map(|c| {
                let (_, y0, _, y1) = c.plan.bounds();
                // A bridge over it lower than a border is no bridge.
                let low = top - c.z.1 < BORDER;
                let high = if low { top + 1.0 } else { c.z.1 };
                // Nor is a sliver under it, where the floor falls away from its feet.
                let foot = if c.z.0 - lowest < LEAST {
                    lowest - 1.0
                } else {
                    c.z.0
                };
                Region::rectangle(y0 - BESIDE, foot, y1 + BESIDE, high)
            })
            .collect();
        let mut pieces: Vec<Region> = section
            .and(&own)
            .iter()
            .flat_map(|r| r.minus(&claimed))
            .collect();
        pieces.sort_by(|a, b| b.area().total_cmp(&a.area()));
        if claimed.is_empty() {
            pieces.truncate(1);
        }
        // Beside what stands there only what reaches the deck and comes down to the floor carries it.
        let stands = |r: &Region| {
            let low = r.bounds().1;
            let feet = r.outer.iter().filter(|p| p[1] < low + 0.5);
            let mut heights = feet.map(|p| {
                let near = self.ground().profile(x, (p[0] - HANGS, p[0] + HANGS));
                near.iter().map(|q| q[1]).fold(f64::NEG_INFINITY, f64::max)
            });
            heights.any(|ground| low <= ground + HANGS)
        };
        let alone = claimed.is_empty();
        pieces.retain(|r| {
            let (w, h) = r.size();
            r.bounds().3 > top - 1.0 && w >= LEAST && h >= LEAST && (alone || stands(r))
        });
        (pieces, all.into_iter().map(|(z, _)| z).collect())
    }

    /// Where its edges follow walls that come nearer to each other, or part, over its thickness. `shape` is across and up, worked out at these
    /// heights.
    fn bevels(&self, x: f64, shape: &Region, heights: &[f64]) -> Vec<Bevel> {
        /// The grid of the booleans is finer than this, mm.
        const SAME: f64 = 5e-3;
        let (t, half) = (self.thickness(), self.thickness() / 2.0);
        let (Some(low), Some(high)) = (heights.first(), heights.last()) else {
            return vec![];
        };
        // How much further out the wall is at its front face, where it decides how far out a corner lies.
        let wider = |side: Side, [y, z]: Point| {
            // From the lowest down to the floor, and up to the deck, it goes straight on.
            let z = z.clamp(*low, *high);
            let ends = self.free.narrowest(side, (x - half, x + half), z)?;
            let at = |x| self.model.offset(side, x, z);
            // A step less than is seen is sawn straight.
            let decides = (-SAME..=ACROSS).contains(&(ends - side.sign() * y));
            decides.then_some(at(x + half)? - at(x - half)?)
        };
        let leans = sides(&shape.outer).filter_map(|(p, q)| {
            let side = if p[0] > 0.0 { Side::Left } else { Side::Right };
            let out = (wider(side, p)? + wider(side, q)?) / 2.0;
            let long = distance(p, q);
            if long < 1e-6 {
                return None;
            }
            let square = (q[1] - p[1]).abs() / long;
            Some(Lean {
                of: format!("{} wall", side.word()),
                from: p,
                to: q,
                deg: (out * square / t).atan().to_degrees(),
            })
        });
        bevels::along(leans, t, ["rear", "front"])
    }

    /// The free stretch across the bay at these heights, and between them wherever it is not a straight line.
    fn stretches(&self, x: (f64, f64), heights: &[f64]) -> Vec<(f64, (f64, f64))> {
        /// Heights closer than this are not parted further, mm; most of them.
        const FINE: f64 = 1.0;
        const MOST: usize = 240;
        let at = |z: f64| Some((z, self.free.across(x, z)?));
        let mut all: Vec<(f64, (f64, f64))> = heights.iter().filter_map(|z| at(*z)).collect();
        let mut i = 0;
        while i + 1 < all.len() {
            let (a, b) = (all[i], all[i + 1]);
            let middle = at((a.0 + b.0) / 2.0);
            let straight = ((a.1.0 + b.1.0) / 2.0, (a.1.1 + b.1.1) / 2.0);
            match middle {
                Some(m)
                    if b.0 - a.0 > FINE
                        && all.len() < MOST
                        && ((m.1.0 - straight.0).abs() > NEAR
                            || (m.1.1 - straight.1).abs() > NEAR) =>
                {
                    all.insert(i + 1, m);
                }
                _ => i += 1,
            }
        }
        all
    }

    /// Two windows with a post between, inside the stretch that is free at every height.
    fn windows(&self, x: f64, frame: &Region) -> Vec<Region> {
        let (_, z0, _, z1) = frame.bounds();
        let mut heights = vec![z0 + 1.0, z1 - 1.0];
        for o in self.model.things().filter(|o| self.crosses(o.x, x)) {
            heights.extend([o.z.1 - 1.0, o.z.0 + 1.0]);
        }
        heights.retain(|z| *z > z0 && *z < z1);
        let free = |side| {
            heights
                .iter()
                .map(|z| self.free(side, x, *z).unwrap_or(0.0))
                .fold(f64::INFINITY, f64::min)
        };
        let (left, right) = (free(Side::Left) - BORDER, free(Side::Right) - BORDER);
        let hi = z1 - BORDER;
        let half = BORDER / 2.0;
        let post = self.post((-right, left), hi - z0 - BORDER);
        // Above what the frame stands on in that stretch.
        let low = |a: f64, b: f64| {
            let profile = self.ground().profile(x, (a, b));
            profile.iter().map(|p| p[1]).fold(z0, f64::max) + BORDER
        };
        [(post + half, left), (-right, post - half)]
            .into_iter()
            .filter(|(a, b)| b - a >= LEAST_WINDOW)
            .map(|(a, b)| (a, b, low(a, b)))
            .filter_map(|(a, b, lo)| {
                self.window(frame, (a.round(), lo.round(), b.round(), hi.round()))
            })
            .collect()
    }

    /// Where the post between two windows stands: in the middle, or further to one side where that lets through what is to
    /// stand under the deck and is wider than half.
    fn post(&self, (right, left): (f64, f64), high: f64) -> f64 {
        /// Wider than this the strip over a window bends too much to carry a deck, mm (a choice).
        const WIDEST: f64 = 800.0;
        /// A thing goes through with so much to spare, mm (a choice).
        const SPARE: f64 = 10.0;
        let half = BORDER / 2.0;
        let usual = left.max(-right) - half;
        let most = (left - right - BORDER - LEAST_WINDOW).min(WIDEST);
        let gear = self.site.project.gear.values().filter(|g| g.under_deck);
        // The narrowest way in which it goes through, if it does.
        let wide = gear.filter_map(|g| {
            let (w, d, h) = (g.w?, g.d?, g.h?);
            let ways = [(w, h), (h, w), (d, h), (h, d), (w, d), (d, w)];
            let through = ways.into_iter().filter(|(_, up)| up + SPARE <= high);
            through.map(|(across, _)| across + SPARE).reduce(f64::min)
        });
        let wanted = wide.filter(|w| *w > usual && *w <= most);
        match wanted.reduce(f64::max) {
            None => 0.0,
            // On the side that has more room anyway.
            Some(w) if left >= -right => (left - w - half).min(0.0),
            Some(w) => (right + w + half).max(0.0),
        }
    }

    /// A window that leaves wood all round it, as high as the frame lets it: other furniture may have taken from its
    /// upper edge there.
    fn window(&self, frame: &Region, (a, lo, b, hi): (f64, f64, f64, f64)) -> Option<Region> {
        /// It is made lower by so much at a time, mm.
        const LOWER: f64 = 10.0;
        let mut top = hi;
        while top - lo >= LEAST_WINDOW {
            let off = BORDER / 2.0;
            if frame.holds_box((a - off, lo - off, b + off, top + off)) {
                return Some(Region::rectangle(a, lo, b, top));
            }
            top -= LOWER;
        }
        None
    }
}
