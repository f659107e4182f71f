//! What carries a deck: frames of ply on edge, rails on legs, or ledgers with rails between them.

mod frames;
mod ledgers;

use super::ground::{Footing, Stand};
use super::joint::bounds;
use crate::furniture::Site;
use crate::furniture::built::{Axis, Board, Claim, Measure, Pose};
use crate::furniture::cross::Cross;
use crate::furniture::way::Way;
use crate::geometry::region::Region;
use crate::project::Project;
use crate::project::deck::{Deck, Manner};
use crate::project::survey::Side;
use crate::survey::model::Model;
use crate::template::fill::LEAN;
use crate::units::figure::Writer;
use crate::units::value::Value;

/// Depth of a rail on edge, and width of a leg, mm (a choice).
pub const RAIL: f64 = 70.0;
/// Height of the strip on which a board that comes off lies at its joint, mm (a choice).
const LIP: f64 = 50.0;
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

/// How deep a deck's rails and ledgers are, and how wide its legs, mm: as a bar is, or as they are cut from a sheet.
pub fn rail(project: &Project, deck: &Deck) -> f64 {
    let material = project.material(&deck.supports.material);
    let bar = material.and_then(|m| m.bar);
    bar.map_or(RAIL, |b| b.width)
}

struct Job<'a> {
    site: &'a Site<'a>,
    free: Cross<'a>,
    model: &'a Model,
    deck: &'a Deck,
    whole: &'a [Region],
    clearance: f64,
    ends: &'a Ends<'a>,
    w: &'a Writer,
    /// How deep rails are, and how wide legs.
    rail: f64,
}

/// What explains where a support ends.
pub struct Ends<'a> {
    /// The deck's clearance to the walls.
    pub clearance: &'a Value,
    /// Why the deck's edge lies so far out on a side, at a stretch along the bay.
    pub edge: &'a dyn Fn(Side, (f64, f64), f64) -> Option<Value>,
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
    joint: Option<f64>,
    ends: &Ends,
) -> Support {
    let job = Job {
        site,
        free: cross(site, deck, clearance),
        model: site.model,
        deck,
        whole,
        clearance: clearance + LEAN * sd,
        ends,
        w: &site.w,
        rail: rail(site.project, deck),
    };
    let mut out = match deck.supports.manner {
        Manner::Frames => job.frames(lines),
        Manner::Legs => job.legs(lines),
        Manner::Ledgers => job.ledgers(lines),
    };
    if let Some(x) = joint {
        job.lips(x, &mut out);
    }
    out
}

