//! What carries a deck: frames of ply on edge, rails on legs, or ledgers with rails between them.

use super::ground::{Footing, Stand};
use super::joint::bounds;
use crate::furniture::Site;
use crate::furniture::built::{Board, Claim, FIXED, Pose};
use crate::furniture::cross::Cross;
use crate::furniture::way::Way;
use crate::geometry::Point;
use crate::geometry::region::Region;
use crate::mechanics::material::PartGrain;
use crate::project::deck::{Deck, Manner};
use crate::project::survey::Side;
use crate::survey::model::Model;
use crate::template::fill::LEAN;
use crate::units::figure::{Why, Writer};

/// Depth of a rail on edge, and width of a leg, mm (a choice).
pub const RAIL: f64 = 70.0;
/// Width of wood left round a window in a frame, mm (a choice).
const BORDER: f64 = 60.0;
/// A window lower or narrower than this is not worth cutting, mm.
const LEAST_WINDOW: f64 = 60.0;
/// Supports stay so far off other furniture, mm (a choice: a thumb's nail and finish on both).
const BESIDE: f64 = 2.0;
/// Curved sides are cut straight where that leaves them by no more, mm.
const NEAR: f64 = 0.3;
/// Shortest leg or strip worth cutting, mm.
const LEAST: f64 = 20.0;

/// Parts that carry a deck, and where they stand in plan.
#[derive(Debug, Clone, Default)]
pub struct Support {
    /// The boards.
    pub boards: Vec<Board>,
    /// Their footprints.
    pub plan: Vec<Region>,
    /// Lines at which something could not stand, mm in, and on which side.
    pub missing: Vec<(f64, &'static str)>,
    /// At each line, from the rear: the openings left in it, width and height, mm.
    pub ways: Vec<Vec<(f64, f64)>>,
}

struct Job<'a> {
    site: &'a Site<'a>,
    free: Cross<'a>,
    model: &'a Model,
    deck: &'a Deck,
    whole: &'a [Region],
    clearance: f64,
    w: &'a Writer,
}

/// What is free for the supports of a deck of that clearance.
pub fn cross<'a>(site: &'a Site<'a>, deck: &Deck, clearance: f64) -> Cross<'a> {
    let height = deck.underside.unwrap_or(0.0);
    Cross::new(site, Some(clearance), deck.finish, height).standing()
}

/// Builds the supports of `deck` on `lines`.
pub fn build(
    site: &Site,
    deck: &Deck,
    whole: &[Region],
    lines: &[f64],
    (clearance, sd): (f64, f64),
) -> Support {
    let job = Job {
        site,
        free: cross(site, deck, clearance),
        model: site.model,
        deck,
        whole,
        clearance: clearance + LEAN * sd,
        w: &site.w,
    };
    match deck.supports.manner {
        Manner::Frames => job.frames(lines),
        Manner::Legs => job.legs(lines),
        Manner::Ledgers => job.ledgers(lines),
    }
}

