//! What carries a deck: frames of ply on edge, rails on legs, or ledgers with rails between them.

mod frames;
mod ledgers;
mod legs;
mod lines;
mod lips;

pub use self::lines::onto_ledgers;
use super::ground::{Footing, Stand};
use crate::furniture::Site;
use crate::furniture::built::{Axis, Board, Claim, Measure, Pose};
use crate::furniture::cross::Cross;
use crate::furniture::platform::gaps::{BESIDE, BORDER};
use crate::furniture::platform::parting::bounds;
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
/// A window lower or narrower than this is not worth cutting, mm.
const LEAST_WINDOW: f64 = 60.0;
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
    /// What is kept for the doubt that most of the walls do not exceed.
    pub doubt: &'a Value,
    /// Why the deck's edge lies so far out on a side, at a stretch along the bay.
    pub edge: &'a (dyn Fn(Side, (f64, f64), f64) -> Option<Value> + Sync),
    /// Why the deck ends where it does at the front, or at the rear.
    pub along: &'a (dyn Fn(bool) -> Option<Value> + Sync),
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
    joints: &[f64],
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
    let stands = out.boards.len();
    for (n, x) in joints.iter().enumerate() {
        job.lips((n, *x), stands, &mut out);
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

    /// How thick a ledger is as a value: as a bar is, or as the sheet.
    fn thick(&self) -> Value {
        let t = self.thickness();
        if self.rail == RAIL {
            self.site.choice("supports/thickness", "ledger", t)
        } else {
            Value::rule("deck/bar", "ledger", t)
        }
    }

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
            at: self.site.pointer(),
            w: *self.w,
        }
    }

    /// Height of the floor at `x` on the centre line.
    fn floor(&self, x: f64) -> f64 {
        self.ground().floor(x, 0.0)
    }

    /// Stretch of the deck across the bay over a support at `x`: the narrowest over its thickness.
    fn reach(&self, x: f64) -> Option<(f64, f64)> {
        let half = self.thickness() / 2.0;
        let (_, y0, _, y1) = bounds(self.whole);
        let band = Region::rectangle(x - half, y0 - 1.0, x + half, y1 + 1.0);
        let parts = self.whole.iter().flat_map(|r| r.and(&band));
        let parts = parts.map(|r| (r.bounds().1, r.bounds().3));
        let widest = |all: &mut dyn Iterator<Item = (f64, f64)>| {
            all.max_by(|a, b| (a.1 - a.0).total_cmp(&(b.1 - b.0)))
        };
        let whole = widest(&mut parts.into_iter())?;
        // Exactly at its faces: an explanation ends there too.
        let ends = [x - half, x + half]
            .into_iter()
            .filter_map(|x| widest(&mut self.whole.iter().flat_map(|r| r.line(x))));
        Some(ends.fold(whole, |e, s| (e.0.max(s.0), e.1.min(s.1))))
    }

    /// The stretch of a rail at `x`: under the deck, and free at every one of the heights. `None` where there is no room for one.
    fn rail_reach(&self, x: f64, heights: &[f64]) -> Option<(f64, f64)> {
        let half = self.thickness() / 2.0;
        let free = heights
            .iter()
            .map(|z| self.free.across((x - half, x + half), *z));
        let free: Option<Vec<(f64, f64)>> = free.collect();
        let reach = self.reach(x)?;
        let all = free?.into_iter();
        Some(all.fold(reach, |e, s| (e.0.max(s.0), e.1.min(s.1))))
    }

    fn footprint(&self, x: f64, y0: f64, y1: f64) -> Region {
        let half = self.thickness() / 2.0;
        Region::rectangle(x - half, y0, x + half, y1)
    }

    fn blank(&self, id: String, role: &'static str, name: &str, region: Region) -> Board {
        let letter = match role {
            "frame" => "F",
            "rail" => "R",
            "leg" => "L",
            "lip" => "E",
            _ => "G",
        };
        let material = self.site.project.material(&self.deck.supports.material);
        let metal = material.and_then(|m| m.bar).is_some_and(|b| b.metal);
        let mut then: Vec<String> = match metal {
            true => vec!["drill where it is marked, take the burr off, paint what is bare".into()],
            false => vec!["pilot every screw into an edge".into()],
        };
        if metal && role != "leg" {
            then.push("this face is the leg that stands upright; the other lies level at its upper edge, under the deck".into());
        }
        Board {
            name: name.into(),
            material: self.deck.supports.material.clone(),
            thickness: self.thickness(),
            then,
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

    /// What is done to a foot on a slope.
    fn planed(&self, on: &Stand) -> Option<String> {
        /// Less than this is taken up by the feel of it, mm (a choice).
        const FELT: f64 = 0.5;
        (on.falls >= FELT).then(|| {
            let by = self.w.say(on.falls);
            format!(
                "the {} slopes: plane the foot {by} over its thickness, longer where it is lower",
                on.what
            )
        })
    }

    /// Why a support at a line is as long across the bay as it is, where walls, things or the deck's own edges decide it.
    fn across(&self, x: f64, heights: &[f64], ends: (f64, f64)) -> Option<Measure> {
        self.across_to(x, heights, ends, &|_, _| None)
    }

    /// The same, where something else may decide it that `other` explains: why it lies so far out on that side.
    fn across_to(
        &self,
        x: f64,
        heights: &[f64],
        (y0, y1): (f64, f64),
        other: &dyn Fn(Side, f64) -> Option<Value>,
    ) -> Option<Measure> {
        let half = self.thickness() / 2.0;
        let x = (x - half, x + half);
        let end = |side: Side, out: f64| {
            let mut at = heights.iter();
            at.find_map(|z| self.free.why(side, x, *z, out, self.ends.clearance))
                .or_else(|| (self.ends.edge)(side, x, out))
                .or_else(|| other(side, out))
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
            "rail",
            "rail",
            Region::rectangle(0.0, 0.0, y1 - y0, self.rail),
        );
        let corner = [x - self.thickness() / 2.0, y0, self.underside() - self.rail];
        rail.pose = Pose::across(0.0).from(corner);
        rail.way = Way::rail(y0, (y1 - y0, self.rail));
        rail.measures = self.across(x, z, (y0, y1)).into_iter().collect();
        rail.measures
            .push(Measure::whole(Axis::V, "height", self.deep()));
        rail.places = vec![format!("{} from the threshold", self.w.say(x))];
        rail
    }
}