impl Job<'_> {
    /// The depth of a rail as a value.
    fn deep(&self) -> Value {
        let rule = if self.rail == RAIL {
            "deck/rail"
        } else {
            "deck/bar"
        };
        Value::rule(rule, "rail", self.rail)
    }

    fn underside(&self) -> f64 {
        self.deck.underside.unwrap_or(0.0)
    }

    /// How high a lip is: as a strip is cut, or as a bar is.
    fn lip_high(&self) -> f64 {
        if self.rail == RAIL { LIP } else { self.rail }
    }

    fn thickness(&self) -> f64 {
        self.deck.supports.thickness
    }

    fn ground(&self) -> Footing<'_> {
        Footing {
            model: self.model,
            deck: self.deck,
            clearance: self.clearance,
            at: self.site.pointer(),
            w: *self.w,
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

    fn footprint(&self, x: f64, y0: f64, y1: f64) -> Region {
        let half = self.thickness() / 2.0;
        Region::rectangle(x - half, y0, x + half, y1)
    }

    fn blank(&self, id: String, letter: &'static str, name: &str, region: Region) -> Board {
        let role = match letter {
            "F" => "frame",
            "R" => "rail",
            "L" => "leg",
            "E" => "lip",
            _ => "ledger",
        };
        Board {
            name: name.into(),
            material: self.deck.supports.material.clone(),
            thickness: self.thickness(),
            then: vec!["pilot every screw into an edge".into()],
            way: Way::default(),
            ..Board::new(id, role, letter, region, Pose::across(0.0))
        }
    }

    /// From what is stood on up to the deck.
    fn height(&self, on: &Stand) -> Value {
        let under = self
            .site
            .choice("underside", "deck underside", self.underside());
        under - &on.height
    }

    /// Why a support at a line is as long across the bay as it is, where walls, things or the deck's own edges decide it.
    fn across(&self, x: f64, heights: &[f64], (y0, y1): (f64, f64)) -> Option<Measure> {
        let half = self.thickness() / 2.0;
        let x = (x - half, x + half);
        let end = |side: Side, out: f64| {
            let mut at = heights.iter();
            at.find_map(|z| self.free.why(side, x, *z, out, self.ends.clearance))
                .or_else(|| (self.ends.edge)(side, x, out))
        };
        let left = end(Side::Left, y1)?.named("left end from the centre line");
        let right = end(Side::Right, -y0)?.named("right end from it");
        Some(Measure::whole(Axis::U, "length", left + right))
    }

    /// What other furniture claims at a line below the deck, and what it has to keep free to be used.
    fn claimed(&self, x: f64) -> Vec<Claim> {
        let half = self.thickness() / 2.0 + BESIDE;
        let claims = self.site.others().map(|(_, c)| c);
        let each = claims.flat_map(|c| {
            let plans = std::iter::once(&c.plan).chain(&c.keeps);
            plans.map(move |plan| Claim {
                plan: plan.clone(),
                z: c.z,
                keeps: vec![],
            })
        });
        let here = each.filter(|c| {
            let (x0, _, x1, _) = c.plan.bounds();
            x + half > x0 && x - half < x1 && c.z.0 < self.underside()
        });
        here.collect()
    }

    /// The stretches across the bay that are claimed at a line between two heights.
    fn taken(&self, x: f64, z: (f64, f64)) -> Vec<(f64, f64)> {
        let all = self.claimed(x);
        let here = all.iter().filter(|c| c.z.0 < z.1 && c.z.1 > z.0);
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

    fn rail_at(&self, (i, k): (usize, usize), x: f64, (y0, y1): (f64, f64), z: &[f64]) -> Board {
        let id = match k {
            0 => format!("rail-{}", i + 1),
            k => format!("rail-{}-{}", i + 1, k + 1),
        };
        let mut rail = self.blank(
            id,
            "R",
            "rail",
            Region::rectangle(0.0, 0.0, y1 - y0, self.rail),
        );
        let corner = [x - self.thickness() / 2.0, y0, self.underside() - self.rail];
        rail.pose = Pose::across(0.0).from(corner);
        rail.way = Way::rail(y0, (y1 - y0, self.rail));
        rail.measures = self.across(x, z, (y0, y1)).into_iter().collect();
        rail.places = vec![format!("{} in", self.w.say(x))];
        rail
    }

    /// On both faces of the support at a joint, for a board that comes off: strips that the boards lie on, since half
    /// the support's thickness is too little to find in the dark.
    fn lips(&self, joint: f64, out: &mut Support) {
        let stands = out.boards.len();
        for (side, x) in [
            ("rear", joint - self.thickness()),
            ("front", joint + self.thickness()),
        ] {
            self.lip(side, (joint, x), stands, out);
        }
    }

    fn lip(&self, side: &str, (joint, x): (f64, f64), stands: usize, out: &mut Support) {
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
        let each = stands
            .into_iter()
            .map(free)
            .flat_map(|s| self.left_of(s, x, (top - self.lip_high(), top)));
        for (k, (y0, y1)) in each.enumerate() {
            let shape = Region::rectangle(0.0, 0.0, y1 - y0, self.lip_high());
            let mut lip = self.blank(
                format!("lip-{side}-{}", k + 1),
                "E",
                &format!("lip for the {side} board"),
                shape,
            );
            lip.pose = Pose::across(0.0).from([x - half, y0, top - self.lip_high()]);
            lip.measures = self.across(x, &heights, (y0, y1)).into_iter().collect();
            lip.way = Way::rail(y0, (y1 - y0, self.lip_high()));
            out.plan.push(self.footprint(x, y0, y1));
            out.boards.push(lip);
        }
    }

    fn legs(&self, lines: &[f64]) -> Support {
        let mut out = Support::default();
        for (i, x) in lines.iter().enumerate() {
            let Some((y0, y1)) = self.reach(*x) else {
                continue;
            };
            let under = self.underside() - self.rail;
            // A hull is narrower at the rail's lower edge than at the deck.
            let half = self.thickness() / 2.0;
            let heights = self.free.heights(under.max(1.0), self.underside() - 0.3);
            let (y0, y1) = heights
                .iter()
                .filter_map(|z| self.free.across((x - half, x + half), *z))
                .fold((y0, y1), |e, s| (e.0.max(s.0), e.1.min(s.1)));
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
                    "L",
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
                    "{} in, {place}, on the {}",
                    self.w.say(*x),
                    on.what
                )];
                leg.way = Way::leg();
                let long = self.height(&on) - self.deep();
                leg.measures = vec![Measure::whole(Axis::U, "length", long)];
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