impl Job<'_> {
    fn underside(&self) -> f64 {
        self.deck.underside.unwrap_or(0.0)
    }

    fn thickness(&self) -> f64 {
        self.deck.supports.thickness
    }

    fn ground(&self) -> Footing<'_> {
        Footing {
            model: self.model,
            deck: self.deck,
            clearance: self.clearance,
        }
    }

    /// Height of the floor at `x` on the centre line.
    fn floor(&self, x: f64) -> f64 {
        self.ground().floor(x, 0.0)
    }

    /// Stretch of the deck across the bay at `x`.
    fn reach(&self, x: f64) -> Option<(f64, f64)> {
        let half = self.thickness() / 2.0;
        let (_, y0, _, y1) = bounds(self.whole);
        let band = Region::rectangle(x - half, y0 - 1.0, x + half, y1 + 1.0);
        let widest = self
            .whole
            .iter()
            .flat_map(|r| r.and(&band))
            .max_by(|a, b| a.size().1.total_cmp(&b.size().1))?;
        let b = widest.bounds();
        Some((b.1, b.3))
    }

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

    fn footprint(&self, x: f64, y0: f64, y1: f64) -> Region {
        let half = self.thickness() / 2.0;
        Region::rectangle(x - half, y0, x + half, y1)
    }

    fn blank(&self, id: String, letter: &'static str, name: &str, region: Region) -> Board {
        Board {
            id,
            letter,
            role: match letter {
                "F" => "frame",
                "R" => "rail",
                "L" => "leg",
                _ => "ledger",
            },
            name: name.into(),
            material: self.deck.supports.material.clone(),
            thickness: self.thickness(),
            marked: region,
            relief: 0.0,
            vents: vec![],
            windows: vec![],
            grain: PartGrain::Along,
            then: vec!["pilot every screw into an edge".into()],
            pockets: vec![],
            why: vec![],
            way: Way::default(),
            places: vec![],
            pose: Pose::across(0.0),
            body: FIXED.into(),
        }
    }

    fn height_why(&self, about: &str, x: f64, on: &Stand, less: &[(&str, f64)]) -> Why {
        let mut total = self.underside() - on.z;
        let mut steps = vec![
            self.w.step("", "deck underside", self.underside()),
            self.w
                .step("-", format!("{}, {} in", on.what, self.w.say(x)), on.z),
        ];
        for (label, mm) in less {
            total -= mm;
            steps.push(self.w.step("-", *label, *mm));
        }
        Why {
            about: about.into(),
            total: self.w.figure(total),
            steps,
        }
    }

    fn frames(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        for (i, x) in lines.iter().enumerate() {
            let frames = self.frame(*x);
            if frames.is_empty() {
                out.missing.push((*x, ""));
            }
            let mut ways = Vec::new();
            let several = frames.len() > 1;
            for (k, region) in frames.into_iter().enumerate() {
                let (y0, z0, y1, _) = region.bounds();
                out.plan.push(self.footprint(*x, y0, y1));
                let mut blank = self.blank(
                    if several {
                        format!("frame-{}-{}", i + 1, k + 1)
                    } else {
                        format!("frame-{}", i + 1)
                    },
                    "F",
                    &format!("frame, {} in", self.w.say(*x)),
                    region,
                );
                blank.windows = self.windows(*x, &blank.marked);
                // Beside other furniture a window may not lie in the piece at all.
                blank.windows.retain(|w| {
                    let inside: f64 = blank.marked.and(w).iter().map(Region::area).sum();
                    inside > w.area() - 1.0
                });
                ways.extend(blank.windows.iter().map(Region::size));
                blank.relief = self.deck.internal_radius;
                blank.pose = Pose::across(*x - self.thickness() / 2.0);
                let on = self.ground().named(*x, z0);
                blank.why = vec![self.height_why("height", *x, &on, &[])];
                blank.way = Way::frame(y0, blank.marked.size(), i, lines.len());
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
        }
        out
    }

    /// The section of the bay at `x` under the deck: clear of walls, front and wells over its whole thickness,
    /// but not of floor and deck, which it touches.
    fn frame(&self, x: f64) -> Vec<Region> {
        let (floor, top) = (self.floor(x), self.underside());
        if top - floor < LEAST {
            return vec![];
        }
        let half = self.thickness() / 2.0;
        let mut heights = self.free.heights(floor + 0.5, top - 0.3);
        // A well ends at once: right below its top and right above.
        heights.extend(heights.clone().iter().map(|z| z + 0.5));
        heights.retain(|z| *z < top);
        heights.sort_by(f64::total_cmp);
        let all = self.stretches((x - half, x + half), &heights);
        let (Some(first), Some(last)) = (all.first(), all.last()) else {
            return vec![];
        };
        // It has to come down to the floor.
        if first.0 > floor + LEAST.max(0.2 * (top - floor)) {
            return vec![];
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
        let section = Region {
            outer,
            holes: vec![],
        }
        .simplified(NEAR);
        let claimed: Vec<Region> = self
            .claimed(x)
            .map(|c| {
                let (_, y0, _, y1) = c.plan.bounds();
                // A bridge over it lower than a border is no bridge.
                let low = top - c.z.1 < BORDER;
                let high = if low { top + 1.0 } else { c.z.1 };
                Region::rectangle(y0 - BESIDE, c.z.0, y1 + BESIDE, high)
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
        // Beside what stands there only what reaches the deck carries it.
        pieces.retain(|r| {
            let (w, h) = r.size();
            r.bounds().3 > top - 1.0 && w >= LEAST && h >= LEAST
        });
        pieces
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

    /// What other furniture claims at a line below the deck.
    fn claimed(&self, x: f64) -> impl Iterator<Item = &Claim> {
        let half = self.thickness() / 2.0 + BESIDE;
        let claims = self.site.others().map(|(_, c)| c);
        claims.filter(move |c| {
            let (x0, _, x1, _) = c.plan.bounds();
            x + half > x0 && x - half < x1 && c.z.0 < self.underside()
        })
    }

    /// The stretches across the bay that are claimed at a line between two heights.
    fn taken(&self, x: f64, z: (f64, f64)) -> Vec<(f64, f64)> {
        let here = self.claimed(x).filter(|c| c.z.0 < z.1 && c.z.1 > z.0);
        here.map(|c| {
            let (_, y0, _, y1) = c.plan.bounds();
            (y0 - BESIDE, y1 + BESIDE)
        })
        .collect()
    }

    /// What is left of a stretch beside what is claimed at a line between two heights.
    fn left_of(&self, whole: (f64, f64), x: f64, z: (f64, f64)) -> Vec<(f64, f64)> {
        let mut taken = self.taken(x, z);
        taken.sort_by(|a, b| a.0.total_cmp(&b.0));
        let mut out = Vec::new();
        let mut from = whole.0;
        for (a, b) in taken {
            out.push((from, a.min(whole.1)));
            from = from.max(b);
        }
        out.push((from, whole.1));
        out.retain(|r| r.1 - r.0 >= 2.0 * LEAST);
        out
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
        let post = BORDER / 2.0;
        // Above what the frame stands on in that stretch.
        let low = |a: f64, b: f64| {
            let profile = self.ground().profile(x, (a, b));
            profile.iter().map(|p| p[1]).fold(z0, f64::max) + BORDER
        };
        [(post, left), (-right, -post)]
            .into_iter()
            .filter(|(a, b)| b - a >= LEAST_WINDOW)
            .map(|(a, b)| (a, b, low(a, b)))
            .filter(|(.., lo)| hi - lo >= LEAST_WINDOW)
            .map(|(a, b, lo)| Region::rectangle(a.round(), lo.round(), b.round(), hi.round()))
            .collect()
    }

    fn rail(&self, (i, k): (usize, usize), x: f64, y0: f64, y1: f64) -> Board {
        let id = match k {
            0 => format!("rail-{}", i + 1),
            k => format!("rail-{}-{}", i + 1, k + 1),
        };
        let mut rail = self.blank(id, "R", "rail", Region::rectangle(0.0, 0.0, y1 - y0, RAIL));
        let corner = [x - self.thickness() / 2.0, y0, self.underside() - RAIL];
        rail.pose = Pose::across(0.0).from(corner);
        rail.way = Way::rail(y0, (y1 - y0, RAIL));
        rail.places = vec![format!("{} in", self.w.say(x))];
        rail.why = vec![Why {
            about: "length".into(),
            total: self.w.figure(y1 - y0),
            steps: vec![self.w.note(format!(
                "width of the deck {} in, on edge under it",
                self.w.say(x)
            ))],
        }];
        rail
    }

    fn legs(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        for (i, x) in lines.iter().enumerate() {
            let Some((y0, y1)) = self.reach(*x) else {
                continue;
            };
            let under = self.underside() - RAIL;
            // A hull is narrower at the rail's lower edge than at the deck.
            let half = self.thickness() / 2.0;
            let rail = self.free.heights(under.max(1.0), self.underside() - 0.3);
            let (y0, y1) = rail
                .iter()
                .filter_map(|z| self.free.across((x - half, x + half), *z))
                .fold((y0, y1), |e, s| (e.0.max(s.0), e.1.min(s.1)));
            for (k, (a, b)) in self
                .left_of((y0, y1), *x, (under, self.underside()))
                .into_iter()
                .enumerate()
            {
                out.boards.push(self.rail((i, k), *x, a, b));
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
                ("left", left - RAIL),
                ("middle", -RAIL / 2.0),
                ("right", -right),
            ];
            let mut taken = self.taken(*x, (self.floor(*x), under));
            let claimed = taken.len();
            for (j, (place, y)) in wanted.into_iter().enumerate() {
                let half = self.thickness() / 2.0;
                let along = (*x - half, *x + half);
                let found = self.ground().find(along, y, RAIL, (-right, left), &taken);
                let Some((y, on)) = found.filter(|(_, on)| under - on.z >= LEAST) else {
                    out.missing.push((*x, place));
                    continue;
                };
                taken.push((y, y + RAIL));
                let height = under - on.z;
                let mut leg = self.blank(
                    format!("leg-{}-{}", i + 1, j + 1),
                    "L",
                    "leg",
                    Region::rectangle(0.0, 0.0, height, RAIL),
                );
                // Its length stands up, its width lies across.
                leg.pose = Pose {
                    origin: [*x - half, y + RAIL, on.z],
                    u: [0.0, 0.0, 1.0],
                    v: [0.0, -1.0, 0.0],
                };
                leg.places = vec![format!(
                    "{} in, {place}, on the {}",
                    self.w.say(*x),
                    on.what
                )];
                leg.way = Way::leg();
                leg.why = vec![self.height_why("length", *x, &on, &[("rail", RAIL)])];
                out.boards.push(leg);
                out.plan.push(self.footprint(*x, y, y + RAIL));
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

    fn ledgers(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        let t = self.thickness();
        let z = (self.underside() - RAIL, self.underside());
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
            let Some((y0, y1)) = self.reach(*x) else {
                continue;
            };
            let half = t / 2.0;
            let end = |side: Side, reach: f64| {
                let here = inner
                    .iter()
                    .filter(|(s, (a, b), _)| *s == side && x + half > *a && x - half < *b);
                here.map(|l| l.2).fold(reach, f64::min)
            };
            let heights = self.free.heights(z.0.max(1.0), z.1 - 0.3);
            let (y0, y1) = heights
                .iter()
                .filter_map(|z| self.free.across((x - half, x + half), *z))
                .fold((y0, y1), |e, s| (e.0.max(s.0), e.1.min(s.1)));
            let ends = (-end(Side::Right, -y0), end(Side::Left, y1));
            for (k, (a, b)) in self.left_of(ends, *x, z).into_iter().enumerate() {
                out.boards.push(self.rail((i, k), *x, a, b));
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
            Region::rectangle(0.0, 0.0, b - a, RAIL),
        );
        ledger.then.push(
            "fix to existing anchors or threaded inserts in ribs, never through the skin".into(),
        );
        let z = self.underside() - RAIL;
        // Seen from the middle of the bay: the left one from rear to front, the right one the other way.
        ledger.pose = match side {
            Side::Left => Pose::along(face).from([a, face, z]),
            Side::Right => Pose {
                origin: [b, -face, z],
                u: [-1.0, 0.0, 0.0],
                v: [0.0, 0.0, 1.0],
            },
        };
        ledger.way = Way::ledger(side);
        ledger.places = vec![format!("{} in, {} wall", self.w.say(a), side.word())];
        ledger
    }
}
