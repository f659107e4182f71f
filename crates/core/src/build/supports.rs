//! What carries a deck: frames of ply on edge, rails on legs, or ledgers with rails between them.

use super::ground::{Ground, Stand};
use super::joint::bounds;
use crate::cutting::nest::PartGrain;
use crate::geometry::inset::EdgeClearance;
use crate::geometry::region::Region;
use crate::parts::way::Way;
use crate::parts::{Blank, Why};
use crate::project::deck::{Deck, Manner};
use crate::project::survey::Side;
use crate::survey::model::Model;
use crate::template::outline::{Bounds, free_panel};
use crate::units::figure::Writer;

/// Depth of a rail on edge, and width of a leg, mm (a choice).
pub const RAIL: f64 = 70.0;
/// Width of wood left round a window in a frame, mm (a choice).
const BORDER: f64 = 60.0;
/// A window lower or narrower than this is not worth cutting, mm.
const LEAST_WINDOW: f64 = 60.0;
/// Shortest leg or strip worth cutting, mm.
const LEAST: f64 = 20.0;

/// Parts that carry a deck, and where they stand in plan.
#[derive(Debug, Clone, Default)]
pub struct Support {
    /// The boards.
    pub blanks: Vec<Blank>,
    /// Their footprints.
    pub plan: Vec<Region>,
    /// Lines at which something could not stand, mm in, and on which side.
    pub missing: Vec<(f64, &'static str)>,
    /// At each line, from the rear: the openings left in it, width and height, mm.
    pub ways: Vec<Vec<(f64, f64)>>,
}

struct Job<'a> {
    model: &'a Model,
    deck: &'a Deck,
    whole: &'a [Region],
    clearance: f64,
    w: &'a Writer,
}

/// Builds the supports of `deck` on `lines`.
pub fn build(
    model: &Model,
    deck: &Deck,
    whole: &[Region],
    lines: &[f64],
    clearance: f64,
    w: &Writer,
) -> Support {
    let job = Job {
        model,
        deck,
        whole,
        clearance,
        w,
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

    fn ground(&self) -> Ground<'_> {
        Ground {
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

    fn blank(&self, id: String, letter: &'static str, name: &str, region: Region) -> Blank {
        Blank {
            id,
            letter,
            name: name.into(),
            material: self.deck.supports.material.clone(),
            thickness: self.thickness(),
            marked: region,
            relief: 0.0,
            vents: vec![],
            windows: vec![],
            grain: PartGrain::Along,
            then: vec!["pilot every screw into an edge".into()],
            why: vec![],
            plane: 0.0,
            way: Way::default(),
            places: vec![],
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
            for region in frames {
                let (y0, z0, y1, _) = region.bounds();
                out.plan.push(self.footprint(*x, y0, y1));
                let mut blank = self.blank(
                    format!("frame-{}", i + 1),
                    "F",
                    &format!("frame, {} in", self.w.say(*x)),
                    region,
                );
                blank.windows = self.windows(*x, &blank.marked);
                ways.extend(blank.windows.iter().map(Region::size));
                blank.relief = self.deck.internal_radius;
                blank.plane = *x;
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
                out.blanks.push(blank);
            }
            out.ways.push(ways);
        }
        out
    }

    /// The section of the bay at `x` under the deck, clear of walls and wells but not of floor and
    /// deck, which it touches.
    fn frame(&self, x: f64) -> Vec<Region> {
        let (floor, top) = (self.floor(x), self.underside());
        if top - floor < LEAST {
            return vec![];
        }
        let Some(section) = self.model.section(x, top) else {
            return vec![];
        };
        let (y0, _, y1, _) = section.bounds();
        // From what the frame stands on, left and right each, up to the deck.
        let ends = (y0 - 50.0, y1 + 50.0);
        let profile = self.ground().profile(x, ends);
        let lowest = profile.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
        let mut own = vec![[ends.1, top], [ends.0, top]];
        own.extend(profile.iter().copied());
        own.reverse();
        let own = Region {
            outer: own,
            holes: vec![],
        };
        let base = section.stretched_down(lowest);
        let Some(section) = base.and(&own).into_iter().next() else {
            return vec![];
        };
        let wells = self
            .model
            .things()
            .filter(|o| !o.carries && self.crosses(o.x, x))
            .map(|o| match o.side {
                Side::Left => {
                    let far = o.far.unwrap_or(y1 + 50.0);
                    Region::rectangle(o.face, o.z.0 - 10.0, far, o.z.1)
                }
                Side::Right => {
                    let far = o.far.map_or(y0 - 50.0, |f| -f);
                    Region::rectangle(far, o.z.0 - 10.0, -o.face, o.z.1)
                }
            });
        let touch = |z: f64| EdgeClearance {
            a: [y0 - 50.0, z],
            b: [y1 + 50.0, z],
            clearance: 0.0,
        };
        let bounds = Bounds {
            bay: section,
            obstacles: wells.collect(),
            clearance: self.clearance,
            edge_clearance: profile
                .windows(2)
                .map(|w| EdgeClearance {
                    a: w[0],
                    b: w[1],
                    clearance: if (w[1][0] - w[0][0]).abs() > 0.5 {
                        0.0
                    } else {
                        self.clearance
                    },
                })
                .chain([touch(top)])
                .collect(),
            ..Bounds::default()
        };
        let (_, mut pieces, _) = free_panel(&bounds);
        pieces.truncate(1);
        pieces
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

    fn rail(&self, i: usize, x: f64, y0: f64, y1: f64) -> Blank {
        let mut rail = self.blank(
            format!("rail-{}", i + 1),
            "R",
            "rail",
            Region::rectangle(0.0, 0.0, y1 - y0, RAIL),
        );
        rail.plane = x;
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
            out.blanks.push(self.rail(i, *x, y0, y1));
            out.plan.push(self.footprint(*x, y0, y1));
            let under = self.underside() - RAIL;
            if under - self.floor(*x) < LEAST {
                out.ways.push(vec![]);
                continue;
            }
            // A leg stands on the floor, a hump or a folded seat, not on a wheel well.
            let z = self.floor(*x) + 1.0;
            let foot =
                |side: Side, edge: f64| self.free(side, *x, z).unwrap_or(edge).min(edge).max(RAIL);
            let (left, right) = (foot(Side::Left, y1), foot(Side::Right, -y0));
            let wanted = [
                ("left", left - RAIL),
                ("middle", -RAIL / 2.0),
                ("right", -right),
            ];
            let mut taken: Vec<(f64, f64)> = Vec::new();
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
                leg.plane = *x;
                leg.places = vec![format!(
                    "{} in, {place}, on the {}",
                    self.w.say(*x),
                    on.what
                )];
                leg.way = Way::leg();
                leg.why = vec![self.height_why("length", *x, &on, &[("rail", RAIL)])];
                out.blanks.push(leg);
                out.plan.push(self.footprint(*x, y, y + RAIL));
            }
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
        for (i, x) in lines.iter().enumerate() {
            if let Some((y0, y1)) = self.reach(*x) {
                out.blanks.push(self.rail(i, *x, y0 + t, y1 - t));
                out.plan.push(self.footprint(*x, y0 + t, y1 - t));
                let high = self.underside() - RAIL - self.floor(*x);
                out.ways.push(vec![(y1 - y0, high.max(0.0))]);
            }
        }
        // A ledger runs along a wall except where a wheel well comes up to it.
        let (x0, _, x1, _) = bounds(self.whole);
        for side in Side::BOTH {
            let mut stops = vec![x0];
            let wells = self.model.things().filter(|o| {
                o.side == side && o.z.1 > self.underside() - RAIL && o.z.0 < self.underside()
            });
            let mut gaps: Vec<_> = wells
                .map(|o| (o.x.0 - self.clearance, o.x.1 + self.clearance))
                .collect();
            gaps.sort_by(|a, b| a.0.total_cmp(&b.0));
            for (a, b) in gaps {
                stops.extend([a.clamp(x0, x1), b.clamp(x0, x1)]);
            }
            stops.push(x1);
            for run in stops.chunks(2) {
                let &[a, b] = run else { continue };
                if b - a < 2.0 * LEAST {
                    continue;
                }
                let mut ledger = self.blank(
                    format!("ledger-{}-{a:.0}", side.word()),
                    "G",
                    &format!("ledger, {}", side.word()),
                    Region::rectangle(0.0, 0.0, b - a, RAIL),
                );
                ledger.then.push(
                    "fix to existing anchors or threaded inserts in ribs, never through the skin"
                        .into(),
                );
                ledger.plane = a;
                ledger.way = Way::ledger(side);
                ledger.places = vec![format!("{} in, {} wall", self.w.say(a), side.word())];
                out.blanks.push(ledger);
                let middle = (a + b) / 2.0;
                if let Some(wall) = self.model.offset(side, middle, self.underside()) {
                    let y = side.sign() * (wall - self.clearance);
                    let inner = y - side.sign() * t;
                    out.plan
                        .push(Region::rectangle(a, y.min(inner), b, y.max(inner)));
                }
            }
        }
        out
    }
}
